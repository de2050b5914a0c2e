package rundown_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

const storedOn = `place "House"
place "Sister's", outside the house
place "Study", in "House"
  nas "crock": 12 bays, 6x 10TB hdd, 2x 4TB ssd
  server "glaze": 8 bays, 4x 4TB hdd
  disk shelf "weasel": 4 bays, 4x 6TB
  nas "bare"
  external drive "shuttle": 5TB
spare drive "friday": 16TB
`

// How people say things of pools, datasets, shares and copies, and how that is written
// again.
func TestStorageAsItIsSpoken(t *testing.T) {
	const pool = "pool \"big\" on crock: raid-z2 of bay 1-6\n"
	const data = pool + "dataset \"shop\" on big\n"
	for _, c := range []struct{ said, written string }{
		{"pool \"big\" on crock: six 10TB as raid-z2", `pool "big" on crock: raid-z2 of bay 1-6`},
		{"pool big on crock: raidz2 of bays 1 to 6", `pool "big" on crock: raid-z2 of bay 1-6`},
		{"pool \"big\" on crock: raid 6 of bay 1,2,3 and 4", `pool "big" on crock: raid 6 of bay 1-4`},
		{"pool \"big\" on crock: two raid-z1 of three 10TB", `pool "big" on crock: raid-z1 of bay 1-3, raid-z1 of bay 4-6`},
		{"pool \"small\" on crock: the two 4TB mirrored", `pool "small" on crock: mirror of bay 7-8`},
		{"pool \"small\" on crock: the ssds striped", `pool "small" on crock: stripe of bay 7-8`},
		{"pool \"m\" on crock: a mixed set of bay 1-3 with one spare's worth of safety", `pool "m" on crock: mixed of bay 1-3, one redundancy`},
		{"pool \"m\" on crock: mixed of bay 1-4, two redundancy", `pool "m" on crock: mixed of bay 1-4, two redundancy`},
		{"pool on glaze: raid 5", `pool "glaze" on glaze: raid 5 of bay 1-4`},
		{"pool \"all\" on crock: raid 5", `pool "all" on crock: raid 5`},
		{"pool \"rows\" on crock: dedicated parity 2 of bay 1-5 (parity bay 1-2)",
			`pool "rows" on crock: dedicated parity of bay 1-5, parity bay 1-2`},
		{"pool \"w\" on glaze: raid-z1 of weasel bay 1-2 + 4, hot spare weasel bay 3",
			`pool "w" on glaze: raid-z1 of weasel bay 1-2 + 4, hot spare weasel bay 3`},
		{"pool \"b\" on bare: raid 5 of 4 or 5 of 8 or 10 TB", `pool "b" on bare: raid 5 of 4 or 5 unlisted of 8TB or 10TB`},
		{"pool \"b\" on bare: raid 5 of 4x 8T", `pool "b" on bare: raid 5 of 4 unlisted of 8TB`},
		{"pool \"b\" on crock: raid 5 of bay 1-2 + missing", `pool "b" on crock: raid 5 of bay 1-2 + missing`},
		{"pool \"b\" on crock: mirror of bay 7-8, boot, 120GB used 20 Nov 2026, grows 2GB a day",
			`pool "b" on crock: mirror of bay 7-8, for boot, 120GB used 2026-11-20, grows 60.88GB a month`},
		{"pool \"t\" on crock, glaze: replicated 2, of crock bay 1 + glaze bay 1",
			`pool "t" on crock, glaze: replicated 2 of bay 1 + glaze bay 1`},
		{pool + "dataset shop on crock: 1,5TiB, about 90 gigs a month", `dataset "shop" on big: 1.5TiB, grows 90GB a month`},
		{pool + "dataset \"cams\" on big: 30 days of the camera, 4 megabits all day", `dataset "cams" on big: 1 camera 4Mbit keeps 30 days`},
		{pool + "dataset \"cams\" on big: 6 cameras 5Mbit 12h", `dataset "cams" on big: 6 cameras 5Mbit 12h`},
		{data + "share \"s\" of \"shop\" by nfs to glaze, bare, read only", `share "s" of "shop": by nfs, to glaze, bare, read only`},
		{data + "share \"s\" of shop over smb to glaze and bare, by name", `share "s" of "shop": by smb, to glaze, bare, by name`},
		{data + "share \"s\" of \"shop\" by pigeon to glaze", `share "s" of "shop": to glaze, by pigeon`},
		{pool + "dataset \"x\" on big: grows fast", `dataset "x" on big: grows fast`},
		{data + "copy of the shop to shuttle: when I remember, say every two months, kept at \"Sister's\"",
			`copy of "shop" to shuttle: every 2 months, by hand, kept at "Sister's"`},
		{data + "copy of shop to my sister's: once a week, never restored", `copy of "shop" to "Sister's": weekly`},
		{data + "copy of shop to drive \"friday\": on Fridays, encrypted \"in the safe\", outside the house",
			`copy of "shop" to friday: weekly, encrypted "in the safe", outside the house`},
		{data + "backup of shop to glaze: each night what's new", `copy of "shop" to glaze: nightly, what's new`},
	} {
		t.Run(c.said, func(t *testing.T) {
			p := load(t, lab.New(), storedOn+c.said+"\n", rundown.Options{All: true})
			require.Empty(t, p.Mistakes)
			written := rundown.Print(p.Lab)
			assert.Contains(t, strings.ReplaceAll(written, ",\n        ", ", "), c.written+"\n")
			again := load(t, lab.New(), written, rundown.Options{All: true})
			require.Empty(t, again.Mistakes)
			assert.Equal(t, written, rundown.Print(again.Lab))
		})
	}
}

