package demo_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/draft"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/demo"
)

var today = time.Date(2026, 11, 23, 9, 0, 0, 0, time.UTC)

// lived is Quarry House after all that happened in it, and what makes further
// ids.
func lived(t *testing.T) (*lab.Lab, func() lab.ID) {
	t.Helper()
	n := 0
	ids := func() lab.ID { n++; return lab.ID(fmt.Sprintf("%06d", n)) }
	moments, err := demo.History(today, ids)
	require.NoError(t, err)
	l := lab.New()
	last := time.Time{}
	for _, m := range moments {
		assert.True(t, m.At.After(last) && m.At.Before(today), "%s comes in its turn", m.At)
		last = m.At
		changes, err := m.Build(l)
		require.NoError(t, err)
		assert.NotEmpty(t, changes)
		l, err = l.Apply(changes)
		require.NoError(t, err)
	}
	return l, ids
}

// Quarry House ends up as its rundowns say, has drafts that hold, and a few
// real mistakes for the findings to find.
func TestThePastLeadsToThePresent(t *testing.T) {
	l, ids := lived(t)
	texts, err := demo.Texts()
	require.NoError(t, err)
	p := rundown.Load(l, rundown.Parse(strings.Join(texts, "\n")), rundown.Options{All: true, Forget: true, NewID: ids})
	require.Empty(t, p.Mistakes)
	assert.Empty(t, rundown.Edits(l, p.Lab, p.Changes))

	drafts := 0
	for r := range l.Records(lab.KindDraft) {
		drafts++
		e := draft.On(l, r.Key().ID)
		assert.True(t, e.Holds())
		assert.Greater(t, len(e.Steps), 1)
	}
	assert.Equal(t, 2, drafts)
	levels := map[finding.Level]int{}
	accepted := 0
	for _, f := range finding.All(l, lab.DayOf(today)) {
		levels[f.Level]++
		if f.Accepted != nil {
			accepted++
		}
	}
	assert.Positive(t, levels[finding.Act])
	assert.Positive(t, levels[finding.Watch])
	assert.Positive(t, levels[finding.Note])
	assert.Equal(t, 1, accepted)
}

func TestThePhotosAreOfThingsAndTheirPicturesAreThere(t *testing.T) {
	l, _ := lived(t)
	pictures, err := demo.Pictures()
	require.NoError(t, err)
	sums := map[string]bool{}
	for _, p := range pictures {
		sums[p.SHA256] = true
		assert.Less(t, len(p.Thumbnail), 40_000)
	}
	photos := 0
	for r := range l.Records(lab.KindPhoto) {
		p := r.(lab.Photo)
		photos++
		assert.True(t, sums[p.File], "%s shows a picture that is not there", p.Caption)
		_, ok := lab.Find[lab.Device](l, p.Device)
		assert.True(t, ok)
	}
	assert.Equal(t, len(pictures), photos)
}
