package drill_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/network"
	"levelstaff/core/power"
)

// house is a small lab over all layers: two breakers, a UPS and two strips, a switch and a
// router, a NAS and two hosts, what runs on them, and what of it needs what.
const house = `lab "House": 230V
circuit "kitchen": 16A 230V
circuit "hall": 16A 230V
vlan 10 house
vlan 20 servers
subnet 10.10.0.0/24 vlan 10: gateway .1
subnet 10.20.0.0/24 vlan 20: gateway .1
place "Pantry"
  wall outlet "left": 2 outlets uk, on circuit "kitchen"
  wall outlet "right": 2 outlets uk, on circuit "hall"
rack "R": 24U
2 ups "keep": 1500VA, 4 outlets c13 battery
3 pdu "a": 6 outlets c13
4 switch "core": 8 ports 1G, untagged 10, tagged 20
6 router "gate": 2 ports 1G, untagged 10, tagged 20, 10.10.0.1, 10.20.0.1
8 nas "silo": 4 bays 3.5in, 4x 8TB hdd, 1 port 1G, untagged 10, 10.10.0.12
10 server "anvil": 2 supply bays, 2 ports 1G, untagged 10, tagged 20, 10.10.0.14, runs hypervisor, 64GB
12 server "thrush": 1 port 1G, untagged 10, tagged 20, 10.10.0.15, runs hypervisor, 64GB
14 desktop "desk": 1 port 1G, untagged 10, 10.10.0.50
right/out1 - keep/in1
left/out1 - a/in1
keep/out1 - core/in1
keep/out2 - gate/in1
keep/out3 - silo/in1
keep/out4 - anvil/in1
a/out1 - anvil/in2
a/out2 - thrush/in1
a/out3 - desk/in1
core/1 - gate/1
core/2 - silo/1
core/3 - anvil/1
core/4 - thrush/1
core/5 - desk/1
name servers of vlan 10: names 1, names 2
pool "hold" on silo: raid 5
dataset "scores" on hold: 2TB, household
share "scores" of "scores": by nfs, to thrush, by address
on anvil: vm "choir": 8GB, 80GB on hold, vlan 20 10.20.0.31, household
on anvil: vm "base": 4GB, vlan 20 10.20.0.32
on thrush: vm "names 1": 1GB, vlan 10 10.10.0.53
on anvil: vm "names 2": 1GB, vlan 10 10.10.0.54
on thrush: vm "old": 1GB, stopped
share "disks" of "choir disk": by nfs, to anvil, by name
service "library" in choir, https, household, used by "the choir"
service "data" in base
service "mail" in base, used by "Ada"
service "weather" in names 1
"library" needs "data"
"library" wants "mail"
"weather" needs "names 1" or "names 2"
`

// titles are hits by what they are.
func titles(list []drill.Hit) string {
	var said []string
	for _, h := range list {
		said = append(said, h.Kind+" "+h.Title)
	}
	return strings.Join(said, ", ")
}

// target is a record of the house by its kind and title; silo/out1 is an outlet.
func target(t *testing.T, l *lab.Lab, kind lab.RecordKind, title string) drill.Target {
	t.Helper()
	outlet := ""
	if kind == lab.KindDevice {
		title, outlet, _ = strings.Cut(title, "/")
	}
	for r := range l.Records(kind) {
		if c, is := r.(lab.Cable); r.Title() == title || is && strings.Contains(l.CableWords(c), title) {
			return drill.Target{Key: r.Key(), Outlet: outlet}
		}
	}
	require.Fail(t, "there is none", title)
	return drill.Target{}
}

