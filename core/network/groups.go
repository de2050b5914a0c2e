package network

import (
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Group is an aggregate with the links that its ports have, and what it comes to.
type Group struct {
	lab.Aggregate
	Device int32
	Links  []int32 // of each port in the order of the ports, -1 where it has none
	Far    []int32 // the devices at the other ends, each once
	// Other is the number of the group at the other end, -1 where there is none.
	Other int
	// TogetherMb is what it carries in all, and FlowMb what one flow gets: one of
	// its members. 0 while unknown; AtLeast where that of a member is.
	TogetherMb, FlowMb int
	AtLeast            bool
}

// Groups lists the aggregates there are, by their devices.
func (n *Network) Groups() []Group { return n.groups() }

// aggregate finds what each aggregate joins, over the cables there are. Links that
// are active together add up, and one flow gets one of them; of active-standby ones
// the first that is there carries.
func (n *Network) aggregate() []Group {
	var list []Group
	for i := range n.nodes {
		d := n.w.DeviceAt(int32(i))
		if len(d.Aggregates) == 0 {
			continue
		}
		for _, a := range d.Aggregates {
			g := Group{Aggregate: a, Device: int32(i), Other: -1}
			for _, port := range a.Ports {
				link := int32(-1)
				if p, ok := n.w.PortNumber(int32(i), port); ok {
					if found, linked := n.tips()[cabling.Tip{Device: int32(i), Port: p}]; linked {
						link = found
						if far := n.far(link, g.Device); !slices.Contains(g.Far, far) {
							g.Far = append(g.Far, far)
						}
					}
				}
				g.Links = append(g.Links, link)
			}
			n.measure(&g)
			list = append(list, g)
		}
	}
	for i := range list {
		for k := range list {
			if i != k && list[i].meets(list[k]) {
				list[i].Other = k
				break
			}
		}
	}
	return list
}

// meets reports whether two groups have a link between them.
func (g Group) meets(o Group) bool {
	return slices.ContainsFunc(g.Links, func(l int32) bool { return l >= 0 && slices.Contains(o.Links, l) })
}

// byTip finds the link at each port.
func (n *Network) byTip() map[cabling.Tip]int32 {
	at := make(map[cabling.Tip]int32, 2*len(n.links))
	for i := range n.links {
		if l := &n.links[i]; l.A.Plugged() {
			at[l.A], at[l.B] = int32(i), int32(i)
		}
	}
	return at
}

// far is the device at the other end of a link.
func (n *Network) far(link, device int32) int32 {
	if l := &n.links[link]; l.A.Device == device {
		return l.B.Device
	}
	return n.links[link].A.Device
}

// measure works out what a group carries.
func (n *Network) measure(g *Group) {
	for _, link := range g.Links {
		if link < 0 || n.links[link].Down {
			continue
		}
		mb := n.links[link].Mb
		switch {
		case mb == 0:
			g.AtLeast = true
		case g.FlowMb == 0:
			g.TogetherMb, g.FlowMb = mb, mb
		case g.Mode == lab.ActiveActive:
			g.TogetherMb += mb
			g.FlowMb = min(g.FlowMb, mb)
		}
		if g.Mode == lab.ActiveStandby {
			return
		}
	}
}

// Standby reports whether a link only stands by for the first one of its group.
func (g Group) Standby(link int32) bool {
	if g.Mode != lab.ActiveStandby {
		return false
	}
	first := slices.IndexFunc(g.Links, func(l int32) bool { return l >= 0 })
	return first >= 0 && g.Links[first] != link && slices.Contains(g.Links, link)
}
