package server

import (
	"context"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/gofiber/fiber/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEveryRouteHasItsTime(t *testing.T) {
	s := &Server{config: Config{Time: time.Minute}}
	asked, timed := 0, 0
	list := s.routes()
	for i := range list {
		list[i].do = func(c fiber.Ctx) error {
			asked++
			if end, ok := c.Context().Deadline(); ok && time.Until(end) <= time.Minute {
				timed++
			}
			return c.SendStatus(fiber.StatusNoContent)
		}
	}
	app := fiber.New()
	s.answer(app, list, true)
	s.answer(app, list, false)
	for _, r := range list {
		res, err := app.Test(httptest.NewRequestWithContext(context.Background(), r.method, r.path, nil))
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
	}
	assert.Equal(t, len(list), asked)
	assert.Equal(t, len(list), timed)
}
