package exchange_test

import (
	"bytes"
	"net/netip"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/miekg/dns"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/exchange"
)

const zoned = `lab "Quarry House"
rack "R": 9U
9 router "gate": 4 ports rj45
8 server "anvil": 2 ports rj45, 1 ports rj45 called "mgmt"
7 single-board computer "Küchen_Pi"
vlan 20 "servers"
subnet 10.20.0.0/24 vlan 20, gateway .1, names end in "quarry.home.arpa"
subnet fd20:20::/64 vlan 20, gateway ::1, names end in "quarry.home.arpa"
gate 10.20.0.1
gate fd20:20::1
anvil 10.20.0.12
anvil fd20:20::12
anvil 10.20.0.9 on mgmt reserved mac 02:4e:00:00:20:09 named "anvil-console"
Küchen_Pi 10.20.0.31
name library -> Küchen_Pi
name books -> library
name küche -> Küchen_Pi
name outside -> www.example.org
name anvil-console -> library
name round -> round2
name round2 -> round
`

func zoneOf(t testing.TB, l *lab.Lab, name string) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, exchange.WriteZone(&out, l, name, 17))
	return out.String()
}

// checkZone has a real name server's checker read a zone.
func checkZone(t testing.TB, name, zone string) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "zone")
	require.NoError(t, os.WriteFile(file, []byte(zone), 0o600))
	out, err := exec.Command("named-checkzone", "-i", "local", name, file).CombinedOutput()
	require.NoError(t, err, "%s\n%s", out, zone)
}

func TestANameServerTakesTheZones(t *testing.T) {
	for _, more := range []string{"", "name servers of vlan 20: Küchen_Pi, gate\n"} {
		l := labtest.From(t, zoned+more)
		zones := address.Of(l).ZoneNames()
		assert.Equal(t, []string{"quarry.home.arpa", "0.0.0.0.0.0.0.0.0.2.0.0.0.2.d.f.ip6.arpa", "0.20.10.in-addr.arpa"}, zones)
		for _, name := range zones {
			checkZone(t, name, zoneOf(t, l, name))
		}
		assert.Equal(t, more == "", strings.Contains(zoneOf(t, l, zones[0]),
			"; No name server is written down; the gateway stands in for one.\n"))
	}
	forward := strings.ReplaceAll(zoneOf(t, labtest.From(t, zoned), "quarry.home.arpa"), "\t", " ")
	for _, line := range []string{
		"quarry.home.arpa. 3600 IN SOA gate.quarry.home.arpa. hostmaster.quarry.home.arpa. 17 7200 3600 1209600 3600",
		"anvil.quarry.home.arpa. 3600 IN A 10.20.0.12", "anvil.quarry.home.arpa. 3600 IN AAAA fd20:20::12",
		"anvil-console.quarry.home.arpa. 3600 IN A 10.20.0.9", "books.quarry.home.arpa. 3600 IN CNAME library.quarry.home.arpa.",
		"xn--kche-0ra.quarry.home.arpa. 3600 IN A 10.20.0.31", "outside.quarry.home.arpa. 3600 IN CNAME www.example.org.",
		"; anvil-console.quarry.home.arpa is an alias and a name of its own; the alias is left out",
		"; round.quarry.home.arpa leads round in a circle",
	} {
		assert.Contains(t, forward, line+"\n")
	}
	back := strings.ReplaceAll(zoneOf(t, labtest.From(t, zoned), "0.20.10.in-addr.arpa"), "\t", " ")
	assert.Contains(t, back, "12.0.20.10.in-addr.arpa. 3600 IN PTR anvil.quarry.home.arpa.\n")
}

// What is published has the name that was written, or none.
func TestUnderscoresAreWrittenAsTheyAreOrNotAtAll(t *testing.T) {
	l := labtest.From(t, zoned+"name _acme-challenge.quarry.home.arpa -> library\nname _srv.quarry.home.arpa -> anvil\n"+
		"name old_box -> anvil\n"+
		"name older -> old_box\n")
	text := zoneOf(t, l, "quarry.home.arpa")
	checkZone(t, "quarry.home.arpa", text)
	forward := strings.ReplaceAll(text, "\t", " ")
	assert.Contains(t, forward, "_acme-challenge.quarry.home.arpa. 3600 IN CNAME library.quarry.home.arpa.\n")
	for _, left := range []string{"_srv.quarry.home.arpa has an underscore", "old_box.quarry.home.arpa has an underscore",
		"older.quarry.home.arpa leads to old_box.quarry.home.arpa, which is left out"} {
		assert.Contains(t, forward, "; "+left)
	}
	for _, other := range []string{"-srv", "old-box", "\n_srv", "\nold"} {
		assert.NotContains(t, forward, other)
	}
}

