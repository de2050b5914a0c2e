package rundown_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// edits is what loading a text into a lab would do, in words.
func edits(t *testing.T, base *lab.Lab, text string, opt rundown.Options) []string {
	t.Helper()
	ids := counter()
	opt.NewID = func() lab.ID { return "n" + ids() }
	p := load(t, base, text, opt)
	said := []string{}
	for _, m := range p.Mistakes {
		said = append(said, m.Error())
	}
	for _, e := range rundown.Edits(base, p.Lab, p.Changes) {
		said = append(said, e.String())
	}
	return said
}

// How devices of an edited text are recognised.
func TestWhatIsTheSameThing(t *testing.T) {
	for _, c := range []struct {
		name, before, after string
		want                []string
	}{
		{"a name in another case is the same, with the new spelling", "? server \"Anvil\"", "? server \"anvil\"", []string{"Anvil renamed to anvil"}},
		{"a thing may become another kind", "? server \"anvil\"", "? nas \"anvil\"", []string{"anvil: kind nas (was server)"}},
		{"of two of one name the kind tells which", "? server \"x\": 1kg\n? nas \"x\": 2kg", "? nas \"x\": 2kg\n? server \"x\": 3kg", []string{"x: weight 3 kg (was 1 kg)"}},
		{"of two of one name and kind the units tell which", "rack \"R\": 9U\n9 nas \"x\": 1kg\n5 nas \"x\": 2kg", "rack \"R\": 9U\n9 nas \"x\": 1kg\n5 nas \"x\": 3kg", []string{"x: weight 3 kg (was 2 kg)"}},
		{"what has no name is told by its units", "rack \"R\": 9U\n9 brush panel", "rack \"R\": 9U\n9 brush panel: 1U high", []string{"brush panel: height 1U (was unknown)"}},
		{"a thing without a name gets one", "rack \"R\": 9U\n9 switch", "rack \"R\": 9U\n9 switch \"core\"", []string{"switch renamed to core"}},
		{"a name that is left out survives", "rack \"R\": 9U\n9 switch \"core\"", "rack \"R\": 9U\n9 switch", nil},
		{"one of the kind on the shelf was renamed", "? shelf \"s\":\n  sbc \"finch\"", "? shelf \"s\":\n  sbc \"wren\"", []string{"finch renamed to wren"}},
		{"with two new ones on the shelf nobody was renamed", "? shelf \"s\":\n  sbc \"finch\"\n  sbc \"robin\"", "? shelf \"s\":\n  sbc \"wren\"\n  sbc \"tern\"",
			[]string{`single-board computer "wren" added on s`, `single-board computer "tern" added on s`, `single-board computer "finch" removed`, `single-board computer "robin" removed`}},
		{"a place was renamed", "place \"Loft\"\n  camera", "place \"Attic\"\n  camera", []string{"Loft renamed to Attic"}},
		{"with two new places none was renamed", "place \"A\"\nplace \"B\"", "place \"C\"\nplace \"D\"", []string{`place "C" added`, `place "D" added`, `place "A" removed`, `place "B" removed`}},
		{"a rack goes with what is in it", "rack \"R\": 9U\n9 switch \"core\"\nrack \"S\": 9U", "rack \"S\": 9U", []string{`switch "core" removed`, `rack "R" removed`}},
		{"a thing that stays when its rack goes has moved", "rack \"R\": 9U\n9 switch \"core\"\nplace \"Desk\"", "place \"Desk\"\n  switch \"core\"", []string{"core moved from R 9 to Desk", `rack "R" removed`}},
		{"two things swap", "rack \"R\": 9U\n9 switch \"a\"\n8 switch \"b\"", "rack \"R\": 9U\n9 switch \"b\"\n8 switch \"a\"", []string{"b moved from R 8 to R 9", "a moved from R 9 to R 8"}},
		{"things on a shelf change their order", "? shelf \"s\":\n  sbc \"a\"\n  sbc \"b\"", "? shelf \"s\":\n  sbc \"b\"\n  sbc \"a\"", []string{"a: order changed"}},
		{"one that comes between takes a turn of its own", "? shelf \"s\":\n  sbc \"a\"\n  sbc \"b\"", "? shelf \"s\":\n  sbc \"a\"\n  hub \"c\"\n  sbc \"b\"", []string{`hub "c" added on s`, "b: order changed"}},
		{"a rack moves to a place that comes further down", "rack \"R\": 9U\nplace \"Loft\"", "rack \"R\": 9U, in \"Loft\"\nplace \"Loft\"", []string{"R moved from no place to in \"Loft\""}},
		{"a fact becomes unknown", "? server \"a\": 4kg, 2U high", "? server \"a\": ? heavy, 2U high", []string{"a: weight unknown (was 4 kg)"}},
		{"a note is changed by a comment", "? server \"a\"  # old", "? server \"a\"  # new", []string{`a: notes "new" (was "old")`}},
		{"the lab's settings", "lab \"A\", currency GBP", "lab \"B\", currency EUR, mains 120V", []string{"A renamed to B", "B: currency EUR (was GBP), mains voltage 120 V (was unknown)"}},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := edits(t, fresh(t, c.before), c.after, rundown.Options{All: true})
			assert.ElementsMatch(t, c.want, got)
		})
	}
}

