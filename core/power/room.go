package power

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// Room is what a feeder has left for something more.
type Room struct {
	Node  int32
	Free  int      // outlets
	LeftW *float64 // for hours, of it and of all that feeds it; nil while no limit is known
	Least int32    // which of those leaves so little
	Held  bool     // by a battery, at one of the free outlets
}

// Takes reports whether it has room for so many watts; what is not known is not in the way.
func (r Room) Takes(w float64) bool { return r.LeftW == nil || w <= *r.LeftW }

// RoomFor lists what has an outlet free, what has most left first; what has too little for
// that many watts comes last.
func (g *Grid) RoomFor(w float64) []Room {
	var list []Room
	for n := range g.nodes {
		if r := (Room{Node: int32(n), Least: int32(n)}); g.room(&r) {
			list = append(list, r)
		}
	}
	slices.SortStableFunc(list, func(a, b Room) int {
		left := func(r Room) float64 {
			if r.LeftW == nil {
				return -1
			}
			return *r.LeftW
		}
		return cmp.Or(order(b.Takes(w))-order(a.Takes(w)), cmp.Compare(left(b), left(a)))
	})
	return list
}

func order(yes bool) int {
	if yes {
		return 1
	}
	return 0
}

func (g *Grid) room(r *Room) bool {
	is := &g.nodes[r.Node]
	if !is.Kind.Feeder() || is.Device == nil || is.Device.State != lab.Running {
		return false
	}
	for _, o := range g.Outlets(r.Node) {
		if o.Feed < 0 {
			r.Free++
			r.Held = r.Held || g.Holds(r.Node) || is.battery && !o.Filtered
		}
	}
	for _, n := range append([]int32{r.Node}, g.Above(r.Node)...) {
		at := &g.nodes[n]
		w, va := at.Limits.ForHours()
		load := g.Flow().Load(n)
		for _, left := range []struct{ limit, load float64 }{{w, load.W[Typical]}, {va * corrected, load.VA[Typical] * corrected}} {
			if left.limit == 0 {
				continue
			}
			if rest := left.limit - left.load; r.LeftW == nil || rest < *r.LeftW {
				r.LeftW, r.Least = &rest, n
			}
		}
	}
	return r.Free > 0
}
