package exchange_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
)

func kitted(t *testing.T) *lab.Lab {
	t.Helper()
	text, err := os.ReadFile("../core/rundown/testdata/good/parts.rundown")
	require.NoError(t, err)
	return labtest.From(t, string(text))
}

func workbook(t *testing.T, l *lab.Lab) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, exchange.Devices.WriteXLSX(&out, l))
	return out.Bytes()
}

// Every fact of a device goes into a file and comes back the same.
func TestFilesOfDevicesComeBackTheSame(t *testing.T) {
	l := kitted(t)
	sheet, err := exchange.Devices.Read(context.Background(), l, workbook(t, l), exchange.Taking{}, labtest.IDs("x"))
	require.NoError(t, err)
	for _, r := range sheet.Rows {
		assert.Equal(t, exchange.RowSame, r.Verb, "%s: %s", r.Title, r.Say)
	}
	assert.Empty(t, sheet.Changes)
	var text bytes.Buffer
	require.NoError(t, exchange.Devices.WriteCSV(&text, l))
	sheet, err = exchange.Devices.Read(context.Background(), l, text.Bytes(), exchange.Taking{}, labtest.IDs("x"))
	require.NoError(t, err)
	assert.Empty(t, sheet.Changes)
	assert.Zero(t, sheet.Refused)
}

func TestAWorkbookThatWasEditedIsLoaded(t *testing.T) {
	l := kitted(t)
	book, err := excelize.OpenReader(bytes.NewReader(workbook(t, l)))
	require.NoError(t, err)
	at := func(name, column string) string {
		rows, err := book.GetRows("Devices")
		require.NoError(t, err)
		for y, row := range rows {
			for x, title := range rows[0] {
				if y > 0 && row[1] == name && title == column {
					cell, _ := excelize.CoordinatesToCellName(x+1, y+1)
					return cell
				}
			}
		}
		t.Fatalf("no cell %s of %s", column, name)
		return ""
	}
	set := func(name, column string, value any) {
		require.NoError(t, book.SetCellValue("Devices", at(name, column), value))
	}
	set("anvil", "idle_w", 125.5)
	set("anvil", "warranty_until", "2028-01")
	set("bare", "bays", "12 bays 2.5in nvme")
	var out bytes.Buffer
	require.NoError(t, book.Write(&out))
	sheet, err := exchange.Devices.Read(context.Background(), l, out.Bytes(), exchange.Taking{}, labtest.IDs("x"))
	require.NoError(t, err)
	next, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	id, _ := rundown.DeviceNamed(next)("anvil")
	d, _ := lab.Find[lab.Device](next, id)
	assert.Equal(t, 125.5, *d.IdleW)
	assert.Equal(t, lab.When("2028-01"), d.WarrantyUntil)
	assert.Len(t, sheet.Changes, 2)

	set("anvil", "warranty_until", "31.02.2027")
	out.Reset()
	require.NoError(t, book.Write(&out))
	sheet, err = exchange.Devices.Read(context.Background(), l, out.Bytes(), exchange.Taking{}, labtest.IDs("x"))
	require.NoError(t, err)
	assert.Equal(t, 1, sheet.Refused)
	assert.Empty(t, sheet.Changes, "all or nothing")
}

func TestWorkbooksThatAreNone(t *testing.T) {
	zipped := func(name string, size int) []byte {
		var out bytes.Buffer
		w := zip.NewWriter(&out)
		f, err := w.Create(name)
		require.NoError(t, err)
		for range size {
			_, err = f.Write(bytes.Repeat([]byte{0}, 1<<20))
			require.NoError(t, err)
		}
		require.NoError(t, w.Close())
		return out.Bytes()
	}
	tall := excelize.NewFile()
	stream, err := tall.NewStreamWriter("Sheet1")
	require.NoError(t, err)
	require.NoError(t, stream.SetRow("A1", []any{"name", "kind"}))
	for i := range 50_001 {
		require.NoError(t, stream.SetRow(fmt.Sprintf("A%d", i+2), []any{"x", "hub"}))
	}
	require.NoError(t, stream.Flush())
	var many bytes.Buffer
	require.NoError(t, tall.Write(&many))
	commas := bytes.Repeat([]byte("x"+strings.Repeat(",", 299)+"\n"), 6_668)
	for name, c := range map[string]struct {
		data []byte
		say  string
	}{
		"some other archive":            {zipped("hello.txt", 0), "the workbook cannot be read"},
		"one that is larger than it is": {zipped("xl/workbook.xml", 130), "larger than it says"},
		"half of one":                   {workbook(t, kitted(t))[:2000], "cannot be read"},
		"one that is far too tall":      {many.Bytes(), "more than 50000 rows"},
		"an archive with nothing in it": {[]byte("PK\x03\x04"), "cannot be read"},
		"one with too many texts":       {zipped("xl/sharedStrings.xml", 17), "the workbook's texts are 17 MB; 16 MB are the most"},
		"one of many empty cells":       {commas, "is behind 2 million cells"},
	} {
		_, err := exchange.Devices.Read(context.Background(), lab.New(), c.data, exchange.Taking{}, labtest.IDs("x"))
		assert.ErrorContains(t, err, c.say, name)
	}
}

// LibreOffice, where it is installed, shows what was written.
func TestLibreOfficeReadsTheWorkbook(t *testing.T) {
	office, err := exec.LookPath("soffice")
	if err != nil {
		t.Skip("LibreOffice is not installed")
	}
	dir := t.TempDir()
	file := filepath.Join(dir, "devices.xlsx")
	require.NoError(t, os.WriteFile(file, workbook(t, kitted(t)), 0o600))
	out, err := exec.Command(office, "-env:UserInstallation=file://"+dir+"/profile", "--headless", "--convert-to",
		"csv:Text - txt - csv (StarCalc):44,34,76,1", "--outdir", dir, file).CombinedOutput()
	require.NoError(t, err, string(out))
	text, err := os.ReadFile(filepath.Join(dir, "devices.csv"))
	require.NoError(t, err)
	for _, shown := range []string{"anvil", "£240", "8 bays 2.5in", "2027-03-09"} {
		assert.True(t, strings.Contains(string(text), shown), "%s is not in what LibreOffice shows", shown)
	}
	again, err := exchange.Devices.Read(context.Background(), kitted(t), text, exchange.Taking{}, labtest.IDs("x"))
	require.NoError(t, err)
	assert.Zero(t, again.Refused)
	assert.Empty(t, again.Changes)
}
