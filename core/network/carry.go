package network

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// pair is what the two ends of a link carry, in a domain.
type pair struct {
	a, b   int32
	domain string
}

// present is a VLAN's number among the frames that a cloud passes on.
type present struct {
	cloud  int32
	number int
	tagged bool
}

// fill works out which VLANs each link carries: those that both ends carry in
// the same way. What takes whatever comes carries what the other end does.
func (n *Network) fill() {
	known := map[pair][]over{}
	there := map[present][]int32{}
	for i := range n.links {
		l := &n.links[i]
		a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
		if l.Down || l.lost || l.Guest != "" || a.def && b.def && a.domain != b.domain || n.loose(a, b) || n.hop(l, a, b) {
			continue
		}
		p := pair{n.at(l, l.A), n.at(l, l.B), n.domain(a, b)}
		vlans, ok := known[p]
		if !ok {
			vlans = n.shared(p)
			known[p] = vlans
		}
		l.vlans = vlans
		n.note(there, a, b, vlans)
	}
	for more := true; more; { // as many hops through the air as there are
		more = false
		for i := range n.links {
			l := &n.links[i]
			if a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]; !l.Down && !l.lost && n.hop(l, a, b) {
				more = n.overHop(there, l, a, b) || more
			}
		}
	}
	for i := range n.links {
		l := &n.links[i]
		a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
		switch {
		case l.Down || l.lost || n.hop(l, a, b):
		case l.Guest != "":
			l.vlans = n.ofGuest(there, l, a)
		case n.loose(a, b):
			l.vlans = n.ofLoose(there, l, a, b)
		}
	}
}

// loose reports whether a link joins what has no domain of its own to a cloud: it
// is in the domain of what else is linked there.
func (n *Network) loose(a, b *node) bool {
	return a.role == Passes && b.role != Passes && !b.def || b.role == Passes && a.role != Passes && !a.def
}

// hop reports whether a link joins two clouds by the VLANs that are said of it.
func (n *Network) hop(l *Link, a, b *node) bool {
	return l.Air != nil && l.Guest == "" && a.role == Passes && b.role == Passes && l.Air.Carries().Said
}

// overHop works out the VLANs of such a link: those of its numbers that come to either
// cloud, in whichever domain; and whether that brings one to a cloud where it was not.
func (n *Network) overHop(there map[present][]int32, l *Link, a, b *node) (more bool) {
	l.vlans = nil
	c := n.said[n.at(l, l.A)]
	add := func(number int, tagged bool) {
		near, far := present{a.at, number, tagged}, present{b.at, number, tagged}
		found := slices.Compact(slices.Sorted(slices.Values(slices.Concat(there[near], there[far], n.sentTo(there, a, b, number)))))
		if len(found) == 0 {
			found = []int32{n.vlan(vlanKey{cmp.Or(a.domain, b.domain), number}, lab.VLAN{})}
		}
		for _, at := range []present{near, far} {
			more = more || len(there[at]) < len(found)
			there[at] = found
		}
		for _, v := range found {
			l.vlans = append(l.vlans, over{v, tagged, tagged})
		}
	}
	for number := range c.numbers {
		add(number, number != c.untagged)
	}
	return more
}

// sentTo are the VLANs of a number that come to a cloud the other way round, where an
// access point there sends it and puts it into the air however it comes.
func (n *Network) sentTo(there map[present][]int32, a, b *node, number int) []int32 {
	var found []int32
	for _, cloud := range []*node{a, b} {
		if n.clouds[cloud.at].sent[number] {
			found = slices.Concat(found, there[present{cloud.at, number, true}], there[present{cloud.at, number, false}])
		}
	}
	return found
}

// note keeps which VLANs come to a cloud, and how.
func (n *Network) note(there map[present][]int32, a, b *node, vlans []over) {
	cloud := a
	if b.role == Passes {
		cloud = b
	}
	if cloud.role != Passes || a.role == b.role {
		return
	}
	for _, v := range vlans {
		at := present{cloud.at, n.vlans[v.vlan].Number, v.taggedA}
		if last := len(there[at]) - 1; last < 0 || there[at][last] != v.vlan {
			there[at] = append(there[at], v.vlan)
		}
	}
}

// shared are the VLANs that both ends carry in the same way (IEEE 802.1Q, 6.9:
// what comes in without a tag is put into the port's own VLAN, so that a link
// carries one that is tagged at one end alone in neither direction).
func (n *Network) shared(p pair) []over {
	a, b := p.a, p.b
	switch {
	case a == nothing || b == nothing || a == anything && b == anything:
		return nil
	case a == anything:
		a = b
	case b == anything:
		b = a
	}
	var list []over
	x, y := n.said[a], n.said[b]
	if x.untagged > 0 && x.untagged == y.untagged {
		list = append(list, over{n.vlan(vlanKey{p.domain, x.untagged}, lab.VLAN{}), false, false})
	}
	add := func(number int) {
		if number != x.untagged && number != y.untagged {
			list = append(list, over{n.vlan(vlanKey{p.domain, number}, lab.VLAN{}), true, true})
		}
	}
	if x.tagged == lab.AllVLANs {
		x, y = y, x
	}
	switch {
	case x.tagged == lab.AllVLANs:
		for _, v := range n.all[p.domain] {
			add(n.vlans[v].Number)
		}
	case y.tagged == lab.AllVLANs:
		x.tagged.Numbers()(func(number int) bool { add(number); return true })
	default:
		x.tagged.Numbers()(func(number int) bool {
			if y.tagged.Has(number) {
				add(number)
			}
			return true
		})
	}
	return list
}

// ofLoose are the VLANs of a link between a cloud and what has no domain of its
// own: those of its numbers that come to the cloud in the same way.
func (n *Network) ofLoose(there map[present][]int32, l *Link, a, b *node) []over {
	cloud, at, domain := a, n.at(l, l.B), b.domain
	if b.role == Passes {
		cloud, at, domain = b, n.at(l, l.A), a.domain
	}
	if at == anything || at == nothing {
		return nil
	}
	var list []over
	add := func(number int, tagged bool) {
		found := there[present{cloud.at, number, tagged}]
		if len(found) == 0 {
			found = []int32{n.vlan(vlanKey{domain, number}, lab.VLAN{})}
		}
		for _, v := range found {
			list = append(list, over{v, tagged, tagged})
		}
	}
	c := n.said[at]
	if c.untagged > 0 {
		add(c.untagged, false)
	}
	if c.tagged == lab.AllVLANs {
		for _, v := range n.all[domain] {
			if number := n.vlans[v].Number; number != c.untagged {
				add(number, true)
			}
		}
	}
	for number := range c.tagged.Numbers() {
		add(number, true)
	}
	return list
}

// ofGuest is the VLAN of a guest of a wireless network. An access point of whose
// ports nothing is said puts it into that VLAN however it comes.
func (n *Network) ofGuest(there map[present][]int32, l *Link, point *node) []over {
	if n.nodes[l.A.Device].role == Ends && n.nodes[l.B.Device].role != Ends {
		point = &n.nodes[l.B.Device]
	}
	if l.guest == 0 {
		return nil
	}
	if point.role != Passes {
		return []over{{n.vlan(vlanKey{point.domain, l.guest}, lab.VLAN{}), false, false}}
	}
	for _, tagged := range []bool{true, false} {
		var list []over
		for _, v := range there[present{point.at, l.guest, tagged}] {
			list = append(list, over{v, tagged, tagged})
		}
		if list != nil {
			return list
		}
	}
	return []over{{n.vlan(vlanKey{point.domain, l.guest}, lab.VLAN{}), true, true}}
}
