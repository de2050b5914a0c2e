package rundown

import (
	"errors"
	"fmt"
	"strings"

	"levelstaff/core/lab"
)

// SetFact returns the record with one fact as a person typed it: "710",
// "17.5in", "12-13 rear", "?" for unknown. A bare number is taken in the
// fact's own unit. rack is where bare units count that the record does not
// tell the rack of. The error is a sentence about what was typed.
func SetFact(l *lab.Lab, r lab.Record, field, typed string, rack lab.ID) (lab.Record, error) {
	key := r.Key()
	typed = strings.TrimSpace(typed)
	switch field {
	case "name":
		n, ok := r.(lab.Named)
		if !ok {
			return nil, fmt.Errorf("a %s has no name", key.Kind)
		}
		return n.Renamed(typed), nil
	case "purpose", "notes", "note": // as it stands, commas and all
		return setWords(r, field, typed)
	case "price_minor":
		return setPrice(r, typed, l.Settings().Currency)
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
		return setWhere(l, d, tokens, rack)
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

func setWhere(l *lab.Lab, d lab.Device, tokens []token, rack lab.ID) (lab.Record, error) {
	w, n, err := readWhere(tokens)
	if err != nil {
		return nil, err
	}
	if w == nil || n < len(tokens) {
		return nil, errors.New(`write units such as 12-13 or 5 rear, left, right, top, under, in "Loft", on "sbc shelf", or ?`)
	}
	if in, ok := l.RackOf(d); ok && rack == "" {
		rack = in.ID
	}
	var takes *int
	if w.single {
		takes = d.TakesU // one number: it takes there what it takes here
	}
	spot, takes, err := w.spot(l, rack, takes, DeviceNamed(l))
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

func setWords(r lab.Record, field, words string) (lab.Record, error) {
	for _, f := range factsOf(r.Key().Kind) {
		if f.field == field {
			return f.set(r, words), nil
		}
	}
	return nil, fmt.Errorf("a %s has no %s", r.Key().Kind, field)
}

func setPrice(r lab.Record, typed, currency string) (lab.Record, error) {
	step, ok := r.(lab.Step)
	if !ok {
		return nil, fmt.Errorf("a %s has no price", r.Key().Kind)
	}
	step.PriceMinor = nil
	if typed != "" && typed != "?" {
		v, err := lab.ParseMoney(typed, currency)
		if err != nil {
			return nil, err
		}
		step.PriceMinor = &v
	}
	return step, nil
}

func didYouMean(typed string, words []string) string {
	if near := nearest(typed, words); near != "" {
		return ": did you mean " + near + "?"
	}
	return "; write one such as server or switch"
}
