package power_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/need"
	"levelstaff/core/power"
)

// house is a house with two breakers, a UPS and two strips.
const house = `lab "Q": 230V
circuit "kitchen 4": 16A 230V
circuit "garden 2": 10A 230V
place "Pantry"
  wall outlet "left": 2 outlets uk, on circuit "kitchen 4"
  wall outlet "right": 2 outlets uk, on circuit "garden 2"
? ups "keep": 1500VA 900W, 80% efficient, 2 outlets c13 battery, 2 outlets c13 filtered
? power strip "tower": rated 13A, 6 outlets uk
? server "anvil": 2 supply bays, 120W idle, 168W typical, 310W max
? nas "silo": 2 supply bays, 2 supplies needed, 96W typical, 150W max
? switch "core": 62W typical, 4 ports 1G poe at, PoE budget 60W
? access point "ap": 1 port 1G draws class 3, 9W typical, 12W max
? amplifier "amp"
left/out1 - keep/in1
right/out1 - tower/in1
keep/out1 - anvil/in1
tower/out1 - anvil/in2
keep/out2 - silo/in1
tower/out2 - silo/in2
keep/out3 - core/in1
tower/out3 - amp/in1
core/1 - ap/1
`

func number(t *testing.T, g *power.Grid, title string) int32 {
	t.Helper()
	i := slices.IndexFunc(g.Nodes(), func(n power.Node) bool { return n.Title == title })
	require.GreaterOrEqual(t, i, 0, title)
	return int32(i)
}

// Worked out by hand: anvil shares 84 W each way, silo 48; core draws 62 + 9/0.9 = 72.
// keep gives 84 + 48 + 72 = 204 and draws 204/0.8 = 255, tower gives 84 + 48 = 132.
func TestFlowWithBothFeeds(t *testing.T) {
	g := power.Of(labtest.From(t, house))
	f := g.Flow()
	for title, want := range map[string]float64{"core": 72, "keep": 204, "tower": 132, "left": 255, "kitchen 4": 255,
		"garden 2": 132, "anvil": 168,
		"ap": 9} {
		assert.InDelta(t, want, f.Load(number(t, g, title)).W[power.Typical], 1e-9, title)
	}
	assert.InDelta(t, 204/0.95, f.Load(number(t, g, "keep")).VA[power.Typical], 1e-9, "all of it has a power factor of 0.95")
	tower := f.Rests[number(t, g, "tower")][power.Typical]
	assert.Equal(t, 1, tower.Lacks(), "what amp draws is not known")
	assert.Equal(t, int32(2), tower[power.BySheet])
	assert.Zero(t, f.Rests[number(t, g, "keep")][power.Typical].Lacks())
	assert.Equal(t, 1, f.Rests[number(t, g, "garden 2")][power.Typical].Lacks())
}

// With the breaker of keep lost its battery holds anvil and silo; core is only filtered, and
// takes its access point along. With keep itself lost anvil runs on tower alone, silo needs
// both of its supplies.
func TestFlowWithOneLost(t *testing.T) {
	g := power.Of(labtest.From(t, house))
	for title, want := range map[string]string{
		"kitchen 4": "dark ap core; one leg ; held silo; over ",
		"keep":      "dark ap core silo; one leg anvil; held ; over ",
		"garden 2":  "dark amp silo; one leg anvil; held ; over ",
		"core":      "dark ap; one leg ; held ; over ",
	} {
		assert.Equal(t, want, words(g, g.Lose(power.Target{Node: number(t, g, title), Feed: -1})), title)
	}
}

func words(g *power.Grid, l power.Loss) string {
	names := func(list []int32) string {
		var said []string
		for _, n := range list {
			said = append(said, g.Nodes()[n].Title)
		}
		return strings.Join(said, " ")
	}
	return fmt.Sprintf("dark %s; one leg %s; held %s; over %s", names(l.Dark), names(l.OneLeg), names(l.Held), names(l.Over))
}

