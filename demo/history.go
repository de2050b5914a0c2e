package demo

import (
	"errors"
	"fmt"
	"time"

	"levelstaff/core/draft"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Moment is a change in Quarry House's past.
type Moment struct {
	At    time.Time
	Label string // "" where the change speaks for itself
	Build func(*lab.Lab) ([]lab.Change, error)
}

// History is how Quarry House came to be what it is on that day: what the
// rundowns say, a few things earlier, then what happened since, and what is
// planned.
func History(today time.Time, newID func() lab.ID) ([]Moment, error) {
	texts, err := Texts()
	if err != nil {
		return nil, err
	}
	var docs []rundown.Document
	for _, text := range texts {
		docs = append(docs, rundown.Parse(text))
	}
	plan := rundown.Load(lab.New(), rundown.Join(docs...), rundown.Options{All: true, NewID: newID})
	if len(plan.Mistakes) > 0 {
		return nil, fmt.Errorf("the demo lab: %w", plan.Mistakes[0])
	}
	then, err := earlier(plan.Lab, plan.Changes)
	if err != nil {
		return nil, err
	}
	ago := func(days, hour int) time.Time {
		return time.Date(today.Year(), today.Month(), today.Day()-days, hour, 12, 0, 0, today.Location())
	}
	on := func(days int) lab.Day { return lab.DayOf(ago(days, 12)) }
	return []Moment{
		{ago(64, 20), "the rack from top to bottom", func(*lab.Lab) ([]lab.Change, error) { return then, nil }},
		{ago(45, 22), "", become(plan.Lab, "ember")},
		{ago(33, 19), "", become(plan.Lab, "heron")},
		{ago(33, 20), "", become(plan.Lab, "cellar copy")},
		{ago(20, 18), "", become(plan.Lab, "old core")},
		{ago(20, 19), "", write(lab.Note{ID: newID(), Day: on(20),
			Text: "Old core sold to the choir's tenor; fetches it at the next rehearsal."})},
		{ago(9, 11), "", write(lab.Note{ID: newID(), Day: on(9), Text: "Cleaned the filters of anvil and silo."})},
		{ago(9, 12), "photos from the cleaning day", photographs(newID)},
		{ago(5, 21), "draft “Quiet ember” started", plans("Quiet ember",
			"Replace the loud 1U server with two mini PCs on a shelf, and give anvil the space it needs for rails.", on(5), newID, []planned{
				{"", "ember", -4000, "for parts; the tenor wants the case"},
				{`"Pantry" 4 rear power strip "strip B"`, "", 0, ""},
				{`"Pantry" 5 shelf "quiet shelf": 350mm deep, 2.5kg`, "", 3200, ""},
				{`on "quiet shelf" mini pc "lark": 1.2kg, for "nightly encoding"`, "", 18000, "waits for memory in the post"},
				{`on "quiet shelf" mini pc "pipit": 1.2kg, for "nightly encoding"`, "", 18000, ""},
			})},
		{ago(4, 22), "draft “One big box” started", plans("One big box", "Let heron do what ember did, and keep the rest as it is.", on(4), newID,
			[]planned{
				{"", "ember", -4000, ""},
				{`"Pantry" 19-20 server "heron", running`, "", 9000, "rails, if they can be had"},
			})},
		{ago(2, 8), "accepted: console hangs high", accept(newID, on(-180))},
	}, nil
}

// earlier is the first state: without what came later, and before what broke.
func earlier(is *lab.Lab, changes []lab.Change) ([]lab.Change, error) {
	pantry, _ := is.Named(lab.KindRack, "Pantry")
	var then []lab.Change
	for _, c := range changes {
		d, ok := c.After.(lab.Device)
		switch {
		case ok && (d.Name == "heron" || d.Name == "cellar copy"):
			continue
		case ok && d.Name == "ember":
			d.State, d.Notes = lab.Running, ""
			c.After = d
		case ok && d.Name == "old core":
			d.State, d.Notes, d.At = lab.Running, "", lab.At(pantry, 20, lab.Front)
			c.After = d
		}
		then = append(then, c)
	}
	_, err := lab.New().Apply(then)
	return then, err
}

// become makes a device what it is in the end.
func become(is *lab.Lab, name string) func(*lab.Lab) ([]lab.Change, error) {
	return func(l *lab.Lab) ([]lab.Change, error) {
		id, ok := rundown.DeviceNamed(is)(name)
		if !ok {
			return nil, fmt.Errorf("the demo's past: there is no %s", name)
		}
		d, _ := lab.Find[lab.Device](is, id)
		c, _ := l.Put(d)
		return []lab.Change{c}, nil
	}
}

func write(r lab.Record) func(*lab.Lab) ([]lab.Change, error) {
	return func(*lab.Lab) ([]lab.Change, error) { return []lab.Change{{After: r}}, nil }
}

// planned is a step: a line that is typed in the draft, or a thing to take out,
// with its price in minor units and a note.
type planned struct {
	line, out string
	price     int64
	note      string
}

// plans begins a draft and does its steps in it.
func plans(name, notes string, day lab.Day, newID func() lab.ID, steps []planned) func(*lab.Lab) ([]lab.Change, error) {
	return func(l *lab.Lab) ([]lab.Change, error) {
		d := lab.Draft{ID: newID(), Name: name, Notes: notes, BegunOn: day}
		with, err := l.Apply([]lab.Change{{After: d}})
		for i := 0; err == nil && i < len(steps); i++ {
			with, err = steps[i].in(with, d.ID, newID)
		}
		if err != nil {
			return nil, err
		}
		return lab.Diff(l, with), nil
	}
}

// in does the step in the draft and writes down what it costs.
func (p planned) in(l *lab.Lab, id lab.ID, newID func() lab.ID) (*lab.Lab, error) {
	drafted := draft.On(l, id).Lab
	var changes []lab.Change
	if p.out != "" {
		gone, _ := rundown.DeviceNamed(drafted)(p.out)
		changes = drafted.Removal(lab.Key{Kind: lab.KindDevice, ID: gone})
	} else {
		plan := rundown.Load(drafted, rundown.ParseLine(p.line), rundown.Options{NewID: newID})
		if len(plan.Mistakes) > 0 {
			return nil, fmt.Errorf("the demo's drafts, %s: %w", p.line, plan.Mistakes[0])
		}
		changes = plan.Changes
	}
	steps, err := draft.Add(l, id, changes, newID)
	if err != nil {
		return nil, err
	}
	for i, c := range steps {
		if s, ok := c.After.(lab.Step); ok {
			s.Note = p.note
			if p.price != 0 {
				s.PriceMinor = &p.price
			}
			steps[i].After = s
		}
	}
	return l.Apply(steps)
}

// accept accepts that console hangs high: it is what one looks at.
func accept(newID func() lab.ID, again lab.Day) func(*lab.Lab) ([]lab.Change, error) {
	return func(l *lab.Lab) ([]lab.Change, error) {
		id, _ := rundown.DeviceNamed(l)("console")
		for _, f := range finding.All(l, again) {
			if f.Level == finding.Note && len(f.Records) > 0 && f.Records[0].ID == id {
				return []lab.Change{{After: lab.Acceptance{ID: newID(), Finding: f.Key, Reason: "one stands in front of its screen", AgainOn: again}}},
					nil
			}
		}
		return nil, errors.New("the demo's findings: console is in none")
	}
}
