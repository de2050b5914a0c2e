package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
)

func quoted(t *testing.T, text string) string {
	t.Helper()
	data, err := json.Marshal(text)
	require.NoError(t, err)
	return string(data)
}

func TestWhatTakesTooLongIsGivenUp(t *testing.T) {
	s := configured(t, "", server.Config{Time: time.Nanosecond}).with()
	for path, body := range map[string]string{
		"/api/v1/rundown":                 `{"base_revision":1,"text":"rack \"new\" 9U\n"}`,
		"/api/v1/rundown/check":           `{"base_revision":1,"text":"rack \"new\" 9U\n"}`,
		"/api/v1/files/devices.csv":       `{"base_revision":1,"text":"name,kind\nnew,server\n"}`,
		"/api/v1/files/devices.csv/check": `{"base_revision":1,"text":"name,kind\nnew,server\n"}`,
		"/api/v1/rows":                    `{"base_revision":1,"list":"devices","fields":["name","device_kind"],"rows":[["new","server"]]}`,
		"/api/v1/cells":                   `{"base_revision":1,"cells":[{"record":{"kind":"device","id":"anvil"},"field":"notes","text":"new"}]}`,
	} {
		refused(t, s.ask("POST", path, body), 503, "", "given up because it took too long, and nothing was changed")
	}
	refused(t, s.ask("POST", "/api/v1/devices/anvil/photos", "anything", "Content-Type", "image/png"), 503, "", "given up")
	assert.EqualValues(t, 1, s.ask("GET", "/api/v1/lab", "").json["revision"])
}

func TestFiftyFaultsAreToldAndTheOthersCounted(t *testing.T) {
	s := newSite(t).with()
	var puts, junk, rows []string
	for i := range 100 {
		puts = append(puts, fmt.Sprintf(`{"put":{"kind":"device","id":"d%d","name":"d%d","device_kind":"toaster"}}`, i, i))
		rows = append(rows, fmt.Sprintf("d%d,server,999999", i))
	}
	for range 1200 {
		junk = append(junk, "zzqy")
	}
	for path, c := range map[string]struct {
		body string
		more string
	}{
		"/api/v1/changes":           {`{"base_revision":1,"changes":[` + strings.Join(puts, ",") + `]}`, "and 50 more"},
		"/api/v1/rundown":           {`{"base_revision":1,"text":` + quoted(t, strings.Join(junk, "\n")) + `}`, "and 1150 more"},
		"/api/v1/files/devices.csv": {`{"base_revision":1,"text":` + quoted(t, "name,kind,depth_mm\n"+strings.Join(rows, "\n")) + `}`, "and 50 more"},
	} {
		a := s.ask("POST", path, c.body)
		refused(t, a, 422, "", c.more)
		assert.Len(t, a.json["errors"], 51, path)
	}
	check := s.ask("POST", "/api/v1/rundown/check", `{"base_revision":1,"text":`+quoted(t, strings.Join(junk, "\n"))+`}`)
	require.Equal(t, 200, check.status, check.body)
	assert.Len(t, check.json["mistakes"], 1000)
	assert.EqualValues(t, 200, check.json["more_mistakes"])
}
