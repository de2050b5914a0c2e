package reach_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/reach"
	"levelstaff/core/rundown"
)

// sideOf is a device by its name, or else a VLAN.
func sideOf(t *testing.T, l *lab.Lab, name string) reach.Side {
	t.Helper()
	r := reach.Of(l)
	if id, ok := rundown.DeviceNamed(l)(name); ok {
		d, _ := lab.Find[lab.Device](l, id)
		return r.SideOfDevice(d)
	}
	for v := range lab.Each[lab.VLAN](l) {
		if v.Name == name {
			return r.SideOf(lab.EndpointOf(v.Key()))
		}
	}
	require.Fail(t, name)
	return reach.Side{}
}

func TestWhetherPacketsGetThere(t *testing.T) {
	for _, c := range []struct{ name, more, from, to, by, why, fix, put string }{
		{"over the router", "", "house", "anvil", "over gate; no rule is written down", "", "", ""},
		{"in one network", "", "servers", "anvil", "both are in servers (20)", "", "", ""},
		{"to itself", "", "anvil", "anvil", "within anvil", "", "", ""},
		{"a rule for all", "from house to servers: all", "house", "anvil", "over gate", "", "", ""},
		{"a rule for some without words", "from house to servers: some", "house", "anvil",
			"over gate, as a rule lets house reach some of servers", "", "", ""},
		{"a rule for some of it", "from house to servers: some \"web\"", "house", "anvil",
			"over gate, as a rule lets house reach only “web” of servers", "", "", ""},
		{"a rule for none", "from house to servers: none", "house", "anvil", "", "a rule lets house reach nothing of servers",
			"Let house reach anvil for “web”, and nothing else there.", `from house to anvil: some "web"`},
		{"a rule of the device before that of its network", "from house to servers: none\nfrom house to anvil: all", "house", "anvil", "over gate",
			"", "", ""},
		{"a rule for the device it comes from", "from house to servers: all\nfrom finch to servers: none", "finch", "anvil", "",
			"a rule lets finch reach nothing of servers", "Let finch reach anvil for “web”, and nothing else there.",
			`from finch to anvil: some "web"`},
		{"a rule for a subnet", "from house to 10.20.0.0/24: none", "house", "anvil", "", "a rule lets house reach nothing of 10.20.0.0/24",
			"Let house reach anvil for “web”, and nothing else there.", `from house to anvil: some "web"`},
		{"within one network no rule is asked", "on anvil: vm \"a\": 1GB, vlan 20 10.20.0.7\nfrom a to anvil: none", "a", "anvil",
			"both are in servers (20)", "", "", ""},
		{"nothing says where it is", "", "house", "silo", "", "silo has no address, and no VLAN gets to it", "Give silo an address.", ""},
		{"from nowhere", "", "silo", "anvil", "", "silo has no address, and no VLAN gets to it", "", ""},
		{"no router in both", "", "dome", "anvil", "", "gate has no leg in dome (50)", "", ""},
		{"two pieces of a VLAN", "? switch \"far\": 4 ports rj45, untagged 20\n? server \"lone\": 1 port rj45\nfar/1 - lone/1\nlone 10.20.0.40",
			"lone", "anvil", "", "lone and anvil are in different pieces of servers (20)",
			"Join the pieces: carry servers (20) on a link between them.", ""},
		{"a container answers where it is in", "on anvil: container \"web\": 1GB", "house", "web", "over gate; no rule is written down", "", "", ""},
		{"a container from where it is in", "on anvil: container \"web\": 1GB", "anvil", "web", "within anvil", "", "", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := built(t, c.more)
			p := reach.Of(l).Pass(sideOf(t, l, c.from), sideOf(t, l, c.to), "web", func(rule string) bool { return rule == "web" })
			assert.Equal(t, []string{c.by, c.why, c.fix}, []string{p.By, p.Why, p.Fix})
			assert.Equal(t, c.why == "", p.OK)
			put := ""
			if p.Put != nil {
				put = rundown.LineOf(l, p.Put)
			}
			assert.Equal(t, c.put, put)
		})
	}
}

func TestWhatGetsInFromOutside(t *testing.T) {
	for _, c := range []struct{ name, more, by, why, put string }{
		{"nothing is open", "", "", "nothing is open that leads to anvil", `open "fibre line" tcp 443 to anvil`},
		{"it is open", "open \"fibre line\" tcp 443 to anvil", "tcp 443 on fibre line", "", ""},
		{"a range is open", "open \"fibre line\" tcp 440-450 to anvil", "tcp 440-450 on fibre line", "", ""},
		{"another port", "open \"fibre line\" tcp 80 to anvil", "", "tcp 80 on fibre line is open and leads to anvil, and port 443 is not",
			`open "fibre line" tcp 443 to anvil`},
		{"on a line that nobody reaches", "open \"mobile line\" tcp 443 to anvil", "", "nothing is open that leads to anvil",
			`open "fibre line" tcp 443 to anvil`},
		{"on one that is said to be shut", "open \"fibre line\": none", "", "nothing is open that leads to anvil", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			l := built(t, c.more)
			p := reach.Of(l).FromOutside(sideOf(t, l, "anvil").Device, 443)
			put := ""
			if p.Put != nil {
				put = rundown.LineOf(l, p.Put)
			}
			assert.Equal(t, []string{c.by, c.why, put}, []string{p.By, p.Why, c.put})
			assert.Equal(t, c.put, put)
		})
	}
}

func TestWhetherOneGetsOutside(t *testing.T) {
	for more, want := range map[string]string{
		"":                               "over gate",
		"from servers to internet: none": "a rule lets servers reach nothing of internet",
		"from anvil to internet: none":   "a rule lets anvil reach nothing of internet",
		"line \"fibre line\": out\nline \"mobile line\": out": "mobile line is out",
	} {
		l := built(t, more)
		p := reach.Of(l).Outside(sideOf(t, l, "anvil"))
		assert.Equal(t, want, p.By+p.Why, more)
		assert.Equal(t, p.Why == "", p.OK)
	}
}
