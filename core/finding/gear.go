package finding

import (
	"fmt"
	"strings"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// doesNotFit looks for things that are too wide, too deep or on the wrong
// rails for the rack they are in. What is behind them is reported by
// meetsInDepth, the rack's whole load by overweight, and a missing measure is
// a gap.
func doesNotFit(l *lab.Lab, tell found) {
	for d := range lab.Things(l) {
		if d.At == nil || d.At.Where != lab.InUnits {
			continue
		}
		r, _ := lab.Find[lab.Rack](l, d.At.Rack)
		for _, c := range rack.Measures(rack.ThingOf(l, d), r, d.At.Share) {
			if c.Outcome == rack.NoFit {
				tell(Act, fmt.Sprintf("%s does not fit: %s", d.Title(), lower(c.Say)), d)
				break
			}
		}
	}
}

// lower starts a sentence in the middle of another.
func lower(s string) string {
	if strings.HasPrefix(s, "It ") {
		return "it " + s[3:]
	}
	return s
}

// shelves compares what stands on a thing with what that may carry.
func shelves(l *lab.Lab, tell found) {
	for d := range lab.Things(l) {
		holds := l.SpecOf(d).HoldsKG
		if holds == nil {
			continue
		}
		known, unknown := 0.0, 0
		for _, on := range l.Held(d.Key()) {
			if w := l.SpecOf(on).WeightKG; w != nil {
				known += *w
			} else {
				unknown++
			}
		}
		if known > *holds {
			atLeast := ""
			if unknown > 0 {
				atLeast = "at least "
			}
			tell(Act, fmt.Sprintf("%s carries %s%s kg and is rated for %s kg.", d.Title(), atLeast, number(known), number(*holds)), d)
		}
	}
}

// sentence has a capital at its start, unless that is the device's own name.
func sentence(d lab.Device, say string) string {
	if strings.HasPrefix(say, d.Title()) {
		return say
	}
	return text.Capital(say)
}

// parts looks for parts that do not fit their devices.
func parts(l *lab.Lab, tell found) {
	for d := range lab.Things(l) {
		for _, t := range gear.Troubles(l, d) {
			level := Watch
			if t.Sure {
				level = Act
			}
			about := []lab.Record{d}
			if len(t.Parts) == 1 {
				about = append(about, t.Parts[0])
			}
			tell(level, sentence(d, t.Say), about...)
		}
	}
}

// batteries looks for batteries of unknown age in things that run on them.
func batteries(l *lab.Lab, tell found) {
	for p := range lab.Each[lab.Part](l) {
		d, in := lab.Find[lab.Device](l, p.Device)
		if p.Kind == lab.Battery && in && p.PutIn == "" && d.State == lab.Running {
			tell(Note, fmt.Sprintf("When the battery of %s was put in is unknown.", d.Title()), d, p)
		}
	}
}

// faultyParts looks for faulty parts in things that run.
func faultyParts(l *lab.Lab, tell found) {
	for p := range lab.Each[lab.Part](l) {
		d, in := lab.Find[lab.Device](l, p.Device)
		if p.State == lab.Faulty && in && d.State == lab.Running {
			tell(Act, fmt.Sprintf("%s: the %s is faulty, and %s is running.", rundown.PartWhere(l, p), p.Kind, d.Title()), d, p)
		}
	}
}
