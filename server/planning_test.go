package server_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// planned is a lab with a draft in which anvil moves down and lark is new.
func planned(t *testing.T) site {
	t.Helper()
	s := newSite(t).with()
	require.Equal(t, 201, s.ask("POST", "/api/v1/drafts", `{"id":"quiet","name":"Quiet"}`).status)
	a := s.ask("POST", "/api/v1/moves?view=draft:quiet",
		`{"base_revision":2,"device_ids":["anvil"],"to":{"where":"units","rack_id":"pantry","unit":1,"face":"front","share":"whole"}}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Equal(t, "draft “Quiet”: anvil moved from Pantry 5-6 to Pantry 1-2", a.json["label"])
	a = s.ask("POST", "/api/v1/lines?view=draft:quiet", `{"base_revision":3,"line":"9 server \"lark\"","rack_id":"pantry"}`)
	require.Equal(t, 200, a.status, a.body)
	return s
}

func (s site) steps(draft string) (ids, words, whys []string) {
	for _, v := range s.ask("GET", "/api/v1/drafts/"+draft+"/effect", "").json["steps"].([]any) {
		m := v.(map[string]any)
		ids = append(ids, m["step"].(map[string]any)["id"].(string))
		words = append(words, m["words"].(string))
		why, _ := m["why"].(string)
		whys = append(whys, why)
	}
	return
}

func TestWhileADraftIsChosenEverythingGoesIntoIt(t *testing.T) {
	s := planned(t)
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"unit":5`, "as built it is where it was")
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil?view=draft:quiet", "").body, `"unit":1`)
	assert.Contains(t, s.ask("GET", "/api/v1/rundown?view=draft:quiet", "").body, "lark")
	assert.NotContains(t, s.ask("GET", "/api/v1/rundown", "").body, "lark")
	assert.Contains(t, s.ask("GET", "/api/v1/find?q=lark&view=draft:quiet", "").body, `"title":"lark"`)
	assert.Contains(t, s.ask("GET", "/api/v1/find?q=lark", "").body, `"hits":[]`)
	ids, words, _ := s.steps("quiet")
	assert.Equal(t, []string{"anvil moved from Pantry 5-6 to Pantry 1-2", `server "lark" added at Pantry 9`}, words)

	compared := s.ask("GET", "/api/v1/compare?from=built&to=draft:quiet", "")
	assert.Len(t, compared.json["devices"], 2)
	assert.Contains(t, compared.body, `"free_u":8`)

	price := s.ask("POST", "/api/v1/facts?view=draft:quiet",
		`{"base_revision":4,"record":{"kind":"step","id":"`+ids[1]+`"},"field":"price_minor","text":"£180"}`)
	require.Equal(t, 200, price.status, price.body)
	assert.Contains(t, s.ask("GET", "/api/v1/drafts/quiet/effect", "").body,
		`"cost":{"left_minor":18000,"spent_minor":0,"unpriced":0,"left":"180",`)
	refused(t, s.ask("POST", "/api/v1/lines?view=draft:quiet", `{"base_revision":5,"line":"1 server \"x\"","rack_id":"pantry"}`), 422, "line",
		"takes 1-2 there")
	refused(t, s.ask("GET", "/api/v1/lab?view=draft:nobody", ""), 404, "", "no draft")
}

func TestStepsAreTickedOffOneByOneOrAllAtOnce(t *testing.T) {
	s := planned(t)
	ids, _, _ := s.steps("quiet")
	done := s.ask("POST", "/api/v1/drafts/quiet/done", `{"base_revision":4,"step_ids":["`+ids[0]+`"]}`)
	require.Equal(t, 200, done.status, done.body)
	assert.Equal(t, "anvil moved from Pantry 5-6 to Pantry 1-2 (a step of “Quiet”)", done.json["label"])
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"unit":1`)
	refused(t, s.ask("POST", "/api/v1/drafts/quiet/done", `{"base_revision":5,"step_ids":["`+ids[0]+`"]}`), 422, "step_ids",
		"open step of this draft")
	require.Equal(t, 200, s.ask("POST", "/api/v1/undo", `{"base_revision":5}`).status)
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"unit":5`)

	order := s.ask("POST", "/api/v1/drafts/quiet/order", `{"base_revision":6,"step_ids":["`+ids[1]+`","`+ids[0]+`"]}`)
	require.Equal(t, 200, order.status, order.body)
	back, _, _ := s.steps("quiet")
	assert.Equal(t, []string{ids[1], ids[0]}, back)
	all, _ := json.Marshal(ids)
	require.Equal(t, 200, s.ask("POST", "/api/v1/drafts/quiet/done", fmt.Sprintf(`{"base_revision":7,"step_ids":%s}`, all)).status)
	assert.Contains(t, s.ask("GET", "/api/v1/rundown", "").body, "lark")
}

