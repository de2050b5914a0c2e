package service_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/service"
)

// Whose address a guest answers at: its own where it has a leg, else that of what it is in
// or whose network it shares.
func TestWhoseAddressAGuestHas(t *testing.T) {
	s := service.Of(labtest.From(t, two+`on anvil: vm "choir": vlan 20
on choir: container "in the vm"
on choir: container "deep"
on deep: container "deeper"
on anvil: container "beside"
on anvil: container "own": vlan 20
on anvil: container "shares": network of own
on choir: container "shares deep": network of shares
on anvil: vm "bare"
`))
	for name, want := range map[string]string{"choir": "choir", "in the vm": "choir", "deeper": "choir", "beside": "anvil", "own": "own",
		"shares": "own", "shares deep": "own", "bare": "bare"} {
		assert.Equal(t, want, s.AddressedAs(guest(t, s, name)).Name, name)
	}
}

// A card is what is in its slot, and what is said in words is the same in any case.
func TestWhatIsHandedThroughIsComparedAsAThing(t *testing.T) {
	s := service.Of(labtest.From(t, two+`anvil: 4 slots
"anvil" slot 3 card: network
on anvil: vm "a": has slot 3, has "Radio stick", has port 1
hub "focus hub"
on anvil: vm "b": has the "radio STICK", has "focus hub"
`))
	a, b := guest(t, s, "a"), guest(t, s, "b")
	h := host(t, s, "anvil")
	assert.Equal(t, "slot 3 and Radio stick and port 1", s.HandedWords(a))
	assert.Equal(t, s.HandedAs(h, a.Handed[1]), s.HandedAs(h, b.Handed[0]))
	assert.NotEqual(t, s.HandedAs(h, a.Handed[0]), s.HandedAs(h, a.Handed[2]))
	assert.Equal(t, "focus hub", s.ThingWords(b.Handed[1]))
	assert.NotEmpty(t, b.Handed[1].Device)
}

// A host reaches a pool that is in it, that its cluster shares, or of which it mounts a share.
func TestWhichPoolsAHostReaches(t *testing.T) {
	const base = two + `nas "silo": 4 bays, 2x 4TB
pool "hold" on silo: mirror of bay 1-2
dataset "disks" on hold
on anvil: vm "a": 1GB, 80GB on hold
`
	for more, want := range map[string]bool{
		"":                                  false,
		"cluster \"pair\": anvil, thrush\n": false,
		"cluster \"pair\": anvil, thrush, shared hold\n": true,
		"share \"d\" of disks by nfs to anvil\n":         true,
		"share \"d\" of disks by nfs to thrush\n":        false,
	} {
		l := labtest.From(t, base+more)
		s := service.Of(l)
		g := guest(t, s, "a")
		require.Len(t, g.Disks, 1)
		assert.Equal(t, want, s.Reaches(host(t, s, "anvil"), labtest.Named[lab.Pool](t, l, "hold"), g.Disks[0]), more)
		assert.Nil(t, s.OwnPool(g), "it is in no host alone")
	}
}

// The newest copy of each disk, and of those the oldest: two days, not nine hours.
func TestHowOldTheNewestCopyOfAGuestIs(t *testing.T) {
	s := service.Of(labtest.From(t, two+`nas "silo": 4 bays, 4x 4TB
pool "hold" on silo: mirror of bay 1-2
pool "far" on silo: mirror of bay 3-4
on anvil: vm "kept": 1GB
dataset "kept disk" on hold: 80GB, disk of kept
dataset "kept data" on hold: 80GB, disk of kept
copy of "kept disk" to silo/far: nightly, last 2026-11-27
copy of "kept data" to silo/far: nightly, last 2026-11-25
on anvil: vm "unkept": 1GB, 80GB on hold
on anvil: vm "unsaid": 1GB
dataset "unsaid disk" on hold: disk of unsaid
copy of "unsaid disk" to silo/far: nightly
on anvil: vm "diskless": 1GB
`))
	for name, want := range map[string]string{"kept": "3 days", "unkept": "unkept disk has no copy", "diskless": "",
		"unsaid": "nobody said how old the copy of unsaid disk is"} {
		assert.Equal(t, want, s.NewestCopy(guest(t, s, name), "2026-11-28"), name)
	}
}

// Why a guest can go nowhere, if it went alone.
func TestWhatIsStuck(t *testing.T) {
	s := service.Of(labtest.From(t, two+`on thrush: vm "there": 14GB
on anvil: vm "small": 2GB
on anvil: vm "large": 3GB
on anvil: vm "pinned": 1GB, pinned
on anvil: vm "unsaid"
`))
	for name, want := range map[string]string{"small": "", "large": "takes 3 GB; thrush has 2 GB left", "pinned": "pinned is pinned to anvil",
		"unsaid": "how much memory unsaid takes is not known", "there": ""} {
		assert.Equal(t, want, s.Stuck(guest(t, s, name)), name)
	}
}

// A placement that is not through after its steps says so, and what there could be at most.
func TestAPlacementThatRanOutOfSteps(t *testing.T) {
	var text strings.Builder
	text.WriteString(two)
	for n := range 8 {
		fmt.Fprintf(&text, "on thrush: vm \"stays %d\": 1.5GB\non anvil: vm \"goes %d\": %dGB, household\n", n, n, 2+n%3)
	}
	text.WriteString("server \"wren\": 3GB, runs hypervisor\nserver \"robin\": 3GB, runs hypervisor\n")
	s := service.Of(labtest.From(t, text.String()))
	few := s.Without(host(t, s, "anvil"), false, 30)
	require.False(t, few.Exact)
	assert.Contains(t, few.Bound, "the best that was found; at most ")
	assert.Contains(t, few.Bound, "of the household could start")
	all := s.Without(host(t, s, "anvil"), false, service.Steps)
	a, of := few.Starts()
	b, _ := all.Starts()
	assert.LessOrEqual(t, a, b)
	assert.Equal(t, 8, of)
}

func TestLooseGuestsAndGuestsByID(t *testing.T) {
	l := labtest.From(t, two+"vm \"loose\": 1GB\non loose: container \"in it\"\non anvil: vm \"a\": 1GB\n")
	s := service.Of(l)
	require.Len(t, s.Loose(), 1)
	assert.Equal(t, "in it", s.Loose()[0].Inside[0].Title())
	for _, name := range []string{"loose", "in it", "a"} {
		g, ok := s.Guest(labtest.Named[lab.Device](t, l, name).ID)
		assert.True(t, ok)
		assert.Equal(t, name, g.Title())
	}
	_, ok := s.Guest(labtest.Named[lab.Device](t, l, "anvil").ID)
	assert.False(t, ok)
	assert.Empty(t, s.Checks(s.Loose()[0], host(t, s, "thrush"))[0].Unsure)
}
