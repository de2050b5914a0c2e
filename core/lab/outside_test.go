package lab_test

import (
	"net/netip"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func addr(s string) netip.Addr     { return netip.MustParseAddr(s) }
func prefix(s string) netip.Prefix { return netip.MustParsePrefix(s) }

// joined is a lab with a router, a line, a VLAN and what is passed.
func joined(t *testing.T, more ...lab.Record) *lab.Lab {
	t.Helper()
	changes := []lab.Change{
		{After: lab.Device{ID: "gate", Name: "gate", Kind: lab.Router, State: lab.Running}},
		{After: lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running}},
		{After: lab.Line{ID: "fibre", Name: "fibre line"}},
		{After: lab.VLAN{ID: "v20", Number: 20, Name: "servers"}},
		{After: lab.VLAN{ID: "v30", Number: 30, Name: "guests"}},
	}
	for _, r := range more {
		changes = append(changes, lab.Change{After: r})
	}
	l, err := lab.New().Apply(changes)
	require.NoError(t, err)
	return l
}

// refusedWith is what is said against a record that is put into a lab.
func refusedWith(t *testing.T, l *lab.Lab, r lab.Record, say string) {
	t.Helper()
	_, err := l.Apply([]lab.Change{{Before: l.Get(r.Key()), After: r}})
	assert.ErrorContains(t, err, say)
}

func TestAnAddressThatNoDeviceCanHaveIsRefused(t *testing.T) {
	l := joined(t)
	for name, c := range map[string]struct {
		is  lab.Address
		say string
	}{
		"none":               {lab.Address{}, "an address cannot be empty; write one such as 10.20.0.12 or fd20:20::12"},
		"all of them":        {lab.Address{Address: addr("0.0.0.0")}, "no single device has the address 0.0.0.0"},
		"all of IPv6":        {lab.Address{Address: addr("::")}, "no single device has the address ::"},
		"for many":           {lab.Address{Address: addr("224.0.0.251")}, "no single device has the address 224.0.0.251"},
		"for many of IPv6":   {lab.Address{Address: addr("ff02::1")}, "no single device has the address ff02::1"},
		"for everybody":      {lab.Address{Address: addr("255.255.255.255")}, "no single device has the address 255.255.255.255"},
		"with an interface":  {lab.Address{Address: addr("fe80::1%eth0")}, "names an interface behind %; write the address alone"},
		"IPv4 as IPv6":       {lab.Address{Address: addr("::ffff:10.0.0.1")}, "is an IPv4 address written as an IPv6 one; write 10.0.0.1"},
		"how nobody does":    {lab.Address{Address: addr("10.0.0.1"), How: "guessed"}, "guessed"},
		"a MAC that is none": {lab.Address{Address: addr("10.0.0.1"), MAC: "02:4e:00"}, "“02:4e:00” is not a MAC address; write one such as"},
		"a name in two words": {lab.Address{Address: addr("10.0.0.1"), Name: "the study"},
			"“the study” has a space in it, which a name cannot have; write “the-study”"},
	} {
		t.Run(name, func(t *testing.T) {
			if c.is.How == "" {
				c.is.How = lab.FixedAddress
			}
			d, _ := lab.Find[lab.Device](l, "anvil")
			d.Addresses = []lab.Address{c.is}
			refusedWith(t, l, d, c.say)
		})
	}
}

func TestAnAddressIsOncePerPort(t *testing.T) {
	l := joined(t)
	d, _ := lab.Find[lab.Device](l, "anvil")
	is := lab.Address{Address: addr("10.0.0.1"), How: lab.FixedAddress}
	d.Addresses = []lab.Address{is, is}
	refusedWith(t, l, d, "10.0.0.1 is listed twice; once will do")
	on := is
	on.Port = "2"
	d.Addresses = []lab.Address{is, on}
	_, err := l.Apply([]lab.Change{{Before: l.Get(d.Key()), After: d}})
	require.NoError(t, err, "the same one on two ports")
	d.Addresses = nil
	a := addr("10.0.0.1")
	for range 65 {
		d.Addresses = append(d.Addresses, lab.Address{Address: a, How: lab.FixedAddress})
		a = a.Next()
	}
	refusedWith(t, l, d, "has 65 entries; at most 64 are allowed")
	d.Addresses = d.Addresses[:64]
	_, err = l.Apply([]lab.Change{{Before: l.Get(d.Key()), After: d}})
	require.NoError(t, err)
}

