package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/gofrs/flock"
)

// BackupDir is where the daily backups of a data directory are.
const BackupDir = "backups"

// Backup writes a copy of the lab in a data directory to a file, also while
// another process works in it. The passphrase's hash, sessions and tokens are
// left out. A file that is there already is refused.
func Backup(ctx context.Context, dir, file string) (err error) {
	path := filepath.Join(dir, FileName)
	if _, err := os.Stat(path); err != nil {
		return fmt.Errorf("back up: there is no lab in %s", dir)
	}
	if _, err := os.Lstat(file); err == nil {
		return fmt.Errorf("back up: %s already exists; give another name", file)
	}
	if err := inspect(ctx, path, path); err != nil {
		return fmt.Errorf("back up: %w", err)
	}
	tmp := filepath.Join(filepath.Dir(file), TempPrefix+"backup-"+filepath.Base(file))
	defer func() { err = errors.Join(err, removeAll(tmp)) }()
	if err := copyLab(ctx, path, tmp); err != nil {
		return fmt.Errorf("back up to %s: %w", file, notWritable(err))
	}
	if err := settle(tmp, file); err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	return nil
}

// copyLab makes a copy that is whole, of one moment, and holds no way in: what
// can be fetched with a token that only reads must not let anyone in.
func copyLab(ctx context.Context, from, to string) error {
	if err := removeAll(to); err != nil {
		return err
	}
	db, err := connect(from, "ro")
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "VACUUM INTO ?", to)
	if err := errors.Join(err, db.Close()); err != nil {
		return err
	}
	if err := os.Chmod(to, 0o600); err != nil {
		return err
	}
	made, err := connect(to, "rw", "synchronous(FULL)")
	if err != nil {
		return err
	}
	err = withoutDoors(ctx, made)
	if err == nil {
		_, err = made.ExecContext(ctx, "VACUUM") // so that nothing of it is left in free pages
	}
	return errors.Join(err, made.Close())
}

