package rundown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// An unusual phrase is kept as it was said and comes back; a known word
// misspelt, and a figure nobody can place, are mistakes.
func TestAnUnusualPhraseIsKept(t *testing.T) {
	base := fresh(t, "rack \"R\": 9U, 19in\n9 server \"anvil\": 4kg\n5 switch \"core\": 24 ports rj45\n")
	for line, want := range map[string]string{
		`server "anvil": not bolted`:                            "not bolted",
		`server "anvil": open frame, 5kg, lent by a neighbour`:  "open frame; lent by a neighbour",
		`server "anvil": remark "24 of them", printed mount`:    "24 of them; printed mount",
		`server "anvil": lid "off" in summer`:                   `lid off in summer`,
		`server "anvil": remark "quiet", remark "quiet"`:        "quiet",
		`rack "R": 9U, lids off when it runs`:                   "lids off when it runs",
		`place "Loft": damp in winter`:                          "damp in winter",
		`run "stairs": 18m, behind the skirting`:                "behind the skirting",
		`core/1 - ? 3m yellow, over the door frame`:             "over the door frame",
		`"anvil" bay 1 drive "old": 2TB, makes a ticking noise`: "makes a ticking noise",
	} {
		p := typed(t, base, line)
		require.Empty(t, p.Mistakes, line)
		var found []string
		for _, c := range p.Changes {
			if list := remarksOf(c.After); len(list) > 0 {
				found = append(found, strings.Join(list, "; "))
			}
		}
		assert.Equal(t, []string{want}, found, line)
		again := rundown.Load(lab.New(), rundown.Parse(rundown.Print(p.Lab)), rundown.Options{All: true, NewID: counter()})
		assert.Empty(t, again.Mistakes, rundown.Print(p.Lab))
		assert.Equal(t, rundown.Print(p.Lab), rundown.Print(again.Lab), "what is written reads back")
	}
	for line, say := range map[string]string{
		`server "anvil": faluty`:              "did you mean faulty?",
		`server "anvil": 5 furlong`:           "“furlong” is not a unit",
		`server "anvil": 64 W of light`:       "",
		`core/1 - ? blurple`:                  "did you mean purple?",
		`rack "R": 9U, castrs`:                "",
		`server "anvil": weighs as a feather`: "is not",
	} {
		p := typed(t, base, line)
		require.NotEmpty(t, p.Mistakes, line)
		assert.Contains(t, p.Mistakes[0].Say, say, line)
	}
}

func TestALineAddsARemarkAndAWholeTextHasThemAll(t *testing.T) {
	base := fresh(t, "? server \"anvil\": not bolted\n")
	p := typed(t, base, `server "anvil": rented`)
	anvil := func(l *lab.Lab) []string {
		id, _ := rundown.DeviceNamed(l)("anvil")
		d, _ := lab.Find[lab.Device](l, id)
		return d.Remarks
	}
	assert.Equal(t, []string{"not bolted", "rented"}, anvil(p.Lab))
	whole := rundown.Load(p.Lab, rundown.Parse("? server \"anvil\": rented\n"), rundown.Options{All: true, NewID: counter()})
	assert.Equal(t, []string{"rented"}, anvil(whole.Lab))
}

func remarksOf(r lab.Record) []string {
	switch r := r.(type) {
	case lab.Device:
		return r.Remarks
	case lab.Part:
		return r.Remarks
	case lab.Rack:
		return r.Remarks
	case lab.Place:
		return r.Remarks
	case lab.Run:
		return r.Remarks
	case lab.Cable:
		return r.Remarks
	}
	return nil
}
