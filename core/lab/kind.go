package lab

import (
	"bytes"
	"encoding/json"
	"fmt"
	"iter"
	"reflect"
	"slices"
	"strings"
)

// Kind is what is known of all records of one kind. The store's tables, the
// JSON lists, the API's resources, what is shared and the pages' lists are made
// from these.
type Kind struct {
	RecordKind
	List  string // what many of them are called: the table, the resource, the list
	Title string // in the names of the API
	Built bool   // says how the lab is built, rather than what is planned or thought about it
	Alone bool   // there is one such record
	Shown string // the page that shows one of them, to which its id is added
	Name  string // the JSON field of what a record is called, "" where it has no name
	Type  reflect.Type
	// Many is an empty list of such records, One the zero record: what the API
	// describes its answers by.
	Many, One any

	add  func(*Records, Record)
	each func(Records) iter.Seq[Record]
	name int // the field of its own name, -1 where it has none
}

// Whether a kind says how the lab is built, or what is planned or thought
// about it.
const (
	built   = true
	thought = false
)

// registry lists the kinds of record there are. The order is that of creation:
// what is referred to comes before what refers.
var registry = []Kind{
	kind[Settings]("lab", "Lab", built, "/rack"),
	kind[Place]("places", "Place", built, "/rack"),
	kind[Rack]("racks", "Rack", built, "/rack"),
	kind[SpecSheet]("spec_sheets", "SpecSheet", built, "/gear/sheets"),
	kind[VLAN]("vlans", "VLAN", built, "/networks/vlans"),
	kind[WirelessNetwork]("wireless_networks", "WirelessNetwork", built, "/networks/wireless"),
	kind[Circuit]("circuits", "Circuit", built, "/power"),
	kind[Template]("templates", "Template", built, "/services/all"),
	kind[Device]("devices", "Device", built, "/rack"),
	kind[Part]("parts", "Part", built, "/gear/parts"),
	kind[Photo]("photos", "Photo", built, "/rack"),
	kind[Run]("runs", "Run", built, "/cabling/runs"),
	kind[Cable]("cables", "Cable", built, "/cabling"),
	kind[Subnet]("subnets", "Subnet", built, "/networks/addresses"),
	kind[Name]("names", "Name", built, "/networks/names"),
	kind[VirtualRouter]("virtual_routers", "VirtualRouter", built, "/networks/outside"),
	kind[Route]("routes", "Route", built, "/networks/outside"),
	kind[Line]("outside_lines", "OutsideLine", built, "/networks/outside"),
	kind[Opening]("openings", "Opening", built, "/networks/outside"),
	kind[Tunnel]("tunnels", "Tunnel", built, "/networks/outside"),
	kind[RemoteAccess]("remote_accesses", "RemoteAccess", built, "/networks/outside"),
	kind[Rule]("rules", "Rule", built, "/networks/reach"),
	kind[Pool]("pools", "Pool", built, "/storage"),
	kind[Dataset]("datasets", "Dataset", built, "/storage/data"),
	kind[NetworkShare]("shares", "Share", built, "/storage/data"),
	kind[Copy]("data_copies", "DataCopy", built, "/storage/copies"),
	kind[Service]("services", "Service", built, "/services/all"),
	kind[Cluster]("clusters", "Cluster", built, "/services/room"),
	kind[Stack]("stacks", "Stack", built, "/services/all"),
	kind[Need]("needs", "Need", built, "/services"),
	kind[Draft]("drafts", "Draft", thought, "/drafts"),
	kind[Step]("steps", "Step", thought, "/drafts"),
	kind[Note]("notes", "Note", thought, "/logbook"),
	kind[Acceptance]("acceptances", "Acceptance", thought, "/findings"),
	kind[Filter]("filters", "Filter", thought, "/gear"),
}

// kind finds the list of such records in Records by its type.
func kind[R Record](list, title string, built bool, shown string) Kind {
	var zero R
	k := Kind{RecordKind: zero.Key().Kind, List: list, Title: title, Built: built, Shown: shown, Type: reflect.TypeFor[R](), Many: []R{},
		One: zero, name: -1}
	for f := range k.Type.NumField() {
		if k.Type.Field(f).Tag.Get("lab") == "name" {
			k.name, k.Name = f, jsonName(k.Type.Field(f))
		}
	}
	all := reflect.TypeFor[Records]()
	at := slices.IndexFunc(reflect.VisibleFields(all), func(f reflect.StructField) bool {
		return f.Type == reflect.TypeFor[[]R]() || f.Type == reflect.TypeFor[*R]()
	})
	k.Alone = all.Field(at).Type.Kind() == reflect.Pointer
	in := func(all *Records) any { return reflect.ValueOf(all).Elem().Field(at).Addr().Interface() }
	k.add = func(all *Records, r Record) {
		one := r.(R)
		switch list := in(all).(type) {
		case *[]R:
			*list = append(*list, one)
		case **R:
			*list = &one
		}
	}
	k.each = func(all Records) iter.Seq[Record] {
		return func(yield func(Record) bool) {
			switch list := in(&all).(type) {
			case *[]R:
				for _, r := range *list {
					if !yield(r) {
						return
					}
				}
			case **R:
				if *list != nil {
					yield(**list)
				}
			}
		}
	}
	return k
}

