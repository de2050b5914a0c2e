// Package storage works out what the drives of a lab come to: how much room each pool
// has and what may fail before its data goes, what lies on it, where the copies of that
// are and how old they are, and what is lost with a drive, a pool, a device, a place or
// the house.
//
// Sizes are bytes; 1 TB is 10^12 and 1 TiB 2^40 of them. What is not known for certain
// is a span: what there is at least, and at most where that can be said.
package storage

import (
	"cmp"
	"slices"
	"sync"

	"levelstaff/core/lab"
)

// Nearly is how full a pool should be at most.
const Nearly = 0.8

// Drive is a drive of a pool.
type Drive struct {
	lab.PoolDrive
	Part *lab.Part // nil for one that is missing, and where the bay is empty
	Host lab.ID    // the device it is in, "" for one in none
}

// Gone reports whether the drive does nothing for its set: it is faulty or not there.
func (d Drive) Gone() bool {
	return d.Part == nil || d.Part.State == lab.Faulty || d.Part.State == lab.Leaving
}

// Set is a set of drives with what it comes to.
type Set struct {
	lab.DriveSet
	Drives  []Drive
	Spans   Spans
	MayFail MayFail // as it is meant to be
	Gone    int     // drives that are gone already
	Rebuild Rebuild
}

// Spans is what drives come to, at least and, where Above, at most.
type Spans struct {
	Least, Most Room
	Above       bool // most can be said
}

// Exact reports whether it is known for certain.
func (s Spans) Exact() bool { return s.Above && s.Least == s.Most }

// Pool is a pool with what it comes to.
type Pool struct {
	lab.Pool
	Sets     []Set
	Spares   []Drive
	Beside   []Drive // cache, log and boot drives
	Spans    Spans
	SpareRaw int64
	MayFail  MayFail // before data goes, what is gone already taken off
	Lost     bool    // more is gone than it stands
	Datasets []*Data // that live on it
	Copies   []*Data // of which a whole copy goes to it
	rank     int     // the faster the less
}

// KeptBack is what the file system keeps for itself of the room there is at least: what
// is said, or of a RAID-Z pool a 32nd, and 128 MiB at least.
func (p *Pool) KeptBack() int64 {
	switch {
	case p.KeepsBack != nil:
		return *p.KeepsBack
	case slices.ContainsFunc(p.Sets, func(s Set) bool { return isRAIDZ(s.Layout) }) && p.Spans.Least.Usable > 0:
		return min(p.Spans.Least.Usable, max(128<<20, p.Spans.Least.Usable/32))
	}
	return 0
}

func isRAIDZ(l lab.Layout) bool { return l == lab.RAIDZ1 || l == lab.RAIDZ2 || l == lab.RAIDZ3 }

// Fillable is what there is at least for data; ok is false while that is unknown.
func (p *Pool) Fillable() (bytes int64, ok bool) {
	return p.Spans.Least.Usable - p.KeptBack(), p.Spans.Least.Usable > 0
}

// Used is what is on the pool: what is said of it, or what its datasets and the copies
// that go to it come to. sure is false where some of those have no size; ok where nothing is known.
func (p *Pool) Used() (bytes int64, sure, ok bool) {
	if p.UsedBytes != nil {
		return *p.UsedBytes, true, true
	}
	sure = true
	for _, d := range slices.Concat(p.Datasets, p.Copies) {
		if d.Bytes == nil {
			sure = false
			continue
		}
		bytes, ok = bytes+*d.Bytes, true
	}
	return bytes, sure, ok
}

// Promised is what the datasets on it come to, where any has a size.
func (p *Pool) Promised() (bytes int64, ok bool) {
	for _, d := range p.Datasets {
		if d.Bytes != nil {
			bytes, ok = bytes+*d.Bytes, true
		}
	}
	return bytes, ok
}

// CopiesIn is what the copies come to that go to the pool, as far as it is known.
func (p *Pool) CopiesIn() (bytes int64) {
	for _, d := range p.Copies {
		if d.Bytes != nil {
			bytes += *d.Bytes
		}
	}
	return bytes
}

// Growth is how much more there is each month: what is said of the pool, or what its
// datasets come to.
func (p *Pool) Growth() (bytes int64, ok bool) {
	if p.Grows != nil {
		return *p.Grows, true
	}
	for _, d := range p.Datasets {
		if d.Grows != nil {
			bytes, ok = bytes+*d.Grows, true
		}
	}
	return bytes, ok
}

// MonthsUntil is in how many months so much of what can be filled is: 0 where it is so
// already; ok is false where it never is, or where that cannot be said.
func (p *Pool) MonthsUntil(part float64) (months float64, ok bool) {
	room, known := p.Fillable()
	used, _, said := p.Used()
	grows, does := p.Growth()
	if !known || !said {
		return 0, false
	}
	left := part*float64(room) - float64(used)
	if left <= 0 {
		return 0, true
	}
	if !does || grows <= 0 {
		return 0, false
	}
	return left / float64(grows), true
}

