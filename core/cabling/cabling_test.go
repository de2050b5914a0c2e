package cabling_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// read is the lab that a rundown tells of.
func read(t *testing.T, text string) *lab.Lab {
	t.Helper()
	n := 0
	id := func() lab.ID { n++; return lab.ID(fmt.Sprintf("%06d", n)) }
	p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: id})
	require.Empty(t, p.Mistakes)
	return p.Lab
}

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
	l := read(t, house+`core/3 - PP1/3 0.25m cat6
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
			l := read(t, house+c.lines+"\n")
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

func TestTheSpeedAWholeWayCarries(t *testing.T) {
	for name, c := range map[string]struct{ lines, from, port, speed, held string }{
		"both ends and the cable":            {"fast/1 - silo/1 2m cat6", "fast", "1", "10 Gb/s", ""},
		"Cat 6 carries 10G for 55 m":         {"fast/1 - silo/1 55m cat6", "fast", "1", "10 Gb/s", ""},
		"and no farther, so both go slower":  {"fast/1 - silo/1 56m cat6", "fast", "1", "2.5 Gb/s", "Cat 6"},
		"Cat 5e carries 5, the ports 2.5":    {"fast/1 - silo/1 10m cat5e", "fast", "1", "2.5 Gb/s", "Cat 5e"},
		"a partner that is slower":           {"core/1 - silo/1 1m cat6", "core", "1", "1 Gb/s", "core 1"},
		"farther than copper goes":           {"core/1 - anvil/1 101m cat6", "core", "1", "no link", "Cat 6"},
		"nobody measured it":                 {"core/1 - anvil/1 cat6", "core", "1", "at most 1 Gb/s", "core 1 and anvil 1"},
		"nobody knows what cable it is":      {"core/1 - anvil/1 1m", "core", "1", "at most 1 Gb/s", ""},
		"a DAC of seven metres":              {"core/s1 - anvil/s1 7m dac", "core", "s1", "10 Gb/s", ""},
		"and of eight":                       {"core/s1 - anvil/s1 8m dac", "core", "s1", "no link", "DAC"},
		"no speed in common":                 {"anvil/s1 - anvil/1", "anvil", "1", "no link", "anvil 1"},
		"through the air nobody said":        {"ap/air - far ap/air wireless", "", "", "?", ""},
		"where the way ends there is no one": {"core/1 - PP1/1 1m cat6", "core", "1", "?", ""},
	} {
		t.Run(name, func(t *testing.T) {
			l := read(t, house+c.lines+"\n")
			var tr cabling.Trail
			if c.from == "" {
				tr = cabling.Of(l).TrailsOf(at(t, l, "ap", "1").Device)[0]
			} else {
				tr = trail(t, l, c.from, c.port)
			}
			assert.Equal(t, c.speed, tr.Speed.Words())
			assert.Equal(t, c.held, tr.Speed.HeldBy)
		})
	}
}

// Some speeds go by several lanes at once and therefore farther than slower
// ones that go by one.
func TestACableCarriesWhatItsPortsAskFor(t *testing.T) {
	for _, c := range []struct {
		kind     lab.CableKind
		m        float64
		ports    int
		carrying int
	}{
		{"om3", 80, 25000, 10000},
		{"om3", 80, 40000, 40000},
		{"om3", 80, 100000, 40000},
		{"om3", 80, 10000, 10000},
		{"om3", 60, 25000, 100000},
		{"om3", 400, 10000, 1000},
		{lab.DAC, 6, 25000, 10000},
		{lab.DAC, 6, 40000, 40000},
		{lab.DAC, 8, 1000, 0},
		{lab.Cat6, 60, 10000, 5000},
		{lab.Cat6, 60, 1000, 5000},
		{lab.Cat6, 40, 0, 10000},
		{lab.Cat6, 60, 0, 5000},
	} {
		k, ok := cabling.KindOf(c.kind)
		require.True(t, ok)
		assert.Equal(t, c.carrying, k.Most(c.m, c.ports), "%s over %g m between ports of %d", c.kind, c.m, c.ports)
	}
}

func TestATransceiverIsWhatACageTakesAndRunsAt(t *testing.T) {
	with := strings.Replace(house, "10 server", "\tcage 1 transceiver: for sfp+, 1000 mbit, offers \"lc\", single-mode\n\tcage 2 transceiver: for sfp+, 10000 mbit, offers rj45\n10 server", 1)
	l := read(t, with+"core/s1 - anvil/s1 2m dac\ncore/s2 - silo/1 2m cat6\ncore/s3 - silo/2 2m cat6\ncore/s4 - anvil/s2 3m single-mode\n")
	var said []string
	for c := range cabling.Of(l).Plugged {
		say, _ := c.Trouble()
		said = append(said, say)
	}
	assert.Equal(t, []string{
		"A DAC has its own ends: take the transceiver out of core/s1", "",
		"Cat 6 does not go into core/s3, an SFP+ cage; a transceiver with an RJ45 socket would take it",
		"single-mode fibre does not go into core/s4, an SFP+ cage; a single-mode transceiver with an LC socket would take it",
	}, said)
	assert.Equal(t, "10 Gb/s", trail(t, l, "core", "s2").Speed.Words())
}

func TestAFibreIsForTheModeOfItsTransceivers(t *testing.T) {
	l := read(t, strings.Replace(house, "10 server", `	cage 1 transceiver: for sfp+, 10000 mbit, offers lc, single-mode
	cage 2 transceiver: for sfp+, 10000 mbit, offers lc, multimode
	cage 3 transceiver: for sfp+, 10000 mbit, offers lc
10 server`, 1)+`? switch "far": 3 ports sfp+ 10G
	cage 1 transceiver: for sfp+, 10000 mbit, offers lc, single-mode
	cage 2 transceiver: for sfp+, 10000 mbit, offers lc, single-mode
core/s2 - far/s2 10m single-mode
`)
	w := cabling.Of(l)
	for c := range w.Plugged {
		say, d := c.Trouble()
		assert.Equal(t, "single-mode fibre is in core/s2, whose transceiver is for multimode; one for single-mode would take it", say)
		assert.Equal(t, "core", d.Title())
	}
	for port, want := range map[string]string{"s1": "single-mode", "s2": "its transceiver is for single-mode fibre, the other one for multimode", "s3": "single-mode"} {
		for _, p := range w.PartnersOf(at(t, l, "core", port), []lab.ID{at(t, l, "far", "s1").Device}) {
			if p.Port == "s1" {
				assert.Equal(t, want, string(p.Kind)+p.Why, port)
			}
		}
	}
}

func TestWhichPortsMayBePartners(t *testing.T) {
	l := read(t, house+"pdu \"strip\": 2 outlets c13\ncore/2 - PP1/2, label \"A2\"\n")
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
		{"core", "1", "core", "in1", "", "no cable goes from RJ45 to power"},
		{"core", "s1", "anvil", "s1", lab.DAC, ""},
		{"core", "s1", "anvil", "1", "", "SFP+ cage against RJ45: a transceiver with an RJ45 socket in the cage would mend it"},
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
		l := read(t, text)
		use := cabling.Of(l).Runs()[0]
		require.NotNil(t, use.More)
		assert.Equal(t, want, *use.More, n)
		assert.Equal(t, n > 6, use.Over, n)
	}
	l := read(t, house+"PP1/1 = ? via \"stairs run\"\n")
	use := cabling.Of(l).Runs()[0]
	assert.Nil(t, use.More, "what goes in beside a cable nobody knows, nobody knows")
	assert.Equal(t, 1, use.Unknown)
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
	// PP1 at 12 and core at 11 are a unit, 44.45 mm, apart. Their 24 ports stand
	// in two rows of 12, 16 mm each; the switch has 4 columns of cages beside
	// them. So the panel's begin at 465.1 - 192 = 273.1 mm, the switch's at
	// 465.1 - 256 = 209.1 mm, and port 2 stands 16 mm to the right of port 1.
	l := read(t, house+"core/1 - PP1/1\ncore/2 - PP1/2 via left\nfast/1 - silo/1\nanvil/1 - core/24\ncore/5 - ap/1\n")
	need := map[string]float64{}
	for c := range cabling.Of(l).Plugged {
		if m, ok := c.NeedM(); ok {
			need[l.CableWords(*c.Cable)] = m
		}
	}
	assert.InDelta(t, (44.45+60+64+100)/1000, need["core/1 - PP1/1"], 1e-6)
	assert.InDelta(t, (44.45+60+289.1+225.1+100)/1000, need["core/2 - PP1/2"], 1e-6)
	assert.Greater(t, need["anvil/1 - core/24"], 0.8+0.7, "round to the back, and out on its rails")
	assert.NotContains(t, need, "core/5 - ap/1", "nobody knows how far the loft is")
}

func TestThePullSheetOfAServer(t *testing.T) {
	l := read(t, house+`core/1 - silo/1 1m yellow cat6, label "S1"
fast/1 - silo/2 blue cat6
core/2 - anvil/1 via right
PP1/9 - fast/2 via over
PP1/10 - fast/3
core/in1 - silo/in1
`)
	w := cabling.Of(l)
	sheet, ok := w.PullSheetOf(at(t, l, "silo", "1").Device)
	require.True(t, ok)
	var steps []string
	for _, s := range sheet.Steps {
		steps = append(steps, fmt.Sprintf("%s %s %s > %s", s.Face, s.Port, s.Label, s.To))
	}
	assert.Equal(t, []string{"front 1 S1 > core/1", "front 2  > fast/1", "rear in1  > core/in1"}, steps)
	assert.Equal(t, 9.0, *sheet.WeightKG)
	assert.Len(t, sheet.Across, 2, "the two leads from the panel to fast")
	assert.True(t, slices.ContainsFunc(sheet.Across, func(a cabling.InTheWay) bool { return !a.Sure }), "of one nobody said which way it goes")
	assert.False(t, sheet.Alone)
	assert.Equal(t, []cabling.Dark{{Device: at(t, l, "core", "1").Device, Title: "core", Keeps: 1}, {Device: at(t, l, "fast", "1").Device, Title: "fast", Keeps: 0}}, sortedDark(sheet.Dark))
	r, _ := l.Rack(must(t, l, "R"))
	ease := w.EaseOf(r)
	assert.Equal(t, 5, ease.Devices)
	assert.Len(t, ease.Alone, 2, "the panel and fast; leads lie across core, anvil and silo")
	assert.Equal(t, "With PP1 next to fast, or 2 leads between them moved to the side, 2 more devices come out alone", ease.Advice)
}

// A panel is no end of a link, and still every link through it is lost.
func TestWhatGoesDarkWithoutAPanel(t *testing.T) {
	l := read(t, house+`core/3 - PP1/3
PP1/3 = plate/1
plate/1 - ap/1
core/4 - PP1/4
PP1/5 = plate/2
core/6 - silo/1
PP1/7 - fast/1
PP1/7 rear - silo/2
far ap/air - ap/air wireless
`)
	sheet, ok := cabling.Of(l).PullSheetOf(at(t, l, "PP1", "1").Device)
	require.True(t, ok)
	said := map[string]int{}
	for _, d := range sheet.Dark {
		said[d.Title] = d.Keeps
	}
	assert.Equal(t, map[string]int{"ap": 1, "core": 1, "fast": 0, "silo": 1}, said)
	assert.Equal(t, "fast", sheet.Dark[0].Title, "what goes dark comes first")
}

func sortedDark(list []cabling.Dark) []cabling.Dark {
	slices.SortFunc(list, func(a, b cabling.Dark) int { return strings.Compare(a.Title, b.Title) })
	return list
}

func must(t *testing.T, l *lab.Lab, rack string) lab.ID {
	t.Helper()
	id, ok := l.Named(lab.KindRack, rack)
	require.True(t, ok)
	return id
}

func TestLabelsFollowThePatternAndAreUnique(t *testing.T) {
	l := read(t, house+"core/3 - PP1/3 2m\ncore/4 - silo/1\nPP1/3 = plate/1\nfast/1 - ?, label \"PP1.03\"\n")
	w := cabling.Of(l)
	var some []lab.Cable
	for c := range l.Cables() {
		if c.Label == "" {
			some = append(some, c)
		}
	}
	for pattern, want := range map[string]string{
		"":                  "PP1.03-2 core.04 PP1.03-3",
		"{a}→{b}":           "core/3→PP1/3 core/4→silo/1 PP1/3 rear→plate/1 rear",
		"{panel}{port:003}": "PP1003 core004 PP1003-2",
		"x":                 "x x-2 x-3",
	} {
		labels, err := w.Labels(some, pattern)
		require.NoError(t, err)
		var said []string
		for _, l := range labels {
			said = append(said, l.Text)
		}
		assert.Equal(t, want, strings.Join(said, " "), pattern)
	}
	_, err := w.Labels(some, "{shelf}")
	assert.ErrorContains(t, err, "{shelf} is not known in a label; there are {panel}")
	_, err = w.Labels(some, "{port:x}")
	assert.ErrorContains(t, err, "how many figures")
}

func TestWhatIsToBuy(t *testing.T) {
	built := read(t, house+`core/1 - PP1/1 0.5m yellow cat6, faulty
core/2 - PP1/2 0.15m yellow cat6
spare lead 0.3m blue cat6
spare lead 0.5m yellow cat6
`)
	one := 1.0
	planned, err := built.Apply([]lab.Change{{After: lab.Cable{ID: "x", Kind: lab.Cat6, Colour: "red", LengthM: &one, State: lab.CableInUse, A: ptr(at(t, built, "core", "5"))}}})
	require.NoError(t, err)
	var said []string
	for _, w := range cabling.ToBuy(built, planned) {
		said = append(said, fmt.Sprintf("%d of %d %s %s %v", w.Buy, w.Wanted, w.Colour, w.Kind, *w.LengthM))
	}
	// The lead that is too short needs 0.27 m, so one of 0.3; the bin has that in blue.
	assert.Equal(t, []string{"0 of 1 yellow cat6 0.3", "0 of 1 yellow cat6 0.5", "1 of 1 red cat6 1"}, said)
}

func TestTheSparesBinCountsAlikeLeadsTogether(t *testing.T) {
	l := read(t, house+"spare 5x lead 0.5m yellow cat6\nspare lead blue\nspare lead 0.5m yellow cat6a\nspare 2x lead 0.5m yellow cat6\ncore/1 - PP1/1 0.5m yellow cat6\n")
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

func TestWhereAFastDeviceCouldBePluggedIn(t *testing.T) {
	l := read(t, house+"fast/1 - PP1/1 0.5m cat6\nPP1/1 = plate/1 18m cat6\nfast/2 - silo/1\n")
	var said []string
	for _, o := range cabling.Of(l).Openings(10_000) {
		if !strings.HasPrefix(o.Title, "core/") || o.Port == "s1" || o.Port == "1" {
			said = append(said, o.Title+" "+o.To+" "+o.Speed.Words())
		}
	}
	assert.Equal(t, []string{"core/s1  10 Gb/s", "fast/3  10 Gb/s", "fast/4  10 Gb/s", "fast/5  10 Gb/s", "fast/6  10 Gb/s", "fast/7  10 Gb/s", "fast/8  10 Gb/s", "core/1  1 Gb/s", "plate/1 fast/1 1 Gb/s"}, said)
}

func TestUsedAndFreePorts(t *testing.T) {
	l := read(t, strings.Replace(house, `sfp+ 1G/10G`, `sfp+ 1G/10G, port 24 broken, port 23 reserved "dome"`, 1)+"core/1 - PP1/1\ncore/2 - PP1/2\n")
	level := cabling.Of(l).LevelOf([]lab.ID{at(t, l, "core", "1").Device})
	require.Len(t, level, 3, "copper, cages, an inlet")
	assert.Equal(t, cabling.PortLevel{Family: lab.Copper, Connector: "rj45", Name: "RJ45", SpeedMb: 1000, Used: 2, Free: 20, Broken: 1, Reserved: 1}, level[0])
	assert.Equal(t, 4, level[1].Free)
	assert.Equal(t, []string{"RJ45", "SFP+ cage", "power inlet"}, []string{level[0].Name, level[1].Name, level[2].Name})
}

// core has 24 and 4, fast has 8, and gate one that is known by its cable; what
// does not run, a panel, and power count for nothing.
func TestPortsThatOthersArePluggedInto(t *testing.T) {
	l := read(t, strings.Replace(house, `sfp+ 1G/10G`, `sfp+ 1G/10G, port 24 broken, port 23 reserved "dome", port 1 reserved "PP1"`, 1)+`? power strip "strip": 2 outlets c13
? switch "old", spare: 8 ports rj45
? router "gate"
core/1 - PP1/1
fast/1 - silo/1
gate/lan - core/2 cat6
gate/plug - strip/out1 c13
`)
	w := cabling.Of(l)
	links := w.LinkPortsOf(w.Devices())
	assert.Equal(t, cabling.LinkPorts{Used: 4, Of: 37, Kept: 2, Unlisted: 1}, links)
	assert.Equal(t, 31, links.Free())
}

func TestWaysIn(t *testing.T) {
	l := read(t, house+`kvm switch "desk kvm": 4 ports kvm
console server "lines": 2 ports serial, port serial2 tcp 7002
server "bolt": 1 ports rs232, 1 ports vga, port 9 "x", 9 ports rj45, port 1 "mgmt", remote "10.0.0.9"
patch panel "video": 2 ports hdmi
nas "box": 1 ports hdmi
display "screen": 1 ports hdmi
"desk kvm"/kvm3 - bolt/vga1 kvm
lines/serial2 - bolt/serial1 serial
box/hdmi1 - video/hdmi1
video/hdmi1 = screen/hdmi1
`)
	var said []string
	for _, w := range cabling.Of(l).WaysIn() {
		said = append(said, strings.TrimSpace(fmt.Sprintf("%s: %s %s %s %d %s", w.Title, w.Sort, w.By, w.Input, w.TCP, w.Address)))
	}
	assert.ElementsMatch(t, []string{"bolt: kvm desk kvm kvm3 0", "bolt: console lines serial2 7002", "bolt: management  mgmt 0 10.0.0.9", "box: video video hdmi1 0"}, said)
}

func TestAReplacedSwitchKeepsItsCablesByPort(t *testing.T) {
	l := read(t, house+"? switch \"small\": takes 1U, 8 ports rj45 1G/2.5G, 1 ports sfp+ 10G\ncore/1 - PP1/1\ncore/9 - PP1/9\ncore/s1 - anvil/s1\nsmall/2 - ap/1\ncore/2 - silo/2\n")
	old, _ := l.Device(at(t, l, "core", "1").Device)
	by, _ := l.Device(at(t, l, "small", "1").Device)
	changes, carried := cabling.Replace(l, old, by)
	next, err := l.Apply(changes)
	require.NoError(t, err)
	var said []string
	for _, c := range carried {
		said = append(said, c.From+">"+c.To+c.Why)
	}
	assert.Equal(t, []string{"1>1", "9>small has no port 9", "s1>s1", "2>port 2 of small is taken"}, said)
	in, _ := next.Device(by.ID)
	assert.Equal(t, old.At, in.At)
	assert.Equal(t, "small/1 PP1/1", words(trail(t, next, "PP1", "1")))
	back, err := next.Apply(lab.Invert(changes))
	require.NoError(t, err)
	assert.Equal(t, l.All(), back.All())
}

// A transceiver goes along with its cable, into a cage that is free; what is
// faulty is no spare because something better took its place.
func TestAReplacedSwitchHandsItsTransceiversOn(t *testing.T) {
	l := read(t, strings.Replace(house, "10 server", `	cage 1 transceiver "SR 1": for sfp+, 10000 mbit, offers lc
	cage 2 transceiver "SR 2": for sfp+, 10000 mbit, offers lc
	cage 3 transceiver "SR 3": for sfp+, 10000 mbit, offers lc
10 server`, 1)+`? switch "heir", spare: takes 1U, 24 ports rj45 1G, 2 ports sfp+ 10G
	cage 2 transceiver "LR": for sfp+, 10000 mbit, offers lc
core/s1 - anvil/s1 om4
core/s2 - anvil/s2 om4
core/1 - PP1/1
`)
	old, _ := l.Device(at(t, l, "core", "1").Device)
	by, _ := l.Device(at(t, l, "heir", "1").Device)
	old.State = lab.Faulty
	breaks, _ := l.Put(old)
	faulty, err := l.Apply([]lab.Change{breaks})
	require.NoError(t, err)
	changes, carried := cabling.Replace(faulty, old, by)
	var said []string
	for _, c := range carried {
		said = append(said, c.From+">"+c.To+" "+c.Optic)
	}
	assert.Equal(t, []string{"s1>s1 SR 1", "s2>s2 ", "1>1 "}, said)
	next, err := faulty.Apply(changes)
	require.NoError(t, err)
	var in []string
	for _, p := range next.PartsOf(by.ID) {
		in = append(in, fmt.Sprint(p.Seat, " ", p.Name))
	}
	assert.Equal(t, []string{"1 SR 1", "2 LR"}, in)
	assert.Len(t, next.PartsOf(old.ID), 2, "what has no cable stays where it is")
	out, _ := next.Device(old.ID)
	is, _ := next.Device(by.ID)
	assert.Equal(t, []lab.State{lab.Faulty, lab.Running}, []lab.State{out.State, is.State})
}

func TestSwappedLeads(t *testing.T) {
	l := read(t, house+"core/1 - PP1/1\ncore/2 - PP1/2\ncore/3 - core/4\n")
	for _, c := range []struct{ a, b, want string }{
		{"1", "2", "core/2 - PP1/1, core/1 - PP1/2, core/3 - core/4"},
		{"1", "9", "core/9 - PP1/1, core/2 - PP1/2, core/3 - core/4"},
		{"3", "4", "core/1 - PP1/1, core/2 - PP1/2, core/4 - core/3"},
	} {
		next, err := l.Apply(cabling.Swap(l, at(t, l, "core", c.a), at(t, l, "core", c.b)))
		require.NoError(t, err)
		var said []string
		for cable := range next.Cables() {
			said = append(said, next.CableWords(cable))
		}
		assert.Equal(t, c.want, strings.Join(said, ", "))
	}
}
