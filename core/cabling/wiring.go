// Package cabling works out what is plugged into what: trails from a port to
// the last one, how long and how fast they are, how long leads have to be,
// what is in the way when a device comes out, how cables are labelled.
//
// Everything starts from Wiring, a lab's ports and cables as one table of
// sockets, so that following a cable is a matter of reading numbers. Lengths
// of cables are metres, places on faces millimetres, speeds Mbit/s.
package cabling

import (
	"slices"
	"sync"

	"levelstaff/core/lab"
)

// Wiring is every port and cable of a lab. It is made once for a lab and then
// only read.
type Wiring struct {
	lab     *lab.Lab
	devices []device
	owner   []int32 // the device of each port
	byID    map[lab.ID]int32
	cables  []lab.Cable
	ends    [][2]int32            // the sockets of each cable; none for an open end
	sockets []socket              // two for each port: its front, and its rear where it goes through
	air     []int32               // the links without a cable, by their number among the cables
	loose   int                   // how many cables are plugged in nowhere
	optics  map[lab.ID][]lab.Part // the transceivers in each device
	racks   map[lab.ID]lab.Rack
	routes  func() []Route // all trails in figures, worked out when first asked for
	feeds   func() []Feed  // which devices feed which, likewise
}

// device is a device's ports among those of the lab.
type device struct {
	lab.Device
	ports lab.Ports
	named []string // undocumented ports, known by what is plugged into them
	from  int32    // the number of its first port
	rank  int8     // trails start at the lowest
}

// newDevice is a device of a lab with its ports.
func newDevice(l *lab.Lab, d lab.Device) device {
	of := device{Device: d, ports: l.PortsOf(d), rank: 1}
	switch {
	case of.ports.Joined():
		of.rank = 2
	case d.Forwards():
		of.rank = 0
	}
	return of
}

func (d *device) count() int { return d.ports.Len() + len(d.named) }

// key names a port of the device by its number in it.
func (d *device) key(i int) string {
	if n := d.ports.Len(); i >= n {
		return d.named[i-n]
	}
	return d.ports.Key(i)
}

func (d *device) port(i int) lab.Port {
	if n := d.ports.Len(); i >= n {
		p := lab.Port{Key: d.named[i-n], Face: lab.Front, Family: lab.Unsure, Joined: d.ports.Joined(), Group: -1}
		for _, m := range d.Marks {
			if m.Port == p.Key {
				p.Mark = m
			}
		}
		return p
	}
	return d.ports.At(i)
}

func (d *device) index(key string) (int, bool) {
	if i, ok := d.ports.Index(key); ok {
		return i, true
	}
	if i := slices.Index(d.named, key); i >= 0 {
		return d.ports.Len() + i, true
	}
	return 0, false
}

// socket is one side of a port. far is the socket at the cable's other end and
// through the other side of the same port; -1 where there is none.
type socket struct{ far, through, cable int32 }

// none is the number of no socket and no cable.
const none = int32(-1)

// Of is the wiring of a lab, worked out once for as long as the lab is kept.
func Of(l *lab.Lab) *Wiring { return lab.Derived(l, wire) }

func wire(l *lab.Lab) *Wiring {
	w := &Wiring{lab: l, byID: map[lab.ID]int32{}, optics: map[lab.ID][]lab.Part{}, racks: map[lab.ID]lab.Rack{}}
	w.routes = sync.OnceValue(w.sweep)
	w.feeds = sync.OnceValue(w.feeding)
	for r := range lab.Each[lab.Rack](l) {
		w.racks[r.ID] = r
	}
	for d := range lab.Things(l) {
		w.byID[d.ID] = int32(len(w.devices))
		w.devices = append(w.devices, newDevice(l, d))
	}
	for p := range lab.Each[lab.Part](l) {
		if p.Kind == lab.Transceiver && p.Seat > 0 {
			w.optics[p.Device] = append(w.optics[p.Device], p)
		}
	}
	for c := range lab.Each[lab.Cable](l) {
		w.cables = append(w.cables, c)
	}
	w.plugIn(w.places())
	return w
}

// place is where a cable's end is: a device and a port of it by their numbers.
type place struct {
	device, port int32
	rear         bool
}

// places finds where each end of each cable is, and so the ports that
// wrote down.
func (w *Wiring) places() [][2]place {
	places := make([][2]place, len(w.cables))
	for n := range w.cables {
		c := &w.cables[n]
		for side, e := range [2]*lab.End{c.A, c.B} {
			places[n][side] = place{device: none}
			if e == nil {
				continue
			}
			at := w.byID[e.Device]
			d := &w.devices[at]
			if c.Kind.Cordless() {
				places[n][side] = place{device: at, port: none}
				continue
			}
			i, ok := d.index(e.Port)
			if !ok {
				i = d.count()
				d.named = append(d.named, e.Port)
			}
			places[n][side] = place{at, int32(i), e.Rear}
		}
	}
	return places
}

