package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/text"
)

// measure is a fact with a quantity; pattern is how it is written.
func measure[R any](of scope, name, jsonField string, d text.Dimension, words []string, example, pattern string,
	at func(*R) **float64) fact {
	get := func(b box) *float64 { return *at(b.(*R)) }
	return fact{of: of, name: name, field: jsonField, words: words, example: example, pattern: pattern, measured: d, number: get,
		read: func(tokens []text.Token, lax bool) (any, error) {
			v, err := text.ReadMeasure(tokens, d, lax)
			if v == nil || err != nil {
				return nil, err
			}
			return *v, nil
		},
		set: func(b box, v any) {
			if v == nil {
				*at(b.(*R)) = nil
				return
			}
			f := v.(float64)
			*at(b.(*R)) = &f
		},
		show: func(_ *lab.Lab, b box) string {
			if v := get(b); v != nil {
				return d.Text(*v)
			}
			return ""
		}}
}

func (f fact) barely(bare func(text.Quantity) bool) fact { f.bare = bare; return f }

func (f fact) under(g Group) fact { f.group = g; return f }

func (f fact) usually(is string) fact { f.usual = is; return f }

func (f fact) optional() fact { f.maybe = true; return f }

func (f fact) as(pattern string) fact { f.pattern = pattern; return f }

func (f fact) inPhrases() fact { f.head = false; return f }

// wholeMeasure is a measure that records keep as a whole number, such as bytes.
func wholeMeasure[R any](of scope, name, jsonField string, d text.Dimension, words []string, example, pattern string,
	at func(*R) **int64) fact {
	f := measure(of, name, jsonField, d, words, example, pattern, func(*R) **float64 { return nil })
	f.number = func(b box) *float64 {
		if v := *at(b.(*R)); v != nil {
			n := float64(*v)
			return &n
		}
		return nil
	}
	f.set = func(b box, v any) {
		if v == nil {
			*at(b.(*R)) = nil
			return
		}
		n := int64(v.(float64))
		*at(b.(*R)) = &n
	}
	f.show = func(_ *lab.Lab, b box) string {
		if v := *at(b.(*R)); v != nil {
			return d.Text(float64(*v))
		}
		return ""
	}
	return f
}

// tally is a fact that counts whole things; zero is a count too.
func tally[R any](of scope, name, jsonField string, words []string, example, pattern string, at func(*R) **int) fact {
	return fact{of: of, name: name, field: jsonField, words: words, example: example, pattern: pattern, number: counted(at),
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			n, err := 0, error(nil)
			if len(tokens) == 1 {
				var ok bool
				if n, ok = countIn(tokens[0]); !ok {
					n, err = strconv.Atoi(tokens[0].Plain)
				}
			}
			if len(tokens) != 1 || err != nil || n < 0 {
				return nil, fmt.Errorf("“%s” is not a number of them; write one such as %s, or ? while it is unknown", text.Short(text.Joined(tokens)),
					example)
			}
			return n, nil
		},
		set: func(b box, v any) { *at(b.(*R)) = wholeOf(v) },
		show: func(_ *lab.Lab, b box) string {
			if n := *at(b.(*R)); n != nil {
				return strconv.Itoa(*n)
			}
			return ""
		}}
}

func counted[R any](at func(*R) **int) func(box) *float64 {
	return func(b box) *float64 {
		if n := *at(b.(*R)); n != nil {
			v := float64(*n)
			return &v
		}
		return nil
	}
}

func wholeOf(v any) *int {
	if v == nil {
		return nil
	}
	n := v.(int)
	return &n
}

// unitsFor is how many units something of that height needs at least.
func unitsFor(mm float64) *int {
	n := rack.UnitsFor(mm)
	return &n
}

// readUnits reads a number of units.
func readUnits(tokens []text.Token, _ bool) (any, error) {
	v, err := text.ReadMeasure(tokens, text.Units, true)
	switch {
	case err != nil:
		return nil, err
	case v == nil:
		return nil, nil
	case *v != float64(int(*v)) || *v > 1e6:
		return nil, fmt.Errorf("units are counted in whole ones, not %s", text.Number(*v))
	}
	return int(*v), nil
}

