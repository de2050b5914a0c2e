package address_test

import (
	"fmt"
	"math/rand/v2"
	"net/netip"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/address"
	"levelstaff/core/labtest"
)

const things = `rack "R": 24U
24 router "gate": 4 ports rj45 1G
23 server "anvil": 4 ports rj45, 1 ports rj45 called "mgmt"
22 desktop "vesper": 2 ports rj45
21 single-board computer "finch"
20 nas "Küchen Box"
`

func plan(t *testing.T, text string) *address.Plan {
	t.Helper()
	return address.Of(labtest.From(t, things+text))
}

func TestHowFullASubnetIs(t *testing.T) {
	for text, want := range map[string]string{
		// 62 usable, 31 in the range, the gateway: 30 left.
		"subnet 192.168.4.0/26: gateway .1, handed out .32-.62": "62 1 0 31 30 192.168.4.2",
		// 254 usable; .1 .9 .12 had, .120 reserved in the range, 79 in the range: 172 left.
		"subnet 10.20.0.0/24: gateway .1, handed out .100-.178\ngate .1\nanvil .12\nanvil .9 on mgmt\nvesper .120 reserved": "254 4 1 79 172 10.20.0.2",
		"subnet 10.0.0.0/31\ngate 10.0.0.0":                                "2 1 0 0 1 10.0.0.1",
		"subnet 10.0.0.1/32":                                               "1 0 0 0 1 10.0.0.1",
		"subnet 10.0.0.0/31\ngate 10.0.0.0\nanvil 10.0.0.1":                "2 2 0 0 0 invalid IP",
		"subnet 10.0.0.0/29: handed out .1-.6":                             "6 0 0 6 0 invalid IP",
		"subnet fd20::/64: gateway ::1":                                    "- 1 0 0 - fd20::2",
		"subnet fd20::/120: gateway ::1, handed out fd20::10-fd20::1f":     "256 1 0 16 239 fd20::2",
		"subnet fd20::/126":                                                "4 0 0 0 4 fd20::1",
		"subnet fd20::/48: handed out fd20::1-fd20::1:0:0:0:0":             "- 0 0 - - fd20:0:0:1::1",
		"subnet 10.0.0.0/8":                                                "16777214 0 0 0 16777214 10.0.0.1",
		"subnet 10.0.0.0/24\ngate 10.0.0.5\nanvil 10.0.0.5\nfinch .6 dhcp": "254 1 0 0 252 10.0.0.1",
	} {
		c := plan(t, text).Count(0)
		or := func(n *int64) string {
			if n == nil {
				return "-"
			}
			return fmt.Sprint(*n)
		}
		assert.Equal(t, want, fmt.Sprintf("%s %d %d %s %s %s", or(c.Size), c.Used, c.Reserved, or(c.Handed), or(c.Free), c.Next), text)
	}
}

func TestWhatIsFreeIsNeitherHadNorHandedOut(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		text := "subnet 10.0.0.0/27: gateway .1"
		from := 1 + random.IntN(25)
		text += fmt.Sprintf(", handed out .%d-.%d", from, from+random.IntN(30-from+1))
		for n := range random.IntN(12) {
			text += fmt.Sprintf("\n? hub \"h%d\": address 10.0.0.%d", n, 1+random.IntN(30))
		}
		p := plan(t, text)
		free, next := int64(0), netip.Addr{}
		s := p.Subnets()[0]
		for a := s.First(); s.Usable(a); a = a.Next() {
			if len(p.At(a)) == 0 && !s.HandsOut(a) {
				free++
				if !next.IsValid() {
					next = a
				}
			}
		}
		c := p.Count(0)
		require.Equal(t, free, *c.Free, text)
		require.Equal(t, next, c.Next, text)
	}
}

