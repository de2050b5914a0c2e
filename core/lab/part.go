package lab

import (
	"cmp"
	"slices"
)

// PartKind is the sort of a part.
type PartKind string

// The sorts of part there are.
const (
	Drive       PartKind = "drive"
	Memory      PartKind = "memory"
	Processor   PartKind = "processor"
	Card        PartKind = "card"
	Supply      PartKind = "supply"
	Fan         PartKind = "fan"
	Battery     PartKind = "battery"
	Transceiver PartKind = "transceiver"
)

// PartKinds lists every sort.
func PartKinds() []PartKind { return slices.Clone(partKinds) }

var partKinds = []PartKind{Processor, Memory, Drive, Card, Supply, Fan, Battery, Transceiver}

// Enum lists the sorts for the published schema.
func (PartKind) Enum() []any { return anys(partKinds) }

// Seat is the word for what a part of the sort sits in.
func (k PartKind) Seat() string {
	switch k {
	case Drive, Supply:
		return "bay"
	case Processor:
		return "socket"
	case Transceiver:
		return "cage"
	}
	return "slot"
}

// Part is what sits inside a device, lies in the spares bin or is on order.
type Part struct {
	ID      ID       `json:"id" required:"true"`
	Name    string   `json:"name,omitempty" maxLength:"80" lab:"name"`
	Kind    PartKind `json:"part_kind" required:"true"`
	State   State    `json:"state" required:"true"`
	Device  ID       `json:"device_id,omitempty" description:"What it is in; absent for what lies in the spares bin or is on order"`
	Seat    int      `json:"seat,omitempty" minimum:"1" maximum:"512" description:"Its bay, slot, socket or cage, from 1; absent if loose"`
	Ordered bool     `json:"ordered,omitempty" description:"It is on order and not here yet"`
	Maker   string   `json:"maker,omitempty" maxLength:"80"`
	Model   string   `json:"model,omitempty" maxLength:"80"`
	Notes   string   `json:"notes,omitempty" maxLength:"10000"`
	Remarked
	Serial string `json:"serial,omitempty" maxLength:"80" description:"Private" lab:"private"`

	SizeBytes *int64   `json:"size_bytes,omitempty" description:"Of a drive or a memory module"`
	Form      Form     `json:"form,omitempty" description:"Of a drive"`
	Medium    Medium   `json:"medium,omitempty" description:"Of a drive"`
	Interface string   `json:"interface,omitempty" description:"Of a drive: sata, sas, nvme, ide or scsi"`
	Recording string   `json:"recording,omitempty" enum:"cmr,smr" description:"Of a drive with platters"`
	Hours     *float64 `json:"hours,omitempty" description:"Hours a drive has run"`
	RPM       *float64 `json:"rpm,omitempty"`
	RateMB    *float64 `json:"rate_mb,omitempty" description:"Of a drive: what it reads and writes for hours, in MB/s"`

	MemoryType string   `json:"memory_type,omitempty" maxLength:"40"`
	Cores      *int     `json:"cores,omitempty" minimum:"1" maximum:"1024"`
	Threads    *int     `json:"threads,omitempty" minimum:"1" maximum:"4096"`
	BaseGHz    *float64 `json:"base_ghz,omitempty"`
	DesignW    *float64 `json:"design_w,omitempty" description:"Of a processor or card"`
	SocketType string   `json:"socket_type,omitempty" maxLength:"40"`

	CardKind   CardKind   `json:"card_kind,omitempty"`
	Mode       string     `json:"mode,omitempty" maxLength:"40" description:"Of a storage controller: raid, or passed through"`
	Wide       int        `json:"wide,omitempty" minimum:"1" maximum:"4" description:"Slots a card takes in width; 1 if it is absent"`
	LengthMM   *float64   `json:"length_mm,omitempty"`
	CardHeight CardHeight `json:"card_height,omitempty"`
	Lanes      int        `json:"lanes,omitempty" minimum:"1" maximum:"16"`
	PowerLeads *int       `json:"power_leads,omitempty" minimum:"0" maximum:"32" description:"Leads a card wants, or a supply has"`

	GivesW    *float64 `json:"gives_w,omitempty" description:"Of a supply"`
	Grade     Grade    `json:"grade,omitempty" description:"Of a supply"`
	Chemistry string   `json:"chemistry,omitempty" maxLength:"40" description:"Of a battery: lead-acid, lithium iron phosphate"`
	PutIn     When     `json:"put_in,omitempty" description:"When a battery was put in"`
	EnergyWh  *float64 `json:"energy_wh,omitempty" description:"Of a battery, when new"`
	Outside   bool     `json:"outside,omitempty" description:"Of a battery: a pack outside, beyond what its UPS has inside"`
	Connector string   `json:"connector,omitempty" maxLength:"20" description:"Of a transceiver: the cage it goes in"`
	SpeedMb   *int     `json:"speed_mb,omitempty" minimum:"1" maximum:"2000000" description:"Of a transceiver, in Mbit/s"`
	Takes     string   `json:"takes,omitempty" maxLength:"20" description:"Of a transceiver: the connector it offers, such as lc or rj45"`
	Fibre     string   `json:"fibre,omitempty" enum:"multimode,single-mode" description:"Of a transceiver: the fibre it is for"`
	Money
}

