package lab

import (
	"cmp"
	"fmt"
	"slices"
)

// Layout is how the drives of a set are put together.
type Layout string

// The layouts there are.
const (
	Single          Layout = "single"
	Stripe          Layout = "stripe"
	Mirror          Layout = "mirror"
	RAID5           Layout = "raid 5"
	RAID6           Layout = "raid 6"
	RAID10          Layout = "raid 10"
	RAIDZ1          Layout = "raid-z1"
	RAIDZ2          Layout = "raid-z2"
	RAIDZ3          Layout = "raid-z3"
	DedicatedParity Layout = "dedicated parity"
	Mixed           Layout = "mixed"
	Replicated      Layout = "replicated"
)

// Layouts lists them.
func Layouts() []Layout { return slices.Clone(layouts) }

var layouts = []Layout{Single, Stripe, Mirror, RAID5, RAID6, RAID10, RAIDZ1, RAIDZ2, RAIDZ3, DedicatedParity, Mixed, Replicated}

// Enum lists the layouts for the published schema.
func (Layout) Enum() []any { return anys(layouts) }

// fewest are the drives that a layout needs at least; one where it is not here.
var fewest = map[Layout]int{Mirror: 2, RAID5: 3, RAID6: 4, RAID10: 4, RAIDZ1: 2, RAIDZ2: 3, RAIDZ3: 4, Mixed: 2}

