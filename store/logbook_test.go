package store_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// Whatever was done, every day of the past is what it was.
func TestEveryPastLabIsWhatItWas(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	s := open(t, dir)
	rnd := rand.New(rand.NewPCG(1, 1))
	then := []*lab.Lab{s.Now().Lab}
	for n := 0; len(then) < 60; n++ {
		now := s.Now()
		var err error
		switch k := rnd.IntN(8); {
		case k == 0 && now.Undo != "":
			_, err = s.Undo(ctx, now.Revision)
		case k == 1 && now.Redo != "":
			_, err = s.Redo(ctx, now.Revision)
		case k == 2 && now.Revision > 3:
			_, err = s.BackTo(ctx, now.Revision, now.Revision-2)
		default:
			id := lab.ID(fmt.Sprint("d", rnd.IntN(6)))
			_, err = s.Change(ctx, now.Revision, "", func(l *lab.Lab) ([]lab.Change, error) {
				if c, ok := l.Remove(lab.Key{Kind: lab.KindDevice, ID: id}); ok && rnd.IntN(3) == 0 {
					return []lab.Change{c}, nil
				}
				c, _ := l.Put(lab.Device{ID: id, Name: fmt.Sprint("name ", n), Kind: lab.Hub, State: lab.Spare})
				return []lab.Change{c}, nil
			})
		}
		require.NoError(t, err)
		if s.Now().Revision > now.Revision {
			then = append(then, s.Now().Lab)
		}
	}
	require.NoError(t, s.Close())
	s = open(t, dir)
	for revision, want := range then {
		got, err := s.At(ctx, int64(revision))
		require.NoError(t, err)
		assert.Empty(t, lab.Diff(got, want), "change %d", revision)
	}
	for _, wrong := range []int64{-1, int64(len(then))} {
		_, err := s.At(ctx, wrong)
		var none *store.NoSuchRevision
		assert.ErrorAs(t, err, &none)
	}
}

func TestTheLogbookTellsWhatWasDone(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	start := time.Now().Add(-time.Second)
	put(t, s, place("Loft"))
	put(t, s, place("Attic"), lab.Place{ID: "q", Name: "100%"})
	_, err := s.Undo(ctx, 2)
	require.NoError(t, err)

	all, err := s.Logbook(ctx, store.LogQuery{Limit: 10})
	require.NoError(t, err)
	require.Len(t, all, 3)
	assert.Equal(t, int64(2), all[0].Undoes)
	assert.Equal(t, `place "Loft" added`, all[2].Label)
	assert.ElementsMatch(t, []lab.Key{place("").Key(), {Kind: lab.KindPlace, ID: "q"}}, all[1].Records)

	revisions := func(q store.LogQuery) (list []int64) {
		q.Limit = 10
		found, err := s.Logbook(ctx, q)
		require.NoError(t, err)
		for _, e := range found {
			list = append(list, e.Revision)
		}
		return
	}
	assert.Equal(t, []int64{1}, revisions(store.LogQuery{Before: 2}))
	assert.Equal(t, []int64{3, 2}, revisions(store.LogQuery{Record: lab.Key{Kind: lab.KindPlace, ID: "q"}}))
	assert.Equal(t, []int64{1}, revisions(store.LogQuery{Text: `"loft" added`}))
	assert.Equal(t, []int64{3, 2}, revisions(store.LogQuery{Text: "100%"}), "a per cent sign is one")
	assert.Empty(t, revisions(store.LogQuery{Text: "_oft"}))

	touched, err := s.Touched(ctx, 1)
	require.NoError(t, err)
	assert.Len(t, touched, 2)
	on, err := s.RevisionOn(ctx, time.Now().Add(time.Second))
	require.NoError(t, err)
	assert.Equal(t, int64(3), on)
	on, err = s.RevisionOn(ctx, start)
	require.NoError(t, err)
	assert.Zero(t, on)
}

func TestAChangeInTheFirstSecondOfADayIsOfThatDay(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	midnight := time.Date(2026, 11, 27, 0, 0, 0, 0, time.UTC)
	for i, at := range []time.Time{midnight.Add(-time.Nanosecond), midnight, midnight.Add(time.Millisecond), midnight.Add(time.Second)} {
		s.SetClock(func() time.Time { return at })
		put(t, s, place(string(rune('a'+i))))
	}
	for before, want := range map[time.Time]int64{midnight: 1, midnight.Add(time.Second): 3, midnight.Add(24 * time.Hour): 4} {
		on, err := s.RevisionOn(ctx, before)
		require.NoError(t, err)
		assert.Equal(t, want, on, before)
	}
}

func TestARunOfChangesIsTakenBackAtOnce(t *testing.T) {
	ctx := context.Background()
	s := open(t, t.TempDir())
	for _, name := range []string{"a", "b", "c", "d"} {
		put(t, s, place(name))
	}
	_, err := s.BackTo(ctx, 3, 1)
	var stale *store.Stale
	require.ErrorAs(t, err, &stale, "somebody was first")
	_, err = s.BackTo(ctx, 4, 1)
	require.NoError(t, err)
	assert.Equal(t, place("a"), s.Now().Lab.Get(place("").Key()))
	_, err = s.Undo(ctx, 5)
	require.NoError(t, err)
	assert.Equal(t, place("d"), s.Now().Lab.Get(place("").Key()))
}

func TestWhoWaitsForAChangeIsWoken(t *testing.T) {
	s := open(t, t.TempDir())
	changed := s.Changed()
	select {
	case <-changed:
		t.Fatal("nothing has changed yet")
	default:
	}
	put(t, s, place("Loft"))
	<-changed
}

func TestPlansAreKept(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	price := int64(0)
	hub := lab.Device{ID: "d", Kind: lab.Hub, State: lab.Spare}
	step := lab.Step{ID: "s", Draft: "q", Order: 2,
		Changes: []lab.Change{{After: hub}, {Before: hub, After: lab.Device{ID: "d", Kind: lab.Hub, State: lab.Running}}}, PriceMinor: &price,
		Note: "n"}
	put(t, s, lab.Draft{ID: "q", Name: "Quiet"}, step, lab.Note{ID: "n", Day: "2026-11-23", Text: "two\nlines"},
		lab.Acceptance{ID: "a", Finding: "f", Reason: "r"})
	want := s.Now().Lab
	require.NoError(t, s.Close())
	got := open(t, dir).Now().Lab
	assert.Empty(t, lab.Diff(want, got))
	assert.Equal(t, step, got.Get(step.Key()), "a price of nothing is not an unknown one")
}
