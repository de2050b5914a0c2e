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
	of     []visit // by device
	walked []int32 // devices in the order of the walk
	ends   []hook  // what ends links, by what it hangs on: that of a device is ends[first[device]:first[device+1]]
	first  []int32
	single []bool     // by device whether it ends one link in its piece, and no more
	at     []int32    // by device where in the order it is
	count  []int32    // how many of the order before a place are not loose
	linked []int32    // and how many links to what ends them those have
	inside []int32    // of what hangs on the one before: how many loose ones end a link over it
	room   []interval // for what is cut off by one thing, which is used again for the next
}

// visit is what a walk tells of a device.
type visit struct {
	next        int32 // the first of its edges that is not gone along yet
	pre, low    int32 // when it was reached, from 1, and how far back one gets from it another way
	parent, via int32 // the device and the link by which it was reached; -1 for none
	below       int32 // how many devices were reached over it, itself counted
	top, depth  int32 // what it hangs on, which nothing gets round; -1 for nothing; and how often so
	block       int32 // what it hangs by on that: itself, or one that hangs on the same and leads to it
	cut, sister int32 // the last that was reached over it and hangs on it, and the one before; -1 for none
	from, to    int32 // where in the order what is reached over it begins and ends
}

// hang finds what a network hangs by. It takes as long as there are links.
func (n *Network) hang() Threads {
	many := len(n.nodes) + 1 // with the world outside
	h := &hanging{mesh: n.mesh, of: make([]visit, many)}
	h.piece, h.at, h.first = make([]int32, many), make([]int32, many), make([]int32, many+1)
	h.single, h.loose = make([]bool, many), make([]bool, many)
	h.room = make([]interval, 0, 8)
	h.walked, h.order, h.count = make([]int32, 0, many), make([]int32, 0, many), make([]int32, 0, many)
	for _, root := range h.roots {
		if h.of[root].pre == 0 {
			h.walk(root)
		}
	}
	h.hook()
	h.lay()
	for _, root := range h.roots {
		if h.of[root].parent < 0 {
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
		h.piece[device] = piece
		at := int32(len(h.walked))
		h.of[device] = visit{next: h.mesh.from[device], pre: at, low: at, parent: from, via: link, below: 1, cut: -1}
	}
	enter(root, -1, -1)
	for stack := []int32{root}; len(stack) > 0; {
		at := stack[len(stack)-1]
		if h.of[at].next == h.mesh.from[at+1] {
			stack = stack[:len(stack)-1]
			if up := h.of[at].parent; up >= 0 {
				h.of[up].low = min(h.of[up].low, h.of[at].low)
				h.of[up].below += h.of[at].below
			}
			continue
		}
		e := h.edges[h.of[at].next]
		h.of[at].next++
		switch {
		case e.link == h.of[at].via:
		case h.of[e.far].pre > 0:
			h.of[at].low = min(h.of[at].low, h.of[e.far].pre)
		default:
			enter(e.far, at, e.link)
			stack = append(stack, e.far)
		}
	}
	for _, device := range h.walked[h.of[root].pre-1:] {
		switch up := h.of[device].parent; {
		case up < 0:
			h.of[device].top, h.of[device].block = -1, -1
		case h.of[device].low >= h.of[up].pre: // all ways from it go over the one before
			h.of[device].top, h.of[device].depth = up, h.of[up].depth+1
			h.of[device].sister, h.of[up].cut = h.of[up].cut, device
			h.of[device].block = device
		default:
			h.of[device].top, h.of[device].depth, h.of[device].block = h.of[up].top, h.of[up].depth, h.of[up].block
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

// weigh counts what ends a link over each device that hangs on the one before, and
// others elsewhere. Where a line comes in nobody asks which piece is larger, and in many
// a lab nothing hangs on anything.
func (h *hanging) weigh() {
	h.inside = make([]int32, len(h.piece))
	first := make([]int32, len(h.n.nodes)+1) // where the links of each begin in the list
	weighed := func(k hook) bool { return h.loose[k.device] && h.counts(k) && !(h.lines() && h.piece[k.device] == 1) }
	for _, k := range h.hooks {
		if weighed(k) {
			first[k.device+1]++
		}
	}
	for i := 1; i < len(first); i++ {
		first[i] += first[i-1]
	}
	list := make([]hook, first[len(first)-1])
	for _, k := range h.hooks {
		if weighed(k) {
			list[first[k.device]] = k
			first[k.device]++
		}
	}
	by := make([]int32, len(h.piece)) // the last that was counted at each, and 1
	for _, k := range list {
		for at := h.of[k.at].block; at >= 0 && by[at] != k.device+1; at = h.of[h.of[at].top].block {
			by[at] = k.device + 1
			h.inside[at]++
		}
	}
}

// counts reports whether a link is in the piece that its device is in.
func (h *hanging) counts(k hook) bool { return h.piece[k.at] == h.piece[k.device] }

// endsAt is what ends links and hangs on a device.
func (h *hanging) endsAt(device int32) []hook { return h.ends[h.first[device]:h.first[device+1]] }

// meet is the last device that two others both hang on, which may be one of them.
func (h *hanging) meet(a, b int32) int32 {
	for a != b {
		if h.of[a].depth < h.of[b].depth {
			a, b = b, a
		}
		a = h.of[a].top
	}
	return a
}

// lay puts the devices in an order in which what is reached over one comes right
// behind it, first what ends links there.
func (h *hanging) lay() {
	start := make([]int32, 0, len(h.walked)+1)
	links := make([]int32, len(h.piece)) // to what ends them, of each
	for _, k := range h.hooks {
		if h.counts(k) {
			links[k.at]++
		}
	}
	h.count, h.linked = append(h.count, 0), append(make([]int32, 0, len(h.piece)), 0)
	put := func(device int32, counts bool) {
		h.at[device] = int32(len(h.order))
		h.order = append(h.order, device)
		sum := h.count[len(h.count)-1]
		if counts {
			sum++
		}
		h.count = append(h.count, sum)
		h.linked = append(h.linked, h.linked[len(h.linked)-1]+links[device])
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
		h.of[device].from, h.of[device].to = start[i], start[int32(i)+h.of[device].below]
	}
}

// over is the part of the order that is reached over a device, itself first.
func (h *hanging) over(device int32) interval { return interval{h.of[device].from, h.of[device].to} }

// size is how many devices are in the piece that is reached over a device which hangs on
// the one before, where nothing else leads there any more: also those that end links
// elsewhere too.
func (h *hanging) size(device int32) int32 {
	if h.inside == nil {
		h.weigh()
	}
	in := h.over(device)
	return int32(h.atLeast(in)) + h.inside[device]
}

// atLeast and atMost are bounds of that which are quickly told: without what ends links
// elsewhere too, and with each link to what ends them.
func (h *hanging) atLeast(in interval) int { return int(h.count[in.to] - h.count[in.from]) }

func (h *hanging) atMost(in interval) int {
	return h.atLeast(in) + int(h.linked[in.to]-h.linked[in.from])
}

// tell lists what the devices that were reached from a root hang by.
func (h *hanging) tell(root int32) {
	all := h.over(root)
	reached := h.walked[h.of[root].pre-1:][:h.of[root].below]
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
		if up := h.of[device].parent; up >= 0 && h.of[device].via >= 0 && h.of[device].low > h.of[up].pre {
			h.add(-1, h.of[device].via, h.withoutLink(device, root, all))
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
	rest, most, least := all.len()-1-cut[0].len(), 0, 0
	for child := h.of[device].cut; child >= 0; child = h.of[child].sister {
		in := h.over(child)
		cut, rest, most, least = append(cut, in), rest-in.len(), max(most, h.atMost(in)), max(least, h.atLeast(in))
		h.room = cut
	}
	switch {
	case root != h.outside() && most < 2 && (device == root || rest < 2):
		return append(h.room[:0], interval{all.from, at}, interval{at + 1, all.to}) // what is left is no piece
	case root == h.outside() || device != root && rest >= most:
		return cut
	}
	best := int32(-1)
	for child := h.of[device].cut; child >= 0; child = h.of[child].sister {
		in := h.over(child)
		if h.atMost(in) < least {
			continue // another one is larger
		}
		if best < 0 || h.size(child) > h.size(best) || h.size(child) == h.size(best) && h.sooner(in, h.over(best)) {
			best = child
		}
	}
	if device != root && rest >= least && rest >= int(h.size(best)) {
		return cut
	}
	kept := h.over(best)
	return h.besides(kept, interval{all.from, at}, interval{at + 1, kept.from}, interval{kept.to, all.to})
}

// withoutLink is the same for the link by which a device was reached.
func (h *hanging) withoutLink(device, root int32, all interval) []interval {
	in := h.over(device)
	rest := all.len() - in.len()
	if root != h.outside() && in.len() == 1 && rest == 1 {
		return append(h.room[:0], all)
	}
	if root == h.outside() || h.atMost(in) <= rest || h.atLeast(in) <= rest && int(h.size(device)) <= rest {
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
	if !slices.ContainsFunc(parts, func(in interval) bool { return h.atLeast(in) < in.len() }) {
		return parts // nothing in them ends a link elsewhere
	}
	stays := make([]bool, len(h.order))
	for _, k := range h.hooks {
		if at := h.at[k.at]; h.loose[k.device] && h.counts(k) && kept.from <= at && at < kept.to {
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
