package finding_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/finding"
	"levelstaff/core/labtest"
)

const cabled = `lab "L", yellow means "to the panel", blue means "at home"
run "hole": 3m, inside 12mm
rack "R": 9U, 800mm deep
9 patch panel "PP1": 8 ports rj45 1G, 4 ports lc
8 switch "core": 8 ports rj45 1G, 2 ports sfp+ 1G/10G, port 8 broken
7 server "anvil": 2 ports rj45 1G front, 2 ports sfp+ 10G front
6 server "silo": 2 ports rj45 1G/10G front
5 switch "fast": 8 ports rj45 1G/10G
4 switch "five": 8 ports rj45 1G/2.5G/5G
3 switch "also five": 8 ports rj45 1G/2.5G/5G
place "Loft"
	wall plate "plate": 2 ports rj45
	switch "old": 1 port rj45 10M/100M
`

// Each line of cables is worth just one finding, or none.
func TestWhatTheChecksSayOfCables(t *testing.T) {
	for name, c := range map[string]struct {
		lines string
		level finding.Level
		say   string
	}{
		"nothing amiss":                       {"core/1 - PP1/1 0.5m yellow cat6\nPP1/1 = ? ", finding.Note, "PP1/1 rear - ?: its other end is unknown."},
		"a plug that does not go in":          {"core/s1 - silo/1 1m cat6", finding.Act, "core/s1 - silo/1: Cat 6 does not fit core/s1, an SFP+ cage; a transceiver with an RJ45 socket would fit."},
		"multimode into single-mode":          {"PP1/f1 - core/s1 1m om4\nPP1/f1 = ? 20m single-mode", finding.Act, "PP1/f1 - core/s1, OM4 fibre, goes on into PP1/f1 rear - ?, single-mode fibre, at PP1/f1: single-mode and multimode fibre cannot be mixed."},
		"a DAC that is too long":              {"core/s1 - anvil/s1 8m dac", finding.Act, "core/s1 - anvil/s1 is part of 8 m; DAC carries nothing beyond 7 m."},
		"copper that is too long":             {"core/1 - anvil/1 120m cat6", finding.Act, "core/1 - anvil/1 is part of 120 m; Cat 6 carries nothing beyond 100 m."},
		"10G farther than Cat 6 carries it":   {"fast/1 - silo/1 60m cat6", finding.Watch, "fast/1 - silo/1: over 60 m Cat 6 carries 5 Gb/s; 10 Gb/s goes 55 m."},
		"5G over Cat 5e":                      {"five/1 - also five/1 10m cat5e", finding.Note, "five/1 - also five/1 is Cat 5e and carries 5 Gb/s: that usually works but is not guaranteed."},
		"5G over Cat 6":                       {"five/1 - also five/1 10m cat6", "", ""},
		"a fast port on a slow partner":       {"core/1 - silo/1 1m cat6", finding.Watch, "core/1 to silo/1 is limited to 1 Gb/s by core 1; one of the two ports could do 10 Gb/s."},
		"a loop":                              {"PP1/1 - PP1/2 0.5m\nPP1/1 = PP1/2", finding.Act, "The wiring loops through PP1/1: 2 cables that lead to no device."},
		"a switch patched to itself":          {"core/1 - PP1/1 1m\nPP1/1 rear - core/2 1m", finding.Watch, "core/1 leads back to core/2, of the same device."},
		"a label on two cables":               {"core/1 - PP1/1 1m, label \"A\"\ncore/2 - PP1/2 1m, label \"a\"", finding.Watch, "The label a is on two cables: core/1 - PP1/1 and core/2 - PP1/2."},
		"a colour the legend does not know":   {"core/1 - anvil/1 1m red cat6", finding.Note, "core/1 - anvil/1 is red, which is not in the legend."},
		"a colour against the legend":         {"core/1 - anvil/1 1m yellow cat6", finding.Watch, "core/1 - anvil/1 is yellow, and yellow means “to the panel” here."},
		"a colour that nobody can check":      {"core/1 - anvil/1 1m blue cat6", finding.Note, "Cables are not checked for a colour that names no device, place or kind: blue (“at home”)."},
		"a faulty lead in use":                {"core/1 - anvil/1 1m cat6, faulty", finding.Act, "core/1 - anvil/1 is faulty and still plugged in."},
		"a faulty lead in the bin":            {"? - ? 1m cat6, faulty", "", ""},
		"a lead that cannot reach":            {"core/1 - anvil/2 0.15m cat6", finding.Watch, "core/1 - anvil/2 is 0.15 m long and needs"},
		"a lead with less slack than wished":  {"core/1 - anvil/2 0.3m cat6", finding.Note, "core/1 - anvil/2 is 0.3 m long: it reaches, and with the slack asked for here it would be"},
		"a cable shorter than its run":        {"PP1/1 = plate/1 2.5m cat6 via hole", finding.Watch, "PP1/1 rear - plate/1 rear is 2.5 m long, and hole, where it lies, is 3 m."},
		"one that ends on the way":            {"PP1/1 = ? 2.5m cat6 via hole", finding.Note, "PP1/1 rear - ?: its other end is unknown."},
		"a run that is full":                  {"PP1/1 = ? cat6 via hole\nPP1/2 = ? cat6 via hole", finding.Act, "hole is filled to 51.7 % by 2 cables; the limit is 31 %."},
		"a cable in a broken port":            {"core/8 - anvil/1 1m cat6", finding.Act, "Port 8 of core is broken, and core/8 - anvil/1 is plugged into it."},
		"no speed that both ends do":          {"old/1 - five/1 1m", finding.Watch, "five/1 and old/1 have no speed in common over this cable."},
		"a jack against a cage":               {"anvil/1 - core/s1 1m", finding.Act, "core/s1 is an SFP+ cage and anvil/1 an RJ45: no cable fits both; a transceiver with an RJ45 socket in the cage would do."},
		"something nobody has measured or is": {"core/1 - anvil/1", "", ""},
	} {
		t.Run(name, func(t *testing.T) {
			l := labtest.From(t, cabled+c.lines+"\n")
			var said []string
			for _, f := range finding.OfCabling(l) {
				said = append(said, string(f.Level)+": "+f.Say)
			}
			if c.say == "" {
				assert.Empty(t, said)
				return
			}
			assert.Contains(t, strings.Join(said, "\n"), string(c.level)+": "+c.say)
			all := 0
			for _, f := range finding.All(l, "2026-11-23") {
				if strings.HasPrefix(f.Say, c.say) {
					all++
				}
			}
			assert.Equal(t, 1, all, "it is among all findings, once")
		})
	}
}
