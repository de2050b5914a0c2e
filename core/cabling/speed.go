package cabling

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Speed is what a whole way carries: the highest speed both ends and every
// piece between can.
type Speed struct {
	Mb     *int   `json:"mb,omitempty" description:"In Mbit/s; absent while unknown, 0 where it carries nothing"`
	AtMost bool   `json:"at_most,omitempty" description:"Something on the way is unknown, so it may be less"`
	HeldBy string `json:"held_by,omitempty" description:"What carries less than all the rest"`
	RestMb int    `json:"rest_mb,omitempty" description:"What the rest would carry"`
}

// Words says the speed as one speaks: "10 Gb/s", "at most 1 Gb/s", "?".
func (s Speed) Words() string {
	switch {
	case s.Mb == nil:
		return "?"
	case *s.Mb == 0:
		return "no link"
	case s.AtMost:
		return "at most " + SpeedWords(*s.Mb)
	}
	return SpeedWords(*s.Mb)
}

// SpeedWords is a speed in Mbit/s as one speaks: "100 Mb/s", "2.5 Gb/s".
func SpeedWords(mb int) string {
	if mb < 1000 {
		return fmt.Sprintf("%d Mb/s", mb)
	}
	return strings.TrimSuffix(strings.TrimSuffix(fmt.Sprintf("%.1f", float64(mb)/1000), ".0"), ".") + " Gb/s"
}

// limit is what one thing on the way allows at most: a port, by its socket, or
// a cable, by its number.
type limit struct {
	port, cable int32
	mb          int
}

// segment is a piece of the way between two boxes, by the place of its first
// cable and its length: a channel, which is as long as all its pieces.
type segment struct {
	first   int
	lengthM float64
}

func (w *Wiring) limitWords(l limit) string {
	if l.cable != none {
		p := w.leg(l.cable)
		k, _ := KindOf(p.Kind)
		return or(p.Label, or(p.Run, k.Name))
	}
	d, i := w.at(l.port)
	return d.Title() + " " + d.key(i)
}

// sum gathers what is on a trail's way. One is used for one trail after
// another.
type sum struct {
	w       *Wiring
	ends    [2][]int // the speeds of the ports it ends in; nil while unknown
	ended   int
	limits  []limit
	cables  []int32
	parts   []segment // of the cables
	carries int       // the least that a link is said to carry; 0 where none is
	fast    int       // what the faster of the two ports could
	lengthM float64
	lacks   int
	network bool
	misfit  bool // a cable does not fit a port on the way
	unfit   bool // and it is known which kind it is, so that it is not a transceiver that nobody wrote down
}

func newSum(w *Wiring) *sum { return &sum{w: w} }

func (u *sum) reset() {
	*u = sum{w: u.w, limits: u.limits[:0], cables: u.cables[:0], parts: u.parts[:0]}
}

// end takes the port a trail begins or ends in.
func (u *sum) end(socket int32) {
	d, i := u.w.at(socket)
	if d.ports.Joined() || u.ended == 2 {
		return // the way ends at a panel: that is no end of a link
	}
	family, speeds := u.w.linkAt(d, i)
	u.takes(speeds)
	if n := len(speeds); n > 0 {
		u.limits = append(u.limits, limit{socket, none, speeds[n-1]})
		u.fast = max(u.fast, speeds[n-1])
	}
	u.network = u.network || family == lab.Copper || family == lab.Cages || family == lab.Fibre
}

// takes is an end that runs at such speeds.
func (u *sum) takes(speeds []int) {
	u.ends[u.ended] = speeds
	u.ended++
}

// joint takes a port that the trail goes through.
func (u *sum) joint(socket int32) {
	d, i := u.w.at(socket)
	if _, speeds := u.w.linkAt(d, i); len(speeds) > 0 {
		u.limits = append(u.limits, limit{socket, none, speeds[len(speeds)-1]})
	}
}

func (u *sum) cable(n int32) {
	if len(u.parts) == 0 {
		u.parts = append(u.parts, segment{})
	}
	if m := u.w.lengthOf(n); m == nil {
		u.lacks++
	} else {
		u.lengthM += *m
		u.parts[len(u.parts)-1].lengthM += *m
	}
	u.cables = append(u.cables, n)
	if u.w.misfit(n) {
		_, known := KindOf(u.w.cables[n].Kind)
		u.misfit, u.unfit = true, u.unfit || known
	}
	if mb := u.w.cables[n].SpeedMb; mb != nil {
		u.limits = append(u.limits, limit{none, n, *mb})
		u.network = true
		if u.carries == 0 || *mb < u.carries {
			u.carries = *mb
		}
	}
}

