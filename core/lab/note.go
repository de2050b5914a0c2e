package lab

import "cmp"

// Note is something that was done to the lab and that no record shows, as a
// person wrote it into the logbook: "cleaned the filters".
type Note struct {
	ID   ID     `json:"id" required:"true"`
	Day  Day    `json:"day" required:"true" description:"The day it was done"`
	Text string `json:"text" required:"true" maxLength:"2000"`
}

// Key implements Record.
func (n Note) Key() Key { return Key{KindNote, n.ID} }

// Title implements Record.
func (n Note) Title() string { return "note " + quote(n.Text) }

// Refs implements Record.
func (n Note) Refs() []Ref { return nil }

func (n Note) check(f *faults) {
	f.id(n.ID)
	f.need("day", string(n.Day))
	f.day("day", n.Day)
	f.need("text", n.Text)
	f.text("text", n.Text, 2000)
}

// Acceptance says that a finding is known and why it may stay, and when it
// should be looked at again.
type Acceptance struct {
	ID      ID     `json:"id" required:"true"`
	Finding string `json:"finding" required:"true" maxLength:"300" description:"The key of the finding"`
	Reason  string `json:"reason" required:"true" maxLength:"500"`
	AgainOn Day    `json:"again_on,omitempty" description:"The day to look again; never, if it is absent"`
}

// Key implements Record.
func (a Acceptance) Key() Key { return Key{KindAcceptance, a.ID} }

// Title implements Record.
func (a Acceptance) Title() string { return cmp.Or(shorten(a.Reason), "an accepted finding") }

// Refs implements Record.
func (a Acceptance) Refs() []Ref { return nil }

func (a Acceptance) uniques() []Unique { return []Unique{{"finding", a.Finding}} }

func (a Acceptance) check(f *faults) {
	f.id(a.ID)
	f.need("finding", a.Finding)
	f.line("finding", a.Finding, 300)
	f.need("reason", a.Reason)
	f.line("reason", a.Reason, maxPurpose)
	f.day("again_on", a.AgainOn)
}

// Accepted finds what was said of a finding.
func (l *Lab) Accepted(finding string) (Acceptance, bool) {
	id, ok := l.Having(KindAcceptance, Unique{"finding", finding})
	if !ok {
		return Acceptance{}, false
	}
	return Find[Acceptance](l, id)
}