func TestATextThatAddsRemovesNothing(t *testing.T) {
	base := fresh(t, quarry(t))
	got := edits(t, base, "rack \"Pantry\"\n7 switch \"attic\"\nplace \"Shed\"", rundown.Options{})
	assert.ElementsMatch(t, []string{`switch "attic" added at Pantry 7`, `place "Shed" added`}, got)
}

func TestMistakesThatOnlyTheLabShows(t *testing.T) {
	base := fresh(t, quarry(t))
	for text, want := range map[string]string{
		"rack \"Pantry\": 12U":                         "1:16: height: “Pantry” has 12U and ",
		"rack \"Pantry\"\n13 switch \"x\"":             "2:1: “x” cannot take 13 at the front of “Pantry”: “anvil” takes 12-13 there",
		"? server \"" + strings.Repeat("x", 81) + "\"": "1:1: name: is 81 characters long; at most 80 are allowed",
		"rack \"New\": 9U, in \"Lofft\"":               "1:17: there is no place called “Lofft”: did you mean “Loft”?; a line such as place \"Lofft\" makes it",
		"on \"nowhere\" hub":                           "1:1: there is no device called “nowhere”",
		"lab \"x\", currency pounds":                   "1:10: currency: “pounds” is not a currency code; write three letters such as GBP, EUR or USD",
		"rack":                                         "1:1: say what the rack is called, such as rack \"Pantry\"",
	} {
		got := edits(t, base, text, rundown.Options{})
		require.NotEmpty(t, got, text)
		assert.True(t, strings.HasPrefix(got[0], want), "%s\nsaid   %s\nwanted %s", text, got[0], want)
	}
}

func TestForgettingCountsForSectionsToo(t *testing.T) {
	base := fresh(t, quarry(t))
	text := strings.Replace(quarry(t), "24U, 19in, 800mm deep, holds 300kg", "24U, 19in", 1)
	assert.Empty(t, edits(t, base, text, rundown.Options{All: true}))
	assert.Equal(t, []string{"Pantry: depth unknown (was 800 mm), load it may carry unknown (was 300 kg)"},
		edits(t, base, text, rundown.Options{All: true, Forget: true}))
}

func TestLabelsAreShort(t *testing.T) {
	base := fresh(t, quarry(t))
	p := load(t, base, "", rundown.Options{All: true})
	assert.Equal(t, "21 removed", rundown.Label(rundown.Edits(base, p.Lab, p.Changes)))
	p = load(t, base, strings.Replace(quarry(t), "24kg", "25kg", 1), rundown.Options{All: true})
	assert.Equal(t, "anvil: weight 25 kg (was 24 kg)", rundown.Label(rundown.Edits(base, p.Lab, p.Changes)))
}

func TestWhereAThingIsInASentence(t *testing.T) {
	l := fresh(t, quarry(t)+"on \"leads\" other \"crimper\"\n")
	for name, want := range map[string]string{
		"silo": "Pantry 9-11", "finch": "on sbc shelf", "strip B": "Pantry 5 rear", "loft ap": "Loft", "old core": "not placed yet",
		"pantry ap": "on top of Pantry", "tower": "left side of Pantry", "crimper": "in leads",
	} {
		assert.Equal(t, want, rundown.WhereWords(l, named(t, l, name)))
	}
}

