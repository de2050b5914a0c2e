package rack

import (
	"regexp"
	"strconv"

	"levelstaff/core/lab"
)

// Copy is what makes another one of a device: with the same facts, a name that
// counts on, and in the next free units downwards, then upwards, of the same
// face and share, or beside it where it is in no units. Where there is no room
// it is not placed.
func Copy(l *lab.Lab, d lab.Device, id lab.ID) lab.Change {
	is := d
	is.ID, is.Name = id, NextName(l, d.Name)
	if d.IsGuest() { // what only one can have stays with the other
		is.Addresses, is.Handed, is.MAC = nil, nil, ""
	}
	switch {
	case d.At == nil:
	case d.At.Where == lab.InUnits:
		is.At = nextFree(l, d)
	default:
		at := *d.At
		at.Order = l.LastOrder(d.At) + 1
		is.At = &at
	}
	return lab.Change{After: is}
}

func nextFree(l *lab.Lab, d lab.Device) *lab.Spot {
	r, _ := lab.Find[lab.Rack](l, d.At.Rack)
	in := l.Held(r.Key())
	try := func(unit int) *lab.Spot {
		is := d
		at := *d.At
		at.Unit = unit
		is.ID, is.At = "", &at
		if inTheWay(l, r, in, []lab.Device{is}) == "" {
			return &at
		}
		return nil
	}
	for unit := d.At.Unit - 1; unit >= 1; unit-- {
		if at := try(unit); at != nil {
			return at
		}
	}
	for unit := d.At.Unit + 1; unit <= r.HeightU; unit++ {
		if at := try(unit); at != nil {
			return at
		}
	}
	return nil
}

var counted = regexp.MustCompile(`^(.*?)([- ]?)(\d+)$`)

// NextName is a name counted on to the next number that no device has:
// "finch-2" after "finch", "PP4" after "PP1" where PP2 and PP3 are taken. No
// name stays none.
func NextName(l *lab.Lab, name string) string {
	if name == "" {
		return ""
	}
	stem, n := name+"-", 1
	if m := counted.FindStringSubmatch(name); m != nil && m[1] != "" {
		if v, err := strconv.Atoi(m[3]); err == nil {
			stem, n = m[1]+m[2], v
		}
	}
	taken := map[string]bool{}
	for d := range lab.Each[lab.Device](l) {
		taken[lab.FoldName(d.Name)] = true
	}
	for {
		n++
		if next := stem + strconv.Itoa(n); !taken[lab.FoldName(next)] {
			return next
		}
	}
}
