package cabling

import (
	"slices"

	"levelstaff/core/lab"
)

// Tip is an end of a link: a port of a device, both by their numbers in the
// wiring. A link without a cable ends in no port that is documented: Air says what
// its end is called then.
type Tip struct {
	Device, Port int32
	Air          string
}

// Plugged reports whether the tip is in a port, rather than in the air.
func (t Tip) Plugged() bool { return t.Port != none }

// Link is a way from one device to another that a network takes: over all its
// cables, panels and plates, or without a cable.
type Link struct {
	A, B Tip
	// Air is the link where it has no cable.
	Air *lab.Cable
	// Mb is what it carries in Mbit/s, 0 while unknown; AtMost where it may be less.
	Mb     int
	AtMost bool
	// Down: something on the way is faulty, or a cable is in a port that it does not fit.
	Down bool
	// LengthM is that of its cables in metres, but for so many of unknown length.
	LengthM float64
	Lacks   int
	path    Path
}

// other is a family of ports that has nothing to do with a network.
func otherFamily(f lab.Family) bool {
	switch f {
	case lab.Copper, lab.Cages, lab.Fibre, lab.Unsure, lab.Radio:
		return false
	}
	return true
}

// Links lists the links of a lab's network, those over cables first, each as its
// trail has it.
func (w *Wiring) Links() []Link {
	links := make([]Link, 0, len(w.cables)/2)
	for r := range w.Routes {
		if l, ok := w.linkOf(r); ok {
			links = append(links, l)
		}
	}
	for _, n := range w.air {
		c := &w.cables[n]
		if c.A == nil || c.B == nil || c.A.Device == c.B.Device {
			continue
		}
		l := Link{A: AirTip(w.byID[c.A.Device], c.A.Port), B: AirTip(w.byID[c.B.Device], c.B.Port), Air: c,
			Down: c.State == lab.CableFaulty, Lacks: 1}
		if c.SpeedMb != nil {
			l.Mb = *c.SpeedMb
		}
		links = append(links, l)
	}
	return links
}

// linkOf makes a link of a route between two network ports. Where neither port is
// documented and the cables do not tell, it is one if a network device is at an end.
func (w *Wiring) linkOf(r Route) (Link, bool) {
	if w.endOf(r.Path) != EndsInPort {
		return Link{}, false
	}
	a, i := w.at(r.first)
	b, k := w.at(r.last)
	if a.ports.Joined() || b.ports.Joined() {
		return Link{}, false
	}
	familyA, familyB := a.family(i), b.family(k)
	if otherFamily(familyA) || otherFamily(familyB) {
		return Link{}, false
	}
	l := Link{A: w.tip(r.first), B: w.tip(r.last), path: r.Path, AtMost: r.Speed.AtMost, Down: r.Misfit, LengthM: r.LengthM, Lacks: r.Lacks}
	if r.Speed.Mb != nil {
		l.Mb = *r.Speed.Mb
	}
	known := familyA != lab.Unsure || familyB != lab.Unsure
	s := r.first
	for range r.pieces {
		c := &w.cables[w.sockets[s].cable]
		if k, ok := KindOf(c.Kind); ok && len(k.Carries) == 0 {
			return Link{}, false // a console lead, or power
		} else if ok {
			known = true
		}
		l.Down = l.Down || c.State == lab.CableFaulty || w.broken(s)
		far := w.sockets[s].far
		l.Down = l.Down || w.broken(far)
		s = w.sockets[far].through
	}
	return l, known || a.Forwards() || b.Forwards() || a.Passes() || b.Passes()
}

// family is that of a port by its number, unsure for one that only a cable tells of.
func (d *device) family(i int) lab.Family {
	if i >= d.ports.Len() {
		return lab.Unsure
	}
	f, _ := d.ports.Link(i)
	return f
}

func (w *Wiring) broken(s int32) bool {
	d, i := w.at(s)
	return slices.ContainsFunc(d.Marks, func(m lab.PortMark) bool { return m.Broken && m.Port == d.key(i) })
}

