package rack_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rack"
)

// filled makes up a rack that things were thrown into until some stuck.
func filled(t *testing.T, rnd *rand.Rand) (*lab.Lab, lab.Rack) {
	t.Helper()
	r := lab.Rack{ID: "r", Name: "R", HeightU: 3 + rnd.IntN(15)}
	l, err := lab.New().Apply([]lab.Change{{After: r}})
	require.NoError(t, err)
	for i := range 15 {
		takes := 1 + rnd.IntN(3)
		d := lab.Device{ID: lab.ID(fmt.Sprint("d", i)), Kind: lab.Server, State: lab.Running, TakesU: &takes, At: lab.At("r", 1+rnd.IntN(r.HeightU), lab.Faces()[rnd.IntN(2)])}
		d.At.Share = lab.Shares()[rnd.IntN(6)]
		if next, err := l.Apply([]lab.Change{{After: d}}); err == nil {
			l = next
		}
	}
	return l, r
}

// What Slots says fits is just what Apply lets in.
func TestSlotsAgreeWithApply(t *testing.T) {
	for seed := range uint64(80) {
		rnd := rand.New(rand.NewPCG(seed, 2))
		l, r := filled(t, rnd)
		for d := range l.Devices() {
			slots := rack.Slots(l, d, r)
			assert.Len(t, slots, 2*(r.HeightU-d.Units()+1))
			for _, s := range slots {
				moved := d
				moved.At = &lab.Spot{Where: lab.InUnits, Rack: r.ID, Unit: s.Unit, Face: s.Face, Share: d.At.Share}
				var err error
				if c, ok := l.Put(moved); ok {
					_, err = l.Apply([]lab.Change{c})
				}
				assert.Equal(t, s.Fits, err == nil, "seed %d, %s at %d %s: %q, %v", seed, d.ID, s.Unit, s.Face, s.Why, err)
				assert.Equal(t, s.Fits, s.Why == "")
			}
		}
	}
}

// The pieces are all of what is free and nothing else.
func TestPiecesAreWhatIsFree(t *testing.T) {
	for seed := range uint64(200) {
		l, r := filled(t, rand.New(rand.NewPCG(seed, 3)))
		s := rack.SpaceOf(l, r)
		assert.Equal(t, r.HeightU, s.TakenU+s.FreeU)
		sum, largest := 0, 0
		for i, p := range s.Pieces {
			sum += p.Units
			largest = max(largest, p.Units)
			if i > 0 {
				assert.Less(t, p.Unit+p.Units, s.Pieces[i-1].Unit, "seed %d: two pieces that touch are one", seed)
			}
		}
		assert.Equal(t, s.FreeU, sum)
		assert.Equal(t, s.LargestU, largest)
		for face, pieces := range map[lab.Face][]rack.Piece{lab.Front: s.Front, lab.Rear: s.Rear} {
			free := 0.0
			for _, p := range pieces {
				free += float64(p.Units) * (p.Right - p.Left)
			}
			taken := 0.0
			for d := range l.Devices() {
				if d.At.Face == face {
					from, to := d.At.Share.Sixths()
					taken += float64(d.Units()) * float64(to-from) / 6
				}
			}
			assert.InDelta(t, float64(r.HeightU), free+taken, 0.01, "seed %d, %s", seed, face)
		}
	}
}
