package power_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/labtest"
	"levelstaff/core/power"
)

// Worked out by hand: when the mains go anvil has but keep, for all of its 168 W; silo, which
// needs both supplies, is dark; core draws 62 + 9/0.9 = 72 for itself and the access point.
// keep gives 240; with core stopped 168, and nothing once its battery is empty.
func TestWhatGoesOnByBattery(t *testing.T) {
	g := power.Of(labtest.From(t, strings.Replace(house, "2 outlets c13 battery, 2 outlets c13 filtered", "4 outlets c13 battery", 1)))
	i := g.Island()
	at := func(title string) int32 { return number(t, g, title) }
	for title, up := range map[string]bool{"keep": true, "anvil": true, "core": true, "ap": true, "silo": false, "amp": false, "tower": false,
		"kitchen 4": false, "left": false} {
		assert.Equal(t, up, i.Up(at(title)), title)
	}
	assert.True(t, i.Drains(at("keep")))
	assert.InDelta(t, 240, i.Load(at("keep")), 1e-9)
	assert.InDelta(t, 168, i.Load(at("anvil")), 1e-9)
	assert.ElementsMatch(t, []string{"anvil", "core", "ap"}, titles(g, i.HeldBy(at("keep"))))

	assert.Equal(t, []string{"ap"}, titles(g, i.Stop(at("core"))), "what it feeds over the network goes with it")
	assert.False(t, i.Runs(at("core")))
	assert.True(t, i.Up(at("core")))
	assert.InDelta(t, 168, i.Load(at("keep")), 1e-9)
	assert.Empty(t, i.Stop(at("core")), "it is down")
	assert.ElementsMatch(t, []string{"keep", "core", "anvil"}, titles(g, i.Empty(at("keep"))))
	assert.Zero(t, i.Load(at("keep")))
}

// A UPS behind another one drains when that one is empty, and holds what it holds.
func TestAUPSBehindAnother(t *testing.T) {
	g := power.Of(labtest.From(t, `? ups "first": 2 outlets c13 battery
? ups "second": 2 outlets c13 battery, 1 outlet c13 filtered
? server "anvil": 100W
? display "wall": 30W
first/out1 - second/in1
second/out1 - anvil/in1
second/out3 - wall/in1
`))
	i := g.Island()
	first, second := number(t, g, "first"), number(t, g, "second")
	assert.Equal(t, []bool{true, false}, []bool{i.Drains(first), i.Drains(second)})
	assert.InDelta(t, 130, i.Load(first), 1e-9)
	assert.ElementsMatch(t, []string{"first", "wall"}, titles(g, i.Empty(first)), "the filtered outlet goes with the mains")
	assert.True(t, i.Drains(second))
	assert.InDelta(t, 100, i.Load(second), 1e-9)
	assert.ElementsMatch(t, []string{"second", "anvil"}, titles(g, i.Empty(second)))
}

// Step by step it comes to the same as from the start: what is left of a random house after
// stops and empty batteries carries what its own devices draw, no more and no less.
func TestIslandsAddUp(t *testing.T) {
	for seed := range uint64(80) {
		rnd := rand.New(rand.NewPCG(seed, 7))
		text, n := "", 6
		for i := range 3 {
			text += fmt.Sprintf("? ups \"u%d\": 6 outlets c13 battery\n? pdu \"p%d\": 12 outlets c13\nu%d/out1 - p%d/in1\n", i, i, i, i)
		}
		used := [3]int{}
		for i := range n {
			text += fmt.Sprintf("? server \"s%d\": 2 supply bays, %dW, %d supplies needed\n", i, 10+rnd.IntN(90), 1+rnd.IntN(2))
			for in := range 1 + rnd.IntN(2) {
				p := rnd.IntN(3)
				used[p]++
				text += fmt.Sprintf("p%d/out%d - s%d/in%d\n", p, used[p], i, in+1)
			}
		}
		g := power.Of(labtest.From(t, text))
		i := g.Island()
		for range 6 {
			if rnd.IntN(3) == 0 {
				i.Empty(number(t, g, fmt.Sprintf("u%d", rnd.IntN(3))))
			} else {
				i.Stop(number(t, g, fmt.Sprintf("s%d", rnd.IntN(n))))
			}
			given, drawn := 0.0, 0.0
			for k := range 3 {
				given += i.Load(number(t, g, fmt.Sprintf("u%d", k)))
			}
			for k := range n {
				s := number(t, g, fmt.Sprintf("s%d", k))
				drawn += i.Load(s)
				if i.Runs(s) {
					require.InDelta(t, g.Flow().Load(s).W[power.Typical], i.Load(s), 1e-9, text)
				} else {
					require.Zero(t, i.Load(s), text)
				}
			}
			require.InDelta(t, drawn, given, 1e-9, text)
		}
	}
}
