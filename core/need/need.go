// Package need is what needs what: one graph over the records of a lab, to which
// each layer adds its edges. Two questions are asked of it. What is still up when
// something is taken from a running lab is its greatest fixed point: what was up
// stays up as long as all it needs is, and things in a circle hold each other.
// What comes up in a dark lab is its least one: what starts is what has all it
// needs already.
//
// Some needs are met from somewhere: frames come from the line outside, current
// from a breaker. There a circle does not hold: two switches that are linked to
// nothing but each other do not give each other a way out.
package need

import (
	"slices"

	"levelstaff/core/lab"
)

// Thing is what may be up or down: a record, or one side of it.
type Thing struct {
	lab.Key
	// Side is what of the record is meant where that is not the record itself, as
	// being linked to the network is of a device.
	Side string
}

// Need is that a thing needs any Least of some others.
type Need struct {
	Any   []int32 // the alternatives, by their numbers in the graph
	Least int     // how many of them; 1 where it is 0
	Soft  bool    // it only limps without
	Comes bool    // it comes from somewhere, and a circle does not hold
}

// need is one that was added.
type need struct {
	Need
	of int32
}

// Graph is what needs what. It is made once and then only read.
type Graph struct {
	things  []Thing
	number  map[Thing]int32
	needs   []need
	sources []bool
	at      [][]int32 // of each thing the needs it has
	serves  [][]int32 // and those that it is an alternative of
}

// New is a graph without things.
func New() *Graph { return &Graph{number: map[Thing]int32{}} }

// Thing is the number of a thing, which is new in the graph or known.
func (g *Graph) Thing(t Thing) int32 {
	if n, known := g.number[t]; known {
		return n
	}
	n := g.Step()
	g.things[n], g.number[t] = t, n
	return n
}

// Step is the number of a new thing that is no record: one of several in a row
// that only together are an alternative.
func (g *Graph) Step() int32 {
	g.things = append(g.things, Thing{})
	g.sources = append(g.sources, false)
	g.at, g.serves = append(g.at, nil), append(g.serves, nil)
	return int32(len(g.things) - 1)
}

// Number is that of a thing that is known.
func (g *Graph) Number(t Thing) (n int32, ok bool) {
	n, ok = g.number[t]
	return n, ok
}

// At is the thing of a number; a step is the empty one.
func (g *Graph) At(n int32) Thing { return g.things[n] }

// Needs adds what a thing needs.
func (g *Graph) Needs(of int32, n Need) {
	n.Least, n.Any = max(1, n.Least), slices.Compact(slices.Sorted(slices.Values(n.Any)))
	at := int32(len(g.needs))
	g.needs = append(g.needs, need{n, of})
	g.at[of] = append(g.at[of], at)
	for _, by := range n.Any {
		g.serves[by] = append(g.serves[by], at)
	}
}

// Source says that what comes from somewhere comes from this thing.
func (g *Graph) Source(n int32) { g.sources[n] = true }

// Outcome is which things are up. What is down is so for a reason.
type Outcome struct {
	g    *Graph
	up   []bool
	down []int32 // what went down, in the order in which it did
	why  map[int32]int32
}

// Up reports whether a thing is up.
func (o Outcome) Up(n int32) bool { return o.up[n] }

// Down lists what is down: what was taken away, then what went with it, nearest
// first.
func (o Outcome) Down() []int32 { return o.down }

// Why is the first of a thing's needs that is not met, by its alternatives; ok is
// false for what is up and what was taken away.
func (o Outcome) Why(n int32) (any []int32, ok bool) {
	at, ok := o.why[n]
	if !ok {
		return nil, false
	}
	return o.g.needs[at].Any, true
}

// Limps lists what is up and has less than it had: a soft need is not met, or one of
// several alternatives is down.
func (o Outcome) Limps() []int32 {
	var list []int32
	for n := range o.up {
		if o.up[n] && slices.ContainsFunc(o.g.at[n], func(at int32) bool {
			return slices.ContainsFunc(o.g.needs[at].Any, func(by int32) bool { return !o.up[by] })
		}) {
			list = append(list, int32(n))
		}
	}
	return list
}

