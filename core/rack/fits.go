package rack

import (
	"errors"
	"fmt"
	"slices"

	"levelstaff/core/lab"
)

// Portion is how much of a rack's width a thing is to take.
type Portion string

// The whole width, one of two halves or one of three thirds.
const (
	WholePart Portion = "whole"
	HalfPart  Portion = "half"
	ThirdPart Portion = "third"
)

// Enum lists the parts for the published schema.
func (Portion) Enum() []any { return []any{WholePart, HalfPart, ThirdPart} }

// Shares lists the shares of the width that a part can be, from left to right.
func (p Portion) Shares() []lab.Share {
	switch p {
	case HalfPart:
		return []lab.Share{lab.LeftHalf, lab.RightHalf}
	case ThirdPart:
		return []lab.Share{lab.LeftThird, lab.MiddleThird, lab.RightThird}
	}
	return []lab.Share{lab.Whole}
}

// PartOf is the part a share is.
func PartOf(s lab.Share) Portion {
	from, to := s.Sixths()
	switch to - from {
	case 3:
		return HalfPart
	case 2:
		return ThirdPart
	}
	return WholePart
}

// Slot is a run of units at one face that a device could be put at.
type Slot struct {
	Unit  int       `json:"unit" required:"true" description:"Lowest unit, counted from the rack's foot"`
	Face  lab.Face  `json:"face" required:"true"`
	Share lab.Share `json:"share" required:"true"`
	Fits  bool      `json:"fits" required:"true"`
	Why   string    `json:"why,omitempty" description:"What is in the way where it does not fit"`
	Swap  bool      `json:"swap,omitempty" description:"It does not fit, but would change places with the one thing that is in the way"`
	// Units that are free are one thing, and measures another: a thing may be
	// put where it is too deep, since that is how some racks are.
	Measures Outcome `json:"measures,omitempty" description:"Whether width, depth, rails, weight and what is behind allow it"`
	Lacks    string  `json:"lacks,omitempty" description:"The first measure that does not allow it, or is not known"`
}

// Slots tells for every unit, face and share of a rack's width whether devices
// would fit there, from the foot up, front before rear. The first device is
// the one that is put there; Move says where the others go. Units they take
// themselves are no hindrance. A device that does not say how many units it
// takes is tried with one. Without devices there are no slots.
func Slots(l *lab.Lab, devices []lab.Device, r lab.Rack, part Portion) []Slot {
	slots := []Slot{}
	if len(devices) == 0 {
		return slots
	}
	in := l.Held(r.Key())
	m := measuring{lab: l, rack: r, in: in, same: map[lab.ID][]Check{}}
	for unit := 1; unit+devices[0].Units()-1 <= r.HeightU; unit++ {
		for _, face := range lab.Faces() {
			for _, share := range part.Shares() {
				s := Slot{Unit: unit, Face: face, Share: share}
				to := &lab.Spot{Where: lab.InUnits, Rack: r.ID, Unit: unit, Face: face, Share: share}
				moved := together(devices, to)
				s.Why = inTheWay(l, r, in, moved)
				s.Fits = s.Why == ""
				if s.Fits {
					s.Measures, s.Lacks = m.all(moved)
				}
				if !s.Fits && len(devices) == 1 {
					_, err := swapped(l, r, in, devices[0], to)
					s.Swap = err == nil
				}
				slots = append(slots, s)
			}
		}
	}
	return slots
}

// measuring checks the fit of things that are tried at many spots of a rack.
type measuring struct {
	lab  *lab.Lab
	rack lab.Rack
	in   []lab.Device
	same map[lab.ID][]Check // what is the same at each spot, of each thing
}

// all checks things where they would be, without those that move with them.
func (m measuring) all(moved []lab.Device) (Outcome, string) {
	worst, lacks := Fits, ""
	still := slices.DeleteFunc(slices.Clone(m.in), func(o lab.Device) bool { return among(moved, o.ID) })
	for _, d := range moved {
		t := ThingOf(m.lab, d)
		if _, done := m.same[d.ID]; !done {
			m.same[d.ID] = InRack(m.lab, t, m.rack, d.At.Share) // each share of a part is as wide
		}
		for _, c := range slices.Concat(m.same[d.ID], Behind(m.lab, t, m.rack, d.At, d.Units(), still)) {
			if c.Outcome == NoFit && worst != NoFit || c.Outcome == Unchecked && worst == Fits {
				worst, lacks = c.Outcome, c.Short()
			}
		}
	}
	return worst, lacks
}

// inTheWay says what keeps devices from where they would be; "" if nothing.
func inTheWay(l *lab.Lab, r lab.Rack, in []lab.Device, moved []lab.Device) string {
	for i, d := range moved {
		if d.At.Unit < 1 || d.At.Unit+d.Units()-1 > r.HeightU {
			return fmt.Sprintf("%s would stick out of the rack", d.Title())
		}
		for _, o := range moved[:i] {
			if d.Meets(&o) {
				return fmt.Sprintf("%s and %s would collide", o.Title(), d.Title())
			}
		}
		for _, o := range in {
			if !among(moved, o.ID) && d.Meets(&o) {
				return fmt.Sprintf("%s takes %s", o.Title(), l.UnitRange(r, o.At.Unit, o.Units()))
			}
		}
	}
	return ""
}

func among(devices []lab.Device, id lab.ID) bool {
	return slices.ContainsFunc(devices, func(d lab.Device) bool { return d.ID == id })
}

