package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"net/netip"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var ofSubnet = scope(lab.KindSubnet)

// addressFacts are what can be said of addresses, subnets and names.
func addressFacts() []fact {
	return []fact{
		deviceAddresses().under(Ports),
		nameServers(scope(lab.KindVLAN), func(v *lab.VLAN) *[]lab.ID { return &v.NameServers }),
		linkAddresses(),

		cidr(ofSubnet, func(s *lab.Subnet) *netip.Prefix { return &s.CIDR }),
		inVLAN(ofSubnet, "vlan", []string{"vlan", "in vlan"}, func(s *lab.Subnet) **int { return &s.VLAN }),
		switchingDomain(ofSubnet, func(s *lab.Subnet) *string { return &s.Domain }),
		gateway(),
		handedOut(),
		handedOutBy(),
		written(ofSubnet, "names end in", "names_end_in", []string{"names end in", "names in", "search domain"},
			`names end in "quarry.home.arpa"`, func(s *lab.Subnet) *string { return &s.Names }, text.Quote).optional(),
		nameServers(ofSubnet, func(s *lab.Subnet) *[]lab.ID { return &s.NameServers }),
		written(ofSubnet, "what it is for", "purpose", []string{"for", "is"}, `for "the servers"`, func(s *lab.Subnet) *string {
			return &s.Purpose
		}, text.Quote).optional(),
		remarks(ofSubnet, func(s *lab.Subnet) *[]string { return &s.Remarks }),
		note(ofSubnet, func(s *lab.Subnet) *string { return &s.Notes }),
	}
}

// ip is an address as it is written: whole, or only the last part of it, as .12
// or ::12 in a subnet that is known.
type ip struct {
	addr netip.Addr
	tail []byte // of IPv4
}

var (
	tailForm  = regexp.MustCompile(`^(\.[0-9]{1,3}){1,3}$`)
	wholeForm = regexp.MustCompile(`^[0-9]{1,3}(\.[0-9]{1,3}){3}(/[0-9]{1,3})?$`)
)

// looksLikeIP reports whether a word has the form of an address, right or wrong.
func looksLikeIP(t text.Token) bool {
	if t.Kind != text.Word {
		return false
	}
	return tailForm.MatchString(t.Text) || wholeForm.MatchString(t.Text) || strings.Count(t.Text, ":") > 1 && AsMAC(t.Text) == t.Text &&
		!strings.Contains(t.Text, "-")
}

// readIP reads an address; the size of a subnet behind it says nothing of it.
func readIP(said string) (ip, error) {
	if tailForm.MatchString(said) {
		var tail []byte
		for part := range strings.SplitSeq(said[1:], ".") {
			n, err := strconv.ParseUint(part, 10, 8)
			if err != nil {
				return ip{}, fmt.Errorf("“%s” is no end of an address: its parts are 0 to 255", text.Short(said))
			}
			tail = append(tail, byte(n))
		}
		return ip{tail: tail}, nil
	}
	alone, _, _ := strings.Cut(said, "/")
	a, err := netip.ParseAddr(alone)
	if err != nil || a.Zone() != "" {
		return ip{}, fmt.Errorf("“%s” is not an address; write one such as 10.20.0.12 or fd20:20::12", text.Short(said))
	}
	return ip{addr: a.Unmap()}, nil
}

// in is the whole address in a subnet; one of which only the end was written takes
// its beginning from there.
func (a ip) in(p netip.Prefix) netip.Addr {
	switch {
	case a.tail != nil && p.IsValid() && p.Addr().Is4():
		whole := p.Addr().As4()
		copy(whole[4-len(a.tail):], a.tail)
		return netip.AddrFrom4(whole)
	case a.tail != nil:
		return netip.Addr{}
	case p.IsValid() && a.addr.Is6() && p.Addr().Is6() && !p.Contains(a.addr):
		whole, end := p.Addr().As16(), a.addr.As16()
		if head := p.Bits() / 8; slices.Max(append([]byte{0}, end[:head]...)) == 0 {
			for i := range whole {
				whole[i] |= end[i]
			}
			return netip.AddrFrom16(whole)
		}
	}
	return a.addr
}

