package cabling

import (
	"slices"

	"levelstaff/core/lab"
)

// Path is a trail in short: the sockets it begins and ends at, and how many
// cables lie between. last is none where its end is open.
type Path struct {
	first, last int32
	pieces      int32
	loop        bool
}

// follow goes from a socket through cables and ports that go through. It ends
// at a device, at an open end, at a port with nothing on its other side, or
// where it began.
func (w *Wiring) follow(from int32) Path {
	p := Path{first: from, last: from}
	for s := from; w.sockets[s].cable != none; {
		p.pieces++
		far := w.sockets[s].far
		p.last = far
		if far == none {
			break
		}
		next := w.sockets[far].through
		if next == none {
			break
		}
		p.last, s = next, next
		if s == from {
			p.loop = true
			break
		}
	}
	return p
}

// starts reports whether trails begin at the socket: it has a cable, and there
// is nothing behind it to come from.
func (w *Wiring) starts(s int32) bool {
	if w.sockets[s].cable == none {
		return false
	}
	back := w.sockets[s].through
	return back == none || w.sockets[back].cable == none
}

// Paths goes through all trails that have an end in a port, each once, from
// the end of the older device.
func (w *Wiring) Paths(yield func(Path) bool) {
	for s := range int32(len(w.sockets)) {
		if !w.starts(s) {
			continue
		}
		p := w.follow(s)
		if p.last != none && w.sooner(w.beginsAt(p), s) {
			continue // told from its other end
		}
		if !yield(p) {
			return
		}
	}
}

// beginsAt is the socket from which the trail would be followed back.
func (w *Wiring) beginsAt(p Path) int32 {
	if t := w.sockets[p.last].through; t != none && w.sockets[p.last].cable == none {
		return t
	}
	return p.last
}

// Stop is a port that a trail passes or ends at.
type Stop struct {
	Device lab.ID `json:"device_id" required:"true"`
	Title  string `json:"title" required:"true"`
	Port   string `json:"port" required:"true"`
	Name   string `json:"name,omitempty" description:"The port's own name"`
	Kind   string `json:"kind" required:"true" enum:"device,joint" description:"Whether the trail ends in it or goes through"`
	Broken bool   `json:"broken,omitempty"`
}

// Leg is one cable of a trail.
type Leg struct {
	Cable   lab.ID         `json:"cable_id" required:"true"`
	Label   string         `json:"label,omitempty"`
	Kind    lab.CableKind  `json:"cable_kind,omitempty"`
	Colour  lab.Colour     `json:"colour,omitempty"`
	Hex     string         `json:"hex,omitempty" description:"How the colour looks"`
	LengthM *float64       `json:"length_m,omitempty" description:"Its own, or its run's"`
	Run     string         `json:"run,omitempty" description:"The name of the run it lies in"`
	State   lab.CableState `json:"state" required:"true"`
}

// TrailEnd is how a trail ends.
type TrailEnd string

// A trail ends in a device's port, at a port that goes on to nothing, at an
// open end, or where it began.
const (
	EndsInPort TrailEnd = "port"
	EndsAtGap  TrailEnd = "nothing"
	EndsOpen   TrailEnd = "open"
	EndsInLoop TrailEnd = "loop"
)

// Enum lists the ends for the published schema.
func (TrailEnd) Enum() []any { return []any{EndsInPort, EndsAtGap, EndsOpen, EndsInLoop} }

// Trail is the whole way from one port to the last one. There is a piece
// between each two stops, and one after the last where the end is open.
type Trail struct {
	Stops   []Stop   `json:"stops" required:"true" nullable:"false"`
	Pieces  []Leg    `json:"pieces" required:"true" nullable:"false"`
	End     TrailEnd `json:"end" required:"true"`
	LengthM float64  `json:"length_m" required:"true" description:"Of the pieces whose length is known"`
	Lacks   int      `json:"unmeasured,omitempty" description:"How many pieces have no known length"`
	Speed   Speed    `json:"speed" required:"true"`
	Broken  []string `json:"broken,omitempty" nullable:"false" description:"What on the way is faulty"`
}

