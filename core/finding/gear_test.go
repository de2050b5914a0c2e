package finding_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/finding"
	"levelstaff/core/labtest"
)

// noticed are the findings of a rundown that say these words.
func noticed(t *testing.T, text, words string) []finding.Finding {
	t.Helper()
	var list []finding.Finding
	for _, f := range finding.All(labtest.From(t, text), "2026-11-23") {
		if strings.Contains(f.Say, words) {
			list = append(list, f)
		}
	}
	return list
}

func TestShelvesThatCarryTooMuch(t *testing.T) {
	const shelf = "rack \"R\": 12U\n5 shelf \"board\": holds 10kg:\n"
	assert.Empty(t, noticed(t, shelf+"    nas \"a\": 6kg\n    nas \"b\": 4kg\n", "board carries"), "10 of 10 kg")
	over := noticed(t, shelf+"    nas \"a\": 6kg\n    nas \"b\": 4.5kg\n", "board carries")
	if assert.Len(t, over, 1) {
		assert.Equal(t, "board carries 10.5 kg and is rated for 10 kg.", over[0].Say)
		assert.Equal(t, finding.Act, over[0].Level)
	}
	least := noticed(t, shelf+"    nas \"a\": 11kg\n    nas \"b\"\n", "board carries")
	if assert.Len(t, least, 1) {
		assert.Contains(t, least[0].Say, "at least 11 kg", "b was not weighed")
	}
	assert.Empty(t, noticed(t, shelf+"    nas \"a\"\n", "board carries"), "nobody knows")
	assert.Empty(t, noticed(t, "rack \"R\": 12U\n5 shelf \"board\":\n    nas \"a\": 99kg\n", "board carries"), "what it holds is not known")
}

func TestThingsThatDoNotGoTogether(t *testing.T) {
	sure := noticed(t, "rack \"R\": 12U\n5 server \"anvil\": 2 bays 2.5in sata\n    bay 1 drive: 3.5in, 8TB\n", "the bay is 2.5in")
	if assert.Len(t, sure, 1) {
		assert.Equal(t, finding.Act, sure[0].Level)
		assert.Len(t, sure[0].Records, 2, "it leads to the device and the drive")
	}
	mixed := noticed(t, "rack \"R\": 12U\n5 server \"anvil\"\n    slot 1 memory: 8GB\n    slot 2 memory: 16GB\n", "modules of 2 sizes")
	if assert.Len(t, mixed, 1) {
		assert.Equal(t, finding.Watch, mixed[0].Level)
	}
}

func TestThingsThatDoNotFitTheirRack(t *testing.T) {
	const in = "rack \"R\": 12U, 19in, 700mm deep\n"
	wide := noticed(t, in+"5 server \"anvil\": 1U high, 460mm wide, by its ears\n", "anvil does not fit")
	if assert.Len(t, wide, 1) {
		assert.Contains(t, wide[0].Say, "it is 460 mm wide and R has 450 mm between its posts")
		assert.Equal(t, finding.Act, wide[0].Level)
	}
	both := noticed(t, in+"5 server \"anvil\": 1U high, 460mm wide, 900mm deep, by its ears\n", "anvil does not fit")
	assert.Len(t, both, 1, "one thing is reported once")
	assert.Empty(t, noticed(t, in+"5 server \"anvil\": 1U high, 440mm wide, 600mm deep, by its ears\n", "does not fit"))
	assert.Empty(t, noticed(t, in+"5 server \"anvil\"\n", "does not fit"), "what is not measured is a gap, not a finding")
}

func TestBatteriesOfUnknownAge(t *testing.T) {
	const ups = "rack \"R\": 12U\n1-2 ups \"keep\"%\n    loose battery%\n"
	with := func(state, fact string) string {
		return strings.Replace(strings.Replace(ups, "%", state, 1), "%", fact, 1)
	}
	old := noticed(t, with("", ""), "battery of keep")
	if assert.Len(t, old, 1) {
		assert.Equal(t, finding.Note, old[0].Level)
	}
	assert.Empty(t, noticed(t, with("", ": put in 2024-05"), "battery of keep"))
	assert.Empty(t, noticed(t, with(", resting", ""), "battery of keep"), "it runs on nothing")
	assert.Empty(t, noticed(t, "spare battery\n", "battery of"), "in the bin")
}
