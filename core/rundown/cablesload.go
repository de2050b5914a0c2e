package rundown

import (
	"fmt"
	"slices"

	"levelstaff/core/lab"
)

// cablesLoader finds the cables of a text among those of the lab, by the ports
// that the devices have with the text.
type cablesLoader struct {
	*loader
	text *lab.Lab    // the lab with the devices that the text speaks of
	bin  []lab.Cable // those plugged in nowhere, not spoken of yet
	new  []waiting
}

// waiting is a cable of the text whose record is not found yet.
type waiting struct {
	t *thing
	c lab.Cable
}

// cables puts down what the text says of cables.
func (ld *loader) cables(lines []*thing) {
	if len(lines) == 0 {
		return
	}
	cl := &cablesLoader{loader: ld, text: ld.spokenOf()}
	for c := range lab.Each[lab.Cable](ld.base) {
		if c.A == nil && c.B == nil {
			cl.bin = append(cl.bin, c)
		}
	}
	for _, t := range lines {
		if !t.broken {
			cl.line(t)
		}
	}
	cl.rest()
	if ld.opt.All {
		cl.displace()
	}
}

// spokenOf is the lab without the devices that a text of the whole lab leaves
// out: what a cable's line calls a device counts among the others.
func (ld *loader) spokenOf() *lab.Lab {
	now := ld.lab()
	if !ld.opt.All {
		return now
	}
	var gone []lab.Change
	for d := range lab.Each[lab.Device](now) {
		if !ld.used[d.ID] {
			gone = append(gone, lab.Change{Before: d})
		}
	}
	if len(gone) == 0 {
		return now
	}
	if without, err := now.Rewind(gone); err == nil {
		return without
	}
	return now
}

// line works out the cables of one line and finds those that were between the
// same ports already.
func (cl *cablesLoader) line(t *thing) {
	if t.wire.spare {
		for range t.wire.count {
			cl.new = append(cl.new, waiting{t, lab.Cable{State: lab.CableSpare}})
		}
		return
	}
	a, ok := cl.ends(t, t.wire.a)
	b, also := cl.ends(t, t.wire.b)
	if !ok || !also || gone(t.wire.a, a) && gone(t.wire.b, b) {
		return
	}
	if len(a) != len(b) && !isOpen(a) && !isOpen(b) {
		cl.wrong(t, t.wire.a.col, t.wire.b.end, fmt.Errorf("%d ports cannot go to %d; write the same number on both sides", len(a), len(b)))
		return
	}
	for i := range max(len(a), len(b)) {
		c := lab.Cable{State: lab.CableInUse, A: a[min(i, len(a)-1)], B: b[min(i, len(b)-1)]}
		if was, ok := cl.between(c); ok {
			cl.take(t, was, c)
			continue
		}
		cl.new = append(cl.new, waiting{t, c})
	}
}

func isOpen(ends []*lab.End) bool { return len(ends) == 1 && ends[0] == nil }

// gone reports whether an end is open because its device went with the text.
func gone(said endSaid, ends []*lab.End) bool { return isOpen(ends) && !said.open }

// ends are those that the line means. A text of the whole lab may still speak
// of a device by a name it had, which is then that device, or of one that it
// leaves out, whose cables are then unplugged.
func (cl *cablesLoader) ends(t *thing, e endSaid) ([]*lab.End, bool) {
	ends, err := refsOf(cl.text).ends(cl.text, e)
	if err != nil && cl.opt.All {
		if id, found := refsOf(cl.base).find(cl.base, e.device); found == nil {
			if !cl.used[id] {
				return []*lab.End{nil}, true
			}
			ends, err = endsOf(cl.text, id, e)
		}
	}
	if err != nil && cl.lost[lab.FoldName(e.device)] {
		return nil, false // its own line has a mistake
	}
	if err != nil {
		cl.wrong(t, e.col, e.end, err)
		return nil, false
	}
	return ends, true
}

// between finds the cable that goes between the same two ports, or from one
// of them to nowhere yet.
func (cl *cablesLoader) between(c lab.Cable) (lab.Cable, bool) {
	for _, e := range c.Ends() {
		for _, o := range cl.base.CablesOf(e.Device) {
			if cl.used[o.ID] || !slices.Contains(o.Ends(), e) {
				continue
			}
			same := len(o.Ends()) == len(c.Ends())
			for _, x := range o.Ends() {
				same = same && slices.Contains(c.Ends(), x)
			}
			filled := len(o.Ends()) == 1 && len(c.Ends()) == 2
			if same || filled {
				return o, true
			}
		}
	}
	return lab.Cable{}, false
}

