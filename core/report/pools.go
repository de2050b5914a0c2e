package report

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"levelstaff/core/lab"
	"levelstaff/core/storage"
)

// Pools are the pools of a lab, and the bays their drives are in.
type Pools struct {
	Pools []PoolRow  `json:"pools" required:"true" nullable:"false" description:"Fastest first, by what they are made of"`
	Bays  []BaysRow  `json:"bays" required:"true" nullable:"false" description:"Of every device that has bays or drives of a pool"`
	Sum   StorageSum `json:"sum" required:"true"`
}

// PoolRow is a pool with what it comes to, in bytes.
type PoolRow struct {
	Name       string   `json:"name" required:"true"`
	Device     string   `json:"device" required:"true"`
	ID         lab.ID   `json:"id" required:"true"`
	DeviceID   lab.ID   `json:"device_id" required:"true"`
	On         []lab.ID `json:"on_device_ids" required:"true" nullable:"false" description:"All devices that run it or have its drives"`
	Words      string   `json:"words" required:"true" description:"How it is made"`
	Purpose    string   `json:"purpose,omitempty"`
	FileSystem string   `json:"file_system,omitempty"`

	Raw        *int64 `json:"raw_bytes,omitempty"`
	Usable     *int64 `json:"usable_bytes,omitempty" description:"Before what the file system keeps back; absent while unknown"`
	UsableMost *int64 `json:"usable_most_bytes,omitempty" description:"Where it may be more"`
	Redundancy *int64 `json:"redundancy_bytes,omitempty"`
	Unused     int64  `json:"unused_bytes" required:"true" description:"Of unlike drives, what none of the sets can use"`
	Spare      int64  `json:"spare_bytes" required:"true"`
	KeptBack   int64  `json:"kept_back_bytes" required:"true"`
	Used       *int64 `json:"used_bytes,omitempty" description:"What is said of it, or what its datasets come to; absent while unknown"`
	UsedLeast  bool   `json:"used_at_least,omitempty" description:"Some of those have no size"`
	UsedOn     string `json:"used_on,omitempty" description:"The day on which it was so"`
	Free       *int64 `json:"free_bytes,omitempty" description:"Less what is kept back; below nothing where more is on it"`
	CopiesIn   *int64 `json:"copies_bytes,omitempty" description:"What the copies come to that go to it"`
	Promised   *int64 `json:"promised_bytes,omitempty" description:"What its datasets come to"`

	MayFail      PoolMayFail `json:"may_fail" required:"true"`
	MayFailWords string      `json:"may_fail_words" required:"true"`
	HostsMayGo   *HostsMayGo `json:"devices_may_go,omitempty" description:"Of a replicated pool"`
	Lost         bool        `json:"lost,omitempty" description:"More drives are gone than it can do without"`
	AtLeast      bool        `json:"at_least" required:"true" description:"Sizes are known from below only"`

	RebuildH     *float64 `json:"rebuild_h,omitempty" description:"At best, of the drive that takes longest"`
	RebuildReads *int64   `json:"rebuild_reads_bytes,omitempty"`
	Grows        *int64   `json:"grows_bytes,omitempty" description:"In a month"`
	NearIn       *float64 `json:"months_to_80_percent,omitempty"`
	FullIn       *float64 `json:"months_to_full,omitempty"`
	NearBy       string   `json:"past_80_percent,omitempty" description:"The month in which that is"`
	FullBy       string   `json:"full,omitempty"`

	Drives   []DriveRow `json:"drives" required:"true" nullable:"false"`
	Datasets []DataRow  `json:"datasets" required:"true" nullable:"false"`
	Copied   bool       `json:"copied" required:"true" description:"All that matters on it has a copy in another pool"`
}

// PoolMayFail is how many drives may fail before data goes.
type PoolMayFail struct {
	Worst int `json:"worst" required:"true"`
	Best  int `json:"best" required:"true"`
}

// HostsMayGo is how many devices a replicated pool can do without.
type HostsMayGo struct {
	Writes int `json:"still_writes" required:"true"`
	Data   int `json:"keeps_data" required:"true"`
}

// DriveRole is what a drive is in its pool.
type DriveRole string

// The roles there are.
const (
	DataDrive   DriveRole = "data"
	ParityDrive DriveRole = "parity"
	SpareDrive  DriveRole = "spare"
	CacheDrive  DriveRole = "cache"
	LogDrive    DriveRole = "log"
	BootDrive   DriveRole = "boot"
)

