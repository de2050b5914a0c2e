package exchange

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// column is one fact in a file of devices or parts.
type column struct {
	name    string
	title   string
	field   string // the JSON field, as rundown.SetFact takes it
	also    []string
	measure bool                              // a figure, in which a comma may stand for the point
	write   func(*lab.Lab, lab.Record) string // nil for one that is read alone
}

// Listing is what a file lists, a line each.
type Listing struct {
	kind    lab.RecordKind
	sheet   string // the name of a workbook's sheet
	example string // of a kind; "" where something new needs none
	name    string // the column of its name
	columns []column
	words   func() map[string]string // what columns are called elsewhere, and which of ours that is
}

func listing(kind lab.RecordKind, sheet, example, name string, columns []column, sayings map[string][]string) *Listing {
	return &Listing{kind, sheet, example, name, columns, sync.OnceValue(func() map[string]string { return wordsOf(columns, sayings) })}
}

// Devices, Parts and Cables are what files can list.
var (
	Devices = listing(lab.KindDevice, "Devices", "server", "name", withFacts(deviceColumns, lab.Device{}), deviceSayings)
	Parts   = listing(lab.KindPart, "Parts", "drive", "name", withFacts(partColumns, partOfEachKind()...), partSayings)
	Cables  = listing(lab.KindCable, "Cables", "", "label", withFacts(cableColumns, lab.Cable{}), cableSayings)
)

// of lets a column be written of one kind of record alone.
func of[R lab.Record](write func(*lab.Lab, R) string) func(*lab.Lab, lab.Record) string {
	return func(l *lab.Lab, r lab.Record) string { return write(l, r.(R)) }
}

// deviceColumns are those that files of devices have had from the start.
var deviceColumns = []column{
	{"id", "id", "id", nil, false, of(func(_ *lab.Lab, d lab.Device) string { return string(d.ID) })},
	{"name", "name", "name", nil, false, of(func(_ *lab.Lab, d lab.Device) string { return d.Name })},
	{"kind", "kind", "device_kind", []string{"device_kind", "type"}, false, of(func(_ *lab.Lab, d lab.Device) string { return d.Kind.Words() })},
	{"state", "state", "state", nil, false, of(func(_ *lab.Lab, d lab.Device) string { return string(d.State) })},
	{"where", "where", "at", []string{"at", "place"}, false, of(func(l *lab.Lab, d lab.Device) string { return rundown.WhereText(l, d, "") })},
	{"purpose", "what it is for", "purpose", []string{"for", "what it is for"}, false, of(func(_ *lab.Lab, d lab.Device) string { return d.Purpose })},
	{"takes_u", "units it takes", "takes_u", []string{"takes", "units"}, true, of(func(_ *lab.Lab, d lab.Device) string {
		if d.TakesU == nil {
			return ""
		}
		return strconv.Itoa(*d.TakesU)
	})},
	{"height_mm", "height", "height_mm", []string{"height"}, true, of(func(_ *lab.Lab, d lab.Device) string { return figure(d.HeightMM) })},
	{"width_mm", "width", "width_mm", []string{"width"}, true, of(func(_ *lab.Lab, d lab.Device) string { return figure(d.WidthMM) })},
	{"depth_mm", "depth", "depth_mm", []string{"depth"}, true, of(func(_ *lab.Lab, d lab.Device) string { return figure(d.DepthMM) })},
	{"weight_kg", "weight", "weight_kg", []string{"weight"}, true, of(func(_ *lab.Lab, d lab.Device) string { return figure(d.WeightKG) })},
	{"notes", "notes", "notes", []string{"note"}, false, of(func(_ *lab.Lab, d lab.Device) string { return d.Notes })},
}

