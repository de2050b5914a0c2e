package store_test

import (
	"compress/gzip"
	"context"
	"database/sql"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// oldFiles are labs as the programs wrote them that had each schema, by its number.
// A new migration takes one more: the file of the program before it.
func oldFiles(t *testing.T) map[int][]byte {
	t.Helper()
	all := map[int][]byte{}
	names, err := filepath.Glob("testdata/old/*.db.gz")
	require.NoError(t, err)
	for _, name := range names {
		var number int
		_, err := fmt.Sscanf(filepath.Base(name), "%d.db.gz", &number)
		require.NoError(t, err)
		f, err := os.Open(name)
		require.NoError(t, err)
		unpacked, err := gzip.NewReader(f)
		require.NoError(t, err)
		all[number], err = io.ReadAll(unpacked)
		require.NoError(t, err)
		require.NoError(t, f.Close())
	}
	migrations, err := filepath.Glob("migrations/*.sql")
	require.NoError(t, err)
	require.Len(t, all, len(migrations)-1, "there is an old file of each schema but today's")
	return all
}

// altered is a file after some SQL.
func altered(t *testing.T, data []byte, queries string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "altered.db")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec("PRAGMA journal_mode = DELETE; " + queries)
	require.NoError(t, err)
	require.NoError(t, db.Close())
	return path
}

// today is a small lab as this program writes it.
func today(t *testing.T) []byte {
	t.Helper()
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, place("Loft"))
	put(t, s, lab.Note{ID: "n", Text: "the fan rattles", Day: "2026-11-23"})
	require.NoError(t, s.Close())
	data, err := os.ReadFile(filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	return data
}

// Files of every earlier version are opened, changed and restored.
func TestFilesOfEveryEarlierVersion(t *testing.T) {
	ctx := context.Background()
	for number, data := range oldFiles(t) {
		t.Run(fmt.Sprint("schema ", number), func(t *testing.T) {
			t.Parallel()
			dir := t.TempDir()
			path := filepath.Join(dir, store.FileName)
			require.NoError(t, os.WriteFile(path, data, 0o600))
			s, err := store.Opening{Version: "9.9"}.Open(ctx, dir)
			require.NoError(t, err)
			before := filepath.Join(dir, fmt.Sprintf("levelstaff-before-%d.db", number))
			require.Len(t, s.Told(), 1)
			assert.Contains(t, s.Told()[0], before)
			assert.EqualValues(t, 2, s.Now().Revision)
			assert.NotEmpty(t, s.Now().Undo)
			weight(t, s, 25)
			_, err = s.Undo(ctx, 2)
			require.NoError(t, err)
			if number > 2 {
				weight(t, s, 24)
			}
			put(t, s, place("Loft"))
			was, err := s.At(ctx, 2)
			require.NoError(t, err)
			assert.Nil(t, was.Get(place("").Key()))
			require.NoError(t, s.Close())

			_, err = store.Restore(ctx, dir, before, noon)
			require.NoError(t, err)
			s = open(t, dir)
			assert.EqualValues(t, 2, s.Now().Revision)
			weight(t, s, 25)
			put(t, s, place("Loft"))
		})
	}
}

func weight(t *testing.T, s *store.Store, kg float64) {
	t.Helper()
	for d := range lab.Each[lab.Device](s.Now().Lab) {
		if d.Name == "anvil" {
			require.NotNil(t, d.Spec.WeightKG)
			assert.InDelta(t, kg, *d.Spec.WeightKG, 0)
			return
		}
	}
	t.Fatal("anvil is there")
}

