package text

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"
)

// Dimension is what a quantity measures: the units it may be written in, each
// with what one of it is in the unit that records keep.
type Dimension struct {
	what    string // "a length"
	Example string
	Base    string // the unit a bare number has on a card
	Units   map[string]float64
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

// What quantities measure.
var (
	Length = Dimension{what: "a length", Example: "320mm", Base: "mm",
		Units: map[string]float64{"mm": 1, "cm": 10, "m": 1000, "in": 25.4, "inch": 25.4, "inches": 25.4, `"`: 25.4, "″": 25.4, "ft": 304.8,
			"feet": 304.8, "'": 304.8, "u": UnitMM, "ru": UnitMM}, digits: 2}
	Mass = Dimension{what: "a weight", Example: "4.1kg", Base: "kg",
		Units: map[string]float64{"kg": 1, "kilos": 1, "g": 0.001, "lb": 0.45359237, "lbs": 0.45359237, "pounds": 0.45359237,
			"oz": 0.028349523125, "t": 1000}, digits: 3}
	Units = Dimension{what: "a number of units", Example: "2U", Base: "U", Units: map[string]float64{"u": 1, "ru": 1, "unit": 1, "units": 1}}
	Volts = Dimension{what: "a voltage", Example: "230V", Base: "V", Units: map[string]float64{"v": 1, "volt": 1, "volts": 1, "kv": 1000},
		digits: 1}
	Watts = Dimension{what: "a power", Example: "120W", Base: "W",
		Units: map[string]float64{"w": 1, "watt": 1, "watts": 1, "kw": 1000, "mw": 0.001}, digits: 3, none: true}
	VoltAmps = Dimension{what: "an apparent power", Example: "1500VA", Base: "VA", Units: map[string]float64{"va": 1, "kva": 1000}, digits: 1}
	Amps     = Dimension{what: "a current", Example: "10A", Base: "A",
		Units: map[string]float64{"a": 1, "amp": 1, "amps": 1, "ampere": 1, "amperes": 1, "ma": 0.001}, digits: 3}
	Percent = Dimension{what: "a part of a hundred", Example: "80%", Base: "%", Units: map[string]float64{"%": 1, "percent": 1}, digits: 2}
	Sound   = Dimension{what: "a noise", Example: "38dB", Base: "dB", Units: map[string]float64{"db": 1, "dba": 1, "db(a)": 1, "decibels": 1},
		digits: 1, none: true}
	Warmth = Dimension{what: "a temperature", Example: "5C", Base: "C",
		Units: map[string]float64{"c": 1, "°c": 1, "degrees": 1, "f": 5.0 / 9, "°f": 5.0 / 9}, less: map[string]float64{"f": 32, "°f": 32},
		digits: 1, signed: true}
	Hours = Dimension{what: "a number of hours", Example: "32000h", Base: "h",
		Units: map[string]float64{"h": 1, "hour": 1, "hours": 1, "days": 24, "years": 8766}, digits: 1, none: true}
	Minutes = Dimension{what: "a number of minutes", Example: "14min", Base: "min",
		Units: map[string]float64{"min": 1, "mins": 1, "minute": 1, "minutes": 1, "h": 60, "hour": 60, "hours": 60,
			"s": 1.0 / 60, "sec": 1.0 / 60,
			"seconds": 1.0 / 60}, digits: 4, none: true}
	Seconds = Dimension{what: "a number of seconds", Example: "90s", Base: "s",
		Units: map[string]float64{"s": 1, "sec": 1, "secs": 1, "second": 1, "seconds": 1, "min": 60, "mins": 60,
			"minute": 60, "minutes": 60, "h": 3600},
		digits: 1, none: true}
	Energy = Dimension{what: "an energy", Example: "216Wh", Base: "Wh", Units: map[string]float64{"wh": 1, "kwh": 1000}, digits: 1}
	Turns  = Dimension{what: "a speed", Example: "7200rpm", Base: "rpm", Units: map[string]float64{"rpm": 1, "k": 1000, "krpm": 1000}}
	Rate   = Dimension{what: "a rate", Example: "180MB/s", Base: "MB/s", Units: map[string]float64{"mb/s": 1, "gb/s": 1000, "mbyte/s": 1},
		digits: 1}
	Clock = Dimension{what: "a clock rate", Example: "2.4GHz", Base: "GHz", Units: map[string]float64{"ghz": 1, "mhz": 0.001}, digits: 4}
	// capacity is what makers sell: 1 TB is 10^12 bytes (IEC 80000-13).
	Capacity = Dimension{what: "a capacity", Example: "8TB", Base: "TB",
		Units: withBinary(map[string]float64{"b": 1, "bytes": 1, "kb": 1e3, "mb": 1e6, "gb": 1e9, "gigs": 1e9, "tb": 1e12, "t": 1e12,
			"pb": 1e15}),
		steps: []step{{"PB", 1e15}, {"TB", 1e12}, {"GB", 1e9}, {"MB", 1e6}, {"TiB", 1 << 40}, {"GiB", 1 << 30}, {"B", 1}}}
	// memory is counted in powers of two whatever it is called, as modules are
	// sold: 16 GB of memory are 2^34 bytes (JEDEC 100B.01).
	Memory = Dimension{what: "an amount of memory", Example: "16GB", Base: "GB",
		Units: withBinary(map[string]float64{"b": 1, "bytes": 1, "kb": 1 << 10, "mb": 1 << 20, "gb": 1 << 30, "gigs": 1 << 30, "g": 1 << 30,
			"tb": 1 << 40}),
		steps: []step{{"TB", 1 << 40}, {"GB", 1 << 30}, {"MB", 1 << 20}, {"B", 1}}}
)

func withBinary(units map[string]float64) map[string]float64 {
	for i, u := range []string{"kib", "mib", "gib", "tib", "pib"} {
		units[u] = math.Pow(1024, float64(i+1))
	}
	return units
}

// Metres are what cables and runs are measured in.
var Metres = Dimension{what: "a length", Example: "0.25m", Base: "m",
	Units: map[string]float64{"m": 1, "metre": 1, "metres": 1, "meter": 1, "meters": 1,
		"cm": 0.01, "mm": 0.001, "km": 1000, "ft": 0.3048, "feet": 0.3048,
		"in": 0.0254, `"`: 0.0254}, digits: 3}

var dimensions = []Dimension{Length, Metres, Mass, Units, Volts, Watts, VoltAmps, Amps, Percent, Sound, Warmth, Hours,
	Minutes, Seconds, Energy, Turns, Rate,
	Clock, Capacity, Memory}

// Text writes a quantity that is in the base unit so that it reads back.
func (d Dimension) Text(v float64) string {
	for _, s := range d.steps {
		n := v / s.of
		if n >= 1 && Number(n*1000) == Number(math.Round(n*1000)) {
			return Number(n) + s.unit
		}
		// What is no whole number of bytes was rounded when it was read: 1.1GB.
		if few := math.Round(n*100) / 100; n >= 1 && math.Round(few*s.of) == v {
			return Number(few) + s.unit
		}
	}
	if len(d.steps) > 0 {
		return strconv.FormatFloat(v, 'f', 0, 64) + "B"
	}
	return Number(v) + d.Base
}

// Quantity is a number and its unit as they were written.
type Quantity struct {
	number float64
	Unit   string // lower case, "" where none was written
	// either is what was written where it may be read in two ways, such as 1,500.
	either string
}

var fractions = strings.NewReplacer("½", ".5", "¼", ".25", "¾", ".75", "−", "-")

// ReadQuantity reads "320mm", "320 mm" or "17½ in" from the start of the
// tokens and tells how many it took; 0 where they start with no number.
func ReadQuantity(tokens []Token) (Quantity, int) {
	if len(tokens) == 0 || tokens[0].Kind != Word {
		return Quantity{}, 0
	}
	if q, n := partOfMetre(tokens); n > 0 {
		return q, n
	}
	text := strings.TrimPrefix(tokens[0].Text, "~")
	if !isASCII(text) {
		text = fractions.Replace(text)
	}
	digits := strings.TrimLeft(text, "+-")
	if digits == "" || (digits[0] < '0' || digits[0] > '9') && digits[0] != '.' || len(text)-len(digits) > 1 {
		return Quantity{}, 0
	}
	figures := digits
	if strings.IndexByte(digits, '\'') > 0 || !isASCII(digits) {
		text, figures = withoutThousands(text), withoutThousands(digits)
	}
	unit := strings.TrimLeft(figures, "0123456789.,")
	written := text[:len(text)-len(unit)]
	number, err := strconv.ParseFloat(strings.Replace(written, ",", ".", 1), 64)
	if err != nil || unit != "" && notUnit(unit) {
		return Quantity{}, 0
	}
	q, n := Quantity{number: number, Unit: strings.ToLower(unit)}, 1
	if strings.IndexByte(written, ',') > 0 && eitherWay.MatchString(written) {
		q.either = written
	}
	if q.Unit == "" && len(tokens) > 1 && tokens[1].Kind == Word && (IsUnit(tokens[1].Text) || tokens[1].Text == "A") {
		q.Unit, n = strings.ToLower(tokens[1].Text), 2
	}
	return q, n
}

var parts = map[string]float64{"half": 0.5, "quarter": 0.25}

// partOfMetre reads a length in words: half a metre, quarter metre.
func partOfMetre(tokens []Token) (Quantity, int) {
	part, ok := parts[tokens[0].Plain]
	n := 1
	if ok && n < len(tokens) && tokens[n].Is("a") {
		n++
	}
	if !ok || n == len(tokens) || !strings.HasPrefix(tokens[n].Plain, "met") || Metres.Units[tokens[n].Plain] == 0 {
		return Quantity{}, 0
	}
	return Quantity{number: part, Unit: tokens[n].Plain}, n + 1
}

var (
	// eitherWay is a figure whose comma may set thousands apart or decimals.
	eitherWay = regexp.MustCompile(`^[+-]?[1-9][0-9]{0,2},[0-9]{3}$`)
	thousands = regexp.MustCompile(`^[+-]?[0-9]{1,3}(['’\x{a0}\x{2009}\x{202f}][0-9]{3})+`)
)

// notUnit reports whether what follows a figure shows that it is no quantity:
// 1-5, 4x, 4x8.
func notUnit(unit string) bool {
	r, _ := utf8.DecodeRuneInString(unit)
	return strings.ContainsRune("-–—x×:/", r)
}

func isASCII(s string) bool {
	for i := range len(s) {
		if s[i] >= utf8.RuneSelf {
			return false
		}
	}
	return true
}

// withoutThousands takes out the marks that set thousands apart: 1'500 is 1500.
func withoutThousands(s string) string {
	figure := thousands.FindString(s)
	if figure == "" {
		return s
	}
	plain := strings.Map(func(r rune) rune {
		if r == '+' || r == '-' || isDigit(r) {
			return r
		}
		return -1
	}, figure)
	return plain + s[len(figure):]
}

// unitWords are all the units there are.
var unitWords = func() map[string]bool {
	all := map[string]bool{}
	for _, d := range dimensions {
		for u := range d.Units {
			all[u] = true
		}
	}
	delete(all, "a") // 38 a month; 16 A has it in capitals
	return all
}()

// IsUnit reports whether a word is a unit of any dimension.
func IsUnit(s string) bool { return unitWords[strings.ToLower(s)] }

// bareMillimetres is from where on a length without a unit is in millimetres,
// as racks and what goes in them are spoken of: 800 deep.
const bareMillimetres = 100

// In turns the quantity into the dimension's own unit. lax takes a number
// without a unit for one in that unit, as a card's field does.
func (q Quantity) In(d Dimension, lax bool) (float64, error) {
	unit := q.Unit
	if unit == "" && (lax || d.Base == Length.Base && q.number >= bareMillimetres) {
		unit = strings.ToLower(d.Base)
	}
	factor, ok := d.Units[unit]
	switch {
	case q.either != "":
		return 0, fmt.Errorf("%s may be %s or %s; write it without the comma, or with a point", q.either, Number(q.number), Number(q.number*1000))
	case unit == "":
		return 0, fmt.Errorf("%s of what unit? Write %s", Number(q.number), d.Example)
	case !ok && IsUnit(unit):
		return 0, fmt.Errorf("%s%s is not %s; write one such as %s", Number(q.number), unit, d.what, d.Example)
	case !ok:
		return 0, fmt.Errorf("“%s” is not a unit for %s; write one such as %s", Short(unit), d.what, d.Example)
	case q.number < 0 && !d.signed:
		return 0, fmt.Errorf("%s cannot be negative; write one such as %s", d.what, d.Example)
	case q.number == 0 && !d.signed && !d.none:
		return 0, fmt.Errorf("%s cannot be zero; write ? while it is unknown", d.what)
	case factor == 1:
		return q.number, nil
	}
	scale := math.Pow(10, float64(d.digits))
	return math.Round((q.number-d.less[unit])*factor*scale) / scale, nil
}

// Number writes a figure with as many digits as it needs.
func Number(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// MemoryText and CapacityText write bytes as the trade does, memory in powers
// of two and drives in powers of ten: "16GB", "8TB".
func MemoryText(bytes int64) string   { return Memory.Text(float64(bytes)) }
func CapacityText(bytes int64) string { return Capacity.Text(float64(bytes)) }

// ReadMeasure reads a quantity that is all of the phrase, nil for unknown.
func ReadMeasure(tokens []Token, d Dimension, lax bool) (*float64, error) {
	if IsUnknown(tokens) {
		return nil, nil
	}
	q, n := ReadQuantity(tokens)
	if n == 0 || n < len(tokens) {
		return nil, fmt.Errorf("“%s” is not %s; write one such as %s, or ? while it is unknown", Short(Joined(tokens)), d.what, d.Example)
	}
	v, err := q.In(d, lax)
	return &v, err
}

// IsUnknown reports whether a phrase says unknown.
func IsUnknown(tokens []Token) bool {
	return len(tokens) > 0 && (tokens[0].Kind == Unknown || len(tokens) == 1 && tokens[0].Is("unknown"))
}

// Measured reads a quantity in the dimension that has the base unit, or a bare
// number where that is "", to compare a fact with.
func Measured(base, typed string) (float64, error) {
	for _, d := range dimensions {
		if d.Base == base && base != "" {
			return measuredIn(d, typed)
		}
	}
	return measuredIn(Dimension{what: "a number", Example: "8", Base: "x", Units: map[string]float64{"x": 1}, none: true, signed: true}, typed)
}

// MemoryBytes and CapacityBytes read amounts of memory and capacities.
func MemoryBytes(typed string) (float64, error)   { return measuredIn(Memory, typed) }
func CapacityBytes(typed string) (float64, error) { return measuredIn(Capacity, typed) }

func measuredIn(d Dimension, typed string) (float64, error) {
	text, slip := LexField(typed)
	if slip != nil {
		return 0, slip
	}
	v, err := ReadMeasure(text.Tokens, d, true)
	if v == nil || err != nil {
		return 0, err
	}
	return *v, nil
}

// UnitMM is a rack unit in millimetres (EIA-310 / IEC 60297).
const UnitMM = 44.45

// Height writes a height in millimetres, in units where it is a whole or half
// number of them. It reads back to the same length.
func Height(mm float64) string {
	u := float64(int(mm/UnitMM*2+0.5)) / 2
	if u > 0 {
		if same, _ := (Quantity{number: u, Unit: "u"}).In(Length, false); same == mm {
			return Number(u) + "U"
		}
	}
	return Length.Text(mm)
}

var unitAfter = regexp.MustCompile(`(\d)(mm|km|m|kg|W|VA|V|A|TB|GB|MB|dB|GHz|rpm|h|C)\b`)

// Spaced sets the units of quantities apart, for reading: "25 kg", "8 TB".
func Spaced(s string) string { return unitAfter.ReplaceAllString(s, "$1 $2") }
