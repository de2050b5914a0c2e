package cabling

import (
	"math"
	"slices"

	"levelstaff/core/lab"
)

// What a lead needs beside the straight way, in millimetres.
const (
	bendMM  = 30  // at each plug
	slackMM = 100 // to spare, where the lab's settings do not say
	unitMM  = 44.45
)

// holesMM is how far the hole centres of a rack's face are apart, which is
// where its cable managers hang; a rack of no standard has them as far within
// its ears as a 19-inch one.
func holesMM(r lab.Rack) float64 {
	const wide, narrow, ears = 465.1, 236.5, 482.6 - 465.1
	switch {
	case r.Form == lab.Rack10:
		return narrow
	case r.Form == lab.RackOwn && r.FaceMM != nil:
		return math.Max(0, *r.FaceMM-ears)
	}
	return wide
}

// stockM are the lengths leads are sold in, in metres.
var stockM = []float64{0.15, 0.25, 0.3, 0.5, 1, 1.5, 2, 3, 5, 7.5, 10, 15, 20, 30}

// Stock is the shortest lead in the shops that is as long as need; ok is
// false where none is.
func Stock(needM float64) (m float64, ok bool) {
	i := slices.IndexFunc(stockM, func(m float64) bool { return m >= needM-1e-9 })
	if i < 0 {
		return 0, false
	}
	return stockM[i], true
}

// Reached is where a socket is in a rack: from the left of the face one looks
// at and from the rack's foot, in millimetres.
type reached struct {
	rack   lab.Rack
	face   lab.Face
	x, y   float64
	wide   float64 // of the rack's face
	device *device
	low    int // the units its device takes
	high   int
}

// reach finds where a socket is; ok is false outside racks.
func (w *Wiring) reach(s int32) (reached, bool) {
	d, i := w.at(s)
	holder := &d.Device
	for holder.At != nil && holder.At.Where == lab.OnDevice {
		holder = &w.devices[w.byID[holder.At.Device]].Device
	}
	if holder.At == nil || holder.At.Where != lab.InUnits {
		return reached{}, false
	}
	face := d.ports.Face(i)
	if s%2 == 1 {
		face = otherFace(face)
	}
	if holder.At.Face == lab.Rear {
		face = otherFace(face)
	}
	rack := w.racks[holder.At.Rack]
	r := reached{rack: rack, face: face, wide: holesMM(rack), device: d, low: holder.At.Unit, high: holder.At.Unit + holder.Units() - 1}
	r.y = (float64(holder.At.Unit-1) + float64(holder.Units())/2) * unitMM
	from, to := holder.At.Share.Sixths()
	if face != holder.At.Face {
		from, to = 6-to, 6-from // the left of the front is the right of the rear
	}
	if holder.ID == d.ID {
		r.x = r.wide*float64(from)/6 + d.acrossMM(i, r.wide*float64(to-from)/6)
	} else {
		r.x = r.wide * float64(from+to) / 12 // somewhere on its shelf
	}
	return r, true
}

func otherFace(f lab.Face) lab.Face {
	if f == lab.Rear {
		return lab.Front
	}
	return lab.Rear
}

// acrossMM is how far from the left of its face a port is: groups stand side
// by side at the right, as faces are drawn, 16 mm a port.
func (d *device) acrossMM(i int, face float64) float64 {
	const pitch, name = 16.0, 90
	if i >= d.ports.Len() {
		return face / 2
	}
	at, columns := d.ports.Column(i)
	width := math.Min(pitch*float64(columns), math.Max(face/2, face-name))
	return face - width*(1-float64(at)/float64(max(1, columns)))
}

// ReachM is how long a lead between two ports of a rack has to be at the least,
// in metres: the way it takes over the faces or by a side, round to the other
// face, a bend at each plug, and room to slide a device on rails out with its
// rear plugged. ok is false where the ends are not in one rack.
func (c Lead) ReachM() (m float64, ok bool) {
	w := c.w
	if c.ends[0] == none || c.ends[1] == none {
		return 0, false
	}
	a, okA := w.reach(c.ends[0])
	b, okB := w.reach(c.ends[1])
	if !okA || !okB || a.rack.ID != b.rack.ID {
		return 0, false
	}
	mm := math.Abs(a.y-b.y) + 2*bendMM
	switch {
	case a.face != b.face:
		if a.rack.DepthMM == nil {
			return 0, false
		}
		mm += *a.rack.DepthMM + math.Min(a.x+(a.wide-b.x), (a.wide-a.x)+b.x)
	case c.Way == lab.LeftSide:
		mm += a.x + b.x
	case c.Way == lab.RightSide:
		mm += 2*a.wide - a.x - b.x
	default:
		mm += math.Abs(a.x - b.x)
	}
	for _, e := range []reached{a, b} {
		if e.face != lab.Rear {
			continue
		}
		if spec := w.lab.SpecOf(e.device.Device); spec.Mount == lab.OnRails && spec.DepthMM != nil {
			mm += *spec.DepthMM
		}
	}
	return mm / 1000, true
}

// NeedM is how long a lead should be: what it has to reach, and the lab's slack.
func (c Lead) NeedM() (m float64, ok bool) {
	m, ok = c.ReachM()
	return m + c.slackM(), ok
}

func (c Lead) slackM() float64 {
	if s := c.w.lab.Settings().SlackMM; s != nil {
		return *s / 1000
	}
	return slackMM / 1000.0
}

// Length is how long a cable should be.
type Length struct {
	NeedM  float64  `json:"need_m" required:"true"`
	ReachM float64  `json:"reach_m" required:"true" description:"The least that reaches, without slack"`
	StockM *float64 `json:"stock_m,omitempty" description:"The shortest one sold that is long enough"`
	From   string   `json:"from" required:"true" enum:"rack,run" description:"Whether the rack's measures or the run's length tell"`
}

// Should is the length a lead should have: by the places of its ports in their
// rack, or by the run it lies in. ok is false where neither tells.
func (c Lead) Should() (Length, bool) {
	if r, in := lab.Find[lab.Run](c.w.lab, c.Run); in && r.LengthM != nil {
		return Length{NeedM: *r.LengthM, ReachM: *r.LengthM, From: "run"}, true
	}
	reach, ok := c.ReachM()
	if !ok {
		return Length{}, false
	}
	length := Length{NeedM: reach + c.slackM(), ReachM: reach, From: "rack"}
	if m, ok := Stock(length.NeedM); ok {
		length.StockM = &m
	}
	return length, true
}

// Short tells whether a cable is shorter than its way, and how long that is. A
// cable that has an open end need not go all the way through its run.
func (c Lead) Short() (length Length, how Shortness) {
	if c.LengthM == nil {
		return Length{}, LongEnough
	}
	length, ok := c.Should()
	switch {
	case !ok || length.From == "run" && len(c.Ends()) < 2, *c.LengthM >= length.NeedM-1e-9:
		return length, LongEnough
	case *c.LengthM < length.ReachM-1e-9:
		return length, CannotReach
	}
	return length, ShortOfSlack
}

// Shortness is what a cable's length lacks.
type Shortness int

// It lacks nothing, or no more than the slack that the lab asks for, or it does
// not get there.
const (
	LongEnough Shortness = iota
	ShortOfSlack
	CannotReach
)
