package rundown

import (
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
)

// fact is one thing that can be said of a record: how it is read from a
// phrase between two commas, and how it is written back. The table of facts
// is all the rundown knows about records' fields.
type fact struct {
	of      lab.RecordKind
	name    string   // what a person calls it
	field   string   // the JSON field
	words   []string // each says that a phrase is about this fact
	phrases []string // whole phrases that are this fact by themselves
	example string
	// bare reports whether a quantity without a word is this fact.
	bare func(quantity) bool
	// read takes the phrase without the fact's word; lax as for quantity.in.
	read func(tokens []token, lax bool) (value any, err error)
	// set puts the value into a copy of the record; nil makes it unknown.
	set func(lab.Record, any) lab.Record
	// write is the phrase that reads back to what the record has, "" for
	// what is unknown or not worth saying.
	write func(lab.Record) string
	// raw is what a note says, where write may leave it to a comment.
	raw func(lab.Record) string
}

var facts = []fact{
	text(lab.KindLab, "currency", "currency", []string{"currency", "money"}, "currency GBP", func(s *lab.Settings) *string { return &s.Currency }, bareWord),
	measure(lab.KindLab, "mains voltage", "mains_v", volts, []string{"mains"}, "mains 230V", "mains %s", func(s *lab.Settings) **float64 { return &s.MainsV }, voltText, isIn(volts)),
	choice(lab.KindLab, "unit numbering", "unit_numbering", func(s *lab.Settings) *lab.Numbering { return &s.Numbering }, []option[lab.Numbering]{
		{lab.FromBottom, "", []string{"units from the bottom", "units from bottom", "numbered from the bottom", "numbered from bottom"}},
		{lab.FromTop, "units from the top", []string{"units from top", "numbered from the top", "numbered from top"}},
	}),

	reference(lab.KindPlace, "place", "place_id", func(p *lab.Place) *lab.ID { return &p.In }),
	note(lab.KindPlace, func(p *lab.Place) *string { return &p.Notes }),

	rackUnits(),
	choice(lab.KindRack, "width standard", "form", func(r *lab.Rack) *lab.RackForm { return &r.Form }, []option[lab.RackForm]{
		{lab.Rack19, "19in", []string{"19 inch", "19 in", "19inch", `19"`, "19in wide", "19 inch wide"}},
		{lab.Rack10, "10in", []string{"10 inch", "10 in", "10inch", `10"`, "10in wide", "10 inch wide"}},
		{lab.RackOwn, "own measures", []string{"own width"}},
	}),
	measure(lab.KindRack, "face", "face_mm", length, []string{"face"}, "face 560mm", "face %s", func(r *lab.Rack) **float64 { return &r.FaceMM }, mmText, nil),
	measure(lab.KindRack, "opening", "opening_mm", length, []string{"opening"}, "opening 500mm", "opening %s", func(r *lab.Rack) **float64 { return &r.OpeningMM }, mmText, nil),
	measure(lab.KindRack, "depth", "depth_mm", length, []string{"deep", "depth"}, "800mm deep", "%s deep", func(r *lab.Rack) **float64 { return &r.DepthMM }, mmText, nil),
	measure(lab.KindRack, "load it may carry", "holds_kg", mass, []string{"holds", "carries"}, "holds 300kg", "holds %s", func(r *lab.Rack) **float64 { return &r.HoldsKG }, kgText, nil),
	choice(lab.KindRack, "stance", "stance", func(r *lab.Rack) *lab.Stance { return &r.Stance }, []option[lab.Stance]{
		{lab.Standing, "standing", []string{"on feet", "on the floor"}},
		{lab.OnCastors, "on castors", []string{"castors", "on casters", "on wheels", "wheels"}},
		{lab.OnWall, "on a wall", []string{"wall", "on the wall", "on wall"}},
	}),
	reference(lab.KindRack, "place", "place_id", func(r *lab.Rack) *lab.ID { return &r.Place }),
	note(lab.KindRack, func(r *lab.Rack) *string { return &r.Notes }),

	choice(lab.KindDevice, "state", "state", func(d *lab.Device) *lab.State { return &d.State }, []option[lab.State]{
		{lab.Running, "", []string{"running", "in use", "on"}},
		{lab.Resting, "resting", []string{"off", "switched off"}},
		{lab.Waiting, "waiting", []string{"not set up", "not set up yet"}},
		{lab.Spare, "spare", nil},
		{lab.Faulty, "faulty", []string{"broken", "dead"}},
		{lab.Leaving, "leaving", []string{"sold", "going back"}},
	}),
	takes(),
	measure(lab.KindDevice, "height", "height_mm", length, []string{"high", "height", "tall"}, "2U high", "%s high", func(d *lab.Device) **float64 { return &d.HeightMM }, heightText, isIn(units)),
	measure(lab.KindDevice, "width", "width_mm", length, []string{"wide", "width"}, "440mm wide", "%s wide", func(d *lab.Device) **float64 { return &d.WidthMM }, mmText, nil),
	measure(lab.KindDevice, "depth", "depth_mm", length, []string{"deep", "depth", "long"}, "320mm deep", "%s deep", func(d *lab.Device) **float64 { return &d.DepthMM }, mmText, nil),
	measure(lab.KindDevice, "weight", "weight_kg", mass, []string{"weighs", "weight", "heavy"}, "4.1kg", "%s", func(d *lab.Device) **float64 { return &d.WeightKG }, kgText, isIn(mass)),
	text(lab.KindDevice, "what it is for", "purpose", []string{"for"}, `for "the big disks"`, func(d *lab.Device) *string { return &d.Purpose }, quote),
	note(lab.KindDevice, func(d *lab.Device) *string { return &d.Notes }),

	note(lab.KindDraft, func(d *lab.Draft) *string { return &d.Notes }),
	text(lab.KindStep, "note", "note", []string{"note"}, `note "waits for the post"`, func(s *lab.Step) *string { return &s.Note }, quote),
}

