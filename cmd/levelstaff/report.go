package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"levelstaff/core/lab"
	"levelstaff/core/report"
	"levelstaff/store"
)

func reportCommand() *cobra.Command {
	var names []string
	for _, r := range report.All() {
		names = append(names, r.Name)
	}
	cmd := &cobra.Command{
		Use:   "report NAME",
		Short: "Work something out: " + strings.Join(names, ", "),
		Args:  usage(cobra.ExactArgs(1)),
	}
	data := dataFlag(cmd)
	asJSON := cmd.Flags().Bool("json", false, "print JSON, the same as /api/v1/reports/NAME")
	given := map[string]*string{}
	for _, r := range report.All() {
		for _, p := range r.Params {
			if given[p.Name] == nil {
				given[p.Name] = cmd.Flags().String(flagOf(p), "", "of "+r.Name+": "+p.Says)
			}
		}
	}
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		r, ok := report.Named(args[0])
		if !ok {
			return usageError{fmt.Errorf("there is no report %q; there are: %s", args[0], strings.Join(names, ", "))}
		}
		ask := report.Ask{Day: lab.DayOf(time.Now()), With: map[string]string{}}
		for _, p := range r.Params {
			ask.With[p.Name] = *given[p.Name]
		}
		for name := range given {
			p := report.Param{Name: name}
			if _, takes := ask.With[name]; !takes && cmd.Flags().Changed(flagOf(p)) {
				return usageError{fmt.Errorf("the report %s takes no --%s", r.Name, flagOf(p))}
			}
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			ask.Lab = st.Now().Lab
			ask.Built = ask.Lab
			answer, err := r.Of(ask)
			var wrong *report.Wrong
			if errors.As(err, &wrong) {
				return usageError{err}
			}
			if err != nil {
				return err
			}
			if !*asJSON {
				return r.Print(cmd.OutOrStdout(), answer)
			}
			enc := json.NewEncoder(cmd.OutOrStdout())
			enc.SetIndent("", "  ")
			return enc.Encode(answer)
		})
	}
	return cmd
}

// flagOf is what a parameter is called on the command line.
func flagOf(p report.Param) string { return strings.ReplaceAll(p.Name, "_", "-") }
