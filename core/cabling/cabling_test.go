package cabling_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

func at(t *testing.T, l *lab.Lab, name, port string) lab.End {
	t.Helper()
	id, ok := rundown.DeviceNamed(l)(name)
	require.True(t, ok, name)
	return lab.End{Device: id, Port: port}
}

const house = `lab "House"
run "stairs run": 18m, inside 25mm
rack "R": 12U, 800mm deep
12 patch panel "PP1": takes 1U, 24 ports rj45 1G
11 switch "core": takes 1U, 24 ports rj45 100M/1G, 4 ports sfp+ 1G/10G
10 server "anvil": takes 1U, on rails, 700mm deep, 2 ports rj45 1G rear, 2 ports sfp+ 10G rear
9 server "silo": takes 1U, 2 ports rj45 1G/2.5G/10G, 9kg
8 switch "fast": takes 1U, 8 ports rj45 100M/1G/2.5G/10G
place "Loft"
	wall plate "plate": 2 ports rj45 1G
	access point "ap": 1 ports rj45 100M/1G/2.5G
	access point "far ap": 1 ports rj45 1G
`

func trail(t *testing.T, l *lab.Lab, name, port string) cabling.Trail {
	t.Helper()
	tr, ok := cabling.Of(l).TrailFrom(at(t, l, name, port))
	require.True(t, ok)
	return tr
}

func words(tr cabling.Trail) string {
	var said []string
	for _, s := range tr.Stops {
		said = append(said, s.Title+"/"+s.Port)
	}
	return strings.Join(said, " ")
}

func TestATrailGoesThroughPanelsToTheLastPort(t *testing.T) {
	l := labtest.From(t, house+`core/3 - PP1/3 0.25m cat6
PP1/3 = plate/1 cat6 via "stairs run"
plate/1 - ap/1 1m cat6, label "up"
`)
	tr := trail(t, l, "core", "3")
	assert.Equal(t, "core/3 PP1/3 plate/1 ap/1", words(tr))
	assert.Equal(t, cabling.EndsInPort, tr.End)
	assert.InDelta(t, 19.25, tr.LengthM, 1e-9, "0.25 + the run's 18 + 1")
	assert.Equal(t, "1 Gb/s", tr.Speed.Words())
	assert.Equal(t, "core 3, PP1 3 and plate 1", tr.Speed.HeldBy)
	assert.Equal(t, 2500, tr.Speed.RestMb, "Cat 6 would carry 10, the access point 2.5")

	assert.Equal(t, "ap/1 plate/1 PP1/3 core/3", words(trail(t, l, "ap", "1")), "from its far end it is the same trail")
	assert.Equal(t, tr, trail(t, l, "PP1", "3"), "and from the middle")
}

func TestHowTrailsEnd(t *testing.T) {
	for name, c := range map[string]struct {
		lines, from, port, stops string
		end                      cabling.TrailEnd
	}{
		"at a plate with nothing in it":     {"core/1 - PP1/1\nPP1/1 = plate/1", "core", "1", "core/1 PP1/1 plate/1", cabling.EndsAtGap},
		"somewhere in the wall":             {"core/1 - PP1/1\nPP1/1 = ?", "core", "1", "core/1 PP1/1", cabling.EndsOpen},
		"at a panel":                        {"core/1 - PP1/1", "core", "1", "core/1 PP1/1", cabling.EndsAtGap},
		"in a circle":                       {"PP1/1 - PP1/2\nPP1/1 = PP1/2", "PP1", "1", "PP1/1 PP1/2 PP1/1", cabling.EndsInLoop},
		"nobody knows on either side":       {"PP1/1 - ?\nPP1/1 = ?", "PP1", "1", "PP1/1", cabling.EndsOpen},
		"in the rear of a panel from below": {"PP1/1 rear - core/1", "PP1", "1", "core/1 PP1/1", cabling.EndsAtGap},
	} {
		t.Run(name, func(t *testing.T) {
			l := labtest.From(t, house+c.lines+"\n")
			tr := trail(t, l, c.from, c.port)
			assert.Equal(t, c.end, tr.End)
			assert.Equal(t, c.stops, words(tr))
			pieces := 0
			for _, tr := range cabling.Of(l).Trails() {
				pieces += len(tr.Pieces)
			}
			assert.Equal(t, strings.Count(c.lines, "\n")+1, pieces, "each cable is in one trail of the lab")
		})
	}
}

