package address

import (
	"cmp"
	"fmt"
	"net/netip"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// Zone is what a name server knows of a domain, or of addresses read backwards.
type Zone struct {
	Name    string
	Servers []string // whole names
	// Unsaid: no name server is written down, and Servers names the gateway.
	Unsaid  bool
	Records []ZoneRecord
	// Left are entries that could not be taken, and why, in a sentence.
	Left []string
}

// ZoneRecord is one record of a zone.
type ZoneRecord struct {
	Owner string // a whole name
	Type  string // A, AAAA, CNAME, PTR
	To    string
}

// ZoneNames are the zones there are: the domains, then those of the addresses.
func (p *Plan) ZoneNames() []string {
	list := p.Domains()
	var reverse []string
	for i, s := range p.subnets {
		for _, z := range reverseZones(s.CIDR, p.In(i)) {
			if !slices.Contains(reverse, z) {
				reverse = append(reverse, z)
			}
		}
	}
	return append(list, slices.Sorted(slices.Values(reverse))...)
}

// Zone is one of those zones; ok is false where there is no such.
func (p *Plan) Zone(name string) (z Zone, ok bool) {
	name = strings.ToLower(strings.TrimSuffix(name, "."))
	if !slices.Contains(p.ZoneNames(), name) {
		return Zone{}, false
	}
	z = Zone{Name: name}
	if slices.Contains(p.Domains(), name) {
		p.forward(&z)
	} else {
		p.backward(&z)
	}
	p.servers(&z)
	slices.SortStableFunc(z.Records, func(a, b ZoneRecord) int {
		return cmp.Or(cmp.Compare(a.Owner, b.Owner), cmp.Compare(a.Type, b.Type), cmp.Compare(a.To, b.To))
	})
	z.Records = slices.Compact(z.Records)
	return z, true
}

// forward are the names of a domain. A name is in the zone of the longest domain
// that it ends in.
func (p *Plan) forward(z *Zone) {
	domains := p.Domains()
	in := func(name string) bool { return longest(name, domains) == z.Name }
	taken := map[string]bool{}
	add := func(name string, a netip.Addr) {
		if !OfHost(name) {
			z.Left = append(z.Left, fmt.Sprintf(
				"%s has an underscore, which the name of an address cannot have (RFC 1123, 2.1); it is left out", name))
			return
		}
		z.Records = append(z.Records, addressRecord(name, a))
		taken[name] = true
	}
	for _, e := range p.Hosts() {
		if in(e.Name) {
			add(e.Name, e.Address)
		}
	}
	resolved := p.Resolve()
	for _, r := range resolved {
		if !in(r.Whole) || r.Name.Alias != "" {
			continue
		}
		for _, a := range r.Addresses {
			add(r.Whole, a)
		}
	}
	for _, r := range resolved {
		switch alias := r.Name.Alias; {
		case !in(r.Whole) || alias == "":
		case r.End == Circle:
			z.Left = append(z.Left, fmt.Sprintf("%s leads round in a circle", r.Whole))
		case r.End == Nowhere:
			z.Left = append(z.Left, fmt.Sprintf("%s leads to %s, which is not known", r.Whole, alias))
		case taken[r.Whole] || r.Whole == z.Name:
			// RFC 1034, 3.6.2: an alias has no other records.
			z.Left = append(z.Left, fmt.Sprintf("%s is an alias and a name of its own; the alias is left out", r.Whole))
		default:
			to := whole(alias, "")
			if r.End == Leads {
				to = whole(alias, p.domainOf(p.Containing(r.Addresses[0])))
			}
			if r.End == Leads && !OfHost(to) {
				z.Left = append(z.Left, fmt.Sprintf("%s leads to %s, which is left out", r.Whole, to))
				continue
			}
			z.Records = append(z.Records, ZoneRecord{r.Whole, "CNAME", to})
		}
	}
	slices.Sort(z.Left)
	z.Left = slices.Compact(z.Left)
}

// longest is the zone that a name is in: of several that it ends in the longest.
func longest(name string, zones []string) string {
	best := ""
	for _, z := range zones {
		if within(name, z) && len(z) > len(best) {
			best = z
		}
	}
	return best
}

// backward are the addresses of a reverse zone, each with its first name.
func (p *Plan) backward(z *Zone) {
	named, zones := map[netip.Addr]bool{}, p.ZoneNames()
	for _, e := range p.Hosts() {
		owner := reverseName(e.Address)
		if longest(owner, zones) != z.Name || named[e.Address] || !strings.Contains(e.Name, ".") || !OfHost(e.Name) {
			continue
		}
		named[e.Address] = true
		z.Records = append(z.Records, ZoneRecord{owner, "PTR", e.Name})
	}
}

// servers are the name servers of a zone: those of its subnets, or where none is
// written down their gateways, so that the zone is one.
func (p *Plan) servers(z *Zone) {
	var gateways []string
	hosts := map[lab.ID]string{}
	for _, e := range p.Hosts() {
		if e.Port == "" && hosts[e.From.ID] == "" || within(e.Name, z.Name) && !within(hosts[e.From.ID], z.Name) {
			hosts[e.From.ID] = e.Name
		}
	}
	add := func(list *[]string, id lab.ID) {
		if name := hosts[id]; strings.Contains(name, ".") && OfHost(name) && !slices.Contains(*list, name) {
			*list = append(*list, name)
		}
	}
	for i, s := range p.subnets {
		domain, _ := lab.DNSName(s.Names)
		if domain != z.Name && !slices.Contains(reverseZones(s.CIDR, p.In(i)), z.Name) {
			continue
		}
		for _, id := range p.NameServers(i) {
			add(&z.Servers, id)
		}
		for _, h := range p.At(s.Gateway) {
			add(&gateways, h.Device)
		}
	}
	if len(z.Servers) == 0 {
		z.Unsaid, z.Servers = true, gateways
	}
}

// OfHost reports whether a name may be that of an address: the domain name system
// takes underscores elsewhere, for aliases too, but not there (RFC 1123, 2.1).
func OfHost(name string) bool { return !strings.Contains(name, "_") }

func addressRecord(name string, a netip.Addr) ZoneRecord {
	if a.Is4() {
		return ZoneRecord{name, "A", a.String()}
	}
	return ZoneRecord{name, "AAAA", a.String()}
}

// reverseName is an address read backwards (RFC 1035, 3.5, and RFC 3596, 2.5).
func reverseName(a netip.Addr) string {
	var parts []string
	if a.Is4() {
		for _, b := range a.As4() {
			parts = append(parts, strconv.Itoa(int(b)))
		}
		slices.Reverse(parts)
		return strings.Join(parts, ".") + ".in-addr.arpa"
	}
	for _, b := range a.As16() {
		parts = append(parts, strconv.FormatUint(uint64(b>>4), 16), strconv.FormatUint(uint64(b&15), 16))
	}
	slices.Reverse(parts)
	return strings.Join(parts, ".") + ".ip6.arpa"
}

// reverseZones are the zones of a subnet's addresses: of IPv4 by whole parts, one for
// each 256 addresses of a subnet smaller than 65,536 that has any of them, of IPv6 by
// hexadecimal digits.
func reverseZones(p netip.Prefix, had []Had) []string {
	parts := func(a netip.Addr, most, of int) string {
		zone := reverseName(a)
		for range most - of {
			_, zone, _ = strings.Cut(zone, ".")
		}
		return zone
	}
	if p.Addr().Is6() {
		const digits, digit = 32, 4
		return []string{parts(p.Addr(), digits, p.Bits()/digit)}
	}
	const octets, octet, two = 4, 8, 16
	if p.Bits() <= two {
		return []string{parts(p.Addr(), octets, max(1, p.Bits()/octet))}
	}
	list := []string{parts(p.Addr(), octets, octets-1)}
	for _, h := range had {
		if z := parts(h.Address.Address, octets, octets-1); !slices.Contains(list, z) {
			list = append(list, z)
		}
	}
	return list
}
