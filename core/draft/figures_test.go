package draft_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
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
	assert.Equal(t, draft.Figures{Things: 4, HeightU: 9, FreeU: 5, LargestU: 3, Unplaced: 2, WeightKG: 18, Unweighed: 1, PortsFree: 8, Act: 1,
		Watch: 1, Note: 1}, figures)

	all := draft.FiguresOf(b.lab, "", "2026-11-23")
	// And in all: S has 3 free in one piece, h hangs at 4 with nothing below it;
	// gate runs, but nobody said where.
	assert.Equal(t, draft.Figures{Things: 7, HeightU: 13, FreeU: 8, LargestU: 3, Unplaced: 2, WeightKG: 18.5, Unweighed: 1, PortsFree: 8,
		Unlisted: 1, Act: 1, Watch: 3, Note: 2}, all)

	l, err := b.lab.Apply([]lab.Change{{Before: b.device("ember")}})
	require.NoError(t, err)
	after := draft.FiguresOf(l, r, "2026-11-23")
	assert.Equal(t, 6, after.LargestU, "3-8 is one piece")
	assert.Zero(t, after.Watch)
}
