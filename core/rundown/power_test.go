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

// What people say of power, each line with what it comes to; remarks are what was not
// understood.
func TestPowerAsItIsSpoken(t *testing.T) {
	one := func(v *float64) float64 {
		if v == nil {
			return -1
		}
		return *v
	}
	for line, want := range map[string][]float64{ // VA, W, A, V it gives, efficiency
		`ups "u": 1500VA 900W`:                     {1500, 900, -1, -1, -1},
		`ups "u": 1500VA/900W, 92% efficient`:      {1500, 900, -1, -1, 0.92},
		`ups "u": 1.5kVA, 900 W`:                   {1500, 900, -1, -1, -1},
		`ups "u": rated 1500VA, rated 900W`:        {1500, 900, -1, -1, -1},
		`ups "u": 900W, efficiency 85%`:            {-1, 900, -1, -1, 0.85},
		`pdu "u": rated 10A`:                       {-1, -1, 10, -1, -1},
		`pdu "u": 16 A`:                            {-1, -1, 16, -1, -1},
		`power strip "u": 13 amps`:                 {-1, -1, 13, -1, -1},
		`power strip "u": rated for 13A`:           {-1, -1, 13, -1, -1},
		`power brick "u": 19V 3.42A`:               {-1, -1, 3.42, 19, -1},
		`power brick "u": 12V/5A`:                  {-1, -1, 5, 12, -1},
		`power brick "u": 65W, gives 19V`:          {-1, 65, -1, 19, -1},
		`usb supply "u": 60W, 4 outlets usb-a`:     {-1, 60, -1, -1, -1},
		`wall socket "u": 2 outlets uk, rated 16A`: {-1, -1, 16, -1, -1},
	} {
		d := labtest.Named[lab.Device](t, labtest.From(t, "? "+line+"\n"), "u")
		is := []float64{one(d.RatedVA), one(d.RatedW), one(d.RatedA), one(d.GivesV), one(d.Efficiency)}
		assert.InDeltaSlice(t, want, is, 1e-9, line)
		assert.Empty(t, d.Remarks, line)
	}
}

func TestWhatAThingDrawsAsItIsSpoken(t *testing.T) {
	for line, check := range map[string]func(*testing.T, lab.Device){
		`measured 168W 2026-11-20 by "plug meter"`: func(t *testing.T, d lab.Device) {
			assert.Equal(t, []any{168.0, lab.When("2026-11-20"), "plug meter"}, []any{*d.Measured.W, d.Measured.On, d.Measured.By})
		},
		`measured 0W`:                        func(t *testing.T, d lab.Device) { assert.Zero(t, *d.Measured.W) },
		`168W measured in 2026-11`:           func(t *testing.T, d lab.Device) { assert.Equal(t, lab.When("2026-11"), d.Measured.On) },
		`measured 1.2kW with "the clamp"`:    func(t *testing.T, d lab.Device) { assert.InDelta(t, 1200, *d.Measured.W, 1e-9) },
		`measured 74W behind it`:             func(t *testing.T, d lab.Device) { assert.Equal(t, 74.0, *d.Behind.W); assert.Nil(t, d.Measured) },
		`measured 74W on its outlets behind`: func(t *testing.T, d lab.Device) { assert.Equal(t, 74.0, *d.Behind.W) },
		`starts drives one by one`:           func(t *testing.T, d lab.Device) { assert.True(t, d.OneByOne) },
		`staggered spin-up`:                  func(t *testing.T, d lab.Device) { assert.True(t, d.OneByOne) },
		`in bypass`:                          func(t *testing.T, d lab.Device) { assert.True(t, d.Bypass) },
		`400W boot`:                          func(t *testing.T, d lab.Device) { assert.Equal(t, 400.0, *d.BootW) },
		`power factor 0.9`:                   func(t *testing.T, d lab.Device) { assert.Equal(t, 0.9, *d.Factor) },
		`input 19V`:                          func(t *testing.T, d lab.Device) { assert.Equal(t, 19.0, *d.TakesV) },
		`on 7am-11pm`: func(t *testing.T, d lab.Device) {
			assert.Equal(t, []lab.RunTime{{From: "07:00", To: "23:00"}}, d.RunTimes)
		},
		`runs 22.30-6`: func(t *testing.T, d lab.Device) {
			assert.Equal(t, []lab.RunTime{{From: "22:30", To: "06:00"}}, d.RunTimes)
		},
		`4h a day most, 4 hours per day idle, 2h a week`: func(t *testing.T, d lab.Device) {
			assert.Equal(t, []lab.RunTime{{Hours: 4, Every: lab.EveryDay, Level: lab.AtMost}, {Hours: 4, Every: lab.EveryDay, Level: lab.AtIdle},
				{Hours: 2, Every: lab.EveryWeek}}, d.RunTimes)
		},
		`4h a day most, 6h a day most`: func(t *testing.T, d lab.Device) {
			assert.Equal(t, []lab.RunTime{{Hours: 6, Every: lab.EveryDay, Level: lab.AtMost}}, d.RunTimes, "the later one of a level holds")
		},
	} {
		t.Run(line, func(t *testing.T) {
			d := labtest.Named[lab.Device](t, labtest.From(t, "? server \"s\": "+line+"\n"), "s")
			check(t, d)
			assert.Empty(t, d.Remarks)
		})
	}
}

