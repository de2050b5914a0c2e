package network_test

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
	"levelstaff/core/network"
)

// at is the number of a device by its name.
func at(t *testing.T, n *network.Network, name string) int32 {
	t.Helper()
	for i := range int32(n.Wiring().DeviceCount()) {
		if n.Wiring().DeviceAt(i).Name == name {
			return i
		}
	}
	require.Fail(t, "no such device", name)
	return -1
}

// way writes a way: its hops, how wide it is for all and for one flow, what holds it
// down, and what stands by.
func way(t *testing.T, in network.Within, n *network.Network, from, to string) []string {
	t.Helper()
	w := in.Way(at(t, n, from), at(t, n, to))
	var hops []string
	for _, h := range w.Hops {
		hops = append(hops, strings.Trim(h.In+" "+n.Wiring().DeviceAt(h.Device).Name+" "+h.Out, " "))
	}
	said := []string{strings.Join(hops, " - "), fmt.Sprint(w.Mb, " ", w.FlowMb), "held by " + strings.Join(w.HeldBy, ", ")}
	for _, by := range rests(n, w.Standby) {
		said = append(said, by+" stands by")
	}
	return said
}

const hall = `rack "R": 12U
12 switch "core": 8 ports rj45 1G, 4 ports sfp+ 10G; bridge priority 4096
11 switch "loft": 8 ports rj45 1G, 2 ports sfp+ 10G; managed
10 NAS "silo": 1 port rj45 1G, 2 ports sfp+ 10G
9 server "anvil": 2 ports rj45 2.5G, 1 port sfp+ 10G
8 desktop "desk": 1 port rj45 100M
7 desktop "bench": 1 port rj45 2.5G
core/s1 - silo/s1 dac 1m
core/s2 - anvil/s1 dac 1m
core/5 - bench/1 cat6 3m
loft/5 - desk/1 cat6 3m
`

func TestAWayIsAsWideAsItsNarrowestHop(t *testing.T) {
	l := labtest.From(t, strings.ReplaceAll(hall, "; ", ", ")+`
core/1 - loft/1 cat6 10m
core/2 - loft/2 cat6 5m
`)
	n := network.Of(l)
	in := n.Everywhere()
	assert.Equal(t, []string{"anvil s1 - s2 core s1 - s1 silo", "10000 10000", "held by anvil/s1, core/s2, core/s1, silo/s1"},
		way(t, in, n, "anvil", "silo"))
	assert.Equal(t, []string{"bench 1 - 5 core s1 - s1 silo", "1000 1000", "held by core/5"}, way(t, in, n, "bench", "silo"),
		"the port of the desktop could do 2.5G")
	assert.Equal(t, []string{"desk 1 - 5 loft 1 - 1 core s1 - s1 silo", "100 100", "held by desk/1", "core/2 - loft/2 stands by"},
		way(t, in, n, "desk", "silo"), "of the two links the tree keeps the one at the lower port")
	assert.Empty(t, in.Way(at(t, n, "silo"), at(t, n, "silo")).Standby)
}

func TestAggregatedLinksCarryTogetherAndOneFlowGetsOne(t *testing.T) {
	l := labtest.From(t, strings.ReplaceAll(hall, "; ", ", ")+`
core/1 - loft/1 cat6 10m
core/2 - loft/2 cat6 5m
loft/s1 - server "mill"/s1 dac 2m
server "mill": 2 ports sfp+ 10G
aggregate "up" on core: ports 1-2, active-active
aggregate "down" on loft: ports 1-2, active-active
`)
	n := network.Of(l)
	assert.Equal(t, []string{"mill s1 - s1 loft down - up core s1 - s1 silo", "2000 1000", "held by loft/1, core/1, loft/2, core/2"},
		way(t, n.Everywhere(), n, "mill", "silo"))
	l = labtest.From(t, strings.ReplaceAll(hall, "; ", ", ")+`
core/s3 - silo/s2 dac 2m
core/6 - anvil/1
aggregate "pair" on silo: ports s1-s2, active-standby
`)
	n = network.Of(l)
	assert.Equal(t, []string{"bench 1 - 5 core s1 - s1 silo", "1000 1000", "held by core/5", "core/s3 - silo/s2 stands by"},
		way(t, n.Everywhere(), n, "bench", "silo"))
}

