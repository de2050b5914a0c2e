package rundown

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// facts reads the phrases between commas and colons; a mistake costs its own
// phrase. A phrase that begins with a kind of device is a thing that stands on
// this one, and what follows it is said of that thing.
func (t *thing) facts(tokens []text.Token) []text.Mistake {
	var mistakes []text.Mistake
	about := t
	first := true
	for phrase := range text.Cut(tokens) {
		if t.kind == lab.KindCable {
			if m := t.breath(phrase, first); m != nil {
				mistakes = append(mistakes, *m)
			}
			first = false
			continue
		}
		if about.kind == lab.KindDevice {
			if more, ok := about.parts(phrase); ok {
				about.within = append(about.within, more.parts...)
				about.said = append(about.said, more.said...)
				continue
			}
			if more, ok := about.figure(phrase); ok {
				about.within = append(about.within, more.parts...)
				about.said = append(about.said, more.said...)
				continue
			}
		}
		s, err := readFact(about.scope(), phrase)
		if err != nil && s.fact != nil && s.fact.field == "ports" {
			if full, ok := about.withConnector(phrase); ok {
				s, err = readFact(about.scope(), full)
			}
		}
		if k, used := readKind(phrase); err != nil && used > 0 && t.mayHold(phrase[used:]) {
			about = &thing{kind: lab.KindDevice, device: k, file: t.file, line: t.line, col: phrase[0].Col, end: phrase[len(phrase)-1].End}
			t.within = append(t.within, about)
			phrase, _ = about.readName(phrase[used:])
			if len(phrase) == 0 {
				continue
			}
			s, err = readFact(scope(lab.KindDevice), phrase)
		}
		if err != nil {
			if kept, ok := remarked(about.scope(), phrase); ok {
				s, err = kept, nil
			}
		}
		if err != nil {
			mistakes = append(mistakes, *t.inPhrase(about.scope(), phrase, err))
			continue
		}
		about.said = append(about.said, s)
	}
	return mistakes
}

// mayHold reports whether a kind of device in a phrase begins another device,
// which stands on this one: one that is made to hold others, or a place, takes
// any, another one those with a name in quotes.
func (t *thing) mayHold(rest []text.Token) bool {
	switch t.kind {
	case lab.KindPlace:
		return true
	case lab.KindDevice:
		return t.device.Traits().Holds || len(rest) > 0 && rest[0].Kind == text.Quoted
	}
	return false
}

// breath reads what is said of a cable in one breath: one fact after another,
// each as few words as make sense. What is left of the first breath is a remark;
// a later one is a remark as a whole, where it is not all facts.
func (t *thing) breath(phrase []text.Token, first bool) *text.Mistake {
	var facts []said
	for tokens := phrase; len(tokens) > 0; {
		s, taken := nextFact(t.scope(), tokens)
		if taken == 0 {
			rest := tokens
			if !first {
				rest, facts = phrase, nil
			}
			kept, ok := remarked(t.scope(), rest)
			if !ok {
				return t.notOfCable(tokens)
			}
			s, taken = kept, len(tokens)
		}
		facts = append(facts, s)
		tokens = tokens[taken:]
	}
	t.said = append(t.said, facts...)
	return nil
}

// nextFact reads the fact that words begin with, as few of them as make sense,
// and tells how many those are.
func nextFact(of scope, tokens []text.Token) (said, int) {
	const most = 4 // words
	for n := 1; n <= min(most, len(tokens)); n++ {
		if s, err := readFact(of, tokens[:n]); err == nil {
			return s, n
		}
	}
	return said{}, 0
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
	// At the end only a quantity goes before the word, so that one's own
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
