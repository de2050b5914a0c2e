package rundown

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"levelstaff/core/rack"
)

// dimension is what a quantity measures: the units it may be written in, each
// with what one of it is in the unit that records keep.
type dimension struct {
	what    string // "a length"
	example string
	base    string // the unit a bare number has on a card
	units   map[string]float64
	// digits after the point that a converted quantity is rounded to
	digits int
	signed bool               // may be below zero, or nothing at all
	less   map[string]float64 // what is taken off first, for degrees
	steps  []step             // units it is written in, larger ones first; base without
	none   bool               // may be nothing at all
}

// step is a unit that large quantities are written in.
type step struct {
	unit string
	of   float64
}

var (
	length = dimension{what: "a length", example: "320mm", base: "mm", units: map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": 25.4, "inch": 25.4, "inches": 25.4, `"`: 25.4, "″": 25.4, "ft": 304.8, "feet": 304.8, "'": 304.8, "u": rack.UnitMM, "ru": rack.UnitMM}, digits: 2}
	mass   = dimension{what: "a weight", example: "4.1kg", base: "kg", units: map[string]float64{"kg": 1, "kilos": 1, "g": 0.001, "lb": 0.45359237, "lbs": 0.45359237, "pounds": 0.45359237, "oz": 0.028349523125, "t": 1000}, digits: 3}
	units  = dimension{what: "a number of units", example: "2U", base: "U", units: map[string]float64{"u": 1, "ru": 1, "unit": 1, "units": 1}}
	volts  = dimension{what: "a voltage", example: "230V", base: "V", units: map[string]float64{"v": 1, "volt": 1, "volts": 1, "kv": 1000}, digits: 1}
	watts  = dimension{what: "a power", example: "120W", base: "W", units: map[string]float64{"w": 1, "watt": 1, "watts": 1, "kw": 1000, "mw": 0.001}, digits: 3, none: true}
	sound  = dimension{what: "a noise", example: "38dB", base: "dB", units: map[string]float64{"db": 1, "dba": 1, "db(a)": 1, "decibels": 1}, digits: 1, none: true}
	warmth = dimension{what: "a temperature", example: "5C", base: "C", units: map[string]float64{"c": 1, "°c": 1, "degrees": 1, "f": 5.0 / 9, "°f": 5.0 / 9}, less: map[string]float64{"f": 32, "°f": 32}, digits: 1, signed: true}
	hours  = dimension{what: "a number of hours", example: "32000h", base: "h", units: map[string]float64{"h": 1, "hour": 1, "hours": 1, "days": 24, "years": 8766}, digits: 1, none: true}
	turns  = dimension{what: "a speed", example: "7200rpm", base: "rpm", units: map[string]float64{"rpm": 1, "k": 1000, "krpm": 1000}}
	clock  = dimension{what: "a clock rate", example: "2.4GHz", base: "GHz", units: map[string]float64{"ghz": 1, "mhz": 0.001}, digits: 4}
	// capacity is what makers sell: 1 TB is 10^12 bytes (IEC 80000-13).
	capacity = dimension{what: "a capacity", example: "8TB", base: "TB", units: withBinary(map[string]float64{"b": 1, "bytes": 1, "kb": 1e3, "mb": 1e6, "gb": 1e9, "tb": 1e12, "pb": 1e15}),
		steps: []step{{"PB", 1e15}, {"TB", 1e12}, {"GB", 1e9}, {"MB", 1e6}, {"B", 1}}}
	// memory is counted in powers of two whatever it is called, as modules are
	// sold: 16 GB of memory are 2^34 bytes (JEDEC 100B.01).
	memory = dimension{what: "an amount of memory", example: "16GB", base: "GB", units: withBinary(map[string]float64{"b": 1, "bytes": 1, "kb": 1 << 10, "mb": 1 << 20, "gb": 1 << 30, "g": 1 << 30, "tb": 1 << 40}),
		steps: []step{{"TB", 1 << 40}, {"GB", 1 << 30}, {"MB", 1 << 20}, {"B", 1}}}
)

func withBinary(units map[string]float64) map[string]float64 {
	for i, u := range []string{"kib", "mib", "gib", "tib", "pib"} {
		units[u] = math.Pow(1024, float64(i+1))
	}
	return units
}

var dimensions = []dimension{length, mass, units, volts, watts, sound, warmth, hours, turns, clock, capacity, memory}

// text writes a quantity that is in the base unit so that it reads back.
func (d dimension) text(v float64) string {
	for _, s := range d.steps {
		if n := v / s.of; n >= 1 && number(n*1000) == number(math.Round(n*1000)) {
			return number(n) + s.unit
		}
	}
	if len(d.steps) > 0 {
		return strconv.FormatFloat(v, 'f', 0, 64) + "B"
	}
	return number(v) + d.base
}

// quantity is a number and its unit as they were written.
type quantity struct {
	number float64
	unit   string // lower case, "" where none was written
}

var fractions = strings.NewReplacer("½", ".5", "¼", ".25", "¾", ".75", "−", "-")

// readQuantity reads "320mm", "320 mm" or "17½ in" from the start of the
// tokens and tells how many it took; 0 where they start with no number.
func readQuantity(tokens []token) (quantity, int) {
	if len(tokens) == 0 || tokens[0].kind != word {
		return quantity{}, 0
	}
	text := strings.TrimPrefix(fractions.Replace(tokens[0].text), "~")
	digits := strings.TrimLeft(text, "+-")
	if digits == "" || (digits[0] < '0' || digits[0] > '9') && digits[0] != '.' || len(text)-len(digits) > 1 {
		return quantity{}, 0
	}
	unit := strings.TrimLeft(digits, "0123456789.")
	number, err := strconv.ParseFloat(text[:len(text)-len(unit)], 64)
	if err != nil {
		return quantity{}, 0
	}
	q, n := quantity{number, strings.ToLower(unit)}, 1
	if q.unit == "" && len(tokens) > 1 && tokens[1].kind == word && isUnit(tokens[1].text) {
		q.unit, n = strings.ToLower(tokens[1].text), 2
	}
	return q, n
}

// unitWords are all the units there are.
var unitWords = func() map[string]bool {
	all := map[string]bool{}
	for _, d := range dimensions {
		for u := range d.units {
			all[u] = true
		}
	}
	return all
}()

func isUnit(s string) bool { return unitWords[strings.ToLower(s)] }

// in turns the quantity into the dimension's own unit. lax takes a number
// without a unit for one in that unit, as a card's field does.
func (q quantity) in(d dimension, lax bool) (float64, error) {
	unit := q.unit
	if unit == "" && lax {
		unit = strings.ToLower(d.base)
	}
	factor, ok := d.units[unit]
	switch {
	case unit == "":
		return 0, fmt.Errorf("%s of what unit? Write %s", number(q.number), d.example)
	case !ok && isUnit(unit):
		return 0, fmt.Errorf("%s%s is not %s; write one such as %s", number(q.number), unit, d.what, d.example)
	case !ok:
		return 0, fmt.Errorf("“%s” is not a unit for %s; write one such as %s", short(unit), d.what, d.example)
	case q.number < 0 && !d.signed:
		return 0, fmt.Errorf("%s cannot be negative; write one such as %s", d.what, d.example)
	case q.number == 0 && !d.signed && !d.none:
		return 0, fmt.Errorf("%s cannot be nothing; write ? while it is unknown", d.what)
	case factor == 1:
		return q.number, nil
	}
	scale := math.Pow(10, float64(d.digits))
	return math.Round((q.number-d.less[unit])*factor*scale) / scale, nil
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// unitsFor is how many units something of that height needs at least.
func unitsFor(mm float64) *int {
	n := rack.UnitsFor(mm)
	return &n
}

func short(s string) string {
	if runes := []rune(s); len(runes) > 40 {
		return string(runes[:37]) + "…"
	}
	return s
}

// MemoryText and CapacityText write bytes as the trade does, memory in powers
// of two and drives in powers of ten: "16GB", "8TB".
func MemoryText(bytes int64) string   { return memory.text(float64(bytes)) }
func CapacityText(bytes int64) string { return capacity.text(float64(bytes)) }
