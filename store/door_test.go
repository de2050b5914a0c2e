package store_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/store"
)

func TestWhoGetsInIsKeptBesideTheLab(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	s := open(t, dir)
	hash, err := s.Passphrase(ctx)
	require.NoError(t, err)
	assert.Empty(t, hash)
	require.NoError(t, s.SetPassphrase(ctx, "one"))
	for _, secret := range []string{"a", "b"} {
		require.NoError(t, s.SignIn(ctx, []byte(secret), store.Session{MadeAt: noon, SeenAt: noon, FromIP: "192.0.2.7", Browser: secret}))
	}
	require.NoError(t, s.AddToken(ctx, []byte("t"), store.Token{ID: "id", Name: "script", May: store.MayRead, MadeAt: noon}))
	require.NoError(t, s.SeenSession(ctx, []byte("a"), noon.AddDate(0, 0, 1)))
	require.NoError(t, s.SeenToken(ctx, "id", noon.AddDate(0, 0, 2)))
	assert.Zero(t, s.Now().Revision, "none of this is a change of the lab")
	require.NoError(t, s.Close())

	s = open(t, dir)
	sessions, err := s.Sessions(ctx)
	require.NoError(t, err)
	assert.Equal(t, store.Session{MadeAt: noon, SeenAt: noon.AddDate(0, 0, 1), FromIP: "192.0.2.7", Browser: "a"}, sessions["a"])
	tokens, err := s.Tokens(ctx)
	require.NoError(t, err)
	assert.Equal(t, noon.AddDate(0, 0, 2), *tokens["t"].SeenAt)

	require.NoError(t, s.SignOut(ctx, []byte("b")))
	sessions, err = s.Sessions(ctx)
	require.NoError(t, err)
	assert.Len(t, sessions, 1)
	require.NoError(t, s.SetPassphrase(ctx, "two"))
	sessions, err = s.Sessions(ctx)
	require.NoError(t, err)
	assert.Empty(t, sessions, "a new passphrase signs everybody out")
	require.NoError(t, s.EndToken(ctx, "id"))
	tokens, err = s.Tokens(ctx)
	require.NoError(t, err)
	assert.Empty(t, tokens)
}
