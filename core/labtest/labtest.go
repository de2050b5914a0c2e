// Package labtest makes labs from a text, for tests of the rooms that use them.
package labtest

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// From is the lab that a rundown describes, with the ids n0001, n0002 and so on
// in the order of the text. A mistake in the text ends the test.
func From(t testing.TB, text string) *lab.Lab {
	t.Helper()
	p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: IDs("n")})
	require.Empty(t, p.Mistakes)
	return p.Lab
}

// IDs makes ids that count up from 0001 behind a prefix.
func IDs(prefix string) func() lab.ID {
	n := 0
	return func() lab.ID {
		n++
		return lab.ID(fmt.Sprintf("%s%04d", prefix, n))
	}
}
