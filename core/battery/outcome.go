package battery

import (
	"fmt"
	"slices"
)

// Clock writes seconds as minutes and seconds: 8:53.
func Clock(s float64) string { return fmt.Sprintf("%d:%02d", int(s)/60, int(s)%60) }

// outcome sorts what happened by UPS.
func (o *outage) outcome(what What) Outage {
	out := Outage{Runs: []Run{}}
	for at, u := range o.ups {
		o.mark(at)
		run := Run{Node: u, Marks: o.marks[at]}
		if s := o.empty[at]; s >= 0 {
			run.EmptyS = &s
		}
		out.Runs = append(out.Runs, run)
	}
	for _, n := range o.stopped {
		for _, u := range o.holding[n] {
			out.Runs[u].Steps = append(out.Runs[u].Steps, *o.steps[n])
		}
	}
	var lost []Lost
	for n := range o.g.Nodes() {
		switch node := int32(n); {
		case len(o.holding[node]) == 0 || !runs(&o.g.Nodes()[n]):
		case o.lost[node] != nil:
			lost = append(lost, *o.lost[node])
		case !o.down[node] && what.BackS == 0:
			lost = append(lost, Lost{Node: node})
		}
	}
	slices.SortFunc(lost, func(a, b Lost) int { return cmpTitles(o.g, a.Node, b.Node) })
	for _, x := range lost {
		for _, u := range o.holding[x.Node] {
			out.Runs[u].Lost = append(out.Runs[u].Lost, x)
		}
	}
	for i := range out.Runs {
		out.Runs[i].DownS = downS(out.Runs[i].Steps)
	}
	if what.BackS > 0 {
		out.Back = o.back()
	}
	return out
}

// downS is when the last of some steps is down.
func downS(steps []Step) *float64 {
	if len(steps) == 0 || slices.ContainsFunc(steps, func(s Step) bool { return s.Lost }) {
		return nil
	}
	down := 0.0
	for _, s := range steps {
		down = max(down, s.DownS)
	}
	return &down
}

// back is how things stand now, of all that runs usually.
func (o *outage) back() *Back {
	b := &Back{}
	for n := range o.g.Nodes() {
		node := int32(n)
		is := &o.g.Nodes()[n]
		switch s := o.steps[node]; {
		case !runs(is) || len(o.g.In(node)) == 0:
		case s != nil && !s.Lost && !o.down[node]:
			b.Stopping = append(b.Stopping, node)
		case o.i.Runs(node):
			b.Up = append(b.Up, node)
		default:
			b.Down = append(b.Down, node)
		}
	}
	for _, list := range [][]int32{b.Down, b.Stopping, b.Up} {
		slices.SortFunc(list, func(a, b int32) int { return cmpTitles(o.g, a, b) })
	}
	return b
}
