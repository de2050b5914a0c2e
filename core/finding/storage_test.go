package finding_test

import (
	"cmp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/finding"
	"levelstaff/core/labtest"
)

const drives = `
place "House"
place "Attic", outside the house
rack "Pantry": 24U, in "House"
20-21 server "anvil": 8 bays, 2 slots
  slot 1 card "fan": storage, mode "raid"
  bay 1-4 drive: 8TB, hdd
16-17 nas "silo": 8 bays
  BAYS
14 disk shelf "weasel": 4 bays, 4x 4TB
spare drive "friday": 2TB
`

// Each line or two makes one check speak, and it alone of those named.
func TestWhatTheChecksOfStorageSay(t *testing.T) {
	for _, c := range []struct{ check, lines, say, bays string }{
		{"drive-gone", `pool "a" on silo: raid 5 of bay 1-3 + 6`,
			"a, RAID 5 of 1 x missing and 3 x 4 TB: bay 6 of silo is empty; no further one may fail.", ""},
		{"drive-gone", "pool \"a\" on silo: stripe of bay 1-2",
			"the drive in bay 2 of silo is faulty; that is more than it can do without.", `bay 1 drive: 4TB, hdd
  bay 2 drive: 4TB, hdd, faulty
  bay 3 drive: 4TB, hdd
  bay 4 drive: 4TB, hdd`},
		{"drive-twice", "pool \"a\" on silo: mirror of bay 1-2\npool \"b\" on silo: mirror of bay 2-3",
			"Bay 2 of silo is in the pools a and b; it can be in one.", ""},
		{"one-batch", `pool "a" on silo: raid 5 of bay 1-4`, "a: 3 of 4 drives in a set are of one batch, P4, bought 2021-03.",
			`bay 1-3 drive: 4TB, model "P4", bought 2021-03
  bay 4 drive: 4TB`},
		{"shingled", "pool \"a\" on silo: raid 5 of bay 1-3", "a: one drive is shingled, in a set with parity", `bay 1 drive: 4TB, hdd, smr
  bay 2 drive: 4TB, hdd
  bay 3 drive: 4TB, hdd
  bay 4 drive: 4TB, hdd`},
		{"shingled", "pool \"a\" on silo: mirror of bay 1-2", "a: 2 drives are shingled; writing much at once is slow.",
			`bay 1 drive: 4TB, hdd, smr
  bay 2 drive: 4TB, hdd, smr
  bay 3 drive: 4TB, hdd
  bay 4 drive: 4TB, hdd`},
		{"unlike-drives", "pool \"a\" on silo: raid 5 of bay 1-4", "2 TB of it cannot be used", `bay 1 drive: 4TB, hdd
  bay 2 drive: 4TB, hdd
  bay 3 drive: 4TB, hdd
  bay 4 drive: 6TB, hdd`},
		{"unlike-drives", "pool \"a\" on silo: raid 5 of bay 1-4", "drives of unlike speed are in one set, hdd and ssd", `bay 1 drive: 4TB, hdd
  bay 2 drive: 4TB, hdd
  bay 3 drive: 4TB, hdd
  bay 4 drive: 4TB, ssd`},
		{"small-parity", "pool \"a\" on silo: dedicated parity of bay 1-4 (parity bay 4)",
			"a: a parity drive has 2 TB and a data drive 4 TB", `bay 1 drive: 4TB, hdd
  bay 2 drive: 4TB, hdd
  bay 3 drive: 4TB, hdd
  bay 4 drive: 2TB, hdd`},
		{"small-spare", "pool \"a\" on silo: raid 5 of bay 1-3, hot spare bay 4",
			"its hot spare in bay 4 of silo has 2 TB, and it has a drive of 4 TB", `bay 1 drive: 4TB, hdd
  bay 2 drive: 4TB, hdd
  bay 3 drive: 4TB, hdd
  bay 4 drive: 2TB, hdd`},
		{"not-behind", `pool "a" on silo: mirror of anvil bay 1-2`, "a on silo has drives in anvil, which is not a disk shelf behind it.", ""},
		{"not-behind", `pool "a" on silo: mirror of weasel bay 1-2`, "no cable for drives leads there", ""},
		{"controller-mode", `pool "a" on anvil: raid-z1 of bay 1-4`, "the storage card of anvil is in the mode “raid”", ""},
		{"promised", "pool \"a\" on silo: mirror of bay 1-2\ndataset \"d\" on a: 5TB",
			"a: its datasets come to 5 TB, and it has room for 4 TB.", ""},
		{"nearly-full", `pool "a" on silo: mirror of bay 1-2, 3.3TB used`, "a is 82 % full: 3.3 TB of 4 TB.", ""},
		{"boot-alone", "pool \"a\" on silo: mirror of bay 1-2, boot bay 3\ndataset \"d\" on a: household",
			"silo boots from one drive alone, and d is on it.", ""},
		{"uncopied-stripe", `pool "a" on silo: stripe of bay 1-2`,
			"a is a stripe of 2 x 4 TB: no drive may fail, and not all on it has a copy.", ""},
		{"no-copy", "pool \"a\" on silo: mirror of bay 1-2\ndataset \"d\" on a: household", "d, which the household lives with, has no copy.",
			""},
		{"no-copy", "pool \"a\" on silo: mirror of bay 1-2\ndataset \"d\" on a: lab\ncopy of d to anvil: nightly",
			"d: of its copies none is out of the house.", ""},
		{"same-device", "pool \"a\" on silo: mirror of bay 1-2\npool \"b\" on silo: mirror of bay 3-4\ndataset \"d\" on a: 1TB\ncopy of d to b",
			"what takes that takes both", ""},
		{"copy-too-large", "pool \"a\" on silo: mirror of bay 1-2\ndataset \"d\" on a: 3TB\ncopy of d to friday",
			"The copy of d to friday does not fit there", ""},
		{"copy-late", "pool \"a\" on silo: mirror of bay 1-2\ndataset \"d\" on a: 1TB\ncopy of d to friday: weekly, last 2026-10-01",
			"The copy of d to friday last ran on 2026-10-01.", ""},
		{"never-restored", "pool \"a\" on silo: mirror of bay 1-2\ndataset \"d\" on a: household\ncopy of d to friday: weekly",
			"Nobody ever got d back from a copy.", ""},
	} {
		t.Run(c.check, func(t *testing.T) {
			l := labtest.From(t, strings.Replace(drives, "BAYS", cmp.Or(c.bays, "bay 1-4 drive: 4TB, hdd"), 1)+c.lines)
			said := map[string][]string{}
			for _, f := range finding.OfStorage(l, "2026-11-28") {
				check, _, _ := strings.Cut(f.Key, " ")
				said[check] = append(said[check], f.Say)
				assert.True(t, f.Storage)
			}
			if assert.NotEmpty(t, said[c.check]) {
				assert.Contains(t, said[c.check][0], c.say)
			}
		})
	}
}

