package report

import (
	"fmt"
	"strings"

	"levelstaff/core/finding"
	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/text"
)

func spaceOf(a Ask) (rack.SpaceReport, error) { return rack.Report(a.Lab), nil }

func spaceText(r rack.SpaceReport) lines {
	t := lines{head: []string{"RACK", "UNITS", "TAKEN", "FREE", "LARGEST PIECE", "PIECES", "CARRIES"}, none: "no racks documented"}
	for _, s := range r.Racks {
		var pieces []string
		for _, p := range s.Pieces {
			pieces = append(pieces, p.Range)
		}
		t.rows = append(t.rows, []string{s.Rack, fmt.Sprint(s.HeightU), fmt.Sprint(s.TakenU), fmt.Sprint(s.FreeU),
			fmt.Sprintf("%dU", s.LargestU), strings.Join(pieces, " "), carries(s.Weight)})
	}
	if n := len(r.Unplaced); n > 0 {
		t.foot = fmt.Sprintf("%d not placed yet", n)
	}
	return t
}

// carries says a weight; where nothing is weighed, not as a zero.
func carries(w rack.Weight) string {
	known := fmt.Sprintf("%g", w.KnownKG)
	if n := len(w.Unweighed); n > 0 && w.KnownKG == 0 {
		known = "?"
	} else if n > 0 {
		known = "at least " + known
	}
	if w.HoldsKG != nil {
		known += fmt.Sprintf(" of %g", *w.HoldsKG)
	}
	known += " kg"
	if n := len(w.Unweighed); n > 0 {
		known += fmt.Sprintf(", %d of %d not weighed", n, w.Things)
	}
	return known
}

// Findings is everything the checks noticed.
type Findings struct {
	Findings []finding.Finding `json:"findings" required:"true" nullable:"false" description:"Those that ask for most first"`
}

func findingsOf(a Ask) (Findings, error) { return Findings{finding.All(a.Lab, a.Day)}, nil }

func findingsText(r Findings) lines {
	t := lines{none: "nothing found"}
	for _, f := range r.Findings {
		accepted := ""
		if f.Accepted != nil {
			accepted = "accepted: " + f.Accepted.Reason
		}
		if f.Again {
			accepted += ", to be looked at again"
		}
		t.rows = append(t.rows, []string{string(f.Level), f.Say, accepted})
	}
	return t
}

func gearOf(a Ask) (gear.LabTotals, error) { return gear.Totalled(a.Lab), nil }

func gearText(r gear.LabTotals) lines {
	t := lines{none: "no parts documented"}
	add := func(title string, a gear.Amount, write func(int64) string) {
		if a.Known > 0 {
			t.rows = append(t.rows, []string{title, a.Text(write)})
		}
	}
	count := func(n int64) string { return fmt.Sprint(n) }
	add("cores", r.Cores, count)
	add("threads", r.Threads, count)
	add("memory", r.MemoryBytes, text.MemoryText)
	add("raw capacity", r.RawBytes, text.CapacityText)
	return t
}

func binOf(a Ask) (gear.Bin, error) { return gear.BinOf(a.Lab), nil }

func binText(b gear.Bin) lines {
	t := lines{head: []string{"WHERE", "PART", "", "STATE"}, none: "the spares bin is empty and nothing is on order"}
	for _, of := range []struct {
		where string
		parts []gear.PartLine
	}{{"spares bin", b.Spares}, {"on order", b.Ordered}} {
		for _, p := range of.parts {
			t.rows = append(t.rows, []string{of.where, p.Title, p.Sub, string(p.State)})
		}
	}
	return t
}

func moneyOf(a Ask) (gear.MoneyReport, error) { return gear.Money(a.Lab, a.Day), nil }

func moneyText(r gear.MoneyReport) lines {
	t := lines{head: []string{"YEAR", "NEW", "USED", "OTHER", "THINGS"}, none: "no prices documented"}
	money := func(minor int64) string { return lab.MoneyText(minor, r.Currency) }
	for _, s := range r.Spent {
		year := "?"
		if s.Year > 0 {
			year = fmt.Sprint(s.Year)
		}
		t.rows = append(t.rows, []string{year, money(s.New), money(s.Used), money(s.Other), fmt.Sprint(s.Things)})
	}
	t.foot = "at least " + money(r.PaidMinor) + " in all"
	if r.Unpriced > 0 {
		t.foot += fmt.Sprintf("; %d devices without a price", r.Unpriced)
	}
	for _, e := range r.Endings {
		t.foot += fmt.Sprintf("\n%s  %s: %s", e.Last, e.Title, e.What)
	}
	return t
}