func (w *Wiring) tip(s int32) Tip {
	_, i := w.at(s)
	return Tip{Device: w.owner[s/2], Port: int32(i)}
}

// KeyOf is the key of the port that a link ends in.
func (w *Wiring) KeyOf(t Tip) string {
	if !t.Plugged() {
		return t.Air
	}
	return w.devices[t.Device].key(int(t.Port))
}

// PortNumber is the number of a device's port; ok is false where it has none of
// that key.
func (w *Wiring) PortNumber(device int32, key string) (n int32, ok bool) {
	i, ok := w.devices[device].index(key)
	return int32(i), ok
}

// AirTip is the end of a link without a cable at a device.
func AirTip(device int32, called string) Tip { return Tip{device, none, called} }

// Trail is the link with all that is on its way.
func (w *Wiring) TrailOf(l Link) Trail {
	if l.Air == nil {
		return w.detail(l.path)
	}
	for _, t := range w.airOf(l.Air.A.Device) {
		if t.Pieces[0].Cable == l.Air.ID {
			return t
		}
	}
	return Trail{}
}

// OnWay goes through the records that a link is made of beside its two ends: its
// cables, and the panels and plates between them.
func (w *Wiring) OnWay(l Link, yield func(lab.Key) bool) {
	if l.Air != nil {
		yield(l.Air.Key())
		return
	}
	s := l.path.first
	for i := range l.path.pieces {
		if !yield(w.cables[w.sockets[s].cable].Key()) || i == l.path.pieces-1 {
			return
		}
		far := w.sockets[s].far
		d, _ := w.at(far)
		if !yield(d.Key()) {
			return
		}
		s = w.sockets[far].through
	}
}

// HoldsDown lists what keeps a link at its speed: the ports and cables on its way
// that allow no more, as one writes them (core/s3). It is empty while its speed is
// unknown.
func (w *Wiring) HoldsDown(l Link) []string {
	if l.Mb == 0 {
		return nil
	}
	if l.Air != nil {
		return []string{w.lab.CableWords(*l.Air)}
	}
	u := newSum(w)
	u.along(l.path)
	u.speed(EndsInPort) // takes the cables' limits in
	least := u.least()
	var names []string
	for _, of := range u.limits {
		name := ""
		if of.cable == none {
			d, i := w.at(of.port)
			name = d.Title() + "/" + lab.PortWords(d.key(i))
		} else if name = w.limitWords(of); name == "" {
			name = w.lab.CableWords(w.cables[of.cable])
		}
		if of.mb == least && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return names
}

// CableOf is the first cable of a link.
func (w *Wiring) CableOf(l Link) lab.Cable {
	if l.Air != nil {
		return *l.Air
	}
	return w.cables[w.sockets[l.path.first].cable]
}

// Number is a device's number in the wiring; ok is false for one that is not in it.
func (w *Wiring) Number(id lab.ID) (n int32, ok bool) {
	n, ok = w.byID[id]
	return n, ok
}

// DeviceAt is the device of a number.
func (w *Wiring) DeviceAt(n int32) *lab.Device { return &w.devices[n].Device }

// DeviceCount is how many devices there are; their numbers are 0 and up.
func (w *Wiring) DeviceCount() int { return len(w.devices) }

// PortCount is how many ports the device of a number has.
func (w *Wiring) PortCount(n int32) int { return w.devices[n].count() }

// PortsAt are the ports of the device of a number, those that only cables tell
// of last.
func (w *Wiring) PortsAt(n int32) []lab.Port {
	d := &w.devices[n]
	list := make([]lab.Port, d.count())
	for i := range list {
		list[i] = d.port(i)
	}
	return list
}

// FedOver reports whether a link gives the device at one of its ends its power.
func (w *Wiring) FedOver(l Link) bool {
	if l.Air != nil {
		return false
	}
	a, b := &w.devices[l.A.Device], &w.devices[l.B.Device]
	return w.isPoE(a, l.path.first) && wantsPoE(b) || w.isPoE(b, l.path.last) && wantsPoE(a)
}
