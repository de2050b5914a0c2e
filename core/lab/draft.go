package lab

import (
	"slices"
	"time"
)

// Draft is a named set of planned changes, its steps, on top of the lab as
// built. What the steps say is no part of the lab until they are done.
type Draft struct {
	ID      ID     `json:"id" required:"true"`
	Name    string `json:"name" required:"true" maxLength:"80" lab:"name"`
	Notes   string `json:"notes,omitempty" maxLength:"10000" description:"What it is for"`
	BegunOn Day    `json:"begun_on,omitempty"`
}

// Key implements Record.
func (d Draft) Key() Key { return Key{KindDraft, d.ID} }

// Title implements Record.
func (d Draft) Title() string { return titleOr(d.Name, "a draft") }

// Refs implements Record.
func (d Draft) Refs() []Ref { return nil }

func (d Draft) uniques() []Unique { return byName(d.Name) }

func (d Draft) check(f *faults) {
	f.id(d.ID)
	f.need("name", d.Name)
	f.name("name", d.Name)
	f.text("notes", d.Notes, maxNotes)
	f.day("begun_on", d.BegunOn)
}

// Step is one thing to do in a draft: changes that are made together. The
// records it changes need not be in the lab any more; whether a step still
// holds is worked out when the draft is looked at.
type Step struct {
	ID         ID       `json:"id" required:"true"`
	Draft      ID       `json:"draft_id" required:"true"`
	Order      int      `json:"order,omitempty" minimum:"0" description:"Its turn among the draft's steps"`
	Changes    []Change `json:"changes" required:"true" nullable:"false" description:"Each record's before and after"`
	Words      string   `json:"words,omitempty" maxLength:"500" description:"What it does, as it was said when it was planned"`
	Note       string   `json:"note,omitempty" maxLength:"500"`
	PriceMinor *int64   `json:"price_minor,omitempty" description:"Cost in minor units of the lab's currency; negative for income"`
	DoneOn     Day      `json:"done_on,omitempty" description:"The day it was made real"`
}

// Key implements Record.
func (s Step) Key() Key { return Key{KindStep, s.ID} }

// Title implements Record.
func (s Step) Title() string { return titleOr(s.Words, "a step") }

// Refs implements Record.
func (s Step) Refs() []Ref { return []Ref{{"draft_id", Key{KindDraft, s.Draft}, GoAlong}} }

// Bounds of a step's price in minor units, and of the changes it may have.
const (
	maxPrice       = 1_000_000_000_00
	maxStepChanges = 1000
)

func (s Step) check(f *faults) {
	f.id(s.ID)
	f.line("words", s.Words, maxPurpose)
	f.line("note", s.Note, maxPurpose)
	f.day("done_on", s.DoneOn)
	if s.Order < 0 || s.Order > 1_000_000 {
		f.add("order", "an order is between 0 and 1000000, not %d", s.Order)
	}
	if s.PriceMinor != nil && (*s.PriceMinor > maxPrice || *s.PriceMinor < -maxPrice) {
		f.add("price_minor", "that is more money than a price can be")
	}
	if n := len(s.Changes); n == 0 || n > maxStepChanges {
		f.add("changes", "a step has 1 to %d changes, not %d", maxStepChanges, n)
	}
	for _, c := range s.Changes {
		if c.Before == nil && c.After == nil || c.Before != nil && c.After != nil && c.Before.Key() != c.After.Key() {
			f.add("changes", "each change needs a before, an after, or both of one record")
		} else if !c.Key().Kind.Built() {
			f.add("changes", "a step cannot change a %s", c.Key().Kind)
		}
	}
}

// StepsOf lists the steps of a draft in their order.
func (l *Lab) StepsOf(draft ID) []Step {
	var steps []Step
	for by := range l.UsersOf(Key{KindDraft, draft}) {
		if s, ok := by.(Step); ok {
			steps = append(steps, s)
		}
	}
	slices.SortStableFunc(steps, func(a, b Step) int { return a.Order - b.Order })
	return steps
}

// Day is a day of the calendar, such as 2026-11-23.
type Day string

// DayOf is the day of a moment, where that moment's clock hangs.
func DayOf(t time.Time) Day { return Day(t.Format(time.DateOnly)) }

func (f *faults) day(field string, d Day) {
	if _, err := time.Parse(time.DateOnly, string(d)); d != "" && err != nil {
		f.add(field, "%s is not a day; write it as year, month and day, such as 2026-11-23", quote(string(d)))
	}
}
