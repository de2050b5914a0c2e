package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/battery"
	"levelstaff/core/finding"
	"levelstaff/core/power"
	"levelstaff/core/running"
	"levelstaff/demo"
)

// Worked out by hand for 26 November 2026: keep gives 348 W and holds 14 x (348/500)^-1.4854 =
// 23.98 min new; its lead is of May 2022, 4.49 years, and holds 0.551 of that: 13.2 min.
// anvil, core and gate are down long before it is empty; silo goes after 5 minutes.
func TestQuarryHouseOnBattery(t *testing.T) {
	l, err := demo.House()
	require.NoError(t, err)
	const today = "2026-11-26"
	g := power.Of(l)
	held := map[string]battery.Hold{}
	for _, h := range battery.Of(l, l, today) {
		held[g.Nodes()[h.Node].Title] = h
	}
	keep := held["keep"]
	assert.InDelta(t, 348, keep.LoadW, 0.5)
	assert.InDelta(t, 13.2, keep.Minutes, 0.05)
	assert.InDelta(t, 0.551, keep.Curve.Left, 0.001)
	assert.False(t, keep.Beyond)
	for _, r := range battery.Now(l, today).Runs {
		if g.Nodes()[r.Node].Title != "keep" {
			continue
		}
		require.NotNil(t, r.DownS)
		require.NotNil(t, r.EmptyS)
		assert.Less(t, *r.DownS, *r.EmptyS)
		assert.Equal(t, 300.0, r.Steps[0].AtS)
	}
	b := running.Of(l)
	assert.True(t, b.Priced)
	assert.True(t, b.AtLeast)
	n, _ := g.Number(g.Nodes()[keep.Node].Key)
	assert.Positive(t, b.Nodes[n].KWh, "what it loses")
	var said []string
	for _, f := range finding.OfBatteries(l, today) {
		said = append(said, f.Say)
	}
	assert.Contains(t, said, "Nothing says who watches drystone, so nothing tells plover that the mains are gone.")
	assert.Contains(t, said, "Study is at 39 dB(A) when all is busy; it is to be 35 at most.")
}
