package finding

import (
	"fmt"
	"net/netip"
	"slices"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/network"
)

// addressChecks are those about addresses, subnets and names.
var addressChecks = []check{
	{"address-twice", "an address twice", addressTwice},
	{"address-outside", "an address outside its subnet", addressOutside},
	{"gateway-handed-out", "a gateway inside the range handed out", gatewayHandedOut},
	{"gateway-nobody", "a gateway on nobody", gatewayNobody},
	{"fixed-in-range", "a fixed address inside the range handed out", fixedInRange},
	{"two-addresses", "one device, two addresses", twoAddresses},
	{"no-address-there", "a device in a VLAN without an address there", noAddressThere},
	{"reserved-leaving", "an address reserved for what is leaving", reservedLeaving},
	{"one-name-server", "all name servers of a VLAN on one thing", oneNameServer},
	{"name-twice", "a name that leads to two places", nameTwice},
	{"name-circle", "an alias in a circle", nameCircle},
	{"name-nowhere", "a name that leads nowhere", nameNowhere},
	{"name-underscore", "a name that no zone can have", nameUnderscore},
}

// subnetWords is a subnet with what it is for: "10.20.0.0/24 (servers)".
func subnetWords(l *lab.Lab, s lab.Subnet) string {
	if v, ok := address.VLANOf(s); ok {
		if name := v.NameIn(l); name != "" {
			return fmt.Sprintf("%s (%s)", s.CIDR, name)
		}
	}
	return s.CIDR.String()
}

// withAddress is a change by which one address of a device becomes another; without
// one it goes.
func withAddress(l *lab.Lab, h address.Had, is *lab.Address) []lab.Change {
	d, ok := lab.Find[lab.Device](l, h.Device)
	if !ok || h.Cable != "" {
		return nil
	}
	d.Addresses = slices.Clone(d.Addresses)
	i := slices.Index(d.Addresses, h.Address)
	switch {
	case i < 0:
		return nil
	case is == nil:
		d.Addresses = slices.Delete(d.Addresses, i, i+1)
	default:
		d.Addresses[i] = *is
	}
	if len(d.Addresses) == 0 {
		d.Addresses = nil
	}
	c, _ := l.Put(d)
	return []lab.Change{c}
}

func deviceOf(l *lab.Lab, h address.Had) lab.Device {
	d, _ := lab.Find[lab.Device](l, h.Device)
	return d
}

// addressTwice tells of an address that several devices have in one subnet. The one
// that is no gateway and was written down last gets another one.
func addressTwice(l *lab.Lab, tell found) {
	p := address.Of(l)
	all := p.All()
	var last address.Had
	for i, h := range all {
		next := i+1 < len(all) && all[i+1].Address.Address == h.Address.Address
		if last.Device != "" && last.Address.Address == h.Address.Address && last.Subnet == h.Subnet || !next || !p.Twice(h) {
			continue
		}
		last = h
		var names []string
		var about []lab.Record
		move := h
		for _, o := range p.At(h.Address.Address) {
			if o.Subnet != h.Subnet || o.Device == "" {
				continue
			}
			d := deviceOf(l, o)
			names, about = append(names, d.Title()), append(about, d)
			if !d.PassesPackets() {
				move = o
			}
		}
		if h.Subnet != address.None {
			about = append(about, p.Subnets()[h.Subnet])
		}
		f := tell(Act, fmt.Sprintf("%s is on %s.", h.Address.Address, lab.Listed(names, len(names))), about...)
		if h.Subnet == address.None {
			continue
		}
		if next := p.NextFree(h.Subnet); next.IsValid() {
			is := move.Address
			is.Address = next
			f.fixedBy(fmt.Sprintf("Give %s %s, the next free one.", deviceOf(l, move).Title(), next), withAddress(l, move, &is))
		}
	}
}

// addressOutside tells of addresses in none of the subnets there are, and of those on
// a port whose VLAN has other ones.
func addressOutside(l *lab.Lab, tell found) {
	p := address.Of(l)
	if len(p.Subnets()) == 0 {
		return
	}
	for _, h := range p.All() {
		a := h.Address.Address
		if h.Device == "" || h.Cable != "" || h.Subnet != address.None && h.Port == "" {
			continue
		}
		d := deviceOf(l, h)
		if h.Subnet == address.None {
			if a.IsPrivate() {
				tell(Watch, fmt.Sprintf("%s of %s is in no subnet that is written down.", a, d.Title()), d)
			}
			continue
		}
		untagged := d.CarriesAt(h.Port).Untagged
		s := p.Subnets()[h.Subnet]
		in := p.OfVLAN(address.VLAN{Number: untagged, Domain: d.Domain})
		if untagged == 0 || s.VLAN == nil || *s.VLAN == untagged || len(in) == 0 {
			continue
		}
		tell(Act, fmt.Sprintf("%s of %s is on port %s, which is in VLAN %d: %s, and not %s.", a, d.Title(), h.Port, untagged,
			subnetWords(l, p.Subnets()[in[0]]), subnetWords(l, s)), d, s)
	}
}

