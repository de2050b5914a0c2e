package server

import (
	"fmt"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/exchange"
)

// DevicesFile is a file of devices, and how it is taken.
type DevicesFile struct {
	WholeFile
	Columns []string       `json:"columns,omitempty" maxItems:"300" description:"For each column of the file, the column it is taken for, empty for one that is left out"`
	Guess   bool           `json:"guess,omitempty" description:"Take column names that are not known for what they seem to mean"`
	Kind    lab.DeviceKind `json:"device_kind,omitempty" description:"What something new is, where the file does not say"`
}

// taking is how it is taken.
func (in DevicesFile) taking() (exchange.Taking, error) {
	if in.Kind != "" && !slices.Contains(in.Kind.Enum(), any(in.Kind)) {
		return exchange.Taking{}, wrongField(fiber.StatusUnprocessableEntity, "device_kind", "“%s” is not a kind of device.", in.Kind)
	}
	return exchange.Taking{Columns: in.Columns, Guess: in.Guess, Kind: in.Kind}, nil
}

func devicesSheet(l *lab.Lab, in DevicesFile, text string) (exchange.Sheet, error) {
	how, err := in.taking()
	if err != nil {
		return exchange.Sheet{}, err
	}
	sheet, err := exchange.ReadDevices(l, []byte(text), how, NewID)
	if err != nil {
		return sheet, wrongField(fiber.StatusUnprocessableEntity, "text", "Nothing was loaded: %s.", err)
	}
	return sheet, nil
}

func (s *Server) checkDevices(c fiber.Ctx) error {
	return checkFile(s, c, func(l *lab.Lab, in DevicesFile, text string) (Import, []lab.Change, error) {
		sheet, err := devicesSheet(l, in, text)
		return Import{Rows: append([]exchange.Row{}, sheet.Rows...), Columns: sheet.Columns, Targets: exchange.Targets()}, sheet.Changes, err
	})
}

func (s *Server) loadDevices(c fiber.Ctx) error {
	return loadFile(s, c, "", func(l *lab.Lab, in DevicesFile, text string) ([]lab.Change, error) {
		sheet, err := devicesSheet(l, in, text)
		if err != nil || sheet.Refused == 0 {
			return sheet.Changes, err
		}
		p := problem(fiber.StatusUnprocessableEntity, "Nothing was loaded: %d lines are refused.", sheet.Refused)
		for _, row := range sheet.Rows {
			if row.Verb == exchange.RowRefused {
				p.Errors = append(p.Errors, FieldError{Field: fmt.Sprintf("text:%d", row.Line), Detail: row.Say})
			}
		}
		return nil, p
	})
}
