package rundown_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const spoken = `rack "R": 24U
23 switch "core": 24 ports 1G, 2 sfp+ 10G
22 patch panel "PP1": 24 ports
20 switch "agg": 8 sfp+ 10G
14 server "anvil": 2 ports 1G, 2 psus
13 server "heron": 1 port 1G, 2 sfp+ 10G
12 server "otter": 1 port 1G
11 console server "whistle": 16 serial
5 laptop "crust"
1-2 ups "keep": 6 outlets c13 battery
left strip "bar": 8 outlets c13
place "Loft"
  wall plate "plate": 2 ports
  access point "ap": class 3
`

// What a line leaves out of its ends is found where it can be only one thing,
// and is unknown where more would do.
func TestEndsAsPeopleSayThem(t *testing.T) {
	base := fresh(t, spoken)
	for line, want := range map[string][]string{
		`core/1 - otter`:                       {"core/1 - otter/1"},
		`core/1 - anvil`:                       {"core/1 - anvil/?"},
		`core/1 - anvil/?`:                     {"core/1 - anvil/?"},
		`otter - heron`:                        {"otter/1 - heron/1"},
		`core/1 - crust 2m blue cat6`:          {"core/1 - crust/? 2m blue cat6"},
		`core/1 - ap, cat6, over the ceiling`:  {`core/1 - ap/1 cat6, remark "over the ceiling"`},
		`core - agg`:                           {"core/? - agg/?"},
		`core - agg dac 1m`:                    {"core/? - agg/? 1m dac"},
		`agg/1 - heron/s1`:                     {"agg/s1 - heron/s1"},
		`agg/cage2 - heron/sfp+2`:              {"agg/s2 - heron/s2"},
		`bar/1 - otter`:                        {"bar/out1 - otter/in1"},
		`bar - keep`:                           {"bar/in1 - keep/?"},
		`keep/1 - anvil`:                       {"keep/out1 - anvil/in1"},
		`keep - anvil/?`:                       {"keep/? - anvil/?"},
		`ups "keep" - strip "bar"`:             {"keep/? - bar/in1"},
		`whistle/7 - agg`:                      {"whistle/serial7 - agg/?"},
		`core/1-3 - anvil, heron, otter/1`:     {"core/1 - anvil/?", "core/2 - heron/1", "core/3 - otter/1"},
		`anvil, heron, otter - core/1-3, cat6`: {"anvil/? - core/1 cat6", "heron/1 - core/2 cat6", "otter/1 - core/3 cat6"},
		`core/1 - PP1/1, 3m slack`:             {`core/1 - PP1/1, remark "3m slack"`},
		`core/s1 - agg/1 10G`:                  {"core/s1 - agg/s1, carries 10G"},
		`core/1 - ?`:                           {"core/1 - ?"},
		`? - otter`:                            {"? - otter/?"},
	} {
		p := typed(t, base, line)
		require.Empty(t, said(p), line)
		assert.Equal(t, want, cableLines(p), line)
		assert.Empty(t, typed(t, p.Lab, line).Changes, "said again it changes nothing: %s", line)
		text := rundown.Print(p.Lab)
		assert.Equal(t, text, rundown.Print(fresh(t, text)), line)
	}
	for line, say := range map[string]string{
		`core/1 - nobody`:                "there is no device called “nobody”",
		`core/1-3 - anvil, heron`:        "3 ports cannot go to 2",
		`core/1 - otter 2m blurple`:      "did you mean purple?",
		`core/1 -`:                       "say where the other end goes",
		`core/99 - otter`:                "has no port “99”",
		`core/1 - PP1/1 1,500m`:          "may be",
		`server "anvil" - the big one 7`: "",
		`server "otter": 25kg - heavy`:   "",
		`place "shelf - drawer"`:         "",
		`25 - 26 server "x"`:             "there is no device called",
		`core/1 - crust, otter, heron`:   "1 port cannot go to 3",
	} {
		p := typed(t, base, line)
		if say == "" {
			assert.Empty(t, cableLines(p), "no cable: "+line)
			continue
		}
		require.NotEmpty(t, said(p), line)
		assert.Contains(t, said(p)[0], say, line)
	}
}

func cableLines(p rundown.Plan) []string {
	var list []string
	for _, c := range p.Changes {
		if cable, ok := c.After.(lab.Cable); ok {
			list = append(list, rundown.CableLine(p.Lab, cable))
		}
	}
	return list
}

