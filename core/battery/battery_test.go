package battery_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/battery"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/power"
)

const today = lab.Day("2026-11-26")

// held is how long the one UPS of a lab holds.
func held(t *testing.T, text string) battery.Hold {
	t.Helper()
	l := labtest.From(t, text)
	list := battery.Of(l, l, today)
	require.Len(t, list, 1)
	return list[0]
}

// under is a UPS with a load on it.
func under(watts, ups string) string {
	return `? ups "keep": 1500VA, 2 outlets c13 battery, ` + ups + "\n? server \"anvil\": " + watts + "\nkeep/out1 - anvil/in1\n"
}

// Worked out by hand. Between 500 W, 14 min and 1000 W, 5 min the slope is
// ln(5/14)/ln(2) = -1.4854: at 707.1 W (half an octave up) 14 x 2^-0.7427 = 8.366 min; at
// 250 W, an octave down, 14 x 2^1.4854 = 39.2 min; below that it holds no longer than that.
// One point keeps W x min: 400 x 60 / 300 = 80. 216 Wh at 300 W: 60 x 216 x 0.88 / 300 =
// 38.02; with 92 % efficiency 39.74. Lead that was put in on the last of May 2024 is 2.489
// years old and holds 1 - 0.5 x 2.489/5 = 0.7511 of that.
func TestMinutesByHand(t *testing.T) {
	for name, c := range map[string]struct {
		watts, ups string
		minutes    float64
		rests      battery.Basis
		beyond     bool
	}{
		"a point":             {"500W", "500W for 14min, 1000W for 5min", 14, battery.ByPoints, false},
		"between two points":  {"707.107W", "500W for 14min, 1000W for 5min", 8.366, battery.ByPoints, false},
		"an octave below":     {"250W", "500W for 14min, 1000W for 5min", 39.2, battery.ByPoints, false},
		"two octaves below":   {"125W", "500W for 14min, 1000W for 5min", 39.2, battery.ByPoints, true},
		"three points":        {"131W", "420W for 2min, 210W for 7min, 105W for 17min", 12.81, battery.ByPoints, false},
		"one point":           {"300W", "400W for 60min", 80, battery.ByPoints, true},
		"minutes alone":       {"300W", "35min", 35, battery.ByPoints, true},
		"energy":              {"300W", "remark\nkeep battery: 216Wh", 38.016, battery.ByEnergy, false},
		"energy, efficiency":  {"300W", "92% efficient\nkeep battery: 216Wh", 39.744, battery.ByEnergy, false},
		"two batteries":       {"300W", "x\nkeep battery: 216Wh\nkeep battery: 100Wh", 55.616, battery.ByEnergy, false},
		"energy with age":     {"300W", "x\nkeep battery: 216Wh, lead, put in 2024-05", 28.554, battery.ByEnergy, false},
		"points with age":     {"500W", "500W for 14min, 1000W for 5min\nkeep battery: lead, put in 2024-05", 10.515, battery.ByPoints, false},
		"an old battery":      {"500W", "500W for 14min, 1000W for 5min\nkeep battery: lead, put in 2011", 7, battery.ByPoints, false},
		"iron phosphate, old": {"500W", "500W for 14min, 1000W for 5min\nkeep battery: lfp, put in 2011", 11.2, battery.ByPoints, false},
		"a pack outside":      {"500W", "500W for 14min, 1000W for 5min\nkeep battery: 216Wh, outside", 36.81, battery.ByPoints, false},
		"of unknown age":      {"500W", "500W for 14min, 1000W for 5min\nkeep battery: lead", 14, battery.ByPoints, false},
	} {
		h := held(t, under(c.watts, c.ups))
		require.True(t, h.Known, name)
		assert.InDelta(t, c.minutes, h.Minutes, 0.01, name)
		assert.Equal(t, []any{c.rests, c.beyond}, []any{h.Curve.Rests, h.Beyond}, name)
	}
	for name, text := range map[string]string{
		"nothing is known of it":   under("300W", "x"),
		"nothing is known to load": under("x", "400W for 60min"),
	} {
		assert.False(t, held(t, text).Known, name)
	}
	bypass := held(t, under("300W", "400W for 60min, in bypass"))
	assert.True(t, bypass.Known)
	assert.Zero(t, bypass.Minutes)
}

