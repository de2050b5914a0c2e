package power_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/power"
)

func titles(g *power.Grid, list []int32) []string {
	said := []string{}
	for _, n := range list {
		said = append(said, g.Nodes()[n].Title)
	}
	return said
}

func TestWhatSomethingHangsOn(t *testing.T) {
	g := power.Of(labtest.From(t, house))
	for title, want := range map[string][]string{"anvil": {"keep", "garden 2"}, "core": {"keep"}, "ap": {"keep"}, "amp": {"garden 2"},
		"keep": {"kitchen 4"}, "tower": {"garden 2"}, "kitchen 4": {}} {
		assert.ElementsMatch(t, want, titles(g, g.Feeding(number(t, g, title))), title)
	}
	assert.Equal(t, []string{"core", "keep", "left", "kitchen 4"}, titles(g, g.Above(number(t, g, "ap"))), "the nearest first")
}

// A laptop goes on by itself, and so does what hangs on its USB port.
func TestALaptopIsItsOwnUPS(t *testing.T) {
	g := power.Of(labtest.From(t, `? power strip "pillar": 4 outlets uk
? laptop "crust": 9W, 2 ports usb
? single-board computer "crumb": 5W
? single-board computer "wren": 1 port usb, 3W
pillar/out1 - crust/in1
pillar/out2 - crumb/in1
crust/usb1 - wren/in1
`))
	loss := g.Lose(power.Target{Node: number(t, g, "pillar"), Feed: -1})
	assert.Equal(t, []string{"crumb"}, titles(g, loss.Dark))
	assert.Equal(t, []string{"crust", "wren"}, titles(g, loss.Held))
	assert.Empty(t, loss.OneLeg)
	for title, want := range map[string]bool{"crust": true, "wren": true, "crumb": false} {
		assert.Equal(t, want, g.Holds(number(t, g, title)), title)
	}
}

// anvil is held by keep whatever becomes of tower; silo needs both; core is only filtered.
func TestWhatABatteryHolds(t *testing.T) {
	g := power.Of(labtest.From(t, `? ups "keep": 2 outlets c13 battery, 1 outlet c13 filtered
? power strip "tower": 4 outlets uk
? power strip "behind": 4 outlets uk
? server "anvil": 2 supply bays
? nas "silo": 2 supply bays, 2 supplies needed
? switch "core": 2 ports 1G poe at
? access point "ap": 1 port 1G draws class 3
? mini pc "thrush"
keep/out1 - behind/in1
behind/out1 - anvil/in1
tower/out1 - anvil/in2
behind/out2 - silo/in1
tower/out2 - silo/in2
keep/out2 - core/in1
core/1 - ap/1
keep/out3 - thrush/in1
`))
	for title, want := range map[string]bool{"anvil": true, "silo": false, "core": true, "ap": true, "thrush": false,
		"behind": true, "tower": false} {
		assert.Equal(t, want, g.Holds(number(t, g, title)), title)
	}
}

func TestWhatAllSuppliesGoThrough(t *testing.T) {
	for name, c := range map[string]struct{ leads, want string }{
		"nothing":        {"right/out1 - s/in1\nleft/out1 - s/in2\n", ""},
		"a strip":        {"left/out1 - a/in1\na/out1 - s/in1\na/out2 - s/in2\n", "a"},
		"a wall outlet":  {"left/out1 - a/in1\nleft/out2 - b/in1\na/out1 - s/in1\nb/out1 - s/in2\n", "left"},
		"a circuit":      {"left/out1 - a/in1\nbeside/out1 - b/in1\na/out1 - s/in1\nb/out1 - s/in2\n", "kitchen"},
		"one of its own": {"left/out1 - s/in1\n", ""},
	} {
		g := power.Of(labtest.From(t, `circuit "kitchen": 16A
circuit "garden": 16A
? wall outlet "left": 2 outlets uk, on circuit "kitchen"
? wall outlet "beside": 2 outlets uk, on circuit "kitchen"
? wall outlet "right": 2 outlets uk, on circuit "garden"
? power strip "a": 4 outlets uk
? power strip "b": 4 outlets uk
? server "s": 2 supply bays
`+c.leads))
		at, ok := g.SharedBy(number(t, g, "s"))
		if c.want == "" {
			assert.False(t, ok, name)
			continue
		}
		require.True(t, ok, name)
		assert.Equal(t, c.want, g.Nodes()[at].Title, name)
	}
}

