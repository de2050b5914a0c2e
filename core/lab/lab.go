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
	"golang.org/x/text/unicode/norm"
)

// Lab is everything that is written down about a lab at one moment. It is
// immutable: Apply makes a new one that shares what did not change, so a Lab
// may be read from many goroutines and reserved for as long as it is of use.
type Lab struct {
	records *iradix.Tree[Record] // by kind and id
	users   *iradix.Tree[Record] // who refers to a record, by that record's key
	taken   *iradix.Tree[ID]     // by kind, field and folded value, where values are unique
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

func (u Unique) key(kind RecordKind) []byte {
	return []byte(string(kind) + "/" + u.Field + "/" + FoldName(u.Value))
}

// FoldName makes names that a person would take for the same equal: in small
// letters, with accents as one character with their letter (Unicode's form NFC),
// and without what does not show by itself.
func FoldName(name string) string {
	for i := range len(name) {
		if name[i] >= utf8.RuneSelf {
			return norm.NFC.String(cases.Fold().String(withoutSilent(name)))
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

// Find finds a record of a kind by its id.
func Find[R Record](l *Lab, id ID) (R, bool) {
	var none R
	r, ok := l.Get(Key{none.Key().Kind, id}).(R)
	return r, ok
}

// Each goes through the records of a kind, oldest first.
func Each[R Record](l *Lab) iter.Seq[R] {
	var none R
	return each[R](l, none.Key().Kind)
}

// Records goes through the records of one kind, oldest first.
func (l *Lab) Records(kind RecordKind) iter.Seq[Record] { return each[Record](l, kind) }

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

// Things goes through the devices that one could touch, oldest first: all but VMs and
// containers.
func Things(l *Lab) iter.Seq[Device] { return devices(l, false) }

// Guests goes through the VMs and containers, oldest first.
func Guests(l *Lab) iter.Seq[Device] { return devices(l, true) }

func devices(l *Lab, guests bool) iter.Seq[Device] {
	return func(yield func(Device) bool) {
		for d := range Each[Device](l) {
			if d.IsGuest() == guests && !yield(d) {
				return
			}
		}
	}
}

// Named finds the record of a kind by its name, whatever its case, where names
// are unique.
func (l *Lab) Named(kind RecordKind, name string) (ID, bool) {
	return l.Having(kind, Unique{"name", name})
}

// Having finds the record of a kind by a value that no other one has.
func (l *Lab) Having(kind RecordKind, u Unique) (ID, bool) { return l.taken.Get(u.key(kind)) }

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

// Held is HeldBy in the order of age, for sums where order does not matter. What runs
// on a device is not on it in this sense: see GuestsOn.
func (l *Lab) Held(holder Key) []Device {
	var held []Device
	for by := range l.UsersOf(holder) {
		if d, ok := by.(Device); ok && d.At != nil && !d.IsGuest() && d.At.ref().To == holder {
			held = append(held, d)
		}
	}
	return held
}

// RackOf finds the rack a device is in, however deep among shelves, or on,
// under or beside.
func (l *Lab) RackOf(d Device) (Rack, bool) {
	at := l.Foot(d).At
	if at == nil {
		return Rack{}, false
	}
	return Find[Rack](l, at.Rack)
}

// WhereIs names the rack or the place that a device is in, "" while it is in neither.
func (l *Lab) WhereIs(d Device) string {
	if r, ok := l.RackOf(d); ok {
		return r.Name
	}
	if at := l.Foot(d).At; at != nil {
		p, _ := Find[Place](l, at.Place)
		return p.Name
	}
	return ""
}

// Within are the rack and the places that a device is in, the nearest first.
func (l *Lab) Within(d Device) []Key {
	var list []Key
	place := ID("")
	if r, ok := l.RackOf(d); ok {
		list, place = append(list, r.Key()), r.Place
	} else if at := l.Foot(d).At; at != nil {
		place = at.Place
	}
	for range MostNested {
		p, ok := Find[Place](l, place)
		if !ok {
			break
		}
		list, place = append(list, p.Key()), p.In
	}
	return list
}

// Foot is what a device stands on in the end, however deep: itself, where it
// stands on no other one.
func (l *Lab) Foot(d Device) Device {
	for d.At != nil && d.At.Where == OnDevice {
		up, ok := Find[Device](l, d.At.Device)
		if !ok {
			break
		}
		d = up
	}
	return d
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
