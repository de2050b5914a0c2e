package storage_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/storage"
)

// Cut into layers of 1 TB each, one after another: another way to the same sum.
func TestMixedSizesAreSumsOfLayers(t *testing.T) {
	rnd := rand.New(rand.NewPCG(22, 3))
	for range 500 {
		redundant := 1 + rnd.IntN(2)
		var drives []storage.Member
		for range 2*redundant + rnd.IntN(6) {
			drives = append(drives, storage.Member{Bytes: int64(1+rnd.IntN(16)) * tb})
		}
		usable := int64(0)
		for layer := int64(1); layer <= 16; layer++ {
			k := 0
			for _, d := range drives {
				if d.Bytes >= layer*tb {
					k++
				}
			}
			if k >= 2*redundant {
				usable += int64(k-redundant) * tb
			}
		}
		require.Equal(t, usable, storage.Divide(lab.Mixed, redundant, drives).Usable, "%v", drives)
	}
}

// Every thing that is kept takes its place on so many devices: tried TB by TB, U fits as
// long as the devices, each counted with at most U, come to copies times U.
func TestReplicatedRoomIsTheMostThatFits(t *testing.T) {
	rnd := rand.New(rand.NewPCG(22, 4))
	for range 500 {
		copies := 2 + rnd.IntN(2)
		var drives []storage.Member
		for i := range copies + rnd.IntN(4) {
			drives = append(drives, storage.Member{Bytes: int64(copies) * int64(1+rnd.IntN(12)) * tb, Host: lab.ID(rune('a' + i))})
		}
		most := int64(0)
		for u := tb / 6; ; u += tb / 6 {
			sum := int64(0)
			for _, d := range drives {
				sum += min(d.Bytes, u)
			}
			if sum < int64(copies)*u {
				break
			}
			most = u
		}
		got := storage.Divide(lab.Replicated, copies, drives).Usable
		require.InDelta(t, float64(most), float64(got), float64(tb)/5, "%d copies on %v", copies, drives)
	}
}

// Of every set of drives that may go: as many as may fail at worst take nothing, whichever
// they are; one more takes something; as many as may fail at best take nothing if they are
// the right ones, and never one more.
func TestWhatMayFailIsWhatTakesNothing(t *testing.T) {
	for _, sets := range []string{
		"stripe of bay 1-3", "mirror of bay 1-2", "mirror of bay 1-4", "raid 5 of bay 1-4", "raid 6 of bay 1-5", "raid 10 of bay 1-6",
		"raid-z1 of bay 1-3, raid-z1 of bay 4-6", "raid-z2 of bay 1-4, raid-z2 of bay 5-8", "raid-z3 of bay 1-6", "raid 10 of bay 1-4, raid 10 of bay 5-8",
		"mixed of bay 1-5, one redundancy", "mixed of bay 1-5, two redundancy", "dedicated parity 2 of bay 1-5",
		"raid-z2 of bay 1-5, mirror of bay 6-7", "single of bay 1",
	} {
		t.Run(sets, func(t *testing.T) {
			l := labtest.From(t, "? nas \"silo\": 8 bays, 8x 4TB\npool \"p\" on silo: "+sets+"\ndataset \"d\" on p: 1TB\n")
			s := storage.Of(l)
			p := pool(t, s, "p")
			drives := p.Drives()
			most := map[int]int{}  // by how many go, the most of those choices that take nothing
			least := map[int]int{} // and how many choices there are
			for choice := range 1 << len(drives) {
				var gone []lab.Key
				for i, d := range drives {
					if choice&(1<<i) != 0 {
						gone = append(gone, d.Part.Key())
					}
				}
				least[len(gone)]++
				if len(gone) == 0 || len(s.LostWith("2026-11-28", gone...)) == 0 {
					most[len(gone)]++
				}
			}
			for n := range len(drives) + 1 {
				switch {
				case n <= p.MayFail.Worst:
					assert.Equal(t, least[n], most[n], "any %d may go", n)
				case n <= p.MayFail.Best:
					assert.Positive(t, most[n], "some %d may go", n)
					assert.Less(t, most[n], least[n], "but not any %d", n)
				default:
					assert.Zero(t, most[n], "no %d may go", n)
				}
			}
		})
	}
}

