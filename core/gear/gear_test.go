package gear_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

func device(t *testing.T, l *lab.Lab, name string) lab.Device {
	t.Helper()
	id, ok := rundown.DeviceNamed(l)(name)
	require.True(t, ok, name)
	d, _ := lab.Find[lab.Device](l, id)
	return d
}

func TestTotals(t *testing.T) {
	l := labtest.From(t, `rack "Pantry": 24U
12-13 server "anvil": 2 sockets, 16 memory slots, 16GB a slot, 8 bays 3.5in, 2x 8-core, 6x 16GB ram, 4x 8TB hdd, 2x 1TB ssd
5 server "ember": 4 bays 3.5in
   socket 1 processor
   bay 2 drive: ssd
spare drive: 4TB
ordered 2x memory: 8GB`)
	a := gear.TotalsOf(l, device(t, l, "anvil"))
	assert.Equal(t, gear.Amount{Known: 16}, a.Cores)
	assert.Equal(t, gear.Amount{Unknown: 2}, a.Threads)
	assert.Equal(t, gear.Amount{Known: 6 * 16 << 30}, a.MemoryBytes)
	assert.Equal(t, int64(256<<30), *a.MemoryMost, "16 slots of 16 GB")
	assert.Equal(t, gear.Amount{Known: 34_000_000_000_000}, a.RawBytes)
	assert.Equal(t, 6, a.Bays.Taken)
	assert.Equal(t, 8, *a.Bays.Of)
	assert.Nil(t, a.Slots.Of)
	all := gear.Totalled(l)
	assert.Equal(t, gear.Amount{Known: 16, Unknown: 1}, all.Cores, "at least 16")
	assert.Equal(t, gear.Amount{Known: 34_000_000_000_000, Unknown: 1}, all.RawBytes)
	assert.Equal(t, []int{12, 7, 1, 2}, []int{all.Bays, all.BaysTaken, all.Spares, all.Ordered})
}

func TestPartsThatDoNotGoIn(t *testing.T) {
	for name, c := range map[string]struct{ device, part, say string }{
		"too large for the bay":         {"2 bays 2.5in", "bay 1 drive: 3.5in, 8TB", "the bay is 2.5in and the drive 3.5in"},
		"smaller ones go in":            {"2 bays 3.5in sata", "bay 1 drive: 2.5in, sata", ""},
		"another interface":             {"2 bays 2.5in sata", "bay 1 drive: nvme", "the bay is wired for sata and the drive is nvme"},
		"SATA in a SAS bay":             {"2 bays 2.5in sas", "bay 1 drive: sata", ""},
		"SAS in a SATA bay":             {"2 bays 2.5in sata", "bay 1 drive: sas", "the bay is wired for sata and the drive is sas"},
		"the second group of bays":      {"2 bays 3.5in, 1 bays m.2 nvme inside", "bay 3 drive: 3.5in", "the bay is m.2"},
		"an older memory":               {"4 memory slots, memory type ddr4", "slot 1 memory: 8GB, type \"ddr3 ecc\"", "the slots are for ddr4 and it is ddr3 ecc"},
		"a module larger than its slot": {"4 memory slots, 16GB a slot", "slot 2 memory: 32GB", "a slot takes 16GB at most"},
		"a longer card":                 {"1 slots x16 170mm", "slot 1 card: 267mm long", "it is 267 mm long and the slot takes 170 mm"},
		"a wider card":                  {"1 slots x16", "slot 1 card: 2 wide", "it is 2 slots wide and there is room for 1"},
		"a higher card":                 {"1 slots x16 half height", "slot 1 card: full height", "the slot is of half height"},
		"a longer connector":            {"1 slots x4", "slot 1 card: 8 lanes", "its connector has 8 lanes and the slot 4"},
		"a chassis too low":             {"40mm high, 1 slots x16", "slot 1 card: full height", "a card of full height needs 111.15 mm"},
		"another socket":                {"1 sockets, socket type B3", "socket 1 processor: for socket C1", "the socket is B3 and it is for C1"},
		"a faster module in a cage":     {"2 ports sfp 1G", "cage 1 transceiver: for sfp+", "the cage is sfp and it is for sfp+"},
		"a slower one":                  {"2 ports sfp+ 10G", "cage 2 transceiver: for sfp", ""},
		"loose inside":                  {"2 bays 2.5in", "loose drive: 3.5in", ""},
	} {
		l := labtest.From(t, "rack \"R\": 4U\n1 server \"x\": "+c.device+"\n   "+c.part)
		troubles := gear.Troubles(l, device(t, l, "x"))
		if c.say == "" {
			assert.Empty(t, troubles, name)
			continue
		}
		require.Len(t, troubles, 1, name)
		assert.Contains(t, troubles[0].Say, c.say, name)
		assert.True(t, troubles[0].Sure)
	}
}

