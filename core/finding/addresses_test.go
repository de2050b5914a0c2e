package finding

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
)

const addressed = `rack "R": 24U
24 router "gate": 4 ports rj45 1G
23 switch "core": 24 ports rj45 1G, untagged 10, port 24 tagged 20
22 server "anvil": 4 ports rj45
21 single-board computer "finch": 1 ports rj45
20 nas "silo": 1 ports rj45, leaving
vlan 10 "house"
vlan 20 "servers"
gate/4 - core/24
core/20 - anvil/1
core/21 - finch/1
subnet 10.10.0.0/24 vlan 10, gateway .1
subnet 10.20.0.0/24 vlan 20, gateway .1, handed out .100-.178
gate 10.10.0.1
gate 10.20.0.1
`

func ofAddresses(l *lab.Lab, check string) []Finding {
	var list []Finding
	for _, f := range OfAddresses(l) {
		if name, _, _ := strings.Cut(f.Key, " "); name == check {
			list = append(list, f)
		}
	}
	return list
}

// with is a lab and what further lines say.
func with(t *testing.T, l *lab.Lab, text string) *lab.Lab {
	t.Helper()
	p := rundown.Load(l, rundown.Parse(text), rundown.Options{NewID: labtest.IDs("w")})
	require.Empty(t, p.Mistakes, text)
	return p.Lab
}

// Each is noticed, and is gone with its fix where it has one.
func TestWhatIsWrongWithAddressesAndItsFix(t *testing.T) {
	for _, c := range []struct{ check, text, say, fix string }{
		{"address-twice", "anvil 10.20.0.53\nfinch 10.20.0.53", "10.20.0.53 is on anvil and finch.", "Give finch 10.20.0.2, the next free one."},
		{"address-twice", "anvil 10.10.0.1", "10.10.0.1 is on gate and anvil.", "Give anvil 10.10.0.2, the next free one."},
		{"address-outside", "anvil 192.168.7.7", "192.168.7.7 of anvil is in no subnet that is written down.", ""},
		{"address-outside", "anvil 10.20.0.12 on 2\nanvil: port 2 untagged 10",
			"10.20.0.12 of anvil is on port 2, which is in VLAN 10: 10.10.0.0/24 (house), and not 10.20.0.0/24 (servers).", ""},
		{"gateway-handed-out", "subnet 10.10.0.0/24: handed out .1-.9", "The gateway 10.10.0.1 is inside what 10.10.0.0/24 (house) hands out.",
			"Leave 10.10.0.1 out of the range."},
		{"gateway-nobody", "subnet 10.30.0.0/24: gateway .1", "No device has 10.30.0.1, the gateway of 10.30.0.0/24.",
			"Give gate the address 10.30.0.1."},
		{"fixed-in-range", "anvil 10.20.0.120", "10.20.0.120 of anvil is fixed, and inside what 10.20.0.0/24 (servers) hands out.",
			"Write it down as reserved."},
		{"two-addresses", "anvil 10.20.0.4\nanvil 10.20.0.120 reserved", "anvil is said to have 10.20.0.4, and 10.20.0.120 is reserved for it.",
			"Keep 10.20.0.120."},
		{"no-address-there", "anvil 10.20.0.12", "anvil is in VLAN 10 house and has addresses, but none in 10.10.0.0/24.", ""},
		{"reserved-leaving", "silo 10.20.0.130 reserved", "10.20.0.130 is reserved for silo, which is leaving.", "Free 10.20.0.130."},
		{"one-name-server", "name servers of vlan 10: finch",
			"Only finch answers for names in VLAN 10 house; while it is down nothing there has a name.", ""},
		{"name-twice", "anvil 10.20.0.12 named \"books\"\nname books -> 10.20.0.30",
			"The name books leads to 10.20.0.30, and is 10.20.0.12 of anvil too: a name server answers with either.", ""},
		{"name-twice", "subnet 10.20.0.0/24: names end in \"home.arpa\"\nname books -> 10.20.0.12\nbooks.home.arpa -> 10.20.0.30",
			"The name books.home.arpa leads to 10.20.0.30, and leads to 10.20.0.12 too: a name server answers with either.", ""},
		{"name-circle", "name a -> b\nname b -> a", "The name a leads round in a circle: a → b → a.", ""},
		{"name-nowhere", "name books -> library", "The name books leads to library, and nothing is called that.", ""},
		{"name-underscore", "name old_box -> 10.20.0.30", "The name old_box has an underscore, so that it is left out of zones; call it old-box, or make it an alias.", ""},
		{"name-nowhere", "name books -> silo", "The name books leads to silo, which has no address.", ""},
		{"overlap", "subnet 10.10.0.128/25\ngate 10.10.0.129", "10.10.0.0/24 (house) and 10.10.0.128/25 overlap, and gate has a leg in both.",
			""},
		{"leg-without-vlan", "vlan 30 guests\nsubnet 10.30.0.0/24 vlan 30\ngate 10.30.0.1\ncore/3 untagged 30\nanvil/3 - core/3",
			"gate has a leg in guests (30), but no cable carries guests (30) to gate.", "Tag 30 on core/24."},
		{"rule-broken", "vlan 50 dome\nfrom dome to internet: all", "dome → internet cannot be: gate has no leg in dome (50).", ""},
		{"ipv6-no-router", "subnet fd20::/64 vlan 20", "fd20::/64 (servers) has no gateway, and no router has an address in it.", ""},
		{"line-into-nothing", "line fibre: 100M down", "It is not said what fibre goes into.", ""},
		{"line-into-nothing", "line fibre: into silo", "fibre goes into silo, which neither routes nor is linked to what does.", ""},
		{"shared-address", "line mobile: shared address, into gate/2\nline cable: public address, into gate/3\nopen mobile tcp 443 to anvil",
			"tcp 443 is open on mobile, whose address the provider shares: nobody outside reaches it. Open it on cable.", ""},
		{"shared-address",
			"line mobile: shared address, into gate/2\nline far: fixed address, at \"Parents' house\"\nremote access phones: into finch",
			"phones comes in from outside, and no line can be reached from there. Begin from inside: far at Parents' house can be reached.", ""},
	} {
		l := with(t, labtest.From(t, addressed), c.text)
		list := ofAddresses(l, c.check)
		require.NotEmpty(t, list, "%s: %s", c.check, c.text)
		assert.Equal(t, c.say, list[0].Say)
		if c.fix == "" {
			assert.Nil(t, list[0].Fix, c.text)
			continue
		}
		require.NotNil(t, list[0].Fix, c.text)
		assert.Equal(t, c.fix, list[0].Fix.Say)
		assert.Empty(t, ofAddresses(fixed(t, l, list[0]), c.check), c.text)
	}
}

func TestAddressesInOrderAreNothingToSayAnythingOf(t *testing.T) {
	l := with(t, labtest.From(t, addressed), `anvil: port 1 untagged 10
anvil 10.10.0.12
finch 10.10.0.13
name servers of vlan 10: finch, gate
line fibre: into gate/1, fixed address
open fibre tcp 443 to anvil
virtual router exam on gate: vlan 50
subnet 10.10.0.0/16 vlan 50
anvil/4 - gate/3 with 192.168.99.1 and 192.168.99.2
`)
	var say []string
	for _, f := range OfAddresses(l) {
		say = append(say, f.Say)
	}
	assert.Empty(t, say)
}
