package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
)

// routes are the methods and paths of the API's own document.
func routes(t *testing.T) map[string][]string {
	t.Helper()
	doc, err := server.OpenAPI()
	require.NoError(t, err)
	var spec struct {
		Paths map[string]map[string]any `json:"paths"`
	}
	require.NoError(t, json.Unmarshal(doc, &spec))
	found := map[string][]string{}
	for path, methods := range spec.Paths {
		if path == "/api/v1/events" {
			continue // it does not end
		}
		for method := range methods {
			found[path] = append(found[path], strings.ToUpper(method))
		}
	}
	return found
}

// Whatever is thrown at whichever route, the answer is one that a person can
// act on, never a fault of the server's own, and the lab stays as it is.
func TestNoRouteFailsOnGarbage(t *testing.T) {
	s := newSite(t).with()
	bodies := []string{"", "null", "[]", "7", `"text"`, "{", `{"base_revision":null}`, `{"base_revision":"x"}`,
		`{"base_revision":1,"changes":null}`, `{"base_revision":1e99}`,
		`{"base_revision":1,"changes":[{"put":null}]}`, `{"base_revision":1,"changes":[{"put":{"kind":7}}]}`, `{"base_revision":1,"record":{"kind":"x","id":"y"},"field":"","text":""}`,
		strings.Repeat("[", 10_000), "\xff\xfe", `{"id":""}`, `{"id":"../../etc/passwd"}`, `{"name":" "}`}
	asked := 0
	for path, methods := range routes(t) {
		for _, method := range methods {
			for _, id := range []string{"anvil", "nobody", "..", "%2e%2e%2f", "%00", strings.Repeat("x", 3000)} {
				if !strings.Contains(path, "{") && id != "anvil" {
					continue
				}
				for _, body := range bodies {
					if method == "GET" && body != "" || method == "DELETE" && id == "anvil" {
						continue
					}
					asked++
					a := s.ask(method, strings.NewReplacer("{id}", id, "{revision}", id).Replace(path), body)
					assert.Less(t, a.status, 500, "%s %s with %.40q: %s", method, path, body, a.body)
					if a.status >= 400 {
						assert.Equal(t, "application/problem+json", a.header.Get("Content-Type"), "%s %s with %.40q", method, path, body)
						assert.NotEmpty(t, a.json["detail"])
					}
				}
			}
		}
	}
	assert.Greater(t, asked, 300)
	lab := s.ask("GET", "/api/v1/lab", "")
	assert.Len(t, lab.json["racks"], 1)
	assert.Len(t, lab.json["places"], 1)
}

func TestARequestThatIsTooLargeIsRefused(t *testing.T) {
	s := newSite(t)
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	go func() { _ = s.app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true, GracefulContext: ctx}) }()
	conn, err := net.Dial("tcp", ln.Addr().String())
	require.NoError(t, err)
	defer conn.Close()
	_, err = fmt.Fprintf(
		conn, "POST /api/v1/rundown/check HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n", ln.Addr(),
		30<<20)
	require.NoError(t, err)
	_, err = conn.Write(make([]byte, 16<<10))
	require.NoError(t, err)
	res, err := http.ReadResponse(bufio.NewReader(conn), nil)
	require.NoError(t, err)
	defer res.Body.Close()
	body, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	assert.Equal(t, 413, res.StatusCode)
	assert.Equal(t, "application/problem+json", res.Header.Get("Content-Type"))
	assert.Contains(t, string(body), "larger than 24 MB")
}

func TestManyChangesAtOnceAreOne(t *testing.T) {
	s := newSite(t).with()
	var puts []string
	for i := range 500 {
		puts = append(puts, fmt.Sprintf(`{"put":{"kind":"device","name":"thing %d","device_kind":"other"}}`, i))
	}
	a := s.ask("POST", "/api/v1/changes", `{"base_revision":1,"label":"a box of things","changes":[`+strings.Join(puts, ",")+`]}`)
	require.Equal(t, 200, a.status, a.body)
	assert.EqualValues(t, 2, a.json["revision"])
	assert.Equal(t, "a box of things", a.json["undo"])
	assert.Len(t, a.json["devices"], 500)
	ids := map[string]bool{}
	for _, d := range a.json["devices"].([]any) {
		ids[d.(map[string]any)["id"].(string)] = true
	}
	assert.Len(t, ids, 500, "each gets an id of its own")
	assert.Len(t, s.ask("POST", "/api/v1/undo", `{"base_revision":2}`).json["removed"], 500)

	twice := `{"put":{"kind":"place","id":"loft","name":"A"}},{"put":{"kind":"place","id":"loft","name":"B"}}`
	refused(t, s.ask("POST", "/api/v1/changes", `{"base_revision":3,"changes":[`+twice+`]}`), 422, "changes[1]", "in the list twice")
}

