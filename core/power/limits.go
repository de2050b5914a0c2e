package power

import (
	"math"

	"levelstaff/core/lab"
)

// Limits are what a feeder may give, 0 while unknown.
type Limits struct {
	W, VA float64 // all it is made for
	Hours float64 // how much of that may run for hours, 0 to 1
	Volts float64 // what its outlets have
	Amps  float64
	Poles int
}

// near is from where on a load is near its limit, where nothing else is said.
const near = 0.8

// ForHours are the limits in W and VA for what runs for hours.
func (l Limits) ForHours() (w, va float64) { return l.W * l.Hours, l.VA * l.Hours }

// ofCircuit are the limits of a breaker: V x A, with three poles times the square root
// of 3.
func (g *Grid) ofCircuit(c lab.Circuit) Limits {
	is := Limits{Hours: near, Volts: g.mains(), Poles: 1}
	if s := g.lab.Settings().ForHours; s != nil {
		is.Hours = *s
	}
	if c.Hours != nil {
		is.Hours = *c.Hours
	}
	if c.Volts != nil {
		is.Volts = *c.Volts
	}
	if c.Poles != nil {
		is.Poles = *c.Poles
	}
	if c.Amps != nil {
		is.Amps = *c.Amps
		is.VA = is.Amps * is.Volts * phases(is.Poles)
		is.W = is.VA
	}
	return is
}

// phases is what volts between poles and amperes in each are multiplied by.
func phases(poles int) float64 {
	if poles == 3 {
		return math.Sqrt(3)
	}
	return 1
}

// mains is the voltage of the lab's mains, 0 while unknown.
func (g *Grid) mains() float64 {
	if v := g.lab.Settings().MainsV; v != nil {
		return *v
	}
	return 0
}

// ofSpec are the limits that are written on a thing.
func ofSpec(spec lab.Spec, k NodeKind, in inside) Limits {
	is := Limits{Hours: 1}
	value := func(p *float64) float64 {
		if p == nil {
			return 0
		}
		return *p
	}
	is.W, is.VA, is.Amps = value(spec.RatedW), value(spec.RatedVA), value(spec.RatedA)
	switch k {
	case BrickNode, USBNode:
		is.Volts = value(spec.GivesV)
	case PoENode:
		if is.W == 0 {
			is.W = value(spec.PoEBudgetW)
		}
	case DeviceNode: // what its supplies give, with as many as it needs
		is.W = value(spec.SupplyW)
		if is.W == 0 {
			is.W = in.supplyW
		}
		if spec.SuppliesNeeded != nil {
			is.W *= float64(max(1, *spec.SuppliesNeeded))
		}
	}
	return is
}

// limit fills in what follows from what feeds a node: the voltage of its outlets, and
// with that what its amperes come to.
func (g *Grid) limit() {
	for _, at := range g.order {
		n := &g.nodes[at]
		if n.Device == nil || n.Kind == DeviceNode || n.Kind == PoENode {
			continue
		}
		if n.Limits.Volts == 0 && n.Kind != BrickNode && n.Kind != USBNode {
			n.Limits.Volts = g.voltsAt(n)
		}
		if v := n.Limits.Amps * n.Limits.Volts; v > 0 {
			if n.Limits.W == 0 {
				n.Limits.W = v
			}
			if n.Limits.VA == 0 && n.Kind != BrickNode && n.Kind != USBNode {
				n.Limits.VA = v
			}
		}
	}
}

// voltsAt is the voltage that comes in: of a circuit with three poles that between one
// of them and neutral.
func (g *Grid) voltsAt(n *Node) float64 {
	for _, e := range n.in {
		if from := &g.nodes[g.feeds[e].From]; from.Limits.Volts > 0 {
			if from.Kind == CircuitNode {
				return from.Limits.Volts / phases(from.Limits.Poles)
			}
			return from.Limits.Volts
		}
	}
	return g.mains()
}

// AmpsFor are the amperes in each pole that an apparent power comes to; ok is false while
// the voltage is not known.
func (l Limits) AmpsFor(va float64) (amps float64, ok bool) {
	if l.Volts == 0 {
		return 0, false
	}
	return va / (l.Volts * phases(l.Poles)), true
}
