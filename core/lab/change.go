package lab

import (
	"encoding/json"
	"slices"
	"sync"
)

// Change is a record's before and after. Without a before the record is new,
// without an after it goes.
type Change struct {
	Before, After Record
}

// Key is the record the change is about.
func (c Change) Key() Key {
	if c.After != nil {
		return c.After.Key()
	}
	return c.Before.Key()
}

// changeJSON is how a change is kept and sent: the kind beside the records.
type changeJSON struct {
	Kind   RecordKind      `json:"kind"`
	Before json.RawMessage `json:"before,omitempty"`
	After  json.RawMessage `json:"after,omitempty"`
}

// JSONSchemaOneOf shows the published schema what MarshalJSON writes.
func (Change) JSONSchemaOneOf() []any {
	return []any{struct {
		Kind   RecordKind     `json:"kind" required:"true"`
		Before map[string]any `json:"before,omitempty"`
		After  map[string]any `json:"after,omitempty"`
	}{}}
}

// MarshalJSON writes {"kind":…,"before":…,"after":…}.
func (c Change) MarshalJSON() ([]byte, error) {
	out := changeJSON{Kind: c.Key().Kind}
	for _, side := range []struct {
		from Record
		to   *json.RawMessage
	}{{c.Before, &out.Before}, {c.After, &out.After}} {
		if side.from == nil {
			continue
		}
		data, err := json.Marshal(side.from)
		if err != nil {
			return nil, err
		}
		*side.to = data
	}
	return json.Marshal(out)
}

// UnmarshalJSON reads what MarshalJSON writes.
func (c *Change) UnmarshalJSON(data []byte) error {
	var in changeJSON
	if err := json.Unmarshal(data, &in); err != nil {
		return err
	}
	*c = Change{}
	for _, side := range []struct {
		from json.RawMessage
		to   *Record
	}{{in.Before, &c.Before}, {in.After, &c.After}} {
		if side.from == nil {
			continue
		}
		r, err := DecodeRecord(in.Kind, side.from)
		if err != nil {
			return err
		}
		*side.to = r
	}
	return nil
}

// Put is the change that makes a record say what r says, and Remove the one
// that takes it out; both read the before from the lab. ok is false where
// there is nothing to change.
func (l *Lab) Put(r Record) (c Change, ok bool) {
	c = Change{Before: l.Get(r.Key()), After: r}
	return c, !Same(c.Before, c.After)
}

// Remove is the change that takes the record out; see Put.
func (l *Lab) Remove(k Key) (c Change, ok bool) {
	c = Change{Before: l.Get(k)}
	return c, c.Before != nil
}

// Apply returns the lab with the changes made, all of them or none. The order
// of the list does not matter for what is allowed: only how the lab stands
// after all of them is checked. The error is a *Conflict where a before is not
// what the lab has, and a *Refusal where a rule would be broken.
func (l *Lab) Apply(changes []Change) (*Lab, error) {
	f := &faults{changed: make(map[Key]bool, len(changes)), checked: make(map[Key]bool, len(changes)), mounted: map[ID][]Device{}, plugged: map[ID]*plugs{}}
	next, err := l.with(changes, f)
	if err != nil {
		return nil, err
	}
	next.checkChanges(changes, f)
	if len(f.list) > 0 {
		return nil, &Refusal{f.list}
	}
	return next, nil
}

// Rewind is Apply for changes that lead to a lab that was there before, and
// was checked then: it looks at nothing but that each before is what the lab
// has.
func (l *Lab) Rewind(changes []Change) (*Lab, error) {
	return l.with(changes, &faults{})
}

// with makes the changes; names that are taken go into the faults.
func (l *Lab) with(changes []Change, f *faults) (*Lab, error) {
	records, users, names := l.records.Txn(), l.users.Txn(), l.names.Txn()
	var named []Key
	for _, c := range changes {
		key := c.Key()
		now, _ := records.Get(key.bytes())
		if !Same(now, c.Before) {
			return nil, &Conflict{Key: key, Now: now}
		}
		if c.Before != nil {
			if c.After == nil {
				records.Delete(key.bytes())
			}
			for _, ref := range c.Before.Refs() {
				if !refersTo(c.After, ref.To) {
					users.Delete(userKey(ref.To, key))
				}
			}
			if n := c.Before.uniqueName(); n != "" {
				if id, _ := names.Get(nameKey(key.Kind, n)); id == key.ID {
					names.Delete(nameKey(key.Kind, n))
				}
			}
		}
		if c.After != nil {
			records.Insert(key.bytes(), c.After)
			for _, ref := range c.After.Refs() {
				users.Insert(userKey(ref.To, key), c.After)
			}
			if c.After.uniqueName() != "" {
				named = append(named, key)
			}
		}
	}
	next := &Lab{records.Commit(), users.Commit(), nil, l.top, &sync.Map{}}
	if s, ok := find[Settings](next, KindLab, SettingsID); ok {
		next.top = s
	}
	for _, key := range named {
		claimName(next, names, f, next.Get(key))
	}
	next.names = names.Commit()
	return next, nil
}

