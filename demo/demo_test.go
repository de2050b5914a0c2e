package demo_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/demo"
)

func TestTheLargeLabIsTheSameForTheSameSeed(t *testing.T) {
	a, err := demo.Large(1)
	require.NoError(t, err)
	b, err := demo.Large(1)
	require.NoError(t, err)
	other, err := demo.Large(2)
	require.NoError(t, err)
	assert.Empty(t, lab.Diff(a, b))
	assert.NotEmpty(t, lab.Diff(a, other))
}

func TestTheLargeLabIsAsLargeAsItSays(t *testing.T) {
	l, err := demo.Large(1)
	require.NoError(t, err)
	racks, devices, onShelves := 0, 0, 0
	for range lab.Each[lab.Rack](l) {
		racks++
	}
	for d := range lab.Each[lab.Device](l) {
		devices++
		if d.At.Where == lab.OnDevice {
			onShelves++
		}
	}
	assert.Equal(t, demo.LargeRacks, racks)
	assert.Equal(t, demo.LargeDevices, devices)
	assert.Greater(t, onShelves, 500)
	report := rack.Report(l)
	assert.Greater(t, report.FreeU, 0)
	assert.Less(t, report.FreeU, report.HeightU)
}
