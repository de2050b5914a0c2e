package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
	"levelstaff/store"
)

// site is a server on a lab of its own.
type site struct {
	t     *testing.T
	app   *fiber.App
	store *store.Store
}

func newSite(t *testing.T) site {
	t.Helper()
	return configured(t, "", server.Config{Version: "test"})
}

// configured is a site with a passphrase, if it is not "", that is reached in
// a certain way.
func configured(t *testing.T, passphrase string, config server.Config) site {
	t.Helper()
	st, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	pages := fstest.MapFS{
		"index.html":    {Data: []byte(`<meta name="csp-nonce" content="__NONCE__"><div id="app"></div>`)},
		"assets/app.js": {Data: []byte("1")},
	}
	if passphrase != "" {
		hash, err := server.HashPassphrase(passphrase)
		require.NoError(t, err)
		require.NoError(t, st.SetPassphrase(context.Background(), hash))
	}
	app, err := server.New(context.Background(), st, pages, config)
	require.NoError(t, err)
	return site{t, app, st}
}

type answer struct {
	status int
	header http.Header
	body   string
	json   map[string]any
}

// ask sends a request; headers come in pairs of name and value.
func (s site) ask(method, path, body string, headers ...string) answer {
	s.t.Helper()
	req := httptest.NewRequest(method, path, strings.NewReader(body))
	req.Host = "127.0.0.1:8640"
	if body != "" {
		req.Header.Set("Content-Type", "application/json")
	}
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
		if headers[i] == "Host" {
			req.Host = headers[i+1]
		}
	}
	res, err := s.app.Test(req, fiber.TestConfig{Timeout: 0})
	require.NoError(s.t, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(s.t, err)
	a := answer{status: res.StatusCode, header: res.Header, body: string(data)}
	_ = json.Unmarshal(data, &a.json)
	return a
}

// with fills the lab with a 12U rack, anvil at 5-6 and finch on a shelf at 8.
func (s site) with() site {
	s.t.Helper()
	a := s.ask("POST", "/api/v1/changes", `{"base_revision":0,"changes":[
		{"put":{"kind":"place","id":"loft","name":"Loft"}},
		{"put":{"kind":"rack","id":"pantry","name":"Pantry","height_u":12}},
		{"put":{"kind":"device","id":"anvil","name":"anvil","device_kind":"server","takes_u":2,"at":{"where":"units","rack_id":"pantry","unit":5}}},
		{"put":{"kind":"device","id":"shelf","name":"shelf","device_kind":"shelf","takes_u":1,"at":{"where":"units","rack_id":"pantry","unit":8}}},
		{"put":{"kind":"device","id":"finch","name":"finch","device_kind":"single_board_computer","at":{"where":"device","device_id":"shelf"}}}]}`)
	require.Equal(s.t, 200, a.status, a.body)
	return s
}

// refused checks that an answer is a problem document about the field.
func refused(t *testing.T, a answer, status int, field, say string) {
	t.Helper()
	assert.Equal(t, status, a.status, a.body)
	assert.Equal(t, "application/problem+json", a.header.Get("Content-Type"))
	assert.EqualValues(t, status, a.json["status"])
	assert.Contains(t, a.body, say)
	if field == "" {
		return
	}
	var fields []string
	list, _ := a.json["errors"].([]any)
	for _, e := range list {
		fields = append(fields, e.(map[string]any)["field"].(string))
	}
	assert.Contains(t, fields, field)
}

func TestTheWholeLabAndItsETag(t *testing.T) {
	s := newSite(t).with()
	a := s.ask("GET", "/api/v1/lab", "")
	assert.EqualValues(t, 1, a.json["revision"])
	assert.Len(t, a.json["devices"], 3)
	assert.Equal(t, `"1"`, a.header.Get("ETag"))
	assert.Equal(t, 304, s.ask("GET", "/api/v1/lab", "", "If-None-Match", `"1"`).status)
	assert.NotContains(t, a.body, "weight_kg", "what is unknown is absent")
	assert.Equal(t, "ok", s.ask("GET", "/healthz", "").json["status"])
}

