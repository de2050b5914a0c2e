package rundown_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const pantry = `rack "R": 9U
9 switch "core": 24 ports rj45 1G
8 patch panel "PP1": 24 ports rj45
7 patch panel "PP2": 24 ports rj45
`

// typed is a lab with one more line typed into it.
func typed(t *testing.T, l *lab.Lab, line string) rundown.Plan {
	t.Helper()
	n := counter()
	return rundown.Load(l, rundown.ParseLine(line), rundown.Options{NewID: func() lab.ID { return "new-" + n() }})
}

func cables(l *lab.Lab) []string {
	var list []string
	for c := range lab.Each[lab.Cable](l) {
		list = append(list, rundown.CableLine(l, c))
	}
	return list
}

func TestOneLinePatchesAWholePanel(t *testing.T) {
	p := typed(t, fresh(t, pantry), "core/1-24 - PP1/1-24 0.25m yellow")
	require.Empty(t, p.Mistakes)
	assert.Len(t, p.Changes, 24)
	lines := cables(p.Lab)
	assert.Equal(t, "core/1 - PP1/1 0.25m yellow", lines[0])
	assert.Equal(t, "core/24 - PP1/24 0.25m yellow", lines[23])
}

func TestALineSaysMoreOfACableOrAddsOne(t *testing.T) {
	l := fresh(t, pantry+"core/1 - PP1/1 0.25m\nPP1/2 = ?\n")
	for line, want := range map[string]string{
		"PP1/1 - core/1 yellow":           "core/1 - PP1/1 0.25m yellow",
		"core/1 - PP1/1 yelow":            "", // a slip
		"PP1/2 = PP2/2 3m":                "PP1/2 = PP2/2 3m",
		"core/5 - PP1/5":                  "core/5 - PP1/5",
		"core/6 - PP1/6 rear 2m cat 6a":   "core/6 = PP1/6 2m cat6a",
		"core/8 -> PP1/8":                 "core/8 - PP1/8",
		"core/7 – PP1/7 1.5 m, cat6 grey": "core/7 - PP1/7 1.5m grey cat6",
	} {
		p := typed(t, l, line)
		if want == "" {
			assert.NotEmpty(t, p.Mistakes, line)
			continue
		}
		assert.Empty(t, p.Mistakes, line)
		assert.Contains(t, cables(p.Lab), want)
		assert.Len(t, p.Changes, 1, line)
	}
}

func TestATakenPortIsRefusedWithWhoHasIt(t *testing.T) {
	l := fresh(t, pantry+"core/1 - PP1/1, label \"A1\"\n")
	p := typed(t, l, "core/1 - PP2/1")
	require.Len(t, p.Mistakes, 1)
	assert.Equal(t, "core/1 has “A1” in it already; unplug that first, or swap the two", p.Mistakes[0].Say)
	assert.Empty(t, p.Changes)
}

func TestARangeIsTakenWholeOrNotAtAll(t *testing.T) {
	l := fresh(t, pantry+"core/3 - PP2/3\n")
	p := typed(t, l, "core/1-24 - PP1/1-24")
	require.Len(t, p.Mistakes, 1)
	assert.Empty(t, p.Changes)
}

func TestAnEditedTextMovesCablesAndTakesOutWhatItLeavesOut(t *testing.T) {
	before := fresh(t, pantry+"core/1 - PP1/1 yellow\ncore/2 - PP1/2, label \"two\"\ncore/3 - PP1/3\nspare 2x lead 1m cat6\n")
	p := load(t, before, pantry+"core/1 - PP2/1 yellow\ncore/9 - PP1/9, label \"two\"\nspare lead 1m cat6\n",
		rundown.Options{All: true, Forget: true})
	require.Empty(t, p.Mistakes)
	var said []string
	for _, e := range rundown.Edits(before, p.Lab, p.Changes) {
		said = append(said, e.String())
	}
	assert.ElementsMatch(t, []string{
		"core/1 - PP2/1 moved from core/1 - PP1/1 to core/1 - PP2/1",
		"two moved from core/2 - PP1/2 to core/9 - PP1/9",
		"core/3 - PP1/3 removed", "cat6 removed",
	}, said)
}

