package service

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Steps are as many as a placement is given where nobody waits for more: about a second.
const Steps = 3_000_000

// Placement is where the running guests of a host go once it is gone.
type Placement struct {
	Gone  *Host
	Moves []Move // those of the host in the order of their importance, then what makes room for them
	Dark  []Dark
	Exact bool   // there is no better one
	Bound string // where it is not sure that there is none: what one could have at most
}

// Move is a guest that goes to another host.
type Move struct {
	Guest *Guest
	To    *Host
	By    lab.Elsewhere
}

// Dark is a guest that stays dark.
type Dark struct {
	Guest *Guest
	Why   string
}

// Starts is how many of the guests of the host that is gone start elsewhere, and of how
// many: a lot that nobody lists counts as many as it is.
func (p Placement) Starts() (n, of int) {
	for _, m := range p.Moves {
		if m.Guest.Host == p.Gone {
			n += m.Guest.Many()
		}
	}
	of = n
	for _, d := range p.Dark {
		of += d.Guest.Many()
	}
	return n, of
}

// lot is guests that only go together: containers that share the network of another, and
// that one.
type lot struct {
	guests []*Guest
	load
	unknown *Guest // of which nobody said what memory it takes
}

// Without works out where the guests of a host go when it is gone: as many of the
// household's as there is room for, then of the lab's and so on, with as few moves as
// that takes. A guest of another host is moved, by hand, only where that makes room for
// more. planned tells that the host is taken out on purpose: then what is on its drives
// is moved before. Where the steps are used up the answer is the best that was found.
func (s *Services) Without(gone *Host, planned bool, steps int) Placement {
	hosts := s.takers(gone)
	p := Placement{Gone: gone, Exact: true}
	var lots []lot
	for _, l := range gone.lots {
		l.allowed = nil
		for _, to := range hosts {
			l.allowed = append(l.allowed, s.takes(l, to, planned))
		}
		if l.unknown != nil || !slices.Contains(l.allowed, true) {
			p.dark(l, s.tied(l, hosts, planned))
			continue
		}
		lots = append(lots, l)
	}
	free := make([]int64, len(hosts))
	for i, h := range hosts {
		free[i], _ = h.Left()
	}
	loads := make([]load, len(lots))
	for i, l := range lots {
		loads[i] = l.load
	}
	at, count := pack(loads, free, &steps)
	var moved []stayer
	movable := s.stayers(hosts)
	if most := mostOf(loads, free, movable); slices.Compare(count, most) < 0 {
		at, moved, p.Exact = makeRoom(movable, loads, free, at, count, most, &steps)
		if !p.Exact {
			p.Bound = boundWords(most)
		}
	}
	for i, h := range at {
		if h < 0 {
			continue
		}
		for _, g := range lots[i].guests {
			by := lab.ByHand
			if g.Elsewhere == lab.ByItself && gone.Cluster != nil {
				by = lab.ByItself
			}
			p.Moves = append(p.Moves, Move{g, hosts[h], by})
		}
		free[h] -= lots[i].need
	}
	for _, m := range moved {
		p.Moves = append(p.Moves, Move{m.guest, hosts[m.to], lab.ByHand})
		free[m.to] -= m.need
		free[m.home] += m.need
	}
	for i, h := range at {
		if h < 0 {
			p.dark(lots[i], s.full(lots[i], hosts, free))
		}
	}
	slices.SortStableFunc(p.Moves, func(a, b Move) int { return p.order(a.Guest) - p.order(b.Guest) })
	slices.SortStableFunc(p.Dark, func(a, b Dark) int { return a.Guest.Matters().Rank() - b.Guest.Matters().Rank() })
	return p
}

// boundWords says how many could start at most, of those that matter most first.
func boundWords(most []int) string {
	of := []string{"of the household", "of the lab", "that nobody said of how much they matter", "toys"}
	var said []string
	for rank, n := range most {
		if n > 0 {
			said = append(said, fmt.Sprintf("%d %s", n, of[rank]))
		}
	}
	return "the best that was found; at most " + inFew(said) + " could start"
}

