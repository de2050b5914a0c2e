package server

import (
	"bytes"
	"fmt"
	"slices"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/address"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/exchange"
)

// networkRoutes are those about VLANs and the network's drawing.
func (s *Server) networkRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	list := []route{
		{method: get, path: "/api/v1/network/map", id: "getNetworkMap", summary: "The network as it is drawn", out: NetworkMap{},
			do: s.networkMap, seen: true},
		{method: get, path: "/api/v1/network/grid", id: "getVLANGrid", summary: "What each port carries, VLAN by VLAN", out: VLANGrid{},
			do: s.vlanGrid, seen: true},
		{method: get, path: "/api/v1/devices/:id/network", id: "getDeviceNetwork",
			summary: "Which VLANs reach a device, and what else it is part of",
			in:      byID{}, out: network.Part{}, do: s.deviceNetwork, seen: true},
		{method: post, path: "/api/v1/network/cells", id: "postVLANCells", summary: "Say of ports whether they carry a VLAN", large: true,
			in: VLANCells{}, out: Delta{}, do: s.vlanCells, seen: true},
		{method: post, path: "/api/v1/network/pasted", id: "postVLANPasted", summary: "Take cells of the VLAN grid from a spreadsheet",
			large: true,
			in:    VLANPasted{}, out: Delta{}, do: s.vlanPasted, seen: true},
		{method: post, path: "/api/v1/findings/fix", id: "postFix", summary: "Do what puts a finding right", in: FixBody{}, out: Delta{},
			do: s.fix, seen: true},
		{method: get, path: "/api/v1/files/network.dot", id: "getNetworkDOT", summary: "The network as a Graphviz graph", out: "",
			do:   s.networkDOT,
			kind: "text/vnd.graphviz", seen: true},
	}
	list = append(list, s.planRoutes("vlan_plan", "VLANPlan", "Ports by VLANs as a table", map[string]func(*bytes.Buffer, *lab.Lab) error{
		"csv":  func(out *bytes.Buffer, l *lab.Lab) error { return exchange.WriteVLANPlanCSV(out, l) },
		"xlsx": func(out *bytes.Buffer, l *lab.Lab) error { return exchange.WriteVLANPlanXLSX(out, l) },
	}, exchange.ReadVLANPlan)...)
	slices.SortFunc(list, func(a, b route) int { return bytes.Compare([]byte(a.path+a.method), []byte(b.path+b.method)) })
	return list
}

// NetworkMap is the map of the lab that is looked at.
type NetworkMap struct {
	Head
	network.Map
	Built *network.Figures `json:"built,omitempty" description:"As built, where a draft is looked at"`
	// Addresses are those of devices in subnets.
	Addresses []MapAddress `json:"addresses" required:"true" nullable:"false"`
}

// MapAddress is an address of a device on the map.
type MapAddress struct {
	Device  lab.ID `json:"device_id" required:"true"`
	Subnet  lab.ID `json:"subnet_id" required:"true"`
	Address string `json:"address" required:"true"`
}

func mapAddresses(l *lab.Lab) []MapAddress {
	p := address.Of(l)
	list := []MapAddress{}
	for _, h := range p.All() {
		if h.Device != "" && h.Subnet != address.None {
			list = append(list, MapAddress{h.Device, p.Subnets()[h.Subnet].ID, h.Address.Address.String()})
		}
	}
	return list
}

func (s *Server) networkMap(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	out := NetworkMap{Head: v.head(), Map: network.Of(v.lab).Map(), Addresses: mapAddresses(v.lab)}
	if v.Kind == Drafted {
		built := network.Of(v.now.Lab).Figures()
		out.Built = &built
	}
	return c.JSON(out)
}

// VLANGrid is the grid of the lab that is looked at.
type VLANGrid struct {
	Head
	network.Grid
}

func (s *Server) vlanGrid(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	return c.JSON(VLANGrid{v.head(), network.Of(v.lab).Grid()})
}

func (s *Server) deviceNetwork(c fiber.Ctx) error {
	v, d, err := s.device(c)
	if err != nil {
		return err
	}
	return c.JSON(network.Of(v.lab).PartOf(d.ID))
}

