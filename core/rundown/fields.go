package rundown

import (
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
	Unit    string   `json:"unit,omitempty" description:"What a bare number is taken for"`
	Number  bool     `json:"number,omitempty"`
	List    bool     `json:"list,omitempty" description:"It has several values, with commas between"`
	Private bool     `json:"private,omitempty" description:"Left out of what is shared"`
}

// Enum lists the groups for the published schema.
func (Group) Enum() []any {
	return []any{Basics, Measures, Within, Ports, PowerUse, WaysIn, Cost, Hidden}
}

// FieldsOf lists the facts that can be said of such a record, in the order
// they are written in.
func FieldsOf(r lab.Record) []Field {
	var list []Field
	kind, _ := lab.KindOf(r.Key().Kind)
	for _, f := range factsOf(scopeOf(r)) {
		list = append(list, Field{f.field, f.name, f.group, f.example, slices.Clone(f.choices), f.measured.Base, f.number != nil, f.many, kind.Private(f.field)})
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

// ReadWhen reads a day, month or year as people write it.
func ReadWhen(typed string) (lab.When, error) { return readWhen(typed) }