// take makes the record of a cable that was there say what the line says. The
// order of its ends stays: it says nothing.
func (cl *cablesLoader) take(t *thing, was, c lab.Cable) {
	is := was
	if is.A == nil || is.B == nil || !slices.Contains(c.Ends(), *is.A) || !slices.Contains(c.Ends(), *is.B) {
		is.A, is.B = c.A, c.B
	}
	if is.State == lab.CableSpare {
		is.State = c.State
	}
	cl.settleOn(t, is)
}

func (cl *cablesLoader) settleOn(t *thing, c lab.Cable) {
	cl.used[c.ID] = true
	r := cl.says(t, c)
	cl.note(t, r)
	cl.seated[t] = append(cl.seated[t], r.Key())
}

// says is a cable with what its line says of it. What lies in the bin is spare
// without saying so.
func (cl *cablesLoader) says(t *thing, c lab.Cable) lab.Cable {
	is := cl.apply(t, c).(lab.Cable)
	if t.wire.spare {
		is.State = lab.CableSpare
	}
	return is
}

// rest finds records for the cables that go between other ports now: by one of
// their ends and their label, by their label alone, by one of their ends alone, from the spares bin; or they are new.
func (cl *cablesLoader) rest() {
	byLabel := map[string]lab.Cable{}
	if cl.opt.All {
		for c := range lab.Each[lab.Cable](cl.base) {
			if c.Label != "" {
				byLabel[lab.FoldName(c.Label)] = c
			}
		}
	}
	for _, n := range cl.new {
		said := cl.says(n.t, n.c)
		if was, ok := cl.atOneEnd(n.c, func(o lab.Cable) bool { return o.Label == said.Label }); ok {
			cl.moved(n, was)
			continue
		}
		if was, ok := byLabel[lab.FoldName(said.Label)]; ok && said.Label != "" && !cl.used[was.ID] {
			cl.moved(n, was)
			continue
		}
		if was, ok := cl.atOneEnd(n.c, func(lab.Cable) bool { return true }); ok {
			cl.moved(n, was)
			continue
		}
		if was, ok := cl.fromBin(said, n.t.wire.spare); ok {
			cl.moved(n, was)
			continue
		}
		n.c.ID = cl.opt.NewID()
		cl.settleOn(n.t, n.c)
	}
}

// moved is a cable that was there with the ends of the line.
func (cl *cablesLoader) moved(n waiting, was lab.Cable) {
	was.A, was.B = n.c.A, n.c.B
	was.State = n.c.State
	cl.settleOn(n.t, was)
}

// atOneEnd finds a cable that the line may mean in one of its ports.
func (cl *cablesLoader) atOneEnd(c lab.Cable, means func(lab.Cable) bool) (lab.Cable, bool) {
	if !cl.opt.All {
		return lab.Cable{}, false // a line by itself does not pull others' leads
	}
	for _, e := range c.Ends() {
		if o, ok := cl.base.CableAt(e); ok && !cl.used[o.ID] && means(o) {
			return o, true
		}
	}
	return lab.Cable{}, false
}

// fromBin finds a cable of the bin that is the same but for its id. A line by
// itself that speaks of spares adds to the bin.
func (cl *cablesLoader) fromBin(said lab.Cable, spare bool) (lab.Cable, bool) {
	if !cl.opt.All || said.A != nil || said.B != nil {
		return lab.Cable{}, false
	}
	for i, c := range cl.bin {
		said.ID = c.ID
		if !cl.used[c.ID] && lab.Same(c, said) {
			cl.bin = slices.Delete(cl.bin, i, i+1)
			return c, true
		}
	}
	return lab.Cable{}, false
}

// displace takes out the cables that a text does not speak of where others are
// plugged in now, whatever else is wrong with it.
func (cl *cablesLoader) displace() {
	taken := map[lab.End]bool{}
	for _, key := range cl.order {
		if c, ok := cl.after[key].(lab.Cable); ok && c.Kind != lab.Wireless {
			for _, e := range c.Ends() {
				taken[e] = true
			}
		}
	}
	for c := range lab.Each[lab.Cable](cl.base) {
		if !cl.used[c.ID] && c.Kind != lab.Wireless && slices.ContainsFunc(c.Ends(), func(e lab.End) bool { return taken[e] }) {
			cl.displaced = append(cl.displaced, c.Key())
		}
	}
}
