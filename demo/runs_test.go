package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/service"
	"levelstaff/demo"
)

// What Quarry House shows of services: a host given too much, a card handed through, a toy
// beside the names, and that next to nothing starts elsewhere without anvil.
func TestQuarryHouseShowsWhatRuns(t *testing.T) {
	l := house(t)
	said := map[string]bool{}
	for _, f := range finding.OfServices(l, "2026-11-28") {
		said[f.Say] = true
	}
	for _, say := range []string{
		"plover has 16 GB, keeps 1 GB and has given 17 GB: 2 GB more than fitted.",
		"thrush has 512 MB left, and runs toys (trial) beside what the household needs (names 2).",
		"camera desk has a leg in VLAN 40, and no cable carries that to anvil.",
		"thrush runs Cairn 8.4, which was supported until 2026-06.",
	} {
		assert.True(t, said[say], say)
	}
	s := service.Of(l)
	assert.Len(t, s.Hosts(), 7)
	assert.Equal(t, "anvil", s.Largest().Title())
	n, of := s.Without(s.Largest(), false, service.Steps).Starts()
	assert.Equal(t, [2]int{1, 8}, [2]int{n, of})
	services := 0
	for range lab.Each[lab.Service](l) {
		services++
	}
	assert.GreaterOrEqual(t, services, 15)
}

func TestTheLargeLabOfServicesIsAsLargeAsItSays(t *testing.T) {
	l, err := demo.LargeServices()
	require.NoError(t, err)
	s := service.Of(l)
	n, inside := 0, 0
	for g := range s.Each() {
		n++
		if g.Up != nil {
			inside++
		}
	}
	assert.Equal(t, demo.LargeGuests, n)
	assert.Greater(t, inside, 100)
	assert.Len(t, s.Hosts(), demo.LargeHosts)
	p := s.Without(s.Hosts()[7], false, service.Steps)
	starts, of := p.Starts()
	assert.Greater(t, starts, of/2)
}
