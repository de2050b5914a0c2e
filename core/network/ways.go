package network

import (
	"cmp"
	"container/heap"
	"slices"

	"levelstaff/core/lab"
)

// Way is how frames get from one device to another: the path whose narrowest hop
// is widest; of equal ones the one with fewest hops, then with the shortest cables.
type Way struct {
	// Hops are the devices on it in order. It has none where nothing leads there.
	Hops []Hop
	// Mb is how wide it is in Mbit/s, and FlowMb what one flow gets: of aggregated
	// links one. Both are 0 while the speed of none of its links is known.
	Mb, FlowMb int
	AtMost     bool     // it may be less: something on it is unknown
	Unsure     []int32  // links on it that may rest
	HeldBy     []string // what keeps its narrowest hop from being wider
	Standby    []int32  // links that would take over from one that it uses
	LengthM    float64  // of its cables, but for Lacks of unknown length
	Lacks      int
}

// Hop is a device on a way, the port by which frames come in and the one by which
// they go on. An aggregate is written as a port.
type Hop struct {
	Device  int32
	In, Out string
	// Over are the links that lead on to the next device, aggregated where they are
	// several, and Mb what they carry together; 0 while unknown.
	Over   []int32
	Mb     int
	AtMost bool
}

// span is what joins two devices: a link, or several that are aggregated.
type span struct {
	a, b     int32
	links    []int32
	mb, flow int // of the links whose speed is known; 0 where none is
	atMost   bool
	unsure   bool
	lacks    int
	lengthM  float64
	names    [2]string // how its end at a and at b is written
}

// wide is how wide it is taken to be where ways are compared.
func (s *span) wide() int { return cmp.Or(s.mb, assumedMb) }

// crossing is what the ways of a lab are looked for in.
type crossing struct {
	spans  []span
	at     [][]int32 // of each device
	idle   []int32   // links that rest or stand by
	passes []bool    // which devices pass on what comes in
}

// cross lists what carries between devices. Links that the spanning tree keeps
// from carrying, and those that stand by in an aggregate, are apart.
func (n *Network) cross() *crossing {
	c := &crossing{at: make([][]int32, len(n.nodes)), passes: n.mesh.passes}
	rests, unsure, standby := n.idle()
	groups, names := n.groupsByLink(), n.Groups()
	together := map[[2]groupKey]int32{}
	for i := range n.links {
		l := &n.links[i]
		at := int32(i)
		if l.Down || l.lost || l.A.Device == l.B.Device {
			continue
		}
		if rests[at] || standby[at] {
			c.idle = append(c.idle, at)
			continue
		}
		ends := groups[at]
		grouped := ends[0].group > 0 && ends[1].group > 0
		if s, known := together[ends]; grouped && known {
			c.spans[s].add(l, at)
			continue
		}
		s := span{a: l.A.Device, b: l.B.Device, unsure: unsure[at]}
		s.names = [2]string{lab.PortWords(n.w.KeyOf(l.A)), lab.PortWords(n.w.KeyOf(l.B))}
		if grouped {
			together[ends] = int32(len(c.spans))
			for k, end := range ends {
				s.names[k] = names[end.group-1].Name
			}
		}
		s.add(l, at)
		c.at[s.a], c.at[s.b] = append(c.at[s.a], int32(len(c.spans))), append(c.at[s.b], int32(len(c.spans)))
		c.spans = append(c.spans, s)
	}
	return c
}

// add puts a link to those of a span, which carry together.
func (s *span) add(l *Link, at int32) {
	s.links = append(s.links, at)
	s.mb += l.Mb
	if l.Mb > 0 && (s.flow == 0 || l.Mb < s.flow) {
		s.flow = l.Mb
	}
	s.atMost = s.atMost || l.AtMost
	s.lacks, s.lengthM = max(s.lacks, l.Lacks), max(s.lengthM, l.LengthM) // side by side
}

