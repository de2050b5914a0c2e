package need_test

import (
	"fmt"
	"math/rand"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// things makes a graph with so many things, numbered from 0.
func things(n int) *need.Graph {
	g := need.New()
	for i := range n {
		g.Thing(need.Thing{Key: lab.Key{Kind: lab.KindDevice, ID: lab.ID(rune('a' + i))}})
	}
	return g
}

func ups(o need.Outcome, n int) (list []int32) {
	for i := range int32(n) {
		if o.Up(i) {
			list = append(list, i)
		}
	}
	return list
}

func TestACircleHoldsInARunningLabAndKeepsADarkOneDown(t *testing.T) {
	// 0 needs 1, 1 needs 0 or 2.
	g := things(3)
	g.Needs(0, need.Need{Any: []int32{1}})
	g.Needs(1, need.Need{Any: []int32{0, 2}})
	assert.Equal(t, []int32{0, 1}, ups(g.Without([]int32{2}, nil), 3))
	assert.Equal(t, []int32{1}, g.Without([]int32{2}, nil).Limps(), "1 has lost one of two")
	assert.Empty(t, ups(g.FromDark([]int32{2}), 3))
	assert.Equal(t, []int32{0, 1, 2}, ups(g.FromDark(nil), 3))
}

func TestWhatComesFromSomewhereIsNotHeldByACircle(t *testing.T) {
	// 0 is where it comes from; 1 and 2 have it from each other, 1 also from 0.
	g := things(3)
	g.Source(0)
	g.Needs(1, need.Need{Any: []int32{0, 2}, Comes: true})
	g.Needs(2, need.Need{Any: []int32{1}, Comes: true})
	assert.Equal(t, []int32{0, 1, 2}, ups(g.Without(nil, nil), 3))
	o := g.Without([]int32{0}, nil)
	assert.Empty(t, ups(o, 3))
	assert.ElementsMatch(t, []int32{0, 1, 2}, o.Down())
	why, ok := o.Why(1)
	assert.True(t, ok)
	assert.Equal(t, []int32{0, 2}, why.Any)
	_, ok = o.Why(0)
	assert.False(t, ok, "it was taken away")
	assert.Equal(t, []int32{1, 2}, ups(g.Without([]int32{0}, []int32{2}), 3), "2 is given")
}

func TestKOfNAndWhatIsOnlyWanted(t *testing.T) {
	// 0 needs two of 1, 2, 3, and wants 4.
	g := things(5)
	g.Needs(0, need.Need{Any: []int32{1, 2, 3}, Least: 2})
	g.Needs(0, need.Need{Any: []int32{4}, Soft: true})
	assert.Empty(t, g.Without(nil, nil).Limps())
	assert.Equal(t, []int32{0}, g.Without([]int32{4}, nil).Limps())
	assert.True(t, g.Without([]int32{1, 4}, nil).Up(0))
	assert.False(t, g.Without([]int32{1, 2}, nil).Up(0))
	assert.False(t, g.FromDark([]int32{1, 2}).Up(0))
	assert.True(t, g.FromDark([]int32{1, 4}).Up(0))
}

func TestANeedThatNothingMeets(t *testing.T) {
	g := things(2)
	g.Needs(0, need.Need{})
	g.Needs(1, need.Need{Any: []int32{0}})
	assert.Empty(t, ups(g.Without(nil, nil), 2))
	assert.Empty(t, ups(g.FromDark(nil), 2))
}

// drawn is a graph of a few things, and the same as plain lists for brute force.
type drawn struct {
	*need.Graph
	n       int
	of      []int32
	needs   []need.Need
	sources map[int32]bool
}

func draw(r *rand.Rand) drawn {
	d := drawn{n: 2 + r.Intn(6), sources: map[int32]bool{}}
	d.Graph = things(d.n)
	for i := range d.n {
		if r.Intn(3) == 0 {
			d.Source(int32(i))
			d.sources[int32(i)] = true
		}
		for range r.Intn(3) {
			k := need.Need{Least: 1, Soft: r.Intn(5) == 0, Comes: r.Intn(2) == 0}
			for _, by := range r.Perm(d.n)[:1+r.Intn(min(3, d.n))] {
				k.Any = append(k.Any, int32(by))
			}
			k.Least += r.Intn(len(k.Any)) / 2
			d.Needs(int32(i), k)
			d.of, d.needs = append(d.of, int32(i)), append(d.needs, k)
		}
	}
	return d
}

func met(k need.Need, in map[int32]bool) bool {
	n := 0
	for _, by := range k.Any {
		if in[by] {
			n++
		}
	}
	return n >= k.Least
}

func (d drawn) counts(i int) bool {
	return !d.needs[i].Soft && !(d.needs[i].Comes && d.sources[d.of[i]])
}

// holds reports whether all in a set have what they need in it, what comes from
// somewhere in finitely many steps.
func (d drawn) holds(set map[int32]bool) bool {
	grounded := map[int32]bool{}
	for more := true; more; {
		more = false
		for n := range set {
			has := !grounded[n]
			for i, k := range d.needs {
				has = has && (d.of[i] != n || !k.Comes || !d.counts(i) || met(k, grounded))
			}
			if has {
				grounded[n], more = true, true
			}
		}
	}
	for i, k := range d.needs {
		if n := d.of[i]; set[n] && d.counts(i) && (!met(k, set) || k.Comes && !grounded[n]) {
			return false
		}
	}
	return true
}

// closed reports whether all that has what it needs in a set is in it.
func (d drawn) closed(set, gone map[int32]bool) bool {
	for n := range int32(d.n) {
		has := !set[n] && !gone[n]
		for i, k := range d.needs {
			has = has && (d.of[i] != n || !d.counts(i) || met(k, set))
		}
		if has {
			return false
		}
	}
	return true
}

func TestFixedPointsAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewSource(1))
	for range 4000 {
		d := draw(r)
		gone, goneList := map[int32]bool{}, []int32{}
		for n := range int32(d.n) {
			if r.Intn(4) == 0 {
				gone[n], goneList = true, append(goneList, n)
			}
		}
		greatest, least := map[int32]bool{}, map[int32]bool{}
		for n := range int32(d.n) {
			least[n] = true
		}
		for bits := range 1 << d.n {
			set := map[int32]bool{}
			for n := range int32(d.n) {
				if bits>>n&1 == 1 {
					set[n] = true
				}
			}
			without := true
			for n := range gone {
				without = without && !set[n]
			}
			if without && d.holds(set) {
				for n := range set {
					greatest[n] = true
				}
			}
			if d.closed(set, gone) {
				for n := range int32(d.n) {
					least[n] = least[n] && set[n]
				}
			}
		}
		running, started := d.Without(goneList, nil), d.FromDark(goneList)
		for n := range int32(d.n) {
			assert.Equal(t, greatest[n], running.Up(n))
			assert.Equal(t, least[n], started.Up(n))
			if started.Up(n) {
				assert.True(t, running.Up(n), "what starts stays up")
			}
			if _, ok := running.Why(n); ok {
				assert.False(t, running.Up(n))
			}
		}
		if t.Failed() {
			t.Fatalf("%+v without %v", d.needs, goneList)
		}
		// Taken away time and again, from the same lab, it comes to the same.
		anyway := goneList[:r.Intn(len(goneList)+1)]
		falls, before := d.Falls(anyway), d.Without(anyway, nil)
		for range 2 {
			down := falls.Without(goneList)
			for n := range int32(d.n) {
				assert.Equal(t, before.Up(n) && !running.Up(n), slices.Contains(down, n))
			}
		}
		more := append(goneList, int32(r.Intn(d.n)))
		for n := range int32(d.n) {
			assert.False(t, d.Without(more, nil).Up(n) && !running.Up(n), "what goes grows with what is taken away")
		}
	}
}

