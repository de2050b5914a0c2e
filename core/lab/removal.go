package lab

import (
	"reflect"
	"strings"
)

// Removal is what removes records with what is nothing without them: what
// refers to one goes along, or has the field cleared, as its Ref says. Where
// that says neither, Apply refuses the removal. Records that are not there are
// passed over.
func (l *Lab) Removal(keys ...Key) []Change {
	rm := removal{l.Changing(), map[Key]bool{}}
	for _, k := range keys {
		rm.remove(k)
	}
	return rm.Changes()
}

// removal is one while it is worked out: what follows from it comes before what is
// removed.
type removal struct {
	*Changing
	going map[Key]bool
}

func (rm *removal) remove(k Key) {
	if rm.going[k] || rm.Now(k) == nil {
		return
	}
	rm.going[k] = true
	for by := range rm.lab.UsersOf(k) {
		for _, ref := range by.Refs() {
			now := rm.Now(by.Key())
			switch {
			case ref.To != k || now == nil || by.Key() == k:
			case ref.Gone == GoAlong:
				rm.remove(by.Key())
			case ref.Gone == Clear:
				rm.set(by.Key(), cleared(now, ref.Field, k))
			}
		}
	}
	rm.Remove(k)
}

// says reports whether an entry of a list is an id, or names it.
func says(entry reflect.Value, id ID) bool {
	if entry.Kind() != reflect.Struct {
		return entry.Interface() == id
	}
	for i := range entry.NumField() {
		if entry.Field(i).Interface() == id {
			return true
		}
	}
	return false
}

// cleared is a record without what it says in a field of another one: all of
// a.device_id is the end a, and of a list the entries that name it;
// a kind that has without says so itself. It is nil where nothing
// is left that makes sense of the record.
func cleared(r Record, field string, of Key) Record {
	if w, ok := r.(interface{ without(Key) Record }); ok {
		return w.without(of)
	}
	into := reflect.New(reflect.TypeOf(r)).Elem()
	into.Set(reflect.ValueOf(r))
	whole, _, _ := strings.Cut(field, ".")
	for _, f := range reflect.VisibleFields(into.Type()) {
		if jsonName(f) != whole {
			continue
		}
		is := into.FieldByIndex(f.Index)
		if is.Kind() != reflect.Slice {
			is.SetZero()
			continue
		}
		left := reflect.MakeSlice(is.Type(), 0, is.Len())
		for i := range is.Len() {
			if !says(is.Index(i), of.ID) {
				left = reflect.Append(left, is.Index(i))
			}
		}
		if is.SetZero(); left.Len() > 0 {
			is.Set(left)
		}
	}
	is := withDefaults(into.Interface().(Record))
	if p, ok := is.(interface{ pointless() bool }); ok && p.pointless() && !r.(interface{ pointless() bool }).pointless() {
		return nil
	}
	return is
}
