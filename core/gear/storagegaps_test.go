package gear_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

func TestTheWalkAsksForPoolsAndCopies(t *testing.T) {
	asks := func(l *lab.Lab) map[string]gear.Gap {
		all := map[string]gear.Gap{}
		for _, g := range gear.GapsOf(l, labtest.Named[lab.Device](t, l, "silo")) {
			all[g.Question] = g
		}
		return all
	}
	const silo = "? nas \"silo\": 8 bays\n  bay 1-4 drive: 4TB\n  bay 6 drive: 1TB\n"
	assert.NotContains(t, asks(labtest.From(t, silo)), "Which pool is what is in the bays 1-4 + 6 of silo in?",
		"where there are no pools at all")
	l := labtest.From(t, silo+"pool \"hold\" on silo: raid 5 of bay 1-3\ndataset \"scores\" on hold: 2TB\ndataset \"play\" on hold: toy\n")
	g := asks(l)["Which pool is what is in the bays 4 + 6 of silo in?"]
	assert.Equal(t, "pool %s", g.Line)
	assert.Equal(t, "hold on silo: mirror of bay 4 + 6", g.Example)
	assert.Equal(t, `copy of "scores" to %s`, asks(l)["Where is scores copied to?"].Line)
	assert.NotContains(t, asks(l), "Where is play copied to?")
	l = labtest.From(t,
		silo+"pool \"hold\" on silo: raid 5 of bay 1-4, cache bay 6\ndataset \"scores\" on hold: 2TB\n"+
			"place \"Attic\"\ncopy of scores to \"Attic\"\n")
	for question := range asks(l) {
		assert.NotContains(t, question, "pool")
		assert.NotContains(t, question, "copied")
	}
}
