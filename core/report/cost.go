package report

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/running"
)

// Costs is what a lab costs a month to run.
type Costs struct {
	KWh     float64  `json:"kwh_month" required:"true" description:"In 30.44 days"`
	Least   *float64 `json:"cost_month,omitempty" description:"With the standing charge; absent while no price is said"`
	Most    *float64 `json:"cost_month_most,omitempty" description:"More where it runs for hours that no clock says"`
	AtLeast bool     `json:"at_least" required:"true" description:"Something it draws is not known, or from below only"`

	Devices []DeviceCost `json:"devices" required:"true" nullable:"false" description:"Without the standing charge, the dearest first"`

	Currency string      `json:"currency,omitempty"`
	Year     *float64    `json:"cost_year,omitempty" description:"The least, with the standing charge"`
	Standing *float64    `json:"standing_month,omitempty" description:"The standing charge"`
	Places   []GroupCost `json:"places" required:"true" nullable:"false" description:"By rack and place"`
	Circuits []GroupCost `json:"circuits" required:"true" nullable:"false"`
	Hours    []HourCost  `json:"hours" required:"true" nullable:"false" description:"What it draws in each hour, and the price then"`

	AimPrice *float64 `json:"aim_price,omitempty" description:"The price of a kWh that would make a month cost aim"`
	AimHours *float64 `json:"aim_hours,omitempty" description:"How many hours a day all of it may run for that"`
}

// DeviceCost is what a device costs a month.
type DeviceCost struct {
	Name    string   `json:"name" required:"true"`
	KWh     *float64 `json:"kwh_month,omitempty" description:"Absent while nothing is known"`
	Least   *float64 `json:"cost_month,omitempty"`
	Most    *float64 `json:"cost_month_most,omitempty"`
	AtLeast bool     `json:"at_least,omitempty"`

	ID    lab.ID   `json:"id" required:"true"`
	Place string   `json:"place,omitempty" description:"The rack or place it is in"`
	Year  *float64 `json:"cost_year,omitempty" description:"What a year costs less without it"`
	Off   *float64 `json:"off_saves_year,omitempty" description:"What a year costs less if it is off at night; see off"`
}

// GroupCost is what several devices cost a month.
type GroupCost struct {
	Name    string   `json:"name" required:"true" description:"Empty for what is in none that is known"`
	KWh     float64  `json:"kwh_month" required:"true"`
	Least   *float64 `json:"cost_month,omitempty"`
	Most    *float64 `json:"cost_month_most,omitempty"`
	AtLeast bool     `json:"at_least,omitempty"`
}

// HourCost is an hour of the day.
type HourCost struct {
	W     float64  `json:"w" required:"true"`
	Price *float64 `json:"price,omitempty" description:"Of a kWh, on average"`
}

// offFrom and offTo are the night where nobody says another one.
const (
	offFrom = "23:00"
	offTo   = "07:00"
)

func costsOf(a Ask) (Costs, error) {
	from, to, err := nightOf(a)
	if err != nil {
		return Costs{}, err
	}
	aim, err := number(a, "aim", 0, 1e9)
	if err != nil {
		return Costs{}, err
	}
	g, b := power.Of(a.Lab), running.Of(a.Lab)
	out := Costs{KWh: b.KWh, AtLeast: b.AtLeast, Devices: []DeviceCost{}, Currency: a.Lab.Settings().Currency, Hours: []HourCost{},
		Circuits: []GroupCost{}}
	priced := func(v float64) *float64 {
		if !b.Priced {
			return nil
		}
		return &v
	}
	least, most := b.Total()
	out.Least, out.Most, out.Year = priced(least), priced(most), priced(running.Year(least))
	if a.Lab.Settings().StandingDay != nil {
		out.Standing = &b.Standing
	}
	places := map[string]*running.Cost{}
	for n, c := range b.Nodes {
		is := &g.Nodes()[n]
		if is.Device == nil || c.KWh == 0 && !c.AtLeast {
			continue
		}
		place := a.Lab.WhereIs(*is.Device)
		d := DeviceCost{Name: is.Title, AtLeast: c.AtLeast, ID: is.Key.ID, Place: place}
		if c.KWh > 0 || !c.AtLeast {
			d.KWh, d.Least, d.Most, d.Year = &c.KWh, priced(c.Least), priced(c.Most), priced(running.Year(c.Least))
		}
		if saves, _ := b.OffSaves(int32(n), from, to); saves > 0 && is.Kind == power.DeviceNode && is.Device.State == lab.Running {
			d.Off = priced(saves)
		}
		out.Devices = append(out.Devices, d)
		if places[place] == nil {
			places[place] = &running.Cost{}
		}
		places[place].Add(c)
	}
	slices.SortStableFunc(out.Devices, func(a, b DeviceCost) int { return cmp.Compare(dereferenced(b.KWh), dereferenced(a.KWh)) })
	group := func(name string, c running.Cost) GroupCost {
		return GroupCost{name, c.KWh, priced(c.Least), priced(c.Most), c.AtLeast}
	}
	out.Places = []GroupCost{}
	for name, c := range places {
		out.Places = append(out.Places, group(name, *c))
	}
	for n, c := range b.ByCircuit() {
		name := ""
		if n >= 0 {
			name = g.Nodes()[n].Title
		}
		out.Circuits = append(out.Circuits, group(name, *c))
	}
	for _, list := range [][]GroupCost{out.Places, out.Circuits} {
		slices.SortFunc(list, func(a, b GroupCost) int { return cmp.Or(cmp.Compare(b.KWh, a.KWh), cmp.Compare(a.Name, b.Name)) })
	}
	prices := a.Lab.Settings().At()
	const minutes = 60
	for h, w := range b.ByHour() {
		hour := HourCost{W: w}
		if prices != nil {
			sum := 0.0
			for _, p := range prices[h*minutes : (h+1)*minutes] {
				sum += p / minutes
			}
			hour.Price = &sum
		}
		out.Hours = append(out.Hours, hour)
	}
	if aim != nil {
		if price, ok := b.PriceFor(*aim); ok {
			out.AimPrice = &price
		}
		if hours, ok := b.HoursFor(*aim); ok {
			out.AimHours = &hours
		}
	}
	return out, nil
}