// Every inlet, port and side is given once; the rear of a panel is the side of
// what leads away.
func TestWhatIsLeftOutIsGivenOnce(t *testing.T) {
	l := fresh(t, spoken+`keep - anvil
bar - anvil
PP1/1 - plate/1 18m
core/1 - PP1/1
plate/1 - ap
PP1/2 - plate/2
PP1/3 - core/3
`)
	var got []string
	for c := range lab.Each[lab.Cable](l) {
		got = append(got, rundown.CableLine(l, c))
	}
	assert.Equal(t, []string{"keep/? - anvil/in1", "bar/? - anvil/in2", "PP1/1 = plate/1 18m", "core/1 - PP1/1", "plate/1 - ap/1",
		"PP1/2 - plate/2"}, got[:6])

	full := typed(t, l, `bar - anvil`)
	assert.Empty(t, full.Changes, "the lead that is there")
	third := typed(t, l, `core/5 - otter`)
	assert.Contains(t, said(typed(t, third.Lab, `core/6 - otter`))[0], "every port of “otter” that fits is taken")
	assert.Equal(t, []string{"core/9 = PP1/2"}, cableLines(typed(t, l, `core/9 - PP1/2`)), "its front is taken")
	assert.Contains(t, said(typed(t, l, `core/9 - PP1/3`))[0], "unplug that first", "nothing leads away there, so it is a slip")
}

// A line may set single ports apart, or a range of them.
func TestPortsAreSetApart(t *testing.T) {
	base := fresh(t, spoken)
	p := typed(t, base, `whistle: port serial1-16 tcp 2001-2016, port serial3 reserved "the dome"`)
	require.Empty(t, said(p))
	marks := named(t, p.Lab, "whistle").Marks
	require.Len(t, marks, 16)
	assert.Equal(t, lab.PortMark{Port: "serial3", TCP: 2003, Reserved: "the dome"}, marks[2])
	assert.Equal(t, 2016, marks[15].TCP)
	again := typed(t, p.Lab, `whistle/serial3 broken`)
	require.Empty(t, said(again))
	assert.Equal(t, lab.PortMark{Port: "serial3", TCP: 2003, Reserved: "the dome", Broken: true}, named(t, again.Lab, "whistle").Marks[2])
	lines := typed(t, base, `? console server "lines": 8 serial, ssh 10.1.9.5, ports 2001 up`)
	require.Empty(t, said(lines))
	assert.Equal(t, lab.PortMark{Port: "serial5", TCP: 2005}, named(t, lines.Lab, "lines").Marks[4])
	assert.Equal(t, "10.1.9.5", named(t, lines.Lab, "lines").Remote)
	for line, want := range map[string]string{`core port 5 reserved for the big camera`: "the big camera", `core/5 reserved "eye"`: "eye"} {
		assert.Equal(t, want, named(t, typed(t, base, line).Lab, "core").Marks[0].Reserved)
	}
	panel := typed(t, base, `PP1/12 takes hdmi`)
	require.Empty(t, said(panel))
	assert.Equal(t, []lab.PortMark{{Port: "12", Insert: "hdmi"}}, named(t, panel.Lab, "PP1").Marks)
	for line, say := range map[string]string{
		`whistle: port serial1-4 tcp 2001-2003`: "4 ports cannot answer at 3 TCP ports",
		`whistle: port serial1 tcp here`:        "is not the number of a TCP port",
		`PP1/99 takes hdmi`:                     "has no port",
		`PP9/1 takes hdmi`:                      "there is no device called “PP9”",
	} {
		p := typed(t, base, line)
		require.NotEmpty(t, said(p), line)
		assert.Contains(t, said(p)[0], say, line)
	}
}

