package main

import (
	"context"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// lines passes on what is logged, a line at a time.
type lines chan string

func (l lines) Write(p []byte) (int, error) { l <- string(p); return len(p), nil }

// serving runs a command that serves until the test says stop.
func serving(t *testing.T, args ...string) (url string, stop func() error) {
	t.Helper()
	logged := make(lines, 100)
	old := slog.Default()
	slog.SetDefault(slog.New(slog.NewTextHandler(logged, nil)))
	t.Cleanup(func() { slog.SetDefault(old) })
	ctx, cancel := context.WithCancel(context.Background())
	ended := make(chan error, 1)
	cmd := root()
	cmd.SetArgs(append(args, "--listen", "127.0.0.1:0"))
	go func() { ended <- cmd.ExecuteContext(ctx) }()
	for {
		select {
		case line := <-logged:
			if m := regexp.MustCompile(`url=(\S+)/`).FindStringSubmatch(line); m != nil {
				return m[1], func() error { cancel(); return <-ended }
			}
		case err := <-ended:
			require.NoError(t, err)
			cancel()
			return "", nil
		}
	}
}

func get(t *testing.T, url string) string {
	t.Helper()
	res, err := http.Get(url)
	require.NoError(t, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	require.Equal(t, 200, res.StatusCode, string(data))
	return string(data)
}

func TestServeKeepsWhatWasChangedAndEndsWhenTold(t *testing.T) {
	data := t.TempDir()
	url, stop := serving(t, "serve", "--data", data)
	assert.Contains(t, get(t, url+"/healthz"), `"status":"ok"`)
	res, err := http.Post(url+"/api/v1/racks", "application/json", strings.NewReader(`{"name":"Pantry","height_u":24}`))
	require.NoError(t, err)
	require.Equal(t, 201, res.StatusCode)
	require.NoError(t, res.Body.Close())

	_, exit := run(t, "report", "space", "--data", data)
	assert.Equal(t, 1, exit, "the directory is in use")
	require.NoError(t, stop())

	url, stop = serving(t, "serve", "--data", data)
	assert.Contains(t, get(t, url+"/api/v1/lab"), `"name":"Pantry"`)
	require.NoError(t, stop())
	out, exit := run(t, "report", "space", "--data", data)
	assert.Equal(t, 0, exit)
	assert.Contains(t, out, "Pantry")
}

func TestDemoServesQuarryHouse(t *testing.T) {
	url, stop := serving(t, "demo")
	defer func() { assert.NoError(t, stop()) }()
	var lab struct {
		Revision int
		Settings struct{ Name string }
		Racks    []struct{ Name string }
	}
	require.NoError(t, json.Unmarshal([]byte(get(t, url+"/api/v1/lab")), &lab))
	assert.Equal(t, "Quarry House", lab.Settings.Name)
	assert.Len(t, lab.Racks, 3)
	assert.Contains(t, get(t, url+"/"), `<div id="app"`)
	assert.Contains(t, get(t, url+"/api/v1/rundown"), `server "anvil"`)
}
