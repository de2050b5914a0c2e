package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"sync/atomic"
	"time"

	"github.com/gofrs/flock"
	"golang.org/x/sync/semaphore"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Store is an open lab. Reading Now never waits; changes are worked out beside
// one another and written one at a time.
type Store struct {
	dir     string
	path    string
	file    os.FileInfo // of the file that is open
	clock   func() time.Time
	db      *sql.DB
	reads   *sql.DB // connections of their own, so that reading the logbook holds no change up
	lock    *flock.Flock
	turn    *semaphore.Weighted // to write
	now     atomic.Pointer[Snapshot]
	history history
	stmts   map[string]*sql.Stmt // prepared once, by their text
	past    pastLabs
	changed atomic.Pointer[chan struct{}] // closed at the next change
	told    []string
	ended   []statement // ways in that were ended while the disk took nothing; whoever has the turn may write them
}

// takeTurn waits for the right to write, which one at a time has, for as long as
// its taker has time. One that is free is taken even by who has none left: what is
// worked out is kept.
func (s *Store) takeTurn(ctx context.Context) error {
	if s.turn.TryAcquire(1) {
		return nil
	}
	if err := s.turn.Acquire(ctx, 1); err != nil {
		return fmt.Errorf("wait for other changes: %w", err)
	}
	return nil
}

func (s *Store) endTurn() { s.turn.Release(1) }

// Snapshot is the lab as it stands after the change of that number.
type Snapshot struct {
	Lab      *lab.Lab
	Revision int64
	Undo     string // the label of the change that would be undone next, or ""
	Redo     string // and of the one that would be made again
}

// Entry is what the logbook got for a change.
type Entry struct {
	Revision int64        `json:"revision"`
	At       time.Time    `json:"at"`
	Label    string       `json:"label"`
	Changes  []lab.Change `json:"changes"`
	Before   *lab.Lab     `json:"-"` // the lab it was made in
	After    *lab.Lab     `json:"-"` // and what became of it
	undoes   sql.NullInt64
	redoes   sql.NullInt64
}

// Stale is the error of a change whose maker had not seen the latest state of
// the facts it sets.
type Stale struct {
	Base, Revision int64
	Records        []lab.Key // changed since
	Clashes        []rundown.Clash
}

// Error says how far behind the maker was.
func (s *Stale) Error() string {
	if s.Base > s.Revision {
		return fmt.Sprintf("the lab is at change %d, not yet at %d", s.Revision, s.Base)
	}
	return fmt.Sprintf("%d of these records changed after change %d; the lab is at %d", len(s.Records), s.Base, s.Revision)
}

// ErrNothing is the error of undoing where there is nothing left to undo.
var ErrNothing = errors.New("there is nothing to undo")

// SetClock makes the store take the time of its entries from somewhere else
// than the machine's clock: a made-up lab has a made-up past.
func (s *Store) SetClock(clock func() time.Time) { s.clock = clock }

// Dir is the data directory.
func (s *Store) Dir() string { return s.dir }

// Now is the lab as it stands.
func (s *Store) Now() Snapshot { return *s.now.Load() }

func (s *Store) publish(l *lab.Lab, revision int64) {
	s.now.Store(&Snapshot{Lab: l, Revision: revision, Undo: s.history.undo.top().label, Redo: s.history.redo.top().label})
	next := make(chan struct{})
	if last := s.changed.Swap(&next); last != nil {
		close(*last)
	}
}

// Changed is closed when the lab is no longer what Now says. Ask for it before
// Now, so that no change is missed in between.
func (s *Store) Changed() <-chan struct{} { return *s.changed.Load() }

// Change makes the changes that build works out from the lab as it stands, in
// one transaction with their logbook entry. base is the revision the maker
// knows: *Stale if a fact that the changes set was set to something else after it. An empty
// label is made from the changes. Nothing to change is no entry. build is asked
// again where the lab has changed meanwhile, so it has to begin afresh each time.
func (s *Store) Change(ctx context.Context, base int64, label string, build func(*lab.Lab) ([]lab.Change, error)) (Entry, error) {
	return s.ChangeSaying(ctx, base, func(_, _ *lab.Lab) string { return label }, build)
}

// ChangeSaying is Change with a label that depends on what comes of it.
func (s *Store) ChangeSaying(ctx context.Context, base int64, label func(before, after *lab.Lab) string,
	build func(*lab.Lab) ([]lab.Change, error)) (Entry, error) {
	workOut := func(now Snapshot) (Entry, error) { return workedOut(now, label, build) }
	for {
		began, now := time.Now(), s.Now()
		e, err := workOut(now)
		if err != nil {
			if stale := s.fresh(ctx, base, now, e); stale != nil && len(e.Changes) > 0 {
				err = stale // which is why, as likely as not
			}
			return Entry{}, err
		}
		if len(e.Changes) == 0 && base <= now.Revision {
			return e, nil
		}
		quick := time.Since(began) < quickly
		if e, retry, err := s.take(ctx, base, e, quick, workOut); !retry {
			return e, err
		}
	}
}

