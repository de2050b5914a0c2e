package service

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/storage"
)

// legAt asks whether a VLAN gets to a device.
type legAt struct {
	device int32
	vlan   int
}

// linked notes the links of the hosts, by their number in the wiring.
func (s *Services) linked() {
	s.links = map[int32][]int32{}
	for _, h := range s.hosts {
		if n, ok := s.net.Wiring().Number(h.ID); ok {
			s.links[n] = nil
		}
	}
	for i, link := range s.net.Links() {
		for _, n := range []int32{link.A.Device, link.B.Device} {
			if list, is := s.links[n]; is {
				s.links[n] = append(list, int32(i))
			}
		}
	}
	for _, h := range s.hosts {
		for _, g := range h.Guests {
			g.each(func(g *Guest) {
				for _, leg := range g.Legs() {
					s.Lacking(h, leg.VLAN)
				}
			})
		}
	}
}

// each goes through a guest and what runs in it.
func (g *Guest) each(do func(*Guest)) {
	do(g)
	for _, in := range g.Inside {
		in.each(do)
	}
}

// Lacking reports whether a host has links and none of them carries a VLAN.
func (s *Services) Lacking(h *Host, vlan int) bool {
	n, wired := s.net.Wiring().Number(h.ID)
	if vlan == 0 || !wired {
		return false
	}
	at := legAt{n, vlan}
	lacks, known := s.lacks[at]
	if !known {
		lacks = s.noneCarries(at)
		s.lacks[at] = lacks
	}
	return lacks
}

func (s *Services) noneCarries(at legAt) bool {
	if slices.ContainsFunc(s.links[at.device], func(link int32) bool { return s.net.OverLink(link, at.vlan) }) {
		return false
	}
	lacks, _ := s.net.Lacks(at.device, at.vlan)
	return lacks
}

// MoveCheck is one of the things that a host must have so that a guest runs there.
type MoveCheck struct {
	What string `json:"what" required:"true" enum:"memory,cores,vlan,pool,handed_through,pinned,engine"`
	Held bool   `json:"held" required:"true" description:"It has that"`
	Say  string `json:"say" required:"true" description:"In a sentence"`
	// Unsure: it may be otherwise, as something is not known.
	Unsure bool `json:"unsure,omitempty" description:"Something is not known"`
}

// Checks are what a guest needs of a host, each with whether it has it: first what does
// not depend on how full the host is.
func (s *Services) Checks(g *Guest, to *Host) []MoveCheck {
	list := append(s.ties(g, to, false), s.goesIn(g, to)...)
	memory := MoveCheck{What: "memory", Held: true}
	need, left, fitted := g.Takes(), int64(0), false
	if left, fitted = to.Left(); g.Host == to && g.Up == nil && g.Runs() && need != nil {
		left += *need // it takes that already
	}
	switch {
	case !fitted:
		memory.Unsure, memory.Say = true, fmt.Sprintf("the memory of %s is not known", to.Title())
	case need == nil:
		memory.Unsure = true
		memory.Say = fmt.Sprintf("how much memory %s takes is not known; %s has %s left", g.Title(), to.Title(), Memory(left))
	case *need > left:
		memory.Held = false
		memory.Say = fmt.Sprintf("takes %s, and %s has %s left", Memory(*need), to.Title(), Memory(max(left, 0)))
		if to.Takes.Unknown > 0 {
			memory.Say += ", at most"
		}
	default:
		memory.Say = fmt.Sprintf("takes %s of the %s that %s has left", Memory(*need), Memory(left), to.Title())
		memory.Unsure = to.Takes.Unknown > 0
	}
	return append(list, memory)
}

// ties are the checks of what ties a guest to its host or keeps it from another one.
// planned tells that its host is taken out on purpose: then what is on its drives can be
// moved first.
func (s *Services) ties(g *Guest, to *Host, planned bool) []MoveCheck {
	if g.Host == to || g.Host == nil {
		return nil
	}
	var list []MoveCheck
	add := func(what, say string, args ...any) {
		list = append(list, MoveCheck{What: what, Say: fmt.Sprintf(say, args...)})
	}
	g.each(func(in *Guest) {
		if in.Pinned {
			add("pinned", "%s is pinned to %s", in.Title(), g.Host.Title())
		}
		if len(in.Handed) > 0 {
			add("handed_through", "%s has %s of %s", in.Title(), s.HandedWords(in), g.Host.Title())
		}
		for _, disk := range in.Disks {
			if p := s.poolGone(disk, g.Host); p != nil && !planned {
				add("pool", "the disk of %s is on %s, which is in %s", in.Title(), p.Title(), g.Host.Title())
			}
		}
	})
	return list
}

