package lab

import "slices"

// Template is what guests are made from.
type Template struct {
	ID    ID     `json:"id" required:"true"`
	Name  string `json:"name" required:"true" maxLength:"80" lab:"name"`
	VCPUs *int   `json:"vcpus,omitempty" minimum:"1" maximum:"1024"`
	Given *int64 `json:"given_bytes,omitempty" description:"Memory that a guest made from it is given"`
	Disk  *int64 `json:"disk_bytes,omitempty"`

	System    string `json:"system,omitempty" maxLength:"80"`
	Version   string `json:"system_version,omitempty" maxLength:"40"`
	Supported When   `json:"supported_until,omitempty"`
	Notes     string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (t Template) Key() Key { return Key{KindTemplate, t.ID} }

// Title implements Record.
func (t Template) Title() string { return titleOr(t.Name, "a template") }

// Refs implements Record.
func (t Template) Refs() []Ref { return nil }

func (t Template) uniques() []Unique { return byName(t.Name) }

func (t Template) check(f *faults) {
	f.id(t.ID)
	f.need("name", t.Name)
	f.name("name", t.Name)
	Guesting{VCPUs: t.VCPUs, Given: t.Given}.check(f)
	f.atLeastNone("disk_bytes", t.Disk)
	Hosting{System: t.System, Version: t.Version, Supported: t.Supported}.check(f)
	f.text("notes", t.Notes, maxNotes)
	t.Remarked.check(f)
}

// Service is what a person uses, in a guest or on a device.
type Service struct {
	ID      ID          `json:"id" required:"true"`
	Name    string      `json:"name" required:"true" maxLength:"80" lab:"name"`
	In      ID          `json:"in_device_id,omitempty" description:"The guest or device that it runs in; absent while unknown"`
	Listens []Listening `json:"listens,omitempty" nullable:"false" maxItems:"64"`
	Speaks  Speech      `json:"speaks,omitempty"`
	Worth   Worth       `json:"worth,omitempty"`
	State   State       `json:"state" required:"true"`
	UsedBy  []string    `json:"used_by,omitempty" nullable:"false" maxItems:"32" description:"Who notices when it is gone"`
	Exposed

	Purpose string `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes   string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Speech is what a service speaks, as an address in a browser begins.
type Speech string

// Speeches lists them.
func Speeches() []Speech { return slices.Clone(speeches) }

var speeches = []Speech{"https", "http", "ssh", "smtp", "imap", "mqtt", "dns", "rtsp", "other"}

// Enum lists them for the published schema.
func (Speech) Enum() []any { return anys(speeches) }

// Key implements Record.
func (s Service) Key() Key { return Key{KindService, s.ID} }

// Title implements Record.
func (s Service) Title() string { return titleOr(s.Name, "a service") }

// Refs implements Record.
func (s Service) Refs() []Ref {
	if s.In == "" {
		return nil
	}
	return []Ref{{"in_device_id", Key{KindDevice, s.In}, Clear}}
}

func (s Service) uniques() []Unique { return byName(s.Name) }

func (s Service) withDefaults() Record {
	if s.State == "" {
		s.State = Running
	}
	s.Exposed = s.Exposed.withDefaults()
	return s
}

func (s Service) check(f *faults) {
	f.id(s.ID)
	f.need("name", s.Name)
	f.name("name", s.Name)
	f.listening(s.Listens)
	optional(f, "speaks", s.Speaks, speeches)
	optional(f, "worth", s.Worth, Worths())
	oneOf(f, "state", s.State, states)
	f.names("used_by", s.UsedBy, 32)
	s.Exposed.check(f)
	f.line("purpose", s.Purpose, maxPurpose)
	f.text("notes", s.Notes, maxNotes)
	s.Remarked.check(f)
}

// names takes a list of names.
func (f *faults) names(field string, list []string, most int) {
	if len(list) > most {
		f.add(field, "has %d entries; at most %d are allowed", len(list), most)
	}
	for _, name := range list {
		f.need(field, name)
		f.name(field, name)
	}
}

// Cluster is hosts that take each other's guests.
type Cluster struct {
	ID     ID     `json:"id" required:"true"`
	Name   string `json:"name" required:"true" maxLength:"80" lab:"name"`
	Hosts  []ID   `json:"host_ids" required:"true" nullable:"false" minItems:"2" maxItems:"200"`
	Shared []ID   `json:"shared_pool_ids,omitempty" nullable:"false" maxItems:"32" description:"Pools that all of them reach"`
	Guests *int   `json:"guest_count,omitempty" minimum:"1" maximum:"10000" description:"Those on it that nobody lists one by one"`
	Given  *int64 `json:"given_bytes,omitempty" description:"Memory that those are given together"`
	Notes  string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (c Cluster) Key() Key { return Key{KindCluster, c.ID} }

// Title implements Record.
func (c Cluster) Title() string { return titleOr(c.Name, "a cluster") }

// Refs implements Record.
func (c Cluster) Refs() []Ref {
	var refs []Ref
	for _, id := range c.Hosts {
		refs = append(refs, Ref{"host_ids", Key{KindDevice, id}, Clear})
	}
	for _, id := range c.Shared {
		refs = append(refs, Ref{"shared_pool_ids", Key{KindPool, id}, Clear})
	}
	return refs
}

func (c Cluster) uniques() []Unique { return byName(c.Name) }

// without is the cluster without a host or a pool that is gone: nothing where one host
// is left.
func (c Cluster) without(of Key) Record {
	is := func(id ID) bool { return id == of.ID }
	c.Hosts, c.Shared = slices.DeleteFunc(slices.Clone(c.Hosts), is), slices.DeleteFunc(slices.Clone(c.Shared), is)
	if len(c.Shared) == 0 {
		c.Shared = nil
	}
	if len(c.Hosts) < 2 {
		return nil
	}
	return c
}

func (c Cluster) check(f *faults) {
	f.id(c.ID)
	f.need("name", c.Name)
	f.name("name", c.Name)
	if len(c.Hosts) < 2 || len(c.Hosts) > 200 {
		f.add("host_ids", "a cluster is 2 to 200 hosts, not %d; name another one, such as cluster %s: anvil, thrush", len(c.Hosts), quote(c.Name))
	}
	for field, list := range map[string][]ID{"host_ids": c.Hosts, "shared_pool_ids": c.Shared} {
		if len(slices.Compact(slices.Sorted(slices.Values(list)))) < len(list) {
			f.add(field, "name each once")
		}
	}
	if c.Guests != nil && (*c.Guests < 1 || *c.Guests > 10_000) {
		f.add("guest_count", "there are 1 to 10000 of them, not %d", *c.Guests)
	}
	f.memory("given_bytes", c.Given)
	f.text("notes", c.Notes, maxNotes)
	c.Remarked.check(f)
}

// checkIn finds a host that can be none, or is in another cluster.
func (c Cluster) checkIn(l *Lab, f *faults) {
	for _, id := range c.Hosts {
		if d, _ := Find[Device](l, id); d.IsGuest() || !d.mayHost() {
			f.add("host_ids", "%s is a %s and runs no guests", quote(d.Title()), d.KindWords())
		}
		for by := range l.UsersOf(Key{KindDevice, id}) {
			if o, ok := by.(Cluster); ok && o.ID != c.ID {
				d, _ := Find[Device](l, id)
				f.add("host_ids", "%s is in the cluster %s already; a host is in one", quote(d.Title()), quote(o.Title()))
			}
		}
	}
}

// Stack is guests and services that only make sense together.
type Stack struct {
	ID       ID     `json:"id" required:"true"`
	Name     string `json:"name" required:"true" maxLength:"80" lab:"name"`
	Guests   []ID   `json:"guest_ids,omitempty" nullable:"false" maxItems:"100"`
	Services []ID   `json:"service_ids,omitempty" nullable:"false" maxItems:"100"`
	Purpose  string `json:"purpose,omitempty" maxLength:"500" description:"What it is for, in a sentence"`
	Notes    string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// Key implements Record.
func (s Stack) Key() Key { return Key{KindStack, s.ID} }

// Title implements Record.
func (s Stack) Title() string { return titleOr(s.Name, "a stack") }

// Refs implements Record.
func (s Stack) Refs() []Ref {
	var refs []Ref
	for _, id := range s.Guests {
		refs = append(refs, Ref{"guest_ids", Key{KindDevice, id}, Clear})
	}
	for _, id := range s.Services {
		refs = append(refs, Ref{"service_ids", Key{KindService, id}, Clear})
	}
	return refs
}

func (s Stack) uniques() []Unique { return byName(s.Name) }

func (s Stack) check(f *faults) {
	f.id(s.ID)
	f.need("name", s.Name)
	f.name("name", s.Name)
	for field, list := range map[string][]ID{"guest_ids": s.Guests, "service_ids": s.Services} {
		if len(slices.Compact(slices.Sorted(slices.Values(list)))) < len(list) || len(list) > 100 {
			f.add(field, "name each once, and at most 100")
		}
	}
	f.line("purpose", s.Purpose, maxPurpose)
	f.text("notes", s.Notes, maxNotes)
	s.Remarked.check(f)
}
