package server_test

import (
	"bytes"
	"fmt"
	"io"
	"net"
	"net/http"
	"runtime"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
)

// largest is as much as any request may send.
const largest = 24 << 20

func post(t *testing.T, url string, body []byte) (status int, said string) {
	t.Helper()
	res, err := http.Post(url, "image/png", bytes.NewReader(body))
	require.NoError(t, err)
	defer res.Body.Close()
	data, err := io.ReadAll(res.Body)
	require.NoError(t, err)
	return res.StatusCode, string(data)
}

func TestBeforeTheDoorNoBodyIsKept(t *testing.T) {
	s := configured(t, "correct horse battery", server.Config{})
	url := "http://" + s.serve() + "/api/v1/devices/anvil/photos"
	body := make([]byte, largest)
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	status, _ := post(t, url, body)
	runtime.ReadMemStats(&after)
	assert.Equal(t, 401, status)
	assert.Less(t, after.TotalAlloc-before.TotalAlloc, uint64(largest/2), "read and thrown away")
}

func TestEachRouteTakesWhatItNeeds(t *testing.T) {
	s := newSite(t).with()
	large := strings.Repeat(" ", 2<<20)
	refused(t, s.ask("POST", "/api/v1/changes", large), 413, "", "larger than 1 MB")
	assert.Equal(t, 400, s.ask("POST", "/api/v1/rundown/check", large).status, "a text may be larger")
	locked := configured(t, "correct horse battery", server.Config{})
	refused(t, locked.ask("POST", "/sign-in", large), 413, "", "larger than 64 KB")
}

func TestTheBoundsOfTheDocumentHold(t *testing.T) {
	s := newSite(t).with()
	refused(t, s.ask("POST", "/api/v1/lines/check", `{"base_revision":1,"line":"`+strings.Repeat("ü", 2001)+`"}`), 422, "line",
		"line is 2001 characters long; at most 2000 are allowed")
	assert.Equal(t, 200, s.ask("POST", "/api/v1/lines/check", `{"base_revision":1,"line":"`+strings.Repeat("ü", 2000)+`"}`).status)
	ids := `"a"` + strings.Repeat(`,"a"`, 5000)
	refused(t, s.ask("POST", "/api/v1/labels/check", `{"base_revision":1,"cable_ids":[`+ids+`]}`), 422, "cable_ids",
		"cable_ids has 5001 entries; at most 5000 are allowed")
	refused(t, s.ask("POST", "/api/v1/cells", `{"base_revision":1,"cells":[{"record":{"kind":"device","id":"x"},"field":"note","text":"`+
		strings.Repeat("x", 20_001)+`"}]}`), 422, "cells[0].text", "cells[0].text is 20001 characters long")
}

func TestBodiesThatAreNeverFinishedDoNotAddUp(t *testing.T) {
	s := newSite(t).with()
	address := s.serve()
	url := "http://" + address + "/api/v1/devices/anvil/photos"
	status, _ := post(t, url, make([]byte, largest))
	require.Equal(t, 422, status, "it is no picture")

	var sending []net.Conn
	for range 12 {
		conn, err := net.Dial("tcp", address)
		require.NoError(t, err)
		defer conn.Close()
		sending = append(sending, conn)
		_, err = fmt.Fprintf(conn, "POST /api/v1/devices/anvil/photos HTTP/1.1\r\nHost: %s\r\nContent-Type: image/png\r\n"+
			"Content-Length: %d\r\n\r\n", address, largest)
		require.NoError(t, err)
		_, err = conn.Write(make([]byte, 2<<20))
		require.NoError(t, err)
	}
	answers := func(want int) func() bool {
		return func() bool {
			status, _ = post(t, url, make([]byte, largest))
			return status == want
		}
	}
	require.Eventually(t, answers(503), time.Minute, time.Millisecond, "the server holds what the others sent")
	for _, conn := range sending {
		require.NoError(t, conn.Close())
	}
	require.Eventually(t, answers(422), time.Minute, time.Millisecond, "and lets it go with them")
}
