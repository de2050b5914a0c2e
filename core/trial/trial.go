// Package trial is a made-up rack that somebody new can try things in, and the
// first lines to write there. It is in the lab like anything else, and goes again
// with everything that was done to it.
package trial

import (
	_ "embed"
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

//go:embed trial.rundown
var text string

// The ids of what was made up begin alike, so that it is known again after a
// restart, and after it was renamed.
const prefix = "trial-"

// Rack is the made-up rack.
const Rack = lab.ID(prefix + "01")

// Line is a line to write, and what it shows.
type Line struct {
	Line string `json:"line" required:"true"`
	Says string `json:"says" required:"true"`
	Done bool   `json:"done" required:"true" description:"The lab says it already"`
}

// Lines are the first lines to write, each for the rack as the one before left it,
// and whether they are written: a line that would change nothing is.
func Lines(l *lab.Lab) []Line {
	lines := firstLines()
	for i := range lines {
		p := rundown.Load(l, rundown.ParseLine(lines[i].Line), rundown.Options{Rack: Rack, NewID: func() lab.ID { return prefix + "new" }})
		lines[i].Done = len(p.Mistakes) == 0 && len(p.Changes) == 0
	}
	return lines
}

func firstLines() []Line {
	return []Line{
		{Line: `7 mini pc "wren": 1U, 16GB, 8W, 1 port 1G`, Says: "A thing: the unit it is in, what it is, its name, and what is known of it."},
		{Line: `wren: 1.2kg, paid 140 used 2024-03`, Says: "More of it, whenever you come across it: its name is enough."},
		{Line: `middle/4 - wren 1m blue`, Says: "A cable, from port to port. A port that goes without saying is left out."},
		{Line: `cellar: 4x 16GB ddr4, 2x 8-core`, Says: "What is inside: four modules and two processors, in the next free slots."},
		{Line: `3-4 nas "barn"`, Says: "It moves, with its drives and its cables."},
	}
}

// Begin puts the made-up rack into a lab. The error says why it cannot.
func Begin(l *lab.Lab) ([]lab.Change, error) {
	if is, there := lab.Find[lab.Rack](l, Rack); there {
		return nil, fmt.Errorf("the made-up rack is there already, as %s", is.Name)
	}
	n := 0
	p := rundown.Load(l, rundown.Parse(text), rundown.Options{NewID: func() lab.ID {
		n++
		return lab.ID(fmt.Sprintf("%s%02d", prefix, n))
	}})
	if len(p.Mistakes) > 0 {
		return nil, errors.New(p.Mistakes[0].Say)
	}
	for _, c := range p.Changes {
		if c.Before != nil {
			return nil, fmt.Errorf("the made-up rack would change %s, which is yours", c.Before.Title())
		}
	}
	return p.Changes, nil
}

// ThrowAway takes the made-up things out of a lab, with what was put into the rack
// or plugged into them since. All else stays.
func ThrowAway(l *lab.Lab) []lab.Change {
	going := map[lab.ID]bool{}
	var keys []lab.Key
	take := func(k lab.Key) {
		if !going[k.ID] {
			going[k.ID] = true
			keys = append(keys, k)
		}
	}
	for _, kind := range lab.Kinds() {
		for r := range l.Records(kind.RecordKind) {
			if strings.HasPrefix(string(r.Key().ID), prefix) {
				take(r.Key())
			}
		}
	}
	for d := range lab.Each[lab.Device](l) {
		if r, in := l.RackOf(d); in && r.ID == Rack {
			take(d.Key())
		}
	}
	for c := range lab.Each[lab.Cable](l) {
		for _, e := range c.Ends() {
			if going[e.Device] {
				take(c.Key())
			}
		}
	}
	return l.Removal(keys...)
}
