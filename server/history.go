package server

import (
	"strconv"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/store"
)

type logQuery struct {
	Before int64          `query:"before" description:"Only changes before this one"`
	Limit  int            `query:"limit" description:"At most so many, 1 to 500; 100 if left out"`
	Kind   lab.RecordKind `query:"kind" description:"With id: only changes that touched this record"`
	ID     string         `query:"id"`
	Text   string         `query:"q" description:"Only changes with this in their words"`
}

// Logbook is a piece of the logbook, the latest change first.
type Logbook struct {
	Entries []store.LogEntry `json:"entries" required:"true" nullable:"false"`
	More    bool             `json:"more" required:"true" description:"There are older ones"`
}

func (s *Server) logbook(c fiber.Ctx) error {
	q := store.LogQuery{Limit: 100, Text: c.Query("q"), Record: lab.Key{Kind: lab.RecordKind(c.Query("kind")), ID: lab.ID(c.Query("id"))}}
	var err error
	if b := c.Query("before"); b != "" {
		if q.Before, err = strconv.ParseInt(b, 10, 64); err != nil || q.Before < 1 {
			return wrongField(fiber.StatusBadRequest, "before", "before is the number of a change.")
		}
	}
	if n := c.Query("limit"); n != "" {
		if q.Limit, err = strconv.Atoi(n); err != nil || q.Limit < 1 || q.Limit > 500 {
			return wrongField(fiber.StatusBadRequest, "limit", "limit is a number from 1 to 500.")
		}
	}
	q.Limit++
	entries, err := s.store.Logbook(c.Context(), q)
	if err != nil {
		return err
	}
	more := len(entries) == q.Limit
	if more {
		entries = entries[:q.Limit-1]
	}
	return c.JSON(Logbook{entries, more})
}

// LoggedChange is one change in words.
type LoggedChange struct {
	Entry store.LogEntry `json:"entry" required:"true"`
	Edits []rundown.Edit `json:"edits" required:"true" nullable:"false"`
}

func (s *Server) logEntry(c fiber.Ctx) error {
	revision, err := strconv.ParseInt(c.Params("revision"), 10, 64)
	if err != nil {
		return problem(fiber.StatusNotFound, "There is no change %q.", c.Params("revision"))
	}
	entries, err := s.store.Logbook(c.Context(), store.LogQuery{Before: revision + 1, Limit: 1})
	if err != nil {
		return err
	}
	if len(entries) == 0 || entries[0].Revision != revision {
		return &store.NoSuchRevision{Revision: revision, Latest: s.store.Now().Revision}
	}
	before, err := s.store.At(c.Context(), revision-1)
	if err != nil {
		return err
	}
	after, err := s.store.At(c.Context(), revision)
	if err != nil {
		return err
	}
	return c.JSON(LoggedChange{entries[0], rundown.Edits(before, after, lab.Diff(before, after))})
}

type compareQuery struct {
	From string `query:"from" required:"true" description:"A view, as for the parameter view"`
	To   string `query:"to" required:"true"`
	Rack string `query:"rack_id" description:"Work the figures out for this rack; for all of the lab, if left out"`
}

// Comparison is how two labs differ.
type Comparison struct {
	From    Side           `json:"from" required:"true"`
	To      Side           `json:"to" required:"true"`
	Devices []DeviceChange `json:"devices" required:"true" nullable:"false" description:"Devices that came, went, or are not what they were"`
	Edits   []rundown.Edit `json:"edits" required:"true" nullable:"false" description:"All of it in words"`
}

// Side is one of the two labs.
type Side struct {
	View    View           `json:"view" required:"true"`
	Figures draft.Figures  `json:"figures" required:"true"`
	Words   []draft.Figure `json:"words" required:"true" nullable:"false" description:"The figures in words"`
	Spaces  []rack.Space   `json:"spaces" required:"true" nullable:"false"`
	Cost    *draft.Cost    `json:"cost,omitempty" description:"Of a draft"`
	Payback *float64       `json:"payback_months,omitempty" description:"In how many months a draft saves what it costs"`
}

// DeviceChange is a device in both labs; without a before it is new, without
// an after it is gone.
type DeviceChange struct {
	Before *lab.Device `json:"before,omitempty"`
	After  *lab.Device `json:"after,omitempty"`
}

func (s *Server) compare(c fiber.Ctx) error {
	from, err := s.viewed(c, c.Query("from"))
	if err != nil {
		return err
	}
	to, err := s.viewed(c, c.Query("to"))
	if err != nil {
		return err
	}
	in := lab.ID(c.Query("rack_id"))
	changes := builtOnly(lab.Diff(from.lab, to.lab))
	out := Comparison{From: s.side(from, in), To: s.side(to, in), Devices: []DeviceChange{}, Edits: rundown.Edits(from.lab, to.lab, changes)}
	out.To.Payback = draft.Payback(out.To.Cost, out.From.Figures, out.To.Figures)
	for _, change := range changes {
		if change.Key().Kind == lab.KindDevice {
			out.Devices = append(out.Devices, DeviceChange{deviceIn(change.Before), deviceIn(change.After)})
		}
	}
	return c.JSON(out)
}

// builtOnly leaves out what is planned or thought about the lab.
func builtOnly(changes []lab.Change) []lab.Change {
	var built []lab.Change
	for _, change := range changes {
		if change.Key().Kind.Built() {
			built = append(built, change)
		}
	}
	return built
}

func deviceIn(r lab.Record) *lab.Device {
	if d, ok := r.(lab.Device); ok {
		return &d
	}
	return nil
}

func (s *Server) side(v seen, in lab.ID) Side {
	side := Side{View: v.View, Figures: draft.FiguresOf(v.lab, v.now.Lab, in, lab.DayOf(s.config.Now())), Spaces: rack.Report(v.lab).Racks}
	side.Words = side.Figures.Words()
	if v.Kind == Drafted {
		cost := draft.CostOf(v.now.Lab, v.Draft)
		side.Cost = &cost
	}
	return side
}
