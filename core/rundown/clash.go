package rundown

import (
	"fmt"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Clash is a fact that two people set to different values, one after the other.
// There is no field where the record itself was added or removed.
type Clash struct {
	Record lab.Key `json:"record" required:"true"`
	Title  string  `json:"title" required:"true" description:"What the record is called"`
	Field  string  `json:"field,omitempty" description:"Its JSON field; absent where it is about all of the record"`
	Name   string  `json:"name,omitempty" description:"What a person calls it"`
	Theirs string  `json:"theirs,omitempty" description:"What it is now, as one types it; absent while unknown"`
	Yours  string  `json:"yours,omitempty" description:"What it was to be"`
	Says   string  `json:"says" required:"true" description:"All of that: 'anvil: weight is 26kg now, and you wrote 25kg'"`
}

// said is a clash with its words.
func (c Clash) said() Clash {
	c.Says = c.words()
	return c
}

func (c Clash) words() string {
	switch {
	case c.Name == "":
		return fmt.Sprintf("%s was changed", c.Title)
	case c.Theirs == "" && c.Yours == "":
		return fmt.Sprintf("%s: %s was changed", c.Title, c.Name)
	}
	unknown := func(s string) string {
		if s == "" {
			return "unknown"
		}
		return text.Short(s)
	}
	return fmt.Sprintf("%s: %s is %s now, and you wrote %s", c.Title, c.Name, unknown(c.Theirs), unknown(c.Yours))
}

// Whose is which of two values is kept where two people set a fact.
type Whose string

// Mine is the value that is being written, Theirs the one that is in the lab.
const (
	Mine   Whose = "mine"
	Theirs Whose = "theirs"
)

// Enum lists both for the published schema.
func (Whose) Enum() []any { return []any{Mine, Theirs} }

// Clashes are the facts that changes set and that others have set to something else
// in the meantime: was is the lab that the writer saw, now the lab as it is, and
// after that lab with the changes.
func Clashes(was, now, after *lab.Lab, changes []lab.Change) []Clash {
	var list []Clash
	for _, c := range changes {
		seen := was.Get(c.Key())
		fields, clash := c.Clashing(seen)
		if !clash {
			continue
		}
		r := c.Before
		if r == nil {
			r = c.After
		}
		of := Clash{Record: c.Key(), Title: titleIn(now, r)}
		if len(fields) == 0 {
			list = append(list, of.said())
			continue
		}
		list = append(list, factsThatClash(of, Saying(was, seen), Saying(now, c.Before), Saying(after, c.After), fields)...)
	}
	return list
}

// factsThatClash are those facts of one record; a field that no fact says stands
// for itself.
func factsThatClash(of Clash, was, now, after Said, fields []string) []Clash {
	var list []Clash
	for _, f := range FieldsOf(closed(now.box)) {
		theirs, yours := now.Text(f.Field), after.Text(f.Field)
		if theirs != was.Text(f.Field) && theirs != yours {
			is := of
			is.Field, is.Name, is.Theirs, is.Yours = f.Field, f.Name, theirs, yours
			list = append(list, is.said())
		}
	}
	if len(list) == 0 {
		for _, field := range fields {
			is := of
			is.Field, is.Name = field, lab.RecordKind(field).Words()
			list = append(list, is.said())
		}
	}
	return list
}
