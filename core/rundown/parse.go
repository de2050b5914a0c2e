package rundown

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Bounds of a text.
const (
	maxLines  = 50_000
	maxMerged = 20_000             // characters in a line
	maxNested = lab.MostNested + 1 // a part's line is deeper than that of its device

	maxMistakes = 1000    // that are listed
	maxRecords  = 200_000 // that one text makes or speaks of
)

// Document is a text that was read: its things line by line, and what could
// not be read. A phrase with a mistake is left out, and the whole thing where
// it cannot be told what or where it is.
type Document struct {
	things   []*thing       // sections, and things outside any
	Mistakes []text.Mistake // the first 1,000
	more     int            // further ones
	size     int            // about how many things there are
	folds    folds
}

// thing is one record as the text speaks of it, or several alike ones.
type thing struct {
	kind     lab.RecordKind
	part     lab.PartKind   // of a part
	seats    *seats         // of a part
	wire     *strand        // of a cable
	device   lab.DeviceKind // of a device
	own      string         // of one of kind other, in its owner's words
	where    *where         // of a device
	file     string
	line     int
	col, end int
	indent   int
	name     string
	said     []said
	within   []*thing     // what stands on it, lies in it or is mounted in it
	known    *known       // of a line that may say more of a device there is
	up       *thing       // what it is within, once the whole text is read
	broken   bool         // it, or what it stands on, has a mistake
	opens    bool         // its line ends with a colon
	asDevice []text.Token // the line, where it is about a device should one have its name
}

// said is a fact that the text gives, with its value and where it stands.
type said struct {
	fact     *fact
	value    any  // nil: said to be unknown
	bare     bool // a quantity that no word went with
	kept     bool // a phrase that is not a fact, kept as a remark
	col, end int
}

// adds reports whether what is said goes to the list that there is, when a line by itself
// says it.
func (s said) adds() bool {
	_, amends := s.value.(interface{ amends() })
	return amends || s.fact.adds
}

// parser reads lines one after another; section is the rack or place that the
// lines are under, rack the last one named, which units without a section belong to, open
// the things that a deeper line would belong to.
type parser struct {
	lexer   text.Lexer
	ahead   text.Lexer // of the lines that a line goes on in
	kinds   []lineKind
	doc     *Document
	file    string
	section *thing
	rack    *thing
	open    []*thing
	alone   bool // a line by itself, which may do without a section
}

// Parse reads a rundown.
func Parse(rundown string) Document { return ParseContext(context.Background(), "", rundown) }

// ParseContext is Parse for a text whose mistakes are to name the file, "" for
// none, and for as long as the context lasts. Behind its end nothing is read;
// LoadContext has the error.
func ParseContext(ctx context.Context, file, rundown string) Document {
	p := &parser{doc: &Document{}, file: file, kinds: lineKinds()}
	lines := strings.Split(strings.ReplaceAll(rundown, "\r\n", "\n"), "\n")
	for i := 0; i < len(lines); {
		if i >= maxLines {
			p.mistake(text.Mistake{Line: i + 1, Column: 1, EndColumn: 2,
				Say: fmt.Sprintf("a rundown has at most %d lines; split it, and plug whole panels in by ranges such as core/1-24 - PP1/1-24",
					maxLines)})
			break
		}
		if ctx.Err() != nil {
			break
		}
		i += p.line(i+1, lines[i], lines[i+1:])
	}
	return *p.doc
}

func (p *parser) mistake(m text.Mistake) {
	if m.File = p.file; len(p.doc.Mistakes) == maxMistakes {
		p.doc.more++
		return
	}
	p.doc.Mistakes = append(p.doc.Mistakes, m)
}

// ParseLine reads one line by itself, as typed into the app: spots count in
// the rack that Load is given, and a device that is known may do without one.
func ParseLine(line string) Document {
	p := &parser{doc: &Document{}, alone: true, kinds: lineKinds()}
	p.line(1, line, nil)
	return *p.doc
}

