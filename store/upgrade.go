package store

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
)

// beforeUpgrade begins the names of what an upgrade keeps: the number of the
// migration that the file had comes behind it.
const beforeUpgrade = "levelstaff-before-"

// mostBefore is how many of them are kept.
const mostBefore = 2

// keepOld copies the lab, as it is, before its first migration, so that the
// program that wrote it can open it again. It says where the copy is.
func keepOld(ctx context.Context, dir string, version int64) (said string, err error) {
	file := filepath.Join(dir, fmt.Sprintf("%s%d.db", beforeUpgrade, version))
	tmp := filepath.Join(dir, TempPrefix+filepath.Base(file))
	defer func() { err = errors.Join(err, removeAll(tmp)) }()
	if err := removeAll(tmp); err != nil {
		return "", err
	}
	db, err := connect(filepath.Join(dir, FileName), "rw", "synchronous(FULL)")
	if err != nil {
		return "", err
	}
	_, err = db.ExecContext(ctx, "VACUUM INTO ?", tmp)
	if err := errors.Join(err, db.Close()); err != nil {
		return "", fmt.Errorf("keep the lab as it was before the upgrade: %w", notWritable(err))
	}
	if err := errors.Join(os.Chmod(tmp, 0o600), settle(tmp, file)); err != nil {
		return "", err
	}
	return fmt.Sprintf(
			"the lab's tables were brought from version %d to version %d; as it was before, it is kept in %s", version, newest(), file),
		forgetOldest(dir)
}

// forgetOldest leaves the latest two of what upgrades kept.
func forgetOldest(dir string) error {
	files, err := filepath.Glob(filepath.Join(escaped(dir), beforeUpgrade+"*.db"))
	if err != nil {
		return err
	}
	numbered := map[string]int{}
	for _, file := range files {
		number := strings.TrimSuffix(strings.TrimPrefix(filepath.Base(file), beforeUpgrade), ".db")
		if n, err := strconv.Atoi(number); err == nil {
			numbered[file] = n
		}
	}
	files = slices.DeleteFunc(files, func(file string) bool { _, ok := numbered[file]; return !ok })
	slices.SortFunc(files, func(a, b string) int { return numbered[a] - numbered[b] })
	for _, old := range files[:max(0, len(files)-mostBefore)] {
		err = errors.Join(err, os.Remove(old))
	}
	return err
}
