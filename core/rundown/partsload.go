package rundown

import (
	"context"
	"fmt"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// partsLoader finds each part of the text among those of the lab.
type partsLoader struct {
	*loader
	byName map[string][]lab.Part    // by sort and folded name
	inside map[lab.ID][]lab.Part    // by device; "" for the spares bin, "ordered" for those on order
	taken  map[lab.ID]map[seat]bool // seats of a device that lines speak of
	sat    map[lab.ID]map[seat]bool // and those that parts of the lab are in
	full   map[row]int              // up to which seat none is free
	alike  map[*thing][]lab.Part    // of a line about parts in any seat, those of the lab that are just so
}

// seat is one seat of a device.
type seat struct {
	kind lab.PartKind
	n    int
}

// row is a device's seats of one sort.
type row struct {
	device lab.ID
	kind   lab.PartKind
}

// ordered stands for the device of what is on order.
const ordered lab.ID = "ordered"

func holderOf(p lab.Part) lab.ID {
	if p.Ordered {
		return ordered
	}
	return p.Device
}

// parts puts down what the text says of parts: first those with a name or a
// seat, then those that may be in any.
func (ld *loader) parts(all []*thing) {
	if len(all) == 0 {
		return
	}
	pl := &partsLoader{loader: ld, byName: map[string][]lab.Part{}, inside: map[lab.ID][]lab.Part{}, taken: map[lab.ID]map[seat]bool{},
		sat: map[lab.ID]map[seat]bool{}, full: map[row]int{}, alike: map[*thing][]lab.Part{}}
	for p := range lab.Each[lab.Part](ld.base) {
		if p.Name != "" {
			pl.byName[nameOf(p.Kind, p.Name)] = append(pl.byName[nameOf(p.Kind, p.Name)], p)
		}
		pl.inside[holderOf(p)] = append(pl.inside[holderOf(p)], p)
	}
	for _, loose := range []bool{false, true} {
		for _, t := range all {
			if (t.name == "" && t.seats.from == 0) == loose && !t.broken {
				pl.line(t)
			}
		}
	}
}

func nameOf(k lab.PartKind, name string) string { return string(k) + "/" + lab.FoldName(name) }

// line puts down the parts that a line speaks of.
func (pl *partsLoader) line(t *thing) {
	var device lab.ID
	switch {
	case t.seats.nowhere:
	case t.seats.device != "":
		id, err := pl.loader.find(lab.KindDevice, t.seats.device)
		if err != nil {
			pl.wrong(t, t.col, t.end, err)
			return
		}
		device = id
	case t.up != nil:
		id, ok := pl.ids[t.up]
		if !ok {
			return // its device has a mistake
		}
		device = id
	default:
		pl.wrong(t, t.col, t.end, fmt.Errorf(`which device is it in? Write its name in quotes first, such as "anvil" %s 3`, t.part.Seat()))
		return
	}
	if t.seats.from > 0 {
		if t.seats.to > 512 {
			pl.wrong(t, t.col, t.end, fmt.Errorf("%ss are counted from 1 to 512", t.part.Seat()))
			return
		}
		for seat := t.seats.from; seat <= t.seats.to; seat++ {
			pl.one(t, device, seat)
		}
		return
	}
	for range t.seats.count {
		pl.one(t, device, 0)
	}
}

func (pl *partsLoader) one(t *thing, device lab.ID, at int) {
	holder := device
	if t.seats.ordered {
		holder = ordered
	}
	p, known := pl.find(t, holder, at)
	if !known {
		p = lab.Blank(lab.KindPart, pl.opt.NewID()).(lab.Part)
		p.Kind = t.part
	}
	if t.name != "" || pl.opt.Forget && !t.seats.phrase {
		p.Name = t.name
	}
	p.Device, p.Ordered = device, t.seats.ordered
	switch {
	case !t.seats.phrase:
		p.Seat = at
	case !known:
		p.Seat = pl.freeSeat(device, t.part)
	}
	if t.seats.phrase {
		forget := pl.opt.Forget
		pl.opt.Forget = false // a phrase says a part's sort and size, no more
		p = pl.apply(t, p).(lab.Part)
		pl.opt.Forget = forget
	} else {
		p = pl.apply(t, p).(lab.Part)
	}
	if p.Seat > 0 {
		if pl.taken[device] == nil {
			pl.taken[device] = map[seat]bool{}
		}
		pl.taken[device][seat{p.Kind, p.Seat}] = true
	}
	pl.note(t, p)
	pl.seated[t] = append(pl.seated[t], p.Key())
}

// find is the part of the lab that a line speaks of: the one of that name, the
// one in that seat, or among the loose ones the first that says the same.
func (pl *partsLoader) find(t *thing, holder lab.ID, seat int) (lab.Part, bool) {
	if t.name != "" {
		named := slices.DeleteFunc(slices.Clone(pl.byName[nameOf(t.part, t.name)]), func(p lab.Part) bool { return pl.used[p.ID] })
		for _, there := range []func(lab.Part) bool{ // of several with one name the nearest
			func(p lab.Part) bool { return holderOf(p) == holder && p.Seat == seat && pl.agrees(t, p) },
			func(p lab.Part) bool { return holderOf(p) == holder && p.Seat == seat },
			func(p lab.Part) bool { return holderOf(p) == holder },
			func(lab.Part) bool { return true },
		} {
			if i := slices.IndexFunc(named, there); i >= 0 {
				return named[i], true
			}
		}
	}
	var candidates []lab.Part
	for _, p := range pl.inside[holder] {
		if p.Kind != t.part || pl.used[p.ID] || (t.name == "") != (p.Name == "") && !t.seats.phrase &&
			(seat == 0 || p.Name != "" && !pl.opt.All) {
			continue
		}
		if t.seats.phrase || p.Seat == seat {
			candidates = append(candidates, p)
		}
	}
	if seat > 0 {
		if len(candidates) > 0 {
			return candidates[0], true
		}
		return lab.Part{}, false
	}
	if p, ok := pl.justSo(t, candidates); ok {
		return p, true
	}
	if pl.opt.All && !t.seats.phrase && len(candidates) > 0 {
		return candidates[0], true
	}
	return lab.Part{}, false
}

// justSo is the next part that is just as a line says, which is worked out once
// for all the parts that the line speaks of.
func (pl *partsLoader) justSo(t *thing, candidates []lab.Part) (lab.Part, bool) {
	list, known := pl.alike[t]
	if !known {
		for _, p := range candidates {
			if pl.agrees(t, p) {
				list = append(list, p)
			}
		}
	}
	for len(list) > 0 && pl.used[list[0].ID] {
		list = list[1:]
	}
	if pl.alike[t] = list; len(list) == 0 {
		return lab.Part{}, false
	}
	return list[0], true
}

// agrees reports whether a part has what the line says of it. A line by itself
// about the spares bin or an order is about a further part.
func (pl *partsLoader) agrees(t *thing, p lab.Part) bool {
	return (pl.opt.All || !t.seats.nowhere) && lab.Same(pl.quietly(t, p), p)
}

// quietly is apply without telling what is wrong, and without forgetting.
func (pl *partsLoader) quietly(t *thing, p lab.Part) lab.Part {
	b := open(p)
	for _, s := range t.said {
		if v, err := pl.setting(p).out(s.value); err == nil {
			if s.fact.many {
				s.fact.set(b, nil)
			}
			s.fact.set(b, v)
		}
	}
	return closed(b).(lab.Part)
}

// freeSeat is the first seat of a device that nothing sits in, 0 where its
// spec says there is none left.
func (pl *partsLoader) freeSeat(device lab.ID, k lab.PartKind) int {
	if k == lab.Fan || k == lab.Battery {
		return 0
	}
	sat, known := pl.sat[device]
	if !known { // what moves by a seat or a name has moved by now
		sat = map[seat]bool{}
		for _, p := range pl.inside[device] {
			if now := pl.lastOf(p); now.Device == device {
				sat[seat{now.Kind, now.Seat}] = true
			}
		}
		pl.sat[device] = sat
	}
	d, ok := pl.after[lab.Key{Kind: lab.KindDevice, ID: device}].(lab.Device)
	if !ok {
		d, _ = lab.Find[lab.Device](pl.base, device)
	}
	spec := d.Spec
	if s, ok := pl.recordOf(lab.Key{Kind: lab.KindSheet, ID: d.Sheet}).(lab.SpecSheet); ok {
		spec = spec.Over(s.Spec)
	}
	most := 512
	if n := spec.Seats(k); n != nil {
		most = *n
	}
	in := row{device, k}
	for n := pl.full[in] + 1; n <= most; n++ {
		if at := (seat{k, n}); !sat[at] && !pl.taken[device][at] {
			return n
		}
		pl.full[in] = n
	}
	return 0
}

func (pl *partsLoader) recordOf(k lab.Key) lab.Record {
	if r, ok := pl.after[k]; ok {
		return r
	}
	return pl.base.Get(k)
}

// lastOf is a part as the text has left it so far.
func (pl *partsLoader) lastOf(p lab.Part) lab.Part {
	if now, ok := pl.after[p.Key()].(lab.Part); ok {
		return now
	}
	return p
}

// ReadSheet reads the facts of a spec sheet as one types them: "server, 2U
// high, 447mm wide". The error is a *Mistake.
func ReadSheet(typed string) (lab.SpecSheet, error) {
	p := Load(lab.New(), Parse("sheet \"it\": "+typed), Options{NewID: func() lab.ID { return "it" }})
	if len(p.Mistakes) > 0 {
		m := p.Mistakes[0]
		m.Column, m.EndColumn = max(1, m.Column-len(`sheet "it": `)), max(2, m.EndColumn-len(`sheet "it": `))
		return lab.SpecSheet{}, &m
	}
	s, _ := lab.Find[lab.SpecSheet](p.Lab, "it")
	return s, nil
}

// PutParts works out what makes the parts that are typed sit in a device, as
// in a phrase of its line: "4x 8TB hdd, 2x 8-core", or "bay 3 drive: 8TB". The
// error is a *Mistake, or that of the context.
func PutParts(ctx context.Context, l *lab.Lab, d lab.Device, typed string, newID func() lab.ID) ([]lab.Change, error) {
	if len(typed) > maxMerged {
		return nil, tooLong(1, len(typed))
	}
	var lexer text.Lexer
	line, slip := lexer.Line(1, typed)
	if slip != nil {
		return nil, slip
	}
	t := &thing{kind: lab.KindDevice, device: d.Kind, line: 1, col: 1, end: line.End}
	if len(line.Tokens) == 0 {
		return nil, &text.Mistake{Line: 1, Column: 1, EndColumn: 2, Say: "say what is in it, such as 4x 8TB hdd, 2x 8-core or 6x 16GB ram"}
	}
	if s, n, err := readSeats(line.Tokens); n > 0 && err == nil && s.device == "" {
		part := &thing{kind: lab.KindPart, seats: s, line: 1, col: 1, end: line.End, up: t}
		n, mistake := partHead(part, line.Tokens)
		if mistake == nil {
			rest, _ := part.readName(line.Tokens[n:])
			if mistakes := part.facts(rest); len(mistakes) > 0 {
				mistake = &mistakes[0]
			}
		}
		if mistake != nil {
			return nil, mistake
		}
		part.comment(line.Comment)
		t.within = append(t.within, part)
	} else {
		for phrase := range text.Cut(line.Tokens) {
			more, ok := t.parts(phrase)
			if !ok {
				return nil, t.at(phrase, fmt.Errorf("“%s” is not a part; write one such as 4x 8TB hdd, 2x 8-core or 6x 16GB ram",
					text.Short(text.Joined(phrase))))
			}
			t.within = append(t.within, more.parts...)
			t.said = append(t.said, more.said...)
		}
	}
	ld := newLoader(ctx, l, Options{NewID: newID}, 1)
	for _, w := range t.within {
		w.up = t
	}
	p, err := ld.unlessStopped(func() Plan {
		ld.put(t, ld.apply(t, d))
		ld.parts(t.within)
		return ld.settle()
	})
	if err != nil {
		return nil, err
	}
	if len(p.Mistakes) > 0 {
		return nil, &p.Mistakes[0]
	}
	return p.Changes, nil
}
