package rundown

import (
	"regexp"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// What a figure is counted in says what it is on a device, where no word goes
// with it.
var (
	powerUnits  = []string{"w", "kw", "watt", "watts"}
	ratingUnits = []string{"va", "kva", "a", "amp", "amps", "min", "mins", "minutes", "ah", "wh", "kwh", "v"}
	memoryUnits = []string{"gb", "mb", "gig", "gigs"} // terabytes are drives
)

// figure reads a figure that stands alone on a device's line by what it means on
// that kind: watts are what it typically draws, memory is what a computer has
// in it, and what a UPS or a strip is rated for is kept as it was said.
func (t *thing) figure(phrase []text.Token) (inLine, bool) {
	q, n := text.ReadQuantity(phrase)
	if n == 0 || phrase[0].Kind == text.Unknown {
		return inLine{}, false
	}
	if q.Unit == "" && n < len(phrase) { // one that measures nothing of ours, such as min
		q.Unit = phrase[n].Plain
	}
	alone, is := n == len(phrase), t.device.Traits()
	switch {
	case is.Feeds && (slices.Contains(powerUnits, q.Unit) || slices.Contains(ratingUnits, q.Unit)) && noFactNamed(t.scope(), phrase):
		return inLine{said: []said{kept(t.scope(), phrase)}}, true
	case !alone:
		return inLine{}, false
	case isSpeed(phrase):
		return inLine{said: []said{kept(t.scope(), phrase)}}, true
	case slices.Contains(powerUnits, q.Unit):
		return t.measured(phrase, "typical_w")
	case slices.Contains(memoryUnits, q.Unit) && (is.Computes || t.own != ""):
		size, err := text.ReadMeasure(phrase, text.Memory, false)
		if err != nil || size == nil {
			return inLine{}, false
		}
		return inLine{parts: []*thing{t.memory(*size, phrase)}}, true
	}
	return inLine{}, false
}

func noFactNamed(of scope, phrase []text.Token) bool {
	f, _ := factNamed(of, phrase)
	return f == nil
}

// isSpeed reports whether a figure is a speed, as of a port: 10G, which is no
// weight of ten grams.
func isSpeed(phrase []text.Token) bool {
	return len(phrase) == 1 && speedAlone.MatchString(phrase[0].Text)
}

// isTerabytes reports whether a counted phrase is of drives: 10x 14TB.
func isTerabytes(phrase []text.Token) bool {
	return strings.HasSuffix(phrase[len(phrase)-1].Plain, "tb")
}

func (t *thing) measured(phrase []text.Token, field string) (inLine, bool) {
	f := indexes[t.scope()].byField[field]
	v, err := f.read(phrase, false)
	if err != nil {
		return inLine{}, false
	}
	return inLine{said: []said{{fact: f, value: v, bare: true, col: phrase[0].Col, end: phrase[len(phrase)-1].End}}}, true
}

// memory is a module, or several, of so many bytes that a line puts in.
func (t *thing) memory(bytes float64, phrase []text.Token) *thing {
	col, end := phrase[0].Col, phrase[len(phrase)-1].End
	size := said{fact: indexes[partScope(lab.Memory)].byField["size_bytes"], value: bytes, col: col, end: end}
	return &thing{kind: lab.KindPart, part: lab.Memory, seats: &seats{count: 1}, said: []said{size}, file: t.file, line: t.line, col: col,
		end: end}
}

// withConnector is a phrase about ports that names no connector, with the one
// that is usual on the kind.
func (t *thing) withConnector(phrase []text.Token) ([]text.Token, bool) {
	is := t.device.Traits()
	at := slices.IndexFunc(phrase, func(tok text.Token) bool { return slices.Contains(nouns["ports"], tok.Plain) })
	networked := is.Bridges || is.Routes || is.Joined || is.Computes || t.device == lab.AccessPoint || t.device == lab.Modem
	if at < 0 || !networked || hasWord(phrase, connectors...) {
		return nil, false
	}
	rj45 := phrase[at]
	rj45.Text, rj45.Plain = "rj45", "rj45"
	return slices.Insert(slices.Clone(phrase), at+1, rj45), true
}

var speedAlone = regexp.MustCompile(`^[0-9]+(\.[0-9]+)?G$`)
