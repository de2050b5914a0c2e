// Package finding runs every check there is over a lab and sorts what they
// say. What is found is unwise or unknown, never impossible: that is refused
// before it gets into a lab.
package finding

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Level is how much a finding asks for.
type Level string

// Act: wrong now. Watch: may go wrong. Note: good to know.
const (
	Act   Level = "act"
	Watch Level = "watch"
	Note  Level = "note"
)

var levels = []Level{Act, Watch, Note}

// Enum lists the levels for the published schema.
func (Level) Enum() []any { return []any{Act, Watch, Note} }

// Finding is one thing that the checks noticed.
type Finding struct {
	Key     string          `json:"key" required:"true" description:"The same for the same finding tomorrow: its check and what it is about"`
	Check   string          `json:"check" required:"true" description:"The check that noticed it, in words"`
	Level   Level           `json:"level" required:"true"`
	Say     string          `json:"say" required:"true" description:"What is the matter, with the figures it comes from"`
	Records []rundown.About `json:"records" required:"true" nullable:"false" description:"What it is about, the first thing first"`
	// Accepted is why it was accepted.
	Accepted *lab.Acceptance `json:"accepted,omitempty"`
	// Again: it was accepted, and the day to look at it again has come.
	Again bool `json:"again,omitempty"`
	// Network: it is about how the network carries frames.
	Network bool `json:"network,omitempty" description:"It is about the network: frames, addresses, who reaches whom"`
	Power   bool `json:"power,omitempty" description:"It is about power: what feeds what, and how much"`
	Storage bool `json:"storage,omitempty" description:"It is about storage: pools, datasets, copies"`
	Service bool `json:"service,omitempty" description:"It is about what runs where: hosts, guests, services"`
	// Fix is what would put it right, where the program can do that.
	Fix *Fix `json:"fix,omitempty"`
}

// Fix is what would put a finding right.
type Fix struct {
	Say     string       `json:"say" required:"true" description:"What it does, as one asks for it"`
	Changes []lab.Change `json:"-"`
}

// fixedBy gives a finding its fix, where there is something to do.
func (f *Finding) fixedBy(say string, changes []lab.Change) {
	if len(changes) > 0 {
		f.Fix = &Fix{say, changes}
	}
}

// Named finds a finding by its key; ok is false where nothing of the kind is
// noticed any more.
func Named(list []Finding, key string) (f Finding, ok bool) {
	i := slices.IndexFunc(list, func(f Finding) bool { return f.Key == key })
	if i < 0 {
		return Finding{}, false
	}
	return list[i], true
}

// Open reports whether the finding is neither fixed nor accepted.
func (f Finding) Open() bool { return f.Accepted == nil || f.Again }

// check is one check: what it is called and what it notices.
type check struct {
	name string // for keys; it stays the same
	say  string
	run  func(l *lab.Lab, tell found)
}

// dated is a check for which it matters what day it is.
type dated struct {
	name string
	say  string
	run  func(l *lab.Lab, today lab.Day, tell found)
}

// on are such checks on a day.
func on(today lab.Day, list []dated) []check {
	var checks []check
	for _, c := range list {
		checks = append(checks, check{c.name, c.say, func(l *lab.Lab, tell found) { c.run(l, today, tell) }})
	}
	return checks
}

// checks are all there are but for those that are dated. A new one is a line here.
var checks = slices.Concat([]check{
	{"overweight", "too much weight", overweight},
	{"meets-in-depth", "front and rear collide", meetsInDepth},
	{"on-nothing", "nothing under a device", onNothing},
	{"heavy-above-light", "heavy above light", heavyAboveLight},
	{"state-and-place", "state does not match place", stateAndPlace},
	{"not-placed", "not placed yet", notPlaced},
	{"does-not-fit", "does not fit", doesNotFit},
	{"too-heavy-for-it", "too heavy for what it is on", shelves},
	{"part", "a part that does not fit", parts},
	{"battery", "a battery of unknown age", batteries},
	{"faulty-part", "a faulty part in use", faultyParts},
	{"idle", "idle, and taking room", idle},
}, cablingChecks, networkChecks, addressChecks, reachChecks, powerChecks, storageChecks, serviceChecks, needChecks, wayChecks)

