package server

import (
	"bytes"
	"errors"
	"net/netip"
	"net/url"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/reach"
	"levelstaff/core/report"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
	"levelstaff/exchange"
)

// addressRoutes are those about addresses, names and who reaches whom.
func (s *Server) addressRoutes() []route {
	get, post := fiber.MethodGet, fiber.MethodPost
	list := []route{
		{method: get, path: "/api/v1/network/ruler", id: "getRuler", summary: "A subnet as it is drawn: who has which address", in: RulerAsk{},
			out: Ruler{}, do: s.ruler, seen: true},
		{method: get, path: "/api/v1/network/subnets", id: "getSubnetTree", summary: "Every subnet behind what it is within, and how full it is",
			out: SubnetTree{}, do: s.subnetTree, seen: true},
		{method: get, path: "/api/v1/network/names", id: "getNames", summary: "Every name and where it leads, and what answers for names",
			out: NamesThere{}, do: s.names, seen: true},
		{method: get, path: "/api/v1/devices/:id/addresses", id: "getDeviceAddresses",
			summary: "The addresses of a device, its names, and who reaches whom", in: byID{}, out: DeviceAddresses{}, do: s.deviceAddresses,
			seen: true},
		{method: post, path: "/api/v1/network/addresses", id: "postAddress",
			summary: "Give a device an address, change or take one", in: GiveAddress{},
			out: Delta{}, do: s.giveAddress, seen: true},
		{method: post, path: "/api/v1/network/renumber", id: "postRenumber",
			summary: "Give a subnet another prefix, with all that speaks of it",
			in:      Renumber{}, out: Delta{}, do: s.renumber, seen: true},
		{method: post, path: "/api/v1/network/renumber/check", id: "checkRenumber", summary: "What that would change, without doing it",
			in: Renumber{}, out: Renumbering{}, do: s.checkRenumber, seen: true},
		{method: get, path: "/api/v1/files/hosts", id: "getHosts", summary: "The names of all addresses as a hosts file", out: "", do: s.hosts,
			kind: fiber.MIMETextPlain, seen: true},
		{method: get, path: "/api/v1/files/zones/:name", id: "getZone",
			summary: "A zone for a name server (RFC 1035)", in: byName{}, out: "", do: s.zone,
			kind: fiber.MIMETextPlain, seen: true},
	}
	for _, of := range []struct {
		path, name, says string
		plan             exchange.AddressPlan
	}{
		{"address_plan", "AddressPlan", "Every address as a table", exchange.AddressPlan{}},
		{"reservations", "Reservations", "Every reserved address as a table", exchange.AddressPlan{Reserved: true}},
	} {
		list = append(list, s.planRoutes(of.path, of.name, of.says, map[string]func(*bytes.Buffer, *lab.Lab) error{
			"csv":  func(out *bytes.Buffer, l *lab.Lab) error { return of.plan.WriteCSV(out, l) },
			"xlsx": func(out *bytes.Buffer, l *lab.Lab) error { return of.plan.WriteXLSX(out, l) },
		}, of.plan.Read)...)
	}
	return list
}

// SubnetTree is all subnets, each behind what it is within.
type SubnetTree struct {
	Head
	Branches []SubnetBranch     `json:"branches" required:"true" nullable:"false"`
	Built    []report.SubnetUse `json:"built,omitempty" nullable:"false" description:"As built, where a draft is looked at"`
}

// SubnetBranch is a subnet, or of IPv6 what several have in common.
type SubnetBranch struct {
	Prefix string            `json:"prefix" required:"true"`
	Depth  int               `json:"depth" required:"true"`
	Subnet *report.SubnetUse `json:"subnet,omitempty" description:"Absent for what several have in common"`
}

func (s *Server) subnetTree(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	out := SubnetTree{Head: v.head(), Branches: []SubnetBranch{}}
	used := report.SubnetUses(v.lab)
	for _, b := range address.Of(v.lab).Tree() {
		branch := SubnetBranch{Prefix: b.Prefix.String(), Depth: b.Depth}
		if b.Subnet != address.None {
			branch.Subnet = &used[b.Subnet]
		}
		out.Branches = append(out.Branches, branch)
	}
	if v.Kind == Drafted {
		out.Built = report.SubnetUses(v.now.Lab)
	}
	return c.JSON(out)
}

type byName struct {
	Name string `path:"name"`
}

// RulerAsk is which subnet is to be drawn, and which part of it.
type RulerAsk struct {
	Subnet string `query:"subnet" description:"Its id"`
	Within string `query:"within" description:"Of a large one the part that is stepped into; all of it if left out"`
}

