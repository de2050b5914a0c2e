package network

import (
	"cmp"
	"slices"
)

// Thread is a link or a device whose loss cuts something off.
type Thread struct {
	Device, Link int32 // one of them is -1
	Cuts         int   // how many devices it cuts off
	parts        interval
}

// interval is a part of a list, from its first up to, without, its last.
type interval struct{ from, to int32 }

func (in interval) len() int { return int(in.to - in.from) }

// Threads are what a network hangs by: each link and each device whose loss cuts
// something off, the worst first. What is cut off is so from the line outside or,
// where no line comes in, from the largest piece that is left, which is at least two
// devices.
type Threads struct {
	List  []Thread
	order []int32 // devices, each with what hangs on it right behind it
	parts []interval
	piece []int32 // by device the number of the piece it is in, from 1, what a line comes in at first; 0 where it has no link
	loose []bool  // which devices end links at several of their piece, so that none is theirs alone
}

// CutsOff lists the devices that a thread cuts off.
func (t Threads) CutsOff(of Thread) []int32 {
	list := make([]int32, 0, of.Cuts)
	for _, in := range t.parts[of.parts.from:of.parts.to] {
		list = append(list, t.order[in.from:in.to]...)
	}
	return list
}

// ThreadWords is a thread as one calls it: a device's name, or core/23 - loft/8.
func (n *Network) ThreadWords(of Thread) string {
	if of.Device >= 0 {
		return n.title(of.Device)
	}
	return n.LinkWords(of.Link)
}

// LinkWords is a link by its two ports: core/23 - loft/8.
func (n *Network) LinkWords(link int32) string {
	a, b := n.EndWords(link)
	return a + " - " + b
}

// FromALine reports whether threads cut things off from a line outside, rather than from
// the largest piece.
func (n *Network) FromALine() bool { return n.mesh.lines() }

// Threads are worked out once for a network.
func (n *Network) Threads() Threads { return n.hung() }

// hanging is a network while its threads are looked for: a walk, depth first, over
// what passes frames on, from the world outside where a line comes in. What ends
// links hangs on what it cannot be reached without. (R. Tarjan, Depth-first search
// and linear graph algorithms, 1972, for bridges and cut points.)
type hanging struct {
	*mesh
	Threads
	next        []int32 // the first of each device's edges that is not gone along yet
	walked      []int32 // devices in the order of the walk
	pre, low    []int32 // when each was reached, from 1, and how far back one gets from it another way
	parent, via []int32 // the device and the link by which it was reached; -1 for none
	below       []int32 // how many devices were reached over it, itself counted
	top, depth  []int32 // what it hangs on, which nothing gets round; -1 for nothing; and how often so
	cut, sister []int32 // the last that was reached over it and hangs on it, and the one before; -1 for none
	ends        []hook  // what ends links, by what it hangs on: that of a device is ends[first[device]:first[device+1]]
	first       []int32
	single      []bool     // what ends one link there alone
	at, from    []int32    // where in the order it is, and where what is reached over it begins
	to          []int32    // and where that ends
	room        []interval // for what is cut off by one thing, which is used again for the next
	count       []int32    // how many of the order before a place count in the size of a piece
}

// hang finds what a network hangs by. It takes as long as there are links.
func (n *Network) hang() Threads {
	h := &hanging{mesh: n.mesh, next: slices.Clone(n.mesh.from)}
	many := len(n.nodes) + 1 // with the world outside
	room := make([]int32, 13*many)
	for _, list := range []*[]int32{&h.pre, &h.low, &h.parent, &h.via, &h.below, &h.top, &h.depth, &h.cut, &h.sister, &h.at, &h.from, &h.to,
		&h.piece} {
		*list, room = room[:many:many], room[many:]
	}
	h.first, h.single, h.loose = make([]int32, many+1), make([]bool, many), make([]bool, many)
	h.room = make([]interval, 0, 8)
	h.walked, h.order, h.count = make([]int32, 0, many), make([]int32, 0, many), make([]int32, 0, many)
	for _, root := range h.roots {
		if h.pre[root] == 0 {
			h.walk(root)
		}
	}
	h.hook()
	h.lay()
	for _, root := range h.roots {
		if h.parent[root] < 0 {
			h.tell(root)
		}
	}
	slices.SortStableFunc(h.List, func(a, b Thread) int { return cmp.Or(b.Cuts-a.Cuts, int(min(0, b.Device)-min(0, a.Device))) })
	return h.Threads
}

