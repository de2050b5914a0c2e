package report

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// PowerWatts are powers in W at each level; absent where nothing is known.
type PowerWatts struct {
	Standby *float64 `json:"standby,omitempty"`
	Idle    *float64 `json:"idle,omitempty"`
	Typical *float64 `json:"typical,omitempty"`
	Most    *float64 `json:"most,omitempty"`
	Boot    *float64 `json:"boot,omitempty" description:"While everything starts at once"`
}

// PowerNode is a thing in the flow of power.
type PowerNode struct {
	Name    string         `json:"name" required:"true"`
	Kind    power.NodeKind `json:"kind" required:"true" enum:"circuit,ups,strip,pdu,outlet,brick,usb,device,poe"`
	ID      lab.ID         `json:"id" required:"true" description:"Of the circuit or the device"`
	Watts   PowerWatts     `json:"watts" required:"true" description:"What its outlets give; of a device what it draws"`
	VA      *float64       `json:"va,omitempty" description:"Typical"`
	Amps    *float64       `json:"amps,omitempty" description:"Typical, in each pole; absent while the voltage is unknown"`
	Rated   *float64       `json:"amps_rated,omitempty" description:"Of a circuit, a PDU or a strip"`
	LimitW  *float64       `json:"limit_w,omitempty" description:"For hours; absent while unknown"`
	LimitVA *float64       `json:"limit_va,omitempty"`
	AtLeast bool           `json:"at_least" required:"true" description:"Typical: something behind it is not known, or from below only"`
	Unknown int            `json:"unknown" required:"true" description:"How many things that is"`
	FedBy   []string       `json:"fed_by" required:"true" nullable:"false" description:"Once for each supply"`
	Rests   PowerRests     `json:"rests_on" required:"true"`
	Beyond  *float64       `json:"not_explained_w,omitempty" description:"Measured here beyond what is known; below zero where less was"`
	AllOn   *float64       `json:"all_on_w,omitempty" description:"Typical, with everything on that rests, where that is more"`
	Losses  bool           `json:"losses_unknown,omitempty" description:"What it loses itself is not known, and is in no sum"`

	Average        *float64 `json:"average_w,omitempty" description:"By the hours it runs, where those are said"`
	AverageAtLeast bool     `json:"average_at_least,omitempty"`

	Place    string        `json:"place,omitempty" description:"The rack or the place it is in"`
	State    lab.State     `json:"state,omitempty" description:"Of a device"`
	Standing string        `json:"standing" required:"true" enum:"within,near,past_at_most,past" description:"How it stands to its limit"`
	Full     PowerFull     `json:"full" required:"true"`
	Lacks    PowerLacks    `json:"unknown_at" required:"true"`
	Needs    int           `json:"supplies_needed,omitempty"`
	OneLeg   bool          `json:"one_leg,omitempty" description:"One of its several supplies is plugged in"`
	Shared   string        `json:"shared_by,omitempty" description:"What all leads that feed it go through, where it has several"`
	Supplies []PowerSupply `json:"supplies" required:"true" nullable:"false"`
	Outlets  []PowerOutlet `json:"outlets" required:"true" nullable:"false"`
	Hangs    []lab.ID      `json:"hangs_on" required:"true" nullable:"false" description:"The circuits and UPSs nearest to its supplies"`
}

// PowerFull is how full something is, 1 for all it may give: for hours, or at most and
// while starting all it is made for.
type PowerFull struct {
	Idle    *float64 `json:"idle,omitempty"`
	Typical *float64 `json:"typical,omitempty"`
	Most    *float64 `json:"most,omitempty"`
	Boot    *float64 `json:"boot,omitempty"`
}

// PowerLacks are how many draws are unknown, or known from below only, at each level.
type PowerLacks struct {
	Idle    int `json:"idle" required:"true"`
	Typical int `json:"typical" required:"true"`
	Most    int `json:"most" required:"true"`
	Boot    int `json:"boot" required:"true"`
}

// PowerSupply is a power inlet.
type PowerSupply struct {
	Port string `json:"port" required:"true"`
	Fed  bool   `json:"fed,omitempty" description:"A lead is in it"`
}

// PowerOutlet is an outlet, with what hangs on it.
type PowerOutlet struct {
	Port      string   `json:"port" required:"true"`
	Connector string   `json:"connector,omitempty"`
	Held      bool     `json:"held,omitempty" description:"By the battery of a UPS"`
	Filtered  bool     `json:"filtered,omitempty"`
	To        string   `json:"to,omitempty" description:"Absent where it is free"`
	ToID      lab.ID   `json:"to_id,omitempty"`
	In        string   `json:"in,omitempty"`
	W         *float64 `json:"w,omitempty" description:"Typical"`
}