// By the blocks of RFC 1918, 4193, 6598, 5737 and 3849, at their edges.
func TestWhichAddressesAnybodyCanReach(t *testing.T) {
	for said, want := range map[string]bool{
		"9.255.255.255": true, "10.0.0.0": false, "10.255.255.255": false, "11.0.0.0": true,
		"172.15.255.255": true, "172.16.0.0": false, "172.31.255.255": false, "172.32.0.0": true,
		"192.167.255.255": true, "192.168.0.0": false, "192.168.255.255": false, "192.169.0.0": true,
		"100.63.255.255": true, "100.64.0.0": false, "100.127.255.255": false, "100.128.0.0": true,
		"192.0.2.1": false, "198.51.100.1": false, "203.0.113.1": false,
		"127.0.0.1": false, "169.254.1.1": false, "224.0.0.1": false,
		"fd00::1": false, "fc00::1": false, "fe80::1": false, "::1": false, "2001:db8::1": false, "2a00::1": true,
	} {
		assert.Equal(t, want, lab.IsPublic(addr(said)), said)
	}
}

// The longest label is 63 and the longest name 253 letters (RFC 1035, 2.3.4); what is
// beyond ASCII is written as RFC 5891 has it.
func TestANameIsOneThatTheDomainNameSystemCanHave(t *testing.T) {
	long := strings.Repeat("a", 63)
	for said, want := range map[string]string{
		"library": "library", "Library": "library", "library.home.arpa.": "library.home.arpa",
		"küche": "xn--kche-0ra", "KÜCHE.home.arpa": "xn--kche-0ra.home.arpa", "_ntp": "_ntp", long: long,
		strings.Join([]string{long, long, long, long[:61]}, "."): strings.Join([]string{long, long, long, long[:61]}, "."),
	} {
		ascii, bad := lab.DNSName(said)
		assert.Empty(t, bad, said)
		assert.Equal(t, want, ascii, said)
	}
	for said, want := range map[string]string{
		"":                  "",
		"the library":       "“the library” has a space in it, which a name cannot have; write “the-library”",
		"a..b":              "",
		".a":                "“.a” is not a name; write letters, digits and hyphens, with dots between",
		"-a":                "“-a” is not a name",
		"a-":                "“a-” is not a name",
		"a/b":               "“a/b” is not a name",
		long + "a":          "a piece of a name between dots is at most 63 characters long, and",
		long + "a.home.com": "a piece of a name between dots is at most 63 characters long, and",
		strings.Join([]string{long, long, long, long[:62]}, "."): "a name is at most 253 characters long, and this one is 254",
	} {
		ascii, bad := lab.DNSName(said)
		assert.Empty(t, ascii, said)
		assert.NotEmpty(t, bad, said)
		assert.Contains(t, bad, want, said)
	}
}

