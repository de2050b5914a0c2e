package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// where is a spot as it is spoken. Numbers are those on the rail; names are
// looked up when the text is loaded.
type where struct {
	kind     lab.Where // "" for ?, not placed
	rack     string    // in quotes before the units; "" for the section's
	from, to int
	single   bool // one number was given: the device may say how many it takes
	face     lab.Face
	share    lab.Share
	holder   string         // the place or device after in or on
	on       bool           // "on" was said: only a device will do
	what     lab.DeviceKind // what is said in place of its name: on the shelf
	bottom   bool           // the lowest units
}

// own reports whether the spot stands for itself, in no section.
func (w *where) own() bool { return w.kind == "" || w.rack != "" || w.isHeld() }

// isHeld reports whether the spot is in a place, or on or in a device.
func (w *where) isHeld() bool { return w.holder != "" || w.what != "" }

var unitWord = regexp.MustCompile(`^[uU]?([0-9]{1,4})(?:[-–—][uU]?([0-9]{1,4}))?$`)

var sides = map[string]lab.Where{"left": lab.AtLeft, "right": lab.AtRight, "top": lab.OnTop, "under": lab.Underside}

var faceWords = map[string]lab.Face{"front": lab.Front, "rear": lab.Rear, "back": lab.Rear}

// readWhere reads the spot that tokens begin with and tells how many it took;
// nil where they begin with none.
func readWhere(tokens []text.Token) (*where, int, error) {
	switch first := tokens[0]; {
	case first.Kind == text.Unknown:
		return &where{}, 1, nil
	case first.Kind == text.Quoted && len(tokens) > 1:
		w, n, err := readWhere(tokens[1:])
		if err != nil || w == nil || w.own() {
			return nil, 0, err
		}
		w.rack = first.Text
		return w, n + 1, nil
	case first.Kind != text.Word:
		return nil, 0, nil
	case (first.Is("in") || first.Is("on")) && len(tokens) > 1:
		if tokens[1].Kind != text.Quoted {
			return readHolder(tokens)
		}
		return &where{kind: lab.InPlace, holder: tokens[1].Text, on: first.Is("on")}, 2 + colonAt(tokens[2:]), nil
	}
	if side, ok := sides[tokens[0].Plain]; ok {
		if len(tokens) > 1 && tokens[1].Is("rear") {
			return &where{kind: side}, 2, nil
		}
		return &where{kind: side}, 1, nil
	}
	if len(tokens) > 1 && tokens[0].Is("rear") && (tokens[1].Is("left") || tokens[1].Is("right")) {
		return &where{kind: sides[tokens[1].Plain]}, 2, nil
	}
	if tokens[0].Is("bottom") {
		return &where{kind: lab.InUnits, face: lab.Front, share: lab.Whole, single: true, from: 1, to: 1, bottom: true}, 1, nil
	}
	m := unitWord.FindStringSubmatch(tokens[0].Text)
	if m == nil {
		return nil, 0, nil
	}
	w := &where{kind: lab.InUnits, face: lab.Front, share: lab.Whole, single: m[2] == ""}
	w.from, _ = strconv.Atoi(m[1])
	w.to = w.from
	if !w.single {
		w.to, _ = strconv.Atoi(m[2])
	}
	w.from, w.to = min(w.from, w.to), max(w.from, w.to)
	n := 1
	if n < len(tokens) && faceWords[tokens[n].Plain] != "" && tokens[n].Kind == text.Word {
		w.face = faceWords[tokens[n].Plain]
		n++
	}
	if n+1 < len(tokens) && tokens[n].Kind == text.Word && tokens[n+1].Kind == text.Word {
		if share := lab.Share(text.Plainly(tokens[n : n+2])); slices.Contains(lab.Shares(), share) {
			w.share = share
			n += 2
		}
	}
	return w, n, nil
}

// readHolder reads what a thing is on or in where that is not named in quotes: on
// shelf, in the drawer, or a name of one word before a kind.
func readHolder(tokens []text.Token) (*where, int, error) {
	w := &where{kind: lab.InPlace, on: tokens[0].Is("on")}
	n := 1
	if tokens[n].Is("the") && len(tokens) > n+1 {
		n++
	}
	if k, used := readKind(tokens[n:]); used > 0 && k.Traits().Holds {
		w.what = k
		return w, n + used, nil
	}
	if len(tokens) > n+1 && tokens[n].Kind == text.Word {
		if _, _, used := deviceIn(tokens[n+1:]); used > 0 {
			w.holder = tokens[n].Text
			return w, n + 1, nil
		}
	}
	if end := hostEnd(tokens); end > n { // on anvil: vm "choir"
		w.holder = calledIn(tokens[n:end])
		return w, end + 1, nil
	}
	return nil, 0, fmt.Errorf(`write the name in quotes, such as %s "Loft"`, tokens[0].Text)
}

