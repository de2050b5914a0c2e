package lab

import (
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Bounds of what can be written, in characters.
const (
	maxName    = 80
	maxPurpose = 500
	maxNotes   = 10_000
)

// Fault is one thing that keeps changes from being made.
type Fault struct {
	Key   Key    `json:"record"`
	Title string `json:"title" description:"What the record is called"`
	Field string `json:"field" description:"The JSON field that is in the way"`
	Say   string `json:"detail" description:"What is wrong and how to fix it"`
}

// Refusal is the error of changes that would break a rule.
type Refusal struct{ Faults []Fault }

// Error says the first few faults.
func (r *Refusal) Error() string {
	var say []string
	for i, f := range r.Faults {
		if i == 3 && len(r.Faults) > 4 {
			say = append(say, fmt.Sprintf("and %d more", len(r.Faults)-3))
			break
		}
		say = append(say, f.Title+", "+f.Field+": "+f.Say)
	}
	return strings.Join(say, "; ")
}

// Conflict is the error of changes whose before is not what the lab has.
type Conflict struct {
	Key Key
	Now Record // nil if there is no such record
}

// Error names the record.
func (c *Conflict) Error() string {
	if c.Now == nil {
		return fmt.Sprintf("%s %s does not exist", c.Key.Kind, c.Key.ID)
	}
	return fmt.Sprintf("%s %s has changed since", c.Key.Kind, quote(c.Now.Title()))
}

// faults gathers what is wrong while changes are checked.
type faults struct {
	list             []Fault
	key              Key
	title            string
	changed, checked map[Key]bool
	mounted          map[ID][]Device            // what racks hold, looked up once
	plugged          map[ID]*plugs              // what is plugged into devices, looked up once
	seated           map[ID]map[partSeat][]Part // what sits in their seats, likewise
}

// mountedIn lists what a rack holds in the lab that is being checked.
func (f *faults) mountedIn(l *Lab, r Rack) []Device {
	held, known := f.mounted[r.ID]
	if !known {
		held = l.Held(r.Key())
		f.mounted[r.ID] = held
	}
	return held
}

func (f *faults) about(r Record) { f.key, f.title = r.Key(), r.Title() }

func (f *faults) add(field, format string, args ...any) {
	f.list = append(f.list, Fault{f.key, shorten(f.title), field, fmt.Sprintf(format, args...)})
}

func (f *faults) id(id ID) {
	if len(id) < 1 || len(id) > 64 || strings.ContainsFunc(string(id), func(r rune) bool {
		return r != '-' && (r < '0' || r > '9') && (r < 'a' || r > 'z')
	}) {
		f.add("id", "an id is up to 64 small letters, digits and hyphens, such as a UUID, not %s", quote(string(id)))
	}
}

func (f *faults) need(field, value string) {
	if value == "" {
		f.add(field, "cannot be empty")
	}
}

func (f *faults) name(field, value string) { f.line(field, value, maxName) }

// line takes one line of text: no control characters, no blanks around it.
func (f *faults) line(field, value string, most int) {
	f.text(field, value, most)
	if strings.ContainsAny(value, "\n\t") {
		f.add(field, "has to be one line; remove the line breaks and tabs")
	}
}

// text takes lines of text.
func (f *faults) text(field, value string, most int) {
	if n := utf8.RuneCountInString(value); n > most {
		f.add(field, "is %d characters long; at most %d are allowed", n, most)
		return
	}
	if value != strings.TrimSpace(value) {
		f.add(field, "starts or ends with a space; remove it")
	}
	if !utf8.ValidString(value) {
		f.add(field, "is not valid UTF-8")
	} else if i := strings.IndexFunc(value, hidden); i >= 0 {
		r, _ := utf8.DecodeRuneInString(value[i:])
		f.add(field, "has the character %U in it, which does not show; remove it", r)
	}
}

func (f *faults) between(field string, v *float64, least, most float64, unit string) {
	if v != nil && !(*v >= least && *v <= most) {
		f.add(field, "%v %s is out of range: it is between %v and %v %s, or left out while unknown", *v, unit, least, most, unit)
	}
}

func oneOf[T ~string](f *faults, field string, v T, list []T) {
	if !slices.Contains(list, v) {
		f.add(field, "%s is not known here; it is one of %s", quote(string(v)), joinWords(list))
	}
}

func quote(s string) string { return "“" + shorten(s) + "”" }

// shorten keeps a sentence readable whatever was typed.
func shorten(s string) string {
	s = strings.Map(func(r rune) rune {
		if r == '\n' || r == '\t' || hidden(r) {
			return '·'
		}
		return r
	}, s)
	if utf8.RuneCountInString(s) > 60 {
		return string([]rune(s)[:57]) + "…"
	}
	return s
}

// withArticle puts a or an before a noun.
func withArticle(noun string) string {
	if strings.ContainsAny(noun[:1], "aeiou") {
		return "an " + noun
	}
	return "a " + noun
}

func itoa(n int) string { return strconv.Itoa(n) }

// Listed joins words as one speaks: "a, b and c". Where there are more than most, the
// last of those counts the rest: "a, b and 4 more".
func Listed(words []string, most int) string { return listed(words, most, "and") }

// Either joins words of which any one is meant: "a, b or c".
func Either(words []string, most int) string { return listed(words, most, "or") }

func listed(words []string, most int, last string) string {
	if n := len(words); n > most {
		words = append(slices.Clone(words[:most-1]), fmt.Sprintf("%d more", n-most+1))
	}
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " " + last + " " + words[len(words)-1]
}

// checkIn finds a device that is out of its rack, in another one's units, or
// on itself.
func (d Device) checkIn(l *Lab, f *faults) {
	d.checkSeats(l, f)
	d.checkPools(l, f)
	d.checkPlugs(l, f)
	d.checkGoing(l, f)
	d.checkGuest(l, f)
	switch {
	case d.At == nil:
	case d.At.Where == InUnits:
		d.checkUnits(l, f)
	case d.At.Where == OnDevice:
		d.checkStack(l, f)
	}
}

// mostInTheWay bounds how many of the things in the way of another are reported:
// a thousand things in one unit would be half a million faults.
const mostInTheWay = 3

func (d Device) checkUnits(l *Lab, f *faults) {
	r, _ := Find[Rack](l, d.At.Rack)
	if d.At.Unit < 1 || d.At.Unit+d.Units()-1 > r.HeightU {
		f.add("at.unit", "%s does not fit at %s: %s has the units 1 to %d", quote(d.Title()), l.UnitRange(r, d.At.Unit, d.Units()),
			quote(r.Name), r.HeightU)
		return
	}
	told := 0
	for _, o := range f.mountedIn(l, r) {
		if told == mostInTheWay {
			break
		}
		if o.ID == d.ID || !d.Meets(&o) || f.changed[o.Key()] && !f.checked[o.Key()] {
			continue // a pair of changed ones is reported once, by the later one
		}
		told++
		f.add("at.unit", "%s cannot take %s at the %s of %s: %s takes %s there", quote(d.Title()),
			l.UnitRange(r, d.At.Unit, d.Units()), d.At.Face, quote(r.Name), quote(o.Title()), l.UnitRange(r, o.At.Unit, o.Units()))
	}
}

// Meets reports whether two devices mounted in the same rack want the same
// part of the same units of the same face.
func (d *Device) Meets(o *Device) bool {
	if d.At == nil || o.At == nil || d.At.Where != InUnits || o.At.Where != InUnits || d.At.Rack != o.At.Rack || d.At.Face != o.At.Face {
		return false
	}
	dl, dr := d.At.Share.Sixths()
	ol, or := o.At.Share.Sixths()
	return d.At.Unit < o.At.Unit+o.Units() && o.At.Unit < d.At.Unit+d.Units() && dl < or && ol < dr
}

// MostNested is how many things may be under one another, or places within one
// another: it bounds what it takes to say where something is.
const MostNested = 16

// checkStack finds a device that stands on itself, or in too high a stack.
func (d Device) checkStack(l *Lab, f *faults) {
	switch back, deep := l.nesting(d, "at.device_id"); {
	case back == nil && deep:
		f.add("at.device_id", "%s stands too deep: devices stack at most %d deep", quote(d.Title()), MostNested)
	case back == nil:
	case back.Key() == d.Key():
		f.add("at.device_id", "%s cannot stand on itself", quote(d.Title()))
	default:
		f.add("at.device_id", "%s cannot stand on %s, which is itself on %s", quote(d.Title()), quote(back.Title()), quote(d.Title()))
	}
}

// nesting follows a reference by which records of a kind are in one another, or
// on: back is the one from which it leads back to r, nil if it does not, and
// deep whether there are too many from the first to the last.
func (l *Lab) nesting(r Record, field string) (back Record, deep bool) {
	now, under := r, 0
	for now != nil && under <= MostNested {
		up, ok := refIn(now, field)
		if !ok {
			break
		}
		if up == r.Key() {
			return now, false
		}
		now = l.Get(up)
		under++
	}
	return nil, l.higher(r.Key(), field, MostNested-under)
}

// refIn is what a record refers to in a field.
func refIn(r Record, field string) (to Key, ok bool) {
	for _, ref := range r.Refs() {
		if ref.Field == field {
			return ref.To, true
		}
	}
	return Key{}, false
}

// higher reports whether more records of a kind are on one, each on the next, than
// so many.
func (l *Lab) higher(k Key, field string, most int) bool {
	if most < 0 {
		return true
	}
	for by := range l.UsersOf(k) {
		if to, ok := refIn(by, field); ok && to == k && by.Key().Kind == k.Kind && l.higher(by.Key(), field, most-1) {
			return true
		}
	}
	return false
}
