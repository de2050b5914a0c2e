package report

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/battery"
	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/rundown"
)

// ShutdownHeld is something that a UPS holds, with what is said of when it goes and what
// becomes of it.
type ShutdownHeld struct {
	Device   string   `json:"device" required:"true"`
	ID       lab.ID   `json:"device_id" required:"true"`
	Goes     string   `json:"goes,omitempty" description:"In words; absent where nobody said"`
	Stops    string   `json:"stops,omitempty" description:"How long it takes, in words"`
	Computes bool     `json:"computes,omitempty" description:"It is a computer, which should not lose its power"`
	With     string   `json:"with,omitempty" description:"What feeds it over the network or USB, and takes it along"`
	AtS      *float64 `json:"at_s,omitempty" description:"When it is told to stop"`
	DownS    *float64 `json:"down_at_s,omitempty"`
	Percent  *float64 `json:"battery_pct,omitempty"`
	Guessed  bool     `json:"guessed,omitempty" description:"Nobody said how long it takes to stop"`
	Lost     bool     `json:"lost,omitempty"`
	LostS    *float64 `json:"lost_at_s,omitempty"`
}

// heldOf are the things that a UPS holds, in the order in which they go.
func heldOf(a Ask, g *power.Grid, held []int32, r battery.Run) []ShutdownHeld {
	list := []ShutdownHeld{}
	for _, n := range held {
		d := g.Nodes()[n].Device
		said := rundown.Saying(a.Lab, *d)
		h := ShutdownHeld{Device: d.Title(), ID: d.ID, Goes: said.Text("goes"), Stops: said.Text("stops_s"),
			Computes: d.Kind.Traits().Computes}
		if in := g.In(n); len(in) > 0 && !g.ByLeads(n) {
			h.With = g.Nodes()[g.Feeds()[in[0]].From].Title
		}
		for _, s := range r.Steps {
			if s.Node == n {
				h.AtS, h.DownS, h.Percent, h.Guessed, h.Lost = &s.AtS, &s.DownS, &s.Percent, s.Guessed, s.Lost
			}
		}
		for _, x := range r.Lost {
			if x.Node == n {
				if h.Lost = true; x.Known {
					h.LostS = &x.AtS
				}
			}
		}
		list = append(list, h)
	}
	const never = 1e12
	when := func(h ShutdownHeld) float64 {
		switch {
		case h.AtS != nil:
			return *h.AtS
		case h.LostS != nil:
			return *h.LostS
		}
		return never
	}
	slices.SortStableFunc(list, func(a, b ShutdownHeld) int { return cmp.Compare(when(a), when(b)) })
	return list
}

// WaveReport is what is started together when the mains are back.
type WaveReport struct {
	AtS     float64  `json:"at_s" required:"true" description:"From when the mains are back"`
	Devices []string `json:"devices" required:"true" nullable:"false"`
	Over    []string `json:"over" required:"true" nullable:"false" description:"What gives more than it may even so"`
}

func wavesOf(l *lab.Lab, g *power.Grid) []WaveReport {
	list := []WaveReport{}
	for _, w := range battery.Start(l, drill.Of(l).Turns()) {
		list = append(list, WaveReport{w.AtS, named(g, w.Nodes), named(g, w.Over)})
	}
	return list
}

// ShutdownPlan is a sheet to keep at the rack, as Markdown: what goes when after the mains
// have failed, what is lost, and how to start again.
func ShutdownPlan(a Ask) (string, error) {
	r, err := shutdownOf(a)
	if err != nil {
		return "", err
	}
	var out strings.Builder
	say := func(format string, args ...any) { fmt.Fprintf(&out, format+"\n", args...) }
	title := cmp.Or(a.Lab.Settings().Name, "the lab")
	say("# When the mains fail: %s\n\nAs of %s.", escaped(title), a.Day)
	for _, u := range r.UPS {
		if len(u.Held) == 0 {
			continue
		}
		say("\n## %s\n", escaped(u.Name))
		switch {
		case u.EmptyS == nil:
			say("When its battery is empty is not known.")
		case u.DownS != nil:
			say("All that stop in order are down after %s; the battery is empty after %s.", battery.Clock(*u.DownS), battery.Clock(*u.EmptyS))
		default:
			say("The battery is empty after %s.", battery.Clock(*u.EmptyS))
		}
		say("\n| after | battery | device | down after |\n| --- | --- | --- | --- |")
		for _, h := range u.Held {
			switch {
			case h.AtS != nil && h.Lost:
				say("| %s | %.0f %% | %s | **lost** |", battery.Clock(*h.AtS), *h.Percent, escaped(h.Device))
			case h.AtS != nil:
				say("| %s | %.0f %% | %s | %s |", battery.Clock(*h.AtS), *h.Percent, escaped(h.Device), battery.Clock(*h.DownS))
			case h.With != "":
				say("| | | %s | goes with %s |", escaped(h.Device), escaped(h.With))
			default:
				say("| | | %s | **lost**: nothing says when it goes |", escaped(h.Device))
			}
		}
	}
	say("\n## When the mains are back\n")
	for i, w := range r.Start {
		over := ""
		if len(w.Over) > 0 {
			over = " (more than " + escaped(strings.Join(w.Over, ", ")) + " may give)"
		}
		say("%d. after %s: %s%s", i+1, battery.Clock(w.AtS), escaped(strings.Join(w.Devices, ", ")), over)
	}
	return out.String(), nil
}

// escaped keeps what Markdown would take for marks.
func escaped(s string) string {
	return strings.NewReplacer(`\`, `\\`, "|", `\|`, "*", `\*`, "_", `\_`, "`", "\\`", "<", `\<`, "[", `\[`, "#", `\#`).Replace(s)
}
