package bench

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"path/filepath"
	"testing"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/server"
	"levelstaff/store"
)

// filled is a data directory with the large lab in it.
func filled(b *testing.B) string {
	b.Helper()
	dir := b.TempDir()
	st, err := store.Open(context.Background(), dir)
	require.NoError(b, err)
	l := large(b)
	_, err = st.Change(context.Background(), 0, "", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(b, err)
	require.NoError(b, st.Close())
	return dir
}

func BenchmarkLargeLabOpenedFromItsFile(b *testing.B) {
	dir := filled(b)
	for b.Loop() {
		st, err := store.Open(context.Background(), dir)
		require.NoError(b, err)
		require.NoError(b, st.Close())
	}
}

// What a durable transaction of the same rows costs without anything around
// it, its statements prepared: the yardstick for the next one.
func BenchmarkBareSQLiteTransaction(b *testing.B) {
	dir := filled(b)
	db, err := sql.Open("sqlite", "file:"+filepath.Join(dir, store.FileName)+"?_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(ON)&_txlock=immediate")
	require.NoError(b, err)
	defer db.Close()
	db.SetMaxOpenConns(1)
	var prepared []*sql.Stmt
	for _, query := range []string{
		"UPDATE devices SET name = ? WHERE id = ?",
		"INSERT INTO logbook (revision, at, label, changes) VALUES (?, ?, ?, ?)",
		"INSERT INTO logbook_records (revision, kind, id) VALUES (?, 'device', ?)",
	} {
		stmt, err := db.Prepare(query)
		require.NoError(b, err)
		prepared = append(prepared, stmt)
	}
	for i := 2; b.Loop(); i++ {
		tx, err := db.Begin()
		require.NoError(b, err)
		name := fmt.Sprint("renamed ", i)
		for n, args := range [][]any{{name, "d-0100-10"}, {i, "2026-11-23T08:00:00Z", name, `[{"kind":"device","before":{"name":"x"},"after":{"name":"` + name + `"}}]`}, {i, "d-0100-10"}} {
			_, err := tx.Stmt(prepared[n]).Exec(args...)
			require.NoError(b, err)
		}
		require.NoError(b, tx.Commit())
	}
}

func BenchmarkOneChangeOverHTTPUntilDurable(b *testing.B) {
	st, err := store.Open(context.Background(), filled(b))
	require.NoError(b, err)
	defer st.Close()
	app, err := server.New(st, nil, "bench")
	require.NoError(b, err)
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	go func() {
		_ = app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true, GracefulContext: ctx})
	}()
	d, _ := st.Now().Lab.Device("d-0100-10")
	for i := 0; b.Loop(); i++ {
		d.Name = fmt.Sprint("renamed ", i)
		fields, err := json.Marshal(d)
		require.NoError(b, err)
		body := fmt.Sprintf(`{"base_revision":%d,"changes":[{"put":{"kind":"device",%s}]}`, i+1, fields[1:])
		res, err := http.Post("http://"+ln.Addr().String()+"/api/v1/changes", "application/json", bytes.NewBufferString(body))
		require.NoError(b, err)
		answer, err := io.ReadAll(res.Body)
		require.NoError(b, err)
		require.NoError(b, res.Body.Close())
		require.Equal(b, 200, res.StatusCode, string(answer))
	}
}
