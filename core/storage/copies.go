package storage

import (
	"cmp"
	"slices"
	"time"

	"levelstaff/core/lab"
)

// Data is a dataset with what is known of it and of its copies.
type Data struct {
	lab.Dataset
	Bytes    *int64  // what is said, or what cameras need for the days they are to keep
	Original Held    // where it lives
	Copies   []Held  // nearest first
	DaysKept float64 // of cameras: how many days there is room for, 0 while unknown
	folded   string  // its name, to be put in order by
}

// Held is the original of a dataset, or a copy, where it lies.
type Held struct {
	Copy    *lab.Copy // nil for the original
	Holder  lab.Holder
	Where   Distance
	Outside bool
	Part    bool     // it does not fit where it goes, so that it is not all there
	AtMostH *float64 // by the schedule, how much older than the original it gets
	site    *site
	ran     time.Time // when it last ran; none while unknown
}

// each goes through the original and its copies.
func (d *Data) each(yield func(*Held) bool) {
	if !yield(&d.Original) {
		return
	}
	for i := range d.Copies {
		if !yield(&d.Copies[i]) {
			return
		}
	}
}

// Distance is how far from the original a copy is.
type Distance string

// What lies in the same pool is no copy: what takes the one takes the other.
const (
	Lives         Distance = "original"
	SamePool      Distance = "same_pool"
	SameDevice    Distance = "same_device"
	AnotherDevice Distance = "another_device"
	AnotherPlace  Distance = "another_place"
	OutOfTheHouse Distance = "outside"
)

// Distances lists them, the nearest first.
func Distances() []Distance {
	return []Distance{Lives, SamePool, SameDevice, AnotherDevice, AnotherPlace, OutOfTheHouse}
}

// Enum lists them for the published schema.
func (Distance) Enum() []any {
	var all []any
	for _, d := range Distances() {
		all = append(all, d)
	}
	return all
}

// site is where something that holds data is.
type site struct {
	pool    lab.ID
	device  lab.ID // "" for what is in none, such as a drive on a shelf
	apart   string // tells devices apart, and what is in none
	place   lab.ID
	outside bool
	title   string
}

// siteOf is where something that holds data is, worked out once for each.
func (s *Storage) siteOf(h lab.Holder) *site {
	key := h.Key()
	if at, known := s.sites[key]; known {
		return at
	}
	at := &site{pool: h.Pool, device: h.Device, place: h.Place, title: s.lab.HolderWords(&h)}
	if p, ok := s.byID[h.Pool]; ok {
		at.device = p.Device
	}
	if p, ok := lab.Find[lab.Part](s.lab, h.Part); ok {
		at.device = p.Device
		if pools := s.by[p.ID]; len(pools) > 0 {
			at.pool = pools[0].ID
		}
	}
	in := at.device // that goes with it: of a pool on a shelf alone the shelf
	if p, ok := s.byID[at.pool]; ok {
		in = p.in()
	}
	at.apart = string(cmp.Or(in, h.Part, h.Place))
	if d, ok := lab.Find[lab.Device](s.lab, in); ok {
		for _, key := range s.lab.Within(d) {
			if key.Kind == lab.KindPlace {
				at.place = key.ID
				break
			}
		}
	}
	at.outside = s.lab.OutsideTheHouse(at.place)
	s.sites[key] = at
	return at
}

// in is the device that all drives of the pool's sets are in, or else the one it is on.
func (p *Pool) in() lab.ID {
	in := lab.ID("")
	for _, s := range p.Sets {
		for _, d := range s.Drives {
			if d.Host == "" || in != "" && d.Host != in {
				return p.Device
			}
			in = d.Host
		}
	}
	return cmp.Or(in, p.Device)
}

// gather puts the datasets and their copies together.
func (s *Storage) gather() {
	by, days := map[lab.ID]*Data{}, map[lab.When]time.Time{}
	none := new(float64) // the age of an original
	for d := range lab.Each[lab.Dataset](s.lab) {
		data := &Data{Dataset: d, Bytes: d.Bytes, folded: lab.FoldName(d.Name)}
		if day, ok := d.Films.BytesADay(); ok && d.Bytes == nil && d.Films.Days != nil {
			n := int64(day * *d.Films.Days)
			data.Bytes = &n
		}
		at := s.siteOf(*d.On)
		data.Original = Held{Holder: *d.On, Where: Lives, Outside: at.outside, AtMostH: none, site: at}
		s.data = append(s.data, data)
		by[d.ID] = data
		if p, ok := s.byID[at.pool]; ok {
			p.Datasets = append(p.Datasets, data)
		}
	}
	for c := range lab.Each[lab.Copy](s.lab) {
		if d := by[c.Dataset]; d != nil {
			ran, known := days[c.Last]
			if !known {
				ran, _ = c.Last.Last()
				days[c.Last] = ran
			}
			d.Copies = append(d.Copies, Held{Copy: &c, Holder: *c.To, site: s.siteOf(*c.To), ran: ran})
		}
	}
	slices.SortFunc(s.data, byWorth)
	for _, p := range s.pools {
		slices.SortFunc(p.Datasets, byWorth)
	}
	for _, d := range s.data {
		s.place(d)
	}
	s.fill()
	for _, d := range s.data {
		for _, c := range d.Copies {
			if p, ok := s.byID[c.Holder.Pool]; ok && c.Counts() {
				p.Copies = append(p.Copies, d)
			}
		}
	}
	for _, d := range s.data {
		s.film(d)
	}
}

