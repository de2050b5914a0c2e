package rack_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
)

// from loads a lab from a rundown, which reads better than records do.
func only(t *testing.T, l *lab.Lab) rack.Space {
	t.Helper()
	report := rack.Report(l)
	require.Len(t, report.Racks, 1)
	return report.Racks[0]
}

func device(t *testing.T, l *lab.Lab, name string) lab.Device {
	t.Helper()
	id, ok := rundown.DeviceNamed(l)(name)
	require.True(t, ok, name)
	d, _ := lab.Find[lab.Device](l, id)
	return d
}

func TestFreeUnitsAndTheirPieces(t *testing.T) {
	// Of 12 units 11-12, 8 and 5 (at the rear) and 1-2 are taken: 6 are. Free
	// are 9-10, 6-7 and 3-4: three pieces of two.
	s := only(t, labtest.From(t, `rack "R": 12U
11-12 server "a"
8 blanking panel
5 rear power strip "b"
1-2 ups "c"`))
	assert.Equal(t, 6, s.TakenU)
	assert.Equal(t, 6, s.FreeU)
	assert.Equal(t, 2, s.LargestU)
	assert.Equal(t, 1, s.BlankedU)
	assert.Equal(t, []string{"9-10", "6-7", "3-4"}, ranges(s.Pieces))
	assert.Equal(t, []string{"9-10", "3-7"}, ranges(s.Front), "unit 5 is free at the front")
	assert.Equal(t, []string{"6-12", "1-4"}, ranges(s.Rear))
}

func ranges(pieces []rack.Piece) (list []string) {
	for _, p := range pieces {
		list = append(list, p.Range)
	}
	return
}

func TestPartsOfTheWidthAreFreeToo(t *testing.T) {
	s := only(t, labtest.From(t, `rack "R": 3U
3 left half mini pc "a"
2 middle third mini pc "b"`))
	assert.Equal(t, []rack.Piece{
		{Unit: 3, Units: 1, Range: "3", Left: 0.5, Right: 1},
		{Unit: 2, Units: 1, Range: "2", Left: 0, Right: 0.3333},
		{Unit: 2, Units: 1, Range: "2", Left: 0.6667, Right: 1},
		{Unit: 1, Units: 1, Range: "1", Left: 0, Right: 1},
	}, s.Front)
	assert.Equal(t, 1, s.FreeU, "a unit with anything in it is not a free unit")
}

func TestAnEmptyRackIsOnePiece(t *testing.T) {
	s := only(t, labtest.From(t, `rack "R": 9U`))
	assert.Equal(t, []string{"1-9"}, ranges(s.Pieces))
	assert.Equal(t, 9, s.LargestU)
	assert.Zero(t, s.TakenU)
}

func TestAFullRackHasNoPieces(t *testing.T) {
	s := only(t, labtest.From(t, "rack \"R\": 2U\n1-2 server \"a\""))
	assert.Empty(t, s.Pieces)
	assert.Empty(t, s.Front)
	assert.Equal(t, []string{"1-2"}, ranges(s.Rear))
}

func TestWhatARackCarries(t *testing.T) {
	// 24 + 0.2 + 4.1 + 1.5 = 29.8 kg; the shelf is not weighed. What is under
	// the rack is carried by the floor, what is in the loft by the loft.
	l := labtest.From(t, `rack "R": 12U, holds 300kg
12 shelf "s":
    sbc "finch": 200g
11 server "anvil": 24kg
left strip "t": 1.5kg
top ap "u": 4.1kg
under ups "v": 31kg
place "Loft"
  switch "w": 3kg`)
	w := only(t, l).Weight
	assert.InDelta(t, 29.8, w.KnownKG, 1e-9)
	assert.Equal(t, 5, w.Things)
	require.Len(t, w.Unweighed, 1)
	shelf, _ := lab.Find[lab.Device](l, w.Unweighed[0])
	assert.Equal(t, "s", shelf.Name)
	assert.Equal(t, 300.0, *w.HoldsKG)
}

