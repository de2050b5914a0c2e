package server

import (
	"bytes"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/text"
	"levelstaff/exchange"
)

// What the content of a file is, by its ending.
var listKinds = map[string]string{
	"csv":  "text/csv; charset=utf-8; header=present",
	"xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}

// plainType is the content of such a file without what is said of it besides.
func plainType(ending string) string {
	kind, _, _ := strings.Cut(listKinds[ending], ";")
	return kind
}

// listRoutes are those of files with a line for each record of a kind.
func (s *Server) listRoutes() []route {
	list := []route{{method: fiber.MethodPost, path: "/api/v1/rows", id: "postRows",
		summary: "Take rows that were typed or pasted, all or none", large: true, in: Rows{}, out: Delta{}, do: s.rows, seen: true}}
	for _, of := range exchange.Listings() {
		for _, as := range []struct {
			ending, title, words string
			write                func(*lab.Lab, *bytes.Buffer) error
		}{
			{"csv", "File", "CSV file", func(l *lab.Lab, out *bytes.Buffer) error { return of.WriteCSV(out, l) }},
			{"xlsx", "Workbook", "workbook", func(l *lab.Lab, out *bytes.Buffer) error { return of.WriteXLSX(out, l) }},
		} {
			path, id, file := "/api/v1/files/"+of.List+"."+as.ending, of.Title()+as.title, listFile{s, of, as.ending, as.write}
			list = append(list,
				route{method: fiber.MethodGet, path: path, id: "get" + id, summary: "The " + of.List + " as a " + as.words, in: fileQuery{},
					out: "", do: file.save, kind: plainType(as.ending), seen: true},
				route{method: fiber.MethodPost, path: path, id: "post" + id, summary: "Take " + of.List + " from a " + as.words + ", all or none",
					large: true, in: ListFile{}, out: Delta{}, do: file.load, seen: true},
				route{method: fiber.MethodPost, path: path + "/check", id: "check" + id,
					summary: "What each line of a " + as.words + " would do, without doing it", large: true, in: ListFile{},
					out: Import{}, do: file.check, seen: true})
		}
	}
	return list
}

// listFile answers the routes of one such file.
type listFile struct {
	*Server
	of     *exchange.Listing
	ending string
	write  func(*lab.Lab, *bytes.Buffer) error
}

func (f listFile) save(c fiber.Ctx) error {
	l, err := f.filed(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := f.write(l, &out); err != nil {
		return err
	}
	return file(c, fmt.Sprintf("%s-%s.%s", f.of.List, lab.DayOf(time.Now()), f.ending), listKinds[f.ending], out.Bytes())
}

// ListFile is a file of devices or parts, and how it is taken.
type ListFile struct {
	WholeFile
	Columns []string `json:"columns,omitempty" maxItems:"300" description:"What each column is read as, empty for a skipped one"`
	Guess   bool     `json:"guess,omitempty" description:"Take column names that are not known for what they seem to mean"`
	Kind    string   `json:"kind,omitempty" maxLength:"40" description:"What something new is, where the file does not say"`
}

func (f listFile) read(c fiber.Ctx, l *lab.Lab, in ListFile, text string) (exchange.Sheet, error) {
	sheet, err := f.of.Read(c.Context(), l, []byte(text), exchange.Taking{Columns: in.Columns, Guess: in.Guess, Kind: in.Kind}, NewID)
	if err != nil && c.Context().Err() == nil {
		err = wrongField(fiber.StatusUnprocessableEntity, "text", "Nothing was loaded: %s.", err)
	}
	return sheet, err
}

func (f listFile) check(c fiber.Ctx) error {
	return checkFile(f.Server, c, func(l *lab.Lab, in ListFile, text string) (Import, []lab.Change, error) {
		sheet, err := f.read(c, l, in, text)
		return Import{Rows: append([]exchange.Row{}, sheet.Rows...), Columns: sheet.Columns, Targets: f.of.Targets()}, sheet.Changes, err
	})
}

func (f listFile) load(c fiber.Ctx) error {
	return loadFile(f.Server, c, "", func(l *lab.Lab, in ListFile, text string) ([]lab.Change, error) {
		sheet, err := f.read(c, l, in, text)
		if err == nil {
			err = refusedRows(sheet, "text:%d")
		}
		return sheet.Changes, err
	})
}

// refusedRows is the problem of rows that cannot be taken; nil where all can.
func refusedRows(sheet exchange.Sheet, field string) error {
	if sheet.Refused == 0 {
		return nil
	}
	p := problem(fiber.StatusUnprocessableEntity, "Nothing was loaded: %s refused.", sheet.RefusedWords())
	for _, row := range sheet.Rows {
		if row.Verb == exchange.RowRefused {
			p.Errors = append(p.Errors, FieldError{Field: fmt.Sprintf(field, row.Line), Detail: row.Say})
		}
	}
	return p.shortened(sheet.Refused)
}

// Rows are new records, or what is said of some, as typed or pasted into a
// table.
type Rows struct {
	Base
	List   string     `json:"list" required:"true" description:"Such as cables"`
	Fields []string   `json:"fields" required:"true" nullable:"false" maxItems:"300"`
	Rows   [][]string `json:"rows" required:"true" nullable:"false" maxItems:"20000" description:"A text for each field"`
}

func (s *Server) rows(c fiber.Ctx) error {
	in, base, err := based[Rows](c)
	if err != nil {
		return err
	}
	at := slices.IndexFunc(exchange.Listings(), func(of *exchange.Listing) bool { return of.List == in.List })
	if at < 0 {
		return wrongField(fiber.StatusUnprocessableEntity, "list", "There is no table of %s that takes rows.", in.List)
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		sheet, err := exchange.Listings()[at].ReadRows(c.Context(), l, in.Fields, in.Rows, NewID)
		if err != nil && c.Context().Err() == nil {
			err = wrongField(fiber.StatusUnprocessableEntity, "rows", "%s.", text.Capital(err.Error()))
		}
		if err != nil {
			return nil, err
		}
		return sheet.Changes, refusedRows(sheet, "rows:%d")
	})
}
