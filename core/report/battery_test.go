package report

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// asked is what a report answers, as other programs read it.
func asked(t *testing.T, l *lab.Lab, name string, with map[string]string) map[string]any {
	t.Helper()
	r, ok := Named(name)
	require.True(t, ok, name)
	answer, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-26", With: with})
	require.NoError(t, err, name)
	data, err := json.Marshal(answer)
	require.NoError(t, err)
	var out map[string]any
	require.NoError(t, json.Unmarshal(data, &out))
	return out
}

// named finds the entry of a list by its name.
func entry(t *testing.T, list any, name string) map[string]any {
	t.Helper()
	for _, e := range list.([]any) {
		if is := e.(map[string]any); is["name"] == name || is["device"] == name {
			return is
		}
	}
	require.Fail(t, "there is no "+name)
	return nil
}

const household = `lab "Quarry House", GBP, 230V, price 0.30 a kWh, standing 0.50 a day, target 30min
circuit "k": 16A 230V
place "Closet": shut, at most 40dB
  wall outlet "left": 2 outlets uk, on circuit "k"
  ups "keep": 1500VA 900W, 4 outlets c13 battery, 100W for 60min, 200W for 25min, watched by "anvil" over usb
  ups "idle": 700VA
  server "anvil": 100W, 34dB, 43dB busy
  switch "core": 50W, 4 ports 1G poe at, PoE budget 60W
  nas "silo": 50W, 34dB
  display "wall"
  access point "ap": 1 port 1G draws class 3, 9W
left/out1 - keep/in1
keep/out1 - anvil/in1
keep/out2 - core/in1
keep/out3 - silo/in1
core/1 - ap/1
keep battery: 216Wh, lead, put in 2021-01
anvil: goes after 5min, stops in 60s
silo: goes at 50%
core: goes last
`

// The load is 100 + 50 + 9/0.9 + 50 = 210 W; at 200 W it would hold 25 min when new, and
// half of that with a battery past its years.
func TestTheBatteryReportIsWhatOtherProgramsRead(t *testing.T) {
	l := labtest.From(t, household)
	r := asked(t, l, "battery", map[string]string{"add": "-10"})
	keep, idle := entry(t, r["ups"], "keep"), entry(t, r["ups"], "idle")
	assert.Equal(t, []any{210.0, "points", false}, []any{keep["load_w"], keep["rests_on"], keep["beyond"]})
	assert.InDelta(t, 12.5, keep["minutes_add"], 1e-9, "10 W less")
	assert.Less(t, keep["minutes"], 12.5)
	assert.InDelta(t, 2*keep["minutes"].(float64), keep["minutes_new"], 1e-9)
	assert.Equal(t, []any{"anvil", "usb", 30.0}, []any{keep["watched_by"], keep["watched_over"], keep["to_hold_min"]})
	assert.Equal(t, []any{"anvil", "ap", "core", "silo"}, keep["holds"])
	battery := keep["batteries"].([]any)[0].(map[string]any)
	assert.Equal(t, []any{"lead", 216.0, true, 0.5}, []any{battery["chemistry"], battery["energy_wh"], battery["past"], battery["left"]})
	assert.Equal(t, "unknown", idle["rests_on"])
	assert.NotContains(t, idle, "minutes", "unknown is never zero")
	other := asked(t, labtest.From(t, household+`sheet "Gill 9": ups, 400W for 60min`+"\n"), "battery", nil)
	instead := entry(t, other["ups"], "keep")["instead"].([]any)[0].(map[string]any)
	assert.InDelta(t, 400*60/210.0, instead["minutes"], 1e-9)
}

