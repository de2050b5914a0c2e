package lab_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

// wired is a lab with a switch of 8 ports and 2 cages, a panel of 8 and a
// display whose ports nobody has written down.
func wired(t *testing.T, cables ...lab.Cable) *lab.Lab {
	t.Helper()
	copper := func(n int) lab.PortGroup { return lab.PortGroup{Count: n, Connector: "rj45"} }
	changes := []lab.Change{
		{After: lab.Device{ID: "core", Name: "core", Kind: lab.Switch, State: lab.Running, Spec: lab.Spec{Ports: []lab.PortGroup{copper(8), {Count: 2, Connector: "sfp+"}}}}},
		{After: lab.Device{ID: "pp1", Name: "PP1", Kind: lab.PatchPanel, State: lab.Running, Spec: lab.Spec{Ports: []lab.PortGroup{copper(8)}}}},
		{After: lab.Device{ID: "left", Name: "left screen", Kind: lab.Display, State: lab.Running}},
	}
	for _, c := range cables {
		changes = append(changes, lab.Change{After: c})
	}
	l, err := lab.New().Apply(changes)
	require.NoError(t, err)
	return l
}

func end(device lab.ID, port string) *lab.End { return &lab.End{Device: device, Port: port} }

func rear(device lab.ID, port string) *lab.End {
	return &lab.End{Device: device, Port: port, Rear: true}
}

func TestPortsAreNumberedByTheirGroups(t *testing.T) {
	for name, c := range map[string]struct {
		kind  lab.DeviceKind
		spec  lab.Spec
		words string
	}{
		"copper has bare numbers, cages an s": {lab.Switch, lab.Spec{Ports: []lab.PortGroup{{Count: 24, Connector: "rj45"}, {Count: 4, Connector: "sfp+"}}}, "1-24, s1-s4 and in1"},
		"two groups alike count on":           {lab.Router, lab.Spec{Ports: []lab.PortGroup{{Count: 4, Connector: "rj45"}, {Count: 2, Connector: "rj45", Face: lab.Rear}}}, "1-4, 5-6 and in1"},
		"a named port goes by its name":       {lab.Server, lab.Spec{SupplyBays: new(2), Ports: []lab.PortGroup{{Name: "mgmt", Count: 1, Connector: "rj45"}, {Name: "eth", Count: 2, Connector: "rj45", ZeroBased: true}}}, "mgmt, eth0-eth1 and in1-in2"},
		"outlets are ports too":               {lab.PDU, lab.Spec{Ports: []lab.PortGroup{{Count: 1, Connector: "c20", Face: lab.Rear}}, Outlets: []lab.OutletGroup{{Count: 6, Connector: "c13"}, {Count: 2, Connector: "c19"}}}, "in1, out1-out6 and out7-out8"},
		"what nobody knows by itself":         {lab.Other, lab.Spec{Ports: []lab.PortGroup{{Count: 2, Connector: "din5"}}}, "din51-din52"},
	} {
		t.Run(name, func(t *testing.T) {
			l, err := lab.New().Apply([]lab.Change{{After: lab.Device{ID: "d", Kind: c.kind, State: lab.Running, Spec: c.spec}}})
			require.NoError(t, err)
			d, _ := lab.Find[lab.Device](l, "d")
			ports := l.PortsOf(d)
			assert.Equal(t, c.words, ports.Words())
			for i := range ports.Len() {
				at, ok := ports.Index(ports.Key(i))
				assert.True(t, ok && at == i, ports.Key(i))
			}
		})
	}
}

func TestAPortIsFoundAsAPersonWritesIt(t *testing.T) {
	l := wired(t)
	core, _ := lab.Find[lab.Device](l, "core")
	core.Marks = []lab.PortMark{{Port: "s1", Name: "Uplink"}}
	for said, want := range map[string]string{"3": "3", "03": "3", "S2": "s2", "uplink": "s1", "in": "in1", "port 3": "3", "RJ45 8": "8",
		"sfp2": "s2", "SFP+1": "s1", "sfp3": "", "port": "", "9": "", "s0": "", "": ""} {
		l, err := l.Apply([]lab.Change{{Before: l.Get(core.Key()), After: core}})
		require.NoError(t, err)
		got, ok := l.PortsOf(core).Find(said)
		assert.Equal(t, want, got, said)
		assert.Equal(t, want != "", ok, said)
	}
}

