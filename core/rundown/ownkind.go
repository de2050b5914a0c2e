package rundown

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// neverKinds begin lines and phrases of other sorts, some of them of records
// still to come, so that they are no kind of device however they stand.
var neverKinds = []string{"vlan", "subnet", "line", "circuit", "pool", "dataset", "copy", "share", "service", "cluster", "stack",
	"template", "aggregate", "wireless", "tunnel", "from", "name", "on", "open", "in", "under", "left", "right", "top", "rear", "front",
	"virtual", "route", "wall", "address", "lab", "rack", "place", "run", "sheet", "spare", "ordered", "loose"}

// ownKind is a kind in its owner's words.
type ownKind string

// readOwnKind reads words that are no kind known here, before a name in quotes:
// air conditioner "chill". It tells how many words they are; 0 where they are a
// known kind misspelt, or the head of another line.
func readOwnKind(tokens []text.Token) (string, int) {
	n := 0
	for n < len(tokens) && n <= mostKindWords && tokens[n].Kind == text.Word {
		n++
	}
	if n == 0 || n > mostKindWords || n == len(tokens) || tokens[n].Kind != text.Quoted {
		return "", 0
	}
	words := text.Joined(tokens[:n])
	if !isOwnKind(words) {
		return "", 0
	}
	return words, n
}

// letters are words as of a kind, with no figure or sign among them.
var letters = regexp.MustCompile(`^\pL[\pL\pM'’.&+-]*( \pL[\pL\pM'’.&+-]*)*$`)

// bareOwnKind reads words that are no kind known here where a kind must stand,
// behind the place of a line: 21 cable tray. Words of a fact are none.
func (t *thing) bareOwnKind(tokens []text.Token) (string, int) {
	n := 0
	for n < len(tokens) && tokens[n].Kind == text.Word {
		n++
	}
	known := wordsOf(scope(lab.KindDevice)).all
	if n == 0 || n > mostKindWords || n < len(tokens) && tokens[n].Kind != text.Separator ||
		slices.ContainsFunc(tokens[:n], func(t text.Token) bool { return known[t.Plain] || slices.Contains(linking, t.Plain) }) {
		return "", 0
	}
	words := text.Joined(tokens[:n])
	if !isOwnKind(words) {
		return "", 0
	}
	return words, n
}

func isOwnKind(words string) bool {
	first, _, _ := strings.Cut(text.Plain(words), " ")
	if slices.Contains(neverKinds, first) || partWords[first] != "" || seatWords[first] || slices.Contains(linking, first) ||
		!letters.MatchString(words) {
		return false
	}
	if short := len(words) < 4; short && text.Nearest(words, kindNames()) != "" {
		return false
	}
	return text.Slip(words, append(kindNames(), "rack", "place", "sheet"), 6) == ""
}

// headKind is what a line calls a device: its owner's words for it where they
// read back before its name.
func headKind(d lab.Device) string {
	if d.Count != nil {
		return strconv.Itoa(*d.Count) + " " + KindText(d.Kind) + "s"
	}
	if d.Kind != lab.Other || d.Own == "" || d.Name == "" {
		return KindText(d.Kind)
	}
	line, slip := text.LexField(d.Own + " " + text.Quote(d.Name))
	if slip != nil {
		return KindText(d.Kind)
	}
	if k, _, _ := deviceIn(line.Tokens); k != lab.Other {
		return KindText(d.Kind)
	}
	if own, _ := readOwnKind(line.Tokens); own != d.Own {
		return KindText(d.Kind)
	}
	return d.Own
}

// kindOf is what a device is, as the rundown writes it.
func kindOf(d lab.Device) string {
	if d.Own != "" {
		return d.Own
	}
	return KindText(d.Kind)
}

// ownKindFact is what a device of kind other is; a line says it in its head
// where that reads back.
func ownKindFact() fact {
	of := scope(lab.KindDevice)
	f := written(of, "kind in words", "other_kind", []string{"is a"}, `is a "air conditioner"`, func(d *lab.Device) *string {
		return &d.Own
	}, text.Quote)
	said := f.write
	f.write = func(l *lab.Lab, b box) string {
		if d := b.(*lab.Device); headKind(*d) == d.Own {
			return ""
		}
		return said(l, b)
	}
	return f.optional()
}

// alsoFact is what else a device is: also access point.
func alsoFact() fact {
	at := func(b box) *[]lab.DeviceKind { return &b.(*lab.Device).Also }
	each := func(b box, before, between string) string {
		var said []string
		for _, k := range *at(b) {
			said = append(said, before+KindText(k))
		}
		return strings.Join(said, between)
	}
	return fact{of: scope(lab.KindDevice), name: "is also", field: "also_kinds", words: []string{"also"}, example: "also access point",
		many: true, maybe: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list []lab.DeviceKind
			for phrase := range text.Cut(tokens) {
				k, n := readKind(phrase)
				if typed := text.Joined(phrase); n == 0 || n < len(phrase) {
					return nil, fmt.Errorf("“%s” is not a kind of device%s", text.Short(typed), didYouMean(typed, kindNames()))
				}
				list = append(list, k)
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.DeviceKind)
			*at(b) = more(*at(b), list)
		},
		show:  func(_ *lab.Lab, b box) string { return each(b, "", ", ") },
		write: func(_ *lab.Lab, b box) string { return each(b, "also ", ", ") }}
}