func TestWhereItCannotBeToldWhichLinkRestsTheOtherOneStandsBy(t *testing.T) {
	n := network.Of(labtest.From(t, `rack "R": 12U
12 switch "core": 8 ports rj45 1G
11 switch "loft": 8 ports rj45 1G
10 server "anvil": 1 port rj45 1G
core/1 - loft/2
core/2 - loft/1
loft/5 - anvil/1
`))
	w := n.Everywhere().Way(at(t, n, "core"), at(t, n, "anvil"))
	require.Len(t, w.Unsure, 1)
	require.Len(t, w.Standby, 1)
	assert.ElementsMatch(t, []string{"core/1 - loft/2", "core/2 - loft/1"}, rests(n, append(w.Unsure, w.Standby...)))
}

func TestAVLANGoesAnotherWay(t *testing.T) {
	l := labtest.From(t, strings.ReplaceAll(hall, "; ", ", ")+`
core/6 - silo/1 cat6 2m
core/5-6 untagged 20
core/s1-s2 untagged 10
core/1 - loft/1 cat6 10m
core/1 tagged 10
loft/1 tagged 10
loft/5 untagged 30
`)
	n := network.Of(l)
	assert.Equal(t, []string{"bench 1 - 5 core s1 - s1 silo", "1000 1000", "held by core/5"}, way(t, n.Everywhere(), n, "bench", "silo"))
	require.Len(t, n.InVLAN(20), 1)
	assert.Equal(t, []string{"bench 1 - 5 core 6 - 1 silo", "1000 1000", "held by core/5, core/6, silo/1"},
		way(t, n.InVLAN(20)[0], n, "bench", "silo"))
	assert.Empty(t, n.InVLAN(10)[0].Way(at(t, n, "bench"), at(t, n, "silo")).Hops)
	assert.Empty(t, n.InVLAN(60))
}

func TestASpeedNobodyKnowsIsNotInvented(t *testing.T) {
	l := labtest.From(t, `rack "R": 12U
12 switch "core": 4 ports
11 server "anvil": 2 ports
10 server "mill": 1 port rj45 1G
core/1 - anvil/1
core/2 - mill/1
`)
	n := network.Of(l)
	w := n.Everywhere().Way(at(t, n, "anvil"), at(t, n, "mill"))
	assert.Equal(t, 1000, w.Mb, "the hop that is known")
	assert.True(t, w.AtMost)
	l = labtest.From(t, `rack "R": 12U
12 switch "core": 4 ports
11 server "anvil": 2 ports
10 server "mill": 1 port
core/1 - anvil/1
core/2 - mill/1
`)
	n = network.Of(l)
	w = n.Everywhere().Way(at(t, n, "anvil"), at(t, n, "mill"))
	assert.Zero(t, w.Mb)
	assert.Len(t, w.Hops, 3)
	assert.Empty(t, w.HeldBy)
}

// scattered is a small lab of random devices with random links.
func scattered(t *testing.T, r *rand.Rand) *lab.Lab {
	t.Helper()
	kinds := []string{"switch", "router", "switch", "server", "router", "modem", "access point"}
	n := 3 + r.IntN(6)
	var text strings.Builder
	for i := range n {
		kind := kinds[r.IntN(len(kinds))]
		if kind == "modem" && r.IntN(2) == 0 {
			kind = "switch"
		}
		fmt.Fprintf(&text, "%s \"d%d\": 8 ports rj45 1G, 8 ports sfp+ 10G, bridge priority %d\n", kind, i, 4096*(i+1))
	}
	next := map[string]int{}
	plug := func(device int, group string) string {
		key := fmt.Sprintf("d%d/%s", device, group)
		next[key]++
		return fmt.Sprintf("%s%d", key, next[key])
	}
	for range n + r.IntN(n) {
		a, b := r.IntN(n), r.IntN(n)
		if a == b {
			continue
		}
		if group := []string{"", "s"}[r.IntN(2)]; next[fmt.Sprintf("d%d/%s", a, group)] < 8 && next[fmt.Sprintf("d%d/%s", b, group)] < 8 {
			kind := map[string]string{"": "cat6", "s": "dac"}[group]
			fmt.Fprintf(&text, "%s - %s %s %dm\n", plug(a, group), plug(b, group), kind, 1+r.IntN(3))
		}
	}
	return labtest.From(t, text.String())
}

// best is the widest way by trying all: its width, hops and metres.
func best(n *network.Network, carries map[int32]bool, passes func(int32) bool, from, to int32) (width, hops int, length float64) {
	on := map[int32]bool{from: true}
	var walk func(at int32, w, h int, m float64)
	walk = func(at int32, w, h int, m float64) {
		if at == to {
			if w > width || w == width && (h < hops || h == hops && m < length) {
				width, hops, length = w, h, m
			}
			return
		}
		if at != from && !passes(at) {
			return
		}
		for i, l := range n.Links() {
			far := l.B.Device
			if far == at {
				far = l.A.Device
			}
			if carries[int32(i)] && (l.A.Device == at || l.B.Device == at) && !on[far] {
				on[far] = true
				walk(far, min(w, l.Mb), h+1, m+l.LengthM)
				delete(on, far)
			}
		}
	}
	walk(from, 1<<30, 0, 0)
	return width, hops, length
}

