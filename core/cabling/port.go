package cabling

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// PortInfo is all that hangs on one port.
type PortInfo struct {
	End     lab.End  `json:"end" required:"true"`
	Jack    *Jack    `json:"jack,omitempty" description:"Absent where the device has no such port"`
	Name    string   `json:"name" required:"true" description:"What the trade calls such a port; empty where the device has none of that key"`
	PoEOut  int      `json:"poe_out_type,omitempty"`
	Trail   *Trail   `json:"trail,omitempty" description:"Of what is in it"`
	Reaches *Stop    `json:"reaches,omitempty" description:"Where the trail comes out from here; absent while unknown"`
	Ends    TrailEnd `json:"ends,omitempty" description:"How that way ends"`
	Dark    []Dark   `json:"dark" required:"true" nullable:"false" description:"What loses its link if the lead is pulled, the worst first"`
}

// PortOf is what hangs on the port of an end.
func (w *Wiring) PortOf(e lab.End) PortInfo {
	info := PortInfo{End: e, Dark: []Dark{}}
	s, ok := w.socketOf(e)
	if !ok {
		return info
	}
	for _, j := range w.Jacks(e.Device) {
		if j.Port == e.Port && j.Rear == e.Rear {
			info.Jack = &j
		}
	}
	d, i := w.at(s)
	p := d.port(i)
	info.Name, info.PoEOut = portWords(p.Connector, p.Family), p.PoEOut
	if w.sockets[s].cable == none {
		return info
	}
	if t, ok := w.trailAt(s); ok {
		info.Trail = &t
	}
	on := w.follow(s)
	info.Ends = w.endOf(on)
	if on.last != none {
		stop := w.stop(on.last)
		info.Reaches = &stop
	}
	info.Dark = w.darkWithoutLead(s)
	return info
}

// darkWithoutLead lists the two devices that lose a link when what is in a
// socket is pulled; none where it is part of no link.
func (w *Wiring) darkWithoutLead(s int32) []Dark {
	dark := []Dark{}
	a, b := w.linked(s)
	if a == none || !w.network(a) {
		return dark
	}
	near, _ := w.at(a)
	far, _ := w.at(b)
	if near == far {
		return dark
	}
	for _, d := range []*device{near, far} {
		dark = append(dark, Dark{d.ID, d.Title(), len(w.linksOf(d, nil)) - 1})
	}
	slices.SortStableFunc(dark, func(a, b Dark) int { return cmp.Or(a.Keeps-b.Keeps, cmp.Compare(a.Title, b.Title)) })
	return dark
}

// linked are the devices' sockets at both ends of the link that a socket is
// part of; none where it is part of no whole link.
func (w *Wiring) linked(s int32) (a, b int32) {
	device := func(from int32) int32 {
		if p := w.follow(from); p.last != none && !p.loop && w.sockets[p.last].through == none {
			return p.last
		}
		return none
	}
	a, b = s, device(s)
	if back := w.sockets[s].through; back != none {
		if a = none; w.sockets[back].cable != none {
			a = device(back)
		}
	}
	if a == none || b == none {
		return none, none
	}
	return a, b
}
