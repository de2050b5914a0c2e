package finding

import (
	"fmt"
	"math"
	"slices"

	"levelstaff/core/battery"
	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/running"
)

// batteryChecks are those about what holds when the mains fail, and about heat and noise.
var batteryChecks = []dated{
	{"holds-short", "a UPS that holds too short", holdsShort},
	{"old-battery", "a battery past its years", oldBatteries},
	{"late-plan", "a shutdown that ends after the battery", latePlans},
	{"unplanned", "computers nobody tells to stop", unplanned},
	{"unwatched", "a UPS that nobody watches", unwatched},
	{"watcher-first", "a watcher that goes first", watcherFirst},
	{"ups-at-most", "a UPS nearly full at its most", nearlyAtMost},
	{"warm", "warm, and shut in", warmRooms},
	{"loud", "too loud", loudRooms},
}

// OfBatteries runs those checks alone.
func OfBatteries(l *lab.Lab, today lab.Day) []Finding { return run(l, on(today, batteryChecks), today) }

func holdsShort(l *lab.Lab, today lab.Day, tell found) {
	g := power.Of(l)
	for _, h := range battery.Of(l, l, today) {
		d := *g.Nodes()[h.Node].Device
		if min := battery.ToHold(l, d); min != nil && h.Known && h.Minutes < *min {
			tell(Watch, fmt.Sprintf("%s holds what hangs on it for %.0f minutes; it is to hold %s.", d.Title(),
				math.Floor(h.Minutes), number(*min)), d)
		}
	}
}

func oldBatteries(l *lab.Lab, today lab.Day, tell found) {
	for p := range lab.Each[lab.Part](l) {
		d, in := lab.Find[lab.Device](l, p.Device)
		years, known := p.Age(today)
		if p.Kind != lab.Battery || !in || p.Ordered || d.State != lab.Running || !known || years < p.Wear().Years {
			continue
		}
		tell(Watch, fmt.Sprintf("The battery of %s is %.1f years old; one of its kind is good for %s.", d.Title(),
			years, number(p.Wear().Years)), d, p)
	}
}

// latePlans looks for devices that are told to stop and are not down when their battery is
// empty.
func latePlans(l *lab.Lab, today lab.Day, tell found) {
	g := power.Of(l)
	for _, r := range battery.Now(l, today).Runs {
		ups := *g.Nodes()[r.Node].Device
		for _, s := range r.Steps {
			if s.Lost {
				d := *g.Nodes()[s.Node].Device
				tell(Act, fmt.Sprintf("%s would still be stopping when its power goes: it is told to stop after %s min, and %s is empty too soon.",
					d.Title(), battery.Clock(s.AtS), ups.Title()), d, ups)
			}
		}
		for _, x := range r.Lost {
			if d := *g.Nodes()[x.Node].Device; d.Goes != nil && !slices.ContainsFunc(r.Steps,
				func(s battery.Step) bool { return s.Node == x.Node }) {
				tell(Act,
					fmt.Sprintf("%s is lost before its turn to stop comes: %s is empty, or what feeds it goes first.", d.Title(), ups.Title()), d, ups)
			}
		}
	}
}

// unplanned looks for computers that run until their battery is empty, where others are
// told to stop.
func unplanned(l *lab.Lab, today lab.Day, tell found) {
	g := power.Of(l)
	told := map[int32]bool{} // it may hang on several
	for _, r := range battery.Now(l, today).Runs {
		if len(r.Steps) == 0 {
			continue
		}
		for _, x := range r.Lost {
			if d := *g.Nodes()[x.Node].Device; d.Goes == nil && d.Kind.Traits().Computes && !told[x.Node] {
				told[x.Node] = true
				tell(Watch, fmt.Sprintf("Nothing says when %s goes; it runs until %s is empty.", d.Title(), g.Nodes()[r.Node].Title), d)
			}
		}
	}
}

// heldComputers lists the computers that each UPS holds when the mains fail.
func heldComputers(l *lab.Lab, each func(ups lab.Device, computers []string)) {
	g := power.Of(l)
	island := g.Island()
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if is.Kind != power.UPSNode || !is.Battery() || is.Device.State != lab.Running {
			continue
		}
		var names []string
		for _, n := range battery.HeldBy(g, island, int32(i)) {
			if g.Nodes()[n].Device.Kind.Traits().Computes {
				names = append(names, g.Nodes()[n].Title)
			}
		}
		each(*is.Device, names)
	}
}

