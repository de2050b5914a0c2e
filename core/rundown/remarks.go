package rundown

import (
	"errors"
	"slices"
	"strings"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// remarks is the list of phrases that are no facts known here, kept as they
// were said. A line adds to it; only a whole text says all there are.
func remarks[R any](of scope, at func(*R) *[]string) fact {
	return fact{of: of, name: "remarks", field: "remarks", words: []string{"remark", "remarks"}, example: `remark "not bolted"`,
		many: true, adds: true, maybe: true, typedWhole: true,
		texts: func(b box) []string { return *at(b.(*R)) },
		read: func(tokens []text.Token, typed bool) (any, error) {
			switch {
			case text.IsUnknown(tokens):
				return nil, nil
			case len(tokens) == 0:
				return nil, errors.New(`say what, such as remark "not bolted"`)
			}
			return remarksIn(tokens, typed), nil
		},
		set: func(b box, v any) {
			list, _ := v.([]string)
			if list == nil {
				*at(b.(*R)) = nil
				return
			}
			now := slices.Clone(*at(b.(*R)))
			for _, s := range list {
				if !slices.Contains(now, s) {
					now = append(now, s)
				}
			}
			*at(b.(*R)) = now
		},
		show: func(_ *lab.Lab, b box) string { return strings.Join(*at(b.(*R)), "; ") }}
}

// Kept is a phrase that is no fact known here and was kept as it was said.
type Kept struct {
	File      string `json:"file,omitempty"`
	Line      int    `json:"line" required:"true" description:"Counted from 1"`
	Column    int    `json:"column" required:"true" description:"In characters, counted from 1"`
	EndColumn int    `json:"end_column" required:"true" description:"The column after its last character"`
	Text      string `json:"text" required:"true"`
	// Counts: it is nothing that is kept, but says which of two things counts.
	Counts bool `json:"counts,omitempty" description:"The text says what counts of what was said, rather than what is kept as a remark"`
}

// keep notes once that a phrase of a line was only kept.
func (ld *loader) keep(t *thing, s said) {
	k := Kept{File: t.file, Line: t.line, Column: s.col, EndColumn: s.end, Text: strings.Join(s.value.([]string), ", ")}
	if !ld.keeps[k] {
		ld.kept, ld.keeps[k] = append(ld.kept, k), true
	}
}

// remarksIn reads a list of remarks: each text in quotes is one, and so are
// plain words up to the next separator; in a field of its own, where all of them
// are typed at once, those between semicolons.
func remarksIn(tokens []text.Token, typed bool) []string {
	list := []string{}
	keep := func(s string) {
		apart := "\x00" // which no text has
		if typed {
			apart = ";"
		}
		for one := range strings.SplitSeq(s, apart) {
			if one = strings.TrimSpace(one); one != "" {
				list = append(list, one)
			}
		}
	}
	var words []text.Token
	for _, t := range append(slices.Clone(tokens), text.Token{Kind: text.Separator}) {
		if t.Kind == text.Word || t.Kind == text.Unknown {
			words = append(words, t)
			continue
		}
		keep(text.Joined(words))
		words = nil
		if t.Kind == text.Quoted {
			keep(t.Text)
		}
	}
	return list
}

// kept is a phrase as a remark, whatever it says.
func kept(of scope, phrase []text.Token) said {
	f := indexes[of].byField["remarks"]
	return said{fact: f, value: []string{text.Joined(phrase)}, kept: true, col: phrase[0].Col, end: phrase[len(phrase)-1].End}
}

// isRemark reports whether a phrase that is no fact may be kept as it was said.
// What is about a fact and has a figure is wrong about it, and a figure alone
// lacks its word; all else is one's own.
func isRemark(of scope, phrase []text.Token) bool {
	if indexes[of].byField["remarks"] == nil || len(phrase) == 0 {
		return false
	}
	if slices.ContainsFunc(phrase, func(t text.Token) bool { return t.Kind == text.Separator }) {
		return false
	}
	if f, rest := factNamed(of, phrase); f != nil && aboutIt(f, rest) {
		return false
	}
	if slices.ContainsFunc(indexes[of].shaped, func(f *fact) bool { return f.matches(phrase) }) {
		return false // and what is wrong with it was said
	}
	q, n := text.ReadQuantity(phrase)
	const aUnit = 4 // letters; fewer behind a figure may be anything, as in 1080p
	switch {
	case n < len(phrase):
		return true
	case q.Unit == "", isIn(text.Length)(q):
		return false
	case slices.ContainsFunc(indexes[of].bare, func(f *fact) bool { return f.bare(q) }):
		return false // it was read, and is wrong
	}
	return text.IsUnit(q.Unit) || len(q.Unit) < aUnit
}

// aboutIt reports whether what stands with a fact's word means the fact, right
// or wrong: a figure, and not much else.
func aboutIt(f *fact, rest []text.Token) bool {
	const most = 2 // a number and its unit
	if _, n := text.ReadQuantity(rest); n > 0 {
		return len(rest) <= most
	}
	if f.measured.Example != "" || f.number != nil && f.matches == nil && f.group != Cost {
		return false // a measure, with words instead
	}
	return slices.ContainsFunc(rest, func(t text.Token) bool { return strings.ContainsAny(t.Text, "0123456789") })
}

// slipped is a word that is a slip of a known one.
type slipped struct {
	token text.Token
	word  string // "" for none
}

// slip finds the word of a phrase that is a slip of a known one: with that
// word in its place the phrase says something. A short word that is alone
// between separators may be another one.
func (t *thing) slip(phrase []text.Token, alone bool, says func([]text.Token) bool) slipped {
	const forEach, tellable = 6, 6 // letters
	known := wordsOf(t.scope())
	for i, tok := range phrase {
		if tok.Kind != text.Word || known.all[tok.Plain] {
			continue
		}
		near := text.Slip(tok.Text, known.list, forEach)
		if near == "" || alone && len(phrase) == 1 && len(near) < tellable {
			continue
		}
		with := slices.Clone(phrase)
		with[i].Text, with[i].Plain = near, text.Plain(near)
		if says(with) {
			return slipped{tok, near}
		}
	}
	return slipped{}
}

// vocabulary are words by which something is known.
type vocabulary struct {
	all  map[string]bool
	list []string
}

// wordsOf are the words of the facts of a kind of record, one by one.
func wordsOf(of scope) vocabulary { return vocabularies()[of] }

var vocabularies = sync.OnceValue(func() map[scope]vocabulary {
	words := map[scope]vocabulary{}
	for of := range indexes {
		v := vocabulary{all: map[string]bool{}}
		known := factWords(of)
		switch of {
		case scope(lab.KindDevice), scope(lab.KindSheet):
			known = append(known, connectors...)
			for _, list := range nouns {
				known = append(known, list...)
			}
			for w := range partWords {
				known = append(known, w)
			}
			for _, k := range lab.PartKinds() {
				known = append(known, factWords(partScope(k))...)
			}
		case ofCable:
			for _, c := range lab.ColourNames() {
				known = append(known, string(c))
			}
		}
		for _, w := range known {
			for _, one := range strings.Fields(text.Plain(w)) {
				if !v.all[one] {
					v.all[one] = true
					v.list = append(v.list, one)
				}
			}
		}
		words[of] = v
	}
	return words
})

// remarkPhrases writes remarks so that they read back: as they were said, or in
// quotes behind the word where that would be something else.
func remarkPhrases(of box, list []string) string {
	t := thingOf(of)
	phrases := make([]string, len(list))
	for i, s := range list {
		phrases[i] = "remark " + text.Quote(s)
		if t.staysRemark(s) {
			phrases[i] = s
		}
	}
	return strings.Join(phrases, ", ")
}

// thingOf is a record as the line about it begins, as far as what follows is
// read by it.
func thingOf(of box) *thing {
	switch r := closed(of).(type) {
	case lab.Device:
		return &thing{kind: lab.KindDevice, device: r.Kind, own: r.Own}
	case lab.Part:
		return &thing{kind: lab.KindPart, part: r.Kind}
	case lab.Record:
		return &thing{kind: r.Key().Kind}
	}
	return &thing{}
}

func (t *thing) staysRemark(s string) bool {
	line, slip := text.LexField(s)
	if slip != nil || len(line.Tokens) == 0 || strings.Contains(s, "#") ||
		slices.ContainsFunc(line.Tokens, func(t text.Token) bool { return t.Kind != text.Word || joins[t.Text] }) ||
		text.Joined(line.Tokens) != s { // where a line goes on with it, a join would make a cable of what stands before
		return false
	}
	if _, used := readKind(line.Tokens); used > 0 {
		return false
	}
	if _, n := nextFact(t.scope(), line.Tokens); n > 0 {
		return false
	}
	if _, is := faceOf(line.Tokens); is {
		return false
	}
	if _, n := text.ReadQuantity(line.Tokens); t.kind == lab.KindCable && (n > 0 || t.kindAmong(line.Tokens) != nil) {
		return false
	}
	if more, err := t.read(line.Tokens); err == nil {
		return len(more.said) == 1 && more.said[0].kept && len(more.parts) == 0 && more.said[0].value.([]string)[0] == s
	}
	_, mistake := t.unread(line.Tokens, nil)
	return mistake == nil
}
