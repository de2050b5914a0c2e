package table

import (
	"cmp"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// A filter is a list of terms that all have to hold. A word is looked for in
// what a thing is called, what it is and what it is for; a fact is compared:
//
//	ram>=64GB kind:server|nas place:loft warranty<2027 -state:running serial:?
//
// The colon looks for a piece of the text, = for all of it, ? for what is
// unknown and * for what is known. What is unknown is neither more nor less
// than anything.

// test is one term: whether a row passes.
type test func(*row) bool

// FilterMistake is what is wrong with a term, and where it stands.
type FilterMistake struct {
	Column, EndColumn int // in characters, counted from 1
	Say               string
}

// Error says it.
func (m *FilterMistake) Error() string { return m.Say }

var termPattern = regexp.MustCompile(`^(-?)([\p{L}_][\p{L}\d_-]*)(>=|<=|!=|[:=<>≥≤])(.*)$`)

const (
	mostFilter = 500
	mostTerms  = 40
)

// parse reads a filter. The error is a *FilterMistake.
func (ix *Index) parse(text string) ([]test, error) {
	if len(text) > mostFilter {
		return nil, &FilterMistake{1, len([]rune(text)) + 1, fmt.Sprintf("a filter has at most %d characters", mostFilter)}
	}
	terms, err := splitTerms(text)
	if err != nil {
		return nil, err
	}
	if len(terms) > mostTerms {
		return nil, &FilterMistake{1, len([]rune(text)) + 1, fmt.Sprintf("a filter has at most %d terms", mostTerms)}
	}
	var tests []test
	for _, t := range terms {
		pass, err := ix.test(t)
		if err != nil {
			return nil, &FilterMistake{t.col, t.end, err.Error()}
		}
		tests = append(tests, pass)
	}
	return tests, nil
}

type term struct {
	text     string // without the quotes
	quotedAt int    // where a quoted piece starts, -1 without one
	col, end int
}

// splitTerms cuts a filter at blanks that are not in quotes.
func splitTerms(text string) ([]term, error) {
	var terms []term
	var now *term
	inQuotes, openedAt := false, 0
	runes := []rune(text)
	for i, r := range runes {
		if r == '"' || r == '“' || r == '”' {
			if now == nil {
				now = &term{quotedAt: -1, col: i + 1}
			}
			if !inQuotes && now.quotedAt < 0 {
				now.quotedAt = len(now.text)
			}
			inQuotes, openedAt = !inQuotes, i+1
			continue
		}
		if (r == ' ' || r == '\t' || r == '\n') && !inQuotes {
			if now != nil {
				now.end = i + 1
				terms, now = append(terms, *now), nil
			}
			continue
		}
		if now == nil {
			now = &term{quotedAt: -1, col: i + 1}
		}
		now.text += string(r)
	}
	if inQuotes {
		return nil, &FilterMistake{openedAt, len(runes) + 1, "the quote that opens here is not closed"}
	}
	if now != nil {
		now.end = len(runes) + 1
		terms = append(terms, *now)
	}
	return terms, nil
}

func (ix *Index) test(t term) (test, error) {
	m := termPattern.FindStringSubmatch(t.text)
	if m == nil || t.quotedAt == 0 {
		word, not := strings.CutPrefix(t.text, "-")
		if t.quotedAt == 0 {
			word, not = t.text, false
		}
		word = strings.ToLower(word)
		return func(r *row) bool { return strings.Contains(r.words(ix), word) != not }, nil
	}
	not, name, op, value := m[1] == "-", m[2], m[3], m[4]
	c := columnNamed(ix.columns, name)
	if c == nil {
		var names []string
		for _, c := range ix.columns {
			names = append(append(names, c.Field), c.Words...)
		}
		if near := text.Nearest(name, names); near != "" {
			return nil, fmt.Errorf("there is no fact “%s”: did you mean %s?", name, near)
		}
		return nil, fmt.Errorf("there is no fact “%s”; write one such as kind, state, place, ram, price or warranty", name)
	}
	pass, err := ix.compare(c, op, value)
	if err != nil || !not {
		return pass, err
	}
	return func(r *row) bool { return !pass(r) }, nil
}

// unmet says which term of a filter no row passes, the first of them, and what may
// have been meant; "" where each has rows of its own.
func (ix *Index) unmet(filter string, tests []test) string {
	terms, err := splitTerms(filter)
	if err != nil || len(ix.rows) == 0 {
		return ""
	}
	i := slices.IndexFunc(tests, func(pass test) bool { return !slices.ContainsFunc(ix.rows, pass) })
	if i < 0 {
		return ""
	}
	said, looked := terms[i].text, terms[i].text
	if without, not := strings.CutPrefix(said, "-"); not && terms[i].quotedAt != 0 {
		return fmt.Sprintf("Every row has %s.", text.Short(without))
	}
	known := map[string]bool{}
	note := func(s string) {
		for _, w := range strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }) {
			known[w] = true
		}
	}
	if m := termPattern.FindStringSubmatch(said); m != nil && terms[i].quotedAt != 0 {
		c := columnNamed(ix.columns, m[2])
		if c.Kind != Words {
			return fmt.Sprintf("No row has %s.", text.Short(said))
		}
		looked = m[4]
		for _, v := range ix.of(c) {
			note(v.Text)
		}
	} else {
		for _, r := range ix.rows {
			note(r.words(ix))
		}
	}
	if near := text.Nearest(strings.ToLower(looked), slices.Sorted(maps.Keys(known))); near != "" {
		return fmt.Sprintf("No row has %s: did you mean %s?", text.Short(said), near)
	}
	return fmt.Sprintf("No row has %s.", text.Short(said))
}

