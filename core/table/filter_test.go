package table_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/table"
)

const house = `lab "House", currency GBP
place "House"
place "Loft": in "House"
   access point "loft ap": 210mm wide, 0.6kg
   sensor "damp"
rack "Pantry": 24U, in "House"
1 server "anvil": 4x 8TB hdd, 6x 16GB ram, 24kg, paid 240 used 2024-03, warranty until 2027-03
2 server "ember", faulty: 2x 8GB ram, 13kg, warranty until 2026-12-31, serial "4K"
3 nas "silo 10", 22kg, for "the big disks"
4 nas "silo 9": 8x 4TB hdd, warranty until 2027
5 switch "core": paid 99
spare drive "cold": 8TB, hdd, smr
`

func TestFilters(t *testing.T) {
	ix := table.Of(lab.KindDevice).New(labtest.From(t, house))
	for filter, want := range map[string]string{
		"":                              "anvil, core, damp, ember, loft ap, silo 9, silo 10",
		"silo":                          "silo 9, silo 10",
		"DISKS":                         "silo 10",
		`"loft ap"`:                     "loft ap",
		"kind:server":                   "anvil, ember",
		"kind:server|nas state=running": "anvil, silo 9, silo 10",
		"-kind:server -place:loft":      "core, silo 9, silo 10",
		"place:loft":                    "damp, loft ap",
		"rack:pantry weight<20kg":       "ember",
		"weight>=13":                    "anvil, ember, silo 10",
		"weight>28lb":                   "anvil, ember, silo 10",
		"weight:?":                      "core, damp, silo 9",
		"weight:*":                      "anvil, ember, loft ap, silo 10",
		"ram>=64GB":                     "anvil",
		"ram<64GiB":                     "ember",
		"raw>30TB":                      "anvil, silo 9",
		"price>100":                     "anvil",
		"paid<=£99":                     "core",
		"warranty<2027":                 "ember",
		"warranty:2027":                 "anvil, silo 9",
		"warranty>=2027-04":             "silo 9",
		"warranty<31.12.2026":           "",
		"serial:4k":                     "ember",
		"state!=running":                "ember",
		"width=210":                     "loft ap",
	} {
		shown, err := ix.Show(table.Ask{Filter: filter, Columns: []string{"name"}, Sort: "name"})
		require.NoError(t, err, filter)
		var names []string
		for _, r := range shown.Rows {
			names = append(names, r.Cells[0])
		}
		assert.Equal(t, want, strings.Join(names, ", "), filter)
		assert.Equal(t, 7, shown.Of)
	}
}

func TestFiltersThatSayNothing(t *testing.T) {
	ix := table.Of(lab.KindDevice).New(labtest.From(t, house))
	for filter, want := range map[string]string{
		"wieght>3":                       "there is no fact “wieght”: did you mean weight?",
		"colour:red":                     "there is no fact “colour”",
		"weight>":                        "weight of what?",
		"weight>5mm":                     "5mm is not a weight",
		"name>b":                         "name is words; compare it with : or =",
		"warranty<31.02.2027":            "there is no day “31.02.2027”",
		"price>40EUR":                    "“40EUR” is in EUR, and the lab's currency is GBP",
		`place:"Loft`:                    "the quote that opens here is not closed",
		"ok " + strings.Repeat("x ", 40): "at most 40 terms",
	} {
		_, err := ix.Show(table.Ask{Filter: filter})
		var mistake *table.FilterMistake
		require.ErrorAs(t, err, &mistake, filter)
		assert.ErrorContains(t, err, want, filter)
		assert.GreaterOrEqual(t, mistake.Column, 1)
		assert.LessOrEqual(t, mistake.Column, mistake.EndColumn)
	}
	_, err := ix.Show(table.Ask{Filter: "silo wieght>3"})
	var mistake *table.FilterMistake
	require.ErrorAs(t, err, &mistake)
	assert.Equal(t, []int{6, 14}, []int{mistake.Column, mistake.EndColumn})
}

