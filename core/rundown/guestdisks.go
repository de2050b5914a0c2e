package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// spun is what is said of another record than the line's: the disk of a guest, or a
// share that it mounts by name or address.
type spun struct {
	kind  lab.RecordKind
	share string
	bytes int64
	rest  []text.Token // the pool, or what the mount goes by
}

// diskFact is a disk of a guest: 80GB on vault. It is a dataset, which says so itself.
func diskFact() fact {
	return fact{of: ofGuest, name: "disks", field: "disks", words: []string{"disk", "disks"}, example: "80GB on vault",
		many: true, maybe: true, apart: true,
		matches: func(tokens []text.Token) bool { return diskSize(tokens) > 0 },
		read: func(tokens []text.Token, _ bool) (any, error) {
			n := diskSize(tokens)
			if n == 0 {
				return nil, errors.New("say how large the disk is and on which pool, such as 80GB on vault")
			}
			bytes, err := text.ReadMeasure(tokens[:n], text.Capacity, false)
			if err != nil {
				return nil, err
			}
			on := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("on") || t.Is("in") })
			return spun{kind: lab.KindDataset, bytes: int64(*bytes), rest: slices.Clone(tokens[on+1:])}, nil
		},
		set:  func(box, any) {},
		show: func(*lab.Lab, box) string { return "" }}
}

// diskSize tells how many tokens are the size of a disk before the pool it is on.
func diskSize(tokens []text.Token) int {
	q, n := text.ReadQuantity(tokens)
	if n == 0 || !isIn(text.Capacity)(q) {
		return 0
	}
	at := n
	if at < len(tokens) && (tokens[at].Is("disk") || tokens[at].Is("drive")) {
		at++
	}
	if at+1 < len(tokens) && (tokens[at].Is("on") || tokens[at].Is("in")) {
		return n
	}
	return 0
}

// mounting are those that mount a share besides those that do.
type mounting struct{ severalNamed }

func (mounting) amends() {}

// mountFact is a share that a guest mounts: mounts "bulk".
func mountFact() fact {
	return fact{of: ofGuest, name: "mounts", field: "mounts", words: []string{"mounts", "mounting"}, example: `mounts "bulk"`,
		many: true, maybe: true, apart: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if len(tokens) == 0 || text.IsUnknown(tokens) {
				return nil, errors.New(`name the share, such as mounts "bulk"`)
			}
			is := spun{kind: lab.KindShare}
			if by := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("by") }); by > 0 {
				tokens, is.rest = tokens[:by], slices.Clone(tokens[by:])
			}
			is.share = calledIn(tokens)
			return is, nil
		},
		set:  func(box, any) {},
		show: func(*lab.Lab, box) string { return "" }}
}

// spinOff is what a phrase says of another record, as a line of its own would; ok is
// false where it does not.
func (t *thing) spinOff(s said) (more inLine, ok bool, err error) {
	off, ok := s.value.(spun)
	if !ok {
		return more, false, nil
	}
	name := t.name
	if t.known != nil {
		name = t.known.name
	}
	if name == "" {
		return more, true, fmt.Errorf("give the %s a name first, so that this can be said of it", t.device.Words())
	}
	w := &thing{kind: off.kind, name: cmp.Or(off.share, name+" disk"), file: t.file, line: t.line, col: s.col, end: s.end}
	of := indexes[scope(off.kind)].byField
	say := func(field string, v any) {
		w.said = append(w.said, said{fact: of[field], value: v, col: s.col, end: s.end})
	}
	guest := named{lab.KindDevice, name}
	if off.kind == lab.KindDataset {
		on, err := of["on"].read(off.rest, false)
		if err != nil {
			return more, true, err
		}
		say("on", on)
		say("size_bytes", sizeOn{bytes: &off.bytes})
		say("guest_id", guest)
	} else {
		say("to_device_ids", mounting{severalNamed{guest}})
		if off.rest != nil {
			by, err := of["mounted_by"].read(off.rest, false)
			if err != nil {
				return more, true, err
			}
			say("mounted_by", by)
		}
	}
	return inLine{parts: []*thing{w}}, true, nil
}