// quickly is what may be worked out while others wait to write.
const quickly = 100 * time.Millisecond

// workedOut is what a change comes to in the lab as it stands, and how it is told.
// Where it is refused, the entry has the changes alone.
func workedOut(now Snapshot, label func(before, after *lab.Lab) string, build func(*lab.Lab) ([]lab.Change, error)) (Entry, error) {
	changes, err := build(now.Lab)
	if err != nil {
		return Entry{}, err
	}
	next, err := now.Lab.Apply(changes)
	if err != nil {
		return Entry{Changes: changes}, err
	}
	if len(changes) == 0 {
		return Entry{Revision: now.Revision, Changes: []lab.Change{}, Before: now.Lab, After: now.Lab}, nil
	}
	said := label(now.Lab, next)
	if said == "" {
		said = rundown.Label(rundown.Edits(now.Lab, next, changes))
	}
	return Entry{Revision: now.Revision + 1, Label: said, Changes: changes, Before: now.Lab, After: next}, nil
}

// take makes a change in its turn. If the lab has changed since it was worked
// out, that is done again: here where it is quick, and outside of the turn, which
// is to retry, where it is not.
func (s *Store) take(ctx context.Context, base int64, e Entry, quick bool, workOut func(Snapshot) (Entry, error)) (
	done Entry, retry bool, err error) {
	if err := s.takeTurn(ctx); err != nil {
		return Entry{}, false, err
	}
	defer s.endTurn()
	now := s.Now()
	if now.Lab != e.Before {
		if !quick {
			return Entry{}, ctx.Err() == nil, ctx.Err()
		}
		if e, err = workOut(now); err != nil {
			return Entry{}, false, err
		}
	}
	if err := s.fresh(ctx, base, now, e); err != nil || len(e.Changes) == 0 {
		return e, false, err
	}
	done, err = s.commit(ctx, e)
	return done, false, err
}

// Undo takes the latest change that still counts back, Redo makes the latest
// one that was undone. Both are changes themselves. base must be the
// revision as it stands, or else the maker would not know what goes.
func (s *Store) Undo(ctx context.Context, base int64) (Entry, error) {
	return s.back(ctx, base, true)
}

// Redo is the way back from Undo.
func (s *Store) Redo(ctx context.Context, base int64) (Entry, error) {
	return s.back(ctx, base, false)
}

func (s *Store) back(ctx context.Context, base int64, undo bool) (Entry, error) {
	if err := s.takeTurn(ctx); err != nil {
		return Entry{}, err
	}
	defer s.endTurn()
	now := s.Now()
	if base != now.Revision {
		return Entry{}, &Stale{Base: base, Revision: now.Revision}
	}
	from, verb := &s.history.redo, "redo"
	if undo {
		from, verb = &s.history.undo, "undo"
	}
	last := from.top()
	if last.revision == 0 {
		return Entry{}, ErrNothing
	}
	changes, err := s.changesOf(ctx, last.revision)
	if err != nil {
		return Entry{}, err
	}
	e := Entry{Revision: now.Revision + 1, Label: verb + ": " + last.label, Changes: changes, Before: now.Lab}
	if undo {
		e.Changes, e.undoes = lab.Invert(changes), sql.NullInt64{Int64: last.revision, Valid: true}
	} else {
		e.redoes = sql.NullInt64{Int64: last.revision, Valid: true}
	}
	next, err := now.Lab.Apply(e.Changes)
	if err != nil {
		return Entry{}, fmt.Errorf("%s: %w", e.Label, err)
	}
	e.After = next
	return s.commit(ctx, e)
}

// BackTo makes the lab what it was after the change of the given number, in
// one change that can itself be undone. base must be the revision as it
// stands, or else the maker would not know what goes.
func (s *Store) BackTo(ctx context.Context, base, revision int64) (Entry, error) {
	then, err := s.At(ctx, revision)
	if err != nil {
		return Entry{}, err
	}
	if now := s.Now().Revision; base != now {
		return Entry{}, &Stale{Base: base, Revision: now}
	}
	label := fmt.Sprintf("back to change %d", revision)
	return s.Change(ctx, base, label, func(l *lab.Lab) ([]lab.Change, error) { return lab.Diff(l, then), nil })
}

// TakeBack undoes one earlier change and keeps what came after it. The error is a
// *lab.Overtaken or a *lab.Refusal if that stands in the way.
func (s *Store) TakeBack(ctx context.Context, base, revision int64) (Entry, error) {
	now := s.Now().Revision
	if revision < 1 || revision > now {
		return Entry{}, &NoSuchRevision{revision, now}
	}
	changes, err := s.changesOf(ctx, revision)
	if err != nil {
		return Entry{}, err
	}
	var was string
	if err := s.reads.QueryRowContext(ctx, "SELECT label FROM logbook WHERE revision = ?", revision).Scan(&was); err != nil {
		return Entry{}, fmt.Errorf("read change %d: %w", revision, err)
	}
	return s.Change(ctx, base, "taken back: "+was, func(l *lab.Lab) ([]lab.Change, error) { return l.TakeBack(changes) })
}

