package store

import (
	"errors"
	"syscall"
)

// The SQLite result codes that are handled differently, from its list
// (sqlite.org/rescode.html).
const (
	codePerm     = 3
	codeBusy     = 5
	codeLocked   = 6
	codeReadonly = 8
	codeIOErr    = 10
	codeFull     = 13
	codeCantOpen = 14
)

// Unwritable is the error of a change that the disk did not take. Nothing of
// it was kept.
type Unwritable struct {
	Why string
	err error
}

// Error says what to fix.
func (u *Unwritable) Error() string { return u.Why }

// Unwrap is what the disk said.
func (u *Unwritable) Unwrap() error { return u.err }

// Busy is the error of a change that another program did not let through in
// time. Nothing of it was kept.
type Busy struct{ err error }

// Error says who is in the way.
func (b *Busy) Error() string {
	return "another program holds the lab's file and did not let go of it in time; close it there and try again. Nothing was changed"
}

// Unwrap is what SQLite said.
func (b *Busy) Unwrap() error { return b.err }

// notWritable tells what is the matter with the disk, where that is it.
func notWritable(err error) error {
	var said interface {
		error
		Code() int
	}
	if !errors.As(err, &said) {
		return err
	}
	const primary = 0xff // an extended code has the plain one in its low byte
	switch said.Code() & primary {
	case codeFull:
		return &Unwritable{"the disk is full; free some space and try again. Nothing was changed", err}
	case codeBusy, codeLocked:
		return &Busy{err}
	case codeIOErr:
		return &Unwritable{"the disk could not be written (" + said.Error() + "); see whether it is full or failing. Nothing was changed", err}
	case codeReadonly, codeCantOpen, codePerm:
		return &Unwritable{"the data directory cannot be written; give it back its write permission and try again. Nothing was changed", err}
	}
	return err
}

// cannotNow reports whether an error is the disk's, or another program's, and may
// be over later.
func cannotNow(err error) bool {
	var full *Unwritable
	var busy *Busy
	return errors.As(err, &full) || errors.As(err, &busy)
}

// unwritable is the error of a file that could not be made or removed.
func unwritable(err error) error {
	if errors.Is(err, syscall.ENOSPC) {
		return &Unwritable{"the disk is full; free some space and try again. Nothing was changed", err}
	}
	return &Unwritable{"the data directory cannot be written (" + err.Error() + "). Nothing was changed", err}
}
