package reach

import (
	"fmt"
	"net/netip"
	"slices"

	"levelstaff/core/address"
	"levelstaff/core/lab"
)

// mostHops bounds how many routers a packet goes through.
const mostHops = 16

// outcome is whether something is reached, and by what or why not.
type outcome struct {
	ok  bool
	why string
}

func no(format string, args ...any) outcome { return outcome{why: fmt.Sprintf(format, args...)} }

// toSubnet is whether a router gets packets to a subnet.
func (r *Routing) toSubnet(i int, to *lab.Subnet, at, hops int) outcome {
	is := &r.routers[i]
	if leg := is.leg(at); leg != nil {
		return outcome{leg.Off == "", leg.Off}
	}
	for _, t := range is.tunnels {
		if slices.ContainsFunc(t.Joins, func(p netip.Prefix) bool { return covers(p, to.CIDR) }) {
			return outcome{ok: true}
		}
	}
	route, ok := is.route(to.CIDR)
	if !ok {
		return outcome{why: is.Title() + " has no leg in " + r.nets[at].title} // often: not by way of a pattern
	}
	return r.follow(i, route, hops, func(next int) outcome { return r.toSubnet(next, to, at, hops+1) })
}

// covers reports whether a prefix has all of another one in it.
func covers(p, of netip.Prefix) bool { return p.Bits() <= of.Bits() && p.Contains(of.Addr()) }

// route is the longest route to a subnet.
func (is *Router) route(to netip.Prefix) (best lab.Route, ok bool) {
	for _, route := range is.routes {
		if covers(route.CIDR, to) && (!ok || route.CIDR.Bits() > best.CIDR.Bits()) {
			best, ok = route, true
		}
	}
	return best, ok
}

// follow goes on at the router that a route leads via.
func (r *Routing) follow(i int, route lab.Route, hops int, on func(next int) outcome) outcome {
	is := &r.routers[i]
	at := r.plan.Containing(route.Via)
	switch {
	case hops >= mostHops:
		return no("the routes of %s lead round in a circle", is.Title())
	case !route.Via.IsValid():
		return no("the route to %s of %s does not say via what", route.CIDR, is.Title())
	case at == address.None || is.leg(r.of[at]) == nil:
		return no("%s has no leg where %s is, via which it sends what is for %s", is.Title(), route.Via, route.CIDR)
	}
	if leg := is.leg(r.of[at]); leg.Off != "" {
		return outcome{why: leg.Off}
	}
	for _, h := range r.plan.At(route.Via) {
		for _, next := range r.on[h.Device] {
			if next != i && r.routers[next].leg(r.of[at]) != nil {
				return on(next)
			}
		}
	}
	return no("%s sends what is for %s to %s, which no router has", is.Title(), route.CIDR, route.Via)
}

// toOutside is whether a router gets packets outside, over that line where one is
// named.
func (r *Routing) toOutside(i int, only lab.ID, v4 bool, hops int) outcome {
	is := &r.routers[i]
	var out, wrong string
	for _, w := range r.lines {
		switch {
		case !slices.Contains(r.into[w.ID], i):
		case w.Out == lab.LineOut:
			out = w.Title()
		case only != "" && w.ID != only:
			wrong = w.Title()
		default:
			return outcome{ok: true}
		}
	}
	all := netip.PrefixFrom(netip.IPv6Unspecified(), 0)
	if v4 {
		all = netip.PrefixFrom(netip.IPv4Unspecified(), 0)
	}
	if route, ok := is.route(all); ok {
		return r.follow(i, route, hops, func(next int) outcome { return r.toOutside(next, only, v4, hops+1) })
	}
	w, _ := lab.Find[lab.Line](r.lab, only)
	switch {
	case only != "" && w.Out == lab.LineOut:
		return no("it may take %s only, which is out", w.Title())
	case wrong != "":
		return no("it may take %s only, which does not go into %s", w.Title(), is.Title())
	case out != "":
		return no("%s is out", out)
	}
	return no("no line goes into %s", is.Title())
}

// gateway is the routers that a subnet names as its own; without one why says what is
// wrong.
type gateway struct {
	routers []int
	why     string
}

// gatewaysOf are the routers that a subnet names as its gateway.
func (r *Routing) gatewaysOf(subnet int) (routers []int, why string) {
	return r.gates[subnet].routers, r.gates[subnet].why
}

func (r *Routing) gatewayOf(subnet int) (g gateway) {
	s := &r.plan.Subnets()[subnet]
	if !s.Gateway.IsValid() {
		if !slices.ContainsFunc(r.routers, func(is Router) bool { return is.leg(r.of[subnet]) != nil }) {
			return gateway{why: r.noLeg(r.of[subnet]).why}
		}
		return gateway{why: s.Title() + " names no gateway"}
	}
	g.why = fmt.Sprintf("nothing has %s, the gateway of %s", s.Gateway, s.Title())
	for _, h := range r.plan.At(s.Gateway) {
		if h.Device == "" || h.Subnet != subnet {
			continue
		}
		d, _ := lab.Find[lab.Device](r.lab, h.Device)
		g.why = d.Title() + " has the gateway's address and does not route"
		if d.State != lab.Running {
			g.why = d.Title() + ", the gateway, does not run"
		}
		for _, i := range r.on[h.Device] {
			if leg := r.routers[i].leg(r.of[subnet]); leg != nil && leg.Off == "" {
				g.routers = append(g.routers, i)
			} else if leg != nil {
				g.why = leg.Off
			}
		}
	}
	return g
}

