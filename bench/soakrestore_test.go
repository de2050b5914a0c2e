package bench

import (
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/demo"
	"levelstaff/store"
)

// A restore that is killed at any moment leaves the lab that was there or the one
// that was restored, whole, and whatever was replaced is kept: make soak.
func TestSoakOfRestores(t *testing.T) {
	kills, err := strconv.Atoi(os.Getenv("SOAK_RESTORES"))
	if err != nil {
		t.Skip("run it with make soak")
	}
	ctx := context.Background()
	rnd := rand.New(rand.NewPCG(uint64(time.Now().UnixNano()), 37))
	backups, dir := t.TempDir(), t.TempDir()
	fill := func(dir string, seed uint64) *lab.Lab {
		l, err := demo.Large(seed)
		require.NoError(t, err)
		st, err := store.Open(ctx, dir)
		require.NoError(t, err)
		_, err = st.Change(ctx, 0, "", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
		require.NoError(t, err)
		is := st.Now().Lab
		require.NoError(t, st.Close())
		return is
	}
	var labs []*lab.Lab
	var files []string
	for seed := range uint64(2) {
		from := t.TempDir()
		labs = append(labs, fill(from, seed+1))
		files = append(files, filepath.Join(backups, fmt.Sprint(seed, ".db")))
		require.NoError(t, store.Backup(ctx, from, files[seed]))
	}
	_, err = store.Restore(ctx, dir, files[0], time.Now())
	require.NoError(t, err)
	began := time.Now()
	require.NoError(t, exec.Command("../bin/levelstaff", "restore", files[0], "--data", dir).Run())
	whole := time.Since(began)

	before, restored, finished := 0, 0, 0
	for n := range kills {
		to := n % 2 // the other one than is there, most of the time
		cmd := exec.Command("../bin/levelstaff", "restore", files[to], "--data", dir)
		began := time.Now()
		require.NoError(t, cmd.Start())
		// Half of the kills fall into its last part, where the files are renamed: at the first sign of that, or about then.
		switch n % 4 {
		case 0:
			for len(waiting(t, dir)) == 0 && time.Since(began) < 2*whole {
				runtime.Gosched()
			}
		case 1:
			time.Sleep(whole*4/5 + time.Duration(rnd.Int64N(int64(whole)/3)))
		default:
			time.Sleep(time.Duration(rnd.Int64N(int64(whole))))
		}
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
		st, err := store.Open(ctx, dir)
		require.NoError(t, err, "it is opened after it was killed")
		if len(st.Told()) > 0 {
			finished++
		}
		is := st.Now().Lab
		require.NoError(t, st.Close())
		same := 0
		for i, l := range labs {
			if len(lab.Diff(l, is)) == 0 {
				same++
				if i == to {
					restored++
				} else {
					before++
				}
			}
		}
		require.Equal(t, 1, same, "it is one of the two labs, whole")
		kept, err := filepath.Glob(filepath.Join(dir, "levelstaff-replaced-*.db*"))
		require.NoError(t, err)
		for _, file := range kept {
			if n%10 == 0 && filepath.Ext(file) == ".db" {
				_, err := store.Restore(ctx, t.TempDir(), file, time.Now())
				require.NoError(t, err, "what was replaced can be put back")
			}
			require.NoError(t, os.Remove(file))
		}
	}
	t.Logf("killed %d restores: %d left the lab that was there, %d the one restored, %d of these finished by the next start", kills,
		before, restored,
		finished)
}

// waiting are the files of a restore that has all but its renames behind it.
func waiting(t *testing.T, dir string) []string {
	files, err := filepath.Glob(filepath.Join(dir, "levelstaff-restoring-*"))
	require.NoError(t, err)
	return files
}