// hostEnd tells where the colon stands behind the name of what a guest runs on, 0 where
// none does: on the pantry box: vm "choir".
func hostEnd(tokens []text.Token) int {
	n := 1
	for n < len(tokens) && n <= mostNameWords+1 && (tokens[n].Kind == text.Word || tokens[n].Kind == text.Quoted) {
		n++
	}
	return n * colonAt(tokens[min(n, len(tokens)):])
}

// colonAt is 1 where tokens begin with a colon that something follows.
func colonAt(tokens []text.Token) int {
	if len(tokens) > 1 && tokens[0].Kind == text.Separator && tokens[0].Text == ":" {
		return 1
	}
	return 0
}

// deviceHead reads where a device is and what it is.
func deviceHead(t *thing, tokens []text.Token) (int, *text.Mistake) {
	if n := t.counted(tokens); n > 0 { // 14 containers, which are not in unit 14
		return n, nil
	}
	w, n, err := readWhere(tokens)
	if err != nil {
		return 0, t.at(tokens, err)
	}
	t.where = w
	if q, used := text.ReadQuantity(tokens[n:]); used > 0 && w != nil && q.Unit == "u" && n+used < len(tokens) { // 19 1U blank
		if high, ok := t.measured(tokens[n:n+used], "height_mm"); ok {
			t.said = append(t.said, high.said...)
			n += used
		}
	}
	if n == len(tokens) {
		return 0, &text.Mistake{Line: t.line, Column: t.end, EndColumn: t.end + 1, Say: "say what is there",
			Expected: "a kind of device, such as server or switch"}
	}
	if used := t.counted(tokens[n:]); used > 0 {
		return n + used, nil
	}
	k, own, used := deviceIn(tokens[n:])
	if used == 0 && w != nil {
		if own, used = t.bareOwnKind(tokens[n:]); used > 0 {
			k = lab.Other
		}
	}
	if used == 0 {
		if err := noJoin(tokens[n:]); err != nil && w == nil {
			t.kind = lab.KindCable
			return 0, t.at(tokens, err)
		}
		return 0, t.notAKind(tokens[n:], w != nil)
	}
	t.device, t.own = k, own
	t.said = append(t.said, otherWords(tokens[n:])...)
	return n + used, nil
}

// counted takes guests nobody lists one by one, and tells how many words they are.
func (t *thing) counted(tokens []text.Token) int {
	k, many, used := guestsCounted(tokens)
	if used > 0 {
		t.device = k
		t.said = append(t.said, said{fact: indexes[ofGuest].byField["guest_count"], value: many, col: tokens[0].Col, end: tokens[used-1].End})
	}
	return used
}

func (t *thing) notAKind(tokens []text.Token, placed bool) *text.Mistake {
	m := t.at(tokens[:1], fmt.Errorf("“%s” is not a kind of thing", text.Short(tokens[0].Text)))
	m.Expected = "a kind of device, such as server or switch"
	words := kindNames()
	if !placed {
		m.Expected = "where it is, such as 12-13, left, top or ?, or a kind of device"
		for _, k := range lineKinds() {
			if k.word != "" {
				words = append(words, k.word)
			}
		}
	}
	for n := min(mostKindWords, len(tokens)); n > 0 && m.Nearest == ""; n-- {
		if tokens[n-1].Kind == text.Word && tokens[0].Kind == text.Word {
			m.Nearest = text.Nearest(text.Joined(tokens[:n]), words)
		}
	}
	if m.Nearest != "" {
		m.Say = fmt.Sprintf("%s: did you mean %s?", text.Short(tokens[0].Text), m.Nearest)
	}
	for _, k := range lineKinds() {
		if k.word != "" && k.word == m.Nearest {
			t.kind = k.kind // so that the lines below do not land in the section above
		}
	}
	return m
}

// units works out what the spot takes in a rack: the lowest unit from the
// foot and how many. said is what the line says it takes besides, or nil.
func (w *where) units(l *lab.Lab, r lab.Rack, said *int) (lowest, n int, err error) {
	n = w.to - w.from + 1
	if said != nil {
		if !w.single && *said != n {
			return 0, 0, fmt.Errorf("%d-%d is %dU, and the line says it takes %dU", w.from, w.to, n, *said)
		}
		n = *said
	}
	if n > lab.MaxRackUnits {
		return 0, 0, fmt.Errorf("a device takes 1 to %d units, not %d", lab.MaxRackUnits, n)
	}
	lowest = w.from
	if l.Settings().Numbering == lab.FromTop && !w.bottom {
		lowest = l.UnitNumber(r, w.from+n-1)
	}
	if lowest < 1 || lowest+n-1 > r.HeightU {
		return 0, 0, fmt.Errorf("%s has the units 1 to %d", r.Name, r.HeightU)
	}
	return lowest, n, nil
}