// words are everything that a bare word is looked for in: what a person may
// have said of the record, not what is counted.
func (r *row) words(ix *Index) string {
	ix.mu.Lock()
	defer ix.mu.Unlock()
	if r.folded == "" {
		said := []string{r.record.Title()}
		for i := range ix.columns {
			if c := &ix.columns[i]; c.Kind == Words && c.Field != "ports" {
				said = append(said, c.value(r).Text)
			}
		}
		r.folded = strings.ToLower(strings.Join(said, "\n"))
	}
	return r.folded
}

func (ix *Index) compare(c *Column, op, value string) (test, error) {
	values := ix.of(c)
	switch {
	case value == "":
		return nil, fmt.Errorf("%s of what? Write a value after %s, ? for unknown, or * for known", c.Title, op)
	case value == "?":
		return func(r *row) bool { return values[r.n].Text == "" && !values[r.n].None }, nil
	case value == "*":
		return func(r *row) bool { return values[r.n].Text != "" }, nil
	case op == "!=":
		same, err := ix.compare(c, "=", value)
		if err != nil {
			return nil, err
		}
		return func(r *row) bool { return !same(r) }, nil
	}
	var any []test
	for _, v := range strings.Split(value, "|") {
		pass, err := ix.compareOne(c, op, v)
		if err != nil {
			return nil, err
		}
		any = append(any, pass)
	}
	return func(r *row) bool {
		for _, pass := range any {
			if pass(r) {
				return true
			}
		}
		return false
	}, nil
}

func (ix *Index) compareOne(c *Column, op, value string) (test, error) {
	values := ix.of(c)
	switch c.Kind {
	case Words:
		value = strings.ToLower(value)
		switch op {
		case ":":
			return func(r *row) bool { return strings.Contains(strings.ToLower(values[r.n].Text), value) }, nil
		case "=":
			return func(r *row) bool { return strings.ToLower(values[r.n].Text) == value }, nil
		}
		return nil, fmt.Errorf("%s is words; compare it with : or =", c.Title)
	case Day:
		when, err := rundown.ReadWhen(value)
		if err != nil {
			return nil, err
		}
		return func(r *row) bool {
			is := values[r.n].Text
			if is == "" {
				return false
			}
			n := min(len(is), len(when))
			return holds(op, strings.Compare(is[:n], string(when)[:n]))
		}, nil
	}
	want, err := figureOf(ix.lab, c, value)
	if err != nil {
		return nil, err
	}
	return func(r *row) bool {
		is := values[r.n].Number
		return is != nil && holds(op, cmp.Compare(*is, want))
	}, nil
}

func figureOf(l *lab.Lab, c *Column, value string) (float64, error) {
	switch c.Kind {
	case Memory:
		return text.MemoryBytes(value)
	case Capacity:
		return text.CapacityBytes(value)
	case Price:
		minor, err := lab.ParseMoney(value, l.Settings().Currency)
		return float64(minor), err
	}
	return text.Measured(c.Unit, value)
}

func holds(op string, c int) bool {
	switch op {
	case "<":
		return c < 0
	case ">":
		return c > 0
	case "<=", "≤":
		return c <= 0
	case ">=", "≥":
		return c >= 0
	}
	return c == 0
}
