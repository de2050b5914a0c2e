package report

import (
	"fmt"
	"strconv"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Leads is every cable.
type Leads struct {
	Leads []Lead `json:"leads" required:"true" nullable:"false"`
}

// Lead is a cable in words, and the length it should have.
type Lead struct {
	Cable  lab.ID          `json:"cable_id" required:"true"`
	Title  string          `json:"title" required:"true"`
	A      string          `json:"a" required:"true" description:"As one types it"`
	B      string          `json:"b" required:"true"`
	Hex    string          `json:"hex,omitempty" description:"How its colour looks"`
	Should *cabling.Length `json:"should,omitempty" description:"How long it should be, where that is known"`
	Short  bool            `json:"short,omitempty" description:"It is shorter than that"`
}

// LeadOf is one of them.
func LeadOf(l *lab.Lab, c lab.Cable) Lead {
	row := Lead{Cable: c.ID, Title: l.CableWords(c), A: rundown.EndText(l, c.A), B: rundown.EndText(l, c.B), Hex: c.Colour.Hex()}
	lead := cabling.Of(l).LeadOf(c)
	if should, ok := lead.Should(); ok {
		row.Should = &should
		_, how := lead.Short()
		row.Short = how == cabling.CannotReach
	}
	return row
}

func leadsOf(a Ask) (Leads, error) {
	out := Leads{[]Lead{}}
	for c := range lab.Each[lab.Cable](a.Lab) {
		out.Leads = append(out.Leads, LeadOf(a.Lab, c))
	}
	return out, nil
}

func leadsText(r Leads) lines {
	t := lines{head: []string{"CABLE", "ONE END", "OTHER END", "NEEDS"}, none: "no cables documented"}
	for _, l := range r.Leads {
		should := ""
		if l.Should != nil {
			should = fmt.Sprintf("%.2f m", l.Should.NeedM)
		}
		if l.Short {
			should += ", too short"
		}
		t.rows = append(t.rows, []string{l.Title, l.A, l.B, should})
	}
	return t
}

// Runs tells how full runs are.
type Runs struct {
	Runs []cabling.RunUse `json:"runs" required:"true" nullable:"false"`
}

func runsOf(a Ask) (Runs, error) { return Runs{cabling.Of(a.Lab).Runs()}, nil }

func runsText(r Runs) lines {
	t := lines{head: []string{"RUN", "CABLES", "FILLED", "MORE OF CAT 6"}, none: "no runs documented"}
	for _, r := range r.Runs {
		filled, more := "?", "?"
		if r.FilledP != nil {
			filled = fmt.Sprintf("%.0f %% of at most %.0f %%", *r.FilledP, *r.MostP)
		}
		if r.More != nil {
			more = fmt.Sprint(*r.More)
		}
		t.rows = append(t.rows, []string{r.Name, fmt.Sprint(r.Cables), filled, more})
	}
	return t
}

func portsOf(a Ask) (cabling.Levels, error) { return cabling.LevelsOf(a.Lab), nil }

func portsText(r cabling.Levels) lines {
	t := lines{head: []string{"WHERE", "PORTS", "SPEED", "USED", "FREE", "KEPT", "BROKEN"}, none: "no ports documented"}
	of := func(where string, level []cabling.PortLevel) {
		for _, l := range level {
			name, speed := l.Name, ""
			if l.Joint {
				name += ", goes through"
			}
			if l.SpeedMb > 0 {
				speed = cabling.SpeedWords(l.SpeedMb)
			}
			t.rows = append(t.rows, []string{where, name, speed, fmt.Sprint(l.Used), fmt.Sprint(l.Free), fmt.Sprint(l.Reserved),
				fmt.Sprint(l.Broken)})
		}
	}
	of("the lab", r.Lab)
	for _, rack := range r.Racks {
		of(rack.Name, rack.Level)
	}
	return t
}

// Openings are free ports, the best first.
type Openings struct {
	Openings []cabling.FreePort `json:"openings" required:"true" nullable:"false"`
}

func openingsOf(a Ask) (Openings, error) {
	const usual, most = 10_000, 500
	mb := usual
	if said := a.With["speed_mb"]; said != "" {
		n, err := strconv.Atoi(said)
		if err != nil || n < 1 {
			return Openings{}, &Wrong{"speed_mb", "A speed is a number of Mbit/s, such as 2500."}
		}
		mb = n
	}
	list := cabling.Of(a.Lab).Openings(mb)
	return Openings{list[:min(len(list), most)]}, nil
}

func openingsText(r Openings) lines {
	t := lines{head: []string{"PORT", "LEADS TO", "WHERE"}, none: "no port is free"}
	for _, p := range r.Openings {
		t.rows = append(t.rows, []string{p.Title, p.To, p.Where})
	}
	return t
}

// ToBuy lists leads.
type ToBuy struct {
	Wants []cabling.Want  `json:"wants" required:"true" nullable:"false"`
	Bin   []cabling.Spare `json:"bin" required:"true" nullable:"false" description:"What the spares bin has"`
}

func toBuyOf(a Ask) (ToBuy, error) {
	return ToBuy{cabling.ToBuy(a.Built, a.Lab), cabling.Bin(a.Lab)}, nil
}

func toBuyText(r ToBuy) lines {
	t := lines{head: []string{"LEAD", "COLOUR", "LENGTH", "WANTED", "IN THE BIN", "BUY", "WHY"}, none: "nothing to buy"}
	for _, w := range r.Wants {
		length := "?"
		if w.LengthM != nil {
			length = fmt.Sprintf("%g m", *w.LengthM)
		}
		t.rows = append(t.rows, []string{string(w.Kind), string(w.Colour), length, fmt.Sprint(w.Wanted), fmt.Sprint(w.Spare), fmt.Sprint(w.Buy),
			strings.Join(w.Why, "; ")})
	}
	return t
}

// WaysIn lists them for the console's door.
type WaysIn struct {
	Ways []cabling.WayIn `json:"ways" required:"true" nullable:"false"`
}

func waysInOf(a Ask) (WaysIn, error) { return WaysIn{cabling.Of(a.Lab).WaysIn()}, nil }

func waysInText(r WaysIn) lines {
	t := lines{head: []string{"SORT", "AT", "INPUT", "TCP", "ADDRESS", "REACHES"},
		none: "no console line, KVM input or management port leads anywhere"}
	for _, w := range r.Ways {
		tcp := ""
		if w.TCP != 0 {
			tcp = fmt.Sprint(w.TCP)
		}
		t.rows = append(t.rows, []string{w.Kind, w.By, w.Input, tcp, w.Address, w.Title})
	}
	return t
}
