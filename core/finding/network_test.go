package finding

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

const house = `rack "R": 24U
24 switch "core": 24 ports rj45 1G, 4 ports sfp+ 10G
23 switch "loft": 8 ports rj45 1G
22 switch "dome": 8 ports rj45 1G
21 server "anvil": 2 ports rj45 1G
20 mini pc "thrush": 1 ports rj45 1G
19 access point "loft ap": 1 ports rj45
vlan 20 "servers"
core/1 - loft/1
core/2 - dome/1
core/5 - anvil/1
dome/5 - thrush/1
`

// noticedBy are what one check says of a lab.
func noticedBy(t *testing.T, check, text string) []Finding {
	t.Helper()
	return slicesOf(labtest.From(t, text), check)
}

func slicesOf(l *lab.Lab, check string) []Finding {
	var list []Finding
	for _, f := range OfNetwork(l) {
		for _, c := range networkChecks {
			if c.name == check && f.Check == c.say {
				list = append(list, f)
			}
		}
	}
	return list
}

// fixed is the lab with a finding's fix.
func fixed(t *testing.T, l *lab.Lab, f Finding) *lab.Lab {
	t.Helper()
	require.NotNil(t, f.Fix, f.Say)
	next, err := l.Apply(f.Fix.Changes)
	require.NoError(t, err)
	return next
}

// Each is noticed, says what would put it right, and is gone with that.
func TestWhatIsWrongWithANetworkAndItsFix(t *testing.T) {
	for check, c := range map[string]struct{ text, say, fix string }{
		"island": {"core/5 untagged 20\ndome/1 tagged 20\ndome/5 untagged 20\ncore/1 untagged 10\n",
			"VLAN 20 servers is in 2 pieces: dome and thrush are cut off from the rest. Tag 20 on core/2 to join them.", "Tag 20 on core/2."},
		"untagged-differs": {"core/1 untagged 10\nloft/1 untagged 20\n",
			"Untagged frames are in VLAN 10 at core/1 and in 20 at loft/1, the two ends of one link.", "Carry 10 untagged on loft/1."},
		"one-end-only": {"core/1 tagged 20,30 untagged 10\nloft/1 tagged 20 untagged 10\n",
			"core/1 carries VLAN 30, and loft/1 at the other end does not.", "Carry VLAN 30 on loft/1 too."},
		"root-at-edge": {"loft: bridge priority 8192\n",
			"loft is the root of the spanning tree and has one link to other switches; core has 2.", "Give core the bridge priority 4096."},
		"wireless-vlan": {"loft/4 - loft ap/1\nloft: untagged 10\nwireless \"Guests\" vlan 30 on \"loft ap\"\n",
			"loft ap sends Guests in VLAN 30, and none of its links carries that.", "Tag 30 on loft/4."},
	} {
		l := labtest.From(t, house+c.text)
		found := slicesOf(l, check)
		if assert.Len(t, found, 1, check) {
			assert.Equal(t, c.say, found[0].Say)
			require.NotNil(t, found[0].Fix, check)
			assert.Equal(t, c.fix, found[0].Fix.Say)
			assert.Empty(t, slicesOf(fixed(t, l, found[0]), check), check)
		}
	}
}

func TestWhatElseIsWrongWithANetwork(t *testing.T) {
	for check, c := range map[string]struct{ text, say string }{
		"tagged-unmanaged": {"loft: unmanaged\ncore/1 tagged 20\n", "loft is unmanaged, and VLAN 20 goes through it tagged: everything plugged in there can see it."},
		"not-declared":     {"core/5 untagged 40\n", "VLAN 40 is not declared, and it is on anvil and core."},
		"nowhere":          {"", "VLAN 20 servers is declared, and no cable carries it."},
		"uncut-loop": {"loft: unmanaged\ndome: unmanaged\nloft/2 - dome/2\nloft/3 - dome/3\n",
			"Frames go round through dome and loft, and none of them cuts a loop: unplug loft/3 - dome/3."},
		"aggregate": {"core/6 - anvil/2\naggregate \"up\" on core: ports 5-6\n",
			"core up is an aggregate, and anvil at its other end has none."},
	} {
		found := noticedBy(t, check, house+c.text)
		if assert.NotEmpty(t, found, check) {
			assert.Equal(t, c.say, found[0].Say)
		}
	}
}

// The old one is the root by its priority: each of the others has 20000 to it, and
// 22000 by way of the fast link between them, which rests.
func TestAFastLinkThatRestsIsTold(t *testing.T) {
	found := noticedBy(t, "fast-rests", `rack "R": 9U
9 switch "core": 8 ports rj45 1G, 2 ports sfp+ 10G
8 switch "loft": 8 ports rj45 1G, 2 ports sfp+ 10G
7 switch "old": 8 ports rj45 1G, bridge priority 0
core/1 - old/1
loft/1 - old/2
core/s1 - loft/s1 dac
`)
	require.Len(t, found, 1)
	assert.Equal(t, "core/s1 - loft/s1 rests at 10 Gb/s, and loft/1 - old/2 carries in its stead at 1 Gb/s.", found[0].Say)
}

func TestAggregatesThatDoNotMatch(t *testing.T) {
	for text, say := range map[string]string{
		"core/6 - loft/6\naggregate \"a\" on core: ports 1, 6\naggregate \"b\" on loft: ports 1, 6, active-standby\n": "at its other end is active-standby",
		"core/6 - loft/6\naggregate \"a\" on core: ports 1, 6\naggregate \"b\" on loft: ports 1, 5\n":                 "do not have the same links",
		"aggregate \"a\" on core: ports 1-2\n": "is active-active and ends at dome and loft",
		"core/6 - loft/6\ncore/6 untagged 20\naggregate \"a\" on core: ports 1, 6\naggregate \"b\" on loft: ports 1, 6\n": "carry different VLANs: 1 and 6",
		"core/s1 - loft/6\naggregate \"a\" on core: ports 1, s1\naggregate \"b\" on loft: ports 1, 6\n":                   "",
		"aggregate \"a\" on core: ports 1-2, active-standby\n":                                                            "",
	} {
		found := noticedBy(t, "aggregate", house+text)
		if say == "" {
			assert.Empty(t, found, text)
		} else if assert.NotEmpty(t, found, text) {
			assert.Contains(t, found[0].Say, say)
		}
	}
}
