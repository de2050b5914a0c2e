package rack

import "levelstaff/core/lab"

// Loose reports whether a device in a rack's units is held by nothing of its
// own: it has neither ears nor rails, by what is written down of it or else by
// its kind, and stands on what is below.
func Loose(l *lab.Lab, d lab.Device) bool {
	if d.At == nil || d.At.Where != lab.InUnits {
		return false
	}
	if mount := l.SpecOf(d).Mount; mount != "" {
		return mount == lab.ByNone
	}
	return d.Kind.Traits().Stands
}

// Below finds what is in the unit under a device, at the same face.
func Below(l *lab.Lab, d lab.Device) (lab.Device, bool) {
	under := d
	at := *d.At
	at.Unit--
	one := 1
	under.At, under.TakesU = &at, &one
	for _, o := range l.Held(lab.Key{Kind: lab.KindRack, ID: d.At.Rack}) {
		if o.ID != d.ID && under.Meets(&o) {
			return o, true
		}
	}
	return lab.Device{}, false
}

// StandingOn lists what stands on a device and has to come off before it comes
// out: what was put on it, and what is loose in the units above it. What a shelf
// or a drawer holds is not among them, as that comes along.
func StandingOn(l *lab.Lab, d lab.Device) []lab.Device {
	switch is := d.Kind.Traits(); {
	case !is.Holds:
		return append(l.HeldBy(d.Key()), looseAbove(l, d)...)
	case is.Encloses:
		return looseAbove(l, d)
	}
	return nil
}

// ComingAlong lists what comes out with a shelf or a drawer: what it holds, what
// that holds, and on a shelf what is loose in the units above it.
func ComingAlong(l *lab.Lab, d lab.Device) []lab.Device {
	is := d.Kind.Traits()
	if !is.Holds {
		return nil
	}
	list := l.HeldBy(d.Key())
	if !is.Encloses {
		list = append(list, looseAbove(l, d)...)
	}
	for _, on := range list {
		list = append(list, allOn(l, on)...)
	}
	return list
}

func allOn(l *lab.Lab, d lab.Device) []lab.Device {
	var list []lab.Device
	for _, on := range l.HeldBy(d.Key()) {
		list = append(append(list, on), allOn(l, on)...)
	}
	return list
}

// looseAbove lists what is in the units right above a device and held by nothing
// but it.
func looseAbove(l *lab.Lab, d lab.Device) []lab.Device {
	var list []lab.Device
	if d.At == nil || d.At.Where != lab.InUnits {
		return nil
	}
	for _, o := range l.HeldBy(lab.Key{Kind: lab.KindRack, ID: d.At.Rack}) {
		if !Loose(l, o) || o.At.Share != lab.Whole {
			continue
		}
		if on, ok := Below(l, o); ok && on.ID == d.ID {
			list = append(list, o)
		}
	}
	return list
}