func TestWhereADeviceFits(t *testing.T) {
	l := labtest.From(t, `rack "R": 4U
4 switch "core"
2 server "anvil"
1 rear strip "b"
? server "big": takes 2U`)
	r, _ := l.Named(lab.KindRack, "R")
	in, _ := lab.Find[lab.Rack](l, r)
	assert.Equal(t, []rack.Slot{
		{Unit: 1, Face: lab.Front, Share: lab.Whole, Why: "anvil takes 2", Swap: true},
		{Unit: 1, Face: lab.Rear, Share: lab.Whole, Why: "b takes 1", Swap: true},
		{Unit: 2, Face: lab.Front, Share: lab.Whole, Why: "anvil takes 2", Swap: true},
		{Unit: 2, Face: lab.Rear, Share: lab.Whole, Fits: true, Measures: rack.Unchecked, Lacks: "width not checked"},
		{Unit: 3, Face: lab.Front, Share: lab.Whole, Why: "core takes 4", Swap: true},
		{Unit: 3, Face: lab.Rear, Share: lab.Whole, Fits: true, Measures: rack.Unchecked, Lacks: "width not checked"},
	}, rack.Slots(l, []lab.Device{device(t, l, "big")}, in, rack.WholePart))
	for _, s := range rack.Slots(l, []lab.Device{device(t, l, "anvil")}, in, rack.WholePart) {
		assert.Equal(t, s.Unit != 4 && s.Face == lab.Front || s.Unit != 1 && s.Face == lab.Rear, s.Fits, "%+v: its own units are no hindrance", s)
	}
}

// A rack 700 mm deep takes 625 mm with power leads behind, 650 mm with others
// (domain.md, Space); a strip 190 mm deep at the rear of 3 leaves
// 700 - 190 - 50 = 460 mm there.
func TestWhereADeviceGoesByItsMeasures(t *testing.T) {
	l := labtest.From(t, `rack "R": 5U, 19in, 700mm deep, holds 20kg
3 rear strip "b": 1U high, 190mm deep, 1kg
? nas "silo": takes 1U, 440mm wide, 500mm deep, by its ears, 9kg
? server "long": takes 1U, 440mm wide, 650mm deep, by its ears, 9kg
? server "wide": takes 1U, 446mm wide, 300mm deep, on rails, rail thickness 4mm, rails from 600mm, rails to 650mm, 9kg
? server "heavy": takes 1U, 440mm wide, 300mm deep, by its ears, 25kg
? switch "hazy": takes 1U, 440mm wide, by its ears, 2kg
? switch "half": takes 1U, 230mm wide, 100mm deep, without ears, 1kg`)
	r := rackNamed(t, l, "R")
	lacks := func(name string, part rack.Portion) (said []string) {
		for _, s := range rack.Slots(l, []lab.Device{device(t, l, name)}, r, part) {
			if s.Face == lab.Front && s.Share == part.Shares()[0] {
				require.True(t, s.Fits, "the units are free whatever its measures are")
				said = append(said, s.Lacks)
			}
		}
		return
	}
	same := func(say string) []string { return []string{say, say, say, say, say} }
	assert.Equal(t, []string{"", "", "40 mm too deep for what is behind it", "", ""}, lacks("silo", rack.WholePart))
	assert.Equal(t, same("25 mm too deep with its cables"), lacks("long", rack.WholePart))
	assert.Equal(t, same("4 mm too wide"), lacks("wide", rack.WholePart), "446 and two rails of 4 are 454 of 450 mm")
	assert.Equal(t, same("too heavy for the rack"), lacks("heavy", rack.WholePart))
	assert.Equal(t, same("depth not checked"), lacks("hazy", rack.WholePart))
	assert.Equal(t, same("5 mm too wide"), lacks("half", rack.HalfPart), "a half of 450 is 225 mm")
	assert.Equal(t, "what is behind it is not measured",
		rack.Slots(hazy(t), []lab.Device{device(t, hazy(t), "silo")}, rackNamed(t, hazy(t), "R"), rack.WholePart)[0].Lacks)
	both := rack.Slots(l, []lab.Device{device(t, l, "silo"), device(t, l, "heavy")}, r, rack.WholePart)
	assert.Equal(t, rack.NoFit, both[len(both)-1].Measures, "what moves with it counts too")
	rails := rack.Check{About: "rails", Outcome: rack.NoFit}
	assert.Equal(t, "its rails do not span the posts", rails.Short())
}

// hazy is a rack with something at its rear that nobody measured.
func hazy(t *testing.T) *lab.Lab {
	return labtest.From(t, `rack "R": 1U, 19in, 800mm deep
1 rear strip "b"
? nas "silo": takes 1U, 440mm wide, 500mm deep, by its ears`)
}

// A unit is 44.45 mm; what is a hair higher, as rounded figures are, still
// goes into as many.
func TestHowManyUnitsAHeightTakes(t *testing.T) {
	for mm, units := range map[float64]int{36: 1, 44: 1, 44.45: 1, 44.6: 1, 45: 2, 88.9: 2, 89: 2, 90: 3, 133.35: 3} {
		assert.Equal(t, units, rack.UnitsFor(mm), "%v mm", mm)
	}
}

