package text

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestALineIsCutIntoTokens(t *testing.T) {
	type tok struct {
		kind     TokenKind
		text     string
		col, end int
	}
	for text, want := range map[string][]tok{
		`24 switch`:          {{Word, "24", 1, 3}, {Word, "switch", 4, 10}},
		`nas "silo": 2U`:     {{Word, "nas", 1, 4}, {Quoted, "silo", 5, 11}, {Separator, ":", 11, 12}, {Word, "2U", 13, 15}},
		`"a \"b\" \\ c"`:     {{Quoted, `a "b" \ c`, 1, 15}},
		`17.5" deep`:         {{Word, `17.5"`, 1, 6}, {Word, "deep", 7, 11}},
		`“curly” x`:          {{Quoted, "curly", 1, 8}, {Word, "x", 9, 10}},
		`„low”`:              {{Quoted, "low", 1, 6}},
		`? ap,spare`:         {{Unknown, "?", 1, 2}, {Word, "ap", 3, 5}, {Separator, ",", 5, 6}, {Word, "spare", 6, 11}},
		`depth ?mm`:          {{Word, "depth", 1, 6}, {Unknown, "?", 7, 8}, {Word, "mm", 8, 10}},
		`Ünïcöde "日本" x`:     {{Word, "Ünïcöde", 1, 8}, {Quoted, "日本", 9, 13}, {Word, "x", 14, 15}},
		`ap # "not" a token`: {{Word, "ap", 1, 3}},
		``:                   nil,
		`   `:                nil,
	} {
		l, slip := Lex(1, text)
		require.Nil(t, slip, text)
		var got []tok
		for _, k := range l.Tokens {
			got = append(got, tok{k.Kind, k.Text, k.Col, k.End})
		}
		assert.Equal(t, want, got, text)
	}
}

func TestAnOpenQuoteIsReportedWhereItOpens(t *testing.T) {
	_, slip := Lex(7, `9 server "open, 4kg`)
	require.NotNil(t, slip)
	assert.Equal(t, Mistake{Line: 7, Column: 10, EndColumn: 20, Say: "the quote that opens here is not closed", Expected: `a closing "`},
		*slip)
}

func TestIndentCountsTabsToTheNextStop(t *testing.T) {
	for text, want := range map[string]int{"x": 0, "  x": 2, "\tx": 8, "  \tx": 8, "\t x": 9} {
		l, _ := Lex(1, text)
		assert.Equal(t, want, l.Indent, "%q", text)
	}
}

func TestQuotedTextComesBack(t *testing.T) {
	for _, s := range []string{"", "plain", `q"uo"te`, `back\slash`, "two\nlines\tand a tab", `\n`, "“curly”", "#:,;?"} {
		text, n, ok := unquote([]rune(Quote(s)))
		assert.True(t, ok, "%q", s)
		assert.Equal(t, s, text)
		assert.Equal(t, len([]rune(Quote(s))), n)
	}
}

func TestQuantities(t *testing.T) {
	read := func(text string) (Quantity, int) {
		l, slip := Lex(1, text)
		require.Nil(t, slip)
		return ReadQuantity(l.Tokens)
	}
	for text, want := range map[string]struct {
		Quantity
		tokens int
	}{
		"24kg": {qty(24, "kg"), 1}, "24 kg": {qty(24, "kg"), 2}, "24 KG deep": {qty(24, "kg"), 2}, "0.5m": {qty(0.5, "m"), 1},
		"24": {qty(24, ""), 1}, "24 deep": {qty(24, ""), 1}, "-5kg": {qty(-5, "kg"), 1}, "3furlong": {qty(3, "furlong"), 1},
		"deep": {}, "?": {}, "1.2.3kg": {}, "--5kg": {}, "kg24": {},
	} {
		q, n := read(text)
		assert.Equal(t, want.Quantity, q, text)
		assert.Equal(t, want.tokens, n, text)
	}
}

// By hand: 1 ft = 304.8 mm, 1 oz = 28.349523125 g, 1 t = 1000 kg, 1U = 44.45 mm.
func TestConversions(t *testing.T) {
	for _, c := range []struct {
		q    Quantity
		d    Dimension
		want float64
	}{
		{qty(1, "ft"), Length, 304.8}, {qty(17.5, `"`), Length, 444.5}, {qty(3, "u"), Length, 133.35}, {qty(32, "cm"), Length, 320},
		{qty(1, "oz"), Mass, 0.028}, {qty(2.5, "lb"), Mass, 1.134}, {qty(0.3, "t"), Mass, 300}, {qty(0.23, "kv"), Volts, 230},
		{qty(123.456, "mm"), Length, 123.456},
	} {
		got, err := c.q.In(c.d, false)
		require.NoError(t, err)
		assert.InDelta(t, c.want, got, 1e-12, "%v", c.q)
	}
	_, err := qty(5, "").In(Length, false)
	assert.ErrorContains(t, err, "5 of what unit? Write 320mm")
	got, err := qty(5, "").In(Length, true)
	require.NoError(t, err)
	assert.Equal(t, 5.0, got, "a card's field has a unit of its own")
	_, err = qty(5, "kg").In(Length, true)
	assert.ErrorContains(t, err, "5kg is not a length")
}

