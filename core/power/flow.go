package power

import "levelstaff/core/cabling"

const (
	byLead = cabling.ByLead
	byPoE  = cabling.ByPoE
)

// Flow is what flows through every node and over every feed, and what that rests on.
type Flow struct {
	grid  *Grid
	out   []Load           // by node what its outlets give
	in    []Load           // and what it draws in all
	over  []Load           // by feed
	Rests [][levels]Counts // by node: the draws behind it, its own with them
}

// Flow is what flows now: what rests draws its standby.
func (g *Grid) Flow() *Flow { return g.flow() }

// WithAllOn is what flows with everything on that rests.
func (g *Grid) WithAllOn() *Flow { return g.allOn() }

// Out is what a node's outlets give, over the network and USB too.
func (f *Flow) Out(n int32) Load { return f.out[n] }

// In is what a node draws in all.
func (f *Flow) In(n int32) Load { return f.in[n] }

// Over is what goes over a feed.
func (f *Flow) Over(e int32) Load { return f.over[e] }

// Load is what a node's watts are: of what feeds others what it gives, of a device what
// it draws.
func (f *Flow) Load(n int32) Load {
	if f.grid.nodes[n].Kind.Feeder() {
		return f.out[n]
	}
	return f.in[n]
}

// Own is what of a node's draw goes to nothing that is known to hang on it: its own draw,
// its losses, and what was measured beyond what is explained.
func (f *Flow) Own(n int32) Watts {
	own := f.in[n].W
	for _, e := range f.grid.nodes[n].out {
		own.add(f.over[e].W, -1)
	}
	return own
}

// flowing works out the flow. What was measured behind a node goes before the sum, what
// was measured at one that feeds others before what it is reckoned to draw; the
// differences stay with the node whatever else is asked.
func (g *Grid) flowing(allOn bool) *Flow {
	f := &Flow{grid: g, out: make([]Load, len(g.nodes)), in: make([]Load, len(g.nodes)), over: make([]Load, len(g.feeds))}
	if allOn {
		g.flow() // the differences come from what flows now
	}
	live := func(int32) bool { return true }
	for at := len(g.order) - 1; at >= 0; at-- {
		n := g.order[at]
		is := &g.nodes[n]
		if !allOn {
			g.explain(f, is)
		}
		f.out[n] = g.outOf(is, f.Over)
		draw := is.Draw
		if allOn {
			draw = is.AllOn
		}
		f.in[n] = g.inOf(is, draw.W, f.out[n], f.Over)
		if !allOn && len(is.out) > 0 && is.Device != nil && is.Device.Measured != nil && is.Device.Measured.W != nil {
			is.own = beyond(*is.Device.Measured.W, f.in[n].W, f.out[n].W[Typical])
			f.in[n] = g.inOf(is, draw.W, f.out[n], f.Over)
		}
		g.share(is, f.in[n], live, func(e int32, l Load) { f.over[e] = l })
	}
	f.Rests = g.resting(allOn)
	return f
}

// explain keeps what was measured behind a node beyond what its feeds come to.
func (g *Grid) explain(f *Flow, n *Node) {
	if n.Device == nil || n.Device.Behind == nil || n.Device.Behind.W == nil {
		return
	}
	n.extra = Watts{}
	n.extra = beyond(*n.Device.Behind.W, g.outOf(n, f.Over).W, 0)
}

// beyond is what has to be added to powers so that what is typical comes to what was
// measured, and no less than least. Where it is more, those above have it too; how much of
// it is there below, the meter does not say.
func beyond(measured float64, of Watts, least float64) Watts {
	var by Watts
	by[Typical] = max(measured, least) - of[Typical]
	by[Most] = max(0, by[Typical])
	by[Boot] = by[Most]
	return by
}

// outOf is what a node's feeds and what is measured beyond them come to.
func (g *Grid) outOf(n *Node, over func(e int32) Load) Load {
	var out Load
	for _, e := range n.out {
		out.add(over(e), 1)
	}
	out.W.add(n.extra, 1)
	out.VA.add(n.extra, 1/corrected)
	return out
}

