package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strconv"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/draft"
	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/store"
)

// Health says that the server is up. What is more than that is for those who
// are signed in.
type Health struct {
	Status   string `json:"status" required:"true"`
	Version  string `json:"version,omitempty"`
	Revision *int64 `json:"revision,omitempty"`
}

// Lab is the whole lab as it is looked at.
type Lab struct {
	Head
	View View `json:"view" required:"true"`
	lab.Records
	Holdings []lab.Holding `json:"holdings,omitempty" description:"What each rack, device and place holds; one that holds nothing is absent"`
}

// Head is which state of the lab an answer is about.
type Head struct {
	Revision int64  `json:"revision" required:"true" description:"The number of the latest change"`
	Undo     string `json:"undo,omitempty" description:"The change that undo would take back"`
	Redo     string `json:"redo,omitempty" description:"The change that redo would make again"`
}

// Delta is what a change did: the records as they are now, and what went.
type Delta struct {
	Head
	View  View   `json:"view" required:"true"`
	Label string `json:"label,omitempty" description:"The change in words"`
	lab.Records
	Removed  []lab.Key      `json:"removed,omitempty"`
	Edits    []rundown.Edit `json:"edits,omitempty"`
	Spaces   []rack.Space   `json:"spaces,omitempty" description:"What is free now in the racks that the change touched"`
	Holdings []lab.Holding  `json:"holdings,omitempty" description:"What is held now where the change put or took something"`
}

// Base is the revision that the maker of a request knows.
type Base struct {
	BaseRevision *int64 `json:"base_revision" required:"true" description:"The revision the request is based on"`
}

// of is the base, which may not be left out.
func (b Base) of() (int64, error) {
	if b.BaseRevision == nil {
		return 0, wrongField(fiber.StatusUnprocessableEntity, "base_revision",
			"Give the revision this is based on in base_revision; GET /api/v1/lab has the latest.")
	}
	return *b.BaseRevision, nil
}

// based reads a body that goes by a revision, and tells which.
func based[T interface{ of() (int64, error) }](c fiber.Ctx) (in T, base int64, err error) {
	if err = decode(c, &in); err == nil {
		base, err = in.of()
	}
	return in, base, err
}

// Changes is a list of records to put and remove.
type Changes struct {
	Base
	Label   string     `json:"label,omitempty" maxLength:"200" description:"The change in words; made from the changes if left out"`
	Changes []ChangeIn `json:"changes" required:"true" nullable:"false" maxItems:"20000"`
}

// ChangeIn is one record to put or remove.
type ChangeIn struct {
	Put    *Put     `json:"put,omitempty"`
	Remove *lab.Key `json:"remove,omitempty"`
}

// Put is a record with its kind beside its fields. Without an id it is new.
type Put struct{ record lab.Record }

// JSONSchemaOneOf lists the shapes a put can have: the fields of each kind of
// record with the kind before them.
func (Put) JSONSchemaOneOf() []any {
	var shapes []any
	for _, k := range lab.Kinds() {
		fields := append([]reflect.StructField{{
			Name: "RecordKind", Type: reflect.TypeFor[string](),
			Tag: reflect.StructTag(fmt.Sprintf(`json:"kind" enum:"%s" required:"true"`, k.RecordKind)),
		}}, flat(k.Type)...)
		shapes = append(shapes, reflect.New(reflect.StructOf(fields)).Elem().Interface())
	}
	return shapes
}

// flat lists the fields of a struct, those of embedded ones among them.
func flat(t reflect.Type) []reflect.StructField {
	return slices.DeleteFunc(reflect.VisibleFields(t), func(f reflect.StructField) bool { return f.Anonymous })
}

// UnmarshalJSON reads the kind and then the record.
func (p *Put) UnmarshalJSON(data []byte) error {
	var fields map[string]json.RawMessage
	if err := json.Unmarshal(data, &fields); err != nil {
		return err
	}
	var kind lab.RecordKind
	if err := json.Unmarshal(fields["kind"], &kind); err != nil {
		return errors.New("a put needs the kind of its record")
	}
	delete(fields, "kind")
	r, err := recordFrom(kind, fields)
	p.record = r
	return err
}

