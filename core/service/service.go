// Package service works out what runs where and whether there is room for it: what each
// host has given to its guests of what is fitted, what would fit where, and where the
// guests of a host go when it is gone.
//
// Memory is bytes. A guest takes of its host what it is given, or what it uses where
// nobody said what it is given; what is known of neither is counted apart and is never
// nothing. A guest in a guest takes nothing of the host that its own host has not taken.
package service

import (
	"iter"
	"slices"
	"sync"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/network"
)

// Services is what runs in a lab, worked out once and then only read.
type Services struct {
	lab   *lab.Lab
	hosts []*Host
	loose []*Guest          // that run on no host
	of    map[lab.ID]*Host  // by device
	links map[int32][]int32 // of hosts, by their number in the wiring
	lacks map[legAt]bool
	net   *network.Network

	elsewhere func() map[lab.ID]lab.ID
}

// Of is what runs in a lab.
func Of(l *lab.Lab) *Services { return lab.Derived(l, newServices) }

// Host is a device that guests run on, and what it has given to them.
type Host struct {
	lab.Device
	Engine  lab.Engine // what it runs, or what its guests tell that it runs; "" while unknown
	Cluster *lab.Cluster
	Fitted  gear.Amount // memory
	Cores   gear.Amount
	Threads gear.Amount
	Given   gear.Amount // to guests that run straight on it
	Used    gear.Amount // by those, of what is said of their use
	Takes   gear.Amount // by those: what they are given, or else what they use
	VCPUs   gear.Amount // of those
	Guests  []*Guest    // straight on it, in their order, running or not

	lots []lot // of its running guests
}

// Guest is a VM or a container with what runs in it.
type Guest struct {
	lab.Device
	lab.Guesting // with what its template says
	Host         *Host
	Up           *Guest // that it runs in; nil straight on its host
	Inside       []*Guest
	Disks        []lab.Dataset
	Services     []lab.Service

	legs    []lab.Leg
	matters lab.Worth
}

// Legs are a guest's ends in the network.
func (g *Guest) Legs() []lab.Leg { return g.legs }

// Runs reports whether a guest runs: it does, and so does what it is in.
func (g *Guest) Runs() bool {
	for ; g != nil; g = g.Up {
		if g.State != lab.Running {
			return false
		}
	}
	return true
}

// Takes is the memory that a guest takes of what it runs on: what it is given, or else
// what it uses; nil while neither is known.
func (g *Guest) Takes() *int64 {
	if g.Guesting.Given != nil {
		return g.Guesting.Given
	}
	return g.Guesting.Uses
}

// Left is the memory of a host that is given to nobody and that it does not keep, below
// nothing where more is given; ok is false while what is fitted is unknown.
func (h *Host) Left() (bytes int64, ok bool) {
	if h.Fitted.Known == 0 {
		return 0, false
	}
	return h.Fitted.Known - h.Taken().Known, true
}

// Taken is the memory of a host that it keeps, and that its guests take.
func (h *Host) Taken() gear.Amount {
	return gear.Amount{Known: h.Kept() + h.Takes.Known, Unknown: h.Takes.Unknown}
}

// Kept is what a host keeps for itself, as far as that is said.
func (h *Host) Kept() int64 {
	if h.Keeps == nil {
		return 0
	}
	return *h.Keeps
}

// Lanes is how many threads a host has, or its cores where nobody said its threads; 0
// while neither is known.
func (h *Host) Lanes() int { return int(max(h.Threads.Known, h.Cores.Known)) }

