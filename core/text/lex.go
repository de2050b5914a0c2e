// Package text reads lines as people write them: words, quotes, quantities
// with their units, what is only a slip of the finger away. It knows nothing of
// labs.
package text

import (
	"fmt"
	"net"
	"net/netip"
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

// TokenKind is the sort of a token.
type TokenKind int

// The sorts there are.
const (
	Word      TokenKind = iota // anything without a meaning of its own
	Quoted                     // "in quotes", text without them
	Separator                  // a comma or colon
	Unknown                    // a question mark
)

// Token is a piece of a line.
type Token struct {
	Kind     TokenKind
	Text     string
	Plain    string // of a word: without case and hyphens
	Col, End int    // in characters from 1; end is the column after it
}

// Is reports whether the token is that word.
func (t Token) Is(w string) bool { return t.Kind == Word && t.Plain == w }

// Line is one line cut into tokens, its comment apart.
type Line struct {
	number  int
	Indent  int
	Tokens  []Token
	Comment string
	End     int // the column after the last character
}

// EndsWith reports whether a line's last token is that separator.
func (l Line) EndsWith(separator string) bool {
	n := len(l.Tokens)
	return n > 0 && l.Tokens[n-1].Kind == Separator && l.Tokens[n-1].Text == separator
}

// And puts another line behind a line, apart from it as by a comma; its columns
// count on from the first one's. The tokens go into the line's own room.
func (l Line) And(next Line) Line {
	if !l.EndsWith(",") && !l.EndsWith(":") {
		l.Tokens = append(l.Tokens, Token{Separator, ",", "", l.End, l.End})
	}
	for _, t := range next.Tokens {
		t.Col, t.End = t.Col+l.End-1, t.End+l.End-1
		l.Tokens = append(l.Tokens, t)
	}
	l.End += next.End - 1
	if l.Comment != "" && next.Comment != "" {
		l.Comment += "\n"
	}
	l.Comment += next.Comment
	return l
}

const tabWidth = 8

// Lexer keeps the room for one line, to be used again for the next.
type Lexer struct {
	runes  []rune
	tokens []Token
	field  bool // what is cut is typed into a field, where nothing is a comment
}

// Lex cuts one line into tokens.
func Lex(number int, text string) (Line, *Mistake) { return (&Lexer{}).Line(number, text) }

// LexField cuts what was typed into a field, where # is no more than itself.
func LexField(text string) (Line, *Mistake) { return (&Lexer{field: true}).Line(1, text) }

// Line cuts a line into tokens, which hold until the next line is cut. Quotes
// may be straight or curly; an inch mark right after a digit is no quote, and a
// comma or colon between two digits separates nothing.
func (lx *Lexer) Line(number int, text string) (l Line, slip *Mistake) {
	l = Line{number: number, Tokens: lx.tokens[:0]}
	defer func() { lx.tokens = l.Tokens }()
	runes := lx.runes[:0]
	for _, r := range text {
		runes = append(runes, r)
	}
	lx.runes = runes
	l.End = len(runes) + 1
	for i := 0; i < len(runes); {
		if n := addressAhead(runes[i:]); n > 0 {
			w := string(runes[i : i+n])
			l.Tokens = append(l.Tokens, Token{Word, w, Plain(w), i + 1, i + n + 1})
			i += n
			continue
		}
		switch r := runes[i]; {
		case r == '#' && !lx.field:
			l.Comment = strings.TrimSpace(string(runes[i+1:]))
			return l, nil
		case unicode.IsSpace(r):
			if len(l.Tokens) == 0 {
				l.Indent++
				if r == '\t' {
					l.Indent = (l.Indent-1)/tabWidth*tabWidth + tabWidth
				}
			}
			i++
		case r == ',' || r == ':' || r == ';':
			l.Tokens = append(l.Tokens, Token{Separator, string(r), "", i + 1, i + 2})
			i++
		case r == '?':
			l.Tokens = append(l.Tokens, Token{Unknown, "?", "", i + 1, i + 2})
			i++
		case isQuote(r):
			text, n, ok := unquote(runes[i:])
			if !ok {
				return l, &Mistake{Line: number, Column: i + 1, EndColumn: l.End, Say: "the quote that opens here is not closed",
					Expected: `a closing "`}
			}
			l.Tokens = append(l.Tokens, Token{Quoted, text, "", i + 1, i + n + 1})
			i += n
		default:
			start := i
			for i < len(runes) && (!endsWord(runes, i) || lx.field && runes[i] == '#') {
				i++
			}
			w := string(runes[start:i])
			l.Tokens = append(l.Tokens, Token{Word, w, Plain(w), start + 1, i + 1})
		}
	}
	return l, nil
}

// addressAhead tells how many runes an address with colons in it takes with which
// they begin: a MAC address, or an IPv6 one, with the size of its subnet, or a range
// of them. Its colons separate nothing.
func addressAhead(runes []rune) int {
	n, colons := 0, 0
	for n < len(runes) && (isHex(runes[n]) || strings.ContainsRune(":./-", runes[n])) {
		if runes[n] == ':' {
			colons++
		}
		n++
	}
	if colons < 2 || n < len(runes) && (unicode.IsLetter(runes[n]) || isDigit(runes[n])) {
		return 0
	}
	for ; n > 0 && !isAddress(string(runes[:n])); n-- {
		if isHex(runes[n-1]) {
			return 0 // what may follow an address is a colon, or another mark
		}
	}
	return n
}

func isAddress(s string) bool {
	if strings.Count(s, ":") < 2 {
		return false
	}
	if _, err := net.ParseMAC(s); err == nil {
		return true
	}
	for piece := range strings.SplitSeq(s, "-") {
		addr, size, sized := strings.Cut(piece, "/")
		if _, err := netip.ParseAddr(addr); err != nil || sized && strings.Trim(size, "0123456789") != "" {
			return false
		}
	}
	return true
}

func isHex(r rune) bool { return isDigit(r) || r >= 'a' && r <= 'f' || r >= 'A' && r <= 'F' }

func isQuote(r rune) bool { return r == '"' || r == '“' || r == '”' || r == '„' }

func endsWord(runes []rune, i int) bool {
	r := runes[i]
	if i > 0 && isDigit(runes[i-1]) {
		switch {
		case r == '"': // 17.5"
			return false
		case (r == ',' || r == ':') && i+1 < len(runes) && isDigit(runes[i+1]): // 1,5m and 07:00
			return false
		case isThinSpace(r) && digitsAfter(runes, i) == 3: // 1 500, with a space that does not break
			return false
		}
	}
	return unicode.IsSpace(r) || isQuote(r) || strings.ContainsRune(",:;?#", r)
}

func isDigit(r rune) bool { return r >= '0' && r <= '9' }

// isThinSpace reports whether a space is one that sets thousands apart.
func isThinSpace(r rune) bool { return r == '\u00a0' || r == '\u2009' || r == '\u202f' }

// digitsAfter counts the digits that follow a place.
func digitsAfter(runes []rune, i int) int {
	n := 0
	for i+1+n < len(runes) && isDigit(runes[i+1+n]) {
		n++
	}
	return n
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

// Quote writes text so that unquote reads it back.
func Quote(s string) string { return `"` + escaper.Replace(s) + `"` }

var escaper = strings.NewReplacer(`\`, `\\`, `"`, `\"`, "\n", `\n`, "\t", `\t`)
