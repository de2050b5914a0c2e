package lab

import (
	"cmp"
	"slices"
)

// Spec is what all units of one make and model share. A spec sheet says it
// once; a device may say any of it for itself, which then goes before what its
// sheet says. What is not known is nil, empty or absent.
type Spec struct {
	Maker    string   `json:"maker,omitempty" maxLength:"80"`
	Model    string   `json:"model,omitempty" maxLength:"80"`
	HeightMM *float64 `json:"height_mm,omitempty" description:"Its own height, which may be less than the units it takes"`
	TakesU   *int     `json:"takes_u,omitempty" minimum:"1" maximum:"60" description:"How many units of a rack it takes"`
	WidthMM  *float64 `json:"width_mm,omitempty" description:"Of the body, without the ears"`
	DepthMM  *float64 `json:"depth_mm,omitempty" description:"From the ears to the last thing at the back"`
	WeightKG *float64 `json:"weight_kg,omitempty"`
	FrontMM  *float64 `json:"front_mm,omitempty" description:"How far it sticks out before the posts, handles and plugs and all"`
	HoldsKG  *float64 `json:"holds_kg,omitempty" description:"Of a shelf or drawer: the load it may carry"`

	Mount      Mount    `json:"mount,omitempty" description:"What holds it in a rack; absent while unknown"`
	RailMM     *float64 `json:"rail_mm,omitempty" description:"How thick its rails are, on each side"`
	RailFromMM *float64 `json:"rail_from_mm,omitempty" description:"The shortest distance between posts that its rails span"`
	RailToMM   *float64 `json:"rail_to_mm,omitempty" description:"The longest distance between posts that its rails span"`

	Ports   []PortGroup   `json:"ports,omitempty" maxItems:"24"`
	Bays    []BayGroup    `json:"bays,omitempty" maxItems:"24" description:"Drive bays, numbered through all groups from 1"`
	Slots   []SlotGroup   `json:"slots,omitempty" maxItems:"24" description:"Expansion slots, numbered through all groups from 1"`
	Outlets []OutletGroup `json:"outlets,omitempty" maxItems:"24"`

	MemorySlots     *int   `json:"memory_slots,omitempty" minimum:"0" maximum:"256"`
	MemoryType      string `json:"memory_type,omitempty" maxLength:"40" description:"Such as ddr4 or ddr4 registered"`
	MemorySlotBytes *int64 `json:"memory_slot_bytes,omitempty" description:"The largest module a slot takes"`
	MemoryMostBytes *int64 `json:"memory_most_bytes,omitempty" description:"The most memory it takes in all"`
	Sockets         *int   `json:"sockets,omitempty" minimum:"0" maximum:"64" description:"Processor sockets"`
	SocketType      string `json:"socket_type,omitempty" maxLength:"40"`

	SupplyBays     *int     `json:"supply_bays,omitempty" minimum:"0" maximum:"32" description:"How many power supplies it has room for"`
	SupplyW        *float64 `json:"supply_w,omitempty" description:"What each supply gives"`
	SupplyGrade    Grade    `json:"supply_grade,omitempty" description:"Efficiency grade of the supplies"`
	SuppliesNeeded *int     `json:"supplies_needed,omitempty" minimum:"0" maximum:"32"`
	PowerLeads     *int     `json:"power_leads,omitempty" minimum:"0" maximum:"32" description:"Power leads it has for cards"`

	StandbyW *float64 `json:"standby_w,omitempty"`
	IdleW    *float64 `json:"idle_w,omitempty"`
	TypicalW *float64 `json:"typical_w,omitempty"`
	MostW    *float64 `json:"most_w,omitempty"`
	Rating
	PoEBudgetW *float64   `json:"poe_budget_w,omitempty"`
	Managed    Management `json:"management,omitempty" description:"Whether it can be told what its ports carry; absent while unknown"`
	Runtimes   []Runtime  `json:"runtimes,omitempty" nullable:"false" maxItems:"24" description:"Of a UPS: what load it holds how long, new"`
	NoiseDB    *float64   `json:"noise_db,omitempty" description:"dB(A)"`
	BusyDB     *float64   `json:"busy_db,omitempty" description:"dB(A), at its most"`
	TempFromC  *float64   `json:"temp_from_c,omitempty"`
	TempToC    *float64   `json:"temp_to_c,omitempty"`
	FiguresBy  string     `json:"figures_by,omitempty" maxLength:"200" description:"Where these figures are from"`
}

