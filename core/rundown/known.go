package rundown

import (
	"errors"
	"fmt"
	"regexp"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// A line may say more of a device that is known, by its name alone, by what is
// in a unit, or by its kind and name without a where:
//
//	core: 24 ports rj45 1G
//	23: 4.1kg
//	switch "core": for "everything"
//	rename "core" to "heart"
//	core is a router

// known is what such a line says of which device it is about.
type known struct {
	name   string
	in     *where // the units it is in, instead of a name
	kind   bool   // the line gives its kind: where none has the name, it is a new one
	bare   bool   // the kind is all that it is called
	tokens []text.Token
	port   bool // the tokens are about a port of it, or several
	rename string
	become []text.Token // the kind it is now
	// instead is what is wrong with the line where nothing goes by the name.
	instead *text.Mistake

	thing  *thing // of the text
	device lab.Device
}

const mostNameWords = 6

var errNowhere = errors.New(
	"where is it? Begin with units such as 12-13, with left, right, top, under, in or on, or with ? while it is not placed")

// readKnown reads what a line about a known device begins with and tells how
// many tokens that took; nil where it is of another kind.
func readKnown(tokens []text.Token) (*known, int) {
	if t := tokens[0].Text; len(tokens) > 1 && t != "" && t[0] >= '0' && t[0] <= '9' && tokens[1].Kind == text.Word {
		return nil, 0 // 23 switch
	}
	if k := readRename(tokens); k != nil {
		return k, len(tokens)
	}
	if k := readAggregateOn(tokens); k != nil {
		return k, len(tokens)
	}
	if k := readAddressOf(tokens); k != nil {
		return k, len(tokens)
	}
	if slices.ContainsFunc(tokens, func(t text.Token) bool { return slices.Contains(markWords, t.Plain) || t.Kind == text.Quoted }) {
		if k := readPortLine(tokens); k != nil {
			return k, 0
		}
		if k := readPortOf(tokens); k != nil {
			return k, 0
		}
	}
	n := 0
	for n < len(tokens) && n <= mostNameWords && (tokens[n].Kind == text.Word || tokens[n].Kind == text.Quoted) {
		if n > 0 && tokens[n].Is("is") && n+2 < len(tokens) && (tokens[n+1].Is("a") || tokens[n+1].Is("an")) {
			return &known{name: calledIn(tokens[:n]), become: slices.Clone(tokens[n+2:])}, len(tokens)
		}
		n++
	}
	if n == 0 || n == len(tokens) || tokens[n].Text != ":" || tokens[n].Kind != text.Separator {
		return nil, 0
	}
	if w, used, err := readWhere(tokens[:n]); err == nil && used == n && w.kind == lab.InUnits && w.rack == "" {
		return &known{in: w}, n + 1
	}
	if _, _, used := deviceIn(tokens); used > 0 || isPlaced(tokens[:n]) || n > 1 && (tokens[0].Is("on") || tokens[0].Is("in")) {
		return nil, 0
	}
	if q, used := text.ReadQuantity(tokens[n+1:]); used > 0 && q.Unit == "u" {
		return nil, 0 // rather a rack by a word that is not known here
	}
	if slices.ContainsFunc(tokens[:n-1], func(t text.Token) bool { return t.Kind == text.Quoted }) || n > 1 &&
		tokens[n-1].Kind == text.Quoted {
		return nil, 0
	}
	if _, seats, _ := readSeats(tokens[:n]); seats > 0 || partWords[tokens[0].Plain] != "" || joins[tokens[0].Text] {
		return nil, 0
	}
	return &known{name: text.Joined(tokens[:n])}, n + 1
}

// readPortLine reads what sets a port apart, said of the port: PP2/12 takes hdmi.
func readPortLine(tokens []text.Token) *known {
	e, n, err := readEnd(tokens)
	if err != nil || n == 0 || n == len(tokens) || e.open ||
		!(slices.Contains(markWords, tokens[n].Plain) || tokens[n].Kind == text.Quoted || isVLANs(tokens[n])) {
		return nil
	}
	return aboutPort(e, tokens[n:])
}

// readPortOf reads the same without a slash: core port 5 reserved for the dome, or
// where it is of VLANs core 1-12 untagged 20, slab cage 1 tagged 20.
func readPortOf(tokens []text.Token) *known {
	at := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("port") || t.Is("ports") || t.Is("cage") })
	first := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Word && slices.Contains(markWords, t.Plain) })
	if first > 2 && at == first-3 && tokens[first-1].Text == ":" { // router port 2: tagged 20
		tokens, first = slices.Delete(slices.Clone(tokens), first-1, first), first-1
	}
	ofVLANs := first > 0 && slices.Contains(vlanWords, tokens[first].Plain)
	switch {
	case at < 0 && ofVLANs && first > 1 && portKey.MatchString(tokens[first-1].Text):
		at = first - 2 // the port alone
	case at < 1 || at+3 > len(tokens) || at+2 != first || !tokens[at].Is("port") && !ofVLANs:
		return nil
	}
	if tokens[first-1].Kind != text.Word || slices.ContainsFunc(tokens[:first], func(t text.Token) bool { return t.Kind == text.Separator }) {
		return nil
	}
	name := tokens[:first-1]
	if at == first-2 && (tokens[at].Is("port") || tokens[at].Is("ports") || tokens[at].Is("cage")) {
		name = tokens[:at]
	}
	if len(name) == 0 || isPlaced(name) {
		return nil
	}
	e := endSaid{device: calledIn(name), port: tokens[first-1].Text, col: tokens[0].Col, end: tokens[first-1].End}
	if tokens[at].Is("cage") {
		e.port = "cage" + e.port
	}
	return aboutPort(e, tokens[first:])
}

