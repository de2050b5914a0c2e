package server_test

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"net/url"
	"slices"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/server"
	"levelstaff/store"
)

// document is as much of the OpenAPI document as requests are made from.
type document struct {
	Paths      map[string]map[string]operation `json:"paths"`
	Components struct {
		Schemas map[string]schema `json:"schemas"`
	} `json:"components"`
}

type operation struct {
	ID         string `json:"operationId"`
	Parameters []struct {
		Name, In string
		Required bool
		Schema   schema
	}
	RequestBody struct {
		Content map[string]struct{ Schema schema }
	}
	Responses map[string]struct {
		Content map[string]json.RawMessage
	}
}

type schema struct {
	Ref        string `json:"$ref"`
	Type       any    // a word or a list of words
	Enum       []any
	OneOf      []schema `json:"oneOf"`
	AllOf      []schema `json:"allOf"`
	AnyOf      []schema `json:"anyOf"`
	Properties map[string]schema
	Required   []string
	Items      *schema
}

// maker makes requests from bytes that a fuzzer picks: each byte is a choice.
type maker struct {
	t        *testing.T
	doc      document
	choices  []byte
	revision int64
	known    map[string][]string // ids that there are, by the word for their kind: rack, and racks
}

// newMaker is one that knows what is in the lab.
func newMaker(t *testing.T, doc document, choices []byte, now store.Snapshot) *maker {
	m := &maker{t, doc, choices, now.Revision, map[string][]string{}}
	for _, k := range lab.Kinds() {
		for r := range now.Lab.Records(k.RecordKind) {
			for _, word := range []string{k.List, string(k.RecordKind)} {
				m.known[word] = append(m.known[word], string(r.Key().ID))
			}
		}
	}
	return m
}

// id is one of a kind, three times in four, or of whatever.
func (m *maker) id(kind string) string {
	if list := m.known[kind]; len(list) > 0 && m.pick(4) < 3 {
		return list[m.pick(len(list))]
	}
	return ids[m.pick(len(ids))]
}

// pick is one of n choices, the first where the bytes have run out.
func (m *maker) pick(n int) int {
	if len(m.choices) == 0 || n < 2 {
		return 0
	}
	c := int(m.choices[0])
	if m.choices = m.choices[1:]; n > 256 && len(m.choices) > 0 {
		c = c<<8 | int(m.choices[0])
		m.choices = m.choices[1:]
	}
	return c % n
}

// words are texts as people type them, and some as they do not.
var words = []string{"anvil", "", "Pantry", "12 server \"core\": 2U, 24kg", "anvil/1 - core/2 0.5m cat6", "?", "rack \"Loft\": 9U",
	"1.5m", "-1", "2026-11-27", "name,kind\nlark,server\n", "kind:server place:loft", "draft:d", "at:1", "on:2026-11-01",
	"512x 8TB hdd", "finch, shelf", "{panel}.{port:02}", "bWF4", strings.Repeat("long ", 1500), "a\u202eb\x00", "{\"lab\":{}}", "usd", "=1+1", "4-8"}

var ids = []string{"anvil", "pantry", "loft", "shelf", "finch", "nobody", "lab", "d", "../x", "", "core", "s1"}

// odd is what no schema asks for.
var odd = []any{nil, "", -1, 1e308, 9007199254740993, true, []any{}, map[string]any{}, []any{[]any{[]any{}}}, strings.Repeat("x", 70_000)}

// value is one that a schema allows, or, one time in sixteen, an odd one.
func (m *maker) value(name string, s schema, depth int) any {
	if m.pick(16) == 15 {
		return odd[m.pick(len(odd))]
	}
	switch {
	case s.Ref != "":
		return m.value(name, m.doc.Components.Schemas[s.Ref[strings.LastIndex(s.Ref, "/")+1:]], depth)
	case len(s.OneOf) > 0:
		return m.value(name, s.OneOf[m.pick(len(s.OneOf))], depth)
	case len(s.AllOf) > 0:
		return m.value(name, s.AllOf[m.pick(len(s.AllOf))], depth)
	case len(s.AnyOf) > 0:
		return m.value(name, s.AnyOf[m.pick(8)/7%len(s.AnyOf)], depth)
	case len(s.Enum) > 0:
		return s.Enum[m.pick(len(s.Enum))]
	case name == "view":
		return []string{"built", "draft:quiet", "at:1", "on:2026-11-01", "draft:nobody", "anvil"}[m.pick(6)]
	case name == "base_revision":
		return m.revision - int64(m.pick(5)/4)
	}
	kind, _ := s.Type.(string)
	if list, ok := s.Type.([]any); ok && len(list) > 0 {
		kind, _ = list[0].(string)
	}
	switch kind {
	case "integer":
		return []int{1, 0, 2, 5, 12, 48, -1, 1 << 40}[m.pick(8)]
	case "number":
		return []float64{1, 0, 0.5, 24, 600, -3, 1e30}[m.pick(7)]
	case "boolean":
		return m.pick(2) == 1
	case "array":
		list := []any{}
		for range m.pick(4) {
			if s.Items != nil && depth < 8 {
				list = append(list, m.value(strings.TrimSuffix(name, "s"), *s.Items, depth+1))
			}
		}
		return list
	case "string":
		if strings.HasSuffix(name, "id") {
			return m.id(strings.TrimSuffix(name, "_id"))
		}
		return words[m.pick(len(words))]
	}
	fields := map[string]any{}
	for _, field := range slices.Sorted(maps.Keys(s.Properties)) {
		wanted := slices.Contains(s.Required, field)
		if (wanted && m.pick(32) != 31 || !wanted && m.pick(3) == 2) && depth < 8 {
			fields[field] = m.value(field, s.Properties[field], depth+1)
		}
	}
	return fields
}

