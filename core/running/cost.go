// Package running works out what a lab costs to run, and what it gives off: energy and
// money a month, heat and noise.
//
// Formulas: kWh a month = W x hours a day x 30.44 / 1000, a year is 365.25 days; 1 W is
// 3.412 BTU/h; the air that keeps a rise of dT kelvin is 2.985 x W / dT m3/h; noises add
// up as 10 log10(sum 10^(L/10)) dB(A).
package running

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// Days in a month and in a year, as all figures of costs take them.
const (
	MonthDays = 30.44
	YearDays  = 365.25
)

const dayH = 24

// Cost is what something costs a month. Where it runs for hours that no clock says, prices
// by the clock make a span of it.
type Cost struct {
	KWh     float64
	Least   float64 // in the lab's currency, without the standing charge
	Most    float64
	AtLeast bool // something it draws is not known, or from below only
}

// Add adds another one.
func (c *Cost) Add(o Cost) { c.add(o, 1) }

func (c *Cost) add(o Cost, times float64) {
	c.KWh += o.KWh * times
	c.Least += o.Least * times
	c.Most += o.Most * times
	c.AtLeast = c.AtLeast || o.AtLeast
}

// Bill is what a lab costs a month.
type Bill struct {
	Cost
	Priced   bool    // a price is said
	Standing float64 // the standing charge, in neither of the sums above
	Nodes    []Cost  // by the numbers of the nodes: what stays in each, losses and all
	tariff   *tariff
	g        *power.Grid
}

// Of is what a lab costs a month.
func Of(l *lab.Lab) *Bill { return lab.Derived(l, billOf) }

func billOf(l *lab.Lab) *Bill {
	g := power.Of(l)
	b := &Bill{g: g, tariff: tariffOf(l.Settings().Tariff), Nodes: make([]Cost, len(g.Nodes()))}
	b.Priced = b.tariff != nil
	if s := l.Settings().StandingDay; s != nil {
		b.Standing = *s * MonthDays
	}
	for n := range g.Nodes() {
		b.Nodes[n] = b.cost(int32(n), nil, false)
		b.add(b.Nodes[n], 1)
	}
	return b
}

// tariff is a day cut by its prices.
type tariff struct {
	prices []float64 // the least first
	upTo   [][]int   // by price: how many minutes of the day before each have it
}

func tariffOf(t lab.Tariff) *tariff {
	at := t.At()
	if at == nil {
		return nil
	}
	is := &tariff{prices: slices.Clone(at)}
	slices.Sort(is.prices)
	is.prices = slices.Compact(is.prices)
	for _, p := range is.prices {
		upTo := make([]int, lab.MinutesADay+1)
		for i, has := range at {
			if upTo[i+1] = upTo[i]; has == p {
				upTo[i+1]++
			}
		}
		is.upTo = append(is.upTo, upTo)
	}
	return is
}

// minutes are how many of a part of the day have each price; it may go over midnight.
func (t *tariff) minutes(from, to int) []float64 {
	list := make([]float64, len(t.prices))
	for i, upTo := range t.upTo {
		if n := upTo[to] - upTo[from]; from < to {
			list[i] = float64(n)
		} else {
			list[i] = float64(upTo[lab.MinutesADay] + n)
		}
	}
	return list
}

// cost is what stays in a node. times take the place of what is said of when it runs, if
// instead is set.
func (b *Bill) cost(n int32, times []lab.RunTime, instead bool) Cost {
	is := &b.g.Nodes()[n]
	if is.Device == nil {
		return Cost{}
	}
	if !instead && is.Device.State == lab.Running {
		times = is.Device.RunTimes
	}
	// What it loses and gives over the network it does whatever itself it draws.
	besides := b.g.Flow().Own(n)[power.Typical] - is.Draw.W[power.Typical]
	at := func(level int) float64 { return is.Draw.W[level] + besides }
	unsure := func(level int) bool {
		by := is.Draw.Basis[level]
		return (by == power.Unknown || by == power.WorkedOut) && (level != power.Typical || !b.g.IsMeasured(n))
	}
	if len(times) == 0 {
		c := b.constant(at(power.Typical))
		c.AtLeast = unsure(power.Typical)
		return c
	}
	return b.timed(times, at, unsure)
}

// constant is a power all day.
func (b *Bill) constant(w float64) Cost {
	c := Cost{KWh: kWh(w, dayH)}
	if b.tariff != nil {
		c.Least = money(w, b.tariff.minutes(0, lab.MinutesADay), b.tariff.prices)
		c.Most = c.Least
	}
	return c
}

func kWh(w, hours float64) float64 { return w * hours * MonthDays / 1000 }

// money is what a power costs a month that runs so many minutes a day at each price.
func money(w float64, minutes, prices []float64) float64 {
	sum := 0.0
	for i, n := range minutes {
		sum += kWh(w, n/60) * prices[i]
	}
	return sum
}

