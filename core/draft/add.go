package draft

import (
	"levelstaff/core/lab"
)

// Add turns changes of the drafted lab into changes of the draft's steps. What
// goes on about things that one step alone has touched becomes part of that
// step, so that dragging a new thing about is one step and not five; new
// things get a step each, so that each can have its price; anything else is a
// new step at the end. The error is Apply's, where the drafted lab refuses the
// changes.
func Add(l *lab.Lab, id lab.ID, changes []lab.Change, newID func() lab.ID) ([]lab.Change, error) {
	now := On(l, id)
	want, err := now.Lab.Apply(changes)
	if err != nil || len(changes) == 0 {
		return nil, err
	}
	if folded, ok := fold(l, id, now, want, changes); ok {
		return folded, nil
	}
	last := 0
	for _, s := range now.Steps {
		last = max(last, s.Step.Order)
	}
	var steps []lab.Change
	on := now.Lab
	for _, part := range split(now.Lab, changes) {
		next, err := on.Apply(part)
		if err != nil {
			return nil, err
		}
		last++
		steps = append(steps, lab.Change{After: lab.Step{ID: newID(), Draft: id, Order: last, Changes: part, Words: words(on, next, part)}})
		on = next
	}
	return steps, nil
}

// split gives each new thing a part of its own, if nothing but new things is
// there and one after another goes.
func split(l *lab.Lab, changes []lab.Change) [][]lab.Change {
	var parts [][]lab.Change
	for _, c := range changes {
		one := []lab.Change{c}
		next, err := l.Apply(one)
		if c.Before != nil || err != nil {
			return [][]lab.Change{changes}
		}
		l = next
		parts = append(parts, one)
	}
	return parts
}

// fold puts the changes into the one step that last touched all of their
// records, if the draft then comes to just what is wanted.
func fold(l *lab.Lab, id lab.ID, now Effect, want *lab.Lab, changes []lab.Change) ([]lab.Change, bool) {
	touched := map[lab.Key]int{}
	for i, s := range now.Steps {
		for _, c := range s.Changes {
			touched[c.Key()] = i
		}
	}
	at, known := touched[changes[0].Key()]
	for _, c := range changes {
		if i, ok := touched[c.Key()]; !ok || i != at {
			known = false
		}
	}
	if !known {
		return nil, false
	}
	was := now.Steps[at].Step
	is := was
	is.Changes = compose(was.Changes, changes)
	edit := lab.Change{Before: was}
	if len(is.Changes) > 0 {
		edit.After = is
	}
	with, err := l.Apply([]lab.Change{edit})
	if err != nil {
		return nil, false
	}
	then := On(with, id)
	if broken(then) > broken(now) || !sameBuilt(then.Lab, want, now, changes) {
		return nil, false
	}
	if edit.After != nil {
		is.Words = then.Steps[at].Words
		edit.After = is
	}
	return []lab.Change{edit}, true
}

func broken(e Effect) (n int) {
	for _, s := range e.Steps {
		if s.Why != "" {
			n++
		}
	}
	return
}

// sameBuilt compares what the draft's steps and the changes touch.
func sameBuilt(a, b *lab.Lab, e Effect, changes []lab.Change) bool {
	for _, s := range e.Steps {
		changes = append(changes, s.Changes...)
	}
	for _, c := range changes {
		if !lab.Same(a.Get(c.Key()), b.Get(c.Key())) {
			return false
		}
	}
	return true
}

// Copy is what makes another draft of the same steps, those that are done left
// out.
func Copy(l *lab.Lab, id lab.ID, name string, day lab.Day, newID func() lab.ID) []lab.Change {
	was, _ := lab.Find[lab.Draft](l, id)
	is := lab.Draft{ID: newID(), Name: name, Notes: was.Notes, BegunOn: day}
	changes := []lab.Change{{After: is}}
	for _, s := range l.StepsOf(id) {
		if s.DoneOn == "" {
			s.ID, s.Draft = newID(), is.ID
			changes = append(changes, lab.Change{After: s})
		}
	}
	return changes
}

// Reorder is what makes the order of a draft's steps the given one. Steps that are
// not named keep their order after those.
func Reorder(l *lab.Lab, id lab.ID, order []lab.ID) []lab.Change {
	at := map[lab.ID]int{}
	for i, step := range order {
		at[step] = i + 1
	}
	var changes []lab.Change
	rest := len(order)
	for _, was := range l.StepsOf(id) {
		is := was
		if is.Order = at[was.ID]; is.Order == 0 {
			rest++
			is.Order = rest
		}
		if is.Order != was.Order {
			changes = append(changes, lab.Change{Before: was, After: is})
		}
	}
	return changes
}
