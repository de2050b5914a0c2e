package rundown_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// What stands on several lines says the same as on one.
func TestALineGoesOnInTheNext(t *testing.T) {
	whole := "rack \"R\": 24U, 800mm deep\n12-13 server \"anvil\": 710mm deep, 24kg, 2 sockets\n"
	want := rundown.Print(fresh(t, whole))
	for name, text := range map[string]string{
		"after a comma":             "rack \"R\": 24U,\n  800mm deep\n12-13 server \"anvil\": 710mm deep,\n    24kg,\n      2 sockets\n",
		"written by others":         "rack \"R\": 24U,\r\n  800mm deep\r\n12-13 server \"anvil\": 710mm deep,\r\n\t24kg, 2 sockets\r\n",
		"a fact a line":             "rack \"R\":\n  24U\n  800mm deep\n12-13 server \"anvil\":\n    710mm deep\n    24kg\n    2 sockets\n",
		"both":                      "rack \"R\":\n  24U,\n  800mm deep\n12-13 server \"anvil\":\n    710mm deep, 24kg,\n    2 sockets\n",
		"a comma that says nothing": "rack \"R\": 24U, 800mm deep,\n12-13 server \"anvil\": 710mm deep, 24kg, 2 sockets,\n",
	} {
		assert.Equal(t, want, rundown.Print(fresh(t, text)), name)
	}
}

// A comma too many costs nobody a thing of its own.
func TestWhatBeginsAThingIsOnALineOfItsOwn(t *testing.T) {
	for _, next := range []string{
		`bay 1 drive 8TB`, `bay 1-4 drive: 8TB`, `loose 2x fan`, `11 switch "core"`, `11 switch`, `11 air conditioner "chill"`,
		`left power strip "tower"`, `top access point`, `? laptop`, `spare drive: 4TB`, `air conditioner "chill"`, `core/1 - PP1/1 2m yellow`,
		`on "board" hub "lamp"`, `in "Loft" hub`,
	} {
		const head = "12 server \"anvil\": 710mm deep"
		setting := "rack \"R\": 24U\n20 switch \"core\": 8 ports\n19 patch panel \"PP1\": 8 ports\n18 shelf \"board\"\n" +
			"place \"Loft\"\nrack \"R\"\n"
		apart := load(t, lab.New(), setting+head+"\n     "+next+"\n", rundown.Options{All: true})
		comma := load(t, lab.New(), setting+head+",\n     "+next+"\n", rundown.Options{All: true})
		assert.Equal(t, rundown.Print(apart.Lab), rundown.Print(comma.Lab), next)
		assert.Equal(t, said(apart), said(comma), next)
	}
}

func TestAMistakeIsToldWhereItStands(t *testing.T) {
	const text = "rack \"R\": 24U\n12 server \"anvil\": 24kg,   # from the choir\n    7 furlong deep, rented,\n" +
		"    800Q wide  # heavy\n11 swich \"core\"\n"
	p := load(t, lab.New(), text, rundown.Options{All: true})
	lines := strings.Split(text, "\n")
	var wrong []string
	for _, m := range p.Mistakes {
		wrong = append(wrong, fmt.Sprint(m.Line, " ", lines[m.Line-1][m.Column-1:m.EndColumn-1]))
	}
	assert.Equal(t, []string{"3 7 furlong deep", "4 800Q wide", "5 swich"}, wrong)
	require.Len(t, p.Kept, 1)
	assert.Equal(t, rundown.Kept{Line: 3, Column: 21, EndColumn: 27, Text: "rented"}, p.Kept[0])
	assert.Equal(t, p.Lines[2], p.Lines[4], "the last line is about anvil too")
	assert.Equal(t, "from the choir\nheavy", named(t, p.Lab, "anvil").Notes)

	open := load(t, lab.New(), "rack \"R\": 24U,\n   note \"never closed\nplace \"Loft\"", rundown.Options{All: true})
	require.Len(t, open.Mistakes, 1)
	assert.Equal(t, "2:9: the quote that opens here is not closed", strings.Split(open.Mistakes[0].Error(), " (")[0])
	_, read := open.Lab.Named(lab.KindPlace, "Loft")
	assert.True(t, read, "the next line counts")
}

func TestAFactWhoseThingWasTakenOutIsSaidToBeOne(t *testing.T) {
	p := load(t, lab.New(), "rack \"R\": 24U\n12 server \"a\": 24kg\n      8 ports rj45,\n      710mm deep\n", rundown.Options{All: true})
	assert.Equal(t, []string{
		"3:7: this is a fact, and no line above goes on with it (expected a comma at the end of the line above, or this one taken out too)",
		"4:7: this is a fact, and no line above goes on with it (expected a comma at the end of the line above, or this one taken out too)",
	}, said(p))
}

func TestALineIsOnlySoLong(t *testing.T) {
	p := load(t, lab.New(), "place \"Loft\":\n"+strings.Repeat("   remark \"on and on\",\n", 2000), rundown.Options{All: true})
	require.NotEmpty(t, p.Mistakes)
	assert.Contains(t, p.Mistakes[0].Error(), "at most 20000 are allowed")
}

// Nothing but a note makes a line longer than fits.
func TestWhatIsWrittenIsFolded(t *testing.T) {
	folded := false
	parts, err := os.ReadFile("testdata/good/parts.rundown")
	require.NoError(t, err)
	for _, line := range strings.Split(rundown.Print(fresh(t, string(parts))), "\n") {
		said, _, _ := strings.Cut(line, "  # ")
		assert.LessOrEqual(t, len([]rune(said)), 80, line)
		folded = folded || strings.HasSuffix(said, ",")
	}
	assert.True(t, folded)
}