// Medium is what a drive keeps its data on.
type Medium string

var media = []Medium{"hdd", "ssd", "tape", "optical"}

// Enum lists the media for the published schema.
func (Medium) Enum() []any { return anys(media) }

// CardKind is what an expansion card is for.
type CardKind string

var cardKinds = []CardKind{"gpu", "network", "storage", "other"}

// Enum lists the kinds for the published schema.
func (CardKind) Enum() []any { return anys(cardKinds) }

// Key implements Record.
func (p Part) Key() Key { return Key{KindPart, p.ID} }

// Title implements Record.
func (p Part) Title() string { return titleOr(p.Name, string(p.Kind)) }

// Refs implements Record.
func (p Part) Refs() []Ref {
	if p.Device == "" {
		return nil
	}
	return []Ref{{"device_id", Key{KindDevice, p.Device}, GoAlong}}
}

func (p Part) withDefaults() Record {
	p.State = cmp.Or(p.State, Running)
	return p
}

func (p Part) check(f *faults) {
	f.id(p.ID)
	f.name("name", p.Name)
	oneOf(f, "part_kind", p.Kind, partKinds)
	oneOf(f, "state", p.State, states)
	switch {
	case p.Device == "" && p.Seat != 0:
		f.add("seat", "a part that is not in a device cannot have a %s", p.Kind.Seat())
	case p.Seat < 0 || p.Seat > 512:
		f.add("seat", "there is no %s %d", p.Kind.Seat(), p.Seat)
	}
	if p.Device != "" && p.Ordered {
		f.add("ordered", "a part that is on order is in no device yet")
	}
	f.name("maker", p.Maker)
	f.name("model", p.Model)
	f.text("notes", p.Notes, maxNotes)
	p.Remarked.check(f)
	f.name("serial", p.Serial)
	f.bytes("size_bytes", p.SizeBytes)
	optional(f, "form", p.Form, forms)
	optional(f, "medium", p.Medium, media)
	optional(f, "interface", p.Interface, interfaces)
	optional(f, "recording", p.Recording, []string{"cmr", "smr"})
	f.between("hours", p.Hours, 0, 500_000, "hours")
	f.between("rpm", p.RPM, 1, 100_000, "rpm")
	f.between("rate_mb", p.RateMB, 0.1, 100_000, "MB/s")
	f.line("memory_type", p.MemoryType, 40)
	f.counted("cores", p.Cores, 1024)
	f.counted("threads", p.Threads, 4096)
	if p.Cores != nil && p.Threads != nil && *p.Threads < *p.Cores {
		f.add("threads", "a processor with %d cores has at least as many threads", *p.Cores)
	}
	f.between("base_ghz", p.BaseGHz, 0.001, 20, "GHz")
	f.between("design_w", p.DesignW, 0.1, 5000, "W")
	f.line("socket_type", p.SocketType, 40)
	optional(f, "card_kind", p.CardKind, cardKinds)
	f.line("mode", p.Mode, 40)
	if p.Wide < 0 || p.Wide > 4 || p.Lanes < 0 || p.Lanes > 16 {
		f.add("wide", "a card is 1 to 4 slots wide and has 1 to 16 lanes")
	}
	f.between("length_mm", p.LengthMM, 10, 1000, "mm")
	optional(f, "card_height", p.CardHeight, cardHeights)
	f.counted("power_leads", p.PowerLeads, 32)
	f.between("gives_w", p.GivesW, 1, 100_000, "W")
	optional(f, "grade", p.Grade, grades)
	f.line("chemistry", p.Chemistry, 40)
	f.when("put_in", p.PutIn)
	f.between("energy_wh", p.EnergyWh, 0.1, 1_000_000, "Wh")
	f.line("connector", p.Connector, 20)
	f.line("takes", p.Takes, 20)
	optional(f, "fibre", p.Fibre, []string{"multimode", "single-mode"})
	f.counted("speed_mb", p.SpeedMb, 2_000_000)
	p.Money.check(f)
}

