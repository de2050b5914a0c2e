package rundown

import (
	"reflect"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// fact is one thing that can be said of a record: how it is read from a
// phrase between two commas, and how it is written back. The table of facts
// is all the rundown, the card, the tables and the files know about records'
// fields; a new fact is a line in it.
type fact struct {
	of      scope
	name    string   // what a person calls it
	field   string   // the JSON field
	group   Group    // what it is listed under
	words   []string // each says that a phrase is about this fact
	phrases []string // whole phrases that are this fact by themselves
	example string
	choices []string // all that it can be, where that is a list
	// bare reports whether a quantity without a word is this fact.
	bare func(text.Quantity) bool
	// matches reports whether a phrase is this fact by its shape.
	matches func([]text.Token) bool
	// read takes the phrase without the fact's word; lax as for quantity.in.
	read func(tokens []text.Token, lax bool) (value any, err error)
	// set puts the value into a record; nil makes it unknown.
	set func(box, any)
	// show is the value as one types it into a field of its own, "" while it
	// is unknown.
	show func(*lab.Lab, box) string
	// pattern is how a line says it, with the value for %s. Without one, the
	// value speaks for itself.
	pattern string
	// write is the phrase that reads back to what the record has, "" for
	// what is unknown or not worth saying. Made from show and pattern where
	// there is nothing special about it.
	write func(*lab.Lab, box) string
	// raw is what a note says, where write may leave it to a comment.
	raw func(box) string
	// many: it is a list, and each phrase adds to it.
	many bool
	// adds: a line by itself adds to the list that there is.
	adds bool
	// texts is the list, where each entry is a phrase by itself.
	texts func(box) []string
	// number is the value to sort and reckon with, in the base unit, and
	// measured what it is counted in.
	number   func(box) *float64
	measured text.Dimension
	// typedWhole: the field takes whatever is typed, commas and all.
	typedWhole bool
	// names is the kind of record it names, "" where it names none.
	names lab.RecordKind
	// usual is what holds unless something else is said.
	usual string
	// maybe: there need not be one, so that nothing is missing where there is none.
	maybe bool
	// apart: what it says makes a record of its own, so that it is no field of this one.
	apart bool
	// goesOn: it is a list that phrases behind it go on in, where they say nothing else.
	goesOn bool
	// head: it stands in what a line begins with, not among its phrases.
	head bool
	// takes tells how many of the tokens that come next in what a line begins with
	// are this fact; one where it is not said.
	takes func([]text.Token) int
	// file is what a column of a file calls it, where that is not its field.
	file string
	// needed is what is said to who would make it unknown, "" where it may be.
	needed string
}

// Group is what facts are listed under.
type Group string

// The groups, in the order they are listed in.
const (
	Basics   Group = "basics"
	Measures Group = "measures"
	Within   Group = "inside"
	Ports    Group = "ports"
	PowerUse Group = "power"
	WaysIn   Group = "ways in"
	Cost     Group = "money"
	Make     Group = "make"
	Hidden   Group = "private"
)

// scope is what facts can be said of: a kind of record, for parts with their
// sort.
type scope string

func partScope(k lab.PartKind) scope { return scope(lab.KindPart) + "/" + scope(k) }

func scopeOf(r lab.Record) scope {
	if p, ok := r.(lab.Part); ok {
		return partScope(p.Kind)
	}
	if d, ok := r.(lab.Device); ok && d.IsGuest() {
		return ofGuest
	}
	return scope(r.Key().Kind)
}

// box is a pointer to a copy of a record, which facts read and set.
type box any

func open(r lab.Record) box {
	p := reflect.New(reflect.TypeOf(r))
	p.Elem().Set(reflect.ValueOf(r))
	return p.Interface()
}

func closed(b box) lab.Record { return reflect.ValueOf(b).Elem().Interface().(lab.Record) }

// say is the phrase for what the record has.
func (f *fact) say(l *lab.Lab, b box) string {
	if f.texts != nil {
		return remarkPhrases(b, f.texts(b))
	}
	if f.write != nil {
		return f.write(l, b)
	}
	v := f.show(l, b)
	if v == "" || f.pattern == "" {
		return v
	}
	return strings.Replace(f.pattern, "%s", v, 1)
}

var facts = withGuests(slices.Concat([]fact{
	written(scope(lab.KindLab), "currency", "currency", []string{"currency", "money"}, "currency GBP", func(s *lab.Settings) *string {
		return &s.Currency
	}, bareWord),
	measure(scope(lab.KindLab), "mains voltage", "mains_v", text.Volts, []string{"mains"}, "mains 230V", "mains %s",
		func(s *lab.Settings) **float64 {
			return &s.MainsV
		}).barely(isIn(text.Volts)),
	choice(scope(lab.KindLab), "unit numbering", "unit_numbering", func(s *lab.Settings) *lab.Numbering {
		return &s.Numbering
	}, []option[lab.Numbering]{
		{lab.FromBottom, "", []string{"units from the bottom", "units from bottom", "numbered from the bottom", "numbered from bottom"}},
		{lab.FromTop, "units from the top", []string{"units from top", "numbered from the top", "numbered from top"}},
	}),

	reference(scope(lab.KindPlace), lab.KindPlace, "place", "place_id", []string{"in"}, func(p *lab.Place) *lab.ID { return &p.In }),
	remarks(scope(lab.KindPlace), func(p *lab.Place) *[]string { return &p.Remarks }),
	note(scope(lab.KindPlace), func(p *lab.Place) *string { return &p.Notes }),

	rackUnits(),
	choice(scope(lab.KindRack), "width standard", "form", func(r *lab.Rack) *lab.RackForm { return &r.Form }, []option[lab.RackForm]{
		{lab.Rack19, "19in", []string{"19 inch", "19 in", "19inch", `19"`, "19in wide", "19 inch wide", "nineteen inch"}},
		{lab.Rack10, "10in", []string{"10 inch", "10 in", "10inch", `10"`, "10in wide", "10 inch wide", "ten inch"}},
		{lab.RackOwn, "own measures", []string{"own width"}},
	}),
	measure(scope(lab.KindRack), "face", "face_mm", text.Length, []string{"face"}, "face 560mm", "face %s", func(r *lab.Rack) **float64 {
		return &r.FaceMM
	}).optional(),
	measure(scope(lab.KindRack), "opening", "opening_mm", text.Length, []string{"opening"}, "opening 500mm", "opening %s",
		func(r *lab.Rack) **float64 {
			return &r.OpeningMM
		}).optional(),
	measure(scope(lab.KindRack), "depth", "depth_mm", text.Length, []string{"deep", "depth"}, "800mm deep", "%s deep",
		func(r *lab.Rack) **float64 {
			return &r.DepthMM
		}),
	measure(scope(lab.KindRack), "room behind the door", "door_mm", text.Length, []string{"door"}, "door 40mm", "door %s",
		func(r *lab.Rack) **float64 {
			return &r.DoorMM
		}),
	measure(scope(lab.KindRack), "load it may carry", "holds_kg", text.Mass, []string{"holds", "carries", "rated", "good for"},
		"holds 300kg", "holds %s",
		func(r *lab.Rack) **float64 {
			return &r.HoldsKG
		}).barely(isIn(text.Mass)), // what it weighs itself is nothing that is written down
	measure(scope(lab.KindRack), "load it may carry moving", "moving_kg", text.Mass, []string{"moving", "rolling"}, "150kg moving",
		"%s moving",
		func(r *lab.Rack) **float64 {
			return &r.MovingKG
		}).optional(),
	choice(scope(lab.KindRack), "stance", "stance", func(r *lab.Rack) *lab.Stance { return &r.Stance }, []option[lab.Stance]{
		{lab.Standing, "standing", []string{"on feet", "on the floor"}},
		{lab.OnCastors, "on castors", []string{"castors", "on casters", "casters", "on wheels", "wheels"}},
		{lab.OnWall, "on a wall", []string{"wall", "on the wall", "on wall"}},
	}),
	reference(scope(lab.KindRack), lab.KindPlace, "place", "place_id", []string{"in"}, func(r *lab.Rack) *lab.ID { return &r.Place }),
	remarks(scope(lab.KindRack), func(r *lab.Rack) *[]string { return &r.Remarks }),
	note(scope(lab.KindRack), func(r *lab.Rack) *string { return &r.Notes }),

	kindFact(scope(lab.KindSheet), func(s *lab.SpecSheet) *lab.DeviceKind { return &s.Kind }).inPhrases(),
	note(scope(lab.KindSheet), func(s *lab.SpecSheet) *string { return &s.Notes }),

	kindFact(scope(lab.KindDevice), func(d *lab.Device) *lab.DeviceKind { return &d.Kind }),
	ownKindFact(),
	alsoFact(),
	spotFact(),

	choice(scope(lab.KindDevice), "state", "state", func(d *lab.Device) *lab.State { return &d.State }, stateOptions),
	reference(scope(lab.KindDevice), lab.KindSheet, "spec sheet", "sheet_id", []string{"sheet"}, func(d *lab.Device) *lab.ID {
		return &d.Sheet
	}),

	note(scope(lab.KindDraft), func(d *lab.Draft) *string { return &d.Notes }),
	stepPrice(),
	written(scope(lab.KindStep), "note", "note", []string{"note"}, `note "waits for the post"`, func(s *lab.Step) *string {
		return &s.Note
	}, text.Quote),
},
	specFacts(scope(lab.KindSheet), func(s *lab.SpecSheet) *lab.Spec { return &s.Spec }),
	specFacts(scope(lab.KindDevice), func(d *lab.Device) *lab.Spec { return &d.Spec }),
	ratingFacts(scope(lab.KindSheet), func(s *lab.SpecSheet) *lab.Spec { return &s.Spec }),
	ratingFacts(scope(lab.KindDevice), func(d *lab.Device) *lab.Spec { return &d.Spec }),
	powerFacts(),
	batteryFacts(),
	[]fact{
		written(scope(lab.KindDevice), "what it is for", "purpose", []string{"for"}, `for "the big disks"`, func(d *lab.Device) *string {
			return &d.Purpose
		}, text.Quote),
		written(scope(lab.KindDevice), "why it was bought", "why", []string{"because"}, `because "it takes eight drives"`,
			func(d *lab.Device) *string {
				return &d.Why
			}, text.Quote).optional(),
	},
	wayFacts(),
	moneyFacts(scope(lab.KindDevice), func(d *lab.Device) *lab.Money { return &d.Money }),
	[]fact{remarks(scope(lab.KindDevice), func(d *lab.Device) *[]string { return &d.Remarks }),
		note(scope(lab.KindDevice), func(d *lab.Device) *string { return &d.Notes })},
	partFacts(),
	cableFacts(),
	netFacts(),
	addressFacts(),
	nameFacts(),
	routingFacts(),
	outsideFacts(),
	ruleFacts(),
	storageFacts(),
	serviceFacts(),
	needFacts(),
))

var stateOptions = []option[lab.State]{
	{lab.Running, "", []string{"running", "in use", "on"}},
	{lab.Resting, "resting", []string{"off", "switched off", "stopped", "shut down"}},
	{lab.Waiting, "waiting", []string{"not set up", "not set up yet"}},
	{lab.Spare, "spare", nil},
	{lab.Faulty, "faulty", []string{"broken", "dead"}},
	{lab.Leaving, "leaving", []string{"sold", "going back"}},
}

// factIndex finds the facts of one scope.
type factIndex struct {
	heads          []*fact // what a line begins with
	list           []*fact // in the order they are written in
	word, byPhrase map[string]*fact
	byField        map[string]*fact
	shaped         []*fact
	bare           []*fact
}

var indexes = func() map[scope]factIndex {
	all := map[scope]factIndex{}
	for i := range facts {
		index(all, &facts[i])
	}
	for of, ix := range all {
		if name := nameField(of); name != "" && ix.byField[name] == nil {
			f := nameFact(of, name)
			index(all, &f)
		}
	}
	return all
}()

// nameField is the field of the name of what a scope is about.
func nameField(of scope) string {
	kind, _, _ := strings.Cut(string(of), "/")
	k, _ := lab.KindOf(lab.RecordKind(kind))
	return k.Name
}

func index(all map[scope]factIndex, f *fact) {
	ix, ok := all[f.of]
	if !ok {
		ix = factIndex{word: map[string]*fact{}, byPhrase: map[string]*fact{}, byField: map[string]*fact{}}
	}
	ix.byField[f.field] = f
	if f.head && f.field == nameField(f.of) {
		ix.heads = append([]*fact{f}, ix.heads...)
	} else if f.head {
		ix.heads = append(ix.heads, f)
	}
	if f.head {
		all[f.of] = ix
		return
	}
	ix.list = append(ix.list, f)
	for _, w := range f.words {
		ix.word[w] = f
	}
	for _, p := range f.phrases {
		ix.byPhrase[p] = f
	}
	if f.matches != nil {
		ix.shaped = append(ix.shaped, f)
	}
	if f.bare != nil {
		ix.bare = append(ix.bare, f)
	}
	all[f.of] = ix
}

// factsOf lists the facts that the phrases of a line can say.
func factsOf(s scope) []*fact { return indexes[s].list }

func isIn(d text.Dimension) func(text.Quantity) bool {
	return func(q text.Quantity) bool { _, ok := d.Units[q.Unit]; return ok }
}
