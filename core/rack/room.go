package rack

import (
	"cmp"
	"fmt"
	"slices"

	"levelstaff/core/lab"
)

// Room is how units come free in one piece.
type Room struct {
	RackID lab.ID     `json:"rack_id" required:"true"`
	Unit   int        `json:"unit" required:"true" description:"Lowest unit of the room, counted from the rack's foot; 0 if there is no way"`
	Units  int        `json:"units" required:"true"`
	Range  string     `json:"range" required:"true" description:"The units as the rail numbers them"`
	Moves  []RoomMove `json:"moves" required:"true" nullable:"false" description:"In an order that keeps the target units free"`
	Fewest bool       `json:"fewest" required:"true" description:"No way moves fewer devices"`
	Why    string     `json:"why,omitempty" description:"Why there is no way"`
}

// RoomMove is one thing taken from units to others.
type RoomMove struct {
	DeviceID lab.ID    `json:"device_id" required:"true"`
	Title    string    `json:"title" required:"true"`
	From     string    `json:"from" required:"true" description:"The units it takes now; empty where it was taken out before"`
	To       string    `json:"to" required:"true" description:"The units it goes to; empty where it is taken out"`
	At       *lab.Spot `json:"at,omitempty" description:"Where it goes; absent where it is taken out"`
}

// MakeRoom finds the fewest things to move within a rack so that n units are
// free at both faces in one piece, among ways with as few moves the one that
// lifts the least weight. A thing keeps its face and its share of the width.
// Blanking panels are no things: those in the way are taken out first.
//
// For each number of things and each run of n units it tries to pack what is
// in the run, and so many things from elsewhere, into what is free; a run
// that holds more things than that number is not tried. The effort is bounded:
// past it, things are shifted along without changing their order, which always
// works if enough is free, and Fewest is not claimed.
func MakeRoom(l *lab.Lab, r lab.Rack, n int) Room {
	room := Room{RackID: r.ID, Units: n, Moves: []RoomMove{}}
	if n < 1 || n > r.HeightU {
		room.Why = fmt.Sprintf("%s has %d units", r.Name, r.HeightU)
		return room
	}
	m := newMaker(l, r, n)
	best, proven := m.pack()
	if best == nil {
		best = m.shift()
	}
	if best == nil {
		room.Why = fmt.Sprintf("%dU cannot be freed in one piece by moving devices within %s: it has %dU free", n, r.Name, SpaceOf(l, r).FreeU)
		return room
	}
	room.Unit, room.Fewest = best.unit, proven
	room.Range = l.UnitRange(r, best.unit, n)
	room.Moves = append(m.blanksOut(best), m.inOrder(best.to)...)
	return room
}

// item is a mounted device as packing sees it.
type item struct {
	device lab.Device
	unit   int // where it is
	units  int
	face   int
	mask   uint8
	kg     float64
}

// rail is what is taken of each unit of both faces, six bits of the width.
type rail [2][lab.MaxRackUnits + 1]uint8

func (t *rail) free(it item, unit int) bool {
	for u := unit; u < unit+it.units; u++ {
		if t[it.face][u]&it.mask != 0 {
			return false
		}
	}
	return true
}

func (t *rail) mark(it item, unit int, taken bool) {
	for u := unit; u < unit+it.units; u++ {
		if taken {
			t[it.face][u] |= it.mask
		} else {
			t[it.face][u] &^= it.mask
		}
	}
}

type maker struct {
	l      *lab.Lab
	r      lab.Rack
	n      int
	items  []item
	blanks []item
	effort int
}

// unweighedKG stands for a weight that is not known when two ways are compared.
const unweighedKG = 10

func newMaker(l *lab.Lab, r lab.Rack, n int) *maker {
	const effort = 400_000 // placements tried: some tens of milliseconds
	m := &maker{l: l, r: r, n: n, effort: effort}
	for _, d := range l.Held(r.Key()) {
		if d.At.Where != lab.InUnits {
			continue
		}
		from, to := d.At.Share.Sixths()
		it := item{device: d, unit: d.At.Unit, units: d.Units(), mask: 1<<to - 1<<from, kg: unweighedKG}
		if d.At.Face == lab.Rear {
			it.face = 1
		}
		if d.WeightKG != nil {
			it.kg = *d.WeightKG
		}
		if d.Kind == lab.BlankingPanel {
			m.blanks = append(m.blanks, it)
			continue
		}
		m.items = append(m.items, it)
	}
	slices.SortStableFunc(m.items, func(a, b item) int { return cmp.Or(a.unit-b.unit, a.face-b.face) })
	return m
}