// Over is the spec with what it does not know taken from another one.
func (s Spec) Over(o Spec) Spec {
	return Spec{
		Maker: cmp.Or(s.Maker, o.Maker), Model: cmp.Or(s.Model, o.Model),
		HeightMM: cmp.Or(s.HeightMM, o.HeightMM), TakesU: cmp.Or(s.TakesU, o.TakesU), WidthMM: cmp.Or(s.WidthMM, o.WidthMM),
		DepthMM: cmp.Or(s.DepthMM, o.DepthMM), WeightKG: cmp.Or(s.WeightKG, o.WeightKG), FrontMM: cmp.Or(s.FrontMM, o.FrontMM),
		HoldsKG: cmp.Or(s.HoldsKG, o.HoldsKG),
		Mount:   cmp.Or(s.Mount, o.Mount), RailMM: cmp.Or(s.RailMM, o.RailMM), RailFromMM: cmp.Or(s.RailFromMM, o.RailFromMM),
		RailToMM: cmp.Or(s.RailToMM, o.RailToMM),
		Ports:    either(s.Ports, o.Ports), Bays: either(s.Bays, o.Bays), Slots: either(s.Slots, o.Slots), Outlets: either(s.Outlets, o.Outlets),
		MemorySlots: cmp.Or(s.MemorySlots, o.MemorySlots), MemoryType: cmp.Or(s.MemoryType, o.MemoryType),
		MemorySlotBytes: cmp.Or(s.MemorySlotBytes, o.MemorySlotBytes), MemoryMostBytes: cmp.Or(s.MemoryMostBytes, o.MemoryMostBytes),
		Sockets: cmp.Or(s.Sockets, o.Sockets), SocketType: cmp.Or(s.SocketType, o.SocketType),
		SupplyBays: cmp.Or(s.SupplyBays, o.SupplyBays), SupplyW: cmp.Or(s.SupplyW, o.SupplyW), SupplyGrade: cmp.Or(s.SupplyGrade, o.SupplyGrade),
		SuppliesNeeded: cmp.Or(s.SuppliesNeeded, o.SuppliesNeeded), PowerLeads: cmp.Or(s.PowerLeads, o.PowerLeads),
		StandbyW: cmp.Or(s.StandbyW, o.StandbyW), IdleW: cmp.Or(s.IdleW, o.IdleW), TypicalW: cmp.Or(s.TypicalW, o.TypicalW),
		MostW: cmp.Or(s.MostW, o.MostW), Rating: s.over(o.Rating),
		PoEBudgetW: cmp.Or(s.PoEBudgetW, o.PoEBudgetW), Managed: cmp.Or(s.Managed, o.Managed), NoiseDB: cmp.Or(s.NoiseDB, o.NoiseDB),
		Runtimes: either(s.Runtimes, o.Runtimes), BusyDB: cmp.Or(s.BusyDB, o.BusyDB),
		TempFromC: cmp.Or(s.TempFromC, o.TempFromC),
		TempToC:   cmp.Or(s.TempToC, o.TempToC), FiguresBy: cmp.Or(s.FiguresBy, o.FiguresBy),
	}
}

func either[T any](a, b []T) []T {
	if len(a) > 0 {
		return a
	}
	return b
}

// Mount is what holds a thing in a rack.
type Mount string

// By its ears, on rails, or by nothing: it stands on what is below.
const (
	ByEars  Mount = "ears"
	OnRails Mount = "rails"
	ByNone  Mount = "none"
)

var mounts = []Mount{ByEars, OnRails, ByNone}

// Enum lists the mounts for the published schema.
func (Mount) Enum() []any { return anys(mounts) }