// gatewayHandedOut tells of a gateway that may be handed out to somebody else.
func gatewayHandedOut(l *lab.Lab, tell found) {
	for _, s := range address.Of(l).Subnets() {
		if !s.Gateway.IsValid() || !s.HandsOut(s.Gateway) {
			continue
		}
		f := tell(Act, fmt.Sprintf("The gateway %s is inside what %s hands out.", s.Gateway, subnetWords(l, s)), s)
		var list []lab.Range
		for _, r := range s.Ranges {
			if !r.Has(s.Gateway) {
				list = append(list, r)
				continue
			}
			if r.From.Less(s.Gateway) {
				list = append(list, lab.Range{From: r.From, To: s.Gateway.Prev()})
			}
			if s.Gateway.Less(r.To) {
				list = append(list, lab.Range{From: s.Gateway.Next(), To: r.To})
			}
		}
		is := s
		is.Ranges = list
		c, _ := l.Put(is)
		f.fixedBy(fmt.Sprintf("Leave %s out of the range.", s.Gateway), []lab.Change{c})
	}
}

func gatewayNobody(l *lab.Lab, tell found) {
	p := address.Of(l)
	for i, s := range p.Subnets() {
		if !s.Gateway.IsValid() || slices.ContainsFunc(p.At(s.Gateway), func(h address.Had) bool { return h.Device != "" && h.Subnet == i }) {
			continue
		}
		f := tell(Watch, fmt.Sprintf("No device has %s, the gateway of %s.", s.Gateway, subnetWords(l, s)), s)
		if gate, ok := onlyRouter(l); ok {
			is := gate
			is.Addresses = append(slices.Clone(gate.Addresses), lab.Address{Address: s.Gateway, How: lab.FixedAddress})
			c, _ := l.Put(is)
			f.fixedBy(fmt.Sprintf("Give %s the address %s.", gate.Title(), s.Gateway), []lab.Change{c})
		}
	}
}

// onlyRouter is the one device that routes and runs, where there is just one.
func onlyRouter(l *lab.Lab) (gate lab.Device, ok bool) {
	n := 0
	for d := range lab.Each[lab.Device](l) {
		if d.PassesPackets() && d.State == lab.Running {
			gate, n = d, n+1
		}
	}
	return gate, n == 1
}

func fixedInRange(l *lab.Lab, tell found) {
	p := address.Of(l)
	for _, h := range p.All() {
		if h.Device == "" || h.Subnet == address.None || h.How != lab.FixedAddress || !p.Subnets()[h.Subnet].HandsOut(h.Address.Address) {
			continue
		}
		s, d := p.Subnets()[h.Subnet], deviceOf(l, h)
		if s.Gateway == h.Address.Address {
			continue // told as such
		}
		f := tell(Watch, fmt.Sprintf("%s of %s is fixed, and inside what %s hands out.", h.Address.Address, d.Title(), subnetWords(l, s)), d, s)
		is := h.Address
		is.How = lab.ReservedAddress
		f.fixedBy("Write it down as reserved.", withAddress(l, h, &is))
	}
}

// twoAddresses tells of two addresses of one device in one subnet of which one is
// reserved, so that the other is likely not true any more.
func twoAddresses(l *lab.Lab, tell found) {
	p := address.Of(l)
	for d := range lab.Each[lab.Device](l) {
		if len(d.Addresses) < 2 {
			continue
		}
		var other *address.Had
		for _, h := range p.OfDevice(d.ID) {
			if h.Subnet == address.None || h.Port != "" {
				continue
			}
			if other == nil || other.Subnet != h.Subnet || other.How != lab.ReservedAddress && h.How != lab.ReservedAddress {
				other = &h
				continue
			}
			goes, stays := *other, h
			if goes.How == lab.ReservedAddress && stays.How != lab.ReservedAddress {
				goes, stays = stays, goes
			}
			f := tell(Watch, fmt.Sprintf("%s is said to have %s, and %s is reserved for it.", d.Title(),
				goes.Address.Address, stays.Address.Address), d,
				p.Subnets()[h.Subnet])
			f.fixedBy(fmt.Sprintf("Keep %s.", stays.Address.Address), withAddress(l, goes, nil))
			break
		}
	}
}

// noAddressThere tells of devices that a VLAN gets to untagged, that have addresses,
// and none there.
func noAddressThere(l *lab.Lab, tell found) {
	p, n := address.Of(l), network.Of(l)
	told := map[lab.Key]map[int]bool{}
	ends := func(tip int32) bool {
		return n.RoleOf(tip) == network.Ends && len(n.Wiring().DeviceAt(tip).Addresses) > 0
	}
	for i := range n.Links() {
		if l := &n.Links()[i]; !ends(l.A.Device) && !ends(l.B.Device) {
			continue
		}
		for end := range n.Untagged(int32(i)) {
			d := n.Wiring().DeviceAt(end.Device)
			if !ends(end.Device) {
				continue
			}
			in := p.OfVLAN(address.VLAN{Number: end.VLAN.Number, Domain: end.VLAN.Domain})
			if len(in) == 0 || told[d.Key()][end.VLAN.Number] || d.PassesPackets() {
				continue
			}
			has, there := false, false
			for _, h := range p.OfDevice(d.ID) {
				has = has || h.Subnet != address.None
				there = there || slices.Contains(in, h.Subnet)
			}
			if has && !there {
				if told[d.Key()] == nil {
					told[d.Key()] = map[int]bool{}
				}
				told[d.Key()][end.VLAN.Number] = true
				tell(Watch, fmt.Sprintf("%s is in VLAN %s and has addresses, but none in %s.", d.Title(),
					end.VLAN.Title(), p.Subnets()[in[0]].CIDR), *d,
					p.Subnets()[in[0]])
			}
		}
	}
}