// withoutDoors takes every way in out of a file: the hash of the passphrase, who
// is signed in, tokens.
func withoutDoors(ctx context.Context, db *sql.DB) error {
	for _, table := range []string{"owner", "sessions", "tokens"} {
		var n int
		err := db.QueryRowContext(ctx, "SELECT count(*) FROM sqlite_master WHERE name = ?", table).Scan(&n)
		if err == nil && n == 1 {
			_, err = db.ExecContext(ctx, "DELETE FROM "+table)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// ownLock is the hash of the passphrase of the lab that is in a data directory;
// "" where there is no lab, or no passphrase, or the file cannot be read.
func ownLock(ctx context.Context, path string) string {
	if _, err := os.Stat(path); err != nil {
		return ""
	}
	db, err := connect(path, "rw")
	if err != nil {
		return ""
	}
	defer db.Close()
	var hash string
	if db.QueryRowContext(ctx, "SELECT passphrase FROM owner").Scan(&hash) != nil {
		return ""
	}
	return hash
}

// settle gives a file that is whole its name, and keeps both on the disk.
func settle(tmp, file string) error {
	f, err := os.OpenFile(tmp, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	if err := errors.Join(f.Sync(), f.Close()); err != nil {
		return err
	}
	if err := os.Rename(tmp, file); err != nil {
		return err
	}
	return syncDir(filepath.Dir(file))
}

func syncDir(dir string) error {
	d, err := os.Open(dir)
	if err != nil {
		return err
	}
	return errors.Join(d.Sync(), d.Close())
}

// Restore puts a backup in the place of the lab in a data directory, after
// making sure that it is one: a whole SQLite file of a version this program
// knows, with records that go together. What it replaces is kept beside it;
// kept is its name, "" if there was nothing. No other process may be using the
// directory.
func Restore(ctx context.Context, dir, file string, at time.Time) (kept string, err error) {
	if _, err := os.Stat(file); err != nil {
		return "", fmt.Errorf("restore: %w", err)
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", fmt.Errorf("restore: make the data directory: %w", err)
	}
	lock := flock.New(filepath.Join(dir, lockName))
	switch held, err := lock.TryLock(); {
	case err != nil:
		return "", fmt.Errorf("restore: lock the data directory %s: %w; it must be writable", dir, err)
	case !held:
		return "", fmt.Errorf("restore: another levelstaff is using %s; stop it first", dir)
	}
	defer func() { err = errors.Join(err, lock.Unlock()) }()
	tmp := filepath.Join(dir, TempPrefix+"restore.db")
	defer func() { err = errors.Join(err, removeAll(tmp)) }()
	if err := try(ctx, file, tmp, ownLock(ctx, filepath.Join(dir, FileName))); err != nil {
		return "", fmt.Errorf("restore: nothing was changed: %w", err)
	}
	path := filepath.Join(dir, FileName)
	if isThere(path) { // also where only the journal of a file that is gone is left, which would be taken for the new one's
		kept = freeName(filepath.Join(dir, "levelstaff-replaced-"+at.Format("20060102-150405")))
		if err := moveAside(path, kept); err != nil {
			return "", fmt.Errorf("restore: keep what is there: %w", err)
		}
	}
	if err := settle(tmp, path); err != nil {
		return kept, fmt.Errorf("restore: %w", err)
	}
	return kept, nil
}

// try copies a backup, with what SQLite has not put into the file yet, and opens
// the copy as a lab, with all the checks that this makes. The copy gets the lock
// of the lab it replaces, and no other way in.
func try(ctx context.Context, file, tmp, lock string) error {
	if err := removeAll(tmp); err != nil {
		return err
	}
	for _, end := range []string{"", "-wal", "-journal"} {
		if err := copyFile(file+end, tmp+end); err != nil && (end == "" || !errors.Is(err, fs.ErrNotExist)) {
			return err
		}
	}
	if err := inspect(ctx, tmp, file); err != nil {
		return err
	}
	if err := isLab(ctx, tmp, file); err != nil {
		return err
	}
	s, err := openFile(ctx, tmp)
	if err != nil {
		return err
	}
	var verdict string
	err = s.db.QueryRowContext(ctx, "PRAGMA integrity_check(1)").Scan(&verdict)
	if err == nil && verdict != "ok" {
		err = damaged(file, verdict)
	}
	if err == nil {
		err = withoutDoors(ctx, s.db)
	}
	if err == nil && lock != "" {
		err = s.SetPassphrase(ctx, lock)
	}
	if err == nil {
		_, err = s.db.ExecContext(ctx, "PRAGMA journal_mode(DELETE)")
	}
	return errors.Join(err, s.Close())
}

// isLab refuses a file that levelstaff did not write: an empty one, or another
// program's.
func isLab(ctx context.Context, path, called string) (err error) {
	db, err := connect(path, "rw")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	const own = 4
	var tables int
	err = db.QueryRowContext(ctx,
		"SELECT count(*) FROM sqlite_master WHERE type = 'table' AND name IN ('goose_db_version', 'logbook', 'racks', 'devices')").Scan(&tables)
	switch {
	case err != nil:
		return damaged(called, err.Error())
	case tables < own:
		return fmt.Errorf("%s is no lab of levelstaff; give a file that levelstaff backup made, or a levelstaff.db", called)
	}
	return nil
}

// isThere reports whether a database or a journal of one is at a path.
func isThere(path string) bool {
	return slices.ContainsFunc(sidecars, func(end string) bool { _, err := os.Lstat(path + end); return err == nil })
}

// freeName is a name for a database that nothing has yet.
func freeName(base string) string {
	name := base + ".db"
	for n := 2; isThere(name); n++ {
		name = fmt.Sprintf("%s-%d.db", base, n)
	}
	return name
}

func copyFile(from, to string) (err error) {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}

// sidecars are what SQLite keeps beside a file.
var sidecars = []string{"", "-wal", "-shm", "-journal"}

func removeAll(path string) error {
	var all error
	for _, end := range sidecars {
		if err := os.Remove(path + end); err != nil && !errors.Is(err, fs.ErrNotExist) {
			all = errors.Join(all, err)
		}
	}
	return all
}

func moveAside(path, to string) error {
	for _, end := range sidecars {
		if err := os.Rename(path+end, to+end); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

// DailyBackup makes today's backup in the data directory unless it is there,
// and removes the oldest ones so that keep are left. made is its file, "" if
// there was nothing to do.
func (s *Store) DailyBackup(ctx context.Context, day time.Time, keep int) (made string, err error) {
	dir := filepath.Join(s.dir, BackupDir)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return "", fmt.Errorf("make the backup directory: %w", err)
	}
	file := filepath.Join(dir, backupName(day))
	if _, err := os.Stat(file); err == nil {
		return "", nil
	}
	if err := Backup(ctx, s.dir, file); err != nil {
		return "", err
	}
	names, err := dailyBackups(dir)
	if err != nil {
		return file, err
	}
	for _, old := range names[:max(0, len(names)-keep)] {
		err = errors.Join(err, os.Remove(filepath.Join(dir, old)))
	}
	return file, err
}

func backupName(day time.Time) string { return "levelstaff-" + day.Format(time.DateOnly) + ".db" }

// dailyBackups lists the daily backups of a directory, the oldest first. Files
// that were put there under other names are not among them.
func dailyBackups(dir string) ([]string, error) {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return nil, err
	}
	var names []string
	for _, e := range entries {
		day, ok := strings.CutPrefix(strings.TrimSuffix(e.Name(), ".db"), "levelstaff-")
		if _, err := time.Parse(time.DateOnly, day); ok && err == nil && strings.HasSuffix(e.Name(), ".db") {
			names = append(names, e.Name())
		}
	}
	slices.Sort(names)
	return names, nil
}
