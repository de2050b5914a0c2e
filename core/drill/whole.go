// Package drill works out what becomes of a lab when something goes, over all its layers
// at once: what stops and what goes on with less, who notices, which circles keep a dark
// lab from starting, and in what order it comes up.
//
// The layers say what needs what, each by a function of its own; what a person wrote down
// is added here. What does not run, being said to rest or to be spare and so on, is off
// from the start and no alternative for anything.
package drill

import (
	"fmt"
	"sync"

	"levelstaff/core/lab"
	"levelstaff/core/need"
	"levelstaff/core/network"
	"levelstaff/core/power"
	"levelstaff/core/reach"
	"levelstaff/core/request"
	"levelstaff/core/service"
	"levelstaff/core/storage"
)

// Whole is what needs what over all layers of a lab. It is worked out once and then only
// read.
type Whole struct {
	lab    *lab.Lab
	graph  *need.Graph
	net    *network.Network
	off    []int32      // what does not run
	before need.Outcome // with nothing gone but that

	cut  func() []int32 // the devices, by number, that are cut off then
	lost func() losses
}

// How what a person wrote down is needed.
const (
	Needs   = "needs"
	EndIn   = "ends in"
	OutOver = "goes out over"
)

// Of is that of a lab.
func Of(l *lab.Lab) *Whole { return lab.Derived(l, newWhole) }

func newWhole(l *lab.Lab) *Whole {
	w := &Whole{lab: l, graph: need.New(), net: network.Of(l)}
	power.Of(l).Needs(w.graph)
	stored := storage.Of(l)
	stored.Needs(w.graph)
	stored.Serves(w.graph)
	service.Of(l).Needs(w.graph)
	reach.Of(l).Needs(w.graph, service.Of(l).Elsewhere())
	request.Of(l).Needs(w.graph)
	w.written()
	for d := range lab.Each[lab.Device](l) {
		// What only feeds others or joins cables does so whatever its state is.
		if is := d.Kind.Traits(); d.State != lab.Running && !is.Feeds && !is.Passive && !is.Joined {
			w.off = append(w.off, w.thing(d.Key()))
		}
	}
	for v := range lab.Each[lab.Service](l) {
		if v.State != lab.Running {
			w.off = append(w.off, w.thing(v.Key()))
		}
	}
	w.before = w.graph.Without(w.off, nil)
	w.lost = sync.OnceValue(w.loseEach)
	w.cut = sync.OnceValue(func() []int32 { return w.cutOff(w.before) })
	return w
}

// written adds what a person wrote down.
func (w *Whole) written() {
	var lines []int32
	for _, line := range reach.Of(w.lab).Lines() {
		if line.Out != lab.LineOut {
			lines = append(lines, w.thing(line.Key()))
		}
	}
	for t := range lab.Each[lab.Tunnel](w.lab) {
		if lines != nil {
			w.graph.Needs(w.thing(t.Key()), need.Need{Any: lines, How: OutOver})
		}
		if t.Device != "" {
			w.graph.Needs(w.thing(t.Key()), need.Need{Any: []int32{w.thing(lab.Key{Kind: lab.KindDevice, ID: t.Device})}, How: EndIn})
		}
	}
	for n := range lab.Each[lab.Need](w.lab) {
		is := need.Need{Soft: n.Wants, How: n.Verb()}
		for _, k := range n.Any {
			is.Any = append(is.Any, w.thing(k))
		}
		w.graph.Needs(w.thing(*n.Of), is)
	}
}

func (w *Whole) thing(k lab.Key) int32 { return w.graph.Thing(need.Thing{Key: k}) }

// Title is what a record is called here: a pool with its device, a cable by its ends, a
// drive without a name by its bay.
func (w *Whole) Title(k lab.Key) string {
	switch r := w.lab.Get(k).(type) {
	case nil:
		return k.Kind.Words()
	case lab.Pool:
		return w.lab.PoolWords(r)
	case lab.Cable:
		return w.lab.CableWords(r)
	case lab.Part:
		d, fitted := lab.Find[lab.Device](w.lab, r.Device)
		switch {
		case r.Name != "" || !fitted:
			return r.Title()
		case r.Seat == 0:
			return fmt.Sprintf("a loose %s of %s", r.Kind, d.Title())
		}
		return fmt.Sprintf("%s %d of %s", r.Kind, r.Seat, d.Title())
	default:
		return r.Title()
	}
}

// Kind is what a record is, in a word: of devices a guest is one of its own.
func (w *Whole) Kind(k lab.Key) string {
	if d, ok := lab.Find[lab.Device](w.lab, k.ID); ok && k.Kind == lab.KindDevice && d.IsGuest() {
		return "guest"
	}
	return string(k.Kind)
}

// counts reports whether a thing is a record that is there to do something, and is meant
// to.
func (w *Whole) counts(n int32) bool {
	t := w.graph.At(n)
	if t.Side != "" {
		return false
	}
	switch r := w.lab.Get(t.Key).(type) {
	case lab.Device:
		return r.State == lab.Running
	case lab.Service:
		return r.State == lab.Running
	case lab.Pool, lab.Dataset, lab.NetworkShare, lab.Tunnel, lab.Name:
		return true
	}
	return false
}

// matters is how much a record matters.
func (w *Whole) matters(k lab.Key) lab.Worth {
	switch r := w.lab.Get(k).(type) {
	case lab.Service:
		return r.Worth
	case lab.Dataset:
		return r.Worth
	case lab.Device:
		if g, ok := service.Of(w.lab).Guest(r.ID); ok {
			return g.Matters()
		}
	}
	return ""
}
