package lab_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func refusedDevice(t *testing.T, name string, d lab.Device, field, say string) {
	t.Helper()
	d.ID, d.Name, d.Kind, d.State = "d", "anvil", lab.Server, lab.Running
	_, err := lab.New().Apply([]lab.Change{{After: d}})
	assert.ErrorContains(t, err, field, name)
	assert.ErrorContains(t, err, say, name)
}

func points(list ...lab.Runtime) lab.Device { return lab.Device{Spec: lab.Spec{Runtimes: list}} }

func going(g lab.Goes) lab.Device { return lab.Device{Outage: lab.Outage{Goes: &g}} }

func TestWhatCannotBeOfBatteriesIsRefused(t *testing.T) {
	for name, c := range map[string]struct {
		is         lab.Device
		field, say string
	}{
		"points that rise with load": {points(lab.Runtime{W: f64(500), Minutes: 5}, lab.Runtime{W: f64(1000), Minutes: 14}), "runtimes",
			"1000 W for 14 minutes is longer than 500 W for 5 minutes; more load empties it sooner"},
		"a load twice":          {points(lab.Runtime{W: f64(500), Minutes: 5}, lab.Runtime{W: f64(500), Minutes: 4}), "runtimes", "500 W is there twice"},
		"no minutes":            {points(lab.Runtime{W: f64(500)}), "runtimes", "minutes"},
		"no load":               {points(lab.Runtime{W: f64(0), Minutes: 5}), "runtimes", "W"},
		"at 140 %":              {going(lab.Goes{AtPercent: f64(140)}), "goes.at_percent", "percent of the battery"},
		"before the mains fail": {going(lab.Goes{AfterMin: f64(-1)}), "goes.after_min", "minutes"},
		"at two times":          {going(lab.Goes{AfterMin: f64(1), Last: true}), "goes", "say one time at which it goes"},
		"at no time":            {going(lab.Goes{}), "goes", "say one time at which it goes"},
		"after what is not":     {going(lab.Goes{After: "x"}), "goes.after_id", "x"},
		"stops before it does":  {lab.Device{Outage: lab.Outage{StopsS: f64(-1)}}, "stops_s", "s"},
		"over what is no way":   {lab.Device{Outage: lab.Outage{WatchedOver: "smoke"}}, "watched_over", "smoke"},
		"watched by itself":     {lab.Device{Outage: lab.Outage{WatchedBy: "d"}}, "watched_by_id", "cannot be watched by itself"},
		"quieter when it works": {lab.Device{Spec: lab.Spec{NoiseDB: f64(40), BusyDB: f64(30)}}, "busy_db", "30 dB busy is less than 40 dB"},
	} {
		refusedDevice(t, name, c.is, c.field, c.say)
	}
	_, err := lab.New().Apply([]lab.Change{{After: lab.Part{ID: "b", Kind: lab.Battery, State: lab.Running, EnergyWh: f64(0)}}})
	assert.ErrorContains(t, err, "energy_wh")
}

// three are devices that wait for each other as they are said to.
func three(t *testing.T, goes map[lab.ID]lab.Goes) (*lab.Lab, error) {
	t.Helper()
	var changes []lab.Change
	for _, id := range []lab.ID{"a", "b", "c"} {
		d := lab.Device{ID: id, Name: "dev " + string(id), Kind: lab.Server, State: lab.Running}
		if g, said := goes[id]; said {
			d.Goes = &g
		}
		changes = append(changes, lab.Change{After: d})
	}
	return lab.New().Apply(changes)
}

func TestAShutdownThatWaitsForWhatWentFirstIsRefused(t *testing.T) {
	_, err := three(t, map[lab.ID]lab.Goes{"a": {After: "b"}, "b": {After: "c"}, "c": {After: "a"}})
	assert.ErrorContains(t, err, "that would wait for itself: dev a waits for dev b waits for dev c waits for dev a")
	_, err = three(t, map[lab.ID]lab.Goes{"a": {After: "b"}, "b": {Last: true}})
	assert.ErrorContains(t, err, "goes last, so that nothing can wait for it")

	l, err := three(t, map[lab.ID]lab.Goes{"a": {After: "b"}, "b": {AtPercent: f64(40)}, "c": {Last: true}})
	require.NoError(t, err)
	b, _ := lab.Find[lab.Device](l, "b")
	last := b
	last.Goes = &lab.Goes{Last: true}
	_, err = l.Apply([]lab.Change{{Before: b, After: last}})
	assert.ErrorContains(t, err, "“dev a” waits for it to be down; say first when that goes")

	// What waits for a device that goes away waits for nothing.
	without, err := l.Apply(l.Removal(b.Key()))
	require.NoError(t, err)
	a, _ := lab.Find[lab.Device](without, "a")
	assert.Nil(t, a.Goes)
}

