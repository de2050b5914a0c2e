package rundown

import (
	"fmt"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// vlanOf is what a VLAN is told by: its number in its domain.
func vlanOf(t *thing) (lab.Unique, bool) {
	number, domain := 0, ""
	for _, s := range t.said {
		switch s.fact.field {
		case "number":
			number, _ = s.value.(int)
		case "switching_domain":
			domain, _ = s.value.(string)
		}
	}
	return lab.VLANKey(number, domain), number > 0
}

// named tells that two lines give different names to what they know by the same
// number, and takes what they know it by from what the later one says of it.
func (ld *loader) named(t, first *thing, how lineKind) (wrong bool) {
	if t.name != "" && lab.FoldName(t.name) != lab.FoldName(first.name) {
		ld.wrong(t, t.col, t.end, fmt.Errorf("a line above calls this %s “%s”; give one of them another number, or another domain",
			how.kind.Words(), text.Short(first.name)))
		t.broken = true
		return true
	}
	t.said = slices.DeleteFunc(t.said, func(s said) bool {
		return slices.Contains(how.before, s.fact.field) || s.fact.field == "switching_domain"
	})
	return false
}

// later is a fact of a line that names what is loaded after it.
type later struct {
	t  *thing
	of lab.Key
	said
}

// saidOfPorts is what a line says of single ports of a device.
type saidOfPorts struct {
	later
	marks []portMark
}

// wait keeps a fact for later: what names devices until they are loaded, what is
// said of single ports until all lines about their device are.
func (ld *loader) wait(t *thing, r lab.Record, s said) {
	w := later{t, r.Key(), s}
	if marks, ok := s.value.([]portMark); ok {
		ld.marks = append(ld.marks, saidOfPorts{w, marks})
		return
	}
	ld.later = append(ld.later, w)
}

// late puts down what waited, once everything that the text speaks of is loaded: all of it
// is looked up in one lab, as nothing that waits is named by another.
func (ld *loader) late() {
	ld.stale = true
	ld.lab()
	for _, w := range ld.later {
		r := ld.after[w.of]
		if r == nil {
			continue // its line has a mistake
		}
		v, err := ld.setting(r).out(w.value)
		if err != nil {
			ld.wrong(w.t, w.col, w.end, err)
			continue
		}
		b := open(r)
		w.fact.set(b, v)
		ld.renew(w.of, closed(b))
	}
	ld.stale = true
}

// renew puts down a record anew, without a line of its own.
func (ld *loader) renew(key lab.Key, r lab.Record) {
	ld.after[key] = r
	ld.behind = append(ld.behind, key)
}

// portsSaid puts down what the text says of single ports: of ranges and
// aggregates first, then of ports by themselves, so that the order of lines does
// not matter. What two lines say of the same port in the same way has to be the
// same.
func (ld *loader) portsSaid() {
	var order []lab.Key
	by := map[lab.Key][]saidOfPorts{}
	for _, s := range ld.marks {
		if by[s.of] == nil {
			order = append(order, s.of)
		}
		by[s.of] = append(by[s.of], s)
	}
	for _, key := range order {
		d, ok := ld.after[key].(lab.Device)
		if !ok {
			continue // its line has a mistake
		}
		is := portsOf{loader: ld, device: d, ports: ld.lab().PortsOf(d)}
		for _, ranged := range []bool{true, false} {
			is.said = map[string]lab.PortMark{}
			for _, s := range by[key] {
				is.take(s, ranged)
			}
		}
		d.Marks = is.device.Marks
		ld.renew(key, d)
		ld.stale = true
		is.tellBoth(by[key])
	}
}

// portsOf gathers what is said of a device's ports.
type portsOf struct {
	*loader
	device lab.Device
	ports  lab.Ports
	said   map[string]lab.PortMark // of each port, either alone or with others
}

// take puts down those marks of a line that are said of several ports at once,
// or of one.
func (p *portsOf) take(s saidOfPorts, ranged bool) {
	for _, m := range s.marks {
		keys, together := []string{m.Port}, false
		if a, ok := p.device.AggregateNamed(m.Port); ok {
			if _, isPort := p.ports.Index(m.Port); !isPort {
				keys, together = a.Ports, true
			}
		}
		if (m.ranged || together) != ranged {
			continue
		}
		for _, key := range keys {
			one := m.PortMark
			if one.Port = key; !together {
				if found, ok := p.ports.Find(key); ok {
					one.Port = found
				} else if p.ports.Known {
					p.wrong(s.t, s.col, s.end, fmt.Errorf("“%s” has no port “%s”; it has %s", text.Short(p.device.Title()), text.Short(key),
						p.ports.Words()))
					return
				}
			}
			if err := p.against(one); err != nil {
				p.wrong(s.t, s.col, s.end, err)
				return
			}
			p.device.Marks = marked(p.device.Marks, one)
		}
	}
}

// against says what is wrong where the text says two things of one port, each of
// it alone or each with others.
func (p *portsOf) against(m lab.PortMark) error {
	was := p.said[m.Port]
	p.said[m.Port] = was.With(m)
	for _, x := range []struct {
		word    string
		was, is lab.VLANs
	}{{"untagged", was.Untagged, m.Untagged}, {"tagged", was.Tagged, m.Tagged}} {
		if x.was != "" && x.is != "" && x.was != x.is {
			return fmt.Errorf("port %s of “%s” is said to be %s in %s and in %s; keep the one that is right", m.Port, text.Short(p.device.Title()),
				x.word, x.was, x.is)
		}
	}
	if was.Routed && (m.Untagged != "" || m.Tagged != "") || m.Routed && (was.Untagged != "" || was.Tagged != "") {
		return fmt.Errorf("port %s of “%s” is said to be routed and to carry a VLAN; keep the one that is right", m.Port,
			text.Short(p.device.Title()))
	}
	return nil
}

// tellBoth tells where a line makes a port carry a VLAN both tagged and untagged.
func (p *portsOf) tellBoth(lines []saidOfPorts) {
	for _, s := range lines {
		for _, m := range s.marks {
			i := slices.IndexFunc(p.device.Marks, func(o lab.PortMark) bool { return o.Port == m.Port })
			if i < 0 {
				continue
			}
			if c := p.device.Carries(p.device.Marks[i]); c.Both {
				p.kept = append(p.kept, Kept{File: s.t.file, Line: s.t.line, Column: s.col, EndColumn: s.end, Counts: true, Text: fmt.Sprintf(
					"%s/%s: %d is said to be tagged and untagged, and counts as untagged", p.device.Title(), m.Port, c.Untagged)})
				break
			}
		}
	}
}
