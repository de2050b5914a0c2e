package rundown

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// matcher finds the devices of a text among those of the lab. A device may be
// on one that comes further down, so each is settled when it is first asked for.
type matcher struct {
	*loader
	found   map[*thing]lab.Device // of the lab, by name
	left    *unclaimed
	begun   map[*thing]bool
	byTitle map[string][]*thing
	new     map[*thing]lab.ID // given before the thing itself was settled
}

// devices puts down what the text says of each device, having found it in the
// lab, the certain ones first.
func (ld *loader) devices(lines []*thing) {
	lines, more := ld.wholly(lines)
	m := &matcher{loader: ld, found: ld.byTitleAndSpot(lines), begun: make(map[*thing]bool, len(lines)),
		byTitle: make(map[string][]*thing, len(lines)), new: map[*thing]lab.ID{}}
	if !ld.opt.All {
		m.askFirst()
	}
	m.left = ld.unnamedIndex(m.found)
	for _, t := range lines {
		m.byTitle[t.title()] = append(m.byTitle[t.title()], t)
	}
	ld.matching = m
	for _, t := range lines {
		m.settle(t)
	}
	for _, t := range more {
		m.settle(t)
	}
	ld.matching = nil
	ld.portsSaid()
}

// askFirst refuses lines that would make a thing of the lab another one because
// it goes by their name.
func (m *matcher) askFirst() {
	for t, d := range m.found {
		if err := t.isAnother(d); err != nil {
			m.wrong(t, t.col, t.end, err)
			m.lose(t)
			delete(m.found, t)
		}
	}
}

// title is what others call a device of the text, folded.
func (t *thing) title() string {
	return lab.FoldName(lab.Device{Name: t.name, Kind: t.device, Own: t.own}.Title())
}

// settle finds the device that a thing is and puts down what is said of it.
func (m *matcher) settle(t *thing) {
	if t.broken || m.begun[t] {
		return
	}
	m.begun[t] = true
	if t.known != nil {
		m.more(t)
		return
	}
	was, known := m.found[t]
	spot, takes, ok := m.spotOf(t, was)
	if !ok {
		m.leaveOut(t)
		m.lose(t)
		return
	}
	if !known {
		was, known = m.left.take(t, spot, m.opt)
	}
	if !known {
		was = lab.Device{ID: m.idOf(t), State: lab.Running}
	}
	m.device(t, was, spot, takes)
}

// idOf is the id of something new, given already where something stands on it.
func (m *matcher) idOf(t *thing) lab.ID {
	if id, given := m.new[t]; given {
		return id
	}
	return m.opt.NewID()
}

// find finds the device that others call by a name, in the text, or in the lab
// where that speaks of part of it only.
func (m *matcher) find(name string) (lab.ID, error) {
	in, nth, plain := m.byTitle[lab.FoldName(name)], 0, name
	if len(in) == 0 {
		if plain, nth = cutNth(name); nth > 0 {
			in = m.byTitle[lab.FoldName(plain)]
		}
	}
	in = slices.DeleteFunc(slices.Clone(in), func(t *thing) bool { return t.broken })
	in = exactly(in, plain, func(t *thing) string { return t.name })
	switch {
	case len(in) == 0 && m.opt.All:
		return "", noneCalled(m.base, lab.KindDevice, name)
	case len(in) == 0:
		return findNamed(m.base, lab.KindDevice, name)
	case nth > len(in):
		return "", noneCalled(m.base, lab.KindDevice, name)
	case nth == 0 && len(in) > 1:
		return "", severalCalled(len(in), name)
	}
	t := in[max(0, nth-1)]
	m.settle(t)
	if id, settled := m.ids[t]; settled {
		return id, nil
	}
	if t.broken {
		return "", errLeftOut
	}
	if was, known := m.found[t]; known { // it is being settled: a thing on itself
		return was.ID, nil
	}
	m.new[t] = m.idOf(t)
	return m.new[t], nil
}

// lose leaves a thing out, and what stands on it.
func (ld *loader) lose(t *thing) {
	t.broken = true
	ld.lost[lab.FoldName(t.name)] = true
	for _, w := range t.within {
		ld.lose(w)
	}
}