// line reads one line into the document, with those below that it goes on in, and
// tells how many lines that are.
func (p *parser) line(number int, raw string, below []string) (lines int) {
	if len(raw) > maxMerged {
		p.mistake(*tooLong(number, len(raw)))
		return 1
	}
	l, lexed := p.lexer.Line(number, strings.TrimPrefix(raw, "\ufeff"))
	lines = 1
	if lexed == nil && (l.EndsWith(",") || l.EndsWith(":")) {
		var more int
		l, lexed, more = p.whole(number, l, below)
		lines += more
	}
	if lexed != nil {
		p.mistake(*lexed)
	}
	if len(l.Tokens) == 0 {
		return lines
	}
	if list := restated(l.Tokens); lexed == nil && list != nil {
		for _, tokens := range list {
			p.tokens(number, l, tokens, nil)
		}
		if n := len(p.doc.things); n > 0 && isNameLine(l.Tokens) {
			p.doc.things[n-1].asDevice = slices.Clone(l.Tokens)
		}
		return lines
	}
	p.tokens(number, l, l.Tokens, lexed)
	return lines
}

// tokens reads what one thing is said in: a line, or a part of it.
func (p *parser) tokens(number int, l text.Line, tokens []text.Token, lexed *text.Mistake) {
	t := &thing{file: p.file, line: number, indent: l.Indent, col: tokens[0].Col, end: tokens[len(tokens)-1].End, broken: lexed != nil,
		opens: tokens[len(tokens)-1].Text == ":"}
	rest, err := t.head(p.kinds, tokens)
	if err != nil {
		t.broken = true
		err = t.dangling(tokens, err)
		if lexed == nil {
			p.mistake(*err)
		}
	}
	for _, m := range t.facts(rest) {
		p.mistake(m)
	}
	t.comment(l.Comment)
	if t.wire != nil {
		t.wire.noted = len(t.said)
	}
	p.put(t)
}

func tooLong(number, length int) *text.Mistake {
	return &text.Mistake{Line: number, Column: 1, EndColumn: 2,
		Say: fmt.Sprintf("the line is %d characters long; at most %d are allowed", length, maxMerged)}
}

// head reads what a line begins with: a head's word and what goes with it, or
// what its kind knows it by, and the name. A line that begins with a head's
// word is of that kind, whatever else it looks like.
func (t *thing) head(kinds []lineKind, tokens []text.Token) (rest []text.Token, m *text.Mistake) {
	if i := slices.IndexFunc(kinds, func(k lineKind) bool { return k.told != nil && k.told(tokens) }); i >= 0 {
		t.kind = kinds[i].kind
		return t.headFacts(kinds[i], tokens)
	}
	for _, k := range kinds {
		n := k.begins(tokens)
		if k.kind == lab.KindWireless && isSent(tokens) {
			n = 1
		}
		if n == 0 || t.isDevice(tokens) {
			continue
		}
		t.kind = k.kind
		rest, m := t.headFacts(k, tokens[n:])
		if m != nil || k.nameless() && k.kind != lab.KindLab {
			return rest, m
		}
		return t.readName(rest)
	}
	if k, n := readKnown(tokens); k != nil && batteryOf(tokens) == 0 {
		t.kind, t.known, t.name = lab.KindDevice, k, ""
		if !k.port {
			k.tokens = slices.Clone(tokens[n:])
		}
		return nil, nil
	}
	for _, k := range slices.Backward(kinds) {
		if k.head == nil {
			continue
		}
		t.kind = k.kind
		n, m := k.head(t, tokens)
		if m != nil && t.kind == lab.KindDevice && !t.opens {
			if t.known = saidOf(tokens); t.known != nil {
				t.known.instead = m
				return nil, nil
			}
		}
		if m != nil {
			t.name = nameIn(tokens)
			return nil, m
		}
		if n > 0 && t.counts() { // 14 containers in one engine
			rest := tokens[n:]
			end := slices.IndexFunc(rest, func(t text.Token) bool { return t.Kind == text.Separator })
			if end < 0 {
				end = len(rest)
			}
			if t.where == nil {
				rest, end = t.hostBehind(rest), 0
			}
			if end > 0 {
				t.said = append(t.said, kept(ofGuest, rest[:end]))
			}
			return rest[end:], nil
		}
		if n > 0 && t.isGuest() && t.where == nil {
			return t.readName(t.hostBehind(tokens[n:]))
		}
		if n > 0 {
			return t.readName(tokens[n:])
		}
	}
	return nil, nil // the last of them, a device, always says something
}

// isSent reports whether a line that begins with wifi is about a wireless network
// rather than an access point: it has a VLAN.
func isSent(tokens []text.Token) bool {
	return tokens[0].Is("wifi") && slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Is("vlan") })
}

