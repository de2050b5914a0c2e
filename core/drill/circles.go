package drill

import (
	"fmt"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/need"
	"levelstaff/core/power"
	"levelstaff/core/reach"
	"levelstaff/core/service"
	"levelstaff/core/storage"
)

// Circle is things that wait for each other in a dark lab, so that none of them starts. A
// lab that runs does not show it.
type Circle struct {
	Keys   []lab.Key // each needs the one behind it, the last one the first
	Titles []string
	Says   []string // how each needs the next one
	Cut    string   // what would open it at the least cost
	cut    int32
}

// remedies are what to do about a need so that it does not close a circle, the cheapest
// first. Of is what needs, by what it needs.
var remedies = []struct{ how, say string }{
	{service.FindsBy, "mount %[1]s by its address, not by name"},
	{Needs, "let %[1]s start without %[2]s: it wants it, or needs another one too"},
	{service.Mounts, "let %[1]s start without what it mounts from %[2]s"},
	{reach.Gateway, "give %[1]s a gateway that does not need it, other than %[2]s"},
	{reach.GatewayOver, "give %[1]s a way to its gateway beside %[2]s"},
	{service.NetworkFrom, "give %[1]s a network of its own, not that of %[2]s"},
	{service.DiskOver, "move the disk of %[1]s to a pool that its host has itself"},
	{service.DiskOn, "move the disk of %[1]s, %[2]s, to another pool"},
	{service.RunsIn, "move %[1]s out of %[2]s"},
	{service.RunsOn, "move %[1]s from %[2]s to another host"},
	{EndIn, "let the tunnel %[1]s end in something else than %[2]s"},
	{service.Has, "let %[1]s start without %[2]s"},
	{storage.IsOf, "share %[1]s from another dataset than %[2]s"},
	{storage.IsOn, "move %[1]s off %[2]s"},
	{storage.IsIn, "move %[1]s out of %[2]s"},
	{power.FedBy, "feed %[1]s from something else than %[2]s"},
}

// mostCircles is how many are looked for: one who has more begins with those.
const mostCircles = 20

// Circles are those that keep a dark lab from starting, the shortest of each knot first.
// Cutting where it says opens one.
func (w *Whole) Circles() []Circle {
	var list []Circle
	var cut []int32
	for range mostCircles {
		c, ok := w.circle(w.graph.FromDark(w.off, cut...), cut)
		if !ok {
			break
		}
		list, cut = append(list, c), append(cut, c.cut)
	}
	return list
}

// link is a step of a circle: a thing, and the need of it that does not get met.
type link struct {
	of   int32
	lack need.Lack
}

// circle is the shortest one among what does not start; ok is false where there is none.
func (w *Whole) circle(dark need.Outcome, cut []int32) (c Circle, ok bool) {
	stuck := func(n int32) bool { return w.before.Up(n) && !dark.Up(n) }
	next := map[int32][]need.Lack{} // by thing what it waits for
	var things []int32
	for _, n := range dark.Down() {
		if !stuck(n) {
			continue
		}
		things = append(things, n)
		for _, lack := range w.graph.NeedsOf(n) {
			up := 0
			for _, by := range lack.Any {
				if dark.Up(by) {
					up++
				}
			}
			if !lack.Soft && up < lack.Least && !slices.Contains(cut, lack.At) {
				next[n] = append(next[n], lack)
			}
		}
	}
	var best []link
	for _, n := range inCircles(things, next, stuck) {
		if t := w.graph.At(n); t.ID == "" || t.Side != "" {
			continue // a circle goes through a record
		}
		if way := shortest(n, next, stuck, len(best)); way != nil {
			best = way
		}
	}
	if best == nil {
		return c, false
	}
	return w.worded(best), true
}

// inCircles leaves out what nothing that is stuck waits for, and then what only that waited
// for, and so on: it hangs on a circle and is in none.
func inCircles(things []int32, next map[int32][]need.Lack, stuck func(int32) bool) []int32 {
	waited := map[int32]int{} // for it, by how many
	each := func(n int32, do func(by int32)) {
		for _, lack := range next[n] {
			for _, by := range lack.Any {
				if stuck(by) {
					do(by)
				}
			}
		}
	}
	for _, n := range things {
		each(n, func(by int32) { waited[by]++ })
	}
	var out []int32
	for _, n := range things {
		if waited[n] == 0 {
			out = append(out, n)
		}
	}
	for ; len(out) > 0; out = out[1:] {
		waited[out[0]] = -1
		each(out[0], func(by int32) {
			if waited[by]--; waited[by] == 0 {
				out = append(out, by)
			}
		})
	}
	return slices.DeleteFunc(slices.Clone(things), func(n int32) bool { return waited[n] < 0 })
}

// shortest is the shortest way from a thing back to it, of fewer steps than a limit, 0 for
// none; nil where there is none.
func shortest(from int32, next map[int32][]need.Lack, stuck func(int32) bool, limit int) []link {
	type step struct {
		link
		before int
	}
	steps, seen := []step{{link{from, need.Lack{}}, -1}}, map[int32]bool{}
	deep := map[int]int{0: 0}
	for at := 0; at < len(steps); at++ {
		if limit > 0 && deep[at]+1 >= limit {
			return nil
		}
		for _, lack := range next[steps[at].of] {
			for _, by := range lack.Any {
				if by == from {
					way := []link{{steps[at].of, lack}}
					for i := at; steps[i].before >= 0; i = steps[i].before {
						way = append(way, link{steps[steps[i].before].of, steps[i].lack})
					}
					slices.Reverse(way)
					return way
				}
				if stuck(by) && !seen[by] {
					seen[by] = true
					deep[len(steps)] = deep[at] + 1
					steps = append(steps, step{link{by, lack}, at})
				}
			}
		}
	}
	return nil
}

// worded is a circle by its records, with the cheapest cut. What is no record is part of
// the step before it.
func (w *Whole) worded(way []link) Circle {
	var c Circle
	cost := len(remedies)
	for i, is := range way {
		t := w.graph.At(is.of)
		if t.ID == "" || t.Side != "" && t.Kind != lab.KindShare {
			continue
		}
		how, to := is.lack.How, t.Key
		for j := 1; j <= len(way); j++ { // to the next record
			over := way[(i+j)%len(way)]
			if s := w.graph.At(over.of); s.ID != "" && (s.Side == "" || s.Kind == lab.KindShare) {
				to = s.Key
				break
			} else if over.lack.How != "" {
				how = over.lack.How
			}
		}
		c.Keys, c.Titles = append(c.Keys, t.Key), append(c.Titles, w.Title(t.Key))
		if t.Key != to || len(way) == 1 {
			c.Says = append(c.Says, fmt.Sprintf("%s %s %s", w.Title(t.Key), how, w.Title(to)))
		}
		at := slices.IndexFunc(remedies, func(r struct{ how, say string }) bool { return r.how == how })
		if at >= 0 && at < cost {
			cost, c.cut = at, is.lack.At
			c.Cut = fmt.Sprintf(remedies[at].say, w.Title(t.Key), w.Title(to))
		}
	}
	if c.Cut == "" {
		c.cut = way[0].lack.At
	}
	return c
}
