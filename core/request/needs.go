package request

import (
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// How names are needed, and what they need.
const (
	ReachedBy  = "is reached by"
	AnsweredBy = "is answered by"
	GoesBy     = "goes through"
	ComesBy    = "comes in by"
	SameAs     = "is the same as"
)

// Needs adds what names need, and that services are reached by theirs: a name needs a name
// server, any one that runs, and whatever passes it on; one that comes in by a tunnel that
// tunnel. A service that has names needs any of them.
func (q *Requests) Needs(g *need.Graph) {
	thing := func(k lab.Key) int32 { return g.Thing(need.Thing{Key: k}) }
	var servers []int32
	for i := range q.plan.Subnets() {
		for _, id := range q.plan.NameServers(i) {
			if n := thing(lab.Key{Kind: lab.KindDevice, ID: id}); !slices.Contains(servers, n) {
				servers = append(servers, n)
			}
		}
	}
	for n := range lab.Each[lab.Name](q.lab) {
		at := thing(n.Key())
		if last := q.resolved[n.ID].Last; n.Alias != "" && last.ID != "" {
			g.Needs(at, need.Need{Any: []int32{thing(last.Key())}, How: SameAs})
			continue
		}
		hops, ok := (&walk{Requests: q}).onward(n)
		if !ok {
			continue
		}
		if hops[0].Tunnel == "" && servers != nil {
			g.Needs(at, need.Need{Any: servers, How: AnsweredBy})
		}
		for _, h := range hops[:len(hops)-1] {
			switch k := h.Key(); {
			case k.Kind == lab.KindTunnel:
				g.Needs(at, need.Need{Any: []int32{thing(k)}, How: ComesBy})
			case k.ID != "":
				g.Needs(at, need.Need{Any: []int32{thing(k)}, How: GoesBy})
			}
		}
	}
	for v := range lab.Each[lab.Service](q.lab) {
		var any []int32
		for _, n := range q.NamesOf()[v.ID] {
			any = append(any, thing(n.Key()))
		}
		if any != nil {
			g.Needs(thing(v.Key()), need.Need{Any: any, How: ReachedBy})
		}
	}
}