// Ruler is a subnet as it is drawn. An IPv6 one has a list in place of lengths.
type Ruler struct {
	Head
	Subnet  lab.ID        `json:"subnet_id" required:"true"`
	CIDR    string        `json:"cidr" required:"true"`
	Name    string        `json:"name" required:"true" description:"Of its VLAN, or what it is for"`
	VLAN    *int          `json:"vlan,omitempty"`
	Gateway string        `json:"gateway,omitempty"`
	By      string        `json:"handed_out_by,omitempty"`
	Servers []string      `json:"name_servers" required:"true" nullable:"false" description:"In the order in which they are asked"`
	Domain  string        `json:"names_end_in,omitempty"`
	Within  string        `json:"within" required:"true"`
	Up      string        `json:"up,omitempty" description:"What one steps out into"`
	Each    int           `json:"each" required:"true" description:"How many addresses a graduation stands for"`
	Lengths []RulerLength `json:"lengths" required:"true" nullable:"false"`
	Marks   []RulerMark   `json:"marks" required:"true" nullable:"false"`
	Next    string        `json:"next_free,omitempty"`
}

// RulerLength is a piece of the ruler.
type RulerLength struct {
	From   string   `json:"from" required:"true"`
	N      int      `json:"graduations" required:"true"`
	Handed [][2]int `json:"handed_out" required:"true" nullable:"false" description:"Graduations from and to"`
	Off    []int    `json:"off" required:"true" nullable:"false" description:"Those that no device may have"`
}

// RulerMark is what is at a graduation, or of IPv6 an address.
type RulerMark struct {
	Length  int         `json:"length" required:"true"`
	At      int         `json:"at" required:"true"`
	Address string      `json:"address" required:"true" description:"Or the first one it stands for"`
	N       int         `json:"n" required:"true" description:"How many addresses are had there"`
	Had     []AddressOn `json:"had" required:"true" nullable:"false" description:"Who has it, of one address"`
	Twice   bool        `json:"twice,omitempty"`
}

// AddressOn is an address that something has.
type AddressOn struct {
	Address string         `json:"address" required:"true"`
	Device  lab.ID         `json:"device_id,omitempty" description:"Absent for a gateway that no device has"`
	Title   string         `json:"title" required:"true"`
	Kind    string         `json:"kind" required:"true"`
	Port    string         `json:"port,omitempty"`
	How     lab.AddressHow `json:"how" required:"true"`
	MAC     string         `json:"mac,omitempty"`
	Name    string         `json:"name,omitempty"`
	Names   []string       `json:"names" required:"true" nullable:"false" description:"What it goes by, whole"`
	Gateway bool           `json:"gateway,omitempty"`
	Leaving bool           `json:"leaving,omitempty"`
	Twice   bool           `json:"twice,omitempty"`
	Cable   lab.ID         `json:"cable_id,omitempty" description:"Of a link outside every VLAN"`
	Subnet  lab.ID         `json:"subnet_id,omitempty"`
	CIDR    string         `json:"cidr,omitempty"`
	In      string         `json:"in,omitempty" description:"The VLAN of it, or what it is for"`
}

// described fills in what is known of addresses.
type described struct {
	lab   *lab.Lab
	plan  *address.Plan
	hosts map[hostAt][]string     // what follows from a device's name
	names map[netip.Addr][]string // and those of one's own
}

type hostAt struct {
	device  lab.ID
	address netip.Addr
}

func describing(l *lab.Lab) described {
	d := described{l, address.Of(l), map[hostAt][]string{}, map[netip.Addr][]string{}}
	for _, e := range d.plan.Hosts() {
		at := hostAt{e.From.ID, e.Address}
		d.hosts[at] = append(d.hosts[at], e.Name)
	}
	for _, r := range d.plan.Resolve() {
		for _, a := range r.Addresses {
			d.names[a] = append(d.names[a], r.Whole)
		}
	}
	return d
}

func (d described) of(h address.Had) AddressOn {
	a := h.Address.Address
	on := AddressOn{Address: a.String(), Device: h.Device, Port: lab.PortWords(h.Port), How: h.How, MAC: h.MAC, Name: h.Name,
		Names: append([]string{}, slices.Concat(d.hosts[hostAt{h.Device, a}], d.names[a])...), Cable: h.Cable,
		Twice: d.plan.Twice(h), Title: "nobody", Kind: "gateway"}
	if is, ok := lab.Find[lab.Device](d.lab, h.Device); ok {
		on.Title, on.Kind, on.Leaving = is.Title(), is.KindWords(), is.State == lab.Leaving
	}
	if h.Subnet != address.None {
		s := d.plan.Subnets()[h.Subnet]
		on.Subnet, on.CIDR, on.In, on.Gateway = s.ID, s.CIDR.String(), address.NameOf(d.lab, s), s.Gateway == a
	}
	return on
}

