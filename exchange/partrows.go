package exchange

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// sitting finds the part that sits where a line without id and name says.
func (rd *reader) sitting(cells []string) []lab.Record {
	seat, err := strconv.Atoi(rd.cell(cells, "seat"))
	if err != nil {
		return nil
	}
	device, err := rd.holder(rd.cell(cells, "device"))
	if err != nil || device == "" {
		return nil
	}
	kind := strings.ToLower(rd.cell(cells, "kind"))
	for _, p := range rd.lab.PartsOf(device) {
		if p.Seat == seat && (string(p.Kind) == kind || kind == "" && string(p.Kind) == rd.kind) {
			return []lab.Record{p}
		}
	}
	return nil
}

// holder finds the device that a cell names, "" for the spares bin and what is
// on order.
func (rd *reader) holder(typed string) (lab.ID, error) {
	folded := lab.FoldName(typed)
	if slices.Contains([]string{"", inBin, onOrder}, folded) {
		return "", nil
	}
	if d, ok := lab.Find[lab.Device](rd.lab, lab.ID(typed)); ok {
		return d.ID, nil
	}
	if rd.devices == nil {
		rd.devices = map[string][]lab.ID{}
		for d := range lab.Each[lab.Device](rd.lab) {
			if d.Name != "" {
				rd.devices[lab.FoldName(d.Name)] = append(rd.devices[lab.FoldName(d.Name)], d.ID)
			}
		}
	}
	switch found := rd.devices[folded]; len(found) {
	case 0:
		return "", fmt.Errorf("there is no device called “%s”; write the name of one, %s or %s", typed, inBin, onOrder)
	case 1:
		return found[0], nil
	default:
		return "", fmt.Errorf("there are %d devices called “%s”; give the id of the one that is meant", len(found), typed)
	}
}

// seat puts the parts where their lines say.
func (rd *reader) seat() {
	for i := range rd.rows {
		r := &rd.rows[i]
		if r.is == nil {
			continue
		}
		p := r.is.(lab.Part)
		if typed, said := r.later["device_id"]; said {
			device, err := rd.holder(typed)
			if err != nil {
				r.wrong("device: %s", err)
				continue
			}
			if device != p.Device {
				p.Seat = 0 // the number was of the device it was in
			}
			p.Device, p.Ordered = device, lab.FoldName(typed) == onOrder
		}
		if typed, said := r.later["seat"]; said {
			p.Seat = 0
			if typed != "" {
				seat, err := strconv.Atoi(typed)
				if err != nil || seat < 1 {
					r.wrong("seat: “%s” is no number of a bay, slot or socket; they count from 1, and nothing is for what is loose", typed)
					continue
				}
				p.Seat = seat
			}
		}
		r.is = p
	}
}
