package network

import (
	"cmp"
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Grid is what the ports of switches and the like carry, VLAN by VLAN.
type Grid struct {
	VLANs   []GridVLAN   `json:"vlans" required:"true" nullable:"false" description:"By domain and number"`
	Devices []GridDevice `json:"devices" required:"true" nullable:"false"`
}

// GridVLAN is a VLAN as it heads a column, or is a strand on the map.
type GridVLAN struct {
	Number  int    `json:"number" required:"true"`
	Name    string `json:"name,omitempty"`
	Domain  string `json:"switching_domain,omitempty"`
	Hex     string `json:"hex" required:"true" description:"How it looks: its own colour, or one that is given to it"`
	Record  lab.ID `json:"id,omitempty" description:"Absent where nobody declared it"`
	Purpose string `json:"purpose,omitempty"`
	Pieces  int    `json:"pieces" required:"true" description:"In how many pieces it is; 0 where no cable carries it"`
}

// GridDevice is a device whose ports carry VLANs, or may.
type GridDevice struct {
	Device lab.ID `json:"device_id" required:"true"`
	Title  string `json:"title" required:"true"`
	Kind   string `json:"kind" required:"true"`
	Domain string `json:"switching_domain,omitempty"`
	// Passes: it passes everything on as it comes, so that its ports carry nothing of
	// their own.
	Passes bool       `json:"passes,omitempty"`
	Ports  []GridPort `json:"ports" required:"true" nullable:"false"`
}

// GridPort is a port with what it carries, and what the other end of its link does.
type GridPort struct {
	Port     string    `json:"port" required:"true"`
	Name     string    `json:"name,omitempty" description:"Its own name"`
	Untagged int       `json:"untagged,omitempty"`
	Tagged   lab.VLANs `json:"tagged,omitempty"`
	Routed   bool      `json:"routed,omitempty"`
	Said     bool      `json:"said,omitempty" description:"Somebody said what it carries"`
	Uplink   bool      `json:"uplink,omitempty" description:"It leads to another device that passes frames on"`
	To       *GridFar  `json:"to,omitempty" description:"Absent where nothing is plugged in that leads to a device"`
	SpeedMb  int       `json:"speed_mb,omitempty"`
	Group    string    `json:"aggregate,omitempty"`
}

// GridFar is the other end of a port's link.
type GridFar struct {
	Device   lab.ID    `json:"device_id" required:"true"`
	Title    string    `json:"title" required:"true" description:"As one writes it: loft switch/1"`
	Port     string    `json:"port" required:"true"`
	Via      []string  `json:"via,omitempty" nullable:"false" description:"Panels and plates on the way"`
	Untagged int       `json:"untagged,omitempty"`
	Tagged   lab.VLANs `json:"tagged,omitempty"`
	Differs  bool      `json:"differs,omitempty" description:"It is said to carry something else"`
}

// usualColours are given to VLANs that have none, in turn.
var usualColours = []lab.Colour{"blue", "green", "orange", "purple", "aqua", "red", "brown", "magenta", "lime", "pink"}

// Looks lists the VLANs there are, in the order of VLANs, as they are shown.
func (n *Network) Looks() []GridVLAN {
	list := make([]GridVLAN, len(n.vlans))
	spreads := n.Spreads()
	for i, v := range n.vlans {
		colour := v.Record.Colour
		if colour == "" {
			colour = usualColours[v.Number/10%len(usualColours)]
		}
		list[i] = GridVLAN{Number: v.Number, Name: v.Record.Name, Domain: v.Domain, Hex: colour.Hex(), Record: v.Record.ID,
			Purpose: v.Record.Purpose, Pieces: len(spreads[i].Pieces)}
	}
	return list
}

// Grid lists what carries VLANs, or may: switches and what else passes frames on,
// routers, and whatever something is said of. What switches by VLAN comes first,
// that with most links before the others.
func (n *Network) Grid() Grid {
	g := Grid{VLANs: n.Looks(), Devices: []GridDevice{}}
	slices.SortStableFunc(g.VLANs, byDomainAndNumber)
	var list []int32
	for i := range n.nodes {
		if d := n.w.DeviceAt(int32(i)); d.Passes() || d.Routes() || n.nodes[i].hasSaid {
			list = append(list, int32(i))
		}
	}
	rank := map[Role]int{Switches: 0, Ends: 1, Passes: 2, Idle: 3}
	slices.SortStableFunc(list, func(a, b int32) int {
		return cmp.Or(rank[n.nodes[a].role]-rank[n.nodes[b].role], n.Degree(b)-n.Degree(a), cmp.Compare(n.title(a), n.title(b)))
	})
	for _, device := range list {
		g.Devices = append(g.Devices, n.Row(device))
	}
	return g
}

// Row is one device of the grid.
func (n *Network) Row(device int32) GridDevice {
	d := n.w.DeviceAt(device)
	row := GridDevice{Device: d.ID, Title: d.Title(), Kind: d.KindWords(), Domain: d.Domain, Passes: n.nodes[device].role == Passes,
		Ports: []GridPort{}}
	for i, p := range n.w.PortsAt(device) {
		if !networked(p) {
			continue
		}
		row.Ports = append(row.Ports, n.port(cabling.Tip{Device: device, Port: int32(i)}, p))
	}
	return row
}

// networked reports whether a port is one of a network.
func networked(p lab.Port) bool {
	switch p.Family {
	case lab.Copper, lab.Cages, lab.Fibre, lab.Unsure:
		return true
	}
	return false
}

func (n *Network) port(t cabling.Tip, p lab.Port) GridPort {
	d := n.w.DeviceAt(t.Device)
	c := d.Carries(p.Mark)
	is := GridPort{Port: p.Key, Name: p.Mark.Name, Untagged: c.Untagged, Tagged: c.Tagged, Routed: c.Routed, Said: c.Said}
	if g, ok := d.AggregateOf(p.Key); ok {
		is.Group = g.Name
	}
	link, linked := n.tips()[t]
	if !linked {
		return is
	}
	l := &n.links[link]
	is.SpeedMb = l.Mb
	far := l.A
	if l.A == t {
		far = l.B
	}
	o := n.w.DeviceAt(far.Device)
	is.Uplink = o.Passes() || o.Routes()
	is.To = &GridFar{Device: o.ID, Title: n.TipWords(far), Port: n.w.KeyOf(far)}
	for _, s := range n.w.TrailOf(l.Link).Stops {
		if s.Kind == "joint" {
			is.To.Via = append(is.To.Via, s.Title+"/"+s.Port)
		}
	}
	if l.A != t {
		slices.Reverse(is.To.Via)
	}
	if a, b, ok := n.Said(link); ok {
		near, other := a, b
		if a.Tip != t {
			near, other = b, a
		}
		is.To.Untagged, is.To.Tagged = other.Untagged, other.Tagged
		is.To.Differs = near.Untagged != other.Untagged || near.Tagged != other.Tagged && near.Tagged != lab.AllVLANs &&
			other.Tagged != lab.AllVLANs
	}
	return is
}
