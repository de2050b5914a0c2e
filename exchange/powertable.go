package exchange

import (
	"fmt"
	"io"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/rundown"
)

// The columns of a power table: a line for each thing that draws. Its draws and what was
// measured are read, as its own sheet says them; all else is written and not read.
var powerColumns = []string{"device", "standby_w", "idle_w", "typical_w", "most_w", "measured_w", "draws_w", "rests_on", "fed_by"}

func powerRows(l *lab.Lab) [][]string {
	g := power.Of(l)
	rows := [][]string{powerColumns}
	for n := range g.Nodes() {
		is := &g.Nodes()[n]
		if is.Device == nil || is.Kind != power.DeviceNode || !g.Shown(int32(n)) {
			continue
		}
		row := append([]string{rundown.DeviceRef(l, is.Device.ID)}, drawCells(l, *is.Device)...)
		draws := ""
		if g.Flow().Known(int32(n), power.Typical) {
			draws = watts(g.Flow().In(int32(n)).W[power.Typical])
		}
		var fed []string
		for _, e := range g.In(int32(n)) {
			fed = append(fed, g.Nodes()[g.Feeds()[e].From].Title+"/"+lab.PortWords(g.Feeds()[e].Out))
		}
		rows = append(rows, append(row, draws, is.Draw.Basis[power.Typical].Words(), lab.Listed(fed, len(fed))))
	}
	return rows
}

// drawCells are what is known of a device's draws, for the columns behind its name.
func drawCells(l *lab.Lab, d lab.Device) []string {
	spec := l.SpecOf(d)
	measured := (*float64)(nil)
	if d.Measured != nil {
		measured = d.Measured.W
	}
	var list []string
	for _, w := range []*float64{spec.StandbyW, spec.IdleW, spec.TypicalW, spec.MostW, measured} {
		said := ""
		if w != nil {
			said = watts(*w)
		}
		list = append(list, said)
	}
	return list
}

// WritePowerTableCSV writes what everything draws as CSV.
func WritePowerTableCSV(w io.Writer, l *lab.Lab) error {
	return writeCSV(w, slices.Values(powerRows(l)))
}

// WritePowerTableXLSX writes it as a workbook.
func WritePowerTableXLSX(w io.Writer, l *lab.Lab) error {
	return writeTextXLSX(w, "Power", powerRows(l))
}

// ReadPowerTable reads such a table, CSV or a workbook: what a line says a device draws is
// said of the device, where it differs from what is known; an empty cell says nothing.
func ReadPowerTable(l *lab.Lab, data []byte) (Sheet, error) {
	return readLines(l, data, powerColumns[:6], powerColumns[:1], takePower)
}

func takePower(r *planLines, cell cells, out *Row) (changed bool, say string, err error) {
	out.Title = cell("device")
	d, err := r.device(out.Title)
	if err != nil {
		return false, "", err
	}
	is := drawCells(r.lab, d)
	for i, column := range powerColumns[1:6] {
		said := cell(column)
		if said == "" || said == is[i] {
			continue
		}
		field := column
		if column == "measured_w" {
			field = "measured"
		}
		next, err := rundown.SetFact(r.lab, d, field, said, "")
		if err != nil {
			return false, "", fmt.Errorf("%s: %w", column, err)
		}
		d, changed = next.(lab.Device), true
		say += map[bool]string{true: ", ", false: d.Title() + ": "}[say != ""] + column + " " + said
	}
	if err := r.allowed(d); err != nil {
		return false, "", err
	}
	if changed {
		r.is.Put(d)
	}
	return changed, say, nil
}
