package power_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/labtest"
	"levelstaff/core/power"
)

// keep gives 204 of 900 W: 696 are left, and of its 1500 VA more. kitchen 4 gives 255 / 0.95 =
// 268.4 of 2944 VA, which leaves 2675.6 x 0.95 = 2542 W; garden 2 132 / 0.95 = 138.9 of 1840,
// which leaves 1616 W, less than tower may give. keep's free outlet only filters.
func TestWhereThereIsRoomForMore(t *testing.T) {
	g := power.Of(labtest.From(t, house))
	said := func(w float64) []string {
		var list []string
		for _, r := range g.RoomFor(w) {
			list = append(list, fmt.Sprintf("%s %d free, %.0f W by %s, held %v, %v", g.Nodes()[r.Node].Title, r.Free, *r.LeftW,
				g.Nodes()[r.Least].Title, r.Held, r.Takes(w)))
		}
		return list
	}
	assert.Equal(t, []string{
		"left 1 free, 2542 W by kitchen 4, held false, true",
		"right 1 free, 1616 W by garden 2, held false, true",
		"tower 3 free, 1616 W by garden 2, held false, true",
		"keep 1 free, 696 W by keep, held false, true",
	}, said(100))
	assert.Contains(t, said(1000)[3], "keep 1 free, 696 W by keep, held false, false")
	bare := power.Of(labtest.From(t, "? power strip \"a\": 3 outlets uk\n")).RoomFor(5000)
	assert.Nil(t, bare[0].LeftW)
	assert.True(t, bare[0].Takes(5000), "no limit is known")
}
