package cabling

import (
	"fmt"

	"levelstaff/core/lab"
)

// Carry is what becomes of a cable when its device is replaced.
type Carry struct {
	Cable lab.ID `json:"cable_id" required:"true"`
	From  string `json:"from" required:"true" description:"The port it was in"`
	To    string `json:"to,omitempty" description:"The port it goes into now; absent where it is left open"`
	Why   string `json:"why,omitempty" description:"Why it is left open"`
	Optic string `json:"optic,omitempty" description:"The transceiver that goes along with it into the same cage"`
}

// Replace puts one device where another one is and keeps the cables by the
// names of their ports; a transceiver goes along with its cable, where the
// cage is free. What finds no port is left open. The old one is then placed
// nowhere, and spare unless it is faulty or leaving; the new one runs unless it
// is said to rest, to be faulty or to leave.
func Replace(l *lab.Lab, old, by lab.Device) ([]lab.Change, []Carry) {
	var changes []lab.Change
	carried := []Carry{}
	ports, taken := l.PortsOf(by), map[string]bool{}
	optics := opticsOf(l, old, by)
	for _, c := range l.CablesOf(by.ID) {
		for _, e := range c.Ends() {
			if e.Device == by.ID {
				taken[plugName(e)] = true
			}
		}
	}
	for _, c := range l.CablesOf(old.ID) {
		is := c
		for _, end := range []**lab.End{&is.A, &is.B} {
			if *end == nil || (*end).Device != old.ID {
				continue
			}
			e := **end
			carry := Carry{Cable: c.ID, From: e.Port}
			to, found := ports.Find(e.Port)
			if !ports.Known {
				to, found = e.Port, true
			}
			e.Device, e.Port = by.ID, to
			switch {
			case !found:
				carry.Why = fmt.Sprintf("%s has no port %s", by.Title(), carry.From)
			case e.Rear && !ports.Joined():
				carry.Why = by.Title() + " has no rear to plug into"
			case taken[plugName(e)] && !c.Kind.Cordless():
				carry.Why = fmt.Sprintf("port %s of %s is taken", to, by.Title())
			}
			if carry.Why != "" {
				*end = nil
			} else {
				carry.To = to
				taken[plugName(e)] = true
				*end = &e
				if change, title, ok := optics.along(carry.From, to); ok {
					carry.Optic = title
					changes = append(changes, change)
				}
			}
			carried = append(carried, carry)
		}
		if change, ok := l.Put(is); ok {
			changes = append(changes, change)
		}
	}
	in, out := by, old
	in.At, out.At = old.At, nil
	if by.State == lab.Spare || by.State == lab.Waiting {
		in.State = lab.Running
	}
	if old.State != lab.Faulty && old.State != lab.Leaving {
		out.State = lab.Spare
	}
	if old.At != nil && old.At.Where == lab.InUnits && in.TakesU == nil {
		units := 1
		if u := l.SpecOf(by).TakesU; u != nil {
			units = *u
		}
		in.TakesU = &units
	}
	stand := []lab.Device{out, in}
	for _, on := range l.Held(old.Key()) {
		at := *on.At
		at.Device = by.ID
		on.At = &at
		stand = append(stand, on)
	}
	for _, d := range stand {
		if change, ok := l.Put(d); ok {
			changes = append(changes, change)
		}
	}
	return changes, carried
}

func plugName(e lab.End) string {
	if e.Rear {
		return e.Port + "/rear"
	}
	return e.Port
}

// optics are the transceivers in the cages of a device and of the one that
// takes its place.
type optics struct {
	l                 *lab.Lab
	old, by           lab.Device
	oldPorts, byPorts lab.Ports
	in                map[int]lab.Part // of the old one, by cage
	full              map[int]bool     // of the new one
}

func opticsOf(l *lab.Lab, old, by lab.Device) optics {
	o := optics{l, old, by, l.PortsOf(old), l.PortsOf(by), map[int]lab.Part{}, map[int]bool{}}
	for _, p := range l.PartsOf(old.ID) {
		if p.Kind == lab.Transceiver {
			o.in[p.Seat] = p
		}
	}
	for _, p := range l.PartsOf(by.ID) {
		if p.Kind == lab.Transceiver {
			o.full[p.Seat] = true
		}
	}
	return o
}

// along is the change that takes what sits in a cage over to one of the new
// device; ok is false where nothing does, or something is there.
func (o optics) along(from, to string) (change lab.Change, title string, ok bool) {
	i, was := o.oldPorts.Index(from)
	j, is := o.byPorts.Index(to)
	if !was || !is || o.oldPorts.At(i).Family != lab.Cages || o.byPorts.At(j).Family != lab.Cages {
		return lab.Change{}, "", false
	}
	part, there := o.in[o.oldPorts.Cage(i)]
	if seat := o.byPorts.Cage(j); there && !o.full[seat] {
		moved := part
		moved.Device, moved.Seat = o.by.ID, seat
		change, ok = o.l.Put(moved)
	}
	return change, part.Title(), ok
}

// ReplacedWords is what the logbook says of a replacement: "core replaced by
// core-2: 26 cables kept, 2 left open".
func ReplacedWords(l *lab.Lab, old, by lab.ID, carried []Carry) string {
	was, _ := lab.Find[lab.Device](l, old)
	is, _ := lab.Find[lab.Device](l, by)
	kept := 0
	for _, c := range carried {
		if c.To != "" {
			kept++
		}
	}
	cables := "cables"
	if kept == 1 {
		cables = "cable"
	}
	words := fmt.Sprintf("%s replaced by %s: %d %s kept", was.Title(), is.Title(), kept, cables)
	if open := len(carried) - kept; open > 0 {
		words += fmt.Sprintf(", %d left open", open)
	}
	return words
}