// The copy from before an upgrade is the file as the old program left it, ways in
// and all; the last two are kept.
func TestAnUpgradeKeepsTheOldFile(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	path := filepath.Join(dir, store.FileName)
	old := oldFiles(t)
	for _, number := range []int{9, 3, 14, 12} {
		signedIn := altered(t, old[number], "INSERT INTO owner VALUES (1, 'hash'); INSERT INTO sessions (secret, made_at, seen_at) "+
			"VALUES (x'0102', '2026-11-23T12:00:00Z', '2026-11-23T12:00:00Z')")
		require.NoError(t, os.Rename(signedIn, path))
		s := open(t, dir)
		sessions, err := s.Sessions(ctx)
		require.NoError(t, err)
		assert.Len(t, sessions, 1, "who was signed in still is")
		require.NoError(t, s.Close())
	}
	kept, err := filepath.Glob(filepath.Join(dir, "levelstaff-before-*"))
	require.NoError(t, err)
	assert.Equal(t, []string{filepath.Join(dir, "levelstaff-before-12.db"), filepath.Join(dir, "levelstaff-before-14.db")}, kept)
	db, err := sql.Open("sqlite", kept[0])
	require.NoError(t, err)
	defer db.Close()
	var version int
	var hash string
	require.NoError(t, db.QueryRow("SELECT max(version_id), passphrase FROM goose_db_version, owner").Scan(&version, &hash))
	assert.Equal(t, 12, version)
	assert.Equal(t, "hash", hash)
	assert.Empty(t, open(t, dir).Told(), "no second time")
}

func TestANewerFileSaysWhoWroteIt(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	s, err := store.Opening{Version: "7.1-made-up"}.Open(ctx, dir)
	require.NoError(t, err)
	put(t, s, place("Loft"))
	require.NoError(t, s.Close())
	path := filepath.Join(dir, store.FileName)
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(path, fromTheFuture(t, data), 0o600))
	_, err = store.Open(ctx, dir)
	require.ErrorContains(t, err, `written by a newer levelstaff, "7.1-made-up", whose tables are version 99999`)
	_, err = store.Restore(ctx, t.TempDir(), path, noon)
	require.ErrorContains(t, err, `"7.1-made-up"`)
}

// What comes in a file is data, and never run.
func TestARestoredFileIsDataNeverCode(t *testing.T) {
	ctx := context.Background()
	data := today(t)
	for name, c := range map[string]struct{ queries, say string }{
		"a trigger": {"CREATE TRIGGER t AFTER INSERT ON logbook BEGIN DELETE FROM notes; DELETE FROM cables; END", `trigger "t", which levelstaff did not make`},
		"a trigger with a table's name before it was dropped": {"CREATE TRIGGER racks_by_place2 AFTER UPDATE ON places BEGIN SELECT 1; END",
			`trigger "racks_by_place2"`},
		"a view": {"CREATE VIEW all_notes AS SELECT * FROM notes", `view "all_notes"`},
		"a view in a table's place": {"ALTER TABLE notes RENAME TO other; CREATE VIEW notes AS SELECT * FROM other",
			`view "notes", where there should be a table`},
		"a virtual table":             {"CREATE VIRTUAL TABLE words USING fts5(word)", `virtual table "words"`},
		"a table of somebody's":       {"CREATE TABLE mine (x)", `table "mine", which levelstaff did not make`},
		"an index of somebody's":      {"CREATE INDEX mine ON notes (text)", `index "mine"`},
		"one more column":             {"ALTER TABLE notes ADD COLUMN loud INTEGER", `table "notes" that is not as levelstaff made it`},
		"a table that is gone":        {"DROP TABLE notes", `no table "notes"`},
		"an index that is gone":       {"DROP INDEX racks_by_place", `no index "racks_by_place"`},
		"another version than it has": {"DELETE FROM goose_db_version WHERE version_id > 11", `which levelstaff did not make`},
		"a logbook entry that is not JSON": {"UPDATE logbook SET changes = 'all well' WHERE revision = 2",
			"has an entry 2 in its logbook that cannot be read"},
		"a logbook entry of no record":     {"UPDATE logbook SET changes = '[{\"kind\":\"place\"}]' WHERE revision = 1", "has an entry 1 in its logbook"},
		"a logbook entry of no kind":       {"UPDATE logbook SET changes = '[{\"kind\":\"ghost\",\"after\":{\"id\":\"x\"}}]' WHERE revision = 1", "has an entry 1"},
		"a logbook entry at no time":       {"UPDATE logbook SET at = 'noon' WHERE revision = 1", "has an entry 1 in its logbook"},
		"a logbook with an entry cut out":  {"DELETE FROM logbook WHERE revision = 1", "has an entry 2 in its logbook"},
		"records that go nowhere":          {"UPDATE places SET place_id = 'nowhere'", "contradict each other"},
		"a record that cannot be read":     {"INSERT INTO racks (id, name, height_u) VALUES ('r', 'R', 'twelve')", "racks"},
		"two triggers and a table of mine": {"CREATE TABLE mine (x); CREATE TRIGGER t AFTER INSERT ON mine BEGIN SELECT 1; END", `trigger "t", which levelstaff did not make; table "mine"`},
	} {
		t.Run(name, func(t *testing.T) {
			dir := killed(t, 2)
			_, err := store.Restore(ctx, dir, altered(t, data, c.queries), noon)
			require.ErrorContains(t, err, c.say)
			require.ErrorContains(t, err, "nothing was changed")
			require.ErrorContains(t, err, "altered.db")
			assert.Equal(t, 2, placesIn(t, dir))
			left, err := os.ReadDir(dir)
			require.NoError(t, err)
			for _, file := range left {
				assert.False(t, strings.HasPrefix(file.Name(), store.TempPrefix), file.Name())
			}
		})
	}
	dir := t.TempDir()
	_, err := store.Restore(ctx, dir, altered(t, data, "ANALYZE; VACUUM"), noon)
	require.NoError(t, err, "what SQLite counts for itself is nobody's code")
	assert.EqualValues(t, 2, open(t, dir).Now().Revision)
}

