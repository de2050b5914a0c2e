package store

import (
	"context"
	"fmt"
)

// history is which changes can be undone and which redone, as the
// logbook tells it: a new change ends what could be made again.
type history struct {
	undo, redo stack
}

type entryRef struct {
	revision int64
	label    string
}

type stack []entryRef

// top is the latest entry; its revision is 0 if there is none.
func (s stack) top() entryRef {
	if len(s) == 0 {
		return entryRef{}
	}
	return s[len(s)-1]
}

func (s *stack) push(e entryRef) { *s = append(*s, e) }

func (s *stack) pop() entryRef {
	e := s.top()
	*s = (*s)[:max(0, len(*s)-1)]
	return e
}

// add follows one logbook entry; undoes and redoes are 0 where it is neither.
func (h *history) add(revision int64, label string, undoes, redoes int64) {
	switch {
	case undoes != 0:
		h.redo.push(h.undo.pop())
	case redoes != 0:
		h.undo.push(h.redo.pop())
	default:
		h.undo.push(entryRef{revision, label})
		h.redo = nil
	}
}

// readHistory follows the whole logbook and returns its latest revision.
func (s *Store) readHistory(ctx context.Context) (revision int64, err error) {
	rows, err := s.db.QueryContext(ctx, "SELECT revision, label, coalesce(undoes, 0), coalesce(redoes, 0) FROM logbook ORDER BY revision")
	if err != nil {
		return 0, fmt.Errorf("read the logbook: %w", err)
	}
	defer rows.Close()
	s.history = history{}
	for rows.Next() {
		var label string
		var undoes, redoes int64
		if err := rows.Scan(&revision, &label, &undoes, &redoes); err != nil {
			return 0, fmt.Errorf("read the logbook: %w", err)
		}
		s.history.add(revision, label, undoes, redoes)
	}
	return revision, rows.Err()
}
