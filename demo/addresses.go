package demo

import (
	"fmt"
	"net/netip"

	"levelstaff/core/lab"
)

// What LargeAddresses adds to the large network.
const (
	LargeSubnets   = 400
	LargeAddressed = 5000
	LargeRules     = 2000
)

// LargeAddresses is LargeNetwork with an IPv4 and an IPv6 subnet in each VLAN, a /16
// beside them, 5,000 addresses on its devices, routers with a leg in each VLAN, thirty
// a router, and 2,000 rules among them.
func LargeAddresses() (*lab.Lab, error) {
	l, err := LargeNetwork()
	if err != nil {
		return nil, err
	}
	is := l.Changing()
	const first, half, each = 100, LargeSubnets / 2, 30
	var v4, v6 [half]netip.Prefix
	for n := range half {
		v4[n] = netip.PrefixFrom(netip.AddrFrom4([4]byte{10, 1, byte(n), 0}), 24)
		v6[n] = netip.MustParsePrefix(fmt.Sprintf("fd20:%x::/64", n+1))
		vlan, gate := first+n, lab.ID(fmt.Sprintf("gate-%d", n/each))
		d, ok := is.Now(lab.Key{Kind: lab.KindDevice, ID: gate}).(lab.Device)
		if !ok {
			d = lab.Device{ID: gate, Name: string(gate), Kind: lab.Router, State: lab.Running}
		}
		for _, p := range []netip.Prefix{v4[n], v6[n]} {
			s := lab.Subnet{ID: lab.ID(fmt.Sprintf("s-%d-%d", n, p.Bits())), CIDR: p, VLAN: &vlan, Gateway: p.Addr().Next(), By: gate}
			if p.Addr().Is4() {
				s.Names = "home.arpa"
				s.Ranges = []lab.Range{{From: hostIn(p, 200), To: hostIn(p, 250)}}
			}
			is.Put(s)
			d.Addresses = append(d.Addresses, lab.Address{Address: s.Gateway, How: lab.FixedAddress})
		}
		is.Put(d)
	}
	n, had := 0, [half]int{}
	for d := range lab.Each[lab.Device](l) {
		if n == LargeAddressed {
			break
		}
		if d.Passes() || d.Name == "" {
			continue
		}
		in := n % half
		if number := vlanAt(l, d); number >= first {
			in = number - first
		}
		p := v4[in]
		if n%4 == 3 {
			p = v6[in]
		}
		had[in]++
		d.Addresses = []lab.Address{{Address: hostIn(p, 1+had[in]), How: lab.FixedAddress}}
		is.Put(d)
		n++
	}
	for r := range LargeRules {
		from, to := lab.ID(fmt.Sprintf("v-%03d", r%LargeVLANs)), lab.ID(fmt.Sprintf("v-%03d", (r%LargeVLANs+1+r/LargeVLANs)%LargeVLANs))
		is.Put(lab.Rule{ID: lab.ID(fmt.Sprintf("rule-%04d", r)), From: &lab.Endpoint{Kind: "vlan", ID: from},
			To: &lab.Endpoint{Kind: "vlan", ID: to}, Says: lab.Reaches()[r%3]})
	}
	is.Put(lab.Subnet{ID: "wide", CIDR: netip.MustParsePrefix("172.16.0.0/16")})
	is.Put(lab.Line{ID: "line", Name: "line", Device: "gate-0"})
	return l.Apply(is.Changes())
}

// vlanAt is the VLAN that a device gets untagged over one of its cables, 0 where none is
// said of the ports that those lead to.
func vlanAt(l *lab.Lab, d lab.Device) int {
	for _, c := range l.CablesOf(d.ID) {
		for _, e := range c.Ends() {
			if far, _ := lab.Find[lab.Device](l, e.Device); e.Device != d.ID {
				if v := far.CarriesAt(e.Port).Untagged; v > 0 {
					return v
				}
			}
		}
	}
	return 0
}

// hostIn is an address of a subnet by its number there.
func hostIn(p netip.Prefix, n int) netip.Addr {
	b := p.Addr().AsSlice()
	b[len(b)-1], b[len(b)-2] = byte(n), b[len(b)-2]+byte(n>>8)
	a, _ := netip.AddrFromSlice(b)
	return a
}