// Two devices may have pools of one name, and two pools datasets of one; then a line has
// to say which.
func TestNamesAreTheirOwnWithinWhatTheyAreOn(t *testing.T) {
	const two = storedOn + `pool "data" on crock: mirror of bay 7-8
pool "data" on glaze: raid 5 of bay 1-4
dataset "photos" on crock/data: 1TB
dataset "photos" on glaze/data: 2TB
`
	l := fresh(t, two+"copy of \"photos\" on crock/data to friday: weekly\n")
	assert.Contains(t, rundown.Print(l), `copy of "photos" on crock/data to friday: weekly`)
	for line, say := range map[string]string{
		`dataset "x" on data`:         `“data” may be pool "crock/data" or pool "glaze/data"; write which`,
		`pool "data": 1TB used`:       "there are 2 of the name “data”",
		`copy of photos to "House"`:   `“photos” may be "photos" on crock/data or "photos" on glaze/data; write which`,
		`pool "new": mirror of bay 1`: "say what “new” is on or of",
	} {
		p := load(t, l, line, rundown.Options{})
		require.NotEmpty(t, p.Mistakes, line)
		assert.Contains(t, p.Mistakes[0].Say, say)
	}
	p := load(t, l, `pool "data" on glaze: 3TB used 2026-11`, rundown.Options{})
	require.Empty(t, p.Mistakes)
	assert.Contains(t, rundown.Print(p.Lab), `pool "data" on glaze: raid 5 of bay 1-4, 3TB used 2026-11`)
}

// What is wrong about a pool, a dataset or a copy is said where it stands.
func TestMistakesAboutStorage(t *testing.T) {
	const base = storedOn + "pool \"big\" on crock: raid-z2 of bay 1-6\ndataset \"shop\" on big\n"
	for _, c := range []struct{ line, say string }{
		{`pool "x" on crock: raid 5 of`, "say of which drives, such as bay 1-4"},
		{`pool "x" on crock: raid 5 of some`, "“some” are not drives"},
		{`pool "x" on crock: raid 5 of 9x 10TB`, "“crock” has 0 such drives that are in no pool, and “9x 10TB” wants more"},
		{`pool "x" on crock: mirror of loose 1-2`, "“crock” has 0 drives in no bay, and no number 1"},
		{`pool "x" on crock: mirror of "monday" and bay 7`, "there is no drive called “monday”"},
		{`pool "x" on crock: mirror of bay 7 + 4 or 5 of 8TB`, "write all drives of a set by their bays"},
		{`pool "x" on crock: 3 parsecs used`, "is not a capacity"},
		{`dataset "x" on big: -3TB`, "cannot be negative"},
		{`dataset "x"`, `say what “x” is on or of, such as dataset "x" on vault`},
		{`dataset "x" on drive "monday"`, "there is no drive called “monday”"},
		{`dataset "x" on place "Barn"`, "there is no place called “Barn”"},
		{`copy of shop`, `say where it goes, such as copy of "choir scores" to silo/hold`},
		{`copy to friday`, ""},
		{`copy of shop to friday: kept at "Barn"`, "there is no place called “Barn”"},
		{`copy of shop to friday: via tunnel "x"`, "there is no tunnel called “x”"},
	} {
		t.Run(c.line, func(t *testing.T) {
			p := load(t, lab.New(), base+c.line+"\n", rundown.Options{All: true})
			require.NotEmpty(t, p.Mistakes)
			assert.Contains(t, p.Mistakes[0].Say, c.say)
			assert.Equal(t, strings.Count(base, "\n")+1, p.Mistakes[0].Line)
		})
	}
}

// FuzzDrives: whatever is said of a pool's drives is either refused with a sentence, or
// is written so that it reads back to the same pool.
func FuzzDrives(f *testing.F) {
	for _, said := range []string{"raid-z1 of bay 1-3 + 5-6", "six 10TB as raid-z2", "mixed of all ssds, one redundancy",
		"4 or 5 of 8 or 10TB mirrored",
		"dedicated parity 2 of bay 1-5 (parity bay 1-2)", "two mirror of two 10TB; stripe of both", "of weasel bay 1-4",
		"replicated 3, writes with 2, of loose ssd",
		"raid 10 of bay 1,2,3 and 4, hot spare \"friday\"", "mirror of 2 missing", "raid 5 of 3 unlisted of 8TB"} {
		f.Add(said)
	}
	f.Fuzz(func(t *testing.T, said string) {
		if strings.ContainsAny(said, "\n\r#") {
			return
		}
		p := load(t, lab.New(), storedOn+"pool \"p\" on crock: "+said+"\n", rundown.Options{All: true})
		for _, m := range p.Mistakes {
			require.NotEmpty(t, m.Say)
		}
		if len(p.Mistakes) > 0 {
			return
		}
		written := rundown.Print(p.Lab)
		again := load(t, lab.New(), written, rundown.Options{All: true})
		require.Empty(t, again.Mistakes, written)
		require.Equal(t, written, rundown.Print(again.Lab))
	})
}

