// Package store keeps a lab in a SQLite file: rows anyone can read with
// sqlite3, and a logbook of every change. One process writes, one change at a
// time; what Change returns is on the disk. The program that uses it imports the
// driver called "sqlite", so that what needs no database compiles without it.
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
	"slices"
	"strings"
	"time"

	"github.com/gofrs/flock"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	"golang.org/x/sync/semaphore"

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

// Opening is how a lab is opened, besides where it is.
type Opening struct {
	Version string // of the program, kept in the file; "" leaves what is there
	Anew    bool   // begin an empty lab also where there are signs of one
}

// Open opens the lab in a data directory, which is made if it is not there.
// The file of another process, of a newer version or one that is damaged is
// refused, and is not written to. So is a directory that has backups of a lab, or
// one that was replaced, and no lab.
func Open(ctx context.Context, dir string) (*Store, error) { return Opening{}.Open(ctx, dir) }

// Open is Open with more said; see Store.Told for what it did besides.
func (how Opening) Open(ctx context.Context, dir string) (*Store, error) {
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
	s, err := how.open(ctx, dir)
	if err != nil {
		return nil, errors.Join(err, lock.Unlock())
	}
	s.lock = lock
	if err := s.settleIn(ctx, how.Version); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

func (how Opening) open(ctx context.Context, dir string) (*Store, error) {
	var told []string
	tell := func(said string) {
		if said != "" {
			told = append(told, said)
		}
	}
	said, err := finishRestore(dir)
	if err != nil {
		return nil, err
	}
	tell(said)
	if !how.Anew {
		if err := mayBegin(dir); err != nil {
			return nil, err
		}
	}
	path := filepath.Join(dir, FileName)
	version, err := inspect(ctx, path, path)
	if err != nil {
		return nil, err
	}
	if version > 0 && version < newest() {
		if said, err = keepOld(ctx, dir, version); err != nil {
			return nil, err
		}
		tell(said)
	}
	if version >= doorTables && version < doorsSince {
		if err := markDoors(ctx, dir); err != nil {
			return nil, err
		}
	}
	if is, err := os.Stat(path); err != nil || is.Size() == 0 {
		if err := errors.Join(setAsideLeftovers(path), begin(dir)); err != nil {
			return nil, fmt.Errorf("begin an empty lab in %s: %w", dir, err)
		}
	}
	s, err := openFile(ctx, path)
	if err != nil {
		return nil, err
	}
	s.dir, s.told = dir, told
	return s, nil
}

// settleIn makes a directory that was opened what it should be.
func (s *Store) settleIn(ctx context.Context, version string) error {
	if err := ownersOnly(s.dir); err != nil {
		return fmt.Errorf("keep others out of %s: %w", s.dir, err)
	}
	if err := sweep(s.dir); err != nil {
		return fmt.Errorf("remove what a killed levelstaff left in %s: %w", s.dir, err)
	}
	if err := s.tidyDoors(ctx); err != nil {
		return fmt.Errorf("look at who may come in: %w", err)
	}
	return s.signFile(ctx, version)
}

// Told is what opening the lab did besides, a sentence each, for the log.
func (s *Store) Told() []string { return s.told }

// signFile notes the program's version in the file. A full disk is no reason not
// to open it.
func (s *Store) signFile(ctx context.Context, version string) error {
	if version == "" {
		return nil
	}
	var was string
	err := s.db.QueryRowContext(ctx, "SELECT version FROM written_by").Scan(&was)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return err
	}
	if was == version {
		return nil
	}
	err = s.aside(ctx, statement{"INSERT OR REPLACE INTO written_by (one, version) VALUES (1, ?)", []any{version}})
	if cannotNow(err) {
		return nil
	}
	return err
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
			if strings.HasPrefix(entry.Name(), TempPrefix) && !strings.HasPrefix(entry.Name(), backingUp) {
				err = errors.Join(err, os.RemoveAll(filepath.Join(in, entry.Name())))
			}
		}
		if e == nil {
			err = errors.Join(err, clearWorkrooms(in))
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
	s.file, err = os.Stat(path)
	if err == nil {
		err = s.start(ctx)
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
	db, err := sql.Open("sqlite", source(path, "")+"?"+query.Encode())
	if err != nil {
		return nil, err
	}
	db.SetMaxOpenConns(1)
	return db, nil
}

// source is a file as SQLite names it; mode is ro, rw or, where it is said
// elsewhere, "".
func source(path, mode string) string {
	named := url.URL{Scheme: "file", Opaque: (&url.URL{Path: path}).EscapedPath()}
	if mode != "" {
		named.RawQuery = url.Values{"mode": {mode}}.Encode()
	}
	return named.String()
}

// magic is what every SQLite file begins with.
var magic = []byte("SQLite format 3\x00")

// inspect refuses a file that this version must not write to; called is what the
// error calls it. version is that of its tables, 0 where it has none. What a
// killed program left half done SQLite finishes or takes back first.
func inspect(ctx context.Context, path, called string) (version int64, err error) {
	file, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return 0, nil
	}
	if err != nil {
		return 0, fmt.Errorf("read the lab: %w", err)
	}
	defer file.Close()
	head := make([]byte, len(magic))
	switch n, err := io.ReadFull(file, head); {
	case n == 0:
		return 0, nil // made, but never written
	case err != nil || !bytes.Equal(head, magic):
		return 0, damaged(called, "it is not a SQLite file")
	}
	mode := "ro"
	if left, err := os.Stat(path + "-journal"); err == nil && left.Size() > 0 {
		mode = "rw" // a hot journal is rolled back by who may write
	}
	db, err := connect(path, mode, untrusted...)
	if err != nil {
		return 0, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var verdict string
	if err := db.QueryRowContext(ctx, "PRAGMA quick_check(1)").Scan(&verdict); err != nil {
		return 0, damaged(called, err.Error())
	}
	if verdict != "ok" {
		return 0, damaged(called, verdict)
	}
	var tables int
	if err := db.QueryRowContext(ctx, "SELECT count(*) FROM sqlite_master WHERE name = 'goose_db_version'").Scan(&tables); err != nil {
		return 0, damaged(called, err.Error())
	}
	if tables == 0 {
		return 0, nil
	}
	if version, err = versionOf(ctx, db); err != nil {
		return 0, damaged(called, err.Error())
	}
	if version > newest() {
		return 0, tooNew(ctx, called, version, db)
	}
	return version, nil
}

// newest is the version of the tables that this program makes.
func newest() (version int64) {
	files, err := migrations.ReadDir("migrations")
	if err != nil {
		return 0 // they are part of the program
	}
	for _, file := range files {
		if number, err := goose.NumericComponent(file.Name()); err == nil {
			version = max(version, number)
		}
	}
	return version
}

// tooNew is the error of a file that a newer program wrote. Which one is said by
// files of version 15 and later.
func tooNew(ctx context.Context, path string, version int64, db *sql.DB) error {
	var by string
	if db.QueryRowContext(ctx, "SELECT version FROM written_by").Scan(&by) == nil && by != "" {
		by = fmt.Sprintf(", %.40q,", by)
	}
	return fmt.Errorf("%s was written by a newer levelstaff%s whose tables are version %d; this one knows version %d. "+
		"Install that levelstaff, or "+
		"move the file away and start afresh with levelstaff serve --new. Nothing was changed", path, by, version, newest())
}

func damaged(path, why string) error {
	return fmt.Errorf(
		"%s is damaged (%s); put a backup in its place with levelstaff restore, or move the file away and start afresh with "+
			"levelstaff serve --new. Nothing was changed",
		path, why)
}

// Close ends the store's hold on the data directory.
func (s *Store) Close() error {
	s.writeEnded(context.Background())
	err := errors.Join(s.reads.Close(), s.db.Close())
	if s.lock != nil {
		err = errors.Join(err, s.lock.Unlock())
	}
	return err
}

// load reads the whole lab and what can be undone.
func (s *Store) load(ctx context.Context) error {
	var records []lab.Record
	for _, kind := range lab.Kinds() {
		list, err := tables[kind.RecordKind].all(ctx, s.db)
		if err != nil {
			return err
		}
		records = append(records, list...)
	}
	revision, err := s.readHistory(ctx)
	if err != nil {
		return err
	}
	l, err := lab.New().Apply(putting(records))
	if err != nil {
		return s.repair(ctx, records, revision, err)
	}
	s.publish(l, revision)
	return nil
}

// putting are the changes that make a new lab of records.
func putting(records []lab.Record) (changes []lab.Change) {
	l := lab.New()
	for _, r := range records {
		if c, ok := l.Put(r); ok {
			changes = append(changes, c)
		}
	}
	return changes
}

// repair makes a lab of records that an earlier version took and this one refuses,
// where that is all that is wrong with them: as a change of its own, in the logbook.
func (s *Store) repair(ctx context.Context, records []lab.Record, revision int64, refused error) error {
	changes := lab.Repair(records)
	is := map[lab.Key]lab.Record{}
	for _, c := range changes {
		is[c.Key()] = c.After
	}
	right := slices.Clone(records)
	for i, r := range right {
		if after, ok := is[r.Key()]; ok {
			right[i] = after
		}
	}
	if _, err := lab.New().Apply(putting(right)); err != nil {
		return fmt.Errorf("the records contradict each other: %w; the file may have been edited by hand. Put a copy from a backup in its place",
			refused)
	}
	l, err := lab.New().Rewind(putting(records))
	if err != nil {
		return err
	}
	s.publish(l, revision)
	_, err = s.Change(ctx, revision, "texts without characters that do not show", func(*lab.Lab) ([]lab.Change, error) { return changes, nil })
	return err
}
