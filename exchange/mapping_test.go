package exchange_test

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/exchange"
)

// readAs reads a file of devices.
func readAs(t *testing.T, l *lab.Lab, file string, how exchange.Taking) exchange.Sheet {
	t.Helper()
	sheet, err := exchange.Devices.Read(context.Background(), l, []byte(file), how, labtest.IDs(""))
	require.NoError(t, err)
	return sheet
}

// taken is what the columns of a file were taken for, with their units.
func taken(t *testing.T, firstLine string) []string {
	t.Helper()
	sheet := readAs(t, lab.New(), firstLine, exchange.Taking{Guess: true})
	var list []string
	for _, c := range sheet.Columns {
		said := c.Field
		if c.Unit != "" {
			said += " in " + c.Unit
		}
		list = append(list, said)
	}
	return list
}

func TestColumnsOfSomebodyElsesFileAreGuessed(t *testing.T) {
	assert.Equal(t, []string{"name", "kind", "where", "maker", "model", "serial", "weight_kg in lb", "bought_on", "price_minor in EUR",
		"notes"},
		taken(t, "Hostname,Type,Location,Manufacturer,Model,Serial No.,Weight (lb),Purchase date,Cost [EUR],Comments"))
	assert.Equal(t, []string{"name", "takes_u", "height_mm in cm", "depth_mm in in", "idle_w in W", "memory_most_bytes in GB",
		"warranty_until"},
		taken(t, "device-name;U;Height (cm);depth_in;Idle power (W);Max RAM (GB);Waranty until"), "also with a letter missing")
	assert.Equal(t, []string{"name", "", "", ""}, taken(t, "name,Shoe size,Moon phase,qq"), "what says nothing is left out")
	assert.Equal(t, []string{"name", "weight_kg in kg", ""}, taken(t, "name,Weight kg,Mass"), "the first one has it")
	assert.Equal(t, []string{"weight_kg", "name"}, taken(t, "weight_kg,name"), "our own names need no guessing")
}

func TestFiguresAreInTheUnitThatTheColumnSays(t *testing.T) {
	l := labtest.From(t, small)
	read := func(text string, columns ...string) exchange.Row {
		sheet := readAs(t, l, text, exchange.Taking{Guess: true, Columns: columns})
		require.Len(t, sheet.Rows, 1)
		return sheet.Rows[0]
	}
	// 50 lb are 22.68 kg; 19 inches are 482.6 mm.
	assert.Equal(t, "weight 22.68 kg (was 24 kg)", read("host,Weight (lb)\nanvil,50\n").Say)
	assert.Equal(t, "weight 25 kg (was 24 kg)", read("host,Weight (lb)\nanvil,25kg\n").Say, "a unit in the cell goes before")
	assert.Contains(t, read("host,Size (in)\nanvil,19\n", "name", "width_mm").Say, "width 482.6 mm")
	grams := read("host,Weight (W)\nanvil,50\n")
	assert.Equal(t, exchange.RowRefused, grams.Verb, "watts are no weight")
	assert.Contains(t, grams.Say, "weight_kg: ")
	euros := read("host,Cost (EUR)\nanvil,50\n")
	assert.Equal(t, exchange.RowRefused, euros.Verb)
	assert.Contains(t, euros.Say, "EUR")
}

