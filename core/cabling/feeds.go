package cabling

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// feed is one lead by which a device gives another its power.
type feed struct{ from, to *device }

// feeding works out which devices feed which: from outlets into inlets, by
// leads whose port nobody knows where the other end tells, and over the network
// where one end gives power and the other has no inlet (IEEE 802.3af, at, bt).
func (w *Wiring) feeding() []feed {
	var list []feed
	for i := range w.devices {
		d := &w.devices[i]
		for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
			n, far := w.sockets[s].cable, w.sockets[s].far
			if n == none || far == none {
				continue
			}
			o, _ := w.at(far)
			if o != d && w.gives(s, far) {
				list = append(list, feed{d, o})
			}
			if p := w.follow(s); w.isPoE(d, s) && p.last != none && !p.loop && w.sockets[p.last].through == none {
				if o, _ := w.at(p.last); o != d && wantsPoE(o) {
					list = append(list, feed{d, o})
				}
			}
		}
	}
	return list
}

// gives reports whether a lead takes power from one socket to another.
func (w *Wiring) gives(from, to int32) bool {
	a, i := w.at(from)
	b, k := w.at(to)
	out, _ := a.ports.Link(i)
	in, _ := b.ports.Link(k)
	if i >= a.ports.Len() {
		out = lab.Unsure
	}
	if k >= b.ports.Len() {
		in = lab.Unsure
	}
	switch {
	case out == lab.Outlet:
		return in == lab.Inlet || in == lab.Unsure
	case out == lab.Unsure && a.Kind.Traits().Feeds:
		return in == lab.Inlet
	}
	return false
}

func (w *Wiring) isPoE(d *device, s int32) bool {
	_, i := w.at(s)
	p := d.port(i)
	return p.PoEOut > 0 || d.Kind == lab.PoEInjector && p.Family == lab.Copper
}

// wantsPoE reports whether a device is fed over the network: it says so, or has
// no inlet and works all the same.
func wantsPoE(d *device) bool {
	for i := range d.ports.Len() {
		if d.ports.At(i).PoEIn != nil {
			return true
		}
	}
	is := d.Kind.Traits()
	return !is.Inlet && is.Warm && !d.ports.Joined()
}

// unpoweredWithout lists the devices that lose a feed when some are gone, those
// that keep fewest first; what is left without any feed takes along what it feeds
// itself.
func (w *Wiring) unpoweredWithout(gone map[*device]bool) []Dark {
	feeds := w.feeds()
	lost, loses := map[*device]bool{}, map[*device]bool{}
	for d := range gone {
		lost[d] = true
	}
	keeps := func(d *device) int {
		n := 0
		for _, f := range feeds {
			if f.to == d && !lost[f.from] {
				n++
			}
		}
		return n
	}
	for more := true; more; {
		more = false
		for _, f := range feeds {
			if !lost[f.from] || gone[f.to] {
				continue
			}
			loses[f.to] = true
			if !lost[f.to] && keeps(f.to) == 0 {
				lost[f.to], more = true, true
			}
		}
	}
	dark := []Dark{}
	for d := range loses {
		dark = append(dark, Dark{d.ID, d.Title(), keeps(d)})
	}
	slices.SortFunc(dark, func(a, b Dark) int {
		return cmp.Or(a.Keeps-b.Keeps, cmp.Compare(a.Title, b.Title), cmp.Compare(a.Device, b.Device))
	})
	return dark
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
		case w.gives(far, s):
			outlets++
		case w.network(s):
			ports++
		}
	}
	return outlets, ports
}