// request is the next one: its method, address, content type and body.
func (m *maker) request(all []string, by map[string]operation) (method, address, kind, body string, op operation) {
	name := all[m.pick(len(all))]
	op = by[name]
	method, path, _ := strings.Cut(name, " ")
	query := url.Values{}
	for _, p := range op.Parameters {
		said := fmt.Sprint(m.value(p.Name, p.Schema, 7))
		if list, _, found := strings.Cut(strings.TrimPrefix(path, "/api/v1/"), "/{id}"); found && p.Name == "id" && said != "" {
			said = m.id(list)
		}
		switch {
		case p.In == "path": // an empty one is another address
			path = strings.ReplaceAll(path, "{"+p.Name+"}", url.PathEscape(cmp.Or(said, "none")))
		case p.Required || m.pick(4) == 3:
			query.Set(p.Name, said)
		}
	}
	if kinds := slices.Sorted(maps.Keys(op.RequestBody.Content)); len(kinds) > 0 {
		kind = kinds[m.pick(len(kinds))]
		data, err := json.Marshal(m.value("", op.RequestBody.Content[kind].Schema, 0))
		require.NoError(m.t, err)
		body = string(data)
	}
	return method, path + "?" + query.Encode(), kind, body, op
}

// operations are those of the document by method and path, in order. What never
// ends is left out, and the document itself, which takes seconds to make.
func (d document) operations() (all []string, by map[string]operation) {
	by = map[string]operation{}
	for path, methods := range d.Paths {
		for method, op := range methods {
			if op.ID != "getEvents" && op.ID != "getOpenAPI" {
				by[strings.ToUpper(method)+" "+path] = op
			}
		}
	}
	return slices.Sorted(maps.Keys(by)), by
}

// together is how many requests go to one lab, and choicesEach how many choices
// each of them is made by.
const together, choicesEach = 8, 48

func sequence(n int) []int {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	return list
}

// FuzzRequests sends what the OpenAPI document says can be sent, and a little
// more, several requests to one lab. Whatever is sent is answered as the document
// says, without a fault of the server's own.
func FuzzRequests(f *testing.F) {
	data, err := server.OpenAPI()
	require.NoError(f, err)
	var doc document
	require.NoError(f, json.Unmarshal(data, &doc))
	all, by := doc.operations()
	require.Greater(f, len(all), 200)
	answers := answersOf(f, data, by)
	for turn := range 2 { // each operation, with all the first choices and with others
		for some := range slices.Chunk(sequence(len(all)), together) {
			var seed []byte
			for _, i := range some {
				request := make([]byte, choicesEach)
				for n := range request {
					request[n] = byte(turn * (7*n + 5*i))
				}
				request[0] = byte(i)
				seed = append(seed, request...)
			}
			f.Add(seed)
		}
	}
	f.Fuzz(func(t *testing.T, choices []byte) {
		s := planned(t)
		fill := s.ask("POST", "/api/v1/rows", `{"base_revision":4,"list":"cables","fields":["a","a_port","b","b_port"],`+
			`"rows":[["anvil","?1","finch","?1"]]}`)
		require.Equal(t, 200, fill.status, fill.body)
		for each := range slices.Chunk(choices[:min(len(choices), together*choicesEach)], choicesEach) {
			m := newMaker(t, doc, each, s.store.Now())
			method, address, kind, body, op := m.request(all, by)
			a := s.ask(method, address, body, "Content-Type", kind)
			sent := fmt.Sprintf("%s %s\n%.2000s\nis answered %d %.2000s", method, address, body, a.status, a.body)
			if a.status >= 400 {
				require.True(t, a.status < 500, sent)
				require.NotEmpty(t, a.json["detail"], sent)
				require.EqualValues(t, a.status, a.json["status"], sent)
			} else if answer := answers[op.ID]; answer != nil && a.status != 204 && a.status != 304 {
				is, err := jsonschema.UnmarshalJSON(strings.NewReader(a.body))
				require.NoError(t, err, sent)
				require.NoError(t, answer.Validate(is), sent)
			}
		}
		again, err := store.Open(context.Background(), copied(t, s.store))
		require.NoError(t, err, "what was kept is a lab")
		require.NoError(t, again.Close())
	})
}

// copied is a data directory with the lab as it is kept on the disk.
func copied(t *testing.T, st *store.Store) string {
	t.Helper()
	dir := t.TempDir()
	require.NoError(t, store.Backup(context.Background(), st.Dir(), dir+"/"+store.FileName))
	return dir
}

// answersOf are the schemas of what is answered in JSON, by operation.
func answersOf(t testing.TB, data []byte, by map[string]operation) map[string]*jsonschema.Schema {
	t.Helper()
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(string(data)))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	compiler.DefaultDraft(jsonschema.Draft2020)
	require.NoError(t, compiler.AddResource("api.json", doc))
	answers := map[string]*jsonschema.Schema{}
	for name, op := range by {
		method, path, _ := strings.Cut(name, " ")
		for status, answer := range op.Responses {
			if _, ok := answer.Content["application/json"]; !ok || status == "default" {
				continue
			}
			at := strings.NewReplacer("~", "~0", "/", "~1").Replace(path)
			answers[op.ID], err = compiler.Compile("api.json#/paths/" + url.PathEscape(at) + "/" + strings.ToLower(method) + "/responses/" + status +
				"/content/application~1json/schema")
			require.NoError(t, err)
		}
	}
	return answers
}
