package rundown_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const switches = `rack "R": 24U
24 switch "core": 24 ports rj45 1G, 4 ports sfp+ 10G
23 switch "loft": 8 ports rj45 1G
22 patch panel "PP1": 24 ports
21 server "anvil": 2 ports rj45
20 access point "loft ap"
19 access point "hall ap"
18 laptop "vesper"
`

// carries is what a port is said to carry: untagged, tagged, and whether it is
// routed.
func carries(t *testing.T, l *lab.Lab, device, port string) string {
	t.Helper()
	d := named(t, l, device)
	i := slices.IndexFunc(d.Marks, func(m lab.PortMark) bool { return m.Port == port })
	m := lab.PortMark{}
	if i >= 0 {
		m = d.Marks[i]
	}
	c := d.Carries(m)
	return strings.TrimSpace(fmt.Sprintf("%d %s%s", c.Untagged, c.Tagged, map[bool]string{true: "routed"}[c.Routed]))
}

func TestVLANsAsTheyAreSaid(t *testing.T) {
	l := fresh(t, switches+`vlan 20 "servers", green, for "anvil, silo and what runs on them"
vlan 20 "practice" in domain "exam lab"
vlan 30 guests, orange
core/1-12 untagged 20
core/s1 tagged 20,30 untagged 10
core/s2 tagged all
core/13 native 10
core port 14 vlan 30
core/15 tagged 20, 30, 40-42
core: untagged 10, bridge priority 4096
loft: unmanaged, mac 02-00-5E-00-00-01
core/24 routed
aggregate "up" on core: ports s3-s4, active-active
core/up tagged 20
aggregate "pair" on anvil: ports 1-2, active-standby
wireless "Quarry" vlan 10 on "loft ap", "hall ap"
wireless "Quarry guests" vlan 30 on "hall ap", for guests, down 30M, up 3M
vesper: on wireless "Quarry"
loft ap/air - hall ap/air wireless, carries 300M, tagged 10,30
`)
	for port, want := range map[string]string{"1": "20", "12": "20", "s1": "10 20,30", "s2": "10 all", "13": "10", "14": "30",
		"15": "10 20,30,40-42", "16": "10", "24": "0 routed", "s3": "10 20", "s4": "10 20"} {
		assert.Equal(t, want, carries(t, l, "core", port), "core/"+port)
	}
	var vlans []string
	for v := range lab.Each[lab.VLAN](l) {
		vlans = append(vlans, fmt.Sprint(v.Title(), " ", v.Colour, " ", v.Domain))
	}
	assert.Equal(t, []string{"20 servers green ", "20 practice  exam lab", "30 guests orange "}, vlans)
	core, anvil, vesper := named(t, l, "core"), named(t, l, "anvil"), named(t, l, "vesper")
	assert.Equal(t, 4096, *core.Priority)
	assert.Equal(t, "02:00:5e:00:00:01", named(t, l, "loft").MAC)
	assert.Equal(t, []lab.Aggregate{{Name: "up", Ports: []string{"s3", "s4"}, Mode: lab.ActiveActive}}, core.Aggregates)
	assert.Equal(t, lab.ActiveStandby, anvil.Aggregates[0].Mode)
	guests, _ := l.Named(lab.KindWireless, "Quarry guests")
	net, _ := lab.Find[lab.WirelessNetwork](l, guests)
	assert.Equal(t, []any{30, 30, 3, "guests", 1}, []any{*net.VLAN, *net.DownMb, *net.UpMb, net.Purpose, len(net.Points)})
	quarry, _ := l.Named(lab.KindWireless, "Quarry")
	assert.Equal(t, quarry, vesper.Wireless)
	for c := range lab.Each[lab.Cable](l) {
		assert.Equal(t, lab.VLANs("10,30"), c.Tagged)
	}

	text := rundown.Print(l)
	again := load(t, l, text, rundown.Options{All: true, Forget: true})
	assert.Empty(t, said(again))
	assert.Empty(t, again.Changes, "what is printed loads to the same:\n"+text)
	assert.Contains(t, text, "port 1-12 untagged 20")
}

// In one text a port's own line goes before a range's and a range's before the
// device's, wherever they stand; on the quick line the later counts.
func TestWhatIsSaidMoreNarrowlyCounts(t *testing.T) {
	lines := []string{"core/3 untagged 30", "core/1-12 untagged 20", "core: untagged 10", "core/4 tagged 40"}
	for range 8 {
		rand.New(rand.NewPCG(1, 2)).Shuffle(len(lines), func(i, k int) { lines[i], lines[k] = lines[k], lines[i] })
		l := fresh(t, switches+strings.Join(lines, "\n"))
		assert.Equal(t, []string{"30", "20 40", "20", "10"}, []string{carries(t, l, "core", "3"), carries(t, l, "core", "4"),
			carries(t, l, "core", "5"), carries(t, l, "core", "13")})
	}
	l := fresh(t, switches+"core/3 untagged 30\n")
	for _, step := range [][2]string{{"core/1-12 untagged 20", "20"}, {"core/3 untagged 40", "40"}, {"core/3 tagged 50", "40 50"},
		{"core/3 tagged none", "40"}, {"core/3 routed", "0 routed"}, {"core/3 untagged 10", "10"}, {"core/3 untagged ?", "0"}} {
		l = typed(t, l, step[0]).Lab
		assert.Equal(t, step[1], carries(t, l, "core", "3"), step[0])
	}
}

