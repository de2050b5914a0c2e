package exchange

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// reader turns the lines of a file into records: first what is said of each,
// then, when all their names are known, where each of them is.
type reader struct {
	lab   *lab.Lab
	newID func() lab.ID
	of    *Listing
	kind  string   // what something new is where the file does not say
	at    []int    // of each column among the cells
	units []string // that the figures of each column are in
	rows  []reading
	taken map[lab.ID]int // which line a record was in already
	named map[string][]lab.Record
	facts map[lab.PartKind]map[string]bool // that a kind of part has
}

func newReader(of *Listing, l *lab.Lab, list []FileColumn, how Taking, newID func() lab.ID) *reader {
	rd := &reader{of: of, lab: l, newID: newID, kind: how.Kind, taken: map[lab.ID]int{}, at: make([]int, len(of.columns)),
		units: make([]string, len(of.columns)), named: map[string][]lab.Record{}, facts: map[lab.PartKind]map[string]bool{}}
	for i := range rd.at {
		rd.at[i] = -1
	}
	for i, c := range list {
		if c.Field != "" {
			rd.at[of.index(c.Field)], rd.units[of.index(c.Field)] = i, c.Unit
		}
	}
	for r := range of.of.Records(l) {
		if name := lab.OwnName(r); name != "" {
			rd.named[lab.FoldName(name)] = append(rd.named[lab.FoldName(name)], r)
		}
	}
	return rd
}

func (rd *reader) read(ctx context.Context, t lines) (Sheet, error) {
	for _, cells := range t.rows {
		if err := ctx.Err(); err != nil {
			return Sheet{}, err
		}
		rd.row(cells, len(t.names), t.comma)
	}
	rd.place(ctx)
	if err := ctx.Err(); err != nil {
		return Sheet{}, err
	}
	return rd.sheet(), nil
}

type reading struct {
	Row
	was, is lab.Record        // was is nil for something new
	later   map[string]string // what is taken once all lines are known, by field
}

// wrong refuses a line.
func (r *reading) wrong(format string, args ...any) {
	if r.Verb != RowRefused { // the first reason is reported
		r.Verb, r.Say = RowRefused, fmt.Sprintf(format, args...)
	}
}

func (rd *reader) cell(cells []string, name string) string {
	for i, c := range rd.of.columns {
		if c.name == name && rd.at[i] >= 0 {
			return strings.TrimSpace(cells[rd.at[i]])
		}
	}
	return ""
}

func (rd *reader) row(in line, wide int, comma rune) {
	r := reading{Row: Row{Line: in.number}, later: map[string]string{}}
	defer func() { rd.rows = append(rd.rows, r) }()
	if len(in.cells) != wide {
		r.Title = in.cells[0]
		r.wrong("it has %d cells, and the first line names %d columns", len(in.cells), wide)
		return
	}
	r.Title = rd.cell(in.cells, rd.of.name)
	is, err := rd.about(in.cells, &r)
	if err != nil {
		r.wrong("%s", err)
		return
	}
	for i, c := range rd.of.columns {
		if rd.at[i] < 0 || c.field == "id" {
			continue
		}
		typed := strings.TrimSpace(in.cells[rd.at[i]])
		if strings.HasPrefix(typed, "=") {
			r.wrong("%s: “%s” is a formula; write its value", c.name, typed)
			return
		}
		typed = unguarded(typed)
		if c.measure && comma != ',' {
			typed = strings.ReplaceAll(typed, ",", ".")
		}
		if bareFigure.MatchString(typed) {
			typed += rd.units[i]
		}
		switch {
		case c.later || c.field == "takes_u":
			r.later[c.field] = typed
		case c.field == rd.of.name && r.was != nil && lab.FoldName(typed) == lab.FoldName(lab.OwnName(r.was)):
		case typed == "" && (c.name == "kind" || c.name == "state" || !rd.hasFact(is, c.field)):
		default:
			next, err := rundown.SetFact(rd.lab, is, c.field, typed, "")
			if err != nil {
				r.wrong("%s: %s", c.name, err)
				return
			}
			is = next
		}
	}
	r.is = is
	r.Title = cmp.Or(is.Title(), r.Title)
}

// hasFact reports whether a record can have a fact: a drive has no cores.
func (rd *reader) hasFact(is lab.Record, field string) bool {
	p, ok := is.(lab.Part)
	if !ok {
		return true
	}
	fields, known := rd.facts[p.Kind]
	if !known {
		fields = map[string]bool{}
		for _, f := range rundown.FieldsOf(p) {
			fields[f.Field] = true
		}
		rd.facts[p.Kind] = fields
	}
	return fields[field]
}