func unwatched(l *lab.Lab, _ lab.Day, tell found) {
	heldComputers(l, func(ups lab.Device, computers []string) {
		if ups.WatchedBy == "" && len(computers) > 0 {
			tell(Note, fmt.Sprintf("Nothing says who watches %s, so nothing tells %s that the mains are gone.", ups.Title(),
				lab.Listed(computers, 3)), ups)
		}
	})
}

// watcherFirst looks for a watcher that is down while others on its UPS still have to be
// told, and for one that its UPS does not hold.
func watcherFirst(l *lab.Lab, today lab.Day, tell found) {
	g := power.Of(l)
	for _, r := range battery.Now(l, today).Runs {
		ups := *g.Nodes()[r.Node].Device
		watcher, ok := lab.Find[lab.Device](l, ups.WatchedBy)
		if !ok {
			continue
		}
		n, _ := g.Number(watcher.Key())
		down := math.Inf(1)
		for _, s := range r.Steps {
			if s.Node == n {
				down = s.DownS
			}
		}
		lost := slices.ContainsFunc(r.Lost, func(x battery.Lost) bool { return x.Node == n })
		if math.IsInf(down, 1) && !lost {
			tell(Watch, fmt.Sprintf("%s watches %s, and is not held by it when the mains fail.", watcher.Title(), ups.Title()), watcher, ups)
			continue
		}
		var later []string
		for _, s := range r.Steps {
			if s.Node != n && s.AtS > down {
				later = append(later, g.Nodes()[s.Node].Title)
			}
		}
		if len(later) > 0 {
			tell(Watch, fmt.Sprintf("%s watches %s and goes before %s, which nothing then tells.", watcher.Title(), ups.Title(),
				lab.Listed(later, 3)), watcher, ups)
		}
	}
}

// nearlyAtMost looks for UPSs of which most is used only when all is at its most.
func nearlyAtMost(l *lab.Lab, _ lab.Day, tell found) {
	const near = 0.8
	g := power.Of(l)
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if is.Kind != power.UPSNode || is.Device.State != lab.Running {
			continue
		}
		at, _ := g.Standing(int32(i))
		full, known := g.Full(int32(i), power.Most)
		if known && at == power.Within && full >= near && full <= 1 {
			tell(Note, fmt.Sprintf("With all at its most %s gives %s, %.0f %% of all it is made for.", is.Title, load(g, int32(i), power.Most),
				100*full), *is.Device)
		}
	}
}

// warmW is the power from which a room that no air goes through is watched, in W. It is a
// choice: how much goes through walls and a door depends on them.
const warmW = 100

func warmRooms(l *lab.Lab, _ lab.Day, tell found) {
	const rise = 10
	for _, h := range running.Warmth(l) {
		if h.Shut && h.W >= warmW {
			atLeast := ""
			if h.Lacks > 0 {
				atLeast = "at least "
			}
			tell(Watch, fmt.Sprintf("%s is shut, and what is in it gives off %s%.0f W: %.0f m³ of air an hour would keep it to %d K more.", h.Name,
				atLeast, h.W, h.Air(rise), rise), l.Get(h.Key))
		}
	}
}

func loudRooms(l *lab.Lab, _ lab.Day, tell found) {
	for _, h := range running.Warmth(l) {
		if h.MostDB == nil || h.Key.Kind != lab.KindPlace {
			continue
		}
		switch said := number(*h.MostDB); {
		case h.Rest.Known && h.Rest.DB > *h.MostDB:
			tell(Watch, fmt.Sprintf("%s is at %s dB(A) all the time; it is to be %s at most.", h.Name, number(h.Rest.DB), said), l.Get(h.Key))
		case h.Busy.Known && h.Busy.DB > *h.MostDB:
			tell(Note, fmt.Sprintf("%s is at %s dB(A) when all is busy; it is to be %s at most.", h.Name, number(h.Busy.DB), said), l.Get(h.Key))
		}
	}
}
