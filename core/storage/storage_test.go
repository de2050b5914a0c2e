package storage_test

import (
	"math/rand/v2"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/labtest"
	"levelstaff/core/storage"
)

const tb = int64(1e12)

func sizes(list ...int64) []storage.Member {
	var all []storage.Member
	for _, n := range list {
		all = append(all, storage.Member{Bytes: n * tb})
	}
	return all
}

// Worked out by hand.
func TestHowDrivesAreDivided(t *testing.T) {
	for _, c := range []struct {
		says                               string
		layout                             lab.Layout
		redundant                          int
		drives                             []storage.Member
		usable, redundancy, unused, inside int64
	}{
		{"one drive is all there", lab.Single, 1, sizes(8), 8, 0, 0, 8},
		{"a stripe is the sum, whatever the sizes", lab.Stripe, 1, sizes(4, 8), 12, 0, 0, 12},
		{"a mirror is its smallest drive", lab.Mirror, 1, sizes(4, 6), 4, 4, 2, 10},
		{"of three in a mirror two are redundancy", lab.Mirror, 1, sizes(6, 6, 6), 6, 12, 0, 18},
		{"four in RAID 5 give three", lab.RAID5, 1, sizes(4, 4, 4, 4), 12, 4, 0, 16},
		{"a larger drive in RAID 5 is cut to the smallest", lab.RAID5, 1, sizes(4, 4, 8), 8, 4, 4, 16},
		{"six in RAID 6 give four", lab.RAID6, 1, sizes(10, 10, 10, 10, 10, 10), 40, 20, 0, 60},
		{"four in RAID 10 give two", lab.RAID10, 1, sizes(8, 8, 8, 8), 16, 16, 0, 32},
		{"five of 6 TB in RAID-Z1 give 24", lab.RAIDZ1, 1, sizes(6, 6, 6, 6, 6), 24, 6, 0, 30},
		{"six of 12 in RAID-Z2 give 48", lab.RAIDZ2, 1, sizes(12, 12, 12, 12, 12, 12), 48, 24, 0, 72},
		{"five in RAID-Z3 give two", lab.RAIDZ3, 1, sizes(2, 2, 2, 2, 2), 4, 6, 0, 10},
		{"mixed 2, 4, 4, 8: 6 + 4, and 4 that only one has", lab.Mixed, 1, sizes(2, 4, 4, 8), 10, 4, 4, 18},
		{"mixed 4, 4, 8", lab.Mixed, 1, sizes(4, 4, 8), 8, 4, 4, 16},
		{"mixed 4, 4, 8, 8", lab.Mixed, 1, sizes(8, 4, 8, 4), 16, 8, 0, 24},
		{"mixed with two drives of redundancy needs four in a layer", lab.Mixed, 2, sizes(2, 4, 4, 4, 8), 10, 8, 4, 22},
		{"dedicated parity: data drives of any size", lab.DedicatedParity, 1, sizes(10, 4, 6, 10), 20, 10, 0, 30},
		{"two parity drives, one larger than any data", lab.DedicatedParity, 2, sizes(12, 10, 10, 4), 14, 20, 2, 36},
	} {
		t.Run(c.says, func(t *testing.T) {
			r := storage.Divide(c.layout, c.redundant, c.drives)
			assert.Equal(t, storage.Room{Raw: c.inside * tb, Usable: c.usable * tb, Redundancy: c.redundancy * tb, Unused: c.unused * tb}, r)
		})
	}
	small := sizes(4, 10, 6)
	small[0].Parity = true
	r := storage.Divide(lab.DedicatedParity, 1, small)
	assert.Equal(t, storage.Room{Raw: 20 * tb, Usable: 8 * tb, Redundancy: 4 * tb, Unused: 8 * tb}, r,
		"a parity drive of 4 TB covers 4 TB of each data drive")
}

func TestReplicatedRoomIsBoundByTheDevices(t *testing.T) {
	on := func(hosts ...int64) []storage.Member {
		var list []storage.Member
		for i, n := range hosts {
			list = append(list, storage.Member{Bytes: n * tb, Host: lab.ID(rune('a' + i))})
		}
		return list
	}
	for _, c := range []struct {
		says   string
		copies int
		hosts  []int64
		usable int64
	}{
		{"three copies on three: the smallest", 3, []int64{2, 2, 4}, 2},
		{"two copies on three equal ones", 2, []int64{4, 4, 4}, 6},
		{"two copies where one is as large as the others together", 2, []int64{4, 4, 8}, 8},
		{"and where it is larger than that", 2, []int64{4, 4, 20}, 8},
		{"three on four", 3, []int64{1, 1, 10, 10}, 2},
	} {
		r := storage.Divide(lab.Replicated, c.copies, on(c.hosts...))
		assert.Equal(t, c.usable*tb, r.Usable, c.says)
		assert.Equal(t, r.Usable*int64(c.copies-1), r.Redundancy, c.says)
	}
}

