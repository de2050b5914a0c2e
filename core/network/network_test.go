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
	"levelstaff/core/network"
)

// spread writes a VLAN's spread as one reads it: each piece is its ports, with a t
// behind those where it is tagged.
func spread(l *lab.Lab, number int, domain string) []string {
	n := network.Of(l)
	pieces := []string{}
	for _, s := range n.Spreads() {
		if s.VLAN.Number != number || s.VLAN.Domain != domain {
			continue
		}
		for _, p := range s.Pieces {
			var ports []string
			for _, t := range p.Tips {
				say := n.Wiring().DeviceAt(t.Device).Title() + "/" + n.Wiring().KeyOf(t.Tip)
				if t.Tagged {
					say += " t"
				}
				ports = append(ports, say)
			}
			slices.Sort(ports)
			pieces = append(pieces, strings.Join(slices.Compact(ports), ", "))
		}
	}
	slices.Sort(pieces)
	return pieces
}

// rests writes the links of a list.
func rests(n *network.Network, links []int32) []string {
	said := []string{}
	for _, l := range links {
		a, b := n.EndWords(l)
		said = append(said, a+" - "+b)
	}
	return said
}

const three = `rack "R": 12U
12 switch "core": 8 ports rj45 1G
11 switch "loft": 8 ports rj45 1G
10 switch "hall": 8 ports rj45 1G
9 server "anvil": 2 ports rj45 1G
8 server "thrush": 2 ports rj45 1G
core/1 - loft/1
core/2 - hall/1
core/5 - anvil/1
hall/5 - thrush/1
`

func TestAVLANReachesWhereBothEndsOfEachCableCarryIt(t *testing.T) {
	l := labtest.From(t, three+`
core/1-2 tagged 20
core/5 untagged 20
loft/1 tagged 20
hall/1 tagged 20
hall/5 untagged 20
`)
	assert.Equal(t, []string{"anvil/1, core/1 t, core/2 t, core/5, hall/1 t, hall/5, loft/1 t, thrush/1"}, spread(l, 20, ""),
		"one piece: a server takes what comes")
	l = labtest.From(t, three+`
core/1 tagged 20
core/5 untagged 20
loft/1 tagged 20
hall/1 tagged 20
hall/5 untagged 20
`)
	assert.Equal(t, []string{"anvil/1, core/1 t, core/5, loft/1 t", "hall/5, thrush/1"}, spread(l, 20, ""), "core/2 does not carry it")
}

func TestWhatIsTaggedAtOneEndAloneGoesNeitherWay(t *testing.T) {
	l := labtest.From(t, three+"core/1 tagged 20\nloft/1 untagged 20\ncore/5 untagged 10\ncore/2 untagged 10\nhall/1 untagged 30\n")
	assert.Empty(t, spread(l, 20, ""))
	assert.Equal(t, []string{"anvil/1, core/5"}, spread(l, 10, ""), "hall puts it into another VLAN")
}

func TestWhatNothingIsSaidOfPassesEverything(t *testing.T) {
	l := labtest.From(t, three+"core/2 tagged 20 untagged 10\ncore/5 untagged 10\n")
	assert.Equal(t, []string{"core/2 t, hall/1 t, hall/5 t, thrush/1 t"}, spread(l, 20, ""), "hall is not said to be anything")
	assert.Equal(t, []string{"anvil/1, core/2, core/5, hall/1, hall/5, thrush/1"}, spread(l, 10, ""))
	l = labtest.From(t, three+"hall: unmanaged\nhall/1 untagged 30\ncore/2 untagged 10\n")
	assert.Equal(t, []string{"core/2, hall/1, hall/5, thrush/1"}, spread(l, 10, ""), "an unmanaged switch has no VLANs, whatever is said")
}

// What is tagged stays tagged behind an unmanaged switch, so that a port there that
// is not tagged is of another piece.
func TestAnUnmanagedSwitchKeepsTaggedAndUntaggedApart(t *testing.T) {
	l := labtest.From(t, `rack "R": 12U
12 switch "core": 4 ports rj45
11 switch "hop": 5 ports rj45, unmanaged
10 switch "loft": 4 ports rj45
9 switch "hall": 4 ports rj45
core/1 - hop/1
hop/2 - loft/1
hop/3 - hall/1
core/1 tagged 20
loft/1 tagged 20
hall/1 untagged 20
`)
	assert.Equal(t, []string{"core/1 t, hop/1 t, hop/2 t, loft/1 t", "hall/1, hop/3"}, spread(l, 20, ""))
}

