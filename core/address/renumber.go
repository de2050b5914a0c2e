package address

import (
	"fmt"
	"net/netip"
	"slices"

	"levelstaff/core/lab"
)

// Renumbered are the changes that give a subnet another prefix: its gateway and ranges,
// the addresses of devices in it, and the names, routes and tunnels that speak of them.
// Each address keeps what it has behind the prefix. The error says why that cannot be.
func (p *Plan) Renumbered(subnet int, to netip.Prefix) ([]lab.Change, error) {
	s := p.subnets[subnet]
	switch {
	case to != to.Masked():
		return nil, fmt.Errorf("%s is an address in %s; write the subnet itself", to, to.Masked())
	case to.Addr().Is4() != s.CIDR.Addr().Is4():
		return nil, fmt.Errorf("%s and %s are not of the same kind, IPv4 or IPv6; add the other as a subnet beside this one", s.CIDR, to)
	case to == s.CIDR:
		return nil, nil
	}
	m := mover{from: s.CIDR, to: to, is: lab.Subnet{CIDR: to}}
	is := s
	is.CIDR, is.Gateway = to, m.moved(s.Gateway)
	is.Ranges = slices.Clone(s.Ranges)
	for i := range is.Ranges {
		is.Ranges[i] = lab.Range{From: m.moved(s.Ranges[i].From), To: m.moved(s.Ranges[i].To)}
	}
	all := p.lab.Changing()
	all.Put(is)
	for _, n := range p.in[subnet] {
		h := p.had[n]
		d, ok := all.Now(lab.Key{Kind: lab.KindDevice, ID: h.Device}).(lab.Device)
		if !ok {
			continue
		}
		d.Addresses = slices.Clone(d.Addresses)
		if i := slices.Index(d.Addresses, h.Address); i >= 0 {
			d.Addresses[i].Address = m.moved(h.Address.Address)
		}
		all.Put(d)
	}
	for n := range lab.Each[lab.Name](p.lab) {
		n.Then = slices.Clone(n.Then)
		for _, h := range n.Hops() {
			if !s.CIDR.Contains(h.Address) {
				continue
			}
			if h == n.Hop {
				n.Hop.Address = m.moved(h.Address)
			}
			for i := range n.Then {
				if n.Then[i] == h {
					n.Then[i].Address = m.moved(h.Address)
				}
			}
			all.Put(n)
		}
	}
	for r := range lab.Each[lab.Route](p.lab) {
		if s.CIDR.Contains(r.Via) {
			r.Via = m.moved(r.Via)
		}
		if r.CIDR == s.CIDR {
			r.CIDR = to
		}
		all.Put(r)
	}
	for t := range lab.Each[lab.Tunnel](p.lab) {
		if i := slices.Index(t.Joins, s.CIDR); i >= 0 {
			t.Joins = slices.Clone(t.Joins)
			t.Joins[i] = to
			all.Put(t)
		}
	}
	if m.lost.IsValid() {
		return nil, fmt.Errorf("%s has no place for %s: it is smaller than %s", to, m.lost, s.CIDR)
	}
	return all.Changes(), nil
}

// mover gives addresses another prefix; lost is one that has no place there.
type mover struct {
	from, to netip.Prefix
	is       lab.Subnet
	lost     netip.Addr
}

func (m *mover) moved(a netip.Addr) netip.Addr {
	if !a.IsValid() || !m.from.Contains(a) {
		return a
	}
	host, at, base := a.AsSlice(), m.to.Addr().AsSlice(), m.from.Masked().Addr().AsSlice()
	for i := range host {
		at[i] |= host[i] &^ base[i]
	}
	// What is behind the old prefix must not reach into the new one.
	is, _ := netip.AddrFromSlice(at)
	if m.behind(a) >= 0 && m.behind(a) < m.to.Bits() || !m.is.Usable(is) {
		m.lost = a
	}
	return is
}

// behind is the first bit that is set behind the old prefix, -1 where none is.
func (m *mover) behind(a netip.Addr) int {
	host := a.AsSlice()
	for bit := m.from.Bits(); bit < len(host)*8; bit++ {
		if host[bit/8]&(1<<(7-bit%8)) != 0 {
			return bit
		}
	}
	return -1
}