// What is measured behind a UPS is its load; minutes alone are at the load it had when they
// were said: 35 x 300 / 600 = 17.5.
func TestTheLoadOfAUPS(t *testing.T) {
	assert.InDelta(t, 74, held(t, under("300W", "measured 74W behind it, 400W for 60min")).LoadW, 1e-9)
	said, now := labtest.From(t, under("300W", "35min")), labtest.From(t, under("600W", "35min"))
	ups := labtest.Named[lab.Device](t, now, "keep")
	minutes, _, _ := battery.CurveOf(now, ups, today, battery.Of(said, said, today)[0].LoadW).Minutes(600)
	assert.InDelta(t, 17.5, minutes, 1e-9)
}

// staged is five devices on two UPSs, silo on both. Each UPS holds 100 W for 60 min by its
// one point, so that a load of P W takes P/6000 of it a minute.
const staged = `circuit "k": 16A 230V
? ups "keep": 4 outlets c13 battery, 100W for 60min
? ups "flint": 4 outlets c13 battery, 100W for 60min
? server "anvil": 200W, goes after 5min, stops in 60s
? nas "silo": 2 supply bays, 100W, goes at 40%, stops in 120s
? switch "core": 50W, goes last
? mini pc "thrush": 50W, goes at 75%, stops in 30s
? display "wall"
keep/out1 - anvil/in1
keep/out2 - silo/in1
flint/out1 - silo/in2
keep/out3 - core/in1
flint/out2 - thrush/in1
flint/out3 - wall/in1
`

// Worked out by hand. keep: 200 + 50 + 50 = 300 W until anvil is down at 6:00, which takes
// 300/6000 x 6 = 30 %; from then 100 W. flint: 50 + 50 = 100 W takes 1.667 % a minute:
// thrush waits for 75 %, at 15:00, and is down at 15:30 with 74.17 %; from then 50 W, 0.8333
// a minute. silo waits until the fuller of both is at 40 %: keep falls from 70 % by 1.667 a
// minute and is there at 24:00; flint falls from 74.17 % and is there at 15:30 + 41:00 =
// 56:30. keep is empty at 6:00 + 42:00 = 48:00, with core, which waits for silo, still on
// it: core is lost, and silo then draws its 100 W from flint alone: 74.17 - 0.8333 x 32.5 =
// 47.08 % at 48:00, 40 % at 1.667 a minute 4:15 later, at 52:15; down at 54:15 with 36.67 %.
func TestStagedShutdownStepByStep(t *testing.T) {
	l := labtest.From(t, staged)
	g := power.Of(l)
	o := battery.Simulate(l, l, today, battery.What{})
	name := func(n int32) string { return g.Nodes()[n].Title }
	said := map[string][]string{}
	for _, r := range o.Runs {
		for _, s := range r.Steps {
			said[name(r.Node)] = append(said[name(r.Node)], fmt.Sprintf("%s %.0f %.0f %.2f", name(s.Node), s.AtS, s.DownS, s.Percent))
		}
		for _, lost := range r.Lost {
			said[name(r.Node)] = append(said[name(r.Node)], fmt.Sprintf("%s lost %v %.0f", name(lost.Node), lost.Known, lost.AtS))
		}
	}
	assert.Equal(t, map[string][]string{
		"keep":  {"anvil 300 360 75.00", "silo 3135 3255 40.00", "core lost true 2880"},
		"flint": {"thrush 900 930 75.00", "silo 3135 3255 40.00", "wall lost false 0"},
	}, said)
	at := slices.IndexFunc(o.Runs, func(r battery.Run) bool { return name(r.Node) == "keep" })
	keep := o.Runs[at]
	assert.InDelta(t, 2880, *keep.EmptyS, 1e-6)
	assert.InDelta(t, 3255, *keep.DownS, 1e-6, "what is lost was never told to stop, and the others are down")
	assert.Nil(t, o.Runs[1-at].EmptyS, "nothing is left on it whose draw is known")
	var marks []string
	for _, m := range keep.Marks {
		marks = append(marks, fmt.Sprintf("%.0f %.1f %.0f", m.S, m.Percent, m.LoadW))
	}
	assert.Equal(t, []string{"0 100.0 300", "360 70.0 100", "2880 0.0 0"}, marks, "where its load changes")
}

