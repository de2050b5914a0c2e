package cabling

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Faster is what would make a link faster than it is.
type Faster struct {
	Mb int // what it would run at then; where nothing makes it so, what its faster end could do
	// Do are the things to do, each as one asks for it: "move the lead from core/5 to
	// core/s3". It is empty where nothing that is there makes the link faster.
	Do []string
	// Lacks is what it would take then.
	Lacks string
}

// What it costs to do one thing, so that the cheapest is proposed: a lead that is
// moved costs nothing, one that is bought less than a transceiver.
const (
	costMove  = 1
	costLead  = 3
	costOptic = 5
)

// ending is one way that an end of a link could be.
type ending struct {
	speeds []int
	cost   int
	do     func() string
}

func (e ending) most() int {
	if len(e.speeds) == 0 {
		return 0
	}
	return e.speeds[len(e.speeds)-1]
}

// freePort is one that a network could run over.
type freePort struct {
	at        int
	connector string
	mode      string
	cage      string // the connector of an empty cage
	speeds    []int
}

func (o freePort) most() int { return o.speeds[len(o.speeds)-1] }

// Upgrades finds what would make links faster. It remembers the free ports of each
// device while it does.
type Upgrades struct {
	w    *Wiring
	free map[*device][]freePort
	sum  *sum // used for one link after another
}

// Upgrades is a new one.
func (w *Wiring) Upgrades() Upgrades { return Upgrades{w, map[*device][]freePort{}, newSum(w)} }

// Of is the cheapest that makes a link faster, by moving an end to a free port of the
// same device, another lead or another transceiver; of equally cheap ones the one that
// wins most. ok is false where the link is as fast as its ends and cables can be, and
// where its speed is unknown.
func (up Upgrades) Of(l Link) (f Faster, ok bool) {
	w := up.w
	if l.Air != nil || l.Mb == 0 || l.Down {
		return Faster{}, false
	}
	if !up.worth(l) {
		return Faster{}, false
	}
	a, b := up.endings(l.path.first, l.Mb), up.endings(l.path.last, l.Mb)
	fast := func(e ending) bool { return e.most() > l.Mb }
	if !fast(a[0]) && !fast(b[0]) && !(slices.ContainsFunc(a, fast) && slices.ContainsFunc(b, fast)) {
		return Faster{}, false
	}
	u := up.sum
	u.reset()
	u.along(l.path)
	if u.ended < 2 || u.carries > 0 {
		return Faster{}, false // what a link by another medium carries is measured
	}
	best := -1
	for _, x := range a {
		for _, y := range b {
			for _, z := range u.leads(x, y) {
				cost := x.cost + y.cost + z.cost
				if mb := common(x.speeds, y.speeds, z.mb); mb > l.Mb && (best < 0 || cost < best || cost == best && mb > f.Mb) {
					best, f = cost, Faster{Mb: mb, Do: done(x.do, y.do, z.do)}
				}
			}
		}
	}
	if best >= 0 {
		return f, true
	}
	if f.Mb = max(a[0].most(), b[0].most()); f.Mb <= l.Mb {
		return Faster{}, false
	}
	f.Lacks = "this needs another kind of cable: this kind carries no more that far"
	for k, end := range [][]ending{a, b} {
		if !slices.ContainsFunc(end, fast) {
			d, _ := w.at([]int32{l.path.first, l.path.last}[k])
			f.Lacks = fmt.Sprintf("this needs a port faster than %s on %s, and none is free", SpeedWords(l.Mb), d.Title())
		}
	}
	return f, true
}

// worth reports whether a link is to be looked at: one of its ends is faster than it
// is, or both could be.
func (up Upgrades) worth(l Link) bool {
	both := true
	for _, s := range []int32{l.path.first, l.path.last} {
		d, i := up.w.at(s)
		if _, speeds := up.w.linkAt(d, i); (ending{speeds: speeds}).most() > l.Mb {
			return true
		}
		_, optic := up.w.transceiver(d, i)
		both = both && (optic || slices.ContainsFunc(up.freeOf(d), func(o freePort) bool { return o.most() > l.Mb }))
	}
	return both
}

func done(all ...func() string) (list []string) {
	for _, do := range all {
		if do != nil {
			list = append(list, do())
		}
	}
	const in = " transceiver in "
	if len(list) > 1 { // both ends may take the same one
		put, first, one := strings.Cut(list[0], in)
		as, second, other := strings.Cut(list[1], in)
		if one && other && put == as {
			list = append([]string{strings.Replace(put, "put a ", "put ", 1) + " transceivers in " + first + " and " + second}, list[2:]...)
		}
	}
	return list
}