func TestARouterEndsItsNetworksUntilAVLANIsSaidOfAPort(t *testing.T) {
	text := `rack "R": 12U
12 switch "core": 4 ports rj45
11 router "gate": 4 ports rj45
10 switch "far": 4 ports rj45
core/1 - gate/1
gate/2 - far/1
core/1 untagged 10
far/1 untagged 10
`
	l := labtest.From(t, text)
	assert.Equal(t, []string{"core/1, gate/1", "far/1, gate/2"}, spread(l, 10, ""))
	l = labtest.From(t, text+"gate/1-2 untagged 10\n")
	assert.Equal(t, []string{"core/1, far/1, gate/1, gate/2"}, spread(l, 10, ""))
}

// A router that switches some of its ports ends the networks of the others.
func TestOfARouterOnlyThePortsOfAVLANAreJoined(t *testing.T) {
	text := `rack "R": 12U
12 router "gate": 4 ports rj45
11 switch "core": 4 ports rj45, untagged 10
10 switch "far": 4 ports rj45, untagged 10
9 switch "near": 4 ports rj45, untagged 10
core/1 - gate/1
far/1 - gate/2
near/1 - gate/3
gate/1 untagged 10
gate/3 untagged 10
`
	assert.Equal(t, []string{"core/1, gate/1, gate/3, near/1", "far/1, gate/2"}, spread(labtest.From(t, text), 10, ""))
}

// The air between access points is in the domain of the switch they hang on.
func TestTheAirIsInTheDomainOfWhatItHangsOn(t *testing.T) {
	l := labtest.From(t, `rack "R": 12U
12 switch "S1": 4 ports rj45, domain "exam lab", tagged 20
11 access point "one": 1 ports rj45
10 access point "two"
9 access point "three"
8 laptop "pupil": on wireless "Practice"
S1/1 - one/1
one/air - two/air wireless, tagged 20
two/air - three/air wireless, tagged 20
vlan 20 "practice" in domain "exam lab"
wireless "Practice" vlan 20 on "three"
`)
	assert.Equal(t, []string{"S1/1 t, one/1 t, one/air t, pupil/air t, three/air t, two/air t"}, spread(l, 20, "exam lab"))
	assert.Empty(t, spread(l, 20, ""))
}

func TestANumberMeansSomethingElseInAnotherDomain(t *testing.T) {
	l := labtest.From(t, `rack "R": 12U
12 switch "core": 4 ports rj45, tagged 20
11 switch "S1": 4 ports rj45, domain "exam lab", tagged 20
10 server "a": 1 ports rj45, tagged 20
9 server "b": 1 ports rj45, tagged 20
core/1 - S1/1
core/2 - a/1
S1/2 - b/1
vlan 20 "servers"
vlan 20 "practice" in domain "exam lab"
`)
	assert.Equal(t, []string{"a/1 t, core/2 t"}, spread(l, 20, ""))
	assert.Equal(t, []string{"S1/2 t, b/1 t"}, spread(l, 20, "exam lab"), "a server is in the domain of the switch it is on")
}

func TestThroughPanelsFaultyLeadsAndSwitchesThatAreOff(t *testing.T) {
	text := `rack "R": 12U
12 switch "core": 4 ports rj45, untagged 10
11 patch panel "P": 4 ports
10 patch panel "Q": 4 ports
9 switch "loft": 4 ports rj45, untagged 10
8 server "a": 1 ports rj45
core/1 - P/1
P/1 = Q/1
Q/1 - loft/1%s
loft/2 - a/1
`
	assert.Equal(t, []string{"a/1, core/1, loft/1, loft/2"}, spread(labtest.From(t, fmt.Sprintf(text, "")), 10, ""))
	assert.Equal(t, []string{"a/1, loft/2"}, spread(labtest.From(t, fmt.Sprintf(text, " faulty")), 10, ""))
	assert.Equal(t, []string{"a/1, loft/2"}, spread(labtest.From(t, fmt.Sprintf(text, "")+"core/1 broken\n"), 10, ""))
	assert.Empty(t, spread(labtest.From(t, fmt.Sprintf(text, "")+"loft: resting\n"), 10, ""), "a switch that is off passes nothing")
}

