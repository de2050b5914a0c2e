package bench

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/rundown"
	"levelstaff/exchange"
)

// growth shows how the time of something grows with its size: each of the three
// figures is to be about twice the one before.
func growth(b *testing.B, once int, do func(b *testing.B, n int) func()) {
	for _, times := range []int{1, 2, 4} {
		b.Run(fmt.Sprintf("%dx", times), func(b *testing.B) {
			run := do(b, once*times)
			for b.Loop() {
				run()
			}
		})
	}
}

// texts are rundowns of n lines, or of n things, that were slow once.
var texts = map[string]struct {
	once int
	text func(n int) string
}{
	"ThingsInOneUnit": {500, func(n int) string {
		return "rack \"r\" 42U\n" + each(n, func(i int) string { return fmt.Sprintf("1 server \"s%d\"\n", i) })
	}},
	"ThingsNowhere": {500, func(n int) string {
		return each(n, func(i int) string { return fmt.Sprintf("unplaced server \"s%d\"\n", i) })
	}},
	"LinesNobodyCanRead": {500, func(n int) string { return strings.Repeat("zzqy 7 foo\n", n) }},
	"PartsOnLines": {500, func(n int) string {
		return "rack \"r\" 42U\n1 server \"a\"\n" + strings.Repeat("a: 1x 8TB hdd\n", n)
	}},
	"FactsOnLines": {4, func(n int) string {
		return each(n, func(i int) string {
			return fmt.Sprintf("? server \"s%d\": 24kg,\n%s", i, strings.Repeat("  lent by a friend,\n", 500))
		})
	}},
	"NamesOfServices": {250, func(n int) string {
		return "? server \"a\": runs containers\non a: container \"way in\"\n" + each(n, func(i int) string {
			return fmt.Sprintf("service \"s%d\" in a\ns%d.home.arpa -> \"way in\" -> service \"s%d\"\n", i, i, i)
		})
	}},
	"GuestsAndNeeds": {250, func(n int) string {
		return "vlan 20 servers\nsubnet 10.20.0.0/16: vlan 20\nname servers of vlan 20: g0\n? server \"a\": runs hypervisor\n" + each(n,
			func(i int) string {
				return fmt.Sprintf("on a: vm \"g%d\": 1GB, vlan 20 10.20.%d.%d, starts after g0\nservice \"s%d\" in g%d\ns%d needs g0\n", i, i/200,
					1+i%200, i, i, i)
			})
	}},
	"DevicesOf512Drives": {4, func(n int) string {
		return "rack \"r\" 42U\n" + each(n, func(i int) string { return fmt.Sprintf("%d server \"a%d\": 512x 8TB hdd\n", i+1, i) })
	}},
}

func each(n int, say func(i int) string) string {
	var b strings.Builder
	for i := range n {
		b.WriteString(say(i))
	}
	return b.String()
}

func BenchmarkGrowthOfRundowns(b *testing.B) {
	for _, name := range slices.Sorted(maps.Keys(texts)) {
		g := texts[name]
		b.Run(name, func(b *testing.B) {
			growth(b, g.once, func(_ *testing.B, n int) func() {
				text := g.text(n)
				return func() {
					rundown.Load(lab.New(), rundown.Parse(text), rundown.Options{All: true, NewID: counter()})
				}
			})
		})
	}
}

// Everything in one unit is refused, and the refusal is bounded.
func BenchmarkGrowthOfAListInOneUnit(b *testing.B) {
	growth(b, 500, func(b *testing.B, n int) func() {
		l := labtest.From(b, "rack \"r\" 42U")
		text := []byte("name,kind,where\n" + each(n, func(i int) string { return fmt.Sprintf("s%d,server,\"\"\"r\"\" 5\"\n", i) }))
		return func() {
			sheet, err := exchange.Devices.Read(context.Background(), l, text, exchange.Taking{}, counter())
			require.NoError(b, err)
			require.Equal(b, n, len(sheet.Rows))
		}
	})
}

// A trail through n panels, each piece of which gets the label of the whole.
func BenchmarkGrowthOfLabelsAlongATrail(b *testing.B) {
	growth(b, 500, func(b *testing.B, n int) func() {
		l := labtest.From(b, each(n, func(i int) string { return fmt.Sprintf("unplaced patch panel \"p%d\": 24 ports\n", i) })+
			each(n-1, func(i int) string { return fmt.Sprintf("p%d/1 rear - p%d/1 0.5m cat6\n", i, i+1) }))
		w := cabling.Of(l)
		return func() {
			labels, err := w.Labelled(nil, true, strings.Repeat("x", 80), true)
			require.NoError(b, err)
			require.Len(b, labels, n-1)
		}
	})
}
