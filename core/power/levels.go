package power

import "levelstaff/core/lab"

// The levels of draw, by their numbers: in the order of lab.DrawLevels.
const (
	Standby = iota
	Idle
	Typical
	Most
	Boot
	levels
)

// Level is the number of a level of draw; typical where none is named.
func Level(name lab.DrawLevel) int {
	for i, l := range lab.DrawLevels() {
		if l == name {
			return i
		}
	}
	return Typical
}

// Watts are powers at each level, in W or in VA.
type Watts [levels]float64

func (w *Watts) add(o Watts, times float64) {
	for i := range w {
		w[i] += o[i] * times
	}
}

// Load is what flows somewhere: in W, and in VA.
type Load struct{ W, VA Watts }

func (l *Load) add(o Load, times float64) {
	l.W.add(o.W, times)
	l.VA.add(o.VA, times)
}

// Basis is what a figure rests on.
type Basis int8

// From the best on: a meter, the maker's sheet or what its owner wrote down, what its
// parts draw at least, nothing at all. Off is for what draws nothing.
const (
	Off Basis = iota
	Measured
	BySheet
	WorkedOut
	Unknown
	bases
)

// Words say what a figure rests on.
func (b Basis) Words() string {
	return [bases]string{"draws nothing", "measured", "by its sheet", "worked out, at least", "unknown"}[b]
}

// Counts are on what the draws of a sum rest, by how many things.
type Counts [bases]int32

// Lacks is how many draws of a sum are not known, or only from below: it is at least
// what it says then.
func (c Counts) Lacks() int { return int(c[WorkedOut] + c[Unknown]) }