// PowerFeed is one way by which something is fed.
type PowerFeed struct {
	From     lab.ID          `json:"from_id" required:"true"`
	To       lab.ID          `json:"to_id" required:"true"`
	Out      string          `json:"out,omitempty"`
	In       string          `json:"in,omitempty"`
	By       cabling.Carrier `json:"by" required:"true" enum:"lead,poe,usb"`
	Cable    lab.ID          `json:"cable_id,omitempty"`
	Filtered bool            `json:"filtered,omitempty"`
}

// PowerSum is what a lab draws.
type PowerSum struct {
	Idle    *float64 `json:"idle,omitempty"`
	Typical *float64 `json:"typical,omitempty"`
	Most    *float64 `json:"most,omitempty"`
	Unknown int      `json:"unknown" required:"true" description:"Of what is typical"`
	AtMost  int      `json:"unknown_at_most" required:"true"`
	AllOn   float64  `json:"all_on_w" required:"true" description:"Typical, with everything on that rests"`
	OfW     *float64 `json:"of_w,omitempty" description:"What all circuits may give for hours"`
}

// PowerSumOf is what the whole lab draws.
func PowerSumOf(g *power.Grid) PowerSum {
	all := g.All()
	sum := PowerSum{Unknown: all.Lacks[power.Typical], AtMost: all.Lacks[power.Most], AllOn: all.AllOn}
	for level, at := range map[int]**float64{power.Idle: &sum.Idle, power.Typical: &sum.Typical, power.Most: &sum.Most} {
		if w := all.Watts[level]; w > 0 || all.Lacks[level] == 0 {
			*at = &w
		}
	}
	if w, ok := g.MayDraw(); ok {
		sum.OfW = &w
	}
	return sum
}

// PowerRests are on what a sum rests, by how many things.
type PowerRests struct {
	Measured  int `json:"measured" required:"true"`
	BySheet   int `json:"by_sheet" required:"true"`
	WorkedOut int `json:"worked_out" required:"true"`
	Unknown   int `json:"unknown" required:"true"`
}

// PowerPlace is what the things that are fed draw in a rack or a place.
type PowerPlace struct {
	Name  string     `json:"name" required:"true"`
	Watts PowerWatts `json:"watts" required:"true"`
	Lacks PowerLacks `json:"unknown_at" required:"true"`
}

func powerPlaces(g *power.Grid) []PowerPlace {
	list := []PowerPlace{}
	sums := g.ByPlace()
	for _, name := range slices.Sorted(maps.Keys(sums)) {
		s := sums[name]
		at := func(level int) *float64 {
			if s.Watts[level] == 0 && s.Lacks[level] > 0 {
				return nil
			}
			return &s.Watts[level]
		}
		list = append(list, PowerPlace{name,
			PowerWatts{at(power.Standby), at(power.Idle), at(power.Typical), at(power.Most), at(power.Boot)},
			PowerLacks{s.Lacks[power.Idle], s.Lacks[power.Typical], s.Lacks[power.Most], s.Lacks[power.Boot]}})
	}
	return list
}

// Feeds is how power flows.
type Feeds struct {
	Nodes []PowerNode `json:"nodes" required:"true" nullable:"false"`
	Feeds []PowerFeed `json:"feeds" required:"true" nullable:"false"`
	Lab   PowerSum    `json:"lab" required:"true"`

	Places []PowerPlace `json:"places" required:"true" nullable:"false" description:"By name; that of what is in none is empty"`
}

func feedsOf(a Ask) (Feeds, error) {
	g := power.Of(a.Lab)
	out := Feeds{[]PowerNode{}, []PowerFeed{}, PowerSumOf(g), powerPlaces(g)}
	for _, f := range g.Feeds() {
		out.Feeds = append(out.Feeds, PowerFeed{g.Nodes()[f.From].Key.ID, g.Nodes()[f.To].Key.ID, f.Out, f.In, f.By, f.Cable, f.Filtered})
	}
	for n := range g.Nodes() {
		if g.Shown(int32(n)) {
			out.Nodes = append(out.Nodes, powerNode(a.Lab, g, int32(n)))
		}
	}
	return out, nil
}

