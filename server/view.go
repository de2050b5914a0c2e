package server

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/store"
)

// Every route that reads the lab takes a view of it, so that whatever is
// worked out is worked out of a draft or of a past day just the same.

// viewQuery picks which lab is looked at.
type viewQuery struct {
	View string `query:"view" description:"built (the default), draft:ID, at:NUMBER of a change, or on:DAY"`
}

// View tells which lab an answer is about.
type View struct {
	Kind     ViewKind `json:"kind" required:"true"`
	Draft    lab.ID   `json:"draft_id,omitempty"`
	Revision int64    `json:"revision,omitempty" description:"Of a past lab, the change after which it looked like this"`
	On       lab.Day  `json:"on,omitempty" description:"Of a past lab, the day asked for"`
}

// ViewKind is the sort of a view.
type ViewKind string

// The lab can be looked at as built, with a draft put on it, or as it was.
const (
	Built   ViewKind = "built"
	Drafted ViewKind = "draft"
	Past    ViewKind = "past"
)

// Enum lists the sorts for the published schema.
func (ViewKind) Enum() []any { return []any{Built, Drafted, Past} }

// seen is a lab as a view shows it.
type seen struct {
	View
	lab *lab.Lab
	now store.Snapshot
}

// tag tells two answers apart. That of the lab as built is its revision.
func (v seen) tag() string {
	if v.Kind == Built {
		return etag(v.now.Revision)
	}
	return fmt.Sprintf(`"%d-%s-%s%d"`, v.now.Revision, v.Kind, v.Draft, v.Revision)
}

func (v seen) head() Head {
	return Head{Revision: v.now.Revision, Undo: v.now.Undo, Redo: v.now.Redo}
}

// view is the lab that the request's view parameter names.
func (s *Server) view(c fiber.Ctx) (seen, error) { return s.viewed(c, c.Query("view")) }

func (s *Server) viewed(c fiber.Ctx, name string) (seen, error) {
	now := s.store.Now()
	sort, what, _ := strings.Cut(name, ":")
	switch sort {
	case "", "built":
		return seen{View{Kind: Built}, now.Lab, now}, nil
	case "draft":
		id := lab.ID(what)
		if now.Lab.Get(lab.Key{Kind: lab.KindDraft, ID: id}) == nil {
			return seen{}, noSuch(lab.KindDraft, id)
		}
		return seen{View{Kind: Drafted, Draft: id}, s.drafted(now, id), now}, nil
	case "at":
		revision, err := strconv.ParseInt(what, 10, 64)
		if err != nil {
			return seen{}, wrongField(fiber.StatusBadRequest, "view", "Write the number of a change after at:, such as at:41.")
		}
		return s.past(c, now, revision, "")
	case "on":
		day, err := time.ParseInLocation(time.DateOnly, what, time.Local)
		if err != nil {
			return seen{}, wrongField(fiber.StatusBadRequest, "view", "Write a day after on:, such as on:2026-11-23.")
		}
		if today := lab.DayOf(s.config.Now()); lab.Day(what) > today {
			return seen{}, wrongField(fiber.StatusBadRequest, "view", "%s is still to come; the latest day is today, %s.", what, today)
		}
		revision, err := s.store.RevisionOn(c.Context(), day.AddDate(0, 0, 1))
		if err != nil {
			return seen{}, err
		}
		return s.past(c, now, revision, lab.Day(what))
	}
	return seen{}, wrongField(fiber.StatusBadRequest, "view", "A view is built, draft:ID, at:NUMBER or on:DAY, not %q.", name)
}

func (s *Server) past(c fiber.Ctx, now store.Snapshot, revision int64, on lab.Day) (seen, error) {
	l, err := s.store.At(c.Context(), revision)
	if err != nil {
		return seen{}, err
	}
	return seen{View{Kind: Past, Revision: revision, On: on}, l, now}, nil
}

// drafted is a draft put on a lab; the latest one is reserved for the next reader.
func (s *Server) drafted(now store.Snapshot, id lab.ID) *lab.Lab {
	if last := s.lastDraft.Load(); last != nil && last.on == now.Lab && last.id == id {
		return last.lab
	}
	l := draft.On(now.Lab, id).Lab
	s.lastDraft.Store(&draftedLab{now.Lab, id, l})
	return l
}

type draftedLab struct {
	on  *lab.Lab
	id  lab.ID
	lab *lab.Lab
}

// change makes changes in the lab that the request looks at and answers what
// they did: as built they are made, in a draft they become its steps, and the
// past stays as it was.
func (s *Server) change(c fiber.Ctx, base int64, label string, build func(*lab.Lab) ([]lab.Change, error)) error {
	e, view, err := s.made(c, base, label, build)
	if err != nil {
		return err
	}
	return c.JSON(s.delta(view, e))
}

func (s *Server) made(c fiber.Ctx, base int64, label string, build func(*lab.Lab) ([]lab.Change, error)) (store.Entry, View, error) {
	v, err := s.view(c)
	if err != nil {
		return store.Entry{}, View{}, err
	}
	if v.Kind == Past {
		return store.Entry{}, View{}, asItWas()
	}
	if v.Kind == Drafted {
		e, err := s.inDraft(c, v, base, build)
		return e, v.View, err
	}
	e, err := s.store.Change(c.Context(), base, label, build)
	return e, v.View, err
}

// asItWas is the problem of changing the past.
func asItWas() error {
	return problem(
		fiber.StatusConflict, "This is the lab as it was; it cannot be changed. Go back to the lab as built, or plan it in a draft.")
}

// presentView is the view of a request that changes the lab as built, whichever
// draft is looked at.
func (s *Server) presentView(c fiber.Ctx) (View, error) {
	v, err := s.view(c)
	if err == nil && v.Kind == Past {
		err = asItWas()
	}
	return v.View, err
}

// inDraft makes changes of the drafted lab into steps. What is thought about
// the lab, such as a note, is not planned but written down at once.
func (s *Server) inDraft(c fiber.Ctx, v seen, base int64, build func(*lab.Lab) ([]lab.Change, error)) (store.Entry, error) {
	var planned []lab.Change
	steps := func(l *lab.Lab) ([]lab.Change, error) {
		changes, err := build(draft.On(l, v.Draft).Lab)
		if err != nil {
			return nil, err
		}
		var direct []lab.Change
		planned = nil
		for _, change := range changes {
			if change.Key().Kind.Built() {
				planned = append(planned, change)
			} else {
				direct = append(direct, change)
			}
		}
		added, err := draft.Add(l, v.Draft, planned, NewID)
		return append(direct, added...), err
	}
	return s.store.ChangeSaying(c.Context(), base, func(before, after *lab.Lab) string {
		d, ok := lab.Find[lab.Draft](before, v.Draft)
		if !ok || len(planned) == 0 {
			return ""
		}
		from, to := draft.On(before, v.Draft).Lab, draft.On(after, v.Draft).Lab
		return "draft “" + d.Name + "”: " + rundown.Label(rundown.Edits(from, to, planned))
	}, steps)
}
