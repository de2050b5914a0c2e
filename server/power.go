package server

import (
	"bytes"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/battery"
	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/report"
	"levelstaff/exchange"
)

// powerRoutes are those of what hangs on which outlet and of what everything draws, as
// tables.
func (s *Server) powerRoutes() []route {
	type writes = map[string]func(*bytes.Buffer, *lab.Lab) error
	outlets := s.planRoutes("outlet_plan", "OutletPlan", "What hangs on which outlet as a table", writes{
		"csv":  func(out *bytes.Buffer, l *lab.Lab) error { return exchange.WriteOutletPlanCSV(out, l) },
		"xlsx": func(out *bytes.Buffer, l *lab.Lab) error { return exchange.WriteOutletPlanXLSX(out, l) },
	}, exchange.OutletPlanReader(NewID))
	draws := s.planRoutes("power_table", "PowerTable", "What everything draws as a table", writes{
		"csv":  func(out *bytes.Buffer, l *lab.Lab) error { return exchange.WritePowerTableCSV(out, l) },
		"xlsx": func(out *bytes.Buffer, l *lab.Lab) error { return exchange.WritePowerTableXLSX(out, l) },
	}, exchange.ReadPowerTable)
	order := []route{
		{method: fiber.MethodPost, path: "/api/v1/power/order", id: "postShutdownOrder",
			summary: "Say when things go after the mains have failed, where nobody did",
			in:      OrderBody{}, out: Delta{}, do: s.shutdownOrder, seen: true},
		{method: fiber.MethodGet, path: "/api/v1/files/shutdown_plan.md", id: "getShutdownPlan",
			summary: "What goes when after the mains have failed, as Markdown",
			out:     "", do: s.shutdownPlan, kind: "text/markdown", seen: true},
	}
	list := append(append(outlets, draws...), order...)
	slices.SortFunc(list, func(a, b route) int { return bytes.Compare([]byte(a.path+a.method), []byte(b.path+b.method)) })
	return list
}

// OrderBody asks for an order of going.
type OrderBody struct{ Base }

func (s *Server) shutdownOrder(c fiber.Ctx) error {
	_, base, err := based[OrderBody](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		changes := battery.Suggest(l, drill.Of(l).Turns())
		if len(changes) == 0 {
			return nil, problem(fiber.StatusConflict, "All that a UPS holds has its time already, or no UPS holds anything.")
		}
		return changes, nil
	})
}

func (s *Server) shutdownPlan(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	plan, err := report.ShutdownPlan(report.Ask{Lab: v.lab, Built: v.now.Lab, Day: lab.DayOf(s.config.Now())})
	if err != nil {
		return err
	}
	return file(c, "shutdown.md", "text/markdown; charset=utf-8", []byte(plan))
}
