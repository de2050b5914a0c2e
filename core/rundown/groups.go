package rundown

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// groupFact is a fact that is a list of groups of alike things: ports, bays,
// slots, outlets. Each phrase is one group.
func groupFact[R, G any](of scope, name, jsonField, example string, matches func([]text.Token) bool, read func(*groupReader) (G, error),
	write func(G) string, at func(*R) *[]G, size func(G) int) fact {
	all := func(b box) string {
		var said []string
		for _, g := range *at(b.(*R)) {
			said = append(said, write(g))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: of, name: name, field: jsonField, example: example, many: true, matches: matches,
		number: func(b box) *float64 {
			sum := 0.0
			for _, g := range *at(b.(*R)) {
				sum += float64(size(g))
			}
			if sum == 0 {
				return nil
			}
			return &sum
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var groups []G
			for phrase := range text.Cut(tokens) {
				r := &groupReader{tokens: phrase, example: example}
				g, err := read(r)
				if err != nil {
					return nil, err
				}
				groups = append(groups, g)
				if len(r.tokens) > 0 {
					return nil, &besidesError{value: groups, rest: r.tokens, about: name, example: example,
						reads: func(rest []text.Token) bool {
							again := &groupReader{tokens: instead(phrase, rest), example: example}
							_, err := read(again)
							return err == nil && len(again.tokens) < len(rest)
						}}
				}
			}
			return groups, nil
		},
		set: func(b box, v any) {
			groups, _ := v.([]G)
			if groups == nil {
				*at(b.(*R)) = nil
				return
			}
			*at(b.(*R)) = append(slices.Clone(*at(b.(*R))), groups...)
		},
		show:  func(_ *lab.Lab, b box) string { return all(b) },
		write: func(_ *lab.Lab, b box) string { return all(b) }}
}

// besidesError is the error of a group with words that say nothing of it.
type besidesError struct {
	value          any // the groups without them
	rest           []text.Token
	about, example string
	reads          func(rest []text.Token) bool // whether other words in their place say more
}

// Error says which words.
func (e *besidesError) Error() string {
	return fmt.Sprintf("“%s” is not a fact about %s; write one such as %s", text.Short(e.rest[0].Text), e.about, e.example)
}

// instead is a phrase with words in the places of others.
func instead(phrase, with []text.Token) []text.Token {
	phrase = slices.Clone(phrase)
	for _, w := range with {
		for i := range phrase {
			if phrase[i].Col == w.Col {
				phrase[i] = w
			}
		}
	}
	return phrase
}

// groupReader takes the words of a group in whatever order they come.
type groupReader struct {
	tokens  []text.Token
	example string
}

var countWord = regexp.MustCompile(`^([0-9]{1,5})[x×]?$`)

// numberWords are the counts that people write in words.
var numberWords = []string{"zero", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"}

// countIn is the count that a word says: 4, 4x, four.
func countIn(t text.Token) (int, bool) {
	if t.Kind != text.Word {
		return 0, false
	}
	if t.Plain != "" && t.Plain[0] <= '9' {
		m := countWord.FindStringSubmatch(t.Plain)
		if m == nil {
			return 0, false
		}
		n, err := strconv.Atoi(m[1])
		return n, err == nil
	}
	n := slices.Index(numberWords, t.Plain)
	return n, n > 0
}

// count takes the number that a group begins with.
func (r *groupReader) count() (int, error) {
	if len(r.tokens) == 0 {
		return 0, errCount
	}
	n, ok := countIn(r.tokens[0])
	if !ok {
		return 0, fmt.Errorf("%w: %s", errCount, r.example)
	}
	r.tokens = r.tokens[1:]
	if len(r.tokens) > 0 && (r.tokens[0].Is("x") || r.tokens[0].Is("×")) {
		r.tokens = r.tokens[1:]
	}
	if n == 0 {
		return 0, fmt.Errorf("there are 1 or more in a group; leave it out where there is none")
	}
	return n, nil
}

// word takes any of the words if one is there.
func (r *groupReader) word(words ...string) (string, bool) {
	for n := min(3, len(r.tokens)); n > 0; n-- {
		for i := 0; i+n <= len(r.tokens); i++ {
			said := text.Plainly(r.tokens[i : i+n])
			if slices.Contains(words, said) {
				r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+n)
				return said, true
			}
		}
	}
	return "", false
}

// match takes a token that a pattern matches.
func (r *groupReader) match(pattern *regexp.Regexp) []string {
	for i, t := range r.tokens {
		if m := pattern.FindStringSubmatch(t.Plain); m != nil && t.Kind == text.Word {
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+1)
			return m
		}
	}
	return nil
}

// after takes what follows a word.
func (r *groupReader) after(words ...string) (text.Token, bool) {
	for i := 0; i+1 < len(r.tokens); i++ {
		if slices.Contains(words, r.tokens[i].Plain) {
			t := r.tokens[i+1]
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+2)
			return t, true
		}
	}
	return text.Token{}, false
}

func (r *groupReader) face() lab.Face {
	if w, ok := r.word("front", "rear", "back"); ok {
		return faceWords[w]
	}
	return ""
}

