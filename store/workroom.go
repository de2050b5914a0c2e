package store

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/gofrs/flock"
)

// A workroom is a directory for what is half done, beside where it is to be. A
// process holds its lock for as long as it works there, so that what a killed one
// left is known by a lock that nobody holds.
type workroom struct {
	dir  string
	lock *flock.Flock
}

// backingUp begins the names of the workrooms of backups.
const backingUp = TempPrefix + "backup-"

// openWorkroom makes one in a directory.
func openWorkroom(in string) (workroom, error) {
	for {
		dir, err := os.MkdirTemp(in, backingUp)
		if err != nil {
			return workroom{}, err
		}
		path := filepath.Join(dir, lockName)
		lock := flock.New(path)
		held, err := lock.TryLock()
		if err == nil && held && has(path) {
			return workroom{dir, lock}, nil
		}
		// Another process has taken it for a leftover before it was locked.
		if err != nil && !errors.Is(err, fs.ErrNotExist) {
			return workroom{}, errors.Join(err, os.RemoveAll(dir))
		}
		if held {
			_ = lock.Unlock() // its file is gone already
		}
	}
}

func (w workroom) path(name string) string { return filepath.Join(w.dir, name) }

func (w workroom) close() error { return errors.Join(os.RemoveAll(w.dir), w.lock.Unlock()) }

// clearWorkrooms removes what killed backups left in a directory. Files are what
// versions before this one left.
func clearWorkrooms(in string) error {
	entries, err := os.ReadDir(in)
	for _, entry := range entries {
		if !strings.HasPrefix(entry.Name(), backingUp) {
			continue
		}
		path := filepath.Join(in, entry.Name())
		if !entry.IsDir() {
			err = errors.Join(err, os.RemoveAll(path))
			continue
		}
		// Also where there is no lock yet: with it, whoever has just made the room sees that it is lost.
		lock := flock.New(filepath.Join(path, lockName))
		held, e := lock.TryLock()
		if held {
			e = errors.Join(os.RemoveAll(path), lock.Unlock())
		}
		if !errors.Is(e, fs.ErrNotExist) {
			err = errors.Join(err, e)
		}
	}
	return err
}
