package reach_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/labtest"
	"levelstaff/core/reach"
	"levelstaff/core/rundown"
)

// house is a router with legs in three of five VLANs.
const house = `rack "R": 24U
24 router "gate": 4 ports rj45 1G
23 switch "core": 24 ports rj45 1G, untagged 10, port 24 tagged 20,30,50, port 23 tagged 20,30,50
22 server "anvil": 4 ports rj45
21 single-board computer "finch": 1 ports rj45
20 nas "silo": 1 ports rj45
vlan 10 "house"
vlan 20 "servers"
vlan 30 "guests"
vlan 40 "eyes"
vlan 50 "dome"
subnet 10.10.0.0/24 vlan 10, gateway .1
subnet 10.20.0.0/24 vlan 20, gateway .1
subnet 10.30.0.0/24 vlan 30, gateway .1
subnet 10.40.0.0/24 vlan 40
gate 10.10.0.1
gate 10.20.0.1
gate 10.30.0.1
anvil 10.20.0.12
finch 10.10.0.5
line "fibre line": 900M down, 200M up, fixed address, into gate/1, first
line "mobile line": 60M down, 20M up, shared address, into gate/2, if it fails
gate/4 - core/24
core/23 - anvil/1
core/20 - finch/1
`

// cellsOf are the cells of a text by their sides, with what can be and why.
func cellsOf(t *testing.T, more string) map[string]string {
	t.Helper()
	p := rundown.Load(labtest.From(t, house), rundown.Parse(more), rundown.Options{NewID: labtest.IDs("m")})
	require.Empty(t, p.Mistakes)
	l := p.Lab
	cells := map[string]string{}
	for _, c := range reach.Of(l).Table() {
		cells[l.EndpointWords(c.From)+" to "+l.EndpointWords(c.To)] = fmt.Sprintf("%s %v: %s", c.Said, c.Can, c.Why)
	}
	return cells
}

