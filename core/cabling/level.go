package cabling

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// PortLevel is how many ports of one sort are used and free.
type PortLevel struct {
	Family    lab.Family `json:"family" required:"true"`
	Connector string     `json:"connector" required:"true" description:"Empty while unknown"`
	Name      string     `json:"name" required:"true" description:"What the trade calls such a port"`
	SpeedMb   int        `json:"speed_mb,omitempty" description:"The most they run at; absent while unknown"`
	PoEOut    int        `json:"poe_out_type,omitempty"`
	Joint     bool       `json:"joint,omitempty" description:"They go through, as in a panel"`
	Used      int        `json:"used" required:"true"`
	Free      int        `json:"free" required:"true"`
	Broken    int        `json:"broken,omitempty"`
	Reserved  int        `json:"reserved,omitempty" description:"Free, but reserved for something"`
}

// LevelOf counts the ports of some devices by connector, speed and PoE.
func (w *Wiring) LevelOf(ids []lab.ID) []PortLevel {
	levels := map[PortLevel]*PortLevel{}
	for _, id := range ids {
		at, ok := w.byID[id]
		if !ok {
			continue
		}
		d := &w.devices[at]
		for i := range d.count() {
			p := d.port(i)
			key := PortLevel{Family: p.Family, Connector: p.Connector, Name: portWords(p.Connector, p.Family), PoEOut: p.PoEOut, Joint: p.Joined}
			if n := len(p.SpeedsMb); n > 0 {
				key.SpeedMb = p.SpeedsMb[n-1]
			}
			level := levels[key]
			if level == nil {
				fresh := key
				level = &fresh
				levels[key] = level
			}
			s := 2 * (d.from + int32(i))
			switch {
			case w.sockets[s].cable != none:
				level.Used++
			case p.Mark.Broken:
				level.Broken++
			case p.Mark.Reserved != "":
				level.Reserved++
			default:
				level.Free++
			}
		}
	}
	list := []PortLevel{}
	for _, l := range levels {
		list = append(list, *l)
	}
	order := lab.Families()
	slices.SortFunc(list, func(a, b PortLevel) int {
		return cmp.Or(slices.Index(order, a.Family)-slices.Index(order, b.Family), b.SpeedMb-a.SpeedMb, b.PoEOut-a.PoEOut,
			cmp.Compare(a.Connector, b.Connector))
	})
	return list
}

// LinkPorts are the network ports of what others are plugged into: switches,
// routers and firewalls that run.
type LinkPorts struct {
	Used     int `json:"used" required:"true"`
	Of       int `json:"of" required:"true"`
	Kept     int `json:"kept,omitempty" description:"Of those not used: reserved for something, or broken"`
	Unlisted int `json:"unlisted,omitempty" description:"Devices among them whose ports are not documented, so there are at least this many"`
}

// Free is how many ports are left.
func (p LinkPorts) Free() int { return p.Of - p.Used - p.Kept }

// LinkPortsOf counts those of some devices.
func (w *Wiring) LinkPortsOf(ids []lab.ID) LinkPorts {
	var sum LinkPorts
	for _, id := range ids {
		at, ok := w.byID[id]
		if !ok || w.devices[at].State != lab.Running || !w.devices[at].Forwards() {
			continue
		}
		d := &w.devices[at]
		if !d.ports.Known {
			sum.Unlisted++
		}
		for i := range d.count() {
			p, s := d.port(i), 2*(d.from+int32(i))
			switch p.Family {
			case lab.Copper, lab.Cages, lab.Fibre:
			case lab.Unsure: // known by what is plugged into it
				if w.sockets[s].cable == none || !w.network(s) {
					continue
				}
			default:
				continue
			}
			sum.Of++
			switch {
			case w.sockets[s].cable != none:
				sum.Used++
			case p.Mark.Broken || p.Mark.Reserved != "":
				sum.Kept++
			}
		}
	}
	return sum
}

// Levels are the used and free ports of the lab and of each rack.
type Levels struct {
	Lab   []PortLevel `json:"lab" required:"true" nullable:"false"`
	Racks []RackLevel `json:"racks" required:"true" nullable:"false"`
}

