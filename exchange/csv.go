package exchange

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// column is one fact in a file of devices.
type column struct {
	name    string
	title   string
	field   string // the JSON field, as rundown.SetFact takes it
	also    []string
	measure bool // a figure, in which a comma may stand for the point
	write   func(*lab.Lab, lab.Device) string
}

var columns = slices.Concat(plainColumns, factColumns())

// plainColumns are those that files have had from the start.
var plainColumns = []column{
	{"id", "id", "id", nil, false, func(_ *lab.Lab, d lab.Device) string { return string(d.ID) }},
	{"name", "name", "name", nil, false, func(_ *lab.Lab, d lab.Device) string { return d.Name }},
	{"kind", "kind", "device_kind", []string{"device_kind", "type"}, false, func(_ *lab.Lab, d lab.Device) string { return d.Kind.Words() }},
	{"state", "state", "state", nil, false, func(_ *lab.Lab, d lab.Device) string { return string(d.State) }},
	{"where", "where", "at", []string{"at", "place"}, false, func(l *lab.Lab, d lab.Device) string { return rundown.WhereText(l, d, "") }},
	{"purpose", "what it is for", "purpose", []string{"for", "what it is for"}, false, func(_ *lab.Lab, d lab.Device) string { return d.Purpose }},
	{"takes_u", "units it takes", "takes_u", []string{"takes", "units"}, true, func(_ *lab.Lab, d lab.Device) string {
		if d.TakesU == nil {
			return ""
		}
		return strconv.Itoa(*d.TakesU)
	}},
	{"height_mm", "height", "height_mm", []string{"height"}, true, func(_ *lab.Lab, d lab.Device) string { return figure(d.HeightMM) }},
	{"width_mm", "width", "width_mm", []string{"width"}, true, func(_ *lab.Lab, d lab.Device) string { return figure(d.WidthMM) }},
	{"depth_mm", "depth", "depth_mm", []string{"depth"}, true, func(_ *lab.Lab, d lab.Device) string { return figure(d.DepthMM) }},
	{"weight_kg", "weight", "weight_kg", []string{"weight"}, true, func(_ *lab.Lab, d lab.Device) string { return figure(d.WeightKG) }},
	{"notes", "notes", "notes", []string{"note"}, false, func(_ *lab.Lab, d lab.Device) string { return d.Notes }},
}

// factColumns are all further facts of a device, each under its field's name:
// figures in the unit that the name says, others as one types them.
func factColumns() []column {
	var list []column
	for _, f := range rundown.FieldsOf(lab.Device{}) {
		if slices.ContainsFunc(plainColumns, func(c column) bool { return c.field == f.Field }) {
			continue
		}
		field := f.Field
		inUnit := f.Number && unitName.MatchString(field)
		list = append(list, column{field, f.Name, field, []string{strings.ToLower(f.Name)}, inUnit, func(l *lab.Lab, d lab.Device) string {
			said := rundown.Saying(l, d)
			if inUnit {
				return figure(said.Number(field))
			}
			return said.Text(field)
		}})
	}
	return list
}

// unitName matches the fields whose unit is in their name, but for bytes.
var unitName = regexp.MustCompile(`_(mm|kg|w|db|c|slots|bays|leads|needed)$|^sockets$`)

func figure(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'f', -1, 64)
}

// WriteCSV writes a line for each device. A text that a spreadsheet would take
// for a formula has an apostrophe put before it; ReadCSV takes it off again.
func WriteCSV(w io.Writer, l *lab.Lab) error {
	out := csv.NewWriter(w)
	row := make([]string, len(columns))
	for i, c := range columns {
		row[i] = c.name
	}
	err := out.Write(row)
	for d := range l.Devices() {
		for i, c := range columns {
			row[i] = guarded(c.write(l, d))
		}
		err = errors.Join(err, out.Write(row))
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
	Say   string  `json:"say,omitempty" description:"What it changes; or why it is refused, and how to mend it"`
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

// ReadCSV reads a file of devices: a line of column names, then a line for
// each device. Commas, semicolons or tabs may stand between. A device is told
// by its id, or else by its name; one that the lab does not have is new. A
// column that is missing, or left out, leaves that fact alone, an empty cell makes it
// unknown. What the lab has and the file has not stays. The error is about the
// file as a whole; what is wrong with a line is in its Row, and then nothing is
// changed.
func ReadCSV(l *lab.Lab, data []byte, how Taking, newID func() lab.ID) (Sheet, error) {
	t, err := readCSVTable(data)
	if err != nil {
		return Sheet{}, err
	}
	return t.devices(l, how, newID)
}

// devices reads a table whose columns are named.
func (t table) devices(l *lab.Lab, how Taking, newID func() lab.ID) (Sheet, error) {
	list, err := t.columns(how)
	if err != nil {
		return Sheet{}, err
	}
	rd := &reader{lab: l, newID: newID, kind: how.Kind, taken: map[lab.ID]int{}, at: make([]int, len(columns)), units: make([]string, len(columns)), named: map[string][]lab.Device{}}
	for i := range rd.at {
		rd.at[i] = -1
	}
	for i, c := range list {
		if c.Field != "" {
			rd.at[columnNamed(c.Field)], rd.units[columnNamed(c.Field)] = i, c.Unit
		}
	}
	for d := range l.Devices() {
		if d.Name != "" {
			rd.named[lab.FoldName(d.Name)] = append(rd.named[lab.FoldName(d.Name)], d)
		}
	}
	for _, cells := range t.rows {
		rd.row(cells, len(t.names), t.comma)
	}
	rd.place()
	s := rd.sheet()
	s.Columns = list
	return s, nil
}

type table struct {
	names []string
	rows  []line
	comma rune
}

type line struct {
	number int
	cells  []string
}

func readCSVTable(data []byte) (table, error) {
	data = bytes.TrimPrefix(data, []byte("\xef\xbb\xbf"))
	if bytes.HasPrefix(data, []byte("\xff\xfe")) || bytes.HasPrefix(data, []byte("\xfe\xff")) {
		return table{}, errors.New("the file is UTF-16; save it as CSV in UTF-8")
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
		return table{}, fmt.Errorf("line %d is not UTF-8, so letters such as é would come out wrong; save the file as CSV in UTF-8", 1+bytes.Count(data[:at], []byte("\n")))
	}
	t := table{comma: separator(data)}
	in := csv.NewReader(bytes.NewReader(data))
	in.Comma, in.FieldsPerRecord = t.comma, -1
	for {
		cells, err := in.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return table{}, wrongCSV(err)
		}
		number, _ := in.FieldPos(0)
		if t.names == nil {
			t.names = cells
		} else if strings.Join(cells, "") != "" {
			t.rows = append(t.rows, line{number, cells})
		}
	}
	if t.names == nil {
		return table{}, errors.New("the file is empty; its first line should name the columns, such as name,kind,where")
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
		return fmt.Errorf("the quotes that begin in line %d do not end as they should; the file may have been cut off", wrong.StartLine)
	}
	return fmt.Errorf("line %d: there is a quote inside a cell; write it twice, and the cell in quotes", wrong.Line)
}
