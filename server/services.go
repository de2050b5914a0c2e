package server

import (
	"bytes"
	"io"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/exchange"
)

// serviceRoutes are those of what runs where, drawn as a graph.
func (s *Server) serviceRoutes() []route {
	get := fiber.MethodGet
	return []route{
		{method: get, path: "/api/v1/files/runs.dot", id: "getRunsDOT", summary: "What runs where as a Graphviz graph", out: "",
			do: s.runsAs("dot", "text/vnd.graphviz", exchange.WriteRunsDOT), kind: "text/vnd.graphviz", seen: true},
		{method: get, path: "/api/v1/files/runs.mmd", id: "getRunsMermaid", summary: "What runs where as a Mermaid flowchart", out: "",
			do: s.runsAs("mmd", "text/plain; charset=utf-8", exchange.WriteRunsMermaid), kind: "text/plain", seen: true},
	}
}

func (s *Server) runsAs(ending, kind string, write func(io.Writer, *lab.Lab) error) func(fiber.Ctx) error {
	return func(c fiber.Ctx) error {
		v, err := s.view(c)
		if err != nil {
			return err
		}
		var out bytes.Buffer
		if err := write(&out, v.lab); err != nil {
			return err
		}
		return file(c, fileName("runs", ending), kind, out.Bytes())
	}
}
