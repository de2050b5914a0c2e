package rundown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

const feeds = `lab "Quarry House": 230V, 80% for hours

circuit "kitchen 4": 16A 230V, in "Pantry"
circuit "kiln": 32A 400V 3 poles

place "Pantry"
  wall outlet "pantry left": 2 outlets uk, on circuit "kitchen 4"
  ups "keep": 1500VA 900W, 4 outlets c13 battery rear, 4 outlets c13 filtered rear, 92% efficient
  pdu "bar": rated 10A, 8 outlets c13 switched metered
  power strip "pillar": rated 13A
  power brick "heron brick": 19V 3A
  server "anvil": 2 supply bays, 6W standby, 120W idle, 168W typical, 310W max, measured 168W 2026-11-20 by "plug meter",
	starts drives one by one
  amplifier "amp": 4h a day most, 4h a day idle
  single-board computer "kiln log": 2h a week most

pantry left/out1 - keep/in1 1.5m
keep/out1 - anvil/in1 1m
keep: measured 74W behind it 2026-11-20 by "plug meter"
anvil: on 07:00-23:00
`

func TestPowerSaidInWordsIsInTheRecords(t *testing.T) {
	l := labtest.From(t, feeds)
	kiln := labtest.Named[lab.Circuit](t, l, "kiln")
	assert.Equal(t, 32.0, *kiln.Amps)
	assert.Equal(t, 400.0, *kiln.Volts)
	assert.Equal(t, 3, *kiln.Poles)
	keep := labtest.Named[lab.Device](t, l, "keep")
	assert.Equal(t, 1500.0, *keep.RatedVA)
	assert.Equal(t, 900.0, *keep.RatedW)
	assert.InDelta(t, 0.92, *keep.Efficiency, 1e-9)
	require.Len(t, keep.Outlets, 2)
	assert.True(t, keep.Outlets[1].Filtered)
	assert.Equal(t, 74.0, *keep.Behind.W)
	assert.Empty(t, keep.Remarks)
	anvil := labtest.Named[lab.Device](t, l, "anvil")
	assert.Equal(t, lab.Measurement{W: keep.Behind.W, On: "2026-11-20", By: "plug meter"}.On, anvil.Measured.On)
	assert.Equal(t, 168.0, *anvil.Measured.W)
	assert.True(t, anvil.OneByOne)
	assert.Equal(t, []lab.RunTime{{From: "07:00", To: "23:00"}}, anvil.RunTimes)
	assert.InDelta(t, 16, anvil.RunTimes[0].HoursADay(), 1e-9)
	brick := labtest.Named[lab.Device](t, l, "heron brick")
	assert.Equal(t, 19.0, *brick.GivesV)
	assert.Equal(t, 3.0, *brick.RatedA)
	left := labtest.Named[lab.Device](t, l, "pantry left")
	assert.NotEmpty(t, left.Circuit)
	log := labtest.Named[lab.Device](t, l, "kiln log")
	assert.InDelta(t, 2.0/7, log.RunTimes[0].HoursADay(), 1e-9)

	again := rundown.Print(l)
	assert.Equal(t, again, rundown.Print(labtest.From(t, again)))
}
