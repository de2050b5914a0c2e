package storage

import (
	"slices"

	"levelstaff/core/lab"
)

// Room is how the bytes of some drives are divided. What of Raw is none of the others
// is Usable, before what a file system keeps back.
type Room struct {
	Raw, Usable, Redundancy, Unused int64
}

func (r Room) plus(o Room) Room {
	return Room{r.Raw + o.Raw, r.Usable + o.Usable, r.Redundancy + o.Redundancy, r.Unused + o.Unused}
}

// Member is a drive as a layout sees it.
type Member struct {
	Bytes  int64
	Host   lab.ID // of a replicated set: the device it is in
	Parity bool   // of dedicated parity
}

// Divide is how drives in a layout are divided. redundant is how many may fail at worst
// where the layout leaves that open, and of replicated ones how many copies there are.
// The order of the drives does not matter.
//
// With n drives, the smallest of m bytes: a stripe gives their sum, a mirror m, RAID 5
// and RAID-Z1 (n-1)m, RAID 6 and RAID-Z2 (n-2)m, RAID-Z3 (n-3)m, RAID 10 floor(n/2)m;
// dedicated parity the sum of its data drives, as far as a parity drive reaches.
func Divide(layout lab.Layout, redundant int, drives []Member) Room {
	room := Room{}
	if len(drives) == 0 {
		return room
	}
	n, m := int64(len(drives)), drives[0].Bytes
	for _, d := range drives {
		room.Raw += d.Bytes
		m = min(m, d.Bytes)
	}
	switch layout {
	case lab.Mixed:
		room.Usable, room.Redundancy = inLayers(redundant, drives)
	case lab.DedicatedParity:
		room.Usable, room.Redundancy = besideParity(redundant, drives)
	case lab.Replicated:
		room.Usable = replicated(redundant, drives)
		room.Redundancy = room.Usable * int64(redundant-1)
	case lab.Single, lab.Stripe:
		room.Usable = room.Raw
	case lab.Mirror:
		room.Usable, room.Redundancy = m, (n-1)*m
	case lab.RAID10:
		room.Usable, room.Redundancy = n/2*m, n/2*m
	default:
		p := min(n, int64(parityOf(layout)))
		room.Usable, room.Redundancy = (n-p)*m, p*m
	}
	room.Unused = room.Raw - room.Usable - room.Redundancy
	return room
}

// parityOf is how many drives' worth of parity a layout has.
func parityOf(layout lab.Layout) int {
	switch layout {
	case lab.RAID5, lab.RAIDZ1:
		return 1
	case lab.RAID6, lab.RAIDZ2:
		return 2
	case lab.RAIDZ3:
		return 3
	}
	return 0
}

// inLayers cuts sizes into layers at each size: a layer over k drives, at least 2 for
// one drive of redundancy and 4 for two, gives that many less its redundancy times its
// thickness.
func inLayers(redundant int, drives []Member) (usable, redundancy int64) {
	sizes := make([]int64, len(drives))
	for i, d := range drives {
		sizes[i] = d.Bytes
	}
	slices.Sort(sizes)
	below := int64(0)
	for i, size := range sizes {
		k, thick := int64(len(sizes)-i), size-below
		if k >= int64(2*redundant) {
			usable += (k - int64(redundant)) * thick
			redundancy += int64(redundant) * thick
		}
		below = size
	}
	return usable, redundancy
}

// besideParity is what data drives of any size give beside parity drives. A parity drive
// has to be as large as the largest of them: what is beyond the smallest one is unused.
// Where it is not said which they are, the largest drives are.
func besideParity(redundant int, drives []Member) (usable, redundancy int64) {
	drives = slices.Clone(drives)
	said := slices.ContainsFunc(drives, func(d Member) bool { return d.Parity })
	slices.SortStableFunc(drives, func(a, b Member) int {
		if said {
			return map[bool]int{true: 0, false: 1}[a.Parity] - map[bool]int{true: 0, false: 1}[b.Parity]
		}
		return int(min(1, max(-1, b.Bytes-a.Bytes)))
	})
	redundant = min(redundant, len(drives))
	reach := drives[0].Bytes
	for _, d := range drives[:redundant] {
		reach = min(reach, d.Bytes)
	}
	largest := int64(0)
	for _, d := range drives[redundant:] {
		usable += min(d.Bytes, reach)
		largest = max(largest, min(d.Bytes, reach))
	}
	return usable, int64(redundant) * largest
}

// replicated is what fits where each thing is on so many devices: the most U for which
// the devices, each counted with at most U, come to copies times U.
func replicated(copies int, drives []Member) int64 {
	by := map[lab.ID]int64{}
	for _, d := range drives {
		by[d.Host] += d.Bytes
	}
	var hosts []int64
	for _, bytes := range by {
		hosts = append(hosts, bytes)
	}
	slices.Sort(hosts)
	if len(hosts) < copies {
		return 0
	}
	// The largest few devices hold one copy each of all there is as long as the others
	// do not come to more: with k devices at U, what is left makes copies-k copies.
	sum, most := int64(0), int64(0)
	for _, bytes := range hosts {
		sum += bytes
	}
	for k := range copies {
		most = sum / int64(copies-k)
		if k == len(hosts) || hosts[len(hosts)-1-k] <= most {
			break
		}
		sum -= hosts[len(hosts)-1-k]
	}
	return most
}

// MayFail is how many drives may fail before data goes, at worst and at best.
type MayFail struct{ Worst, Best int }

// mayFail is how many of a set's drives may fail. Of a replicated set at worst those on
// different devices, at best all on the fullest ones.
func mayFail(layout lab.Layout, redundant int, drives []Member) MayFail {
	n := len(drives)
	switch layout {
	case lab.Single, lab.Stripe:
		return MayFail{}
	case lab.Mirror:
		return MayFail{n - 1, n - 1}
	case lab.RAID10:
		return MayFail{1, n / 2}
	case lab.Mixed, lab.DedicatedParity:
		return MayFail{redundant, redundant}
	case lab.Replicated:
		by := map[lab.ID]int{}
		for _, d := range drives {
			by[d.Host]++
		}
		var many []int
		for _, n := range by {
			many = append(many, n)
		}
		slices.Sort(many)
		best := 0
		for _, n := range many[max(0, len(many)-(redundant-1)):] {
			best += n
		}
		return MayFail{min(redundant, max(1, len(many))) - 1, best}
	}
	p := parityOf(layout)
	return MayFail{p, p}
}
