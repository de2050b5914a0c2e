package server_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// stored is a lab with a pool, what is on it, and a place outside the house.
func stored(t *testing.T) site {
	t.Helper()
	s := newSite(t)
	s.lines(t, `rack "Pantry": 24U`, `20 nas "silo": 8 bays`, `"silo" bay 1-4 drive: 4TB, hdd`, `"silo" bay 5 drive: ?`,
		`place "Attic", outside the house`,
		`pool "hold" on silo: raid 5 of bay 1-4`, `dataset "scores" on hold: 6TB, household`,
		`copy of scores to "Attic": weekly, last 2026-11-20, encrypted "key in the safe"`)
	return s
}

// lines types lines, each of which is to be taken.
func (s site) lines(t *testing.T, lines ...string) {
	t.Helper()
	for _, line := range lines {
		a := s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%s}`, s.revision(), quoted(t, line)))
		require.Equal(t, 200, a.status, line+": "+a.body)
	}
}

func TestTablesOfStorageGoBothWays(t *testing.T) {
	s := stored(t)
	send := func(what, text string) answer {
		return s.ask("POST", "/api/v1/files/"+what, fmt.Sprintf(`{"base_revision":%d,"text":%s}`, s.revision(), quoted(t, text)))
	}
	for _, what := range []string{"pool_table.csv", "dataset_table.csv", "copy_table.csv"} {
		is := s.ask("GET", "/api/v1/files/"+what, "").body
		before := s.revision()
		assert.Equal(t, 200, send(what, is).status, is)
		assert.Equal(t, before, s.revision(), "what is written changes nothing: %s", is)
	}
	assert.Contains(t, s.ask("GET", "/api/v1/files/pool_table.csv", "").body, "hold,silo,raid 5 of bay 1-4,")
	require.Equal(t, 200, send("dataset_table.csv", "name,on,size,grows\nfilms,silo/hold,\"1,5TB\",90GB a month\nscores,hold,7TB,\n").status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/dataset_table.csv", "").body, "films,hold,1.5TB")
	require.Equal(t, 200, send("copy_table.csv", "dataset,to,often\nfilms,Attic,every 2 months\n").status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/copy_table.csv", "").body, `every 2 months`)
	refused(t, send("pool_table.csv", "name,device,sets\nhold,silo,raid 5 of bay 1-2\n"), 422, "text:2", "Nothing was loaded")
	refused(t, send("pool_table.csv", "name,sets\nhold,mirror of bay 1-2\n"), 422, "text",
		"the first line has to name the columns name and device")
	assert.Equal(t, "PK", s.ask("GET", "/api/v1/files/copy_table.xlsx", "").body[:2])
	plan := s.ask("GET", "/api/v1/files/restore_plan.md", "").body
	assert.Contains(t, plan, "## scores\n\nscores on silo/hold, 7 TB, household\n\n1. From **Attic**, outside the house, old by ")
	assert.Contains(t, plan, "encrypted: key in the safe")
	assert.Contains(t, plan, "Nobody ever tried to get it back")
}

// What cannot be is refused with what would be right; nothing of it is kept.
func TestWhatIsWrongAboutStorageIsSaid(t *testing.T) {
	s := stored(t)
	before := s.revision()
	for line, say := range map[string]string{
		`pool "x" on silo: raid 5 of bay 1-2`:                "raid 5 needs at least 3 drives, not 2",
		`pool "x" on silo: raid 10 of bay 1-3`:               "raid 10 needs at least 4 drives, not 3",
		`pool "x" on silo: mirror of`:                        "of which drives",
		`pool "x" on silo: mirror of bay 7-9`:                "has the bays 1 to 8",
		`pool "x" on silo: raid 5 of 3x 8TB`:                 "write their bays",
		`pool "x": mirror of bay 1-2`:                        "on silo",
		`pool "x" on cellar: mirror of bay 1-2`:              "cellar",
		`pool "x" on silo: mixed of bay 1-3, two redundancy`: "mixed needs at least 4 drives",
		`pool "x" on silo: replicated 3 of bay 1-4`:          "3 copies need at least 3 devices",
		`dataset "y" on nowhere: 1TB`:                        "there is no pool, device, drive or place called “nowhere”",
		`dataset "scores" on hold: 1,500GB`:                  "1,500 may be",
		`copy of scores to hold: nightly`:                    "a thing is no copy of itself",
		`copy of scores from "Attic" to "Attic": weekly`:     "copy onto itself",
		`copy of nothing to "Attic"`:                         "there is no dataset called “nothing”",
		`share "s" of "nothing" by smb`:                      "there is no dataset called “nothing”",
	} {
		a := s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%s}`, before, quoted(t, line)))
		assert.Equal(t, 422, a.status, line)
		assert.Contains(t, a.body, say, line)
	}
	assert.Equal(t, before, s.revision())
	s.lines(t, `nas "far"`, `copy of scores to far: nightly`)
	circle := s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%s}`, s.revision(), quoted(t,
		`copy of scores from far to Attic`)))
	require.Equal(t, 200, circle.status, circle.body)
	circle = s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%d,"line":%s}`, s.revision(), quoted(t,
		`copy of scores from Attic to far`)))
	assert.Contains(t, circle.body, "the copies go round in a circle")
}

