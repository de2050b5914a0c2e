package finding

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
)

// found is how a check tells what it noticed; what it answers takes a fix.
type found = func(level Level, say string, about ...lab.Record) *Finding

// nearlyFull is the part of its rating from which a rack's load is watched.
const nearlyFull = 0.9

// overweight compares what a rack carries with what it holds.
func overweight(l *lab.Lab, tell found) {
	for r := range lab.Each[lab.Rack](l) {
		w := rack.WeightOf(l, r)
		if r.HoldsKG == nil {
			continue
		}
		atLeast := ""
		if n := len(w.Unweighed); n > 0 {
			atLeast = "at least "
		}
		say := fmt.Sprintf("%s carries %s%s kg and is rated for %s kg", r.Name, atLeast, number(w.KnownKG), number(*r.HoldsKG))
		if n := len(w.Unweighed); n > 0 {
			say += fmt.Sprintf("; %d of %d devices are not weighed", n, w.Things)
		}
		switch {
		case w.KnownKG > *r.HoldsKG:
			tell(Act, say+".", r)
		case r.Stance == lab.OnCastors && r.MovingKG != nil && w.KnownKG > *r.MovingKG:
			tell(Watch, fmt.Sprintf("%s carries %s%s kg and may be rolled with %s kg: unload it before moving it.", r.Name, atLeast,
				number(w.KnownKG), number(*r.MovingKG)), r)
		case w.KnownKG > nearlyFull**r.HoldsKG:
			tell(Watch, say+".", r)
		}
	}
}

// meetsInDepth looks for a front and a rear device in the same units that are
// together deeper than the rack. An unknown depth is said, not guessed.
func meetsInDepth(l *lab.Lab, tell found) {
	for r := range lab.Each[lab.Rack](l) {
		var fronts, rears []lab.Device
		for _, d := range l.Held(r.Key()) {
			switch {
			case d.At.Where != lab.InUnits:
			case d.At.Face == lab.Front:
				fronts = append(fronts, d)
			default:
				rears = append(rears, d)
			}
		}
		for _, f := range fronts {
			for _, b := range rears {
				if f.At.Unit < b.At.Unit+b.Units() && b.At.Unit < f.At.Unit+f.Units() && rack.FaceEachOther(f, b) {
					tellDepth(l, r, f, b, tell)
				}
			}
		}
	}
}

func tellDepth(l *lab.Lab, r lab.Rack, f, b lab.Device, tell found) {
	units := l.UnitRange(r, f.At.Unit, f.Units())
	front, rear := l.SpecOf(f).DepthMM, l.SpecOf(b).DepthMM
	if front == nil || rear == nil || r.DepthMM == nil {
		var unknown []string
		for _, x := range []struct {
			title string
			depth *float64
		}{{f.Title(), front}, {b.Title(), rear}, {r.Name, r.DepthMM}} {
			if x.depth == nil {
				unknown = append(unknown, x.title)
			}
		}
		tell(Note, fmt.Sprintf("Whether %s and %s collide inside %s at %s is not checked: the depth of %s is unknown.", f.Title(), b.Title(),
			r.Name, units, lab.Listed(unknown, 3)), f, b)
		return
	}
	if need := *front + *rear + rack.CableRoomMM; need > *r.DepthMM {
		tell(Act, fmt.Sprintf("%s (%s mm, front) and %s (%s mm, rear) collide inside %s at %s: with %d mm for cables they need %s mm of %s mm.",
			f.Title(), number(*front), b.Title(), number(*rear), r.Name, units, rack.CableRoomMM, number(need), number(*r.DepthMM)), f, b)
	}
}

// onNothing looks for things without ears that are in a rack's units by
// themselves: they stand on what is below, if there is something.
func onNothing(l *lab.Lab, tell found) {
	for r := range lab.Each[lab.Rack](l) {
		held := l.Held(r.Key())
		for _, d := range held {
			if !l.Loose(d) || d.At.Share != lab.Whole || d.At.Unit == 1 {
				continue
			}
			where := fmt.Sprintf("%s at %s", r.Name, l.UnitRange(r, d.At.Unit, d.Units()))
			below, ok := lab.Below(held, d)
			switch {
			case !ok:
				tell(Watch, fmt.Sprintf("%s is in %s with nothing below it: a %s has no ears. Put it on a shelf, or write down the shelf it is on.",
					d.Title(), where, d.Kind.Words()), d)
			case !below.Kind.Traits().Holds || below.Kind.Traits().Encloses:
				tell(Note, fmt.Sprintf("%s, in %s, stands on %s, which cannot come out without it.", d.Title(), where, below.Title()), d, below)
			}
		}
	}
}

// heavyKG is what one does not want to lift above one's chest.
const heavyKG = 10

