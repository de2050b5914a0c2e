package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// killed leaves a data directory as a process does that is killed: with what
// SQLite has not put into the file yet still in its -wal.
func killed(t *testing.T, places int) string {
	t.Helper()
	alive, dead := t.TempDir(), t.TempDir()
	s := open(t, alive)
	for i := range places {
		put(t, s, lab.Place{ID: lab.ID(fmt.Sprintf("p%03d", i)), Name: fmt.Sprint("place ", i)})
	}
	for _, end := range []string{"", "-wal"} {
		data, err := os.ReadFile(filepath.Join(alive, store.FileName+end))
		require.NoError(t, err)
		require.NotEmpty(t, data, "the changes are in the -wal")
		require.NoError(t, os.WriteFile(filepath.Join(dead, store.FileName+end), data, 0o600))
	}
	return dead
}

func placesIn(t *testing.T, dir string) int {
	t.Helper()
	s := open(t, dir)
	defer s.Close()
	n := 0
	for range lab.Each[lab.Place](s.Now().Lab) {
		n++
	}
	return n
}

// What is left of a file that is gone is not taken for the restored one's.
func TestARestoreBesideALeftoverWalIsTheBackup(t *testing.T) {
	ctx := context.Background()
	backup := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, store.Backup(ctx, killed(t, 3), backup))
	dir := killed(t, 40)
	require.NoError(t, os.Rename(filepath.Join(dir, store.FileName), filepath.Join(t.TempDir(), "moved away.db")))
	restored, err := store.Restore(ctx, dir, backup, noon)
	require.NoError(t, err)
	assert.FileExists(t, restored.Kept+"-wal", "it is set aside, not thrown away")
	assert.Equal(t, 3, placesIn(t, dir))
}

// A file out of a dead machine has part of its changes beside it.
func TestAFileWithItsWalIsRestoredWhole(t *testing.T) {
	ctx := context.Background()
	dead := killed(t, 60)
	dir := t.TempDir()
	_, err := store.Restore(ctx, dir, filepath.Join(dead, store.FileName), noon)
	require.NoError(t, err)
	assert.Equal(t, 60, placesIn(t, dir))
	assert.Equal(t, 60, placesIn(t, dead), "what it was made from is as it was")
}

// Two restores in a second keep two files.
func TestWhatIsKeptCollidesWithNothing(t *testing.T) {
	ctx := context.Background()
	backup := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, store.Backup(ctx, killed(t, 2), backup))
	dir := killed(t, 5)
	first, err := store.Restore(ctx, dir, backup, noon)
	require.NoError(t, err)
	second, err := store.Restore(ctx, dir, backup, noon)
	require.NoError(t, err)
	assert.NotEqual(t, first.Kept, second.Kept)
	_, err = store.Restore(ctx, dir, first.Kept, noon.Add(time.Minute))
	require.NoError(t, err)
	assert.Equal(t, 5, placesIn(t, dir), "the first one kept is what was there first, its -wal and all")
}

// Whatever it is called, what levelstaff did not write replaces nothing.
func TestWhatIsNoLabIsNotRestored(t *testing.T) {
	ctx := context.Background()
	other := t.TempDir()
	foreign := filepath.Join(other, "levelstaff-2026-11-23.db")
	db, err := sql.Open("sqlite", foreign)
	require.NoError(t, err)
	_, err = db.Exec("CREATE TABLE devices (id TEXT); CREATE TABLE tracks (id TEXT)")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	closed := killed(t, 1)
	assert.Equal(t, 1, placesIn(t, closed))
	whole, err := os.ReadFile(filepath.Join(closed, store.FileName))
	require.NoError(t, err)
	for name, data := range map[string][]byte{"empty.db": {}, "newer.txt": fromTheFuture(t, whole)} {
		require.NoError(t, os.WriteFile(filepath.Join(other, name), data, 0o600))
	}
	for name, say := range map[string]string{"empty.db": "is not a levelstaff lab", "levelstaff-2026-11-23.db": "is not a levelstaff lab",
		"newer.txt": "written by a newer levelstaff"} {
		dir := killed(t, 4)
		_, err := store.Restore(ctx, dir, filepath.Join(other, name), noon)
		require.ErrorContains(t, err, say, name)
		assert.ErrorContains(t, err, name, "it is called what the person called it")
		assert.Equal(t, 4, placesIn(t, dir), name)
	}
}

