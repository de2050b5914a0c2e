package store_test

import (
	"context"
	"database/sql"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

// everythingStored is one of each kind with every field that there is.
func everythingStored() []lab.Record {
	n, hours, mbit, days, kept, zero := int64(4e12), 24.0, 5.0, 30.0, 30, 0.0
	two := 2
	return []lab.Record{
		lab.Place{ID: "attic", Name: "Attic", Outside: true},
		lab.Device{ID: "silo", Name: "silo", Kind: lab.NAS, State: lab.Running},
		lab.Device{ID: "otter", Name: "otter", Kind: lab.MiniPC, State: lab.Running},
		lab.Part{ID: "friday", Name: "friday", Kind: lab.Drive, State: lab.Running, SizeBytes: &n, RateMB: &mbit},
		lab.Tunnel{ID: "parents", Name: "parents"},
		lab.Pool{ID: "hold", Name: "hold", Device: "silo", With: []lab.ID{"otter"}, Boot: true, FileSystem: "xfs", KeepsBack: &n, UsedBytes: &n,
			UsedOn: "2026-11-20", Grows: &n, Purpose: "the big disks", Notes: "hums", Remarked: lab.Remarked{Remarks: []string{"not bolted"}},
			Sets: []lab.DriveSet{{Layout: lab.Replicated, Copies: 2, Writes: 1, Drives: []lab.PoolDrive{{Device: "silo", Bay: 1},
				{Part: "friday"}, {}}}},
			Spares: []lab.PoolDrive{{Device: "silo", Bay: 2}}, Cache: []lab.PoolDrive{{Device: "silo", Bay: 3}},
			Log:   []lab.PoolDrive{{Device: "silo", Bay: 4}},
			Boots: []lab.PoolDrive{{Device: "silo", Bay: 5}}},
		lab.Pool{ID: "riddle", Name: "riddle", Device: "otter", Sets: []lab.DriveSet{{Layout: lab.RAID5,
			Some: &lab.SomeDrives{Least: 4, Most: 5, LeastBytes: &n}}}},
		lab.Dataset{ID: "films", Name: "films", On: &lab.Holder{Pool: "hold"}, Bytes: &n, SizeOn: "2026-11", Grows: &n, Worth: lab.Household,
			Films: &lab.Recording{Cameras: &two, Mbit: &mbit, Hours: &hours, Days: &days}, Purpose: "the gate"},
		lab.NetworkShare{ID: "media", Name: "media", Dataset: "films", Over: "smb", To: []lab.ID{"otter"}, By: lab.ByName},
		lab.Copy{ID: "one", Dataset: "films", To: &lab.Holder{Part: "friday"}, EveryH: &hours, Kept: &kept, Last: "2026-11-26",
			Restored: "2026-03",
			Coded:    lab.Encrypted, KeyAt: "in the safe", ByHand: true, Outside: true, At: "attic", Via: "parents"},
		lab.Copy{ID: "two", Dataset: "films", From: &lab.Holder{Part: "friday"}, To: &lab.Holder{Place: "attic"}, EveryH: &zero},
		lab.Need{ID: "needed", Of: &lab.Key{Kind: lab.KindDevice, ID: "otter"}, Wants: true, Notes: "for the pictures",
			Any: []lab.Key{{Kind: lab.KindPool, ID: "hold"}, {Kind: lab.KindDataset, ID: "films"}}},
		lab.Service{ID: "cinema", Name: "cinema", In: "otter", State: lab.Running, Exposed: lab.Exposed{Within: "10,20", SignIn: lab.SignInNone}},
		lab.Tunnel{ID: "door", Name: "front door", Device: "otter"},
		lab.Name{ID: "inside", Name: "films.home.arpa", Hop: lab.Hop{Service: "cinema"}},
		lab.Name{ID: "outside", Name: "films.example", Hop: lab.Hop{Tunnel: "door", Port: 443}, Then: []lab.Hop{{Of: "inside", Port: 8096}},
			Exposed: lab.Exposed{Exposure: lab.WholeWorld, SignInBy: "keys", Certificate: "2027-01-26"}},
	}
}

func keepStored(t *testing.T, dir string) lab.Records {
	t.Helper()
	s := open(t, dir)
	_, err := s.Change(context.Background(), 0, "", func(now *lab.Lab) ([]lab.Change, error) {
		var changes []lab.Change
		for _, r := range everythingStored() {
			changes = append(changes, lab.Change{After: r})
		}
		return changes, nil
	})
	require.NoError(t, err)
	all := s.Now().Lab.All()
	require.NoError(t, s.Close())
	return all
}

func TestStorageIsThereAfterARestart(t *testing.T) {
	dir := t.TempDir()
	before := keepStored(t, dir)
	s := open(t, dir)
	assert.Equal(t, before, s.Now().Lab.All())
	assert.Len(t, before.Pools, 2)
	assert.Len(t, before.Copies, 2)
	assert.Len(t, before.Needs, 1)
	assert.Len(t, before.Names, 2)
	assert.Equal(t, 0.0, *before.Copies[1].EveryH, "at once is not unknown")
}

// A pool goes with its device, and comes back with it.
func TestAPoolComesBackFromTheLogbook(t *testing.T) {
	dir := t.TempDir()
	before := keepStored(t, dir)
	s := open(t, dir)
	_, err := s.Change(context.Background(), s.Now().Revision, "", func(now *lab.Lab) ([]lab.Change, error) {
		return now.Removal(lab.Key{Kind: lab.KindDevice, ID: "silo"}), nil
	})
	require.NoError(t, err)
	gone := s.Now().Lab.All()
	assert.Len(t, gone.Pools, 1)
	assert.Empty(t, gone.Datasets)
	assert.Empty(t, gone.Copies)
	assert.Empty(t, gone.Shares)
	_, err = s.Undo(context.Background(), s.Now().Revision)
	require.NoError(t, err)
	assert.Equal(t, before, s.Now().Lab.All())
}

func TestAnyoneCanReadTheCopiesFromTheFile(t *testing.T) {
	dir := t.TempDir()
	keepStored(t, dir)
	db, err := sql.Open("sqlite", filepath.Join(dir, "levelstaff.db"))
	require.NoError(t, err)
	defer db.Close()
	var dataset, pool, drive, place string
	var every float64
	err = db.QueryRow(`SELECT d.name, p.name, f.name, a.name, c.every_h FROM data_copies c
		JOIN datasets d ON d.id = c.dataset_id JOIN pools p ON p.id = d.on_pool_id
		JOIN parts f ON f.id = c.to_part_id JOIN places a ON a.id = c.place_id`).Scan(&dataset, &pool, &drive, &place, &every)
	require.NoError(t, err)
	assert.Equal(t, []string{"films", "hold", "friday", "Attic"}, []string{dataset, pool, drive, place})
	assert.Equal(t, 24.0, every)
	var sets string
	require.NoError(t, db.QueryRow(`SELECT json_extract(sets, '$[0].layout') FROM pools WHERE name = 'hold'`).Scan(&sets))
	assert.Equal(t, "replicated", sets)
	var dangling int
	require.NoError(t, db.QueryRow(`SELECT count(*) FROM pragma_foreign_key_check`).Scan(&dangling))
	assert.Zero(t, dangling)
}
