package power

import (
	"cmp"
	"container/heap"
	"slices"

	"levelstaff/core/lab"
)

// Target is what may be lost: a node, or the feed of an outlet or a lead.
type Target struct {
	Node int32 // -1 for a feed
	Feed int32 // -1 for a node
	Lead bool  // the lead is meant, rather than the outlet it is in
}

// Loss is what comes of losing something. Devices are told by their numbers.
type Loss struct {
	Targets []Target
	Dark    []int32 // what runs goes dark at once
	OneLeg  []int32 // what runs goes on with the feeds that it has left
	Held    []int32 // what runs goes dark when the batteries that hold it are empty
	Over    []int32 // what then carries more than it may
	Off     []int32 // all that is without power at once, what feeds others with it
}

// outage works out losses, one after another, touching only what each of them does.
type outage struct {
	g       *Grid
	flow    *Flow
	round   int32
	gone    []int32 // by node the round in which it was dark
	starved []int32 // and in which it had nothing but its battery
	cut     []int32 // by feed the round in which it was dead
	left    []int32 // by node how many feeds it has left
	counted []int32 // in which round
	changed []int32 // by feed the round of what goes over it now
	over    []Load
	queue   []int32
	touched []int32 // nodes that lost a feed and are up
}

func (g *Grid) outage() *outage {
	n, e := len(g.nodes), len(g.feeds)
	return &outage{g: g, flow: g.Flow(), gone: make([]int32, n), starved: make([]int32, n), left: make([]int32, n), counted: make([]int32, n),
		cut: make([]int32, e), changed: make([]int32, e), over: make([]Load, e)}
}

// Lose is what comes of losing some things at once.
func (g *Grid) Lose(targets ...Target) Loss { return g.outage().lose(targets) }

func (o *outage) lose(targets []Target) Loss {
	loss := Loss{Targets: targets}
	dark := o.takeAway(targets, false)
	loss.OneLeg = o.runs(slices.DeleteFunc(slices.Clone(o.touched), func(n int32) bool {
		return o.gone[n] == o.round || o.starved[n] == o.round
	}))
	loss.Over = o.carry(dark)
	loss.Off = o.without(targets, dark)
	loss.Dark = o.runs(slices.Clone(loss.Off))
	if o.anyStarved() {
		later := o.takeAway(targets, true)
		loss.Held = o.runs(slices.DeleteFunc(o.without(targets, later), func(n int32) bool { return slices.Contains(dark, n) }))
	}
	return loss
}

// takeAway follows what goes dark, and lists it. empty is for when no battery holds
// any more.
func (o *outage) takeAway(targets []Target, empty bool) (dark []int32) {
	o.round++
	o.queue, o.touched = o.queue[:0], o.touched[:0]
	for _, t := range targets {
		if t.Node >= 0 {
			o.fail(t.Node)
		} else {
			o.kill(t.Feed, empty)
		}
	}
	for at := 0; at < len(o.queue); at++ {
		for _, e := range o.g.nodes[o.queue[at]].out {
			o.kill(e, empty)
		}
	}
	return slices.Clone(o.queue)
}

func (o *outage) fail(n int32) {
	if o.gone[n] != o.round {
		o.gone[n] = o.round
		o.queue = append(o.queue, n)
	}
}

// kill takes a feed away from what it feeds.
func (o *outage) kill(e int32, empty bool) {
	if o.cut[e] == o.round {
		return
	}
	o.cut[e] = o.round
	to := o.g.feeds[e].To
	n := &o.g.nodes[to]
	if o.counted[to] != o.round {
		o.counted[to], o.left[to] = o.round, int32(len(n.in))
		o.touched = append(o.touched, to)
	}
	if o.left[to]--; o.left[to] >= n.need || o.gone[to] == o.round {
		return
	}
	if empty || !n.battery {
		o.fail(to)
		return
	}
	if o.starved[to] != o.round { // its battery holds what hangs on it
		o.starved[to] = o.round
		for _, e := range n.out {
			if !o.g.feeds[e].Held {
				o.kill(e, empty)
			}
		}
	}
}

func (o *outage) anyStarved() bool {
	return slices.ContainsFunc(o.touched, func(n int32) bool { return o.starved[n] == o.round })
}

// runs are the devices of a list that run and are there for something else than to feed
// others, by title.
func (o *outage) runs(list []int32) []int32 {
	list = slices.DeleteFunc(list, func(n int32) bool {
		is := &o.g.nodes[n]
		return is.Kind.Feeder() || is.Device.State != lab.Running
	})
	slices.SortFunc(list, func(a, b int32) int {
		return cmp.Or(cmp.Compare(o.g.nodes[a].Title, o.g.nodes[b].Title), cmp.Compare(a, b))
	})
	return list
}

// without is a list without what was lost itself.
func (o *outage) without(targets []Target, list []int32) []int32 {
	return slices.DeleteFunc(slices.Clone(list), func(n int32) bool {
		return slices.ContainsFunc(targets, func(t Target) bool { return t.Node == n })
	})
}