// headFacts reads what stands between a head's word and the name.
func (t *thing) headFacts(k lineKind, tokens []text.Token) ([]text.Token, *text.Mistake) {
	for _, field := range k.before {
		f := indexes[scope(k.kind)].byField[field]
		n := min(1, len(tokens))
		if f.takes != nil {
			n = f.takes(tokens)
		}
		if n == 0 && f.needed != "" && k.nameless() {
			return nil, t.at(tokens, errors.New(f.needed))
		}
		if n == 0 {
			continue
		}
		v, err := f.read(tokens[:n], true)
		if err != nil {
			return nil, t.at(tokens[:n], err)
		}
		t.said = append(t.said, said{fact: f, value: v, col: tokens[0].Col, end: tokens[n-1].End})
		tokens = tokens[n:]
	}
	return tokens, nil
}

// isDevice reports whether the line is about a device whose kind happens to
// begin with a head's word: a rack shelf that stands somewhere or has a name.
func (t *thing) isDevice(tokens []text.Token) bool {
	_, n := readKind(tokens)
	return n > 1 && (t.indent > 0 || n < len(tokens) && tokens[n].Kind == text.Quoted)
}

// nameIn is the name that a line which could not be read gives its thing, so
// that what speaks of it further down is not taken for a mistake too.
func nameIn(tokens []text.Token) string {
	for _, t := range tokens {
		if t.Kind == text.Quoted {
			return strings.TrimSpace(t.Text)
		}
	}
	return ""
}

// scope is what can be said of the thing.
func (t *thing) scope() scope {
	if t.kind == lab.KindPart {
		return partScope(t.part)
	}
	if t.isGuest() {
		return ofGuest
	}
	return scope(t.kind)
}

func (t *thing) isGuest() bool { return t.kind == lab.KindDevice && t.device.Traits().Guest }

// at makes a mistake that covers the tokens.
func (t *thing) at(tokens []text.Token, err error) *text.Mistake {
	m := &text.Mistake{Line: t.line, Column: t.end, EndColumn: t.end + 1, Say: err.Error()}
	if len(tokens) > 0 {
		m.Column, m.EndColumn = tokens[0].Col, tokens[len(tokens)-1].End
	}
	return m
}

// readName reads a name in quotes, or the words up to the next comma or colon
// where they say nothing else. A cable has its name among its facts.
func (t *thing) readName(tokens []text.Token) ([]text.Token, *text.Mistake) {
	if t.kind == lab.KindCable {
		return tokens, nil
	}
	if len(tokens) > 0 && tokens[0].Kind == text.Quoted {
		t.name = strings.TrimSpace(tokens[0].Text)
		return tokens[1:], nil
	}
	n := 0
	for n < len(tokens) && tokens[n].Kind == text.Word {
		n++
	}
	if slices.Contains(bareNamed, t.kind) || t.isGuest() && n > 0 {
		n = t.bareName(tokens, n)
		t.name = text.Joined(tokens[:n])
		return tokens[n:], nil
	}
	if n > 1 && tokens[0].Is("with") {
		return tokens, nil // what goes with it is no name
	}
	if n > 0 && (n == len(tokens) || tokens[n].Kind == text.Separator) {
		if _, err := readFact(t.scope(), tokens[:n]); err != nil {
			t.name = text.Joined(tokens[:n])
			return tokens[n:], nil
		}
	}
	return tokens, nil
}

// hostBehind takes the host that is named behind a guest's name, vm "choir" on anvil, and
// returns the words without it.
func (t *thing) hostBehind(tokens []text.Token) []text.Token {
	on := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("on") || t.Is("in") })
	end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	if end < 0 {
		end = len(tokens)
	}
	if on < 0 || on+1 >= end || on > 1 && tokens[0].Kind == text.Quoted {
		return tokens
	}
	if _, err := readFact(ofGuest, tokens[on:end]); err == nil { // in the network of "out"
		return tokens
	}
	t.where = &where{kind: lab.InPlace, holder: calledIn(tokens[on+1 : end]), on: tokens[on].Is("on")}
	return slices.Concat(tokens[:on], tokens[end:])
}

// bareNamed are the kinds whose names may stand without quotes before what is said
// of them.
var bareNamed = []lab.RecordKind{lab.KindVLAN, lab.KindWireless, lab.KindVirtualRouter, lab.KindLine, lab.KindTunnel, lab.KindRemoteAccess,
	lab.KindName, lab.KindCircuit, lab.KindPool, lab.KindDataset, lab.KindShare, lab.KindTemplate, lab.KindService, lab.KindCluster,
	lab.KindStack}

