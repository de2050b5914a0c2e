package lab

// Loose reports whether a device in a rack's units is held by nothing of its
// own: it has neither ears nor rails, by what is written down of it or else by
// its kind, and stands on what is below.
func (l *Lab) Loose(d Device) bool {
	if d.At == nil || d.At.Where != InUnits {
		return false
	}
	mount := d.Mount
	if s, ok := Find[SpecSheet](l, d.Sheet); ok && mount == "" {
		mount = s.Mount
	}
	if mount != "" {
		return mount == ByNone
	}
	return d.Kind.Traits().Stands
}

// Below finds what is in the unit under a device, at the same face, among what a
// rack holds.
func Below(held []Device, d Device) (Device, bool) {
	under := d
	at := *d.At
	at.Unit--
	one := 1
	under.At, under.TakesU = &at, &one
	for _, o := range held {
		if o.ID != d.ID && under.Meets(&o) {
			return o, true
		}
	}
	return Device{}, false
}

// StandingOn lists what stands on a device and has to come off before it comes
// out: what was put on it, and what is loose in the units above it. What a shelf
// or a drawer holds is not among them, as that comes along.
func (l *Lab) StandingOn(d Device) []Device {
	switch is := d.Kind.Traits(); {
	case !is.Holds:
		return append(l.HeldBy(d.Key()), l.looseAbove(d)...)
	case is.Encloses:
		return l.looseAbove(d)
	}
	return nil
}

// ComingAlong lists what comes out with a shelf or a drawer: what it holds, what
// that holds, and on a shelf what is loose in the units above it.
func (l *Lab) ComingAlong(d Device) []Device {
	is := d.Kind.Traits()
	if !is.Holds {
		return nil
	}
	list := l.HeldBy(d.Key())
	if !is.Encloses {
		list = append(list, l.looseAbove(d)...)
	}
	for _, on := range list {
		list = append(list, l.allOn(on)...)
	}
	return list
}

// TakenOut are the keys of a device and of what comes out with it.
func (l *Lab) TakenOut(d Device) []Key {
	keys := []Key{d.Key()}
	for _, on := range l.ComingAlong(d) {
		keys = append(keys, on.Key())
	}
	return keys
}

func (l *Lab) allOn(d Device) []Device {
	var list []Device
	for _, on := range l.HeldBy(d.Key()) {
		list = append(append(list, on), l.allOn(on)...)
	}
	return list
}

// looseAbove lists what is in the units right above a device and held by nothing
// but it.
func (l *Lab) looseAbove(d Device) []Device {
	var list []Device
	if d.At == nil || d.At.Where != InUnits {
		return nil
	}
	held := l.HeldBy(Key{Kind: KindRack, ID: d.At.Rack})
	for _, o := range held {
		if o.At.Where != InUnits || o.At.Unit != d.At.Unit+d.Units() || o.At.Share != Whole || !l.Loose(o) {
			continue
		}
		if on, ok := Below(held, o); ok && on.ID == d.ID {
			list = append(list, o)
		}
	}
	return list
}
