package power

import "levelstaff/core/lab"

// Sum is what some devices draw together, losses and all.
type Sum struct {
	Watts
	Lacks [levels]int // how many of them draw something unknown, or at least so much
	AllOn float64     // typical, with everything on that rests
}

// SumOf is what those devices draw that are in.
func (g *Grid) SumOf(in func(d lab.Device) bool) Sum {
	var s Sum
	for i := range g.nodes {
		if n := &g.nodes[i]; n.Device != nil && in(*n.Device) {
			g.count(&s, int32(i))
		}
	}
	return s
}

// count adds a node to a sum.
func (g *Grid) count(s *Sum, n int32) {
	s.add(g.Flow().Own(n), 1)
	s.AllOn += g.WithAllOn().Own(n)[Typical]
	for level, by := range g.nodes[n].Draw.Basis {
		if (by == Unknown || by == WorkedOut) && (level != Typical || !g.IsMeasured(n)) {
			s.Lacks[level]++
		}
	}
}

// ByPlace is what the things that are fed draw in each rack or place, without what feeds
// others there; what gives power over the network counts without what it gives.
func (g *Grid) ByPlace() map[string]*Sum {
	sums := map[string]*Sum{}
	for i := range g.nodes {
		n := &g.nodes[i]
		if n.Kind != DeviceNode || len(n.in)+len(n.out) == 0 {
			continue
		}
		place := g.lab.WhereIs(*n.Device)
		if sums[place] == nil {
			sums[place] = &Sum{}
		}
		g.count(sums[place], int32(i))
	}
	return sums
}

// IsMeasured reports whether what a node draws is in what was measured at it or at
// something that feeds it.
func (g *Grid) IsMeasured(n int32) bool {
	if g.measures(n) {
		return true
	}
	for _, e := range g.nodes[n].in {
		if g.IsMeasured(g.feeds[e].From) {
			return true
		}
	}
	return false
}

// All is what the whole lab draws.
func (g *Grid) All() Sum { return g.SumOf(func(lab.Device) bool { return true }) }

// InRack is what the things in a rack draw.
func (g *Grid) InRack(id lab.ID) Sum {
	return g.SumOf(func(d lab.Device) bool {
		r, ok := g.lab.RackOf(d)
		return ok && r.ID == id
	})
}

// MayDraw is what all breakers may give for hours together, in W; known is false where one
// of them, or that there are any, is not known.
func (g *Grid) MayDraw() (w float64, known bool) {
	known = false
	for i := range g.nodes {
		if n := &g.nodes[i]; n.Kind == CircuitNode {
			if n.Limits.W == 0 {
				return 0, false
			}
			hours, _ := n.Limits.ForHours()
			w, known = w+hours, true
		}
	}
	return w, known
}

// Shown reports whether a node has to do with power: it feeds, is fed, or draws.
func (g *Grid) Shown(n int32) bool {
	is := &g.nodes[n]
	return is.Kind.Feeder() || len(is.in)+len(is.out) > 0 || is.Draw.Basis[Typical] != Off || is.Draw.Basis[Standby] != Off
}

// Known reports whether anything at all is known of what is behind a node at a level,
// so that its sum may be shown.
func (f *Flow) Known(n int32, level int) bool {
	c := f.Rests[n][level]
	return c[Unknown] == 0 || f.Load(n).W[level] > 0
}
