package exchange

import (
	"encoding/json"
	"fmt"
	"io"

	"levelstaff/core/lab"
)

// SheetsFormat is what a file of spec sheets says it is.
const SheetsFormat = "levelstaff-sheets"

// SheetsFile is spec sheets alone as JSON, to hand on.
type SheetsFile struct {
	Format  string          `json:"format" required:"true" const:"levelstaff-sheets"`
	Version int             `json:"version" required:"true" const:"1"`
	Sheets  []lab.SpecSheet `json:"spec_sheets" required:"true" nullable:"false"`
}

// WriteSheets writes spec sheets without the lab that they are from.
func WriteSheets(w io.Writer, sheets []lab.SpecSheet) error {
	return writeJSON(w, SheetsFile{SheetsFormat, Version, append([]lab.SpecSheet{}, sheets...)})
}

// IsSheets reports whether a JSON text says that it is a file of spec sheets.
func IsSheets(data []byte) bool {
	var says struct {
		Format string `json:"format"`
	}
	return json.Unmarshal(data, &says) == nil && says.Format == SheetsFormat
}

// ReadSheets reads what WriteSheets wrote, or someone by hand. The error is a
// sentence that says where in the file it is about.
func ReadSheets(data []byte) ([]lab.SpecSheet, error) {
	var fields map[string]json.RawMessage
	if err := strict(data, &fields); err != nil {
		return nil, err
	}
	if err := known(fields, "a file of spec sheets", SheetsFormat, "spec_sheets"); err != nil {
		return nil, err
	}
	records, err := recordsIn(fields, "spec_sheets", lab.KindSheet)
	if err != nil {
		return nil, err
	}
	if _, err := build(records); err != nil {
		return nil, err
	}
	sheets := make([]lab.SpecSheet, len(records))
	for i, r := range records {
		sheets[i] = r.(lab.SpecSheet)
	}
	return sheets, nil
}

// SheetChanges puts sheets into a lab. One that the lab has by its id, or else
// by its name, becomes what the file says; the others are new. Sheets that the
// file has not stay.
func SheetChanges(l *lab.Lab, sheets []lab.SpecSheet) []lab.Change {
	var changes []lab.Change
	for _, sheet := range sheets {
		if _, ok := lab.Find[lab.SpecSheet](l, sheet.ID); !ok {
			if id, ok := l.Named(lab.KindSheet, sheet.Name); ok {
				sheet.ID = id
			}
		}
		if c, ok := l.Put(sheet); ok {
			changes = append(changes, c)
		}
	}
	return changes
}

// SheetsSchema is the JSON Schema of a SheetsFile.
func SheetsSchema() ([]byte, error) {
	return schemaOf(SheetsFile{}, "Spec sheets, as levelstaff save --sheets writes them")
}

func writeJSON(w io.Writer, file any) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(file)
}

// recordsIn reads a list of a file.
func recordsIn(fields map[string]json.RawMessage, name string, kind lab.RecordKind) ([]lab.Record, error) {
	raw, ok := fields[name]
	if !ok {
		return nil, nil
	}
	var items []json.RawMessage
	if err := json.Unmarshal(raw, &items); err != nil {
		return nil, fmt.Errorf("%s should be a list", name)
	}
	records := make([]lab.Record, len(items))
	for i, raw := range items {
		r, err := lab.DecodeRecord(kind, raw)
		if err != nil {
			return nil, fmt.Errorf("%s[%d]: %w", name, i, plain(err))
		}
		records[i] = r
	}
	return records, nil
}
