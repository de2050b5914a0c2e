package network

import (
	"slices"

	"levelstaff/core/cabling"
)

// Mixed are two VLANs that are one all the same: frames without a tag get from one
// into the other.
type Mixed struct {
	A, B VLAN
	// Through is what passes them on as they come, where they meet there; -1 where
	// they meet on a link whose ends differ.
	Through int32
	Link    int32 // of those that differ
}

// Mixed are the pairs of VLANs that are joined by what knows nothing of them: an
// unmanaged switch that is plugged into ports of both, or a link whose ends put
// untagged frames into different ones.
func (n *Network) Mixed() []Mixed {
	var list []Mixed
	into := make([][]int32, len(n.clouds)) // the VLANs whose untagged frames get into each
	for i := range n.links {
		l := &n.links[i]
		if l.Down || l.lost || l.Guest != "" {
			continue
		}
		x, y := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
		a, b := n.untaggedAt(l, l.A), n.untaggedAt(l, l.B)
		switch {
		case a >= 0 && b >= 0 && a != b:
			list = append(list, Mixed{n.vlans[a], n.vlans[b], -1, int32(i)})
		case a >= 0 && y.role == Passes && !slices.Contains(into[y.at], a):
			into[y.at] = append(into[y.at], a)
		case b >= 0 && x.role == Passes && !slices.Contains(into[x.at], b):
			into[x.at] = append(into[x.at], b)
		}
	}
	for c, vlans := range into {
		for i := 1; i < len(vlans); i++ {
			list = append(list, Mixed{n.vlans[vlans[0]], n.vlans[vlans[i]], n.clouds[c].devices[0], -1})
		}
	}
	return list
}

// untaggedAt is the VLAN that untagged frames are put into at an end of a link, by its
// number; -1 where none is said.
func (n *Network) untaggedAt(l *Link, t cabling.Tip) int32 {
	is := &n.nodes[t.Device]
	untagged := n.said[n.at(l, t)].untagged
	if v, ok := n.byVLAN[vlanKey{is.domain, untagged}]; ok && untagged > 0 && is.role == Switches {
		return v
	}
	return -1
}
