package lab_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func TestCharactersThatDoNotShowAreRefused(t *testing.T) {
	for _, r := range []rune{0x07, 0x200b, 0x200e, 0x200f, 0x202a, 0x202e, 0x2060, 0x2061, 0x2062, 0x2063, 0x2064,
		0x2066, 0x2069, 0x061c, 0xfeff,
		0xe0001, 0xe0041, 0xe007f, 0x2028} {
		_, err := lab.New().Apply([]lab.Change{{After: lab.Place{ID: "p", Name: "Lo" + string(r) + "ft"}}})
		assert.ErrorContains(t, err, fmt.Sprintf("%U", r))
	}
	for _, name := range []string{"کتاب\u200cخانه", "क्\u200dष", "☎\ufe0f", "👩\u200d🚀", "Lo\u00adft"} {
		_, err := lab.New().Apply([]lab.Change{{After: lab.Place{ID: "p", Name: name}}})
		assert.NoError(t, err, "%+q is how some people write", name)
	}
}

// What looks the same is the same name.
func TestNamesThatLookAlikeAreOne(t *testing.T) {
	for _, pair := range [][2]string{{"Loft", "lo\u200cft"}, {"Loft", "LO\u200dFT"}, {"Loft", "Lo\u00adft"}, {"☎", "☎\ufe0f"},
		{"Küche", "Ku\u0308che"}, {"STRASSE", "straße"}} {
		_, err := lab.New().Apply([]lab.Change{{After: lab.Place{ID: "p", Name: pair[0]}}, {After: lab.Place{ID: "q", Name: pair[1]}}})
		assert.ErrorContains(t, err, "already", "%+q", pair)
	}
	assert.NotEqual(t, lab.FoldName("Loft"), lab.FoldName("Lofț"))
}

// What was taken once and is refused now is put right, and no two end up alike.
func TestWhatWasTakenOnceIsRepaired(t *testing.T) {
	records := []lab.Record{lab.Place{ID: "a", Name: "Loft"}, lab.Place{ID: "b", Name: "Lo\u200bft"}, lab.Place{ID: "c", Name: "Loft\u2060"},
		lab.Place{ID: "d", Name: "\ufeff"}, lab.Device{ID: "e", Name: "an\u200bvil", Kind: lab.Server, State: lab.Running, Notes: "quiet\u200b ",
			Remarked: lab.Remarked{Remarks: []string{"up\u200blink"}}}}
	changes := lab.Repair(records)
	after := map[lab.ID]lab.Record{}
	var all []lab.Change
	for _, c := range changes {
		after[c.Key().ID] = c.After
		all = append(all, lab.Change{After: c.After})
	}
	assert.Equal(t, map[lab.ID]lab.Record{"b": lab.Place{ID: "b", Name: "Loft 2"}, "c": lab.Place{ID: "c", Name: "Loft 3"},
		"d": lab.Place{ID: "d", Name: "unnamed"},
		"e": lab.Device{ID: "e", Name: "anvil", Kind: lab.Server, State: lab.Running, Notes: "quiet",
			Remarked: lab.Remarked{Remarks: []string{"uplink"}}}}, after)
	_, err := lab.New().Apply(append(all, lab.Change{After: records[0]}))
	require.NoError(t, err)
	assert.Empty(t, lab.Repair([]lab.Record{lab.Place{ID: "a", Name: "Loft"}, lab.Place{ID: "b", Name: "Attic"}}))
}
