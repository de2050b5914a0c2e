package rundown

import (
	"iter"
	"slices"
	"strings"
	"unicode/utf8"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// column is where a line's kind starts, after the units.
const column = 8

// Print writes a lab so that it loads to the same one.
func Print(l *lab.Lab) string {
	p := &printer{lab: l}
	for _, k := range lineKinds() {
		if k.print != nil {
			k.print(p, k)
		} else {
			p.together(k)
		}
	}
	return p.b.String()
}

// together writes the records of a kind, a line each, with a blank line before
// them.
func (p *printer) together(k lineKind) {
	first := p.b.Len() > 0
	for r := range p.lab.Records(k.kind) {
		if first {
			p.blank()
		}
		first = false
		p.section(k, r)
	}
}

// holders writes racks or places, each with what it holds.
func (p *printer) holders(k lineKind) {
	indent := 0
	if k.kind == lab.KindPlace {
		indent = column
	}
	for r := range p.lab.Records(k.kind) {
		p.blank()
		p.section(k, r)
		p.held(r.Key(), indent)
	}
}

// loose writes the devices that are not placed.
func (p *printer) loose(lineKind) {
	first := true
	for d := range lab.Each[lab.Device](p.lab) {
		if d.At != nil {
			continue
		}
		if first {
			p.blank()
			first = false
		}
		p.device(d, 0)
	}
}

// section writes the line of a record that begins with a head's word.
func (p *printer) section(k lineKind, r lab.Record) {
	b, ix := open(r), indexes[scopeOf(r)]
	head := k.word
	for _, field := range k.before {
		if s := ix.byField[field].say(p.lab, b); s != "" {
			head += " " + s
		}
	}
	head = sectionHead(strings.TrimSpace(head), lab.OwnName(r))
	said := spoken(r, p.lab)
	if k.of != "" { // what it is on goes with the name
		said[1] = slices.DeleteFunc(said[1], func(s phrase) bool { return s.field == k.of })
		head += " " + ix.byField[k.of].say(p.lab, b)
	}
	p.line(0, column, head, NotesOf(r), said, false)
}

// LineOf is a record of a kind whose lines begin with a word, as its line.
func LineOf(l *lab.Lab, r lab.Record) string {
	p := &printer{lab: l}
	p.section(lineKindOf(lineKinds(), r.Key().Kind), r)
	return strings.ReplaceAll(strings.TrimSuffix(p.b.String(), "\n"), "\n"+strings.Repeat(" ", column), " ")
}

// NotesOf is a record's notes, "" where its kind has none.
func NotesOf(r lab.Record) string {
	if f, ok := indexes[scopeOf(r)].byField["notes"]; ok {
		return f.raw(open(r))
	}
	return ""
}

type printer struct {
	b   strings.Builder
	lab *lab.Lab
}

func (p *printer) blank() { p.b.WriteByte('\n') }

func sectionHead(kind, name string) string {
	if name == "" {
		return kind
	}
	return kind + " " + text.Quote(name)
}

func deviceTitle(d lab.Device) string { return sectionHead(headKind(d), d.Name) }

// RemarksOf are a record's remarks; none where its kind has none.
func RemarksOf(r lab.Record) []string {
	if f, ok := indexes[scopeOf(r)].byField["remarks"]; ok {
		return f.texts(open(r))
	}
	return nil
}

// held writes what a record holds, each line indented by that many blanks
// where no units stand before it.
func (p *printer) held(holder lab.Key, indent int) {
	for _, d := range p.lab.HeldBy(holder) {
		p.device(d, indent)
	}
}

func (p *printer) device(d lab.Device, indent int) {
	head := deviceTitle(d)
	if d.At == nil || d.At.Where != lab.OnDevice && d.At.Where != lab.InPlace {
		where := "?"
		if d.At != nil {
			where = WhereText(p.lab, d, d.At.Rack)
		}
		head = where + strings.Repeat(" ", max(1, column-utf8.RuneCountInString(where))) + head
		indent = 0
	}
	parts := p.lab.PartsOf(d.ID)
	on := onIt(p.lab, d.Key())
	under := max(indent, column) + 2 // what is in it; its own facts further in
	p.line(indent, under+2, head, d.Notes, spoken(d, p.lab), len(on)+len(parts) > 0)
	p.parts(parts, under)
	for _, o := range on {
		p.device(o, under)
	}
}

// width is how long a line gets before it goes on in the next.
const width = 80

// line writes a head, its facts and its note. What goes with the name as one
// speaks, such as a device's state, stands before the colon. Where that is too
// long for one line, it goes on so many blanks further in, its ports on lines of
// their own.
func (p *printer) line(indent, further int, head, note string, said [2][]phrase, holds bool) {
	if note != "" && isComment(note) {
		note = "  # " + note
	} else {
		note = ""
	}
	line := strings.Repeat(" ", indent) + head
	long := utf8.RuneCountInString(line + note)
	for _, s := range slices.Concat(said[0], said[1]) {
		long += utf8.RuneCountInString(s.text) + len(", ")
	}
	f := folding{to: &p.b, line: line, indent: further, fits: long <= width}
	for _, s := range said[0] {
		f.fact(",", s)
	}
	for i, s := range said[1] {
		f.fact(map[bool]string{true: ":", false: ","}[i == 0], s)
	}
	if holds && len(said[1]) == 0 {
		f.line += ":"
	}
	p.b.WriteString(f.line + note + "\n")
}

// folding writes facts behind one another, and on in the next line where one is
// full.
type folding struct {
	to     *strings.Builder
	line   string // that is being written
	indent int    // of those it goes on in
	fits   bool   // all of it is one line
	apart  bool   // the last fact has its lines to itself
}

// fact writes a fact, and what stands before it.
func (f *folding) fact(separator string, s phrase) {
	if f.fits {
		f.line += separator + " " + s.text
		return
	}
	anew := s.apart || f.apart
	for piece := range s.pieces() {
		l, _ := text.Lex(1, piece)
		full := utf8.RuneCountInString(f.line+piece)+len(", ,") > width
		if separator == "," && (anew || full) && !beginsThing(s.of, l.Tokens) {
			f.to.WriteString(f.line + ",\n")
			f.line = strings.Repeat(" ", f.indent) + piece
		} else {
			f.line += separator + " " + piece
		}
		separator, anew = ",", false
	}
	f.apart = s.apart
}

// phrase is a fact as it is written; apart where it has its lines to itself.
type phrase struct {
	of    scope
	field string
	text  string
	apart bool
}

// pieces cuts a fact at the commas between its groups.
func (s phrase) pieces() iter.Seq[string] {
	return func(yield func(string) bool) {
		l, _ := text.Lex(1, s.text)
		runes, from := []rune(s.text), 0
		for _, t := range l.Tokens {
			if t.Kind != text.Separator {
				continue
			}
			if !yield(strings.TrimSpace(string(runes[from : t.Col-1]))) {
				return
			}
			from = t.End - 1
		}
		yield(strings.TrimSpace(string(runes[from:])))
	}
}

// spokenWithName are the facts that go before the colon.
var spokenWithName = map[lab.RecordKind]bool{lab.KindLab: true}

// spoken writes a record's facts, those before the colon and those after it.
func spoken(r lab.Record, l *lab.Lab) (said [2][]phrase) {
	kind := r.Key().Kind
	b := open(r)
	for _, f := range factsOf(scopeOf(r)) {
		s := f.say(l, b)
		if s == "" {
			continue
		}
		at := 1
		if spokenWithName[kind] || f.field == "state" {
			at = 0
		}
		said[at] = append(said[at], phrase{scopeOf(r), f.field, s, f.field == "ports" || f.field == "port_marks"})
	}
	return said
}

// inPlace is the phrase that says which place a rack or place is in.
func inPlace(r lab.Record, l *lab.Lab) string {
	for _, ref := range r.Refs() {
		if p, ok := lab.Find[lab.Place](l, ref.To.ID); ok {
			return "in " + text.Quote(p.Name)
		}
	}
	return ""
}
