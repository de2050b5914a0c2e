package exchange

import (
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// place puts the devices where their lines say, each found by the names that
// the file gives them.
func (rd *reader) place() {
	named := rd.withAll()
	for i := range rd.rows {
		r := &rd.rows[i]
		if r.is == nil {
			continue
		}
		d := r.is.(lab.Device)
		where, said := r.later["at"]
		if was, ok := r.was.(lab.Device); said && (!ok || where != rundown.WhereText(rd.lab, was, "")) {
			next, err := rundown.SetFact(named, d, "at", where, "")
			if err != nil {
				r.wrong("where: %s", err)
				continue
			}
			d = next.(lab.Device)
		}
		moved := said && d.At != nil && d.At.Where == lab.InUnits && rangeSaid(where)
		if takes, said := r.later["takes_u"]; said && !moved {
			next, err := rundown.SetFact(rd.lab, d, "takes_u", takes, "")
			if err != nil {
				r.wrong("takes_u: %s", err)
				continue
			}
			d = next.(lab.Device)
		}
		r.is = d
	}
}

// rangeSaid reports whether a spot says itself how many units are taken.
func rangeSaid(where string) bool { return strings.Contains(where, "-") }
