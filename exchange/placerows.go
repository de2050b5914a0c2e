package exchange

import (
	"context"
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
		for _, c := range rd.of.columns {
			typed, said := r.later[c.field]
			if !said || c.field == "takes_u" || rd.of == Cables || r.Verb == RowRefused || rd.unchanged(r, c.field, typed) {
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
