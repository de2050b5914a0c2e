package report

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

const stored = `
place "House"
place "Sister's", outside the house
rack "Pantry": 24U, in "House"
9-10 nas "crock": 12 bays
  bay 1-6 drive: 10TB, hdd
  bay 7 drive: 10TB, hdd
7-8 server "glaze": 8 bays, 4x 4TB, 1 port rj45 10G
6 switch "slab": 4 ports rj45 10G
pool "main" on crock: raid-z2 of bay 1-6, hot spare bay 7, 20TB used 2026-11-20, grows 500GB a month
pool "copies" on glaze: raid 5 of bay 1-4
dataset "shop" on main: 4TB, household
dataset "sky" on main: 20TB, lab
dataset "play" on main: 1TB, toy
share "shop" of "shop" by nfs to glaze, slab, by name
copy of "shop" to copies: nightly, last 2026-11-25
copy of "shop" from copies to "Sister's": weekly
copy of "sky" to copies: weekly
glaze/1 - slab/1 1m cat6
`

func TestTheReportOfPools(t *testing.T) {
	l := labtest.From(t, stored)
	answer := asked(t, l, "pools", nil)
	main := entry(t, answer["pools"], "main")
	for field, want := range map[string]any{"device": "crock", "raw_bytes": 60e12, "usable_bytes": 40e12, "redundancy_bytes": 20e12,
		"unused_bytes": 0.0, "spare_bytes": 10e12, "kept_back_bytes": 1.25e12, "used_bytes": 20e12, "at_least": false,
		"may_fail": map[string]any{"worst": 2.0, "best": 2.0}, "words": "RAID-Z2 of 6 x 10 TB, 1 hot spare",
		"may_fail_words": "any two drives may fail", "rebuild_reads_bytes": 40e12, "months_to_80_percent": 22.0, "past_80_percent": "2028-09"} {
		assert.Equal(t, want, main[field], field)
	}
	bays := answer["bays"].([]any)[0].(map[string]any)
	assert.Equal(t, "crock", bays["device"])
	assert.Len(t, bays["bays"], 12)
	assert.Equal(t, map[string]any{"bays_filled": 11.0, "bays": 20.0, "datasets": 2.0, "none_outside": 1.0, "restored": 0.0,
		"usable_bytes": 52e12,
		"used_bytes":   24e12, "without_copy": 1.0}, answer["sum"], "the copy of the shop counts")
}

func TestTheReportOfCopies(t *testing.T) {
	l := labtest.From(t, stored)
	answer := asked(t, l, "copies", nil)
	shop := entry(t, answer["datasets"], "shop")
	assert.Equal(t, []any{3.0, 3.0, 1.0, true}, []any{shop["copies"], shop["devices"], shop["outside"], shop["holds_321"]})
	lost := shop["lost_if"].(map[string]any)
	assert.Equal(t, map[string]any{"at_most_h": 24.0, "now_h": 24.0, "words": "24 h"}, lost["device"])
	assert.Equal(t, map[string]any{"at_most_h": 192.0, "words": "at most 8 days"}, lost["house"], "a day and a week")
	sky := entry(t, answer["datasets"], "sky")
	assert.Equal(t, "all", sky["lost_if"].(map[string]any)["pool"], "12 TB less the shop's 4 have no room for 20")
	assert.Equal(t, "shop", answer["datasets"].([]any)[0].(map[string]any)["name"], "what matters most first")
}

func TestWhatIsLostIsAskedByItsKind(t *testing.T) {
	l := labtest.From(t, stored)
	crock := labtest.Named[lab.Device](t, l, "crock")
	assert.Len(t, asked(t, l, "data_lost", map[string]string{"with": "device:" + string(crock.ID)})["lost"], 3)
	assert.Len(t, asked(t, l, "data_lost", nil)["lost"], 3)
	r, _ := Named("data_lost")
	for _, with := range []string{"cellar", "device:none", "cable:" + string(crock.ID)} {
		_, err := r.Of(Ask{Lab: l, With: map[string]string{"with": with}})
		var wrong *Wrong
		require.ErrorAs(t, err, &wrong, with)
		assert.Contains(t, wrong.Say, "write house, or part:ID")
	}
}

func TestHowAShareIsReached(t *testing.T) {
	l := labtest.From(t, stored)
	share := entry(t, asked(t, l, "shares", nil)["shares"], "shop")
	assert.Equal(t, "name", share["mounted_by"])
	mounts := share["mounts"].([]any)
	require.Len(t, mounts, 2)
	assert.Equal(t, "No link leads there.", mounts[0].(map[string]any)["why"], "crock has no port at all")
	l = labtest.From(t, stored+"\ncrock: 1 port rj45 1G\ncrock/1 - slab/2 1m cat6\n")
	glaze := entry(t, asked(t, l, "shares", nil)["shares"], "shop")["mounts"].([]any)[0].(map[string]any)
	assert.Equal(t, 1000.0, glaze["speed_mb"])
	assert.Equal(t, []any{"crock", "slab", "glaze"}, glaze["hops"])
}

func TestWhatBaysWouldComeTo(t *testing.T) {
	l := labtest.From(t, "? nas \"silo\": 8 bays\n  bay 1-4 drive: 4TB\npool \"a\" on silo: mirror of bay 1-2\n")
	answer := asked(t, l, "layouts", map[string]string{"device": "silo", "bays": "1,2,3,4,7"})
	assert.Equal(t, []any{"bay 1 in a", "bay 2 in a"}, answer["taken"])
	assert.Equal(t, []any{7.0}, answer["empty"])
	assert.Equal(t, "bay 1-4", answer["text"])
	usable := map[any]any{}
	for _, r := range answer["layouts"].([]any) {
		usable[r.(map[string]any)["layout"]] = r.(map[string]any)["usable_bytes"]
	}
	assert.Equal(t, map[any]any{"stripe": 16e12, "mirror": 4e12, "raid 5": 12e12, "raid 6": 8e12, "raid 10": 8e12, "raid-z1": 12e12,
		"raid-z2": 8e12,
		"raid-z3": 4e12, "dedicated parity": 12e12, "mixed": 12e12}, usable)
	r, _ := Named("layouts")
	_, err := r.Of(Ask{Lab: l, With: map[string]string{"device": "silo", "bays": "one"}})
	assert.Error(t, err)
}
