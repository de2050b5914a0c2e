package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"strings"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
	"levelstaff/store"
)

// Problem is what a refused request gets: an RFC 9457 problem document.
type Problem struct {
	Type      string          `json:"type" required:"true" description:"about:blank: the status says it"`
	Title     string          `json:"title" required:"true"`
	Status    int             `json:"status" required:"true"`
	Detail    string          `json:"detail" required:"true" description:"What is wrong and how to fix it"`
	Errors    []FieldError    `json:"errors,omitempty" description:"Each field that is in the way"`
	Conflicts []lab.Key       `json:"conflicts,omitempty" description:"Records that someone else changed first"`
	Clashes   []rundown.Clash `json:"clashes,omitempty" description:"What it is about, with both values"`
	Revision  int64           `json:"revision,omitempty" description:"The lab's revision, where the request's was not the latest"`
}

// FieldError is one field that is in the way.
type FieldError struct {
	Field  string   `json:"field" required:"true"`
	Detail string   `json:"detail" required:"true"`
	Record *lab.Key `json:"record,omitempty"`
}

// Error makes a Problem an error.
func (p *Problem) Error() string { return p.Detail }

func problem(status int, format string, args ...any) *Problem {
	return &Problem{Type: "about:blank", Title: http.StatusText(status), Status: status, Detail: fmt.Sprintf(format, args...)}
}

// wrongField is the problem of one field of the request.
func wrongField(status int, field, format string, args ...any) *Problem {
	p := problem(status, format, args...)
	p.Errors = []FieldError{{Field: field, Detail: p.Detail}}
	return p
}

// mostFaults bounds how many faults of one request are reported.
const mostFaults = 50

// shortened keeps the first of n faults, and says how many more there are.
func (p *Problem) shortened(n int) *Problem {
	if n > mostFaults {
		p.Errors = append(p.Errors[:mostFaults:mostFaults], FieldError{Detail: fmt.Sprintf("and %d more", n-mostFaults)})
	}
	return p
}

// problemOf turns what went wrong into what the person who asked can act on.
func problemOf(err error) *Problem {
	var known *Problem
	var refusal *lab.Refusal
	var stale *store.Stale
	var conflict *lab.Conflict
	var http *fiber.Error
	var over *lab.Overtaken
	var none *store.NoSuchRevision
	var unwritable *store.Unwritable
	var busy *store.Busy
	switch {
	case errors.As(err, &known):
		return known
	case errors.As(err, &refusal):
		p := problem(fiber.StatusUnprocessableEntity, "%s", refusal.Error())
		for _, f := range refusal.Faults {
			p.Errors = append(p.Errors, FieldError{f.Field, f.Say, &f.Key})
		}
		return p.shortened(len(p.Errors))
	case errors.As(err, &stale):
		p := clashProblem(stale.Clashes, stale.Error(), stale.Revision)
		p.Conflicts = stale.Records
		p.Errors = []FieldError{{Field: "base_revision", Detail: stale.Error()}}
		return p
	case errors.As(err, &conflict):
		p := problem(fiber.StatusConflict, "Someone else changed this first: %s.", conflict)
		p.Conflicts = []lab.Key{conflict.Key}
		return p
	case errors.As(err, &over):
		p := problem(fiber.StatusConflict, "%s. That stands in the way; take it back first.", text.Capital(over.Error()))
		p.Conflicts = []lab.Key{over.Key}
		return p
	case errors.As(err, &none):
		return problem(fiber.StatusNotFound, "There is no change %d; the latest is %d.", none.Revision, none.Latest)
	case errors.As(err, &unwritable):
		slog.Error("the disk cannot be written", "error", errors.Unwrap(unwritable))
		return problem(fiber.StatusInsufficientStorage, "%s.", text.Capital(unwritable.Why))
	case errors.Is(err, context.DeadlineExceeded):
		return problem(fiber.StatusServiceUnavailable, "This was given up because it took too long, and nothing was changed. Send less at once; "+
			"if it was little, try again in a moment.")
	case errors.As(err, &busy):
		return problem(fiber.StatusServiceUnavailable, "%s.", text.Capital(busy.Error()))
	case errors.Is(err, store.ErrNothing):
		return problem(fiber.StatusConflict, "There is nothing to undo or redo.")
	case errors.As(err, &http):
		return httpProblem(http)
	}
	slog.Error("request failed", "error", err)
	return problem(fiber.StatusInternalServerError, "Something went wrong, and the change was not made. The server's log has the details.")
}