// The mains are back after 5:30: anvil is stopping, all else is up.
func TestTheMainsComeBackInTheMiddle(t *testing.T) {
	l := labtest.From(t, staged)
	g := power.Of(l)
	names := func(list []int32) []string {
		said := []string{}
		for _, n := range list {
			said = append(said, g.Nodes()[n].Title)
		}
		return said
	}
	back := battery.Simulate(l, l, today, battery.What{BackS: 330}).Back
	assert.Equal(t, [][]string{{}, {"anvil"}, {"core", "silo", "thrush", "wall"}}, [][]string{names(back.Down),
		names(back.Stopping), names(back.Up)})
	back = battery.Simulate(l, l, today, battery.What{BackS: 3000}).Back
	assert.Equal(t, [][]string{{"anvil", "core", "thrush"}, {}, {"silo", "wall"}}, [][]string{names(back.Down),
		names(back.Stopping), names(back.Up)})
}

// What hangs on a switch over the network goes when that is down, and what waits for a
// device when that is.
func TestWhatHangsOnADeviceGoesWithIt(t *testing.T) {
	l := labtest.From(t, `? ups "keep": 4 outlets c13 battery, 100W for 60min
? switch "core": 40W, 4 ports 1G poe, goes after "anvil", stops in 10s
? server "anvil": 50W, 5W standby, goes after 2min, stops in 30s
? access point "ap": 1 port 1G draws class 3, 9W
keep/out1 - core/in1
keep/out2 - anvil/in1
core/1 - ap/1
`)
	g := power.Of(l)
	run := battery.Simulate(l, l, today, battery.What{}).Runs[0]
	require.Len(t, run.Steps, 2)
	assert.Equal(t, []any{"anvil", 120.0, 150.0}, []any{g.Nodes()[run.Steps[0].Node].Title, run.Steps[0].AtS, run.Steps[0].DownS})
	assert.Equal(t, []any{"core", 150.0, 160.0}, []any{g.Nodes()[run.Steps[1].Node].Title, run.Steps[1].AtS, run.Steps[1].DownS})
	require.Len(t, run.Lost, 1)
	assert.Equal(t, []any{"ap", 160.0}, []any{g.Nodes()[run.Lost[0].Node].Title, run.Lost[0].AtS})
	last := run.Marks[len(run.Marks)-2] // before it is empty
	assert.InDelta(t, 5, last.LoadW, 1e-9, "anvil draws its standby when it is down")
	require.NotNil(t, run.EmptyS)
}

