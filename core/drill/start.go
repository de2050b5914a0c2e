package drill

import (
	"cmp"
	"container/heap"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/need"
	"levelstaff/core/service"
)

// Step is a device or a guest that is started, when a dark lab gets its power back.
type Step struct {
	lab.Key
	Title string
	After float64 // seconds after the first one, as far as waits are written down
}

// Start is in which order a dark lab comes up.
type Start struct {
	Steps []Step
	// Unsaid is how many of the steps have no wait of their own written down: the seconds
	// are what it takes at least.
	Unsaid int
	// Stuck are those that run and would never start again: a circle keeps them down.
	Stuck []Hit
}

// Start works that out. Nothing starts before what it needs; a host's guests come in their
// turns, and one that waits for another comes after it, unless that one needs it.
func (w *Whole) Start() Start {
	dark := w.graph.FromDark(w.off)
	s := &starting{w: w, dark: dark, turns: w.turns(), at: map[int32]float64{}, started: map[int32]bool{}, left: map[int32]int{},
		has: map[int32]int{}, serves: map[int32][]need.Lack{}, held: map[int32][]int32{}}
	var free []int32
	for n := range int32(w.graph.Len()) {
		if !dark.Up(n) {
			continue
		}
		for _, lack := range w.graph.NeedsOf(n) {
			if lack.Soft || lack.Comes && w.graph.IsSource(n) {
				continue
			}
			s.left[n]++
			for _, by := range lack.Any {
				s.serves[by] = append(s.serves[by], lack)
			}
		}
		if s.left[n] == 0 {
			free = append(free, n)
		}
	}
	for _, n := range free {
		s.may(n)
	}
	s.run()
	for _, n := range dark.Down() {
		if w.counts(n) && w.before.Up(n) {
			s.out.Stuck = append(s.out.Stuck, w.hit(n, nil))
		}
	}
	inOrder(s.out.Stuck)
	return s.out
}

// starting is how far a lab has come up.
type starting struct {
	w       *Whole
	dark    need.Outcome // what starts at all
	out     Start
	turns   map[int32]turn
	at      map[int32]float64     // when each thing is there
	left    map[int32]int         // by thing how many of its needs are not met
	has     map[int32]int         // by need how many alternatives it has
	serves  map[int32][]need.Lack // by thing the needs that it is an alternative of
	started map[int32]bool
	queue   byTime
	held    map[int32][]int32 // by one that is to start those that let it go first
	waiting []int32           // all that do, in their order
}

// may takes a thing that has all it needs: what one does not start by itself is there at
// once.
func (s *starting) may(n int32) {
	if _, is := s.w.device(n); is {
		heap.Push(&s.queue, timed{s.at[n], s.turns[n].number, n})
		return
	}
	s.there(n)
}

// there tells what needs a thing that it is there.
func (s *starting) there(n int32) {
	s.started[n] = true
	for _, lack := range s.serves[n] {
		if s.has[lack.At]++; s.has[lack.At] != lack.Least {
			continue
		}
		s.at[lack.Of] = max(s.at[lack.Of], s.at[n])
		if s.left[lack.Of]--; s.left[lack.Of] == 0 {
			s.may(lack.Of)
		}
	}
}

func (s *starting) run() {
	for {
		for len(s.queue) > 0 {
			n := heap.Pop(&s.queue).(timed).thing
			before := slices.IndexFunc(s.turns[n].after, func(b int32) bool { return s.dark.Up(b) && !s.started[b] })
			if before >= 0 {
				s.held[s.turns[n].after[before]] = append(s.held[s.turns[n].after[before]], n)
				s.waiting = append(s.waiting, n)
				continue
			}
			s.start(n)
		}
		i := slices.IndexFunc(s.waiting, func(n int32) bool { return !s.started[n] })
		if i < 0 {
			return
		}
		s.start(s.waiting[i]) // each waits for another one
	}
}

