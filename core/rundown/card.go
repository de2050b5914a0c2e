package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// SetFact returns the record with one fact as a person typed it: "710",
// "17.5in", "12-13 rear", "?" for unknown. A bare number is taken in the
// fact's own unit. rack is where bare units count that the record does not
// tell the rack of. The error is a sentence about what was typed.
func SetFact(l *lab.Lab, r lab.Record, field, typed string, rack lab.ID) (lab.Record, error) {
	key := r.Key()
	typed = strings.TrimSpace(typed)
	if d, ok := r.(lab.Device); ok && slices.Contains(neverWords, strings.ToLower(typed)) {
		return nobodyKnows(d, field)
	}
	b := open(r)
	switch field {
	case "name":
		renamed, ok := lab.Renamed(r, typed)
		if !ok {
			return nil, fmt.Errorf("a %s has no name", key.Kind.Words())
		}
		return renamed, nil
	case "price_minor":
		if s, ok := r.(lab.Step); ok {
			return setPrice(s, typed, l.Settings().Currency)
		}
	}
	f, known := indexes[scopeOf(r)].byField[field]
	if known && f.typedWhole && f.matches == nil { // as it stands, commas and all
		return f.keep(l, b, typed)
	}
	line, slip := text.LexField(typed)
	if slip != nil {
		return nil, errors.New(slip.Say)
	}
	tokens := line.Tokens
	if len(tokens) == 0 {
		tokens = []text.Token{{Kind: text.Unknown, Text: "?", Col: 1, End: 2}}
	}
	if c, ok := r.(lab.Cable); ok && (field == "a" || field == "b") {
		return plugged(l, c, field, typed)
	}
	if d, ok := r.(lab.Device); ok && field == "device_kind" {
		k, n := readKind(tokens)
		if n == 0 || n < len(tokens) {
			return nil, fmt.Errorf("“%s” is not a kind of device%s", text.Short(typed), didYouMean(typed, kindNames()))
		}
		d.Kind = k
		return d, nil
	} else if ok && field == "at" {
		return setWhere(l, d, tokens, rack)
	}
	if p, ok := r.(lab.Part); ok && field == "part_kind" {
		k, n := readPartKind(tokens)
		if n == 0 || n < len(tokens) {
			return nil, fmt.Errorf("“%s” is no kind of part; write drive, memory, processor, card, supply, fan, battery or transceiver", text.Short(typed))
		}
		p.Kind = k
		return p, nil
	}
	if s, ok := r.(lab.SpecSheet); ok && field == "device_kind" {
		k, n := readKind(tokens)
		if n == 0 || n < len(tokens) {
			return nil, fmt.Errorf("“%s” is not a kind of device%s", text.Short(typed), didYouMean(typed, kindNames()))
		}
		s.Kind = k
		return s, nil
	}
	if known {
		return f.typed(l, b, tokens)
	}
	return nil, fmt.Errorf("a %s has no %s", key.Kind.Words(), text.Short(field))
}

// plugged is a cable with one end where a person says: core/3, ? for nowhere.
func plugged(l *lab.Lab, c lab.Cable, field, typed string) (lab.Record, error) {
	end, err := ReadEnd(l, typed)
	if err != nil {
		return nil, err
	}
	if field == "a" {
		c.A = end
	} else {
		c.B = end
	}
	if c.State == lab.CableSpare && end != nil {
		c.State = lab.CableInUse
	}
	return c, nil
}

// neverWords say that a fact will not be found out any more.
var neverWords = []string{"nobody knows", "never known", "unknown for good"}

func nobodyKnows(d lab.Device, field string) (lab.Record, error) {
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

// keep puts down what was typed as it stands; a name is looked for.
func (f *fact) keep(l *lab.Lab, b box, typed string) (lab.Record, error) {
	if typed == "?" {
		typed = ""
	}
	var value any = typed
	if v, err := f.read([]text.Token{{Kind: text.Quoted, Text: typed}}, true); err == nil && typed != "" {
		if n, ok := v.(named); ok {
			id, found := findNamed(l, n)
			if !found {
				return nil, noneCalled(l, n.kind, n.name)
			}
			value = id
		}
	}
	if typed == "" {
		value = nil
	}
	f.set(b, value)
	return closed(b), nil
}

// typed reads a fact from a field of its own, with or without its word.
func (f *fact) typed(l *lab.Lab, b box, tokens []text.Token) (lab.Record, error) {
	if named, rest := factNamed(f.of, tokens); named == f && len(rest) > 0 && !f.many {
		tokens = rest
	}
	v, err := f.read(tokens, true)
	if err != nil {
		return nil, err
	}
	if v, err = worth(v, l.Settings().Currency); err != nil {
		return nil, err
	}
	if v == nil && f.field == "height_u" {
		return nil, errors.New("a rack's height is counted at the rail: write it, such as 24U")
	}
	if f.many {
		f.set(b, nil) // the field shows all of the list, so it is all of it
	}
	f.set(b, v)
	return closed(b), nil
}

// worth works out the money in a fact's value.
func worth(v any, currency string) (any, error) {
	switch said := v.(type) {
	case amount:
		return said.worth(currency)
	case []yearlySaid:
		return yearlyWorth(said, currency)
	}
	return v, nil
}

// findNamed finds the record that a fact names.
func findNamed(l *lab.Lab, n named) (lab.ID, bool) { return l.Named(n.kind, n.name) }

func setWhere(l *lab.Lab, d lab.Device, tokens []text.Token, rack lab.ID) (lab.Record, error) {
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

func setPrice(step lab.Step, typed, currency string) (lab.Record, error) {
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
	if near := text.Nearest(typed, words); near != "" {
		return ": did you mean " + near + "?"
	}
	return "; write one such as server or switch"
}