func TestASubnetThatCannotBeIsRefused(t *testing.T) {
	four, six := prefix("10.20.0.0/24"), prefix("fd20::/64")
	from := func(a, b string) lab.Range { return lab.Range{From: addr(a), To: addr(b)} }
	for name, c := range map[string]struct {
		is  lab.Subnet
		say string
	}{
		"none":                   {lab.Subnet{}, "a subnet cannot be empty; write one such as 10.20.0.0/24 or fd20:20::/64"},
		"an address with a size": {lab.Subnet{CIDR: prefix("10.20.0.7/24")}, "is an address with the size of its subnet; write the subnet itself, 10.20.0.0/24"},
		"IPv4 as IPv6":           {lab.Subnet{CIDR: prefix("::ffff:10.0.0.0/120")}, "is an IPv4 subnet written as an IPv6 one; write it as IPv4"},
		"a VLAN past the last":   {lab.Subnet{CIDR: four, VLAN: new(4095)}, "4094"},
		"a gateway elsewhere": {lab.Subnet{CIDR: four, Gateway: addr("10.21.0.1")},
			"the gateway, 10.21.0.1, is outside 10.20.0.0/24; its addresses are 10.20.0.1 to 10.20.0.254"},
		"a gateway of the other kind": {lab.Subnet{CIDR: four, Gateway: addr("fd20::1")},
			"the gateway is fd20::1, but 10.20.0.0/24 is IPv4; write an address of that"},
		"one of the other kind still": {lab.Subnet{CIDR: six, Gateway: addr("10.20.0.1")},
			"the gateway is 10.20.0.1, but fd20::/64 is IPv6; write an address of that"},
		"a range elsewhere": {lab.Subnet{CIDR: four, Ranges: []lab.Range{from("10.20.0.100", "10.20.1.10")}},
			"the range handed out, 10.20.1.10, is outside 10.20.0.0/24"},
		"a range backwards": {lab.Subnet{CIDR: four, Ranges: []lab.Range{from("10.20.0.178", "10.20.0.100")}},
			"the range 10.20.0.178-10.20.0.100 runs backwards; write 10.20.0.100-10.20.0.178"},
		"two that overlap": {lab.Subnet{CIDR: four, Ranges: []lab.Range{from("10.20.0.10", "10.20.0.20"), from("10.20.0.20", "10.20.0.30")}},
			"the ranges 10.20.0.10-10.20.0.20 and 10.20.0.20-10.20.0.30 overlap; make them one"},
		"one within the other": {lab.Subnet{CIDR: four, Ranges: []lab.Range{from("10.20.0.12", "10.20.0.14"), from("10.20.0.10", "10.20.0.20")}},
			"overlap; make them one"},
		"21 ranges":                 {lab.Subnet{CIDR: four, Ranges: make([]lab.Range, 21)}, "has 21 ranges; at most 20 are allowed"},
		"a domain that is none":     {lab.Subnet{CIDR: four, Names: "quarry home"}, "write “quarry-home”"},
		"nine name servers":         {lab.Subnet{CIDR: four, Named: lab.Named{NameServers: make([]lab.ID, 9)}}, "has 9 entries; at most 8 are allowed"},
		"a name server that is not": {lab.Subnet{CIDR: four, Named: lab.Named{NameServers: []lab.ID{"x"}}}, "there is no device with the id “x”"},
		"handed out by what is not": {lab.Subnet{CIDR: four, By: "x"}, "there is no device with the id “x”"},
		"the same in the same VLAN": {lab.Subnet{CIDR: prefix("10.9.0.0/24"), VLAN: new(20)}, "10.9.0.0/24"},
	} {
		t.Run(name, func(t *testing.T) {
			c.is.ID = "s1"
			refusedWith(t, joined(t, lab.Subnet{ID: "s0", CIDR: prefix("10.9.0.0/24"), VLAN: new(20)}), c.is, c.say)
		})
	}
	_, err := joined(t, lab.Subnet{ID: "s0", CIDR: four, VLAN: new(20)}).Apply([]lab.Change{{After: lab.Subnet{ID: "s1",
		CIDR: four, VLAN: new(30)}}})
	assert.NoError(t, err, "the same addresses in another VLAN")
}