func TestCircuitsAsTheyAreSpoken(t *testing.T) {
	for line, want := range map[string]lab.Circuit{
		`circuit "k": 16A 230V`:               circuit(16, 230, 0, 0),
		`circuit k: 16A`:                      circuit(16, 0, 0, 0),
		`breaker "k": 32A, 400V, three phase`: circuit(32, 400, 3, 0),
		`fuse "k": 15 A 120 V single pole`:    circuit(15, 120, 1, 0),
		`circuit "k": 20A, 90% for hours`:     circuit(20, 0, 0, 0.9),
		`circuit "k"`:                         circuit(0, 0, 0, 0),
	} {
		l := labtest.From(t, line+"\n")
		is := labtest.Named[lab.Circuit](t, l, "k")
		want.ID, want.Name = is.ID, is.Name
		assert.Equal(t, want, is, line)
		again := labtest.From(t, rundown.Print(l))
		assert.Equal(t, is, labtest.Named[lab.Circuit](t, again, "k"), line)
	}
}

func circuit(amps, volts float64, poles int, hours float64) lab.Circuit {
	var c lab.Circuit
	for _, f := range []struct {
		into **float64
		v    float64
	}{{&c.Amps, amps}, {&c.Volts, volts}, {&c.Hours, hours}} {
		if f.v > 0 {
			*f.into = &f.v
		}
	}
	if poles > 0 {
		c.Poles = &poles
	}
	return c
}

// What is wrong with a line about power is said with what would be right.
func TestPowerThatCannotBe(t *testing.T) {
	l := labtest.From(t, feeds)
	for line, say := range map[string]string{
		`circuit "x": -16A`:                                  "a current cannot be negative",
		`circuit "x": 16`:                                    "16 of what",
		`anvil: -5W typical`:                                 "a power cannot be negative",
		`anvil: 500W typical`:                                "typical, 500 W, is above most, 310 W",
		`anvil: 3 supplies needed`:                           "it cannot need 3 supplies and have room for 2",
		`keep: 25h a day most`:                               "25 hours a day are not 0 to 24",
		`anvil: on 07:00-29:00`:                              "“29:00” is not a time of day",
		`anvil: measured 168 2026-13-40`:                     "168 of what unit",
		`keep: 120% efficient`:                               "of what it draws",
		`keep: 4 outlets c13 battery filtered`:               "held by the battery or only filtered, and not both",
		`keep/out2 - pantry left/out2`:                       "are both outlets; a power lead goes from an outlet into an inlet",
		`wall outlet "x": 2 outlets uk, on circuit "cellar"`: "cellar",
	} {
		p := typed(t, l, line)
		require.NotEmpty(t, p.Mistakes, line)
		assert.Contains(t, p.Mistakes[0].Say, say, line)
	}
}

// Outlets and draws in words of their owners.
func TestOutletsAsTheyAreSpoken(t *testing.T) {
	l := labtest.From(t, `? ups "damp": 2200VA, eight outlets hold, two only filter
? power strip "left": 12 C13s
? server "wheel": two psus, 155W most of the time, 300W flat out
? server "glaze": two psu bays, one psu 750W, 120W
`)
	damp, left := labtest.Named[lab.Device](t, l, "damp"), labtest.Named[lab.Device](t, l, "left")
	assert.Equal(t, []lab.OutletGroup{{Count: 8, Battery: true}, {Count: 2, Filtered: true}}, damp.Outlets)
	assert.Equal(t, []lab.OutletGroup{{Count: 12, Connector: "c13"}}, left.Outlets)
	wheel, glaze := labtest.Named[lab.Device](t, l, "wheel"), labtest.Named[lab.Device](t, l, "glaze")
	assert.Equal(t, []float64{155, 300}, []float64{*wheel.TypicalW, *wheel.MostW})
	assert.Equal(t, 2, *glaze.SupplyBays)
	assert.Empty(t, glaze.Bays)
	for _, d := range []lab.Device{damp, left, wheel, glaze} {
		assert.Empty(t, d.Remarks, d.Name)
	}
}
