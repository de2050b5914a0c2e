// Package address works out who has which address: in which subnet each one is, how
// full those are, which is free next, under which names devices are found. An address
// that is written down twice is there twice.
package address

import (
	"cmp"
	"net/netip"
	"slices"
	"sync"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Had is an address that something has.
type Had struct {
	lab.Address
	Device lab.ID // "" where only a subnet names it, as its gateway
	Cable  lab.ID // the link outside every VLAN at whose end it is, "" for one of a device's own
	Subnet int    // by its number in the plan; None for one in no subnet that is known
}

// None is no subnet.
const None = -1

// Plan is all addresses of a lab and the subnets they are in. It is worked out once
// for a lab and then only read.
type Plan struct {
	lab     *lab.Lab
	subnets []lab.Subnet // by prefix, the larger first
	sizes   map[bool][]int
	at      map[netip.Prefix][]int
	had     []Had     // by address, within it as the devices are old
	in      [][]int32 // by subnet, those of it
	byID    map[lab.ID]int
	of      map[lab.ID][]int32 // by device
	vlans   map[VLAN][]int     // the subnets of a VLAN

	named    func() []Entry
	hosts    func() []Entry
	resolved func() []Resolved
}

// VLAN is a VLAN as subnets and ports speak of it.
type VLAN struct {
	Number int
	Domain string
}

// Of is the plan of a lab.
func Of(l *lab.Lab) *Plan { return lab.Derived(l, newPlan) }

func newPlan(l *lab.Lab) *Plan {
	p := &Plan{lab: l, at: map[netip.Prefix][]int{}, byID: map[lab.ID]int{}, of: map[lab.ID][]int32{}, vlans: map[VLAN][]int{}}
	p.named, p.hosts, p.resolved = sync.OnceValue(p.findNamed), sync.OnceValue(p.findHosts), sync.OnceValue(p.resolve)
	p.subnets = slices.SortedStableFunc(lab.Each[lab.Subnet](l), func(a, b lab.Subnet) int {
		return cmp.Or(a.CIDR.Addr().Compare(b.CIDR.Addr()), a.CIDR.Bits()-b.CIDR.Bits())
	})
	p.sizes = map[bool][]int{}
	for i, s := range p.subnets {
		p.at[s.CIDR] = append(p.at[s.CIDR], i)
		p.byID[s.ID] = i
		if v4 := s.CIDR.Addr().Is4(); !slices.Contains(p.sizes[v4], s.CIDR.Bits()) {
			p.sizes[v4] = append(p.sizes[v4], s.CIDR.Bits())
		}
		if s.VLAN != nil {
			v := VLAN{*s.VLAN, s.Domain}
			p.vlans[v] = append(p.vlans[v], i)
		}
	}
	for _, list := range p.sizes {
		slices.SortFunc(list, func(a, b int) int { return b - a })
	}
	p.gather()
	slices.SortFunc(p.had, func(a, b Had) int {
		return cmp.Or(a.Address.Address.Compare(b.Address.Address), cmp.Compare(a.Device, b.Device), cmp.Compare(a.Port, b.Port))
	})
	p.in = make([][]int32, len(p.subnets))
	for i, h := range p.had {
		if h.Subnet != None {
			p.in[h.Subnet] = append(p.in[h.Subnet], int32(i))
		}
		if h.Device != "" {
			p.of[h.Device] = append(p.of[h.Device], int32(i))
		}
	}
	return p
}

// gather lists every address there is, and gateways that nobody has.
func (p *Plan) gather() {
	held := map[netip.Addr][]int{}
	add := func(d *lab.Device) {
		for _, a := range d.Addresses {
			n := p.subnetOf(a.Address, d, a.Port)
			held[a.Address] = append(held[a.Address], n)
			p.had = append(p.had, Had{Address: a, Device: d.ID, Subnet: n})
		}
	}
	w := cabling.Of(p.lab) // which has all things and cables at hand, one after another
	for i := range w.DeviceCount() {
		add(w.DeviceAt(int32(i)))
	}
	for g := range lab.Guests(p.lab) {
		add(&g)
	}
	for c := range w.Leads {
		for _, end := range []struct {
			at *lab.End
			is netip.Addr
		}{{c.A, c.AddressA}, {c.B, c.AddressB}} {
			if end.at == nil || !end.is.IsValid() {
				continue
			}
			p.had = append(p.had, Had{Device: end.at.Device, Cable: c.ID, Subnet: None,
				Address: lab.Address{Address: end.is, Port: end.at.Port, How: lab.FixedAddress}})
		}
	}
	for i, s := range p.subnets {
		has := func(n int) bool { return n == i || n == None || p.subnets[n].CIDR != s.CIDR } // and not in one alike
		if s.Gateway.IsValid() && !slices.ContainsFunc(held[s.Gateway], has) {
			p.had = append(p.had, Had{Address: lab.Address{Address: s.Gateway, How: lab.FixedAddress}, Subnet: i})
		}
	}
}

// subnetOf is the smallest subnet that an address is in; of several alike ones that
// whose VLAN the device's port carries.
func (p *Plan) subnetOf(a netip.Addr, d *lab.Device, port string) int {
	for _, bits := range p.sizes[a.Is4()] {
		prefix, err := a.Prefix(bits)
		if err != nil {
			continue
		}
		may := p.at[prefix]
		if len(may) > 1 && port != "" {
			carries := d.CarriesAt(port)
			for _, i := range may {
				if v := p.subnets[i].VLAN; v != nil {
					if has, _ := carries.Has(*v); has {
						return i
					}
				}
			}
		}
		if len(may) > 0 {
			return may[0]
		}
	}
	return None
}

// Subnets are the subnets by prefix, the larger before those within it.
func (p *Plan) Subnets() []lab.Subnet { return p.subnets }

// Number is the number of a subnet in the plan; ok is false where there is none.
func (p *Plan) Number(id lab.ID) (n int, ok bool) { n, ok = p.byID[id]; return n, ok }

// All are all addresses, by address.
func (p *Plan) All() []Had { return p.had }

// In are the addresses of a subnet, by address.
func (p *Plan) In(subnet int) []Had { return p.pick(p.in[subnet]) }

// OfDevice are the addresses of a device, by address.
func (p *Plan) OfDevice(id lab.ID) []Had { return p.pick(p.of[id]) }

func (p *Plan) pick(numbers []int32) []Had {
	list := make([]Had, len(numbers))
	for i, n := range numbers {
		list[i] = p.had[n]
	}
	return list
}

// At are those that have an address.
func (p *Plan) At(a netip.Addr) []Had {
	i, _ := slices.BinarySearchFunc(p.had, a, func(h Had, a netip.Addr) int { return h.Address.Address.Compare(a) })
	end := i
	for end < len(p.had) && p.had[end].Address.Address == a {
		end++
	}
	return p.had[i:end]
}

// Containing is the smallest subnet that an address is in, or None.
func (p *Plan) Containing(a netip.Addr) int { return p.subnetOf(a, nil, "") }

// OfVLAN are the subnets of a VLAN, by number.
func (p *Plan) OfVLAN(v VLAN) []int { return p.vlans[v] }

// VLANOf is the VLAN of a subnet; ok is false for one in none.
func VLANOf(s lab.Subnet) (v VLAN, ok bool) {
	if s.VLAN == nil {
		return VLAN{}, false
	}
	return VLAN{*s.VLAN, s.Domain}, true
}

// NameIn is what a VLAN is called in a lab; "" where it has no record, or that no name.
func (v VLAN) NameIn(l *lab.Lab) string {
	id, _ := l.Having(lab.KindVLAN, lab.VLANKey(v.Number, v.Domain))
	record, _ := lab.Find[lab.VLAN](l, id)
	return record.Name
}

// NameOf is what people call a subnet besides its prefix: its VLAN, or what it is for; ""
// where neither is said.
func NameOf(l *lab.Lab, s lab.Subnet) string {
	if v, ok := VLANOf(s); ok {
		if name := v.NameIn(l); name != "" {
			return name
		}
	}
	return s.Purpose
}

// Twice reports whether another device has the same address in the same subnet, or
// where neither is in one.
func (p *Plan) Twice(h Had) bool {
	return slices.ContainsFunc(p.At(h.Address.Address), func(o Had) bool {
		return o.Subnet == h.Subnet && o.Device != h.Device && o.Device != "" && h.Device != ""
	})
}
