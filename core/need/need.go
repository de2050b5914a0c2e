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
	"maps"
	"slices"
	"sync"

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
	Least int     // how many of them; 1 where that is not said
	Soft  bool    // it only limps without
	Comes bool    // it comes from somewhere, and a circle does not hold
	// How it needs it, in words between the two: anvil “is fed by” strip A. Where it is ""
	// the alternatives are no more than what leads on.
	How string
}

// need is one that was added; its alternatives are by[from:to].
type need struct {
	of, from, to, least int32
	soft, comes         bool
	how                 string
}

// Graph is what needs what. It is made once and then only read.
type Graph struct {
	things  []Thing
	number  map[Thing]int32
	needs   []need
	by      []int32
	sources []bool

	settle sync.Once
	at     lists   // by thing the needs it has
	serves lists   // and those that it is an alternative of
	comes  []int32 // how many hard ones it has of what comes from somewhere

	once     sync.Once
	unharmed *falling
}

// lists are one for each thing: that of n is all[from[n]:from[n+1]].
type lists struct{ from, all []int32 }

func (l *lists) of(n int32) []int32 { return l.all[l.from[n]:l.from[n+1]] }

// listed makes the lists of what each sends, once counted and once kept.
func listed(many int, each func(send func(n, what int32))) lists {
	l := lists{from: make([]int32, many+1)}
	each(func(n, _ int32) { l.from[n+1]++ })
	for n := range many {
		l.from[n+1] += l.from[n]
	}
	l.all = make([]int32, l.from[many])
	next := slices.Clone(l.from)
	each(func(n, what int32) {
		l.all[next[n]] = what
		next[n]++
	})
	return l
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
	from := int32(len(g.by))
	g.by = append(g.by, n.Any...)
	slices.Sort(g.by[from:])
	g.by = g.by[:int(from)+len(slices.Compact(g.by[from:]))]
	g.needs = append(g.needs, need{of, from, int32(len(g.by)), int32(max(1, n.Least)), n.Soft, n.Comes, n.How})
}

// settled makes the lists that questions are answered by.
func (g *Graph) settled() {
	g.settle.Do(func() {
		g.at = listed(len(g.things), func(send func(n, what int32)) {
			for at := range g.needs {
				send(g.needs[at].of, int32(at))
			}
		})
		g.serves = listed(len(g.things), func(send func(n, what int32)) {
			for at := range g.needs {
				for _, by := range g.any(int32(at)) {
					send(by, int32(at))
				}
			}
		})
		g.comes = make([]int32, len(g.things))
		for _, n := range g.needs {
			if n.comes && !n.soft {
				g.comes[n.of]++
			}
		}
	})
}

// any are the alternatives of a need.
func (g *Graph) any(at int32) []int32 { return g.by[g.needs[at].from:g.needs[at].to] }

// Source says that what comes from somewhere comes from this thing.
func (g *Graph) Source(n int32) { g.sources[n] = true }

// IsSource reports whether what comes from somewhere comes from this thing.
func (g *Graph) IsSource(n int32) bool { return g.sources[n] }

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

// Why is the first of a thing's needs that is not met; ok is false for what is up and
// what was taken away.
func (o Outcome) Why(n int32) (lack Lack, ok bool) {
	at, ok := o.why[n]
	if !ok {
		return Lack{}, false
	}
	return o.g.lack(at), true
}

// Lack is a need by its alternatives.
type Lack struct {
	At    int32 // its number among all needs
	Of    int32
	Any   []int32
	Least int
	How   string
	Soft  bool
	Comes bool
}

func (g *Graph) lack(at int32) Lack {
	n := &g.needs[at]
	return Lack{at, n.of, g.any(at), int(n.least), n.how, n.soft, n.comes}
}

// NeedsOf lists what a thing needs.
func (g *Graph) NeedsOf(n int32) []Lack {
	g.settled()
	var list []Lack
	for _, at := range g.at.of(n) {
		list = append(list, g.lack(at))
	}
	return list
}