// way is one answer: the room's lowest unit and where each moved item goes.
type way struct {
	unit int
	to   map[int]int // item to unit
	kg   float64
	far  int
	out  int // how many blanking panels are taken out
}

func (w *way) better(o *way) bool {
	return o == nil || cmp.Or(cmp.Compare(w.kg, o.kg), w.far-o.far, w.out-o.out, o.unit-w.unit) < 0
}

// pack looks for the fewest moves; proven is false where the effort ran out.
func (m *maker) pack() (best *way, proven bool) {
	for moves := 0; moves <= len(m.items); moves++ {
		for unit := m.r.HeightU - m.n + 1; unit >= 1; unit-- {
			in, out := m.split(unit)
			if len(in) > moves {
				continue
			}
			m.choose(unit, in, out, moves-len(in), &best)
			if m.effort <= 0 {
				return best, false
			}
		}
		if best != nil {
			return best, true
		}
	}
	return nil, true
}

// split sorts the items into those in the run of n units and the others.
func (m *maker) split(unit int) (in, out []int) {
	for i, it := range m.items {
		if it.unit < unit+m.n && unit < it.unit+it.units {
			in = append(in, i)
		} else {
			out = append(out, i)
		}
	}
	return
}

// choose adds so many of the others to what has to move, in every way, and
// tries to pack each.
func (m *maker) choose(unit int, in, out []int, more int, best **way) {
	if m.effort <= 0 {
		return
	}
	if more == 0 {
		m.fit(unit, in, best)
		return
	}
	for i := range out {
		m.choose(unit, append(slices.Clone(in), out[i]), out[i+1:], more-1, best)
	}
}

// fit packs the moving items into what the others leave outside the run.
func (m *maker) fit(unit int, moving []int, best **way) {
	var taken rail
	for face := range taken {
		for u := unit; u < unit+m.n; u++ {
			taken[face][u] = wholeWidth
		}
	}
	kg := 0.0
	for i, it := range m.items {
		if slices.Contains(moving, i) {
			kg += it.kg
		} else {
			taken.mark(it, it.unit, true)
		}
	}
	if *best != nil && kg > (*best).kg {
		return
	}
	order := slices.Clone(moving)
	slices.SortStableFunc(order, func(a, b int) int { return m.items[b].units - m.items[a].units })
	w := &way{unit: unit, to: map[int]int{}, kg: kg}
	if !m.place(&taken, order, w) {
		return
	}
	if w.out = len(m.blanksIn(w)); w.better(*best) {
		*best = w
	}
}

// place puts the items one after another, each as near to where it is as goes.
func (m *maker) place(taken *rail, order []int, w *way) bool {
	if len(order) == 0 {
		return true
	}
	it := m.items[order[0]]
	for far := 1; far < m.r.HeightU; far++ {
		for _, unit := range []int{it.unit - far, it.unit + far} {
			m.effort--
			if m.effort <= 0 {
				return false
			}
			if unit < 1 || unit+it.units-1 > m.r.HeightU || !taken.free(it, unit) {
				continue
			}
			taken.mark(it, unit, true)
			if m.place(taken, order[1:], w) {
				w.to[order[0]] = unit
				w.far += far
				return true
			}
			taken.mark(it, unit, false)
		}
	}
	return false
}

// block is a run of units whose items overlap and are shifted as one.
type block struct {
	unit, units int
	items       []int
}

func (m *maker) blocks() []block {
	var list []block
	for i, it := range m.items {
		if n := len(list); n > 0 && it.unit < list[n-1].unit+list[n-1].units {
			list[n-1].units = max(list[n-1].units, it.unit+it.units-list[n-1].unit)
			list[n-1].items = append(list[n-1].items, i)
			continue
		}
		list = append(list, block{it.unit, it.units, []int{i}})
	}
	return list
}

