package server_test

import (
	"bufio"
	"context"
	"fmt"
	"net"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/server"
)

const passphrase = "correct horse battery"

func (s site) signIn(typed string, headers ...string) answer {
	s.t.Helper()
	return s.ask("POST", "/sign-in", url.Values{"passphrase": {typed}}.Encode(),
		append([]string{"Content-Type", "application/x-www-form-urlencoded"}, headers...)...)
}

// cookieOf is what a browser sends back.
func cookieOf(a answer) string {
	cookie, _, _ := strings.Cut(a.header.Get("Set-Cookie"), ";")
	return cookie
}

// Every route of the API's own document, every page and every file refuses who
// is not signed in; only healthz answers, and says nothing of the lab.
func TestEveryRouteIsLocked(t *testing.T) {
	s := configured(t, passphrase, server.Config{Version: "secret-version"})
	walked := 0
	for path, methods := range routes(t) {
		for _, method := range append(methods, "PUT") {
			for _, headers := range [][]string{nil, {"Cookie", "levelstaff_session=forged"}, {"Authorization", "Bearer lvs_forged"}} {
				a := s.ask(method, strings.NewReplacer("{id}", "x", "{revision}", "1").Replace(path), "", headers...)
				if path == "/healthz" && method == "GET" {
					assert.Equal(t, 200, a.status)
					assert.NotContains(t, a.body, "secret")
					assert.NotContains(t, a.body, "revision")
					continue
				}
				walked++
				assert.Equal(t, 401, a.status, "%s %s %v: %s", method, path, headers, a.body)
			}
		}
	}
	assert.Greater(t, walked, 200)
	assert.Equal(t, 401, s.ask("GET", "/api/v1/events", "").status)
	for _, path := range []string{"/", "/rack", "/assets/app.js", "/assets/", "/nowhere", "/api/v1/../../", "/sign-in/../api/v1/lab"} {
		a := s.ask("GET", path, "", "Accept", "text/html")
		assert.Contains(t, []int{303, 401}, a.status, path)
		assert.NotContains(t, a.body, "csp-nonce")
	}
	page := s.ask("GET", "/sign-in", "", "Accept", "text/html")
	assert.Equal(t, 200, page.status)
	assert.Contains(t, page.body, `type="password"`)
	assert.NotContains(t, page.header.Get("Content-Security-Policy"), "unsafe")
	assert.Equal(t, "same-origin", page.header.Get("Referrer-Policy"), "or else a browser posts the form with the origin null")
}

func TestSigningInAndOut(t *testing.T) {
	s := configured(t, passphrase, server.Config{})
	wrong := s.signIn("wrong horse")
	assert.Equal(t, 403, wrong.status)
	assert.Contains(t, wrong.body, "That is not the passphrase.")
	assert.Empty(t, wrong.header.Get("Set-Cookie"))

	in := s.signIn(passphrase)
	require.Equal(t, 303, in.status, in.body)
	set := in.header.Get("Set-Cookie")
	assert.Contains(t, set, "HttpOnly")
	assert.Contains(t, set, "SameSite=Strict")
	assert.NotContains(t, set, "secure", "a browser on this machine comes without TLS")
	cookie := cookieOf(in)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status)
	assert.Contains(t, s.ask("GET", "/healthz", "", "Cookie", cookie).body, "revision")

	again, err := server.New(context.Background(), s.store, nil, server.Config{})
	require.NoError(t, err)
	after := site{t, again, s.store}
	assert.Equal(t, 200, after.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status, "a session outlives a restart")

	other := cookieOf(s.signIn(passphrase))
	assert.Contains(t, s.ask("GET", "/api/v1/sessions", "", "Cookie", cookie).body, `"locked":true`)
	assert.Equal(t, 200, s.ask("POST", "/api/v1/sign-out", "", "Cookie", other).status)
	assert.Equal(t, 401, s.ask("GET", "/api/v1/lab", "", "Cookie", other).status)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status)
	assert.Equal(t, 200, s.ask("DELETE", "/api/v1/sessions", "", "Cookie", cookie).status)
	assert.Equal(t, 401, s.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status, "all of them are ended")
}

func TestAnOldSessionEnds(t *testing.T) {
	now := time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)
	s := configured(t, passphrase, server.Config{Now: func() time.Time { return now }})
	cookie := cookieOf(s.signIn(passphrase))
	now = now.AddDate(0, 0, 59)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status)
	now = now.AddDate(0, 0, 59)
	assert.Equal(t, 200, s.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status, "it was used meanwhile")
	now = now.AddDate(0, 0, 61)
	assert.Equal(t, 401, s.ask("GET", "/api/v1/lab", "", "Cookie", cookie).status)
}

// Ten thousand tries come to a handful of passphrases that were looked at.
func TestSignInIsLimited(t *testing.T) {
	now := time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC)
	s := configured(t, passphrase, server.Config{Now: func() time.Time { return now }})
	count := map[int]int{}
	for i := range 10_000 {
		count[s.signIn(fmt.Sprint("guess ", i)).status]++
	}
	assert.Equal(t, map[int]int{403: 5, 429: 9995}, count)
	assert.Equal(t, 429, s.signIn(passphrase).status, "not even the right one, for a minute")
	now = now.Add(time.Minute)
	assert.Equal(t, 303, s.signIn(passphrase).status)
}