// How often, how much in a month, how much on which day, and what cameras write, in the
// ways that people say it.
func TestFiguresOfStorageAsTheyAreSpoken(t *testing.T) {
	const base = storedOn + "pool \"big\" on crock: raid-z2 of bay 1-6\ndataset \"shop\" on big\n"
	after := func(line, begins string) func(said, want string) {
		return func(said, want string) {
			t.Helper()
			p := load(t, lab.New(), base+line+said+"\n", rundown.Options{All: true})
			require.Empty(t, p.Mistakes, said)
			written := strings.ReplaceAll(rundown.Print(p.Lab), ",\n        ", ", ")
			assert.Contains(t, written, begins+want+"\n", said)
		}
	}
	copies := after("copy of shop to friday: ", `copy of "shop" to friday: `)
	for said, want := range map[string]string{
		"nightly":              "nightly",
		"every night":          "nightly",
		"each night":           "nightly",
		"at night":             "nightly",
		"daily":                "nightly",
		"every day":            "nightly",
		"once a day":           "nightly",
		"twice a day":          "every 12h",
		"hourly":               "hourly",
		"every hour":           "hourly",
		"every 6 hours":        "every 6h",
		"every 6h":             "every 6h",
		"every 3 days":         "every 3 days",
		"every other day":      "every 2 days",
		"weekly":               "weekly",
		"once a week":          "weekly",
		"on Sundays":           "weekly",
		"every Friday":         "weekly",
		"Fridays":              "weekly",
		"every two weeks":      "every 2 weeks",
		"monthly":              "monthly",
		"every month":          "monthly",
		"every 2 months":       "every 2 months",
		"quarterly":            "every 3 months",
		"yearly":               "yearly",
		"once a year":          "yearly",
		"at once":              "at once",
		"continuously":         "at once",
		"say every two months": "every 2 months",
		"30 kept":              "30 kept",
		"keeps 7":              "7 kept",
		"last 2026-11":         "last 2026-11",
		"last run 26.11.2026":  "last 2026-11-26",
		"last ran 26 Nov 2026": "last 2026-11-26",
		"restored 2026":        "restored 2026",
		"by hand":              "by hand",
		"manually":             "by hand",
		"encrypted":            "encrypted",
		"unencrypted":          "not encrypted",
		"offsite":              "outside the house",
		"off site":             "outside the house",
		"lies at \"Sister's\"": `kept at "Sister's"`,
		"goes home with me":    "goes home with me",
	} {
		copies(said, want)
	}
	data := after("dataset \"shop\" on big: ", `dataset "shop" on big: `)
	for said, want := range map[string]string{
		"6TB":                            "6TB",
		"6 TB":                           "6TB",
		"6T":                             "6TB",
		"6TiB":                           "6TiB",
		"500 GB":                         "500GB",
		"500 gigs":                       "500GB",
		"1,5TB":                          "1.5TB",
		"6TB 2026-11-20":                 "6TB 2026-11-20",
		"grows 50GB a month":             "grows 50GB a month",
		"grows by 50GB per month":        "grows 50GB a month",
		"50GB a month":                   "grows 50GB a month",
		"about 90 gigs a month":          "grows 90GB a month",
		"grows 12TB a year":              "grows 1TB a month",
		"grows not":                      "grows not",
		"household":                      "household",
		"for the lab":                    "lab",
		"just a toy":                     "toy",
		"6 cameras 5Mbit 24h":            "6 cameras 5Mbit 24h",
		"6 cameras at 5 Mbit/s each":     "6 cameras 5Mbit",
		"one camera, 4 megabits all day": "1 camera 4Mbit",
		"two cameras 2,5Mbit":            "2 cameras 2.5Mbit",
		"30 days of the camera":          "1 camera keeps 30 days",
		"2 cameras, keeps 14 days":       "2 cameras keeps 14 days",
	} {
		data(said, want)
	}
	pools := after("pool \"small\" on crock: mirror of bay 7-8, ", `pool "small" on crock: mirror of bay 7-8, `)
	for said, want := range map[string]string{
		"2TB used":                   "2TB used",
		"used 2TB":                   "2TB used",
		"2TB in use":                 "2TB used",
		"2TB used on 2026-11-20":     "2TB used 2026-11-20",
		"2,5TB used 20.11.2026":      "2.5TB used 2026-11-20",
		"keeps back 100GB":           "keeps back 100GB",
		"reserves 5GB":               "keeps back 5GB",
		"boots from it":              "for boot",
		"boot":                       "for boot",
		"filesystem btr":             `file system "btr"`,
		"for \"the library\"":        `for "the library"`,
		"hums at night, not mounted": "hums at night, not mounted",
	} {
		pools(said, want)
	}
}
