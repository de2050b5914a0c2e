package lab

import (
	"slices"

	"golang.org/x/text/currency"
)

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
	Name      string    `json:"name,omitempty" maxLength:"80" lab:"name"`
	Currency  string    `json:"currency,omitempty" description:"ISO 4217 code"`
	MainsV    *float64  `json:"mains_v,omitempty" description:"Mains voltage in volts"`
	ForHours  *float64  `json:"continuous_fraction,omitempty" description:"How much of a breaker may run for hours; 0.8 if it is absent"`
	Numbering Numbering `json:"unit_numbering" required:"true" description:"The end of every rack that unit 1 is at"`

	Tariff
	ToHoldMin *float64 `json:"to_hold_min,omitempty" description:"How long every UPS is to hold"`

	Legend  []Meaning `json:"legend,omitempty" maxItems:"20" description:"What the colours of cables mean here"`
	SlackMM *float64  `json:"slack_mm,omitempty" description:"What a lead is to have to spare; 100 if it is absent"`
	Pattern string    `json:"label_pattern,omitempty" maxLength:"80" description:"How cables are labelled, such as {panel}.{port:02}"`
}

// Key implements Record.
func (s Settings) Key() Key { return Key{KindLab, s.ID} }

// Title implements Record.
func (s Settings) Title() string { return titleOr(s.Name, "the lab") }

// Refs implements Record.
func (s Settings) Refs() []Ref { return nil }

// Meaning is what a colour of cable means in this lab.
type Meaning struct {
	Colour Colour `json:"colour" required:"true" maxLength:"10"`
	Means  string `json:"means" required:"true" maxLength:"80"`
}

func (s Settings) checkCabling(f *faults) {
	const most = 20
	if len(s.Legend) > most {
		f.add("legend", "has %d entries; at most %d are allowed", len(s.Legend), most)
	}
	for i, m := range s.Legend {
		if !m.Colour.known() {
			f.add("legend", "%s is not a colour known here; write one of %s, or one such as #3a6ea5", quote(string(m.Colour)),
				joinWords(ColourNames()))
		}
		f.need("legend", m.Means)
		f.line("legend", m.Means, 80)
		if slices.ContainsFunc(s.Legend[:i], func(o Meaning) bool { return o.Colour == m.Colour }) {
			f.add("legend", "gives %s two meanings", m.Colour)
		}
	}
	f.between("slack_mm", s.SlackMM, 0, 5000, "mm")
	f.line("label_pattern", s.Pattern, 80)
}

func (s Settings) check(f *faults) {
	if s.ID != SettingsID {
		f.add("id", "the lab's settings have the id %q", SettingsID)
	}
	f.name("name", s.Name)
	if _, err := currency.ParseISO(s.Currency); s.Currency != "" && (err != nil || len(s.Currency) != 3) {
		f.add("currency", "%s is not a currency code; write three letters such as GBP, EUR or USD", quote(s.Currency))
	}
	f.between("mains_v", s.MainsV, 12, 700, "V")
	f.between("continuous_fraction", s.ForHours, 0.1, 1, "of the rating")
	oneOf(f, "unit_numbering", s.Numbering, []Numbering{FromBottom, FromTop})
	s.Tariff.check(f)
	f.between("to_hold_min", s.ToHoldMin, 0, 100_000, "minutes")
	s.checkCabling(f)
}

func titleOr(name, otherwise string) string {
	if name == "" {
		return otherwise
	}
	return name
}
