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
}

var (
	length = dimension{"a length", "320mm", "mm", map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": 25.4, "inch": 25.4, "inches": 25.4, `"`: 25.4, "″": 25.4, "ft": 304.8, "u": rack.UnitMM, "ru": rack.UnitMM}, 2}
	mass   = dimension{"a weight", "4.1kg", "kg", map[string]float64{"kg": 1, "g": 0.001, "lb": 0.45359237, "lbs": 0.45359237, "oz": 0.028349523125, "t": 1000}, 3}
	units  = dimension{"a number of units", "2U", "U", map[string]float64{"u": 1, "ru": 1, "unit": 1, "units": 1}, 0}
	volts  = dimension{"a voltage", "230V", "V", map[string]float64{"v": 1, "volt": 1, "volts": 1, "kv": 1000}, 1}
)

// quantity is a number and its unit as they were written.
type quantity struct {
	number float64
	unit   string // lower case, "" where none was written
}

// readQuantity reads "320mm" or "320 mm" from the start of the tokens and
// tells how many it took; 0 where they start with no number.
func readQuantity(tokens []token) (quantity, int) {
	if len(tokens) == 0 || tokens[0].kind != word {
		return quantity{}, 0
	}
	text := tokens[0].text
	digits := strings.TrimLeft(text, "+-")
	if digits == "" || digits[0] < '0' || digits[0] > '9' || len(text)-len(digits) > 1 {
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

func isUnit(s string) bool {
	for _, d := range []dimension{length, mass, units, volts} {
		if _, ok := d.units[strings.ToLower(s)]; ok {
			return true
		}
	}
	return false
}

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
	case q.number < 0:
		return 0, fmt.Errorf("%s cannot be negative; write one such as %s", d.what, d.example)
	case q.number == 0:
		return 0, fmt.Errorf("%s cannot be nothing; write ? while it is unknown", d.what)
	case factor == 1:
		return q.number, nil
	}
	scale := math.Pow(10, float64(d.digits))
	return math.Round(q.number*factor*scale) / scale, nil
}

func number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// mmText writes a length, heightText one that people give in units when it is
// a whole or half number of them. Both read back to the same length.
func mmText(mm float64) string { return number(mm) + "mm" }

func heightText(mm float64) string {
	u := math.Round(mm/rack.UnitMM*2) / 2
	if u > 0 {
		if same, _ := (quantity{u, "u"}).in(length, false); same == mm {
			return number(u) + "U"
		}
	}
	return mmText(mm)
}

// unitsFor is how many units something of that height needs at least.
func unitsFor(mm float64) *int {
	n := int(math.Ceil(math.Round(mm/rack.UnitMM*100) / 100))
	return &n
}

func kgText(kg float64) string { return number(kg) + "kg" }

func voltText(v float64) string { return number(v) + "V" }

func short(s string) string {
	if runes := []rune(s); len(runes) > 40 {
		return string(runes[:37]) + "…"
	}
	return s
}
