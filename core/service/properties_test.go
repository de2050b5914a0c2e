package service_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"levelstaff/core/labtest"
	"levelstaff/core/service"
)

// anyLab is a small lab of hosts with guests of all sorts.
func anyLab(rnd *rand.Rand) string {
	var b strings.Builder
	hosts := 2 + rnd.IntN(3)
	for h := range hosts {
		fmt.Fprintf(&b, "server \"h%d\": %dGB, %d cores, runs hypervisor\n", h, 4+rnd.IntN(12), 2+2*rnd.IntN(3))
	}
	worths := []string{"", ", household", ", lab", ", toy"}
	for g := range 2 + rnd.IntN(5) {
		fmt.Fprintf(&b, "on h%d: vm \"g%d\": %d vcpu, %dGB%s", min(rnd.IntN(2*hosts-1)%hosts, hosts-1), g, 1+rnd.IntN(5), 1+rnd.IntN(8),
			worths[rnd.IntN(4)])
		if rnd.IntN(6) == 0 {
			b.WriteString(", pinned")
		}
		b.WriteByte('\n')
	}
	return b.String()
}

// A placement breaks no limit, nothing is dark that would have fitted, and nothing is
// moved in vain: held against all ways there are.
func TestPlacementsAgainstAllWaysThereAre(t *testing.T) {
	rnd := rand.New(rand.NewPCG(23, 1))
	for range 400 {
		text := anyLab(rnd)
		s := service.Of(labtest.From(t, text))
		gone := host(t, s, "h0")
		p := s.Without(gone, false, service.Steps)
		require.True(t, p.Exact, text)

		left, counts, extra := map[*service.Host]int64{}, make([]int, 4), 0
		for _, h := range s.Hosts() {
			left[h], _ = h.Left()
		}
		for _, m := range p.Moves {
			left[m.To] -= *m.Guest.Takes()
			left[m.Guest.Host] += *m.Guest.Takes()
			require.False(t, m.Guest.Pinned, text)
			require.LessOrEqual(t, *m.Guest.VCPUs, m.To.Lanes(), text)
			require.NotEqual(t, gone, m.To, text)
			if m.Guest.Host == gone {
				counts[m.Guest.Matters().Rank()]++
			} else {
				extra++
			}
		}
		for _, m := range p.Moves {
			require.GreaterOrEqual(t, left[m.To], int64(0), text)
		}
		best, fewest := all(s, gone)
		require.Equal(t, best, counts, "%s%v", text, moves(p))
		require.Equal(t, fewest, extra, "%s%v", text, moves(p))
	}
}

// all goes through every way to put every guest that may move on every host, or to leave
// one of the host that is gone dark. A host that something is put on has room for all
// that is on it then.
func all(s *service.Services, gone *service.Host) (best []int, fewest int) {
	var hosts []*service.Host
	var guests []*service.Guest
	left, put := map[*service.Host]int64{}, map[*service.Host]int{}
	for _, h := range s.Hosts() {
		left[h], _ = h.Left()
		if h != gone {
			hosts = append(hosts, h)
		}
		for _, g := range h.Guests {
			if !g.Pinned {
				guests = append(guests, g)
			}
		}
	}
	counts, extra := make([]int, 4), 0
	move := func(g *service.Guest, to *service.Host, n int) {
		left[to] -= int64(n) * *g.Takes()
		left[g.Host] += int64(n) * *g.Takes()
		put[to] += n
		if g.Host == gone {
			counts[g.Matters().Rank()] += n
		} else {
			extra += n
		}
	}
	var try func(i int)
	try = func(i int) {
		if i < len(guests) {
			g := guests[i]
			try(i + 1) // where it is, or dark
			for _, h := range hosts {
				if h != g.Host && *g.VCPUs <= h.Lanes() {
					move(g, h, 1)
					try(i + 1)
					move(g, h, -1)
				}
			}
			return
		}
		if slices.ContainsFunc(hosts, func(h *service.Host) bool { return put[h] > 0 && left[h] < 0 }) {
			return
		}
		if better := slices.Compare(counts, best); best == nil || better > 0 || better == 0 && extra < fewest {
			best, fewest = slices.Clone(counts), extra
		}
	}
	try(0)
	return best, fewest
}