// bareName tells how many of n words are a name without quotes: those before the
// first fact.
func (t *thing) bareName(tokens []text.Token, n int) int {
	end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	if end < 0 {
		end = len(tokens)
	}
	first := 1 // the name may be the word for a fact: line fibre
	if t.kind == lab.KindVLAN || t.kind == lab.KindWireless || t.kind == lab.KindPool {
		first = 0
	}
	for i := first; i < n; i++ {
		if _, err := readFact(t.scope(), tokens[i:end]); err == nil {
			return i
		}
		if _, taken := nextFact(t.scope(), tokens[i:end]); taken > 1 {
			return i
		}
	}
	return n
}

// comment turns what follows # into the note of the line's thing.
func (t *thing) comment(s string) {
	if s == "" {
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

// put hangs a thing where the line says it belongs: a section by itself, what
// stands or sits somewhere of its own under the section, any other under the
// last line that stands further left.
func (p *parser) put(t *thing) {
	p.doc.size += 1 + len(t.within)
	switch k := lineKindOf(p.kinds, t.kind); {
	case t.kind == lab.KindPart:
		p.putPart(t)
	case t.kind == lab.KindDevice:
		p.putDevice(t)
	case k.word == "":
		p.doc.things = append(p.doc.things, t)
	default:
		p.doc.things = append(p.doc.things, t)
		if p.section, p.open = t, nil; !k.holds && !t.broken {
			p.section = nil
		}
		if t.kind == lab.KindRack {
			p.rack = t
		}
	}
}

func (p *parser) putDevice(t *thing) {
	up := p.section
	if t.known != nil {
		p.open = nil
	} else if t.where == nil {
		p.closeTo(t.indent)
		if len(p.open) > 0 {
			up = p.open[len(p.open)-1]
		}
	} else {
		p.open = nil
		if up == nil && !p.alone && !t.where.own() {
			up = p.rack
		}
	}
	if t.own != "" && t.opens && !p.alone && t.where == nil && t.indent == 0 && (up == nil || up.kind != lab.KindPlace) {
		// It may be the head of a section that is unknown here.
		if line, slip := text.LexField(t.own); slip == nil {
			p.mistake(*t.notAKind(line.Tokens, false))
		}
		t.broken, t.device = true, ""
	}
	if len(p.open) >= maxNested {
		p.mistake(*t.at(nil, fmt.Errorf("devices stack at most %d deep", lab.MostNested)))
		t.broken = true
	}
	p.open = append(p.open, t)
	switch {
	case t.broken && t.where == nil && t.device == "" && t.indent == 0 && (up == nil || up.kind != lab.KindPlace):
		// A line that could not be read at all may have been a rack: what is
		// below it is not in the one above.
		p.doc.things = append(p.doc.things, t)
		p.section, p.rack = t, t
	case t.known != nil && (t.known.in == nil || up == nil || p.alone), t.where != nil && (p.alone || t.where.own()), t.broken && p.alone:
		p.doc.things = append(p.doc.things, t)
	case t.known != nil:
		up.within = append(up.within, t)
	case t.where == nil && (p.alone || up == nil || up.kind == lab.KindRack):
		t.known = &known{name: cmp.Or(t.name, KindText(t.device)), kind: true, bare: t.name == ""}
		p.doc.things = append(p.doc.things, t)
	case up == nil || !up.broken && up.kind != lab.KindDevice && !lineKindOf(p.kinds, up.kind).holds:
		p.misplaced(t, "this line is under no rack or place yet",
			`a line such as rack "Pantry": 24U above it, or ? before it while it is not placed`)
	case t.where != nil && up.kind == lab.KindPlace:
		p.misplaced(t, fmt.Sprintf("“%s” is a place and has no units or sides", text.Short(up.name)),
			"just the kind, or a line with a rack above it")
	default:
		t.broken = t.broken || up.broken
		up.within = append(up.within, t)
	}
}

// closeTo closes what a line with that indent does not belong to.
func (p *parser) closeTo(indent int) {
	for len(p.open) > 0 && p.open[len(p.open)-1].indent >= indent {
		p.open = p.open[:len(p.open)-1]
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

// lineKindOf finds what is known of the lines of a kind.
func lineKindOf(kinds []lineKind, kind lab.RecordKind) lineKind {
	if i := slices.IndexFunc(kinds, func(k lineKind) bool { return k.kind == kind }); i >= 0 {
		return kinds[i]
	}
	return lineKind{kind: kind}
}
