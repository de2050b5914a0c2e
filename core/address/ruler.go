package address

import (
	"fmt"
	"net/netip"
	"slices"

	"levelstaff/core/lab"
)

// PerLength is how many graduations a length of the ruler has.
const PerLength = 32

// gradeBits is what a ruler shows at once, 256 graduations: of a larger subnet each one
// stands for a smaller one, which one steps into.
const gradeBits = 8

// Ruler is a subnet, or a part of one, as a measuring tape: an address a graduation, or
// of a large one as many addresses as Each says.
type Ruler struct {
	Within  netip.Prefix
	Up      netip.Prefix // what one steps out into; not valid for the whole subnet
	Each    int          // bits that a graduation stands for; 0 for one address
	Lengths []Length
	Marks   []Mark
}

// Length is a piece of it.
type Length struct {
	From        netip.Addr
	Graduations int
	// Handed are the graduations that are handed out, from and to, of this length.
	Handed [][2]int
	// Off are those that no device may have: the subnet's own and the broadcast address.
	Off []int
}

// Mark is what is at a graduation.
type Mark struct {
	Length, At int
	Had        []Had // of one address those that have it
	N          int   // of more than one: how many of them are had
	Handed     int   // and how many are handed out, MostCounted at the most
	Twice      bool
}

// Ruler is the tape of an IPv4 subnet, or of the part of it that is within a prefix.
// The error says why there is none.
func (p *Plan) Ruler(subnet int, within netip.Prefix) (Ruler, error) {
	s := p.subnets[subnet]
	if !within.IsValid() {
		within = s.CIDR
	}
	switch {
	case s.CIDR.Addr().Is6():
		return Ruler{}, fmt.Errorf("%s is IPv6, which has no ruler; its addresses are a list", s.CIDR)
	case within != within.Masked() || !s.CIDR.Contains(within.Addr()) || within.Bits() < s.CIDR.Bits():
		return Ruler{}, fmt.Errorf("%s is no part of %s", within, s.CIDR)
	}
	const all = 32
	r := Ruler{Within: within, Each: max(0, all-within.Bits()-gradeBits)}
	if whole := all - within.Bits(); r.Each > 0 && r.Each < gradeBits && whole > gradeBits {
		r.Each = gradeBits // so that what one steps into is a ruler of single addresses
	}
	if within.Bits() > s.CIDR.Bits() {
		up := max(s.CIDR.Bits(), within.Bits()-gradeBits)
		r.Up, _ = within.Addr().Prefix(up)
	}
	grades := 1 << (all - within.Bits() - r.Each)
	for from := 0; from < grades; from += PerLength {
		r.Lengths = append(r.Lengths, Length{From: plus(within.Addr(), uint32(from)<<r.Each), Graduations: min(PerLength, grades-from)})
	}
	p.handed(&r, s)
	p.mark(&r, subnet)
	if r.Each == 0 {
		for g := range grades {
			if a := plus(within.Addr(), uint32(g)); !s.Usable(a) {
				r.Lengths[g/PerLength].Off = append(r.Lengths[g/PerLength].Off, g%PerLength)
			}
		}
	}
	return r, nil
}

// AddressAt is the address at a mark, or the first one that its graduation stands for.
func (r Ruler) AddressAt(m Mark) netip.Addr {
	return plus(r.Lengths[m.Length].From, uint32(m.At)<<r.Each)
}

// plus is an IPv4 address so many further on.
func plus(a netip.Addr, n uint32) netip.Addr {
	b := a.As4()
	v := uint32(b[0])<<24 | uint32(b[1])<<16 | uint32(b[2])<<8 | uint32(b[3])
	v += n
	return netip.AddrFrom4([4]byte{byte(v >> 24), byte(v >> 16), byte(v >> 8), byte(v)})
}

// offset is how far an IPv4 address is behind another one.
func offset(from, a netip.Addr) uint32 {
	_, x := halves(from)
	_, y := halves(a)
	return uint32(y - x)
}

