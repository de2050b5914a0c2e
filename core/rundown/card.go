package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// SetFact returns the record with one fact as a person typed it: "710",
// "17.5in", "12-13 rear", "?" for unknown. A bare number is taken in the
// fact's own unit. rack is where bare units count that the record does not
// tell the rack of. The error is a sentence about what was typed.
func SetFact(l *lab.Lab, r lab.Record, field, typed string, rack lab.ID) (lab.Record, error) {
	typed = strings.TrimSpace(typed)
	if d, ok := r.(lab.Device); ok && slices.Contains(neverWords, strings.ToLower(typed)) {
		return neverKnown(d, field)
	}
	f, known := indexes[scopeOf(r)].byField[field]
	if !known {
		return nil, fmt.Errorf("a %s has no %s", r.Key().Kind.Words(), text.Short(field))
	}
	v, err := f.typed(typed)
	if err != nil {
		return nil, err
	}
	if v, err = settingOf(l, r, rack).out(v); err != nil {
		return nil, err
	}
	if v == nil && f.needed != "" {
		return nil, errors.New(f.needed)
	}
	b := open(r)
	if f.many {
		f.set(b, nil) // the field shows all of the list, so it is all of it
	}
	f.set(b, v)
	return closed(b), nil
}

// typed reads a fact from a field of its own: as it stands, commas and all, or
// with or without its word.
func (f *fact) typed(typed string) (any, error) {
	if f.typedWhole && f.matches == nil {
		if typed == "" || typed == "?" {
			return nil, nil
		}
		return f.read([]text.Token{{Kind: text.Quoted, Text: typed}}, true)
	}
	line, slip := text.LexField(typed)
	if slip != nil {
		return nil, errors.New(slip.Say)
	}
	tokens := line.Tokens
	if len(tokens) == 0 {
		tokens = []text.Token{{Kind: text.Unknown, Text: "?", Col: 1, End: 2}}
	}
	if named, rest := factNamed(f.of, tokens); named == f && len(rest) > 0 && !f.many {
		tokens = rest
	}
	return f.read(tokens, true)
}

// neverWords say that a fact will not be found out any more.
var neverWords = []string{"nobody knows", "never known", "unknown for good"}

func neverKnown(d lab.Device, field string) (lab.Record, error) {
	if !slices.Contains(d.Never, field) {
		d.Never = append(slices.Clone(d.Never), field)
	}
	if f, ok := indexes[scopeOf(d)].byField[field]; ok {
		b := open(d)
		f.set(b, nil)
		return closed(b), nil
	}
	return d, nil
}

// nameFact is what a record of a kind is called, where it has a name of its own
// in the head of its line.
func nameFact(of scope, field string) fact {
	kind, _, _ := strings.Cut(string(of), "/")
	k, _ := lab.KindOf(lab.RecordKind(kind))
	return fact{of: of, name: "name", field: field, head: true, typedWhole: true,
		read: func(tokens []text.Token, _ bool) (any, error) { return strings.TrimSpace(text.Joined(tokens)), nil },
		set:  func(b box, v any) { *k.NameIn(b), _ = v.(string) },
		show: func(_ *lab.Lab, b box) string { return *k.NameIn(b) }}
}

// kindFact is which kind of device a record is, or is about.
func kindFact[R any](of scope, at func(*R) *lab.DeviceKind) fact {
	f := fact{of: of, name: "kind", field: "device_kind", file: "kind", example: "server", head: true,
		needed:  "say which kind of device it is, such as server or switch",
		matches: func(tokens []text.Token) bool { _, n := readKind(tokens); return n == len(tokens) },
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			k, n := readKind(tokens)
			if typed := text.Joined(tokens); n == 0 || n < len(tokens) {
				if of == scope(lab.KindDevice) && isOwnKind(typed) {
					return ownKind(typed), nil
				}
				return nil, fmt.Errorf("“%s” is not a kind of device%s", text.Short(typed), didYouMean(typed, kindNames()))
			}
			return k, nil
		},
		set: func(b box, v any) {
			k, _ := v.(lab.DeviceKind)
			own, _ := v.(ownKind)
			if own != "" {
				k = lab.Other
			}
			*at(b.(*R)) = k
			if d, ok := b.(*lab.Device); ok && (k != lab.Other || own != "") {
				d.Own = string(own)
			}
		},
		show: func(_ *lab.Lab, b box) string {
			if d, ok := b.(*lab.Device); ok {
				return d.KindWords()
			}
			return at(b.(*R)).Words()
		}}
	for _, k := range lab.ThingKinds() {
		f.choices = append(f.choices, k.Words())
	}
	return f
}

