package bench

import (
	"archive/zip"
	"bytes"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"net"
	"net/http"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/demo"
)

// BenchmarkAttacks sends what once took the server's memory or its time, each to
// a server of its own, on the demo's lab or the large one, and tells what it takes now: in seconds,
// and in megabytes at rest and at most.
func BenchmarkAttacks(b *testing.B) {
	house, err := demo.House()
	require.NoError(b, err)
	for _, a := range []struct {
		name  string
		large bool
		do    func(b *testing.B, url string)
	}{
		{"30UnfinishedBodies", false, unfinished},
		{"NestedJSON", false, nested},
		{"3900ThingsInOneUnit", false, func(b *testing.B, url string) {
			loadText(b, url, "rack \"q\" 42U\n"+each(3900, func(i int) string { return fmt.Sprintf("1 server \"s%d\"\n", i) }))
		}},
		{"1500PartsOnLines", false, func(b *testing.B, url string) {
			loadText(b, url, "rack \"q\" 42U\n1 server \"a\"\n"+strings.Repeat("a: 1x 8TB hdd\n", 1500))
		}},
		{"512DrivesIn16Devices", false, func(b *testing.B, url string) {
			loadText(b, url, "rack \"q\" 42U\n"+each(16, func(i int) string { return fmt.Sprintf("%d server \"a%d\": 512x 8TB hdd\n", i+1, i) }))
		}},
		{"LabelPatternOf600KB", false, func(b *testing.B, url string) {
			body, err := json.Marshal(map[string]any{"base_revision": 1, "all": true, "pattern": strings.Repeat("{a}", 200_000)})
			require.NoError(b, err)
			posted(b, url+"/api/v1/labels/check", "application/json", body)
		}},
		{"WorkbookOf54MBTexts", false, workbook},
		{"PhotoOf65Megapixels", false, photo},
		{"ColumnAThousandTimes", true, func(b *testing.B, url string) {
			res, err := http.Get(url + "/api/v1/tables/devices?columns=" + strings.TrimSuffix(strings.Repeat("notes,", 1000), ","))
			require.NoError(b, err)
			_, err = io.Copy(io.Discard, res.Body)
			require.NoError(b, err)
			require.NoError(b, res.Body.Close())
		}},
	} {
		b.Run(a.name, func(b *testing.B) {
			var rest, most, took float64
			for range b.N {
				l := house
				if a.large {
					l = large(b)
				}
				url, pid := served(b, l)
				ask(b, url+"/healthz")
				rest = megabytes(b, pid, "VmRSS")
				from := time.Now()
				a.do(b, url)
				took = time.Since(from).Seconds()
				most = megabytes(b, pid, "VmHWM")
			}
			b.ReportMetric(0, "ns/op") // which counts its start
			b.ReportMetric(took, "s")
			b.ReportMetric(rest, "MB-rest")
			b.ReportMetric(most, "MB-most")
		})
	}
}

// posted sends a body and reads the answer, whatever it is.
func posted(b *testing.B, url, kind string, body []byte) {
	b.Helper()
	client := http.Client{Timeout: 5 * time.Minute}
	res, err := client.Post(url, kind, bytes.NewReader(body))
	if err != nil {
		return // hung up on
	}
	defer res.Body.Close()
	_, _ = io.Copy(io.Discard, res.Body)
}

func loadText(b *testing.B, url, text string) {
	b.Helper()
	body, err := json.Marshal(map[string]any{"base_revision": 1, "text": text})
	require.NoError(b, err)
	posted(b, url+"/api/v1/rundown/check", "application/json", body)
}

func unfinished(b *testing.B, url string) {
	address := strings.TrimPrefix(url, "http://")
	var group sync.WaitGroup
	for range 30 {
		conn, err := net.Dial("tcp", address)
		require.NoError(b, err)
		b.Cleanup(func() { conn.Close() })
		group.Go(func() {
			fmt.Fprintf(conn, "POST /api/v1/devices/x/photos HTTP/1.1\r\nHost: %s\r\nContent-Type: image/png\r\nContent-Length: %d\r\n\r\n",
				address, 24<<20)
			for range 23 {
				if _, err := conn.Write(make([]byte, 1<<20)); err != nil {
					return // refused
				}
			}
		})
	}
	group.Wait()
}

func nested(b *testing.B, url string) {
	const levels = 9_900
	req, err := http.NewRequest(http.MethodPatch, firstDevice(b, url), strings.NewReader(strings.Repeat(`{"a":`, levels)+
		`"`+strings.Repeat("x", 700_000)+`"`+strings.Repeat("}", levels)))
	require.NoError(b, err)
	req.Header.Set("Content-Type", "application/json")
	client := http.Client{Timeout: 5 * time.Minute}
	res, err := client.Do(req)
	require.NoError(b, err)
	require.NoError(b, res.Body.Close())
}

// workbook is a small file whose texts are large.
func workbook(b *testing.B, url string) {
	var file bytes.Buffer
	w := zip.NewWriter(&file)
	for name, text := range map[string]string{
		"[Content_Types].xml": `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">` +
			`<Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>`,
		"_rels/.rels": `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="a" ` +
			`Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
		"xl/workbook.xml": `<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" ` +
			`xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="s" sheetId="1" r:id="b"/></sheets></workbook>`,
		"xl/_rels/workbook.xml.rels": `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="b" ` +
			`Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
		"xl/worksheets/sheet1.xml": `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1">` +
			`<c r="A1" t="s"><v>0</v></c></row></sheetData></worksheet>`,
		"xl/sharedStrings.xml": `<sst xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">` +
			strings.Repeat("<si><t>a</t></si>", 3_200_000) + `</sst>`,
	} {
		part, err := w.Create(name)
		require.NoError(b, err)
		_, err = io.WriteString(part, text)
		require.NoError(b, err)
	}
	require.NoError(b, w.Close())
	body, err := json.Marshal(map[string]any{"base_revision": 1, "base64": true, "text": base64.StdEncoding.EncodeToString(file.Bytes())})
	require.NoError(b, err)
	b.ReportMetric(float64(file.Len()>>10), "KB-sent")
	posted(b, url+"/api/v1/files/devices.xlsx/check", "application/json", body)
}

func photo(b *testing.B, url string) {
	var file bytes.Buffer
	require.NoError(b, jpeg.Encode(&file, image.NewYCbCr(image.Rect(0, 0, 8100, 8000), image.YCbCrSubsampleRatio420), nil))
	b.ReportMetric(float64(file.Len()>>10), "KB-sent")
	posted(b, firstDevice(b, url)+"/photos", "image/jpeg", file.Bytes())
}

// firstDevice is the address of one of the lab's.
func firstDevice(b *testing.B, url string) string {
	var list []lab.Device
	require.NoError(b, json.Unmarshal(ask(b, url+"/api/v1/devices"), &list))
	return url + "/api/v1/devices/" + string(list[0].ID)
}