// TrailFrom follows the cable at an end to both of its ends. The trail begins
// in the device of that end where it is one of the two; otherwise at the end
// that is in a port. ok is false where nothing is plugged in.
func (w *Wiring) TrailFrom(e lab.End) (t Trail, ok bool) {
	s, ok := w.socketOf(e)
	if !ok {
		return Trail{}, false
	}
	return w.trailAt(s)
}

// trailAt is the trail that a socket is part of.
func (w *Wiring) trailAt(s int32) (Trail, bool) {
	if w.sockets[s].cable == none {
		if s = w.sockets[s].through; s == none || w.sockets[s].cable == none {
			return Trail{}, false
		}
	}
	p := w.follow(s)
	back := w.sockets[s].through
	if back == none || p.loop {
		return w.detail(p), true
	}
	// In a port that goes through: begin at one of the ends, a device's first.
	before, after := s, none
	var b Path
	if w.sockets[back].cable != none {
		if b = w.follow(back); b.last == none {
			before = none
		} else {
			before = w.beginsAt(b)
		}
	}
	if p.last != none {
		after = w.beginsAt(p)
	}
	switch {
	case before == none && after == none:
		return w.between(b, s), true
	case before == none || after != none && w.sooner(after, before):
		before = after
	}
	return w.detail(w.follow(before)), true
}

// sooner reports whether a trail starts at the one end rather than at the
// other: from a switch's port before any other device's, from that before a
// panel's, from the older one.
func (w *Wiring) sooner(a, b int32) bool {
	if before, after := w.devices[w.owner[a/2]].rank, w.devices[w.owner[b/2]].rank; before != after {
		return before < after
	}
	return a < b
}

// between is the trail that is open at both ends: the pieces behind a socket,
// turned round, and those before it.
func (w *Wiring) between(back Path, s int32) Trail {
	t := w.detail(back)
	slices.Reverse(t.Stops)
	slices.Reverse(t.Pieces)
	on := w.detail(w.follow(s))
	t.Stops = append(t.Stops, on.Stops[1:]...)
	t.Pieces = append(t.Pieces, on.Pieces...)
	t.LengthM += on.LengthM
	t.Lacks += on.Lacks
	t.Broken = append(t.Broken, on.Broken...)
	t.Speed = Speed{}
	return t
}

// detail is the trail of a path, with all that is on the way.
func (w *Wiring) detail(p Path) Trail {
	t := Trail{Stops: make([]Stop, 0, p.pieces+1), Pieces: make([]Leg, 0, p.pieces)}
	u := newSum(w)
	u.along(p)
	t.End = w.endOf(p)
	t.LengthM, t.Lacks, t.Speed = u.lengthM, u.lacks, u.speed(t.End)
	if t.Speed.Mb != nil {
		t.Speed.HeldBy, t.Speed.RestMb = u.held()
	}
	s := p.first
	t.Stops = append(t.Stops, w.stop(s))
	for range p.pieces {
		t.Pieces = append(t.Pieces, w.leg(w.sockets[s].cable))
		far := w.sockets[s].far
		if far == none {
			break
		}
		t.Stops = append(t.Stops, w.stop(far))
		s = w.sockets[far].through
	}
	for _, s := range t.Stops {
		if s.Broken {
			t.Broken = append(t.Broken, s.Title+"/"+s.Port)
		}
	}
	for _, c := range t.Pieces {
		if c.State == lab.CableFaulty {
			t.Broken = append(t.Broken, or(c.Label, or(string(c.Kind), "a cable")))
		}
	}
	return t
}

func or(s, otherwise string) string {
	if s == "" {
		return otherwise
	}
	return s
}

func (w *Wiring) stop(s int32) Stop {
	d, i := w.at(s)
	p := d.port(i)
	stop := Stop{Device: d.ID, Title: d.Title(), Port: p.Key, Name: p.Mark.Name, Kind: "device", Broken: p.Mark.Broken}
	if p.Joined || w.sockets[s].through != none {
		stop.Kind = "joint"
	}
	return stop
}