// fresh refuses changes of what was set to something else after base: two people
// may say different facts of one record, not two things of one fact.
func (s *Store) fresh(ctx context.Context, base int64, now Snapshot, e Entry) error {
	stale := &Stale{Base: base, Revision: now.Revision}
	if base > now.Revision {
		return stale
	}
	if base == now.Revision || len(e.Changes) == 0 {
		return nil
	}
	var touched []lab.Change
	for _, c := range e.Changes {
		key := c.Key()
		var since bool
		err := s.reads.QueryRowContext(ctx, "SELECT EXISTS (SELECT 1 FROM logbook_records WHERE kind = ? AND id = ? AND revision > ?)", key.Kind,
			key.ID, base).Scan(&since)
		if err != nil {
			return fmt.Errorf("look for newer changes: %w", err)
		}
		if since {
			touched = append(touched, c)
		}
	}
	if len(touched) == 0 {
		return nil
	}
	was, err := s.At(ctx, base)
	if err != nil {
		return err
	}
	for _, c := range touched {
		if _, clash := c.Clashing(was.Get(c.Key())); clash {
			stale.Records = append(stale.Records, c.Key())
		}
	}
	if len(stale.Records) == 0 {
		return nil
	}
	after := e.After
	if after == nil {
		after = now.Lab // it was refused, or not worked out
	}
	stale.Clashes = rundown.Clashes(was, now.Lab, after, touched)
	return stale
}

// commit writes the rows and the entry, and then publishes the lab.
func (s *Store) commit(ctx context.Context, e Entry) (Entry, error) {
	if err := s.inPlace(); err != nil {
		return Entry{}, fmt.Errorf("keep change %d: %w", e.Revision, err)
	}
	e.At = s.clock().UTC().Truncate(time.Millisecond)
	// A change that is under way is finished even if its maker hangs up.
	if err := s.write(context.WithoutCancel(ctx), e); err != nil {
		return Entry{}, fmt.Errorf("keep change %d: %w", e.Revision, notWritable(err))
	}
	s.history.add(e.Revision, e.Label, e.undoes.Int64, e.redoes.Int64)
	s.publish(e.After, e.Revision)
	return e, nil
}

// statement is a query and its values.
type statement struct {
	query  string
	values []any
}

// write makes an entry and its changes in one transaction.
func (s *Store) write(ctx context.Context, e Entry) error {
	todo, err := statements(e)
	if err != nil {
		return err
	}
	if len(s.stmts) > mostPrepared {
		for query, stmt := range s.stmts {
			err = errors.Join(err, stmt.Close())
			delete(s.stmts, query)
		}
		if err != nil {
			return err
		}
	}
	prepared := make([]*sql.Stmt, len(todo))
	for i, do := range todo {
		if prepared[i], err = s.prepared(ctx, do.query); err != nil {
			return err
		}
	}
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	for i, do := range todo {
		if _, err := tx.StmtContext(ctx, prepared[i]).ExecContext(ctx, do.values...); err != nil {
			return errors.Join(fmt.Errorf("%s: %w", do.query, err), tx.Rollback())
		}
	}
	return tx.Commit()
}

// statements are what writes an entry: itself, and for each change the
// record's row and the note that it was touched.
func statements(e Entry) ([]statement, error) {
	data, err := json.Marshal(e.Changes)
	if err != nil {
		return nil, err
	}
	todo := []statement{{"INSERT INTO logbook (revision, at, label, changes, undoes, redoes) VALUES (?, ?, ?, ?, ?, ?)",
		[]any{e.Revision, e.At.Format(time.RFC3339Nano), e.Label, string(data), e.undoes, e.redoes}}}
	for _, c := range e.Changes {
		key := c.Key()
		todo = append(todo, tables[key.Kind].change(c),
			statement{"INSERT OR IGNORE INTO logbook_records (revision, kind, id) VALUES (?, ?, ?)", []any{e.Revision, key.Kind, key.ID}})
	}
	return todo, nil
}

// mostPrepared bounds the statements that are kept prepared. There is one for
// each set of columns that are changed together.
const mostPrepared = 200

// prepared is the statement of a query, prepared the first time.
func (s *Store) prepared(ctx context.Context, query string) (*sql.Stmt, error) {
	if stmt, ok := s.stmts[query]; ok {
		return stmt, nil
	}
	stmt, err := s.db.PrepareContext(ctx, query)
	if err != nil {
		return nil, err
	}
	s.stmts[query] = stmt
	return stmt, nil
}

func (s *Store) changesOf(ctx context.Context, revision int64) ([]lab.Change, error) {
	var data string
	if err := s.reads.QueryRowContext(ctx, "SELECT changes FROM logbook WHERE revision = ?", revision).Scan(&data); err != nil {
		return nil, fmt.Errorf("read change %d: %w", revision, err)
	}
	var changes []lab.Change
	if err := json.Unmarshal([]byte(data), &changes); err != nil {
		return nil, fmt.Errorf("read change %d: %w", revision, err)
	}
	return changes, nil
}