// checkIn finds a part in a seat that its device has not, or that another one
// has taken.
func (p Part) checkIn(l *Lab, f *faults) {
	d, ok := Find[Device](l, p.Device)
	if d.IsGuest() {
		f.add("device_id", "%s is a %s and has nothing in it; put this in its host", quote(d.Title()), d.KindWords())
	}
	if !ok || p.Seat == 0 {
		return
	}
	if n := l.SpecOf(d).Seats(p.Kind); n != nil && p.Seat > *n {
		f.add("seat", "%s", noSeat(d, p, *n))
		return
	}
	told := 0
	for _, o := range f.seatedIn(l, d.ID)[partSeat{p.Kind, p.Seat}] {
		if told == mostInTheWay {
			break
		}
		if o.ID == p.ID || f.changed[o.Key()] && !f.checked[o.Key()] {
			continue
		}
		told++
		f.add("seat", "%s %d of %s has %s in it; take that out first, or swap them", p.Kind.Seat(), p.Seat, quote(d.Title()), quote(o.Title()))
	}
}

// partSeat is one seat of a device.
type partSeat struct {
	kind PartKind
	n    int
}

// seatedIn tells what sits in a device's seats in the lab that is being checked.
func (f *faults) seatedIn(l *Lab, device ID) map[partSeat][]Part {
	in, known := f.seated[device]
	if !known {
		in = map[partSeat][]Part{}
		for p := range l.partsIn(device) {
			in[partSeat{p.Kind, p.Seat}] = append(in[partSeat{p.Kind, p.Seat}], p)
		}
		f.seated[device] = in
	}
	return in
}

func noSeat(d Device, p Part, n int) string {
	if n == 0 {
		return quote(d.Title()) + " has no " + p.Kind.Seat() + " for a " + string(p.Kind)
	}
	return quote(d.Title()) + " has the " + p.Kind.Seat() + "s 1 to " + itoa(n) + ", and " + quote(p.Title()) + " is in " + itoa(p.Seat)
}

// checkSeats finds the parts of a device that its spec has no seats for.
func (d Device) checkSeats(l *Lab, f *faults) {
	spec := l.SpecOf(d)
	for _, p := range l.PartsOf(d.ID) {
		if n := spec.Seats(p.Kind); n != nil && p.Seat > *n && !f.changed[p.Key()] {
			f.add(seatField(p.Kind), "%s; move it first", noSeat(d, p, *n))
		}
	}
}

func seatField(k PartKind) string {
	switch k {
	case Drive:
		return "bays"
	case Memory:
		return "memory_slots"
	case Processor:
		return "sockets"
	case Supply:
		return "supply_bays"
	case Transceiver:
		return "ports"
	}
	return "slots"
}

// Seats is how many seats for parts of a sort a thing with this spec has, nil
// while that is unknown.
func (s Spec) Seats(k PartKind) *int {
	sum := 0
	switch k {
	case Drive:
		for _, b := range s.Bays {
			sum += b.Count
		}
	case Card:
		for _, g := range s.Slots {
			sum += g.Count
		}
	case Transceiver:
		for _, p := range s.Ports {
			if p.Cage() {
				sum += p.Count
			}
		}
	case Memory:
		return s.MemorySlots
	case Processor:
		return s.Sockets
	case Supply:
		return s.SupplyBays
	}
	if sum == 0 {
		return nil
	}
	return &sum
}

// Cage reports whether the ports take transceivers.
func (p PortGroup) Cage() bool {
	return slices.Contains([]string{"sfp", "sfp+", "sfp28", "qsfp", "qsfp+", "qsfp28", "xfp"}, p.Connector)
}

// PartsOf lists what sits in a device, by sort and seat, what is loose last.
func (l *Lab) PartsOf(device ID) []Part {
	var parts []Part
	it := l.users.Root().Iterator()
	of := Key{KindDevice, device}
	it.SeekPrefix(append(of.with(0), KindPart...))
	for _, r, ok := it.Next(); ok; _, r, ok = it.Next() {
		if p, is := r.(Part); is {
			parts = append(parts, p)
		}
	}
	InOrder(parts)
	return parts
}

func bySeat(a, b Part) int {
	last := func(seat int) int {
		if seat == 0 {
			return 1 << 20
		}
		return seat
	}
	named := func(p Part) int {
		if p.Name != "" {
			return 0
		}
		return 1
	}
	return cmp.Or(slices.Index(partKinds, a.Kind)-slices.Index(partKinds, b.Kind), last(a.Seat)-last(b.Seat), named(a)-named(b))
}

// InOrder sorts parts by sort and seat, those with a name before those without.
func InOrder(parts []Part) { slices.SortStableFunc(parts, bySeat) }
