package cabling_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// need is how long the one lead of a lab has to be, in millimetres; -1 where
// nobody can say.
func need(t *testing.T, text string) float64 {
	t.Helper()
	l := labtest.From(t, text)
	for c := range cabling.Of(l).Plugged {
		if m, ok := c.NeedM(); ok {
			return m * 1000
		}
		return -1
	}
	t.Fatal("no lead")
	return 0
}

// Two bends and the usual slack are in every lead: 2 x 30 + 100 mm. A unit is
// 44.45 mm, and a port takes 16 mm.
func TestALeadsLengthByTheWayItTakes(t *testing.T) {
	const always, unit = 160.0, 44.45
	rack := "rack \"R\": 9U, 19in, 600mm deep\n"
	for name, c := range map[string]struct {
		text string
		mm   float64
	}{
		"one above the other, port over port": {rack + "9 switch \"a\": 8 ports rj45\n7 switch \"b\": 8 ports rj45\na/3 - b/3", always + 2*unit},
		"as many ports aside":                 {rack + "9 switch \"a\": 8 ports rj45\n7 switch \"b\": 8 ports rj45\na/1 - b/6", always + 2*unit + 5*16},
		// Their middles are 1 and 3.5 units from the foot.
		"of things that take several units": {rack + "3-4 server \"a\": 1 ports rj45\n1-2 server \"b\": 1 ports rj45\na/1 - b/1", always + 2*unit},
		"counted down each column":          {rack + "9 switch \"a\": 8 ports rj45 2 rows down\n8 switch \"b\": 8 ports rj45 2 rows down\na/1 - b/2", always + unit},
		"counted along each row":            {rack + "9 switch \"a\": 8 ports rj45 2 rows\n8 switch \"b\": 8 ports rj45 2 rows\na/1 - b/5", always + unit},
		// Both port 1s are 465.1 - 8 x 16 = 337.1 mm from the left, 128 from the right.
		"by the left":  {rack + "9 switch \"a\": 8 ports rj45\n7 switch \"b\": 8 ports rj45\na/1 - b/1 via left", always + 2*unit + 2*337.1},
		"by the right": {rack + "9 switch \"a\": 8 ports rj45\n7 switch \"b\": 8 ports rj45\na/1 - b/1 via right", always + 2*unit + 2*128},
		// In a 10-inch rack the holes are 236.5 mm apart: 236.5 - 8 x 16 = 108.5.
		"by the left of a narrow rack": {"rack \"R\": 9U, 10in\n9 switch \"a\": 8 ports rj45\n7 switch \"b\": 8 ports rj45\na/1 - b/1 via left", always + 2*unit + 2*108.5},
		// The half at the right ends where the rack does, the half at the left
		// 465.1 / 2 before that.
		"from one half of the width to the other": {rack + "9 left half switch \"a\": 2 ports rj45\n9 right half switch \"b\": 2 ports rj45\na/1 - b/1", always + 232.55},
		// The front's ports stand 465.1 - 3 x 16 = 417.1 mm from its left with the
		// third; the rear's two and the inlet beside them 417.1 mm from the rear's
		// left. That is the front's right: by the right it is 48 + 417.1 across.
		"round to the back": {rack + "9 switch \"a\": 3 ports rj45\n7 server \"b\": 2 ports rj45 rear\na/1 - b/1", always + 2*unit + 600 + 48 + 417.1},
		// On rails, with room to slide its 500 mm out while it is plugged.
		"at the back of what slides out": {rack + "9 server \"a\": 2 ports rj45 rear\n7 server \"b\": on rails, 500mm deep, 2 ports rj45 rear\na/1 - b/1", always + 2*unit + 500},
		"with the lab's own slack":       {"lab \"L\", slack 300mm\n" + rack + "9 switch \"a\": 8 ports rj45\n7 switch \"b\": 8 ports rj45\na/3 - b/3", 60 + 300 + 2*unit},
		// A thing on a shelf stands somewhere on it: its middle is taken. Port 1 of
		// eight is 337.1 mm from the left, the middle 232.55.
		"to something on a shelf":               {rack + "9 switch \"a\": 8 ports rj45\n7 shelf \"s\"\non \"s\" hub \"b\": 1 ports rj45\na/1 - b/1", always + 2*unit + 337.1 - 232.55},
		"round a rack nobody measured":          {"rack \"R\": 9U\n9 switch \"a\": 2 ports rj45\n7 server \"b\": 2 ports rj45 rear\na/1 - b/1", -1},
		"to another rack":                       {rack + "9 switch \"a\": 2 ports rj45\nrack \"S\": 9U\n9 switch \"b\": 2 ports rj45\na/1 - b/1", -1},
		"to something that stands on the floor": {rack + "9 switch \"a\": 2 ports rj45\nplace \"Loft\"\n\tdesktop \"b\": 1 ports rj45\na/1 - b/1", -1},
	} {
		t.Run(name, func(t *testing.T) { assert.InDelta(t, c.mm, need(t, c.text+"\n"), 0.01) })
	}
}

func TestARunTellsTheLengthOfWhatLiesInIt(t *testing.T) {
	l := labtest.From(t, house+"PP1/1 = plate/1 cat6 via \"stairs run\"\nPP1/2 = plate/2 cat6\n")
	var said []string
	for c := range cabling.Of(l).Plugged {
		if length, ok := c.Should(); ok {
			said = append(said, fmt.Sprintf("%s %.1f", length.From, length.NeedM))
			assert.Nil(t, length.StockM, "what is pulled through a run comes off the reel")
		}
	}
	assert.Equal(t, []string{"run 18.0"}, said, "of the other one nobody knows the way")
}

