package rundown_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/demo"
)

const besides = `rack "Tall": 24U
12 server "anvil": hub "beside", hub "and another"
anvil: 64GB memory
10 shelf: hub "lamp bridge", single-board computer "finch"
top hub "one"
top hub "two"
top hub "three"
place "Desk"
  server "mill"
  hub "four"
  hub "five"
on anvil: vm "choir": 4GB
on anvil: vm "keys": 2GB
on anvil: container "paper" in keys
on mill: vm "late": 2GB
`

// unchanged holds that a saved text, loaded over its own lab, changes nothing.
func unchanged(t *testing.T, l *lab.Lab) {
	t.Helper()
	p := rundown.Load(l, rundown.Parse(rundown.Print(l)), rundown.Options{All: true, Forget: true, NewID: ids("x")})
	require.Empty(t, p.Mistakes)
	if !assert.Empty(t, rundown.Edits(l, p.Lab, p.Changes)) {
		t.Log(rundown.Print(l))
		t.FailNow()
	}
	require.Empty(t, p.Changes)
}

// The text of a lab keeps every order that the JSON has, however things came to
// stand: guests and things on one device have one row of numbers.
func TestASavedTextLoadedOverItsOwnLabChangesNothing(t *testing.T) {
	quarry, err := demo.House()
	require.NoError(t, err)
	large, err := demo.Large(5)
	require.NoError(t, err)
	for _, l := range []*lab.Lab{fresh(t, besides), quarry, large} {
		unchanged(t, l)
		rnd := rand.New(rand.NewPCG(7, 37))
		for range 12 {
			l = shuffled(t, l, rnd)
			unchanged(t, l)
			if n := len(lab.Diff(lab.New(), l)); n > 2000 {
				break
			}
		}
	}
}

// shuffled gives things that stand in no units another turn, some of them the same.
func shuffled(t *testing.T, l *lab.Lab, rnd *rand.Rand) *lab.Lab {
	t.Helper()
	var changes []lab.Change
	for d := range lab.Each[lab.Device](l) {
		if d.At == nil || d.At.Where == lab.InUnits || rnd.IntN(3) == 0 {
			continue
		}
		at := *d.At
		at.Order = rnd.IntN(5)
		d.At = &at
		if c, ok := l.Put(d); ok {
			changes = append(changes, c)
		}
	}
	next, err := l.Apply(changes)
	require.NoError(t, err)
	return next
}
