// Package exchange reads and writes the lab in open formats.
package exchange

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"

	"github.com/swaggest/jsonschema-go"

	"levelstaff/core/lab"
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
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(File{Format, Version, l.All()})
}

// lists are the names of a file's lists and what is in them.
var lists = []struct {
	name string
	kind lab.RecordKind
}{
	{"places", lab.KindPlace}, {"racks", lab.KindRack}, {"spec_sheets", lab.KindSheet}, {"devices", lab.KindDevice},
	{"parts", lab.KindPart}, {"photos", lab.KindPhoto}, {"drafts", lab.KindDraft},
	{"steps", lab.KindStep}, {"notes", lab.KindNote}, {"acceptances", lab.KindAcceptance}, {"filters", lab.KindFilter},
}

// ReadJSON reads a lab that WriteJSON wrote, or somebody by hand. Nothing that
// the file has and a lab has not is passed over. The error is a sentence that
// says where in the file it is about.
func ReadJSON(data []byte) (*lab.Lab, error) {
	var fields map[string]json.RawMessage
	if err := strict(data, &fields); err != nil {
		return nil, err
	}
	if err := known(fields); err != nil {
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
	for _, list := range lists {
		var items []json.RawMessage
		if raw, ok := fields[list.name]; ok {
			if err := json.Unmarshal(raw, &items); err != nil {
				return nil, fmt.Errorf("%s should be a list", list.name)
			}
		}
		for i, raw := range items {
			r, err := lab.DecodeRecord(list.kind, raw)
			if err != nil {
				return nil, fmt.Errorf("%s[%d]: %w", list.name, i, plain(err))
			}
			records = append(records, r)
		}
	}
	return build(records)
}

// strict reads one JSON value and nothing after it.
func strict(data []byte, into any) error {
	dec := json.NewDecoder(bytes.NewReader(data))
	err := dec.Decode(into)
	var syntax *json.SyntaxError
	switch {
	case errors.Is(err, io.EOF):
		return errors.New("the file is empty")
	case errors.Is(err, io.ErrUnexpectedEOF):
		return errors.New("the file ends in the middle; it may have been cut off")
	case errors.As(err, &syntax):
		return fmt.Errorf("line %d is not JSON: %w", 1+bytes.Count(data[:min(len(data), int(syntax.Offset))], []byte("\n")), syntax)
	case err != nil:
		return errors.New("the file should be a JSON object, as levelstaff save writes it")
	case dec.More():
		return errors.New("there is something after the end of the JSON object")
	}
	return nil
}

// known refuses a file that is something else, or of another version.
func known(fields map[string]json.RawMessage) error {
	var format string
	if err := json.Unmarshal(fields["format"], &format); err != nil || format != Format {
		return fmt.Errorf("this is no lab: its format should say %q", Format)
	}
	var version int
	if err := json.Unmarshal(fields["version"], &version); err != nil || version < 1 {
		return fmt.Errorf("its version should be %d", Version)
	}
	if version > Version {
		return fmt.Errorf("it is of version %d, and this levelstaff knows version %d; load it with the one that wrote it, or a newer one", version, Version)
	}
	names := map[string]bool{"format": true, "version": true, "settings": true, "$schema": true}
	for _, list := range lists {
		names[list.name] = true
	}
	for name := range fields {
		if !names[name] {
			return fmt.Errorf("there is no %q in a lab; take it out, or mend its name", name)
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
		return fmt.Errorf("%s is a %s, which does not go there", kind.Field, kind.Value)
	}
	text := err.Error()
	if cut, ok := bytes.CutPrefix([]byte(text), []byte("json: ")); ok {
		text = string(cut)
	}
	return errors.New(text)
}

// Schema is the JSON Schema (draft 2020-12) of a File.
func Schema() ([]byte, error) {
	reflector := jsonschema.Reflector{}
	s, err := reflector.Reflect(File{}, jsonschema.InterceptDefName(func(t reflect.Type, _ string) string { return t.Name() }),
		jsonschema.InterceptNullability(func(p jsonschema.InterceptNullabilityParams) { p.Schema.RemoveType(jsonschema.Null) }),
		jsonschema.InterceptSchema(func(p jsonschema.InterceptSchemaParams) (bool, error) {
			if p.Processed && p.Value.Kind() == reflect.Struct && len(p.Schema.Properties) > 0 {
				closed := false
				p.Schema.AdditionalProperties = &jsonschema.SchemaOrBool{TypeBoolean: &closed}
			}
			return false, nil
		}))
	if err != nil {
		return nil, fmt.Errorf("describe the lab's JSON: %w", err)
	}
	s.WithSchema("http://json-schema.org/draft-07/schema#")
	s.WithTitle("A home lab, as levelstaff save lab.json writes it")
	return json.MarshalIndent(s, "", "  ")
}
