package storage_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/labtest"
	"levelstaff/core/storage"
)

func TestAmountsAsOneReadsThem(t *testing.T) {
	for bytes, want := range map[int64]string{
		0:                  "0 B",
		512:                "512 B",
		1_500:              "1.5 kB",
		180_000_000_000:    "180 GB",
		999_900_000_000:    "1 TB",
		1_000_000_000_000:  "1 TB",
		17_300_000_000_000: "17.3 TB",
		9_250_000_000_000:  "9.25 TB",
		144e12:             "144 TB",
		2_400e12:           "2.4 PB",
		-500_000_000_000:   "-500 GB",
	} {
		assert.Equal(t, want, storage.Size(bytes))
	}
	for bytes, want := range map[int64]string{
		24e12: "24 TB = 21.8 TiB", 6e12: "6 TB = 5.46 TiB", 40e12: "40 TB = 36.4 TiB", 12e12: "12 TB = 10.9 TiB", 1e12: "1 TB = 931 GiB",
	} {
		assert.Equal(t, want, storage.Both(bytes))
	}
}

func TestAgesAndLossesAsOneReadsThem(t *testing.T) {
	h := func(v float64) *float64 { return &v }
	for hours, want := range map[float64]string{0: "nothing", 9: "9 h", 47: "47 h", 48: "2 days", 31 * 24: "31 days"} {
		assert.Equal(t, want, storage.Ago(hours))
	}
	for _, c := range []struct {
		loss storage.Loss
		want string
	}{
		{storage.Loss{All: true}, "all of it"},
		{storage.Loss{AtMostH: h(24), Now: h(9)}, "9 h, at most 24 h"},
		{storage.Loss{AtMostH: h(24), Now: h(48)}, "2 days"},
		{storage.Loss{AtMostH: h(168)}, "at most 7 days"},
		{storage.Loss{Now: h(9)}, "9 h"},
		{storage.Loss{AtMostH: h(0), Now: h(0)}, "nothing"},
		{storage.Loss{}, "unknown how much"},
	} {
		assert.Equal(t, c.want, c.loss.Words())
	}
}

// How a pool is made and what may fail, as a sheet says it.
func TestPoolsInWords(t *testing.T) {
	for _, c := range []struct{ sets, words, fails string }{
		{"single of bay 1", "single drive of 4 TB", "no drive may fail"},
		{"stripe of bay 1-2", "stripe of 2 x 4 TB", "no drive may fail"},
		{"mirror of bay 1-2", "mirror of 2 x 4 TB", "any one drive may fail"},
		{"mirror of bay 1-3", "mirror of 3 x 4 TB", "any two drives may fail"},
		{"raid 5 of bay 1-4, hot spare bay 5", "RAID 5 of 4 x 4 TB, 1 hot spare", "any one drive may fail"},
		{"raid 6 of bay 1-4, hot spare bay 5-6", "RAID 6 of 4 x 4 TB, 2 hot spares", "any two drives may fail"},
		{"raid 10 of bay 1-6", "RAID 10 of 6 x 4 TB", "any one drive may fail; three if they are in different pairs"},
		{"raid-z1 of bay 1-3, raid-z1 of bay 4-6", "2 sets of RAID-Z1 of 3 x 4 TB", "any one drive may fail; two if they are in different sets"},
		{"raid-z3 of bay 1-6", "RAID-Z3 of 6 x 4 TB", "any three drives may fail"},
		{"raid-z1 of bay 1-3, mirror of bay 4-5", "RAID-Z1 of 3 x 4 TB and mirror of 2 x 4 TB",
			"any one drive may fail; two if they are in different sets"},
		{"mirror of bay 1-2, single of bay 3", "mirror of 2 x 4 TB and single drive of 4 TB",
			"no drive may fail for certain; one if they are in different sets"},
		{"mixed of bay 5-7, one redundancy", "mixed sizes of 2 x 4 TB and 8 TB", "any one drive may fail"},
		{"mixed of bay 4-7, two redundancy", "mixed sizes, two of redundancy, of 3 x 4 TB and 8 TB", "any two drives may fail"},
		{"dedicated parity 2 of bay 4-7", "dedicated parity, two of redundancy, of 3 x 4 TB and 8 TB", "any two drives may fail"},
		{"raid 5 of bay 1-2 + 8", "RAID 5 of unknown size and 2 x 4 TB", "any one drive may fail"},
		{"raid 5 of bay 1-2 + missing", "RAID 5 of 1 x missing and 2 x 4 TB", "no drive may fail"},
		{"mirror of bay 1 + missing", "mirror of 1 x missing and 4 TB", "no drive may fail"},
		{"stripe of bay 1 + missing", "stripe of 1 x missing and 4 TB", "more drives are gone than it can do without"},
		{"raid 5 of 4 or 5 of 8 or 10TB", "RAID 5 of 4 or 5 x 8 TB or 10 TB", "any one drive may fail"},
		{"mirror of 2 unlisted of 8TB", "mirror of 2 x 8 TB", "any one drive may fail"},
		{"mirror of 2 unlisted", "mirror of 2 drives", "any one drive may fail"},
		{"file system xfs", "drives unknown", "unknown what may fail"},
	} {
		t.Run(c.sets, func(t *testing.T) {
			s := storage.Of(labtest.From(t, `? nas "silo": 8 bays
  bay 1-6 drive: 4TB
  bay 7 drive: 8TB
  bay 8 drive
pool "p" on silo: `+c.sets+"\n"))
			p := pool(t, s, "p")
			assert.Equal(t, c.words, p.Words())
			assert.Equal(t, c.fails, p.MayFailWords())
		})
	}
	s := storage.Of(labtest.From(t, `? mini pc "a"
  loose drive: 2TB
? mini pc "b"
  loose drive: 2TB
? mini pc "c"
  loose drive: 2TB
pool "threes" on a, b, c: replicated 3, writes with 2, of all drives
pool "other" on a: raid 5
`))
	threes := pool(t, s, "threes")
	assert.Equal(t, "3 copies of 3 x 2 TB", threes.Words())
	assert.Equal(t, "one device may go before it stops writing, two may go before data goes", threes.MayFailWords())
}