// portKey is a port, or a range of them, as one writes it without a word before.
var portKey = regexp.MustCompile(`^[a-z]{0,4}[0-9]{1,3}(-[a-z]{0,4}[0-9]{1,3})?$`)

func aboutPort(e endSaid, said []text.Token) *known {
	port := text.Token{Kind: text.Word, Text: e.port, Plain: text.Plain(e.port), Col: e.col, End: e.end}
	word := port
	word.Text, word.Plain = "port", "port"
	// A comma before VLANs does not end what is said of the port.
	one := make([]text.Token, 0, len(said))
	for i, t := range said {
		if t.Kind != text.Separator || i+1 == len(said) || !isVLANs(said[i+1]) && !slices.Contains(vlanWords, said[i+1].Plain) {
			one = append(one, t)
		}
	}
	return &known{name: e.device, tokens: append([]text.Token{word, port}, one...), port: true}
}

// readAggregateOn reads a line about an aggregate of a device: aggregate "up" on
// core: ports s1-s2, active-active.
func readAggregateOn(tokens []text.Token) *known {
	const least = 4 // the word, its name, on, the device
	if len(tokens) < least || tokens[0].Kind != text.Word || !slices.Contains(aggregateWords, tokens[0].Plain) || !tokens[2].Is("on") {
		return nil
	}
	end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	if end < 0 {
		if end = slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("ports") || t.Is("port") }); end < 0 {
			end = len(tokens)
		}
	}
	if end < least {
		return nil
	}
	said := append(slices.Clone(tokens[:2]), slices.DeleteFunc(slices.Clone(tokens[end:]), func(t text.Token) bool {
		return t.Kind == text.Separator
	})...)
	return &known{name: calledIn(tokens[3:end]), tokens: said, port: true}
}

