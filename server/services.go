package server

import (
	"bytes"
	"io"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/exchange"
)

// serviceRoutes are those of what runs where and what needs what, drawn as graphs.
func (s *Server) serviceRoutes() []route {
	get := fiber.MethodGet
	return []route{
		{method: get, path: "/api/v1/files/runs.dot", id: "getRunsDOT", summary: "What runs where as a Graphviz graph", out: "",
			do: s.graphAs("runs", "dot", "text/vnd.graphviz", exchange.WriteRunsDOT), kind: "text/vnd.graphviz", seen: true},
		{method: get, path: "/api/v1/files/runs.mmd", id: "getRunsMermaid", summary: "What runs where as a Mermaid flowchart", out: "",
			do: s.graphAs("runs", "mmd", "text/plain; charset=utf-8", exchange.WriteRunsMermaid), kind: "text/plain", seen: true},
		{method: get, path: "/api/v1/files/needs.dot", id: "getNeedsDOT", summary: "What needs what as a Graphviz graph", out: "",
			do: s.graphAs("needs", "dot", "text/vnd.graphviz", exchange.WriteNeedsDOT), kind: "text/vnd.graphviz", seen: true},
		{method: get, path: "/api/v1/files/needs.mmd", id: "getNeedsMermaid", summary: "What needs what as a Mermaid flowchart", out: "",
			do: s.graphAs("needs", "mmd", "text/plain; charset=utf-8", exchange.WriteNeedsMermaid), kind: "text/plain", seen: true},
	}
}

func (s *Server) graphAs(name, ending, kind string, write func(io.Writer, *lab.Lab) error) func(fiber.Ctx) error {
	return func(c fiber.Ctx) error {
		v, err := s.view(c)
		if err != nil {
			return err
		}
		var out bytes.Buffer
		if err := write(&out, v.lab); err != nil {
			return err
		}
		return file(c, fileName(name, ending), kind, out.Bytes())
	}
}