// Worked out by hand: bytes by 150 MB/s, or what the drive says or its interface lets
// through; what is read is the other drives as far as it takes them.
func TestHowLongARebuildTakesAtBest(t *testing.T) {
	for _, c := range []struct {
		says, drives, sets string
		hours              float64
		reads              int64
	}{
		{"five of 8 TB in RAID-Z1", "bay 1-5 drive: 8TB, hdd", "raid-z1 of bay 1-5", 8e12 / 150e6 / 3600, 32 * tb},
		{"six of 10 in RAID-Z2 need four", "bay 1-6 drive: 10TB, hdd", "raid-z2 of bay 1-6", 10e12 / 150e6 / 3600, 40 * tb},
		{"a mirror reads its other half", "bay 1-2 drive: 6TB, hdd", "mirror of bay 1-2", 6e12 / 150e6 / 3600, 6 * tb},
		{"pairs too", "bay 1-4 drive: 6TB, hdd", "raid 10 of bay 1-4", 6e12 / 150e6 / 3600, 6 * tb},
		{"a drive that says how fast it is", "bay 1-3 drive: 8TB, hdd, 200MB/s", "raid 5 of bay 1-3", 8e12 / 200e6 / 3600, 16 * tb},
		{"flash by SATA", "bay 1-3 drive: 2TB, ssd, sata", "raid 5 of bay 1-3", 2e12 / 600e6 / 3600, 4 * tb},
		{"flash by SAS", "bay 1-3 drive: 2TB, ssd, sas", "raid 5 of bay 1-3", 2e12 / 1200e6 / 3600, 4 * tb},
		{"flash by NVMe", "bay 1-3 drive: 2TB, ssd, nvme", "raid 5 of bay 1-3", 2e12 / 3940e6 / 3600, 4 * tb},
		{"mixed sizes by the largest", "bay 1-2 drive: 4TB, hdd\n  bay 3 drive: 8TB, hdd", "mixed of bay 1-3", 8e12 / 150e6 / 3600, 8 * tb},
		{"dedicated parity", "bay 1-4 drive: 4TB, hdd", "dedicated parity of bay 1-4", 4e12 / 150e6 / 3600, 12 * tb},
	} {
		t.Run(c.says, func(t *testing.T) {
			s := storage.Of(labtest.From(t, "? nas \"silo\": 8 bays\n  "+c.drives+"\npool \"p\" on silo: "+c.sets+"\n"))
			r := pool(t, s, "p").Sets[0].Rebuild
			assert.True(t, r.Known)
			assert.InDelta(t, c.hours, r.Hours, 1e-6)
			assert.Equal(t, c.reads, r.Reads)
		})
	}
	s := storage.Of(labtest.From(t, "? nas \"silo\": 8 bays\n  bay 1-2 drive: 8TB\npool \"p\" on silo: stripe of bay 1-2\n"))
	assert.False(t, pool(t, s, "p").Sets[0].Rebuild.Known, "a stripe cannot be rebuilt")
}

