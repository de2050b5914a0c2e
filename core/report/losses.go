package report

import (
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/power"
)

// PowerLosses is what goes dark when one thing is lost, and when two feeds are.
type PowerLosses struct {
	Losses []PowerLoss `json:"losses" required:"true" nullable:"false" description:"What leaves most devices dark first"`
	Pairs  []PowerLoss `json:"pairs" required:"true" nullable:"false" description:"Of two circuits or UPSs at once"`
}

// PowerLoss is what comes of losing something.
type PowerLoss struct {
	What   string   `json:"what" required:"true" description:"Its name; DEVICE/PORT for an outlet, or for a lead by where it is in"`
	Dark   []string `json:"dark" required:"true" nullable:"false" description:"At once"`
	OneLeg []string `json:"on_one_leg" required:"true" nullable:"false" description:"What goes on with the supplies that it has left"`
	Held   []string `json:"on_battery" required:"true" nullable:"false" description:"What goes dark when the batteries that hold it are empty"`
	Over   []string `json:"over" required:"true" nullable:"false" description:"What then carries more than it may"`

	IDs     []lab.ID `json:"lost_ids" required:"true" nullable:"false" description:"What is lost, or is plugged in where"`
	Part    bool     `json:"part,omitempty" description:"It is one outlet or lead of that"`
	OffIDs  []lab.ID `json:"off_ids" required:"true" nullable:"false" description:"All that is without power at once, strips and the like too"`
	HeldIDs []lab.ID `json:"on_battery_ids" required:"true" nullable:"false"`
	OverIDs []lab.ID `json:"over_ids" required:"true" nullable:"false"`
}

// pairsMost is how many pairs of feeds are listed.
const pairsMost = 500

func lossesOf(a Ask) (PowerLosses, error) {
	g := power.Of(a.Lab)
	out := PowerLosses{[]PowerLoss{}, []PowerLoss{}}
	for _, l := range g.Losses() {
		out.Losses = append(out.Losses, powerLoss(g, l))
	}
	for i, l := range g.Pairs() {
		if i < pairsMost {
			out.Pairs = append(out.Pairs, powerLoss(g, l))
		}
	}
	return out, nil
}

// LossOf is what comes of losing some circuits and devices at once.
func LossOf(l *lab.Lab, gone ...lab.Key) PowerLoss {
	g := power.Of(l)
	var targets []power.Target
	for _, key := range gone {
		if n, known := g.Number(key); known {
			targets = append(targets, power.Target{Node: n, Feed: -1})
		}
	}
	return powerLoss(g, g.Lose(targets...))
}

// powerLoss is a loss in words.
func powerLoss(g *power.Grid, l power.Loss) PowerLoss {
	names := func(list []int32) []string { return named(g, list) }
	ids := func(list []int32) []lab.ID {
		said := []lab.ID{}
		for _, n := range list {
			said = append(said, g.Nodes()[n].Key.ID)
		}
		return said
	}
	var what []string
	var lost []int32
	part := false
	for _, t := range l.Targets {
		what = append(what, g.Words(t))
		at := t.Node
		if at < 0 {
			part = true
			if at = g.Feeds()[t.Feed].From; t.Lead {
				at = g.Feeds()[t.Feed].To
			}
		}
		lost = append(lost, at)
	}
	return PowerLoss{strings.Join(what, " and "), names(l.Dark), names(l.OneLeg), names(l.Held), names(l.Over), ids(lost), part, ids(l.Off),
		ids(l.Held), ids(l.Over)}
}

func lossesText(r PowerLosses) lines {
	t := lines{head: []string{"LOST", "DARK", "WHEN BATTERIES ARE EMPTY", "ON ONE LEG", "OVER ITS LIMIT"}, none: "no power leads documented"}
	for _, l := range r.Losses {
		t.rows = append(t.rows, []string{l.What, some(l.Dark), some(l.Held), some(l.OneLeg), some(l.Over)})
	}
	return t
}

// some are a few names and how many more there are.
func some(names []string) string { return lab.Listed(names, 4) }
