package rundown_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// A text is written from a lab in which others go on meanwhile.
func TestWhatOthersChangedMeanwhileStays(t *testing.T) {
	was := fresh(t, "rack \"r\" 12U\n1 server \"anvil\": 20kg\n2 server \"lark\": 5kg\n3 shelf \"low\"\n")
	mine := "rack \"r\" 12U\n1 server \"anvil\": 22kg\n3 shelf \"low\": 2kg\n5 switch \"core\"\n" // lark is gone
	for name, c := range map[string]struct {
		theirs string
		is     string   // what becomes of both
		wrong  []string // what does not go together
	}{
		"nothing":             {"", "anvil 22kg, core, low", nil},
		"something new":       {"7 server \"wren\"", "anvil 22kg, core, low, wren", nil},
		"another fact":        {"server \"anvil\": 300mm deep", "anvil 22kg, core, low", nil},
		"the same fact":       {"server \"anvil\": 25kg", "anvil 25kg, core, low", nil},
		"what was to go":      {"server \"lark\": 6kg", "anvil 22kg, core, lark 6kg, low", []string{"1:1: lark changed meanwhile, so it stays"}},
		"the place of one":    {"5 server \"wren\"", "anvil 22kg, low, wren", []string{"4:1: “core” cannot take 5"}},
		"on what was to stay": {"on \"low\" hub \"bus\"", "anvil 22kg, bus, core, low", nil},
	} {
		t.Run(name, func(t *testing.T) {
			rack, _ := was.Named(lab.KindRack, "r")
			theirs := rundown.Load(was, rundown.ParseLine(c.theirs), rundown.Options{NewID: ids("t"), Rack: rack})
			require.Empty(t, theirs.Mistakes)
			p := load(t, was, mine, rundown.Options{All: true, NewID: ids("m")}).Onto(was, theirs.Lab, "")
			for i, say := range c.wrong {
				require.Greater(t, len(p.Mistakes), i)
				assert.Contains(t, p.Mistakes[i].Error(), say)
			}
			assert.Len(t, p.Mistakes, len(c.wrong))
			assert.Equal(t, c.is, inShort(p.Lab))
			again, err := theirs.Lab.Apply(p.Changes)
			require.NoError(t, err)
			assert.Empty(t, lab.Diff(again, p.Lab), "the changes lead there")
		})
	}
}

// Of a fact that both set the writer is asked, with both values; all else goes on.
func TestAFactThatBothSetIsAQuestion(t *testing.T) {
	was := fresh(t, "rack \"r\" 12U\n1 server \"anvil\": 20kg\n2 server \"lark\"\n")
	theirs := fresh(t, "rack \"r\" 12U\n1 server \"anvil\": 25kg, 700mm deep\n2 server \"lark\"\n")
	text := "rack \"r\" 12U\n1 server \"anvil\": 22kg, 440mm wide\n3 server \"lark\"\n"
	for _, c := range []struct {
		whose rundown.Whose
		is    string
	}{{"", "anvil 25kg, lark"}, {rundown.Theirs, "anvil 25kg, lark"}, {rundown.Mine, "anvil 22kg, lark"}} {
		p := load(t, was, text, rundown.Options{All: true, NewID: ids("m")}).Onto(was, theirs, c.whose)
		assert.Empty(t, p.Mistakes)
		require.Len(t, p.Clashes, 1)
		assert.Equal(t, "anvil: weight is 25kg now, and you wrote 22kg", p.Clashes[0].Says)
		assert.Equal(t, c.is, inShort(p.Lab))
		for d := range lab.Each[lab.Device](p.Lab) {
			if d.Name == "anvil" {
				assert.InDelta(t, 440, *d.WidthMM, 0, "what nobody else said is set all the same")
				assert.InDelta(t, 700, *d.DepthMM, 0)
			} else {
				assert.Equal(t, 3, d.At.Unit)
			}
		}
	}
}

// inShort lists the devices by name, with their weights.
func inShort(l *lab.Lab) string {
	var all []string
	for d := range lab.Each[lab.Device](l) {
		said := d.Name
		if d.WeightKG != nil && d.Name != "low" {
			said += fmt.Sprintf(" %gkg", *d.WeightKG)
		}
		all = append(all, said)
	}
	slices.Sort(all)
	return strings.Join(all, ", ")
}

func TestLinesLeftToMendStandUnderTheirRackOrPlace(t *testing.T) {
	whole := "lab \"x\"\nrack \"Hall\": 12U\n3 swich \"a\"\n4 server \"b\"\n5 serber \"c\": 2U high,\n    24kg\nplace \"Loft\"\n  camra \"d\""
	assert.Equal(t, "\nrack \"Hall\"\n3 swich \"a\"\n5 serber \"c\": 2U high,\n    24kg\n\nplace \"Loft\"\n  camra \"d\"\n",
		load(t, lab.New(), whole, rundown.Options{}).Unread(whole))

	whole = "lab \"x\", currency pounds\nrack \"Hall\": 12Q"
	assert.Equal(t, whole+"\n", load(t, lab.New(), whole, rundown.Options{}).Unread(whole))
	assert.Empty(t, load(t, lab.New(), "rack \"Hall\": 12U", rundown.Options{}).Unread(whole))
}
