package finding

import (
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/storage"
	"levelstaff/core/text"
)

// storageChecks are those about pools and the drives they are made of.
var storageChecks = []check{
	{"drive-gone", "a pool short of a drive", drivesGone},
	{"drive-twice", "a drive in two pools", drivesTwice},
	{"one-batch", "drives of one batch in one set", oneBatch},
	{"shingled", "shingled drives in a set", shingled},
	{"unlike-drives", "unlike drives in a set", unlikeDrives},
	{"small-parity", "a parity drive smaller than data", smallParity},
	{"small-spare", "a spare that is too small", smallSpares},
	{"not-behind", "drives of a device that is not behind the host", notBehind},
	{"controller-mode", "a controller in the wrong mode", controllerModes},
	{"promised", "more room promised than there is", promised},
	{"nearly-full", "a pool past 80 %", pastNearly},
	{"boot-alone", "a boot drive alone", bootAlone},
}

// copyChecks are those about copies.
var copyChecks = []dated{
	{"uncopied-stripe", "a stripe that nothing copies", uncopiedStripes},
	{"no-copy", "data short of copies", shortOfCopies},
	{"same-device", "a copy on the same device", onSameDevice},
	{"copy-too-large", "a copy that does not fit", copiesTooLarge},
	{"copy-late", "a copy that ran too long ago", lateCopies},
	{"never-restored", "a restore never tried", neverRestored},
}

// OfStorage runs the checks about storage alone.
func OfStorage(l *lab.Lab, today lab.Day) []Finding {
	return run(l, slices.Concat(storageChecks, on(today, copyChecks)), today)
}

// poolAt is a pool for what is found of it.
func poolAt(p *storage.Pool) lab.Record { return p.Pool }

// driveAt is where a drive of a pool is, in words.
func driveAt(l *lab.Lab, d storage.Drive) string {
	of, _ := lab.Find[lab.Device](l, d.Host)
	switch {
	case d.Bay > 0:
		return fmt.Sprintf("bay %d of %s", d.Bay, of.Title())
	case d.Part != nil && d.Part.Name != "":
		return "the drive " + d.Part.Name
	}
	return "a drive in " + of.Title()
}

func drivesGone(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		for i := range p.Sets {
			set := &p.Sets[i]
			var missing []string
			for _, d := range set.Drives {
				switch {
				case !d.Gone():
				case d.Missing():
					missing = append(missing, "one drive is missing")
				case d.Part == nil:
					missing = append(missing, driveAt(l, d)+" is empty")
				default:
					missing = append(missing, fmt.Sprintf("the drive in %s is %s", driveAt(l, d), d.Part.State))
				}
			}
			if len(missing) == 0 {
				continue
			}
			var then string
			switch left := set.MayFail.Worst - set.Gone; {
			case left < 0:
				then = "that is more than it can do without"
			case left == 0:
				then = "no further one may fail"
			case left == 1:
				then = "one more may fail"
			default:
				then = fmt.Sprintf("%d more may fail", left)
			}
			tell(Act, fmt.Sprintf("%s, %s: %s; %s.", p.Name, set.Words(), lab.Listed(missing, 4), then), poolAt(p))
		}
	}
}

func drivesTwice(l *lab.Lab, tell found) {
	s := storage.Of(l)
	told := map[string]bool{}
	for _, p := range s.Pools() {
		for _, d := range p.Drives() {
			if d.Part == nil || len(s.PoolsWith(d.Part.ID)) < 2 || told[string(d.Part.ID)] {
				continue
			}
			told[string(d.Part.ID)] = true
			var names []string
			for _, o := range s.PoolsWith(d.Part.ID) {
				names = append(names, o.Name)
			}
			tell(Act, fmt.Sprintf("%s is in the pools %s; it can be in one.", text.Capital(driveAt(l, d)), lab.Listed(names, 4)), poolAt(p), *d.Part)
		}
	}
}