// scattered is a made-up lab of a few pools on devices in and out of the house, with
// datasets and copies from and to anywhere.
func scattered(t *testing.T, rnd *rand.Rand) *lab.Lab {
	t.Helper()
	var b strings.Builder
	b.WriteString("place \"House\"\nplace \"Away\", outside the house\n")
	devices := []string{"a", "b", "c", "d"}
	for i, d := range devices {
		place := "House"
		if i == len(devices)-1 {
			place = "Away"
		}
		fmt.Fprintf(&b, "place %q\n  nas %q: 8 bays, 6x 10TB\n", place, d)
	}
	var pools []string
	for _, d := range devices {
		fmt.Fprintf(&b, "pool \"x\" on %s: mirror of bay 1-2\npool \"y\" on %s: raid 5 of bay 3-5\n", d, d)
		pools = append(pools, d+"/x", d+"/y")
	}
	b.WriteString("spare drive \"shelf\": 8TB\n")
	for n := range 6 {
		home := rnd.IntN(len(pools))
		fmt.Fprintf(&b, "dataset \"data %d\" on %s: 1TB\n", n, pools[home])
		to := rnd.Perm(len(pools))
		last := ""
		for _, at := range to[:rnd.IntN(4)] {
			if at == home {
				continue
			}
			from := ""
			if last != "" && rnd.IntN(2) == 0 {
				from = "from " + last + " "
			}
			last = pools[at]
			fmt.Fprintf(&b, "copy of \"data %d\" %sto %s: every %dh, last 2026-11-%02d\n", n, from, last, 1+rnd.IntN(200), 1+rnd.IntN(27))
		}
		if rnd.IntN(3) == 0 {
			fmt.Fprintf(&b, "copy of \"data %d\" to shelf: weekly, last 2026-11-20\n", n)
		}
	}
	return labtest.From(t, b.String())
}

// What is said to be lost with a pool, a device and the house is what taking it away from
// the graph of what needs what loses.
func TestBothWaysToALossAgree(t *testing.T) {
	rnd := rand.New(rand.NewPCG(22, 5))
	for range 120 {
		l := scattered(t, rnd)
		s := storage.Of(l)
		for _, d := range s.Data() {
			p, ok := s.Pool(d.On.Pool)
			require.True(t, ok)
			for gone, key := range map[storage.Scope]lab.Key{storage.OfPool: p.Key(), storage.OfDevice: {Kind: lab.KindDevice, ID: p.Device},
				storage.OfHouse: storage.House()} {
				said := s.LossIf(d, gone, "2026-11-28")
				found := storage.Loss{AtMostH: new(float64), Now: new(float64)} // nothing, where it is not among them
				for _, lost := range s.LostWith("2026-11-28", key) {
					if lost.Data.ID == d.ID {
						found = lost.Loss
					}
				}
				require.Equal(t, said, found, "%s with the %s", d.Name, gone)
			}
		}
	}
}

// A copy of a copy is never younger than its source was; what more copies there are, the
// less is lost.
func TestCopiesOfCopiesAndMoreCopies(t *testing.T) {
	rnd := rand.New(rand.NewPCG(22, 6))
	for range 120 {
		l := scattered(t, rnd)
		s := storage.Of(l)
		for _, d := range s.Data() {
			for _, c := range d.Copies {
				age := d.Age(c, "2026-11-28")
				require.NotNil(t, age)
				ran, _ := c.Copy.Last.Last()
				require.GreaterOrEqual(t, *age, 24*float64(28-ran.Day()))
				require.GreaterOrEqual(t, *c.AtMostH, *c.Copy.EveryH)
			}
			copies, devices, outside := d.Count()
			require.LessOrEqual(t, devices, copies)
			require.LessOrEqual(t, outside, copies)
			require.Equal(t, d.Holds321(), d.Missing() == "")
			if len(d.Copies) == 0 {
				continue
			}
			last := d.Copies[len(d.Copies)-1].Copy
			if len(l.CopiesOf(d.ID)) > 1 && madeOf(d, last) {
				continue // others are made of it
			}
			less, err := l.Apply(l.Removal(last.Key()))
			require.NoError(t, err)
			then := storage.Of(less).LossIf(data(t, storage.Of(less), d.Name), storage.OfPool, "2026-11-28")
			now := s.LossIf(d, storage.OfPool, "2026-11-28")
			require.True(t, then.All || *then.Now >= *now.Now)
		}
	}
}

// madeOf reports whether another copy is made of one.
func madeOf(d *storage.Data, of *lab.Copy) bool {
	for _, c := range d.Copies {
		if c.Copy.From != nil && *c.Copy.From == *of.To {
			return true
		}
	}
	return false
}

// The biggest of all losses is that of everything.
func TestWithoutEverythingAllIsLost(t *testing.T) {
	rnd := rand.New(rand.NewPCG(22, 7))
	l := scattered(t, rnd)
	s := storage.Of(l)
	all := []lab.Key{storage.House()}
	for _, k := range []lab.RecordKind{lab.KindPlace, lab.KindDevice, lab.KindPart} {
		for r := range l.Records(k) {
			all = append(all, r.Key())
		}
	}
	lost := s.LostWith("2026-11-28", all...)
	require.Len(t, lost, 6)
	for _, d := range lost {
		assert.True(t, d.All)
	}
}
