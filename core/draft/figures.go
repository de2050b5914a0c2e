package draft

import (
	"fmt"
	"math"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/battery"
	"levelstaff/core/cabling"
	"levelstaff/core/drill"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/power"
	"levelstaff/core/rack"
	"levelstaff/core/reach"
	"levelstaff/core/running"
	"levelstaff/core/service"
	"levelstaff/core/storage"
)

// Figures are what two labs are compared by.
type Figures struct {
	Things    int      `json:"things" required:"true" description:"Devices in all"`
	HeightU   int      `json:"height_u" required:"true"`
	FreeU     int      `json:"free_u" required:"true"`
	LargestU  int      `json:"largest_u" required:"true" description:"Units in the largest free piece"`
	Unplaced  int      `json:"unplaced" required:"true" description:"Devices that are not placed yet"`
	WeightKG  float64  `json:"weight_kg" required:"true" description:"What the racks carry, as far as it is weighed"`
	Unweighed int      `json:"unweighed" required:"true" description:"Devices in them whose weight is unknown: they carry at least the sum"`
	PortsFree int      `json:"ports_free" required:"true" description:"Network ports left in switches, routers and firewalls"`
	Unlisted  int      `json:"unlisted" required:"true" description:"Those of them whose ports are not documented"`
	Carried   int      `json:"vlans_carried" required:"true" description:"Declared VLANs that a cable carries, in the whole lab"`
	Whole     int      `json:"vlans_whole" required:"true" description:"Those of them in one piece"`
	Rests     int      `json:"links_resting" required:"true" description:"Links kept from carrying by the spanning tree"`
	Addresses int64    `json:"addresses_free" required:"true" description:"Addresses left in IPv4 subnets, in the whole lab"`
	Subnets   int      `json:"subnets" required:"true" description:"How many those are"`
	Broken    int      `json:"rules_broken" required:"true" description:"Rules about who reaches whom that cannot hold"`
	IdleW     float64  `json:"idle_w" required:"true" description:"What it draws idle, as far as that is known"`
	TypicalW  float64  `json:"typical_w" required:"true"`
	MostW     float64  `json:"most_w" required:"true"`
	Undrawn   [3]int   `json:"draws_unknown" required:"true" description:"Devices whose draw at each of these is not known, or from below"`
	Fullest   string   `json:"fullest" required:"true" description:"What is nearest to its power limit, empty while no limit is known"`
	FullestP  float64  `json:"fullest_percent" required:"true"`
	OneLeg    int      `json:"one_leg" required:"true" description:"Devices with several supplies of which one is plugged in"`
	Holds     *float64 `json:"holds_min,omitempty" description:"How long the UPS holds that holds shortest; absent while unknown"`
	HoldsName string   `json:"holds,omitempty" description:"Which one that is"`
	Cost      *float64 `json:"cost_month,omitempty" description:"What a month costs to run, at least; absent while no price is said"`
	KWh       float64  `json:"kwh_month" required:"true"`
	BTU       float64  `json:"btu_h" required:"true" description:"The heat of all of it"`
	DB        *float64 `json:"db_a,omitempty" description:"The loudest place; absent while nothing is known"`
	Loudest   string   `json:"loudest,omitempty" description:"Which one that is"`
	Usable    *int64   `json:"usable_bytes,omitempty" description:"Room of all pools, at least; absent while unknown"`
	Used      *int64   `json:"used_bytes,omitempty"`
	Stored    bool     `json:"usable_at_least" required:"true" description:"More of both may be there"`
	Weakest   string   `json:"weakest,omitempty" description:"The pool of which the fewest drives may fail"`
	MayFail   int      `json:"may_fail" required:"true" description:"How many of its drives may"`
	PerTB     *float64 `json:"price_usable_tb,omitempty" description:"Of the drives in pools; absent while one has no price"`
	Bays      int      `json:"bays" required:"true"`
	BaysFull  int      `json:"bays_filled" required:"true"`
	Hosts     int      `json:"hosts" required:"true" description:"Devices that run guests"`
	Memory    *int64   `json:"memory_bytes,omitempty" description:"Fitted in those; absent while unknown"`
	Given     *int64   `json:"given_bytes,omitempty" description:"Of it: kept, and taken by guests"`
	Ungiven   int      `json:"given_unknown" required:"true" description:"Guests of which that is not known"`
	Cores     *int64   `json:"host_cores,omitempty"`
	VCPUs     *int64   `json:"vcpus,omitempty"`
	Largest   string   `json:"largest_host,omitempty" description:"The running host with most memory that runs guests"`
	Starts    int      `json:"without_largest_start" required:"true" description:"So many of its guests start elsewhere without it"`
	StartsOf  int      `json:"without_largest_of" required:"true"`
	Household int      `json:"household_services" required:"true" description:"Services that the household lives with, and that run"`
	Alone     int      `json:"household_one_leg" required:"true" description:"Those of them that stop when some one thing goes"`
	Worst     string   `json:"worst_loss,omitempty" description:"The one thing whose loss stops most of what people use"`
	WorstHit  int      `json:"worst_loss_services" required:"true" description:"How many services stop then"`
	Currency  string   `json:"currency,omitempty"`
	Act       int      `json:"act" required:"true" description:"Open findings that ask to act"`
	Watch     int      `json:"watch" required:"true"`
	Note      int      `json:"note" required:"true"`
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
		optional("holds_min", "Shortest on battery", f.Holds, 1, 1,
			func(v float64) string { return fmt.Sprintf("%.0f min, %s", v, f.HoldsName) }),
		optional("cost_month", "A month costs", f.Cost, 100, -1, func(v float64) string {
			return atLeast(strings.TrimSpace(fmt.Sprintf("%.2f %s", v, f.Currency)), f.Undrawn[1])
		}),
		{"kwh_month", "kWh a month", atLeast(fmt.Sprintf("%.0f", f.KWh), f.Undrawn[1]), math.Round(f.KWh), -1},
		{"btu_h", "Heat", atLeast(fmt.Sprintf("%.0f BTU/h", f.BTU), f.Undrawn[1]), math.Round(f.BTU), -1},
		storedFigure("usable", "Room in pools", f.Usable, f.Stored, 1),
		storedFigure("used", "Used of it", f.Used, f.Stored, 0),
		{"may_fail", "May fail before data goes", f.mayFail(), float64(f.MayFail), 1},
		optional("usable_tb", "A usable TB cost", f.PerTB, 100, -1, func(v float64) string {
			return strings.TrimSpace(fmt.Sprintf("%.2f %s", v, f.Currency))
		}),
		{"bays", "Drive bays filled", fmt.Sprintf("%d of %d", f.BaysFull, f.Bays), float64(f.BaysFull), 0},
		f.given(),
		f.coresGiven(),
		f.withoutLargest(),
		{"household_one_leg", "Household services on one leg", fmt.Sprintf("%d of %d", f.Alone, f.Household), float64(f.Alone), -1},
		{"worst_loss", "Services that the worst single loss stops", f.worstLoss(), float64(f.WorstHit), -1},
		optional("db_a", "Loudest place", f.DB, 1, -1, func(v float64) string { return fmt.Sprintf("%.0f dB(A), %s", v, f.Loudest) }),
	}
}

