package reach

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/lab"
)

// Cell is what one side reaches of another: what is written down, and whether wiring
// and legs let it.
type Cell struct {
	From, To lab.Endpoint
	Said     lab.Reach
	// Can: for all, some and not said it is reached; for none nothing goes round the
	// rule.
	Can  bool
	Why  string
	Rule lab.Rule // its ID is "" where nobody said anything
}

// Endpoints are the sides there are: VLANs, subnets in none of those, remote accesses,
// whatever else a rule speaks of, and the internet last.
func (r *Routing) Endpoints() []lab.Endpoint {
	var list []lab.Endpoint
	add := func(e lab.Endpoint) {
		if !slices.Contains(list, e) && e.Kind != lab.Internet {
			list = append(list, e)
		}
	}
	for _, v := range r.net.VLANs() {
		if v.Record.ID != "" {
			add(lab.EndpointOf(v.Record.Key()))
		}
	}
	for _, s := range r.plan.Subnets() {
		if v, ok := address.VLANOf(s); !ok || !r.declared(v) {
			add(lab.EndpointOf(s.Key()))
		}
	}
	for a := range lab.Each[lab.RemoteAccess](r.lab) {
		add(lab.EndpointOf(a.Key()))
	}
	for rule := range lab.Each[lab.Rule](r.lab) {
		for _, e := range []*lab.Endpoint{rule.From, rule.To} {
			if e != nil {
				add(*e)
			}
		}
	}
	return append(list, lab.Endpoint{Kind: lab.Internet})
}

func (r *Routing) declared(v address.VLAN) bool {
	_, ok := r.lab.Having(lab.KindVLAN, lab.VLANKey(v.Number, v.Domain))
	return ok
}

// Table is a cell for every two sides, row by row.
func (r *Routing) Table() []Cell {
	ends := r.Endpoints()
	places := make([]place, len(ends))
	for i, e := range ends {
		places[i] = r.placeOf(e)
	}
	known := &outcomes{n: len(r.nets), list: make([]outcome, len(r.nets)*len(r.nets))}
	cells := make([]Cell, 0, len(ends)*len(ends))
	for i, from := range ends {
		for j, to := range ends {
			if i != j && r.isReached(from, to) {
				cells = append(cells, r.cell(from, to, places[i], places[j], known))
			}
		}
	}
	return cells
}

// isReached reports whether a side can be reached at all: a remote access is a way in and
// not a place, unless a rule says so.
func (r *Routing) isReached(from, to lab.Endpoint) bool {
	if to.Kind != lab.EndpointKind(lab.KindRemoteAccess) {
		return true
	}
	_, said := r.rules[[2]lab.Endpoint{from, to}]
	return said
}

// Cell is what one side reaches of another.
func (r *Routing) Cell(from, to lab.Endpoint) Cell {
	return r.cell(from, to, r.placeOf(from), r.placeOf(to), nil)
}

// outcomes are those between segments that were worked out already.
type outcomes struct {
	n    int
	list []outcome // of a segment and another one; without a why it is not known yet
}

func (k *outcomes) of(a, b int, between func(a, b int) outcome) outcome {
	if k == nil {
		return between(a, b)
	}
	at := &k.list[a*k.n+b]
	if at.why == "" {
		*at = between(a, b)
	}
	return *at
}

// place is where a side is in the network: its segments. bad says why it is nowhere.
type place struct {
	segments []int
	bad      string
	tunnel   *lab.Tunnel
}

func (r *Routing) placeOf(e lab.Endpoint) place {
	switch is := r.lab.Get(e.Key()).(type) {
	case lab.VLAN:
		return place{segments: []int{r.byVLAN[address.VLAN{Number: is.Number, Domain: is.Domain}]}}
	case lab.Subnet:
		n, _ := r.plan.Number(is.ID)
		return place{segments: []int{r.of[n]}}
	case lab.Device:
		return r.placeOfDevice(is)
	case lab.RemoteAccess:
		d, ok := lab.Find[lab.Device](r.lab, is.Device)
		if !ok {
			return place{bad: "it is not said where " + is.Title() + " comes in"}
		}
		p := r.placeOfDevice(d)
		if in := r.comesIn(); !in.ok {
			p.bad = in.why
		}
		return p
	case lab.Tunnel:
		return place{tunnel: &is}
	}
	return place{}
}

// placeOfDevice is where a device is: in the networks of its addresses, or, where it has
// none that is known, in the VLANs that get to it.
func (r *Routing) placeOfDevice(d lab.Device) place {
	p := place{}
	d = r.lab.AnswersAs(d)
	for _, h := range r.plan.OfDevice(d.ID) {
		if h.Subnet != address.None && !slices.Contains(p.segments, r.of[h.Subnet]) {
			p.segments = append(p.segments, r.of[h.Subnet])
		}
	}
	if len(p.segments) > 0 {
		return p
	}
	for _, link := range r.linksOf(d.ID) {
		for v := range r.net.Over(link) {
			if at := r.byVLAN[vlanOf(v)]; !d.Passes() && !slices.Contains(p.segments, at) {
				p.segments = append(p.segments, at)
			}
		}
	}
	if len(p.segments) == 0 {
		p.bad = d.Title() + " has no address, and no VLAN gets to it"
	}
	return p
}