func TestWhatPartsComeToTogether(t *testing.T) {
	for want, text := range map[string]string{
		"x has 48GB of memory and takes 32GB at most.":          "32GB memory at most, 3x 16GB ram",
		"x has memory of 2 types in it: ddr4, ddr4 registered.": "4 memory slots\n   slot 1 memory: type ddr4\n   slot 2 memory: type \"ddr4 registered\"",
		"x has memory modules of 2 sizes: 8GB, 16GB.":           "1x 8GB ram, 1x 16GB ram",
		"The cards in x want 3 power leads and there are 2.":    "2 power leads, 2 slots x16\n   slot 1 card: 2 power leads\n   slot 2 card: 1 power leads",
		"The cards in x want 2 power leads and there are 1.":    "4 power leads, 1 slots x16\n   slot 1 card: 2 power leads\n   bay 1 supply: 1 power leads",
	} {
		l := labtest.From(t, "rack \"R\": 4U\n1 server \"x\": "+text)
		troubles := gear.Troubles(l, device(t, l, "x"))
		require.Len(t, troubles, 1, want)
		assert.Equal(t, want, troubles[0].Say)
	}
}

func TestGapsDependOnTheKind(t *testing.T) {
	l := labtest.From(t, `rack "Pantry": 24U
4 server "anvil": for "all", model R2, 710mm deep, 24kg, by its ears, 2 supply bays, nobody knows "idle_w"
3 blanking panel
2 shelf "s": 300mm deep, holds 10kg:
    mini pc "wren": 2 ports rj45 1G
1 switch "old", leaving
`)
	fields := func(name string) (list []string) {
		for _, g := range gear.GapsOf(l, device(t, l, name)) {
			list = append(list, g.Field)
		}
		return
	}
	assert.Equal(t, []string{"ports", "bays", "parts:drive", "sockets", "parts:processor", "memory_slots", "parts:memory", "most_w"},
		fields("anvil"), "width does not matter for what hangs by its ears")
	assert.Equal(t, []string{"purpose", "model", "parts:drive", "parts:processor", "parts:memory", "idle_w", "most_w"}, fields("wren"),
		"depth is for what is mounted")
	assert.Empty(t, fields("old"))
	id, _ := l.Named(lab.KindRack, "Pantry")
	r, _ := lab.Find[lab.Rack](l, id)
	walk := gear.WalkOf(l, r)
	assert.Equal(t, device(t, l, "anvil").ID, walk.Gaps[0].Device)
	assert.Equal(t, device(t, l, "wren").ID, walk.Gaps[len(walk.Gaps)-1].Device)
	// anvil: 16 questions, the width apart, 8 of them open; the shelf's two are
	// answered; wren has 9, of which name and ports are.
	assert.Equal(t, []int{8 + 2 + 2, 16 + 2 + 9}, []int{walk.Known, walk.Of})
}

func TestMoney(t *testing.T) {
	l := labtest.From(t, `lab "L", currency GBP
rack "R": 9U
1 server "a": paid 240 used 2024-03, warranty until 2027-01-10, yearly "support" 60 until 2026-12, yearly "space"
2 switch "b": paid 99.50 new 2024
3 ups "c": got for free
   loose battery: put in 2022-05, chemistry lead-acid
4 nas "d"
5 blanking panel
spare drive: 4TB, paid 80, return until 2026-11-25
spare drive: 4TB, warranty until 2026-01-01
`)
	m := gear.Money(l, "2026-11-23")
	assert.Equal(t, []gear.Spent{{Year: 2024, New: 9950, Used: 24000, All: "£339.50", Things: 2}, {Other: 8000, All: "£80", Things: 1}},
		m.Spent)
	assert.Equal(t, int64(41950), m.PaidMinor)
	assert.Equal(t, []int{1, 1, 1}, []int{m.Unpriced, m.Free, m.YearlyOpen}, "d has no price; c was free; a panel needs none")
	assert.Equal(t, int64(6000), m.YearlyMinor)
	var ends []string
	for _, e := range m.Endings {
		ends = append(ends, fmt.Sprintf("%s %s %s %d", e.Title, e.What, e.Last, e.Days))
	}
	assert.Equal(t, []string{"drive return 2026-11-25 2", "a support 2026-12-31 38", "a warranty 2027-01-10 48",
		"battery battery 2027-05-31 189"}, ends, "a warranty that is long over is left out")
}