func TestAZoneThatIsNotThereIsSaid(t *testing.T) {
	err := exchange.WriteZone(&bytes.Buffer{}, labtest.From(t, zoned), "example.org", 1)
	assert.ErrorContains(t, err, "there is no zone example.org; there are quarry.home.arpa,")
}

func TestTheHostsFileHasEveryName(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, exchange.WriteHosts(&out, labtest.From(t, zoned)))
	assert.Equal(t, "# names of Quarry House\n127.0.0.1\tlocalhost\n::1\tlocalhost\n"+
		"10.20.0.1\tgate.quarry.home.arpa gate\n"+
		"10.20.0.9\tanvil-console.quarry.home.arpa anvil-console\n"+
		"10.20.0.12\tanvil.quarry.home.arpa anvil\n"+
		"10.20.0.31\txn--kchen-pi-65a.quarry.home.arpa xn--kchen-pi-65a library.quarry.home.arpa library books.quarry.home.arpa books "+
		"xn--kche-0ra.quarry.home.arpa xn--kche-0ra anvil-console.quarry.home.arpa anvil-console\n"+
		"fd20:20::1\tgate.quarry.home.arpa gate\nfd20:20::12\tanvil.quarry.home.arpa anvil\n", out.String())
}

// Whatever names, domains and titles are, what is written is a zone, and has the
// records that it is to have and no others.
func FuzzZone(f *testing.F) {
	for _, s := range [][4]string{
		{"anvil", "quarry.home.arpa", "books", "Quarry House"}, {"Loft AP", "home.arpa", "loft_ap", "x\nevil IN A 10.0.0.1"},
		{"a.b", "xn--p1ai", "@", "(\n"}, {"*", "a-b.c", "anvil", "\"; $INCLUDE /etc/passwd"}, {"ns", "arpa", "ns", "\u2028"},
		{"hostmaster", "home.arpa", "quarry", ""}, {"_x", "home.arpa", "_y", ""}, {"", "home.arpa", "y", ""},
	} {
		f.Add(s[0], s[1], s[2], s[3])
	}
	f.Fuzz(func(t *testing.T, device, domain, name, title string) {
		top := lab.New().Settings()
		top.Name = title
		l, err := lab.New().Apply([]lab.Change{
			{After: lab.Device{ID: "d", Name: device, Kind: lab.Router, State: lab.Running, Addressed: lab.Addressed{Addresses: []lab.Address{
				{Address: netip.MustParseAddr("10.20.0.1"), How: lab.FixedAddress}}}}},
			{After: lab.Subnet{ID: "s", CIDR: netip.MustParsePrefix("10.20.0.0/24"), Gateway: netip.MustParseAddr("10.20.0.1"), Names: domain}},
			{After: lab.Name{ID: "n", Name: name, Hop: lab.Hop{Device: "d"}}},
			{After: lab.Name{ID: "o", Name: "also-" + name, Alias: name}},
		})
		if err != nil {
			t.Skip("refused")
		}
		if named, err := l.Apply([]lab.Change{{Before: l.Settings(), After: top}}); err == nil {
			l = named
		}
		for _, zone := range address.Of(l).ZoneNames() {
			text := zoneOf(t, l, zone)
			checkZone(t, zone, text)
			parser := dns.NewZoneParser(strings.NewReader(text), dns.Fqdn(zone), "")
			parser.SetIncludeAllowed(false)
			z, _ := address.Of(l).Zone(zone)
			n := 0
			for rr, ok := parser.Next(); ok; rr, ok = parser.Next() {
				if rr.Header().Rrtype != dns.TypeSOA && rr.Header().Rrtype != dns.TypeNS {
					n++
				}
			}
			require.NoError(t, parser.Err())
			require.Equal(t, len(z.Records), n)
		}
	})
}

