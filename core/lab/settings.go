package lab

import "golang.org/x/text/currency"

// Numbering is the end of a rack that unit 1 is at.
type Numbering string

// Unit 1 is at the foot of the rack, as most rails are printed, or at its head.
const (
	FromBottom Numbering = "bottom"
	FromTop    Numbering = "top"
)

// Enum lists the numberings for the published schema.
func (Numbering) Enum() []any { return []any{FromBottom, FromTop} }

// SettingsID is the id of a lab's one Settings record.
const SettingsID ID = "lab"

// Settings are what holds for the lab as a whole.
type Settings struct {
	ID        ID        `json:"id" required:"true"`
	Name      string    `json:"name,omitempty" maxLength:"80"`
	Currency  string    `json:"currency,omitempty" description:"ISO 4217 code"`
	MainsV    *float64  `json:"mains_v,omitempty" description:"Mains voltage in volts"`
	Numbering Numbering `json:"unit_numbering" required:"true" description:"The end of every rack that unit 1 is at"`
}

// Key implements Record.
func (s Settings) Key() Key { return Key{KindLab, s.ID} }

// Title implements Record.
func (s Settings) Title() string { return titleOr(s.Name, "the lab") }

// Refs implements Record.
func (s Settings) Refs() []Ref { return nil }

func (s Settings) uniqueName() string { return "" }

func (s Settings) check(f *faults) {
	if s.ID != SettingsID {
		f.add("id", "the lab's settings have the id %q", SettingsID)
	}
	f.name("name", s.Name)
	if _, err := currency.ParseISO(s.Currency); s.Currency != "" && (err != nil || len(s.Currency) != 3) {
		f.add("currency", "%s is not a currency code; write three letters such as GBP, EUR or USD", quote(s.Currency))
	}
	f.between("mains_v", s.MainsV, 12, 700, "V")
	oneOf(f, "unit_numbering", s.Numbering, []Numbering{FromBottom, FromTop})
}

func (s Settings) checkIn(*Lab, *faults) {}

func titleOr(name, otherwise string) string {
	if name == "" {
		return otherwise
	}
	return name
}
