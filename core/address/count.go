package address

import (
	"encoding/binary"
	"math/bits"
	"net/netip"

	"levelstaff/core/lab"
)

// MostCounted is the largest number of addresses that is counted: what JSON numbers
// hold exactly (RFC 8259, 6).
const MostCounted = 1 << 53

// Count is how full a subnet is.
type Count struct {
	Size     *int64 // addresses that devices may have; nil past MostCounted
	Used     int64  // fixed and reserved ones that are had, and the gateway
	Reserved int64  // reserved ones among them
	Handed   *int64 // in what is handed out; nil past MostCounted
	InRange  int64  // of those in it that are known to be had
	Free     *int64 // neither had nor handed out; nil past MostCounted
	Next     netip.Addr
}

// Count is how full a subnet is.
func (p *Plan) Count(subnet int) Count {
	s := p.subnets[subnet]
	c := Count{Size: between(s.First(), s.Last()), Next: p.NextFree(subnet)}
	handed, whole := int64(0), true
	taken := int64(0) // usable ones that are not free
	for _, r := range s.Ranges {
		n := between(r.From, r.To)
		from, to := r.From, r.To
		if from.Less(s.First()) {
			from = s.First()
		}
		if s.Last().Less(to) {
			to = s.Last()
		}
		usable := between(from, to)
		if n == nil || usable == nil {
			whole = false
			continue
		}
		handed += *n
		taken += *usable
	}
	if whole && handed <= MostCounted {
		c.Handed = &handed
	}
	var last netip.Addr
	for _, h := range p.In(subnet) {
		a := h.Address.Address
		if a == last {
			continue // it is there twice, and one address
		}
		last = a
		if h.How != lab.HandedOutAddress {
			c.Used++
		}
		if h.How == lab.ReservedAddress {
			c.Reserved++
		}
		switch {
		case s.HandsOut(a):
			c.InRange++
		case s.Usable(a):
			taken++
		}
	}
	if c.Size != nil && whole {
		free := *c.Size - taken
		c.Free = &free
	}
	return c
}

// between counts the addresses from one to another, both included; nil where they
// are more than MostCounted.
func between(from, to netip.Addr) *int64 {
	hi, lo := halves(from)
	hi2, lo2 := halves(to)
	low, borrow := bits.Sub64(lo2, lo, 0)
	high, under := bits.Sub64(hi2, hi, borrow)
	if under != 0 || from.Is4() != to.Is4() {
		none := int64(0)
		return &none
	}
	if high > 0 || low >= MostCounted {
		return nil
	}
	n := int64(low) + 1
	return &n
}

func halves(a netip.Addr) (hi, lo uint64) {
	b := a.As16()
	return binary.BigEndian.Uint64(b[:8]), binary.BigEndian.Uint64(b[8:])
}

// NextFree is the first address of a subnet that nobody has and that is not handed
// out; not valid where there is none. Of IPv6 the subnet's own address is left out,
// which all its routers answer at (RFC 4291, 2.6.1).
func (p *Plan) NextFree(subnet int) netip.Addr {
	s := p.subnets[subnet]
	first := s.First()
	const pair = 127 // RFC 6164: between two routers both may be had
	if first.Is6() && s.CIDR.Bits() < pair {
		first = first.Next()
	}
	return p.freeFrom(subnet, first)
}

// freeFrom is the first free address from one on.
func (p *Plan) freeFrom(subnet int, a netip.Addr) netip.Addr {
	s := p.subnets[subnet]
	in := p.in[subnet]
	for a.IsValid() && s.Usable(a) {
		for len(in) > 0 && p.had[in[0]].Address.Address.Less(a) {
			in = in[1:]
		}
		skip := a
		for _, r := range s.Ranges {
			if r.Has(a) {
				skip = r.To.Next()
			}
		}
		if len(in) > 0 && p.had[in[0]].Address.Address == a && skip == a {
			skip = a.Next()
		}
		if skip == a {
			return a
		}
		a = skip
	}
	return netip.Addr{}
}
