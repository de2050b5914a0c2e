package rundown

import (
	"slices"

	"levelstaff/core/lab"
)

// cablesLoader turns a text's cables into records of a lab that has its
// devices already, and tells them from those that were there.
type cablesLoader struct {
	*loader
	refs *refs
	was  *lab.Lab        // the lab as it was, with its cables
	used map[lab.ID]bool // cables that the text speaks of
	bin  []lab.Cable     // those plugged in nowhere, not spoken of yet
	new  []waiting
}

// waiting is a cable of the text whose record is not found yet.
type waiting struct {
	t *thing
	c lab.Cable
}

// strandsOf are the lines about cables.
func strandsOf(things []*thing) []*thing {
	return slices.DeleteFunc(slices.Clone(things), func(t *thing) bool { return t.kind != lab.KindCable || t.broken })
}

// withoutCables is a lab with every cable taken out, so that what they are
// plugged into may change first.
func withoutCables(l *lab.Lab) (*lab.Lab, error) {
	var changes []lab.Change
	for c := range lab.Each[lab.Cable](l) {
		changes = append(changes, lab.Change{Before: c})
	}
	if len(changes) == 0 {
		return l, nil
	}
	return l.Rewind(changes)
}

// cables puts the text's cables into the lab that its other lines made.
func (p Plan) cables(was *lab.Lab, lines []*thing, opt Options) Plan {
	ld := newLoader(p.Lab, opt, len(lines))
	ld.next = p.Lab
	for _, m := range p.Mistakes {
		ld.misread[place{m.File, m.Line}] = true
	}
	cl := &cablesLoader{loader: ld, refs: refsOf(p.Lab), was: was, used: map[lab.ID]bool{}}
	for c := range lab.Each[lab.Cable](was) {
		if c.A == nil && c.B == nil {
			cl.bin = append(cl.bin, c)
		}
	}
	for _, t := range lines {
		cl.line(t)
	}
	cl.rest()
	if opt.All && len(p.Mistakes)+len(ld.mistakes) > 0 {
		cl.keep()
	}
	wired := ld.settle()
	return Plan{Lab: wired.Lab, Changes: merged(was, wired.Lab, p.Changes, wired.Changes, opt.All),
		Mistakes: append(p.Mistakes, wired.Mistakes...), Lines: joinLines(p.Lines, wired.Lines)}
}

func joinLines(a, b map[int][]lab.Key) map[int][]lab.Key {
	for line, keys := range b {
		a[line] = append(a[line], keys...)
	}
	return a
}

// merged is what leads from the lab as it was to the one with its cables. Those
// that were taken out and put back are no change.
func merged(was, is *lab.Lab, things, cables []lab.Change, all bool) []lab.Change {
	changes := slices.Clone(things)
	for _, c := range cables {
		if change, ok := was.Put(c.After); ok {
			changes = append(changes, change)
		}
	}
	if all {
		for c := range lab.Each[lab.Cable](was) {
			if is.Get(c.Key()) == nil {
				changes = append(changes, lab.Change{Before: c})
			}
		}
	}
	return changes
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
		cl.wrong(t, t.wire.a.col, t.wire.b.end, "%d ports are to go to %d; write as many on both sides", len(a), len(b))
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
	ends, err := cl.refs.ends(cl.base, e)
	if err != nil && cl.opt.All {
		if id, found := refsOf(cl.was).find(cl.was, e.device); found == nil {
			if cl.base.Get(lab.Key{Kind: lab.KindDevice, ID: id}) == nil {
				return []*lab.End{nil}, true
			}
			ends, err = endsOf(cl.base, id, e)
		}
	}
	if err != nil {
		cl.wrong(t, e.col, e.end, "%s", err)
		return nil, false
	}
	return ends, true
}

// between finds the cable that goes between the same two ports, or from one
// of them to nowhere yet.
func (cl *cablesLoader) between(c lab.Cable) (lab.Cable, bool) {
	for _, e := range c.Ends() {
		for _, o := range cl.was.CablesOf(e.Device) {
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
	cl.put(t, r)
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
		for c := range lab.Each[lab.Cable](cl.was) {
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
		if o, ok := cl.was.CableAt(e); ok && !cl.used[o.ID] && means(o) {
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

// keep puts back the cables that a text with mistakes does not speak of: the
// line that could not be read may have.
func (cl *cablesLoader) keep() {
	taken := map[lab.End]bool{}
	for _, r := range cl.after {
		for _, e := range r.(lab.Cable).Ends() {
			taken[e] = true
		}
	}
	for c := range lab.Each[lab.Cable](cl.was) {
		free := !cl.used[c.ID]
		for _, e := range c.Ends() {
			free = free && !taken[e] && cl.base.Get(lab.Key{Kind: lab.KindDevice, ID: e.Device}) != nil
		}
		if free {
			cl.order = append(cl.order, c.Key())
			cl.after[c.Key()] = c
		}
	}
}
