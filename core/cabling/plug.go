package cabling

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Partner is a port that another one might be plugged into.
type Partner struct {
	lab.End
	Kind lab.CableKind `json:"cable_kind,omitempty" description:"The cable that goes into both"`
	Why  string        `json:"why,omitempty" description:"Why not, where it cannot be"`
}

// PartnersOf tells for every port of some devices whether a cable from an end
// could go there. A port that goes through is offered at its front.
func (w *Wiring) PartnersOf(from lab.End, among []lab.ID) []Partner {
	list := []Partner{}
	s, ok := w.socketOf(from)
	if !ok {
		return list
	}
	for _, id := range among {
		at, ok := w.byID[id]
		if !ok {
			continue
		}
		d := &w.devices[at]
		for i := range d.count() {
			t := 2 * (d.from + int32(i))
			if from.Rear && d.ports.Joined() {
				t++
			}
			kind, why := w.pair(s, t)
			list = append(list, Partner{w.end(t), kind, why})
		}
	}
	return list
}

// pair tells which cable goes between two sockets, or why none does.
func (w *Wiring) pair(a, b int32) (lab.CableKind, string) {
	if a == b {
		return "", "this is where the cable begins"
	}
	if c := w.sockets[b].cable; c != none && c != w.sockets[a].cable {
		return "", w.lab.CableWords(w.cables[c]) + " is in it"
	}
	da, ia := w.at(a)
	db, ib := w.at(b)
	pa, pb := da.port(ia), db.port(ib)
	if pb.Mark.Broken {
		return "", "it is broken"
	}
	ca, fa := w.connectorOf(da, ia, pa)
	cb, fb := w.connectorOf(db, ib, pb)
	ma, mb := w.modeOf(da, ia), w.modeOf(db, ib)
	if ma != "" && mb != "" && ma != mb {
		return "", fmt.Sprintf("its transceiver is for %s fibre, the other one for %s", mb, ma)
	}
	if (fa == lab.Outlet || fa == lab.Inlet) && fa == fb {
		return "", "an outlet feeds an inlet"
	}
	var fits []lab.CableKind
	may := false
	for _, k := range kinds {
		ga, gb := k.goes(ca, fa), k.goes(cb, fb)
		if mode := k.Mode(); mode != "" && (ma != "" && ma != mode || mb != "" && mb != mode) {
			continue
		}
		if ga == GoesNot || gb == GoesNot {
			continue
		}
		may = true
		if ga == GoesIn && gb == GoesIn {
			fits = append(fits, k.Kind)
		}
	}
	switch {
	case !may:
		return "", w.noCable(ca, cb, fa, fb)
	case len(fits) == 0:
		return "", ""
	case slices.Contains(fits, lab.Cat6):
		return lab.Cat6, ""
	case len(fits) > 1 && fa == lab.Fibre:
		return "", ""
	}
	return fits[0], ""
}

// noCable says why no cable goes between two ports, and what would fix it.
func (w *Wiring) noCable(ca, cb string, fa, fb lab.Family) string {
	if fa == lab.Cages && fb == lab.Copper || fb == lab.Cages && fa == lab.Copper {
		return fmt.Sprintf("%s against %s: a transceiver with an RJ45 socket in the cage would fix it", connectorWords(ca), connectorWords(cb))
	}
	if fa == lab.Cages && fb == lab.Fibre || fb == lab.Cages && fa == lab.Fibre {
		return fmt.Sprintf("%s against %s: an optical transceiver in the cage would fix it", connectorWords(ca), connectorWords(cb))
	}
	return fmt.Sprintf("no cable connects %s to %s", connectorWords(ca), connectorWords(cb))
}

// connectorWords is a connector as the trade writes it.
func connectorWords(c string) string {
	switch {
	case c == "":
		return "power"
	case lab.FamilyOf(c) == lab.Cages:
		return strings.ToUpper(c) + " cage"
	case strings.HasPrefix(c, "usb"):
		return "USB" + strings.ToUpper(c[3:])
	case c == "displayport":
		return "DisplayPort"
	case slices.Contains([]string{"keystone", "console", "serial", "audio", "speaker", "coax", "inlet", "radio"}, c):
		return c
	}
	return strings.ToUpper(c)
}

// portWords is what a port is called among others: by its connector, and by
// what it does where several kinds of port have that.
func portWords(connector string, family lab.Family) string {
	switch {
	case family == lab.Inlet && (connector == "" || connector == "inlet"):
		return "power inlet"
	case family == lab.Inlet:
		return connectorWords(connector) + " inlet"
	case family == lab.Outlet && connector == "":
		return "outlet"
	case family == lab.Outlet && strings.HasPrefix(connector, "usb"):
		return connectorWords(connector) + " outlet"
	case family == lab.Outlet:
		return connectorWords(connector) + " outlet"
	case connector == "":
		return "connector not known"
	}
	return connectorWords(connector)
}

// Trouble is why a lead does not fit a port it is in, with both its ends and
// what would fix it, and the device that has the port; "" where it fits, or
// nothing is known that tells.
func (c Lead) Trouble() (say string, at lab.Device) {
	w := c.w
	k, known := KindOf(c.Kind)
	for _, s := range c.ends {
		if s == none {
			continue
		}
		d, _ := w.at(s)
		if say := w.trouble(k, s); known && say != "" {
			return w.lab.CableWords(lab.Cable{A: c.A, B: c.B}) + ": " + say, d.Device
		}
	}
	if !known && w.apart(c.ends) {
		cage, jack := c.ends[0], c.ends[1]
		if w.familyAt(cage) != lab.Cages {
			cage, jack = jack, cage
		}
		d, i := w.at(cage)
		o, n := w.at(jack)
		return fmt.Sprintf("%s is %s and %s %s: no cable fits both; a transceiver with an RJ45 socket in the cage would do",
			w.lab.EndWords(w.end(cage)), a(connectorWords(d.port(i).Connector)), w.lab.EndWords(w.end(jack)),
			a(connectorWords(o.port(n).Connector))), d.Device
	}
	return "", lab.Device{}
}

