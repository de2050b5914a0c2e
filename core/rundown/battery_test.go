package rundown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

const onBattery = `lab "Quarry House", GBP, price 0.31 a kWh, price 0.12 a kWh 00:30-05:30, standing 0.61 a day, target 20min
place "Closet": shut, at most 35dB
? ups "keep": 1500VA 900W, 500W for 14min, 1000W for 5min
? ups "flint": 400W for 60min
? ups "loft keep": 35min
keep battery: 216Wh, lead, put in 2022-05
? server "anvil": 34dB, 43dB busy
? nas "silo"
? switch "core"
? single-board computer "finch"
anvil: goes at 40%, stops in 90s
silo: goes after 5min
core: goes last
finch: goes after "anvil"
keep: watched by finch over usb
flint: must hold 20min
`

func TestBatteriesSaidInWordsAreInTheRecords(t *testing.T) {
	l := labtest.From(t, onBattery)
	s := l.Settings()
	assert.Equal(t, []lab.Price{{PerKWh: 0.31}, {PerKWh: 0.12, From: "00:30", To: "05:30"}}, s.Prices)
	assert.Equal(t, []float64{0.61, 20}, []float64{*s.StandingDay, *s.ToHoldMin})
	closet := labtest.Named[lab.Place](t, l, "Closet")
	assert.True(t, closet.Shut)
	assert.Equal(t, 35.0, *closet.MostDB)
	device := func(name string) lab.Device { return labtest.Named[lab.Device](t, l, name) }
	keep, loft := device("keep"), device("loft keep")
	require.Len(t, keep.Runtimes, 2)
	assert.Equal(t, []float64{500, 14, 1000, 5}, []float64{*keep.Runtimes[0].W, keep.Runtimes[0].Minutes,
		*keep.Runtimes[1].W, keep.Runtimes[1].Minutes})
	assert.Equal(t, []lab.Runtime{{Minutes: 35}}, loft.Runtimes)
	assert.Equal(t, device("finch").ID, keep.WatchedBy)
	assert.Equal(t, lab.OverUSB, keep.WatchedOver)
	assert.Equal(t, 20.0, *device("flint").ToHoldMin)
	battery := l.PartsOf(keep.ID)[0]
	assert.Equal(t, []any{lab.Battery, "lead", lab.When("2022-05"), 216.0}, []any{battery.Kind, battery.Chemistry,
		battery.PutIn, *battery.EnergyWh})
	assert.Equal(t, 40.0, *device("anvil").Goes.AtPercent)
	assert.Equal(t, []float64{90, 34, 43}, []float64{*device("anvil").StopsS, *device("anvil").NoiseDB, *device("anvil").BusyDB})
	assert.Equal(t, 5.0, *device("silo").Goes.AfterMin)
	assert.True(t, device("core").Goes.Last)
	assert.Equal(t, device("anvil").ID, device("finch").Goes.After)

	again := rundown.Print(l)
	assert.Equal(t, again, rundown.Print(labtest.From(t, again)))
}

// What people say for the same things.
func TestBatteriesAsTheyAreSpokenOf(t *testing.T) {
	for line, want := range map[string]string{
		"? mini pc \"wheel\"\n? ups \"k\": watched by wheel over the network": "watched over network",
		`? switch "k": silent`:                                           "0dB",
		"? ups \"k\"\nk battery: lead gel, since 2023":                   "battery: lead, put in 2023",
		`? ups "k": 180 watts 9 minutes`:                                 "180W for 9min",
		`? ups "k": 90W lasts 22min`:                                     "90W for 22min",
		"? ups \"k\": 500W for 14min\nk: 1000W for 5min, 500W for 13min": "500W for 13min, 1000W for 5min",
		`? ups "k": 14min at 500W`:                                       "500W for 14min",
		`? ups "k": holds 1h`:                                            "60min",
		`? ups "k": 700VA, 420W, 420W for 2min`:                          "420W for 2min, rated 700VA, rated 420W",
		`? server "k": goes after 90s`:                                   "goes after 1.5min",
		`? server "k": goes at once`:                                     "goes after 0min",
		`? server "k": shuts down at 30 percent`:                         "goes at 30%",
		`? server "k": stops within 2min`:                                "stops in 120s",
		`? ups "k": until the generator 20 minutes`:                      "target 20min",
		"? ups \"k\"\nk battery: 108Wh, agm":                             "battery: 108Wh, lead",
	} {
		assert.Contains(t, rundown.Print(fresh(t, line+"\n")), want, line)
	}
	for line, want := range map[string]lab.Price{
		"lab, 0.3125 per kWh":                      {PerKWh: 0.3125},
		"lab, price 31.25p a kWh":                  {PerKWh: -1},
		"lab, price 0,29 a kWh":                    {PerKWh: 0.29},
		"lab, price 0.3 a kWh 7am-11pm, 0.1 a kWh": {PerKWh: 0.3, From: "07:00", To: "23:00"},
		"lab, energy costs £0.30 a kWh":            {PerKWh: 0.3},
	} {
		p := load(t, lab.New(), line+"\n", rundown.Options{All: true})
		if want.PerKWh < 0 {
			assert.NotEmpty(t, p.Mistakes, line)
			continue
		}
		require.Empty(t, p.Mistakes, line)
		assert.Contains(t, p.Lab.Settings().Prices, want, line)
	}
}

// What is wrong is told where it is, and what would be right.
func TestMistakesAboutBatteries(t *testing.T) {
	for line, say := range map[string]string{
		`? ups "k": 500W for 5min, 1000W for 14min`:                           "more load empties it sooner",
		`? server "k": goes at 140%`:                                          "percent of the battery",
		`? server "k": goes after "nobody"`:                                   "nobody",
		`? ups "k"` + "\n" + `k battery: 0Wh`:                                 "an energy cannot be zero",
		`lab, price -0.1 a kWh`:                                               "a price is 0 or more",
		`lab, price dear a kWh`:                                               "is not an amount",
		`lab, price 0.1 a kWh 00:00-06:00`:                                    "no price is for 06:00",
		`lab, standing much a day`:                                            "is not an amount",
		`nobody battery: 216Wh`:                                               "nobody",
		`? server "a": goes after "b"` + "\n? server \"b\": goes after \"a\"": "wait for itself",
	} {
		p := load(t, lab.New(), line+"\n", rundown.Options{All: true})
		require.NotEmpty(t, p.Mistakes, line)
		assert.Contains(t, p.Mistakes[0].Say, say, line)
	}
	twice := fresh(t, "lab \"Q\", GBP, price 0.3 a kWh\nlab \"Q\", mains 230V, standing 0.61 a day\n").Settings()
	assert.Equal(t, []any{"Q", "GBP", 230.0, 0.61, 1}, []any{twice.Name, twice.Currency, *twice.MainsV, *twice.StandingDay, len(twice.Prices)})
	l := fresh(t, onBattery)
	dearer := typed(t, l, "lab: price 0.33 a kWh")
	require.Empty(t, dearer.Mistakes)
	assert.Equal(t, []lab.Price{{PerKWh: 0.33}, {PerKWh: 0.12, From: "00:30", To: "05:30"}}, dearer.Lab.Settings().Prices, "the night's stays")
	assert.Equal(t, 1, len(typed(t, l, "keep battery: put in 2026-11").Changes), "it is the battery that is there")
}
