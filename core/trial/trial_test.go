package trial_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/core/trial"
)

func begun(t *testing.T, l *lab.Lab) *lab.Lab {
	t.Helper()
	changes, err := trial.Begin(l)
	require.NoError(t, err)
	next, err := l.Apply(changes)
	require.NoError(t, err)
	return next
}

// done counts the lines that are written.
func done(l *lab.Lab) (n int) {
	for _, line := range trial.Lines(l) {
		if line.Done {
			n++
		}
	}
	return n
}

func TestTheFirstLinesDoWhatTheySay(t *testing.T) {
	l := begun(t, lab.New())
	newID := labtest.IDs("n")
	var did []string
	for i, line := range trial.Lines(l) {
		assert.Equal(t, i, done(l), "those before it are written")
		p := rundown.Load(l, rundown.ParseLine(line.Line), rundown.Options{Rack: trial.Rack, NewID: newID})
		require.Empty(t, p.Mistakes, line.Line)
		assert.Empty(t, p.Kept, line.Line)
		did = append(did, rundown.Label(rundown.Edits(l, p.Lab, p.Changes)))
		l = p.Lab
	}
	assert.Equal(t, []string{
		`mini pc "wren" added at Try-out 7; memory added in wren, loose`,
		"wren: weight 1.2 kg (was unknown), price 140 (was unknown), bought used (was unknown), bought on 2024-03 (was unknown)",
		"middle/4 - wren/1 added",
		"6 added",
		"barn moved from Try-out 5-6 to Try-out 3-4",
	}, did)
	assert.Equal(t, len(did), done(l))
}

func TestItIsThrownAwayWithWhatWasDoneToItAndNoMore(t *testing.T) {
	own := "lab \"Home\"\nplace \"Loft\"\nrack \"Real\": 6U\n6 switch \"core\": 8 ports 1G\n5 server \"box\"\n"
	mine := labtest.From(t, own)
	l := begun(t, mine)
	newID := labtest.IDs("m")
	for _, line := range []string{
		`7 mini pc "wren": 1 port 1G`, `middle/4 - wren 1m`, `core/1 - middle/5`, `core/2 - box`, `rename "cellar" to "attic"`,
		`in "Loft" camera "eye"`, `in "Loft" nas "barn"`, `on "attic" hub "knob"`,
	} {
		p := rundown.Load(l, rundown.ParseLine(line), rundown.Options{Rack: trial.Rack, NewID: newID})
		require.Empty(t, p.Mistakes, line)
		l = p.Lab
	}
	left, err := l.Apply(trial.ThrowAway(l))
	require.NoError(t, err)
	assert.Equal(t, rundown.Print(labtest.From(t, own+"place \"Loft\"\n  camera \"eye\"\ncore/2 - box\n")), rundown.Print(left))
	assert.Empty(t, trial.ThrowAway(left))

	_, err = trial.Begin(l)
	assert.EqualError(t, err, "the made-up rack is there already, as Try-out")
	again := begun(t, left)
	assert.NotNil(t, again.Get(lab.Key{Kind: lab.KindRack, ID: trial.Rack}))

	_, err = trial.Begin(labtest.From(t, "rack \"Try-out\": 6U"))
	assert.EqualError(t, err, "the made-up rack would change Try-out, which is yours")
	_, err = trial.Begin(labtest.From(t, "rack \"R\": 6U\n2 nas \"barn\""))
	assert.EqualError(t, err, "the made-up rack would change barn, which is yours")
}

func TestTheMadeUpRackIsWhole(t *testing.T) {
	l := begun(t, lab.New())
	is, there := lab.Find[lab.Rack](l, trial.Rack)
	require.True(t, there, "it is the first thing of the text")
	assert.Equal(t, "Try-out", is.Name)
	_, err := l.Apply(nil)
	require.NoError(t, err)
}
