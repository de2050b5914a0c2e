package rundown_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// counter makes ids that sort by age.
func counter() func() lab.ID {
	n := 0
	return func() lab.ID { n++; return lab.ID(fmt.Sprintf("%06d", n)) }
}

func load(t *testing.T, base *lab.Lab, text string, opt rundown.Options) rundown.Plan {
	t.Helper()
	if opt.NewID == nil {
		opt.NewID = counter()
	}
	return rundown.Load(base, rundown.Parse(text), opt)
}

func fresh(t *testing.T, text string) *lab.Lab {
	t.Helper()
	p := load(t, lab.New(), text, rundown.Options{All: true})
	require.Empty(t, p.Mistakes)
	return p.Lab
}

func named(t *testing.T, l *lab.Lab, name string) lab.Device {
	t.Helper()
	id, ok := rundown.DeviceNamed(l)(name)
	require.True(t, ok, "no device called %s", name)
	d, _ := lab.Find[lab.Device](l, id)
	return d
}

func quarry(t *testing.T) (text string) {
	t.Helper()
	data, err := os.ReadFile("testdata/good/quarry.rundown")
	require.NoError(t, err)
	return string(data)
}

// Each file in testdata/good loads without a mistake, and what is written
// back loads to the same lab and is written the same again.
func TestGoodTextsComeBackTheSame(t *testing.T) {
	files, _ := filepath.Glob("testdata/good/*.rundown")
	require.NotEmpty(t, files)
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			l := fresh(t, string(data))
			written := rundown.Print(l)
			same := load(t, l, written, rundown.Options{All: true, Forget: true})
			assert.Empty(t, same.Mistakes)
			assert.Empty(t, rundown.Edits(l, same.Lab, same.Changes))
			assert.Equal(t, written, rundown.Print(fresh(t, written)))
		})
	}
}

// Each file in testdata/mistakes has beside it what is said about it, line by
// line; a line of that may be the start of what is said.
func TestMistakesAreReportedWhereTheyAre(t *testing.T) {
	files, _ := filepath.Glob("testdata/mistakes/*.rundown")
	require.NotEmpty(t, files)
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			want, err := os.ReadFile(strings.TrimSuffix(file, ".rundown") + ".want")
			require.NoError(t, err)
			var said []string
			for _, m := range load(t, lab.New(), string(data), rundown.Options{All: true}).Mistakes {
				said = append(said, m.Error())
			}
			wanted := strings.Split(strings.TrimSpace(string(want)), "\n")
			require.Len(t, said, len(wanted), "%s", strings.Join(said, "\n"))
			for i := range wanted {
				assert.True(t, strings.HasPrefix(said[i], wanted[i]), "said  %s\nwanted %s", said[i], wanted[i])
			}
		})
	}
}

func TestTheLinesAroundAMistakeStillCount(t *testing.T) {
	p := load(t, lab.New(), "rack \"R\": 9U, 800furlong deep\n9 switch \"a\"\n8 swich \"b\"\n7 server \"c\", fualty: 4kg\n",
		rundown.Options{All: true})
	assert.Len(t, p.Mistakes, 3)
	assert.Equal(t, 9, named(t, p.Lab, "a").At.Unit)
	assert.Equal(t, 4.0, *named(t, p.Lab, "c").WeightKG)
	_, ok := rundown.DeviceNamed(p.Lab)("b")
	assert.False(t, ok)
}

func TestUnitsPeopleWrite(t *testing.T) {
	// Worked out by hand: 1 in = 25.4 mm, 1 lb = 0.45359237 kg, 1U = 44.45 mm.
	for said, want := range map[string]struct {
		field string
		value float64
	}{
		"17.5in deep": {"depth", 444.5}, `17.5" deep`: {"depth", 444.5}, "depth 32cm": {"depth", 320}, "0.71m deep": {"depth", 710},
		"9lb": {"weight", 4.082}, "weighs 850 g": {"weight", 0.85}, "44mm high": {"height", 44}, "2U high": {"height", 88.9}, "3U": {"height", 133.35},
	} {
		t.Run(said, func(t *testing.T) {
			d := named(t, fresh(t, "? server \"x\": "+said), "x")
			got := map[string]*float64{"depth": d.DepthMM, "weight": d.WeightKG, "height": d.HeightMM}[want.field]
			require.NotNil(t, got)
			assert.InDelta(t, want.value, *got, 1e-9)
		})
	}
}