func TestADraftIsCopiedAndThrownAwayAndComesBack(t *testing.T) {
	s := planned(t)
	copied := s.ask("POST", "/api/v1/drafts/quiet/copy", `{"base_revision":4,"name":"Quieter"}`)
	require.Equal(t, 200, copied.status, copied.body)
	gone := s.ask("DELETE", "/api/v1/drafts/quiet?view=draft:quiet", "")
	require.Equal(t, 200, gone.status, gone.body)
	assert.Equal(t, 404, s.ask("GET", "/api/v1/drafts/quiet/effect", "").status)
	require.Equal(t, 200, s.ask("POST", "/api/v1/undo", `{"base_revision":6}`).status)
	_, words, _ := s.steps("quiet")
	assert.Len(t, words, 2)
}

func TestTheLabMovesOnUnderADraft(t *testing.T) {
	s := planned(t)
	require.Equal(t, 200, s.ask("POST", "/api/v1/lines", `{"base_revision":4,"line":"11-12 server \"anvil\"","rack_id":"pantry"}`).status)
	ids, _, whys := s.steps("quiet")
	assert.Equal(t, []string{"meanwhile anvil moved from Pantry 5-6 to Pantry 11-12", ""}, whys)
	refused(t, s.ask("POST", "/api/v1/drafts/quiet/done", `{"base_revision":5,"step_ids":["`+ids[0]+`"]}`), 409, "step_ids",
		"meanwhile anvil moved")
}

func TestThePastIsLookedAtAndNotChanged(t *testing.T) {
	s := newSite(t).with()
	require.Equal(t, 200, s.ask("DELETE", "/api/v1/devices/anvil", "").status)
	then := s.ask("GET", "/api/v1/lab?view=at:1", "")
	assert.Len(t, then.json["devices"], 3)
	assert.Contains(t, then.body, `"view":{"kind":"past","revision":1}`)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/space?view=at:1", "").body, `"free_u":9`)
	assert.NotContains(t, s.ask("GET", "/api/v1/lab?view=on:2020-01-01", "").body, "devices")
	future := s.ask("GET", "/api/v1/lab?view=on:2999-01-01", "")
	assert.Equal(t, 400, future.status)
	assert.Contains(t, future.body, "2999-01-01 is still to come; the latest day is today")
	refused(t, s.ask("POST", "/api/v1/lines?view=at:1", `{"base_revision":2,"line":"1 server \"x\"","rack_id":"pantry"}`), 409, "",
		"cannot be changed")
	for _, path := range []string{"undo", "redo", "back", "drafts/x/done"} {
		refused(t, s.ask("POST", "/api/v1/"+path+"?view=at:1", `{"base_revision":2}`), 409, "", "cannot be changed")
	}
	refused(t, s.ask("GET", "/api/v1/lab?view=at:7", ""), 404, "", "the latest is 2")
	for _, wrong := range []string{"at:x", "on:yesterday", "someday", "draft:"} {
		assert.Contains(t, []int{400, 404}, s.ask("GET", "/api/v1/lab?view="+wrong, "").status, wrong)
	}
	compared := s.ask("GET", "/api/v1/compare?from=at:1&to=built", "")
	assert.Contains(t, compared.body, `"verb":"removed"`)
	back := s.ask("POST", "/api/v1/back", `{"base_revision":2,"revision":1}`)
	require.Equal(t, 200, back.status, back.body)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/devices/anvil", "").status)
}

