package rundown

import (
	"errors"

	"levelstaff/core/lab"
)

// yet is a value that depends on more than its phrase: a name that is looked
// for, money in the lab's currency, the units of a rack.
type yet interface {
	in(s setting) (any, error)
}

// waits is a value that is worked out when all of the text is loaded: what it
// names may come further down.
type waits interface {
	yet
	late()
}

// setting is what such values are worked out in.
type setting struct {
	lab  *lab.Lab
	of   lab.Record // that it is said of
	rack lab.ID     // where bare units count; "" for the one that a device is in
	// named finds the record of a kind that goes by a name.
	named func(kind lab.RecordKind, name string) (lab.ID, error)
}

// settingOf is a lab as it stands.
func settingOf(l *lab.Lab, of lab.Record, rack lab.ID) setting {
	return setting{l, of, rack, func(kind lab.RecordKind, name string) (lab.ID, error) { return findNamed(l, kind, name) }}
}

// out works a value out.
func (s setting) out(v any) (any, error) {
	if y, ok := v.(yet); ok {
		return y.in(s)
	}
	return v, nil
}

// findNamed finds the record of a kind that goes by a name. Devices need not
// have names of their own: of several the error says how to tell them apart.
func findNamed(l *lab.Lab, kind lab.RecordKind, name string) (lab.ID, error) {
	if kind == lab.KindDevice {
		return refsOf(l).find(l, name)
	}
	if id, ok := l.Named(kind, name); ok {
		return id, nil
	}
	return "", noneCalled(l, kind, name)
}

// named is the value of a fact that names another record.
type named struct {
	kind lab.RecordKind
	name string
}

func (n named) in(s setting) (any, error) { return s.named(n.kind, n.name) }

// errLeftOut is the error of naming something whose own line has a mistake,
// which is said there.
var errLeftOut = errors.New("its line has a mistake")

// DeviceRef is what a line would call a device, so that DeviceNamed finds it.
func DeviceRef(l *lab.Lab, id lab.ID) string { return refsOf(l).numbered(id) }

// DeviceNamed finds devices of a lab by what a line would call them.
func DeviceNamed(l *lab.Lab) func(name string) (lab.ID, bool) {
	return func(name string) (lab.ID, bool) {
		id, err := findNamed(l, lab.KindDevice, name)
		return id, err == nil
	}
}
