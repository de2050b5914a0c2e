// Package reach works out who reaches whom: which routers have legs in which
// networks and what their routes lead to, which lines lead outside, and whether what
// is written down about it can hold.
//
// What nobody said is a value of its own. Where the cables to a router are not
// written down, they are not held against it.
package reach

import (
	"fmt"
	"net/netip"
	"slices"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/network"
)

// Routing is what routes in a lab and where to. It is worked out once for a lab and
// then only read.
type Routing struct {
	lab       *lab.Lab
	net       *network.Network
	plan      *address.Plan
	nets      []segment
	byVLAN    map[address.VLAN]int
	of        []int     // the segment of each subnet of the plan
	gates     []gateway // of each subnet
	tunnelled []string  // and the tunnel at whose other end it is, "" for what is here
	routers   []Router
	on        map[lab.ID][]int // the routers of a device
	links     [][]int32        // of each device, by its number in the wiring
	said      map[int]bool     // segments of VLANs that some port is said to carry
	lines     []lab.Line       // of this house, in their order
	into      map[lab.ID][]int // the routers that a line goes into
	rules     map[[2]lab.Endpoint]lab.Rule
	mixed     map[[2]int]string
}

// segment is what reaches itself without a router: a VLAN, a subnet in none, or a
// link that is a network of its own.
type segment struct {
	vlan    address.VLAN // its number is 0 for what is no VLAN
	title   string
	subnets []int
}

// Router is one routing table: a device's own, or a virtual router's.
type Router struct {
	Device  lab.Device
	Virtual lab.VirtualRouter // its ID is "" for the device's own
	Legs    []Leg
	routes  []lab.Route
	tunnels []lab.Tunnel
}

// Title is what one calls it.
func (r *Router) Title() string {
	if r.Virtual.ID != "" {
		return r.Virtual.Title()
	}
	return r.Device.Title()
}

// Leg is a network that a router is in. Off says why frames do not get there, "" where
// they do or where that is not known.
type Leg struct {
	Segment int
	Off     string
}

// Of is the routing of a lab.
func Of(l *lab.Lab) *Routing { return lab.Derived(l, newRouting) }

func newRouting(l *lab.Lab) *Routing {
	r := &Routing{lab: l, net: network.Of(l), plan: address.Of(l), byVLAN: map[address.VLAN]int{}, on: map[lab.ID][]int{},
		said: map[int]bool{}, into: map[lab.ID][]int{}, rules: map[[2]lab.Endpoint]lab.Rule{}}
	for _, v := range r.net.VLANs() {
		r.segmentOf(vlanOf(v), "")
	}
	for i, s := range r.plan.Subnets() {
		v, _ := address.VLANOf(s)
		at := r.segmentOf(v, s.Title())
		r.nets[at].subnets = append(r.nets[at].subnets, i)
		r.of = append(r.of, at)
	}
	r.links = make([][]int32, r.net.Wiring().DeviceCount())
	for i := range r.net.Links() {
		l := &r.net.Links()[i]
		r.links[l.A.Device] = append(r.links[l.A.Device], int32(i))
		r.links[l.B.Device] = append(r.links[l.B.Device], int32(i))
	}
	for _, s := range r.net.Spreads() {
		r.said[r.byVLAN[vlanOf(s.VLAN)]] = len(s.Pieces) > 0
	}
	r.findRouters()
	for i := range r.plan.Subnets() {
		r.gates = append(r.gates, r.gatewayOf(i))
		r.tunnelled = append(r.tunnelled, r.tunnelTo(i))
	}
	r.findLines()
	for rule := range lab.Each[lab.Rule](l) {
		if rule.From != nil && rule.To != nil {
			r.rules[[2]lab.Endpoint{*rule.From, *rule.To}] = rule
		}
	}
	r.mix()
	return r
}

// segmentOf is the number of a VLAN's segment, or that of a new one for what is in
// none.
func (r *Routing) segmentOf(v address.VLAN, title string) int {
	if v.Number > 0 {
		if at, known := r.byVLAN[v]; known {
			return at
		}
		r.byVLAN[v] = len(r.nets)
		title = r.vlanTitle(v)
	}
	r.nets = append(r.nets, segment{vlan: v, title: title})
	return len(r.nets) - 1
}

// vlanTitle is a VLAN as sentences about reach name it: "servers (20)".
func (r *Routing) vlanTitle(v address.VLAN) string {
	if name := v.NameIn(r.lab); name != "" {
		return fmt.Sprintf("%s (%d)", name, v.Number)
	}
	return fmt.Sprintf("VLAN %d", v.Number)
}

// findRouters finds what routes and the legs of each: those of a device are the
// networks that it has addresses in, those of a virtual router on it the VLANs that it
// has.
func (r *Routing) findRouters() {
	virtual := map[lab.ID][]lab.VirtualRouter{}
	for v := range lab.Each[lab.VirtualRouter](r.lab) {
		virtual[v.Device] = append(virtual[v.Device], v)
	}
	for d := range lab.Each[lab.Device](r.lab) {
		if d.State != lab.Running || !d.PassesPackets() && len(virtual[d.ID]) == 0 {
			continue
		}
		own := Router{Device: d}
		var others []Router
		inOther := map[int]bool{}
		for _, v := range virtual[d.ID] {
			is := Router{Device: d, Virtual: v}
			for n := range v.VLANs.Numbers() {
				at := r.segmentOf(address.VLAN{Number: n, Domain: d.Domain}, "")
				inOther[at] = true
				is.addLeg(r.legIn(d, at))
			}
			others = append(others, is)
		}
		for _, h := range r.plan.OfDevice(d.ID) {
			if h.Subnet != address.None && !inOther[r.of[h.Subnet]] {
				own.addLeg(r.legIn(d, r.of[h.Subnet]))
			}
		}
		list := others
		if d.PassesPackets() {
			list = append([]Router{own}, others...)
		}
		for _, is := range list {
			r.on[d.ID] = append(r.on[d.ID], len(r.routers))
			r.routers = append(r.routers, is)
		}
	}
	r.findRoutes()
}

