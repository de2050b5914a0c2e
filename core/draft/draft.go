// Package draft works out what a draft makes of a lab, and how what someone
// does in a draft becomes its steps. A draft is nothing but changes: put on a
// lab they give another lab, which every calculation takes like the first.
package draft

import (
	"errors"
	"fmt"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Effect is what a draft makes of the lab as built.
type Effect struct {
	Lab   *lab.Lab // the lab with every step made that still holds
	Steps []StepEffect
}

// StepEffect is what comes of one step.
type StepEffect struct {
	Step    lab.Step
	Changes []lab.Change // as they are made on this lab; none if it is done, or does not hold
	Words   string       // what it does now, or did when it was planned
	Why     string       // why it does not hold; "" if it does
}

// On puts a draft on a lab, step by step. Steps that are done are part of the
// lab already; one that does not hold is left out and says why.
func On(l *lab.Lab, id lab.ID) Effect {
	e := Effect{Lab: l}
	steps := l.StepsOf(id)
	for _, s := range steps {
		se := StepEffect{Step: s, Words: s.Words}
		if s.DoneOn == "" {
			next, changes, err := step(e.Lab, s)
			if err != nil {
				se.Why = why(e.Lab, steps, s, err)
			} else {
				se.Changes, se.Words = changes, words(e.Lab, next, changes)
				e.Lab = next
			}
		}
		e.Steps = append(e.Steps, se)
	}
	return e
}

// words says what changes do, cut to what a step may say.
func words(before, after *lab.Lab, changes []lab.Change) string {
	const most = 500
	if len(changes) == 0 {
		return "nothing is left to do"
	}
	said := []rune(rundown.Label(rundown.Edits(before, after, changes)))
	return string(said[:min(len(said), most)])
}

func step(l *lab.Lab, s lab.Step) (*lab.Lab, []lab.Change, error) {
	changes, over := l.RebaseAll(s.Changes)
	if len(over) > 0 {
		return nil, nil, over[0]
	}
	next, err := l.Apply(changes)
	return next, changes, err
}

// why says in words what the lab did meanwhile, or what the step needs.
func why(l *lab.Lab, steps []lab.Step, s lab.Step, err error) string {
	var over *lab.Overtaken
	if errors.As(err, &over) && over.Was != nil && over.Now != nil {
		return "meanwhile " + rundown.Label(rundown.Edits(l, l, []lab.Change{{Before: over.Was, After: over.Now}}))
	}
	if missing := needs(l, steps, s); missing != "" {
		return "“" + missing + "” does not exist"
	}
	var refusal *lab.Refusal
	if errors.As(err, &refusal) {
		return refusal.Faults[0].Say
	}
	return err.Error()
}

// needs names what a step refers to that the lab does not have, as the draft's
// steps know it.
func needs(l *lab.Lab, steps []lab.Step, s lab.Step) string {
	own := map[lab.Key]bool{}
	for _, c := range s.Changes {
		own[c.Key()] = true
	}
	for _, c := range s.Changes {
		if c.After == nil {
			continue
		}
		for _, ref := range c.After.Refs() {
			if l.Get(ref.To) == nil && !own[ref.To] {
				return titleIn(steps, ref.To)
			}
		}
	}
	return ""
}

func titleIn(steps []lab.Step, key lab.Key) string {
	for _, s := range steps {
		for _, c := range s.Changes {
			if c.Key() == key && c.After != nil {
				return c.After.Title()
			} else if c.Key() == key {
				return c.Before.Title()
			}
		}
	}
	return "the " + string(key.Kind) + " it is in"
}

// Holds reports whether every step that is left still holds.
func (e Effect) Holds() bool {
	return !slices.ContainsFunc(e.Steps, func(s StepEffect) bool { return s.Why != "" })
}

// Cost is what a draft costs.
type Cost struct {
	LeftMinor  int64  `json:"left_minor" required:"true" description:"What the steps cost that are left, in minor units"`
	SpentMinor int64  `json:"spent_minor" required:"true" description:"What those cost that are done"`
	Unpriced   int    `json:"unpriced" required:"true" description:"Things they add that have no price"`
	Left       string `json:"left" required:"true" description:"What is left to pay, in words"`
	All        string `json:"all" required:"true" description:"What is left and spent together, in words"`
	Words      string `json:"words" required:"true" description:"All there is to say about it"`
}

// CostOf sums up what a draft's steps cost: devices, parts and leads.
func CostOf(l *lab.Lab, draft lab.ID) Cost {
	c := sum(l.StepsOf(draft))
	money := func(minor int64) string { return lab.MoneyText(minor, l.Settings().Currency) }
	least := ""
	if c.Unpriced > 0 {
		least = "at least "
	}
	c.Left, c.All = least+money(c.LeftMinor), least+money(c.LeftMinor+c.SpentMinor)
	c.Words = c.All
	if c.SpentMinor != 0 {
		c.Words += ", " + money(c.SpentMinor) + " spent"
	}
	if c.Unpriced > 0 {
		c.Words += fmt.Sprintf(", %d without a price", c.Unpriced)
	}
	return c
}

// Payback is in how many months what a draft costs in all is saved, by what a month costs
// less with it; nil where it costs nothing, saves nothing, or neither is known.
func Payback(c *Cost, before, after Figures) *float64 {
	if c == nil || c.Unpriced > 0 || before.Cost == nil || after.Cost == nil {
		return nil
	}
	saves, costs := *before.Cost-*after.Cost, lab.MoneyUnits(c.LeftMinor+c.SpentMinor, after.Currency)
	if saves <= 0 || costs <= 0 {
		return nil
	}
	months := costs / saves
	return &months
}

func sum(steps []lab.Step) Cost {
	var c Cost
	comes := map[lab.ID]bool{} // what the draft adds
	for _, s := range steps {
		for _, c := range s.Changes {
			if c.Before == nil {
				comes[c.Key().ID] = true
			}
		}
	}
	for _, s := range steps {
		minor, unpriced := priceOf(s, comes)
		if s.DoneOn == "" {
			c.LeftMinor += minor
			c.Unpriced += unpriced
		} else {
			c.SpentMinor += minor
		}
	}
	return c
}

// priceOf is what a step costs: the price it was given, or else what was paid,
// or is to be, for what it adds; and how many of these things have no price.
// Parts of a device that comes too are in that device's price, unless they have
// their own.
func priceOf(s lab.Step, comes map[lab.ID]bool) (minor int64, unpriced int) {
	if s.PriceMinor != nil {
		return *s.PriceMinor, 0
	}
	for _, c := range s.Changes {
		money, counts := lab.Money{}, c.Before == nil
		switch is := c.After.(type) {
		case lab.Device:
			money = is.Money
			if was, ok := c.Before.(lab.Device); ok {
				counts = was.PriceMinor == nil && is.PriceMinor != nil
			}
		case lab.Part:
			money = is.Money
			if was, ok := c.Before.(lab.Part); ok {
				counts = was.PriceMinor == nil && is.PriceMinor != nil
			}
			counts = counts && (is.PriceMinor != nil || !comes[is.Device])
		case lab.Cable:
			counts = counts && !is.Kind.Cordless()
		default:
			continue
		}
		switch {
		case !counts || money.Got == lab.ForFree && money.PriceMinor == nil:
		case money.PriceMinor != nil:
			minor += *money.PriceMinor
		default:
			unpriced++
		}
	}
	return minor, unpriced
}

// Tick is what makes steps real: their changes on the lab as built, and the
// steps marked as done on that day. The error says which step does not hold.
func Tick(l *lab.Lab, id lab.ID, steps []lab.ID, day lab.Day) ([]lab.Change, error) {
	var done []lab.Change
	next := l
	all := l.StepsOf(id)
	for _, s := range all {
		if !slices.Contains(steps, s.ID) || s.DoneOn != "" {
			continue
		}
		applied, changes, err := step(next, s)
		if err != nil {
			return nil, fmt.Errorf("%s cannot be applied: %s", s.Title(), why(next, all, s, err))
		}
		done = compose(done, changes)
		marked := s
		marked.DoneOn, marked.Words = day, words(next, applied, changes)
		done = append(done, lab.Change{Before: s, After: marked})
		next = applied
	}
	return done, nil
}

// compose puts changes after others: one record's two changes become one.
func compose(first, then []lab.Change) []lab.Change {
	list := slices.Clone(first)
	for _, c := range then {
		i := slices.IndexFunc(list, func(o lab.Change) bool { return o.Key() == c.Key() })
		if i < 0 {
			list = append(list, c)
			continue
		}
		list[i] = lab.Change{Before: list[i].Before, After: c.After}
	}
	return slices.DeleteFunc(list, func(c lab.Change) bool { return lab.Same(c.Before, c.After) })
}
