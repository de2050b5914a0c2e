package lab

import (
	"cmp"
	"slices"
)

// Traits are what is true of every device of a kind, as far as the program
// goes by it. They are in one table so that a new kind is one line, for the
// calculations and for the pages.
type Traits struct {
	Kind  DeviceKind `json:"kind"`
	Words string     `json:"words"`           // as it is spoken: "mini PC"
	Short string     `json:"short,omitempty"` // where there is little room

	Stands   bool `json:"stands,omitempty"`   // on feet, on what is below: it has no ears
	Holds    bool `json:"holds,omitempty"`    // it is made for others to be on it or in it
	Encloses bool `json:"encloses,omitempty"` // what it holds is in it, and shut in
	Warm     bool `json:"warm,omitempty"`     // it should not run where it is shut in

	Inlet     bool `json:"inlet,omitempty"`      // it has a power inlet, written down or not
	RearPower bool `json:"rear_power,omitempty"` // its power leads are at the back and want room
	RearPorts bool `json:"rear_ports,omitempty"` // its outlets, inlets and network ports are at the back unless said
	Portless  bool `json:"portless,omitempty"`   // nothing is plugged into it
	Joined    bool `json:"joined,omitempty"`     // its ports go through to the other side
	Computes  bool `json:"computes,omitempty"`   // it is a computer, with memory and drives
	Feeds     bool `json:"feeds,omitempty"`      // its outlets feed others
	Battery   bool `json:"battery,omitempty"`    // it has a battery for itself
	Bridges   bool `json:"bridges,omitempty"`    // others are plugged into it, and it passes frames from port to port
	Passes    bool `json:"passes,omitempty"`     // it passes frames on, if only to its radio
	Sends     bool `json:"sends,omitempty"`      // it may send a wireless network
	Routes    bool `json:"routes,omitempty"`     // it passes packets from network to network

	Guest bool `json:"guest,omitempty"` // it runs on another device, and is nothing that one could touch

	Passive bool `json:"passive,omitempty"` // nothing works inside: no parts, no noise, nothing to see from the other side
	Thin    bool `json:"thin,omitempty"`    // no deeper than its plate
}

