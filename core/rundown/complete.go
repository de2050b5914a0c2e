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
	c := completer{typed: typed, end: utf8.RuneCountInString(typed) + 1, list: []Completion{}}
	line, slip := text.Lex(1, typed)
	if slip != nil { // inside quotes
		c.names(l, line, slip.Column)
		return c.list
	}
	tokens := line.Tokens
	partial, from := "", c.end
	if n := len(tokens); n > 0 && tokens[n-1].Kind == text.Word && tokens[n-1].End == c.end {
		partial, from = tokens[n-1].Text, tokens[n-1].Col
		tokens = tokens[:n-1]
	}
	if c.cables(l, tokens, partial, from) {
		return c.list
	}
	after := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	switch {
	case after >= 0 && tokens[len(tokens)-1].Kind == text.Separator:
		c.facts(partial, from)
	case after < 0 && len(tokens) == 0:
		c.spots(l, in, partial, from)
		c.kinds(tokens, partial, from)
	case after < 0:
		_, n, err := readWhere(tokens)
		if err == nil {
			c.kinds(tokens[n:], partial, from)
		}
	}
	if after < 0 && partial != "" {
		c.devices(l, line.Tokens)
	}
	return c.list
}

type completer struct {
	typed string
	end   int
	list  []Completion
}

func (c *completer) add(from int, text, hint string) {
	if len(c.list) < mostCompletions {
		c.list = append(c.list, Completion{from, text, hint})
	}
}

// spots offers the free pieces of the rack, as units to type.
func (c *completer) spots(l *lab.Lab, in lab.Rack, partial string, from int) {
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

// kinds offers the kinds of device one of whose words begins as typed. tokens
// are the words of the kind before the one being typed.
func (c *completer) kinds(tokens []text.Token, partial string, from int) {
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

// names offers the names known of the kind that stands before the open quote,
// or of places and devices after in and on.
func (c *completer) names(l *lab.Lab, line text.Line, open int) {
	runes := []rune(c.typed)
	typed := lab.FoldName(string(runes[open:]))
	before := line.Tokens
	add := func(name, hint string) {
		if strings.HasPrefix(lab.FoldName(name), typed) {
			c.add(open, text.Quote(name), hint)
		}
	}
	if n := len(before); n > 0 && (before[n-1].Is("in") || before[n-1].Is("on")) {
		if before[n-1].Is("in") {
			for p := range lab.Each[lab.Place](l) {
				add(p.Name, "place")
			}
		}
		for d := range lab.Each[lab.Device](l) {
			if d.Name != "" && d.Kind.Traits().Holds {
				add(d.Name, KindText(d.Kind))
			}
		}
		return
	}
	if len(before) == 0 {
		for r := range lab.Each[lab.Rack](l) {
			add(r.Name, "rack")
		}
		return
	}
	_, n, err := readWhere(before)
	if err != nil {
		return
	}
	kind, _ := readKind(before[n:])
	for d := range lab.Each[lab.Device](l) {
		if d.Kind == kind && d.Name != "" {
			add(d.Name, "moves it from "+WhereWords(l, d))
		}
	}
}

func (c *completer) facts(partial string, from int) {
	for _, f := range factsOf(scope(lab.KindDevice)) {
		if f.field == "state" {
			for _, s := range lab.States() {
				if strings.HasPrefix(string(s), text.Plain(partial)) && partial != "" {
					c.add(from, string(s), "state")
				}
			}
			continue
		}
		for _, w := range append([]string{f.example}, f.words...) {
			if strings.HasPrefix(w, text.Plain(partial)) && f.example != "" {
				c.add(from, f.example, f.name)
				break
			}
		}
	}
}
