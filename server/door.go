package server

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base64"
	"fmt"
	"log/slog"
	"maps"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"
	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// Access. While the owner has no passphrase anyone on this machine is
// let in, and nobody else can connect (cmd/levelstaff sees to that). With one,
// a request needs the cookie of a session or a token; only healthz and the
// sign-in page answer without.

const (
	sessionCookie  = "levelstaff_session"
	sessionDays    = 60
	seenEvery      = 5 * time.Minute // so that reading does not write each time
	tokenPrefix    = "lvs_"
	leastPassword  = 10
	mostPassword   = 200
	triesAMinute   = 5
	triesInAll     = 60
	forgetTriesFor = time.Minute
)

// hashing is what a passphrase costs to try: 64 MiB and three passes, a
// good part of a second on a small machine (RFC 9106, section 4, second
// recommended option, with one lane).
var hashing = &argon2id.Params{Memory: 64 * 1024, Iterations: 3, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// HashPassphrase makes what is kept of a passphrase. The error is a sentence
// about one that will not do.
func HashPassphrase(passphrase string) (string, error) {
	switch n := utf8.RuneCountInString(passphrase); {
	case n < leastPassword:
		return "", fmt.Errorf("a passphrase has %d characters or more; a few words will do", leastPassword)
	case n > mostPassword:
		return "", fmt.Errorf("a passphrase has at most %d characters", mostPassword)
	}
	return argon2id.CreateHash(passphrase, hashing)
}

// door knows who may come in. What it knows is read once and kept in step, so
// that a request asks no disk.
type door struct {
	store *store.Store
	now   func() time.Time

	mu       sync.Mutex
	hash     string
	sessions map[string]store.Session
	tokens   map[string]store.Token
	tries    map[string]int // sign-ins that failed lately, by address
	since    time.Time      // when counting began

	trying sync.Mutex // one passphrase is tried at a time: each takes 64 MiB
}

func newDoor(ctx context.Context, st *store.Store, now func() time.Time) (*door, error) {
	d := &door{store: st, now: now, tries: map[string]int{}}
	var err error
	if d.hash, err = st.Passphrase(ctx); err != nil {
		return nil, fmt.Errorf("read the passphrase: %w", err)
	}
	if d.sessions, err = st.Sessions(ctx); err != nil {
		return nil, err
	}
	if d.tokens, err = st.Tokens(ctx); err != nil {
		return nil, err
	}
	return d, nil
}

// person is who asks.
type person struct {
	owner  bool
	token  *store.Token
	secret []byte // the sum of the session's secret
}

// may reports whether they may do what a method does.
func (p person) may(method string) bool {
	reads := method == fiber.MethodGet || method == fiber.MethodHead
	return p.owner || p.token != nil && (p.token.May == store.MayAll || reads)
}

func sum(secret string) []byte {
	s := sha256.Sum256([]byte(secret))
	return s[:]
}

func newSecret() string {
	b := make([]byte, 32)
	_, _ = rand.Read(b) // it never fails
	return base64.RawURLEncoding.EncodeToString(b)
}

// open reports whether there is no passphrase yet.
func (d *door) open() bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.hash == ""
}

// who finds out who sends a request; the zero person is nobody.
func (s *Server) who(c fiber.Ctx) (person, error) {
	d := s.door
	if d.open() {
		return person{owner: true}, nil
	}
	if bearer, ok := strings.CutPrefix(c.Get(fiber.HeaderAuthorization), "Bearer "); ok {
		return d.bearer(c.Context(), strings.TrimSpace(bearer))
	}
	if cookie := c.Cookies(sessionCookie); cookie != "" {
		return d.cookie(c.Context(), cookie)
	}
	return person{}, nil
}

func (d *door) bearer(ctx context.Context, secret string) (person, error) {
	d.mu.Lock()
	key := string(sum(secret))
	t, ok := d.tokens[key]
	stale := ok && (t.SeenAt == nil || d.now().Sub(*t.SeenAt) > seenEvery)
	if stale {
		at := d.now()
		t.SeenAt = &at
		d.tokens[key] = t
	}
	d.mu.Unlock()
	if !ok {
		return person{}, nil
	}
	if stale {
		if err := d.store.SeenToken(ctx, t.ID, *t.SeenAt); err != nil {
			slog.Warn("a token's use was not noted", "error", err)
		}
	}
	return person{token: &t}, nil
}

func (d *door) cookie(ctx context.Context, secret string) (person, error) {
	key := sum(secret)
	d.mu.Lock()
	is, ok := d.sessions[string(key)]
	now := d.now()
	old := ok && now.Sub(is.SeenAt) > sessionDays*24*time.Hour
	stale := ok && !old && now.Sub(is.SeenAt) > seenEvery
	switch {
	case old:
		delete(d.sessions, string(key))
	case stale:
		is.SeenAt = now
		d.sessions[string(key)] = is
	}
	d.mu.Unlock()
	switch {
	case old:
		return person{}, d.store.SignOut(ctx, key)
	case !ok:
		return person{}, nil
	case stale:
		if err := d.store.SeenSession(ctx, key, now); err != nil {
			slog.Warn("a session's use was not noted", "error", err)
		}
	}
	return person{owner: true, secret: key}, nil
}

