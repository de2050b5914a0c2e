package rundown

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"maps"
	"reflect"
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
	Mistakes []text.Mistake // in the order of the lines; the first 1,000
	More     int            // further ones
	Kept     []Kept         // phrases that are kept as remarks, and what else is to be told of what was said
	Clashes  []Clash        // facts that others set too, after Onto
	Lines    map[int][]lab.Key
	folds    folds
}

// Load works out what a text that was read would change in a lab. Records are
// told again by their names, those without one or with a new one by where
// they are. Kinds are loaded one after another in the order of creation, so
// that a line may name what comes further down. While there is a mistake
// nothing is removed: the line that could not be read may have spoken of it.
func Load(base *lab.Lab, doc Document, opt Options) Plan {
	p, _ := LoadContext(context.Background(), base, doc, opt)
	return p
}

// LoadContext is Load for as long as the context lasts. The error is the
// context's, or a *text.Mistake where the text speaks of too many things; nothing
// is to be changed then.
func LoadContext(ctx context.Context, base *lab.Lab, doc Document, opt Options) (Plan, error) {
	if err := ctx.Err(); err != nil {
		return Plan{}, err
	}
	ld := newLoader(ctx, base, opt, doc.size)
	ld.mistakes, ld.more = slices.Clone(doc.Mistakes), doc.more
	for _, m := range doc.Mistakes {
		ld.misread[place{m.File, m.Line}] = true
	}
	ld.sort(ld.meant(doc.things))
	p, err := ld.unlessStopped(func() Plan {
		for _, k := range lab.Kinds() {
			ld.load(k)
			ld.done[k.RecordKind] = true
		}
		ld.late()
		ld.removals()
		return ld.settle()
	})
	p.unfold(doc.folds)
	inOrder(p.Mistakes)
	return p, err
}

// inOrder puts mistakes in the order of the lines.
func inOrder(list []text.Mistake) {
	slices.SortStableFunc(list, func(a, b text.Mistake) int {
		return cmp.Or(cmp.Compare(a.File, b.File), a.Line-b.Line, a.Column-b.Column)
	})
}

func newLoader(ctx context.Context, base *lab.Lab, opt Options, n int) *loader {
	return &loader{ctx: ctx, base: base, opt: opt, now: base, kinds: lineKinds(), lines: make(map[lab.Key]*thing, n),
		ids: make(map[*thing]lab.ID, n), used: make(map[lab.ID]bool, n), after: make(map[lab.Key]lab.Record, n), inHold: map[heldRow]turn{},
		misread: map[place]bool{}, keeps: map[Kept]bool{}, seated: map[*thing][]lab.Key{}, lost: map[string]bool{},
		byKind: map[lab.RecordKind][]*thing{}, given: map[lab.Key]map[string]any{}, layers: map[*thing]lab.Record{},
		done: map[lab.RecordKind]bool{}}
}

// Join puts texts one after another, as if they were one file.
func Join(docs ...Document) Document {
	var all Document
	for _, d := range docs {
		all.things = append(all.things, d.things...)
		all.Mistakes = append(all.Mistakes, d.Mistakes...)
		all.size += d.size
		all.more += d.more
		if all.folds == nil {
			all.folds = folds{}
		}
		maps.Copy(all.folds, d.folds)
	}
	return all
}

type loader struct {
	ctx       context.Context
	steps     int // since the context was last asked
	base      *lab.Lab
	now       *lab.Lab  // base with what was put before this kind, unchecked: what names and numbers are looked up in
	behind    []lab.Key // what was put and is not in now yet
	stale     bool      // now is to catch up when it is next asked for
	opt       Options
	kinds     []lineKind
	mistakes  []text.Mistake
	more      int // mistakes beyond those that are listed
	kept      []Kept
	keeps     map[Kept]bool // the same
	byKind    map[lab.RecordKind][]*thing
	ids       map[*thing]lab.ID
	used      map[lab.ID]bool // records the text speaks of
	order     []lab.Key       // of what is put, in the text's order
	after     map[lab.Key]lab.Record
	lines     map[lab.Key]*thing
	removed   []lab.Key
	displaced []lab.Key                  // what has to go for what is put, mistakes or not
	inHold    map[heldRow]turn           // the last one in each row of things
	misread   map[place]bool             // lines that could not be read in part
	lost      map[string]bool            // folded names of what could not be read
	seated    map[*thing][]lab.Key       // the records of a line that speaks of several
	matching  *matcher                   // of devices, while they are loaded
	given     map[lab.Key]map[string]any // what lines gave for the facts of a record, where several may speak of it
	layers    map[*thing]lab.Record      // of a further line about a record: the record without it
	later     []later                    // facts that name what is loaded later
	marks     []saidOfPorts              // what lines say of single ports
	done      map[lab.RecordKind]bool    // kinds that are loaded
}

