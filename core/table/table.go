// Package table shows the records of any kind in rows and columns: filtered,
// sorted and grouped on the screen, and the same columns in files. What can be
// said of a record is a column; a kind may have more that are worked out.
package table

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Index is a lab's records of one kind made ready to be filtered, sorted and
// shown. It may be used from many goroutines.
type Index struct {
	lab     *lab.Lab
	columns []Column
	rows    []*row

	mu     sync.Mutex
	values map[string][]Value // by field; made when a column is first asked for
}

// New makes the index of a lab's records.
func (s *Spec) New(l *lab.Lab) *Index {
	ix := &Index{lab: l, columns: s.Columns, values: map[string][]Value{}}
	for is := range s.Records(l) {
		r := &row{n: len(ix.rows), lab: l, record: is}
		known := is
		if s.known != nil {
			known, r.more = s.known(l, is)
		}
		r.said = rundown.Saying(l, known)
		ix.rows = append(ix.rows, r)
	}
	return ix
}

// of is a column's values, one for each row of the index. As one types a
// filter the same ones are looked at again and again.
func (ix *Index) of(c *Column) []Value {
	ix.mu.Lock()
	defer ix.mu.Unlock()
	list, ok := ix.values[c.Field]
	if !ok {
		list = make([]Value, len(ix.rows))
		for i, r := range ix.rows {
			list[i] = c.value(r)
		}
		ix.values[c.Field] = list
	}
	return list
}

// Ask is what a table is to show.
type Ask struct {
	Filter  string
	Columns []string
	Sort    string // a field, with - before it the other way round
	Group   string // a field
}

// Table is what came of it.
type Table struct {
	Columns []Column   `json:"columns" required:"true" nullable:"false" description:"Those asked for, in that order"`
	Rows    []TableRow `json:"rows" required:"true" nullable:"false"`
	Groups  []GroupSum `json:"groups" required:"true" nullable:"false" description:"One for all rows, where they are not grouped"`
	Of      int        `json:"of" required:"true" description:"How many there are without the filter"`
	Unmet   string     `json:"unmet,omitempty" description:"Where nothing passes: the term that no row has, and what may have been meant"`
}

// NoFact stands in a cell whose fact is none of such a thing.
const NoFact = "–"

// TableRow is one row's cells, in the order of the columns; an empty one is
// unknown, NoFact one that there is nothing to know about.
type TableRow struct {
	ID    lab.ID   `json:"id" required:"true"`
	Cells []string `json:"cells" required:"true" nullable:"false"`
	Hex   string   `json:"hex,omitempty" description:"How its colour looks"`
	Bad   []string `json:"bad,omitempty" description:"The fields whose cells say that wrong now"`
}

// GroupSum is a run of rows and what its columns come to.
type GroupSum struct {
	Title string   `json:"title" required:"true" description:"What its rows share; empty while unknown"`
	From  int      `json:"from" required:"true" description:"Its first row, counted from 0"`
	Rows  int      `json:"rows" required:"true"`
	Sums  []string `json:"sums" required:"true" nullable:"false" description:"In the order of the columns; empty for those that do not add up"`
}

// Show filters, sorts and groups. The error is a *FilterMistake, or says which
// column there is none of.
func (ix *Index) Show(ask Ask) (Table, error) {
	tests, err := ix.parse(ask.Filter)
	if err != nil {
		return Table{}, err
	}
	t := Table{Columns: []Column{}, Rows: []TableRow{}, Groups: []GroupSum{}, Of: len(ix.rows)}
	for _, name := range ask.Columns {
		if c := columnNamed(ix.columns, name); c != nil && columnNamed(t.Columns, c.Field) == nil {
			t.Columns = append(t.Columns, *c)
		}
	}
	rows := ix.passing(tests)
	if len(rows) == 0 {
		t.Unmet = ix.unmet(ask.Filter, tests)
	}
	order := columnNamed(ix.columns, strings.TrimPrefix(ask.Sort, "-"))
	if order != nil {
		ix.sort(rows, order, strings.HasPrefix(ask.Sort, "-"))
	}
	group := columnNamed(ix.columns, ask.Group)
	if group != nil {
		ix.sort(rows, group, false)
	}
	t.fill(ix, rows, group)
	return t, nil
}

// Matching lists the records that pass a filter.
func (ix *Index) Matching(filter string) ([]lab.ID, error) {
	tests, err := ix.parse(filter)
	if err != nil {
		return nil, err
	}
	ids := []lab.ID{}
	for _, r := range ix.passing(tests) {
		ids = append(ids, r.record.Key().ID)
	}
	return ids, nil
}

