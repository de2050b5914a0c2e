package rack

import (
	"fmt"
	"math"
	"strconv"

	"levelstaff/core/lab"
)

// Clear width between the posts of standard racks, in millimetres (EIA-310 /
// IEC 60297; domain.md, Space).
const (
	opening19MM = 450
	opening10MM = 222
)

// Room for cables behind a device, in millimetres: power leads and stiff
// cables want more (domain.md, Space).
const (
	CableRoomMM = 50
	PowerRoomMM = 75
)

// RoomBehind is the room for cables that a kind of device wants behind it.
func RoomBehind(k lab.DeviceKind) float64 {
	if k.Traits().RearPower {
		return PowerRoomMM
	}
	return CableRoomMM
}

// OpeningMM is the clear width between a rack's posts, nil while unknown.
func OpeningMM(r lab.Rack) *float64 {
	mm := 0.0
	switch r.Form {
	case lab.Rack19:
		mm = opening19MM
	case lab.Rack10:
		mm = opening10MM
	default:
		return r.OpeningMM
	}
	return &mm
}

// Outcome is what a check of fit came to.
type Outcome string

// It fits, it does not, or a measure is missing to tell.
const (
	Fits      Outcome = "fits"
	NoFit     Outcome = "no"
	Unchecked Outcome = "unchecked"
)

// Enum lists the outcomes for the published schema.
func (Outcome) Enum() []any { return []any{Fits, NoFit, Unchecked} }

// Check is one question of fit and what it came to.
type Check struct {
	About   string   `json:"about" required:"true" description:"width, depth, rails, behind, door or weight"`
	Outcome Outcome  `json:"outcome" required:"true"`
	Say     string   `json:"say" required:"true"`
	Field   string   `json:"field,omitempty" description:"The fact that is missing, where one of the thing's is"`
	SpareMM *float64 `json:"spare_mm,omitempty" description:"What is to spare, below zero for what is lacking"`
}

// Short says in a few words what a check that was not passed is about, to stand
// beside the thing: "15 mm too deep with its cables", "depth not known".
func (c Check) Short() string {
	if c.Outcome == Unchecked {
		if c.About == "behind" {
			return "what is behind it is not measured"
		}
		return c.About + " not checked"
	}
	lacks := ""
	if c.SpareMM != nil {
		lacks = figure(-*c.SpareMM) + " mm "
	}
	switch c.About {
	case "width":
		return lacks + "too wide"
	case "depth":
		return lacks + "too deep with its cables"
	case "rails":
		return "its rails do not span the posts"
	case "door":
		return lacks + "too far out for the door"
	case "behind":
		return lacks + "too deep for what is behind it"
	}
	return "too heavy for the rack"
}

// Thing is what is to go into a rack: a device, or one that is not owned yet.
type Thing struct {
	Title string
	Kind  lab.DeviceKind
	Spec  lab.Spec
	Self  lab.ID // the device's own id, which is not in its own way
}

// ThingOf is a device as something to go into a rack.
func ThingOf(l *lab.Lab, d lab.Device) Thing { return Thing{d.Title(), d.Kind, l.SpecOf(d), d.ID} }

// InRack checks what is the same wherever in the rack a thing goes: its
// measures, and weight (domain.md, Space).
func InRack(l *lab.Lab, t Thing, r lab.Rack, share lab.Share) []Check {
	list := Measures(t, r, share)
	if c, ok := weightCheck(l, t, r); ok {
		list = append(list, c)
	}
	return list
}

// Measures checks what a thing and a rack tell by themselves: width, depth,
// rails and door.
func Measures(t Thing, r lab.Rack, share lab.Share) []Check {
	list := []Check{widthCheck(t, r, share), depthCheck(t, r)}
	if t.Spec.Mount == lab.OnRails {
		list = append(list, railsCheck(t, r))
	}
	if c, ok := doorCheck(t, r); ok {
		list = append(list, c)
	}
	return list
}

func unchecked(about, field, format string, args ...any) Check {
	return Check{About: about, Outcome: Unchecked, Field: field, Say: fmt.Sprintf(format, args...)}
}

func measured(about string, spare float64, format string, args ...any) Check {
	c := Check{About: about, Outcome: Fits, Say: fmt.Sprintf(format, args...), SpareMM: &spare}
	if spare < 0 {
		c.Outcome = NoFit
	}
	return c
}

