// Package bench measures what has to be fast, on the large made-up lab and on
// the demo. Run it with make bench; it checks no times.
package bench

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/rundown"
	"levelstaff/demo"
)

func large(b testing.TB) *lab.Lab {
	b.Helper()
	l, err := demo.Large(8640)
	require.NoError(b, err)
	return l
}

func counter() func() lab.ID {
	n := 0
	return func() lab.ID { n++; return lab.ID(fmt.Sprintf("%08d", n)) }
}

func BenchmarkOneChangeApplied(b *testing.B) {
	l := large(b)
	d, _ := lab.Find[lab.Device](l, "d-0100-10")
	for i := 0; b.Loop(); i++ {
		was := d
		d.Name = fmt.Sprint("renamed ", i)
		next, err := l.Apply([]lab.Change{{Before: was, After: d}})
		require.NoError(b, err)
		l = next
	}
}

func BenchmarkSpaceReport(b *testing.B) {
	l := large(b)
	for b.Loop() {
		rack.Report(l)
	}
}

func BenchmarkRundownOf5000LinesRead(b *testing.B) {
	text := rundown.Print(large(b))
	for b.Loop() {
		require.Empty(b, rundown.Parse(text).Mistakes)
	}
}

func BenchmarkRundownOf5000LinesReadAndLoaded(b *testing.B) {
	text := rundown.Print(large(b))
	b.ReportMetric(float64(strings.Count(text, "\n")), "lines")
	for b.Loop() {
		p := rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: counter()})
		require.Empty(b, p.Mistakes)
	}
}

func BenchmarkRundownOf5000LinesAgainstItsLab(b *testing.B) {
	l := large(b)
	text := strings.Replace(rundown.Print(l), "thing-100-10", "hammer", 1)
	for b.Loop() {
		p := rundown.Load(l, rundown.Parse(text), rundown.Options{All: true, Forget: true, NewID: counter()})
		require.Len(b, p.Changes, 1)
	}
}

func BenchmarkRundownWritten(b *testing.B) {
	l := large(b)
	for b.Loop() {
		rundown.Print(l)
	}
}
