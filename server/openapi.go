package server

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"net/http"
	"path"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"sync"

	"github.com/swaggest/jsonschema-go"
	"github.com/swaggest/openapi-go"
	"github.com/swaggest/openapi-go/openapi31"

	"levelstaff/core/report"
	"levelstaff/core/text"
)

var param = regexp.MustCompile(`:(\w+)`)

// named holds which type has a name in the document.
type named map[string]reflect.Type

// of is a type's bare name; one of another room that is called the same has its
// room's name before it, so that neither is read as the other.
func (n named) of(t reflect.Type, _ string) string {
	if first, taken := n[t.Name()]; taken && first != t {
		room := path.Base(t.PkgPath())
		return text.Capital(room) + t.Name()
	}
	n[t.Name()] = t
	return t.Name()
}

// openVersion stands in the document where the version of the program belongs.
const openVersion = "put in at the start"

// OpenAPI is the API's document, made from the routes and their Go types once in a
// process. It takes seconds, so that a build makes it and hands it to the server
// in its Config. Its version is left open.
var OpenAPI = sync.OnceValues(describe)

// versioned is a document with the version of the program in its place.
func versioned(doc []byte, version string) ([]byte, error) {
	is, err := json.Marshal(version)
	return bytes.Replace(doc, strconv.AppendQuote(nil, openVersion), is, 1), err
}

func describe() ([]byte, error) {
	reflector := openapi31.NewReflector()
	names := named{}
	reflector.Spec.Info.WithTitle("Levelstaff").WithVersion(openVersion).
		WithDescription("Documents a home lab. Lengths are millimetres, weights kilograms, a field that is absent is unknown.")
	reflector.DefaultOptions = append(reflector.DefaultOptions, jsonschema.InterceptDefName(names.of),
		// A fact that is not known is absent, not null; a report's name may be null.
		jsonschema.InterceptNullability(func(p jsonschema.InterceptNullabilityParams) {
			if p.Type != reflect.TypeFor[report.OrNull]() {
				p.Schema.RemoveType(jsonschema.Null)
			}
		}))
	for _, r := range (&Server{}).routes() {
		op, err := reflector.NewOperationContext(r.method, param.ReplaceAllString(r.path, "{$1}"))
		if err != nil {
			return nil, fmt.Errorf("describe %s: %w", r.path, err)
		}
		op.SetID(r.id)
		op.SetSummary(r.summary)
		if r.in != nil {
			op.AddReqStructure(r.in)
		}
		if r.takes != "" {
			op.AddReqStructure("", openapi.WithContentType(r.takes))
		}
		if r.seen {
			op.AddReqStructure(viewQuery{})
		}
		if r.method == http.MethodPatch {
			op.AddReqStructure(someOf(r.out))
		}
		answer := []openapi.ContentOption{openapi.WithHTTPStatus(cmp.Or(r.status, http.StatusOK))}
		if r.kind != "" {
			answer = append(answer, openapi.WithContentType(r.kind))
		}
		op.AddRespStructure(r.out, answer...)
		op.AddRespStructure(Problem{}, openapi.WithContentType("application/problem+json"), func(cu *openapi.ContentUnit) { cu.IsDefault = true })
		if err := reflector.AddOperation(op); err != nil {
			return nil, fmt.Errorf("describe %s: %w", r.path, err)
		}
		if r.method == http.MethodPatch {
			asPatch(reflector.Spec.Paths.MapOfPathItemValues[op.PathPattern()].Patch.RequestBody.RequestBody)
		}
	}
	return json.MarshalIndent(reflector.Spec, "", "  ")
}

// someOf is a record of which no field is needed.
func someOf(record any) any {
	fields := flat(reflect.TypeOf(record))
	for i, f := range fields {
		fields[i].Tag = reflect.StructTag(strings.ReplaceAll(string(f.Tag), `required:"true"`, ""))
	}
	return reflect.New(reflect.StructOf(fields)).Elem().Interface()
}

// asPatch makes what is described as JSON a merge patch too, in which null takes
// a field away.
func asPatch(body *openapi31.RequestBody) {
	const plain = "application/json"
	fields, _ := body.Content[plain].Schema["properties"].(map[string]any)
	for name, field := range fields {
		fields[name] = map[string]any{"anyOf": []any{field, map[string]any{"type": "null"}}}
	}
	body.WithContentItem(mergePatch, body.Content[plain])
}
