package server

import (
	"cmp"
	"errors"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// gearRoutes are those about what things are and what is in them.
func (s *Server) gearRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	return []route{
		{method: post, path: "/api/v1/devices/:id/parts", id: "postParts", summary: "Put parts into a device as a person types them",
			in: deviceParts{}, out: Delta{}, do: s.putParts, seen: true},
		{method: post, path: "/api/v1/parts/:id/seat", id: "postSeat", summary: "Move a part; what sits there goes where the part was",
			in: partSeat{}, out: Delta{}, do: s.seatPart, seen: true},

		{method: get, path: "/api/v1/walk", id: "getWalk", summary: "What is not documented yet, from top to bottom", in: walkQuery{},
			out: gear.Complete{}, do: s.walk, seen: true},
		{method: get, path: "/api/v1/fit", id: "getFit", summary: "Whether a device fits where it is, with one fact as typed", in: fitQuery{},
			out: Fit{}, do: s.fit, seen: true},
		{method: get, path: "/api/v1/racks/:id/side", id: "getSide", summary: "What is mounted in a rack, as seen from its side", in: byID{},
			out: FromSide{}, do: s.fromSide, seen: true},
		{method: get, path: "/api/v1/fitting", id: "getFitting", summary: "Where in every rack a thing would fit that need not be owned yet",
			in: fittingQuery{}, out: Fitting{}, do: s.fitting, seen: true},
	}
}

// device is the one that the path names, in the lab that is looked at.
func (s *Server) device(c fiber.Ctx) (seen, lab.Device, error) {
	v, err := s.view(c)
	if err != nil {
		return v, lab.Device{}, err
	}
	d, err := recordOf[lab.Device](v.lab, lab.ID(c.Params("id")))
	return v, d, err
}

// PartsTyped is what is in a device, as a person types it.
type PartsTyped struct {
	Base
	Text string `json:"text" required:"true" maxLength:"2000" description:"Such as 4x 8TB hdd, 2x 8-core, or bay 3 drive: 8TB"`
}

type deviceParts struct {
	byID
	PartsTyped
}

func (s *Server) putParts(c fiber.Ctx) error {
	in, base, err := based[PartsTyped](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		d, err := recordOf[lab.Device](l, lab.ID(c.Params("id")))
		if err != nil {
			return nil, err
		}
		changes, err := rundown.PutParts(c.Context(), l, d, in.Text, NewID)
		var mistake *text.Mistake
		if errors.As(err, &mistake) {
			return nil, wrongField(fiber.StatusUnprocessableEntity, "text", "%s", text.Sentence(mistake.Say))
		}
		return changes, err
	})
}

// Seated is where a part is to go.
type Seated struct {
	Base
	gear.Seating
}

type partSeat struct {
	byID
	Seated
}

func (s *Server) seatPart(c fiber.Ctx) error {
	in, base, err := based[Seated](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		p, err := recordOf[lab.Part](l, lab.ID(c.Params("id")))
		if err != nil {
			return nil, err
		}
		return gear.Move(l, p, in.Seating), nil
	})
}

type walkQuery struct {
	Rack lab.ID `query:"rack_id" description:"The rack to walk; without one, what is in no rack"`
}

func (s *Server) walk(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	id := lab.ID(c.Query("rack_id"))
	if id == "" {
		return c.JSON(gear.WalkElsewhere(v.lab))
	}
	r, err := recordOf[lab.Rack](v.lab, id)
	if err != nil {
		return err
	}
	return c.JSON(gear.WalkOf(v.lab, r))
}

type fitQuery struct {
	Device lab.ID `query:"device_id" required:"true"`
	Field  string `query:"field" description:"A fact to try"`
	Text   string `query:"text" description:"As it would be typed"`
}

// Fit is whether a device fits where it is.
type Fit struct {
	Checks []rack.Check `json:"checks" required:"true" nullable:"false"`
	Wrong  string       `json:"wrong,omitempty" description:"What is wrong with what was typed"`
}

func (s *Server) fit(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	d, err := recordOf[lab.Device](v.lab, lab.ID(c.Query("device_id")))
	if err != nil {
		return err
	}
	out := Fit{Checks: []rack.Check{}}
	if field := c.Query("field"); field != "" {
		r, err := rundown.SetFact(v.lab, d, field, c.Query("text"), "")
		if err != nil {
			out.Wrong = text.Sentence(err.Error())
			return c.JSON(out)
		}
		d = r.(lab.Device)
	}
	if checks, ok := rack.FitOf(v.lab, d); ok {
		out.Checks = checks
	}
	return c.JSON(out)
}

