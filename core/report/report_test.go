package report

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rack"
)

func TestWhatIsNotWeighedIsNotAZero(t *testing.T) {
	fifty := 50.0
	for want, w := range map[string]rack.Weight{
		"? of 50 kg, 2 of 2 not weighed":            {Things: 2, Unweighed: []lab.ID{"a", "b"}, HoldsKG: &fifty},
		"? kg, 1 of 1 not weighed":                  {Things: 1, Unweighed: []lab.ID{"a"}},
		"at least 4.1 of 50 kg, 1 of 2 not weighed": {Things: 2, KnownKG: 4.1, Unweighed: []lab.ID{"a"}, HoldsKG: &fifty},
		"4.1 of 50 kg":                              {Things: 1, KnownKG: 4.1, HoldsKG: &fifty},
		"0 kg":                                      {},
	} {
		assert.Equal(t, want, carries(w))
	}
}

// Each report is asked of an empty lab and of a small one: it answers with its
// own sort of answer, and its text says what is in it.
func TestEveryReportAnswersAndPrints(t *testing.T) {
	small := labtest.From(t, `lab "Q", currency GBP
rack "R": 9U
9 switch "core": 24 ports rj45 1G, 4kg, paid 40 used 2024-03
8 patch panel "PP1": 24 ports rj45
7 server "anvil": 2 ports rj45 1G front, 4 bays 3.5in, 4x 8TB hdd, 2x 8-core
spare drive "old": 4TB
run "stairs": 18m, inside 25mm
core/1 - PP1/1
core/2 - anvil/1 0.1m
spare 3x lead 1m cat6
core/2 untagged 20
vlan 20 "servers"
`)
	says := map[string]string{
		"bin": "spares bin", "findings": "needs 0.39 m", "gear": "16", "leads": "core/1 - PP1/1", "money": "2024  £0   £40", "openings": "core/3", "ports": "the lab",
		"runs": "stairs", "space": "R", "to_buy": "too short", "ways_in": "leads anywhere", "vlans": "1 of 1",
	}
	for _, r := range All() {
		for _, l := range []*lab.Lab{lab.New(), small} {
			answer, err := r.Of(Ask{Lab: l, Built: l, Day: "2026-11-26", With: map[string]string{}})
			require.NoError(t, err, r.Name)
			assert.IsType(t, r.Answer, answer, r.Name)
			var out bytes.Buffer
			require.NoError(t, r.Print(&out, answer))
			assert.NotEmpty(t, out.String(), r.Name)
			if l == small {
				require.Contains(t, says, r.Name, "a new report: say here what its text has in it")
				assert.Contains(t, out.String(), says[r.Name], r.Name)
			}
		}
	}
	_, ok := Named("weather")
	assert.False(t, ok)
}

func TestAReportSaysWhichParameterIsWrong(t *testing.T) {
	r, ok := Named("openings")
	require.True(t, ok)
	_, err := r.Of(Ask{Lab: lab.New(), With: map[string]string{"speed_mb": "fast"}})
	var wrong *Wrong
	require.ErrorAs(t, err, &wrong)
	assert.Equal(t, "speed_mb", wrong.Param)
}