// Kinds lists the kinds of record, referred-to ones first.
func Kinds() []Kind { return slices.Clone(registry) }

// KindOf finds what is known of a kind; ok is false where there is no such.
func KindOf(name RecordKind) (k Kind, ok bool) {
	for i := range registry { // by place: a Kind is large, and this is asked for each record
		if registry[i].RecordKind == name {
			return registry[i], true
		}
	}
	return Kind{}, false
}

// Built reports whether records of the kind say how the lab is built, rather
// than what is planned or thought about it.
func (k RecordKind) Built() bool {
	of, ok := KindOf(k)
	return ok && of.Built
}

// OwnName is what a record was called, "" where it was not or where records of
// its kind have no name.
func OwnName(r Record) string {
	if k, ok := KindOf(r.Key().Kind); ok && k.name >= 0 {
		return reflect.ValueOf(r).Field(k.name).String()
	}
	return ""
}

// Renamed is the record with another name; ok is false where records of its
// kind have none.
func Renamed(r Record, name string) (renamed Record, ok bool) {
	k, ok := KindOf(r.Key().Kind)
	if !ok || k.name < 0 {
		return r, false
	}
	into := reflect.New(k.Type).Elem()
	into.Set(reflect.ValueOf(r))
	into.Field(k.name).SetString(name)
	return into.Interface().(Record), true
}

// NameIn is the name of the record that p points to, which is to be of the kind.
func (k Kind) NameIn(p any) *string {
	return reflect.ValueOf(p).Elem().Field(k.name).Addr().Interface().(*string)
}

// Blank is a record of the kind that says nothing yet but what goes without
// saying. It panics where there is no such kind, which is a slip in the program.
func Blank(name RecordKind, id ID) Record {
	k, ok := KindOf(name)
	if !ok {
		panic("no record kind " + name)
	}
	return withDefaults(WithID(k.One.(Record), id))
}

// DecodeRecord reads one record of the given kind from JSON. Fields the
// record does not have are errors, so that a slip of the pen is not lost. What
// is the default may be left out: a device is running, at the front, and
// takes the whole width.
func DecodeRecord(name RecordKind, data []byte) (Record, error) {
	k, ok := KindOf(name)
	if !ok {
		return nil, fmt.Errorf("there is no record kind %q; it is one of %s", name, joinWords(kindNames()))
	}
	into := reflect.New(k.Type)
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into.Interface()); err != nil {
		return nil, err
	}
	nilEmpty(into.Elem())
	return withDefaults(into.Elem().Interface().(Record)), nil
}

func kindNames() []RecordKind {
	var names []RecordKind
	for _, k := range registry {
		names = append(names, k.RecordKind)
	}
	return names
}

// withDefaults fills in the defaults.
func withDefaults(r Record) Record {
	if d, ok := r.(interface{ withDefaults() Record }); ok {
		return d.withDefaults()
	}
	return r
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

// WithoutPrivate is a lab to show to others: every field that is marked as
// private is left out of it, of whatever kind of record, and so are the addresses at
// which devices can be reached from anywhere. Notes and plans are
// kept as they are; what stands there is up to who wrote it.
func WithoutPrivate(l *Lab) *Lab {
	var changes []Change
	for _, k := range registry {
		for r := range l.Records(k.RecordKind) {
			into := reflect.New(k.Type).Elem()
			into.Set(reflect.ValueOf(r))
			hidePrivate(into)
			is := into.Interface().(Record)
			if d, ok := is.(Device); ok {
				is = d.withoutPublic()
			}
			if c, ok := l.Put(is); ok {
				changes = append(changes, c)
			}
		}
	}
	shared, err := l.Rewind(changes)
	if err != nil {
		return New() // nothing rather than too much
	}
	return shared
}

// Private reports whether a field of the kind's records, by its JSON name, is
// left out of what is shared.
func (k Kind) Private(field string) bool {
	return slices.ContainsFunc(reflect.VisibleFields(k.Type), func(f reflect.StructField) bool {
		return jsonName(f) == field && isPrivate(f)
	})
}

func isPrivate(f reflect.StructField) bool { return f.Tag.Get("lab") == "private" }

// jsonName is what a field is called in JSON.
func jsonName(f reflect.StructField) string {
	name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
	return name
}

// hidePrivate clears the private fields of a struct, also inside its lists:
// those are copied, since the record shares them with others.
func hidePrivate(v reflect.Value) {
	for i := range v.NumField() {
		switch f := v.Field(i); {
		case isPrivate(v.Type().Field(i)):
			f.SetZero()
		case f.Kind() == reflect.Struct:
			hidePrivate(f)
		case f.Kind() == reflect.Slice && f.Type().Elem().Kind() == reflect.Struct && f.Type().Elem() != reflect.TypeFor[Change]():
			list := reflect.MakeSlice(f.Type(), f.Len(), f.Len())
			reflect.Copy(list, f)
			for j := range list.Len() {
				hidePrivate(list.Index(j))
			}
			f.Set(list)
		}
	}
}

// WithID is the record under another id.
func WithID(r Record, id ID) Record {
	into := reflect.New(reflect.TypeOf(r)).Elem()
	into.Set(reflect.ValueOf(r))
	into.FieldByName("ID").SetString(string(id))
	return into.Interface().(Record)
}