func TestATermThatNoRowPassesIsSaid(t *testing.T) {
	ix := table.Of(lab.KindDevice).New(labtest.From(t, house))
	for filter, want := range map[string]string{
		"serverr":               "No row has serverr: did you mean server?",
		"kind:serverr":          "No row has kind:serverr: did you mean server?",
		"kind:server xyzzyx":    "No row has xyzzyx.",
		"ram>=900TB":            "No row has ram>=900TB.",
		"kind:server":           "",
		"-state:*":              "Every row has state:*.",
		"kind:server state:off": "No row has state:off.",
		"":                      "",
	} {
		shown, err := ix.Show(table.Ask{Filter: filter})
		require.NoError(t, err, filter)
		assert.Equal(t, want, shown.Unmet, filter)
	}
}

func TestAColumnIsShownOnce(t *testing.T) {
	shown, err := table.Of(lab.KindDevice).New(labtest.From(t, house)).Show(table.Ask{Columns: []string{"name", "kind", "name", "name"}})
	require.NoError(t, err)
	assert.Len(t, shown.Columns, 2)
	assert.Len(t, shown.Rows[0].Cells, 2)
}

func TestSortsAndGroups(t *testing.T) {
	ix := table.Of(lab.KindDevice).New(labtest.From(t, house))
	names := func(sort string) (list []string) {
		shown, err := ix.Show(table.Ask{Columns: []string{"name"}, Sort: sort, Filter: "rack:*"})
		require.NoError(t, err)
		for _, r := range shown.Rows {
			list = append(list, r.Cells[0])
		}
		return
	}
	assert.Equal(t, []string{"ember", "silo 10", "anvil"}, names("weight")[:3])
	assert.Equal(t, []string{"anvil", "silo 10", "ember"}, names("-weight")[:3], "unknown ones are last either way")
	shown, err := ix.Show(table.Ask{Columns: []string{"name", "weight", "price", "raw", "ram"}, Group: "kind", Sort: "name",
		Filter: "kind:server|nas"})
	require.NoError(t, err)
	require.Len(t, shown.Groups, 2)
	assert.Equal(t, table.GroupSum{Title: "NAS", From: 0, Rows: 2, Sums: []string{"", "≥22kg", "", "≥32TB", ""}}, shown.Groups[0])
	assert.Equal(t, table.GroupSum{Title: "server", From: 2, Rows: 2, Sums: []string{"", "37kg", "≥£240", "≥32TB", "112GB"}}, shown.Groups[1])
	assert.Equal(t, "silo 9", shown.Rows[0].Cells[0])
}

func TestPartsHaveATableToo(t *testing.T) {
	ix := table.Of(lab.KindPart).New(labtest.From(t, house))
	shown, err := ix.Show(table.Ask{Filter: "where:spares size>=8TB", Columns: []string{"name", "size", "recording", "where"}})
	require.NoError(t, err)
	require.Len(t, shown.Rows, 1)
	assert.Equal(t, []string{"cold", "8TB", "smr", "the spares bin"}, shown.Rows[0].Cells)
	cores, err := ix.Show(table.Ask{Filter: "kind:drive", Columns: []string{"cores", "hours"}})
	require.NoError(t, err)
	assert.Equal(t, []string{table.NoFact, ""}, cores.Rows[0].Cells, "a drive has no cores; how long it ran is not known")
	none, err := ix.Matching("cores:?")
	require.NoError(t, err)
	assert.Empty(t, none)
	ids, err := ix.Matching("size<1TB kind:drive")
	require.NoError(t, err)
	assert.Empty(t, ids)
}

// A filter is refused with where it is wrong, or taken; a row passes a term or
// its contrary, never both.
func FuzzFilter(f *testing.F) {
	for _, seed := range []string{"ram>=64GB kind:server place:loft warranty<2027", `-"a b" x:?`, "weight!=4|5", "=", "weight<½", "a:b:c",
		"price>1,000.50"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, filter string) {
		ix := table.Of(lab.KindDevice).New(labtest.From(t, house))
		passing, err := ix.Matching(filter)
		if err != nil {
			var mistake *table.FilterMistake
			require.ErrorAs(t, err, &mistake)
			require.NotEmpty(t, mistake.Say)
			return
		}
		if strings.ContainsAny(filter, " \t\n\"“”") || strings.HasPrefix(filter, "-") || filter == "" {
			return
		}
		others, err := ix.Matching("-" + filter)
		if err == nil {
			require.Len(t, append(passing, others...), 7, filter)
		}
	})
}
