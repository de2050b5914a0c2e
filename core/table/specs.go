package table

import (
	"fmt"
	"iter"
	"slices"
	"strconv"
	"strings"
	"sync"

	"levelstaff/core/cabling"
	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Spec is what the table of one kind of record can show.
type Spec struct {
	Kind    lab.RecordKind
	Columns []Column
	Usual   []string // the columns that are shown at first
	// known is a record with what is known of it from elsewhere, and what its
	// own columns are made from.
	known func(*lab.Lab, lab.Record) (lab.Record, any)
	// counts tells which records of the kind are in it; nil for all of them.
	counts func(lab.Record) bool
}

// Records goes through the records of a lab that are in the table.
func (s *Spec) Records(l *lab.Lab) iter.Seq[lab.Record] {
	return func(yield func(lab.Record) bool) {
		for r := range l.Records(s.Kind) {
			if (s.counts == nil || s.counts(r)) && !yield(r) {
				return
			}
		}
	}
}

// Of finds the table of a kind of record.
func Of(kind lab.RecordKind) *Spec { return specs()[kind] }

var specs = sync.OnceValue(func() map[lab.RecordKind]*Spec {
	all := map[lab.RecordKind]*Spec{}
	for _, s := range []*Spec{devices(), parts(), cables()} {
		all[s.Kind] = s
	}
	for _, k := range lab.Kinds() {
		if all[k.RecordKind] == nil {
			s := &Spec{Kind: k.RecordKind, Columns: factColumns(lab.Blank(k.RecordKind, ""))}
			for _, c := range s.Columns[:min(6, len(s.Columns))] {
				s.Usual = append(s.Usual, c.Field)
			}
			all[k.RecordKind] = s
		}
	}
	return all
})

// Guests is the table of VMs and containers, which the one of devices leaves out.
var Guests = sync.OnceValue(func() *Spec {
	columns := after(factColumns(lab.Device{Kind: lab.VM}), "at",
		worded("host", "host", func(r *row) string {
			host, ok := r.lab.HostOf(r.record.(lab.Device))
			if !ok {
				return ""
			}
			return host.Title()
		}),
		worded("services", "services", func(r *row) string {
			var names []string
			for by := range r.lab.UsersOf(r.record.Key()) {
				if v, ok := by.(lab.Service); ok && v.In == r.record.Key().ID {
					names = append(names, v.Name)
				}
			}
			return strings.Join(names, ", ")
		}))
	return &Spec{Kind: lab.KindDevice, Columns: columns, counts: func(r lab.Record) bool { return r.(lab.Device).IsGuest() },
		known: func(l *lab.Lab, is lab.Record) (lab.Record, any) { // with what its template says
			d := is.(lab.Device)
			d.Guesting = l.MadeOf(d)
			return d, nil
		},
		Usual: []string{"name", "device_kind", "state", "host", "vcpus", "given_bytes", "uses_bytes", "port_marks", "worth", "services",
			"purpose"}}
})

// after puts columns that are worked out behind the one of a field.
func after(columns []Column, field string, more ...Column) []Column {
	at := slices.IndexFunc(columns, func(c Column) bool { return c.Field == field })
	for i := range more {
		more[i].Derived = true
	}
	return slices.Insert(slices.Clone(columns), at+1, more...)
}

func worded(field, title string, value func(*row) string, also ...string) Column {
	return Column{Field: field, Title: title, Kind: Words, Words: also, value: func(r *row) Value { return Value{Text: value(r)} }}
}

// thing is what a device's own columns are made from.
type thing struct {
	totals      gear.Totals
	rack, place string
	gaps        int
}

func devices() *Spec {
	of := func(r *row) thing { return r.more.(thing) }
	amount := func(field, title string, kind ColumnKind, get func(gear.Totals) gear.Amount, also ...string) Column {
		return Column{Field: field, Title: title, Kind: kind, Words: also, sums: true, value: func(r *row) Value {
			a := get(of(r).totals)
			if a.Known == 0 {
				return Value{} // nothing is known to be in it
			}
			n := float64(a.Known)
			text := kindText(kind, n)
			if a.Unknown > 0 {
				text = "≥" + text
			}
			return Value{Text: text, Number: &n}
		}}
	}
	seats := func(field, title string, get func(gear.Totals) gear.Seats, also ...string) Column {
		return Column{Field: field, Title: title, Kind: Figure, Words: also, sums: true, value: func(r *row) Value {
			s := get(of(r).totals)
			if s.Of == nil {
				return Value{}
			}
			free := float64(*s.Of - s.Taken)
			return Value{Text: strconv.Itoa(*s.Of-s.Taken) + " of " + strconv.Itoa(*s.Of), Number: &free}
		}}
	}
	columns := after(factColumns(lab.Blank(lab.KindDevice, "")), "at",
		worded("rack", "rack", func(r *row) string { return of(r).rack }),
		worded("place", "place", func(r *row) string { return of(r).place }),
		amount("cores", "cores", Figure, func(t gear.Totals) gear.Amount { return t.Cores }),
		amount("threads", "threads", Figure, func(t gear.Totals) gear.Amount { return t.Threads }),
		amount("ram", "memory", Memory, func(t gear.Totals) gear.Amount { return t.MemoryBytes }, "memory"),
		amount("raw", "raw capacity", Capacity, func(t gear.Totals) gear.Amount { return t.RawBytes }, "capacity", "storage"),
		seats("bays_free", "bays free", func(t gear.Totals) gear.Seats { return t.Bays }, "free bays"),
		seats("slots_free", "slots free", func(t gear.Totals) gear.Seats { return t.Slots }),
		seats("dimms_free", "memory slots free", func(t gear.Totals) gear.Seats { return t.MemorySlots }),
		Column{Field: "gaps", Title: "gaps", Kind: Figure, sums: true, value: func(r *row) Value {
			n := float64(of(r).gaps)
			return Value{Text: strconv.Itoa(of(r).gaps), Number: &n}
		}})
	return &Spec{Kind: lab.KindDevice, Columns: columns,
		counts: func(r lab.Record) bool { return !r.(lab.Device).IsGuest() },
		Usual:  []string{"name", "device_kind", "state", "at", "depth_mm", "weight_kg", "ram", "bays_free", "price_minor", "purpose"},
		known: func(l *lab.Lab, is lab.Record) (lab.Record, any) {
			d := is.(lab.Device)
			in, _ := l.RackOf(d)
			t := thing{gear.TotalsOf(l, d), in.Name, placesOf(l, d, in), len(gear.GapsOf(l, d))}
			d.Spec = l.SpecOf(d)
			return d, t
		}}
}

// placesOf names the place a thing is in and those that is in, the inner one
// first: "Loft, Quarry House".
func placesOf(l *lab.Lab, d lab.Device, in lab.Rack) string {
	id := in.Place
	if at := l.Foot(d).At; at != nil && at.Where == lab.InPlace {
		id = at.Place
	}
	var names []string
	for p, ok := lab.Find[lab.Place](l, id); ok; p, ok = lab.Find[lab.Place](l, p.In) {
		names = append(names, p.Name)
	}
	return strings.Join(names, ", ")
}

func parts() *Spec {
	// Drives first: where sorts share a fact, such as size, it is theirs.
	var samples []lab.Record
	for _, k := range append([]lab.PartKind{lab.Drive}, lab.PartKinds()...) {
		samples = append(samples, lab.Part{Kind: k})
	}
	columns := after(factColumns(samples...), "part_kind", worded("where", "where", func(r *row) string {
		return rundown.PartWhere(r.lab, r.record.(lab.Part))
	}, "at", "in", "device"))
	return &Spec{Kind: lab.KindPart, Columns: columns,
		Usual: []string{"name", "part_kind", "where", "state", "size_bytes", "medium", "interface", "cores", "hours", "price_minor",
			"warranty_until"}}
}

func cables() *Spec {
	columns := after(factColumns(lab.Blank(lab.KindCable, "")), "length_m",
		Column{Field: "needs_m", Title: "length needed", Kind: Figure, Words: []string{"needs"}, value: func(r *row) Value {
			lead := cabling.Of(r.lab).LeadOf(r.record.(lab.Cable))
			should, ok := lead.Should()
			if !ok {
				return Value{}
			}
			_, how := lead.Short()
			text := fmt.Sprintf("%.2fm", should.NeedM)
			switch how {
			case cabling.CannotReach:
				text += ", too short"
			case cabling.ShortOfSlack:
				text += ", little slack"
			}
			return Value{Text: text, Number: &should.NeedM, Bad: how == cabling.CannotReach}
		}})
	return &Spec{Kind: lab.KindCable, Columns: columns,
		Usual: []string{"label", "a", "b", "cable_kind", "colour", "length_m", "needs_m", "way", "run_id", "state"}}
}
