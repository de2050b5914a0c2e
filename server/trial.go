package server

import (
	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/text"
	"levelstaff/core/trial"
)

func (s *Server) trialRoutes() []route {
	return []route{
		{method: fiber.MethodGet, path: "/api/v1/trial", id: "getTrial", summary: "The first lines to write in the made-up rack",
			out: []trial.Line{}, do: s.trialLines, seen: true},
		{method: fiber.MethodPost, path: "/api/v1/trial", id: "postTrial", summary: "Put a made-up rack into the lab, to try things in",
			in: Base{}, out: Delta{}, do: s.beginTrial, seen: true},
		{method: fiber.MethodPost, path: "/api/v1/trial/away", id: "postTrialAway",
			summary: "Throw the made-up rack away, with all that was done to it", in: Base{}, out: Delta{}, do: s.throwAway, seen: true},
	}
}

func (s *Server) trialLines(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	return c.JSON(trial.Lines(v.lab))
}

func (s *Server) beginTrial(c fiber.Ctx) error {
	_, base, err := based[Base](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "a made-up rack to try things in", func(l *lab.Lab) ([]lab.Change, error) {
		changes, err := trial.Begin(l)
		if err != nil {
			return nil, problem(fiber.StatusConflict, "%s", text.Sentence(err.Error()))
		}
		return changes, nil
	})
}

func (s *Server) throwAway(c fiber.Ctx) error {
	_, base, err := based[Base](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "the made-up rack thrown away", func(l *lab.Lab) ([]lab.Change, error) { return trial.ThrowAway(l), nil })
}
