package drill

import (
	"slices"

	"levelstaff/core/lab"
)

// Edge is that one thing needs any of some others.
type Edge struct {
	Of   lab.Key
	Any  []lab.Key
	How  string // between the two: “runs on”
	Soft bool   // it goes on without
}

// Edges lists what the things that count need of each other, in the order of the graph:
// leads, outlets and the links on the way to a gateway are passed over for what is behind
// them.
func (w *Whole) Edges() []Edge {
	var list []Edge
	for n := range int32(w.graph.Len()) {
		t := w.graph.At(n)
		mounted := t.Kind == lab.KindShare && t.Side != "" // by one device, which may need a name for it
		if !w.counts(n) && !mounted {
			continue
		}
		for _, lack := range w.graph.NeedsOf(n) {
			e := Edge{Of: t.Key, How: lack.How, Soft: lack.Soft}
			for _, by := range lack.Any {
				w.records(by, &e, 0)
			}
			again := mounted && slices.ContainsFunc(list, func(o Edge) bool {
				return o.Of == e.Of && o.How == e.How && slices.Equal(o.Any, e.Any)
			})
			if e.How != "" && len(e.Any) > 0 && !again {
				list = append(list, e)
			}
		}
	}
	return list
}

// deepest is how many things that are no records are passed over one behind another.
const deepest = 4

// records adds to an edge the records that a thing is, or leads to.
func (w *Whole) records(n int32, e *Edge, deep int) {
	t := w.graph.At(n)
	if t.ID == "" {
		for _, lack := range w.graph.NeedsOf(n) {
			for _, by := range lack.Any {
				if deep < deepest {
					w.records(by, e, deep+1)
				}
			}
		}
		return
	}
	if k := t.Key; (w.counts(n) || k.Kind == lab.KindShare) && k != e.Of && !slices.Contains(e.Any, k) {
		e.Any = append(e.Any, k)
	}
}
