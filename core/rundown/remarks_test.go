package rundown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// An unusual phrase is kept as it was said and comes back; a known word
// misspelt, and a figure nobody can place, are mistakes.
func TestAnUnusualPhraseIsKept(t *testing.T) {
	base := fresh(t, "rack \"R\": 9U, 19in\n9 server \"anvil\": 4kg\n5 switch \"core\": 24 ports rj45\n? ups \"u\"\n")
	for line, want := range map[string]string{
		`server "anvil": not bolted`:                            "not bolted",
		`server "anvil": open frame, 5kg, lent by a neighbour`:  "open frame; lent by a neighbour",
		`server "anvil": remark "24 of them", printed mount`:    "24 of them; printed mount",
		`server "anvil": lid "off" in summer`:                   `lid off in summer`,
		`server "anvil": remark "quiet", remark "quiet"`:        "quiet",
		`server "anvil": lent "; by a neighbour"`:               "lent ; by a neighbour",
		`rack "R": 9U, lids off when it runs`:                   "lids off when it runs",
		`place "Loft": damp in winter`:                          "damp in winter",
		`run "stairs": 18m, behind the skirting`:                "behind the skirting",
		`server "anvil": weighs as a feather`:                   "weighs as a feather",
		`server "anvil": 7 inch screen bolted to it`:            "7 inch screen bolted to it",
		`server "anvil": 43dB when it sings`:                    "43dB when it sings",
		`server "anvil": 2 of them in use`:                      "2 of them in use",
		`server "anvil": from my brother`:                       "from my brother",
		`server "anvil": 802.11ax`:                              "802.11ax",
		`switch "core": 24 ports rj45 managed 1G`:               "managed",
		`ups "u": lead, 2 outlets filtered`:                     "lead",
		`core/1 - ? 3m yellow, over the door frame`:             "over the door frame",
		`"anvil" bay 1 drive "old": 2TB, makes a ticking noise`: "makes a ticking noise",
	} {
		p := typed(t, base, line)
		require.Empty(t, p.Mistakes, line)
		var found []string
		for _, c := range p.Changes {
			if list := remarksOf(c.After); len(list) > 0 {
				found = append(found, strings.Join(list, "; "))
			}
		}
		assert.Equal(t, []string{want}, found, line)
		again := rundown.Load(lab.New(), rundown.Parse(rundown.Print(p.Lab)), rundown.Options{All: true, NewID: counter()})
		assert.Empty(t, again.Mistakes, rundown.Print(p.Lab))
		assert.Equal(t, rundown.Print(p.Lab), rundown.Print(again.Lab), "what is written reads back")
	}
	for line, say := range map[string]string{
		`server "anvil": faluty`:      "did you mean faulty?",
		`server "anvil": 5furlong`:    "“furlong” is not a unit",
		`server "anvil": 24GB deep`:   "24gb is not a length",
		`server "anvil": 24`:          "24 of what?",
		`server "anvil": 300mm`:       "300mm of what?",
		`switch "core": 24 prts rj45`: "did you mean ports?",
		`server "anvil": 4x 8TB hddd`: "",
		`core/1 - ? blurple`:          "did you mean purple?",
		`rack "R": 9U, castrs`:        "",
	} {
		p := typed(t, base, line)
		require.NotEmpty(t, p.Mistakes, line)
		assert.Contains(t, p.Mistakes[0].Say, say, line)
	}
}

func TestALineAddsARemarkAndAWholeTextHasThemAll(t *testing.T) {
	base := fresh(t, "? server \"anvil\": not bolted\n")
	p := typed(t, base, `server "anvil": rented`)
	anvil := func(l *lab.Lab) []string {
		id, _ := rundown.DeviceNamed(l)("anvil")
		d, _ := lab.Find[lab.Device](l, id)
		return d.Remarks
	}
	assert.Equal(t, []string{"not bolted", "rented"}, anvil(p.Lab))
	whole := rundown.Load(p.Lab, rundown.Parse("? server \"anvil\": rented\n"), rundown.Options{All: true, NewID: counter()})
	assert.Equal(t, []string{"rented"}, anvil(whole.Lab))
}

func remarksOf(r lab.Record) []string {
	switch r := r.(type) {
	case lab.Device:
		return r.Remarks
	case lab.Part:
		return r.Remarks
	case lab.Rack:
		return r.Remarks
	case lab.Place:
		return r.Remarks
	case lab.Run:
		return r.Remarks
	case lab.Cable:
		return r.Remarks
	}
	return nil
}

