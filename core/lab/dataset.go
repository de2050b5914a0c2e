package lab

import "slices"

// Holder is where data lies, by one of these.
type Holder struct {
	Pool   ID `json:"pool_id,omitempty"`
	Device ID `json:"device_id,omitempty" description:"Where its pools are not said"`
	Part   ID `json:"part_id,omitempty" description:"A single drive"`
	Place  ID `json:"place_id,omitempty" description:"Where what it lies on there is not said"`
}

// HolderOf is a record as what data lies on; ok is false where none can.
func HolderOf(k Key) (h Holder, ok bool) {
	switch k.Kind {
	case KindPool:
		h.Pool = k.ID
	case KindDevice:
		h.Device = k.ID
	case KindPart:
		h.Part = k.ID
	case KindPlace:
		h.Place = k.ID
	default:
		return h, false
	}
	return h, true
}

// Key is the record that it is.
func (h Holder) Key() Key {
	switch {
	case h.Pool != "":
		return Key{KindPool, h.Pool}
	case h.Device != "":
		return Key{KindDevice, h.Device}
	case h.Part != "":
		return Key{KindPart, h.Part}
	}
	return Key{KindPlace, h.Place}
}

func (h *Holder) ref(field string, gone Gone) []Ref {
	if h == nil {
		return nil
	}
	key := h.Key()
	return []Ref{{field + "." + string(key.Kind) + "_id", key, gone}}
}

func (h *Holder) check(f *faults, field string) {
	if h == nil {
		return
	}
	if one, _ := HolderOf(h.Key()); one != *h || h.Key().ID == "" {
		f.add(field, "name one thing that it lies on: a pool, a device, a drive or a place")
	}
}

// HolderWords is what data lies on as a person calls it.
func (l *Lab) HolderWords(h *Holder) string {
	if h == nil {
		return ""
	}
	switch r := l.Get(h.Key()).(type) {
	case Pool:
		return l.PoolWords(r)
	case nil:
		return ""
	default:
		return r.Title()
	}
}

// Worth is how much something matters.
type Worth string

// What the household lives with, what the lab needs, what would be no loss.
const (
	Household Worth = "household"
	ForLab    Worth = "lab"
	Toy       Worth = "toy"
)

// Worths lists them, what matters most first.
func Worths() []Worth { return []Worth{Household, ForLab, Toy} }

// Enum lists them for the published schema.
func (Worth) Enum() []any { return anys(Worths()) }

// Rank orders by how much it matters: 0 for what matters most; what nobody said comes
// before toys.
func (w Worth) Rank() int {
	switch w {
	case Household:
		return 0
	case ForLab:
		return 1
	case "":
		return 2
	}
	return 3
}

