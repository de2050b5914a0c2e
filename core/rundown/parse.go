package rundown

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Bounds of a text.
const (
	maxLines  = 50_000
	maxMerged = 20_000 // characters in a line
	maxNested = 20
)

// Document is a text that was read: its things line by line, and what could
// not be read. A phrase with a mistake is left out, and the whole thing where
// it cannot be told what or where it is.
type Document struct {
	things   []*thing // sections, and devices outside any
	Mistakes []text.Mistake
	size     int // about how many things there are
}

// thing is one record as the text speaks of it.
type thing struct {
	kind     lab.RecordKind
	part     lab.PartKind // of a part
	seats    *seats       // of a part
	wire     *strand      // of a cable
	file     string
	line     int
	col, end int
	indent   int
	name     string
	device   lab.DeviceKind
	where    *where
	said     []said
	within   []*thing // what stands on it, lies in it or is mounted in it
	up       *thing   // what it is within, once the whole text is read
	broken   bool     // it, or what it stands on, has a mistake
}

// said is a fact that the text gives, with its value and where it stands.
type said struct {
	fact     *fact
	value    any  // nil: said to be unknown
	bare     bool // a quantity that no word went with
	col, end int
}

// parser reads lines one after another; section is the rack or place that the
// lines are under, open the things that a deeper line would belong to.
type parser struct {
	lexer   text.Lexer
	doc     *Document
	file    string
	section *thing
	open    []*thing
	alone   bool // a line by itself, which may do without a section
}

// Parse reads a rundown.
func Parse(rundown string) Document { return ParseFile("", rundown) }

// ParseFile is Parse for a text whose mistakes are to name the file.
func ParseFile(file, rundown string) Document {
	p := &parser{doc: &Document{}, file: file}
	for i, raw := range strings.Split(rundown, "\n") {
		if i == maxLines {
			p.mistake(text.Mistake{Line: i + 1, Column: 1, EndColumn: 2, Say: fmt.Sprintf("a rundown has at most %d lines; split it, and plug whole panels in by ranges such as core/1-24 - PP1/1-24", maxLines)})
			break
		}
		p.line(i+1, strings.TrimSuffix(raw, "\r"))
	}
	return *p.doc
}

func (p *parser) mistake(m text.Mistake) {
	m.File = p.file
	p.doc.Mistakes = append(p.doc.Mistakes, m)
}

// ParseLine reads one line by itself, as typed into the app: spots count in
// the rack that Load is given, and a device that is known may do without one.
func ParseLine(line string) Document {
	p := &parser{doc: &Document{}, alone: true}
	p.line(1, line)
	return *p.doc
}

// line reads one line into the document.
func (p *parser) line(number int, raw string) {
	if len(raw) > maxMerged {
		p.mistake(text.Mistake{Line: number, Column: 1, EndColumn: 2, Say: fmt.Sprintf("the line is %d characters long; %d fit", len(raw), maxMerged)})
		return
	}
	l, lexed := p.lexer.Line(number, strings.TrimPrefix(raw, "\ufeff"))
	if lexed != nil {
		p.mistake(*lexed)
	}
	if len(l.Tokens) == 0 {
		return
	}
	t := &thing{file: p.file, line: number, indent: l.Indent, col: l.Tokens[0].Col, end: l.Tokens[len(l.Tokens)-1].End, broken: lexed != nil}
	rest, err := t.head(l.Tokens)
	if err != nil {
		t.broken = true
		if lexed == nil {
			p.mistake(*err)
		}
	}
	for _, m := range t.facts(rest) {
		p.mistake(m)
	}
	t.comment(l.Comment)
	p.put(t)
}

