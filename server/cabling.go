package server

import (
	"cmp"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/report"
)

// cablingRoutes are those about ports, cables and the ways they take.
func (s *Server) cablingRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	return []route{
		{method: get, path: "/api/v1/devices/:id/trails", id: "getTrails", summary: "A device's ports and where each leads to", in: byID{},
			out: DeviceTrails{}, do: s.trails, seen: true},
		{method: get, path: "/api/v1/devices/:id/port", id: "getPort", summary: "What one port leads to", in: portQuery{}, out: PortCard{},
			do: s.port, seen: true},
		{method: get, path: "/api/v1/devices/:id/pull", id: "getPullSheet", summary: "What to unplug to take a device out", in: byID{},
			out: PullSheet{}, do: s.pullSheet, seen: true},
		{method: get, path: "/api/v1/racks/:id/wiring", id: "getWiring", summary: "Ports and leads of a rack, as they are drawn", in: byID{},
			out: RackWiring{}, do: s.wiring, seen: true},
		{method: get, path: "/api/v1/racks/:id/ports", id: "getRackPorts",
			summary: "How many network ports of a rack's switches and the like are used", in: byID{}, out: RackPorts{}, do: s.rackPorts, seen: true},
		{method: get, path: "/api/v1/cables/:id/trail", id: "getTrail", summary: "The whole way that a cable is part of", in: byID{},
			out: cabling.Trail{}, do: s.trail, seen: true},
		{method: get, path: "/api/v1/partners", id: "getPartners", summary: "Where a cable from a port could go, and why not elsewhere",
			in: partnersQuery{}, out: Partners{}, do: s.partners, seen: true},
		{method: post, path: "/api/v1/swaps", id: "postSwap", summary: "Change what two ports have in them", in: Swap{}, out: Delta{},
			do: s.swap, seen: true},
		{method: post, path: "/api/v1/replacements", id: "postReplacement", summary: "Put one device where another one is and keep its cables",
			in: Replacement{}, out: Delta{}, do: s.replace, seen: true},
		{method: post, path: "/api/v1/replacements/check", id: "checkReplacement", summary: "What becomes of each cable, without doing it",
			in: Replacement{}, out: Replaced{}, do: s.checkReplace, seen: true},
		{method: post, path: "/api/v1/labels", id: "postLabels", summary: "Label cables by a pattern", in: Labelling{}, out: Delta{},
			do: s.label, seen: true},
		{method: post, path: "/api/v1/labels/check", id: "checkLabels", summary: "What the labels would be, without doing it", in: Labelling{},
			out: Labels{}, do: s.checkLabels, seen: true},
	}
}

// DeviceTrails is what the cabling sheet shows of a device.
type DeviceTrails struct {
	Head
	Jacks  []cabling.Jack      `json:"jacks" required:"true" nullable:"false"`
	Trails []cabling.Trail     `json:"trails" required:"true" nullable:"false"`
	Level  []cabling.PortLevel `json:"level" required:"true" nullable:"false"`
	WaysIn []cabling.WayIn     `json:"ways_in" required:"true" nullable:"false"`
}

func (s *Server) trails(c fiber.Ctx) error {
	v, d, err := s.device(c)
	if err != nil {
		return err
	}
	w := cabling.Of(v.lab)
	out := DeviceTrails{v.head(), w.Jacks(d.ID), w.TrailsOf(d.ID), w.LevelOf([]lab.ID{d.ID}), []cabling.WayIn{}}
	for _, way := range w.WaysIn() {
		if way.Device == d.ID {
			out.WaysIn = append(out.WaysIn, way)
		}
	}
	return c.JSON(out)
}

// PullSheet is what to do to take a device out, and what that does to the others.
type PullSheet struct {
	network.PullSheet
	Power report.PowerLoss `json:"power" required:"true" description:"What it does to the power of others"`
}

