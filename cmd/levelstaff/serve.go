package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"os"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/spf13/cobra"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/demo"
	"levelstaff/server"
	"levelstaff/store"
	"levelstaff/web"
)

const defaultListen = "127.0.0.1:8640"

func serveCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the lab to a browser on this machine",
		Args:  usage(cobra.NoArgs),
	}
	data := dataFlag(cmd)
	listen := cmd.Flags().String("listen", defaultListen, "the address to listen on, HOST:PORT")
	cmd.RunE = func(cmd *cobra.Command, _ []string) error {
		if err := loopback(*listen); err != nil {
			return err
		}
		return withLab(cmd.Context(), *data, func(st *store.Store) error { return serve(cmd, st, *listen) })
	}
	return cmd
}

func demoCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Serve the demo lab, Quarry House; what is changed there is forgotten",
		Args:  usage(cobra.NoArgs),
	}
	listen := cmd.Flags().String("listen", defaultListen, "the address to listen on, HOST:PORT")
	cmd.RunE = func(cmd *cobra.Command, _ []string) (err error) {
		if err := loopback(*listen); err != nil {
			return err
		}
		dir, err := os.MkdirTemp("", "levelstaff-demo-")
		if err != nil {
			return fmt.Errorf("make a directory for the demo: %w", err)
		}
		defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
		return withLab(cmd.Context(), dir, func(st *store.Store) error {
			if err := loadDemo(cmd.Context(), st); err != nil {
				return err
			}
			return serve(cmd, st, *listen)
		})
	}
	return cmd
}

func loadDemo(ctx context.Context, st *store.Store) error {
	texts, err := demo.Texts()
	if err != nil {
		return err
	}
	var docs []rundown.Document
	for _, text := range texts {
		docs = append(docs, rundown.Parse(text))
	}
	_, err = st.Change(ctx, 0, "the demo lab", func(l *lab.Lab) ([]lab.Change, error) {
		p := rundown.Load(l, rundown.Join(docs...), rundown.Options{All: true, NewID: server.NewID})
		if len(p.Mistakes) > 0 {
			return nil, fmt.Errorf("the demo lab: %w", p.Mistakes[0])
		}
		return p.Changes, nil
	})
	return err
}

// loopback refuses to listen for other machines: there is no sign-in yet.
func loopback(listen string) error {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		return usageError{fmt.Errorf("--listen %s: write HOST:PORT, such as %s", listen, defaultListen)}
	}
	if ip := net.ParseIP(host); host != "localhost" && (ip == nil || !ip.IsLoopback()) {
		return usageError{fmt.Errorf("--listen %s: only this machine may connect, as there is no sign-in; write 127.0.0.1 for the host", listen)}
	}
	return nil
}

func serve(cmd *cobra.Command, st *store.Store, listen string) error {
	pages, err := fs.Sub(web.Pages, "dist")
	if err != nil {
		return err
	}
	app, err := server.New(st, pages, version)
	if err != nil {
		return err
	}
	var config net.ListenConfig
	ln, err := config.Listen(cmd.Context(), "tcp", listen)
	if err != nil {
		return fmt.Errorf("%w; pick another address with --listen", err)
	}
	slog.Info("serving", "url", "http://"+ln.Addr().String()+"/", "revision", st.Now().Revision)
	return app.Listener(ln, fiber.ListenConfig{
		DisableStartupMessage: true, GracefulContext: cmd.Context(), ShutdownTimeout: 5 * time.Second,
	})
}
