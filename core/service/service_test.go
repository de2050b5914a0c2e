package service_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/service"
)

const gb = 1 << 30

// two are two hosts: anvil has 32 GB of which it keeps 4, thrush has 16.
const two = `rack "R": 24U
  1 server "anvil": 32GB, 16 cores, runs hypervisor, keeps 4GB
  2 server "thrush": 16GB, 8 cores, runs hypervisor
`

func host(t *testing.T, s *service.Services, name string) *service.Host {
	t.Helper()
	for _, h := range s.Hosts() {
		if h.Name == name {
			return h
		}
	}
	require.Failf(t, "no host", name)
	return nil
}

func guest(t *testing.T, s *service.Services, name string) *service.Guest {
	t.Helper()
	for g := range s.Each() {
		if g.Title() == name {
			return g
		}
	}
	require.Failf(t, "no guest", name)
	return nil
}

// What is given counts for running guests straight on the host: 8 + 4 GB, of which one
// uses 3, and 6 vCPUs; not what is stopped, and not what is in a guest.
func TestWhatAHostHasGiven(t *testing.T) {
	s := service.Of(labtest.From(t, two+`template "small": 2 vcpu, 4GB
on anvil: vm "a": 4 vcpu, 8GB, uses 3GB
on anvil: vm "b" from "small"
on anvil: vm "off": 8GB, stopped
on a: container "in a": 2GB
on a: container "deeper": 1GB, stopped
on anvil: container "unsaid"
on thrush: 14 containers, use 5.5GB
`))
	h := host(t, s, "anvil")
	assert.Equal(t, int64(32*gb), h.Fitted.Known)
	assert.Equal(t, int64(12*gb), h.Given.Known)
	assert.Equal(t, 1, h.Given.Unknown)
	assert.Equal(t, int64(3*gb), h.Used.Known)
	assert.Equal(t, int64(6), h.VCPUs.Known)
	left, ok := h.Left()
	assert.True(t, ok)
	assert.Equal(t, int64(16*gb), left, "32 - 4 - 12")
	assert.Len(t, h.Guests, 4)

	h = host(t, s, "thrush")
	assert.Zero(t, h.Given.Known)
	assert.Equal(t, 1, h.Given.Unknown)
	left, _ = h.Left()
	assert.Equal(t, int64(21*gb/2), left, "16 - 5.5: what it uses is taken where nobody said what it is given")
	assert.False(t, guest(t, s, "deeper").Runs())
	assert.Equal(t, "thrush", guest(t, s, "14 containers").Host.Name)
}

// moves says where guests go and which stay dark, in short.
func moves(p service.Placement) (say []string) {
	for _, m := range p.Moves {
		say = append(say, fmt.Sprintf("%s to %s %s", m.Guest.Title(), m.To.Title(), m.By))
	}
	for _, d := range p.Dark {
		say = append(say, fmt.Sprintf("%s dark: %s", d.Guest.Title(), d.Why))
	}
	return say
}

