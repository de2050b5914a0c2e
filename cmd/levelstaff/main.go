// Command levelstaff documents a home lab. One binary serves the pages, keeps
// the records and does from the command line what the pages do.
package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
	_ "modernc.org/sqlite" // the database driver that the store asks for

	"levelstaff/store"
)

// version is set when a release is built.
var version = "dev"

// Exit statuses, as docs/how-it-works.md promises them.
const (
	failed     = 1
	wrongUsage = 2
)

// usageError is a command that was typed wrong.
type usageError struct{ error }

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	context.AfterFunc(ctx, stop) // a second signal does not wait
	if err := root().ExecuteContext(ctx); err != nil {
		fmt.Fprintln(os.Stderr, "levelstaff:", err)
		os.Exit(status(err))
	}
}

func status(err error) int {
	var usage usageError
	if errors.As(err, &usage) {
		return wrongUsage
	}
	return failed
}

func root() *cobra.Command {
	cmd := &cobra.Command{
		Use:           "levelstaff",
		Short:         "Documents a home lab: what is in the rack, and what still fits",
		SilenceErrors: true,
		SilenceUsage:  true,
		Args:          usage(cobra.NoArgs),
		RunE:          func(cmd *cobra.Command, _ []string) error { return cmd.Help() },
	}
	cmd.SetFlagErrorFunc(func(_ *cobra.Command, err error) error {
		return usageError{fmt.Errorf("%w; see levelstaff --help", err)}
	})
	cmd.AddCommand(serveCommand(), demoCommand(), loadCommand(), saveCommand(), reportCommand(), backupCommand(), restoreCommand(),
		passphraseCommand(), versionCommand())
	return cmd
}

// usage marks what a check of the arguments refuses as wrong usage.
func usage(check cobra.PositionalArgs) cobra.PositionalArgs {
	return func(cmd *cobra.Command, args []string) error {
		if err := check(cmd, args); err != nil {
			return usageError{fmt.Errorf("%w; see %s --help", err, cmd.CommandPath())}
		}
		return nil
	}
}

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		Args:  usage(cobra.NoArgs),
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := fmt.Fprintln(cmd.OutOrStdout(), "levelstaff", version)
			return err
		},
	}
}

// withLab opens the lab in a data directory for as long as do takes.
func withLab(ctx context.Context, dir string, do func(*store.Store) error) error {
	return withLabOpened(ctx, store.Opening{Version: version}, dir, do)
}

func withLabOpened(ctx context.Context, how store.Opening, dir string, do func(*store.Store) error) error {
	st, err := how.Open(ctx, dir)
	if err != nil {
		return err
	}
	for _, said := range st.Told() {
		slog.Warn(said)
	}
	return errors.Join(do(st), st.Close())
}

// dataFlag adds --data, the directory that holds the lab.
func dataFlag(cmd *cobra.Command) *string {
	return cmd.Flags().String("data", "data", "the directory that keeps the lab")
}
