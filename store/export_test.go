package store

import (
	"context"
	"time"
)

// Hurry makes changes wait for other programs no longer than that, until the
// function it returns is called.
func Hurry(wait time.Duration) (back func()) {
	was := patience
	patience = wait
	return func() { patience = was }
}

// HoldTurn takes the turn to write until the function it returns is called.
func (s *Store) HoldTurn() (release func()) {
	_ = s.takeTurn(context.Background())
	return s.endTurn
}