// Whatever a lab has in it, its text loads to the same lab.
func TestRandomLabsComeBackTheSame(t *testing.T) {
	for seed := range uint64(60) {
		l := random(t, rand.New(rand.NewPCG(seed, 1)))
		text := rundown.Print(l)
		p := load(t, l, text, rundown.Options{All: true, Forget: true})
		require.Empty(t, p.Mistakes, "seed %d\n%s", seed, text)
		require.Empty(t, p.Changes, "seed %d\n%s", seed, text)
		require.Equal(t, text, rundown.Print(fresh(t, text)), "seed %d", seed)
	}
}

func random(t *testing.T, rnd *rand.Rand) *lab.Lab {
	t.Helper()
	l := lab.New()
	try := func(r lab.Record) {
		if c, ok := l.Put(r); ok {
			if next, err := l.Apply([]lab.Change{c}); err == nil {
				l = next
			}
		}
	}
	pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
	some := func(v float64) *float64 {
		if rnd.IntN(2) == 0 {
			return nil
		}
		return &v
	}
	names := []string{"", "a", `q"uote`, `back\slash`, "with # and : and ,", "7", "spare", "日本", "12-13", "left", "? maybe"}
	try(lab.Settings{ID: lab.SettingsID, Name: pick(names...), Currency: pick("", "EUR"), MainsV: some(230),
		Numbering: lab.Numbering(pick("bottom", "top"))})
	for i := range 3 {
		try(lab.Place{ID: lab.ID(fmt.Sprint("p", i)), Name: fmt.Sprintf("place %d", i), In: lab.ID(pick("", "p0", "p1")),
			Notes: pick("", "a note", "two\nlines")})
		try(lab.Rack{ID: lab.ID(fmt.Sprint("r", i)), Name: fmt.Sprintf("rack %d", i), Place: lab.ID(pick("", "p0")), HeightU: 4 + rnd.IntN(20),
			Form:    lab.RackForm(pick("", "19in", "10in", "own")),
			DepthMM: some(812.5), HoldsKG: some(33.3), Stance: lab.Stance(pick("", "wall", "castors", "standing")), Notes: pick("", "# hash")})
	}
	for i := range 3 {
		try(lab.Circuit{ID: lab.ID(fmt.Sprint("k", i)), Name: pick("kitchen ", "rack ", "7 of ") + fmt.Sprint(i),
			Amps: some(16.5), Volts: some(230),
			Poles: maybe(rnd, 1+rnd.IntN(3)), Hours: some(0.75), Place: lab.ID(pick("", "p0")), Notes: pick("", "# hash"),
			Remarked: lab.Remarked{Remarks: randomRemarks(rnd)}})
		try(lab.SpecSheet{ID: lab.ID(fmt.Sprint("s", i)), Name: fmt.Sprintf("sheet %d", i), Kind: anyKind(rnd),
			Notes: pick("", "# hash", "two\nlines"), Spec: randomSpec(rnd)})
	}
	for i := range 40 {
		takes := 1 + rnd.IntN(3)
		d := lab.Device{ID: lab.ID(fmt.Sprintf("d%02d", i)), Name: pick(names...), Kind: anyKind(rnd),
			State: lab.States()[rnd.IntN(6)], Purpose: pick("", "this, that", `"quoted"`),
			Notes: pick("", "short", "long\nand\ttabbed", "ends with #"),
			Spec: lab.Spec{HeightMM: some(44.45 * float64(1+rnd.IntN(4))), WidthMM: some(0.1 + rnd.Float64()*400 + 1),
				WeightKG: some(rnd.Float64()*30 + 0.01)}, Sheet: lab.ID(pick("", "", "s0", "s1")), Money: randomMoney(rnd)}
		if rnd.IntN(4) == 0 {
			d.Spec = randomSpec(rnd)
			d.Remote, d.Console, d.Serial, d.Why = pick("", "10.0.0.1"), pick("", "kvm, input 3"), pick("", `4"K`), pick("", "cheap")
			d.Private = []lab.Entry{{Name: "pin", Value: pick("1234", "a b")}}[:rnd.IntN(2)]
			d.Links = []string{"https://example.org/a#b", "http://x.test/?q=1,2"}[:rnd.IntN(3)]
			d.Never = []string{"idle_w", "model"}[:rnd.IntN(3)]
		}
		d.Remarks = randomRemarks(rnd)
		d.Powered = randomPowered(rnd)
		if d.Kind == lab.Other {
			d.Own = pick("", "kiln", "air conditioner", "switch", "rack", "7", `a "b"`)
		}
		if rnd.IntN(2) == 0 {
			d.TakesU = &takes
		}
		rack := lab.ID(pick("r0", "r1", "r2"))
		switch rnd.IntN(6) {
		case 0, 1, 2:
			d.TakesU = &takes
			d.At = lab.At(rack, 1+rnd.IntN(20), lab.Faces()[rnd.IntN(2)])
			d.At.Share = lab.Shares()[rnd.IntN(6)]
		case 3:
			d.At = &lab.Spot{Where: lab.Where(pick("left", "right", "top", "under")), Rack: rack, Order: i + 1}
		case 4:
			d.At = &lab.Spot{Where: lab.OnDevice, Device: lab.ID(fmt.Sprintf("d%02d", rnd.IntN(i+1))), Order: i + 1}
		case 5:
			d.At = &lab.Spot{Where: lab.InPlace, Place: lab.ID(pick("p0", "p1")), Order: i + 1}
		}
		try(tidy(d))
	}
	for i := range 50 {
		p := lab.Part{ID: lab.ID(fmt.Sprintf("q%02d", i)), Name: pick("", "", fmt.Sprint("part ", i), "twin"), Kind: lab.PartKinds()[rnd.IntN(8)],
			State:  lab.States()[rnd.IntN(6)],
			Device: lab.ID(fmt.Sprintf("d%02d", rnd.IntN(40))), Seat: rnd.IntN(6), Maker: pick("", "Fell"), Serial: pick("", "Z 1"),
			Notes: pick("", "clicks", "a\nb"), Money: randomMoney(rnd)}
		if rnd.IntN(4) == 0 {
			p.Device, p.Seat, p.Ordered = "", 0, rnd.IntN(2) == 0
		}
		p.Remarks = randomRemarks(rnd)
		randomPart(rnd, &p)
		try(p)
	}
	for i := range 30 {
		try(randomCable(rnd, l, i))
	}
	return l
}