// place is a line of a file.
type place struct {
	file string
	line int
}

func (ld *loader) wrong(t *thing, col, end int, err error) {
	if errors.Is(err, errLeftOut) {
		return
	}
	m := text.Mistake{File: t.file, Line: t.line, Column: col, EndColumn: end, Say: err.Error()}
	if n := len(ld.mistakes); n > 0 && ld.mistakes[n-1] == m {
		return // a line of many cables says it once
	}
	ld.mistake(m)
}

func (ld *loader) mistake(m text.Mistake) {
	ld.step()
	if len(ld.mistakes) == maxMistakes {
		ld.more++
		return
	}
	ld.mistakes = append(ld.mistakes, m)
}

// stopped is what ends a load early: it has had its time, or there is too much.
type stopped struct{ err error }

// step is called for whatever takes a moment, and stops a load that has had its
// time.
func (ld *loader) step() {
	const often = 100
	if ld.steps++; ld.steps < often {
		return
	}
	ld.steps = 0
	if err := ld.ctx.Err(); err != nil {
		panic(stopped{err})
	}
}

// unlessStopped does what may call step.
func (ld *loader) unlessStopped(do func() Plan) (p Plan, err error) {
	defer func() {
		switch end := recover().(type) {
		case nil:
		case stopped:
			p, err = Plan{Lab: ld.base}, end.err
			var much *text.Mistake
			if errors.As(err, &much) {
				p.Mistakes = []text.Mistake{*much}
			}
		default:
			panic(end)
		}
	}()
	return do(), nil
}

// put puts down the record that a line speaks of.
func (ld *loader) put(t *thing, r lab.Record) {
	ld.note(t, r)
	ld.ids[t] = r.Key().ID
}

// note puts down one of the records that a line speaks of.
func (ld *loader) note(t *thing, r lab.Record) {
	ld.step()
	key := r.Key()
	if _, twice := ld.after[key]; !twice {
		ld.order = append(ld.order, key)
	}
	if len(ld.order) > maxRecords {
		panic(stopped{&text.Mistake{File: t.file, Line: t.line, Column: t.col, EndColumn: t.end, Say: fmt.Sprintf(
			"up to here the text speaks of more than %d things, the most that are loaded at once; split it", maxRecords)}})
	}
	ld.behind = append(ld.behind, key)
	ld.after[key] = r
	ld.lines[key] = t
	ld.used[key.ID] = true
}

// sort tells the things by kind, those that are within others after them, and
// tells them what they are within.
func (ld *loader) sort(things []*thing) {
	for _, t := range things {
		if t.broken && t.name != "" {
			ld.lost[lab.FoldName(t.name)] = true
		}
		ld.byKind[t.kind] = append(ld.byKind[t.kind], t)
		for _, w := range t.within {
			w.up = t
		}
		ld.sort(t.within)
	}
}

// load finds the records of one kind that the text speaks of.
func (ld *loader) load(k lab.Kind) {
	lines := ld.byKind[k.RecordKind]
	ld.stale = true
	if k.RecordKind == lab.KindSubnet || k.RecordKind == lab.KindWireless {
		ld.vlansMeant(lines)
	}
	switch how := lineKindOf(ld.kinds, k.RecordKind); {
	case how.load != nil:
		how.load(ld, lines)
	case k.Alone:
		ld.alone(k, lines)
	default:
		ld.byName(k, lines)
	}
}

// lab is the lab with what was put before this kind, as far as it goes.
func (ld *loader) lab() *lab.Lab {
	if !ld.stale {
		return ld.now
	}
	var changes []lab.Change
	last := map[lab.Key]bool{}
	for _, key := range slices.Backward(ld.behind) {
		if r := ld.after[key]; r != nil && !last[key] {
			if c, ok := ld.now.Put(r); ok {
				changes = append(changes, c)
			}
		}
		last[key] = true
	}
	if now, err := ld.now.Rewind(changes); err == nil {
		ld.now = now
	}
	ld.behind, ld.stale = nil, false
	return ld.now
}

// setting is what the values that a line says are worked out in.
func (ld *loader) setting(of lab.Record) setting {
	return setting{lab: ld.lab(), of: of, rack: ld.opt.Rack, named: ld.find}
}

// find finds a record by its name, in the text or else in the lab.
func (ld *loader) find(kind lab.RecordKind, name string) (lab.ID, error) {
	var id lab.ID
	var err error
	if kind == lab.KindDevice && ld.matching != nil {
		id, err = ld.matching.find(name)
	} else {
		id, err = findNamed(ld.lab(), kind, name)
	}
	switch word := lineKindOf(ld.kinds, kind).word; {
	case err == nil:
		return id, nil
	case ld.lost[lab.FoldName(name)]:
		return "", errLeftOut
	case word != "" && !isSeveral(err):
		return "", &noneError{func() string { return fmt.Sprintf("%s; a line such as %s %q makes it", err, word, name) }}
	}
	return "", err
}

