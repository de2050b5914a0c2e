package lab

import (
	"cmp"
	"slices"
	"strings"
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
	PatchPanel    DeviceKind = "patch_panel"
	BrushPanel    DeviceKind = "brush_panel"
	BlankingPanel DeviceKind = "blanking_panel"
	Shelf         DeviceKind = "shelf"
	Drawer        DeviceKind = "drawer"
	KVMSwitch     DeviceKind = "kvm_switch"
	ConsoleServer DeviceKind = "console_server"
	UPS           DeviceKind = "ups"
	PDU           DeviceKind = "pdu"
	PowerStrip    DeviceKind = "power_strip"
	FanUnit       DeviceKind = "fan_unit"
	Sensor        DeviceKind = "sensor"
	Recorder      DeviceKind = "recorder"
	Hub           DeviceKind = "hub"
	Display       DeviceKind = "display"
	Desktop       DeviceKind = "desktop"
	Camera        DeviceKind = "camera"
	Other         DeviceKind = "other"
)

// DeviceKinds lists every kind.
func DeviceKinds() []DeviceKind { return slices.Clone(deviceKinds) }

var deviceKinds = []DeviceKind{Server, MiniPC, SingleBoard, NAS, DiskShelf, TapeLibrary, Switch, Router, Firewall, AccessPoint,
	Modem, PatchPanel, BrushPanel, BlankingPanel, Shelf, Drawer, KVMSwitch, ConsoleServer, UPS, PDU, PowerStrip, FanUnit,
	Sensor, Recorder, Hub, Display, Desktop, Camera, Other}

// Enum lists the kinds for the published schema.
func (DeviceKind) Enum() []any { return anys(DeviceKinds()) }

// Words is the kind as it is spoken: "mini PC", "patch panel".
func (k DeviceKind) Words() string {
	if k == SingleBoard {
		return "single-board computer"
	}
	words := strings.Split(string(k), "_")
	for i, w := range words {
		if slices.Contains([]string{"pc", "nas", "kvm", "ups", "pdu"}, w) {
			words[i] = strings.ToUpper(w)
		}
	}
	return strings.Join(words, " ")
}

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
// wall or lies in a drawer.
type Device struct {
	ID       ID         `json:"id" required:"true"`
	Name     string     `json:"name,omitempty" maxLength:"80"`
	Kind     DeviceKind `json:"device_kind" required:"true"`
	State    State      `json:"state" required:"true"`
	Purpose  string     `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes    string     `json:"notes,omitempty" maxLength:"10000"`
	HeightMM *float64   `json:"height_mm,omitempty" description:"Its own height, which may be less than the units it takes"`
	TakesU   *int       `json:"takes_u,omitempty" minimum:"1" maximum:"60" description:"How many units of a rack it takes"`
	WidthMM  *float64   `json:"width_mm,omitempty"`
	DepthMM  *float64   `json:"depth_mm,omitempty"`
	WeightKG *float64   `json:"weight_kg,omitempty"`
	At       *Spot      `json:"at,omitempty" description:"Where it is; absent while it is not placed"`
}

// Key implements Record.
func (d Device) Key() Key { return Key{KindDevice, d.ID} }

// Title implements Record.
func (d Device) Title() string { return titleOr(d.Name, d.Kind.Words()) }

// Refs implements Record.
func (d Device) Refs() []Ref {
	if d.At == nil {
		return nil
	}
	return d.At.refs()
}

// Units is how many units the device takes where it is mounted.
func (d Device) Units() int {
	if d.TakesU == nil {
		return 1
	}
	return *d.TakesU
}

func (d Device) withDefaults() Record {
	if d.State == "" {
		d.State = Running
	}
	if d.At != nil && d.At.Where == InUnits {
		at := *d.At
		at.Face, at.Share = cmp.Or(at.Face, Front), cmp.Or(at.Share, Whole)
		d.At = &at
	}
	return d
}

func (d Device) uniqueName() string { return "" }

func (d Device) check(f *faults) {
	f.id(d.ID)
	f.name("name", d.Name)
	oneOf(f, "device_kind", d.Kind, deviceKinds)
	oneOf(f, "state", d.State, states)
	f.line("purpose", d.Purpose, maxPurpose)
	f.text("notes", d.Notes, maxNotes)
	f.between("height_mm", d.HeightMM, 1, 3000, "mm")
	f.between("width_mm", d.WidthMM, 1, 3000, "mm")
	f.between("depth_mm", d.DepthMM, 1, 3000, "mm")
	f.between("weight_kg", d.WeightKG, 0.001, 5000, "kg")
	if d.TakesU != nil && (*d.TakesU < 1 || *d.TakesU > MaxRackUnits) {
		f.add("takes_u", "a device takes 1 to %d units, not %d", MaxRackUnits, *d.TakesU)
	}
	if d.At != nil {
		d.At.check(f)
		if d.At.Where == InUnits && d.TakesU == nil {
			f.add("takes_u", "say how many units it takes in the rack, 1 or more")
		}
	}
}