// head reads what a line begins with: where, the kind and the name.
func (t *thing) head(tokens []text.Token) ([]text.Token, *text.Mistake) {
	if s, n, err := readStrand(tokens); n > 0 {
		t.kind, t.wire = lab.KindCable, s
		if err != nil {
			return nil, t.at(tokens[:n], err)
		}
		return tokens[n:], nil
	}
	for _, kind := range sections {
		if tokens[0].Is(sectionWord(kind)) && !sameKind(tokens) {
			t.kind = kind
			return t.readName(tokens[1:])
		}
	}
	if s, n, err := readSeats(tokens); n > 0 {
		t.kind, t.seats = lab.KindPart, s
		if err != nil {
			return nil, t.at(tokens[:n], err)
		}
		k, used := readPartKind(tokens[n:])
		if used == 0 {
			return nil, t.notAPart(tokens[n:])
		}
		t.part = k
		return t.readName(tokens[n+used:])
	}
	t.kind = lab.KindDevice
	w, n, err := readWhere(tokens)
	if err != nil {
		return nil, t.at(tokens, err)
	}
	t.where = w
	tokens = tokens[n:]
	if len(tokens) == 0 {
		return nil, &text.Mistake{Line: t.line, Column: t.end, EndColumn: t.end + 1, Say: "say what is there", Expected: "a kind of device, such as server or switch"}
	}
	k, n := readKind(tokens)
	if n == 0 {
		if err := noJoin(tokens); err != nil && w == nil {
			t.kind = lab.KindCable
			return nil, t.at(tokens, err)
		}
		return nil, t.notAKind(tokens, w != nil)
	}
	t.device = k
	return t.readName(tokens[n:])
}

// sameKind reports whether the line is about a device whose kind happens to
// begin with a section's word, such as a rack shelf.
func sameKind(tokens []text.Token) bool { _, n := readKind(tokens); return n > 0 }

func (t *thing) notAKind(tokens []text.Token, placed bool) *text.Mistake {
	m := t.at(tokens[:1], fmt.Errorf("“%s” is not a kind of thing", text.Short(tokens[0].Text)))
	m.Expected = "a kind of device, such as server or switch"
	if !placed {
		m.Expected = "where it is, such as 12-13, left, top or ?, or a kind of device"
	}
	words := append(kindNames(), "rack", "place", "lab")
	for n := min(mostKindWords, len(tokens)); n > 0 && m.Nearest == ""; n-- {
		if tokens[n-1].Kind == text.Word && tokens[0].Kind == text.Word {
			m.Nearest = text.Nearest(text.Joined(tokens[:n]), words)
		}
	}
	if m.Nearest != "" {
		m.Say = fmt.Sprintf("%s: did you mean %s?", text.Short(tokens[0].Text), m.Nearest)
	}
	if slices.Contains(sections, lab.RecordKind(m.Nearest)) && !placed {
		t.kind = lab.RecordKind(m.Nearest) // so that the lines below do not land in the section above
	}
	return m
}

// sections are the kinds of record that a line of their own opens.
var sections = []lab.RecordKind{lab.KindLab, lab.KindRack, lab.KindPlace, lab.KindSheet, lab.KindRun}

// sectionWord is what the line of a section begins with.
func sectionWord(k lab.RecordKind) string {
	if k == lab.KindSheet {
		return "sheet"
	}
	return string(k)
}

// scope is what can be said of the thing.
func (t *thing) scope() scope {
	if t.kind == lab.KindPart {
		return partScope(t.part)
	}
	return scope(t.kind)
}

// at makes a mistake that covers the tokens.
func (t *thing) at(tokens []text.Token, err error) *text.Mistake {
	m := &text.Mistake{Line: t.line, Column: t.end, EndColumn: t.end + 1, Say: err.Error()}
	if len(tokens) > 0 {
		m.Column, m.EndColumn = tokens[0].Col, tokens[len(tokens)-1].End
	}
	return m
}

// readName reads a name in quotes, or the words up to the next comma or colon
// where they say nothing else.
func (t *thing) readName(tokens []text.Token) ([]text.Token, *text.Mistake) {
	if len(tokens) > 0 && tokens[0].Kind == text.Quoted {
		t.name = strings.TrimSpace(tokens[0].Text)
		return tokens[1:], nil
	}
	n := 0
	for n < len(tokens) && tokens[n].Kind == text.Word {
		n++
	}
	if n > 0 && (n == len(tokens) || tokens[n].Kind == text.Separator) {
		if _, err := readFact(t.scope(), tokens[:n]); err != nil {
			t.name = text.Joined(tokens[:n])
			return tokens[n:], nil
		}
	}
	return tokens, nil
}

