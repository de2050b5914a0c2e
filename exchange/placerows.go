package exchange

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// place sets what names other things, each found by the names that the file
// gives them.
func (rd *reader) place(ctx context.Context) {
	named := rd.withAll(ctx)
	for i := range rd.rows {
		r := &rd.rows[i]
		if r.is == nil || ctx.Err() != nil {
			continue
		}
		rd.inRack(r)
		for _, c := range rd.of.columns {
			typed, said := r.later[c.field]
			if !said || c.field == "takes_u" || c.write == nil || rd.of == Cables || r.Verb == RowRefused || rd.unchanged(r, c.field, typed) {
				continue
			}
			next, err := rundown.SetFact(named, r.is, c.field, typed, "")
			if err != nil {
				r.wrong("%s: %s", c.name, err)
				continue
			}
			r.is = next
		}
		switch is := r.is.(type) {
		case lab.Device:
			rd.takes(r, is)
		case lab.Cable:
			rd.plug(r)
		}
	}
}

// inRack puts together where a line says a device is in columns of their own: the
// rack and the unit.
func (rd *reader) inRack(r *reading) {
	in := r.later["rack"]
	unit := strings.NewReplacer("U", "", "u", "", "–", "-", " ", "").Replace(r.later["unit"])
	if r.later["at"] != "" || in == "" && unit == "" {
		return
	}
	delete(r.later, "at") // an empty one beside them says nothing
	if unit == "" {
		r.Say = fmt.Sprintf("its place is left as it is: no unit of %s is given", in)
		return
	}
	if in == "" {
		racks := slices.Collect(lab.Each[lab.Rack](rd.lab))
		if len(racks) != 1 {
			r.wrong("unit: there are %d racks; say in the column rack which one unit %s is in", len(racks), unit)
			return
		}
		in = racks[0].Name
	}
	r.later["at"] = fmt.Sprintf("%q %s", in, unit)
}

// unchanged reports whether a line says what was so already; where a thing
// stands may be said in words that only tell the first of several.
func (rd *reader) unchanged(r *reading, field, typed string) bool {
	return r.was != nil && typed == rundown.Saying(rd.lab, r.is).Text(field)
}

// takes sets how many units a device takes, unless the line has said so with
// the units it is at.
func (rd *reader) takes(r *reading, d lab.Device) {
	where, moved := r.later["at"]
	takes, said := r.later["takes_u"]
	if !said || moved && d.At != nil && d.At.Where == lab.InUnits && strings.Contains(where, "-") {
		return
	}
	next, err := rundown.SetFact(rd.lab, d, "takes_u", takes, "")
	if err != nil {
		r.wrong("takes_u: %s", err)
		return
	}
	r.is = next
}