func TestWhoReachesWhom(t *testing.T) {
	for _, c := range []struct{ name, more, cell, want string }{
		{"two legs", "", "house to servers", "not_said true: over gate"},
		{"outside", "from guests to internet: some, down 30M", "guests to internet", "some true: over gate"},
		{"a guest routes", "on anvil: vm \"edge\": firewall, vlan 20 10.20.0.9, vlan 50 10.50.0.1\nsubnet 10.50.0.0/24 vlan 50, gateway .1\nsubnet 10.20.0.0/24 gateway .9",
			"dome to servers",
			"not_said true: over edge"},
		{"a guest whose host has no such VLAN",
			"on finch: vm \"edge\": firewall, vlan 20 10.20.0.9, vlan 50 10.50.0.1\nsubnet 10.50.0.0/24 vlan 50, gateway .1",
			"dome to servers", "not_said false: no cable carries dome (50) to edge"},
		{"no leg", "from dome to internet: all", "dome to internet", "all false: gate has no leg in dome (50)"},
		{"no gateway", "", "eyes to house", "not_said false: gate has no leg in eyes (40)"},
		{"a leg and no gateway", "gate 10.40.0.1", "eyes to house", "not_said false: 10.40.0.0/24 names no gateway"},
		{"nothing answers", "", "house to eyes", "not_said false: gate has no leg in eyes (40)"},
		{"a leg there, and still no gateway", "gate 10.40.0.1", "house to eyes",
			"not_said false: nothing there can answer: 10.40.0.0/24 names no gateway"},
		{"the gateway is nobody's", "subnet 10.40.0.0/24 gateway .1", "eyes to internet",
			"not_said false: nothing has 10.40.0.1, the gateway of 10.40.0.0/24"},
		{"the gateway does not route", "subnet 10.40.0.0/24 gateway .1\nsilo 10.40.0.1", "eyes to internet",
			"not_said false: silo has the gateway's address and does not route"},
		{"no cable carries it", "core: port 24 tagged 20,50, port 5 tagged 30", "guests to internet",
			"not_said false: no cable carries guests (30) to gate"},
		{"kept apart", "from guests to servers: none", "guests to servers", "none true: nothing goes round it"},
		{"two routers", "? router \"second\"\nsecond 10.20.0.2\nsecond 10.30.0.2\nfrom guests to servers: none", "guests to servers",
			"none false: second has a leg in both and routes past the gateway"},
		{"a machine that routes", "anvil 10.30.0.12\nanvil: routes\nfrom guests to servers: none\ncore/23 tagged 20,30", "guests to servers",
			"none false: anvil has a leg in both and routes past the gateway"},
		{"a machine that does not", "anvil 10.30.0.12\nfrom guests to servers: none", "guests to servers", "none true: nothing goes round it"},
		{"a dumb switch in both", "? switch \"five\": 5 ports rj45, unmanaged\nfive/1 - core/7\nfive/2 - core/8\ncore/7 untagged 20\ncore/8 untagged 30\n" +
			"from guests to servers: none", "guests to servers", "none false: five joins both without knowing of VLANs"},
		{"a device", "from guests to anvil: all", "guests to anvil", "all true: over gate"},
		{"in the same network", "from servers to anvil: all", "servers to anvil", "all true: both are in servers (20)"},
		{"a device without an address", "from guests to silo: all", "guests to silo", "all false: silo has no address, and no VLAN gets to it"},
		{"one line only", "from guests to internet: all, by \"mobile line\" only", "guests to internet", "all true: over gate"},
		{"one that is out", "line \"mobile line\": out\nfrom guests to internet: all, by \"mobile line\" only", "guests to internet",
			"all false: it may take mobile line only, which is out"},
		{"no line", "line \"fibre line\": out\nline \"mobile line\": out", "guests to internet", "not_said false: mobile line is out"},
		{"a way in", "remote access \"phones\": into finch, reaches servers", "phones to servers", "all true: over gate"},
		{"no way in", "line \"fibre line\": shared address\nline \"parents' line\": public address, at \"Parents' house\"\n" +
			"remote access \"phones\": into finch, reaches servers", "phones to servers", "all false: the address of fibre line is shared by the provider, " +
			"so nothing outside can begin; begin from inside: parents' line at Parents' house has an address of its own"},
		{"from outside", "open \"fibre line\" tcp 443 to anvil", "internet to servers", "not_said true: tcp 443 to anvil"},
		{"from outside over a shared address", "open \"mobile line\" tcp 443 to anvil", "internet to servers",
			"not_said false: mobile line cannot be reached from outside"},
		{"not from outside", "", "internet to servers", "not_said false: nothing is open that leads there"},
		{"a virtual router", "virtual router \"exam router\" on gate: vlan 40, vlan 50", "eyes to dome", "not_said true: exam router has a leg in both"},
		{"which has no line", "virtual router \"exam router\" on gate: vlan 40, vlan 50", "eyes to internet", "not_said false: 10.40.0.0/24 names no gateway"},
		{"a route", "? router \"far\"\nfar 10.20.0.2\nfar 10.9.0.1\nsubnet 10.9.0.0/16: gateway 10.9.0.1\nroute 10.9.0.0/16 via 10.20.0.2\n" +
			"route 0.0.0.0/0 via 10.20.0.1 on far\n" + "from house to 10.9.0.0/16: all", "house to 10.9.0.0/16", "all true: over gate"},
		{"routes in a circle", "? router \"far\"\nfar 10.20.0.2\nroute 10.9.0.0/16 via 10.20.0.2 on gate\nroute 10.9.0.0/16 via 10.20.0.1 on far\n" +
			"subnet 10.9.0.0/16: gateway 10.9.0.1", "house to 10.9.0.0/16", "not_said false: the routes of gate lead round in a circle"},
		{"a tunnel", "tunnel \"parents\": gate to \"Parents' house\", joins 10.20.0.0/24 and 10.77.0.0/24\nsubnet 10.77.0.0/24", "servers to 10.77.0.0/24",
			"not_said true: over gate and its tunnel"},
	} {
		t.Run(c.name, func(t *testing.T) {
			assert.Equal(t, c.want, cellsOf(t, c.more)[c.cell])
		})
	}
}

func TestWhatIsLeftWithoutALine(t *testing.T) {
	of := func(text string) map[string]string {
		l := labtest.From(t, text)
		r := reach.Of(l)
		left := map[string]string{}
		for _, w := range r.Lines() {
			say := "?"
			if mb := r.Without(w.ID).DownMb; mb != nil {
				say = fmt.Sprint(*mb)
			}
			left[fmt.Sprint(r.Order(w), " ", w.Name)] = say
		}
		return left
	}
	assert.Equal(t, map[string]string{"1 fibre line": "60", "2 mobile line": "900"}, of(house))
	assert.Equal(t, map[string]string{"1 fibre line": "600", "1 second": "900", "2 mobile line": "1500"},
		of(house+`line "second": 600M down, into gate/3, with "fibre line"`), "both at once")
	assert.Equal(t, map[string]string{"1 only": "0"}, of(`line only: 100M down`))
	assert.Equal(t, map[string]string{"0 a": "50", "0 b": "100"}, of("line a: 100M down\nline b: 50M down"))
	assert.Equal(t, map[string]string{"0 a": "?", "0 b": "?", "0 c": "?"}, of("line a: 100M down\nline b: 50M down\nline c: 50M down"),
		"which of the others carries is not said")
	assert.Equal(t, map[string]string{"1 a": "?", "2 b": "100"}, of("line a: 100M down, first\nline b: second"), "unknown, and not zero")
}

func TestRulesThatCannotHold(t *testing.T) {
	l := labtest.From(t, house+"from dome to internet: all\nfrom guests to servers: none\n")
	r := reach.Of(l)
	var say []string
	for _, c := range r.Broken() {
		say = append(say, r.CellWords(c))
	}
	assert.Equal(t, []string{"dome → internet cannot be: gate has no leg in dome (50)"}, say)
}