// about finds the record that a line speaks of, or begins a new one.
func (rd *reader) about(cells []string, r *reading) (lab.Record, error) {
	id, name := lab.ID(rd.cell(cells, "id")), rd.cell(cells, rd.of.name)
	var found []lab.Record
	if is := rd.lab.Get(lab.Key{Kind: rd.of.Kind.RecordKind, ID: id}); is != nil {
		found = append(found, is)
	} else if id == "" && name != "" {
		found = rd.named[lab.FoldName(name)]
	} else if id == "" && rd.of == Parts {
		found = rd.sitting(cells)
	} else if id == "" && rd.of == Cables {
		found = rd.between(cells)
	}
	if len(found) > 1 {
		return nil, fmt.Errorf("there are %d things called “%s”; give the id of the one that is meant", len(found), name)
	}
	if len(found) == 1 {
		is := found[0]
		if before, twice := rd.taken[is.Key().ID]; twice {
			return nil, fmt.Errorf("line %d is about the same thing", before)
		}
		rd.taken[is.Key().ID] = r.Line
		r.was, r.key, r.Verb = is, is.Key(), RowChanged
		return is, nil
	}
	if rd.of.example != "" && rd.cell(cells, "kind") == "" && rd.kind == "" {
		return nil, fmt.Errorf("it is not in the lab yet; say in the column kind what it is, such as %s", rd.of.example)
	}
	if id == "" {
		id = rd.newID()
	}
	if before, twice := rd.taken[id]; twice {
		return nil, fmt.Errorf("line %d has the same id", before)
	}
	rd.taken[id] = r.Line
	is := lab.Blank(rd.of.Kind.RecordKind, id)
	r.key, r.Verb = is.Key(), RowNew
	if rd.kind == "" || rd.of == Cables {
		return is, nil
	}
	at := rd.of.index("kind")
	if at < 0 {
		return nil, fmt.Errorf("%s are of no kinds, such as “%s”; leave that out", rd.of.List, text.Short(rd.kind))
	}
	return rundown.SetFact(rd.lab, is, rd.of.columns[at].field, rd.kind, "")
}

// withAll is the lab with every device of the file in it, as far as they go
// in, but where it was.
func (rd *reader) withAll(ctx context.Context) *lab.Lab {
	l := rd.lab
	var all []lab.Change
	for i := range rd.rows {
		if r := &rd.rows[i]; r.is != nil {
			if c, ok := l.Put(r.is); ok {
				all = append(all, c)
			}
		}
	}
	if next, err := l.Apply(all); err == nil {
		return next
	}
	// Something does not go in: find out which.
	for i := range rd.rows {
		r := &rd.rows[i]
		if r.is == nil || ctx.Err() != nil {
			continue
		}
		if c, ok := l.Put(r.is); ok {
			next, err := l.Apply([]lab.Change{c})
			var refusal *lab.Refusal
			if errors.As(err, &refusal) {
				r.wrong("%s: %s", refusal.Faults[0].Field, refusal.Faults[0].Say)
				continue
			}
			l = next
		}
	}
	return l
}

// sheet sees whether everything goes together.
func (rd *reader) sheet() Sheet {
	var s Sheet
	for i := range rd.rows {
		r := &rd.rows[i]
		if r.Verb == RowRefused {
			continue
		}
		c, differs := rd.lab.Put(r.is)
		if !differs {
			r.Verb = RowSame
			continue
		}
		s.Changes = append(s.Changes, c)
	}
	if after, err := rd.lab.Apply(s.Changes); err != nil {
		rd.refused(err)
	} else {
		rd.say(rundown.Edits(rd.lab, after, s.Changes))
	}
	for _, r := range rd.rows {
		s.Rows = append(s.Rows, r.Row)
		if r.Verb == RowRefused {
			s.Refused++
		}
	}
	if s.Refused > 0 {
		s.Changes = nil
	}
	return s
}

// say puts the words for what a line does beside it.
func (rd *reader) say(edits []rundown.Edit) {
	at := rd.byKey()
	for _, e := range edits {
		if r := at[e.Record]; r != nil {
			r.Say = strings.TrimPrefix(r.Say+"; "+e.Detail, "; ")
		}
	}
}

// byKey are the lines that can be taken, by the records they are about.
func (rd *reader) byKey() map[lab.Key]*reading {
	at := map[lab.Key]*reading{}
	for i := range rd.rows {
		if r := &rd.rows[i]; r.Verb != RowRefused {
			at[r.key] = r
		}
	}
	return at
}

func (rd *reader) refused(err error) {
	var refusal *lab.Refusal
	if !errors.As(err, &refusal) {
		return
	}
	at := rd.byKey()
	for _, f := range refusal.Faults {
		if r := at[f.Key]; r != nil {
			r.wrong("%s", f.Say)
		}
	}
}
