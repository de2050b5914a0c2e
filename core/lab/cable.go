package lab

import (
	"cmp"
	"net/netip"
	"slices"
	"strings"
)

// CableKind is what a cable is made of, and for power the connector at the
// thing that is fed.
type CableKind string

// The kinds of cable that the work speaks of by name; Wireless is a link
// without a cable.
const (
	Cat5e    CableKind = "cat5e"
	Cat6     CableKind = "cat6"
	Cat6A    CableKind = "cat6a"
	DAC      CableKind = "dac"
	Wireless CableKind = "wireless"
	// Powerline runs over the mains that are there.
	Powerline CableKind = "powerline"
)

var cableKinds = []CableKind{Cat5e, Cat6, Cat6A, "om3", "om4", "single-mode", DAC, "rg6", "usb", "hdmi", "displayport", "vga", "dvi",
	"audio", "speaker",
	"serial", "sas", "sata", "kvm", "c13", "c15", "c19", "c5", "c7", "uk", typeF, "nema", "dc", Wireless, Powerline}

// Cordless reports whether the kind is a link without a cable of its own: it
// takes no port, and any number may meet.
func (k CableKind) Cordless() bool { return k == Wireless || k == Powerline }

// CableKinds lists every kind.
func CableKinds() []CableKind { return slices.Clone(cableKinds) }

// Enum lists the kinds for the published schema.
func (CableKind) Enum() []any { return anys(cableKinds) }

// Colour is a jacket's colour: one of a few names, or #rrggbb.
type Colour string

// colours are the names there are, with how they look on a screen.
var colours = []struct {
	Name Colour
	Hex  string
}{
	{"black", "#22282b"}, {"white", "#f4f4ef"}, {"grey", "#8b9092"}, {"red", "#c23b32"}, {"orange", "#d9772b"}, {"yellow", "#dba53a"},
	{"green", "#4f8a4a"}, {"blue", "#4d7eb8"}, {"purple", "#6b5a94"}, {"pink", "#cf7fa2"}, {"brown", "#7d5a3c"}, {"aqua", "#78b3b9"},
	{"beige", "#cdbf9f"}, {"lime", "#a9c23f"}, {"magenta", "#b0407e"},
}

// sameColour are other words for some of them.
var sameColour = map[Colour]Colour{"gray": "grey", "violet": "purple", "turquoise": "aqua", "cyan": "aqua", "cream": "beige"}

// ColourNames lists the names of colours.
func ColourNames() []Colour {
	names := make([]Colour, len(colours))
	for i, c := range colours {
		names[i] = c.Name
	}
	return names
}

// Hex is how the colour looks, "" for none.
func (c Colour) Hex() string {
	for _, known := range colours {
		if known.Name == c {
			return known.Hex
		}
	}
	if strings.HasPrefix(string(c), "#") {
		return string(c)
	}
	return ""
}

// ReadColour turns a word for a colour into the colour; ok is false for one
// that are unknown.
func ReadColour(word string) (c Colour, ok bool) {
	c = Colour(strings.ToLower(word))
	c = cmp.Or(sameColour[c], c)
	return c, c.known()
}

func (c Colour) known() bool {
	if len(c) == 7 && c[0] == '#' {
		return strings.Trim(string(c[1:]), "0123456789abcdef") == ""
	}
	return slices.Contains(ColourNames(), c)
}

// colour takes a colour that is known, or none.
func (f *faults) colour(field string, c Colour) {
	if c != "" && !c.known() {
		f.add(field, "%s is not a colour known here; write one of %s, or one such as #3a6ea5", quote(string(c)), joinWords(ColourNames()))
	}
}

// CableState is how things stand with a cable.
type CableState string

// A cable is in use, lies in the bin, or is known to be bad.
const (
	CableInUse  CableState = "in_use"
	CableSpare  CableState = "spare"
	CableFaulty CableState = "faulty"
)

var cableStates = []CableState{CableInUse, CableSpare, CableFaulty}