func (is *Router) addLeg(leg Leg) {
	if !slices.ContainsFunc(is.Legs, func(o Leg) bool { return o.Segment == leg.Segment }) {
		is.Legs = append(is.Legs, leg)
	}
}

// findRoutes tells the routers their routes: one that says of no router is of those
// with a leg where it leads via, but for the one that is there.
func (r *Routing) findRoutes() {
	for route := range lab.Each[lab.Route](r.lab) {
		via := r.plan.Containing(route.Via)
		for i := range r.routers {
			is := &r.routers[i]
			switch {
			case route.Router != "":
				if is.Virtual.ID != route.Router {
					continue
				}
			case route.Device != "":
				if is.Device.ID != route.Device || is.Virtual.ID != "" {
					continue
				}
			case via == address.None || is.leg(r.of[via]) == nil || r.has(is.Device.ID, route.Via) || is.Virtual.ID != "":
				continue
			}
			is.routes = append(is.routes, route)
		}
	}
	for t := range lab.Each[lab.Tunnel](r.lab) {
		for _, i := range r.on[t.Device] {
			if is := &r.routers[i]; is.Virtual.ID == "" {
				is.tunnels = append(is.tunnels, t)
			}
		}
	}
}

// has reports whether a device has an address.
func (r *Routing) has(device lab.ID, a netip.Addr) bool {
	return slices.ContainsFunc(r.plan.At(a), func(h address.Had) bool { return h.Device == device })
}

func (is *Router) leg(segment int) *Leg {
	i := slices.IndexFunc(is.Legs, func(l Leg) bool { return l.Segment == segment })
	if i < 0 {
		return nil
	}
	return &is.Legs[i]
}

// linksOf are the links of a device, of a guest those of its host.
func (r *Routing) linksOf(id lab.ID) []int32 {
	d, _ := lab.Find[lab.Device](r.lab, id)
	host, _ := r.lab.HostOf(d)
	if n, ok := r.net.Wiring().Number(host.ID); ok {
		return r.links[n]
	}
	return nil
}

// legIn is a leg of a device, with what keeps frames from it.
func (r *Routing) legIn(d lab.Device, at int) Leg {
	leg := Leg{Segment: at}
	if len(r.linksOf(d.ID)) > 0 && r.said[at] && !r.gets(d.ID, at) {
		leg.Off = fmt.Sprintf("no cable carries %s to %s", r.nets[at].title, d.Title())
	}
	return leg
}

// gets reports whether a VLAN gets to a device over one of its links.
func (r *Routing) gets(device lab.ID, at int) bool {
	for _, link := range r.linksOf(device) {
		for v := range r.net.Over(link) {
			if r.byVLAN[vlanOf(v)] == at {
				return true
			}
		}
	}
	return false
}

func vlanOf(v network.VLAN) address.VLAN { return address.VLAN{Number: v.Number, Domain: v.Domain} }

// mix tells which VLANs are one all the same.
func (r *Routing) mix() {
	r.mixed = map[[2]int]string{}
	for _, m := range r.net.Mixed() {
		a, b := r.byVLAN[vlanOf(m.A)], r.byVLAN[vlanOf(m.B)]
		why := ""
		if m.Through >= 0 {
			why = r.net.Wiring().DeviceAt(m.Through).Title() + " joins both without knowing of VLANs"
		} else {
			x, y := r.net.EndWords(m.Link)
			why = fmt.Sprintf("the link between %s and %s joins both, untagged", x, y)
		}
		r.mixed[[2]int{a, b}], r.mixed[[2]int{b, a}] = why, why
	}
}

// Routers are what routes, each with its legs.
func (r *Routing) Routers() []Router { return r.routers }

// SegmentTitle is what a leg's network is called.
func (r *Routing) SegmentTitle(segment int) string { return r.nets[segment].title }

// VLANOf is the VLAN of a leg's network; its number is 0 where it is none.
func (r *Routing) VLANOf(segment int) address.VLAN { return r.nets[segment].vlan }

// HasRouter reports whether a router has an address in a subnet of the plan.
func (r *Routing) HasRouter(subnet int) bool {
	return slices.ContainsFunc(r.plan.In(subnet), func(h address.Had) bool { return len(r.on[h.Device]) > 0 })
}

// Routed reports whether a line leads to a router.
func (r *Routing) Routed(w lab.Line) bool { return len(r.into[w.ID]) > 0 }

// SameTable reports whether two subnets are in one routing table, and whose: by is ""
// where no router is in either, and nothing says that they are kept apart.
func (r *Routing) SameTable(a, b int) (by string, same bool) {
	any := false
	for i := range r.routers {
		x, y := r.routers[i].leg(r.of[a]), r.routers[i].leg(r.of[b])
		if x != nil && y != nil {
			return r.routers[i].Title(), true
		}
		any = any || x != nil || y != nil
	}
	return "", !any
}
