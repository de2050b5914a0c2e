package lab

import (
	"encoding/json"
	"errors"
	"slices"
	"sync"

	iradix "github.com/hashicorp/go-immutable-radix/v2"
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
	if c.Before == nil && c.After == nil {
		return errors.New("a change needs a before or an after")
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
	f := &faults{changed: make(map[Key]bool, len(changes)), checked: make(map[Key]bool, len(changes)), mounted: map[ID][]Device{},
		plugged: map[ID]*plugs{}, seated: map[ID]map[partSeat][]Part{}}
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
	records, users, taken := l.records.Txn(), l.users.Txn(), l.taken.Txn()
	var claims []Key
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
			for _, u := range uniquesOf(c.Before) {
				if id, _ := taken.Get(u.key(key.Kind)); id == key.ID {
					taken.Delete(u.key(key.Kind))
				}
			}
		}
		if c.After != nil {
			records.Insert(key.bytes(), c.After)
			for _, ref := range c.After.Refs() {
				users.Insert(userKey(ref.To, key), c.After)
			}
			if len(uniquesOf(c.After)) > 0 {
				claims = append(claims, key)
			}
		}
	}
	next := &Lab{records.Commit(), users.Commit(), nil, l.top, &sync.Map{}}
	if s, ok := Find[Settings](next, SettingsID); ok {
		next.top = s
	}
	for _, key := range claims {
		next.claim(taken, f, next.Get(key))
	}
	next.taken = taken.Commit()
	return next, nil
}

// refersTo reports whether a record, which may be nil, points at another.
func refersTo(r Record, to Key) bool {
	return r != nil && slices.ContainsFunc(r.Refs(), func(ref Ref) bool { return ref.To == to })
}

// claim notes a record's unique values, or the fault that another one has them.
func (l *Lab) claim(taken *iradix.Txn[ID], f *faults, r Record) {
	if r == nil {
		return // came and went in one list
	}
	key := r.Key()
	for _, u := range uniquesOf(r) {
		if u.Value == "" {
			continue
		}
		at := u.key(key.Kind)
		if other, ok := taken.Get(at); ok && other != key.ID {
			f.about(r)
			f.add(u.Field, "there is %s %s already; give one of them another %s", withArticle(key.Kind.Words()),
				quote(l.Get(Key{key.Kind, other}).Title()), RecordKind(u.Field).Words())
			continue
		}
		taken.Insert(at, key.ID)
	}
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
		if in, ok := r.(interface{ checkIn(*Lab, *faults) }); ok && len(f.list) == before {
			in.checkIn(l, f) // what is wrong with it among the lab's other records
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
		f.add("id", "%s still holds %s; move or remove them too", quote(c.Before.Title()), Listed(titles, 5))
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
	for _, k := range registry {
		for r := range to.Records(k.RecordKind) {
			if c, ok := from.Put(r); ok {
				changes = append(changes, c)
			}
		}
	}
	for _, k := range slices.Backward(registry) {
		for r := range from.Records(k.RecordKind) {
			if to.Get(r.Key()) == nil {
				changes = append(changes, Change{Before: r})
			}
		}
	}
	return changes
}