// Worked out by hand: what hangs on what in the house as it is drawn.
func TestWhatStopsWhenSomethingGoes(t *testing.T) {
	l := labtest.From(t, house)
	w := drill.Of(l)
	const (
		services = "service library, service data, service mail"
		stored   = "dataset choir disk, pool silo/hold, share disks, share scores"
		nobody   = "" // is said to use it
	)
	for _, c := range []struct {
		kind                         lab.RecordKind
		title                        string
		stops, limps, cutOff, notice string
	}{
		{lab.KindService, "data", "service library", "", "", "the choir"},
		{lab.KindService, "mail", "", "service library", "", nobody},
		{lab.KindDevice, "base", services, "", "", "Ada, the choir"},
		{lab.KindDevice, "names 2", "", "service weather", "", nobody},
		{lab.KindDevice, "old", "", "", "", nobody}, // it does not run
		// anvil mounts a share by the names of guests, which have no gateway then.
		{lab.KindDevice, "gate", services + ", service weather, guest choir, guest base, guest names 1, guest names 2", "device anvil", "",
			"Ada, the choir"},
		{lab.KindDevice, "thrush", "service weather, guest names 1", "", "", nobody},
		{lab.KindCircuit, "kitchen", "service weather, guest names 1, device a, device desk, device left, device thrush", "device anvil", "",
			nobody},
		{lab.KindCircuit, "hall", "device right", services + ", service weather, guest choir, guest base, guest names 1, guest names 2, " +
			"device core, device gate, device silo, dataset scores, " + stored, "", nobody},
		{lab.KindDevice, "a/out1", "", "device anvil", "", nobody},
		{lab.KindDevice, "a/out2", "service weather, guest names 1, device thrush", "", "", nobody},
		{lab.KindCable, "anvil/1", services + ", guest choir, guest base, guest names 2", "service weather", "device anvil", "Ada, the choir"},
		{lab.KindDevice, "core", services + ", service weather, guest choir, guest base, guest names 1, guest names 2", "device anvil",
			"device anvil, device desk, device gate, device silo, device thrush", "Ada, the choir"},
		{lab.KindPart, "drive", "", "pool silo/hold", "", nobody},
		{lab.KindPool, "hold", "service library, guest choir, dataset scores, dataset choir disk, share disks, share scores",
			"device anvil, device thrush", "", "the choir"},
		{lab.KindDevice, "silo", "service library, guest choir, dataset scores, " + stored, "device anvil, device thrush", "", "the choir"},
	} {
		out := w.IfGone(target(t, l, c.kind, c.title))
		assert.Equal(t, c.stops, titles(out.Stops), "without %s stops", c.title)
		assert.Equal(t, c.limps, titles(out.Limps), "without %s limps", c.title)
		assert.Equal(t, c.cutOff, titles(out.CutOff), "without %s is cut off", c.title)
		assert.Equal(t, c.notice, strings.Join(out.NoticedBy, ", "), "without %s notice", c.title)
	}
}

// Every hit says why, step by step, down to what went.
func TestWhyItStops(t *testing.T) {
	l := labtest.From(t, house)
	w := drill.Of(l)
	for _, c := range []struct {
		kind       lab.RecordKind
		title, hit string
		why        []string
	}{
		{lab.KindDevice, "base", "library", []string{"library needs data", "data runs in base", "base is gone"}},
		{lab.KindCircuit, "kitchen", "weather", []string{"weather runs in names 1", "names 1 runs on thrush", "thrush is fed by a",
			"a is fed by left",
			"left is fed by kitchen", "kitchen is gone"}},
		{lab.KindCircuit, "kitchen", "anvil", []string{"anvil is fed by a, which is down"}},
		{lab.KindDevice, "a/out2", "thrush", []string{"thrush is fed by a/out2", "a/out2 is gone"}},
		{lab.KindCircuit, "hall", "core", []string{"core is fed by keep", "keep has nothing but its battery"}},
		{lab.KindCable, "anvil/1", "choir", []string{"choir gets to its gateway over core/3 - anvil/1", "core/3 - anvil/1 is gone"}},
		{lab.KindDevice, "gate", "choir", []string{"choir is routed by gate", "gate is gone"}},
		{lab.KindDevice, "names 2", "weather", []string{"weather needs names 1 or names 2, and names 2 is gone"}},
		{lab.KindPart, "drive", "silo/hold", []string{"silo/hold has drive 1 of silo, which is gone"}},
		{lab.KindPool, "hold", "library", []string{"library runs in choir", "choir has the disk choir disk", "choir disk is on silo/hold",
			"silo/hold is gone"}},
		{lab.KindService, "mail", "library", []string{"library wants mail, which is gone"}},
	} {
		out := w.IfGone(target(t, l, c.kind, c.title))
		all := slices.Concat(out.Stops, out.Limps)
		i := slices.IndexFunc(all, func(h drill.Hit) bool { return h.Title == c.hit })
		require.GreaterOrEqual(t, i, 0, "%s without %s", c.hit, c.title)
		assert.Equal(t, c.why, all[i].Why, "%s without %s", c.hit, c.title)
	}
}

