package exchange

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/table"
	"levelstaff/core/text"
)

// column is one column of the records' table in a file.
type column struct {
	name    string
	title   string
	field   string // the JSON field, as rundown.SetFact takes it
	also    []string
	measure bool                                            // a figure, in which a comma may stand for the point
	later   bool                                            // it names what other lines may bring or move
	write   func(*lab.Lab, lab.Record, rundown.Said) string // nil for one that is read alone
}

// Listing is what a file lists, a line each.
type Listing struct {
	Kind    lab.Kind
	List    string // what it lists, as addresses and file names have it
	of      *table.Spec
	sheet   string // the name of a workbook's sheet
	example string // of a kind; "" where something new needs none
	name    string // the column of its name
	columns []column
	words   func() map[string]string // what columns are called elsewhere, and which of ours that is
}

// sayings are what other people's lists call columns, and examples the kinds
// that something new has to be one of.
var (
	sayings  = map[lab.RecordKind]map[string][]string{lab.KindDevice: deviceSayings, lab.KindPart: partSayings, lab.KindCable: cableSayings}
	examples = map[lab.RecordKind]string{lab.KindDevice: "server", lab.KindPart: "drive"}
)

// Devices, Parts and Cables are what the command line can list.
var (
	Devices = listing(lab.KindDevice)
	Guests  = guests()
	Parts   = listing(lab.KindPart)
	Cables  = listing(lab.KindCable)
)

// Listings are what files can list: each kind of record that has a name and says
// how the lab is built.
func Listings() []*Listing {
	list := []*Listing{Devices, Guests, Parts, Cables}
	for _, k := range lab.Kinds() {
		if k.Built && !k.Alone && k.Name != "" && !slices.ContainsFunc(list, func(of *Listing) bool {
			return of.Kind.RecordKind == k.RecordKind
		}) {
			list = append(list, listing(k.RecordKind))
		}
	}
	return list
}

// Title is what the listing is called in the names of routes: Devices.
func (of *Listing) Title() string {
	if of.List != of.Kind.List {
		return text.Capital(of.List)
	}
	return of.Kind.Title + "s"
}

func listing(kind lab.RecordKind) *Listing {
	k, _ := lab.KindOf(kind)
	of := listingOf(k, table.Of(kind), k.List)
	if kind == lab.KindDevice { // as spreadsheets have it; ours says both in where
		at := slices.IndexFunc(of.columns, func(c column) bool { return c.name == "where" })
		of.columns = slices.Insert(of.columns, at+1, column{name: "rack", title: "rack", field: "rack", later: true},
			column{name: "unit", title: "unit of the rack", field: "unit", later: true})
	}
	return of
}

// guests lists VMs and containers, apart from the devices that one can touch.
func guests() *Listing {
	k, _ := lab.KindOf(lab.KindDevice)
	of := listingOf(k, table.Guests(), "guests")
	of.example = string(lab.VM)
	return of
}

func listingOf(k lab.Kind, spec *table.Spec, list string) *Listing {
	kind := k.RecordKind
	of := &Listing{Kind: k, List: list, of: spec, sheet: text.Capital(strings.ReplaceAll(list, "_", " ")), example: examples[kind],
		name: k.Name}
	of.columns = []column{{name: "id", title: "id", field: "id", write: func(_ *lab.Lab, r lab.Record, _ rundown.Said) string {
		return string(r.Key().ID)
	}}}
	for _, c := range spec.Columns {
		if c.Derived || slices.ContainsFunc(of.columns, func(o column) bool { return o.name == c.File }) {
			continue
		}
		inUnit := c.Kind == table.Figure && unitName.MatchString(c.Field)
		of.columns = append(of.columns, column{name: c.File, title: c.Title, field: c.Field,
			also: append([]string{c.Field, strings.ToLower(c.Title)}, c.Words...), measure: inUnit, later: c.Later,
			write: func(_ *lab.Lab, _ lab.Record, said rundown.Said) string {
				if inUnit {
					return figure(said.Number(c.Field))
				}
				return said.Text(c.Field)
			}})
	}
	if kind == lab.KindCable {
		for _, end := range []string{"a", "b"} {
			at := slices.IndexFunc(of.columns, func(c column) bool { return c.name == end })
			of.columns = slices.Insert(of.columns, at+1,
				column{name: end + "_port", title: "port of the " + of.columns[at].title, field: end + "_port", later: true})
		}
	}
	of.words = sync.OnceValue(func() map[string]string { return wordsOf(of.columns, sayings[kind]) })
	return of
}

// unitName matches the fields whose unit is in their name, but for bytes.
var unitName = regexp.MustCompile(`_(mm|m|kg|w|db|c|u|slots|bays|leads|needed)$|^sockets$`)

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