// facts reads the phrases between commas and colons; a mistake costs its own
// phrase. A phrase that begins with a kind of device is a thing that stands on
// this one, and what follows it is said of that thing.
func (t *thing) facts(tokens []text.Token) []text.Mistake {
	if t.kind == lab.KindCable {
		return t.strandFacts(tokens)
	}
	var mistakes []text.Mistake
	about := t
	for len(tokens) > 0 {
		n := 0
		for n < len(tokens) && tokens[n].Kind != text.Separator {
			n++
		}
		phrase := tokens[:n]
		tokens = tokens[min(n+1, len(tokens)):]
		if n == 0 {
			continue
		}
		if t.kind == lab.KindSheet && t.device == "" {
			if k, used := readKind(phrase); used == len(phrase) {
				t.device = k
				continue
			}
		}
		if about.kind == lab.KindDevice {
			if more, ok := about.parts(phrase); ok {
				about.within = append(about.within, more.parts...)
				about.said = append(about.said, more.said...)
				continue
			}
		}
		s, err := readFact(about.scope(), phrase)
		if k, used := readKind(phrase); err != nil && used > 0 && (t.kind == lab.KindDevice || t.kind == lab.KindPlace) {
			about = &thing{kind: lab.KindDevice, device: k, file: t.file, line: t.line, col: phrase[0].Col, end: phrase[n-1].End}
			t.within = append(t.within, about)
			phrase, _ = about.readName(phrase[used:])
			if len(phrase) == 0 {
				continue
			}
			s, err = readFact(scope(lab.KindDevice), phrase)
		}
		if err != nil {
			mistakes = append(mistakes, *t.inPhrase(about.scope(), phrase, err))
			continue
		}
		about.said = append(about.said, s)
	}
	return mistakes
}

func (t *thing) inPhrase(kind scope, phrase []text.Token, err error) *text.Mistake {
	m := t.at(phrase, err)
	words := append(factWords(kind), "")
	if kind == scope(lab.KindDevice) {
		words = append(words, kindNames()...)
	}
	for _, tok := range phrase {
		if near := text.Nearest(tok.Text, words); tok.Kind == text.Word && near != "" && text.Plain(tok.Text) != text.Plain(near) {
			m.Nearest = near
			m.Say = fmt.Sprintf("%s: did you mean %s?", text.Short(tok.Text), near)
			m.Column, m.EndColumn = tok.Col, tok.End
			break
		}
	}
	m.Expected = "a fact such as " + strings.Join(examples(kind), ", ")
	return m
}

// factWords are all the words that phrases about a kind of record may have.
func factWords(kind scope) []string {
	var words []string
	for _, f := range factsOf(kind) {
		words = append(append(words, f.words...), f.phrases...)
	}
	return words
}

// examples are a few facts that can be said of a kind of record.
func examples(kind scope) []string {
	const few = 5
	var list []string
	for _, measures := range []bool{true, false} {
		for _, f := range factsOf(kind) {
			if (f.group == Measures) == measures && f.example != "" && len(list) < few {
				list = append(list, f.example)
			}
		}
	}
	return list
}

// readFact reads one phrase about a record of the kind: a whole phrase that
// is a fact, then a fact's word at either end, then a bare quantity.
func readFact(kind scope, phrase []text.Token) (said, error) {
	s := said{col: phrase[0].Col, end: phrase[len(phrase)-1].End}
	var err error
	if f, ok := indexes[kind].byPhrase[text.Plainly(phrase)]; ok {
		s.fact = f
		s.value, err = f.read(phrase, false)
		return s, err
	}
	for _, f := range indexes[kind].shaped {
		if f.matches(phrase) {
			s.fact = f
			s.value, err = f.read(phrase, false)
			return s, err
		}
	}
	if s.fact, phrase = factNamed(kind, phrase); s.fact != nil {
		s.value, err = s.fact.read(phrase, false)
		return s, err
	}
	q, n := text.ReadQuantity(phrase)
	for _, f := range indexes[kind].bare {
		if n == len(phrase) && f.bare(q) {
			s.fact, s.bare = f, true
			s.value, err = f.read(phrase, false)
			return s, err
		}
	}
	switch {
	case n == 0:
		return s, fmt.Errorf("“%s” is not a fact known here", text.Short(text.Joined(phrase)))
	case q.Unit == "" && len(phrase) == 2:
		return s, fmt.Errorf("“%s” is not a unit; write one such as mm, kg, W, GB or U", text.Short(phrase[1].Text))
	case q.Unit != "" && !text.IsUnit(q.Unit):
		return s, fmt.Errorf("“%s” is not a unit; write one such as mm, kg, W, GB or U", text.Short(q.Unit))
	}
	return s, fmt.Errorf("%s of what? Say it with a word, such as %s", text.Short(text.Joined(phrase)), strings.Join(examples(kind), ", "))
}

