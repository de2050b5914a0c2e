package server

import (
	"bytes"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/exchange"
)

// sheetRoutes are those about spec sheets.
func (s *Server) sheetRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	return []route{
		{method: get, path: "/api/v1/generic_sheets", id: "getGenericSheets", summary: "The included spec sheets", out: []lab.SpecSheet{},
			do: s.genericSheets},
		{method: post, path: "/api/v1/devices/:id/sheet", id: "postDeviceSheet",
			summary: "Give a device a spec sheet of the lab or an included one", in: deviceSheet{}, out: Delta{}, do: s.putSheet, seen: true},
		{method: get, path: "/api/v1/files/sheets.json", id: "getSheetsFile", summary: "Spec sheets alone, to share", in: sheetsQuery{},
			out: exchange.SheetsFile{}, do: s.saveSheets, seen: true},
		{method: get, path: "/api/v1/files/sheets.schema.json", id: "getSheetsSchema", summary: "The JSON Schema of that file",
			out: map[string]any{}, do: s.sheetsSchema, kind: "application/schema+json"},
		{method: post, path: "/api/v1/files/sheets.json", id: "postSheetsFile", summary: "Take spec sheets from a file, all or none",
			large: true, in: WholeFile{}, out: Delta{}, do: s.loadSheets, seen: true},
		{method: post, path: "/api/v1/files/sheets.json/check", id: "checkSheetsFile",
			summary: "What loading spec sheets would change, without doing it", large: true, in: WholeFile{}, out: Import{},
			do: s.checkSheets, seen: true},
	}
}

// sheetNamed finds a spec sheet of the lab, or one that comes with the program.
func sheetNamed(l *lab.Lab, id lab.ID) (lab.SpecSheet, error) {
	if sheet, ok := lab.Find[lab.SpecSheet](l, id); ok {
		return sheet, nil
	}
	generic, err := gear.Generic()
	if err != nil {
		return lab.SpecSheet{}, err
	}
	if i := slices.IndexFunc(generic, func(s lab.SpecSheet) bool { return s.ID == id }); i >= 0 {
		return generic[i], nil
	}
	return lab.SpecSheet{}, noSuch(lab.KindSheet, id)
}

// SheetPicked is the spec sheet that a device is to have.
type SheetPicked struct {
	Base
	Sheet lab.ID `json:"sheet_id,omitempty" description:"None, if it is absent"`
	Make  string `json:"make,omitempty" maxLength:"80" description:"Instead: the name of a new sheet, made of what the device says itself"`
}

type deviceSheet struct {
	byID
	SheetPicked
}

func (s *Server) putSheet(c fiber.Ctx) error {
	in, base, err := based[SheetPicked](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		d, err := recordOf[lab.Device](l, lab.ID(c.Params("id")))
		if err != nil {
			return nil, err
		}
		var changes []lab.Change
		if in.Make != "" {
			sheet, has := lab.Shared(d, NewID(), in.Make)
			made, _ := l.Put(sheet)
			changes = append(changes, made)
			d = has
		} else if in.Sheet != "" {
			sheet, err := sheetNamed(l, in.Sheet)
			if err != nil {
				return nil, err
			}
			if same, ok := l.Named(lab.KindSheet, sheet.Name); ok {
				sheet.ID = same // the lab has it already
			} else if c, ok := l.Put(sheet); ok {
				changes = append(changes, c)
			}
			d.Sheet = sheet.ID
		} else {
			d.Sheet = ""
		}
		if c, ok := l.Put(d); ok {
			changes = append(changes, c)
		}
		return changes, nil
	})
}

func (s *Server) genericSheets(c fiber.Ctx) error {
	sheets, err := gear.Generic()
	if err != nil {
		return err
	}
	return c.JSON(sheets)
}

type sheetsQuery struct {
	ID string `query:"id" description:"Only this one, also of those that come with the program; all of the lab's, if left out"`
}

func (s *Server) saveSheets(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	name, sheets := "sheets.json", slices.Collect(lab.Each[lab.SpecSheet](v.lab))
	if id := c.Query("id"); id != "" {
		one, err := sheetNamed(v.lab, lab.ID(id))
		if err != nil {
			return err
		}
		name, sheets = "sheet.json", []lab.SpecSheet{one}
	}
	var out bytes.Buffer
	if err := exchange.WriteSheets(&out, sheets); err != nil {
		return err
	}
	return file(c, name, fiber.MIMEApplicationJSON, out.Bytes())
}

func (s *Server) sheetsSchema(c fiber.Ctx) error {
	return schemaFile(c, exchange.SheetsSchema)
}

func sheetChanges(l *lab.Lab, text string) ([]lab.Change, error) {
	sheets, err := exchange.ReadSheets([]byte(text))
	if err != nil {
		return nil, wrongField(fiber.StatusUnprocessableEntity, "text", "Nothing was loaded: %s.", err)
	}
	return exchange.SheetChanges(l, sheets), nil
}

func (s *Server) checkSheets(c fiber.Ctx) error {
	return checkFile(s, c, func(l *lab.Lab, _ WholeFile, text string) (Import, []lab.Change, error) {
		changes, err := sheetChanges(l, text)
		return Import{Rows: []exchange.Row{}}, changes, err
	})
}

func (s *Server) loadSheets(c fiber.Ctx) error {
	return loadFile(s, c, "", func(l *lab.Lab, _ WholeFile, text string) ([]lab.Change, error) { return sheetChanges(l, text) })
}
