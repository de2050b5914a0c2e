package find_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/find"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

const text = `place "House"
place "Loft": in "House"
	access point "loft ap": for "wireless upstairs"
rack "Pantry": 24U, in "House"
23 switch "core": for "the whole house"
15 shelf "sbc shelf": sbc "finch": for "names and the reverse proxy"
12-13 server "anvil": for "choir library and everything with a login"
9-11 nas "silo" # takes 3U: no rails to be had, it stands on a board
6 server "ember", faulty: for "nightly encoding"
1-2 ups "keep" # batteries from 2022
? ups "Überspannung"
? server "anvil-2"`

func index(t *testing.T) *find.Index {
	t.Helper()
	l, err := labtest.From(t, text).Apply([]lab.Change{{After: lab.Draft{ID: "q", Name: "Quiet ember"}}})
	require.NoError(t, err)
	return find.New(l)
}

func TestWhatAPersonRemembersIsFound(t *testing.T) {
	ix := index(t)
	for query, want := range map[string]string{
		"anvil":           "anvil", // before anvil-2
		"an":              "anvil",
		"anvli":           "anvil", // letters that changed places
		"anvl":            "anvil", // one left out, still typing
		"embber":          "ember",
		"reverse prxy":    "finch",
		"login":           "anvil",
		"batteries":       "keep",
		"battreies":       "keep",
		"server login":    "anvil",
		"pantry nas":      "silo",
		"pi pantry":       "",             // a kind is called by its whole name here
		"board pantry":    "finch",        // single-board computer
		"UBERSPANNUNG":    "Überspannung", // who has no umlaut slips by one letter
		"überspannung":    "Überspannung",
		"loft":            "Loft",
		"loft ap":         "loft ap",
		"faulty":          "ember",
		"quiet":           "Quiet ember",
		"rack pantry":     "Pantry",
		"nothing of this": "",
		"xyzzy":           "",
		"":                "",
		"  ,;  ":          "",
	} {
		hits := ix.Search(query, 10)
		if want == "" {
			assert.Empty(t, hits, query)
			continue
		}
		if assert.NotEmpty(t, hits, query) {
			assert.Equal(t, want, hits[0].Record.Title, query)
		}
	}
}

func TestAFactIsFound(t *testing.T) {
	ix := find.New(labtest.From(t, `sheet "Fell R28": server, 710mm deep, 24 ports rj45 1G poe type 2
rack "Pantry": 24U
12-13 server "anvil": sheet "Fell R28", 8 bays 3.5in, paid 240 used 2024-03, lent by a neighbour
  bay 1 drive "vault 1": 8TB, hdd, cmr
  bay 2 drive "scratch": 1TB, ssd
6 nas "silo": 24kg
spare drive "cold": 4TB, hdd, serial "Z1A7"
anvil/1 - ? 2m blue, label "G7", frayed`))
	for query, want := range map[string][]string{
		"8TB hdd":         {"vault 1"},
		"8 TB hdd":        {"vault 1"},
		"12 in pantry":    {"anvil"}, // which is no length
		"hdd":             {"vault 1", "cold"},
		"1tb":             {"scratch"},
		"24kg":            {"silo"},
		"710mm":           {"anvil", "Fell R28"}, // what its sheet says of it counts
		"poe anvil":       {"anvil"},
		"z1a7":            {"cold"},
		"neighbour":       {"anvil"},
		"paid 2024":       {"anvil"},
		"frayed":          {"G7"},
		"2m":              {},
		"16tb":            {},
		"vault pantry 12": {},
	} {
		found := []string{}
		for _, h := range ix.Search(query, 10) {
			found = append(found, h.Record.Title)
		}
		assert.ElementsMatch(t, want, found, query)
	}
	assert.Contains(t, ix.Search("8tb", 1)[0].Said, "8TB, hdd", "with what was found")
}

