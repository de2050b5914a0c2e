package rundown

import (
	"slices"
	"strings"
	"unicode/utf8"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/text"
)

// Completion is a way a line may go on: Text takes the place of the line's
// characters from From to its end.
type Completion struct {
	From int    `json:"from" required:"true" description:"Column, counted from 1, at which the text goes in"`
	Text string `json:"text" required:"true"`
	Hint string `json:"hint,omitempty"`
}

const mostCompletions = 8

// Complete lists how a line that is being typed may go on, the likeliest
// first: free units of the rack, sides and places, then kinds, names that are
// known, facts, devices whose cables the line may be about.
func Complete(l *lab.Lab, in lab.Rack, typed string) []Completion {
	c := completer{lab: l, rack: in, kinds: lineKinds(), typed: typed, end: utf8.RuneCountInString(typed) + 1, list: []Completion{}}
	line, slip := text.Lex(1, typed)
	if slip != nil { // inside quotes
		c.names(line, slip.Column)
		return c.list
	}
	tokens := line.Tokens
	c.from = c.end
	if n := len(tokens); n > 0 && tokens[n-1].Kind == text.Word && tokens[n-1].End == c.end {
		c.partial, c.from = tokens[n-1].Text, tokens[n-1].Col
		tokens = tokens[:n-1]
	}
	if k, ok := c.head(tokens); ok {
		if tokens[len(tokens)-1].Kind == text.Separator {
			c.facts(scope(k.kind))
		}
		return c.list
	}
	if n := len(tokens); n > 0 && tokens[n-1].Kind == text.Separator {
		if k, _ := readKnown(tokens); k != nil {
			c.facts(scope(lab.KindDevice))
			return c.list
		}
	}
	for _, k := range slices.Backward(c.kinds) {
		if k.complete != nil && k.complete(&c, tokens) {
			break
		}
	}
	return c.list
}

type completer struct {
	lab     *lab.Lab
	rack    lab.Rack // that units count in
	kinds   []lineKind
	typed   string
	end     int
	partial string // the word that is being typed, "" between words
	from    int    // where it begins
	list    []Completion
}

func (c *completer) add(from int, text, hint string) {
	if len(c.list) < mostCompletions {
		c.list = append(c.list, Completion{from, text, hint})
	}
}

// head finds the kind of a line that begins with a head's word.
func (c *completer) head(tokens []text.Token) (lineKind, bool) {
	i := slices.IndexFunc(c.kinds, func(k lineKind) bool {
		return len(tokens) > 0 && k.begins(tokens) > 0 && !(&thing{}).isDevice(tokens)
	})
	if i < 0 {
		return lineKind{}, false
	}
	return c.kinds[i], true
}

// device offers how a line about a device goes on.
func (c *completer) device(tokens []text.Token) bool {
	after := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	switch {
	case after >= 0 && tokens[len(tokens)-1].Kind == text.Separator:
		c.facts(scope(lab.KindDevice))
	case after < 0 && len(tokens) == 0:
		c.spots()
		c.heads()
		c.deviceKinds(tokens)
	case after < 0:
		if _, n, err := readWhere(tokens); err == nil {
			c.deviceKinds(tokens[n:])
		}
	}
	if after < 0 && c.partial != "" {
		c.devices(append(slices.Clone(tokens), text.Token{Kind: text.Word, Text: c.partial, Plain: text.Plain(c.partial), Col: c.from,
			End: c.end}))
	}
	return true
}

// heads offers the words that lines begin with.
func (c *completer) heads() {
	for _, k := range c.kinds {
		if k.word != "" && c.partial != "" && strings.HasPrefix(k.word, text.Plain(c.partial)) {
			c.add(c.from, k.word+" ", "a "+k.kind.Words())
		}
	}
}