// alone puts down what is said of the one record of a kind, on one line or several.
func (ld *loader) alone(k lab.Kind, lines []*thing) {
	for _, t := range lines {
		for r := range ld.base.Records(k.RecordKind) {
			if t.broken {
				continue
			}
			was, again := ld.after[r.Key()]
			if again {
				r = was
			}
			if t.name != "" {
				r, _ = lab.Renamed(r, t.name)
			}
			ld.put(t, ld.applyAfter(t, r, ld.givenOf(r.Key()), ld.opt.Forget && !again))
		}
	}
}

// byName finds the records of a kind in the lab by name. If just one is missing
// and just one is new, the one was renamed to the other.
func (ld *loader) byName(k lab.Kind, lines []*thing) {
	var fresh, known []*thing
	records := map[*thing]lab.Record{}
	how := lineKindOf(ld.kinds, k.RecordKind)
	same := how.same
	if same == nil {
		same = func(t *thing) (lab.Unique, bool) { return lab.Unique{Field: "name", Value: t.name}, t.name != "" }
	}
	take := func(t *thing, r lab.Record) {
		if how.same == nil || t.name != "" || ld.opt.Forget {
			r, _ = lab.Renamed(r, t.name)
		}
		records[t] = r
		known = append(known, t)
		ld.put(t, r)
	}
	first, further := map[string]*thing{}, [][2]*thing{}
	of := func(t *thing) string { u, _ := same(t); return lab.FoldName(u.Value) }
	for _, t := range lines {
		if t.broken {
			continue
		}
		u, ok := same(t)
		if !ok {
			t.broken = true
			ld.wrong(t, t.col, t.end, fmt.Errorf("say what the %s is called, such as %s %q", how.word, how.word, "Pantry"))
			continue
		}
		if o := first[of(t)]; o != nil {
			if how.same != nil && ld.named(t, o, how) {
				continue
			}
			further = append(further, [2]*thing{t, o}) // a place or rack that is opened again
			continue
		}
		first[of(t)] = t
		if id, ok := ld.base.Having(k.RecordKind, u); ok && !ld.used[id] {
			take(t, ld.base.Get(lab.Key{Kind: k.RecordKind, ID: id}))
		} else {
			fresh = append(fresh, t)
		}
	}
	var missing []lab.Record
	for r := range ld.base.Records(k.RecordKind) {
		if !ld.used[r.Key().ID] {
			missing = append(missing, r)
		}
	}
	if ld.opt.All && len(fresh) == 1 && len(missing) == 1 {
		take(fresh[0], missing[0])
		fresh = nil
	}
	for _, t := range fresh {
		take(t, lab.Blank(k.RecordKind, ld.opt.NewID()))
	}
	ld.stale = true
	for _, t := range known { // now that all of them have their names
		key := records[t].Key()
		ld.put(t, ld.applyAfter(t, records[t], ld.givenOf(key), ld.opt.Forget))
	}
	for _, f := range further {
		if id, ok := ld.ids[f[1]]; ok {
			ld.again(f[0], lab.Key{Kind: k.RecordKind, ID: id}, nil)
		}
	}
}

// givenOf is what the lines about a record gave for its facts.
func (ld *loader) givenOf(key lab.Key) map[string]any {
	if ld.given[key] == nil {
		ld.given[key] = map[string]any{}
	}
	return ld.given[key]
}

// apply puts the facts that a line says into a record.
func (ld *loader) apply(t *thing, r lab.Record) lab.Record {
	return ld.applyAfter(t, r, map[string]any{}, ld.opt.Forget)
}

// applyAfter is apply where other lines may have given facts of the record.
func (ld *loader) applyAfter(t *thing, r lab.Record, given map[string]any, forget bool) lab.Record {
	if len(t.said) == 0 && !forget {
		return r
	}
	b := open(r)
	var say []said
	for _, s := range t.said {
		before, again := given[s.fact.field]
		if again && !s.fact.many {
			if !reflect.DeepEqual(before, s.value) { // the same in other words is no mistake
				ld.wrong(t, s.col, s.end, fmt.Errorf("the %s is given twice", s.fact.name))
			}
			continue
		}
		if s.fact.many && !again && (ld.opt.All || !s.adds()) {
			s.fact.set(b, nil)
		}
		given[s.fact.field] = s.value
		_, late := s.value.(waits)
		if late || s.value != nil && (s.fact.field == "port_marks" || s.fact.names == lab.KindDevice && !ld.loaded(lab.KindDevice)) {
			ld.wait(t, r, s)
			continue
		}
		say = append(say, s)
	}
	if forget {
		for _, f := range factsOf(t.scope()) {
			if _, was := given[f.field]; !was && f.field != "takes_u" && f.field != "other_kind" { // these the head has
				f.set(b, nil)
			}
		}
	}
	for _, s := range say {
		value := s.value
		if s.kept {
			ld.keep(t, s)
		}
		if _, open := value.(yet); open {
			var err error
			if value, err = ld.setting(closed(b)).out(value); err != nil {
				if ld.orRemark(t, s, b, err) {
					continue
				}
				ld.wrong(t, s.col, s.end, err)
				continue
			}
		}
		s.fact.set(b, value)
	}
	return closed(b)
}

