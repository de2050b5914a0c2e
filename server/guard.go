package server

import (
	"crypto/rand"
	"net"
	"net/url"
	"os"
	"slices"
	"strings"

	"github.com/gofiber/fiber/v3"
)

// guard lets in only what is meant for this server: the Host must be a name it
// goes by, so that a foreign name that was made to point here gets nothing;
// what changes something must not come from a page of another origin.
func (s *Server) guard(c fiber.Ctx) error {
	c.Set(fiber.HeaderXContentTypeOptions, "nosniff")
	c.Set(fiber.HeaderReferrerPolicy, "no-referrer")
	c.Set("Cross-Origin-Opener-Policy", "same-origin")
	c.Set("Cross-Origin-Resource-Policy", "same-origin")
	c.Set(fiber.HeaderContentSecurityPolicy, "default-src 'none'; frame-ancestors 'none'")
	host := string(c.Request().Host())
	if !s.config.goesBy(host) {
		return problem(fiber.StatusMisdirectedRequest, "Levelstaff is not known as %q. If that is the address you use, set it with --outer-url.",
			host)
	}
	// The size of what is packed is unknown before it is unpacked.
	if packed := c.Get(fiber.HeaderContentEncoding); packed != "" && packed != "identity" {
		return problem(fiber.StatusUnsupportedMediaType, "Send the body as it is, without Content-Encoding: %s.", packed)
	}
	if c.Method() == fiber.MethodGet || c.Method() == fiber.MethodHead {
		return c.Next()
	}
	if site := c.Get("Sec-Fetch-Site"); site != "" && site != "same-origin" && site != "none" {
		return problem(fiber.StatusForbidden, "This request comes from a page of another site.")
	}
	if origin := c.Get(fiber.HeaderOrigin); origin != "" && !s.config.ownOrigin(origin, host) {
		return problem(fiber.StatusForbidden, "This request comes from a page of another origin.")
	}
	return c.Next()
}

// goesBy reports whether a Host header names this server. To other machines it
// also goes by any address: what a foreign page can turn on this server is a
// name of its own, never a bare address.
func (c Config) goesBy(host string) bool {
	if c.Outer != nil && strings.EqualFold(host, c.Outer.Host) {
		return true
	}
	name, _, err := net.SplitHostPort(host)
	if err != nil {
		name = host
	}
	name = strings.ToLower(strings.Trim(name, "[]"))
	if slices.Contains([]string{"localhost", "127.0.0.1", "::1"}, name) {
		return true
	}
	if !c.Wide {
		return false
	}
	own, err := os.Hostname()
	own = strings.ToLower(own)
	return net.ParseIP(name) != nil || err == nil && own != "" && (name == own || name == own+".local")
}

// ownOrigin reports whether a page of that origin is one of ours.
func (c Config) ownOrigin(origin, host string) bool {
	from, err := url.Parse(origin)
	if err != nil || from.Host == "" {
		return false
	}
	if c.Outer != nil && from.Scheme == c.Outer.Scheme && strings.EqualFold(from.Host, c.Outer.Host) {
		return true
	}
	return strings.EqualFold(from.Host, host)
}

// from is the address a request comes from. Behind a proxy on this machine it
// is the last one that the proxy says; what stands before it can be forged.
func (s *Server) from(c fiber.Ctx) string {
	ip := c.RequestCtx().RemoteIP()
	if s.config.Outer == nil || !ip.IsLoopback() {
		return ip.String()
	}
	said := strings.Split(c.Get(fiber.HeaderXForwardedFor), ",")
	if last := net.ParseIP(strings.TrimSpace(said[len(said)-1])); last != nil {
		return last.String()
	}
	return ip.String()
}

// nonce is fresh for each page; Vuetify's one style element carries it.
func nonce() string { return rand.Text() }

func pagePolicy(nonce string) string {
	return "default-src 'none'; script-src 'self'; style-src 'self' 'nonce-" + nonce + "'; img-src 'self' data: blob:; " +
		"font-src 'self'; connect-src 'self'; worker-src 'self'; manifest-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"
}