// Dataset is data that is spoken of by a name.
type Dataset struct {
	ID     ID         `json:"id" required:"true"`
	Name   string     `json:"name" required:"true" maxLength:"80" lab:"name"`
	On     *Holder    `json:"on" required:"true" description:"What the original lies on"`
	Bytes  *int64     `json:"size_bytes,omitempty"`
	SizeOn When       `json:"size_on,omitempty" description:"The day on which that was so"`
	Grows  *int64     `json:"grows_bytes,omitempty" description:"In a month"`
	Worth  Worth      `json:"worth,omitempty"`
	Guest  ID         `json:"guest_id,omitempty" description:"The VM or container whose disk it is"`
	Films  *Recording `json:"films,omitempty" description:"What cameras write"`

	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"What it is, in a sentence"`
	Notes   string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Recording is what cameras write.
type Recording struct {
	Cameras *int     `json:"cameras,omitempty" minimum:"1" maximum:"1000" description:"How many there are"`
	Mbit    *float64 `json:"mbit,omitempty" description:"What each writes, in Mbit/s"`
	Hours   *float64 `json:"hours,omitempty" description:"Hours a day; all day unless said"`
	Days    *float64 `json:"days,omitempty" description:"So many days are kept"`
}

// BytesADay is what they write in a day; ok is false while that is unknown.
func (r *Recording) BytesADay() (float64, bool) {
	if r == nil || r.Cameras == nil || r.Mbit == nil {
		return 0, false
	}
	hours := 24.0
	if r.Hours != nil {
		hours = *r.Hours
	}
	return float64(*r.Cameras) * *r.Mbit * 1e6 / 8 * hours * 3600, true
}

// Key implements Record.
func (d Dataset) Key() Key { return Key{KindDataset, d.ID} }

// Title implements Record.
func (d Dataset) Title() string { return titleOr(d.Name, "a dataset") }

// Refs implements Record.
func (d Dataset) Refs() []Ref {
	refs := d.On.ref("on", GoAlong)
	if d.Guest != "" {
		refs = append(refs, Ref{"guest_id", Key{KindDevice, d.Guest}, GoAlong})
	}
	return refs
}

func (d Dataset) uniques() []Unique {
	if d.On == nil {
		return nil
	}
	return []Unique{DatasetKey(*d.On, d.Name)}
}

// DatasetKey is what a dataset is told by: what it lies on and its name.
func DatasetKey(on Holder, name string) Unique {
	return Unique{"name", string(on.Key().ID) + "\n" + name}
}

func (d Dataset) check(f *faults) {
	f.id(d.ID)
	f.need("name", d.Name)
	f.name("name", d.Name)
	if d.On == nil {
		f.add("on", "say which pool it is on")
	}
	d.On.check(f, "on")
	f.atLeastNone("size_bytes", d.Bytes)
	f.when("size_on", d.SizeOn)
	f.atLeastNone("grows_bytes", d.Grows)
	optional(f, "worth", d.Worth, Worths())
	if r := d.Films; r != nil {
		f.counted("films.cameras", r.Cameras, 1000)
		f.between("films.mbit", r.Mbit, 0.01, 10_000, "Mbit/s")
		f.between("films.hours", r.Hours, 0.1, 24, "hours a day")
		f.between("films.days", r.Days, 0.1, 10_000, "days")
	}
	f.line("purpose", d.Purpose, maxPurpose)
	f.text("notes", d.Notes, maxNotes)
	d.Remarked.check(f)
}

// checkIn finds copies of the dataset that lead back to it once it lies elsewhere.
func (d Dataset) checkIn(l *Lab, f *faults) {
	if g, ok := Find[Device](l, d.Guest); ok && !g.IsGuest() {
		f.add("guest_id", "%s is a %s; only a VM or a container has a disk on a pool", quote(g.Title()), g.KindWords())
	}
	for _, c := range l.CopiesOf(d.ID) {
		if c.To != nil && *c.To == *d.On {
			f.add("on", "a copy of it goes to %s already; a thing is no copy of itself", quote(l.HolderWords(d.On)))
		}
	}
}

// atLeastNone checks a number of bytes that may be none.
func (f *faults) atLeastNone(field string, n *int64) {
	if n != nil && (*n < 0 || *n > mostBytes) {
		f.add(field, "%d bytes is out of range: it is between none and 10 PB, or left out while unknown", *n)
	}
}

// ShareProtocol is how a share is reached.
type ShareProtocol string

var shareProtocols = []ShareProtocol{"smb", "nfs", "afp", "iscsi", "webdav", "sftp", "s3"}

// ShareProtocols lists them.
func ShareProtocols() []ShareProtocol { return slices.Clone(shareProtocols) }

// Enum lists them for the published schema.
func (ShareProtocol) Enum() []any { return anys(shareProtocols) }

// Mounting is what a mount goes by.
type Mounting string

// A mount by name needs a name server that answers; one by address does not.
const (
	ByName    Mounting = "name"
	ByAddress Mounting = "address"
)

// Enum lists both for the published schema.
func (Mounting) Enum() []any { return anys([]Mounting{ByName, ByAddress}) }

// NetworkShare is a dataset as others reach it.
type NetworkShare struct {
	ID      ID            `json:"id" required:"true"`
	Name    string        `json:"name" required:"true" maxLength:"80" lab:"name"`
	Dataset ID            `json:"dataset_id" required:"true"`
	Over    ShareProtocol `json:"protocol,omitempty"`
	To      []ID          `json:"to_device_ids,omitempty" nullable:"false" maxItems:"200" description:"Who mounts it"`
	By      Mounting      `json:"mounted_by,omitempty" description:"Absent while unknown"`

	Notes string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (s NetworkShare) Key() Key { return Key{KindShare, s.ID} }

// Title implements Record.
func (s NetworkShare) Title() string { return titleOr(s.Name, "a share") }

// Refs implements Record.
func (s NetworkShare) Refs() []Ref {
	refs := []Ref{{"dataset_id", Key{KindDataset, s.Dataset}, GoAlong}}
	for _, id := range s.To {
		refs = append(refs, Ref{"to_device_ids", Key{KindDevice, id}, Clear})
	}
	return refs
}

func (s NetworkShare) uniques() []Unique {
	return []Unique{{"name", string(s.Dataset) + "\n" + s.Name}}
}

func (s NetworkShare) check(f *faults) {
	f.id(s.ID)
	f.need("name", s.Name)
	f.name("name", s.Name)
	if s.Dataset == "" {
		f.add("dataset_id", "say of which dataset it is")
	}
	optional(f, "protocol", s.Over, shareProtocols)
	optional(f, "mounted_by", s.By, []Mounting{ByName, ByAddress})
	if len(s.To) > 200 || len(slices.Compact(slices.Sorted(slices.Values(s.To)))) < len(s.To) {
		f.add("to_device_ids", "name each device once, and at most 200")
	}
	f.text("notes", s.Notes, maxNotes)
	s.Remarked.check(f)
}

// Copy is a copy of a dataset that is made again and again.
type Copy struct {
	ID       ID       `json:"id" required:"true"`
	Dataset  ID       `json:"dataset_id" required:"true"`
	From     *Holder  `json:"from,omitempty" description:"Another copy that it is made of; of the original unless said"`
	To       *Holder  `json:"to" required:"true"`
	EveryH   *float64 `json:"every_h,omitempty" description:"Hours from one run to the next; 0 where it follows at once"`
	Kept     *int     `json:"kept,omitempty" minimum:"1" maximum:"100000" description:"How many older states are kept"`
	Last     When     `json:"last,omitempty" description:"When it last ran"`
	Restored When     `json:"restored,omitempty" description:"When somebody last got something back from it"`
	Coded    Coded    `json:"encryption,omitempty" description:"Absent while unknown"`
	KeyAt    string   `json:"key_at,omitempty" maxLength:"200" description:"Where the key is" lab:"private"`
	ByHand   bool     `json:"by_hand,omitempty"`
	Outside  bool     `json:"outside,omitempty" description:"It is kept outside the house"`
	At       ID       `json:"place_id,omitempty" description:"Of a drive: where it is kept"`
	Via      ID       `json:"tunnel_id,omitempty" description:"The tunnel that it goes through"`

	Notes string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Coded is whether a copy can be read without a key.
type Coded string

// It cannot, or it can.
const (
	Encrypted Coded = "encrypted"
	Plain     Coded = "plain"
)

// Enum lists both for the published schema.
func (Coded) Enum() []any { return anys([]Coded{Encrypted, Plain}) }

// Key implements Record.
func (c Copy) Key() Key { return Key{KindCopy, c.ID} }

// Title implements Record. CopyWords names both ends.
func (c Copy) Title() string { return "a copy" }

// CopyWords is a copy by what it is of and where it goes: choir scores to silo/hold.
func (l *Lab) CopyWords(c Copy) string {
	d, _ := Find[Dataset](l, c.Dataset)
	return d.Title() + " to " + l.HolderWords(c.To)
}

// Refs implements Record.
func (c Copy) Refs() []Ref {
	refs := slices.Concat([]Ref{{"dataset_id", Key{KindDataset, c.Dataset}, GoAlong}}, c.From.ref("from", Clear), c.To.ref("to", GoAlong))
	if c.At != "" {
		refs = append(refs, Ref{"place_id", Key{KindPlace, c.At}, Clear})
	}
	if c.Via != "" {
		refs = append(refs, Ref{"tunnel_id", Key{KindTunnel, c.Via}, Clear})
	}
	return refs
}

// uniques: there is one copy of a dataset in each place.
func (c Copy) uniques() []Unique {
	if c.To == nil {
		return nil
	}
	return []Unique{{"to", string(c.Dataset) + "\n" + string(c.To.Key().ID)}}
}

func (c Copy) check(f *faults) {
	f.id(c.ID)
	if c.Dataset == "" {
		f.add("dataset_id", "say of which dataset it is")
	}
	if c.To == nil {
		f.add("to", "say where it goes: to a pool, a device, a drive or a place")
	}
	c.From.check(f, "from")
	c.To.check(f, "to")
	if c.From != nil && c.To != nil && *c.From == *c.To {
		f.add("to", "it would be a copy onto itself; name another place")
	}
	f.between("every_h", c.EveryH, 0, 100_000, "hours")
	f.counted("kept", c.Kept, 100_000)
	f.when("last", c.Last)
	f.when("restored", c.Restored)
	optional(f, "encryption", c.Coded, []Coded{Encrypted, Plain})
	f.line("key_at", c.KeyAt, 200)
	if c.KeyAt != "" && c.Coded != Encrypted {
		f.add("key_at", "only what is encrypted has a key")
	}
	f.text("notes", c.Notes, maxNotes)
	c.Remarked.check(f)
}

// checkIn finds a copy that goes round in a circle, or back to where the original lies.
func (c Copy) checkIn(l *Lab, f *faults) {
	d, _ := Find[Dataset](l, c.Dataset)
	if d.On != nil && *d.On == *c.To {
		f.add("to", "%s lies on %s itself; a thing is no copy of itself", quote(d.Title()), quote(l.HolderWords(c.To)))
		return
	}
	into := map[Holder]Copy{}
	for _, o := range l.CopiesOf(c.Dataset) {
		if o.To != nil {
			into[*o.To] = o
		}
	}
	for at, steps := c, 0; at.From != nil && steps <= len(into); steps++ {
		if *at.From == *c.To {
			f.add("from", "the copies go round in a circle: %s is made of what is made of it", quote(l.HolderWords(c.To)))
			return
		}
		from, ok := into[*at.From]
		if !ok {
			return
		}
		at = from
	}
}

// CopiesOf are the copies of a dataset, oldest first.
func (l *Lab) CopiesOf(dataset ID) []Copy {
	var list []Copy
	for by := range l.UsersOf(Key{KindDataset, dataset}) {
		if c, ok := by.(Copy); ok {
			list = append(list, c)
		}
	}
	return list
}

// OutsideTheHouse reports whether a place is outside the house, as it is where it is
// in one that is.
func (l *Lab) OutsideTheHouse(place ID) bool {
	for range MostNested + 1 {
		p, ok := Find[Place](l, place)
		if !ok {
			return false
		}
		if p.Outside {
			return true
		}
		place = p.In
	}
	return false
}