// core gives the loft switch, of class 4, what that draws: 8 + 9/0.9 = 18 W, and draws
// 62 + 18/0.9 = 82 itself.
func TestPoEThroughTwoSwitches(t *testing.T) {
	g := power.Of(labtest.From(t, `? switch "core": 62W typical, 4 ports 1G poe at, PoE budget 60W
? switch "loft": 1 port 1G draws class 4 called "up", 4 ports 1G poe af, 8W typical
? access point "ap": 1 port 1G draws class 3, 9W typical
core/1 - loft/up
loft/1 - ap/1
`))
	f := g.Flow()
	assert.InDelta(t, 18, f.In(number(t, g, "loft")).W[power.Typical], 1e-9)
	assert.InDelta(t, 82, f.In(number(t, g, "core")).W[power.Typical], 1e-9)
}

// A 16 A breaker at 230 V: 3680 W, of which 80 % for hours are 2944. One of 15 A at 120 V
// gives 1440, one of 32 A and 400 V with three poles 1.732 x 400 x 32 x 0.8 = 17,736.
func TestABreakerAtEightyPercent(t *testing.T) {
	g := power.Of(labtest.From(t, "circuit \"a\": 16A 230V\ncircuit \"b\": 15A 120V\ncircuit \"c\": 32A 400V 3 poles\n"))
	for title, want := range map[string]float64{"a": 2944, "b": 1440, "c": 17736.2} {
		w, va := g.Nodes()[number(t, g, title)].Limits.ForHours()
		assert.InDelta(t, want, w, 0.1, title)
		assert.InDelta(t, want, va, 0.1, title)
	}
}

// What was measured goes before the sum: 250 W behind the strip, of which 168 are anvil's
// and 82 nobody knows whose.
func TestWhatIsMeasuredGoesBeforeTheSum(t *testing.T) {
	g := power.Of(labtest.From(t, `? ups "keep": 1500VA, 2 outlets c13
? power strip "tower": 6 outlets uk, measured 250W behind it
? server "anvil": 168W typical, 310W max
? amplifier "amp"
keep/out1 - tower/in1
tower/out1 - anvil/in1
tower/out2 - amp/in1
`))
	f := g.Flow()
	keep, tower := number(t, g, "keep"), number(t, g, "tower")
	assert.InDelta(t, 250, f.Out(tower).W[power.Typical], 1e-9)
	assert.InDelta(t, 392, f.Out(tower).W[power.Most], 1e-9)
	assert.InDelta(t, 250, f.Out(keep).W[power.Typical], 1e-9)
	assert.InDelta(t, 82, g.Unexplained(tower), 1e-9)
	assert.Zero(t, f.Rests[keep][power.Typical].Lacks(), "amp is in what was measured")
	assert.Zero(t, f.Out(tower).W[power.Idle], "the meter does not say what of it is there at idle")
	assert.Equal(t, 3, f.Rests[keep][power.Idle].Lacks(), "that, anvil and amp")
}

// Four drives of 3.5 inches want 25 W each while they spin up, or one after the other.
func TestDrawOfADevice(t *testing.T) {
	l := labtest.From(t, `? server "a": 100W typical, measured 90W
  bay 1-4 drive: 4TB, hdd, 3.5in
? server "b": 100W typical, starts drives one by one
  bay 1-4 drive: 4TB, hdd, 3.5in
? server "c"
  bay 1-4 drive: 4TB, hdd, 3.5in
  processor: 65W
? server "d": resting, 6W standby, 100W typical
? server "e": spare, 100W typical
? switch "f": 18W
? switch "g": 18W, 30W max
`)
	g := power.Of(l)
	at := func(name string, allOn bool) power.Draw {
		if n := g.Nodes()[number(t, g, name)]; allOn {
			return n.AllOn
		}
		return g.Nodes()[number(t, g, name)].Draw
	}
	a, b, c, d, e := at("a", false), at("b", false), at("c", false), at("d", false), at("e", false)
	assert.Equal(t, []float64{90, 190, 125}, []float64{a.W[power.Typical], a.W[power.Boot], b.W[power.Boot]})
	assert.Equal(t, power.Measured, a.Basis[power.Typical])
	assert.Equal(t, []float64{24, 89, 124}, []float64{c.W[power.Typical], c.W[power.Most], c.W[power.Boot]})
	assert.Equal(t, power.WorkedOut, c.Basis[power.Typical])
	assert.Equal(t, []float64{6, 100}, []float64{d.W[power.Typical], at("d", true).W[power.Typical]})
	assert.Zero(t, e.W)
	assert.Equal(t, power.Off, e.Basis[power.Typical])
	f, h := at("f", false), at("g", false)
	assert.Equal(t, []any{18.0, power.BySheet}, []any{f.W[power.Idle], f.Basis[power.Idle]}, "one figure alone is what it draws")
	assert.Equal(t, power.Unknown, h.Basis[power.Idle])
}