// cableColumns are what tells a cable: a line of a cable schedule.
var cableColumns = []column{
	{"id", "id", "id", nil, false, of(func(_ *lab.Lab, c lab.Cable) string { return string(c.ID) })},
	{"label", "label", "label", []string{"name"}, false, of(func(_ *lab.Lab, c lab.Cable) string { return c.Label })},
	{"a", "one end", "a", []string{"one end"}, false, of(func(l *lab.Lab, c lab.Cable) string { return rundown.EndText(l, c.A) })},
	{"b", "other end", "b", []string{"other end"}, false, of(func(l *lab.Lab, c lab.Cable) string { return rundown.EndText(l, c.B) })},
	{"a_port", "port of the one end", "a_port", nil, false, nil},
	{"b_port", "port of the other end", "b_port", nil, false, nil},
	{"kind", "kind", "cable_kind", []string{"cable_kind"}, false, of(func(_ *lab.Lab, c lab.Cable) string { return string(c.Kind) })},
	{"state", "state", "state", nil, false, of(func(_ *lab.Lab, c lab.Cable) string { return string(c.State) })},
}

// partColumns are what tells a part and where it is.
var partColumns = []column{
	{"id", "id", "id", nil, false, of(func(_ *lab.Lab, p lab.Part) string { return string(p.ID) })},
	{"name", "name", "name", nil, false, of(func(_ *lab.Lab, p lab.Part) string { return p.Name })},
	{"kind", "kind", "part_kind", []string{"part_kind", "type"}, false, of(func(_ *lab.Lab, p lab.Part) string { return string(p.Kind) })},
	{"state", "state", "state", nil, false, of(func(_ *lab.Lab, p lab.Part) string { return string(p.State) })},
	{"device", "device it is in", "device_id", []string{"in"}, false, of(deviceText)},
	{"seat", "bay, slot or socket", "seat", nil, false, of(func(_ *lab.Lab, p lab.Part) string {
		if p.Seat == 0 {
			return ""
		}
		return strconv.Itoa(p.Seat)
	})},
}

// Where a part is that is in no device.
const (
	inBin   = "spares bin"
	onOrder = "on order"
)

// deviceText names the device that a part is in; one without a name by its id.
func deviceText(l *lab.Lab, p lab.Part) string {
	if p.Ordered {
		return onOrder
	}
	d, ok := lab.Find[lab.Device](l, p.Device)
	if !ok {
		return inBin
	}
	if d.Name == "" {
		return string(d.ID)
	}
	return d.Name
}

// partOfEachKind stands for what a part can be: each kind has facts of its own.
func partOfEachKind() []lab.Record {
	var parts []lab.Record
	for _, k := range lab.PartKinds() {
		parts = append(parts, lab.Part{Kind: k})
	}
	return parts
}

// withFacts adds columns for all further facts of the records, each under its
// field's name: figures in the unit that the name says, others as one types
// them.
func withFacts(plain []column, samples ...lab.Record) []column {
	list := slices.Clone(plain)
	var fields []rundown.Field
	for _, sample := range samples {
		fields = append(fields, rundown.FieldsOf(sample)...)
	}
	for _, f := range fields {
		if slices.ContainsFunc(list, func(c column) bool { return c.field == f.Field }) {
			continue
		}
		field := f.Field
		inUnit := f.Number && unitName.MatchString(field)
		list = append(list, column{field, f.Name, field, []string{strings.ToLower(f.Name)}, inUnit, func(l *lab.Lab, r lab.Record) string {
			said := rundown.Saying(l, r)
			if inUnit {
				return figure(said.Number(field))
			}
			return said.Text(field)
		}})
	}
	return list
}

// unitName matches the fields whose unit is in their name, but for bytes.
var unitName = regexp.MustCompile(`_(mm|m|kg|w|db|c|slots|bays|leads|needed)$|^sockets$`)

func figure(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'f', -1, 64)
}

// written are the columns of a file that is written.
func (of *Listing) written() []column {
	return slices.DeleteFunc(slices.Clone(of.columns), func(c column) bool { return c.write == nil })
}

// index finds a column by its name, -1 if there is none.
func (of *Listing) index(name string) int {
	return slices.IndexFunc(of.columns, func(c column) bool { return c.name == name })
}

// own is the column that goes by that name, "" if none does.
func (of *Listing) own(name string) string {
	folded := strings.ToLower(strings.TrimSpace(name))
	for _, c := range of.columns {
		if c.name == folded || slices.Contains(c.also, folded) {
			return c.name
		}
	}
	return ""
}

func (of *Listing) names() string {
	var names []string
	for _, c := range of.columns {
		names = append(names, c.name)
	}
	return strings.Join(names, ", ")
}
