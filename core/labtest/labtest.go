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

// Named is the record of that type and title; there not being one ends the test.
func Named[R lab.Record](t testing.TB, l *lab.Lab, title string) R {
	t.Helper()
	for r := range lab.Each[R](l) {
		if r.Title() == title {
			return r
		}
	}
	require.Failf(t, "not there", "no %T is called %q", *new(R), title)
	return *new(R)
}
