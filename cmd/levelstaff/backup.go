package main

import (
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"levelstaff/store"
)

func backupCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "backup FILE",
		Short: "Write a copy of the lab to a file, also while it is being served",
		Args:  usage(cobra.ExactArgs(1)),
	}
	data := dataFlag(cmd)
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		if err := store.Backup(cmd.Context(), *data, args[0]); err != nil {
			return err
		}
		_, err := fmt.Fprintln(cmd.OutOrStdout(), "backed up to", args[0])
		return err
	}
	return cmd
}

func restoreCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "restore FILE",
		Short: "Replace the lab with a backup, after checking it; what it replaces is kept",
		Args:  usage(cobra.ExactArgs(1)),
	}
	data := dataFlag(cmd)
	cmd.RunE = func(cmd *cobra.Command, args []string) error {
		is, err := store.Restore(cmd.Context(), *data, args[0], time.Now())
		out := cmd.OutOrStdout()
		if is.Finished != "" {
			fmt.Fprintln(out, is.Finished)
		}
		if err != nil {
			return err
		}
		if is.Kept != "" {
			fmt.Fprintln(out, "what was there is kept in", is.Kept)
		}
		_, err = fmt.Fprintln(out, "restored from", args[0], "- everyone has to sign in again, and tokens have to be made again")
		return err
	}
	return cmd
}
