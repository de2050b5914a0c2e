package rundown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

func said(p rundown.Plan) []string {
	list := []string{}
	for _, m := range p.Mistakes {
		list = append(list, m.Error())
	}
	return list
}

func TestOfThingsWithOneNameANumberTellsWhich(t *testing.T) {
	base := fresh(t, "rack \"R\": 9U\n9 shelf \"s\"\n7 shelf \"s\"\n5 shelf \"s\"\n")
	for typed, want := range map[string]any{
		`on "s" hub "h"`:     `1:1: 3 devices are called s; write s (1) for the first from the top, and so on`,
		`on "s (2)" hub "h"`: 7,
		`on "s (4)" hub "h"`: `1:1: there is no device called “s (4)”`,
	} {
		for range 20 { // whatever the order of a map
			p := rundown.Load(base, rundown.ParseLine(typed), rundown.Options{NewID: counterFrom("n")})
			if unit, placed := want.(int); placed {
				require.Empty(t, said(p))
				on, _ := lab.Find[lab.Device](p.Lab, named(t, p.Lab, "h").At.Device)
				require.Equal(t, unit, on.At.Unit)
				assert.Equal(t, `on "s (2)"`, rundown.WhereText(p.Lab, named(t, p.Lab, "h"), ""))
			} else {
				require.Equal(t, want, said(p)[0])
			}
		}
	}
}

func counterFrom(prefix lab.ID) func() lab.ID {
	ids := counter()
	return func() lab.ID { return prefix + ids() }
}

func TestALineMayNameWhatComesFurtherDown(t *testing.T) {
	l := fresh(t, "place \"Desk\": in \"Study\"\nplace \"Study\"\non \"board\" hub \"h\"\n? shelf \"board\"\n? server \"x\": sheet "+
		"\"R2\"\nsheet \"R2\": server\nrun \"stairs\": to \"Study\"\n")
	desk, _ := l.Named(lab.KindPlace, "Desk")
	study, _ := l.Named(lab.KindPlace, "Study")
	p, _ := lab.Find[lab.Place](l, desk)
	assert.Equal(t, study, p.In)
	assert.Equal(t, named(t, l, "board").ID, named(t, l, "h").At.Device)
	assert.NotEmpty(t, named(t, l, "x").Sheet)
	assert.Equal(t, []string{"1:1: “a” cannot stand on itself"}, said(load(t, lab.New(), "on \"a\" shelf \"a\"", rundown.Options{All: true})))
}

func TestOneSlipIsOneMistake(t *testing.T) {
	for _, text := range []string{
		"rack \"R\": 9U\n9 swich \"core\": 24 ports rj45\n8 patch panel \"PP1\": 24 ports rj45\ncore/1 - PP1/1\ncore/2-9 - PP1/2-9\n\"core\" slot 1 memory: 8GB\non \"core\" hub \"h\"\n",
		"closet \"Hall\":\n9 switch \"core\": 24 ports rj45\n  slot 1 memory: 8GB\n8 patch panel \"PP1\": 24 ports rj45\ncore/1 - PP1/1\n",
		"rack \"A\": 9U\n9 switch \"a\"\nclosett: 24U\n9 switch \"not in A\"\n8 hub \"nor this\"\n",
		"rack \"R\": 9 banana\n9 switch \"core\": 24 ports rj45\ncore/1 - ?\n",
		"rack \"R\": 90U\n9 switch \"core\": 24 ports rj45\n   hub \"on it\"\ncore/1 - ?\n",
	} {
		assert.Len(t, said(load(t, lab.New(), text, rundown.Options{All: true})), 1, text)
	}
}

func TestALineThatBeginsWithAHeadsWordIsThatLine(t *testing.T) {
	l := fresh(t,
		"run shelf - drawer: 3m\nrack shelf: 9U\n9 rack shelf \"board\"\nsheet fine box: server\nplace server - room\ncabinet \"little\": 6U\n")
	for kind, name := range map[lab.RecordKind]string{lab.KindRun: "shelf - drawer", lab.KindRack: "shelf", lab.KindSheet: "fine box",
		lab.KindPlace: "server - room"} {
		_, ok := l.Named(kind, name)
		assert.True(t, ok, "%s %s", kind, name)
	}
	assert.Equal(t, lab.Shelf, named(t, l, "board").Kind)
	_, ok := l.Named(lab.KindRack, "little")
	assert.True(t, ok, "a cabinet is a rack")
}
