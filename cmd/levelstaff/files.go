package main

import (
	"bufio"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
	"levelstaff/server"
	"levelstaff/store"
)

// maxFile bounds a file to load, in bytes.
const maxFile = 8 << 20

// writer writes a lab in some format.
type writer = func(io.Writer, *lab.Lab) error

// formats are the endings of files that can be loaded and saved, and how a
// lab is written in each.
var formats = map[string]writer{
	".rundown": func(w io.Writer, l *lab.Lab) error {
		_, err := io.WriteString(w, rundown.Print(l))
		return err
	},
	".json": exchange.WriteJSON,
	".csv":  exchange.Devices.WriteCSV,
	".xlsx": exchange.Devices.WriteXLSX,
}

// Less than the whole lab, in the formats that it can be written in.
var (
	sheetsAlone = map[string]writer{".json": func(w io.Writer, l *lab.Lab) error {
		return exchange.WriteSheets(w, slices.Collect(lab.Each[lab.SpecSheet](l)))
	}}
	partsAlone  = map[string]writer{".csv": exchange.Parts.WriteCSV, ".xlsx": exchange.Parts.WriteXLSX}
	cablesAlone = map[string]writer{".csv": exchange.Cables.WriteCSV, ".xlsx": exchange.Cables.WriteXLSX, ".dot": exchange.WriteDOT}
	guestsAlone = map[string]writer{".csv": exchange.Guests.WriteCSV, ".xlsx": exchange.Guests.WriteXLSX, ".dot": exchange.WriteRunsDOT,
		".mmd": exchange.WriteRunsMermaid}
	needsAlone = map[string]writer{".dot": exchange.WriteNeedsDOT, ".mmd": exchange.WriteNeedsMermaid}
)

func knownFormat(file string) error {
	if ext := filepath.Ext(file); formats[ext] == nil && guestsAlone[ext] == nil {
		return usageError{fmt.Errorf("%s: the file extension gives the format, and %q is not one of %s", file, ext,
			strings.Join(slices.Sorted(maps.Keys(formats)), ", "))}
	}
	return nil
}

func loadCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "load FILE...",
		Short: "Make the lab what a file says: rundowns together, a JSON file, or devices, guests, parts or cables of a CSV file or workbook",
		Long: "Make the lab what a file says: one or more rundowns taken together, a JSON file that\nlevelstaff save wrote, or the devices " +
			"of a CSV file or of an XLSX workbook\n(with --guests the VMs and containers, with --parts the parts,\nwith --cables the cables).\n\n" +
			"What would be added, renamed, moved, changed and removed is shown first; on a\nterminal you are asked. Facts that a rundown leaves " +
			"out stay as they are. What a file of\ndevices has no line for stays; it is taken whole or not at all.",
		Args: usage(cobra.MinimumNArgs(1)),
	}
	data := dataFlag(cmd)
	look := cmd.Flags().Bool("dry-run", false, "show what would change, then stop")
	yes := cmd.Flags().Bool("yes", false, "do not ask")
	parts := cmd.Flags().Bool("parts", false, "a CSV file or workbook lists parts, not devices")
	cables := cmd.Flags().Bool("cables", false, "a CSV file or workbook is a cable schedule")
	guests := cmd.Flags().Bool("guests", false, "a CSV file or workbook lists VMs and containers")
	skip := cmd.Flags().Bool("skip-mistakes", false, "load the lines of a rundown that can be read; nothing is removed then")
	cmd.RunE = func(cmd *cobra.Command, files []string) error {
		of := exchange.Devices
		switch {
		case several(*parts, *cables, *guests):
			return usageError{errors.New("a file lists guests, parts or cables; load one after the other")}
		case *guests:
			of = exchange.Guests
		case *parts:
			of = exchange.Parts
		case *cables:
			of = exchange.Cables
		}
		read, err := readFiles(cmd, files, of, *skip)
		if err != nil {
			return err
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			now := st.Now()
			changes, err := read(now.Lab)
			if err != nil {
				return err
			}
			return apply(cmd, st, now, changes, *look, *yes)
		})
	}
	return cmd
}

