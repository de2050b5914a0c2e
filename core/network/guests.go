package network

import (
	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// airPort is what the end of a link through the air is called that nobody named.
const airPort = "air"

// mix tells the clouds which VLANs their access points send.
func (n *Network) mix() {
	for net := range lab.Each[lab.WirelessNetwork](n.lab) {
		for _, id := range net.Points {
			point, ok := n.w.Number(id)
			if !ok || net.VLAN == nil || n.nodes[point].role != Passes {
				continue
			}
			c := &n.clouds[n.nodes[point].at]
			if c.sent == nil {
				c.sent = map[int]bool{}
			}
			c.sent[*net.VLAN] = true
		}
	}
}

// guests adds the air between access points and the guests of their wireless
// networks, and tells which of those a link without a cable belongs to.
func (n *Network) guests() {
	sent := map[int32][]lab.WirelessNetwork{} // by the device that sends it
	guests := map[lab.ID][]int32{}
	for i := range n.nodes {
		if on := n.w.DeviceAt(int32(i)).Wireless; on != "" {
			guests[on] = append(guests[on], int32(i))
		}
	}
	for net := range lab.Each[lab.WirelessNetwork](n.lab) {
		for _, id := range net.Points {
			point, ok := n.w.Number(id)
			if !ok {
				continue
			}
			sent[point] = append(sent[point], net)
			for _, guest := range guests[net.ID] {
				n.links = append(n.links, Link{Link: cabling.Link{A: cabling.AirTip(point, airPort), B: cabling.AirTip(guest, airPort),
					Down: n.nodes[point].role == Idle}, Guest: net.ID, guest: numberOf(net)})
			}
		}
	}
	for i := range n.links {
		l := &n.links[i]
		if l.Air == nil || l.Air.Carries().Said {
			continue
		}
		point, guest := l.A.Device, l.B.Device
		if len(sent[point]) == 0 {
			point, guest = guest, point
		}
		switch networks := sent[point]; {
		case len(networks) == 0 || n.nodes[guest].role != Ends:
		case n.w.DeviceAt(guest).Wireless != "" || len(networks) > 1:
			l.lost = true // the former is there already
		default:
			l.Guest, l.guest = networks[0].ID, numberOf(networks[0])
		}
	}
}

func numberOf(net lab.WirelessNetwork) int {
	if net.VLAN == nil {
		return 0
	}
	return *net.VLAN
}
