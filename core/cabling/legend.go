package cabling

import (
	"strings"

	"levelstaff/core/lab"
)

// meanings are words in a legend that can be held against a cable.
var meanings = []struct {
	words []string
	is    func(w *Wiring, c lab.Cable) bool
}{
	{[]string{"panel", "patch"}, func(w *Wiring, c lab.Cable) bool {
		return w.reaches(c, func(d *device) bool { return d.Kind == lab.PatchPanel })
	}},
	{[]string{"camera"}, leadsTo(lab.Camera, lab.Recorder)},
	{[]string{"access point", "wireless"}, leadsTo(lab.AccessPoint)},
	{[]string{"server"}, leadsTo(lab.Server)},
	{[]string{"storage", "nas"}, leadsTo(lab.NAS, lab.DiskShelf)},
	{[]string{"management", "console", "out of band"}, func(w *Wiring, c lab.Cable) bool {
		if leadsTo(lab.ConsoleServer, lab.KVMSwitch)(w, c) {
			return true
		}
		for _, e := range c.Ends() {
			for _, name := range managementNames {
				if strings.Contains(lab.FoldName(e.Port), name) {
					return true
				}
			}
		}
		return false
	}},
	{[]string{"power"}, func(_ *Wiring, c lab.Cable) bool { k, ok := KindOf(c.Kind); return !ok || k.Power() }},
	{[]string{"fibre", "fiber"}, func(_ *Wiring, c lab.Cable) bool {
		return c.Kind == "" || c.Kind == "om3" || c.Kind == "om4" || c.Kind == "single-mode"
	}},
}

func leadsTo(kinds ...lab.DeviceKind) func(*Wiring, lab.Cable) bool {
	return func(w *Wiring, c lab.Cable) bool {
		return w.reaches(c, func(d *device) bool {
			for _, k := range kinds {
				if d.Kind == k {
					return true
				}
			}
			return false
		})
	}
}

// Meant is how a meaning in the legend is held against a cable; nil where its
// words are nothing that can be checked.
func Meant(meaning string) func(*lab.Lab, lab.Cable) bool {
	folded := lab.FoldName(meaning)
	for _, m := range meanings {
		for _, word := range m.words {
			if strings.Contains(folded, word) {
				return func(l *lab.Lab, c lab.Cable) bool { return m.is(Of(l), c) }
			}
		}
	}
	return nil
}

// reaches reports whether such a device is on the way of the cable's trail.
func (w *Wiring) reaches(c lab.Cable, is func(*device) bool) bool {
	for _, e := range c.Ends() {
		s, ok := w.socketOf(e)
		if !ok {
			continue
		}
		for _, from := range []int32{s, w.sockets[s].through} {
			if from == none {
				continue
			}
			if d, _ := w.at(from); is(d) {
				return true
			}
			for at, n := from, 0; at != none && w.sockets[at].far != none && n <= len(w.cables); n++ {
				far := w.sockets[at].far
				if d, _ := w.at(far); is(d) {
					return true
				}
				if at = w.sockets[far].through; at == from {
					break
				}
			}
		}
	}
	return false
}
