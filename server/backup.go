package server

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"time"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// backup sends a copy of the lab, which takes as long as the lab is large: one at
// a time, and piece by piece from the disk.
func (s *Server) backup(c fiber.Ctx) error {
	if !s.copying.TryAcquire(1) {
		c.Set(fiber.HeaderRetryAfter, "30")
		return problem(fiber.StatusServiceUnavailable, "Another backup is being made. Try again when it is done.")
	}
	defer s.copying.Release(1)
	dir, err := os.MkdirTemp(s.store.Dir(), store.TempPrefix)
	if err != nil {
		return fmt.Errorf("make room for a backup: %w", err)
	}
	made, err := openBackup(context.WithoutCancel(c.Context()), s.store.Dir(), dir)
	if err != nil {
		return errors.Join(err, os.RemoveAll(dir))
	}
	asFile(c, "levelstaff-"+string(lab.DayOf(time.Now()))+".db", "application/vnd.sqlite3")
	return c.SendStream(made, made.size)
}

// sentBackup is a file that goes, with its directory, when it was sent.
type sentBackup struct {
	*os.File
	dir  string
	size int
}

// openBackup makes a copy of the lab of one data directory in another.
func openBackup(ctx context.Context, from, dir string) (sentBackup, error) {
	path := filepath.Join(dir, "backup.db")
	if err := store.Backup(ctx, from, path); err != nil {
		return sentBackup{}, err
	}
	f, err := os.Open(path)
	if err != nil {
		return sentBackup{}, err
	}
	is, err := f.Stat()
	if err != nil {
		return sentBackup{}, errors.Join(err, f.Close())
	}
	return sentBackup{f, dir, int(is.Size())}, nil
}

// Close removes the file.
func (b sentBackup) Close() error { return errors.Join(b.File.Close(), os.RemoveAll(b.dir)) }
