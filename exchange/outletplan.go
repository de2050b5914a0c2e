package exchange

import (
	"errors"
	"fmt"
	"io"
	"math"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/rundown"
)

// The columns of an outlet plan: a line for each outlet, free ones too. What a line says
// of the outlet and of watts is written and not read.
var outletColumns = []string{"feeder", "outlet", "device", "supply", "connector", "holds", "typical_w"}

func outletRows(l *lab.Lab) [][]string {
	g := power.Of(l)
	rows := [][]string{outletColumns}
	for n := range g.Nodes() {
		is := &g.Nodes()[n]
		if !is.Kind.Feeder() || is.Device == nil {
			continue
		}
		for _, o := range g.Outlets(int32(n)) {
			row := []string{rundown.DeviceRef(l, is.Device.ID), o.Key, "", "", lab.ConnectorWords(o.Connector), "", ""}
			if is.Kind == power.UPSNode {
				row[5] = map[bool]string{true: "only filters", false: "holds"}[o.Filtered || is.Device.Bypass]
			}
			if o.Feed >= 0 {
				f := g.Feeds()[o.Feed]
				row[2], row[3] = rundown.DeviceRef(l, g.Nodes()[f.To].Key.ID), lab.PortWords(f.In)
				if g.Flow().Known(f.To, power.Typical) {
					row[6] = watts(g.Flow().Over(o.Feed).W[power.Typical])
				}
			}
			rows = append(rows, row)
		}
	}
	return rows
}

func watts(w float64) string {
	const tenth = 10
	return fmt.Sprint(math.Round(w*tenth) / tenth)
}

// WriteOutletPlanCSV writes what hangs on which outlet as CSV.
func WriteOutletPlanCSV(w io.Writer, l *lab.Lab) error {
	return writeCSV(w, slices.Values(outletRows(l)))
}

// WriteOutletPlanXLSX writes it as a workbook.
func WriteOutletPlanXLSX(w io.Writer, l *lab.Lab) error {
	return writeTextXLSX(w, "Outlets", outletRows(l))
}

// OutletPlanReader reads such a table, CSV or a workbook: what a line says is plugged into
// its outlet, and taken out of where it was; where it names no device the lead is taken
// out. Outlets without a line stay. New leads get their ids from newID.
func OutletPlanReader(newID func() lab.ID) func(*lab.Lab, []byte) (Sheet, error) {
	read := func(l *lab.Lab, data []byte, each bool) (Sheet, error) {
		p := plugging{newID, map[lab.End]lab.Key{}, each}
		for c := range lab.Each[lab.Cable](l) {
			for _, e := range c.Ends() {
				p.in[e] = c.Key()
			}
		}
		return readLines(l, data, outletColumns[:4], outletColumns[:3], p.take)
	}
	return func(l *lab.Lab, data []byte) (Sheet, error) {
		sheet, err := read(l, data, false)
		if err != nil {
			return sheet, err
		}
		if _, wrong := l.Apply(sheet.Changes); wrong != nil { // such as a circle: look which line closes it
			sheet, err = read(l, data, true)
			sheet.Changes = nil
		}
		return sheet, err
	}
}

// plugging is what is plugged in where while an outlet plan is read.
type plugging struct {
	newID func() lab.ID
	in    map[lab.End]lab.Key
	each  bool // the lab is made after each line, to see which one cannot be
}

func (p *plugging) take(r *planLines, cell cells, out *Row) (changed bool, say string, err error) {
	out.Title = cell("feeder") + "/" + cell("outlet")
	feeder, err := r.device(cell("feeder"))
	if err != nil {
		return false, "", err
	}
	ports := r.lab.PortsOf(feeder)
	key, ok := ports.Find(cell("outlet"))
	if !ok {
		return false, "", fmt.Errorf("%s has no outlet “%s”; it has %s", feeder.Title(), cell("outlet"), ports.Words())
	}
	from := lab.End{Device: feeder.ID, Port: key}
	if cell("device") == "" {
		return p.unplug(r, from), "nothing hangs on " + out.Title + " any more", nil
	}
	d, err := r.device(cell("device"))
	if err != nil {
		return false, "", err
	}
	to, err := supplyOf(r.lab, d, cell("supply"))
	if err != nil {
		return false, "", err
	}
	lead, used := p.in[from]
	if other, in := p.in[to]; in && used && other == lead {
		return false, "", nil
	}
	c := lab.Cable{ID: p.newID(), State: lab.CableInUse}
	if used {
		c = r.is.Now(lead).(lab.Cable)
		p.unplug(r, from)
	}
	p.unplug(r, to)
	c.A, c.B = &from, &to
	r.is.Put(c)
	p.in[from], p.in[to] = c.Key(), c.Key()
	if p.each {
		var refused *lab.Refusal
		if _, err := r.lab.Apply(r.is.Changes()); errors.As(err, &refused) {
			p.each = false // what comes after it builds on what cannot be
			return false, "", errors.New(refused.Faults[0].Say)
		}
	}
	return true, out.Title + " feeds " + d.Title() + "/" + to.Port, nil
}

// unplug takes away what is in a port, and tells whether there was anything.
func (p *plugging) unplug(r *planLines, e lab.End) bool {
	key, used := p.in[e]
	if !used {
		return false
	}
	c := r.is.Now(key).(lab.Cable)
	for _, end := range c.Ends() {
		delete(p.in, end)
	}
	r.is.Remove(key)
	return true
}

// supplyOf is the inlet of a device that is meant: the only one where none is named.
func supplyOf(l *lab.Lab, d lab.Device, said string) (lab.End, error) {
	ports := l.PortsOf(d)
	var inlets []string
	for i := range ports.Len() {
		if p := ports.At(i); p.Family == lab.Inlet {
			inlets = append(inlets, p.Key)
		}
	}
	switch {
	case said == "" && len(inlets) == 1:
		return lab.End{Device: d.ID, Port: inlets[0]}, nil
	case said == "":
		return lab.End{}, fmt.Errorf("say which supply of %s; it has %s", d.Title(), ports.Words())
	}
	key, ok := ports.Find(said)
	if !ok {
		return lab.End{}, fmt.Errorf("%s has no supply “%s”; it has %s", d.Title(), said, ports.Words())
	}
	return lab.End{Device: d.ID, Port: key}, nil
}
