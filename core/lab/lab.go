package lab

import (
	"cmp"
	"iter"
	"slices"
	"strconv"
	"strings"
	"sync"
	"unicode/utf8"

	iradix "github.com/hashicorp/go-immutable-radix/v2"
	"golang.org/x/text/cases"
)

// Lab is everything that is written down about a lab at one moment. It is
// immutable: Apply makes a new one that shares what did not change, so a Lab
// may be read from many goroutines and kept for as long as it is of use.
type Lab struct {
	records *iradix.Tree[Record] // by kind and id
	users   *iradix.Tree[Record] // who refers to a record, by that record's key
	names   *iradix.Tree[ID]     // by kind and folded name, where names are unique
	top     Settings
	derived *sync.Map // what was worked out from it, by type
}

// New returns a lab with nothing in it but the settings it starts with.
func New() *Lab {
	first := Settings{ID: SettingsID, Numbering: FromBottom}
	l := &Lab{iradix.New[Record](), iradix.New[Record](), iradix.New[ID](), first, &sync.Map{}}
	l.records, _, _ = l.records.Insert(first.Key().bytes(), first)
	return l
}

func (k Key) bytes() []byte { return k.with(0)[:len(k.Kind)+len(k.ID)+1] }

// with is the key's bytes and one more, in one piece of memory.
func (k Key) with(last byte) []byte {
	b := make([]byte, 0, len(k.Kind)+len(k.ID)+2)
	b = append(append(append(b, k.Kind...), '/'), k.ID...)
	return append(b, last)
}

// userKey orders the users of a record by that record.
func userKey(of, by Key) []byte {
	return []byte(string(of.Kind) + "/" + string(of.ID) + "\x00" + string(by.Kind) + "/" + string(by.ID))
}

func nameKey(kind RecordKind, name string) []byte {
	return []byte(string(kind) + "/" + FoldName(name))
}

// FoldName makes names that a person would take for the same equal.
func FoldName(name string) string {
	for i := range len(name) {
		if name[i] >= utf8.RuneSelf {
			return cases.Fold().String(name)
		}
	}
	return strings.ToLower(name)
}

// Get finds a record by its key; nil if there is none.
func (l *Lab) Get(k Key) Record {
	r, _ := l.records.Get(k.bytes())
	return r
}

// Settings returns what holds for the whole lab.
func (l *Lab) Settings() Settings { return l.top }

// Place finds a place.
func (l *Lab) Place(id ID) (Place, bool) { return find[Place](l, KindPlace, id) }

// Rack finds a rack.
func (l *Lab) Rack(id ID) (Rack, bool) { return find[Rack](l, KindRack, id) }

// Device finds a device.
func (l *Lab) Device(id ID) (Device, bool) { return find[Device](l, KindDevice, id) }

// SpecSheet finds a spec sheet.
func (l *Lab) SpecSheet(id ID) (SpecSheet, bool) { return find[SpecSheet](l, KindSheet, id) }

// Part finds a part.
func (l *Lab) Part(id ID) (Part, bool) { return find[Part](l, KindPart, id) }

// Places goes through the places, oldest first.
func (l *Lab) Places() iter.Seq[Place] { return each[Place](l, KindPlace) }

// Racks goes through the racks, oldest first.
func (l *Lab) Racks() iter.Seq[Rack] { return each[Rack](l, KindRack) }

// Devices goes through the devices, oldest first.
func (l *Lab) Devices() iter.Seq[Device] { return each[Device](l, KindDevice) }

// SpecSheets goes through the spec sheets, oldest first.
func (l *Lab) SpecSheets() iter.Seq[SpecSheet] { return each[SpecSheet](l, KindSheet) }

// Parts goes through the parts, oldest first.
func (l *Lab) Parts() iter.Seq[Part] { return each[Part](l, KindPart) }

// Records goes through the records of one kind, oldest first.
func (l *Lab) Records(kind RecordKind) iter.Seq[Record] { return each[Record](l, kind) }

func find[R Record](l *Lab, kind RecordKind, id ID) (R, bool) {
	r, ok := l.Get(Key{kind, id}).(R)
	return r, ok
}

func each[R Record](l *Lab, kind RecordKind) iter.Seq[R] {
	return func(yield func(R) bool) {
		it := l.records.Root().Iterator()
		it.SeekPrefix([]byte(string(kind) + "/"))
		for _, r, ok := it.Next(); ok; _, r, ok = it.Next() {
			if !yield(r.(R)) {
				return
			}
		}
	}
}

// Named finds the place or rack of that name, whatever its case.
func (l *Lab) Named(kind RecordKind, name string) (ID, bool) {
	return l.names.Get(nameKey(kind, name))
}

// UsersOf goes through the records that refer to the given one, by kind and
// age.
func (l *Lab) UsersOf(k Key) iter.Seq[Record] {
	return func(yield func(Record) bool) {
		it := l.users.Root().Iterator()
		it.SeekPrefix(k.with(0))
		for _, by, ok := it.Next(); ok; _, by, ok = it.Next() {
			if !yield(by) {
				return
			}
		}
	}
}

// HeldBy lists the devices that are in, on or at a rack, device or place,
// those in units from the top down, the others in their order.
func (l *Lab) HeldBy(holder Key) []Device {
	held := l.Held(holder)
	slices.SortFunc(held, func(a, b Device) int {
		from, _ := a.At.Share.Sixths()
		to, _ := b.At.Share.Sixths()
		return cmp.Or(
			slices.Index(wheres, a.At.Where)-slices.Index(wheres, b.At.Where),
			cmp.Compare(b.head(), a.head()),
			cmp.Compare(a.At.Face, b.At.Face),
			from-to,
			cmp.Compare(a.At.Order, b.At.Order),
			cmp.Compare(a.ID, b.ID))
	})
	return held
}

// head is the unit above a mounted device, 0 for one that is in no units.
func (d Device) head() int {
	if d.At.Where != InUnits {
		return 0
	}
	return d.At.Unit + d.Units()
}

// Held is HeldBy in the order of age, for sums where order does not matter.
func (l *Lab) Held(holder Key) []Device {
	var held []Device
	for by := range l.UsersOf(holder) {
		if d, ok := by.(Device); ok {
			held = append(held, d)
		}
	}
	return held
}

// RackOf finds the rack a device is in, however deep among shelves, or on,
// under or beside.
func (l *Lab) RackOf(d Device) (Rack, bool) {
	for d.At != nil && d.At.Where == OnDevice {
		up, ok := l.Device(d.At.Device)
		if !ok {
			break
		}
		d = up
	}
	if d.At == nil {
		return Rack{}, false
	}
	return l.Rack(d.At.Rack)
}

// UnitNumber is the number on the rail of a unit that is counted from the
// foot; the same sum turns a number on the rail into a count from the foot.
func (l *Lab) UnitNumber(r Rack, unit int) int {
	if l.Settings().Numbering == FromTop {
		return r.HeightU + 1 - unit
	}
	return unit
}

// UnitRange names n units as the rail does, smaller number first: "7", "12-13".
func (l *Lab) UnitRange(r Rack, lowest, n int) string {
	a, b := l.UnitNumber(r, lowest), l.UnitNumber(r, lowest+n-1)
	if a == b {
		return strconv.Itoa(a)
	}
	return strconv.Itoa(min(a, b)) + "-" + strconv.Itoa(max(a, b))
}
