package power

import (
	"container/heap"

	"levelstaff/core/lab"
)

// Island is what goes on by batteries when all circuits have failed, and what each battery
// gives. It changes step by step, as things stop and batteries run empty, and touches only
// what each step does. W are typical.
type Island struct {
	g     *Grid
	up    []bool    // by node: it has power, or a battery
	done  []bool    // by node: it was told to stop and draws its standby
	empty []bool    // by node: its battery is
	live  []bool    // by feed
	over  []float64 // by feed, W
	in    []float64 // by node what it draws, W
	queue byRank
	dirty []bool
}

// Island is what goes on when all circuits fail now.
func (g *Grid) Island() *Island {
	n := len(g.nodes)
	i := &Island{g: g, up: make([]bool, n), done: make([]bool, n), empty: make([]bool, n), live: make([]bool, len(g.feeds)),
		over: make([]float64, len(g.feeds)), in: make([]float64, n), dirty: make([]bool, n)}
	for _, at := range g.order { // what feeds before what is fed
		is := &g.nodes[at]
		i.up[at] = is.battery && is.Device.State == lab.Running || len(is.in) > 0 && i.fed(at)
		for _, e := range is.out {
			i.live[e] = i.gives(e)
		}
	}
	for k := len(g.order) - 1; k >= 0; k-- {
		i.reckon(g.order[k], func(int32) {})
	}
	return i
}

// fed reports whether a node has as many live feeds as it needs.
func (i *Island) fed(n int32) bool {
	live := int32(0)
	for _, e := range i.g.nodes[n].in {
		if i.live[e] {
			live++
		}
	}
	return live >= i.g.nodes[n].need && live > 0
}

// gives reports whether a feed has power: all of what is fed itself, of what has nothing
// but its battery the outlets that hold.
func (i *Island) gives(e int32) bool {
	f := &i.g.feeds[e]
	from := &i.g.nodes[f.From]
	if !i.up[f.From] || i.done[f.From] && from.Kind == DeviceNode {
		return false
	}
	return !from.battery || f.Held || i.fed(f.From)
}

// reckon works out what a node draws and where it draws it; changed is told of what feeds
// it more or less than before.
func (i *Island) reckon(n int32, changed func(from int32)) {
	is, g := &i.g.nodes[n], i.g
	in := 0.0
	if i.up[n] && (is.battery || len(is.in) > 0) {
		own := is.Draw.W
		level := Typical
		if i.done[n] {
			level = Standby
		}
		var out Load
		out.W[Typical] = i.out(n)
		load := g.inOf(is, own, out, func(e int32) Load {
			var l Load
			l.W[Typical] = i.over[e]
			return l
		})
		in = load.W[Typical]
		if i.done[n] {
			in += own[level] - own[Typical]
		}
	}
	i.in[n] = in
	leads, others := 0, 0
	for _, e := range is.in {
		switch {
		case !i.live[e]:
		case g.feeds[e].By == byLead:
			leads++
		default:
			others++
		}
	}
	for _, e := range is.in {
		w := 0.0
		switch byLead := g.feeds[e].By == byLead; {
		case !i.live[e] || !i.up[n]:
		case byLead:
			w = in / float64(leads)
		case leads == 0:
			w = in / float64(others)
		}
		if w != i.over[e] {
			i.over[e] = w
			changed(g.feeds[e].From)
		}
	}
}

// out is what a node's outlets give.
func (i *Island) out(n int32) float64 {
	is := &i.g.nodes[n]
	w := is.extra[Typical]
	for _, e := range is.out {
		w += i.over[e]
	}
	return max(0, w)
}

// Up reports whether a node has power.
func (i *Island) Up(n int32) bool { return i.up[n] }

// Runs reports whether a node has power and was not told to stop.
func (i *Island) Runs(n int32) bool { return i.up[n] && !i.done[n] }

// Load is what a node gives, in W; of what is there for itself what it draws.
func (i *Island) Load(n int32) float64 {
	if i.g.nodes[n].Kind.Feeder() {
		return i.out(n)
	}
	return i.in[n]
}

// Drains reports whether a node lives by its own battery: it has one that is not empty,
// and nothing feeds it.
func (i *Island) Drains(n int32) bool {
	return i.g.nodes[n].battery && i.up[n] && !i.empty[n] && !i.fed(n)
}

// Stop lets a device stop: it draws its standby, as far as that is known, and what it fed
// over the network or USB is without power.
func (i *Island) Stop(n int32) (dark []int32) {
	if !i.up[n] || i.done[n] {
		return nil
	}
	i.done[n] = true
	return i.settle(n)
}

// Empty is a battery that has run empty, with what goes dark by it.
func (i *Island) Empty(n int32) (dark []int32) {
	i.empty[n] = true
	if i.fed(n) {
		return nil
	}
	return i.settle(n)
}

// settle follows a change from a node down to all that goes dark, and up again to what
// then gives less or more.
func (i *Island) settle(first int32) (dark []int32) {
	var touched []int32
	for queue := []int32{first}; len(queue) > 0; queue = queue[1:] {
		n := queue[0]
		is := &i.g.nodes[n]
		touched = append(touched, n)
		alive := i.fed(n) || is.battery && !i.empty[n]
		if i.up[n] && !alive {
			i.up[n] = false
			dark = append(dark, n)
		}
		for _, e := range is.out {
			if was := i.live[e]; was != i.gives(e) {
				i.live[e] = !was
				queue = append(queue, i.g.feeds[e].To)
			}
		}
	}
	for _, n := range touched {
		i.put(n)
	}
	for len(i.queue) > 0 {
		n := heap.Pop(&i.queue).(ranked).node
		i.dirty[n] = false
		i.reckon(n, i.put)
	}
	return dark
}

func (i *Island) put(n int32) {
	if !i.dirty[n] {
		i.dirty[n] = true
		heap.Push(&i.queue, ranked{i.g.nodes[n].rank, n})
	}
}

// HeldBy lists what has power by way of a node, itself not, what is nearest to it first.
func (i *Island) HeldBy(n int32) []int32 {
	var list []int32
	seen := map[int32]bool{n: true}
	for queue := []int32{n}; len(queue) > 0; queue = queue[1:] {
		for _, e := range i.g.nodes[queue[0]].out {
			if to := i.g.feeds[e].To; i.live[e] && i.up[to] && !seen[to] {
				seen[to] = true
				list = append(list, to)
				queue = append(queue, to)
			}
		}
	}
	return list
}

// Battery reports whether a node goes on for a while when nothing feeds it.
func (n *Node) Battery() bool { return n.battery }
