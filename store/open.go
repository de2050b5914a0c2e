// Package store keeps a lab in a SQLite file: rows anyone can read with
// sqlite3, and a logbook of every change. One process writes, one change at a
// time; what Change returns is on the disk.
package store

import (
	"bytes"
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/gofrs/flock"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	"golang.org/x/sync/semaphore"

	_ "modernc.org/sqlite" // the database driver

	"levelstaff/core/lab"
)

// patience is how long a change waits for another program that has the file.
var patience = 5 * time.Second

// FileName is the file that a data directory keeps its lab in.
const FileName = "levelstaff.db"

// lockName is the file that the process which uses the directory holds.
const lockName = "levelstaff.lock"

//go:embed migrations/*.sql
var migrations embed.FS

// Open opens the lab in a data directory, which is made if it is not there.
// The file of another process, of a newer version or one that is damaged is
// refused, and is not written to.
func Open(ctx context.Context, dir string) (*Store, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("make the data directory: %w", err)
	}
	lock := flock.New(filepath.Join(dir, lockName))
	switch held, err := lock.TryLock(); {
	case err != nil:
		return nil, fmt.Errorf("lock the data directory %s: %w; it must be writable", dir, err)
	case !held:
		return nil, fmt.Errorf("another levelstaff is using %s; stop it first, or give this one a --data directory of its own", dir)
	}
	s, err := openFile(ctx, filepath.Join(dir, FileName))
	if err != nil {
		return nil, errors.Join(err, lock.Unlock())
	}
	s.lock, s.dir = lock, dir
	if err := ownersOnly(dir); err != nil {
		return nil, errors.Join(fmt.Errorf("keep others out of %s: %w", dir, err), s.Close())
	}
	if err := sweep(dir); err != nil {
		return nil, errors.Join(fmt.Errorf("remove what a killed levelstaff left in %s: %w", dir, err), s.Close())
	}
	return s, nil
}

// TempPrefix begins the names of what is there only while it is being written.
const TempPrefix = ".levelstaff-"

// sweep removes what a process that was killed was writing.
func sweep(dir string) error {
	var err error
	for _, in := range []string{dir, filepath.Join(dir, BackupDir)} {
		entries, e := os.ReadDir(in)
		if e != nil && !errors.Is(e, fs.ErrNotExist) {
			return e
		}
		for _, entry := range entries {
			if strings.HasPrefix(entry.Name(), TempPrefix) {
				err = errors.Join(err, os.RemoveAll(filepath.Join(in, entry.Name())))
			}
		}
	}
	return err
}

// RemoveUnused removes a data directory, unless a process uses it or it never
// was one.
func RemoveUnused(dir string) error {
	path := filepath.Join(dir, lockName)
	if _, err := os.Stat(path); err != nil {
		return nil
	}
	lock := flock.New(path)
	held, err := lock.TryLock()
	if err != nil || !held {
		return nil // it is another's
	}
	return errors.Join(os.RemoveAll(dir), lock.Unlock())
}

// ownersOnly takes from everyone else what they may do in a data directory and
// with the lab's file, also where these were made by other hands.
func ownersOnly(dir string) error {
	err := os.Chmod(dir, 0o700)
	for _, end := range sidecars {
		if e := os.Chmod(filepath.Join(dir, FileName)+end, 0o600); !errors.Is(e, fs.ErrNotExist) {
			err = errors.Join(err, e)
		}
	}
	return err
}

// inPlace makes sure that the file that is open is the one that the next start
// would open: what goes into one that was replaced or removed is lost.
func (s *Store) inPlace() error {
	now, err := os.Stat(s.path)
	if err == nil && os.SameFile(now, s.file) {
		return nil
	}
	return &Unwritable{"the lab's file was replaced or removed while levelstaff ran; stop it, put the file back or restore a backup with " +
		"levelstaff restore, and start it again. Nothing was changed", err}
}

func openFile(ctx context.Context, path string) (*Store, error) {
	if err := inspect(ctx, path, path); err != nil {
		return nil, err
	}
	db, err := connect(path, "rwc", "journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(ON)")
	if err != nil {
		return nil, err
	}
	reads, err := connect(path, "ro")
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	reads.SetMaxOpenConns(4)
	s := &Store{turn: semaphore.NewWeighted(1), clock: time.Now, path: path, db: db, reads: reads, stmts: map[string]*sql.Stmt{}}
	err = s.start(ctx)
	if err == nil {
		s.file, err = os.Stat(path)
	}
	if err != nil {
		return nil, errors.Join(fmt.Errorf("open %s: %w", path, notWritable(err)), reads.Close(), db.Close())
	}
	return s, nil
}