func reservedLeaving(l *lab.Lab, tell found) {
	for _, h := range address.Of(l).All() {
		if h.How != lab.ReservedAddress {
			continue
		}
		if d := deviceOf(l, h); d.State == lab.Leaving {
			f := tell(Note, fmt.Sprintf("%s is reserved for %s, which is leaving.", h.Address.Address, d.Title()), d)
			f.fixedBy(fmt.Sprintf("Free %s.", h.Address.Address), withAddress(l, h, nil))
		}
	}
}

// oneNameServer tells of networks whose names all hang on one device.
func oneNameServer(l *lab.Lab, tell found) {
	one := func(ids []lab.ID, what string, about lab.Record) {
		distinct := slices.Compact(slices.Sorted(slices.Values(ids)))
		if len(distinct) != 1 {
			return
		}
		d, _ := lab.Find[lab.Device](l, distinct[0])
		tell(Note, fmt.Sprintf("Only %s answers for names in %s; while it is down nothing there has a name.", d.Title(), what), d, about)
	}
	for v := range lab.Each[lab.VLAN](l) {
		one(v.NameServers, "VLAN "+v.Title(), v)
	}
	for s := range lab.Each[lab.Subnet](l) {
		one(s.NameServers, subnetWords(l, s), s)
	}
}

// nameTwice tells of names that are written down twice, with and without their domain or of
// an address too, and lead to different ones: a name server answers with either.
func nameTwice(l *lab.Lab, tell found) {
	type led struct {
		by    lab.Record
		to    []netip.Addr
		words string
	}
	said := map[string][]led{}
	for _, e := range address.Of(l).Hosts() {
		if d, ok := lab.Find[lab.Device](l, e.From.ID); ok && e.Said {
			said[e.Name] = append(said[e.Name], led{d, []netip.Addr{e.Address}, fmt.Sprintf("is %s of %s", e.Address, d.Title())})
		}
	}
	for _, r := range address.Of(l).Resolve() {
		if r.End != address.Leads {
			continue
		}
		words := "leads to " + lab.Listed(addressWords(r.Addresses), 3)
		for _, other := range said[r.Whole] {
			if !slices.ContainsFunc(other.to, func(a netip.Addr) bool { return slices.Contains(r.Addresses, a) }) {
				tell(Watch, fmt.Sprintf("The name %s %s, and %s too: a name server answers with either.", r.Whole, words, other.words), r.Name,
					other.by)
				break
			}
		}
		said[r.Whole] = append(said[r.Whole], led{r.Name, r.Addresses, words})
	}
}

func addressWords(list []netip.Addr) []string {
	var words []string
	for _, a := range list {
		words = append(words, a.String())
	}
	return words
}

func nameCircle(l *lab.Lab, tell found) {
	for _, r := range address.Of(l).Resolve() {
		if r.End == address.Circle {
			tell(Act, fmt.Sprintf("The name %s leads round in a circle: %s.", r.Name.Name,
				strings.Join(append([]string{r.Name.Name}, r.Through...), " → ")),
				r.Name)
		}
	}
}

// nameUnderscore: what a name server does not take is left out of its zone, never
// written in another way.
func nameUnderscore(l *lab.Lab, tell found) {
	for _, r := range address.Of(l).Resolve() {
		if r.Name.Alias == "" && r.End == address.Leads && !address.OfHost(r.Whole) {
			tell(Watch, fmt.Sprintf("The name %s has an underscore, so that it is left out of zones; call it %s, or make it an alias.", r.Name.Name,
				strings.Trim(strings.ReplaceAll(r.Name.Name, "_", "-"), "-")), r.Name)
		}
	}
}

func nameNowhere(l *lab.Lab, tell found) {
	for _, r := range address.Of(l).Resolve() {
		if r.End != address.Nowhere {
			continue
		}
		d, ofDevice := lab.Find[lab.Device](l, r.Name.Device)
		switch {
		case ofDevice:
			tell(Watch, fmt.Sprintf("The name %s leads to %s, which has no address.", r.Name.Name, d.Title()), r.Name, d)
		case r.Name.Alias != "":
			tell(Watch, fmt.Sprintf("The name %s leads to %s, and nothing is called that.", r.Name.Name, r.Through[len(r.Through)-1]), r.Name)
		default:
			tell(Watch, fmt.Sprintf("The name %s leads nowhere yet.", r.Name.Name), r.Name)
		}
	}
}