func byWorth(a, b *Data) int {
	return cmp.Or(a.Worth.Rank()-b.Worth.Rank(), cmp.Compare(a.folded, b.folded), cmp.Compare(a.ID, b.ID))
}

// place tells how far each copy is from its original, and how old it gets.
func (s *Storage) place(d *Data) {
	home := d.Original.site
	for i := range d.Copies {
		c := &d.Copies[i]
		at := *c.site
		if c.Copy.At != "" {
			at.place, at.outside = c.Copy.At, s.lab.OutsideTheHouse(c.Copy.At)
		}
		c.Outside = at.outside || c.Copy.Outside
		switch {
		case c.Outside && !d.Original.Outside:
			c.Where = OutOfTheHouse
		case at.pool != "" && at.pool == home.pool:
			c.Where = SamePool
		case at.apart == home.apart:
			c.Where = SameDevice
		case at.place != "" && home.place != "" && at.place != home.place:
			c.Where = AnotherPlace
		default:
			c.Where = AnotherDevice
		}
		c.AtMostH = d.ages(c, func(c *lab.Copy) *float64 { return c.EveryH })
	}
	if len(d.Copies) < 2 {
		return
	}
	slices.SortStableFunc(d.Copies, func(a, b Held) int {
		return slices.Index(Distances(), a.Where) - slices.Index(Distances(), b.Where)
	})
}

// Source is the copy that another one is made of; nil for the original, and where
// nothing copies the dataset to where it is said to be made of.
func (d *Data) Source(c *lab.Copy) *Held {
	if c.From == nil {
		return nil
	}
	for i := range d.Copies {
		if d.Copies[i].Holder == *c.From {
			return &d.Copies[i]
		}
	}
	return nil
}

// ages adds up along a chain what each copy in it says; nil where one does not.
func (d *Data) ages(c *Held, of func(*lab.Copy) *float64) *float64 {
	sum := 0.0
	for at, steps := c, 0; at != nil && steps <= len(d.Copies); steps++ {
		h := of(at.Copy)
		if h == nil {
			return nil
		}
		sum += *h
		at = d.Source(at.Copy)
	}
	return &sum
}

// Age is how old a copy is on a day, in hours, by when it last ran: nil while that is not
// known. What a copy of a copy holds is as old as its source was when it ran, which is
// since the source's own last run or, where that was later, as old as its schedule lets
// it get.
func (d *Data) Age(c Held, today lab.Day) *float64 {
	now, err := time.Parse(time.DateOnly, string(today))
	if age, ok := d.age(&c, now); ok && err == nil {
		return &age
	}
	return nil
}

func (d *Data) age(c *Held, now time.Time) (hours float64, ok bool) {
	if c.Copy == nil || c.Copy.EveryH != nil && *c.Copy.EveryH == 0 && c.Copy.From == nil {
		return 0, true // it follows at once
	}
	if c.ran.IsZero() {
		return 0, false
	}
	hours = max(0, now.Sub(c.ran).Hours())
	source := d.Source(c.Copy)
	if source == nil {
		return hours, true
	}
	was, ok := d.age(source, c.ran)
	if !ok || source.ran.After(c.ran) {
		if source.AtMostH == nil {
			return 0, false
		}
		was = *source.AtMostH
	}
	return hours + was, true
}

// fill finds the copies that do not fit where they go: what lives there goes first, then
// what matters most.
func (s *Storage) fill() {
	left := map[*site]int64{}
	room := func(h lab.Holder, at *site) (int64, bool) {
		if n, known := left[at]; known {
			return n, true
		}
		var n int64
		if p, ok := s.byID[h.Pool]; ok {
			bytes, known := p.Fillable()
			if !known {
				return 0, false
			}
			n = bytes
			for _, d := range p.Datasets {
				if d.Bytes != nil {
					n -= *d.Bytes
				}
			}
		} else if p, ok := lab.Find[lab.Part](s.lab, h.Part); ok && p.SizeBytes != nil {
			n = *p.SizeBytes
		} else {
			return 0, false
		}
		left[at] = n
		return n, true
	}
	for _, d := range s.data {
		if d.Bytes == nil {
			continue
		}
		for i := range d.Copies {
			c := &d.Copies[i]
			n, known := room(c.Holder, c.site)
			if !known || c.Where == SamePool {
				continue
			}
			if c.Part = *d.Bytes > n; c.Part {
				continue
			}
			left[c.site] = n - *d.Bytes
		}
	}
}

