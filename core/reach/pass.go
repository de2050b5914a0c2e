package reach

import (
	"cmp"
	"fmt"
	"slices"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/network"
)

// Side is where packets come from or go to: what rules may speak of it as, and where it
// is in the network.
type Side struct {
	Device lab.Device // its ID is "" for a network or a way in
	ends   []lab.Endpoint
	place  place
}

// Passage is whether packets get from one side to another.
type Passage struct {
	OK  bool
	By  string     // by what they do: "over gate"
	Why string     // what stops them, without a full stop
	Fix string     // the least change that lets them through, as a sentence; "" where none is known
	Put lab.Record // and as the record that would, without an ID; nil where that is none
}

// SideOf is a VLAN, a subnet, a device, a remote access or everything outside.
func (r *Routing) SideOf(e lab.Endpoint) Side {
	if d, ok := r.lab.Get(e.Key()).(lab.Device); ok {
		return r.SideOfDevice(d)
	}
	s := Side{ends: []lab.Endpoint{e}, place: r.placeOf(e)}
	if e.Kind != lab.EndpointKind(lab.KindRemoteAccess) { // which a rule speaks of by itself
		s.ends = append(s.ends, r.netsOf(s.place.segments, e)...)
	}
	return s
}

// SideOfDevice is a device, which is also in the networks that it has addresses in.
func (r *Routing) SideOfDevice(d lab.Device) Side {
	s := Side{Device: d, ends: []lab.Endpoint{lab.EndpointOf(d.Key())}, place: r.placeOfDevice(d)}
	if at := r.lab.AnswersAs(d); at.ID != d.ID {
		s.ends = append(s.ends, lab.EndpointOf(at.Key()))
	}
	s.ends = append(s.ends, r.netsOf(s.place.segments, lab.Endpoint{})...)
	return s
}

// netsOf are the VLANs and subnets of segments, as rules speak of them.
func (r *Routing) netsOf(segments []int, but lab.Endpoint) []lab.Endpoint {
	var list []lab.Endpoint
	add := func(e lab.Endpoint) {
		if e != but && !slices.Contains(list, e) {
			list = append(list, e)
		}
	}
	for _, at := range segments {
		v := r.nets[at].vlan
		if id, ok := r.lab.Having(lab.KindVLAN, lab.VLANKey(v.Number, v.Domain)); ok && v.Number > 0 {
			add(lab.EndpointOf(lab.Key{Kind: lab.KindVLAN, ID: id}))
		}
		for _, i := range r.nets[at].subnets {
			s := r.plan.Subnets()[i]
			add(lab.EndpointOf(s.Key()))
		}
	}
	return list
}

// Bad says why a side is nowhere in the network, "" where it is somewhere.
func (s Side) Bad() string { return s.place.bad }

// NameServers are what a side asks for names, in their order.
func (r *Routing) NameServers(s Side) []lab.ID {
	var list []lab.ID
	for _, at := range s.place.segments {
		for _, i := range r.nets[at].subnets {
			for _, id := range r.plan.NameServers(i) {
				if !slices.Contains(list, id) {
					list = append(list, id)
				}
			}
		}
		if v := r.nets[at].vlan; len(r.nets[at].subnets) == 0 && v.Number > 0 {
			if id, ok := r.lab.Having(lab.KindVLAN, lab.VLANKey(v.Number, v.Domain)); ok {
				is, _ := lab.Find[lab.VLAN](r.lab, id)
				list = append(list, is.NameServers...)
			}
		}
	}
	return list
}

// Rule is the rule that holds between two sides: what is said of devices comes before
// what is said of the networks that they are in. ok is false where nobody said anything.
func (r *Routing) Rule(from, to Side) (rule lab.Rule, ok bool) {
	for _, a := range from.ends {
		for _, b := range to.ends {
			if rule, ok = r.rules[[2]lab.Endpoint{a, b}]; ok {
				return rule, true
			}
		}
	}
	return lab.Rule{}, false
}