func TestACableThatCannotBeIsRefused(t *testing.T) {
	taken := lab.Cable{ID: "c1", State: lab.CableInUse, A: end("core", "3"), B: end("pp1", "3")}
	for name, c := range map[string]struct {
		cable lab.Cable
		say   string
	}{
		"a port that is taken":          {lab.Cable{A: end("core", "3")}, "core/3 has “core/3 - PP1/3” in it already; unplug that first, or swap the two"},
		"a port that is not there":      {lab.Cable{A: end("core", "9")}, "“core” has no port “9”; it has 1-8, s1-s2 and in1"},
		"a rear where there is none":    {lab.Cable{A: rear("core", "4")}, "port 4 of “core” does not go through"},
		"both ends the same":            {lab.Cable{A: end("core", "4"), B: end("core", "4")}, "both ends are plugged into the same port"},
		"a length below nothing":        {lab.Cable{LengthM: new(-1.0)}, "-1 m is out of range"},
		"a colour nobody has heard of":  {lab.Cable{Colour: "blurple"}, "“blurple” is not a colour known here; write one of black, white"},
		"a kind nobody has heard of":    {lab.Cable{Kind: "cat12"}, "“cat12” is not known here"},
		"a device that is not there":    {lab.Cable{A: end("gate", "1")}, "there is no device with the id “gate”"},
		"a run that is not there":       {lab.Cable{Run: "stairs"}, "there is no run with the id “stairs”"},
		"a link in the air with jacket": {lab.Cable{Kind: lab.Wireless, Colour: "blue"}, "has no colour"},
		"a spare one that is plugged":   {lab.Cable{State: lab.CableSpare, A: end("core", "4")}, "a spare cable cannot be plugged in"},
	} {
		t.Run(name, func(t *testing.T) {
			l := wired(t, taken)
			if c.cable.State == "" {
				c.cable.State = lab.CableInUse
			}
			c.cable.ID = "c2"
			_, err := l.Apply([]lab.Change{{After: c.cable}})
			assert.ErrorContains(t, err, c.say)
		})
	}
}

func TestWhatIsOddButMayBeTrueIsTaken(t *testing.T) {
	l := wired(t,
		lab.Cable{ID: "long", Kind: lab.Cat6, State: lab.CableInUse, LengthM: new(10_000.0), A: end("core", "1")},
		lab.Cable{ID: "through", State: lab.CableInUse, A: end("pp1", "1"), B: rear("pp1", "1")},
		lab.Cable{ID: "loop", State: lab.CableInUse, A: end("core", "2"), B: end("core", "3")},
		lab.Cable{ID: "unsaid", State: lab.CableInUse, A: end("left", "hdmi")},
		lab.Cable{ID: "own", State: lab.CableInUse, Colour: "#3a6ea5"})
	assert.Len(t, l.CablesOf("core"), 2)
}

func TestTwoNewCablesInOnePortAreRefusedOnce(t *testing.T) {
	l := wired(t)
	_, err := l.Apply([]lab.Change{{After: lab.Cable{ID: "x", State: lab.CableInUse, A: end("core", "1")}},
		{After: lab.Cable{ID: "y", State: lab.CableInUse, B: end("core", "1")}}})
	refusal, ok := err.(*lab.Refusal)
	require.True(t, ok)
	assert.Len(t, refusal.Faults, 1)
}

func TestTwoCablesSwapInOneChange(t *testing.T) {
	one := lab.Cable{ID: "x", State: lab.CableInUse, A: end("core", "1")}
	two := lab.Cable{ID: "y", State: lab.CableInUse, A: end("core", "2")}
	l := wired(t, one, two)
	one.A, two.A = two.A, one.A
	changes := []lab.Change{{Before: l.Get(one.Key()), After: one}, {Before: l.Get(two.Key()), After: two}}
	next, err := l.Apply(changes)
	require.NoError(t, err)
	got, _ := next.CableAt(*end("core", "2"))
	assert.Equal(t, lab.ID("x"), got.ID)
	back, err := next.Apply(lab.Invert(changes))
	require.NoError(t, err)
	assert.Equal(t, l.All(), back.All(), "unplugged and undone, the lab is the same")
}

func TestPortsWithCablesDoNotGoUnseen(t *testing.T) {
	l := wired(t, lab.Cable{ID: "x", Label: "uplink", State: lab.CableInUse, A: end("core", "8")})
	d, _ := lab.Find[lab.Device](l, "core")
	d.Ports = []lab.PortGroup{{Count: 4, Connector: "rj45"}}
	_, err := l.Apply([]lab.Change{{Before: l.Get(d.Key()), After: d}})
	assert.ErrorContains(t, err, "“core” has no port “8”; it has 1-4 and in1, and “uplink” is plugged in there; move it first")
	d, _ = lab.Find[lab.Device](l, "core")
	d.Marks = []lab.PortMark{{Port: "40", Broken: true}}
	_, err = l.Apply([]lab.Change{{Before: l.Get(d.Key()), After: d}})
	assert.ErrorContains(t, err, "“core” has no port “40”")
}

func TestARemovedDeviceIsUnplugged(t *testing.T) {
	l := wired(t, lab.Cable{ID: "x", State: lab.CableInUse, A: end("core", "1"), B: end("pp1", "1")},
		lab.Cable{ID: "y", State: lab.CableInUse, A: end("core", "2")})
	next, err := l.Apply(l.Removal(lab.Key{Kind: lab.KindDevice, ID: "core"}))
	require.NoError(t, err)
	x, _ := lab.Find[lab.Cable](next, "x")
	assert.Nil(t, x.A)
	assert.Equal(t, end("pp1", "1"), x.B)
	_, there := lab.Find[lab.Cable](next, "y")
	assert.False(t, there, "it was plugged in nowhere else")
}

