package cabling

import "levelstaff/core/lab"

// Carrier is what power goes over.
type Carrier string

// A power lead, a network cable (IEEE 802.3af, at, bt) or a USB lead.
const (
	ByLead Carrier = "lead"
	ByPoE  Carrier = "poe"
	ByUSB  Carrier = "usb"
)

// Feed is one way by which a device gives another its power, both by their numbers.
type Feed struct {
	From, To int32
	Out, In  string // the ports' keys
	By       Carrier
	Cable    lab.ID // the lead in the outlet
	out, in  int32
}

// Feeds lists which devices feed which: from outlets into inlets, by leads whose port
// nobody knows where the other end tells; over the network where one end gives power
// and the other wants it; over USB into an inlet, or into what has none. What is faulty
// feeds nothing.
func (w *Wiring) Feeds() []Feed { return w.feeds() }

func (w *Wiring) feeding() []Feed {
	var list []Feed
	for i := range w.devices {
		d := &w.devices[i]
		for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
			n, far := w.sockets[s].cable, w.sockets[s].far
			if n == none || far == none || w.cables[n].State == lab.CableFaulty || w.broken(s) || w.broken(far) {
				continue
			}
			if o, _ := w.at(far); o != d {
				if by := w.gives(s, far); by != "" {
					list = append(list, w.feed(s, far, by))
				}
			}
			if !w.isPoE(d, s) {
				continue
			}
			if p := w.follow(s); p.last != none && !p.loop && w.sockets[p.last].through == none {
				if o, k := w.at(p.last); o != d && takesPoE(o, k) {
					list = append(list, w.feed(s, p.last, ByPoE))
				}
			}
		}
	}
	return list
}

func (w *Wiring) feed(out, in int32, by Carrier) Feed {
	d, i := w.at(out)
	o, k := w.at(in)
	return Feed{From: w.owner[out/2], To: w.owner[in/2], Out: d.key(i), In: o.key(k), By: by, Cable: w.cables[w.sockets[out].cable].ID,
		out: out, in: in}
}

// OutPort is the port that a feed comes from, InPort the one it goes into.
func (w *Wiring) OutPort(f Feed) lab.Port {
	d, i := w.at(f.out)
	return d.port(i)
}

// InPort is the port that a feed goes into.
func (w *Wiring) InPort(f Feed) lab.Port {
	d, i := w.at(f.in)
	return d.port(i)
}

// gives tells over what power goes from one socket to another that a lead joins, ""
// where it does not.
func (w *Wiring) gives(from, to int32) Carrier {
	a, i := w.at(from)
	b, k := w.at(to)
	out, in := a.family(i), b.family(k)
	cable, known := KindOf(w.cables[w.sockets[from].cable].Kind)
	power := !known || len(cable.Carries) == 0
	switch {
	case out == lab.Outlet && (in == lab.Inlet || in == lab.Unsure || in == lab.USB):
		return ByLead
	case out == lab.Unsure && a.Feeds() && (in == lab.Inlet || in == lab.Unsure && power && !b.Feeds() && !b.ports.Joined()):
		return ByLead
	case out == lab.USB && (in == lab.Inlet || in == lab.USB && hasSupply(a) && !hasSupply(b)):
		return ByUSB
	}
	return ""
}

// hasSupply reports whether a device of the kind has a supply of its own, so that USB
// gives it nothing.
func hasSupply(d *device) bool { return d.Kind.Traits().Inlet || d.Own != "" }

func (w *Wiring) isPoE(d *device, s int32) bool {
	_, i := w.at(s)
	p := d.port(i)
	return p.PoEOut > 0 || d.Kind == lab.PoEInjector && (p.Family == lab.Copper || p.Family == lab.Unsure)
}

// wantsPoE reports whether a device is fed over the network: it says so, or has
// no inlet and works all the same.
func wantsPoE(d *device) bool {
	is := d.Kind.Traits()
	return saysPoE(d) || !is.Inlet && is.Warm && !d.ports.Joined()
}

// takesPoE reports whether a device is fed over a port of it.
func takesPoE(d *device, port int) bool {
	return d.port(port).PoEIn != nil || wantsPoE(d) && !saysPoE(d)
}

func saysPoE(d *device) bool {
	for i := range d.ports.Len() {
		if d.ports.At(i).PoEIn != nil {
			return true
		}
	}
	return false
}

// TakenBy counts the outlets and the network ports of others that a device's
// leads are in.
func (w *Wiring) TakenBy(id lab.ID) (outlets, ports int) {
	at, ok := w.byID[id]
	if !ok {
		return 0, 0
	}
	d := &w.devices[at]
	for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
		far := w.sockets[s].far
		if w.sockets[s].cable == none || far == none {
			continue
		}
		switch o, _ := w.at(far); {
		case o == d:
		case w.gives(far, s) != "":
			outlets++
		case w.network(s):
			ports++
		}
	}
	return outlets, ports
}
