package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"levelstaff/core/lab"
)

// What lets people and programs in is kept beside the lab, not in it: it is no
// part of the logbook, and what was ended does not come back by an undo.

// Session is one browser that is signed in.
type Session struct {
	MadeAt  time.Time `json:"made_at" required:"true"`
	SeenAt  time.Time `json:"seen_at" required:"true"`
	FromIP  string    `json:"from_ip" required:"true"`
	Browser string    `json:"browser" required:"true"`
}

// May is what a token lets its bearer do.
type May string

// A token is for reading, or for everything but access settings.
const (
	MayRead May = "read"
	MayAll  May = "full"
)

// Enum lists both for the published schema.
func (May) Enum() []any { return []any{MayRead, MayAll} }

// Token is a program's way in.
type Token struct {
	ID     lab.ID     `json:"id" required:"true"`
	Name   string     `json:"name" required:"true" maxLength:"80"`
	May    May        `json:"may" required:"true"`
	MadeAt time.Time  `json:"made_at" required:"true"`
	SeenAt *time.Time `json:"seen_at,omitempty" description:"When it was last used, to the minute"`
}

// Passphrase is the hash of the owner's passphrase, "" while there is none.
func (s *Store) Passphrase(ctx context.Context) (hash string, err error) {
	err = s.reads.QueryRowContext(ctx, "SELECT passphrase FROM owner").Scan(&hash)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return hash, err
}

// SetPassphrase keeps the hash of a new passphrase and ends every session.
func (s *Store) SetPassphrase(ctx context.Context, hash string) error {
	if err := s.aside(ctx, statement{"INSERT OR REPLACE INTO owner (one, passphrase) VALUES (1, ?)", []any{hash}}); err != nil {
		return err
	}
	return s.SignOut(ctx, nil)
}

// SignIn keeps the sum of a new session's secret.
func (s *Store) SignIn(ctx context.Context, secret []byte, is Session) error {
	if err := s.mark(secret); err != nil {
		return err
	}
	return s.aside(ctx, statement{"INSERT INTO sessions (secret, made_at, seen_at, from_ip, browser) VALUES (?, ?, ?, ?, ?)",
		[]any{secret, stamp(is.MadeAt), stamp(is.SeenAt), is.FromIP, is.Browser}})
}

// Sessions lists who is signed in by the sums of their secrets.
func (s *Store) Sessions(ctx context.Context) (map[string]Session, error) {
	rows, err := s.reads.QueryContext(ctx, "SELECT secret, made_at, seen_at, coalesce(from_ip, ''), coalesce(browser, '') FROM sessions")
	if err != nil {
		return nil, fmt.Errorf("read the sessions: %w", err)
	}
	defer rows.Close()
	all := map[string]Session{}
	for rows.Next() {
		var secret []byte
		var is Session
		var made, seen string
		if err := rows.Scan(&secret, &made, &seen, &is.FromIP, &is.Browser); err != nil {
			return nil, fmt.Errorf("read the sessions: %w", err)
		}
		is.MadeAt, is.SeenAt = unstamp(made), unstamp(seen)
		if s.marked(secret) {
			all[string(secret)] = is
		}
	}
	return all, rows.Err()
}

// SeenSession notes when a session was last used.
func (s *Store) SeenSession(ctx context.Context, secret []byte, at time.Time) error {
	return s.aside(ctx, statement{"UPDATE sessions SET seen_at = ? WHERE secret = ?", []any{stamp(at), secret}})
}

// SignOut ends a session; nil ends all of them. It takes no room on the disk.
func (s *Store) SignOut(ctx context.Context, secret []byte) error {
	if secret != nil {
		return s.end(ctx, statement{"DELETE FROM sessions WHERE secret = ?", []any{secret}}, secret)
	}
	all, err := s.secrets(ctx, "SELECT secret FROM sessions")
	if err != nil {
		return err
	}
	return s.end(ctx, statement{"DELETE FROM sessions", nil}, all...)
}