func TestWhichPortsMayBePartners(t *testing.T) {
	l := labtest.From(t, house+"pdu \"strip\": 2 outlets c13\ncore/2 - PP1/2, label \"A2\"\n")
	w := cabling.Of(l)
	partner := func(from, port, to, key string) (lab.CableKind, string) {
		id := at(t, l, to, key).Device
		for _, p := range w.PartnersOf(at(t, l, from, port), []lab.ID{id}) {
			if p.Port == key {
				return p.Kind, p.Why
			}
		}
		t.Fatal("no port", key)
		return "", ""
	}
	for _, c := range []struct {
		from, port, to, key string
		kind                lab.CableKind
		why                 string
	}{
		{"core", "1", "PP1", "1", lab.Cat6, ""},
		{"core", "1", "PP1", "2", "", "A2 is in it"},
		{"core", "1", "core", "1", "", "this is where the cable begins"},
		{"core", "1", "core", "in1", "", "no cable connects RJ45 to power"},
		{"core", "s1", "anvil", "s1", lab.DAC, ""},
		{"core", "s1", "anvil", "1", "", "SFP+ cage against RJ45: a transceiver with an RJ45 socket in the cage would fix it"},
		{"strip", "out1", "strip", "out2", "", "an outlet feeds an inlet"},
		{"strip", "out1", "core", "in1", "", ""},
	} {
		kind, why := partner(c.from, c.port, c.to, c.key)
		assert.Equal(t, c.kind, kind, "%s/%s", c.from, c.port)
		assert.Equal(t, c.why, why, "%s/%s - %s/%s", c.from, c.port, c.to, c.key)
	}
}

func TestHowFullARunIs(t *testing.T) {
	// A conduit of 25 mm has 490.9 mm2, of which three or more cables may take
	// 196.3; Cat 6 has 29.2 mm2, so six go in.
	for n, want := range map[int]int{0: 6, 1: 5, 4: 2, 6: 0, 7: 0} {
		text := house
		for i := range n {
			text += fmt.Sprintf("PP1/%d = ? cat6 via \"stairs run\"\n", i+1)
		}
		l := labtest.From(t, text)
		use := cabling.Of(l).Runs()[0]
		require.NotNil(t, use.More)
		assert.Equal(t, want, *use.More, n)
		assert.Equal(t, n > 6, use.Over, n)
	}
	l := labtest.From(t, house+"PP1/1 = ? via \"stairs run\"\n")
	use := cabling.Of(l).Runs()[0]
	assert.Nil(t, use.More, "what goes in beside a cable nobody knows, nobody knows")
	assert.Equal(t, 1, use.Unknown)
	assert.Equal(t, []any{6.1, true}, []any{use.Holds[0].WideMM, use.Holds[0].Guessed}, "drawn as wide as Cat 6, and as a guess")
}

func TestTheShortestStockLength(t *testing.T) {
	for need, want := range map[float64]float64{0.1: 0.15, 0.25: 0.25, 0.251: 0.3, 0.9: 1, 7.6: 10, 30: 30} {
		got, ok := cabling.Stock(need)
		assert.True(t, ok)
		assert.Equal(t, want, got, need)
	}
	_, ok := cabling.Stock(30.1)
	assert.False(t, ok)
}

func TestLengthsFromTheRack(t *testing.T) {
	// PP1 at 12 and core at 11 are a unit, 44.45 mm, apart. The panel's 24 ports
	// stand in one row, as wide as the face without its name, 375.1 mm; the
	// switch's in two rows of 12, 16 mm each, with 4 columns of cages beside them.
	// So the panel's begin at 90 mm and are 15.6292 mm apart, the switch's at
	// 465.1 - 256 = 209.1 mm and are 16 mm apart.
	l := labtest.From(t, house+"core/1 - PP1/1\ncore/2 - PP1/2 via left\nfast/1 - silo/1\nanvil/1 - core/24\ncore/5 - ap/1\n")
	need := map[string]float64{}
	for c := range cabling.Of(l).Plugged {
		if m, ok := c.NeedM(); ok {
			need[l.CableWords(*c.Cable)] = m
		}
	}
	assert.InDelta(t, (44.45+60+119.1+100)/1000, need["core/1 - PP1/1"], 1e-6)
	assert.InDelta(t, (44.45+60+225.1+90+375.1/24+100)/1000, need["core/2 - PP1/2"], 1e-6)
	assert.Greater(t, need["anvil/1 - core/24"], 0.8+0.7, "round to the back, and out on its rails")
	assert.NotContains(t, need, "core/5 - ap/1", "nobody knows how far the loft is")
}