// Enum lists them for the published schema.
func (DriveRole) Enum() []any {
	return []any{DataDrive, ParityDrive, SpareDrive, CacheDrive, LogDrive, BootDrive}
}

// DriveRow is a drive of a pool.
type DriveRow struct {
	Title    string    `json:"title" required:"true" description:"Where it is"`
	PartID   lab.ID    `json:"part_id,omitempty" description:"Absent where the bay is empty and where it is missing"`
	DeviceID lab.ID    `json:"device_id,omitempty"`
	Bay      int       `json:"bay,omitempty"`
	Bytes    *int64    `json:"size_bytes,omitempty"`
	Role     DriveRole `json:"role" required:"true"`
	Set      int       `json:"set,omitempty" description:"Of data and parity: which set, from 1"`
	Gone     bool      `json:"gone,omitempty" description:"Faulty, or not there"`
}

// DataRow is a dataset on a pool.
type DataRow struct {
	Name     string    `json:"name" required:"true"`
	ID       lab.ID    `json:"id" required:"true"`
	Bytes    *int64    `json:"size_bytes,omitempty"`
	Worth    lab.Worth `json:"worth,omitempty"`
	DaysKept *float64  `json:"days_kept,omitempty" description:"Of cameras: how many days there is room for"`
}

// BaysRow are the bays of a device.
type BaysRow struct {
	Device   string   `json:"device" required:"true"`
	DeviceID lab.ID   `json:"device_id" required:"true"`
	Behind   []string `json:"behind" required:"true" nullable:"false" description:"Other devices whose pools its drives are in"`
	Bays     []BayRow `json:"bays" required:"true" nullable:"false"`
	Filled   int      `json:"filled" required:"true"`
	Count    *int     `json:"count,omitempty" description:"Absent while unknown"`
}

// BayRow is one bay, or a drive that is in none.
type BayRow struct {
	N      int       `json:"n,omitempty" description:"Absent for a drive in no bay"`
	PartID lab.ID    `json:"part_id,omitempty"`
	Bytes  *int64    `json:"size_bytes,omitempty"`
	Pool   string    `json:"pool,omitempty"`
	PoolID lab.ID    `json:"pool_id,omitempty"`
	Role   DriveRole `json:"role,omitempty"`
	State  lab.State `json:"state,omitempty"`
	Where  string    `json:"where,omitempty" description:"Front, rear or inside, where the spec says it"`
	Form   lab.Form  `json:"form,omitempty"`
}

// StorageSum is what a lab's drives come to.
type StorageSum struct {
	Usable  *int64 `json:"usable_bytes,omitempty"`
	Used    *int64 `json:"used_bytes,omitempty"`
	AtLeast bool   `json:"at_least,omitempty"`
	Filled  int    `json:"bays_filled" required:"true"`
	Bays    int    `json:"bays" required:"true"`

	Datasets int `json:"datasets" required:"true" description:"But for toys"`
	NoCopy   int `json:"without_copy" required:"true"`
	Inside   int `json:"none_outside" required:"true" description:"No copy out of the house"`
	Restored int `json:"restored" required:"true" description:"From which somebody once got something back"`
}

func poolsOf(a Ask) (Pools, error) {
	s := storage.Of(a.Lab)
	out := Pools{Pools: []PoolRow{}, Bays: []BaysRow{}}
	for _, p := range s.Pools() {
		out.Pools = append(out.Pools, poolRow(a, p))
	}
	out.Bays = baysOf(a.Lab, s, out.Pools)
	out.Sum = sumOf(s)
	return out, nil
}

// knownBytes is a number of bytes, nil for none: nothing is known then.
func knownBytes(n int64) *int64 {
	if n == 0 {
		return nil
	}
	return &n
}

