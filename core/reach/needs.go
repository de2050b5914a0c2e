package reach

import (
	"fmt"
	"slices"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// How what is reached over the network needs that.
const (
	GatewayOver = "gets to its gateway over"
	Gateway     = "is routed by"
)

// Needs adds what the network gives to guests, and to services that run on devices: the
// gateway of a VLAN that they are in, over links that carry the VLAN as far as those are
// written down. Of several legs any one will do. A guest that gets to another host by
// itself has its way from there, too: elsewhere are those, by guest.
func (r *Routing) Needs(g *need.Graph, elsewhere map[lab.ID]lab.ID) {
	thing := func(id lab.ID) int32 { return g.Thing(need.Thing{Key: lab.Key{Kind: lab.KindDevice, ID: id}}) }
	ways := map[string]map[lab.ID]int32{} // by VLAN and gateways: several subnets in one may share them
	serving := map[lab.ID][]int32{}
	for v := range lab.Each[lab.Service](r.lab) {
		serving[v.In] = append(serving[v.In], g.Thing(need.Thing{Key: v.Key()}))
	}
	for d := range lab.Each[lab.Device](r.lab) {
		reached := serving[d.ID]
		if d.IsGuest() {
			reached = []int32{thing(d.ID)}
		}
		if reached == nil {
			continue
		}
		host, _ := r.lab.HostOf(d)
		var legs []int32
		how := Gateway
		for _, subnet := range r.subnetsOf(d) {
			gates := r.gatesIn(subnet)
			if len(gates) == 0 || slices.Contains(gates, d.ID) {
				continue
			}
			leg := g.Step()
			var any []int32
			for _, id := range gates {
				any = append(any, thing(id))
			}
			g.Needs(leg, need.Need{Any: any, How: Gateway})
			if v, ok := address.VLANOf(r.plan.Subnets()[subnet]); ok {
				by := fmt.Sprint(v, gates)
				if ways[by] == nil {
					ways[by] = r.net.FromGates(g, v.Number, v.Domain, gates)
				}
				var sides []int32
				for _, at := range []lab.ID{host.ID, elsewhere[d.ID]} {
					if side, known := ways[by][at]; known {
						sides = append(sides, side)
					}
				}
				if _, known := ways[by][host.ID]; known {
					how = GatewayOver
					g.Needs(leg, need.Need{Any: sides})
				}
			}
			legs = append(legs, leg)
		}
		for _, n := range reached {
			if legs != nil {
				g.Needs(n, need.Need{Any: legs, How: how})
			}
		}
	}
}

// subnetsOf are the subnets that a device has addresses in, or else those of the VLANs of
// its legs.
func (r *Routing) subnetsOf(d lab.Device) []int {
	var list []int
	for _, h := range r.plan.OfDevice(d.ID) {
		if h.Subnet != address.None && !slices.Contains(list, h.Subnet) {
			list = append(list, h.Subnet)
		}
	}
	if list == nil && d.IsGuest() {
		for _, leg := range d.Legs() {
			if leg.VLAN > 0 {
				list = append(list, r.plan.OfVLAN(address.VLAN{Number: leg.VLAN})...)
			}
		}
	}
	return list
}

// gatesIn are the running devices that have the address of a subnet's gateway.
func (r *Routing) gatesIn(subnet int) []lab.ID {
	s := &r.plan.Subnets()[subnet]
	if !s.Gateway.IsValid() {
		return nil
	}
	var list []lab.ID
	for _, h := range r.plan.At(s.Gateway) {
		if d, ok := lab.Find[lab.Device](r.lab, h.Device); ok && h.Subnet == subnet && d.State == lab.Running {
			list = append(list, h.Device)
		}
	}
	return list
}
