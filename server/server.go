// Package server answers HTTP: the pages, and an API that reads from the
// published lab and changes it through the store. It works nothing out itself.
package server

import (
	"bytes"
	"fmt"
	"io/fs"
	"path"
	"strings"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/gofiber/fiber/v3/middleware/recover"
	"github.com/gofiber/fiber/v3/middleware/static"
	"github.com/google/uuid"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// Server is what the handlers share.
type Server struct {
	store   *store.Store
	version string
	openapi []byte
}

// New makes the application. pages holds the built web pages, with their
// index.html; it may be nil, for a server without any.
func New(st *store.Store, pages fs.FS, version string) (*fiber.App, error) {
	doc, err := OpenAPI(version)
	if err != nil {
		return nil, err
	}
	s := &Server{store: st, version: version, openapi: doc}
	app := fiber.New(fiber.Config{
		AppName: "Levelstaff", ErrorHandler: answerProblem, BodyLimit: maxBody, Immutable: true,
		ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute, ReadBufferSize: 16 << 10,
	})
	// Answers are not compressed on the way: they stay on this machine, and
	// compressing the large lab takes longer than all the rest.
	app.Use(recover.New(), guard)
	for _, r := range s.routes() {
		app.Add([]string{r.method}, r.path, r.do)
	}
	if pages != nil {
		if err := servePages(app, pages); err != nil {
			return nil, err
		}
	}
	return app, nil
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
	for _, path := range []string{"/", "/rack", "/rack/*", "/place/*", "/rundown"} {
		app.Get(path, page)
	}
	files, err := fs.Sub(pages, "assets")
	if err != nil {
		return err
	}
	app.Get("/assets/*", precompressed(files), static.New("", static.Config{FS: files, MaxAge: foreverSeconds}))
	return nil
}

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
		c.Set(fiber.HeaderCacheControl, fmt.Sprintf("public, max-age=%d", foreverSeconds))
		return c.Send(data)
	}
}

// NewID makes the id of a new record.
func NewID() lab.ID { return lab.ID(uuid.Must(uuid.NewV7()).String()) }
