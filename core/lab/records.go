package lab

// Records is a number of records, sorted by kind: all of a lab's, or those
// that a change touched.
type Records struct {
	Settings    *Settings    `json:"settings,omitempty"`
	Places      []Place      `json:"places,omitempty"`
	Racks       []Rack       `json:"racks,omitempty"`
	SpecSheets  []SpecSheet  `json:"spec_sheets,omitempty"`
	Devices     []Device     `json:"devices,omitempty"`
	Parts       []Part       `json:"parts,omitempty"`
	Photos      []Photo      `json:"photos,omitempty"`
	Runs        []Run        `json:"runs,omitempty"`
	Cables      []Cable      `json:"cables,omitempty"`
	Drafts      []Draft      `json:"drafts,omitempty"`
	Steps       []Step       `json:"steps,omitempty"`
	Notes       []Note       `json:"notes,omitempty"`
	Acceptances []Acceptance `json:"acceptances,omitempty"`
	Filters     []Filter     `json:"filters,omitempty"`
}

// All gathers every record of the lab, those that are referred to first and
// older ones before newer ones.
func (l *Lab) All() Records {
	var all Records
	for _, kind := range Kinds() {
		for r := range l.Records(kind) {
			all.Add(r)
		}
	}
	return all
}

// Add puts one more record into its list.
func (all *Records) Add(r Record) { r.addTo(all) }

// List is all of them in one list, those that are referred to first.
func (all Records) List() []Record {
	var list []Record
	if all.Settings != nil {
		list = append(list, *all.Settings)
	}
	list = appendRecords(list, all.Places)
	list = appendRecords(list, all.Racks)
	list = appendRecords(list, all.SpecSheets)
	list = appendRecords(list, all.Devices)
	list = appendRecords(list, all.Parts)
	list = appendRecords(list, all.Photos)
	list = appendRecords(list, all.Runs)
	list = appendRecords(list, all.Cables)
	list = appendRecords(list, all.Drafts)
	list = appendRecords(list, all.Steps)
	list = appendRecords(list, all.Notes)
	list = appendRecords(list, all.Acceptances)
	return appendRecords(list, all.Filters)
}

func appendRecords[R Record](list []Record, more []R) []Record {
	for _, r := range more {
		list = append(list, r)
	}
	return list
}

func (s Settings) addTo(all *Records)   { all.Settings = &s }
func (p Place) addTo(all *Records)      { all.Places = append(all.Places, p) }
func (r Rack) addTo(all *Records)       { all.Racks = append(all.Racks, r) }
func (d Device) addTo(all *Records)     { all.Devices = append(all.Devices, d) }
func (s SpecSheet) addTo(all *Records)  { all.SpecSheets = append(all.SpecSheets, s) }
func (p Part) addTo(all *Records)       { all.Parts = append(all.Parts, p) }
func (p Photo) addTo(all *Records)      { all.Photos = append(all.Photos, p) }
func (r Run) addTo(all *Records)        { all.Runs = append(all.Runs, r) }
func (c Cable) addTo(all *Records)      { all.Cables = append(all.Cables, c) }
func (f Filter) addTo(all *Records)     { all.Filters = append(all.Filters, f) }
func (d Draft) addTo(all *Records)      { all.Drafts = append(all.Drafts, d) }
func (s Step) addTo(all *Records)       { all.Steps = append(all.Steps, s) }
func (n Note) addTo(all *Records)       { all.Notes = append(all.Notes, n) }
func (a Acceptance) addTo(all *Records) { all.Acceptances = append(all.Acceptances, a) }

// Named is a record with a name of its own.
type Named interface {
	Record
	// OwnName is what it was called, "" where nobody did.
	OwnName() string
	// Renamed is the record with another name.
	Renamed(name string) Record
}

// OwnName implements Named.
func (s Settings) OwnName() string { return s.Name }

// Renamed implements Named.
func (s Settings) Renamed(name string) Record { s.Name = name; return s }

// OwnName implements Named.
func (p Place) OwnName() string { return p.Name }

// Renamed implements Named.
func (p Place) Renamed(name string) Record { p.Name = name; return p }

// OwnName implements Named.
func (r Rack) OwnName() string { return r.Name }

// Renamed implements Named.
func (r Rack) Renamed(name string) Record { r.Name = name; return r }

// OwnName implements Named.
func (d Device) OwnName() string { return d.Name }

// Renamed implements Named.
func (d Device) Renamed(name string) Record { d.Name = name; return d }

// OwnName implements Named.
func (d Draft) OwnName() string { return d.Name }

// Renamed implements Named.
func (d Draft) Renamed(name string) Record { d.Name = name; return d }

// OwnName implements Named.
func (s SpecSheet) OwnName() string { return s.Name }

// Renamed implements Named.
func (s SpecSheet) Renamed(name string) Record { s.Name = name; return s }
