package cabling_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

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
		"no speed in common":                 {"old/1 - new/1", "old", "1", "no link", "old 1"},
		"2.5G falls back to what 1G does":    {"two/1 - anvil/1 1m cat6", "two", "1", "1 Gb/s", "anvil 1"},
		"and 1G to 100M":                     {"hundred/1 - anvil/1 1m cat6", "hundred", "1", "100 Mb/s", "hundred 1"},
		"1G in an SFP+ cage likewise":        {"one/s1 - anvil/s1 1m dac", "one", "s1", "1 Gb/s", "one s1"},
		"an SFP cage says what it does":      {"cage/s1 - core/s1 2m dac", "cage", "s1", "1 Gb/s", "cage s1"},
		"fibre, its transceivers not told":   {"core/s1 - cage/s1 60m om3", "core", "s1", "1 Gb/s", "cage s1"},
		"a cage and a plug that do not fit":  {"core/s1 - silo/1 1m cat6", "core", "s1", "?", ""},
		"nor with a cable of no known kind":  {"core/s1 - silo/1 1m", "core", "s1", "?", ""},
		"through the air nobody said":        {"ap/air - far ap/air wireless", "", "", "?", ""},
		"where the way ends there is no one": {"core/1 - PP1/1 1m cat6", "core", "1", "?", ""},
	} {
		t.Run(name, func(t *testing.T) {
			l := labtest.From(t, house+`	switch "old": 1 port rj45 10M/100M
	switch "new": 1 port rj45 1G/2.5G
	switch "two": 1 port rj45 2.5G
	switch "hundred": 1 port rj45 100M
	switch "one": 1 port sfp 1G
	switch "cage": 1 port sfp
`+c.lines+"\n")
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

// A bridging box passes a trail on: each channel counts by itself, and what a
// link over another medium carries holds the rest.
func TestATrailGoesOnThroughABridgingBox(t *testing.T) {
	l := labtest.From(t, house+`	bridge "west": 1 port rj45 1G, 1 port coax
	bridge "east": 1 port rj45 1G, 1 port coax
	bridge "three": 3 ports rj45 1G
core/1 - west/1 90m cat6
west/coax1 - east/coax1 25m rg6, carries 450M
east/1 - anvil/1 90m cat6
core/2 - three/1 1m cat6
core/3 - three/2 1m cat6
core/4 - three/3 1m cat6
`)
	tr := trail(t, l, "core", "1")
	assert.Equal(t, "core/1 west/1 east/coax1 anvil/1", words(tr))
	assert.Equal(t, "450 Mb/s", tr.Speed.Words())
	assert.Equal(t, "RG6 coax", tr.Speed.HeldBy)
	assert.Equal(t, 205.0, tr.LengthM, "no channel is longer than 100 m, the way is")
	assert.Empty(t, cableTroubles(l))
	assert.Equal(t, "core/2 three/1", words(trail(t, l, "core", "2")), "a box with three in use is a switch")
	for _, name := range []string{"west", "east", "three"} {
		assert.Len(t, cabling.Of(l).TrailsOf(at(t, l, name, "1").Device), map[bool]int{true: 3, false: 1}[name == "three"], name)
	}
}

func cableTroubles(l *lab.Lab) []string {
	var said []string
	for c := range cabling.Of(l).Plugged {
		if say, _ := c.Trouble(); say != "" {
			said = append(said, say)
		}
	}
	return said
}

// A trail is listed once a device, whichever sides of a panel are in use.
func TestADeviceListsEachTrailOnce(t *testing.T) {
	l := labtest.From(t, house+"PP1/1 = plate/1 18m cat6\nPP1/2 - core/2 1m\nPP1/3 - core/3 1m\nPP1/3 = plate/2 18m\n")
	assert.Len(t, cabling.Of(l).TrailsOf(at(t, l, "PP1", "1").Device), 3)
	assert.Len(t, cabling.Of(l).TrailsOf(at(t, l, "plate", "1").Device), 2)
	assert.Len(t, cabling.Of(l).Trails(), 3)
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
	with := strings.Replace(
		house, "10 server", "\tcage 1 transceiver: for sfp+, 1000 mbit, offers \"lc\", single-mode\n\tcage 2 transceiver: for sfp+, 10000 "+
			"mbit, offers rj45\n10 server", 1)
	l := labtest.From(t, with+"core/s1 - anvil/s1 2m dac\ncore/s2 - silo/1 2m cat6\ncore/s3 - silo/2 2m cat6\ncore/s4 - anvil/s2 3m "+
		"single-mode\n")
	var said []string
	for c := range cabling.Of(l).Plugged {
		say, _ := c.Trouble()
		said = append(said, say)
	}
	assert.Equal(t, []string{
		"core/s1 - anvil/s1: a DAC has its own ends: take the transceiver out of core/s1", "",
		"core/s3 - silo/2: Cat 6 does not fit core/s3, an SFP+ cage; a transceiver with an RJ45 socket would fit",
		"core/s4 - anvil/s2: single-mode fibre does not fit core/s4, an SFP+ cage; a single-mode transceiver with an LC socket would fit",
	}, said)
	assert.Equal(t, "10 Gb/s", trail(t, l, "core", "s2").Speed.Words())
}

func TestAFibreIsForTheModeOfItsTransceivers(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, "10 server", `	cage 1 transceiver: for sfp+, 10000 mbit, offers lc, single-mode
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
		assert.Equal(t,
			"core/s2 - far/s2: single-mode fibre is in core/s2, whose transceiver is for multimode; one for single-mode would fit", say)
		assert.Equal(t, "core", d.Title())
	}
	for port, want := range map[string]string{"s1": "single-mode",
		"s2": "its transceiver is for single-mode fibre, the other one for multimode", "s3": "single-mode"} {
		for _, p := range w.PartnersOf(at(t, l, "core", port), []lab.ID{at(t, l, "far", "s1").Device}) {
			if p.Port == "s1" {
				assert.Equal(t, want, string(p.Kind)+p.Why, port)
			}
		}
	}
}