// Grade is the efficiency of a power supply, by the metals the trade uses.
type Grade string

// Grades lists them, the least efficient first.
func Grades() []Grade { return slices.Clone(grades) }

var grades = []Grade{"plain", "bronze", "silver", "gold", "platinum", "titanium"}

// Enum lists the grades for the published schema.
func (Grade) Enum() []any { return anys(grades) }

// PortGroup is a number of alike ports in rows.
type PortGroup struct {
	Name      string        `json:"name,omitempty" maxLength:"40" description:"What stands before each port's number"`
	Count     int           `json:"count" required:"true" minimum:"1" maximum:"512"`
	Connector string        `json:"connector,omitempty" maxLength:"20" description:"Such as rj45, sfp+, usb-a, hdmi; absent while unknown"`
	SpeedsMb  []int         `json:"speeds_mb,omitempty" nullable:"false" maxItems:"8" description:"In Mbit/s, rising"`
	Rows      int           `json:"rows,omitempty" minimum:"1" maximum:"8" description:"If absent: 2 where there are many"`
	Numbering PortNumbering `json:"numbering,omitempty" description:"across if it is absent"`
	First     int           `json:"first,omitempty" minimum:"0" maximum:"9999" description:"The first port's number; 1 by default"`
	ZeroBased bool          `json:"zero_based,omitempty" description:"The first port is number 0"`
	Face      Face          `json:"face,omitempty" description:"If it is absent: where the kind has them"`
	PoEOut    int           `json:"poe_out_type,omitempty" minimum:"1" maximum:"4" description:"IEEE 802.3 type: 1 af, 2 at, 3 and 4 bt"`
	PoEIn     *int          `json:"poe_in_class,omitempty" minimum:"0" maximum:"8" description:"IEEE 802.3 class it draws"`
}

// PortNumbering is the way ports in several rows are counted.
type PortNumbering string

// Along each row, or down each column: odd numbers above, even ones below.
const (
	Across PortNumbering = "across"
	Down   PortNumbering = "down"
)

// Enum lists the numberings for the published schema.
func (PortNumbering) Enum() []any { return []any{Across, Down} }

// Side is where something is in a device: at one of its faces or inside.
type Side string

// The sides of a device that bays are at.
const (
	AtFront Side = "front"
	AtRear  Side = "rear"
	Inside  Side = "inside"
)

var sides = []Side{AtFront, AtRear, Inside}

// Enum lists the sides for the published schema.
func (Side) Enum() []any { return anys(sides) }

// BayGroup is a number of alike drive bays.
type BayGroup struct {
	Count      int      `json:"count" required:"true" minimum:"1" maximum:"256"`
	Form       Form     `json:"form,omitempty" description:"Absent while unknown"`
	Interfaces []string `json:"interfaces,omitempty" nullable:"false" maxItems:"4" description:"sata, sas, nvme, ide or scsi"`
	Side       Side     `json:"side,omitempty" description:"front if it is absent"`
}

// Form is the size of a drive or of a bay for it.
type Form string

var forms = []Form{"3.5in", "2.5in", "m.2", "5.25in", "1.8in"}

// Enum lists the forms for the published schema.
func (Form) Enum() []any { return anys(forms) }

// Interfaces are the ways a drive may be connected.
func Interfaces() []string { return slices.Clone(interfaces) }

var interfaces = []string{"sata", "sas", "nvme", "ide", "scsi"}

// SlotGroup is a number of alike expansion slots.
type SlotGroup struct {
	Count    int        `json:"count" required:"true" minimum:"1" maximum:"64"`
	Lanes    int        `json:"lanes,omitempty" minimum:"1" maximum:"16" description:"Length of its connector in lanes; absent while unknown"`
	Wired    int        `json:"wired,omitempty" minimum:"1" maximum:"16" description:"Lanes that are wired, where they are fewer"`
	Height   CardHeight `json:"height,omitempty" description:"full if it is absent"`
	LengthMM *float64   `json:"length_mm,omitempty" description:"The longest card it takes"`
	Wide     int        `json:"wide,omitempty" minimum:"1" maximum:"4" description:"Slots a card in it may cover; 1 by default"`
}