// plugIn numbers the sockets and puts the cables in.
func (w *Wiring) plugIn(places [][2]place) {
	ports := 0
	for i := range w.devices {
		w.devices[i].from = int32(ports)
		ports += w.devices[i].count()
	}
	w.owner = make([]int32, ports)
	w.sockets = make([]socket, 2*ports)
	for i := range w.devices {
		d := &w.devices[i]
		joined := d.ports.Joined()
		for p := range int32(d.count()) {
			w.owner[d.from+p] = int32(i)
		}
		for p := 2 * d.from; p < 2*(d.from+int32(d.count())); p++ {
			w.sockets[p] = socket{none, none, none}
			if joined {
				w.sockets[p].through = p ^ 1
			}
		}
	}
	w.ends = make([][2]int32, len(w.cables))
	for n, ends := range places {
		w.ends[n] = [2]int32{none, none}
		if w.cables[n].Kind.Cordless() {
			w.air = append(w.air, int32(n))
			continue
		}
		a, b := w.socketAt(ends[0]), w.socketAt(ends[1])
		w.ends[n] = [2]int32{a, b}
		if a == none && b == none {
			w.loose++
		}
		if a != none {
			w.sockets[a].far, w.sockets[a].cable = b, int32(n)
		}
		if b != none {
			w.sockets[b].far, w.sockets[b].cable = a, int32(n)
		}
	}
	for i := range w.devices {
		w.passOn(&w.devices[i])
	}
}

// passOn joins the two ports of a bridging box that has just two in use: a media
// converter, a box at either end of a coax. What comes in goes on.
func (w *Wiring) passOn(d *device) {
	if d.Kind != lab.Bridge {
		return
	}
	var used []int32
	for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
		if w.sockets[s].cable == none {
			continue
		}
		_, i := w.at(s)
		if family, _ := d.ports.Link(i); family == lab.Inlet || family == lab.Outlet {
			continue
		}
		used = append(used, s)
	}
	if len(used) == 2 {
		w.sockets[used[0]].through, w.sockets[used[1]].through = used[1], used[0]
	}
}

// through reports whether a socket is one side of a port that goes through.
func (w *Wiring) through(s int32) bool { return w.sockets[s].through == s^1 }

func (w *Wiring) socketAt(p place) int32 {
	if p.device == none {
		return none
	}
	s := 2 * (w.devices[p.device].from + p.port)
	if p.rear {
		s++
	}
	return s
}

// socketOf finds the socket of an end.
func (w *Wiring) socketOf(e lab.End) (int32, bool) {
	at, ok := w.byID[e.Device]
	if !ok {
		return none, false
	}
	i, ok := w.devices[at].index(e.Port)
	if !ok {
		return none, false
	}
	return w.socketAt(place{at, int32(i), e.Rear}), true
}

// at finds the device and the number in it of the port that a socket is of.
func (w *Wiring) at(socket int32) (*device, int) {
	d := &w.devices[w.owner[socket/2]]
	return d, int(socket/2 - d.from)
}

// end names a socket.
func (w *Wiring) end(socket int32) lab.End {
	d, i := w.at(socket)
	return lab.End{Device: d.ID, Port: d.key(i), Rear: socket%2 == 1}
}

// Lead is one cable of the wiring.
type Lead struct {
	*lab.Cable
	w    *Wiring
	ends [2]int32
}

// Plugged goes through the cables with an end in a port, oldest first.
func (w *Wiring) Plugged(yield func(Lead) bool) {
	for n, ends := range w.ends {
		if (ends[0] != none || ends[1] != none) && !yield(Lead{&w.cables[n], w, ends}) {
			return
		}
	}
}

// Leads goes through all cables, oldest first.
func (w *Wiring) Leads(yield func(Lead) bool) {
	for n := range w.cables {
		if !yield(Lead{&w.cables[n], w, w.ends[n]}) {
			return
		}
	}
}

// LeadOf finds a cable of the wiring.
func (w *Wiring) LeadOf(c lab.Cable) Lead {
	l := Lead{Cable: &c, w: w, ends: [2]int32{none, none}}
	for i, e := range [2]*lab.End{c.A, c.B} {
		if e != nil && !c.Kind.Cordless() {
			if s, ok := w.socketOf(*e); ok {
				l.ends[i] = s
			}
		}
	}
	return l
}

// Count is how many ports and cables there are.
func (w *Wiring) Count() (ports, cables int) { return len(w.sockets) / 2, len(w.cables) }
