package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"levelstaff/picture"
)

// AddPicture keeps a picture under its SHA-256; one that is there already is
// kept once. Pictures stay when the photos that show them are removed, since
// undo and the logbook lead back to them.
func (s *Store) AddPicture(ctx context.Context, p picture.Picture) error {
	err := s.aside(context.WithoutCancel(ctx), statement{
		"INSERT OR IGNORE INTO pictures (sha256, added_at, jpeg, thumbnail) VALUES (?, ?, ?, ?)",
		[]any{p.SHA256, stamp(s.clock()), p.JPEG, p.Thumbnail}})
	if err != nil {
		return fmt.Errorf("keep the picture: %w", err)
	}
	return nil
}

// Picture is a kept picture as a JPEG, or its thumbnail; nil if there is none
// with that SHA-256, as in a lab that was loaded from a text file.
func (s *Store) Picture(ctx context.Context, sha256 string, thumbnail bool) (jpeg []byte, err error) {
	query := "SELECT jpeg FROM pictures WHERE sha256 = ?"
	if thumbnail {
		query = "SELECT thumbnail FROM pictures WHERE sha256 = ?"
	}
	err = s.db.QueryRowContext(ctx, query, sha256).Scan(&jpeg)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("read the picture: %w", err)
	}
	return jpeg, nil
}