// All runs every check, those that ask for most first. today tells which
// accepted findings are due to be looked at again.
func All(l *lab.Lab, today lab.Day) []Finding {
	return run(l, slices.Concat(checks, on(today, batteryChecks), on(today, copyChecks), on(today, supportChecks),
		on(today, certificateChecks)), today)
}

func run(l *lab.Lab, checks []check, today lab.Day) []Finding {
	list := []Finding{}
	for _, c := range checks {
		var all []*noticed
		c.run(l, func(level Level, say string, about ...lab.Record) *Finding {
			f := Finding{Key: c.name, Check: c.say, Level: level, Say: say, Network: ofNetwork[c.name], Power: ofPower[c.name],
				Storage: ofStorage[c.name], Service: ofService[c.name]}
			for _, r := range about {
				key := r.Key()
				f.Key += " " + string(key.ID)
				f.Records = append(f.Records, rundown.AboutOf(l, r))
			}
			all = append(all, &noticed{f, titleOf(l, about)})
			return &all[len(all)-1].Finding
		})
		found := make([]noticed, len(all))
		for i, f := range all {
			found[i] = *f
		}
		for _, f := range byCause(l, c.name, found) {
			if a, ok := l.Accepted(f.Key); ok {
				f.Accepted = &a
				f.Again = a.AgainOn != "" && a.AgainOn <= today
			}
			list = append(list, f)
		}
	}
	slices.SortStableFunc(list, func(a, b Finding) int {
		return cmp.Compare(slices.Index(levels, a.Level), slices.Index(levels, b.Level))
	})
	return list
}

// noticed is a finding with what it calls the first thing it is about.
type noticed struct {
	Finding
	title string
}

func titleOf(l *lab.Lab, about []lab.Record) string {
	switch {
	case len(about) == 0:
		return ""
	case about[0].Key().Kind == lab.KindCable:
		return l.CableWords(about[0].(lab.Cable))
	}
	return about[0].Title()
}

// alike is from how many findings on that say the same of different things they
// are one, with a list of those.
const alike = 4

// byCause makes one of findings that say the same but for what they are about,
// in the place of the first; those that are wrong now stay by themselves, and so
// do accepted ones.
func byCause(l *lab.Lab, check string, found []noticed) []Finding {
	cause := func(f noticed) string {
		if _, accepted := l.Accepted(f.Key); accepted || f.Level == Act || f.title == "" || !strings.Contains(f.Say, f.title) {
			return ""
		}
		return string(f.Level) + strings.Replace(f.Say, f.title, "…", 1)
	}
	var list []Finding
	if len(found) < alike {
		for _, f := range found {
			list = append(list, f.Finding)
		}
		return list
	}
	several, causes := map[string][]noticed{}, make([]string, len(found))
	for i, f := range found {
		causes[i] = cause(f)
		several[causes[i]] = append(several[causes[i]], f)
	}
	told := map[string]bool{}
	for i, f := range found {
		why := causes[i]
		all := several[why]
		if why == "" || len(all) < alike {
			list = append(list, f.Finding)
			continue
		}
		if told[why] {
			continue
		}
		told[why] = true
		one := f.Finding
		hash := fnv.New32a()
		_, _ = hash.Write([]byte(why))
		one.Key = fmt.Sprintf("%s alike %08x", check, hash.Sum32())
		one.Say = strings.Replace(f.Say, f.title, fmt.Sprintf("%s (and %d more)", f.title, len(all)-1), 1)
		one.Records, one.Fix = nil, nil
		for _, o := range all {
			one.Records = append(one.Records, o.Records...)
		}
		list = append(list, one)
	}
	return list
}