// Pool is room for data, over the drives of one device or of several.
type Pool struct {
	ID     ID         `json:"id" required:"true"`
	Name   string     `json:"name" required:"true" maxLength:"80" lab:"name"`
	Device ID         `json:"device_id" required:"true" description:"The device that runs it"`
	With   []ID       `json:"with_device_ids,omitempty" nullable:"false" maxItems:"32" description:"Of a replicated pool: the other devices"`
	Sets   []DriveSet `json:"sets,omitempty" nullable:"false" maxItems:"64" description:"It is lost when one of them is; none while unknown"`

	Spares []PoolDrive `json:"spares,omitempty" nullable:"false" maxItems:"64" description:"Hot spares"`
	Cache  []PoolDrive `json:"cache,omitempty" nullable:"false" maxItems:"64"`
	Log    []PoolDrive `json:"log,omitempty" nullable:"false" maxItems:"64"`
	Boots  []PoolDrive `json:"boot,omitempty" nullable:"false" maxItems:"64" description:"Drives that the device boots from, in no set"`
	Boot   bool        `json:"for_boot,omitempty" description:"The device boots from the pool itself"`

	FileSystem string `json:"file_system,omitempty" maxLength:"40"`
	KeepsBack  *int64 `json:"keeps_back_bytes,omitempty" description:"Kept by the file system; a 32nd in a RAID-Z pool unless said"`
	UsedBytes  *int64 `json:"used_bytes,omitempty"`
	UsedOn     When   `json:"used_on,omitempty" description:"The day on which that was so"`
	Grows      *int64 `json:"grows_bytes,omitempty" description:"In a month"`

	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes   string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// DriveSet is some drives in one layout.
type DriveSet struct {
	Layout Layout `json:"layout" required:"true"`
	Copies int    `json:"copies,omitempty" minimum:"1" maximum:"16" description:"Replicas, or drives that may fail, where that is to be said"`
	Writes int    `json:"writes_with,omitempty" minimum:"1" maximum:"16" description:"Replicas there must be for it to write"`

	Drives []PoolDrive `json:"drives,omitempty" nullable:"false" maxItems:"512" description:"None while unknown"`
	Parity []PoolDrive `json:"parity,omitempty" nullable:"false" maxItems:"2" description:"Of dedicated parity: which of the drives"`
	Some   *SomeDrives `json:"some,omitempty" description:"In the place of drives, while it is not known which they are"`
}

// PoolDrive is a drive of a pool: what is in a bay of a device, or one that is in no
// bay. One of which nothing is said is missing.
type PoolDrive struct {
	Device ID  `json:"device_id,omitempty"`
	Bay    int `json:"bay,omitempty" minimum:"1" maximum:"512"`
	Part   ID  `json:"part_id,omitempty"`
}

// Missing reports whether there is no drive any more.
func (d PoolDrive) Missing() bool { return d == PoolDrive{} }

// SomeDrives are drives of which no more is known than about how many they are and
// about how large.
type SomeDrives struct {
	Least      int    `json:"least" required:"true" minimum:"1" maximum:"512"`
	Most       int    `json:"most" required:"true" minimum:"1" maximum:"512"`
	LeastBytes *int64 `json:"least_bytes,omitempty" description:"The size of each"`
	MostBytes  *int64 `json:"most_bytes,omitempty"`
}

// Key implements Record.
func (p Pool) Key() Key { return Key{KindPool, p.ID} }

// Title implements Record.
func (p Pool) Title() string { return titleOr(p.Name, "a pool") }

// Hosts are the devices that run the pool.
func (p Pool) Hosts() []ID { return append([]ID{p.Device}, p.With...) }

// All are the drives of the pool, those of its sets first.
func (p Pool) All() []PoolDrive {
	var all []PoolDrive
	for _, s := range p.Sets {
		all = append(all, s.Drives...)
	}
	return slices.Concat(all, p.Spares, p.Cache, p.Log, p.Boots)
}

// lists are the lists of drives in a copy of the pool, which may be changed.
func (p *Pool) lists() []*[]PoolDrive {
	lists := []*[]PoolDrive{&p.Spares, &p.Cache, &p.Log, &p.Boots}
	p.Sets = slices.Clone(p.Sets)
	for i := range p.Sets {
		lists = append(lists, &p.Sets[i].Drives, &p.Sets[i].Parity)
	}
	for _, list := range lists {
		*list = slices.Clone(*list)
	}
	return lists
}

// Refs implements Record.
func (p Pool) Refs() []Ref {
	refs := []Ref{{"device_id", Key{KindDevice, p.Device}, GoAlong}}
	for _, id := range p.With {
		refs = append(refs, Ref{"with_device_ids", Key{KindDevice, id}, Clear})
	}
	told := map[Key]bool{}
	for _, d := range p.All() {
		to := Key{KindPart, d.Part}
		if d.Part == "" {
			to = Key{KindDevice, d.Device}
		}
		if to.ID != "" && to.ID != p.Device && !slices.Contains(p.With, to.ID) && !told[to] {
			refs = append(refs, Ref{"sets", to, Clear})
			told[to] = true
		}
	}
	return refs
}

// without is the pool when a device beside its own, or a drive in no bay, is removed:
// the drives are missing then.
func (p Pool) without(gone Key) Record {
	p.With = slices.DeleteFunc(slices.Clone(p.With), func(id ID) bool { return gone.Kind == KindDevice && id == gone.ID })
	if len(p.With) == 0 {
		p.With = nil
	}
	for _, list := range p.lists() {
		for i, d := range *list {
			if gone.Kind == KindPart && d.Part == gone.ID || gone.Kind == KindDevice && d.Device == gone.ID {
				(*list)[i] = PoolDrive{}
			}
		}
		if len(*list) == 0 {
			*list = nil
		}
	}
	return p
}

func (p Pool) uniques() []Unique { return []Unique{PoolKey(p.Device, p.Name)} }

// PoolKey is what a pool is told by: its device and its name.
func PoolKey(device ID, name string) Unique { return Unique{"name", string(device) + "\n" + name} }

func (p Pool) check(f *faults) {
	f.id(p.ID)
	f.need("name", p.Name)
	f.name("name", p.Name)
	if p.Device == "" {
		f.add("device_id", "say on which device it is")
	}
	if len(p.With) > 32 || len(p.Sets) > 64 {
		f.add("sets", "a pool has at most 64 sets, and at most 33 devices")
	}
	if slices.Contains(p.With, p.Device) || len(slices.Compact(slices.Sorted(slices.Values(p.With)))) < len(p.With) {
		f.add("with_device_ids", "a device is there twice")
	}
	for i, s := range p.Sets {
		s.check(f, i, len(p.Hosts()))
	}
	if len(p.With) > 0 && !slices.ContainsFunc(p.Sets, func(s DriveSet) bool { return s.Layout == Replicated }) {
		f.add("with_device_ids", "only a replicated pool is on several devices; say replicated 3, or make a pool for each")
	}
	seen := map[PoolDrive]bool{}
	for _, list := range [][]PoolDrive{p.Spares, p.Cache, p.Log, p.Boots} {
		checkDrives(f, "spares", list)
	}
	for _, d := range p.All() {
		if seen[d] && !d.Missing() {
			f.add("sets", "%s is there twice", d.words())
			break
		}
		seen[d] = true
	}
	f.line("file_system", p.FileSystem, 40)
	f.bytes("keeps_back_bytes", p.KeepsBack)
	f.atLeastNone("used_bytes", p.UsedBytes)
	f.when("used_on", p.UsedOn)
	f.atLeastNone("grows_bytes", p.Grows)
	f.line("purpose", p.Purpose, maxPurpose)
	f.text("notes", p.Notes, maxNotes)
	p.Remarked.check(f)
}

// checkIn finds bays that a device has not.
func (p Pool) checkIn(l *Lab, f *faults) {
	for _, d := range p.All() {
		of, _ := Find[Device](l, d.Device)
		if n := l.SpecOf(of).Seats(Drive); d.Bay > 0 && n != nil && d.Bay > *n {
			f.add("sets", "%s has the bays 1 to %d, and there is no bay %d", quote(of.Title()), *n, d.Bay)
			return
		}
		if p, ok := Find[Part](l, d.Part); ok && p.Kind != Drive {
			f.add("sets", "%s is a %s, and a pool is made of drives", quote(p.Title()), p.Kind)
		}
	}
}

// checkPools finds bays of a device that pools use and its spec has no more.
func (d Device) checkPools(l *Lab, f *faults) {
	n := l.SpecOf(d).Seats(Drive)
	if n == nil {
		return
	}
	for by := range l.UsersOf(d.Key()) {
		p, ok := by.(Pool)
		if !ok || f.changed[p.Key()] {
			continue
		}
		for _, one := range p.All() {
			if one.Device == d.ID && one.Bay > *n {
				f.add("bays", "the pool %s is made of bay %d too; change that first", quote(p.Name), one.Bay)
				return
			}
		}
	}
}

// words is a drive for a message that has no lab to look names up in.
func (d PoolDrive) words() string {
	if d.Bay > 0 {
		return fmt.Sprintf("bay %d", d.Bay)
	}
	return "a drive in no bay"
}

func checkDrives(f *faults, field string, list []PoolDrive) {
	for _, d := range list {
		switch {
		case d.Missing():
		case d.Part != "" && (d.Device != "" || d.Bay != 0):
			f.add(field, "a drive is either in a bay of a device or a part in no bay")
		case d.Part == "" && (d.Device == "" || d.Bay < 1 || d.Bay > 512):
			f.add(field, "a bay has its device, and a number from 1 to 512")
		}
	}
}

func (s DriveSet) check(f *faults, at, hosts int) {
	field := fmt.Sprintf("sets.%d", at)
	if !slices.Contains(layouts, s.Layout) {
		f.add(field, "%s is not a layout; it is one of %s", quote(string(s.Layout)), joinWords(layouts))
		return
	}
	n := len(s.Drives)
	if s.Some != nil {
		n = s.Some.Most
		s.Some.check(f, field)
	}
	least := s.fewest()
	switch {
	case s.Some != nil && len(s.Drives) > 0:
		f.add(field, "either say which drives they are or about how many")
	case n == 0: // which they are is not known
	case n < least:
		f.add(field, "%s needs at least %d drives, not %d", s.Layout, least, n)
	case s.Layout == RAID10 && n%2 == 1 && s.Some == nil:
		f.add(field, "raid 10 is made of pairs; %d drives are not", n)
	}
	switch many := s.Copies; {
	case many < 0 || many > 16:
		f.add(field, "there are 1 to 16 copies, not %d", many)
	case (s.Layout == Mixed || s.Layout == DedicatedParity) && many > 2:
		f.add(field, "%s has one or two drives of redundancy, not %d", s.Layout, many)
	case s.Layout == Replicated && hosts < many:
		f.add(field, "%d copies need at least %d devices, and it is on %d", many, many, hosts)
	case many > 0 && s.Layout != Mixed && s.Layout != DedicatedParity && s.Layout != Replicated:
		f.add(field, "how much may fail goes without saying in %s", s.Layout)
	}
	if s.Writes != 0 && (s.Layout != Replicated || s.Writes < 0 || s.Writes > s.Replicas()) {
		f.add(field, "it is replicated pools that write with 1 to as many copies as they keep")
	}
	if s.Parity != nil && s.Layout != DedicatedParity {
		f.add(field, "only dedicated parity says which drives the parity is on")
	}
	if len(s.Parity) > 2 {
		f.add(field, "there are one or two parity drives, not %d", len(s.Parity))
	}
	for _, d := range s.Parity {
		if !slices.Contains(s.Drives, d) {
			f.add(field, "the parity is on %s, which is not a drive of the set", d.words())
		}
	}
	checkDrives(f, field, s.Drives)
}

// fewest are the drives that the set needs at least.
func (s DriveSet) fewest() int {
	switch {
	case s.Layout == Mixed && s.Copies == 2:
		return 4
	case s.Layout == DedicatedParity:
		return s.Redundant() + 1
	}
	return max(1, fewest[s.Layout])
}

// Possible reports whether the set's drives are enough for its layout, and not one too
// many.
func (s DriveSet) Possible() bool {
	n := len(s.Drives)
	return n >= s.fewest() && !(s.Layout == RAID10 && n%2 == 1) && !(s.Layout == Single && n > 1)
}

// Redundant is how many drives of the set may fail at worst, where its layout leaves
// that to be said: one unless it is.
func (s DriveSet) Redundant() int { return max(1, s.Copies, len(s.Parity)) }

// Replicas is how many copies a replicated set keeps: 3 unless said.
func (s DriveSet) Replicas() int { return cmp.Or(s.Copies, 3) }

func (s SomeDrives) check(f *faults, field string) {
	if s.Least < 1 || s.Most < s.Least || s.Most > 512 {
		f.add(field, "there are 1 to 512 drives, the fewest there may be first")
	}
	f.bytes(field, s.LeastBytes)
	f.bytes(field, s.MostBytes)
	if s.LeastBytes != nil && s.MostBytes != nil && *s.LeastBytes > *s.MostBytes {
		f.add(field, "the smaller size goes first")
	}
}

// DriveOf is the drive that a pool means; ok is false for one that is missing and for
// a bay with nothing in it.
func (l *Lab) DriveOf(d PoolDrive) (p Part, ok bool) {
	if d.Part != "" {
		return Find[Part](l, d.Part)
	}
	if d.Device == "" {
		return Part{}, false
	}
	for p := range l.partsIn(d.Device) {
		if p.Kind == Drive && p.Seat == d.Bay {
			return p, true
		}
	}
	return Part{}, false
}

// PoolWords is a pool as one may call it anywhere: silo/hold.
func (l *Lab) PoolWords(p Pool) string {
	d, _ := Find[Device](l, p.Device)
	return d.Title() + "/" + p.Name
}
