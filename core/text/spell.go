package text

import (
	"iter"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/agext/levenshtein"
)

// Plain is a word without what people spell differently: case and hyphens.
func Plain(s string) string { return strings.ToLower(hyphens.Replace(s)) }

var hyphens = strings.NewReplacer("-", " ", "_", " ")

// Plainly joins words without what people spell differently.
func Plainly(tokens []Token) string {
	if len(tokens) == 1 && tokens[0].Kind == Word {
		return tokens[0].Plain
	}
	return Plain(Joined(tokens))
}

// Joined is what the tokens say, with one blank between each.
func Joined(tokens []Token) string {
	words := make([]string, len(tokens))
	for i, t := range tokens {
		words[i] = t.Text
	}
	return strings.Join(words, " ")
}

// Nearest finds the word that may have been meant: at most a third of its
// letters off, the closest one, the first of equals in alphabetical order.
func Nearest(typed string, words []string) string {
	typed = Plain(typed)
	if len(typed) > 40 {
		return ""
	}
	best, least := "", len(typed)/3+1
	for _, w := range words {
		if n := len(w) - len(typed); n > least || -n > least {
			continue
		}
		if d := distance(typed, Plain(w)); d < least || d == least && w < best { // nothing is before ""
			best, least = w, d
		}
	}
	return best
}

// Slip is the word that a typed one is a slip of: one letter off, and one more
// for each so many letters; "" where it is none, or too short to tell.
func Slip(typed string, words []string, forEach int) string {
	const tellable = 4
	near := Nearest(typed, words)
	if n := len(Plain(typed)); near == "" || n < tellable || distance(Plain(typed), Plain(near)) > 1+n/forEach {
		return ""
	}
	return near
}

// distance counts the letters to change, leave out or put in; two neighbours
// that were swapped count once.
func distance(a, b string) int {
	if len(a) == len(b) {
		for i := 0; i+1 < len(a); i++ {
			if a[:i]+a[i+1:i+2]+a[i:i+1]+a[i+2:] == b {
				return 1
			}
		}
	}
	return levenshtein.Distance(a, b, nil)
}

// Cut goes through the phrases between separators.
func Cut(tokens []Token) iter.Seq[[]Token] {
	return func(yield func([]Token) bool) {
		for len(tokens) > 0 {
			n := slices.IndexFunc(tokens, func(t Token) bool { return t.Kind == Separator })
			if n < 0 {
				n = len(tokens)
			}
			if n > 0 && !yield(tokens[:n]) {
				return
			}
			tokens = tokens[min(n+1, len(tokens)):]
		}
	}
}

// Short keeps what was typed short enough for a sentence.
func Short(s string) string {
	if runes := []rune(s); len(runes) > 40 {
		return string(runes[:37]) + "…"
	}
	return s
}

// Capital is a text that begins with a capital, in whatever script.
func Capital(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	if n == 0 || r == utf8.RuneError {
		return s
	}
	return string(unicode.ToUpper(r)) + s[n:]
}

// Sentence is a text with a capital at its start and a full stop at its end.
func Sentence(s string) string {
	if s == "" || strings.ContainsAny(s[len(s)-1:], ".?!") {
		return Capital(s)
	}
	return Capital(s) + "."
}
