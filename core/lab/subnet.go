package lab

import (
	"net/netip"
	"strings"
)

// Subnet is a range of addresses that reach each other without a router.
type Subnet struct {
	ID      ID           `json:"id" required:"true"`
	CIDR    netip.Prefix `json:"cidr" required:"true"`
	VLAN    *int         `json:"vlan,omitempty" minimum:"1" maximum:"4094" description:"Absent where it is in none, or unknown"`
	Domain  string       `json:"switching_domain,omitempty" maxLength:"80" description:"Where the VLAN's number means it"`
	Gateway netip.Addr   `json:"gateway,omitzero" description:"Where its devices send what is for elsewhere"`
	Ranges  []Range      `json:"handed_out,omitempty" nullable:"false" maxItems:"20" description:"What is handed out to whoever asks"`
	By      ID           `json:"handed_out_by_id,omitempty" description:"The device that hands them out"`
	Names   string       `json:"names_end_in,omitempty" maxLength:"253" description:"The domain of its devices' names"`
	Named
	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes   string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Range is addresses from one to another, both included.
type Range struct {
	From netip.Addr `json:"from" required:"true"`
	To   netip.Addr `json:"to" required:"true"`
}

// Has reports whether an address is in the range.
func (r Range) Has(a netip.Addr) bool { return r.From.Compare(a) <= 0 && a.Compare(r.To) <= 0 }

// Named is what has name servers of its own.
type Named struct {
	NameServers []ID `json:"name_server_ids,omitempty" nullable:"false" maxItems:"8" description:"In the order in which they are asked"`
}

func (n Named) refs() []Ref {
	var refs []Ref
	for _, id := range n.NameServers {
		refs = append(refs, Ref{"name_server_ids", Key{KindDevice, id}, Clear})
	}
	return refs
}

func (n Named) check(f *faults) {
	if len(n.NameServers) > 8 {
		f.add("name_server_ids", "has %d entries; at most 8 are allowed", len(n.NameServers))
	}
}

// Key implements Record.
func (s Subnet) Key() Key { return Key{KindSubnet, s.ID} }

// Title implements Record.
func (s Subnet) Title() string { return s.CIDR.String() }

// Refs implements Record.
func (s Subnet) Refs() []Ref {
	refs := s.refs()
	if s.By != "" {
		refs = append(refs, Ref{"handed_out_by_id", Key{KindDevice, s.By}, Clear})
	}
	return refs
}

// uniques: the same addresses may be in use twice where the VLANs differ.
func (s Subnet) uniques() []Unique {
	vlan := ""
	if s.VLAN != nil {
		vlan = itoa(*s.VLAN)
	}
	return []Unique{{"cidr", strings.Join([]string{s.CIDR.String(), vlan, s.Domain}, "\n")}}
}

func (s Subnet) check(f *faults) {
	f.id(s.ID)
	f.prefix("cidr", s.CIDR)
	if s.VLAN != nil {
		if err := vlanInRange(*s.VLAN); err != nil {
			f.add("vlan", "%s", err)
		}
	}
	f.name("switching_domain", s.Domain)
	if s.Gateway.IsValid() {
		f.address("gateway", s.Gateway)
		s.within("gateway", "the gateway", s.Gateway, f)
	}
	if len(s.Ranges) > 20 {
		f.add("handed_out", "has %d ranges; at most 20 are allowed", len(s.Ranges))
	}
	for i, r := range s.Ranges {
		f.address("handed_out", r.From)
		f.address("handed_out", r.To)
		if !s.within("handed_out", "the range handed out", r.From, f) || !s.within("handed_out", "the range handed out", r.To, f) {
			continue
		}
		if r.To.Less(r.From) {
			f.add("handed_out", "the range %s-%s runs backwards; write %s-%s", r.From, r.To, r.To, r.From)
			continue
		}
		for _, o := range s.Ranges[:i] {
			if o.Has(r.From) || o.Has(r.To) || r.Has(o.From) {
				f.add("handed_out", "the ranges %s-%s and %s-%s overlap; make them one", o.From, o.To, r.From, r.To)
			}
		}
	}
	f.hostName("names_end_in", s.Names)
	s.Named.check(f)
	f.line("purpose", s.Purpose, maxPurpose)
	f.text("notes", s.Notes, maxNotes)
	s.Remarked.check(f)
}

// within takes an address of the subnet.
func (s Subnet) within(field, what string, a netip.Addr, f *faults) bool {
	switch {
	case !a.IsValid() || !s.CIDR.IsValid() || s.CIDR.Contains(a):
		return true
	case a.Is4() != s.CIDR.Addr().Is4():
		f.add(field, "%s is %s, but %s is IPv%d; write an address of that", what, a, s.CIDR, map[bool]int{true: 4, false: 6}[s.CIDR.Addr().Is4()])
	default:
		f.add(field, "%s, %s, is outside %s; its addresses are %s to %s", what, a, s.CIDR, s.First(), s.Last())
	}
	return false
}

// First is the first address of a subnet that a device may have: of IPv4 the
// one after the network's own, but for /31 (RFC 3021) and /32. Of IPv6 any may be
// had.
func (s Subnet) First() netip.Addr {
	if s.CIDR.Addr().Is4() && s.CIDR.Bits() < 31 {
		return s.CIDR.Addr().Next()
	}
	return s.CIDR.Addr()
}

// Last is the last one: of IPv4 the one before the broadcast address, likewise.
func (s Subnet) Last() netip.Addr {
	bytes := s.CIDR.Addr().AsSlice()
	for bit := s.CIDR.Bits(); bit < len(bytes)*8; bit++ {
		bytes[bit/8] |= 1 << (7 - bit%8)
	}
	last, _ := netip.AddrFromSlice(bytes)
	if last.Is4() && s.CIDR.Bits() < 31 {
		return last.Prev()
	}
	return last
}

// Usable reports whether a device may have an address of the subnet.
func (s Subnet) Usable(a netip.Addr) bool {
	return s.CIDR.Contains(a) && s.First().Compare(a) <= 0 && a.Compare(s.Last()) <= 0
}

// HandsOut reports whether an address is in a range that is handed out.
func (s Subnet) HandsOut(a netip.Addr) bool {
	for _, r := range s.Ranges {
		if r.Has(a) {
			return true
		}
	}
	return false
}
