package gear

import (
	"fmt"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// Inside is what a device is made of, whether it fits where it is, and what is
// missing of it.
type Inside struct {
	Summary []SummaryRow `json:"summary" required:"true" nullable:"false" description:"What its parts come to, and what it draws"`
	Seats   []SeatMap    `json:"seats" required:"true" nullable:"false" description:"Bays, slots and sockets, with what is in them"`
	Loose   []PartLine   `json:"loose" required:"true" nullable:"false"`
	Fit     []rack.Check `json:"fit" required:"true" nullable:"false" description:"Empty where it is in no rack's units"`
	Gaps    []Gap        `json:"gaps" required:"true" nullable:"false"`
}

// SummaryRow is one line of what the parts come to.
type SummaryRow struct {
	Title string `json:"title" required:"true"`
	Text  string `json:"text" required:"true"`
}

// SeatMap is the bays, slots or sockets for one sort of part.
type SeatMap struct {
	Kind  lab.PartKind `json:"part_kind" required:"true"`
	Word  string       `json:"word" required:"true" description:"bay, slot, socket or cage"`
	Title string       `json:"title" required:"true"`
	Seats []Seat       `json:"seats" required:"true" nullable:"false"`
}

// Seat is one numbered bay, slot or socket.
type Seat struct {
	Number int       `json:"number" required:"true"`
	Of     string    `json:"of,omitempty" description:"What it takes"`
	Part   *PartLine `json:"part,omitempty"`
}

// PartLine is a part in a few words.
type PartLine struct {
	ID      lab.ID       `json:"id" required:"true"`
	Kind    lab.PartKind `json:"part_kind" required:"true"`
	Title   string       `json:"title" required:"true"`
	Sub     string       `json:"sub,omitempty"`
	State   lab.State    `json:"state" required:"true"`
	Trouble string       `json:"trouble,omitempty" description:"Why it does not go in there"`
}

// InsideOf looks into a device.
func InsideOf(l *lab.Lab, d lab.Device) Inside {
	spec, parts := l.SpecOf(d), l.PartsOf(d.ID)
	c := Inside{Seats: []SeatMap{}, Loose: []PartLine{}, Fit: []rack.Check{}, Gaps: []Gap{}}
	c.Gaps = append(c.Gaps, GapsOf(l, d)...)
	c.Summary = append(summary(totals(spec, parts)), draw(spec)...)
	for _, k := range []lab.PartKind{lab.Drive, lab.Processor, lab.Memory, lab.Card, lab.Supply, lab.Transceiver} {
		if m, ok := seatMap(spec, k, parts); ok {
			c.Seats = append(c.Seats, m)
		}
	}
	for _, p := range parts {
		if p.Seat == 0 {
			c.Loose = append(c.Loose, lineOf(spec, p))
		}
	}
	if fit, ok := rack.FitOf(l, d); ok {
		c.Fit = fit
	}
	return c
}

func summary(t Totals) []SummaryRow {
	rows := []SummaryRow{}
	add := func(title, text string) {
		if text != "" {
			rows = append(rows, SummaryRow{title, text})
		}
	}
	count := func(n int64) string { return fmt.Sprint(n) }
	processor := t.Cores.Text(count)
	if processor != "" {
		processor += " cores"
		if threads := t.Threads.Text(count); threads != "" {
			processor += ", " + threads + " threads"
		}
	}
	add("Processor", processor)
	memory := t.MemoryBytes.Text(gib)
	if t.MemoryMost != nil {
		if memory == "" {
			memory = "none known"
		}
		memory += " of " + gib(*t.MemoryMost)
	}
	if t.MemorySlots.Of != nil && t.MemorySlots.Taken > 0 {
		memory += fmt.Sprintf(", %d of %d slots", t.MemorySlots.Taken, *t.MemorySlots.Of)
	}
	add("Memory", memory)
	// Makers sell TB, systems show TiB; both are said (domain.md, Storage).
	add("Raw capacity", t.RawBytes.Text(func(n int64) string {
		return fmt.Sprintf("%s (%s TiB)", text.CapacityText(n), figure(float64(n)/(1<<40)))
	}))
	return rows
}

// draw is what a device draws, as far as that is known.
func draw(spec lab.Spec) []SummaryRow {
	var said []string
	for _, d := range []struct {
		watts *float64
		at    string
	}{{spec.IdleW, "idle"}, {spec.TypicalW, "typical"}, {spec.MostW, "max"}} {
		if d.watts != nil {
			said = append(said, figure(*d.watts)+"W "+d.at)
		}
	}
	if len(said) == 0 {
		return nil
	}
	return []SummaryRow{{"Draw", strings.Join(said, ", ")}}
}

var seatTitles = map[lab.PartKind]string{lab.Drive: "Drive bays", lab.Processor: "Sockets", lab.Memory: "Memory slots",
	lab.Card: "Expansion slots", lab.Supply: "Supplies", lab.Transceiver: "Cages"}

// seatMap lists the seats a device has for a sort of part, or those that parts
// sit in where their number is unknown.
func seatMap(spec lab.Spec, k lab.PartKind, parts []lab.Part) (SeatMap, bool) {
	n := 0
	if known := spec.Seats(k); known != nil {
		n = *known
	}
	in := map[int]lab.Part{}
	for _, p := range parts {
		if p.Kind == k && p.Seat > 0 {
			in[p.Seat] = p
			n = max(n, p.Seat)
		}
	}
	m := SeatMap{Kind: k, Word: k.Seat(), Title: seatTitles[k], Seats: []Seat{}}
	for i := 1; i <= n; i++ {
		s := Seat{Number: i, Of: takes(spec, k, i)}
		if p, ok := in[i]; ok {
			line := lineOf(spec, p)
			s.Part = &line
		}
		m.Seats = append(m.Seats, s)
	}
	return m, n > 0
}

// takes says what goes into a seat.
func takes(spec lab.Spec, k lab.PartKind, seat int) string {
	switch k {
	case lab.Drive:
		if b, ok := spec.BayAt(seat); ok {
			said := string(b.Form)
			if len(b.Interfaces) > 0 {
				said += " " + strings.Join(b.Interfaces, "/")
			}
			if b.Side == lab.Inside || b.Side == lab.AtRear {
				said += ", " + string(b.Side)
			}
			return strings.TrimSpace(said)
		}
	case lab.Card:
		if g, ok := spec.SlotAt(seat); ok {
			said := ""
			if g.Lanes > 0 {
				said = fmt.Sprintf("x%d", g.Lanes)
			}
			if g.Height == lab.HalfHeight {
				said += " half height"
			}
			return strings.TrimSpace(said)
		}
	case lab.Memory:
		return spec.MemoryType
	case lab.Processor:
		return spec.SocketType
	case lab.Supply:
		if spec.SupplyW != nil {
			return figure(*spec.SupplyW) + "W"
		}
	case lab.Transceiver:
		return cageAt(spec, seat)
	}
	return ""
}

func lineOf(spec lab.Spec, p lab.Part) PartLine {
	title := strings.TrimPrefix(describe(p), "the ")
	var sub []string
	if p.Name != "" {
		unnamed := p
		unnamed.Name = ""
		sub = append(sub, strings.TrimPrefix(describe(unnamed), "the "))
	}
	switch {
	case p.Kind == lab.Processor && p.Cores != nil:
		sub = append(sub, fmt.Sprintf("%d cores", *p.Cores))
	case p.Kind == lab.Memory && p.MemoryType != "":
		sub = append(sub, p.MemoryType)
	case p.Kind == lab.Supply && p.GivesW != nil:
		sub = append(sub, figure(*p.GivesW)+"W")
	case p.Kind == lab.Drive && p.Interface != "":
		sub = append(sub, p.Interface)
	case p.Kind == lab.Battery && p.PutIn != "":
		sub = append(sub, "put in "+string(p.PutIn))
	case p.Kind == lab.Transceiver && p.SpeedMb != nil:
		sub = append(sub, rundown.SpeedText(*p.SpeedMb))
	}
	if p.Hours != nil {
		sub = append(sub, figure(*p.Hours)+"h")
	}
	return PartLine{p.ID, p.Kind, title, strings.Join(sub, " · "), p.State, GoesIn(spec, p)}
}

// Bin is what lies in the spares bin and what is on order.
type Bin struct {
	Spares  []PartLine `json:"spares" required:"true" nullable:"false"`
	Ordered []PartLine `json:"ordered" required:"true" nullable:"false"`
}

// BinOf lists them.
func BinOf(l *lab.Lab) Bin {
	b := Bin{[]PartLine{}, []PartLine{}}
	for p := range lab.Each[lab.Part](l) {
		switch {
		case p.Ordered:
			b.Ordered = append(b.Ordered, lineOf(lab.Spec{}, p))
		case p.Device == "":
			b.Spares = append(b.Spares, lineOf(lab.Spec{}, p))
		}
	}
	return b
}

// Seating is where a part is to go.
type Seating struct {
	Device  lab.ID `json:"device_id,omitempty" description:"Absent for the spares bin, or what is on order"`
	Seat    int    `json:"seat,omitempty" minimum:"0" maximum:"512" description:"0 for loose inside"`
	Ordered bool   `json:"ordered,omitempty"`
}

// Move puts a part somewhere. What sits there goes where the part was, so that
// one can be swapped for another; each keeps its own past.
func Move(l *lab.Lab, p lab.Part, to Seating) []lab.Change {
	is := p
	is.Device, is.Seat, is.Ordered = to.Device, to.Seat, to.Ordered
	var changes []lab.Change
	if to.Seat > 0 {
		for _, o := range l.PartsOf(to.Device) {
			if o.Kind == p.Kind && o.Seat == to.Seat && o.ID != p.ID {
				back := o
				back.Device, back.Seat, back.Ordered = p.Device, p.Seat, p.Ordered
				changes = append(changes, lab.Change{Before: o, After: back})
			}
		}
	}
	if c, ok := l.Put(is); ok {
		changes = append(changes, c)
	}
	return changes
}
