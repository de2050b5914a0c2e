package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// A part has a line of its own under its device, "bay 1-4 drive: 8TB, hdd", or
// is said in a phrase of the device's line, "4x 8TB hdd".

// seats is where a part sits: numbered seats of the device above or of one
// that is named, loose inside it, in the spares bin or on order.
type seats struct {
	device   string // in quotes before the seat; "" for the device above
	from, to int    // 0 for loose
	count    int    // how many alike ones, where there are no numbers
	ordered  bool
	nowhere  bool // in the spares bin, or on order
	phrase   bool // said in the device's line: any free seat will do
}

var seatWords = map[string]bool{"bay": true, "slot": true, "socket": true, "cage": true, "seat": true}

var partWords = map[string]lab.PartKind{
	"drive": lab.Drive, "drives": lab.Drive, "disk": lab.Drive, "disks": lab.Drive,
	"memory": lab.Memory, "ram": lab.Memory, "dimm": lab.Memory, "dimms": lab.Memory, "module": lab.Memory,
	"processor": lab.Processor, "processors": lab.Processor, "cpu": lab.Processor, "cpus": lab.Processor,
	"card": lab.Card, "cards": lab.Card, "supply": lab.Supply, "psu": lab.Supply, "fan": lab.Fan, "fans": lab.Fan,
	"battery": lab.Battery, "batteries": lab.Battery, "transceiver": lab.Transceiver, "transceivers": lab.Transceiver,
}

func readPartKind(tokens []token) (lab.PartKind, int) {
	if len(tokens) > 0 && tokens[0].kind == word {
		if k, ok := partWords[tokens[0].plain]; ok {
			return k, 1
		}
	}
	return "", 0
}

var rangeWord = regexp.MustCompile(`^([0-9]{1,3})(?:[-–]([0-9]{1,3}))?$`)

// readSeats reads what a part's line begins with and tells how many tokens
// that took; 0 where the line is not about a part.
func readSeats(tokens []token) (*seats, int, error) {
	s, n := &seats{count: 1}, 0
	if len(tokens) > 2 && tokens[0].kind == quoted && (seatWords[tokens[1].plain] || tokens[1].is("loose")) {
		s.device, n = tokens[0].text, 1
	}
	first := tokens[n]
	if first.kind != word || len(tokens) < n+2 {
		return nil, 0, nil
	}
	switch {
	case seatWords[first.plain]:
		m := rangeWord.FindStringSubmatch(tokens[n+1].text)
		if m == nil {
			return s, n + 1, fmt.Errorf("which %s? Write its number, such as %s 3", first.plain, first.plain)
		}
		s.from, _ = strconv.Atoi(m[1])
		s.to = s.from
		if m[2] != "" {
			s.to, _ = strconv.Atoi(m[2])
		}
		s.from, s.to = min(s.from, s.to), max(s.from, s.to)
		if s.from == 0 {
			return s, n + 2, fmt.Errorf("%ss are counted from 1", first.plain)
		}
		return s, n + 2, nil
	case first.is("loose"), first.is("spare"), first.is("ordered"):
		after := n + 1
		if m := countWord.FindStringSubmatch(tokens[after].plain); m != nil && len(tokens) > after+1 {
			s.count, _ = strconv.Atoi(m[1])
			after++
		}
		if _, used := readPartKind(tokens[after:]); used == 0 {
			return nil, 0, nil
		}
		s.nowhere, s.ordered = !first.is("loose"), first.is("ordered")
		if s.count < 1 || s.count > 512 {
			return s, after, errors.New("write 1 to 512 of them in a line")
		}
		return s, after, nil
	}
	return nil, 0, nil
}

func (t *thing) notAPart(tokens []token) *Mistake {
	m := t.at(tokens[:min(1, len(tokens))], errors.New("say what sits there"))
	m.Expected = "drive, memory, processor, card, supply, fan, battery or transceiver"
	return m
}

// putPart hangs a part under the device above it.
func (p *parser) putPart(t *thing) {
	if t.broken || t.seats.nowhere || t.seats.device != "" || p.alone {
		p.doc.things = append(p.doc.things, t)
		return
	}
	for len(p.open) > 0 && p.open[len(p.open)-1].indent >= t.indent {
		p.open = p.open[:len(p.open)-1]
	}
	if len(p.open) == 0 {
		p.misplaced(t, "this line is under no device", `a line with a device above it, or the device's name in quotes before it`)
		return
	}
	up := p.open[len(p.open)-1]
	t.broken = t.broken || up.broken
	up.within = append(up.within, t)
}

