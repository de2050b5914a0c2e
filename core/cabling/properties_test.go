package cabling_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// tangle plugs cables into a lab at random: fronts and rears of panels,
// switches, open ends.
func tangle(t *testing.T, seed uint64) *lab.Lab {
	t.Helper()
	rnd := rand.New(rand.NewPCG(seed, 5))
	var changes []lab.Change
	var ends []lab.End
	for i := range 6 {
		id, kind := lab.ID(fmt.Sprintf("d%d", i)), lab.PatchPanel
		if i%3 == 0 {
			kind = lab.Switch
		}
		changes = append(changes, lab.Change{After: lab.Device{ID: id, Name: fmt.Sprint("thing ", i), Kind: kind, State: lab.Running,
			Spec: lab.Spec{Ports: []lab.PortGroup{{Count: 6, Connector: "rj45", SpeedsMb: []int{1000}}}}}})
		for p := range 6 {
			ends = append(ends, lab.End{Device: id, Port: fmt.Sprint(p + 1)})
			if kind == lab.PatchPanel {
				ends = append(ends, lab.End{Device: id, Port: fmt.Sprint(p + 1), Rear: true})
			}
		}
	}
	rnd.Shuffle(len(ends), func(i, j int) { ends[i], ends[j] = ends[j], ends[i] })
	for n := 0; len(ends) > 1 && n < 28; n++ {
		m := float64(rnd.IntN(40)+1) / 4
		c := lab.Cable{ID: lab.ID(fmt.Sprintf("c%02d", n)), Kind: lab.Cat6, State: lab.CableInUse, LengthM: &m, A: &ends[0], B: &ends[1]}
		if rnd.IntN(6) == 0 {
			c.B = nil
		}
		ends = ends[2:]
		changes = append(changes, lab.Change{After: c})
	}
	l, err := lab.New().Apply(changes)
	require.NoError(t, err)
	return l
}

// turned is a trail told from its other end.
func turned(t cabling.Trail) cabling.Trail {
	t.Stops, t.Pieces = slices.Clone(t.Stops), slices.Clone(t.Pieces)
	slices.Reverse(t.Stops)
	slices.Reverse(t.Pieces)
	return t
}

func TestATrailFromItsFarEndIsTheSame(t *testing.T) {
	for seed := range uint64(200) {
		l := tangle(t, seed)
		w := cabling.Of(l)
		for _, trail := range w.Trails() {
			last := trail.Stops[len(trail.Stops)-1]
			if trail.End != cabling.EndsInPort {
				continue
			}
			from, ok := w.TrailFrom(lab.End{Device: last.Device, Port: last.Port})
			require.True(t, ok)
			back := turned(from)
			assert.Equal(t, trail.Stops, back.Stops)
			assert.Equal(t, trail.Pieces, back.Pieces)
			assert.InDelta(t, trail.LengthM, back.LengthM, 1e-9)
			assert.Equal(t, trail.Speed.Mb, back.Speed.Mb)
		}
	}
}

func TestEveryCableIsInJustOneTrail(t *testing.T) {
	for seed := range uint64(200) {
		l := tangle(t, seed)
		w := cabling.Of(l)
		in := map[lab.ID]int{}
		for _, trail := range w.Trails() {
			for _, p := range trail.Pieces {
				in[p.Cable]++
			}
		}
		for c := range lab.Each[lab.Cable](l) {
			assert.Equal(t, 1, in[c.ID], "seed %d, %s", seed, c.ID)
			for _, e := range c.Ends() {
				trail, ok := w.TrailFrom(e)
				require.True(t, ok)
				assert.True(t, slices.ContainsFunc(trail.Pieces, func(p cabling.Leg) bool {
					return p.Cable == c.ID
				}), "seed %d: followed from its own end", seed)
			}
		}
	}
}

func TestUnpluggedAndUndoneTheLabIsTheSame(t *testing.T) {
	for seed := range uint64(50) {
		l := tangle(t, seed)
		for c := range lab.Each[lab.Cable](l) {
			changes := []lab.Change{{Before: c}}
			next, err := l.Apply(changes)
			require.NoError(t, err)
			back, err := next.Apply(lab.Invert(changes))
			require.NoError(t, err)
			assert.Equal(t, l.All(), back.All())
		}
		text := rundown.Print(l)
		n := 0
		p := rundown.Load(l, rundown.Parse(text), rundown.Options{All: true, Forget: true, NewID: func() lab.ID {
			n++
			return lab.ID(fmt.Sprint("n", n))
		}})
		assert.Empty(t, p.Mistakes)
		assert.Empty(t, p.Changes, "what is written down is what is there")
	}
}

// links counts, for each device, the trails that end in a port of another one.
func links(l *lab.Lab) map[string]int {
	n := map[string]int{}
	for _, trail := range cabling.Of(l).Trails() {
		first, last := trail.Stops[0], trail.Stops[len(trail.Stops)-1]
		if trail.End == cabling.EndsInPort && first.Kind == "device" && first.Device != last.Device {
			n[first.Title]++
			n[last.Title]++
		}
	}
	return n
}

// What a pull sheet says goes dark is what has fewer links in a lab without the
// device, and what it keeps are those that are left there.
func TestAPullSheetForetellsTheLabWithoutTheDevice(t *testing.T) {
	for seed := range uint64(100) {
		l := tangle(t, seed)
		was := links(l)
		for d := range lab.Each[lab.Device](l) {
			without, err := l.Apply(l.Removal(d.Key()))
			require.NoError(t, err)
			is := links(without)
			want := map[string]int{}
			for title, n := range was {
				if title != d.Title() && is[title] < n {
					want[title] = is[title]
				}
			}
			sheet, ok := cabling.Of(l).PullSheetOf(d.ID)
			require.True(t, ok)
			got := map[string]int{}
			for _, dark := range sheet.Dark {
				got[dark.Title] = dark.Keeps
			}
			assert.Equal(t, want, got, "seed %d, without %s", seed, d.Title())
		}
	}
}

// Swapped twice, two ports have again what they had.
func TestSwappedTwiceTheLabIsTheSame(t *testing.T) {
	for seed := range uint64(50) {
		l := tangle(t, seed)
		var ends []lab.End
		for c := range lab.Each[lab.Cable](l) {
			ends = append(ends, c.Ends()...)
		}
		for i := range len(ends) - 1 {
			a, b := ends[i], ends[i+1]
			once, err := l.Apply(cabling.Swap(l, a, b))
			require.NoError(t, err)
			twice, err := once.Apply(cabling.Swap(once, a, b))
			require.NoError(t, err)
			assert.Equal(t, l.All(), twice.All(), "seed %d, %v and %v", seed, a, b)
		}
	}
}