func (s *Server) pullSheet(c fiber.Ctx) error {
	v, d, err := s.device(c)
	if err != nil {
		return err
	}
	sheet, _ := network.Of(v.lab).PullSheetOf(d.ID)
	return c.JSON(PullSheet{sheet, report.LossOf(v.lab, v.lab.TakenOut(d)...)})
}

// RackWiring is the wiring on a rack's elevation.
type RackWiring struct {
	Head
	cabling.Drawn
	Ease cabling.Ease `json:"ease" required:"true"`
}

func (s *Server) wiring(c fiber.Ctx) error {
	v, r, err := s.rackSeen(c)
	if err != nil {
		return err
	}
	w := cabling.Of(v.lab)
	return c.JSON(RackWiring{v.head(), w.DrawnIn(w.DevicesIn(r.ID)), w.EaseOf(r)})
}

// RackPorts are a rack's ports that others are plugged into.
type RackPorts struct {
	Head
	Links cabling.LinkPorts  `json:"links" required:"true"`
	Built *cabling.LinkPorts `json:"built,omitempty" description:"As built, where a draft is looked at that has the rack from there"`
}

func (s *Server) rackPorts(c fiber.Ctx) error {
	v, r, err := s.rackSeen(c)
	if err != nil {
		return err
	}
	of := func(l *lab.Lab) cabling.LinkPorts {
		w := cabling.Of(l)
		return w.LinkPortsOf(w.DevicesIn(r.ID))
	}
	out := RackPorts{Head: v.head(), Links: of(v.lab)}
	if _, there := lab.Find[lab.Rack](v.now.Lab, r.ID); there && v.Kind == Drafted {
		built := of(v.now.Lab)
		out.Built = &built
	}
	return c.JSON(out)
}

func (s *Server) trail(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	cable, err := recordOf[lab.Cable](v.lab, lab.ID(c.Params("id")))
	if err != nil {
		return err
	}
	for _, e := range cable.Ends() {
		if t, ok := cabling.Of(v.lab).TrailFrom(e); ok {
			return c.JSON(t)
		}
	}
	return wrongField(fiber.StatusConflict, "id", "%s is not plugged in.", v.lab.CableWords(cable))
}

type partnersQuery struct {
	Device string   `query:"device_id" required:"true"`
	Port   string   `query:"port" required:"true"`
	Rear   bool     `query:"rear"`
	Among  []string `query:"among" description:"The devices whose ports are asked about; all, if left out"`
}

// Partners are ports that another one could be plugged into.
type Partners struct {
	Partners []cabling.Partner `json:"partners" required:"true" nullable:"false"`
}

func (s *Server) partners(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	d, err := recordOf[lab.Device](v.lab, lab.ID(c.Query("device_id")))
	if err != nil {
		return err
	}
	var among []lab.ID
	for _, id := range c.RequestCtx().QueryArgs().PeekMulti("among") {
		among = append(among, lab.ID(id))
	}
	if len(among) == 0 {
		for d := range lab.Things(v.lab) {
			among = append(among, d.ID)
		}
	}
	from := lab.End{Device: d.ID, Port: c.Query("port"), Rear: c.Query("rear") == "true"}
	return c.JSON(Partners{cabling.Of(v.lab).PartnersOf(from, among)})
}

type portQuery struct {
	ID   string `path:"id"`
	Port string `query:"port" required:"true"`
	Rear bool   `query:"rear"`
}

// PortCard is what the card of a port shows.
type PortCard struct {
	cabling.PortInfo
	Lead *report.Lead `json:"lead,omitempty" description:"What is in it"`
}

func (s *Server) port(c fiber.Ctx) error {
	v, d, err := s.device(c)
	if err != nil {
		return err
	}
	e := lab.End{Device: d.ID, Port: c.Query("port"), Rear: c.Query("rear") == "true"}
	card := PortCard{PortInfo: cabling.Of(v.lab).PortOf(e)}
	if cable, ok := v.lab.CableAt(e); ok {
		row := report.LeadOf(v.lab, cable)
		card.Lead = &row
	}
	return c.JSON(card)
}