// readFiles reads files as far as that goes without a lab, and returns what
// works out the changes that they make to one.
func readFiles(cmd *cobra.Command, files []string, of *exchange.Listing, skip bool) (func(*lab.Lab) ([]lab.Change, error), error) {
	ext := filepath.Ext(files[0])
	for _, file := range files {
		if err := knownFormat(file); err != nil {
			return nil, err
		}
		if filepath.Ext(file) != ext || ext != ".rundown" && len(files) > 1 {
			return nil, usageError{errors.New("only rundowns can be loaded together; load files of other formats one at a time")}
		}
	}
	if ext == ".dot" || ext == ".mmd" {
		return nil, usageError{fmt.Errorf("%s: graphs can only be written; load cables and guests from a .csv or .xlsx file", files[0])}
	}
	if ext == ".rundown" {
		doc, err := readRundowns(cmd.Context(), files)
		return func(l *lab.Lab) ([]lab.Change, error) { return rundownChanges(cmd, l, doc, skip) }, err
	}
	text, err := readFile(files[0])
	if err != nil {
		return nil, err
	}
	if ext == ".csv" || ext == ".xlsx" {
		return func(l *lab.Lab) ([]lab.Change, error) { return listedChanges(cmd, of, l, files[0], text) }, nil
	}
	if exchange.IsSheets([]byte(text)) {
		sheets, err := exchange.ReadSheets([]byte(text))
		if err != nil {
			return nil, fmt.Errorf("%s: nothing was loaded: %w", files[0], err)
		}
		return func(l *lab.Lab) ([]lab.Change, error) { return exchange.SheetChanges(l, sheets), nil }, nil
	}
	return func(l *lab.Lab) ([]lab.Change, error) {
		is, err := exchange.ReadJSON([]byte(text))
		if err != nil {
			return nil, fmt.Errorf("%s: nothing was loaded: %w", files[0], err)
		}
		return lab.Diff(l, is), nil
	}, nil
}

func rundownChanges(cmd *cobra.Command, l *lab.Lab, doc rundown.Document, skip bool) ([]lab.Change, error) {
	p, err := rundown.LoadContext(cmd.Context(), l, doc, rundown.Options{All: true, NewID: server.NewID})
	if err != nil {
		return nil, fmt.Errorf("nothing was loaded: %w", err)
	}
	for _, m := range p.Mistakes {
		fmt.Fprintln(cmd.ErrOrStderr(), m.Error())
	}
	for _, k := range p.Kept {
		as := "kept as a remark"
		if k.Counts {
			as = "note"
		}
		fmt.Fprintf(cmd.OutOrStdout(), "%s, line %d: %s\n", as, k.Line, k.Text)
	}
	if len(p.Mistakes) > 0 && !skip {
		if p.More > 0 {
			fmt.Fprintf(cmd.ErrOrStderr(), "and %d more\n", p.More)
		}
		n := len(p.Mistakes) + p.More
		if n == 1 {
			return nil, errors.New("nothing was loaded: 1 mistake; fix it, or load the other lines with --skip-mistakes")
		}
		return nil, fmt.Errorf("nothing was loaded: %d mistakes; fix them, or load the other lines with --skip-mistakes", n)
	}
	return p.Changes, nil
}

func listedChanges(cmd *cobra.Command, of *exchange.Listing, l *lab.Lab, file, text string) ([]lab.Change, error) {
	sheet, err := of.Read(cmd.Context(), l, []byte(text), exchange.Taking{}, server.NewID)
	if err != nil {
		return nil, fmt.Errorf("%s: nothing was loaded: %w", file, err)
	}
	for _, row := range sheet.Rows {
		if row.Verb == exchange.RowRefused {
			fmt.Fprintf(cmd.ErrOrStderr(), "%s:%d: %s: %s\n", file, row.Line, row.Title, row.Say)
		}
	}
	if sheet.Refused > 0 {
		return nil, fmt.Errorf("%s: nothing was loaded: %s refused; fix that and load it again", file, sheet.RefusedWords())
	}
	return sheet.Changes, nil
}