// spot turns the spoken where into a Spot, in the setting's rack where it names
// none, and the number of units it takes there (nil where it says nothing about
// that). said is what the line says it takes besides, or nil.
func (w *where) spot(s setting, said *int) (*lab.Spot, *int, error) {
	if w.kind == "" {
		return nil, said, nil
	}
	if w.isHeld() {
		spot, err := w.held(s)
		return spot, said, err
	}
	rack := s.rack
	if w.rack != "" {
		id, err := s.named(lab.KindRack, w.rack)
		if err != nil {
			return nil, nil, err
		}
		rack = id
	}
	if rack == "" {
		rack = onlyRack(s.lab)
	}
	r, ok := lab.Find[lab.Rack](s.lab, rack)
	if !ok {
		return nil, nil, errors.New("which rack? Put its name in quotes before the units")
	}
	spot := &lab.Spot{Where: w.kind, Rack: rack}
	if w.kind != lab.InUnits {
		return spot, said, nil
	}
	lowest, n, err := w.units(s.lab, r, said)
	if err != nil {
		return nil, nil, err
	}
	spot.Unit, spot.Face, spot.Share = lowest, w.face, w.share
	return spot, &n, nil
}

// onlyRack is the rack of a lab that has but one.
func onlyRack(l *lab.Lab) (only lab.ID) {
	for r := range lab.Each[lab.Rack](l) {
		if only != "" {
			return ""
		}
		only = r.ID
	}
	return only
}

// theOnly is the one device of a kind that things may be on, in the setting's rack
// or, where there is none in it, in the lab.
func (w *where) theOnly(s setting) (lab.ID, error) {
	var here, all []lab.ID
	for d := range lab.Each[lab.Device](s.lab) {
		if d.Kind != w.what {
			continue
		}
		all = append(all, d.ID)
		if r, in := s.lab.RackOf(d); in && r.ID == s.rack {
			here = append(here, d.ID)
		}
	}
	if len(here) > 0 {
		all = here
	}
	switch len(all) {
	case 0:
		return "", fmt.Errorf("there is no %s yet; a line such as 5 %s makes one, or write a name in quotes", w.what.Words(), w.what.Words())
	case 1:
		return all[0], nil
	}
	return "", fmt.Errorf("there is more than one %s; write the name of the one you mean in quotes", w.what.Words())
}

// held is the spot in a place, or on or in a device, of that name.
func (w *where) held(s setting) (*lab.Spot, error) {
	if w.what != "" {
		id, err := s.named(lab.KindDevice, w.what.Words()) // what has no name goes by its kind, in the text too
		var several *severalError
		if err != nil && !errors.As(err, &several) {
			id, err = w.theOnly(s)
		}
		return &lab.Spot{Where: lab.OnDevice, Device: id}, err
	}
	var none error
	if !w.on {
		id, err := s.named(lab.KindPlace, w.holder)
		if err == nil {
			return &lab.Spot{Where: lab.InPlace, Place: id}, nil
		}
		none = err
	}
	id, err := s.named(lab.KindDevice, w.holder)
	var several *severalError
	switch {
	case err == nil:
		return &lab.Spot{Where: lab.OnDevice, Device: id}, nil
	case none == nil, errors.As(err, &several):
		return nil, err
	}
	return nil, none
}

// placed is a spot that is worked out, and how many units are taken there, nil
// where it says nothing about that.
type placed struct {
	spot  *lab.Spot
	takes *int
}

// in is where the device that is spoken of is to be. One number says where it
// is, and not that it takes but one unit.
func (w *where) in(s setting) (any, error) {
	d, _ := s.of.(lab.Device)
	if in, ok := s.lab.RackOf(d); ok && s.rack == "" {
		s.rack = in.ID
	}
	var takes *int
	if w.single {
		takes = d.TakesU
	}
	spot, takes, err := w.spot(s, takes)
	if err != nil {
		return nil, err
	}
	if spot == nil || spot.Where == lab.InUnits {
		return placed{spot, takes}, nil
	}
	spot.Order = s.lab.LastOrder(spot) + 1
	if d.At.SameHold(spot) {
		spot.Order = d.At.Order
	}
	return placed{spot, nil}, nil
}