// endings are the ways an end could be: as it is first.
func (up Upgrades) endings(s int32, now int) []ending {
	w := up.w
	d, i := w.at(s)
	family, speeds := w.linkAt(d, i)
	list := make([]ending, 1, 3)
	list[0].speeds = speeds
	name := func(i int) string { return d.Title() + "/" + lab.PortWords(d.key(i)) }
	_, optic := w.transceiver(d, i)
	if optic {
		_, cage := d.ports.Link(i)
		if len(cage) < 2 {
			cage = fallBack(family, d.ports.Connector(i), cage)
		}
		if n := len(cage); n > 0 && cage[n-1] > list[0].most() && cage[n-1] > now {
			list = append(list, ending{cage[n-1:], costOptic, func() string {
				return fmt.Sprintf("put a %s transceiver in %s", SpeedWords(cage[n-1]), name(i))
			}})
		}
	}
	move, with := ending{}, ending{}
	connector := ""
	for _, o := range up.freeOf(d) {
		most := o.most()
		if most <= now || most <= list[0].most() {
			continue
		}
		if connector == "" {
			if connector, _ = w.connectorOf(d, i, lab.Port{Connector: d.ports.Connector(i), Family: family}); connector == "" {
				break
			}
		}
		switch {
		case o.connector == connector && o.mode == w.modeOf(d, i), !optic && small(connector) && small(o.cage):
			if most > move.most() {
				move = ending{o.speeds, costMove, func() string { return fmt.Sprintf("move the lead from %s to %s", name(i), name(o.at)) }}
			}
		case connector == "rj45" && small(o.cage) && most > with.most():
			with = ending{o.speeds[len(o.speeds)-1:], costMove + costOptic, func() string {
				return fmt.Sprintf("move the lead from %s to %s with a %s RJ45 transceiver", name(i), name(o.at), SpeedWords(most))
			}}
		}
	}
	for _, e := range []ending{move, with} {
		if e.cost > 0 {
			list = append(list, e)
		}
	}
	return list
}

// small reports whether a connector is a cage of the size that takes one lane, which
// the same plugs go into.
func small(connector string) bool {
	return slices.Contains([]string{"sfp", "sfp+", "sfp28"}, connector)
}

// freeOf lists the free ports of a device that a network could run over.
func (up Upgrades) freeOf(d *device) []freePort {
	if list, known := up.free[d]; known {
		return list
	}
	var list []freePort
	for i := range d.count() {
		if s := 2 * (d.from + int32(i)); up.w.sockets[s].cable != none {
			continue
		}
		family, speeds := up.w.linkAt(d, i)
		if family != lab.Copper && family != lab.Cages && family != lab.Fibre || len(speeds) == 0 {
			continue
		}
		p := d.port(i)
		if p.Mark.Broken || p.Mark.Reserved != "" {
			continue
		}
		o := freePort{at: i, speeds: speeds, mode: up.w.modeOf(d, i)}
		if _, optic := up.w.transceiver(d, i); family == lab.Cages && !optic {
			o.cage = p.Connector
		} else {
			o.connector, _ = up.w.connectorOf(d, i, p)
		}
		list = append(list, o)
	}
	up.free[d] = list
	return list
}

// leading is one way that the cables of a link could be, and what they allow.
type leading struct {
	mb, cost int
	do       func() string
}

// leads are the ways the cables could be for two ends: as they are, and with those
// that hold them down replaced by what carries more.
func (u *sum) leads(a, b ending) []leading {
	ports := min(a.most(), b.most())
	for _, l := range u.limits {
		if l.port == none {
			continue
		}
		if d, _ := u.w.at(l.port); d.ports.Joined() {
			ports = min(ports, l.mb) // a panel on the way
		}
	}
	now, better := ports, ports
	var instead []string
	for at, n := range u.cables {
		k, ok := KindOf(u.w.cables[n].Kind)
		if !ok || len(k.Carries) == 0 {
			continue // what it carries is unknown
		}
		m := u.channelOf(at)
		most := k.Most(m, ports)
		now = min(now, most)
		if most < ports {
			by, carries := bestKind(k, m, ports)
			better = min(better, max(most, carries))
			if carries > most {
				instead = append(instead, fmt.Sprintf("%s instead of %s", by.Name, u.w.leadWords(n, k)))
			}
		}
	}
	list := []leading{{mb: now}}
	if len(instead) > 0 && better > now {
		list = append(list, leading{better, costLead * len(instead), func() string { return "use " + strings.Join(instead, " and ") }})
	}
	return list
}

// bestKind is the plainest kind of cable that goes where another one does and carries
// most of what is asked over its length.
func bestKind(now Kind, m float64, mb int) (best Kind, carries int) {
	for _, k := range kinds {
		if k.Mode() == now.Mode() && slices.Equal(k.Fits, now.Fits) {
			if most := k.Most(m, mb); most > carries {
				best, carries = k, most
			}
		}
	}
	return best, carries
}

// leadWords is a cable as one asks for it at the rack.
func (w *Wiring) leadWords(n int32, k Kind) string {
	if c := w.cables[n]; c.Label != "" {
		return "lead " + c.Label + " (" + k.Name + ")"
	}
	return k.Name
}
