package power

import (
	"cmp"
	"math"
	"slices"

	"levelstaff/core/lab"
)

// What a class takes in W, at the switch and at the device (IEEE 802.3af, at, bt).
var (
	atSwitch = [9]float64{15.4, 4, 7, 15.4, 30, 45, 60, 75, 90}
	atDevice = [9]float64{12.95, 3.84, 6.49, 12.95, 25.5, 40, 51, 62, 71.3}
	// ofType is what a port of a type gives at most.
	ofType = [5]float64{0, 15.4, 30, 60, 90}
)

// PoE is what a switch, a router or an injector gives over the network.
type PoE struct {
	Node    int32
	BudgetW *float64 // nil while unknown
	ByFeed  bool     // the budget is what it is fed itself, less what it draws
	GivenW  float64  // by class, at the switch
	MostW   float64  // what those can draw at most, at the switch; the class's where that is not known
	Lacks   int      // how many of them have no class that is known
	Ports   []PoEPort
}

// PoEPort is a port of it with what it feeds.
type PoEPort struct {
	Feed   int32
	Class  int     // -1 while unknown
	ByDraw bool    // the class is that of the most it draws, or of what is typical
	ClassW float64 // at the switch
	LimitW float64 // of the port's type, 0 while unknown
}

// LeftW is what is left of the budget, nil while that is unknown.
func (p PoE) LeftW() *float64 {
	if p.BudgetW == nil {
		return nil
	}
	const toMilliwatts = 1000
	left := math.Round((*p.BudgetW-p.GivenW)*toMilliwatts) / toMilliwatts
	return &left
}

// Over reports whether it gives more than its budget, by class.
func (p PoE) Over() bool { return p.BudgetW != nil && past(p.GivenW, *p.BudgetW) }

// Holds reports whether its budget holds by the most that those it feeds can draw.
func (p PoE) Holds() bool { return p.BudgetW == nil || !past(p.MostW, *p.BudgetW) }

// Over reports whether what hangs on a port may draw more than the port gives.
func (p PoEPort) Over() bool { return p.LimitW > 0 && past(p.ClassW, p.LimitW) }

// PoE lists what gives power over the network, by title.
func (g *Grid) PoE() []PoE {
	var list []PoE
	for n := range g.nodes {
		is := &g.nodes[n]
		if is.Device == nil || is.Device.State != lab.Running {
			continue
		}
		p := PoE{Node: int32(n)}
		spec := g.lab.SpecOf(*is.Device)
		for _, e := range is.out {
			if g.feeds[e].By == byPoE {
				p.add(g, e)
			}
		}
		gives := is.Kind == PoENode || slices.ContainsFunc(spec.Ports, func(group lab.PortGroup) bool { return group.PoEOut > 0 })
		if !gives && len(p.Ports) == 0 {
			continue
		}
		p.BudgetW = spec.PoEBudgetW
		if p.BudgetW == nil && is.Kind == PoENode && is.Limits.W > 0 {
			p.BudgetW = &is.Limits.W
		}
		if p.BudgetW == nil {
			p.BudgetW = g.passedOn(is)
			p.ByFeed = p.BudgetW != nil
		}
		list = append(list, p)
	}
	slices.SortStableFunc(list, func(a, b PoE) int { return cmp.Compare(g.nodes[a.Node].Title, g.nodes[b.Node].Title) })
	return list
}

func (p *PoE) add(g *Grid, e int32) {
	f := &g.feeds[e]
	port := PoEPort{Feed: e}
	port.Class, port.ByDraw = g.classOf(f)
	if out := g.portOf(f.From, f.Out); out.PoEOut > 0 {
		port.LimitW = ofType[out.PoEOut]
	}
	most := g.Flow().in[f.To].W[Most] / ofPoE
	if by := g.nodes[f.To].Draw.Basis[Most]; by == Unknown || by == WorkedOut {
		most = 0
	}
	if port.Class < 0 {
		p.Lacks++
	} else {
		port.ClassW = atSwitch[port.Class]
		if p.GivenW += port.ClassW; most == 0 {
			most = port.ClassW
		}
	}
	p.MostW += most
	p.Ports = append(p.Ports, port)
}

func (g *Grid) portOf(n int32, key string) lab.Port {
	ports := g.lab.PortsOf(*g.nodes[n].Device)
	if i, ok := ports.Index(key); ok {
		return ports.At(i)
	}
	return lab.Port{}
}

// classOf is the class of what a feed feeds: as it says, or the least one that has the
// most it draws; -1 while neither is known.
func (g *Grid) classOf(f *Feed) (class int, byDraw bool) {
	if in := g.portOf(f.To, f.In).PoEIn; in != nil {
		return *in, false
	}
	draw := g.Flow().in[f.To].W
	w := draw[Most]
	if basis := g.nodes[f.To].Draw.Basis[Most]; basis == Unknown || basis == WorkedOut {
		w = draw[Typical]
	}
	if w == 0 {
		return -1, false
	}
	for _, c := range []int{1, 2, 3, 4, 5, 6, 7, 8} {
		if w <= atDevice[c] {
			return c, true
		}
	}
	return -1, false
}

// passedOn is what a switch that is fed over the network can give itself: what its class
// gives it, less the most it draws; nil where it is not, or where that is not known.
func (g *Grid) passedOn(n *Node) *float64 {
	own, basis := n.Draw.W[Most], n.Draw.Basis[Most]
	if basis == Unknown || basis == WorkedOut {
		own, basis = n.Draw.W[Typical], n.Draw.Basis[Typical]
	}
	for _, e := range n.in {
		f := &g.feeds[e]
		if f.By != byPoE || basis == Unknown || basis == WorkedOut {
			continue
		}
		if in := g.portOf(f.To, f.In).PoEIn; in != nil {
			left := max(0, (atDevice[*in]-own)*ofPoE)
			return &left
		}
	}
	return nil
}
