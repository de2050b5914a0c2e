package rundown

import (
	"slices"
	"strconv"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Some lines say only by a name what they are about, and mean a device where one is called
// that, or else whatever is:
//
//	anvil.home.arpa: 2 ports 1G
//	fibre: into gate/2
//	library.quarry.home.arpa: with sign-in
//	name servers of office: finch
//	wheel runs a hypervisor

// meant reads those lines again that are about something else than they were taken for, now
// that all names are known.
func (ld *loader) meant(things []*thing) []*thing {
	asked := func(t *thing) bool { return t.asDevice != nil || t.known.onlyNamed() }
	if !slices.ContainsFunc(things, asked) {
		return things
	}
	called := callings(things)
	var list []*thing
	for _, t := range things {
		tokens := []text.Token(nil)
		if asked(t) {
			tokens = ld.anew(t, called)
		}
		if tokens == nil {
			list = append(list, t)
			continue
		}
		p := &parser{doc: &Document{}, file: t.file, kinds: ld.kinds}
		p.tokens(t.line, text.Line{Indent: t.indent}, tokens, nil)
		for _, m := range p.doc.Mistakes {
			ld.mistake(m)
		}
		list = append(list, p.doc.things...)
	}
	return list
}

// anew is a line as it is to be read again, nil where it was taken for what it is.
func (ld *loader) anew(t *thing, called map[string][]*thing) []text.Token {
	name := t.name
	if t.asDevice == nil {
		name = t.known.name
	}
	said := called[lab.FoldName(name)]
	ofText := slices.ContainsFunc(said, func(o *thing) bool { return o.kind == lab.KindDevice })
	_, err := findNamed(ld.base, lab.KindDevice, name)
	switch device := ofText || err == nil || isSeveral(err); {
	case device && t.asDevice != nil:
		return t.asDevice
	case device || t.asDevice != nil:
		return nil
	}
	head := ld.headOf(name, said, t)
	if head == nil {
		return nil
	}
	colon := text.Token{Kind: text.Separator, Text: ":", Col: t.col, End: t.col}
	return slices.Concat(head, []text.Token{colon}, t.known.tokens)
}

// headOf is what a line about the one thing of that name begins with, nil where there is
// none. Of several it is the one of which such a thing can be said.
func (ld *loader) headOf(name string, said []*thing, at *thing) []text.Token {
	phrase := at.known.tokens
	if end := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Kind == text.Separator }); end >= 0 {
		phrase = phrase[:end]
	}
	there := text.Token{Kind: text.Quoted, Text: name, Col: at.col, End: at.end}
	var heads, fit [][]text.Token
	for _, k := range ld.kinds {
		if k.word == "" || k.nameless() || k.kind == lab.KindDevice {
			continue
		}
		of := slices.IndexFunc(said, func(t *thing) bool { return t.kind == k.kind })
		_, ok := ld.base.Named(k.kind, name)
		number := 0
		if k.kind == lab.KindVLAN { // which go by their numbers
			if number = numberOf(ld.base, name); of >= 0 {
				number, _ = said[of].valueOf("number").(int)
			}
			ok = number > 0
		}
		if of < 0 && !ok {
			continue
		}
		head := []text.Token{asWord(there, k.word), there}
		if number > 0 {
			head[1] = asWord(there, strconv.Itoa(number))
		}
		heads = append(heads, head)
		if len(phrase) > 0 {
			if s, err := readFact(scope(k.kind), phrase); err == nil && s.fact != nil && !s.kept {
				fit = append(fit, head)
			}
		}
	}
	switch {
	case len(fit) == 1:
		return fit[0]
	case len(heads) == 1 && !factOfDevice(phrase): // or else a device is meant that is not there
		return heads[0]
	}
	return nil
}

// numberOf is that of the only VLAN of a name, 0 where there is none.
func numberOf(l *lab.Lab, name string) int {
	number := 0
	for v := range lab.Each[lab.VLAN](l) {
		if lab.FoldName(v.Name) != lab.FoldName(name) {
			continue
		}
		if number > 0 {
			return 0
		}
		number = v.Number
	}
	return number
}

func (t *thing) valueOf(field string) any {
	for _, s := range t.said {
		if s.fact.field == field {
			return s.value
		}
	}
	return nil
}

// callings are the things of a text by what they are called.
func callings(things []*thing) map[string][]*thing {
	called := map[string][]*thing{}
	var add func(list []*thing)
	add = func(list []*thing) {
		for _, t := range list {
			if t.known == nil && t.name != "" {
				called[lab.FoldName(t.name)] = append(called[lab.FoldName(t.name)], t)
			}
			add(t.within)
		}
	}
	add(things)
	return called
}

// onlyNamed reports whether all that a line tells of what it is about is its name.
func (k *known) onlyNamed() bool {
	return k != nil && k.name != "" && k.in == nil && !k.kind && !k.port && k.rename == "" && k.become == nil && k.tokens != nil
}

// saidOf reads what a line says of something by its name, without a colon: wheel runs a
// hypervisor. What follows the name is a fact as it stands, up to the first comma.
func saidOf(tokens []text.Token) *known {
	end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	if end < 0 {
		end = len(tokens)
	}
	for n := 1; n < end && n <= mostNameWords; n++ {
		if tokens[n-1].Kind != text.Word && (n > 1 || tokens[0].Kind != text.Quoted) {
			return nil
		}
		if factOfSomething(tokens[n:end]) {
			return &known{name: calledIn(tokens[:n]), tokens: slices.Clone(tokens[n:])}
		}
	}
	return nil
}

// sayable are the kinds that lines say something of by their names alone.
var sayable = []scope{scope(lab.KindDevice), ofGuest, ofService, ofName, scope(lab.KindLine), scope(lab.KindDataset), scope(lab.KindPool)}

func factOfSomething(phrase []text.Token) bool {
	if q, used := text.ReadQuantity(phrase); used > 0 && q.Unit == "u" {
		return false // rather a rack by a word that is not known here
	}
	return slices.ContainsFunc(sayable, func(of scope) bool { return isFact(of, phrase) })
}

func factOfDevice(phrase []text.Token) bool {
	return len(phrase) > 0 && (isFact(scope(lab.KindDevice), phrase) || isFact(ofGuest, phrase))
}

// isFact reports whether a phrase is a fact as it stands, and not one that takes any words.
func isFact(of scope, phrase []text.Token) bool {
	s, err := readFact(of, phrase)
	return err == nil && s.fact != nil && !s.kept && !s.fact.typedWhole
}
