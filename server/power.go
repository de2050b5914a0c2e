package server

import (
	"bytes"
	"slices"

	"levelstaff/core/lab"
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
	list := append(outlets, draws...)
	slices.SortFunc(list, func(a, b route) int { return bytes.Compare([]byte(a.path+a.method), []byte(b.path+b.method)) })
	return list
}
