package storage

import "levelstaff/core/lab"

// Sum is what several pools, and the bays of their devices, come to.
type Sum struct {
	Usable, Used int64
	AtLeast      bool  // some of it is not known
	Weakest      *Pool // of which the fewest drives may fail, nil where there are no pools
	PriceMinor   int64 // of all their drives
	Priced       bool  // each of those has a price
	Bays, Filled int
}

// Sum adds up the pools on the devices that count, and the bays there are in them.
func (s *Storage) Sum(counts func(device lab.ID) bool) Sum {
	sum := Sum{Priced: true}
	for _, p := range s.pools {
		if !counts(p.Device) {
			continue
		}
		sum.Usable += p.Spans.Least.Usable
		used, sure, ok := p.Used()
		sum.Used += used
		sum.AtLeast = sum.AtLeast || !sure || !ok || !p.Spans.Exact()
		if sum.Weakest == nil || p.MayFail.Worst < sum.Weakest.MayFail.Worst {
			sum.Weakest = p
		}
		for _, d := range p.Drives() {
			if d.Part == nil || d.Part.PriceMinor == nil {
				sum.Priced = false
				continue
			}
			sum.PriceMinor += *d.Part.PriceMinor
		}
	}
	for d := range lab.Things(s.lab) {
		if n := s.lab.SpecOf(d).Seats(lab.Drive); n != nil && counts(d.ID) {
			sum.Bays += *n
		}
	}
	for _, p := range s.seats {
		if counts(p.Device) {
			sum.Filled++
		}
	}
	return sum
}