// widthCheck: body and two rails go through the opening; rails count nothing
// for what hangs by its ears. A share of the width is that share of the
// opening.
func widthCheck(t Thing, r lab.Rack, share lab.Share) Check {
	opening := OpeningMM(r)
	if opening == nil {
		return unchecked("width", "", "The opening of %s is unknown, so its width is not checked.", r.Name)
	}
	if t.Spec.WidthMM == nil {
		return unchecked("width", "width_mm", "Its width is unknown, so whether it fits between the posts of %s is not checked.", r.Name)
	}
	from, to := share.Sixths()
	room := *opening * float64(to-from) / 6
	need, with := *t.Spec.WidthMM, ""
	if t.Spec.Mount == lab.OnRails {
		if t.Spec.RailMM == nil {
			if spare := room - need; spare < 0 {
				return measured("width", spare, "It is %s mm wide and %s has %s mm between its posts.", figure(need), r.Name, figure(room))
			}
			return unchecked("width", "rail_mm", "The thickness of its rails is unknown: they have %s mm on each side.", figure((room-need)/2))
		}
		need += 2 * *t.Spec.RailMM
		with = " with its rails"
	}
	return measured("width", room-need, "It is %s mm wide%s and %s has %s mm between its posts.", figure(need), with, r.Name, figure(room))
}

func depthCheck(t Thing, r lab.Rack) Check {
	room := RoomBehind(t.Kind)
	if r.DepthMM == nil {
		return unchecked("depth", "", "The depth of %s is unknown, so its depth is not checked.", r.Name)
	}
	takes := *r.DepthMM - room
	behind := "cables"
	if room == PowerRoomMM {
		behind = "power leads"
	}
	if t.Spec.DepthMM == nil {
		return unchecked("depth", "depth_mm", "Its depth is unknown; %s takes %s mm with %s behind.", r.Name, figure(takes), behind)
	}
	return measured("depth", takes-*t.Spec.DepthMM, "It is %s mm deep and %s takes %s mm with %s behind.", figure(*t.Spec.DepthMM), r.Name,
		figure(takes), behind)
}

// railsCheck: the rails' range covers the distance between the posts.
func railsCheck(t Thing, r lab.Rack) Check {
	switch {
	case r.DepthMM == nil:
		return unchecked("rails", "", "The depth of %s is unknown, so its rails are not checked.", r.Name)
	case t.Spec.RailFromMM == nil:
		return unchecked("rails", "rail_from_mm", "The span of its rails is unknown.")
	case t.Spec.RailToMM == nil:
		return unchecked("rails", "rail_to_mm", "The span of its rails is unknown.")
	}
	posts := *r.DepthMM
	spare := math.Min(posts-*t.Spec.RailFromMM, *t.Spec.RailToMM-posts)
	return measured("rails", spare, "Its rails span %s to %s mm and the posts of %s are %s mm apart.", figure(*t.Spec.RailFromMM),
		figure(*t.Spec.RailToMM), r.Name, figure(posts))
}

// doorCheck: the door shuts over what sticks out.
func doorCheck(t Thing, r lab.Rack) (Check, bool) {
	if r.DoorMM == nil || t.Spec.FrontMM == nil {
		return Check{}, false
	}
	return measured("door", *r.DoorMM-*t.Spec.FrontMM, "It sticks out %s mm and the door of %s leaves %s mm.", figure(*t.Spec.FrontMM),
		r.Name, figure(*r.DoorMM)), true
}

// weightCheck: with it, the rack carries no more than it holds.
func weightCheck(l *lab.Lab, t Thing, r lab.Rack) (Check, bool) {
	if r.HoldsKG == nil {
		return Check{}, false
	}
	w := WeightOf(l, r)
	if t.Spec.WeightKG == nil {
		return unchecked("weight", "weight_kg", "Its weight is unknown; %s carries %s%s kg of %s kg.", r.Name, atLeast(w), figure(w.KnownKG),
			figure(*r.HoldsKG)), true
	}
	with := w.KnownKG + *t.Spec.WeightKG
	if d, ok := lab.Find[lab.Device](l, t.Self); ok {
		if in, ok := l.RackOf(d); ok && in.ID == r.ID {
			with = w.KnownKG // it is among what the rack carries
		}
	}
	c := Check{About: "weight", Outcome: Fits, Say: fmt.Sprintf("With it %s carries %s%s kg of %s kg.", r.Name, atLeast(w), figure(with),
		figure(*r.HoldsKG))}
	if with > *r.HoldsKG {
		c.Outcome = NoFit
	}
	return c, true
}

