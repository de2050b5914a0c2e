package server_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestSpecSheetsAreMadeEditedAndHandedOn(t *testing.T) {
	s := newSite(t).with()
	a := s.ask(
		"POST", "/api/v1/changes", `{"base_revision":1,"changes":[{"put":{"kind":"spec_sheet","name":"Fell R28","device_kind":"server","height_mm":88.9}}]}`)
	require.Equal(t, 200, a.status, a.body)
	id := a.json["spec_sheets"].([]any)[0].(map[string]any)["id"].(string)
	a = s.ask("POST", "/api/v1/facts", `{"base_revision":2,"record":{"kind":"spec_sheet","id":"`+id+`"},"field":"weight_kg","text":"50lb"}`)
	require.Equal(t, 200, a.status, a.body)
	assert.InDelta(t, 22.68, a.json["spec_sheets"].([]any)[0].(map[string]any)["weight_kg"], 0.001)
	refused(t, s.ask("POST", "/api/v1/facts", `{"base_revision":3,"record":{"kind":"spec_sheet","id":"`+id+
		`"},"field":"weight_kg","text":"50 stone"}`), 422, "weight_kg", "stone")
	require.Equal(t, 200, s.ask("POST", "/api/v1/devices/anvil/sheet", `{"base_revision":3,"sheet_id":"`+id+`"}`).status)

	card := s.ask("GET", "/api/v1/cards/spec_sheets/"+id, "")
	assert.Equal(t, "anvil", card.json["things"].([]any)[0].(map[string]any)["id"])
	refused(t, s.ask("DELETE", "/api/v1/spec_sheets/"+id, ""), 422, "", "anvil")

	text := s.ask("GET", "/api/v1/files/sheets.json", "").body
	body, err := json.Marshal(map[string]any{"base_revision": 0, "text": text})
	require.NoError(t, err)
	other := newSite(t)
	would := other.ask("POST", "/api/v1/files/sheets.json/check", string(body))
	require.Equal(t, 200, would.status, would.body)
	assert.Len(t, would.json["delta"].(map[string]any)["edits"], 1)
	require.Equal(t, 200, other.ask("POST", "/api/v1/files/sheets.json", string(body)).status)
	assert.Equal(t, text, other.ask("GET", "/api/v1/files/sheets.json", "").body)
	refused(t, other.ask("POST", "/api/v1/files/sheets.json", `{"base_revision":1,"text":"{}"}`), 422, "text",
		"this is not a file of spec sheets")
}

func TestSheetsThatComeWithTheProgramAreShownToo(t *testing.T) {
	s := newSite(t)
	var generic []map[string]any
	require.NoError(t, json.Unmarshal([]byte(s.ask("GET", "/api/v1/generic_sheets", "").body), &generic))
	assert.Greater(t, len(generic), 55)
	id := generic[0]["id"].(string)
	card := s.ask("GET", "/api/v1/cards/spec_sheets/"+id, "")
	require.Equal(t, 200, card.status, card.body)
	assert.Equal(t, generic[0]["name"], card.json["record"].(map[string]any)["title"])
	assert.NotEmpty(t, card.json["groups"])
	assert.Contains(t, s.ask("GET", "/api/v1/files/sheets.json?id="+id, "").body, `"levelstaff-sheets"`)
	refused(t, s.ask("GET", "/api/v1/files/sheets.json?id=none", ""), 404, "", "There is no spec sheet")
	assert.Equal(t, 200, s.ask("GET", "/api/v1/files/sheets.schema.json", "").status)
}
