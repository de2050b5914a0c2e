package finding

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// powerChecks are those about what feeds what, and how much.
var powerChecks = []check{
	{"past-limit", "past a power limit", pastLimits},
	{"one-feed", "two supplies on one feed", oneFeed},
	{"unplugged-supply", "a supply plugged in nowhere", unpluggedSupplies},
	{"strip-behind-strip", "one of a kind behind another", behindAnother},
	{"only-filtered", "on an outlet that does not hold", onlyFiltered},
	{"no-battery", "no battery under the line outside", noBattery},
	{"wrong-voltage", "the wrong voltage", wrongVoltage},
	{"least-ups", "the heaviest load on the smallest UPS", leastUPS},
	{"poe", "too much over the network", tooMuchPoE},
	{"boot", "too much while starting", bootSurges},
	{"strip-on-ups", "a strip that may give more than its UPS", stripsOnUPS},
	{"feed-colour", "a lead whose colour says another feed", feedColours},
}

// OfPower runs the checks about power alone.
func OfPower(l *lab.Lab) []Finding { return run(l, powerChecks, "") }

// recordAt is a node as a record.
func recordAt(l *lab.Lab, n *power.Node) lab.Record { return l.Get(n.Key) }

// load writes a power with its apparent one: 391 W (412 VA), at least where something
// is unknown.
func load(g *power.Grid, n int32, level int) string {
	is := g.Flow().Load(n)
	said := fmt.Sprintf("%.0f W (%.0f VA)", is.W[level], is.VA[level])
	if lacks := g.Flow().Rests[n][level].Lacks(); lacks > 0 {
		said = "at least " + said
	}
	return said
}

func limitWords(l power.Limits) string {
	w, va := l.ForHours()
	switch {
	case w > 0 && va > 0 && math.Abs(w-va) > 0.5:
		return fmt.Sprintf("%.0f W and %.0f VA", w, va)
	case w > 0:
		return fmt.Sprintf("%.0f W", w)
	}
	return fmt.Sprintf("%.0f VA", va)
}

func pastLimits(l *lab.Lab, tell found) {
	g := power.Of(l)
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		at, full := g.Standing(int32(i))
		hours := ""
		if is.Limits.Hours < 1 {
			hours = " for hours"
		}
		switch at {
		case power.Past:
			tell(Act, fmt.Sprintf("%s gives %s and may give %s%s.", is.Title, load(g, int32(i), power.Typical), limitWords(is.Limits), hours),
				recordAt(l, is))
		case power.PastAtMost:
			tell(Watch, fmt.Sprintf("With all at its most %s would give %s; it is made for %.0f W.", is.Title, load(g, int32(i), power.Most),
				max(is.Limits.W, is.Limits.VA)), recordAt(l, is))
		case power.Near:
			tell(Watch, fmt.Sprintf("%s gives %s, %.0f %% of the %s it may%s.", is.Title, load(g, int32(i), power.Typical), 100*full,
				limitWords(is.Limits), hours), recordAt(l, is))
		}
	}
}

// runs reports whether a node is a device that runs.
func runs(n *power.Node) bool { return n.Device != nil && n.Device.State == lab.Running }

func oneFeed(l *lab.Lab, tell found) {
	g := power.Of(l)
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		supplies := g.Supplies(int32(i))
		at, shared := g.SharedBy(int32(i))
		if !runs(is) || is.Kind != power.DeviceNode || supplies.Fed() <= supplies.Needs || !shared {
			continue
		}
		by := &g.Nodes()[at]
		level := Watch
		if by.Kind == power.CircuitNode || by.Kind == power.OutletNode {
			level = Note // there may be no second one
		}
		tell(level, fmt.Sprintf("All supplies of %s hang on %s.", is.Title, by.Title), *is.Device, recordAt(l, by))
	}
}

func unpluggedSupplies(l *lab.Lab, tell found) {
	g := power.Of(l)
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if !runs(is) {
			continue
		}
		supplies := g.Supplies(int32(i))
		loose, fed := supplies.Loose(), supplies.Fed()
		switch {
		case len(loose) == 0:
		case fed == 0 && len(g.In(int32(i))) == 0 && len(g.Feeds()) > 0 && is.Device.Circuit == "":
			tell(Note, fmt.Sprintf("Nothing says what %s is plugged into.", is.Title), *is.Device)
		case fed > 0 && fed < supplies.Needs:
			tell(Act, fmt.Sprintf("%s needs %d supplies, and %s is plugged in nowhere.", is.Title, supplies.Needs, lab.Listed(loose, 4)), *is.Device)
		case fed > 0:
			tell(Watch, fmt.Sprintf("Supply %s of %s is plugged in nowhere.", lab.Listed(loose, 4), is.Title), *is.Device)
		}
	}
}

