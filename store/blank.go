package store

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"sync"
)

// blankLab is a file without records that has today's tables. The migrations that
// make it read the whole schema at every step, so that they run once a process.
var blankLab = sync.OnceValues(func() (data []byte, err error) {
	dir, err := os.MkdirTemp("", TempPrefix)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	path := filepath.Join(dir, FileName)
	if err := migrated(path, newest()); err != nil {
		return nil, err
	}
	return os.ReadFile(path)
})

// migrated makes a file with the tables of a version.
func migrated(path string, version int64) (err error) {
	db, err := connect(path, "rwc", unhurried...)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	provider, err := provider(db)
	if err != nil {
		return err
	}
	_, err = provider.UpTo(context.Background(), version)
	return err
}

// blank makes a file with the tables of a version and no records.
func blank(path string, version int64) error {
	if version != newest() {
		return migrated(path, version)
	}
	data, err := blankLab()
	if err != nil {
		return err
	}
	return os.WriteFile(path, data, 0o600)
}

// begin makes an empty lab in a data directory, whole or not at all.
func begin(dir string) error {
	tmp := filepath.Join(dir, TempPrefix+"new.db")
	if err := blank(tmp, newest()); err != nil {
		return err
	}
	return settle(tmp, filepath.Join(dir, FileName))
}
