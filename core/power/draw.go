package power

import (
	"levelstaff/core/lab"
)

// What a drive of 3.5 inches with platters draws, in W: while it spins up, about 10 s,
// and at least after that.
const (
	spinUpW   = 25
	spinningW = 6
)

// Power factors where none is said: of supplies with correction, and of small bricks.
const (
	corrected = 0.95
	ofBricks  = 0.6
)

// Draw is what a thing draws itself, without what it feeds.
type Draw struct {
	W     Watts
	Basis [levels]Basis
}

// inside is what the parts of a device come to.
type inside struct {
	platters int     // drives of 3.5 inches with platters
	designW  float64 // of its processors and cards
	supplyW  float64 // of its smallest supply, 0 while unknown
}

func (in *inside) add(p lab.Part) {
	switch {
	case p.State != lab.Running || p.Ordered:
	case p.Kind == lab.Drive && p.Form == "3.5in" && p.Medium != "ssd":
		in.platters++
	case (p.Kind == lab.Processor || p.Kind == lab.Card) && p.DesignW != nil:
		in.designW += *p.DesignW
	case p.Kind == lab.Supply && p.GivesW != nil && (in.supplyW == 0 || *p.GivesW < in.supplyW):
		in.supplyW = *p.GivesW
	}
}

// drawOf is what a device draws at each level: what was measured goes before what its
// sheet says, that before what its parts draw at least. What rests draws its standby,
// unless all is on; what is spare, faulty, not set up or leaving draws nothing.
func drawOf(spec lab.Spec, d lab.Device, in inside, allOn bool) Draw {
	switch {
	case d.State == lab.Running, d.State == lab.Resting && allOn:
		return running(spec, d, in)
	case d.State == lab.Resting:
		var draw Draw
		for level := range levels {
			draw.say(level, spec.StandbyW, BySheet)
		}
		return draw
	}
	return Draw{}
}

func (d *Draw) say(level int, w *float64, by Basis) {
	if d.Basis[level] = Unknown; w != nil {
		d.W[level], d.Basis[level] = *w, by
	}
}

// running is the draw of what runs. A level of which nothing is known draws at least
// what the one below it does, and what its parts do.
func running(spec lab.Spec, d lab.Device, in inside) Draw {
	var draw Draw
	for level, w := range []*float64{spec.StandbyW, spec.IdleW, spec.TypicalW, spec.MostW} {
		draw.say(level, w, BySheet)
	}
	if spec.IdleW == nil && spec.StandbyW == nil && spec.MostW == nil { // one figure alone is what it draws, idle or not
		draw.say(Idle, spec.TypicalW, BySheet)
	}
	if m := d.Measured; m != nil && m.W != nil {
		draw.say(Typical, m.W, Measured)
		for level := range Typical { // a sheet that says more for less is wrong
			draw.W[level] = min(draw.W[level], *m.W)
		}
		draw.W[Most] = max(draw.W[Most], *m.W)
	}
	drives := spinningW * float64(in.platters)
	for level, parts := range map[int]float64{Idle: drives, Typical: drives, Most: drives + in.designW} {
		if draw.Basis[level] == Unknown {
			draw.W[level] = max(draw.W[level], parts)
		}
	}
	for level := Idle; level <= Most; level++ {
		if draw.Basis[level] != Unknown {
			continue
		}
		draw.W[level] = max(draw.W[level], draw.W[level-1])
		if draw.W[level] > 0 {
			draw.Basis[level] = WorkedOut
		}
	}
	if spec.BootW != nil {
		draw.say(Boot, spec.BootW, BySheet)
		return draw
	}
	at := in.platters
	if d.OneByOne {
		at = min(at, 1)
	}
	draw.W[Boot], draw.Basis[Boot] = draw.W[Typical]+spinUpW*float64(at), draw.Basis[Typical]
	if draw.Basis[Boot] == Unknown && at > 0 {
		draw.Basis[Boot] = WorkedOut
	}
	return draw
}

// Average is what a device draws over a day or a week in W, by the hours it runs at each
// level; in those that are left it draws its standby, as far as that is known.
func Average(draw Draw, times []lab.RunTime) (w float64, known bool) {
	if len(times) == 0 {
		return draw.W[Typical], draw.Basis[Typical] == Measured || draw.Basis[Typical] == BySheet || draw.Basis[Typical] == Off
	}
	const day = 24
	left, known := float64(day), true
	add := func(level int, hours float64) {
		w += draw.W[level] * hours / day
		known = known && draw.Basis[level] != Unknown && draw.Basis[level] != WorkedOut
		left -= hours
	}
	for _, t := range times {
		add(Level(t.Level), t.HoursADay())
	}
	if left > 1e-6 {
		add(Standby, left)
	}
	return w, known
}
