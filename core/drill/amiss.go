package drill

import (
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/service"
)

// tied are the needs of which one thing lacking is said of that thing itself: what lies on
// a pool that is gone, or runs on a host that rests, is only the next of that.
var tied = []string{Needs, service.DiskOn, service.DiskOver, service.Mounts, service.FindsBy, service.NetworkFrom, service.Has}

// Lacking lists what is said to run and cannot, since something that it needs does not
// run. Each says why.
func (w *Whole) Lacking() []Hit {
	r := reasons{w, w.before, w.off, w.orderOf(w.before), "does not run"}
	var list []Hit
	for _, n := range w.before.Down() {
		lack, _ := w.before.Why(n)
		if w.counts(n) && !slices.Contains(w.off, n) && slices.Contains(tied, lack.How) {
			list = append(list, w.hit(n, r.why(n)))
		}
	}
	inOrder(list)
	return list
}

// Early is a guest whose turn comes before that of another one that it needs.
type Early struct {
	Guest, Needs *service.Guest
}

// Early lists those: both have a turn on the same host, and no other would do.
func (w *Whole) Early() []Early {
	var list []Early
	for _, h := range service.Of(w.lab).Hosts() {
		turns := map[lab.ID]*service.Guest{}
		for _, g := range h.Guests {
			if g.Starts != nil && g.Runs() {
				turns[g.Device.ID] = g
			}
		}
		for _, g := range h.Guests {
			if turns[g.Device.ID] == nil {
				continue
			}
			for _, before := range w.neededBy(g, turns) {
				if *before.Starts > *g.Starts {
					list = append(list, Early{g, before})
				}
			}
		}
	}
	return list
}

// neededBy are those of some guests that one needs and cannot do without, itself or by
// the services in it.
func (w *Whole) neededBy(g *service.Guest, among map[lab.ID]*service.Guest) []*service.Guest {
	of := []int32{w.thing(g.Key())}
	for _, v := range g.Services {
		of = append(of, w.thing(v.Key()))
	}
	var list []*service.Guest
	for _, n := range of {
		for _, lack := range w.graph.NeedsOf(n) {
			if lack.Soft || len(lack.Any) != 1 {
				continue
			}
			at := w.graph.At(lack.Any[0])
			if v, ok := w.lab.Get(at.Key).(lab.Service); ok {
				at.ID = v.In
			}
			if one := among[at.ID]; one != nil && one != g && !slices.Contains(list, one) {
				list = append(list, one)
			}
		}
	}
	return list
}