// factIndex finds the facts of one kind of record.
type factIndex struct {
	list           []*fact // in the order they are written in
	word, byPhrase map[string]*fact
}

var indexes = func() map[lab.RecordKind]factIndex {
	all := map[lab.RecordKind]factIndex{}
	for _, kind := range lab.Kinds() {
		ix := factIndex{nil, map[string]*fact{}, map[string]*fact{}}
		for i := range facts {
			if f := &facts[i]; f.of == kind {
				ix.list = append(ix.list, f)
				for _, w := range f.words {
					ix.word[w] = f
				}
				for _, p := range f.phrases {
					ix.byPhrase[p] = f
				}
			}
		}
		all[kind] = ix
	}
	return all
}()

// factsOf lists the facts that can be said of a kind of record.
func factsOf(kind lab.RecordKind) []*fact { return indexes[kind].list }

func isIn(d dimension) func(quantity) bool {
	return func(q quantity) bool { _, ok := d.units[q.unit]; return ok }
}

// field gets at a value inside a copy of a record.
func field[R lab.Record, V any](at func(*R) *V) (get func(lab.Record) V, set func(lab.Record, V) lab.Record) {
	return func(r lab.Record) V { rec := r.(R); return *at(&rec) },
		func(r lab.Record, v V) lab.Record { rec := r.(R); *at(&rec) = v; return rec }
}

// measure is a fact with a quantity; pattern is how it is written.
func measure[R lab.Record](of lab.RecordKind, name, jsonField string, d dimension, words []string, example, pattern string, at func(*R) **float64, write func(float64) string, bare func(quantity) bool) fact {
	get, put := field(at)
	return fact{of: of, name: name, field: jsonField, words: words, example: example, bare: bare,
		read: func(tokens []token, lax bool) (any, error) {
			v, err := readMeasure(tokens, d, lax)
			if v == nil || err != nil {
				return nil, err
			}
			return *v, nil
		},
		set: func(r lab.Record, v any) lab.Record {
			if v == nil {
				return put(r, nil)
			}
			f := v.(float64)
			return put(r, &f)
		},
		write: func(r lab.Record) string {
			if v := get(r); v != nil {
				return fmt.Sprintf(pattern, write(*v))
			}
			return ""
		}}
}

// readMeasure reads a quantity that is all of the phrase, nil for unknown.
func readMeasure(tokens []token, d dimension, lax bool) (*float64, error) {
	if isUnknown(tokens) {
		return nil, nil
	}
	q, n := readQuantity(tokens)
	if n == 0 || n < len(tokens) {
		return nil, fmt.Errorf("“%s” is not %s; write one such as %s, or ? while it is unknown", short(joined(tokens)), d.what, d.example)
	}
	v, err := q.in(d, lax)
	return &v, err
}

func isUnknown(tokens []token) bool {
	return len(tokens) > 0 && (tokens[0].kind == unknown || len(tokens) == 1 && tokens[0].is("unknown"))
}

// wholeUnits is a fact that counts units.
func wholeUnits[R lab.Record](of lab.RecordKind, name, jsonField string, words []string, example string, get func(R) *int, put func(*R, *int), write func(lab.Record) string, bare func(quantity) bool) fact {
	return fact{of: of, name: name, field: jsonField, words: words, example: example, bare: bare, write: write,
		read: func(tokens []token, lax bool) (any, error) {
			v, err := readMeasure(tokens, units, true)
			switch {
			case err != nil:
				return nil, err
			case v == nil:
				return nil, nil
			case *v != float64(int(*v)) || *v > 1e6:
				return nil, fmt.Errorf("units are counted in whole ones, not %s", number(*v))
			}
			return int(*v), nil
		},
		set: func(r lab.Record, v any) lab.Record {
			rec := r.(R)
			if v == nil {
				put(&rec, nil)
			} else {
				n := v.(int)
				put(&rec, &n)
			}
			return rec
		}}
}

