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
		d := lab.Device{ID: lab.ID(fmt.Sprint("d", i)), Kind: lab.Server, State: lab.Running,
			At: lab.At("r", 1+rnd.IntN(r.HeightU), lab.Faces()[rnd.IntN(2)]), Spec: lab.Spec{TakesU: &takes}}
		d.At.Share = lab.Shares()[rnd.IntN(6)]
		if next, err := l.Apply([]lab.Change{{After: d}}); err == nil {
			l = next
		}
	}
	return l, r
}

// What Slots says fits is just what Apply lets in, for one thing and for
// several, and what it says can be swapped can.
func TestSlotsAgreeWithApply(t *testing.T) {
	for seed := range uint64(60) {
		rnd := rand.New(rand.NewPCG(seed, 2))
		l, r := filled(t, rnd)
		for d := range lab.Each[lab.Device](l) {
			part := []rack.Portion{rack.WholePart, rack.HalfPart, rack.ThirdPart}[rnd.IntN(3)]
			devices := []lab.Device{d}
			for o := range lab.Each[lab.Device](l) {
				if o.ID != d.ID && rnd.IntN(6) == 0 {
					devices = append(devices, o)
				}
			}
			slots := rack.Slots(l, devices, r, part)
			assert.Len(t, slots, 2*len(part.Shares())*(r.HeightU-d.Units()+1))
			for _, s := range slots {
				to := &lab.Spot{Where: lab.InUnits, Rack: r.ID, Unit: s.Unit, Face: s.Face, Share: s.Share}
				assert.Equal(t, s.Fits, moves(l, devices, to, false), "seed %d, %s at %+v", seed, d.ID, s)
				assert.Equal(t, s.Fits, s.Why == "")
				assert.Equal(t, s.Fits || s.Swap, moves(l, devices, to, true), "seed %d, %s at %+v", seed, d.ID, s)
			}
		}
	}
}

// moves reports whether Move has a way, and sees to it that Apply agrees.
func moves(l *lab.Lab, devices []lab.Device, to *lab.Spot, swap bool) bool {
	changes, err := rack.Move(l, devices, to, swap)
	if err != nil {
		// Nothing but collisions and the rack's ends may be the reason.
		if len(devices) == 1 && !swap {
			d := devices[0]
			d.At = to
			if c, ok := l.Put(d); ok {
				if _, err := l.Apply([]lab.Change{c}); err == nil {
					panic("Apply would let it in")
				}
			}
		}
		return false
	}
	if _, err := l.Apply(changes); err != nil {
		panic(err)
	}
	return true
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
			for d := range lab.Each[lab.Device](l) {
				if d.At.Face == face {
					from, to := d.At.Share.Sixths()
					taken += float64(d.Units()) * float64(to-from) / 6
				}
			}
			assert.InDelta(t, float64(r.HeightU), free+taken, 0.01, "seed %d, %s", seed, face)
		}
	}
}
