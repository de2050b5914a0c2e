package bench

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"levelstaff/core/drill"
	"levelstaff/core/finding"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/need"
	"levelstaff/core/power"
	"levelstaff/core/reach"
	"levelstaff/core/request"
	"levelstaff/core/rundown"
	"levelstaff/core/service"
	"levelstaff/core/storage"
)

// needing is a lab of so many devices behind strips and switches, with guests on every
// second of them that have their disks on a pool and needs of their own.
func needing(b *testing.B, devices, guests, needs int) *lab.Lab {
	b.Helper()
	var text strings.Builder
	text.WriteString("lab \"L\": 230V\nvlan 10 house\nsubnet 10.0.0.0/16 vlan 10: gateway 10.0.0.1\n" +
		"circuit \"main\": 32A 230V\nplace \"P\"\n" +
		"  wall outlet \"w0\": 100 outlets uk, on circuit \"main\"\n  wall outlet \"w1\": 100 outlets uk, on circuit \"main\"\n" +
		"  wall outlet \"w2\": 100 outlets uk, on circuit \"main\"\n? router \"gate\": 4 ports 1G, untagged 10, 10.0.0.1\n" +
		"? switch \"core\": 100 ports 1G, untagged 10\ncore/100 - gate/1\n" +
		"? nas \"silo\": 8 bays 3.5in, 8x 8TB hdd\npool \"hold\" on silo: raid 6\n")
	const each = 20
	for d := range devices {
		if d%each == 0 {
			fmt.Fprintf(&text, "? pdu \"strip %d\": 24 outlets c13\nw%d/out%d - \"strip %d\"/in1\n", d/each, d/each/100, d/each%100+1, d/each)
			up := fmt.Sprintf("\"switch %d\"/23", d/each-1)
			if d/each%each == 0 {
				up = fmt.Sprintf("core/%d", d/each/each+1)
			}
			fmt.Fprintf(&text, "? switch \"switch %d\": 24 ports 1G, untagged 10\n\"switch %d\"/24 - %s\n", d/each, d/each, up)
		}
		fmt.Fprintf(&text, "? server \"host %d\": 1 port 1G, untagged 10, runs hypervisor\n\"strip %d\"/out%d - \"host %d\"/in1\n"+
			"\"host %d\"/1 - \"switch %d\"/%d\n", d, d/each, d%each+1, d, d, d/each, d%each+1)
	}
	for g := range guests {
		fmt.Fprintf(&text, "on \"host %d\": vm \"guest %d\": 1GB, vlan 10 10.0.%d.%d\nservice \"service %d\" in \"guest %d\", household\n",
			g%devices, g,
			1+g/200, 2+g%200, g, g)
	}
	for n := range needs {
		if i, k := n%guests, 2*(n/guests); i+k+2 < guests { // on those behind it, so that it starts
			fmt.Fprintf(&text, "\"service %d\" needs \"service %d\" or \"service %d\"\n", i, i+k+1, i+k+2)
		}
	}
	return labtest.From(b, text.String())
}

// BenchmarkIfGone takes a strip away from a running lab of 5,000 devices, 2,000 guests and
// 20,000 needs that are written down.
func BenchmarkIfGone(b *testing.B) {
	l := needing(b, 5000, 2000, 20_000)
	w := drill.Of(l)
	strip := drill.Target{Key: labtest.Named[lab.Device](b, l, "strip 3").Key()}
	for b.Loop() {
		require.NotEmpty(b, w.IfGone(strip).Stops)
	}
}

// BenchmarkAllSingleLosses are those of a lab of 150 devices and 200 guests. As many bare
// walks over all that needs something, in the same run, are what it is compared with.
func BenchmarkAllSingleLosses(b *testing.B) {
	l, n := needing(b, 150, 200, 400), 0
	var walked time.Duration
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		next := touched(b, l, i)
		w := drill.Of(next)
		b.StartTimer()
		n = len(w.Losses())
		b.StopTimer()
		edges := edgesOf(next)
		began := time.Now()
		for range n {
			edges.walk()
		}
		walked += time.Since(began)
		b.StartTimer()
	}
	b.ReportMetric(float64(n), "losses")
	b.ReportMetric(float64(b.Elapsed())/float64(walked), "x_bare_walks")
}