// CardHeight is the height of an expansion card or of a slot for it.
type CardHeight string

// Cards are of full or of half height.
const (
	FullHeight CardHeight = "full"
	HalfHeight CardHeight = "half"
)

var cardHeights = []CardHeight{FullHeight, HalfHeight}

// Enum lists the heights for the published schema.
func (CardHeight) Enum() []any { return anys(cardHeights) }

// OutletGroup is a number of alike outlets for power.
type OutletGroup struct {
	Count     int    `json:"count" required:"true" minimum:"1" maximum:"128"`
	Connector string `json:"connector,omitempty" maxLength:"20" description:"Such as c13, c19, uk or type-f; absent while unknown"`
	Face      Face   `json:"face,omitempty" description:"If it is absent: where the kind has them"`
	Battery   bool   `json:"battery,omitempty" description:"Held by a battery when the mains fail"`
	Filtered  bool   `json:"filtered,omitempty" description:"Of a UPS: only filtered, and goes with the mains"`
	Switched  bool   `json:"switched,omitempty" description:"Each can be switched off by itself"`
	Metered   bool   `json:"metered,omitempty" description:"What each gives is measured"`
}

// SpecSheet is what is written down once for all units of a make and model.
type SpecSheet struct {
	ID    ID         `json:"id" required:"true"`
	Name  string     `json:"name" required:"true" maxLength:"80" lab:"name"`
	Kind  DeviceKind `json:"device_kind" required:"true"`
	Notes string     `json:"notes,omitempty" maxLength:"10000"`
	Spec
}

// Key implements Record.
func (s SpecSheet) Key() Key { return Key{KindSheet, s.ID} }

// Title implements Record.
func (s SpecSheet) Title() string { return titleOr(s.Name, "a spec sheet") }

// Refs implements Record.
func (s SpecSheet) Refs() []Ref { return nil }

func (s SpecSheet) withDefaults() Record {
	s.Spec = s.withConnectors()
	return s
}

func (s SpecSheet) uniques() []Unique { return byName(s.Name) }

func (s SpecSheet) check(f *faults) {
	f.id(s.ID)
	f.need("name", s.Name)
	f.name("name", s.Name)
	oneOf(f, "device_kind", s.Kind, deviceKinds)
	f.text("notes", s.Notes, maxNotes)
	s.Spec.check(f)
}

// checkIn finds the parts that a sheet which was made smaller leaves without
// a seat.
func (s SpecSheet) checkIn(l *Lab, f *faults) {
	if s.Kind.Traits().Guest {
		f.add("device_kind", "a %s has no spec sheet; make a template for it", s.Kind.Words())
	}
	for by := range l.UsersOf(s.Key()) {
		if d, ok := by.(Device); ok {
			d.checkSeats(l, f)
			d.checkPlugs(l, f)
		}
	}
}

