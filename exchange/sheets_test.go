package exchange_test

import (
	"bytes"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/exchange"
)

func TestSheetsGoFromOneLabToAnother(t *testing.T) {
	generic, err := gear.Generic()
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, exchange.WriteSheets(&out, generic))
	assert.True(t, exchange.IsSheets(out.Bytes()))
	back, err := exchange.ReadSheets(out.Bytes())
	require.NoError(t, err)
	assert.Equal(t, generic, back)

	l := labtest.From(t, `sheet "Fell R28": server, 2U high, 24kg`)
	own := slices.Collect(lab.Each[lab.SpecSheet](l))[0]
	heavier, other := own, lab.SpecSheet{ID: "theirs", Name: "Tarn 8", Kind: "switch"}
	kg := 30.0
	heavier.ID, heavier.WeightKG = "another id", &kg
	next, err := l.Apply(exchange.SheetChanges(l, []lab.SpecSheet{heavier, other}))
	require.NoError(t, err)
	is, ok := lab.Find[lab.SpecSheet](next, own.ID)
	require.True(t, ok, "one of that name is that one")
	assert.InDelta(t, 30, *is.WeightKG, 0)
	_, ok = lab.Find[lab.SpecSheet](next, "theirs")
	assert.True(t, ok)
	assert.Empty(t, exchange.SheetChanges(next, []lab.SpecSheet{is, other}), "once more changes nothing")
}

func TestFilesOfSheetsThatAreRefused(t *testing.T) {
	for text, say := range map[string]string{
		``: "the file is empty",
		`{"format":"levelstaff-lab","version":1}`:                                                                                                        `this is not a file of spec sheets: its format should say "levelstaff-sheets"`,
		`{"format":"levelstaff-sheets","version":2}`:                                                                                                     "it is of version 2",
		`{"format":"levelstaff-sheets","version":1,"racks":[]}`:                                                                                          `there is no "racks" in a file of spec sheets`,
		`{"format":"levelstaff-sheets","version":1,"spec_sheets":{}}`:                                                                                    "spec_sheets should be a list",
		`{"format":"levelstaff-sheets","version":1,"spec_sheets":[{"id":"a","name":"A","device_kind":"toaster"}]}`:                                       "device_kind",
		`{"format":"levelstaff-sheets","version":1,"spec_sheets":[{"id":"a","name":"A","device_kind":"hub","weight_kg":-1}]}`:                            "weight_kg",
		`{"format":"levelstaff-sheets","version":1,"spec_sheets":[{"id":"a","name":"A","device_kind":"hub","colour":1}]}`:                                `spec_sheets[0]: unknown field "colour"`,
		`{"format":"levelstaff-sheets","version":1,"spec_sheets":[{"id":"a","name":"A","device_kind":"hub"},{"id":"b","name":"a","device_kind":"hub"}]}`: "name",
		`{"format":"levelstaff-sheets","version":1,"spec_sheets":[{"id":"a","name":"A","device_kind":"hub"}`:                                             "may have been cut off",
	} {
		_, err := exchange.ReadSheets([]byte(text))
		assert.ErrorContains(t, err, say, text)
	}
	assert.False(t, exchange.IsSheets([]byte(`{"format":"levelstaff-lab"}`)))
}