func (s *Server) ruler(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	d := describing(v.lab)
	id := lab.ID(c.Query("subnet"))
	n, ok := d.plan.Number(id)
	if !ok {
		return noSuch(lab.KindSubnet, id)
	}
	is := d.plan.Subnets()[n]
	by, _ := lab.Find[lab.Device](v.lab, is.By)
	out := Ruler{Head: v.head(), Subnet: is.ID, CIDR: is.CIDR.String(), Name: address.NameOf(v.lab, is), VLAN: is.VLAN, Domain: is.Names,
		Servers: titlesOf(v.lab, d.plan.NameServers(n)), Within: is.CIDR.String(), Each: 1, Lengths: []RulerLength{}, Marks: []RulerMark{}}
	if by.ID != "" {
		out.By = by.Title()
	}
	if is.Gateway.IsValid() {
		out.Gateway = is.Gateway.String()
	}
	if next := d.plan.NextFree(n); next.IsValid() {
		out.Next = next.String()
	}
	if is.CIDR.Addr().Is6() {
		d.list(&out, n)
		return c.JSON(out)
	}
	within := netip.Prefix{}
	if said := c.Query("within"); said != "" {
		if within, err = netip.ParsePrefix(said); err != nil {
			return wrongField(fiber.StatusBadRequest, "within", "%q is not a part of a subnet; write one such as 10.20.5.0/24.", said)
		}
	}
	r, err := d.plan.Ruler(n, within)
	if err != nil {
		return wrongField(fiber.StatusBadRequest, "within", "%s.", text.Capital(err.Error()))
	}
	out.Within, out.Each = r.Within.String(), 1<<r.Each
	if r.Up.IsValid() {
		out.Up = r.Up.String()
	}
	for _, l := range r.Lengths {
		out.Lengths = append(out.Lengths, RulerLength{l.From.String(), l.Graduations, append([][2]int{}, l.Handed...), append([]int{}, l.Off...)})
	}
	for _, m := range r.Marks {
		mark := RulerMark{Length: m.Length, At: m.At, Address: r.AddressAt(m).String(), N: m.N, Had: []AddressOn{}, Twice: m.Twice}
		for _, h := range m.Had {
			mark.Had = append(mark.Had, d.of(h))
		}
		out.Marks = append(out.Marks, mark)
	}
	return c.JSON(out)
}

// list puts the addresses of an IPv6 subnet behind one another.
func (d described) list(out *Ruler, n int) {
	for _, h := range d.plan.In(n) {
		on := d.of(h)
		if last := len(out.Marks) - 1; last >= 0 && out.Marks[last].Address == on.Address {
			out.Marks[last].Had = append(out.Marks[last].Had, on)
			out.Marks[last].N++
			out.Marks[last].Twice = out.Marks[last].Twice || on.Twice
			continue
		}
		out.Marks = append(out.Marks, RulerMark{Address: on.Address, N: 1, Had: []AddressOn{on}, Twice: on.Twice})
	}
}

func titlesOf(l *lab.Lab, ids []lab.ID) []string {
	list := []string{}
	for _, id := range ids {
		if d, ok := lab.Find[lab.Device](l, id); ok {
			list = append(list, d.Title())
		}
	}
	return list
}

// GiveAddress gives a device an address, or changes or takes one that it has.
type GiveAddress struct {
	Base
	Device  lab.ID         `json:"device_id" required:"true"`
	Was     string         `json:"was,omitempty" description:"The address of it that is changed; absent for one more"`
	Address string         `json:"address,omitempty" description:"Absent: the one it was is taken from it"`
	How     lab.AddressHow `json:"how,omitempty"`
	Port    *string        `json:"port,omitempty"`
	MAC     *string        `json:"mac,omitempty"`
	Name    *string        `json:"name,omitempty"`
}