func TestWhatIsInNoUnitsIsNotChecked(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U
left strip "tower"
5 shelf "board":
    nas "on it"
? server "nowhere"`)
	for _, name := range []string{"tower", "on it", "nowhere"} {
		_, ok := rack.FitOf(l, device(t, l, name))
		assert.False(t, ok, name)
	}
	_, ok := rack.FitOf(l, device(t, l, "board"))
	assert.True(t, ok)
}

func TestThingsMoveTogether(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U
9 switch "core"
8 rear strip "b"
5-6 server "anvil"
? sbc "finch"
rack "S": 9U
4 switch "d"`)
	s := rackNamed(t, l, "S")
	to := lab.At(s.ID, 6, lab.Rear)
	changes, err := rack.Move(l, []lab.Device{device(t, l, "core"), device(t, l, "b"), device(t, l, "finch"), device(t, l, "anvil")}, to,
		false)
	require.NoError(t, err)
	l, err = l.Apply(changes)
	require.NoError(t, err)
	for name, want := range map[string]string{"core": "S 6 rear", "b": "S 5", "finch": "S 4 rear", "anvil": "S 2-3 rear"} {
		assert.Equal(t, want, rundown.WhereWords(l, device(t, l, name)), "%s: distances and faces are kept, what is new goes below", name)
	}
	_, err = rack.Move(l, []lab.Device{device(t, l, "core")}, lab.At(s.ID, 4, lab.Front), false)
	assert.EqualError(t, err, "core stays where it was: d takes 4")
	changes, err = rack.Move(l, []lab.Device{device(t, l, "core"), device(t, l, "b")},
		&lab.Spot{Where: lab.OnDevice, Device: device(t, l, "anvil").ID}, false)
	require.NoError(t, err)
	assert.Equal(t, 2, changes[1].After.(lab.Device).At.Order, "one after the other")
}

func TestTwoThingsChangePlaces(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U
7 switch "core"
5-6 server "anvil"
3 left half hub "a"
3 right half hub "b"`)
	r := rackNamed(t, l, "R")
	swap := func(name string, to *lab.Spot) string {
		changes, err := rack.Move(l, []lab.Device{device(t, l, name)}, to, true)
		if err != nil {
			return err.Error()
		}
		next, err := l.Apply(changes)
		require.NoError(t, err)
		return rundown.Label(rundown.Edits(l, next, changes))
	}
	assert.Equal(t, "anvil moved from R 5-6 to R 6-7; core moved from R 7 to R 5", swap("anvil", lab.At(r.ID, 6, lab.Front)),
		"neighbours close up")
	assert.Equal(t, "core moved from R 7 to R 5; anvil moved from R 5-6 to R 6-7", swap("core", lab.At(r.ID, 5, lab.Front)))
	assert.Equal(t, "a moved from R 3 left half to R 3 right half; b moved from R 3 right half to R 3 left half",
		swap("a", &lab.Spot{Where: lab.InUnits, Rack: r.ID, Unit: 3, Face: lab.Front, Share: lab.RightHalf}))
	assert.Equal(t, "core can change places with one thing; 2 are in its way", swap("core", lab.At(r.ID, 3, lab.Front)))
}

// A copy of a guest runs on the same host, last of all, without what only one can have.
func TestACopyOfAGuestHasNoAddress(t *testing.T) {
	l := labtest.From(t, `server "anvil": 32GB
on anvil: vm "names 1": 1GB, vlan 20 10.20.0.5, has slot 3
on anvil: vm "other": 1GB
`)
	copied := rack.Copy(l, labtest.Named[lab.Device](t, l, "names 1"), "copy").After.(lab.Device)
	assert.Equal(t, "names 2", copied.Name)
	assert.Empty(t, copied.Addresses)
	assert.Empty(t, copied.Handed)
	assert.Equal(t, []lab.Leg{{VLAN: 20}}, copied.Legs())
	assert.Equal(t, 3, copied.At.Order)
}

func TestACopyCountsOn(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U
9 patch panel "PP1"
8 patch panel "PP2": 1.2kg
6 shelf "board": sbc "finch"
? hub`)
	copied := func(name string) string {
		c := rack.Copy(l, device(t, l, name), "new")
		next, err := l.Apply([]lab.Change{c})
		require.NoError(t, err)
		return rundown.Label(rundown.Edits(l, next, []lab.Change{c}))
	}
	assert.Equal(t, `patch panel "PP3" added at R 7`, copied("PP1"))
	assert.Equal(t, `sbc "finch-2" added on board`, strings.Replace(copied("finch"), "single-board computer", "sbc", 1))
	assert.Equal(t, "", rack.NextName(l, ""))
	assert.Equal(t, "7-2", rack.NextName(l, "7"))
}