func (s Spec) check(f *faults) {
	optional(f, "management", s.Managed, Managements())
	f.name("maker", s.Maker)
	f.name("model", s.Model)
	f.between("height_mm", s.HeightMM, 1, 3000, "mm")
	f.between("width_mm", s.WidthMM, 1, 3000, "mm")
	f.between("depth_mm", s.DepthMM, 1, 3000, "mm")
	f.between("weight_kg", s.WeightKG, 0.001, 5000, "kg")
	f.between("front_mm", s.FrontMM, 0, 1000, "mm")
	f.between("holds_kg", s.HoldsKG, 0.01, 5000, "kg")
	if s.TakesU != nil && (*s.TakesU < 1 || *s.TakesU > MaxRackUnits) {
		f.add("takes_u", "a device takes 1 to %d units, not %d", MaxRackUnits, *s.TakesU)
	}
	optional(f, "mount", s.Mount, mounts)
	f.between("rail_mm", s.RailMM, 0.1, 100, "mm")
	f.between("rail_from_mm", s.RailFromMM, 50, 3000, "mm")
	f.between("rail_to_mm", s.RailToMM, 50, 3000, "mm")
	if s.RailFromMM != nil && s.RailToMM != nil && *s.RailFromMM > *s.RailToMM {
		f.add("rail_to_mm", "rails that span %v mm at least cannot span %v mm at most", *s.RailFromMM, *s.RailToMM)
	}
	s.checkGroups(f)
	s.Rating.check(f)
	s.checkDraws(f)
	f.counted("memory_slots", s.MemorySlots, 256)
	f.counted("sockets", s.Sockets, 64)
	f.counted("supply_bays", s.SupplyBays, 32)
	f.counted("supplies_needed", s.SuppliesNeeded, 32)
	f.counted("power_leads", s.PowerLeads, 32)
	if s.SuppliesNeeded != nil && s.SupplyBays != nil && *s.SuppliesNeeded > *s.SupplyBays {
		f.add("supplies_needed", "it cannot need %d supplies and have room for %d", *s.SuppliesNeeded, *s.SupplyBays)
	}
	f.line("memory_type", s.MemoryType, 40)
	f.line("socket_type", s.SocketType, 40)
	f.bytes("memory_slot_bytes", s.MemorySlotBytes)
	f.bytes("memory_most_bytes", s.MemoryMostBytes)
	optional(f, "supply_grade", s.SupplyGrade, grades)
	for _, w := range []struct {
		field string
		v     *float64
	}{{"supply_w", s.SupplyW}, {"standby_w", s.StandbyW}, {"idle_w", s.IdleW}, {"typical_w", s.TypicalW}, {"most_w", s.MostW},
		{"poe_budget_w", s.PoEBudgetW}} {
		f.between(w.field, w.v, 0, 100_000, "W")
	}
	f.between("noise_db", s.NoiseDB, 0, 140, "dB")
	f.between("busy_db", s.BusyDB, 0, 140, "dB")
	if s.NoiseDB != nil && s.BusyDB != nil && *s.BusyDB < *s.NoiseDB {
		f.add("busy_db", "%.4g dB busy is less than %.4g dB at other times", *s.BusyDB, *s.NoiseDB)
	}
	checkRuntimes(f, s.Runtimes)
	f.between("temp_from_c", s.TempFromC, -80, 150, "°C")
	f.between("temp_to_c", s.TempToC, -80, 150, "°C")
	f.line("figures_by", s.FiguresBy, 200)
}

func (s Spec) checkGroups(f *faults) {
	const mostGroups = 24
	for _, n := range []struct {
		field string
		n     int
	}{{"ports", len(s.Ports)}, {"bays", len(s.Bays)}, {"slots", len(s.Slots)}, {"outlets", len(s.Outlets)}} {
		if n.n > mostGroups {
			f.add(n.field, "has %d groups; at most %d are allowed", n.n, mostGroups)
		}
	}
	for _, p := range s.Ports {
		f.count("ports", p.Count, 512)
		f.line("ports", p.Connector, 20)
		f.line("ports", p.Name, 40)
		optional(f, "ports", p.Face, faces)
		optional(f, "ports", p.Numbering, []PortNumbering{Across, Down})
		if p.Rows < 0 || p.Rows > 8 || p.First < 0 || p.First > 9999 || p.First > 0 && p.ZeroBased {
			f.add("ports", "ports stand in 1 to 8 rows and are numbered from 0 to 9999")
		}
		if p.PoEOut < 0 || p.PoEOut > 4 || p.PoEIn != nil && (*p.PoEIn < 0 || *p.PoEIn > 8) {
			f.add("ports", "PoE has the types 1 to 4 out and the classes 0 to 8 in")
		}
		if !slices.IsSorted(p.SpeedsMb) || len(p.SpeedsMb) > 8 || len(p.SpeedsMb) > 0 &&
			(p.SpeedsMb[0] < 1 || p.SpeedsMb[len(p.SpeedsMb)-1] > 2_000_000) {
			f.add("ports", "speeds are 1 to 2000000 Mbit/s, the lower ones first")
		}
	}
	for _, b := range s.Bays {
		f.count("bays", b.Count, 256)
		optional(f, "bays", b.Form, forms)
		optional(f, "bays", b.Side, sides)
		for _, i := range b.Interfaces {
			oneOf(f, "bays", i, interfaces)
		}
	}
	for _, g := range s.Slots {
		f.count("slots", g.Count, 64)
		if !slices.Contains([]int{0, 1, 2, 4, 8, 16}, g.Lanes) || g.Wired != 0 &&
			(!slices.Contains([]int{1, 2, 4, 8, 16}, g.Wired) || g.Lanes > 0 && g.Wired > g.Lanes) {
			f.add("slots", "a slot has 1, 2, 4, 8 or 16 lanes, and no more of them wired")
		}
		optional(f, "slots", g.Height, cardHeights)
		f.between("slots", g.LengthMM, 10, 1000, "mm")
		if g.Wide < 0 || g.Wide > 4 {
			f.add("slots", "a card is 1 to 4 slots wide, not %d", g.Wide)
		}
	}
	for _, o := range s.Outlets {
		f.count("outlets", o.Count, 128)
		f.line("outlets", o.Connector, 20)
		optional(f, "outlets", o.Face, faces)
		if o.Battery && o.Filtered {
			f.add("outlets", "outlets are held by the battery or only filtered, and not both")
		}
	}
}