// edges are what needs what, by its numbers, to be walked and nothing else.
type edges struct {
	serves [][]int32 // by thing, what needs it
	seen   []int32
}

func edgesOf(l *lab.Lab) *edges {
	g := need.New()
	power.Of(l).Needs(g)
	storage.Of(l).Needs(g)
	storage.Of(l).Serves(g)
	service.Of(l).Needs(g)
	reach.Of(l).Needs(g, service.Of(l).Elsewhere())
	request.Of(l).Needs(g)
	e := &edges{make([][]int32, g.Len()), make([]int32, g.Len())}
	for n := range int32(g.Len()) {
		for _, lack := range g.NeedsOf(n) {
			for _, by := range lack.Any {
				e.serves[by] = append(e.serves[by], n)
			}
		}
	}
	return e
}

// walk goes over each edge once.
func (e *edges) walk() {
	clear(e.seen)
	for _, of := range e.serves {
		for _, n := range of {
			e.seen[n]++
		}
	}
}

// BenchmarkCircles looks for what keeps a lab from starting.
func BenchmarkCircles(b *testing.B) {
	w := drill.Of(needing(b, 150, 200, 400))
	for b.Loop() {
		w.Circles()
	}
}

// BenchmarkWhole gathers what needs what in a lab of 2,000 guests on 100 hosts, of which
// the layers are worked out.
func BenchmarkWhole(b *testing.B) {
	eachServed(b, func(l *lab.Lab) {
		service.Of(l)
		power.Of(l)
		storage.Of(l)
		reach.Of(l)
	}, func(l *lab.Lab) { drill.Of(l) })
}

// BenchmarkRequest follows one request in a lab of 5,000 devices, 2,000 guests and as many
// names that go through a proxy.
func BenchmarkRequest(b *testing.B) {
	l := proxied(b, 5000, 2000)
	q := request.Of(l)
	from := q.PlaceOf(q.Places()[1].Endpoint)
	to, ok := q.Target("s1999.home.arpa")
	require.True(b, ok)
	require.Len(b, q.Way(from, to).Steps, 5)
	for b.Loop() {
		to, _ = q.Target("s1999.home.arpa")
		q.Way(from, to)
	}
}

// BenchmarkReached works out every service by every reader's place, of 200 services that go
// through a proxy.
func BenchmarkReached(b *testing.B) {
	l := proxied(b, 150, 200)
	for i := 0; b.Loop(); i++ {
		b.StopTimer()
		d := slices.Collect(lab.Each[lab.Device](l))[0]
		d.Notes = fmt.Sprint(i)
		c, _ := l.Put(d)
		l, _ = l.Apply([]lab.Change{c})
		reach.Of(l)
		b.StartTimer()
		require.Len(b, request.Of(l).Table(), 200)
	}
}

// BenchmarkWayFindings works out who reaches what, and what needs what, and runs the checks
// of both: in a lab of 150 devices and 200 services, and in one of 1,000 and 2,000.
func BenchmarkWayFindings(b *testing.B) {
	for _, size := range []struct{ devices, services int }{{150, 200}, {1000, 2000}} {
		b.Run(fmt.Sprint(size.services), func(b *testing.B) {
			l := proxied(b, size.devices, size.services)
			for i := 0; b.Loop(); i++ {
				b.StopTimer()
				next := touched(b, l, i)
				reach.Of(next)
				b.StartTimer()
				finding.OfWays(next, "2026-11-28")
			}
		})
	}
}

// proxied is such a lab with two networks, whose services are all reached by names through
// one proxy.
func proxied(b *testing.B, devices, guests int) *lab.Lab {
	b.Helper()
	l := needing(b, devices, guests, 0)
	var text strings.Builder
	text.WriteString("name servers of vlan 10: \"guest 1\", \"guest 2\"\nvlan 20 guests\nsubnet 10.1.0.0/16 vlan 20: gateway 10.1.0.1\n" +
		"gate 10.1.0.1\nfrom guests to house: all\n")
	for g := 3; g < guests; g++ {
		fmt.Fprintf(&text, "s%d.home.arpa -> \"guest 0\" -> \"guest %d\"\n", g, g)
	}
	p := rundown.Load(l, rundown.Parse(text.String()), rundown.Options{NewID: labtest.IDs("names")})
	require.Empty(b, p.Mistakes)
	return p.Lab
}
