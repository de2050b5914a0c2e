package bench

import (
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/report"
	"levelstaff/core/storage"
	"levelstaff/demo"
)

// eachStored does something to a lab of 2,000 drives in 200 pools, 2,000 datasets and
// 4,000 copies that was changed since.
func eachStored(b *testing.B, before, do func(*lab.Lab)) {
	l, err := demo.LargeStorage()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		before(next)
		b.StartTimer()
		do(next)
	}
}

// BenchmarkStorage works out all pools, datasets and copies.
func BenchmarkStorage(b *testing.B) {
	eachStored(b, func(*lab.Lab) {}, func(l *lab.Lab) { storage.Of(l) })
}

// BenchmarkStorageCopies works all of it out, and what is lost of each dataset with its
// pool, its device and the house.
func BenchmarkStorageCopies(b *testing.B) {
	eachStored(b, func(*lab.Lab) {}, func(l *lab.Lab) {
		s := storage.Of(l)
		for _, d := range s.Data() {
			for _, gone := range []storage.Scope{storage.OfPool, storage.OfDevice, storage.OfHouse} {
				s.LossIf(d, gone, "2026-11-28")
			}
		}
	})
}

// BenchmarkStorageReports answers what the Storage sheet asks for.
func BenchmarkStorageReports(b *testing.B) {
	for _, name := range []string{"pools", "copies", "data_lost"} {
		b.Run(name, func(b *testing.B) {
			r, ok := report.Named(name)
			require.True(b, ok)
			eachStored(b, func(l *lab.Lab) { storage.Of(l) }, func(l *lab.Lab) {
				_, err := r.Of(report.Ask{Lab: l, Built: l, Day: "2026-11-28"})
				require.NoError(b, err)
			})
		})
	}
}

// BenchmarkStorageFindings runs the checks of storage.
func BenchmarkStorageFindings(b *testing.B) {
	eachStored(b, func(l *lab.Lab) { storage.Of(l) }, func(l *lab.Lab) { finding.OfStorage(l, "2026-11-28") })
}