func TestAnAddressIsInTheSmallestSubnet(t *testing.T) {
	p := plan(t, `subnet 10.0.0.0/8
subnet 10.20.0.0/24 vlan 20
subnet 192.168.0.0/24 vlan 50
subnet 192.168.0.0/24 vlan 60
anvil 10.20.0.12
vesper 10.99.0.1
gate/1 192.168.0.1
gate/2 192.168.0.1
gate: port 1 untagged 50, port 2 untagged 60
finch 172.16.0.1
`)
	in := map[string]string{}
	for _, h := range p.All() {
		said := "none"
		if h.Subnet != address.None {
			s := p.Subnets()[h.Subnet]
			said = s.CIDR.String()
			if s.VLAN != nil {
				said += fmt.Sprint(" ", *s.VLAN)
			}
		}
		in[h.Address.Address.String()+h.Port] = said
	}
	assert.Equal(t, map[string]string{"10.20.0.12": "10.20.0.0/24 20", "10.99.0.1": "10.0.0.0/8", "172.16.0.1": "none",
		"192.168.0.11": "192.168.0.0/24 50", "192.168.0.12": "192.168.0.0/24 60"}, in)
}

// Of two alike subnets each has its own gateway, whether a device has it or not.
func TestTheGatewayOfAnAlikeSubnetIsAnother(t *testing.T) {
	p := plan(t, "subnet 192.168.0.0/24 vlan 50, gateway .1\nsubnet 192.168.0.0/24 vlan 60, gateway .1\n"+
		"gate/1 192.168.0.1\ngate: port 1 untagged 50, port 2 untagged 60\n")
	for n := range 2 {
		c := p.Count(n)
		assert.EqualValues(t, []any{int64(1), int64(253), "192.168.0.2"}, []any{c.Used, *c.Free, c.Next.String()}, n)
	}
	wide := plan(t, "subnet 10.0.0.0/8: gateway 10.0.0.1\nsubnet 10.0.0.0/24\ngate 10.0.0.1\n")
	assert.Zero(t, wide.Count(0).Used, "it is had, in the smaller one")
}

func TestAnAddressThatTwoHaveIsThereTwice(t *testing.T) {
	p := plan(t, "subnet 10.0.0.0/24\ngate .5\nanvil .5\nvesper .6\n")
	twice := map[string]bool{}
	for _, h := range p.All() {
		twice[h.Address.Address.String()] = p.Twice(h)
	}
	assert.Equal(t, map[string]bool{"10.0.0.5": true, "10.0.0.6": false}, twice)
}

const names = `subnet 10.20.0.0/24 vlan 20, gateway .1, names end in "quarry.home.arpa"
subnet fd20:20::/64 vlan 20, names end in "quarry.home.arpa"
gate 10.20.0.1
gate fd20:20::1
anvil 10.20.0.12
anvil 10.20.0.9 on mgmt
vesper 10.20.0.14 named "study"
Küchen Box 10.20.0.20
name library -> anvil
name books -> library
name reading -> books
name round -> about
name about -> round
name lost -> gone
name world -> www.example.org
name vault -> 10.20.0.12
anvil/3 - vesper/2 with 192.168.99.1 and 192.168.99.2
`

func TestNamesLeadWhereTheyDo(t *testing.T) {
	p := plan(t, names)
	var hosts []string
	for _, e := range p.Hosts() {
		hosts = append(hosts, e.Name+" "+e.Address.String())
	}
	assert.Equal(t, []string{
		"anvil-mgmt.quarry.home.arpa 10.20.0.9", "anvil.quarry.home.arpa 10.20.0.12",
		"gate.quarry.home.arpa 10.20.0.1", "gate.quarry.home.arpa fd20:20::1",
		"study.quarry.home.arpa 10.20.0.14",
		"xn--kchen-box-q9a.quarry.home.arpa 10.20.0.20",
	}, hosts)
	ends := map[string]string{}
	for _, r := range p.Resolve() {
		ends[r.Whole] = fmt.Sprintf("%v%v%s", r.Through, r.Addresses, r.End)
	}
	assert.Equal(t, map[string]string{
		"library.quarry.home.arpa": "[][10.20.0.9 10.20.0.12]", "books.quarry.home.arpa": "[library][10.20.0.9 10.20.0.12]",
		"reading.quarry.home.arpa": "[books library][10.20.0.9 10.20.0.12]", "round.quarry.home.arpa": "[about round][]circle",
		"about.quarry.home.arpa": "[round about][]circle", "lost.quarry.home.arpa": "[gone][]nowhere",
		"world.quarry.home.arpa": "[www.example.org][]away", "vault.quarry.home.arpa": "[][10.20.0.12]",
	}, ends)
}

