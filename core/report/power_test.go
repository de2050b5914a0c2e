package report

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/labtest"
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