// A lower load never holds shorter; a device that goes earlier never makes another be lost.
func TestPropertiesOfBatteries(t *testing.T) {
	rnd := rand.New(rand.NewPCG(20, 26))
	for range 60 {
		points := []string{}
		w, minutes := 50+rnd.Float64()*100, 200.0
		for range 1 + rnd.IntN(4) {
			points = append(points, fmt.Sprintf("%.1fW for %.1fmin", w, minutes))
			w, minutes = w*(1.2+rnd.Float64()), minutes*(0.2+0.7*rnd.Float64())
		}
		l := labtest.From(t, `? ups "k": `+strings.Join(points, ", ")+"\n")
		c := battery.CurveOf(l, labtest.Named[lab.Device](t, l, "k"), today, 0)
		before := 1e12
		for load := 5.0; load < 2000; load *= 1.07 {
			now, _, known := c.Minutes(load)
			require.True(t, known)
			require.LessOrEqual(t, now, before+1e-9, "%v at %v W", points, load)
			before = now
		}
	}
	for seed := range 60 {
		text := "? ups \"a\": 8 outlets c13 battery, 100W for 30min\n? ups \"b\": 8 outlets c13 battery, 100W for 60min, 400W for 9min\n"
		goes := []string{}
		for i := range 6 {
			text += fmt.Sprintf("? server \"s%d\": 2 supply bays, %dW, stops in %ds\n", i, 20+rnd.IntN(150), rnd.IntN(200))
			goes = append(goes, []string{fmt.Sprintf("goes at %d%%", 1+rnd.IntN(99)), fmt.Sprintf("goes after %dmin", rnd.IntN(20))}[rnd.IntN(2)])
			text += fmt.Sprintf("a/out%d - s%d/in1\n", i+1, i)
			if rnd.IntN(2) == 0 {
				text += fmt.Sprintf("b/out%d - s%d/in2\n", i+1, i)
			}
		}
		lost := func(goes []string) map[string]bool {
			all := text
			for i, when := range goes {
				all += fmt.Sprintf("s%d: %s\n", i, when)
			}
			l := labtest.From(t, all)
			g := power.Of(l)
			names := map[string]bool{}
			for _, r := range battery.Simulate(l, l, today, battery.What{}).Runs {
				for _, x := range r.Lost {
					names[g.Nodes()[x.Node].Title] = true
				}
			}
			return names
		}
		before := lost(goes)
		i := rnd.IntN(len(goes))
		goes[i] = "goes after 0min"
		for name := range lost(goes) {
			require.True(t, before[name] || name == fmt.Sprintf("s%d", i), "seed %d: %s was not lost before s%d went at once", seed, name, i)
		}
	}
}

// Toys first, what others need last, a watcher after the other computers; what has a time
// keeps it, and what goes with its switch gets none.
func TestASuggestedOrder(t *testing.T) {
	l := labtest.From(t, `? ups "keep": 8 outlets c13 battery, watched by "finch"
? switch "core": 40W, 4 ports 1G poe
? server "anvil": 50W
? server "bench": 50W
? nas "silo": 30W
? single-board computer "finch": 5W
? display "wall": 20W
? mini pc "thrush": 10W, goes after 3min
? access point "ap": 1 port 1G draws class 3, 9W
? server "mains": 50W
keep/out1 - core/in1
keep/out2 - anvil/in1
keep/out3 - silo/in1
keep/out4 - finch/in1
keep/out5 - wall/in1
keep/out6 - thrush/in1
keep/out7 - bench/in1
core/1 - ap/1
`)
	suggested := func(turns map[lab.ID]int) (map[string]string, *lab.Lab) {
		after, err := l.Apply(battery.Suggest(l, turns))
		require.NoError(t, err)
		said := map[string]string{}
		for d := range lab.Each[lab.Device](after) {
			switch g := d.Goes; {
			case g == nil:
			case g.Last:
				said[d.Title()] = "last"
			case g.AtPercent != nil:
				said[d.Title()] = fmt.Sprintf("at %.0f", *g.AtPercent)
			default:
				said[d.Title()] = fmt.Sprintf("after %.0f", *g.AfterMin)
			}
		}
		return said, after
	}
	want := map[string]string{"core": "last", "anvil": "at 60", "bench": "at 60", "silo": "at 40", "finch": "at 20", "wall": "after 0",
		"thrush": "after 3"}
	said, after := suggested(nil)
	assert.Equal(t, want, said)
	assert.Empty(t, battery.Suggest(after, nil), "all has its time")

	// What runs on bench needs what runs on anvil, and so goes before it.
	id := func(name string) lab.ID { return labtest.Named[lab.Device](t, l, name).ID }
	want["anvil"] = "at 55"
	said, _ = suggested(map[lab.ID]int{id("anvil"): 2, id("bench"): 3, id("silo"): 1})
	assert.Equal(t, want, said)
}