func (s *span) far(device int32) int32 {
	if s.a == device {
		return s.b
	}
	return s.a
}

// Within is where a way may go.
type Within struct {
	n     *Network
	links []bool // those that carry the VLAN; nil where all do
}

// Everywhere is over all links there are, whatever they carry.
func (n *Network) Everywhere() Within { return Within{n: n} }

// InVLAN is over the links that carry VLANs of a number, piece by piece.
func (n *Network) InVLAN(number int) []Within {
	var list []Within
	for _, s := range n.Spreads() {
		if s.VLAN.Number != number {
			continue
		}
		for _, p := range s.Pieces {
			in := Within{n, make([]bool, len(n.links))}
			for _, l := range p.Links {
				in.links[l] = true
			}
			list = append(list, in)
		}
	}
	return list
}

func (in Within) has(s *span) bool {
	return in.links == nil || slices.ContainsFunc(s.links, func(l int32) bool { return in.links[l] })
}

// passes reports whether a frame that came over a span goes on from a device.
func (in Within) passes(s *span, device int32) bool {
	if in.links == nil {
		return in.n.crossed().passes[device]
	}
	return in.n.bridges(&in.n.links[s.links[0]], device)
}

// Way is the widest way between two devices; it has no hops where there is none. It
// takes as long as the lab has links.
func (in Within) Way(from, to int32) Way {
	wide := in.widest(from, to)
	if wide == 0 {
		return Way{}
	}
	return in.way(from, to, in.shortest(from, to, wide))
}

// reachedBy is a device that may be reached over a span, and what that comes to:
// less is better, the first figure that differs counting.
type reachedBy struct {
	device, span int32
	width        int
	unknown      int
	hops         int
	lacks        int
	lengthM      float64
}

// byReach is a heap of them.
type byReach []reachedBy

func (q byReach) Len() int      { return len(q) }
func (q byReach) Swap(a, b int) { q[a], q[b] = q[b], q[a] }

// Less implements heap.Interface.
func (q byReach) Less(a, b int) bool {
	x, y := &q[a], &q[b]
	return cmp.Or(y.width-x.width, x.unknown-y.unknown, x.hops-y.hops, x.lacks-y.lacks, cmp.Compare(x.lengthM, y.lengthM),
		int(x.span-y.span)) < 0
}

// Push implements heap.Interface.
func (q *byReach) Push(x any) { *q = append(*q, x.(reachedBy)) }

// Pop implements heap.Interface.
func (q *byReach) Pop() any {
	last := len(*q) - 1
	x := (*q)[last]
	*q = (*q)[:last]
	return x
}

// search goes from a device to another, the best next. step is what one more span
// comes to; ok is false where it is not taken. The answer is by which span each
// device was reached.
func (in Within) search(from, to int32, step func(at reachedBy, s *span) (next reachedBy, ok bool)) (via []int32, at reachedBy, ok bool) {
	c := in.n.crossed()
	via = make([]int32, len(c.at))
	for i := range via {
		via[i] = -1
	}
	queue := &byReach{}
	expand := func(at reachedBy) {
		for _, i := range c.at[at.device] {
			s := &c.spans[i]
			far := s.far(at.device)
			if far == from || via[far] >= 0 || !in.has(s) || at.device != from && !in.passes(s, at.device) {
				continue
			}
			if far != to && !in.passes(s, far) {
				continue // it ends there
			}
			if next, ok := step(at, s); ok {
				next.device, next.span = far, i
				heap.Push(queue, next)
			}
		}
	}
	for expand(reachedBy{device: from}); queue.Len() > 0; {
		next := heap.Pop(queue).(reachedBy)
		if via[next.device] >= 0 {
			continue
		}
		if via[next.device] = next.span; next.device == to {
			return via, next, true
		}
		expand(next)
	}
	return via, at, false
}