// optional is a figure that may be unknown; parts is what it is rounded to, in parts of 1.
func optional(name, title string, v *float64, parts float64, better int, say func(float64) string) Figure {
	if v == nil {
		return Figure{name, title, "?", 0, better}
	}
	return Figure{name, title, say(*v), math.Round(*v*parts) / parts, better}
}

// FiguresOf works out the figures of a lab, or of one rack of it where that is
// not "". built is the lab as it stands, in which UPSs have the loads at which somebody
// said how long they hold.
func FiguresOf(l, built *lab.Lab, in lab.ID, today lab.Day) Figures {
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
	for d := range lab.Things(l) {
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
	f.runs(l, built, in, today)
	f.stores(l, in)
	f.hosts(l, in)
	f.goes(l)
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

// goes adds what comes of single losses, in the whole lab.
func (f *Figures) goes(l *lab.Lab) {
	w := drill.Of(l)
	legs, of := w.OnOneLeg()
	f.Alone, f.Household = len(legs), of
	if worst := w.Losses(); len(worst) > 0 && worst[0].Services > 0 {
		f.Worst, f.WorstHit = worst[0].Title, worst[0].Services
	}
}

func (f Figures) worstLoss() string {
	if f.Worst == "" {
		return "none"
	}
	return fmt.Sprintf("%d, %s", f.WorstHit, f.Worst)
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

// runs adds what batteries hold, what a month costs, and how warm and loud it is. Limits
// and batteries are of the lab as a whole; a price too.
func (f *Figures) runs(l, built *lab.Lab, in lab.ID, today lab.Day) {
	for _, h := range battery.Of(l, built, today) {
		if h.Known && (f.Holds == nil || h.Minutes < *f.Holds) {
			f.Holds, f.HoldsName = &h.Minutes, power.Of(l).Nodes()[h.Node].Title
		}
	}
	b := running.Of(l)
	cost := func(c running.Cost, standing float64) {
		if f.KWh = c.KWh; b.Priced {
			sum := c.Least + standing
			f.Cost = &sum
		}
	}
	f.Currency = l.Settings().Currency
	cost(b.Cost, b.Standing)
	watts := power.Of(l).All().Watts[power.Typical]
	if in != "" {
		cost(b.In(func(d lab.Device) bool { r, ok := l.RackOf(d); return ok && r.ID == in }), 0)
		watts = power.Of(l).InRack(in).Watts[power.Typical]
	}
	f.BTU = running.BTU(watts)
	for _, h := range running.Warmth(l) {
		if (in == "" || h.Key.ID == in) && h.Rest.Known && (f.DB == nil || h.Rest.DB > *f.DB) {
			f.DB, f.Loudest = &h.Rest.DB, h.Name
		}
	}
}

// storedFigure is a figure of how much data there is, or room for it.
func storedFigure(name, title string, bytes *int64, more bool, better int) Figure {
	if bytes == nil {
		return Figure{name, title, "?", 0, better}
	}
	said := storage.Size(*bytes)
	if more {
		said = "≥ " + said
	}
	return Figure{name, title, said, math.Round(float64(*bytes)/1e10) / 100, better} // compared in TB
}

func (f Figures) mayFail() string {
	if f.Weakest == "" {
		return "no pools"
	}
	return fmt.Sprintf("%d, %s", f.MayFail, f.Weakest)
}

// given is the memory that hosts keep and have given, of what is fitted.
func (f Figures) given() Figure {
	switch {
	case f.Hosts == 0:
		return Figure{"memory_given", "Memory given", "no hosts", 0, 0}
	case f.Memory == nil || f.Given == nil:
		return Figure{"memory_given", "Memory given", "?", 0, 0}
	}
	said := strings.TrimSuffix(service.Memory(*f.Given), " GB") + " of " + service.Memory(*f.Memory)
	if f.Ungiven > 0 {
		said = "≥ " + said
	}
	return Figure{"memory_given", "Memory given", said, math.Round(float64(*f.Given) / (1 << 30)), 0}
}

func (f Figures) coresGiven() Figure {
	switch {
	case f.Hosts == 0:
		return Figure{"cores_given", "vCPUs given", "no hosts", 0, 0}
	case f.Cores == nil || f.VCPUs == nil:
		return Figure{"cores_given", "vCPUs given", "?", 0, 0}
	}
	return Figure{"cores_given", "vCPUs given", fmt.Sprintf("%d on %d cores", *f.VCPUs, *f.Cores), float64(*f.VCPUs), 0}
}

// withoutLargest is how many of the guests of the largest host start elsewhere when that is
// gone; labs are compared by how many stay dark.
func (f Figures) withoutLargest() Figure {
	if f.Largest == "" {
		return Figure{"without_largest", "Start without the largest host", "nothing runs", 0, -1}
	}
	return Figure{"without_largest", "Start without the largest host", fmt.Sprintf("%d of %d, %s", f.Starts, f.StartsOf, f.Largest),
		float64(f.StartsOf - f.Starts), -1}
}

// hosts adds what hosts have given of what is fitted: those of the lab, or of one rack.
// What becomes of the guests of the largest is of the lab as a whole.
func (f *Figures) hosts(l *lab.Lab, in lab.ID) {
	s := service.Of(l)
	sum := s.Sum(func(id lab.ID) bool {
		d, _ := lab.Find[lab.Device](l, id)
		r, at := l.RackOf(d)
		return in == "" || at && r.ID == in
	})
	taken := sum.Taken()
	f.Hosts, f.Ungiven = sum.Hosts, taken.Unknown
	if sum.Fitted.Known > 0 {
		f.Memory = &sum.Fitted.Known
	}
	if sum.Hosts > 0 && (sum.Takes.Known > 0 || taken.Unknown == 0) {
		f.Given = &taken.Known
	}
	if sum.Cores.Known > 0 {
		f.Cores = &sum.Cores.Known
	}
	if sum.Hosts > 0 && (sum.VCPUs.Known > 0 || sum.VCPUs.Unknown == 0) {
		f.VCPUs = &sum.VCPUs.Known
	}
	if h := s.Largest(); h != nil {
		f.Largest = h.Title()
		f.Starts, f.StartsOf = s.Without(h, false, service.Steps).Starts()
	}
}

// stores adds what pools have room for and what of that is used, what may fail, and the
// bays: of the lab, or of the pools on what is in one rack.
func (f *Figures) stores(l *lab.Lab, in lab.ID) {
	inside := func(id lab.ID) bool {
		d, _ := lab.Find[lab.Device](l, id)
		r, at := l.RackOf(d)
		return in == "" || at && r.ID == in
	}
	sum := storage.Of(l).Sum(inside)
	f.Bays, f.BaysFull, f.Stored = sum.Bays, sum.Filled, sum.AtLeast
	if sum.Usable > 0 {
		f.Usable = &sum.Usable
	}
	if sum.Used > 0 {
		f.Used = &sum.Used
	}
	if sum.Weakest != nil {
		f.Weakest, f.MayFail = sum.Weakest.Name, sum.Weakest.MayFail.Worst
	}
	if sum.Priced && sum.Usable > 0 {
		price := float64(sum.PriceMinor) / 100 / (float64(sum.Usable) / 1e12)
		f.PerTB = &price
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