func TestColoursByTheWordsForThem(t *testing.T) {
	for word, want := range map[string]lab.Colour{"Yellow": "yellow", "gray": "grey", "violet": "purple", "#3A6EA5": "#3a6ea5", "blurple": "",
		"#12345": "", "#12345g": "", "": ""} {
		got, ok := lab.ReadColour(word)
		assert.Equal(t, want != "", ok, word)
		if ok {
			assert.Equal(t, want, got)
			assert.Regexp(t, "^#[0-9a-f]{6}$", got.Hex())
		}
	}
	assert.Empty(t, lab.Colour("").Hex())
	for _, name := range lab.ColourNames() {
		assert.NotEmpty(t, name.Hex(), name)
	}
}

func TestWhatALabSaysOfItsCables(t *testing.T) {
	base := lab.New().Settings()
	for name, c := range map[string]struct {
		change func(*lab.Settings)
		say    string
	}{
		"a colour nobody has heard of": {func(s *lab.Settings) { s.Legend = []lab.Meaning{{Colour: "blurple", Means: "x"}} }, "“blurple” is not a colour known here"},
		"a colour that means nothing":  {func(s *lab.Settings) { s.Legend = []lab.Meaning{{Colour: "red"}} }, "cannot be empty"},
		"a colour that means two":      {func(s *lab.Settings) { s.Legend = []lab.Meaning{{"red", "a"}, {"red", "b"}} }, "gives red two meanings"},
		"slack below nothing":          {func(s *lab.Settings) { s.SlackMM = new(-1.0) }, "-1 mm is out of range"},
		"a pattern of two lines":       {func(s *lab.Settings) { s.Pattern = "a\nb" }, "has to be one line"},
	} {
		t.Run(name, func(t *testing.T) {
			s := base
			c.change(&s)
			_, err := lab.New().Apply([]lab.Change{{Before: base, After: s}})
			assert.ErrorContains(t, err, c.say)
		})
	}
}

func TestWhatSetsAPortApart(t *testing.T) {
	core := func(marks ...lab.PortMark) lab.Device {
		return lab.Device{ID: "d", Kind: lab.PatchPanel, State: lab.Running,
			Spec: lab.Spec{Ports: []lab.PortGroup{{Count: 4, Connector: "keystone"}}}, Marks: marks}
	}
	l, err := lab.New().Apply([]lab.Change{{After: core(lab.PortMark{Port: "2", Name: "screen", Insert: "hdmi", Broken: true})}})
	require.NoError(t, err)
	d, _ := lab.Find[lab.Device](l, "d")
	p := l.PortsOf(d).At(1)
	assert.Equal(t, "screen", p.Title())
	assert.Equal(t, "hdmi", p.Connector)
	assert.Equal(t, lab.Video, p.Family)
	assert.True(t, p.Joined && p.Mark.Broken)
	assert.Equal(t, lab.Copper, l.PortsOf(d).At(0).Family)
	for say, marks := range map[string][]lab.PortMark{
		"has no port “9”":       {{Port: "9"}},
		"lists port “1” twice":  {{Port: "1"}, {Port: "1"}},
		"cannot be empty":       {{Name: "x"}},
		"a TCP port is 1 to":    {{Port: "1", TCP: 70_000}},
		"is 90 characters long": {{Port: "1", Reserved: strings.Repeat("x", 90)}},
	} {
		_, err := lab.New().Apply([]lab.Change{{After: core(marks...)}})
		assert.ErrorContains(t, err, say)
	}
}

func TestWhatIsWorkedOutIsWorkedOutOnceALab(t *testing.T) {
	type counted int
	times := 0
	count := func(*lab.Lab) counted { times++; return counted(times) }
	l := wired(t)
	assert.Equal(t, counted(1), lab.Derived(l, count))
	assert.Equal(t, counted(1), lab.Derived(l, count))
	next, err := l.Apply([]lab.Change{{After: lab.Place{ID: "p", Name: "P"}}})
	require.NoError(t, err)
	assert.Equal(t, counted(2), lab.Derived(next, count), "another lab is another matter")
	assert.Equal(t, counted(1), lab.Derived(l, count))
}

func TestAMarkOfAPortThatSaysNothingIsNone(t *testing.T) {
	for marks, want := range map[string][]lab.PortMark{
		`[{"port":"3"}]`: nil,
		`[{"port":"3","note":"","broken":false}]`:               nil,
		`[{"port":"9","name":"uplink"},{"port":"3","name":""}]`: {{Port: "9", Name: "uplink"}},
	} {
		r, err := lab.DecodeRecord(lab.KindDevice, []byte(`{"id":"d","device_kind":"switch","port_marks":`+marks+`}`))
		require.NoError(t, err)
		assert.Equal(t, want, r.(lab.Device).Marks, marks)
	}
}
