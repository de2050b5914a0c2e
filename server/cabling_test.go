package server_test

import (
	"fmt"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// patched is a site with a switch, a panel and a plate, and a cable from the
// one through the other to the third.
func patched(t *testing.T) site {
	t.Helper()
	s := newSite(t)
	text := "rack \"R\": 6U, 800mm deep\n6 patch panel \"PP1\": 8 ports rj45 1G\n5 switch \"core\": 8 ports rj45 1G, 2 ports sfp+ 10G\n4 " +
		"switch \"small\": 4 ports rj45 1G\nplace \"Loft\"\n\twall plate \"plate\": 1 ports rj45\nrun \"stairs\": 18m, inside 25mm\n" +
		"core/1 - PP1/1 0.25m yellow cat6, label \"A1\"\nPP1/1 = plate/1 cat6, via \"stairs\"\ncore/8 - PP1/8 1m blue\n"
	a := s.ask("POST", "/api/v1/rundown", fmt.Sprintf(`{"base_revision":%d,"text":%q}`, s.revision(), text))
	require.Equal(t, 200, a.status, a.body)
	return s
}

func idOf(t *testing.T, s site, list, name string) string {
	t.Helper()
	for _, r := range s.ask("GET", "/api/v1/lab", "").json[list].([]any) {
		r := r.(map[string]any)
		if r["name"] == name || r["label"] == name {
			return r["id"].(string)
		}
	}
	t.Fatalf("no %s called %s", list, name)
	return ""
}

func (s site) revision() int { return int(s.ask("GET", "/api/v1/lab", "").json["revision"].(float64)) }

func TestWhereAPortLeadsTo(t *testing.T) {
	s := patched(t)
	core := idOf(t, s, "devices", "core")
	a := s.ask("GET", "/api/v1/devices/"+core+"/trails", "")
	require.Equal(t, 200, a.status, a.body)
	trails := a.json["trails"].([]any)
	require.Len(t, trails, 2)
	assert.InDelta(t, 18.25, trails[0].(map[string]any)["length_m"], 1e-9)
	one := s.ask("GET", "/api/v1/cables/"+idOf(t, s, "cables", "A1")+"/trail", "")
	assert.Equal(t, trails[0], map[string]any(one.json), "the cable leads to the same trail")
	wiring := s.ask("GET", "/api/v1/racks/"+idOf(t, s, "racks", "R")+"/wiring", "")
	assert.Len(t, wiring.json["strips"], 2)
	assert.Equal(t, 404, s.ask("GET", "/api/v1/devices/nobody/trails", "").status)
	assert.Equal(t, 404, s.ask("GET", "/api/v1/cables/nobody/trail", "").status)
	pull := s.ask("GET", "/api/v1/devices/"+core+"/pull", "")
	assert.Len(t, pull.json["steps"], 2)
	assert.Equal(t, true, pull.json["alone"])
}

func TestPartnersAndOpenings(t *testing.T) {
	s := patched(t)
	core := idOf(t, s, "devices", "core")
	a := s.ask("GET", "/api/v1/partners?device_id="+core+"&port=2&among="+core, "")
	require.Equal(t, 200, a.status, a.body)
	assert.Contains(t, a.body, `"why":"A1 is in it"`)
	assert.Contains(t, a.body, `"cable_kind":"cat6"`)
	all := s.ask("GET", "/api/v1/partners?device_id="+core+"&port=2", "")
	assert.Contains(t, all.body, "RJ45 against SFP+ cage: a transceiver")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/partners?device_id=nobody&port=2", "").status)
	refused(t, s.ask("GET", "/api/v1/reports/openings?speed_mb=fast", ""), 400, "speed_mb", "such as 2500")
	assert.Contains(t, s.ask("GET", "/api/v1/reports/openings?speed_mb=1000", "").body, "core/2")
}

func TestCablesSwapAndDevicesAreReplaced(t *testing.T) {
	s := patched(t)
	core, small := idOf(t, s, "devices", "core"), idOf(t, s, "devices", "small")
	end := func(port string) string { return fmt.Sprintf(`{"device_id":%q,"port":%q}`, core, port) }
	a := s.ask("POST", "/api/v1/swaps", fmt.Sprintf(`{"base_revision":%d,"a":%s,"b":%s}`, s.revision(), end("1"), end("8")))
	require.Equal(t, 200, a.status, a.body)
	assert.Len(t, a.json["cables"], 2)
	refused(t, s.ask("POST", "/api/v1/swaps", fmt.Sprintf(`{"base_revision":%d,"a":%s,"b":%s}`, s.revision(), end("1"), end("99"))), 422,
		"a.port", "has no port “99”")
	body := fmt.Sprintf(`{"old_id":%q,"new_id":%q}`, core, small)
	would := s.ask("POST", "/api/v1/replacements/check", body)
	require.Equal(t, 200, would.status, would.body)
	assert.Contains(t, would.body, "small has no port 8")
	done := s.ask("POST", "/api/v1/replacements", fmt.Sprintf(`{"base_revision":%d,"old_id":%q,"new_id":%q}`, s.revision(), core, small))
	require.Equal(t, 200, done.status, done.body)
	assert.Equal(t, "core replaced by small: 1 cable kept, 1 left open", done.json["label"])
	assert.Contains(t, s.ask("GET", "/api/v1/reports/leads", "").body, `"a":"small/1"`)
	refused(t, s.ask("POST", "/api/v1/replacements/check", fmt.Sprintf(`{"old_id":%q,"new_id":%q}`, core, core)), 422, "new_id",
		"cannot take its own place")
}

func TestACableIsARecordLikeAnyOther(t *testing.T) {
	s := patched(t)
	id := idOf(t, s, "cables", "A1")
	a := s.ask("PATCH", "/api/v1/cables/"+id, `{"colour":"pink"}`)
	require.Equal(t, 200, a.status, a.body)
	refused(t, s.ask("PATCH", "/api/v1/cables/"+id, `{"colour":"blurple"}`), 422, "colour", "is not a colour known here")
	fact := func(field, text string) answer {
		return s.ask("POST", "/api/v1/facts", fmt.Sprintf(`{"base_revision":%d,"record":{"kind":"cable","id":%q},"field":%q,"text":%q}`,
			s.revision(), id, field, text))
	}
	require.Equal(t, 200, fact("b", "PP1/3").status)
	refused(t, fact("b", "PP1/8"), 422, "b.port", "unplug that first, or swap the two")
	refused(t, fact("b", "cellar"), 422, "b", "“cellar” is not a port; write the device, a slash and the port")
	refused(t, fact("length_m", "-1"), 422, "length_m", "cannot be negative")
	require.Equal(t, 200, fact("run_id", "stairs").status)
	assert.Contains(t, s.ask("GET", "/api/v1/reports/runs", "").body, `"cables":2`)
	require.Equal(t, 200, s.ask("DELETE", "/api/v1/cables/"+id, "").status)
	require.Equal(t, 200, s.ask("POST", "/api/v1/undo", fmt.Sprintf(`{"base_revision":%d}`, s.revision())).status)
	assert.Contains(t, s.ask("GET", "/api/v1/cables/"+id, "").body, `"colour":"pink"`)
}

func TestLabelsAreGivenAndPrinted(t *testing.T) {
	s := patched(t)
	would := s.ask("POST", "/api/v1/labels/check", `{"pattern":"{a}"}`)
	require.Equal(t, 200, would.status, would.body)
	assert.Len(t, would.json["labels"], 2, "those without a label")
	assert.Equal(t, "{panel}.{port:02}", would.json["pattern"], "the usual one")
	assert.Len(t, s.ask("POST", "/api/v1/labels/check", `{"all":true}`).json["labels"], 3)
	refused(t, s.ask("POST", "/api/v1/labels/check", `{"pattern":"{x}"}`), 422, "pattern", "{x} is not known in a label")
	refused(t, s.ask("POST", "/api/v1/labels/check", `{"cable_ids":["nobody"]}`), 404, "", "")
	done := s.ask("POST", "/api/v1/labels", fmt.Sprintf(`{"base_revision":%d}`, s.revision()))
	require.Equal(t, 200, done.status, done.body)
	assert.Contains(t, done.body, `"label":"PP1.08"`)
	pdf := s.ask("GET", "/api/v1/files/labels.pdf?code=true&wrap=true&wide_mm=60&high_mm=25", "")
	assert.Equal(t, 200, pdf.status)
	assert.Contains(t, pdf.body[:8], "%PDF-")
	assert.Contains(t, s.ask("GET", "/api/v1/files/labels.svg?wide_mm=40&high_mm=12", "").body, "PP1.08")
	refused(t, s.ask("GET", "/api/v1/files/labels.pdf?wide_mm=wide", ""), 400, "wide_mm", "not a number of millimetres")
	assert.Equal(t, 422, s.ask("GET", "/api/v1/files/labels.pdf?wide_mm=900", "").status)
}

func TestTheCablingAsFilesAndReports(t *testing.T) {
	s := patched(t)
	for path, want := range map[string]string{
		"/api/v1/files/wiring.dot": "graph",
		"/api/v1/files/trails.svg": "plate 1",
		"/api/v1/files/cables.csv": "A1,core/1,PP1/1,0.25,yellow,cat6",
		"/api/v1/reports/ports":    `"used":2`,
		"/api/v1/reports/to_buy":   `"wants":[]`,
		"/api/v1/reports/ways_in":  `"ways":[]`,
		"/api/v1/rundown":          `PP1/1 = plate/1 cat6, via "stairs"`,
		"/api/v1/files/trails.svg?device_id=" + url.QueryEscape(idOf(t, s, "devices", "core")): "PP1 1",
	} {
		a := s.ask("GET", path, "")
		assert.Equal(t, 200, a.status, path)
		assert.Contains(t, a.body, want, path)
	}
	assert.Equal(t, 404, s.ask("GET", "/api/v1/files/trails.svg?device_id=nobody", "").status)
}

func TestWhatTheReportsSayOfCables(t *testing.T) {
	s := patched(t)
	leads := s.ask("GET", "/api/v1/reports/leads", "")
	require.Equal(t, 200, leads.status, leads.body)
	rows := leads.json["leads"].([]any)
	require.Len(t, rows, 3)
	first, run := rows[0].(map[string]any), rows[1].(map[string]any)
	assert.Equal(t, []any{"A1", "core/1", "PP1/1", "#dba53a"}, []any{first["title"], first["a"], first["b"], first["hex"]})
	assert.Equal(t, "rack", first["should"].(map[string]any)["from"])
	assert.Equal(t, map[string]any{"need_m": 18.0, "reach_m": 18.0, "from": "run"}, run["should"])
	assert.Equal(t, []any{"PP1/1 rear", "plate/1 rear"}, []any{run["a"], run["b"]}, "as one types them")

	port := s.ask("GET", "/api/v1/devices/"+idOf(t, s, "devices", "core")+"/port?port=1", "")
	require.Equal(t, 200, port.status, port.body)
	assert.Equal(t, rows[0], port.json["lead"])
	assert.Equal(t, "nothing", port.json["ends"], "the plate has nothing in it")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/devices/nobody/port?port=1", "").status)

	runs := s.ask("GET", "/api/v1/reports/runs", "").json["runs"].([]any)
	require.Len(t, runs, 1)
	assert.InDelta(t, 5.95, runs[0].(map[string]any)["filled_percent"], 0.01)

	ports := s.ask("GET", "/api/v1/reports/ports", "")
	racks := ports.json["racks"].([]any)
	require.Len(t, racks, 1)
	assert.Equal(t, "R", racks[0].(map[string]any)["name"])

	wiring := s.ask("GET", "/api/v1/racks/"+idOf(t, s, "racks", "R")+"/wiring", "")
	require.Equal(t, 200, wiring.status, wiring.body)
	assert.Equal(t, 3.0, wiring.json["ease"].(map[string]any)["devices"])
	assert.Len(t, wiring.json["jacks"], 3, "the plate in the loft is not in the rack")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/racks/nobody/wiring", "").status)
}

func TestTheWiringOfADraftIsWhatIsPlanned(t *testing.T) {
	s := patched(t)
	require.Equal(t, 201, s.ask("POST", "/api/v1/drafts", `{"id":"more","name":"More"}`).status)
	core, small := idOf(t, s, "devices", "core"), idOf(t, s, "devices", "small")
	body := fmt.Sprintf(
		`{"base_revision":%d,"changes":[{"put":{"kind":"cable","state":"in_use","cable_kind":"cat6","colour":"blue","a":{"device_id":%q,"port":"4"},"b":{"device_id":%q,"port":"4"}}}]}`, s.revision(), core, small)
	done := s.ask("POST", "/api/v1/changes?view=draft:more", body)
	require.Equal(t, 200, done.status, done.body)
	count := func(query string) int {
		return len(s.ask("GET", "/api/v1/reports/leads"+query, "").json["leads"].([]any))
	}
	assert.Equal(t, []int{3, 4}, []int{count(""), count("?view=draft:more")})
	wants := s.ask("GET", "/api/v1/reports/to_buy?view=draft:more", "").json["wants"].([]any)
	require.Len(t, wants, 1, "what the draft adds is to buy")
	assert.Equal(t, []any{"planned: core/4 - small/4"}, wants[0].(map[string]any)["why"])
	assert.Empty(t, s.ask("GET", "/api/v1/reports/to_buy", "").json["wants"])

	// core has 8 and 2 network ports, small 4; the draft takes two of them.
	ports := "/api/v1/racks/" + idOf(t, s, "racks", "R") + "/ports"
	built := s.ask("GET", ports, "")
	assert.Equal(t, map[string]any{"used": 2.0, "of": 14.0}, built.json["links"])
	assert.NotContains(t, built.json, "built")
	planned := s.ask("GET", ports+"?view=draft:more", "")
	assert.Equal(t, map[string]any{"used": 4.0, "of": 14.0}, planned.json["links"])
	assert.Equal(t, built.json["links"], planned.json["built"])
	figures := s.ask("GET", "/api/v1/compare?from=built&to=draft:more", "")
	side := func(name string) any {
		return figures.json[name].(map[string]any)["figures"].(map[string]any)["ports_free"]
	}
	assert.Equal(t, []any{12.0, 10.0}, []any{side("from"), side("to")})
	assert.Equal(t, 404, s.ask("GET", "/api/v1/racks/nobody/ports", "").status)
}

func TestAPortCardNamesThePort(t *testing.T) {
	s := patched(t)
	card := func(device, port string) map[string]any {
		a := s.ask("GET", "/api/v1/devices/"+idOf(t, s, "devices", device)+"/port?port="+port, "")
		require.Equal(t, 200, a.status, a.body)
		return a.json
	}
	for port, name := range map[string]string{"1": "RJ45", "s2": "SFP+ cage", "in1": "power inlet", "77": ""} {
		assert.Equal(t, name, card("core", port)["name"], port)
	}
	assert.Equal(t, "plate", card("core", "1")["reaches"].(map[string]any)["title"])
	assert.Equal(t, "nothing", card("core", "1")["ends"])
}

func TestALabelSheetOfSomeCablesWithTheAddressOfTheirCards(t *testing.T) {
	s := patched(t)
	cable := idOf(t, s, "cables", "A1")
	svg := s.ask("GET", "/api/v1/files/labels.svg?cable_id="+cable, "")
	require.Equal(t, 200, svg.status, svg.body)
	assert.Contains(t, svg.body, "A1")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/files/labels.svg?cable_id=nobody", "").status)
	coded := s.ask("GET", "/api/v1/files/labels.svg?code=true&cable_id="+cable, "")
	assert.Greater(t, len(coded.body), len(svg.body), "the squares of the code")
	unlabelled := s.ask("GET", "/api/v1/lab", "").json["cables"].([]any)[2].(map[string]any)["id"].(string)
	assert.Contains(t, s.ask("GET", "/api/v1/files/labels.svg?cable_id="+unlabelled, "").body, "core/8",
		"one without a label is printed by where it goes")
}

func TestWhatCannotBeSwappedOrReplaced(t *testing.T) {
	s := patched(t)
	core := idOf(t, s, "devices", "core")
	end := func(port string) string { return fmt.Sprintf(`{"device_id":%q,"port":%q}`, core, port) }
	a := s.ask("POST", "/api/v1/swaps", fmt.Sprintf(`{"base_revision":%d,"a":%s,"b":%s}`, s.revision(), end("1"), end("99")))
	assert.Equal(t, 422, a.status, a.body)
	assert.Contains(t, a.body, "has no port")
	refused(t, s.ask("POST", "/api/v1/replacements", fmt.Sprintf(`{"base_revision":%d,"old_id":%q,"new_id":%q}`, s.revision(), core, core)),
		422, "new_id", "core cannot take its own place")
	assert.Equal(t, 404, s.ask("POST", "/api/v1/replacements/check", fmt.Sprintf(`{"old_id":%q,"new_id":"nobody"}`, core)).status)
	refused(t, s.ask("GET", "/api/v1/reports/openings?speed_mb=fast", ""), 400, "speed_mb", "A speed is a number of Mbit/s")
	assert.Equal(t, 404, s.ask("GET", "/api/v1/partners?device_id=nobody&port=1", "").status)
	nowhere := s.ask("GET", "/api/v1/partners?port=77&device_id="+core, "")
	assert.Empty(t, nowhere.json["partners"], "of a port that is not there")
}
