// Package rundown is the plain text of a lab: one line a thing, from top to
// bottom, in the order a person speaks.
//
//	rack "Pantry": 24U, 19in, 800mm deep, holds 300kg
//	12-13   server "anvil": 710mm deep, 24kg, for "choir library"
//
// Parse reads such text line by line; a mistake costs its own line and no
// other. Load works out what the text would change in a lab, Print writes a
// lab so that it loads to the same one. What can be said of a thing stands in
// one table, facts.go; a new fact is a line there.
package rundown

import (
	"fmt"
	"strings"
	"unicode"
)

// Mistake is what is wrong with a piece of a line, and what would be right.
type Mistake struct {
	File      string `json:"file,omitempty"`
	Line      int    `json:"line" required:"true" description:"Counted from 1"`
	Column    int    `json:"column" required:"true" description:"In characters, counted from 1"`
	EndColumn int    `json:"end_column" required:"true" description:"The column after the last one that is wrong"`
	Say       string `json:"detail" required:"true"`
	Expected  string `json:"expected,omitempty"`
	Nearest   string `json:"nearest,omitempty" description:"What may have been meant"`
}

// Error makes a Mistake an error: "12:4: swich: did you mean switch?".
func (m Mistake) Error() string {
	say := fmt.Sprintf("%d:%d: %s", m.Line, m.Column, m.Say)
	if m.File != "" {
		say = m.File + ":" + say
	}
	if m.Expected != "" && m.Nearest == "" {
		say += " (expected " + m.Expected + ")"
	}
	return say
}

type tokenKind int

const (
	word      tokenKind = iota // anything without a meaning of its own
	quoted                     // "in quotes", text without them
	separator                  // a comma or colon
	unknown                    // a question mark
)

type token struct {
	kind     tokenKind
	text     string
	plain    string // of a word: without case and hyphens
	col, end int    // in characters from 1; end is the column after it
}

// is reports whether the token is that word.
func (t token) is(w string) bool { return t.kind == word && t.plain == w }

// line is one line cut into tokens, its comment apart.
type line struct {
	number  int
	indent  int
	tokens  []token
	comment string
	end     int // the column after the last character
}

const tabWidth = 8

// lexer keeps the room for one line, to be used again for the next.
type lexer struct {
	runes  []rune
	tokens []token
	field  bool // what is cut is typed into a field, where nothing is a comment
}

// lex cuts one line into tokens.
func lex(number int, text string) (line, *Mistake) { return (&lexer{}).line(number, text) }

// lexField cuts what was typed into a field, where # is no more than itself.
func lexField(text string) (line, *Mistake) { return (&lexer{field: true}).line(1, text) }

// line cuts a line into tokens, which hold until the next line is cut. Quotes
// may be straight or curly; an inch mark right after a digit is no quote.
func (lx *lexer) line(number int, text string) (l line, slip *Mistake) {
	l = line{number: number, tokens: lx.tokens[:0]}
	defer func() { lx.tokens = l.tokens }()
	runes := lx.runes[:0]
	for _, r := range text {
		runes = append(runes, r)
	}
	lx.runes = runes
	l.end = len(runes) + 1
	for i := 0; i < len(runes); {
		switch r := runes[i]; {
		case r == '#' && !lx.field:
			l.comment = strings.TrimSpace(string(runes[i+1:]))
			return l, nil
		case unicode.IsSpace(r):
			if len(l.tokens) == 0 {
				l.indent++
				if r == '\t' {
					l.indent = (l.indent-1)/tabWidth*tabWidth + tabWidth
				}
			}
			i++
		case r == ',' || r == ':' || r == ';':
			l.tokens = append(l.tokens, token{separator, string(r), "", i + 1, i + 2})
			i++
		case r == '?':
			l.tokens = append(l.tokens, token{unknown, "?", "", i + 1, i + 2})
			i++
		case isQuote(r):
			text, n, ok := unquote(runes[i:])
			if !ok {
				return l, &Mistake{Line: number, Column: i + 1, EndColumn: l.end, Say: "the quote that opens here is not closed", Expected: `a closing "`}
			}
			l.tokens = append(l.tokens, token{quoted, text, "", i + 1, i + n + 1})
			i += n
		default:
			start := i
			for i < len(runes) && (!endsWord(runes, i) || lx.field && runes[i] == '#') {
				i++
			}
			w := string(runes[start:i])
			l.tokens = append(l.tokens, token{word, w, plain(w), start + 1, i + 1})
		}
	}
	return l, nil
}

func isQuote(r rune) bool { return r == '"' || r == '“' || r == '”' || r == '„' }

func endsWord(runes []rune, i int) bool {
	r := runes[i]
	if r == '"' && i > 0 && unicode.IsDigit(runes[i-1]) {
		return false // 17.5"
	}
	return unicode.IsSpace(r) || isQuote(r) || strings.ContainsRune(",:;?#", r)
}

// escapes are the pairs of a character after a backslash and what it means.
var escapes = map[rune]rune{'n': '\n', 't': '\t'}

// unquote reads the quoted text that starts at the first rune and tells how
// many runes it took.
func unquote(runes []rune) (text string, n int, ok bool) {
	var b strings.Builder
	for i := 1; i < len(runes); i++ {
		r := runes[i]
		switch {
		case r == '\\' && i+1 < len(runes):
			i++
			if e, known := escapes[runes[i]]; known {
				b.WriteRune(e)
			} else {
				b.WriteRune(runes[i])
			}
		case isQuote(r) && (r == '"') == (runes[0] == '"'):
			return b.String(), i + 1, true
		default:
			b.WriteRune(r)
		}
	}
	return "", 0, false
}

// quote writes text so that unquote reads it back.
func quote(s string) string { return `"` + escaper.Replace(s) + `"` }

var escaper = strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\t", `\t`)
