package rundown

import "levelstaff/core/lab"

// A lead between two things that both feed others, with no port said, does not say which
// of them feeds the other: "left - keep", "bar - keep". What is nearer to the wall feeds
// what is further from it, and what is plugged in already feeds what is not.

// fromWall ranks what feeds others: what is in the wall, what has outlets of its own, and
// what only makes a lower voltage of it.
func fromWall(d lab.Device) int {
	switch {
	case !d.Kind.Traits().Inlet:
		return 0
	case d.Kind == lab.PowerBrick || d.Kind == lab.USBSupply:
		return 2
	}
	return 1
}

// device is the one at an end; ok is false for an open end.
func (cl *cablesLoader) device(e endRead) (d lab.Device, ok bool) {
	if e.at == nil {
		return d, false
	}
	return lab.Find[lab.Device](cl.text, e.at.Device)
}

// feedsEither reports whether a line joins two devices of which either may feed the other,
// as far as their kinds tell.
func (cl *cablesLoader) feedsEither(r *reading) bool {
	a, okA := cl.device(r.ends[0])
	b, okB := cl.device(r.ends[1])
	return okA && okB && r.ends[0].at.Port == "" && r.ends[1].at.Port == "" && a.Feeds() && b.Feeds() && fromWall(a) == fromWall(b)
}

// way is the families of a power lead between two devices that both feed others: sure, or
// what is likelier, a UPS before a strip and what is written first before the other.
func (cl *cablesLoader) way(r *reading) (of families, sure bool) {
	a, _ := cl.device(r.ends[0])
	b, _ := cl.device(r.ends[1])
	down, up := families{lab.Outlet, lab.Inlet}, families{lab.Inlet, lab.Outlet}
	if near, far := fromWall(a), fromWall(b); near != far {
		if near > far {
			return up, true
		}
		return down, true
	}
	switch fedA, fedB := cl.isFed(r.ends[0]), cl.isFed(r.ends[1]); {
	case fedA && !fedB:
		return down, true
	case fedB && !fedA:
		return up, true
	case b.Kind == lab.UPS && a.Kind != lab.UPS:
		return up, false
	}
	return down, false
}

// isFed reports whether all inlets of a device are taken.
func (cl *cablesLoader) isFed(e endRead) bool {
	inlets, free := cl.free(e.at, lab.Inlet)
	return inlets && len(free) == 0
}

// inOrder goes through all lines that leave a port out, those that tell least last: a line
// between things that may feed each other as soon as one of them is known to be fed.
func (cl *cablesLoader) inOrder(settle func(r *reading)) {
	var unsure []*reading
	of := map[lab.ID][]*reading{}
	for _, r := range cl.read {
		if !cl.feedsEither(r) {
			settle(r)
			continue
		}
		unsure = append(unsure, r)
		for _, e := range r.ends {
			of[e.at.Device] = append(of[e.at.Device], r)
		}
	}
	settled := map[*reading]bool{}
	told := map[lab.ID]bool{} // what was found to be fed
	follow := func(first *reading, guess bool) {
		for queue := []*reading{first}; len(queue) > 0; queue = queue[1:] {
			r := queue[0]
			if _, sure := cl.way(r); settled[r] || !sure && (r != first || !guess) {
				continue
			}
			settled[r] = true
			ends := r.ends
			settle(r)
			for _, e := range ends {
				if id := e.at.Device; !told[id] && cl.isFed(e) {
					told[id] = true
					queue = append(queue, of[id]...)
				}
			}
		}
	}
	for _, guess := range []bool{false, true} {
		for _, r := range unsure {
			follow(r, guess)
		}
	}
}