// A line further down says more of a device, a rack or a place.
func TestALineFurtherDownSaysMore(t *testing.T) {
	l := fresh(t, `rack "R": 9U
9 switch "core"
8 server "anvil": 4kg
  shelf "s"
8: not bolted
ups "u": lead
place "Loft"
  hub "h"
core: 24 ports 1G, for "all of it"
core: 2 sfp+, for "all of it"
anvil: 64GB
  bay 1 drive: 8TB
rack "R": 600 deep, 60cm deep
7 nas "silo"
place "Loft": damp
  hub "h2"
core/s1 - silo
`)
	core, anvil := named(t, l, "core"), named(t, l, "anvil")
	assert.Len(t, core.Ports, 2)
	assert.Equal(t, "all of it", core.Purpose)
	assert.Equal(t, []string{"not bolted"}, anvil.Remarks)
	assert.Len(t, l.PartsOf(anvil.ID), 2)
	assert.Equal(t, 4.0, *anvil.WeightKG)
	assert.Nil(t, named(t, l, "u").At)
	r, _ := l.Named(lab.KindRack, "R")
	rack, _ := lab.Find[lab.Rack](l, r)
	assert.Equal(t, 600.0, *rack.DepthMM)
	assert.Equal(t, rack.ID, named(t, l, "silo").At.Rack)
	assert.Equal(t, named(t, l, "h").At.Place, named(t, l, "h2").At.Place)

	for text, say := range map[string]string{
		"rack \"R\": 9U\n9 switch \"core\": 4kg\ncore: 5kg\n":              "the weight is given twice",
		"rack \"R\": 9U\n9 switch \"core\"\ncorn: 5kg\n":                   "there is no device called “corn”",
		"rack \"R\": 9U\n9 switch \"core\"\ncore: 500mm deep, 24GB wide\n": "24gb is not a length",
		"rack \"R\": 9U\n9 switch \"core\"\ncore: takes 0U\n":              "",
		"rack \"R\": 9U\n9 server \"a\": 8 bays 3.5in\nnas \"a\": 4kg\n":   `"a" is a server`,
	} {
		p := load(t, lab.New(), text, rundown.Options{All: true})
		require.NotEmpty(t, said(p), text)
		assert.Contains(t, said(p)[0], say, text)
		assert.Len(t, slices.Collect(lab.Each[lab.Device](p.Lab)), 1, "what the lines before it say stays: "+text)
	}
}

// Lines as they come: sizes before the kind, counts with hyphens, a kind among
// other words, speeds and connectors in words, a name at the end.
func TestLinesAsTheyCome(t *testing.T) {
	l := fresh(t, `lab "L", EUR
rack "R": 24U, ten inch, rated 400kg standing, 200kg rolling
23 1U patch panel: 24-port, "PP"
22 managed switch "core": 24 gigabit ports, 4x sfp+ 10 gig, poe+ 250W
20-21 nas "box": 8-bay, 5x 12 TB, 2 psus 500W, gpu 2.5 slots wide
18 old server "big": 256GB max, 128GB ecc, 8x 16GB, 4x 2.5G, at the rear
16 cable tray: 2024
5 strip "bar": rear, 6 out
4 patch bay "audio"
left rear pdu "long": 12 c13
`)
	assert.Equal(t, "EUR", l.Settings().Currency)
	id, _ := l.Named(lab.KindRack, "R")
	r, _ := lab.Find[lab.Rack](l, id)
	assert.Equal(t, []any{lab.Rack10, 400.0, 200.0}, []any{r.Form, *r.HoldsKG, *r.MovingKG})
	core, box, big := named(t, l, "core"), named(t, l, "box"), named(t, l, "big")
	assert.Equal(t, []any{lab.PatchPanel, 24, "keystone"}, []any{named(t, l, "PP").Kind, named(t, l, "PP").Ports[0].Count,
		named(t, l, "PP").Ports[0].Connector})
	assert.Equal(t, []any{lab.Switch, lab.Managed, []int{1000}, []int{10000}, 250.0},
		[]any{core.Kind, core.Managed, core.Ports[0].SpeedsMb, core.Ports[1].SpeedsMb, *core.PoEBudgetW})
	assert.Equal(t, 8, box.Bays[0].Count)
	kinds := map[lab.PartKind]int{}
	for _, p := range l.PartsOf(box.ID) {
		kinds[p.Kind]++
		if p.Kind == lab.Card {
			assert.Equal(t, 3, p.Wide, "two and a half cover a third")
		}
	}
	assert.Equal(t, map[lab.PartKind]int{lab.Drive: 5, lab.Supply: 2, lab.Card: 1}, kinds)
	assert.Equal(t, []any{lab.Rear, int64(256 << 30), 4}, []any{big.At.Face, *big.MemoryMostBytes, big.Ports[0].Count})
	var modules []string
	for _, p := range l.PartsOf(big.ID) {
		modules = append(modules, p.MemoryType)
	}
	assert.Equal(t, slices.Repeat([]string{"ecc"}, 8), modules, "all of it and its modules are the same memory")
	assert.Equal(t, []any{lab.Rear, 6}, []any{named(t, l, "bar").At.Face, named(t, l, "bar").Outlets[0].Count})
	assert.Equal(t, lab.PatchPanel, named(t, l, "audio").Kind)
	assert.Equal(t, lab.AtLeft, named(t, l, "long").At.Where)
	text := rundown.Print(l)
	assert.Contains(t, text, "16      other: is a \"cable tray\"")
	assert.Equal(t, text, rundown.Print(fresh(t, text)))
}