func TestASoundStoreHasNoFindings(t *testing.T) {
	l := labtest.From(t, strings.Replace(drives, "BAYS", "bay 1-4 drive: 4TB, hdd", 1)+`
pool "a" on silo: raid-z1 of bay 1-4
pool "shelf" on anvil: raid 5 of weasel bay 1-4
anvil: 1 port sas
weasel: 1 port sas
anvil/sas1 - weasel/sas1
dataset "d" on a: 1TB, household
dataset "game" on a: 1TB, toy
copy of d to shelf: nightly, last 2026-11-27, restored 2026-03
copy of d to "Attic": weekly, last 2026-11-25
`)
	assert.Empty(t, finding.OfStorage(l, "2026-11-28"))
}

// The more data matters, the more what it lacks asks for.
func TestWhatMattersMoreAsksForMore(t *testing.T) {
	for _, c := range []struct {
		says, dataset, copies string
		level                 finding.Level
		say                   string
	}{
		{"household data without a copy", "household", "", finding.Act, "d, which the household lives with, has no copy."},
		{"the lab's without a copy", "lab", "", finding.Watch, "d has no copy."},
		{"data of unknown worth without a copy", "1TB", "", finding.Watch, "d has no copy."},
		{"household data on one device", "household", "copy of d to b: nightly", finding.Watch, "d: of its copies all are on one device."},
		{"the lab's on one device", "lab", "copy of d to b: nightly", finding.Note, "d: of its copies all are on one device."},
		{"household data in the house", "household", "copy of d to anvil: nightly", finding.Watch, "d: of its copies none is out of the house."},
		{"the lab's with one copy outside", "lab", "copy of d to Attic: nightly", finding.Note, "d: of its copies one is missing to three."},
	} {
		t.Run(c.says, func(t *testing.T) {
			l := labtest.From(t, strings.Replace(drives, "BAYS", "bay 1-4 drive: 4TB, hdd", 1)+
				"pool \"a\" on silo: mirror of bay 1-2\npool \"b\" on silo: mirror of bay 3-4\ndataset \"d\" on a: "+c.dataset+"\n"+c.copies+"\n")
			for _, f := range finding.OfStorage(l, "2026-11-28") {
				if strings.HasPrefix(f.Key, "no-copy ") {
					assert.Equal(t, c.level, f.Level)
					assert.Equal(t, c.say, f.Say)
					return
				}
			}
			t.Error("nothing is said")
		})
	}
}

// Toys may be lost, and what nobody needs is not asked for.
func TestToysAskForNothing(t *testing.T) {
	l := labtest.From(t, strings.Replace(drives, "BAYS", "bay 1-4 drive: 4TB, hdd", 1)+`
pool "scratch" on silo: stripe of bay 1-2
dataset "game" on scratch: 1TB, toy
copy of game to friday: weekly, last 2026-11-27
pool "system" on silo: single of bay 3, boot
`)
	for _, f := range finding.OfStorage(l, "2026-11-28") {
		assert.NotContains(t, []string{"uncopied-stripe", "no-copy", "never-restored", "boot-alone"}, strings.Split(f.Key, " ")[0], f.Say)
	}
}

// A pool counts as nearly full by what is on it, also by copies, and at least by what is
// known.
func TestHowFullAPoolIs(t *testing.T) {
	base := strings.Replace(drives, "BAYS", "bay 1-4 drive: 4TB, hdd", 1) +
		"pool \"a\" on silo: mirror of bay 1-2\npool \"b\" on silo: mirror of bay 3-4\n"
	full := func(more string) string {
		for _, f := range finding.OfStorage(labtest.From(t, base+more), "2026-11-28") {
			if strings.HasPrefix(f.Key, "nearly-full ") {
				return f.Say
			}
		}
		return ""
	}
	assert.Empty(t, full("pool \"a\": 3.2TB used\n"), "80 % is not past it")
	assert.Equal(t, "a is 85 % full: 3.4 TB of 4 TB.", full("dataset \"d\" on a: 3.4TB\n"))
	assert.Equal(t, "a is at least 85 % full: 3.4 TB of 4 TB.", full("dataset \"d\" on a: 3.4TB\ndataset \"e\" on a: lab\n"))
	assert.Equal(t, "b is 88 % full: 3.5 TB of 4 TB.", full("dataset \"d\" on a: 1.5TB\ndataset \"e\" on b: 2TB\ncopy of d to b\n"))
	assert.Empty(t, full("dataset \"d\" on a: 6 cameras 5Mbit\n"), "cameras fill what they are given")
}
