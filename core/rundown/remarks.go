package rundown

import (
	"errors"
	"maps"
	"slices"
	"strings"

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
}

// keep notes once that a phrase of a line was only kept.
func (ld *loader) keep(t *thing, s said) {
	k := Kept{t.file, t.line, s.col, s.end, strings.Join(s.value.([]string), ", ")}
	if !slices.Contains(ld.kept, k) {
		ld.kept = append(ld.kept, k)
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

// remarked reads a phrase that is no fact as a remark. A figure is none, as its
// unit or its word is missing; nor is a known word misspelt.
func remarked(of scope, phrase []text.Token) (said, bool) {
	if indexes[of].byField["remarks"] == nil || len(phrase) == 0 || !isRemark(of, phrase) {
		return said{}, false
	}
	return kept(of, phrase), true
}

// kept is a phrase as a remark, whatever it says.
func kept(of scope, phrase []text.Token) said {
	f := indexes[of].byField["remarks"]
	return said{fact: f, value: []string{text.Joined(phrase)}, kept: true, col: phrase[0].Col, end: phrase[len(phrase)-1].End}
}

func isRemark(of scope, phrase []text.Token) bool {
	if _, n := text.ReadQuantity(phrase); n > 0 || phrase[0].Kind == text.Unknown {
		return false
	}
	if slices.ContainsFunc(phrase, func(t text.Token) bool { return t.Kind != text.Word && t.Kind != text.Quoted }) {
		return false
	}
	if f, rest := factNamed(of, phrase); f != nil && len(rest) > 0 {
		return false // it is about that fact, and wrong
	}
	return misspelt(of, phrase) == ""
}

// misspelt is the known word that a phrase's first or last one is a slip of, ""
// where neither is. A sentence of some words is one's own.
func misspelt(of scope, phrase []text.Token) string {
	const sentence = 4
	if len(phrase) >= sentence {
		return ""
	}
	known := wordsOf(of)
	forEach := 9 // letters; a word that stands alone is rather a slip
	if len(phrase) == 1 {
		forEach = 6
	}
	for _, t := range []text.Token{phrase[0], phrase[len(phrase)-1]} {
		if t.Kind != text.Word || known[t.Plain] || slices.Contains(plainEnglish, t.Plain) {
			continue
		}
		if near := text.Slip(t.Text, slices.Collect(maps.Keys(known)), forEach); near != "" {
			return near
		}
	}
	return ""
}

// plainEnglish are words of any sentence that differ little from ours.
var plainEnglish = []string{"with", "from", "into", "onto", "this", "that", "then", "when", "more", "less", "some", "same", "only", "also",
	"very", "used", "made", "like", "good", "needs", "wants", "lives", "sits", "hangs"}

// wordsOf are the words that begin or end a fact of a kind of record, and the
// kinds of device where one may stand there.
func wordsOf(of scope) map[string]bool {
	known := map[string]bool{}
	for _, w := range factWords(of) {
		known[text.Plain(w)] = true
	}
	switch of {
	case scope(lab.KindDevice), scope(lab.KindPlace):
		for _, w := range kindNames() {
			known[text.Plain(w)] = true
		}
	case ofCable:
		for _, c := range lab.ColourNames() {
			known[string(c)] = true
		}
	}
	return known
}

// remarkPhrases writes remarks so that they read back: as they were said, or in
// quotes behind the word where that would be something else.
func remarkPhrases(of scope, list []string) string {
	phrases := make([]string, len(list))
	for i, s := range list {
		phrases[i] = "remark " + text.Quote(s)
		if staysRemark(of, s) {
			phrases[i] = s
		}
	}
	return strings.Join(phrases, ", ")
}

func staysRemark(of scope, s string) bool {
	line, slip := text.LexField(s)
	if slip != nil || len(line.Tokens) == 0 || line.Comment != "" ||
		slices.ContainsFunc(line.Tokens, func(t text.Token) bool { return t.Kind != text.Word }) || text.Joined(line.Tokens) != s {
		return false
	}
	if _, used := readKind(line.Tokens); used > 0 {
		return false
	}
	if _, n := nextFact(of, line.Tokens); n > 0 {
		return false
	}
	if t := (&thing{kind: lab.KindDevice}); of == t.scope() {
		if _, ok := t.parts(line.Tokens); ok {
			return false
		}
	}
	return isRemark(of, line.Tokens)
}
