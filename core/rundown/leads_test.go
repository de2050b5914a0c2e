package rundown_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/rundown"
)

// feeders is a house of which nobody has written down an outlet.
const feeders = `circuit "kitchen": 16A 230V
wall outlet "left" on circuit "kitchen"
wall outlet "right" on circuit "kitchen"
? ups "keep"
? ups "loft keep"
? power strip "pillar"
? power strip "bar"
? meter plug "meter"
? power brick "brick"
? mini pc "thrush"
`

// Power comes from the wall, whichever end of a lead is said first and in whatever order the
// lines stand: a strip feeds the UPS that is plugged into it, and a UPS its strip.
func TestWhichWayALeadGoes(t *testing.T) {
	leads := []string{"left - keep", "keep - pillar", "thrush - brick", "pillar - brick", "right - meter", "bar - meter", "loft keep - bar"}
	want := []string{"left/? - keep/in1", "keep/? - pillar/in1", "thrush/in1 - brick/?", "pillar/? - brick/in1", "right/? - meter/in1",
		"bar/in1 - meter/?", "loft keep/in1 - bar/?"}
	rnd := rand.New(rand.NewPCG(1, 2))
	for range 50 {
		rnd.Shuffle(len(leads), func(a, b int) { leads[a], leads[b] = leads[b], leads[a] })
		require.ElementsMatch(t, want, cables(fresh(t, feeders+strings.Join(leads, "\n")+"\n")), "%v", leads)
	}
}

// Which ports give power is told after how many there are, or by itself.
func TestWhichPortsGivePower(t *testing.T) {
	for facts, want := range map[string]string{
		"8 ports 1G, ports 1-4 poe":                   "4 ports rj45 1G poe type 1, 4 ports rj45 1G",
		"8 ports 1G, ports 3 to 4 are poe+":           "2 ports rj45 1G, 2 ports rj45 1G poe type 2, 4 ports rj45 1G",
		"4 ports, 2 sfp+, 4 ports from 9, port 9 poe": "4 ports rj45, 2 ports sfp+, 1 ports rj45 poe type 1 from 9, 3 ports rj45",
		"4 ports, ports 4-5 have poe bt":              "3 ports rj45, 1 ports rj45 poe type 3, 1 ports rj45 poe type 3",
		"port 3 poe":                                  "2 ports ?, 1 ports poe type 1 ?",
	} {
		l := fresh(t, `? switch "s": `+facts+"\n")
		assert.Contains(t, strings.Join(strings.Fields(rundown.Print(l)), " "), `switch "s": `+want, facts)
		assert.Equal(t, rundown.Print(l), rundown.Print(fresh(t, rundown.Print(l))), facts)
	}
	base := fresh(t, `? switch "s": 8 ports 1G`+"\n")
	after := load(t, base, "s: ports 7-8 poe\n", rundown.Options{})
	require.Empty(t, after.Mistakes)
	assert.Contains(t, rundown.Print(after.Lab), "6 ports rj45 1G, 2 ports rj45 1G poe type 1", "said later, it changes the ports there are")
	for _, wrong := range []string{"ports 0-4 poe", "ports 4-2 poe", "port 99999 poe"} {
		assert.NotEmpty(t, load(t, base, "s: "+wrong+"\n", rundown.Options{}).Mistakes, wrong)
	}
}

// Where nothing comes from the wall, a UPS feeds a strip, and otherwise what is said first
// feeds what is said second.
func TestWhichWayALeadIsLikelyToGo(t *testing.T) {
	for line, want := range map[string]string{
		"pillar - keep":    "pillar/in1 - keep/?",
		"keep - pillar":    "keep/? - pillar/in1",
		"bar - pillar":     "bar/? - pillar/in1",
		"keep - loft keep": "keep/? - loft keep/in1",
		"left - right":     "left/? - right/?",
	} {
		assert.Equal(t, []string{want}, cables(fresh(t, feeders+line+"\n")), line)
	}
}
