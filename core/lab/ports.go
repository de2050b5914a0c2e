package lab

import (
	"cmp"
	"iter"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// Family is a sort of connectors that have to do with each other.
type Family string

// The families of connectors.
const (
	Copper  Family = "copper"
	Cages   Family = "cage"
	Fibre   Family = "fibre"
	Coax    Family = "coax"
	SerialF Family = "serial"
	USB     Family = "usb"
	Video   Family = "video"
	Audio   Family = "audio"
	Storage Family = "storage"
	Console Family = "kvm"
	Inlet   Family = "inlet"
	Outlet  Family = "outlet"
	Radio   Family = "radio"
	Unsure  Family = "other"
)

// families lists them as they are listed to a person.
var families = []Family{Copper, Cages, Fibre, Coax, SerialF, USB, Video, Audio, Storage, Console, Inlet, Outlet, Radio, Unsure}

// Families lists every family.
func Families() []Family { return slices.Clone(families) }

// Enum lists the families for the published schema.
func (Family) Enum() []any { return anys(families) }

// connectors says of each connector its family, and what stands before the
// number of a port that has it where the group has no name.
var connectors = map[string]struct {
	family Family
	prefix string
}{
	"rj45": {Copper, ""}, "rj11": {Copper, ""}, "keystone": {Copper, ""},
	"sfp": {Cages, "s"}, "sfp+": {Cages, "s"}, "sfp28": {Cages, "s"}, "xfp": {Cages, "s"},
	"cage": {Cages, "s"}, // of a size that is not known
	"qsfp": {Cages, "q"}, "qsfp+": {Cages, "q"}, "qsfp28": {Cages, "q"},
	"lc": {Fibre, "f"}, "sc": {Fibre, "f"}, "st": {Fibre, "f"}, "fc": {Fibre, "f"}, "mpo": {Fibre, "f"},
	"f": {Coax, "coax"}, "bnc": {Coax, "coax"}, "sma": {Coax, "coax"}, "coax": {Coax, "coax"},
	"rs232": {SerialF, "serial"}, "db9": {SerialF, "serial"}, "db25": {SerialF, "serial"}, "serial": {SerialF, "serial"},
	"console": {SerialF, "console"},
	"usb-a":   {USB, "usb"}, "usb-b": {USB, "usb"}, "usb-c": {USB, "usb"}, "usb": {USB, "usb"}, "micro-usb": {USB, "usb"},
	"mini-usb": {USB, "usb"},
	"hdmi":     {Video, "hdmi"}, "displayport": {Video, "dp"}, "vga": {Video, "vga"}, "dvi": {Video, "dvi"},
	"audio": {Audio, "audio"}, "xlr": {Audio, "xlr"}, "speaker": {Audio, "speaker"}, "toslink": {Audio, "optical"},
	"sas": {Storage, "sas"}, "mini-sas": {Storage, "sas"}, "sata": {Storage, "sata"}, "esata": {Storage, "sata"},
	"kvm": {Console, "kvm"},
	"c14": {Inlet, "in"}, "c20": {Inlet, "in"}, "c6": {Inlet, "in"}, "c8": {Inlet, "in"}, "dc": {Inlet, "in"}, "inlet": {Inlet, "in"},
	"radio": {Radio, "air"},
}

// typeF is a connector by the letter that IEC 60083 and its readers give it;
// the maker's word for it is read too.
const typeF = "type-f"

// ConnectorOf is a connector as records keep it, however it was written.
func ConnectorOf(written string) string {
	c := strings.ReplaceAll(written, " ", "-")
	if c == "schuko" || c == "type-f" {
		return typeF
	}
	if _, known := connectors[c]; known {
		return c
	}
	return written
}

// ConnectorWords is a connector as one reads it.
func ConnectorWords(connector string) string {
	if connector == typeF {
		return "type f"
	}
	return connector
}

// withConnectors are groups with their connectors as records keep them.
func (s Spec) withConnectors() Spec {
	if slices.ContainsFunc(s.Ports, func(g PortGroup) bool { return ConnectorOf(g.Connector) != g.Connector }) {
		s.Ports = slices.Clone(s.Ports)
		for i := range s.Ports {
			s.Ports[i].Connector = ConnectorOf(s.Ports[i].Connector)
		}
	}
	if slices.ContainsFunc(s.Outlets, func(g OutletGroup) bool { return ConnectorOf(g.Connector) != g.Connector }) {
		s.Outlets = slices.Clone(s.Outlets)
		for i := range s.Outlets {
			s.Outlets[i].Connector = ConnectorOf(s.Outlets[i].Connector)
		}
	}
	return s
}

// FamilyOf is the family of a port's connector.
func FamilyOf(connector string) Family {
	if c, ok := connectors[connector]; ok {
		return c.family
	}
	return Unsure
}

// PortMark is what sets one port apart from its group.
type PortMark struct {
	Port     string `json:"port" required:"true" maxLength:"60" description:"The port's key, such as 3 or s1"`
	Name     string `json:"name,omitempty" maxLength:"40"`
	Note     string `json:"note,omitempty" maxLength:"200"`
	Insert   string `json:"insert,omitempty" maxLength:"20" description:"The connector that sits in it, where it takes several"`
	Reserved string `json:"reserved_for,omitempty" maxLength:"80"`
	TCP      int    `json:"tcp_port,omitempty" minimum:"1" maximum:"65535" description:"Of a console server: where this line answers"`
	Broken   bool   `json:"broken,omitempty"`
	Untagged VLANs  `json:"untagged,omitempty" maxLength:"4" description:"The VLAN it carries untagged, or none"`
	Tagged   VLANs  `json:"tagged,omitempty" maxLength:"10000" description:"The VLANs it carries tagged: 20,30-35, all or none"`
	Routed   bool   `json:"routed,omitempty" description:"It is the end of a network: no VLAN is switched there"`
}

// With is the mark with what another one says besides.
func (m PortMark) With(o PortMark) PortMark {
	if o.Routed {
		m.Untagged, m.Tagged = "", ""
	}
	return PortMark{Port: m.Port, Name: cmp.Or(o.Name, m.Name), Note: cmp.Or(o.Note, m.Note), Insert: cmp.Or(o.Insert, m.Insert),
		Reserved: cmp.Or(o.Reserved, m.Reserved), TCP: cmp.Or(o.TCP, m.TCP), Broken: o.Broken || m.Broken,
		Untagged: cmp.Or(o.Untagged, m.Untagged), Tagged: cmp.Or(o.Tagged, m.Tagged),
		Routed: o.Routed || m.Routed && o.Untagged == "" && o.Tagged == ""}
}

// ByPort are marks in the order of their ports' keys: 2 before 10, s1 after both.
func ByPort(marks []PortMark) []PortMark {
	number := func(m PortMark) (string, int) {
		prefix := strings.TrimRight(m.Port, "0123456789")
		n, _ := strconv.Atoi(m.Port[len(prefix):])
		return prefix, n
	}
	return slices.SortedStableFunc(slices.Values(marks), func(a, b PortMark) int {
		p, n := number(a)
		q, k := number(b)
		return cmp.Or(cmp.Compare(p, q), n-k)
	})
}

// Port is one port of a device.
type Port struct {
	Key       string
	Connector string // what is plugged into it, "" while unknown
	Family    Family
	SpeedsMb  []int // rising; empty while unknown
	Face      Face
	Joined    bool // it goes through: its front is its rear
	PoEOut    int
	PoEIn     *int
	Battery   bool
	Filtered  bool
	Group     int      // the number of its group, in the order of Ports.Groups
	Mark      PortMark // what sets it apart; zero where nothing does
}

// Title is the port's own name where it has one, and its key.
func (p Port) Title() string {
	if p.Mark.Name != "" {
		return p.Mark.Name
	}
	return p.Key
}

// Ports are the ports of one device, by their number from 0.
type Ports struct {
	blocks []block
	marks  []PortMark
	insets bool // a mark says what sits in a port
	joined bool
	rear   bool // where the ports are that do not say
	n      int
	// Known is false while the ports are not documented; any
	// name is a port then.
	Known bool
}

// behind are the families that are at the back of what has its ports there.
var behind = []Family{Copper, Cages, Fibre, Outlet, Inlet}

// block is a group of ports with their numbers.
type block struct {
	prefix    string
	first     int
	from      int // the number of its first port in the device
	count     int
	alone     bool // its one port goes by the prefix alone
	connector string
	family    Family
	group     *PortGroup // nil for undocumented outlets and inlets
	face      Face
	battery   bool
	filtered  bool
	joined    bool
}

// PortsOf gives a device's ports: those of its groups, its outlets, and power
// inlets, one a supply, where no group tells of them.
func (l *Lab) PortsOf(d Device) Ports {
	spec := l.SpecOf(d)
	ps := Ports{marks: d.Marks, insets: slices.ContainsFunc(d.Marks, func(m PortMark) bool { return m.Insert != "" }),
		joined: d.Kind.Traits().Joined, rear: d.Kind.Traits().RearPorts, Known: len(spec.Ports) > 0 ||
			len(spec.Outlets) > 0}
	ps.blocks = make([]block, 0, len(spec.Ports)+len(spec.Outlets)+1)
	inlets := false
	for i := range spec.Ports {
		g := &spec.Ports[i]
		c, known := connectors[g.Connector]
		if !known {
			c.family, c.prefix = Unsure, g.Connector
		}
		inlets = inlets || c.family == Inlet
		b := block{prefix: c.prefix, first: 1, count: g.Count, connector: g.Connector, family: c.family, group: g, face: g.Face}
		if g.Name != "" {
			b.prefix, b.alone = g.Name, g.Count == 1
		}
		if g.First > 0 || g.ZeroBased {
			b.first, b.alone = g.First, false
		}
		ps.add(b)
	}
	for _, o := range spec.Outlets {
		ps.add(block{prefix: "out", first: 1, count: o.Count, connector: o.Connector, family: Outlet, face: o.Face, battery: o.Battery,
			filtered: o.Filtered})
	}
	if n := l.inletsOf(spec, d); !inlets && n > 0 {
		face := Rear
		if d.Kind == PDU || d.Kind == PowerStrip {
			face = Front // where it is mounted
		}
		ps.add(block{prefix: "in", first: 1, count: n, family: Inlet, face: face})
	}
	return ps
}

// inletsOf is how many power inlets go without saying: one a supply, in bays or
// known by themselves.
func (l *Lab) inletsOf(spec Spec, d Device) int {
	switch {
	case !d.Kind.Traits().Inlet && d.Own == "":
		return 0
	case spec.SupplyBays != nil:
		return *spec.SupplyBays
	}
	supplies := 0
	for p := range l.partsIn(d.ID) {
		if p.Kind == Supply && !p.Ordered {
			supplies++
		}
	}
	return max(1, supplies)
}

// partsIn goes through the parts in a device, in no order.
func (l *Lab) partsIn(device ID) iter.Seq[Part] {
	return func(yield func(Part) bool) {
		it := l.users.Root().Iterator()
		it.SeekPrefix(append(Key{KindDevice, device}.with(0), string(KindPart)+"/"...))
		for _, r, ok := it.Next(); ok && yield(r.(Part)); _, r, ok = it.Next() {
		}
	}
}

// add puts a block behind the others; where its numbers are taken it goes on
// after them.
func (ps *Ports) add(b block) {
	for _, o := range ps.blocks {
		if strings.EqualFold(o.prefix, b.prefix) {
			b.alone = false
			b.first = max(b.first, o.first+o.count)
		}
	}
	if b.face == "" {
		b.face = Front
		if ps.rear && slices.Contains(behind, b.family) {
			b.face = Rear
		}
	}
	b.joined = ps.joined
	b.from = ps.n
	ps.n += b.count
	ps.blocks = append(ps.blocks, b)
}

// Len is how many ports there are.
func (ps Ports) Len() int { return ps.n }

// Joined reports whether each port goes through to the other side.
func (ps Ports) Joined() bool { return ps.joined }

func (ps Ports) blockAt(i int) (int, *block) {
	for n := range ps.blocks {
		if b := &ps.blocks[n]; i < b.from+b.count {
			return n, b
		}
	}
	return -1, nil
}

// Key names the port of a number.
func (ps Ports) Key(i int) string {
	_, b := ps.blockAt(i)
	if b == nil {
		return ""
	}
	if b.alone {
		return b.prefix
	}
	return b.prefix + strconv.Itoa(b.first+i-b.from)
}

// At gives the port of a number, 0 to Len-1.
func (ps Ports) At(i int) Port {
	n, b := ps.blockAt(i)
	if b == nil {
		return Port{}
	}
	p := Port{Key: ps.Key(i), Connector: b.connector, Family: b.family, Face: b.face, Joined: ps.joined,
		Battery: b.battery, Filtered: b.filtered,
		Group: n}
	if b.group != nil {
		p.SpeedsMb, p.PoEOut, p.PoEIn = b.group.SpeedsMb, b.group.PoEOut, b.group.PoEIn
	}
	for _, m := range ps.marks {
		if m.Port == p.Key {
			p.Mark = m
			if m.Insert != "" {
				p.Connector, p.Family = m.Insert, FamilyOf(m.Insert)
			}
		}
	}
	return p
}

// Index is the number of the port with that key.
func (ps Ports) Index(key string) (int, bool) {
	at := len(key)
	for at > 0 && key[at-1] >= '0' && key[at-1] <= '9' {
		at--
	}
	number, err := strconv.Atoi(key[at:])
	padded := at < len(key)-1 && key[at] == '0'
	for i := range ps.blocks {
		b := &ps.blocks[i]
		switch {
		case b.alone:
			if key == b.prefix {
				return b.from, true
			}
		case err == nil && !padded && key[:at] == b.prefix && number >= b.first && number < b.first+b.count:
			return b.from + number - b.first, true
		case err == nil && !padded && len(b.prefix) > at && strings.HasPrefix(key, b.prefix): // a prefix that ends in a figure
			if n, err := strconv.Atoi(key[len(b.prefix):]); err == nil && n >= b.first && n < b.first+b.count &&
				strconv.Itoa(n) == key[len(b.prefix):] {
				return b.from + n - b.first, true
			}
		}
	}
	return 0, false
}

// A port of a device that is known, where it is not known which: ?1, ?2 for one
// cable each.
var unknownPort = regexp.MustCompile(`^\?[1-9][0-9]{0,3}$`)

// UnknownPort is the key of the nth port of a device that nobody knows.
func UnknownPort(n int) string { return "?" + strconv.Itoa(n) }

// IsUnknownPort reports whether a key stands for a port that nobody knows.
func IsUnknownPort(key string) bool { return unknownPort.MatchString(key) }

// PortWords is a port's key as one reads it: "?" for one that nobody knows.
func PortWords(key string) string {
	if IsUnknownPort(key) {
		return "?"
	}
	return key
}

// Find is the key of the port a person means: its key in any case, the name
// its owner gave it, the prefix alone where it has but one port, or its number
// after another word for it, such as sfp1 or port 3.
func (ps Ports) Find(said string) (string, bool) {
	if _, ok := ps.Index(said); ok {
		return said, true
	}
	for _, m := range ps.marks {
		if m.Name != "" && FoldName(m.Name) == FoldName(said) {
			return m.Port, true
		}
	}
	folded := FoldName(said)
	trimmed := strings.TrimLeft(folded, "0")
	for _, b := range ps.blocks {
		if b.count == 1 && folded == FoldName(b.prefix) && b.prefix != "" {
			return ps.Key(b.from), true
		}
		for _, s := range []string{folded, trimmed} {
			if rest, ok := strings.CutPrefix(s, FoldName(b.prefix)); ok {
				if n, err := strconv.Atoi(rest); err == nil && n >= b.first && n < b.first+b.count {
					return ps.Key(b.from + n - b.first), true
				}
			}
		}
	}
	for _, b := range ps.blocks {
		for _, word := range b.spoken() {
			if rest, ok := strings.CutPrefix(folded, word); ok {
				if n, err := strconv.Atoi(strings.TrimSpace(rest)); err == nil && n >= b.first && n < b.first+b.count {
					return ps.Key(b.from + n - b.first), true
				}
			}
		}
	}
	return ps.onlySort(said)
}

// onlySort finds a port by its bare number where the device has but one sort of
// port beside its inlets: strip/1 is out1.
func (ps Ports) onlySort(said string) (string, bool) {
	n, err := strconv.Atoi(said)
	if err != nil {
		return "", false
	}
	prefix, found := "", false
	for _, b := range ps.blocks {
		if b.family == Inlet || found && b.prefix == prefix {
			continue
		}
		if found {
			return "", false
		}
		prefix, found = b.prefix, true
	}
	key := prefix + strconv.Itoa(n)
	if _, ok := ps.Index(key); !found || !ok {
		return "", false
	}
	return key, true
}

// spoken are other words that people put before the number of a port of the
// block: its connector, "port", the bare name of its cages.
func (b *block) spoken() []string {
	words := []string{FoldName(b.connector)}
	if b.connector == "" {
		words = nil
	}
	switch b.family {
	case Copper:
		words = append(words, "port")
	case Cages:
		words = append(words, "cage", FoldName(strings.TrimRight(b.connector, "+0123456789")))
	case Unsure:
		if b.connector == "" {
			words = append(words, "port", "s", "eth")
		}
	}
	return words
}

// Words says what ports there are: "1-24 and s1-s4".
func (ps Ports) Words() string {
	if ps.n == 0 {
		return "no ports"
	}
	var said []string
	for _, b := range ps.blocks {
		first, last := ps.Key(b.from), ps.Key(b.from+b.count-1)
		if b.count == 1 {
			said = append(said, first)
		} else {
			said = append(said, first+"-"+last)
		}
	}
	return Listed(said, 5)
}

// Derived is what a function makes of a lab, worked out once for as long as
// the lab is kept: a Lab never changes, so neither does what follows from it.
// There is one value of each type T.
func Derived[T any](l *Lab, from func(*Lab) T) T {
	kept, _ := l.derived.LoadOrStore(reflect.TypeFor[T](), &derived[T]{})
	d := kept.(*derived[T])
	d.once.Do(func() { d.value = from(l) })
	return d.value
}

type derived[T any] struct {
	once  sync.Once
	value T
}

// Link is the family and the speeds of the port of a number, which is what a
// network asks of it.
func (ps Ports) Link(i int) (Family, []int) {
	if ps.insets {
		p := ps.At(i)
		return p.Family, p.SpeedsMb
	}
	_, b := ps.blockAt(i)
	switch {
	case b == nil:
		return Unsure, nil
	case b.group == nil:
		return b.family, nil
	}
	return b.family, b.group.SpeedsMb
}

// Connector is the connector of the port of a number, "" while unknown.
func (ps Ports) Connector(i int) string {
	if ps.insets {
		return ps.At(i).Connector
	}
	if _, b := ps.blockAt(i); b != nil {
		return b.connector
	}
	return ""
}

// Cage is the seat for a transceiver that the port of a number is: cages are
// counted from 1 through all groups.
func (ps Ports) Cage(i int) int {
	seat := 1
	for n := range ps.blocks {
		b := &ps.blocks[n]
		switch {
		case b.family != Cages:
		case i < b.from+b.count:
			return seat + i - b.from
		default:
			seat += b.count
		}
	}
	return 0
}

// Column is the column that the port of a number is in, from 0, and how many
// columns of ports its face has: groups stand side by side, each in its rows.
func (ps Ports) Column(i int) (at, columns int) {
	_, mine := ps.blockAt(i)
	if mine == nil {
		return 0, 0
	}
	for n := range ps.blocks {
		b := &ps.blocks[n]
		if b.face != mine.face {
			continue
		}
		rows := b.rows()
		wide := (b.count + rows - 1) / rows
		switch {
		case b != mine:
		case b.group != nil && b.group.Numbering == Down:
			at = columns + (i-b.from)/rows
		default:
			at = columns + (i-b.from)%wide
		}
		columns += wide
	}
	return at, columns
}

// rows is how many rows its ports stand in; a dozen go into one unless said,
// and two dozen of a panel.
func (b *block) rows() int {
	most := 12
	if b.joined {
		most = 24
	}
	switch {
	case b.group != nil && b.group.Rows > 0:
		return b.group.Rows
	case b.count > most && b.family != Outlet:
		return 2
	}
	return 1
}

// Face is the face that the port of a number is at.
func (ps Ports) Face(i int) Face {
	_, b := ps.blockAt(i)
	if b == nil {
		return Front
	}
	return b.face
}
