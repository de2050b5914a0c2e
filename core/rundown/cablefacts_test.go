package rundown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// one is the only cable of a lab.
func one(t *testing.T, l *lab.Lab) lab.Cable {
	t.Helper()
	var list []lab.Cable
	for c := range lab.Each[lab.Cable](l) {
		list = append(list, c)
	}
	require.Len(t, list, 1)
	return list[0]
}

func TestACablesFactsAsPeopleTypeThem(t *testing.T) {
	l := fresh(t, pantry+"run \"stairs run\": 18m\ncore/1 - PP1/1 cat6\n")
	was := one(t, l)
	for _, c := range []struct{ field, typed, want string }{
		{"length_m", "25cm", "core/1 - PP1/1 0.25m cat6"},
		{"length_m", "1.5", "core/1 - PP1/1 1.5m cat6"},
		{"length_m", "10 ft", "core/1 - PP1/1 3.048m cat6"},
		{"length_m", "?", "core/1 - PP1/1 cat6"},
		{"colour", "Violet", "core/1 - PP1/1 purple cat6"},
		{"colour", "gray", "core/1 - PP1/1 grey cat6"},
		{"colour", "#3a6ea5", `core/1 - PP1/1 "#3a6ea5" cat6`},
		{"cable_kind", "cat 6a", "core/1 - PP1/1 cat6a"},
		{"cable_kind", "?", "core/1 - PP1/1"},
		{"way", "via the left", "core/1 - PP1/1 cat6, via left"},
		{"way", "round the back", "core/1 - PP1/1 cat6, via back"},
		{"run_id", "stairs run", `core/1 - PP1/1 cat6, via "stairs run"`},
		{"label", "PP1.01", `core/1 - PP1/1 cat6, label "PP1.01"`},
		{"state", "faulty", "core/1 - PP1/1 cat6, faulty"},
		{"a", "core/3", "core/3 - PP1/1 cat6"},
		{"b", "PP1/2 rear", "core/1 = PP1/2 cat6"},
		{"b", "?", "core/1 - ? cat6"},
	} {
		is, err := rundown.SetFact(l, was, c.field, c.typed, "")
		if !assert.NoError(t, err, "%s %s", c.field, c.typed) {
			continue
		}
		next, err := l.Apply([]lab.Change{{Before: was, After: is}})
		require.NoError(t, err, "%s %s", c.field, c.typed)
		assert.Equal(t, c.want, rundown.CableLine(next, one(t, next)), "%s %s", c.field, c.typed)
	}
	for _, c := range []struct{ field, typed, say string }{
		{"length_m", "-1m", "cannot be negative"},
		{"length_m", "long", "is not a length"},
		{"colour", "blurple", "is not a colour known here"},
		{"cable_kind", "cat9", "cat9"},
		{"run_id", "cellar", "cellar"},
		{"a", "core", "is not a port; write the device, a slash and the port"},
		{"a", "core/1-3", "core/1-3 are 3 ports"},
		{"b", "attic/3", "attic"},
	} {
		_, err := rundown.SetFact(l, was, c.field, c.typed, "")
		assert.ErrorContains(t, err, c.say, "%s %s", c.field, c.typed)
	}
}

func TestWhatARunAndAWirelessLinkSay(t *testing.T) {
	const text = `rack "R": 9U
9 router "bridge": 1 ports rj45
place "Loft"
	access point "mast"
place "Dome"
run "duct": 41m, inside 40mm, from "Loft", to "Dome"
bridge/radio - mast/radio wireless, carries 300M
`
	l := fresh(t, text)
	var run lab.Run
	for run = range lab.Each[lab.Run](l) {
		break
	}
	assert.Equal(t, 41.0, *run.LengthM)
	assert.Equal(t, 40.0, *run.InsideMM)
	for _, end := range []struct {
		id   lab.ID
		name string
	}{{run.From, "Loft"}, {run.To, "Dome"}} {
		p, ok := lab.Find[lab.Place](l, end.id)
		require.True(t, ok)
		assert.Equal(t, end.name, p.Name)
	}
	air := one(t, l)
	assert.Equal(t, lab.Wireless, air.Kind)
	assert.Equal(t, 300, *air.SpeedMb)
	assert.Contains(t, rundown.Print(l), "wireless, carries 300M")
	for _, typed := range []string{"fast", "1G/10G", "-3M"} {
		_, err := rundown.SetFact(l, air, "speed_mb", typed, "")
		assert.ErrorContains(t, err, "is not a speed; write one such as 300M or 1G", typed)
	}
	free, err := rundown.SetFact(l, air, "speed_mb", "?", "")
	require.NoError(t, err)
	assert.Nil(t, free.(lab.Cable).SpeedMb)
}

