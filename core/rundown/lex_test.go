package rundown

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func TestALineIsCutIntoTokens(t *testing.T) {
	type tok struct {
		kind     tokenKind
		text     string
		col, end int
	}
	for text, want := range map[string][]tok{
		`24 switch`:          {{word, "24", 1, 3}, {word, "switch", 4, 10}},
		`nas "silo": 2U`:     {{word, "nas", 1, 4}, {quoted, "silo", 5, 11}, {separator, ":", 11, 12}, {word, "2U", 13, 15}},
		`"a \"b\" \\ c"`:     {{quoted, `a "b" \ c`, 1, 15}},
		`17.5" deep`:         {{word, `17.5"`, 1, 6}, {word, "deep", 7, 11}},
		`“curly” x`:          {{quoted, "curly", 1, 8}, {word, "x", 9, 10}},
		`„low”`:              {{quoted, "low", 1, 6}},
		`? ap,spare`:         {{unknown, "?", 1, 2}, {word, "ap", 3, 5}, {separator, ",", 5, 6}, {word, "spare", 6, 11}},
		`depth ?mm`:          {{word, "depth", 1, 6}, {unknown, "?", 7, 8}, {word, "mm", 8, 10}},
		`Ünïcöde "日本" x`:     {{word, "Ünïcöde", 1, 8}, {quoted, "日本", 9, 13}, {word, "x", 14, 15}},
		`ap # "not" a token`: {{word, "ap", 1, 3}},
		``:                   nil,
		`   `:                nil,
	} {
		l, slip := lex(1, text)
		require.Nil(t, slip, text)
		var got []tok
		for _, k := range l.tokens {
			got = append(got, tok{k.kind, k.text, k.col, k.end})
		}
		assert.Equal(t, want, got, text)
	}
}

func TestAnOpenQuoteIsToldWhereItOpens(t *testing.T) {
	_, slip := lex(7, `9 server "open, 4kg`)
	require.NotNil(t, slip)
	assert.Equal(t, Mistake{Line: 7, Column: 10, EndColumn: 20, Say: "the quote that opens here is not closed", Expected: `a closing "`}, *slip)
}

func TestIndentCountsTabsToTheNextStop(t *testing.T) {
	for text, want := range map[string]int{"x": 0, "  x": 2, "\tx": 8, "  \tx": 8, "\t x": 9} {
		l, _ := lex(1, text)
		assert.Equal(t, want, l.indent, "%q", text)
	}
}

func TestQuotedTextComesBack(t *testing.T) {
	for _, s := range []string{"", "plain", `q"uo"te`, `back\slash`, "two\nlines\tand a tab", `\n`, "“curly”", "#:,;?"} {
		text, n, ok := unquote([]rune(quote(s)))
		assert.True(t, ok, "%q", s)
		assert.Equal(t, s, text)
		assert.Equal(t, len([]rune(quote(s))), n)
	}
}

func TestQuantities(t *testing.T) {
	read := func(text string) (quantity, int) {
		l, slip := lex(1, text)
		require.Nil(t, slip)
		return readQuantity(l.tokens)
	}
	for text, want := range map[string]struct {
		quantity
		tokens int
	}{
		"24kg": {quantity{24, "kg"}, 1}, "24 kg": {quantity{24, "kg"}, 2}, "24 KG deep": {quantity{24, "kg"}, 2}, "0.5m": {quantity{0.5, "m"}, 1},
		"24": {quantity{24, ""}, 1}, "24 deep": {quantity{24, ""}, 1}, "-5kg": {quantity{-5, "kg"}, 1}, "3furlong": {quantity{3, "furlong"}, 1},
		"deep": {}, "?": {}, "1.2.3kg": {}, "--5kg": {}, "kg24": {},
	} {
		q, n := read(text)
		assert.Equal(t, want.quantity, q, text)
		assert.Equal(t, want.tokens, n, text)
	}
}

