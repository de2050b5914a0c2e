package rundown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const byName = `rack "R": 24U
3 server "wheel"
4 router "gate": 4 ports 1G
5 firewall "sieve": 4 ports 1G
6 access point "ap"
vlan 10 office
circuit "office": 10A
line "fibre"
on wheel: vm "shop": 1GB
on wheel: vm "names": 1GB
service "shop" in shop
service "proxy" in names
shop.example -> names
`

// A line that only gives a name is about the device called that, or else about whatever
// is; where it has no colon, what stands behind the name is a fact as it stands.
func TestWhatALineIsAboutByItsNameAlone(t *testing.T) {
	base := fresh(t, byName)
	for line, want := range map[string]string{
		"fibre: into gate/2":                            `line "fibre": into gate/2`,
		"fibre into gate/2":                             "", // which is a fact of no device, and of a line only behind a colon
		"fibre: 500M down, 500M up, into gate/2":        `line "fibre": down 500M, up 500M, into gate/2`,
		"shop.example: open to the world":               `name "shop.example": -> names, open to the world`,
		"shop.example open to the world, with sign-in":  `name "shop.example": -> names, open to the world, with sign-in`,
		"wheel runs a hypervisor, keeps 8GB for itself": `server "wheel": runs hypervisor, keeps 8GB`,
		"the wheel 24kg":                                `server "wheel": 24kg`,
		"\"wheel\" 24kg":                                `server "wheel": 24kg`,
		"proxy: https":                                  `service "proxy": in names, https`,
		"shop 2GB":                                      `vm "shop": 2GB`, // the device goes before the service
		"name servers of office: names":                 `vlan 10 "office": name servers names`,
		"office: name servers names":                    `vlan 10 "office": name servers names`,
		"office: 16A":                                   `circuit "office": 16A`,
		"sieve/1 - gate/1":                              `sieve/1 - gate/1`,
	} {
		p := typed(t, base, line)
		if want == "" {
			continue
		}
		require.Empty(t, said(p), line)
		printed := strings.ReplaceAll(rundown.Print(p.Lab), ",\n        ", ", ")
		assert.Contains(t, printed, want+"\n", line)
	}
}

// What is called nothing that is there is the mistake that it was.
func TestANameOfNothing(t *testing.T) {
	for line, say := range map[string]string{
		"serber 24kg":              "1:1: serber: did you mean server?",
		"fiber: into gate/2":       "1:1: there is no device called “fiber”",
		"wheal runs a hypervisor":  "1:1: “wheal” is not a kind of thing",
		"rak 24U":                  "1:1: rak: did you mean rack?",
		"office: into gate/2":      "1:1: there is no device called “office”", // a VLAN and a circuit, and of neither a fact
		"wheel runs a hypervisor:": "1:1: there is no device called “wheel runs a hypervisor”",
	} {
		p := typed(t, fresh(t, byName), line)
		require.NotEmpty(t, said(p), line)
		assert.Contains(t, said(p)[0], say, line)
	}
	p := load(t, lab.New(), "rack \"R\": 9U\n9 hub \"h\"\ncloset 24U\n9 hub \"not in R\"\n", rundown.Options{All: true})
	assert.Len(t, said(p), 1, "what is below what may have been a rack is not in the one above")
}

// A unit is in the last rack of the text, whatever else was said since.
func TestUnitsAreInTheLastRack(t *testing.T) {
	l := fresh(t,
		"rack \"A\": 9U\nrack \"B\": 9U\nvlan 10 office\nline \"fibre\"\n9 hub \"h\": untagged 10\nplace \"Study\"\n  display \"wall\"\n")
	b, _ := l.Named(lab.KindRack, "B")
	assert.Equal(t, b, named(t, l, "h").At.Rack)
	p := load(t, lab.New(), "rack \"A\": 9U\nplace \"Study\"\n9 hub \"h\"\n", rundown.Options{All: true})
	assert.Equal(t, []string{"3:1: “Study” is a place and has no units or sides (expected just the kind, or a line with a rack above it)"},
		said(p))
}

// People say a proxy by the guest it is in, and what a rule lets through by its usual name.
func TestHopsAndRulesAsTheyAreSaid(t *testing.T) {
	base := fresh(t, byName)
	for line, want := range map[string]string{
		"a.example -> proxy on names -> shop": `name "a.example": -> "proxy" -> service "shop"`,
		"a.example -> the way in on names":    `name "a.example": -> names`,
		"a.example -> shop":                   `name "a.example": -> service "shop"`,
		"a.example -> vm shop":                `name "a.example": -> vm "shop"`,
		"from office to names: web":           `from office to names: some "web"`,
		"from office to names: tcp 443":       `from office to names: some "tcp 443"`,
	} {
		p := typed(t, base, line)
		require.Empty(t, said(p), line)
		assert.Contains(t, strings.ReplaceAll(rundown.Print(p.Lab), ",\n        ", ", "), want+"\n", line)
		assert.Equal(t, p.Lab.All(), again(t, p.Lab).All(), line)
	}
	assert.Contains(t, said(typed(t, base, "from office to names: wen"))[0], "what is reached: say all, some or none")
	assert.Contains(t, said(typed(t, base, "a.example -> proxy on nobody"))[0],
		"there is no device, service or tunnel called “proxy on nobody”")
}

// What several VLANs have, and all ports of a device, is said at once.
func TestSeveralAtOnce(t *testing.T) {
	l := fresh(t, byName+"vlan 20 visitors\nvlan 30 kilns\nname servers of office, visitors and 30: names, wheel\n"+
		"gate: all ports tagged 10,20\n")
	for v := range lab.Each[lab.VLAN](l) {
		assert.Len(t, v.NameServers, 2, v.Title())
	}
	assert.Contains(t, rundown.Print(l), "router \"gate\": 4 ports rj45 1G, tagged 10,20\n")
}

// A year on a device's line is when it was bought; a rack that is rated standing still.
func TestAYearAlone(t *testing.T) {
	l := fresh(t, "rack \"R\": 9U, rated 400kg standing\n9 server \"anvil\": 1U, 2024\n")
	assert.Contains(t, rundown.Print(l), "bought 2024")
	assert.Contains(t, rundown.Print(l), "holds 400kg")
}

// A subnet's VLAN by its name, with the word for it or without.
func TestASubnetsVLANByItsName(t *testing.T) {
	base := fresh(t, byName)
	for _, line := range []string{"subnet 10.1.0.0/24 office", "subnet 10.1.0.0/24 vlan office", "subnet 10.1.0.0/24: in vlan \"office\""} {
		p := typed(t, base, line)
		require.Empty(t, said(p), line)
		assert.Empty(t, p.Kept, line)
		assert.Equal(t, 10, *all[lab.Subnet](p.Lab)[0].VLAN, line)
	}
	for _, line := range []string{"wireless \"Guests\" vlan office", "wifi \"Guests\": vlan office on ap", "wireless \"Guests\", office"} {
		p := typed(t, base, line)
		require.Empty(t, said(p), line)
		assert.Equal(t, 10, *all[lab.WirelessNetwork](p.Lab)[0].VLAN, line)
	}
	l := fresh(t, "subnet 10.1.0.0/24 office, gateway .1\nvlan 10 office\n")
	assert.Equal(t, 10, *all[lab.Subnet](l)[0].VLAN, "which comes further down")
	assert.Contains(t, said(typed(t, base, "subnet 10.1.0.0/24 vlan offices"))[0], "there is no VLAN called “offices”")
	assert.Len(t, typed(t, base, "subnet 10.1.0.0/24: rented").Kept, 1, "what is no VLAN stays a remark")
}