// partKindFact is which sort a part is.
func partKindFact(of scope) fact {
	return fact{of: of, name: "kind", field: "part_kind", file: "kind", choices: partKindNames(), head: true,
		needed: "say which kind of part it is, such as drive or memory",
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			k, n := readPartKind(tokens)
			if n == 0 || n < len(tokens) {
				return nil, fmt.Errorf("“%s” is not a kind of part; write drive, memory, processor, card, supply, fan, battery or transceiver",
					text.Short(text.Joined(tokens)))
			}
			return k, nil
		},
		set:  func(b box, v any) { b.(*lab.Part).Kind, _ = v.(lab.PartKind) },
		show: func(_ *lab.Lab, b box) string { return string(b.(*lab.Part).Kind) }}
}

func partKindNames() []string {
	var names []string
	for _, k := range lab.PartKinds() {
		names = append(names, string(k))
	}
	return names
}

// Where a part is that is in no device.
const (
	inBin   = "spares bin"
	onOrder = "on order"
)

// holderFact is the device that a part is in.
func holderFact(of scope) fact {
	return fact{of: of, name: "device it is in", field: "device_id", file: "device", head: true, typedWhole: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			return holderTyped(strings.TrimSpace(text.Joined(tokens))), nil
		},
		set: func(b box, v any) {
			p := b.(*lab.Part)
			h, _ := v.(holder)
			if h.device != p.Device {
				p.Seat = 0 // the number was of the device it was in
			}
			p.Device, p.Ordered = h.device, h.ordered
		},
		show: func(l *lab.Lab, b box) string {
			p := b.(*lab.Part)
			switch {
			case p.Ordered:
				return onOrder
			case p.Device == "":
				return inBin
			}
			return refsOf(l).numbered(p.Device)
		}}
}

// holder is what holds a part, as holderTyped names it: a device by its name
// or id, or neither.
type (
	holder struct {
		device  lab.ID
		ordered bool
	}
	holderTyped string
)

func (h holderTyped) in(s setting) (any, error) {
	switch folded := lab.FoldName(string(h)); folded {
	case "", inBin:
		return holder{}, nil
	case onOrder:
		return holder{ordered: true}, nil
	}
	if d, ok := lab.Find[lab.Device](s.lab, lab.ID(h)); ok {
		return holder{device: d.ID}, nil
	}
	id, err := s.named(lab.KindDevice, string(h))
	var several *severalError
	if errors.As(err, &several) {
		return nil, err
	}
	if err != nil {
		return nil, fmt.Errorf("%w; write the name of one, %s or %s", err, inBin, onOrder)
	}
	return holder{device: id}, nil
}

// seatFact is the bay, slot, socket or cage that a part sits in.
func seatFact(of scope) fact {
	return fact{of: of, name: "bay, slot or socket", field: "seat", head: true,
		number: func(b box) *float64 {
			if n := float64(b.(*lab.Part).Seat); n > 0 {
				return &n
			}
			return nil
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			n, err := strconv.Atoi(text.Joined(tokens))
			if err != nil || n < 1 {
				return nil, fmt.Errorf("“%s” is not the number of a bay, slot or socket; write 1 or more, or nothing for a loose part",
					text.Short(text.Joined(tokens)))
			}
			return n, nil
		},
		set: func(b box, v any) { b.(*lab.Part).Seat, _ = v.(int) },
		show: func(_ *lab.Lab, b box) string {
			if n := b.(*lab.Part).Seat; n > 0 {
				return strconv.Itoa(n)
			}
			return ""
		}}
}

func didYouMean(typed string, words []string) string {
	if near := text.Nearest(typed, words); near != "" {
		return ": did you mean " + near + "?"
	}
	return "; write one such as server or switch"
}