// Pass is whether packets get from one side to a device, over the cables, VLANs, routers
// and rules that are written down. what is what they are for, in a word, "" while unknown;
// may tells of a rule that lets some through, in words of its own, whether that is among
// them. Within one network no rule is asked, but for what comes in by a remote access: that
// goes through a router first.
func (r *Routing) Pass(from, to Side, what string, may func(rule string) bool) Passage {
	switch {
	case from.place.bad != "":
		return Passage{Why: from.place.bad}
	case to.place.bad != "":
		return Passage{Why: to.place.bad, Fix: "Give " + to.Device.Title() + " an address."}
	case from.Device.ID != "" && r.lab.AnswersAs(from.Device).ID == r.lab.AnswersAs(to.Device).ID:
		return Passage{OK: true, By: "within " + r.lab.AnswersAs(to.Device).Title()}
	}
	for _, side := range []Side{from, to} {
		if off, fix := r.offAll(side); off != "" {
			return Passage{Why: off, Fix: fix}
		}
	}
	for _, at := range from.place.segments {
		if slices.Contains(to.place.segments, at) && from.ends[0].Kind != lab.EndpointKind(lab.KindRemoteAccess) {
			if why := r.apart(at, from.Device, to.Device); why != "" {
				return Passage{Why: why, Fix: "Join the pieces: carry " + r.nets[at].title + " on a link between them."}
			}
			return Passage{OK: true, By: "both are in " + r.nets[at].title}
		}
	}
	rule, said := r.Rule(from, to)
	if said && (rule.Says == lab.ReachNone || rule.Says == lab.ReachSome && rule.What != "" && !may(rule.What)) {
		return r.ruledOut(from, to, rule, what)
	}
	is := r.reaches(from.ends[0], to.ends[0], from.place, to.place, "", nil)
	if !is.ok {
		return Passage{Why: is.why}
	}
	p := Passage{OK: true, By: is.why}
	if said && rule.Says == lab.ReachSome {
		p.By += ", as " + r.ruleWords(rule)
	} else if !said {
		p.By += "; no rule is written down"
	}
	return p
}

// ruledOut is a passage that a rule stops, unless something leads round it. What lets
// it through at the least is a rule for that device alone.
func (r *Routing) ruledOut(from, to Side, rule lab.Rule, what string) Passage {
	for _, x := range from.place.segments {
		for _, y := range to.place.segments {
			if why := r.mixed[[2]int{x, y}]; why != "" {
				return Passage{OK: true, By: why + ", past the rule " + r.ruleWords(rule)}
			}
		}
	}
	begins, target := *rule.From, to.ends[0]
	put := lab.Rule{From: &begins, To: &target, Says: lab.ReachSome, What: what}
	if rule.To.Kind == target.Kind { // it is about the device already
		if target = *rule.To; rule.Says == lab.ReachSome && what != "" {
			put.What = rule.What + " and " + what
		}
	}
	fix := fmt.Sprintf("Let %s reach %s", r.lab.EndpointWords(begins), r.lab.EndpointWords(target))
	if what == "" {
		put.Says = lab.ReachAll
	} else {
		fix += fmt.Sprintf(" for “%s”, and nothing else there", what)
	}
	return Passage{Why: r.ruleWords(rule), Put: put, Fix: fix + "."}
}

// ruleWords is a rule in a sentence without its full stop.
func (r *Routing) ruleWords(rule lab.Rule) string {
	from, to := r.lab.EndpointWords(*rule.From), r.lab.EndpointWords(*rule.To)
	switch {
	case rule.Says == lab.ReachNone:
		return fmt.Sprintf("a rule lets %s reach nothing of %s", from, to)
	case rule.What != "":
		return fmt.Sprintf("a rule lets %s reach only “%s” of %s", from, rule.What, to)
	}
	return fmt.Sprintf("a rule lets %s reach some of %s", from, to)
}

