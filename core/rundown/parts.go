package rundown

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
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
	"card": lab.Card, "cards": lab.Card,
	"supply": lab.Supply, "supplies": lab.Supply, "psu": lab.Supply, "psus": lab.Supply,
	"fan": lab.Fan, "fans": lab.Fan,
	"battery": lab.Battery, "batteries": lab.Battery, "transceiver": lab.Transceiver, "transceivers": lab.Transceiver,
}

func readPartKind(tokens []text.Token) (lab.PartKind, int) {
	if len(tokens) > 0 && tokens[0].Kind == text.Word {
		if k, ok := partWords[tokens[0].Plain]; ok {
			return k, 1
		}
	}
	return "", 0
}

var rangeWord = regexp.MustCompile(`^([0-9]{1,3})(?:[-–]([0-9]{1,3}))?$`)

// readSeats reads what a part's line begins with and tells how many tokens
// that took; 0 where the line is not about a part.
func readSeats(tokens []text.Token) (*seats, int, error) {
	s, n := &seats{count: 1}, 0
	if len(tokens) > 2 && tokens[0].Kind == text.Quoted && (seatWords[tokens[1].Plain] || tokens[1].Is("loose")) {
		s.device, n = tokens[0].Text, 1
	}
	if of := batteryOf(tokens); of > 0 {
		s.device = strings.TrimSpace(text.Joined(tokens[:of]))
		return s, of, nil
	}
	first := tokens[n]
	if first.Kind != text.Word || len(tokens) < n+2 {
		return nil, 0, nil
	}
	switch {
	case seatWords[first.Plain]:
		m := rangeWord.FindStringSubmatch(tokens[n+1].Text)
		if m == nil {
			return s, n + 1, fmt.Errorf("which %s? Write its number, such as %s 3", first.Plain, first.Plain)
		}
		s.from, _ = strconv.Atoi(m[1])
		s.to = s.from
		if m[2] != "" {
			s.to, _ = strconv.Atoi(m[2])
		}
		s.from, s.to = min(s.from, s.to), max(s.from, s.to)
		if s.from == 0 {
			return s, n + 2, fmt.Errorf("%ss are counted from 1", first.Plain)
		}
		return s, n + 2, nil
	case first.Is("loose"), first.Is("spare"), first.Is("ordered"):
		after := n + 1
		if m := countWord.FindStringSubmatch(tokens[after].Plain); m != nil && len(tokens) > after+1 {
			s.count, _ = strconv.Atoi(m[1])
			after++
		}
		if _, used := readPartKind(tokens[after:]); used == 0 {
			return nil, 0, nil
		}
		s.nowhere, s.ordered = !first.Is("loose"), first.Is("ordered")
		if s.count < 1 || s.count > 512 {
			return s, after, errors.New("write 1 to 512 of them in a line")
		}
		return s, after, nil
	}
	return nil, 0, nil
}

// batteryOf tells how many words name the device of whose battery a line is: keep
// battery: 216Wh; 0 where it is about something else.
func batteryOf(tokens []text.Token) int {
	for i, t := range tokens {
		switch {
		case i > 0 && t.Kind == text.Word && partWords[t.Plain] == lab.Battery && i+1 < len(tokens) && tokens[i+1].Text == ":":
			return i
		case t.Kind == text.Separator, i == 0 && (seatWords[t.Plain] || slices.Contains([]string{"loose", "spare",
			"ordered", "on", "in"}, t.Plain)):
			return 0
		}
		if _, count := countIn(t); count && i == 0 {
			return 0
		}
	}
	return 0
}

// partHead reads where a part sits and what it is.
func partHead(t *thing, tokens []text.Token) (int, *text.Mistake) {
	s, n, err := readSeats(tokens)
	t.seats = s
	if err != nil {
		return n, t.at(tokens[:n], err)
	}
	if n == 0 {
		return t.bareHead(tokens), nil
	}
	k, used := readPartKind(tokens[n:])
	if used == 0 {
		return n, t.notAPart(tokens[n:])
	}
	t.part = k
	return n + used, nil
}

// bareHead reads a part without a seat on a line under its device, "card: gpu",
// where the word is no kind of device as well.
func (t *thing) bareHead(tokens []text.Token) int {
	k, used := readPartKind(tokens)
	if _, device := readKind(tokens); used == 0 || device > 0 || t.indent == 0 {
		return 0
	}
	if len(tokens) > used && tokens[used].Kind == text.Word {
		return 0
	}
	t.part, t.seats = k, &seats{count: 1}
	return used
}