// byTitleAndSpot pairs things and devices of the same name, where there are
// several first those that are where the text says, then those of the same kind.
func (ld *loader) byTitleAndSpot(all []*thing) map[*thing]lab.Device {
	called := map[string][]lab.Device{}
	for d := range lab.Each[lab.Device](ld.base) {
		if d.Name != "" {
			folded := lab.FoldName(d.Name)
			called[folded] = append(called[folded], d)
		}
	}
	found := map[*thing]lab.Device{}
	for _, alike := range []func(*thing, lab.Device) bool{
		func(t *thing, d lab.Device) bool { return d.Kind == t.device && ld.sameSpot(t, d) },
		func(t *thing, d lab.Device) bool { return d.Kind == t.device },
		func(*thing, lab.Device) bool { return true },
	} {
		for _, t := range all {
			if _, done := found[t]; done || t.name == "" || t.broken {
				continue
			}
			folded := lab.FoldName(t.name)
			if i := slices.IndexFunc(called[folded], func(d lab.Device) bool { return alike(t, d) }); i >= 0 {
				found[t] = called[folded][i]
				called[folded] = slices.Delete(slices.Clone(called[folded]), i, i+1)
			}
		}
	}
	return found
}

// sameSpot reports whether the thing's line names just where the device is.
// What a thing stands on may not be found yet; its name will do.
func (ld *loader) sameSpot(t *thing, d lab.Device) bool {
	on, held := lab.Find[lab.Device](ld.base, d.At.Holder())
	switch {
	case t.where != nil && t.where.holder != "" && held:
		return lab.FoldName(on.Name) == lab.FoldName(t.where.holder)
	case t.where != nil:
		s := ld.setting(nil)
		if t.up != nil {
			s.rack = ld.ids[t.up]
		}
		spot, _, err := t.where.spot(s, nil)
		return err == nil && (spot == nil) == (d.At == nil) && hold(spot) == hold(d.At)
	case t.up == nil || d.At == nil:
		return false
	case t.up.kind == lab.KindPlace:
		return d.At.Where == lab.InPlace && d.At.Place == ld.ids[t.up]
	}
	return held && on.Kind == t.up.device && lab.FoldName(on.Name) == lab.FoldName(t.up.name)
}

// unclaimed are the devices that no name was found for, by their hold.
type unclaimed struct {
	inHold map[lab.Spot][]lab.Device
	loose  []lab.Device // those without a name, in any hold
	gone   map[lab.ID]bool
}

// hold is the row of things a spot is in: for units the very units.
func hold(s *lab.Spot) lab.Spot {
	if s == nil {
		return lab.Spot{}
	}
	h := *s
	h.Order = 0
	return h
}

func (ld *loader) unnamedIndex(found map[*thing]lab.Device) *unclaimed {
	u := &unclaimed{inHold: map[lab.Spot][]lab.Device{}, gone: map[lab.ID]bool{}}
	for _, d := range found {
		u.gone[d.ID] = true
	}
	for d := range lab.Each[lab.Device](ld.base) {
		if !u.gone[d.ID] {
			u.inHold[hold(d.At)] = append(u.inHold[hold(d.At)], d)
			if d.Name == "" {
				u.loose = append(u.loose, d)
			}
		}
	}
	for _, list := range u.inHold {
		slices.SortStableFunc(list, func(a, b lab.Device) int {
			if a.At == nil {
				return 0
			}
			return a.At.Order - b.At.Order
		})
	}
	return u
}

// take finds the device a thing without a known name is: the one of its kind
// that is just there. In units that is certain, but for a line by itself that
// gives another name: it means another thing, and finds the units taken.
// Elsewhere both or neither must have a name, and a new name is a renaming
// only where one is left. A thing without a name that is nowhere near may have
// moved, if the text speaks of the whole lab.
func (u *unclaimed) take(t *thing, spot *lab.Spot, opt Options) (lab.Device, bool) {
	fits := func(d lab.Device) bool { return !u.gone[d.ID] && d.Kind == t.device }
	here := slices.DeleteFunc(slices.Clone(u.inHold[hold(spot)]), func(d lab.Device) bool { return !fits(d) })
	units := spot != nil && spot.Where == lab.InUnits
	sameNaming := slices.DeleteFunc(slices.Clone(here), func(d lab.Device) bool { return (d.Name == "") != (t.name == "") })
	pick := func(d lab.Device) (lab.Device, bool) {
		u.gone[d.ID] = true
		return d, true
	}
	switch {
	case t.counts() && len(sameNaming) > 0:
		return pick(sameNaming[0])
	case units && len(here) > 0 && (opt.All || t.name == "" || here[0].Name == ""):
		return pick(here[0])
	case opt.All && t.name == "" && len(sameNaming) > 0:
		return pick(sameNaming[0])
	case opt.All && t.name != "" && len(sameNaming) == 1:
		return pick(sameNaming[0])
	case opt.All && t.name == "":
		if i := slices.IndexFunc(u.loose, fits); i >= 0 && !units {
			return pick(u.loose[i])
		}
	}
	return lab.Device{}, false
}

