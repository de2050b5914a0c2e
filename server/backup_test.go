package server_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
	"levelstaff/store"
)

func TestABackupTakesAsLongAsTheLabIsLargeAndLeavesNothing(t *testing.T) {
	s := configured(t, "", server.Config{Time: time.Nanosecond}).with()
	a := s.ask("GET", "/api/v1/files/backup.db", "")
	require.Equal(t, 200, a.status)
	assert.Contains(t, a.header.Get("Content-Disposition"), ".db")
	entries, err := os.ReadDir(s.store.Dir())
	require.NoError(t, err)
	for _, e := range entries {
		assert.False(t, strings.HasPrefix(e.Name(), store.TempPrefix), "%s is left", e.Name())
	}

	dir, file := t.TempDir(), filepath.Join(t.TempDir(), "backup.db")
	require.NoError(t, os.WriteFile(file, []byte(a.body), 0o600))
	_, err = store.Restore(context.Background(), dir, file, time.Now())
	require.NoError(t, err)
	again, err := store.Open(context.Background(), dir)
	require.NoError(t, err)
	defer again.Close()
	assert.Equal(t, int64(1), again.Now().Revision)
}