// offAll says why frames get to none of a device's networks, and what would bring them
// there; "" where they do, or where that is not known.
func (r *Routing) offAll(s Side) (why, fix string) {
	if s.Device.ID == "" {
		return "", ""
	}
	at := r.lab.AnswersAs(s.Device)
	host, _ := r.lab.HostOf(at)
	for _, segment := range s.place.segments {
		leg := r.legIn(host, segment)
		if leg.Off == "" {
			return "", ""
		}
		why = cmp.Or(why, leg.Off)
		if n, ok := r.net.Wiring().Number(host.ID); ok && fix == "" {
			if _, edits := r.net.Lacks(n, r.nets[segment].vlan.Number); len(edits) > 0 {
				fix = r.net.Say(edits)
			}
		}
	}
	return why, fix
}

// apart says that two devices are in different pieces of one VLAN, "" where they are not,
// or where that is not known.
func (r *Routing) apart(segment int, a, b lab.Device) string {
	v := r.nets[segment].vlan
	hostA, okA := r.lab.HostOf(a)
	hostB, okB := r.lab.HostOf(b)
	x, inA := r.net.Wiring().Number(hostA.ID)
	y, inB := r.net.Wiring().Number(hostB.ID)
	if v.Number == 0 || a.ID == "" || b.ID == "" || !okA || !okB || !inA || !inB || x == y {
		return ""
	}
	atA, atB := -1, -1
	for i, p := range r.piecesOf(v) {
		if p.Has(x) {
			atA = i
		}
		if p.Has(y) {
			atB = i
		}
	}
	if atA < 0 || atB < 0 || atA == atB {
		return ""
	}
	return fmt.Sprintf("%s and %s are in different pieces of %s", hostA.Title(), hostB.Title(), r.nets[segment].title)
}

func (r *Routing) piecesOf(v address.VLAN) []network.Piece {
	for _, s := range r.net.Spreads() {
		if vlanOf(s.VLAN) == v {
			return s.Pieces
		}
	}
	return nil
}

// FromOutside is whether something outside gets at a port of a device, 0 for any: over
// what is open on a line.
func (r *Routing) FromOutside(to lab.Device, port int) Passage {
	at := r.lab.AnswersAs(to)
	if in := r.comesIn(); !in.ok {
		return Passage{Why: in.why, Fix: "Lead the name through a tunnel that is opened from inside."}
	}
	other := ""
	for _, w := range r.lines {
		if w.Address == lab.SharedLine || w.Out == lab.LineOut {
			continue
		}
		for _, o := range r.lab.OpeningsOf(w) {
			switch {
			case o.Device != to.ID && o.Device != at.ID:
			case port == 0 || o.From <= port && port <= max(o.From, o.To):
				return Passage{OK: true, By: r.lab.OpeningWords(o)}
			default:
				other = r.lab.OpeningWords(o)
			}
		}
	}
	p := Passage{Why: "nothing is open that leads to " + at.Title()}
	if other != "" {
		p.Why = fmt.Sprintf("%s is open and leads to %s, and port %d is not", other, at.Title(), port)
	}
	for _, w := range r.lines {
		if w.Address != lab.SharedLine && w.Out != lab.LineOut && w.Closed != lab.NothingOpen && port > 0 {
			p.Put = lab.Opening{Line: w.ID, Proto: lab.TCP, From: port, Device: at.ID}
			p.Fix = fmt.Sprintf("Open tcp %d on %s for %s, or lead the name through a tunnel.", port, w.Title(), at.Title())
			break
		}
	}
	return p
}

// Outside is whether a side gets outside.
func (r *Routing) Outside(from Side) Passage {
	if from.place.bad != "" {
		return Passage{Why: from.place.bad}
	}
	rule, said := r.Rule(from, Side{ends: []lab.Endpoint{{Kind: lab.Internet}}})
	if said && rule.Says == lab.ReachNone {
		return Passage{Why: r.ruleWords(rule)}
	}
	why := ""
	for _, at := range from.place.segments {
		is := r.outside(at, rule.Only)
		if is.ok {
			return Passage{OK: true, By: is.why}
		}
		why = cmp.Or(why, is.why)
	}
	return Passage{Why: why}
}

// Empty reports whether nothing is said of a side.
func (s Side) Empty() bool { return s.ends == nil }