// More that goes takes more with it: what stops without one thing stops without two.
func TestWhatStopsGrowsWithWhatGoes(t *testing.T) {
	l := labtest.From(t, house)
	w := drill.Of(l)
	var all []drill.Target
	for _, kind := range drill.Kinds() {
		for r := range l.Records(kind) {
			all = append(all, drill.Target{Key: r.Key()})
		}
	}
	for _, a := range all {
		alone := w.IfGone(a)
		for _, b := range all {
			both := w.IfGone(a, b)
			for _, h := range alone.Stops {
				is := h.Key == b.Key || slices.ContainsFunc(both.Stops, func(o drill.Hit) bool { return o.Key == h.Key })
				assert.True(t, is, "%s stops without %s, and so without %s too", h.Title, w.Title(a.Key), w.Title(b.Key))
			}
		}
	}
}

// What power alone says goes dark, and what the network alone says is cut off, is what the
// whole says.
func TestTheWholeAgreesWithItsLayers(t *testing.T) {
	l := labtest.From(t, house)
	w, g, net := drill.Of(l), power.Of(l), network.Of(l)
	titled := func(title string) func(drill.Hit) bool { return func(h drill.Hit) bool { return h.Title == title } }
	for _, loss := range g.Losses() {
		lost := loss.Targets[0]
		var is drill.Target
		switch {
		case lost.Node >= 0:
			is.Key = g.Nodes()[lost.Node].Key
		case lost.Lead:
			is.Key = lab.Key{Kind: lab.KindCable, ID: g.Feeds()[lost.Feed].Cable}
		default:
			f := g.Feeds()[lost.Feed]
			is = drill.Target{Key: g.Nodes()[f.From].Key, Outlet: f.Out}
		}
		out := w.IfGone(is)
		var dark []string
		for _, n := range loss.Dark {
			dark = append(dark, g.Nodes()[n].Title)
		}
		for _, h := range out.Stops {
			if n, known := g.Number(h.Key); known && !g.Nodes()[n].Kind.Feeder() {
				assert.Contains(t, dark, h.Title, g.Words(lost))
				dark = slices.DeleteFunc(dark, func(s string) bool { return s == h.Title })
			}
		}
		assert.Empty(t, dark, g.Words(lost))
		for _, n := range loss.Held {
			assert.True(t, slices.ContainsFunc(out.Limps, titled(g.Nodes()[n].Title)), "%s without %s", g.Nodes()[n].Title, g.Words(lost))
		}
	}
	for d := range lab.Things(l) {
		out := w.IfGone(drill.Target{Key: d.Key()})
		for _, i := range net.CutOff(d.Key()) {
			title := net.Wiring().DeviceAt(i).Title()
			assert.True(t, slices.ContainsFunc(slices.Concat(out.CutOff, out.Stops), titled(title)), "%s without %s", title, d.Title())
		}
	}
}

// Every single loss is counted as it is told, and the worst come first.
func TestAllSingleLosses(t *testing.T) {
	w := drill.Of(labtest.From(t, house))
	list := w.Losses()
	var titles []string
	for i, loss := range list {
		count := map[string]int{}
		for _, h := range w.IfGone(loss.Target).Stops {
			count[h.Kind]++
		}
		assert.Equal(t, []int{count["service"], count["guest"], count["device"]}, []int{loss.Services, loss.Guests, loss.Dark}, loss.Title)
		if i > 0 {
			assert.GreaterOrEqual(t, list[i-1].Household, loss.Household)
		}
		titles = append(titles, loss.Title)
	}
	assert.Equal(t, "keep", titles[0], "it takes three devices with it, and so the gateway of all that runs")
	assert.Contains(t, titles, "keep/out1")
	assert.NotContains(t, titles, "mail", "nothing stops without it")
}

