package server

import (
	"crypto/rand"
	"net"
	"net/url"
	"slices"

	"github.com/gofiber/fiber/v3"
)

// maxBody bounds what one request may send, in bytes.
const maxBody = 8 << 20

// guard lets in only what comes from this machine's own pages: the Host must
// be a name of this machine, so that a foreign name that was made to point
// here gets nothing; what changes something must not come from a page of
// another origin.
func guard(c fiber.Ctx) error {
	c.Set(fiber.HeaderXContentTypeOptions, "nosniff")
	c.Set(fiber.HeaderReferrerPolicy, "no-referrer")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Set(fiber.HeaderContentSecurityPolicy, "default-src 'none'; frame-ancestors 'none'")
	if !thisMachine(c.Host()) {
		return problem(fiber.StatusMisdirectedRequest, "Levelstaff answers only to names of this machine, such as http://127.0.0.1.")
	}
	if c.Method() == fiber.MethodGet || c.Method() == fiber.MethodHead {
		return c.Next()
	}
	if site := c.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
		return problem(fiber.StatusForbidden, "This request comes from a page of another site.")
	}
	if origin := c.Get(fiber.HeaderOrigin); origin != "" {
		from, err := url.Parse(origin)
		if err != nil || from.Host != c.Host() {
			return problem(fiber.StatusForbidden, "This request comes from a page of another origin.")
		}
	}
	return c.Next()
}

// thisMachine reports whether a Host header names this machine.
func thisMachine(host string) bool {
	name, _, err := net.SplitHostPort(host)
	if err != nil {
		name = host
	}
	return slices.Contains([]string{"localhost", "127.0.0.1", "::1", "[::1]"}, name)
}

// nonce is fresh for each page; Vuetify's one style element carries it.
func nonce() string { return rand.Text() }

func pagePolicy(nonce string) string {
	return "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-" + nonce + "'; img-src 'self' data:; " +
		"font-src 'self'; connect-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
}
