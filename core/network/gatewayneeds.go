package network

import (
	"fmt"

	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// FromGates adds to what needs what how frames of a VLAN get from some gateways to the
// devices that the VLAN reaches: over links that carry it, by what passes frames on. It
// gives, by device, the side of it that is up while the VLAN gets there from a gateway;
// none where that is not written down. A gateway that is a guest is at its host.
func (n *Network) FromGates(g *need.Graph, number int, domain string, gates []lab.ID) map[lab.ID]int32 {
	at := map[int32][]int32{} // by device the gateways there
	for _, id := range gates {
		d, _ := lab.Find[lab.Device](n.lab, id)
		host, _ := n.lab.HostOf(d)
		if i, known := n.w.Number(host.ID); known {
			step := g.Step()
			g.Needs(step, need.Need{Any: []int32{g.Thing(need.Thing{Key: d.Key()})}})
			g.Source(step)
			at[i] = append(at[i], step)
		}
	}
	sides := map[lab.ID]int32{}
	for _, s := range n.Spreads() {
		if s.VLAN.Number != number || s.VLAN.Domain != domain {
			continue
		}
		for _, piece := range s.Pieces {
			n.fromGatesIn(g, fmt.Sprint("VLAN ", number, domain, gates), piece, at, sides)
		}
	}
	return sides
}

// fromGatesIn does so for one piece of a spread, where the side goes by a name; a piece
// without a gateway adds nothing.
func (n *Network) fromGatesIn(g *need.Graph, name string, piece Piece, at map[int32][]int32, sides map[lab.ID]int32) {
	devices := piece.Devices()
	hops, begins := map[int32][]int32{}, false
	for _, d := range devices {
		hops[d] = append(hops[d], at[d]...)
		begins = begins || len(at[d]) > 0
	}
	if !begins {
		return
	}
	side := func(device int32) int32 {
		return g.Thing(need.Thing{Key: n.w.DeviceAt(device).Key(), Side: name})
	}
	for _, i := range piece.Links {
		l := &n.links[i]
		if l.Down || l.lost || l.A.Device == l.B.Device {
			continue
		}
		link := n.linkThing(g, l)
		for _, hop := range [][2]int32{{l.A.Device, l.B.Device}, {l.B.Device, l.A.Device}} {
			if from, to := hop[0], hop[1]; n.mesh.passes[from] || len(at[from]) > 0 {
				step := g.Step()
				g.Needs(step, need.Need{Any: []int32{link}})
				g.Needs(step, need.Need{Any: []int32{side(from)}, Comes: true})
				hops[to] = append(hops[to], step)
			}
		}
	}
	for _, d := range devices {
		is := side(d)
		g.Needs(is, need.Need{Any: []int32{g.Thing(need.Thing{Key: n.w.DeviceAt(d).Key()})}})
		g.Needs(is, need.Need{Any: hops[d], Comes: true})
		sides[n.w.DeviceAt(d).ID] = is
	}
}
