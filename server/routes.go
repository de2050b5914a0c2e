package server

import (
	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
)

// route is one address: what is asked, what is answered, and who answers. The
// OpenAPI document is made from these.
type route struct {
	method, path, id, summary string
	in, out                   any
	status                    int
	text                      bool // answers plain text
	do                        fiber.Handler
}

func (s *Server) routes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	list := []route{
		{get, "/healthz", "getHealth", "Whether the server is up", nil, Health{}, 200, false, s.health},
		{get, "/api/v1/lab", "getLab", "The whole lab", nil, Lab{}, 200, false, s.lab},
		{post, "/api/v1/changes", "postChanges", "Put and remove records, all or none", Changes{}, Delta{}, 200, false, s.changes},
		{post, "/api/v1/undo", "postUndo", "Take the latest change back", Base{}, Delta{}, 200, false, s.undo},
		{post, "/api/v1/redo", "postRedo", "Make a change that was taken back again", Base{}, Delta{}, 200, false, s.redo},
		{get, "/api/v1/reports/space", "getSpace", "What is free in every rack, and what it carries", nil, rack.SpaceReport{}, 200, false, s.space},
		{get, "/api/v1/racks/:id/slots", "getSlots", "Where in a rack a device would fit", slotsQuery{}, Slots{}, 200, false, s.slots},
		{post, "/api/v1/facts", "postFact", "Change one fact as a person typed it", Fact{}, Delta{}, 200, false, s.fact},
		{get, "/api/v1/rundown", "getRundown", "The lab as plain text", nil, "", 200, true, s.rundown},
		{post, "/api/v1/rundown", "postRundown", "Make the lab what a rundown says", Rundown{}, Delta{}, 200, false, s.loadRundown},
		{post, "/api/v1/rundown/check", "checkRundown", "What loading a rundown would change, without doing it", Rundown{}, Plan{}, 200, false, s.checkRundown},
		{post, "/api/v1/lines", "postLine", "Do what one line says", Line{}, Delta{}, 200, false, s.loadLine},
		{post, "/api/v1/lines/check", "checkLine", "What a line would do and how it may go on", Line{}, LineCheck{}, 200, false, s.checkLine},
		{get, "/api/v1/openapi.json", "getOpenAPI", "This API's OpenAPI document", nil, map[string]any{}, 200, false, s.document},
	}
	list = append(list, resource[lab.Place](s, lab.KindPlace, "Place", "places")...)
	list = append(list, resource[lab.Rack](s, lab.KindRack, "Rack", "racks")...)
	return append(list, resource[lab.Device](s, lab.KindDevice, "Device", "devices")...)
}

// byID is the path of one record.
type byID struct {
	ID string `path:"id"`
}
