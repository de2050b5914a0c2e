package rundown_test

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

func partsOf(t *testing.T, l *lab.Lab, name string) (list []string) {
	t.Helper()
	for _, p := range l.PartsOf(named(t, l, name).ID) {
		said := fmt.Sprintf("%s %d", p.Kind, p.Seat)
		if p.Name != "" {
			said += " " + p.Name
		}
		if p.SizeBytes != nil {
			said += fmt.Sprintf(" %d", *p.SizeBytes)
		}
		list = append(list, said)
	}
	return list
}

const tb, gib = 1_000_000_000_000, 1 << 30

func TestPartsInAPhraseTakeTheNextFreeSeats(t *testing.T) {
	l := fresh(t, `rack "R": 4U
1 server "a": 4 bays 3.5in, 2 sockets, 2x 8-core, 96GB of 256GB, 2x 8TB hdd, 1TB ssd
    bay 2 drive: 4TB, hdd`)
	assert.Equal(t, []string{"processor 1", "processor 2", fmt.Sprint("memory 0 ", 96*gib), fmt.Sprint("drive 1 ", 8*tb),
		fmt.Sprint("drive 2 ", 4*tb), fmt.Sprint("drive 3 ", 8*tb), fmt.Sprint("drive 4 ", tb)}, partsOf(t, l, "a"),
		"what has a seat of its own is put there first")
	a := named(t, l, "a")
	assert.Equal(t, int64(256*gib), *a.MemoryMostBytes)
	p := rundown.Load(l, rundown.ParseLine(`server "a": 1x 2TB hdd`), rundown.Options{NewID: ids("x")})
	require.Empty(t, p.Mistakes)
	assert.Contains(t, partsOf(t, p.Lab, "a"), fmt.Sprint("drive 0 ", 2*tb), "all bays are taken, so it lies loose")
}

func ids(prefix string) func() lab.ID {
	n := 0
	return func() lab.ID { n++; return lab.ID(fmt.Sprintf("%s%03d", prefix, n)) }
}

func TestTheSameLineTwiceChangesNothing(t *testing.T) {
	line := `1 server "a": 8 bays 3.5in, 2x 8-core, 4x 8TB hdd, 2x 1TB ssd`
	l := fresh(t, "rack \"R\": 4U\n"+line)
	p := load(t, l, "rack \"R\": 4U\n"+line, rundown.Options{})
	assert.Empty(t, p.Mistakes)
	assert.Empty(t, p.Changes)
	more := load(t, l, "rack \"R\": 4U\n"+strings.Replace(line, "2x 1TB", "3x 1TB", 1), rundown.Options{})
	assert.Equal(t, []string{"drive added in a, bay 7"}, words(l, more))
}

func words(l *lab.Lab, p rundown.Plan) (list []string) {
	for _, e := range rundown.Edits(l, p.Lab, p.Changes) {
		list = append(list, e.String())
	}
	return
}

func TestAPartMovesByItsNameAndKeepsItsPast(t *testing.T) {
	l := fresh(t, `rack "R": 4U
1 server "a": 2 bays 3.5in
    bay 1 drive "vault": 8TB, hdd, 21400h
2 server "b": 2 bays 3.5in
`)
	p := rundown.Load(l, rundown.ParseLine(`"b" bay 2 drive "vault"`), rundown.Options{NewID: ids("x")})
	require.Empty(t, p.Mistakes)
	assert.Equal(t, []string{"vault moved from a, bay 1 to b, bay 2"}, words(l, p))
	assert.Equal(t, []string{fmt.Sprint("drive 2 vault ", 8*tb)}, partsOf(t, p.Lab, "b"))
	bin := rundown.Load(p.Lab, rundown.ParseLine(`spare drive "vault"`), rundown.Options{NewID: ids("y")})
	assert.Equal(t, []string{"vault moved from b, bay 2 to the spares bin"}, words(p.Lab, bin))
	nowhere := rundown.Load(l, rundown.ParseLine(`"c" bay 2 drive "vault"`), rundown.Options{NewID: ids("z")})
	require.Len(t, nowhere.Mistakes, 1)
	assert.Contains(t, nowhere.Mistakes[0].Say, "there is no device called “c”")
}

