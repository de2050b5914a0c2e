package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var (
	ofTemplate = scope(lab.KindTemplate)
	ofService  = scope(lab.KindService)
	ofCluster  = scope(lab.KindCluster)
	ofStack    = scope(lab.KindStack)
)

// serviceFacts are what can be said of services, of clusters of hosts, of stacks and of
// templates.
func serviceFacts() []fact {
	return slices.Concat(templateFacts(), ownServiceFacts(), clusterFacts(), stackFacts())
}

func templateFacts() []fact {
	disk := wholeMeasure(ofTemplate, "disk", "disk_bytes", text.Capacity, []string{"disk"}, "disk 32GB", "disk %s",
		func(t *lab.Template) **int64 { return &t.Disk }).optional()
	disk.matches = func(tokens []text.Token) bool {
		q, n := text.ReadQuantity(tokens)
		return n > 0 && n == len(tokens)-1 && tokens[n].Is("disk") && isIn(text.Capacity)(q)
	}
	read := disk.read
	disk.read = func(tokens []text.Token, lax bool) (any, error) {
		if disk.matches(tokens) {
			tokens = tokens[:len(tokens)-1]
		}
		return read(tokens, lax)
	}
	return []fact{
		tally(ofTemplate, "virtual CPUs", "vcpus", []string{"vcpu", "vcpus", "cores", "core", "cpu", "cpus", "threads"}, "2 vcpu", "%s vcpu",
			func(t *lab.Template) **int { return &t.VCPUs }),
		wholeMeasure(ofTemplate, "memory", "given_bytes", text.Memory, []string{"memory", "ram"}, "2GB", "",
			func(t *lab.Template) **int64 { return &t.Given }).barely(isIn(text.Memory)),
		disk,
		written(ofTemplate, "system", "system", []string{"system"}, `system "Tarn"`, func(t *lab.Template) *string { return &t.System },
			text.Quote).optional(),
		written(ofTemplate, "system version", "system_version", []string{"system version", "version"}, "version 9.1",
			func(t *lab.Template) *string { return &t.Version }, text.Quote).optional(),
		day(ofTemplate, "supported until", "supported_until", []string{"supported until", "until"}, "supported until 2027-06",
			func(t *lab.Template) *lab.When { return &t.Supported }).optional(),
		remarks(ofTemplate, func(t *lab.Template) *[]string { return &t.Remarks }),
		note(ofTemplate, func(t *lab.Template) *string { return &t.Notes }),
	}
}

func ownServiceFacts() []fact {
	return slices.Concat(serviceOwnFacts(), exposedFacts(ofService, func(s *lab.Service) *lab.Exposed { return &s.Exposed }), []fact{
		remarks(ofService, func(s *lab.Service) *[]string { return &s.Remarks }),
		note(ofService, func(s *lab.Service) *string { return &s.Notes }),
	})
}

func serviceOwnFacts() []fact {
	in := onDevice(ofService, "runs in", []string{"in", "on", "runs in", "runs on"}, func(s *lab.Service) *lab.ID { return &s.In })
	in.field, in.file, in.maybe = "in_device_id", "in", false
	speaks := choice(ofService, "speaks", "speaks", func(s *lab.Service) *lab.Speech { return &s.Speaks }, speechOptions())
	return []fact{
		in,
		choice(ofService, "state", "state", func(s *lab.Service) *lab.State { return &s.State }, serviceStates()),
		listens(ofService, func(s *lab.Service) *[]lab.Listening { return &s.Listens }),
		speaks.optional(),
		worth(ofService, func(s *lab.Service) *lab.Worth { return &s.Worth }),
		usedBy(),
		written(ofService, "what it is for", "purpose", []string{"for"}, `for "34 singers"`, func(s *lab.Service) *string { return &s.Purpose },
			text.Quote).optional(),
	}
}

// serviceStates are the words for the states of a service without “on”, which says where it
// runs.
func serviceStates() []option[lab.State] {
	list := slices.Clone(stateOptions)
	for i, o := range list {
		list[i].also = slices.DeleteFunc(slices.Clone(o.also), func(w string) bool { return w == "on" })
	}
	return list
}