// A device that goes takes its pools along, with what lies on them; a pool that has
// drives elsewhere stays, without them.
func TestWhatIsTakenAwayTakesItsPoolsAlong(t *testing.T) {
	s := stored(t)
	s.lines(t, `disk shelf "weasel": 4 bays, 4x 6TB`, `pool "reels" on silo: raid-z1 of weasel bay 1-4`)
	remove := func(name string) {
		a := s.ask("DELETE", "/api/v1/devices/"+idOf(t, s, "devices", name), "")
		require.Less(t, a.status, 300, a.body)
	}
	remove("weasel")
	pools := s.ask("GET", "/api/v1/reports/pools", "").body
	assert.Contains(t, pools, `"words":"RAID-Z1 of 4 x missing"`)
	remove("silo")
	assert.Contains(t, s.ask("GET", "/api/v1/reports/pools", "").body, `"pools":[]`)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/copies", "").body, `"datasets":[]`)
}

// The resources of storage are those of every other kind: made, patched, read, removed.
func TestPoolsAndCopiesAreResources(t *testing.T) {
	s := stored(t)
	silo, hold := idOf(t, s, "devices", "silo"), idOf(t, s, "pools", "hold")
	made := s.ask("POST", "/api/v1/pools",
		fmt.Sprintf(`{"name":"eyes","device_id":%q,"sets":[{"layout":"single","drives":[{"device_id":%q,"bay":5}]}]}`, silo, silo))
	require.Equal(t, 201, made.status, made.body)
	id := idOf(t, s, "pools", "eyes")
	patched := s.ask("PATCH", "/api/v1/pools/"+id, `{"used_bytes":2000000000000,"used_on":"2026-11-20"}`)
	require.Equal(t, 200, patched.status, patched.body)
	assert.Contains(t, s.ask("GET", "/api/v1/pools/"+id, "").body, `"used_bytes":2000000000000`)
	refused(t, s.ask("PATCH", "/api/v1/pools/"+id, `{"used_bytes":-1}`), 422, "used_bytes", "out of range")
	refused(t, s.ask("PATCH", "/api/v1/pools/"+id, `{"sets":[{"layout":"raid 5","drives":[]},{"layout":"raid 9"}]}`), 422, "sets.1",
		"is not a layout")
	refused(t, s.ask("POST", "/api/v1/pools", fmt.Sprintf(`{"name":"EYES","device_id":%q}`, silo)), 422, "name",
		"there is a pool “eyes” already")
	data := s.ask("POST", "/api/v1/datasets", fmt.Sprintf(`{"name":"films","on":{"pool_id":%q}}`, id))
	require.Equal(t, 201, data.status, data.body)
	refused(t, s.ask("POST", "/api/v1/data_copies", fmt.Sprintf(`{"dataset_id":%q,"to":{"pool_id":%q}}`, idOf(t, s, "datasets", "films"),
		id)), 422,
		"to", "a thing is no copy of itself")
	kept := s.ask("POST", "/api/v1/data_copies", fmt.Sprintf(`{"dataset_id":%q,"to":{"pool_id":%q},"every_h":24}`, idOf(t, s, "datasets",
		"films"), hold))
	require.Equal(t, 201, kept.status, kept.body)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/copies", "").body, `"often":"nightly"`)
	require.Less(t, s.ask("DELETE", "/api/v1/pools/"+id, "").status, 300)
	assert.NotContains(t, s.ask("GET", "/api/v1/reports/copies", "").body, "films")
}

// Where a key is, is not shared; that something is encrypted may be.
func TestWhereAKeyIsIsNotShared(t *testing.T) {
	s := stored(t)
	whole, shared := s.ask("GET", "/api/v1/files/lab.json", "").body, s.ask("GET", "/api/v1/files/lab.json?share=true", "").body
	assert.Contains(t, whole, "key in the safe")
	assert.NotContains(t, shared, "key in the safe")
	assert.Contains(t, shared, `"encryption": "encrypted"`)
}

// What is asked for of storage in a draft is of the draft, and of a past day of that day.
func TestStorageOfADraftAndOfThePast(t *testing.T) {
	s := stored(t)
	usable := func(view string) string { return s.ask("GET", "/api/v1/reports/pools"+view, "").body }
	assert.Contains(t, usable(""), `"usable_bytes":12000000000000`)
	past := s.revision()
	s.lines(t, `"silo" bay 6 drive: 4TB`, `pool "hold" on silo: raid 5 of bay 1-4 + 6`)
	assert.Contains(t, usable(""), `"usable_bytes":16000000000000`)
	assert.Contains(t, usable(fmt.Sprintf("?view=at:%d", past)), `"usable_bytes":12000000000000`)
	refused(t, s.ask("GET", "/api/v1/reports/data_lost?with=cellar", ""), 400, "with", "write house, or part:ID")
	refused(t, s.ask("GET", "/api/v1/reports/layouts?device=silo&bays=one", ""), 400, "bays", "is not a bay")
	assert.Contains(t, s.ask("GET", "/api/v1/reports/layouts?device=silo&bays=1,2,3", "").body, `"bay 1 in hold"`)
}