func TestTheAirIsPartOfIt(t *testing.T) {
	l := labtest.From(t, `rack "R": 12U
12 switch "core": 4 ports rj45, tagged 10,30
11 access point "loft ap": 1 ports rj45
10 access point "hall ap"
9 laptop "vesper": on wireless "Quarry"
8 laptop "visitor": on wireless "Guests"
core/1 - loft ap/1
wireless "Quarry" vlan 10 on "loft ap", "hall ap"
wireless "Guests" vlan 30 on "hall ap"
loft ap/air - hall ap/air wireless, carries 300M, tagged 10
`)
	assert.Equal(t, []string{"core/1 t, hall ap/air t, loft ap/1 t, loft ap/air t, vesper/air t"}, spread(l, 10, ""))
	assert.Equal(t, []string{"core/1 t, loft ap/1 t", "hall ap/air t, visitor/air t"}, spread(l, 30, ""), "the link does not carry 30")
}

// Three switches in a ring, 1 Gb/s each, equal but for one priority: the link
// between the other two rests (path costs 20000 and 20000 against 40000).
func TestOfThreeSwitchesInARingTheLinkBetweenTheOthersRests(t *testing.T) {
	ring := three + "loft/2 - hall/2\n"
	n := network.Of(labtest.From(t, ring+"core: bridge priority 4096\n"))
	tree := n.Trees()[0]
	assert.Equal(t, "core", n.Wiring().DeviceAt(tree.Root).Title())
	assert.Equal(t, []string{"loft/2 - hall/2"}, rests(n, tree.Resting))
	assert.Empty(t, tree.Unsure)
	assert.Equal(t, 1, tree.Spare)

	n = network.Of(labtest.From(t, ring))
	tree = n.Trees()[0]
	assert.Equal(t, int32(-1), tree.Root)
	assert.Len(t, tree.Between, 3)
	assert.Empty(t, tree.Resting, "each of the three may")
	assert.Len(t, tree.Unsure, 3)

	n = network.Of(labtest.From(t, ring+"core: mac 02:00:5e:00:00:09\nloft: mac 02-00-5e-00-00-01\nhall: mac 02:00:5e:00:00:05\n"))
	tree = n.Trees()[0]
	assert.Equal(t, "loft", n.Wiring().DeviceAt(tree.Root).Title(), "the lowest MAC")
	assert.Equal(t, []string{"core/2 - hall/1"}, rests(n, tree.Resting))
}

// A slow link to the root costs more than two fast ones: 100 Mb/s 200000, 10 Gb/s
// 2000 each.
func TestTheTreeGoesBySpeedAndAnAggregateIsOneLink(t *testing.T) {
	n := network.Of(labtest.From(t, `rack "R": 12U
12 switch "core": 4 ports rj45 100M, 4 ports sfp+ 10G, bridge priority 4096
11 switch "loft": 4 ports rj45 100M, 4 ports sfp+ 10G
10 switch "hall": 4 ports rj45 100M, 4 ports sfp+ 10G
core/1 - loft/1
core/s1 - hall/s1 dac
core/s2 - hall/s2 dac
hall/s3 - loft/s3 dac
aggregate "up" on core: ports s1-s2
aggregate "up" on hall: ports s1-s2, active-active
`))
	tree := n.Trees()[0]
	assert.Equal(t, []string{"core/1 - loft/1"}, rests(n, tree.Resting))
	assert.Equal(t, 1, tree.Spare, "the aggregate is no loop")
	groups := n.Groups()
	require.Len(t, groups, 2)
	assert.Equal(t, []int{20_000, 10_000}, []int{groups[0].TogetherMb, groups[0].FlowMb}, "one flow gets one member")
	assert.Equal(t, 1, groups[0].Other)

	n = network.Of(labtest.From(t, three+`core/6 - anvil/2
loft/6 - thrush/2
aggregate "pair" on anvil: ports 1-2, active-standby
aggregate "two" on thrush: ports 1-2, active-standby
`))
	groups = n.Groups()
	assert.Equal(t, []int{1000, 1000, -1}, []int{groups[0].TogetherMb, groups[0].FlowMb, groups[0].Other}, "one stands by, and needs no group")
	assert.Len(t, groups[1].Far, 2, "it may end on two switches")
	assert.Zero(t, n.Trees()[0].Spare, "a server joins nothing")
}

// Two ports of one switch at an unmanaged one: its higher port rests. Two unmanaged
// ones joined twice go round, and nobody cuts that.
func TestUnmanagedSwitchesTakePartInNothing(t *testing.T) {
	text := `rack "R": 12U
12 switch "core": 4 ports rj45 1G
11 switch "hop": 5 ports rj45 1G, unmanaged
10 switch "skip": 5 ports rj45 1G, unmanaged
core/1 - hop/1
core/2 - hop/2
hop/3 - skip/3
`
	n := network.Of(labtest.From(t, text))
	tree := n.Trees()[0]
	assert.Equal(t, []string{"core/2 - hop/2"}, rests(n, tree.Resting))
	assert.Empty(t, n.Loops())
	n = network.Of(labtest.From(t, text+"hop/4 - skip/4\n"))
	require.Len(t, n.Loops(), 1)
	assert.Len(t, n.Loops()[0].Links, 2)
}