// walk goes depth first from a device to all that are joined to it.
func (h *hanging) walk(root int32) {
	piece := int32(1)
	if n := len(h.walked); n > 0 {
		piece = h.piece[h.walked[n-1]] + 1
	}
	enter := func(device, from, link int32) {
		h.walked = append(h.walked, device)
		h.pre[device] = int32(len(h.walked))
		h.low[device], h.parent[device], h.via[device], h.below[device], h.cut[device], h.piece[device] = h.pre[device], from, link, 1, -1, piece
	}
	enter(root, -1, -1)
	for stack := []int32{root}; len(stack) > 0; {
		at := stack[len(stack)-1]
		if h.next[at] == h.mesh.from[at+1] {
			stack = stack[:len(stack)-1]
			if up := h.parent[at]; up >= 0 {
				h.low[up] = min(h.low[up], h.low[at])
				h.below[up] += h.below[at]
			}
			continue
		}
		e := h.edges[h.next[at]]
		h.next[at]++
		switch {
		case e.link == h.via[at]:
		case h.pre[e.far] > 0:
			h.low[at] = min(h.low[at], h.pre[e.far])
		default:
			enter(e.far, at, e.link)
			stack = append(stack, e.far)
		}
	}
	for _, device := range h.walked[h.pre[root]-1:] {
		switch up := h.parent[device]; {
		case up < 0:
			h.top[device] = -1
		case h.low[device] >= h.pre[up]: // all ways from it go over the one before
			h.top[device], h.depth[device] = up, h.depth[up]+1
			h.sister[device], h.cut[up] = h.cut[up], device
		default:
			h.top[device], h.depth[device] = h.top[up], h.depth[up]
		}
	}
}

// hook hangs what ends links on what it cannot be reached without. Of several pieces
// that it is linked to the first one counts.
func (h *hanging) hook() {
	hung := make([]hook, len(h.n.nodes)) // what each hangs on so far
	for i := range hung {
		hung[i].at = -1
	}
	near := make([]int32, len(h.n.nodes)) // the first that each is linked to
	for _, k := range h.hooks {
		switch is := &hung[k.device]; {
		case is.at < 0 || h.piece[k.at] < h.piece[k.device]:
			*is, near[k.device], h.piece[k.device] = k, k.at, h.piece[k.at]
			h.single[k.device], h.loose[k.device] = true, false
		case h.piece[k.at] == h.piece[k.device]:
			h.single[k.device] = false
			if k.at != near[k.device] {
				h.loose[k.device], is.at = true, h.meet(is.at, k.at)
			}
		}
	}
	for _, k := range hung {
		if k.at >= 0 {
			h.first[k.at+1]++
		}
	}
	for i := 1; i < len(h.first); i++ {
		h.first[i] += h.first[i-1]
	}
	h.ends = make([]hook, h.first[len(h.first)-1])
	next := slices.Clone(h.first)
	for _, k := range hung {
		if k.at >= 0 {
			h.ends[next[k.at]] = k
			next[k.at]++
		}
	}
}

// endsAt is what ends links and hangs on a device.
func (h *hanging) endsAt(device int32) []hook { return h.ends[h.first[device]:h.first[device+1]] }

// meet is the last device that two others both hang on, which may be one of them.
func (h *hanging) meet(a, b int32) int32 {
	for a != b {
		if h.depth[a] < h.depth[b] {
			a, b = b, a
		}
		a = h.top[a]
	}
	return a
}

// lay puts the devices in an order in which what is reached over one comes right
// behind it, first what ends links there.
func (h *hanging) lay() {
	start := make([]int32, 0, len(h.walked)+1)
	h.count = append(h.count, 0)
	put := func(device int32, counts bool) {
		h.at[device] = int32(len(h.order))
		h.order = append(h.order, device)
		sum := h.count[len(h.count)-1]
		if counts {
			sum++
		}
		h.count = append(h.count, sum)
	}
	for _, device := range h.walked {
		start = append(start, int32(len(h.order)))
		if device != h.outside() {
			put(device, true)
		}
		for _, k := range h.endsAt(device) {
			put(k.device, !h.loose[k.device])
		}
	}
	start = append(start, int32(len(h.order)))
	for i, device := range h.walked {
		h.from[device], h.to[device] = start[i], start[int32(i)+h.below[device]]
	}
}