func behindAnother(l *lab.Lab, tell found) {
	g := power.Of(l)
	strip := func(k power.NodeKind) bool { return k == power.StripNode || k == power.PDUNode }
	for _, f := range g.Feeds() {
		from, to := &g.Nodes()[f.From], &g.Nodes()[f.To]
		if from.Device == nil || from.Device.Kind == lab.MeterPlug || to.Device.Kind == lab.MeterPlug {
			continue
		}
		if strip(from.Kind) && strip(to.Kind) {
			tell(Watch, fmt.Sprintf("%s is plugged into %s: a strip behind a strip carries both loads over one plug.", to.Title, from.Title),
				*to.Device, *from.Device)
		}
	}
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if is.Kind != power.UPSNode {
			continue
		}
		for _, up := range g.Above(int32(i)) {
			if from := &g.Nodes()[up]; from.Kind == power.UPSNode {
				tell(Watch, fmt.Sprintf("%s hangs on %s: one UPS behind another holds no longer, and both lose.", is.Title, from.Title), *is.Device,
					*from.Device)
			}
		}
	}
}

// shouldHold reports whether a device ought to be held by a battery where there is one:
// what computes or keeps things, and what the network goes through.
func shouldHold(d *lab.Device) bool {
	is := d.Kind.Traits()
	return d.Kind == lab.Server || d.Kind == lab.NAS || d.Kind == lab.DiskShelf || d.Kind == lab.Recorder || is.Routes ||
		is.Bridges || d.IsModem()
}

func onlyFiltered(l *lab.Lab, tell found) {
	g := power.Of(l)
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if !runs(is) || !shouldHold(is.Device) || g.Holds(int32(i)) {
			continue
		}
		for _, e := range g.In(int32(i)) {
			if f := g.Feeds()[e]; f.Filtered {
				ups := &g.Nodes()[f.From]
				tell(Watch, fmt.Sprintf("%s is on %s/%s, which only filters: it goes with the mains.", is.Title, ups.Title, f.Out), *is.Device,
					*ups.Device)
				break
			}
		}
	}
}

// noBattery looks at what the way outside goes through where there is a UPS at all.
func noBattery(l *lab.Lab, tell found) {
	g := power.Of(l)
	if !slices.ContainsFunc(g.Nodes(), func(n power.Node) bool { return n.Kind == power.UPSNode }) {
		return
	}
	out := map[lab.ID]bool{}
	for w := range lab.Each[lab.Line](l) {
		out[w.Device] = true
	}
	for _, f := range g.Feeds() {
		if f.By == cabling.ByPoE && g.Nodes()[f.To].Device.Kind == lab.AccessPoint {
			out[g.Nodes()[f.From].Device.ID] = true
		}
	}
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if !runs(is) || len(g.In(int32(i))) == 0 || g.Holds(int32(i)) || slices.ContainsFunc(g.In(int32(i)), func(e int32) bool {
			return g.Feeds()[e].Filtered && shouldHold(is.Device) // told as such
		}) {
			continue
		}
		if d := is.Device; d.IsModem() || out[d.ID] {
			tell(Watch, fmt.Sprintf("No battery holds %s: without the mains the way outside goes with it.", is.Title), *d)
		}
	}
}

func wrongVoltage(l *lab.Lab, tell found) {
	g := power.Of(l)
	for _, f := range g.Feeds() {
		from, to := &g.Nodes()[f.From], &g.Nodes()[f.To]
		wants := (*float64)(nil)
		if to.Device != nil {
			wants = l.SpecOf(*to.Device).TakesV
		}
		gives := from.Limits.Volts
		if wants == nil || gives == 0 || f.By != cabling.ByLead {
			continue
		}
		const apart = 0.1
		if math.Abs(gives-*wants) > apart**wants {
			tell(Act, fmt.Sprintf("%s gives %s V and %s takes %s V.", from.Title, number(gives), to.Title, number(*wants)), *to.Device,
				recordAt(l, from))
		}
	}
}