func (s *Server) giveAddress(c fiber.Ctx) error {
	in, base, err := based[GiveAddress](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		d, ok := lab.Find[lab.Device](l, in.Device)
		if !ok {
			return nil, noSuch(lab.KindDevice, in.Device)
		}
		d.Addresses = slices.Clone(d.Addresses)
		i := slices.IndexFunc(d.Addresses, func(a lab.Address) bool { return a.Address.String() == in.Was })
		if in.Was != "" && i < 0 {
			return nil, problem(fiber.StatusConflict, "%s does not have %s any more.", d.Title(), in.Was)
		}
		if in.Address == "" {
			if i < 0 {
				return nil, wrongField(fiber.StatusUnprocessableEntity, "address", "Say which address, such as 10.20.0.12.")
			}
			d.Addresses = slices.Delete(d.Addresses, i, i+1)
			if len(d.Addresses) == 0 {
				d.Addresses = nil
			}
			return putting(l, d), nil
		}
		is := lab.Address{How: lab.FixedAddress}
		if i >= 0 {
			is = d.Addresses[i]
		}
		if err := in.into(l, d, &is); err != nil {
			return nil, err
		}
		if i >= 0 {
			d.Addresses[i] = is
		} else {
			d.Addresses = append(d.Addresses, is)
		}
		return putting(l, d), nil
	})
}

// into puts what is asked for into an address of a device.
func (in GiveAddress) into(l *lab.Lab, d lab.Device, is *lab.Address) error {
	a, err := netip.ParseAddr(strings.TrimSpace(in.Address))
	if err != nil {
		return wrongField(fiber.StatusUnprocessableEntity, "address", "“%s” is not an address; write one such as 10.20.0.12 or fd20:20::12.",
			text.Short(in.Address))
	}
	is.Address = a.Unmap()
	if in.How != "" {
		is.How = in.How
	}
	if in.MAC != nil {
		is.MAC = rundown.AsMAC(*in.MAC)
	}
	if in.Name != nil {
		is.Name = strings.TrimSpace(*in.Name)
	}
	if in.Port == nil {
		return nil
	}
	ports := l.PortsOf(d)
	key, found := ports.Find(*in.Port)
	switch {
	case found:
		is.Port = key
	case *in.Port != "" && ports.Known:
		return wrongField(fiber.StatusUnprocessableEntity, "port", "%s has no port “%s”; it has %s.", d.Title(), *in.Port, ports.Words())
	default:
		is.Port = *in.Port
	}
	return nil
}

func putting(l *lab.Lab, r lab.Record) []lab.Change {
	if c, ok := l.Put(r); ok {
		return []lab.Change{c}
	}
	return nil
}

// Renumber is the prefix that a subnet is to have.
type Renumber struct {
	Base
	Subnet lab.ID `json:"subnet_id" required:"true"`
	CIDR   string `json:"cidr" required:"true" maxLength:"60"`
}

// Renumbering is what that changes.
type Renumbering struct {
	Edits []rundown.Edit `json:"edits" required:"true" nullable:"false"`
}

func renumbered(l *lab.Lab, id lab.ID, to string) ([]lab.Change, error) {
	p := address.Of(l)
	n, ok := p.Number(id)
	if !ok {
		return nil, noSuch(lab.KindSubnet, id)
	}
	cidr, err := netip.ParsePrefix(strings.TrimSpace(to))
	if err != nil {
		return nil, wrongField(fiber.StatusUnprocessableEntity, "cidr", "“%s” is not a subnet; write one such as 10.21.0.0/24.", text.Short(to))
	}
	changes, err := p.Renumbered(n, cidr)
	if err != nil {
		return nil, wrongField(fiber.StatusUnprocessableEntity, "cidr", "%s.", text.Capital(err.Error()))
	}
	return changes, nil
}

func (s *Server) renumber(c fiber.Ctx) error {
	in, base, err := based[Renumber](c)
	if err != nil {
		return err
	}
	return s.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) { return renumbered(l, in.Subnet, in.CIDR) })
}

func (s *Server) checkRenumber(c fiber.Ctx) error {
	in, _, err := based[Renumber](c)
	if err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	changes, err := renumbered(v.lab, in.Subnet, in.CIDR)
	if err != nil {
		return err
	}
	after, err := v.lab.Apply(changes)
	if err != nil {
		return err
	}
	return c.JSON(Renumbering{append([]rundown.Edit{}, rundown.Edits(v.lab, after, changes)...)})
}

// NamesThere is every name and where it leads.
type NamesThere struct {
	Head
	Hosts   []HostName    `json:"hosts" required:"true" nullable:"false" description:"Names that follow from addresses"`
	Own     []OwnName     `json:"own" required:"true" nullable:"false" description:"Names of one's own"`
	Servers []NameAnswers `json:"servers" required:"true" nullable:"false" description:"What answers for names, network by network"`
	Zones   []string      `json:"zones" required:"true" nullable:"false" description:"The zones there are to be written"`
}

