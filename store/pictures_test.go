package store_test

import (
	"context"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/picture"
	"levelstaff/store"
)

func TestPicturesAreKeptOnceAndBackedUp(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s, err := store.Open(ctx, dir)
	require.NoError(t, err)
	p := picture.Picture{SHA256: "ab12", JPEG: []byte("whole"), Thumbnail: []byte("small")}
	require.NoError(t, s.AddPicture(ctx, p))
	p.Thumbnail = []byte("another")
	require.NoError(t, s.AddPicture(ctx, p), "once more is the same picture")
	small, err := s.Picture(ctx, "ab12", true)
	require.NoError(t, err)
	assert.Equal(t, "small", string(small))
	none, err := s.Picture(ctx, "cd34", false)
	require.NoError(t, err)
	assert.Nil(t, none)
	assert.Zero(t, s.Now().Revision, "a picture alone is no change of the lab")
	require.NoError(t, s.Close())

	file := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, store.Backup(ctx, dir, file))
	other := t.TempDir()
	_, err = store.Restore(ctx, other, file, time.Now())
	require.NoError(t, err)
	back, err := store.Open(ctx, other)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, back.Close()) })
	whole, err := back.Picture(ctx, "ab12", false)
	require.NoError(t, err)
	assert.Equal(t, "whole", string(whole))
}