// powerNode is one thing in the flow of power.
func powerNode(l *lab.Lab, g *power.Grid, n int32) PowerNode {
	is, f := &g.Nodes()[n], g.Flow()
	load, counts := f.Load(n), f.Rests[n][power.Typical]
	node := PowerNode{Name: is.Title, Kind: is.Kind, ID: is.Key.ID, FedBy: []string{}, AtLeast: counts.Lacks() > 0, Unknown: counts.Lacks(),
		Rests: PowerRests{int(counts[power.Measured]), int(counts[power.BySheet]), int(counts[power.WorkedOut]), int(counts[power.Unknown])}}
	at := func(level int) *float64 {
		if !f.Known(n, level) {
			return nil
		}
		return &load.W[level]
	}
	node.Watts = PowerWatts{at(power.Standby), at(power.Idle), at(power.Typical), at(power.Most), at(power.Boot)}
	if node.Watts.Typical != nil {
		node.VA = &load.VA[power.Typical]
	}
	if amps, ok := is.Limits.AmpsFor(load.VA[power.Typical]); ok && node.VA != nil {
		node.Amps = &amps
	}
	node.Rated = known(is.Limits.Amps)
	if w, va := is.Limits.ForHours(); is.Kind.Feeder() {
		node.LimitW, node.LimitVA = known(w), known(va)
	}
	for _, e := range g.In(n) {
		node.FedBy = append(node.FedBy, g.Nodes()[g.Feeds()[e].From].Title)
	}
	if beyond := g.Unexplained(n); beyond != 0 {
		node.Beyond = &beyond
	}
	if all := g.WithAllOn().Load(n).W[power.Typical]; all > load.W[power.Typical] {
		node.AllOn = &all
	}
	node.Losses = g.LossesUnknown(n)
	rests := f.Rests[n]
	node.Lacks = PowerLacks{rests[power.Idle].Lacks(), counts.Lacks(), rests[power.Most].Lacks(), rests[power.Boot].Lacks()}
	stands, _ := g.Standing(n)
	node.Standing = stands.Word()
	for level, into := range map[int]**float64{power.Idle: &node.Full.Idle, power.Typical: &node.Full.Typical, power.Most: &node.Full.Most,
		power.Boot: &node.Full.Boot} {
		if full, ok := g.Full(n, level); ok && f.Known(n, level) {
			*into = &full
		}
	}
	node.hang(l, g, n)
	return node
}

// hang adds what is plugged into it and where it is plugged in itself.
func (node *PowerNode) hang(l *lab.Lab, g *power.Grid, n int32) {
	is, f := &g.Nodes()[n], g.Flow()
	node.Supplies, node.Outlets, node.Hangs = []PowerSupply{}, []PowerOutlet{}, []lab.ID{}
	for _, up := range g.Feeding(n) {
		node.Hangs = append(node.Hangs, g.Nodes()[up].Key.ID)
	}
	if is.Device == nil {
		return
	}
	node.State, node.Place = is.Device.State, l.WhereIs(*is.Device)
	supplies := g.Supplies(n)
	for _, s := range supplies.List {
		node.Supplies = append(node.Supplies, PowerSupply(s))
	}
	if len(supplies.List) > 1 {
		node.Needs, node.OneLeg = supplies.Needs, supplies.OneLeg()
	}
	if by, ok := g.SharedBy(n); ok {
		node.Shared = g.Nodes()[by].Title
	}
	if times := is.Device.RunTimes; len(times) > 0 && f.Known(n, power.Typical) {
		w, known := power.Average(is.Draw, times)
		node.Average, node.AverageAtLeast = &w, !known
	}
	for _, o := range g.Outlets(n) {
		row := PowerOutlet{Port: o.Key, Connector: o.Connector, Held: is.Kind == power.UPSNode && !o.Filtered &&
			!is.Device.Bypass, Filtered: o.Filtered}
		if o.Feed >= 0 {
			feed := g.Feeds()[o.Feed]
			to := &g.Nodes()[feed.To]
			row.To, row.ToID, row.In = to.Title, to.Key.ID, feed.In
			if f.Known(feed.To, power.Typical) {
				w := f.Over(o.Feed).W[power.Typical]
				row.W = &w
			}
		}
		node.Outlets = append(node.Outlets, row)
	}
}

func known(v float64) *float64 {
	if v == 0 {
		return nil
	}
	return &v
}

// watts writes a power, with what is not known of it.
func watts(w *float64, lacks int) string {
	if w == nil {
		return "?"
	}
	return atLeast(round(*w), lacks > 0)
}

func atLeast(said string, is bool) string {
	if is {
		return "≥ " + said
	}
	return said
}

func round(v float64) string { return fmt.Sprintf("%.0f", v) }

func feedsText(r Feeds) lines {
	t := lines{head: []string{"NAME", "KIND", "IDLE", "TYPICAL", "MOST", "BOOT", "VA", "OF W", "FED BY"}, none: "no power documented"}
	for _, n := range r.Nodes {
		w, lacks := n.Watts, n.Lacks
		t.rows = append(t.rows, []string{n.Name, string(n.Kind), watts(w.Idle, lacks.Idle), watts(w.Typical, lacks.Typical),
			watts(w.Most, lacks.Most), watts(w.Boot, lacks.Boot), watts(n.VA, lacks.Typical), watts(n.LimitW, 0), strings.Join(n.FedBy, ", ")})
	}
	return t
}
