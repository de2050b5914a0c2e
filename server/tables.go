package server

import (
	"cmp"
	"errors"
	"strconv"
	"strings"
	"sync"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/table"
	"levelstaff/core/text"
	"levelstaff/exchange"
)

// tableRoutes are those of the table of each kind of record.
func (s *Server) tableRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	list := []route{
		{method: post, path: "/api/v1/cells", id: "postCells", summary: "Change many facts at once, as typed", large: true,
			in: Cells{}, out: Delta{}, do: s.cells, seen: true},
		{method: get, path: "/api/v1/files/endings.ics", id: "getEndings", summary: "What ends, as an iCalendar file", out: "", do: s.endings,
			kind: "text/calendar", seen: true},
	}
	add := func(of *table.Spec, name, title string) {
		h := recordTable{s, of}
		list = append(list,
			route{method: get, path: "/api/v1/tables/" + name, id: "table" + title,
				summary: "The table of " + name + ", filtered, sorted and grouped", in: tableQuery{}, out: table.Table{}, do: h.show, seen: true},
			route{method: get, path: "/api/v1/tables/" + name + "/columns", id: "columns" + title,
				summary: "The columns that table can show", out: Columns{}, do: h.columns})
	}
	for _, k := range lab.Kinds() {
		if of := table.Of(k.RecordKind); !k.Alone && len(of.Columns) > 0 {
			add(of, k.List, k.Title+"s")
		}
	}
	add(table.Guests(), "guests", "Guests")
	return list
}

type tableQuery struct {
	Filter  string `query:"filter" description:"Such as ram>=64GB kind:server place:loft"`
	Columns string `query:"columns" description:"Fields with commas between; the usual ones if left out"`
	Sort    string `query:"sort" description:"A field, with - before it the other way round; what the records are called if left out"`
	Group   string `query:"group" description:"A field"`
}

// Columns is what a table can show.
type Columns struct {
	Columns []table.Column `json:"columns" required:"true" nullable:"false"`
	Usual   []string       `json:"usual" required:"true" nullable:"false" description:"The fields that are shown at first"`
}

// recordTable answers the routes of one kind's table.
type recordTable struct {
	*Server
	of *table.Spec
}

func (h recordTable) columns(c fiber.Ctx) error { return c.JSON(Columns{h.of.Columns, h.of.Usual}) }

func (h recordTable) show(c fiber.Ctx) error {
	v, err := h.view(c)
	if err != nil {
		return err
	}
	columns := h.of.Usual
	if asked := c.Query("columns"); asked != "" {
		columns = strings.Split(asked, ",")
	}
	shown, err := h.tables.of(v.lab, h.of).Show(table.Ask{Filter: c.Query("filter"), Columns: columns,
		Sort: cmp.Or(c.Query("sort"), h.of.Columns[0].Field), Group: c.Query("group")})
	var mistake *table.FilterMistake
	if errors.As(err, &mistake) {
		return wrongField(fiber.StatusUnprocessableEntity, "filter", "%s", text.Sentence(mistake.Say))
	}
	if err != nil {
		return err
	}
	return c.JSON(shown)
}

// tables keeps the tables of the lab that was looked at last: as one types a
// filter, the lab is the same from letter to letter.
type tables struct {
	sync.Mutex
	lab  *lab.Lab
	made map[*table.Spec]*table.Index
}

func (t *tables) of(l *lab.Lab, s *table.Spec) *table.Index {
	t.Lock()
	defer t.Unlock()
	if t.lab != l {
		t.lab, t.made = l, map[*table.Spec]*table.Index{}
	}
	if t.made[s] == nil {
		t.made[s] = s.New(l)
	}
	return t.made[s]
}

// Cells are facts of many records, each as typed.
type Cells struct {
	Base
	Cells []Cell `json:"cells" required:"true" nullable:"false" maxItems:"20000"`
}

// Cell is one fact of one record.
type Cell struct {
	Record lab.Key `json:"record" required:"true"`
	Field  string  `json:"field" required:"true"`
	Text   string  `json:"text" required:"true" maxLength:"20000"`
}

func (s *Server) cells(c fiber.Ctx) error {
	in, base, err := based[Cells](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		is := l.Changing()
		for i, cell := range in.Cells {
			if err := c.Context().Err(); err != nil {
				return nil, err
			}
			r := is.Now(cell.Record)
			if r == nil {
				return nil, noSuch(cell.Record.Kind, cell.Record.ID)
			}
			r, err := rundown.SetFact(l, r, cell.Field, cell.Text, "")
			if err != nil {
				return nil, wrongField(fiber.StatusUnprocessableEntity, "cells["+strconv.Itoa(i)+"].text", "%s: %s", l.Get(cell.Record).Title(),
					text.Sentence(err.Error()))
			}
			is.Put(r)
		}
		return is.Changes(), nil
	})
}

func (s *Server) endings(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	now := s.config.Now()
	return file(c, "levelstaff-endings.ics", "text/calendar; charset=utf-8",
		exchange.WriteEndings(gear.Money(v.lab, lab.DayOf(now)).Endings, now))
}
