package report

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

// A breaker, a UPS and two devices; what amp draws is not known, and what core gives over
// the network it draws, divided by 0.9.
func TestPowerReportsAreWhatOtherProgramsRead(t *testing.T) {
	l := labtest.From(t, `circuit "kitchen 4": 16A 230V
place "Pantry"
  wall outlet "left": 2 outlets uk, on circuit "kitchen 4"
? ups "keep": 1500VA 900W, 4 outlets c13 battery
? switch "core": 62W typical, 4 ports 1G poe at, PoE budget 60W
? amplifier "amp"
? access point "ap": 1 port 1G draws class 3, 9W typical
left/out1 - keep/in1
keep/out1 - core/in1
left/out2 - amp/in1
core/1 - ap/1
`)
	as := func(name string) map[string]any {
		r, ok := Named(name)
		require.True(t, ok)
		answer, err := r.Of(Ask{Lab: l, Built: l})
		require.NoError(t, err)
		data, err := json.Marshal(answer)
		require.NoError(t, err)
		var read map[string]any
		require.NoError(t, json.Unmarshal(data, &read))
		return read
	}
	byName := map[string]map[string]any{}
	for _, n := range as("feeds")["nodes"].([]any) {
		byName[n.(map[string]any)["name"].(string)] = n.(map[string]any)
	}
	kitchen, keep, amp := byName["kitchen 4"], byName["keep"], byName["amp"]
	assert.Equal(t, []any{"circuit", 72.0, 2944.0, true, 1.0, []any{}}, []any{kitchen["kind"], kitchen["watts"].(map[string]any)["typical"],
		kitchen["limit_w"], kitchen["at_least"], kitchen["unknown"], kitchen["fed_by"]})
	assert.Equal(t, []any{"ups", 900.0, 1500.0, false, 0.0, []any{"left"}, true}, []any{keep["kind"], keep["limit_w"], keep["limit_va"],
		keep["at_least"], keep["unknown"], keep["fed_by"], keep["losses_unknown"]})
	assert.Nil(t, amp["watts"].(map[string]any)["typical"], "unknown is not zero")
	assert.Nil(t, amp["va"])

	losses := map[string]any{}
	for _, loss := range as("losses")["losses"].([]any) {
		losses[loss.(map[string]any)["what"].(string)] = loss.(map[string]any)["dark"]
	}
	assert.Equal(t, []any{"amp"}, losses["kitchen 4"], "the battery holds core")
	assert.Equal(t, []any{"ap", "core"}, losses["keep"])
	assert.Equal(t, []any{"ap", "core"}, losses["keep/out1"])
	assert.Equal(t, []any{"ap", "core"}, losses["core/in1"], "the lead, by what it is plugged into")
	assert.Equal(t, []any{"ap"}, losses["core/1"])

	core := as("poe")["switches"].([]any)[0].(map[string]any)
	assert.Equal(t, []any{"core", 60.0, 15.4, 44.6}, []any{core["name"], core["budget_w"], core["given_w"], core["left_w"]})
}

// A UPS, what it feeds by a strip, and what that feeds over the network; a shelf takes
// what stands on it along, which is then not told.
func TestWhatTakingSomethingOutDoesToThePower(t *testing.T) {
	l := labtest.From(t, `rack "R": 20U
20 switch "core": 8 ports 1G poe+, 2 ports 1G
19 server "anvil": 2 psus
18 server "heron"
10 shelf "board"
  single-board computer "finch"
5 pdu "bar": 4 outlets c13
3 ups "damp": 4 outlets c13
1 ups "dry": 2 outlets c13
place "Loft"
  access point "ap": class 4
  power strip "pillar": 2 outlets uk
pillar/out1 - damp/in1
damp/1 - bar/in1
bar/1 - anvil/in1
dry/1 - anvil/in2
bar - heron
bar/3 - core
core/1 - ap
dry/2 - finch
`)
	for name, want := range map[string]PowerLoss{
		"damp":   {Dark: []string{"ap", "core", "heron"}, OneLeg: []string{"anvil"}},
		"bar":    {Dark: []string{"ap", "core", "heron"}, OneLeg: []string{"anvil"}},
		"dry":    {Dark: []string{"finch"}, OneLeg: []string{"anvil"}},
		"core":   {Dark: []string{"ap"}},
		"pillar": {Held: []string{"ap", "core", "heron"}},
		"board":  {},
		"anvil":  {},
	} {
		at, known := rundown.DeviceNamed(l)(name)
		require.True(t, known, name)
		d, _ := lab.Find[lab.Device](l, at)
		got := LossOf(l, l.TakenOut(d)...)
		assert.Equal(t, [3]string{fmt.Sprint(want.Dark), fmt.Sprint(want.OneLeg), fmt.Sprint(want.Held)},
			[3]string{fmt.Sprint(got.Dark), fmt.Sprint(got.OneLeg), fmt.Sprint(got.Held)}, name)
	}
}
