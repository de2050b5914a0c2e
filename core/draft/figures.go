package draft

import (
	"fmt"
	"math"

	"levelstaff/core/address"
	"levelstaff/core/cabling"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/power"
	"levelstaff/core/rack"
	"levelstaff/core/reach"
)

// Figures are what two labs are compared by.
type Figures struct {
	Things    int     `json:"things" required:"true" description:"Devices in all"`
	HeightU   int     `json:"height_u" required:"true"`
	FreeU     int     `json:"free_u" required:"true"`
	LargestU  int     `json:"largest_u" required:"true" description:"Units in the largest free piece"`
	Unplaced  int     `json:"unplaced" required:"true" description:"Devices that are not placed yet"`
	WeightKG  float64 `json:"weight_kg" required:"true" description:"What the racks carry, as far as it is weighed"`
	Unweighed int     `json:"unweighed" required:"true" description:"Devices in them whose weight is unknown: they carry at least the sum"`
	PortsFree int     `json:"ports_free" required:"true" description:"Network ports left in switches, routers and firewalls"`
	Unlisted  int     `json:"unlisted" required:"true" description:"Those of them whose ports are not documented"`
	Carried   int     `json:"vlans_carried" required:"true" description:"Declared VLANs that a cable carries, in the whole lab"`
	Whole     int     `json:"vlans_whole" required:"true" description:"Those of them in one piece"`
	Rests     int     `json:"links_resting" required:"true" description:"Links kept from carrying by the spanning tree"`
	Addresses int64   `json:"addresses_free" required:"true" description:"Addresses left in IPv4 subnets, in the whole lab"`
	Subnets   int     `json:"subnets" required:"true" description:"How many those are"`
	Broken    int     `json:"rules_broken" required:"true" description:"Rules about who reaches whom that cannot hold"`
	IdleW     float64 `json:"idle_w" required:"true" description:"What it draws idle, as far as that is known"`
	TypicalW  float64 `json:"typical_w" required:"true"`
	MostW     float64 `json:"most_w" required:"true"`
	Undrawn   [3]int  `json:"draws_unknown" required:"true" description:"Devices whose draw is not known at each of these, or from below only"`
	Fullest   string  `json:"fullest" required:"true" description:"What is nearest to its power limit, empty while no limit is known"`
	FullestP  float64 `json:"fullest_percent" required:"true"`
	OneLeg    int     `json:"one_leg" required:"true" description:"Devices with several supplies of which one is plugged in"`
	Act       int     `json:"act" required:"true" description:"Open findings that ask to act"`
	Watch     int     `json:"watch" required:"true"`
	Note      int     `json:"note" required:"true"`
}

// Figure is one of them in words.
type Figure struct {
	Name   string  `json:"name" required:"true" description:"Its key, the same for every lab"`
	Title  string  `json:"title" required:"true"`
	Text   string  `json:"text" required:"true"`
	Value  float64 `json:"value" required:"true" description:"To compare it with another lab's"`
	Better int     `json:"better,omitempty" description:"1 where more is better, -1 where less is; neither, if it is absent"`
}

// Words are the figures that labs are compared by, in the order of a list.
func (f Figures) Words() []Figure {
	atLeast := func(text string, unknown int) string {
		if unknown > 0 {
			return "≥ " + text
		}
		return text
	}
	vlans := "none"
	if f.Carried > 0 {
		vlans = fmt.Sprintf("%d of %d", f.Whole, f.Carried)
	}
	free := "no subnets"
	if f.Subnets > 0 {
		free = fmt.Sprint(f.Addresses)
	}
	watts := func(name, title string, w float64, unknown int) Figure {
		said := atLeast(fmt.Sprintf("%.0f W", w), unknown)
		if w == 0 && unknown > 0 {
			said = "?"
		}
		return Figure{name, title, said, math.Round(w), -1}
	}
	fullest := "no limit known"
	if f.Fullest != "" {
		fullest = fmt.Sprintf("%.0f %%, %s", f.FullestP, f.Fullest)
	}
	carries := math.Round(f.WeightKG*10) / 10
	return []Figure{
		{"largest", "Largest free piece", fmt.Sprintf("%d U", f.LargestU), float64(f.LargestU), 1},
		{"free", "Units free", fmt.Sprintf("%d U", f.FreeU), float64(f.FreeU), 1},
		{"weight", "Carries", atLeast(fmt.Sprintf("%g kg", carries), f.Unweighed), carries, -1},
		{"ports", "Switch ports free", atLeast(fmt.Sprint(f.PortsFree), f.Unlisted), float64(f.PortsFree), 1},
		{"things", "Devices", fmt.Sprint(f.Things), float64(f.Things), 0},
		{"findings", "To act on or watch", fmt.Sprint(f.Act + f.Watch), float64(f.Act + f.Watch), -1},
		{"vlans", "VLANs in one piece", vlans, float64(f.Whole), 1},
		{"addresses", "Addresses left", free, float64(f.Addresses), 1},
		{"rules", "Rules that cannot hold", fmt.Sprint(f.Broken), float64(f.Broken), -1},
		{"rests", "Links that rest", fmt.Sprint(f.Rests), float64(f.Rests), 0},
		watts("idle_w", "Draws idle", f.IdleW, f.Undrawn[0]),
		watts("typical_w", "Draws usually", f.TypicalW, f.Undrawn[1]),
		watts("most_w", "Draws at most", f.MostW, f.Undrawn[2]),
		{"fullest", "Fullest power limit", fullest, math.Round(f.FullestP), -1},
		{"one_leg", "On one leg", fmt.Sprint(f.OneLeg), float64(f.OneLeg), -1},
	}
}