// order has the guests of the host that is gone first, those that matter most before.
func (p Placement) order(g *Guest) int {
	if g.Host != p.Gone {
		return ranks
	}
	return g.Matters().Rank()
}

func (p *Placement) dark(l lot, why string) {
	for _, g := range l.guests {
		p.Dark = append(p.Dark, Dark{g, why})
	}
}

// takers are the hosts that are asked to take a host's guests: the others of its cluster,
// and where it is in none those that run the same.
func (s *Services) takers(gone *Host) []*Host {
	var list []*Host
	for _, h := range s.hosts {
		switch {
		case h == gone || h.State != lab.Running:
		case gone.Cluster != nil && slices.Contains(gone.Cluster.Hosts, h.ID), gone.Cluster == nil && h.Engine == gone.Engine:
			list = append(list, h)
		}
	}
	return list
}

// lotsOf are the running guests straight on a host, those together that only go together.
func lotsOf(h *Host) []lot {
	var list []lot
	of := map[lab.ID]int{}
	var running []*Guest
	for _, g := range h.Guests {
		if g.Runs() {
			running = append(running, g)
		}
	}
	var lotOf func(g *Guest) int
	lotOf = func(g *Guest) int {
		if n, known := of[g.Device.ID]; known {
			return n
		}
		owner := slices.IndexFunc(running, func(o *Guest) bool { return o.Device.ID == g.NetworkOf })
		if owner < 0 {
			of[g.Device.ID] = len(list)
			list = append(list, lot{load: load{rank: ranks - 1}})
		} else {
			of[g.Device.ID] = lotOf(running[owner])
		}
		return of[g.Device.ID]
	}
	for _, g := range running {
		l := &list[lotOf(g)]
		l.guests = append(l.guests, g)
		l.rank = min(l.rank, g.Matters().Rank())
		if need := g.Takes(); need != nil {
			l.need += *need
		} else {
			l.unknown = g
		}
	}
	return list
}

// takes reports whether a host would run a lot if it had the memory.
func (s *Services) takes(l lot, to *Host, planned bool) bool {
	if to.Fitted.Known == 0 {
		return false
	}
	return !slices.ContainsFunc(l.guests, func(g *Guest) bool {
		return slices.ContainsFunc(append(s.ties(g, to, planned), s.goesIn(g, to)...), func(c MoveCheck) bool { return !c.Held })
	})
}

// tied says why no host takes a lot whatever room it has.
func (s *Services) tied(l lot, hosts []*Host, planned bool) string {
	if len(hosts) == 0 {
		of := l.guests[0].Host
		if of.Cluster != nil {
			return "no other host of " + of.Cluster.Title() + " runs"
		}
		return "no other host runs " + map[bool]string{true: "VMs", false: "the same"}[of.Engine == lab.Hypervisor]
	}
	for _, g := range l.guests {
		for _, c := range s.ties(g, hosts[0], planned) {
			return c.Say // which is the same with every host
		}
	}
	if l.unknown != nil {
		return fmt.Sprintf("how much memory %s takes is not known", l.unknown.Title())
	}
	var said []string
	for _, to := range hosts {
		if to.Fitted.Known == 0 {
			said = append(said, "the memory of "+to.Title()+" is not known")
			continue
		}
		for _, g := range l.guests {
			if i := slices.IndexFunc(s.goesIn(g, to), func(c MoveCheck) bool { return !c.Held }); i >= 0 {
				said = append(said, s.goesIn(g, to)[i].Say)
				break
			}
		}
	}
	return inFew(said)
}