// ipText is an address as a line about its subnet writes it: of a small IPv4 subnet
// only the last part.
func ipText(a netip.Addr, p netip.Prefix) string {
	const small = 24 // bits from which on the last part tells addresses apart
	if a.Is4() && p.Contains(a) && p.Bits() >= small {
		return "." + strconv.Itoa(int(a.As4()[3]))
	}
	return a.String()
}

// namesPrefix reports whether the word behind the first one has the form of a
// subnet.
func namesPrefix(tokens []text.Token) bool {
	return len(tokens) > 1 && (looksLikeIP(tokens[1]) || strings.Contains(tokens[1].Text, "/") || tokens[0].Is("subnet"))
}

// readPrefix reads a subnet.
func readPrefix(said string) (netip.Prefix, error) {
	addr, size, sized := strings.Cut(said, "/")
	a, err := netip.ParseAddr(addr)
	if err != nil || a.Zone() != "" {
		return netip.Prefix{}, fmt.Errorf("“%s” is not a subnet; write one such as 10.20.0.0/24 or fd20:20::/64", text.Short(said))
	}
	usual, most := "24", 32
	if a.Is6() {
		usual, most = "64", 128
	}
	if !sized {
		return netip.Prefix{}, fmt.Errorf("say how large the subnet is, such as %s/%s", a, usual)
	}
	bits, err := strconv.Atoi(size)
	if err != nil || bits < 0 || bits > most {
		return netip.Prefix{}, fmt.Errorf("behind the / of an IPv%d subnet stands 0 to %d, such as %s/%s, not %s",
			map[bool]int{true: 4, false: 6}[a.Is4()], most, a, usual, text.Short(size))
	}
	p := netip.PrefixFrom(a, bits)
	if p != p.Masked() {
		return netip.Prefix{}, fmt.Errorf("%s is an address in the subnet %s; write subnet %s, or give the address %s to a device", p, p.Masked(),
			p.Masked(), a)
	}
	return p, nil
}

// cidr is a subnet, in what a line begins with.
func cidr[R any](of scope, at func(*R) *netip.Prefix) fact {
	return fact{of: of, name: "subnet", field: "cidr", head: true, example: "10.20.0.0/24",
		needed: "say which subnet, such as 10.20.0.0/24",
		read:   func(tokens []text.Token, _ bool) (any, error) { return readPrefix(text.Joined(tokens)) },
		set:    func(b box, v any) { *at(b.(*R)), _ = v.(netip.Prefix) },
		show: func(_ *lab.Lab, b box) string {
			if p := *at(b.(*R)); p.IsValid() {
				return p.String()
			}
			return ""
		}}
}

// gateway is where the devices of a subnet send what is for elsewhere.
func gateway() fact {
	at := func(b box) *lab.Subnet { return b.(*lab.Subnet) }
	return fact{of: ofSubnet, name: "gateway", field: "gateway", words: []string{"gateway", "gw", "router"}, example: "gateway 10.20.0.1",
		pattern: "gateway %s",
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			if len(tokens) > 1 && (tokens[0].Is("is") || tokens[0].Is("at")) {
				tokens = tokens[1:]
			}
			return readIP(text.Joined(tokens))
		},
		set: func(b box, v any) {
			a, _ := v.(ip)
			at(b).Gateway = a.in(at(b).CIDR)
		},
		show: func(_ *lab.Lab, b box) string {
			if a := at(b).Gateway; a.IsValid() {
				return ipText(a, at(b).CIDR)
			}
			return ""
		}}
}

// ranges are what is handed out, and by whom where that is said with them.
type ranges struct {
	list [][2]ip
	by   string
	id   lab.ID
}

