package server

import (
	"strconv"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/find"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
)

// Findings is everything the checks noticed.
type Findings struct {
	Findings []finding.Finding `json:"findings" required:"true" nullable:"false" description:"Those that ask for most first"`
}

// report answers what follows from the lab that is looked at.
func (s *Server) report(c fiber.Ctx, from func(seen) any) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	return c.JSON(from(v))
}

func (s *Server) findings(c fiber.Ctx) error {
	return s.report(c, func(v seen) any { return Findings{finding.All(v.lab, lab.DayOf(time.Now()))} })
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
