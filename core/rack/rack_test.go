package rack_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
)

// from loads a lab from a rundown, which reads better than records do.
func from(t *testing.T, text string) *lab.Lab {
	t.Helper()
	n := 0
	p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: func() lab.ID { n++; return lab.ID(rune('a' + n)) }})
	require.Empty(t, p.Mistakes)
	return p.Lab
}

func only(t *testing.T, l *lab.Lab) rack.Space {
	t.Helper()
	report := rack.Report(l)
	require.Len(t, report.Racks, 1)
	return report.Racks[0]
}

func TestFreeUnitsAndTheirPieces(t *testing.T) {
	// Of 12 units 11-12, 8 and 5 (at the rear) and 1-2 are taken: 6 are. Free
	// are 9-10, 6-7 and 3-4: three pieces of two.
	s := only(t, from(t, `rack "R": 12U
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
	s := only(t, from(t, `rack "R": 3U
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
	s := only(t, from(t, `rack "R": 9U`))
	assert.Equal(t, []string{"1-9"}, ranges(s.Pieces))
	assert.Equal(t, 9, s.LargestU)
	assert.Zero(t, s.TakenU)
}

func TestAFullRackHasNoPieces(t *testing.T) {
	s := only(t, from(t, "rack \"R\": 2U\n1-2 server \"a\""))
	assert.Empty(t, s.Pieces)
	assert.Empty(t, s.Front)
	assert.Equal(t, []string{"1-2"}, ranges(s.Rear))
}

func TestWhatARackCarries(t *testing.T) {
	// 24 + 0.2 + 4.1 + 1.5 = 29.8 kg; the shelf is not weighed. What is under
	// the rack is carried by the floor, what is in the loft by the loft.
	l := from(t, `rack "R": 12U, holds 300kg
12 shelf "s":
    pi "finch": 200g
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
	shelf, _ := l.Device(w.Unweighed[0])
	assert.Equal(t, "s", shelf.Name)
	assert.Equal(t, 300.0, *w.HoldsKG)
}

func TestWhereADeviceFits(t *testing.T) {
	l := from(t, `rack "R": 4U
4 switch "core"
2 server "anvil"
1 rear strip "b"
? server "big": takes 2U`)
	r, _ := l.Named(lab.KindRack, "R")
	in, _ := l.Rack(r)
	find := func(name string) lab.Device {
		id, _ := rundown.DeviceNamed(l)(name)
		d, _ := l.Device(id)
		return d
	}
	assert.Equal(t, []rack.Slot{
		{Unit: 1, Face: lab.Front, Why: "anvil takes 2"},
		{Unit: 1, Face: lab.Rear, Why: "b takes 1"},
		{Unit: 2, Face: lab.Front, Why: "anvil takes 2"},
		{Unit: 2, Face: lab.Rear, Fits: true},
		{Unit: 3, Face: lab.Front, Why: "core takes 4"},
		{Unit: 3, Face: lab.Rear, Fits: true},
	}, rack.Slots(l, find("big"), in))
	for _, s := range rack.Slots(l, find("anvil"), in) {
		assert.Equal(t, s.Unit != 4 && s.Face == lab.Front || s.Unit != 1 && s.Face == lab.Rear, s.Fits, "%+v: its own units are no hindrance", s)
	}
}