func (r ranges) in(s setting) (any, error) {
	if r.by == "" {
		return r, nil
	}
	id, err := s.named(lab.KindDevice, r.by)
	r.id = id
	return r, err
}

// handedOut are the addresses that are handed out: handed out .100-.178 by gate.
func handedOut() fact {
	const example = "handed out 10.20.0.100-10.20.0.178"
	show := func(_ *lab.Lab, b box) string {
		s := b.(*lab.Subnet)
		var said []string
		for _, r := range s.Ranges {
			said = append(said, ipText(r.From, s.CIDR)+"-"+ipText(r.To, s.CIDR))
		}
		return strings.Join(said, " and ")
	}
	return fact{of: ofSubnet, name: "handed out", field: "handed_out", words: []string{"handed out", "hands out", "dhcp", "dhcp range"},
		example: example, show: show,
		write: func(l *lab.Lab, b box) string {
			said := show(l, b)
			if said == "" {
				return ""
			}
			if by := b.(*lab.Subnet).By; by != "" {
				said += " by " + refsOf(l).name(by)
			}
			return "handed out " + said
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var r ranges
			if by := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("by") || t.Is("from") }); by >= 0 && by < len(tokens)-1 {
				r.by, tokens = calledIn(tokens[by+1:]), tokens[:by]
			}
			for piece := range text.Cut(withCommas(tokens)) {
				one, err := readRange(piece)
				if err != nil {
					return nil, fmt.Errorf("%w; write it such as %s", err, example)
				}
				r.list = append(r.list, one)
			}
			return r, nil
		},
		set: func(b box, v any) {
			s := b.(*lab.Subnet)
			r, _ := v.(ranges)
			s.Ranges = nil
			for _, one := range r.list {
				s.Ranges = append(s.Ranges, lab.Range{From: one[0].in(s.CIDR), To: one[1].in(s.CIDR)})
			}
			if r.id != "" {
				s.By = r.id
			}
		}}
}

// readRange reads addresses from one to another: .100-.178, .100 to .178.
func readRange(tokens []text.Token) (r [2]ip, err error) {
	said := strings.Join(slices.DeleteFunc(strings.FieldsFunc(text.Joined(tokens), func(r rune) bool {
		return strings.ContainsRune(" -–", r)
	}), func(w string) bool { return w == "to" }), "-")
	from, to, isRange := strings.Cut(said, "-")
	if !isRange {
		to = from
	}
	for i, end := range []string{from, to} {
		if _, bare := strconv.Atoi(end); bare == nil {
			end = "." + end
		}
		if r[i], err = readIP(end); err != nil {
			return r, err
		}
	}
	return r, nil
}

// handedOutBy is who hands out addresses.
func handedOutBy() fact {
	f := reference(ofSubnet, lab.KindDevice, "who hands addresses out", "handed_out_by_id", []string{"handed out by", "dhcp by", "by"},
		func(s *lab.Subnet) *lab.ID { return &s.By }).optional()
	f.example = "handed out by gate"
	alone := f.write
	f.write = func(l *lab.Lab, b box) string {
		if len(b.(*lab.Subnet).Ranges) > 0 {
			return "" // said with the ranges
		}
		return alone(l, b)
	}
	return f
}

// nameServers are the devices that answer for names, in the order in which they
// are asked.
func nameServers[R any](of scope, at func(*R) *[]lab.ID) fact {
	show := func(between string) func(*lab.Lab, box) string {
		return func(l *lab.Lab, b box) string {
			var said []string
			for _, id := range *at(b.(*R)) {
				said = append(said, refsOf(l).name(id))
			}
			return strings.Join(said, between)
		}
	}
	written := show(" and ")
	return fact{of: of, name: "name servers", field: "name_server_ids", words: []string{"name servers", "name server", "dns", "dns servers"},
		example: "name servers finch and gate", maybe: true, names: lab.KindDevice, show: show(", "),
		write: func(l *lab.Lab, b box) string {
			if s := written(l, b); s != "" {
				return "name servers " + s
			}
			return ""
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list severalNamed
			for phrase := range text.Cut(withCommas(tokens)) {
				list = append(list, named{lab.KindDevice, calledIn(phrase)})
			}
			if len(list) == 0 {
				return nil, errors.New("name the devices, such as name servers finch and gate")
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.ID)
			*at(b.(*R)) = list
		}}
}

