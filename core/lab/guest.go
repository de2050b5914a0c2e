package lab

import (
	"cmp"
	"slices"
)

// Engine is what a device or a guest runs others with.
type Engine string

// A hypervisor runs VMs and containers, a container engine containers, and a plain
// system nothing but what is set up on it.
const (
	Hypervisor   Engine = "hypervisor"
	Containers   Engine = "containers"
	PlainMachine Engine = "plain"
)

// Engines lists them.
func Engines() []Engine { return []Engine{Hypervisor, Containers, PlainMachine} }

// Enum lists them for the published schema.
func (Engine) Enum() []any { return anys(Engines()) }

// Words is the engine as one speaks of it.
func (e Engine) Words() string {
	switch e {
	case Containers:
		return "container engine"
	case PlainMachine:
		return "plain system"
	}
	return string(e)
}

// Hosting is what a device or a guest runs, and what that keeps for itself.
type Hosting struct {
	Runs      Engine `json:"runs,omitempty"`
	System    string `json:"system,omitempty" maxLength:"80" description:"What the system is called"`
	Version   string `json:"system_version,omitempty" maxLength:"40"`
	Supported When   `json:"supported_until,omitempty"`
	Keeps     *int64 `json:"keeps_bytes,omitempty" description:"Memory that it keeps for itself"`
}

// MostMemory is the most memory that a guest is given: 8 TiB.
const MostMemory = 8 << 40

func (h Hosting) check(f *faults) {
	optional(f, "runs", h.Runs, Engines())
	f.line("system", h.System, maxName)
	f.line("system_version", h.Version, 40)
	f.when("supported_until", h.Supported)
	f.memory("keeps_bytes", h.Keeps)
}

// memory takes an amount that a machine may have.
func (f *faults) memory(field string, n *int64) {
	if n != nil && (*n < 0 || *n > MostMemory) {
		f.add(field, "%s of memory is out of range: it is between none and 8192 GB, or left out while unknown", gib(*n))
	}
}

func gib(n int64) string { return itoa(int(n>>30)) + " GB" }

// Elsewhere is how a guest gets to another host once its own is gone.
type Elsewhere string

// A person moves it, or its cluster restarts it on another host.
const (
	ByHand   Elsewhere = "by_hand"
	ByItself Elsewhere = "by_itself"
)

// Enum lists both for the published schema.
func (Elsewhere) Enum() []any { return anys([]Elsewhere{ByHand, ByItself}) }

// Listening is a port that something answers on.
type Listening struct {
	Over Protocol `json:"over" required:"true"`
	Port int      `json:"port" required:"true" minimum:"1" maximum:"65535"`
}

// Words is the port as one writes it: tcp 8080.
func (p Listening) Words() string { return string(p.Over) + " " + itoa(p.Port) }

func (f *faults) listening(list []Listening) {
	if len(list) > 64 {
		f.add("listens", "has %d entries; at most 64 are allowed", len(list))
	}
	for i, p := range list {
		oneOf(f, "listens", p.Over, []Protocol{TCP, UDP})
		if p.Port < 1 || p.Port > 65535 {
			f.add("listens", "a port is between 1 and 65535, not %d", p.Port)
		}
		if slices.Contains(list[:i], p) {
			f.add("listens", "%s is listed twice; once will do", p.Words())
		}
	}
}

// Handed is a thing of its host that a guest has for itself: what is in a slot, a port,
// a part, a device that is plugged in, or something in words. Just one of them is said.
type Handed struct {
	Slot   int    `json:"slot,omitempty" minimum:"1" maximum:"512" description:"Of the host: whatever is in it"`
	Port   string `json:"port,omitempty" maxLength:"60" description:"Of the host, by its key"`
	Part   ID     `json:"part_id,omitempty"`
	Device ID     `json:"device_id,omitempty"`
	Words  string `json:"words,omitempty" maxLength:"80" description:"What is not written down as a thing"`
}

// Guesting is what is said of a VM or a container beside what is said of any device.
type Guesting struct {
	Template  ID          `json:"template_id,omitempty" description:"What it was made from; it has what that has unless said"`
	Count     *int        `json:"guest_count,omitempty" minimum:"1" maximum:"10000" description:"So many that nobody lists one by one"`
	VCPUs     *int        `json:"vcpus,omitempty" minimum:"1" maximum:"1024"`
	Given     *int64      `json:"given_bytes,omitempty" description:"Memory that it is given"`
	Uses      *int64      `json:"uses_bytes,omitempty" description:"Memory that it uses of that"`
	UsesOn    When        `json:"uses_on,omitempty" description:"The day on which that was so"`
	NetworkOf ID          `json:"network_of_id,omitempty" description:"The guest whose network it shares"`
	Handed    []Handed    `json:"handed_through,omitempty" nullable:"false" maxItems:"32" description:"What of its host it has for itself"`
	Pinned    bool        `json:"pinned,omitempty" description:"It stays on its host"`
	Elsewhere Elsewhere   `json:"elsewhere,omitempty" description:"How it gets to another host; by hand unless said"`
	Starts    *int        `json:"starts,omitempty" minimum:"1" maximum:"10000" description:"Its turn when the host boots; 1 is first"`
	WaitS     *float64    `json:"wait_s,omitempty" description:"Seconds after the one before"`
	After     []ID        `json:"starts_after_ids,omitempty" nullable:"false" maxItems:"32" description:"Those it is started after"`
	Worth     Worth       `json:"worth,omitempty"`
	Listens   []Listening `json:"listens,omitempty" nullable:"false" maxItems:"64"`
}

