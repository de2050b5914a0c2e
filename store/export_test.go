package store

import "time"

// Hurry makes changes wait for other programs no longer than that, until the
// function it returns is called.
func Hurry(wait time.Duration) (back func()) {
	was := patience
	patience = wait
	return func() { patience = was }
}