// By hand: 1 ft = 304.8 mm, 1 oz = 28.349523125 g, 1 t = 1000 kg, 1U = 44.45 mm.
func TestConversions(t *testing.T) {
	for _, c := range []struct {
		q    quantity
		d    dimension
		want float64
	}{
		{quantity{1, "ft"}, length, 304.8}, {quantity{17.5, `"`}, length, 444.5}, {quantity{3, "u"}, length, 133.35}, {quantity{32, "cm"}, length, 320},
		{quantity{1, "oz"}, mass, 0.028}, {quantity{2.5, "lb"}, mass, 1.134}, {quantity{0.3, "t"}, mass, 300}, {quantity{0.23, "kv"}, volts, 230},
		{quantity{123.456, "mm"}, length, 123.456},
	} {
		got, err := c.q.in(c.d, false)
		require.NoError(t, err)
		assert.InDelta(t, c.want, got, 1e-12, "%v", c.q)
	}
	_, err := quantity{5, ""}.in(length, false)
	assert.ErrorContains(t, err, "5 of what unit? Write 320mm")
	got, err := quantity{5, ""}.in(length, true)
	require.NoError(t, err)
	assert.Equal(t, 5.0, got, "a card's field has a unit of its own")
	_, err = quantity{5, "kg"}.in(length, true)
	assert.ErrorContains(t, err, "5kg is not a length")
}

func TestHeightsAreWrittenInUnitsWhereTheyAre(t *testing.T) {
	for mm, want := range map[float64]string{44.45: "1U", 88.9: "2U", 22.23: "0.5U", 66.68: "1.5U", 133.35: "3U", 44: "44mm", 430: "430mm", 1.25: "1.25mm"} {
		assert.Equal(t, want, heightText(mm))
	}
	assert.Equal(t, 2, *unitsFor(66.68))
	assert.Equal(t, 1, *unitsFor(44.45))
	assert.Equal(t, 1, *unitsFor(20))
}

func TestTheNearestWord(t *testing.T) {
	words := []string{"switch", "shelf", "server", "spare", "sbc", "faulty", "patch panel"}
	for typed, want := range map[string]string{
		"swich": "switch", "Swithc": "switch", "sevrer": "server", "fualty": "faulty", "pach panel": "patch panel", "sb": "", "srv": "", "toaster": "", "x": "",
		"scb": "sbc",
	} {
		assert.Equal(t, want, nearest(typed, words), typed)
	}
}

// Every fact reads its own example, and writes what reads to the same value.
func TestEveryFactReadsItsExample(t *testing.T) {
	settings := lab.New().Settings()
	settings.Currency = "GBP"
	l, err := lab.New().Apply([]lab.Change{{Before: lab.New().Settings(), After: settings}})
	require.NoError(t, err)
	empty := map[scope]lab.Record{}
	for _, r := range []lab.Record{lab.New().Settings(), lab.Place{ID: "p"}, lab.Rack{ID: "r"}, lab.SpecSheet{ID: "h"}, lab.Device{ID: "d", State: lab.Running}, lab.Draft{ID: "q"}, lab.Step{ID: "s"}, lab.Run{ID: "u"}, lab.Cable{ID: "c", State: lab.CableInUse}} {
		empty[scopeOf(r)] = r
	}
	for _, k := range lab.PartKinds() {
		empty[partScope(k)] = lab.Part{ID: "p", Kind: k, State: lab.Running}
	}
	for i := range facts {
		f := &facts[i]
		require.NotEmpty(t, f.example, "%s has no example", f.name)
		line, slip := lex(1, f.example)
		require.Nil(t, slip)
		s, err := readFact(f.of, line.tokens)
		require.NoError(t, err, f.example)
		require.Same(t, f, s.fact, "%s is read as %s", f.example, s.fact.name)
		if _, reference := s.value.(named); reference {
			continue // Load looks it up
		}
		with := open(empty[f.of])
		value, err := worth(s.value, "GBP")
		require.NoError(t, err)
		f.set(with, value)
		assert.NotEqual(t, empty[f.of], closed(with), f.example)
		if f.raw != nil {
			continue // a comment says it
		}
		written := f.say(l, with)
		require.NotEmpty(t, written, "%s writes nothing", f.name)
		line, _ = lex(1, written)
		again, err := readFact(f.of, line.tokens)
		require.NoError(t, err, written)
		back, err := worth(again.value, "GBP")
		require.NoError(t, err)
		reread := open(empty[f.of])
		again.fact.set(reread, back)
		assert.Equal(t, closed(with), closed(reread), written)
		typed, err := SetFact(l, empty[f.of], f.field, f.show(l, with), "")
		require.NoError(t, err, "%s typed into its field: %s", f.name, f.show(l, with))
		if f.field != "price_minor" { // whose field is the amount alone
			assert.Equal(t, closed(with), typed, f.show(l, with))
		}
		gone, err := SetFact(l, closed(with), f.field, "?", "")
		if f.field != "height_u" {
			require.NoError(t, err, f.name)
			if f.field != "price_minor" {
				assert.Equal(t, empty[f.of], gone, f.name)
			}
		}
	}
}