// oneBatch looks for sets most of whose drives are of one model and were bought in one
// month: such drives tend to fail together.
func oneBatch(l *lab.Lab, tell found) {
	const toTell = 2
	for _, p := range storage.Of(l).Pools() {
		for _, set := range p.Sets {
			if set.MayFail.Worst == 0 {
				continue
			}
			batch := map[string]int{}
			for _, d := range set.Drives {
				const month = len("2006-01")
				if d.Part != nil && d.Part.Model != "" && len(d.Part.BoughtOn) >= month {
					batch[d.Part.Model+" bought "+string(d.Part.BoughtOn[:month])]++
				}
			}
			for what, n := range batch {
				if n >= toTell && 2*n > len(set.Drives) && n > set.MayFail.Worst {
					model, month, _ := strings.Cut(what, " bought ")
					tell(Watch, fmt.Sprintf("%s: %d of %d drives in a set are of one batch, %s, bought %s.", p.Name, n, len(set.Drives), model, month),
						poolAt(p))
				}
			}
		}
	}
}

func shingled(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		n, level := 0, Note
		for _, set := range p.Sets {
			for _, d := range set.Drives {
				if d.Part != nil && d.Part.Recording == "smr" {
					n++
					if set.Layout != lab.Mirror && set.Layout != lab.Single && set.Layout != lab.Stripe && set.Layout != lab.RAID10 {
						level = Watch
					}
				}
			}
		}
		switch {
		case n == 0:
		case level == Watch:
			tell(Watch, fmt.Sprintf("%s: %s shingled, in a set with parity: a rebuild may take days and fail.", p.Name, are(n, "drive")), poolAt(p))
		default:
			tell(Note, fmt.Sprintf("%s: %s shingled; writing much at once is slow.", p.Name, are(n, "drive")), poolAt(p))
		}
	}
}

// are counts things: one drive is, 3 drives are.
func are(n int, what string) string {
	if n == 1 {
		return "one " + what + " is"
	}
	return fmt.Sprintf("%d %ss are", n, what)
}

// unlikeDrives looks for sets that the sizes of their drives waste room of, or whose
// slowest drive holds the others up.
func unlikeDrives(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		for i := range p.Sets {
			set := &p.Sets[i]
			if set.Spans.Exact() && set.Spans.Least.Unused > 0 {
				tell(Note, fmt.Sprintf("%s, %s: %s of it cannot be used, since the drives are not alike.", p.Name, set.Words(),
					storage.Size(set.Spans.Least.Unused)), poolAt(p))
			}
			var sorts []string
			for _, d := range set.Drives {
				if sort := sortOf(d.Part); sort != "" && !slices.Contains(sorts, sort) {
					sorts = append(sorts, sort)
				}
			}
			if len(sorts) > 1 {
				tell(Note, fmt.Sprintf("%s: drives of unlike speed are in one set, %s; the slowest sets the pace.", p.Name, lab.Listed(sorts, 4)),
					poolAt(p))
			}
		}
	}
}

// sortOf is what tells how fast a drive is: its medium, and how it is attached.
func sortOf(p *lab.Part) string {
	if p == nil || p.Medium == "" {
		return ""
	}
	return strings.TrimSpace(p.Interface + " " + string(p.Medium))
}

func smallParity(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		for _, set := range p.Sets {
			var parity, data int64
			for _, d := range set.Drives {
				switch {
				case d.Part == nil || d.Part.SizeBytes == nil:
				case slices.Contains(set.Parity, d.PoolDrive):
					if parity == 0 || *d.Part.SizeBytes < parity {
						parity = *d.Part.SizeBytes
					}
				default:
					data = max(data, *d.Part.SizeBytes)
				}
			}
			if parity > 0 && data > parity {
				tell(Act, fmt.Sprintf("%s: a parity drive has %s and a data drive %s; parity has to be on the largest.", p.Name, storage.Size(parity),
					storage.Size(data)), poolAt(p))
			}
		}
	}
}