// What is written down of a name goes before what a device would go by for its title alone:
// a guest behind a proxy is not answered for beside the proxy.
func TestAWrittenNameIsNotADevicesToo(t *testing.T) {
	const behind = names + "? server \"shelf\": 10.20.0.30\nname shelf -> vesper\n"
	answers := func(text, name string) (list []string) {
		p := plan(t, text)
		z, ok := p.Zone("quarry.home.arpa")
		require.True(t, ok)
		for _, r := range z.Records {
			if r.Owner == name+".quarry.home.arpa" {
				list = append(list, r.Type+" "+r.To)
			}
		}
		return list
	}
	assert.Equal(t, []string{"A 10.20.0.14"}, answers(behind, "shelf"))
	assert.Equal(t, []string{"A 10.20.0.30"}, answers(names+"? server \"shelf\": 10.20.0.30\nname shelf -> gone\n", "shelf"),
		"it leads nowhere")
	assert.Equal(t, []string{"CNAME library.quarry.home.arpa"}, answers(names+"? server \"shelf\": 10.20.0.30\nname shelf -> library\n",
		"shelf"))
	assert.Equal(t, []string{"A 10.20.0.12", "A 10.20.0.9"}, answers(names+"name anvil -> anvil\n", "anvil"))
	assert.Equal(t, []string{"A 10.20.0.1", "AAAA fd20:20::1"}, answers(names+"name gate -> 10.20.0.1\n", "gate"),
		"one of its own addresses: the others stay")
	assert.ElementsMatch(t, []string{"A 10.20.0.14", "A 10.20.0.12"}, answers(names+"name study -> 10.20.0.12\n", "study"),
		"both are said")
}

func TestAZoneHasWhatANameServerAnswers(t *testing.T) {
	p := plan(t, names+"name servers of vlan 20: vesper\n")
	assert.Equal(t, []string{"quarry.home.arpa", "0.0.0.0.0.0.0.0.0.2.0.0.0.2.d.f.ip6.arpa", "0.20.10.in-addr.arpa"}, p.ZoneNames())
	z, ok := p.Zone("quarry.home.arpa")
	require.True(t, ok)
	assert.Equal(t, []string{"study.quarry.home.arpa"}, z.Servers)
	assert.Contains(t, z.Records, address.ZoneRecord{Owner: "books.quarry.home.arpa", Type: "CNAME", To: "library.quarry.home.arpa"})
	assert.Contains(t, z.Records, address.ZoneRecord{Owner: "world.quarry.home.arpa", Type: "CNAME", To: "www.example.org"})
	assert.Contains(t, z.Records, address.ZoneRecord{Owner: "gate.quarry.home.arpa", Type: "AAAA", To: "fd20:20::1"})
	assert.Len(t, z.Left, 3, "two that lead round, one that leads nowhere")
	back, ok := p.Zone("0.20.10.in-addr.arpa.")
	require.True(t, ok)
	assert.Contains(t, back.Records, address.ZoneRecord{Owner: "1.0.20.10.in-addr.arpa", Type: "PTR", To: "gate.quarry.home.arpa"})
	six, _ := p.Zone("0.0.0.0.0.0.0.0.0.2.0.0.0.2.d.f.ip6.arpa")
	assert.Equal(t, []address.ZoneRecord{{Owner: "1.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.0.2.0.0.0.2.d.f.ip6.arpa", Type: "PTR",
		To: "gate.quarry.home.arpa"}}, six.Records)
	_, ok = p.Zone("example.org")
	assert.False(t, ok)
	unsaid, _ := plan(t, names).Zone("quarry.home.arpa")
	assert.True(t, unsaid.Unsaid)
	assert.Equal(t, []string{"gate.quarry.home.arpa"}, unsaid.Servers)
}
