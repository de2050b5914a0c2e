package server

import (
	"strconv"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
)

type slotsQuery struct {
	ID      string       `path:"id"`
	Devices []string     `query:"device_id" description:"What is to go somewhere, the thing that is held first"`
	Part    rack.Portion `query:"portion" description:"How much of the width it is to take; what it takes now, if left out"`
}

// Slots is where in a rack devices would fit.
type Slots struct {
	Head
	RackID lab.ID      `json:"rack_id" required:"true"`
	Slots  []rack.Slot `json:"slots" required:"true" nullable:"false"`
}

func (s *Server) slots(c fiber.Ctx) error {
	v, r, err := s.rackSeen(c)
	if err != nil {
		return err
	}
	var ids []lab.ID
	for _, id := range c.RequestCtx().QueryArgs().PeekMulti("device_id") {
		ids = append(ids, lab.ID(id))
	}
	devices, err := devicesOf(v.lab, ids)
	if err != nil {
		return err
	}
	part := rack.Portion(c.Query("portion"))
	if part == "" {
		part = rack.WholePart
		if at := devices[0].At; at != nil && at.Where == lab.InUnits {
			part = rack.PartOf(at.Share)
		}
	}
	return c.JSON(Slots{v.head(), r.ID, rack.Slots(v.lab, devices, r, part)})
}

// rackSeen is the rack in the path, in the lab that is looked at.
func (s *Server) rackSeen(c fiber.Ctx) (seen, lab.Rack, error) {
	v, err := s.view(c)
	if err != nil {
		return v, lab.Rack{}, err
	}
	r, err := recordOf[lab.Rack](v.lab, lab.ID(c.Params("id")))
	return v, r, err
}

// mostTogether bounds the things that are moved at once.
const mostTogether = 500

func devicesOf(l *lab.Lab, ids []lab.ID) ([]lab.Device, error) {
	if len(ids) == 0 || len(ids) > mostTogether {
		return nil, wrongField(fiber.StatusUnprocessableEntity, "device_ids", "Name 1 to %d devices, not %d.", mostTogether, len(ids))
	}
	var devices []lab.Device
	for _, id := range ids {
		d, err := recordOf[lab.Device](l, id)
		if err != nil {
			return nil, err
		}
		devices = append(devices, d)
	}
	return devices, nil
}

type roomQuery struct {
	ID    string `path:"id"`
	Units int    `query:"units" required:"true" description:"How many units are to be free in one piece"`
}

func (s *Server) room(c fiber.Ctx) error {
	v, r, err := s.rackSeen(c)
	if err != nil {
		return err
	}
	units, err := strconv.Atoi(c.Query("units"))
	if err != nil {
		return wrongField(fiber.StatusBadRequest, "units", "units is a whole number, such as 4.")
	}
	return c.JSON(rack.MakeRoom(v.lab, r, units))
}

// Moves is where things are to go together.
type Moves struct {
	Base
	Devices []lab.ID  `json:"device_ids" required:"true" nullable:"false"`
	To      *lab.Spot `json:"to,omitempty" description:"Where the first of them goes; absent for nowhere"`
	Swap    bool      `json:"swap,omitempty" description:"The one thing in the way goes where it was"`
}

func (s *Server) moves(c fiber.Ctx) error {
	in, base, err := based[Moves](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		devices, err := devicesOf(l, in.Devices)
		if err != nil {
			return nil, err
		}
		changes, err := rack.Move(l, devices, in.To, in.Swap)
		if err != nil {
			return nil, wrongField(fiber.StatusUnprocessableEntity, "to", "%s.", err)
		}
		return changes, nil
	})
}

// Copies is what is to be there once more.
type Copies struct {
	Base
	Device lab.ID `json:"device_id" required:"true"`
}

func (s *Server) copies(c fiber.Ctx) error {
	in, base, err := based[Copies](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		devices, err := devicesOf(l, []lab.ID{in.Device})
		if err != nil {
			return nil, err
		}
		return []lab.Change{rack.Copy(l, devices[0], NewID())}, nil
	})
}
