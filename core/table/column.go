package table

import (
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// ColumnKind is how a column's values compare.
type ColumnKind string

// Columns hold words, figures, bytes, money or days.
const (
	Words    ColumnKind = "words"
	Figure   ColumnKind = "figure"
	Memory   ColumnKind = "memory"
	Capacity ColumnKind = "capacity"
	Price    ColumnKind = "price"
	Day      ColumnKind = "day"
)

// Enum lists the kinds for the published schema.
func (ColumnKind) Enum() []any { return []any{Words, Figure, Memory, Capacity, Price, Day} }

// Column is one column of a table.
type Column struct {
	Field   string        `json:"field" required:"true"`
	Title   string        `json:"title" required:"true"`
	Kind    ColumnKind    `json:"kind" required:"true"`
	Unit    string        `json:"unit,omitempty"`
	Group   rundown.Group `json:"group,omitempty"`
	Choices []string      `json:"choices,omitempty"`
	Derived bool          `json:"derived,omitempty" description:"Worked out, so it cannot be edited"`
	Maybe   bool          `json:"maybe,omitempty" description:"There need not be one, so that nothing is missing where there is none"`
	Private bool          `json:"private,omitempty"`
	File    string        `json:"-"` // what a column of a file calls it
	Later   bool          `json:"-"` // it names other things, so that of many records it is set last
	Words   []string      `json:"words,omitempty" description:"What else it is called in a filter"`
	value   func(*row) Value
	sums    bool
}

// Value is what stands in a cell: its text, and its figure where it has one.
// An empty text is unknown, unless it is no fact of such a thing at all, as a
// memory module has no cores.
type Value struct {
	Text   string
	Number *float64
	None   bool
	Bad    bool // it says that wrong now
}

// row is one record with what its cells are made from.
type row struct {
	n      int // among the rows of the index
	lab    *lab.Lab
	record lab.Record
	said   rundown.Said
	more   any    // what the kind's own columns are made from
	folded string // everything that a bare word is looked for in, once it is asked for
}

func kindText(k ColumnKind, n float64) string {
	switch k {
	case Memory:
		return text.MemoryText(int64(n))
	case Capacity:
		return text.CapacityText(int64(n))
	}
	return strconv.FormatFloat(n, 'f', -1, 64)
}

// aliases are what people call facts besides their names.
var aliases = map[string][]string{
	"device_kind": {"kind", "type"}, "at": {"where", "spot"}, "purpose": {"for"}, "takes_u": {"units", "u"}, "height_mm": {"height"},
	"width_mm": {"width"},
	"depth_mm": {"depth"}, "weight_kg": {"weight", "kg"}, "price_minor": {"price", "paid", "cost"}, "bought_on": {"bought"},
	"got": {"source"}, "warranty_until": {"warranty"},
	"return_until": {"return", "returns"}, "idle_w": {"idle", "watts"}, "most_w": {"max", "most"}, "typical_w": {"typical"},
	"noise_db": {"noise", "db"}, "sheet_id": {"sheet"},
	"size_bytes": {"size"}, "part_kind": {"kind", "type"}, "remote_address": {"remote"}, "web_page": {"web"}, "supply_bays": {"supplies"},
	"poe_budget_w": {"poe"}, "memory_slots": {"dimms"},
}

var days = []string{"bought_on", "warranty_until", "return_until", "put_in"}

// summed are the facts that it makes sense to add up.
var summed = []string{"weight_kg", "price_minor", "idle_w", "typical_w", "most_w", "standby_w", "takes_u", "size_bytes", "cores",
	"threads", "vcpus", "given_bytes", "uses_bytes"}

// factColumns are what can be said of such records: the facts of each sample,
// the first ones of a field.
func factColumns(samples ...lab.Record) []Column {
	var list []Column
	for _, sample := range samples {
		for _, f := range rundown.FieldsOf(sample) {
			if f.Field == "never_known" || slices.ContainsFunc(list, func(o Column) bool { return o.Field == f.Field }) {
				continue
			}
			list = append(list, factColumn(f))
		}
	}
	k, _ := lab.KindOf(samples[0].Key().Kind)
	slices.SortStableFunc(list, func(a, b Column) int { return btoi(b.Field == k.Name) - btoi(a.Field == k.Name) })
	return list
}

func factColumn(f rundown.Field) Column {
	c := Column{Field: f.Field, Title: f.Name, Kind: Words, Unit: f.Unit, Group: f.Group, Choices: f.Choices, Private: f.Private,
		Maybe: f.Maybe, File: f.File, Later: f.Later, Words: aliases[f.Field], sums: slices.Contains(summed, f.Field)}
	switch {
	case f.Field == "price_minor":
		c.Kind = Price
	case slices.Contains(days, f.Field):
		c.Kind = Day
	case f.Unit == "GB":
		c.Kind = Memory
	case f.Unit == "TB":
		c.Kind = Capacity
	case f.Number && !f.List:
		c.Kind = Figure
	}
	c.value = func(r *row) Value {
		said := r.said.Text(f.Field)
		if said == "?" {
			said = ""
		}
		return Value{Text: said, Number: r.said.Number(f.Field), None: !r.said.Has(f.Field)}
	}
	return c
}

func columnNamed(columns []Column, name string) *Column {
	name = strings.ToLower(strings.ReplaceAll(name, "-", "_"))
	for i := range columns {
		if columns[i].Field == name || strings.ReplaceAll(columns[i].Title, " ", "_") == name {
			return &columns[i]
		}
	}
	for i := range columns {
		if slices.Contains(columns[i].Words, strings.ReplaceAll(name, "_", " ")) {
			return &columns[i]
		}
	}
	return nil
}