// A list as people keep it: the rack and the unit in columns of their own, heights
// in units, weights and prices with their units and with commas.
func TestASpreadsheetWithRackAndUnit(t *testing.T) {
	l := labtest.From(t, "rack \"Pantry\": 24U\nrack \"Loft\": 9U\n")
	sheet := readAs(t, l, "Hostname,Type,Rack,U,Height,Weight,Cost\n"+
		"lark,server,Pantry,12,2U,24.5 kg,\"£1,200.50\"\n"+
		"wren,switch,Loft,U3,1U,\"4,1 kg\",\"1,200\"\n"+
		"finch,router,Pantry,21–22,2,4kg,240\n"+
		"crow,hub,Pantry,,1,,\n"+
		"rook,hub,,,1,,\n", exchange.Taking{Guess: true})
	require.Zero(t, sheet.Refused, "%+v", sheet.Rows)
	after, err := l.Apply(sheet.Changes)
	require.NoError(t, err)
	var said []string
	for d := range lab.Each[lab.Device](after) {
		where := "nowhere"
		if r, ok := after.RackOf(d); ok {
			where = r.Name + " " + after.UnitRange(r, d.At.Unit, d.Units())
		}
		said = append(said, d.Name+" "+where)
	}
	slices.Sort(said)
	assert.Equal(t, []string{"crow nowhere", "finch Pantry 21-22", "lark Pantry 12-13", "rook nowhere", "wren Loft 3"}, said)
	assert.Contains(t, sheet.Rows[3].Say, "no unit of Pantry is given")
	first := sheet.Changes[0].After.(lab.Device)
	assert.Equal(t, int64(120050), *first.PriceMinor)
	assert.InDelta(t, 24.5, *first.WeightKG, 1e-9)

	two := readAs(t, l, "name,kind,unit\nlark,server,4\n", exchange.Taking{})
	assert.Contains(t, two.Rows[0].Say, "there are 2 racks")
	tall := readAs(t, l, "Host,Type,U\nlark,server,4\n", exchange.Taking{Guess: true})
	assert.Equal(t, "takes_u", tall.Columns[2].Field, "without a rack it is how many")
	cm := readAs(t, l, "Host,Type,Height (cm)\nlark,server,9\n", exchange.Taking{Guess: true})
	assert.Equal(t, "height_mm", cm.Columns[2].Field)
}

func TestColumnsMappedByHand(t *testing.T) {
	l := labtest.From(t, small)
	text := "a,b,c\nlark,7.5,whatever\n"
	sheet := readAs(t, l, text, exchange.Taking{Columns: []string{"name", "weight_kg", ""}, Kind: "server"})
	require.Zero(t, sheet.Refused, "%+v", sheet.Rows)
	d := sheet.Changes[0].After.(lab.Device)
	assert.Equal(t, "lark", d.Name)
	assert.Equal(t, lab.DeviceKind("server"), d.Kind)
	assert.InDelta(t, 7.5, *d.WeightKG, 1e-9)
	assert.Equal(t, []exchange.FileColumn{{Name: "a", Field: "name", Sample: "lark"}, {Name: "b", Field: "weight_kg", Sample: "7.5"},
		{Name: "c", Sample: "whatever"}}, sheet.Columns)

	for say, columns := range map[string][]string{
		"mapped: 2": {"name", "weight_kg"},
		"there is no column \"shoe\" to read “b” as": {"name", "shoe", ""},
		"both “a” and “c” are taken for name":        {"name", "", "name"},
		"which device each line is about":            {"", "weight_kg", ""},
	} {
		_, err := exchange.Devices.Read(context.Background(), l, []byte(text), exchange.Taking{Columns: columns}, labtest.IDs(""))
		assert.ErrorContains(t, err, say)
	}
	sheet = readAs(t, l, text, exchange.Taking{Columns: []string{"", "", ""}, Guess: true})
	assert.Equal(t, 1, sheet.Refused, "while one is still mapping, every line is refused instead")
}

func TestFilesThatAreFarTooLarge(t *testing.T) {
	long := "name,kind\n" + strings.Repeat("x,hub\n", 50_002)
	_, err := exchange.Devices.Read(context.Background(), lab.New(), []byte(long), exchange.Taking{}, labtest.IDs(""))
	assert.ErrorContains(t, err, "more than 50000 lines")
	wide := "name" + strings.Repeat(",Moon phase", 300) + "\n"
	_, err = exchange.Devices.Read(context.Background(), lab.New(), []byte(wide), exchange.Taking{Guess: true}, labtest.IDs(""))
	assert.ErrorContains(t, err, "line 1 has 301 columns; at most 300 are read")
}

// Whatever is offered can be chosen, and our own files need no mapping.
func TestTargetsAreTheColumnsOfOurFiles(t *testing.T) {
	assert.Greater(t, len(exchange.Devices.Targets()), 50)
	for _, target := range exchange.Devices.Targets() {
		assert.NotEmpty(t, target.Title)
		if target.Name != "name" {
			assert.Equal(t, []string{"name", target.Name}, taken(t, "name,"+target.Name))
		}
	}
}
