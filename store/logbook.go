package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"strings"
	"sync"
	"time"

	"levelstaff/core/lab"
)

// LogEntry is one line of the logbook.
type LogEntry struct {
	Revision int64     `json:"revision" required:"true"`
	At       time.Time `json:"at" required:"true"`
	Label    string    `json:"label" required:"true"`
	Undoes   int64     `json:"undoes,omitempty" description:"The change that this one took back"`
	Redoes   int64     `json:"redoes,omitempty" description:"The change that this one made again"`
	Records  []lab.Key `json:"records" required:"true" nullable:"false" description:"What it touched, the first hundred"`
}

// LogQuery picks lines of the logbook, the latest first.
type LogQuery struct {
	Before int64   // only changes before this one; 0 for all
	Limit  int     // at most so many
	Record lab.Key // only those that touched it; the zero Key for all
	Text   string  // only those with this in their words
}

// Logbook lists what was changed.
func (s *Store) Logbook(ctx context.Context, q LogQuery) ([]LogEntry, error) {
	where, values := []string{"1"}, []any{}
	if q.Before > 0 {
		where, values = append(where, "revision < ?"), append(values, q.Before)
	}
	if q.Record.ID != "" {
		where = append(where, "revision IN (SELECT revision FROM logbook_records WHERE kind = ? AND id = ?)")
		values = append(values, q.Record.Kind, q.Record.ID)
	}
	if q.Text != "" {
		where, values = append(where, `label LIKE ? ESCAPE '\'`), append(values, "%"+likeLiteral(q.Text)+"%")
	}
	rows, err := s.reads.QueryContext(ctx, "SELECT revision, at, label, coalesce(undoes, 0), coalesce(redoes, 0) FROM logbook WHERE "+
		strings.Join(where, " AND ")+" ORDER BY revision DESC LIMIT ?", append(values, q.Limit)...)
	if err != nil {
		return nil, fmt.Errorf("read the logbook: %w", err)
	}
	defer rows.Close()
	list := []LogEntry{}
	for rows.Next() {
		e := LogEntry{Records: []lab.Key{}}
		var at string
		if err := rows.Scan(&e.Revision, &at, &e.Label, &e.Undoes, &e.Redoes); err != nil {
			return nil, fmt.Errorf("read the logbook: %w", err)
		}
		if e.At, err = time.Parse(time.RFC3339Nano, at); err != nil {
			return nil, fmt.Errorf("read the logbook, change %d: %w", e.Revision, err)
		}
		list = append(list, e)
	}
	if err := rows.Err(); err != nil {
		return nil, fmt.Errorf("read the logbook: %w", err)
	}
	for i := range list {
		if list[i].Records, err = s.touched(ctx, "revision = ? LIMIT 100", list[i].Revision); err != nil {
			return nil, err
		}
	}
	return list, nil
}

func likeLiteral(text string) string {
	return strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(text)
}

// Touched lists the records that were changed after a revision.
func (s *Store) Touched(ctx context.Context, since int64) ([]lab.Key, error) {
	return s.touched(ctx, "revision > ? GROUP BY kind, id", since)
}

func (s *Store) touched(ctx context.Context, where string, revision int64) ([]lab.Key, error) {
	rows, err := s.reads.QueryContext(ctx, "SELECT kind, id FROM logbook_records WHERE "+where, revision)
	if err != nil {
		return nil, fmt.Errorf("read what was touched: %w", err)
	}
	defer rows.Close()
	keys := []lab.Key{}
	for rows.Next() {
		var k lab.Key
		if err := rows.Scan(&k.Kind, &k.ID); err != nil {
			return nil, fmt.Errorf("read what was touched: %w", err)
		}
		keys = append(keys, k)
	}
	return keys, rows.Err()
}

// RevisionOn is the number of the latest change that was made before a moment,
// a whole second such as a day's first; 0 if there is none. The file has times
// as text, with as many digits of a second as they need, so only what is before
// the second's fraction can be compared.
func (s *Store) RevisionOn(ctx context.Context, before time.Time) (revision int64, err error) {
	err = s.reads.QueryRowContext(ctx, "SELECT coalesce(max(revision), 0) FROM logbook WHERE substr(at, 1, 19) < ?",
		before.UTC().Format("2006-01-02T15:04:05")).Scan(&revision)
	return revision, err
}

// NoSuchRevision is the error of asking for a change that was not made.
type NoSuchRevision struct{ Revision, Latest int64 }

// Error says which there are.
func (n *NoSuchRevision) Error() string {
	return fmt.Sprintf("there is no change %d; the latest is %d", n.Revision, n.Latest)
}

