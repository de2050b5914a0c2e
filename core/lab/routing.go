package lab

import "net/netip"

// VirtualRouter is a routing table of its own on a device, with VLANs and routes
// that its others do not see.
type VirtualRouter struct {
	ID      ID     `json:"id" required:"true"`
	Name    string `json:"name" required:"true" maxLength:"80" lab:"name"`
	Device  ID     `json:"device_id,omitempty" description:"What it runs on"`
	VLANs   VLANs  `json:"vlans,omitempty" maxLength:"10000" description:"Those it has legs in"`
	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes   string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (v VirtualRouter) Key() Key { return Key{KindVirtualRouter, v.ID} }

// Title implements Record.
func (v VirtualRouter) Title() string { return titleOr(v.Name, "a virtual router") }

// Refs implements Record.
func (v VirtualRouter) Refs() []Ref {
	if v.Device == "" {
		return nil
	}
	return []Ref{{"device_id", Key{KindDevice, v.Device}, GoAlong}}
}

func (v VirtualRouter) uniques() []Unique { return byName(v.Name) }

func (v VirtualRouter) check(f *faults) {
	f.id(v.ID)
	f.need("name", v.Name)
	f.name("name", v.Name)
	f.vlans("vlans", v.VLANs)
	f.line("purpose", v.Purpose, maxPurpose)
	f.text("notes", v.Notes, maxNotes)
	v.Remarked.check(f)
}

// Route is where a router sends what is for a subnet that it has no leg in.
type Route struct {
	ID     ID           `json:"id" required:"true"`
	CIDR   netip.Prefix `json:"cidr" required:"true" description:"What it leads to; 0.0.0.0/0 for everything else"`
	Via    netip.Addr   `json:"via,omitzero" description:"The router that takes it from there"`
	Router ID           `json:"virtual_router_id,omitempty" description:"Whose routing table it is in, or else"`
	Device ID           `json:"device_id,omitempty" description:"the device's own; absent: of the one with a leg where via is"`
	Notes  string       `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (r Route) Key() Key { return Key{KindRoute, r.ID} }

// Title implements Record.
func (r Route) Title() string {
	if !r.Via.IsValid() {
		return "route to " + r.CIDR.String()
	}
	return r.CIDR.String() + " via " + r.Via.String()
}

// Refs implements Record.
func (r Route) Refs() []Ref {
	var refs []Ref
	if r.Router != "" {
		refs = append(refs, Ref{"virtual_router_id", Key{KindVirtualRouter, r.Router}, GoAlong})
	}
	if r.Device != "" {
		refs = append(refs, Ref{"device_id", Key{KindDevice, r.Device}, GoAlong})
	}
	return refs
}

func (r Route) uniques() []Unique {
	via := ""
	if r.Via.IsValid() {
		via = r.Via.String()
	}
	return []Unique{{"route", r.CIDR.String() + "\n" + via + "\n" + string(r.Router) + "\n" + string(r.Device)}}
}

func (r Route) check(f *faults) {
	f.id(r.ID)
	f.prefix("cidr", r.CIDR)
	if r.Via.IsValid() {
		f.address("via", r.Via)
		if r.CIDR.IsValid() && r.Via.Is4() != r.CIDR.Addr().Is4() {
			f.add("via", "%s cannot be reached via %s: one is IPv4, the other IPv6", r.CIDR, r.Via)
		}
	}
	if r.Router != "" && r.Device != "" {
		f.add("device_id", "a route is in a virtual router or on a device; keep one of them")
	}
	f.text("notes", r.Notes, maxNotes)
	r.Remarked.check(f)
}

// Routing is whether a device passes packets on between its networks.
type Routing string

// It does or it does not, whatever its kind says.
const (
	RoutesPackets Routing = "routes"
	RoutesNothing Routing = "does_not_route"
)

// Enum lists both for the published schema.
func (Routing) Enum() []any { return anys([]Routing{RoutesPackets, RoutesNothing}) }

// PassesPackets reports whether a device passes packets on between the networks
// that it has addresses in: a router or firewall, or one of which it is said.
func (d Device) PassesPackets() bool {
	if d.Routing != "" {
		return d.Routing == RoutesPackets
	}
	return d.is(func(t Traits) bool { return t.Routes })
}
