package cabling

import (
	"slices"
	"strings"
	"unicode"

	"levelstaff/core/lab"
)

// Meant is how a meaning in the legend is held against a cable: it leads to the
// device, the rack or the place that the words name, to a kind of device they
// name, to a panel, to what feeds others, to a console. nil where they name
// nothing of the kind, so that nobody can check it.
func Meant(l *lab.Lab, meaning string) func(lab.Cable) bool {
	w := Of(l)
	words := " " + strings.Join(strings.FieldsFunc(lab.FoldName(meaning), func(r rune) bool {
		return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !strings.ContainsRune("+.-_", r)
	}), " ") + " "
	says := func(name string) bool { return len(name) > 1 && strings.Contains(words, " "+lab.FoldName(name)+" ") }
	ids := map[lab.ID]bool{}
	for d := range lab.Things(l) {
		if d.Name != "" && (says(d.Name) || strings.Contains(words, " feed "+lab.FoldName(d.Name)+" ")) {
			ids[d.ID] = true
		}
	}
	places := map[lab.ID]bool{}
	for p := range lab.Each[lab.Place](l) {
		if says(p.Name) {
			places[p.ID] = true
		}
	}
	for r := range lab.Each[lab.Rack](l) {
		if says(r.Name) {
			places[r.ID] = true
		}
	}
	kinds := map[lab.DeviceKind]bool{}
	for _, k := range lab.ThingKinds() {
		if says(k.Words()) || says(k.Words()+"s") || says(k.Short()) || says(k.Short()+"s") {
			kinds[k] = true
		}
	}
	var is []func(*device) bool // a name may be a kind's word too, and any will do
	if len(ids) > 0 {
		is = append(is, func(d *device) bool { return ids[d.ID] })
	}
	if len(places) > 0 {
		is = append(is, func(d *device) bool { return w.isIn(d.Device, places) })
	}
	if len(kinds) > 0 {
		is = append(is, func(d *device) bool { return kinds[d.Kind] })
	}
	for _, m := range meanings {
		if slices.ContainsFunc(m.words, says) {
			is = append(is, m.is)
		}
	}
	manages := slices.ContainsFunc([]string{"management", "console", "out of band"}, says)
	if len(is) == 0 && !manages {
		return nil
	}
	return func(c lab.Cable) bool {
		return manages && w.manages(c) || w.reaches(c, func(d *device) bool {
			return slices.ContainsFunc(is, func(f func(*device) bool) bool { return f(d) })
		})
	}
}

// meanings are words for several kinds of device.
var meanings = []struct {
	words []string
	is    func(*device) bool
}{
	{[]string{"panel", "panels", "patch"}, func(d *device) bool { return d.Kind == lab.PatchPanel }},
	{[]string{"ups", "feed", "battery"}, func(d *device) bool { return d.Kind.Traits().Feeds }},
	{[]string{"camera", "cameras"}, func(d *device) bool { return d.Kind == lab.Camera || d.Kind == lab.Recorder }},
	{[]string{"storage"}, func(d *device) bool { return d.Kind == lab.NAS || d.Kind == lab.DiskShelf }},
	{[]string{"wireless", "wifi"}, func(d *device) bool { return d.Kind == lab.AccessPoint }},
}

// manages reports whether a cable leads to what one gets at others by.
func (w *Wiring) manages(c lab.Cable) bool {
	if w.reaches(c, func(d *device) bool { return d.Kind == lab.ConsoleServer || d.Kind == lab.KVMSwitch }) {
		return true
	}
	for _, e := range c.Ends() {
		if lab.ForManagement(strings.TrimRight(e.Port, "0123456789")) {
			return true
		}
	}
	return false
}

// isIn reports whether a device is in one of some racks or places, also in one
// that is in it.
func (w *Wiring) isIn(d lab.Device, ids map[lab.ID]bool) bool {
	foot := w.lab.Foot(d)
	if foot.At == nil {
		return false
	}
	if r, ok := w.racks[foot.At.Rack]; ok {
		return ids[r.ID] || w.placeIn(r.Place, ids)
	}
	return w.placeIn(foot.At.Place, ids)
}

func (w *Wiring) placeIn(id lab.ID, ids map[lab.ID]bool) bool {
	for range 64 { // as deep as places go
		p, ok := lab.Find[lab.Place](w.lab, id)
		if !ok {
			return false
		}
		if ids[id] {
			return true
		}
		id = p.In
	}
	return false
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
