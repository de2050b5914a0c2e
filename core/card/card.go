// Package card makes the card of any record: what it is for, what is known of it
// in groups, and what hangs on it. What a kind has more of, such as the inside of
// a device, comes from its own room.
package card

import (
	"cmp"
	"fmt"
	"slices"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// Card is everything about one record, ready to be shown.
type Card struct {
	Record    rundown.About `json:"record" required:"true"`
	What      string        `json:"what" required:"true" description:"What it is: server, rack, drive"`
	Sentences []string      `json:"sentences" required:"true" nullable:"false" description:"What is to be said of it first"`
	Groups    []Group       `json:"groups" required:"true" nullable:"false"`
	Hangs     string        `json:"hangs,omitempty" description:"What the things are to it: what is on it, who has it"`
	Things    []Thing       `json:"things" required:"true" nullable:"false"`
	Inside    *gear.Inside  `json:"inside,omitempty" description:"Of a device"`
}

// Group is the facts that belong together.
type Group struct {
	Title string  `json:"title,omitempty" description:"Absent for those that come first"`
	Facts []Known `json:"facts" required:"true" nullable:"false"`
}

// Known is one fact as it stands on a card.
type Known struct {
	rundown.Field
	Text string `json:"text,omitempty" description:"As one types it; absent while unknown"`
	From From   `json:"from,omitempty"`
	Gap  bool   `json:"gap,omitempty" description:"It matters for this kind of thing and is not known"`
}

// From is where a fact is from.
type From string

// The record says it itself, or its sheet does; or it will stay unknown.
const (
	FromOwn   From = "own"
	FromSheet From = "sheet"
	FromNever From = "never"
)

// Enum lists the sources for the published schema.
func (From) Enum() []any { return []any{FromOwn, FromSheet, FromNever} }

// Thing is a record that hangs on another one.
type Thing struct {
	rundown.About
	What string `json:"what" required:"true"`
}

// titles are what the groups of facts are headed with, in their order: how one gets
// at it first, for that is asked when something is down.
var titles = []struct {
	group rundown.Group
	title string
}{
	{rundown.WaysIn, "Ways in"}, {rundown.Basics, ""}, {rundown.Within, "Inside"}, {rundown.Measures, "Measures"}, {rundown.Ports, "Ports"},
	{rundown.PowerUse, "Power and noise"}, {rundown.Cost, "Money"}, {rundown.Make, "Make"}, {rundown.Hidden, "Private"},
}

// Of makes the card of a record.
func Of(l *lab.Lab, r lab.Record) Card {
	c := Card{Record: rundown.AboutOf(l, r), What: whatOf(r), Sentences: []string{}, Groups: []Group{}, Things: []Thing{}}
	known := r
	var gaps []gear.Gap
	if d, ok := r.(lab.Device); ok {
		inside := gear.InsideOf(l, d)
		c.Inside, gaps = &inside, inside.Gaps
		c.device(l, d)
		d.Spec = l.SpecOf(d)
		known = d
	}
	c.facts(l, r, known, gaps)
	c.hang(l, r)
	return c
}

// device says what is to be said of a device before its facts.
func (c *Card) device(l *lab.Lab, d lab.Device) {
	spec := l.SpecOf(d)
	if spec.TakesU != nil && spec.HeightMM != nil && *spec.HeightMM <= float64(*spec.TakesU-1)*text.UnitMM {
		c.Sentences = append(c.Sentences, fmt.Sprintf("It takes %dU, more than its own height of %s.", *spec.TakesU, text.Height(*spec.HeightMM)))
	}
	for _, t := range gear.Troubles(l, d) {
		c.Sentences = append(c.Sentences, text.Sentence(t.Say))
	}
}

// whatOf is what a record is, in words.
func whatOf(r lab.Record) string {
	switch r := r.(type) {
	case lab.Device:
		return cmp.Or(r.KindWords(), r.Key().Kind.Words())
	case lab.SpecSheet:
		return "spec sheet of a " + r.Kind.Words()
	case lab.Part:
		return cmp.Or(string(r.Kind), r.Key().Kind.Words())
	}
	return r.Key().Kind.Words()
}

// facts groups what can be said of a record; known has what is known of it from
// elsewhere, too.
func (c *Card) facts(l *lab.Lab, r, known lab.Record, gaps []gear.Gap) {
	own, all := rundown.Saying(l, r), rundown.Saying(l, known)
	never := []string{}
	if d, ok := r.(lab.Device); ok {
		never = d.Never
	}
	in := map[string][]Known{}
	for _, f := range rundown.FieldsOf(r) {
		if f.Field == "never_known" {
			continue
		}
		fact := Known{Field: f, Text: all.Text(f.Field), Gap: slices.ContainsFunc(gaps, func(g gear.Gap) bool { return g.Field == f.Field })}
		if fact.Text == "?" {
			fact.Text = ""
		}
		switch {
		case fact.Text != "" && own.Text(f.Field) != "":
			fact.From = FromOwn
		case fact.Text != "":
			fact.From = FromSheet
		case slices.Contains(never, f.Field):
			fact.From = FromNever
		}
		in[titleOf(f)] = append(in[titleOf(f)], fact)
	}
	for _, t := range titles {
		if facts := in[t.title]; len(facts) > 0 {
			c.Groups = append(c.Groups, Group{t.title, facts})
		}
	}
}

func titleOf(f rundown.Field) string {
	for _, t := range titles {
		if f.Group == t.group {
			return t.title
		}
	}
	return ""
}

// drawn are the kinds that a card shows in another way than by name.
var drawn = []lab.RecordKind{lab.KindPart, lab.KindPhoto, lab.KindCable, lab.KindStep}

// hang lists what refers to a record, by kind, devices in the order they stand.
func (c *Card) hang(l *lab.Lab, r lab.Record) {
	switch r := r.(type) {
	case lab.Device:
		c.Hangs = text.Capital(r.Kind.Standing()) + " it"
	case lab.Place:
		c.Hangs = "What is here"
	case lab.SpecSheet:
		c.Hangs = "Has it"
	case lab.Rack:
		return // it is drawn
	default:
		c.Hangs = "What refers to it"
	}
	devices := l.HeldBy(r.Key())
	for by := range l.UsersOf(r.Key()) {
		d, is := by.(lab.Device)
		switch {
		case slices.Contains(drawn, by.Key().Kind):
		case is && slices.ContainsFunc(devices, func(o lab.Device) bool { return o.ID == d.ID }):
		default:
			c.thing(l, by)
		}
	}
	for _, d := range devices {
		c.thing(l, d)
	}
	if len(c.Things) == 0 {
		c.Hangs = ""
	}
}

func (c *Card) thing(l *lab.Lab, r lab.Record) {
	sort := whatOf(r)
	if rack, ok := r.(lab.Rack); ok {
		sort += fmt.Sprintf(", %dU", rack.HeightU)
	}
	c.Things = append(c.Things, Thing{rundown.AboutOf(l, r), sort})
}
