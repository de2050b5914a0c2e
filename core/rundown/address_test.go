package rundown_test

import (
	"fmt"
	"net/netip"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const outside = `rack "R": 24U
24 router "gate": 4 ports rj45 1G
23 server "anvil": 4 ports rj45, 1 ports rj45 called "mgmt"
22 desktop "vesper": 2 ports rj45
21 server "granary"
20 single-board computer "finch"
vlan 10 "house"
vlan 20 "servers"
vlan 30 "guests"
vlan 40 "eyes"
vlan 50 "sandbox"
vlan 60 "employer"
`

const saidOfAddresses = outside + `subnet 10.20.0.0/24 vlan 20, gateway .1, handed out .100-.178 by gate, names end in "quarry.home.arpa"
subnet fd20:20::/64 vlan 20, gateway ::1
anvil 10.20.0.12
anvil: address 10.20.0.9 on mgmt reserved mac 024e.0000.2009 named "anvil-console"
vesper is .77
gate/4 10.20.0.1
gate fd20:20::1
name servers of vlan 10: finch, gate
name "library" -> 10.20.0.31
name books -> library
name "way in" -> gate
virtual router "exam router" on gate: vlan 50, vlan 60
route 10.9.0.0/16 via 10.20.0.2 in "exam router"
route 0.0.0.0/0 via 10.20.0.3 on gate
line "fibre line": fibre, 900M down, 200M up, fixed address, handed over in vlan 12, into gate/1, first, 38 a month
line "mobile line": mobile, 60M down, 20M up, shared address, into gate/2, if it fails, because "the fibre was dug up once"
line "second": cable, 600M down, 60M up, public address, into gate/3, with "fibre line"
line "parents' line": public address, at "Parents' house"
open "fibre line" tcp 443 to gate
open "mobile line": none
from guests to internet: some, down 30M, up 3M
from house to servers: some "web and files"
from eyes to house: none
from "sandbox" to granary: all
from employer to internet: all, by "second" only
tunnel "parents": gate to "Parents' house", site to site, joins 10.20.0.0/24 and 10.77.0.0/24
tunnel "front door": from finch outwards
remote access "phones": into finch, reaches servers and granary
anvil/4 - vesper/2 with 192.168.99.1 and 192.168.99.2
`

func TestAddressesAsTheyAreSaid(t *testing.T) {
	l := fresh(t, strings.Replace(saidOfAddresses, `"way in"`, `way-in`, 1))
	anvil := named(t, l, "anvil")
	assert.Equal(t, []lab.Address{
		{Address: netip.MustParseAddr("10.20.0.12"), How: lab.FixedAddress},
		{Address: netip.MustParseAddr("10.20.0.9"), Port: "mgmt", How: lab.ReservedAddress, MAC: "02:4e:00:00:20:09", Name: "anvil-console"},
	}, anvil.Addresses)
	assert.Equal(t, netip.MustParseAddr("10.20.0.77"), named(t, l, "vesper").Addresses[0].Address, "the only subnet it can be in")
	gate := named(t, l, "gate")
	assert.Equal(t, "4", gate.Addresses[0].Port)

	subnets := all[lab.Subnet](l)
	require.Len(t, subnets, 2)
	assert.Equal(t, lab.Subnet{ID: subnets[0].ID, CIDR: netip.MustParsePrefix("10.20.0.0/24"), VLAN: subnets[0].VLAN, By: gate.ID,
		Gateway: netip.MustParseAddr("10.20.0.1"), Names: "quarry.home.arpa",
		Ranges: []lab.Range{{From: netip.MustParseAddr("10.20.0.100"), To: netip.MustParseAddr("10.20.0.178")}}}, subnets[0])
	assert.Equal(t, 20, *subnets[0].VLAN)
	assert.Equal(t, netip.MustParseAddr("fd20:20::1"), subnets[1].Gateway)

	house := all[lab.VLAN](l)[0]
	assert.Equal(t, []lab.ID{named(t, l, "finch").ID, gate.ID}, house.NameServers, "in the order in which they are asked")
	leads := map[string]string{}
	for _, n := range all[lab.Name](l) {
		leads[n.Name] = strings.TrimPrefix(n.Address.String(), "invalid IP") + string(n.Device) + n.Alias
	}
	assert.Equal(t, map[string]string{"library": "10.20.0.31", "books": "library", "way-in": string(gate.ID)}, leads)

	exam := all[lab.VirtualRouter](l)[0]
	assert.Equal(t, lab.VLANs("50,60"), exam.VLANs)
	routes := all[lab.Route](l)
	assert.Equal(t, []lab.ID{exam.ID, ""}, []lab.ID{routes[0].Router, routes[1].Router})
	assert.Equal(t, gate.ID, routes[1].Device)

	lines := all[lab.Line](l)
	fibre := lines[0]
	assert.Equal(t, []any{lab.FibreLine, 900, 200, lab.FixedLine, 12, gate.ID, "1", lab.FirstLine, int64(3800)},
		[]any{fibre.Medium, *fibre.DownMb, *fibre.UpMb, fibre.Address, *fibre.HandOver, fibre.Device, fibre.Port, fibre.Order, *fibre.Minor})
	assert.Equal(t, lab.IfItFails, lines[1].Order)
	assert.Equal(t, lab.NothingOpen, lines[1].Closed)
	assert.Equal(t, fibre.ID, lines[2].With)
	assert.Equal(t, "Parents' house", lines[3].Site)
	assert.Equal(t, "tcp 443", l.OpeningsOf(fibre)[0].Title())

	var rules []string
	for _, r := range all[lab.Rule](l) {
		rules = append(rules, l.RuleWords(r)+" "+string(r.Says)+" "+r.What)
	}
	assert.Equal(t, []string{"guests to internet some ", "house to servers some web and files", "eyes to house none ",
		"sandbox to granary all ",
		"employer to internet all ", "phones to servers all ", "phones to granary all "}, rules)
	assert.Equal(t, lines[2].ID, all[lab.Rule](l)[4].Only)

	tunnel := all[lab.Tunnel](l)[0]
	assert.Equal(t, []netip.Prefix{netip.MustParsePrefix("10.20.0.0/24"), netip.MustParsePrefix("10.77.0.0/24")}, tunnel.Joins)
	assert.Equal(t, "Parents' house", tunnel.Site)
	direct := all[lab.Cable](l)[0]
	assert.Equal(t, []string{"192.168.99.1", "192.168.99.2"}, []string{direct.AddressA.String(), direct.AddressB.String()})

	assert.Equal(t, l.All(), again(t, l).All(), "what is printed loads to the same lab")
}

func all[R lab.Record](l *lab.Lab) (list []R) {
	for r := range lab.Each[R](l) {
		list = append(list, r)
	}
	return list
}

// again is a lab that what is printed of it was loaded into.
func again(t *testing.T, l *lab.Lab) *lab.Lab {
	t.Helper()
	p := rundown.Load(l, rundown.Parse(rundown.Print(l)), rundown.Options{All: true, Forget: true, NewID: ids("x")})
	require.Empty(t, p.Mistakes)
	require.Empty(t, p.Kept)
	return p.Lab
}

// As people say it, whole lines of it.
func TestAddressesAreReadAsPeopleSayThem(t *testing.T) {
	l := fresh(t, outside+`?  modem "mobile modem"
subnet 10.7.0.0/24 is the club, router is .1, hands out 100 to 199
network 192.168.1.0/24, router .1 hands out .20 to .199
gate is 10.7.0.1
granary 10.7.0.11, finch 10.7.0.12
vesper has 192.168.1.4 by reservation
anvil/1 is 10.7.0.20
line mobile: mobile, 60 down 20 up, no address of my own, into the mobile modem, first
line neighbour: 100 both ways, in case the mobile one dies
line dsl: 80/20, vlan 7, third
from guests to internet: all, 20 down 2 up
name server of 10.7.0.0/24: gate
`)
	club, flat := all[lab.Subnet](l)[0], all[lab.Subnet](l)[1]
	assert.Equal(t, "the club", club.Purpose)
	assert.Equal(t, []string{"10.7.0.1", "10.7.0.100", "10.7.0.199"}, []string{club.Gateway.String(),
		club.Ranges[0].From.String(), club.Ranges[0].To.String()})
	assert.Equal(t, []string{"192.168.1.1", "192.168.1.20"}, []string{flat.Gateway.String(), flat.Ranges[0].From.String()})
	assert.Equal(t, []lab.ID{named(t, l, "gate").ID}, club.NameServers)
	assert.Equal(t, "10.7.0.12", named(t, l, "finch").Addresses[0].Address.String())
	assert.Equal(t, lab.ReservedAddress, named(t, l, "vesper").Addresses[0].How)
	assert.Equal(t, "1", named(t, l, "anvil").Addresses[0].Port)
	var lines []string
	for _, w := range all[lab.Line](l) {
		lines = append(lines, fmt.Sprint(w.Name, *w.DownMb, *w.UpMb, w.Address, w.Order))
	}
	assert.Equal(t, []string{"mobile60 20sharedfirst", "neighbour100 100if_it_fails", "dsl80 20third"}, lines)
	rule := all[lab.Rule](l)[0]
	assert.Equal(t, []int{20, 2}, []int{*rule.DownMb, *rule.UpMb})
}

func TestWhatIsWrongWithAddressesIsSaid(t *testing.T) {
	long := strings.Repeat("a", 64)
	for line, say := range map[string]string{
		`subnet 10.20.0.0/33`:                                 `0 to 32, such as 10.20.0.0/24`,
		`subnet 10.20.0.1/24`:                                 `write subnet 10.20.0.0/24, or give the address 10.20.0.1 to a device`,
		`subnet 10.20.0.0`:                                    `say how large the subnet is, such as 10.20.0.0/24`,
		`subnet ground floor`:                                 `is not a subnet; write one such as 10.20.0.0/24`,
		`subnet 10.20.0.0/24 gateway 10.21.0.1`:               `is outside 10.20.0.0/24; its addresses are 10.20.0.1 to 10.20.0.254`,
		`subnet fd20::/64: gateway 10.20.0.1`:                 `but fd20::/64 is IPv6`,
		`subnet 10.20.0.0/24: handed out .178-.100`:           `runs backwards; write 10.20.0.100-10.20.0.178`,
		`subnet 10.20.0.0/24: handed out .10-.20 and .15-.30`: `overlap; make them one`,
		`subnet 10.20.0.0/24: handed out .10-.300`:            `its parts are 0 to 255`,
		`subnet 10.20.0.0/24 vlan 5000`:                       `1 to 4094`,
		`subnet 10.20.0.0/24: names end in "two words"`:       `write “two-words”`,
		`anvil 10.20.0.300`:                                   `is not an address; write one such as 10.20.0.12`,
		`anvil 0.0.0.0`:                                       `no single device has the address 0.0.0.0`,
		`anvil 10.20.0.9 on eth9`:                             `has no port “eth9”`,
		`anvil .12`:                                           `no subnet is known that it could be in`,
		`anvil 10.20.0.9 mac 02-zz-00-00-20-09`:               `is not a MAC address`,
		`anvil 10.20.0.9 named "choir library"`:               `write “choir-library”`,
		`anvil 10.20.0.9 sideways up`:                         `says nothing of an address`,
		`name "` + long + `" -> 10.20.0.31`:                   `at most 63 characters`,
		`name "a..b" -> 10.20.0.31`:                           `two dots`,
		`name "library" -> 10.20.0.331`:                       `is not an address`,
		`route 10.9.0.0/16 via fd20::1`:                       `one is IPv4, the other IPv6`,
		`route 10.9.0.0/16 via 10.20.0.2 in "exam router"`:    `there is no virtual router called “exam router”`,
		`line "fibre line": into gate/9`:                      `has no port “9”`,
		`open "fibre line" tcp 443 to gate`:                   `there is no line called “fibre line”`,
		`from guest to internet: all`:                         `called “guest”; a line such as vlan 30`,
		`from house to house: all`:                            `both sides are the same`,
		`from house to servers`:                               `say all, some or none`,
		`from house`:                                          `say to whom, such as from guests to internet: some`,
		`tunnel "x": from gate, joins 10.20.0.0/33`:           `0 to 32`,
	} {
		p := rundown.Load(lab.New(), rundown.Parse(outside+line), rundown.Options{All: true, NewID: ids("n")})
		if assert.NotEmpty(t, p.Mistakes, line) {
			assert.Contains(t, p.Mistakes[0].Say, say, line)
		}
		assert.Empty(t, p.Kept, line)
	}
}

func TestASideOfARuleThatMayBeSeveralIsAskedFor(t *testing.T) {
	text := outside + "?  camera \"eyes\"\n"
	p := rundown.Load(lab.New(), rundown.Parse(text+"from eyes to house: none\n"), rundown.Options{All: true, NewID: ids("n")})
	require.Len(t, p.Mistakes, 1)
	assert.Contains(t, p.Mistakes[0].Say, `“eyes” may be vlan 40 or device "eyes"; write which`)
	l := fresh(t, text+"from device eyes to house: none\nfrom vlan eyes to internet: none\n")
	assert.Contains(t, rundown.Print(l), `from device "eyes" to house: none`, "so that it is read again")
	assert.Equal(t, l.All(), again(t, l).All())
}

func TestALineSaysMoreOfASubnetThereIs(t *testing.T) {
	l := fresh(t, outside+`subnet 10.20.0.0/24 vlan 20, gateway .1
subnet 192.168.0.0/24 vlan 50
subnet 192.168.0.0/24 vlan 60
`)
	p := rundown.Load(l, rundown.ParseLine(`subnet 10.20.0.0/24: handed out .100-.178`), rundown.Options{NewID: ids("y")})
	require.Empty(t, p.Mistakes)
	require.Len(t, all[lab.Subnet](p.Lab), 3)
	assert.Equal(t, "10.20.0.1", all[lab.Subnet](p.Lab)[0].Gateway.String(), "it stays")
	p = rundown.Load(l, rundown.ParseLine(`subnet 192.168.0.0/24: gateway .1`), rundown.Options{NewID: ids("y")})
	require.Len(t, p.Mistakes, 1)
	assert.Contains(t, p.Mistakes[0].Say, "say which, such as subnet 192.168.0.0/24 vlan 60")
}

// Of an address, a subnet, a line or a rule that there is, a line says anew what it names,
// takes back what it says is unknown, and leaves the rest.
func TestWhatIsKnownOfNetworksIsSaidAnew(t *testing.T) {
	base := fresh(t, outside+`subnet 10.20.0.0/24 vlan 20, gateway .1, handed out .100-.178 by gate, names end in "quarry.home.arpa"
anvil 10.20.0.12
anvil 10.20.0.9 on mgmt reserved mac 02:4e:00:00:20:09 named "anvil-console"
name books -> anvil
name servers of vlan 10: finch, gate
line "fibre line": fibre, 900M down, 200M up, fixed address, into gate/1, first
from guests to internet: some "web", down 30M, up 3M
tunnel "parents": gate to "Parents' house", joins 10.20.0.0/24
`)
	for _, c := range []struct{ line, is string }{
		{`anvil 10.20.0.12 reserved`, `address 10.20.0.12 reserved, address 10.20.0.9 on mgmt reserved mac 02:4e:00:00:20:09 named "anvil-console"`},
		{`anvil 10.20.0.9 on 2`, `10.20.0.9 on 2`},
		{`anvil: address ?`, `server "anvil": 4 ports rj45, 1 ports rj45 called "mgmt"`},
		{`subnet 10.20.0.0/24: gateway .254`, `gateway .254, handed out .100-.178 by gate`},
		{`subnet 10.20.0.0/24: handed out .50-.60 by finch`, `gateway .1, handed out .50-.60 by finch`},
		{`name books -> finch`, `name "books": -> finch`},
		{`name books -> 10.20.0.12`, `name "books": -> 10.20.0.12`},
		{`name servers of vlan 10: gate`, `vlan 10 "house": name servers gate`},
		{`gate is the name server of vlan 10`, `vlan 10 "house": name servers gate`},
		{`gate and finch are the name servers of vlan 10`, `vlan 10 "house": name servers gate and finch`},
		{`line "fibre line": 500M down`, `fibre, down 500M, up 200M, fixed address, into gate/1, first`},
		{`line "fibre line": down ?`, `fibre, up 200M, fixed address, into gate/1, first`},
		{`line "fibre line": into gate/2`, `into gate/2`},
		{`from guests to internet: all`, `from guests to internet: all`},
		{`from guests to internet: some "web", down 50M`, `from guests to internet: some "web", down 50M, up 3M`},
		{`tunnel "parents": joins 10.20.0.0/24 and 10.77.0.0/24`, `to "Parents' house", joins 10.20.0.0/24 and 10.77.0.0/24`},
	} {
		p := rundown.Load(base, rundown.ParseLine(c.line), rundown.Options{NewID: ids("y")})
		if !assert.Empty(t, p.Mistakes, c.line) {
			continue
		}
		printed := strings.Join(strings.Fields(rundown.Print(p.Lab)), " ")
		assert.Contains(t, printed, c.is, c.line)
		assert.Equal(t, p.Lab.All(), again(t, p.Lab).All(), c.line)
		assert.Len(t, p.Changes, 1, "%s: nothing is new, and nothing gone", c.line)
	}
}

// Whatever is typed of addresses is refused, or is printed so that it is read again.
func FuzzAddresses(f *testing.F) {
	for _, line := range strings.Split(strings.TrimSpace(strings.TrimPrefix(saidOfAddresses, outside)), "\n") {
		f.Add(line)
	}
	for _, line := range []string{"anvil 10.0.0.1/8 on 1 dhcp", "subnet ::/0 gateway ::1", "subnet 0.0.0.0/0: handed out .1-.9", "name ü -> ö",
		"from vlan 10 to device gate: some \"a\\\"b\"", "open x udp 1-65535 to gate", "anvil ::ffff:10.0.0.1", "gate fe80::1%1"} {
		f.Add(line)
	}
	base := rundown.Load(lab.New(), rundown.Parse(outside), rundown.Options{All: true, NewID: ids("n")}).Lab
	f.Fuzz(func(t *testing.T, line string) {
		p := rundown.Load(base, rundown.ParseLine(line), rundown.Options{NewID: ids("z")})
		if len(p.Mistakes) > 0 || len(p.Changes) == 0 {
			return
		}
		// A remark that holds the words of a fact alone is a remark again, so some may be kept.
		q := rundown.Load(p.Lab, rundown.Parse(rundown.Print(p.Lab)), rundown.Options{All: true, Forget: true, NewID: ids("x")})
		require.Empty(t, q.Mistakes)
		assert.Equal(t, p.Lab.All(), q.Lab.All(), line)
	})
}