// connectors are those that a group of ports or outlets may be of, as they are
// written; the first are ports without saying so: 2 sfp+.
var connectors = append([]string{"rj45", "rj11", "sfp", "sfp+", "sfp28", "qsfp", "qsfp+", "qsfp28", "xfp", "lc", "sc", "st", "bnc", "rs232",
	"db9", "usb a", "usb b", "usb c", "usb", "hdmi", "vga", "dvi", "displayport", "keystone", "serial"},
	"cage", "f", "fc", "mpo", "sma", "coax", "db25", "micro usb", "mini usb", "audio", "jack", "xlr", "speaker", "toslink",
	"sas", "mini sas", "sata", "esata", "c13", "c14", "c15", "c19", "c20", "c5", "c6", "c7", "c8", "uk", "schuko", "type f", "nema 5 15",
	"console", "kvm", "dc", "inlet", "radio")

// portsAlone is how many of the connectors are ports without saying so.
const portsAlone = 25

// connector takes the connector that a group is of: a known one, or any in
// quotes; "" where none is said.
func (r *groupReader) connector() string {
	if c, ok := r.word(connectors...); ok {
		return lab.ConnectorOf(c)
	}
	for i, t := range r.tokens {
		if t.Kind == text.Quoted {
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+1)
			return lab.ConnectorOf(t.Text)
		}
	}
	return ""
}

// connectorText writes a connector so that it reads back.
func connectorText(c string) string {
	written := strings.ReplaceAll(c, "-", " ")
	if c == "" || slices.Contains(connectors, written) && lab.ConnectorOf(written) == c {
		return lab.ConnectorWords(c)
	}
	return text.Quote(c)
}

var nouns = map[string][]string{"ports": {"ports", "port", "jacks", "cages", "cage", "keystones", "holes", "sockets rj45"},
	"bays": {"bays", "bay"}, "slots": {"slots", "slot"}, "outlets": {"outlets", "outlet", "sockets", "out"}}

func begins(tokens []text.Token) bool {
	if len(tokens) < 2 {
		return false
	}
	_, ok := countIn(tokens[0])
	return ok
}

func hasWord(tokens []text.Token, words ...string) bool {
	return slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind == text.Word && slices.Contains(words, t.Plain) })
}

func isPorts(tokens []text.Token) bool {
	return begins(tokens) && (hasWord(tokens, nouns["ports"]...) || slices.Contains(connectors[:portsAlone], tokens[1].Plain))
}
func isBays(tokens []text.Token) bool {
	return begins(tokens) && hasWord(tokens, nouns["bays"]...) && !hasWord(tokens, "supply", "psu")
}
func isSlots(tokens []text.Token) bool {
	return begins(tokens) && hasWord(tokens, nouns["slots"]...) && !hasWord(tokens, "memory", "dimm", "ram")
}
func isOutlets(tokens []text.Token) bool {
	return begins(tokens) && hasWord(tokens, "outlets", "outlet")
}

// lines is a fact that is a list of texts, each said in quotes.
func lines[R any](of scope, name, jsonField, word, example string, at func(*R) *[]string) fact {
	return fact{of: of, name: name, field: jsonField, words: []string{word}, example: example, many: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) || len(tokens) == 0 {
				return nil, nil
			}
			var list []string
			for _, t := range tokens {
				if t.Kind != text.Separator {
					list = append(list, t.Text)
				}
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]string)
			if list == nil {
				*at(b.(*R)) = nil
				return
			}
			*at(b.(*R)) = append(slices.Clone(*at(b.(*R))), list...)
		},
		show: func(_ *lab.Lab, b box) string {
			var said []string
			for _, s := range *at(b.(*R)) {
				said = append(said, text.Quote(s))
			}
			return strings.Join(said, " ")
		},
		pattern: word + " %s"}
}

// entries are facts with names of their own: private "pin" "1234".
func entries(of scope) fact {
	at := func(b box) *[]lab.Entry { return &b.(*lab.Device).Private }
	return fact{of: of, name: "other private facts", field: "private", words: []string{"private"}, example: `private "asset tag" "Q-17"`,
		many: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) || len(tokens) == 0 {
				return nil, nil
			}
			tokens = slices.DeleteFunc(slices.Clone(tokens), func(t text.Token) bool { return t.Kind == text.Separator })
			if len(tokens)%2 == 1 {
				return nil, fmt.Errorf(`a private fact has a name and a value, each in quotes, such as "asset tag" "Q-17"`)
			}
			var list []lab.Entry
			for i := 0; i < len(tokens); i += 2 {
				list = append(list, lab.Entry{Name: tokens[i].Text, Value: tokens[i+1].Text})
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.Entry)
			if list == nil {
				*at(b) = nil
				return
			}
			*at(b) = append(slices.Clone(*at(b)), list...)
		},
		show: func(_ *lab.Lab, b box) string {
			var said []string
			for _, e := range *at(b) {
				said = append(said, text.Quote(e.Name)+" "+text.Quote(e.Value))
			}
			return strings.Join(said, " ")
		},
		pattern: "private %s"}
}