func speechOptions() []option[lab.Speech] {
	var list []option[lab.Speech]
	for _, s := range lab.Speeches() {
		o := option[lab.Speech]{value: s, write: string(s)}
		if s == "other" {
			o.write = "speaks something else"
		}
		list = append(list, o)
	}
	return list
}

// usedBy is who notices when a service is gone: used by "the choir", everyone.
func usedBy() fact {
	show := func(write func(string) string) func(*lab.Lab, box) string {
		return func(_ *lab.Lab, b box) string {
			var said []string
			for _, who := range b.(*lab.Service).UsedBy {
				said = append(said, write(who))
			}
			return strings.Join(said, ", ")
		}
	}
	quoted := show(func(who string) string { return "used by " + text.Quote(who) })
	return fact{of: ofService, name: "used by", field: "used_by", words: []string{"used by"}, example: `used by "the choir"`, many: true,
		adds:   true,
		goesOn: true, maybe: true, show: show(func(who string) string { return who }), write: quoted,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list []string
			for piece := range text.Cut(withCommas(tokens)) {
				if who := strings.TrimSpace(strings.TrimPrefix(text.Joined(piece), "used by ")); who != "" {
					list = append(list, who)
				}
			}
			if list == nil {
				return nil, errors.New(`say who, such as used by "the choir"`)
			}
			return list, nil
		},
		set: func(b box, v any) {
			addEach(&b.(*lab.Service).UsedBy, v, func(was, is string) (string, bool) { return is, lab.FoldName(was) == lab.FoldName(is) })
		}}
}

func clusterFacts() []fact {
	hosts := devicesNamed(ofCluster, "hosts", "host_ids", []string{"hosts", "of", "host", "between"}, "hosts anvil, thrush", func(l *lab.Lab,
		b box) string {
		var said []string
		for _, id := range b.(*lab.Cluster).Hosts {
			said = append(said, refsOf(l).name(id))
		}
		return strings.Join(said, ", ")
	})
	hosts.pattern, hosts.file = "hosts %s", "hosts"
	hosts.set = func(b box, v any) {
		list, _ := v.([]lab.ID)
		addEach(&b.(*lab.Cluster).Hosts, v, func(was, is lab.ID) (lab.ID, bool) { return is, was == is })
		if list == nil {
			b.(*lab.Cluster).Hosts = nil
		}
	}
	given := wholeMeasure(ofCluster, "memory given", "given_bytes", text.Memory, []string{"given", "gives", "memory given", "together"},
		"200GB given",
		"%s given", func(c *lab.Cluster) **int64 { return &c.Given }).optional()
	return []fact{
		hosts,
		sharedPools(),
		tally(ofCluster, "guests nobody lists", "guest_count", []string{"guests", "vms", "vm", "containers"}, "20 guests", "%s guests",
			func(c *lab.Cluster) **int { return &c.Guests }).optional(),
		given,
		remarks(ofCluster, func(c *lab.Cluster) *[]string { return &c.Remarks }),
		note(ofCluster, func(c *lab.Cluster) *string { return &c.Notes }),
	}
}

// poolsSaid are pools by name.
type poolsSaid []string

func (list poolsSaid) in(s setting) (any, error) {
	var ids []lab.ID
	for _, name := range list {
		found := poolsCalled(s.lab, name)
		if len(found) == 0 {
			if id, err := s.named(lab.KindDevice, strings.TrimSuffix(strings.TrimSuffix(name, " pool"), "'s")); err == nil {
				found = poolsOn(s.lab, id)
			}
		}
		switch len(found) {
		case 0:
			return nil, fmt.Errorf("%w; a line such as pool %s on silo makes it", noneCalled(s.lab, lab.KindPool, name),
				text.Quote(text.Short(name)))
		case 1:
			ids = append(ids, found[0].ID)
		default:
			return nil, fmt.Errorf("“%s” may be %d pools; write which, such as %s", text.Short(name), len(found),
				s.lab.PoolWords(found[1]))
		}
	}
	return ids, nil
}