func (ix *Index) passing(tests []test) []*row {
	rows := make([]*row, 0, len(ix.rows))
next:
	for _, r := range ix.rows {
		for _, pass := range tests {
			if !pass(r) {
				continue next
			}
		}
		rows = append(rows, r)
	}
	return rows
}

// sort puts rows in the order of a column, unknown ones last either way.
func (ix *Index) sort(rows []*row, by *Column, down bool) {
	values := ix.of(by)
	slices.SortStableFunc(rows, func(a, b *row) int {
		x, y := &values[a.n], &values[b.n]
		if x.Text == "" || y.Text == "" {
			return btoi(x.Text == "") - btoi(y.Text == "")
		}
		var c int
		if x.Number != nil && y.Number != nil {
			c = cmp.Compare(*x.Number, *y.Number)
		} else {
			c = natural(x.Text, y.Text)
		}
		if down {
			return -c
		}
		return c
	})
}

func btoi(b bool) int {
	if b {
		return 1
	}
	return 0
}

// natural compares texts with the numbers in them taken as numbers, so that
// bay 2 comes before bay 10, and without regard to case.
func natural(a, b string) int {
	for a != "" && b != "" {
		na, nb := digits(a), digits(b)
		if na > 0 && nb > 0 {
			x, y := strings.TrimLeft(a[:na], "0"), strings.TrimLeft(b[:nb], "0")
			if c := cmp.Or(len(x)-len(y), strings.Compare(x, y)); c != 0 {
				return c
			}
			a, b = a[na:], b[nb:]
			continue
		}
		if x, y := lower(a[0]), lower(b[0]); x != y {
			return cmp.Compare(x, y)
		}
		a, b = a[1:], b[1:]
	}
	return len(a) - len(b)
}

func lower(c byte) byte {
	if c >= 'A' && c <= 'Z' {
		c += 'a' - 'A'
	}
	return c
}

func digits(s string) int {
	n := 0
	for n < len(s) && s[n] >= '0' && s[n] <= '9' {
		n++
	}
	return n
}

func (t *Table) fill(ix *Index, rows []*row, group *Column) {
	sums := make([]float64, len(t.Columns))
	known := make([]int, len(t.Columns))
	start, title := 0, ""
	closeGroup := func(end int) {
		g := GroupSum{Title: title, From: start, Rows: end - start, Sums: make([]string, len(t.Columns))}
		for i, c := range t.Columns {
			if !c.sums || known[i] == 0 {
				continue
			}
			g.Sums[i] = sumText(ix.lab, c, sums[i])
			if known[i] < g.Rows {
				g.Sums[i] = "≥" + g.Sums[i]
			}
		}
		clear(sums)
		clear(known)
		t.Groups = append(t.Groups, g)
	}
	values := make([][]Value, len(t.Columns))
	for i := range t.Columns {
		values[i] = ix.of(&t.Columns[i])
	}
	var titles []Value
	if group != nil {
		titles = ix.of(group)
	}
	cells := make([]string, len(rows)*len(t.Columns))
	for n, r := range rows {
		if group != nil {
			if now := titles[r.n].Text; n == 0 || now != title {
				if n > 0 {
					closeGroup(n)
				}
				start, title = n, now
			}
		}
		var bad []string
		mine := cells[n*len(t.Columns) : (n+1)*len(t.Columns) : (n+1)*len(t.Columns)]
		for i := range t.Columns {
			v := &values[i][r.n]
			mine[i] = v.Text
			if v.Bad {
				bad = append(bad, t.Columns[i].Field)
			}
			if v.None {
				mine[i] = NoFact
			}
			if t.Columns[i].sums && v.Number != nil {
				sums[i] += *v.Number
				known[i]++
			}
		}
		is := TableRow{ID: r.record.Key().ID, Cells: mine, Bad: bad}
		switch of := r.record.(type) {
		case lab.Cable:
			is.Hex = of.Colour.Hex()
		case lab.VLAN:
			is.Hex = of.Colour.Hex()
		}
		t.Rows = append(t.Rows, is)
	}
	closeGroup(len(rows))
}

func sumText(l *lab.Lab, c Column, v float64) string {
	switch c.Kind {
	case Price:
		return lab.MoneyText(int64(v), l.Settings().Currency)
	case Memory, Capacity:
		return kindText(c.Kind, v)
	}
	return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64) + c.Unit
}