func rackUnits() fact {
	return fact{of: scope(lab.KindRack), name: "height", field: "height_u", words: []string{"high", "tall", "height"}, example: "24U",
		needed: "a rack's height is counted at the rail: write it, such as 24U", bare: isIn(text.Units), read: readUnits,
		number: func(b box) *float64 { n := float64(b.(*lab.Rack).HeightU); return &n },
		set: func(b box, v any) {
			if v != nil {
				b.(*lab.Rack).HeightU = v.(int)
			}
		},
		show: func(_ *lab.Lab, b box) string { return fmt.Sprintf("%dU", b.(*lab.Rack).HeightU) }}
}

// takes is written only where a device's own units do not say it already.
func takes[R any](of scope, at func(*R) **int) fact {
	show := func(_ *lab.Lab, b box) string {
		if n := *at(b.(*R)); n != nil {
			return fmt.Sprintf("%dU", *n)
		}
		return ""
	}
	return fact{of: of, name: "units it takes", field: "takes_u", words: []string{"takes", "taking"}, example: "takes 3U", read: readUnits,
		number: counted(at),
		set:    func(b box, v any) { *at(b.(*R)) = wholeOf(v) },
		show:   show,
		write: func(l *lab.Lab, b box) string {
			d, isDevice := b.(*lab.Device)
			if isDevice && d.At != nil && d.At.Where == lab.InUnits {
				return ""
			}
			if s := show(l, b); s != "" {
				return "takes " + s
			}
			return ""
		}}
}

// written is a fact in a person's own words, written the way given.
func written[R any](of scope, name, jsonField string, words []string, example string, at func(*R) *string, write func(string) string) fact {
	return fact{of: of, name: name, field: jsonField, words: words, example: example, typedWhole: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			switch {
			case len(tokens) == 0:
				return nil, fmt.Errorf("say what, such as %s", example)
			case len(tokens) == 1 && tokens[0].Kind == text.Unknown:
				return nil, nil
			}
			return strings.TrimSpace(text.Joined(tokens)), nil
		},
		set: func(b box, v any) {
			s, _ := v.(string)
			*at(b.(*R)) = s
		},
		show: func(_ *lab.Lab, b box) string { return *at(b.(*R)) },
		write: func(_ *lab.Lab, b box) string {
			s := *at(b.(*R))
			if s == "" {
				return ""
			}
			return words[0] + " " + write(s)
		}}
}

func bareWord(s string) string { return s }

// note is the one fact that a comment at the end of the line can say too.
func note[R any](of scope, at func(*R) *string) fact {
	f := written(of, "notes", "notes", []string{"note", "notes"}, `note "bought second-hand"`, at, text.Quote)
	spoken := f.write
	f.raw = func(b box) string { return *at(b.(*R)) }
	f.write = func(l *lab.Lab, b box) string {
		if isComment(*at(b.(*R))) {
			return ""
		}
		return spoken(l, b)
	}
	return f.optional()
}

// isComment reports whether a note can be written as a comment.
func isComment(s string) bool { return !strings.ContainsAny(s, "\n\t") }

// reference is a fact that names another record.
func reference[R any](of scope, to lab.RecordKind, name, jsonField string, words []string, at func(*R) *lab.ID) fact {
	show := func(l *lab.Lab, b box) string {
		if r := l.Get(lab.Key{Kind: to, ID: *at(b.(*R))}); r != nil {
			return r.Title()
		}
		return ""
	}
	return fact{of: of, name: name, field: jsonField, words: words,
		example: words[0] + map[lab.RecordKind]string{lab.KindPlace: ` "Loft"`, lab.KindSheet: ` "R2"`, lab.KindRun: ` "stairs run"`,
			lab.KindWireless: ` "Quarry"`, lab.KindCircuit: ` "kitchen 4"`, lab.KindTunnel: ` "parents"`,
			lab.KindDataset: ` "choir scores"`, lab.KindTemplate: ` "small"`}[to],
		show: show, typedWhole: true, names: to,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			if len(tokens) == 0 {
				return nil, fmt.Errorf("name the %s in quotes", name)
			}
			return named{to, strings.TrimSpace(text.Joined(tokens))}, nil
		},
		set: func(b box, v any) {
			id, _ := v.(lab.ID)
			*at(b.(*R)) = id
		},
		write: func(l *lab.Lab, b box) string {
			if s := show(l, b); s != "" {
				return words[0] + " " + text.Quote(s)
			}
			return ""
		}}
}