func (s *starting) start(n int32) {
	d, is := s.w.device(n)
	if s.started[n] || !is {
		return
	}
	for _, before := range s.turns[n].after {
		if s.started[before] {
			s.at[n] = max(s.at[n], s.at[before])
		}
	}
	if d.WaitS == nil {
		s.out.Unsaid++
	} else {
		s.at[n] += *d.WaitS
	}
	s.out.Steps = append(s.out.Steps, Step{d.Key(), d.Title(), s.at[n]})
	s.there(n)
	for _, after := range s.held[n] {
		heap.Push(&s.queue, timed{s.at[n], s.turns[after].number, after})
	}
}

// device is a thing as a guest, or as a device that one starts since something needs it.
// What feeds others, or has nothing inside that works, is there when its power is.
func (w *Whole) device(n int32) (lab.Device, bool) {
	t := w.graph.At(n)
	if t.Side != "" || t.Kind != lab.KindDevice {
		return lab.Device{}, false
	}
	d, _ := lab.Find[lab.Device](w.lab, t.ID)
	is := d.Kind.Traits()
	works := !is.Feeds && !is.Passive && !is.Joined && !is.Holds && !is.Portless && w.graph.Serves(n)
	return d, d.State == lab.Running && (is.Guest || works)
}

// turn is when a guest comes among those of its host: its number, and after whom.
type turn struct {
	number int
	after  []int32
}

// last is the turn of what has none.
const last = 1 << 20

// turns are those of all guests: one comes after those that it is said to wait for, and
// after the one of its host whose turn is before.
func (w *Whole) turns() map[int32]turn {
	turns := map[int32]turn{}
	of := func(g *service.Guest) int {
		if g.Starts != nil {
			return *g.Starts
		}
		return last
	}
	for _, h := range service.Of(w.lab).Hosts() {
		list := slices.Clone(h.Guests)
		slices.SortStableFunc(list, func(a, b *service.Guest) int { return cmp.Compare(of(a), of(b)) })
		for i, g := range list {
			n, is := w.thing(g.Key()), turn{number: of(g)}
			for _, id := range g.Guesting.After {
				is.after = append(is.after, w.thing(lab.Key{Kind: lab.KindDevice, ID: id}))
			}
			if g.Starts != nil && i > 0 {
				is.after = append(is.after, w.thing(list[i-1].Key()))
			}
			is.after = slices.DeleteFunc(is.after, func(before int32) bool { return w.leansOn(before, n) })
			turns[n] = is
		}
	}
	return turns
}

// leansOn reports whether a thing needs another one, or something that does.
func (w *Whole) leansOn(n, by int32) bool {
	seen, queue := map[int32]bool{n: true}, []int32{n}
	for ; len(queue) > 0; queue = queue[1:] {
		for _, lack := range w.graph.NeedsOf(queue[0]) {
			for _, next := range lack.Any {
				switch {
				case lack.Soft || seen[next]:
				case next == by:
					return true
				default:
					seen[next] = true
					queue = append(queue, next)
				}
			}
		}
	}
	return false
}

// timed is a thing that could start at a time.
type timed struct {
	at    float64
	turn  int
	thing int32
}

// byTime is a heap of those: what could start first, then by turn.
type byTime []timed

func (q byTime) Len() int { return len(q) }
func (q byTime) Less(a, b int) bool {
	return cmp.Or(cmp.Compare(q[a].at, q[b].at), q[a].turn-q[b].turn, cmp.Compare(q[a].thing, q[b].thing)) < 0
}
func (q byTime) Swap(a, b int) { q[a], q[b] = q[b], q[a] }
func (q *byTime) Push(x any)   { *q = append(*q, x.(timed)) }

// Pop takes the last one.
func (q *byTime) Pop() any {
	one := (*q)[len(*q)-1]
	*q = (*q)[:len(*q)-1]
	return one
}
