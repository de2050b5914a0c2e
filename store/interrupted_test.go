package store_test

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"testing"

	"github.com/gofrs/flock"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// A restore that is killed between any two of its renames is finished by whoever
// opens the directory next, or restores into it again.
func TestARestoreKilledBetweenItsRenamesIsFinished(t *testing.T) {
	ctx := context.Background()
	backup := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, store.Backup(ctx, killed(t, 3), backup))
	for moved := range 3 {
		t.Run(fmt.Sprint(moved, " files set aside"), func(t *testing.T) {
			dir := killed(t, 5)
			path := filepath.Join(dir, store.FileName)
			waiting := filepath.Join(dir, "levelstaff-restoring-20261123-120000.db")
			kept := filepath.Join(dir, "levelstaff-replaced-20261123-120000.db")
			whole, err := os.ReadFile(backup)
			require.NoError(t, err)
			require.NoError(t, os.WriteFile(waiting, whole, 0o600))
			for _, end := range []string{"", "-wal"}[:moved] {
				require.NoError(t, os.Rename(path+end, kept+end))
			}
			s := open(t, dir)
			require.Len(t, s.Told(), 1)
			assert.Contains(t, s.Told()[0], "a restore that was interrupted was finished; what was there before it is in "+kept)
			require.NoError(t, s.Close())
			assert.Equal(t, 3, placesIn(t, dir))
			assert.NoFileExists(t, waiting)
			restored, err := store.Restore(ctx, dir, kept, noon)
			require.NoError(t, err)
			assert.Empty(t, restored.Finished)
			assert.Equal(t, 5, placesIn(t, dir), "what it replaced is whole")
		})
	}
}

// Somebody put a lab in the place before the restore was finished: both are kept.
func TestAnInterruptedRestoreReplacesNothingThatIsKept(t *testing.T) {
	ctx := context.Background()
	backup := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, store.Backup(ctx, killed(t, 3), backup))
	dir := killed(t, 5)
	path := filepath.Join(dir, store.FileName)
	restored, err := store.Restore(ctx, dir, backup, noon)
	require.NoError(t, err)
	require.NoError(t, os.Rename(path, filepath.Join(dir, "levelstaff-restoring-20261123-120000.db")))
	require.NoError(t, os.Rename(filepath.Join(killed(t, 8), store.FileName), path))
	again, err := store.Restore(ctx, dir, backup, noon)
	require.NoError(t, err)
	assert.Contains(t, again.Finished, "a restore that was interrupted was finished; what was there before it is in "+dir)
	assert.Equal(t, 3, placesIn(t, dir))
	all, err := filepath.Glob(filepath.Join(dir, "levelstaff-replaced-*.db"))
	require.NoError(t, err)
	assert.Len(t, all, 3)
	assert.Contains(t, all, restored.Kept)
}

// A directory with signs of a lab and none in it is not taken for a new one.
func TestNoEmptyLabIsBegunWhereThereWasOne(t *testing.T) {
	ctx := context.Background()
	for _, sign := range []string{"levelstaff-replaced-20261123-120000.db", "backups/levelstaff-2026-11-23.db", "levelstaff-before-14.db",
		"levelstaff.db-wal"} {
		for _, there := range []bool{false, true} {
			dir := t.TempDir()
			require.NoError(t, os.MkdirAll(filepath.Join(dir, store.BackupDir), 0o700))
			require.NoError(t, os.WriteFile(filepath.Join(dir, sign), []byte("a lab"), 0o600))
			if there {
				require.NoError(t, os.WriteFile(filepath.Join(dir, store.FileName), nil, 0o600))
			}
			_, err := store.Open(ctx, dir)
			require.ErrorContains(t, err, sign)
			require.ErrorContains(t, err, "levelstaff restore FILE --data "+dir)
			require.ErrorContains(t, err, "--new")
			s, err := store.Opening{Anew: true}.Open(ctx, dir)
			require.NoError(t, err)
			put(t, s, place("Loft"))
			require.NoError(t, s.Close())
			assert.EqualValues(t, 1, open(t, dir).Now().Revision, "and it is no question any more")
		}
	}
	dir := t.TempDir()
	require.NoError(t, os.WriteFile(filepath.Join(dir, "levelstaff.db-wal"), []byte("changes of a file that was moved away"), 0o600))
	s, err := store.Opening{Anew: true}.Open(ctx, dir)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	assert.FileExists(t, filepath.Join(dir, "levelstaff-replaced-leftover.db-wal"), "it is not thrown away")
}

