package draft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

func TestTheFiguresTwoLabsAreComparedBy(t *testing.T) {
	b := with(t, `rack "R": 9U, 300mm deep
9 switch "core": 4kg, 200mm deep, 8 ports rj45 1G
9 rear strip "back": 1kg, 100mm deep
6 server "ember", faulty: 13kg
1-2 ups "keep"
rack "S": 4U
4 hub "h": 0.5kg
? nas "copy", spare
? router "gate"`)
	// R: 9 units, 4 taken (9, 6, 1-2); pieces 7-8 and 3-5, so the largest is 3.
	// core, 200 mm, and back, 100 mm, and 50 mm of cables need 350 of 300 mm.
	r := b.rack()
	figures := draft.FiguresOf(b.lab, b.lab, r, "2026-11-23")
	// The notes are that copy is not placed, which is of no rack; ember, at
	// 5.5U of 9U, is above half height, and no lighter thing is below that is weighed;
	// (4 x 8.5 + 1 x 8.5 + 13 x 5.5) / 18 = 6.3U is above half height: one note.
	assert.Equal(t, draft.Figures{Things: 4, HeightU: 9, FreeU: 5, LargestU: 3, Unplaced: 2, WeightKG: 18, Unweighed: 1,
		PortsFree: 8, Undrawn: [3]int{1, 1, 1},
		Act: 1, Watch: 1, Note: 1}, figures)

	all := draft.FiguresOf(b.lab, b.lab, "", "2026-11-23")
	// And in all: S has 3 free in one piece, h hangs at 4 with nothing below it;
	// gate runs, but nobody said where.
	assert.Equal(t, draft.Figures{Things: 7, HeightU: 13, FreeU: 8, LargestU: 3, Unplaced: 2, WeightKG: 18.5, Unweighed: 1, PortsFree: 8,
		Unlisted: 1, Undrawn: [3]int{3, 3, 3}, Act: 1, Watch: 3, Note: 2}, all)

	l, err := b.lab.Apply([]lab.Change{{Before: b.device("ember")}})
	require.NoError(t, err)
	after := draft.FiguresOf(l, l, r, "2026-11-23")
	assert.Equal(t, 6, after.LargestU, "3-8 is one piece")
	assert.Zero(t, after.Watch)
}

// keep gives 200 of its 400 W, and draws 200 / 0.9 = 222 W; a draft leads the second supply
// of anvil to it too.
func TestFiguresOfPower(t *testing.T) {
	b := with(t, `lab "Q": 230V
circuit "kitchen": 16A
rack "R": 9U
7 ups "keep": 400W, 4 outlets c13, 90% efficient
9 server "anvil": 2 supply bays, 120W idle, 200W typical, 500W max
keep/out1 - anvil/in1
`)
	text := func(l *lab.Lab) map[string]string {
		said := map[string]string{}
		for _, f := range draft.FiguresOf(l, l, "", "2026-11-23").Words() {
			said[f.Name] = f.Text
		}
		return said
	}
	before := text(b.lab)
	assert.Equal(t, []string{"133 W", "222 W", "556 W", "50 %, keep", "1"}, []string{before["idle_w"], before["typical_w"], before["most_w"],
		before["fullest"], before["one_leg"]})
	p := rundown.Load(b.lab, rundown.ParseLine("keep/out2 - anvil/in2"), rundown.Options{All: true, NewID: func() lab.ID { return "lead" }})
	require.Empty(t, p.Mistakes)
	assert.Equal(t, "0", text(p.Lab)["one_leg"])
}

// 100 W at 0.40 are 29.22 a month and 73.06 kWh; 40 W 11.69. A box of 175.33 that draws 60 W
// less is saved again in 10 months; the UPS, which held 30 minutes, then holds 75.
func TestFiguresOfAnOldBoxAndANewOne(t *testing.T) {
	old := with(t, `lab, GBP, price 0.40 a kWh
place "Closet"
  ups "keep": 30min, 4 outlets c13
  server "anvil": 100W, 40dB
keep/out1 - anvil/in1
`).lab
	p := rundown.Load(old, rundown.ParseLine("anvil: 40W, 30dB"), rundown.Options{NewID: func() lab.ID { return "x" }})
	require.Empty(t, p.Mistakes)
	figures := func(l *lab.Lab) draft.Figures { return draft.FiguresOf(l, old, "", "2026-11-26") }
	before, after := figures(old), figures(p.Lab)
	assert.InDelta(t, 29.2224, *before.Cost, 1e-9)
	assert.InDelta(t, 11.68896, *after.Cost, 1e-9)
	assert.InDelta(t, 73.056, before.KWh, 1e-9)
	assert.InDelta(t, 341.2, before.BTU, 1e-9)
	assert.Equal(t, []float64{30, 75, 40, 30}, []float64{*before.Holds, *after.Holds, *before.DB, *after.DB})
	assert.Equal(t, []string{"keep", "Closet"}, []string{after.HoldsName, after.Loudest})
	months := draft.Payback(&draft.Cost{LeftMinor: 17533}, before, after)
	require.NotNil(t, months)
	assert.InDelta(t, 10, *months, 0.001)
	assert.Nil(t, draft.Payback(&draft.Cost{LeftMinor: 17533}, after, before), "nothing is saved")
	assert.Nil(t, draft.Payback(&draft.Cost{LeftMinor: 17533, Unpriced: 1}, before, after), "what it costs is not known")
	assert.Nil(t, draft.Payback(nil, before, after))
	assert.Contains(t, after.Words(), draft.Figure{Name: "holds_min", Title: "Shortest on battery", Text: "75 min, keep",
		Value: 75, Better: 1})
	unknown := draft.FiguresOf(lab.New(), lab.New(), "", "2026-11-26").Words()
	assert.Contains(t, unknown, draft.Figure{Name: "cost_month", Title: "A month costs", Text: "?", Better: -1})
}

