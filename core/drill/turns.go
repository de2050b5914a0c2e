package drill

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/service"
)

// Turns are when each device may start, from 1, and the other way round when it may go: one
// without which something on another one stops is a turn before that. Of two that hold
// each other up neither is before the other.
func (w *Whole) Turns() map[lab.ID]int {
	t := turning{leans: w.leans(), turns: map[lab.ID]int{}}
	for d := range lab.Things(w.lab) {
		t.of(d.ID)
	}
	return t.turns
}

// leans are, by device, the other ones that it or something on it stops without.
func (w *Whole) leans() map[lab.ID][]lab.ID {
	leans, falls := map[lab.ID][]lab.ID{}, w.graph.Falls(w.off)
	for d := range lab.Things(w.lab) {
		n := w.thing(d.Key())
		if !w.graph.Serves(n) || !w.before.Up(n) {
			continue
		}
		for _, down := range falls.Without([]int32{n}) {
			on := w.machine(w.graph.At(down).Key)
			if w.counts(down) && on != "" && on != d.ID && !slices.Contains(leans[on], d.ID) {
				leans[on] = append(leans[on], d.ID)
			}
		}
	}
	for on, list := range leans {
		slices.SortFunc(list, func(a, b lab.ID) int { return cmp.Compare(w.titled(a), w.titled(b)) })
		leans[on] = list
	}
	return leans
}

func (w *Whole) titled(device lab.ID) string {
	return w.Title(lab.Key{Kind: lab.KindDevice, ID: device})
}

// machine is the device of metal that a record is or runs on, "" where that is none.
func (w *Whole) machine(k lab.Key) lab.ID {
	switch r := w.lab.Get(k).(type) {
	case lab.Service:
		if r.In == "" {
			return ""
		}
		return w.machine(lab.Key{Kind: lab.KindDevice, ID: r.In})
	case lab.Device:
		if g, ok := service.Of(w.lab).Guest(r.ID); ok {
			return g.Host.Device.ID
		}
		return r.ID
	}
	return ""
}

// turning is the turns while they are worked out.
type turning struct {
	leans map[lab.ID][]lab.ID
	turns map[lab.ID]int // 0 while that of one is worked out
}

func (t turning) of(d lab.ID) int {
	if turn, known := t.turns[d]; known {
		return turn
	}
	t.turns[d] = 0
	turn := 1
	for _, by := range t.leans[d] {
		if !slices.Contains(t.leans[by], d) {
			turn = max(turn, t.of(by)+1)
		}
	}
	t.turns[d] = turn
	return turn
}
