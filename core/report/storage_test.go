package report

import (
	"fmt"
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

// What matters most first, the nearest copy first, what has no copy at the end.
func TestTheRestorePlan(t *testing.T) {
	l := labtest.From(t, stored+`
place "Attic", in "Sister's"
copy of "sky" to "Attic": every 2 months, by hand, encrypted
dataset "letters" on main: 180GB, household
dataset "old|new" on copies
copy of "old|new" to "Sister's": encrypted "in the safe", restored 2026-03-01
tunnel "parents"
`)
	plan := RestorePlan(Ask{Lab: l, Day: "2026-11-26"})
	assert.Equal(t, "# Getting data back\n\nthe lab, 2026-11-26\n"+
		"\n## shop\n\nshop on crock/main, 4 TB, household\n\n"+
		"1. From **glaze/copies**, old by 24 h\n2. From **Sister's**, outside the house, old by at most 8 days\n"+
		"\nNobody ever tried to get it back: try one file of it today.\n"+
		"\n## sky\n\nsky on crock/main, 20 TB, lab\n\n"+
		"1. From **Attic**, outside the house, old by at most 61 days, encrypted, and nobody wrote down where the key is\n"+
		"\nNobody ever tried to get it back: try one file of it today.\n"+
		"\n## old\\|new\n\nold\\|new on glaze/copies\n\n"+
		"1. From **Sister's**, outside the house, of unknown age, encrypted: in the safe, last restored 2026-03-01\n"+
		"\n## Without a copy\n\n- letters on crock/main, 180 GB, household\n- play on crock/main, 1 TB, toy\n", plan)
	assert.Contains(t, RestorePlan(Ask{Lab: lab.New(), Day: "2026-11-26"}), "No dataset is written down yet.")
}

// Copies that ran long ago, or only in part, are told as such.
func TestWhatIsSaidOfEachCopy(t *testing.T) {
	l := labtest.From(t, stored+`
tunnel "parents"
spare drive "friday": 30TB
copy of "sky" to drive "friday": weekly, by hand, last 2026-10-01, not encrypted, via tunnel "parents"
`)
	strip := entry(t, asked(t, l, "copies", nil)["datasets"], "sky")["strip"].([]any)
	require.Len(t, strip, 3)
	home, part, late := strip[0].(map[string]any), strip[1].(map[string]any), strip[2].(map[string]any)
	assert.Equal(t, []any{"original", "crock/main", nil}, []any{home["where"], home["title"], home["copy_id"]})
	assert.Equal(t, []any{"glaze/copies", true, "weekly"}, []any{part["title"], part["part"], part["often"]})
	assert.Equal(t, []any{"friday", true, true, "plain", "parents", 1344.0}, []any{late["title"], late["late"], late["by_hand"],
		late["encryption"],
		late["via"], late["now_h"]})
	again := asked(t, l, "copies", nil)["datasets"].([]any)
	assert.Equal(t, "play", again[len(again)-1].(map[string]any)["name"], "toys go last")
}

// Roles of drives, bays without a drive and drives without a bay.
func TestTheBaysOfADevice(t *testing.T) {
	l := labtest.From(t, `? server "box": 4 bays 3.5in, 2 bays 2.5in inside
  bay 1-4 drive: 4TB
  bay 5 drive, faulty: 1TB
  loose drive "stick": 500GB
? disk shelf "weasel": 2 bays, 2x 6TB
? nas "empty": 4 bays
pool "a" on box: dedicated parity of bay 1-3 (parity bay 3), cache bay 4, log "stick"
pool "b" on box: mirror of weasel bay 1-2, hot spare bay 6
`)
	answer := asked(t, l, "pools", nil)
	var said []string
	for _, d := range answer["bays"].([]any) {
		device := d.(map[string]any)
		for _, b := range device["bays"].([]any) {
			bay := b.(map[string]any)
			said = append(said, fmt.Sprint(device["device"], " ", bay["n"], " ", bay["where"], " ", bay["pool"], " ", bay["role"], " ",
				bay["state"]))
		}
		if device["device"] == "weasel" {
			assert.Equal(t, []any{"box"}, device["behind"])
		}
	}
	assert.Equal(t, []string{
		"box 1 front a data running", "box 2 front a data running", "box 3 front a parity running", "box 4 front a cache running",
		"box 5 inside <nil> <nil> faulty", "box 6 inside b spare <nil>", "box <nil> <nil> a log running",
		"weasel 1 front b data running", "weasel 2 front b data running",
	}, said, "a device without drives and pools is left out")
	a := entry(t, answer["pools"], "a")
	assert.Equal(t, []any{8e12, 4e12, 12e12}, []any{a["usable_bytes"], a["redundancy_bytes"], a["raw_bytes"]})
	b := entry(t, answer["pools"], "b")
	assert.Len(t, b["on_device_ids"], 2)
	for _, d := range b["drives"].([]any) {
		if drive := d.(map[string]any); drive["role"] == "spare" {
			assert.Equal(t, []any{"box bay 6", true}, []any{drive["title"], drive["gone"]}, "there is no drive in bay 6")
		}
	}
}