func TestATariffThatCannotBeIsRefused(t *testing.T) {
	price := func(v float64, from, to string) lab.Price { return lab.Price{PerKWh: v, From: from, To: to} }
	for name, c := range map[string]struct {
		prices []lab.Price
		say    string
	}{
		"below nothing":       {[]lab.Price{price(-0.1, "", "")}, "a price is 0 or more a kWh, not -0.1"},
		"two for all day":     {[]lab.Price{price(0.3, "", ""), price(0.2, "", "")}, "there are 2 prices for all day"},
		"bands that overlap":  {[]lab.Price{price(0.3, "", ""), price(0.1, "00:00", "06:00"), price(0.2, "05:00", "07:00")}, "two prices are for 05:00"},
		"bands over midnight": {[]lab.Price{price(0.3, "22:00", "06:00"), price(0.2, "05:59", "22:00")}, "two prices are for 05:59"},
		"bands with a gap":    {[]lab.Price{price(0.3, "00:00", "06:00"), price(0.2, "07:00", "00:00")}, "no price is for 06:00"},
		"a band without end":  {[]lab.Price{price(0.3, "", ""), price(0.2, "07:00", "")}, "from when until when"},
		"no time of day":      {[]lab.Price{price(0.3, "", ""), price(0.2, "07:00", "27:00")}, "“27:00” is not a time of day"},
	} {
		_, err := lab.New().Apply([]lab.Change{{Before: lab.New().Settings(), After: lab.Settings{ID: lab.SettingsID,
			Numbering: lab.FromBottom, Tariff: lab.Tariff{Prices: c.prices}}}})
		assert.ErrorContains(t, err, c.say, name)
	}
	at := lab.Tariff{Prices: []lab.Price{price(0.31, "", ""), price(0.12, "23:30", "05:30")}}.At()
	require.Len(t, at, lab.MinutesADay)
	assert.Equal(t, []float64{0.12, 0.12, 0.31, 0.31, 0.12}, []float64{at[0], at[329], at[330], at[1409], at[1410]})
	assert.Nil(t, lab.Tariff{}.At())
}

// Lead comes down to a half in 5 years, lithium iron phosphate to four fifths in 8, and
// both stay there; of another kind, or of unknown age, nothing is known.
func TestHowBatteriesAge(t *testing.T) {
	for name, c := range map[string]struct {
		is   lab.Part
		left float64
		sure bool
	}{
		"new lead":             {lab.Part{Chemistry: "lead", PutIn: "2026-11-26"}, 1, true},
		"lead of half its age": {lab.Part{Chemistry: "sealed lead-acid", PutIn: "2024-05-27"}, 0.75, true},
		"lead past its years":  {lab.Part{Chemistry: "lead", PutIn: "2015"}, 0.5, true},
		"iron phosphate":       {lab.Part{Chemistry: "lithium iron phosphate", PutIn: "2022-11-26"}, 0.9, true},
		"old iron phosphate":   {lab.Part{Chemistry: "LFP", PutIn: "2010"}, 0.8, true},
		"bought, not put in":   {lab.Part{Chemistry: "lead", Money: lab.Money{BoughtOn: "2024-05-27"}}, 0.75, true},
		"put in tomorrow":      {lab.Part{Chemistry: "lead", PutIn: "2026-12-24"}, 1, true},
		"of unknown age":       {lab.Part{Chemistry: "lead"}, 1, false},
		"of an unknown kind":   {lab.Part{PutIn: "2015"}, 1, false},
		"lithium of some kind": {lab.Part{Chemistry: "lithium ion", PutIn: "2015"}, 1, false},
	} {
		left, sure := c.is.Left("2026-11-26")
		assert.InDelta(t, c.left, left, 0.001, name)
		assert.Equal(t, c.sure, sure, name)
	}
}

// A device in a rack is in that and in all the places around it, the nearest first; what is
// watched by a device that goes away is watched by nobody.
func TestWhatADeviceIsWithin(t *testing.T) {
	one := 1
	l, err := lab.New().Apply([]lab.Change{
		{After: lab.Place{ID: "house", Name: "House"}},
		{After: lab.Place{ID: "closet", Name: "Closet", In: "house", Shut: true}},
		{After: lab.Rack{ID: "r", Name: "R", HeightU: 9, Place: "closet"}},
		{After: lab.Device{ID: "a", Name: "anvil", Kind: lab.Server, State: lab.Running, At: lab.At("r", 3, lab.Front), Spec: lab.Spec{TakesU: &one}}},
		{After: lab.Device{ID: "f", Name: "finch", Kind: lab.SingleBoard, State: lab.Running, At: &lab.Spot{Where: lab.InPlace, Place: "house"}}},
		{After: lab.Device{ID: "u", Name: "keep", Kind: lab.UPS, State: lab.Running, Outage: lab.Outage{WatchedBy: "f", WatchedOver: lab.OverUSB}}},
	})
	require.NoError(t, err)
	within := func(id lab.ID) []lab.Key {
		d, _ := lab.Find[lab.Device](l, id)
		return l.Within(d)
	}
	place := func(id lab.ID) lab.Key { return lab.Key{Kind: lab.KindPlace, ID: id} }
	assert.Equal(t, []lab.Key{{Kind: lab.KindRack, ID: "r"}, place("closet"), place("house")}, within("a"))
	assert.Equal(t, []lab.Key{place("house")}, within("f"))
	assert.Empty(t, within("u"))

	finch := lab.Key{Kind: lab.KindDevice, ID: "f"}
	assert.Empty(t, l.Held(finch), "what it watches does not stand on it")
	without, err := l.Apply(l.Removal(finch))
	require.NoError(t, err)
	keep, _ := lab.Find[lab.Device](without, "u")
	assert.Empty(t, keep.WatchedBy)
}