func TestAHitSaysWhereAndWhy(t *testing.T) {
	ix := index(t)
	assert.Equal(t, "Pantry 9-11", ix.Search("silo", 1)[0].Record.Where)
	assert.Equal(t, "takes 3U: no rails to be had, it stands on a board", ix.Search("rails", 1)[0].Said)
	assert.Equal(t, "choir library and everything with a login", ix.Search("choir", 1)[0].Said)
	assert.Equal(t, "UPS", ix.Search("keep", 1)[0].Kind)
	assert.Len(t, ix.Search("e", 3), 3, "no more than asked for")
}

// Any name is found by itself, whatever characters it has.
func FuzzSearch(f *testing.F) {
	for _, s := range []string{"anvil", "", "a b", "Ünï", "\xff", "日本", "%_\\"} {
		f.Add(s, s)
	}
	f.Fuzz(func(t *testing.T, name, query string) {
		l, err := lab.New().Apply([]lab.Change{{After: lab.Device{ID: "d", Name: name, Kind: lab.Hub, State: lab.Running, Notes: query}}})
		if err != nil {
			t.Skip()
		}
		ix := find.New(l)
		ix.Search(query, 5)
		assert.LessOrEqual(t, len(ix.Search(name, 5)), 1)
	})
}

func TestThingsAreFoundByWhatIsPrintedOnThem(t *testing.T) {
	l, err := lab.New().Apply([]lab.Change{
		{After: lab.SpecSheet{ID: "r2", Name: "Fell R2", Kind: lab.Server}},
		{After: lab.Device{ID: "anvil", Name: "anvil", Kind: lab.Server, State: lab.Running, Serial: "FL-28-7731", Remote: "10.20.0.12"}},
		{After: lab.Part{ID: "disk", Name: "vault 1", Kind: lab.Drive, State: lab.Running, Device: "anvil", Serial: "Z1A7"}},
	})
	require.NoError(t, err)
	ix := find.New(l)
	for typed, want := range map[string]lab.ID{"7731": "anvil", "10.20.0.12": "anvil", "z1a7": "disk", "vault": "disk", "fell": "r2"} {
		hits := ix.Search(typed, 3)
		require.NotEmpty(t, hits, typed)
		assert.Equal(t, want, hits[0].Record.ID, typed)
	}
}

func TestACableIsFoundByItsLabelItsEndsAndItsColour(t *testing.T) {
	ix := find.New(labtest.From(t, `rack "R": 6U
6 patch panel "PP1": 8 ports rj45
5 switch "core": 8 ports rj45
run "stairs run": 18m # behind the skirting
core/3 - PP1/3 0.25m yellow cat6, label "PP1.03"
PP1/3 = ? cat6, via "stairs run"
spare 2x lead 1m magenta cat6a
`))
	for query, want := range map[string]string{"pp1.03": "cable PP1.03", "core/3": "cable PP1.03", "magenta": "cable",
		"stairs": "run stairs run", "skirting": "run stairs run"} {
		hits := ix.Search(query, 5)
		require.NotEmpty(t, hits, query)
		assert.Contains(t, fmt.Sprintf("%s %s", hits[0].Record.Kind, hits[0].Record.Title), want, query)
	}
}

func TestAnAddressIsFoundWholeOrByItsBeginning(t *testing.T) {
	ix := find.New(labtest.From(t, text+`
subnet 10.20.0.0/24
subnet fd20:20::/64
anvil 10.20.0.12
anvil fd20:20::12
silo 10.20.0.120 named "bulk"
ember 10.99.0.2
core 12.0.20.10
name library -> 10.20.0.12
line "fibre line": 900M down
`))
	for query, want := range map[string][]string{
		"10.20.0.12": {"library", "anvil", "silo"}, "10.20.0.120": {"silo"}, "10.99.0": {"ember"}, "fd20:20::12": {"anvil"}, "bulk": {"silo"},
		"10.20.0.0/24": {"10.20.0.0/24"}, "library": {"library", "anvil"}, "fibre": {"fibre line"}, "10.20.0.99": nil,
	} {
		var found []string
		for _, h := range ix.Search(query, 5) {
			found = append(found, h.Record.Title)
		}
		assert.ElementsMatch(t, want, found, query)
	}
}