// removals are the records the text does not speak of, if it speaks of all.
// Plans and notes are nothing a rundown speaks of; a photo goes with what it is
// of.
func (ld *loader) removals() {
	if !ld.opt.All || len(ld.mistakes) > 0 {
		return
	}
	going := map[lab.Key]bool{}
	for _, k := range slices.Backward(lab.Kinds()) {
		how := lineKindOf(ld.kinds, k.RecordKind)
		if k.Alone || !k.Built || how.word == "" && how.load == nil {
			continue
		}
		for r := range ld.base.Records(k.RecordKind) {
			if key := r.Key(); !ld.used[key.ID] {
				ld.removed = append(ld.removed, key)
				going[key] = true
			}
		}
	}
	for _, key := range slices.Clone(ld.removed) {
		for by := range ld.base.UsersOf(key) {
			for _, ref := range by.Refs() {
				if ref.To == key && ref.Gone == lab.GoAlong && !going[by.Key()] && !ld.used[by.Key().ID] {
					ld.removed = append(ld.removed, by.Key())
					going[by.Key()] = true
				}
			}
		}
	}
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
	gone := map[lab.Key]bool{}
	for _, key := range slices.Concat(ld.removed, ld.displaced) {
		if c, ok := ld.base.Remove(key); ok && !gone[key] {
			list = append(list, c)
			gone[key] = true
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
			ld.mistake(text.Mistake{Line: 1, Column: 1, EndColumn: 2, Say: err.Error()})
			break
		}
		out := ld.leftOut()
		for _, f := range refusal.Faults {
			ld.refused(f, out)
		}
		ld.removed = nil
	}
	return ld.plan(ld.base, nil)
}

// leftOut are the new records that an earlier round left out.
func (ld *loader) leftOut() map[lab.Key]bool {
	out := map[lab.Key]bool{}
	for key, r := range ld.after {
		if r == nil && ld.base.Get(key) == nil {
			out[key] = true
		}
	}
	return out
}

func (ld *loader) refused(f lab.Fault, out map[lab.Key]bool) {
	t := ld.lines[f.Key]
	if t == nil {
		ld.mistake(text.Mistake{Line: 1, Column: 1, EndColumn: 2, Say: f.Title + ": " + f.Say})
		return
	}
	r := ld.after[f.Key]
	if r == nil && len(ld.seated[t]) > 0 {
		return // another record of the line was refused, and so the line
	}
	if was, further := ld.layers[t]; further {
		defer func() {
			ld.after[f.Key] = was // what the lines before it say stays
			delete(ld.layers, t)
			ld.lines[f.Key] = ld.firstOf(f.Key)
		}()
	}
	follows := r != nil && slices.ContainsFunc(r.Refs(), func(ref lab.Ref) bool { return ref.Field == f.Field && out[ref.To] })
	col, end := t.col, t.end
	for _, s := range t.said {
		if s.fact.field == f.Field {
			col, end = s.col, s.end
		}
	}
	if !follows && !ld.misread[place{t.file, t.line}] { // or else this may follow from that mistake
		ld.wrong(t, col, end, errors.New(faultWords(f)))
	}
	ld.leaveOut(t)
}

// firstOf is the first line about a record.
func (ld *loader) firstOf(key lab.Key) *thing {
	for _, t := range ld.byKind[key.Kind] {
		if _, further := ld.layers[t]; !further && ld.ids[t] == key.ID && ld.lines[key] != t {
			return t
		}
	}
	return nil
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
	for _, key := range ld.seated[t] {
		ld.after[key] = nil
	}
	for _, w := range t.within {
		ld.leaveOut(w)
	}
}

func (ld *loader) plan(next *lab.Lab, changes []lab.Change) Plan {
	p := Plan{Lab: next, Changes: changes, Mistakes: ld.mistakes, More: ld.more, Kept: ld.kept, Lines: map[int][]lab.Key{}}
	for _, key := range ld.order {
		if t := ld.lines[key]; t != nil && next.Get(key) != nil {
			p.Lines[t.line] = append(p.Lines[t.line], key)
		}
	}
	return p
}

// loaded reports whether the records of a kind are loaded already.
func (ld *loader) loaded(k lab.RecordKind) bool { return ld.done[k] }
