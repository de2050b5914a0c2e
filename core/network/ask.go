package network

import (
	"iter"
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// What checks, drawings and tables ask of a network.

// SaidEnd is an end of a link of which it is said what it carries.
type SaidEnd struct {
	cabling.Tip
	Untagged int
	Tagged   lab.VLANs
}

// Has reports whether the end carries a VLAN, and whether tagged.
func (e SaidEnd) Has(number int) (carries, tagged bool) {
	return lab.Carried{Untagged: e.Untagged, Tagged: e.Tagged}.Has(number)
}

// Said is what both ends of a link carry; ok is false where it is not said of both,
// or where they are of different domains.
func (n *Network) Said(link int32) (a, b SaidEnd, ok bool) {
	l := &n.links[link]
	x, y := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
	if l.Down || l.lost || l.Guest != "" || x.def && y.def && x.domain != y.domain {
		return a, b, false
	}
	a, okA := n.saidAt(l, l.A)
	b, okB := n.saidAt(l, l.B)
	return a, b, okA && okB
}

func (n *Network) saidAt(l *Link, t cabling.Tip) (SaidEnd, bool) {
	at := n.at(l, t)
	if at == anything || at == nothing && n.nodes[t.Device].role != Switches {
		return SaidEnd{}, false
	}
	return SaidEnd{t, n.said[at].untagged, n.said[at].tagged}, !n.routedAt(t)
}

// routedAt reports whether a port is said to be the end of a network.
func (n *Network) routedAt(t cabling.Tip) bool {
	d := n.w.DeviceAt(t.Device)
	key := n.w.KeyOf(t)
	return slices.ContainsFunc(d.Marks, func(m lab.PortMark) bool { return m.Routed && m.Port == key })
}

// TipWords is the end of a link as one writes it: core/s3.
func (n *Network) TipWords(t cabling.Tip) string {
	return n.title(t.Device) + "/" + lab.PortWords(n.w.KeyOf(t))
}

// Degree is how many links a device has to others that pass frames on, an aggregate
// counted once.
func (n *Network) Degree(device int32) int {
	groups := n.groupsByLink()
	seen := map[[2]groupKey]bool{}
	degree := 0
	for _, i := range n.bridged().at[device] {
		if l := &n.links[i]; l.A.Device == l.B.Device {
			continue
		}
		if ends := groups[i]; ends[0].group > 0 && ends[1].group > 0 {
			if seen[ends] {
				continue
			}
			seen[ends] = true
		}
		degree++
	}
	return degree
}

// Instead is the slowest link on the way that frames take while a link rests; ok is
// false where none is slower than that.
func (n *Network) Instead(t Tree, rest int32) (slow int32, ok bool) {
	rests := map[int32]bool{}
	for _, l := range slices.Concat(t.Resting, t.Unsure) {
		rests[l] = true
	}
	from, to := n.links[rest].A.Device, n.links[rest].B.Device
	via := map[int32]int32{from: -1}
	for queue := []int32{from}; len(queue) > 0; queue = queue[1:] {
		for _, i := range n.bridged().at[queue[0]] {
			if rests[i] {
				continue
			}
			if far := n.far(i, queue[0]); via[far] == 0 && far != from {
				via[far] = i + 1
				queue = append(queue, far)
			}
		}
	}
	slow = -1
	for at := to; at != from && via[at] > 0; at = n.far(via[at]-1, at) {
		if mb := n.links[via[at]-1].Mb; mb > 0 && (slow < 0 || mb < n.links[slow].Mb) {
			slow = via[at] - 1
		}
	}
	return slow, slow >= 0 && n.links[rest].Mb > n.links[slow].Mb
}

// SpeedsOf are the speeds of links in words, each once, the slowest first; unknown
// ones are passed over.
func (n *Network) SpeedsOf(links []int32) []string {
	var mb []int
	for _, l := range links {
		if n.links[l].Mb > 0 {
			mb = append(mb, n.links[l].Mb)
		}
	}
	slices.Sort(mb)
	var said []string
	for _, m := range slices.Compact(mb) {
		said = append(said, cabling.SpeedWords(m))
	}
	return said
}

// DifferIn finds two ports of an aggregate that carry different VLANs.
func (n *Network) DifferIn(g Group) (a, b string, differ bool) {
	d := n.w.DeviceAt(g.Device)
	for _, port := range g.Ports[1:] {
		if d.CarriesAt(port) != d.CarriesAt(g.Ports[0]) {
			return g.Ports[0], port, true
		}
	}
	return "", "", false
}

// SameLinks reports whether two groups have the same links.
func (n *Network) SameLinks(a, b Group) bool {
	of := func(g Group) []int32 {
		return slices.DeleteFunc(slices.Sorted(slices.Values(g.Links)), func(l int32) bool { return l < 0 })
	}
	return slices.Equal(of(a), of(b))
}

// Lacks reports whether a device has links and none of them carries a VLAN, and
// what would bring it there: over the first link.
func (n *Network) Lacks(device int32, number int) (lacks bool, fix Fix) {
	first := int32(-1)
	for i := range n.links {
		l := &n.links[i]
		if l.A.Device != device && l.B.Device != device || l.Guest != "" || l.lost {
			continue
		}
		if n.OverLink(int32(i), number) {
			return false, nil
		}
		if first < 0 && !l.Down && n.nodes[n.far(int32(i), device)].role != Ends {
			first = int32(i)
		}
	}
	if first < 0 {
		return false, nil
	}
	l := &n.links[first]
	for _, tagged := range []bool{true, false} {
		a, okA := n.fixAt(l, true, number, tagged)
		b, okB := n.fixAt(l, false, number, tagged)
		if okA && okB {
			return len(a)+len(b) > 0, slices.Concat(a, b)
		}
	}
	return true, nil
}

// OverLink reports whether a link carries a VLAN of that number.
func (n *Network) OverLink(link int32, number int) bool {
	l := &n.links[link]
	if slices.ContainsFunc(l.vlans, func(o over) bool { return n.vlans[o.vlan].Number == number }) {
		return true
	}
	for _, device := range []int32{l.A.Device, l.B.Device} { // within a cloud
		if is := &n.nodes[device]; is.role == Passes && slices.Contains(n.clouds[is.at].links, link) {
			for _, s := range n.Spreads() {
				if s.VLAN.Number == number && slices.ContainsFunc(s.Pieces, func(p Piece) bool { return slices.Contains(p.Links, link) }) {
					return true
				}
			}
		}
	}
	return false
}

// Over goes through the VLANs that a link carries.
func (n *Network) Over(link int32) iter.Seq[VLAN] {
	return func(yield func(VLAN) bool) {
		for _, o := range n.links[link].vlans {
			if !yield(n.vlans[o.vlan]) {
				return
			}
		}
	}
}

// End is one end of a link and the VLAN that it gets untagged.
type End struct {
	cabling.Tip
	VLAN VLAN
}

// Untagged goes through the ends of a link that get a VLAN untagged over it.
func (n *Network) Untagged(link int32) iter.Seq[End] {
	return func(yield func(End) bool) {
		l := &n.links[link]
		for _, o := range l.vlans {
			if !o.taggedA && !yield(End{l.A, n.vlans[o.vlan]}) || !o.taggedB && !yield(End{l.B, n.vlans[o.vlan]}) {
				return
			}
		}
	}
}
