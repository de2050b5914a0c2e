package network

import (
	"cmp"
	"container/heap"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Edit is one port that is to carry a VLAN, tagged or untagged, so that something
// is put right. Air is the link without a cable where it is said of that instead.
type Edit struct {
	Device int32
	Port   string
	Air    lab.ID
	VLAN   int
	Tagged bool
}

// Fix is what would put something right: edits that are to be made together.
type Fix []Edit

// inOrder are edits by their devices' names and ports.
func (n *Network) inOrder(m Fix) Fix {
	return slices.SortedStableFunc(slices.Values(m), func(a, b Edit) int {
		return cmp.Or(cmp.Compare(n.title(a.Device), n.title(b.Device)), cmp.Compare(a.Port, b.Port))
	})
}

// Say is a fix as one asks for it: "Tag 20 on core/s3 and loft/8."
func (n *Network) Say(m Fix) string {
	var said []string
	for _, tagged := range []bool{true, false} {
		var where []string
		vlan := 0
		for _, e := range n.inOrder(m) {
			if e.Tagged == tagged {
				where, vlan = append(where, n.whereOf(e)), e.VLAN
			}
		}
		switch {
		case len(where) == 0:
		case tagged:
			said = append(said, fmt.Sprintf("Tag %d on %s", vlan, lab.Listed(where, len(where))))
		default:
			said = append(said, fmt.Sprintf("Carry %d untagged on %s", vlan, lab.Listed(where, len(where))))
		}
	}
	return strings.Join(said, "; ") + "."
}

func (n *Network) whereOf(e Edit) string {
	if e.Air != "" {
		c, _ := lab.Find[lab.Cable](n.lab, e.Air)
		return n.lab.CableWords(c)
	}
	return n.title(e.Device) + "/" + lab.PortWords(e.Port)
}

// Changes are a fix as changes of the lab.
func (n *Network) Changes(m Fix) []lab.Change {
	is := n.lab.Changing()
	for _, e := range m {
		if e.Air != "" {
			if c, ok := is.Now(lab.Key{Kind: lab.KindCable, ID: e.Air}).(lab.Cable); ok {
				c.Tagged = c.Tagged.With(e.VLAN)
				is.Put(c)
			}
			continue
		}
		if d, ok := is.Now(n.w.DeviceAt(e.Device).Key()).(lab.Device); ok {
			is.Put(d.Carrying(e.Port, e.VLAN, e.Tagged))
		}
	}
	return is.Changes()
}

// Join is the cheapest way to join a piece of a VLAN's spread to another one: the
// fewest ports to be told to carry it. It is nil where no link leads there. Only what
// is near enough is looked at: the search ends where it meets another piece.
func (n *Network) Join(s Spread, piece int) Fix {
	at := &spreading{Network: n}
	to := map[int32]bool{}
	best, done := map[int32]Fix{}, map[int32]bool{}
	queue := &byCost{}
	for i, p := range s.Pieces {
		for k, t := range p.Tips {
			for _, tagged := range []bool{true, false} {
				place := at.place(&n.links[p.Links[k/2]], t.Tip, tagged)
				switch {
				case place < 0 || tagged != t.Tagged && n.nodes[t.Device].role != Switches:
				case i != piece:
					to[place] = true
				case best[place] == nil:
					best[place] = Fix{}
					heap.Push(queue, reachedAt{place, 0})
				}
			}
		}
	}
	for queue.Len() > 0 {
		next := heap.Pop(queue).(reachedAt).bridge
		if done[next] {
			continue
		}
		if done[next] = true; to[next] {
			return best[next]
		}
		for _, device := range n.devicesAt(next) {
			for _, link := range n.bridged().at[device] {
				n.overLink(at, s.VLAN, link, next, func(place int32, fix Fix) {
					cost := len(best[next]) + len(fix)
					if was, known := best[place]; !done[place] && (!known || cost < len(was)) {
						best[place] = slices.Concat(best[next], fix)
						heap.Push(queue, reachedAt{place, cost})
					}
				})
			}
		}
	}
	return nil
}

// devicesAt are the devices that a frame may be at in a place: a switch, or those of
// a cloud.
func (n *Network) devicesAt(place int32) []int32 {
	if k := place / 2; int(k) < len(n.clouds) {
		return n.clouds[k].devices
	}
	return n.switches[place-int32(2*len(n.clouds)):][:1]
}

// overLink tells where a frame of a VLAN at a place gets to over a link, in either
// form, and what its ends would have to be told for that.
func (n *Network) overLink(at *spreading, v VLAN, link, from int32, tell func(place int32, fix Fix)) {
	l := &n.links[link]
	a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
	if a.def && a.domain != v.Domain || b.def && b.domain != v.Domain {
		return
	}
	for _, tagged := range []bool{true, false} {
		near, far := at.place(l, l.A, tagged), at.place(l, l.B, tagged)
		if far == from {
			near, far = far, near
		}
		if near != from || far < 0 {
			continue
		}
		fixA, okA := n.fixAt(l, true, v.Number, tagged)
		fixB, okB := n.fixAt(l, false, v.Number, tagged)
		if len(fixA) > 0 && fixA[0].Air != "" {
			fixB = nil // it is said of the link, once
		}
		if okA && okB {
			tell(far, slices.Concat(fixA, fixB))
		}
	}
}

// fixAt is what an end of a link would have to be told to carry a VLAN in a form;
// ok is false where it carries another one in that form.
func (n *Network) fixAt(l *Link, first bool, number int, tagged bool) (m Fix, ok bool) {
	t := l.B
	if first {
		t = l.A
	}
	at := n.at(l, t)
	if at == anything {
		return nil, true
	}
	c := n.said[at]
	switch {
	case tagged && c.untagged != number && c.tagged.Has(number), !tagged && c.untagged == number:
		return nil, true
	case tagged && c.untagged == number, !tagged && c.untagged > 0:
		return nil, false
	}
	e := Edit{Device: t.Device, Port: n.w.KeyOf(t), VLAN: number, Tagged: tagged}
	if l.Air != nil && l.Air.Carries().Said {
		if !tagged {
			return nil, false
		}
		e.Air = l.Air.ID
	}
	return Fix{e}, true
}
