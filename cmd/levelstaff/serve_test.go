package main

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
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

func TestWhatIsUnderWayIsFinishedBeforeItEnds(t *testing.T) {
	data := t.TempDir()
	url, stop := serving(t, "serve", "--data", data)
	address := strings.TrimPrefix(url, "http://")
	conn, err := net.Dial("tcp", address)
	require.NoError(t, err)
	defer conn.Close()
	const body = `{"name":"Pantry","height_u":24}`
	_, err = fmt.Fprintf(conn, "POST /api/v1/racks HTTP/1.1\r\nHost: %s\r\nContent-Type: application/json\r\nContent-Length: %d\r\n"+
		"Expect: 100-continue\r\n\r\n", address, len(body))
	require.NoError(t, err)
	answers := bufio.NewReader(conn)
	line, err := answers.ReadString('\n')
	require.NoError(t, err)
	require.Contains(t, line, "100 Continue", "the server waits for the rest")

	ended := make(chan error, 1)
	go func() { ended <- stop() }()
	require.Eventually(t, func() bool {
		late, err := net.Dial("tcp", address)
		if err == nil {
			late.Close()
		}
		return err != nil
	}, time.Minute, time.Millisecond, "nobody else is let in")
	_, err = io.WriteString(conn, body)
	require.NoError(t, err)
	_, err = answers.ReadString('\n') // ends what said 100
	require.NoError(t, err)
	res, err := http.ReadResponse(answers, nil)
	require.NoError(t, err)
	defer res.Body.Close()
	assert.Equal(t, 201, res.StatusCode)
	require.NoError(t, <-ended)
	out, exit := run(t, "report", "space", "--data", data)
	assert.Equal(t, 0, exit)
	assert.Contains(t, out, "Pantry")
}

func TestAServerThatIsToldToEndBeforeItServesEnds(t *testing.T) {
	told, cancel := context.WithCancel(context.Background())
	cancel()
	for range 50 { // whichever of the two comes first
		ln, err := net.Listen("tcp", "127.0.0.1:0")
		require.NoError(t, err)
		require.NoError(t, untilTold(told, fiber.New(), ln))
	}
}

func TestADemoRemovesWhatAKilledOneLeft(t *testing.T) {
	t.Setenv("TMPDIR", t.TempDir())
	left := filepath.Join(os.TempDir(), demoDir+"killed")
	require.NoError(t, os.Mkdir(left, 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(left, "levelstaff.lock"), nil, 0o600))
	_, stopOne := serving(t, "demo")
	assert.NoDirExists(t, left)
	_, stopTwo := serving(t, "demo")
	running, err := filepath.Glob(filepath.Join(os.TempDir(), demoDir+"*"))
	require.NoError(t, err)
	assert.Len(t, running, 2, "one that runs is left alone")
	require.NoError(t, stopTwo())
	require.NoError(t, stopOne())
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

// A directory whose lab is gone is not served as an empty one, unless that is said.
func TestServeBeginsNothingWhereALabWas(t *testing.T) {
	dir := t.TempDir()
	replaced := filepath.Join(dir, "levelstaff-replaced-20261123-120000.db")
	require.NoError(t, os.WriteFile(replaced, []byte("a lab"), 0o600))
	cmd := root()
	cmd.SetArgs([]string{"serve", "--data", dir, "--listen", "127.0.0.1:0"})
	err := cmd.Execute()
	require.ErrorContains(t, err, "levelstaff-replaced-20261123-120000.db")
	assert.Equal(t, failed, status(err))
	url, stop := serving(t, "serve", "--data", dir, "--new")
	assert.Contains(t, get(t, url+"/api/v1/lab"), `"revision":0`)
	require.NoError(t, stop())
}