// A lower bridge that is not known leaves two links of which one rests.
func TestWhatCannotBeToldIsSaidToBeUnsure(t *testing.T) {
	text := `rack "R": 12U
12 switch "core": 4 ports rj45 1G, bridge priority 0
11 switch "a": 4 ports rj45 1G
10 switch "b": 4 ports rj45 1G
9 switch "far": 4 ports rj45 1G
core/1 - a/1
core/2 - b/1
a/2 - far/1
b/2 - far/2
`
	n := network.Of(labtest.From(t, text))
	tree := n.Trees()[0]
	assert.Empty(t, tree.Resting)
	assert.Equal(t, []string{"a/2 - far/1", "b/2 - far/2"}, rests(n, tree.Unsure))
	n = network.Of(labtest.From(t, text+"a: bridge priority 8192\n"))
	assert.Equal(t, []string{"b/2 - far/2"}, rests(n, n.Trees()[0].Resting))
}

// made is a made-up lab of switches, unmanaged ones, servers, access points and
// cables between them, as lines that may stand in any order.
func made(rnd *rand.Rand) (devices, rest []string) {
	const many, ports = 9, 6
	used := map[string]bool{}
	free := func() string {
		for {
			end := fmt.Sprintf("d%d/%d", rnd.IntN(many), 1+rnd.IntN(ports))
			if !used[end] {
				used[end] = true
				return end
			}
		}
	}
	kinds := []string{"switch", "switch", "switch", "server", "router", "access point"}
	for i := range many {
		line := fmt.Sprintf(`? %s "d%d": %d ports rj45 1G`, kinds[rnd.IntN(len(kinds))], i, ports)
		switch rnd.IntN(5) {
		case 0:
			line += ", unmanaged"
		case 1:
			line += ", untagged 10"
		case 2:
			line += ", tagged all"
		}
		devices = append(devices, line)
	}
	for range 14 {
		rest = append(rest, free()+" - "+free()+" cat6")
	}
	for end := range used {
		if rnd.IntN(2) == 0 {
			rest = append(rest, fmt.Sprintf("%s tagged %d", end, 10*(1+rnd.IntN(3))))
		}
	}
	return devices, rest
}

func loaded(t *testing.T, devices, rest []string) *lab.Lab {
	return labtest.From(t, strings.Join(slices.Concat(devices, rest), "\n"))
}

func TestSpreadDoesNotDependOnTheOrderOfRecords(t *testing.T) {
	for seed := range uint64(60) {
		rnd := rand.New(rand.NewPCG(seed, 1))
		devices, rest := made(rnd)
		slices.Sort(rest)
		l := loaded(t, devices, rest)
		shuffle := func(list []string) { rnd.Shuffle(len(list), func(i, k int) { list[i], list[k] = list[k], list[i] }) }
		shuffle(devices)
		shuffle(rest)
		o := loaded(t, devices, rest)
		for _, v := range []int{10, 20, 30} {
			require.Equal(t, spread(l, v, ""), spread(o, v, ""), "seed %d, VLAN %d:\n%s", seed, v, strings.Join(slices.Concat(devices, rest), "\n"))
		}
	}
}

func TestTakingALinkAwayNeverJoinsPieces(t *testing.T) {
	for seed := range uint64(60) {
		rnd := rand.New(rand.NewPCG(seed, 2))
		devices, rest := made(rnd)
		slices.Sort(rest)
		l := loaded(t, devices, rest)
		cable := slices.IndexFunc(rest, func(line string) bool { return strings.Contains(line, " - ") })
		o := loaded(t, devices, slices.Delete(slices.Clone(rest), cable, cable+1))
		for _, v := range []int{10, 20, 30} {
			was := spread(l, v, "")
			for _, piece := range spread(o, v, "") {
				within := slices.ContainsFunc(was, func(w string) bool {
					return !slices.ContainsFunc(strings.Split(piece, ", "), func(port string) bool {
						return !slices.Contains(strings.Split(w, ", "), port)
					})
				})
				require.True(t, within, "seed %d, VLAN %d: %s is in no piece of %v", seed, v, piece, was)
			}
		}
	}
}
