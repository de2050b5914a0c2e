package bench

import (
	"runtime"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/demo"
)

// BenchmarkSpread works out where each of 200 VLANs reaches in the large lab, and
// searches the bare graph of its links once for each VLAN, in the same run.
func BenchmarkSpread(b *testing.B) {
	l, err := demo.LargeNetwork()
	require.NoError(b, err)
	var spreads, bare time.Duration
	ports, runs := 0, 0
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		for range cabling.Of(next).Routes {
			break // the trails are there before
		}
		runtime.GC()
		b.StartTimer()
		from := time.Now()
		n := network.Of(next)
		list := n.Spreads()
		spreads += time.Since(from)
		b.StopTimer()
		require.Len(b, list, demo.LargeVLANs)
		ports = 0
		for _, s := range list {
			for _, p := range s.Pieces {
				ports += len(p.Tips)
			}
		}
		bare += searched(n)
		runs++
		b.StartTimer()
	}
	b.ReportMetric(float64(spreads.Microseconds())/1000/float64(runs), "ms/spreads")
	b.ReportMetric(float64(bare.Microseconds())/1000/float64(runs), "ms/bare-searches")
	b.ReportMetric(float64(spreads)/float64(bare), "times")
	b.ReportMetric(float64(ports), "ports-reached")
}

// searched is how long it takes to go through the graph of all links breadth first,
// once for each VLAN.
func searched(n *network.Network) time.Duration {
	next := make([][]int32, n.Wiring().DeviceCount())
	for _, l := range n.Links() {
		next[l.A.Device] = append(next[l.A.Device], l.B.Device)
		next[l.B.Device] = append(next[l.B.Device], l.A.Device)
	}
	from := time.Now()
	seen := make([]int, len(next))
	queue := make([]int32, 0, len(next))
	for v := 1; v <= demo.LargeVLANs; v++ {
		for start := range next {
			if seen[start] == v {
				continue
			}
			seen[start] = v
			queue = append(queue[:0], int32(start))
			for at := 0; at < len(queue); at++ {
				for _, o := range next[queue[at]] {
					if seen[o] != v {
						seen[o] = v
						queue = append(queue, o)
					}
				}
			}
		}
	}
	return time.Since(from)
}

// BenchmarkThreads finds what the large lab hangs by, and walks the bare graph of its
// links once depth first, in the same run.
func BenchmarkThreads(b *testing.B) {
	l, err := demo.LargeNetwork()
	require.NoError(b, err)
	var threads, bare time.Duration
	list, runs := 0, 0
	for b.Loop() {
		var networks []*network.Network // several, as what is known of one is kept
		for range 20 {
			networks = append(networks, network.Of(touched(b, l, runs)))
			runs++
		}
		runtime.GC()
		for _, n := range networks {
			bare += walked(n)
		}
		from := time.Now()
		for _, n := range networks {
			list = len(n.Threads().List)
		}
		threads += time.Since(from)
	}
	b.ReportMetric(float64(threads.Microseconds())/1000/float64(runs), "ms/threads")
	b.ReportMetric(float64(bare.Microseconds())/1000/float64(runs), "ms/bare-walk")
	b.ReportMetric(float64(threads)/float64(bare), "times")
	b.ReportMetric(float64(list), "threads")
}

// walked is how long it takes to walk the graph of all links depth first, once.
func walked(n *network.Network) time.Duration {
	next := make([][]int32, n.Wiring().DeviceCount())
	for _, l := range n.Links() {
		next[l.A.Device] = append(next[l.A.Device], l.B.Device)
		next[l.B.Device] = append(next[l.B.Device], l.A.Device)
	}
	from := time.Now()
	seen := make([]bool, len(next))
	stack := make([]int32, 0, len(next))
	for start := range next {
		stack = append(stack, int32(start))
		for len(stack) > 0 {
			at := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			if seen[at] {
				continue
			}
			seen[at] = true
			for _, far := range next[at] {
				if !seen[far] {
					stack = append(stack, far)
				}
			}
		}
	}
	return time.Since(from)
}

// BenchmarkWay finds the widest way between two devices of the large lab, others each
// time.
func BenchmarkWay(b *testing.B) {
	l, err := demo.LargeNetwork()
	require.NoError(b, err)
	n := network.Of(l)
	in := n.Everywhere()
	many := int32(n.Wiring().DeviceCount())
	in.Way(0, 1) // what is known of the lab as such
	found := 0
	for i := int32(0); b.Loop(); i++ {
		if len(in.Way(i*7919%many, i*104729%many).Hops) > 0 {
			found++
		}
	}
	b.ReportMetric(float64(found)/float64(b.N), "found")
}

// BenchmarkSlowLinks finds what would make links of the large lab faster, in which the
// ports of all servers could do more than those that they are plugged into.
func BenchmarkSlowLinks(b *testing.B) {
	l, err := demo.LargeNetwork()
	require.NoError(b, err)
	var changes []lab.Change
	for d := range lab.Each[lab.Device](l) {
		if d.Kind == lab.Server {
			d.Ports = []lab.PortGroup{{Count: 3, Connector: "rj45", SpeedsMb: []int{1000, 2500, 10000}}}
			if c, ok := l.Put(d); ok {
				changes = append(changes, c)
			}
		}
	}
	l, err = l.Apply(changes)
	require.NoError(b, err)
	n := network.Of(l)
	list := 0
	n.Trees() // what is known of the lab as such
	for b.Loop() {
		list = len(n.Slow())
	}
	b.ReportMetric(float64(list), "slow")
}

// BenchmarkCutOff finds what is cut off while a device of the large lab is out, another
// one each time.
func BenchmarkCutOff(b *testing.B) {
	l, err := demo.LargeNetwork()
	require.NoError(b, err)
	n := network.Of(l)
	many := n.Wiring().DeviceCount()
	n.CutOff() // what needs what is known
	for i := 0; b.Loop(); i++ {
		n.CutOff(n.Wiring().DeviceAt(int32(i % many)).Key())
	}
}

// BenchmarkNetworkChecks runs the checks about the network on the large lab.
func BenchmarkNetworkChecks(b *testing.B) {
	l, err := demo.LargeNetwork()
	require.NoError(b, err)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		for range cabling.Of(next).Routes {
			break
		}
		b.StartTimer()
		finding.OfNetwork(next)
	}
}
