package lab

import (
	"regexp"
	"slices"
)

// Aggregate is several ports of a device that are one link together (IEEE
// 802.1AX), or of which one stands by for another.
type Aggregate struct {
	Name  string        `json:"name" required:"true" maxLength:"40"`
	Ports []string      `json:"ports" required:"true" nullable:"false" maxItems:"32"`
	Mode  AggregateMode `json:"mode" required:"true"`
}

// AggregateMode is how the ports of an aggregate share the work.
type AggregateMode string

// All of them carry, or the first does and the others stand by.
const (
	ActiveActive  AggregateMode = "active-active"
	ActiveStandby AggregateMode = "active-standby"
)

// AggregateModes lists both.
func AggregateModes() []AggregateMode { return []AggregateMode{ActiveActive, ActiveStandby} }

// Enum lists the modes for the published schema.
func (AggregateMode) Enum() []any { return anys(AggregateModes()) }

// AggregateOf finds the aggregate that a port is in; ok is false for one in none.
func (d Device) AggregateOf(port string) (a Aggregate, ok bool) {
	i := slices.IndexFunc(d.Aggregates, func(a Aggregate) bool { return slices.Contains(a.Ports, port) })
	if i < 0 {
		return Aggregate{}, false
	}
	return d.Aggregates[i], true
}

// AggregateNamed finds an aggregate by its name, whatever its case.
func (d Device) AggregateNamed(name string) (a Aggregate, ok bool) {
	i := slices.IndexFunc(d.Aggregates, func(a Aggregate) bool { return FoldName(a.Name) == FoldName(name) })
	if i < 0 {
		return Aggregate{}, false
	}
	return d.Aggregates[i], true
}

// Management is whether a switch can be told what its ports carry.
type Management string

// A switch is managed or not.
const (
	Managed   Management = "managed"
	Unmanaged Management = "unmanaged"
)

// Managements lists both.
func Managements() []Management { return []Management{Managed, Unmanaged} }

// Enum lists them for the published schema.
func (Management) Enum() []any { return anys(Managements()) }

// What a bridge's priority may be (IEEE 802.1D-2004, 17.14).
const (
	UsualPriority = 32768
	mostPriority  = 61440
	PriorityStep  = 4096
)

var macForm = regexp.MustCompile(`^[0-9a-f]{2}(:[0-9a-f]{2}){5}$`)

func (s Switching) check(f *faults) {
	f.name("switching_domain", s.Domain)
	f.untagged("untagged", s.Untagged)
	f.vlans("tagged", s.Tagged)
	if p := s.Priority; p != nil && (*p < 0 || *p > mostPriority || *p%PriorityStep != 0) {
		f.add("bridge_priority", "a bridge's priority is 0 to %d in steps of %d, not %d", mostPriority, PriorityStep, *p)
	}
	f.mac("mac", s.MAC)
	optional(f, "routing", s.Routing, []Routing{RoutesPackets, RoutesNothing})
	const most = 64
	if len(s.Aggregates) > most {
		f.add("aggregates", "has %d entries; at most %d are allowed", len(s.Aggregates), most)
	}
	in := map[string]string{}
	for i, a := range s.Aggregates {
		f.need("aggregates", a.Name)
		f.line("aggregates", a.Name, 40)
		oneOf(f, "aggregates", a.Mode, AggregateModes())
		if slices.ContainsFunc(s.Aggregates[:i], func(o Aggregate) bool { return FoldName(o.Name) == FoldName(a.Name) }) {
			f.add("aggregates", "there are two called %s; give one of them another name", quote(a.Name))
		}
		if len(a.Ports) < 2 {
			f.add("aggregates", "%s has %d port; an aggregate is 2 ports or more, such as ports 1-2", quote(a.Name), len(a.Ports))
		}
		for _, port := range a.Ports {
			f.need("aggregates", port)
			f.line("aggregates", port, 60)
			if other, twice := in[port]; twice {
				f.add("aggregates", "port %s is in %s already; a port is in one aggregate", quote(port), quote(other))
			}
			in[port] = a.Name
		}
	}
}

// checkVLANs takes what is said of the VLANs of one port.
func (d Device) checkVLANs(f *faults, m PortMark) {
	f.untagged("port_marks", m.Untagged)
	f.vlans("port_marks", m.Tagged)
	said := m.Untagged != "" || m.Tagged != "" || m.Routed
	switch {
	case said && d.Kind.Traits().Joined:
		f.add("port_marks", "port %s of %s goes through, so it carries what the ports at both ends of its trail do; say it of those",
			quote(m.Port), quote(d.Title()))
	case m.Routed && (m.Untagged != "" || m.Tagged != ""):
		f.add("port_marks", "port %s is routed, so it carries no VLAN; remove the one or the other", quote(m.Port))
	}
}