// Enum lists the states for the published schema.
func (CableState) Enum() []any { return anys(cableStates) }

// Way is how a lead gets from one end to the other.
type Way string

// The ways there are.
const (
	OverFaces Way = "over"  // straight over the faces between its ends
	LeftSide  Way = "left"  // through the cable manager at the left
	RightSide Way = "right" // and at the right
	RoundBack Way = "back"  // round the back, or there already
	ByBrush   Way = "brush" // through a brush panel to the back
)

var cableWays = []Way{OverFaces, LeftSide, RightSide, RoundBack, ByBrush}

// Enum lists the cableWays for the published schema.
func (Way) Enum() []any { return anys(cableWays) }

// End is where one end of a cable is plugged in.
type End struct {
	Device ID     `json:"device_id" required:"true"`
	Port   string `json:"port" required:"true" maxLength:"60" description:"The port's key, such as 3 or s1"`
	Rear   bool   `json:"rear,omitempty" description:"Of a port that goes through: its rear"`
}

// Cable is one cable, its ends plugged in or not, or a link without one.
type Cable struct {
	ID       ID         `json:"id" required:"true"`
	Label    string     `json:"label,omitempty" maxLength:"60" lab:"name"`
	Kind     CableKind  `json:"cable_kind,omitempty" description:"Absent while unknown"`
	Colour   Colour     `json:"colour,omitempty" maxLength:"10" description:"A name such as yellow, or #rrggbb"`
	LengthM  *float64   `json:"length_m,omitempty"`
	State    CableState `json:"state" required:"true"`
	A        *End       `json:"a,omitempty" description:"Absent: this end is open"`
	B        *End       `json:"b,omitempty" description:"Absent: this end is open"`
	Way      Way        `json:"way,omitempty" description:"Absent while unknown"`
	Run      ID         `json:"run_id,omitempty" description:"The run in the building it lies in"`
	Untagged VLANs      `json:"untagged,omitempty" maxLength:"4" description:"Of a link without a cable: what it carries untagged"`
	Tagged   VLANs      `json:"tagged,omitempty" maxLength:"10000" description:"And what it carries tagged"`
	AddressA netip.Addr `json:"address_a,omitzero" description:"Of a link outside every VLAN: the address at end a"`
	AddressB netip.Addr `json:"address_b,omitzero" description:"And at end b"`
	SpeedMb  *int       `json:"speed_mb,omitempty" minimum:"1" maximum:"2000000" description:"Of a wireless link, what it carries in Mbit/s"`
	Notes    string     `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (c Cable) Key() Key { return Key{KindCable, c.ID} }

// Title implements Record.
func (c Cable) Title() string {
	if c.Label != "" {
		return c.Label
	}
	return strings.TrimSpace(string(c.Colour) + " " + titleOr(string(c.Kind), "cable"))
}

// Refs implements Record.
func (c Cable) Refs() []Ref {
	var refs []Ref
	if c.A != nil {
		refs = append(refs, Ref{"a.device_id", Key{KindDevice, c.A.Device}, Clear})
	}
	if c.B != nil {
		refs = append(refs, Ref{"b.device_id", Key{KindDevice, c.B.Device}, Clear})
	}
	if c.Run != "" {
		refs = append(refs, Ref{"run_id", Key{KindRun, c.Run}, Clear})
	}
	return refs
}

func (c Cable) withDefaults() Record {
	c.Kind = CableKind(ConnectorOf(string(c.Kind)))
	c.State = cmp.Or(c.State, CableInUse)
	return c
}

// Ends are the ends that are plugged in.
func (c Cable) Ends() []End {
	var ends []End
	for _, e := range []*End{c.A, c.B} {
		if e != nil {
			ends = append(ends, *e)
		}
	}
	return ends
}

// pointless reports whether the cable is plugged in nowhere: one that lost its
// last end goes with what it was plugged into.
func (c Cable) pointless() bool { return c.A == nil && c.B == nil }

// longestM is 100 km, longer than any garden.
const longestM = 100_000

func (c Cable) check(f *faults) {
	f.id(c.ID)
	f.line("label", c.Label, 60)
	optional(f, "cable_kind", c.Kind, cableKinds)
	f.colour("colour", c.Colour)
	f.between("length_m", c.LengthM, 0.01, longestM, "m")
	oneOf(f, "state", c.State, cableStates)
	optional(f, "way", c.Way, cableWays)
	f.text("notes", c.Notes, maxNotes)
	c.Remarked.check(f)
	f.counted("speed_mb", c.SpeedMb, 2_000_000)
	for _, side := range []struct {
		field string
		is    netip.Addr
	}{{"address_a", c.AddressA}, {"address_b", c.AddressB}} {
		if side.is.IsValid() {
			f.address(side.field, side.is)
		}
	}
	if c.Kind.Cordless() {
		if c.Colour != "" || c.LengthM != nil || c.Way != "" || c.Run != "" {
			f.add("cable_kind", "a link without a cable has no colour, length, way or run")
		}
	} else if c.Untagged != "" || c.Tagged != "" {
		f.add("tagged", "a cable carries what the ports at its ends do; say it of those, such as %s", `core/s1 tagged 20,30`)
	}
	f.untagged("untagged", c.Untagged)
	f.vlans("tagged", c.Tagged)
	for _, e := range []struct {
		field string
		end   *End
	}{{"a", c.A}, {"b", c.B}} {
		if e.end != nil {
			f.need(e.field+".port", e.end.Port)
			f.line(e.field+".port", e.end.Port, 60)
		}
	}
	if c.A != nil && c.B != nil && *c.A == *c.B {
		f.add("b", "both ends are plugged into the same port; say where the other one goes, or leave it open")
	}
	if c.State == CableSpare && (c.A != nil || c.B != nil) {
		f.add("state", "a spare cable cannot be plugged in; unplug it, or mark it as in use")
	}
}

// checkIn finds ends in ports that are not there, or that another cable has.
func (c Cable) checkIn(l *Lab, f *faults) {
	for _, e := range []struct {
		field string
		end   *End
	}{{"a.port", c.A}, {"b.port", c.B}} {
		if e.end == nil {
			continue
		}
		d, _ := Find[Device](l, e.end.Device)
		if d.IsGuest() {
			f.add(e.field, "%s is a %s and has no ports; plug the cable into its host", quote(d.Title()), d.KindWords())
			continue
		}
		if c.Kind.Cordless() {
			continue // it needs no port, and any number of them may meet
		}
		plugs := f.plugsOf(l, d)
		if say := plugs.noPort(d, *e.end); say != "" {
			f.add(e.field, "%s", say)
			continue
		}
		told := 0
		for _, o := range plugs.in[Plug{e.end.Port, e.end.Rear}] {
			if told == mostInTheWay {
				break
			}
			if o.ID == c.ID || f.changed[o.Key()] && !f.checked[o.Key()] {
				continue
			}
			told++
			f.add(e.field, "%s has %s in it already; unplug that first, or swap the two", l.EndWords(*e.end), quote(l.CableWords(o)))
		}
	}
	c.checkFeeding(l, f)
}

// Plug is one side of a port of a device that is known.
type Plug struct {
	Port string
	Rear bool
}

// plugs is a device's ports and what is plugged into them, looked up once
// while changes are checked.
type plugs struct {
	ports Ports
	in    map[Plug][]Cable
}

func (f *faults) plugsOf(l *Lab, d Device) *plugs {
	p, known := f.plugged[d.ID]
	if !known {
		p = &plugs{l.PortsOf(d), map[Plug][]Cable{}}
		for _, c := range l.CablesOf(d.ID) {
			if c.Kind.Cordless() {
				continue
			}
			for _, e := range c.Ends() {
				if e.Device == d.ID {
					p.in[Plug{e.Port, e.Rear}] = append(p.in[Plug{e.Port, e.Rear}], c)
				}
			}
		}
		f.plugged[d.ID] = p
	}
	return p
}

// noPort says why an end cannot be plugged into the device, "" where it can.
func (p *plugs) noPort(d Device, e End) string {
	i, ok := p.ports.Index(e.Port)
	switch {
	case !ok && (!p.ports.Known || IsUnknownPort(e.Port)):
		return "" // its ports are not documented, so this is one
	case !ok:
		return quote(d.Title()) + " has no port " + quote(e.Port) + "; it has " + p.ports.Words()
	case e.Rear && !p.ports.At(i).Joined:
		return "port " + e.Port + " of " + quote(d.Title()) + " does not go through, so it has no rear to plug into"
	}
	return ""
}

// checkPlugs finds the cables of a device that its spec has no ports for, and
// marks of ports it has not.
func (d Device) checkPlugs(l *Lab, f *faults) {
	p := f.plugsOf(l, d)
	for plug, cables := range p.in {
		say := p.noPort(d, End{d.ID, plug.Port, plug.Rear})
		if say != "" && !f.changed[cables[0].Key()] {
			f.add("ports", "%s, and %s is plugged in there; move it first", say, quote(cables[0].Title()))
		}
	}
	for _, m := range d.Marks {
		if _, ok := p.ports.Index(m.Port); !ok && p.ports.Known {
			f.add("port_marks", "%s has no port %s; it has %s", quote(d.Title()), quote(m.Port), p.ports.Words())
		}
	}
	for _, a := range d.Aggregates {
		for _, port := range a.Ports {
			if _, ok := p.ports.Index(port); !ok && p.ports.Known {
				f.add("aggregates", "%s has no port %s; it has %s", quote(d.Title()), quote(port), p.ports.Words())
			}
		}
	}
}

// CablesOf lists the cables with an end in a device, oldest first.
func (l *Lab) CablesOf(device ID) []Cable {
	var list []Cable
	it := l.users.Root().Iterator()
	it.SeekPrefix(append(Key{KindDevice, device}.with(0), string(KindCable)+"/"...))
	for _, r, ok := it.Next(); ok; _, r, ok = it.Next() {
		list = append(list, r.(Cable))
	}
	return list
}

// CableAt finds the cable plugged into an end.
func (l *Lab) CableAt(e End) (Cable, bool) {
	for _, c := range l.CablesOf(e.Device) {
		if !c.Kind.Cordless() && slices.Contains(c.Ends(), e) {
			return c, true
		}
	}
	return Cable{}, false
}

// EndWords names a port as one writes it: "core/3", "PP1/3 rear".
func (l *Lab) EndWords(e End) string {
	d, _ := Find[Device](l, e.Device)
	say := d.Title() + "/" + PortWords(e.Port)
	if e.Rear {
		say += " rear"
	}
	return say
}

// CableWords names a cable by its label or by its ends.
func (l *Lab) CableWords(c Cable) string {
	if c.Label != "" {
		return c.Label
	}
	ends := []string{"?", "?"}
	for i, e := range []*End{c.A, c.B} {
		if e != nil {
			ends[i] = l.EndWords(*e)
		}
	}
	return ends[0] + " - " + ends[1]
}

func (d Device) checkMarks(f *faults) {
	const most = 512
	if len(d.Marks) > most {
		f.add("port_marks", "has %d entries; at most %d are allowed", len(d.Marks), most)
	}
	for i, m := range d.Marks {
		f.need("port_marks", m.Port)
		f.line("port_marks", m.Port, 60)
		f.line("port_marks", m.Name, 40)
		f.line("port_marks", m.Note, 200)
		f.line("port_marks", m.Insert, 20)
		f.line("port_marks", m.Reserved, 80)
		if m.TCP < 0 || m.TCP > 65535 {
			f.add("port_marks", "a TCP port is 1 to 65535, not %d", m.TCP)
		}
		d.checkVLANs(f, m)
		if slices.ContainsFunc(d.Marks[:i], func(o PortMark) bool { return o.Port == m.Port }) {
			f.add("port_marks", "lists port %s twice", quote(m.Port))
		}
	}
}