func rackUnits() fact {
	return wholeUnits(lab.KindRack, "height", "height_u", []string{"high", "tall", "height"}, "24U",
		func(r lab.Rack) *int { return &r.HeightU },
		func(r *lab.Rack, n *int) {
			if n != nil {
				r.HeightU = *n
			}
		},
		func(r lab.Record) string { return fmt.Sprintf("%dU", r.(lab.Rack).HeightU) }, isIn(units))
}

// takes is written only where the line's own units do not say it already.
func takes() fact {
	return wholeUnits(lab.KindDevice, "units it takes", "takes_u", []string{"takes", "taking"}, "takes 3U",
		func(d lab.Device) *int { return d.TakesU },
		func(d *lab.Device, n *int) { d.TakesU = n },
		func(r lab.Record) string {
			d := r.(lab.Device)
			if d.TakesU == nil || d.At != nil && d.At.Where == lab.InUnits {
				return ""
			}
			return fmt.Sprintf("takes %dU", *d.TakesU)
		}, nil)
}

// text is a fact in a person's own words, written the way given.
func text[R lab.Record](of lab.RecordKind, name, jsonField string, words []string, example string, at func(*R) *string, write func(string) string) fact {
	get, put := field(at)
	return fact{of: of, name: name, field: jsonField, words: words, example: example,
		read: func(tokens []token, _ bool) (any, error) {
			switch {
			case len(tokens) == 0:
				return nil, fmt.Errorf("say what, such as %s", example)
			case len(tokens) == 1 && tokens[0].kind == unknown:
				return nil, nil
			}
			return strings.TrimSpace(joined(tokens)), nil
		},
		set: func(r lab.Record, v any) lab.Record {
			s, _ := v.(string)
			return put(r, s)
		},
		write: func(r lab.Record) string {
			s := get(r)
			if s == "" {
				return ""
			}
			return words[0] + " " + write(s)
		}}
}

func bareWord(s string) string { return s }

// note is the one fact that a comment at the end of the line can say too.
func note[R lab.Record](of lab.RecordKind, at func(*R) *string) fact {
	f := text(of, "notes", "notes", []string{"note", "notes"}, `note "bought second-hand"`, at, quote)
	spoken := f.write
	get, _ := field(at)
	f.raw = get
	f.write = func(r lab.Record) string {
		if isComment(get(r)) {
			return ""
		}
		return spoken(r)
	}
	return f
}

// isComment reports whether a note can be written as a comment.
func isComment(s string) bool { return !strings.ContainsAny(s, "\n\t") }

// placeName is the value of a fact that names a place; Load finds the place.
type placeName string

func reference[R lab.Record](of lab.RecordKind, name, jsonField string, at func(*R) *lab.ID) fact {
	_, put := field(at)
	return fact{of: of, name: name, field: jsonField, words: []string{"in"}, example: `in "Loft"`,
		read: func(tokens []token, _ bool) (any, error) {
			if isUnknown(tokens) {
				return nil, nil
			}
			if len(tokens) == 0 {
				return nil, errors.New(`name the place, such as in "Loft"`)
			}
			return placeName(joined(tokens)), nil
		},
		set: func(r lab.Record, v any) lab.Record {
			id, _ := v.(lab.ID)
			return put(r, id)
		},
		// Print writes it: the name is the lab's to know.
		write: func(lab.Record) string { return "" }}
}

// option is one value of a choice, how it is written ("" where it goes
// without saying) and what else it is read from.
type option[V ~string] struct {
	value V
	write string
	also  []string
}

func choice[R lab.Record, V ~string](of lab.RecordKind, name, jsonField string, at func(*R) *V, options []option[V]) fact {
	get, put := field(at)
	byPhrase := map[string]V{}
	f := fact{of: of, name: name, field: jsonField}
	for _, o := range options {
		for _, phrase := range append(o.also, o.write) {
			if phrase != "" {
				byPhrase[plain(phrase)] = o.value
				f.phrases = append(f.phrases, plain(phrase))
			}
		}
	}
	f.example = options[len(options)-1].write
	f.read = func(tokens []token, _ bool) (any, error) {
		v, ok := byPhrase[plainly(tokens)]
		if !ok && isUnknown(tokens) {
			return nil, nil
		}
		if !ok {
			return nil, fmt.Errorf("“%s” is no %s; write %s", short(joined(tokens)), name, strings.Join(f.phrases, ", "))
		}
		return v, nil
	}
	f.set = func(r lab.Record, v any) lab.Record {
		value, ok := v.(V)
		if !ok && options[0].write == "" {
			value = options[0].value // what goes without saying
		}
		return put(r, value)
	}
	f.write = func(r lab.Record) string {
		for _, o := range options {
			if o.value == get(r) {
				return o.write
			}
		}
		return ""
	}
	return f
}
