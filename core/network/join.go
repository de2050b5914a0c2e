package network

import (
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

// Mend is what would put something right: edits that are to be made together.
type Mend []Edit

// Say is a mend as one asks for it: "Tag 20 on core/s3 and loft/8."
func (n *Network) Say(m Mend) string {
	var said []string
	for _, tagged := range []bool{true, false} {
		var where []string
		vlan := 0
		for _, e := range m {
			if e.Tagged == tagged {
				where, vlan = append(where, n.whereOf(e)), e.VLAN
			}
		}
		switch {
		case len(where) == 0:
		case tagged:
			said = append(said, fmt.Sprintf("Tag %d on %s", vlan, listed(where)))
		default:
			said = append(said, fmt.Sprintf("Carry %d untagged on %s", vlan, listed(where)))
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

func listed(words []string) string {
	if n := len(words); n > 1 {
		return strings.Join(words[:n-1], ", ") + " and " + words[n-1]
	}
	return strings.Join(words, "")
}

// Changes are a mend as changes of the lab.
func (n *Network) Changes(m Mend) []lab.Change {
	after := map[lab.Key]lab.Record{}
	var order []lab.Key
	now := func(key lab.Key) lab.Record {
		if r, touched := after[key]; touched {
			return r
		}
		order = append(order, key)
		return n.lab.Get(key)
	}
	for _, e := range m {
		if e.Air != "" {
			key := lab.Key{Kind: lab.KindCable, ID: e.Air}
			if c, ok := now(key).(lab.Cable); ok {
				c.Tagged = c.Tagged.With(e.VLAN)
				after[key] = c
			}
			continue
		}
		key := n.w.DeviceAt(e.Device).Key()
		if d, ok := now(key).(lab.Device); ok {
			after[key] = d.Carrying(e.Port, e.VLAN, e.Tagged)
		}
	}
	var changes []lab.Change
	for _, key := range order {
		if c, ok := n.lab.Put(after[key]); ok {
			changes = append(changes, c)
		}
	}
	return changes
}

// step is a way over a link from one place to another, in one form of the frames.
type step struct {
	to   int32
	mend Mend
}

// Join is the cheapest way to join a piece of a VLAN's spread to another one: the
// fewest ports to be told to carry it. It is nil where no link leads there.
func (n *Network) Join(s Spread, piece int) Mend {
	at := &spreading{Network: n}
	from, to := map[int32]bool{}, map[int32]bool{}
	for i, p := range s.Pieces {
		into := to
		if i == piece {
			into = from
		}
		for _, t := range p.Tips {
			for _, tagged := range []bool{true, false} {
				if place := at.place(t.Device, tagged); place >= 0 && (tagged == t.Tagged || n.nodes[t.Device].role == Switches) {
					into[place] = true
				}
			}
		}
	}
	steps := map[int32][]step{}
	for i := range n.links {
		n.stepsOver(at, s.VLAN, &n.links[i], steps)
	}
	best := map[int32]Mend{}
	done := map[int32]bool{}
	queue := &byCost{}
	for place := range from {
		best[place] = Mend{}
		heap.Push(queue, reachedAt{place, 0})
	}
	for queue.Len() > 0 {
		next := heap.Pop(queue).(reachedAt).bridge
		if done[next] {
			continue
		}
		if done[next] = true; to[next] {
			return best[next]
		}
		for _, s := range steps[next] {
			cost := len(best[next]) + len(s.mend)
			if was, known := best[s.to]; !done[s.to] && (!known || cost < len(was)) {
				best[s.to] = slices.Concat(best[next], s.mend)
				heap.Push(queue, reachedAt{s.to, cost})
			}
		}
	}
	return nil
}

// stepsOver are the ways over a link, in either form: what its ends would have to
// be told for it to carry a VLAN.
func (n *Network) stepsOver(at *spreading, v VLAN, l *Link, steps map[int32][]step) {
	a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
	if l.Down || l.lost || l.Guest != "" || a.def && a.domain != v.Domain || b.def && b.domain != v.Domain {
		return
	}
	for _, tagged := range []bool{true, false} {
		from, to := at.place(l.A.Device, tagged), at.place(l.B.Device, tagged)
		if from < 0 || to < 0 {
			continue
		}
		mendA, okA := n.mendAt(l, true, v.Number, tagged)
		mendB, okB := n.mendAt(l, false, v.Number, tagged)
		if l.Air != nil && len(mendA) > 0 && mendA[0].Air != "" {
			mendB = nil // it is said of the link, once
		}
		if okA && okB {
			mend := slices.Concat(mendA, mendB)
			steps[from] = append(steps[from], step{to, mend})
			steps[to] = append(steps[to], step{from, mend})
		}
	}
}

// mendAt is what an end of a link would have to be told to carry a VLAN in a form;
// ok is false where it carries another one in that form.
func (n *Network) mendAt(l *Link, first bool, number int, tagged bool) (m Mend, ok bool) {
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
	return Mend{e}, true
}