// box takes a bridging box on the way, at whose ports one channel ends and
// another begins.
func (u *sum) box(in, out int32) {
	u.joint(in)
	u.joint(out)
	u.network = true
	u.parts = append(u.parts, segment{first: len(u.cables)})
}

// along gathers everything on a path's way.
func (u *sum) along(p Path) {
	s := p.first
	u.end(s)
	for range p.pieces {
		u.cable(u.w.sockets[s].cable)
		far := u.w.sockets[s].far
		if far == none {
			return
		}
		if s = u.w.sockets[far].through; s == none {
			u.end(far)
			return
		}
		if u.w.through(far) {
			u.joint(far)
		} else {
			u.box(far, s)
		}
	}
}

// speed works the speed out, without who holds it down. A channel's length
// counts every piece, so the cables are asked what they carry over all of it.
func (u *sum) speed(end TrailEnd) Speed {
	unsure, ports := u.lacks > 0, u.least()
	for at, n := range u.cables {
		k, ok := KindOf(u.w.cables[n].Kind)
		if !ok {
			unsure = true
			continue
		}
		if len(k.Carries) > 0 {
			u.limits = append(u.limits, limit{none, n, k.Most(u.channelOf(at), ports)})
		}
	}
	if !u.network || u.misfit || end != EndsInPort || u.ended < 2 {
		return Speed{}
	}
	a, b := u.ends[0], u.ends[1]
	if len(a) == 0 || len(b) == 0 {
		if len(a) == 0 {
			a = b
		}
		if len(a) == 0 && u.carries == 0 {
			return Speed{}
		}
		if len(a) == 0 { // what a link is said to carry is measured
			return Speed{Mb: &u.carries}
		}
		unsure, b = true, a
	}
	mb := 0
	if u.carries > 0 {
		mb = min(common(a, b, math.MaxInt), u.least()) // a link by another medium need not carry what a port runs at
	} else {
		mb = common(a, b, u.least())
	}
	return Speed{Mb: &mb, AtMost: unsure && mb > 0}
}

// common is the fastest that both ends run at, and what is between them allows; 0
// where there is none.
func common(a, b []int, most int) int {
	mb := 0
	for _, s := range a {
		if s <= most && slices.Contains(b, s) {
			mb = max(mb, s)
		}
	}
	return mb
}

// channelOf is how long the channel is that a cable of the way is part of.
func (u *sum) channelOf(at int) float64 {
	m := 0.0
	for _, p := range u.parts {
		if p.first <= at {
			m = p.lengthM
		}
	}
	return m
}

// least is the least that anything on the way allows; 0 while nothing is known.
func (u *sum) least() int {
	if len(u.limits) == 0 {
		return 0
	}
	return slices.MinFunc(u.limits, func(a, b limit) int { return a.mb - b.mb }).mb
}