func TestABareNumberOfUnitsIsTheHeightAndWhatItTakes(t *testing.T) {
	l := fresh(t, "rack \"R\": 12U\n3 server \"one\": 2U\n9-11 server \"board\": 2U\n? server \"later\": 1U\n5 server \"half\": 1.5U")
	assert.Equal(t, 2, named(t, l, "one").Units())
	assert.Equal(t, 3, named(t, l, "board").Units(), "the units it is at say what it takes")
	assert.Equal(t, 88.9, *named(t, l, "board").HeightMM)
	assert.Equal(t, 1, *named(t, l, "later").TakesU)
	assert.Equal(t, 2, named(t, l, "half").Units(), "what is a unit and a half high takes two")
}

func TestKindsAreReadAsTheyAreWritten(t *testing.T) {
	for _, kind := range lab.DeviceKinds() {
		for _, w := range []string{kind.Words(), strings.ToUpper(kind.Words()), rundown.KindText(kind)} {
			assert.Equal(t, kind, named(t, fresh(t, "? "+w+` "x"`), "x").Kind, w)
		}
	}
}

// An edited text is told apart from the lab line by line; ids and facts that
// the text leaves out survive.
func TestLoadingAnEditedTextIsADifference(t *testing.T) {
	base := fresh(t, quarry(t))
	edited := strings.NewReplacer(
		"12-13   server \"anvil\": 710mm deep, 24kg, for \"choir library and everything with a login\"", "19-20 server \"anvil\": 720mm deep",
		"6       server \"ember\", faulty", "6 server \"cinder\"",
		"22      brush panel\n", "",
		"5 rear", "8 nas \"new\"\n5 rear",
		"\"wren\", spare", "\"wren\", running",
		"\"lamp bridge\"", "\"lamp bridge\"\n          camera",
		"rack \"Pantry\"", "rack \"Larder\"",
	).Replace(quarry(t))
	ids := counter()
	p := load(t, base, edited, rundown.Options{All: true, NewID: func() lab.ID { return "n" + ids() }})
	require.Empty(t, p.Mistakes)
	var said []string
	for _, e := range rundown.Edits(base, p.Lab, p.Changes) {
		said = append(said, e.String())
	}
	assert.ElementsMatch(t, []string{
		"Pantry renamed to Larder",
		"anvil moved from Pantry 12-13 to Larder 19-20",
		"anvil: depth 720 mm (was 710 mm)",
		"ember renamed to cinder",
		"wren: state running (was spare)",
		`nas "new" added at Larder 8`,
		"camera added on sbc shelf",
		"brush panel removed",
	}, said)
	was, is := named(t, base, "anvil"), named(t, p.Lab, "anvil")
	assert.Equal(t, was.ID, is.ID)
	assert.Equal(t, 24.0, *is.WeightKG, "a fact the text leaves out survives")
	assert.Equal(t, was.Purpose, is.Purpose)
	assert.Equal(t, lab.Faulty, named(t, p.Lab, "cinder").State)
}

func TestForgettingTakesTheTextAtItsWord(t *testing.T) {
	base := fresh(t, quarry(t))
	edited := strings.Replace(quarry(t), ": 710mm deep, 24kg", ": 24kg", 1)
	edited = strings.Replace(edited, "\"ember\", faulty", "\"ember\"", 1)
	p := load(t, base, edited, rundown.Options{All: true, Forget: true})
	require.Empty(t, p.Mistakes)
	assert.Nil(t, named(t, p.Lab, "anvil").DepthMM)
	assert.Equal(t, lab.Running, named(t, p.Lab, "ember").State)
	assert.Len(t, p.Changes, 2)
}

func TestNothingIsRemovedWhileALineCannotBeRead(t *testing.T) {
	base := fresh(t, quarry(t))
	p := load(t, base, strings.Replace(quarry(t), "nas \"silo\"", "naz \"silo\"", 1), rundown.Options{All: true})
	require.Len(t, p.Mistakes, 1)
	assert.Empty(t, p.Changes)
}

