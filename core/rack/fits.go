package rack

import (
	"fmt"

	"levelstaff/core/lab"
)

// Slot is a run of units at one face that a device could be put at.
type Slot struct {
	Unit int      `json:"unit" required:"true" description:"Lowest unit, counted from the rack's foot"`
	Face lab.Face `json:"face" required:"true"`
	Fits bool     `json:"fits" required:"true"`
	Why  string   `json:"why,omitempty" description:"What is in the way where it does not fit"`
}

// Slots tells for every unit and face of a rack whether the device would fit
// there with the share of the width it has now (the whole, if it is not in
// units yet), from the foot up, front before rear. Units it takes itself are
// no hindrance. A device that does not say how many units it takes is tried
// with one.
func Slots(l *lab.Lab, d lab.Device, r lab.Rack) []Slot {
	share := lab.Whole
	if d.At != nil && d.At.Where == lab.InUnits {
		share = d.At.Share
	}
	var others []lab.Device
	for _, o := range l.Held(r.Key()) {
		if o.At.Where == lab.InUnits && o.ID != d.ID {
			others = append(others, o)
		}
	}
	slots := []Slot{}
	for unit := 1; unit+d.Units()-1 <= r.HeightU; unit++ {
		for _, face := range lab.Faces() {
			d.At = &lab.Spot{Where: lab.InUnits, Rack: r.ID, Unit: unit, Face: face, Share: share}
			s := Slot{Unit: unit, Face: face, Fits: true}
			for _, o := range others {
				if d.Meets(o) {
					s.Fits = false
					s.Why = fmt.Sprintf("%s takes %s", o.Title(), l.UnitRange(r, o.At.Unit, o.Units()))
					break
				}
			}
			slots = append(slots, s)
		}
	}
	return slots
}
