package lab

import (
	"cmp"
	"net/url"
	"slices"
)

// DeviceKind is what the trade calls a thing.
type DeviceKind string

// The kinds of device there are, in the order they are listed to a person.
const (
	Server        DeviceKind = "server"
	MiniPC        DeviceKind = "mini_pc"
	SingleBoard   DeviceKind = "single_board_computer"
	NAS           DeviceKind = "nas"
	DiskShelf     DeviceKind = "disk_shelf"
	TapeLibrary   DeviceKind = "tape_library"
	Switch        DeviceKind = "switch"
	Router        DeviceKind = "router"
	Firewall      DeviceKind = "firewall"
	AccessPoint   DeviceKind = "access_point"
	Modem         DeviceKind = "modem"
	Bridge        DeviceKind = "bridge"
	PatchPanel    DeviceKind = "patch_panel"
	WallPlate     DeviceKind = "wall_plate"
	WallOutlet    DeviceKind = "wall_outlet"
	Coupler       DeviceKind = "coupler"
	BrushPanel    DeviceKind = "brush_panel"
	BlankingPanel DeviceKind = "blanking_panel"
	Shelf         DeviceKind = "shelf"
	Drawer        DeviceKind = "drawer"
	KVMSwitch     DeviceKind = "kvm_switch"
	ConsoleServer DeviceKind = "console_server"
	UPS           DeviceKind = "ups"
	PDU           DeviceKind = "pdu"
	PowerStrip    DeviceKind = "power_strip"
	BatteryPack   DeviceKind = "battery_pack"
	PowerBrick    DeviceKind = "power_brick"
	USBSupply     DeviceKind = "usb_supply"
	PoEInjector   DeviceKind = "poe_injector"
	MeterPlug     DeviceKind = "meter_plug"
	FanUnit       DeviceKind = "fan_unit"
	Sensor        DeviceKind = "sensor"
	Recorder      DeviceKind = "recorder"
	Hub           DeviceKind = "hub"
	Display       DeviceKind = "display"
	Desktop       DeviceKind = "desktop"
	Laptop        DeviceKind = "laptop"
	Camera        DeviceKind = "camera"
	Printer       DeviceKind = "printer"
	Tuner         DeviceKind = "tuner"
	Amplifier     DeviceKind = "amplifier"
	Antenna       DeviceKind = "antenna"
	VM            DeviceKind = "vm"
	Container     DeviceKind = "container"
	Other         DeviceKind = "other"
)

// Enum lists the kinds for the published schema.
func (DeviceKind) Enum() []any { return anys(DeviceKinds()) }

// State is how things stand with a device.
type State string

// The states a device can be in.
const (
	Running State = "running"
	Resting State = "resting" // off on purpose
	Waiting State = "waiting" // not set up yet
	Spare   State = "spare"
	Faulty  State = "faulty"
	Leaving State = "leaving" // sold, going back
)

// States lists every state.
func States() []State { return slices.Clone(states) }

var states = []State{Running, Resting, Waiting, Spare, Faulty, Leaving}

// Enum lists the states for the published schema.
func (State) Enum() []any { return anys(States()) }