// Without is what stays up when some things are taken away: the greatest fixed
// point. What is given stays a source of its own whatever it needs, as the largest
// piece of a network that has no line outside does.
func (g *Graph) Without(gone, given []int32) Outcome {
	o := Outcome{g: g, up: make([]bool, len(g.things)), why: map[int32]int32{}}
	for n := range o.up {
		o.up[n] = true
	}
	left := make([]int32, len(g.needs))
	for i := range g.needs {
		left[i] = int32(len(g.needs[i].Any))
	}
	source := slices.Clone(g.sources)
	for _, n := range given {
		source[n] = true
	}
	next := 0
	fail := func(n int32) {
		if o.up[n] {
			o.up[n] = false
			o.down = append(o.down, n)
		}
	}
	lack := func(at int32) {
		n := &g.needs[at]
		if o.up[n.of] && !n.Soft && !(n.Comes && source[n.of]) {
			o.why[n.of] = at
			fail(n.of)
		}
	}
	for _, n := range gone {
		fail(n)
	}
	for i := range g.needs {
		if int(left[i]) < g.needs[i].Least {
			lack(int32(i)) // it was never met
		}
	}
	for more := true; more; {
		for ; next < len(o.down); next++ {
			for _, at := range g.serves[o.down[next]] {
				if left[at]--; int(left[at]) < g.needs[at].Least {
					lack(at)
				}
			}
		}
		g.grounded(o.up, source, lack)
		more = next < len(o.down)
	}
	return o
}

// grounded tells which needs of what is up come from nowhere: those without enough
// alternatives that a source leads to.
func (g *Graph) grounded(up, source []bool, lack func(at int32)) {
	open := make([]int32, len(g.things)) // needs of a thing that must come from somewhere yet
	has := make([]int32, len(g.needs))
	var queue []int32
	for n := range g.things {
		for _, at := range g.at[n] {
			if g.needs[at].Comes && !g.needs[at].Soft && !source[n] {
				open[n]++
			}
		}
		if open[n] == 0 && up[n] {
			queue = append(queue, int32(n))
		}
	}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, at := range g.serves[queue[0]] {
			n := &g.needs[at]
			if has[at]++; !n.Comes || n.Soft || source[n.of] || int(has[at]) != n.Least {
				continue
			}
			if open[n.of]--; open[n.of] == 0 && up[n.of] {
				queue = append(queue, n.of)
			}
		}
	}
	for at := range g.needs {
		if n := &g.needs[at]; n.Comes && !n.Soft && up[n.of] && !source[n.of] && int(has[at]) < n.Least {
			lack(int32(at))
		}
	}
}

// FromDark is what comes up in a lab where all is down: the least fixed point. What
// Without nothing has up and this has not is kept down by a circle.
func (g *Graph) FromDark(gone []int32) Outcome {
	o := Outcome{g: g, up: make([]bool, len(g.things)), why: map[int32]int32{}}
	open, has := make([]int32, len(g.things)), make([]int32, len(g.needs))
	away := make([]bool, len(g.things))
	for _, n := range gone {
		away[n] = true
	}
	counts := func(n *need) bool { return !n.Soft && !(n.Comes && g.sources[n.of]) }
	var queue []int32
	start := func(n int32) {
		if open[n] == 0 && !away[n] {
			o.up[n] = true
			queue = append(queue, n)
		}
	}
	for i := range g.needs {
		if counts(&g.needs[i]) {
			open[g.needs[i].of]++
		}
	}
	for n := range g.things {
		start(int32(n))
	}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, at := range g.serves[queue[0]] {
			n := &g.needs[at]
			if has[at]++; counts(n) && int(has[at]) == n.Least {
				open[n.of]--
				start(n.of)
			}
		}
	}
	for n := range g.things {
		if o.up[n] {
			continue
		}
		o.down = append(o.down, int32(n))
		for _, at := range g.at[n] {
			if need := &g.needs[at]; counts(need) && int(has[at]) < need.Least {
				o.why[int32(n)] = at
				break
			}
		}
	}
	return o
}