// over is the part of the order that is reached over a device, itself first.
func (h *hanging) over(device int32) interval { return interval{h.from[device], h.to[device]} }

// size is how many devices of a part count: what ends links at several places is not
// one piece's alone.
func (h *hanging) size(in interval) int32 { return h.count[in.to] - h.count[in.from] }

// tell lists what the devices that were reached from a root hang by.
func (h *hanging) tell(root int32) {
	all := h.over(root)
	reached := h.walked[h.pre[root]-1:][:h.below[root]]
	for _, device := range reached {
		for _, k := range h.endsAt(device) {
			if h.single[k.device] {
				h.add(-1, k.link, append(h.room[:0], interval{h.at[k.device], h.at[k.device] + 1}))
			}
		}
		if device == h.outside() {
			continue
		}
		h.add(device, -1, h.withoutDevice(device, root, all))
		if up := h.parent[device]; up >= 0 && h.via[device] >= 0 && h.low[device] > h.pre[up] {
			h.add(-1, h.via[device], h.withoutLink(device, root, all))
		}
	}
}

func (h *hanging) add(device, link int32, parts []interval) {
	from, cuts := int32(len(h.parts)), 0
	for _, in := range parts {
		if in.len() > 0 {
			h.parts, cuts = append(h.parts, in), cuts+in.len()
		}
	}
	if cuts > 0 {
		h.List = append(h.List, Thread{device, link, cuts, interval{from, int32(len(h.parts))}})
	}
}

// withoutDevice is what is cut off when a device is lost: what hangs on it or, where no
// line comes in, all but the largest piece that is left.
func (h *hanging) withoutDevice(device, root int32, all interval) []interval {
	at := h.at[device]
	cut := append(h.room[:0], interval{at + 1, at + 1 + int32(len(h.endsAt(device)))})
	rest, best := h.size(all)-1-h.size(cut[0]), int32(-1)
	for child := h.cut[device]; child >= 0; child = h.sister[child] {
		in := h.over(child)
		cut, rest = append(cut, in), rest-h.size(in)
		h.room = cut
		if best < 0 || h.size(in) > h.size(h.over(best)) || h.size(in) == h.size(h.over(best)) && h.sooner(in, h.over(best)) {
			best = child
		}
	}
	if root == h.outside() || best < 0 || device != root && rest >= h.size(h.over(best)) {
		return cut
	}
	kept := h.over(best)
	return h.besides(kept, interval{all.from, at}, interval{at + 1, kept.from}, interval{kept.to, all.to})
}

// withoutLink is the same for the link by which a device was reached.
func (h *hanging) withoutLink(device, root int32, all interval) []interval {
	in := h.over(device)
	if root == h.outside() || 2*h.size(in) <= h.size(all) {
		return append(h.room[:0], in)
	}
	return h.besides(in, interval{all.from, in.from}, interval{in.to, all.to})
}

// sooner reports whether the first root in a part comes before that in another one of
// the same size.
func (h *hanging) sooner(a, b interval) bool {
	for _, root := range h.roots {
		switch at := h.at[root]; {
		case root == h.outside():
		case a.from <= at && at < a.to:
			return true
		case b.from <= at && at < b.to:
			return false
		}
	}
	return false
}

// besides are parts without what also ends a link in the part that is kept.
func (h *hanging) besides(kept interval, parts ...interval) []interval {
	stays := make([]bool, len(h.order))
	for _, k := range h.hooks {
		if at := h.at[k.at]; h.loose[k.device] && kept.from <= at && at < kept.to {
			stays[h.at[k.device]] = true
		}
	}
	var left []interval
	for _, in := range parts {
		for at := in.from; at < in.to; at++ {
			if stays[at] {
				left = append(left, interval{in.from, at})
				in.from = at + 1
			}
		}
		left = append(left, in)
	}
	return left
}
