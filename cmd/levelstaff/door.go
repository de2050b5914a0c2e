package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"levelstaff/server"
	"levelstaff/store"
)

func passphraseCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "passphrase",
		Short: "Set the owner's passphrase; everyone signed in is signed out",
		Long: "Set the owner's passphrase; everyone signed in is signed out.\n\nIt is asked for twice on a terminal, or read as one line " +
			"from standard input. With a\n" +
			"passphrase every page and every request needs it, or a token, from this machine too.",
		Args: usage(cobra.NoArgs),
	}
	data := dataFlag(cmd)
	cmd.RunE = func(cmd *cobra.Command, _ []string) error {
		return withLab(cmd.Context(), *data, func(st *store.Store) error {
			passphrase, err := readPassphrase(cmd, "Passphrase: ")
			if err != nil {
				return err
			}
			return setPassphrase(cmd.Context(), st, passphrase)
		})
	}
	return cmd
}

func setPassphrase(ctx context.Context, st *store.Store, passphrase string) error {
	hash, err := server.HashPassphrase(passphrase)
	if err != nil {
		return err
	}
	return st.SetPassphrase(ctx, hash)
}

// terminal is the terminal that a command is typed in, if it is one.
func terminal(cmd *cobra.Command) (fd int, ok bool) {
	in, isFile := cmd.InOrStdin().(*os.File)
	if !isFile || !term.IsTerminal(int(in.Fd())) {
		return 0, false
	}
	return int(in.Fd()), true
}

func readPassphrase(cmd *cobra.Command, prompt string) (string, error) {
	fd, ok := terminal(cmd)
	if !ok {
		line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
		if err != nil && !errors.Is(err, io.EOF) {
			return "", fmt.Errorf("read the passphrase: %w", err)
		}
		return strings.TrimRight(line, "\r\n"), nil
	}
	out := cmd.ErrOrStderr()
	fmt.Fprint(out, prompt)
	first, err := term.ReadPassword(fd)
	fmt.Fprintln(out)
	if err != nil || len(first) == 0 {
		return "", err
	}
	fmt.Fprint(out, "Once more: ")
	second, err := term.ReadPassword(fd)
	fmt.Fprintln(out)
	if err == nil && string(first) != string(second) {
		err = errors.New("the two do not match; nothing was set")
	}
	return string(first), err
}

// askFirst offers to set a passphrase where a lab is served for the first time
// from a terminal.
func askFirst(cmd *cobra.Command, st *store.Store) error {
	if _, ok := terminal(cmd); !ok || st.Now().Revision > 0 {
		return nil
	}
	if hash, err := st.Passphrase(cmd.Context()); err != nil || hash != "" {
		return err
	}
	passphrase, err := readPassphrase(
		cmd, "This lab is new. Set a passphrase to lock it, or press Enter to leave it open to this machine.\nPassphrase: ")
	if err != nil || passphrase == "" {
		return err
	}
	return setPassphrase(cmd.Context(), st, passphrase)
}