// film works out how many days of cameras there is room for: usable bits, less what else
// is on the pool, by the sum of their bit rates.
func (s *Storage) film(d *Data) {
	day, ok := d.Films.BytesADay()
	if !ok {
		return
	}
	if d.Bytes != nil {
		d.DaysKept = float64(*d.Bytes) / day
		return
	}
	p, ok := s.byID[d.Original.site.pool]
	if !ok {
		return
	}
	room, known := p.Fillable()
	others, _ := p.Promised()
	if others += p.CopiesIn(); known && room > others {
		d.DaysKept = float64(room-others) / day
	}
}

// Counts reports whether a copy counts as one: it is whole, and in another pool.
func (h *Held) Counts() bool { return h.Where != SamePool && !h.Part }

// Count is how many of it there are, on how many devices and how many out of the house,
// the original counted.
func (d *Data) Count() (copies, devices, outside int) {
	apart := map[string]bool{}
	for h := range d.each {
		if !h.Counts() {
			continue
		}
		copies++
		apart[h.site.apart] = true
		if h.Outside {
			outside++
		}
	}
	return copies, len(apart), outside
}

// Holds321 reports whether there are three of it, on two devices at least, and one out
// of the house.
func (d *Data) Holds321() bool {
	copies, devices, outside := d.Count()
	return copies >= 3 && devices >= 2 && outside >= 1
}

// Restored is when somebody last got something back from a copy, "" where nobody did.
func (d *Data) Restored() lab.When {
	var last lab.When
	for _, c := range d.Copies {
		last = max(last, c.Copy.Restored)
	}
	return last
}

// Scope is what goes: the pool a dataset lives in, its device, the house.
type Scope string

// The scopes there are.
const (
	OfPool   Scope = "pool"
	OfDevice Scope = "device"
	OfHouse  Scope = "house"
)

// Loss is what is lost of a dataset: all of it, or what came in the hours since what is
// left of it was made, by the schedules at most and by the last runs now; nil while
// unknown.
type Loss struct {
	All          bool
	AtMostH, Now *float64
}

// LossIf is what is lost of a dataset when something goes, on a day.
func (s *Storage) LossIf(d *Data, gone Scope, today lab.Day) Loss {
	return d.lossOf(func(h *Held) bool { return s.survives(d, h, gone) }, today)
}

// survives reports whether the original or a copy is left.
func (s *Storage) survives(d *Data, h *Held, gone Scope) bool {
	home := d.Original.site
	switch gone {
	case OfPool:
		if home.pool == "" {
			return h.Holder != d.Original.Holder
		}
		return h.site.pool != home.pool
	case OfDevice:
		if h.Copy == nil && s.elsewhereToo(h.site.pool) {
			return true
		}
		return h.site.apart != home.apart
	}
	return h.Outside
}

// elsewhereToo reports whether all that is on a pool is on several devices.
func (s *Storage) elsewhereToo(pool lab.ID) bool {
	p, ok := s.byID[pool]
	if !ok {
		return false
	}
	_, data, is := p.HostsMayGo()
	return is && data > 0
}

func (d *Data) lossOf(left func(*Held) bool, today lab.Day) Loss {
	loss := Loss{All: true}
	now, err := time.Parse(time.DateOnly, string(today))
	for h := range d.each {
		if h.Part || !left(h) {
			continue
		}
		loss.All = false
		if h.AtMostH != nil && (loss.AtMostH == nil || *h.AtMostH < *loss.AtMostH) {
			loss.AtMostH = h.AtMostH
		}
		if age, ok := d.age(h, now); ok && err == nil && (loss.Now == nil || age < *loss.Now) {
			loss.Now = &age
		}
	}
	return loss
}

// Late reports whether a copy should have run twice since it last did.
func (d *Data) Late(h Held, today lab.Day) bool {
	if h.Copy == nil || h.Copy.EveryH == nil || *h.Copy.EveryH == 0 {
		return false
	}
	now, err := time.Parse(time.DateOnly, string(today))
	return err == nil && !h.ran.IsZero() && now.Sub(h.ran).Hours() > 2*max(24, *h.Copy.EveryH)
}

// Title is what it lies on as a person calls it.
func (h *Held) Title() string { return h.site.title }

// Device is the one that holds it, "" where none is known to.
func (h *Held) Device() lab.ID { return h.site.device }