func TestTokens(t *testing.T) {
	s := configured(t, passphrase, server.Config{})
	cookie := cookieOf(s.signIn(passphrase))
	make := func(may string) (id, secret string) {
		a := s.ask("POST", "/api/v1/tokens", `{"name":"inventory script","may":"`+may+`"}`, "Cookie", cookie)
		require.Equal(t, 201, a.status, a.body)
		return a.json["token"].(map[string]any)["id"].(string), "Bearer " + a.json["secret"].(string)
	}
	readID, read := make("read")
	_, full := make("full")
	body := `{"name":"Loft"}`
	assert.Equal(t, 200, s.ask("GET", "/api/v1/lab", "", "Authorization", read).status)
	refused(t, s.ask("POST", "/api/v1/places", body, "Authorization", read), 403, "", "may only read")
	assert.Equal(t, 201, s.ask("POST", "/api/v1/places", body, "Authorization", full).status)
	for _, path := range []string{"/api/v1/tokens", "/api/v1/sessions"} {
		refused(t, s.ask("GET", path, "", "Authorization", full), 403, "", "Only the owner")
	}
	refused(t, s.ask("POST", "/api/v1/tokens", `{"name":"more","may":"full"}`, "Authorization", full), 403, "", "Only the owner")

	list := s.ask("GET", "/api/v1/tokens", "", "Cookie", cookie).body
	assert.Contains(t, list, "inventory script")
	assert.NotContains(t, list, strings.TrimPrefix(read, "Bearer "), "a secret is shown once")
	assert.Equal(t, 200, s.ask("DELETE", "/api/v1/tokens/"+readID, "", "Cookie", cookie).status)
	assert.Equal(t, 401, s.ask("GET", "/api/v1/lab", "", "Authorization", read).status)
	refused(t, s.ask("DELETE", "/api/v1/tokens/"+readID, "", "Cookie", cookie), 404, "", "no token")
	refused(t, s.ask("POST", "/api/v1/tokens", `{"name":" ","may":"full"}`, "Cookie", cookie), 422, "name", "what the token is for")
	refused(t, s.ask("POST", "/api/v1/tokens", `{"name":"x","may":"all"}`, "Cookie", cookie), 422, "may", "read or full")
}

func TestBehindAProxyItKnowsItsOuterAddress(t *testing.T) {
	outer, err := url.Parse("https://lab.example")
	require.NoError(t, err)
	s := configured(t, passphrase, server.Config{Outer: outer})
	in := s.signIn(passphrase, "Host", "lab.example", "Origin", "https://lab.example")
	assert.Equal(t, 303, in.status, in.body)
	assert.Contains(t, strings.ToLower(in.header.Get("Set-Cookie")), "secure")
	assert.Equal(t, 303, s.signIn(passphrase, "Host", "127.0.0.1:8640", "Origin", "https://lab.example").status, "a proxy that changes the Host")
	refused(t, s.signIn(passphrase, "Host", "lab.example", "Origin", "https://evil.example"), 403, "", "another origin")
	refused(t, s.signIn(passphrase, "Host", "evil.example"), 421, "", "is not known as")
	refused(t, s.signIn(passphrase, "Host", "192.0.2.7:8640"), 421, "", "is not known as")
	refused(t, s.ask("GET", "/api/v1/lab", "", "Host", "evil.example", "X-Forwarded-Host", "lab.example"), 421, "", "is not known as")
	wide := configured(t, passphrase, server.Config{Wide: true})
	assert.Equal(t, 401, wide.ask("GET", "/api/v1/lab", "", "Host", "192.0.2.7:8640").status, "an address is no foreign name")
	refused(t, wide.ask("GET", "/api/v1/lab", "", "Host", "evil.example"), 421, "", "is not known as")
}

func TestAPassphraseThatWillNotDo(t *testing.T) {
	for _, typed := range []string{"", "short", strings.Repeat("long", 100)} {
		_, err := server.HashPassphrase(typed)
		assert.Error(t, err, typed)
	}
}

// serve is the site on a real port.
func (s site) serve() (address string) {
	ln, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(s.t, err)
	ctx, stop := context.WithCancel(context.Background())
	s.t.Cleanup(stop)
	go func() { _ = s.app.Listener(ln, fiber.ListenConfig{DisableStartupMessage: true, GracefulContext: ctx}) }()
	return ln.Addr().String()
}

func TestAWindowIsToldOfEveryChangeUntilItIsSignedOut(t *testing.T) {
	s := configured(t, passphrase, server.Config{})
	cookie := cookieOf(s.signIn(passphrase))
	req, err := http.NewRequest("GET", "http://"+s.serve()+"/api/v1/events", nil)
	require.NoError(t, err)
	req.Header.Set("Cookie", cookie)
	res, err := http.DefaultClient.Do(req)
	require.NoError(t, err)
	defer res.Body.Close()
	assert.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
	lines := bufio.NewScanner(res.Body)
	next := func() string {
		for lines.Scan() {
			if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
				return data
			}
		}
		return "the end"
	}
	assert.JSONEq(t, `{"revision":0}`, next())
	require.Equal(t, 201, s.ask("POST", "/api/v1/places", `{"name":"Loft"}`, "Cookie", cookie).status)
	assert.JSONEq(t, `{"revision":1}`, next())
	assert.Contains(t, s.ask("GET", "/api/v1/changes?since=0", "", "Cookie", cookie).body, `"name":"Loft"`)
	require.Equal(t, 200, s.ask("DELETE", "/api/v1/sessions", "", "Cookie", cookie).status)
	_, err = s.store.Undo(context.Background(), 1)
	require.NoError(t, err)
	assert.Equal(t, "the end", next())
}
