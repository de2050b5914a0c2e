package rundown

import (
	"cmp"
	"fmt"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Options say how a text counts against the lab it is loaded into.
type Options struct {
	// NewID makes the ids of new records; later ones sort after earlier ones.
	NewID func() lab.ID
	// All: the text speaks of the whole lab, so what it does not name is
	// removed. Otherwise it only adds and changes.
	All bool
	// Forget: a fact that the text could have and has not is made unknown.
	// Otherwise what the text does not say stays as it is.
	Forget bool
	// Rack is where a spot counts that stands under no rack line.
	Rack lab.ID
}

// Plan is what loading a text would do.
type Plan struct {
	Lab      *lab.Lab       // the lab with the text loaded, but for the mistakes
	Changes  []lab.Change   // what leads there
	Mistakes []text.Mistake // in the order of the lines
	Lines    map[int][]lab.Key
}

// Load works out what a text that was read would change in a lab. Records are
// told again by their names, those without one or with a new one by where
// they are. While there is a mistake nothing is removed: the line that could
// not be read may have spoken of it.
func Load(base *lab.Lab, doc Document, opt Options) Plan {
	was, strands := base, strandsOf(doc.things)
	if opt.All {
		var err error
		if base, err = withoutCables(base); err != nil {
			base = was // it does not come to that: they are all as the lab has them
		}
	}
	ld := newLoader(base, opt, doc.size)
	ld.mistakes = slices.Clone(doc.Mistakes)
	for _, m := range doc.Mistakes {
		ld.misread[place{m.File, m.Line}] = true
	}
	ld.sections(doc.things)
	ld.next = ld.outline()
	ld.devices(doc.things)
	ld.parts(doc.things)
	ld.removals()
	p := ld.settle()
	if len(strands) > 0 || opt.All && base != was {
		p = p.cables(was, strands, opt)
	}
	slices.SortStableFunc(p.Mistakes, func(a, b text.Mistake) int {
		return cmp.Or(cmp.Compare(a.File, b.File), a.Line-b.Line, a.Column-b.Column)
	})
	return p
}

func newLoader(base *lab.Lab, opt Options, n int) *loader {
	return &loader{base: base, opt: opt, next: base, lines: make(map[lab.Key]*thing, n), ids: make(map[*thing]lab.ID, n), used: make(map[lab.ID]bool, n),
		after: make(map[lab.Key]lab.Record, n), inHold: map[lab.Spot]int{}, misread: map[place]bool{}, seated: map[*thing][]lab.Key{}}
}

// Join puts texts one after another, as if they were one file.
func Join(docs ...Document) Document {
	var all Document
	for _, d := range docs {
		all.things = append(all.things, d.things...)
		all.Mistakes = append(all.Mistakes, d.Mistakes...)
		all.size += d.size
	}
	return all
}

type loader struct {
	base     *lab.Lab
	next     *lab.Lab // base with the text's places and racks
	opt      Options
	mistakes []text.Mistake
	ids      map[*thing]lab.ID
	used     map[lab.ID]bool // records the text speaks of
	order    []lab.Key       // of what is put, in the text's order
	after    map[lab.Key]lab.Record
	lines    map[lab.Key]*thing
	removed  []lab.Key
	inHold   map[lab.Spot]int     // the last order given in each row of things
	misread  map[place]bool       // lines that could not be read in part
	seated   map[*thing][]lab.Key // the parts that a line speaks of
}

// place is a line of a file.
type place struct {
	file string
	line int
}

func (ld *loader) wrong(t *thing, col, end int, format string, args ...any) {
	m := text.Mistake{File: t.file, Line: t.line, Column: col, EndColumn: end, Say: fmt.Sprintf(format, args...)}
	if n := len(ld.mistakes); n > 0 && ld.mistakes[n-1] == m {
		return // a line of many cables says it once
	}
	ld.mistakes = append(ld.mistakes, m)
}

func (ld *loader) put(t *thing, r lab.Record) {
	key := r.Key()
	if _, twice := ld.after[key]; !twice {
		ld.order = append(ld.order, key)
	}
	ld.after[key] = r
	ld.lines[key] = t
	ld.ids[t] = key.ID
	ld.used[key.ID] = true
}

// sections takes the lab's settings, then the places, then the racks.
func (ld *loader) sections(things []*thing) {
	for _, t := range things {
		if t.kind == lab.KindLab && !t.broken {
			s := ld.base.Settings()
			if t.name != "" {
				s.Name = t.name
			}
			ld.put(t, ld.apply(t, s))
		}
	}
	for _, kind := range []lab.RecordKind{lab.KindPlace, lab.KindRack, lab.KindSheet, lab.KindRun} {
		ld.matchSections(kind, things)
	}
}

// matchSections finds the places or racks of a text in the lab by name. If
// just one is missing and just one is new, the one was renamed to the other.
func (ld *loader) matchSections(kind lab.RecordKind, things []*thing) {
	var fresh []*thing
	for _, t := range things {
		if t.kind != kind || t.broken {
			continue
		}
		if t.name == "" {
			t.broken = true
			ld.wrong(t, t.col, t.end, "say what the %s is called, such as %s %q", kind, kind, "Pantry")
			continue
		}
		if id, ok := ld.base.Named(kind, t.name); ok && !ld.used[id] {
			ld.section(t, ld.base.Get(lab.Key{Kind: kind, ID: id}))
		} else {
			fresh = append(fresh, t)
		}
	}
	var missing []lab.Record
	for r := range ld.base.Records(kind) {
		if !ld.used[r.Key().ID] {
			missing = append(missing, r)
		}
	}
	if ld.opt.All && len(fresh) == 1 && len(missing) == 1 {
		ld.section(fresh[0], missing[0])
		return
	}
	for _, t := range fresh {
		ld.section(t, lab.Blank(kind, ld.opt.NewID()))
	}
}

func (ld *loader) section(t *thing, r lab.Record) {
	r, _ = lab.Renamed(r, t.name)
	if s, ok := r.(lab.SpecSheet); ok && t.device != "" {
		s.Kind = t.device
		r = s
	} else if ok && s.Kind == "" {
		s.Kind = lab.Other
		r = s
	}
	ld.put(t, ld.apply(t, r))
}

// apply puts the facts that a line says into a record.
func (ld *loader) apply(t *thing, r lab.Record) lab.Record {
	if len(t.said) == 0 && !ld.opt.Forget {
		return r
	}
	b := open(r)
	given := map[string]bool{}
	for _, s := range t.said {
		if given[s.fact.field] && !s.fact.many {
			ld.wrong(t, s.col, s.end, "the %s is said twice", s.fact.name)
			continue
		}
		if s.fact.many && !given[s.fact.field] {
			s.fact.set(b, nil)
		}
		given[s.fact.field] = true
	}
	if ld.opt.Forget {
		for _, f := range factsOf(t.scope()) {
			if !given[f.field] && f.field != "takes_u" {
				f.set(b, nil)
			}
		}
	}
	done := map[string]bool{}
	for _, s := range t.said {
		if done[s.fact.field] && !s.fact.many {
			continue
		}
		done[s.fact.field] = true
		value, err := ld.valueOf(s.value)
		if err != nil {
			ld.wrong(t, s.col, s.end, "%s", err)
			continue
		}
		s.fact.set(b, value)
	}
	return closed(b)
}

// valueOf looks up the record that a fact names and works out money.
func (ld *loader) valueOf(v any) (any, error) {
	if n, ok := v.(named); ok {
		id, found := ld.recordNamed(n)
		if !found {
			return nil, fmt.Errorf("%w; a line such as %s %q makes it", noneCalled(ld.base, n.kind, n.name), sectionWord(n.kind), n.name)
		}
		return id, nil
	}
	currency := ld.base.Settings().Currency
	if s, ok := ld.after[lab.Key{Kind: lab.KindLab, ID: lab.SettingsID}].(lab.Settings); ok {
		currency = s.Currency
	}
	return worth(v, currency)
}

// recordNamed finds a place or sheet of the text, also one further down, or of
// the lab.
func (ld *loader) recordNamed(n named) (lab.ID, bool) {
	for _, key := range ld.order {
		if r := ld.after[key]; r != nil && key.Kind == n.kind && lab.FoldName(lab.OwnName(r)) == lab.FoldName(n.name) {
			return key.ID, true
		}
	}
	return ld.base.Named(n.kind, n.name)
}

// outline is the lab's settings, places and racks as they will be, without
// any devices: what names, heights and numbering are looked up in. What would
// be refused is left out here and told by settle.
func (ld *loader) outline() *lab.Lab {
	var changes []lab.Change
	put := func(r lab.Record) {
		if c, ok := lab.New().Put(r); ok {
			changes = append(changes, c)
		}
	}
	for _, kind := range sections {
		for r := range ld.base.Records(kind) {
			if !ld.used[r.Key().ID] {
				put(r)
			}
		}
	}
	for _, key := range ld.order {
		put(ld.after[key])
	}
	for len(changes) > 0 {
		next, err := lab.New().Apply(changes)
		refusal, refused := err.(*lab.Refusal)
		if !refused {
			return next
		}
		changes = slices.DeleteFunc(changes, func(c lab.Change) bool {
			return slices.ContainsFunc(refusal.Faults, func(f lab.Fault) bool { return f.Key == c.Key() })
		})
	}
	return lab.New()
}

// removals are the records the text does not speak of, if it speaks of all.
// Plans and notes are nothing a rundown speaks of.
func (ld *loader) removals() {
	if !ld.opt.All || len(ld.mistakes) > 0 {
		return
	}
	for _, kind := range slices.Backward(lab.Kinds()) {
		for r := range ld.base.Records(kind.RecordKind) {
			if key := r.Key(); key.Kind != lab.KindLab && kind.Built && !ld.used[key.ID] && !ld.stays(r) {
				ld.removed = append(ld.removed, key)
			}
		}
	}
}

// stays reports whether a photo is of something the text speaks of.
func (ld *loader) stays(r lab.Record) bool {
	p, ok := r.(lab.Photo)
	return ok && ld.used[p.Device]
}

// changes are what is left to do, in the text's order.
func (ld *loader) changes() []lab.Change {
	var list []lab.Change
	for _, key := range ld.order {
		if r := ld.after[key]; r != nil {
			if c, ok := ld.base.Put(r); ok {
				list = append(list, c)
			}
		}
	}
	for _, key := range ld.removed {
		if c, ok := ld.base.Remove(key); ok {
			list = append(list, c)
		}
	}
	return list
}

// settle applies the changes. What Apply refuses becomes a mistake of the line
// that asked for it; that line, and what stands on it, is left out.
func (ld *loader) settle() Plan {
	const rounds = 20 // each leaves at least one line out; texts settle in two or three
	for range rounds {
		changes := ld.changes()
		next, err := ld.base.Apply(changes)
		if err == nil {
			return ld.plan(next, changes)
		}
		refusal, ok := err.(*lab.Refusal)
		if !ok {
			ld.mistakes = append(ld.mistakes, text.Mistake{Line: 1, Column: 1, EndColumn: 2, Say: err.Error()})
			break
		}
		for _, f := range refusal.Faults {
			ld.refused(f)
		}
		ld.removed = nil
	}
	return ld.plan(ld.base, nil)
}

func (ld *loader) refused(f lab.Fault) {
	t := ld.lines[f.Key]
	if t == nil {
		ld.mistakes = append(ld.mistakes, text.Mistake{Line: 1, Column: 1, EndColumn: 2, Say: f.Title + ": " + f.Say})
		return
	}
	if t.kind == lab.KindCable && ld.after[f.Key] == nil {
		return // another cable of the line was refused, and so the line
	}
	col, end := t.col, t.end
	for _, s := range t.said {
		if s.fact.field == f.Field {
			col, end = s.col, s.end
		}
	}
	if !ld.misread[place{t.file, t.line}] { // or else this may follow from that mistake
		ld.wrong(t, col, end, "%s", faultWords(f))
	}
	ld.leaveOut(t)
}

// faultWords puts the fact's name before a sentence that does not name it.
func faultWords(f lab.Fault) string {
	if f.Field == "at.unit" || f.Field == "at.device_id" || f.Field == "seat" || f.Field == "a.port" || f.Field == "b.port" || f.Field == "b" {
		return f.Say
	}
	if known, ok := indexes[scope(f.Key.Kind)].byField[f.Field]; ok {
		return known.name + ": " + f.Say
	}
	return f.Field + ": " + f.Say
}

func (ld *loader) leaveOut(t *thing) {
	if id, ok := ld.ids[t]; ok {
		ld.after[lab.Key{Kind: t.kind, ID: id}] = nil
	}
	for _, part := range ld.seated[t] {
		ld.after[part] = nil
	}
	for _, w := range t.within {
		ld.leaveOut(w)
	}
}

func (ld *loader) plan(next *lab.Lab, changes []lab.Change) Plan {
	p := Plan{Lab: next, Changes: changes, Mistakes: ld.mistakes, Lines: map[int][]lab.Key{}}
	for _, key := range ld.order {
		if t := ld.lines[key]; t != nil && next.Get(key) != nil {
			p.Lines[t.line] = append(p.Lines[t.line], key)
		}
	}
	return p
}
