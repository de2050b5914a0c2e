package network

import (
	"cmp"
	"container/heap"
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Tree is a spanning tree: switches that are linked, the one at its root, and the
// links that rest so that no frame goes round.
type Tree struct {
	Bridges []int32 // the devices that take part, rising
	// Root is the device at the root, -1 where that cannot be told: it is one of
	// those in Between, whose priorities tie and whose MACs are not all known.
	Root    int32
	Between []int32
	Resting []int32 // links that rest, whichever is the root
	// Unsure are links some of which rest, where it cannot be told which.
	Unsure []int32
	// Spare is how many links rest in all, in either list.
	Spare int
	// Assumed is how many links have no known speed and are taken to carry 1 Gb/s,
	// where that may matter.
	Assumed int
}

// Loop is a circle of devices that take no part in any tree: nobody cuts it.
type Loop struct{ Devices, Links []int32 }

// attach is a port of a bridge at a segment. With aggregated ones it is several
// links that count as one.
type attach struct {
	bridge, port int32
	links        []int32
	cost         int
}

// segment is what joins bridges: a link, or a number of devices that pass
// everything on and take part in nothing.
type segment struct{ at []attach }

// assumedMb stands in for a speed that is not known.
const assumedMb = 1000

// costOf is the path cost of a speed (IEEE 802.1D-2004, 17.14): 20,000,000 Mb/s
// over it.
func costOf(mb int) int { return max(1, 20_000_000/mb) }

// Trees lists the trees there are, the largest first.
func (n *Network) Trees() []Tree { return n.trees() }

// idle are the links that the trees keep from carrying, those of which some rest and it
// cannot be told which, and those that stand by in an aggregate.
func (n *Network) idle() (rests, unsure, standby map[int32]bool) {
	rests, unsure, standby = map[int32]bool{}, map[int32]bool{}, map[int32]bool{}
	for _, t := range n.Trees() {
		for _, l := range t.Resting {
			rests[l] = true
		}
		for _, l := range t.Unsure {
			unsure[l] = true
		}
	}
	for _, g := range n.Groups() {
		for _, l := range g.Links {
			if l >= 0 && g.Standby(l) {
				standby[l] = true
			}
		}
	}
	return rests, unsure, standby
}

// takesPart reports whether a device takes part in the spanning tree: a switch
// that is not unmanaged, or a router that switches VLANs.
func (n *Network) takesPart(device int32) bool {
	switch is := &n.nodes[device]; {
	case is.role == Idle || is.role == Ends:
		return false
	case is.routes:
		return true
	}
	d := n.w.DeviceAt(device)
	return d.IsSwitch() && n.lab.SpecOf(*d).Managed != lab.Unmanaged
}

// bridging is what passes frames on, and how it is linked.
type bridging struct {
	links []int32   // between what passes frames on; none that only stands by for another
	at    [][]int32 // the same at each device
	part  []bool    // which devices take part in the spanning tree
}

func (n *Network) bridge() bridging {
	of := bridging{part: make([]bool, len(n.nodes)), at: make([][]int32, len(n.nodes))}
	for i := range of.part {
		of.part[i] = n.takesPart(int32(i))
	}
	resting := map[int32]bool{}
	for _, g := range n.Groups() {
		if n.nodes[g.Device].role == Ends {
			continue
		}
		for _, l := range g.Links {
			if l >= 0 && g.Standby(l) {
				resting[l] = true
			}
		}
	}
	for i := range n.links {
		l := &n.links[i]
		if !l.Down && !l.lost && l.Guest == "" && !resting[int32(i)] && n.bridges(l, l.A.Device) && n.bridges(l, l.B.Device) {
			of.links = append(of.links, int32(i))
			of.at[l.A.Device] = append(of.at[l.A.Device], int32(i))
			of.at[l.B.Device] = append(of.at[l.B.Device], int32(i))
		}
	}
	return of
}

// bridges reports whether frames get from a link's end to the other ports of its
// device.
func (n *Network) bridges(l *Link, device int32) bool {
	switch n.nodes[device].role {
	case Passes:
		return true
	case Switches:
		if !n.nodes[device].routes {
			return true // whatever its VLANs, a switch's tree is one
		}
		t := l.A
		if t.Device != device {
			t = l.B
		}
		at := n.at(l, t)
		return at != nothing && at != anything
	}
	return false
}

// span finds the trees there are.
func (n *Network) span() []*spanning {
	list, _ := n.segments()
	part := n.bridged().part
	sets := newSets(len(n.nodes))
	for _, s := range list {
		for _, a := range s.at[1:] {
			sets.join(s.at[0].bridge, a.bridge)
		}
	}
	number := map[int32]int{}
	var of []*spanning
	for i := range n.nodes {
		if !part[i] {
			continue
		}
		root := sets.root(int32(i))
		if _, known := number[root]; !known {
			number[root] = len(of)
			of = append(of, &spanning{Network: n, at: map[int32][]place{}})
		}
		of[number[root]].bridges = append(of[number[root]].bridges, int32(i))
	}
	for _, s := range list {
		if len(s.at) == 0 {
			continue
		}
		t := of[number[sets.root(s.at[0].bridge)]]
		for k, a := range s.at {
			t.at[a.bridge] = append(t.at[a.bridge], place{len(t.segments), k})
		}
		t.segments = append(t.segments, s)
	}
	return of
}

// workOut works the trees out.
func (n *Network) workOut() []Tree {
	trees := []Tree{}
	for _, t := range n.spans() {
		trees = append(trees, t.tree())
	}
	slices.SortStableFunc(trees, func(a, b Tree) int {
		return cmp.Or(cmp.Compare(len(b.Bridges), len(a.Bridges)), cmp.Compare(b.Spare, a.Spare),
			cmp.Compare(n.title(a.Bridges[0]), n.title(b.Bridges[0])))
	})
	return trees
}

// EndWords are the two ports of a link as one writes them: core/23, loft switch/8.
func (n *Network) EndWords(link int32) (a, b string) {
	l := &n.links[link]
	say := func(t cabling.Tip) string { return n.title(t.Device) + "/" + lab.PortWords(n.w.KeyOf(t)) }
	return say(l.A), say(l.B)
}

func (n *Network) title(device int32) string { return n.w.DeviceAt(device).Title() }

// place is an attachment, by its segment and its number there.
type place struct{ segment, number int }

// spanning is one tree while it is worked out.
type spanning struct {
	*Network
	bridges  []int32
	segments []segment
	at       map[int32][]place // the attachments of each bridge
}

func (t *spanning) attach(p place) attach { return t.segments[p.segment].at[p.number] }

// mostRoots bounds for how many roots a tree is worked out, where it cannot be told
// which it is.
const mostRoots = 16

func (t *spanning) tree() Tree {
	tree := Tree{Bridges: t.bridges, Root: -1}
	ends := 0
	for _, s := range t.segments {
		ends += len(s.at)
	}
	tree.Spare = ends - len(t.segments) - len(t.bridges) + 1
	roots := t.roots()
	if len(roots) == 1 {
		tree.Root = roots[0]
	} else {
		tree.Between = roots
	}
	if tree.Spare == 0 {
		return tree
	}
	for _, s := range t.segments {
		for _, a := range s.at {
			for _, l := range a.links {
				if t.links[l].Mb == 0 {
					tree.Assumed++
				}
			}
		}
	}
	if len(roots) > mostRoots {
		return tree
	}
	rests, unsure := map[int32]int{}, map[int32]bool{}
	for _, root := range roots {
		sure, maybe := t.from(root)
		for l := range sure {
			rests[l]++
		}
		for l := range maybe {
			unsure[l] = true
		}
	}
	for l, times := range rests {
		if times == len(roots) {
			tree.Resting = append(tree.Resting, l)
		} else {
			unsure[l] = true
		}
	}
	for l := range unsure {
		if !slices.Contains(tree.Resting, l) {
			tree.Unsure = append(tree.Unsure, l)
		}
	}
	slices.Sort(tree.Resting)
	slices.Sort(tree.Unsure)
	return tree
}

// roots are the bridges one of which is the root: those of the lowest priority,
// and among them the one of the lowest MAC, as far as MACs are known.
func (t *spanning) roots() []int32 {
	least := slices.MinFunc(t.bridges, func(a, b int32) int { return t.priority(a) - t.priority(b) })
	var roots []int32
	lowest := ""
	for _, b := range t.bridges {
		if t.priority(b) != t.priority(least) {
			continue
		}
		switch mac := t.mac(b); {
		case mac == "":
			roots = append(roots, b)
		case lowest == "" || mac < lowest:
			lowest = mac
		}
	}
	for _, b := range t.bridges {
		if t.priority(b) == t.priority(least) && lowest != "" && t.mac(b) == lowest {
			roots = append(roots, b)
		}
	}
	slices.Sort(roots)
	return roots
}

func (t *spanning) priority(b int32) int {
	if p := t.w.DeviceAt(b).Priority; p != nil {
		return *p
	}
	return lab.UsualPriority
}

func (t *spanning) mac(b int32) string { return t.w.DeviceAt(b).MAC }

// compare tells which of two bridges is lower: below 0 for the first, above for the
// second, 0 where that cannot be told, or where they are one.
func (t *spanning) compare(a, b int32) int {
	if by := t.priority(a) - t.priority(b); by != 0 {
		return by
	}
	if t.mac(a) == "" || t.mac(b) == "" {
		return 0
	}
	return cmp.Compare(t.mac(a), t.mac(b))
}

// from works out which links rest with that root: for sure, and maybe.
func (t *spanning) from(root int32) (sure, maybe map[int32]bool) {
	cost := t.costs(root)
	forwards, perhaps := map[place]bool{}, map[place]bool{}
	for _, b := range t.bridges {
		if b == root {
			continue
		}
		best := t.rootPorts(b, cost)
		for _, p := range best {
			if len(best) == 1 {
				forwards[p] = true
			} else {
				perhaps[p] = true
			}
		}
	}
	sure, maybe = map[int32]bool{}, map[int32]bool{}
	for s := range t.segments {
		best := t.designated(s, cost)
		for k, a := range t.segments[s].at {
			p := place{s, k}
			into := sure
			switch {
			case forwards[p], len(best) == 1 && best[0] == k:
				continue
			case perhaps[p]:
				into = maybe
			case slices.Contains(best, k) && len(t.segments[s].at) > 2:
				into = maybe
			}
			if len(best) > 1 && slices.Contains(best, k) && k == best[0] && len(t.segments[s].at) == 2 {
				continue // one of the two ends blocks, and the link rests either way
			}
			for _, l := range a.links {
				into[l] = true
			}
		}
	}
	return sure, maybe
}

// costs are the path costs of all bridges to the root.
func (t *spanning) costs(root int32) map[int32]int {
	cost := map[int32]int{}
	done := make([]bool, len(t.segments))
	queue := &byCost{{root, 0}}
	for queue.Len() > 0 {
		next := heap.Pop(queue).(reachedAt)
		if _, known := cost[next.bridge]; known {
			continue
		}
		cost[next.bridge] = next.cost
		for _, p := range t.at[next.bridge] {
			if done[p.segment] {
				continue
			}
			done[p.segment] = true // nobody farther away offers less
			for _, a := range t.segments[p.segment].at {
				if _, known := cost[a.bridge]; !known {
					heap.Push(queue, reachedAt{a.bridge, next.cost + a.cost})
				}
			}
		}
	}
	return cost
}

// rootPorts are the ports of a bridge one of which leads to the root: of those that
// cost least the one at the lowest bridge, then at its lowest port, then the lowest
// of its own. There are several where it cannot be told which bridge is lower.
func (t *spanning) rootPorts(b int32, cost map[int32]int) []place {
	type offer struct {
		place
		cost     int
		upstream attach
		own      int32
	}
	var best []offer
	for _, p := range t.at[b] {
		mine := t.attach(p)
		for k, a := range t.segments[p.segment].at {
			if k == p.number || a.bridge == b {
				continue
			}
			o := offer{p, cost[a.bridge] + mine.cost, a, mine.port}
			against := func(than offer) int {
				if by := cmp.Compare(o.cost, than.cost); by != 0 {
					return by
				}
				if o.upstream.bridge != than.upstream.bridge {
					return t.compare(o.upstream.bridge, than.upstream.bridge)
				}
				return cmp.Or(cmp.Compare(o.upstream.port, than.upstream.port), cmp.Compare(o.own, than.own))
			}
			if slices.ContainsFunc(best, func(than offer) bool { return against(than) > 0 }) {
				continue
			}
			best = slices.DeleteFunc(best, func(than offer) bool { return against(than) < 0 })
			best = append(best, o)
		}
	}
	var places []place
	for _, o := range best {
		if !slices.Contains(places, o.place) {
			places = append(places, o.place)
		}
	}
	return places
}

// designated are the attachments of a segment one of which leads on to the root.
func (t *spanning) designated(s int, cost map[int32]int) []int {
	at := t.segments[s].at
	var best []int
	for k, a := range at {
		against := func(than int) int {
			o := at[than]
			if by := cmp.Compare(cost[a.bridge], cost[o.bridge]); by != 0 {
				return by
			}
			if a.bridge != o.bridge {
				return t.compare(a.bridge, o.bridge)
			}
			return cmp.Compare(a.port, o.port)
		}
		if slices.ContainsFunc(best, func(than int) bool { return against(than) > 0 }) {
			continue
		}
		best = slices.DeleteFunc(best, func(than int) bool { return against(than) < 0 })
		best = append(best, k)
	}
	return best
}

// reachedAt is a bridge that may be reached at a cost.
type reachedAt struct {
	bridge int32
	cost   int
}

// byCost is a heap of them.
type byCost []reachedAt

func (q byCost) Len() int           { return len(q) }
func (q byCost) Less(a, b int) bool { return q[a].cost < q[b].cost }
func (q byCost) Swap(a, b int)      { q[a], q[b] = q[b], q[a] }

// Push implements heap.Interface.
func (q *byCost) Push(x any) { *q = append(*q, x.(reachedAt)) }

// Pop implements heap.Interface.
func (q *byCost) Pop() any {
	last := len(*q) - 1
	x := (*q)[last]
	*q = (*q)[:last]
	return x
}