// inLine is what a phrase of a device's line says of its parts.
type inLine struct {
	parts []*thing
	said  []said
}

var coresWord = regexp.MustCompile(`^([0-9]{1,4}) ?cores?$`)

// parts reads a phrase such as "4x 8TB hdd", "2x 8-core" or "96GB of 256GB".
func (t *thing) parts(phrase []token) (inLine, bool) {
	if most, ok := t.memoryOf(phrase); ok {
		return most, true
	}
	rest, n := phrase, 1
	if begins(phrase) && (strings.ContainsAny(phrase[0].plain, "x×") || phrase[1].is("x")) {
		r := &groupReader{tokens: phrase}
		n, _ = r.count()
		rest = r.tokens
	}
	kind, rest, ok := partInWords(rest)
	if !ok || n < 1 || n > 512 {
		return inLine{}, false
	}
	p := &thing{kind: lab.KindPart, part: kind, seats: &seats{count: n, phrase: true}, file: t.file, line: t.line, col: phrase[0].col, end: phrase[len(phrase)-1].end}
	for len(rest) > 0 {
		said, used := p.nextFact(rest)
		if used == 0 {
			return inLine{}, false
		}
		p.said = append(p.said, said...)
		rest = rest[used:]
	}
	return inLine{parts: []*thing{p}}, true
}

// nextFact reads the longest fact that words begin with.
func (t *thing) nextFact(tokens []token) ([]said, int) {
	if m := coresWord.FindStringSubmatch(tokens[0].plain); m != nil && t.part == lab.Processor {
		n, _ := strconv.Atoi(m[1])
		return []said{{fact: indexes[t.scope()].byField["cores"], value: n, col: tokens[0].col, end: tokens[0].end}}, 1
	}
	for n := min(4, len(tokens)); n > 0; n-- {
		if s, err := readFact(t.scope(), tokens[:n]); err == nil && !s.fact.typedWhole {
			return []said{s}, n
		}
	}
	return nil, 0
}

// partInWords tells which sort of part a phrase is about, and leaves out the
// word that says only that.
func partInWords(tokens []token) (lab.PartKind, []token, bool) {
	for i, t := range tokens {
		if t.kind != word {
			return "", nil, false
		}
		if k, ok := partWords[t.plain]; ok && (i == len(tokens)-1 || i == 0) && len(tokens) > 1 {
			return k, slices.Delete(slices.Clone(tokens), i, i+1), true
		}
	}
	for i, t := range tokens {
		switch {
		case t.is("hdd"), t.is("ssd"), t.is("nvme") && i > 0:
			return lab.Drive, tokens, true
		case (t.is("core") || t.is("cores")) && i == len(tokens)-1 && i > 0:
			return lab.Processor, tokens, true
		case coresWord.MatchString(t.plain) && (i == 0 || i == len(tokens)-1):
			return lab.Processor, tokens, true
		}
	}
	return "", nil, false
}

// memoryOf reads "96GB of 256GB": what is fitted, however it is made up, and
// the most there can be.
func (t *thing) memoryOf(phrase []token) (inLine, bool) {
	at := slices.IndexFunc(phrase, func(t token) bool { return t.is("of") })
	if at < 1 || at == len(phrase)-1 {
		return inLine{}, false
	}
	fitted, err := readMeasure(phrase[:at], memory, false)
	tail := slices.DeleteFunc(slices.Clone(phrase[at+1:]), func(t token) bool { return t.is("memory") || t.is("ram") })
	most, err2 := readMeasure(tail, memory, false)
	if err != nil || err2 != nil {
		return inLine{}, false
	}
	col, end := phrase[0].col, phrase[len(phrase)-1].end
	in := inLine{said: []said{{fact: indexes[scope(lab.KindDevice)].byField["memory_most_bytes"], value: valueOrNil(most), col: col, end: end}}}
	if fitted != nil {
		size := said{fact: indexes[partScope(lab.Memory)].byField["size_bytes"], value: *fitted, col: col, end: end}
		in.parts = []*thing{{kind: lab.KindPart, part: lab.Memory, seats: &seats{count: 1}, said: []said{size}, file: t.file, line: t.line, col: col, end: end}}
	}
	return in, true
}

