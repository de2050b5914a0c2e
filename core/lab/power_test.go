package lab_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func f64(v float64) *float64 { return &v }

func TestACircuitThatCannotBeIsRefused(t *testing.T) {
	four := 4
	for name, c := range map[string]struct {
		is  lab.Circuit
		say string
	}{
		"no name":            {lab.Circuit{ID: "k"}, "name"},
		"no amperes":         {lab.Circuit{ID: "k", Name: "K", Amps: f64(0)}, "between 0.1 and 1000 A"},
		"too many amperes":   {lab.Circuit{ID: "k", Name: "K", Amps: f64(5000)}, "between 0.1 and 1000 A"},
		"below zero":         {lab.Circuit{ID: "k", Name: "K", Volts: f64(-230)}, "between 5 and 1000 V"},
		"four poles":         {lab.Circuit{ID: "k", Name: "K", Poles: &four}, "a breaker has 1 to 3 poles, not 4"},
		"more than all":      {lab.Circuit{ID: "k", Name: "K", Hours: f64(1.2)}, "between 0.1 and 1 of the rating"},
		"a room that is not": {lab.Circuit{ID: "k", Name: "K", Place: "attic"}, "attic"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := lab.New().Apply([]lab.Change{{After: c.is}})
			assert.ErrorContains(t, err, c.say)
		})
	}
}

func TestADrawThatCannotBeIsRefused(t *testing.T) {
	three, two := 3, 2
	for name, c := range map[string]struct {
		is    lab.Device
		field string
		say   string
	}{
		"negative watts": {lab.Device{Spec: lab.Spec{TypicalW: f64(-5)}}, "typical_w", "between 0 and 100000 W"},
		"typical above most": {lab.Device{Spec: lab.Spec{TypicalW: f64(200), MostW: f64(150)}}, "typical_w",
			"typical, 200 W, is above most, 150 W"},
		"standby above idle": {lab.Device{Spec: lab.Spec{StandbyW: f64(20), IdleW: f64(10)}}, "standby_w", "standby, 20 W, is above idle, 10 W"},
		"idle above most, the one between unknown": {lab.Device{Spec: lab.Spec{IdleW: f64(20), MostW: f64(10)}}, "idle_w",
			"idle, 20 W, is above most, 10 W"},
		"more supplies needed than there are": {lab.Device{Spec: lab.Spec{SuppliesNeeded: &three, SupplyBays: &two}}, "supplies_needed",
			"it cannot need 3 supplies and have room for 2"},
		"more efficient than all":    {lab.Device{Spec: lab.Spec{Rating: lab.Rating{Efficiency: f64(1.1)}}}, "efficiency", "of what it draws"},
		"a power factor above 1":     {lab.Device{Spec: lab.Spec{Rating: lab.Rating{Factor: f64(1.4)}}}, "power_factor", "W for each VA"},
		"a UPS of no volt-amperes":   {lab.Device{Spec: lab.Spec{Rating: lab.Rating{RatedVA: f64(0)}}}, "rated_va", "VA"},
		"held and only filtered":     {lab.Device{Spec: lab.Spec{Outlets: []lab.OutletGroup{{Count: 2, Battery: true, Filtered: true}}}}, "outlets", "not both"},
		"a measurement of nothing":   {lab.Device{Powered: lab.Powered{Measured: &lab.Measurement{On: "2026"}}}, "measured.w", "say how many watts were measured"},
		"a measurement below zero":   {lab.Device{Powered: lab.Powered{Behind: &lab.Measurement{W: f64(-1)}}}, "measured_behind.w", "W"},
		"a day there is not":         {lab.Device{Powered: lab.Powered{Measured: &lab.Measurement{W: f64(1), On: "2026-13"}}}, "measured.on", "2026-13"},
		"25 hours a day":             {runs(lab.RunTime{Hours: 25, Every: lab.EveryDay}), "run_times", "25 hours a day are not 0 to 24"},
		"200 hours a week":           {runs(lab.RunTime{Hours: 200, Every: lab.EveryWeek}), "run_times", "200 hours a week are not 0 to 168"},
		"hours past 24 in all":       {runs(lab.RunTime{From: "07:00", To: "23:00"}, lab.RunTime{Hours: 10, Every: lab.EveryDay}), "run_times", "that makes 26 hours a day; there are 24"},
		"a time of day there is not": {runs(lab.RunTime{From: "07:00", To: "27:00"}), "run_times", "“27:00” is not a time of day"},
		"from and not until":         {runs(lab.RunTime{From: "07:00"}), "run_times", "say from when until when"},
		"both times and hours":       {runs(lab.RunTime{From: "07:00", To: "08:00", Hours: 1}), "run_times", "not both"},
		"a level there is not":       {runs(lab.RunTime{Hours: 1, Every: lab.EveryDay, Level: "full"}), "run_times", "full"},
		"a circuit there is not":     {lab.Device{Powered: lab.Powered{Circuit: "k9"}}, "circuit_id", "k9"},
	} {
		t.Run(name, func(t *testing.T) {
			c.is.ID, c.is.Name, c.is.Kind, c.is.State = "d", "d", lab.Server, lab.Running
			_, err := lab.New().Apply([]lab.Change{{After: c.is}})
			var refused *lab.Refusal
			require.ErrorAs(t, err, &refused)
			assert.Equal(t, c.field, refused.Faults[0].Field)
			assert.Contains(t, refused.Faults[0].Say, c.say)
		})
	}
}

