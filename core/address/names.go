package address

import (
	"cmp"
	"net/netip"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Entry is a name that leads to an address, or that is the same as another one.
type Entry struct {
	Name    string     // whole, in small letters as the domain name system has it, without a dot at the end
	Address netip.Addr // where it leads; not valid for an alias
	Alias   string     // whole, of an alias
	From    lab.Key    // the device or name that says so
	Port    string     // of a device's, where the name is of one port
	Said    bool       // of a device's, that it is said of the address and does not follow from the device
}

// Ending is how a name ends that leads nowhere.
type Ending string

// The ways there are.
const (
	Leads   Ending = ""
	Circle  Ending = "circle"  // it comes back to itself
	Nowhere Ending = "nowhere" // what it leads to is not there, or has no address
	Away    Ending = "away"    // to a name outside the lab, which is as it may be, or through a tunnel
)

// Resolved is where a name of one's own leads.
type Resolved struct {
	Name      lab.Name
	Whole     string // the name with its domain
	Through   []string
	Last      lab.Name // the name that the aliases are of in the end; its ID is "" where they are of none
	Addresses []netip.Addr
	End       Ending
}

// label is a name as one piece of a name in the domain name system: letters, digits
// and hyphens.
func label(name string) string {
	said := strings.Map(func(r rune) rune {
		if strings.ContainsRune(" ._/'’&+()", r) {
			return '-'
		}
		return r
	}, strings.ToLower(name))
	ascii, bad := lab.DNSName(strings.Trim(squeeze(said), "-"))
	if bad != "" {
		return ""
	}
	return ascii
}

func squeeze(s string) string {
	for strings.Contains(s, "--") {
		s = strings.ReplaceAll(s, "--", "-")
	}
	return s
}

// whole is a name with the domain behind it, unless it has a dot in it already.
func whole(name, domain string) string {
	ascii, _ := lab.DNSName(name)
	if domain == "" || strings.Contains(ascii, ".") {
		return ascii
	}
	end, _ := lab.DNSName(domain)
	return ascii + "." + end
}

// Domains are the domains that names end in, in order.
func (p *Plan) Domains() []string {
	var list []string
	for _, s := range p.subnets {
		if d, _ := lab.DNSName(s.Names); d != "" && !slices.Contains(list, d) {
			list = append(list, d)
		}
	}
	return slices.Sorted(slices.Values(list))
}

// domainOf is the domain of the names of an address.
func (p *Plan) domainOf(subnet int) string {
	if subnet == None {
		return ""
	}
	return p.subnets[subnet].Names
}

// usual is the domain of names of which nothing tells which: the only one there is.
func (p *Plan) usual() string {
	if list := p.Domains(); len(list) == 1 {
		return list[0]
	}
	return ""
}

// Hosts are the names of devices: of each address its own, or the device's. Where a
// device has several addresses in a subnet, what is on a port is named by that too.
// What has no name has no entry. A name that is written down and leads elsewhere, to a proxy
// in front of the device say, is not the device's any more.
func (p *Plan) Hosts() []Entry { return p.hosts() }

func (p *Plan) findHosts() []Entry {
	leads := map[string][]netip.Addr{}
	for _, r := range p.Resolve() {
		if r.End == Leads {
			leads[r.Whole] = append(leads[r.Whole], r.Addresses...)
		}
	}
	var list []Entry
	for _, e := range p.named() {
		to, written := leads[e.Name]
		if !written || e.Said || slices.ContainsFunc(p.OfDevice(e.From.ID), func(h Had) bool { return slices.Contains(to, h.Address.Address) }) {
			list = append(list, e)
		}
	}
	return list
}

// findNamed are the names of devices as if no others were written down.
func (p *Plan) findNamed() []Entry {
	var list []Entry
	for d := range lab.Each[lab.Device](p.lab) {
		main := p.mainOf(d.ID)
		for _, n := range p.of[d.ID] {
			h := p.had[n]
			if h.Cable != "" {
				continue // between two, and for nobody else
			}
			e := Entry{Address: h.Address.Address, From: d.Key(), Name: h.Name}
			if e.Said = e.Name != ""; !e.Said {
				e.Name = label(d.Name)
				if main[familyIn(h)] != n && h.Port != "" && e.Name != "" {
					e.Name, e.Port = label(d.Name+"-"+h.Port), h.Port
				}
			}
			if e.Name == "" {
				continue
			}
			e.Name = whole(e.Name, p.domainOf(h.Subnet))
			list = append(list, e)
		}
	}
	slices.SortStableFunc(list, func(a, b Entry) int { return cmp.Or(cmp.Compare(a.Name, b.Name), a.Address.Compare(b.Address)) })
	return list
}

// family is IPv4 or IPv6 in one subnet.
type family struct {
	subnet int
	v4     bool
}

func familyIn(h Had) family { return family{h.Subnet, h.Address.Address.Is4()} }

// mainOf is, of each family that a device has addresses of, the one that goes by the
// device's name alone: the first that is of no port, or else the first.
func (p *Plan) mainOf(id lab.ID) map[family]int32 {
	main := map[family]int32{}
	for _, n := range p.of[id] {
		f := familyIn(p.had[n])
		if was, ok := main[f]; !ok || p.had[was].Port != "" && p.had[n].Port == "" {
			main[f] = n
		}
	}
	return main
}

// Resolve tells where each name of one's own leads.
func (p *Plan) Resolve() []Resolved { return p.resolved() }

func (p *Plan) resolve() []Resolved {
	own := slices.Collect(lab.Each[lab.Name](p.lab))
	if len(own) == 0 {
		return nil
	}
	r := resolver{Plan: p, names: map[string]lab.Name{}, hosts: map[string][]netip.Addr{}}
	for _, n := range own {
		r.names[lab.FoldName(n.Name)] = n
	}
	for _, e := range p.named() {
		r.hosts[e.Name] = append(r.hosts[e.Name], e.Address)
		bare, _, _ := strings.Cut(e.Name, ".")
		if bare != e.Name {
			r.hosts[bare] = append(r.hosts[bare], e.Address)
		}
	}
	var list []Resolved
	for _, n := range own {
		list = append(list, r.resolve(n))
	}
	return list
}

type resolver struct {
	*Plan
	names map[string]lab.Name
	hosts map[string][]netip.Addr
}

func (r resolver) resolve(n lab.Name) Resolved {
	is := Resolved{Name: n, End: Nowhere}
	seen := map[string]bool{}
	domain := ""
	for at := n; ; {
		folded := lab.FoldName(at.Name)
		if seen[folded] {
			is.End = Circle
			break
		}
		seen[folded] = true
		if at.Alias == "" {
			is.Last, is.Addresses = at, r.leadsTo(at.Hop)
			if at.Tunnel != "" {
				is.End = Away
			}
			if len(is.Addresses) > 0 {
				is.End = Leads
				domain = r.domainOf(r.Containing(is.Addresses[0]))
			}
			break
		}
		is.Through = append(is.Through, at.Alias)
		next, ok := r.named(at.Alias)
		if !ok {
			ascii, _ := lab.DNSName(at.Alias)
			is.Addresses = r.hosts[ascii]
			switch {
			case len(is.Addresses) > 0:
				is.End = Leads
				domain = r.domainOf(r.Containing(is.Addresses[0]))
			case strings.Contains(ascii, ".") && !slices.ContainsFunc(r.Domains(), func(d string) bool { return within(ascii, d) }):
				is.End = Away
			}
			break
		}
		at = next
	}
	is.Whole = whole(n.Name, cmp.Or(domain, r.usual()))
	return is
}

// named is the name of one's own that an alias is of, with its domain or without.
func (r resolver) named(alias string) (lab.Name, bool) {
	if n, ok := r.names[lab.FoldName(alias)]; ok {
		return n, true
	}
	bare, end, _ := strings.Cut(lab.FoldName(alias), ".")
	n, ok := r.names[bare]
	return n, ok && slices.Contains(r.Domains(), end)
}

// leadsTo are the addresses of what a name leads to first.
func (r resolver) leadsTo(first lab.Hop) []netip.Addr {
	if first.Address.IsValid() {
		return []netip.Addr{first.Address}
	}
	var list []netip.Addr
	for _, h := range r.OfDevice(r.lab.HopDevice(first).ID) {
		if h.Cable == "" && h.How != lab.HandedOutAddress {
			list = append(list, h.Address.Address)
		}
	}
	return list
}

// within reports whether a name is in a domain.
func within(name, domain string) bool { return name == domain || strings.HasSuffix(name, "."+domain) }

// NameServers are the devices that answer for names in a subnet, in the order in
// which they are asked: those of the subnet, or else of its VLAN.
func (p *Plan) NameServers(subnet int) []lab.ID {
	s := p.subnets[subnet]
	if len(s.NameServers) > 0 {
		return s.NameServers
	}
	if v, ok := VLANOf(s); ok {
		if id, known := p.lab.Having(lab.KindVLAN, lab.VLANKey(v.Number, v.Domain)); known {
			record, _ := lab.Find[lab.VLAN](p.lab, id)
			return record.NameServers
		}
	}
	return nil
}