func (r *Routing) cell(from, to lab.Endpoint, a, b place, known *outcomes) Cell {
	c := Cell{From: from, To: to, Said: lab.ReachNotSaid}
	if rule, ok := r.rules[[2]lab.Endpoint{from, to}]; ok {
		c.Rule, c.Said = rule, rule.Says
	}
	if c.Said == lab.ReachNone {
		c.Can, c.Why = true, "nothing goes round it"
		for _, x := range a.segments {
			for _, y := range b.segments {
				if x == y {
					c.Can, c.Why = false, "both are in "+r.nets[x].title+", where nothing keeps them apart"
				} else if why := r.around(x, y); why != "" {
					c.Can, c.Why = false, why
				}
			}
		}
		return c
	}
	is := r.reaches(from, to, a, b, c.Rule.Only, known)
	c.Can, c.Why = is.ok, is.why
	return c
}

func (r *Routing) reaches(from, to lab.Endpoint, a, b place, only lab.ID, known *outcomes) outcome {
	switch {
	case a.bad != "":
		return outcome{why: a.bad}
	case b.bad != "":
		return outcome{why: b.bad}
	case from.Kind == lab.Internet:
		return r.fromOutside(to, b)
	case a.tunnel != nil || b.tunnel != nil:
		return r.byTunnel(a, b)
	}
	first := outcome{}
	try := func(is outcome) bool {
		if first.why == "" || is.ok {
			first = is
		}
		return is.ok
	}
	for _, x := range a.segments {
		if to.Kind == lab.Internet {
			if try(r.outside(x, only)) {
				break
			}
			continue
		}
		for _, y := range b.segments {
			if try(known.of(x, y, r.between)) {
				return first
			}
		}
	}
	return first
}

// betweenSites is what is said of two sides that are both behind tunnels.
var betweenSites = no("that is between other sites, and none of this house")

// byTunnel is whether a side and what is behind a tunnel reach each other: the tunnel
// ends in the side's gateway, and joins a subnet of it.
func (r *Routing) byTunnel(a, b place) outcome {
	if a.tunnel != nil && b.tunnel != nil {
		return betweenSites
	}
	t, segments := a.tunnel, b.segments
	if t == nil {
		t, segments = b.tunnel, a.segments
	}
	for _, at := range segments {
		for _, i := range r.nets[at].subnets {
			s := r.plan.Subnets()[i]
			joins := slices.ContainsFunc(t.Joins, s.CIDR.Overlaps)
			routers, why := r.gatewaysOf(i)
			switch {
			case !joins && len(t.Joins) > 0:
				continue
			case len(routers) == 0:
				return outcome{why: why}
			}
			for _, router := range routers {
				if r.routers[router].Device.ID == t.Device {
					return outcome{true, "over " + r.routers[router].Title()}
				}
			}
			d, _ := lab.Find[lab.Device](r.lab, t.Device)
			return no("%s ends in %s, which is not the gateway of %s", t.Title(), d.Title(), s.Title())
		}
	}
	return no("%s joins no subnet of it", t.Title())
}

// fromOutside is whether something outside gets at a side: something has to be open
// that leads there, on a line that can be reached.
func (r *Routing) fromOutside(to lab.Endpoint, b place) outcome {
	var open []string
	shared := ""
	for _, w := range r.lines {
		for _, o := range r.lab.OpeningsOf(w) {
			d, ok := lab.Find[lab.Device](r.lab, o.Device)
			if !ok || !r.isAt(d, to, b) {
				continue
			}
			if w.Address == lab.SharedLine || w.Out == lab.LineOut {
				shared = w.Title()
				continue
			}
			open = append(open, o.Title()+" to "+d.Title())
		}
	}
	switch {
	case len(open) > 0:
		return outcome{true, strings.Join(open, ", ")}
	case shared != "":
		return no("%s cannot be reached from outside", shared)
	}
	return no("nothing is open that leads there")
}

func (r *Routing) isAt(d lab.Device, to lab.Endpoint, b place) bool {
	if to == lab.EndpointOf(d.Key()) {
		return true
	}
	return to.Kind != lab.EndpointKind(lab.KindDevice) && slices.ContainsFunc(r.placeOfDevice(d).segments, func(s int) bool {
		return slices.Contains(b.segments, s)
	})
}

// Broken are the rules that cannot hold, with why.
func (r *Routing) Broken() []Cell {
	var list []Cell
	for rule := range lab.Each[lab.Rule](r.lab) {
		if rule.From == nil || rule.To == nil {
			continue
		}
		if c := r.Cell(*rule.From, *rule.To); !c.Can {
			list = append(list, c)
		}
	}
	return list
}

// CellWords is a cell that cannot be, in a sentence without its full stop.
func (r *Routing) CellWords(c Cell) string {
	return fmt.Sprintf("%s → %s cannot be: %s", r.lab.EndpointWords(c.From), r.lab.EndpointWords(c.To), c.Why)
}
