package bench

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/network"
	"levelstaff/core/report"
	"levelstaff/core/service"
	"levelstaff/demo"
)

// eachServed does something to a lab of 2,000 guests on 100 hosts that was changed since;
// the network of a lab is worked out anyway.
func eachServed(b *testing.B, before, do func(*lab.Lab)) {
	l, err := demo.LargeServices()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		network.Of(next)
		before(next)
		b.StartTimer()
		do(next)
	}
}

// BenchmarkServices works out what every host has given.
func BenchmarkServices(b *testing.B) {
	eachServed(b, func(*lab.Lab) {}, func(l *lab.Lab) { service.Of(l).Clusters() })
}

// BenchmarkServiceFindings works that out and runs the checks of services.
func BenchmarkServiceFindings(b *testing.B) {
	eachServed(b, func(*lab.Lab) {}, func(l *lab.Lab) { finding.OfServices(l, "2026-11-28") })
}

// BenchmarkServiceReports answers what the Services sheet asks for, and what is asked when
// a guest is dragged.
func BenchmarkServiceReports(b *testing.B) {
	for name, with := range map[string]map[string]string{"hosts": nil, "without": {"host": "host 7"}, "fits": {"guest": "guest 9"}} {
		b.Run(name, func(b *testing.B) {
			r, ok := report.Named(name)
			require.True(b, ok)
			eachServed(b, func(l *lab.Lab) { service.Of(l) }, func(l *lab.Lab) {
				_, err := r.Of(report.Ask{Lab: l, Built: l, Day: "2026-11-28", With: with})
				require.NoError(b, err)
			})
		})
	}
}

// BenchmarkPlacement places the guests of each of 5 hosts with 60 guests in turn, in a lab
// with room to spare, in one with just enough and in one with too little.
func BenchmarkPlacement(b *testing.B) {
	for _, c := range []struct {
		name   string
		fitted int
	}{{"roomy", 128}, {"tight", 78}, {"too little", 66}} {
		rnd := rand.New(rand.NewPCG(23, 2))
		var text strings.Builder
		for h := range 5 {
			fmt.Fprintf(&text, "server \"h%d\": %dGB, 32 cores, runs hypervisor\n", h, c.fitted)
		}
		for g := range 60 {
			fmt.Fprintf(&text, "on h%d: vm \"g%d\": 2 vcpu, %dGB%s\n", g%5, g, 1+rnd.IntN(9), []string{"", ", household", ", lab",
				", toy"}[rnd.IntN(4)])
		}
		s := service.Of(labtest.From(b, text.String()))
		b.Run(c.name, func(b *testing.B) {
			exact := 0
			for b.Loop() {
				exact = 0
				for _, h := range s.Hosts() {
					if s.Without(h, false, service.Steps).Exact {
						exact++
					}
				}
			}
			b.ReportMetric(float64(exact), "exact")
		})
	}
}
