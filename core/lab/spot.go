package lab

import "slices"

// Where is the sort of place a device is at.
type Where string

// What a device can be in, on or beside.
const (
	InUnits   Where = "units"  // mounted in a rack's units
	AtLeft    Where = "left"   // at a rack's side, taking none (0U)
	AtRight   Where = "right"  //
	OnTop     Where = "top"    // on top of a rack
	Underside Where = "under"  // under a rack
	OnDevice  Where = "device" // on a shelf, in a drawer, on top of another device
	InPlace   Where = "place"  // somewhere outside any rack
)

var wheres = []Where{InUnits, AtLeft, AtRight, OnTop, Underside, OnDevice, InPlace}

// Enum lists the sorts of place for the published schema.
func (Where) Enum() []any { return anys(wheres) }

// Face is the side of a rack a device is mounted from.
type Face string

// A rack has a front and a rear.
const (
	Front Face = "front"
	Rear  Face = "rear"
)

// Faces lists both.
func Faces() []Face { return slices.Clone(faces) }

var faces = []Face{Front, Rear}

// Enum lists the faces for the published schema.
func (Face) Enum() []any { return anys(Faces()) }

// Share is the part of the rack's width that a device takes, as seen by
// someone who looks at that face.
type Share string

// The whole width, or a half or third of it.
const (
	Whole       Share = "whole"
	LeftHalf    Share = "left half"
	RightHalf   Share = "right half"
	LeftThird   Share = "left third"
	MiddleThird Share = "middle third"
	RightThird  Share = "right third"
)

// Shares lists every share.
func Shares() []Share { return slices.Clone(shares) }

var shares = []Share{Whole, LeftHalf, RightHalf, LeftThird, MiddleThird, RightThird}

// Enum lists the shares for the published schema.
func (Share) Enum() []any { return anys(Shares()) }

// Sixths is the part of the width from the left, in sixths of it: the whole
// is 0 to 6, the middle third 2 to 4. Two shares meet where these overlap.
func (s Share) Sixths() (from, to int) {
	switch s {
	case LeftHalf:
		return 0, 3
	case RightHalf:
		return 3, 6
	case LeftThird:
		return 0, 2
	case MiddleThird:
		return 2, 4
	case RightThird:
		return 4, 6
	}
	return 0, 6
}

// Spot says where a device is. Which of the fields count follows from Where.
type Spot struct {
	Where  Where `json:"where" required:"true"`
	Rack   ID    `json:"rack_id,omitempty" description:"For units, left, right, top and under"`
	Unit   int   `json:"unit,omitempty" minimum:"1" maximum:"60" description:"Lowest unit it takes, counted from the rack's foot"`
	Face   Face  `json:"face,omitempty" description:"For units"`
	Share  Share `json:"share,omitempty" description:"For units: the part of the width it takes"`
	Device ID    `json:"device_id,omitempty" description:"For device: what it stands on or lies in"`
	Place  ID    `json:"place_id,omitempty" description:"For place"`
	Order  int   `json:"order,omitempty" minimum:"0" description:"Its turn among the devices at the same spot"`
}

// At makes a Spot in a rack's units, whole width.
func At(rack ID, unit int, face Face) *Spot {
	return &Spot{Where: InUnits, Rack: rack, Unit: unit, Face: face, Share: Whole}
}

// Holder is the id of the rack, device or place that holds what is here.
func (s *Spot) Holder() ID {
	if s == nil {
		return ""
	}
	switch s.Where {
	case OnDevice:
		return s.Device
	case InPlace:
		return s.Place
	}
	return s.Rack
}

// SameHold reports whether two spots share the row of things that Order sorts.
func (s *Spot) SameHold(o *Spot) bool {
	if s == nil || o == nil {
		return s == o
	}
	return s.Where == o.Where && s.Holder() == o.Holder()
}

func (s *Spot) ref() Ref {
	field := "at.rack_id"
	switch s.Where {
	case OnDevice:
		field = "at.device_id"
	case InPlace:
		field = "at.place_id"
	}
	return Ref{field, s.holder(), Refuse}
}

// holder is the key of what the spot is in, on or at; nothing's for nowhere.
func (s *Spot) holder() Key {
	kind := KindRack
	switch {
	case s == nil:
		kind = ""
	case s.Where == OnDevice:
		kind = KindDevice
	case s.Where == InPlace:
		kind = KindPlace
	}
	return Key{kind, s.Holder()}
}

// check sees to it that just the fields that go with Where are there.
func (s *Spot) check(f *faults) {
	oneOf(f, "at.where", s.Where, wheres)
	inRack := s.Where != OnDevice && s.Where != InPlace
	goesWith := func(field string, given, wanted bool, what string) {
		switch {
		case wanted && !given:
			f.add(field, "a spot of the kind %s needs %s", quote(string(s.Where)), what)
		case given && !wanted:
			f.add(field, "a spot of the kind %s has no %s", quote(string(s.Where)), what)
		}
	}
	goesWith("at.rack_id", s.Rack != "", inRack, "rack")
	goesWith("at.device_id", s.Device != "", s.Where == OnDevice, "device to stand on")
	goesWith("at.place_id", s.Place != "", s.Where == InPlace, "place")
	goesWith("at.unit", s.Unit != 0, s.Where == InUnits, "unit")
	goesWith("at.face", s.Face != "", s.Where == InUnits, "face")
	goesWith("at.share", s.Share != "", s.Where == InUnits, "share of the width")
	if s.Where == InUnits {
		if s.Face != "" {
			oneOf(f, "at.face", s.Face, faces)
		}
		if s.Share != "" {
			oneOf(f, "at.share", s.Share, shares)
		}
		if s.Order != 0 {
			f.add("at.order", "devices in units have no order")
		}
	}
	if s.Order < 0 || s.Order > 1_000_000 {
		f.add("at.order", "an order is between 0 and 1000000, not %d", s.Order)
	}
}