func anyKind(rnd *rand.Rand) lab.DeviceKind {
	return lab.ThingKinds()[rnd.IntN(len(lab.ThingKinds()))]
}

// randomRemarks are phrases as they might be kept, some that read as something
// else where they stand bare.
func randomRemarks(rnd *rand.Rand) []string {
	all := []string{"not bolted", "1500VA", "64GB", "24 ports rj45", "a, b; c: d", `lid "off"`, "?kg", "faulty", "2 psus", "10G", "3m slack",
		"over the door", "on 07:00-23:00", "1,5m", "# one", "keep/? - anvil", "x"}
	rnd.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	if n := rnd.IntN(4); n < 3 {
		return append([]string(nil), all[:n]...)
	}
	return nil
}

// randomCable goes between any two ports of a lab, also those nobody knows.
func randomCable(rnd *rand.Rand, l *lab.Lab, i int) lab.Cable {
	pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
	c := lab.Cable{ID: lab.ID(fmt.Sprintf("c%02d", i)), Label: pick("", "", fmt.Sprint("L", i)), Kind: lab.CableKind(pick("",
		"cat6", "type-f", "dac")),
		Colour: lab.Colour(pick("", "yellow", "#3a6ea5")), LengthM: maybe(rnd, 1.25), State: lab.CableState(pick("in_use", "faulty")),
		Way: lab.Way(pick("", "over", "back")), SpeedMb: maybe(rnd, 300), Remarked: lab.Remarked{Remarks: randomRemarks(rnd)},
		Notes: pick("", "a note", "a\nb")}
	for _, end := range []**lab.End{&c.A, &c.B} {
		d, ok := lab.Find[lab.Device](l, lab.ID(fmt.Sprintf("d%02d", rnd.IntN(40))))
		if !ok || rnd.IntN(6) == 0 {
			continue
		}
		e := lab.End{Device: d.ID, Port: lab.UnknownPort(i + 1)}
		if ports := l.PortsOf(d); ports.Len() > 0 && rnd.IntN(4) > 0 {
			e.Port, e.Rear = ports.Key(rnd.IntN(ports.Len())), ports.Joined() && rnd.IntN(2) == 0
		}
		*end = &e
	}
	if c.A == nil && c.B == nil {
		c.State = "spare"
	}
	return c
}

