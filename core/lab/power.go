package lab

import (
	"slices"
	"strings"
	"time"
)

// Circuit is a breaker and the wires behind it.
type Circuit struct {
	ID    ID       `json:"id" required:"true"`
	Name  string   `json:"name" required:"true" maxLength:"80" lab:"name"`
	Amps  *float64 `json:"amps,omitempty" description:"What the breaker is rated for, in each pole"`
	Volts *float64 `json:"volts,omitempty" description:"Between poles where there are three; the lab's mains while unknown"`
	Poles *int     `json:"poles,omitempty" minimum:"1" maximum:"3" description:"1 unless said"`
	Hours *float64 `json:"continuous_fraction,omitempty" description:"How much of that may run for hours; the lab's fraction unless said"`
	Place ID       `json:"place_id,omitempty" description:"The room it is for"`
	Notes string   `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (c Circuit) Key() Key { return Key{KindCircuit, c.ID} }

// Title implements Record.
func (c Circuit) Title() string { return titleOr(c.Name, "a circuit") }

// Refs implements Record.
func (c Circuit) Refs() []Ref {
	if c.Place == "" {
		return nil
	}
	return []Ref{{"place_id", Key{KindPlace, c.Place}, Clear}}
}

func (c Circuit) uniques() []Unique { return byName(c.Name) }

func (c Circuit) check(f *faults) {
	f.id(c.ID)
	f.need("name", c.Name)
	f.name("name", c.Name)
	f.between("amps", c.Amps, 0.1, 1000, "A")
	f.between("volts", c.Volts, 5, 1000, "V")
	if c.Poles != nil && (*c.Poles < 1 || *c.Poles > 3) {
		f.add("poles", "a breaker has 1 to 3 poles, not %d", *c.Poles)
	}
	f.between("continuous_fraction", c.Hours, 0.1, 1, "of the rating")
	f.text("notes", c.Notes, maxNotes)
	c.Remarked.check(f)
}

// Rating is what a feeder is made for, and what of its power it loses: a breaker's
// amperes are those of its circuit.
type Rating struct {
	RatedVA    *float64 `json:"rated_va,omitempty" description:"Apparent power that a UPS gives at most"`
	RatedW     *float64 `json:"rated_w,omitempty" description:"Power that a UPS, a brick or a USB supply gives at most"`
	RatedA     *float64 `json:"rated_a,omitempty" description:"Current that a PDU, a strip or a brick is made for"`
	TakesV     *float64 `json:"takes_v,omitempty" description:"The voltage that its inlet takes"`
	GivesV     *float64 `json:"gives_v,omitempty" description:"Of a brick: the voltage it gives"`
	Efficiency *float64 `json:"efficiency,omitempty" description:"What a UPS or brick gives of what it draws, 0 to 1"`
	Factor     *float64 `json:"power_factor,omitempty" description:"W for each VA that it draws"`
	BootW      *float64 `json:"boot_w,omitempty" description:"What it draws while it starts"`
}

func (r Rating) check(f *faults) {
	f.between("rated_va", r.RatedVA, 1, 1_000_000, "VA")
	f.between("rated_w", r.RatedW, 0.1, 1_000_000, "W")
	f.between("rated_a", r.RatedA, 0.01, 1000, "A")
	f.between("takes_v", r.TakesV, 1, 1000, "V")
	f.between("gives_v", r.GivesV, 1, 1000, "V")
	f.between("efficiency", r.Efficiency, 0.1, 1, "of what it draws")
	f.between("power_factor", r.Factor, 0.1, 1, "W for each VA")
	f.between("boot_w", r.BootW, 0, 100_000, "W")
}

// over is a rating with what it does not know taken from another one.
func (r Rating) over(o Rating) Rating {
	for _, is := range []struct {
		into **float64
		or   *float64
	}{{&r.RatedVA, o.RatedVA}, {&r.RatedW, o.RatedW}, {&r.RatedA, o.RatedA}, {&r.TakesV, o.TakesV}, {&r.GivesV, o.GivesV},
		{&r.Efficiency, o.Efficiency},
		{&r.Factor, o.Factor}, {&r.BootW, o.BootW}} {
		if *is.into == nil {
			*is.into = is.or
		}
	}
	return r
}

// Powered is what is said of how a device is fed, and of what it drew.
type Powered struct {
	Circuit  ID           `json:"circuit_id,omitempty" description:"Of a wall outlet: the circuit it hangs on"`
	OneByOne bool         `json:"starts_one_by_one,omitempty" description:"Its drives spin up one after another"`
	Bypass   bool         `json:"bypass,omitempty" description:"Of a UPS: it passes the mains on and holds nothing"`
	Measured *Measurement `json:"measured,omitempty" description:"What it drew by a meter, usually"`
	Behind   *Measurement `json:"measured_behind,omitempty" description:"What all its outlets gave, by a meter"`
	RunTimes []RunTime    `json:"run_times,omitempty" nullable:"false" maxItems:"12" description:"How long it runs; always unless said"`
}

// Measurement is a power that somebody measured.
type Measurement struct {
	W  *float64 `json:"w" required:"true"` // a pointer, as nothing at all is measured too
	On When     `json:"on,omitempty" description:"The day it was"`
	By string   `json:"by,omitempty" maxLength:"80" description:"With what"`
}

// RunTime is how long a device runs at a level: by the clock, or so many hours.
type RunTime struct {
	From  string    `json:"from,omitempty" description:"By the clock, such as 07:00"`
	To    string    `json:"to,omitempty" description:"Until when; before from it is on the next day"`
	Hours float64   `json:"hours,omitempty" description:"Where no clock is said"`
	Every Every     `json:"every,omitempty" description:"What those hours are of"`
	Level DrawLevel `json:"level,omitempty" description:"At which it draws then; typical unless said"`
}

// Every is what a number of hours is of.
type Every string

// A day or a week.
const (
	EveryDay  Every = "day"
	EveryWeek Every = "week"
)

// Enum lists both for the published schema.
func (Every) Enum() []any { return anys([]Every{EveryDay, EveryWeek}) }

// DrawLevel is how hard a device works, as far as its draw goes.
type DrawLevel string

// From resting to everything at once; and what is drawn while starting.
const (
	AtStandby DrawLevel = "standby"
	AtIdle    DrawLevel = "idle"
	AtTypical DrawLevel = "typical"
	AtMost    DrawLevel = "most"
	AtBoot    DrawLevel = "boot"
)

// DrawLevels lists them.
func DrawLevels() []DrawLevel { return []DrawLevel{AtStandby, AtIdle, AtTypical, AtMost, AtBoot} }

// Enum lists them for the published schema.
func (DrawLevel) Enum() []any { return anys(DrawLevels()) }

// HoursADay is how long a day it runs at that, on average.
func (r RunTime) HoursADay() float64 {
	const day, week = 24, 7
	switch {
	case r.From != "":
		hours := (clock(r.To) - clock(r.From)).Hours()
		if hours <= 0 { // until the next day
			hours += day
		}
		return hours
	case r.Every == EveryWeek:
		return r.Hours / week
	}
	return r.Hours
}

// clock is how far a time of day is from midnight.
func clock(s string) time.Duration {
	t, err := time.Parse("15:04", s)
	if err != nil {
		return 0
	}
	return time.Duration(t.Hour())*time.Hour + time.Duration(t.Minute())*time.Minute
}

// IsClock reports whether something is a time of day as records keep it: 07:00.
func IsClock(s string) bool {
	_, err := time.Parse("15:04", s)
	return err == nil
}

// clockAt is a time of day by its minute.
func clockAt(minute int) string {
	return time.Time{}.Add(time.Duration(minute) * time.Minute).Format("15:04")
}

func (p Powered) check(f *faults) {
	for _, m := range []struct {
		field string
		is    *Measurement
	}{{"measured", p.Measured}, {"measured_behind", p.Behind}} {
		if m.is == nil {
			continue
		}
		if m.is.W == nil {
			f.add(m.field+".w", "say how many watts were measured, or leave the measurement out")
		}
		f.between(m.field+".w", m.is.W, 0, 1_000_000, "W")
		f.when(m.field+".on", m.is.On)
		f.line(m.field+".by", m.is.By, maxName)
	}
	if len(p.RunTimes) > 12 {
		f.add("run_times", "has %d entries; at most 12 are allowed", len(p.RunTimes))
	}
	all := 0.0
	for _, r := range p.RunTimes {
		r.check(f)
		all += r.HoursADay()
	}
	const day = 24.001 // but for what is lost in a week's seventh
	if len(p.RunTimes) > 1 && all > day {
		f.add("run_times", "that makes %.4g hours a day; there are 24", all)
	}
}

func (r RunTime) check(f *faults) {
	optional(f, "run_times", r.Level, []DrawLevel{AtStandby, AtIdle, AtTypical, AtMost})
	optional(f, "run_times", r.Every, []Every{EveryDay, EveryWeek})
	for _, at := range []string{r.From, r.To} {
		if at != "" && !IsClock(at) {
			f.add("run_times", "%s is not a time of day; write one such as 07:00", quote(at))
		}
	}
	const day, week = 24, 7 * 24
	most := map[Every]float64{EveryDay: day, EveryWeek: week, "": day}[r.Every]
	switch {
	case (r.From == "") != (r.To == ""):
		f.add("run_times", "say from when until when, such as 07:00-23:00")
	case r.From == "" && !(r.Hours > 0 && r.Hours <= most):
		f.add("run_times", "%.4g hours a %s are not 0 to %.4g", r.Hours, string(orDay(r.Every)), most)
	case r.From != "" && r.Hours != 0:
		f.add("run_times", "say the times or the hours, and not both")
	}
}

func orDay(e Every) Every {
	if e == "" {
		return EveryDay
	}
	return e
}

// draws are the levels a spec has a figure for, the lowest first.
func (s Spec) draws() []*float64 { return []*float64{s.StandbyW, s.IdleW, s.TypicalW, s.MostW} }

// checkDraws refuses figures of which a lower level is above a higher one.
func (s Spec) checkDraws(f *faults) {
	fields := []string{"standby_w", "idle_w", "typical_w", "most_w"}
	words := []string{"standby", "idle", "typical", "most"}
	last := -1
	for i, w := range s.draws() {
		switch {
		case w == nil:
			continue
		case last >= 0 && *s.draws()[last] > *w:
			f.add(fields[last], "%s, %.4g W, is above %s, %.4g W", words[last], *s.draws()[last], words[i], *w)
		}
		last = i
	}
}

// Feeds reports whether a device's outlets feed others, by its kind or by what else it
// is.
func (d Device) Feeds() bool { return d.is(func(t Traits) bool { return t.Feeds }) }

// checkFeeding refuses a power lead between two outlets, and one that closes a circle.
func (c Cable) checkFeeding(l *Lab, f *faults) {
	if c.A == nil || c.B == nil || c.Kind.Cordless() {
		return
	}
	from, to := *c.A, *c.B
	outA, outB := f.isOutlet(l, from), f.isOutlet(l, to)
	switch {
	case outA && outB:
		f.add("b.port", "%s and %s are both outlets; a power lead goes from an outlet into an inlet", l.EndWords(from), l.EndWords(to))
		return
	case outB:
		from, to = to, from
	case !outA:
		return
	}
	seen := map[ID]bool{}
	if trail := f.feedsBack(l, to.Device, from.Device, seen); trail != nil {
		slices.Reverse(trail)
		f.add("b.port", "that would feed %s from itself: %s; plug one of them in elsewhere", trail[0],
			strings.Join(append(trail, trail[0]), " → "))
	}
}

func (f *faults) isOutlet(l *Lab, e End) bool {
	d, _ := Find[Device](l, e.Device)
	ports := f.plugsOf(l, d).ports
	i, ok := ports.Index(e.Port)
	return ok && !e.Rear && ports.At(i).Family == Outlet
}

// feedsBack is the trail by which a device feeds another one, from that one on; nil where
// it does not.
func (f *faults) feedsBack(l *Lab, from, to ID, seen map[ID]bool) []string {
	d, ok := Find[Device](l, from)
	if !ok || seen[from] {
		return nil
	}
	seen[from] = true
	if from == to {
		return []string{d.Title()}
	}
	if !d.Feeds() {
		return nil
	}
	plugs := f.plugsOf(l, d)
	for at, cables := range plugs.in {
		i, known := plugs.ports.Index(at.Port)
		if !known || plugs.ports.At(i).Family != Outlet {
			continue
		}
		for _, c := range cables {
			for _, e := range c.Ends() {
				if e.Device == from {
					continue
				}
				if trail := f.feedsBack(l, e.Device, to, seen); trail != nil {
					return append(trail, d.Title())
				}
			}
		}
	}
	return nil
}
