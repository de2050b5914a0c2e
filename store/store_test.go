package store_test

import (
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/demo"
	"levelstaff/store"
)

func open(t *testing.T, dir string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), dir)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func put(t *testing.T, s *store.Store, records ...lab.Record) store.Entry {
	t.Helper()
	e, err := s.Change(context.Background(), s.Now().Revision, "", puts(records...))
	require.NoError(t, err)
	return e
}

func puts(records ...lab.Record) func(*lab.Lab) ([]lab.Change, error) {
	return func(l *lab.Lab) ([]lab.Change, error) {
		var changes []lab.Change
		for _, r := range records {
			if c, ok := l.Put(r); ok {
				changes = append(changes, c)
			}
		}
		return changes, nil
	}
}

func place(name string) lab.Place { return lab.Place{ID: "p", Name: name} }

func TestEverythingIsThereAfterARestart(t *testing.T) {
	dir := t.TempDir()
	l, err := demo.Large(7)
	require.NoError(t, err)
	s := open(t, dir)
	e, err := s.Change(context.Background(), 0, "", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(t, err)
	takes, depth := 2, 44.45
	odd := lab.Device{ID: "odd", Name: `q"uo\te`, Kind: lab.Other, State: lab.Leaving, Purpose: "for", Notes: "two\nlines",
		Spec: lab.Spec{HeightMM: &depth, TakesU: &takes, WidthMM: &depth, DepthMM: &depth, WeightKG: &depth}}
	put(t, s, odd)
	before := s.Now()
	assert.Equal(t, e.Revision+1, before.Revision)
	require.NoError(t, s.Close())

	after := open(t, dir).Now()
	assert.Empty(t, lab.Diff(before.Lab, after.Lab))
	assert.Equal(t, before.Revision, after.Revision)
	assert.Equal(t, odd, after.Lab.Get(odd.Key()))
}

func TestSpecsAndPartsAreThereAfterARestart(t *testing.T) {
	text, err := os.ReadFile("../core/rundown/testdata/good/parts.rundown")
	require.NoError(t, err)
	l := labtest.From(t, string(text))
	dir := t.TempDir()
	s := open(t, dir)
	_, err = s.Change(context.Background(), 0, "", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(t, err)
	anvil, _ := rundown.DeviceNamed(l)("anvil")
	put(t, s, lab.Photo{ID: "f", Device: anvil, File: strings.Repeat("0a", 32), Caption: "from behind", WidthPX: 4, HeightPX: 3},
		lab.Filter{ID: "v", Name: "big", Text: "ram>1GB", Columns: []string{"name", "ram"}, Sort: "-ram", Group: "kind"})
	before := s.Now()
	require.NoError(t, s.Close())
	after := open(t, dir).Now()
	assert.Empty(t, lab.Diff(before.Lab, after.Lab))
}

func TestUndoAndRedoOutliveARestart(t *testing.T) {
	dir := t.TempDir()
	ctx := context.Background()
	s := open(t, dir)
	put(t, s, place("one"))
	put(t, s, place("two"))
	put(t, s, place("three"))
	name := func() string {
		p, _ := lab.Find[lab.Place](s.Now().Lab, "p")
		return p.Name
	}
	step := func(do func(context.Context, int64) (store.Entry, error)) {
		_, err := do(ctx, s.Now().Revision)
		require.NoError(t, err)
	}
	step(s.Undo)
	assert.Equal(t, "two", name())
	assert.Equal(t, "two renamed to three", s.Now().Redo)
	require.NoError(t, s.Close())

	s = open(t, dir)
	assert.Equal(t, "two renamed to three", s.Now().Redo)
	step(s.Undo)
	assert.Equal(t, "one", name())
	step(s.Redo)
	step(s.Redo)
	assert.Equal(t, "three", name())
	_, err := s.Redo(ctx, s.Now().Revision)
	require.ErrorIs(t, err, store.ErrNothing)

	step(s.Undo)
	put(t, s, place("four")) // ends what could be made again
	_, err = s.Redo(ctx, s.Now().Revision)
	require.ErrorIs(t, err, store.ErrNothing)
	for range 3 {
		step(s.Undo)
	}
	assert.Empty(t, lab.Diff(lab.New(), s.Now().Lab))
	_, err = s.Undo(ctx, s.Now().Revision)
	require.ErrorIs(t, err, store.ErrNothing)
}

func TestWhoeverDidNotSeeARecordsLatestChangeIsRefused(t *testing.T) {
	s := open(t, t.TempDir())
	base := put(t, s, place("one"), lab.Place{ID: "q", Name: "elsewhere"}).Revision
	put(t, s, place("two"))

	_, err := s.Change(context.Background(), base, "", puts(place("three")))
	var stale *store.Stale
	require.ErrorAs(t, err, &stale)
	assert.Equal(t, []lab.Key{{Kind: lab.KindPlace, ID: "p"}}, stale.Records)

	_, err = s.Change(context.Background(), base, "", puts(lab.Place{ID: "p", Name: "Elsewhere"}))
	require.ErrorAs(t, err, &stale, "also where it would be refused as it is")

	_, err = s.Change(context.Background(), base, "", puts(lab.Place{ID: "q", Name: "another record is no conflict"}))
	require.NoError(t, err)
	_, err = s.Change(context.Background(), 99, "", puts(place("four")))
	require.ErrorAs(t, err, &stale, "nobody can have seen change 99")
	_, err = s.Undo(context.Background(), base)
	require.ErrorAs(t, err, &stale)
	p, _ := lab.Find[lab.Place](s.Now().Lab, "p")
	assert.Equal(t, "two", p.Name)
}

// Two people may say different facts of one record.
func TestDifferentFactsOfOneRecordDoNotClash(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	base := put(t, s, lab.Device{ID: "d", Name: "anvil", Kind: lab.Server, State: lab.Running}).Revision
	set := func(to func(*lab.Device)) func(*lab.Lab) ([]lab.Change, error) {
		return func(l *lab.Lab) ([]lab.Change, error) {
			d, _ := lab.Find[lab.Device](l, "d")
			to(&d)
			return puts(d)(l)
		}
	}
	_, err := s.Change(ctx, base, "", set(func(d *lab.Device) { d.Purpose = "films" }))
	require.NoError(t, err)
	_, err = s.Change(ctx, base, "", set(func(d *lab.Device) { d.Name = "ember" }))
	require.NoError(t, err)
	_, err = s.Change(ctx, base, "", set(func(d *lab.Device) { d.Purpose = "music" }))
	var stale *store.Stale
	require.ErrorAs(t, err, &stale)
	require.Len(t, stale.Clashes, 1)
	assert.Equal(t, "ember: what it is for is films now, and you wrote music", stale.Clashes[0].Says)
	_, err = s.Change(ctx, base, "", func(l *lab.Lab) ([]lab.Change, error) { return l.Removal(lab.Key{Kind: lab.KindDevice, ID: "d"}), nil })
	require.ErrorAs(t, err, &stale, "what is to go has newer facts")
}

func TestARefusedChangeLeavesNoTrace(t *testing.T) {
	s := open(t, t.TempDir())
	put(t, s, place("one"))
	_, err := s.Change(context.Background(), 1, "", puts(lab.Device{ID: "d", Kind: "toaster"}))
	var refusal *lab.Refusal
	require.ErrorAs(t, err, &refusal)
	assert.Equal(t, int64(1), s.Now().Revision)

	e, err := s.Change(context.Background(), 1, "", puts(place("one")))
	require.NoError(t, err)
	assert.Empty(t, e.Changes, "nothing to change is no entry")
	assert.Equal(t, int64(1), s.Now().Revision)
}

func TestASecondProcessIsRefused(t *testing.T) {
	dir := t.TempDir()
	open(t, dir)
	_, err := store.Open(context.Background(), dir)
	require.ErrorContains(t, err, "another levelstaff is using "+dir)
}

func TestFilesThatMustNotBeWrittenTo(t *testing.T) {
	good := t.TempDir()
	s := open(t, good)
	l, err := demo.Large(3)
	require.NoError(t, err)
	_, err = s.Change(context.Background(), 0, "", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(t, err)
	require.NoError(t, s.Close())
	data, err := os.ReadFile(filepath.Join(good, store.FileName))
	require.NoError(t, err)

	torn := append([]byte{}, data...)
	for i := 8192; i < 8192+4096*20; i++ {
		torn[i] = 0xA5
	}
	for name, c := range map[string]struct {
		data []byte
		say  string
	}{
		"a text file is no lab":               {[]byte("rack \"Pantry\": 24U, but in the wrong file"), "is damaged (it is not a SQLite file); put a backup in its place with levelstaff restore"},
		"a file with pages torn out":          {torn, "is damaged"},
		"a file cut in the middle":            {data[:len(data)/2], "is damaged"},
		"a file with a table version to come": {nil, "written by a newer levelstaff"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := t.TempDir()
			path := filepath.Join(dir, store.FileName)
			if c.data == nil {
				c.data = fromTheFuture(t, data)
			}
			require.NoError(t, os.WriteFile(path, c.data, 0o600))
			_, err := store.Open(context.Background(), dir)
			require.ErrorContains(t, err, c.say)
			require.ErrorContains(t, err, "Nothing was changed")
			now, err := os.ReadFile(path)
			require.NoError(t, err)
			assert.Equal(t, c.data, now, "the file is as it was")
		})
	}
}

// fromTheFuture is the file with a migration in it that is not known yet.
func fromTheFuture(t *testing.T, data []byte) []byte {
	t.Helper()
	path := filepath.Join(t.TempDir(), "newer.db")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	_, err = db.Exec("PRAGMA journal_mode = DELETE; INSERT INTO goose_db_version (version_id, is_applied) VALUES (99999, 1)")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	newer, err := os.ReadFile(path)
	require.NoError(t, err)
	return newer
}

// Anyone can open the file and understand it.
func TestTheFileReadsByItself(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	takes := 2
	put(t, s, lab.Rack{ID: "r", Name: "Pantry", HeightU: 24},
		lab.Device{ID: "d", Name: "anvil", Kind: lab.Server, State: lab.Running, At: lab.At("r", 12, lab.Front), Spec: lab.Spec{TakesU: &takes}})
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	defer db.Close()
	var rack, face string
	var unit int
	var weight sql.NullFloat64
	require.NoError(t, db.QueryRow(
		"SELECT racks.name, at_unit, at_face, weight_kg FROM devices JOIN racks ON racks.id = at_rack_id WHERE devices.name = 'anvil'").Scan(&rack, &unit, &face, &weight))
	assert.Equal(t, "Pantry", rack)
	assert.Equal(t, 12, unit)
	assert.Equal(t, "front", face)
	assert.False(t, weight.Valid, "an unknown weight is NULL")
	var label string
	require.NoError(t, db.QueryRow("SELECT label FROM logbook WHERE revision = 1").Scan(&label))
	assert.Equal(t, `rack "Pantry" added; server "anvil" added at Pantry 12-13`, label)
}