func (t *thing) notAPart(tokens []text.Token) *text.Mistake {
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
	p.closeTo(t.indent)
	if len(p.open) == 0 {
		p.misplaced(t, "this line is under no device", `a line with a device above it, or the device's name in quotes before it`)
		return
	}
	up := p.open[len(p.open)-1]
	t.broken = t.broken || up.broken
	up.within = append(up.within, t)
}

var coresWord = regexp.MustCompile(`^([0-9]{1,4}) ?cores?$`)

// parts reads a phrase such as "4x 8TB hdd", "2x 8-core" or "96GB of 256GB".
func (t *thing) parts(phrase []text.Token) (inLine, bool) { return t.partsIn(phrase, false) }

// partsAndMore is parts where the phrase ends with words of its owner's.
func (t *thing) partsAndMore(phrase []text.Token) (inLine, bool) { return t.partsIn(phrase, true) }

func (t *thing) partsIn(phrase []text.Token, more bool) (inLine, bool) {
	if most, ok := t.memoryOf(phrase); ok {
		return most, true
	}
	if phrase[len(phrase)-1].Is("bays") {
		return inLine{}, false // room for parts is none
	}
	rest, n := phrase, 1
	if begins(phrase) && (strings.ContainsAny(phrase[0].Plain, "x×") || phrase[1].Is("x") || countedBare[partWords[phrase[1].Plain]] ||
		inWords(phrase)) {
		r := &groupReader{tokens: phrase}
		n, _ = r.count()
		rest = r.tokens
	}
	counted := len(rest) < len(phrase) || n > 1
	facts := rest
	bare := false
	kind, rest, ok := partInWords(rest)
	switch is := t.device.Traits(); {
	case !ok && counted && (is.Computes || t.device == lab.DiskShelf) && isTerabytes(phrase):
		kind, rest, ok = lab.Drive, facts, true
	case !ok && len(facts) == 1 && counted && countedBare[partWords[facts[0].Plain]]:
		kind, rest, ok = partWords[facts[0].Plain], nil, true
	case !ok && is.Computes && isModules(facts, counted):
		kind, rest, ok, bare = lab.Memory, facts, true, !counted
	}
	if !ok || n < 1 || n > 512 {
		return inLine{}, false
	}
	p := &thing{kind: lab.KindPart, part: kind, seats: &seats{count: n, phrase: true}, file: t.file, line: t.line, col: phrase[0].Col,
		end: phrase[len(phrase)-1].End}
	p.seats.phrase = !bare // or else how it is made up is not known
	for len(rest) > 0 {
		s, used := p.nextFact(rest)
		if more && used == 0 && len(p.said) > 0 && isRemark(p.scope(), rest) &&
			p.slip(rest, false, func(r []text.Token) bool { _, n := p.nextFact(r); return n > 0 }).word == "" {
			s, used = kept(p.scope(), rest), len(rest) // the rest of it is the owner's own
		}
		if used == 0 {
			return inLine{}, false
		}
		p.said = append(p.said, s)
		rest = rest[used:]
	}
	return inLine{parts: []*thing{p}}, true
}

// inWords reports whether a phrase counts drives in words: four 4TB.
func inWords(phrase []text.Token) bool {
	return letters.MatchString(phrase[0].Text) && isTerabytes(phrase[1:2])
}

// countedBare are the parts that a count alone is of: 2 psus.
var countedBare = map[lab.PartKind]bool{lab.Supply: true, lab.Processor: true}

var memoryType = regexp.MustCompile(`^(ddr[2-5]l?|lpddr[3-5]x?|ecc|registered|unbuffered|rdimm|udimm|sodimm)$`)

// isModules reports whether a phrase is of memory modules: 8x 16GB ddr4. Memory
// that is not counted has to say what type it is.
func isModules(phrase []text.Token, counted bool) bool {
	q, n := text.ReadQuantity(phrase)
	if n == 0 || !slices.Contains(memoryUnits, q.Unit) || !counted && n == len(phrase) {
		return false
	}
	return !slices.ContainsFunc(phrase[n:], func(t text.Token) bool { return !memoryType.MatchString(t.Plain) })
}