// About sixty sheets come with the program: no maker's name, no two alike, and
// each says what matters most for its kind.
func TestTheGenericSheets(t *testing.T) {
	sheets, err := gear.Generic()
	require.NoError(t, err)
	assert.GreaterOrEqual(t, len(sheets), 60)
	seen := map[lab.ID]bool{}
	var changes []lab.Change
	for _, s := range sheets {
		assert.False(t, seen[s.ID], "%s", s.ID)
		seen[s.ID] = true
		assert.Empty(t, s.Maker+s.Model, s.Name)
		assert.NotNil(t, s.DepthMM, s.Name)
		assert.NotNil(t, s.WidthMM, s.Name)
		assert.NotNil(t, s.WeightKG, s.Name)
		assert.NotEmpty(t, s.Mount, s.Name)
		changes = append(changes, lab.Change{After: s})
	}
	_, err = lab.New().Apply(changes)
	assert.NoError(t, err)
}

func TestWhatEndsIsReckonedInDays(t *testing.T) {
	l := labtest.From(t, "rack \"R\": 4U\n1 server \"x\": return until 2026-11-23, warranty until 2026-11-22")
	m := gear.Money(l, "2026-11-23")
	require.Len(t, m.Endings, 2)
	assert.Equal(t, []int{-1, 0}, []int{m.Endings[0].Days, m.Endings[1].Days})
	assert.Equal(t, lab.KindDevice, m.Endings[0].Record.Kind)
}

// Of a computer of which nothing is known a sum is "at least"; what has no
// memory by its kind leaves it exact.
func TestTotalsAreExactWhereOnlyPassiveThingsLackAFigure(t *testing.T) {
	write := text.MemoryText
	for lines, want := range map[string]string{
		"9 server \"a\": 64GB\n8 patch panel \"P\"\n7 switch \"s\"": "64GB",
		"9 server \"a\": 64GB\n8 server \"b\"":                      "at least 64GB",
		"9 server \"a\": 64GB\n8 nas \"n\"\n7 laptop \"l\": 16GB\n": "at least 80GB",
		"9 server \"a\"": "",
	} {
		l := labtest.From(t, "rack \"R\": 9U\n"+lines)
		assert.Equal(t, want, gear.Totalled(l).MemoryBytes.Text(write), lines)
	}
}

// Of a switch it is asked whether it is managed, and of one that is which VLAN its
// ports carry, where there are VLANs; of a cable with an open end where it leads.
func TestTheWalkAsksWhatNobodyWroteDownOfTheNetwork(t *testing.T) {
	asks := func(text string) string {
		l := labtest.From(t, "rack \"R\": 3U\n3 switch \"core\": 4 ports rj45 1G\n"+text)
		var said []string
		for _, r := range slices.Collect(lab.Each[lab.Rack](l)) {
			for _, g := range gear.WalkOf(l, r).Gaps {
				if g.Field == "management" || g.Field == "untagged" || g.Field == "addresses" || g.Cable != "" {
					said = append(said, g.Question)
				}
			}
		}
		return strings.Join(said, " ")
	}
	const (
		managed  = "Is it managed, so that it can be told what its ports carry?"
		untagged = "Which VLAN do its ports carry untagged, unless something else is said?"
	)
	assert.Equal(t, managed, asks(""))
	assert.Equal(t, managed, asks("vlan 20\n"))
	assert.Equal(t, untagged, asks("vlan 20\ncore/1 tagged 20\n"))
	assert.Empty(t, asks("vlan 20\ncore: managed, untagged 20\n"))
	const address = "Which address does its management answer at?"
	assert.Equal(t, address, asks("subnet 10.99.0.0/24\ncore: managed, untagged 20\n"))
	assert.Empty(t, asks("subnet 10.99.0.0/24\ncore: managed, untagged 20\ncore 10.99.0.2\n"))
	assert.Equal(t, address, asks("subnet 10.99.0.0/24\ncore: unmanaged, 1 ports rj45 called \"mgmt\"\ncore 10.99.0.2\n"),
		"that is not of the port")
	assert.Empty(t, asks("subnet 10.99.0.0/24\ncore: unmanaged, 1 ports rj45 called \"mgmt\"\ncore 10.99.0.2 on mgmt\n"))
	assert.Equal(t, "Where does the cable in core/2 lead?", asks("core: unmanaged\ncore/2 - ? cat6\n"))
}

// Where circuits are written down, a walk asks where supplies are plugged in.
func TestTheWalkAsksWhereSuppliesArePluggedIn(t *testing.T) {
	const things = "? power strip \"tower\": 4 outlets uk\n? nas \"silo\": 2 supply bays\ntower/out1 - silo/in1\n"
	asked := func(text string) []string {
		l := labtest.From(t, text+things)
		var said []string
		for _, g := range gear.GapsOf(l, device(t, l, "silo")) {
			if strings.HasPrefix(g.Field, gear.Plugged) {
				said = append(said, g.Question)
			}
		}
		return said
	}
	assert.Equal(t, []string{"Where is in2 of silo plugged in?"}, asked("circuit \"kitchen\": 16A\n"))
	assert.Empty(t, asked(""))
}
