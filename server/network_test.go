package server_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func networked(t *testing.T) site {
	t.Helper()
	s := newSite(t)
	text := `rack "R": 12U
12 switch "core": 4 ports rj45 1G, untagged 10
11 switch "loft": 4 ports rj45 1G, untagged 10
10 server "anvil": 1 ports rj45 1G
9 server "thrush": 1 ports rj45 1G
vlan 10 "house"
vlan 20 "servers"
core/1 - loft/1
core/2 - anvil/1
loft/2 - thrush/1
core/2 untagged 20
loft/2 untagged 20
`
	a := s.ask("POST", "/api/v1/rundown", fmt.Sprintf(`{"base_revision":%d,"text":%s}`, s.revision(), quoted(t, text)))
	require.Equal(t, 200, a.status, a.body)
	return s
}

func TestAFindingIsPutRightByItsKey(t *testing.T) {
	s := networked(t)
	var key string
	for _, f := range s.ask("GET", "/api/v1/reports/findings", "").json["findings"].([]any) {
		if one := f.(map[string]any); strings.HasPrefix(one["key"].(string), "island ") {
			key = one["key"].(string)
			assert.Equal(t, "Tag 20 on core/1 and loft/1.", one["fix"].(map[string]any)["say"])
		}
	}
	require.NotEmpty(t, key)
	fix := func() answer {
		return s.ask("POST", "/api/v1/findings/fix", fmt.Sprintf(`{"base_revision":%d,"key":%q}`, s.revision(), key))
	}
	a := fix()
	require.Equal(t, 200, a.status, a.body)
	assert.Len(t, a.json["devices"], 2)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/vlans", "").body, `"devices":["anvil","core","loft","thrush"]`)
	again := fix()
	assert.Equal(t, 409, again.status)
	assert.Contains(t, again.body, "This is not found any more")
}

func TestCellsOfTheGridArePaintedAndPasted(t *testing.T) {
	s := networked(t)
	core := idOf(t, s, "devices", "core")
	cells := func(list string) answer {
		return s.ask("POST", "/api/v1/network/cells", fmt.Sprintf(`{"base_revision":%d,"cells":[%s]}`, s.revision(), list))
	}
	cell := func(port string, number int, as string) string {
		return fmt.Sprintf(`{"device_id":%q,"port":%q,"number":%d,"as":%q}`, core, port, number, as)
	}
	a := cells(cell("1", 20, "tagged") + "," + cell("3", 20, "tagged"))
	require.Equal(t, 200, a.status, a.body)
	assert.Equal(t, "VLAN 20 tagged on 2 ports", a.json["label"])
	grid := s.ask("GET", "/api/v1/network/grid", "")
	assert.Contains(t, grid.body, `{"port":"3","untagged":10,"tagged":"20","said":true}`)
	require.Equal(t, 200, cells(cell("3", 20, "none")+","+cell("3", 10, "none")).status)
	assert.Contains(t, s.ask("GET", "/api/v1/network/grid", "").body, `{"port":"3","said":true}`)
	refused(t, cells(cell("3", 20, "half")), 422, "cells:1", "untagged, tagged or not")
	refused(t, cells(cell("9", 20, "tagged")), 422, "port_marks", "has no port “9”")

	pasted := func(text string) answer {
		return s.ask("POST", "/api/v1/network/pasted",
			fmt.Sprintf(`{"base_revision":%d,"device_id":%q,"port":"3","number":10,"text":%q}`, s.revision(), core, text))
	}
	refused(t, pasted("U\tT\tT"), 422, "text", "line 1 has 3 cells, and there are 2 VLANs from 10 on")
	require.Equal(t, 200, pasted("U\tT\n\tU").status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/vlan_plan.csv", "").body, "core,3,,U,T\ncore,4,,,U\n")
}

func TestTheMapTellsWhatADraftChanges(t *testing.T) {
	s := networked(t)
	a := s.ask("POST", "/api/v1/drafts", `{"name":"Join"}`)
	require.Equal(t, 201, a.status, a.body)
	view := "?view=draft:" + idOf(t, s, "drafts", "Join")
	for _, line := range []string{"core/1 tagged 20", "loft/1 tagged 20"} {
		done := s.ask("POST", "/api/v1/lines"+view, fmt.Sprintf(`{"base_revision":%d,"line":%q}`, s.revision(), line))
		require.Equal(t, 200, done.status, done.body)
	}
	m := s.ask("GET", "/api/v1/network/map"+view, "")
	assert.EqualValues(t, 2, m.json["whole"])
	assert.EqualValues(t, 1, m.json["built"].(map[string]any)["whole"])
	assert.Nil(t, s.ask("GET", "/api/v1/network/map", "").json["built"])
	part := s.ask("GET", "/api/v1/devices/"+idOf(t, s, "devices", "thrush")+"/network"+view, "")
	assert.Contains(t, part.body, `"untagged":["1"]`)
	assert.Equal(t, 404, s.ask("GET", "/api/v1/devices/nobody/network", "").status)
	assert.Contains(t, s.ask("GET", "/api/v1/files/network.dot", "").body, "core")
}