// poolGone is the pool of a disk that is gone with a host: one that is in that alone. nil where there is none, or where nobody said.
func (s *Services) poolGone(disk lab.Dataset, gone *Host) *lab.Pool {
	if disk.On == nil {
		return nil
	}
	if part, _ := lab.Find[lab.Part](s.lab, disk.On.Part); disk.On.Device == gone.ID || part.ID != "" && part.Device == gone.ID {
		return &lab.Pool{Name: "a drive"}
	}
	p, ok := lab.Find[lab.Pool](s.lab, disk.On.Pool)
	if !ok || p.Device != gone.ID || slices.ContainsFunc(p.With, func(id lab.ID) bool { return id != gone.ID }) {
		return nil
	}
	return &p
}

// goesIn are the checks of what a host has to have whatever room it has.
func (s *Services) goesIn(g *Guest, to *Host) []MoveCheck {
	var list []MoveCheck
	if say := WrongEngine(g, to); say != "" {
		list = append(list, MoveCheck{What: "engine", Say: say})
	}
	g.each(func(in *Guest) {
		for _, leg := range in.Legs() {
			if s.Lacking(to, leg.VLAN) {
				list = append(list, MoveCheck{What: "vlan", Say: fmt.Sprintf("no cable carries VLAN %d to %s", leg.VLAN, to.Title())})
			}
		}
	})
	if n := to.Lanes(); g.VCPUs != nil && n > 0 {
		c := MoveCheck{What: "cores", Held: *g.VCPUs <= n, Say: fmt.Sprintf("has %d vCPUs, and %s %d threads", *g.VCPUs, to.Title(), n)}
		if to.Threads.Known == 0 {
			c.Say = fmt.Sprintf("has %d vCPUs, and %s %d cores", *g.VCPUs, to.Title(), n)
		}
		list = append(list, c)
	}
	return list
}

// WrongEngine says why a host does not run such guests, "" where it does or where what it
// runs is not known.
func WrongEngine(g *Guest, to *Host) string {
	switch {
	case to.Engine == lab.PlainMachine:
		return to.Title() + " runs no guests"
	case to.Engine == lab.Containers && g.Kind == lab.VM:
		return to.Title() + " runs containers and no VMs"
	}
	return ""
}

// HandedWords is what a guest has of its host, in words.
func (s *Services) HandedWords(g *Guest) string {
	var said []string
	for _, h := range g.Handed {
		said = append(said, s.ThingWords(h))
	}
	return strings.Join(said, " and ")
}

// ThingWords is one thing that is handed through, in words.
func (s *Services) ThingWords(h lab.Handed) string {
	switch {
	case h.Slot > 0:
		return fmt.Sprintf("slot %d", h.Slot)
	case h.Port != "":
		return "port " + h.Port
	case h.Part != "":
		p, _ := lab.Find[lab.Part](s.lab, h.Part)
		return p.Title()
	case h.Device != "":
		d, _ := lab.Find[lab.Device](s.lab, h.Device)
		return d.Title()
	}
	return h.Words
}

// Memory is an amount of it as one writes it: 1.5 GB, of 2^30 bytes each.
func Memory(bytes int64) string {
	gb := float64(bytes) / (1 << 30)
	if whole := float64(bytes >> 30); gb == whole || gb >= 100 {
		return fmt.Sprintf("%.0f GB", gb)
	}
	if bytes < 1<<30 {
		return fmt.Sprintf("%.0f MB", float64(bytes)/(1<<20))
	}
	return strings.TrimSuffix(fmt.Sprintf("%.1f", gb), ".0") + " GB"
}

// NewestCopy is how old the newest copy of a guest's disks is, by the oldest of them, in
// words; "" where it has no disks.
func (s *Services) NewestCopy(g *Guest, today lab.Day) string {
	say := ""
	oldest := -1.0
	kept := storage.Of(s.lab)
	for _, disk := range g.Disks {
		for _, d := range kept.Data() {
			if d.ID != disk.ID {
				continue
			}
			newest := -1.0
			for _, c := range d.Copies {
				if age := d.Age(c, today); age != nil && (newest < 0 || *age < newest) {
					newest = *age
				}
			}
			switch {
			case len(d.Copies) == 0:
				return disk.Title() + " has no copy"
			case newest < 0:
				say = "nobody said how old the copy of " + disk.Title() + " is"
			case newest > oldest:
				oldest = newest
			}
		}
	}
	if say == "" && oldest >= 0 {
		return storage.Ago(oldest)
	}
	return say
}