func TestWordsOfOneKindDoNotMeanTwoThings(t *testing.T) {
	seen := map[scope]map[string]string{}
	for i := range facts {
		f := &facts[i]
		if seen[f.of] == nil {
			seen[f.of] = map[string]string{}
		}
		for _, w := range append(append([]string{}, f.words...), f.phrases...) {
			assert.Empty(t, seen[f.of][w], "%q is both %s and %s", w, f.name, seen[f.of][w])
			seen[f.of][w] = f.name
			_, isKind := kindWords[w]
			assert.False(t, isKind && f.of == scope(lab.KindDevice), "%q is a kind of device too", w)
		}
	}
	words := map[string]lab.DeviceKind{}
	for _, k := range lab.DeviceKinds() {
		for _, w := range append(slices.Clone(synonyms[k]), plain(k.Words())) {
			assert.Empty(t, words[w], "%q is both %s and %s", w, k, words[w])
			words[w] = k
			for _, typed := range []string{w, strings.ToUpper(w), strings.ReplaceAll(w, " ", "-")} {
				l, _ := lex(1, typed)
				kind, n := readKind(l.tokens)
				assert.Equal(t, k, kind, typed)
				assert.Len(t, l.tokens, n, typed)
			}
		}
	}
}

func TestWhereIsRead(t *testing.T) {
	read := func(text string) (*where, int, error) {
		l, slip := lex(1, text)
		require.Nil(t, slip)
		return readWhere(l.tokens)
	}
	in := func(from, to int, face lab.Face, share lab.Share) *where {
		return &where{kind: lab.InUnits, from: from, to: to, single: from == to, face: face, share: share}
	}
	for text, want := range map[string]struct {
		where  *where
		tokens int
	}{
		"7 x":                 {in(7, 7, lab.Front, lab.Whole), 1},
		"12-13 x":             {in(12, 13, lab.Front, lab.Whole), 1},
		"13-12 x":             {in(12, 13, lab.Front, lab.Whole), 1},
		"U12–U13 x":           {in(12, 13, lab.Front, lab.Whole), 1},
		"5 rear x":            {in(5, 5, lab.Rear, lab.Whole), 2},
		"5 back left third x": {in(5, 5, lab.Rear, lab.LeftThird), 4},
		"4 Right Half x":      {in(4, 4, lab.Front, lab.RightHalf), 3},
		"left x":              {&where{kind: lab.AtLeft}, 1},
		"under x":             {&where{kind: lab.Underside}, 1},
		"? x":                 {&where{}, 1},
		`in "Loft" x`:         {&where{kind: lab.InPlace, holder: "Loft"}, 2},
		`on "shelf" x`:        {&where{kind: lab.InPlace, holder: "shelf", on: true}, 2},
		"switch x":            {nil, 0},
		`"Dome" server`:       {nil, 0},
		"12345 x":             {nil, 0},
	} {
		w, n, err := read(text)
		require.NoError(t, err, text)
		assert.Equal(t, want.where, w, text)
		assert.Equal(t, want.tokens, n, text)
	}
	w, n, err := read(`"Dome" 4-5 rear x`)
	require.NoError(t, err)
	assert.Equal(t, "Dome", w.rack)
	assert.Equal(t, 3, n)
	_, _, err = read("in Loft camera")
	assert.ErrorContains(t, err, `write the name in quotes, such as in "Loft"`)
}