// Device is any single thing: what is mounted, stands on a shelf, hangs on a
// wall or lies in a drawer. A VM or a container is one too, which runs on another
// one: on the network it can be all that a device can.
type Device struct {
	ID      ID           `json:"id" required:"true"`
	Name    string       `json:"name,omitempty" maxLength:"80" lab:"name"`
	Kind    DeviceKind   `json:"device_kind" required:"true"`
	Own     string       `json:"other_kind,omitempty" maxLength:"40" description:"What one of kind other is, in its owner's words"`
	Also    []DeviceKind `json:"also_kinds,omitempty" nullable:"false" maxItems:"4" description:"What it is besides, such as an access point"`
	State   State        `json:"state" required:"true"`
	Purpose string       `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes   string       `json:"notes,omitempty" maxLength:"10000"`
	Remarked
	Why   string `json:"why,omitempty" maxLength:"500" description:"Why it was bought, in a sentence"`
	Sheet ID     `json:"sheet_id,omitempty" description:"The spec sheet of its model; the device's own facts override it"`
	Spec
	Remote  string   `json:"remote_address,omitempty" maxLength:"200" description:"Private: where its remote management answers" lab:"private"`
	Web     string   `json:"web_page,omitempty" maxLength:"500" description:"Private" lab:"private"`
	Console string   `json:"console,omitempty" maxLength:"200" description:"How one gets at its console"`
	Serial  string   `json:"serial,omitempty" maxLength:"80" description:"Private" lab:"private"`
	Private []Entry  `json:"private,omitempty" maxItems:"20" description:"Further facts that are left out of what is shared" lab:"private"`
	Links   []string `json:"links,omitempty" nullable:"false" maxItems:"20"`
	Never   []string `json:"never_known,omitempty" nullable:"false" maxItems:"60" description:"The fields that will stay unknown"`
	Money
	Marks []PortMark `json:"port_marks,omitempty" maxItems:"512" description:"What sets single ports apart from their groups"`
	Switching
	Addressed
	Powered
	Outage
	Hosting
	Guesting
	At *Spot `json:"at,omitempty" description:"Where it is; absent while it is not placed"`
}

// Key implements Record.
func (d Device) Key() Key { return Key{KindDevice, d.ID} }

// Title implements Record.
func (d Device) Title() string {
	switch {
	case d.Name != "":
		return d.Name
	case d.Count != nil:
		return itoa(*d.Count) + " " + d.KindWords() + "s"
	}
	return d.KindWords()
}

// KindWords is what a device is: its kind, or for one of kind other its owner's
// words for it.
func (d Device) KindWords() string {
	if d.Kind == Other && d.Own != "" {
		return d.Own
	}
	return d.Kind.Words()
}

// Forwards reports whether a device passes on what comes in, by its kind or by
// what else it is, so that others are plugged into it.
func (d Device) Forwards() bool {
	return d.is(func(t Traits) bool { return t.Bridges || t.Routes })
}

// is reports whether something is true of a device's kind, or of what else it is.
func (d Device) is(true func(Traits) bool) bool {
	return true(d.Kind.Traits()) || slices.ContainsFunc(d.Also, func(k DeviceKind) bool { return true(k.Traits()) })
}

// Routes reports whether a device's ports are the ends of networks until a VLAN
// is said of them: what routes, but for a router with a switch in it.
func (d Device) Routes() bool {
	return d.is(func(t Traits) bool { return t.Routes }) && !d.is(func(t Traits) bool { return t.Bridges })
}

// Passes reports whether a device passes frames on to its other ports, by its
// kind and whatever is said of its ports.
func (d Device) Passes() bool {
	return d.is(func(t Traits) bool { return t.Passes }) && !d.Routes()
}

// IsSwitch reports whether a device is a switch, or one besides.
func (d Device) IsSwitch() bool { return d.Kind == Switch || slices.Contains(d.Also, Switch) }

// IsModem reports whether a line from outside ends in a device.
func (d Device) IsModem() bool { return d.Kind == Modem || slices.Contains(d.Also, Modem) }

// Switching is what is said of how a device passes frames on.
type Switching struct {
	Domain     string      `json:"switching_domain,omitempty" maxLength:"80" description:"Whose VLANs it carries; absent for the usual one"`
	Untagged   VLANs       `json:"untagged,omitempty" maxLength:"4" description:"What ports carry untagged of which nothing else is said"`
	Tagged     VLANs       `json:"tagged,omitempty" maxLength:"10000" description:"Those that they carry tagged"`
	Priority   *int        `json:"bridge_priority,omitempty" minimum:"0" maximum:"61440" description:"In steps of 4096; 32768 unless said"`
	MAC        string      `json:"mac,omitempty" maxLength:"17" description:"Its own address, such as 02:00:5e:00:00:01"`
	Aggregates []Aggregate `json:"aggregates,omitempty" maxItems:"64" description:"Ports that are one link together"`
	Routing    Routing     `json:"routing,omitempty" description:"Whether it passes packets on; absent where its kind says it"`
	Wireless   ID          `json:"wireless_id,omitempty" description:"The wireless network it is a guest of"`
}

// Entry is a fact with a name of its owner's.
type Entry struct {
	Name  string `json:"name" required:"true" maxLength:"40"`
	Value string `json:"value" required:"true" maxLength:"200"`
}

// Refs implements Record.
func (d Device) Refs() []Ref {
	var refs []Ref
	if d.At != nil {
		at := d.At.ref()
		if d.IsGuest() {
			at.Gone = Clear // without its host it runs nowhere
		}
		refs = append(refs, at)
	}
	if d.Sheet != "" {
		refs = append(refs, Ref{"sheet_id", Key{KindSheet, d.Sheet}, Refuse})
	}
	if d.Wireless != "" {
		refs = append(refs, Ref{"wireless_id", Key{KindWireless, d.Wireless}, Clear})
	}
	if d.Circuit != "" {
		refs = append(refs, Ref{"circuit_id", Key{KindCircuit, d.Circuit}, Clear})
	}
	return slices.Concat(refs, d.Outage.refs(), d.Guesting.refs())
}

// Units is how many units the device takes where it is mounted.
func (d Device) Units() int {
	if d.TakesU == nil {
		return 1
	}
	return *d.TakesU
}

func (d Device) withDefaults() Record {
	d.Spec = d.withConnectors()
	// A mark that says nothing is none.
	d.Marks = slices.DeleteFunc(ByPort(d.Marks), func(m PortMark) bool { return m == PortMark{Port: m.Port} })
	if len(d.Marks) == 0 {
		d.Marks = nil
	}
	if d.State == "" {
		d.State = Running
	}
	if slices.ContainsFunc(d.Addresses, func(a Address) bool { return a.How == "" }) {
		d.Addresses = slices.Clone(d.Addresses)
		for i := range d.Addresses {
			d.Addresses[i].How = cmp.Or(d.Addresses[i].How, FixedAddress)
		}
	}
	if d.At != nil && d.At.Where == InUnits {
		at := *d.At
		at.Face, at.Share = cmp.Or(at.Face, Front), cmp.Or(at.Share, Whole)
		d.At = &at
	}
	return d
}

func (d Device) check(f *faults) {
	f.id(d.ID)
	f.name("name", d.Name)
	oneOf(f, "device_kind", d.Kind, deviceKinds)
	for _, k := range d.Also {
		oneOf(f, "also_kinds", k, deviceKinds)
	}
	if len(d.Also) > 4 {
		f.add("also_kinds", "has %d entries; at most 4 are allowed", len(d.Also))
	}
	oneOf(f, "state", d.State, states)
	f.line("purpose", d.Purpose, maxPurpose)
	f.text("notes", d.Notes, maxNotes)
	d.Remarked.check(f)
	d.Spec.check(f)
	d.Money.check(f)
	d.checkWays(f)
	d.checkMarks(f)
	d.Switching.check(f)
	d.Addressed.check(f)
	d.Powered.check(f)
	d.Outage.check(f)
	d.Hosting.check(f)
	d.Guesting.check(f)
	if d.At != nil {
		d.At.check(f)
		if d.At.Where == InUnits && d.TakesU == nil {
			f.add("takes_u", "say how many units it takes in the rack, 1 or more")
		}
	}
}

func (d Device) checkWays(f *faults) {
	f.line("why", d.Why, maxPurpose)
	f.line("other_kind", d.Own, 40)
	if d.Own != "" && d.Kind != Other {
		f.add("other_kind", "only a device of kind other has a kind of its own")
	}
	f.line("remote_address", d.Remote, 200)
	f.line("console", d.Console, 200)
	f.name("serial", d.Serial)
	for _, list := range []struct {
		field string
		n     int
	}{{"private", len(d.Private)}, {"links", len(d.Links)}} {
		if list.n > 20 {
			f.add(list.field, "has %d entries; at most 20 are allowed", list.n)
		}
	}
	for _, e := range d.Private {
		f.need("private", e.Name)
		f.line("private", e.Name, 40)
		f.need("private", e.Value)
		f.line("private", e.Value, 200)
	}
	for _, link := range d.Links {
		f.link("links", link)
	}
	if d.Web != "" {
		f.link("web_page", d.Web)
	}
	if len(d.Never) > 60 {
		f.add("never_known", "has %d fields; at most 60 are allowed", len(d.Never))
	}
	for _, field := range d.Never {
		f.line("never_known", field, 64)
	}
}

// link takes an address that a browser may be sent to.
func (f *faults) link(field, value string) {
	f.line(field, value, 500)
	u, err := url.Parse(value)
	if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" {
		f.add(field, "%s is not a web address; write it with https:// or http:// in front", quote(value))
	}
}
