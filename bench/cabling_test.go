package bench

import (
	"runtime"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/demo"
)

func wired(b testing.TB) *lab.Lab {
	b.Helper()
	l, err := demo.LargeWired()
	require.NoError(b, err)
	return l
}

// touched is the lab as it is after a change, of which nothing is known yet.
func touched(b *testing.B, l *lab.Lab, n int) *lab.Lab {
	s := l.Settings()
	was := s
	s.Name = string(rune('a' + n%26))
	next, err := l.Apply([]lab.Change{{Before: was, After: s}})
	if err != nil {
		b.Fatal(err)
	}
	return next
}

func BenchmarkWiringOf40000Cables(b *testing.B) {
	l := wired(b)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		runtime.GC()
		b.StartTimer()
		cabling.Of(next)
	}
}

// BenchmarkSweep follows every trail; BenchmarkBareWalk reads a slice of as
// many edges, which is the least it could take.
func BenchmarkSweep(b *testing.B) {
	w := cabling.Of(wired(b))
	ports, cables := w.Count()
	b.ReportMetric(float64(ports), "ports")
	b.ReportMetric(float64(cables), "cables")
	for b.Loop() {
		for range w.Paths {
		}
	}
}

func BenchmarkBareWalk(b *testing.B) {
	w := cabling.Of(wired(b))
	ports, _ := w.Count()
	type edge struct{ far, through, cable int32 }
	edges := make([]edge, 2*ports)
	for i := range edges {
		edges[i] = edge{int32(i*7919%len(edges) | 1), -1, int32(i)}
	}
	n := int32(0)
	for b.Loop() {
		for i := range edges {
			if far := edges[i].far; far > int32(i) {
				n += edges[far].cable
			}
		}
	}
	runtime.KeepAlive(n)
}

// BenchmarkAllTrails works out every trail's ends, length and speed, which is
// kept once it is known: each turn has a lab of which only the wiring is.
func BenchmarkAllTrails(b *testing.B) {
	l := wired(b)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		w := cabling.Of(touched(b, l, i))
		runtime.GC()
		b.StartTimer()
		n := 0
		for range w.Routes {
			n++
		}
		b.ReportMetric(float64(n), "trails")
	}
}

// BenchmarkAllTrailsInWords is the same with every stop and cable by name.
func BenchmarkAllTrailsInWords(b *testing.B) {
	w := cabling.Of(wired(b))
	for b.Loop() {
		w.Trails()
	}
}

func BenchmarkOneTrail(b *testing.B) {
	w := cabling.Of(wired(b))
	for b.Loop() {
		_, ok := w.TrailFrom(lab.End{Device: "d-100-04", Port: "7"})
		if !ok {
			b.Fatal("no trail")
		}
	}
}

func BenchmarkPullSheet(b *testing.B) {
	w := cabling.Of(wired(b))
	for b.Loop() {
		w.PullSheetOf("d-100-04")
	}
}

func BenchmarkCablingChecks(b *testing.B) {
	l := wired(b)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		cabling.Of(next)
		runtime.GC()
		b.StartTimer()
		b.ReportMetric(float64(len(finding.OfCabling(next))), "findings")
	}
}
