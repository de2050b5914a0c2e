package lab

import "slices"

// Records is a number of records, sorted by kind: all of a lab's, or those
// that a change touched.
type Records struct {
	Settings    *Settings         `json:"settings,omitempty"`
	Places      []Place           `json:"places,omitempty"`
	Racks       []Rack            `json:"racks,omitempty"`
	SpecSheets  []SpecSheet       `json:"spec_sheets,omitempty"`
	Circuits    []Circuit         `json:"circuits,omitempty"`
	Templates   []Template        `json:"templates,omitempty"`
	Devices     []Device          `json:"devices,omitempty"`
	Parts       []Part            `json:"parts,omitempty"`
	Photos      []Photo           `json:"photos,omitempty"`
	Runs        []Run             `json:"runs,omitempty"`
	Cables      []Cable           `json:"cables,omitempty"`
	VLANs       []VLAN            `json:"vlans,omitempty"`
	Wireless    []WirelessNetwork `json:"wireless_networks,omitempty"`
	Subnets     []Subnet          `json:"subnets,omitempty"`
	Names       []Name            `json:"names,omitempty"`
	Routers     []VirtualRouter   `json:"virtual_routers,omitempty"`
	Routes      []Route           `json:"routes,omitempty"`
	Lines       []Line            `json:"outside_lines,omitempty"`
	Openings    []Opening         `json:"openings,omitempty"`
	Tunnels     []Tunnel          `json:"tunnels,omitempty"`
	Remotes     []RemoteAccess    `json:"remote_accesses,omitempty"`
	Rules       []Rule            `json:"rules,omitempty"`
	Pools       []Pool            `json:"pools,omitempty"`
	Datasets    []Dataset         `json:"datasets,omitempty"`
	Shares      []NetworkShare    `json:"shares,omitempty"`
	Copies      []Copy            `json:"data_copies,omitempty"`
	Services    []Service         `json:"services,omitempty"`
	Clusters    []Cluster         `json:"clusters,omitempty"`
	Stacks      []Stack           `json:"stacks,omitempty"`
	Needs       []Need            `json:"needs,omitempty"`
	Drafts      []Draft           `json:"drafts,omitempty"`
	Steps       []Step            `json:"steps,omitempty"`
	Notes       []Note            `json:"notes,omitempty"`
	Acceptances []Acceptance      `json:"acceptances,omitempty"`
	Filters     []Filter          `json:"filters,omitempty"`
}

// All gathers every record of the lab, those that are referred to first and
// older ones before newer ones.
func (l *Lab) All() Records {
	var all Records
	for _, k := range registry {
		for r := range l.Records(k.RecordKind) {
			k.add(&all, r)
		}
	}
	return all
}

// Add puts one more record into its list.
func (all *Records) Add(r Record) {
	if k, ok := KindOf(r.Key().Kind); ok {
		k.add(all, r)
	}
}

// List is all of them in one list, those that are referred to first.
func (all Records) List() []Record {
	var list []Record
	for _, k := range registry {
		list = slices.AppendSeq(list, k.each(all))
	}
	return list
}