// A mistake says what is wrong and does not cost its neighbours; what is kept is
// told with its place, once.
func TestWhatIsKeptIsToldWithItsPlace(t *testing.T) {
	p := load(t, lab.New(), `rack "R": 9U
9 server "anvil": open frame, 24GB deep, lid "off", 25kg
core: 4kg
8 hub "h": not bolted, not bolted
`, rundown.Options{All: true})
	var kept []string
	for _, k := range p.Kept {
		kept = append(kept, fmt.Sprintf("%d:%d-%d %s", k.Line, k.Column, k.EndColumn, k.Text))
	}
	assert.Equal(t, []string{"2:19-29 open frame", "2:42-51 lid off", "4:12-22 not bolted", "4:24-34 not bolted"}, kept)
	assert.Equal(t, []string{"2:31: 24gb is not a length; write one such as 320mm", "3:1: there is no device called “core”"},
		[]string{strings.SplitN(said(p)[0], " (", 2)[0], said(p)[1]})
	assert.Equal(t, 25.0, *named(t, p.Lab, "anvil").WeightKG, "the rest of the line counts")
	assert.Equal(t, []string{"not bolted"}, named(t, p.Lab, "h").Remarks)
}

// Nothing that is typed alone takes what another thing is known by.
func TestNoNameIsTakenOver(t *testing.T) {
	base := fresh(t, spoken)
	for _, d := range slices.Collect(lab.Each[lab.Device](base)) {
		if d.Name == "" {
			continue
		}
		for _, kind := range []string{"switch", "nas", "ups", "camera", "kiln"} {
			for _, where := range []string{"", "3 ", "? ", "left ", `in "Loft" `} {
				for _, name := range []string{d.Name, strings.ToUpper(d.Name), strings.ToLower(d.Name)} {
					rack, _ := base.Named(lab.KindRack, "R")
					p := rundown.Load(base, rundown.ParseLine(fmt.Sprintf("%s%s %q: 4kg", where, kind, name)),
						rundown.Options{Rack: rack, NewID: counterFrom("n")})
					is, _ := lab.Find[lab.Device](p.Lab, d.ID)
					assert.Equal(t, []string{d.Name, string(d.Kind)}, []string{is.Name, string(is.Kind)}, "%s%s %q", where, kind, name)
				}
			}
		}
	}
}

// Of two devices whose names differ in their case the one written so is meant.
func TestTheNameThatIsWrittenSoIsMeant(t *testing.T) {
	l := fresh(t, `rack "R": 9U
9 switch "A": 8 ports 1G
8 mini pc "a": 1 port 1G
left pdu "B": 4 outlets c13
A/1 - a
a: 2kg
A: 3kg
`)
	assert.Equal(t, 2.0, *named(t, l, "a").WeightKG)
	assert.Equal(t, 3.0, *named(t, l, "A").WeightKG)
	assert.Equal(t, lab.Switch, named(t, l, "A").Kind)
	text := rundown.Print(l)
	assert.Contains(t, text, "A/1 - a/1")
	assert.Equal(t, text, rundown.Print(fresh(t, text)))
}

// Places and racks opened again, sections that are refused, lines below them.
func TestARefusedLineHoldsWhatIsUnderIt(t *testing.T) {
	p := load(t, lab.New(), `rack "A": 9U
9 switch "core"
rack "B": 9 banana
9 switch "in B"
8 hub "also in B"
place "Loft"
  camera "eye"
rack "A": holds 40kg
8 server "anvil"
`, rundown.Options{All: true})
	assert.Len(t, said(p), 1)
	assert.Equal(t, named(t, p.Lab, "core").At.Rack, named(t, p.Lab, "anvil").At.Rack)
	_, found := rundown.DeviceNamed(p.Lab)("in B")
	assert.False(t, found, "it is not in the rack above instead")
}