// mostClashes bounds how many clashes one sentence has.
const mostClashes = 3

// clashProblem is the problem of who was second, with both values of each fact
// that it is about; otherwise is what is said where there is none.
func clashProblem(clashes []rundown.Clash, otherwise string, revision int64) *Problem {
	said := []string{}
	for _, c := range clashes[:min(len(clashes), mostClashes)] {
		said = append(said, c.Says)
	}
	if more := len(clashes) - len(said); more > 0 {
		said = append(said, fmt.Sprintf("and %d more", more))
	}
	if len(said) == 0 {
		said = []string{otherwise}
	}
	p := problem(fiber.StatusConflict, "Someone else changed this first: %s. Look at the lab as it is now, then try again.",
		strings.Join(said, "; "))
	p.Clashes, p.Revision = clashes[:min(len(clashes), mostFaults)], revision
	return p
}

func httpProblem(err *fiber.Error) *Problem {
	switch err.Code {
	case fiber.StatusNotFound:
		return problem(err.Code, "There is nothing at this address. /api/v1/openapi.json lists what there is.")
	case fiber.StatusMethodNotAllowed:
		return problem(err.Code, "This address does not take that method. /api/v1/openapi.json lists what it takes.")
	}
	return problem(err.Code, "%s", err.Message)
}

// answerProblem is Fiber's error handler.
func answerProblem(c fiber.Ctx, err error) error {
	p := problemOf(err)
	c.Status(p.Status)
	return c.JSON(p, "application/problem+json")
}

// decode reads a JSON body strictly; what does not fit names its field.
func decode(c fiber.Ctx, into any) error {
	if !strings.HasPrefix(c.Get(fiber.HeaderContentType), fiber.MIMEApplicationJSON) &&
		!strings.HasPrefix(c.Get(fiber.HeaderContentType), mergePatch) {
		return problem(fiber.StatusUnsupportedMediaType, "Send JSON, with the header Content-Type: application/json.")
	}
	body := c.Body()
	if text.Deeper(body, text.JSONDepth) {
		return problem(fiber.StatusBadRequest, "The JSON is nested more than %d levels deep.", text.JSONDepth)
	}
	dec := json.NewDecoder(bytes.NewReader(body))
	dec.DisallowUnknownFields()
	dec.UseNumber() // a number of any length stays what was written
	if err := dec.Decode(into); err != nil {
		return wrongJSON(err)
	}
	if dec.More() {
		return problem(fiber.StatusBadRequest, "There is more than one JSON value in the body; send one.")
	}
	return withinBounds(into)
}

const mergePatch = "application/merge-patch+json"

// wrongJSON says which field of a JSON text does not fit.
func wrongJSON(err error) error {
	var kind *json.UnmarshalTypeError
	var syntax *json.SyntaxError
	if errors.As(err, &kind) && kind.Field != "" {
		return wrongField(fiber.StatusBadRequest, kind.Field, "%s is a %s here; it should be %s.", kind.Field, kind.Value,
			goWords(kind.Type.String()))
	}
	if errors.As(err, &kind) {
		return problem(fiber.StatusBadRequest, "The body is a JSON %s; it should be an object.", kind.Value)
	}
	if errors.As(err, &syntax) {
		return problem(fiber.StatusBadRequest, "The body is not JSON: %s, at byte %d.", syntax, syntax.Offset)
	}
	if field, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		field = strings.Trim(field, `"`)
		return wrongField(fiber.StatusBadRequest, field, "There is no field %s here; remove it, or correct its name.", field)
	}
	return problem(fiber.StatusBadRequest, "The body is not the JSON that goes here: %s.", strings.TrimPrefix(err.Error(), "json: "))
}

// goWords says a Go type in words.
func goWords(t string) string {
	t = strings.TrimPrefix(t, "*")
	switch {
	case strings.HasPrefix(t, "int"), strings.HasPrefix(t, "float"):
		return "a number"
	case t == "bool":
		return "true or false"
	case strings.HasPrefix(t, "[]"):
		return "a list"
	case t == "lab.Spot" || strings.HasPrefix(t, "server.") || strings.HasPrefix(t, "map"):
		return "an object"
	}
	return "a text"
}