// counts reports whether a line is about guests nobody lists: there are one such lot on a
// host.
func (t *thing) counts() bool {
	return slices.ContainsFunc(t.said, func(s said) bool { return s.fact.field == "guest_count" })
}

// spotOf works out where a thing of the text is; ok is false where it cannot
// be, which was told. A line by itself about a device that was known says
// nothing of where it is.
func (m *matcher) spotOf(t *thing, was lab.Device) (spot *lab.Spot, takes *int, ok bool) {
	var said *int
	for _, s := range t.said {
		if n, isCount := s.value.(int); isCount && s.fact.field == "takes_u" {
			said = &n
		}
		if mm, isLength := s.value.(float64); isLength && s.fact.field == "height_mm" && said == nil && s.bare {
			said = unitsFor(mm)
		}
	}
	in := m.setting(nil)
	if t.where != nil {
		if t.up != nil {
			in.rack = m.ids[t.up]
			if r, ok := lab.Find[lab.Rack](in.lab, in.rack); !ok || r.HeightU == 0 {
				return nil, nil, false // the rack's own line has a mistake
			}
		}
		if t.where.kind == lab.InUnits && !t.where.single && !t.saysTakes() {
			said = nil // the range says what it takes, "2U" only how high it is
		}
		spot, takes, err := t.where.spot(in, said)
		if err != nil {
			m.wrong(t, t.col, t.end, err)
			return nil, nil, false
		}
		return spot, takes, true
	}
	if t.up == nil {
		if was.ID == "" {
			m.wrong(t, t.col, t.end, errNowhere)
		}
		return was.At, was.TakesU, was.ID != ""
	}
	if t.up.kind == lab.KindDevice {
		m.settle(t.up)
	}
	id, ok := m.ids[t.up]
	if !ok {
		return nil, nil, false // what it stands on has a mistake
	}
	if t.up.kind == lab.KindPlace {
		return &lab.Spot{Where: lab.InPlace, Place: id}, said, true
	}
	return &lab.Spot{Where: lab.OnDevice, Device: id}, said, true
}

func (t *thing) saysTakes() bool {
	return slices.ContainsFunc(t.said, func(s said) bool { return s.fact.field == "takes_u" })
}

// device puts down what a line says of a device that was such until now.
func (ld *loader) device(t *thing, was lab.Device, spot *lab.Spot, takes *int) {
	d := was
	if t.name != "" || ld.opt.Forget {
		d.Name = t.name
	}
	if d.Kind = t.device; d.Kind != lab.Other || t.own != "" {
		d.Own = t.own
	}
	d.At = spot
	d = ld.applyAfter(t, d, ld.givenOf(d.Key()), ld.opt.Forget).(lab.Device)
	if takes != nil || ld.opt.Forget {
		d.TakesU = takes
	}
	if spot != nil && spot != was.At && spot.Where != lab.InUnits {
		spot.Order = ld.turn(was, d, spot)
	}
	ld.put(t, d)
}

// heldRow is a row of things, or of guests on the same device: the text has these in
// another place.
type heldRow struct {
	hold   lab.Spot
	guests bool
}

// turn is whose turn it is in a row. Things of the same order stand in that of
// their ids.
type turn struct {
	order int
	id    lab.ID
}

func (t turn) before(o turn) bool {
	return cmp.Or(cmp.Compare(t.order, o.order), cmp.Compare(t.id, o.id)) < 0
}

// turn is the order of the next thing in a row: the one it has if that still comes
// after the line before, or else the next number.
func (ld *loader) turn(was, is lab.Device, spot *lab.Spot) int {
	in := heldRow{hold(spot), is.IsGuest()}
	last, seen := ld.inHold[in]
	next := turn{last.order + 1, is.ID}
	if !seen && !ld.opt.All {
		next.order = ld.base.LastOrder(spot) + 1
	}
	if was.At.SameHold(spot) {
		if had := (turn{was.At.Order, is.ID}); !seen || !ld.opt.All || last.before(had) {
			next = had
		}
	}
	if !seen || last.before(next) {
		ld.inHold[in] = next
	}
	return next.order
}
