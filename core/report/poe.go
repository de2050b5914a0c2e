package report

import (
	"fmt"

	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/text"
)

// PowerOver is what switches give over the network.
type PowerOver struct {
	Switches []PowerSwitch `json:"switches" required:"true" nullable:"false"`
}

// PowerSwitch is what one gives, by class at the switch.
type PowerSwitch struct {
	Name    string      `json:"name" required:"true"`
	ID      lab.ID      `json:"id" required:"true"`
	BudgetW *float64    `json:"budget_w,omitempty"`
	GivenW  float64     `json:"given_w" required:"true"`
	LeftW   *float64    `json:"left_w,omitempty"`
	MostW   float64     `json:"most_w" required:"true" description:"What its devices can draw at most"`
	Unknown int         `json:"unknown" required:"true" description:"Devices whose class is not known"`
	ByFeed  bool        `json:"by_feed,omitempty" description:"Its budget is what it is fed over the network itself"`
	Over    bool        `json:"over,omitempty" description:"By class"`
	Holds   bool        `json:"holds" required:"true" description:"By what its devices can draw at most"`
	Ports   []PowerPort `json:"ports" required:"true" nullable:"false"`
}

// PowerPort is a port that gives power.
type PowerPort struct {
	Port   string   `json:"port" required:"true"`
	To     string   `json:"to" required:"true"`
	Class  *int     `json:"class,omitempty"`
	ByDraw bool     `json:"class_by_draw,omitempty" description:"Nobody says its class; it is the least one that its draw fits"`
	ClassW *float64 `json:"class_w,omitempty"`
	LimitW *float64 `json:"limit_w,omitempty" description:"What the port gives at most"`
	Over   bool     `json:"over,omitempty"`
}

func poeOf(a Ask) (PowerOver, error) {
	g := power.Of(a.Lab)
	out := PowerOver{[]PowerSwitch{}}
	for _, p := range g.PoE() {
		is := &g.Nodes()[p.Node]
		s := PowerSwitch{Name: is.Title, ID: is.Key.ID, BudgetW: p.BudgetW, GivenW: p.GivenW, LeftW: p.LeftW(), MostW: p.MostW, Unknown: p.Lacks,
			ByFeed: p.ByFeed, Over: p.Over(), Holds: p.Holds(), Ports: []PowerPort{}}
		for _, port := range p.Ports {
			f := g.Feeds()[port.Feed]
			row := PowerPort{Port: lab.PortWords(f.Out), To: g.Nodes()[f.To].Title, ByDraw: port.ByDraw,
				LimitW: known(port.LimitW), Over: port.Over()}
			if port.Class >= 0 {
				row.Class, row.ClassW = &port.Class, &port.ClassW
			}
			s.Ports = append(s.Ports, row)
		}
		out.Switches = append(out.Switches, s)
	}
	return out, nil
}

func poeText(r PowerOver) lines {
	t := lines{head: []string{"SWITCH", "BUDGET", "GIVEN", "LEFT", "PORTS"}, none: "nothing gives power over the network"}
	for _, s := range r.Switches {
		left := "?"
		if s.LeftW != nil {
			left = text.Number(*s.LeftW)
		}
		given := atLeast(text.Number(s.GivenW), s.Unknown > 0)
		t.rows = append(t.rows, []string{s.Name, watts(s.BudgetW, 0), given, left, fmt.Sprint(len(s.Ports))})
	}
	return t
}