// A strip gives 690 W (3 A at 230 V). The switch starts alone, as all need it; then the NAS,
// then the servers: two of 300 W while they start fit beside 20 + 100 W, of three only after
// the first two are down to their 150.
func TestStartingAgainInWaves(t *testing.T) {
	l := labtest.From(t, `lab: 230V
? power strip "bar": rated 3A, 8 outlets c13
? switch "core": 20W, 20W max
? nas "silo": 60W, 100W max, 200W boot
? server "a": 100W, 120W max, 280W boot
? server "b": 100W, 120W max, 280W boot
? server "c": 100W, 120W max, 280W boot
? server "huge": 900W, 900W max, 900W boot
bar/out1 - core/in1
bar/out2 - silo/in1
bar/out3 - a/in1
bar/out4 - b/in1
bar/out5 - c/in1
bar/out6 - huge/in1
`)
	g := power.Of(l)
	waves := func(turns map[lab.ID]int) (said []string) {
		for _, w := range battery.Start(l, turns) {
			line := fmt.Sprintf("%.0f:", w.AtS)
			for _, n := range w.Nodes {
				line += " " + g.Nodes()[n].Title
			}
			for _, n := range w.Over {
				line += " over " + g.Nodes()[n].Title
			}
			said = append(said, line)
		}
		return said
	}
	assert.Equal(t, []string{"0: core", "60: silo", "120: a b", "180: c", "240: huge over bar"}, waves(nil))

	// What runs on c is needed by what runs on b, and that by nobody; the NAS still comes first.
	id := func(name string) lab.ID { return labtest.Named[lab.Device](t, l, name).ID }
	assert.Equal(t, []string{"0: core", "60: silo", "120: c b", "180: a", "240: huge over bar"},
		waves(map[lab.ID]int{id("c"): 1, id("b"): 2, id("silo"): 3}))
}

// Worked out by hand: first holds 100 W for 60 min and feeds second, which holds 100 W for 30;
// anvil draws 100 W through both. first is empty after 60 min, second after 90. anvil goes
// when the fuller of both, second, is at 50 %: 15 min after it began, at 75 min.
func TestUPSsInARow(t *testing.T) {
	l := labtest.From(t, `? ups "first": 2 outlets c13 battery, 100W for 60min
? ups "second": 2 outlets c13 battery, 100W for 30min
? server "anvil": 100W, goes at 50%, stops in 60s
? display "wall": 0W
first/out1 - second/in1
second/out1 - anvil/in1
first/out2 - wall/in1
`)
	g := power.Of(l)
	runs := battery.Simulate(l, l, today, battery.What{}).Runs
	require.Len(t, runs, 2)
	assert.Equal(t, "first", g.Nodes()[runs[0].Node].Title)
	assert.InDelta(t, 3600, *runs[0].EmptyS, 1e-6)
	assert.Nil(t, runs[1].EmptyS, "anvil is down before")
	require.Len(t, runs[1].Steps, 1)
	assert.Equal(t, []float64{4500, 4560, 50}, []float64{math.Round(runs[1].Steps[0].AtS), math.Round(runs[1].Steps[0].DownS),
		math.Round(runs[1].Steps[0].Percent)})
	without := battery.Simulate(l, l, today, battery.What{Nobody: true}).Runs
	assert.InDelta(t, 5400, *without[1].EmptyS, 1e-6)
	assert.Equal(t, "anvil", g.Nodes()[without[1].Lost[0].Node].Title)
	require.Len(t, runs[0].Lost, 1, "wall hangs on first alone")
	assert.Equal(t, "wall", g.Nodes()[runs[0].Lost[0].Node].Title)
}

// What is known of no battery is not known to be empty, and what has a time goes all the same.
func TestAUPSOfWhichNothingIsKnown(t *testing.T) {
	l := labtest.From(t, `? ups "keep": 4 outlets c13 battery
? server "anvil": 100W, goes after 2min
? server "silo": 100W, goes at 50%
keep/out1 - anvil/in1
keep/out2 - silo/in1
`)
	run := battery.Simulate(l, l, today, battery.What{}).Runs[0]
	require.Len(t, run.Steps, 1)
	assert.Equal(t, []any{120.0, 180.0, true}, []any{run.Steps[0].AtS, run.Steps[0].DownS, run.Steps[0].Guessed}, "60 s is a guess")
	assert.Nil(t, run.EmptyS)
	require.Len(t, run.Lost, 1)
	assert.False(t, run.Lost[0].Known, "nobody knows when")
}