// As people say it: the word behind, no slash, lists with and, several on one line.
func TestVLANsAsPeopleSayThem(t *testing.T) {
	l := fresh(t, switches+`vlans 10 office, 20 shop, 30 kilns
core/1 10 untagged, 20 tagged
core/2 vlan 7 tagged
core 3-4 untagged 30
core ports 5-6 untagged 30
core cage 1 tagged 20, 30 and 40
core port 7 tagged 20 and 30, untagged 10
loft: tagged 20, 30 and 40, 4kg
bond "pair" on anvil: 1 and 2, active both
core port 8: tagged 20
wifi "Office" vlan 10 on "loft ap"
`)
	assert.Equal(t, "0 20", carries(t, l, "core", "8"))
	_, sent := l.Named(lab.KindWireless, "Office")
	assert.True(t, sent)
	for port, want := range map[string]string{"1": "10 20", "2": "0 7", "3": "30", "4": "30", "5": "30", "s1": "0 20,30,40", "7": "10 20,30"} {
		assert.Equal(t, want, carries(t, l, "core", port), "core/"+port)
	}
	assert.Equal(t, lab.VLANs("20,30,40"), named(t, l, "loft").Tagged)
	assert.Equal(t, 4.0, *named(t, l, "loft").WeightKG)
	assert.Equal(t, []string{"1", "2"}, named(t, l, "anvil").Aggregates[0].Ports)
	assert.Len(t, slices.Collect(lab.Each[lab.VLAN](l)), 3)
}

func TestAVLANBothTaggedAndUntaggedCountsAsUntaggedAndIsTold(t *testing.T) {
	p := load(t, lab.New(), switches+"core/1 tagged 10,20 untagged 10\n", rundown.Options{All: true})
	require.Empty(t, said(p))
	assert.Equal(t, "10 20", carries(t, p.Lab, "core", "1"))
	require.Len(t, p.Kept, 1)
	assert.True(t, p.Kept[0].Counts)
	assert.Equal(t, "core/1: 10 is said to be tagged and untagged, and counts as untagged", p.Kept[0].Text)
}

// An edit tells what is different of ports, and not all that is said of them.
func TestAnEditOfPortsTellsWhatIsDifferent(t *testing.T) {
	l := fresh(t, switches+"core/1-4 untagged 20\ncore/8 tagged 30\n")
	for line, want := range map[string]string{
		"core/1 untagged 10": "core: port 1 untagged 10 (was untagged 20)",
		"core/1-2 tagged 30": "core: port 1-2 tagged 30 untagged 20 (was untagged 20)",
		"core/9-12 routed":   "core: port 9-12 routed (was nothing)",
		"core/8 tagged ?":    "core: port 8 (was tagged 30)",
	} {
		p := typed(t, l, line)
		require.Empty(t, said(p), line)
		assert.Equal(t, want, rundown.Label(rundown.Edits(l, p.Lab, p.Changes)), line)
	}
}

func TestWhatCannotBeSaidOfVLANs(t *testing.T) {
	for line, say := range map[string]string{
		`vlan 0 "none"`:                      "a VLAN's number is 1 to 4094, not 0",
		`vlan 4095 "all"`:                    "a VLAN's number is 1 to 4094, not 4095",
		`vlan "servers"`:                     "write it before the name",
		"core/1 untagged 10,20":              "a port carries one VLAN untagged",
		"core/1 untagged 10 untagged 20":     "a port carries one VLAN untagged",
		"core/1 untagged 10\ncore/1 vlan 20": "is said to be untagged in 10 and in 20",
		"core/1 routed\ncore/1 tagged 20":    "said to be routed and to carry a VLAN",
		"core/1 routed tagged 20":            "a routed port carries no VLAN",
		"core/99 untagged 10":                "“core” has no port “99”; it has 1-24, s1-s4 and in1",
		"core/1 tagged 30-20":                "runs backwards",
		"PP1/3 tagged 20":                    "goes through, so it carries what the ports at both ends of its trail do",
		`aggregate "up" on core: ports s1`:   "an aggregate is 2 ports or more",
		`aggregate "up" on core: s1, loft/1`: "an aggregate is of the ports of one device",
		`wireless "Q" on "core"`:             "“core” is a switch, which sends no wireless network",
		"core: bridge priority 4097":         "in steps of 4096",
		"core: mac 02:00":                    "is not a MAC address",
		"core/1 - loft/1 cat6, tagged 20":    "a cable carries what the ports at its ends do",
		"vlan 20 \"a\"\nvlan 20 \"b\"":       "a line above calls this VLAN “a”",
		"vlan 20 \"a\"\nvlan 20: green":      "",
	} {
		p := load(t, lab.New(), switches+line, rundown.Options{All: true})
		if say == "" {
			assert.Empty(t, said(p), line)
			continue
		}
		if assert.NotEmpty(t, said(p), line) {
			assert.Contains(t, strings.Join(said(p), "\n"), say, line)
		}
	}
}
