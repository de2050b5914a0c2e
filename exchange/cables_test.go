package exchange_test

import (
	"bytes"
	"context"
	"encoding/xml"
	"fmt"
	"io"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/demo"
	"levelstaff/exchange"
)

// quarry is the demo lab as its rundowns tell of it.
func quarry(t testing.TB) *lab.Lab {
	t.Helper()
	l, err := demo.House()
	require.NoError(t, err)
	return l
}

func ids() func() lab.ID {
	n := 0
	return func() lab.ID { n++; return lab.ID(fmt.Sprintf("q%06d", n)) }
}

func schedule(t *testing.T, l *lab.Lab) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, exchange.Cables.WriteCSV(&out, l))
	return out.String()
}

func take(t *testing.T, l *lab.Lab, text string) exchange.Sheet {
	t.Helper()
	sheet, err := exchange.Cables.Read(context.Background(), l, []byte(text), exchange.Taking{Guess: true}, ids())
	require.NoError(t, err)
	return sheet
}

func TestACableScheduleComesBackTheSame(t *testing.T) {
	l := quarry(t)
	text := schedule(t, l)
	sheet := take(t, l, text)
	assert.Empty(t, sheet.Changes)
	assert.Zero(t, sheet.Refused)

	// Into the lab without its cables it makes the same ones.
	var out []lab.Change
	for c := range lab.Each[lab.Cable](l) {
		out = append(out, lab.Change{Before: c})
	}
	bare, err := l.Apply(out)
	require.NoError(t, err)
	sheet = take(t, bare, text)
	require.Zero(t, sheet.Refused)
	back, err := bare.Apply(sheet.Changes)
	require.NoError(t, err)
	assert.Equal(t, l.All().Cables, back.All().Cables)

	var book bytes.Buffer
	require.NoError(t, exchange.Cables.WriteXLSX(&book, l))
	assert.Empty(t, take(t, l, book.String()).Changes, "nor does the workbook")
}

func TestASomebodyElsesScheduleIsTakenLineByLine(t *testing.T) {
	l := quarry(t)
	for name, c := range map[string]struct{ text, verb, say string }{
		"a new one, by the words others use":  {"From,To,Length (ft),Cable type,Jacket\ngate/3,lookout/2,6.56,cat6,Gray\n", "new", ""},
		"device and port in columns apart":    {"From device,From port,To device,To port,Length (ft),Type,Color\ngate,port 3,Loft plate,1 rear,6.56,CAT 6,GREY\n", "refused", "Loft plate/1 rear has"},
		"a port written with a space":         {"From,To,Length (ft),Type,Color\ngate 3,core port 23,6.56,CAT 6,Grey\n", "new", ""},
		"one with a label says where it goes": {"label,From,To,Color,Length (ft)\nN-1,gate/3,lookout/2,grey,6.56\n", "new", "gate/3 - lookout/2"},
		"one that is there, columns apart":    {"a,a_port,b,b_port,length_m\ncore,13,gate,2,0.5\n", "changed", "length 0.5 m (was 0.3 m)"},
		"a space, and no such port":           {"a,b\ngate 9,PP1/20\n", "refused", "a: “gate 9” is not a port"},
		"one that is there gets a length":     {"a,b,length_m\ncore/13,gate/2,0.5\n", "changed", "length 0.5 m (was 0.3 m)"},
		"with its ends the other way round":   {"a,b,length_m\ngate/2,core/13,0.5\n", "changed", "length 0.5 m (was 0.3 m)"},
		"one moves by its label":              {"label,b\nPP1.03,PP1/20\n", "changed", "from core/3 - PP1/3 to core/3 - PP1/20"},
		"a port that is taken":                {"a,b\ngate/3,PP1/3\n", "refused", "PP1/3 has “PP1.03” in it already; unplug that first, or swap the two"},
		"a port that is not there":            {"a,b\ngate/9,PP1/20\n", "refused", "“gate” has no port “9”"},
		"a device that is not there":          {"a,b\ngates/3,PP1/20\n", "refused", "a: there is no device called “gates”"},
		"both ends the same":                  {"a,b\ngate/3,gate/3\n", "refused", "both ends are plugged into the same port"},
		"a range, which is no end of a cable": {"a,b\ngate/3-4,PP1/20\n", "refused", "a: gate/3-4 are 2 ports"},
		"a colour nobody has heard of":        {"a,b,colour\ngate/3,PP1/20,blurple\n", "refused", "colour: “blurple” is not a colour known here"},
		"a length below nothing":              {"a,b,length_m\ngate/3,PP1/20,-1\n", "refused", "length_m: a length cannot be negative"},
	} {
		t.Run(name, func(t *testing.T) {
			sheet := take(t, l, c.text)
			require.Len(t, sheet.Rows, 1)
			assert.Equal(t, c.verb, string(sheet.Rows[0].Verb), sheet.Rows[0].Say)
			assert.True(t, strings.HasPrefix(sheet.Rows[0].Say, c.say), sheet.Rows[0].Say)
			if c.verb == "new" {
				is := sheet.Changes[0].After.(lab.Cable)
				assert.Equal(t, lab.Colour("grey"), is.Colour)
				assert.InDelta(t, 2, *is.LengthM, 0.001)
			}
		})
	}
}

