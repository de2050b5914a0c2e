package store_test

import (
	"context"
	"database/sql"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/demo"
	"levelstaff/store"
)

func wireUp(t *testing.T, s *store.Store) {
	t.Helper()
	l, err := demo.House()
	require.NoError(t, err)
	_, err = s.Change(context.Background(), 0, "", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(t, err)
}

func TestCablesAreThereAfterARestart(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	wireUp(t, s)
	before := s.Now().Lab.All()
	require.NoError(t, s.Close())
	after := open(t, dir).Now().Lab.All()
	assert.Equal(t, before, after)
	assert.Greater(t, len(after.Cables), 70)
	assert.Len(t, after.Runs, 3)
	assert.NotEmpty(t, after.Settings.Legend)
}

func TestAnyoneCanReadTheCablesFromTheFile(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	wireUp(t, s)
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", filepath.Join(dir, "levelstaff.db"))
	require.NoError(t, err)
	defer db.Close()
	var from, to, port, run string
	err = db.QueryRow(`SELECT a.name, b.name, c.b_port, r.name FROM cables c
		JOIN devices a ON a.id = c.a_device_id JOIN devices b ON b.id = c.b_device_id JOIN runs r ON r.id = c.run_id
		WHERE c.a_rear AND c.b_rear AND b.name = 'Loft plate' ORDER BY c.b_port`).Scan(&from, &to, &port, &run)
	require.NoError(t, err)
	assert.Equal(t, []string{"PP1", "Loft plate", "1", "stairs run"}, []string{from, to, port, run})
	var dangling int
	require.NoError(t, db.QueryRow(`SELECT count(*) FROM pragma_foreign_key_check`).Scan(&dangling))
	assert.Zero(t, dangling)
}

func TestAnUnpluggedCableComesBackFromTheLogbook(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	wireUp(t, s)
	before := s.Now().Lab.All()
	var label lab.Cable
	for c := range lab.Each[lab.Cable](s.Now().Lab) {
		if c.Label == "PP1.03" {
			label = c
		}
	}
	_, err := s.Change(context.Background(), s.Now().Revision, "", func(l *lab.Lab) ([]lab.Change, error) {
		return l.Removal(lab.Key{Kind: lab.KindDevice, ID: label.B.Device}), nil
	})
	require.NoError(t, err)
	is, there := lab.Find[lab.Cable](s.Now().Lab, label.ID)
	require.True(t, there, "its other end is still plugged in")
	assert.Nil(t, is.B)
	require.NoError(t, s.Close())
	s = open(t, dir)
	_, err = s.Undo(context.Background(), s.Now().Revision)
	require.NoError(t, err)
	assert.Equal(t, before, s.Now().Lab.All())
}
