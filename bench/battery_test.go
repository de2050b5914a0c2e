package bench

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/battery"
	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/running"
	"levelstaff/demo"
)

// onBattery is the large lab with points for its UPSs, a time for every server to go, hours
// that some of them run, and prices by the clock.
func onBattery(b *testing.B) *lab.Lab {
	b.Helper()
	l, err := demo.LargePower()
	require.NoError(b, err)
	f := func(v float64) *float64 { return &v }
	var changes []lab.Change
	put := func(r lab.Record) {
		if c, ok := l.Put(r); ok {
			changes = append(changes, c)
		}
	}
	s := l.Settings()
	s.Prices = []lab.Price{{PerKWh: 0.31}, {PerKWh: 0.12, From: "00:30", To: "05:30"}}
	put(s)
	n := 0
	for d := range lab.Each[lab.Device](l) {
		n++
		switch {
		case d.Kind == lab.UPS:
			d.Runtimes = []lab.Runtime{{W: f(2000), Minutes: 20}, {W: f(5000), Minutes: 5}}
		case d.Kind == lab.Server && n%3 == 0:
			d.Goes, d.StopsS = &lab.Goes{AtPercent: f(float64(20 + n%60))}, f(90)
		case d.Kind == lab.Server && n%3 == 1:
			d.Goes, d.RunTimes = &lab.Goes{AfterMin: f(float64(n % 10))}, []lab.RunTime{{From: "07:00", To: "23:00"}}
		default:
			d.RunTimes = []lab.RunTime{{Hours: 4, Every: lab.EveryDay, Level: lab.AtMost}}
		}
		put(d)
	}
	next, err := l.Apply(changes)
	require.NoError(b, err)
	return next
}

// BenchmarkShutdown follows all of the large lab down, its flow known.
func BenchmarkShutdown(b *testing.B) {
	l := onBattery(b)
	power.Of(l).Flow()
	steps := 0
	for b.Loop() {
		steps = 0
		for _, r := range battery.Simulate(l, l, "2026-11-26", battery.What{}).Runs {
			steps += len(r.Steps)
		}
	}
	b.ReportMetric(float64(steps), "steps")
}

// BenchmarkShutdownAtHome is that of a rack with two UPSs and 30 servers.
func BenchmarkShutdownAtHome(b *testing.B) {
	l := lab.New()
	f := func(v float64) *float64 { return &v }
	var changes []lab.Change
	put := func(r lab.Record) { changes = append(changes, lab.Change{After: r}) }
	for u := range 2 {
		put(lab.Device{ID: lab.ID(fmt.Sprint("u", u)), Name: fmt.Sprint("ups ", u), Kind: lab.UPS, State: lab.Running,
			Spec: lab.Spec{Runtimes: []lab.Runtime{{W: f(500), Minutes: 20}, {W: f(2000), Minutes: 4}},
				Outlets: []lab.OutletGroup{{Count: 40, Battery: true}}}})
	}
	two := 2
	for n := range 30 {
		id := lab.ID(fmt.Sprint("s", n))
		put(lab.Device{ID: id, Name: fmt.Sprint("server ", n), Kind: lab.Server, State: lab.Running,
			Spec:   lab.Spec{TypicalW: f(40), SupplyBays: &two},
			Outage: lab.Outage{Goes: &lab.Goes{AtPercent: f(float64(10 + 2*n))}, StopsS: f(60)}})
		for u := range 2 {
			put(lab.Cable{ID: lab.ID(fmt.Sprint("w", n, "-", u)), State: lab.CableInUse, A: &lab.End{Device: lab.ID(fmt.Sprint("u", u)),
				Port: fmt.Sprint("out", n+1)}, B: &lab.End{Device: id, Port: fmt.Sprint("in", u+1)}})
		}
	}
	l, err := l.Apply(changes)
	require.NoError(b, err)
	power.Of(l).Flow()
	for b.Loop() {
		o := battery.Simulate(l, l, "2026-11-26", battery.What{})
		require.Len(b, o.Runs[0].Steps, 30)
	}
}

// BenchmarkCost works out what every device of the large lab costs, its flow known.
func BenchmarkCost(b *testing.B) {
	l := onBattery(b)
	d, _ := lab.Find[lab.Device](l, "d-100-04")
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		d.Notes = fmt.Sprint(i)
		c, _ := l.Put(d)
		next, err := l.Apply([]lab.Change{c})
		require.NoError(b, err)
		power.Of(next).Flow()
		b.StartTimer()
		b.ReportMetric(float64(len(running.Of(next).Nodes)), "things")
	}
}
