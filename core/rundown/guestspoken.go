package rundown

import (
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// asSaid is a phrase about hosts, guests and clusters as facts have it: keeps 8 for
// itself, 5.5 of 16 gigs, 200GB together, term's shared pool. Memory without a unit is GB.
func (t *thing) asSaid(phrase []text.Token) []text.Token {
	switch {
	case t.isGuest():
		return memorySaid(phrase)
	case t.kind == lab.KindDevice && (phrase[0].Is("keeps") || phrase[0].Is("reserves")):
		for _, tail := range []string{"for itself", "for the host", "of memory", "back"} {
			if n := len(strings.Fields(tail)); len(phrase) > n+1 && text.Plainly(phrase[len(phrase)-n:]) == tail {
				phrase = phrase[:len(phrase)-n]
			}
		}
		if len(phrase) == 2 {
			return []text.Token{phrase[0], inGB(phrase[1])}
		}
	case t.kind == lab.KindDevice && len(phrase) > 3 && phrase[0].Is("all") && phrase[1].Is("ports") && slices.Contains(vlanWords,
		phrase[2].Plain):
		return phrase[2:] // all ports tagged 10,20
	case t.kind == lab.KindCluster:
		return clusterSaid(phrase)
	}
	return phrase
}

// inGB is a bare number as so many GB.
func inGB(t text.Token) text.Token {
	if q, n := text.ReadQuantity([]text.Token{t}); n == 1 && q.Unit == "" {
		t.Text, t.Plain = t.Text+"GB", t.Plain+"gb"
	}
	return t
}

func memorySaid(phrase []text.Token) []text.Token {
	uses := func(amount ...text.Token) []text.Token {
		word := phrase[0]
		word.Kind, word.Text, word.Plain = text.Word, "uses", "uses"
		return append([]text.Token{word}, amount...)
	}
	if len(phrase) == 2 && (phrase[0].Is("uses") || phrase[0].Is("use")) {
		return []text.Token{phrase[0], inGB(phrase[1])}
	}
	if len(phrase) == 2 && (phrase[1].Is("used") || phrase[1].Is("uses")) {
		return uses(inGB(phrase[0]))
	}
	if len(phrase) > 2 && phrase[1].Is("of") { // 5.5 of 16 gigs: what the host has is said of it
		if q, n := text.ReadQuantity(phrase[2:]); n == len(phrase)-2 && isIn(text.Memory)(q) {
			if own, n := text.ReadQuantity(phrase[:1]); n == 1 && own.Unit == "" {
				return uses(inGB(phrase[0]))
			}
		}
	}
	return phrase
}

func clusterSaid(phrase []text.Token) []text.Token {
	if len(phrase) > 2 && (phrase[0].Is("about") || phrase[0].Is("some")) {
		if _, n := text.ReadQuantity(phrase[1:]); n > 0 {
			phrase = phrase[1:]
		}
	}
	last := phrase[len(phrase)-1]
	if last.Is("together") && len(phrase) > 1 {
		last.Text, last.Plain = "given", "given"
		return append([]text.Token{last}, phrase[:len(phrase)-1]...)
	}
	is := func(t text.Token) bool { return t.Kind == text.Word && (t.Is("shared") || t.Is("pool")) }
	if i := slices.IndexFunc(phrase, is); i > 0 && phrase[i].Is("shared") { // term's shared pool
		return append([]text.Token{phrase[i]}, slices.DeleteFunc(slices.Clone(phrase), is)...)
	}
	return phrase
}
