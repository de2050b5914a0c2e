package report

import (
	"fmt"
	"strings"

	"levelstaff/core/battery"
	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// Batteries is how long UPSs hold what hangs on them.
type Batteries struct {
	UPS []UPSHold `json:"ups" required:"true" nullable:"false" description:"By name"`
}

// UPSHold is how long a UPS holds.
type UPSHold struct {
	Name    string        `json:"name" required:"true"`
	ID      lab.ID        `json:"id" required:"true"`
	LoadW   *float64      `json:"load_w,omitempty" description:"Measured behind it, else typical; absent while nothing is known"`
	AtLeast bool          `json:"load_at_least,omitempty" description:"Something behind it is not known: it holds no longer than it says"`
	Minutes *float64      `json:"minutes,omitempty" description:"Absent while unknown"`
	Rests   battery.Basis `json:"rests_on" required:"true" enum:"points,energy,unknown"`
	Beyond  bool          `json:"beyond" required:"true" description:"Further than what it rests on tells"`
	Tried   bool          `json:"tried,omitempty" description:"Somebody said minutes alone, which are at the load it had"`
	Bypass  bool          `json:"bypass,omitempty" description:"It holds nothing"`

	OfW  *float64 `json:"of_w,omitempty" description:"The power it may give"`
	VA   *float64 `json:"va,omitempty"`
	OfVA *float64 `json:"of_va,omitempty"`

	Batteries []UPSBattery `json:"batteries" required:"true" nullable:"false"`
	Left      float64      `json:"left" required:"true" description:"The part of what it held new, 0 to 1"`
	Aged      bool         `json:"left_known" required:"true"`
	ToHold    *float64     `json:"to_hold_min,omitempty" description:"How long it is to hold"`
	WatchedBy string       `json:"watched_by,omitempty"`
	Over      lab.Watching `json:"watched_over,omitempty"`
	Holds     []string     `json:"holds" required:"true" nullable:"false" description:"What runs by it when the mains fail"`
	After     []string     `json:"after" required:"true" nullable:"false" description:"UPSs whose batteries go before its own"`

	WithNew *float64  `json:"minutes_new,omitempty" description:"With new batteries"`
	WithAdd *float64  `json:"minutes_add,omitempty" description:"With that much more load; see add"`
	Instead []Instead `json:"instead" required:"true" nullable:"false" description:"Other UPSs and makes of them known here, at the same load"`
}

// UPSBattery is a battery of a UPS.
type UPSBattery struct {
	Name      string   `json:"name,omitempty"`
	Chemistry string   `json:"chemistry,omitempty"`
	PutIn     lab.When `json:"put_in,omitempty" description:"Or bought, while that is not known"`
	EnergyWh  *float64 `json:"energy_wh,omitempty"`
	Years     *float64 `json:"years,omitempty" description:"Its age"`
	Left      *float64 `json:"left,omitempty" description:"Absent while unknown"`
	Past      bool     `json:"past,omitempty" description:"Its years"`
	Outside   bool     `json:"outside,omitempty"`
}

// Instead is another UPS in the place of one.
type Instead struct {
	Name    string  `json:"name" required:"true"`
	Minutes float64 `json:"minutes" required:"true"`
	Beyond  bool    `json:"beyond,omitempty"`
}

func batteriesOf(a Ask) (Batteries, error) {
	g := power.Of(a.Lab)
	island := g.Island()
	add, err := number(a, "add", -1e6, 1e6)
	if err != nil {
		return Batteries{}, err
	}
	out := Batteries{[]UPSHold{}}
	for _, h := range battery.Of(a.Lab, a.Built, a.Day) {
		is := &g.Nodes()[h.Node]
		u := UPSHold{Name: is.Title, ID: is.Key.ID, AtLeast: h.AtLeast, Rests: h.Curve.Rests, Beyond: h.Beyond, Tried: h.Curve.Tried,
			Bypass: is.Device.Bypass, Left: h.Curve.Left, Aged: h.Curve.Aged, Over: is.Device.WatchedOver, Batteries: []UPSBattery{},
			Holds: []string{}, After: []string{}, Instead: []Instead{}, OfW: known(is.Limits.W), OfVA: known(is.Limits.VA)}
		if g.Flow().Known(h.Node, power.Typical) {
			load := g.Flow().Out(h.Node)
			u.LoadW, u.VA = &h.LoadW, &load.VA[power.Typical]
		}
		if h.Known {
			u.Minutes = &h.Minutes
		}
		u.ToHold = battery.ToHold(a.Lab, *is.Device)
		if by, ok := lab.Find[lab.Device](a.Lab, is.Device.WatchedBy); ok {
			u.WatchedBy = by.Title()
		}
		for _, p := range a.Lab.PartsOf(is.Key.ID) {
			if p.Kind == lab.Battery && p.State == lab.Running && !p.Ordered {
				u.Batteries = append(u.Batteries, batteryOf(p, a.Day))
			}
		}
		for _, n := range battery.HeldBy(g, island, h.Node) {
			u.Holds = append(u.Holds, g.Nodes()[n].Title)
		}
		for _, n := range g.Above(h.Node) {
			if up := &g.Nodes()[n]; up.Kind == power.UPSNode && up.Battery() {
				u.After = append(u.After, up.Title)
			}
		}
		at := func(c battery.Curve, w float64) *float64 {
			if minutes, _, ok := c.Minutes(w); ok {
				return &minutes
			}
			return nil
		}
		if h.Known {
			u.WithNew = at(h.Curve.New(), h.LoadW)
			if add != nil {
				u.WithAdd = at(h.Curve, h.LoadW+*add)
			}
			for _, o := range battery.Others(a.Lab, is.Device.ID, a.Day) {
				if minutes, beyond, ok := o.Curve.Minutes(h.LoadW); ok {
					u.Instead = append(u.Instead, Instead{o.Name, minutes, beyond})
				}
			}
		}
		out.UPS = append(out.UPS, u)
	}
	return out, nil
}

func batteryOf(p lab.Part, today lab.Day) UPSBattery {
	b := UPSBattery{Name: p.Name, Chemistry: p.Chemistry, PutIn: p.PutIn, EnergyWh: p.EnergyWh, Outside: p.Outside}
	if b.PutIn == "" {
		b.PutIn = p.BoughtOn
	}
	if years, ok := p.Age(today); ok {
		b.Years, b.Past = &years, years >= p.Wear().Years
	}
	if left, sure := p.Left(today); sure {
		b.Left = &left
	}
	return b
}

// number is a parameter that is a number, nil where it is left out.
func number(a Ask, param string, least, most float64) (*float64, error) {
	said := a.With[param]
	if said == "" {
		return nil, nil
	}
	var v float64
	if _, err := fmt.Sscanf(said, "%g", &v); err != nil || v < least || v > most {
		return nil, &Wrong{param, fmt.Sprintf("“%s” is not a number from %g to %g", said, least, most)}
	}
	return &v, nil
}

func batteriesText(r Batteries) lines {
	t := lines{head: []string{"UPS", "LOAD W", "MINUTES", "RESTS ON", "BATTERY LEFT", "HOLDS"}, none: "no UPS documented"}
	for _, u := range r.UPS {
		lacks := 0
		if u.AtLeast {
			lacks = 1
		}
		minutes := "?"
		if u.Minutes != nil {
			minutes = fmt.Sprintf("%.1f", *u.Minutes)
			if u.AtLeast {
				minutes = "≤ " + minutes
			}
		}
		rests := string(u.Rests)
		if u.Beyond {
			rests += ", beyond"
		}
		left := "?"
		if u.Aged {
			left = fmt.Sprintf("%.0f %%", 100*u.Left)
		}
		t.rows = append(t.rows, []string{u.Name, watts(u.LoadW, lacks), minutes, rests, left, some(u.Holds)})
	}
	return t
}

// Shutdowns is what becomes of what UPSs hold when the mains fail.
type Shutdowns struct {
	UPS  []Shutdown    `json:"ups" required:"true" nullable:"false" description:"By name"`
	Back *ShutdownBack `json:"back,omitempty" description:"How things stand when the mains come back; see back"`

	Start []WaveReport `json:"start" required:"true" nullable:"false" description:"How to start again, in waves"`
}

// Shutdown is what becomes of what a UPS holds, in seconds from when the mains fail.
type Shutdown struct {
	Name   string         `json:"name" required:"true"`
	ID     lab.ID         `json:"id" required:"true"`
	DownS  *float64       `json:"down_s,omitempty" description:"When all that stop in order are down; absent where one is lost, or none does"`
	EmptyS *float64       `json:"empty_s,omitempty" description:"When its battery is; absent while unknown, or never"`
	Steps  []ShutdownStep `json:"steps" required:"true" nullable:"false" description:"In the order of time"`
	Lost   []string       `json:"lost" required:"true" nullable:"false" description:"What loses its power while it runs"`

	Held    []ShutdownHeld `json:"held" required:"true" nullable:"false" description:"All it holds, in the order in which it goes"`
	Curve   []BatteryMark  `json:"curve" required:"true" nullable:"false" description:"How its battery falls"`
	Nobody  []BatteryMark  `json:"curve_without" required:"true" nullable:"false" description:"And if nothing stopped"`
	ToHoldS *float64       `json:"to_hold_s,omitempty"`
}

// ShutdownStep is a device that stops in order.
type ShutdownStep struct {
	Device  string  `json:"device" required:"true"`
	ID      lab.ID  `json:"device_id" required:"true"`
	AtS     float64 `json:"at_s" required:"true" description:"When it is told to stop"`
	DownS   float64 `json:"down_at_s" required:"true"`
	Percent float64 `json:"battery_pct" required:"true" description:"When it is told to stop"`
	Guessed bool    `json:"guessed,omitempty" description:"Nobody said how long it takes to stop"`
	Lost    bool    `json:"lost,omitempty" description:"The battery was empty first"`
}

// BatteryMark is where a battery stands at a moment.
type BatteryMark struct {
	S       float64 `json:"s" required:"true"`
	Percent float64 `json:"percent" required:"true"`
	LoadW   float64 `json:"load_w" required:"true"`
}

// ShutdownBack is how things stand when the mains come back.
type ShutdownBack struct {
	Down     []string `json:"down" required:"true" nullable:"false" description:"To be started again"`
	Stopping []string `json:"stopping" required:"true" nullable:"false"`
	Up       []string `json:"up" required:"true" nullable:"false"`
}

func shutdownOf(a Ask) (Shutdowns, error) {
	const minute = 60
	back, err := number(a, "back", 0, 1e5)
	if err != nil {
		return Shutdowns{}, err
	}
	what := battery.What{}
	if back != nil {
		what.BackS = *back * minute
	}
	g := power.Of(a.Lab)
	island := g.Island()
	out := Shutdowns{UPS: []Shutdown{}, Start: wavesOf(a.Lab, g)}
	o := battery.Simulate(a.Lab, a.Built, a.Day, what)
	without := battery.Simulate(a.Lab, a.Built, a.Day, battery.What{Nobody: true})
	for i, r := range o.Runs {
		is := &g.Nodes()[r.Node]
		s := Shutdown{Name: is.Title, ID: is.Key.ID, DownS: r.DownS, EmptyS: r.EmptyS, Steps: []ShutdownStep{}, Lost: []string{},
			Curve: marks(r.Marks), Nobody: marks(without.Runs[i].Marks)}
		if min := battery.ToHold(a.Lab, *is.Device); min != nil {
			hold := *min * minute
			s.ToHoldS = &hold
		}
		for _, step := range r.Steps {
			d := &g.Nodes()[step.Node]
			s.Steps = append(s.Steps, ShutdownStep{d.Title, d.Key.ID, step.AtS, step.DownS, step.Percent, step.Guessed, step.Lost})
		}
		for _, lost := range r.Lost {
			s.Lost = append(s.Lost, g.Nodes()[lost.Node].Title)
		}
		s.Held = heldOf(a, g, battery.HeldBy(g, island, r.Node), r)
		out.UPS = append(out.UPS, s)
	}
	if o.Back != nil {
		out.Back = &ShutdownBack{named(g, o.Back.Down), named(g, o.Back.Stopping), named(g, o.Back.Up)}
	}
	return out, nil
}

func marks(list []battery.Mark) []BatteryMark {
	out := []BatteryMark{}
	for _, m := range list {
		out = append(out, BatteryMark(m))
	}
	return out
}

// named are the titles of nodes.
func named(g *power.Grid, list []int32) []string {
	said := []string{}
	for _, n := range list {
		said = append(said, g.Nodes()[n].Title)
	}
	return said
}

func shutdownText(r Shutdowns) lines {
	t := lines{head: []string{"UPS", "DEVICE", "GOES AT", "DOWN AT", "BATTERY"}, none: "no UPS documented"}
	for _, u := range r.UPS {
		for _, s := range u.Steps {
			down := battery.Clock(s.DownS)
			if s.Lost {
				down = "lost"
			}
			t.rows = append(t.rows, []string{u.Name, s.Device, battery.Clock(s.AtS), down, fmt.Sprintf("%.0f %%", s.Percent)})
		}
		if len(u.Lost) > 0 {
			empty := "?"
			if u.EmptyS != nil {
				empty = battery.Clock(*u.EmptyS)
			}
			t.rows = append(t.rows, []string{u.Name, "lost: " + strings.Join(u.Lost, ", "), "", empty, "0 %"})
		}
	}
	return t
}
