package server

import (
	"bytes"
	"errors"
	"io"
	"sync"
	"sync/atomic"

	"github.com/gofiber/fiber/v3"
)

// What a request may send, in bytes, by what its route needs.
const (
	mostTyped  = 64 << 10 // what a person types into a form
	mostChange = 1 << 20  // a change: some thousands of records
	maxBody    = 24 << 20 // a file: a phone's largest photo
)

// mostUnderWay is how many bytes of bodies the server holds at any moment, of
// all requests together.
const mostUnderWay = 32 << 20

// mostConnections is how many may be open at a time; each has a header's worth
// of memory, and a body's first 8 KB.
const mostConnections = 1000

// arriving is how much of a body is taken in at a time.
const arriving = 64 << 10

// bodies counts what requests have sent and the server still holds.
type bodies struct{ held atomic.Int64 }

// take counts n bytes more, unless that were too many.
func (b *bodies) take(n int) bool {
	if b.held.Add(int64(n)) > mostUnderWay {
		b.held.Add(-int64(n))
		return false
	}
	return true
}

// drop reads what a request goes on sending and nobody wants, without keeping
// it: who is still sending does not hear a refusal. What is larger than any body
// may be is hung up on.
func drop(c fiber.Ctx) error {
	err := c.Next()
	r := c.Request()
	if !r.IsBodyStream() || r.Header.ContentLength() == 0 {
		return err
	}
	if r.Header.ContentLength() <= maxBody {
		n, e := io.Copy(io.Discard, io.LimitReader(r.BodyStream(), maxBody))
		if e == nil && n < maxBody {
			return err
		}
	}
	c.Response().SetConnectionClose()
	return err
}

// body reads a body of at most so many bytes, and only then lets the request go
// on. Until it is called, which is after the door, only headers were read.
func (s *Server) body(most int) fiber.Handler {
	return func(c fiber.Ctx) error {
		r := c.Request()
		if !r.IsBodyStream() || r.Header.ContentLength() == 0 {
			return c.Next()
		}
		if r.Header.ContentLength() > most {
			return tooLarge(most)
		}
		var pieces [][]byte
		size, held := 0, 0
		defer func() {
			s.bodies.held.Add(-int64(held))
			handBack(pieces)
		}()
		for ended := false; !ended; {
			room := arriving
			if left := r.Header.ContentLength() - size; left > 0 {
				room = min(room, left)
			}
			if !s.bodies.take(room) {
				c.Set(fiber.HeaderRetryAfter, "5")
				return problem(fiber.StatusServiceUnavailable, "Too much is being sent at once. Try again in a moment.")
			}
			held += room
			piece, err := nextPiece(r.BodyStream(), room)
			pieces = append(pieces, piece)
			if ended = errors.Is(err, io.EOF); err != nil && !ended {
				return problem(fiber.StatusRequestTimeout, "The request did not arrive whole within %.0f seconds.", readTimeout.Seconds())
			}
			if size+len(piece) > most {
				return tooLarge(most)
			}
			size += len(piece)
		}
		if n := r.Header.ContentLength(); n > size {
			return problem(fiber.StatusBadRequest, "The request ends after %d of its %d bytes.", size, n)
		}
		r.SetBodyRaw(bytes.Join(pieces, nil))
		handBack(pieces)
		pieces = nil
		return c.Next()
	}
}

// nextPiece reads the next so many bytes of a body, or those that are left; the
// error is io.EOF behind its last one.
func nextPiece(from io.Reader, room int) (piece []byte, err error) {
	if room < arriving {
		piece = make([]byte, room)
	} else {
		piece = spare.Get().(*[arriving]byte)[:]
	}
	n := 0
	for n < len(piece) && err == nil {
		var m int
		m, err = from.Read(piece[n:])
		n += m
	}
	return piece[:n], err
}

// spare are pieces that were read into before.
var spare = sync.Pool{New: func() any { return new([arriving]byte) }}

// handBack lets others read into pieces that nobody looks at any more.
func handBack(pieces [][]byte) {
	for _, p := range pieces {
		if cap(p) == arriving {
			spare.Put((*[arriving]byte)(p[:arriving]))
		}
	}
}

func tooLarge(most int) error {
	if most < 1<<20 {
		return problem(fiber.StatusRequestEntityTooLarge, "The request is larger than %d KB.", most>>10)
	}
	return problem(fiber.StatusRequestEntityTooLarge, "The request is larger than %d MB. Send it in pieces; make a photo smaller.", most>>20)
}
