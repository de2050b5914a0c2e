package cabling

import (
	"cmp"
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// Pattern is how cables are labelled where the lab's settings do not say.
const Pattern = "{panel}.{port:02}"

var placeholder = regexp.MustCompile(`\{([^{}]*)\}`)

// Label is what is printed for one cable.
type Label struct {
	Cable lab.ID `json:"cable_id" required:"true"`
	Text  string `json:"text" required:"true"`
	A     string `json:"a" required:"true" description:"Where its ends go, for the small print"`
	B     string `json:"b" required:"true"`
}

// Labels gives each cable what the pattern says: {panel} and {port} are of the
// end that is in a panel or plate, or else of the first end; {a} and {b} are
// both ends, {kind}, {colour} and {length} the cable's own. {port:02} writes
// two figures at least. The piece behind a panel's port is told from the one in
// front. What comes out twice gets a number, so that no label is there twice, nor
// that of a cable that is not in the list; channel gives all pieces of a trail
// one label, that of its first piece in the list.
func (w *Wiring) Labels(cables []lab.Cable, pattern string, channel bool) ([]Label, error) {
	pattern = cmp.Or(strings.TrimSpace(pattern), Pattern)
	asked := map[lab.ID]bool{}
	for _, c := range cables {
		asked[c.ID] = true
	}
	taken := taken{}
	for c := range lab.Each[lab.Cable](w.lab) {
		if c.Label != "" && !asked[c.ID] {
			taken[lab.FoldName(c.Label)] = 1
		}
	}
	labels := make([]Label, 0, len(cables))
	whole := map[lab.ID]string{} // the labels of channels, by the first cable of each
	channels := w.Channels()
	for _, c := range cables {
		first := channels.Of(c)
		if said, ok := whole[first]; ok && channel {
			labels = append(labels, w.LabelOf(c, said))
			continue
		}
		text, err := w.labelText(c, pattern, channel)
		if err != nil {
			return nil, err
		}
		whole[first] = taken.unique(text)
		labels = append(labels, w.LabelOf(c, whole[first]))
	}
	return labels, nil
}

// Channels tells which cables are pieces of one trail. All pieces are noted at
// once, so that a long trail is not followed from each.
type Channels struct {
	w      *Wiring
	firsts map[lab.ID]lab.ID
}

// Channels are those of the wiring, worked out as they are asked for.
func (w *Wiring) Channels() Channels { return Channels{w, map[lab.ID]lab.ID{}} }

// Of is the first cable of the trail that a cable is part of.
func (ch Channels) Of(c lab.Cable) lab.ID {
	if first, ok := ch.firsts[c.ID]; ok {
		return first
	}
	ch.firsts[c.ID] = c.ID
	for _, e := range c.Ends() {
		if t, ok := ch.w.TrailFrom(e); ok && len(t.Pieces) > 0 {
			for _, piece := range t.Pieces {
				ch.firsts[piece.Cable] = t.Pieces[0].Cable
			}
			break
		}
	}
	return ch.firsts[c.ID]
}

// Labelled are the labels of the cables named, or, where none is, of all that
// are plugged in and have no label yet, or of all of these; by the pattern or
// else the lab's own.
func (w *Wiring) Labelled(ids []lab.ID, all bool, pattern string, channel bool) ([]Label, error) {
	var cables []lab.Cable
	for _, id := range ids {
		if c, ok := lab.Find[lab.Cable](w.lab, id); ok {
			cables = append(cables, c)
		}
	}
	if len(ids) == 0 {
		for c := range w.Plugged {
			if all || c.Label == "" {
				cables = append(cables, *c.Cable)
			}
		}
	}
	return w.Labels(cables, cmp.Or(pattern, w.lab.Settings().Pattern), channel)
}

// PutLabels is what gives cables their labels.
func PutLabels(l *lab.Lab, labels []Label) []lab.Change {
	var changes []lab.Change
	for _, label := range labels {
		c, _ := lab.Find[lab.Cable](l, label.Cable)
		c.Label = label.Text
		if change, ok := l.Put(c); ok {
			changes = append(changes, change)
		}
	}
	return changes
}

// LabelOf is what is printed for a cable with a label that is settled.
func (w *Wiring) LabelOf(c lab.Cable, text string) Label {
	l := Label{Cable: c.ID, Text: text, A: "open", B: "open"}
	if c.A != nil {
		l.A = w.lab.EndWords(*c.A)
	}
	if c.B != nil {
		l.B = w.lab.EndWords(*c.B)
	}
	return l
}

// taken holds the labels that are there, each with the last number that was
// tried for it.
type taken map[string]int

// unique is the text, or the text with the next number that is free, which is
// taken then.
func (t taken) unique(text string) string {
	name := lab.FoldName(text)
	if t[name] == 0 {
		t[name] = 1
		return text
	}
	for n := t[name] + 1; ; n++ {
		numbered := text + "-" + strconv.Itoa(n)
		if folded := lab.FoldName(numbered); t[folded] == 0 {
			t[name], t[folded] = n, 1
			return numbered
		}
	}
}

func (w *Wiring) labelText(c lab.Cable, pattern string, channel bool) (string, error) {
	main := c.A
	for _, e := range []*lab.End{c.B, c.A} {
		if e == nil {
			continue
		}
		if d, ok := lab.Find[lab.Device](w.lab, e.Device); main == nil || ok && w.lab.PortsOf(d).Joined() {
			main = e
		}
	}
	var wrong error
	text := placeholder.ReplaceAllStringFunc(pattern, func(found string) string {
		name, width, _ := strings.Cut(strings.Trim(found, "{}"), ":")
		value, err := w.placed(c, main, name)
		if err == nil && width != "" {
			value, err = padded(value, width)
		}
		if err != nil && wrong == nil {
			wrong = err
		}
		if name == "port" && main != nil && main.Rear && !channel {
			value += " rear"
		}
		return value
	})
	if text = strings.TrimSpace(text); text == "" && wrong == nil {
		text = "cable"
	}
	if r := []rune(text); len(r) > 50 {
		text = string(r[:50])
	}
	return text, wrong
}

func (w *Wiring) placed(c lab.Cable, main *lab.End, name string) (string, error) {
	end := func(e *lab.End) string {
		if e == nil {
			return "open"
		}
		return w.lab.EndWords(*e)
	}
	switch name {
	case "panel", "device":
		if main == nil {
			return "open", nil
		}
		d, _ := lab.Find[lab.Device](w.lab, main.Device)
		return d.Title(), nil
	case "port":
		if main == nil {
			return "?", nil
		}
		return lab.PortWords(main.Port), nil
	case "a":
		return end(c.A), nil
	case "b":
		return end(c.B), nil
	case "kind":
		return string(c.Kind), nil
	case "colour":
		return string(c.Colour), nil
	case "length":
		if c.LengthM == nil {
			return "", nil
		}
		return strconv.FormatFloat(*c.LengthM, 'f', -1, 64) + "m", nil
	}
	return "", fmt.Errorf("{%s} is not known in a label; there are {panel}, {port}, {port:02}, {a}, {b}, {kind}, {colour} and {length}", name)
}

// padded writes the number at a port's end with so many figures.
func padded(value, width string) (string, error) {
	n, err := strconv.Atoi(width)
	if err != nil || n < 1 || n > 6 || width[0] != '0' {
		return "", fmt.Errorf("after the colon goes how many figures a number has, such as {port:02}, not %q", width)
	}
	at := len(value)
	for at > 0 && value[at-1] >= '0' && value[at-1] <= '9' {
		at--
	}
	if at == len(value) {
		return value, nil
	}
	return value[:at] + strings.Repeat("0", max(0, n-(len(value)-at))) + value[at:], nil
}