// HostsMayGo is, of a replicated pool, how many devices may be lost before it stops
// writing and before data goes.
func (p *Pool) HostsMayGo() (writes, data int, ok bool) {
	for _, s := range p.Sets {
		if s.Layout == lab.Replicated {
			n := s.Replicas()
			return n - cmp.Or(s.Writes, n/2+1), n - 1, true
		}
	}
	return 0, 0, false
}

// Drives are all of the pool's, those of its sets first.
func (p *Pool) Drives() []Drive {
	var all []Drive
	for _, s := range p.Sets {
		all = append(all, s.Drives...)
	}
	return slices.Concat(all, p.Spares, p.Beside)
}

// Storage is what the drives of a lab come to, worked out once and then only read.
type Storage struct {
	lab    *lab.Lab
	pools  []*Pool
	byID   map[lab.ID]*Pool
	by     map[lab.ID][]*Pool // by part
	data   []*Data
	sites  map[lab.Key]*site
	seats  seats
	drives map[lab.ID][]*lab.Part     // by device
	cabled func() map[lab.ID][]lab.ID // by cables for drives
}

// Of is the storage of a lab, worked out once for as long as the lab is kept.
func Of(l *lab.Lab) *Storage { return lab.Derived(l, build) }

// Pools are all of them, the fastest first.
func (s *Storage) Pools() []*Pool { return s.pools }

// Pool finds a pool; ok is false where there is none.
func (s *Storage) Pool(id lab.ID) (p *Pool, ok bool) { p, ok = s.byID[id]; return p, ok }

// PoolsWith are the pools that a drive is in.
func (s *Storage) PoolsWith(part lab.ID) []*Pool { return s.by[part] }

// Data are the datasets, what matters most first.
func (s *Storage) Data() []*Data { return s.data }

func build(l *lab.Lab) *Storage {
	s := &Storage{lab: l, byID: map[lab.ID]*Pool{}, by: map[lab.ID][]*Pool{}, sites: map[lab.Key]*site{},
		cabled: sync.OnceValue(func() map[lab.ID][]lab.ID { return driveCables(l) })}
	s.seats, s.drives = drivesOf(l)
	for p := range lab.Each[lab.Pool](l) {
		pool := s.Try(p)
		s.pools = append(s.pools, pool)
		s.byID[p.ID] = pool
		for _, d := range pool.Drives() {
			if d.Part != nil && !slices.Contains(s.by[d.Part.ID], pool) {
				s.by[d.Part.ID] = append(s.by[d.Part.ID], pool)
			}
		}
	}
	slices.SortStableFunc(s.pools, func(a, b *Pool) int {
		return cmp.Or(a.rank-b.rank, cmp.Compare(b.Spans.Least.Usable, a.Spans.Least.Usable), cmp.Compare(lab.FoldName(a.Name),
			lab.FoldName(b.Name)))
	})
	s.gather()
	return s
}

// Try is what a pool would come to, with nothing on it.
func (s *Storage) Try(p lab.Pool) *Pool {
	pool := &Pool{Pool: p}
	find := func(list []lab.PoolDrive) []Drive {
		var drives []Drive
		for _, d := range list {
			drives = append(drives, s.seats.drive(s.lab, d))
		}
		return drives
	}
	for _, set := range p.Sets {
		pool.Sets = append(pool.Sets, newSet(set, find(set.Drives)))
	}
	pool.Spares, pool.Beside = find(p.Spares), find(slices.Concat(p.Cache, p.Log, p.Boots))
	pool.sum()
	return pool
}

// seats are the drives of a lab by where they sit.
type seats map[seat]*lab.Part

// seat is a bay of a device.
type seat struct {
	device lab.ID
	bay    int
}

// drivesOf are the drives of a lab, tapes and discs left out, by their bays and by their
// devices.
func drivesOf(l *lab.Lab) (all seats, in map[lab.ID][]*lab.Part) {
	all, in = seats{}, map[lab.ID][]*lab.Part{}
	for p := range lab.Each[lab.Part](l) {
		if p.Kind != lab.Drive || p.Device == "" || p.Medium == "tape" || p.Medium == "optical" {
			continue
		}
		in[p.Device] = append(in[p.Device], &p)
		if p.Seat > 0 {
			all[seat{p.Device, p.Seat}] = &p
		}
	}
	return all, in
}

// DrivesIn are the drives in a device, tapes and discs left out, in no order.
func (s *Storage) DrivesIn(device lab.ID) []*lab.Part { return s.drives[device] }

func (all seats) drive(l *lab.Lab, d lab.PoolDrive) Drive {
	if d.Part == "" {
		return Drive{d, all[seat{d.Device, d.Bay}], d.Device}
	}
	p, ok := lab.Find[lab.Part](l, d.Part)
	if !ok {
		return Drive{PoolDrive: d}
	}
	return Drive{d, &p, p.Device}
}

