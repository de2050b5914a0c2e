package rundown

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

func TestHeightsAreWrittenInUnitsWhereTheyAre(t *testing.T) {
	for mm, want := range map[float64]string{44.45: "1U", 88.9: "2U", 22.23: "0.5U", 66.68: "1.5U", 133.35: "3U", 44: "44mm", 430: "430mm",
		1.25: "1.25mm"} {
		assert.Equal(t, want, text.Height(mm))
	}
	assert.Equal(t, 2, *unitsFor(66.68))
	assert.Equal(t, 1, *unitsFor(44.45))
	assert.Equal(t, 1, *unitsFor(20))
}

func TestEveryFactReadsItsExample(t *testing.T) {
	settings := lab.New().Settings()
	settings.Currency = "GBP"
	l, err := lab.New().Apply([]lab.Change{{Before: lab.New().Settings(), After: settings}})
	require.NoError(t, err)
	empty := map[scope]lab.Record{}
	for _, k := range lab.Kinds() {
		r := lab.Blank(k.RecordKind, "x")
		empty[scopeOf(r)] = r
	}
	empty[scope(lab.KindLab)] = lab.New().Settings()
	for _, k := range lab.PartKinds() {
		empty[partScope(k)] = lab.Part{ID: "p", Kind: k, State: lab.Running}
	}
	empty[ofGuest] = lab.Device{ID: "g", Kind: lab.VM, State: lab.Running}
	empty[partScope("")] = lab.Part{ID: "p", State: lab.Running}
	for i := range facts {
		f := &facts[i]
		if f.head || f.apart {
			continue // it is in the head of its line, or makes a record of its own
		}
		require.NotEmpty(t, f.example, "%s has no example", f.name)
		line, slip := text.Lex(1, f.example)
		require.Nil(t, slip)
		s, err := readFact(f.of, line.Tokens)
		require.NoError(t, err, f.example)
		require.Same(t, f, s.fact, "%s is read as %s", f.example, s.fact.name)
		if f.names != "" {
			continue // Load looks it up
		}
		with := open(empty[f.of])
		value, err := settingOf(l, closed(with), "").out(s.value)
		require.NoError(t, err)
		f.set(with, value)
		assert.NotEqual(t, empty[f.of], closed(with), f.example)
		if f.raw != nil {
			continue // a comment says it
		}
		written := f.say(l, with)
		require.NotEmpty(t, written, "%s writes nothing", f.name)
		line, _ = text.Lex(1, written)
		again, err := readFact(f.of, line.Tokens)
		if f.field == "remarks" && !strings.HasPrefix(written, "remark ") {
			again, err = kept(f.of, line.Tokens), nil
		}
		require.NoError(t, err, written)
		back, err := settingOf(l, closed(with), "").out(again.value)
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
		if f.needed == "" {
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
		for _, w := range append(slices.Clone(synonyms[k]), text.Plain(k.Words())) {
			assert.Empty(t, words[w], "%q is both %s and %s", w, k, words[w])
			words[w] = k
			for _, typed := range []string{w, strings.ToUpper(w), strings.ReplaceAll(w, " ", "-")} {
				l, _ := text.Lex(1, typed)
				kind, n := readKind(l.Tokens)
				assert.Equal(t, k, kind, typed)
				assert.Len(t, l.Tokens, n, typed)
			}
		}
	}
}

func TestWhereIsRead(t *testing.T) {
	read := func(typed string) (*where, int, error) {
		l, slip := text.Lex(1, typed)
		require.Nil(t, slip)
		return readWhere(l.Tokens)
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
		"in Loft camera":      {&where{kind: lab.InPlace, holder: "Loft"}, 2},
		"on the shelf hub":    {&where{kind: lab.InPlace, what: lab.Shelf, on: true}, 3},
		"in drawer crimper":   {&where{kind: lab.InPlace, what: lab.Drawer}, 2},
		"bottom ups":          {&where{kind: lab.InUnits, face: lab.Front, share: lab.Whole, from: 1, to: 1, single: true, bottom: true}, 1},
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
	_, _, err = read("in Loft")
	assert.ErrorContains(t, err, `write the name in quotes, such as in "Loft"`)
}
