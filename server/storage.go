package server

import (
	"bytes"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/report"
	"levelstaff/exchange"
)

// storageRoutes are those of pools, datasets and copies as tables, and of how to get data
// back.
func (s *Server) storageRoutes() []route {
	list := []route{{method: fiber.MethodGet, path: "/api/v1/files/restore_plan.md", id: "getRestorePlan",
		summary: "How to get every dataset back, as Markdown", out: "", do: s.restorePlan, kind: "text/markdown", seen: true}}
	for _, t := range []struct {
		what, name, says string
		of               exchange.StorageTable
	}{
		{"pool_table", "PoolTable", "The pools as a table", exchange.PoolTable},
		{"dataset_table", "DatasetTable", "The datasets as a table", exchange.DatasetTable},
		{"copy_table", "CopyTable", "The copies as a table", exchange.CopyTable},
	} {
		list = append(list, s.planRoutes(t.what, t.name, t.says, map[string]func(*bytes.Buffer, *lab.Lab) error{
			"csv":  func(out *bytes.Buffer, l *lab.Lab) error { return t.of.WriteCSV(out, l) },
			"xlsx": func(out *bytes.Buffer, l *lab.Lab) error { return t.of.WriteXLSX(out, l) },
		}, t.of.Read(NewID))...)
	}
	slices.SortFunc(list, func(a, b route) int { return bytes.Compare([]byte(a.path+a.method), []byte(b.path+b.method)) })
	return list
}

func (s *Server) restorePlan(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	plan := report.RestorePlan(report.Ask{Lab: v.lab, Built: v.now.Lab, Day: lab.DayOf(s.config.Now())})
	return file(c, "restore.md", "text/markdown; charset=utf-8", []byte(plan))
}
