package exchange

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"iter"
	"path"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Bounds of a file: how much of it is read, and what a workbook, its texts and
// each of its parts that is kept in memory may become when they are unpacked.
const (
	mostUnpacked = 128 << 20
	mostTexts    = 16 << 20
	mostInMemory = 1 << 20
	mostCells    = 2_000_000
	mostRows     = 50_000
	mostColumns  = 300
)

// WriteXLSX writes a line for each device, or part, as WriteCSV does, into a workbook
// (Office Open XML, ISO/IEC 29500). Figures are figures there, and texts are
// texts, whatever they begin with.
func (of *Listing) WriteXLSX(w io.Writer, l *lab.Lab) error {
	columns := of.written()
	names := make([]string, len(columns))
	for i, c := range columns {
		names[i] = c.name
	}
	return writeXLSX(w, of.sheet, names, func(yield func([]any) bool) {
		row := make([]any, len(columns))
		for r := range of.of.Records(l) {
			said := rundown.Saying(l, r)
			for i, c := range columns {
				row[i] = cellOf(c, c.write(l, r, said))
			}
			if !yield(row) {
				return
			}
		}
	})
}

// writeTextXLSX writes a workbook whose cells are texts, the first line naming its
// columns.
func writeTextXLSX(w io.Writer, sheet string, rows [][]string) error {
	return writeXLSX(w, sheet, rows[0], func(yield func([]any) bool) {
		for _, row := range rows[1:] {
			cells := make([]any, len(row))
			for i, text := range row {
				cells[i] = text
			}
			if !yield(cells) {
				return
			}
		}
	})
}

// writeXLSX writes a workbook of one sheet whose first line names its columns and
// stays in sight.
func writeXLSX(w io.Writer, sheet string, names []string, rows iter.Seq[[]any]) error {
	book := excelize.NewFile()
	defer book.Close()
	if err := book.SetSheetName("Sheet1", sheet); err != nil {
		return err
	}
	out, err := book.NewStreamWriter(sheet)
	if err != nil {
		return err
	}
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	if err := out.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	head := make([]any, len(names))
	for i, name := range names {
		head[i] = excelize.Cell{StyleID: bold, Value: name}
	}
	if err := out.SetRow("A1", head); err != nil {
		return err
	}
	line := 1
	for row := range rows {
		line++
		if err := out.SetRow("A"+strconv.Itoa(line), row); err != nil {
			return err
		}
	}
	if err := out.Flush(); err != nil {
		return err
	}
	return book.Write(w)
}

func cellOf(c column, text string) any {
	if text == "" {
		return nil
	}
	if c.measure {
		if v, err := strconv.ParseFloat(text, 64); err == nil {
			return v
		}
	}
	return guarded(text)
}

// textsFit refuses a workbook whose shared texts are too large to be looked
// through. What an archive says of a part's size holds: it is not unpacked any
// further.
func textsFit(data []byte) error {
	archive, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil // who reads it says what is wrong
	}
	for _, part := range archive.File {
		if strings.EqualFold(path.Base(part.Name), "sharedStrings.xml") && part.UncompressedSize64 > mostTexts {
			return fmt.Errorf("the workbook's texts are %d MB; %d MB are the most; split it, or save it as CSV",
				part.UncompressedSize64>>20, mostTexts>>20)
		}
	}
	return nil
}

// readXLSXTable reads the first sheet of a workbook.
func readXLSXTable(data []byte) (lines, error) {
	if err := textsFit(data); err != nil {
		return lines{}, err
	}
	book, err := excelize.OpenReader(bytes.NewReader(data),
		excelize.Options{UnzipSizeLimit: mostUnpacked, UnzipXMLSizeLimit: mostInMemory, RawCellValue: true})
	switch {
	case errors.Is(err, excelize.ErrWorkbookFileFormat):
		return lines{}, errors.New("this is not a workbook; save it as XLSX, or as CSV in UTF-8")
	case err != nil:
		return lines{}, fmt.Errorf("the workbook cannot be read: it is damaged, has a password, or is larger than it says (%w)", err)
	}
	defer book.Close()
	sheets := book.GetSheetList()
	if len(sheets) == 0 {
		return lines{}, errors.New("the workbook has no sheet")
	}
	rows, err := book.Rows(sheets[0])
	if err != nil {
		return lines{}, fmt.Errorf("the sheet %q cannot be read: %w", sheets[0], err)
	}
	defer rows.Close()
	t := lines{comma: ';'}
	for number := 1; rows.Next(); number++ {
		if number > mostRows {
			return lines{}, fmt.Errorf("the sheet %q has more than %d rows; split it", sheets[0], mostRows)
		}
		cells, err := rows.Columns()
		if err != nil {
			return lines{}, fmt.Errorf("row %d of the sheet %q cannot be read: %w", number, sheets[0], err)
		}
		if len(cells) > mostColumns {
			return lines{}, fmt.Errorf("row %d has %d columns; at most %d are read", number, len(cells), mostColumns)
		}
		switch {
		case strings.Join(cells, "") == "":
		case t.names == nil:
			t.names = cells
		default:
			for len(cells) < len(t.names) {
				cells = append(cells, "") // empty ones at the end are left out of the file
			}
			if err := t.add(number, cells); err != nil {
				return lines{}, err
			}
		}
	}
	if t.names == nil {
		return lines{}, errors.New("the first sheet is empty; its first row should name the columns, such as name, kind, where")
	}
	return t, nil
}