func smallSpares(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		largest := int64(0)
		for _, set := range p.Sets {
			for _, d := range set.Drives {
				if d.Part != nil && d.Part.SizeBytes != nil {
					largest = max(largest, *d.Part.SizeBytes)
				}
			}
		}
		for _, d := range p.Spares {
			if d.Part != nil && d.Part.SizeBytes != nil && *d.Part.SizeBytes < largest {
				tell(Watch, fmt.Sprintf("%s: its hot spare in %s has %s, and it has a drive of %s.", p.Name, driveAt(l, d),
					storage.Size(*d.Part.SizeBytes), storage.Size(largest)), poolAt(p))
			}
		}
	}
}

func notBehind(l *lab.Lab, tell found) {
	s := storage.Of(l)
	for _, p := range s.Pools() {
		told := map[string]bool{}
		for _, d := range p.Drives() {
			of, ok := lab.Find[lab.Device](l, d.Host)
			if !ok || slices.Contains(p.Hosts(), d.Host) || told[string(d.Host)] {
				continue
			}
			told[string(d.Host)] = true
			host, _ := lab.Find[lab.Device](l, p.Device)
			switch {
			case s.Behind(p.Device, d.Host):
			case of.Kind == lab.DiskShelf:
				tell(Note, fmt.Sprintf("%s on %s has drives in %s, and no cable for drives leads there.", p.Name, host.Title(), of.Title()),
					poolAt(p), of)
			default:
				tell(Act, fmt.Sprintf("%s on %s has drives in %s, which is not a disk shelf behind it.", p.Name, host.Title(), of.Title()), poolAt(p),
					of)
			}
		}
	}
}

// controllerModes looks for controllers that keep the drives to themselves beneath a
// layout that wants to see them.
func controllerModes(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		sees := slices.ContainsFunc(p.Sets, func(s storage.Set) bool {
			return slices.Contains([]lab.Layout{lab.RAIDZ1, lab.RAIDZ2, lab.RAIDZ3, lab.Mixed, lab.DedicatedParity, lab.Replicated}, s.Layout)
		})
		if !sees {
			continue
		}
		for _, id := range p.Hosts() {
			for _, card := range l.PartsOf(id) {
				if card.Kind == lab.Card && card.CardKind == "storage" && strings.Contains(lab.FoldName(card.Mode), "raid") {
					host, _ := lab.Find[lab.Device](l, id)
					tell(Watch, fmt.Sprintf("%s: the storage card of %s is in the mode “%s”; a pool of this layout wants its drives passed through.",
						p.Name,
						host.Title(), card.Mode), poolAt(p), card)
				}
			}
		}
	}
}

func promised(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		room, known := p.Fillable()
		if all, ok := p.Promised(); known && ok && all > room {
			tell(Act, fmt.Sprintf("%s: its datasets come to %s, and it has room for %s.", p.Name, storage.Size(all), storage.Size(room)), poolAt(p))
		}
	}
}

func pastNearly(l *lab.Lab, tell found) {
	for _, p := range storage.Of(l).Pools() {
		room, known := p.Fillable()
		used, sure, ok := p.Used()
		if !known || !ok || float64(used) <= storage.Nearly*float64(room) {
			continue
		}
		least := ""
		if !sure {
			least = "at least "
		}
		tell(Watch, fmt.Sprintf("%s is %s%.0f %% full: %s of %s.", p.Name, least, 100*float64(used)/float64(room), storage.Size(used),
			storage.Size(room)), poolAt(p))
	}
}

// bootAlone looks for devices that boot from one drive and hold what the household lives
// with, or what nobody said is less.
func bootAlone(l *lab.Lab, tell found) {
	s := storage.Of(l)
	matters := map[lab.ID]string{}
	for _, d := range s.Data() {
		if on := d.Original.Device(); d.Worth.Rank() <= lab.Household.Rank() && matters[on] == "" {
			matters[on] = d.Name
		}
	}
	for _, p := range s.Pools() {
		for _, id := range p.Hosts() {
			alone := p.Boot && len(p.Boots) == 0 && p.MayFail.Best == 0 && len(p.Sets) > 0 || len(p.Boots) == 1
			if host, _ := lab.Find[lab.Device](l, id); alone && matters[id] != "" {
				tell(Note, fmt.Sprintf("%s boots from one drive alone, and %s is on it.", host.Title(), matters[id]), host, poolAt(p))
			}
		}
	}
}