// How far a copy is from its original, by where both are.
func TestHowFarACopyIs(t *testing.T) {
	for _, c := range []struct {
		to      string
		where   storage.Distance
		counts  bool
		outside bool
	}{
		{"silo/y", storage.SameDevice, true, false},
		{"weasel pool", storage.AnotherDevice, true, false},
		{"near", storage.AnotherDevice, true, false},
		{"upper", storage.AnotherPlace, true, false},
		{"far", storage.OutOfTheHouse, true, true},
		{"\"Attic\"", storage.OutOfTheHouse, true, true},
		{"drive \"friday\"", storage.AnotherDevice, true, false},
		{"drive \"friday\": outside the house", storage.OutOfTheHouse, true, true},
		{"drive \"friday\": kept at \"Attic\"", storage.OutOfTheHouse, true, true},
		{"drive \"friday\": kept at \"Loft\"", storage.AnotherPlace, true, false},
		{"drive \"small\"", storage.AnotherDevice, false, false},
	} {
		t.Run(c.to, func(t *testing.T) {
			s := storage.Of(labtest.From(t, `place "House"
place "Pantry", in "House"
  nas "silo": 8 bays, 4x 4TB
  disk shelf "weasel": 4 bays, 2x 4TB
  nas "near"
place "Loft", in "House"
  nas "upper"
place "Aunt's", outside the house
place "Attic", in "Aunt's"
  nas "far"
spare drive "friday": 8TB
spare drive "small": 1TB
pool "x" on silo: mirror of bay 1-2
pool "y" on silo: mirror of bay 3-4
pool "weasel pool" on silo: mirror of weasel bay 1-2
dataset "d" on x: 2TB
copy of d to `+c.to+"\n"))
			d := data(t, s, "d")
			assert.Equal(t, c.where, d.Copies[0].Where)
			assert.Equal(t, c.outside, d.Copies[0].Outside)
			assert.Equal(t, c.counts, d.Copies[0].Counts())
			copies, _, outside := d.Count()
			assert.Equal(t, c.counts, copies == 2)
			assert.Equal(t, c.outside, outside == 1)
		})
	}
}

func TestWhichPoolsAreFaster(t *testing.T) {
	s := storage.Of(labtest.From(t, `? nas "silo": 20 bays
  bay 1 drive: 1TB, hdd, smr
  bay 2 drive: 1TB, hdd, 5400rpm
  bay 3 drive: 1TB, hdd, 7200rpm
  bay 4 drive: 1TB, hdd, 15000rpm
  bay 5 drive: 1TB, ssd, sata
  bay 6 drive: 1TB, ssd, sas
  bay 7 drive: 1TB, ssd, nvme
  bay 8 drive: 1TB
pool "shingled" on silo: single of bay 1
pool "slow" on silo: single of bay 2
pool "usual" on silo: single of bay 3
pool "quick" on silo: single of bay 4
pool "flash" on silo: single of bay 5
pool "sas flash" on silo: single of bay 6
pool "nvme" on silo: single of bay 7
pool "unknown" on silo: single of bay 8
pool "none" on silo
`))
	var names []string
	for _, p := range s.Pools() {
		names = append(names, p.Name)
	}
	assert.Equal(t, []string{"nvme", "sas flash", "flash", "quick", "usual", "slow", "shingled", "unknown", "none"}, names)
}