func valueOrNil(v *float64) any {
	if v == nil {
		return nil
	}
	return *v
}

// partsLoader finds each part of the text among those of the lab.
type partsLoader struct {
	*loader
	byName map[string][]lab.Part      // by sort and folded name
	inside map[lab.ID][]lab.Part      // by device; "" for the spares bin, "ordered" for those on order
	taken  map[lab.ID]map[string]bool // seats of a device that lines speak of
}

const onOrder lab.ID = "ordered"

func holderOf(p lab.Part) lab.ID {
	if p.Ordered {
		return onOrder
	}
	return p.Device
}

// parts puts down what the text says of parts: first those with a name or a
// seat, then those that may be in any.
func (ld *loader) parts(things []*thing) {
	all := allParts(things)
	if len(all) == 0 {
		return
	}
	pl := &partsLoader{ld, map[string][]lab.Part{}, map[lab.ID][]lab.Part{}, map[lab.ID]map[string]bool{}}
	first := map[string]*thing{}
	for _, t := range all {
		if t.name == "" {
			continue
		}
		if other, twice := first[nameOf(t.part, t.name)]; twice && !t.broken {
			pl.wrong(t, t.col, t.end, "line %d speaks of the %s %s too; a part is in one place", other.line, t.part, quote(t.name))
			t.broken = true
		}
		first[nameOf(t.part, t.name)] = t
	}
	for p := range ld.base.Parts() {
		if p.Name != "" {
			pl.byName[nameOf(p.Kind, p.Name)] = append(pl.byName[nameOf(p.Kind, p.Name)], p)
		}
		pl.inside[holderOf(p)] = append(pl.inside[holderOf(p)], p)
	}
	for _, loose := range []bool{false, true} {
		for _, t := range all {
			if (t.name == "" && t.seats.from == 0) == loose && !t.broken {
				pl.line(t)
			}
		}
	}
}

func nameOf(k lab.PartKind, name string) string { return string(k) + "/" + lab.FoldName(name) }

func allParts(things []*thing) []*thing {
	var all []*thing
	for _, t := range things {
		if t.kind == lab.KindPart {
			all = append(all, t)
		}
		for _, w := range t.within {
			w.up = t
		}
		all = append(all, allParts(t.within)...)
	}
	return all
}

// line puts down the parts that a line speaks of.
func (pl *partsLoader) line(t *thing) {
	var device lab.ID
	switch {
	case t.seats.nowhere:
	case t.seats.device != "":
		id, ok := pl.deviceNamed(t.seats.device)
		if !ok {
			pl.wrong(t, t.col, t.end, "%s", noneCalled(pl.base, lab.KindDevice, t.seats.device))
			return
		}
		device = id
	case t.up != nil:
		id, ok := pl.ids[t.up]
		if !ok {
			return // its device has a mistake
		}
		device = id
	default:
		pl.wrong(t, t.col, t.end, `which device is it in? Write its name in quotes first, such as "anvil" %s 3`, t.part.Seat())
		return
	}
	if t.seats.from > 0 {
		if t.seats.to > 512 {
			pl.wrong(t, t.col, t.end, "%ss are counted from 1 to 512", t.part.Seat())
			return
		}
		for seat := t.seats.from; seat <= t.seats.to; seat++ {
			pl.one(t, device, seat)
		}
		return
	}
	for range t.seats.count {
		pl.one(t, device, 0)
	}
}

func seatKey(k lab.PartKind, seat int) string { return string(k) + strconv.Itoa(seat) }

func (pl *partsLoader) one(t *thing, device lab.ID, seat int) {
	holder := device
	if t.seats.ordered {
		holder = onOrder
	}
	p, known := pl.find(t, holder, seat)
	if !known {
		p = lab.Part{ID: pl.opt.NewID(), Kind: t.part, State: lab.Running}
	}
	if t.name != "" || pl.opt.Forget && !t.seats.phrase {
		p.Name = t.name
	}
	p.Device, p.Ordered = device, t.seats.ordered
	switch {
	case !t.seats.phrase:
		p.Seat = seat
	case !known:
		p.Seat = pl.freeSeat(device, t.part)
	}
	if t.seats.phrase {
		forget := pl.opt.Forget
		pl.opt.Forget = false // a phrase says a part's sort and size, no more
		p = pl.apply(t, p).(lab.Part)
		pl.opt.Forget = forget
	} else {
		p = pl.apply(t, p).(lab.Part)
	}
	if p.Seat > 0 {
		if pl.taken[device] == nil {
			pl.taken[device] = map[string]bool{}
		}
		pl.taken[device][seatKey(p.Kind, p.Seat)] = true
	}
	key := p.Key()
	pl.order = append(pl.order, key)
	pl.after[key] = p
	pl.lines[key] = t
	pl.used[key.ID] = true
	pl.seated[t] = append(pl.seated[t], key)
}

