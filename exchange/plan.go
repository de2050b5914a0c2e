package exchange

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// planLines is a table that tells of many records what is to be changed, while it is read.
type planLines struct {
	lab   *lab.Lab
	named func(string) (lab.ID, bool) // the one device of a name
	is    *lab.Changing
	at    map[string]int // by column its place
	wide  int
}

// cells are those of one line, by column.
type cells func(column string) string

// readLines reads such a table, CSV or a workbook, and works out what each line would
// change; take says of one line whether it changes anything, and what. Of the columns the
// needed ones have to be there. The error says what is wrong with the file as a whole.
func readLines(l *lab.Lab, data []byte, columns, needed []string, take func(*planLines, cells, *Row) (bool, string, error)) (Sheet, error) {
	t, err := readTable(data)
	if err != nil {
		return Sheet{}, err
	}
	r := &planLines{lab: l, named: rundown.DeviceNamed(l), is: l.Changing(), at: map[string]int{}, wide: len(t.names)}
	for i, name := range t.names {
		if name = strings.ToLower(strings.TrimSpace(name)); slices.Contains(columns, name) {
			r.at[name] = i
		}
	}
	for _, name := range needed {
		if !r.has(name) {
			return Sheet{}, fmt.Errorf("the first line has to name the columns %s; there may be %s besides", lab.Listed(needed, 9),
				lab.Listed(slices.DeleteFunc(slices.Clone(columns), func(c string) bool { return slices.Contains(needed, c) }), 9))
		}
	}
	s := Sheet{}
	for _, row := range t.rows {
		is := r.row(row, take)
		if is.Verb == RowRefused {
			s.Refused++
		}
		s.Rows = append(s.Rows, is)
	}
	s.Changes = r.is.Changes()
	return s, nil
}

func (r *planLines) has(column string) bool {
	_, ok := r.at[column]
	return ok
}

func (r *planLines) row(in line, take func(*planLines, cells, *Row) (bool, string, error)) Row {
	out := Row{Line: in.number, Title: strings.TrimSpace(in.cells[0]), Verb: RowSame}
	if len(in.cells) != r.wide {
		out.Verb, out.Say = RowRefused, fmt.Sprintf("it has %d cells, and the first line names %d columns", len(in.cells), r.wide)
		return out
	}
	changed, say, err := take(r, func(column string) string {
		if i, ok := r.at[column]; ok {
			return unguarded(strings.TrimSpace(in.cells[i]))
		}
		return ""
	}, &out)
	switch {
	case err != nil:
		out.Verb, out.Say = RowRefused, err.Error()
	case changed:
		out.Verb, out.Say = RowChanged, say
	}
	return out
}

// device is the device of that name, as it is by now.
func (r *planLines) device(name string) (lab.Device, error) {
	id, ok := r.named(name)
	if !ok {
		return lab.Device{}, fmt.Errorf("there is no one device called “%s”", name)
	}
	return r.is.Now(lab.Key{Kind: lab.KindDevice, ID: id}).(lab.Device), nil
}

// allowed says what would be wrong with a record.
func (r *planLines) allowed(one lab.Record) error {
	c, ok := r.lab.Put(one)
	if !ok {
		return nil
	}
	_, err := r.lab.Apply([]lab.Change{c})
	var refused *lab.Refusal
	if errors.As(err, &refused) {
		return errors.New(refused.Faults[0].Say)
	}
	return err
}