func TestTheLogbookIsReadInPieces(t *testing.T) {
	s := newSite(t).with()
	for i := range 5 {
		require.Equal(t, 201, s.ask("POST", "/api/v1/notes", fmt.Sprintf(`{"day":"2026-11-23","text":"cleaned filter %d"}`, i)).status)
	}
	piece := s.ask("GET", "/api/v1/logbook?limit=4", "")
	assert.Len(t, piece.json["entries"], 4)
	assert.Equal(t, true, piece.json["more"])
	assert.Contains(t, piece.body, "note “cleaned filter 4” added")
	rest := s.ask("GET", "/api/v1/logbook?limit=4&before=3", "")
	assert.Len(t, rest.json["entries"], 2)
	assert.Equal(t, false, rest.json["more"])
	assert.Len(t, s.ask("GET", "/api/v1/logbook?kind=device&id=anvil", "").json["entries"], 1)
	assert.Len(t, s.ask("GET", "/api/v1/logbook/1", "").json["edits"], 5)
	refused(t, s.ask("GET", "/api/v1/logbook/99", ""), 404, "", "no change 99")
	refused(t, s.ask("GET", "/api/v1/logbook?limit=0", ""), 400, "limit", "1 to 500")
}

func TestThingsAreMovedTogetherSwappedAndCopied(t *testing.T) {
	s := newSite(t).with()
	to := func(unit int) string {
		return fmt.Sprintf(`"to":{"where":"units","rack_id":"pantry","unit":%d,"face":"front","share":"whole"}`, unit)
	}
	a := s.ask("POST", "/api/v1/moves", `{"base_revision":1,"device_ids":["anvil","shelf"],`+to(1)+`}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, s.ask("GET", "/api/v1/devices/shelf", "").body, `"unit":4`)
	refused(t, s.ask("POST", "/api/v1/moves", `{"base_revision":2,"device_ids":["shelf"],`+to(2)+`}`), 422, "to", "anvil takes 1-2")
	a = s.ask("POST", "/api/v1/moves", `{"base_revision":2,"device_ids":["shelf"],"swap":true,`+to(1)+`}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Len(t, a.json["devices"], 2)
	refused(t, s.ask("POST", "/api/v1/moves", `{"base_revision":3,"device_ids":[]}`), 422, "device_ids", "1 to 500")
	a = s.ask("POST", "/api/v1/copies", `{"base_revision":3,"device_id":"finch"}`)
	assert.Contains(t, a.body, `"name":"finch-2"`)
	room := s.ask("GET", "/api/v1/racks/pantry/room?units=10", "")
	assert.Contains(t, room.body, `"why"`)
	assert.Contains(t, s.ask("GET", "/api/v1/racks/pantry/room?units=8", "").body, `"fewest":true`)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/findings", "").body, `"findings":[`)
}

func TestFilesGoOutAndIn(t *testing.T) {
	s := newSite(t).with()
	whole := s.ask("GET", "/api/v1/files/lab.json", "")
	assert.Contains(t, whole.header.Get("Content-Disposition"), "attachment")
	text, _ := json.Marshal(whole.body)
	other := newSite(t)
	check := other.ask("POST", "/api/v1/files/lab.json/check", `{"base_revision":0,"text":`+string(text)+`}`)
	assert.Contains(t, check.body, `"verb":"added"`)
	require.Equal(t, 200, other.ask("POST", "/api/v1/files/lab.json", `{"base_revision":0,"text":`+string(text)+`}`).status)
	assert.Equal(t, s.ask("GET", "/api/v1/rundown", "").body, other.ask("GET", "/api/v1/rundown", "").body)
	refused(t, other.ask("POST", "/api/v1/files/lab.json", `{"base_revision":1,"text":"{\"format\":\"levelstaff-lab\",\"version\":2}"}`), 422,
		"text", "version 2")

	require.Equal(t, 201, other.ask("POST", "/api/v1/drafts", `{"id":"quiet","name":"Quiet"}`).status)
	refused(t, other.ask("POST", "/api/v1/files/lab.json?view=draft:quiet", `{"base_revision":2,"text":`+string(text)+`}`), 409, "",
		"Go back to the lab as built")

	sheet := `{"base_revision":1,"text":"name,kind,where\nanvil,server,?\nlark,mini pc,\"\"\"Pantry\"\" 20\"\n"}`
	check = s.ask("POST", "/api/v1/files/devices.csv/check", sheet)
	assert.Contains(t, check.body, `"verb":"refused"`)
	refused(t, s.ask("POST", "/api/v1/files/devices.csv", sheet), 422, "text:3", "Pantry has the units 1 to 12")
	assert.Contains(t, s.ask("GET", "/api/v1/files/devices.csv", "").body, "id,name,kind")
	assert.Contains(t, s.ask("GET", "/api/v1/files/lab.schema.json", "").body, "levelstaff-lab")
	assert.Equal(t, "SQLite format 3", s.ask("GET", "/api/v1/files/backup.db", "").body[:15])
}
