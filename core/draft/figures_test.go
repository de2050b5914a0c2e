package draft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
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
	figures := draft.FiguresOf(b.lab, r, "2026-11-23")
	// The notes are that copy is not placed, which is of no rack; ember, at
	// 5.5U of 9U, is above half height, and no lighter thing is below that is weighed;
	// (4 x 8.5 + 1 x 8.5 + 13 x 5.5) / 18 = 6.3U is above half height: one note.
	assert.Equal(t, draft.Figures{Things: 4, HeightU: 9, FreeU: 5, LargestU: 3, Unplaced: 2, WeightKG: 18, Unweighed: 1,
		PortsFree: 8, Undrawn: [3]int{1, 1, 1},
		Act: 1, Watch: 1, Note: 1}, figures)

	all := draft.FiguresOf(b.lab, "", "2026-11-23")
	// And in all: S has 3 free in one piece, h hangs at 4 with nothing below it;
	// gate runs, but nobody said where.
	assert.Equal(t, draft.Figures{Things: 7, HeightU: 13, FreeU: 8, LargestU: 3, Unplaced: 2, WeightKG: 18.5, Unweighed: 1, PortsFree: 8,
		Unlisted: 1, Undrawn: [3]int{3, 3, 3}, Act: 1, Watch: 3, Note: 2}, all)

	l, err := b.lab.Apply([]lab.Change{{Before: b.device("ember")}})
	require.NoError(t, err)
	after := draft.FiguresOf(l, r, "2026-11-23")
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
		for _, f := range draft.FiguresOf(l, "", "2026-11-23").Words() {
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
