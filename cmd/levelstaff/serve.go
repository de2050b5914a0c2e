package main

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/spf13/cobra"

	"levelstaff/demo"
	"levelstaff/server"
	"levelstaff/store"
	"levelstaff/web"
)

const defaultListen = "127.0.0.1:8640"

// doorFlags are how the server is reached.
type doorFlags struct {
	listen, outer, cert, key string
}

func (f *doorFlags) add(cmd *cobra.Command) {
	cmd.Flags().StringVar(&f.listen, "listen", defaultListen, "the address to listen on, HOST:PORT")
	cmd.Flags().StringVar(&f.outer, "outer-url", "", "the address people type, behind a proxy: https://lab.example.net")
	cmd.Flags().StringVar(&f.cert, "tls-cert", "", "a certificate file, to speak TLS without a proxy")
	cmd.Flags().StringVar(&f.key, "tls-key", "", "and its key file")
}

func serveCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "serve",
		Short: "Serve the lab to a browser",
		Long: "Serve the lab to a browser.\n\nOnly this machine may connect, unless --listen says otherwise; that takes an owner's\n" +
			"passphrase (levelstaff passphrase), and should go over TLS: behind a proxy with\n--outer-url, or with --tls-cert and --tls-key.",
		Args: usage(cobra.NoArgs),
	}
	data := dataFlag(cmd)
	var door doorFlags
	door.add(cmd)
	anew := cmd.Flags().Bool("new", false, "begin an empty lab, also in a directory that has backups or a replaced lab and no lab")
	keep := cmd.Flags().Int("keep-backups", 14, "how many daily backups to keep in the data directory; 0 for none")
	cmd.RunE = func(cmd *cobra.Command, _ []string) error {
		config, err := door.config()
		if err != nil {
			return err
		}
		if *keep < 0 || *keep > 10_000 {
			return usageError{fmt.Errorf("--keep-backups %d: write a number from 0 to 10000", *keep)}
		}
		how := store.Opening{Version: version, Anew: *anew}
		return withLabOpened(cmd.Context(), how, *data, func(st *store.Store) error {
			if err := askFirst(cmd, st); err != nil {
				return err
			}
			if err := mayListen(cmd.Context(), st, config, door.listen, *data); err != nil {
				return err
			}
			ctx, cancel := context.WithCancel(cmd.Context())
			var backups sync.WaitGroup
			defer backups.Wait()
			defer cancel()
			if *keep > 0 {
				backups.Go(func() { backUpDaily(ctx, st, *keep) })
			}
			return serve(cmd, st, door, config)
		})
	}
	return cmd
}

func demoCommand() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "demo",
		Short: "Serve the demo lab, Quarry House; changes to it are not kept",
		Args:  usage(cobra.NoArgs),
	}
	listen := cmd.Flags().String("listen", defaultListen, "the address to listen on, HOST:PORT")
	cmd.RunE = func(cmd *cobra.Command, _ []string) (err error) {
		door := doorFlags{listen: *listen}
		config, err := door.config()
		if err != nil {
			return err
		}
		if err := sweepDemos(); err != nil {
			return err
		}
		dir, err := os.MkdirTemp("", demoDir)
		if err != nil {
			return fmt.Errorf("make a directory for the demo: %w", err)
		}
		defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
		return withLab(cmd.Context(), dir, func(st *store.Store) error {
			if err := mayListen(cmd.Context(), st, config, door.listen, dir); err != nil {
				return err
			}
			if err := loadDemo(cmd.Context(), st); err != nil {
				return err
			}
			return serve(cmd, st, door, config)
		})
	}
	return cmd
}

// demoDir is what the directories of running demos are called.
const demoDir = "levelstaff-demo-"

// sweepDemos removes what demos that were killed left behind.
func sweepDemos() error {
	left, err := filepath.Glob(filepath.Join(os.TempDir(), demoDir+"*"))
	for _, dir := range left {
		err = errors.Join(err, store.RemoveUnused(dir))
	}
	return err
}

// loadDemo lives through Quarry House's past.
func loadDemo(ctx context.Context, st *store.Store) error {
	moments, err := demo.History(time.Now(), server.NewID)
	if err != nil {
		return err
	}
	pictures, err := demo.Pictures()
	if err != nil {
		return err
	}
	for _, p := range pictures {
		if err := st.AddPicture(ctx, p); err != nil {
			return err
		}
	}
	defer st.SetClock(time.Now)
	for _, m := range moments {
		st.SetClock(func() time.Time { return m.At })
		if _, err := st.Change(ctx, st.Now().Revision, m.Label, m.Build); err != nil {
			return err
		}
	}
	return nil
}