// FromSide is a rack from its side.
type FromSide struct {
	Things []rack.Aside `json:"things" required:"true" nullable:"false"`
}

func (s *Server) fromSide(c fiber.Ctx) error {
	v, r, err := s.rackSeen(c)
	if err != nil {
		return err
	}
	return c.JSON(FromSide{rack.SideOf(v.lab, r)})
}

type fittingQuery struct {
	Sheet  lab.ID       `query:"sheet_id" description:"A spec sheet of the lab or one that comes with the program"`
	Device lab.ID       `query:"device_id" description:"Or a device"`
	Text   string       `query:"text" description:"Or facts as they are typed: server, 2U high, 447mm wide"`
	Part   rack.Portion `query:"portion" description:"How much of the width it takes; whole if left out"`
}

// Fitting is where a thing would fit.
type Fitting struct {
	Title  string        `json:"title" required:"true"`
	Units  int           `json:"units" required:"true" description:"How many it takes"`
	Places []rack.Places `json:"places" required:"true" nullable:"false" description:"The racks that take it first"`
	DrawsW *float64      `json:"draws_w,omitempty" description:"At most, or typically; absent while unknown"`
	Plugs  []Plug        `json:"plugs" required:"true" nullable:"false" description:"What has an outlet free, and room for it first"`
}

// Plug is where something could be plugged in.
type Plug struct {
	Device lab.ID   `json:"device_id" required:"true"`
	Title  string   `json:"title" required:"true"`
	Free   int      `json:"free" required:"true" description:"Outlets"`
	LeftW  *float64 `json:"left_w,omitempty" description:"For hours, of it and of all that feeds it; absent while no limit is known"`
	By     string   `json:"by,omitempty" description:"What leaves so little, where that is not it"`
	Held   bool     `json:"held,omitempty" description:"By a battery"`
	Takes  bool     `json:"takes" required:"true"`
}

// plugsFor is where something that draws so much could be plugged in.
func plugsFor(l *lab.Lab, w *float64) []Plug {
	const most = 8
	draws := 0.0
	if w != nil {
		draws = *w
	}
	g := power.Of(l)
	list := []Plug{}
	for _, r := range g.RoomFor(draws) {
		p := Plug{g.Nodes()[r.Node].Key.ID, g.Nodes()[r.Node].Title, r.Free, r.LeftW, "", r.Held, r.Takes(draws)}
		if r.Least != r.Node {
			p.By = g.Nodes()[r.Least].Title
		}
		if list = append(list, p); len(list) == most {
			break
		}
	}
	return list
}

func (s *Server) fitting(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	thing, err := s.thing(c, v.lab)
	if err != nil {
		return err
	}
	units := 1
	switch {
	case thing.Spec.TakesU != nil:
		units = *thing.Spec.TakesU
	case thing.Spec.HeightMM != nil:
		units = rack.UnitsFor(*thing.Spec.HeightMM)
	}
	draws := cmp.Or(thing.Spec.MostW, thing.Spec.TypicalW)
	places := rack.Where(v.lab, thing, units, rack.Portion(c.Query("portion")))
	return c.JSON(Fitting{thing.Title, units, places, draws, plugsFor(v.lab, draws)})
}

// thing is what the query asks about: a sheet, a device, or facts as typed.
func (s *Server) thing(c fiber.Ctx, l *lab.Lab) (rack.Thing, error) {
	if id := lab.ID(c.Query("device_id")); id != "" {
		d, err := recordOf[lab.Device](l, id)
		if err != nil {
			return rack.Thing{}, err
		}
		return rack.ThingOf(l, d), nil
	}
	if typed := c.Query("text"); typed != "" {
		sheet, err := rundown.ReadSheet(typed)
		if err != nil {
			return rack.Thing{}, wrongField(fiber.StatusUnprocessableEntity, "text", "%s", text.Sentence(err.Error()))
		}
		return rack.Thing{Title: typed, Kind: sheet.Kind, Spec: sheet.Spec}, nil
	}
	sheet, err := sheetNamed(l, lab.ID(c.Query("sheet_id")))
	return rack.Thing{Title: sheet.Name, Kind: sheet.Kind, Spec: sheet.Spec}, err
}