// FiguresOf works out the figures of a lab, or of one rack of it where that is
// not "".
func FiguresOf(l *lab.Lab, in lab.ID, today lab.Day) Figures {
	var f Figures
	for r := range lab.Each[lab.Rack](l) {
		if in != "" && r.ID != in {
			continue
		}
		s := rack.SpaceOf(l, r)
		f.Things += s.Weight.Things
		f.HeightU += s.HeightU
		f.FreeU += s.FreeU
		f.LargestU = max(f.LargestU, s.LargestU)
		f.WeightKG += s.Weight.KnownKG
		f.Unweighed += len(s.Weight.Unweighed)
	}
	if in == "" {
		f.Things = 0
	}
	for d := range lab.Each[lab.Device](l) {
		if in == "" {
			f.Things++
		}
		if d.At == nil {
			f.Unplaced++
		}
	}
	w := cabling.Of(l)
	ids := w.Devices()
	if in != "" {
		ids = w.DevicesIn(in)
	}
	ports := w.LinkPortsOf(ids)
	f.PortsFree, f.Unlisted = ports.Free(), ports.Unlisted
	net := network.Of(l).Figures() // of the lab as a whole: a VLAN stops at no rack
	f.Carried, f.Whole, f.Rests = net.Carried, net.Whole, net.Rests
	p := address.Of(l)
	for i := range p.Subnets() {
		if free := p.Count(i).Free; free != nil && p.Subnets()[i].CIDR.Addr().Is4() {
			f.Addresses += *free
			f.Subnets++
		}
	}
	f.Broken = len(reach.Of(l).Broken())
	f.draws(l, in)
	for _, found := range finding.All(l, today) {
		if !found.Open() || in != "" && !concerns(l, found, in) {
			continue
		}
		switch found.Level {
		case finding.Act:
			f.Act++
		case finding.Watch:
			f.Watch++
		default:
			f.Note++
		}
	}
	return f
}

// draws adds what is drawn, in the lab or in one rack; limits are of the lab as a whole.
func (f *Figures) draws(l *lab.Lab, in lab.ID) {
	g := power.Of(l)
	sum := g.All()
	if in != "" {
		sum = g.InRack(in)
	}
	f.IdleW, f.TypicalW, f.MostW = sum.Watts[power.Idle], sum.Watts[power.Typical], sum.Watts[power.Most]
	f.Undrawn = [3]int{sum.Lacks[power.Idle], sum.Lacks[power.Typical], sum.Lacks[power.Most]}
	if at, full, ok := g.Fullest(); ok {
		f.Fullest, f.FullestP = g.Nodes()[at].Title, 100*full
	}
	for _, n := range g.OneLeg() {
		if r, ok := l.RackOf(*g.Nodes()[n].Device); in == "" || ok && r.ID == in {
			f.OneLeg++
		}
	}
}

// concerns reports whether a finding is about a rack or something in it.
func concerns(l *lab.Lab, f finding.Finding, in lab.ID) bool {
	for _, key := range f.Records {
		d, ok := lab.Find[lab.Device](l, key.ID)
		r, at := l.RackOf(d)
		if key.ID == in || ok && at && r.ID == in {
			return true
		}
	}
	return false
}
