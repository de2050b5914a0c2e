package server_test

import (
	"fmt"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// kitted is a site whose anvil has four bays, with a drive in the first two.
func kitted(t *testing.T) site {
	t.Helper()
	s := newSite(t).with()
	for i, fact := range [][2]string{{"bays", "4 bays 3.5in"}, {"width_mm", "447"}} {
		a := s.ask("POST", "/api/v1/facts", fmt.Sprintf(`{"base_revision":%d,"record":{"kind":"device","id":"anvil"},"field":%q,"text":%q}`, i+1,
			fact[0], fact[1]))
		require.Equal(t, 200, a.status, a.body)
	}
	a := s.ask("POST", "/api/v1/devices/anvil/parts", `{"base_revision":3,"text":"1x 8TB hdd, 1x 1TB ssd"}`)
	require.Equal(t, 200, a.status, a.body)
	return s
}

func partIDs(s site) []string {
	var ids []string
	for _, p := range s.ask("GET", "/api/v1/lab", "").json["parts"].([]any) {
		ids = append(ids, p.(map[string]any)["id"].(string))
	}
	return ids
}

func TestPartsSitInSeatsAndChangePlaces(t *testing.T) {
	s := kitted(t)
	ids := partIDs(s)
	require.Len(t, ids, 2)
	a := s.ask("POST", "/api/v1/parts/"+ids[0]+"/seat", `{"base_revision":4,"device_id":"anvil","seat":2}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Len(t, a.json["parts"], 2, "the other one goes where this one was")
	refused(t, s.ask("POST", "/api/v1/parts/"+ids[0]+"/seat", `{"base_revision":5,"device_id":"anvil","seat":5}`), 422, "seat",
		"has the bays 1 to 4")
	require.Equal(t, 200, s.ask("POST", "/api/v1/parts/"+ids[0]+"/seat", `{"base_revision":5}`).status)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/bin", "").body, "8TB hdd")
	refused(t, s.ask("POST", "/api/v1/devices/anvil/parts", `{"base_revision":6,"text":"3x flywheel"}`), 422, "text",
		"“3x flywheel” is not a part")
	card := s.ask("GET", "/api/v1/cards/devices/anvil", "")
	assert.Contains(t, card.body, `"text":"4 bays 3.5in"`)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/cards/parts/"+ids[0], "").status)
	gone := s.ask("DELETE", "/api/v1/devices/anvil", "")
	require.Equal(t, 200, gone.status, gone.body)
	assert.Len(t, gone.json["removed"], 2, "a part that is in it goes with it")
}

func TestTheGearTable(t *testing.T) {
	s := kitted(t)
	a := s.ask("GET", "/api/v1/tables/devices?columns=name,raw,width_mm&sort=name&filter="+url.QueryEscape("raw>1TB"), "")
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, a.body, `"cells":["anvil","9TB","447mm"]`)
	refused(t, s.ask("GET", "/api/v1/tables/devices?columns=name&filter="+url.QueryEscape("raw>red"), ""), 422, "filter",
		"“red” is not a capacity")
	assert.Contains(t, s.ask("GET", "/api/v1/tables/parts?columns=name,size,where", "").body, `"anvil, bay 1"`)
	many := s.ask(
		"POST", "/api/v1/cells", `{"base_revision":4,"cells":[{"record":{"kind":"device","id":"anvil"},"field":"weight_kg","text":"24"},{"record":{"kind":"device","id":"anvil"},"field":"name","text":"hammer"},{"record":{"kind":"device","id":"finch"},"field":"state","text":"spare"}]}`)
	require.Equal(t, 200, many.status, many.body)
	assert.Len(t, many.json["devices"], 2)
	refused(
		t, s.ask(
			"POST", "/api/v1/cells", `{"base_revision":5,"cells":[{"record":{"kind":"device","id":"anvil"},"field":"weight_kg","text":"25"},{"record":{"kind":"device","id":"finch"},"field":"weight_kg","text":"heavy"}]}`), 422, "cells[1].text", "“heavy” is not a weight")
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"weight_kg":24`, "all or nothing")
}

func TestFitBeforeBuying(t *testing.T) {
	s := kitted(t)
	a := s.ask("GET", "/api/v1/fitting?text="+url.QueryEscape("server, 2U high, 470mm wide"), "")
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, a.body, "The opening of Pantry is unknown")
	refused(t, s.ask("GET", "/api/v1/fitting?text="+url.QueryEscape("server, 2furlong high"), ""), 422, "text", "is not a unit")
	refused(t, s.ask("GET", "/api/v1/fitting?sheet_id=nothing", ""), 404, "", "no spec sheet")
	fit := s.ask("GET", "/api/v1/fit?device_id=anvil&field=depth_mm&text=7furlong", "")
	assert.Contains(t, fit.json["wrong"], "not a unit")
	walk := s.ask("GET", "/api/v1/walk?rack_id=pantry", "")
	require.Equal(t, 200, walk.status)
	before := len(walk.json["gaps"].([]any))
	never := s.ask(
		"POST", "/api/v1/facts", `{"base_revision":4,"record":{"kind":"device","id":"anvil"},"field":"parts:processor","text":"nobody knows"}`)
	require.Equal(t, 200, never.status, never.body)
	assert.Len(t, s.ask("GET", "/api/v1/walk?rack_id=pantry", "").json["gaps"], before-1)
}