func TestADeviceThatATextLeavesOutTakesItsCablesWithIt(t *testing.T) {
	before := fresh(t, pantry+"core/1 - PP1/1\nPP1/1 = PP2/1\n")
	p := load(t, before, "rack \"R\": 9U\n9 switch \"core\": 24 ports rj45 1G\n7 patch panel \"PP2\": 24 ports rj45\n",
		rundown.Options{All: true})
	require.Empty(t, p.Mistakes)
	assert.Empty(t, cables(p.Lab))
	back, err := p.Lab.Apply(lab.Invert(p.Changes))
	require.NoError(t, err)
	assert.Equal(t, before.All(), back.All())
}

func TestCablesOfADeviceThatIsLeftOutOrRenamedStayWhereTheyAre(t *testing.T) {
	before := fresh(t, pantry+"core/1 - PP1/1\ncore/2-3 - PP2/2-3\nPP1/1 = PP2/1\n")
	p := load(t, before, "rack \"R\": 9U\n9 switch \"heart\": 24 ports rj45 1G\n7 patch panel \"PP2\": 24 ports rj45\ncore/1 - "+
		"PP1/1\ncore/2-3 - PP2/2-3\nPP1/1 = PP2/1\n", rundown.Options{All: true})
	require.Empty(t, p.Mistakes)
	assert.Equal(t, []string{"heart/1 - ?", "heart/2 - PP2/2", "heart/3 - PP2/3", "? = PP2/1"}, cables(p.Lab))
	assert.Equal(t, "core renamed to heart; patch panel \"PP1\" removed and 2 cables unplugged",
		rundown.Label(rundown.Edits(before, p.Lab, p.Changes)))
}

func TestACablesLineGoesOnByItself(t *testing.T) {
	l := fresh(t, pantry+"place \"Loft\"\n\taccess point \"loft ap\"\ncore/1 - PP1/1 0.25m yellow cat6, label \"A1\"\ncore/20 - PP1/20\n")
	for typed, want := range map[string][]string{
		"core/":           {"2 ", "3 ", "4 ", "5 ", "6 ", "7 ", "8 ", "9 "},
		"core/2":          {"21 ", "22 ", "23 ", "24 "},
		"core/2 - PP1/2":  {"21 ", "22 ", "23 ", "24 "},
		"PP1/1 = PP2/2":   {"20 ", "21 ", "22 ", "23 ", "24 "},
		"core/2 - PP1/2 ": {"0.25m yellow cat6"},
		"nobody/":         {},
		"cor":             {"core/"},
		"core/2 - pp":     {"PP1/", "PP2/"},
		"core/2 - ":       {},
		"core/2 = loft a": {"loft ap/"},
		"loft a":          {"loft ap/"},
	} {
		got := []string{}
		for _, c := range rundown.Complete(l, lab.Rack{}, typed) {
			got = append(got, c.Text)
		}
		assert.Equal(t, want, got, typed)
	}
}

func TestPortsMayLeaveTheTextTogetherWithTheirCables(t *testing.T) {
	before := fresh(t, pantry+"core/24 - PP1/24\n")
	p := load(t, before, "rack \"R\": 9U\n9 switch \"core\": 8 ports rj45 1G\n8 patch panel \"PP1\": 24 ports rj45\n7 patch panel "+
		"\"PP2\": 24 ports rj45\ncore/8 - PP1/24\n", rundown.Options{All: true})
	require.Empty(t, p.Mistakes)
	assert.Equal(t, []string{"core/8 - PP1/24"}, cables(p.Lab))
}

func TestAMistakeTakesNoCableOut(t *testing.T) {
	before := fresh(t, pantry+"core/1 - PP1/1\ncore/2 - PP1/2\n")
	p := load(t, before, pantry+"core/1 - PP1/1 blurple\n", rundown.Options{All: true})
	assert.Len(t, p.Mistakes, 1)
	assert.Equal(t, []string{"core/1 - PP1/1", "core/2 - PP1/2"}, cables(p.Lab))
}
