package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/demo"
)

// Quarry House has two circuits, two UPSs, strips, a lead in the wrong place, things fed over
// the network and draws that nobody knows.
func TestQuarryHouseShowsItsPower(t *testing.T) {
	l, err := demo.House()
	require.NoError(t, err)
	g := power.Of(l)
	kinds := map[power.NodeKind]int{}
	for _, n := range g.Nodes() {
		kinds[n.Kind]++
	}
	assert.Equal(t, []int{2, 2, 3, 3, 1}, []int{kinds[power.CircuitNode], kinds[power.UPSNode], kinds[power.OutletNode],
		kinds[power.StripNode],
		kinds[power.PDUNode]})
	sum := g.All()
	assert.Greater(t, sum.Watts[power.Typical], 400.0)
	assert.Positive(t, sum.Lacks[power.Typical])
	var core power.PoE
	for _, p := range g.PoE() {
		if g.Nodes()[p.Node].Title == "core" {
			core = p
		}
	}
	assert.Len(t, core.Ports, 4)
	assert.Equal(t, 1, core.Lacks)
	var said []string
	for _, f := range finding.OfPower(l) {
		said = append(said, f.Say)
	}
	assert.Contains(t, said, "All supplies of anvil hang on keep.")
	assert.Contains(t, said, "Supply in2 of silo is plugged in nowhere.")
}

func TestTheLargeLabHasItsPower(t *testing.T) {
	l, err := demo.LargePower()
	require.NoError(t, err)
	g := power.Of(l)
	leads := 0
	for _, f := range g.Feeds() {
		if f.Cable != "" {
			leads++
		}
	}
	assert.Equal(t, demo.LargeRacks*(3+29+25), leads)
	all := g.All()
	assert.Positive(t, all.Watts[power.Typical])
	servers := 0
	for d := range lab.Each[lab.Device](l) {
		if d.Kind == lab.Server {
			servers++
			n, _ := g.Number(d.Key())
			require.Len(t, g.In(n), 2)
		}
	}
	assert.Equal(t, demo.LargeRacks*25, servers)
}
