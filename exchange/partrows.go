package exchange

import (
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// sitting finds the part that sits where a line without id and name says.
func (rd *reader) sitting(cells []string) []lab.Record {
	seat, err := strconv.Atoi(rd.cell(cells, "seat"))
	if err != nil {
		return nil
	}
	in, err := rundown.SetFact(rd.lab, lab.Part{}, "device_id", rd.cell(cells, "device"), "")
	if err != nil || in.(lab.Part).Device == "" {
		return nil
	}
	kind := strings.ToLower(rd.cell(cells, "kind"))
	for _, p := range rd.lab.PartsOf(in.(lab.Part).Device) {
		if p.Seat == seat && (string(p.Kind) == kind || kind == "" && string(p.Kind) == rd.kind) {
			return []lab.Record{p}
		}
	}
	return nil
}