// Swap is two ports whose cables change places.
type Swap struct {
	Base
	A lab.End `json:"a" required:"true"`
	B lab.End `json:"b" required:"true"`
}

func (s *Server) swap(c fiber.Ctx) error {
	in, base, err := based[Swap](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) { return cabling.Swap(l, in.A, in.B), nil })
}

// Replacement is a device and the one that takes its place.
type Replacement struct {
	Base
	Old lab.ID `json:"old_id" required:"true"`
	New lab.ID `json:"new_id" required:"true"`
}

// Replaced is what becomes of the cables.
type Replaced struct {
	Carried []cabling.Carry `json:"carried" required:"true" nullable:"false"`
}

func (in Replacement) on(l *lab.Lab) ([]lab.Change, []cabling.Carry, error) {
	old, err := recordOf[lab.Device](l, in.Old)
	if err != nil {
		return nil, nil, err
	}
	by, err := recordOf[lab.Device](l, in.New)
	if err != nil {
		return nil, nil, err
	}
	if old.ID == by.ID {
		return nil, nil, wrongField(fiber.StatusUnprocessableEntity, "new_id", "%s cannot take its own place.", old.Title())
	}
	changes, carried := cabling.Replace(l, old, by)
	return changes, carried, nil
}

func (s *Server) replace(c fiber.Ctx) error {
	in, base, err := based[Replacement](c)
	if err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	_, carried, err := in.on(v.lab)
	if err != nil {
		return err
	}
	return s.change(c, base, cabling.ReplacedWords(v.lab, in.Old, in.New, carried), func(l *lab.Lab) ([]lab.Change, error) {
		changes, _, err := in.on(l)
		return changes, err
	})
}

func (s *Server) checkReplace(c fiber.Ctx) error {
	var in Replacement
	if err := decode(c, &in); err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	changes, carried, err := in.on(v.lab)
	if err != nil {
		return err
	}
	if _, err := v.lab.Apply(changes); err != nil {
		return err
	}
	return c.JSON(Replaced{carried})
}

// Labelling is cables that get labels by a pattern.
type Labelling struct {
	Base
	Cables  []lab.ID `json:"cable_ids,omitempty" nullable:"false" maxItems:"5000" description:"All plugged in without a label, if left out"`
	All     bool     `json:"all,omitempty" description:"All that are plugged in, also those that have a label"`
	Pattern string   `json:"pattern,omitempty" maxLength:"80" description:"Such as {panel}.{port:02}; the lab's own if left out"`
	Channel bool     `json:"channel,omitempty" description:"One label for all pieces of a trail"`
}

// Labels are what would be printed.
type Labels struct {
	Labels  []cabling.Label `json:"labels" required:"true" nullable:"false"`
	Pattern string          `json:"pattern" required:"true" description:"The lab's own, or the usual one"`
}

func (in Labelling) on(l *lab.Lab) ([]cabling.Label, error) {
	for _, id := range in.Cables {
		if _, err := recordOf[lab.Cable](l, id); err != nil {
			return nil, err
		}
	}
	labels, err := cabling.Of(l).Labelled(in.Cables, in.All, in.Pattern, in.Channel)
	if err != nil {
		return nil, wrongField(fiber.StatusUnprocessableEntity, "pattern", "%s.", err)
	}
	return labels, nil
}

func (s *Server) label(c fiber.Ctx) error {
	in, base, err := based[Labelling](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		labels, err := in.on(l)
		if err != nil {
			return nil, err
		}
		return cabling.PutLabels(l, labels), nil
	})
}

func (s *Server) checkLabels(c fiber.Ctx) error {
	var in Labelling
	if err := decode(c, &in); err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	labels, err := in.on(v.lab)
	if err != nil {
		return err
	}
	return c.JSON(Labels{append([]cabling.Label{}, labels...), cmp.Or(v.lab.Settings().Pattern, cabling.Pattern)})
}