// apart reports whether one end is a bare cage and the other a jack for copper,
// between which no cable goes.
func (w *Wiring) apart(ends [2]int32) bool {
	if ends[0] == none || ends[1] == none {
		return false
	}
	a, b := w.familyAt(ends[0]), w.familyAt(ends[1])
	return a == lab.Cages && b == lab.Copper || a == lab.Copper && b == lab.Cages
}

// familyAt is the family of what is at a socket, with what sits in a cage.
func (w *Wiring) familyAt(s int32) lab.Family {
	d, i := w.at(s)
	family, _ := d.ports.Link(i)
	if family == lab.Cages {
		_, family = w.connectorOf(d, i, d.port(i))
	}
	return family
}

// misfit reports whether a cable does not fit a port it is in, so that nothing
// runs over it.
func (w *Wiring) misfit(n int32) bool {
	k, known := KindOf(w.cables[n].Kind)
	if !known {
		return w.apart(w.ends[n])
	}
	for _, s := range w.ends[n] {
		if s == none {
			continue
		}
		d, i := w.at(s)
		family, _ := d.ports.Link(i)
		connector := d.ports.Connector(i)
		if family == lab.Cages {
			connector, family = w.connectorOf(d, i, d.port(i))
		}
		if family == lab.Cages && k.Mode() != "" {
			continue // fibre goes into no cage without the transceiver that nobody wrote down
		}
		if k.goes(connector, family) == GoesNot {
			return true
		}
	}
	return false
}

func (w *Wiring) trouble(k Kind, s int32) string {
	d, i := w.at(s)
	p := d.port(i)
	connector, family := w.connectorOf(d, i, p)
	if k.goes(connector, family) != GoesNot {
		if mode := w.modeOf(d, i); mode != "" && k.Mode() != "" && mode != k.Mode() {
			return fmt.Sprintf("%s is in %s, whose transceiver is for %s; one for %s would fit", k.Name, w.lab.EndWords(w.end(s)), mode, k.Mode())
		}
		return ""
	}
	say := fmt.Sprintf("%s does not fit %s, %s", k.Name, w.lab.EndWords(w.end(s)), a(connectorWords(connector)))
	if family == lab.Cages {
		switch {
		case slices.Contains(k.Fits, "rj45") && len(k.Carries) > 0:
			say += "; a transceiver with an RJ45 socket would fit"
		case slices.Contains(k.Fits, "lc"):
			say += fmt.Sprintf("; %s transceiver with an LC socket would fit",
				map[bool]string{true: "a single-mode", false: "a multimode"}[k.Kind == "single-mode"])
		}
	}
	if k.Kind == lab.DAC && p.Family == lab.Cages {
		say = fmt.Sprintf("a DAC has its own ends: take the transceiver out of %s", w.lab.EndWords(w.end(s)))
	}
	return say
}

// modeOf is the fibre that the transceiver in a port is for, "" where there is
// none or that is unknown.
func (w *Wiring) modeOf(d *device, i int) string {
	if family, _ := d.ports.Link(i); family != lab.Cages {
		return ""
	}
	t, _ := w.transceiver(d, i)
	return t.Fibre
}

// Meets finds a fibre of another mode that a fibre goes on into, and where; ok
// is false where there is none.
func (c Lead) Meets() (other lab.Cable, at lab.End, ok bool) {
	k, _ := KindOf(c.Kind)
	for _, s := range c.ends {
		if k.Mode() == "" || s == none || c.w.sockets[s].through == none {
			continue
		}
		n := c.w.sockets[c.w.sockets[s].through].cable
		if n == none {
			continue
		}
		if on, _ := KindOf(c.w.cables[n].Kind); on.Mode() != "" && on.Mode() != k.Mode() {
			return c.w.cables[n], c.w.end(s), true
		}
	}
	return lab.Cable{}, lab.End{}, false
}

// a puts the article before a connector; those in capitals are spelt out.
func a(words string) string {
	if len(words) > 1 && strings.ContainsAny(words[:1], "AEFHILMNORSX") && strings.ToUpper(words[:2]) == words[:2] {
		return "an " + words
	}
	return "a " + words
}

// Swap changes what two ends have in them, either of which may be empty.
func Swap(l *lab.Lab, a, b lab.End) []lab.Change {
	after := map[lab.ID]lab.Cable{}
	for _, x := range [][2]lab.End{{a, b}, {b, a}} {
		c, ok := l.CableAt(x[0])
		if !ok {
			continue
		}
		is, seen := after[c.ID]
		if !seen {
			is = c
		}
		to := x[1]
		if c.A != nil && *c.A == x[0] {
			is.A = &to
		} else {
			is.B = &to
		}
		after[c.ID] = is
	}
	var changes []lab.Change
	for _, is := range after {
		if c, ok := l.Put(is); ok {
			changes = append(changes, c)
		}
	}
	slices.SortFunc(changes, func(a, b lab.Change) int { return strings.Compare(string(a.Key().ID), string(b.Key().ID)) })
	return changes
}
