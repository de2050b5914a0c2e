package exchange_test

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
)

const small = `rack "Pantry": 12U
5-6 server "anvil": 24kg, for "the library"
3 left half mini pc "wren": 120mm deep
2 shelf "board": sbc "finch"
? hub "=1+1": note "'quoted, and\nno more"`

// house is the demo lab with plans and notes.
func house(t testing.TB) *lab.Lab {
	t.Helper()
	l := quarry(t)
	var d lab.Device
	for d = range lab.Each[lab.Device](l) {
		break
	}
	moved := d
	moved.At, moved.State = nil, lab.Spare
	price := int64(-4000)
	l, err := l.Apply([]lab.Change{
		{After: lab.Draft{ID: "q", Name: "Quiet", BegunOn: "2026-11-09"}},
		{After: lab.Step{ID: "s", Draft: "q", Order: 1, Changes: []lab.Change{{Before: d, After: moved}}, PriceMinor: &price}},
		{After: lab.Note{ID: "n", Day: "2026-11-23", Text: "dusted <everything> & more"}},
		{After: lab.Acceptance{ID: "a", Finding: "f x", Reason: "known"}},
	})
	require.NoError(t, err)
	return l
}

func TestTheWholeLabGoesOutAndInAsJSON(t *testing.T) {
	l := house(t)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteJSON(&out, l))
	back, err := exchange.ReadJSON(out.Bytes())
	require.NoError(t, err)
	assert.Empty(t, lab.Diff(l, back))
}

var update = flag.Bool("update", false, "write the schemas in docs anew")

func TestThePublishedSchemasAreCurrent(t *testing.T) {
	for published, schema := range map[string]func() ([]byte, error){
		"../docs/lab.schema.json":    exchange.Schema,
		"../docs/sheets.schema.json": exchange.SheetsSchema,
	} {
		text, err := schema()
		require.NoError(t, err)
		if *update {
			require.NoError(t, os.WriteFile(published, append(text, '\n'), 0o644))
		}
		is, err := os.ReadFile(published)
		require.NoError(t, err)
		assert.True(t, string(text)+"\n" == string(is), "%s: go test ./exchange -update writes it again", published)
	}
}

func TestWhatIsWrittenIsWhatTheSchemaSays(t *testing.T) {
	text, err := exchange.Schema()
	require.NoError(t, err)
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	require.NoError(t, err)
	compiler := jsonschema.NewCompiler()
	require.NoError(t, compiler.AddResource("lab.json", doc))
	schema, err := compiler.Compile("lab.json")
	require.NoError(t, err)

	var out bytes.Buffer
	require.NoError(t, exchange.WriteJSON(&out, house(t)))
	is, err := jsonschema.UnmarshalJSON(&out)
	require.NoError(t, err)
	require.NoError(t, schema.Validate(is))
	for _, wrong := range []string{`{}`, `{"format":"levelstaff-lab","version":2}`, `{"format":"levelstaff-lab","version":1,"cats":[]}`,
		`{"format":"levelstaff-lab","version":1,"racks":[{"id":"r","name":"R"}]}`, `{"format":"levelstaff-lab","version":1,"devices":[{"id":"d","state":"happy","device_kind":"hub"}]}`} {
		is, err := jsonschema.UnmarshalJSON(strings.NewReader(wrong))
		require.NoError(t, err)
		assert.Error(t, schema.Validate(is), wrong)
	}
}

func TestDevicesGoOutAndInAsCSV(t *testing.T) {
	l := labtest.From(t, small)
	var out bytes.Buffer
	require.NoError(t, exchange.Devices.WriteCSV(&out, l))
	assert.Contains(t, out.String(), `'=1+1`, "a spreadsheet must not take it for a formula")
	sheet, err := exchange.Devices.Read(context.Background(), l, out.Bytes(), exchange.Taking{}, labtest.IDs(""))
	require.NoError(t, err)
	assert.Empty(t, sheet.Changes)
	for _, row := range sheet.Rows {
		assert.Equal(t, exchange.RowSame, row.Verb, "%+v", row)
	}
	racks := labtest.From(t, `rack "Pantry": 12U`)
	sheet, err = exchange.Devices.Read(context.Background(), racks, out.Bytes(), exchange.Taking{}, labtest.IDs(""))
	require.NoError(t, err)
	require.Zero(t, sheet.Refused, "%+v", sheet.Rows)
	all, err := racks.Apply(sheet.Changes)
	require.NoError(t, err)
	assert.Equal(t, rundown.Print(l), rundown.Print(all), "into another lab with the same rack")
}