// modules leaves out memory that a line gives once in all and once by its
// modules: 128GB ddr4, 8x 16GB.
func (t *thing) modules() {
	var sum float64
	of := func(w *thing) (bytes float64, counted bool) {
		if w.kind != lab.KindPart || w.part != lab.Memory {
			return 0, false
		}
		for _, s := range w.said {
			if v, ok := s.value.(float64); ok && s.fact.field == "size_bytes" {
				bytes = v * float64(w.seats.count)
			}
		}
		return bytes, w.seats.phrase
	}
	var modules []*thing
	for _, w := range t.within {
		if bytes, counted := of(w); counted {
			sum += bytes
			modules = append(modules, w)
		}
	}
	t.within = slices.DeleteFunc(t.within, func(w *thing) bool {
		bytes, counted := of(w)
		all := bytes > 0 && !counted && bytes == sum
		for _, m := range modules {
			if all && len(m.said) == 1 {
				m.said = append(m.said, w.said[1:]...) // its type is theirs
			}
		}
		return all
	})
}

// nextFact reads the fact of a part that words begin with.
func (t *thing) nextFact(tokens []text.Token) (said, int) {
	if m := coresWord.FindStringSubmatch(tokens[0].Plain); m != nil && t.part == lab.Processor {
		n, _ := strconv.Atoi(m[1])
		return said{fact: indexes[t.scope()].byField["cores"], value: n, col: tokens[0].Col, end: tokens[0].End}, 1
	}
	if t.part == lab.Memory {
		n := slices.IndexFunc(tokens, func(t text.Token) bool { return !memoryType.MatchString(t.Plain) })
		if n < 0 {
			n = len(tokens)
		}
		if n > 0 {
			return said{fact: indexes[t.scope()].byField["memory_type"], value: text.Joined(tokens[:n]), col: tokens[0].Col, end: tokens[n-1].End}, n
		}
	}
	s, n := nextFact(t.scope(), tokens)
	if n > 0 && s.fact.typedWhole {
		return said{}, 0 // a text would take all of the phrase
	}
	return s, n
}

// partInWords tells which sort of part a phrase is about, and leaves out the
// word that says only that.
func partInWords(tokens []text.Token) (lab.PartKind, []text.Token, bool) {
	for i, t := range tokens {
		if t.Kind != text.Word {
			return "", nil, false
		}
		if k, ok := partWords[t.Plain]; ok && (i == len(tokens)-1 || i == 0) && len(tokens) > 1 {
			return k, slices.Delete(slices.Clone(tokens), i, i+1), true
		}
	}
	for i, t := range tokens {
		switch {
		case t.Is("gpu") && i == 0 && len(tokens) > 1:
			return lab.Card, tokens, true
		case t.Is("hdd"), t.Is("hdds"), t.Is("ssd"), t.Is("ssds"), t.Is("smr"), t.Is("cmr"), t.Is("nvme") && i > 0:
			return lab.Drive, tokens, true
		case (t.Is("core") || t.Is("cores")) && i == len(tokens)-1 && i > 0:
			return lab.Processor, tokens, true
		case coresWord.MatchString(t.Plain) && (i == 0 || i == len(tokens)-1):
			return lab.Processor, tokens, true
		}
	}
	return "", nil, false
}

// memoryOf reads "96GB of 256GB": what is fitted, however it is made up, and
// the most there can be.
func (t *thing) memoryOf(phrase []text.Token) (inLine, bool) {
	at := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("of") })
	if at < 1 || at == len(phrase)-1 {
		return inLine{}, false
	}
	fitted, err := text.ReadMeasure(phrase[:at], text.Memory, false)
	tail := slices.DeleteFunc(slices.Clone(phrase[at+1:]), func(t text.Token) bool { return t.Is("memory") || t.Is("ram") })
	if q, n := text.ReadQuantity(phrase[:at]); n > 0 && len(tail) == 1 { // 32GB of 64
		if bare, m := text.ReadQuantity(tail); m == 1 && bare.Unit == "" {
			tail = []text.Token{{Kind: text.Word, Text: tail[0].Text + q.Unit, Plain: tail[0].Plain + q.Unit, Col: tail[0].Col, End: tail[0].End}}
		}
	}
	most, err2 := text.ReadMeasure(tail, text.Memory, false)
	if err != nil || err2 != nil {
		return inLine{}, false
	}
	col, end := phrase[0].Col, phrase[len(phrase)-1].End
	in := inLine{said: []said{{fact: indexes[scope(lab.KindDevice)].byField["memory_most_bytes"], value: valueOrNil(most), col: col,
		end: end}}}
	if fitted != nil {
		in.parts = []*thing{t.memory(*fitted, phrase)}
	}
	return in, true
}

func valueOrNil(v *float64) any {
	if v == nil {
		return nil
	}
	return *v
}
