package bench

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/draft"
	"levelstaff/core/find"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/store"
)

func BenchmarkFind(b *testing.B) {
	l := large(b)
	ix := find.New(l)
	for name, query := range map[string]string{"byName": "thing-100-10", "byPiece": "ing-1", "withASlip": "serber row",
		"nowhere": "xylophones"} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				ix.Search(query, 30)
			}
		})
	}
	b.Run("indexMade", func(b *testing.B) {
		for b.Loop() {
			find.New(l)
		}
	})
}

func BenchmarkAllFindings(b *testing.B) {
	l := large(b)
	for b.Loop() {
		finding.All(l, "2026-11-23")
	}
}

func BenchmarkDraftOf200StepsPutOnTheLab(b *testing.B) {
	l, err := large(b).Apply([]lab.Change{{After: lab.Draft{ID: "q", Name: "Everything at once"}}})
	require.NoError(b, err)
	n := 0
	for r := range lab.Each[lab.Rack](l) {
		for _, d := range l.HeldBy(r.Key())[:1] {
			is := d
			is.At, is.State = nil, lab.Resting
			n++
			l, err = l.Apply([]lab.Change{{After: lab.Step{ID: lab.ID(fmt.Sprintf("s%04d", n)), Draft: "q", Order: n,
				Changes: []lab.Change{{Before: d, After: is}}}}})
			require.NoError(b, err)
		}
	}
	require.Equal(b, 200, n)
	for b.Loop() {
		require.True(b, draft.On(l, "q").Holds())
	}
}

func BenchmarkRoomMade(b *testing.B) {
	l := large(b)
	r, _ := lab.Find[lab.Rack](l, "r-0007")
	for b.Loop() {
		rack.MakeRoom(l, r, 6)
	}
}

func BenchmarkAsItWas10000ChangesAgo(b *testing.B) {
	ctx := context.Background()
	dir := b.TempDir()
	s, err := store.Open(ctx, dir)
	require.NoError(b, err)
	l := large(b)
	_, err = s.Change(ctx, 0, "large", func(now *lab.Lab) ([]lab.Change, error) { return lab.Diff(now, l), nil })
	require.NoError(b, err)
	i := 0
	for d := range lab.Each[lab.Device](l) {
		for k := range 2 {
			is := d
			is.Purpose = fmt.Sprint("turn ", k)
			_, err := s.Change(ctx, s.Now().Revision, "", func(now *lab.Lab) ([]lab.Change, error) {
				c, _ := now.Put(is)
				return []lab.Change{c}, nil
			})
			require.NoError(b, err)
			i++
		}
	}
	require.Equal(b, 10_000, i)
	require.NoError(b, s.Close())
	for b.Loop() {
		b.StopTimer() // a store of its own each time: what was looked at is kept
		s, err := store.Open(ctx, dir)
		require.NoError(b, err)
		b.StartTimer()
		then, err := s.At(ctx, 1)
		require.NoError(b, err)
		b.StopTimer()
		require.Empty(b, lab.Diff(l, then))
		require.NoError(b, s.Close())
		b.StartTimer()
	}
}