// A file that is replaced or removed underneath takes no more changes: they
// would be lost. What there is can still be read.
func TestAFileThatIsReplacedUnderneathTakesNoChange(t *testing.T) {
	for name, do := range map[string]func(path string) error{
		"removed":  os.Remove,
		"replaced": func(path string) error { return os.Rename(filepath.Join(killed(t, 1), store.FileName), path) },
	} {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			s := open(t, dir)
			put(t, s, place("Loft"))
			require.NoError(t, do(filepath.Join(dir, store.FileName)))
			_, err := s.Change(context.Background(), 1, "", func(l *lab.Lab) ([]lab.Change, error) {
				c, _ := l.Put(lab.Place{ID: "attic", Name: "Attic"})
				return []lab.Change{c}, nil
			})
			var unwritable *store.Unwritable
			require.ErrorAs(t, err, &unwritable)
			assert.ErrorContains(t, err, "replaced or removed")
			assert.Equal(t, place("Loft"), s.Now().Lab.Get(place("").Key()))
			assert.EqualValues(t, 1, s.Now().Revision)
		})
	}
}

// A journal that a killed program left is rolled back, not called damage.
func TestAHotJournalIsNoDamage(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, place("Loft"))
	require.NoError(t, s.Close())
	path := filepath.Join(dir, store.FileName)
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	db.SetMaxOpenConns(1)
	// Small as its cache is, the transaction has pages in the file before its end.
	_, err = db.Exec("PRAGMA journal_mode = DELETE; PRAGMA cache_size = 1; PRAGMA cache_spill = 1; BEGIN; " +
		"CREATE TABLE junk (x); WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 2000) " +
		"INSERT INTO junk SELECT randomblob(400) FROM n")
	require.NoError(t, err)
	torn := t.TempDir()
	for _, end := range []string{"", "-journal"} {
		data, err := os.ReadFile(path + end)
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(torn, store.FileName+end), data, 0o600))
	}
	require.NoError(t, db.Close())
	s = open(t, torn)
	assert.Equal(t, place("Loft"), s.Now().Lab.Get(place("").Key()))
	require.NoError(t, s.Close())
}

// Another program that has the file for longer than one waits is said so.
func TestAnotherProgramHoldsTheFile(t *testing.T) {
	defer store.Hurry(10 * time.Millisecond)()
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, place("Loft"))
	db, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	db.SetMaxOpenConns(1)
	_, err = db.Exec("BEGIN IMMEDIATE")
	require.NoError(t, err)
	_, err = s.Change(context.Background(), 1, "", func(l *lab.Lab) ([]lab.Change, error) {
		c, _ := l.Put(lab.Place{ID: "attic", Name: "Attic"})
		return []lab.Change{c}, nil
	})
	var busy *store.Busy
	require.ErrorAs(t, err, &busy)
	_, err = db.Exec("ROLLBACK")
	require.NoError(t, err)
	put(t, s, place("Attic"))
	require.NoError(t, db.Close())
}

// Others are kept out of a directory and of files that were there before.
func TestADirectoryThatWasThereIsItsOwnersAlone(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, os.Chmod(dir, 0o755))
	s := open(t, dir)
	put(t, s, place("Loft"))
	require.NoError(t, s.Close())
	path := filepath.Join(dir, store.FileName)
	require.NoError(t, os.Chmod(path, 0o644))
	require.NoError(t, os.Chmod(dir, 0o755))
	s = open(t, dir)
	put(t, s, place("Attic"))
	for file, want := range map[string]os.FileMode{dir: 0o700, path: 0o600, path + "-wal": 0o600, path + "-shm": 0o600} {
		info, err := os.Stat(file)
		require.NoError(t, err)
		assert.Equal(t, want, info.Mode().Perm(), file)
	}
}

func TestWhatAKilledRunWasWritingGoesAtTheNextStart(t *testing.T) {
	dir := killed(t, 3)
	backups := filepath.Join(dir, store.BackupDir)
	require.NoError(t, os.Mkdir(backups, 0o700))
	half := []string{filepath.Join(dir, store.TempPrefix+"123"), filepath.Join(backups, store.TempPrefix+"backup-x.db")}
	kept := filepath.Join(backups, "mine.db")
	for _, file := range append(half, kept) {
		require.NoError(t, os.WriteFile(file, []byte("half"), 0o600))
	}
	assert.Equal(t, 3, placesIn(t, dir))
	for _, file := range half {
		assert.NoFileExists(t, file)
	}
	assert.FileExists(t, kept)
}