// sharedPools are the pools that all hosts of a cluster reach: shared vault.
func sharedPools() fact {
	show := func(l *lab.Lab, b box) string {
		var said []string
		for _, id := range b.(*lab.Cluster).Shared {
			said = append(said, holderText(l, &lab.Holder{Pool: id}))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: ofCluster, name: "shared pools", field: "shared_pool_ids", words: []string{"shared", "shared pool", "shares",
		"with shared", "shared storage"},
		example: "shared vault", pattern: "shared %s", many: true, goesOn: true, maybe: true, names: lab.KindPool, show: show, file: "shared",
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list poolsSaid
			for piece := range text.Cut(withCommas(tokens)) {
				list = append(list, strings.TrimPrefix(calledIn(piece), "pool "))
			}
			if list == nil {
				return nil, errors.New("name the pool, such as shared vault")
			}
			return list, nil
		},
		set: func(b box, v any) {
			addEach(&b.(*lab.Cluster).Shared, v, func(was, is lab.ID) (lab.ID, bool) { return is, was == is })
		}}
}

// memberSaid is what belongs to a stack, as it is called: a guest or a service.
type memberSaid []string

type membersAre struct{ guests, services []lab.ID }

func (list memberSaid) in(s setting) (any, error) {
	var is membersAre
	for _, name := range list {
		kind, called := "", name
		if word, rest, ok := strings.Cut(name, " "); ok && slices.Contains([]string{"service", "vm", "container"}, word) {
			kind, called = word, rest
		}
		service, isService := s.lab.Named(lab.KindService, called)
		guest, err := s.named(lab.KindDevice, called)
		isGuest := err == nil
		switch {
		case isService && isGuest && kind == "":
			return nil, fmt.Errorf("“%s” is both a service and a guest; write service %s or vm %s", text.Short(name), text.Quote(name),
				text.Quote(name))
		case isService && kind != "vm" && kind != "container":
			is.services = append(is.services, service)
		case isGuest && kind != "service":
			is.guests = append(is.guests, guest)
		default:
			return nil, fmt.Errorf("there is no guest or service called “%s”", text.Short(called))
		}
	}
	return is, nil
}

func stackFacts() []fact {
	show := func(l *lab.Lab, b box) string {
		st := b.(*lab.Stack)
		var said []string
		for _, id := range st.Guests {
			said = append(said, memberText(l, refsOf(l).numbered(id), "vm"))
		}
		for _, id := range st.Services {
			s, _ := lab.Find[lab.Service](l, id)
			said = append(said, memberText(l, s.Name, "service"))
		}
		return strings.Join(said, ", ")
	}
	return []fact{
		{of: ofStack, name: "members", field: "guest_ids", words: []string{"of", "members", "with"}, example: "of solver, viewer",
			pattern: "of %s", many: true,
			goesOn: true, names: lab.KindDevice, show: show, file: "members",
			read: func(tokens []text.Token, _ bool) (any, error) {
				if text.IsUnknown(tokens) {
					return nil, nil
				}
				var list memberSaid
				for piece := range text.Cut(withCommas(tokens)) {
					list = append(list, calledIn(piece))
				}
				if list == nil {
					return nil, errors.New("name what belongs to it, such as solver, viewer")
				}
				return list, nil
			},
			set: func(b box, v any) {
				st := b.(*lab.Stack)
				is, ok := v.(membersAre)
				if !ok {
					st.Guests, st.Services = nil, nil
				}
				same := func(was, is lab.ID) (lab.ID, bool) { return is, was == is }
				if is.guests != nil {
					addEach(&st.Guests, is.guests, same)
				}
				if is.services != nil {
					addEach(&st.Services, is.services, same)
				}
			}},
		written(ofStack, "what it is for", "purpose", []string{"for"}, `for "the sky"`, func(s *lab.Stack) *string { return &s.Purpose },
			text.Quote).optional(),
		remarks(ofStack, func(s *lab.Stack) *[]string { return &s.Remarks }),
		note(ofStack, func(s *lab.Stack) *string { return &s.Notes }),
	}
}

// memberText is a member of a stack as a line names it, with its kind where both a
// service and a guest have the name.
func memberText(l *lab.Lab, name, kind string) string {
	_, service := l.Named(lab.KindService, name)
	_, err := findNamed(l, lab.KindDevice, name)
	if service && err == nil {
		return kind + " " + text.Quote(name)
	}
	return text.Quote(name)
}
