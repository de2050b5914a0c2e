package store

import (
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
)

// A session or token is good for as long as there is a file of its own, which is
// empty and has the sum of its secret for a name. A row takes room to be removed,
// a file takes none: so whoever is signed out stays out, also where the disk is
// full and the server is started again.

// DoorDir is where these files are in a data directory.
const DoorDir = "doors"

// Files have sessions and tokens from the first of these versions on, and marks of
// them beside the file from the second.
const (
	doorTables = 2
	doorsSince = 15
)

func doorFile(dir string, secret []byte) string {
	return filepath.Join(dir, DoorDir, hex.EncodeToString(secret))
}

// mark makes a session or token good.
func (s *Store) mark(secret []byte) error { return mark(s.dir, secret) }

func mark(dir string, secret []byte) error {
	if err := os.MkdirAll(filepath.Join(dir, DoorDir), 0o700); err != nil {
		return unwritable(err)
	}
	f, err := os.OpenFile(doorFile(dir, secret), os.O_WRONLY|os.O_CREATE, 0o600)
	if err != nil {
		return unwritable(err)
	}
	return errors.Join(f.Close(), syncDir(filepath.Join(dir, DoorDir)))
}

func (s *Store) marked(secret []byte) bool { return has(doorFile(s.dir, secret)) }

// unmark ends sessions and tokens.
func (s *Store) unmark(secrets ...[]byte) error {
	var all error
	for _, secret := range secrets {
		if err := os.Remove(doorFile(s.dir, secret)); err != nil && !errors.Is(err, fs.ErrNotExist) {
			all = errors.Join(all, err)
		}
	}
	if err := syncDir(filepath.Join(s.dir, DoorDir)); err != nil && !errors.Is(err, fs.ErrNotExist) {
		all = errors.Join(all, err)
	}
	if all != nil {
		return unwritable(all)
	}
	return nil
}

// end ends ways in for good, and removes their rows: now, or where the disk takes
// nothing, with what it takes next.
func (s *Store) end(ctx context.Context, rows statement, secrets ...[]byte) error {
	if err := s.unmark(secrets...); err != nil {
		return err
	}
	if err := s.takeTurn(ctx); err != nil {
		return err
	}
	defer s.endTurn()
	err := s.asideInTurn(ctx, rows)
	if cannotNow(err) {
		s.ended = append(s.ended, rows)
		return nil
	}
	return err
}

// writeEnded tries once more to remove the rows of what was ended.
func (s *Store) writeEnded(ctx context.Context) {
	if err := s.takeTurn(ctx); err != nil {
		return
	}
	defer s.endTurn()
	if len(s.ended) > 0 {
		_ = s.asideInTurn(ctx) // if not, they are removed when the lab is opened next
	}
}

// markDoors makes all sessions and tokens of a file good that is from before there
// were marks.
func markDoors(ctx context.Context, dir string) (err error) {
	db, err := connect(filepath.Join(dir, FileName), "rw")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	all, err := secretsIn(ctx, db, "SELECT secret FROM sessions UNION SELECT secret FROM tokens")
	for _, secret := range all {
		err = errors.Join(err, mark(dir, secret))
	}
	return err
}

// tidyDoors removes rows without a mark, where there is room to, and marks without
// a row.
func (s *Store) tidyDoors(ctx context.Context) error {
	all, err := s.secrets(ctx, "SELECT secret FROM sessions UNION SELECT secret FROM tokens")
	if err != nil {
		return err
	}
	var names []string
	for _, secret := range all {
		names = append(names, hex.EncodeToString(secret))
		if s.marked(secret) {
			continue
		}
		for _, table := range []string{"sessions", "tokens"} {
			if err := s.end(ctx, statement{fmt.Sprintf("DELETE FROM %s WHERE secret = ?", table), []any{secret}}, secret); err != nil {
				return err
			}
		}
	}
	files, err := os.ReadDir(filepath.Join(s.dir, DoorDir))
	if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	for _, file := range files {
		if !slices.Contains(names, file.Name()) {
			if err := os.RemoveAll(filepath.Join(s.dir, DoorDir, file.Name())); err != nil {
				return err
			}
		}
	}
	return nil
}
