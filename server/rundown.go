package server

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
	"levelstaff/store"
)

// Rundown is a text that speaks of the whole lab as it was at its base revision.
// What others changed since then stays.
type Rundown struct {
	Base
	Text   string `json:"text" required:"true"`
	Forget bool   `json:"forget,omitempty" description:"A fact that the text could have and has not is made unknown; otherwise it stays"`
	Skip   bool   `json:"skip_mistakes,omitempty" description:"Load the lines that can be read; nothing is removed then"`
	// Whose and Seen answer the question that clashes are.
	Whose rundown.Whose `json:"clashes,omitempty" description:"What facts become that others set too; without it there must be none"`
	Seen  int64         `json:"seen_revision,omitempty" description:"With that: the revision whose clashes were seen"`
}

// Plan is what loading a text would do.
type Plan struct {
	Mistakes []text.Mistake  `json:"mistakes" required:"true" nullable:"false"`
	More     int             `json:"more_mistakes,omitempty" description:"How many there are besides those in the list"`
	Kept     []rundown.Kept  `json:"kept" required:"true" nullable:"false" description:"Phrases that would be kept as remarks"`
	Delta    Delta           `json:"delta" required:"true" description:"The records as they would be"`
	Clashes  []rundown.Clash `json:"clashes,omitempty" description:"Facts that the text sets and others set too since it was written"`
	Since    []rundown.Edit  `json:"since,omitempty" description:"What others changed since the text was written, and which stays"`
	Unread   string          `json:"unread,omitempty" description:"Where there is such: the lines with mistakes, under their racks and places"`
	Lines    []LineRecords   `json:"lines" required:"true" nullable:"false"`
}

// LineRecords tells which records a line of the text is about.
type LineRecords struct {
	Line    int       `json:"line" required:"true"`
	Records []lab.Key `json:"records" required:"true" nullable:"false"`
}

// Line is one line typed by itself.
type Line struct {
	Base
	Line string `json:"line" required:"true" maxLength:"2000"`
	Rack lab.ID `json:"rack_id,omitempty" description:"The rack that units count in"`
}

// LineCheck is what a line would do, and how it may go on.
type LineCheck struct {
	Plan        Plan                 `json:"plan" required:"true"`
	Completions []rundown.Completion `json:"completions" required:"true" nullable:"false"`
}

// Fact is one fact of a record as a person typed it.
type Fact struct {
	Base
	Record lab.Key `json:"record" required:"true"`
	Field  string  `json:"field" required:"true"`
	Text   string  `json:"text" required:"true" maxLength:"20000"`
}

func (s *Server) rundown(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	l := v.lab
	if c.Query("share") == "true" {
		l = lab.WithoutPrivate(l)
	} else {
		c.Set(fiber.HeaderETag, v.tag())
	}
	c.Type("txt", "utf-8")
	return c.SendString(rundown.Print(l))
}

// on is what the text would do to a lab: written from what it was, carried over
// to what it is now.
func (in Rundown) on(ctx context.Context, was, now *lab.Lab) (rundown.Plan, error) {
	p, err := rundown.LoadContext(ctx, was, rundown.ParseContext(ctx, "", in.Text),
		rundown.Options{All: true, Forget: in.Forget, NewID: NewID})
	var much *text.Mistake
	if errors.As(err, &much) {
		return p, misread(p)
	}
	if err == nil && was != now {
		p = p.Onto(was, now, in.Whose)
	}
	return p, err
}

// writtenFrom is the lab that is looked at as it was when a text was written.
func (s *Server) writtenFrom(c fiber.Ctx, v seen, base int64) (*lab.Lab, error) {
	if base == v.now.Revision || v.Kind == Past {
		return v.lab, nil
	}
	if base > v.now.Revision {
		return nil, &store.Stale{Base: base, Revision: v.now.Revision}
	}
	was, err := s.store.At(c.Context(), base)
	if err == nil && v.Kind == Drafted {
		was = draft.On(was, v.Draft).Lab
	}
	return was, err
}