func TestAChangeTellsWhatIsFreeInTheRacksItTouched(t *testing.T) {
	s := newSite(t).with()
	spaces := func(a answer) (list []string) {
		for _, sp := range a.json["spaces"].([]any) {
			m := sp.(map[string]any)
			list = append(list, fmt.Sprint(m["rack"], " ", m["free_u"]))
		}
		return
	}
	assert.Equal(t, []string{"Pantry 11"}, spaces(s.ask("POST", "/api/v1/lines", `{"base_revision":1,"line":"in \"Loft\" server \"anvil\""}`)))
	assert.Equal(t, []string{"Pantry 11"}, spaces(s.ask("POST", "/api/v1/facts",
		`{"base_revision":2,"record":{"kind":"device","id":"finch"},"field":"weight_kg","text":"100g"}`)), "finch is on a shelf in it")
	assert.Equal(t, []string{"Pantry 9"}, spaces(s.ask("POST", "/api/v1/lines",
		`{"base_revision":3,"line":"1-2 server \"anvil\"","rack_id":"pantry"}`)))
	place := s.ask("POST", "/api/v1/facts", `{"base_revision":4,"record":{"kind":"place","id":"loft"},"field":"name","text":"Attic"}`)
	assert.NotContains(t, place.json, "spaces")
	assert.Len(t, spaces(s.ask("POST", "/api/v1/facts",
		`{"base_revision":5,"record":{"kind":"lab","id":"lab"},"field":"unit_numbering","text":"units from the top"}`)), 1, "every rail is numbered anew")
}

func TestAChangeThatChangesNothingIsNone(t *testing.T) {
	s := newSite(t).with()
	a := s.ask("POST", "/api/v1/facts", `{"base_revision":1,"record":{"kind":"device","id":"anvil"},"field":"name","text":"anvil"}`)
	require.Equal(t, 200, a.status, a.body)
	assert.EqualValues(t, 1, a.json["revision"])
	assert.Equal(t, 200, s.ask("PATCH", "/api/v1/devices/anvil", `{}`).status)
	assert.EqualValues(t, 1, s.ask("GET", "/api/v1/lab", "").json["revision"])
}

func TestFactsAreChangedAsTheyAreTyped(t *testing.T) {
	s := newSite(t).with()
	fact := func(base int, kind, id, field, text string) answer {
		body, err := json.Marshal(map[string]any{"base_revision": base, "record": map[string]string{"kind": kind, "id": id}, "field": field,
			"text": text})
		require.NoError(t, err)
		return s.ask("POST", "/api/v1/facts", string(body))
	}
	for i, c := range []struct{ kind, id, field, text, want string }{
		{"device", "anvil", "depth_mm", "17.5in", `"depth_mm":444.5`},
		{"device", "anvil", "state", "broken", `"state":"faulty"`},
		{"device", "anvil", "at", "1-2 rear", `"unit":1,"face":"rear"`},
		{"device", "anvil", "purpose", "the library, and more", `"purpose":"the library, and more"`},
		{"rack", "pantry", "holds_kg", "300", `"holds_kg":300`},
		{"rack", "pantry", "place_id", "loft", `"place_id":"loft"`},
		{"rack", "pantry", "stance", "on a wall", `"stance":"wall"`},
		{"place", "loft", "notes", "cold", `"notes":"cold"`},
		{"lab", "lab", "unit_numbering", "units from the top", `"unit_numbering":"top"`},
		{"lab", "lab", "mains_v", "230", `"mains_v":230`},
	} {
		a := fact(i+1, c.kind, c.id, c.field, c.text)
		require.Equal(t, 200, a.status, a.body)
		assert.Contains(t, a.body, c.want)
	}
	refused(t, fact(11, "rack", "pantry", "height_u", "4"), 422, "height_u", "move it first")
	refused(t, fact(11, "rack", "pantry", "height_u", "?"), 422, "height_u", "counted at the rail")
	refused(t, fact(11, "device", "nobody", "name", "x"), 404, "", "There is no device")
	refused(t, fact(11, "rack", "pantry", "place_id", "Lofft"), 422, "place_id", "did you mean “Loft”?")
}

func TestALineIsCheckedAndCompleted(t *testing.T) {
	s := newSite(t).with()
	check := s.ask("POST", "/api/v1/lines/check", `{"base_revision":1,"line":"9 switch \"core\"","rack_id":"pantry"}`)
	require.Equal(t, 200, check.status, check.body)
	assert.Contains(t, check.body, `"verb":"added"`)
	assert.Contains(t, check.body, `"unit":9`)
	assert.Contains(t, s.ask("POST", "/api/v1/lines/check", `{"base_revision":1,"line":"","rack_id":"pantry"}`).body, `"text":"9-12 "`)
	assert.EqualValues(t, 1, s.ask("GET", "/api/v1/lab", "").json["revision"])
	assert.Len(t, s.ask("POST", "/api/v1/lines", `{"base_revision":1,"line":"on \"shelf\" sbc \"wren\""}`).json["devices"], 1)
}
