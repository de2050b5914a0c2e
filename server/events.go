package server

import (
	"bufio"
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"
)

// events tells a window each revision of the lab as it comes, as server-sent
// events. What came in between is not told one by one: a window asks for all
// that it missed at once (GET /api/v1/changes).
func (s *Server) events(c fiber.Ctx) error {
	c.Set(fiber.HeaderContentType, "text/event-stream")
	c.Set(fiber.HeaderCacheControl, "no-store")
	c.Set("X-Accel-Buffering", "no") // a proxy is not to gather them up
	still := s.stillIn(c)
	return c.SendStreamWriter(func(w *bufio.Writer) {
		const quiet = 15 * time.Second
		tick := time.NewTicker(quiet)
		defer tick.Stop()
		for told := int64(-1); ; {
			changed := s.store.Changed()
			if now := s.store.Now().Revision; now != told {
				told = now
				_, _ = fmt.Fprintf(w, "event: revision\nid: %d\ndata: {\"revision\":%d}\n\n", now, now)
			} else {
				_, _ = fmt.Fprint(w, ": still here\n\n") // so that a window that is gone is noticed
			}
			if w.Flush() != nil {
				return
			}
			select {
			case <-changed:
			case <-tick.C:
			case <-s.stop:
				return
			}
			if !still() {
				return // signed out meanwhile
			}
		}
	})
}
