package rundown

import (
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
	s := l.Settings()
	p.line(0, sectionHead("lab", s.Name), "", spoken(s, l), false)
	p.sheets()
	p.runs()
	for r := range lab.Each[lab.Rack](l) {
		p.blank()
		p.line(0, sectionHead("rack", r.Name), r.Notes, spoken(r, l), false)
		p.held(r.Key(), 0)
	}
	for pl := range lab.Each[lab.Place](l) {
		p.blank()
		p.line(0, sectionHead("place", pl.Name), pl.Notes, spoken(pl, l), false)
		p.held(pl.Key(), column)
	}
	first := true
	for d := range lab.Each[lab.Device](l) {
		if d.At != nil {
			continue
		}
		if first {
			p.blank()
			first = false
		}
		p.device(d, 0)
	}
	p.apart()
	p.cables()
	return p.b.String()
}

// sheets writes the spec sheets, a line each, together.
func (p *printer) sheets() {
	first := true
	for s := range lab.Each[lab.SpecSheet](p.lab) {
		if first {
			p.blank()
		}
		first = false
		p.line(0, sectionHead(sectionWord(lab.KindSheet), s.Name), s.Notes, spoken(s, p.lab), false)
	}
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

func deviceHead(d lab.Device) string { return sectionHead(KindText(d.Kind), d.Name) }

// held writes what a record holds, each line indented by that many blanks
// where no units stand before it.
func (p *printer) held(holder lab.Key, indent int) {
	for _, d := range p.lab.HeldBy(holder) {
		p.device(d, indent)
	}
}

func (p *printer) device(d lab.Device, indent int) {
	head := deviceHead(d)
	if d.At == nil || d.At.Where != lab.OnDevice && d.At.Where != lab.InPlace {
		where := "?"
		if d.At != nil {
			where = WhereText(p.lab, d, d.At.Rack)
		}
		head = where + strings.Repeat(" ", max(1, column-utf8.RuneCountInString(where))) + head
		indent = 0
	}
	parts := p.lab.PartsOf(d.ID)
	holds := len(p.lab.HeldBy(d.Key())) > 0
	p.line(indent, head, d.Notes, spoken(d, p.lab), holds || len(parts) > 0)
	p.parts(parts, max(indent, column)+2)
	if holds {
		p.held(d.Key(), max(indent, column)+2)
	}
}

// line writes a head, its facts and its note. What goes with the name as one
// speaks, such as a device's state, stands before the colon.
func (p *printer) line(indent int, head, note string, said [2][]string, holds bool) {
	p.b.WriteString(strings.Repeat(" ", indent) + head)
	for _, s := range said[0] {
		p.b.WriteString(", " + s)
	}
	switch {
	case len(said[1]) > 0:
		p.b.WriteString(": " + strings.Join(said[1], ", "))
	case holds:
		p.b.WriteByte(':')
	}
	if note != "" && isComment(note) {
		p.b.WriteString("  # " + note)
	}
	p.b.WriteByte('\n')
}

// spokenWithName are the facts that go before the colon.
var spokenWithName = map[lab.RecordKind]bool{lab.KindLab: true}

// spoken writes a record's facts, those before the colon and those after it.
func spoken(r lab.Record, l *lab.Lab) (said [2][]string) {
	kind := r.Key().Kind
	if s, ok := r.(lab.SpecSheet); ok {
		said[1] = append(said[1], KindText(s.Kind))
	}
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
		said[at] = append(said[at], s)
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
