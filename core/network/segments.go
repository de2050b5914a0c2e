package network

import (
	"cmp"

	"levelstaff/core/lab"
)

// segments cuts the links into what joins bridges. Loops of what takes no part are
// told as such.
func (n *Network) segments() (list []segment, loops []Loop) {
	links, part := n.bridged().links, n.bridged().part
	dumb := newSets(len(n.nodes))
	var within []int32
	for _, i := range links {
		l := &n.links[i]
		if part[l.A.Device] || part[l.B.Device] {
			continue
		}
		if dumb.join(l.A.Device, l.B.Device) {
			within = append(within, i)
		} else {
			loops = append(loops, n.loop(within, i))
		}
	}
	groupOf := n.groupsByLink()
	of := map[int32]int{}             // the segment of a set of what takes no part
	together := map[[2]groupKey]int{} // and that of two aggregates
	add := func(s segment) int { list = append(list, s); return len(list) - 1 }
	for _, i := range links {
		l := &n.links[i]
		mb := cmp.Or(l.Mb, assumedMb)
		a, b := part[l.A.Device], part[l.B.Device]
		end := func(device, port int32) attach { return attach{device, port, []int32{i}, mb} }
		switch {
		case a && b:
			ends := groupOf[i]
			if ends[0].group > 0 && ends[1].group > 0 {
				if at, known := together[ends]; known {
					for k := range list[at].at {
						list[at].at[k].links = append(list[at].at[k].links, i)
						list[at].at[k].cost += mb
					}
					continue
				}
				together[ends] = len(list)
			}
			add(segment{[]attach{end(l.A.Device, l.A.Port), end(l.B.Device, l.B.Port)}})
		case a || b:
			bridge, other := l.A, l.B
			if b {
				bridge, other = l.B, l.A
			}
			set := dumb.root(other.Device)
			at, known := of[set]
			if !known {
				at = add(segment{})
				of[set] = at
			}
			list[at].at = append(list[at].at, end(bridge.Device, bridge.Port))
		}
	}
	for i := range list {
		for k := range list[i].at {
			a := &list[i].at[k]
			a.cost = costOf(a.cost)
		}
	}
	return list, loops
}

// groupKey is an aggregate of a device, by 1 and its number; 0 for none.
type groupKey struct {
	device int32
	group  int
}

// groupsByLink finds the active-active aggregates at both ends of links.
func (n *Network) groupsByLink() map[int32][2]groupKey {
	of := map[int32][2]groupKey{}
	for k, g := range n.Groups() {
		if g.Mode != lab.ActiveActive {
			continue
		}
		for _, l := range g.Links {
			if l < 0 {
				continue
			}
			ends := of[l]
			side := 0
			if n.links[l].B.Device == g.Device {
				side = 1
			}
			ends[side] = groupKey{g.Device, k + 1}
			of[l] = ends
		}
	}
	return of
}

// loop is the circle that one more link closes among those that join devices.
func (n *Network) loop(links []int32, last int32) Loop {
	from, to := n.links[last].A.Device, n.links[last].B.Device
	via := map[int32]int32{from: -1} // the link by which a device was reached
	for queue := []int32{from}; len(queue) > 0; queue = queue[1:] {
		for _, i := range links {
			l := &n.links[i]
			if l.A.Device != queue[0] && l.B.Device != queue[0] {
				continue
			}
			far := n.far(i, queue[0])
			if _, known := via[far]; !known {
				via[far] = i
				queue = append(queue, far)
			}
		}
	}
	loop := Loop{Links: []int32{last}}
	for at := to; ; at = n.far(via[at], at) {
		loop.Devices = append(loop.Devices, at)
		if via[at] < 0 {
			return loop
		}
		loop.Links = append(loop.Links, via[at])
	}
}

// Loops lists the circles that nobody cuts.
func (n *Network) Loops() []Loop {
	_, loops := n.segments()
	return loops
}
