package server

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"time"

	"github.com/gofiber/fiber/v3"

	"levelstaff/core/lab"
	"levelstaff/exchange"
)

// file answers a file to keep, named after the lab's day.
func file(c fiber.Ctx, name, kind string, data []byte) error {
	asFile(c, name, kind)
	return c.Send(data)
}

// asFile tells a browser to keep the answer as a file.
func asFile(c fiber.Ctx, name, kind string) {
	c.Set(fiber.HeaderContentType, kind)
	c.Set(fiber.HeaderContentDisposition, fmt.Sprintf(`attachment; filename="%s"`, name))
	c.Set(fiber.HeaderCacheControl, "no-store")
}

type fileQuery struct {
	Share bool `query:"share" description:"Leave private facts out: serial numbers, addresses and what is marked so"`
}

// filed is the lab that goes into a file.
func (s *Server) filed(c fiber.Ctx) (*lab.Lab, error) {
	v, err := s.view(c)
	if err != nil {
		return nil, err
	}
	if c.Query("share") == "true" {
		return lab.WithoutPrivate(v.lab), nil
	}
	return v.lab, nil
}

func (s *Server) saveJSON(c fiber.Ctx) error {
	l, err := s.filed(c)
	if err != nil {
		return err
	}
	var out bytes.Buffer
	if err := exchange.WriteJSON(&out, l); err != nil {
		return err
	}
	return file(c, "lab-"+string(lab.DayOf(time.Now()))+".json", fiber.MIMEApplicationJSON, out.Bytes())
}

func (s *Server) schema(c fiber.Ctx) error {
	return schemaFile(c, exchange.Schema)
}

func schemaFile(c fiber.Ctx, of func() ([]byte, error)) error {
	data, err := of()
	if err != nil {
		return err
	}
	c.Set(fiber.HeaderContentType, "application/schema+json")
	return c.Send(data)
}

// WholeFile is the text of a picked file.
type WholeFile struct {
	Base
	Text   string `json:"text" required:"true" description:"What is in the file"`
	Base64 bool   `json:"base64,omitempty" description:"The text is in base64, as a workbook has to be"`
}

// whole is what is in the file.
func (in WholeFile) whole() (string, error) {
	if !in.Base64 {
		return in.Text, nil
	}
	data, err := base64.StdEncoding.DecodeString(in.Text)
	if err != nil {
		return "", wrongField(fiber.StatusUnprocessableEntity, "text", "The text is not base64: %s.", err)
	}
	return string(data), nil
}

// Import is what loading a file does, or would do.
type Import struct {
	Delta   Delta                 `json:"delta" required:"true" description:"The records as they are then"`
	Rows    []exchange.Row        `json:"rows" required:"true" nullable:"false" description:"What each line would do"`
	Columns []exchange.FileColumn `json:"columns,omitempty" nullable:"false" description:"What each column is read as"`
	Targets []exchange.FileTarget `json:"targets,omitempty" nullable:"false" description:"What they could be taken for"`
}

// jsonChanges is what makes a lab what a file says.
func jsonChanges(l *lab.Lab, text string) ([]lab.Change, error) {
	is, err := exchange.ReadJSON([]byte(text))
	if err != nil {
		return nil, wrongField(fiber.StatusUnprocessableEntity, "text", "Nothing was loaded: %s.", err)
	}
	return lab.Diff(l, is), nil
}

// wholeLab refuses a file that says what the whole lab is, where a draft or the
// past is looked at.
func (s *Server) wholeLab(c fiber.Ctx) error {
	v, err := s.view(c)
	if err == nil && v.Kind != Built {
		err = problem(fiber.StatusConflict, "A JSON file says what the whole lab is. Go back to the lab as built to load one.")
	}
	return err
}

func (s *Server) checkJSON(c fiber.Ctx) error {
	if err := s.wholeLab(c); err != nil {
		return err
	}
	return checkFile(s, c, func(l *lab.Lab, _ WholeFile, text string) (Import, []lab.Change, error) {
		changes, err := jsonChanges(l, text)
		return Import{Rows: []exchange.Row{}}, changes, err
	})
}

func (s *Server) loadJSON(c fiber.Ctx) error {
	if err := s.wholeLab(c); err != nil {
		return err
	}
	return loadFile(s, c, "loaded a lab from JSON", func(l *lab.Lab, _ WholeFile, text string) ([]lab.Change, error) {
		return jsonChanges(l, text)
	})
}

// fileBody is a request's body that holds a file.
type fileBody interface {
	of() (int64, error)
	whole() (string, error)
}

// checkFile answers what reading a file would change.
func checkFile[F fileBody](s *Server, c fiber.Ctx, read func(*lab.Lab, F, string) (Import, []lab.Change, error)) error {
	var in F
	if err := decode(c, &in); err != nil {
		return err
	}
	v, err := s.view(c)
	if err != nil {
		return err
	}
	text, err := in.whole()
	if err != nil {
		return err
	}
	would, changes, err := read(v.lab, in, text)
	if err != nil {
		return err
	}
	after, err := v.lab.Apply(changes)
	if err != nil {
		return err
	}
	would.Delta = deltaOf(v.lab, after, changes)
	would.Delta.Head, would.Delta.View = v.head(), v.View
	return c.JSON(would)
}

func loadFile[F fileBody](s *Server, c fiber.Ctx, label string, read func(*lab.Lab, F, string) ([]lab.Change, error)) error {
	in, base, err := based[F](c)
	if err != nil {
		return err
	}
	text, err := in.whole()
	if err != nil {
		return err
	}
	return s.change(c, base, label, func(l *lab.Lab) ([]lab.Change, error) { return read(l, in, text) })
}
