package lab

// Place is somewhere things are outside a rack, or where a rack stands: a
// room, a desk, a shed. Places nest.
type Place struct {
	ID    ID     `json:"id" required:"true"`
	Name  string `json:"name" required:"true" maxLength:"80" lab:"name"`
	In    ID     `json:"place_id,omitempty" description:"The place this one is in"`
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
	f.text("notes", p.Notes, maxNotes)
	p.Remarked.check(f)
}

func (p Place) checkIn(l *Lab, f *faults) {
	seen := map[ID]bool{p.ID: true}
	for at := p.In; at != ""; {
		up, _ := Find[Place](l, at)
		if seen[at] {
			f.add("place_id", "%s cannot be in %s, which is itself in %s", quote(p.Name), quote(up.Name), quote(p.Name))
			return
		}
		seen[at] = true
		at = up.In
	}
}