// tidy makes lists that came out empty nil, as they are where they are left out.
func tidy(d lab.Device) lab.Device {
	if len(d.Private) == 0 {
		d.Private = nil
	}
	if len(d.Links) == 0 {
		d.Links = nil
	}
	if len(d.Never) == 0 {
		d.Never = nil
	}
	return d
}

func maybe[T any](rnd *rand.Rand, v T) *T {
	if rnd.IntN(3) > 0 {
		return nil
	}
	return &v
}

func randomSpec(rnd *rand.Rand) lab.Spec {
	pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
	s := lab.Spec{Maker: pick("", "Fell"), Model: pick("", "R 2", `14"`), DepthMM: maybe(rnd, 710.5), FrontMM: maybe(rnd, 35.0),
		HoldsKG: maybe(rnd, 15.0),
		Mount:   lab.Mount(pick("", "ears", "rails", "none")), RailMM: maybe(rnd, 9.0), RailFromMM: maybe(rnd, 600.0),
		RailToMM:    maybe(rnd, 850.0),
		MemorySlots: maybe(rnd, 16), MemoryType: pick("", "ddr4 registered"), MemorySlotBytes: maybe(rnd, int64(16<<30)),
		MemoryMostBytes: maybe(rnd, int64(1000<<20)),
		Sockets:         maybe(rnd, 2), SocketType: pick("", "B3"), SupplyBays: maybe(rnd, 2), SupplyW: maybe(rnd, 550.0),
		SupplyGrade: lab.Grade(pick("", "gold")), SuppliesNeeded: maybe(rnd, 1),
		PowerLeads: maybe(rnd, 2), StandbyW: maybe(rnd, 0.5), IdleW: maybe(rnd, 120.0), TypicalW: maybe(rnd, 160.0), MostW: maybe(rnd, 310.25),
		PoEBudgetW: maybe(rnd, 195.0),
		NoiseDB:    maybe(rnd, 0.0), TempFromC: maybe(rnd, -5.0), TempToC: maybe(rnd, 35.5), FiguresBy: pick("", "the label, at the back")}
	if rnd.IntN(2) == 0 {
		s.Ports = []lab.PortGroup{{Count: 1 + rnd.IntN(48), Connector: pick("rj45", "sfp+", "usb-a", "", "cage", "odd one", "coax"),
			SpeedsMb: [][]int{nil, {1000}, {100, 2500, 10000}}[rnd.IntN(3)], Rows: rnd.IntN(3),
			Numbering: lab.PortNumbering(pick("", "down", "across")),
			First:     rnd.IntN(2) * 7, Face: lab.Face(pick("", "rear")), PoEOut: rnd.IntN(5), PoEIn: maybe(rnd, 3),
			Name: pick("", "eth", "port no.")},
			{Count: 2, Connector: "hdmi", ZeroBased: true}}
		s.Bays = []lab.BayGroup{{Count: 4, Form: "3.5in", Interfaces: [][]string{nil, {"sata"}, {"sata", "sas"}}[rnd.IntN(3)]},
			{Count: 2, Form: "m.2", Side: lab.Side(pick("", "rear", "inside"))}}
		s.Slots = []lab.SlotGroup{{Count: 2, Lanes: []int{0, 16}[rnd.IntN(2)], Wired: []int{0, 8}[rnd.IntN(2)],
			Height:   lab.CardHeight(pick("", "half")),
			LengthMM: maybe(rnd, 267.0), Wide: rnd.IntN(3)}}
		s.Outlets = []lab.OutletGroup{{Count: 8, Connector: pick("c13", "uk", "", "type-f", "own plug"), Battery: rnd.IntN(2) == 0,
			Face: lab.Face(pick("", "rear")), Switched: rnd.IntN(2) == 0}, {Count: 2, Filtered: true, Metered: true}}
		s.Rating = lab.Rating{RatedVA: maybe(rnd, 1500.0), RatedW: maybe(rnd, 900.0), RatedA: maybe(rnd, 10.5),
			GivesV: maybe(rnd, 19.5), TakesV: maybe(rnd, 12.0),
			Efficiency: maybe(rnd, 0.925), Factor: maybe(rnd, 0.95), BootW: maybe(rnd, 410.0)}
	}
	return s
}

