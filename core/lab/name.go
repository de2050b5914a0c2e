package lab

import (
	"net/netip"
	"slices"
	"strings"
)

// Name is a name of its owner's: it leads to an address, a device, a service, a tunnel
// or another name and, where that passes on what it gets, on from there.
type Name struct {
	ID   ID     `json:"id" required:"true"`
	Name string `json:"name" required:"true" maxLength:"253" lab:"name"`
	// Hop is where it leads first; it says nothing of an alias.
	Hop
	Alias string `json:"alias_of,omitempty" maxLength:"253" description:"Which other name it is the same as, instead of all that"`
	Then  []Hop  `json:"then,omitempty" nullable:"false" maxItems:"8" description:"Where that passes it on to, and so on"`
	Exposed
	Notes string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Hop is one thing on the way from a name to what answers. One of the first five is said.
type Hop struct {
	Address netip.Addr `json:"address,omitzero" description:"Where it leads, or else"`
	Device  ID         `json:"device_id,omitempty" description:"the device or guest, or else"`
	Service ID         `json:"service_id,omitempty" description:"the service, or else"`
	Tunnel  ID         `json:"tunnel_id,omitempty" description:"the tunnel, or else"`
	Of      ID         `json:"name_id,omitempty" description:"behind the first hop: another name, asked for again"`
	Port    int        `json:"port,omitempty" minimum:"1" maximum:"65535" description:"The port there; absent while unknown"`
}

// Said reports whether a hop names anything.
func (h Hop) Said() bool { return h.Address.IsValid() || h.Key().ID != "" }

// Key is the record that a hop is; of an address there is none.
func (h Hop) Key() Key {
	for _, k := range []Key{{KindDevice, h.Device}, {KindService, h.Service}, {KindTunnel, h.Tunnel}, {KindName, h.Of}} {
		if k.ID != "" {
			return k
		}
	}
	return Key{}
}

// HopTo is a hop to a record.
func HopTo(k Key, port int) Hop {
	h := Hop{Port: port}
	switch k.Kind {
	case KindDevice:
		h.Device = k.ID
	case KindService:
		h.Service = k.ID
	case KindTunnel:
		h.Tunnel = k.ID
	case KindName:
		h.Of = k.ID
	}
	return h
}

// mostHops is how often a name is passed on.
const mostHops = 8

// Hops are all of them, in the order of the way; none of an alias.
func (n Name) Hops() []Hop {
	if !n.Hop.Said() {
		return nil
	}
	return append([]Hop{n.Hop}, n.Then...)
}

// Exposed is from where a name or a service is meant to be reached, and what stands before
// it.
type Exposed struct {
	Exposure    Exposure `json:"exposure,omitempty" description:"From where it is meant to be reached; absent while unknown"`
	Within      VLANs    `json:"exposed_vlans,omitempty" description:"Of some VLANs: which"`
	SignIn      SignIn   `json:"sign_in,omitempty" description:"Whether one signs in; absent while unknown"`
	SignInBy    string   `json:"sign_in_by,omitempty" maxLength:"80" description:"What one signs in with, or the service that asks"`
	Certificate When     `json:"certificate_until,omitempty"`
}

// Exposure is from where something is meant to be reached.
type Exposure string

// From its own host, from some VLANs, from the whole lab, from outside through a tunnel,
// or from anywhere.
const (
	OnHost     Exposure = "host"
	SomeVLANs  Exposure = "vlans"
	WholeLab   Exposure = "lab"
	ByTunnel   Exposure = "tunnel"
	WholeWorld Exposure = "world"
)

// Exposures lists them, the narrowest first.
func Exposures() []Exposure { return []Exposure{OnHost, SomeVLANs, WholeLab, ByTunnel, WholeWorld} }

// Enum lists them for the published schema.
func (Exposure) Enum() []any { return anys(Exposures()) }

// SignIn is whether one signs in.
type SignIn string

// One does, or anybody gets in who gets there.
const (
	SignInAsked SignIn = "asked"
	SignInNone  SignIn = "none"
)

// Enum lists both for the published schema.
func (SignIn) Enum() []any { return anys([]SignIn{SignInAsked, SignInNone}) }

// withDefaults: what one signs in with is asked for, and VLANs are some.
func (e Exposed) withDefaults() Exposed {
	if e.SignInBy != "" {
		e.SignIn = SignInAsked
	}
	if e.Within != "" {
		e.Exposure = SomeVLANs
	}
	return e
}

func (e Exposed) check(f *faults) {
	optional(f, "exposure", e.Exposure, Exposures())
	f.vlans("exposed_vlans", e.Within)
	if e.Exposure == SomeVLANs && e.Within == "" {
		f.add("exposed_vlans", "say from which VLANs, such as only vlan 10")
	}
	optional(f, "sign_in", e.SignIn, []SignIn{SignInAsked, SignInNone})
	f.line("sign_in_by", e.SignInBy, maxName)
	f.when("certificate_until", e.Certificate)
}

// Key implements Record.
func (n Name) Key() Key { return Key{KindName, n.ID} }

// Title implements Record.
func (n Name) Title() string { return titleOr(n.Name, "a name") }

// Refs implements Record.
func (n Name) Refs() []Ref {
	var refs []Ref
	for i, h := range n.Hops() {
		if k := h.Key(); k.ID != "" {
			refs = append(refs, Ref{n.hopField(i), k, Clear})
		}
	}
	return refs
}

// hopField is the field of one of a name's hops.
func (n Name) hopField(i int) string {
	if i > 0 {
		return "then"
	}
	return map[RecordKind]string{KindService: "service_id", KindTunnel: "tunnel_id", KindName: "name_id"}[n.Hop.Key().Kind] +
		map[bool]string{true: "device_id"}[n.Hop.Device != ""]
}

// without is the name without a hop that is gone, and all behind that.
func (n Name) without(of Key) Record {
	hops := n.Hops()
	if i := slices.IndexFunc(hops, func(h Hop) bool { return h.Key() == of }); i > 0 {
		n.Then = slices.Clone(n.Then[:i-1])
	} else if i == 0 {
		n.Hop, n.Then = Hop{}, nil
	}
	if len(n.Then) == 0 {
		n.Then = nil
	}
	return n
}

func (n Name) uniques() []Unique { return byName(n.Name) }

func (n Name) withDefaults() Record {
	n.Exposed = n.Exposed.withDefaults()
	return n
}

func (n Name) check(f *faults) {
	f.id(n.ID)
	f.need("name", n.Name)
	f.hostName("name", n.Name)
	f.hostName("alias_of", n.Alias)
	if n.Alias != "" && n.Hop.Said() {
		f.add("alias_of", "a name leads somewhere or is the same as another name; keep one of them")
	}
	if n.Hop.Of != "" {
		f.add("name_id", "a name that leads to another one straight away is an alias; say alias_of")
	}
	if len(n.Then) > mostHops {
		f.add("then", "is passed on %d times; at most %d are allowed", len(n.Then), mostHops)
	}
	if len(n.Then) > 0 && !n.Hop.Said() {
		f.add("then", "say where the name leads first")
	}
	hops := n.Hops()
	for i, h := range hops {
		h.check(f, []string{"address", "then"}[min(i, 1)])
		if slices.Contains(hops[:i], h) || h.Of == n.ID {
			f.add("then", "the way goes round: it comes to the same place twice; end it where it is answered")
		}
	}
	n.Exposed.check(f)
	f.text("notes", n.Notes, maxNotes)
	n.Remarked.check(f)
}

func (h Hop) check(f *faults, field string) {
	said := 0
	for _, is := range []bool{h.Address.IsValid(), h.Device != "", h.Service != "", h.Tunnel != "", h.Of != ""} {
		if is {
			said++
		}
	}
	if h.Address.IsValid() {
		f.address(field, h.Address)
	}
	if said != 1 {
		f.add(field, "a name leads to an address, a device, a service or a tunnel; say one of them")
	}
	if h.Port < 0 || h.Port > 65535 {
		f.add(field, "a port is between 1 and 65535, not %d", h.Port)
	}
}

// HopDevice is the device at whose addresses a hop answers: of a service that of what it
// runs in, of a tunnel its end in the lab. Its ID is "" where there is none.
func (l *Lab) HopDevice(h Hop) Device {
	id := h.Device
	switch r := l.Get(h.Key()).(type) {
	case Service:
		id = r.In
	case Tunnel:
		id = r.Device
	}
	d, ok := Find[Device](l, id)
	if !ok || h.Tunnel != "" {
		return d
	}
	return l.AnswersAs(d)
}

// HopWords is where a name leads, hop by hop: "way in → library port 8080".
func (l *Lab) HopWords(n Name) string {
	var said []string
	for _, h := range n.Hops() {
		s := l.titleOf(h.Key())
		if h.Address.IsValid() {
			s = h.Address.String()
		}
		if h.Port > 0 {
			s += " port " + itoa(h.Port)
		}
		said = append(said, s)
	}
	return strings.Join(said, " → ")
}