// Of IPv4 neither the network's own address nor the broadcast one is had, but for a /31
// (RFC 3021) and a /32.
func TestWhichAddressesOfASubnetMayBeHad(t *testing.T) {
	for cidr, want := range map[string][2]string{
		"10.0.0.0/8": {"10.0.0.1", "10.255.255.254"}, "10.20.0.0/24": {"10.20.0.1", "10.20.0.254"}, "10.0.0.4/30": {"10.0.0.5", "10.0.0.6"},
		"10.0.0.4/31": {"10.0.0.4", "10.0.0.5"}, "10.0.0.4/32": {"10.0.0.4", "10.0.0.4"}, "0.0.0.0/0": {"0.0.0.1", "255.255.255.254"},
		"fd20::/64": {"fd20::", "fd20::ffff:ffff:ffff:ffff"}, "fd20::4/127": {"fd20::4", "fd20::5"}, "fd20::4/128": {"fd20::4", "fd20::4"},
	} {
		s := lab.Subnet{CIDR: prefix(cidr)}
		assert.Equal(t, want, [2]string{s.First().String(), s.Last().String()}, cidr)
		assert.True(t, s.Usable(s.First()) && s.Usable(s.Last()), cidr)
		assert.False(t, s.Usable(s.Last().Next()), cidr)
		assert.Equal(t, s.First() == s.CIDR.Addr(), s.Usable(s.CIDR.Addr()), cidr)
	}
	s := lab.Subnet{CIDR: prefix("10.20.0.0/24"), Ranges: []lab.Range{{From: addr("10.20.0.100"), To: addr("10.20.0.178")}}}
	for said, want := range map[string]bool{"10.20.0.99": false, "10.20.0.100": true, "10.20.0.178": true, "10.20.0.179": false} {
		assert.Equal(t, want, s.HandsOut(addr(said)), said)
	}
}