// 4 h at most and 4 h idle leave 16 h of standby: (4 x 300 + 4 x 60 + 16 x 3) / 24 = 62.
func TestAverageByTheHours(t *testing.T) {
	l := labtest.From(t, `? amplifier "amp": 3W standby, 60W idle, 300W max, 4h a day most, 4h a day idle
? server "s": 10W standby, 100W typical, on 07:00-23:00
? server "u": 100W typical, on 07:00-23:00
`)
	g := power.Of(l)
	for name, want := range map[string]float64{"amp": 62, "s": (16*100 + 8*10) / 24.0, "u": 1600 / 24.0} {
		d := labtest.Named[lab.Device](t, l, name)
		w, known := power.Average(g.Nodes()[number(t, g, name)].Draw, d.RunTimes)
		assert.InDelta(t, want, w, 1e-9, name)
		assert.Equal(t, name != "u", known, "its standby is not known")
	}
}

// random makes a lab with feeders of every sort in layers and devices with one or two
// supplies on them.
func random(rnd *rand.Rand, needs bool) string {
	text := "lab \"Q\": 230V\ncircuit \"c0\": 16A\ncircuit \"c1\": 10A\nplace \"P\"\n"
	var layers [4][]string
	add := func(layer int, line, name string) {
		text += line + "\n"
		layers[layer] = append(layers[layer], name)
	}
	for i := range 3 {
		add(0, fmt.Sprintf("  wall outlet \"w%d\": 9 outlets uk, on circuit \"c%d\"", i, i%2), fmt.Sprint("w", i))
	}
	for i := range 2 {
		add(1, fmt.Sprintf("? ups \"u%d\": %dVA, %d%% efficient, 6 outlets c13 battery, 3 outlets c13 filtered", i,
			300+rnd.IntN(900), 80+rnd.IntN(20)),
			fmt.Sprint("u", i))
	}
	for i := range 3 {
		add(2, fmt.Sprintf("? power strip \"s%d\": rated %dA, 9 outlets c13", i, 1+rnd.IntN(9)), fmt.Sprint("s", i))
	}
	used := map[string]int{}
	out := func(layer int) string {
		for {
			l := rnd.IntN(layer)
			name := layers[l][rnd.IntN(len(layers[l]))]
			if used[name] < 9 {
				used[name]++
				return fmt.Sprintf("%s/out%d", name, used[name])
			}
		}
	}
	leads := ""
	for layer := 1; layer < 3; layer++ {
		for _, name := range layers[layer] {
			leads += fmt.Sprintf("%s - %s/in1\n", out(layer), name)
		}
	}
	for i := range 12 {
		n := 1 + rnd.IntN(2)
		need := 1
		if needs {
			need = 1 + rnd.IntN(n)
		}
		draw := []string{"", fmt.Sprintf(", %dW typical, %dW max", 20+rnd.IntN(200), 230+rnd.IntN(200))}[rnd.IntN(2)]
		text += fmt.Sprintf("? server \"d%d\": %d supply bays, %d supplies needed%s\n", i, n, need, draw)
		for in := range n {
			if rnd.IntN(6) > 0 {
				leads += fmt.Sprintf("%s - d%d/in%d\n", out(3), i, in+1)
			}
		}
	}
	return text + leads
}

// What flows into a node is what flows out plus its own draw and losses, and what all
// draw comes in at the circuits and at what hangs on nothing.
func TestWhatFlowsInFlowsOut(t *testing.T) {
	for seed := range uint64(60) {
		g := power.Of(labtest.From(t, random(rand.New(rand.NewPCG(seed, 1)), true)))
		f := g.Flow()
		sources, own := power.Watts{}, power.Watts{}
		for n := range g.Nodes() {
			in := power.Watts{}
			for _, e := range g.In(int32(n)) {
				for level, w := range f.Over(e).W {
					in[level] += w
				}
			}
			for level, w := range f.Own(int32(n)) {
				own[level] += w
				assert.GreaterOrEqual(t, w, -1e-9)
				if len(g.In(int32(n))) == 0 {
					sources[level] += f.In(int32(n)).W[level]
				} else {
					assert.InDelta(t, f.In(int32(n)).W[level], in[level], 1e-6)
				}
			}
		}
		for level := range sources {
			assert.InDelta(t, sources[level], own[level], 1e-6)
		}
	}
}