// handed marks what is handed out.
func (p *Plan) handed(r *Ruler, s lab.Subnet) {
	first, last := r.Within.Addr(), plus(r.Within.Addr(), uint32(1)<<(32-r.Within.Bits())-1)
	for _, of := range s.Ranges {
		if of.To.Less(first) || last.Less(of.From) {
			continue
		}
		from, to := uint32(0), offset(first, last)
		if first.Less(of.From) {
			from = offset(first, of.From)
		}
		if of.To.Less(last) {
			to = offset(first, of.To)
		}
		for i := range r.Lengths {
			begin, end := uint32(i*PerLength), uint32(i*PerLength+r.Lengths[i].Graduations-1)
			a, b := max(begin, from>>r.Each), min(end, to>>r.Each)
			if a <= b {
				r.Lengths[i].Handed = append(r.Lengths[i].Handed, [2]int{int(a - begin), int(b - begin)})
			}
		}
	}
}

// mark puts what is had at its graduations.
func (p *Plan) mark(r *Ruler, subnet int) {
	for _, n := range p.in[subnet] {
		h := p.had[n]
		if !r.Within.Contains(h.Address.Address) {
			continue
		}
		at := int(offset(r.Within.Addr(), h.Address.Address) >> r.Each)
		last := len(r.Marks) - 1
		if last < 0 || r.Marks[last].Length*PerLength+r.Marks[last].At != at {
			r.Marks = append(r.Marks, Mark{Length: at / PerLength, At: at % PerLength})
			last++
		}
		m := &r.Marks[last]
		m.N++
		m.Twice = m.Twice || p.Twice(h)
		if r.Each == 0 {
			m.Had = append(m.Had, h)
		}
	}
}

// Branch is a prefix in the tree of subnets: one that is written down, or of IPv6 what
// several have in common.
type Branch struct {
	Prefix netip.Prefix
	Depth  int
	Subnet int // by its number in the plan, None for what several have in common
}

// Tree is all subnets, each behind what it is within.
func (p *Plan) Tree() []Branch {
	var list []Branch
	for _, v4 := range []bool{true, false} {
		var nodes []Branch
		for i, s := range p.subnets {
			if s.CIDR.Addr().Is4() == v4 {
				nodes = append(nodes, Branch{Prefix: s.CIDR, Subnet: i})
			}
		}
		if !v4 {
			nodes = append(nodes, inCommon(nodes)...)
			slices.SortStableFunc(nodes, func(a, b Branch) int {
				if c := a.Prefix.Addr().Compare(b.Prefix.Addr()); c != 0 {
					return c
				}
				return a.Prefix.Bits() - b.Prefix.Bits()
			})
		}
		var within []netip.Prefix
		for _, n := range nodes {
			for len(within) > 0 && (!within[len(within)-1].Contains(n.Prefix.Addr()) || within[len(within)-1].Bits() >= n.Prefix.Bits()) {
				within = within[:len(within)-1]
			}
			n.Depth = len(within)
			within = append(within, n.Prefix)
			list = append(list, n)
		}
	}
	return list
}

// inCommon are what neighbours among IPv6 subnets have in common, by whole groups of
// digits, where that is not a subnet that is written down.
func inCommon(nodes []Branch) []Branch {
	const group = 16
	var list []Branch
	for i := 1; i < len(nodes); i++ {
		a, b := nodes[i-1].Prefix, nodes[i].Prefix
		bits := min(a.Bits(), b.Bits()) / group * group
		for ; bits > 0; bits -= group {
			if p, _ := a.Addr().Prefix(bits); p.Contains(b.Addr()) {
				is := Branch{Prefix: p, Subnet: None}
				known := func(o Branch) bool { return o.Prefix == p }
				if !slices.ContainsFunc(nodes, known) && !slices.ContainsFunc(list, known) {
					list = append(list, is)
				}
				break
			}
		}
	}
	return list
}