// readAddressOf reads a device and its address: anvil 10.20.0.12, gate/1 is .1.
func readAddressOf(tokens []text.Token) *known {
	at := slices.IndexFunc(tokens, looksLikeIP)
	end := at
	for end > 1 && (tokens[end-1].Is("is") || tokens[end-1].Is("has") || tokens[end-1].Is("at") ||
		tokens[end-1].Is("address") || tokens[end-1].Is("really") ||
		tokens[end-1].Text == ":" && end == at) {
		end--
	}
	name := tokens[:max(end, 0)]
	notNamed := func(t text.Token) bool { return t.Kind != text.Word && t.Kind != text.Quoted || joins[t.Text] }
	if at < 1 || len(name) > mostNameWords || isPlaced(name) || slices.ContainsFunc(name, notNamed) {
		return nil
	}
	if w, used, err := readWhere(name); err == nil && used > 0 && w.kind == lab.InUnits {
		return nil
	}
	k := &known{name: calledIn(name), tokens: append([]text.Token{asWord(tokens[at], "address")}, tokens[at:]...), port: true}
	if e, used, err := readEnd(name); err == nil && used == len(name) && !e.open {
		k.name = e.device
		rest := append([]text.Token{asWord(tokens[at], "on"), {Kind: text.Word, Text: e.port, Plain: text.Plain(e.port), Col: e.col, End: e.end}},
			tokens[at+1:]...)
		k.tokens = append(k.tokens[:2:2], rest...)
	}
	return k
}

// readRename reads rename "a" to "b".
func readRename(tokens []text.Token) *known {
	to := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("to") })
	if !tokens[0].Is("rename") || to < 2 || to == len(tokens)-1 {
		return nil
	}
	return &known{name: calledIn(tokens[1:to]), rename: text.Joined(tokens[to+1:])}
}

// wholly tells the lines about known devices from those of devices by
// themselves, and reads what they say, now that it is known of what kind each
// is. What is new on a line that gives a kind and no where is not placed.
func (ld *loader) wholly(lines []*thing) (own, more []*thing) {
	called := map[string][]*thing{}
	var none *noneError
	name := func(t *thing) {
		own = append(own, t)
		called[t.title()] = append(called[t.title()], t)
	}
	for _, t := range lines {
		if t.known == nil && !t.broken {
			name(t)
		} else if t.known == nil {
			own = append(own, t)
		}
	}
	for _, t := range lines {
		k := t.known
		if k == nil || t.broken {
			continue
		}
		switch err := ld.speaksOf(t, called); {
		case err == nil:
			more = append(more, t)
		case k.kind && !k.bare && errors.As(err, &none):
			if t.where == nil {
				t.where = &where{}
			}
			t.known = nil
			name(t)
			continue
		case k.bare && errors.As(err, &none):
			ld.wrong(t, t.col, t.end, errNowhere)
			t.broken = true
			continue
		case k.instead != nil && errors.As(err, &none):
			k.instead.File = t.file
			ld.mistake(*k.instead)
			t.broken = true
			continue
		default:
			ld.wrong(t, t.col, t.end, err)
			t.broken = true
			continue
		}
		for _, w := range t.readAsKnown(ld) {
			w.up = t
			ld.byKind[w.kind] = append(ld.byKind[w.kind], w)
			if w.kind == lab.KindDevice {
				name(w)
			}
		}
	}
	return own, more
}

// speaksOf finds the device a line is about: of the text, or else of the lab.
func (ld *loader) speaksOf(t *thing, called map[string][]*thing) error {
	k := t.known
	if k.in != nil {
		return ld.inUnits(t, called)
	}
	if list := exactly(called[lab.FoldName(k.name)], k.name, func(t *thing) string { return t.name }); len(list) > 0 {
		if len(list) > 1 {
			return severalCalled(len(list), k.name)
		}
		k.thing = list[0]
		return k.agrees(t, lab.Device{Kind: list[0].device, Own: list[0].own, Name: list[0].name})
	}
	if ld.lost[lab.FoldName(k.name)] {
		return errLeftOut
	}
	id, err := findNamed(ld.base, lab.KindDevice, k.name)
	if err != nil {
		return err
	}
	k.device, _ = lab.Find[lab.Device](ld.base, id)
	return k.agrees(t, k.device)
}

// agrees says what is wrong where a line gives the kind and the name of another
// thing than the one that goes by the name.
func (k *known) agrees(t *thing, is lab.Device) error {
	if !k.kind || k.bare {
		return nil
	}
	return t.isAnother(is)
}

