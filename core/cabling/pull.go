package cabling

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// PullStep is one lead to unplug.
type PullStep struct {
	Cable  lab.ID        `json:"cable_id" required:"true"`
	Port   string        `json:"port" required:"true"`
	Face   lab.Face      `json:"face" required:"true" description:"The face of the device it is at"`
	Power  bool          `json:"power,omitempty"`
	Label  string        `json:"label,omitempty"`
	Kind   lab.CableKind `json:"cable_kind,omitempty"`
	Colour lab.Colour    `json:"colour,omitempty"`
	Hex    string        `json:"hex,omitempty"`
	To     string        `json:"to,omitempty" description:"Where its other end stays; absent where that is open"`
	Of     string        `json:"of,omitempty" description:"What it is in, where that is on the device and comes along"`
	order  [3]float64
}

// InTheWay is another device's lead across a device's face.
type InTheWay struct {
	Cable lab.ID `json:"cable_id" required:"true"`
	Words string `json:"words" required:"true" description:"From where to where it goes"`
	Sure  bool   `json:"sure" required:"true" description:"False while its route is unknown"`
}

// Dark is a device that loses a link.
type Dark struct {
	Device lab.ID `json:"device_id" required:"true"`
	Title  string `json:"title" required:"true"`
	Keeps  int    `json:"keeps" required:"true" description:"How many other links it keeps; 0: it goes dark"`
}

// PullSheet is what to do to take a device out, in order. Putting it back is
// the same in reverse. A shelf or a drawer comes out with what it holds.
type PullSheet struct {
	Device   lab.ID     `json:"device_id" required:"true"`
	Title    string     `json:"title" required:"true"`
	Steps    []PullStep `json:"steps" required:"true" nullable:"false"`
	Across   []InTheWay `json:"across" required:"true" nullable:"false"`
	Carries  []string   `json:"carries" required:"true" nullable:"false" description:"What stands on it and comes off first"`
	With     []string   `json:"with" required:"true" nullable:"false" description:"What it holds and comes along"`
	WeightKG *float64   `json:"weight_kg,omitempty" description:"With what comes along"`
	AtLeast  bool       `json:"at_least,omitempty" description:"Some of that is not weighed"`
	Dark     []Dark     `json:"dark" required:"true" nullable:"false"`
	Alone    bool       `json:"alone" required:"true" description:"It comes out without touching anything else's lead"`
}

// PullSheetOf works out how a device comes out: its leads at the front from
// the top left, then those at the rear, those for power last.
func (w *Wiring) PullSheetOf(id lab.ID) (PullSheet, bool) {
	at, ok := w.byID[id]
	if !ok {
		return PullSheet{}, false
	}
	d := &w.devices[at]
	sheet := PullSheet{Device: id, Title: d.Title(), Across: w.acrossOf(d), Carries: []string{}, With: []string{}}
	all := []*device{d}
	for _, on := range w.lab.ComingAlong(d.Device) {
		all = append(all, &w.devices[w.byID[on.ID]])
	}
	leaves := map[*device]bool{}
	for _, o := range all {
		leaves[o] = true
		if o != d {
			sheet.With = append(sheet.With, o.Title())
		}
		if kg := w.lab.SpecOf(o.Device).WeightKG; kg == nil {
			sheet.AtLeast = true
		} else {
			sum := *kg
			if sheet.WeightKG != nil {
				sum += *sheet.WeightKG
			}
			sheet.WeightKG = &sum
		}
	}
	sheet.Steps, sheet.Dark = w.leadsOf(all, leaves), w.darkWithout(leaves)
	for _, on := range w.lab.StandingOn(d.Device) {
		sheet.Carries = append(sheet.Carries, on.Title())
	}
	sheet.Alone = len(sheet.Across) == 0 && len(sheet.Carries) == 0
	return sheet, true
}

// leadsOf lists the leads of a device and of what comes along with it, but for
// those between them, which stay in.
func (w *Wiring) leadsOf(all []*device, along map[*device]bool) []PullStep {
	steps := []PullStep{}
	for _, o := range all {
		for _, step := range w.leadsAt(o, along) {
			if o != all[0] {
				step.Of = o.Title()
			}
			steps = append(steps, step)
		}
	}
	slices.SortStableFunc(steps, func(a, b PullStep) int { return slices.Compare(a.order[:], b.order[:]) })
	return steps
}

