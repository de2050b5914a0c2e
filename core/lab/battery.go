package lab

import (
	"cmp"
	"slices"
	"strings"
	"time"
)

// Runtime is how long a UPS holds a load, by its maker or by a trial.
type Runtime struct {
	W       *float64 `json:"w,omitempty" description:"The load; absent for the one it had when somebody tried"`
	Minutes float64  `json:"minutes" required:"true"`
}

const mostRuntimes = 24

func checkRuntimes(f *faults, list []Runtime) {
	if len(list) > mostRuntimes {
		f.add("runtimes", "has %d entries; at most %d are allowed", len(list), mostRuntimes)
	}
	for _, r := range list {
		f.between("runtimes", r.W, 0.1, 1_000_000, "W")
		f.between("runtimes", &r.Minutes, 0.1, 100_000, "minutes")
	}
	list = slices.DeleteFunc(ByLoad(list), func(r Runtime) bool { return r.W == nil })
	for i := 1; i < len(list); i++ {
		a, b := list[i-1], list[i]
		switch {
		case *a.W == *b.W:
			f.add("runtimes", "%.4g W is there twice, with %.4g and %.4g minutes", *a.W, a.Minutes, b.Minutes)
		case b.Minutes > a.Minutes:
			f.add("runtimes", "%.4g W for %.4g minutes is longer than %.4g W for %.4g minutes; more load empties it sooner", *b.W, b.Minutes, *a.W,
				a.Minutes)
		}
	}
}

// ByLoad are runtimes with the least load first, after those whose load is not said.
func ByLoad(list []Runtime) []Runtime {
	list = slices.Clone(list)
	slices.SortStableFunc(list, func(a, b Runtime) int {
		switch {
		case a.W == nil && b.W == nil:
			return cmp.Compare(a.Minutes, b.Minutes)
		case a.W == nil:
			return -1
		case b.W == nil:
			return 1
		}
		return cmp.Compare(*a.W, *b.W)
	})
	return list
}

// Goes is when a device shuts down after the mains have failed: one of these.
type Goes struct {
	AtPercent *float64 `json:"at_percent,omitempty" description:"Of the battery that holds it longest"`
	AfterMin  *float64 `json:"after_min,omitempty" description:"Minutes without mains"`
	After     ID       `json:"after_id,omitempty" description:"When this device is down"`
	Last      bool     `json:"last,omitempty" description:"When all others are down that say when they go"`
}

// Outage is what is said of a device for when the mains fail.
type Outage struct {
	Goes        *Goes    `json:"goes,omitempty" description:"Until the battery is empty unless said"`
	StopsS      *float64 `json:"stops_s,omitempty" description:"How long it takes to stop"`
	WatchedBy   ID       `json:"watched_by_id,omitempty" description:"Of a UPS: the device that is told of it, and tells the others"`
	WatchedOver Watching `json:"watched_over,omitempty" description:"Over what"`
	ToHoldMin   *float64 `json:"to_hold_min,omitempty" description:"Of a UPS: how long it is to hold; what the lab says unless said"`
}

// Watching is what a UPS is watched over.
type Watching string

// The ways there are.
const (
	OverUSB     Watching = "usb"
	OverNetwork Watching = "network"
	OverSerial  Watching = "serial"
)

// WaysToWatch lists them.
func WaysToWatch() []Watching { return []Watching{OverUSB, OverNetwork, OverSerial} }

// Enum lists them for the published schema.
func (Watching) Enum() []any { return anys(WaysToWatch()) }

func (o Outage) refs() []Ref {
	var refs []Ref
	if o.Goes != nil && o.Goes.After != "" {
		refs = append(refs, Ref{"goes.after_id", Key{KindDevice, o.Goes.After}, Clear})
	}
	if o.WatchedBy != "" {
		refs = append(refs, Ref{"watched_by_id", Key{KindDevice, o.WatchedBy}, Clear})
	}
	return refs
}

func (o Outage) check(f *faults) {
	if g := o.Goes; g != nil {
		f.between("goes.at_percent", g.AtPercent, 0.1, 100, "percent of the battery")
		f.between("goes.after_min", g.AfterMin, 0, 100_000, "minutes")
		said := 0
		for _, is := range []bool{g.AtPercent != nil, g.AfterMin != nil, g.After != "", g.Last} {
			if is {
				said++
			}
		}
		if said != 1 {
			f.add("goes", "say one time at which it goes, such as at 40%%, after 5min, after another device, or last")
		}
	}
	f.between("stops_s", o.StopsS, 0, 100_000, "s")
	f.between("to_hold_min", o.ToHoldMin, 0, 100_000, "minutes")
	optional(f, "watched_over", o.WatchedOver, WaysToWatch())
}

// checkGoing refuses a device that waits for what waits for it, or for what goes last.
func (d Device) checkGoing(l *Lab, f *faults) {
	if d.WatchedBy == d.ID && d.ID != "" {
		f.add("watched_by_id", "%s cannot be watched by itself", quote(d.Title()))
	}
	if d.Goes != nil && d.Goes.Last {
		for by := range l.UsersOf(d.Key()) {
			if o, ok := by.(Device); ok && o.Goes != nil && o.Goes.After == d.ID {
				f.add("goes.last", "%s waits for it to be down; say first when that goes", quote(o.Title()))
			}
		}
	}
	names := []string{d.Title()}
	seen := map[ID]bool{}
	for at := d; at.Goes != nil && at.Goes.After != ""; {
		next, ok := Find[Device](l, at.Goes.After)
		switch {
		case !ok || seen[next.ID]:
			return
		case next.ID == d.ID:
			f.add("goes.after_id", "that would wait for itself: %s", strings.Join(append(names, d.Title()), " waits for "))
			return
		case at.ID == d.ID && next.Goes != nil && next.Goes.Last:
			f.add("goes.after_id", "%s goes last, so that nothing can wait for it", quote(next.Title()))
			return
		}
		seen[next.ID] = true
		names = append(names, next.Title())
		at = next
	}
}

