package cabling

import (
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Kind is what is known of a sort of cable.
type Kind struct {
	Kind lab.CableKind
	Name string // as one speaks of it
	// Fits are the connectors it is plugged into.
	Fits []string
	// WideMM is its outside diameter, 0 where it differs too much to say.
	WideMM float64
	// Carries are speeds in Mbit/s with the longest channel in metres that
	// carries them, the fastest first; empty where it carries no network. A
	// faster one may go farther, since it goes by several lanes.
	Carries []Reach
}

// Reach is how far a cable carries a speed.
type Reach struct {
	SpeedMb int
	M       float64
}

var (
	copperEnds = []string{"rj45", "rj11", "keystone", "console", "kvm"}
	fibreEnds  = []string{"lc", "sc", "st", "fc", "mpo", "keystone"}
	cageEnds   = []string{"sfp", "sfp+", "sfp28", "xfp", "qsfp", "qsfp+", "qsfp28"}
	coaxEnds   = []string{"f", "bnc", "sma", "coax", "keystone"}
	usbEnds    = []string{"usb-a", "usb-b", "usb-c", "usb", "micro-usb", "mini-usb", "kvm", "keystone"}
	serialEnds = []string{"rs232", "db9", "db25", "serial", "console", "rj45"}
)

// kinds is the table of cables. Copper: ISO/IEC 11801 channels, and IEEE
// 802.3an for 55 m of Cat 6 at 10G; 5G on Cat 5e is usual and not promised.
// Fibre: IEEE 802.3 clauses 38, 52, 86, 95, 112. Passive DAC: 7, 5 and 3 m at
// 10, 25 and 100G; 7 m at 40G (clause 85). Diameters are usual ones.
var kinds = []Kind{
	{lab.Cat5e, "Cat 5e", copperEnds, 5.2, []Reach{{5000, 100}, {2500, 100}, {1000, 100}, {100, 100}}},
	{lab.Cat6, "Cat 6", copperEnds, 6.1, []Reach{{10000, 55}, {5000, 100}, {2500, 100}, {1000, 100}, {100, 100}}},
	{lab.Cat6A, "Cat 6A", copperEnds, 7.5, []Reach{{10000, 100}, {5000, 100}, {2500, 100}, {1000, 100}, {100, 100}}},
	{"om3", "OM3 fibre", fibreEnds, 3, []Reach{{100000, 70}, {40000, 100}, {25000, 70}, {10000, 300}, {1000, 550}}},
	{"om4", "OM4 fibre", fibreEnds, 3, []Reach{{100000, 100}, {40000, 150}, {25000, 100}, {10000, 400}, {1000, 550}}},
	{"single-mode", "single-mode fibre", fibreEnds, 3, []Reach{{100000, 10000}}},
	{lab.DAC, "DAC", cageEnds, 5, []Reach{{100000, 3}, {40000, 7}, {25000, 5}, {10000, 7}}},
	{"rg6", "RG6 coax", coaxEnds, 6.9, nil},
	{"usb", "USB", usbEnds, 5, nil},
	{"hdmi", "HDMI", []string{"hdmi", "dvi", "kvm", "keystone"}, 7, nil},
	{"displayport", "DisplayPort", []string{"displayport", "hdmi", "usb-c", "keystone"}, 7, nil},
	{"vga", "VGA", []string{"vga", "kvm", "keystone"}, 8, nil},
	{"dvi", "DVI", []string{"dvi", "hdmi", "kvm"}, 8, nil},
	{"audio", "audio", []string{"audio", "xlr", "toslink", "keystone"}, 5, nil},
	{"speaker", "speaker", []string{"speaker", "keystone"}, 6, nil},
	{"serial", "serial", serialEnds, 5, nil},
	{"sas", "SAS", []string{"sas", "mini-sas", "sata"}, 7, nil},
	{"sata", "SATA", []string{"sata", "sas"}, 6, nil},
	{"kvm", "KVM", []string{"kvm", "vga", "hdmi", "displayport", "dvi", "usb-a"}, 8, nil},
	{"c13", "C13 power", []string{"c14"}, 7.5, nil},
	{"c15", "C15 power", []string{"c14", "c16"}, 7.5, nil},
	{"c19", "C19 power", []string{"c20"}, 9.5, nil},
	{"c5", "C5 power", []string{"c6"}, 7, nil},
	{"c7", "C7 power", []string{"c8"}, 6, nil},
	{"uk", "UK power", nil, 7.5, nil},
	{"type-f", "type F power", nil, 7.5, nil},
	{"nema", "NEMA power", nil, 7.5, nil},
	{"dc", "DC power", []string{"dc"}, 4, nil},
	{lab.Wireless, "wireless", nil, 0, nil},
	{lab.Powerline, "powerline", nil, 0, nil},
}

// KindOf is what is known of a kind of cable; ok is false for none.
func KindOf(k lab.CableKind) (Kind, bool) {
	i := slices.IndexFunc(kinds, func(o Kind) bool { return o.Kind == k })
	if i < 0 {
		return Kind{}, false
	}
	return kinds[i], true
}

// Power reports whether the cable feeds things.
func (k Kind) Power() bool {
	return slices.Contains([]lab.CableKind{"c13", "c15", "c19", "c5", "c7", "uk", "type-f", "nema", "dc"}, k.Kind)
}

// Mode is the sort of fibre it is, "multimode" or "single-mode"; "" for what is
// none.
func (k Kind) Mode() string {
	switch k.Kind {
	case "om3", "om4":
		return "multimode"
	case "single-mode":
		return "single-mode"
	}
	return ""
}

// Most is the fastest it carries over so many metres, in Mbit/s; 0 where that
// is farther than it carries anything. Where the ports at its ends do so many
// Mbit/s at most, and it does not carry that, it is the fastest below.
func (k Kind) Most(m float64, portsMb int) int {
	most := 0
	for _, r := range k.Carries {
		switch goes := m <= r.M; {
		case r.SpeedMb < portsMb && goes && most == 0:
			return r.SpeedMb
		case r.SpeedMb >= portsMb && goes:
			most = max(most, r.SpeedMb)
		case r.SpeedMb >= portsMb && portsMb > 0:
			most = 0 // what is faster goes by lanes that the ports have not
		}
	}
	return most
}

// Goes is how sure it is that a cable goes into a port.
type Goes int

// A cable fits, does not, or that is unknown.
const (
	GoesUnknown Goes = iota
	GoesIn
	GoesNot
)

// goes tells whether a cable of the kind is plugged into such a connector.
func (k Kind) goes(connector string, family lab.Family) Goes {
	switch {
	case k.Kind == "" || connector == "" && family != lab.Outlet && family != lab.Inlet || family == lab.Unsure:
		return GoesUnknown
	case k.Power():
		switch {
		case family == lab.Outlet && strings.HasPrefix(connector, "usb"):
			return GoesNot
		case family == lab.Outlet:
			return GoesIn
		case family != lab.Inlet:
			return GoesNot
		case connector == "" || connector == "inlet" || len(k.Fits) == 0:
			return GoesUnknown
		}
	case family == lab.Outlet && strings.HasPrefix(connector, "usb"): // a USB supply's
	case family == lab.Outlet || family == lab.Inlet:
		return GoesNot
	}
	if connector == "keystone" || slices.Contains(k.Fits, connector) {
		return GoesIn
	}
	return GoesNot
}