func uncopiedStripes(l *lab.Lab, _ lab.Day, tell found) {
	for _, p := range storage.Of(l).Pools() {
		bare := slices.ContainsFunc(p.Sets, func(s storage.Set) bool { return s.MayFail.Best == 0 && s.Some == nil && len(s.Drives) > 0 })
		toys := len(p.Datasets) > 0
		for _, d := range p.Datasets {
			toys = toys && d.Worth == lab.Toy
		}
		if bare && !toys && !p.Copied() && !p.Boot {
			tell(Act, fmt.Sprintf("%s is a %s: no drive may fail, and not all on it has a copy.", p.Name, p.Words()), poolAt(p))
		}
	}
}

// shortOfCopies is what keeps data from three copies on two devices, one out of the
// house: the more it matters the more that asks for.
func shortOfCopies(l *lab.Lab, _ lab.Day, tell found) {
	for _, d := range storage.Of(l).Data() {
		missing := d.Missing()
		copies, _, _ := d.Count()
		switch {
		case d.Worth == lab.Toy || missing == "":
		case copies < 2 && d.Worth == lab.Household:
			tell(Act, fmt.Sprintf("%s, which the household lives with, has no copy.", d.Name), d.Dataset)
		case copies < 2:
			tell(Watch, fmt.Sprintf("%s has no copy.", d.Name), d.Dataset)
		case d.Worth == lab.Household:
			tell(Watch, fmt.Sprintf("%s: of its copies %s.", d.Name, shortWords(missing)), d.Dataset)
		default:
			tell(Note, fmt.Sprintf("%s: of its copies %s.", d.Name, shortWords(missing)), d.Dataset)
		}
	}
}

func shortWords(missing string) string {
	return map[string]string{"all on one device": "all are on one device", "none out of the house": "none is out of the house",
		"one short of three": "one is missing to three"}[missing]
}

func onSameDevice(l *lab.Lab, _ lab.Day, tell found) {
	for _, d := range storage.Of(l).Data() {
		for _, c := range d.Copies {
			on := l.HolderWords(&c.Holder)
			switch c.Where {
			case storage.SamePool:
				tell(Watch, fmt.Sprintf("The copy of %s to %s is in the pool that it lives in, which is no copy.", d.Name, on), *c.Copy, d.Dataset)
			case storage.SameDevice:
				tell(Watch, fmt.Sprintf("The copy of %s to %s is on the device that it lives on: what takes that takes both.", d.Name, on), *c.Copy,
					d.Dataset)
			}
		}
	}
}

func copiesTooLarge(l *lab.Lab, _ lab.Day, tell found) {
	for _, d := range storage.Of(l).Data() {
		for _, c := range d.Copies {
			if c.Part {
				tell(Watch, fmt.Sprintf("The copy of %s to %s does not fit there, %s beside what else goes there: it counts as none.", d.Name,
					l.HolderWords(&c.Holder), storage.Size(*d.Bytes)), *c.Copy, d.Dataset)
			}
		}
	}
}

func lateCopies(l *lab.Lab, today lab.Day, tell found) {
	for _, d := range storage.Of(l).Data() {
		for _, c := range d.Copies {
			if d.Late(c, today) {
				tell(Watch, fmt.Sprintf("The copy of %s to %s last ran on %s.", d.Name, l.HolderWords(&c.Holder), c.Copy.Last), *c.Copy, d.Dataset)
			}
		}
	}
}

func neverRestored(l *lab.Lab, _ lab.Day, tell found) {
	for _, d := range storage.Of(l).Data() {
		if d.Worth == lab.Toy || len(d.Copies) == 0 || d.Restored() != "" {
			continue
		}
		level := Note
		if d.Worth == lab.Household {
			level = Watch
		}
		tell(level, fmt.Sprintf("Nobody ever got %s back from a copy.", d.Name), d.Dataset)
	}
}
