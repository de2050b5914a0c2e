// Package lab holds the records of a home lab and the Lab itself: one
// immutable value with lookups. Every edit is a list of changes, each a
// record's before and after; Apply turns a Lab and such a list into a new Lab
// or says which record and field is in the way.
//
// A fact that may be unknown is a pointer, nil while it is unknown. Lengths
// are millimetres, weights kilograms, heights in a rack are units (1U is
// 44.45 mm).
package lab

import (
	"bytes"
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// ID names a record for good. New ones are UUIDv7, so they sort by age.
type ID string

// RecordKind is what sort of record a change is about.
type RecordKind string

// The kinds of record there are.
const (
	KindLab    RecordKind = "lab"
	KindPlace  RecordKind = "place"
	KindRack   RecordKind = "rack"
	KindSheet  RecordKind = "spec_sheet"
	KindDevice RecordKind = "device"
	KindPart   RecordKind = "part"
	KindPhoto  RecordKind = "photo"
	KindRun    RecordKind = "run"
	KindCable  RecordKind = "cable"

	KindDraft      RecordKind = "draft"
	KindStep       RecordKind = "step"
	KindNote       RecordKind = "note"
	KindAcceptance RecordKind = "acceptance"
	KindFilter     RecordKind = "filter"
)

// Enum lists the kinds for the published schema.
func (RecordKind) Enum() []any { return anys(Kinds()) }

// Built reports whether records of the kind say how the lab is built, rather
// than what is planned or thought about it.
func (k RecordKind) Built() bool {
	return slices.Contains([]RecordKind{KindLab, KindPlace, KindRack, KindSheet, KindDevice, KindPart, KindPhoto, KindRun, KindCable}, k)
}

// Key finds one record of a lab.
type Key struct {
	Kind RecordKind `json:"kind" required:"true"`
	ID   ID         `json:"id" required:"true"`
}

// Ref is a record's pointer to another one, and the field it stands in.
type Ref struct {
	Field string
	To    Key
}

// Record is one thing that is written down: the lab's settings, a place, a
// rack, a device, a plan. Records are values and are never changed in place.
type Record interface {
	Key() Key
	// Title is what a person would call it, also when it has no name.
	Title() string
	// Refs are the records that must exist for this one to make sense.
	Refs() []Ref
	// addTo puts the record into its list.
	addTo(*Records)
	// uniqueName is what no other record of the kind may be called, or "".
	uniqueName() string
	// check says what is wrong with the record by itself.
	check(f *faults)
	// checkIn says what is wrong with it among the lab's other records.
	checkIn(l *Lab, f *faults)
}

// kinds registers each kind of record by an empty one. The order is that of
// creation: what is referred to comes before what refers.
var kinds = []Record{Settings{}, Place{}, Rack{}, SpecSheet{}, Device{}, Part{}, Photo{}, Run{}, Cable{}, Draft{}, Step{}, Note{}, Acceptance{}, Filter{}}

// Kinds lists the record kinds, referred-to ones first.
func Kinds() []RecordKind {
	list := make([]RecordKind, len(kinds))
	for i, k := range kinds {
		list[i] = k.Key().Kind
	}
	return list
}

// DecodeRecord reads one record of the given kind from JSON. Fields the
// record does not have are errors, so that a slip of the pen is not lost. What
// goes without saying may be left out: a device is running, at the front, and
// takes the whole width.
func DecodeRecord(kind RecordKind, data []byte) (Record, error) {
	at := slices.IndexFunc(kinds, func(r Record) bool { return r.Key().Kind == kind })
	if at < 0 {
		return nil, fmt.Errorf("there is no record kind %q; it is one of %s", kind, joinWords(Kinds()))
	}
	into := reflect.New(reflect.TypeOf(kinds[at]))
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into.Interface()); err != nil {
		return nil, err
	}
	nilEmpty(into.Elem())
	r := into.Elem().Interface().(Record)
	if d, ok := r.(interface{ withDefaults() Record }); ok {
		r = d.withDefaults()
	}
	return r, nil
}

// nilEmpty makes lists without anything in them nil, as they are when they
// are left out, so that records that say the same are the same.
func nilEmpty(v reflect.Value) {
	for i := range v.NumField() {
		switch f := v.Field(i); {
		case f.Kind() == reflect.Slice && f.Len() == 0 && !f.IsNil():
			f.SetZero()
		case f.Kind() == reflect.Slice && f.Type().Elem().Kind() == reflect.Struct && f.Type().Elem() != reflect.TypeFor[Change]():
			for j := range f.Len() {
				nilEmpty(f.Index(j))
			}
		case f.Kind() == reflect.Struct && v.Type().Field(i).Anonymous:
			nilEmpty(f)
		}
	}
}

// Same reports whether two records, either of which may be nil, say the same.
func Same(a, b Record) bool { return reflect.DeepEqual(a, b) }

func joinWords[S ~string](list []S) string {
	words := make([]string, len(list))
	for i, w := range list {
		words[i] = string(w)
	}
	return strings.Join(words, ", ")
}

func anys[T any](list []T) []any {
	out := make([]any, len(list))
	for i, v := range list {
		out[i] = v
	}
	return out
}
