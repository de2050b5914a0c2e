package network

import (
	"cmp"
	"slices"
)

// mesh is how the devices of a lab are joined, whatever the VLANs and whichever link
// rests: what passes frames on to each other, and what ends links at that.
type mesh struct {
	n      *Network
	passes []bool
	from   []int32 // edges[from[i]:from[i+1]] are those of device i
	edges  []edge  // between devices that pass frames on; the last device is the world outside
	hooks  []hook
	// roots are where walks over it begin: the world outside where a line comes in,
	// then what passes frames on, what has most links first.
	roots []int32
}

// edge is a link as one end of it has it. To the world outside it has a number below
// -1, which is no link's.
type edge struct{ far, link int32 }

// hook is a link that a device ends at one that passes frames on.
type hook struct{ device, at, link int32 }

// outside is the number of the world outside among the devices.
func (m *mesh) outside() int32 { return int32(len(m.n.nodes)) }

func (n *Network) joined() *mesh {
	many := len(n.nodes)
	m := &mesh{n: n, passes: make([]bool, many), from: make([]int32, many+2), hooks: make([]hook, 0, len(n.links))}
	var lines []int32
	for i := range m.passes {
		if m.passes[i] = n.nodes[i].through; n.nodes[i].modem {
			lines = append(lines, int32(i))
		}
	}
	degree := make([]int32, many)
	joins := make([]hook, 0, len(n.links)) // links between what passes frames on
	join := func(a, b, link int32) {
		joins = append(joins, hook{a, b, link})
		m.from[a+1]++
		m.from[b+1]++
	}
	for i := range n.links {
		l := &n.links[i]
		switch a, b := l.A.Device, l.B.Device; {
		case l.Down || l.lost || a == b:
		case m.passes[a] && m.passes[b]:
			join(a, b, int32(i))
		case m.passes[a]:
			m.hooks = append(m.hooks, hook{b, a, int32(i)})
		case m.passes[b]:
			m.hooks = append(m.hooks, hook{a, b, int32(i)})
		}
	}
	for k, line := range lines {
		join(m.outside(), line, int32(-2-k))
	}
	for i := range degree {
		degree[i] = m.from[i+1]
	}
	for _, h := range m.hooks {
		degree[h.at]++
	}
	for i := 1; i < len(m.from); i++ {
		m.from[i] += m.from[i-1]
	}
	m.edges = make([]edge, m.from[len(m.from)-1])
	next := slices.Clone(m.from)
	for _, j := range joins {
		m.edges[next[j.device]], m.edges[next[j.at]] = edge{j.at, j.link}, edge{j.device, j.link}
		next[j.device]++
		next[j.at]++
	}
	for i := range many {
		if m.passes[i] {
			m.roots = append(m.roots, int32(i))
		}
	}
	slices.SortStableFunc(m.roots, func(a, b int32) int { return cmp.Compare(degree[b], degree[a]) })
	if len(lines) > 0 {
		m.roots = slices.Insert(m.roots, 0, m.outside())
	}
	return m
}

// lines reports whether a line comes in, so that piece 1 is what it comes in at.
func (m *mesh) lines() bool { return len(m.roots) > 0 && m.roots[0] == m.outside() }

// flood goes from a device over all links that are up to what enter takes in: what
// it has not taken in before.
func (m *mesh) flood(root int32, enter func(device int32) bool, up func(link int32) bool) {
	if !enter(root) {
		return
	}
	for queue := []int32{root}; len(queue) > 0; queue = queue[1:] {
		for _, e := range m.edges[m.from[queue[0]]:m.from[queue[0]+1]] {
			if (up == nil || up(e.link)) && enter(e.far) {
				queue = append(queue, e.far)
			}
		}
	}
}