// option is one value of a choice, how it is written ("" where it goes
// without saying) and what else it is read from.
type option[V ~string] struct {
	value V
	write string
	also  []string
}

func (o option[V]) shown() string {
	if o.write == "" && len(o.also) > 0 {
		return o.also[0]
	}
	return o.write
}

func choice[R any, V ~string](of scope, name, jsonField string, at func(*R) *V, options []option[V]) fact {
	byPhrase := map[string]V{}
	f := fact{of: of, name: name, field: jsonField}
	for _, o := range options {
		for _, phrase := range append([]string{o.write}, o.also...) {
			if phrase != "" {
				byPhrase[text.Plain(phrase)] = o.value
				f.phrases = append(f.phrases, text.Plain(phrase))
			}
		}
		byPhrase[text.Plain(o.shown())] = o.value
		f.choices = append(f.choices, o.shown())
	}
	f.example = options[len(options)-1].write
	f.read = func(tokens []text.Token, _ bool) (any, error) {
		v, ok := byPhrase[text.Plainly(tokens)]
		if !ok && text.IsUnknown(tokens) {
			return nil, nil
		}
		if !ok {
			return nil, fmt.Errorf("“%s” is not a %s; write %s", text.Short(text.Joined(tokens)), name, strings.Join(f.phrases, ", "))
		}
		return v, nil
	}
	f.set = func(b box, v any) {
		value, ok := v.(V)
		if !ok && options[0].write == "" {
			value = options[0].value // the default
		}
		*at(b.(*R)) = value
	}
	f.show = func(_ *lab.Lab, b box) string {
		for _, o := range options {
			if o.value == *at(b.(*R)) {
				return o.shown()
			}
		}
		return ""
	}
	f.write = func(_ *lab.Lab, b box) string {
		for _, o := range options {
			if o.value == *at(b.(*R)) {
				return o.write
			}
		}
		return ""
	}
	return f
}

// oneWord is a choice whose values are words that stand for themselves; word
// goes before them in a line, where they would not be understood alone.
func oneWord[R any, V ~string](of scope, name, jsonField, word string, at func(*R) *V, values []V) fact {
	var options []option[V]
	for _, v := range values {
		o := option[V]{value: v, write: string(v)}
		if word != "" {
			o.write, o.also = word+" "+string(v), []string{string(v)}
		}
		options = append(options, o)
	}
	f := choice(of, name, jsonField, at, options)
	f.choices = nil
	for _, v := range values {
		f.choices = append(f.choices, string(v))
	}
	if word != "" {
		f.phrases = nil
		for _, v := range values {
			f.phrases = append(f.phrases, text.Plain(word+" "+string(v)))
		}
	}
	f.show = func(_ *lab.Lab, b box) string { return string(*at(b.(*R))) }
	return f
}

var errCount = errors.New("begin with how many there are, such as 24")

// readEach reads entries between commas; nil, and no error, where none is known.
func readEach[T any](tokens []text.Token, read func([]text.Token) (T, error)) ([]T, error) {
	if text.IsUnknown(tokens) {
		return nil, nil
	}
	var list []T
	for phrase := range text.Cut(tokens) {
		is, err := read(phrase)
		if err != nil {
			return nil, err
		}
		list = append(list, is)
	}
	return list, nil
}

// addEach puts entries, a []T, into a list: each takes the place of the one that merged
// says it is about, as what merged makes of both. Where none is known the list is empty.
func addEach[T any](list *[]T, v any, merged func(was, is T) (T, bool)) {
	more, _ := v.([]T)
	if more == nil {
		*list = nil
		return
	}
	all := slices.Clone(*list)
	for _, is := range more {
		known := false
		for i := range all {
			if both, same := merged(all[i], is); same {
				all[i], known = both, true
				break
			}
		}
		if !known {
			all = append(all, is)
		}
	}
	*list = all
}