func newSet(of lab.DriveSet, drives []Drive) Set {
	s := Set{DriveSet: of, Drives: drives}
	redundant := s.Redundant()
	if s.Layout == lab.Replicated {
		redundant = s.Replicas()
	}
	if some := s.Some; some != nil {
		least, most := alike(some.Least, some.LeastBytes), alike(some.Most, cmp.Or(some.MostBytes, some.LeastBytes))
		s.Spans = Spans{Divide(s.Layout, redundant, least), Divide(s.Layout, redundant, most), some.LeastBytes != nil || some.MostBytes != nil}
		s.MayFail = mayFail(s.Layout, redundant, least)
		return s
	}
	small, above := s.members()
	s.Spans = Spans{Least: Divide(s.Layout, redundant, small), Above: above}
	s.Spans.Most = s.Spans.Least
	s.MayFail = mayFail(s.Layout, redundant, small)
	for _, d := range drives {
		if d.Gone() {
			s.Gone++
		}
	}
	s.Rebuild = s.rebuild(redundant, small)
	return s
}

// alike are so many drives of one size, empty ones where that is not known.
func alike(n int, bytes *int64) []Member {
	list := make([]Member, n)
	for i := range list {
		if bytes != nil {
			list[i].Bytes = *bytes
		}
	}
	return list
}

// members are the drives as the layout sees them, one whose size is not known as empty:
// above is false then. One that is gone counts as large as the smallest that is there,
// since the set was made with it.
func (s *Set) members() (list []Member, above bool) {
	above = true
	smallest := int64(0)
	for _, d := range s.Drives {
		if d.Part != nil && d.Part.SizeBytes != nil && (smallest == 0 || *d.Part.SizeBytes < smallest) {
			smallest = *d.Part.SizeBytes
		}
	}
	for _, d := range s.Drives {
		m := Member{Host: d.Host, Parity: slices.Contains(s.Parity, d.PoolDrive)}
		switch {
		case d.Part == nil && s.Layout != lab.Single && s.Layout != lab.Stripe:
			m.Bytes = smallest
		case d.Part != nil && d.Part.SizeBytes != nil:
			m.Bytes = *d.Part.SizeBytes
		}
		above = above && d.Part != nil && d.Part.SizeBytes != nil
		list = append(list, m)
	}
	return list, above
}

// sum puts the sets together: a pool is lost when one of them is.
func (p *Pool) sum() {
	p.Spans.Above = len(p.Sets) > 0
	for i, s := range p.Sets {
		p.Spans.Least = p.Spans.Least.plus(s.Spans.Least)
		p.Spans.Most = p.Spans.Most.plus(s.Spans.Most)
		p.Spans.Above = p.Spans.Above && s.Spans.Above
		worst := s.MayFail.Worst - s.Gone
		if i == 0 || worst < p.MayFail.Worst {
			p.MayFail.Worst = worst
		}
		p.MayFail.Best += s.MayFail.Best - s.Gone
	}
	p.Lost = p.MayFail.Worst < 0
	p.MayFail = MayFail{max(0, p.MayFail.Worst), max(0, p.MayFail.Best)}
	for _, d := range p.Spares {
		if d.Part != nil && d.Part.SizeBytes != nil {
			p.SpareRaw += *d.Part.SizeBytes
		}
	}
	p.rank = p.slowness()
}

// slowness orders pools by the slowest drives they are made of: flash before platters,
// platters by their turns, shingled ones behind; what is not known goes last.
func (p *Pool) slowness() int {
	const none = 99
	worst := -1
	for _, s := range p.Sets {
		for _, d := range s.Drives {
			worst = max(worst, slowness(d.Part))
		}
	}
	if worst < 0 {
		return none
	}
	return worst
}

func slowness(p *lab.Part) int {
	switch {
	case p == nil || p.Medium == "":
		return 50
	case p.Medium == "ssd" && (p.Interface == "nvme" || p.Interface == "" && p.Form == "m.2"):
		return 0
	case p.Medium == "ssd" && p.Interface == "sas":
		return 1
	case p.Medium == "ssd":
		return 2
	case p.Medium == "tape", p.Medium == "optical":
		return 60
	case p.Recording == "smr":
		return 20
	case p.RPM != nil && *p.RPM >= 10_000:
		return 10
	case p.RPM != nil && *p.RPM < 7000:
		return 13
	}
	return 12
}

// Copied reports whether all that matters on the pool has a whole copy in another one.
// Where nothing is written down that is on it, nothing copies it.
func (p *Pool) Copied() bool {
	for _, d := range p.Datasets {
		if copies, _, _ := d.Count(); copies < 2 && d.Worth != lab.Toy {
			return false
		}
	}
	return len(p.Datasets) > 0
}