// VLANCells are cells of the grid, as they are painted.
type VLANCells struct {
	Base
	Cells []VLANCell `json:"cells" required:"true" nullable:"false" maxItems:"50000"`
}

// VLANCell is a port and whether it carries a VLAN.
type VLANCell struct {
	Device lab.ID `json:"device_id" required:"true"`
	Port   string `json:"port" required:"true" maxLength:"60"`
	Number int    `json:"number" required:"true" minimum:"1" maximum:"4094"`
	As     string `json:"as" required:"true" enum:"untagged,tagged,none"`
}

func (s *Server) vlanCells(c fiber.Ctx) error {
	in, base, err := based[VLANCells](c)
	if err != nil {
		return err
	}
	return s.change(c, base, cellsLabel(in.Cells), func(l *lab.Lab) ([]lab.Change, error) {
		is := l.Changing()
		for i, cell := range in.Cells {
			d, ok := is.Now(lab.Key{Kind: lab.KindDevice, ID: cell.Device}).(lab.Device)
			if !ok {
				return nil, noSuch(lab.KindDevice, cell.Device)
			}
			switch cell.As {
			case "untagged", "tagged":
				d = d.Carrying(cell.Port, cell.Number, cell.As == "tagged")
			case "none":
				d = d.NotCarrying(cell.Port, cell.Number)
			default:
				return nil, wrongField(fiber.StatusUnprocessableEntity, fmt.Sprintf("cells:%d", i+1),
					"A port carries a VLAN untagged, tagged or not (none), not %q.", cell.As)
			}
			is.Put(d)
		}
		return is.Changes(), nil
	})
}

// cellsLabel is what the logbook calls cells that were painted: those of one VLAN
// in one way, as it is done by pointer and keys.
func cellsLabel(cells []VLANCell) string {
	if len(cells) == 0 || slices.ContainsFunc(cells, func(o VLANCell) bool { return o.Number != cells[0].Number || o.As != cells[0].As }) {
		return ""
	}
	where := "1 port"
	if n := len(cells); n > 1 {
		where = fmt.Sprintf("%d ports", n)
	}
	if cells[0].As == "none" {
		return fmt.Sprintf("VLAN %d taken off %s", cells[0].Number, where)
	}
	return fmt.Sprintf("VLAN %d %s on %s", cells[0].Number, cells[0].As, where)
}

// VLANPasted are cells as a spreadsheet has them, with where the first one goes.
type VLANPasted struct {
	Base
	Device lab.ID `json:"device_id" required:"true"`
	Port   string `json:"port" required:"true" maxLength:"60"`
	Number int    `json:"number" required:"true" minimum:"1" maximum:"4094"`
	Text   string `json:"text" required:"true" maxLength:"1000000" description:"Lines with tabs between: U for untagged, T for tagged"`
}

func (s *Server) vlanPasted(c fiber.Ctx) error {
	in, base, err := based[VLANPasted](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		changes, err := exchange.PasteVLANs(l, in.Device, in.Port, in.Number, in.Text)
		if err != nil {
			err = wrongField(fiber.StatusUnprocessableEntity, "text", "Nothing was pasted: %s.", err)
		}
		return changes, err
	})
}

// FixBody names the finding that is to be put right.
type FixBody struct {
	Base
	Key string `json:"key" required:"true" maxLength:"2000" description:"The finding's"`
}

func (s *Server) fix(c fiber.Ctx) error {
	in, base, err := based[FixBody](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		f, ok := finding.Named(finding.All(l, lab.DayOf(s.config.Now())), in.Key)
		if !ok || f.Fix == nil {
			return nil, problem(fiber.StatusConflict, "This is not found any more, or nothing can be done about it here.")
		}
		return f.Fix.Changes, nil
	})
}

func (s *Server) networkDOT(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := exchange.WriteNetworkDOT(&out, v.lab); err != nil {
		return err
	}
	return file(c, fileName("network", "dot"), "text/vnd.graphviz", out.Bytes())
}
