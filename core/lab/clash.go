package lab

import (
	"reflect"
	"slices"
)

// Clashing tells what of a change somebody else was first with: was is the record
// as the change's maker had seen it, and the change is one of the record as it is
// now. fields are those that it sets and that were set to something else meanwhile;
// there are none where the record came or went, or is to go, which is about all of
// it. What two people say of different facts does not clash.
func (c Change) Clashing(was Record) (fields []string, clash bool) {
	switch {
	case Same(was, c.Before):
		return nil, false
	case was == nil, c.Before == nil, c.After == nil:
		return nil, true
	}
	theirs := differing(reflect.ValueOf(was), reflect.ValueOf(c.Before))
	for _, mine := range differing(reflect.ValueOf(c.Before), reflect.ValueOf(c.After)) {
		if slices.Contains(theirs, mine) {
			fields = append(fields, mine)
		}
	}
	return fields, len(fields) > 0
}