func runs(times ...lab.RunTime) lab.Device { return lab.Device{Powered: lab.Powered{RunTimes: times}} }

func TestHowLongADayAThingRuns(t *testing.T) {
	for name, c := range map[string]struct {
		is   lab.RunTime
		want float64
	}{
		"by day":             {lab.RunTime{From: "07:00", To: "23:00"}, 16},
		"through the night":  {lab.RunTime{From: "22:30", To: "06:00"}, 7.5},
		"round the clock":    {lab.RunTime{From: "00:00", To: "00:00"}, 24},
		"some hours":         {lab.RunTime{Hours: 4, Every: lab.EveryDay}, 4},
		"some hours a week":  {lab.RunTime{Hours: 14, Every: lab.EveryWeek}, 2},
		"hours, of no break": {lab.RunTime{Hours: 3}, 3},
	} {
		assert.InDelta(t, c.want, c.is.HoursADay(), 1e-9, name)
	}
}

// outletsAndInlets is a lab with three strips and a server, and what is plugged in.
func outletsAndInlets(t *testing.T, leads ...[2]lab.End) *lab.Lab {
	t.Helper()
	var changes []lab.Change
	for _, id := range []lab.ID{"a", "b", "c"} {
		changes = append(changes, lab.Change{After: lab.Device{ID: id, Name: string(id), Kind: lab.PowerStrip, State: lab.Running,
			Spec: lab.Spec{Outlets: []lab.OutletGroup{{Count: 4}}}}})
	}
	changes = append(changes, lab.Change{After: lab.Device{ID: "s", Name: "s", Kind: lab.Server, State: lab.Running}})
	for i, lead := range leads {
		changes = append(changes, lab.Change{After: leadOf(lab.ID("l"+string(rune('0'+i))), lead[0], lead[1])})
	}
	l, err := lab.New().Apply(changes)
	require.NoError(t, err)
	return l
}

func leadOf(id lab.ID, a, b lab.End) lab.Cable {
	return lab.Cable{ID: id, State: lab.CableInUse, A: &a, B: &b}
}

func out(device lab.ID, port string) lab.End { return lab.End{Device: device, Port: port} }

func TestAPowerLeadThatCannotBeIsRefused(t *testing.T) {
	l := outletsAndInlets(t, [2]lab.End{out("a", "out1"), out("b", "in1")}, [2]lab.End{out("b", "out1"), out("c", "in1")})
	for name, c := range map[string]struct {
		a, b lab.End
		say  string
	}{
		"from outlet to outlet":     {out("a", "out2"), out("c", "out2"), "a/out2 and c/out2 are both outlets; a power lead goes from an outlet into an inlet"},
		"a circle":                  {out("c", "out1"), out("a", "in1"), "that would feed a from itself: a → b → c → a; plug one of them in elsewhere"},
		"a circle, the other way":   {out("a", "in1"), out("c", "out1"), "that would feed a from itself: a → b → c → a"},
		"into itself":               {out("a", "out2"), out("a", "in1"), "that would feed a from itself"},
		"an outlet that is used":    {out("a", "out1"), out("s", "in1"), "a/out1 has “a/out1 - b/in1” in it already"},
		"an outlet that is not one": {out("a", "out9"), out("s", "in1"), "has no port “out9”"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := l.Apply([]lab.Change{{After: leadOf("new", c.a, c.b)}})
			assert.ErrorContains(t, err, c.say)
		})
	}
	_, err := l.Apply([]lab.Change{{After: leadOf("new", out("c", "out1"), out("s", "in1"))}})
	assert.NoError(t, err, "what goes down is no circle")
	_, err = l.Apply([]lab.Change{{Before: l.Get(lab.Key{Kind: lab.KindCable, ID: "l0"})}, {After: leadOf("new", out("c",
		"out1"), out("a", "in1"))}})
	assert.NoError(t, err, "nor is what was opened in the same change")
}

// A circuit that goes takes no wall outlet along.
func TestAWallOutletStaysWithoutItsCircuit(t *testing.T) {
	l, err := lab.New().Apply([]lab.Change{{After: lab.Circuit{ID: "k", Name: "kitchen"}},
		{After: lab.Device{ID: "w", Name: "left", Kind: lab.WallOutlet, State: lab.Running, Powered: lab.Powered{Circuit: "k"}}}})
	require.NoError(t, err)
	next, err := l.Apply(l.Removal(lab.Key{Kind: lab.KindCircuit, ID: "k"}))
	require.NoError(t, err)
	w, ok := lab.Find[lab.Device](next, "w")
	require.True(t, ok)
	assert.Empty(t, w.Circuit)
}

func TestARatingOfASheetIsThatOfItsDevices(t *testing.T) {
	l, err := lab.New().Apply([]lab.Change{
		{After: lab.SpecSheet{ID: "g", Name: "Gill", Kind: lab.UPS, Spec: lab.Spec{Rating: lab.Rating{RatedVA: f64(1500), RatedW: f64(900)}}}},
		{After: lab.Device{ID: "u", Name: "keep", Kind: lab.UPS, State: lab.Running, Sheet: "g", Spec: lab.Spec{Rating: lab.Rating{RatedW: f64(800), Efficiency: f64(0.9)}}}}})
	require.NoError(t, err)
	u, _ := lab.Find[lab.Device](l, "u")
	is := l.SpecOf(u).Rating
	assert.Equal(t, []float64{1500, 800, 0.9}, []float64{*is.RatedVA, *is.RatedW, *is.Efficiency})
}
