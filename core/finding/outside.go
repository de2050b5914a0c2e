package finding

import (
	"fmt"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/reach"
)

// reachChecks are those about routers, lines outside and who reaches whom.
var reachChecks = []check{
	{"overlap", "overlapping subnets in one routing table", overlaps},
	{"leg-without-vlan", "a router's leg without its VLAN on the cable", legWithoutVLAN},
	{"rule-broken", "a rule that cannot hold", ruleBroken},
	{"ipv6-no-router", "IPv6 without a router", noRouter},
	{"line-into-nothing", "a line into nothing", lineIntoNothing},
	{"shared-address", "something that must be reached from outside over a shared address", sharedAddress},
}

// overlaps tells of subnets that one router cannot tell apart.
func overlaps(l *lab.Lab, tell found) {
	p, r := address.Of(l), reach.Of(l)
	list := p.Subnets()
	for i, a := range list {
		for j := i + 1; j < len(list) && a.CIDR.Contains(list[j].CIDR.Addr()); j++ {
			b := list[j]
			if by, same := r.SameTable(i, j); same {
				say := fmt.Sprintf("%s and %s overlap", subnetWords(l, a), subnetWords(l, b))
				if by != "" {
					say += ", and " + by + " has a leg in both"
				}
				tell(Act, say+".", a, b)
			}
		}
	}
}

// legWithoutVLAN tells of addresses of routers that nothing gets to.
func legWithoutVLAN(l *lab.Lab, tell found) {
	r, n := reach.Of(l), network.Of(l)
	for _, is := range r.Routers() {
		for _, leg := range is.Legs {
			if leg.Off == "" {
				continue
			}
			f := tell(Act, fmt.Sprintf("%s has a leg in %s, but %s.", is.Title(), r.SegmentTitle(leg.Segment), leg.Off), is.Device)
			host, _ := l.HostOf(is.Device)
			at, _ := n.Wiring().Number(host.ID)
			if lacks, fix := n.Lacks(at, r.VLANOf(leg.Segment).Number); lacks {
				f.fixedBy(n.Say(fix), n.Changes(fix))
			}
		}
	}
}

func ruleBroken(l *lab.Lab, tell found) {
	for _, c := range reach.Of(l).Broken() {
		tell(Act, reach.Of(l).CellWords(c)+".", aboutRule(l, c)...)
	}
}

// aboutRule is a rule and its two sides.
func aboutRule(l *lab.Lab, c reach.Cell) []lab.Record {
	about := []lab.Record{c.Rule}
	for _, e := range []lab.Endpoint{c.From, c.To} {
		if r := l.Get(e.Key()); r != nil {
			about = append(about, r)
		}
	}
	return about
}

// noRouter tells of IPv6 subnets in which nothing routes.
func noRouter(l *lab.Lab, tell found) {
	p, r := address.Of(l), reach.Of(l)
	for i, s := range p.Subnets() {
		if s.CIDR.Addr().Is6() && !s.Gateway.IsValid() && !r.HasRouter(i) {
			tell(Watch, fmt.Sprintf("%s has no gateway, and no router has an address in it.", subnetWords(l, s)), s)
		}
	}
}

func lineIntoNothing(l *lab.Lab, tell found) {
	r := reach.Of(l)
	for _, w := range r.Lines() {
		d, ok := lab.Find[lab.Device](l, w.Device)
		switch {
		case !ok:
			tell(Watch, fmt.Sprintf("It is not said what %s goes into.", w.Title()), w)
		case !r.Routed(w):
			tell(Watch, fmt.Sprintf("%s goes into %s, which neither routes nor is linked to what does.", w.Title(), d.Title()), w, d)
		}
	}
}

// sharedAddress tells of what has to be reached from outside where nothing can be, and
// what could serve instead.
func sharedAddress(l *lab.Lab, tell found) {
	r := reach.Of(l)
	instead := func(not lab.Line) string {
		var own, away []string
		for _, w := range r.Instead() {
			switch {
			case w.ID == not.ID:
			case w.Site == "":
				own = append(own, w.Title())
			default:
				away = append(away, w.Title()+" at "+w.Site)
			}
		}
		switch {
		case len(own) > 0:
			return "Open it on " + strings.Join(own, " or ") + "."
		case len(away) > 0:
			return "Begin from inside: " + strings.Join(away, " or ") + " can be reached."
		}
		return "Begin from inside, by a tunnel outwards."
	}
	for _, w := range r.Lines() {
		if w.Address != lab.SharedLine {
			continue
		}
		for _, o := range l.OpeningsOf(w) {
			tell(Act, fmt.Sprintf("%s is open on %s, whose address the provider shares: nobody outside reaches it. %s", o.Title(), w.Title(),
				instead(w)), w, o)
		}
	}
	if ok, _ := r.ComesIn(); ok || len(r.Lines()) == 0 {
		return
	}
	var lines []lab.Record
	for _, w := range r.Lines() {
		lines = append(lines, w)
	}
	for a := range lab.Each[lab.RemoteAccess](l) {
		tell(Act, fmt.Sprintf("%s comes in from outside, and no line can be reached from there. %s", a.Title(), instead(lab.Line{})),
			append([]lab.Record{a}, lines...)...)
	}
}
