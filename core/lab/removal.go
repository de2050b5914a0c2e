package lab

import (
	"reflect"
	"slices"
	"strings"
)

// Removal is what removes records with what is nothing without them: what
// refers to one goes along, or has the field cleared, as its Ref says. Where
// that says neither, Apply refuses the removal. Records that are not there are
// passed over.
func (l *Lab) Removal(keys ...Key) []Change {
	rm := removal{lab: l, after: map[Key]Record{}, going: map[Key]bool{}}
	for _, k := range keys {
		rm.remove(k)
	}
	var changes []Change
	for _, k := range rm.order {
		changes = append(changes, Change{l.Get(k), rm.after[k]})
	}
	return changes
}

type removal struct {
	lab   *Lab
	after map[Key]Record // nil for what goes
	going map[Key]bool
	order []Key // what follows from a removal before what is removed
}

// now is a record as the removal has left it so far; nil if it goes.
func (rm *removal) now(k Key) Record {
	if r, touched := rm.after[k]; touched {
		return r
	}
	return rm.lab.Get(k)
}

func (rm *removal) put(k Key, r Record) {
	if _, touched := rm.after[k]; !touched {
		rm.order = append(rm.order, k)
	}
	rm.after[k] = r
}

func (rm *removal) remove(k Key) {
	if rm.going[k] || rm.now(k) == nil {
		return
	}
	rm.going[k] = true
	for by := range rm.lab.UsersOf(k) {
		for _, ref := range by.Refs() {
			now := rm.now(by.Key())
			switch {
			case ref.To != k || now == nil || by.Key() == k:
			case ref.Gone == GoAlong:
				rm.remove(by.Key())
			case ref.Gone == Clear:
				rm.put(by.Key(), cleared(now, ref.Field, k))
			}
		}
	}
	rm.put(k, nil)
}

// cleared is a record without what it says in a field of another one: all of
// a.device_id is the end a, and of a list the one entry. It is nil where nothing
// is left that makes sense of the record.
func cleared(r Record, field string, of Key) Record {
	into := reflect.New(reflect.TypeOf(r)).Elem()
	into.Set(reflect.ValueOf(r))
	whole, _, _ := strings.Cut(field, ".")
	for i := range into.NumField() {
		if jsonName(into.Type().Field(i)) == whole {
			if list, many := into.Field(i).Interface().([]ID); many && len(list) > 1 {
				rest := slices.DeleteFunc(slices.Clone(list), func(id ID) bool { return id == of.ID })
				into.Field(i).Set(reflect.ValueOf(rest))
				continue
			}
			into.Field(i).SetZero()
		}
	}
	is := into.Interface().(Record)
	if p, ok := is.(interface{ pointless() bool }); ok && p.pointless() && !r.(interface{ pointless() bool }).pointless() {
		return nil
	}
	return is
}