func TestTheNearestWord(t *testing.T) {
	words := []string{"switch", "shelf", "server", "spare", "sbc", "faulty", "patch panel"}
	for typed, want := range map[string]string{
		"swich": "switch", "Swithc": "switch", "sevrer": "server", "fualty": "faulty", "pach panel": "patch panel", "sb": "", "srv": "", "toaster": "", "x": "",
		"scb": "sbc",
	} {
		assert.Equal(t, want, Nearest(typed, words), typed)
	}
}

// Every fact reads its own example, and writes what reads to the same value.

func TestUnitsAreSetApartForReading(t *testing.T) {
	assert.Equal(t, "4 TB, 22.68 kg, 24U, 8 bays 3.5in, 2.5G", Spaced("4TB, 22.68kg, 24U, 8 bays 3.5in, 2.5G"))
}

func qty(n float64, unit string) Quantity { return Quantity{number: n, Unit: unit} }

// Decimals with a comma, thousands set apart, times of day: one word each.
func TestFiguresAsTheWorldWritesThem(t *testing.T) {
	for typed, want := range map[string]float64{"1,5m": 1500, "0,250m": 250, "1'500mm": 1500, "1’500 mm": 1500, "1\u2009500mm": 1500,
		"12\u202f000\u00a0mm": 12000, "1,25 m": 1250, "2.5m": 2500, "-1,5m": 0} {
		line, slip := Lex(1, typed)
		require.Nil(t, slip)
		v, err := ReadMeasure(line.Tokens, Length, false)
		if want == 0 {
			assert.Error(t, err, typed)
			continue
		}
		require.NoError(t, err, typed)
		assert.Equal(t, want, *v, typed)
	}
	for _, typed := range []string{"1,500m", "12,000m"} {
		line, _ := Lex(1, typed)
		_, err := ReadMeasure(line.Tokens, Length, false)
		assert.ErrorContains(t, err, "may be", typed)
	}
	for typed, words := range map[string][]string{"on 07:00-23:00": {"on", "07:00-23:00"}, "8,12 x": {"8,12", "x"}, "8, 12": {"8", ",", "12"},
		"8kg,12W": {"8kg", ",", "12W"}, "core:24": {"core", ":", "24"}, "tagged 20,30": {"tagged", "20,30"}} {
		line, _ := Lex(1, typed)
		var got []string
		for _, t := range line.Tokens {
			got = append(got, t.Text)
		}
		assert.Equal(t, words, got)
	}
	for _, typed := range []string{"1-5", "4x", "4x8", "07:00"} {
		line, _ := Lex(1, typed)
		_, n := ReadQuantity(line.Tokens)
		assert.Zero(t, n, typed+" is no quantity")
	}
}

func TestHowDeepJSONIs(t *testing.T) {
	deep := strings.Repeat(`{"a":[`, 16)
	assert.False(t, Deeper([]byte(deep), 32))
	assert.True(t, Deeper([]byte(deep+"["), 32))
	assert.False(t, Deeper([]byte(`["`+strings.Repeat("[", 100)+`\\", "\"[[["]`), 3), "brackets in strings are none")
	assert.False(t, Deeper([]byte(strings.Repeat("[]", 1000)), 2), "beside each other they are not deep")
}

// An amount that is no whole number of bytes is written as it was said.
func TestMemoryIsWrittenAsItWasSaid(t *testing.T) {
	for _, said := range []string{"1.1GB", "0.3GB", "1.25GB", "24GB", "512MB", "3.4GB", "333B"} {
		line, slip := Lex(1, said)
		require.Nil(t, slip)
		v, err := ReadMeasure(line.Tokens, Memory, false)
		require.NoError(t, err)
		written := Memory.Text(*v)
		line, _ = Lex(1, written)
		again, err := ReadMeasure(line.Tokens, Memory, false)
		require.NoError(t, err)
		assert.Equal(t, *v, *again, "%s is written as %s", said, written)
		assert.Less(t, len(written), 8, written)
	}
}