// held says who allows less than all the rest, and what the rest would carry;
// "" where all allow as much.
func (u *sum) held() (string, int) {
	var names []string
	least, rest := u.least(), 0
	for _, l := range u.limits {
		if l.mb > least && (rest == 0 || l.mb < rest) {
			rest = l.mb
		}
	}
	if rest == 0 {
		return "", 0
	}
	for _, l := range u.limits {
		if l.mb != least {
			continue
		}
		if name := u.w.limitWords(l); !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return lab.Listed(names, 3), rest
}

// Route is a trail in figures: how long it is and what it carries.
type Route struct {
	Path
	LengthM float64
	Lacks   int   // cables of unknown length
	Speed   Speed // without who holds it down
	FastMb  int   // what the faster of its two ports could
	PortMb  int   // the least that a port on the way allows; 0 while unknown
	CableMb int   // the least that a cable of the way carries over all of it; -1 where none carries a network
	Misfit  bool  // a cable whose kind is known does not fit a port on the way
	w       *Wiring
}

// Back reports whether the route leads back to the device it begins in.
func (r Route) Back() bool {
	return r.last != none && !r.loop && r.w.owner[r.first/2] == r.w.owner[r.last/2] && r.w.sockets[r.last].through == none
}

// Trail is the route with all that is on the way.
func (r Route) Trail() Trail { return r.w.detail(r.Path) }

// Routes goes through all trails that have an end in a port, each once, in
// figures alone.
func (w *Wiring) Routes(yield func(Route) bool) {
	for _, r := range w.routes() {
		if !yield(r) {
			return
		}
	}
}

// sweep works all routes out.
func (w *Wiring) sweep() []Route {
	routes := make([]Route, 0, len(w.cables)/2)
	u := newSum(w)
	for p := range w.Paths {
		u.reset()
		u.along(p)
		r := Route{Path: p, w: w, Speed: u.speed(w.endOf(p)), LengthM: u.lengthM, Lacks: u.lacks, FastMb: u.fast, CableMb: -1, Misfit: u.unfit}
		for _, l := range u.limits {
			switch {
			case l.cable == none && (r.PortMb == 0 || l.mb < r.PortMb):
				r.PortMb = l.mb
			case l.cable != none && (r.CableMb < 0 || l.mb < r.CableMb):
				r.CableMb = l.mb
			}
		}
		routes = append(routes, r)
	}
	return routes
}

// What ports run at that say one speed, or none, in Mbit/s. Copper negotiates
// the fastest that both ends do (IEEE 802.3 clause 28), so that a 2.5G port runs
// at 1G too; a cage takes the slower modules of its family (SFF-8402, SFF-8436).
var (
	copperMb = []int{10, 100, 1000, 2500, 5000, 10_000, 25_000, 40_000}
	cageMb   = map[string][]int{"sfp": {100, 1000}, "sfp+": {1000, 10_000}, "xfp": {10_000}, "sfp28": {1000, 10_000, 25_000},
		"qsfp": {4000}, "qsfp+": {10_000, 40_000}, "qsfp28": {40_000, 100_000}}
)

// fallBack is what a port runs at that says one speed or none: nothing faster
// than it says, and nothing where its connector does not tell either.
func fallBack(family lab.Family, connector string, speeds []int) []int {
	steps := copperMb
	if family == lab.Cages {
		steps = cageMb[connector]
	}
	if len(speeds) == 0 {
		if family == lab.Cages {
			return steps
		}
		return nil
	}
	n := 0
	for n < len(steps) && steps[n] < speeds[0] {
		n++
	}
	if n < len(steps) && steps[n] == speeds[0] {
		return steps[:n+1]
	}
	return append(steps[:n:n], speeds[0])
}

// linkAt is a port's family and what it runs at: for a cage no more than what
// sits in it. Speeds rise; they are nil while unknown.
func (w *Wiring) linkAt(d *device, i int) (lab.Family, []int) {
	family, speeds := d.ports.Link(i)
	if len(speeds) < 2 && (family == lab.Copper || family == lab.Cages) {
		speeds = fallBack(family, d.ports.Connector(i), speeds)
	}
	if family != lab.Cages {
		return family, speeds
	}
	t, ok := w.transceiver(d, i)
	switch {
	case !ok || t.SpeedMb == nil:
		return family, speeds
	case len(speeds) == 0 || slices.Contains(speeds, *t.SpeedMb):
		return family, []int{*t.SpeedMb}
	}
	return family, slices.DeleteFunc(slices.Clone(speeds), func(mb int) bool { return mb > *t.SpeedMb })
}

// transceiver finds what sits in a cage.
func (w *Wiring) transceiver(d *device, i int) (lab.Part, bool) {
	for _, p := range w.optics[d.ID] {
		if p.Seat == d.ports.Cage(i) {
			return p, true
		}
	}
	return lab.Part{}, false
}

// connectorOf is what a cable is plugged into at a port: the transceiver's
// connector where one sits in a cage.
func (w *Wiring) connectorOf(d *device, i int, p lab.Port) (string, lab.Family) {
	if p.Family == lab.Cages {
		if t, ok := w.transceiver(d, i); ok {
			if t.Takes == "" {
				return "", lab.Unsure
			}
			return t.Takes, lab.FamilyOf(t.Takes)
		}
	}
	return p.Connector, p.Family
}
