package store

import (
	"context"
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
	if has(file) {
		return fmt.Errorf("back up: %s already exists; give another name", file)
	}
	if err := isLab(ctx, path, path); err != nil {
		return fmt.Errorf("back up: %w", err)
	}
	if err := clearWorkrooms(filepath.Dir(file)); err != nil {
		return fmt.Errorf("back up to %s: remove what a killed backup left: %w", file, err)
	}
	room, err := openWorkroom(filepath.Dir(file))
	if err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	defer func() { err = errors.Join(err, room.close()) }()
	tmp := room.path(filepath.Base(file))
	if err := copyLab(ctx, path, "ro", tmp, false, path); err != nil {
		return fmt.Errorf("back up to %s: %w", file, notWritable(err))
	}
	if err := settle(tmp, file); err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
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

// settle gives a file that is whole its name, for its owner alone, and keeps both
// on the disk.
func settle(tmp, file string) error {
	f, err := os.OpenFile(tmp, os.O_RDWR, 0)
	if err != nil {
		return err
	}
	if err := errors.Join(f.Chmod(0o600), f.Sync(), f.Close()); err != nil {
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

// Restored is what a restore leaves.
type Restored struct {
	// Kept is the file with the lab that it replaced, "" if there was none.
	Kept string
	// Finished says that an earlier restore was finished first, "" if none was interrupted.
	Finished string
}

// Restore puts a backup in the place of the lab in a data directory, after
// making sure that it is one: a whole SQLite file of a version this program
// knows, with the schema of that version and nothing else, with records that go
// together and a logbook that can be read. Its rows go into a fresh file. What it
// replaces is kept beside it. A restore that was interrupted there is finished
// first. No other process may be using the directory.
func Restore(ctx context.Context, dir, file string, at time.Time) (is Restored, err error) {
	if _, err := os.Stat(file); err != nil {
		return is, fmt.Errorf("restore: %w", err)
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return is, fmt.Errorf("restore: make the data directory: %w", err)
	}
	lock := flock.New(filepath.Join(dir, lockName))
	switch held, err := lock.TryLock(); {
	case err != nil:
		return is, fmt.Errorf("restore: lock the data directory %s: %w; it must be writable", dir, err)
	case !held:
		return is, fmt.Errorf("restore: another levelstaff is using %s; stop it first", dir)
	}
	defer func() { err = errors.Join(err, lock.Unlock()) }()
	if is.Finished, err = finishRestore(dir); err != nil {
		return is, fmt.Errorf("restore: %w", err)
	}
	given, made := filepath.Join(dir, TempPrefix+"given.db"), filepath.Join(dir, TempPrefix+"restore.db")
	defer func() { err = errors.Join(err, removeAll(given), removeAll(made)) }()
	if err := try(ctx, file, given, made, ownLock(ctx, filepath.Join(dir, FileName))); err != nil {
		return is, fmt.Errorf("restore: nothing was changed: %w", err)
	}
	if is.Kept, err = replace(dir, made, at); err != nil {
		return is, fmt.Errorf("restore: %w", err)
	}
	return is, nil
}

// try copies a backup, with what SQLite has not put into the file yet, and makes
// a lab of it, with all the checks there are. The lab gets the lock of the one it
// replaces, and no other way in.
func try(ctx context.Context, file, given, made, lock string) error {
	if err := errors.Join(removeAll(given), removeAll(made)); err != nil {
		return err
	}
	for _, end := range []string{"", "-wal", "-journal"} {
		if err := copyFile(file+end, given+end); err != nil && (end == "" || !errors.Is(err, fs.ErrNotExist)) {
			return err
		}
	}
	if err := isLab(ctx, given, file); err != nil {
		return err
	}
	if err := copyLab(ctx, given, "rw", made, true, file); err != nil {
		return err
	}
	s, err := openFile(ctx, made)
	if err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	var verdict string
	err = s.db.QueryRowContext(ctx, "PRAGMA integrity_check(1)").Scan(&verdict)
	if err == nil && verdict != "ok" {
		err = damaged(file, verdict)
	}
	if err == nil {
		err = s.readLogbook(ctx, file)
	}
	if err == nil && lock != "" {
		err = s.aside(ctx, statement{"INSERT INTO owner (one, passphrase) VALUES (1, ?)", []any{lock}})
	}
	if err == nil {
		_, err = s.db.ExecContext(ctx, "PRAGMA journal_mode(DELETE)")
	}
	return errors.Join(err, s.Close())
}

// isLab refuses a file that levelstaff did not write: an empty one, or another
// program's.
func isLab(ctx context.Context, path, called string) error {
	version, err := inspect(ctx, path, called)
	if err != nil {
		return err
	}
	if version == 0 {
		return fmt.Errorf("%s is not a levelstaff lab; give a file that levelstaff backup made, or a levelstaff.db", called)
	}
	return nil
}

// isThere reports whether a database or a journal of one is at a path.
func isThere(path string) bool {
	return slices.ContainsFunc(sidecars, func(end string) bool { return has(path + end) })
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

// setAsideLeftovers keeps what SQLite left beside a file that is gone: it would be
// thrown away with the first thing that is written.
func setAsideLeftovers(path string) error {
	if !has(path) && isThere(path) {
		return moveAside(path, freeName(filepath.Join(filepath.Dir(path), replaced+"leftover")))
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