var deviceTraits = []Traits{
	{Kind: Server, Words: "server", Inlet: true, RearPower: true, Warm: true, Computes: true, RearPorts: true},
	{Kind: MiniPC, Words: "mini PC", Stands: true, Inlet: true, Warm: true, Computes: true, RearPorts: true},
	{Kind: SingleBoard, Words: "single-board computer", Short: "SBC", Stands: true, Inlet: true, Warm: true, Computes: true},
	{Kind: NAS, Words: "NAS", Inlet: true, RearPower: true, Warm: true, Computes: true, RearPorts: true},
	{Kind: DiskShelf, Words: "disk shelf", Short: "disks", Inlet: true, RearPower: true, RearPorts: true},
	{Kind: TapeLibrary, Words: "tape library", Short: "tape", Inlet: true, RearPower: true},
	{Kind: Switch, Words: "switch", Inlet: true, Warm: true, Bridges: true, Passes: true},
	{Kind: Router, Words: "router", Inlet: true, Warm: true, Routes: true, Sends: true},
	{Kind: Firewall, Words: "firewall", Inlet: true, Warm: true, Routes: true, Sends: true},
	{Kind: AccessPoint, Words: "access point", Short: "AP", Stands: true, Warm: true, Passes: true, Sends: true},
	{Kind: Modem, Words: "modem", Stands: true, Inlet: true, Warm: true, Sends: true},
	{Kind: Bridge, Words: "bridge", Stands: true, Warm: true, Bridges: true, Passes: true, Sends: true},
	{Kind: PatchPanel, Words: "patch panel", Short: "panel", Passive: true, Joined: true},
	{Kind: WallPlate, Words: "wall plate", Joined: true},
	{Kind: WallOutlet, Words: "wall outlet", Short: "outlet", Passive: true, Feeds: true},
	{Kind: Coupler, Words: "coupler", Joined: true},
	{Kind: BrushPanel, Words: "brush panel", Short: "brush", Passive: true, Thin: true, Joined: true},
	{Kind: BlankingPanel, Words: "blanking panel", Short: "blank", Passive: true, Thin: true, Portless: true},
	{Kind: Shelf, Words: "shelf", Holds: true, Passive: true, Portless: true},
	{Kind: Drawer, Words: "drawer", Holds: true, Encloses: true, Passive: true, Portless: true},
	{Kind: KVMSwitch, Words: "KVM switch", Short: "KVM", Inlet: true},
	{Kind: ConsoleServer, Words: "console server", Short: "console", Inlet: true},
	{Kind: UPS, Words: "UPS", Inlet: true, RearPower: true, Warm: true, Feeds: true, RearPorts: true},
	{Kind: PDU, Words: "PDU", Inlet: true, Feeds: true},
	{Kind: PowerStrip, Words: "power strip", Short: "strip", Inlet: true, Feeds: true},
	{Kind: BatteryPack, Words: "battery pack", Short: "battery", Portless: true},
	{Kind: PowerBrick, Words: "power brick", Short: "brick", Stands: true, Inlet: true, Warm: true, Feeds: true},
	{Kind: USBSupply, Words: "USB supply", Stands: true, Inlet: true, Warm: true, Feeds: true},
	{Kind: PoEInjector, Words: "PoE injector", Short: "injector", Stands: true, Inlet: true, Warm: true, Bridges: true, Passes: true},
	{Kind: MeterPlug, Words: "meter plug", Stands: true, Inlet: true, Feeds: true},
	{Kind: FanUnit, Words: "fan unit", Inlet: true},
	{Kind: Sensor, Words: "sensor", Stands: true},
	{Kind: Recorder, Words: "recorder", Inlet: true, Warm: true, Computes: true},
	{Kind: Hub, Words: "hub", Stands: true, Inlet: true, Passes: true},
	{Kind: Display, Words: "display", Stands: true, Inlet: true, Warm: true},
	{Kind: Desktop, Words: "desktop", Stands: true, Inlet: true, Warm: true, Computes: true, RearPorts: true},
	{Kind: Laptop, Words: "laptop", Stands: true, Inlet: true, Warm: true, Computes: true, Battery: true},
	{Kind: Camera, Words: "camera", Stands: true, Warm: true},
	{Kind: Printer, Words: "printer", Stands: true, Inlet: true, Warm: true},
	{Kind: Tuner, Words: "tuner", Inlet: true, Warm: true},
	{Kind: Amplifier, Words: "amplifier", Inlet: true, Warm: true},
	{Kind: Antenna, Words: "antenna", Stands: true},
	{Kind: VM, Words: "VM", Guest: true, Portless: true},
	{Kind: Container, Words: "container", Guest: true, Portless: true},
	{Kind: Other, Words: "other"},
}

var traitsOf = func() map[DeviceKind]*Traits {
	of := map[DeviceKind]*Traits{}
	for i := range deviceTraits {
		of[deviceTraits[i].Kind] = &deviceTraits[i]
	}
	return of
}()

var deviceKinds = func() []DeviceKind {
	var kinds []DeviceKind
	for _, t := range deviceTraits {
		kinds = append(kinds, t.Kind)
	}
	return kinds
}()

// DeviceKinds lists every kind, as they are listed to a person.
func DeviceKinds() []DeviceKind { return slices.Clone(deviceKinds) }

// ThingKinds are those of what one could touch: all but VMs and containers.
func ThingKinds() []DeviceKind {
	return slices.DeleteFunc(DeviceKinds(), func(k DeviceKind) bool { return k.Traits().Guest })
}

// Traits are what is true of every device of the kind; nothing is of one that
// is unknown.
func (k DeviceKind) Traits() Traits {
	if t := traitsOf[k]; t != nil {
		return *t
	}
	return Traits{Kind: k, Words: string(k)}
}

// Forwards reports whether the kind passes on what comes in, so that others are
// plugged into it.
func (k DeviceKind) Forwards() bool { return k.Traits().Bridges || k.Traits().Routes }

// Words is the kind as it is spoken: "mini PC", "patch panel".
func (k DeviceKind) Words() string { return k.Traits().Words }

// Short is the kind where there is little room for it: "panel", "SBC".
func (k DeviceKind) Short() string { return cmp.Or(k.Traits().Short, k.Words()) }

// Standing is where something is that is held by a thing of the kind: in what
// encloses it, on anything else.
func (k DeviceKind) Standing() string {
	if k.Traits().Encloses {
		return "in"
	}
	return "on"
}
