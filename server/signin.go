package server

import (
	"bytes"
	"encoding/base64"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"slices"
	"strings"
	"time"

	_ "embed" // the sign-in page

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/store"
)

//go:embed signin.html
var signInHTML string

// signInPage is a page that needs nothing else: who is not in gets no file.
type signInPage struct {
	template *template.Template
	fonts    []signInFont
}

type signInFont struct {
	Family template.CSS
	Weight int
	Data   template.URL
}

// newSignInPage takes the fonts it needs from the built pages.
func newSignInPage(pages fs.FS) (*signInPage, error) {
	t, err := template.New("sign-in").Parse(signInHTML)
	if err != nil {
		return nil, fmt.Errorf("the sign-in page: %w", err)
	}
	p := &signInPage{template: t}
	if pages == nil {
		return p, nil
	}
	for _, want := range []struct {
		files  string
		family template.CSS
		weight int
	}{{"assets/ibm-plex-sans-latin-400-normal*.woff2", "IBM Plex Sans", 400},
		{"assets/ibm-plex-sans-condensed-latin-600-normal*.woff2", "IBM Plex Sans Condensed", 600}} {
		files, err := fs.Glob(pages, want.files)
		if err != nil || len(files) == 0 {
			continue // the page then has the system's letters
		}
		data, err := fs.ReadFile(pages, files[0])
		if err != nil {
			return nil, fmt.Errorf("the sign-in page: %w", err)
		}
		p.fonts = append(p.fonts, signInFont{want.family, want.weight,
			template.URL("data:font/woff2;base64," + base64.StdEncoding.EncodeToString(data))})
	}
	return p, nil
}