func (w *Wiring) leadsAt(d *device, along map[*device]bool) []PullStep {
	steps := []PullStep{}
	for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
		n := w.sockets[s].cable
		if n == none {
			continue
		}
		if far := w.sockets[s].far; far != none {
			if o, _ := w.at(far); o != d && along[o] {
				continue
			}
		}
		c := &w.cables[n]
		i := int(s/2 - d.from)
		p := d.port(i)
		k, _ := KindOf(c.Kind)
		step := PullStep{Cable: c.ID, Port: p.Key, Face: p.Face, Label: c.Label, Kind: c.Kind, Colour: c.Colour, Hex: c.Colour.Hex(),
			Power: k.Power() || p.Family == lab.Inlet || p.Family == lab.Outlet}
		if s%2 == 1 {
			step.Face = otherFace(step.Face)
		}
		if far := w.sockets[s].far; far != none {
			step.To = w.lab.EndWords(w.end(far))
		}
		step.order = [3]float64{0, 0, float64(i)}
		if step.Face == lab.Rear {
			step.order[0] = 1
		}
		if step.Power {
			step.order[0], step.order[1] = 2, 1
		}
		steps = append(steps, step)
	}
	return steps
}

// over is a lead that goes straight over faces: from which units to which.
type over struct {
	cable     int32
	face      lab.Face
	low, high int // the units between its ends, without those of its devices
	from, to  *device
	sure      bool
}

// oversIn lists the leads of a rack that go, or may go, over faces.
func (w *Wiring) oversIn(in lab.ID) []over {
	var list []over
	for _, d := range w.inRack(in) {
		for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
			far := w.sockets[s].far
			n := w.sockets[s].cable
			if n == none || far == none || far < s {
				continue // the other end tells
			}
			way := w.cables[n].Way
			if way != "" && way != lab.OverFaces {
				continue
			}
			a, okA := w.reach(s)
			b, okB := w.reach(far)
			if !okA || !okB || a.rack.ID != b.rack.ID || a.face != b.face {
				continue
			}
			if a.low > b.low {
				a, b = b, a
			}
			if a.high+1 < b.low {
				list = append(list, over{n, a.face, a.high + 1, b.low - 1, a.device, b.device, way == lab.OverFaces})
			}
		}
	}
	return list
}

// inRack lists the devices whose ports are in a rack, also those on shelves.
func (w *Wiring) inRack(in lab.ID) []*device { return w.heldIn(lab.Key{Kind: lab.KindRack, ID: in}) }

// heldIn lists the devices that a rack or a device holds, and those on them.
func (w *Wiring) heldIn(holder lab.Key) []*device {
	var list []*device
	for _, h := range w.lab.Held(holder) {
		list = append(list, &w.devices[w.byID[h.ID]])
		list = append(list, w.heldIn(h.Key())...)
	}
	return list
}

// blocks reports whether the lead lies across a device.
func (o over) blocks(d lab.Device) bool {
	return d.At != nil && d.At.Where == lab.InUnits && d.At.Face == o.face && d.ID != o.from.ID && d.ID != o.to.ID &&
		d.At.Unit <= o.high && o.low <= d.At.Unit+d.Units()-1
}

func (w *Wiring) acrossOf(d *device) []InTheWay {
	across := []InTheWay{}
	if d.At == nil || d.At.Where != lab.InUnits {
		return across
	}
	for _, o := range w.oversIn(d.At.Rack) {
		if o.blocks(d.Device) {
			c := w.cables[o.cable]
			across = append(across, InTheWay{c.ID, w.lab.CableWords(lab.Cable{A: c.A, B: c.B}), o.sure})
		}
	}
	return across
}

// darkWithout lists the devices that lose a link when some are gone, those
// that keep fewest first: the ones linked to them, and both ends of each link
// that goes through them.
func (w *Wiring) darkWithout(gone map[*device]bool) []Dark {
	told := map[*device]bool{}
	dark := []Dark{}
	loses := func(o *device) {
		if !told[o] && !gone[o] {
			told[o] = true
			dark = append(dark, Dark{o.ID, o.Title(), len(w.linksOf(o, gone))})
		}
	}
	for d := range gone {
		for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
			if w.sockets[s].cable == none {
				continue
			}
			if a, b := w.linked(s); a != none && w.network(a) {
				near, _ := w.at(a)
				far, _ := w.at(b)
				if near != far {
					loses(near)
					loses(far)
				}
			}
		}
		for _, far := range w.airFrom(d) {
			loses(far)
		}
	}
	slices.SortStableFunc(dark, func(a, b Dark) int { return cmp.Or(a.Keeps-b.Keeps, cmp.Compare(a.Title, b.Title)) })
	return dark
}

// linksOf lists the devices at the other ends of a device's network links,
// through panels and the air, once a link; without those links that lead to or
// through others that are gone.
func (w *Wiring) linksOf(d *device, gone map[*device]bool) []*device {
	var far []*device
	for s := 2 * d.from; s < 2*(d.from+int32(d.count())); s++ {
		if w.sockets[s].cable == none || !w.network(s) {
			continue
		}
		p := w.follow(s)
		if p.last == none || p.loop || len(gone) > 0 && w.passes(p, gone) {
			continue
		}
		if o, _ := w.at(p.last); !o.ports.Joined() && o != d {
			far = append(far, o)
		}
	}
	for _, o := range w.airFrom(d) {
		if !gone[o] {
			far = append(far, o)
		}
	}
	return far
}

