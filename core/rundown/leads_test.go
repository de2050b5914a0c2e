package rundown_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
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