// signedIn lets in who is signed in, and sends the others to the sign-in page.
func (s *Server) signedIn(c fiber.Ctx) error {
	who, err := s.who(c)
	if err != nil {
		return err
	}
	if who.may(c.Method()) {
		return c.Next()
	}
	if who.token != nil {
		return problem(fiber.StatusForbidden, "This token may only read. Make one that full access, if that is meant.")
	}
	if c.Method() == fiber.MethodGet && strings.Contains(c.Get(fiber.HeaderAccept), "text/html") && !strings.HasPrefix(c.Path(), "/api/") {
		return c.Redirect().Status(fiber.StatusSeeOther).To("/sign-in")
	}
	c.Set(fiber.HeaderWWWAuthenticate, "Bearer")
	return problem(fiber.StatusUnauthorized, "Sign in first, at /sign-in, or send a token: Authorization: Bearer …")
}

// ownerOnly keeps tokens from access settings.
func (s *Server) ownerOnly(c fiber.Ctx) error {
	who, err := s.who(c)
	if err != nil {
		return err
	}
	if !who.owner {
		return problem(fiber.StatusForbidden, "Only the owner, signed in with the passphrase, may do this.")
	}
	return nil
}

// stillIn answers, later on, whether who sent a request would still be let in.
// A request is gone by then, so what it brought is kept.
func (s *Server) stillIn(c fiber.Ctx) func() bool {
	d := s.door
	bearer := strings.Clone(strings.TrimSpace(strings.TrimPrefix(c.Get(fiber.HeaderAuthorization), "Bearer ")))
	cookie := strings.Clone(c.Cookies(sessionCookie))
	return func() bool {
		d.mu.Lock()
		defer d.mu.Unlock()
		_, session := d.sessions[string(sum(cookie))]
		_, token := d.tokens[string(sum(bearer))]
		return d.hash == "" || session || token
	}
}

// allowTry counts a sign-in and refuses it where there were too many lately,
// from that address or in all.
func (d *door) allowTry(from string) bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	if now := d.now(); now.Sub(d.since) >= forgetTriesFor {
		d.since = now
		clear(d.tries)
	}
	all := 0
	for n := range maps.Values(d.tries) {
		all += min(n, triesAMinute)
	}
	d.tries[from]++
	if d.tries[from] == triesAMinute+1 {
		slog.Warn("sign-in refused: too many tries", "from", from) // and no word of the next ten thousand
	}
	return d.tries[from] <= triesAMinute && all < triesInAll
}

// signIn tries a passphrase and returns the secret of a new session.
func (d *door) signIn(ctx context.Context, passphrase, from, browser string) (secret string, err error) {
	if !d.allowTry(from) {
		return "", problem(fiber.StatusTooManyRequests, "Too many tries. Wait a minute, then try again.")
	}
	if utf8.RuneCountInString(passphrase) > mostPassword {
		passphrase = ""
	}
	d.mu.Lock()
	hash := d.hash
	d.mu.Unlock()
	d.trying.Lock()
	right, err := argon2id.ComparePasswordAndHash(passphrase, hash)
	d.trying.Unlock()
	if err != nil {
		return "", fmt.Errorf("try a passphrase: %w", err)
	}
	if !right {
		slog.Warn("sign-in refused: wrong passphrase", "from", from)
		return "", problem(fiber.StatusForbidden, "That is not the passphrase.")
	}
	secret = newSecret()
	is := store.Session{MadeAt: d.now(), SeenAt: d.now(), FromIP: from, Browser: browser}
	if err := d.store.SignIn(ctx, sum(secret), is); err != nil {
		return "", err
	}
	d.mu.Lock()
	d.sessions[string(sum(secret))] = is
	delete(d.tries, from)
	d.mu.Unlock()
	slog.Info("signed in", "from", from)
	return secret, nil
}

// signOut ends a session; nil ends all. Here they end at once, whatever the disk
// says.
func (d *door) signOut(ctx context.Context, secret []byte) error {
	d.mu.Lock()
	if secret == nil {
		clear(d.sessions)
	} else {
		delete(d.sessions, string(secret))
	}
	d.mu.Unlock()
	return d.store.SignOut(ctx, secret)
}

// endToken takes a token back, likewise at once; ok is false where there is none.
func (d *door) endToken(ctx context.Context, id lab.ID) (ok bool, err error) {
	d.mu.Lock()
	for key, t := range d.tokens {
		if t.ID == id {
			delete(d.tokens, key)
			ok = true
		}
	}
	d.mu.Unlock()
	if !ok {
		return false, nil
	}
	return true, d.store.EndToken(ctx, id)
}
