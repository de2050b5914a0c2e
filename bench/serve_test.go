package bench

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// served is the real binary, as make build leaves it, on a lab.
func served(b *testing.B, l *lab.Lab) (url string, pid int) {
	b.Helper()
	dir := b.TempDir()
	st, err := store.Open(context.Background(), dir)
	require.NoError(b, err)
	_, err = st.Change(context.Background(), 0, "all of it", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(b, err)
	require.NoError(b, st.Close())
	url, cmd := started(b, dir)
	require.NotEmpty(b, url, "it does not serve")
	b.Cleanup(func() { _ = cmd.Process.Kill(); _ = cmd.Wait() })
	return url, cmd.Process.Pid
}

// started is the real binary on a data directory; url is "" if it ended before it
// served.
func started(t testing.TB, dir string) (url string, cmd *exec.Cmd) {
	t.Helper()
	binary, err := filepath.Abs("../bin/levelstaff")
	require.NoError(t, err)
	if _, err := os.Stat(binary); err != nil {
		t.Skip("bin/levelstaff is not built")
	}
	cmd = exec.Command(binary, "serve", "--data", dir, "--listen", "127.0.0.1:0")
	said, err := cmd.StderrPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	lines := bufio.NewScanner(said)
	for lines.Scan() {
		if m := regexp.MustCompile(`url=(\S+)/`).FindStringSubmatch(lines.Text()); m != nil {
			go func() { _, _ = io.Copy(io.Discard, said) }()
			return m[1], cmd
		}
	}
	return "", cmd
}

func ask(b *testing.B, url string) []byte {
	res, err := http.Get(url)
	require.NoError(b, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(b, err)
	require.Equal(b, 200, res.StatusCode, string(data))
	return data
}

// megabytes is a figure of /proc/PID/status.
func megabytes(b *testing.B, pid int, name string) float64 {
	data, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	require.NoError(b, err)
	m := regexp.MustCompile(name + `:\s+(\d+) kB`).FindSubmatch(data)
	require.NotNil(b, m)
	kb, err := strconv.Atoi(string(m[1]))
	require.NoError(b, err)
	return float64(kb) / 1024
}

// What the server takes with the large lab: after it started, and at most
// while everything it can work out was asked for.
func BenchmarkServerMemory(b *testing.B) {
	url, pid := served(b, large(b))
	for b.Loop() {
		ask(b, url+"/healthz")
	}
	b.ReportMetric(megabytes(b, pid, "VmRSS"), "MB-idle")
	for range 5 {
		for _, path := range []string{"lab", "reports/space", "reports/findings", "find?q=thing", "rundown", "compare?from=built&to=at:0",
			"files/lab.json"} {
			ask(b, url+"/api/v1/"+path)
		}
	}
	b.ReportMetric(megabytes(b, pid, "VmRSS"), "MB-used")
	b.ReportMetric(megabytes(b, pid, "VmHWM"), "MB-most")
}

const (
	readers  = 10
	perWrite = time.Second / 200
	perRead  = 25 * time.Millisecond
	measured = 6 * time.Second
)

// reading is the median of what ten readers wait for a device, each asking
// forty times a second.
func reading(b *testing.B, url string) time.Duration {
	var all []time.Duration
	var mu sync.Mutex
	var group sync.WaitGroup
	end := time.Now().Add(measured)
	for range readers {
		group.Go(func() {
			tick := time.NewTicker(perRead)
			defer tick.Stop()
			for time.Now().Before(end) {
				<-tick.C
				from := time.Now()
				ask(b, url+"/api/v1/devices/d-0100-10")
				mu.Lock()
				all = append(all, time.Since(from))
				mu.Unlock()
			}
		})
	}
	group.Wait()
	slices.Sort(all)
	return all[len(all)/2]
}

// Two hundred changes a second, sustained, with ten readers.
func BenchmarkReadersWhile200ChangesASecond(b *testing.B) {
	url, _ := served(b, large(b))
	http.DefaultTransport.(*http.Transport).MaxIdleConnsPerHost = 20
	for b.Loop() {
		reading(b, url) // warm
		idle := reading(b, url)
		stop, made := make(chan struct{}), make(chan int)
		go func() { made <- writing(b, url, stop) }()
		from := time.Now()
		busy := reading(b, url)
		close(stop)
		n := <-made
		b.ReportMetric(float64(idle.Microseconds()), "µs-idle")
		b.ReportMetric(float64(busy.Microseconds()), "µs-busy")
		b.ReportMetric(float64(busy)/float64(idle), "times")
		b.ReportMetric(float64(n)/time.Since(from).Seconds(), "changes/s")
	}
}

// writing makes a change each two hundredth of a second until it is stopped to
// stop, and says how many.
func writing(b *testing.B, url string, stop <-chan struct{}) (n int) {
	var device map[string]any
	require.NoError(b, json.Unmarshal(ask(b, url+"/api/v1/devices/d-0050-05"), &device))
	device["kind"] = "device"
	tick := time.NewTicker(perWrite)
	defer tick.Stop()
	revision := 1
	for {
		select {
		case <-stop:
			return n
		case <-tick.C:
		}
		device["purpose"] = fmt.Sprint("turn ", revision)
		fields, err := json.Marshal(device)
		require.NoError(b, err)
		res, err := http.Post(url+"/api/v1/changes", "application/json",
			bytes.NewReader(fmt.Appendf(nil, `{"base_revision":%d,"changes":[{"put":%s}]}`, revision, fields)))
		require.NoError(b, err)
		answer, err := io.ReadAll(res.Body)
		require.NoError(b, err)
		require.NoError(b, res.Body.Close())
		require.Equal(b, 200, res.StatusCode, strings.TrimSpace(string(answer)))
		revision++
		n++
	}
}
