package server_test

import (
	"encoding/base64"
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// load is the body of a request that takes a file.
func load(t *testing.T, fields map[string]any) string {
	t.Helper()
	body, err := json.Marshal(fields)
	require.NoError(t, err)
	return string(body)
}

func TestAListIsLookedAtBeforeItIsTaken(t *testing.T) {
	s := newSite(t).with()
	const at = "/api/v1/files/devices.csv"
	theirs := map[string]any{"base_revision": 1, "guess": true, "text": "Hostname,Weight (lb),Shoe size\nanvil,50,9\nlark,2,7\n"}
	a := s.ask("POST", at+"/check", load(t, theirs))
	require.Equal(t, 200, a.status, a.body)
	assert.Equal(t, []any{
		map[string]any{"name": "Hostname", "field": "name", "sample": "anvil"},
		map[string]any{"name": "Weight (lb)", "field": "weight_kg", "unit": "lb", "sample": "50"},
		map[string]any{"name": "Shoe size", "sample": "9"},
	}, a.json["columns"])
	assert.Greater(t, len(a.json["targets"].([]any)), 50)
	rows := a.json["rows"].([]any)
	assert.Equal(t, "changed", rows[0].(map[string]any)["verb"])
	assert.Contains(t, rows[1].(map[string]any)["say"], "say in the column kind what it is")
	refused(t, s.ask("POST", at, load(t, theirs)), 422, "text:3", "one line is refused")
	assert.NotContains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, "weight_kg", "none is taken then")

	theirs["kind"] = "mini pc"
	theirs["columns"] = []string{"name", "", "depth_mm"}
	done := s.ask("POST", at, load(t, theirs))
	require.Equal(t, 200, done.status, done.body)
	assert.Len(t, done.json["devices"], 2)
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"depth_mm":9`)
	assert.Len(t, s.ask("POST", "/api/v1/undo", `{"base_revision":2}`).json["removed"], 1, "it is one change")

	for say, more := range map[string]map[string]any{
		"mapped: 1":               {"columns": []string{"name"}},
		"there is no column":      {"columns": []string{"name", "shoe", ""}},
		"are taken for name":      {"columns": []string{"name", "name", ""}},
		"is not a kind of device": {"kind": "swich", "columns": nil},
	} {
		body := map[string]any{"base_revision": 3, "guess": true, "text": theirs["text"]}
		for k, v := range more {
			body[k] = v
		}
		assert.Contains(t, s.ask("POST", at+"/check", load(t, body)).body, say)
	}
}

func TestPartsAreAListToo(t *testing.T) {
	s := kitted(t)
	csv := s.ask("GET", "/api/v1/files/parts.csv", "")
	require.Equal(t, 200, csv.status)
	assert.Contains(t, csv.header.Get("Content-Disposition"), `filename="parts-`)
	assert.Contains(t, csv.body, "id,name,kind,device,seat,state")
	a := s.ask("POST", "/api/v1/files/parts.csv",
		load(t, map[string]any{"base_revision": 4, "text": "device,seat,kind,size_bytes\nanvil,1,drive,6TB\nanvil,4,drive,2TB\n"}))
	require.Equal(t, 200, a.status, a.body)
	assert.Len(t, a.json["parts"], 2)
	refused(t, s.ask("POST", "/api/v1/files/parts.csv",
		load(t, map[string]any{"base_revision": 5, "text": "device,seat,kind\nanvil,5,drive\n"})), 422, "text:2", "has the bays 1 to 4")

	book := s.ask("GET", "/api/v1/files/parts.xlsx", "")
	require.Equal(t, 200, book.status)
	same := s.ask("POST", "/api/v1/files/parts.xlsx/check",
		load(t, map[string]any{"base_revision": 5, "base64": true, "text": base64.StdEncoding.EncodeToString([]byte(book.body))}))
	require.Equal(t, 200, same.status, same.body)
	assert.Len(t, same.json["rows"], 3)
	assert.NotContains(t, same.body, `"verb":"changed"`)
	refused(t, s.ask("POST", "/api/v1/files/parts.xlsx", load(t, map[string]any{"base_revision": 5, "base64": true, "text": "%%%"})), 422,
		"text", "is not base64")
	refused(t, s.ask("POST", "/api/v1/files/parts.xlsx",
		load(t, map[string]any{"base_revision": 5, "base64": true, "text": base64.StdEncoding.EncodeToString([]byte("PK\x03\x04"))})), 422,
		"text", "Nothing was loaded")
	refused(t, s.ask("POST", "/api/v1/files/parts.csv?view=at:1",
		load(t, map[string]any{"base_revision": 5, "text": "name,kind\nx,drive\n"})), 409, "", "the lab as it was")
}