// config checks the flags and turns them into what the server goes by.
func (f doorFlags) config() (server.Config, error) {
	config := server.Config{Version: version, TLS: f.cert != ""}
	host, _, err := net.SplitHostPort(f.listen)
	if err != nil {
		return config, usageError{fmt.Errorf("--listen %s: write HOST:PORT, such as %s", f.listen, defaultListen)}
	}
	ip := net.ParseIP(host)
	config.Wide = host != "localhost" && (ip == nil || !ip.IsLoopback())
	if (f.cert == "") != (f.key == "") {
		return config, usageError{errors.New("--tls-cert and --tls-key go together")}
	}
	if f.outer != "" {
		config.Outer, err = url.Parse(strings.TrimSuffix(f.outer, "/"))
		if err != nil || config.Outer.Host == "" || config.Outer.Path != "" || config.Outer.Scheme != "https" && config.Outer.Scheme != "http" {
			return config, usageError{fmt.Errorf("--outer-url %s: write the address people type, such as https://lab.example.net", f.outer)}
		}
	}
	return config, nil
}

// mayListen refuses to serve an unlocked lab to other machines.
func mayListen(ctx context.Context, st *store.Store, config server.Config, listen, data string) error {
	if !config.Wide && config.Outer == nil {
		return nil
	}
	hash, err := st.Passphrase(ctx)
	if err != nil {
		return err
	}
	if hash == "" {
		what := "--listen " + listen
		if config.Outer != nil {
			what = "--outer-url " + config.Outer.String()
		}
		return usageError{fmt.Errorf(
			"%s accepts other machines, and the lab has no passphrase yet; set one with levelstaff passphrase --data %s", what, data)}
	}
	return nil
}

// backUpDaily makes a backup at once if today's is missing, and then looks
// every hour.
func backUpDaily(ctx context.Context, st *store.Store, keep int) {
	hourly := time.NewTicker(time.Hour)
	defer hourly.Stop()
	for {
		made, err := st.DailyBackup(ctx, time.Now(), keep)
		if err != nil && ctx.Err() == nil {
			slog.Error("the daily backup failed", "error", err)
		} else if made != "" {
			slog.Info("backed up", "file", made)
		}
		select {
		case <-hourly.C:
		case <-ctx.Done():
			return
		}
	}
}

func serve(cmd *cobra.Command, st *store.Store, door doorFlags, config server.Config) error {
	pages, err := fs.Sub(web.Pages, "dist")
	if err != nil {
		return err
	}
	config.Document = web.Document()
	app, err := server.New(cmd.Context(), st, pages, config)
	if err != nil {
		return err
	}
	var tcp net.ListenConfig
	ln, err := tcp.Listen(cmd.Context(), "tcp", door.listen)
	if err != nil {
		return fmt.Errorf("%w; pick another address with --listen", err)
	}
	ln = server.Patient(ln)
	scheme := "http"
	if config.TLS {
		pair, err := tls.LoadX509KeyPair(door.cert, door.key)
		if err != nil {
			return errors.Join(fmt.Errorf("read the certificate: %w", err), ln.Close())
		}
		ln = tls.NewListener(ln, &tls.Config{Certificates: []tls.Certificate{pair}, MinVersion: tls.VersionTLS12})
		scheme = "https"
	}
	if config.Wide && !config.Secure() {
		slog.Warn("other machines reach this lab without TLS, so the passphrase can be read in transit; use --tls-cert and --tls-key, or a " +
			"proxy and --outer-url")
	}
	slog.Info("serving", "url", scheme+"://"+ln.Addr().String()+"/", "revision", st.Now().Revision)
	return untilTold(cmd.Context(), app, ln)
}

// grace is how long requests that are under way may take to finish once the
// server is told to stop.
const grace = 20 * time.Second

// untilTold serves until the context ends, and then until what is under way is
// answered, or the grace time is over.
func untilTold(ctx context.Context, app *fiber.App, ln net.Listener) error {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	stopped := make(chan error, 1)
	go func() {
		<-ctx.Done()
		err := app.ShutdownWithTimeout(grace)
		// One that was told before it served would begin now, and never be told again.
		_ = ln.Close()
		stopped <- err
	}()
	err := app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true})
	if err != nil {
		return err
	}
	if err := <-stopped; errors.Is(err, context.DeadlineExceeded) {
		slog.Warn("stopped with requests unanswered", "after", grace)
	} else if err != nil {
		return err
	}
	return nil
}