// Whatever the drives are: what can be used is no more than there is, the order does not
// matter, and one more drive, no smaller than those there are, takes no room away.
func TestRoomIsNeverMoreThanThereIs(t *testing.T) {
	rnd := rand.New(rand.NewPCG(22, 1))
	for range 2000 {
		layout := lab.Layouts()[rnd.IntN(len(lab.Layouts()))]
		var drives []storage.Member
		largest := int64(0)
		for i := range 4 + 2*rnd.IntN(4) {
			n := int64(1+rnd.IntN(20)) * tb
			drives = append(drives, storage.Member{Bytes: n, Host: lab.ID(rune('a' + i%3))})
			largest = max(largest, n)
		}
		redundant := 1 + rnd.IntN(2)
		r := storage.Divide(layout, redundant, drives)
		require.LessOrEqual(t, r.Usable, r.Raw-r.Redundancy, "%s of %v", layout, drives)
		require.GreaterOrEqual(t, r.Unused, int64(0), "%s of %v", layout, drives)
		turned := append([]storage.Member(nil), drives...)
		rnd.Shuffle(len(turned), func(i, j int) { turned[i], turned[j] = turned[j], turned[i] })
		require.Equal(t, r, storage.Divide(layout, redundant, turned), "%s of %v", layout, drives)
		more := append(turned, storage.Member{Bytes: largest, Host: "a"})
		if layout != lab.DedicatedParity { // there the largest one becomes parity
			require.GreaterOrEqual(t, storage.Divide(layout, redundant, more).Usable, r.Usable, "%s of %v", layout, drives)
		}
	}
}

func storageOf(t *testing.T) (*lab.Lab, *storage.Storage) {
	t.Helper()
	data, err := os.ReadFile("../rundown/testdata/good/storage.rundown")
	require.NoError(t, err)
	l := labtest.From(t, string(data))
	return l, storage.Of(l)
}

func pool(t *testing.T, s *storage.Storage, name string) *storage.Pool {
	t.Helper()
	for _, p := range s.Pools() {
		if p.Name == name {
			return p
		}
	}
	t.Fatalf("no pool %s", name)
	return nil
}

func TestWhatPoolsComeTo(t *testing.T) {
	_, s := storageOf(t)
	reels := pool(t, s, "reels")
	assert.Equal(t, storage.Room{Raw: 48 * tb, Usable: 36 * tb, Redundancy: 12 * tb}, reels.Spans.Least, "two sets of 4 x 6 TB")
	assert.Equal(t, storage.MayFail{Worst: 1, Best: 2}, reels.MayFail)
	assert.Equal(t, 36*tb/32, reels.KeptBack())
	hold := pool(t, s, "riddle")
	assert.Equal(t, 24*tb, hold.Spans.Least.Usable, "4 of 8 TB in RAID 5")
	assert.Equal(t, 40*tb, hold.Spans.Most.Usable, "5 of 10 TB")
	assert.False(t, hold.Spans.Exact())
	assert.Equal(t, tb/2, hold.KeptBack(), "as it is said")
	threes := pool(t, s, "threes")
	assert.Equal(t, 2*tb, threes.Spans.Least.Usable, "three copies: the smallest of 2, 2 and 4 TB")
	writes, gone, ok := threes.HostsMayGo()
	assert.True(t, ok)
	assert.Equal(t, []int{1, 2}, []int{writes, gone})
	assert.Equal(t, storage.MayFail{Worst: 2, Best: 3}, threes.MayFail)
	assert.Equal(t, "system", s.Pools()[1].Name, "flash before platters")
	vault := pool(t, s, "vault")
	assert.InDelta(t, 12e12/150e6/3600, vault.Sets[0].Rebuild.Hours, 0.01, "the drive of 12 TB at 150 MB/s")
	assert.Equal(t, 24*tb, vault.Sets[0].Rebuild.Reads, "three others of 8 TB; what only it has needs none")
}