// Price is what energy costs, always or between two times of day.
type Price struct {
	PerKWh float64 `json:"per_kwh" required:"true" description:"In the lab's currency, to a ten-thousandth"`
	From   string  `json:"from,omitempty" description:"By the clock, such as 00:30; absent for the price at all other times"`
	To     string  `json:"to,omitempty"`
}

// Tariff is what the lab's energy costs.
type Tariff struct {
	Prices      []Price  `json:"prices,omitempty" nullable:"false" maxItems:"24" description:"One, and those of other hours"`
	StandingDay *float64 `json:"standing_day,omitempty" description:"What each day costs whatever is used, in the lab's currency"`
}

// Minute is how far a time of day is from midnight, in minutes.
func Minute(at string) int { return int(clock(at).Minutes()) }

// MinutesADay is how many there are.
const MinutesADay = 24 * 60

// At is the price of each minute of the day, by their number; nil where none is said.
func (t Tariff) At() []float64 {
	if len(t.Prices) == 0 {
		return nil
	}
	at := make([]float64, MinutesADay)
	for _, banded := range []bool{false, true} {
		for _, p := range t.Prices {
			if banded == (p.From != "") {
				p.each(func(minute int) { at[minute] = p.PerKWh })
			}
		}
	}
	return at
}

// each goes through the minutes of the day that a price is for.
func (p Price) each(do func(minute int)) {
	from, n := 0, MinutesADay
	if p.From != "" {
		from = Minute(p.From)
		if n = (Minute(p.To) - from + MinutesADay) % MinutesADay; n == 0 {
			n = MinutesADay
		}
	}
	for i := range n {
		do((from + i) % MinutesADay)
	}
}

func (t Tariff) check(f *faults) {
	const most = 24
	if len(t.Prices) > most {
		f.add("prices", "has %d entries; at most %d are allowed", len(t.Prices), most)
		return
	}
	f.between("standing_day", t.StandingDay, 0, 1_000_000, "a day")
	always, times := 0, make([]int, MinutesADay)
	for _, p := range t.Prices {
		if p.PerKWh < 0 || p.PerKWh > 1_000_000 {
			f.add("prices", "a price is 0 or more a kWh, not %.6g", p.PerKWh)
		}
		for _, at := range []string{p.From, p.To} {
			if at != "" && !IsClock(at) {
				f.add("prices", "%s is not a time of day; write one such as 07:00", quote(at))
				return
			}
		}
		switch {
		case (p.From == "") != (p.To == ""):
			f.add("prices", "say from when until when a price is for, such as 00:30-05:30")
			return
		case p.From == "":
			always++
		default:
			p.each(func(minute int) { times[minute]++ })
		}
	}
	over := slices.IndexFunc(times, func(n int) bool { return n > 1 })
	gap := slices.Index(times, 0)
	switch {
	case always > 1:
		f.add("prices", "there are %d prices for all day; say from when until when each is for", always)
	case over >= 0:
		f.add("prices", "two prices are for %s; bands must not overlap", clockAt(over))
	case len(t.Prices) > 0 && always == 0 && gap >= 0:
		f.add("prices", "no price is for %s; say one for all other times, such as price 0.31 a kWh", clockAt(gap))
	}
}

// Wear is how a battery ages: in so many years it comes down in a straight line to the
// part left of what it holds new, and stays there. Sure is false for a kind of battery
// whose wear is not known; years are then those of lead-acid.
type Wear struct {
	Years float64
	Left  float64
	Sure  bool
}

// Wear is that of a battery by its chemistry: lead-acid 5 years and a half, lithium iron
// phosphate 8 years and four fifths.
func (p Part) Wear() Wear {
	said := FoldName(p.Chemistry)
	switch {
	case strings.Contains(said, "lead"), strings.Contains(said, "agm"), strings.Contains(said, "gel"):
		return Wear{5, 0.5, true}
	case strings.Contains(said, "iron"), strings.Contains(said, "lifepo"), said == "lfp":
		return Wear{8, 0.8, true}
	case strings.HasPrefix(said, "lit"):
		return Wear{8, 1, false}
	}
	return Wear{5, 1, false}
}

// Left is the part of what it held new that a battery still holds on a day; sure is false
// where its kind or when it was put in, or else bought, is not known.
func (p Part) Left(today Day) (left float64, sure bool) {
	wear := p.Wear()
	years, known := p.Age(today)
	if !known || !wear.Sure {
		return 1, false
	}
	return 1 - (1-wear.Left)*min(1, years/wear.Years), true
}

// Age is how many years a battery has been in on a day, by the last day that its date may
// mean; known is false where neither that nor when it was bought is.
func (p Part) Age(today Day) (years float64, known bool) {
	const year = 365.25 * 24 * time.Hour
	now, err := time.Parse(time.DateOnly, string(today))
	since, ok := cmp.Or(p.PutIn, p.BoughtOn).Last()
	if err != nil || !ok {
		return 0, false
	}
	return max(0, float64(now.Sub(since))/float64(year)), true
}