func atLeast(w Weight) string {
	if len(w.Unweighed) > 0 {
		return "at least "
	}
	return ""
}

// Behind checks a thing at a spot in units against what is mounted at the
// other face: together, with room for cables, they are no deeper than the rack
// (domain.md, Space).
func Behind(l *lab.Lab, t Thing, r lab.Rack, at *lab.Spot, units int, in []lab.Device) []Check {
	var list []Check
	is := lab.Device{ID: t.Self, At: at, Spec: lab.Spec{TakesU: &units}}
	for _, o := range in {
		if o.ID == t.Self || o.At.Where != lab.InUnits || o.At.Face == at.Face || o.Kind == lab.BlankingPanel || !overlap(is, o) ||
			!FaceEachOther(is, o) {
			continue
		}
		spec := l.SpecOf(o)
		switch {
		case t.Spec.DepthMM == nil:
			list = append(list, unchecked("behind", "depth_mm", "Its depth is unknown, and %s is behind it.", o.Title()))
		case spec.DepthMM == nil || r.DepthMM == nil:
			list = append(list, unchecked("behind", "", "%s is behind it, and whether they collide is unknown.", o.Title()))
		default:
			need := *t.Spec.DepthMM + *spec.DepthMM + CableRoomMM
			list = append(list, measured("behind", *r.DepthMM-need, "With %s behind it and %d mm for cables it needs %s of %s mm.", o.Title(),
				CableRoomMM, figure(need), figure(*r.DepthMM)))
		}
	}
	return list
}

func overlap(a, b lab.Device) bool {
	return a.At.Unit < b.At.Unit+b.Units() && b.At.Unit < a.At.Unit+a.Units()
}

// FaceEachOther reports whether two devices of opposite faces are behind each other:
// who looks from the rear sees left and right change sides.
func FaceEachOther(a, b lab.Device) bool {
	al, ar := a.At.Share.Sixths()
	bl, br := b.At.Share.Sixths()
	return al < 6-bl && 6-br < ar
}

// Worst is the outcome of several checks together.
func Worst(checks []Check) Outcome {
	worst := Fits
	for _, c := range checks {
		if c.Outcome == NoFit {
			return NoFit
		}
		if c.Outcome == Unchecked {
			worst = Unchecked
		}
	}
	return worst
}

// FitOf checks a device where it is. ok is false where it is in no rack's
// units.
func FitOf(l *lab.Lab, d lab.Device) (checks []Check, ok bool) {
	if d.At == nil || d.At.Where != lab.InUnits {
		return nil, false
	}
	r, ok := lab.Find[lab.Rack](l, d.At.Rack)
	if !ok {
		return nil, false
	}
	t := ThingOf(l, d)
	return append(InRack(l, t, r, d.At.Share), Behind(l, t, r, d.At, d.Units(), l.Held(r.Key()))...), true
}

func figure(v float64) string { return strconv.FormatFloat(math.Round(v*10)/10, 'f', -1, 64) }

// Aside is a mounted device as one sees it from the rack's side.
type Aside struct {
	Device  lab.ID   `json:"device_id" required:"true"`
	DepthMM *float64 `json:"depth_mm,omitempty"`
	FrontMM *float64 `json:"front_mm,omitempty" description:"How far it sticks out before the posts"`
	RoomMM  float64  `json:"room_mm" required:"true" description:"What is kept free behind it for cables"`
	Outcome Outcome  `json:"outcome" required:"true" description:"Of its depth and of what is behind it"`
}

// SideOf lists what is mounted in a rack's units, as seen from its side.
func SideOf(l *lab.Lab, r lab.Rack) []Aside {
	list := []Aside{}
	in := l.Held(r.Key())
	for _, d := range in {
		if d.At.Where != lab.InUnits {
			continue
		}
		t := ThingOf(l, d)
		checks := append([]Check{depthCheck(t, r)}, Behind(l, t, r, d.At, d.Units(), in)...)
		list = append(list, Aside{d.ID, t.Spec.DepthMM, t.Spec.FrontMM, RoomBehind(d.Kind), Worst(checks)})
	}
	return list
}