// shift opens the room between two neighbours by pushing those below down and
// those above up, whichever way pushes the fewest things.
func (m *maker) shift() *way {
	blocks := m.blocks()
	var best *way
	for cut := 0; cut <= len(blocks); cut++ {
		for foot := 1; foot+m.n-1 <= m.r.HeightU; foot++ {
			w := &way{unit: foot, to: map[int]int{}}
			if m.push(blocks, cut, w) && (best == nil || len(w.to) < len(best.to) || len(w.to) == len(best.to) && w.better(best)) {
				best = w
			}
		}
	}
	return best
}

func (m *maker) push(blocks []block, cut int, w *way) bool {
	limit := w.unit // those below end under it
	for i := cut - 1; i >= 0; i-- {
		b := blocks[i]
		limit = min(b.unit, limit-b.units)
		if limit < 1 {
			return false
		}
		m.shifted(b, limit, w)
	}
	limit = w.unit + m.n
	for _, b := range blocks[cut:] {
		at := max(b.unit, limit)
		limit = at + b.units
		if limit-1 > m.r.HeightU {
			return false
		}
		m.shifted(b, at, w)
	}
	return true
}

func (m *maker) shifted(b block, unit int, w *way) {
	if unit == b.unit {
		return
	}
	for _, i := range b.items {
		w.to[i] = m.items[i].unit + unit - b.unit
		w.kg += m.items[i].kg
		w.far += max(unit-b.unit, b.unit-unit)
	}
}

// inOrder makes the moves one after another, each to units that are free by
// then. Where things stand in each other's way the lightest is taken out first
// and put in again at the end.
func (m *maker) inOrder(to map[int]int) []RoomMove {
	var taken rail
	for _, it := range m.items {
		taken.mark(it, it.unit, true)
	}
	var left []int
	for i := range m.items {
		if _, ok := to[i]; ok {
			left = append(left, i)
		}
	}
	moves := []RoomMove{}
	out := map[int]bool{}
	for len(left) > 0 {
		at := slices.IndexFunc(left, func(i int) bool {
			it := m.items[i]
			if !out[i] {
				taken.mark(it, it.unit, false)
				defer taken.mark(it, it.unit, true)
			}
			return taken.free(it, to[i])
		})
		if at < 0 {
			i := slices.MinFunc(slices.DeleteFunc(slices.Clone(left), func(i int) bool { return out[i] }), func(a, b int) int {
				return cmp.Compare(m.items[a].kg, m.items[b].kg)
			})
			taken.mark(m.items[i], m.items[i].unit, false)
			out[i] = true
			moves = append(moves, m.move(i, 0, false))
			continue
		}
		i := left[at]
		if !out[i] {
			taken.mark(m.items[i], m.items[i].unit, false)
		}
		taken.mark(m.items[i], to[i], true)
		moves = append(moves, m.move(i, to[i], out[i]))
		left = slices.Delete(left, at, at+1)
	}
	return moves
}

// blanksOut takes out the blanking panels that are in the room, or where
// something goes.
func (m *maker) blanksOut(w *way) []RoomMove {
	moves := []RoomMove{}
	for _, b := range m.blanksIn(w) {
		moves = append(moves, m.moved(b, 0, false))
	}
	return moves
}

func (m *maker) blanksIn(w *way) []item {
	var list []item
	for _, b := range m.blanks {
		overlaps := func(unit, units int) bool { return b.unit < unit+units && unit < b.unit+b.units }
		inWay := overlaps(w.unit, m.n)
		for i, unit := range w.to {
			it := m.items[i]
			inWay = inWay || it.face == b.face && it.mask&b.mask != 0 && overlaps(unit, it.units)
		}
		if inWay {
			list = append(list, b)
		}
	}
	return list
}

// move says one move; unit 0 is out of the rack.
func (m *maker) move(i, unit int, wasOut bool) RoomMove { return m.moved(m.items[i], unit, wasOut) }

func (m *maker) moved(it item, unit int, wasOut bool) RoomMove {
	mv := RoomMove{DeviceID: it.device.ID, Title: it.device.Title()}
	if !wasOut {
		mv.From = m.l.UnitRange(m.r, it.unit, it.units)
	}
	if unit > 0 {
		at := *it.device.At
		at.Unit = unit
		mv.At, mv.To = &at, m.l.UnitRange(m.r, unit, it.units)
	}
	return mv
}
