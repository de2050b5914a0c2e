// Package gear works out what devices are made of and what that comes to:
// totals of parts, the facts that are missing, parts that do not fit, what
// it cost. What is unknown is counted apart and never as nothing.
package gear

import "levelstaff/core/lab"

// Amount is a sum of which a part may be unknown: it is at least Known.
type Amount struct {
	Known   int64 `json:"known" required:"true"`
	Unknown int   `json:"unknown,omitempty" description:"How many things are not in the sum, as they are unknown"`
}

// Text says the sum, "at least" where not everything is in it, and nothing
// where nothing is known.
func (a Amount) Text(write func(int64) string) string {
	switch {
	case a.Known == 0:
		return ""
	case a.Unknown > 0:
		return "at least " + write(a.Known)
	}
	return write(a.Known)
}

// Add puts in what may be unknown.
func (a *Amount) Add(v *int64) {
	if v == nil {
		a.Unknown++
		return
	}
	a.Known += *v
}

// AddInt does so for a number.
func (a *Amount) AddInt(v *int) {
	if v == nil {
		a.Unknown++
		return
	}
	a.Known += int64(*v)
}

// Join puts in another sum.
func (a *Amount) Join(o Amount) { a.Known += o.Known; a.Unknown += o.Unknown }

// Seats is how many seats there are and how many are taken.
type Seats struct {
	Taken int  `json:"taken" required:"true"`
	Of    *int `json:"of,omitempty" description:"Absent while unknown"`
}

// Totals is what the parts in a device come to.
type Totals struct {
	Cores       Amount `json:"cores" required:"true"`
	Threads     Amount `json:"threads" required:"true"`
	MemoryBytes Amount `json:"memory_bytes" required:"true"`
	MemoryMost  *int64 `json:"memory_most_bytes,omitempty" description:"The most memory that goes in"`
	RawBytes    Amount `json:"raw_bytes" required:"true" description:"Capacity of all drives"`
	Bays        Seats  `json:"bays" required:"true"`
	Slots       Seats  `json:"slots" required:"true"`
	MemorySlots Seats  `json:"memory_slots" required:"true"`
	Sockets     Seats  `json:"sockets" required:"true"`
	SupplyBays  Seats  `json:"supply_bays" required:"true"`
	Parts       int    `json:"parts" required:"true"`
}

// TotalsOf sums up what is in a device.
func TotalsOf(l *lab.Lab, d lab.Device) Totals {
	t := totals(l.SpecOf(d), l.PartsOf(d.ID))
	if !d.Kind.Traits().Computes {
		return t
	}
	// A computer has memory and cores, written down or not.
	if t.MemoryBytes == (Amount{}) {
		t.MemoryBytes.Unknown++
	}
	if t.Cores == (Amount{}) {
		t.Cores.Unknown++
		t.Threads.Unknown++
	}
	return t
}

func totals(spec lab.Spec, parts []lab.Part) Totals {
	t := Totals{MemoryMost: spec.MemoryMost(), Parts: len(parts)}
	seats := map[lab.PartKind]*Seats{lab.Drive: &t.Bays, lab.Card: &t.Slots, lab.Memory: &t.MemorySlots, lab.Processor: &t.Sockets,
		lab.Supply: &t.SupplyBays}
	for kind, s := range seats {
		s.Of = spec.Seats(kind)
	}
	for _, p := range parts {
		if s := seats[p.Kind]; s != nil && p.Seat > 0 {
			s.Taken++
		}
		switch p.Kind {
		case lab.Processor:
			t.Cores.AddInt(p.Cores)
			t.Threads.AddInt(p.Threads)
		case lab.Memory:
			t.MemoryBytes.Add(p.SizeBytes)
		case lab.Drive:
			if p.Medium != "optical" {
				t.RawBytes.Add(p.SizeBytes)
			}
		}
	}
	return t
}

// LabTotals is what all devices of a lab come to, and what lies beside them.
type LabTotals struct {
	Devices     int    `json:"devices" required:"true"`
	Cores       Amount `json:"cores" required:"true"`
	Threads     Amount `json:"threads" required:"true"`
	MemoryBytes Amount `json:"memory_bytes" required:"true"`
	RawBytes    Amount `json:"raw_bytes" required:"true"`
	BaysTaken   int    `json:"bays_taken" required:"true"`
	Bays        int    `json:"bays" required:"true" description:"Of the devices whose bays are known"`
	Spares      int    `json:"spares" required:"true" description:"Parts in the spares bin"`
	Ordered     int    `json:"ordered" required:"true"`
}

// Totalled sums up a lab. What does not run counts too: it is there.
func Totalled(l *lab.Lab) LabTotals {
	var sum LabTotals
	for d := range lab.Things(l) {
		t := TotalsOf(l, d)
		sum.Devices++
		sum.Cores.Join(t.Cores)
		sum.Threads.Join(t.Threads)
		sum.MemoryBytes.Join(t.MemoryBytes)
		sum.RawBytes.Join(t.RawBytes)
		if t.Bays.Of != nil {
			sum.Bays += *t.Bays.Of
			sum.BaysTaken += t.Bays.Taken
		}
	}
	for p := range lab.Each[lab.Part](l) {
		switch {
		case p.Ordered:
			sum.Ordered++
		case p.Device == "":
			sum.Spares++
		}
	}
	return sum
}
