package battery

import (
	"cmp"
	"container/heap"
	"math"
	"slices"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// stopS is how long a computer takes to stop where nobody said; what does not compute is
// down at once.
const stopS = 60

// Step is a device that stops in order.
type Step struct {
	Node    int32
	AtS     float64 // when it is told to
	DownS   float64
	Percent float64 // of the battery that holds it longest, when it is told to
	Guessed bool    // how long it takes to stop is
	Lost    bool    // the battery was empty first
}

// Lost is a device that loses its power while it runs.
type Lost struct {
	Node  int32
	AtS   float64
	Known bool // when
}

// Mark is where a battery stands at a moment.
type Mark struct{ S, Percent, LoadW float64 }

// Run is what becomes of a UPS after the mains have failed.
type Run struct {
	Node   int32
	Steps  []Step // of what hangs on it, in the order of time
	Lost   []Lost
	DownS  *float64 // when all that stop in order are down; nil where one is lost, or none does
	EmptyS *float64 // when its battery is; nil where that is not known, or never
	Marks  []Mark   // how its battery falls, straight between them
}

// Outage is what becomes of a lab after the mains have failed.
type Outage struct {
	Runs []Run // by title
	Back *Back
}

// Back is how things stand when the mains come back.
type Back struct {
	Down     []int32 // stopped in order, or without power: to be started again
	Stopping []int32 // told to stop, and about to
	Up       []int32
}

// What are changes to what is said, to see what they would do.
type What struct {
	Nobody bool    // stops
	BackS  float64 // when the mains come back; 0 for never
}

// outage is one while it is worked out.
type outage struct {
	l       *lab.Lab
	g       *power.Grid
	i       *power.Island
	t       float64
	ups     []int32   // with a battery; what follows goes by its place in this list
	charge  []float64 // parts of all it holds
	curves  []Curve
	rates   []float64 // how fast it falls, in parts a second
	stale   []bool    // its load is not what it was when its rate was worked out
	open    []int     // how many are to stop before what goes last
	marks   [][]Mark
	empty   []float64 // when it was, below zero while it is not
	holds   [][]int32 // what it holds when the mains fail
	holding [][]int32 // by node the places of the UPSs that hold it
	waiting []*waiting
	timed   events // what goes after some time
	ends    events // what is stopping
	after   map[lab.ID][]int32
	last    []int32
	steps   map[int32]*Step
	down    map[int32]bool
	lost    map[int32]*Lost
	stopped []int32 // in the order of time
}

// waiting are devices that wait for the same batteries to fall, the first to go first.
type waiting struct {
	ups   []int32
	turns []turn
}

// turn is a device that goes when the battery is down to a part of what it holds.
type turn struct {
	part float64
	node int32
}

// event is a device at a moment.
type event struct {
	at   float64
	node int32
}

type events []event

func (e events) Len() int { return len(e) }
func (e events) Less(a, b int) bool {
	return e[a].at < e[b].at || e[a].at == e[b].at && e[a].node < e[b].node
}
func (e events) Swap(a, b int) { e[a], e[b] = e[b], e[a] }
func (e *events) Push(x any)   { *e = append(*e, x.(event)) }

// Pop takes the last one.
func (e *events) Pop() any {
	last := (*e)[len(*e)-1]
	*e = (*e)[:len(*e)-1]
	return last
}

// Simulate follows what happens after all circuits have failed: batteries fall with the
// load there is, devices go when they are said to, what hangs on them goes with them.
// said is the lab in which minutes without a load were said, as for Of.
func Simulate(l, said *lab.Lab, today lab.Day, what What) Outage {
	g := power.Of(l)
	o := &outage{l: l, g: g, i: g.Island(), holding: make([][]int32, len(g.Nodes())),
		after: map[lab.ID][]int32{}, steps: map[int32]*Step{}, down: map[int32]bool{}, lost: map[int32]*Lost{}}
	for n := range g.Nodes() {
		if is := &g.Nodes()[n]; is.Kind == power.UPSNode && is.Battery() && o.i.Up(int32(n)) {
			o.ups = append(o.ups, int32(n))
		}
	}
	slices.SortFunc(o.ups, func(a, b int32) int { return cmpTitles(g, a, b) })
	for at, u := range o.ups {
		is := &g.Nodes()[u]
		o.curves = append(o.curves, CurveOf(l, *is.Device, today, triedAt(said, is.Key)))
		o.holds = append(o.holds, o.i.HeldBy(u))
		for _, n := range o.holds[at] {
			o.holding[n] = append(o.holding[n], int32(at))
		}
		o.charge, o.empty, o.stale = append(o.charge, 1), append(o.empty, -1), append(o.stale, true)
	}
	o.rates, o.open, o.marks = make([]float64, len(o.ups)), make([]int, len(o.ups)), make([][]Mark, len(o.ups))
	if !what.Nobody {
		o.plan()
	}
	o.run(what.BackS)
	return o.outcome(what)
}

// now is what becomes of a lab as it stands, worked out once for a day.
type now struct {
	sync.Mutex
	day lab.Day
	is  *Outage
}

// Now is what happens in a lab as it stands when all circuits fail on a day.
func Now(l *lab.Lab, today lab.Day) Outage {
	kept := lab.Derived(l, func(*lab.Lab) *now { return &now{} })
	kept.Lock()
	defer kept.Unlock()
	if kept.is == nil || kept.day != today {
		is := Simulate(l, l, today, What{})
		kept.is, kept.day = &is, today
	}
	return *kept.is
}

// runs reports whether a node is there for itself, and runs.
func runs(is *power.Node) bool {
	return is.Kind == power.DeviceNode && is.Device.State == lab.Running
}

// plan sorts the devices by what they wait for.
func (o *outage) plan() {
	sets := map[[4]int32]*waiting{}
	for n := range o.g.Nodes() {
		node := int32(n)
		is := &o.g.Nodes()[n]
		if len(o.holding[node]) == 0 || !runs(is) || is.Device.Goes == nil {
			continue
		}
		goes := is.Device.Goes
		if !goes.Last {
			for _, u := range o.holding[node] {
				o.open[u]++
			}
		}
		switch {
		case goes.Last:
			o.last = append(o.last, node)
		case goes.AfterMin != nil:
			const minute = 60
			heap.Push(&o.timed, event{*goes.AfterMin * minute, node})
		case goes.After != "":
			if at, ok := o.g.Number(lab.Key{Kind: lab.KindDevice, ID: goes.After}); ok && len(o.holding[at]) > 0 {
				o.after[goes.After] = append(o.after[goes.After], node)
			} else {
				heap.Push(&o.timed, event{0, node}) // it is down as soon as the mains are
			}
		default:
			var key [4]int32 // seldom more than two
			for i, u := range o.holding[node][:min(len(key), len(o.holding[node]))] {
				key[i] = u + 1
			}
			if sets[key] == nil {
				sets[key] = &waiting{ups: o.holding[node]}
				o.waiting = append(o.waiting, sets[key])
			}
			sets[key].turns = append(sets[key].turns, turn{*goes.AtPercent / 100, node})
		}
	}
	for _, w := range o.waiting {
		slices.SortFunc(w.turns, func(a, b turn) int { return cmp.Or(cmp.Compare(b.part, a.part), cmp.Compare(a.node, b.node)) })
	}
}

// rate is how fast a battery falls now, in parts a second; 0 where it does not, or where
// that is not known.
func (o *outage) rate(at int) float64 {
	if !o.stale[at] {
		return o.rates[at]
	}
	o.stale[at], o.rates[at] = false, 0
	if u := o.ups[at]; o.i.Drains(u) {
		const minute = 60
		if minutes, _, known := o.curves[at].Minutes(o.i.Load(u)); known && minutes > 0 {
			o.rates[at] = 1 / (minutes * minute)
		}
	}
	o.mark(at)
	return o.rates[at]
}

// touch is told of what was changed: the UPSs that held it have another load.
func (o *outage) touch(list ...int32) {
	for _, n := range list {
		for _, at := range o.holding[n] {
			if !o.stale[at] {
				o.stale[at] = true
				o.mark(int(at))
			}
		}
	}
}

const hair = 1e-9

// run goes from event to event until nothing happens any more, or the mains are back.
func (o *outage) run(backS float64) {
	for {
		o.due()
		next := o.next()
		if backS > 0 && next > backS {
			next = backS
		}
		if math.IsInf(next, 1) {
			return
		}
		for at, r := range o.rates {
			if o.charge[at] = max(0, o.charge[at]-r*(next-o.t)); o.charge[at] < hair {
				o.charge[at] = 0
			}
		}
		if o.t = next; backS > 0 && next >= backS {
			return
		}
		for at, r := range o.rates {
			if r > 0 && o.charge[at] == 0 && o.empty[at] < 0 {
				o.empty[at] = o.t
				o.mark(at)
				o.stale[at] = true
				o.touch(o.holds[at]...)
				o.dark(o.i.Empty(o.ups[at]))
			}
		}
		for len(o.ends) > 0 && o.ends[0].at <= o.t+hair {
			o.ended(heap.Pop(&o.ends).(event).node)
		}
	}
}

// next is when something happens next.
func (o *outage) next() float64 {
	at := math.Inf(1)
	for u := range o.ups {
		if r := o.rate(u); r > 0 && o.charge[u] > 0 {
			at = min(at, o.t+o.charge[u]/r)
		}
	}
	for _, list := range []events{o.timed, o.ends} {
		if len(list) > 0 {
			at = min(at, max(o.t, list[0].at))
		}
	}
	for _, w := range o.waiting {
		if len(w.turns) > 0 {
			at = min(at, o.falls(w))
		}
	}
	return at
}

// falls is when the fullest of the batteries that devices wait for is down to where the
// first of them goes.
func (o *outage) falls(w *waiting) float64 {
	at := o.t
	for _, u := range w.ups {
		switch over := o.charge[u] - w.turns[0].part; {
		case over <= hair:
		case o.rate(int(u)) == 0:
			return math.Inf(1)
		default:
			at = max(at, o.t+over/o.rate(int(u)))
		}
	}
	return at
}

// due lets all go whose time has come.
func (o *outage) due() {
	for more := true; more; {
		more = false
		for len(o.timed) > 0 && o.timed[0].at <= o.t+hair {
			o.goes(heap.Pop(&o.timed).(event).node)
			more = true
		}
		for _, w := range o.waiting {
			for len(w.turns) > 0 && o.falls(w) <= o.t {
				first := w.turns[0]
				w.turns = w.turns[1:]
				o.goes(first.node)
				more = true
			}
		}
		waits := o.last[:0]
		for _, n := range o.last {
			if slices.ContainsFunc(o.holding[n], func(u int32) bool { return o.open[u] > 0 }) {
				waits = append(waits, n)
				continue
			}
			o.goes(n)
			more = true
		}
		o.last = waits
		for len(o.ends) > 0 && o.ends[0].at <= o.t+hair {
			o.ended(heap.Pop(&o.ends).(event).node)
			more = true
		}
	}
}

// goes is a device that is told to stop.
func (o *outage) goes(n int32) {
	if !o.i.Runs(n) {
		return // it was lost before
	}
	d := o.g.Nodes()[n].Device
	s := &Step{Node: n, AtS: o.t, DownS: o.t}
	for _, u := range o.holding[n] {
		s.Percent = max(s.Percent, 100*o.charge[u])
	}
	switch {
	case d.StopsS != nil:
		s.DownS += *d.StopsS
	case d.Kind.Traits().Computes:
		s.DownS += stopS
		s.Guessed = true
	}
	o.steps[n] = s
	o.stopped = append(o.stopped, n)
	heap.Push(&o.ends, event{s.DownS, n})
}

// ended is a device that is down, if it was not lost.
func (o *outage) ended(n int32) {
	if o.down[n] || o.steps[n].Lost {
		return
	}
	o.touch(n)
	o.dark(o.i.Stop(n))
	o.isDown(n)
}

// isDown lets go what waits for a device.
func (o *outage) isDown(n int32) {
	if o.down[n] {
		return
	}
	o.down[n] = true
	d := o.g.Nodes()[n].Device
	if d.Goes != nil && !d.Goes.Last {
		for _, u := range o.holding[n] {
			o.open[u]--
		}
	}
	for _, waits := range o.after[d.ID] {
		o.goes(waits)
	}
}

// dark are things that are without power now: those that ran are lost.
func (o *outage) dark(list []int32) {
	for _, n := range list {
		if !runs(&o.g.Nodes()[n]) || o.down[n] {
			continue
		}
		o.lost[n] = &Lost{n, o.t, true}
		if s := o.steps[n]; s != nil {
			s.Lost = true
		}
	}
	for _, n := range list {
		if runs(&o.g.Nodes()[n]) {
			o.isDown(n)
		}
	}
}

// mark puts down where a battery stands, until it is empty.
func (o *outage) mark(at int) {
	if o.empty[at] >= 0 && o.t > o.empty[at] {
		return
	}
	m := Mark{o.t, 100 * o.charge[at], o.i.Load(o.ups[at])}
	list := o.marks[at]
	if n := len(list); n > 0 && list[n-1].S == m.S && list[n-1].Percent == m.Percent {
		list[n-1] = m
	} else {
		list = append(list, m)
	}
	o.marks[at] = list
}