func TestAGenericSheetIsTakenIntoTheLab(t *testing.T) {
	s := kitted(t)
	sheets := s.ask("GET", "/api/v1/generic_sheets", "").body
	require.Contains(t, sheets, `"generic-2userver8x3-5in"`)
	a := s.ask("POST", "/api/v1/devices/anvil/sheet", `{"base_revision":4,"sheet_id":"generic-2userver8x3-5in"}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Len(t, a.json["spec_sheets"], 1)
	again := s.ask("POST", "/api/v1/devices/finch/sheet", `{"base_revision":5,"sheet_id":"generic-2userver8x3-5in"}`)
	require.Equal(t, 200, again.status, again.body)
	assert.Nil(t, again.json["spec_sheets"], "it is there already")
	assert.Contains(t, s.ask("GET", "/api/v1/cards/spec_sheets/generic-2userver8x3-5in", "").body, `"title":"finch"`)
	own := s.ask("POST", "/api/v1/devices/shelf/sheet", `{"base_revision":6,"make":"Board"}`)
	require.Equal(t, 200, own.status, own.body)
	assert.Contains(t, own.body, `"name":"Board"`)
	refused(t, s.ask("POST", "/api/v1/devices/finch/sheet", `{"base_revision":7,"make":"board"}`), 422, "name", "already")
	card := s.ask("GET", "/api/v1/cards/devices/anvil", "").body
	assert.Contains(t, card, `"text":"710mm","from":"sheet"`)
	assert.Contains(t, card, `"text":"447mm","from":"own"`)
}

func TestWhatEndsIsACalendar(t *testing.T) {
	s := kitted(t)
	require.Equal(t, 200, s.ask("POST", "/api/v1/facts",
		`{"base_revision":4,"record":{"kind":"device","id":"anvil"},"field":"warranty_until","text":"2199-05"}`).status)
	a := s.ask("GET", "/api/v1/files/endings.ics", "")
	require.Equal(t, 200, a.status)
	assert.Contains(t, a.header.Get("Content-Type"), "text/calendar")
	for _, line := range []string{"BEGIN:VCALENDAR", "DTSTART;VALUE=DATE:21990531", "SUMMARY:anvil: warranty ends"} {
		assert.Contains(t, strings.ReplaceAll(a.body, "\r\n", "\n"), line)
	}
	assert.Contains(t, s.ask("GET", "/api/v1/reports/money", "").body, `"what":"warranty"`)
	assert.Equal(t, float64(9_000_000_000_000), s.ask("GET", "/api/v1/reports/gear", "").json["raw_bytes"].(map[string]any)["known"])
}
