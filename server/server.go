// Package server answers HTTP: the pages, and an API that reads from the
// published lab and changes it through the store. It works nothing out itself.
package server

import (
	"bytes"
	"context"
	"fmt"
	"io/fs"
	"net/url"
	"path"
	"regexp"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/gofiber/fiber/v3/middleware/static"
	"github.com/google/uuid"
	"golang.org/x/sync/semaphore"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// Config is how the server is reached.
type Config struct {
	Version string
	// Document is OpenAPI as the build made it; made when it is first asked for if
	// it is nil.
	Document []byte
	// Outer is the address that people type, where a TLS proxy or a name of
	// one's own is between; nil otherwise.
	Outer *url.URL
	// Wide: other machines may connect.
	Wide bool
	// TLS: the server speaks TLS itself.
	TLS bool
	// Now is the clock; time.Now if it is nil.
	Now func() time.Time
	// Time is how long a request may be worked at once it is there whole;
	// workTime if it is 0.
	Time time.Duration
}

// document is the API's document with this version in it.
func (c Config) document() ([]byte, error) {
	doc := c.Document
	if doc == nil {
		made, err := OpenAPI()
		if err != nil {
			return nil, err
		}
		doc = made
	}
	return versioned(doc, c.Version)
}

// Secure reports whether browsers come over TLS.
func (c Config) Secure() bool { return c.TLS || c.Outer != nil && c.Outer.Scheme == "https" }

// Server is what the handlers share.
type Server struct {
	store     *store.Store
	config    Config
	door      *door
	signIn    *signInPage
	openapi   func() ([]byte, error)
	index     indexes
	tables    tables
	unpacking *semaphore.Weighted // held while a photo is unpacked
	copying   *semaphore.Weighted // held while a backup is made
	lastDraft atomic.Pointer[draftedLab]
	stop      <-chan struct{}
	bodies    bodies
}

// New makes the application. pages holds the built web pages, with their
// index.html; it may be nil, for a server without any. Event streams end when
// the context does.
func New(ctx context.Context, st *store.Store, pages fs.FS, config Config) (*fiber.App, error) {
	if config.Now == nil {
		config.Now = time.Now
	}
	if config.Time == 0 {
		config.Time = workTime
	}
	s := &Server{store: st, config: config, unpacking: semaphore.NewWeighted(1),
		copying: semaphore.NewWeighted(1), stop: ctx.Done(),
		openapi: sync.OnceValues(config.document)}
	var err error
	if s.door, err = newDoor(ctx, st, config.Now); err != nil {
		return nil, err
	}
	if s.signIn, err = newSignInPage(pages); err != nil {
		return nil, err
	}
	app := fiber.New(fiber.Config{
		AppName: "Levelstaff", ErrorHandler: answerProblem, BodyLimit: maxBody, Immutable: true, StreamRequestBody: true,
		DisablePreParseMultipartForm: true, Concurrency: mostConnections, ReadTimeout: readTimeout,
		IdleTimeout: 2 * time.Minute, ReadBufferSize: 16 << 10,
	})
	// Answers are not compressed on the way: compressing the large lab takes
	// longer than all the rest.
	app.Use(recover.New(), drop, s.guard)
	routes := s.routes()
	s.answer(app, routes, true)
	app.Get("/sign-in", s.getSignIn)
	app.Post("/sign-in", s.body(mostTyped), s.inTime, s.postSignIn)
	app.Use(s.signedIn)
	s.answer(app, routes, false)
	if pages != nil {
		if err := servePages(app, pages); err != nil {
			return nil, err
		}
	}
	return app, nil
}

func (s *Server) answer(app *fiber.App, routes []route, open bool) {
	for _, r := range routes {
		if r.open == open {
			most := mostChange
			if r.large {
				most = maxBody
			}
			app.Add([]string{r.method}, r.path, s.body(most), s.inTime, r.do)
		}
	}
}

// inTime gives a handler its time, of which what is heavy takes note.
func (s *Server) inTime(c fiber.Ctx) error {
	ctx, cancel := context.WithTimeout(c.Context(), s.config.Time)
	defer cancel()
	c.SetContext(ctx)
	return c.Next()
}

// servePages answers the built files, and index.html for the addresses that
// the pages make themselves.
func servePages(app *fiber.App, pages fs.FS) error {
	index, err := fs.ReadFile(pages, "index.html")
	if err != nil {
		return fmt.Errorf("the web pages are not built (%w); run make build", err)
	}
	page := func(c fiber.Ctx) error {
		n := nonce()
		c.Set(fiber.HeaderContentSecurityPolicy, pagePolicy(n))
		c.Set(fiber.HeaderCacheControl, "no-cache")
		c.Type("html", "utf-8")
		return c.Send(bytes.ReplaceAll(index, []byte("__NONCE__"), []byte(n)))
	}
	files, err := fs.Sub(pages, "assets")
	if err != nil {
		return err
	}
	app.Get("/assets/*", precompressed(files), static.New("", static.Config{FS: files, MaxAge: foreverSeconds}))
	app.Get("/*", func(c fiber.Ctx) error {
		if strings.HasPrefix(c.Path(), "/api/") || !pagePath.MatchString(c.Path()) {
			return c.Next()
		}
		return page(c)
	})
	return nil
}

// pagePath is an address that the pages make themselves: a sheet and, behind
// it, one of its parts or what it is about.
var pagePath = regexp.MustCompile(`^/([a-z]+(/[a-zA-Z0-9-]+)?)?$`)

// readTimeout is how long a request may take to arrive.
const readTimeout = 30 * time.Second

// workTime is how long what a request asks may take.
const workTime = 20 * time.Second

// foreverSeconds is how long a file whose name has its hash in it may be kept.
const foreverSeconds = 365 * 24 * 60 * 60

// precompressed answers the brotli file that the build put beside a script or
// style, to browsers that take it.
func precompressed(files fs.FS) fiber.Handler {
	return func(c fiber.Ctx) error {
		name := c.Params("*")
		data, err := fs.ReadFile(files, name+".br")
		if err != nil || c.AcceptsEncodings("br") == "" {
			return c.Next()
		}
		c.Type(strings.TrimPrefix(path.Ext(name), "."), "utf-8")
		c.Set(fiber.HeaderContentEncoding, "br")
		c.Vary(fiber.HeaderAcceptEncoding)
		c.Set(fiber.HeaderCacheControl, fmt.Sprintf("private, max-age=%d", foreverSeconds))
		return c.Send(data)
	}
}

// NewID makes the id of a new record.
func NewID() lab.ID { return lab.ID(uuid.Must(uuid.NewV7()).String()) }
