package lab_test

import (
	"net/netip"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
)

func TestAPlannedChangeIsMadeOnTheLabAsItIsNow(t *testing.T) {
	was := lab.Device{ID: "d", Name: "anvil", Kind: lab.Server, State: lab.Running}
	deep, light := 710.0, 24.0
	plan := was
	plan.DepthMM = &deep
	meanwhile := was
	meanwhile.WeightKG = &light
	both := plan
	both.WeightKG = &light
	elsewhere := was
	elsewhere.DepthMM = &light

	for name, c := range map[string]struct {
		now  lab.Record
		plan lab.Change
		want lab.Record
		left bool
		err  string
	}{
		"nothing happened":                {was, lab.Change{Before: was, After: plan}, plan, true, ""},
		"another field was set":           {meanwhile, lab.Change{Before: was, After: plan}, both, true, ""},
		"it was done by hand":             {plan, lab.Change{Before: was, After: plan}, nil, false, ""},
		"it was done, and more":           {both, lab.Change{Before: was, After: plan}, nil, false, ""},
		"the same field says another":     {elsewhere, lab.Change{Before: was, After: plan}, nil, false, "“anvil” changed meanwhile: depth_mm"},
		"it is gone":                      {nil, lab.Change{Before: was, After: plan}, nil, false, "“anvil” no longer exists"},
		"new, and not there":              {nil, lab.Change{After: was}, was, true, ""},
		"new, and somebody made it":       {was, lab.Change{After: was}, nil, false, ""},
		"new, and another has its place":  {meanwhile, lab.Change{After: was}, nil, false, "“anvil” already exists"},
		"to go, though it learned things": {meanwhile, lab.Change{Before: was}, nil, true, ""},
		"to go, and gone":                 {nil, lab.Change{Before: was}, nil, false, ""},
	} {
		t.Run(name, func(t *testing.T) {
			l := lab.New()
			if c.now != nil {
				var err error
				l, err = l.Apply([]lab.Change{{After: c.now}})
				require.NoError(t, err)
			}
			got, left, err := l.Rebase(c.plan)
			if c.err != "" {
				assert.EqualError(t, err, c.err)
				return
			}
			require.NoError(t, err)
			assert.Equal(t, c.left, left)
			if left {
				assert.Equal(t, c.now, got.Before)
				assert.Equal(t, c.want, got.After)
				_, err = l.Apply([]lab.Change{got})
				assert.NoError(t, err)
			}
		})
	}
}

func TestMoneyIsReadAsPeopleWriteIt(t *testing.T) {
	for typed, want := range map[string]int64{
		"32": 3200, "£32.50": 3250, "32,50": 3250, "-40": -4000, "−40 GBP": -4000, "1,200": 120000, "1.200,50": 120050, "1'200.5": 120050,
		" 0 ": 0, "gbp 7": 700,
	} {
		got, err := lab.ParseMoney(typed, "GBP")
		require.NoError(t, err, typed)
		assert.Equal(t, want, got, typed)
	}
	yen, err := lab.ParseMoney("1,200", "JPY")
	require.NoError(t, err)
	assert.Equal(t, int64(1200), yen, "a yen has no smaller part")
	for _, typed := range []string{"", "-", "cheap", "1e9", "0x10", "12.345.6.7.8x", "999999999999999999999", "NaN", "1-2"} {
		_, err := lab.ParseMoney(typed, "GBP")
		assert.Error(t, err, typed)
	}
	for code, want := range map[string]string{"GBP": "-£32.50", "": "-32.50", "CHF": "-32.50 CHF", "AUD": "-$32.50", "JPY": "-¥3250"} {
		assert.Equal(t, want, lab.MoneyText(-3250, code))
		back, err := lab.ParseMoney(want, code)
		require.NoError(t, err)
		assert.Equal(t, int64(-3250), back, "what is written is read again")
	}
	_, err = lab.ParseMoney("$20", "GBP")
	assert.ErrorContains(t, err, "is in USD, and the lab's currency is GBP")
}