func randomPowered(rnd *rand.Rand) lab.Powered {
	pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
	p := lab.Powered{Circuit: lab.ID(pick("", "", "k0", "k1")), OneByOne: rnd.IntN(3) == 0, Bypass: rnd.IntN(4) == 0,
		RunTimes: [][]lab.RunTime{nil, {{From: "07:00", To: "23:00"}}, {{Hours: 4, Every: lab.EveryDay, Level: lab.AtMost}, {Hours: 2.5,
			Every: lab.EveryWeek, Level: lab.AtIdle}}}[rnd.IntN(3)]}
	for _, m := range []**lab.Measurement{&p.Measured, &p.Behind} {
		if rnd.IntN(2) == 0 {
			w := float64(rnd.IntN(3)) * 37.5
			*m = &lab.Measurement{W: &w, On: lab.When(pick("", "2026-11-20")), By: pick("", "plug meter", `a "good" one, by hand`)}
		}
	}
	return p
}

func randomMoney(rnd *rand.Rand) lab.Money {
	when := func() lab.When { return []lab.When{"", "2024", "2024-03", "2024-03-09"}[rnd.IntN(4)] }
	m := lab.Money{PriceMinor: maybe(rnd, int64(24050)), BoughtOn: when(), Got: []lab.Got{"", "new", "used", "free"}[rnd.IntN(4)],
		WarrantyUntil: when(), ReturnUntil: when()}
	if rnd.IntN(3) == 0 {
		m.Yearly = []lab.Yearly{{What: "support, all of it", Minor: maybe(rnd, int64(6000)), EndsOn: when()}, {What: "space"}}
	}
	return m
}

// randomPart gives a part what its sort can have.
func randomPart(rnd *rand.Rand, p *lab.Part) {
	pick := func(list ...string) string { return list[rnd.IntN(len(list))] }
	switch p.Kind {
	case lab.Drive:
		p.SizeBytes, p.Form, p.Medium, p.Interface = maybe(rnd, int64(8_000_000_000_001)), lab.Form(pick("", "3.5in", "m.2")),
			lab.Medium(pick("", "hdd", "ssd")), pick("", "sata", "nvme")
		p.Recording, p.Hours, p.RPM = pick("", "smr"), maybe(rnd, 21400.5), maybe(rnd, 7200.0)
	case lab.Memory:
		p.SizeBytes, p.MemoryType = maybe(rnd, int64(3<<29)), pick("", "ddr4 ecc")
	case lab.Processor:
		p.Cores, p.Threads, p.BaseGHz, p.DesignW, p.SocketType = maybe(rnd, 8), maybe(rnd, 16), maybe(rnd, 2.4), maybe(rnd, 85.0), pick("", "B3")
	case lab.Card:
		p.CardKind, p.Mode, p.Wide, p.LengthMM = lab.CardKind(pick("", "gpu", "network")), pick("", "passed through"), rnd.IntN(3),
			maybe(rnd, 267.0)
		p.CardHeight, p.Lanes, p.PowerLeads, p.SizeBytes = lab.CardHeight(pick("", "full", "half")), []int{0, 8}[rnd.IntN(2)], maybe(rnd, 2),
			maybe(rnd, int64(8<<30))
	case lab.Supply:
		p.GivesW, p.Grade, p.PowerLeads = maybe(rnd, 550.0), lab.Grade(pick("", "plain", "gold")), maybe(rnd, 0)
	case lab.Battery:
		p.Chemistry, p.PutIn = pick("", "lead-acid"), lab.When(pick("", "2022-05"))
	case lab.Transceiver:
		p.Connector, p.SpeedMb = pick("", "sfp+"), maybe(rnd, 10000)
	}
}
