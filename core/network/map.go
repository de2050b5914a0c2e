package network

import (
	"cmp"
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Map is a network as it is drawn: its devices in strata, its links with what they
// carry. Panels and plates are part of their links.
type Map struct {
	Nodes []MapNode  `json:"nodes" required:"true" nullable:"false"`
	Links []MapLink  `json:"links" required:"true" nullable:"false"`
	VLANs []GridVLAN `json:"vlans" required:"true" nullable:"false" description:"Links name them by their place in this list"`
	// Beyond are the lines outside and the tunnels, and Ways what each leads to.
	Beyond []MapNode `json:"beyond" required:"true" nullable:"false" description:"Lines outside and tunnels, by their own ids"`
	Ways   []MapLink `json:"ways" required:"true" nullable:"false" description:"From each of those to the device that it ends in"`
	Figures
}

// Figures are what networks are compared by.
type Figures struct {
	Ports    cabling.LinkPorts `json:"ports" required:"true" description:"The network ports of what others are plugged into"`
	Declared int               `json:"declared" required:"true" description:"How many VLANs are declared"`
	Carried  int               `json:"carried" required:"true" description:"How many of those a cable carries"`
	Whole    int               `json:"whole" required:"true" description:"How many of those are in one piece"`
	Rests    int               `json:"rests" required:"true" description:"How many links rest"`
	Threads  int               `json:"threads" required:"true" description:"Links and devices whose loss cuts off more than one device"`
	Worst    string            `json:"worst,omitempty" description:"The one of them that cuts off most"`
	Cuts     int               `json:"cuts,omitempty" description:"How many devices that is"`
}

// Figures are what the network comes to.
func (n *Network) Figures() Figures {
	f := Figures{Ports: n.w.LinkPortsOf(n.w.Devices())}
	for _, s := range n.Spreads() {
		if s.VLAN.Record.ID == "" {
			continue
		}
		f.Declared++
		if len(s.Pieces) > 0 {
			f.Carried++
		}
		if len(s.Pieces) == 1 {
			f.Whole++
		}
	}
	for _, t := range n.Trees() {
		f.Rests += t.Spare
	}
	for _, th := range n.Threads().List {
		if th.Cuts > 1 {
			f.Threads++
		}
		if th.Cuts > 1 && f.Threads == 1 {
			f.Worst, f.Cuts = n.ThreadWords(th), th.Cuts
		}
	}
	return f
}

// Stratum is a layer of the map.
type Stratum string

// The strata, from the top down.
const (
	Outside Stratum = "outside" // what lines from outside end in
	Edge    Stratum = "edge"    // routers and firewalls
	Core    Stratum = "core"    // the switches at a router, or the one with most links
	Access  Stratum = "access"  // what else passes frames on
	Things  Stratum = "things"
)

var strata = []Stratum{Outside, Edge, Core, Access, Things}

// Enum lists the strata for the published schema.
func (Stratum) Enum() []any {
	var all []any
	for _, s := range strata {
		all = append(all, s)
	}
	return all
}

// MapNode is a device on the map.
type MapNode struct {
	Device  lab.ID    `json:"id" required:"true"`
	Title   string    `json:"title" required:"true"`
	Kind    string    `json:"kind" required:"true"`
	Short   string    `json:"short" required:"true" description:"The kind where there is little room"`
	Stratum Stratum   `json:"stratum" required:"true"`
	Place   string    `json:"place,omitempty" description:"The rack or place it is in"`
	State   lab.State `json:"state" required:"true"`
	Root    bool      `json:"root,omitempty" description:"The root of a spanning tree"`
	CutsOff int       `json:"cuts_off,omitempty" description:"How many devices are cut off when it is lost"`
	Leaf    lab.ID    `json:"leaf_of,omitempty" description:"The one device that it is linked to, where it passes nothing on"`
}

// MapLink is a link on the map.
type MapLink struct {
	A       lab.ID   `json:"a_device_id" required:"true"`
	B       lab.ID   `json:"b_device_id" required:"true"`
	PortA   string   `json:"a_port" required:"true"`
	PortB   string   `json:"b_port" required:"true"`
	Cable   lab.ID   `json:"cable_id,omitempty" description:"The first cable of its trail; absent for a guest of a wireless network"`
	SpeedMb int      `json:"speed_mb,omitempty" description:"Absent while unknown"`
	AtMost  bool     `json:"at_most,omitempty"`
	Strands []Strand `json:"strands" required:"true" nullable:"false"`
	Air     bool     `json:"air,omitempty"`
	Down    bool     `json:"down,omitempty" description:"Something on the way is faulty"`
	Rests   bool     `json:"rests,omitempty" description:"Kept from carrying by the spanning tree"`
	Unsure  bool     `json:"unsure,omitempty" description:"It may rest: which does cannot be told"`
	Standby bool     `json:"standby,omitempty" description:"It stands by for another link of its aggregate"`
	Group   string   `json:"aggregate,omitempty" description:"The aggregate it is in, at either end"`
	CutsOff int      `json:"cuts_off,omitempty" description:"How many devices are cut off when it is lost"`
	PoE     bool     `json:"poe,omitempty" description:"It feeds the device at one end"`
	Via     []string `json:"via,omitempty" nullable:"false" description:"Panels and plates on the way"`
}

// Strand is one VLAN on a link.
type Strand struct {
	VLAN   int  `json:"vlan" required:"true" description:"Its place in the list of VLANs"`
	Tagged bool `json:"tagged,omitempty"`
	Piece  int  `json:"piece" required:"true" description:"Which piece of its spread this is part of, the largest being 0"`
}

// Map is the network as it is drawn. Devices without a link are left out.
func (n *Network) Map() Map {
	order := make([]int, len(n.vlans)) // VLANs by domain and number
	place := make([]int, len(n.vlans))
	for i := range order {
		order[i] = i
	}
	looks := n.Looks()
	slices.SortStableFunc(order, func(a, b int) int { return byDomainAndNumber(looks[a], looks[b]) })
	m := Map{Nodes: []MapNode{}, Links: []MapLink{}, VLANs: []GridVLAN{}}
	for at, v := range order {
		place[v] = at
		m.VLANs = append(m.VLANs, looks[v])
	}
	m.Links = n.drawn(place)
	m.Beyond, m.Ways = n.beyond()
	m.Nodes, m.Figures = n.mapNodes(), n.Figures()
	return m
}

// beyond are the lines outside and the tunnels that end in a device.
func (n *Network) beyond() ([]MapNode, []MapLink) {
	nodes, ways := []MapNode{}, []MapLink{}
	add := func(r lab.Record, device lab.ID, port, kind string, mb *int, out bool) {
		if _, ok := n.w.Number(device); !ok {
			return
		}
		state := lab.Running
		if out {
			state = lab.Faulty
		}
		id := r.Key().ID
		nodes = append(nodes, MapNode{Device: id, Title: r.Title(), Kind: kind, Short: kind, Stratum: Outside, State: state})
		way := MapLink{A: id, B: device, PortB: port, Strands: []Strand{}, Down: out}
		if mb != nil {
			way.SpeedMb = *mb
		}
		ways = append(ways, way)
	}
	for w := range lab.Each[lab.Line](n.lab) {
		if w.Site == "" {
			add(w, w.Device, w.Port, cmp.Or(string(w.Medium), "line"), w.DownMb, w.Out == lab.LineOut)
		}
	}
	for t := range lab.Each[lab.Tunnel](n.lab) {
		add(t, t.Device, "", "tunnel", nil, false)
	}
	return nodes, ways
}

func byDomainAndNumber(a, b GridVLAN) int {
	return cmp.Or(cmp.Compare(a.Domain, b.Domain), a.Number-b.Number)
}

// drawn are the links with their strands.
func (n *Network) drawn(place []int) []MapLink {
	strands := make([][]Strand, len(n.links))
	for v, s := range n.Spreads() {
		for i, p := range s.Pieces {
			tagged := map[int32]bool{}
			for k, l := range p.Links {
				tagged[l] = p.Tips[2*k].Tagged
			}
			for _, l := range slices.Compact(slices.Sorted(slices.Values(p.Links))) {
				strands[l] = append(strands[l], Strand{place[v], tagged[l], i})
			}
		}
	}
	rests, unsure, standby := n.idle()
	group := map[int32]string{}
	for _, g := range n.Groups() {
		for _, l := range g.Links {
			if l >= 0 {
				group[l] = g.Name
			}
		}
	}
	_, cuts := n.cutsBy()
	list := []MapLink{}
	for i := range n.links {
		l := &n.links[i]
		if l.lost {
			continue
		}
		at := int32(i)
		a, b := n.w.DeviceAt(l.A.Device), n.w.DeviceAt(l.B.Device)
		is := MapLink{A: a.ID, B: b.ID, PortA: n.w.KeyOf(l.A), PortB: n.w.KeyOf(l.B), SpeedMb: l.Mb, AtMost: l.AtMost, Strands: strands[i],
			Air: !l.A.Plugged(), Down: l.Down, Rests: rests[at], Unsure: unsure[at], Standby: standby[at], Group: group[at],
			CutsOff: cuts[at]}
		if l.Guest == "" || l.Air != nil {
			is.Cable = n.w.CableOf(l.Link).ID
			is.PoE = n.w.FedOver(l.Link)
			for _, s := range n.w.TrailOf(l.Link).Stops {
				if s.Kind == "joint" {
					is.Via = append(is.Via, s.Title+"/"+s.Port)
				}
			}
		}
		if is.Strands == nil {
			is.Strands = []Strand{}
		}
		slices.SortFunc(is.Strands, func(a, b Strand) int { return a.VLAN - b.VLAN })
		list = append(list, is)
	}
	return list
}

// mapNodes are the devices that have a link.
func (n *Network) mapNodes() []MapNode {
	others := make([][]int32, len(n.nodes))
	for i := range n.links {
		l := &n.links[i]
		if !l.lost && l.A.Device != l.B.Device {
			others[l.A.Device] = append(others[l.A.Device], l.B.Device)
			others[l.B.Device] = append(others[l.B.Device], l.A.Device)
		}
	}
	core := n.heart(others)
	root := map[int32]bool{}
	for _, t := range n.Trees() {
		if t.Root >= 0 && len(t.Bridges) > 1 {
			root[t.Root] = true
		}
	}
	cuts, _ := n.cutsBy()
	list := []MapNode{}
	for i := range n.nodes {
		d := n.w.DeviceAt(int32(i))
		if len(others[i]) == 0 {
			continue
		}
		is := MapNode{Device: d.ID, Title: d.Title(), Kind: d.KindWords(), Short: d.Kind.Short(), State: d.State, Root: root[int32(i)],
			Stratum: n.stratum(d, core[int32(i)]), Place: n.lab.WhereIs(*d), CutsOff: cuts[int32(i)]}
		slices.Sort(others[i])
		if near := slices.Compact(others[i]); len(near) == 1 && is.Stratum == Things {
			is.Leaf = n.w.DeviceAt(near[0]).ID
		}
		list = append(list, is)
	}
	return list
}

// cutsBy is how many devices the loss of each device and of each link cuts off.
func (n *Network) cutsBy() (devices, links map[int32]int) {
	devices, links = map[int32]int{}, map[int32]int{}
	for _, th := range n.Threads().List {
		if th.Device >= 0 {
			devices[th.Device] = th.Cuts
		} else {
			links[th.Link] = th.Cuts
		}
	}
	return devices, links
}

func (n *Network) stratum(d *lab.Device, core bool) Stratum {
	switch {
	case d.Kind == lab.Modem:
		return Outside
	case d.Routes():
		return Edge
	case core:
		return Core
	case d.Passes():
		return Access
	}
	return Things
}

// heart finds the switches at the core: those that a router is linked to, and where
// that is none the one with most links.
func (n *Network) heart(others [][]int32) map[int32]bool {
	core := map[int32]bool{}
	most := int32(-1)
	for i := range n.nodes {
		if !n.w.DeviceAt(int32(i)).IsSwitch() {
			continue
		}
		if most < 0 || len(others[i]) > len(others[most]) {
			most = int32(i)
		}
		if slices.ContainsFunc(others[i], func(o int32) bool { return n.w.DeviceAt(o).Routes() }) {
			core[int32(i)] = true
		}
	}
	if len(core) == 0 && most >= 0 {
		core[most] = true
	}
	return core
}