// heavyAboveLight looks for racks whose centre of gravity is above half
// height, and for heavy things up there that have lighter ones below them:
// sum(m h) / sum(m) over what is weighed (domain.md, Space). What hangs on a
// wall does not topple.
func heavyAboveLight(l *lab.Lab, tell found) {
	for r := range lab.Each[lab.Rack](l) {
		half := float64(r.HeightU) / 2
		var mounted []lab.Device
		moment, mass := 0.0, 0.0
		for _, d := range l.Held(r.Key()) {
			d.WeightKG = l.SpecOf(d).WeightKG
			if d.At.Where != lab.InUnits || d.WeightKG == nil {
				continue
			}
			mounted = append(mounted, d)
			moment += *d.WeightKG * middle(d)
			mass += *d.WeightKG
		}
		if len(mounted) > 1 && r.Stance != lab.OnWall && moment/mass > half {
			tell(Note, fmt.Sprintf(
				"The centre of gravity of %s is at %sU of %dU, above half height, counting the %d devices in it with known weight.",
				r.Name, number(moment/mass), r.HeightU, len(mounted)), r)
		}
		for _, d := range mounted {
			if *d.WeightKG < heavyKG || middle(d) <= half {
				continue
			}
			if o, ok := lightBelow(mounted, d); ok {
				tell(Note, fmt.Sprintf("%s (%s kg) is at %s of %s, above %s (%s kg): heavy devices belong at the bottom.",
					d.Title(), number(*d.WeightKG), l.UnitRange(r, d.At.Unit, d.Units()), r.Name, o.Title(), number(*o.WeightKG)), d, o)
			}
		}
	}
}

// middle is how high above the rack's foot the middle of a device is, in units.
func middle(d lab.Device) float64 { return float64(d.At.Unit-1) + float64(d.Units())/2 }

// lightBelow finds the lowest thing below a device that weighs no more than
// half of it.
func lightBelow(mounted []lab.Device, d lab.Device) (light lab.Device, ok bool) {
	for _, o := range mounted {
		if o.At.Unit < d.At.Unit && *o.WeightKG <= *d.WeightKG/2 && (!ok || o.At.Unit < light.At.Unit) {
			light, ok = o, true
		}
	}
	return
}

// stateAndPlace looks for things whose state does not go with where they are:
// what is faulty and takes units, and what runs and is nowhere.
func stateAndPlace(l *lab.Lab, tell found) {
	for d := range lab.Things(l) {
		takes := d.At != nil && d.At.Where == lab.InUnits
		switch {
		case takes && d.State == lab.Faulty:
			tell(Watch, fmt.Sprintf("%s is faulty and takes %dU, %s. Repair it, replace it or take it out.", d.Title(), d.Units(),
				rundown.WhereWords(l, d)), d)
		case d.At == nil && d.State == lab.Running:
			tell(Watch, fmt.Sprintf("%s is running, but its place is not documented.", d.Title()), d)
		case d.State == lab.Running && inDrawer(l, d):
			tell(Watch, fmt.Sprintf("%s is running %s.", d.Title(), rundown.WhereWords(l, d)), d)
		}
	}
}

// idle lists in one finding what rests, waits, is spare or leaves and takes
// units, outlets or ports all the same.
func idle(l *lab.Lab, tell found) {
	const named = 12 // one by one
	w := cabling.Of(l)
	level := Note
	var said []string
	var about []lab.Record
	units, outlets, ports := 0, 0, 0
	for d := range lab.Things(l) {
		if d.State == lab.Running || d.State == lab.Faulty {
			continue
		}
		out, in := w.TakenBy(d.ID)
		takes := 0
		if d.At != nil && d.At.Where == lab.InUnits {
			takes = d.Units()
		}
		if takes+out+in == 0 {
			continue
		}
		if takes > 0 && (d.State == lab.Spare || d.State == lab.Leaving) {
			level = Watch
		}
		units, outlets, ports = units+takes, outlets+out, ports+in
		if about = append(about, d); len(said) < named {
			said = append(said, fmt.Sprintf("%s (%s: %s)", d.Title(), d.State, roomWords(takes, out, in)))
		}
	}
	if n := len(about) - len(said); n > 0 {
		said = append(said, fmt.Sprintf("and %d more", n))
	}
	switch len(about) {
	case 0:
	case 1:
		tell(level, "Idle and taking room: "+said[0]+".", about...)
	default:
		tell(level, fmt.Sprintf("%d idle devices take %s: %s.", len(about), roomWords(units, outlets, ports), strings.Join(said, ", ")), about...)
	}
}

// roomWords says what is taken: "2U, 1 outlet, 3 ports".
func roomWords(units, outlets, ports int) string {
	var said []string
	if units > 0 {
		said = append(said, fmt.Sprintf("%dU", units))
	}
	for _, n := range []struct {
		n    int
		word string
	}{{outlets, "outlet"}, {ports, "port"}} {
		switch n.n {
		case 0:
		case 1:
			said = append(said, "1 "+n.word)
		default:
			said = append(said, fmt.Sprintf("%d %ss", n.n, n.word))
		}
	}
	return strings.Join(said, ", ")
}

// inDrawer reports whether something that gets warm is shut in.
func inDrawer(l *lab.Lab, d lab.Device) bool {
	if d.At == nil || d.At.Where != lab.OnDevice || !d.Kind.Traits().Warm {
		return false
	}
	on, _ := lab.Find[lab.Device](l, d.At.Device)
	return on.Kind.Traits().Encloses
}

// notPlaced lists what is nowhere yet; stateAndPlace reports what runs.
func notPlaced(l *lab.Lab, tell found) {
	for d := range lab.Things(l) {
		if d.At != nil || d.State == lab.Running {
			continue
		}
		say := d.Title() + " is not placed yet"
		if d.State == lab.Leaving {
			say = d.Title() + " is leaving but has no place: where is it?"
		} else if d.TakesU != nil {
			say += fmt.Sprintf("; it asks for %dU", *d.TakesU)
		}
		if d.State != lab.Leaving {
			say += "."
		}
		tell(Note, say, d)
	}
}

// number writes a figure to a tenth.
func number(v float64) string { return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64) }