// Lines as they are first tried, one after another in an empty lab.
func TestLinesAsTheyAreFirstTried(t *testing.T) {
	l, newID := lab.New(), counter()
	for _, try := range [][2]string{
		{`rack "bench": 9U, ten-inch`, `rack "bench" added`},
		{`9 blank with a screen bolted to it`, `blanking panel added at bench 9`},
		{`8 keystone panel "panel" 12 holes`, `patch panel "panel" added at bench 8`},
		{`7 switch "switch": 8 gigabit ports`, `switch "switch" added at bench 7`},
		{`5 shelf`, `shelf added at bench 5`},
		{`on shelf board "gull", 4W`, `single-board computer "gull" added on shelf`},
		{`bottom ups "calm": 2U`, `ups "calm" added at bench 1-2`},
		{`place "slip"`, `place "slip" added`},
		{`place "desk"`, `place "desk" added`},
		{`in slip camera "eye": class 3`, `camera "eye" added at slip`},
		{`in "desk" wall plate "plate": 2 ports`, `wall plate "plate" added at desk`},
		{`run "conduit" 20mm, 35m, to slip`, `run "conduit" added`},
		{`panel/1 - eye 35m cat 6 via conduit`, `panel/1 rear - eye/1 added`},
		{`panel 4-5 - plate 1-2`, `panel/4 rear - plate/1 rear added; panel/5 rear - plate/2 rear added`},
		{`switch 1 - panel 1 quarter metre blue`, `switch/1 - panel/1 added`},
		{`switch 2 - panel 2 half a metre`, `switch/2 - panel/2 added`},
		{`top modem "mobile"`, `modem "mobile" added on top of bench`},
	} {
		p := rundown.Load(l, rundown.ParseLine(try[0]), rundown.Options{NewID: newID})
		require.Empty(t, p.Mistakes, try[0])
		assert.Equal(t, try[1], rundown.Label(rundown.Edits(l, p.Lab, p.Changes)), try[0])
		l = p.Lab
	}
	var lengths []float64
	for c := range lab.Each[lab.Cable](l) {
		if c.LengthM != nil {
			lengths = append(lengths, *c.LengthM)
		}
	}
	assert.ElementsMatch(t, []float64{35, 0.25, 0.5}, lengths)
	for r := range lab.Each[lab.Run](l) {
		assert.Equal(t, []float64{20, 35}, []float64{*r.InsideMM, *r.LengthM})
	}

	for typed, say := range map[string]string{
		`panel/6 - desk`:    "“desk” is a place; say which device there it goes to, or ? while nobody knows",
		`in drawer crimper`: "there is no drawer yet; a line such as 5 drawer makes one, or write a name in quotes",
		`panel 13 - eye`:    "panel has no port 13",
	} {
		p := rundown.Load(l, rundown.ParseLine(typed), rundown.Options{NewID: newID})
		if assert.NotEmpty(t, p.Mistakes, typed) {
			assert.Equal(t, say, p.Mistakes[0].Say, typed)
		}
	}
}

// Figures as they are told in a breath: what is meant is taken, and what may mean
// two things is asked.
func TestFiguresAsTheyAreTold(t *testing.T) {
	l := fresh(t, `rack "wall": 9U, 40kg
4 shelf
on shelf hub "knob"
9 server "box": 16 gigs, 62W peak, six gigabit ports and two cages, four 4TB, two 1TB ssds, 8 bays 3.5in
8 server "tower": 32GB of 64
7 strip "bar": 6 outlets
6 switch "slab": 8 ports 1G
5 router "old"
old/1 - slab/1, 15m flat cat6, under the carpet
old 2 - slab 2
bar - box, tower, slab`)
	for r := range lab.Each[lab.Rack](l) {
		assert.Equal(t, 40.0, *r.HoldsKG)
	}
	assert.Equal(t, "on shelf", rundown.WhereWords(l, named(t, l, "knob")))
	box, tower := named(t, l, "box"), named(t, l, "tower")
	assert.Equal(t, 62.0, *box.MostW)
	assert.Len(t, box.Ports, 2)
	assert.Empty(t, box.Remarks)
	assert.Equal(t, int64(64<<30), *tower.MemoryMost())
	count := map[lab.PartKind]int{}
	for p := range lab.Each[lab.Part](l) {
		count[p.Kind]++
	}
	assert.Equal(t, map[lab.PartKind]int{lab.Drive: 6, lab.Memory: 2}, count)
	var flat lab.Cable
	ends := []string{}
	for c := range lab.Each[lab.Cable](l) {
		if c.LengthM != nil {
			flat = c
		}
		ends = append(ends, l.CableWords(c))
	}
	assert.Equal(t, []any{15.0, lab.CableKind("cat6"), []string{"flat cat6", "under the carpet"}},
		[]any{*flat.LengthM, flat.Kind, flat.Remarks})
	assert.ElementsMatch(t, []string{"old/1 - slab/1", "old/2 - slab/2", "bar/? - box/in1", "bar/? - tower/in1", "bar/? - slab/in1"}, ends)

	p := rundown.Load(l, rundown.ParseLine(`4 switch "pug": 8 ports 2 PoE`), rundown.Options{NewID: counter()})
	require.Len(t, p.Mistakes, 1, "which two of the eight")
	assert.Contains(t, p.Mistakes[0].Say, "“2” is not a fact about ports")
}
