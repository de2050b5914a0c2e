package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// cablesLoader finds the cables of a text among those of the lab, by the ports
// that the devices have with the text.
type cablesLoader struct {
	*loader
	text  *lab.Lab    // the lab with the devices that the text speaks of
	bin   []lab.Cable // those plugged in nowhere, not spoken of yet
	read  []*reading
	taken map[lab.ID]map[lab.Plug]bool // by device, what a cable of the text is in
	new   []waiting
}

// waiting is a cable of the text whose record is not found yet.
type waiting struct {
	t *thing
	c lab.Cable
}

// reading is a cable of the text while its ends are worked out.
type reading struct {
	t    *thing
	ends [2]endRead
}

// cables puts down what the text says of cables: where each end is, first
// those that say it, then those that leave the port to be found; then which
// cables of the lab they are.
func (ld *loader) cables(lines []*thing) {
	if len(lines) == 0 {
		return
	}
	cl := &cablesLoader{loader: ld, text: ld.spokenOf(), taken: map[lab.ID]map[lab.Plug]bool{}}
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
	cl.claim()
	cl.findPorts()
	cl.chooseSides()
	for _, r := range cl.read {
		cl.plugged(r)
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
	for d := range lab.Things(now) {
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

// line works out the ends of the cables of one line.
func (cl *cablesLoader) line(t *thing) {
	if t.wire.spare {
		for range t.wire.count {
			cl.read = append(cl.read, &reading{t: t})
		}
		return
	}
	var a []endRead
	for _, e := range t.wire.a {
		ends, ok := cl.ends(t, t.wire, e)
		if !ok {
			return
		}
		a = append(a, ends...)
	}
	b, ok := cl.right(t)
	if !ok {
		return
	}
	if len(a) == 1 && a[0].find { // each into a port of its own: strip - fibre box, router
		for len(a) < len(b) {
			next := *a[0].at
			a = append(a, endRead{at: &next, find: true, free: a[0].free})
		}
	}
	if len(a) != len(b) && !isOpen(a) && !isOpen(b) {
		cl.wrong(t, t.col, t.end, fmt.Errorf("%s cannot go to %d; write the same number on both sides", portsIn(len(a)), len(b)))
		return
	}
	for i := range max(len(a), len(b)) {
		r := &reading{t, [2]endRead{a[min(i, len(a)-1)], b[min(i, len(b)-1)]}}
		if !r.ends[0].gone || !r.ends[1].gone {
			cl.read = append(cl.read, r)
		}
	}
}

// right reads the ends behind the join, and then what the line says of the
// cable. Where the other side has several ends, so may this: core/1-3 - heron,
// otter, plover.
func (cl *cablesLoader) right(t *thing) ([]endRead, bool) {
	t.said = t.said[:t.wire.noted]
	var ends []endRead
	pieces, breath := t.wire.right, false
	for i, piece := range pieces {
		if i > 0 && !cl.isEnd(piece) {
			break
		}
		e, used, err := cl.endIn(piece)
		if err != nil {
			cl.wrong(t, piece[0].Col, piece[len(piece)-1].End, err)
			return nil, false
		}
		more, ok := cl.ends(t, t.wire, e)
		if !ok {
			return nil, false
		}
		ends = append(ends, more...)
		pieces = pieces[1:]
		if used < len(piece) {
			pieces, breath = append([][]text.Token{piece[used:]}, pieces...), true
			break
		}
	}
	for i, piece := range pieces {
		if m := t.breath(piece, breath && i == 0); m != nil {
			m.File = t.file
			cl.mistakes = append(cl.mistakes, *m)
			return nil, false
		}
	}
	return ends, true
}

// isEnd reports whether a phrase is an end and no more.
func (cl *cablesLoader) isEnd(piece []text.Token) bool {
	e, n, err := cl.endIn(piece)
	return err == nil && n == len(piece) && cl.knows(e.device)
}

// endIn reads the end that words begin with and tells how many it took: with
// its port, or as many words as are a device's name.
func (cl *cablesLoader) endIn(tokens []text.Token) (endSaid, int, error) {
	e, n, err := readEnd(tokens)
	if err != nil || n > 0 {
		return e, n, err
	}
	for n := len(tokens); n > 0; n-- {
		if slices.ContainsFunc(tokens[:n], func(t text.Token) bool { return t.Kind == text.Unknown }) {
			continue
		}
		e := bareEnd(tokens[:n])
		if cl.knows(e.device) {
			return e, n, nil
		}
		if _, measured := text.ReadQuantity(tokens[n-1:]); measured > 1 {
			continue // it is how long the cable is
		}
		if _, _, ok := portBehind(cl.text, strings.Fields(e.device)); ok {
			return e, n, nil
		}
	}
	n = 0 // the words before what the line says of the cable
	for n < len(tokens) && tokens[n].Kind != text.Unknown {
		if _, fact := nextFact(ofCable, tokens[n:]); fact > 0 && n > 0 {
			break
		}
		n++
	}
	if n == 0 {
		return endSaid{}, 0, errNoEnd
	}
	return bareEnd(tokens[:n]), n, nil
}

// knows reports whether a device goes by a name, or one that could not be read.
func (cl *cablesLoader) knows(name string) bool {
	if cl.lost[lab.FoldName(name)] {
		return true
	}
	if _, err := refsOf(cl.text).find(cl.text, name); err == nil || isSeveral(err) {
		return true
	}
	if !cl.opt.All {
		return false
	}
	_, err := refsOf(cl.base).find(cl.base, name)
	return err == nil
}

func isSeveral(err error) bool {
	var several *severalError
	return errors.As(err, &several)
}

// endRead is an end of a cable of the text.
type endRead struct {
	at   *lab.End // nil for an open one
	gone bool     // it is open because its device went with the text
	find bool     // which port is to be found
	ask  bool     // which port is said to be unknown
	free bool     // neither front nor rear was said
}

func (e endRead) open() bool { return e.at == nil }

func portsIn(n int) string {
	if n == 1 {
		return "1 port"
	}
	return fmt.Sprintf("%d ports", n)
}

func isOpen(ends []endRead) bool { return len(ends) == 1 && ends[0].open() }

// ends are those that an end as written stands for: one, or a range. A text of
// the whole lab may still speak of a device by a name it had, which is then that
// device, or of one that it leaves out, whose cables are then unplugged.
func (cl *cablesLoader) ends(t *thing, s *strand, e endSaid) ([]endRead, bool) {
	if e.open {
		return []endRead{{}}, true
	}
	free := !e.said && !s.behind
	e.rear = e.rear || !e.said && s.behind
	id, err := refsOf(cl.text).find(cl.text, e.device)
	if err != nil && cl.opt.All {
		if was, found := refsOf(cl.base).find(cl.base, e.device); found == nil {
			if !cl.used[was] {
				return []endRead{{gone: true}}, true
			}
			id, err = was, nil
		}
	}
	if words := strings.Fields(e.device); err != nil && e.port == "" && len(words) > 0 {
		last := len(words) - 1
		if at, port, ok := portBehind(cl.text, words); ok {
			id, e.port, err = at, port, nil
		} else if _, is := refsOf(cl.text).find(cl.text, strings.Join(words[:last], " ")); is == nil && rangeWord.MatchString(words[last]) {
			err = fmt.Errorf("%s has no port %s", text.Short(strings.Join(words[:last], " ")), words[last])
		} else if _, place := cl.text.Named(lab.KindPlace, e.device); place {
			err = fmt.Errorf("“%s” is a place; say which device there it goes to, or ? while nobody knows", text.Short(e.device))
		}
	}
	switch {
	case err != nil && cl.lost[lab.FoldName(e.device)]:
		return nil, false // its own line has a mistake
	case err != nil:
		cl.wrong(t, e.col, e.end, err)
		return nil, false
	case e.port == "", e.port == nobodyKnows:
		end := &lab.End{Device: id}
		d, _ := lab.Find[lab.Device](cl.text, id)
		end.Rear = e.rear && (e.said || d.Kind.Traits().Joined)
		return []endRead{{at: end, find: e.port == "", ask: e.port == nobodyKnows, free: free}}, true
	}
	list, err := endsOf(cl.text, id, e)
	if err != nil {
		cl.wrong(t, e.col, e.end, err)
		return nil, false
	}
	ends := make([]endRead, len(list))
	for i, at := range list {
		ends[i] = endRead{at: at, free: free}
	}
	return ends, true
}

// claim notes the ports that the lines name themselves.
func (cl *cablesLoader) claim() {
	for _, r := range cl.read {
		for _, e := range r.ends {
			if e.at != nil && e.at.Port != "" {
				cl.claimEnd(*e.at)
			}
		}
	}
}

func (cl *cablesLoader) claimEnd(e lab.End) {
	if cl.taken[e.Device] == nil {
		cl.taken[e.Device] = map[lab.Plug]bool{}
	}
	cl.taken[e.Device][lab.Plug{Port: e.Port, Rear: e.Rear}] = true
}

// has reports whether a cable of the text is in an end.
func (cl *cablesLoader) has(e lab.End) bool {
	return cl.taken[e.Device][lab.Plug{Port: e.Port, Rear: e.Rear}]
}

// plugged finds the cable of the lab that goes between those ports, or leaves
// it until the others are found.
func (cl *cablesLoader) plugged(r *reading) {
	if r.t.wire.spare {
		cl.new = append(cl.new, waiting{r.t, lab.Cable{State: lab.CableSpare}})
		return
	}
	c := lab.Cable{State: lab.CableInUse, A: r.ends[0].at, B: r.ends[1].at}
	if was, ok := cl.between(c); ok {
		cl.take(r.t, was, c)
		return
	}
	cl.new = append(cl.new, waiting{r.t, c})
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
	byLabel := map[string][]lab.Cable{}
	if cl.opt.All {
		for c := range lab.Each[lab.Cable](cl.base) {
			if c.Label != "" {
				byLabel[lab.FoldName(c.Label)] = append(byLabel[lab.FoldName(c.Label)], c)
			}
		}
	}
	for _, n := range cl.new {
		said := cl.says(n.t, n.c)
		if was, ok := cl.atOneEnd(n.c, func(o lab.Cable) bool { return o.Label == said.Label }); ok {
			cl.moved(n, was)
			continue
		}
		if was, ok := cl.labelled(byLabel[lab.FoldName(said.Label)], said); ok {
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

// labelled is the cable among those of one label that a line means: the one that
// is just so, or else the first that no line has.
func (cl *cablesLoader) labelled(list []lab.Cable, said lab.Cable) (lab.Cable, bool) {
	list = slices.DeleteFunc(slices.Clone(list), func(c lab.Cable) bool { return cl.used[c.ID] })
	for _, c := range list {
		if said.ID = c.ID; lab.Same(c, said) {
			return c, true
		}
	}
	if len(list) == 0 {
		return lab.Cable{}, false
	}
	return list[0], true
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
		if c, ok := cl.after[key].(lab.Cable); ok && !c.Kind.Cordless() {
			for _, e := range c.Ends() {
				taken[e] = true
			}
		}
	}
	for c := range lab.Each[lab.Cable](cl.base) {
		if !cl.used[c.ID] && !c.Kind.Cordless() && slices.ContainsFunc(c.Ends(), func(e lab.End) bool { return taken[e] }) {
			cl.displaced = append(cl.displaced, c.Key())
		}
	}
}
