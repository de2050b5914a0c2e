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
	"reflect"
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
	KindVLAN   RecordKind = "vlan"
	// KindWireless is of what access points send.
	KindWireless RecordKind = "wireless_network"

	KindSubnet        RecordKind = "subnet"
	KindName          RecordKind = "name"
	KindVirtualRouter RecordKind = "virtual_router"
	KindRoute         RecordKind = "route"
	// KindLine is of lines to the outside, KindOpening of what is open on them.
	KindLine         RecordKind = "line"
	KindOpening      RecordKind = "opening"
	KindTunnel       RecordKind = "tunnel"
	KindRemoteAccess RecordKind = "remote_access"
	// KindRule is of who may reach whom.
	KindRule RecordKind = "rule"

	// KindCircuit is of breakers and the wires behind them.
	KindCircuit RecordKind = "circuit"

	KindPool    RecordKind = "pool"
	KindDataset RecordKind = "dataset"
	KindShare   RecordKind = "share"
	KindCopy    RecordKind = "copy"

	KindTemplate RecordKind = "template"
	KindService  RecordKind = "service"
	KindCluster  RecordKind = "cluster"
	KindStack    RecordKind = "stack"
	KindNeed     RecordKind = "need"

	KindDraft      RecordKind = "draft"
	KindStep       RecordKind = "step"
	KindNote       RecordKind = "note"
	KindAcceptance RecordKind = "acceptance"
	KindFilter     RecordKind = "filter"
)

// Enum lists the kinds for the published schema.
func (RecordKind) Enum() []any {
	var all []any
	for _, k := range registry {
		all = append(all, k.RecordKind)
	}
	return all
}

// Words is the kind as one speaks of it.
func (k RecordKind) Words() string {
	if k == KindVLAN {
		return "VLAN"
	}
	return strings.ReplaceAll(string(k), "_", " ")
}

// Key finds one record of a lab.
type Key struct {
	Kind RecordKind `json:"kind" required:"true"`
	ID   ID         `json:"id" required:"true"`
}

// Ref is a record's pointer to another one, the field it stands in, and what
// becomes of it when the other one is removed.
type Ref struct {
	Field string
	To    Key
	Gone  Gone
}

// Gone is what becomes of a reference to a record that is removed.
type Gone int

// A record cannot go while it is referred to, or what refers to it goes along
// with it, or the field is cleared.
const (
	Refuse Gone = iota
	GoAlong
	Clear
)

// Unique is a value that no other record of the kind may have in the field,
// whatever its case.
type Unique struct{ Field, Value string }

// Uniques are the values of a record that no other one of its kind may have.
func Uniques(r Record) []Unique { return uniquesOf(r) }

func byName(name string) []Unique { return []Unique{{"name", name}} }

// Record is one thing that is written down: the lab's settings, a place, a
// rack, a device, a plan. Records are values and are never changed in place.
// Beside these methods a kind may have uniques, checkIn, withDefaults, without
// and pointless; see where they are asked for.
type Record interface {
	Key() Key
	// Title is what a person would call it, also when it has no name.
	Title() string
	// Refs are the records that must exist for this one to make sense.
	Refs() []Ref
	// check says what is wrong with the record by itself.
	check(f *faults)
}

// uniquesOf are the values of a record that no other one of its kind may have.
func uniquesOf(r Record) []Unique {
	if u, ok := r.(interface{ uniques() []Unique }); ok {
		return u.uniques()
	}
	return nil
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