func TestNoOtherWayIsWider(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	found := 0
	for range 300 {
		l := scattered(t, r)
		n := network.Of(l)
		carries := map[int32]bool{}
		for i, link := range n.Links() {
			carries[int32(i)] = !link.Down
		}
		for _, tree := range n.Trees() {
			require.Empty(t, tree.Unsure, "each bridge has a priority of its own")
			for _, rest := range tree.Resting {
				carries[rest] = false
			}
		}
		passes := func(device int32) bool {
			switch n.Wiring().DeviceAt(device).Kind {
			case lab.Switch, lab.Router, lab.Modem, lab.AccessPoint:
				return true
			}
			return false
		}
		for from := range int32(n.Wiring().DeviceCount()) {
			for to := range int32(n.Wiring().DeviceCount()) {
				if from == to {
					continue
				}
				w := n.Everywhere().Way(from, to)
				width, hops, length := best(n, carries, passes, from, to)
				if hops == 0 {
					assert.Empty(t, w.Hops)
					continue
				}
				found++
				assert.Equal(t, width, w.Mb)
				require.Len(t, w.Hops, hops+1)
				assert.InDelta(t, length, w.LengthM, 1e-9)
				narrow := 1 << 30
				for _, h := range w.Hops[:hops] {
					narrow = min(narrow, h.Mb)
				}
				assert.Equal(t, narrow, w.Mb, "never wider than its narrowest hop")
				for _, by := range w.Standby {
					assert.False(t, carries[by])
				}
			}
		}
	}
	assert.Greater(t, found, 1000)
}

func named(n *network.Network, devices []int32) []string {
	list := []string{}
	for _, d := range devices {
		list = append(list, n.Wiring().DeviceAt(d).Title())
	}
	slices.Sort(list)
	return list
}

// threads writes what a network hangs by.
func threads(n *network.Network) []string {
	list := []string{}
	all := n.Threads()
	for _, th := range all.List {
		say := ""
		if th.Device >= 0 {
			say = n.Wiring().DeviceAt(th.Device).Name
		} else {
			a, b := n.EndWords(th.Link)
			say = a + " - " + b
		}
		list = append(list, say+": "+strings.Join(named(n, all.CutsOff(th)), ", "))
	}
	return list
}

func TestWhatHangsByOneThread(t *testing.T) {
	const house = `
modem "way out": 1 port rj45
router "gate": 4 ports rj45
switch "core": 8 ports rj45, bridge priority 4096
switch "loft": 8 ports rj45, bridge priority 8192
switch "dome": 4 ports rj45, bridge priority 8192
server "anvil": 2 ports rj45
desktop "desk": 1 port rj45
way out/1 - gate/1
gate/2 - core/1
core/2 - loft/1
core/3 - dome/1
core/4 - anvil/1
loft/4 - anvil/2
loft/5 - desk/1
`
	n := network.Of(labtest.From(t, house))
	assert.Equal(t, []string{
		"way out: anvil, core, desk, dome, gate, loft",
		"gate: anvil, core, desk, dome, loft", "gate/1 - way out/1: anvil, core, desk, dome, gate, loft",
	}, []string{threads(n)[0], threads(n)[2], threads(n)[1]})
	assert.Equal(t, []string{
		"gate/2 - core/1: anvil, core, desk, dome, loft", "core: anvil, desk, dome, loft", "core/2 - loft/1: desk, loft", "loft: desk",
		"loft/5 - desk/1: desk", "core/3 - dome/1: dome",
	}, threads(n)[3:], "anvil has two links, and does not join what they end in")
	n = network.Of(labtest.From(t, house+"loft/2 - dome/2\ncore/6 - loft/6"))
	assert.Equal(t, []string{"core: anvil, desk, dome, loft", "loft: desk", "loft/5 - desk/1: desk"}, threads(n)[4:],
		"links that rest take over")
}

