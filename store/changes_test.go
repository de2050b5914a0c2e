package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/store"
)

// Whatever is changed in whatever order, the file says what the lab says.
func TestRandomChangesAreKeptToTheColumn(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, lab.Place{ID: "p", Name: "Loft"}, lab.Rack{ID: "r", Name: "Pantry", HeightU: 40})
	rnd := rand.New(rand.NewPCG(5, 5))
	some := func() *float64 {
		if rnd.IntN(3) == 0 {
			return nil
		}
		v := float64(rnd.IntN(5) + 1)
		return &v
	}
	made := 0
	for range 300 {
		d := lab.Device{ID: lab.ID(fmt.Sprintf("d%d", rnd.IntN(12))), Name: fmt.Sprint(rnd.IntN(3)), Kind: lab.ThingKinds()[rnd.IntN(29)],
			State: lab.States()[rnd.IntN(6)], Spec: lab.Spec{HeightMM: some(), WidthMM: some(), DepthMM: some(), WeightKG: some()}}
		switch rnd.IntN(5) {
		case 0:
			one := 1
			d.TakesU, d.At = &one, lab.At("r", 1+rnd.IntN(40), lab.Front)
		case 1:
			d.At = &lab.Spot{Where: lab.InPlace, Place: "p", Order: rnd.IntN(4)}
		case 2:
			d.At = &lab.Spot{Where: lab.OnDevice, Device: lab.ID(fmt.Sprintf("d%d", rnd.IntN(12)))}
		}
		_, err := s.Change(context.Background(), s.Now().Revision, "", func(l *lab.Lab) ([]lab.Change, error) {
			if c, ok := l.Remove(d.Key()); ok && rnd.IntN(5) == 0 {
				return []lab.Change{c}, nil
			}
			c, _ := l.Put(d)
			return []lab.Change{c}, nil
		})
		if err == nil {
			made++
		}
	}
	assert.Greater(t, made, 150)
	before := s.Now()
	require.NoError(t, s.Close())
	after := open(t, dir).Now()
	assert.Empty(t, lab.Diff(before.Lab, after.Lab))
	assert.Equal(t, before.Revision, after.Revision)
}

// More sets of columns than are kept prepared.
func TestManySortsOfChangeAreFine(t *testing.T) {
	s := open(t, t.TempDir())
	bit := func(n, i int) *float64 {
		v := 1 + float64(n>>i&1)
		return &v
	}
	for n := range 300 {
		put(t, s, lab.Device{ID: "d", Kind: lab.Server, State: lab.States()[n&1], Name: fmt.Sprint(n >> 5), Purpose: fmt.Sprint(n >> 6),
			Notes: fmt.Sprint(n >> 7), Spec: lab.Spec{HeightMM: bit(n, 1), WidthMM: bit(n, 2), DepthMM: bit(n, 3), WeightKG: bit(n, 4)}})
	}
	assert.Equal(t, int64(300), s.Now().Revision)
}

func TestManyHandsChangeOneAfterAnother(t *testing.T) {
	s := open(t, t.TempDir())
	var hands sync.WaitGroup
	var refused sync.Map
	for hand := range 8 {
		hands.Go(func() {
			for n := range 10 {
				p := lab.Place{ID: lab.ID(fmt.Sprintf("p%d", hand)), Name: fmt.Sprintf("hand %d change %d", hand, n)}
				if _, err := s.Change(context.Background(), s.Now().Revision, "", puts(p)); err != nil {
					refused.Store(p.Name, err)
				}
			}
		})
	}
	hands.Wait()
	refused.Range(func(name, err any) bool { t.Errorf("%s: %v", name, err); return true })
	assert.Equal(t, int64(80), s.Now().Revision, "records of different hands are no conflict")
	for hand := range 8 {
		p, ok := lab.Find[lab.Place](s.Now().Lab, lab.ID(fmt.Sprintf("p%d", hand)))
		assert.True(t, ok)
		assert.Equal(t, fmt.Sprintf("hand %d change 9", hand), p.Name)
	}
}