// A backup has the tables of a lab and nothing else, so that it can be restored
// whatever somebody added to the file.
func TestABackupOfAFileWithMoreInItIsRestored(t *testing.T) {
	ctx := context.Background()
	dir, backup := t.TempDir(), filepath.Join(t.TempDir(), "copy.db")
	mine := altered(t, today(t), "CREATE VIEW loud AS SELECT * FROM notes; CREATE TABLE mine (x); "+
		"CREATE TRIGGER t AFTER DELETE ON owner BEGIN DELETE FROM notes; END")
	require.NoError(t, os.Rename(mine, filepath.Join(dir, store.FileName)))
	require.NoError(t, store.Backup(ctx, dir, backup))
	restored := t.TempDir()
	_, err := store.Restore(ctx, restored, backup, noon)
	require.NoError(t, err)
	assert.NotNil(t, open(t, restored).Now().Lab.Get(lab.Key{Kind: lab.KindNote, ID: "n"}))
}

// A lab with names that an earlier version took is opened, and what was put right
// stands in its logbook.
func TestNamesThatAreRefusedNowDoNotKeepALabShut(t *testing.T) {
	dir := t.TempDir()
	odd := altered(t, today(t), "UPDATE places SET name = 'Lo'||char(0x200b)||'ft'; INSERT INTO places (id, name) VALUES ('q', 'Loft')")
	require.NoError(t, os.Rename(odd, filepath.Join(dir, store.FileName)))
	for range 2 {
		s := open(t, dir)
		assert.Equal(t, place("Loft"), s.Now().Lab.Get(place("").Key()))
		assert.Equal(t, lab.Place{ID: "q", Name: "Loft 2"}, s.Now().Lab.Get(lab.Key{Kind: lab.KindPlace, ID: "q"}))
		assert.EqualValues(t, 3, s.Now().Revision)
		assert.Equal(t, "texts without characters that do not show", s.Now().Undo)
		require.NoError(t, s.Close())
	}
}