// between is whether one segment reaches another over its gateways, and is answered.
func (r *Routing) between(a, b int) outcome {
	if a == b {
		return outcome{true, "both are in " + r.nets[a].title}
	}
	if ok := r.bothLegs(a, b); ok != nil {
		return *ok
	}
	if len(r.nets[a].subnets) == 0 {
		return r.noLeg(a)
	}
	if len(r.nets[b].subnets) == 0 {
		return r.noLeg(b)
	}
	first := outcome{}
	for _, from := range r.nets[a].subnets {
		for _, to := range r.nets[b].subnets {
			if r.plan.Subnets()[from].CIDR.Addr().Is4() != r.plan.Subnets()[to].CIDR.Addr().Is4() {
				continue
			}
			is := r.overGateway(from, to)
			if is.ok {
				return is
			}
			if first.why == "" {
				first = is
			}
		}
	}
	if first.why == "" {
		return no("%s and %s have no subnets of the same kind, IPv4 or IPv6", r.nets[a].title, r.nets[b].title)
	}
	return first
}

// bothLegs are two segments without subnets that a virtual router is said to have legs
// in; nil where addresses tell.
func (r *Routing) bothLegs(a, b int) *outcome {
	if len(r.nets[a].subnets) > 0 && len(r.nets[b].subnets) > 0 {
		return nil
	}
	for i := range r.routers {
		x, y := r.routers[i].leg(a), r.routers[i].leg(b)
		if x == nil || y == nil {
			continue
		}
		if x.Off != "" || y.Off != "" {
			return &outcome{why: x.Off + y.Off}
		}
		return &outcome{true, r.routers[i].Title() + " has a leg in both"}
	}
	return nil
}

// noLeg says that no router is in a segment: the one that most others are in is named.
func (r *Routing) noLeg(at int) outcome {
	most := -1
	for i := range r.routers {
		if r.routers[i].leg(at) != nil {
			return no("%s has no subnet, so %s has no address there", r.nets[at].title, r.routers[i].Title())
		}
		if most < 0 || len(r.routers[i].Legs) > len(r.routers[most].Legs) {
			most = i
		}
	}
	if most < 0 || len(r.routers[most].Legs) == 0 {
		return no("no router has an address in %s", r.nets[at].title)
	}
	return no("%s has no leg in %s", r.routers[most].Title(), r.nets[at].title)
}

// overGateway is whether one subnet reaches another over its gateway, and is answered
// over that of the other.
func (r *Routing) overGateway(from, to int) outcome {
	there, back := &r.plan.Subnets()[to], &r.plan.Subnets()[from]
	switch {
	case r.tunnelled[from] == "":
	case r.tunnelled[to] != "":
		return betweenSites
	default: // what gets there is answered from there, and what begins there likewise
		return r.overGateway(to, from)
	}
	routers, why := r.gatewaysOf(from)
	result := outcome{why: why}
	by := ""
	for _, i := range routers {
		if result = r.toSubnet(i, there, r.of[to], 0); result.ok {
			by = r.routers[i].Title()
			break
		}
	}
	if !result.ok {
		return result
	}
	if r.tunnelled[to] != "" {
		return outcome{true, "over " + by + " and its tunnel"}
	}
	answering, why := r.gatewaysOf(to)
	if len(answering) == 0 {
		return no("nothing there can answer: %s", why)
	}
	for _, i := range answering {
		if result = r.toSubnet(i, back, r.of[from], 0); result.ok {
			return outcome{true, "over " + by}
		}
	}
	return no("nothing there can answer: %s", result.why)
}

// tunnelTo is the tunnel at whose other end a subnet is: nothing here has a leg in it.
// It is "" where there is none.
func (r *Routing) tunnelTo(subnet int) string {
	for i := range r.routers {
		if r.routers[i].leg(r.of[subnet]) != nil {
			return ""
		}
	}
	s := r.plan.Subnets()[subnet]
	for t := range lab.Each[lab.Tunnel](r.lab) {
		if slices.ContainsFunc(t.Joins, func(p netip.Prefix) bool { return covers(p, s.CIDR) }) {
			return t.Title()
		}
	}
	return ""
}

// outside is whether a segment gets outside.
func (r *Routing) outside(a int, only lab.ID) outcome {
	if len(r.nets[a].subnets) == 0 {
		for i := range r.routers {
			if leg := r.routers[i].leg(a); leg != nil && leg.Off == "" {
				return r.toOutside(i, only, true, 0)
			}
		}
		return r.noLeg(a)
	}
	first := outcome{}
	for _, from := range r.nets[a].subnets {
		routers, why := r.gatewaysOf(from)
		is := outcome{why: why}
		if t := r.tunnelled[from]; t != "" {
			is = no("it is behind the tunnel %s, and goes outside there", t)
		}
		for _, i := range routers {
			if is = r.toOutside(i, only, r.plan.Subnets()[from].CIDR.Addr().Is4(), 0); is.ok {
				return outcome{true, "over " + r.routers[i].Title()}
			}
		}
		if first.why == "" {
			first = is
		}
	}
	return first
}

// around says what goes from one segment to another past its gateway, "" where nothing
// does: what joins both without knowing of VLANs, another router, or a machine that
// routes.
func (r *Routing) around(a, b int) string {
	if why := r.mixed[[2]int{a, b}]; why != "" {
		return why
	}
	var gates []int
	for _, from := range r.nets[a].subnets {
		routers, _ := r.gatewaysOf(from)
		gates = append(gates, routers...)
	}
	var both []int
	for i := range r.routers {
		x, y := r.routers[i].leg(a), r.routers[i].leg(b)
		if x != nil && y != nil && x.Off == "" && y.Off == "" {
			both = append(both, i)
		}
	}
	for _, i := range both {
		is := r.routers[i]
		if len(gates) > 0 && !slices.Contains(gates, i) || len(gates) == 0 && len(both) > 1 && i != both[0] {
			return is.Title() + " has a leg in both and routes past the gateway"
		}
	}
	return ""
}
