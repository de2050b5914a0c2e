package battery

import (
	"cmp"
	"math"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// rank is how long something ought to stay up when the mains have failed, by what the
// wiring tells: what nobody needs goes first, what others need last.
type rank int

const (
	toys      rank = iota // nothing else needs it, and it does not compute
	computers             // they work for people
	stores                // they work for computers
	network               // all of them need it
)

// rankOf is that of a device by its kind.
func rankOf(d *lab.Device) rank {
	is := d.Kind.Traits()
	switch {
	case d.Forwards(), is.Sends && !is.Computes:
		return network
	case d.Kind == lab.NAS, d.Kind == lab.DiskShelf, d.Kind == lab.TapeLibrary:
		return stores
	case is.Computes:
		return computers
	}
	return toys
}

// When the ranks go where nobody said: toys at once, computers and stores over these parts
// of the battery, the one in the latest turn at the upper end.
var (
	computersGo = span{60, 45}
	storesGo    = span{40, 25}
)

// watchersGo is when a computer goes that watches a UPS.
const watchersGo = 20.0

type span struct{ from, to float64 }

// stepPercent is how far apart two turns are at most.
const stepPercent = 5.0

// at is when the nth of the turns there are goes.
func (s span) at(n, turns int) float64 {
	return math.Round(s.from - float64(n)*min(stepPercent, (s.from-s.to)/float64(max(turns-1, 1))))
}

// Suggest is a lab with an order in which all that its UPSs hold goes, where nobody said:
// toys first, what others need last. A device that watches a UPS goes after the other
// computers on it, so that it can tell them. turns are those of the start: of devices that
// are alike otherwise the ones with the latest turn go first. What is fed over the network or
// USB has no order of its own; it goes with what feeds it.
func Suggest(l *lab.Lab, turns map[lab.ID]int) []lab.Change {
	g := power.Of(l)
	island := g.Island()
	watches := map[lab.ID]bool{}
	for d := range lab.Things(l) {
		watches[d.WatchedBy] = true
	}
	var held []lab.Device
	among := map[rank][]int{} // the turns that there are
	for _, n := range heldByAny(g, island) {
		d := *g.Nodes()[n].Device
		if d.Goes == nil && g.ByLeads(n) {
			held = append(held, d)
			among[rankOf(&d)] = append(among[rankOf(&d)], turns[d.ID])
		}
	}
	for r, list := range among {
		slices.Sort(list)
		slices.Reverse(list)
		among[r] = slices.Compact(list)
	}
	var changes []lab.Change
	for _, d := range held {
		now, r := 0.0, rankOf(&d)
		at := func(percent float64) *lab.Goes { return &lab.Goes{AtPercent: &percent} }
		nth, turns := slices.Index(among[r], turns[d.ID]), len(among[r])
		switch r {
		case toys:
			d.Goes = &lab.Goes{AfterMin: &now}
		case computers:
			if d.Goes = at(computersGo.at(nth, turns)); watches[d.ID] {
				d.Goes = at(watchersGo)
			}
		case stores:
			d.Goes = at(storesGo.at(nth, turns))
		case network:
			d.Goes = &lab.Goes{Last: true}
		}
		if c, ok := l.Put(d); ok {
			changes = append(changes, c)
		}
	}
	return changes
}

// heldByAny lists what runs by any UPS when the mains fail, by title.
func heldByAny(g *power.Grid, i *power.Island) []int32 {
	var list []int32
	for n := range g.Nodes() {
		if is := &g.Nodes()[n]; runs(is) && i.Up(int32(n)) && !is.Battery() {
			list = append(list, int32(n))
		}
	}
	slices.SortFunc(list, func(a, b int32) int { return cmpTitles(g, a, b) })
	return list
}

// waveS is how long to wait before the next wave is started.
const waveS = 60

// Wave is what may be started together.
type Wave struct {
	AtS   float64 // from when the mains are back
	Nodes []int32
	Over  []int32 // what feeds them gives more than it may even with one of them alone
}

// Start is how to start again what runs by leads, so that no feed, however it surges,
// gives more than it is made for: what others need first, in waves. What runs already
// draws its most meanwhile. turns are those of devices for what runs on them: of those that are
// alike otherwise the one with the earlier turn goes first, those without one last.
func Start(l *lab.Lab, turns map[lab.ID]int) []Wave {
	g := power.Of(l)
	var list []int32
	for n := range g.Nodes() {
		if is := &g.Nodes()[n]; runs(is) && g.ByLeads(int32(n)) {
			list = append(list, int32(n))
		}
	}
	turn := func(d *lab.Device) int {
		if n, ok := turns[d.ID]; ok {
			return n
		}
		return len(turns) + 1
	}
	slices.SortStableFunc(list, func(a, b int32) int {
		x, y := g.Nodes()[a].Device, g.Nodes()[b].Device
		return cmp.Or(cmp.Compare(rankOf(y), rankOf(x)), turn(x)-turn(y), nearer(g, a, b), cmpTitles(g, a, b))
	})
	s := &starting{g: g, given: make([]float64, len(g.Nodes()))}
	for _, n := range list {
		s.start(n)
	}
	return s.waves
}

// nearer puts what feeds others over the network before what it feeds.
func nearer(g *power.Grid, a, b int32) int { return cmp.Compare(len(g.Out(b)), len(g.Out(a))) }

// starting is one while it is worked out: what each feeder gives, of what runs at its
// most, of what starts while it starts.
type starting struct {
	g     *power.Grid
	waves []Wave
	given []float64
}

func (s *starting) start(n int32) {
	parts := s.above(n)
	boot := s.draws(n, power.Boot)
	fits := true
	for up, part := range parts {
		fits = fits && !s.past(up, s.given[up]+part*boot)
	}
	k := len(s.waves) - 1
	if k < 0 || !fits || rankOf(s.g.Nodes()[n].Device) != rankOf(s.g.Nodes()[s.waves[k].Nodes[0]].Device) {
		s.next()
		k++
	}
	w := &s.waves[k]
	w.Nodes = append(w.Nodes, n)
	for up, part := range parts {
		if s.given[up] += part * boot; s.past(up, s.given[up]) && !slices.Contains(w.Over, up) {
			w.Over = append(w.Over, up)
		}
	}
	slices.SortFunc(w.Over, func(a, b int32) int { return cmpTitles(s.g, a, b) })
}

// next begins a wave: what was starting runs, at its most.
func (s *starting) next() {
	if k := len(s.waves) - 1; k >= 0 {
		for _, n := range s.waves[k].Nodes {
			for up, part := range s.above(n) {
				s.given[up] += part * (s.draws(n, power.Most) - s.draws(n, power.Boot))
			}
		}
	}
	s.waves = append(s.waves, Wave{AtS: waveS * float64(len(s.waves))})
}

func (s *starting) draws(n int32, level int) float64 { return s.g.Flow().In(n).W[level] }

// above are all that feed a node by leads, with the part of its draw that goes through
// each.
func (s *starting) above(n int32) map[int32]float64 {
	parts := map[int32]float64{}
	var up func(n int32, part float64)
	up = func(n int32, part float64) {
		leads := 0.0
		for _, e := range s.g.In(n) {
			if s.g.Feeds()[e].ByLead() {
				leads++
			}
		}
		for _, e := range s.g.In(n) {
			if f := &s.g.Feeds()[e]; f.ByLead() {
				parts[f.From] += part / leads
				up(f.From, part/leads)
			}
		}
	}
	up(n, 1)
	return parts
}

func (s *starting) past(n int32, w float64) bool {
	limit := s.g.Nodes()[n].Limits.W
	return limit > 0 && w > limit
}