func TestSuppliesAndOutlets(t *testing.T) {
	g := power.Of(labtest.From(t, `? power strip "a": 3 outlets uk
? server "s": 2 supply bays, 2 supplies needed
? server "u": 2 supply bays
? router "r"
a/out2 - s/in2
a/out3 - u/?
`))
	assert.Equal(t, power.Supplies{List: []power.Supply{{Port: "in1"}, {Port: "in2", Fed: true}}, Needs: 2}, g.Supplies(number(t, g, "s")))
	assert.Equal(t, []power.Supply{{Port: "in1", Fed: true}, {Port: "in2"}}, g.Supplies(number(t, g, "u")).List,
		"a lead is in one of them, nobody knows which")
	assert.Equal(t, power.Supplies{List: []power.Supply{{Port: "in1"}}, Needs: 1}, g.Supplies(number(t, g, "r")), "what has an inlet has one")
	var to []string
	for _, o := range g.Outlets(number(t, g, "a")) {
		said := "free"
		if o.Feed >= 0 {
			said = g.Nodes()[g.Feeds()[o.Feed].To].Title
		}
		to = append(to, o.Key+" "+said)
	}
	assert.Equal(t, []string{"out1 free", "out2 s", "out3 u"}, to)
	assert.Equal(t, []string{"s", "u"}, titles(g, g.OneLeg()))
}

// A strip of 10 A at 230 V gives 2300 W; a brick of 19 V and 3 A 57 W; behind a breaker of
// 400 V with three poles there are 230.9 V; 391 VA are 1.7 A at 230 V.
func TestLimitsOfWhatFeeds(t *testing.T) {
	g := power.Of(labtest.From(t, `lab "Q": 230V
circuit "kiln": 32A 400V 3 poles
? wall outlet "left": 2 outlets uk, on circuit "kiln"
? power strip "a": rated 10A, 3 outlets uk
? power strip "behind": rated 10A, 3 outlets uk
? power brick "b": 19V 3A
? ups "u": 1500VA 900W
? power strip "unknown"
left/out1 - behind/in1
`))
	for title, want := range map[string][]float64{"a": {2300, 2300}, "behind": {2309.4, 2309.4}, "b": {57, 0}, "u": {900,
		1500}, "unknown": {0, 0}} {
		w, va := g.Nodes()[number(t, g, title)].Limits.ForHours()
		assert.InDelta(t, want[0], w, 0.01, title)
		assert.InDelta(t, want[1], va, 0.01, title)
	}
	amps, ok := g.Nodes()[number(t, g, "a")].Limits.AmpsFor(391)
	assert.True(t, ok)
	assert.InDelta(t, 1.7, amps, 1e-9)
	amps, _ = g.Nodes()[number(t, g, "kiln")].Limits.AmpsFor(22170)
	assert.InDelta(t, 32, amps, 0.01, "in each pole")
	bare := power.Of(labtest.From(t, "? power strip \"a\": rated 10A, 3 outlets uk\n"))
	_, ok = bare.Nodes()[0].Limits.AmpsFor(391)
	assert.False(t, ok, "of what voltage, nobody says")
	_, known := bare.MayDraw()
	assert.False(t, known)
	w, known := g.MayDraw()
	assert.True(t, known)
	assert.InDelta(t, 17736.2, w, 0.1)
}

// In all: anvil 168, silo 96, core 62 and ap 9, a tenth lost between the two, 51 by keep.
func TestSumsOfALabAndOfARack(t *testing.T) {
	l := labtest.From(t, house+"rack \"R\": 9U\n9 hub \"h\": 5W typical\n8 hub \"off\", resting: 2W standby, 20W typical\n7 hub \"?\"\n")
	g := power.Of(l)
	all := g.All()
	assert.InDelta(t, 168+96+62+9+1+51+5+2, all.Watts[power.Typical], 1e-9)
	assert.Equal(t, 2, all.Lacks[power.Typical], "amp and a hub")
	assert.InDelta(t, all.Watts[power.Typical]+18, all.AllOn, 1e-9)
	r := g.InRack(labtest.Named[lab.Rack](t, l, "R").ID)
	assert.InDelta(t, 7, r.Watts[power.Typical], 1e-9)
	assert.Equal(t, 1, r.Lacks[power.Typical])
}

func TestWhatIsFullest(t *testing.T) {
	g := power.Of(labtest.From(t, house))
	at, full, ok := g.Fullest()
	require.True(t, ok)
	assert.Equal(t, "keep", g.Nodes()[at].Title)
	assert.InDelta(t, 204.0/900, full, 1e-9, "its watts bind before its volt-amperes")
	stands, _ := g.Standing(at)
	assert.Equal(t, []any{power.Within, "within"}, []any{stands, stands.Word()})
	_, _, ok = power.Of(lab.New()).Fullest()
	assert.False(t, ok)
}