// recordFrom reads a record from its fields, giving it an id if it has none.
func recordFrom(kind lab.RecordKind, fields map[string]json.RawMessage) (lab.Record, error) {
	if fields == nil {
		return nil, errors.New("it should be an object with the record's fields")
	}
	if id, ok := fields["id"]; !ok || string(id) == "null" {
		id, err := json.Marshal(NewID())
		if err != nil {
			return nil, err
		}
		fields["id"] = id
	}
	data, err := json.Marshal(fields)
	if err != nil {
		return nil, err
	}
	return lab.DecodeRecord(kind, data)
}

func (s *Server) health(c fiber.Ctx) error {
	h := Health{Status: "ok"}
	if who, err := s.who(c); err == nil && who.may(c.Method()) {
		revision := s.store.Now().Revision
		h.Version, h.Revision = s.config.Version, &revision
	}
	return c.JSON(h)
}

func (s *Server) document(c fiber.Ctx) error {
	doc, err := s.openapi()
	if err != nil {
		return err
	}
	c.Type("json")
	return c.Send(doc)
}

func etag(revision int64) string { return `"` + strconv.FormatInt(revision, 10) + `"` }

func (s *Server) lab(c fiber.Ctx) error {
	v, err := s.view(c)
	if err != nil {
		return err
	}
	tag := v.tag()
	c.Set(fiber.HeaderETag, tag)
	c.Set(fiber.HeaderCacheControl, "no-cache")
	if c.Get(fiber.HeaderIfNoneMatch) == tag {
		return c.SendStatus(fiber.StatusNotModified)
	}
	return c.JSON(Lab{Head: v.head(), View: v.View, Records: v.lab.All(), Holdings: lab.Holdings(v.lab)})
}

// listOf is a list that is empty rather than null.
func listOf[T any](seq func(func(T) bool)) []T {
	list := slices.Collect(seq)
	if list == nil {
		list = []T{}
	}
	return list
}

func head(now store.Snapshot) Head { return Head{now.Revision, now.Undo, now.Redo} }

type sinceQuery struct {
	Since int64 `query:"since" required:"true" description:"A revision that is known"`
}

// since answers what was changed after a revision, as one delta.
func (s *Server) since(c fiber.Ctx) error {
	since, err := strconv.ParseInt(c.Query("since"), 10, 64)
	now := s.store.Now()
	if err != nil || since < 0 || since > now.Revision {
		return wrongField(fiber.StatusBadRequest, "since", "since is the number of a change, 0 to %d.", now.Revision)
	}
	was, err := s.store.At(c.Context(), since)
	if err != nil {
		return err
	}
	keys, err := s.store.Touched(c.Context(), since)
	if err != nil {
		return err
	}
	var changes []lab.Change
	for _, key := range keys {
		if change := (lab.Change{Before: was.Get(key), After: now.Lab.Get(key)}); !lab.Same(change.Before, change.After) {
			changes = append(changes, change)
		}
	}
	d := deltaOf(was, now.Lab, changes)
	d.Head, d.View = head(now), View{Kind: Built}
	return c.JSON(d)
}

func (s *Server) changes(c fiber.Ctx) error {
	in, base, err := based[Changes](c)
	if err != nil {
		return err
	}
	return s.change(c, base, in.Label, func(l *lab.Lab) ([]lab.Change, error) { return in.on(l) })
}

// on turns what was asked into changes of the lab as it stands. What follows
// from a removal gives way to a put of the same record.
func (in Changes) on(l *lab.Lab) ([]lab.Change, error) {
	var list []lab.Change
	var going []lab.Key
	asked := map[lab.Key]bool{}
	for i, ch := range in.Changes {
		field := fmt.Sprintf("changes[%d]", i)
		if (ch.Put == nil) == (ch.Remove == nil) {
			return nil, wrongField(fiber.StatusUnprocessableEntity, field, "%s needs either a put or a remove.", field)
		}
		key := lab.Key{}
		if ch.Put != nil {
			key = ch.Put.record.Key()
			if c, ok := l.Put(ch.Put.record); ok {
				list = append(list, c)
			}
		} else if key = *ch.Remove; l.Get(key) == nil {
			return nil, wrongField(fiber.StatusUnprocessableEntity, field+".remove.id", "There is no %s with the id %q.", key.Kind, key.ID)
		} else {
			going = append(going, key)
		}
		if asked[key] {
			return nil, wrongField(fiber.StatusUnprocessableEntity, field, "%s %s is in the list twice.", key.Kind, key.ID)
		}
		asked[key] = true
	}
	for _, c := range l.Removal(going...) {
		if key := c.Key(); !asked[key] || slices.Contains(going, key) {
			list = append(list, c)
		}
	}
	return list, nil
}