// Losing anything leaves dark what core/need says is down. Where every device needs one of
// its supplies, what is left carries no less than before.
func TestLossesAgreeWithNeedsAndLowerNothing(t *testing.T) {
	for seed := range uint64(40) {
		for _, needs := range []bool{true, false} {
			text := random(rand.New(rand.NewPCG(seed, 2)), needs)
			g := power.Of(labtest.From(t, text))
			graph := need.New()
			g.Needs(graph)
			for _, target := range g.Targets() {
				loss := g.Lose(target)
				thing := need.Thing{}
				switch {
				case target.Node >= 0:
					thing.Key = g.Nodes()[target.Node].Key
				case target.Lead:
					thing.Key = lab.Key{Kind: lab.KindCable, ID: g.Feeds()[target.Feed].Cable}
				default:
					f := g.Feeds()[target.Feed]
					thing = power.OutletOf(g.Nodes()[f.From].Key, f.Out)
				}
				n, ok := graph.Number(thing)
				require.True(t, ok)
				left := graph.Without([]int32{n}, nil)
				for i, node := range g.Nodes() {
					if node.Kind != power.DeviceNode || node.Key == thing.Key {
						continue
					}
					at, _ := graph.Number(need.Thing{Key: node.Key})
					require.Equal(t, !left.Up(at), slices.Contains(loss.Dark, int32(i)), "%s when %s is lost\n%s", node.Title, g.Words(target), text)
				}
				if needs {
					continue
				}
				of := onItsWay(g, target)
				for i, after := range g.After(target) {
					if before := g.Flow().Load(int32(i)); !of[int32(i)] {
						require.GreaterOrEqual(t, after.W[power.Typical], before.W[power.Typical]-1e-6, "%s when %s is lost\n%s",
							g.Nodes()[i].Title, g.Words(target), text)
					}
				}
			}
		}
	}
}

// onItsWay are the nodes that feed what is lost or are fed by it.
func onItsWay(g *power.Grid, t power.Target) map[int32]bool {
	of := map[int32]bool{}
	var walk func(n int32, feeds func(int32) []int32, next func(power.Feed) int32)
	walk = func(n int32, feeds func(int32) []int32, next func(power.Feed) int32) {
		of[n] = true
		for _, e := range feeds(n) {
			walk(next(g.Feeds()[e]), feeds, next)
		}
	}
	up, down := t.Node, t.Node
	if t.Feed >= 0 {
		up, down = g.Feeds()[t.Feed].From, g.Feeds()[t.Feed].To
	}
	walk(up, g.In, func(f power.Feed) int32 { return f.From })
	walk(down, g.Out, func(f power.Feed) int32 { return f.To })
	return of
}

// By class at the switch: a class 3 device takes 15.4 W, one of 20 W at most is class 4 and
// takes 30; core has 60 W. The loft switch is fed 25.5 W by its class and draws 8 itself:
// of the 17.5 left 15.75 come out, and a class 3 device takes 15.4.
func TestPoEByClass(t *testing.T) {
	g := power.Of(labtest.From(t, `? switch "core": 62W typical, 4 ports 1G poe at, PoE budget 60W
? switch "loft": 1 port 1G draws class 4 called "up", 4 ports 1G poe af, 8W typical, 8W max
? access point "ap": 1 port 1G draws class 3, 9W typical
? camera "eye": 1 port 1G, 20W max
? camera "lens": 1 port 1G
core/1 - loft/up
loft/1 - ap/1
core/2 - eye/1
loft/2 - lens/1
`))
	list := g.PoE()
	require.Len(t, list, 2)
	core, loft := list[0], list[1]
	assert.InDelta(t, 60, core.GivenW, 1e-9)
	assert.InDelta(t, 0, *core.LeftW(), 1e-9)
	assert.False(t, core.Over())
	assert.True(t, core.Ports[1].ByDraw)
	assert.InDelta(t, 15.75, *loft.BudgetW, 1e-9)
	assert.InDelta(t, 0.35, *loft.LeftW(), 1e-9)
	assert.Equal(t, 1, loft.Lacks, "lens has no class and no draw")
}
