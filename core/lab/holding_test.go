package lab_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func TestHoldersSayWhatTheyHold(t *testing.T) {
	up := func(id lab.ID, unit, units int, face lab.Face) lab.Device {
		return lab.Device{ID: id, Kind: lab.Server, State: lab.Running, Spec: lab.Spec{TakesU: &units},
			At: &lab.Spot{Where: lab.InUnits, Rack: "r", Unit: unit, Face: face, Share: lab.Whole}}
	}
	on := func(id, holder lab.ID, order int) lab.Device {
		return lab.Device{ID: id, Kind: lab.Server, State: lab.Running, At: &lab.Spot{Where: lab.OnDevice, Device: holder, Order: order}}
	}
	atLoft := lab.Device{ID: "ap", Kind: lab.AccessPoint, State: lab.Running, At: &lab.Spot{Where: lab.InPlace, Place: "loft"}}
	l := with(t, lab.New(),
		lab.Rack{ID: "r", Name: "Pantry", HeightU: 24}, lab.Rack{ID: "q", Name: "Shed", HeightU: 12}, lab.Place{ID: "loft", Name: "Loft"},
		up("low", 1, 2, lab.Front), up("shelf", 9, 3, lab.Front), up("top", 12, 1, lab.Front), up("rear", 5, 1, lab.Rear),
		up("mid", 5, 1, lab.Front),
		on("wren", "shelf", 2), on("finch", "shelf", 1), on("stick", "finch", 0), atLoft,
		lab.Device{ID: "crate", Kind: lab.Server, State: lab.Running}, on("lid", "crate", 0),
	)
	assert.Equal(t, []lab.Holding{
		{Holder: "crate", Devices: []lab.ID{"lid"}},
		{Holder: "finch", Rack: "r", Devices: []lab.ID{"stick"}},
		{Holder: "loft", Place: "loft", Devices: []lab.ID{"ap"}},
		{Holder: "r", Rack: "r", Devices: []lab.ID{"top", "shelf", "mid", "rear", "low"}}, // by the unit they reach up to
		{Holder: "shelf", Rack: "r", Devices: []lab.ID{"finch", "wren"}},
	}, lab.Holdings(l))

	shelf, _ := lab.Find[lab.Device](l, "shelf")
	moved := shelf
	moved.At = &lab.Spot{Where: lab.InUnits, Rack: "q", Unit: 2, Face: lab.Front, Share: lab.Whole}
	changes := []lab.Change{{shelf, moved}, {atLoft, nil}}
	after, err := l.Apply(changes)
	require.NoError(t, err)
	assert.Equal(t, []lab.Holding{
		{Holder: "finch", Rack: "q", Devices: []lab.ID{"stick"}}, // moved along, two deep
		{Holder: "loft", Devices: []lab.ID{}},
		{Holder: "q", Rack: "q", Devices: []lab.ID{"shelf"}},
		{Holder: "r", Rack: "r", Devices: []lab.ID{"top", "mid", "rear", "low"}},
		{Holder: "shelf", Rack: "q", Devices: []lab.ID{"finch", "wren"}},
	}, lab.HoldingsAfter(after, changes))
	assert.Empty(t, lab.HoldingsAfter(after, []lab.Change{{nil, lab.Place{ID: "cellar", Name: "Cellar"}}}))
}