func TestAPoolOfUnknownDrivesSaysWhatItHasAtLeast(t *testing.T) {
	l := labtest.From(t, `
rack "Pantry": 24U
1 nas "silo": 8 bays
  bay 1-2 drive: 4TB
  bay 3 drive
  bay 5 drive: 4TB, faulty
pool "a" on silo: stripe of bay 1-3
pool "b" on silo: raid 5 of bay 1-3
pool "c" on silo: raid-z2 of bay 1-2 + 4-5
`)
	s := storage.Of(l)
	a, b, c := pool(t, s, "a"), pool(t, s, "b"), pool(t, s, "c")
	assert.Equal(t, 8*tb, a.Spans.Least.Usable)
	assert.False(t, a.Spans.Above)
	_, known := b.Fillable()
	assert.False(t, known, "what a set with a drive of unknown size has is unknown, not nothing")
	assert.Equal(t, 8*tb, c.Spans.Least.Usable, "the drive that is missing was as large as the smallest")
	assert.Equal(t, storage.MayFail{}, c.MayFail, "an empty bay and a faulty drive are all that it stands")
	assert.False(t, c.Lost)
}

func TestHowLongUntilItIsFull(t *testing.T) {
	l := labtest.From(t, `
rack "Wall": 9U, 10in
3 nas "creel": 2 bays, 2x 6TB smr
pool "store" on creel: mirror of bay 1-2
dataset "photographs" on store: 2.2TB, grows 40GB a month
dataset "camera" on store: 1 camera 4Mbit 24h, keeps 30 days
`)
	p := pool(t, storage.Of(l), "store")
	used, sure, ok := p.Used()
	assert.Equal(t, []any{int64(3.496e12), true, true}, []any{used, sure, ok}, "30 days of 4 Mbit/s are 1.296 TB")
	months, ok := p.MonthsUntil(storage.Nearly)
	assert.True(t, ok)
	assert.InDelta(t, (4.8-3.496)/0.04, months, 0.001)
}

func data(t *testing.T, s *storage.Storage, name string) *storage.Data {
	t.Helper()
	for _, d := range s.Data() {
		if d.Name == name {
			return d
		}
	}
	t.Fatalf("no dataset %s", name)
	return nil
}

func TestWhereTheCopiesAre(t *testing.T) {
	_, s := storageOf(t)
	d := data(t, s, "choir scores")
	copies, devices, outside := d.Count()
	assert.Equal(t, []int{5, 5, 2}, []int{copies, devices, outside}, "anvil, silo, cellar copy, friday and the attic")
	assert.True(t, d.Holds321())
	var where []storage.Distance
	for _, c := range d.Copies {
		where = append(where, c.Where)
	}
	assert.Equal(t, []storage.Distance{storage.AnotherDevice, storage.AnotherDevice, storage.OutOfTheHouse, storage.OutOfTheHouse}, where)
	assert.Equal(t, 24.0+168, *d.Copies[1].AtMostH, "a chain's ages add up")
	cameras := data(t, s, "cameras")
	assert.InDelta(t, 8e12*8/(6*5e6)/86400, cameras.DaysKept, 0.001)
	for gone, want := range map[storage.Scope]storage.Loss{
		storage.OfPool: {All: true}, storage.OfDevice: {All: true}, storage.OfHouse: {All: true},
	} {
		assert.Equal(t, want, s.LossIf(cameras, gone, "2026-11-28"))
	}
	loss := s.LossIf(d, storage.OfDevice, "2026-11-28")
	assert.Equal(t, 24.0, *loss.AtMostH)
	assert.Equal(t, 48.0, *loss.Now, "the last run was two days ago")
	loss = s.LossIf(d, storage.OfHouse, "2026-11-28")
	assert.Equal(t, 168.0, *loss.AtMostH)
	assert.Nil(t, loss.Now, "when it last ran is not said")
}

