package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// hands is how many write at a time while the server is killed.
const hands = 6

// hand makes one change after another to what is its own: a device that says how
// many changes there were, and things that come and go.
type hand struct {
	name   string
	is     map[string]string // what the lab has of it, by id: the purpose
	then   map[string]string // and with the change that was sent last, if it was made
	n      int               // changes that were sent
	killed bool              // the last one got no answer
	acked  int
}

// work sends changes until the server is gone. The error is a refusal, which
// none of them should get.
func (h *hand) work(url string) error {
	for {
		h.n++
		h.then = maps.Clone(h.is)
		own, thing := h.name, fmt.Sprintf("%s-%d", h.name, h.n)
		method, path, body := http.MethodPatch, "/api/v1/devices/"+own, fmt.Sprintf(`{"purpose":"%d"}`, h.n)
		switch {
		case h.is[own] == "":
			method, path = http.MethodPost, "/api/v1/devices"
			body = fmt.Sprintf(`{"id":%q,"name":%q,"device_kind":"server","purpose":"%d"}`, own, own, h.n)
			h.then[own] = strconv.Itoa(h.n)
		case h.n%3 == 0:
			method, path, body = http.MethodPost, "/api/v1/devices", fmt.Sprintf(`{"id":%q,"name":%q,"device_kind":"hub"}`, thing, thing)
			h.then[thing] = ""
		case h.n%7 == 0 && len(h.is) > 1:
			all := slices.Sorted(maps.Keys(h.is))
			last := all[len(all)-1]
			method, path, body = http.MethodDelete, "/api/v1/devices/"+last, ""
			delete(h.then, last)
		default:
			h.then[own] = strconv.Itoa(h.n)
		}
		status, answer := send(method, url+path, body)
		if h.killed = status == 0; h.killed {
			return nil
		}
		if status/100 != 2 {
			return fmt.Errorf("%s %s %s: %d %s", method, path, body, status, answer)
		}
		h.is = h.then
		h.acked++
	}
}

// send answers status 0 where the server is gone, or goes in the middle.
func send(method, url, body string) (status int, answer string) {
	req, err := http.NewRequest(method, url, strings.NewReader(body))
	if err != nil {
		return 0, ""
	}
	req.Header.Set("Content-Type", "application/json")
	res, err := http.DefaultClient.Do(req)
	if err != nil {
		return 0, ""
	}
	data, err := io.ReadAll(res.Body)
	if err = errors.Join(err, res.Body.Close()); err != nil {
		return 0, ""
	}
	return res.StatusCode, string(data)
}

// settle compares what the lab has of a hand with what it was told.
func (h *hand) settle(t *testing.T, found map[string]string) {
	t.Helper()
	if h.killed && maps.Equal(found, h.then) {
		h.is = found // it was made, and only the answer was lost
	}
	require.Equal(t, h.is, found, "what %s was told is in the lab", h.name)
	h.killed = false
}

// Whatever is acknowledged outlives SIGKILL, at any moment: make soak.
func TestSoak(t *testing.T) {
	kills, err := strconv.Atoi(os.Getenv("SOAK_KILLS"))
	if err != nil {
		t.Skip("run it with make soak")
	}
	within, err := time.ParseDuration(os.Getenv("SOAK_WITHIN"))
	require.NoError(t, err, "SOAK_WITHIN is a time such as 20m")
	rnd := rand.New(rand.NewPCG(uint64(time.Now().UnixNano()), 15))
	dir := t.TempDir()
	var all []*hand
	for i := range hands {
		all = append(all, &hand{name: fmt.Sprintf("hand%d", i), is: map[string]string{}})
	}
	end, killed, early := time.Now().Add(within), 0, 0
	for killed < kills && time.Now().Before(end) {
		if rnd.IntN(5) == 0 { // now and then while it starts
			cmd := exec.Command("../bin/levelstaff", "serve", "--data", dir, "--listen", "127.0.0.1:0")
			require.NoError(t, cmd.Start())
			time.Sleep(time.Duration(rnd.IntN(120)) * time.Millisecond)
			require.NoError(t, cmd.Process.Kill())
			_ = cmd.Wait()
			killed++
			early++
		}
		url, cmd := started(t, dir)
		require.NotEmpty(t, url, "it starts after it was killed")
		settled(t, url, all)
		var group sync.WaitGroup
		refused := make(chan error, hands)
		for _, h := range all {
			group.Go(func() { refused <- h.work(url) })
		}
		time.Sleep(time.Duration(20+rnd.IntN(400)) * time.Millisecond)
		require.NoError(t, cmd.Process.Kill())
		group.Wait()
		_ = cmd.Wait()
		killed++
		for range all {
			require.NoError(t, <-refused)
		}
	}
	url, cmd := started(t, dir)
	require.NotEmpty(t, url)
	settled(t, url, all)
	require.NoError(t, cmd.Process.Kill())
	_ = cmd.Wait()

	st, err := store.Open(context.Background(), dir) // which looks the file over
	require.NoError(t, err)
	defer st.Close()
	then, err := st.At(context.Background(), 0)
	require.NoError(t, err)
	assert.Empty(t, lab.Diff(then, lab.New()), "the logbook leads back to the empty lab")
	acked := 0
	for _, h := range all {
		acked += h.acked
	}
	require.Positive(t, acked)
	t.Logf("killed %d times, %d of them while it started; %d changes acknowledged, none lost; the lab is at change %d", killed, early, acked,
		st.Now().Revision)
	assert.GreaterOrEqual(t, st.Now().Revision, int64(acked))
}

// settled reads the lab and settles every hand with it.
func settled(t *testing.T, url string, all []*hand) {
	t.Helper()
	status, answer := send(http.MethodGet, url+"/api/v1/devices", "")
	require.Equal(t, 200, status, answer)
	var devices []lab.Device
	require.NoError(t, json.Unmarshal([]byte(answer), &devices))
	for _, h := range all {
		found := map[string]string{}
		for _, d := range devices {
			if name, _, _ := strings.Cut(string(d.ID), "-"); name == h.name {
				found[string(d.ID)] = d.Purpose
			}
		}
		h.settle(t, found)
	}
}