func TestWhatColoursMean(t *testing.T) {
	l := fresh(t, `lab "L", yellow means "to the panel", "#3a6ea5" means guests, slack 150mm, labels "{a}>{b}"`+"\n")
	s := l.Settings()
	assert.Equal(t, []lab.Meaning{{Colour: "yellow", Means: "to the panel"}, {Colour: "#3a6ea5", Means: "guests"}}, s.Legend)
	assert.Equal(t, 150.0, *s.SlackMM)
	assert.Equal(t, "{a}>{b}", s.Pattern)
	is, err := rundown.SetFact(l, s, "legend", `gray means "cameras", red means doors`, "")
	require.NoError(t, err)
	assert.Equal(t, []lab.Meaning{{Colour: "grey", Means: "cameras"}, {Colour: "red", Means: "doors"}}, is.(lab.Settings).Legend,
		"typed anew, it takes the place of the old one")
	none, err := rundown.SetFact(l, s, "legend", "?", "")
	require.NoError(t, err)
	assert.Empty(t, none.(lab.Settings).Legend)
	for typed, say := range map[string]string{"yellow": "write what a colour means", "yellow means": "write what a colour means",
		"mauvish means guests": "is not a colour known here"} {
		_, err := rundown.SetFact(l, s, "legend", typed, "")
		assert.ErrorContains(t, err, say, typed)
	}
}

func TestWhatIsSaidOfSinglePorts(t *testing.T) {
	const marks = `port 3 "uplink" reserved "the dome", port 8 broken, port 24 tcp 7024, port s1 takes "coax adapter" note "stiff"`
	l := fresh(t, "rack \"R\": 9U\n9 switch \"core\": 24 ports rj45, 2 ports sfp+, "+marks+"\n")
	core := named(t, l, "core")
	assert.Equal(t, []lab.PortMark{
		{Port: "3", Name: "uplink", Reserved: "the dome"}, {Port: "8", Broken: true}, {Port: "24", TCP: 7024}, {Port: "s1", Insert: "coax adapter", Note: "stiff"},
	}, core.Marks)
	assert.Contains(t, strings.Join(strings.Fields(rundown.Print(l)), " "), marks, "as it was typed")
	for typed, say := range map[string]string{
		"port 3":             "say which port and what is with it",
		"port 3 wobbly":      "is not a fact about a port",
		"port 3 tcp many":    "is not the number of a TCP port",
		"port 3 blinks blue": "is not a fact about a port",
	} {
		_, err := rundown.SetFact(l, core, "port_marks", typed, "")
		assert.ErrorContains(t, err, say, typed)
	}
	empty, err := rundown.SetFact(l, core, "port_marks", "?", "")
	require.NoError(t, err)
	assert.Empty(t, empty.(lab.Device).Marks)
}

func TestHowALineOfACableGoesOn(t *testing.T) {
	l := fresh(t, pantry+"core/1 - PP1/1 0.25m yellow cat6, label \"A\"\nPP1/1 = PP2/1 12m cat6a\n")
	first := func(typed string) string {
		list := rundown.Complete(l, lab.Rack{}, typed)
		if len(list) == 0 {
			return ""
		}
		runes := []rune(typed)
		return string(runes[:list[0].From-1]) + list[0].Text
	}
	assert.Equal(t, "core/2 ", first("core/"), "the first port that is free")
	assert.Equal(t, "core/10 ", first("core/1"), "no port that is taken")
	assert.Equal(t, "core/2 - PP1/2 ", first("core/2 - PP1/"))
	assert.Equal(t, "PP1/5 = PP2/2 ", first("PP1/5 = PP2/"), "the rear of port 2; that of port 1 is taken")
	assert.Equal(t, "PP1/5 = PP2/5 12m cat6a", first("PP1/5 = PP2/5 "), "what the last one between the two is")
	assert.Equal(t, "core/2 - PP1/2 0.25m yellow cat6", first("core/2 - PP1/2 "), "but not its label")
	assert.Empty(t, first("core/2 - PP2/2 "), "no cable goes there yet")
	assert.Empty(t, rundown.Complete(l, lab.Rack{}, "attic/"))
}

