package lab_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

// boxOfDisks is a server whose sheet has two 3.5-inch and one 2.5-inch bay,
// with a drive in bay 3.
func boxOfDisks(t *testing.T) *lab.Lab {
	t.Helper()
	l, err := lab.New().Apply([]lab.Change{
		{After: lab.SpecSheet{ID: "r2", Name: "R2", Kind: lab.Server, Spec: lab.Spec{Maker: "Fell", DepthMM: ptr(710.0), MemorySlots: ptr(0),
			Bays: []lab.BayGroup{{Count: 2, Form: "3.5in"}, {Count: 1, Form: "2.5in", Side: lab.AtRear}}}}},
		{After: lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running, Sheet: "r2", Spec: lab.Spec{DepthMM: ptr(720.0)}}},
		{After: lab.Device{ID: "silo", Name: "silo", Kind: lab.NAS, State: lab.Running}},
		{After: lab.Part{ID: "disk", Name: "d1", Kind: lab.Drive, State: lab.Running, Device: "anvil", Seat: 3}},
	})
	require.NoError(t, err)
	return l
}

func TestADevicesOwnFactsGoBeforeItsSheets(t *testing.T) {
	l := boxOfDisks(t)
	anvil, _ := lab.Find[lab.Device](l, "anvil")
	spec := l.SpecOf(anvil)
	assert.Equal(t, 720.0, *spec.DepthMM)
	assert.Equal(t, "Fell", spec.Maker)
	assert.Equal(t, 3, *spec.Seats(lab.Drive))
	assert.Nil(t, spec.Seats(lab.Card), "what the spec does not tell is unknown")
	assert.Equal(t, 0, *spec.Seats(lab.Memory))
}

func TestWhatAPartCannotDoIsRefused(t *testing.T) {
	l := boxOfDisks(t)
	drive := func(device lab.ID, seat int) lab.Part {
		return lab.Part{ID: "new", Name: "d2", Kind: lab.Drive, State: lab.Running, Device: device, Seat: seat}
	}
	memory := drive("anvil", 1)
	memory.Kind = lab.Memory
	both := drive("anvil", 0)
	both.Ordered = true
	sheet, _ := lab.Find[lab.SpecSheet](l, "r2")
	sheet.Bays = sheet.Bays[:1]
	for name, c := range map[string]struct {
		put lab.Record
		say string
	}{
		"a bay that is not there":               {drive("anvil", 4), "“anvil” has the bays 1 to 3, and “d2” is in 4"},
		"a bay that is taken":                   {drive("anvil", 3), "bay 3 of “anvil” has “d1” in it"},
		"a slot where there are none":           {memory, "“anvil” has no slot for a memory"},
		"in a device and on order":              {both, "a part that is on order is in no device yet"},
		"a seat of nothing":                     {drive("", 2), "a part that is not in a device cannot have a bay"},
		"in a device that is not there":         {drive("nowhere", 1), "there is no device with the id “nowhere”"},
		"a sheet that leaves a drive in no bay": {sheet, "“anvil” has the bays 1 to 2, and “d1” is in 3; move it first"},
		"a day that is none":                    {lab.Part{ID: "new", Kind: lab.Fan, State: lab.Spare, Money: lab.Money{BoughtOn: "2026-02-31"}}, "“2026-02-31” is not a day"},
	} {
		change, _ := l.Put(c.put)
		_, err := l.Apply([]lab.Change{change})
		assert.ErrorContains(t, err, c.say, name)
	}
	for name, p := range map[string]lab.Part{"a free bay": drive("anvil", 1), "a bay nobody counted": drive("silo", 12),
		"loose inside": drive("anvil", 0)} {
		change, _ := l.Put(p)
		_, err := l.Apply([]lab.Change{change})
		assert.NoError(t, err, name)
	}
}

func TestTwoPartsChangePlacesAtOnce(t *testing.T) {
	l := boxOfDisks(t)
	d1, _ := lab.Find[lab.Part](l, "disk")
	d2 := lab.Part{ID: "other", Kind: lab.Drive, State: lab.Running, Device: "silo", Seat: 1}
	l, err := l.Apply([]lab.Change{{After: d2}})
	require.NoError(t, err)
	a, b := d1, d2
	a.Device, a.Seat, b.Device, b.Seat = d2.Device, d2.Seat, d1.Device, d1.Seat
	next, err := l.Apply([]lab.Change{{Before: d1, After: a}, {Before: d2, After: b}})
	require.NoError(t, err)
	assert.Equal(t, []lab.Part{b}, next.PartsOf("anvil"))
}

func TestWhatGoesWithADevice(t *testing.T) {
	l := boxOfDisks(t)
	key := lab.Key{Kind: lab.KindDevice, ID: "anvil"}
	alone, _ := l.Remove(key)
	_, err := l.Apply([]lab.Change{alone})
	require.ErrorContains(t, err, "still holds “d1”")
	next, err := l.Apply(l.Removal(key))
	require.NoError(t, err)
	_, there := lab.Find[lab.Part](next, "disk")
	assert.False(t, there)
}

func TestADayMayBeAMonthOrAYear(t *testing.T) {
	for when, last := range map[lab.When]string{"2024": "2024-12-31", "2024-02": "2024-02-29", "2023-02": "2023-02-28",
		"2024-03-09": "2024-03-09"} {
		day, ok := when.Last()
		assert.True(t, ok)
		assert.Equal(t, last, day.Format("2006-01-02"), string(when))
	}
	for _, when := range []lab.When{"", "24", "2024-13", "2024-02-30", "soon"} {
		_, ok := when.Last()
		assert.False(t, ok, string(when))
	}
}

func TestASheetMadeOfADeviceSaysTheSame(t *testing.T) {
	d := lab.Device{ID: "d", Name: "anvil", Kind: lab.Server, Spec: lab.Spec{TakesU: ptr(2), DepthMM: ptr(710.0), Model: "R2"}}
	sheet, has := lab.Shared(d, "s", "Fell R2")
	assert.Equal(t, d.Spec, has.Spec.Over(sheet.Spec))
	assert.Equal(t, lab.Spec{TakesU: ptr(2)}, has.Spec, "the rest is the sheet's to say")
	assert.Equal(t, lab.ID("s"), has.Sheet)
}
