package store_test

import (
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

var noon = time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)

func TestABackupIsMadeWhileTheLabIsInUseAndRestored(t *testing.T) {
	ctx := context.Background()
	dir, file := t.TempDir(), filepath.Join(t.TempDir(), "copy.db")
	s := open(t, dir)
	put(t, s, place("Loft"))
	require.NoError(t, s.SetPassphrase(ctx, "hash"))
	require.NoError(t, s.SignIn(ctx, []byte("secret"), store.Session{MadeAt: noon, SeenAt: noon}))
	require.NoError(t, store.Backup(ctx, dir, file))
	put(t, s, place("Attic"))
	assert.ErrorContains(t, store.Backup(ctx, dir, file), "already exists")
	_, err := store.Restore(ctx, dir, file, noon)
	assert.ErrorContains(t, err, "another levelstaff is using")
	require.NoError(t, s.Close())

	restored, err := store.Restore(ctx, dir, file, noon)
	require.NoError(t, err)
	assert.Equal(t, filepath.Join(dir, "levelstaff-replaced-20261123-120000.db"), restored.Kept)
	s = open(t, dir)
	assert.Equal(t, place("Loft"), s.Now().Lab.Get(place("").Key()))
	sessions, err := s.Sessions(ctx)
	require.NoError(t, err)
	assert.Empty(t, sessions, "a backup lets nobody in")
	hash, err := s.Passphrase(ctx)
	require.NoError(t, err)
	assert.Equal(t, "hash", hash, "the lab keeps its own lock")
	require.NoError(t, s.Close())
	copied, err := os.ReadFile(file)
	require.NoError(t, err)
	assert.NotContains(t, string(copied), "hash", "and a backup has none")

	_, err = store.Restore(ctx, dir, restored.Kept, noon.Add(time.Hour))
	require.NoError(t, err, "what was replaced can be put back")
	assert.Equal(t, place("Attic"), open(t, dir).Now().Lab.Get(place("").Key()))
}

func TestWhatIsNoBackupReplacesNothing(t *testing.T) {
	ctx := context.Background()
	dir, other := t.TempDir(), t.TempDir()
	s := open(t, dir)
	put(t, s, place("Loft"))
	require.NoError(t, s.Close())
	whole, err := os.ReadFile(filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	torn := append([]byte{}, whole[:len(whole)/2]...)
	for name, data := range map[string][]byte{"no database": []byte("dear diary, today the rack fell over"), "half of one": torn} {
		file := filepath.Join(other, name)
		require.NoError(t, os.WriteFile(file, data, 0o600))
		_, err := store.Restore(ctx, dir, file, noon)
		assert.ErrorContains(t, err, "nothing was changed", name)
		now, err := os.ReadFile(filepath.Join(dir, store.FileName))
		require.NoError(t, err)
		assert.Equal(t, whole, now, name)
	}
	_, err = store.Restore(ctx, dir, filepath.Join(other, "nowhere.db"), noon)
	assert.ErrorContains(t, err, "no such file")
	assert.ErrorContains(t, store.Backup(ctx, other, filepath.Join(dir, "x.db")), "there is no lab in")
	left, err := os.ReadDir(dir)
	require.NoError(t, err)
	assert.Len(t, left, 2, "nothing lies about but the lab and its lock: %v", left)
}

func TestDailyBackupsAreMadeOnceADayAndOldOnesGo(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, place("Loft"))
	for day := range 5 {
		made, err := s.DailyBackup(ctx, noon.AddDate(0, 0, day), 3)
		require.NoError(t, err)
		assert.NotEmpty(t, made)
		made, err = s.DailyBackup(ctx, noon.AddDate(0, 0, day).Add(time.Hour), 3)
		require.NoError(t, err)
		assert.Empty(t, made, "one a day")
		if day == 0 {
			require.NoError(t, os.WriteFile(filepath.Join(dir, store.BackupDir, "levelstaff-mine.db"), nil, 0o600))
		}
	}
	files, err := filepath.Glob(filepath.Join(dir, store.BackupDir, "*"))
	require.NoError(t, err)
	var names []string
	for _, f := range files {
		names = append(names, filepath.Base(f))
	}
	assert.Equal(t, []string{"levelstaff-2026-11-25.db", "levelstaff-2026-11-26.db", "levelstaff-2026-11-27.db", "levelstaff-mine.db"}, names)
}

// smallDisk is a disk of a few hundred kilobytes. It takes root to mount one;
// elsewhere the test is skipped, and says so.
func smallDisk(t *testing.T) string {
	t.Helper()
	dir := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=800k", "tmpfs", dir).CombinedOutput(); err != nil {
		t.Skipf("no small disk to be had here: %s", out)
	}
	t.Cleanup(func() { assert.NoError(t, exec.Command("umount", dir).Run()) })
	return dir
}

func TestADataDirectoryThatCannotBeWrittenIsRefused(t *testing.T) {
	dir := smallDisk(t)
	require.NoError(t, exec.Command("mount", "-o", "remount,ro", dir).Run())
	_, err := store.Open(context.Background(), dir)
	assert.ErrorContains(t, err, "it must be writable")
}

func TestAFullDiskLosesNothing(t *testing.T) {
	ctx := context.Background()
	dir := smallDisk(t)
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	full := error(nil)
	var last store.Snapshot
	for i := 0; full == nil && i < 1000; i++ {
		last = s.Now()
		long := make([]byte, 9000)
		for j := range long {
			long[j] = byte('a' + (i+j)%26)
		}
		_, full = s.Change(ctx, last.Revision, "", puts(lab.Device{ID: "d", Kind: lab.Hub, State: lab.Spare, Notes: string(long)}))
	}
	var unwritable *store.Unwritable
	require.ErrorAs(t, full, &unwritable)
	assert.Contains(t, full.Error(), "Nothing was changed")
	assert.Same(t, last.Lab, s.Now().Lab)
	_ = s.Close() // it may not have the room to tidy up

	require.NoError(t, exec.Command("mount", "-o", "remount,size=4m", dir).Run())
	again, err := store.Open(ctx, dir)
	require.NoError(t, err)
	assert.Equal(t, last.Revision, again.Now().Revision)
	assert.Empty(t, lab.Diff(last.Lab, again.Now().Lab))
	put(t, again, place("Loft"))
	require.NoError(t, again.Close())
}