// nightOf is when things would be off: off=23:00-07:00.
func nightOf(a Ask) (from, to string, err error) {
	said := a.With["off"]
	if said == "" {
		return offFrom, offTo, nil
	}
	from, to, ok := strings.Cut(said, "-")
	if !ok || !lab.IsClock(from) || !lab.IsClock(to) || from == to {
		return "", "", &Wrong{"off", fmt.Sprintf("“%s” is not a part of the day; write one such as %s-%s", said, offFrom, offTo)}
	}
	return from, to, nil
}

func costsText(r Costs) lines {
	t := lines{head: []string{"DEVICE", "KWH A MONTH", "COSTS", "A YEAR", "OFF AT NIGHT SAVES"}, none: "nothing is known to draw power"}
	for _, d := range r.Devices {
		kWh := "?"
		if d.KWh != nil {
			kWh = atLeast(fmt.Sprintf("%.2f", *d.KWh), d.AtLeast)
		}
		t.rows = append(t.rows, []string{d.Name, kWh, span(d.Least, d.Most), span(d.Year, nil),
			span(d.Off, nil)})
	}
	t.foot = fmt.Sprintf("%s kWh a month, %s %s", atLeast(fmt.Sprintf("%.2f", r.KWh), r.AtLeast), span(r.Least, r.Most), r.Currency)
	return t
}

// span writes a sum, or from the least to the most it may be.
func span(least, most *float64) string {
	switch {
	case least == nil:
		return "?"
	case most != nil && *most-*least >= 0.005:
		return fmt.Sprintf("%.2f to %.2f", *least, *most)
	}
	return fmt.Sprintf("%.2f", *least)
}

// dereferenced is what a figure says, 0 while it is unknown: for an order, not to show.
func dereferenced(v *float64) float64 {
	if v == nil {
		return 0
	}
	return *v
}

// Heats is what racks and places give off.
type Heats struct {
	Places []HeatPlace `json:"places" required:"true" nullable:"false" description:"The warmest first; what is within another one is in both"`
	Rise   float64     `json:"rise_k" required:"true" description:"That the air is for"`
}

// HeatPlace is what a rack or a place gives off.
type HeatPlace struct {
	Name string   `json:"name" required:"true"`
	BTU  *float64 `json:"btu_h,omitempty" description:"Absent while nothing is known"`
	DB   *float64 `json:"db_a,omitempty" description:"At rest; absent while nothing is known"`

	Kind    lab.RecordKind `json:"kind" required:"true"`
	ID      lab.ID         `json:"id" required:"true"`
	W       *float64       `json:"w,omitempty"`
	AtLeast int            `json:"unknown" required:"true" description:"How many draws in it are not known, or from below only"`
	Busy    *float64       `json:"busy_db_a,omitempty" description:"At its most"`
	Unheard int            `json:"unheard" required:"true" description:"How many things in it are of unknown noise"`
	Air     *float64       `json:"air_m3_h,omitempty" description:"That keeps the rise to rise_k"`
	Shut    bool           `json:"shut,omitempty"`
	MostDB  *float64       `json:"most_db,omitempty" description:"That is too loud there"`
}

func heatsOf(a Ask) (Heats, error) {
	const usual = 10 // K
	out := Heats{[]HeatPlace{}, usual}
	rise, err := number(a, "rise", 1, 100)
	if err != nil {
		return out, err
	}
	if rise != nil {
		out.Rise = *rise
	}
	for _, h := range running.Warmth(a.Lab) {
		p := HeatPlace{Name: h.Name, Kind: h.Key.Kind, ID: h.Key.ID, AtLeast: h.Lacks, Unheard: h.Unheard, Shut: h.Shut, MostDB: h.MostDB}
		if h.W > 0 || h.Lacks == 0 {
			btu, air := h.BTU(), h.Air(out.Rise)
			p.W, p.BTU, p.Air = &h.W, &btu, &air
		}
		if h.Rest.Known {
			p.DB, p.Busy = &h.Rest.DB, &h.Busy.DB
		}
		out.Places = append(out.Places, p)
	}
	return out, nil
}

func heatsText(r Heats) lines {
	t := lines{head: []string{"PLACE", "W", "BTU/H", "AIR M3/H", "DB(A)", "BUSY"}, none: "nothing is known to draw power"}
	db := func(v *float64, unheard int) string {
		if v == nil {
			return "?"
		}
		return atLeast(fmt.Sprintf("%.1f", *v), unheard > 0)
	}
	for _, p := range r.Places {
		t.rows = append(t.rows, []string{p.Name, watts(p.W, p.AtLeast), watts(p.BTU, p.AtLeast), watts(p.Air, p.AtLeast), db(p.DB, p.Unheard),
			db(p.Busy, p.Unheard)})
	}
	return t
}
