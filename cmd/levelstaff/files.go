package main

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"text/tabwriter"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/server"
	"levelstaff/store"
)

// maxFile bounds a file to load, in bytes.
const maxFile = 8 << 20

// formats are the endings of files that can be loaded and saved.
var formats = []string{".rundown"}

func knownFormat(file string) error {
	if ext := filepath.Ext(file); !slices.Contains(formats, ext) {
		return usageError{fmt.Errorf("%s: the ending says the format, and %q is not one of %s", file, ext, strings.Join(formats, ", "))}
	}
	return nil
}

func loadCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "load FILE...",
		Short: "Make the lab what one or more rundowns say, taken together",
		Long: "Make the lab what one or more rundowns say, taken together.\n\n" +
			"What would be added, renamed, moved, changed and removed is shown first; on a\nterminal you are asked. Facts that the text leaves out stay as they are.",
		Args: usage(cobra.MinimumNArgs(1)),
	}
	data := dataFlag(cmd)
	look := cmd.Flags().Bool("dry-run", false, "show what would change and leave it at that")
	yes := cmd.Flags().Bool("yes", false, "do not ask")
	skip := cmd.Flags().Bool("skip-mistakes", false, "load the lines that can be read; nothing is removed then")
	cmd.RunE = func(cmd *cobra.Command, files []string) error {
		doc, err := readRundowns(files)
		if err != nil {
			return err
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			now := st.Now()
			p := rundown.Load(now.Lab, doc, rundown.Options{All: true, NewID: server.NewID})
			for _, m := range p.Mistakes {
				fmt.Fprintln(cmd.ErrOrStderr(), m.Error())
			}
			if len(p.Mistakes) > 0 && !*skip {
				return fmt.Errorf("nothing was loaded: %d mistakes; mend them, or load the other lines with --skip-mistakes", len(p.Mistakes))
			}
			return apply(cmd, st, now, p, *look, *yes)
		})
	}
	return cmd
}

// readRundowns reads the files as one text.
func readRundowns(files []string) (rundown.Document, error) {
	var docs []rundown.Document
	for _, file := range files {
		if err := knownFormat(file); err != nil {
			return rundown.Document{}, err
		}
		text, err := readFile(file)
		if err != nil {
			return rundown.Document{}, err
		}
		docs = append(docs, rundown.ParseFile(file, text))
	}
	return rundown.Join(docs...), nil
}

func readFile(file string) (string, error) {
	f, err := os.Open(file)
	if err != nil {
		return "", fmt.Errorf("load: %w", err)
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, maxFile+1))
	if err != nil {
		return "", fmt.Errorf("load: %w", err)
	}
	if len(data) > maxFile {
		return "", fmt.Errorf("load: %s is larger than %d MB", file, maxFile>>20)
	}
	return string(data), nil
}

func apply(cmd *cobra.Command, st *store.Store, now store.Snapshot, p rundown.Plan, look, yes bool) error {
	edits := rundown.Edits(now.Lab, p.Lab, p.Changes)
	out := cmd.OutOrStdout()
	for _, e := range edits {
		fmt.Fprintf(out, "%-8s %s %s\n", e.Verb, e.Title, e.Detail)
	}
	if len(p.Changes) == 0 {
		fmt.Fprintln(out, "nothing to change")
		return nil
	}
	if look {
		fmt.Fprintf(out, "%d changes, not made\n", len(edits))
		return nil
	}
	if in, ok := cmd.InOrStdin().(*os.File); ok && !yes && term.IsTerminal(int(in.Fd())) && now.Revision > 0 {
		fmt.Fprintf(out, "Make these %d changes? [y/N] ", len(edits))
		answer, _ := bufio.NewReader(in).ReadString('\n')
		if !strings.HasPrefix(strings.ToLower(strings.TrimSpace(answer)), "y") {
			return errors.New("nothing was loaded")
		}
	}
	e, err := st.Change(cmd.Context(), now.Revision, "", func(*lab.Lab) ([]lab.Change, error) { return p.Changes, nil })
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(out, "change %d: %s\n", e.Revision, e.Label)
	return err
}

func saveCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "save FILE",
		Short: "Write the lab to a file",
		Args:  usage(cobra.ExactArgs(1)),
	}
	data := dataFlag(cmd)
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		if err := knownFormat(args[0]); err != nil {
			return err
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			return writeWhole(args[0], rundown.Print(st.Now().Lab))
		})
	}
	return cmd
}

// writeWhole writes a file beside the old one first, so that there is always
// a whole one.
func writeWhole(file, text string) error {
	tmp, err := os.CreateTemp(filepath.Dir(file), ".levelstaff-*")
	if err != nil {
		return fmt.Errorf("save %s: %w", file, err)
	}
	_, err = tmp.WriteString(text)
	err = errors.Join(err, tmp.Sync(), tmp.Chmod(0o644), tmp.Close())
	if err == nil {
		err = os.Rename(tmp.Name(), file)
	}
	if err != nil {
		return fmt.Errorf("save %s: %w", file, errors.Join(err, os.Remove(tmp.Name())))
	}
	return nil
}

func reportCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "report NAME",
		Short: "Work something out: space",
		Args:  usage(cobra.ExactArgs(1)),
	}
	data := dataFlag(cmd)
	asJSON := cmd.Flags().Bool("json", false, "print JSON, the same as /api/v1/reports/NAME")
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		if args[0] != "space" {
			return usageError{fmt.Errorf("there is no report %q; there is: space", args[0])}
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			report := rack.Report(st.Now().Lab)
			if *asJSON {
				enc := json.NewEncoder(cmd.OutOrStdout())
				enc.SetIndent("", "  ")
				return enc.Encode(report)
			}
			return printSpace(cmd.OutOrStdout(), report)
		})
	}
	return cmd
}

func printSpace(out io.Writer, report rack.SpaceReport) error {
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
