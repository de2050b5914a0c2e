package server

import (
	"errors"
	"fmt"
	"reflect"
	"strconv"
	"sync"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/find"
	"levelstaff/core/lab"
	"levelstaff/core/report"
	"levelstaff/core/text"
)

// reportRoutes answer each report there is.
func (s *Server) reportRoutes() []route {
	var list []route
	for _, r := range report.All() {
		list = append(list, route{method: fiber.MethodGet, path: "/api/v1/reports/" + r.Name, id: "report_" + r.Name, summary: r.Says,
			in: asked(r), out: r.Answer, do: s.report(r), seen: true})
		if id := askedOften[r.Name]; id != "" {
			list = append(list, s.alsoAt("/api/v1/"+r.Name, id, r))
		}
	}
	return list
}

// alsoAt is a report that is asked for often at an address of its own.
func (s *Server) alsoAt(path, id string, r report.Report) route {
	return route{method: fiber.MethodGet, path: path, id: id, summary: r.Says, in: asked(r), out: r.Answer, do: s.report(r), seen: true}
}

// askedOften are the reports that have an address of their own, too, each with its ID there.
var askedOften = map[string]string{"if_gone": "getIfGone", "request": "getRequest", "ways": "getWay"}

// asked is what the query of a report may have, for the OpenAPI document; nil
// where it has nothing.
func asked(r report.Report) any {
	var fields []reflect.StructField
	for _, p := range r.Params {
		fields = append(fields, reflect.StructField{Name: text.Capital(p.Name), Type: reflect.TypeFor[string](),
			Tag: reflect.StructTag(fmt.Sprintf("query:%q description:%q", p.Name, p.Says))})
	}
	if len(fields) == 0 {
		return nil
	}
	return reflect.New(reflect.StructOf(fields)).Elem().Interface()
}

// report answers what follows from the lab that is looked at.
func (s *Server) report(r report.Report) fiber.Handler {
	return func(c fiber.Ctx) error {
		v, err := s.view(c)
		if err != nil {
			return err
		}
		ask := report.Ask{Lab: v.lab, Built: v.now.Lab, Day: lab.DayOf(s.config.Now()), With: map[string]string{}}
		for _, p := range r.Params {
			ask.With[p.Name] = c.Query(p.Name)
		}
		answer, err := r.Of(ask)
		var wrong *report.Wrong
		if errors.As(err, &wrong) {
			return wrongField(fiber.StatusBadRequest, wrong.Param, "%s", wrong.Say)
		}
		if err != nil {
			return err
		}
		return c.JSON(answer)
	}
}

type findQuery struct {
	Query string `query:"q" required:"true" description:"Words of a name, a purpose, a note, a place"`
	Limit int    `query:"limit" description:"At most so many, 1 to 100; 20 if left out"`
}

// Found is what a search came to.
type Found struct {
	Hits []find.Hit `json:"hits" required:"true" nullable:"false" description:"The best first"`
}

func (s *Server) find(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	limit := 20
	if n := c.Query("limit"); n != "" {
		if limit, err = strconv.Atoi(n); err != nil || limit < 1 || limit > 100 {
			return wrongField(fiber.StatusBadRequest, "limit", "limit is a number from 1 to 100.")
		}
	}
	return c.JSON(Found{s.index.of(v.lab).Search(c.Query("q"), limit)})
}

// indexes keeps the index of the lab that was searched last: as one types, the
// lab is the same from letter to letter.
type indexes struct {
	sync.Mutex
	lab   *lab.Lab
	index *find.Index
}

func (x *indexes) of(l *lab.Lab) *find.Index {
	x.Lock()
	defer x.Unlock()
	if x.lab != l {
		x.lab, x.index = l, find.New(l)
	}
	return x.index
}