func TestTwoLinesMaySwapTheirPorts(t *testing.T) {
	l := quarry(t)
	sheet := take(t, l, "label,a,b\nPP1.03,core/4,PP1/4\nPP1.04,core/3,PP1/3\n")
	assert.Zero(t, sheet.Refused)
	assert.Len(t, sheet.Changes, 2)
}

func TestGraphvizTakesTheWiring(t *testing.T) {
	l := quarry(t)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteDOT(&out, l))
	cmd := exec.Command("dot", "-Tplain")
	cmd.Stdin = &out
	plain, err := cmd.Output()
	require.NoError(t, err, "Debian's graphviz reads it")
	edges, plugged := strings.Count("\n"+string(plain), "\nedge "), 0
	for c := range lab.Each[lab.Cable](l) {
		if c.A != nil || c.B != nil {
			plugged++
		}
	}
	assert.Equal(t, plugged, edges, "an edge for each cable that is plugged in")
	assert.Contains(t, string(plain), "dome switch")
}

func TestTrailsAreDrawn(t *testing.T) {
	l := quarry(t)
	var out bytes.Buffer
	exchange.WriteTrails(&out, cabling.Of(l).Trails())
	words := wellFormed(t, out.Bytes())
	for _, want := range []string{"Loft plate 1", "stairs run", "19.25 m", "not found", "goes no further", "1 Gb/s"} {
		assert.Contains(t, words, want)
	}
}

// wellFormed reads XML to its end and gives the words in it.
func wellFormed(t *testing.T, data []byte) string {
	t.Helper()
	var words strings.Builder
	for dec := xml.NewDecoder(bytes.NewReader(data)); ; {
		token, err := dec.Token()
		if err == io.EOF {
			return words.String()
		}
		require.NoError(t, err)
		if text, ok := token.(xml.CharData); ok {
			words.Write(text)
		}
	}
}

func TestLabelsArePrinted(t *testing.T) {
	l := quarry(t)
	var labels []cabling.Label
	for c := range lab.Each[lab.Cable](l) {
		if c.Label != "" {
			labels = append(labels, cabling.Of(l).LabelOf(c, c.Label+" →"))
		}
	}
	for name, sheet := range map[string]exchange.LabelSheet{
		"flags":           {WideMM: 50, HighMM: 15},
		"wraps with code": {WideMM: 60, HighMM: 25, Wrap: true, Letter: true, Open: "https://lab.example/cabling?cable="},
	} {
		t.Run(name, func(t *testing.T) {
			var pdf bytes.Buffer
			require.NoError(t, exchange.WriteLabelsPDF(&pdf, labels, sheet))
			cmd := exec.Command("pdftotext", "-layout", "-", "-")
			cmd.Stdin = &pdf
			text, err := cmd.Output()
			require.NoError(t, err, "Debian's poppler reads it")
			for _, l := range labels {
				assert.Contains(t, string(text), l.Text)
			}
			var drawn bytes.Buffer
			require.NoError(t, exchange.WriteLabelsSVG(&drawn, labels, sheet))
			assert.Contains(t, wellFormed(t, drawn.Bytes()), "PP1.03 →")
		})
	}
}

// Beside a code there is room for some nine letters; what is longer is broken
// behind its signs. The other half takes it in one line.
func TestALongLabelIsBrokenWhereThereIsACode(t *testing.T) {
	var drawn bytes.Buffer
	label := cabling.Label{Cable: "01a21315-2a58-79ce-ad41-63cf5d3e0246", Text: "core/13→gate/2", A: "core/13", B: "gate/2"}
	require.NoError(t, exchange.WriteLabelsSVG(&drawn, []cabling.Label{label}, exchange.LabelSheet{WideMM: 50, HighMM: 15, Open: "https://lab.example/cabling?cable="}))
	assert.Regexp(t, `(?s)>core/13→</text>.*>gate/2</text>.*>core/13→gate/2</text>.*>core/13</text>.*>gate/2</text>`, drawn.String())
}

func TestLabelsThatCannotBePrinted(t *testing.T) {
	one := []cabling.Label{{Text: "x"}}
	var out bytes.Buffer
	assert.ErrorContains(t, exchange.WriteLabelsPDF(&out, one, exchange.LabelSheet{WideMM: 300, HighMM: 15}), "5 to 190 mm")
	assert.ErrorContains(t, exchange.WriteLabelsPDF(&out, nil, exchange.LabelSheet{WideMM: 50, HighMM: 15}), "no cable to print a label for")
	assert.ErrorContains(t, exchange.WriteLabelsPDF(&out, one, exchange.LabelSheet{WideMM: 50, HighMM: 15, Wrap: true, Open: "https://lab.example/cabling?cable="}), "the code would be too small to be read")
	many := make([]cabling.Label, 500)
	assert.ErrorContains(t, exchange.WriteLabelsSVG(&out, many, exchange.LabelSheet{WideMM: 50, HighMM: 15}), "do not fit on a page")
	assert.NoError(t, exchange.WriteLabelsPDF(&out, many, exchange.LabelSheet{WideMM: 50, HighMM: 15}), "a PDF has pages enough")
}
