package bench

import (
	"net/netip"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/address"
	"levelstaff/core/cabling"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/reach"
	"levelstaff/demo"
)

// addressed is the large lab with its addresses, as it is after a change: nothing of what is
// measured is worked out, and what it rests on is.
func addressed(b *testing.B, l *lab.Lab, i int) *lab.Lab {
	next := touched(b, l, i)
	for range cabling.Of(next).Routes {
		break
	}
	network.Of(next).Spreads()
	return next
}

// BenchmarkAddressChecks runs the checks about addresses, names, routers and who reaches
// whom: 5,000 addresses in 400 subnets, 2,000 rules.
func BenchmarkAddressChecks(b *testing.B) {
	l, err := demo.LargeAddresses()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := addressed(b, l, i)
		b.StartTimer()
		finding.OfAddresses(next)
	}
	b.ReportMetric(float64(len(address.Of(l).All())), "addresses")
}

// BenchmarkNextFree finds the next free address of each subnet, the plan being there.
func BenchmarkNextFree(b *testing.B) {
	l, err := demo.LargeAddresses()
	require.NoError(b, err)
	p := address.Of(l)
	for i := 0; b.Loop(); i++ {
		p.NextFree(i % len(p.Subnets()))
	}
}

// BenchmarkAddressPlan works out who has which address.
func BenchmarkAddressPlan(b *testing.B) {
	l, err := demo.LargeAddresses()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := addressed(b, l, i)
		b.StartTimer()
		address.Of(next)
	}
}

// BenchmarkReach works out who of 200 VLANs reaches whom, 40,000 cells.
func BenchmarkReach(b *testing.B) {
	l, err := demo.LargeAddresses()
	require.NoError(b, err)
	cells := 0
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := addressed(b, l, i)
		b.StartTimer()
		cells = len(reach.Of(next).Table())
	}
	b.ReportMetric(float64(cells), "cells")
}

// BenchmarkRuler makes the ruler of a /16.
func BenchmarkRuler(b *testing.B) {
	l, err := demo.LargeAddresses()
	require.NoError(b, err)
	p := address.Of(l)
	wide, _ := p.Number("wide")
	for b.Loop() {
		_, err = p.Ruler(wide, netip.Prefix{})
	}
	require.NoError(b, err)
}
