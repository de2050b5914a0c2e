package lab

// Place is somewhere things are outside a rack, or where a rack stands: a
// room, a desk, a shed. Places nest.
type Place struct {
	ID   ID     `json:"id" required:"true"`
	Name string `json:"name" required:"true" maxLength:"80" lab:"name"`
	In   ID     `json:"place_id,omitempty" description:"The place this one is in"`
	// Outside is of a place that is lost apart from the house.
	Outside bool `json:"outside,omitempty" description:"It is outside the house"`
	Shut    bool `json:"shut,omitempty" description:"No air goes through it of itself"`

	MostDB *float64 `json:"most_db,omitempty" description:"dB(A) that are too loud there"`

	Notes string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (p Place) Key() Key { return Key{KindPlace, p.ID} }

// Title implements Record.
func (p Place) Title() string { return titleOr(p.Name, "a place") }

// Refs implements Record.
func (p Place) Refs() []Ref {
	if p.In == "" {
		return nil
	}
	return []Ref{{"place_id", Key{KindPlace, p.In}, Refuse}}
}

func (p Place) uniques() []Unique { return byName(p.Name) }

func (p Place) check(f *faults) {
	f.id(p.ID)
	f.need("name", p.Name)
	f.name("name", p.Name)
	f.between("most_db", p.MostDB, 0, 140, "dB")
	f.text("notes", p.Notes, maxNotes)
	p.Remarked.check(f)
}

func (p Place) checkIn(l *Lab, f *faults) {
	switch back, deep := l.nesting(p, "place_id"); {
	case back == nil && deep:
		f.add("place_id", "%s is too deep: places are at most %d deep in one another", quote(p.Name), MostNested)
	case back == nil:
	case back.Key() == p.Key():
		f.add("place_id", "%s cannot be in itself", quote(p.Name))
	default:
		f.add("place_id", "%s cannot be in %s, which is itself in %s", quote(p.Name), quote(back.Title()), quote(p.Name))
	}
}