// A guest that its cluster restarts goes on elsewhere, with its way to the network from
// there; what is pinned stops.
func TestWhatAClusterRestartsGoesOn(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, `on thrush: vm "old"`, `cluster "pair": anvil, thrush, shared hold
on anvil: vm "moves": 1GB, 8GB on hold, vlan 20 10.20.0.40, restarts elsewhere
on anvil: vm "stays": 1GB, 8GB on hold, vlan 20 10.20.0.41, pinned
on thrush: vm "old"`, 1))
	w := drill.Of(l)
	out := w.IfGone(target(t, l, lab.KindDevice, "anvil"))
	assert.Equal(t, "guest moves", titles(slices.DeleteFunc(out.Limps, func(h drill.Hit) bool { return h.Kind == "service" })))
	assert.Equal(t, []string{"moves runs on anvil or thrush, and anvil is gone"}, out.Limps[slices.IndexFunc(out.Limps,
		func(h drill.Hit) bool { return h.Title == "moves" })].Why)
	assert.Contains(t, titles(out.Stops), "guest stays")
	assert.NotContains(t, titles(out.Stops), "guest moves")
}

// A service on a device that is no guest's host stops with the way to its gateway; the
// device itself runs on, cut off.
func TestAServiceOnADeviceOfItsOwn(t *testing.T) {
	l := labtest.From(t, house+"service \"printing\" in desk, household, used by everyone\n")
	out := drill.Of(l).IfGone(target(t, l, lab.KindCable, "desk/1"))
	assert.Equal(t, "service printing", titles(out.Stops))
	assert.Equal(t, []string{"printing gets to its gateway over core/5 - desk/1", "core/5 - desk/1 is gone"}, out.Stops[0].Why)
	assert.Equal(t, "device desk", titles(out.CutOff))
	assert.Empty(t, drill.Of(l).Circles(), "what runs on it needs its way, and it does not")
	assert.Equal(t, "Without core/5 - desk/1: 1 service (1 of the household's) stops; 1 device is cut off.",
		drill.Of(l).Say(target(t, l, lab.KindCable, "desk/1"), out))
}

// A service of the household hangs on one leg where any one thing but what it runs in takes
// it down; of one with a stand-by for each none does.
func TestWhatHangsOnOneLeg(t *testing.T) {
	of := func(more string) (titles []string, many int) {
		list, many := drill.Of(labtest.From(t, `rack "R": 24U
10 server "anvil": runs hypervisor
12 server "thrush": runs hypervisor
nas "silo": 4 bays 3.5in, 4x 8TB hdd
pool "hold" on silo: raid 5
cluster "pair": anvil, thrush, shared hold
`+more)).OnOneLeg()
		for _, v := range list {
			titles = append(titles, v.Title())
		}
		return titles, many
	}
	for more, want := range map[string]string{
		"":                                      "",
		"service \"songs\" in anvil, household": "songs",
		"service \"songs\" in anvil":            "", // nobody says that the household needs it
		"on anvil: vm \"choir\"\nservice \"songs\" in choir, household":                                       "songs",
		"on anvil: vm \"choir\": 1GB, restarts elsewhere\nservice \"songs\" in choir, household":              "",
		"on anvil: vm \"choir\": 1GB, 8GB on hold, restarts elsewhere\nservice \"songs\" in choir, household": "songs", // silo
	} {
		memory := "anvil: 64GB, 8 cores\nthrush: 64GB, 8 cores\n"
		titles, many := of(memory + more + "\n")
		assert.Equal(t, want, strings.Join(titles, ", "), more)
		assert.Equal(t, strings.Count(more, "household"), many, more)
	}
}

// The worst of those is none of what a service itself runs in, however much that takes down.
func TestTheWorstLeg(t *testing.T) {
	w := drill.Of(labtest.From(t, `rack "R": 24U
10 server "anvil": runs hypervisor, 64GB, 8 cores
12 server "thrush": runs hypervisor, 64GB, 8 cores
cluster "pair": anvil, thrush
on anvil: vm "choir": 1GB, restarts elsewhere
service "songs" in choir, household
service "scores" in choir, household
on thrush: vm "mail": 1GB
service "letters" in mail, household
`))
	assert.Equal(t, "choir", w.Losses()[0].Title)
	assert.Equal(t, "thrush", w.WorstLeg().Title)
	assert.Equal(t, 1, w.WorstLeg().Household)
	assert.Zero(t, drill.Of(labtest.From(t, "rack r: 9U\n")).WorstLeg())
}