// What a killed backup left goes with the next one; what another process is
// working on stays.
func TestAKilledBackupLeavesNothingForGood(t *testing.T) {
	ctx := context.Background()
	dir, to := killed(t, 3), t.TempDir()
	for _, name := range []string{".levelstaff-backup-empty", ".levelstaff-backup-dead/levelstaff.lock", ".levelstaff-backup-dead/copy.db",
		".levelstaff-backup-before.db", ".levelstaff-backup-before.db-journal", ".levelstaff-backup-busy/levelstaff.lock"} {
		path := filepath.Join(to, name)
		require.NoError(t, os.MkdirAll(filepath.Dir(path), 0o700))
		if filepath.Ext(name) == "" {
			require.NoError(t, os.Mkdir(path, 0o700))
			continue
		}
		require.NoError(t, os.WriteFile(path, []byte("half"), 0o600))
	}
	busy := flock.New(filepath.Join(to, ".levelstaff-backup-busy", "levelstaff.lock"))
	held, err := busy.TryLock()
	require.NoError(t, err)
	require.True(t, held)
	require.NoError(t, store.Backup(ctx, dir, filepath.Join(to, "copy.db")))
	assert.Equal(t, []string{".levelstaff-backup-busy", "copy.db"}, namesIn(t, to))
	require.NoError(t, busy.Unlock())
	require.NoError(t, store.Backup(ctx, dir, filepath.Join(to, "copy2.db")))
	assert.Equal(t, []string{"copy.db", "copy2.db"}, namesIn(t, to))
}

// Many backups into one directory at once do not remove each other's work.
func TestBackupsAtOnceLeaveEachOtherAlone(t *testing.T) {
	dir, to := killed(t, 3), t.TempDir()
	done := make(chan error)
	for i := range 8 {
		go func() { done <- store.Backup(context.Background(), dir, filepath.Join(to, fmt.Sprint(i, ".db"))) }()
	}
	for range 8 {
		require.NoError(t, <-done)
	}
	assert.Len(t, namesIn(t, to), 8)
}

func namesIn(t *testing.T, dir string) []string {
	t.Helper()
	entries, err := os.ReadDir(dir)
	require.NoError(t, err)
	var names []string
	for _, e := range entries {
		names = append(names, e.Name())
	}
	slices.Sort(names)
	return names
}

// Whoever is signed out on a full disk stays out, also after a restart.
func TestSigningOutNeedsNoRoomOnTheDisk(t *testing.T) {
	ctx := context.Background()
	dir := smallDisk(t)
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	for _, secret := range []string{"one", "two", "three"} {
		require.NoError(t, s.SignIn(ctx, []byte(secret), store.Session{MadeAt: noon, SeenAt: noon}))
	}
	for _, id := range []string{"kept", "ended"} {
		require.NoError(t, s.AddToken(ctx, []byte(id), store.Token{ID: lab.ID(id), Name: id, May: store.MayAll, MadeAt: noon}))
	}
	filled := filepath.Join(dir, "filled")
	require.Error(t, exec.Command("dd", "if=/dev/zero", "of="+filled, "bs=4096").Run(), "until it is full")
	var full *store.Unwritable
	for i := 0; full == nil; i++ { // what the -wal has room for already
		require.Less(t, i, 1000)
		_, err := s.Change(ctx, s.Now().Revision, "", puts(place(fmt.Sprint("Loft ", i))))
		if err != nil {
			require.ErrorAs(t, err, &full)
		}
	}
	require.NoError(t, s.SignOut(ctx, []byte("one")))
	require.NoError(t, s.EndToken(ctx, "ended"))
	secrets := func(s *store.Store) (all []string) {
		sessions, err := s.Sessions(ctx)
		require.NoError(t, err)
		tokens, err := s.Tokens(ctx)
		require.NoError(t, err)
		for secret := range sessions {
			all = append(all, secret)
		}
		for secret := range tokens {
			all = append(all, secret)
		}
		slices.Sort(all)
		return all
	}
	assert.Equal(t, []string{"kept", "three", "two"}, secrets(s))

	// A kill, and a start on the disk that is still full: with the files as they are now.
	again := smallDisk(t)
	require.NoError(t, exec.Command("cp", "-a", dir+"/.", again).Run())
	restarted, err := store.Open(ctx, again)
	require.NoError(t, err)
	assert.Equal(t, []string{"kept", "three", "two"}, secrets(restarted))
	require.NoError(t, restarted.SignOut(ctx, nil))
	assert.Equal(t, []string{"kept"}, secrets(restarted))
	_ = restarted.Close()

	require.NoError(t, os.Remove(filled))
	require.NoError(t, s.SeenSession(ctx, []byte("two"), noon))
	require.NoError(t, s.Close())
	assert.Equal(t, []string{"kept", "three", "two"}, secrets(open(t, dir)), "and with room for it the rows are gone")
}