// timed is a power by the clock, by hours that may be any of those left, and at standby in
// the rest.
func (b *Bill) timed(times []lab.RunTime, at func(level int) float64, unsure func(level int) bool) Cost {
	standby := at(power.Standby)
	var c Cost
	left := make([]float64, 1)
	if b.tariff != nil {
		left = b.tariff.minutes(0, lab.MinutesADay)
	} else {
		left[0] = lab.MinutesADay
	}
	type extra struct{ w, minutes float64 }
	var any []extra
	resting := float64(lab.MinutesADay)
	for _, t := range times {
		level := power.Level(t.Level)
		w, minutes := at(level), t.HoursADay()*60
		c.AtLeast = c.AtLeast || unsure(level)
		c.KWh += kWh(w, minutes/60)
		resting -= minutes
		if t.From == "" {
			any = append(any, extra{w - standby, minutes})
			continue
		}
		if b.tariff == nil {
			left[0] -= minutes
			continue
		}
		in := b.tariff.minutes(lab.Minute(t.From), lab.Minute(t.To))
		cost := money(w, in, b.tariff.prices)
		c.Least, c.Most = c.Least+cost, c.Most+cost
		for i := range left {
			left[i] = max(0, left[i]-in[i])
		}
	}
	if resting > 1e-6 {
		c.AtLeast = c.AtLeast || unsure(power.Standby)
	}
	c.KWh += kWh(standby, max(0, resting)/60)
	if b.tariff == nil {
		return c
	}
	base := money(standby, left, b.tariff.prices)
	c.Least, c.Most = c.Least+base, c.Most+base
	slices.SortFunc(any, func(a, b extra) int { return cmp.Compare(b.w, a.w) })
	for _, cheap := range []bool{true, false} {
		free := slices.Clone(left)
		sum := 0.0
		for _, e := range any {
			for k := range free {
				i := k
				if !cheap {
					i = len(free) - 1 - k
				}
				n := min(free[i], e.minutes)
				sum += kWh(e.w, n/60) * b.tariff.prices[i]
				free[i] -= n
				e.minutes -= n
			}
		}
		if cheap {
			c.Least += sum
		} else {
			c.Most += sum
		}
	}
	return c
}

// Year is what a month's figure is in a year.
func Year(month float64) float64 { return month * YearDays / MonthDays }

// OffSaves is what a year costs less when a device is off between two times of day; from
// then on it draws its standby, as far as that is known.
func (b *Bill) OffSaves(n int32, from, to string) (least, most float64) {
	now := b.Nodes[n]
	then := b.cost(n, []lab.RunTime{{From: to, To: from}}, true)
	return Year(now.Least - then.Least), Year(now.Most - then.Most)
}

// Total is what a month costs in all.
func (b *Bill) Total() (least, most float64) { return b.Least + b.Standing, b.Most + b.Standing }

// PriceFor is the price of a kWh that would make a month cost a sum; ok is false where
// nothing is drawn, or where the standing charge is more than that.
func (b *Bill) PriceFor(sum float64) (price float64, ok bool) {
	if b.KWh <= 0 || sum < b.Standing {
		return 0, false
	}
	return (sum - b.Standing) / b.KWh, true
}

// HoursFor is how many hours a day all of it may run so that a month costs a sum, by the
// least that it can cost; ok is false where it costs nothing, or more even when off.
func (b *Bill) HoursFor(sum float64) (hours float64, ok bool) {
	if b.Least <= 0 || sum < b.Standing {
		return 0, false
	}
	return min(dayH, dayH*(sum-b.Standing)/b.Least), true
}

// In is what those devices cost a month that are in.
func (b *Bill) In(in func(d lab.Device) bool) Cost {
	var sum Cost
	for n, c := range b.Nodes {
		if d := b.g.Nodes()[n].Device; d != nil && in(*d) {
			sum.add(c, 1)
		}
	}
	return sum
}

// ByHour is what the lab draws in each hour of the day, in W, on average: hours that no
// clock says are spread over all that are left.
func (b *Bill) ByHour() [dayH]float64 {
	var by [dayH]float64
	for n := range b.Nodes {
		is := &b.g.Nodes()[n]
		if is.Device == nil {
			continue
		}
		b.hours(int32(n), is, &by)
	}
	return by
}

func (b *Bill) hours(n int32, is *power.Node, by *[dayH]float64) {
	own := b.g.Flow().Own(n)[power.Typical]
	times := is.Device.RunTimes
	if len(times) == 0 || is.Device.State != lab.Running {
		for h := range by {
			by[h] += own
		}
		return
	}
	besides := own - is.Draw.W[power.Typical]
	standby := is.Draw.W[power.Standby]
	minutes := make([]float64, lab.MinutesADay) // what it draws in each, below zero while free
	for i := range minutes {
		minutes[i] = -1
	}
	free := float64(lab.MinutesADay)
	for _, t := range times {
		if t.From == "" {
			continue
		}
		for i, end := lab.Minute(t.From), lab.Minute(t.To); ; {
			if minutes[i] < 0 {
				free--
			}
			minutes[i] = is.Draw.W[power.Level(t.Level)]
			if i = (i + 1) % lab.MinutesADay; i == end {
				break
			}
		}
	}
	spread := standby
	for _, t := range times {
		if t.From == "" && free > 0 {
			spread += (is.Draw.W[power.Level(t.Level)] - standby) * t.HoursADay() * 60 / free
		}
	}
	for i, w := range minutes {
		if w < 0 {
			w = spread
		}
		by[i/60] += (w + besides) / 60
	}
}

// ByCircuit is what hangs on each circuit, by its node; under -1 what is on none that is
// known.
func (b *Bill) ByCircuit() map[int32]*Cost {
	weights := make([]map[int32]float64, len(b.Nodes))
	sums := map[int32]*Cost{}
	for _, n := range b.g.Order() {
		is := &b.g.Nodes()[n]
		weights[n] = map[int32]float64{}
		if is.Kind == power.CircuitNode {
			weights[n][n] = 1
			sums[n] = &Cost{}
			continue
		}
		in := b.g.In(n)
		for _, e := range in {
			for circuit, part := range weights[b.g.Feeds()[e].From] {
				weights[n][circuit] += part / float64(len(in))
			}
		}
		if len(in) == 0 {
			weights[n][-1] = 1
		}
		for circuit, part := range weights[n] {
			if sums[circuit] == nil {
				sums[circuit] = &Cost{}
			}
			sums[circuit].add(b.Nodes[n], part)
		}
	}
	return sums
}