// Without the line outside what goes out over it stops, and everybody gets what is left;
// with a second one it goes on.
func TestWithoutALineOutside(t *testing.T) {
	const out = "line \"fibre\": 900M down, into gate/2, first\ntunnel \"parents\": from gate\n\"choir\" needs tunnel \"parents\"\n"
	l := labtest.From(t, house+out)
	fibre := target(t, l, lab.KindLine, "fibre")
	got := drill.Of(l).IfGone(fibre)
	assert.Equal(t, "service library, guest choir, tunnel parents", titles(got.Stops))
	assert.Equal(t, []string{"choir needs parents", "parents goes out over fibre", "fibre is gone"}, got.Stops[1].Why)
	assert.Equal(t, "Without fibre nothing gets outside. Without fibre: 1 service (1 of the household's) and 1 guest stop.",
		drill.Of(l).Say(fibre, got))

	l = labtest.From(t, house+out+"line \"mobile\": 60M down, into gate/2, when the others fail\n")
	got = drill.Of(l).IfGone(target(t, l, lab.KindLine, "fibre"))
	assert.Empty(t, titles(got.Stops))
	assert.Equal(t, "tunnel parents", titles(got.Limps))
}

// What is said to rest is there for nothing: it is no alternative, and nothing starts on it.
func TestWhatRestsIsThereForNothing(t *testing.T) {
	const either = "\"data\" needs \"names 1\" or \"names 2\"\n"
	l := labtest.From(t, house+either)
	assert.Empty(t, drill.Of(l).IfGone(target(t, l, lab.KindDevice, "names 2")).Stops)
	l = labtest.From(t, strings.Replace(house, `12 server "thrush":`, `12 server "thrush": resting,`, 1)+either)
	w := drill.Of(l)
	assert.Equal(t, "service library, service data, guest choir", titles(w.IfGone(target(t, l, lab.KindDevice, "names 2")).Stops),
		"names 1 is on what rests")
	assert.NotContains(t, w.Start().Steps, drill.Step{Key: target(t, l, lab.KindDevice, "thrush").Key, Title: "thrush"})
}

// What only hangs on a circle is in none, however much of it there is.
func TestWhatHangsOnACircleIsInNone(t *testing.T) {
	text := stuck +
		"on thrush: vm \"a\": 1GB\non thrush: vm \"b\": 1GB\n\"a\" needs \"b\"\n\"b\" needs \"a\"\nname servers of vlan 10: thrush\n"
	for i := range 30 {
		text += fmt.Sprintf("on thrush: vm \"g%d\": 1GB\n\"g%d\" needs %q\n", i, i, []string{"a", fmt.Sprintf("g%d", i-1)}[min(i, 1)])
	}
	w := drill.Of(labtest.From(t, text))
	circles := w.Circles()
	assert.Len(t, circles, 1)
	assert.Equal(t, []string{"a", "b"}, circles[0].Titles)
	assert.Len(t, w.Start().Stuck, 32)
}

// Two subnets in one VLAN have a gateway each; what has an address in the second one does
// not hang on the first one's.
func TestTwoGatewaysInOneVLAN(t *testing.T) {
	l := labtest.From(t, house+`router "second": 2 ports 1G, untagged 10, 10.30.0.1
subnet 10.30.0.0/24 vlan 10: gateway .1
core/6 - second/1
on anvil: vm "there": 1GB, vlan 10 10.30.0.9
`)
	w := drill.Of(l)
	assert.NotContains(t, titles(w.IfGone(target(t, l, lab.KindDevice, "gate")).Stops), "guest there")
	assert.Equal(t, "guest there", titles(w.IfGone(target(t, l, lab.KindDevice, "second")).Stops))
	assert.Equal(t, "guest there", titles(w.IfGone(target(t, l, lab.KindCable, "second/1")).Stops))
}