func (s *Server) checkRundown(c fiber.Ctx) error {
	in, base, err := based[Rundown](c)
	if err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	was, err := s.writtenFrom(c, v, base)
	if err != nil {
		return err
	}
	p, err := in.on(c.Context(), was, v.lab)
	if err != nil {
		return err
	}
	plan := planOf(v, p)
	if was != v.lab {
		plan.Since = rundown.Edits(was, v.lab, lab.Diff(was, v.lab))
		plan.Unread = p.Unread(in.Text)
	}
	return c.JSON(plan)
}

func planOf(v seen, p rundown.Plan) Plan {
	out := Plan{Mistakes: p.Mistakes, More: p.More, Kept: p.Kept, Clashes: p.Clashes, Delta: deltaOf(v.lab, p.Lab, p.Changes),
		Lines: []LineRecords{}}
	out.Delta.Revision, out.Delta.View = v.now.Revision, v.View
	if out.Mistakes == nil {
		out.Mistakes = []text.Mistake{}
	}
	if out.Kept == nil {
		out.Kept = []rundown.Kept{}
	}
	for _, line := range slices.Sorted(maps.Keys(p.Lines)) {
		out.Lines = append(out.Lines, LineRecords{line, p.Lines[line]})
	}
	return out
}

func (s *Server) loadRundown(c fiber.Ctx) error {
	in, base, err := based[Rundown](c)
	if err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	was, err := s.writtenFrom(c, v, base)
	if err != nil {
		return err
	}
	base = v.now.Revision
	if in.Whose != "" {
		base = in.Seen
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		p, err := in.on(c.Context(), was, l)
		if err == nil && len(p.Clashes) > 0 && in.Whose == "" {
			err = clashProblem(p.Clashes, "", v.now.Revision)
		}
		if err == nil && len(p.Mistakes) > 0 && !in.Skip {
			err = misread(p)
		}
		return p.Changes, err
	})
}

// misread is the problem of a text with mistakes.
func misread(plan rundown.Plan) *Problem {
	first, n := plan.Mistakes[0], len(plan.Mistakes)+plan.More
	p := problem(fiber.StatusUnprocessableEntity, "%d mistakes in the text, the first in line %d: %s", n, first.Line, first.Say)
	if n == 1 {
		p.Detail = fmt.Sprintf("Line %d: %s", first.Line, first.Say)
	}
	for _, m := range plan.Mistakes {
		p.Errors = append(p.Errors, FieldError{Field: fmt.Sprintf("text:%d:%d", m.Line, m.Column), Detail: m.Say})
	}
	return p.shortened(n)
}

func (in Line) on(l *lab.Lab) rundown.Plan {
	return rundown.Load(l, rundown.ParseLine(in.Line), rundown.Options{NewID: NewID, Rack: in.Rack})
}

func (s *Server) checkLine(c fiber.Ctx) error {
	var in Line
	if err := decode(c, &in); err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	r, _ := lab.Find[lab.Rack](v.lab, in.Rack)
	return c.JSON(LineCheck{planOf(v, in.on(v.lab)), rundown.Complete(v.lab, r, in.Line)})
}

func (s *Server) loadLine(c fiber.Ctx) error {
	var in Line
	if err := decode(c, &in); err != nil {
		return err
	}
	base, err := in.of()
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		p := in.on(l)
		if len(p.Mistakes) > 0 {
			return nil, wrongField(fiber.StatusUnprocessableEntity, "line", "%s", p.Mistakes[0].Say)
		}
		return p.Changes, nil
	})
}

func (s *Server) fact(c fiber.Ctx) error {
	in, base, err := based[Fact](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		was := l.Get(in.Record)
		if was == nil {
			return nil, noSuch(in.Record.Kind, in.Record.ID)
		}
		r, err := rundown.SetFact(l, was, in.Field, in.Text, "")
		if err != nil {
			return nil, wrongField(fiber.StatusUnprocessableEntity, in.Field, "%s", err)
		}
		change, ok := l.Put(r)
		if !ok {
			return nil, nil
		}
		return []lab.Change{change}, nil
	})
}

// notation is how lines are written, by examples.
func (s *Server) notation(c fiber.Ctx) error { return c.JSON(rundown.Guide()) }