// full says why there is no room for a lot.
func (s *Services) full(l lot, hosts []*Host, free []int64) string {
	var said []string
	for i, to := range hosts {
		switch {
		case l.allowed[i]:
			said = append(said, to.Title()+" has "+Memory(max(free[i], 0))+" left")
			continue
		case to.Fitted.Known == 0:
			said = append(said, "the memory of "+to.Title()+" is not known")
			continue
		}
		for _, g := range l.guests {
			if c := slices.IndexFunc(s.goesIn(g, to), func(c MoveCheck) bool { return !c.Held }); c >= 0 {
				said = append(said, s.goesIn(g, to)[c].Say)
				break
			}
		}
	}
	takes := "takes " + Memory(l.need)
	if len(l.guests) > 1 {
		takes += " with what shares its network"
	}
	return takes + "; " + inFew(said)
}

// inFew joins what is said, of many the first.
func inFew(said []string) string {
	const most = 4
	said = slices.Compact(said)
	if n := len(said) - most; n > 1 {
		return strings.Join(said[:most], ", ") + fmt.Sprintf(" and %d more", n)
	}
	return strings.Join(said, ", ")
}

// stayer is a guest of a host that stays and that may be moved to make room.
type stayer struct {
	guest *Guest
	load
	home, to int
}

// stayers are all of those.
func (s *Services) stayers(hosts []*Host) []stayer {
	var list []stayer
	for i, h := range hosts {
		for _, l := range h.lots {
			if l.unknown != nil || l.need == 0 || len(l.guests) > 1 {
				continue
			}
			for j, to := range hosts {
				// Its host runs, so that what is on its drives can be moved with it.
				l.allowed = append(l.allowed, j != i && s.takes(l, to, true))
			}
			if slices.Contains(l.allowed, true) {
				l.rank = mustGo
				list = append(list, stayer{l.guests[0], l.load, i, -1})
			}
		}
	}
	return list
}

// mostOf is what the counts cannot exceed however guests are moved.
func mostOf(loads []load, free []int64, movable []stayer) []int {
	room, all := slices.Clone(free), int64(0) // with all moved away that can be
	for _, l := range movable {
		room[l.home] += l.need
	}
	for _, f := range free {
		all += max(f, 0)
	}
	sorted := slices.Clone(loads)
	slices.SortStableFunc(sorted, func(a, b load) int {
		if a.rank != b.rank {
			return a.rank - b.rank
		}
		return int(max(min(b.need-a.need, 1), -1))
	})
	count := make([]int, ranks)
	fill(sorted, all, count, func(l load) bool {
		for h := range room {
			if l.allowed[h] && room[h] >= l.need {
				return true
			}
		}
		return false
	})
	return count
}

// makeRoom looks for guests of other hosts whose move makes room for more: first one,
// then two and so on, until as many have gone as could at most or the steps are used up.
func makeRoom(movable []stayer, loads []load, free []int64, at, count, most []int, steps *int) (now []int, moved []stayer, exact bool) {
	now = at
	for k := 1; k <= len(movable) && slices.Compare(count, most) < 0; k++ {
		choose(len(movable), k, func(chosen []int) bool {
			with, without := slices.Clone(loads), slices.Clone(free)
			for _, m := range chosen {
				with = append(with, movable[m].load)
				without[movable[m].home] += movable[m].need
			}
			if placed, n := pack(with, without, steps); n != nil && slices.Compare(n, count) > 0 {
				now, count, moved = placed[:len(loads)], n, nil
				for i, m := range chosen {
					movable[m].to = placed[len(loads)+i]
					moved = append(moved, movable[m])
				}
			}
			return *steps > 0 && slices.Compare(count, most) < 0
		})
		if *steps <= 0 {
			return now, moved, slices.Compare(count, most) == 0
		}
	}
	return now, moved, true
}

// choose goes through the ways to take k of n, in their order, until do returns false.
func choose(n, k int, do func([]int) bool) {
	chosen := make([]int, k)
	for i := range chosen {
		chosen[i] = i
	}
	for do(chosen) {
		i := k - 1
		for i >= 0 && chosen[i] == n-k+i {
			i--
		}
		if i < 0 {
			return
		}
		chosen[i]++
		for j := i + 1; j < k; j++ {
			chosen[j] = chosen[j-1] + 1
		}
	}
}