func newServices(l *lab.Lab) *Services {
	s := &Services{lab: l, of: map[lab.ID]*Host{}, net: network.Of(l), lacks: map[legAt]bool{}}
	s.elsewhere = sync.OnceValue(s.findElsewhere)
	disks, in := map[lab.ID][]lab.Dataset{}, map[lab.ID][]lab.Service{}
	for d := range lab.Each[lab.Dataset](l) {
		if d.Guest != "" {
			disks[d.Guest] = append(disks[d.Guest], d)
		}
	}
	for v := range lab.Each[lab.Service](l) {
		in[v.In] = append(in[v.In], v)
	}
	cluster := map[lab.ID]*lab.Cluster{}
	for c := range lab.Each[lab.Cluster](l) {
		for _, id := range c.Hosts {
			cluster[id] = &c
		}
	}
	on := map[lab.ID][]*Guest{} // straight on a device or in a guest; "" for nowhere
	for d := range lab.Guests(l) {
		at := lab.ID("")
		if d.At != nil {
			at = d.At.Device
		}
		on[at] = append(on[at], &Guest{Device: d, Guesting: l.MadeOf(d), Disks: disks[d.ID], Services: in[d.ID], legs: d.Legs()})
	}
	for at, list := range on {
		if at != "" {
			slices.SortStableFunc(list, func(a, b *Guest) int { return a.At.Order - b.At.Order })
		}
	}
	var placed func(list []*Guest, h *Host, up *Guest) []*Guest
	placed = func(list []*Guest, h *Host, up *Guest) []*Guest {
		for _, g := range list {
			g.Host, g.Up = h, up
			g.Inside = placed(on[g.Device.ID], h, g)
			g.matters = g.most()
		}
		return list
	}
	s.loose = placed(on[""], nil, nil)
	for d := range lab.Things(l) {
		guests, c := on[d.ID], cluster[d.ID]
		if guests == nil && d.Runs == "" && c == nil {
			continue
		}
		h := &Host{Device: d, Cluster: c}
		h.Guests = placed(guests, h, nil)
		h.sum(l)
		s.hosts, s.of[d.ID] = append(s.hosts, h), h
	}
	for _, h := range s.hosts {
		h.lots = lotsOf(h)
	}
	s.linked()
	return s
}

// sum adds up what is fitted, and what is given to what runs.
func (h *Host) sum(l *lab.Lab) {
	is := gear.TotalsOf(l, h.Device)
	h.Fitted, h.Cores, h.Threads = is.MemoryBytes, is.Cores, is.Threads
	h.Engine = h.Runs
	for _, g := range h.Guests {
		if h.Runs == "" && (h.Engine == "" || g.Kind == lab.VM) {
			h.Engine = map[bool]lab.Engine{true: lab.Hypervisor, false: lab.Containers}[g.Kind == lab.VM]
		}
		if !g.Runs() {
			continue
		}
		h.Given.Add(g.Guesting.Given)
		h.Used.Add(g.Guesting.Uses)
		h.Takes.Add(g.Takes())
		h.VCPUs.AddInt(g.VCPUs)
	}
}

// Hosts are those of a lab, in the order of its devices.
func (s *Services) Hosts() []*Host { return s.hosts }

// Host is a device as a host; ok is false where it is none.
func (s *Services) Host(id lab.ID) (h *Host, ok bool) {
	h, ok = s.of[id]
	return h, ok
}

// Loose are the guests that run on no host.
func (s *Services) Loose() []*Guest { return s.loose }

// Each goes through all guests, those in others behind what they are in, and those that
// run on no host last.
func (s *Services) Each() iter.Seq[*Guest] {
	return func(yield func(*Guest) bool) {
		for _, h := range s.hosts {
			if !eachIn(h.Guests, yield) {
				return
			}
		}
		eachIn(s.loose, yield)
	}
}

func eachIn(list []*Guest, yield func(*Guest) bool) bool {
	for _, g := range list {
		if !yield(g) || !eachIn(g.Inside, yield) {
			return false
		}
	}
	return true
}

// Guest finds a guest; ok is false where there is none.
func (s *Services) Guest(id lab.ID) (g *Guest, ok bool) {
	if id == "" {
		return nil, false // which is asked of most, whose network is their own
	}
	d, _ := lab.Find[lab.Device](s.lab, id)
	if !d.IsGuest() {
		return nil, false
	}
	list := s.loose
	if host, ok := s.lab.HostOf(d); ok {
		list = s.of[host.ID].Guests
	}
	eachIn(list, func(one *Guest) bool {
		if one.Device.ID == id {
			g = one
		}
		return g == nil
	})
	return g, g != nil
}

// Largest is the host with most memory of those whose running guests would have to go
// elsewhere, the first of equal ones; nil where there is none.
func (s *Services) Largest() *Host {
	var largest *Host
	for _, h := range s.hosts {
		if h.State == lab.Running && slices.ContainsFunc(h.Guests, (*Guest).Runs) && (largest == nil || h.Fitted.Known > largest.Fitted.Known) {
			largest = h
		}
	}
	return largest
}

// Matters is how much a guest matters: as much as is said of it, or as the most important
// of the services in it and of what runs in it; "" where nobody said.
func (g *Guest) Matters() lab.Worth { return g.matters }

func (g *Guest) most() lab.Worth {
	most := g.Guesting.Worth
	raise := func(w lab.Worth) {
		if w != "" && (most == "" || w.Rank() < most.Rank()) {
			most = w
		}
	}
	for _, v := range g.Services {
		if v.State == lab.Running {
			raise(v.Worth)
		}
	}
	for _, in := range g.Inside {
		if in.State == lab.Running {
			raise(in.Matters())
		}
	}
	return most
}
