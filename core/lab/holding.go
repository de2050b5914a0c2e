package lab

import (
	"maps"
	"slices"
)

// Holding is what one rack, device or place holds, in the order of the staff:
// what is in units from the top down, the rest in its order.
type Holding struct {
	Holder  ID   `json:"holder_id" required:"true" description:"A rack, a device or a place"`
	Rack    ID   `json:"rack_id,omitempty" description:"The rack that the holder is, or is in; absent where it is in none"`
	Place   ID   `json:"place_id,omitempty" description:"The place that the holder is, or is at; absent in a rack"`
	Devices []ID `json:"device_ids" required:"true" nullable:"false" description:"What is straight in, on or at it"`
}

// LastOrder is the highest order among the things and guests at a spot; 0 where there are
// none.
func (l *Lab) LastOrder(at *Spot) int {
	last := 0
	for by := range l.UsersOf(at.holder()) {
		if d, ok := by.(Device); ok && d.At.SameHold(at) {
			last = max(last, d.At.Order)
		}
	}
	return last
}

// Holdings lists what holds something, by the id of the holder.
func Holdings(l *Lab) []Holding {
	holders := map[ID]Key{}
	for d := range Things(l) {
		holders[d.At.Holder()] = d.At.holder()
	}
	return l.holdings(holders)
}

// HoldingsAfter lists the holdings that changes made different in the lab after
// them: where a device came from and where it went, and everything that stands
// on one that moved, as that may be in another rack now. One that holds nothing
// any more is listed as empty.
func HoldingsAfter(l *Lab, changes []Change) []Holding {
	holders := map[ID]Key{}
	for _, c := range changes {
		for _, r := range []Record{c.Before, c.After} {
			if d, ok := r.(Device); ok {
				holders[d.At.Holder()] = d.At.holder()
			}
		}
		if d, ok := c.After.(Device); ok {
			l.addNested(holders, d.Key())
		}
	}
	return l.holdings(holders)
}

func (l *Lab) addNested(holders map[ID]Key, on Key) {
	for i, d := range l.Held(on) {
		if i == 0 {
			holders[on.ID] = on
		}
		l.addNested(holders, d.Key())
	}
}

// holdings are those of the given holders; the id "" is no holder.
func (l *Lab) holdings(holders map[ID]Key) []Holding {
	delete(holders, "")
	list := []Holding{}
	for _, id := range slices.Sorted(maps.Keys(holders)) {
		h := Holding{Holder: id, Devices: []ID{}}
		for _, d := range l.HeldBy(holders[id]) {
			h.Devices = append(h.Devices, d.ID)
		}
		if len(h.Devices) > 0 {
			d, _ := Find[Device](l, h.Devices[0])
			if at := l.Foot(d).At; at != nil {
				h.Rack, h.Place = at.Rack, at.Place
			}
		}
		list = append(list, h)
	}
	return list
}