// readRundowns reads the files as one text.
func readRundowns(ctx context.Context, files []string) (rundown.Document, error) {
	var docs []rundown.Document
	for _, file := range files {
		text, err := readFile(file)
		if err != nil {
			return rundown.Document{}, err
		}
		docs = append(docs, rundown.ParseContext(ctx, file, text))
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

func apply(cmd *cobra.Command, st *store.Store, now store.Snapshot, changes []lab.Change, look, yes bool) error {
	then, err := now.Lab.Apply(changes)
	if err != nil {
		return fmt.Errorf("nothing was loaded: %w", err)
	}
	edits := rundown.Edits(now.Lab, then, changes)
	out := cmd.OutOrStdout()
	for _, e := range edits {
		fmt.Fprintf(out, "%-8s %s %s\n", e.Verb, e.Title, e.Detail)
	}
	if len(changes) == 0 {
		fmt.Fprintln(out, "nothing to change")
		return nil
	}
	if look {
		fmt.Fprintf(out, "%d changes, not made\n", len(edits))
		return nil
	}
	if _, ok := terminal(cmd); ok && !yes && now.Revision > 0 {
		fmt.Fprintf(out, "Make these %d changes? [y/N] ", len(edits))
		answer, _ := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
		if !strings.HasPrefix(strings.ToLower(strings.TrimSpace(answer)), "y") {
			return errors.New("nothing was loaded")
		}
	}
	e, err := st.Change(cmd.Context(), now.Revision, "", func(*lab.Lab) ([]lab.Change, error) { return changes, nil })
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
	share := cmd.Flags().Bool("share", false, "leave serial numbers, addresses and other private facts out")
	sheets := cmd.Flags().Bool("sheets", false, "write the spec sheets alone, as .json")
	parts := cmd.Flags().Bool("parts", false, "write the parts instead of the devices, as .csv or .xlsx")
	cables := cmd.Flags().Bool("cables", false, "write the cables instead of the devices, as .csv, .xlsx or .dot")
	guests := cmd.Flags().Bool("guests", false, "write what runs where instead, as .csv, .xlsx, .dot or .mmd (Mermaid)")
	needs := cmd.Flags().Bool("needs", false, "write what needs what instead, as .dot or .mmd")
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		if err := knownFormat(args[0]); err != nil {
			return err
		}
		of := formats
		switch {
		case several(*sheets, *parts, *cables, *guests, *needs):
			return usageError{errors.New("--sheets, --parts, --cables, --guests and --needs are files of their own; save one after the other")}
		case *sheets:
			of = sheetsAlone
		case *parts:
			of = partsAlone
		case *cables:
			of = cablesAlone
		case *guests:
			of = guestsAlone
		case *needs:
			of = needsAlone
		}
		write := of[filepath.Ext(args[0])]
		if write == nil {
			return usageError{fmt.Errorf("save %s: only that is written as %s", args[0], strings.Join(slices.Sorted(maps.Keys(of)), " or "))}
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			var text bytes.Buffer
			l := st.Now().Lab
			if *share {
				l = lab.WithoutPrivate(l)
			}
			if err := write(&text, l); err != nil {
				return fmt.Errorf("save %s: %w", args[0], err)
			}
			return writeWhole(args[0], text.Bytes())
		})
	}
	return cmd
}

// several reports whether more than one of what excludes each other is asked for.
func several(asked ...bool) bool {
	n := 0
	for _, is := range asked {
		if is {
			n++
		}
	}
	return n > 1
}

// writeWhole writes a file beside the old one first, so that there is always
// a whole one.
func writeWhole(file string, text []byte) error {
	tmp, err := os.CreateTemp(filepath.Dir(file), store.TempPrefix+"*")
	if err != nil {
		return fmt.Errorf("save %s: %w", file, err)
	}
	_, err = tmp.Write(text)
	err = errors.Join(err, tmp.Sync(), tmp.Chmod(0o644), tmp.Close())
	if err == nil {
		err = os.Rename(tmp.Name(), file)
	}
	if err != nil {
		return fmt.Errorf("save %s: %w", file, errors.Join(err, os.Remove(tmp.Name())))
	}
	return nil
}
