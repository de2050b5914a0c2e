package exchange

import (
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// reader turns the lines of a file into devices: first what is said of each,
// then, when all their names are known, where each of them is.
type reader struct {
	lab   *lab.Lab
	newID func() lab.ID
	kind  lab.DeviceKind
	at    []int    // of each column among the cells
	units []string // that the figures of each column are in
	rows  []reading
	taken map[lab.ID]int // which line a device was in already
	named map[string][]lab.Device
}

type reading struct {
	Row
	was, is lab.Record // was is nil for something new
	where   *string
	takes   *string
}

// wrong refuses a line.
func (r *reading) wrong(format string, args ...any) {
	if r.Verb != RowRefused { // the first reason is told
		r.Verb, r.Say = RowRefused, fmt.Sprintf(format, args...)
	}
}

func (rd *reader) cell(cells []string, name string) string {
	for i, c := range columns {
		if c.name == name && rd.at[i] >= 0 {
			return strings.TrimSpace(cells[rd.at[i]])
		}
	}
	return ""
}

func (rd *reader) row(in line, wide int, comma rune) {
	r := reading{Row: Row{Line: in.number}}
	defer func() { rd.rows = append(rd.rows, r) }()
	if len(in.cells) != wide {
		r.Title = in.cells[0]
		r.wrong("it has %d cells, and the first line names %d columns", len(in.cells), wide)
		return
	}
	r.Title = rd.cell(in.cells, "name")
	is, err := rd.about(in.cells, &r)
	if err != nil {
		r.wrong("%s", err)
		return
	}
	for i, c := range columns {
		if rd.at[i] < 0 || c.field == "id" {
			continue
		}
		typed := strings.TrimSpace(in.cells[rd.at[i]])
		if strings.HasPrefix(typed, "=") {
			r.wrong("%s: “%s” is a formula; write what it comes to", c.name, typed)
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
		case c.field == "at":
			r.where = &typed
		case c.field == "takes_u":
			r.takes = &typed
		case c.field == "name" && r.was != nil && lab.FoldName(typed) == lab.FoldName(r.was.(lab.Device).Name):
		case c.field == "device_kind" && typed == "" || c.field == "state" && typed == "":
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
	r.Title = is.Title()
}

// about finds the device that a line speaks of, or begins a new one.
func (rd *reader) about(cells []string, r *reading) (lab.Record, error) {
	id, name := lab.ID(rd.cell(cells, "id")), rd.cell(cells, "name")
	var found []lab.Device
	if d, ok := rd.lab.Device(id); ok {
		found = append(found, d)
	} else if id == "" && name != "" {
		found = rd.named[lab.FoldName(name)]
	}
	if len(found) > 1 {
		return nil, fmt.Errorf("there are %d things called “%s”; give the id of the one that is meant", len(found), name)
	}
	if len(found) == 1 {
		d := found[0]
		if before, twice := rd.taken[d.ID]; twice {
			return nil, fmt.Errorf("line %d is about the same thing", before)
		}
		rd.taken[d.ID] = r.Line
		r.was, r.key, r.Verb = d, d.Key(), RowChanged
		return d, nil
	}
	if rd.cell(cells, "kind") == "" && rd.kind == "" {
		return nil, errors.New("it is not in the lab yet; say in the column kind what it is, such as server")
	}
	if id == "" {
		id = rd.newID()
	}
	if before, twice := rd.taken[id]; twice {
		return nil, fmt.Errorf("line %d has the same id", before)
	}
	rd.taken[id] = r.Line
	d := lab.Device{ID: id, Kind: rd.kind, State: lab.Running}
	r.key, r.Verb = d.Key(), RowNew
	return d, nil
}

// place puts the devices where their lines say, each found by the names that
// the file gives them.
func (rd *reader) place() {
	named := rd.withAll()
	for i := range rd.rows {
		r := &rd.rows[i]
		if r.is == nil {
			continue
		}
		d := r.is.(lab.Device)
		if was, ok := r.was.(lab.Device); r.where != nil && (!ok || *r.where != rundown.WhereText(rd.lab, was, "")) {
			next, err := rundown.SetFact(named, d, "at", *r.where, "")
			if err != nil {
				r.wrong("where: %s", err)
				continue
			}
			d = next.(lab.Device)
		}
		moved := r.where != nil && d.At != nil && d.At.Where == lab.InUnits && rangeSaid(*r.where)
		if r.takes != nil && !moved {
			next, err := rundown.SetFact(rd.lab, d, "takes_u", *r.takes, "")
			if err != nil {
				r.wrong("takes_u: %s", err)
				continue
			}
			d = next.(lab.Device)
		}
		r.is = d
	}
}

// rangeSaid reports whether a spot says itself how many units are taken.
func rangeSaid(where string) bool { return strings.Contains(where, "-") }

// withAll is the lab with every device of the file in it, as far as they go
// in, but where it was.
func (rd *reader) withAll() *lab.Lab {
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
		if r.is == nil {
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
	at := map[lab.Key]*reading{}
	for i := range rd.rows {
		if r := &rd.rows[i]; r.Verb != RowRefused {
			at[r.key] = r
		}
	}
	for _, e := range edits {
		if r := at[e.Record]; r != nil {
			r.Say = strings.TrimPrefix(r.Say+"; "+e.Detail, "; ")
		}
	}
}

func (rd *reader) refused(err error) {
	var refusal *lab.Refusal
	if !errors.As(err, &refusal) {
		return
	}
	for _, f := range refusal.Faults {
		for i := range rd.rows {
			if r := &rd.rows[i]; r.key == f.Key {
				r.wrong("%s", f.Say)
			}
		}
	}
}