// factNamed finds the fact whose word stands at the start or the end of the
// phrase, and the phrase without it.
func factNamed(kind scope, phrase []text.Token) (*fact, []text.Token) {
	words := indexes[kind].word
	for n := min(mostFactWords, len(phrase)); n > 0; n-- {
		if f, ok := words[plainWords(phrase[:n])]; ok {
			return f, phrase[n:]
		}
	}
	// At the end only a quantity goes before the word, so that somebody's own
	// words, as in "gate in height", are not taken for a fact.
	if _, n := text.ReadQuantity(phrase); n == 0 && phrase[0].Kind != text.Unknown {
		return nil, phrase
	}
	for n := min(mostFactWords, len(phrase)-1); n > 0; n-- {
		if f, ok := words[plainWords(phrase[len(phrase)-n:])]; ok {
			return f, phrase[:len(phrase)-n]
		}
	}
	return nil, phrase
}

// mostFactWords is the number of words in the longest word for a fact.
const mostFactWords = 3

// plainWords joins words that are not in quotes; "" where one is.
func plainWords(tokens []text.Token) string {
	if slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind != text.Word }) {
		return ""
	}
	return text.Plainly(tokens)
}

// comment turns what follows # into the note of the line's thing.
func (t *thing) comment(s string) {
	if s == "" || t.kind == lab.KindLab {
		return
	}
	for i, said := range t.said {
		if said.fact.field == "notes" {
			if said.value != nil {
				t.said[i].value = said.value.(string) + "\n" + s
			}
			return
		}
	}
	if f, ok := indexes[t.scope()].byField["notes"]; ok {
		t.said = append(t.said, said{fact: f, value: s, col: t.end, end: t.end + 1})
	}
}

// put hangs a thing where the line says it belongs: a section by itself, a
// device with a spot of its own under the section, any other under the last
// line that stands further left.
func (p *parser) put(t *thing) {
	p.doc.size += 1 + len(t.within)
	if t.kind == lab.KindPart {
		p.putPart(t)
		return
	}
	if t.kind == lab.KindCable {
		p.doc.things = append(p.doc.things, t)
		return
	}
	if t.kind != lab.KindDevice {
		p.doc.things = append(p.doc.things, t)
		p.section, p.open = t, nil
		return
	}
	up := p.section
	if t.where == nil {
		for len(p.open) > 0 && p.open[len(p.open)-1].indent >= t.indent {
			p.open = p.open[:len(p.open)-1]
		}
		if len(p.open) > 0 {
			up = p.open[len(p.open)-1]
		}
	} else {
		p.open = nil
	}
	if len(p.open) >= maxNested {
		p.mistake(*t.at(nil, fmt.Errorf("things stand on each other at most %d deep", maxNested)))
		t.broken = true
	}
	p.open = append(p.open, t)
	switch {
	case p.alone, t.where != nil && t.where.own():
		p.doc.things = append(p.doc.things, t)
	case up == nil || up.kind == lab.KindLab || up.kind == lab.KindSheet || up.kind == lab.KindRun:
		p.misplaced(t, "this line is under no rack or place yet", `a line such as rack "Pantry": 24U above it, or ? before it while it is not placed`)
	case t.where != nil && up.kind == lab.KindPlace:
		p.misplaced(t, fmt.Sprintf("“%s” is a place and has no units or sides", text.Short(up.name)), "just the kind, or a line with a rack above it")
	case t.where == nil && up.kind == lab.KindRack:
		p.misplaced(t, fmt.Sprintf("where in %s is it?", text.Short(up.name)), "units such as 12-13, or left, right, top, under, or ? while it is not placed")
	default:
		t.broken = t.broken || up.broken
		up.within = append(up.within, t)
	}
}

// misplaced keeps a thing that hangs nowhere, for what Load must not remove.
func (p *parser) misplaced(t *thing, say, expected string) {
	if !t.broken {
		p.mistake(text.Mistake{Line: t.line, Column: t.col, EndColumn: t.end, Say: say, Expected: expected})
	}
	t.broken = true
	p.doc.things = append(p.doc.things, t)
}
