package exchange

import (
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// StorageTable is a table of pools, datasets or copies: a line each, a column for each
// fact, written and read as its own field has it.
type StorageTable struct {
	kind   lab.Kind
	Sheet  string
	needed []string // the columns that a line is told by
}

// The tables there are. Drives are parts, and go with those.
var (
	PoolTable    = storageTable(lab.KindPool, "Pools", "name", "device")
	DatasetTable = storageTable(lab.KindDataset, "Datasets", "name", "on")
	CopyTable    = storageTable(lab.KindCopy, "Copies", "dataset", "to")
)

func storageTable(kind lab.RecordKind, sheet string, needed ...string) StorageTable {
	k, _ := lab.KindOf(kind)
	return StorageTable{k, sheet, needed}
}

// fields are the columns, those that a line is told by first.
func (t StorageTable) fields() []rundown.Field {
	list := rundown.FieldsOf(lab.Blank(t.kind.RecordKind, "x"))
	slices.SortStableFunc(list, func(a, b rundown.Field) int { return t.order(a) - t.order(b) })
	return list
}

func (t StorageTable) order(f rundown.Field) int {
	if i := slices.Index(t.needed, f.File); i >= 0 {
		return i
	}
	return len(t.needed)
}

func (t StorageTable) columns() []string {
	var names []string
	for _, f := range t.fields() {
		names = append(names, f.File)
	}
	return names
}

func (t StorageTable) rows(l *lab.Lab) [][]string {
	rows := [][]string{t.columns()}
	for r := range l.Records(t.kind.RecordKind) {
		said := rundown.Saying(l, r)
		var row []string
		for _, f := range t.fields() {
			row = append(row, said.Text(f.Field))
		}
		rows = append(rows, row)
	}
	return rows
}

// WriteCSV writes the table as CSV.
func (t StorageTable) WriteCSV(w io.Writer, l *lab.Lab) error {
	return writeCSV(w, slices.Values(t.rows(l)))
}

// WriteXLSX writes it as a workbook.
func (t StorageTable) WriteXLSX(w io.Writer, l *lab.Lab) error {
	return writeTextXLSX(w, t.Sheet, t.rows(l))
}

// Read reads such a table, CSV or a workbook: what a line says of a pool, a dataset or a
// copy that there is takes the place of what was known, an empty cell says nothing; any
// other line makes one. Nothing is removed.
func (t StorageTable) Read(newID func() lab.ID) func(*lab.Lab, []byte) (Sheet, error) {
	return func(l *lab.Lab, data []byte) (Sheet, error) {
		return readLines(l, data, t.columns(), t.needed, func(r *planLines, cell cells, out *Row) (bool, string, error) {
			return t.take(r, cell, out, newID)
		})
	}
}

func (t StorageTable) take(r *planLines, cell cells, out *Row, newID func() lab.ID) (changed bool, say string, err error) {
	is := lab.Blank(t.kind.RecordKind, "new")
	for _, f := range t.fields()[:len(t.needed)] {
		if cell(f.File) == "" {
			return false, "", fmt.Errorf("%s: it cannot be empty, the line is told by it", f.File)
		}
		if is, err = rundown.SetFact(r.lab, is, f.Field, cell(f.File), ""); err != nil {
			return false, "", fmt.Errorf("%s: %w", f.File, err)
		}
	}
	id, known := r.lab.Having(t.kind.RecordKind, lab.Uniques(is)[0])
	out.Title = cell(t.needed[0]) + " " + t.needed[1] + " " + cell(t.needed[1])
	if known {
		is = r.is.Now(lab.Key{Kind: t.kind.RecordKind, ID: id})
	} else {
		is = lab.WithID(is, newID())
	}
	if is == nil {
		return false, "", errors.New("a line above speaks of the same")
	}
	before := is
	was := rundown.Saying(r.lab, is)
	var said []string
	for _, f := range t.fields()[len(t.needed):] {
		if typed := cell(f.File); typed != "" && typed != was.Text(f.Field) {
			if is, err = rundown.SetFact(r.lab, is, f.Field, typed, ""); err != nil {
				return false, "", fmt.Errorf("%s: %w", f.File, err)
			}
			said = append(said, f.File+" "+typed)
		}
	}
	if known && lab.Same(before, is) {
		return false, "", nil
	}
	if err := r.allowed(is); err != nil {
		return false, "", err
	}
	r.is.Put(is)
	if !known {
		said = append([]string{"new"}, said...)
	}
	return true, strings.Join(said, ", "), nil
}