// refersTo reports whether a record, which may be nil, points at another.
func refersTo(r Record, to Key) bool {
	return r != nil && slices.ContainsFunc(r.Refs(), func(ref Ref) bool { return ref.To == to })
}

// claimName notes a unique name, or the fault that somebody else has it.
func claimName(l *Lab, names interface {
	Get([]byte) (ID, bool)
	Insert([]byte, ID) (ID, bool)
}, f *faults, r Record) {
	if r == nil {
		return // came and went in one list
	}
	key := r.Key()
	at := nameKey(key.Kind, r.uniqueName())
	if other, ok := names.Get(at); ok && other != key.ID {
		f.about(r)
		f.add("name", "there is a %s %s already; give one of them another name", key.Kind, quote(l.Get(Key{key.Kind, other}).Title()))
		return
	}
	names.Insert(at, key.ID)
}

// checkChanges finds every fault that the changes brought into the lab.
func (l *Lab) checkChanges(changes []Change, f *faults) {
	for _, c := range changes {
		f.changed[c.Key()] = true
	}
	for _, c := range changes {
		r := l.Get(c.Key())
		if r == nil {
			l.checkGone(c, f)
			continue
		}
		f.about(r)
		before := len(f.list)
		r.check(f)
		for _, ref := range r.Refs() {
			if l.Get(ref.To) == nil {
				f.add(ref.Field, "there is no %s with the id %s", ref.To.Kind, quote(string(ref.To.ID)))
			}
		}
		if len(f.list) == before {
			r.checkIn(l, f)
		}
		f.checked[c.Key()] = true
	}
}

func (l *Lab) checkGone(c Change, f *faults) {
	if c.Before == nil {
		return
	}
	f.about(c.Before)
	if c.Key().Kind == KindLab {
		f.add("id", "the lab's settings cannot be removed")
		return
	}
	var titles []string
	for user := range l.UsersOf(c.Key()) {
		titles = append(titles, quote(user.Title()))
	}
	if len(titles) > 0 {
		f.add("id", "%s still holds %s; move or remove them too", quote(c.Before.Title()), listed(titles))
	}
}

// Invert returns the changes that undo the given ones.
func Invert(changes []Change) []Change {
	undo := make([]Change, 0, len(changes))
	for _, c := range slices.Backward(changes) {
		undo = append(undo, Change{Before: c.After, After: c.Before})
	}
	return undo
}

// Diff returns the changes that lead from one lab to another, in the order in
// which what is referred to comes before what refers.
func Diff(from, to *Lab) []Change {
	var changes []Change
	for _, kind := range Kinds() {
		for r := range to.Records(kind) {
			if c, ok := from.Put(r); ok {
				changes = append(changes, c)
			}
		}
	}
	for _, kind := range slices.Backward(Kinds()) {
		for r := range from.Records(kind) {
			if to.Get(r.Key()) == nil {
				changes = append(changes, Change{Before: r})
			}
		}
	}
	return changes
}

// Removal is Remove with what is nothing without the record: the parts in a
// device and the photos of it. Its cables are unplugged; one that is then
// plugged in nowhere goes too.
func (l *Lab) Removal(k Key) []Change {
	var changes []Change
	for by := range l.UsersOf(k) {
		if c, ok := by.(Cable); ok {
			changes = append(changes, c.without(k))
		} else if kind := by.Key().Kind; k.Kind == KindDevice && (kind == KindPart || kind == KindPhoto) {
			changes = append(changes, Change{Before: by})
		}
	}
	if c, ok := l.Remove(k); ok {
		changes = append(changes, c)
	}
	return changes
}
