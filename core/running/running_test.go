package running_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/power"
	"levelstaff/core/running"
)

func costOf(t *testing.T, l *lab.Lab, title string) running.Cost {
	t.Helper()
	n, ok := power.Of(l).Number(labtest.Named[lab.Device](t, l, title).Key())
	require.True(t, ok)
	return running.Of(l).Nodes[n]
}

// Worked out by hand: 74 W all day are 74 x 24 x 30.44 / 1000 = 54.06 kWh, at 0.29 15.68.
// 280 W for 4 h and 70 W for 4 h are 1400 Wh a day, 42.62 kWh a month. 48 W from 7 to 23
// are 16 h: 23.38 kWh, and 8 h of standby at 2 W 0.487 more.
func TestEnergyOfAMonth(t *testing.T) {
	l := labtest.From(t, `lab, price 0.29 a kWh, standing 0.61 a day
? mini pc "thrush": 74W
? amplifier "amp": 0W standby, 70W idle, 280W max, 4h a day most, 4h a day idle
? desktop "loaf": 2W standby, 48W typical, on 07:00-23:00
? camera "eye"
? server "old": resting, 6W standby, 200W typical, on 07:00-23:00
? server "box": spare, 100W
`)
	for title, want := range map[string]float64{"thrush": 54.06144, "amp": 42.616, "loaf": 23.37792 + 0.48704,
		"old": 6 * 24 * 0.03044, "box": 0} {
		c := costOf(t, l, title)
		assert.InDelta(t, want, c.KWh, 1e-6, title)
		assert.InDelta(t, want*0.29, c.Least, 1e-6, title)
		assert.InDelta(t, c.Least, c.Most, 1e-9, "%s: the price is one all day", title)
		assert.False(t, c.AtLeast, title)
	}
	assert.True(t, costOf(t, l, "eye").AtLeast)
	b := running.Of(l)
	least, most := b.Total()
	assert.InDelta(t, (54.06144+42.616+23.86496+4.38336)*0.29+0.61*30.44, least, 1e-6)
	assert.InDelta(t, least, most, 1e-9)
	assert.True(t, b.AtLeast, "nobody knows what eye draws")
	price, ok := b.PriceFor(50)
	assert.True(t, ok)
	assert.InDelta(t, 50, price*b.KWh+b.Standing, 1e-9)
	hours, ok := b.HoursFor(least)
	assert.True(t, ok)
	assert.InDelta(t, 24, hours, 1e-9)
	_, ok = b.PriceFor(10)
	assert.False(t, ok, "the standing charge alone is more")
}

// 0.12 from 00:30 to 05:30, 0.31 at other times: 100 W all day are 0.5 kWh by night and 1.9
// by day: 0.06 + 0.589 = 0.649 a day, 19.756 a month. 100 W for 6 h a day may run 5 h by
// night and 1 h by day, 0.06 + 0.031 = 0.091, or all by day, 0.186. From 22:00 to 02:00
// 100 W are 1.5 h by night and 2.5 by day: 0.018 + 0.0775 = 0.0955.
func TestPricesByTheClock(t *testing.T) {
	l := labtest.From(t, `lab, price 0.31 a kWh, price 0.12 a kWh 00:30-05:30
? server "always": 100W
? server "some": 0W standby, 100W typical, 6h a day typical
? server "late": 0W standby, 100W typical, on 22:00-02:00
? server "both": 0W standby, 100W typical, 200W max, on 22:00-02:00, 5h a day most
`)
	always, some, late, both := costOf(t, l, "always"), costOf(t, l, "some"), costOf(t, l, "late"), costOf(t, l, "both")
	const month = 30.44
	assert.InDelta(t, 0.649*month, always.Least, 1e-9)
	assert.InDelta(t, 0.649*month, always.Most, 1e-9)
	assert.InDelta(t, 0.091*month, some.Least, 1e-9)
	assert.InDelta(t, 0.186*month, some.Most, 1e-9)
	assert.InDelta(t, 0.0955*month, late.Least, 1e-9)
	assert.InDelta(t, 0.0955*month, late.Most, 1e-9)
	// Of the night 3.5 h are left to both: 200 W for those and 1.5 h by day, or 5 h by day.
	assert.InDelta(t, (0.0955+0.2*(3.5*0.12+1.5*0.31))*month, both.Least, 1e-9)
	assert.InDelta(t, (0.0955+0.2*5*0.31)*month, both.Most, 1e-9)

	b := running.Of(l)
	n, _ := power.Of(l).Number(labtest.Named[lab.Device](t, l, "always").Key())
	saves, _ := b.OffSaves(n, "23:00", "07:00") // 5 h by night and 3 by day, of a year
	assert.InDelta(t, 0.1*(5*0.12+3*0.31)*365.25, saves, 1e-9)
	by := b.ByHour()
	// At 23 h always, late and both draw 100 W each; some its 6 h spread over 24: 25 W; both
	// besides 200 W for 5 of the 20 h that its clock leaves are none at that hour.
	assert.InDelta(t, 325, by[23], 1e-9)
	assert.InDelta(t, 100+25+50, by[12], 1e-9)
	sum := 0.0
	for _, w := range by {
		sum += w
	}
	assert.InDelta(t, b.KWh, sum*month/1000, 1e-6, "the hours come to the month")
}