// spots offers the free pieces of the rack, as units to type.
func (c *completer) spots() {
	l, in, partial, from := c.lab, c.rack, c.partial, c.from
	if in.ID != "" {
		for _, p := range rack.SpaceOf(l, in).Pieces {
			if strings.HasPrefix(p.Range, partial) {
				c.add(from, p.Range+" ", "free in "+in.Name)
			}
		}
	}
	if partial == "" {
		return
	}
	for _, w := range []string{"left", "right", "top", "under"} {
		if strings.HasPrefix(w, text.Plain(partial)) {
			c.add(from, w+" ", "of "+in.Name)
		}
	}
	if strings.HasPrefix("in", text.Plain(partial)) {
		for p := range lab.Each[lab.Place](l) {
			c.add(from, "in "+text.Quote(p.Name)+" ", "place")
		}
	}
}

// deviceKinds offers the kinds of device one of whose words begins as typed. tokens
// are the words of the kind before the one being typed.
func (c *completer) deviceKinds(tokens []text.Token) {
	partial, from := c.partial, c.from
	if partial == "" && len(tokens) == 0 && c.typed == "" {
		return
	}
	if _, n := readKind(tokens); n > 0 && n < len(tokens) {
		return // the kind is there already, this is the name
	}
	typed := text.Plain(strings.TrimSpace(text.Joined(tokens) + " " + partial))
	if len(tokens) > 0 {
		from = tokens[0].Col
	}
	for _, k := range lab.DeviceKinds() {
		for _, w := range append([]string{KindText(k)}, synonyms[k]...) {
			if strings.HasPrefix(text.Plain(w), typed) && (typed != "" || w == KindText(k)) {
				hint := ""
				if w != KindText(k) {
					hint = w
				}
				c.add(from, KindText(k)+" ", hint)
				break
			}
		}
	}
}

// names offers the names known of what stands before the open quote: the kind
// of the line, what a fact's word names, places and what holds things after in
// and on.
func (c *completer) names(line text.Line, open int) {
	typed := lab.FoldName(string([]rune(c.typed)[open:]))
	before := line.Tokens
	add := func(name, hint string) {
		if name != "" && strings.HasPrefix(lab.FoldName(name), typed) {
			c.add(open, text.Quote(name), hint)
		}
	}
	of := scope(lab.KindDevice)
	k, headed := c.head(before)
	if headed {
		of = scope(k.kind)
	}
	switch n := len(before); {
	case n == 0:
		c.called(lab.KindRack, add)
	case headed && n == 1+len(k.before):
		c.called(k.kind, add)
	case n > 1 && indexes[of].word[before[n-1].Plain] != nil && indexes[of].word[before[n-1].Plain].names != "":
		c.called(indexes[of].word[before[n-1].Plain].names, add)
	case before[n-1].Is("in"), before[n-1].Is("on"):
		if before[n-1].Is("in") {
			c.called(lab.KindPlace, add)
		}
		for d := range lab.Each[lab.Device](c.lab) {
			if d.Kind.Traits().Holds {
				add(d.Name, KindText(d.Kind))
			}
		}
	case !headed:
		c.moving(before, add)
	}
}

// called offers the names of the records of a kind.
func (c *completer) called(kind lab.RecordKind, add func(name, hint string)) {
	for r := range c.lab.Records(kind) {
		add(lab.OwnName(r), kind.Words())
	}
}

// moving offers the devices of the kind that is said, which the line moves.
func (c *completer) moving(before []text.Token, add func(name, hint string)) {
	_, n, err := readWhere(before)
	if err != nil {
		return
	}
	kind, _ := readKind(before[n:])
	for d := range lab.Each[lab.Device](c.lab) {
		if d.Kind == kind {
			add(d.Name, "moves it from "+WhereWords(c.lab, d))
		}
	}
}

// facts offers what can be said of a record: what a fact is one of, once it is
// begun, and an example of any other.
func (c *completer) facts(of scope) {
	typed := text.Plain(c.partial)
	for _, f := range factsOf(of) {
		if len(f.choices) > 0 && (f.pattern == "" || len(f.phrases) > 0) { // one that is said without a word for it
			for _, choice := range f.choices {
				if strings.HasPrefix(text.Plain(choice), typed) && typed != "" {
					c.add(c.from, choice, f.name)
				}
			}
			continue
		}
		for _, w := range append([]string{f.example}, f.words...) {
			if strings.HasPrefix(w, typed) && f.example != "" {
				c.add(c.from, f.example, f.name)
				break
			}
		}
	}
}