func TestATextOfTheWholeLabTakesPartsAway(t *testing.T) {
	l := fresh(t, `rack "R": 4U
1 server "a": 2x 8TB hdd, 1x 4TB hdd
spare fan`)
	p := load(t, l, "rack \"R\": 4U\n1 server \"a\":\n    bay 1-2 drive: 8TB, hdd", rundown.Options{All: true})
	require.Empty(t, p.Mistakes)
	assert.ElementsMatch(t, []string{"drive removed", "fan removed"}, words(l, p))
	gone := load(t, l, `rack "R": 4U`, rundown.Options{All: true})
	assert.ElementsMatch(t, []string{`server "a" removed with what is in it (3)`, "fan removed"}, words(l, gone))
	assert.Empty(t, gone.Mistakes)
}

func TestPartsAreTypedIntoADevice(t *testing.T) {
	l := fresh(t, "rack \"R\": 4U\n1 server \"a\": 4 bays 3.5in")
	put := func(typed string) (*lab.Lab, error) {
		changes, err := rundown.PutParts(context.Background(), l, named(t, l, "a"), typed, ids("p"))
		if err != nil {
			return nil, err
		}
		return l.Apply(changes)
	}
	for typed, want := range map[string][]string{
		"4x 8TB hdd":                        {fmt.Sprint("drive 1 ", 8*tb), fmt.Sprint("drive 2 ", 8*tb), fmt.Sprint("drive 3 ", 8*tb), fmt.Sprint("drive 4 ", 8*tb)},
		"8TB ssd, 16GB ram":                 {fmt.Sprint("memory 1 ", 16*gib), fmt.Sprint("drive 1 ", 8*tb)},
		"bay 3 drive \"d\": 4TB, hdd, 100h": {fmt.Sprint("drive 3 d ", 4*tb)},
		"2 x 8 core":                        {"processor 1", "processor 2"},
		"drive ssd nvme":                    {"drive 1"},
		"96GB of ?":                         {fmt.Sprint("memory 0 ", 96*gib)},
	} {
		next, err := put(typed)
		require.NoError(t, err, typed)
		assert.Equal(t, want, partsOf(t, next, "a"), typed)
	}
	for typed, want := range map[string]string{
		"":                    "say what is in it",
		"3x flywheel":         "“3x flywheel” is not a part",
		"bay 9 drive: 4TB":    "has the bays 1 to 4",
		"bay 1 drive: 4stone": "is not a unit",
		"0x 8TB hdd":          "is not a part",
		`drive "open`:         "the quote that opens here is not closed",
	} {
		_, err := put(typed)
		assert.ErrorContains(t, err, want, typed)
	}
}

func TestASheetIsReadAsItIsTyped(t *testing.T) {
	s, err := rundown.ReadSheet("server, 2U high, 17½in wide, 28 in deep, on rails, 8 bays 3.5in")
	require.NoError(t, err)
	assert.Equal(t, lab.Server, s.Kind)
	assert.Equal(t, []float64{88.9, 444.5, 711.2}, []float64{*s.HeightMM, *s.WidthMM, *s.DepthMM})
	assert.Equal(t, lab.OnRails, s.Mount)
	_, err = rundown.ReadSheet("server, 2furlong high")
	var mistake *text.Mistake
	require.ErrorAs(t, err, &mistake)
	assert.Equal(t, []int{9, 22}, []int{mistake.Column, mistake.EndColumn}, "counted in what was typed")
}