// Where the guests of a host go, worked out by hand.
func TestWithoutAHost(t *testing.T) {
	for _, c := range []struct {
		name, lab, gone string
		say             []string
	}{
		{"all fit, in the order of what matters", `on anvil: vm "toy": 4GB, toy
on anvil: vm "home": 8GB, household
`, "anvil", []string{"home to thrush by_hand", "toy to thrush by_hand"}},
		{"12 of 16 GB are free: the household's 8 go before the toys' 12", `on thrush: vm "stays": 4GB
on anvil: vm "toy 1": 6GB, toy
on anvil: vm "toy 2": 6GB, toy
on anvil: vm "home": 8GB, household
`, "anvil", []string{"home to thrush by_hand", "toy 1 dark: takes 6 GB; thrush has 4 GB left", "toy 2 dark: takes 6 GB; thrush has 4 GB left"}},
		{"two small ones before one large one", `on anvil: vm "large": 16GB
on anvil: vm "one": 8GB
on anvil: vm "other": 8GB
`, "anvil", []string{"one to thrush by_hand", "other to thrush by_hand", "large dark: takes 16 GB; thrush has 0 GB left"}},
		{"one that stays moves on to make room: 12 fit only once 8 are off thrush", `server "wren": 12GB, runs hypervisor
on thrush: vm "stays": 8GB
on anvil: vm "big": 14GB
`, "anvil", []string{"big to thrush by_hand", "stays to wren by_hand"}},
		{"but not where that is of no use", `server "wren": 12GB, runs hypervisor
on thrush: vm "stays": 8GB
on anvil: vm "big": 20GB
`, "anvil", []string{"big dark: takes 20 GB; thrush has 8 GB left, wren has 12 GB left"}},
		{"pinned, handed through, on drives that are gone, of unknown size", `server "hold": 2 bays, 2x 4TB
anvil: 2 bays, 2x 1TB
pool "own" on anvil: mirror of bay 1-2
pool "far" on hold: mirror of bay 1-2
on anvil: vm "pinned": 1GB, pinned
on anvil: vm "card": 1GB, has slot 3
on anvil: vm "drives": 1GB, 80GB on own
on anvil: vm "elsewhere": 1GB, 80GB on far
on anvil: vm "unsaid"
`, "anvil", []string{"elsewhere to thrush by_hand", "pinned dark: pinned is pinned to anvil", "card dark: card has slot 3 of anvil",
			"drives dark: the disk of drives is on own, which is in anvil", "unsaid dark: how much memory unsaid takes is not known"}},
		{"what is in a guest goes with it, and what is pinned in it keeps it", `on anvil: vm "out": 2GB
on anvil: vm "in": 2GB
on in: container "deep": pinned
`, "anvil", []string{"out to thrush by_hand", "in dark: deep is pinned to anvil"}},
		{"containers that share a network go together, or not at all", `server "jar": 16GB, runs containers
server "box": 8GB, runs containers
on box: container "tunnel": 2GB
on box: container "fetch": 15GB, network of tunnel
on box: container "alone": 1GB
`, "box", []string{"alone to jar by_hand", "tunnel dark: takes 17 GB with what shares its network; jar has 15 GB left",
			"fetch dark: takes 17 GB with what shares its network; jar has 15 GB left"}},
		{"a cluster starts them by itself where that is said, and asks nobody else", `server "wren": 64GB, runs hypervisor
cluster "pair": anvil, thrush
on anvil: vm "itself": 8GB, restarts elsewhere
on anvil: vm "hand": 8GB
on anvil: vm "no": 8GB
`, "anvil", []string{"itself to thrush by_itself", "hand to thrush by_hand", "no dark: takes 8 GB; thrush has 0 GB left"}},
		{"a VM goes on no container engine", `thrush: resting
server "jar": 16GB, runs containers
on anvil: vm "a": 1GB
`, "anvil", []string{"a dark: no other host runs VMs"}},
		{"more vCPUs than threads", `on anvil: vm "wide": 12 vcpu, 1GB
`, "anvil", []string{"wide dark: has 12 vCPUs, and thrush 8 cores"}},
		{"unknown memory is never nothing", `server "new": runs hypervisor
thrush: resting
on anvil: vm "a": 1GB
`, "anvil", []string{"a dark: the memory of new is not known"}},
		{"what is stopped is not started", `on anvil: vm "a": 1GB, stopped
`, "anvil", nil},
	} {
		t.Run(c.name, func(t *testing.T) {
			s := service.Of(labtest.From(t, two+c.lab))
			p := s.Without(host(t, s, c.gone), false, service.Steps)
			assert.Equal(t, c.say, moves(p))
			assert.True(t, p.Exact)
		})
	}
}

// A host that is taken out on purpose: what is on its drives is moved before.
func TestAHostTakenOutOnPurpose(t *testing.T) {
	s := service.Of(labtest.From(t, two+`anvil: 2 bays, 2x 1TB
pool "own" on anvil: mirror of bay 1-2
on anvil: vm "drives": 1GB, 80GB on own
on anvil: vm "pinned": 1GB, pinned
`))
	p := s.Without(host(t, s, "anvil"), true, service.Steps)
	assert.Equal(t, []string{"drives to thrush by_hand", "pinned dark: pinned is pinned to anvil"}, moves(p))
	n, of := p.Starts()
	assert.Equal(t, [2]int{1, 2}, [2]int{n, of})
}

// A VLAN that no cable carries to the other host keeps a guest from it.
func TestAGuestStaysWhereItsVLANIs(t *testing.T) {
	s := service.Of(labtest.From(t, `vlan 20 "servers"
vlan 30 "cameras"
rack "R": 24U
  1 server "anvil": 32GB, runs hypervisor, 2 ports rj45
  2 server "thrush": 16GB, runs hypervisor, 2 ports rj45
  3 switch "core": 8 ports rj45
core/1 - anvil/1
core/2 - thrush/1
core/1 tagged 20,30
anvil/1 tagged 20,30
core/2 tagged 20
thrush/1 tagged 20
on anvil: vm "eyes": 1GB, vlan 30
on anvil: vm "books": 1GB, vlan 20
`))
	p := s.Without(host(t, s, "anvil"), false, service.Steps)
	assert.Equal(t, []string{"books to thrush by_hand", "eyes dark: no cable carries VLAN 30 to thrush"}, moves(p))
	for _, c := range s.Checks(guest(t, s, "eyes"), host(t, s, "thrush")) {
		assert.Equal(t, c.What != "vlan", c.Held, c.Say)
	}
}