func poolRow(a Ask, p *storage.Pool) PoolRow {
	d, _ := lab.Find[lab.Device](a.Lab, p.Device)
	least := p.Spans.Least
	row := PoolRow{Name: p.Name, Device: d.Title(), ID: p.ID, DeviceID: p.Device, On: []lab.ID{}, Words: p.Words(), Purpose: p.Purpose,
		FileSystem: p.FileSystem, Raw: knownBytes(least.Raw), Usable: knownBytes(least.Usable), Redundancy: knownBytes(least.Redundancy),
		Unused: least.Unused,
		Spare:  p.SpareRaw, KeptBack: p.KeptBack(), MayFail: PoolMayFail(p.MayFail), MayFailWords: p.MayFailWords(), Lost: p.Lost,
		AtLeast: !p.Spans.Exact(), Drives: []DriveRow{}, Datasets: []DataRow{}, UsedOn: string(p.UsedOn), Copied: p.Copied()}
	if row.Usable != nil && (least.Redundancy == 0) {
		row.Redundancy = &least.Redundancy
	}
	if p.Spans.Above && p.Spans.Most.Usable > least.Usable {
		row.UsableMost = &p.Spans.Most.Usable
	}
	if used, sure, ok := p.Used(); ok {
		row.Used, row.UsedLeast = &used, !sure
		if room, known := p.Fillable(); known {
			free := room - used
			row.Free = &free
		}
	}
	row.CopiesIn = knownBytes(p.CopiesIn())
	if n, ok := p.Promised(); ok {
		row.Promised = &n
	}
	if writes, data, ok := p.HostsMayGo(); ok {
		row.HostsMayGo = &HostsMayGo{writes, data}
	}
	for _, set := range p.Sets {
		if r := set.Rebuild; r.Known && (row.RebuildH == nil || r.Hours > *row.RebuildH) {
			row.RebuildH, row.RebuildReads = &r.Hours, &r.Reads
		}
	}
	if n, ok := p.Growth(); ok {
		row.Grows = &n
	}
	row.NearIn, row.NearBy = monthsFrom(a.Day, p, storage.Nearly)
	row.FullIn, row.FullBy = monthsFrom(a.Day, p, 1)
	row.Drives = drivesOf(a.Lab, p)
	on := map[lab.ID]bool{"": true}
	for _, id := range p.Hosts() {
		if !on[id] {
			on[id] = true
			row.On = append(row.On, id)
		}
	}
	for _, d := range row.Drives {
		if !on[d.DeviceID] {
			on[d.DeviceID] = true
			row.On = append(row.On, d.DeviceID)
		}
	}
	for _, d := range p.Datasets {
		data := DataRow{Name: d.Name, ID: d.ID, Bytes: d.Bytes, Worth: d.Worth}
		if d.DaysKept > 0 {
			data.DaysKept = &d.DaysKept
		}
		row.Datasets = append(row.Datasets, data)
	}
	return row
}

// monthsFrom is in how many months so much of a pool is full, and which month that is;
// a month has 30.44 days.
func monthsFrom(today lab.Day, p *storage.Pool, part float64) (months *float64, by string) {
	m, ok := p.MonthsUntil(part)
	if !ok {
		return nil, ""
	}
	if t, err := time.Parse(time.DateOnly, string(today)); err == nil && m > 0 && m < 1200 {
		by = t.Add(time.Duration(m * 30.44 * 24 * float64(time.Hour))).Format("2006-01")
	}
	return &m, by
}

func drivesOf(l *lab.Lab, p *storage.Pool) []DriveRow {
	list := []DriveRow{}
	add := func(d storage.Drive, role DriveRole, set int) {
		row := DriveRow{Title: driveTitle(l, d), DeviceID: d.Host, Bay: d.Bay, Role: role, Set: set, Gone: d.Gone()}
		if d.Part != nil {
			row.PartID, row.Bytes = d.Part.ID, d.Part.SizeBytes
		}
		list = append(list, row)
	}
	for i, set := range p.Sets {
		for _, d := range set.Drives {
			role := DataDrive
			if slices.Contains(set.Parity, d.PoolDrive) {
				role = ParityDrive
			}
			add(d, role, i+1)
		}
	}
	for _, d := range p.Spares {
		add(d, SpareDrive, 0)
	}
	for i, d := range p.Beside {
		role := CacheDrive
		if i >= len(p.Cache) {
			role = LogDrive
		}
		if i >= len(p.Cache)+len(p.Log) {
			role = BootDrive
		}
		add(d, role, 0)
	}
	return list
}

// driveTitle is where a drive of a pool is.
func driveTitle(l *lab.Lab, d storage.Drive) string {
	of, _ := lab.Find[lab.Device](l, d.Host)
	switch {
	case d.Missing():
		return "missing"
	case d.Bay > 0:
		return fmt.Sprintf("%s bay %d", of.Title(), d.Bay)
	case d.Part != nil && d.Part.Name != "":
		return d.Part.Name
	}
	return of.Title() + ", in no bay"
}

