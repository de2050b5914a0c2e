package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"levelstaff/core/lab"
)

// A backup, and what is restored from one, is never a copy of a file but a fresh
// file of our own schema with the rows of the other one: a file is data here, and
// nothing that came with it is ever run.

// doors are the tables of what lets people and programs in. What can be fetched
// with a token that only reads must not let anyone in, so that no copy has them.
var doors = []string{"owner", "sessions", "tokens"}

// ownTables are not copied: they tell of the file, not of the lab.
var ownTables = []string{"goose_db_version", "sqlite_sequence"}

// copyLab makes a file with the rows of another one, as they are at one moment
// and without any way in. It has the schema of that file's version. mode is how
// the other one is opened; strict refuses one with another schema, and calls it
// called.
func copyLab(ctx context.Context, from, mode, to string, strict bool, called string) (err error) {
	given, err := connect(from, mode, untrusted...)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, given.Close()) }()
	version, err := versionOf(ctx, given)
	if err != nil {
		return damaged(called, err.Error())
	}
	is, err := schemaOf(ctx, given)
	if err != nil {
		return damaged(called, err.Error())
	}
	if err := blank(to, version); err != nil {
		return err
	}
	made, err := connect(to, "rw", append(untrusted, unhurried...)...)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, made.Close()) }()
	should, err := schemaOf(ctx, made)
	if err != nil {
		return err
	}
	if found := otherwise(is, should); strict && found != "" {
		return fmt.Errorf("%s has %s; a backup has the tables of a lab and nothing else. Give a file that levelstaff backup made", called, found)
	}
	return copyRows(ctx, made, source(from, mode), should)
}

// unhurried is how a file is written that counts only once it is whole, and on the
// disk: see settle.
var unhurried = []string{"synchronous(OFF)", "journal_mode(MEMORY)"}

// untrusted keeps what a file's schema names from being called.
var untrusted = []string{"trusted_schema(OFF)", "cell_size_check(ON)"}

// copyRows fills the tables of a schema with the rows that another file has in
// them, in one transaction.
func copyRows(ctx context.Context, made *sql.DB, from string, schema map[string]object) (err error) {
	if _, err := made.ExecContext(ctx, "ATTACH ? AS given", from); err != nil {
		return err
	}
	tx, err := made.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, tx.Rollback())
		}
	}()
	for name, o := range schema {
		if o.kind != "table" || slices.Contains(doors, name) || slices.Contains(ownTables, name) {
			continue
		}
		columns, err := columnNames(ctx, tx, name)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, fmt.Sprintf("DELETE FROM main.%q", name)); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, fmt.Sprintf("INSERT INTO main.%q (%[2]s) SELECT %[2]s FROM given.%[1]q", name, columns)); err != nil {
			return fmt.Errorf("copy %s: %w", name, err)
		}
	}
	return tx.Commit()
}

func columnNames(ctx context.Context, tx *sql.Tx, table string) (string, error) {
	rows, err := tx.QueryContext(ctx, "SELECT name FROM pragma_table_info(?, 'main')", table)
	if err != nil {
		return "", err
	}
	defer rows.Close()
	var names []string
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return "", err
		}
		names = append(names, fmt.Sprintf("%q", name))
	}
	return strings.Join(names, ", "), rows.Err()
}

// versionOf is the number of the latest migration that a file has.
func versionOf(ctx context.Context, db *sql.DB) (version int64, err error) {
	err = db.QueryRowContext(ctx, "SELECT coalesce(max(version_id), 0) FROM goose_db_version").Scan(&version)
	return version, err
}

// readLogbook makes sure that every entry can be read: one that cannot would
// answer every look at the past, and its undo, with an error.
func (s *Store) readLogbook(ctx context.Context, called string) error {
	rows, err := s.db.QueryContext(ctx, "SELECT revision, at, changes FROM logbook ORDER BY revision")
	if err != nil {
		return err
	}
	defer rows.Close()
	for last := int64(0); rows.Next(); last++ {
		var revision int64
		var at string
		var data sql.RawBytes
		if err := rows.Scan(&revision, &at, &data); err != nil {
			return err
		}
		var changes []lab.Change
		err := json.Unmarshal(data, &changes)
		if err == nil {
			_, err = time.Parse(time.RFC3339Nano, at)
		}
		if err == nil && revision != last+1 {
			err = fmt.Errorf("the one before it is %d", last)
		}
		if err != nil {
			return fmt.Errorf("%s has an entry %d in its logbook that cannot be read (%w); give an older backup", called, revision, err)
		}
	}
	return rows.Err()
}