func TestEveryKindHasItsListAmongTheRecords(t *testing.T) {
	records := []lab.Record{
		lab.New().Settings(), lab.Place{ID: "p", Name: "P"}, lab.Rack{ID: "r", Name: "R", HeightU: 4},
		lab.SpecSheet{ID: "h", Name: "H", Kind: lab.Hub}, lab.VLAN{ID: "l", Number: 20, Name: "L"},
		lab.WirelessNetwork{ID: "w", Name: "W"}, lab.Circuit{ID: "k", Name: "K"}, lab.Template{ID: "tm", Name: "M"},
		lab.Device{ID: "d", Kind: lab.Server, State: lab.Spare}, lab.Device{ID: "e", Kind: lab.Server, State: lab.Spare},
		lab.Part{ID: "m", Kind: lab.Drive, State: lab.Running},
		lab.Photo{ID: "f", Device: "d", File: strings.Repeat("0a", 32), WidthPX: 4, HeightPX: 3},
		lab.Run{ID: "u", Name: "U"}, lab.Cable{ID: "c", State: lab.CableSpare},
		lab.Subnet{ID: "t", CIDR: netip.MustParsePrefix("10.20.0.0/24")}, lab.Name{ID: "b", Name: "books", Alias: "library"},
		lab.VirtualRouter{ID: "vr", Name: "V"}, lab.Route{ID: "rt", CIDR: netip.MustParsePrefix("10.9.0.0/16"), Router: "vr"},
		lab.Line{ID: "i", Name: "I"}, lab.Opening{ID: "o", Line: "i", Proto: lab.TCP, From: 443, Device: "d"},
		lab.Tunnel{ID: "tu", Name: "T"}, lab.RemoteAccess{ID: "ra", Name: "A", Device: "d"},
		lab.Rule{ID: "ru", From: &lab.Endpoint{Kind: lab.Internet}, To: &lab.Endpoint{Kind: "vlan", ID: "l"}, Says: lab.ReachNone},
		lab.Pool{ID: "po", Name: "hold", Device: "d"}, lab.Dataset{ID: "da", Name: "scores", On: &lab.Holder{Pool: "po"}},
		lab.NetworkShare{ID: "sh", Name: "scores", Dataset: "da"}, lab.Copy{ID: "co", Dataset: "da", To: &lab.Holder{Place: "p"}},
		lab.Service{ID: "sv", Name: "S", State: lab.Running}, lab.Cluster{ID: "cl", Name: "C", Hosts: []lab.ID{"d", "e"}}, lab.Stack{ID: "st",
			Name: "T"},
		lab.Need{ID: "ne", Of: &lab.Key{Kind: "service", ID: "sv"}, Any: []lab.Key{{Kind: "pool", ID: "po"}}},
		lab.Draft{ID: "q", Name: "Q"}, lab.Step{ID: "s", Draft: "q", Changes: []lab.Change{{After: lab.Place{ID: "x", Name: "X"}}}},
		lab.Note{ID: "n", Day: "2026-11-23", Text: "dusted"}, lab.Acceptance{ID: "a", Finding: "f", Reason: "known"},
		lab.Filter{ID: "v", Name: "V"},
	}
	require.Len(t, records, len(lab.Kinds())+1, "a new kind: add one here")
	l := lab.New()
	for _, r := range records[1:] {
		next, err := l.Apply([]lab.Change{{After: r}})
		require.NoError(t, err)
		l = next
	}
	assert.Equal(t, records, l.All().List())
}

func TestWhatAPlanCannotSayIsRefused(t *testing.T) {
	hub := lab.Device{ID: "d", Kind: lab.Hub, State: lab.Spare}
	for name, r := range map[string]lab.Record{
		"a draft without a name":       lab.Draft{ID: "q"},
		"a day that is none":           lab.Draft{ID: "q", Name: "Q", BegunOn: "yesterday"},
		"a step of no draft":           lab.Step{ID: "s", Draft: "q", Changes: []lab.Change{{After: hub}}},
		"a step that does nothing":     lab.Step{ID: "s", Draft: "q"},
		"a step that plans plans":      lab.Step{ID: "s", Draft: "q", Changes: []lab.Change{{After: lab.Draft{ID: "x", Name: "X"}}}},
		"a change of two records":      lab.Step{ID: "s", Draft: "q", Changes: []lab.Change{{Before: hub, After: lab.Place{ID: "d", Name: "D"}}}},
		"a note of no day":             lab.Note{ID: "n", Text: "dusted"},
		"a note that says nothing":     lab.Note{ID: "n", Day: "2026-11-23"},
		"an acceptance without reason": lab.Acceptance{ID: "a", Finding: "f"},
	} {
		_, err := lab.New().Apply([]lab.Change{{After: r}})
		var refusal *lab.Refusal
		assert.ErrorAs(t, err, &refusal, name)
	}
}

func TestAnOldChangeIsTakenBackByItself(t *testing.T) {
	heavy, deep := 24.0, 710.0
	was := lab.Device{ID: "d", Name: "anvil", Kind: lab.Server, State: lab.Running}
	is := was
	is.WeightKG = &heavy
	later := is
	later.DepthMM = &deep
	alone := later
	alone.WeightKG = nil
	on := func(records ...lab.Record) *lab.Lab {
		l, err := lab.New().Apply(puts(lab.New(), records...))
		require.NoError(t, err)
		return l
	}
	back, err := on(later).TakeBack([]lab.Change{{Before: was, After: is}})
	require.NoError(t, err)
	assert.Equal(t, []lab.Change{{Before: later, After: alone}}, back, "what came later stays")

	lighter := later
	lighter.WeightKG = &deep
	_, err = on(lighter).TakeBack([]lab.Change{{Before: was, After: is}})
	require.EqualError(t, err, "“anvil” changed meanwhile: weight_kg")
	_, err = on(later).TakeBack([]lab.Change{{After: was}})
	require.EqualError(t, err, "“anvil” changed meanwhile: depth_mm, weight_kg", "what was new has newer facts")
	back, err = on(was).TakeBack([]lab.Change{{After: was}})
	require.NoError(t, err)
	assert.Equal(t, []lab.Change{{Before: was}}, back)
	back, err = lab.New().TakeBack([]lab.Change{{Before: was}})
	require.NoError(t, err)
	assert.Equal(t, []lab.Change{{After: was}}, back, "what went comes again")
}
