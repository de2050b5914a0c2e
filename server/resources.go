package server

import (
	"bytes"
	"encoding/json"
	"strconv"
	"strings"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
)

// resource is the uniform set of routes for a kind of record: list, make,
// get, patch as a JSON merge patch (RFC 7396), delete. They make the same
// changes as /changes does. If-Match with the lab's ETag makes a change go by
// that revision; without it, by the latest.
func (s *Server) resource(k lab.Kind) []route {
	all, one := "/api/v1/"+k.List, "/api/v1/"+k.List+"/:id"
	h := records{s, k.RecordKind}
	return []route{
		{method: fiber.MethodGet, path: all, id: "list" + k.Title + "s", summary: "All " + k.List, out: k.Many, do: h.list, seen: true},
		{method: fiber.MethodPost, path: all, id: "post" + k.Title, summary: "Add one", in: k.One, out: k.One, do: h.make, status: 201,
			seen: true},
		{method: fiber.MethodGet, path: one, id: "get" + k.Title, summary: "One", in: byID{}, out: k.One, do: h.get, seen: true},
		{method: fiber.MethodPatch, path: one, id: "patch" + k.Title, summary: "Change some of its fields; null makes one unknown", in: byID{},
			out: k.One, do: h.patch, seen: true},
		{method: fiber.MethodDelete, path: one, id: "delete" + k.Title, summary: "Remove it", in: byID{}, out: Delta{}, do: h.remove, seen: true},
	}
}

// records answers the routes of one kind of record.
type records struct {
	*Server
	kind lab.RecordKind
}

func (h records) list(c fiber.Ctx) error {
	v, err := h.view(c)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderETag, v.tag())
	return c.JSON(listOf(v.lab.Records(h.kind)))
}

func (h records) key(c fiber.Ctx) lab.Key { return lab.Key{Kind: h.kind, ID: lab.ID(c.Params("id"))} }

func (h records) find(c fiber.Ctx, l *lab.Lab) (lab.Record, error) {
	if r := l.Get(h.key(c)); r != nil {
		return r, nil
	}
	return nil, noSuch(h.kind, lab.ID(c.Params("id")))
}

func (h records) get(c fiber.Ctx) error {
	v, err := h.view(c)
	if err != nil {
		return err
	}
	r, err := h.find(c, v.lab)
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderETag, etag(v.now.Revision))
	return c.JSON(r)
}

// base is the revision in If-Match, or else the latest.
func (h records) base(c fiber.Ctx) (int64, error) {
	match := c.Get(fiber.HeaderIfMatch)
	if match == "" || match == "*" {
		return h.store.Now().Revision, nil
	}
	revision, _, _ := strings.Cut(strings.Trim(match, `"`), "-")
	n, err := strconv.ParseInt(revision, 10, 64)
	if err != nil {
		return 0, problem(fiber.StatusBadRequest, "If-Match takes an ETag of the lab, such as %s.", etag(h.store.Now().Revision))
	}
	return n, nil
}

func (h records) make(c fiber.Ctx) error {
	var fields map[string]json.RawMessage
	if err := decode(c, &fields); err != nil {
		return err
	}
	r, err := recordFrom(h.kind, fields)
	if err != nil {
		return wrongJSON(err)
	}
	c.Status(fiber.StatusCreated)
	c.Set(fiber.HeaderLocation, c.Path()+"/"+string(r.Key().ID))
	return h.put(c, func(l *lab.Lab) (lab.Record, error) {
		if l.Get(r.Key()) != nil {
			return nil, wrongField(fiber.StatusConflict, "id", "There is a %s with the id %q already; leave the id out to get a new one.", h.kind,
				r.Key().ID)
		}
		return r, nil
	})
}

func (h records) patch(c fiber.Ctx) error {
	var patch map[string]any
	if err := decode(c, &patch); err != nil {
		return err
	}
	return h.put(c, func(l *lab.Lab) (lab.Record, error) {
		was, err := h.find(c, l)
		if err != nil {
			return nil, err
		}
		fields, err := fieldsOf(was)
		if err != nil {
			return nil, err
		}
		merged, err := json.Marshal(merge(fields, patch))
		if err != nil {
			return nil, err
		}
		is, err := lab.DecodeRecord(h.kind, merged)
		if err != nil {
			return nil, wrongJSON(err)
		}
		if is.Key() != was.Key() {
			return nil, wrongField(fiber.StatusUnprocessableEntity, "id", "A record keeps its id.")
		}
		return is, nil
	})
}

// put makes a record what build says and answers it.
func (h records) put(c fiber.Ctx, build func(*lab.Lab) (lab.Record, error)) error {
	base, err := h.base(c)
	if err != nil {
		return err
	}
	var r lab.Record
	e, _, err := h.made(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		if r, err = build(l); err != nil {
			return nil, err
		}
		change, ok := l.Put(r)
		if !ok {
			return nil, nil
		}
		return []lab.Change{change}, nil
	})
	if err != nil {
		c.Response().Header.Del(fiber.HeaderLocation)
		return err
	}
	c.Set(fiber.HeaderETag, etag(e.Revision))
	return c.JSON(r)
}

func (h records) remove(c fiber.Ctx) error {
	base, err := h.base(c)
	if err != nil {
		return err
	}
	return h.change(c, base, "", func(l *lab.Lab) ([]lab.Change, error) {
		if _, err := h.find(c, l); err != nil {
			return nil, err
		}
		return l.Removal(h.key(c)), nil
	})
}

// merge applies a JSON merge patch (RFC 7396) to a value and answers what
// becomes of it; an object is changed in place, so that no level is copied.
func merge(target any, patch map[string]any) map[string]any {
	fields, ok := target.(map[string]any)
	if !ok {
		fields = map[string]any{} // what is no object is replaced by one
	}
	for name, value := range patch {
		switch value := value.(type) {
		case nil:
			delete(fields, name)
		case map[string]any:
			fields[name] = merge(fields[name], value)
		default:
			fields[name] = value
		}
	}
	return fields
}

// fieldsOf is a record as merge takes it, its numbers as they are written.
func fieldsOf(r lab.Record) (fields map[string]any, err error) {
	data, err := json.Marshal(r)
	if err != nil {
		return nil, err
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber()
	return fields, dec.Decode(&fields)
}