// pastLabs keeps the labs of the past that were asked for lately.
type pastLabs struct {
	sync.Mutex
	revisions []int64
	labs      map[int64]*lab.Lab
}

const mostPast = 8

func (p *pastLabs) get(revision int64) *lab.Lab {
	p.Lock()
	defer p.Unlock()
	return p.labs[revision]
}

func (p *pastLabs) put(revision int64, l *lab.Lab) {
	p.Lock()
	defer p.Unlock()
	if p.labs == nil {
		p.labs = map[int64]*lab.Lab{}
	}
	if p.labs[revision] == nil {
		p.revisions = append(p.revisions, revision)
	}
	p.labs[revision] = l
	if len(p.revisions) > mostPast {
		delete(p.labs, p.revisions[0])
		p.revisions = p.revisions[1:]
	}
}

// At is the lab as it was after the change of that number. It is made from the
// lab as it stands by giving each record that was changed since what it was
// before the first of those changes, so it costs no more than the records that
// differ, however many changes they went through.
func (s *Store) At(ctx context.Context, revision int64) (*lab.Lab, error) {
	now := s.Now()
	switch {
	case revision == now.Revision:
		return now.Lab, nil
	case revision < 0 || revision > now.Revision:
		return nil, &NoSuchRevision{revision, now.Revision}
	}
	if l := s.past.get(revision); l != nil {
		return l, nil
	}
	was, err := s.before(ctx, revision, now.Revision)
	if err != nil {
		return nil, fmt.Errorf("look back to change %d: %w", revision, err)
	}
	changes := make([]lab.Change, 0, len(was))
	for key, r := range was {
		if is := now.Lab.Get(key); !lab.Same(is, r) {
			changes = append(changes, lab.Change{Before: is, After: r})
		}
	}
	l, err := now.Lab.Rewind(changes)
	if err != nil {
		return nil, fmt.Errorf("look back to change %d: %w", revision, err)
	}
	s.past.put(revision, l)
	return l, nil
}

// before tells what each record was that was changed after one revision and
// not after the other, nil for those that were not there yet.
func (s *Store) before(ctx context.Context, revision, upTo int64) (map[lab.Key]lab.Record, error) {
	first, err := s.firstChanges(ctx, revision, upTo)
	if err != nil {
		return nil, err
	}
	rows, err := s.reads.QueryContext(ctx, `SELECT revision, changes FROM logbook WHERE revision IN (
		SELECT min(revision) FROM logbook_records WHERE revision > ? AND revision <= ? GROUP BY kind, id)`, revision, upTo)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	was := make(map[lab.Key]lab.Record, len(first))
	for rows.Next() {
		var at int64
		var data sql.RawBytes
		if err := rows.Scan(&at, &data); err != nil {
			return nil, err
		}
		if err := gather(was, first, at, data); err != nil {
			return nil, fmt.Errorf("change %d: %w", at, err)
		}
	}
	return was, rows.Err()
}

// gather decodes what records were before the change that touched them first,
// and of that change just these records.
func gather(was map[lab.Key]lab.Record, first map[lab.Key]int64, at int64, data []byte) error {
	var changes []struct {
		Kind   lab.RecordKind  `json:"kind"`
		Before json.RawMessage `json:"before"`
		After  struct {
			ID lab.ID `json:"id"`
		} `json:"after"`
	}
	if err := json.Unmarshal(data, &changes); err != nil {
		return err
	}
	for _, c := range changes {
		if c.Before == nil {
			if key := (lab.Key{Kind: c.Kind, ID: c.After.ID}); first[key] == at {
				was[key] = nil
			}
			continue
		}
		if c.After.ID != "" && first[lab.Key{Kind: c.Kind, ID: c.After.ID}] != at {
			continue
		}
		r, err := lab.DecodeRecord(c.Kind, c.Before)
		if err != nil {
			return err
		}
		if first[r.Key()] == at {
			was[r.Key()] = r
		}
	}
	return nil
}

func (s *Store) firstChanges(ctx context.Context, revision, upTo int64) (map[lab.Key]int64, error) {
	rows, err := s.reads.QueryContext(
		ctx, "SELECT kind, id, min(revision) FROM logbook_records WHERE revision > ? AND revision <= ? GROUP BY kind, id", revision, upTo)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	first := map[lab.Key]int64{}
	for rows.Next() {
		var key lab.Key
		var at int64
		if err := rows.Scan(&key.Kind, &key.ID, &at); err != nil {
			return nil, err
		}
		first[key] = at
	}
	return first, rows.Err()
}