func (g Guesting) refs() []Ref {
	var refs []Ref
	if g.Template != "" {
		refs = append(refs, Ref{"template_id", Key{KindTemplate, g.Template}, Clear})
	}
	if g.NetworkOf != "" {
		refs = append(refs, Ref{"network_of_id", Key{KindDevice, g.NetworkOf}, Clear})
	}
	for _, id := range g.After {
		refs = append(refs, Ref{"starts_after_ids", Key{KindDevice, id}, Clear})
	}
	for _, h := range g.Handed {
		if h.Part != "" {
			refs = append(refs, Ref{"handed_through", Key{KindPart, h.Part}, Clear})
		}
		if h.Device != "" {
			refs = append(refs, Ref{"handed_through", Key{KindDevice, h.Device}, Clear})
		}
	}
	return refs
}

func (g Guesting) check(f *faults) {
	if g.Count != nil && (*g.Count < 1 || *g.Count > 10_000) {
		f.add("guest_count", "there are 1 to 10000 of them, not %d", *g.Count)
	}
	if g.VCPUs != nil && (*g.VCPUs < 1 || *g.VCPUs > 1024) {
		f.add("vcpus", "a guest has 1 to 1024 vCPUs, not %d", *g.VCPUs)
	}
	f.memory("given_bytes", g.Given)
	f.memory("uses_bytes", g.Uses)
	f.when("uses_on", g.UsesOn)
	optional(f, "elsewhere", g.Elsewhere, []Elsewhere{ByHand, ByItself})
	optional(f, "worth", g.Worth, Worths())
	if g.Pinned && g.Elsewhere != "" {
		f.add("elsewhere", "what is pinned to its host goes nowhere else; say one of the two")
	}
	if g.Starts != nil && (*g.Starts < 1 || *g.Starts > 10_000) {
		f.add("starts", "its turn is 1 to 10000, not %d", *g.Starts)
	}
	f.between("wait_s", g.WaitS, 0, 86_400, "s")
	f.listening(g.Listens)
	if len(g.Handed) > 32 {
		f.add("handed_through", "has %d entries; at most 32 are allowed", len(g.Handed))
	}
	for i, h := range g.Handed {
		if h.kinds() != 1 {
			f.add("handed_through", "name just one of a slot, a port, a part, a device, or say it in words")
		}
		if h.Slot < 0 || h.Slot > 512 {
			f.add("handed_through", "a slot is between 1 and 512, not %d", h.Slot)
		}
		f.line("handed_through", h.Port, 60)
		f.line("handed_through", h.Words, maxName)
		if slices.Contains(g.Handed[:i], h) {
			f.add("handed_through", "the same thing is there twice")
		}
	}
	if len(slices.Compact(slices.Sorted(slices.Values(g.After)))) < len(g.After) || len(g.After) > 32 {
		f.add("starts_after_ids", "name each guest once, and at most 32")
	}
}

// kinds is how many of the ways to say it are said.
func (h Handed) kinds() (n int) {
	for _, said := range []bool{h.Slot != 0, h.Port != "", h.Part != "", h.Device != "", h.Words != ""} {
		if said {
			n++
		}
	}
	return n
}

func (g Guesting) isZero() bool { return Same(Device{Guesting: g}, Device{}) }

// IsGuest reports whether a device is none that one could touch: a VM or a container.
func (d Device) IsGuest() bool { return d.Kind.Traits().Guest }

// Many is how many a guest stands for: one, or as many as nobody lists.
func (d Device) Many() int {
	if d.Count != nil {
		return *d.Count
	}
	return 1
}

// mayHost reports whether guests may run on a device: a computer, a router, another
// guest, or one that is said to run them.
func (d Device) mayHost() bool {
	return d.IsGuest() || d.Kind == Other || d.is(func(t Traits) bool { return t.Computes || t.Routes })
}