func TestWhatIsOutsideAndCannotBeIsRefused(t *testing.T) {
	for name, c := range map[string]struct {
		is  lab.Record
		say string
	}{
		"a line without a name":     {lab.Line{ID: "x"}, "name"},
		"a line of the same name":   {lab.Line{ID: "x", Name: "Fibre Line"}, "there is a line “fibre line” already"},
		"a medium of no kind":       {lab.Line{ID: "x", Name: "x", Medium: "pigeon"}, "pigeon"},
		"nothing down":              {lab.Line{ID: "x", Name: "x", DownMb: new(-1)}, "down_mb"},
		"more than there is":        {lab.Line{ID: "x", Name: "x", UpMb: new(2_000_001)}, "up_mb"},
		"handed over in no VLAN":    {lab.Line{ID: "x", Name: "x", HandOver: new(0)}, "hand_over_vlan"},
		"an address of no kind":     {lab.Line{ID: "x", Name: "x", Address: "mine"}, "mine"},
		"an order and a partner":    {lab.Line{ID: "x", Name: "x", Order: lab.FirstLine, With: "fibre"}, "has its order; keep one of them"},
		"with what is not there":    {lab.Line{ID: "x", Name: "x", With: "gone"}, "there is no line with the id “gone”"},
		"with itself":               {lab.Line{ID: "x", Name: "x", With: "x"}, "“x” cannot be used together with itself; name another line"},
		"in a circle":               {lab.Line{ID: "fibre", Name: "fibre line", With: "second"}, "“fibre line” cannot be used together with “second”"},
		"a price below nothing":     {lab.Line{ID: "x", Name: "x", Minor: new(int64(-1))}, "that cannot be a price"},
		"closed and open":           {lab.Line{ID: "second", Name: "second", With: "fibre", Closed: lab.NothingOpen}, "tcp 8000-8010 is open on “second”; remove it"},
		"open on a closed line":     {lab.Opening{ID: "x", Line: "shut", Proto: lab.TCP, From: 443}, "“shut” says that nothing is open on it; take that back first"},
		"open on no line":           {lab.Opening{ID: "x", Line: "gone", Proto: lab.TCP, From: 443}, "there is no line with the id “gone”"},
		"a protocol without ports":  {lab.Opening{ID: "x", Line: "fibre", Proto: "icmp", From: 443}, "icmp"},
		"no port":                   {lab.Opening{ID: "x", Line: "fibre", Proto: lab.TCP}, "a port's number is 1 to 65535, not 0"},
		"a port past the last":      {lab.Opening{ID: "x", Line: "fibre", Proto: lab.TCP, From: 65536}, "a port's number is 1 to 65535, not 65536"},
		"a port below":              {lab.Opening{ID: "x", Line: "fibre", Proto: lab.TCP, From: 1, To: -5}, "a port's number is 1 to 65535, not -5"},
		"ports backwards":           {lab.Opening{ID: "x", Line: "fibre", Proto: lab.TCP, From: 90, To: 80}, "the range 90-80 runs backwards; write 80-90"},
		"a tunnel without a name":   {lab.Tunnel{ID: "x"}, "name"},
		"a tunnel of no sort":       {lab.Tunnel{ID: "x", Name: "x", Sort: "wormhole"}, "wormhole"},
		"a tunnel of 41 subnets":    {lab.Tunnel{ID: "x", Name: "x", Joins: make([]netip.Prefix, 41)}, "has 41 subnets; at most 40 are allowed"},
		"a tunnel that joins none":  {lab.Tunnel{ID: "x", Name: "x", Joins: []netip.Prefix{prefix("10.0.0.1/24")}}, "write the subnet itself, 10.0.0.0/24"},
		"a tunnel into nothing":     {lab.Tunnel{ID: "x", Name: "x", Device: "gone"}, "there is no device with the id “gone”"},
		"a way in without a name":   {lab.RemoteAccess{ID: "x"}, "name"},
		"a way in to nothing":       {lab.RemoteAccess{ID: "x", Name: "x", Device: "gone"}, "there is no device with the id “gone”"},
		"a virtual router on none":  {lab.VirtualRouter{ID: "x", Name: "x", Device: "gone"}, "there is no device with the id “gone”"},
		"a route of two tables":     {lab.Route{ID: "x", CIDR: prefix("10.9.0.0/16"), Router: "vr", Device: "gate"}, "keep one of them"},
		"a route to the other kind": {lab.Route{ID: "x", CIDR: prefix("10.9.0.0/16"), Via: addr("fd20::1")}, "one is IPv4, the other IPv6"},
		"a route to an address":     {lab.Route{ID: "x", CIDR: prefix("10.9.0.1/16")}, "write the subnet itself, 10.9.0.0/16"},
		"a name that is none":       {lab.Name{ID: "x", Name: "two words"}, "write “two-words”"},
		"a name of two ends":        {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gate"}, Alias: "y"}, "keep one of them"},
		"a name passed on by none":  {lab.Name{ID: "x", Name: "x", Then: []lab.Hop{{Device: "gate"}}}, "say where the name leads first"},
		"a name that goes round": {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gate"}, Then: []lab.Hop{{Device: "gate"}}},
			"the way goes round"},
		"a name behind itself":    {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gate"}, Then: []lab.Hop{{Of: "x"}}}, "the way goes round"},
		"a name through nine":     {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gate"}, Then: make([]lab.Hop, 9)}, "at most 8 are allowed"},
		"a hop to two things":     {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gate", Tunnel: "t"}}, "say one of them"},
		"a hop at no port":        {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gate", Port: 70000}}, "a port is between 1 and 65535"},
		"an alias straight away":  {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Of: "n"}}, "is an alias"},
		"some VLANs, not said":    {lab.Name{ID: "x", Name: "x", Exposed: lab.Exposed{Exposure: lab.SomeVLANs}}, "say from which VLANs"},
		"a service open to worms": {lab.Service{ID: "x", Name: "x", Exposed: lab.Exposed{Exposure: "wormhole"}}, "wormhole"},
		"a name of what is not":   {lab.Name{ID: "x", Name: "x", Hop: lab.Hop{Device: "gone"}}, "there is no device with the id “gone”"},
	} {
		t.Run(name, func(t *testing.T) {
			l := joined(t, lab.Line{ID: "second", Name: "second", With: "fibre"}, lab.Line{ID: "shut", Name: "shut", Closed: lab.NothingOpen},
				lab.Opening{ID: "o", Line: "second", Proto: lab.TCP, From: 8000, To: 8010},
				lab.VirtualRouter{ID: "vr", Name: "exam router", Device: "gate"})
			refusedWith(t, l, c.is, c.say)
		})
	}
}

func TestARuleThatCannotBeIsRefused(t *testing.T) {
	side := func(kind lab.EndpointKind, id lab.ID) *lab.Endpoint { return &lab.Endpoint{Kind: kind, ID: id} }
	servers, guests, outside := side("vlan", "v20"), side("vlan", "v30"), side(lab.Internet, "")
	for name, c := range map[string]struct {
		is  lab.Rule
		say string
	}{
		"about nobody":          {lab.Rule{To: servers, Says: lab.ReachAll}, "say whom it is about: a VLAN, a device, a subnet, a remote access, or internet"},
		"to nobody":             {lab.Rule{From: servers, Says: lab.ReachAll}, "say whom it is about"},
		"about a cable":         {lab.Rule{From: side("cable", "c"), To: servers, Says: lab.ReachAll}, "“cable” is not what a rule may be about; it is one of vlan, device"},
		"a VLAN that is not":    {lab.Rule{From: side("vlan", "gone"), To: servers, Says: lab.ReachAll}, "“gone”"},
		"a VLAN without an id":  {lab.Rule{From: side("vlan", ""), To: servers, Says: lab.ReachAll}, "by its id, and internet without one"},
		"an internet with one":  {lab.Rule{From: servers, To: side(lab.Internet, "x"), Says: lab.ReachAll}, "by its id, and internet without one"},
		"with itself":           {lab.Rule{From: servers, To: servers, Says: lab.ReachAll}, "both sides are the same; what is in one network reaches itself"},
		"which says nothing":    {lab.Rule{From: servers, To: guests}, "say all, some or none"},
		"which says another":    {lab.Rule{From: servers, To: guests, Says: "most"}, "most"},
		"which says not said":   {lab.Rule{From: servers, To: guests, Says: lab.ReachNotSaid}, "not_said"},
		"less than nothing":     {lab.Rule{From: guests, To: outside, Says: lab.ReachSome, DownMb: new(-3)}, "down_mb"},
		"by a line that is not": {lab.Rule{From: guests, To: outside, Says: lab.ReachSome, Only: "gone"}, "there is no line with the id “gone”"},
		"said twice of a pair":  {lab.Rule{From: servers, To: outside, Says: lab.ReachNone}, "already"},
	} {
		t.Run(name, func(t *testing.T) {
			c.is.ID = "r1"
			refusedWith(t, joined(t, lab.Rule{ID: "r0", From: servers, To: outside, Says: lab.ReachAll}), c.is, c.say)
		})
	}
}

// What is removed takes along what only speaks of it, and leaves what also says else.
func TestWhatIsLeftOfANetworkWhenADeviceGoes(t *testing.T) {
	gate := lab.EndpointOf(lab.Key{Kind: lab.KindDevice, ID: "gate"})
	l := joined(t,
		lab.Subnet{ID: "s", CIDR: prefix("10.20.0.0/24"), By: "gate", Named: lab.Named{NameServers: []lab.ID{"gate", "anvil"}}},
		lab.Line{ID: "mobile", Name: "mobile line", Device: "gate", Port: "2"},
		lab.Opening{ID: "o", Line: "mobile", Proto: lab.UDP, From: 51820, Device: "gate"},
		lab.Tunnel{ID: "t", Name: "parents", Device: "gate"}, lab.RemoteAccess{ID: "a", Name: "phones", Device: "gate"},
		lab.VirtualRouter{ID: "vr", Name: "exam router", Device: "gate"},
		lab.Route{ID: "r1", CIDR: prefix("10.9.0.0/16"), Router: "vr"}, lab.Route{ID: "r2", CIDR: prefix("10.8.0.0/16"), Device: "gate"},
		lab.Name{ID: "n", Name: "door", Hop: lab.Hop{Device: "gate"}},
		lab.Rule{ID: "x", From: &gate, To: &lab.Endpoint{Kind: lab.Internet}, Says: lab.ReachAll})
	o, _ := lab.Find[lab.Opening](l, "o")
	assert.Equal(t, "udp 51820 on mobile line", l.OpeningWords(o))
	l, err := l.Apply(l.Removal(gate.Key()))
	require.NoError(t, err)
	for _, gone := range []lab.Key{{Kind: lab.KindVirtualRouter, ID: "vr"}, {Kind: lab.KindRoute, ID: "r1"}, {Kind: lab.KindRoute, ID: "r2"},
		{Kind: lab.KindRule, ID: "x"}, {Kind: lab.KindOpening, ID: "o"}} {
		assert.Nil(t, l.Get(gone), gone)
	}
	s, _ := lab.Find[lab.Subnet](l, "s")
	assert.Equal(t, lab.Subnet{ID: "s", CIDR: prefix("10.20.0.0/24"), Named: lab.Named{NameServers: []lab.ID{"anvil"}}}, s)
	w, _ := lab.Find[lab.Line](l, "mobile")
	assert.Equal(t, lab.Line{ID: "mobile", Name: "mobile line"}, w, "the port was one of it")
	tunnel, _ := lab.Find[lab.Tunnel](l, "t")
	way, _ := lab.Find[lab.RemoteAccess](l, "a")
	name, _ := lab.Find[lab.Name](l, "n")
	assert.Empty(t, string(tunnel.Device+way.Device+name.Device))
	assert.Equal(t, []string{"parents", "phones", "door"}, []string{tunnel.Title(), way.Title(), name.Title()})
}

func TestWhatRoutes(t *testing.T) {
	for _, c := range []struct {
		kind lab.DeviceKind
		said lab.Routing
		want bool
	}{{lab.Router, "", true}, {lab.Server, "", false}, {lab.Server, lab.RoutesPackets, true}, {lab.Router,
		lab.RoutesNothing, false}, {lab.Switch, "", false}} {
		assert.Equal(t, c.want, lab.Device{Kind: c.kind, Switching: lab.Switching{Routing: c.said}}.PassesPackets(), "%s %s", c.kind, c.said)
	}
	for port, want := range map[string]bool{"mgmt": true, "MGMT": true, "bmc": true, "oob": true, "1": false, "": false, "management": true} {
		assert.Equal(t, want, lab.ForManagement(port), port)
	}
}

func TestWhatARuleIsCalled(t *testing.T) {
	l := joined(t, lab.Subnet{ID: "s", CIDR: prefix("10.77.0.0/24")}, lab.RemoteAccess{ID: "a", Name: "phones"},
		lab.VLAN{ID: "v99", Number: 99})
	for want, e := range map[string]lab.Endpoint{
		"servers": {Kind: "vlan", ID: "v20"}, "gate": {Kind: "device", ID: "gate"}, "10.77.0.0/24": {Kind: "subnet", ID: "s"},
		"phones": {Kind: "remote_access", ID: "a"}, "internet": {Kind: lab.Internet}, "VLAN 99": {Kind: "vlan", ID: "v99"},
	} {
		assert.Equal(t, want, l.EndpointWords(e))
		other := lab.Endpoint{Kind: lab.Internet}
		assert.Equal(t, want+" to internet", l.RuleWords(lab.Rule{From: &e, To: &other}))
	}
	assert.Equal(t, "a rule", l.RuleWords(lab.Rule{}))
	assert.Equal(t, "not said", lab.ReachNotSaid.Words())
	assert.Equal(t, "some", lab.ReachSome.Words())
}
