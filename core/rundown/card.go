package rundown

import (
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
)

// SetFact returns the record with one fact as a person typed it: "710",
// "17.5in", "12-13 rear", "?" for unknown. A bare number is taken in the
// fact's own unit. The error is a sentence about what was typed.
func SetFact(l *lab.Lab, key lab.Key, field, typed string) (lab.Record, error) {
	r := l.Get(key)
	if r == nil {
		return nil, fmt.Errorf("there is no %s with the id %s", key.Kind, short(string(key.ID)))
	}
	typed = strings.TrimSpace(typed)
	switch field {
	case "name":
		return setName(r, typed), nil
	case "purpose", "notes": // as it stands, commas and all
		return setWords(r, field, typed)
	}
	text, slip := lex(1, typed)
	if slip != nil {
		return nil, errors.New(slip.Say)
	}
	tokens := text.tokens
	if len(tokens) == 0 {
		tokens = []token{{kind: unknown, text: "?", col: 1, end: 2}}
	}
	if d, ok := r.(lab.Device); ok && field == "device_kind" {
		k, n := readKind(tokens)
		if n == 0 || n < len(tokens) {
			return nil, fmt.Errorf("“%s” is not a kind of device%s", short(typed), didYouMean(typed, kindNames()))
		}
		d.Kind = k
		return d, nil
	} else if ok && field == "at" {
		return setWhere(l, d, tokens)
	}
	for _, f := range factsOf(key.Kind) {
		if f.field == field {
			return f.typed(l, r, tokens)
		}
	}
	return nil, fmt.Errorf("a %s has no %s", key.Kind, short(field))
}

// typed reads a fact from a field of its own, with or without its word.
func (f *fact) typed(l *lab.Lab, r lab.Record, tokens []token) (lab.Record, error) {
	if named, rest := factNamed(f.of, tokens); named == f && len(rest) > 0 {
		tokens = rest
	}
	v, err := f.read(tokens, true)
	if err != nil {
		return nil, err
	}
	if n, ok := v.(placeName); ok {
		id, found := l.Named(lab.KindPlace, string(n))
		if !found {
			return nil, noneCalled(l, lab.KindPlace, string(n))
		}
		v = id
	}
	if v == nil && f.field == "height_u" {
		return nil, errors.New("a rack's height is counted at the rail: write it, such as 24U")
	}
	return f.set(r, v), nil
}

func setWhere(l *lab.Lab, d lab.Device, tokens []token) (lab.Record, error) {
	w, n, err := readWhere(tokens)
	if err != nil {
		return nil, err
	}
	if w == nil || n < len(tokens) {
		return nil, errors.New(`write units such as 12-13 or 5 rear, left, right, top, under, in "Loft", on "sbc shelf", or ?`)
	}
	rack, _ := l.RackOf(d)
	var takes *int
	if w.single {
		takes = d.TakesU // one number: it takes there what it takes here
	}
	spot, takes, err := w.spot(l, rack.ID, takes, DeviceNamed(l))
	if err != nil {
		return nil, err
	}
	if spot != nil && spot.Where == lab.InUnits {
		d.TakesU = takes
	} else if spot != nil {
		spot.Order = lastOrder(l, spot) + 1
		if d.At.SameHold(spot) {
			spot.Order = d.At.Order
		}
	}
	d.At = spot
	return d, nil
}

func setName(r lab.Record, name string) lab.Record {
	switch rec := r.(type) {
	case lab.Settings:
		rec.Name = name
		return rec
	case lab.Place:
		rec.Name = name
		return rec
	case lab.Rack:
		rec.Name = name
		return rec
	case lab.Device:
		rec.Name = name
		return rec
	}
	return r
}

func setWords(r lab.Record, field, words string) (lab.Record, error) {
	for _, f := range factsOf(r.Key().Kind) {
		if f.field == field {
			return f.set(r, words), nil
		}
	}
	return nil, fmt.Errorf("a %s has no %s", r.Key().Kind, field)
}

func didYouMean(typed string, words []string) string {
	if near := nearest(typed, words); near != "" {
		return ": did you mean " + near + "?"
	}
	return "; write one such as server or switch"
}
