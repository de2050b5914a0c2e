package power

import (
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// Mains is the side of a UPS or a laptop that is up as long as anything feeds it; what its battery
// holds does not need it.
const Mains = "mains"

// FedBy is how a device needs what feeds it.
const FedBy = "is fed by"

// Needs adds what power needs to what needs what: a device as many of its feeds as it
// takes, a feed its outlet, its lead and what gives it. What hangs on the battery of a
// UPS needs no more than that UPS.
func (g *Grid) Needs(graph *need.Graph) {
	at := make([]int32, len(g.nodes))
	mains := make([]int32, len(g.nodes))
	for i := range g.nodes {
		n := &g.nodes[i]
		at[i] = graph.Thing(need.Thing{Key: n.Key})
		if mains[i] = at[i]; n.battery {
			mains[i] = graph.Thing(need.Thing{Key: n.Key, Side: Mains})
			graph.Needs(mains[i], need.Need{Any: []int32{at[i]}})
		}
	}
	for i := range g.nodes {
		n := &g.nodes[i]
		if len(n.in) == 0 {
			continue
		}
		var steps []int32
		for _, e := range n.in {
			f := &g.feeds[e]
			step := graph.Step()
			from := mains[f.From]
			if f.Held {
				from = at[f.From]
			}
			graph.Needs(step, need.Need{Any: []int32{from}})
			if f.Cable != "" {
				graph.Needs(step, need.Need{Any: []int32{graph.Thing(need.Thing{Key: lab.Key{Kind: lab.KindCable, ID: f.Cable}})}})
				graph.Needs(step, need.Need{Any: []int32{graph.Thing(OutletOf(g.nodes[f.From].Key, f.Out))}})
			}
			steps = append(steps, step)
		}
		graph.Needs(mains[i], need.Need{Any: steps, Least: int(n.need), How: FedBy})
	}
}

// OutletOf is an outlet as a thing that may be lost.
func OutletOf(device lab.Key, port string) need.Thing { return need.Thing{Key: device, Side: port} }
