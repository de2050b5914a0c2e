// Package network works out what the cables of a lab carry: how far each VLAN
// reaches and in how many pieces, which links of a loop rest, what aggregated
// links carry together. Everything starts from the links that the wiring has, so
// that no picture of it can say what the cables do not.
//
// Only what bridges by its kind passes frames on; a server, a NAS or a PC ends a
// link however many ports it has. Speeds are Mbit/s.
package network

import (
	"cmp"
	"slices"
	"sync"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Role is what a device does with the frames that come in.
type Role int8

// A device ends links, passes frames on as they come, or switches them by their
// VLAN. What does not run does nothing.
const (
	Ends Role = iota
	Passes
	Switches
	Idle
)

// Network is how the devices of a lab pass frames to each other. It is worked out
// once for a lab and then only read.
type Network struct {
	lab      *lab.Lab
	w        *cabling.Wiring
	nodes    []node // by a device's number in the wiring
	links    []Link
	mesh     *mesh
	clouds   []cloud
	switches []int32 // the devices that switch by VLAN
	said     []carry // what ports carry, each once; see open and nothing
	byCarry  map[carry]int32
	vlans    []VLAN
	byVLAN   map[vlanKey]int32
	all      map[string][]int32 // every VLAN of a domain

	spreads func() []Spread
	spans   func() []*spanning
	trees   func() []Tree
	groups  func() []Group
	bridged func() bridging
	tips    func() map[cabling.Tip]int32
	crossed func() *crossing
	hung    func() Threads
	needed  func() *needing
}

// node is one device in the network.
type node struct {
	role    Role
	domain  string
	def     bool  // the domain is its own, whatever it is linked to
	at      int32 // among the nodes of a spread: of a cloud, its number
	marks   []int32
	named   map[string]int32 // what is said of the air, by the end's name
	rest    int32            // of ports of which nothing is said
	hasSaid bool             // something is said of VLANs on it
	routes  bool             // it is a router or a firewall
	modem   bool             // a line from outside ends in it
	through bool             // what comes in over one of its links goes on: it bridges, routes, or is a modem
}

// Link is a link of the wiring, or the air between an access point and a guest.
type Link struct {
	cabling.Link
	// Guest is the wireless network whose guest one end is; the other sends it.
	Guest lab.ID
	guest int  // the number of that network's VLAN, 0 while unknown
	lost  bool // it is not known which of several wireless networks this is
	vlans []over
}

// over is a VLAN that a link carries, and how at either end.
type over struct {
	vlan             int32
	taggedA, taggedB bool
}

// cloud is what passes frames on as they come, and is linked to one another: it
// treats all frames alike.
type cloud struct {
	devices []int32
	links   []int32 // within it, and to what takes whatever comes
	// sent are the VLANs of the wireless networks that access points in it send:
	// those they put on their ports however they come there.
	sent map[int]bool
}

// carry is what one port carries.
type carry struct {
	untagged int
	tagged   lab.VLANs
}

// Two carries that list no VLANs: whatever comes, and nothing.
const (
	anything int32 = iota
	nothing
)

type vlanKey struct {
	domain string
	number int
}

// VLAN is one of the networks that share the cables, declared or only used.
type VLAN struct {
	Number int
	Domain string
	Record lab.VLAN // its ID is "" where nobody declared it
}

// Title is what a person calls the VLAN: "20 servers", and its domain where that
// does not go without saying.
func (v VLAN) Title() string {
	say := string(lab.VLANNumber(v.Number))
	if v.Record.Name != "" {
		say += " " + v.Record.Name
	}
	if v.Domain != "" {
		say += " (" + v.Domain + ")"
	}
	return say
}

// Of is the network of a lab, worked out once for as long as the lab is kept.
func Of(l *lab.Lab) *Network { return lab.Derived(l, build) }

func build(l *lab.Lab) *Network {
	n := &Network{lab: l, w: cabling.Of(l), said: []carry{{}, {}}, byCarry: map[carry]int32{}, byVLAN: map[vlanKey]int32{}}
	n.spreads = sync.OnceValue(n.spread)
	n.spans = sync.OnceValue(n.span)
	n.trees = sync.OnceValue(n.workOut)
	n.groups = sync.OnceValue(n.aggregate)
	n.bridged = sync.OnceValue(n.bridge)
	n.tips = sync.OnceValue(n.byTip)
	n.crossed = sync.OnceValue(n.cross)
	n.hung = sync.OnceValue(n.hang)
	n.needed = sync.OnceValue(n.needing)
	n.nodes = make([]node, n.w.DeviceCount())
	for i := range n.nodes {
		n.nodes[i] = n.nodeOf(int32(i))
	}
	for _, l := range n.w.Links() {
		n.links = append(n.links, Link{Link: l})
	}
	n.guests()
	n.mesh = n.joined()
	n.gather()
	n.mix()
	n.declare()
	n.fill()
	return n
}

// nodeOf is what a device does, and what is said of its ports.
func (n *Network) nodeOf(i int32) node {
	d := n.w.DeviceAt(i)
	is := node{role: Ends, domain: d.Domain, at: -1, rest: anything}
	is.hasSaid = d.Untagged != "" || d.Tagged != "" ||
		slices.ContainsFunc(d.Marks, func(m lab.PortMark) bool { return m.Untagged != "" || m.Tagged != "" || m.Routed })
	managed := n.lab.SpecOf(*d).Managed
	is.routes = d.Routes()
	is.modem = d.IsModem() && (d.State == lab.Running || d.State == lab.Resting) // a second line rests until the first one fails
	is.through = is.modem || d.State == lab.Running && (is.routes || d.Passes())
	switch {
	case d.Passes() && d.State != lab.Running:
		is.role = Idle
	case d.Passes() && (!is.hasSaid || managed == lab.Unmanaged || d.Kind == lab.Hub || d.Kind == lab.PoEInjector):
		is.role = Passes
		return is
	case d.Passes():
		is.role, is.def = Switches, true
	case is.routes && is.hasSaid && d.State == lab.Running:
		is.role, is.def = Switches, d.Domain != ""
	}
	if !is.hasSaid {
		return is
	}
	is.rest = n.carried(d.Carries(lab.PortMark{}), is.role)
	for _, m := range d.Marks {
		c := n.carried(d.Carries(m), is.role)
		if p, ok := n.w.PortNumber(i, m.Port); ok {
			if is.marks == nil {
				is.marks = slices.Repeat([]int32{is.rest}, n.w.PortCount(i))
			}
			is.marks[p] = c
		} else {
			if is.named == nil {
				is.named = map[string]int32{}
			}
			is.named[m.Port] = c
		}
	}
	return is
}

// carried is the number of what a port carries. A port of which nothing is said
// takes whatever comes, but on what switches by VLAN: there it is unknown, and so
// nothing.
func (n *Network) carried(c lab.Carried, role Role) int32 {
	switch {
	case c.Said && c.Routed:
		return nothing
	case !c.Said && role == Switches && !c.Routed:
		return nothing
	case !c.Said:
		return anything
	}
	key := carry{c.Untagged, c.Tagged}
	if key == (carry{}) {
		return nothing
	}
	if at, known := n.byCarry[key]; known {
		return at
	}
	n.said = append(n.said, key)
	n.byCarry[key] = int32(len(n.said) - 1)
	return n.byCarry[key]
}

// at is what the end of a link carries.
func (n *Network) at(l *Link, t cabling.Tip) int32 {
	if l.Air != nil {
		if c := l.Air.Carries(); c.Said {
			return n.carried(c, Switches)
		}
	}
	is := &n.nodes[t.Device]
	switch c, named := is.named[t.Air]; {
	case is.role == Idle:
		return nothing
	case is.role == Passes:
		return anything
	case t.Plugged() && is.marks != nil:
		return is.marks[t.Port]
	case named && !t.Plugged():
		return c
	}
	return is.rest
}

// gather finds what passes frames on as they come and is linked to one another.
func (n *Network) gather() {
	sets := newSets(len(n.nodes))
	for i := range n.links {
		l := &n.links[i]
		if !l.Down && l.Guest == "" && n.isCloud(l.A.Device) && n.isCloud(l.B.Device) && n.at(l, l.A) == anything {
			sets.join(l.A.Device, l.B.Device)
		}
	}
	number := map[int32]int32{}
	for i := range n.nodes {
		switch is := &n.nodes[i]; is.role {
		case Passes:
			root := sets.root(int32(i))
			if _, known := number[root]; !known {
				number[root] = int32(len(n.clouds))
				n.clouds = append(n.clouds, cloud{})
			}
			is.at = number[root]
			n.clouds[is.at].devices = append(n.clouds[is.at].devices, int32(i))
		case Switches:
			is.at = int32(len(n.switches))
			n.switches = append(n.switches, int32(i))
		}
	}
	for i := range n.links {
		l := &n.links[i]
		if l.Down || l.lost || l.Guest != "" {
			continue
		}
		a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
		if n.at(l, l.A) != anything || n.at(l, l.B) != anything {
			continue
		}
		switch {
		case a.role == Passes:
			n.clouds[a.at].links = append(n.clouds[a.at].links, int32(i))
		case b.role == Passes:
			n.clouds[b.at].links = append(n.clouds[b.at].links, int32(i))
		}
	}
}

func (n *Network) isCloud(device int32) bool { return n.nodes[device].role == Passes }

// declare lists the VLANs there are: those that are declared, and those that
// ports are said to carry.
func (n *Network) declare() {
	seen := map[vlanKey]lab.VLAN{}
	for v := range lab.Each[lab.VLAN](n.lab) {
		seen[vlanKey{v.Domain, v.Number}] = v
	}
	use := func(domain string, at int32) {
		for number := range n.said[at].numbers {
			if key := (vlanKey{domain, number}); seen[key].Number == 0 {
				seen[key] = lab.VLAN{Number: number, Domain: domain}
			}
		}
	}
	used := map[domainCarry]bool{}
	for i := range n.nodes {
		is := &n.nodes[i]
		for _, at := range append(slices.Clone(is.marks), is.rest) {
			used[domainCarry{is.domain, at}] = used[domainCarry{is.domain, at}] || is.def
		}
	}
	for i := range n.links { // what has no domain of its own is in that of what it is linked to
		l := &n.links[i]
		a, b := &n.nodes[l.A.Device], &n.nodes[l.B.Device]
		used[domainCarry{n.domain(a, b), n.at(l, l.A)}] = true
		used[domainCarry{n.domain(a, b), n.at(l, l.B)}] = true
	}
	for of, surely := range used {
		if surely {
			use(of.domain, of.at)
		}
	}
	keys := make([]vlanKey, 0, len(seen))
	for key := range seen {
		keys = append(keys, key)
	}
	slices.SortFunc(keys, func(a, b vlanKey) int { return cmp.Or(cmp.Compare(a.domain, b.domain), a.number-b.number) })
	n.all = map[string][]int32{}
	for _, key := range keys {
		n.vlan(key, seen[key])
	}
}

// domainCarry is what ports carry that are in a domain.
type domainCarry struct {
	domain string
	at     int32
}

// domain is the one that a link between two devices is in, as far as it goes
// without what is beyond them.
func (n *Network) domain(a, b *node) string {
	switch {
	case a.def:
		return a.domain
	case b.def:
		return b.domain
	}
	return cmp.Or(a.domain, b.domain)
}

// numbers goes through the VLANs that are listed.
func (c carry) numbers(yield func(int) bool) {
	if c.untagged > 0 && !yield(c.untagged) {
		return
	}
	c.tagged.Numbers()(yield)
}

// vlan is the number of a VLAN among those of the network, which it may be the
// first to speak of.
func (n *Network) vlan(key vlanKey, record lab.VLAN) int32 {
	if at, known := n.byVLAN[key]; known {
		return at
	}
	at := int32(len(n.vlans))
	v := VLAN{Number: key.number, Domain: key.domain}
	if record.ID != "" {
		v.Record = record
	}
	n.vlans = append(n.vlans, v)
	n.byVLAN[key] = at
	n.all[key.domain] = append(n.all[key.domain], at)
	return at
}

// VLANs lists the VLANs there are, by domain and number, each with its number in
// this list.
func (n *Network) VLANs() []VLAN { return n.vlans }

// Links lists the links there are; their numbers are those in this list.
func (n *Network) Links() []Link { return n.links }

// Wiring is what the network runs over.
func (n *Network) Wiring() *cabling.Wiring { return n.w }

// RoleOf is what a device does with frames.
func (n *Network) RoleOf(device int32) Role { return n.nodes[device].role }