func TestTheShutdownReportIsWhatOtherProgramsRead(t *testing.T) {
	l := labtest.From(t, household)
	r := asked(t, l, "shutdown", nil)
	keep := entry(t, r["ups"], "keep")
	steps := keep["steps"].([]any)
	require.Len(t, steps, 3)
	first, last := steps[0].(map[string]any), steps[2].(map[string]any)
	assert.Equal(t, []any{"anvil", 300.0, 360.0}, []any{first["device"], first["at_s"], first["down_at_s"]})
	assert.Equal(t, "core", last["device"])
	assert.Equal(t, last["down_at_s"], keep["down_s"])
	assert.NotContains(t, keep, "empty_s", "nothing is left on it")
	assert.Equal(t, []any{"ap"}, keep["lost"])
	assert.Equal(t, 1800.0, keep["to_hold_s"])
	held := keep["held"].([]any)
	assert.Equal(t, []any{"after 5min", "60s"}, []any{held[0].(map[string]any)["goes"], held[0].(map[string]any)["stops"]})
	assert.Equal(t, "core", entry(t, held, "ap")["with"])
	start := r["start"].([]any)
	assert.Equal(t, []any{"core"}, start[0].(map[string]any)["devices"], "what all need starts first")
	back := asked(t, l, "shutdown", map[string]string{"back": "5.5"})["back"].(map[string]any)
	assert.Equal(t, []any{"anvil"}, back["stopping"])

	plan, err := ShutdownPlan(Ask{Lab: l, Built: l, Day: "2026-11-26"})
	require.NoError(t, err)
	for _, line := range []string{"# When the mains fail: Quarry House", "| 5:00 |", "| anvil | 6:00 |", "goes with core",
		"1. after 0:00: core"} {
		assert.Contains(t, plan, line)
	}
	assert.NotContains(t, plan, "idle", "it holds nothing")
	odd := labtest.From(t, "? ups \"a|b\": 35min, 2 outlets c13 battery\n? server \"*x*\": 5W\n\"a|b\"/out1 - \"*x*\"/in1\n")
	marks, err := ShutdownPlan(Ask{Lab: odd, Built: odd, Day: "2026-11-26"})
	require.NoError(t, err)
	assert.Contains(t, marks, `## a\|b`)
	assert.Contains(t, marks, `\*x\*`)
	assert.Contains(t, marks, "**lost**: nothing says when it goes")
}

// 210 W and what the UPS loses nobody knows: 0.30 x 210 x 24 x 30.44 / 1000 = 46.02, and
// 15.22 of standing charge.
func TestTheCostAndHeatReportsAreWhatOtherProgramsRead(t *testing.T) {
	l := labtest.From(t, household)
	r := asked(t, l, "cost", map[string]string{"off": "22:00-10:00", "aim": "40"})
	assert.InDelta(t, 210*24*0.03044, r["kwh_month"], 1e-6)
	assert.InDelta(t, 210*24*0.03044*0.30+0.50*30.44, r["cost_month"], 1e-6)
	assert.Equal(t, r["cost_month"], r["cost_month_most"])
	assert.Equal(t, []any{true, "GBP"}, []any{r["at_least"], r["currency"]})
	anvil, wall := entry(t, r["devices"], "anvil"), entry(t, r["devices"], "wall")
	assert.InDelta(t, 73.056, anvil["kwh_month"], 1e-9)
	assert.InDelta(t, 21.9168, anvil["cost_month"], 1e-9)
	assert.InDelta(t, 0.1*12*0.30*365.25, anvil["off_saves_year"], 1e-6)
	assert.NotContains(t, wall, "kwh_month", "unknown is never zero")
	assert.InDelta(t, (40-15.22)/(210*24*0.03044), r["aim_price"], 1e-6)
	assert.InDelta(t, 24*(40-15.22)/(210*24*0.03044*0.30), r["aim_hours"], 1e-6)
	assert.Len(t, r["hours"], 24)
	assert.Equal(t, "Closet", r["places"].([]any)[0].(map[string]any)["name"])
	circuits := r["circuits"].([]any)
	assert.Equal(t, "k", circuits[0].(map[string]any)["name"])
	for param, wrong := range map[string]string{"off": "soon", "aim": "-4"} {
		r, _ := Named("cost")
		_, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-26", With: map[string]string{param: wrong}})
		var bad *Wrong
		require.ErrorAs(t, err, &bad)
		assert.Equal(t, param, bad.Param)
	}
	unpriced := asked(t, labtest.From(t, "? server \"a\": 100W\n"), "cost", nil)
	assert.NotContains(t, unpriced, "cost_month")
	assert.NotContains(t, unpriced["devices"].([]any)[0], "cost_month")

	heat := entry(t, asked(t, l, "heat", map[string]string{"rise": "5"})["places"], "Closet")
	assert.InDelta(t, 210*3.412, heat["btu_h"], 1e-6)
	assert.InDelta(t, 2.985*210/5, heat["air_m3_h"], 1e-6)
	assert.InDelta(t, 37.01, heat["db_a"], 0.01)
	assert.InDelta(t, 43.51, heat["busy_db_a"], 0.01)
	assert.Equal(t, []any{true, 40.0, "place"}, []any{heat["shut"], heat["most_db"], heat["kind"]})
}
