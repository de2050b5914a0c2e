package service

import (
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func loadOf(rank int, need int64, allowed ...bool) load { return load{need, rank, allowed} }

func TestPackingTakesWhatMattersMostFirst(t *testing.T) {
	steps := 1000
	at, count := pack([]load{loadOf(3, 4, true, true), loadOf(0, 6, true, false), loadOf(1, 5, true, true)}, []int64{8, 6}, &steps)
	assert.Equal(t, []int{-1, 0, 1}, at)
	assert.Equal(t, []int{1, 1, 0, 0}, count)
	assert.Greater(t, steps, 0)
}

func TestWhatMustGoGoesOrNothingDoes(t *testing.T) {
	steps := 1000
	at, count := pack([]load{loadOf(mustGo, 4, false, true), loadOf(0, 4, true, true)}, []int64{1, 6}, &steps)
	assert.Equal(t, []int{1, -1}, at)
	assert.Equal(t, []int{0, 0, 0, 0}, count)
	at, count = pack([]load{loadOf(mustGo, 7, true, true)}, []int64{1, 6}, &steps)
	assert.Nil(t, at)
	assert.Nil(t, count)
}

func TestNothingIsPutWhereMoreIsGivenThanFitted(t *testing.T) {
	steps := 1000
	at, _ := pack([]load{loadOf(0, 0, true), loadOf(0, 1, true)}, []int64{-3}, &steps)
	assert.Equal(t, []int{-1, -1}, at)
}

// Every way to choose, each once, in order.
func TestChoosing(t *testing.T) {
	var all [][]int
	choose(4, 2, func(c []int) bool { all = append(all, slices.Clone(c)); return true })
	assert.Equal(t, [][]int{{0, 1}, {0, 2}, {0, 3}, {1, 2}, {1, 3}, {2, 3}}, all)
	all = nil
	choose(4, 3, func(c []int) bool { all = append(all, slices.Clone(c)); return len(all) < 2 })
	assert.Equal(t, [][]int{{0, 1, 2}, {0, 1, 3}}, all)
}

// What fills a host at most is never less than what is found to fit.
func TestTheBoundIsOne(t *testing.T) {
	rnd := rand.New(rand.NewPCG(23, 9))
	for range 300 {
		var loads []load
		for range 1 + rnd.IntN(7) {
			loads = append(loads, loadOf(rnd.IntN(ranks), int64(rnd.IntN(9)), rnd.IntN(3) > 0, rnd.IntN(3) > 0))
		}
		free := []int64{int64(rnd.IntN(12)), int64(rnd.IntN(12))}
		steps := 100_000
		_, count := pack(loads, free, &steps)
		slices.SortStableFunc(loads, func(a, b load) int {
			if a.rank != b.rank {
				return a.rank - b.rank
			}
			return int(b.need - a.need)
		})
		most := make([]int, ranks)
		fill(loads, free[0]+free[1], most, func(load) bool { return true })
		require.GreaterOrEqual(t, slices.Compare(most, count), 0, "%v %v", loads, free)
	}
}