// addressSaid is an address of a device as a line says it.
type addressSaid struct {
	ip
	is   lab.Address
	port string
}

// addressesSaid are several; which port each is on, and what the beginning of one
// is of which the end was written, is known when the text is loaded.
type addressesSaid []addressSaid

// late values wait until all of the text is loaded.
func (addressesSaid) late() {}

func (list addressesSaid) in(s setting) (any, error) {
	d, _ := s.of.(lab.Device)
	ports := s.lab.PortsOf(d)
	var all []lab.Address
	for _, said := range list {
		a := said.is
		var err error
		if a.Address, err = said.whole(s.lab); err != nil {
			return nil, err
		}
		if said.port != "" {
			key, found := ports.Find(said.port)
			if !found && ports.Known {
				return nil, fmt.Errorf("“%s” has no port “%s”; it has %s", text.Short(d.Title()), text.Short(said.port), ports.Words())
			}
			a.Port = said.port
			if found {
				a.Port = key
			}
		}
		all = append(all, a)
	}
	return all, nil
}

// whole is an address of which the end was written, where it can be in one subnet
// alone.
func (a ip) whole(l *lab.Lab) (netip.Addr, error) {
	if a.tail == nil {
		return a.addr, nil
	}
	var may []string
	var one netip.Addr
	for s := range lab.Each[lab.Subnet](l) {
		if is := a.in(s.CIDR); is.IsValid() && s.CIDR.Contains(is) && !slices.Contains(may, is.String()) {
			may, one = append(may, is.String()), is
		}
	}
	said := "." + strings.Trim(strings.Join(strings.Fields(fmt.Sprint(a.tail)), "."), "[]")
	switch len(may) {
	case 0:
		return one, fmt.Errorf("%s is the end of an address, and no subnet is known that it could be in; write all of it", said)
	case 1:
		return one, nil
	}
	const few = 4
	return one, fmt.Errorf("%s may be %s; write all of it", said, lab.Either(may, few))
}

// deviceAddresses are the addresses of a device: address 10.20.0.9 on mgmt reserved
// mac 02:4e:00:00:20:09 named "anvil-console".
func deviceAddresses() fact {
	const example = "address 10.20.0.12"
	at := func(b box) *[]lab.Address { return &b.(*lab.Device).Addresses }
	show := func(word string) func(*lab.Lab, box) string {
		return func(_ *lab.Lab, b box) string {
			var said []string
			for _, a := range *at(b) {
				said = append(said, word+AddressText(a))
			}
			return strings.Join(said, ", ")
		}
	}
	return fact{of: scope(lab.KindDevice), name: "addresses", field: "addresses", words: []string{"address", "addresses", "ip", "ip address"},
		example: example, many: true, adds: true, maybe: true, show: show(""), write: show("address "),
		matches: func(tokens []text.Token) bool { return looksLikeIP(tokens[0]) },
		read: func(tokens []text.Token, _ bool) (any, error) {
			list, err := readEach(tokens, readAddress)
			if list == nil {
				return nil, err
			}
			return addressesSaid(list), nil
		},
		set: func(b box, v any) {
			addEach(at(b), v, func(was, is lab.Address) (lab.Address, bool) {
				same := was.Address == is.Address && (was.Port == is.Port || was.Port == "" || is.Port == "")
				is.Port = cmp.Or(is.Port, was.Port)
				return is, same
			})
		}}
}