// find is the part of the lab that a line speaks of: the one of that name, the
// one in that seat, or among the loose ones the first that says the same.
func (pl *partsLoader) find(t *thing, holder lab.ID, seat int) (lab.Part, bool) {
	if t.name != "" {
		for _, p := range pl.byName[nameOf(t.part, t.name)] {
			if !pl.used[p.ID] {
				return p, true
			}
		}
	}
	var candidates []lab.Part
	for _, p := range pl.inside[holder] {
		if p.Kind != t.part || pl.used[p.ID] || (t.name == "") != (p.Name == "") && !t.seats.phrase && (seat == 0 || p.Name != "" && !pl.opt.All) {
			continue
		}
		if t.seats.phrase || p.Seat == seat {
			candidates = append(candidates, p)
		}
	}
	if seat > 0 {
		if len(candidates) > 0 {
			return candidates[0], true
		}
		return lab.Part{}, false
	}
	for _, p := range candidates {
		if pl.agrees(t, p) {
			return p, true
		}
	}
	if pl.opt.All && !t.seats.phrase && len(candidates) > 0 {
		return candidates[0], true
	}
	return lab.Part{}, false
}

// agrees reports whether a part has what the line says of it. A line by itself
// about the spares bin or an order is about a further part.
func (pl *partsLoader) agrees(t *thing, p lab.Part) bool {
	return (pl.opt.All || !t.seats.nowhere) && lab.Same(pl.quietly(t, p), p)
}

// quietly is apply without telling what is wrong, and without forgetting.
func (pl *partsLoader) quietly(t *thing, p lab.Part) lab.Part {
	b := open(p)
	for _, s := range t.said {
		if v, err := pl.valueOf(s.value); err == nil {
			if s.fact.many {
				s.fact.set(b, nil)
			}
			s.fact.set(b, v)
		}
	}
	return closed(b).(lab.Part)
}

// freeSeat is the first seat of a device that nothing sits in, 0 where its
// spec says there is none left.
func (pl *partsLoader) freeSeat(device lab.ID, k lab.PartKind) int {
	if k == lab.Fan || k == lab.Battery {
		return 0
	}
	taken := map[int]bool{}
	for _, p := range pl.inside[device] {
		if p.Kind == k && pl.lastOf(p).Device == device {
			taken[pl.lastOf(p).Seat] = true
		}
	}
	d, ok := pl.after[lab.Key{Kind: lab.KindDevice, ID: device}].(lab.Device)
	if !ok {
		d, _ = pl.base.Device(device)
	}
	spec := d.Spec
	if s, ok := pl.recordOf(lab.Key{Kind: lab.KindSheet, ID: d.Sheet}).(lab.SpecSheet); ok {
		spec = spec.Over(s.Spec)
	}
	most := 512
	if n := spec.Seats(k); n != nil {
		most = *n
	}
	for seat := 1; seat <= most; seat++ {
		if !taken[seat] && !pl.taken[device][seatKey(k, seat)] {
			return seat
		}
	}
	return 0
}

func (pl *partsLoader) recordOf(k lab.Key) lab.Record {
	if r, ok := pl.after[k]; ok {
		return r
	}
	return pl.base.Get(k)
}

// lastOf is a part as the text has left it so far.
func (pl *partsLoader) lastOf(p lab.Part) lab.Part {
	if now, ok := pl.after[p.Key()].(lab.Part); ok {
		return now
	}
	return p
}

// parts writes the parts in a device, alike ones in neighbouring seats in one
// line.
func (p *printer) parts(parts []lab.Part, indent int) {
	for i := 0; i < len(parts); {
		first := parts[i]
		n := 1
		for i+n < len(parts) && alike(first, parts[i+n], n) {
			n++
		}
		seat := "loose"
		if first.Seat > 0 {
			seat = first.Kind.Seat() + " " + strconv.Itoa(first.Seat)
			if n > 1 {
				seat += "-" + strconv.Itoa(first.Seat+n-1)
			}
		} else if n > 1 {
			seat += " " + strconv.Itoa(n) + "x"
		}
		p.part(seat, first, indent)
		i += n
	}
}

