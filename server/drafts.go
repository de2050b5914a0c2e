package server

import (
	"fmt"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
)

// DraftEffect is what comes of a draft on the lab as it stands.
type DraftEffect struct {
	Head
	Draft lab.Draft   `json:"draft" required:"true"`
	Steps []DraftStep `json:"steps" required:"true" nullable:"false"`
	Cost  draft.Cost  `json:"cost" required:"true"`
	Holds bool        `json:"holds" required:"true" description:"Every step that is left can be made"`
}

// DraftStep is one step and what comes of it.
type DraftStep struct {
	Step  lab.Step `json:"step" required:"true"`
	Words string   `json:"words" required:"true" description:"What it does, or did"`
	Price string   `json:"price,omitempty" description:"The price in words; absent while unknown"`
	Why   string   `json:"why,omitempty" description:"Why it no longer holds; absent if it does"`
}

func (s *Server) draftOf(c fiber.Ctx, l *lab.Lab) (lab.Draft, error) {
	return recordOf[lab.Draft](l, lab.ID(c.Params("id")))
}

func (s *Server) effect(c fiber.Ctx) error {
	now := s.store.Now()
	d, err := s.draftOf(c, now.Lab)
	if err != nil {
		return err
	}
	e := draft.On(now.Lab, d.ID)
	out := DraftEffect{Head: head(now), Draft: d, Steps: []DraftStep{}, Cost: draft.CostOf(now.Lab, d.ID), Holds: e.Holds()}
	for _, step := range e.Steps {
		said := DraftStep{Step: step.Step, Words: step.Words, Why: step.Why}
		if p := step.Step.PriceMinor; p != nil {
			said.Price = lab.MoneyText(*p, now.Lab.Settings().Currency)
		}
		out.Steps = append(out.Steps, said)
	}
	return c.JSON(out)
}

// Steps names steps of a draft.
type Steps struct {
	Base
	Steps []lab.ID `json:"step_ids" required:"true" nullable:"false"`
}

// onDraft makes changes of the lab as built that a draft asks for.
func (s *Server) onDraft(c fiber.Ctx, base Base, label func(lab.Draft) string,
	build func(*lab.Lab, lab.Draft) ([]lab.Change, error)) error {
	revision, err := base.of()
	if err != nil {
		return err
	}
	v, err := s.presentView(c)
	if err != nil {
		return err
	}
	d, err := s.draftOf(c, s.store.Now().Lab)
	if err != nil {
		return err
	}
	e, err := s.store.Change(c.Context(), revision, label(d), func(l *lab.Lab) ([]lab.Change, error) {
		d, err := s.draftOf(c, l)
		if err != nil {
			return nil, err
		}
		return build(l, d)
	})
	if err != nil {
		return err
	}
	return c.JSON(s.delta(v, e))
}

func (s *Server) tick(c fiber.Ctx) error {
	var in Steps
	if err := decode(c, &in); err != nil {
		return err
	}
	return s.onDraft(c, in.Base, func(d lab.Draft) string {
		return s.ticked(d, in.Steps)
	}, func(l *lab.Lab, d lab.Draft) ([]lab.Change, error) {
		changes, err := draft.Tick(l, d.ID, in.Steps, lab.DayOf(s.config.Now()))
		if err != nil {
			return nil, wrongField(fiber.StatusConflict, "step_ids", "%s.", err)
		}
		if len(changes) == 0 {
			return nil, wrongField(fiber.StatusUnprocessableEntity, "step_ids", "None of these is an open step of this draft.")
		}
		return changes, nil
	})
}

// ticked says in the logbook which step was made real.
func (s *Server) ticked(d lab.Draft, steps []lab.ID) string {
	for _, step := range draft.On(s.store.Now().Lab, d.ID).Steps {
		if len(steps) == 1 && step.Step.ID == steps[0] {
			return fmt.Sprintf("%s (a step of “%s”)", step.Words, d.Name)
		}
	}
	return fmt.Sprintf("%d steps of “%s” done", len(steps), d.Name)
}

func (s *Server) reorder(c fiber.Ctx) error {
	var in Steps
	if err := decode(c, &in); err != nil {
		return err
	}
	return s.onDraft(c, in.Base, func(d lab.Draft) string {
		return "steps of “" + d.Name + "” reordered"
	}, func(l *lab.Lab, d lab.Draft) ([]lab.Change, error) {
		own := l.StepsOf(d.ID)
		for _, id := range in.Steps {
			if !slices.ContainsFunc(own, func(s lab.Step) bool { return s.ID == id }) {
				return nil, wrongField(fiber.StatusUnprocessableEntity, "step_ids", "The draft has no step with the id %q.", id)
			}
		}
		return draft.Reorder(l, d.ID, in.Steps), nil
	})
}

// DraftCopy is the name of another draft of the same steps.
type DraftCopy struct {
	Base
	Name string `json:"name" required:"true" maxLength:"80"`
}

func (s *Server) copyDraft(c fiber.Ctx) error {
	var in DraftCopy
	if err := decode(c, &in); err != nil {
		return err
	}
	return s.onDraft(c, in.Base, func(d lab.Draft) string {
		return fmt.Sprintf("draft “%s” copied to “%s”", d.Name, in.Name)
	}, func(l *lab.Lab, d lab.Draft) ([]lab.Change, error) {
		return draft.Copy(l, d.ID, in.Name, lab.DayOf(s.config.Now()), NewID), nil
	})
}