// A word that is no kind known here makes the kind other with that word.
func TestAnUnusualKindIsKept(t *testing.T) {
	l := fresh(t, `rack "R": 9U
9 air conditioner "chill": 4kg, leaks
5 shelf "s":
  harp amplifier "amp"
place "Loft"
  kiln "oven"
`)
	d := named(t, l, "chill")
	assert.Equal(t, []any{lab.Other, "air conditioner", "air conditioner"}, []any{d.Kind, d.Own, d.KindWords()})
	assert.Equal(t, []string{"leaks"}, d.Remarks)
	amp := named(t, l, "amp")
	assert.Equal(t, []any{lab.Amplifier, []string{"harp"}}, []any{amp.Kind, amp.Remarks}, "a kind with another word")
	text := rundown.Print(l)
	assert.Contains(t, text, `air conditioner "chill"`)
	again := fresh(t, text)
	assert.Equal(t, text, rundown.Print(again))
	assert.Equal(t, "air conditioner", named(t, typed(t, l, `other "chill": 5kg`).Lab, "chill").Own, "said less exactly, it stays")
	is, err := rundown.SetFact(l, d, "device_kind", "server", "")
	require.NoError(t, err)
	assert.Equal(t, []any{lab.Server, ""}, []any{is.(lab.Device).Kind, is.(lab.Device).Own})
	is, err = rundown.SetFact(l, is, "device_kind", "tuner", "")
	require.NoError(t, err)
	assert.Equal(t, "tuner", is.(lab.Device).KindWords())
	_, err = rundown.SetFact(l, is, "device_kind", "swich", "")
	assert.ErrorContains(t, err, "did you mean switch")

	odd := typed(t, l, `other "chill": is a "switch 9"`)
	require.Empty(t, odd.Mistakes)
	assert.Equal(t, rundown.Print(odd.Lab), rundown.Print(fresh(t, rundown.Print(odd.Lab))), "words that read as something else are quoted")

	for line, say := range map[string]string{
		`7 naz "x"`:   "did you mean nas?",
		`7 pool "x"`:  "is not a kind",
		`7 kin of`:    "is not a kind",
		`7 drive "x"`: "",
	} {
		p := typed(t, l, line)
		require.NotEmpty(t, p.Mistakes, line)
		assert.Contains(t, p.Mistakes[0].Say, say, line)
	}
}

// Figures without a word mean what they mean on that kind of device.
func TestBareFiguresMeanWhatTheyMeanOnTheKind(t *testing.T) {
	l := fresh(t, `rack "R": 12U
1-2 ups "keep": 1500VA, 900W, 35 min, 420W for 2min
3 nas "silo": 64GB, 10G, 28W
4 switch "core": 24 ports, 2 sfp+ 10G, 22W
5 patch panel "P": 24 ports
6 pdu "bar": 13A
7 server "amp": 9kg
    card: network, 2 wide
    supply: 450W
`)
	keep, silo := named(t, l, "keep"), named(t, l, "silo")
	assert.Empty(t, keep.Remarks)
	assert.Equal(t, []float64{35, 2, 420}, []float64{keep.Runtimes[0].Minutes, keep.Runtimes[1].Minutes, *keep.Runtimes[1].W})
	assert.Equal(t, []float64{1500, 900}, []float64{*keep.RatedVA, *keep.RatedW})
	assert.Nil(t, keep.TypicalW)
	assert.Equal(t, 28.0, *silo.TypicalW)
	assert.Equal(t, []string{"10G"}, silo.Remarks)
	assert.Nil(t, silo.WeightKG, "10G is a speed, and no weight of ten grams")
	assert.Equal(t, int64(64<<30), *l.PartsOf(silo.ID)[0].SizeBytes)
	assert.Equal(t, "rj45", named(t, l, "core").Ports[0].Connector)
	assert.Equal(t, "keystone", named(t, l, "P").Ports[0].Connector)
	assert.Equal(t, 13.0, *named(t, l, "bar").RatedA)
	parts := l.PartsOf(named(t, l, "amp").ID)
	require.Len(t, parts, 2)
	for i, kind := range []lab.PartKind{lab.Card, lab.Supply} {
		assert.Equal(t, []any{kind, 0}, []any{parts[i].Kind, parts[i].Seat}, "without a seat it is loose inside")
	}
	text := rundown.Print(l)
	assert.Equal(t, text, rundown.Print(fresh(t, text)), "what is written reads back")
	assert.Empty(t, typed(t, l, `nas "silo": 64GB`).Changes, "said again it changes nothing")
	assert.Equal(t, []string{"10G", "2TB"}, named(t, typed(t, l, `nas "silo": 2TB`).Lab, "silo").Remarks, "no two terabytes of memory")
}