func TestTurningTheNumberingRoundLeavesThingsWhereTheyAre(t *testing.T) {
	l := fresh(t, "lab \"x\", units from the top\nrack \"R\": 12U\n1-2 ups \"keep\"\n")
	assert.Equal(t, 11, named(t, l, "keep").At.Unit, "1-2 from the head of 12 are 12 and 11 from the foot")
	s := l.Settings()
	s.Numbering = lab.FromBottom
	c, _ := l.Put(s)
	turned, err := l.Apply([]lab.Change{c})
	require.NoError(t, err)
	assert.Contains(t, rundown.Print(turned), "11-12   ups \"keep\"")
}

func TestALineByItself(t *testing.T) {
	base := fresh(t, quarry(t))
	pantry, _ := base.Named(lab.KindRack, "Pantry")
	cases := []struct{ line, want string }{
		{`7 switch "attic": 4kg`, `switch "attic" added at Pantry 7`},
		{`8 switch attic`, `switch "attic" added at Pantry 8`},
		{`19 shelf: sbc "robin", spare, hub`, `shelf added at Pantry 19; single-board computer "robin" added on shelf; hub added on shelf`},
		{`server "anvil": 25kg`, "anvil: weight 25 kg (was 24 kg)"},
		{`19-20 server "anvil"`, "anvil moved from Pantry 12-13 to Pantry 19-20"},
		{`in "Loft" camera "gull"`, `camera "gull" added at Loft`},
		{`on "sbc shelf" sbc "tern"`, `single-board computer "tern" added on sbc shelf`},
		{`in "leads" thing "crimper"`, `other "crimper" added in leads`},
		{`22 brush panel`, ""},
		{`22 brush panel "comb"`, "brush panel renamed to comb"},
		{`12-13 server "x"`, "1:1: “x” cannot take 12-13 at the front of “Pantry”: “anvil” takes 12-13 there"},
		{`12 switch "x"`, "1:1: “x” cannot take 12 at the front of “Pantry”: “anvil” takes 12-13 there"},
		{`switch "x"`, `switch "x" added, not placed yet`},
		{`switch`, "1:1: where is it? Begin with units such as 12-13, with left, right, top, under, in or on, or with ? while it is not placed"},
		{`anvil: 25kg`, "anvil: weight 25 kg (was 24 kg)"},
		{`12: 25kg`, "anvil: weight 25 kg (was 24 kg)"},
		{`20: 25kg`, `1:1: nothing is there yet; write what it is, such as 23 switch "core"`},
		{`anvul: 25kg`, "1:1: there is no device called “anvul”: did you mean “anvil”?"},
		{`19-20 nas "anvil"`, `1:1: "anvil" is a server; write "anvil" is a nas to change what it is, or give this one another name`},
		{`nas "anvil": 25kg`, `1:1: "anvil" is a server; write "anvil" is a nas to change what it is, or give this one another name`},
		{`19-20 server "Anvil"`, `1:1: there is a server "anvil"; write its name that way to mean it, or rename "anvil" to "Anvil" first`},
		{`left pdu "ANVIL"`, `1:1: "anvil" is a server; write "anvil" is a pdu to change what it is, or give this one another name`},
		{`rename "anvil" to "forge"`, "anvil renamed to forge"},
		{`rename anvil to sbc shelf`, "anvil renamed to sbc shelf"},
		{`anvil is a nas`, "anvil: kind nas (was server)"},
		{`anvil is an air conditioner`, "anvil: kind air conditioner (was server)"},
		{`anvil is a swich`, "1:12: “swich” is not a kind of device: did you mean switch?"},
		{`in "Lofft" camera`, "1:1: there is no place called “Lofft”: did you mean “Loft”?; a line such as place \"Lofft\" makes it"},
		{`"Attic" 3 camera`, "1:1: there is no rack called “Attic”; a line such as rack \"Attic\" makes it"},
		{`25 camera`, "1:1: Pantry has the units 1 to 24"},
	}
	for _, c := range cases {
		t.Run(c.line, func(t *testing.T) {
			ids := counter()
			p := rundown.Load(base, rundown.ParseLine(c.line), rundown.Options{Rack: pantry, NewID: func() lab.ID { return "n" + ids() }})
			var said []string
			for _, m := range p.Mistakes {
				said = append(said, m.Error())
			}
			for _, e := range rundown.Edits(base, p.Lab, p.Changes) {
				said = append(said, e.String())
			}
			assert.Equal(t, c.want, strings.Join(said, "; "))
		})
	}
}

