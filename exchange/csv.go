package exchange

import (
	"bytes"
	"context"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"iter"
	"slices"
	"strings"
	"unicode/utf8"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// WriteCSV writes a line for each device, or part. A text that a spreadsheet would take
// for a formula has an apostrophe put before it; ReadCSV takes it off again.
func (of *Listing) WriteCSV(w io.Writer, l *lab.Lab) error {
	columns := of.written()
	row := make([]string, len(columns))
	return writeCSV(w, func(yield func([]string) bool) {
		for i, c := range columns {
			row[i] = c.name
		}
		if !yield(row) {
			return
		}
		for r := range of.of.Records(l) {
			said := rundown.Saying(l, r)
			for i, c := range columns {
				row[i] = c.write(l, r, said)
			}
			if !yield(row) {
				return
			}
		}
	})
}

// writeCSV writes lines, the first of which names the columns.
func writeCSV(w io.Writer, rows iter.Seq[[]string]) error {
	out := csv.NewWriter(w)
	var err error
	for row := range rows {
		cells := make([]string, len(row))
		for i, text := range row {
			cells[i] = guarded(text)
		}
		err = errors.Join(err, out.Write(cells))
	}
	out.Flush()
	return errors.Join(err, out.Error())
}

const formulaStart = "=+-@\t\r"

func guarded(text string) string {
	if rest := strings.TrimLeft(text, "'"); rest != "" && strings.ContainsRune(formulaStart, rune(rest[0])) {
		return "'" + text
	}
	return text
}

func unguarded(text string) string {
	if rest := strings.TrimLeft(text, "'"); len(rest) < len(text) && rest != "" && strings.ContainsRune(formulaStart, rune(rest[0])) {
		return text[1:]
	}
	return text
}

// Row is what comes of one line of a file of devices.
type Row struct {
	Line  int     `json:"line" required:"true"`
	Title string  `json:"title" required:"true" description:"What the line calls the thing"`
	Verb  RowVerb `json:"verb" required:"true"`
	Say   string  `json:"say,omitempty" description:"What it changes; or why it is refused, and how to fix it"`
	key   lab.Key
}

// RowVerb is what a line does.
type RowVerb string

// A line is about something new, something that it changes, something that it
// leaves as it is, or it cannot be taken.
const (
	RowNew     RowVerb = "new"
	RowChanged RowVerb = "changed"
	RowSame    RowVerb = "same"
	RowRefused RowVerb = "refused"
)

// Enum lists them for the published schema.
func (RowVerb) Enum() []any { return []any{RowNew, RowChanged, RowSame, RowRefused} }

// Sheet is what a file of devices comes to.
type Sheet struct {
	Columns []FileColumn
	Rows    []Row
	Changes []lab.Change // all that it changes, or nothing where a line is refused
	Refused int
}

// RefusedWords says how many lines are refused.
func (s Sheet) RefusedWords() string {
	if s.Refused == 1 {
		return "one line is"
	}
	return fmt.Sprintf("%d lines are", s.Refused)
}

// Read reads a file of devices or parts, a workbook or text: a line of column
// names, then a line for each. Commas, semicolons or tabs may stand between. A
// device or part is known by its id, or else by its name; one that the lab does
// not have is new. A column that is missing, or left out, leaves that fact
// alone, an empty cell makes it unknown. What the lab has and the file has not
// stays. The error is about the file as a whole; what is wrong with a line is
// in its Row, and then nothing is changed. The context's end ends it.
func (of *Listing) Read(ctx context.Context, l *lab.Lab, data []byte, how Taking, newID func() lab.ID) (Sheet, error) {
	t, err := readTable(data)
	if err != nil {
		return Sheet{}, err
	}
	return of.take(ctx, l, t, how, newID)
}

// readTable reads the lines of a workbook, or of text.
func readTable(data []byte) (lines, error) {
	if bytes.HasPrefix(data, []byte("PK\x03\x04")) {
		return readXLSXTable(data)
	}
	return readCSVTable(data)
}

// ReadRows is Read for rows that were typed or pasted, under columns that are
// named by their fields.
func (of *Listing) ReadRows(ctx context.Context, l *lab.Lab, fields []string, rows [][]string, newID func() lab.ID) (Sheet, error) {
	t := lines{comma: ';'}
	for _, field := range fields {
		name := field
		if i := slices.IndexFunc(of.columns, func(c column) bool { return c.field == field }); i >= 0 {
			name = of.columns[i].name
		}
		t.names = append(t.names, name)
	}
	for i, cells := range rows {
		t.rows = append(t.rows, line{i + 1, cells})
	}
	return of.take(ctx, l, t, Taking{}, newID)
}

func (of *Listing) take(ctx context.Context, l *lab.Lab, t lines, how Taking, newID func() lab.ID) (Sheet, error) {
	list, err := t.columns(of, how)
	if err != nil {
		return Sheet{}, err
	}
	s, err := newReader(of, l, list, how, newID).read(ctx, t)
	s.Columns = list
	return s, err
}

type lines struct {
	names []string
	rows  []line
	comma rune
	cells int // in all
}

// add takes a row in, unless there are too many cells by now.
func (t *lines) add(number int, cells []string) error {
	if t.cells += len(cells); t.cells > mostCells {
		return fmt.Errorf("line %d is behind %d million cells, the most that are read at once; split the file, or leave columns out", number,
			mostCells/1_000_000)
	}
	t.rows = append(t.rows, line{number, cells})
	return nil
}

type line struct {
	number int
	cells  []string
}

func readCSVTable(data []byte) (lines, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if bytes.HasPrefix(data, []byte("\xff\xfe")) || bytes.HasPrefix(data, []byte("\xfe\xff")) {
		return lines{}, errors.New("the file is UTF-16; save it as CSV in UTF-8")
	}
	if !utf8.Valid(data) {
		at := 0
		for at < len(data) {
			r, n := utf8.DecodeRune(data[at:])
			if r == utf8.RuneError && n == 1 {
				break
			}
			at += n
		}
		return lines{}, fmt.Errorf("line %d is not UTF-8, so letters such as é would come out wrong; save the file as CSV in UTF-8",
			1+bytes.Count(data[:at], []byte("\n")))
	}
	t := lines{comma: separator(data)}
	in := csv.NewReader(bytes.NewReader(data))
	in.Comma, in.FieldsPerRecord = t.comma, -1
	for {
		cells, err := in.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return lines{}, wrongCSV(err)
		}
		number, _ := in.FieldPos(0)
		switch {
		case len(cells) > mostColumns:
			return lines{}, fmt.Errorf("line %d has %d columns; at most %d are read", number, len(cells), mostColumns)
		case len(t.rows) > mostRows:
			return lines{}, fmt.Errorf("the file has more than %d lines; split it", mostRows)
		}
		if t.names == nil {
			t.names = cells
		} else if strings.Join(cells, "") != "" {
			if err := t.add(number, cells); err != nil {
				return lines{}, err
			}
		}
	}
	if t.names == nil {
		return lines{}, errors.New("the file is empty; its first line should name the columns, such as name,kind,where")
	}
	return t, nil
}

// separator is what stands most often in the first line.
func separator(data []byte) rune {
	first, _, _ := bytes.Cut(data, []byte("\n"))
	return slices.MaxFunc([]rune{';', '\t', ','}, func(a, b rune) int {
		return bytes.Count(first, []byte(string(a))) - bytes.Count(first, []byte(string(b)))
	})
}

func wrongCSV(err error) error {
	var wrong *csv.ParseError
	if !errors.As(err, &wrong) {
		return err
	}
	if errors.Is(wrong.Err, csv.ErrQuote) {
		return fmt.Errorf("the quotes that open in line %d are not closed; the file may have been cut off", wrong.StartLine)
	}
	return fmt.Errorf("line %d: there is a quote inside a cell; write it twice, and the cell in quotes", wrong.Line)
}