// What is measured beyond what is known costs too; what a UPS loses is its own; each circuit
// has its part.
func TestWhatBelongsToWhom(t *testing.T) {
	l := labtest.From(t, `lab, price 0.5 a kWh
circuit "k": 16A 230V
circuit "g": 16A 230V
? wall outlet "left": 2 outlets uk, on circuit "k"
? wall outlet "right": 2 outlets uk, on circuit "g"
? ups "keep": 80% efficient, 2 outlets c13
? power strip "bar": 4 outlets c13, measured 50W behind it
? server "anvil": 2 supply bays, 80W
? mini pc "wren": 30W
? mini pc "lone": 10W
left/out1 - keep/in1
keep/out1 - anvil/in1
right/out1 - bar/in1
bar/out1 - wren/in1
right/out2 - anvil/in2
`)
	perW := 24 * 30.44 / 1000
	for title, w := range map[string]float64{"anvil": 80, "keep": 10, "wren": 30, "bar": 20, "lone": 10} {
		assert.InDelta(t, w*perW, costOf(t, l, title).KWh, 1e-9, title)
	}
	g, b := power.Of(l), running.Of(l)
	assert.InDelta(t, 150*perW, b.KWh, 1e-9)
	sums := map[string]float64{}
	for n, c := range b.ByCircuit() {
		name := ""
		if n >= 0 {
			name = g.Nodes()[n].Title
		}
		sums[name] = c.KWh
	}
	assert.InDelta(t, 50*perW, sums["k"], 1e-9, "half of anvil, and what keep loses")
	assert.InDelta(t, 90*perW, sums["g"], 1e-9)
	assert.InDelta(t, 10*perW, sums[""], 1e-9)
}

// 326 W are 1112.3 BTU/h, and 97.3 m3/h keep them to 10 K. 34 and 34 dB are 37.01; 40 and 30
// 40.41; 43 and 34 43.51. What makes no noise adds none.
func TestHeatAndNoise(t *testing.T) {
	l := labtest.From(t, `place "House"
place "Closet": in "House", shut, at most 40dB
rack "R": 9U, in "Closet"
3 server "a": 200W, 34dB, 43dB busy
2 server "b": 126W, 34dB
1 switch "c": 0W, 0dB
place "House"
  nas "d": 40W
  mini pc "e"
`)
	at := map[string]running.Heat{}
	for _, h := range running.Warmth(l) {
		at[h.Name] = h
	}
	r, closet, house := at["R"], at["Closet"], at["House"]
	assert.InDelta(t, 326*3.412, r.BTU(), 1e-9)
	assert.InDelta(t, 97.311, r.Air(10), 1e-3)
	assert.InDelta(t, 37.0103, r.Rest.DB, 1e-4)
	assert.InDelta(t, 10*math.Log10(math.Pow(10, 4.3)+math.Pow(10, 3.4)), r.Busy.DB, 1e-9)
	assert.InDelta(t, 43.51, r.Busy.DB, 0.01)
	assert.Equal(t, []any{326.0, true, 40.0}, []any{closet.W, closet.Shut, *closet.MostDB})
	assert.Equal(t, []any{366.0, 1, 2, false}, []any{house.W, house.Lacks, house.Unheard, house.Shut})
	assert.Nil(t, house.MostDB)
	silent := running.Warmth(labtest.From(t, "place \"P\"\n  switch \"c\": 8W, 0dB\n"))[0]
	assert.Equal(t, []any{0.0, true}, []any{silent.Rest.DB, silent.Rest.Known})
}

// For random hours and prices: the least is never above the most; both lie between all of it
// at the cheapest and all at the dearest price; the hours of the day come to the month.
func TestCostsLieBetweenTheirPrices(t *testing.T) {
	for seed := range uint64(200) {
		rnd := rand.New(rand.NewPCG(seed, 21))
		cheap, dear := 0.05+0.1*rnd.Float64(), 0.2+0.2*rnd.Float64()
		text := fmt.Sprintf("lab, price %.4f a kWh, price %.4f a kWh %02d:30-%02d:00\n", dear, cheap, rnd.IntN(24), rnd.IntN(24))
		for i := range 3 {
			standby := rnd.IntN(5)
			typical := standby + rnd.IntN(50)
			text += fmt.Sprintf("? server \"s%d\": %dW standby, %dW typical, %dW max", i, standby, typical, typical+rnd.IntN(100))
			hours := 24.0
			if rnd.IntN(2) == 0 {
				text += fmt.Sprintf(", on %02d:00-%02d:30", 3*i, 3*i+1+rnd.IntN(5))
				hours -= 7
			}
			if rnd.IntN(2) == 0 {
				text += fmt.Sprintf(", %dh a day most", 1+rnd.IntN(int(hours)-10))
			}
			text += "\n"
		}
		l := labtest.From(t, text)
		b := running.Of(l)
		for n, c := range b.Nodes {
			require.LessOrEqual(t, c.Least, c.Most+1e-9, "%d: %s", n, text)
			require.GreaterOrEqual(t, c.Least, c.KWh*math.Round(cheap*1e4)/1e4-1e-9, text)
			require.LessOrEqual(t, c.Most, c.KWh*math.Round(dear*1e4)/1e4+1e-9, text)
		}
		sum := 0.0
		for _, w := range b.ByHour() {
			sum += w
		}
		require.InDelta(t, b.KWh, sum*running.MonthDays/1000, 1e-6, text)
		least, most := b.Total()
		price, ok := b.PriceFor(least)
		if ok {
			require.GreaterOrEqual(t, price, math.Round(cheap*1e4)/1e4-1e-9, text)
			require.LessOrEqual(t, price, math.Round(dear*1e4)/1e4+1e-9, text)
		}
		require.LessOrEqual(t, least, most+1e-9)
	}
}
