package main

import (
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"
	"text/tabwriter"
	"time"

	"github.com/spf13/cobra"

	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/server"
	"levelstaff/store"
)

// report is something worked out of a lab: as JSON it is what the API answers.
type report interface{ print(io.Writer) error }

// reports are those there are, by name.
var reports = func() map[string]func(*lab.Lab) report {
	all := cablingReports()
	maps.Copy(all, map[string]func(*lab.Lab) report{
		"space": func(l *lab.Lab) report { return spaceReport{rack.Report(l)} },
		"findings": func(l *lab.Lab) report {
			return findingReport{server.Findings{Findings: finding.All(l, lab.DayOf(time.Now()))}}
		},
	})
	return all
}()

type (
	spaceReport   struct{ rack.SpaceReport }
	findingReport struct{ server.Findings }
)

func (report findingReport) print(out io.Writer) error {
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	for _, f := range report.Findings.Findings {
		accepted := ""
		if f.Accepted != nil {
			accepted = "accepted: " + f.Accepted.Reason
		}
		if f.Again {
			accepted += ", to be looked at again"
		}
		fmt.Fprintf(w, "%s\t%s\t%s\n", f.Level, f.Say, accepted)
	}
	if len(report.Findings.Findings) == 0 {
		fmt.Fprintln(w, "the checks noticed nothing")
	}
	return w.Flush()
}

func reportCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "report NAME",
		Short: "Work something out: " + strings.Join(slices.Sorted(maps.Keys(reports)), ", "),
		Args:  usage(cobra.ExactArgs(1)),
	}
	data := dataFlag(cmd)
	asJSON := cmd.Flags().Bool("json", false, "print JSON, the same as /api/v1/reports/NAME")
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		report, ok := reports[args[0]]
		if !ok {
			return usageError{fmt.Errorf("there is no report %q; there are: %s", args[0], strings.Join(slices.Sorted(maps.Keys(reports)), ", "))}
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			is := report(st.Now().Lab)
			if !*asJSON {
				return is.print(cmd.OutOrStdout())
			}
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", "  ")
			return enc.Encode(is)
		})
	}
	return cmd
}

func (report spaceReport) print(out io.Writer) error {
	w := tabwriter.NewWriter(out, 0, 0, 2, ' ', 0)
	fmt.Fprintln(w, "RACK\tUNITS\tTAKEN\tFREE\tLARGEST PIECE\tPIECES\tCARRIES")
	for _, s := range report.Racks {
		var pieces []string
		for _, p := range s.Pieces {
			pieces = append(pieces, p.Range)
		}
		fmt.Fprintf(w, "%s\t%d\t%d\t%d\t%dU\t%s\t%s\n", s.Rack, s.HeightU, s.TakenU, s.FreeU, s.LargestU, strings.Join(pieces, " "), carries(s.Weight))
	}
	if n := len(report.Unplaced); n > 0 {
		fmt.Fprintf(w, "\n%d not placed yet\n", n)
	}
	return w.Flush()
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
