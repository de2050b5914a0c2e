package server

import (
	"bytes"
	"strings"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/text"
	"levelstaff/exchange"
)

// planRoutes are those of what goes out as a table and is taken back from one, CSV and
// a workbook: save, check what each line would do, load.
func (s *Server) planRoutes(what, name, says string, write map[string]func(*bytes.Buffer, *lab.Lab) error,
	read func(*lab.Lab, []byte) (exchange.Sheet, error)) []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	var list []route
	for ending, save := range write {
		f := planFile{s, strings.ReplaceAll(what, "_", "-"), ending, save, read}
		path, id := "/api/v1/files/"+what+"."+ending, name+text.Capital(ending)
		list = append(list,
			route{method: get, path: path, id: "get" + id, summary: says + ", " + ending, out: "", do: f.save, kind: plainType(ending), seen: true},
			route{method: post, path: path, id: "post" + id, summary: "Take what such a table says, all or none", large: true,
				in: WholeFile{}, out: Delta{}, do: f.load, seen: true},
			route{method: post, path: path + "/check", id: "check" + id, summary: "What each line of it would do, without doing it", large: true,
				in: WholeFile{}, out: Import{}, do: f.check, seen: true})
	}
	return list
}

// planFile answers the routes of such a table in one of its forms.
type planFile struct {
	*Server
	name, ending string
	write        func(*bytes.Buffer, *lab.Lab) error
	take         func(*lab.Lab, []byte) (exchange.Sheet, error)
}

func (f planFile) save(c fiber.Ctx) error {
	v, err := f.view(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := f.write(&out, v.lab); err != nil {
		return err
	}
	return file(c, fileName(f.name, f.ending), listKinds[f.ending], out.Bytes())
}

func (f planFile) read(l *lab.Lab, text string) (exchange.Sheet, error) {
	sheet, err := f.take(l, []byte(text))
	if err != nil {
		err = wrongField(fiber.StatusUnprocessableEntity, "text", "Nothing was loaded: %s.", err)
	}
	return sheet, err
}

func (f planFile) check(c fiber.Ctx) error {
	return checkFile(f.Server, c, func(l *lab.Lab, _ WholeFile, text string) (Import, []lab.Change, error) {
		sheet, err := f.read(l, text)
		return Import{Rows: append([]exchange.Row{}, sheet.Rows...)}, sheet.Changes, err
	})
}

func (f planFile) load(c fiber.Ctx) error {
	return loadFile(f.Server, c, "", func(l *lab.Lab, _ WholeFile, text string) ([]lab.Change, error) {
		sheet, err := f.read(l, text)
		if err == nil {
			err = refusedRows(sheet, "text:%d")
		}
		return sheet.Changes, err
	})
}