// Two feeds at once: with both breakers gone only keep's battery is left.
func TestTwoFeedsAtOnce(t *testing.T) {
	g := power.Of(labtest.From(t, house))
	byWords := map[string]string{}
	for _, l := range g.Pairs() {
		byWords[g.Words(l.Targets[0])+" and "+g.Words(l.Targets[1])] = words(g, l)
	}
	require.Len(t, byWords, 3)
	both, ok := byWords["kitchen 4 and garden 2"]
	if !ok {
		both = byWords["garden 2 and kitchen 4"]
	}
	assert.Equal(t, "dark amp ap core silo; one leg anvil; held anvil; over ", both)
}

// USB feeds what has no supply of its own, or goes into an inlet; what is faulty feeds
// nothing; of two switches that give each other power one does.
func TestWhatElseFeeds(t *testing.T) {
	g := power.Of(labtest.From(t, `? server "s": 2 ports usb-a, 200W typical
? sensor "damp": 1 port usb-b, 2W typical
? single-board computer "finch": 5W typical
? nas "n": 1 port usb-a
? power strip "a": 4 outlets uk
? mini pc "m"
? switch "x": 2 ports 1G poe at draws class 4, 20W typical
? switch "y": 2 ports 1G poe at draws class 4, 20W typical
s/usb1 - damp/usb1
s/usb2 - n/usb1
a/out1 - m/in1 faulty
x/1 - y/1
`))
	assert.InDelta(t, 202, g.Flow().In(number(t, g, "s")).W[power.Typical], 1e-6, "over USB nothing is lost")
	assert.Empty(t, g.In(number(t, g, "n")), "it has a supply of its own")
	assert.Empty(t, g.In(number(t, g, "m")), "its lead is faulty")
	assert.Equal(t, 1, len(g.In(number(t, g, "x")))+len(g.In(number(t, g, "y"))), "a circle is cut")
}

// A UPS whose efficiency nobody knows loses something that is in no sum.
func TestLossesThatAreNotKnown(t *testing.T) {
	g := power.Of(labtest.From(t, `? ups "a": 4 outlets c13
? ups "b": 4 outlets c13, 18W idle
? server "s": 100W typical
? server "u": 100W typical
a/out1 - s/in1
b/out1 - u/in1
`))
	a, b := number(t, g, "a"), number(t, g, "b")
	assert.Equal(t, []bool{true, false}, []bool{g.LossesUnknown(a), g.LossesUnknown(b)})
	assert.InDelta(t, 100, g.Flow().In(a).W[power.Typical], 1e-9)
	assert.InDelta(t, 118, g.Flow().In(b).W[power.Typical], 1e-9, "what it draws idle it draws under load too")
	assert.Equal(t, 18.0, g.Flow().Own(b)[power.Typical])
}

func TestWordsOfWhatAFigureRestsOn(t *testing.T) {
	for b, want := range map[power.Basis]string{power.Off: "draws nothing", power.Measured: "measured", power.BySheet: "by its sheet",
		power.WorkedOut: "worked out, at least", power.Unknown: "unknown"} {
		assert.Equal(t, want, b.Words())
	}
	assert.Equal(t, power.Most, power.Level(lab.AtMost))
	assert.Equal(t, power.Typical, power.Level(""))
}

// The efficiency of a server's supplies is in what it draws; what was measured at a switch
// has what it gives over the network in it, and all of that is explained.
func TestWhatIsMeasuredAtADevice(t *testing.T) {
	g := power.Of(labtest.From(t, `? server "s": 100W typical, 92% efficient
? switch "core": 40W typical, measured 62W, 4 ports 1G poe at
? access point "ap": 1 port 1G draws class 3, 9W typical
core/1 - ap/1
`))
	f := g.Flow()
	assert.InDelta(t, 100, f.In(number(t, g, "s")).W[power.Typical], 1e-9)
	core := number(t, g, "core")
	assert.InDelta(t, 62, f.In(core).W[power.Typical], 1e-9)
	assert.Zero(t, g.Unexplained(core))
}

// core draws 62 itself, gives 9 over the network to what is in the same place, and loses 1: a
// place has each watt once.
func TestWhatAPlaceDraws(t *testing.T) {
	g := power.Of(labtest.From(t, `place "Loft"
  switch "core": 62W typical, 4 ports 1G poe at
  access point "ap": 1 port 1G draws class 3, 9W typical
  power strip "a": 3 outlets uk
  amplifier "amp"
a/out1 - core/in1
a/out2 - amp/in1
core/1 - ap/1
`))
	loft := g.ByPlace()["Loft"]
	assert.InDelta(t, 72, loft.Watts[power.Typical], 1e-9)
	assert.Equal(t, 1, loft.Lacks[power.Typical])
}
