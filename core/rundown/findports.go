package rundown

import (
	"errors"
	"fmt"
	"slices"

	"levelstaff/core/lab"
)

// People leave out what goes without saying: which port of a device with one
// that fits, and which side of a panel. These are found here, when all that is
// said is known.

// findPorts finds the ports that the lines leave out: the one that a cable of
// the lab between the two devices is in already; or else the free one that fits,
// where that is one, or the first of several inlets. Where more would do, which
// it is is not known.
func (cl *cablesLoader) findPorts() {
	refused := map[*reading]bool{}
	cl.inOrder(func(r *reading) {
		if !r.lacks() || cl.asBefore(r) {
			return
		}
		of := cl.familyOf(r)
		for i := range r.ends {
			if err := cl.findPort(&r.ends[i], of[i]); err != nil {
				cl.wrong(r.t, r.t.col, r.t.end, err)
				refused[r] = true
				return
			}
		}
	})
	cl.read = slices.DeleteFunc(cl.read, func(r *reading) bool { return refused[r] })
}

// lacks reports whether a line leaves a port out.
func (r *reading) lacks() bool {
	return slices.ContainsFunc(r.ends[:], func(e endRead) bool { return e.find || e.ask })
}

// findPort finds the port of an end that leaves it out.
func (cl *cablesLoader) findPort(e *endRead, of lab.Family) (err error) {
	if !e.find && !e.ask {
		return nil
	}
	end := *e.at
	if e.find {
		if end.Port, err = cl.freePort(e.at, of); err != nil {
			return err
		}
	}
	if end.Port == "" {
		end.Port = freeUnknown(cl.text, end.Device, cl.taken[end.Device])
	}
	e.at = &end
	cl.claimEnd(end)
	return nil
}

// asBefore takes the ports of a cable that goes between the two devices in the
// lab, where the line says nothing else.
func (cl *cablesLoader) asBefore(r *reading) bool {
	first, second := r.ends[0], r.ends[1]
	if first.open() && second.open() {
		return false
	}
	from := first
	if first.open() {
		from = second
	}
	for _, c := range cl.base.CablesOf(from.at.Device) {
		for _, ends := range [][2]*lab.End{{c.A, c.B}, {c.B, c.A}} {
			if cl.used[c.ID] || !first.means(ends[0]) || !second.means(ends[1]) || cl.claimed(ends, r) {
				continue
			}
			r.ends[0].at, r.ends[1].at = ends[0], ends[1]
			for _, e := range c.Ends() {
				cl.claimEnd(e)
			}
			return true
		}
	}
	return false
}

// claimed reports whether another line has a port that this one leaves out.
func (cl *cablesLoader) claimed(ends [2]*lab.End, r *reading) bool {
	for i, e := range ends {
		if e != nil && (r.ends[i].find || r.ends[i].ask) && cl.has(*e) {
			return true
		}
	}
	return false
}

// means reports whether an end of a cable may be the one that was written.
func (e endRead) means(is *lab.End) bool {
	switch {
	case e.at == nil || is == nil:
		return e.at == nil && is == nil
	case e.ask:
		return e.at.Device == is.Device && lab.IsUnknownPort(is.Port)
	case e.find:
		return e.at.Device == is.Device
	}
	return *e.at == *is
}

// freeUnknown is the key of the next port of a device that nobody knows.
func freeUnknown(l *lab.Lab, device lab.ID, taken map[lab.Plug]bool) string {
	used := map[string]bool{}
	for p := range taken {
		used[p.Port] = true
	}
	for _, c := range l.CablesOf(device) {
		for _, e := range c.Ends() {
			used[e.Port] = used[e.Port] || e.Device == device
		}
	}
	n := 1
	for used[lab.UnknownPort(n)] {
		n++
	}
	return lab.UnknownPort(n)
}

// families are those of the two ends of a cable; "" while unknown.
type families [2]lab.Family

// pairs are the families that go together, the likeliest first.
var pairs = []families{{lab.Copper, lab.Copper}, {lab.Cages, lab.Cages}, {lab.Fibre, lab.Fibre}, {lab.Coax, lab.Coax},
	{lab.Cages, lab.Fibre}, {lab.Fibre, lab.Cages}, {lab.Copper, lab.Cages}, {lab.Cages, lab.Copper},
	{lab.SerialF, lab.SerialF}, {lab.SerialF, lab.Copper}, {lab.Copper, lab.SerialF}, {lab.USB, lab.USB}, {lab.Video, lab.Video},
	{lab.Storage, lab.Storage}, {lab.Console, lab.Console}, {lab.Audio, lab.Audio},
	{lab.Outlet, lab.Inlet}, {lab.Inlet, lab.Outlet}}