func TestUniformResources(t *testing.T) {
	s := newSite(t).with()
	made := s.ask(
		"POST", "/api/v1/devices", `{"name":"core","device_kind":"switch","takes_u":1,"at":{"where":"units","rack_id":"pantry","unit":12}}`)
	require.Equal(t, 201, made.status, made.body)
	id := made.json["id"].(string)
	assert.Equal(t, "/api/v1/devices/"+id, made.header.Get("Location"))
	assert.Equal(t, "running", made.json["state"], "goes without saying")

	patched := s.ask("PATCH", "/api/v1/devices/"+id, `{"depth_mm":320,"at":{"unit":11,"face":"rear"}}`, "Content-Type",
		"application/merge-patch+json")
	require.Equal(t, 200, patched.status, patched.body)
	at := patched.json["at"].(map[string]any)
	assert.EqualValues(t, 11, at["unit"])
	assert.Equal(t, "pantry", at["rack_id"], "a merge patch leaves the rest")
	gone := s.ask("PATCH", "/api/v1/devices/"+id, `{"depth_mm":null}`)
	assert.NotContains(t, gone.json, "depth_mm", "null makes a fact unknown")

	refused(t, s.ask("PATCH", "/api/v1/devices/"+id, `{"depth_mm":1}`, "If-Match", `"1"`), 409, "base_revision",
		"Someone else changed this first")
	refused(t, s.ask("PATCH", "/api/v1/devices/"+id, `{"id":"other"}`), 422, "id", "keeps its id")
	refused(t, s.ask("POST", "/api/v1/devices", `{"id":"anvil","device_kind":"server"}`), 409, "id", "already")
	refused(t, s.ask("GET", "/api/v1/devices/nobody", ""), 404, "", "no device")
	assert.Equal(t, 200, s.ask("DELETE", "/api/v1/devices/"+id, "").status)
	refused(t, s.ask("DELETE", "/api/v1/devices/"+id, ""), 404, "", "no device")
	refused(t, s.ask("DELETE", "/api/v1/devices/shelf", ""), 422, "id", "still holds “finch”")
	for _, plural := range []string{"places", "racks", "devices"} {
		var list []map[string]any
		require.NoError(t, json.Unmarshal([]byte(s.ask("GET", "/api/v1/"+plural, "").body), &list))
		assert.NotEmpty(t, list, plural)
	}
}