func TestAPortIsReadAsItIsWritten(t *testing.T) {
	l := fresh(t, `rack "R": 9U
9 switch "core": 2 ports rj45, 1 ports sfp+
8 patch panel "24 way": 2 ports rj45
7 server "anvil (spare)": 2 ports rj45
6 server "twin": 1 ports rj45
5 server "twin": 1 ports rj45
4 switch "a/b": 1 ports rj45
3 switch "core 9": 2 ports rj45
`)
	for d := range lab.Each[lab.Device](l) {
		ports := l.PortsOf(d)
		for i := range ports.Len() {
			for _, rear := range []bool{false, ports.Joined()} {
				e := &lab.End{Device: d.ID, Port: ports.Key(i), Rear: rear}
				text := rundown.EndText(l, e)
				read, err := rundown.ReadEnd(l, text)
				require.NoError(t, err, text)
				assert.Equal(t, e, read, text)
			}
		}
	}
	for typed, want := range map[string]string{"CORE/2": "core/2", "core/sfp1": "core/s1", `"24 way"/1 rear`: `"24 way"/1 rear`,
		"twin (2)/1": "twin (2)/1", "?": "?", "": "?", " ": "?",
		"core 2": "core/2", "Core port 2": "core/2", "core: s1": "core/s1", "core sfp 1": "core/s1", "24 way 2 rear": `"24 way"/2 rear`, "core 9 1": "core 9/1", "twin (2) 1": "twin (2)/1",
		rundown.JoinEnd("24 way", "1 Rear"): `"24 way"/1 rear`, rundown.JoinEnd("a/b", "port 1"): `"a/b"/1`} {
		e, err := rundown.ReadEnd(l, typed)
		if assert.NoError(t, err, typed) {
			assert.Equal(t, want, rundown.EndText(l, e), typed)
		}
	}
	assert.Equal(t, `"core"/"ȺȺȺȺȺȺ" rear`, rundown.JoinEnd("core", "ȺȺȺȺȺȺ rear"), "letters that take more room when they are small")
	for typed, say := range map[string]string{
		"twin/1":            "2 devices are called twin; write twin (1) for the first from the top",
		"/3":                "name the device before the slash",
		"core/":             "say which port of core",
		"core/1 core/2":     "is not a port",
		"core 7":            "is not a port",
		"core 9":            "is not a port",
		"core":              "is not a port",
		"core 2 front rear": "is not a port",
		"core/1-2":          "core/1-2 are 2 ports",
		`"core`:             "quote",
		"nobody/1":          "nobody",
	} {
		_, err := rundown.ReadEnd(l, typed)
		assert.ErrorContains(t, err, say, typed)
	}
}

// FuzzEnd: whatever is typed for a port is either refused with a sentence, or
// an end that is written in a way that reads as the same end.
func FuzzEnd(f *testing.F) {
	for _, typed := range []string{"core/3", "PP1/3 rear", "?", `"24 way"/s1 front`, "twin (2)/1", "core/1-24", "/", "a/b/c", "core/\"9 x\"",
		"–/–", "core/ 3", "core 3", "PP1: port 3 rear"} {
		f.Add(typed)
	}
	p := rundown.Load(lab.New(), rundown.Parse(
		"rack \"R\": 9U\n9 switch \"core\": 24 ports rj45, 4 ports sfp+\n8 patch panel \"PP1\": 24 ports rj45\n7 server \"twin\"\n6 server \"twin\"\n5 hub \"a/b\": 2 ports usb-a\n"), rundown.Options{All: true, NewID: counter()})
	f.Fuzz(func(t *testing.T, typed string) {
		e, err := rundown.ReadEnd(p.Lab, typed)
		if err != nil {
			require.NotEmpty(t, err.Error())
			return
		}
		text := rundown.EndText(p.Lab, e)
		again, err := rundown.ReadEnd(p.Lab, text)
		require.NoError(t, err, "%q is written as %q", typed, text)
		require.Equal(t, e, again, "%q is written as %q", typed, text)
	})
}
