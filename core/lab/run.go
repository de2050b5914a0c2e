package lab

// Run is a way through the building that cables lie in: a conduit, a duct, a
// hole between floors.
type Run struct {
	ID       ID       `json:"id" required:"true"`
	Name     string   `json:"name" required:"true" maxLength:"80" lab:"name"`
	From     ID       `json:"from_place_id,omitempty" description:"The place it starts in"`
	To       ID       `json:"to_place_id,omitempty" description:"The place it leads to"`
	LengthM  *float64 `json:"length_m,omitempty"`
	InsideMM *float64 `json:"inside_mm,omitempty" description:"Inside diameter of a conduit or duct; absent where cables just lie"`
	Notes    string   `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (r Run) Key() Key { return Key{KindRun, r.ID} }

// Title implements Record.
func (r Run) Title() string { return titleOr(r.Name, "a run") }

// Refs implements Record.
func (r Run) Refs() []Ref {
	var refs []Ref
	if r.From != "" {
		refs = append(refs, Ref{"from_place_id", Key{KindPlace, r.From}, Refuse})
	}
	if r.To != "" {
		refs = append(refs, Ref{"to_place_id", Key{KindPlace, r.To}, Refuse})
	}
	return refs
}

func (r Run) uniques() []Unique { return byName(r.Name) }

func (r Run) check(f *faults) {
	f.id(r.ID)
	f.need("name", r.Name)
	f.name("name", r.Name)
	f.between("length_m", r.LengthM, 0.1, longestM, "m")
	f.between("inside_mm", r.InsideMM, 1, 2000, "mm")
	f.text("notes", r.Notes, maxNotes)
	r.Remarked.check(f)
}
