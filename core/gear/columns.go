package gear

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

// Column is one column of the gear's tables.
type Column struct {
	Field   string        `json:"field" required:"true"`
	Title   string        `json:"title" required:"true"`
	Kind    ColumnKind    `json:"kind" required:"true"`
	Unit    string        `json:"unit,omitempty"`
	Group   rundown.Group `json:"group,omitempty"`
	Choices []string      `json:"choices,omitempty"`
	Derived bool          `json:"derived,omitempty" description:"Worked out, so it cannot be edited"`
	Private bool          `json:"private,omitempty"`
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
}

// row is one device or part with what its cells are made from.
type row struct {
	n      int // among the rows of the index
	lab    *lab.Lab
	id     lab.ID
	device lab.Device
	part   lab.Part
	said   rundown.Said
	totals Totals
	where  string
	rack   string
	place  string
	gaps   int
	folded string // everything that a bare word is looked for in
}

func words(field, title string, value func(*row) string, also ...string) Column {
	return Column{Field: field, Title: title, Kind: Words, Words: also, value: func(r *row) Value { return Value{Text: value(r)} }}
}

func derived(c Column) Column { c.Derived = true; return c }

func amount(field, title string, kind ColumnKind, get func(*row) Amount, also ...string) Column {
	return Column{Field: field, Title: title, Kind: kind, Derived: true, Words: also, sums: true, value: func(r *row) Value {
		a := get(r)
		if a.Known == 0 {
			return Value{} // nothing is known to be in it
		}
		n := float64(a.Known)
		text := kindText(kind, n)
		if a.Unknown > 0 {
			text = "≥" + text
		}
		return Value{Text: text, Number: &n}
	}}
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

func seatsColumn(field, title string, get func(*row) Seats, also ...string) Column {
	return Column{Field: field, Title: title, Kind: Figure, Derived: true, Words: also, sums: true, value: func(r *row) Value {
		s := get(r)
		if s.Of == nil {
			return Value{}
		}
		free := float64(*s.Of - s.Taken)
		return Value{Text: strconv.Itoa(*s.Of-s.Taken) + " of " + strconv.Itoa(*s.Of), Number: &free}
	}}
}

// aliases are what people call facts besides their names.
var aliases = map[string][]string{
	"device_kind": {"kind", "type"}, "at": {"where", "spot"}, "purpose": {"for"}, "takes_u": {"units", "u"}, "height_mm": {"height"}, "width_mm": {"width"},
	"depth_mm": {"depth"}, "weight_kg": {"weight", "kg"}, "price_minor": {"price", "paid", "cost"}, "bought_on": {"bought"}, "got": {"source"}, "warranty_until": {"warranty"},
	"return_until": {"return", "returns"}, "idle_w": {"idle", "watts"}, "most_w": {"max", "most"}, "typical_w": {"typical"}, "noise_db": {"noise", "db"}, "sheet_id": {"sheet"},
	"size_bytes": {"size"}, "part_kind": {"kind", "type"}, "remote_address": {"remote"}, "web_page": {"web"}, "supply_bays": {"supplies"},
	"poe_budget_w": {"poe"}, "memory_slots": {"dimms"},
}

var days = []string{"bought_on", "warranty_until", "return_until", "put_in"}

// summed are the facts that it makes sense to add up.
var summed = []string{"weight_kg", "price_minor", "idle_w", "typical_w", "most_w", "standby_w", "takes_u", "size_bytes", "cores", "threads"}

func factColumns(sample lab.Record) []Column {
	var list []Column
	for _, f := range rundown.FieldsOf(sample) {
		if f.Field == "never_known" {
			continue
		}
		c := Column{Field: f.Field, Title: f.Name, Kind: Words, Unit: f.Unit, Group: f.Group, Choices: f.Choices, Private: f.Private, Words: aliases[f.Field], sums: slices.Contains(summed, f.Field)}
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
		field := f.Field
		c.value = func(r *row) Value { return Value{r.said.Text(field), r.said.Number(field), !r.said.Has(field)} }
		list = append(list, c)
	}
	return list
}

// deviceColumns are what the table of devices can show.
var deviceColumns = slices.Concat([]Column{
	words("name", "name", func(r *row) string { return r.device.Name }),
	words("device_kind", "kind", func(r *row) string { return r.device.Kind.Words() }, "kind", "type"),
	words("at", "where", func(r *row) string { return r.where }, "where", "spot"),
	derived(words("rack", "rack", func(r *row) string { return r.rack })),
	derived(words("place", "place", func(r *row) string { return r.place })),
	amount("cores", "cores", Figure, func(r *row) Amount { return r.totals.Cores }),
	amount("threads", "threads", Figure, func(r *row) Amount { return r.totals.Threads }),
	amount("ram", "memory", Memory, func(r *row) Amount { return r.totals.MemoryBytes }, "memory"),
	amount("raw", "raw capacity", Capacity, func(r *row) Amount { return r.totals.RawBytes }, "capacity", "storage"),
	seatsColumn("bays_free", "bays free", func(r *row) Seats { return r.totals.Bays }, "free bays"),
	seatsColumn("slots_free", "slots free", func(r *row) Seats { return r.totals.Slots }),
	seatsColumn("dimms_free", "memory slots free", func(r *row) Seats { return r.totals.MemorySlots }),
	{Field: "gaps", Title: "gaps", Kind: Figure, Derived: true, sums: true, value: func(r *row) Value {
		n := float64(r.gaps)
		return Value{Text: strconv.Itoa(r.gaps), Number: &n}
	}},
}, factColumns(lab.Device{}))

// partColumns are what the table of parts can show: the facts of every sort.
var partColumns = func() []Column {
	list := []Column{
		words("name", "name", func(r *row) string { return r.part.Name }),
		words("part_kind", "kind", func(r *row) string { return string(r.part.Kind) }, "kind", "type"),
		derived(words("where", "where", func(r *row) string { return r.where }, "at", "in", "device")),
	}
	// Drives first: where sorts share a fact, such as size, it is theirs.
	for _, k := range append([]lab.PartKind{lab.Drive}, lab.PartKinds()...) {
		for _, c := range factColumns(lab.Part{Kind: k}) {
			if !slices.ContainsFunc(list, func(o Column) bool { return o.Field == c.Field }) {
				list = append(list, c)
			}
		}
	}
	return list
}()

// Columns lists the columns of the table of devices or of parts.
func Columns(of lab.RecordKind) []Column {
	if of == lab.KindPart {
		return slices.Clone(partColumns)
	}
	return slices.Clone(deviceColumns)
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