func TestLongThoughtHoldsNobodyUp(t *testing.T) {
	s := open(t, t.TempDir())
	thinking, others := make(chan struct{}), make(chan struct{})
	asked := 0
	done := make(chan error, 1)
	go func() {
		_, err := s.Change(context.Background(), 0, "thought about for long", func(l *lab.Lab) ([]lab.Change, error) {
			if asked++; asked == 1 {
				close(thinking)
				<-others
			}
			count := 0
			for range l.Records(lab.KindPlace) {
				count++
			}
			return puts(lab.Place{ID: "last", Name: fmt.Sprintf("the one after %d", count)})(l)
		})
		done <- err
	}()
	<-thinking
	put(t, s, place("one")) // while the other is at it
	close(others)
	require.NoError(t, <-done)
	p, ok := lab.Find[lab.Place](s.Now().Lab, "last")
	require.True(t, ok)
	assert.Equal(t, "the one after 1", p.Name, "it is worked out again in the lab that it is made in")
	assert.Equal(t, 2, asked)
	assert.Equal(t, int64(2), s.Now().Revision)
}

func TestWhoHasNoTimeLeftDoesNotWaitForItsTurn(t *testing.T) {
	s := open(t, t.TempDir())
	ctx, cancel := context.WithCancel(context.Background())
	first, err := s.Change(ctx, 0, "", puts(place("one")))
	require.NoError(t, err)
	release := s.HoldTurn()
	cancel()
	_, err = s.Change(ctx, first.Revision, "", puts(place("two")))
	require.ErrorIs(t, err, context.Canceled)
	release()
	put(t, s, place("three"))
	assert.Equal(t, int64(2), s.Now().Revision, "what was given up is not made later")
}

func TestAReaderKeepsTheLabItHas(t *testing.T) {
	s := open(t, t.TempDir())
	put(t, s, place("one"))
	then := s.Now()
	put(t, s, place("two"))
	p, _ := lab.Find[lab.Place](then.Lab, "p")
	assert.Equal(t, "one", p.Name)
	assert.Equal(t, int64(1), then.Revision)
}

func TestTheLogbookTellsWhatAChangeTouched(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, place("one"), lab.Rack{ID: "r", Name: "Pantry", HeightU: 9, Place: "p"})
	_, err := s.Undo(context.Background(), 1)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	defer db.Close()
	var touched int
	require.NoError(t, db.QueryRow("SELECT count(*) FROM logbook_records WHERE revision = 2").Scan(&touched))
	assert.Equal(t, 2, touched)
	var undoes sql.NullInt64
	var label, at string
	require.NoError(t, db.QueryRow("SELECT undoes, label, at FROM logbook WHERE revision = 2").Scan(&undoes, &label, &at))
	assert.Equal(t, int64(1), undoes.Int64)
	assert.Equal(t, `undo: place "one" added; rack "Pantry" added in "one"`, label)
	assert.Regexp(t, `^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z$`, at)
	var integrity string
	require.NoError(t, db.QueryRow("PRAGMA integrity_check").Scan(&integrity))
	assert.Equal(t, "ok", integrity)
}

func TestRecordsEditedByHandThatDoNotGoTogetherAreRefused(t *testing.T) {
	dir := t.TempDir()
	s := open(t, dir)
	put(t, s, lab.Rack{ID: "r", Name: "Pantry", HeightU: 9})
	require.NoError(t, s.Close())
	db, err := sql.Open("sqlite", filepath.Join(dir, store.FileName))
	require.NoError(t, err)
	_, err = db.Exec("UPDATE racks SET height_u = 200")
	require.NoError(t, err)
	require.NoError(t, db.Close())
	_, err = store.Open(context.Background(), dir)
	require.ErrorContains(t, err, "the records contradict each other: Pantry, height_u: a rack has 1 to 60 units, not 200")
}

func TestAnEmptyFileAndAnEmptyDirectoryAreANewLab(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "made", "on the way"))
	assert.Zero(t, s.Now().Revision)
	assert.Empty(t, lab.Diff(lab.New(), s.Now().Lab))
	assert.Empty(t, s.Now().Undo)
	_, err := s.Change(context.Background(), 0, "renamed by hand", func(l *lab.Lab) ([]lab.Change, error) {
		settings := l.Settings()
		settings.Name = "Quarry House"
		c, _ := l.Put(settings)
		return []lab.Change{c}, nil
	})
	require.NoError(t, err)
	assert.Equal(t, "renamed by hand", s.Now().Undo)
}

func TestACanceledRequestStillEndsInAWholeChange(t *testing.T) {
	s := open(t, t.TempDir())
	ctx, cancel := context.WithCancel(context.Background())
	_, err := s.Change(ctx, 0, "", func(l *lab.Lab) ([]lab.Change, error) {
		cancel() // the maker hangs up while it is worked out
		return puts(place("one"))(l)
	})
	require.NoError(t, err)
	assert.Equal(t, int64(1), s.Now().Revision)
}
