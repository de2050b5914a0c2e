package service

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// ranks is how many ranks of importance there are: see lab.Worth.
var ranks = lab.Toy.Rank() + 1

// load is something that has to go on one of several hosts, or stays dark.
type load struct {
	need    int64
	rank    int    // 0 matters most; mustGo where it is not left out
	allowed []bool // by host
}

// mustGo is the rank of what may not stay dark.
const mustGo = -1

// packing looks for the best way to put loads on hosts: as many of the highest rank as
// there can be, then of the next. It goes through all ways, leaving out those that cannot
// get better than the best found, until its steps are used up.
type packing struct {
	loads []load
	free  []int64
	twin  []int // of each host the first one that allows the same loads

	steps *int
	at    []int // of each load the host, -1 where it stays dark
	count []int // placed, by rank
	best  []int // counts; nil while nothing was found
	found []int
	done  bool
}

// pack tells the host of each load, -1 for those that stay dark, and how many of each
// rank have one; at is nil where what must go does not go. Of steps it takes off what
// it needed; while there are some left the answer is the best there is.
func pack(loads []load, free []int64, steps *int) (at, count []int) {
	order := make([]int, len(loads))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(loads[a].rank, loads[b].rank), cmp.Compare(loads[b].need, loads[a].need))
	})
	p := &packing{free: slices.Clone(free), steps: steps, count: make([]int, ranks)}
	for _, i := range order {
		p.loads = append(p.loads, loads[i])
	}
	p.at = make([]int, len(loads))
	for h := range free {
		t := 0
		for slices.ContainsFunc(p.loads, func(l load) bool { return l.allowed[t] != l.allowed[h] }) {
			t++ // which ends at the host itself
		}
		p.twin = append(p.twin, t)
	}
	p.from(0)
	if p.found == nil {
		return nil, nil
	}
	at = make([]int, len(loads))
	for k, i := range order {
		at[i] = p.found[k]
	}
	return at, p.best
}

// from places the loads from the i-th on.
func (p *packing) from(i int) {
	if i == len(p.loads) {
		if p.best == nil || slices.Compare(p.count, p.best) > 0 {
			p.best, p.found = slices.Clone(p.count), slices.Clone(p.at)
			p.done = !slices.Contains(p.at, -1)
		}
		return
	}
	if *p.steps--; *p.steps < 0 || p.best != nil && slices.Compare(p.atMost(i), p.best) <= 0 {
		return
	}
	l := p.loads[i]
	hosts := make([]int, 0, len(p.free))
	for h := range p.free {
		if l.allowed[h] && p.free[h] >= l.need && !p.likeOne(hosts, h) {
			hosts = append(hosts, h)
		}
	}
	slices.SortStableFunc(hosts, func(a, b int) int { return cmp.Compare(p.free[a], p.free[b]) }) // the tightest first
	for _, h := range hosts {
		p.at[i] = h
		p.free[h] -= l.need
		if l.rank != mustGo {
			p.count[l.rank]++
		}
		p.from(i + 1)
		p.free[h] += l.need
		if l.rank != mustGo {
			p.count[l.rank]--
		}
		if p.done || *p.steps < 0 && p.best != nil {
			return
		}
	}
	if l.rank != mustGo {
		p.at[i] = -1
		p.from(i + 1)
	}
}

// likeOne reports whether a host is no different from one that is tried anyway.
func (p *packing) likeOne(hosts []int, h int) bool {
	return slices.ContainsFunc(hosts, func(o int) bool { return p.free[o] == p.free[h] && p.twin[o] == p.twin[h] })
}

// atMost is what the counts cannot exceed with the loads from the i-th on: as if all
// free memory was in one host.
func (p *packing) atMost(i int) []int {
	var free int64
	for _, f := range p.free {
		free += max(f, 0)
	}
	most := slices.Clone(p.count)
	fill(p.loads[i:], free, most, func(load) bool { return true })
	return most
}

// fill adds to counts how many loads at most there is memory for, the smallest first,
// rank by rank.
func fill(loads []load, free int64, count []int, fits func(load) bool) {
	for from := 0; from < len(loads); {
		to := from + 1
		for to < len(loads) && loads[to].rank == loads[from].rank {
			to++
		}
		for _, l := range slices.Backward(loads[from:to]) { // which are the largest first
			if !fits(l) {
				continue
			}
			if l.need > free {
				break // the others of its rank are no smaller
			}
			free -= l.need
			if l.rank != mustGo {
				count[l.rank]++
			}
		}
		from = to
	}
}
