package bench

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/demo"
)

// fed is the large lab with its power, changed a little, with its wiring worked out.
func fed(b *testing.B, l *lab.Lab, i int) *lab.Lab {
	next := touched(b, l, i)
	cabling.Of(next).Feeds()
	return next
}

// BenchmarkPowerFlow works out the whole flow of the large lab.
func BenchmarkPowerFlow(b *testing.B) {
	l, err := demo.LargePower()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := fed(b, l, i)
		b.StartTimer()
		g := power.Of(next)
		g.Flow()
		b.ReportMetric(float64(len(g.Feeds())), "feeds")
	}
}

// BenchmarkPowerLosses works out all single losses, and goes once over all feeds for each
// of them in the same run.
func BenchmarkPowerLosses(b *testing.B) {
	l, err := demo.LargePower()
	require.NoError(b, err)
	var losses, walks time.Duration
	runs, count := 0, 0
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		g := power.Of(fed(b, l, i))
		g.Flow()
		b.StartTimer()
		from := time.Now()
		count = len(g.Losses())
		losses += time.Since(from)
		b.StopTimer()
		walks += time.Duration(count) * wentOver(g)
		runs++
		b.StartTimer()
	}
	b.ReportMetric(float64(losses.Microseconds())/1000/float64(runs), "ms/losses")
	b.ReportMetric(float64(walks.Microseconds())/1000/float64(runs), "ms/losses-times-walk")
	b.ReportMetric(float64(losses)/float64(walks), "times")
	b.ReportMetric(float64(count), "losses")
}

// wentOver is how long it takes to go over all feeds from what feeds others down.
func wentOver(g *power.Grid) time.Duration {
	const often = 20
	feeds := g.Feeds()
	load := make([]float64, len(g.Nodes()))
	from := time.Now()
	for range often {
		for n := range g.Nodes() {
			for _, e := range g.Out(int32(n)) {
				load[feeds[e].To] += load[n] + 1
			}
		}
	}
	return time.Since(from) / often
}

// BenchmarkPowerFindings runs the checks of power.
func BenchmarkPowerFindings(b *testing.B) {
	l, err := demo.LargePower()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := fed(b, l, i)
		power.Of(next).Flow()
		b.StartTimer()
		finding.OfPower(next)
	}
}