func optional[T ~string](f *faults, field string, v T, list []T) {
	if v != "" {
		oneOf(f, field, v, list)
	}
}

func (f *faults) count(field string, n, most int) {
	if n < 1 || n > most {
		f.add(field, "there are 1 to %d in a group, not %d", most, n)
	}
}

func (f *faults) counted(field string, n *int, most int) {
	if n != nil && (*n < 0 || *n > most) {
		f.add(field, "there are 0 to %d, not %d", most, *n)
	}
}

// mostBytes is 10 PB, more than a part or a box of them has for a while.
const mostBytes = 10_000_000_000_000_000

func (f *faults) bytes(field string, n *int64) {
	if n != nil && (*n < 1 || *n > mostBytes) {
		f.add(field, "%d bytes is out of range: it is between 1 byte and 10 PB, or left out while unknown", *n)
	}
}

// Shared makes a spec sheet of what a device says itself, and the device that
// has it. The units it takes stay with the device too: its spot needs them.
func Shared(d Device, id ID, name string) (SpecSheet, Device) {
	sheet := SpecSheet{ID: id, Name: name, Kind: d.Kind, Spec: d.Spec}
	d.Sheet, d.Spec = id, Spec{TakesU: d.TakesU}
	return sheet, d
}

// SpecOf is what is known of a device: what it says itself, and the rest from
// its spec sheet.
func (l *Lab) SpecOf(d Device) Spec {
	if d.Sheet == "" {
		return d.Spec
	}
	s, ok := Find[SpecSheet](l, d.Sheet)
	if !ok {
		return d.Spec
	}
	return d.Spec.Over(s.Spec)
}

// MemoryMost is the most memory a thing takes, as it says or as its slots
// come to; nil while unknown.
func (s Spec) MemoryMost() *int64 {
	if s.MemoryMostBytes != nil || s.MemorySlots == nil || s.MemorySlotBytes == nil {
		return s.MemoryMostBytes
	}
	all := int64(*s.MemorySlots) * *s.MemorySlotBytes
	return &all
}

// BayAt finds the group of bays that a numbered one is of.
func (s Spec) BayAt(seat int) (BayGroup, bool) {
	for _, b := range s.Bays {
		if seat <= b.Count {
			return b, seat > 0
		}
		seat -= b.Count
	}
	return BayGroup{}, false
}

// SlotAt finds the group of slots that a numbered one is of.
func (s Spec) SlotAt(seat int) (SlotGroup, bool) {
	for _, g := range s.Slots {
		if seat <= g.Count {
			return g, seat > 0
		}
		seat -= g.Count
	}
	return SlotGroup{}, false
}
