package server

import (
	"errors"
	"strconv"
	"strings"
	"sync"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
	"levelstaff/exchange"
)

// tableRoutes are those of all gear in tables and sums.
func (s *Server) tableRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	return []route{
		{method: get, path: "/api/v1/gear", id: "getGear", summary: "The table of devices or parts, filtered, sorted and grouped", in: gearQuery{}, out: gear.Table{}, do: s.gear, seen: true},
		{method: get, path: "/api/v1/gear/columns", id: "getGearColumns", summary: "The columns that table can show", in: tableQuery{}, out: GearColumns{}, do: s.gearColumns},
		{method: post, path: "/api/v1/gear/cells", id: "postGearCells", summary: "Change many facts at once, as typed", in: GearCells{}, out: Delta{}, do: s.gearCells, seen: true},
		{method: get, path: "/api/v1/files/endings.ics", id: "getEndings", summary: "What ends, as an iCalendar file", out: "", do: s.endings, kind: "text/calendar", seen: true},
	}
}

type tableQuery struct {
	Table string `query:"table" enum:"devices,parts" description:"devices if left out"`
}

type gearQuery struct {
	tableQuery
	Filter  string `query:"filter" description:"Such as ram>=64GB kind:server place:loft"`
	Columns string `query:"columns" required:"true" description:"Fields with commas between"`
	Sort    string `query:"sort" description:"A field, with - before it the other way round"`
	Group   string `query:"group" description:"A field"`
}

// GearColumns is what a table can show.
type GearColumns struct {
	Columns []gear.Column `json:"columns" required:"true" nullable:"false"`
}

func tableOf(c fiber.Ctx) lab.RecordKind {
	if c.Query("table") == "parts" {
		return lab.KindPart
	}
	return lab.KindDevice
}

func (s *Server) gearColumns(c fiber.Ctx) error {
	return c.JSON(GearColumns{gear.Columns(tableOf(c))})
}

func (s *Server) gear(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	table, err := s.tables.of(v.lab, tableOf(c)).Show(gear.Ask{Filter: c.Query("filter"), Columns: strings.Split(c.Query("columns"), ","), Sort: c.Query("sort"), Group: c.Query("group")})
	var mistake *gear.FilterMistake
	if errors.As(err, &mistake) {
		p := wrongField(fiber.StatusUnprocessableEntity, "filter", "%s", text.Sentence(mistake.Say))
		return p
	}
	if err != nil {
		return err
	}
	return c.JSON(table)
}

// tables keeps the tables of the lab that was looked at last: as one types a
// filter, the lab is the same from letter to letter.
type tables struct {
	sync.Mutex
	lab     *lab.Lab
	devices *gear.Index
	parts   *gear.Index
}

func (t *tables) of(l *lab.Lab, kind lab.RecordKind) *gear.Index {
	t.Lock()
	defer t.Unlock()
	if t.lab != l {
		t.lab, t.devices, t.parts = l, nil, nil
	}
	if kind == lab.KindPart {
		if t.parts == nil {
			t.parts = gear.Parts(l)
		}
		return t.parts
	}
	if t.devices == nil {
		t.devices = gear.Devices(l)
	}
	return t.devices
}

// GearCells are facts of many records, each as typed.
type GearCells struct {
	Base
	Cells []GearCell `json:"cells" required:"true" nullable:"false" maxItems:"20000"`
}

// GearCell is one fact of one record.
type GearCell struct {
	Record lab.Key `json:"record" required:"true"`
	Field  string  `json:"field" required:"true"`
	Text   string  `json:"text" required:"true" maxLength:"20000"`
}

const mostCells = 20_000

func (s *Server) gearCells(c fiber.Ctx) error {
	in, base, err := based[GearCells](c)
	if err != nil {
		return err
	}
	if len(in.Cells) > mostCells {
		return wrongField(fiber.StatusUnprocessableEntity, "cells", "These are %d cells; at most %d go at once.", len(in.Cells), mostCells)
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		after := map[lab.Key]lab.Record{}
		var order []lab.Key
		for i, cell := range in.Cells {
			r := after[cell.Record]
			if r == nil {
				if r = l.Get(cell.Record); r == nil {
					return nil, noSuch(cell.Record.Kind, cell.Record.ID)
				}
				order = append(order, cell.Record)
			}
			r, err := rundown.SetFact(l, r, cell.Field, cell.Text, "")
			if err != nil {
				return nil, wrongField(fiber.StatusUnprocessableEntity, "cells["+strconv.Itoa(i)+"].text", "%s: %s", l.Get(cell.Record).Title(), text.Sentence(err.Error()))
			}
			after[cell.Record] = r
		}
		var changes []lab.Change
		for _, key := range order {
			if change, ok := l.Put(after[key]); ok {
				changes = append(changes, change)
			}
		}
		return changes, nil
	})
}

func (s *Server) endings(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	now := s.config.Now()
	return file(c, "levelstaff-endings.ics", "text/calendar; charset=utf-8", exchange.WriteEndings(gear.Money(v.lab, lab.DayOf(now)).Endings, now))
}