func (s *Store) start(ctx context.Context) error {
	provider, err := provider(s.db)
	if err != nil {
		return err
	}
	if _, err := provider.Up(ctx); err != nil {
		return err
	}
	return s.load(ctx)
}

func provider(db *sql.DB) (*goose.Provider, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, err
	}
	return goose.NewProvider(database.DialectSQLite3, db, files)
}

func connect(path, mode string, pragmas ...string) (*sql.DB, error) {
	query := url.Values{"mode": {mode}, "_txlock": {"immediate"}, "_pragma": append(pragmas, fmt.Sprintf("busy_timeout(%d)",
		patience.Milliseconds()))}
	dsn := url.URL{Scheme: "file", Opaque: (&url.URL{Path: path}).EscapedPath(), RawQuery: query.Encode()}
	db, err := sql.Open("sqlite", dsn.String())
	if err != nil {
		return nil, err
	}
	db.SetMaxOpenConns(1)
	return db, nil
}

// magic is what every SQLite file begins with.
var magic = []byte("SQLite format 3\x00")

// inspect refuses a file that this version must not write to; called is what the
// error calls it. What a killed program left half done SQLite finishes or takes
// back first.
func inspect(ctx context.Context, path, called string) (err error) {
	file, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return fmt.Errorf("read the lab: %w", err)
	}
	defer file.Close()
	head := make([]byte, len(magic))
	switch n, err := io.ReadFull(file, head); {
	case n == 0:
		return nil // made, but never written
	case err != nil || !bytes.Equal(head, magic):
		return damaged(called, "it is not a SQLite file")
	}
	mode := "ro"
	if left, err := os.Stat(path + "-journal"); err == nil && left.Size() > 0 {
		mode = "rw" // a hot journal is rolled back by who may write
	}
	db, err := connect(path, mode)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var verdict string
	if err := db.QueryRowContext(ctx, "PRAGMA quick_check(1)").Scan(&verdict); err != nil {
		return damaged(called, err.Error())
	}
	if verdict != "ok" {
		return damaged(called, verdict)
	}
	return tooNew(ctx, called, db)
}

func tooNew(ctx context.Context, path string, db *sql.DB) error {
	var tables int
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'").Scan(&tables); err != nil {
		return damaged(path, err.Error())
	}
	if tables == 0 {
		return nil
	}
	var version int64
	if err := db.QueryRowContext(ctx, "SELECT coalesce(max(version_id), 0) FROM goose_db_version").Scan(&version); err != nil {
		return damaged(path, err.Error())
	}
	p, err := provider(db)
	if err != nil {
		return err
	}
	newest := p.ListSources()[len(p.ListSources())-1].Version
	if version > newest {
		return fmt.Errorf("%s was written by a newer levelstaff (its tables are version %d, this one knows %d); install that version, or "+
			"move the file away and start afresh. Nothing was changed", path, version, newest)
	}
	return nil
}

func damaged(path, why string) error {
	return fmt.Errorf(
		"%s is damaged (%s); put a backup in its place with levelstaff restore, or move the file away and start afresh. Nothing was changed",
		path, why)
}

// Close ends the store's hold on the data directory.
func (s *Store) Close() error {
	err := errors.Join(s.reads.Close(), s.db.Close())
	if s.lock != nil {
		err = errors.Join(err, s.lock.Unlock())
	}
	return err
}

// load reads the whole lab and what can be undone.
func (s *Store) load(ctx context.Context) error {
	var changes []lab.Change
	l := lab.New()
	for _, kind := range lab.Kinds() {
		records, err := tables[kind.RecordKind].all(ctx, s.db)
		if err != nil {
			return err
		}
		for _, r := range records {
			if c, ok := l.Put(r); ok {
				changes = append(changes, c)
			}
		}
	}
	l, err := l.Apply(changes)
	if err != nil {
		return fmt.Errorf("the records contradict each other: %w; the file may have been edited by hand. Put a copy from a backup in its place",
			err)
	}
	revision, err := s.readHistory(ctx)
	if err != nil {
		return err
	}
	s.publish(l, revision)
	return nil
}
