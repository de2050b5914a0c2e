package gear

import (
	"slices"
	"strconv"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// pooled is the field of the gap that asks which pool drives are in.
const pooled = "pooled"

// copied is what the field of a gap begins with that asks where the copies of a dataset
// are.
const copied = "copied:"

// storageGaps ask, in a lab whose pools are written down, which pool a device's drives
// are in, and where the copies of what lies on the device are.
func storageGaps(l *lab.Lab, d lab.Device, parts []lab.Part) (gaps []Gap, known int) {
	first := func(gap Gap, answered bool) {
		if answered || slices.Contains(d.Never, gap.Field) {
			known++
			return
		}
		gaps = append(gaps, gap)
	}
	if bays := bare(l, d, parts); bays != nil && d.State == lab.Running {
		first(Gap{Device: d.ID, Field: pooled, Question: "Which pool is " + bayWords(bays) + " of " + d.Title() + " in?",
			Example: "hold on " + d.Title() + ": mirror of bay " + text.Ranges(bays), Line: "pool %s",
			Matters: "how much room there is, and what may fail"},
			len(bays) == 0)
	}
	for _, data := range lyingOn(l, d) {
		first(Gap{Device: d.ID, Field: copied + string(data.ID), Question: "Where is " + data.Name + " copied to?",
			Example: "silo/hold: nightly", Line: "copy of " + text.Quote(data.Name) + " to %s", Matters: "what is lost with it"},
			len(l.CopiesOf(data.ID)) > 0)
	}
	return gaps, known
}

// bare are the bays of a device whose drives are in no pool; nil where it has no drives,
// or where the lab has no pools.
func bare(l *lab.Lab, d lab.Device, parts []lab.Part) []int {
	in := lab.Derived(l, drivesInPools)
	if in == nil {
		return nil
	}
	bays, drives := []int{}, false
	for _, p := range parts {
		if p.Kind != lab.Drive || p.Seat == 0 || p.State != lab.Running || p.Medium == "tape" || p.Medium == "optical" {
			continue
		}
		drives = true
		if !in[lab.PoolDrive{Device: d.ID, Bay: p.Seat}] {
			bays = append(bays, p.Seat)
		}
	}
	if !drives {
		return nil
	}
	return bays
}

// inPools are the drives that are in one; nil where there are no pools.
type inPools map[lab.PoolDrive]bool

func drivesInPools(l *lab.Lab) inPools {
	var in inPools
	for p := range lab.Each[lab.Pool](l) {
		if in == nil {
			in = inPools{}
		}
		for _, one := range p.All() {
			in[one] = true
		}
	}
	return in
}

// lyingOn are the datasets that lie on a device, but for toys.
func lyingOn(l *lab.Lab, d lab.Device) []lab.Dataset {
	var list []lab.Dataset
	add := func(k lab.Key) {
		for by := range l.UsersOf(k) {
			if data, ok := by.(lab.Dataset); ok && data.On.Key() == k && data.Worth != lab.Toy {
				list = append(list, data)
			}
		}
	}
	add(d.Key())
	for by := range l.UsersOf(d.Key()) {
		if p, ok := by.(lab.Pool); ok && p.Device == d.ID {
			add(p.Key())
		}
	}
	return list
}

func bayWords(bays []int) string {
	if len(bays) == 1 {
		return "bay " + strconv.Itoa(bays[0])
	}
	return "what is in the bays " + text.Ranges(bays)
}