func TestMoneyAndDaysAreReadAsPeopleWriteThem(t *testing.T) {
	l := fresh(t, "lab \"L\", currency GBP\nrack \"R\": 4U\n1 server \"a\"")
	a := named(t, l, "a")
	set := func(field, typed string) (lab.Device, error) {
		r, err := rundown.SetFact(l, a, field, typed, "")
		if err != nil {
			return lab.Device{}, err
		}
		return r.(lab.Device), nil
	}
	for typed, want := range map[string]lab.When{"2024-03-09": "2024-03-09", "9.3.2024": "2024-03-09", "9/3/2024": "2024-03-09",
		"9 March 2024": "2024-03-09", "Mar 2024": "2024-03", "3/2024": "2024-03", "2024-3": "2024-03", "2024": "2024", "?": "", "": ""} {
		d, err := set("warranty_until", typed)
		require.NoError(t, err, typed)
		assert.Equal(t, want, d.WarrantyUntil, typed)
	}
	for typed, want := range map[string]string{"31.02.2027": "there is no day “31.02.2027”", "2024-13": "there is no day",
		"soon": "“soon” is not a day, month or year", "1066": "is not a day, month or year"} {
		_, err := set("warranty_until", typed)
		assert.ErrorContains(t, err, want, typed)
	}
	d, err := set("price_minor", "£240.50 used 2024-03")
	require.NoError(t, err)
	assert.Equal(t, int64(24050), *d.PriceMinor)
	assert.Equal(t, lab.BoughtUsed, d.Got)
	assert.Equal(t, lab.When("2024-03"), d.BoughtOn)
	for typed, want := range map[string]string{"€240": "“€240” is in EUR, and the lab's currency is GBP", "240 USD": "is in USD",
		"-5": "not below zero", "lots": "is not an amount of money"} {
		_, err := set("price_minor", typed)
		assert.ErrorContains(t, err, want, typed)
	}
	d, err = set("yearly", `"support" £60 until 2027-01, "space"`)
	require.NoError(t, err)
	sixty := int64(6000)
	assert.Equal(t, []lab.Yearly{{What: "support", Minor: &sixty, EndsOn: "2027-01"}, {What: "space"}}, d.Yearly)
	d, err = set("idle_w", "nobody knows")
	require.NoError(t, err)
	assert.Equal(t, []string{"idle_w"}, d.Never)
}

func TestPortsBaysAndSlotsInTheirManyWays(t *testing.T) {
	l := fresh(t, "rack \"R\": 4U\n1 server \"a\"")
	set := func(field, typed string) (string, error) {
		r, err := rundown.SetFact(l, named(t, l, "a"), field, typed, "")
		if err != nil {
			return "", err
		}
		return rundown.Saying(l, r).Text(field), nil
	}
	for _, c := range [][3]string{
		{"ports", "24x RJ45 1G", "24 ports rj45 1G"},
		{"ports", "24 rj45 1gbe poe+", "24 ports rj45 1G poe type 2"},
		{"ports", "4 sfp+ 10g/1g rear, 2 ports qsfp28 100G", "4 ports sfp+ 1G/10G rear, 2 ports qsfp28 100G"},
		{"ports", "8 ports rj45 100M/1G/2.5G bt two rows down from 0 called eth", `8 ports rj45 100M/1G/2.5G poe type 3 2 rows down from 0 called "eth"`},
		{"ports", "1 port rj45 draws class 4", "1 ports rj45 draws class 4"},
		{"bays", `8 bays 3.5" sas/sata`, "8 bays 3.5in sas/sata"},
		{"bays", "4x lff bays back", "4 bays 3.5in rear"},
		{"slots", "2 pcie slots x16 wired x8 low profile 6.6in", "2 slots x16 wired x8 half height 167.64mm"},
		{"outlets", "6 battery outlets C13 rear", "6 outlets c13 battery rear"},
		{"ports", "?", ""},
		{"memory_slot_bytes", "16", "16GB"},
		{"memory_slot_bytes", "16384MB", "16GB"},
		{"memory_most_bytes", "1TB", "1TB"},
		{"sockets", "0", "0"},
		{"ports", "4 ports", "4 ports ?"},
		{"ports", `4 ports "odd one"`, `4 ports "odd one"`},
		{"ports", "four ports rj45", "4 ports rj45"},
		{"outlets", "4 outlets schuko", "4 outlets type f"},
		{"slots", "9 slots", "9 slots"},
		{"temp_to_c", "104F", "40C"},
		{"noise_db", "38 dB(A)", "38dB"},
		{"idle_w", "0.12kW", "120W"},
		{"weight_kg", "53 lb", "24.04kg"},
	} {
		got, err := set(c[0], c[1])
		require.NoError(t, err, c[1])
		assert.Equal(t, c[2], got, c[1])
	}
	for _, c := range [][3]string{
		{"ports", "rj45", "begin with how many there are"},
		{"ports", "0 ports rj45", "there are 1 or more in a group"},
		{"ports", "4 ports rj45 class 9", "PoE classes are 0 to 8"},
		{"ports", "4 ports rj45 type 7", "PoE types are 1 to 4"},
		{"ports", "4 ports rj45 0.0001G", "is not a speed"},
		{"bays", "4 bays huge", "“huge” is not a fact about drive bays"},
		{"slots", "2 slots x3", "“x3” is not a fact about expansion slots"},
		{"slots", "2 slots x16 wired wide", "how many lanes are wired?"},
		{"outlets", "4 outlets huge", "“huge” is not a fact about outlets"},
		{"sockets", "-1", "is not a number of them"},
		{"private", `"pin"`, "has a name and a value"},
	} {
		_, err := set(c[0], c[1])
		assert.ErrorContains(t, err, c[2], c[1])
	}
}

