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
	"slices"
	"testing"
	"time"

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

// bare is a durable transaction of the same rows without anything around it,
// its statements prepared: the yardstick for a change over HTTP.
func bare(b *testing.B) func(i int) {
	b.Helper()
	db, err := sql.Open("sqlite", "file:"+filepath.Join(filled(b), store.FileName)+
		"?_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=foreign_keys(ON)&_txlock=immediate")
	require.NoError(b, err)
	b.Cleanup(func() { _ = db.Close() })
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
	const record = `{"id":"d-0100-10","name":"%s","device_kind":"server","state":"running","takes_u":2,"depth_mm":512,` +
		`"at":{"where":"units","rack_id":"r-0100","unit":27,"face":"front","share":"whole"}}`
	return func(i int) {
		tx, err := db.Begin()
		require.NoError(b, err)
		name := fmt.Sprint("renamed ", i)
		changes := fmt.Sprintf(`[{"kind":"device","before":`+record+`,"after":`+record+`}]`, "before", name)
		for n, args := range [][]any{{name, "d-0100-10"}, {i + 2, "2026-11-23T08:00:00Z", name, changes}, {i + 2, "d-0100-10"}} {
			_, err := tx.Stmt(prepared[n]).Exec(args...)
			require.NoError(b, err)
		}
		require.NoError(b, tx.Commit())
	}
}

// overHTTP is one change, from the request to the answer that it is durable.
func overHTTP(b *testing.B) func(i int) {
	b.Helper()
	st, err := store.Open(context.Background(), filled(b))
	require.NoError(b, err)
	app, err := server.New(context.Background(), st, nil, server.Config{Version: "bench"})
	require.NoError(b, err)
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(b, err)
	ctx, stop := context.WithCancel(context.Background())
	b.Cleanup(func() { stop(); _ = st.Close() })
	go func() {
		_ = app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true, GracefulContext: ctx})
	}()
	d, _ := lab.Find[lab.Device](st.Now().Lab, "d-0100-10")
	return func(i int) {
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

// The two take turns, so that a slow moment of the disk is one for both. The
// medians are what counts.
func BenchmarkAChangeOverHTTPBesideABareTransaction(b *testing.B) {
	plain, http := bare(b), overHTTP(b)
	var plainTook, httpTook []time.Duration
	took := func(do func(int), i int) time.Duration {
		from := time.Now()
		do(i)
		return time.Since(from)
	}
	for i := 0; b.Loop(); i++ {
		plainTook = append(plainTook, took(plain, i))
		httpTook = append(httpTook, took(http, i))
	}
	median := func(list []time.Duration) float64 {
		slices.Sort(list)
		return float64(list[len(list)/2].Microseconds())
	}
	b.ReportMetric(median(plainTook), "µs-bare")
	b.ReportMetric(median(httpTook), "µs-http")
	b.ReportMetric(median(httpTook)/median(plainTook), "times")
}