// Tokens lists the tokens by the sums of their secrets.
func (s *Store) Tokens(ctx context.Context) (map[string]Token, error) {
	rows, err := s.reads.QueryContext(ctx, "SELECT secret, id, name, may, made_at, seen_at FROM tokens")
	if err != nil {
		return nil, fmt.Errorf("read the tokens: %w", err)
	}
	defer rows.Close()
	all := map[string]Token{}
	for rows.Next() {
		var secret []byte
		var t Token
		var made string
		var seen sql.NullString
		if err := rows.Scan(&secret, &t.ID, &t.Name, &t.May, &made, &seen); err != nil {
			return nil, fmt.Errorf("read the tokens: %w", err)
		}
		t.MadeAt = unstamp(made)
		if seen.Valid {
			at := unstamp(seen.String)
			t.SeenAt = &at
		}
		if s.marked(secret) {
			all[string(secret)] = t
		}
	}
	return all, rows.Err()
}

// AddToken keeps the sum of a new token's secret.
func (s *Store) AddToken(ctx context.Context, secret []byte, t Token) error {
	if err := s.mark(secret); err != nil {
		return err
	}
	return s.aside(ctx, statement{"INSERT INTO tokens (id, name, secret, may, made_at) VALUES (?, ?, ?, ?, ?)",
		[]any{t.ID, t.Name, secret, t.May, stamp(t.MadeAt)}})
}

// SeenToken notes when a token was last used.
func (s *Store) SeenToken(ctx context.Context, id lab.ID, at time.Time) error {
	return s.aside(ctx, statement{"UPDATE tokens SET seen_at = ? WHERE id = ?", []any{stamp(at), id}})
}

// EndToken takes a token back. It takes no room on the disk.
func (s *Store) EndToken(ctx context.Context, id lab.ID) error {
	secrets, err := s.secrets(ctx, "SELECT secret FROM tokens WHERE id = ?", id)
	if err != nil {
		return err
	}
	return s.end(ctx, statement{"DELETE FROM tokens WHERE id = ?", []any{id}}, secrets...)
}

func (s *Store) secrets(ctx context.Context, query string, values ...any) ([][]byte, error) {
	return secretsIn(ctx, s.reads, query, values...)
}

func secretsIn(ctx context.Context, db *sql.DB, query string, values ...any) ([][]byte, error) {
	rows, err := db.QueryContext(ctx, query, values...)
	if err != nil {
		return nil, fmt.Errorf("read who may come in: %w", err)
	}
	defer rows.Close()
	var all [][]byte
	for rows.Next() {
		var secret []byte
		if err := rows.Scan(&secret); err != nil {
			return nil, fmt.Errorf("read who may come in: %w", err)
		}
		all = append(all, secret)
	}
	return all, rows.Err()
}

// aside writes what is no change of the lab, and with it what could not be
// written before.
func (s *Store) aside(ctx context.Context, todo ...statement) error {
	if err := s.takeTurn(ctx); err != nil {
		return err
	}
	defer s.endTurn()
	return s.asideInTurn(ctx, todo...)
}

func (s *Store) asideInTurn(ctx context.Context, todo ...statement) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return notWritable(err)
	}
	for _, do := range append(s.ended, todo...) {
		if _, err := tx.ExecContext(ctx, do.query, do.values...); err != nil {
			return errors.Join(notWritable(err), tx.Rollback())
		}
	}
	if err := tx.Commit(); err != nil {
		return notWritable(err)
	}
	s.ended = nil
	return nil
}

func stamp(t time.Time) string { return t.UTC().Format(time.RFC3339) }

// unstamp reads what stamp wrote; the zero time of anything else is long ago.
func unstamp(s string) time.Time {
	t, err := time.Parse(time.RFC3339, s)
	if err != nil {
		return time.Time{}
	}
	return t
}