// A conduit of 25 mm inside: NEC chapter 9, table 1 allows 53 % for one
// cable, 31 % for two, 40 % for more. Cat 6 is 6.1 mm wide: 5.95 % each.
func TestHowManyMoreGoIntoARun(t *testing.T) {
	for cables, c := range []struct {
		filled, most float64
		more         int
	}{
		{0, 53, 6}, // 6 x 5.95 = 35.7 of 40; 7 would be 41.7
		{5.9536, 53, 5},
		{11.9072, 31, 4},
		{17.8608, 40, 3},
	} {
		text := "run \"duct\": 10m, inside 25mm\nrack \"R\": 9U\n9 patch panel \"P\": 12 ports rj45\n"
		for i := range cables {
			text += fmt.Sprintf("P/%d = ? cat6 via duct\n", i+1)
		}
		uses := cabling.Of(labtest.From(t, text)).Runs()
		require.Len(t, uses, 1)
		use := uses[0]
		assert.Equal(t, cables, use.Cables)
		assert.InDelta(t, c.filled, *use.FilledP, 1e-3, "%d cables", cables)
		assert.InDelta(t, c.most, *use.MostP, 1e-9)
		assert.Equal(t, c.more, *use.More, "%d cables", cables)
		assert.False(t, use.Over)
		assert.Len(t, use.Holds, cables)
		if cables > 0 {
			assert.Equal(t, []string{"P/1 rear", "?"}, []string{use.Holds[0].A, use.Holds[0].B})
		}
	}
	unknown := cabling.Of(
		labtest.From(t, "run \"duct\": 10m, inside 25mm\nrack \"R\": 9U\n9 patch panel \"P\": 12 ports rj45\nP/1 = ? via duct\nP/2 = ? cat6 "+
			"via duct\n")).Runs()[0]
	assert.Equal(t, 1, unknown.Unknown)
	assert.Nil(t, unknown.More, "beside a cable of no known width nobody can say what goes in")
	bare := cabling.Of(labtest.From(
		t, "run \"shaft\": 10m\nrack \"R\": 9U\n9 patch panel \"P\": 12 ports rj45\nP/1 = ? cat6 via shaft\n")).Runs()[0]
	assert.Nil(t, bare.FilledP)
}

func TestTheLevelOfEachRackAndOfTheLab(t *testing.T) {
	l := labtest.From(t, house+"rack \"S\": 6U\n6 switch \"small\": 4 ports rj45 1G, port 2 broken, port 3 reserved \"camera\"\ncore/1 - "+
		"PP1/1\nsmall/1 - ap/1\n")
	levels := cabling.LevelsOf(l)
	require.Len(t, levels.Racks, 2)
	var said []string
	for _, level := range levels.Racks[1].Level {
		said = append(said, fmt.Sprintf("%s %d: %d used, %d free, %d broken, %d kept", level.Connector, level.SpeedMb, level.Used, level.Free,
			level.Broken, level.Reserved))
	}
	assert.Equal(t, "S", levels.Racks[1].Name)
	assert.Equal(t, []string{"rj45 1000: 1 used, 1 free, 1 broken, 1 kept", " 0: 0 used, 1 free, 0 broken, 0 kept"}, said,
		"the switch's inlet has no connector that anyone wrote down")
	all := 0
	for _, level := range levels.Lab {
		all += level.Used + level.Free + level.Broken + level.Reserved
	}
	inRacks := 0
	for _, r := range levels.Racks {
		for _, level := range r.Level {
			inRacks += level.Used + level.Free + level.Broken + level.Reserved
		}
	}
	assert.Equal(t, inRacks+2+1+1, all, "the loft's plate has two ports, its access points one each")
}

func TestLabelsOfWhatIsPluggedInNowhere(t *testing.T) {
	l := labtest.From(t, house+"spare lead 1m blue cat6\n")
	var spare []lab.Cable
	for c := range lab.Each[lab.Cable](l) {
		spare = append(spare, c)
	}
	w := cabling.Of(l)
	for pattern, want := range map[string]string{"{panel}.{port:02}": "open.?", "{a} {b}": "open open",
		"{colour} {kind} {length}": "blue cat6 1m", " ": "open.?", "{length}{length}": "1m1m"} {
		labels, err := w.Labels(spare, pattern, false)
		require.NoError(t, err)
		assert.Equal(t, want, labels[0].Text, pattern)
	}
	long, err := w.Labels(spare, strings.Repeat("x", 80), false)
	require.NoError(t, err)
	assert.Len(t, long[0].Text, 50)
}

// The same label for all of a large lab: each number is tried once.
func TestManyAlikeLabelsStayUnique(t *testing.T) {
	var changes []lab.Change
	var cables []lab.Cable
	for i := range 20_000 {
		c := lab.Cable{ID: lab.ID(fmt.Sprintf("c%05d", i)), State: lab.CableSpare}
		if i%2 == 0 {
			c.Label = fmt.Sprintf("lead-%d", i) // in the way of every second number
		} else {
			cables = append(cables, c)
		}
		changes = append(changes, lab.Change{After: c})
	}
	l, err := lab.New().Apply(changes)
	require.NoError(t, err)
	labels, err := cabling.Of(l).Labels(cables, "lead", false)
	require.NoError(t, err)
	seen := map[string]bool{}
	for _, label := range labels {
		assert.False(t, seen[label.Text], label.Text)
		seen[label.Text] = true
	}
	assert.Equal(t, "lead", labels[0].Text)
	assert.Equal(t, "lead-3", labels[1].Text)
	assert.Equal(t, "lead-5", labels[2].Text)
}