func TestBadInputIsRefusedByFieldAndChangesNothing(t *testing.T) {
	s := newSite(t).with()
	long := strings.Repeat("x", 10_000)
	put := func(record string) string { return `{"base_revision":1,"changes":[{"put":` + record + `}]}` }
	for name, c := range map[string]struct {
		path, body string
		status     int
		field, say string
	}{
		"a rack of 0U":                {"/racks", `{"name":"R","height_u":0}`, 422, "height_u", "1 to 60 units"},
		"a rack of 200U":              {"/racks", `{"name":"R","height_u":200}`, 422, "height_u", "1 to 60 units"},
		"a negative weight":           {"/devices", `{"device_kind":"server","weight_kg":-4}`, 422, "weight_kg", "out of range"},
		"a name of 10,000 letters":    {"/devices", `{"device_kind":"server","name":"` + long + `"}`, 422, "name", "10000 characters"},
		"a control character":         {"/devices", `{"device_kind":"server","name":"a\u0000b"}`, 422, "name", "U+0000"},
		"a unit outside the rack":     {"/devices", `{"device_kind":"server","takes_u":1,"at":{"where":"units","rack_id":"pantry","unit":13}}`, 422, "at.unit", "units 1 to 12"},
		"units that are taken":        {"/devices", `{"name":"x","device_kind":"server","takes_u":1,"at":{"where":"units","rack_id":"pantry","unit":6}}`, 422, "at.unit", "“anvil” takes 5-6"},
		"a circle of shelves":         {"/changes", put(`{"kind":"device","id":"shelf","name":"shelf","device_kind":"shelf","at":{"where":"device","device_id":"finch"}}`), 422, "at.device_id", "itself on"},
		"a number where a text goes":  {"/devices", `{"device_kind":"server","name":7}`, 400, "name", "should be a text"},
		"a text where a number goes":  {"/racks", `{"name":"R","height_u":"tall"}`, 400, "height_u", "should be a number"},
		"a list where an object goes": {"/devices", `[1,2]`, 400, "", "should be an object"},
		"a field that is not there":   {"/devices", `{"device_kind":"server","colour":"red"}`, 400, "colour", "no field colour"},
		"no JSON at all":              {"/devices", `{"device_kind":`, 400, "", "not"},
		"a kind of record not known":  {"/changes", put(`{"kind":"toaster"}`), 400, "", "no record kind"},
		"neither put nor remove":      {"/changes", `{"base_revision":1,"changes":[{}]}`, 422, "changes[0]", "either a put or a remove"},
		"a record that is not there":  {"/changes", `{"base_revision":1,"changes":[{"remove":{"kind":"device","id":"x"}}]}`, 422, "changes[0].remove.id", "no device"},
		"no base revision":            {"/changes", `{"changes":[]}`, 422, "base_revision", "GET /api/v1/lab"},
		"a revision still to come":    {"/changes", `{"base_revision":99,"changes":[{"remove":{"kind":"place","id":"loft"}}]}`, 409, "base_revision", "not yet at 99"},
		"an unknown unit in a fact":   {"/facts", `{"base_revision":1,"record":{"kind":"device","id":"anvil"},"field":"depth_mm","text":"3 furlongs"}`, 422, "depth_mm", "furlongs"},
		"a line that says nothing":    {"/lines", `{"base_revision":1,"line":"7 swich","rack_id":"pantry"}`, 422, "line", "did you mean switch?"},
		"a text with a mistake":       {"/rundown", `{"base_revision":1,"text":"rack \"R\": 9U\n9 swich"}`, 422, "text:2:3", "did you mean switch?"},
		"a line of 10,000 letters":    {"/lines", `{"base_revision":1,"line":"` + long + `"}`, 422, "line", "at most 2000 are allowed"},
	} {
		t.Run(name, func(t *testing.T) {
			refused(t, s.ask("POST", "/api/v1"+c.path, c.body), c.status, c.field, c.say)
		})
	}
	assert.EqualValues(t, 1, s.ask("GET", "/api/v1/lab", "").json["revision"])
}

func TestAStaleRevisionNamesTheRecords(t *testing.T) {
	s := newSite(t).with()
	rename := `{"base_revision":1,"changes":[{"put":{"kind":"place","id":"loft","name":"Attic"}}]}`
	require.Equal(t, 200, s.ask("POST", "/api/v1/changes", rename).status)
	a := s.ask("POST", "/api/v1/changes", strings.Replace(rename, "Attic", "Garret", 1))
	refused(t, a, 409, "base_revision", "Someone else changed this first")
	assert.Equal(t, []any{map[string]any{"kind": "place", "id": "loft"}}, a.json["conflicts"])
	assert.EqualValues(t, 2, a.json["revision"])
}