func (p *printer) part(seat string, is lab.Part, indent int) {
	p.line(indent, seat+" "+sectionHead(string(is.Kind), is.Name), is.Notes, spoken(is, p.lab), false)
}

// alike reports whether the part that is n seats further says the same.
func alike(a, b lab.Part, n int) bool {
	if a.Name != "" || a.Seat > 0 && b.Seat != a.Seat+n || a.Seat == 0 && b.Seat != 0 {
		return false
	}
	b.ID, b.Seat = a.ID, a.Seat
	return reflect.DeepEqual(a, b)
}

// apart writes the spares bin and what is on order.
func (p *printer) apart() {
	var parts []lab.Part
	for part := range p.lab.Parts() {
		if part.Device == "" {
			parts = append(parts, part)
		}
	}
	lab.InOrder(parts)
	slices.SortStableFunc(parts, func(a, b lab.Part) int {
		return cmp.Compare(strconv.FormatBool(a.Ordered), strconv.FormatBool(b.Ordered))
	})
	if len(parts) > 0 {
		p.blank()
	}
	for i := 0; i < len(parts); {
		n := 1
		for i+n < len(parts) && alike(parts[i], parts[i+n], n) {
			n++
		}
		word := "spare"
		if parts[i].Ordered {
			word = "ordered"
		}
		if n > 1 {
			word += " " + strconv.Itoa(n) + "x"
		}
		p.part(word, parts[i], 0)
		i += n
	}
}

// ReadSheet reads the facts of a spec sheet as one types them: "server, 2U
// high, 447mm wide". The error is a *Mistake.
func ReadSheet(typed string) (lab.SpecSheet, error) {
	p := Load(lab.New(), Parse("sheet \"it\": "+typed), Options{NewID: func() lab.ID { return "it" }})
	if len(p.Mistakes) > 0 {
		m := p.Mistakes[0]
		m.Column, m.EndColumn = max(1, m.Column-len(`sheet "it": `)), max(2, m.EndColumn-len(`sheet "it": `))
		return lab.SpecSheet{}, &m
	}
	s, _ := p.Lab.SpecSheet("it")
	return s, nil
}

// PutParts works out what makes the parts that are typed sit in a device, as
// in a phrase of its line: "4x 8TB hdd, 2x 8-core", or "bay 3 drive: 8TB". The
// error is a *Mistake.
func PutParts(l *lab.Lab, d lab.Device, typed string, newID func() lab.ID) ([]lab.Change, error) {
	var lexer lexer
	text, slip := lexer.line(1, typed)
	if slip != nil {
		return nil, slip
	}
	t := &thing{kind: lab.KindDevice, device: d.Kind, line: 1, col: 1, end: text.end}
	if len(text.tokens) == 0 {
		return nil, &Mistake{Line: 1, Column: 1, EndColumn: 2, Say: "say what is in it, such as 4x 8TB hdd, 2x 8-core or 6x 16GB ram"}
	}
	if s, n, err := readSeats(text.tokens); n > 0 && err == nil && s.device == "" {
		part := &thing{kind: lab.KindPart, seats: s, line: 1, col: 1, end: text.end, up: t}
		rest, mistake := part.head(text.tokens)
		if mistake == nil {
			if mistakes := part.facts(rest); len(mistakes) > 0 {
				mistake = &mistakes[0]
			}
		}
		if mistake != nil {
			return nil, mistake
		}
		part.comment(text.comment)
		t.within = append(t.within, part)
	} else {
		for _, phrase := range cut(text.tokens) {
			more, ok := t.parts(phrase)
			if !ok {
				return nil, t.at(phrase, fmt.Errorf("“%s” is no part; write one such as 4x 8TB hdd, 2x 8-core or 6x 16GB ram", short(joined(phrase))))
			}
			t.within = append(t.within, more.parts...)
			t.said = append(t.said, more.said...)
		}
	}
	ld := newLoader(l, Options{NewID: newID}, 1)
	ld.put(t, ld.apply(t, d))
	ld.parts([]*thing{t})
	p := ld.settle()
	if len(p.Mistakes) > 0 {
		return nil, &p.Mistakes[0]
	}
	return p.Changes, nil
}
