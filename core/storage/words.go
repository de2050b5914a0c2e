package storage

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// Size is an amount of data as one reads it, in powers of ten: 17.3 TB.
func Size(bytes int64) string {
	return inUnits(float64(bytes), 1000, []string{"B", "kB", "MB", "GB", "TB", "PB"})
}

// Both is an amount as makers sell it and as systems show it: 24 TB = 21.8 TiB.
func Both(bytes int64) string {
	return Size(bytes) + " = " + inUnits(float64(bytes), 1024, []string{"B", "KiB", "MiB", "GiB", "TiB", "PiB"})
}

func inUnits(v, step float64, units []string) string {
	i := 0
	for i < len(units)-1 && math.Abs(v) >= step*0.9995 {
		v, i = v/step, i+1
	}
	if v >= 100 {
		return fmt.Sprintf("%.0f %s", v, units[i])
	}
	digits := 1
	if v < 10 {
		digits = 2
	}
	return strings.TrimSuffix(strings.TrimRight(strconv.FormatFloat(v, 'f', digits, 64), "0"), ".") + " " + units[i]
}

// layoutNames are layouts as one writes them in a sentence.
var layoutNames = map[lab.Layout]string{lab.Single: "single drive", lab.RAID5: "RAID 5", lab.RAID6: "RAID 6", lab.RAID10: "RAID 10",
	lab.RAIDZ1: "RAID-Z1", lab.RAIDZ2: "RAID-Z2", lab.RAIDZ3: "RAID-Z3", lab.Mixed: "mixed sizes"}

// Words is a set as one speaks of it: RAID-Z1 of 5 x 8 TB.
func (s *Set) Words() string {
	name := layoutNames[s.Layout]
	if name == "" {
		name = string(s.Layout)
	}
	switch s.Layout {
	case lab.Mixed, lab.DedicatedParity:
		if s.Redundant() > 1 {
			name += ", two of redundancy,"
		}
	case lab.Replicated:
		name = fmt.Sprintf("%d copies", s.Replicas())
	}
	if s.Layout == lab.Single && len(s.Drives) == 1 {
		return name + " of " + sizesOf(s.Drives)
	}
	if some := s.Some; some != nil {
		many := strconv.Itoa(some.Least)
		if some.Most > some.Least {
			many += " or " + strconv.Itoa(some.Most)
		}
		if some.LeastBytes == nil {
			return name + " of " + many + " drives"
		}
		size := Size(*some.LeastBytes)
		if some.MostBytes != nil && *some.MostBytes != *some.LeastBytes {
			size += " or " + Size(*some.MostBytes)
		}
		return name + " of " + many + " x " + size
	}
	return name + " of " + sizesOf(s.Drives)
}

// Sizes are the drives of the set by how many of each size there are.
func (s *Set) Sizes() string { return sizesOf(s.Drives) }

// sizesOf are drives by how many of each size there are, larger ones last: 3 x 8 TB and
// 12 TB.
func sizesOf(drives []Drive) string {
	count := map[int64]int{}
	for _, d := range drives {
		switch {
		case d.Part == nil:
			count[-1]++
		case d.Part.SizeBytes == nil:
			count[0]++
		default:
			count[*d.Part.SizeBytes]++
		}
	}
	var sizes []int64
	for size := range count {
		sizes = append(sizes, size)
	}
	slices.Sort(sizes)
	var said []string
	for _, size := range sizes {
		words := map[int64]string{-1: "missing", 0: "unknown size"}[size]
		if words == "" {
			words = Size(size)
		}
		if n := count[size]; n > 1 || len(sizes) == 1 && len(drives) > 1 || size < 0 {
			words = fmt.Sprintf("%d x %s", n, words)
		}
		said = append(said, words)
	}
	return lab.Listed(said, 4)
}

// Words is how a pool is made: RAID-Z1 of 5 x 8 TB, 1 hot spare. Sets that are alike are
// counted.
func (p *Pool) Words() string {
	if len(p.Sets) == 0 {
		return "drives unknown"
	}
	var said []string
	for i := 0; i < len(p.Sets); {
		n, words := 1, p.Sets[i].Words()
		for i+n < len(p.Sets) && p.Sets[i+n].Words() == words {
			n++
		}
		if n > 1 {
			words = fmt.Sprintf("%d sets of %s", n, words)
		}
		said = append(said, words)
		i += n
	}
	words := strings.Join(said, " and ")
	if n := len(p.Spares); n > 0 {
		words += fmt.Sprintf(", %d hot spare", n)
		if n > 1 {
			words += "s"
		}
	}
	return words
}

// MayFailWords is what may fail before data goes: any one drive; two if they are in
// different sets.
func (p *Pool) MayFailWords() string {
	worst, best := p.MayFail.Worst, p.MayFail.Best
	switch {
	case len(p.Sets) == 0:
		return "unknown what may fail"
	case p.Lost:
		return "more drives are gone than it can do without"
	}
	if writes, data, ok := p.HostsMayGo(); ok {
		return fmt.Sprintf("%s before it stops writing, %s before data goes", devices(writes), devices(data))
	}
	if best == 0 {
		return "no drive may fail"
	}
	words := "no drive may fail for certain"
	switch {
	case worst == 1:
		words = "any one drive may fail"
	case worst > 1:
		words = "any " + number(worst) + " drives may fail"
	}
	if best > worst {
		where := "different sets"
		if slices.ContainsFunc(p.Sets, func(s Set) bool { return s.Layout == lab.RAID10 }) {
			where = "different pairs"
		}
		words += "; " + number(best) + " if they are in " + where
	}
	return words
}

func devices(n int) string {
	if n == 1 {
		return "one device may go"
	}
	return number(n) + " may go"
}

// number is a small number in words.
func number(n int) string {
	words := []string{"none", "one", "two", "three", "four", "five", "six"}
	if n < len(words) {
		return words[n]
	}
	return strconv.Itoa(n)
}

// Ago is an age as one reads it: 9 h, 31 days.
func Ago(hours float64) string {
	switch {
	case hours == 0:
		return "nothing"
	case hours < 48:
		return fmt.Sprintf("%.0f h", hours)
	}
	return fmt.Sprintf("%.0f days", hours/24)
}

// Words is a loss as one reads it: all of it, up to 7 days.
func (l Loss) Words() string {
	switch {
	case l.All:
		return "all of it"
	case l.Now != nil && l.AtMostH != nil && *l.AtMostH > *l.Now:
		return Ago(*l.Now) + ", at most " + Ago(*l.AtMostH)
	case l.Now != nil:
		return Ago(*l.Now)
	case l.AtMostH != nil:
		return "at most " + Ago(*l.AtMostH)
	}
	return "unknown how much"
}

// Missing is what keeps a dataset from 3-2-1, "" where nothing does.
func (d *Data) Missing() string {
	copies, devices, outside := d.Count()
	switch {
	case copies < 2:
		return "no copy"
	case devices < 2:
		return "all on one device"
	case outside == 0:
		return "none out of the house"
	case copies < 3:
		return "one short of three"
	}
	return ""
}