// baysOf are the bays of every device that has some, or drives of a pool, with what is in
// them; those without drives and pools are left out.
func baysOf(l *lab.Lab, s *storage.Storage, pools []PoolRow) []BaysRow {
	type in struct {
		pool *PoolRow
		role DriveRole
	}
	byPart, byBay := map[lab.ID]in{}, map[lab.PoolDrive]in{}
	used := map[lab.ID]bool{}
	for i := range pools {
		for _, d := range pools[i].Drives {
			used[d.DeviceID] = true
			if d.PartID != "" {
				byPart[d.PartID] = in{&pools[i], d.Role}
			}
			if d.Bay > 0 {
				byBay[lab.PoolDrive{Device: d.DeviceID, Bay: d.Bay}] = in{&pools[i], d.Role}
			}
		}
	}
	list := []BaysRow{}
	for d := range lab.Things(l) {
		spec := l.SpecOf(d)
		row := BaysRow{Device: d.Title(), DeviceID: d.ID, Behind: []string{}, Bays: []BayRow{}, Count: spec.Seats(lab.Drive)}
		seated := map[int]*lab.Part{}
		last := 0
		var loose []*lab.Part
		for _, p := range s.DrivesIn(d.ID) {
			if p.Seat > 0 {
				seated[p.Seat] = p
				last = max(last, p.Seat)
				continue
			}
			loose = append(loose, p)
		}
		if len(seated)+len(loose) == 0 && !used[d.ID] {
			continue
		}
		if row.Count != nil {
			last = *row.Count
		}
		bay := func(b BayRow, p *lab.Part, of in) {
			if p != nil {
				b.PartID, b.Bytes, b.State, b.Form = p.ID, p.SizeBytes, p.State, p.Form
				row.Filled++
			}
			if of.pool != nil {
				b.Pool, b.PoolID, b.Role = of.pool.Name, of.pool.ID, of.role
				if of.pool.DeviceID != d.ID && !slices.Contains(row.Behind, of.pool.Device) {
					row.Behind = append(row.Behind, of.pool.Device)
				}
			}
			row.Bays = append(row.Bays, b)
		}
		for n := 1; n <= last; n++ {
			bay(BayRow{N: n, Where: bayWhere(spec, n)}, seated[n], byBay[lab.PoolDrive{Device: d.ID, Bay: n}])
		}
		for _, p := range loose {
			bay(BayRow{}, p, byPart[p.ID])
		}
		list = append(list, row)
	}
	return list
}

// bayWhere is where a device has a bay, by its number through all groups.
func bayWhere(spec lab.Spec, n int) string {
	for _, g := range spec.Bays {
		if n -= g.Count; n <= 0 {
			return string(cmp.Or(g.Side, lab.AtFront))
		}
	}
	return ""
}

func sumOf(s *storage.Storage) StorageSum {
	all := s.Sum(func(lab.ID) bool { return true })
	sum := StorageSum{Usable: knownBytes(all.Usable), Used: knownBytes(all.Used), AtLeast: all.AtLeast, Filled: all.Filled, Bays: all.Bays}
	for _, d := range s.Data() {
		if d.Worth == lab.Toy {
			continue
		}
		sum.Datasets++
		copies, _, outside := d.Count()
		if copies < 2 {
			sum.NoCopy++
		}
		if outside == 0 {
			sum.Inside++
		}
		if d.Restored() != "" {
			sum.Restored++
		}
	}
	return sum
}

func poolsText(p Pools) lines {
	t := lines{head: []string{"Pool", "On", "Made of", "Raw", "Usable", "Redundancy", "Unused", "Used", "May fail"},
		none: "There are no pools yet; a line such as pool \"hold\" on silo: raid-z1 of bay 1-4 makes one."}
	for _, r := range p.Pools {
		usable := bytesText(r.Usable)
		if r.Usable != nil {
			usable = storage.Both(*r.Usable)
		}
		if r.AtLeast && r.Usable != nil {
			usable = "at least " + usable
		}
		t.rows = append(t.rows, []string{r.Name, r.Device, r.Words, bytesText(r.Raw), usable, bytesText(r.Redundancy), storage.Size(r.Unused),
			bytesText(r.Used), r.MayFailWords})
	}
	return t
}

// bytesText is an amount, or a question mark while it is unknown.
func bytesText(n *int64) string {
	if n == nil {
		return "?"
	}
	return storage.Size(*n)
}
