package service

import (
	"fmt"
	"slices"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
)

// Room is whether a guest would fit on a host, and how many like it.
type Room struct {
	Host    *Host
	HowMany int
	Unknown bool   // whether any fits
	Why     string // where none fits, or where it is not certain
}

// RoomFor tells for each running host how many guests of that size fit on it. without is
// a host that is gone, whose guests are on the others then; nil for none. A size of
// nothing asks for the threads alone.
func (s *Services) RoomFor(memory int64, vcpus int, without *Host, steps int) []Room {
	left := map[*Host]int64{}
	for _, h := range s.hosts {
		left[h], _ = h.Left()
	}
	if without != nil {
		for _, m := range s.Without(without, false, steps).Moves {
			if need := m.Guest.Takes(); need != nil {
				left[m.To] -= *need
				left[m.Guest.Host] += *need
			}
		}
	}
	var list []Room
	for _, h := range s.hosts {
		if h != without && h.State == lab.Running {
			list = append(list, roomOn(h, left[h], memory, vcpus))
		}
	}
	return list
}

func roomOn(h *Host, left, memory int64, vcpus int) Room {
	r := Room{Host: h}
	switch n := h.Lanes(); {
	case h.Engine == lab.PlainMachine:
		r.Why = h.Title() + " runs no guests"
	case h.Fitted.Known == 0:
		r.Unknown, r.Why = true, "the memory of "+h.Title()+" is not known"
	case vcpus > 0 && n == 0:
		r.Unknown, r.Why = true, "the cores of "+h.Title()+" are not known"
	case vcpus > n && n > 0:
		r.Why = fmt.Sprintf("%d vCPUs are more than its %d threads", vcpus, n)
	case memory > left:
		r.Why = fmt.Sprintf("%s is left, and it takes %s", Memory(max(left, 0)), Memory(memory))
	default:
		r.HowMany = int(left / max(memory, 1))
		if h.Takes.Unknown > 0 {
			r.Why = fmt.Sprintf("at most: how much %d of its guests take is not known", h.Takes.Unknown)
		}
	}
	return r
}

// Mean is what the running guests straight on hosts take and have on average, of those it
// is known of; ok is false where it is known of none.
func (s *Services) Mean() (memory int64, vcpus int, ok bool) {
	var takes, has gear.Amount
	n, m := int64(0), int64(0)
	for _, h := range s.hosts {
		for _, g := range h.Guests {
			if !g.Runs() || g.Count != nil {
				continue
			}
			if need := g.Takes(); need != nil {
				takes.Add(need)
				n++
			}
			if g.VCPUs != nil {
				has.AddInt(g.VCPUs)
				m++
			}
		}
	}
	if n == 0 {
		return 0, 0, false
	}
	if m > 0 {
		vcpus = int((has.Known + m - 1) / m)
	}
	return takes.Known / n, vcpus, true
}

// Claw is what a guest could give back: it is given far more than it uses.
type Claw struct {
	Guest *Guest
	Back  int64
}

// spare is how much more than it uses a guest is left: a quarter.
const spare = 1.25

// ClawBack lists the running guests that are given more than twice what they use, those
// that could give back most first. They are left a quarter more than they use, in whole
// GB; what comes to less than 1 GB is left out.
func (s *Services) ClawBack() []Claw {
	var list []Claw
	for g := range s.Each() {
		given, uses := g.Guesting.Given, g.Guesting.Uses
		if !g.Runs() || given == nil || uses == nil || *given <= 2**uses {
			continue
		}
		const gb = 1 << 30
		leave := (int64(float64(*uses)*spare) + gb - 1) / gb * gb
		if back := *given - leave; back >= gb {
			list = append(list, Claw{g, back})
		}
	}
	slices.SortStableFunc(list, func(a, b Claw) int { return int(max(min(b.Back-a.Back, 1), -1)) })
	return list
}

// Sum is what hosts come to together.
type Sum struct {
	Hosts  int
	Fitted gear.Amount
	Kept   int64
	Takes  gear.Amount
	Used   gear.Amount
	Cores  gear.Amount
	VCPUs  gear.Amount
	Guests int
}

// Taken is what the hosts keep, and what their guests take.
func (sum Sum) Taken() gear.Amount {
	return gear.Amount{Known: sum.Kept + sum.Takes.Known, Unknown: sum.Takes.Unknown}
}

func (sum *Sum) add(h *Host) {
	sum.Hosts++
	sum.Fitted.Join(h.Fitted)
	sum.Kept += h.Kept()
	sum.Takes.Join(h.Takes)
	sum.Used.Join(h.Used)
	sum.Cores.Join(h.Cores)
	sum.VCPUs.Join(h.VCPUs)
	for _, g := range h.Guests {
		sum.Guests += g.Many()
	}
}

// Sum adds up the hosts that count.
func (s *Services) Sum(counts func(device lab.ID) bool) Sum {
	var sum Sum
	for _, h := range s.hosts {
		if counts(h.ID) {
			sum.add(h)
		}
	}
	return sum
}

// Shared is what the hosts of a cluster come to, with the guests that nobody lists.
type Shared struct {
	lab.Cluster
	Sum
}

// Clusters are those of a lab with what their hosts come to together.
func (s *Services) Clusters() []Shared {
	var list []Shared
	for c := range lab.Each[lab.Cluster](s.lab) {
		sum := Shared{Cluster: c}
		for _, id := range c.Hosts {
			sum.add(s.of[id])
		}
		if c.Guests != nil {
			sum.Sum.Guests += *c.Guests
			if c.Given == nil {
				sum.Takes.Unknown += *c.Guests
			}
		}
		if c.Given != nil {
			sum.Takes.Known += *c.Given
		}
		list = append(list, sum)
	}
	return list
}
