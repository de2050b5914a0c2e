package cabling

import "levelstaff/core/lab"

// Jack is a port as it is drawn: where it stands among those of its face, what
// is in it, and which trail that is part of.
type Jack struct {
	Port      string     `json:"port" required:"true"`
	Rear      bool       `json:"rear,omitempty" description:"The rear of a port that goes through"`
	Face      lab.Face   `json:"face" required:"true"`
	Group     int        `json:"group" required:"true" description:"Its group: port groups, then outlets, then undocumented ports"`
	Index     int        `json:"index" required:"true" description:"Its number in the group, from 0"`
	Connector string     `json:"connector,omitempty"`
	Family    lab.Family `json:"family" required:"true"`
	Name      string     `json:"name,omitempty"`
	Reserved  string     `json:"reserved_for,omitempty"`
	Note      string     `json:"note,omitempty"`
	Broken    bool       `json:"broken,omitempty"`
	Cable     lab.ID     `json:"cable_id,omitempty"`
	Hex       string     `json:"hex,omitempty" description:"The colour of what is in it"`
	Trail     lab.ID     `json:"trail,omitempty" description:"The same for every port and cable of one trail: the id of its oldest cable"`
	To        string     `json:"to,omitempty" description:"Where the cable's other end is"`
}

// Jacks lists a device's ports, fronts before rears; those that go through are
// there once for each side.
func (w *Wiring) Jacks(id lab.ID) []Jack {
	list := []Jack{}
	at, ok := w.byID[id]
	if !ok {
		return list
	}
	d := &w.devices[at]
	group, first := -2, 0
	for i := range d.count() {
		p := d.port(i)
		if p.Group != group {
			group, first = p.Group, i
		}
		j := Jack{Port: p.Key, Face: p.Face, Group: p.Group, Index: i - first, Connector: p.Connector, Family: p.Family,
			Name: p.Mark.Name, Reserved: p.Mark.Reserved, Note: p.Mark.Note, Broken: p.Mark.Broken}
		s := 2 * (d.from + int32(i))
		list = append(list, w.plugged(j, s))
		if p.Joined {
			j.Rear, j.Face = true, otherFace(p.Face)
			list = append(list, w.plugged(j, s+1))
		}
	}
	return list
}

func (w *Wiring) plugged(j Jack, s int32) Jack {
	n := w.sockets[s].cable
	if n != none {
		c := &w.cables[n]
		j.Cable, j.Hex = c.ID, c.Colour.Hex()
		if far := w.sockets[s].far; far != none {
			j.To = w.lab.EndWords(w.end(far))
		}
	}
	j.Trail = w.trailName(s)
	return j
}

// trailName is the id of the oldest cable of the trail that a socket is part
// of, "" where there is none.
func (w *Wiring) trailName(s int32) lab.ID {
	oldest := none
	for _, from := range []int32{s, w.sockets[s].through} {
		for at, n := from, 0; at != none && w.sockets[at].cable != none && n <= len(w.cables); n++ {
			if c := w.sockets[at].cable; oldest == none || c < oldest {
				oldest = c
			}
			far := w.sockets[at].far
			if far == none {
				break
			}
			if at = w.sockets[far].through; at == from {
				break
			}
		}
	}
	if oldest == none {
		return ""
	}
	return w.cables[oldest].ID
}

// Strip is a lead between two faces as the elevation draws it.
type Strip struct {
	Cable lab.ID  `json:"cable_id" required:"true"`
	Trail lab.ID  `json:"trail" required:"true"`
	Hex   string  `json:"hex,omitempty"`
	A     lab.End `json:"a" required:"true"`
	B     lab.End `json:"b" required:"true"`
	Way   lab.Way `json:"way,omitempty"`
}

// Drawn is the wiring of a rack as it is drawn on its elevation.
type Drawn struct {
	Jacks  map[lab.ID][]Jack `json:"jacks" required:"true" description:"By device"`
	Strips []Strip           `json:"strips" required:"true" nullable:"false" description:"The leads with both ends in the rack"`
}

// DrawnIn is the wiring among devices.
func (w *Wiring) DrawnIn(ids []lab.ID) Drawn {
	d := Drawn{Jacks: map[lab.ID][]Jack{}, Strips: []Strip{}}
	for _, id := range ids {
		d.Jacks[id] = w.Jacks(id)
	}
	for _, id := range ids {
		at := &w.devices[w.byID[id]]
		for s := 2 * at.from; s < 2*(at.from+int32(at.count())); s++ {
			far, n := w.sockets[s].far, w.sockets[s].cable
			if n == none || far == none || far < s {
				continue
			}
			if o, _ := w.at(far); d.Jacks[o.ID] == nil {
				continue
			}
			c := &w.cables[n]
			d.Strips = append(d.Strips, Strip{c.ID, w.trailName(s), c.Colour.Hex(), w.end(s), w.end(far), c.Way})
		}
	}
	return d
}