// RackLevel are the ports of one rack.
type RackLevel struct {
	Rack  lab.ID      `json:"rack_id" required:"true"`
	Name  string      `json:"name" required:"true"`
	Level []PortLevel `json:"level" required:"true" nullable:"false"`
}

// LevelsOf counts the ports of a lab, and rack by rack.
func LevelsOf(l *lab.Lab) Levels {
	w := Of(l)
	out := Levels{w.LevelOf(w.Devices()), []RackLevel{}}
	for r := range lab.Each[lab.Rack](l) {
		out.Racks = append(out.Racks, RackLevel{r.ID, r.Name, w.LevelOf(w.DevicesIn(r.ID))})
	}
	return out
}

// FreePort is a free port that a device could be plugged into.
type FreePort struct {
	lab.End
	Title  string `json:"title" required:"true" description:"The port as one writes it"`
	To     string `json:"to,omitempty" description:"The port that a panel or plate leads to; absent where it is that port itself"`
	Where  string `json:"where,omitempty" description:"The rack or place it is in"`
	Speed  Speed  `json:"speed" required:"true" description:"Of the way to the network"`
	PoEOut int    `json:"poe_out_type,omitempty"`
	rank   int
}

// Openings lists the free ports where a device of that speed in Mbit/s could be
// plugged in, those that give it all of it first. A wall plate or panel counts
// where it leads to a switch.
func (w *Wiring) Openings(mb int) []FreePort {
	list := []FreePort{}
	for s := range int32(len(w.sockets)) {
		if o, ok := w.opening(s, mb); ok {
			list = append(list, o)
		}
	}
	slices.SortStableFunc(list, func(a, b FreePort) int { return b.rank - a.rank })
	return list
}

func (w *Wiring) opening(s int32, mb int) (FreePort, bool) {
	if w.sockets[s].cable != none || s%2 == 1 && w.sockets[s].through == none {
		return FreePort{}, false
	}
	d, i := w.at(s)
	p := d.port(i)
	if d.State != lab.Running && w.sockets[s].through == none || d.At == nil {
		return FreePort{}, false
	}
	if p.Mark.Broken || p.Mark.Reserved != "" || p.Family != lab.Copper && p.Family != lab.Cages && p.Family != lab.Fibre {
		return FreePort{}, false
	}
	o := FreePort{End: w.end(s)}
	o.Title = w.lab.EndWords(o.End)
	o.Where = w.where(d.Device)
	sum := newSum(w)
	if back := w.sockets[s].through; back != none {
		path := w.follow(back)
		if w.sockets[back].cable == none || path.last == none || path.loop {
			return FreePort{}, false
		}
		end, n := w.at(path.last)
		if end.ports.Joined() || !end.Forwards() {
			return FreePort{}, false
		}
		t := w.detail(path)
		if len(t.Broken) > 0 {
			return FreePort{}, false
		}
		o.To = w.lab.EndWords(w.end(path.last))
		o.PoEOut = end.port(n).PoEOut
		sum.joint(s)
		for step, at := 0, back; step < int(path.pieces); step++ {
			sum.cable(w.sockets[at].cable)
			far := w.sockets[at].far
			if at = w.sockets[far].through; at == none {
				sum.end(far)
			} else {
				sum.joint(far)
			}
		}
	} else {
		if d.ports.Joined() || !d.Forwards() {
			return FreePort{}, false
		}
		o.PoEOut = p.PoEOut
		sum.end(s)
	}
	if sum.network = true; sum.ended == 0 {
		return FreePort{}, false
	}
	// The device asked about is taken to run at its speed and all below.
	sum.takes(below(sum.ends[0], mb))
	o.Speed = sum.speed(EndsInPort)
	if o.Speed.Mb != nil {
		o.rank = *o.Speed.Mb*2 - map[bool]int{true: 1}[o.Speed.AtMost]
	}
	return o, true
}

func below(speeds []int, mb int) []int {
	return slices.DeleteFunc(slices.Clone(speeds), func(s int) bool { return s > mb })
}

// where names the rack or place a device is in.
func (w *Wiring) where(d lab.Device) string {
	if r, ok := w.lab.RackOf(d); ok {
		return r.Name
	}
	at := w.lab.Foot(d).At
	if at == nil {
		return ""
	}
	p, _ := lab.Find[lab.Place](w.lab, at.Place)
	return p.Name
}