// widest is how wide the widest way is; 0 where there is none.
func (in Within) widest(from, to int32) int {
	_, at, ok := in.search(from, to, func(at reachedBy, s *span) (reachedBy, bool) {
		width := s.wide()
		if at.device != from {
			width = min(width, at.width)
		}
		return reachedBy{width: width}, true
	})
	if !ok {
		return 0
	}
	return at.width
}

// shortest are the spans of the shortest way that is that wide.
func (in Within) shortest(from, to int32, wide int) []int32 {
	via, _, _ := in.search(from, to, func(at reachedBy, s *span) (reachedBy, bool) {
		next := reachedBy{hops: at.hops + 1, unknown: at.unknown, lacks: at.lacks + s.lacks, lengthM: at.lengthM + s.lengthM}
		if s.mb == 0 {
			next.unknown++
		}
		return next, s.wide() >= wide
	})
	var list []int32
	for at := to; at != from; {
		list = append(list, via[at])
		at = in.n.crossed().spans[via[at]].far(at)
	}
	slices.Reverse(list)
	return list
}

// way is what a number of spans in a row come to.
func (in Within) way(from, to int32, over []int32) Way {
	n, c := in.n, in.n.crossed()
	w := Way{Hops: []Hop{{Device: from}}}
	for _, i := range over {
		s := &c.spans[i]
		hop := &w.Hops[len(w.Hops)-1]
		out, into := s.names[0], s.names[1]
		if s.b == hop.Device {
			out, into = into, out
		}
		hop.Out, hop.Over, hop.Mb, hop.AtMost = out, s.links, s.mb, s.atMost
		w.Hops = append(w.Hops, Hop{Device: s.far(hop.Device), In: into})
		if s.mb > 0 && (w.Mb == 0 || s.mb < w.Mb) {
			w.Mb = s.mb
		}
		if s.flow > 0 && (w.FlowMb == 0 || s.flow < w.FlowMb) {
			w.FlowMb = s.flow
		}
		w.AtMost = w.AtMost || s.atMost || s.mb == 0
		if s.unsure {
			w.Unsure = append(w.Unsure, s.links...)
		}
		w.lengthen(s)
	}
	for _, hop := range w.Hops[:len(w.Hops)-1] {
		if hop.Mb != w.Mb {
			continue
		}
		for _, l := range hop.Over {
			names := n.w.HoldsDown(n.links[l].Link)
			if n.links[l].A.Device != hop.Device {
				slices.Reverse(names)
			}
			for _, name := range names {
				if !slices.Contains(w.HeldBy, name) {
					w.HeldBy = append(w.HeldBy, name)
				}
			}
		}
	}
	w.Standby = in.standby(w, over)
	return w
}

func (w *Way) lengthen(s *span) {
	w.LengthM += s.lengthM
	w.Lacks += s.lacks
}

// standby lists the links that lead round a hop of a way and carry nothing now, or may
// carry nothing: their ends are on different sides of it, as far as all else goes that
// surely carries.
func (in Within) standby(w Way, over []int32) []int32 {
	c := in.n.crossed()
	sets := newSets(len(c.at))
	used := make([]bool, len(c.spans))
	for _, i := range over {
		used[i] = true
	}
	idle := slices.Clone(c.idle)
	for i := range c.spans {
		switch s := &c.spans[i]; {
		case used[i]:
		case s.unsure:
			idle = append(idle, s.links...)
		case c.passes[s.a] && c.passes[s.b]:
			sets.join(s.a, s.b)
		}
	}
	side := map[int32]int{}
	for k, hop := range w.Hops {
		side[sets.root(hop.Device)] = k + 1
	}
	var list []int32
	for _, i := range idle {
		l := &in.n.links[i]
		a, b := side[sets.root(l.A.Device)], side[sets.root(l.B.Device)]
		if a > 0 && b > 0 && a != b && (in.links == nil || in.links[i]) {
			list = append(list, i)
		}
	}
	slices.Sort(list)
	return list
}