// Who sets a fact second gets both values, by every way there is.
func TestWhoIsSecondIsAskedWithBothValues(t *testing.T) {
	s := newSite(t).with()
	base := s.ask("GET", "/api/v1/lab", "").json["revision"]
	weigh := func(kg string, base any) answer {
		return s.ask("POST", "/api/v1/facts",
			fmt.Sprintf(`{"base_revision":%v,"record":{"kind":"device","id":"anvil"},"field":"weight_kg","text":%q}`, base, kg))
	}
	text := strings.Replace(s.ask("GET", "/api/v1/rundown", "").body, `server "anvil"`, `server "anvil": 21kg`, 1)
	require.Equal(t, 200, weigh("22", base).status)
	asked := map[string]answer{
		"a fact": weigh("21", base),
		"a cell": s.ask("POST", "/api/v1/cells",
			fmt.Sprintf(`{"base_revision":%v,"cells":[{"record":{"kind":"device","id":"anvil"},"field":"weight_kg","text":"21"}]}`, base)),
		"a line":  s.ask("POST", "/api/v1/lines", fmt.Sprintf(`{"base_revision":%v,"line":"anvil: 21kg"}`, base)),
		"a text":  s.ask("POST", "/api/v1/rundown", fmt.Sprintf(`{"base_revision":%v,"text":%q}`, base, text)),
		"a patch": s.ask("PATCH", "/api/v1/devices/anvil", `{"weight_kg":21}`, "If-Match", fmt.Sprintf(`"%v"`, base)),
	}
	for name, a := range asked {
		refused(t, a, 409, "", "anvil: weight is 22kg now, and you wrote 21kg")
		clashes, _ := a.json["clashes"].([]any)
		require.Len(t, clashes, 1, name)
		clash := clashes[0].(map[string]any)
		assert.Equal(t, []any{"weight_kg", "weight", "22kg", "21kg"}, []any{clash["field"], clash["name"], clash["theirs"], clash["yours"]}, name)
	}
	require.Equal(t, 200, weigh("21", asked["a fact"].json["revision"]).status, "who has seen both decides")
	require.Equal(t, 200, weigh("22", asked["a fact"].json["revision"].(float64)+1).status)
	now := s.ask("GET", "/api/v1/lab", "").json["revision"]
	send := func(whose string, seen any) answer {
		return s.ask("POST", "/api/v1/rundown",
			fmt.Sprintf(`{"base_revision":%v,"text":%q,"clashes":%q,"seen_revision":%v}`, base, text, whose, seen))
	}
	refused(t, send("mine", base), 409, "base_revision", "you wrote 21kg")
	require.Equal(t, 200, send("theirs", now).status)
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"weight_kg":22`)
	require.Equal(t, 200, send("mine", now).status)
	assert.Contains(t, s.ask("GET", "/api/v1/devices/anvil", "").body, `"weight_kg":21`)
}

func TestUndoAndRedo(t *testing.T) {
	s := newSite(t).with()
	require.Equal(t, 200, s.ask("POST", "/api/v1/lines", `{"base_revision":1,"line":"1-2 ups \"keep\"","rack_id":"pantry"}`).status)
	back := s.ask("POST", "/api/v1/undo", `{"base_revision":2}`)
	require.Equal(t, 200, back.status, back.body)
	assert.Len(t, back.json["removed"], 1)
	assert.Equal(t, `ups "keep" added at Pantry 1-2`, back.json["redo"])
	refused(t, s.ask("POST", "/api/v1/undo", `{"base_revision":2}`), 409, "base_revision", "first")
	assert.Len(t, s.ask("POST", "/api/v1/redo", `{"base_revision":3}`).json["devices"], 1)
	refused(t, s.ask("POST", "/api/v1/redo", `{"base_revision":4}`), 409, "", "nothing")
}

func TestAnOldChangeIsTakenBackByItself(t *testing.T) {
	s := newSite(t).with()
	require.Equal(t, 200, s.ask("PATCH", "/api/v1/devices/anvil", `{"weight_kg":24}`).status)
	require.Equal(t, 200, s.ask("PATCH", "/api/v1/devices/anvil", `{"depth_mm":710}`).status)
	a := s.ask("POST", "/api/v1/take_back", `{"base_revision":3,"revision":2}`)
	require.Equal(t, 200, a.status, a.body)
	assert.Equal(t, "taken back: anvil: weight 24 kg (was unknown)", a.json["label"])
	anvil := s.ask("GET", "/api/v1/devices/anvil", "")
	assert.NotContains(t, anvil.json, "weight_kg")
	assert.EqualValues(t, 710, anvil.json["depth_mm"])
	refused(t, s.ask("POST", "/api/v1/take_back", `{"base_revision":4,"revision":1}`), 409, "", "stands in the way")
	refused(t, s.ask("POST", "/api/v1/take_back", `{"base_revision":4,"revision":9}`), 404, "", "no change 9")
	require.Equal(t, 200, s.ask("POST", "/api/v1/undo", `{"base_revision":4}`).status)
	assert.EqualValues(t, 24, s.ask("GET", "/api/v1/devices/anvil", "").json["weight_kg"], "which is a change like any other")
}

func TestARundownIsCheckedThenLoaded(t *testing.T) {
	s := newSite(t).with()
	text := s.ask("GET", "/api/v1/rundown", "").body
	assert.Contains(t, text, `5-6     server "anvil"`)
	edited, err := json.Marshal(strings.Replace(text, `"anvil"`, `"hammer"`, 1))
	require.NoError(t, err)
	check := s.ask("POST", "/api/v1/rundown/check", `{"base_revision":1,"text":`+string(edited)+`}`)
	assert.Contains(t, check.body, `"verb":"renamed"`)
	assert.EqualValues(t, 1, s.ask("GET", "/api/v1/lab", "").json["revision"], "a check changes nothing")
	require.Equal(t, 200, s.ask("POST", "/api/v1/rundown", `{"base_revision":1,"text":`+string(edited)+`}`).status)
	assert.Equal(t, "hammer", s.ask("GET", "/api/v1/devices/anvil", "").json["name"])
	gone := s.ask("POST", "/api/v1/rundown/check", `{"base_revision":1,"text":""}`)
	assert.Contains(t, gone.body, "hammer changed meanwhile, so it stays")
	assert.Contains(t, gone.body, `"since":[{"verb":"renamed"`, "what came since the text was written is told")
	odd := s.ask("POST", "/api/v1/rundown/check", `{"base_revision":1,"text":"zzqy"}`)
	assert.Equal(t, "zzqy\n", odd.json["unread"], "what is left to mend")
	refused(t, s.ask("POST", "/api/v1/rundown", `{"base_revision":1,"text":""}`), 422, "", "hammer changed meanwhile")
	refused(t, s.ask("POST", "/api/v1/rundown/check", `{"base_revision":9,"text":""}`), 409, "base_revision", "not yet at 9")
}

func TestSlotsAndSpace(t *testing.T) {
	s := newSite(t).with()
	assert.Contains(t, s.ask("GET", "/api/v1/reports/space", "").body, `"free_u":9`)
	slots := s.ask("GET", "/api/v1/racks/pantry/slots?device_id=anvil", "")
	assert.Contains(t, slots.body, `{"unit":7,"face":"front","share":"whole","fits":false,"why":"shelf takes 8","swap":true}`)
	refused(t, s.ask("GET", "/api/v1/racks/pantry/slots?device_id=x", ""), 404, "", "no device")
	refused(t, s.ask("GET", "/api/v1/racks/x/slots?device_id=anvil", ""), 404, "", "no rack")
}

func TestOnlyThisMachinesOwnPagesGetIn(t *testing.T) {
	s := newSite(t)
	refused(t, s.ask("GET", "/api/v1/lab", "", "Host", "evil.example"), 421, "", "is not known as")
	for _, host := range []string{"localhost:8640", "127.0.0.1:8640", "[::1]:8640"} {
		assert.Equal(t, 200, s.ask("GET", "/api/v1/lab", "", "Host", host).status, host)
	}
	body := `{"name":"Loft"}`
	refused(t, s.ask("POST", "/api/v1/places", body, "Origin", "http://evil.example"), 403, "", "another origin")
	refused(t, s.ask("POST", "/api/v1/places", body, "Origin", "null"), 403, "", "another origin")
	refused(t, s.ask("POST", "/api/v1/places", body, "Sec-Fetch-Site", "cross-site"), 403, "", "another site")
	refused(t, s.ask("POST", "/api/v1/places", body, "Content-Type", "text/plain"), 415, "", "Send JSON")
	assert.Equal(t, 201, s.ask("POST", "/api/v1/places", body, "Origin", "http://127.0.0.1:8640", "Sec-Fetch-Site", "same-origin").status)
	refused(t, s.ask("GET", "/api/v1/nothing", ""), 404, "", "nothing at this address")
	refused(t, s.ask("PUT", "/api/v1/lab", "{}"), 405, "", "does not take that method")
}

func TestPagesCarryAPolicyWithoutInlineScript(t *testing.T) {
	s := newSite(t)
	a := s.ask("GET", "/rundown", "")
	assert.Equal(t, 200, a.status)
	policy := a.header.Get("Content-Security-Policy")
	assert.Contains(t, policy, "script-src 'self';")
	assert.NotContains(t, policy, "unsafe")
	nonce := strings.Split(strings.SplitN(a.body, `content="`, 2)[1], `"`)[0]
	assert.Contains(t, policy, "'nonce-"+nonce+"'")
	assert.NotEqual(t, a.body, s.ask("GET", "/", "").body, "each page has a nonce of its own")
	assert.Contains(t, s.ask("GET", "/assets/app.js", "").header.Get("Cache-Control"), "max-age=31536000")
	assert.Equal(t, 404, s.ask("GET", "/assets/../index.html", "").status)
}

// Every route of the table is in the document, with what it answers.
func TestTheDocumentDescribesTheAPI(t *testing.T) {
	s := newSite(t)
	doc := s.ask("GET", "/api/v1/openapi.json", "")
	assert.Equal(t, "3.1.0", doc.json["openapi"])
	assert.Equal(t, "test", doc.json["info"].(map[string]any)["version"], "the program's")
	paths := doc.json["paths"].(map[string]any)
	for _, path := range []string{"/healthz", "/api/v1/lab", "/api/v1/changes", "/api/v1/racks", "/api/v1/devices/{id}", "/api/v1/places",
		"/api/v1/reports/space", "/api/v1/openapi.json"} {
		assert.Contains(t, paths, path)
	}
	known, err := json.Marshal(doc.json["components"])
	require.NoError(t, err)
	assert.Contains(t, string(known), `"$ref":"#/components/schemas/Device"`)
	const named = `"type":["string","null"]`
	assert.NotContains(t, strings.ReplaceAll(string(known), named, ""), `"null"`,
		"what is unknown is absent, not null, but for the names of a report")
	body := paths["/api/v1/places/{id}"].(map[string]any)["patch"].(map[string]any)["requestBody"].(map[string]any)["content"]
	patch := body.(map[string]any)["application/merge-patch+json"].(map[string]any)["schema"].(map[string]any)
	assert.NotContains(t, patch, "required", "a patch says what it changes")
	assert.Equal(t, []any{map[string]any{"maxLength": 80.0, "type": "string"}, map[string]any{"type": "null"}},
		patch["properties"].(map[string]any)["name"].(map[string]any)["anyOf"], "and null takes away")
}

func TestScriptsAreSentAsTheBuildCompressedThem(t *testing.T) {
	st, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	app, err := server.New(context.Background(), st,
		fstest.MapFS{"index.html": {Data: []byte("x")}, "assets/app.js": {Data: []byte("plain")}, "assets/app.js.br": {Data: []byte("brotli")}},
		server.Config{})
	require.NoError(t, err)
	s := site{t, app, st}
	a := s.ask("GET", "/assets/app.js", "", "Accept-Encoding", "gzip, br")
	assert.Equal(t, "brotli", a.body)
	assert.Equal(t, "br", a.header.Get("Content-Encoding"))
	assert.Contains(t, a.header.Get("Content-Type"), "javascript")
	assert.Contains(t, a.header.Get("Vary"), "Accept-Encoding")
	assert.Equal(t, "plain", s.ask("GET", "/assets/app.js", "", "Accept-Encoding", "identity").body)
	assert.Equal(t, 404, s.ask("GET", "/assets/other.js", "", "Accept-Encoding", "br").status)
}

func TestAServerWithoutBuiltPagesSaysWhatToDo(t *testing.T) {
	st, err := store.Open(context.Background(), t.TempDir())
	require.NoError(t, err)
	defer st.Close()
	_, err = server.New(context.Background(), st, fstest.MapFS{}, server.Config{})
	require.ErrorContains(t, err, "run make build")
}