// readAddress reads one address and what is said of it.
func readAddress(tokens []text.Token) (addressSaid, error) {
	a := addressSaid{is: lab.Address{How: lab.FixedAddress}}
	if plainWords(tokens[:1]) == "address" {
		tokens = tokens[1:]
	}
	if len(tokens) == 0 {
		return a, errors.New("say which address, such as address 10.20.0.12")
	}
	var err error
	if a.ip, err = readIP(tokens[0].Text); err != nil {
		return a, err
	}
	for tokens = tokens[1:]; len(tokens) > 0; tokens = tokens[1:] {
		switch said := tokens[0]; {
		case said.Is("fixed") || said.Is("static"):
			a.is.How = lab.FixedAddress
		case said.Is("reserved") || said.Is("reservation"):
			a.is.How = lab.ReservedAddress
		case said.Is("dhcp") || said.Is("dynamic") || said.Is("out"):
			a.is.How = lab.HandedOutAddress
		case said.Is("by") || said.Is("handed") || said.Is("address") || said.Is("port") || said.Is("a"):
		case len(tokens) == 1:
			return a, fmt.Errorf("“%s” says nothing of an address; write on and a port, reserved, handed out, mac and one, or named and a name",
				text.Short(said.Text))
		case said.Is("on") || said.Is("at"):
			tokens = tokens[1:]
			if tokens[0].Is("port") && len(tokens) > 1 {
				tokens = tokens[1:]
			}
			a.port = tokens[0].Text
		case said.Is("mac"):
			a.is.MAC, tokens = AsMAC(tokens[1].Text), tokens[1:]
		case said.Is("named") || said.Is("name") || said.Is("called"):
			a.is.Name, tokens = strings.TrimSpace(tokens[1].Text), tokens[1:]
		default:
			return a, fmt.Errorf("“%s” says nothing of an address; write on and a port, reserved, handed out, mac and one, or named and a name",
				text.Short(said.Text))
		}
	}
	return a, nil
}

// AddressText is an address as a line says it: 10.20.0.9 on mgmt reserved.
func AddressText(a lab.Address) string {
	s := a.Address.String()
	if a.Port != "" {
		port := a.Port
		if !bareKey.MatchString(port) {
			port = text.Quote(port)
		}
		s += " on " + port
	}
	if a.How != lab.FixedAddress {
		s += " " + a.How.Words()
	}
	if a.MAC != "" {
		s += " mac " + a.MAC
	}
	if a.Name != "" {
		s += " named " + text.Quote(a.Name)
	}
	return s
}

// linkAddresses are the two addresses of a link that is a network of its own: with
// 192.168.99.1 and 192.168.99.2.
func linkAddresses() fact {
	const example = "with 192.168.99.1 and 192.168.99.2"
	one := func(a netip.Addr) string {
		if !a.IsValid() {
			return "?"
		}
		return a.String()
	}
	show := func(_ *lab.Lab, b box) string {
		c := b.(*lab.Cable)
		if !c.AddressA.IsValid() && !c.AddressB.IsValid() {
			return ""
		}
		return one(c.AddressA) + " and " + one(c.AddressB)
	}
	return fact{of: ofCable, name: "addresses of its ends", field: "address_a", words: []string{"with"}, example: example, pattern: "with %s",
		maybe: true, show: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var ends []netip.Addr
			for _, t := range tokens {
				if t.Is("and") || t.Kind == text.Separator {
					continue
				}
				if t.Kind == text.Unknown {
					ends = append(ends, netip.Addr{})
					continue
				}
				a, err := readIP(t.Text)
				if err != nil || a.tail != nil {
					return nil, fmt.Errorf("“%s” is not an address; write both ends', such as %s", text.Short(t.Text), example)
				}
				ends = append(ends, a.addr)
			}
			const both = 2
			if len(ends) != both {
				return nil, fmt.Errorf("a link has an address at either end; write both, such as %s", example)
			}
			return [both]netip.Addr(ends), nil
		},
		set: func(b box, v any) {
			c, ends := b.(*lab.Cable), [2]netip.Addr{}
			ends, _ = v.([2]netip.Addr)
			c.AddressA, c.AddressB = ends[0], ends[1]
		}}
}
