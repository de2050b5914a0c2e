package lab

// MaxRackUnits is the tallest rack that can be written down.
const MaxRackUnits = 60

// RackForm is the width standard a rack follows.
type RackForm string

// The standards of EIA-310 / IEC 60297 for 19 inches and the ten-inch form
// built after it; RackOwn is a frame with measures of its own.
const (
	Rack19  RackForm = "19in"
	Rack10  RackForm = "10in"
	RackOwn RackForm = "own"
)

// Enum lists the forms for the published schema.
func (RackForm) Enum() []any { return anys(rackForms) }

var rackForms = []RackForm{Rack19, Rack10, RackOwn}

// Stance is how a rack is held up.
type Stance string

// A rack stands on its feet, rolls on castors or hangs on a wall.
const (
	Standing  Stance = "standing"
	OnCastors Stance = "castors"
	OnWall    Stance = "wall"
)

// Enum lists the stances for the published schema.
func (Stance) Enum() []any { return anys(stances) }

var stances = []Stance{Standing, OnCastors, OnWall}

// Rack is a frame that devices are mounted in.
type Rack struct {
	ID        ID       `json:"id" required:"true"`
	Name      string   `json:"name" required:"true" maxLength:"80" lab:"name"`
	Place     ID       `json:"place_id,omitempty" description:"Where the rack is"`
	HeightU   int      `json:"height_u" required:"true" minimum:"1" maximum:"60"`
	Form      RackForm `json:"form,omitempty" description:"Width standard; absent while unknown"`
	FaceMM    *float64 `json:"face_mm,omitempty" description:"Width over the ears, for form own"`
	OpeningMM *float64 `json:"opening_mm,omitempty" description:"Clear width between the posts, for form own"`
	DepthMM   *float64 `json:"depth_mm,omitempty"`
	DoorMM    *float64 `json:"door_mm,omitempty" description:"From the front posts to the closed door; absent without one"`
	MovingKG  *float64 `json:"moving_kg,omitempty" description:"The load it may carry while it is rolled, on castors"`
	HoldsKG   *float64 `json:"holds_kg,omitempty" description:"The load it may carry; for a wall cabinet, what its fixing may"`
	Stance    Stance   `json:"stance,omitempty" description:"How it is held up; absent while unknown"`
	Notes     string   `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (r Rack) Key() Key { return Key{KindRack, r.ID} }

// Title implements Record.
func (r Rack) Title() string { return titleOr(r.Name, "a rack") }

// Refs implements Record.
func (r Rack) Refs() []Ref {
	if r.Place == "" {
		return nil
	}
	return []Ref{{"place_id", Key{KindPlace, r.Place}, Refuse}}
}

func (r Rack) uniques() []Unique { return byName(r.Name) }

func (r Rack) check(f *faults) {
	f.id(r.ID)
	f.need("name", r.Name)
	f.name("name", r.Name)
	if r.HeightU < 1 || r.HeightU > MaxRackUnits {
		f.add("height_u", "a rack has 1 to %d units, not %d", MaxRackUnits, r.HeightU)
	}
	if r.Form != "" {
		oneOf(f, "form", r.Form, rackForms)
	}
	if r.Form != RackOwn && (r.FaceMM != nil || r.OpeningMM != nil) {
		f.add("form", "only a rack with its own measures has a face or an opening to write down; the standard ones are known")
	}
	f.between("face_mm", r.FaceMM, 50, 2000, "mm")
	f.between("opening_mm", r.OpeningMM, 50, 2000, "mm")
	f.between("depth_mm", r.DepthMM, 50, 3000, "mm")
	f.between("door_mm", r.DoorMM, 1, 500, "mm")
	f.between("moving_kg", r.MovingKG, 0.1, 10000, "kg")
	f.between("holds_kg", r.HoldsKG, 0.1, 10000, "kg")
	if r.Stance != "" {
		oneOf(f, "stance", r.Stance, stances)
	}
	f.text("notes", r.Notes, maxNotes)
	r.Remarked.check(f)
}

// checkIn finds what a rack that was made lower no longer has units for.
func (r Rack) checkIn(l *Lab, f *faults) {
	for _, d := range f.mountedIn(l, r) {
		if d.At.Where == InUnits && d.At.Unit+d.Units()-1 > r.HeightU {
			f.add("height_u", "%s has %dU and %s is at %s; move it first", quote(r.Name), r.HeightU, quote(d.Title()),
				l.UnitRange(r, d.At.Unit, d.Units()))
		}
	}
}