// Whatever is typed into whichever field is taken or refused with a sentence,
// and what is shown of it reads back to the same.
func FuzzFact(f *testing.F) {
	fields := rundown.FieldsOf(lab.Device{})
	for i, field := range fields {
		f.Add(uint8(i), field.Example)
	}
	for _, typed := range []string{"17½in", "1e309mm", "-0", "24 ports rj45 1G, 4 sfp+", "16 GB", "9.3.2024", "€5", "0x 8TB", "\"", "?"} {
		f.Add(uint8(7), typed)
	}
	place, _ := lab.New().Apply([]lab.Change{{After: lab.Place{ID: "p", Name: "Loft"}},
		{After: lab.SpecSheet{ID: "s", Name: "R2", Kind: lab.Server}}})
	f.Fuzz(func(t *testing.T, at uint8, typed string) {
		field := fields[int(at)%len(fields)].Field
		was := lab.Device{ID: "d", Kind: lab.Server, State: lab.Running}
		is, err := rundown.SetFact(place, was, field, typed, "")
		if err != nil {
			require.NotEmpty(t, err.Error())
			return
		}
		if _, err := place.Apply([]lab.Change{{After: is}}); err != nil {
			return // out of bounds, and refused with its own sentence
		}
		shown := rundown.Saying(place, is).Text(field)
		again, err := rundown.SetFact(place, was, field, shown, "")
		require.NoError(t, err, "%s shows %q for %q", field, shown, typed)
		if field != "price_minor" {
			require.Equal(t, shown, rundown.Saying(place, again).Text(field), "%s, typed %q", field, typed)
		}
	})
}

func TestALabToShowToOthersHasNothingPrivateInIt(t *testing.T) {
	text, err := os.ReadFile("testdata/good/parts.rundown")
	require.NoError(t, err)
	l := fresh(t, string(text))
	whole, shown := rundown.Print(l), rundown.Print(lab.WithoutPrivate(l))
	for _, private := range []string{"4K-112", "ZZ 1", "10.20.0.12", "anvil.home.arpa", "Q-17"} {
		assert.Contains(t, whole, private)
		assert.NotContains(t, shown, private)
	}
	assert.Contains(t, shown, "paid £240 used 2024-03")
	const private = 5 // facts: anvil's remote, web, serial and private, a drive's serial
	assert.Equal(t, strings.Count(whole, ",")-private, strings.Count(shown, ","), "nothing else is missing")
}
