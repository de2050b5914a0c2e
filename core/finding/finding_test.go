package finding_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

func TestWhatTheChecksNotice(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want []string
	}{
		"an empty lab": {"", nil},
		"too much weight": {`rack "R": 9U, holds 50kg
3-4 ups "keep": 30.5kg
2 server "anvil": 20kg
1 brush panel "b"`, []string{
			"act: R carries at least 50.5 kg and is rated for 50 kg; 1 of 3 devices are not weighed.",
		}},
		// 46 of 50 kg is more than nine tenths; at 4.5U the two hold the balance
		// (23 x 1.5 + 23 x 7.5) / 46 = 4.5 of 9, which is not above the half.
		"nearly too much": {`rack "R": 9U, holds 50kg
8 server "a": 23kg
2 server "b": 23kg`, []string{"watch: R carries 46 kg and is rated for 50 kg."}},
		"a rating nobody knows": {"rack \"R\": 9U\n1 server \"a\": 900kg", nil},
		// 650 + 80 + 50 = 780 of 800 mm; 710 + 80 + 50 = 840 of 800 mm.
		"front and rear": {`rack "R": 9U, 800mm deep
9 server "ok": 650mm deep
9 rear strip "s1": 80mm deep
7-8 server "anvil": 710mm deep
7 rear strip "s2": 80mm deep
5 server "who": 400mm deep
5 rear strip "s3"
3 left half hub "h": 500mm deep
3 rear left half strip "s4": 500mm deep`, []string{
			"act: anvil (710 mm, front) and s2 (80 mm, rear) collide inside R at 7-8: with 50 mm for cables they need 840 mm of 800 mm.",
			"note: Whether who and s3 collide inside R at 5 is not checked: the depth of s3 is unknown.",
		}},
		"on nothing": {`rack "R": 9U
8 mini pc "lark"
5 mini pc "finch"
4 server "anvil"
3 mini pc "wren"
2 shelf "board"
1 mini pc "floor"`, []string{
			"watch: lark is in R at 8 with nothing below it: a mini PC has no ears. Put it on a shelf, or write down the shelf it is on.",
			"note: finch, in R at 5, stands on anvil, which cannot come out without it.",
		}},
		// The middle of 8-9 is at 8U, of 1 at 0.5U: (24 x 8 + 4 x 0.5) / 28 = 6.9U.
		"heavy above light": {`rack "R": 9U
8-9 server "anvil": 24kg
1 switch "core": 4kg`, []string{
			"note: The centre of gravity of R is at 6.9U of 9U, above half height, counting the 2 devices in it with known weight.",
			"note: anvil (24 kg) is at 8-9 of R, above core (4 kg): heavy devices belong at the bottom.",
		}},
		"state and place": {`rack "R": 9U
7-8 server "old", spare
6 switch "sold", leaving
5 server "ember", faulty
4 server "new", waiting
3 server "off", resting
1-2 drawer "leads": switch "hot", hub "tame"
? server "lost"`, []string{
			"watch: ember is faulty and takes 1U, R 5. Repair it, replace it or take it out.",
			"watch: hot is running in leads.",
			"watch: lost is running, but its place is not documented.",
			"watch: 4 idle devices take 5U: old (spare: 2U), sold (leaving: 1U), new (waiting: 1U), off (resting: 1U).",
		}},
		"not placed": {`? server "heron", waiting: takes 2U
? nas "copy", spare
? switch "gone", leaving`, []string{
			"note: heron is not placed yet; it asks for 2U.",
			"note: copy is not placed yet.",
			"note: gone is leaving but has no place: where is it?",
		}},
	} {
		t.Run(name, func(t *testing.T) {
			var said []string
			for _, f := range finding.All(labtest.From(t, c.text), "2026-11-23") {
				said = append(said, string(f.Level)+": "+f.Say)
			}
			assert.Equal(t, c.want, said)
		})
	}
}

func TestAFindingIsAcceptedUntilTheDayToLookAgain(t *testing.T) {
	l := labtest.From(t, `? nas "copy", spare`)
	f := finding.All(l, "2026-11-23")[0]
	assert.True(t, f.Open())
	l, err := l.Apply([]lab.Change{{After: lab.Acceptance{ID: "a", Finding: f.Key, Reason: "reserved for parts", AgainOn: "2026-12-01"}}})
	require.NoError(t, err)
	f = finding.All(l, "2026-11-30")[0]
	assert.Equal(t, "reserved for parts", f.Accepted.Reason)
	assert.False(t, f.Open())
	assert.True(t, finding.All(l, "2026-12-01")[0].Open())
}

// What a finding is called must stay the same, or what was accepted comes
// back: the check's name and the ids it is about.
func TestAFindingIsCalledTheSameTomorrow(t *testing.T) {
	l := labtest.From(t, "rack \"R\": 9U, 300mm deep\n5 server \"a\": 200mm deep\n5 rear strip \"b\": 200mm deep")
	before := finding.All(l, "2026-11-23")[0]
	a, _ := lab.Find[lab.Device](l, before.Records[0].ID)
	deeper := 250.0
	is := a
	is.Name, is.DepthMM = "renamed", &deeper
	l, err := l.Apply([]lab.Change{{Before: a, After: is}})
	require.NoError(t, err)
	after := finding.All(l, "2026-11-24")[0]
	assert.Equal(t, before.Key, after.Key)
	assert.NotEqual(t, before.Say, after.Say)
}

// What many things have in common is one finding with their list; one that was
// accepted by itself stays so, and what is wrong now stays by itself.
func TestFindingsByCause(t *testing.T) {
	l := labtest.From(t, `lab "L", yellow means "to the panel"
rack "R": 9U
9 switch "core": 24 ports rj45 1G
8 patch panel "PP1": 24 ports
7 server "old", spare: 2 ports 1G, 2 psus
6 ups "u": 4 outlets c13
core/1-6 - PP1/1-6 red 1m
core/7 - old/1 1m
u/1-2 - old/in1-in2
"u" slot 1 battery, faulty: put in 2024
`)
	byCheck := func(l *lab.Lab) map[string][]finding.Finding {
		list := map[string][]finding.Finding{}
		for _, f := range finding.All(l, "2026-11-26") {
			list[f.Check] = append(list[f.Check], f)
		}
		return list
	}
	got := byCheck(l)
	red := got["a colour against the legend"]
	require.Len(t, red, 1)
	assert.Equal(t, "core/1 - PP1/1 (and 5 more) is red, which is not in the legend.", red[0].Say)
	assert.Len(t, red[0].Records, 6)
	idle := got["idle, and taking room"]
	require.Len(t, idle, 1)
	assert.Equal(t, "Idle and taking room: old (spare: 1U, 2 outlets, 1 port).", idle[0].Say)
	require.Len(t, got["a faulty part in use"], 1)
	assert.Equal(t, "u, slot 1: the battery is faulty, and u is running.", got["a faulty part in use"][0].Say)

	next, err := l.Apply([]lab.Change{{After: lab.Acceptance{ID: "a", Finding: red[0].Key, Reason: "it is the old stock"}}})
	require.NoError(t, err)
	assert.NotNil(t, byCheck(next)["a colour against the legend"][0].Accepted)
	one := labtest.From(t, "lab \"L\", yellow means \"to the panel\"\nrack \"R\": 9U\n9 switch \"core\": 24 ports rj45 1G\n"+
		"8 patch panel \"PP1\": 24 ports\ncore/1-3 - PP1/1-3 red 1m\n")
	assert.Len(t, byCheck(one)["a colour against the legend"], 3, "three are told one by one")
}