func TestTheAddressPlanGoesOutAndComesBack(t *testing.T) {
	l := labtest.From(t, zoned)
	var out bytes.Buffer
	require.NoError(t, exchange.AddressPlan{}.WriteCSV(&out, l))
	assert.Contains(t, out.String(), "address,device,port,how,mac,name,subnet,vlan\n10.20.0.1,gate,,fixed,,,10.20.0.0/24,20\n"+
		"10.20.0.9,anvil,mgmt,reserved,02:4e:00:00:20:09,anvil-console,10.20.0.0/24,20\n")
	for _, write := range []func(*bytes.Buffer) error{
		func(b *bytes.Buffer) error { return exchange.AddressPlan{}.WriteCSV(b, l) },
		func(b *bytes.Buffer) error { return exchange.AddressPlan{}.WriteXLSX(b, l) },
		func(b *bytes.Buffer) error { return exchange.AddressPlan{Reserved: true}.WriteCSV(b, l) },
	} {
		out.Reset()
		require.NoError(t, write(&out))
		sheet, err := exchange.AddressPlan{}.Read(l, out.Bytes())
		require.NoError(t, err)
		assert.Empty(t, sheet.Changes, "what is written changes nothing")
		assert.NotEmpty(t, sheet.Rows)
	}
	sheet, err := exchange.AddressPlan{Reserved: true}.Read(l,
		[]byte("Address;Device;MAC\n10.20.0.12;anvil;02-4E-00-00-20-12\n10.20.0.40;gate;\n"+
			"10.20.0.300;gate;\n10.20.0.41;nobody;\n10.20.0.42;gate;02:zz\n"))
	require.NoError(t, err)
	assert.Equal(t, 3, sheet.Refused)
	var say []string
	for _, r := range sheet.Rows {
		say = append(say, r.Say)
	}
	assert.Equal(t, []string{"anvil: 10.20.0.12 mac 02:4e:00:00:20:12 (was 10.20.0.12)", "gate: 10.20.0.40 reserved",
		"“10.20.0.300” is not an address; write one such as 10.20.0.12 or fd20:20::12", "there is no one device called “nobody”",
		"“02:zz” is not a MAC address; write one such as 02:00:5e:00:00:01"}, say)
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	assert.Len(t, address.Of(next).All(), len(address.Of(l).All())+1)
	_, err = exchange.AddressPlan{}.Read(l, []byte("address,port\n10.20.0.1,1\n"))
	assert.ErrorContains(t, err, "has to name the columns address and device")
}

// Each line of a table that cannot be says why, and the others with it stay as they are.
func TestWhyALineOfAnAddressPlanIsRefused(t *testing.T) {
	l := labtest.From(t, zoned)
	for line, say := range map[string]string{
		"10.20.0.40,anvil,eth9,fixed,,":        "has no port “eth9”",
		"10.20.0.40,anvil,,guessed,,":          "guessed",
		"10.20.0.40,anvil,,fixed,,two words":   "write “two-words”",
		"0.0.0.0,anvil,,fixed,,":               "no single device has the address 0.0.0.0",
		"fe80::1%eth0,anvil,,fixed,,":          "write the address alone",
		",anvil,,fixed,,":                      "“” is not an address",
		"10.20.0.40,,,fixed,,":                 "there is no one device called “”",
		"10.20.0.40,anvil,,fixed":              "it has 4 cells, and the first line names 6 columns",
		"10.20.0.0/24,anvil,,fixed,,":          "is not an address",
		"10.20.0.40,anvil,,fixed,020000000,":   "is not a MAC address",
		"=10.20.0.40,anvil,,fixed,,":           "is not an address",
		"10.20.0.40,ANVIL,mgmt,handed out,,":   "",
		"::ffff:10.20.0.40,anvil,,reserved,,":  "",
		" 10.20.0.40 , anvil ,,,02004e002040,": "",
	} {
		sheet, err := exchange.AddressPlan{}.Read(l, []byte("address,device,port,how,mac,name\n"+line+"\n"))
		require.NoError(t, err, line)
		require.Len(t, sheet.Rows, 1)
		if say == "" {
			assert.Zero(t, sheet.Refused, line)
			assert.Contains(t, sheet.Rows[0].Say, "anvil: 10.20.0.40", line)
			continue
		}
		assert.Equal(t, 1, sheet.Refused, line)
		assert.Contains(t, sheet.Rows[0].Say, say, line)
		assert.Empty(t, sheet.Changes, line)
	}
}

func FuzzAddressPlan(f *testing.F) {
	for _, text := range []string{"address,device\n10.20.0.40,anvil\n",
		"Device;Address;How;MAC\nanvil;fd20:20::9;reserved;02-4e-00-00-20-40\n",
		"address,device,name,port\n10.20.0.9,gate,\"a\"\"b\",1\n", "address,device\n::ffff:1.2.3.4,anvil\n1.2.3.4,anvil\n"} {
		f.Add([]byte(text))
	}
	l := labtest.From(f, zoned)
	f.Fuzz(func(t *testing.T, data []byte) {
		sheet, err := exchange.AddressPlan{}.Read(l, data)
		if err != nil {
			return
		}
		next, err := l.Apply(sheet.Changes)
		require.NoError(t, err, "what is taken makes a lab")
		var out bytes.Buffer
		require.NoError(t, exchange.AddressPlan{}.WriteCSV(&out, next))
		again, err := exchange.AddressPlan{}.Read(next, out.Bytes())
		require.NoError(t, err)
		assert.Empty(t, again.Changes, "what is written changes nothing")
	})
}