// inOf is what a node draws for what it gives and for itself.
func (g *Grid) inOf(n *Node, own Watts, out Load, over func(e int32) Load) Load {
	in := Load{}
	switch {
	case n.Kind.passes():
		in = out
	case n.gives > 0:
		in.W.add(out.W, 1/n.gives)
	case n.Kind.loses():
		in.W = out.W
	default: // over the network a part is lost
		for _, e := range n.out {
			share := 1.0
			if g.feeds[e].By == byPoE {
				share = ofPoE
			}
			in.W.add(over(e).W, 1/share)
		}
		in.W.add(n.extra, 1)
	}
	if n.gives == 0 { // else it is in what is lost
		in.W.add(own, 1)
	}
	in.W.add(n.own, 1)
	switch {
	case n.Kind.passes():
		in.VA.add(own, 1/corrected)
		in.VA.add(n.own, 1/corrected)
	case n.Kind == UPSNode: // what it loses has the power factor of what it gives
		for level := range in.VA {
			if in.VA[level] = in.W[level] / corrected; out.W[level] > 0 {
				in.VA[level] = out.VA[level] * in.W[level] / out.W[level]
			}
		}
	default:
		in.VA.add(in.W, 1/n.factor)
	}
	return in
}

// share divides what a node draws between its live feeds: power leads first, what comes
// over the network or USB where none of them is live.
func (g *Grid) share(n *Node, in Load, live func(e int32) bool, give func(e int32, l Load)) {
	leads, others := 0, 0
	for _, e := range n.in {
		switch {
		case !live(e):
		case g.feeds[e].By == byLead:
			leads++
		default:
			others++
		}
	}
	for _, e := range n.in {
		isLead := g.feeds[e].By == byLead
		var l Load
		switch {
		case !live(e):
		case isLead:
			l.add(in, 1/float64(leads))
		case leads == 0:
			l.add(in, 1/float64(others))
		}
		give(e, l)
	}
}

// resting counts by node on what the draws behind it rest. What is measured behind a
// node, or at one that feeds others, stands for all behind it.
func (g *Grid) resting(allOn bool) [][levels]Counts {
	rests := make([][levels]Counts, len(g.nodes))
	seen := make([]int32, len(g.nodes)) // the last walk that came by
	walk := int32(0)
	var up func(n int32, level int, by Basis)
	up = func(n int32, level int, by Basis) {
		seen[n] = walk
		rests[n][level][by]++
		for _, e := range g.nodes[n].in {
			from := g.feeds[e].From
			if seen[from] != walk && (level != Typical || !g.measures(from)) {
				up(from, level, by)
			}
		}
	}
	for n := range g.nodes {
		draw := &g.nodes[n].Draw
		if allOn {
			draw = &g.nodes[n].AllOn
		}
		for level, by := range draw.Basis {
			if level == Typical && g.measures(int32(n)) {
				by = Measured
			}
			if by != Off {
				walk++
				up(int32(n), level, by)
			}
			if level < Typical && g.nodes[n].extra[Most]+g.nodes[n].own[Most] > 0 {
				walk++
				up(int32(n), level, WorkedOut) // what is not explained draws something there too
			}
		}
	}
	return rests
}

// measures reports whether a meter says what all behind a node comes to.
func (g *Grid) measures(n int32) bool {
	d := g.nodes[n].Device
	return d != nil && (d.Behind != nil && d.Behind.W != nil || d.Measured != nil && d.Measured.W != nil && len(g.nodes[n].out) > 0)
}

// Unexplained is what was measured behind a node, or at one that is there to feed others,
// beyond what is known there, in W; below zero where less was measured. What was measured
// at a switch is its own draw and what it gives, and leaves nothing to explain.
func (g *Grid) Unexplained(n int32) float64 {
	g.flow()
	is := &g.nodes[n]
	if is.Kind.Feeder() {
		return is.extra[Typical] + is.own[Typical]
	}
	return is.extra[Typical]
}

// LossesUnknown reports whether a UPS or a brick feeds something and what it loses itself
// is not known, so that no sum has it.
func (g *Grid) LossesUnknown(n int32) bool {
	is := &g.nodes[n]
	return is.Kind.loses() && is.gives == 0 && len(is.out) > 0 && is.Draw.W == Watts{} && !g.measures(n)
}