func TestACopyOfACopyIsAsOldAsItsSourceWas(t *testing.T) {
	l := labtest.From(t, `
rack "Pantry": 24U
5 nas "crock": 2 bays, 2x 4TB
4 nas "glaze": 2 bays, 2x 4TB
place "Sister's", outside the house
pool "main" on crock: mirror of bay 1-2
pool "copies" on glaze: mirror of bay 1-2
dataset "shop" on main: 1TB
dataset "books" on main: 1TB
copy of "shop" to copies: nightly, last 2026-11-20
copy of "shop" from copies to "Sister's": weekly, last 2026-11-26
copy of "books" to copies: nightly, last 2026-11-27
copy of "books" from copies to "Sister's": weekly, last 2026-11-21
`)
	s := storage.Of(l)
	shop, books := data(t, s, "shop"), data(t, s, "books")
	assert.Equal(t, 192.0, *shop.Copies[1].AtMostH)
	assert.Equal(t, 8*24.0, *shop.Age(shop.Copies[1], "2026-11-28"), "it holds what the first copy held: that of the 20th")
	assert.Equal(t, 7*24.0+24, *books.Age(books.Copies[1], "2026-11-28"), "the first ran again since: it was a day old at most")
}

func TestACopyThatDoesNotFitIsNoCopy(t *testing.T) {
	l := labtest.From(t, `
rack "Pantry": 24U
5 nas "silo": 4 bays, 4x 12TB
spare drive "friday": 16TB
pool "hold" on silo: raid 5 of bay 1-4
dataset "sky" on hold: 12TB
dataset "letters" on hold: 6TB, household
copy of "sky" to drive "friday": weekly, outside the house
copy of "letters" to drive "friday": weekly, outside the house
`)
	s := storage.Of(l)
	assert.False(t, data(t, s, "letters").Copies[0].Part, "what matters most goes first")
	sky := data(t, s, "sky")
	assert.True(t, sky.Copies[0].Part, "of 16 TB 6 are taken")
	copies, _, _ := sky.Count()
	assert.Equal(t, 1, copies)
	assert.True(t, s.LossIf(sky, storage.OfHouse, "2026-11-28").All)
}

func TestWhatIsLostWithWhat(t *testing.T) {
	l, s := storageOf(t)
	lost := func(keys ...lab.Key) map[string]storage.Loss {
		all := map[string]storage.Loss{}
		for _, d := range s.LostWith("2026-11-28", keys...) {
			all[d.Data.Name] = d.Loss
		}
		return all
	}
	bay := func(device lab.Device, n int) lab.Key {
		p, ok := l.DriveOf(lab.PoolDrive{Device: device.ID, Bay: n})
		require.True(t, ok)
		return p.Key()
	}
	silo, anvil := labtest.Named[lab.Device](t, l, "silo"), labtest.Named[lab.Device](t, l, "anvil")
	assert.Empty(t, lost(bay(silo, 1)), "any one of a RAID-Z1")
	assert.Contains(t, lost(bay(silo, 1), bay(silo, 2)), "films")
	assert.True(t, lost(bay(silo, 4))["cameras"].All, "a stripe")
	one := lost(anvil.Key())
	assert.Equal(t, 48.0, *one["choir scores"].Now)
	assert.True(t, one["guests"].All, "which has no copy")
	house := lost(storage.House())
	assert.Len(t, house, 5)
	assert.False(t, house["choir scores"].All)
	attic := labtest.Named[lab.Place](t, l, "Aunt's attic")
	assert.Empty(t, lost(attic.Key()))
	friday := lab.Key{}
	for p := range lab.Each[lab.Part](l) {
		if p.Name == "friday" {
			friday = p.Key()
		}
	}
	assert.True(t, lost(storage.House(), attic.Key(), friday)["choir scores"].All)
}

// What is lost grows with what goes.
func TestMoreIsLostWithMore(t *testing.T) {
	l, s := storageOf(t)
	all := []lab.Key{storage.House()}
	for p := range lab.Each[lab.Part](l) {
		all = append(all, p.Key())
	}
	for d := range lab.Each[lab.Device](l) {
		all = append(all, d.Key())
	}
	for p := range lab.Each[lab.Pool](l) {
		all = append(all, p.Key())
	}
	rnd := rand.New(rand.NewPCG(22, 2))
	for range 300 {
		rnd.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
		few := 1 + rnd.IntN(6)
		less, more := s.LostWith("2026-11-28", all[:few]...), s.LostWith("2026-11-28", all[:few+1+rnd.IntN(6)]...)
		in := map[lab.ID]storage.Loss{}
		for _, d := range more {
			in[d.Data.ID] = d.Loss
		}
		for _, d := range less {
			loss, still := in[d.Data.ID]
			require.True(t, still)
			require.True(t, loss.All || !d.All)
			if !loss.All && d.AtMostH != nil && loss.AtMostH != nil {
				require.GreaterOrEqual(t, *loss.AtMostH, *d.AtMostH)
			}
		}
	}
}