func TestCompletionsGoOnWhereTheLineStops(t *testing.T) {
	base := fresh(t, quarry(t))
	id, _ := base.Named(lab.KindRack, "Pantry")
	r, _ := lab.Find[lab.Rack](base, id)
	for typed, want := range map[string]string{
		"":                     "19-20 ", // the uppermost free piece
		"7":                    "7-8 ",
		"7 pat":                "patch panel ",
		"7 patch p":            "patch panel ",
		"7 sbc":                "single-board computer ",
		`7 switch "c`:          `"core"`,
		`7 switch "x", fau`:    "faulty",
		`7 switch "x": 4kg, d`: "320mm deep",
		`in "L`:                `"Loft"`,
		`on "s`:                `"sbc shelf"`,
		"ra":                   "rack ",
		`rack "P`:              `"Pantry"`,
		`rack "X": 19`:         "19in",
		`rack "X", in "L`:      `"Loft"`,
		`run "x", from "L`:     `"Loft"`,
		`place "X", i`:         `in "Loft"`,
	} {
		list := rundown.Complete(base, r, typed)
		require.NotEmpty(t, list, typed)
		assert.Equal(t, want, list[0].Text, typed)
	}
}

func TestACardsFieldTakesWhatPeopleType(t *testing.T) {
	l := fresh(t, quarry(t))
	anvil := named(t, l, "anvil").Key()
	device := func(field, typed string) lab.Device {
		r, err := rundown.SetFact(l, l.Get(anvil), field, typed, "")
		require.NoError(t, err, "%s %s", field, typed)
		return r.(lab.Device)
	}
	assert.Equal(t, 444.5, *device("depth_mm", "17.5in").DepthMM)
	assert.Equal(t, 700.0, *device("depth_mm", "700").DepthMM)
	assert.Equal(t, 700.0, *device("depth_mm", "depth 700mm").DepthMM)
	assert.Nil(t, device("depth_mm", "?").DepthMM)
	assert.Nil(t, device("depth_mm", "").DepthMM)
	assert.Equal(t, lab.Spare, device("state", "spare").State)
	assert.Equal(t, lab.NAS, device("device_kind", "filer").Kind)
	assert.Equal(t, `"x", y: # z`, device("notes", `"x", y: # z`).Notes)
	assert.Equal(t, lab.Rear, device("at", "19-20 rear").At.Face)
	assert.Equal(t, 7, device("at", "7").At.Unit, "one number keeps what it takes")
	assert.Equal(t, 2, device("at", "7").Units())
	assert.Equal(t, lab.InPlace, device("at", `in "Loft"`).At.Where)
	assert.Nil(t, device("at", "?").At)
	for field, typed := range map[string]string{"depth_mm": "deep", "weight_kg": "4 stone", "state": "happy", "device_kind": "swich",
		"at": "somewhere", "nonsense": "1"} {
		_, err := rundown.SetFact(l, l.Get(anvil), field, typed, "")
		assert.Error(t, err, "%s %s", field, typed)
	}
}

// Whatever is read, nothing panics, and what loads without a mistake is
// written so that it loads to the same lab.
func FuzzRundown(f *testing.F) {
	for _, pattern := range []string{"testdata/good/*.rundown", "testdata/mistakes/*.rundown"} {
		files, _ := filepath.Glob(pattern)
		for _, file := range files {
			data, err := os.ReadFile(file)
			require.NoError(f, err)
			f.Add(string(data))
		}
	}
	f.Fuzz(func(t *testing.T, text string) {
		p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: counter()})
		written := rundown.Print(p.Lab)
		again := rundown.Load(p.Lab, rundown.Parse(written), rundown.Options{All: true, Forget: true, NewID: counter()})
		if len(again.Mistakes) > 0 || len(again.Changes) > 0 {
			t.Fatalf("%q\nis written as\n%s\nwhich reads as %v %v", text, written, again.Mistakes, rundown.Edits(p.Lab, again.Lab, again.Changes))
		}
		rundown.Load(p.Lab, rundown.ParseLine(text), rundown.Options{NewID: counter()})
		rundown.Complete(p.Lab, lab.Rack{}, text)
	})
}