// airFrom lists the devices at the other ends of a device's links without a
// cable.
func (w *Wiring) airFrom(d *device) []*device {
	var far []*device
	for _, t := range w.airOf(d.ID) {
		if len(t.Stops) == 2 {
			far = append(far, &w.devices[w.byID[t.Stops[1].Device]])
		}
	}
	return far
}

// passes reports whether a path leads to one of some devices or through it.
func (w *Wiring) passes(p Path, gone map[*device]bool) bool {
	s := p.first
	for range p.pieces {
		far := w.sockets[s].far
		if far == none {
			return false
		}
		if o, _ := w.at(far); gone[o] {
			return true
		}
		s = w.sockets[far].through
	}
	return false
}

// network reports whether a socket is one that networks run over.
func (w *Wiring) network(s int32) bool {
	d, i := w.at(s)
	switch d.port(i).Family {
	case lab.Copper, lab.Cages, lab.Fibre:
		return true
	case lab.Unsure:
		if k, ok := KindOf(w.cables[w.sockets[s].cable].Kind); ok {
			return len(k.Carries) > 0
		}
		if far := w.sockets[s].far; far != none { // the other end may tell
			o, i := w.at(far)
			family := o.port(i).Family
			return family == lab.Copper || family == lab.Cages || family == lab.Fibre
		}
	}
	return false
}

// Ease is how many devices of a rack come out alone, and what would help most.
type Ease struct {
	Rack    lab.ID   `json:"rack_id" required:"true"`
	Devices int      `json:"devices" required:"true" description:"Those mounted in its units"`
	Alone   []lab.ID `json:"alone" required:"true" nullable:"false" description:"Those that come out alone"`
	Unsure  int      `json:"unsure,omitempty" description:"Those of the others that are unsure: a lead may lie across"`
	Advice  string   `json:"advice,omitempty" description:"The one change that would let most others come out alone"`
}

// EaseOf looks at a rack's devices one by one.
func (w *Wiring) EaseOf(r lab.Rack) Ease {
	ease := Ease{Rack: r.ID, Alone: []lab.ID{}}
	overs := w.oversIn(r.ID)
	gain := map[[2]*device]int{} // devices that only leads between these two keep in
	leads := map[[2]*device]int{}
	for _, o := range overs {
		leads[[2]*device{o.from, o.to}]++
	}
	for _, d := range w.lab.HeldBy(r.Key()) {
		if d.At.Where != lab.InUnits {
			continue
		}
		ease.Devices++
		if len(w.lab.StandingOn(d)) > 0 {
			continue
		}
		pairs := map[[2]*device]bool{}
		sure := false
		for _, o := range overs {
			if o.blocks(d) {
				pairs[[2]*device{o.from, o.to}] = true
				sure = sure || o.sure
			}
		}
		switch {
		case len(pairs) == 0:
			ease.Alone = append(ease.Alone, d.ID)
		case !sure:
			ease.Unsure++
		}
		if len(pairs) == 1 {
			for p := range pairs {
				gain[p]++
			}
		}
	}
	ease.Advice = advice(gain, leads)
	return ease
}

func advice(gain, leads map[[2]*device]int) string {
	var best [2]*device
	for p, n := range gain {
		if best[0] == nil || n > gain[best] || n == gain[best] && (p[0].ID < best[0].ID || p[0].ID == best[0].ID && p[1].ID < best[1].ID) {
			best = p
		}
	}
	if best[0] == nil {
		return ""
	}
	a, b := best[0], best[1]
	more := counted(gain[best], "more device comes", "more devices come") + " out alone"
	if leads[best] > 1 && a.ports.Joined() != b.ports.Joined() {
		panel, other := a, b
		if b.ports.Joined() {
			panel, other = b, a
		}
		return "With " + panel.Title() + " next to " + other.Title() + ", or " + counted(leads[best], "the lead", "leads") +
			" between them moved to the side, " + more
	}
	return "With " + counted(leads[best], "the lead", "leads") + " between " + a.Title() + " and " + b.Title() + " moved to the side, " + more
}

// Devices lists everything there is, oldest first.
func (w *Wiring) Devices() []lab.ID {
	ids := make([]lab.ID, len(w.devices))
	for i := range w.devices {
		ids[i] = w.devices[i].ID
	}
	return ids
}

// DevicesIn lists what is in, on or at a rack, also on its shelves.
func (w *Wiring) DevicesIn(in lab.ID) []lab.ID {
	var ids []lab.ID
	for _, d := range w.inRack(in) {
		ids = append(ids, d.ID)
	}
	return ids
}
