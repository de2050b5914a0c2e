package rundown

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// Field is a fact as a form, a table or a file has it.
type Field struct {
	Field   string   `json:"field" required:"true" description:"Its JSON field"`
	Name    string   `json:"name" required:"true" description:"What a person calls it"`
	Group   Group    `json:"group,omitempty"`
	Example string   `json:"example,omitempty"`
	Choices []string `json:"choices,omitempty"`
	Unit    string   `json:"unit,omitempty" description:"What a bare number is read as"`
	Number  bool     `json:"number,omitempty"`
	List    bool     `json:"list,omitempty" description:"It has several values, with commas between"`
	Private bool     `json:"private,omitempty" description:"Left out of what is shared"`
	Long    bool     `json:"long,omitempty" description:"Its text may have several lines"`
	Usual   string   `json:"usual,omitempty" description:"What holds unless something else is said"`
	Words   bool     `json:"words,omitempty" description:"It is free text"`
	Maybe   bool     `json:"maybe,omitempty" description:"There need not be one, so that nothing is missing where there is none"`
	// Names is the kind of record it names.
	Names lab.RecordKind `json:"names,omitempty" description:"The kind of record it names"`

	// File is what a column of a file calls it.
	File string `json:"-"`
	// Later: it names other things, so that of many records it is set last.
	Later bool `json:"-"`
}

// Enum lists the groups for the published schema.
func (Group) Enum() []any {
	return []any{Basics, Measures, Within, Ports, PowerUse, WaysIn, Cost, Make, Hidden}
}

// FieldsOf lists the facts that can be said of such a record: what its line
// begins with, and then the others in the order they are written in.
func FieldsOf(r lab.Record) []Field {
	var list []Field
	kind, _ := lab.KindOf(r.Key().Kind)
	ix := indexes[scopeOf(r)]
	for _, f := range slices.Concat(ix.heads, ix.list) {
		if f.apart {
			continue
		}
		list = append(list, Field{Field: f.field, Name: f.name, Group: f.group, Example: f.example, Choices: slices.Clone(f.choices),
			Unit: f.measured.Base, Number: f.number != nil, List: f.many,
			Private: kind.Private(f.field), Long: f.raw != nil, Usual: f.usual, Words: f.typedWhole && f.names == "", Maybe: f.maybe,
			Names: f.names, File: cmp.Or(f.file, f.field), Later: f.head && f.field != kind.Name && len(f.choices) == 0})
	}
	return list
}

// Said is a record opened for reading its facts. A device that is opened with
// its sheet's spec filled in tells what is known of it from either.
type Said struct {
	lab   *lab.Lab
	box   box
	facts map[string]*fact
}

// Saying opens a record.
func Saying(l *lab.Lab, r lab.Record) Said { return Said{l, open(r), indexes[scopeOf(r)].byField} }

// Text is a fact as one types it into its field, "" while it is unknown.
func (s Said) Text(field string) string {
	if f := s.facts[field]; f != nil {
		return f.show(s.lab, s.box)
	}
	return ""
}

// Number is a fact to reckon with, in the unit records keep; nil for what is
// unknown or no number.
func (s Said) Number(field string) *float64 {
	if f := s.facts[field]; f != nil && f.number != nil {
		return f.number(s.box)
	}
	return nil
}

// Has reports whether it is a fact of such a record at all.
func (s Said) Has(field string) bool { return s.facts[field] != nil }

// FactsOf are the facts of a record as its line says them, but for its name and
// place, what it is for and its note.
func FactsOf(l *lab.Lab, r lab.Record) []string {
	var said []string
	b := open(r)
	for _, f := range factsOf(scopeOf(r)) {
		if f.head || f.raw != nil || slices.Contains([]string{"at", "place_id", "purpose", "state"}, f.field) {
			continue
		}
		if s := f.say(l, b); s != "" {
			said = append(said, s)
		}
	}
	return said
}

// ReadWhen reads a day, month or year as people write it.
func ReadWhen(typed string) (lab.When, error) { return readWhen(typed) }
