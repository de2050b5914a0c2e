package main

import (
	"fmt"
	"io"
	"strings"
	"text/tabwriter"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/server"
)

// The reports about cabling, as the API answers them.
type (
	leadsReport  struct{ server.Leads }
	runsReport   struct{ server.Runs }
	buyReport    struct{ server.ToBuy }
	waysInReport struct{ server.WaysIn }
	portsReport  struct{ cabling.Levels }
)

func cablingReports() map[string]func(*lab.Lab) report {
	return map[string]func(*lab.Lab) report{
		"leads":   func(l *lab.Lab) report { return leadsReport{server.LeadsOf(l)} },
		"runs":    func(l *lab.Lab) report { return runsReport{server.Runs{Runs: cabling.Of(l).Runs()}} },
		"to_buy":  func(l *lab.Lab) report { return buyReport{server.ToBuyOf(l, l)} },
		"ways_in": func(l *lab.Lab) report { return waysInReport{server.WaysIn{Ways: cabling.Of(l).WaysIn()}} },
		"ports":   func(l *lab.Lab) report { return portsReport{cabling.LevelsOf(l)} },
	}
}

// lined prints rows in columns, or what to say where there are none.
func lined(out io.Writer, head, none string, rows []string) error {
	if len(rows) == 0 {
		_, err := fmt.Fprintln(out, none)
		return err
	}
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	fmt.Fprintln(w, head)
	for _, row := range rows {
		fmt.Fprintln(w, row)
	}
	return w.Flush()
}

func (report leadsReport) print(out io.Writer) error {
	var rows []string
	for _, l := range report.Leads.Leads {
		should := ""
		if l.Should != nil {
			should = fmt.Sprintf("%.2f m", l.Should.NeedM)
		}
		if l.Short {
			should += ", too short"
		}
		rows = append(rows, l.Title+"\t"+l.A+"\t"+l.B+"\t"+should)
	}
	return lined(out, "CABLE\tONE END\tOTHER END\tNEEDS", "no cables are written down", rows)
}

func (report runsReport) print(out io.Writer) error {
	var rows []string
	for _, r := range report.Runs.Runs {
		filled, more := "?", "?"
		if r.FilledP != nil {
			filled = fmt.Sprintf("%.0f %% of at most %.0f %%", *r.FilledP, *r.MostP)
		}
		if r.More != nil {
			more = fmt.Sprint(*r.More)
		}
		rows = append(rows, fmt.Sprintf("%s\t%d\t%s\t%s", r.Name, r.Cables, filled, more))
	}
	return lined(out, "RUN\tCABLES\tFILLED\tMORE OF CAT 6", "no runs are written down", rows)
}

func (report buyReport) print(out io.Writer) error {
	var rows []string
	for _, w := range report.Wants {
		length := "?"
		if w.LengthM != nil {
			length = fmt.Sprintf("%g m", *w.LengthM)
		}
		rows = append(rows, fmt.Sprintf("%s\t%s\t%s\t%d\t%d\t%d\t%s", w.Kind, w.Colour, length, w.Wanted, w.Spare, w.Buy, strings.Join(w.Why, "; ")))
	}
	return lined(out, "LEAD\tCOLOUR\tLENGTH\tWANTED\tIN THE BIN\tBUY\tWHY", "nothing to buy", rows)
}

func (report waysInReport) print(out io.Writer) error {
	var rows []string
	for _, w := range report.Ways {
		tcp := ""
		if w.TCP != 0 {
			tcp = fmt.Sprint(w.TCP)
		}
		rows = append(rows, strings.Join([]string{w.Sort, w.By, w.Input, tcp, w.Address, w.Title}, "\t"))
	}
	return lined(out, "SORT\tAT\tINPUT\tTCP\tADDRESS\tREACHES", "no console line, KVM input or management port leads anywhere", rows)
}

func (report portsReport) print(out io.Writer) error {
	var rows []string
	of := func(where string, level []cabling.PortLevel) {
		for _, l := range level {
			name := l.Name
			if l.Joint {
				name += ", goes through"
			}
			speed := ""
			if l.SpeedMb > 0 {
				speed = cabling.SpeedWords(l.SpeedMb)
			}
			rows = append(rows, fmt.Sprintf("%s\t%s\t%s\t%d\t%d\t%d\t%d", where, name, speed, l.Used, l.Free, l.Reserved, l.Broken))
		}
	}
	of("the lab", report.Lab)
	for _, r := range report.Racks {
		of(r.Name, r.Level)
	}
	return lined(out, "WHERE\tPORTS\tSPEED\tUSED\tFREE\tKEPT\tBROKEN", "no ports are written down", rows)
}