func (s *Server) showSignIn(c fiber.Ctx, status int, say string) error {
	n := nonce()
	var page bytes.Buffer
	if err := s.signIn.template.Execute(&page, map[string]any{"Nonce": n, "Fonts": s.signIn.fonts, "Say": say}); err != nil {
		return fmt.Errorf("the sign-in page: %w", err)
	}
	c.Set(fiber.HeaderContentSecurityPolicy, "default-src 'none'; style-src 'nonce-"+n+
		"'; font-src data:; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
	c.Set(fiber.HeaderCacheControl, "no-store")
	// With no-referrer a form's Origin would be null, and the guard refuses that.
	c.Set(fiber.HeaderReferrerPolicy, "same-origin")
	c.Type("html", "utf-8")
	return c.Status(status).Send(page.Bytes())
}

func (s *Server) getSignIn(c fiber.Ctx) error {
	who, err := s.who(c)
	if err != nil {
		return err
	}
	if who.owner {
		return c.Redirect().Status(fiber.StatusSeeOther).To("/")
	}
	return s.showSignIn(c, fiber.StatusOK, "")
}

func (s *Server) postSignIn(c fiber.Ctx) error {
	if s.door.open() {
		return c.Redirect().Status(fiber.StatusSeeOther).To("/")
	}
	browser := strings.ToValidUTF8(c.Get(fiber.HeaderUserAgent), "")
	secret, err := s.door.signIn(c.Context(), c.FormValue("passphrase"), s.from(c), browser[:min(len(browser), 200)])
	var refused *Problem
	if errors.As(err, &refused) {
		return s.showSignIn(c, refused.Status, refused.Detail)
	}
	if err != nil {
		return err
	}
	c.Cookie(s.cookie(secret, s.door.now().AddDate(0, 0, sessionDays)))
	return c.Redirect().Status(fiber.StatusSeeOther).To("/")
}

func (s *Server) cookie(value string, expires time.Time) *fiber.Cookie {
	return &fiber.Cookie{Name: sessionCookie, Value: value, Path: "/", Expires: expires, HTTPOnly: true,
		SameSite: fiber.CookieSameSiteStrictMode, Secure: s.config.Secure()}
}

func (s *Server) postSignOut(c fiber.Ctx) error {
	who, err := s.who(c)
	if err != nil {
		return err
	}
	if who.secret != nil {
		if err := s.door.signOut(c.Context(), who.secret); err != nil {
			return err
		}
	}
	c.Cookie(s.cookie("", time.Unix(0, 0)))
	return c.JSON(Done{})
}

// Done is the answer where there is nothing to say.
type Done struct{}

// Sessions is who is signed in.
type Sessions struct {
	Locked   bool            `json:"locked" required:"true" description:"There is a passphrase"`
	Sessions []store.Session `json:"sessions" required:"true" nullable:"false" description:"Lately used first"`
}

func (s *Server) sessions(c fiber.Ctx) error {
	if err := s.ownerOnly(c); err != nil {
		return err
	}
	out := Sessions{Locked: !s.door.open(), Sessions: []store.Session{}}
	s.door.mu.Lock()
	for _, is := range s.door.sessions {
		out.Sessions = append(out.Sessions, is)
	}
	s.door.mu.Unlock()
	slices.SortFunc(out.Sessions, func(a, b store.Session) int { return b.SeenAt.Compare(a.SeenAt) })
	return c.JSON(out)
}

func (s *Server) endSessions(c fiber.Ctx) error {
	if err := s.ownerOnly(c); err != nil {
		return err
	}
	if err := s.door.signOut(c.Context(), nil); err != nil {
		return err
	}
	c.Cookie(s.cookie("", time.Unix(0, 0)))
	return c.JSON(Done{})
}

// Tokens is the programs' ways in.
type Tokens struct {
	Tokens []store.Token `json:"tokens" required:"true" nullable:"false"`
}

// NewToken is a token that is to be made.
type NewToken struct {
	Name string    `json:"name" required:"true" maxLength:"80"`
	May  store.May `json:"may" required:"true"`
}

// MadeToken is a new token with its secret, which is shown this once.
type MadeToken struct {
	Token  store.Token `json:"token" required:"true"`
	Secret string      `json:"secret" required:"true" description:"Send it as Authorization: Bearer …; it cannot be shown again"`
}

func (s *Server) tokens(c fiber.Ctx) error {
	if err := s.ownerOnly(c); err != nil {
		return err
	}
	out := Tokens{[]store.Token{}}
	s.door.mu.Lock()
	for _, t := range s.door.tokens {
		out.Tokens = append(out.Tokens, t)
	}
	s.door.mu.Unlock()
	slices.SortFunc(out.Tokens, func(a, b store.Token) int { return strings.Compare(string(a.ID), string(b.ID)) })
	return c.JSON(out)
}

func (s *Server) makeToken(c fiber.Ctx) error {
	var in NewToken
	if err := s.ownerOnly(c); err != nil {
		return err
	}
	if err := decode(c, &in); err != nil {
		return err
	}
	in.Name = strings.TrimSpace(in.Name)
	if in.Name == "" {
		return wrongField(fiber.StatusUnprocessableEntity, "name", "Say what the token is for.")
	}
	if in.May != store.MayRead && in.May != store.MayAll {
		return wrongField(fiber.StatusUnprocessableEntity, "may", "A token may read or full, not %q.", in.May)
	}
	secret := tokenPrefix + newSecret()
	t := store.Token{ID: NewID(), Name: in.Name, May: in.May, MadeAt: s.door.now()}
	if err := s.door.store.AddToken(c.Context(), sum(secret), t); err != nil {
		return err
	}
	s.door.mu.Lock()
	s.door.tokens[string(sum(secret))] = t
	s.door.mu.Unlock()
	return c.Status(fiber.StatusCreated).JSON(MadeToken{t, secret})
}

func (s *Server) endToken(c fiber.Ctx) error {
	if err := s.ownerOnly(c); err != nil {
		return err
	}
	id := lab.ID(c.Params("id"))
	ok, err := s.door.endToken(c.Context(), id)
	if err != nil {
		return err
	}
	if !ok {
		return problem(fiber.StatusNotFound, "There is no token with the id %q.", id)
	}
	return c.JSON(Done{})
}