func (w *Wiring) leg(n int32) Leg {
	c := &w.cables[n]
	p := Leg{Cable: c.ID, Label: c.Label, Kind: c.Kind, Colour: c.Colour, Hex: c.Colour.Hex(), LengthM: w.lengthOf(n), State: c.State}
	if c.Run != "" {
		r, _ := lab.Find[lab.Run](w.lab, c.Run)
		p.Run = r.Name
	}
	return p
}

// lengthOf is a cable's length, its own or its run's; nil while unknown.
func (w *Wiring) lengthOf(n int32) *float64 {
	c := &w.cables[n]
	if c.LengthM != nil || c.Run == "" {
		return c.LengthM
	}
	r, _ := lab.Find[lab.Run](w.lab, c.Run)
	return r.LengthM
}

// endOf is how a path ends.
func (w *Wiring) endOf(p Path) TrailEnd {
	switch {
	case p.loop:
		return EndsInLoop
	case p.last == none:
		return EndsOpen
	case w.sockets[p.last].through != none:
		return EndsAtGap
	}
	return EndsInPort
}

// Trails lists every trail of the lab, each once; those that go round or are
// open at both ends last.
func (w *Wiring) Trails() []Trail {
	trails := []Trail{}
	pieces := 0
	for p := range w.Paths {
		trails = append(trails, w.detail(p))
		pieces += int(p.pieces)
	}
	if pieces < len(w.cables)-len(w.air)-w.loose {
		trails = append(trails, w.Aimless()...)
	}
	return trails
}

// Aimless lists the trails that begin nowhere: those that go round, and those
// that are open at both ends.
func (w *Wiring) Aimless() []Trail {
	seen := make([]bool, len(w.cables))
	mark := func(p Path) {
		s := p.first
		for range p.pieces {
			seen[w.sockets[s].cable] = true
			far := w.sockets[s].far
			if far == none {
				return
			}
			s = w.sockets[far].through
		}
	}
	for p := range w.Paths {
		mark(p)
	}
	var trails []Trail
	for s := range int32(len(w.sockets)) {
		n := w.sockets[s].cable
		if n == none || seen[n] {
			continue
		}
		t, _ := w.trailAt(s)
		trails = append(trails, t)
		mark(w.follow(s))
		if back := w.sockets[s].through; back != none && w.sockets[back].cable != none {
			mark(w.follow(back))
		}
	}
	return trails
}

// TrailsOf lists the trails at a device's ports in the order of the ports, the
// device's own end first; and its links through the air last.
func (w *Wiring) TrailsOf(id lab.ID) []Trail {
	trails := []Trail{}
	at, ok := w.byID[id]
	if !ok {
		return trails
	}
	d := &w.devices[at]
	for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
		back := w.sockets[s].through
		if w.sockets[s].cable == none || back != none && back < s && w.sockets[back].cable != none {
			continue // nothing there, or told from its other side
		}
		if t, ok := w.trailAt(s); ok {
			trails = append(trails, t)
		}
	}
	return append(trails, w.airOf(id)...)
}

// airOf lists a device's links without a cable.
func (w *Wiring) airOf(id lab.ID) []Trail {
	var trails []Trail
	for _, n := range w.air {
		c := &w.cables[n]
		near, far := c.A, c.B
		if near == nil || near.Device != id {
			near, far = far, near
		}
		if near == nil || near.Device != id {
			continue
		}
		t := Trail{Pieces: []Leg{w.leg(n)}, End: EndsOpen, Speed: Speed{Mb: c.SpeedMb}}
		for _, e := range []*lab.End{near, far} {
			if e != nil {
				d, _ := lab.Find[lab.Device](w.lab, e.Device)
				t.Stops = append(t.Stops, Stop{Device: d.ID, Title: d.Title(), Port: e.Port, Kind: "device"})
			}
		}
		if far != nil {
			t.End = EndsInPort
		}
		trails = append(trails, t)
	}
	return trails
}
