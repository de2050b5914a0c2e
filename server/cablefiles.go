package server

import (
	"bytes"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/text"
	"levelstaff/exchange"
)

// cableFileRoutes are those of files that are drawn from the cabling.
func (s *Server) cableFileRoutes() []route {
	get := fiber.MethodGet
	return []route{
		{method: get, path: "/api/v1/files/wiring.dot", id: "getWiringDOT", summary: "The wiring as a Graphviz graph", out: "", do: s.saveDOT,
			kind: "text/vnd.graphviz", seen: true},
		{method: get, path: "/api/v1/files/trails.svg", id: "getTrailsSVG", summary: "Trails as strips", in: trailsQuery{}, out: "",
			do: s.saveTrails, kind: "image/svg+xml", seen: true},
		{method: get, path: "/api/v1/files/labels.pdf", id: "getLabelsPDF", summary: "Cable labels to print", in: labelsQuery{}, out: "",
			do: s.saveLabelsPDF, kind: "application/pdf", seen: true},
		{method: get, path: "/api/v1/files/labels.svg", id: "getLabelsSVG", summary: "Cable labels as a drawing of one page", in: labelsQuery{},
			out: "", do: s.saveLabelsSVG, kind: "image/svg+xml", seen: true},
	}
}

func (s *Server) saveDOT(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := exchange.WriteDOT(&out, v.lab); err != nil {
		return err
	}
	return file(c, fileName("wiring", "dot"), "text/vnd.graphviz", out.Bytes())
}

func fileName(what, ending string) string {
	return fmt.Sprintf("%s-%s.%s", what, lab.DayOf(time.Now()), ending)
}

type trailsQuery struct {
	Device string `query:"device_id" description:"Those at one device; all, if left out"`
}

func (s *Server) saveTrails(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	w := cabling.Of(v.lab)
	trails := w.Trails()
	if id := c.Query("device_id"); id != "" {
		d, err := recordOf[lab.Device](v.lab, lab.ID(id))
		if err != nil {
			return err
		}
		trails = w.TrailsOf(d.ID)
	}
	var out bytes.Buffer
	exchange.WriteTrails(&out, trails)
	return file(c, fileName("trails", "svg"), "image/svg+xml", out.Bytes())
}

type labelsQuery struct {
	Cables []string `query:"cable_id" description:"Those of these cables; of all that have a label, if left out"`
	Wide   float64  `query:"wide_mm" description:"50 if left out"`
	High   float64  `query:"high_mm" description:"15 if left out"`
	Wrap   bool     `query:"wrap" description:"Wraps round the cable; a flag otherwise"`
	Letter bool     `query:"letter" description:"US letter paper; A4 otherwise"`
	Code   bool     `query:"code" description:"With a QR code that opens the cable's card"`
}

// labelSheet reads what is to be printed and how.
func (s *Server) labelSheet(c fiber.Ctx) ([]cabling.Label, exchange.LabelSheet, error) {
	sheet := exchange.LabelSheet{WideMM: 50, HighMM: 15, Wrap: c.Query("wrap") == "true", Letter: c.Query("letter") == "true"}
	v, err := s.view(c)
	if err != nil {
		return nil, sheet, err
	}
	for name, into := range map[string]*float64{"wide_mm": &sheet.WideMM, "high_mm": &sheet.HighMM} {
		if said := c.Query(name); said != "" {
			if *into, err = strconv.ParseFloat(said, 64); err != nil {
				return nil, sheet, wrongField(fiber.StatusBadRequest, name, "%q is not a number of millimetres.", said)
			}
		}
	}
	if c.Query("code") == "true" {
		sheet.Open = s.pageURL(c) + "/cabling?cable="
	}
	w := cabling.Of(v.lab)
	var labels []cabling.Label
	for _, id := range c.RequestCtx().QueryArgs().PeekMulti("cable_id") {
		cable, err := recordOf[lab.Cable](v.lab, lab.ID(id))
		if err != nil {
			return nil, sheet, err
		}
		labels = append(labels, w.LabelOf(cable, v.lab.CableWords(cable)))
	}
	if labels == nil {
		for cable := range lab.Each[lab.Cable](v.lab) {
			if cable.Label != "" {
				labels = append(labels, w.LabelOf(cable, cable.Label))
			}
		}
	}
	return labels, sheet, nil
}

// pageURL is where browsers find the pages: as it was said, or as they asked.
func (s *Server) pageURL(c fiber.Ctx) string {
	if s.config.Outer != nil {
		return strings.TrimSuffix(s.config.Outer.String(), "/")
	}
	return c.BaseURL()
}

func (s *Server) saveLabelsPDF(c fiber.Ctx) error {
	return s.saveLabels(c, "pdf", "application/pdf", func(out *bytes.Buffer, labels []cabling.Label, sheet exchange.LabelSheet) error {
		return exchange.WriteLabelsPDF(out, labels, sheet)
	})
}

func (s *Server) saveLabelsSVG(c fiber.Ctx) error {
	return s.saveLabels(c, "svg", "image/svg+xml", func(out *bytes.Buffer, labels []cabling.Label, sheet exchange.LabelSheet) error {
		return exchange.WriteLabelsSVG(out, labels, sheet)
	})
}

func (s *Server) saveLabels(c fiber.Ctx, ending, kind string, write func(*bytes.Buffer, []cabling.Label, exchange.LabelSheet) error) error {
	labels, sheet, err := s.labelSheet(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := write(&out, labels, sheet); err != nil {
		return problem(fiber.StatusUnprocessableEntity, "%s", text.Sentence(err.Error()))
	}
	return file(c, fileName("labels", ending), kind, out.Bytes())
}
