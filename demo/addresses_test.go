package demo_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/address"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/reach"
	"levelstaff/core/report"
	"levelstaff/demo"
)

// Counted by hand in the text: those had and the gateway, those handed out, what is left.
func TestHowFullTheSubnetsOfQuarryHouseAre(t *testing.T) {
	l := house(t)
	left := map[string]string{}
	for _, u := range report.SubnetUses(l) {
		if u.Free != nil {
			left[u.CIDR] = fmt.Sprint(u.Used, " ", *u.Handed, " ", *u.Free, " ", u.Next)
		}
	}
	assert.Equal(t, map[string]string{
		// gate, three access points, vesper, linnet in the range
		"10.10.0.0/24": "6 121 128 10.10.0.2",
		// gate, anvil, silo, finch and thrush at .53, wren, attic copy; the reserved .130 is in the range
		"10.20.0.0/24": "16 79 160 10.20.0.2",
		"10.30.0.0/24": "1 221 32 10.30.0.2",
		"10.40.0.0/24": "5 0 249 10.40.0.2",
		"10.50.0.0/24": "2 0 252 10.50.0.1",
		"10.77.0.0/24": "0 0 254 10.77.0.1",
		// gate, core, loft switch, dome switch, anvil's console, lines, console, keep
		"10.99.0.0/24": "8 0 246 10.99.0.5",
	}, left)
}

// The lab is there to show what the checks of addresses notice, one of each or two.
func TestWhatIsWrongWithTheAddressesOfQuarryHouse(t *testing.T) {
	var say []string
	for _, f := range finding.OfAddresses(house(t)) {
		say = append(say, f.Say)
	}
	for _, want := range []string{"10.20.0.53 is on finch and thrush.", "dome → internet cannot be: gate has no leg in dome (50).",
		"10.20.0.130 is reserved for old core, which is leaving."} {
		assert.Contains(t, say, want)
	}
	assert.Less(t, len(say), 10, "few enough to read: %s", strings.Join(say, "\n"))
}

func TestWhoReachesWhomInQuarryHouse(t *testing.T) {
	l := house(t)
	cells := map[string]reach.Cell{}
	for _, c := range reach.Of(l).Table() {
		cells[l.EndpointWords(c.From)+" to "+l.EndpointWords(c.To)] = c
	}
	for name, want := range map[string]string{
		"guests to internet":      "some true",
		"dome to internet":        "all false",
		"phones to servers":       "all true",
		"guests to servers":       "none true",
		"servers to 10.77.0.0/24": "some true",
	} {
		require.Contains(t, cells, name)
		assert.Equal(t, want, fmt.Sprint(cells[name].Said, " ", cells[name].Can), name)
	}
	assert.NotContains(t, cells, "house to phones")
}

func TestNamesOfQuarryHouseLeadSomewhere(t *testing.T) {
	p := address.Of(house(t))
	for _, r := range p.Resolve() {
		assert.Equal(t, address.Leads, r.End, r.Whole)
	}
	assert.Equal(t, []string{"quarry.home.arpa"}, p.Domains())
	z, ok := p.Zone("quarry.home.arpa")
	require.True(t, ok)
	assert.Empty(t, z.Left)
	assert.True(t, slices.ContainsFunc(z.Records, func(r address.ZoneRecord) bool {
		return r.Owner == "anvil-console.quarry.home.arpa" && r.To == "10.99.0.12"
	}))
}

// What is measured is as large as it says.
func TestTheLargeLabHasAsManyAddressesAsItSays(t *testing.T) {
	l, err := demo.LargeAddresses()
	require.NoError(t, err)
	assert.GreaterOrEqual(t, count[lab.Subnet](l), 400)
	assert.GreaterOrEqual(t, count[lab.Rule](l), 2000)
	assert.GreaterOrEqual(t, len(address.Of(l).All()), 5000)
}

func count[R lab.Record](l *lab.Lab) (n int) {
	for range lab.Each[R](l) {
		n++
	}
	return n
}

// house is Quarry House as it stands.
func house(t *testing.T) *lab.Lab {
	t.Helper()
	l, err := demo.House()
	require.NoError(t, err)
	return l
}
