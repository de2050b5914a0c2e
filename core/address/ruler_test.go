package address_test

import (
	"fmt"
	"net/netip"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/address"
)

func TestTheRulerHas32AddressesALength(t *testing.T) {
	p := plan(t, "subnet 10.20.0.0/24: gateway .1, handed out .100-.178\ngate .1\nanvil .12\nvesper .12\nfinch .120 reserved\n")
	r, err := p.Ruler(0, netip.Prefix{})
	require.NoError(t, err)
	assert.Len(t, r.Lengths, 8)
	assert.Zero(t, r.Each)
	assert.Equal(t, "10.20.0.96", r.Lengths[3].From.String())
	assert.Equal(t, [][2]int{{4, 31}}, r.Lengths[3].Handed, ".100 to .127")
	assert.Equal(t, [][2]int{{0, 18}}, r.Lengths[5].Handed, ".160 to .178")
	assert.Equal(t, []int{0}, r.Lengths[0].Off)
	assert.Equal(t, []int{31}, r.Lengths[7].Off, "the broadcast address")
	var at []string
	for _, m := range r.Marks {
		at = append(at, fmt.Sprintf("%d/%d %d %v", m.Length, m.At, len(m.Had), m.Twice))
	}
	assert.Equal(t, []string{"0/1 1 false", "0/12 2 true", "3/24 1 false"}, at)
}

func TestOneStepsIntoALargeSubnet(t *testing.T) {
	p := plan(t, "subnet 10.20.0.0/16: handed out 10.20.3.0-10.20.4.255\nanvil 10.20.5.12\nvesper 10.20.5.13\n")
	r, err := p.Ruler(0, netip.Prefix{})
	require.NoError(t, err)
	assert.Equal(t, 8, r.Each, "a graduation is 256 addresses")
	assert.Len(t, r.Lengths, 8)
	assert.Equal(t, [][2]int{{3, 4}}, r.Lengths[0].Handed)
	assert.Equal(t, []address.Mark{{At: 5, N: 2}}, r.Marks)
	in, err := p.Ruler(0, netip.MustParsePrefix("10.20.5.0/24"))
	require.NoError(t, err)
	assert.Zero(t, in.Each)
	assert.Equal(t, "10.20.0.0/16", in.Up.String())
	assert.Len(t, in.Marks, 2)
	_, err = p.Ruler(0, netip.MustParsePrefix("10.21.0.0/24"))
	assert.ErrorContains(t, err, "is no part of")
	small, err := plan(t, "subnet 10.20.0.0/20").Ruler(0, netip.Prefix{})
	require.NoError(t, err)
	assert.Equal(t, 8, small.Each)
	assert.Equal(t, 16, small.Lengths[0].Graduations)
}

func TestTheTreeOfSubnets(t *testing.T) {
	p := plan(t, "subnet 10.20.0.0/24\nsubnet 10.0.0.0/8\nsubnet fd20:10::/64\nsubnet fd20:20::/64\nsubnet fd20:20:0:1::/64\n")
	var list []string
	for _, b := range p.Tree() {
		list = append(list, strings.Repeat(" ", b.Depth)+b.Prefix.String())
	}
	assert.Equal(t, []string{"10.0.0.0/8", " 10.20.0.0/24", "fd20::/16", " fd20:10::/64", " fd20:20::/48",
		"  fd20:20::/64", "  fd20:20:0:1::/64"}, list)
}

func TestASubnetIsRenumberedWithAllThatSpeaksOfIt(t *testing.T) {
	p := plan(t, `subnet 10.20.0.0/24: gateway .1, handed out .100-.178
gate .1
anvil .12
vesper 10.99.0.1
name library -> 10.20.0.31
route 10.9.0.0/16 via 10.20.0.2 on gate
tunnel parents: gate to "there", joins 10.20.0.0/24 and 10.77.0.0/24
`)
	changes, err := p.Renumbered(0, netip.MustParsePrefix("192.168.4.0/24"))
	require.NoError(t, err)
	var after []string
	for _, c := range changes {
		after = append(after, fmt.Sprintf("%s: %s", c.After.Key().Kind, c.After.Title()))
	}
	assert.Equal(t, []string{"subnet: 192.168.4.0/24", "device: gate", "device: anvil", "name: library", "route: 10.9.0.0/16 via 192.168.4.2",
		"tunnel: parents"}, after)
	changes, err = p.Renumbered(0, netip.MustParsePrefix("10.21.0.0/16"))
	require.NoError(t, err, "a larger one has a place for all")
	assert.Len(t, changes, 6)
	_, err = p.Renumbered(0, netip.MustParsePrefix("10.21.0.0/26"))
	assert.ErrorContains(t, err, "it is smaller than 10.20.0.0/24")
	_, err = p.Renumbered(0, netip.MustParsePrefix("fd20::/64"))
	assert.ErrorContains(t, err, "not of the same kind")
}