// carry works out anew what goes through all that feeds what lost a feed or went dark,
// what is fed first, and lists what carries more than it did and more than it may.
func (o *outage) carry(dark []int32) (over []int32) {
	var queue byRank
	queued := map[int32]bool{}
	put := func(n int32) {
		if !queued[n] {
			queued[n] = true
			heap.Push(&queue, ranked{o.g.nodes[n].rank, n})
		}
	}
	for _, n := range dark {
		put(n)
	}
	for _, n := range o.touched {
		put(n)
	}
	for len(queue) > 0 {
		n := heap.Pop(&queue).(ranked).node
		in, out := o.draws(n)
		is := &o.g.nodes[n]
		o.g.share(is, in, func(e int32) bool { return o.cut[e] != o.round }, func(e int32, l Load) {
			if o.changed[e], o.over[e] = o.round, l; l != o.flow.over[e] {
				put(o.g.feeds[e].From)
			}
		})
		if o.gone[n] == o.round {
			continue
		}
		load, before := in, o.flow.Load(n)
		if is.Kind.Feeder() {
			load = out
		}
		if is.Kind.Feeder() && grown(load, before) && is.Limits.exceeded(load) {
			over = append(over, n)
		}
	}
	slices.Sort(over)
	return over
}

// draws is what a node draws and gives now; one that is dark, or has nothing but its
// battery, draws nothing.
func (o *outage) draws(n int32) (in, out Load) {
	is := &o.g.nodes[n]
	if o.gone[n] == o.round {
		return in, out
	}
	now := func(e int32) Load {
		switch {
		case o.cut[e] == o.round:
			return Load{}
		case o.changed[e] == o.round:
			return o.over[e]
		}
		return o.flow.over[e]
	}
	out = o.g.outOf(is, now)
	if o.starved[n] == o.round {
		return Load{}, out
	}
	return o.g.inOf(is, is.Draw.W, out, now), out
}

// grown reports whether a load is more than another one at a level that limits are for.
func grown(load, before Load) bool {
	const hair = 1e-9
	return load.W[Typical] > before.W[Typical]+hair || load.W[Most] > before.W[Most]+hair
}

// exceeded reports whether a load is past a limit: what is typical that for hours, the
// most all it is made for.
func (l Limits) exceeded(load Load) bool {
	w, va := l.ForHours()
	return past(load.W[Typical], w) || past(load.VA[Typical], va) || past(load.W[Most], l.W) || past(load.VA[Most], l.VA)
}

func past(load, limit float64) bool { return limit > 0 && load > limit*(1+1e-9) }

// Losses are all single losses: of every circuit, UPS, strip, PDU, brick and wall outlet, of
// every outlet and lead in use, and of every device that feeds others over the network
// or USB; what leaves most devices dark first.
func (g *Grid) Losses() []Loss { return g.losses() }

func (g *Grid) loseEach() []Loss {
	o := g.outage()
	var list []Loss
	for _, t := range g.Targets() {
		list = append(list, o.lose([]Target{t}))
	}
	slices.SortStableFunc(list, func(a, b Loss) int {
		return cmp.Or(len(b.Dark)-len(a.Dark), len(b.Held)-len(a.Held), len(b.Over)-len(a.Over))
	})
	return list
}

// Targets are all that may be lost by itself.
func (g *Grid) Targets() []Target {
	var list []Target
	for _, n := range g.order {
		if is := &g.nodes[n]; is.Kind.Feeder() || len(is.out) > 0 {
			list = append(list, Target{Node: n, Feed: -1})
		}
	}
	for e, f := range g.feeds {
		if f.Cable != "" {
			list = append(list, Target{Node: -1, Feed: int32(e)})
			if f.By == byLead {
				list = append(list, Target{Node: -1, Feed: int32(e), Lead: true})
			}
		}
	}
	return list
}

// Pairs are what comes of losing two circuits or UPSs at once; the worst first.
func (g *Grid) Pairs() []Loss {
	var feeds []int32
	for _, n := range g.order {
		if k := g.nodes[n].Kind; k == CircuitNode || k == UPSNode {
			feeds = append(feeds, n)
		}
	}
	o := g.outage()
	var list []Loss
	for i, a := range feeds {
		for _, b := range feeds[i+1:] {
			list = append(list, o.lose([]Target{{Node: a, Feed: -1}, {Node: b, Feed: -1}}))
		}
	}
	slices.SortStableFunc(list, func(a, b Loss) int { return cmp.Or(len(b.Dark)-len(a.Dark), len(b.Held)-len(a.Held)) })
	return list
}

// Words name what is lost: DEVICE/PORT for an outlet, by its outlet, and for a lead, by
// what it is plugged into.
func (g *Grid) Words(t Target) string {
	if t.Node >= 0 {
		return g.nodes[t.Node].Title
	}
	f := &g.feeds[t.Feed]
	if t.Lead {
		return g.nodes[f.To].Title + "/" + lab.PortWords(f.In)
	}
	return g.nodes[f.From].Title + "/" + lab.PortWords(f.Out)
}

// ranked is a node with its rank.
type ranked struct{ rank, node int32 }

// byRank is a heap of nodes, what is fed before what feeds it.
type byRank []ranked

func (q byRank) Len() int           { return len(q) }
func (q byRank) Less(a, b int) bool { return q[a].rank > q[b].rank }
func (q byRank) Swap(a, b int)      { q[a], q[b] = q[b], q[a] }
func (q *byRank) Push(x any)        { *q = append(*q, x.(ranked)) }

// Pop takes the last one.
func (q *byRank) Pop() any {
	last := (*q)[len(*q)-1]
	*q = (*q)[:len(*q)-1]
	return last
}

// After is what every node then gives or draws; see Flow.Load.
func (g *Grid) After(targets ...Target) []Load {
	o := g.outage()
	o.carry(o.takeAway(targets, false))
	loads := make([]Load, len(g.nodes))
	for n := range g.nodes {
		in, out := o.draws(int32(n))
		if loads[n] = in; g.nodes[n].Kind.Feeder() {
			loads[n] = out
		}
	}
	return loads
}
