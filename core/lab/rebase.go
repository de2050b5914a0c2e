package lab

import (
	"errors"
	"fmt"
	"reflect"
	"strings"
)

// Overtaken is the error of a planned change that the lab has moved on from.
type Overtaken struct {
	Key    Key
	Title  string
	Was    Record // what the plan went by; nil for something new
	Now    Record // what is there instead; nil if it is gone
	Fields []string
}

// Error says what happened meanwhile.
func (o *Overtaken) Error() string {
	switch {
	case o.Now == nil:
		return fmt.Sprintf("%s no longer exists", quote(o.Title))
	case o.Was == nil:
		return fmt.Sprintf("%s already exists", quote(o.Title))
	}
	return fmt.Sprintf("%s changed meanwhile: %s", quote(o.Title), strings.Join(o.Fields, ", "))
}

// Rebase turns a change that was planned on an older lab into one of this lab:
// the fields it sets are set, all others stay as they are now. ok is false
// where nothing is left to do. The error is an *Overtaken where the lab has
// moved on so that the change makes no sense any more: the record came or
// went, or a field that the change sets was set to something else.
func (l *Lab) Rebase(c Change) (rebased Change, ok bool, err error) {
	key := c.Key()
	now := l.Get(key)
	over := &Overtaken{Key: key, Was: c.Before, Now: now}
	switch {
	case c.After == nil: // it is to go, whatever else was said of it meanwhile
		return Change{Before: now}, now != nil, nil
	case c.Before == nil && now == nil, Same(now, c.Before):
		return Change{Before: now, After: c.After}, true, nil
	case Same(now, c.After):
		return Change{}, false, nil
	case c.Before == nil, now == nil:
		over.Title = c.After.Title()
		return Change{}, false, over
	}
	merged, clash := merge(c.Before, c.After, now, false)
	if len(clash) > 0 {
		over.Title, over.Fields = now.Title(), clash
		return Change{}, false, over
	}
	return Change{Before: now, After: merged}, !Same(now, merged), nil
}

// RebaseOver is Rebase where somebody set the same fields to something else: these
// become what the change sets, or else stay as they are now.
func (l *Lab) RebaseOver(c Change, mine bool) (rebased Change, ok bool) {
	now := l.Get(c.Key())
	if now == nil || c.Before == nil || c.After == nil {
		return Change{}, false
	}
	merged, _ := merge(c.Before, c.After, now, mine)
	return Change{Before: now, After: merged}, !Same(now, merged)
}

// RebaseAll is Rebase for changes that are made together; over are those that the
// lab has moved on from.
func (l *Lab) RebaseAll(changes []Change) (rebased []Change, over []*Overtaken) {
	for _, c := range changes {
		now, ok, err := l.Rebase(c)
		if o := (*Overtaken)(nil); errors.As(err, &o) {
			over = append(over, o)
		} else if ok {
			rebased = append(rebased, now)
		}
	}
	return rebased, over
}

// Untouched reports whether the record that a change is about is as the change
// found it: what is to go has no newer facts that would go with it.
func (l *Lab) Untouched(c Change) bool { return Same(l.Get(c.Key()), c.Before) }

// TakeBack works out what undoes earlier changes and keeps what came after them.
// The error is an *Overtaken if that stands in the way.
func (l *Lab) TakeBack(changes []Change) ([]Change, error) {
	inverse := Invert(changes)
	back, over := l.RebaseAll(inverse)
	for _, c := range inverse {
		if now := l.Get(c.Key()); c.After == nil && now != nil && !l.Untouched(c) {
			over = append(over, &Overtaken{Key: c.Key(), Title: now.Title(), Was: c.Before, Now: now,
				Fields: differing(reflect.ValueOf(c.Before), reflect.ValueOf(now))})
		}
	}
	if len(over) > 0 {
		return nil, over[0]
	}
	return back, nil
}

// merge puts the fields that differ between was and is into now, and names
// those that now has something else in, which go over that only where so asked.
func merge(was, is, now Record, over bool) (merged Record, clash []string) {
	c := reflect.ValueOf(now)
	into := reflect.New(c.Type()).Elem()
	into.Set(c)
	clash = mergeFields(reflect.ValueOf(was), reflect.ValueOf(is), c, into, over)
	return into.Interface().(Record), clash
}

func mergeFields(a, b, c, into reflect.Value, over bool) (clash []string) {
	for i := range into.NumField() {
		if into.Type().Field(i).Anonymous {
			clash = append(clash, mergeFields(a.Field(i), b.Field(i), c.Field(i), into.Field(i), over)...)
			continue
		}
		from, to, cur := a.Field(i).Interface(), b.Field(i).Interface(), c.Field(i).Interface()
		switch {
		case reflect.DeepEqual(from, to), reflect.DeepEqual(to, cur):
		case reflect.DeepEqual(from, cur):
			into.Field(i).Set(b.Field(i))
		default:
			if over {
				into.Field(i).Set(b.Field(i))
			}
			clash = append(clash, jsonName(into.Type().Field(i)))
		}
	}
	return clash
}

// differing names the fields in which two records of a kind differ.
func differing(a, b reflect.Value) (names []string) {
	for i := range a.NumField() {
		switch f := a.Type().Field(i); {
		case f.Anonymous:
			names = append(names, differing(a.Field(i), b.Field(i))...)
		case !reflect.DeepEqual(a.Field(i).Interface(), b.Field(i).Interface()):
			names = append(names, jsonName(f))
		}
	}
	return names
}
