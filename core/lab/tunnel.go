package lab

import "net/netip"

// Tunnel is a way through the outside to somewhere else.
type Tunnel struct {
	ID     ID             `json:"id" required:"true"`
	Name   string         `json:"name" required:"true" maxLength:"80" lab:"name"`
	Sort   TunnelSort     `json:"tunnel_sort,omitempty" description:"Absent while unknown"`
	Device ID             `json:"device_id,omitempty" description:"Its end in this lab"`
	Site   string         `json:"site,omitempty" maxLength:"80" description:"Where its other end is"`
	Joins  []netip.Prefix `json:"joins,omitempty" nullable:"false" maxItems:"40" description:"The subnets at both ends"`
	Why    string         `json:"why,omitempty" maxLength:"500" description:"Why it is there, in a sentence"`
	Notes  string         `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// TunnelSort is what a tunnel is for.
type TunnelSort string

// It joins two sites, or is opened from inside so that something can be reached
// from outside without a port that is open.
const (
	SiteToSite TunnelSort = "site_to_site"
	Outwards   TunnelSort = "outwards"
)

// Enum lists both for the published schema.
func (TunnelSort) Enum() []any { return anys([]TunnelSort{SiteToSite, Outwards}) }

// Key implements Record.
func (t Tunnel) Key() Key { return Key{KindTunnel, t.ID} }

// Title implements Record.
func (t Tunnel) Title() string { return titleOr(t.Name, "a tunnel") }

// Refs implements Record.
func (t Tunnel) Refs() []Ref { return onDevice(t.Device) }

// onDevice is the reference of what has its end in a device.
func onDevice(id ID) []Ref {
	if id == "" {
		return nil
	}
	return []Ref{{"device_id", Key{KindDevice, id}, Clear}}
}

func (t Tunnel) uniques() []Unique { return byName(t.Name) }

func (t Tunnel) check(f *faults) {
	f.id(t.ID)
	f.need("name", t.Name)
	f.name("name", t.Name)
	optional(f, "tunnel_sort", t.Sort, []TunnelSort{SiteToSite, Outwards})
	f.name("site", t.Site)
	if len(t.Joins) > 40 {
		f.add("joins", "has %d subnets; at most 40 are allowed", len(t.Joins))
	}
	for _, p := range t.Joins {
		f.prefix("joins", p)
	}
	f.line("why", t.Why, maxPurpose)
	f.text("notes", t.Notes, maxNotes)
	t.Remarked.check(f)
}

// RemoteAccess is a way in for people who are elsewhere.
type RemoteAccess struct {
	ID     ID     `json:"id" required:"true"`
	Name   string `json:"name" required:"true" maxLength:"80" lab:"name"`
	Device ID     `json:"device_id,omitempty" description:"Where it comes in"`
	Why    string `json:"why,omitempty" maxLength:"500" description:"Why it is there, in a sentence"`
	Notes  string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (r RemoteAccess) Key() Key { return Key{KindRemoteAccess, r.ID} }

// Title implements Record.
func (r RemoteAccess) Title() string { return titleOr(r.Name, "a remote access") }

// Refs implements Record.
func (r RemoteAccess) Refs() []Ref { return onDevice(r.Device) }

func (r RemoteAccess) uniques() []Unique { return byName(r.Name) }

func (r RemoteAccess) check(f *faults) {
	f.id(r.ID)
	f.need("name", r.Name)
	f.name("name", r.Name)
	f.line("why", r.Why, maxPurpose)
	f.text("notes", r.Notes, maxNotes)
	r.Remarked.check(f)
}