func (s *Server) undo(c fiber.Ctx) error { return s.turn(c, s.store.Undo) }
func (s *Server) redo(c fiber.Ctx) error { return s.turn(c, s.store.Redo) }

func (s *Server) turn(c fiber.Ctx, do func(context.Context, int64) (store.Entry, error)) error {
	var in Base
	if err := decode(c, &in); err != nil {
		return err
	}
	return s.back(c, in, do)
}

// back answers what going back or forth in the logbook did.
func (s *Server) back(c fiber.Ctx, in Base, do func(context.Context, int64) (store.Entry, error)) error {
	base, err := in.of()
	if err != nil {
		return err
	}
	v, err := s.presentView(c)
	if err != nil {
		return err
	}
	e, err := do(c.Context(), base)
	if err != nil {
		return err
	}
	return c.JSON(s.delta(v, e))
}

type takenBack struct {
	Base
	Revision int64 `json:"revision" required:"true" description:"The change that is to be undone by itself"`
}

func (s *Server) takeBack(c fiber.Ctx) error {
	var in takenBack
	if err := decode(c, &in); err != nil {
		return err
	}
	return s.back(c, in.Base, func(ctx context.Context, base int64) (store.Entry, error) {
		return s.store.TakeBack(ctx, base, in.Revision)
	})
}

type backTo struct {
	Base
	Revision int64 `json:"revision" required:"true" description:"The change after which the lab was as it is to be"`
}

func (s *Server) backTo(c fiber.Ctx) error {
	var in backTo
	if err := decode(c, &in); err != nil {
		return err
	}
	return s.back(c, in.Base, func(ctx context.Context, base int64) (store.Entry, error) {
		return s.store.BackTo(ctx, base, in.Revision)
	})
}

// delta says what a change did in the lab that is looked at.
func (s *Server) delta(v View, e store.Entry) Delta {
	before, after, changes := e.Before, e.After, e.Changes
	if v.Kind == Drafted && after.Get(lab.Key{Kind: lab.KindDraft, ID: v.Draft}) == nil {
		v = View{Kind: Built} // the draft that was looked at is gone with the change
	} else if v.Kind == Drafted {
		before, after = draft.On(before, v.Draft).Lab, draft.On(after, v.Draft).Lab
		changes = lab.Diff(before, after)
	}
	d := deltaOf(before, after, changes)
	d.Label, d.View = e.Label, v
	d.Head = head(s.store.Now())
	d.Revision = e.Revision
	return d
}

// deltaOf sorts changes by what a reader of the lab has to do.
func deltaOf(before, after *lab.Lab, changes []lab.Change) Delta {
	d := Delta{Edits: rundown.Edits(before, after, changes), Holdings: lab.HoldingsAfter(after, changes)}
	touched := map[lab.ID]bool{}
	for _, c := range changes {
		touch(touched, before, c.Before)
		touch(touched, after, c.After)
		if c.After == nil {
			d.Removed = append(d.Removed, c.Key())
			continue
		}
		d.Records.Add(c.After)
		was, ok := c.Before.(lab.Settings)
		if is, also := c.After.(lab.Settings); ok && also && was.Numbering != is.Numbering {
			touchAll(touched, after) // every rail is renumbered
		}
	}
	for _, id := range slices.Sorted(maps.Keys(touched)) {
		if r, ok := lab.Find[lab.Rack](after, id); ok {
			d.Spaces = append(d.Spaces, rack.SpaceOf(after, r))
		}
	}
	return d
}

// touch notes the rack that a record is, or is in.
func touch(touched map[lab.ID]bool, l *lab.Lab, r lab.Record) {
	switch rec := r.(type) {
	case lab.Rack:
		touched[rec.ID] = true
	case lab.Device:
		if in, ok := l.RackOf(rec); ok {
			touched[in.ID] = true
		}
	}
}

func touchAll(touched map[lab.ID]bool, l *lab.Lab) {
	for r := range lab.Each[lab.Rack](l) {
		touched[r.ID] = true
	}
}

// recordOf finds a record of a kind, or says that there is none.
func recordOf[R lab.Record](l *lab.Lab, id lab.ID) (R, error) {
	r, ok := lab.Find[R](l, id)
	if !ok {
		return r, noSuch(r.Key().Kind, id)
	}
	return r, nil
}

func noSuch(kind lab.RecordKind, id lab.ID) error {
	return problem(fiber.StatusNotFound, "There is no %s with the id %q.", kind.Words(), id)
}