// The checks that a guest is shown while it is dragged over a host.
func TestChecksOfAMove(t *testing.T) {
	s := service.Of(labtest.From(t, two+`server "new": runs hypervisor
on thrush: vm "stays": 6GB
on anvil: vm "fits": 2 vcpu, 10GB
on anvil: vm "not": 12GB
on anvil: vm "unsaid"
`))
	say := func(name, to string) (all []string) {
		for _, c := range s.Checks(guest(t, s, name), host(t, s, to)) {
			all = append(all, fmt.Sprint(c.What, " ", c.Held, ": ", c.Say))
		}
		return all
	}
	assert.Equal(t, []string{"cores true: has 2 vCPUs, and thrush 8 cores", "memory true: takes 10 GB of the 10 GB that thrush has left"},
		say("fits", "thrush"))
	assert.Equal(t, []string{"memory false: takes 12 GB, and thrush has 10 GB left"}, say("not", "thrush"))
	assert.Equal(t, []string{"memory true: how much memory unsaid takes is not known; thrush has 10 GB left"}, say("unsaid", "thrush"))
	assert.Equal(t, []string{"memory true: the memory of new is not known"}, say("not", "new"))
	assert.Equal(t, []string{"memory true: takes 6 GB of the 16 GB that thrush has left"}, say("stays", "thrush"), "where it is already")
}

// How many would fit: 16 - 6 = 10 GB are left on thrush, which is two of 4 GB.
func TestRoomForMore(t *testing.T) {
	s := service.Of(labtest.From(t, two+`server "new": runs hypervisor
server "bare": 8GB, runs a plain system
on thrush: vm "stays": 6GB
on anvil: vm "a": 8GB
`))
	say := func(rooms []service.Room) (all []string) {
		for _, r := range rooms {
			all = append(all, fmt.Sprintf("%s %d %s", r.Host.Title(), r.HowMany, r.Why))
		}
		return all
	}
	assert.Equal(t, []string{"anvil 5 ", "thrush 2 ", "new 0 the memory of new is not known", "bare 0 bare runs no guests"},
		say(s.RoomFor(4*gb, 2, nil, service.Steps)))
	assert.Equal(t, []string{"thrush 0 2 GB is left, and it takes 4 GB", "new 0 the memory of new is not known", "bare 0 bare runs no guests"},
		say(s.RoomFor(4*gb, 0, host(t, s, "anvil"), service.Steps)))
	assert.Equal(t, "12 vCPUs are more than its 8 threads", s.RoomFor(gb, 12, nil, service.Steps)[1].Why)
	memory, _, ok := s.Mean()
	assert.True(t, ok)
	assert.Equal(t, int64(7*gb), memory)
}

// 3 GB used of 16 given: 3.75 are left to it, 4 in whole GB, and 12 come back.
func TestWhatToClawBack(t *testing.T) {
	s := service.Of(labtest.From(t, two+`on anvil: vm "idle": 16GB, uses 3GB
on anvil: vm "busy": 8GB, uses 4GB
on anvil: vm "unsaid": 8GB
on anvil: vm "off": 8GB, uses 1GB, stopped
on idle: container "in": 6GB, uses 1GB
`))
	var say []string
	for _, c := range s.ClawBack() {
		say = append(say, c.Guest.Title()+" "+service.Memory(c.Back))
	}
	assert.Equal(t, []string{"idle 12 GB", "in 4 GB"}, say)
}

func TestWhatAClusterComesTo(t *testing.T) {
	s := service.Of(labtest.From(t, two+`cluster "pair": anvil, thrush, 20 guests, 10GB given
on anvil: vm "a": 8GB
`))
	c := s.Clusters()[0]
	assert.Equal(t, int64(48*gb), c.Fitted.Known)
	assert.Equal(t, int64(4*gb), c.Kept)
	assert.Equal(t, int64(18*gb), c.Takes.Known)
	assert.Equal(t, 21, c.Sum.Guests)
	assert.Equal(t, "anvil", s.Largest().Name)
}

func TestMemoryInWords(t *testing.T) {
	for bytes, want := range map[int64]string{24 * gb: "24 GB", 3 * gb / 2: "1.5 GB", 512 << 20: "512 MB", 0: "0 GB",
		1000 * gb / 3: "333 GB"} {
		assert.Equal(t, want, service.Memory(bytes))
	}
}

// What a guest matters follows from what is in it.
func TestWhatAGuestMatters(t *testing.T) {
	s := service.Of(labtest.From(t, two+`on anvil: vm "a": 8GB
on a: container "b": toy
on b: container "c"
on anvil: vm "plain"
service "books": in c, household
service "old": in plain, household, resting
`))
	assert.Equal(t, lab.Household, guest(t, s, "a").Matters())
	assert.Equal(t, lab.Household, guest(t, s, "b").Matters())
	assert.Empty(t, guest(t, s, "plain").Matters())
}
