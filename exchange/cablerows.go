package exchange

import (
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// between finds the cable that goes between the two ports a line without id
// and label names.
func (rd *reader) between(cells []string) []lab.Record {
	a, errA := rundown.ReadEnd(rd.lab, endText(rd.cell(cells, "a"), rd.cell(cells, "a_port")))
	b, errB := rundown.ReadEnd(rd.lab, endText(rd.cell(cells, "b"), rd.cell(cells, "b_port")))
	if errA != nil || errB != nil || a == nil || b == nil {
		return nil
	}
	c, ok := rd.lab.CableAt(*a)
	if !ok || len(c.Ends()) < 2 || *c.A != *b && *c.B != *b {
		return nil
	}
	return []lab.Record{c}
}

// endText is the end that a schedule names by its device and, in a column of
// its own, the port.
func endText(device, port string) string {
	if device == "" || port == "" {
		return device + port
	}
	return rundown.JoinEnd(device, port)
}

// plug puts the ends of a cable where its line says.
func (rd *reader) plug(r *reading) {
	for _, field := range []string{"a", "b"} {
		device, said := r.later[field]
		port, apart := r.later[field+"_port"]
		if !said && !apart {
			continue
		}
		is, err := rundown.SetFact(rd.lab, r.is, field, endText(device, port), "")
		if err != nil {
			r.wrong("%s: %s", field, err)
			break
		}
		r.is = is
	}
	is := r.is.(lab.Cable)
	if was, ok := r.was.(lab.Cable); ok && len(is.Ends()) == 2 && len(was.Ends()) == 2 && *is.A == *was.B && *is.B == *was.A {
		is.A, is.B = was.A, was.B // which end is written first says nothing
		r.is = is
	}
	if r.Verb == RowNew && is.Label != "" {
		r.Say = rd.lab.CableWords(lab.Cable{A: is.A, B: is.B})
	}
	if r.Title == "cable" && r.Verb != RowRefused {
		r.Title = rd.lab.CableWords(is)
	}
}

// cableSayings are what cable schedules call what they say, for each of our
// columns.
var cableSayings = map[string][]string{
	"label":    {"cable", "cable id", "cable no", "number", "tag"},
	"a":        {"from", "source", "end a", "a end", "side a", "from device", "source device", "device a", "a device"},
	"b":        {"to", "destination", "end b", "b end", "side b", "to device", "destination device", "device b", "b device"},
	"a_port":   {"from port", "source port", "port a", "a port", "end a port", "side a port"},
	"b_port":   {"to port", "destination port", "port b", "b port", "end b port", "side b port"},
	"kind":     {"type", "cable type", "medium", "category"},
	"colour":   {"color", "jacket"},
	"length_m": {"length", "len", "metres", "meters"},
	"way":      {"route", "path"},
	"run_id":   {"run", "conduit", "duct"},
	"state":    {"status", "condition"},
	"notes":    {"note", "comment", "comments", "remark", "remarks"},
}