// What is hurt has lost an alternative since: what was down before does not count, and
// neither does what went down itself.
func TestWhatIsHurtSince(t *testing.T) {
	// 0 needs 1 or 2; 3 needs 1; 4 wants 3; 5 needs 6 or 1, and 6 was never there.
	g := things(7)
	g.Needs(0, need.Need{Any: []int32{1, 2}, How: "is fed by"})
	g.Needs(3, need.Need{Any: []int32{1}, How: "runs on"})
	g.Needs(4, need.Need{Any: []int32{3}, Soft: true, How: "wants"})
	g.Needs(5, need.Need{Any: []int32{6, 1}})
	before := g.Without([]int32{6}, nil)
	assert.Empty(t, before.Hurt(before))
	now := g.Without([]int32{6, 1}, nil)
	var hurt []string
	for _, lack := range now.Hurt(before) {
		hurt = append(hurt, fmt.Sprintf("%d %s %v", lack.Of, lack.How, lack.Any))
	}
	assert.ElementsMatch(t, []string{"0 is fed by [1 2]", "4 wants [3]"}, hurt)
	assert.Equal(t, []int32{6, 1}, now.Down()[:2], "what was taken away comes first")
	assert.ElementsMatch(t, []int32{6, 1, 3, 5}, now.Down())
	why, ok := now.Why(3)
	assert.True(t, ok)
	assert.Equal(t, "runs on", why.How)
	_, ok = now.Why(6)
	assert.False(t, ok)
}

// A dark lab with one need left out starts what that kept down.
func TestALabThatStartsOnceANeedIsLeftOut(t *testing.T) {
	g := things(3)
	g.Needs(0, need.Need{Any: []int32{1}})
	g.Needs(1, need.Need{Any: []int32{0}})
	g.Needs(2, need.Need{Any: []int32{0}})
	assert.Empty(t, ups(g.FromDark(nil), 3))
	lacks := g.NeedsOf(1)
	assert.Len(t, lacks, 1)
	assert.Equal(t, []int32{0, 1, 2}, ups(g.FromDark(nil, lacks[0].At), 3))
	assert.Equal(t, []int32{2}, ups(g.FromDark(nil, g.NeedsOf(2)[0].At), 3), "which was in no circle")
	assert.True(t, g.Serves(0))
	assert.False(t, g.Serves(2))
}
