// Package exchange reads and writes the lab in open formats.
package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"slices"

	"github.com/swaggest/jsonschema-go"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// What a file says it is.
const (
	Format  = "levelstaff-lab"
	Version = 1
)

// File is the whole lab as JSON. Its schema is published; see Schema.
type File struct {
	Format  string `json:"format" required:"true" const:"levelstaff-lab"`
	Version int    `json:"version" required:"true" const:"1"`
	lab.Records
}

// WriteJSON writes the whole lab, plans and notes and all.
func WriteJSON(w io.Writer, l *lab.Lab) error {
	return writeJSON(w, File{Format, Version, l.All()})
}

// ReadJSON reads a lab that WriteJSON wrote, or someone by hand. Nothing that
// the file has and a lab has not is passed over. The error is a sentence that
// says where in the file it is about.
func ReadJSON(data []byte) (*lab.Lab, error) {
	var fields map[string]json.RawMessage
	if err := strict(data, &fields); err != nil {
		return nil, err
	}
	names := []string{"settings"}
	for _, k := range lab.Kinds() {
		if !k.Alone {
			names = append(names, k.List)
		}
	}
	if err := known(fields, "a lab", Format, names...); err != nil {
		return nil, err
	}
	var records []lab.Record
	if raw, ok := fields["settings"]; ok {
		r, err := lab.DecodeRecord(lab.KindLab, raw)
		if err != nil {
			return nil, fmt.Errorf("settings: %w", plain(err))
		}
		records = append(records, r)
	}
	for _, k := range lab.Kinds() {
		if k.Alone {
			continue
		}
		found, err := recordsIn(fields, k.List, k.RecordKind)
		if err != nil {
			return nil, err
		}
		records = append(records, found...)
	}
	return build(records)
}

// strict reads one JSON value and nothing after it.
func strict(data []byte, into any) error {
	if text.Deeper(data, text.JSONDepth) {
		return fmt.Errorf("the file is nested more than %d levels deep, which no lab is", text.JSONDepth)
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	err := dec.Decode(into)
	var syntax *json.SyntaxError
	switch {
	case errors.Is(err, io.EOF):
		return errors.New("the file is empty")
	case errors.Is(err, io.ErrUnexpectedEOF):
		return errors.New("the file ends early; it may have been cut off")
	case errors.As(err, &syntax):
		return fmt.Errorf("line %d is not JSON: %w", 1+bytes.Count(data[:min(len(data), int(syntax.Offset))], []byte("\n")), syntax)
	case err != nil:
		return errors.New("the file should be a JSON object, as levelstaff save writes it")
	case dec.More():
		return errors.New("there is something after the end of the JSON object")
	}
	return nil
}

// known refuses a file that is something else, of another version, or has
// what does not belong there. what says what it should be.
func known(fields map[string]json.RawMessage, what, should string, names ...string) error {
	var format string
	if err := json.Unmarshal(fields["format"], &format); err != nil || format != should {
		return fmt.Errorf("this is not %s: its format should say %q", what, should)
	}
	var version int
	if err := json.Unmarshal(fields["version"], &version); err != nil || version < 1 {
		return fmt.Errorf("its version should be %d", Version)
	}
	if version > Version {
		return fmt.Errorf("it is of version %d, and this levelstaff knows version %d; load it with the one that wrote it, or a newer one",
			version, Version)
	}
	for name := range fields {
		if !slices.Contains(names, name) && !slices.Contains([]string{"format", "version", "$schema"}, name) {
			return fmt.Errorf("there is no %q in %s; remove it, or correct its name", name, what)
		}
	}
	return nil
}

func build(records []lab.Record) (*lab.Lab, error) {
	var changes []lab.Change
	seen := map[lab.Key]bool{}
	empty := lab.New()
	for _, r := range records {
		if seen[r.Key()] {
			return nil, fmt.Errorf("there are two of the %s with the id %s", r.Key().Kind, r.Key().ID)
		}
		seen[r.Key()] = true
		if c, ok := empty.Put(r); ok {
			changes = append(changes, c)
		}
	}
	return empty.Apply(changes)
}

// plain says what encoding/json found without its own prefix.
func plain(err error) error {
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return fmt.Errorf("%s is a %s, which does not belong there", kind.Field, kind.Value)
	}
	text := err.Error()
	if cut, ok := bytes.CutPrefix([]byte(text), []byte("json: ")); ok {
		text = string(cut)
	}
	return errors.New(text)
}

// Schema is the JSON Schema (draft-07) of a File.
func Schema() ([]byte, error) {
	return schemaOf(File{}, "A home lab, as levelstaff save lab.json writes it")
}

func schemaOf(file any, title string) ([]byte, error) {
	reflector := jsonschema.Reflector{}
	s, err := reflector.Reflect(file, jsonschema.InterceptDefName(func(t reflect.Type, _ string) string { return t.Name() }),
		jsonschema.InterceptNullability(func(p jsonschema.InterceptNullabilityParams) { p.Schema.RemoveType(jsonschema.Null) }),
		jsonschema.InterceptSchema(func(p jsonschema.InterceptSchemaParams) (bool, error) {
			if p.Processed && p.Value.Kind() == reflect.Struct && len(p.Schema.Properties) > 0 {
				closed := false
				p.Schema.AdditionalProperties = &jsonschema.SchemaOrBool{TypeBoolean: &closed}
			}
			return false, nil
		}))
	if err != nil {
		return nil, fmt.Errorf("describe the JSON: %w", err)
	}
	s.WithSchema("http://json-schema.org/draft-07/schema#")
	s.WithTitle(title)
	return json.MarshalIndent(s, "", "  ")
}
