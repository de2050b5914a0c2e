package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"
)

// A restore replaces one file by another, and SQLite keeps up to four files for
// each, so that it takes several renames. The first of them gives the new file,
// which is whole and on the disk, a name that says how it goes on; whoever opens
// the directory next finishes what is left of it.

const (
	restoring = "levelstaff-restoring-" // and the moment: the new file, until it is in place
	replaced  = "levelstaff-replaced-"  // and the moment: the old one
	momentary = "20060102-150405"
)

// replace puts a file that is whole in the place of the lab in a directory. kept
// is where the lab that was there is, "" if there was none.
func replace(dir, made string, at time.Time) (kept string, err error) {
	moment := at.Format(momentary)
	next := freeName(filepath.Join(dir, restoring+moment))
	if err := settle(made, next); err != nil {
		return "", err
	}
	return putInPlace(dir, next)
}

// finishRestore finishes a restore that was interrupted, and says so; "" if there
// is none.
func finishRestore(dir string) (said string, err error) {
	left, err := filepath.Glob(filepath.Join(escaped(dir), restoring+"*.db"))
	if err != nil || len(left) == 0 {
		return "", err
	}
	kept, err := putInPlace(dir, left[len(left)-1])
	if err != nil {
		return "", fmt.Errorf("finish the restore that was interrupted: %w", err)
	}
	if kept == "" {
		return "a restore that was interrupted was finished", nil
	}
	return "a restore that was interrupted was finished; what was there before it is in " + kept, nil
}

// escaped is a directory that a pattern takes as it is.
func escaped(dir string) string {
	return strings.NewReplacer(`\`, `\\`, `*`, `\*`, `?`, `\?`, `[`, `\[`).Replace(dir)
}

// putInPlace sets aside what is in the lab's place and gives that to a file which
// is waiting for it. Each step may have been done before.
func putInPlace(dir, next string) (kept string, err error) {
	path := filepath.Join(dir, FileName)
	moment := strings.TrimSuffix(strings.TrimPrefix(filepath.Base(next), restoring), ".db")
	kept = filepath.Join(dir, replaced+moment+".db")
	for _, end := range sidecars {
		if has(path+end) && has(kept+end) { // they are of two labs, not of one
			kept = freeName(filepath.Join(dir, replaced+moment))
			break
		}
	}
	if err := moveAside(path, kept); err != nil {
		return "", fmt.Errorf("keep what is there: %w", err)
	}
	if err := syncDir(dir); err != nil {
		return "", err
	}
	if !isThere(kept) {
		kept = ""
	}
	if err := os.Rename(next, path); err != nil {
		return kept, err
	}
	return kept, syncDir(dir)
}

func has(path string) bool {
	_, err := os.Lstat(path)
	return err == nil
}

// mayBegin refuses to begin an empty lab in a directory that has signs of one: a
// lab that is not where it was is looked for, not begun anew.
func mayBegin(dir string) error {
	if is, err := os.Stat(filepath.Join(dir, FileName)); err == nil && is.Size() > 0 {
		return nil
	} else if err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("look for the lab: %w", err)
	}
	var found []string
	for _, pattern := range []string{replaced + "*.db", beforeUpgrade + "*.db", FileName + "-wal", filepath.Join(BackupDir, "*.db")} {
		files, err := filepath.Glob(filepath.Join(escaped(dir), pattern))
		if err != nil {
			return err
		}
		for _, file := range files {
			if is, err := os.Stat(file); err == nil && is.Size() > 0 {
				found = append(found, strings.TrimPrefix(file, dir+string(filepath.Separator)))
			}
		}
	}
	if len(found) == 0 {
		return nil
	}
	if more := len(found) - mostFound; more > 0 {
		found = append(found[more:], fmt.Sprintf("%d more", more))
	}
	return fmt.Errorf("there is no %s in %s, but what a lab leaves: %s. Put one of these in its place with "+
		"levelstaff restore FILE --data %[2]s, "+
		"or begin an empty lab with levelstaff serve --new --data %[2]s. Nothing was changed", FileName, dir, strings.Join(found, ", "))
}
