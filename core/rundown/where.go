package rundown

import (
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
	holder   string // the place or device after in or on
	on       bool   // "on" was said: only a device will do
}

// own reports whether the spot stands for itself, in no section.
func (w *where) own() bool { return w.kind == "" || w.rack != "" || w.holder != "" }

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
			return nil, 0, fmt.Errorf(`write the name in quotes, such as %s "Loft"`, first.Text)
		}
		return &where{kind: lab.InPlace, holder: tokens[1].Text, on: first.Is("on")}, 2, nil
	}
	if side, ok := sides[tokens[0].Plain]; ok {
		return &where{kind: side}, 1, nil
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
	if l.Settings().Numbering == lab.FromTop {
		lowest = l.UnitNumber(r, w.from+n-1)
	}
	if lowest < 1 || lowest+n-1 > r.HeightU {
		return 0, 0, fmt.Errorf("%s has the units 1 to %d", r.Name, r.HeightU)
	}
	return lowest, n, nil
}

// spot turns the spoken where into a Spot, in rack where it names none, and
// the number of units it takes there (nil where it says nothing about that).
// devices finds what a thing can stand on.
func (w *where) spot(l *lab.Lab, rack lab.ID, said *int, devices func(string) (lab.ID, bool)) (*lab.Spot, *int, error) {
	if w.kind == "" {
		return nil, said, nil
	}
	if w.holder != "" {
		s, err := holderSpot(l, w, devices)
		return s, said, err
	}
	if w.rack != "" {
		id, ok := l.Named(lab.KindRack, w.rack)
		if !ok {
			return nil, nil, noneCalled(l, lab.KindRack, w.rack)
		}
		rack = id
	}
	r, ok := lab.Find[lab.Rack](l, rack)
	if !ok {
		return nil, nil, errors.New("which rack? Put its name in quotes before the units")
	}
	s := &lab.Spot{Where: w.kind, Rack: rack}
	if w.kind != lab.InUnits {
		return s, said, nil
	}
	lowest, n, err := w.units(l, r, said)
	if err != nil {
		return nil, nil, err
	}
	s.Unit, s.Face, s.Share = lowest, w.face, w.share
	return s, &n, nil
}

func holderSpot(l *lab.Lab, w *where, devices func(string) (lab.ID, bool)) (*lab.Spot, error) {
	if id, ok := l.Named(lab.KindPlace, w.holder); ok && !w.on {
		return &lab.Spot{Where: lab.InPlace, Place: id}, nil
	}
	if id, ok := devices(w.holder); ok {
		return &lab.Spot{Where: lab.OnDevice, Device: id}, nil
	}
	if w.on {
		return nil, noneCalled(l, lab.KindDevice, w.holder)
	}
	return nil, noneCalled(l, lab.KindPlace, w.holder)
}

// noneCalled says that a name is not known, and the closest one that is.
func noneCalled(l *lab.Lab, kind lab.RecordKind, name string) error {
	var names []string
	for r := range l.Records(kind) {
		names = append(names, r.Title())
	}
	if near := text.Nearest(name, names); near != "" {
		return fmt.Errorf("there is no %s called “%s”: did you mean “%s”?", kind.Words(), text.Short(name), near)
	}
	return fmt.Errorf("there is no %s called “%s”", kind.Words(), text.Short(name))
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
		return up.Kind.Standing() + " " + text.Quote(up.Title())
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

// WhereWords says where a device is in a sentence: "Pantry 12-13".
func WhereWords(l *lab.Lab, d lab.Device) string {
	if d.At == nil {
		return "not placed yet"
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
	return "at the " + string(d.At.Where) + " of " + r.Name
}
