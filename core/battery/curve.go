// Package battery works out how long UPSs hold what hangs on them when the mains fail, and
// what is down by then: minutes by the maker's points or by energy, shutting down in order,
// and starting again.
//
// Powers are W, energies Wh, times minutes or seconds as their names say.
package battery

import (
	"cmp"
	"math"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// efficiency is what comes out of a battery at the outlets of a UPS, where that does not
// say; octave how far beyond the maker's points their ends are carried on.
const (
	efficiency = 0.88
	octave     = 2
)

// Basis is what minutes rest on.
type Basis string

// The maker's points or a trial, the energy of its batteries, or nothing that is known.
const (
	ByPoints Basis = "points"
	ByEnergy Basis = "energy"
	Unknown  Basis = "unknown"
)

// Curve is how long a UPS holds each load.
type Curve struct {
	Rests  Basis
	Left   float64 // the part of what it held new that its batteries still hold
	Aged   bool    // that is known
	Tried  bool    // its one point is at a load that nobody said: the one it has
	points []point // the least load first
	energy float64 // W x min, of what is reckoned by energy, age and efficiency in it
	new    float64 // the same without age
	bypass bool
}

type point struct{ w, min float64 }

// CurveOf is the curve of a UPS on a day; tried is the load in W at which it was tried
// where somebody said minutes alone.
func CurveOf(l *lab.Lab, ups lab.Device, today lab.Day, tried float64) Curve {
	spec := l.SpecOf(ups)
	c := Curve{Rests: Unknown, Left: 1, bypass: ups.Bypass}
	gives := efficiency
	if spec.Efficiency != nil {
		gives = *spec.Efficiency
	}
	const minutes = 60
	inside, outside, batteries := 0.0, 0.0, 0
	newInside, newOutside := 0.0, 0.0
	for _, p := range l.PartsOf(ups.ID) {
		if p.Kind != lab.Battery || p.State != lab.Running || p.Ordered {
			continue
		}
		left, sure := p.Left(today)
		if !p.Outside {
			c.Left = min(c.Left, left) // in a row the weakest ends it
			c.Aged = sure && (batteries == 0 || c.Aged)
			batteries++
		}
		if p.EnergyWh == nil {
			continue
		}
		if e := minutes * *p.EnergyWh * gives; p.Outside {
			outside, newOutside = outside+e*left, newOutside+e
		} else {
			inside, newInside = inside+e*left, newInside+e
		}
	}
	for _, r := range spec.Runtimes {
		if r.W != nil {
			c.points = append(c.points, point{*r.W, r.Minutes * c.Left})
		}
	}
	if i := slices.IndexFunc(spec.Runtimes, func(r lab.Runtime) bool { return r.W == nil }); i >= 0 && len(c.points) == 0 && tried > 0 {
		c.points, c.Tried = []point{{tried, spec.Runtimes[i].Minutes}}, true // by its batteries as they were that day
	}
	switch {
	case len(c.points) > 0:
		c.Rests, c.energy, c.new = ByPoints, outside, newOutside
	case inside+outside > 0:
		c.Rests, c.energy, c.new = ByEnergy, inside+outside, newInside+newOutside
	}
	return c
}

// Minutes is how long it holds a load in W. Between two of the maker's points minutes run
// straight on logarithmic scales, and so do the ends for an octave; of one point, and of
// energy, W x min stay the same. Beyond is set where that goes further than the points
// tell. Known is false where nothing is known, or where there is no load.
func (c Curve) Minutes(w float64) (minutes float64, beyond, known bool) {
	switch {
	case c.bypass:
		return 0, false, true
	case c.Rests == Unknown || w <= 0:
		return 0, false, false
	}
	if len(c.points) > 0 {
		minutes, beyond = c.byPoints(w)
	}
	return minutes + c.energy/w, beyond, true
}

func (c Curve) byPoints(w float64) (minutes float64, beyond bool) {
	n := len(c.points)
	first, last := c.points[0], c.points[n-1]
	if n == 1 {
		return first.w * first.min / w, true
	}
	if w < first.w/octave {
		w, beyond = first.w/octave, true // no longer than it surely does
	}
	i := 1
	for i < n-1 && w > c.points[i].w {
		i++
	}
	a, b := c.points[i-1], c.points[i]
	slope := math.Log(b.min/a.min) / math.Log(b.w/a.w)
	return a.min * math.Pow(w/a.w, slope), beyond || w > last.w*octave
}

// Hold is how long a UPS holds what hangs on it now.
type Hold struct {
	Node    int32
	LoadW   float64
	AtLeast bool // the load is: something behind it is not known
	Minutes float64
	Known   bool
	Beyond  bool
	Curve   Curve
}

// Of lists the UPSs of a lab that run, by title, with how long they hold. Where somebody
// said minutes alone, they are at the load that the UPS has in the lab as it was said.
func Of(l, said *lab.Lab, today lab.Day) []Hold {
	g := power.Of(l)
	var list []Hold
	for i := range g.Nodes() {
		if is := &g.Nodes()[i]; is.Kind == power.UPSNode && is.Device.State == lab.Running {
			list = append(list, holdOf(l, said, g, int32(i), today))
		}
	}
	slices.SortStableFunc(list, func(a, b Hold) int { return cmpTitles(g, a.Node, b.Node) })
	return list
}

func holdOf(l, said *lab.Lab, g *power.Grid, n int32, today lab.Day) Hold {
	is := &g.Nodes()[n]
	h := Hold{Node: n, LoadW: g.Flow().Load(n).W[power.Typical], AtLeast: g.Flow().Rests[n][power.Typical].Lacks() > 0}
	h.Curve = CurveOf(l, *is.Device, today, triedAt(said, is.Key))
	h.Minutes, h.Beyond, h.Known = h.Curve.Minutes(h.LoadW)
	return h
}

// triedAt is the load that a UPS has in the lab in which somebody said how long it holds.
func triedAt(said *lab.Lab, key lab.Key) float64 {
	g := power.Of(said)
	if n, ok := g.Number(key); ok {
		return g.Flow().Load(n).W[power.Typical]
	}
	return 0
}

func cmpTitles(g *power.Grid, a, b int32) int {
	return cmp.Or(cmp.Compare(g.Nodes()[a].Title, g.Nodes()[b].Title), cmp.Compare(a, b))
}

// New is the curve with new batteries.
func (c Curve) New() Curve {
	fresh := c
	fresh.points = slices.Clone(c.points)
	if !c.Tried {
		for i := range fresh.points {
			fresh.points[i].min /= c.Left
		}
	}
	fresh.energy, fresh.Left = c.new, 1
	return fresh
}

// Other is another UPS, or a make of them.
type Other struct {
	Name  string
	Curve Curve
}

// Others lists the other UPSs of a lab and the makes of them that are written down,
// with how long they hold: the makes new.
func Others(l *lab.Lab, but lab.ID, today lab.Day) []Other {
	var list []Other
	for d := range lab.Things(l) {
		if d.Kind == lab.UPS && d.ID != but {
			list = append(list, Other{d.Title(), CurveOf(l, d, today, 0)})
		}
	}
	for s := range lab.Each[lab.SpecSheet](l) {
		if s.Kind == lab.UPS {
			list = append(list, Other{s.Title(), CurveOf(l, lab.Device{Spec: s.Spec}, today, 0)})
		}
	}
	return slices.DeleteFunc(list, func(o Other) bool { return o.Curve.Rests == Unknown })
}

// ToHold is how long a UPS is to hold, in minutes; nil where nobody said.
func ToHold(l *lab.Lab, ups lab.Device) *float64 {
	if ups.ToHoldMin != nil {
		return ups.ToHoldMin
	}
	return l.Settings().ToHoldMin
}

// HeldBy lists what runs by a UPS when the mains fail, by title.
func HeldBy(g *power.Grid, i *power.Island, ups int32) []int32 {
	list := slices.DeleteFunc(i.HeldBy(ups), func(n int32) bool { return !runs(&g.Nodes()[n]) })
	slices.SortFunc(list, func(a, b int32) int { return cmpTitles(g, a, b) })
	return list
}
