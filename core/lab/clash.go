package lab

import (
	"reflect"
	"slices"
)

// Clashing tells which fields of a change someone else has set in the meantime: was
// is the record as the writer saw it, and the change starts from the record as it is
// now. There are no fields where the record itself was added or removed on either
// side. Changes of different fields do not clash.
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