func TestWhatALineOfAFileDoes(t *testing.T) {
	l := labtest.From(t, small)
	read := func(text string) (said []string) {
		ids := labtest.IDs("")
		sheet, err := exchange.Devices.Read(context.Background(), l, []byte(text), exchange.Taking{}, func() lab.ID { return "new-" + ids() })
		require.NoError(t, err, text)
		for _, row := range sheet.Rows {
			said = append(said, strings.TrimSpace(fmt.Sprintf("%d %s %s %s", row.Line, row.Verb, row.Title, row.Say)))
		}
		if sheet.Refused > 0 {
			require.Empty(t, sheet.Changes, "all or nothing")
			return
		}
		_, err = l.Apply(sheet.Changes)
		require.NoError(t, err)
		return
	}
	assert.Equal(t, []string{"2 changed anvil weight unknown (was 24 kg)"}, read("Name;Weight\nANVIL;\n"),
		"semicolons, and an empty cell is unknown")
	assert.Equal(t, []string{"2 changed wren depth 120.5 mm (was 120 mm)"}, read("\xef\xbb\xbfname\tdepth\nwren\t120,5\n"),
		"tabs, a mark at the start, a comma for the point")
	assert.Equal(t, []string{"2 changed anvil from Pantry 5-6 to Pantry 2-3", "3 changed board from Pantry 2 to Pantry 5",
		"4 changed wren from Pantry 3 left half to not placed yet"},
		read("name,where\nanvil,\"\"\"Pantry\"\" 2-3\"\nboard,\"\"\"Pantry\"\" 5\"\nwren,?\n"), "things change places")
	assert.Equal(t, []string{"2 new lark at Pantry 9-10", "3 new wren-2 on lark"},
		read("name,kind,where,takes_u\nlark,server,\"\"\"Pantry\"\" 9\",2\nwren-2,mini pc,\"on \"\"lark\"\"\",\n"),
		"what stands on something new")
	assert.Equal(t, []string{"2 changed anvil takes 3U (was 2U)", "3 same wren"}, read("name,takes_u\nanvil,3\nwren,1\n"))
}

// Each file in testdata/refused is refused with what its .want says: the file
// as a whole, or with the number of a line in front.
func TestWhatIsRefusedSaysWhereAndWhy(t *testing.T) {
	files, err := filepath.Glob("testdata/refused/*.*")
	require.NoError(t, err)
	tried := 0
	for _, file := range files {
		ext := filepath.Ext(file)
		if ext == ".want" {
			continue
		}
		tried++
		t.Run(filepath.Base(file), func(t *testing.T) {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			want, err := os.ReadFile(strings.TrimSuffix(file, ext) + ".want")
			require.NoError(t, err)
			said := ""
			if ext == ".json" {
				_, err = exchange.ReadJSON(data)
			} else {
				var sheet exchange.Sheet
				sheet, err = exchange.Devices.Read(context.Background(), labtest.From(t, small), data, exchange.Taking{}, labtest.IDs(""))
				assert.Empty(t, sheet.Changes)
				for _, row := range sheet.Rows {
					if row.Verb == exchange.RowRefused {
						said += fmt.Sprintf("%d: %s\n", row.Line, row.Say)
					}
				}
			}
			if err != nil {
				said = err.Error()
			}
			assert.Contains(t, said, strings.TrimSpace(string(want)))
		})
	}
	assert.Greater(t, tried, 20)
}

func FuzzCSV(f *testing.F) {
	files, _ := filepath.Glob("testdata/refused/*.csv")
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(f, err)
		f.Add(data)
	}
	f.Add([]byte("device,seat,kind\nanvil,1,drive\n"))
	f.Add([]byte("Host;Bay;Capacity (GB)\nanvil;2;8000\n"))
	f.Add([]byte("From,From port,To,Length (ft),Color\nanvil,port 1 rear,core 2,3,Blue\n"))
	l := labtest.From(f, small)
	f.Fuzz(func(t *testing.T, data []byte) {
		for _, of := range []*exchange.Listing{exchange.Devices, exchange.Parts, exchange.Cables} {
			for _, how := range []exchange.Taking{{}, {Guess: true, Kind: "drive"}} {
				takeAndWrite(t, l, of, how, data)
			}
		}
	})
}

// takeAndWrite sees to it that a file is refused and changes nothing, or is
// taken by Apply and comes back the same from what is written then.
func takeAndWrite(t *testing.T, l *lab.Lab, of *exchange.Listing, how exchange.Taking, data []byte) {
	sheet, err := of.Read(context.Background(), l, data, how, labtest.IDs(""))
	if err != nil || sheet.Refused > 0 {
		if len(sheet.Changes) > 0 {
			t.Fatalf("%q is refused and changes something", data)
		}
		return
	}
	next, err := l.Apply(sheet.Changes)
	if err != nil {
		t.Fatalf("%q is taken, and Apply says %v", data, err)
	}
	var out bytes.Buffer
	require.NoError(t, of.WriteCSV(&out, next))
	again, err := of.Read(context.Background(), next, out.Bytes(), exchange.Taking{}, labtest.IDs(""))
	if err != nil || len(again.Changes) > 0 || again.Refused > 0 {
		t.Fatalf("%q is written as\n%s\nwhich reads as %v %+v", data, out.String(), err, again)
	}
}

func FuzzJSON(f *testing.F) {
	files, _ := filepath.Glob("testdata/refused/*.json")
	for _, file := range files {
		data, err := os.ReadFile(file)
		require.NoError(f, err)
		f.Add(data)
	}
	var out bytes.Buffer
	require.NoError(f, exchange.WriteJSON(&out, house(f)))
	f.Add(out.Bytes())
	f.Fuzz(func(t *testing.T, data []byte) {
		l, err := exchange.ReadJSON(data)
		if err != nil {
			return
		}
		var out bytes.Buffer
		require.NoError(t, exchange.WriteJSON(&out, l))
		if !json.Valid(out.Bytes()) {
			t.Fatal("what is written is not JSON")
		}
		again, err := exchange.ReadJSON(out.Bytes())
		require.NoError(t, err)
		if changes := lab.Diff(l, again); len(changes) > 0 {
			t.Fatalf("%v", changes)
		}
	})
}