// Serves reports whether anything needs a thing, or could do with it.
func (g *Graph) Serves(n int32) bool {
	g.settled()
	return len(g.serves.of(n)) > 0
}

// Len is how many things there are, those that are no record among them.
func (g *Graph) Len() int { return len(g.things) }

// Hurt lists what is still up and has less than it had in another outcome: an alternative
// of one of its needs is down, by the need that lost it first.
func (o Outcome) Hurt(before Outcome) []Lack {
	var list []Lack
	hurt := map[int32]bool{}
	for _, n := range o.down {
		if !before.up[n] {
			continue
		}
		for _, at := range o.g.serves.of(n) {
			if of := o.g.needs[at].of; o.up[of] && !hurt[of] {
				hurt[of] = true
				list = append(list, o.g.lack(at))
			}
		}
	}
	return list
}

// Limps lists what is up and has less than it had: a soft need is not met, or one of
// several alternatives is down.
func (o Outcome) Limps() []int32 {
	var list []int32
	for n := range o.up {
		if o.up[n] && slices.ContainsFunc(o.g.at.of(int32(n)), func(at int32) bool {
			return slices.ContainsFunc(o.g.any(at), func(by int32) bool { return !o.up[by] })
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
	g.settled()
	if len(given) > 0 {
		f := g.whole(given)
		f.lose(gone)
		f.neverMet()
		f.settle(true)
		return f.Outcome
	}
	whole := g.intact() // most of it stays as it is
	f := g.fallen(gone)
	was := make(map[int32]bool, len(gone))
	for _, n := range gone {
		delete(f.why, n)
		was[n] = true
		if !whole.up[n] {
			f.down = append([]int32{n}, f.down...)
		}
	}
	for _, n := range whole.down {
		if !was[n] {
			f.down = append(f.down, n)
		}
	}
	return f.Outcome
}

// fallen is what Without works out, but for the order of what is down.
func (g *Graph) fallen(gone []int32) *falling {
	whole := g.intact()
	f := &falling{Outcome{g, slices.Clone(whole.up), nil, maps.Clone(whole.why)}, slices.Clone(whole.left), g.sources, 0}
	f.lose(gone)
	f.settle(false)
	return f
}

// Falls takes things away time and again, each time from the same lab, without reasons.
type Falls struct{ from, now *falling }

// Falls are those of a lab from which some things are gone anyway.
func (g *Graph) Falls(gone []int32) *Falls {
	g.settled()
	return &Falls{g.fallen(gone), &falling{Outcome: Outcome{g: g}, source: g.sources}}
}

// Without lists what else goes down without some things, they themselves among it where
// they were up, nearest first. It holds until the next time.
func (s *Falls) Without(gone []int32) []int32 {
	f := s.now
	f.up, f.left = append(f.up[:0], s.from.up...), append(f.left[:0], s.from.left...)
	f.down, f.next = f.down[:0], 0
	f.lose(gone)
	f.settle(false)
	return f.down
}

// falling is a lab from which things are taken away.
type falling struct {
	Outcome
	left   []int32 // by need how many alternatives it has left
	source []bool
	next   int // what is down of which was not followed yet
}

// whole is one with nothing gone; what is given is a source.
func (g *Graph) whole(given []int32) *falling {
	f := &falling{Outcome{g: g, up: make([]bool, len(g.things)), why: map[int32]int32{}}, make([]int32, len(g.needs)),
		slices.Clone(g.sources), 0}
	for n := range f.up {
		f.up[n] = true
	}
	for i := range g.needs {
		f.left[i] = g.needs[i].to - g.needs[i].from
	}
	for _, n := range given {
		f.source[n] = true
	}
	return f
}

// intact is the lab with nothing gone and nothing given, worked out once.
func (g *Graph) intact() *falling {
	g.once.Do(func() {
		g.unharmed = g.whole(nil)
		g.unharmed.neverMet()
		g.unharmed.settle(true)
	})
	return g.unharmed
}

func (f *falling) lose(gone []int32) {
	for _, n := range gone {
		f.fail(n)
	}
}

func (f *falling) fail(n int32) {
	if f.up[n] {
		f.up[n] = false
		f.down = append(f.down, n)
	}
}

// lack takes a thing down for a need that is not met.
func (f *falling) lack(at int32) {
	n := &f.g.needs[at]
	if f.up[n.of] && !n.soft && !(n.comes && f.source[n.of]) {
		if f.why != nil {
			f.why[n.of] = at
		}
		f.fail(n.of)
	}
}

// neverMet takes down what has a need that nothing ever meets.
func (f *falling) neverMet() {
	for i := range f.g.needs {
		if f.left[i] < f.g.needs[i].least {
			f.lack(int32(i))
		}
	}
}

// settle takes down everything that depends on what is down. Whether what is still up is
// fed from a source is checked only where that is in doubt: at first, or where something
// that has to come from a source lost an alternative.
func (f *falling) settle(doubt bool) {
	g := f.g
	for more := true; more; {
		for ; f.next < len(f.down); f.next++ {
			for _, at := range g.serves.of(f.down[f.next]) {
				if f.left[at]--; f.left[at] < g.needs[at].least {
					f.lack(at)
				}
			}
		}
		if !doubt && !slices.ContainsFunc(f.down, func(n int32) bool {
			return slices.ContainsFunc(g.serves.of(n), func(at int32) bool { return g.needs[at].comes && f.up[g.needs[at].of] })
		}) {
			return
		}
		g.grounded(f.up, f.source, f.lack)
		more = f.next < len(f.down)
	}
}

// grounded tells which needs of what is up come from nowhere: those without enough
// alternatives that a source leads to.
func (g *Graph) grounded(up, source []bool, lack func(at int32)) {
	open := slices.Clone(g.comes) // how many of a thing must come from somewhere yet
	has := make([]int32, len(g.needs))
	queue := make([]int32, 0, len(g.things))
	for n := range g.things {
		if source[n] {
			open[n] = 0
		}
		if open[n] == 0 && up[n] {
			queue = append(queue, int32(n))
		}
	}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, at := range g.serves.of(queue[0]) {
			n := &g.needs[at]
			if has[at]++; !n.comes || n.soft || source[n.of] || has[at] != n.least {
				continue
			}
			if open[n.of]--; open[n.of] == 0 && up[n.of] {
				queue = append(queue, n.of)
			}
		}
	}
	for at := range g.needs {
		if n := &g.needs[at]; n.comes && !n.soft && up[n.of] && !source[n.of] && has[at] < n.least {
			lack(int32(at))
		}
	}
}

// FromDark is what comes up in a lab where all is down: the least fixed point. What
// Without nothing has up and this has not is kept down by a circle. Some needs may be left
// out, by their numbers.
func (g *Graph) FromDark(gone []int32, but ...int32) Outcome {
	g.settled()
	o := Outcome{g: g, up: make([]bool, len(g.things)), why: map[int32]int32{}}
	open, has := make([]int32, len(g.things)), make([]int32, len(g.needs))
	away := make([]bool, len(g.things))
	for _, n := range gone {
		away[n] = true
	}
	out := map[int32]bool{}
	for _, at := range but {
		out[at] = true
	}
	counts := func(at int32) bool {
		n := &g.needs[at]
		return !n.soft && !(n.comes && g.sources[n.of]) && !out[at]
	}
	var queue []int32
	start := func(n int32) {
		if open[n] == 0 && !away[n] {
			o.up[n] = true
			queue = append(queue, n)
		}
	}
	for i := range g.needs {
		if counts(int32(i)) {
			open[g.needs[i].of]++
		}
	}
	for n := range g.things {
		start(int32(n))
	}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, at := range g.serves.of(queue[0]) {
			n := &g.needs[at]
			if has[at]++; counts(at) && has[at] == n.least {
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
		for _, at := range g.at.of(int32(n)) {
			if counts(at) && has[at] < g.needs[at].least {
				o.why[int32(n)] = at
				break
			}
		}
	}
	return o
}