// Four drives of 4 TB at 100 in RAID 5 are 12 TB for 400, 33.33 a TB; with drives of 8 TB at
// 150 they are 24 TB for 600, 25 a TB.
func TestFiguresOfSmallDrivesAndLargeOnes(t *testing.T) {
	old := with(t, `lab, GBP
rack "R": 9U
9 nas "silo": 6 bays
  bay 1-4 drive: 4TB, paid 100
pool "hold" on silo: raid 5 of bay 1-4
dataset "sky" on hold: 9TB
? nas "loose": 2 bays, 2x 1TB
`).lab
	text := func(l *lab.Lab, in lab.ID) map[string]string {
		said := map[string]string{}
		for _, f := range draft.FiguresOf(l, old, in, "2026-11-26").Words() {
			said[f.Name] = f.Text
		}
		return said
	}
	before := text(old, "")
	assert.Equal(t, []string{"12 TB", "9 TB", "1, hold", "33.33 GBP", "6 of 8"}, []string{before["usable"], before["used"], before["may_fail"],
		before["usable_tb"], before["bays"]})
	assert.Equal(t, "4 of 6", text(old, labtest.Named[lab.Rack](t, old, "R").ID)["bays"], "in the rack alone")
	large, price := int64(8e12), int64(150_00)
	var changes []lab.Change
	for p := range lab.Each[lab.Part](old) {
		if p.PriceMinor != nil {
			is := p
			is.SizeBytes, is.PriceMinor = &large, &price
			changes = append(changes, lab.Change{Before: p, After: is})
		}
	}
	next, err := old.Apply(changes)
	require.NoError(t, err)
	after := text(next, "")
	assert.Equal(t, []string{"24 TB", "9 TB", "25.00 GBP"}, []string{after["usable"], after["used"], after["usable_tb"]})
	none := text(lab.New(), "")
	assert.Equal(t, []string{"?", "?", "no pools", "?", "0 of 0"}, []string{none["usable"], none["used"], none["may_fail"], none["usable_tb"],
		none["bays"]})
}

// A host of 32 GB keeps 4 and has given 24; the other has 8 of 16 left, so that of two
// guests of 12 none starts there. With 32 more GB in it both do.
func TestFiguresOfMoreMemory(t *testing.T) {
	old := with(t, `rack "R": 9U
9 server "anvil": 32GB, 16 cores, runs hypervisor, keeps 4GB
8 server "thrush": 16GB, 4 cores, runs hypervisor
on anvil: vm "a": 12GB, 4 vcpu
on anvil: vm "b": 12GB, 4 vcpu
on thrush: vm "c": 8GB, 2 vcpu
`).lab
	p := rundown.Load(old, rundown.ParseLine("thrush: 32GB"), rundown.Options{NewID: func() lab.ID { return "more" }})
	require.Empty(t, p.Mistakes)
	text := func(l *lab.Lab, in lab.ID) map[string]string {
		said := map[string]string{}
		for _, f := range draft.FiguresOf(l, old, in, "2026-11-26").Words() {
			said[f.Name] = f.Text
		}
		return said
	}
	before, after := text(old, ""), text(p.Lab, "")
	assert.Equal(t, []string{"36 of 48 GB", "10 on 20 cores", "0 of 2, anvil"},
		[]string{before["memory_given"], before["cores_given"], before["without_largest"]})
	assert.Equal(t, []string{"36 of 80 GB", "0 of 1, thrush"}, []string{after["memory_given"], after["without_largest"]},
		"thrush is the largest then, and its 8 GB are more than the 4 left on anvil")
	assert.Equal(t, "no hosts", text(lab.New(), "")["memory_given"])
}