// together puts the first device at a spot in units. The others that are in
// the same rack as it keep their distance from it, also when the face changes;
// those from elsewhere go below it, one under the other.
func together(devices []lab.Device, to *lab.Spot) []lab.Device {
	first := devices[0]
	lowest := to.Unit
	moved := make([]lab.Device, 0, len(devices))
	for i, d := range devices {
		at := *to
		switch {
		case i == 0:
		case mountedWith(first, d):
			at.Unit = to.Unit + d.At.Unit - first.At.Unit
			at.Share = d.At.Share
			if d.At.Face != first.At.Face {
				at.Face = other(to.Face)
			}
		default:
			lowest -= d.Units()
			at.Unit = lowest
		}
		lowest = min(lowest, at.Unit)
		if d.TakesU == nil {
			one := 1
			d.TakesU = &one
		}
		d.At = &at
		moved = append(moved, d)
	}
	return moved
}

func mountedWith(a, b lab.Device) bool {
	return a.At != nil && b.At != nil && a.At.Where == lab.InUnits && b.At.Where == lab.InUnits && a.At.Rack == b.At.Rack
}

func other(f lab.Face) lab.Face {
	if f == lab.Front {
		return lab.Rear
	}
	return lab.Front
}

// Move is what puts devices somewhere together: at a spot in units as Slots
// has tried it, in a row on a shelf, at a place or beside a rack, or, without
// a spot, nowhere for now. swap lets the one thing that is in the way of one
// device go where that was. The error says what is in the way; what else
// cannot be is for Apply to refuse.
func Move(l *lab.Lab, devices []lab.Device, to *lab.Spot, swap bool) ([]lab.Change, error) {
	if len(devices) == 0 {
		return nil, errors.New("name the devices to move")
	}
	moved := make([]lab.Device, 0, len(devices))
	switch {
	case to == nil:
		for _, d := range devices {
			d.At = nil
			moved = append(moved, d)
		}
	case to.Where != lab.InUnits:
		next := l.LastOrder(to)
		for _, d := range devices {
			next++
			at := *to
			at.Order = next
			d.At = &at
			moved = append(moved, d)
		}
	default:
		r, ok := lab.Find[lab.Rack](l, to.Rack)
		if !ok {
			return nil, fmt.Errorf("there is no rack with the id %q", to.Rack)
		}
		moved = together(devices, to)
		in := l.Held(r.Key())
		if why := inTheWay(l, r, in, moved); why != "" {
			if !swap || len(devices) > 1 {
				return nil, fmt.Errorf("%s stays where it was: %s", devices[0].Title(), why)
			}
			var err error
			if moved, err = swapped(l, r, in, devices[0], to); err != nil {
				return nil, err
			}
		}
	}
	var changes []lab.Change
	for _, d := range moved {
		if c, ok := l.Put(d); ok {
			changes = append(changes, c)
		}
	}
	return changes, nil
}

// swapped is a device at a spot and the one thing that was in its way where
// the device was.
func swapped(l *lab.Lab, r lab.Rack, in []lab.Device, d lab.Device, to *lab.Spot) ([]lab.Device, error) {
	is := together([]lab.Device{d}, to)[0]
	var way []lab.Device
	for _, o := range in {
		if o.ID != d.ID && is.Meets(&o) {
			way = append(way, o)
		}
	}
	if len(way) != 1 {
		return nil, fmt.Errorf("%s can change places with one thing; %d are in its way", d.Title(), len(way))
	}
	o := way[0]
	if is.At.Unit < 1 || is.At.Unit+is.Units()-1 > r.HeightU {
		return nil, fmt.Errorf("%s would stick out of the rack", d.Title())
	}
	for _, at := range leftFor(o, d) {
		back := o
		back.At = at
		if at == nil || at.Where != lab.InUnits || !is.Meets(&back) && roomFor(l, back, d.ID) {
			return []lab.Device{is, back}, nil
		}
	}
	return nil, fmt.Errorf("%s does not fit where %s was", o.Title(), d.Title())
}

// roomFor reports whether a device fits where it says it is, once another one
// is gone.
func roomFor(l *lab.Lab, d lab.Device, gone lab.ID) bool {
	r, ok := lab.Find[lab.Rack](l, d.At.Rack)
	in := slices.DeleteFunc(l.Held(r.Key()), func(o lab.Device) bool { return o.ID == gone })
	return ok && inTheWay(l, r, in, []lab.Device{d}) == ""
}

// leftFor lists the spots that d leaves for another: where it is, or in units
// at either end of those it takes, the nearer one first.
func leftFor(o, d lab.Device) []*lab.Spot {
	if d.At == nil || d.At.Where != lab.InUnits {
		return []*lab.Spot{d.At}
	}
	foot, head := *d.At, *d.At
	foot.Share, head.Share = o.At.Share, o.At.Share
	if PartOf(o.At.Share) == PartOf(d.At.Share) {
		foot.Share, head.Share = d.At.Share, d.At.Share
	}
	head.Unit = d.At.Unit + d.Units() - o.Units()
	if max(head.Unit-o.At.Unit, o.At.Unit-head.Unit) < max(foot.Unit-o.At.Unit, o.At.Unit-foot.Unit) {
		return []*lab.Spot{&head, &foot}
	}
	return []*lab.Spot{&foot, &head}
}