func TestWithoutALineTheLargestPieceStays(t *testing.T) {
	n := network.Of(labtest.From(t, `
switch "a": 8 ports rj45
switch "b": 8 ports rj45
switch "c": 8 ports rj45
server "a1": 1 port rj45
server "a2": 1 port rj45
server "c1": 1 port rj45
a/1 - b/1
b/2 - c/2
a/3 - a1/1
a/4 - a2/1
c/3 - c1/1
`))
	assert.Equal(t, []string{"a/1 - b/1: b, c, c1", "a: a1, a2", "b: c, c1", "b/2 - c/2: c, c1", "c: c1", "a/3 - a1/1: a1", "a/4 - a2/1: a2",
		"c/3 - c1/1: c1"}, threads(n))
}

func TestAPieceIsAtLeastTwoDevices(t *testing.T) {
	n := network.Of(labtest.From(t, `
switch "hub": 8 ports rj45
switch "far": 8 ports rj45
server "one": 1 port rj45
server "two": 1 port rj45
hub/1 - far/1
hub/2 - one/1
hub/3 - two/1
`))
	assert.Equal(t, []string{"hub: far, one, two", "hub/2 - one/1: one", "hub/3 - two/1: two", "hub/1 - far/1: far"}, threads(n))
	n = network.Of(labtest.From(t, `
switch "a": 8 ports rj45
switch "b": 8 ports rj45
a/1 - b/1
`))
	assert.Equal(t, []string{"a/1 - b/1: a, b", "a: b", "b: a"}, threads(n))
}

func TestThreadsAreWhatIsCutOffWhenOneThingIsGone(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	found := 0
	for range 400 {
		n := network.Of(scattered(t, r))
		all := n.Threads()
		byDevice, byLink := map[int32][]string{}, map[int32][]string{}
		for i, th := range all.List {
			if th.Device >= 0 {
				byDevice[th.Device] = named(n, all.CutsOff(th))
			} else {
				byLink[th.Link] = named(n, all.CutsOff(th))
			}
			assert.Len(t, all.CutsOff(th), th.Cuts)
			assert.True(t, i == 0 || all.List[i-1].Cuts >= th.Cuts)
			found++
		}
		empty := func(list []string) []string { return append([]string{}, list...) }
		for d := range int32(n.Wiring().DeviceCount()) {
			require.Equal(t, empty(byDevice[d]), named(n, n.CutOff(n.Wiring().DeviceAt(d).Key())), n.Wiring().DeviceAt(d).Name)
			more := r.IntN(n.Wiring().DeviceCount())
			keys := []lab.Key{n.Wiring().DeviceAt(d).Key(), n.Wiring().DeviceAt(int32(more)).Key()}
			if n.Wiring().DeviceAt(0).Kind == lab.Modem {
				both := n.CutOff(keys...)
				for _, one := range n.CutOff(keys[0]) {
					assert.True(t, one == int32(more) || slices.Contains(both, one), "what is cut off grows with what is taken away")
				}
			}
		}
		for i := range n.Links() {
			require.Equal(t, empty(byLink[int32(i)]), named(n, n.CutOff(n.Wiring().CableOf(n.Links()[i].Link).Key())))
		}
	}
	assert.Greater(t, found, 1000)
}

// From its gateway a VLAN gets as far as links carry it, and no further than what passes
// frames on: a server with two ports is no way.
func TestHowFarAGatewayGets(t *testing.T) {
	l := labtest.From(t, `vlan 20 servers
router "gate": 1 port, tagged 20
switch "core": 4 ports, tagged 20
switch "loft": 4 ports, tagged 20
server "anvil": 2 ports, tagged 20
server "thrush": 1 port, tagged 20
switch "apart": 4 ports, tagged 20
server "far": 1 port, tagged 20
core/1 - gate/1
core/2 - loft/1
core/3 - anvil/1
anvil/2 - apart/1
loft/2 - thrush/1
apart/2 - far/1`)
	of := func(name string) lab.ID { return labtest.Named[lab.Device](t, l, name).ID }
	g := need.New()
	sides := network.Of(l).FromGates(g, 20, "", []lab.ID{of("gate")})
	reached := func(gone ...string) (names []string) {
		var numbers []int32
		for _, name := range gone {
			numbers = append(numbers, g.Thing(need.Thing{Key: labtest.Named[lab.Device](t, l, name).Key()}))
		}
		left := g.Without(numbers, nil)
		for _, name := range []string{"gate", "core", "loft", "anvil", "thrush", "far"} {
			if side, known := sides[of(name)]; known && left.Up(side) {
				names = append(names, name)
			}
		}
		return names
	}
	assert.Equal(t, []string{"gate", "core", "loft", "anvil", "thrush"}, reached(), "far is behind a server")
	assert.Equal(t, []string{"gate", "core", "anvil"}, reached("loft"))
	assert.Equal(t, []string{"gate"}, reached("core"))
	assert.Empty(t, reached("gate"))
}