// spotFact is where a device is, as the head of its line has it.
func spotFact() fact {
	return fact{of: scope(lab.KindDevice), name: "where", field: "at", file: "where", head: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			w, n, err := readWhere(tokens)
			if bare := len(tokens) > 1 && tokens[1].Kind == text.Word && (tokens[0].Is("on") || tokens[0].Is("in")); bare &&
				(err != nil || n < len(tokens)) { // all of it is where: on anvil
				return &where{kind: lab.InPlace, holder: calledIn(tokens[1:]), on: tokens[0].Is("on")}, nil
			}
			if err != nil {
				return nil, err
			}
			if w == nil || n < len(tokens) {
				return nil, errors.New(`write units such as 12-13 or 5 rear, left, right, top, under, in "Loft", on "sbc shelf", or ?`)
			}
			return w, nil
		},
		set: func(b box, v any) {
			d, p := b.(*lab.Device), v.(placed)
			d.At, d.TakesU = p.spot, cmp.Or(p.takes, d.TakesU)
		},
		show: func(l *lab.Lab, b box) string { return WhereText(l, *b.(*lab.Device), "") }}
}

// mayBe is the error of a name that several things go by, each as a line would name it.
func mayBe(name string, say []string) error {
	return fmt.Errorf("“%s” may be %s; write which", text.Short(name), lab.Either(say, 12))
}

// noneCalled says that a name is not known, and the closest one that is.
func noneCalled(l *lab.Lab, kind lab.RecordKind, name string) error {
	return &noneError{func() string {
		var names []string
		for r := range l.Records(kind) {
			names = append(names, r.Title())
		}
		say := fmt.Sprintf("there is no %s called “%s”", kind.Words(), text.Short(name))
		if near := text.Nearest(name, names); near != "" {
			say += fmt.Sprintf(": did you mean “%s”?", near)
		}
		return say
	}}
}

// noneError is the error of a name that nothing goes by. What may have been meant is
// looked for when it is asked for: a name may be one of another kind.
type noneError struct{ say func() string }

// Error says so, and what may have been meant.
func (e *noneError) Error() string { return e.say() }

// severalError is the error of a name that several things go by.
type severalError struct {
	n    int
	name string
}

func severalCalled(n int, name string) error { return &severalError{n, text.Short(name)} }

// Error says how to tell them apart.
func (e *severalError) Error() string {
	return fmt.Sprintf("%d devices are called %s; write %s (1) for the first from the top, and so on", e.n, e.name, e.name)
}

// WhereText says where a device is, as a line typed by itself would: "12-13
// rear", `on "sbc shelf"`, "?". The rack's name goes in front unless it is
// the one given.
func WhereText(l *lab.Lab, d lab.Device, in lab.ID) string {
	if d.At == nil {
		return "?"
	}
	prefix := ""
	if r, ok := lab.Find[lab.Rack](l, d.At.Rack); ok && r.ID != in {
		prefix = text.Quote(r.Name) + " "
	}
	switch d.At.Where {
	case lab.OnDevice:
		up, _ := lab.Find[lab.Device](l, d.At.Device)
		return up.Kind.Standing() + " " + text.Quote(refsOf(l).numbered(up.ID))
	case lab.InPlace:
		p, _ := lab.Find[lab.Place](l, d.At.Place)
		return "in " + text.Quote(p.Name)
	case lab.InUnits:
		r, _ := lab.Find[lab.Rack](l, d.At.Rack)
		text := prefix + l.UnitRange(r, d.At.Unit, d.Units())
		if d.At.Face == lab.Rear {
			text += " rear"
		}
		if d.At.Share != lab.Whole {
			text += " " + string(d.At.Share)
		}
		return text
	}
	return prefix + string(d.At.Where)
}

// nowhere is where a device is that is not placed.
const nowhere = "not placed yet"

// WhereWords says where a device is in a sentence: "Pantry 12-13".
func WhereWords(l *lab.Lab, d lab.Device) string {
	if d.At == nil {
		return nowhere
	}
	r, _ := lab.Find[lab.Rack](l, d.At.Rack)
	switch d.At.Where {
	case lab.OnDevice:
		up, _ := lab.Find[lab.Device](l, d.At.Device)
		return up.Kind.Standing() + " " + up.Title()
	case lab.InPlace:
		p, _ := lab.Find[lab.Place](l, d.At.Place)
		return p.Name
	case lab.InUnits:
		return r.Name + " " + WhereText(l, d, r.ID)
	case lab.OnTop:
		return "on top of " + r.Name
	case lab.Underside:
		return "under " + r.Name
	}
	return string(d.At.Where) + " side of " + r.Name
}