// isAnother says why a line that gives a kind and a name is about another thing
// than the one that goes by that name, nil where it is that one.
func (t *thing) isAnother(is lab.Device) error {
	name := text.Quote(is.Title())
	switch {
	case t.device != is.Kind, t.own != "" && t.own != is.Own:
		return fmt.Errorf("%s is a %s; write %s is a %s to change what it is, or give this one another name",
			name, kindOf(is), name, kindOf(lab.Device{Kind: t.device, Own: t.own}))
	case t.name != "" && t.name != is.Name:
		return fmt.Errorf("there is a %s %s; write its name that way to mean it, or rename %s to %s first",
			kindOf(is), name, name, text.Quote(t.name))
	}
	return nil
}

// exactly are those of a list that are called just so, or all where none is.
func exactly[T any](list []T, name string, of func(T) string) []T {
	if len(list) < 2 {
		return list
	}
	just := slices.DeleteFunc(slices.Clone(list), func(t T) bool { return of(t) != name })
	if len(just) == 0 {
		return list
	}
	return just
}

// inUnits finds what is in the units a line begins with: in the text under the
// same rack, or in the lab.
func (ld *loader) inUnits(t *thing, called map[string][]*thing) error {
	k := t.known
	for _, list := range called {
		for _, o := range list {
			under := o.up == t.up || t.up == nil || t.up.kind != lab.KindRack // the rack that the line is under, if any
			if w := o.where; w != nil && under && w.kind == lab.InUnits && w.rack == "" && w.from <= k.in.to && k.in.from <= w.to {
				k.thing = o
				return nil
			}
		}
	}
	s := ld.setting(nil)
	if t.up != nil {
		s.rack = ld.ids[t.up]
	}
	if _, ok := lab.Find[lab.Rack](s.lab, s.rack); !ok {
		if only := slices.Collect(lab.Each[lab.Rack](s.lab)); len(only) == 1 {
			s.rack = only[0].ID
		}
	}
	spot, n, err := k.in.spot(s, nil)
	if err != nil {
		return err
	}
	for _, d := range ld.base.Held(lab.Key{Kind: lab.KindRack, ID: spot.Rack}) {
		if d.At.Where == lab.InUnits && d.At.Unit < spot.Unit+*n && spot.Unit < d.At.Unit+d.Units() {
			k.device = d
			return nil
		}
	}
	return errors.New("nothing is there yet; write what it is, such as 23 switch \"core\"")
}

// readAsKnown reads what a line says of a device whose kind is known by now,
// and tells what is in it.
func (t *thing) readAsKnown(ld *loader) []*thing {
	k := t.known
	t.device, t.own = k.device.Kind, k.device.Own
	if k.thing != nil {
		t.device, t.own = k.thing.device, k.thing.own
	}
	if k.kind {
		return nil // it was read
	}
	below := len(t.within)
	t.said = nil
	of := indexes[t.scope()]
	switch {
	case k.rename != "":
		t.said = []said{{fact: of.byField["name"], value: k.rename, col: t.col, end: t.end}}
	case k.become != nil:
		v, err := of.byField["device_kind"].read(k.become, true)
		if err != nil {
			ld.wrong(t, k.become[0].Col, k.become[len(k.become)-1].End, err)
			return nil
		}
		t.said = []said{{fact: of.byField["device_kind"], value: v, col: t.col, end: t.end}}
	default:
		for _, m := range t.facts(k.tokens) {
			m.File = t.file
			ld.mistake(m)
			ld.misread[place{t.file, t.line}] = true
		}
	}
	return t.within[below:]
}

// more puts down what a line says more of a device.
func (m *matcher) more(t *thing) {
	k := t.known
	id := k.device.ID
	if k.thing != nil {
		m.settle(k.thing)
		var ok bool
		if id, ok = m.ids[k.thing]; !ok {
			t.broken = true // its own line has a mistake
			return
		}
	}
	key := lab.Key{Kind: lab.KindDevice, ID: id}
	m.again(t, key, k.device)
}

// again puts down what a further line says of a record.
func (ld *loader) again(t *thing, key lab.Key, was lab.Record) {
	if now, ok := ld.after[key]; ok {
		was = now
	}
	if was == nil {
		t.broken = true
		return
	}
	ld.layers[t] = was
	ld.put(t, ld.applyAfter(t, was, ld.givenOf(key), false))
}
