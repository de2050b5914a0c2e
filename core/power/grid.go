// Package power works out what flows from the breakers to the last supply: what each
// thing draws, what each outlet, strip, UPS and circuit gives, how near that is to its
// limit, and what goes dark when one of them is lost. Everything starts from the power
// leads there are, so that no picture of it can say what the leads do not.
//
// Powers are W and VA, currents A. Formulas: W = V x A x power factor; what a UPS or a
// brick loses shows at what feeds it; what is given over the network is drawn by what
// gives it, divided by 0.9.
package power

import (
	"slices"
	"sync"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// ofPoE is what comes out over the network of what a switch draws for it.
const ofPoE = 0.9

// NodeKind is the sort of a thing in the flow of power.
type NodeKind string

// The sorts there are.
const (
	CircuitNode NodeKind = "circuit"
	OutletNode  NodeKind = "outlet" // in a wall
	UPSNode     NodeKind = "ups"
	StripNode   NodeKind = "strip" // and meter plugs
	PDUNode     NodeKind = "pdu"
	BrickNode   NodeKind = "brick"
	USBNode     NodeKind = "usb"
	PoENode     NodeKind = "poe" // an injector
	DeviceNode  NodeKind = "device"
)

var nodeKinds = map[lab.DeviceKind]NodeKind{lab.WallOutlet: OutletNode, lab.UPS: UPSNode, lab.PowerStrip: StripNode,
	lab.MeterPlug: StripNode,
	lab.PDU:       PDUNode, lab.PowerBrick: BrickNode, lab.USBSupply: USBNode, lab.PoEInjector: PoENode}

// passes reports whether what comes in goes out as it is.
func (k NodeKind) passes() bool {
	return k == CircuitNode || k == OutletNode || k == StripNode || k == PDUNode
}

// loses reports whether a part of what comes in does not come out.
func (k NodeKind) loses() bool { return k == UPSNode || k == BrickNode || k == USBNode }

// Feeder reports whether a thing is there to feed others.
func (k NodeKind) Feeder() bool { return k != DeviceNode }

// Node is a thing in the flow of power: a circuit, or a device.
type Node struct {
	Key     lab.Key
	Kind    NodeKind
	Title   string
	Device  *lab.Device // nil for a circuit
	Draw    Draw        // its own, now
	AllOn   Draw        // and with everything on that rests
	Limits  Limits
	in, out []int32 // its feeds by number: those it has, those it gives
	need    int32   // how many of those it has must be live
	gives   float64 // what a UPS or brick gives of what it draws, 0 while unknown
	factor  float64 // W for each VA
	battery bool    // it goes on for a while when nothing feeds it
	rank    int32   // feeders before what they feed
	extra   Watts   // measured behind it beyond what is explained
	own     Watts   // measured at its inlet beyond what is explained
}

// Feed is one way by which a node feeds another; a wall outlet is fed by its circuit.
type Feed struct {
	From, To int32
	Out, In  string // ports; "" between a circuit and its wall outlet
	By       cabling.Carrier
	Cable    lab.ID
	Held     bool // by the battery of a UPS, or of a laptop
	Filtered bool // only filtered by it
}

// Grid is how the power of a lab flows. It is worked out once for a lab and then only
// read.
type Grid struct {
	lab    *lab.Lab
	w      *cabling.Wiring
	nodes  []Node
	feeds  []Feed
	order  []int32 // nodes, feeders before what they feed
	byKey  map[lab.Key]int32
	flow   func() *Flow
	allOn  func() *Flow
	losses func() []Loss
}

// Of is the grid of a lab, worked out once for as long as the lab is kept.
func Of(l *lab.Lab) *Grid { return lab.Derived(l, build) }

func build(l *lab.Lab) *Grid {
	g := &Grid{lab: l, w: cabling.Of(l), byKey: map[lab.Key]int32{}}
	for i := range g.w.DeviceCount() {
		g.nodes = append(g.nodes, Node{Device: g.w.DeviceAt(int32(i))})
	}
	parts := map[lab.ID]inside{}
	for p := range lab.Each[lab.Part](l) {
		if p.Device != "" {
			in := parts[p.Device]
			in.add(p)
			parts[p.Device] = in
		}
	}
	for i := range g.nodes {
		g.fill(&g.nodes[i], parts)
		g.byKey[g.nodes[i].Key] = int32(i)
	}
	for c := range lab.Each[lab.Circuit](l) {
		g.byKey[c.Key()] = int32(len(g.nodes))
		g.nodes = append(g.nodes, Node{Key: c.Key(), Kind: CircuitNode, Title: c.Title(), Limits: g.ofCircuit(c)})
	}
	g.join()
	g.sort()
	g.limit()
	g.flow = sync.OnceValue(func() *Flow { return g.flowing(false) })
	g.allOn = sync.OnceValue(func() *Flow { return g.flowing(true) })
	g.losses = sync.OnceValue(g.loseEach)
	return g
}

// fill is what a device is in the flow, and what it draws.
func (g *Grid) fill(n *Node, parts map[lab.ID]inside) {
	d := n.Device
	spec := g.lab.SpecOf(*d)
	n.Key, n.Title, n.Kind = d.Key(), d.Title(), DeviceNode
	if k, feeder := nodeKinds[d.Kind]; feeder {
		n.Kind = k
	} else {
		for _, also := range d.Also {
			if k, feeder := nodeKinds[also]; feeder {
				n.Kind = k
			}
		}
	}
	n.need, n.factor = 1, corrected
	n.battery = n.Kind == UPSNode && !d.Bypass || d.Kind.Traits().Battery
	if spec.SuppliesNeeded != nil && n.Kind == DeviceNode {
		n.need = int32(max(1, *spec.SuppliesNeeded))
	}
	if n.Kind == BrickNode || n.Kind == USBNode || n.Kind == PoENode {
		n.factor = ofBricks
	}
	if spec.Factor != nil {
		n.factor = *spec.Factor
	}
	if spec.Efficiency != nil && n.Kind.loses() { // of a server it is in what that draws
		n.gives = *spec.Efficiency
	}
	n.Draw, n.AllOn = drawOf(spec, *d, parts[d.ID], false), drawOf(spec, *d, parts[d.ID], true)
	n.Limits = ofSpec(spec, n.Kind, parts[d.ID])
}

// join finds who feeds whom.
func (g *Grid) join() {
	for _, f := range g.w.Feeds() {
		out := g.w.OutPort(f)
		is := Feed{From: f.From, To: f.To, Out: f.Out, In: f.In, By: f.By, Cable: f.Cable, Filtered: out.Filtered}
		is.Held = g.nodes[f.From].battery && !out.Filtered
		g.feeds = append(g.feeds, is)
	}
	for i := range g.nodes {
		n := &g.nodes[i]
		if n.Device == nil || n.Device.Circuit == "" {
			continue
		}
		if at, known := g.byKey[lab.Key{Kind: lab.KindCircuit, ID: n.Device.Circuit}]; known {
			g.feeds = append(g.feeds, Feed{From: at, To: int32(i), By: cabling.ByLead})
		}
	}
	for e, f := range g.feeds {
		g.nodes[f.From].out = append(g.nodes[f.From].out, int32(e))
		g.nodes[f.To].in = append(g.nodes[f.To].in, int32(e))
	}
}

// sort puts feeders before what they feed. Two switches may give each other power over
// the network; of such a circle one feed is left out.
func (g *Grid) sort() {
	const (
		fresh = iota
		open
		done
	)
	state := make([]int8, len(g.nodes))
	dropped := map[int32]bool{}
	var visit func(n int32)
	visit = func(n int32) {
		state[n] = open
		for _, e := range g.nodes[n].out {
			switch to := g.feeds[e].To; state[to] {
			case open:
				dropped[e] = true
			case fresh:
				visit(to)
			}
		}
		state[n] = done
		g.order = append(g.order, n)
	}
	for n := range g.nodes {
		if state[n] == fresh {
			visit(int32(n))
		}
	}
	slices.Reverse(g.order)
	for at, n := range g.order {
		g.nodes[n].rank = int32(at)
		for _, list := range []*[]int32{&g.nodes[n].in, &g.nodes[n].out} {
			*list = slices.DeleteFunc(*list, func(e int32) bool { return dropped[e] })
		}
		g.nodes[n].need = max(1, min(g.nodes[n].need, int32(len(g.nodes[n].in))))
	}
	for n := range g.nodes { // what is there to feed others, and what takes no power, draws nothing itself
		if is := &g.nodes[n]; is.Device != nil && !g.draws(is) {
			is.Draw.silence()
			is.AllOn.silence()
		}
	}
}

// silence makes nothing of what is not known; a UPS draws for itself under load what it
// does idle.
func (d *Draw) silence() {
	for level, by := range d.Basis {
		switch {
		case by == WorkedOut:
			d.Basis[level] = d.Basis[Idle]
		case by == Unknown:
			d.Basis[level] = Off
		}
	}
}

// draws reports whether a device takes power that ought to be known.
func (g *Grid) draws(n *Node) bool {
	is := n.Device.Kind.Traits()
	return n.Kind == DeviceNode && !is.Passive && !is.Portless && !is.Joined && (is.Inlet || is.Warm || n.Device.Own != "" || len(n.in) > 0)
}

// Nodes lists the things in the flow; their numbers are those in this list.
func (g *Grid) Nodes() []Node { return g.nodes }

// Feeds lists the feeds; their numbers are those in this list.
func (g *Grid) Feeds() []Feed { return g.feeds }

// Number is that of a circuit or a device.
func (g *Grid) Number(key lab.Key) (n int32, ok bool) {
	n, ok = g.byKey[key]
	return n, ok
}

// Order lists the numbers of all nodes, what feeds before what is fed.
func (g *Grid) Order() []int32 { return g.order }

// ByLeads reports whether a node is fed by leads, rather than over the network or USB.
func (g *Grid) ByLeads(n int32) bool {
	return slices.ContainsFunc(g.nodes[n].in, func(e int32) bool { return g.feeds[e].ByLead() })
}

// ByLead reports whether a feed is a power lead, or the wire to a wall outlet.
func (f Feed) ByLead() bool { return f.By == byLead }

// In lists the feeds that a node has, Out those that it gives.
func (g *Grid) In(n int32) []int32 { return g.nodes[n].in }

// Out lists the feeds that a node gives.
func (g *Grid) Out(n int32) []int32 { return g.nodes[n].out }