// byKind are the families that a kind of cable goes between.
func byKind(k lab.CableKind) []lab.Family {
	switch k {
	case "":
		return nil
	case lab.Cat5e, lab.Cat6, lab.Cat6A:
		return []lab.Family{lab.Copper, lab.SerialF, lab.Cages}
	case "om3", "om4", "single-mode", lab.DAC:
		return []lab.Family{lab.Cages, lab.Fibre}
	case "rg6":
		return []lab.Family{lab.Coax}
	case "usb":
		return []lab.Family{lab.USB}
	case "hdmi", "displayport", "vga", "dvi":
		return []lab.Family{lab.Video}
	case "audio", "speaker":
		return []lab.Family{lab.Audio}
	case "serial":
		return []lab.Family{lab.SerialF, lab.Copper}
	case "sas", "sata":
		return []lab.Family{lab.Storage}
	case "kvm":
		return []lab.Family{lab.Console, lab.Video, lab.USB}
	case lab.Wireless, lab.Powerline:
		return []lab.Family{lab.Radio}
	}
	return []lab.Family{lab.Outlet, lab.Inlet}
}

// familyOf is what families the ends of a cable are of, by the ports that are
// said, the cable's kind, and what the devices have; power comes first where
// one of them is there to feed others.
func (cl *cablesLoader) familyOf(r *reading) families {
	kind := byKind(r.t.cableKind())
	var has [2]map[lab.Family]int
	feeds := 0
	for i, e := range r.ends {
		has[i] = map[lab.Family]int{}
		if e.at == nil {
			continue
		}
		d, _ := lab.Find[lab.Device](cl.text, e.at.Device)
		ports := cl.text.PortsOf(d)
		if n, ok := ports.Index(e.at.Port); ok {
			has[i][ports.At(n).Family]++
			continue
		}
		for n := range ports.Len() {
			has[i][ports.At(n).Family]++
		}
		if d.Feeds() && e.at.Port == "" {
			feeds++
			if d.Kind != lab.USBSupply {
				has[i][lab.Outlet]++ // written down or not
			}
		}
	}
	var fits []families
	for _, p := range pairs {
		if kind != nil && (!slices.Contains(kind, p[0]) || !slices.Contains(kind, p[1])) {
			continue
		}
		if has[0][p[0]] > 0 && has[1][p[1]] > 0 {
			fits = append(fits, p)
		}
	}
	power := func(p families) bool { return p[0] == lab.Outlet || p[0] == lab.Inlet }
	if i := slices.IndexFunc(fits, power); i >= 0 && feeds > 0 {
		if feeds < 2 {
			return fits[i]
		}
		of, _ := cl.way(r)
		return of
	}
	if len(fits) == 0 || power(fits[0]) && feeds == 0 && kind == nil && !cl.isPower(r) {
		return families{}
	}
	return fits[0]
}

// cableKind is the kind of cable that a line says, "" where it says none.
func (t *thing) cableKind() lab.CableKind {
	for _, s := range t.said {
		if k, ok := s.value.(lab.CableKind); ok {
			return k
		}
	}
	return ""
}

// isPower reports whether an end says itself that the cable is a power lead.
func (cl *cablesLoader) isPower(r *reading) bool {
	for _, e := range r.ends {
		if e.at != nil && e.at.Port != "" {
			d, _ := lab.Find[lab.Device](cl.text, e.at.Device)
			ports := cl.text.PortsOf(d)
			if n, ok := ports.Index(e.at.Port); ok && (ports.At(n).Family == lab.Outlet || ports.At(n).Family == lab.Inlet) {
				return true
			}
		}
	}
	return false
}