// checkGuest finds a guest on what runs none, and what is said of it that leads back to
// it; and of what is no guest what only one has.
func (d Device) checkGuest(l *Lab, f *faults) {
	on := Device{}
	if d.At != nil && d.At.Where == OnDevice {
		on, _ = Find[Device](l, d.At.Device)
	}
	if !d.IsGuest() {
		if !d.Guesting.isZero() {
			f.add("device_kind", "%s is a %s, and has facts that only a VM or a container has; remove those first", quote(d.Title()), d.KindWords())
		}
		if on.IsGuest() {
			f.add("at.device_id", "%s cannot stand on %s, which is a %s", quote(d.Title()), quote(on.Title()), on.KindWords())
		}
		return
	}
	switch {
	case d.At == nil:
	case d.At.Where != OnDevice:
		f.add("at.where", "%s is a %s and runs on a host; write on and its name", quote(d.Title()), d.KindWords())
	case !on.mayHost():
		f.add("at.device_id", "%s cannot run on %s: a %s runs no guests", quote(d.Title()), quote(on.Title()), on.KindWords())
	case d.Kind == VM && on.Kind == Container:
		f.add("at.device_id", "%s is a VM and cannot run in %s, which is a container", quote(d.Title()), quote(on.Title()))
	}
	if d.Kind == Container && d.NetworkOf != "" {
		of, _ := Find[Device](l, d.NetworkOf)
		back, deep := l.nesting(d, "network_of_id")
		switch {
		case back != nil && back.Key() == d.Key():
			f.add("network_of_id", "%s cannot share the network of itself", quote(d.Title()))
		case back != nil || deep:
			f.add("network_of_id", "%s shares the network of %s, and that leads back to it", quote(d.Title()), quote(of.Title()))
		case !of.IsGuest():
			f.add("network_of_id", "%s is a %s; a container shares the network of another guest", quote(of.Title()), of.KindWords())
		}
	} else if d.NetworkOf != "" {
		f.add("network_of_id", "only a container shares the network of another one, and %s is a %s", quote(d.Title()), d.KindWords())
	}
	if back := l.startsBefore(d); back != "" {
		f.add("starts_after_ids", "%s would wait for itself: it is started after %s", quote(d.Title()), quote(back))
	}
	if d.Count != nil && d.Name != "" {
		f.add("guest_count", "%s is one guest by its name; several that nobody lists have none", quote(d.Title()))
	}
}

// startsBefore is the guest through which one is started after itself, "" where none is.
func (l *Lab) startsBefore(d Device) string {
	seen := map[ID]bool{}
	var leads func(at Device) bool
	leads = func(at Device) bool {
		for _, id := range at.After {
			if id == d.ID {
				return true
			}
			if next, ok := Find[Device](l, id); ok && !seen[id] {
				seen[id] = true
				if leads(next) {
					return true
				}
			}
		}
		return false
	}
	for _, id := range d.After {
		if id == d.ID {
			return d.Title()
		}
		if first, ok := Find[Device](l, id); ok && leads(first) {
			return first.Title()
		}
	}
	return ""
}

// GuestsOn are those straight on a device or in a guest, in their order.
func (l *Lab) GuestsOn(host ID) []Device {
	var list []Device
	for by := range l.UsersOf(Key{KindDevice, host}) {
		if d, ok := by.(Device); ok && d.IsGuest() && d.At != nil && d.At.Device == host {
			list = append(list, d)
		}
	}
	slices.SortStableFunc(list, func(a, b Device) int { return a.At.Order - b.At.Order })
	return list
}

// HostOf is the device that a guest runs on in the end, however deep; ok is false where
// it runs on none. Of what is no guest it is the device itself.
func (l *Lab) HostOf(d Device) (host Device, ok bool) {
	for range MostNested + 1 {
		if !d.IsGuest() {
			return d, true
		}
		if d.At == nil {
			return Device{}, false
		}
		if d, ok = Find[Device](l, d.At.Device); !ok {
			return Device{}, false
		}
	}
	return Device{}, false
}

// AnswersAs is the device at whose addresses one answers: its own, or, of a container
// without any, the guest whose network it shares, or else what it runs in.
func (l *Lab) AnswersAs(d Device) Device {
	for range MostNested + 1 {
		at := ID("")
		if d.At != nil {
			at = d.At.Device
		}
		if d.Kind != Container || len(d.Addresses) > 0 {
			return d
		}
		next, ok := Find[Device](l, cmp.Or(d.NetworkOf, at))
		if !ok {
			return d
		}
		d = next
	}
	return d
}

// Leg is one of a guest's ends in the network: a VLAN, and the addresses it has there.
type Leg struct {
	VLAN      int // 0 while unknown
	Addresses []Address
}

// Legs are a guest's, in the order of their VLANs, those of which no VLAN is said last.
func (d Device) Legs() []Leg {
	var legs []Leg
	taken := map[int]bool{}
	for _, m := range d.Marks {
		leg := Leg{VLAN: m.Untagged.One()}
		for i, a := range d.Addresses {
			if a.Port == m.Port {
				leg.Addresses, taken[i] = append(leg.Addresses, a), true
			}
		}
		legs = append(legs, leg)
	}
	for n := range d.Tagged.Numbers() {
		legs = append(legs, Leg{VLAN: n})
	}
	rest := Leg{VLAN: d.Untagged.One()}
	for i, a := range d.Addresses {
		if !taken[i] {
			rest.Addresses = append(rest.Addresses, a)
		}
	}
	if rest.VLAN > 0 || rest.Addresses != nil {
		legs = append(legs, rest)
	}
	return legs
}

// MadeOf is a guest with what it does not say taken from its template.
func (l *Lab) MadeOf(d Device) Guesting {
	g := d.Guesting
	if t, ok := Find[Template](l, g.Template); ok {
		if g.VCPUs == nil {
			g.VCPUs = t.VCPUs
		}
		if g.Given == nil {
			g.Given = t.Given
		}
	}
	return g
}