// leastUPS looks for the heaviest thing that a battery holds where it hangs on the smallest
// UPS, and a larger one would have room for it.
func leastUPS(l *lab.Lab, tell found) {
	g := power.Of(l)
	var all []int32
	for i := range g.Nodes() {
		if is := &g.Nodes()[i]; is.Kind == power.UPSNode && is.Limits.W > 0 {
			all = append(all, int32(i))
		}
	}
	if len(all) < 2 {
		return
	}
	slices.SortFunc(all, func(a, b int32) int { return int(g.Nodes()[a].Limits.W - g.Nodes()[b].Limits.W) })
	least, largest := all[0], all[len(all)-1]
	heaviest, on, w := int32(-1), int32(-1), 0.0
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		feeding := g.Feeding(int32(i))
		if !runs(is) || is.Kind != power.DeviceNode || len(feeding) != 1 || !slices.Contains(all, feeding[0]) {
			continue
		}
		if load := g.Flow().In(int32(i)).W[power.Typical]; load > w {
			heaviest, on, w = int32(i), feeding[0], load
		}
	}
	small, large := &g.Nodes()[least].Limits, &g.Nodes()[largest].Limits
	if on != least || small.W == large.W || g.Flow().Load(largest).W[power.Typical]+w > 0.8*large.W {
		return
	}
	tell(Watch, fmt.Sprintf("%s, the heaviest load with %.0f W, hangs on %s, the smallest UPS; %s has room for it.",
		g.Nodes()[heaviest].Title, w,
		g.Nodes()[on].Title, g.Nodes()[largest].Title), *g.Nodes()[heaviest].Device, *g.Nodes()[on].Device, *g.Nodes()[largest].Device)
}

func tooMuchPoE(l *lab.Lab, tell found) {
	g := power.Of(l)
	for _, p := range g.PoE() {
		is := &g.Nodes()[p.Node]
		if p.Over() {
			level, rest := Act, fmt.Sprintf("they can draw %s W at most, so it does not hold", number(p.MostW))
			if p.Holds() {
				level, rest = Watch, fmt.Sprintf("it would hold by what they can draw at most, %s W", number(p.MostW))
			}
			tell(level, fmt.Sprintf("%s gives %s W over the network by class and has %s W; %s.", is.Title, number(p.GivenW), number(*p.BudgetW),
				rest), *is.Device)
		}
		for _, port := range p.Ports {
			if f := g.Feeds()[port.Feed]; port.Over() {
				to := &g.Nodes()[f.To]
				tell(Act, fmt.Sprintf("%s is of class %d and may draw %s W; %s/%s gives %s W at most.", to.Title, port.Class, number(port.ClassW),
					is.Title, f.Out, number(port.LimitW)), *to.Device, *is.Device)
			}
		}
	}
}

func bootSurges(l *lab.Lab, tell found) {
	g := power.Of(l)
	for i := range g.Nodes() {
		is, f := &g.Nodes()[i], g.Flow().Load(int32(i))
		at, _ := g.Standing(int32(i))
		if w := f.W[power.Boot]; is.Limits.W > 0 && w > is.Limits.W && at < power.PastAtMost {
			what := "what hangs on it starts"
			if is.Kind == power.DeviceNode {
				what = "it starts"
			}
			tell(Watch, fmt.Sprintf("While %s, %s has %.0f W to give and is made for %.0f W; let drives start one by one.", what, is.Title, w,
				is.Limits.W), recordAt(l, is))
		}
	}
}

func stripsOnUPS(l *lab.Lab, tell found) {
	g := power.Of(l)
	for _, f := range g.Feeds() {
		from, to := &g.Nodes()[f.From], &g.Nodes()[f.To]
		strip := to.Kind == power.StripNode || to.Kind == power.PDUNode
		if f.Held && strip && from.Limits.W > 0 && to.Limits.W > from.Limits.W {
			tell(Note,
				fmt.Sprintf("%s, good for %.0f W, is on one outlet of %s, which gives %.0f W: it is easily overfilled.", to.Title, to.Limits.W,
					from.Title, from.Limits.W), *to.Device, *from.Device)
		}
	}
}

// feedColours holds leads against a legend that says which feed a colour means.
func feedColours(l *lab.Lab, tell found) {
	feeds := map[lab.Colour]string{}
	for _, m := range l.Settings().Legend {
		if name, ok := strings.CutPrefix(lab.FoldName(m.Means), "feed "); ok {
			feeds[m.Colour] = strings.Trim(name, `"“”`)
		}
	}
	if len(feeds) == 0 {
		return
	}
	g := power.Of(l)
	for _, f := range g.Feeds() {
		c, ok := lab.Find[lab.Cable](l, f.Cable)
		name, says := feeds[c.Colour]
		if !ok || !says || f.By != cabling.ByLead {
			continue
		}
		feeding := append(g.Above(f.From), f.From)
		if slices.ContainsFunc(feeding, func(n int32) bool { return lab.FoldName(g.Nodes()[n].Title) == name }) {
			continue
		}
		tell(Watch, fmt.Sprintf("%s is %s, which means feed %s here, and is fed by %s.", l.CableWords(c), c.Colour,
			name, g.Nodes()[f.From].Title),
			c, *g.Nodes()[f.To].Device)
	}
}
