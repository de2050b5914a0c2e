package power

import (
	"slices"

	"levelstaff/core/lab"
)

// Above lists what feeds a node, directly or not, nearest first.
func (g *Grid) Above(n int32) []int32 {
	var list []int32
	seen := map[int32]bool{n: true}
	for queue := []int32{n}; len(queue) > 0; queue = queue[1:] {
		for _, e := range g.nodes[queue[0]].in {
			if from := g.feeds[e].From; !seen[from] {
				seen[from] = true
				list = append(list, from)
				queue = append(queue, from)
			}
		}
	}
	slices.SortFunc(list, func(a, b int32) int { return int(g.nodes[b].rank - g.nodes[a].rank) })
	return list
}

// SharedBy is the nearest thing that all the leads that feed a node go through, where it
// has several; ok is false where they have nothing in common.
func (g *Grid) SharedBy(n int32) (at int32, ok bool) {
	in := slices.DeleteFunc(slices.Clone(g.nodes[n].in), func(e int32) bool { return g.feeds[e].By != byLead })
	if len(in) < 2 {
		return 0, false
	}
	count := map[int32]int{}
	for _, e := range in {
		from := g.feeds[e].From
		for _, up := range append(g.Above(from), from) {
			count[up]++
		}
	}
	best := int32(-1)
	for up, times := range count {
		if times == len(in) && (best < 0 || g.nodes[up].rank > g.nodes[best].rank) {
			best = up
		}
	}
	return best, best >= 0
}

// Holds reports whether a node goes on, for a while at least, when all circuits fail: what
// is fed by the battery of a UPS does, and what has one itself.
func (g *Grid) Holds(n int32) bool {
	if g.nodes[n].battery && !g.nodes[n].Kind.Feeder() {
		return true
	}
	live := int32(0)
	for _, e := range g.nodes[n].in {
		if f := &g.feeds[e]; f.Held || g.nodes[f.From].Kind != UPSNode && g.Holds(f.From) {
			live++
		}
	}
	return len(g.nodes[n].in) > 0 && live >= g.nodes[n].need
}

// Supply is a power inlet of a device.
type Supply struct {
	Port string
	Fed  bool
}

// Supplies are the power inlets of a device that are documented, and how many it needs.
type Supplies struct {
	List  []Supply
	Needs int
}

// Loose are the ports of those that are plugged in nowhere.
func (s Supplies) Loose() []string {
	var list []string
	for _, one := range s.List {
		if !one.Fed {
			list = append(list, one.Port)
		}
	}
	return list
}

// Fed is how many are plugged in.
func (s Supplies) Fed() int { return len(s.List) - len(s.Loose()) }

// OneLeg reports whether there are several, of which one is plugged in.
func (s Supplies) OneLeg() bool { return len(s.List) > 1 && s.Fed() == 1 }

// Supplies are those of a node; a lead whose port nobody knows is in one of them.
func (g *Grid) Supplies(n int32) Supplies {
	is := &g.nodes[n]
	if is.Device == nil {
		return Supplies{}
	}
	fed := map[string]bool{}
	loose := 0
	ports := g.lab.PortsOf(*is.Device)
	for _, e := range is.in {
		if f := &g.feeds[e]; f.By == byLead {
			if _, known := ports.Index(f.In); !known {
				loose++
			}
			fed[f.In] = true
		}
	}
	s := Supplies{Needs: 1}
	for i := range ports.Len() {
		if p := ports.At(i); p.Family == lab.Inlet {
			if !fed[p.Key] && loose > 0 {
				loose--
				fed[p.Key] = true
			}
			s.List = append(s.List, Supply{p.Key, fed[p.Key]})
		}
	}
	if k := g.lab.SpecOf(*is.Device).SuppliesNeeded; k != nil {
		s.Needs = max(1, *k)
	}
	return s
}

// Outlet is an outlet of a feeder, with its feed where something hangs on it.
type Outlet struct {
	lab.Port
	Feed int32 // -1 where it is free
}

// Outlets are the outlets of a feeder, in their order.
func (g *Grid) Outlets(n int32) []Outlet {
	is := &g.nodes[n]
	if is.Device == nil {
		return nil
	}
	by := map[string]int32{}
	for _, e := range is.out {
		by[g.feeds[e].Out] = e
	}
	var list []Outlet
	ports := g.lab.PortsOf(*is.Device)
	for i := range ports.Len() {
		p := ports.At(i)
		if p.Family != lab.Outlet {
			continue
		}
		o := Outlet{p, -1}
		if e, used := by[p.Key]; used {
			o.Feed = e
			delete(by, p.Key)
		}
		list = append(list, o)
	}
	return list
}

// Feeding are the circuits and the UPSs that a node hangs on, the nearest of each of its
// supplies.
func (g *Grid) Feeding(n int32) []int32 {
	var list []int32
	var up func(n int32)
	up = func(n int32) {
		for _, e := range g.nodes[n].in {
			from := g.feeds[e].From
			if k := g.nodes[from].Kind; k == CircuitNode || k == UPSNode || len(g.nodes[from].in) == 0 {
				if !slices.Contains(list, from) {
					list = append(list, from)
				}
				continue
			}
			up(from)
		}
	}
	up(n)
	return list
}

// Full is how full a feeder is at a level, 1 for all it may give: what is idle or typical
// for hours, the most and what starts of all it is made for; ok is false while its limits
// are not known.
func (g *Grid) Full(n int32, level int) (full float64, ok bool) {
	is, load := &g.nodes[n], g.Flow().Load(n)
	if !is.Kind.Feeder() {
		return 0, false
	}
	w, va := is.Limits.ForHours()
	if level == Most || level == Boot {
		w, va = is.Limits.W, is.Limits.VA
	}
	if w > 0 {
		full = load.W[level] / w
	}
	if va > 0 {
		full = max(full, load.VA[level]/va)
	}
	return full, w > 0 || va > 0
}

// NearLimit is how a load stands to a limit.
type NearLimit int8

// Within it, near it, or past it: for hours, or only when all works at its most.
const (
	Within NearLimit = iota
	Near
	PastAtMost
	Past
)

// Word is how it stands as files have it.
func (n NearLimit) Word() string { return [...]string{"within", "near", "past_at_most", "past"}[n] }

// Standing is how the load of a node stands to its limits, and the fuller of what is
// typical, 1 for all that may run for hours; 0 while unknown.
func (g *Grid) Standing(n int32) (at NearLimit, full float64) {
	is, load := &g.nodes[n], g.Flow().Load(n)
	full, ok := g.Full(n, Typical)
	switch {
	case !ok:
		return Within, 0
	case past(full, 1):
		return Past, full
	case past(load.W[Most], is.Limits.W), past(load.VA[Most], is.Limits.VA):
		return PastAtMost, full
	case full > near:
		return Near, full
	}
	return Within, full
}

// OneLeg lists what runs and has several supplies, of which one is fed.
func (g *Grid) OneLeg() []int32 {
	var list []int32
	for n := range g.nodes {
		is := &g.nodes[n]
		if is.Kind != DeviceNode || is.Device.State != lab.Running {
			continue
		}
		if g.Supplies(int32(n)).OneLeg() {
			list = append(list, int32(n))
		}
	}
	return list
}

// Fullest is the feeder that is nearest to its limit for hours, and how full that is; ok is
// false where no limit is known.
func (g *Grid) Fullest() (at int32, full float64, ok bool) {
	for n := range g.nodes {
		if is, known := g.Full(int32(n), Typical); known && (!ok || is > full) {
			at, full, ok = int32(n), is, true
		}
	}
	return at, full, ok
}