func TestFilesToShareHoldNothingPrivate(t *testing.T) {
	s := kitted(t)
	id := partIDs(s)[0]
	for i, fact := range []string{
		`"record":{"kind":"device","id":"anvil"},"field":"serial","text":"SECRET-1"`,
		`"record":{"kind":"device","id":"anvil"},"field":"remote_address","text":"10.20.0.12"`,
		`"record":{"kind":"part","id":"` + id + `"},"field":"serial","text":"SECRET-2"`,
	} {
		a := s.ask("POST", "/api/v1/facts", `{"base_revision":`+string(rune('4'+i))+`,`+fact+`}`)
		require.Equal(t, 200, a.status, a.body)
	}
	for _, file := range []string{"lab.json", "devices.csv", "parts.csv"} {
		whole, shared := s.ask("GET", "/api/v1/files/"+file, "").body, s.ask("GET", "/api/v1/files/"+file+"?share=true", "").body
		assert.True(t, strings.Contains(whole, "SECRET"), file)
		assert.False(t, strings.Contains(shared, "SECRET") || strings.Contains(shared, "10.20.0.12"), file)
		assert.Contains(t, shared, "anvil", file)
	}
}

func TestCellsThatCannotBeChanged(t *testing.T) {
	s := kitted(t)
	cell := func(kind, id, field, text string) string {
		return load(t, map[string]any{"base_revision": 4,
			"cells": []any{map[string]any{"record": map[string]any{"kind": kind, "id": id}, "field": field, "text": text}}})
	}
	const at = "/api/v1/cells"
	refused(t, s.ask("POST", at, cell("device", "nobody", "name", "x")), 404, "", "There is no device with the id")
	refused(t, s.ask("POST", at, cell("device", "anvil", "colour", "red")), 422, "cells[0].text", "has no colour")
	refused(t, s.ask("POST", at, cell("part", partIDs(s)[0], "cores", "8")), 422, "cells[0].text", "cores")
	refused(t, s.ask("POST", at, cell("device", "anvil", "warranty_until", "31.02.")), 422, "cells[0].text", "31.02.")
	refused(t, s.ask("POST", at, cell("device", "anvil", "bays", "0 bays")), 422, "cells[0].text", "1 or more")
	refused(t, s.ask("GET", "/api/v1/racks/nowhere/side", ""), 404, "", "There is no rack")
	refused(t, s.ask("GET", "/api/v1/walk?rack_id=nowhere", ""), 404, "", "There is no rack")
	refused(t, s.ask("GET", "/api/v1/fit?device_id=nobody", ""), 404, "", "There is no device")
	refused(t, s.ask("GET", "/api/v1/fitting?device_id=nobody", ""), 404, "", "There is no device")
	refused(t, s.ask("POST", "/api/v1/parts/nothing/seat", `{"base_revision":4}`), 404, "", "There is no part")
	refused(t, s.ask("GET", "/api/v1/cards/parts/nothing", ""), 404, "", "There is no part")
	assert.EqualValues(t, 4, s.ask("GET", "/api/v1/lab", "").json["revision"], "nothing was changed by any of them")
}
