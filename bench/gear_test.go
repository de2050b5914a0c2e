package bench

import (
	"bytes"
	"context"
	"io"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
	"levelstaff/core/table"
	"levelstaff/exchange"
)

func BenchmarkGearIndexOf5000(b *testing.B) {
	l := large(b)
	for b.Loop() {
		table.Of(lab.KindDevice).New(l)
	}
}

func BenchmarkGearFilteredAndSorted(b *testing.B) {
	ix := table.Of(lab.KindDevice).New(large(b))
	columns := []string{"name", "kind", "state", "where", "weight", "depth", "purpose", "ram", "price"}
	for b.Loop() {
		_, err := ix.Show(table.Ask{Filter: "weight>5kg -state:leaving", Sort: "-weight", Columns: columns})
		require.NoError(b, err)
	}
}

func BenchmarkGearAllSortedAndGrouped(b *testing.B) {
	ix := table.Of(lab.KindDevice).New(large(b))
	columns := []string{"name", "kind", "state", "where", "weight", "depth", "purpose", "ram", "price"}
	for b.Loop() {
		_, err := ix.Show(table.Ask{Sort: "name", Group: "kind", Columns: columns})
		require.NoError(b, err)
	}
}

func BenchmarkWhereWouldThisFit(b *testing.B) {
	l := large(b)
	wide, deep, weight := 440.0, 710.0, 24.0
	thing := rack.Thing{Title: "it", Kind: lab.Server, Spec: lab.Spec{WidthMM: &wide, DepthMM: &deep, WeightKG: &weight}}
	for b.Loop() {
		require.NotEmpty(b, rack.Where(l, thing, 2, rack.WholePart))
	}
}

func BenchmarkWorkbookOf5000Written(b *testing.B) {
	l := large(b)
	for b.Loop() {
		require.NoError(b, exchange.Devices.WriteXLSX(io.Discard, l))
	}
}

func BenchmarkWorkbookOf5000Read(b *testing.B) {
	l := large(b)
	var out bytes.Buffer
	require.NoError(b, exchange.Devices.WriteXLSX(&out, l))
	for b.Loop() {
		sheet, err := exchange.Devices.Read(context.Background(), l, out.Bytes(), exchange.Taking{}, counter())
		require.NoError(b, err)
		require.Zero(b, sheet.Refused)
	}
}