// freePort is the one free port of a family that a device has, the first of
// several inlets; "" where several would do or the device's are not written
// down. The error says that all of them are taken.
func (cl *cablesLoader) freePort(at *lab.End, of lab.Family) (string, error) {
	some, free := cl.free(at, of)
	switch {
	case some && len(free) == 0 && of != lab.Inlet: // how many inlets there are is seldom said
		d, _ := lab.Find[lab.Device](cl.text, at.Device)
		return "", fmt.Errorf("every port of “%s” that fits is taken; say which one it is in", d.Title())
	case len(free) == 1, len(free) > 1 && of == lab.Inlet:
		return free[0], nil
	}
	return "", nil
}

// free lists the ports of a family that a device has free; some says whether it has any.
func (cl *cablesLoader) free(at *lab.End, of lab.Family) (some bool, free []string) {
	d, _ := lab.Find[lab.Device](cl.text, at.Device)
	ports := cl.text.PortsOf(d)
	for n := range ports.Len() {
		p := ports.At(n)
		if of == "" || p.Family != of {
			continue
		}
		some = true
		end := lab.End{Device: at.Device, Port: p.Key, Rear: at.Rear}
		_, used := cl.text.CableAt(end)
		if !cl.has(end) && (!used || cl.opt.All) {
			free = append(free, p.Key)
		}
	}
	return some, free
}

// chooseSides plugs the second of two cables into the other side of a port that
// goes through, where neither says which: the rear is the side of the one that
// leads out of the rack.
func (cl *cablesLoader) chooseSides() {
	type claims struct {
		reading *reading
		side    int
	}
	at := map[lab.End][]claims{}
	var order []lab.End
	for _, r := range cl.read {
		for i, e := range r.ends {
			if e.at == nil || !e.free || e.at.Rear {
				continue
			}
			if d, _ := lab.Find[lab.Device](cl.text, e.at.Device); !d.Kind.Traits().Joined {
				continue
			}
			if len(at[*e.at]) == 0 {
				order = append(order, *e.at)
			}
			at[*e.at] = append(at[*e.at], claims{r, i})
		}
	}
	for _, end := range order {
		list, rear := at[end], end
		rear.Rear = true
		if _, used := cl.text.CableAt(rear); cl.has(rear) || used && !cl.opt.All {
			continue
		}
		front, used := cl.text.CableAt(end)
		there := used && !cl.opt.All && !cl.used[front.ID]
		move := -1
		switch {
		case len(list) == 2:
			first, second := cl.leadsOut(list[0].reading, list[0].side), cl.leadsOut(list[1].reading, list[1].side)
			switch {
			case first > second:
				move = 0
			case second > 0:
				move = 1
			}
		case len(list) == 1 && there && max(cl.leadsOut(list[0].reading, list[0].side), cl.wasOut(front, end)) > 0:
			if c := list[0].reading; len(front.Ends()) == 2 && !slices.ContainsFunc(front.Ends(), func(e lab.End) bool {
				o := c.ends[1-list[0].side].at
				return o != nil && *o == e
			}) {
				move = 0
			}
		case len(list) == 1 && !used && !cl.opt.All && cl.leadsOut(list[0].reading, list[0].side) > 1:
			move = 0 // the first line about it is the one in the wall
		}
		if move >= 0 {
			list[move].reading.ends[list[move].side].at = &rear
			cl.claimEnd(rear)
		}
	}
}

// wasOut is leadsOut of a cable of the lab, seen from one of its ends.
func (cl *cablesLoader) wasOut(c lab.Cable, from lab.End) int {
	r := &reading{}
	r.ends[0].at = &from
	for _, e := range c.Ends() {
		if e != from {
			r.ends[1].at = &e
		}
	}
	return cl.leadsOut(r, 0)
}

// leadsOut tells how surely a cable leaves a panel by its rear: to another panel
// or plate, else to another rack or place.
func (cl *cablesLoader) leadsOut(r *reading, side int) int {
	here, there := r.ends[side].at, r.ends[1-side].at
	if there == nil {
		return 1
	}
	d, _ := lab.Find[lab.Device](cl.text, there.Device)
	if d.Kind.Traits().Joined {
		return 3
	}
	panel, _ := lab.Find[lab.Device](cl.text, here.Device)
	in, ok := cl.text.RackOf(panel)
	also, ok2 := cl.text.RackOf(d)
	if ok != ok2 || in.ID != also.ID {
		return 2
	}
	return 0
}

var errNoEnd = errors.New("say where the other end goes, such as PP1/3, or ? while unknown")