func must(t *testing.T, l *lab.Lab, rack string) lab.ID {
	t.Helper()
	id, ok := l.Named(lab.KindRack, rack)
	require.True(t, ok)
	return id
}

func TestLabelsFollowThePatternAndAreUnique(t *testing.T) {
	l := labtest.From(t, house+"core/3 - PP1/3 2m\ncore/4 - silo/1\nPP1/3 = plate/1\nfast/1 - ?, label \"PP1.03\"\n")
	w := cabling.Of(l)
	var some []lab.Cable
	for c := range lab.Each[lab.Cable](l) {
		if c.Label == "" {
			some = append(some, c)
		}
	}
	for pattern, want := range map[string]string{
		"":                  "PP1.03-2 core.04 PP1.03 rear",
		"{a}→{b}":           "core/3→PP1/3 core/4→silo/1 PP1/3 rear→plate/1 rear",
		"{panel}{port:003}": "PP1003 core004 PP1003 rear",
		"x":                 "x x-2 x-3",
	} {
		labels, err := w.Labels(some, pattern, false)
		require.NoError(t, err)
		var said []string
		for _, l := range labels {
			said = append(said, l.Text)
		}
		assert.Equal(t, want, strings.Join(said, " "), pattern)
	}
	_, err := w.Labels(some, "{shelf}", false)
	assert.ErrorContains(t, err, "{shelf} is not known in a label; there are {panel}")
	_, err = w.Labels(some, "{port:x}", false)
	assert.ErrorContains(t, err, "how many figures")
}

// One label goes on every piece of a channel, if that is wished.
func TestAChannelHasOneLabel(t *testing.T) {
	l := labtest.From(t, house+"core/3 - PP1/3 2m\nPP1/3 = plate/1\nplate/1 - ap/1\ncore/4 - silo/1\n")
	w := cabling.Of(l)
	labels, err := w.Labelled(nil, true, "", true)
	require.NoError(t, err)
	var said []string
	for _, l := range labels {
		said = append(said, l.Text)
	}
	assert.Equal(t, []string{"PP1.03", "PP1.03", "PP1.03", "core.04"}, said)
}

func TestWhatIsToBuy(t *testing.T) {
	built := labtest.From(t, house+`core/1 - PP1/1 0.5m yellow cat6, faulty
core/3 - PP1/10 0.1m yellow cat6
core/4 - PP1/11 0.15m yellow cat6
spare lead 0.25m blue cat6
spare lead 0.5m yellow cat6
`)
	one := 1.0
	planned, err := built.Apply([]lab.Change{{After: lab.Cable{ID: "x", Kind: lab.Cat6, Colour: "red", LengthM: &one, State: lab.CableInUse,
		A: ptr(at(t, built, "core", "5"))}}})
	require.NoError(t, err)
	var said []string
	for _, w := range cabling.ToBuy(built, planned) {
		said = append(said, fmt.Sprintf("%d of %d %s %s %v", w.Buy, w.Wanted, w.Colour, w.Kind, *w.LengthM))
	}
	// core/3 is at 241.1 mm and PP1/10 at 230.7: it takes 44.45 + 60 + 10.4 mm to
	// reach, and 100 mm of slack make 0.215 m, so one of 0.25; the bin has that in
	// blue. The lead of 0.15 m only lacks slack and stays.
	assert.Equal(t, []string{"0 of 1 yellow cat6 0.25", "0 of 1 yellow cat6 0.5", "1 of 1 red cat6 1"}, said)
}

func TestTheSparesBinCountsAlikeLeadsTogether(t *testing.T) {
	l := labtest.From(t, house+"spare 5x lead 0.5m yellow cat6\nspare lead blue\nspare lead 0.5m yellow cat6a\nspare 2x lead 0.5m yellow "+
		"cat6\ncore/1 - PP1/1 0.5m yellow cat6\n")
	var said []string
	for _, s := range cabling.Bin(l) {
		m := "?"
		if s.LengthM != nil {
			m = fmt.Sprint(*s.LengthM)
		}
		said = append(said, fmt.Sprint(s.Count, " ", s.Kind, " ", s.Colour, " ", m))
	}
	assert.Equal(t, []string{"7 cat6 yellow 0.5", "1  blue ?", "1 cat6a yellow 0.5"}, said)
}

func ptr[T any](v T) *T { return &v }