// HostName is the name of an address.
type HostName struct {
	Name    string `json:"name" required:"true"`
	Address string `json:"address" required:"true"`
	Device  lab.ID `json:"device_id" required:"true"`
	Title   string `json:"title" required:"true"`
}

// OwnName is a name that somebody gave.
type OwnName struct {
	ID        lab.ID         `json:"id" required:"true"`
	Name      string         `json:"name" required:"true"`
	Whole     string         `json:"whole" required:"true"`
	Through   []string       `json:"through" required:"true" nullable:"false"`
	Addresses []string       `json:"addresses" required:"true" nullable:"false"`
	To        string         `json:"to" required:"true" description:"What it leads to, hop by hop; empty where it leads nowhere"`
	End       address.Ending `json:"end" required:"true" enum:",circle,nowhere,away"`
}

// NameAnswers is what answers for names in a network.
type NameAnswers struct {
	In      string   `json:"in" required:"true"`
	Devices []string `json:"devices" required:"true" nullable:"false" description:"The first one asked first; none where it is not said"`
}

func (s *Server) names(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	p := address.Of(v.lab)
	out := NamesThere{Head: v.head(), Hosts: []HostName{}, Own: []OwnName{}, Servers: []NameAnswers{},
		Zones: append([]string{}, p.ZoneNames()...)}
	for _, e := range p.Hosts() {
		d, _ := lab.Find[lab.Device](v.lab, e.From.ID)
		out.Hosts = append(out.Hosts, HostName{e.Name, e.Address.String(), d.ID, d.Title()})
	}
	for _, r := range p.Resolve() {
		own := OwnName{ID: r.Name.ID, Name: r.Name.Name, Whole: r.Whole, Through: append([]string{}, r.Through...),
			Addresses: []string{}, End: r.End}
		for _, a := range r.Addresses {
			own.Addresses = append(own.Addresses, a.String())
			for _, h := range p.At(a) {
				if d, ok := lab.Find[lab.Device](v.lab, h.Device); ok {
					own.To = d.Title()
				}
			}
		}
		if words := v.lab.HopWords(r.Last); words != "" {
			own.To = words
		}
		out.Own = append(out.Own, own)
	}
	said := map[string]bool{}
	for i, is := range p.Subnets() {
		in := address.NameOf(v.lab, is)
		if is.VLAN == nil || in == "" {
			in = is.CIDR.String()
		}
		if !said[in] {
			said[in] = true
			out.Servers = append(out.Servers, NameAnswers{in, titlesOf(v.lab, p.NameServers(i))})
		}
	}
	return c.JSON(out)
}

// DeviceAddresses is what a device answers at, and who reaches it.
type DeviceAddresses struct {
	Addresses []AddressOn        `json:"addresses" required:"true" nullable:"false"`
	Reaches   []report.ReachCell `json:"reaches" required:"true" nullable:"false" description:"As it is said of itself or of its network"`
	ReachedBy []report.ReachCell `json:"reached_by" required:"true" nullable:"false"`
}

func (s *Server) deviceAddresses(c fiber.Ctx) error {
	v, d, err := s.device(c)
	if err != nil {
		return err
	}
	is := describing(v.lab)
	out := DeviceAddresses{[]AddressOn{}, []report.ReachCell{}, []report.ReachCell{}}
	for _, h := range is.plan.OfDevice(d.ID) {
		out.Addresses = append(out.Addresses, is.of(h))
	}
	of := reach.Of(v.lab).OfDevice(d)
	for _, cell := range of.Out {
		out.Reaches = append(out.Reaches, report.CellOf(v.lab, cell))
	}
	for _, cell := range of.In {
		out.ReachedBy = append(out.ReachedBy, report.CellOf(v.lab, cell))
	}
	return c.JSON(out)
}

func (s *Server) hosts(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := exchange.WriteHosts(&out, v.lab); err != nil {
		return err
	}
	return file(c, "hosts", fiber.MIMETextPlainCharsetUTF8, out.Bytes())
}

// zone writes a zone. Its serial is the lab's revision, which rises with each change.
func (s *Server) zone(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	name, err := url.PathUnescape(c.Params("name"))
	if err != nil {
		name = c.Params("name")
	}
	var out bytes.Buffer
	err = exchange.WriteZone(&out, v.lab, name, uint32(v.now.Revision))
	var none *exchange.NoZone
	if errors.As(err, &none) {
		return problem(fiber.StatusNotFound, "%s.", text.Capital(text.Short(none.Error())))
	}
	if err != nil {
		return err
	}
	return file(c, name+".zone", fiber.MIMETextPlainCharsetUTF8, out.Bytes())
}
