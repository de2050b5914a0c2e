package finding

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/service"
	"levelstaff/core/storage"
)

// serviceChecks are those about hosts, guests and services.
var serviceChecks = []check{
	{"memory-over", "more memory given than fitted", memoryOver},
	{"vcpus-over", "far more vCPUs given than threads", vcpusOver},
	{"toy-beside", "what the household needs beside toys, with no room", toysBeside},
	{"names-together", "all name servers on one host", namesTogether},
	{"guest-vlan", "a guest on a host without its VLAN", guestVLANs},
	{"guest-disk", "a guest's disk on a pool that is not there, or too full", guestDisks},
	{"port-twice", "two things on one port", portTwice},
	{"handed-twice", "one thing handed to two guests", handedTwice},
	{"not-shared", "a guest that is to restart elsewhere without its disk", notShared},
	{"household-stuck", "a guest of the household that can go nowhere else", householdStuck},
	{"runs-on-resting", "a guest that runs on what does not", runsOnResting},
	{"wrong-engine", "a guest on what runs no such guests", wrongEngines},
	{"no-host", "a guest or a service on no host", onNoHost},
}

// supportChecks are those about what is supported no longer.
var supportChecks = []dated{
	{"past-support", "a system past its support", pastSupport},
}

// OfServices runs the checks about hosts, guests and services alone.
func OfServices(l *lab.Lab, today lab.Day) []Finding {
	return run(l, slices.Concat(serviceChecks, on(today, supportChecks)), today)
}

func memoryOver(l *lab.Lab, tell found) {
	for _, h := range service.Of(l).Hosts() {
		left, ok := h.Left()
		if !ok || left >= 0 || h.Fitted.Unknown > 0 {
			continue
		}
		say := fmt.Sprintf("%s has %s, keeps %s and has given %s: %s more than fitted.", h.Title(), service.Memory(h.Fitted.Known),
			service.Memory(h.Kept()), service.Memory(h.Takes.Known), service.Memory(-left))
		if h.Keeps == nil {
			say = fmt.Sprintf("%s has %s and has given %s: %s more than fitted.", h.Title(), service.Memory(h.Fitted.Known),
				service.Memory(h.Takes.Known), service.Memory(-left))
		}
		tell(Act, say, h.Device)
	}
	for g := range service.Of(l).Each() {
		has, inside := g.Guesting.Given, int64(0)
		for _, in := range g.Inside {
			if takes := in.Takes(); takes != nil && in.Runs() {
				inside += *takes
			}
		}
		if has != nil && inside > *has {
			tell(Watch, fmt.Sprintf("%s is given %s, and what runs in it %s.", g.Title(), service.Memory(*has), service.Memory(inside)), g.Device)
		}
	}
}

// manyVCPUs is how many vCPUs a thread has at most before it is by far too many.
const manyVCPUs = 4

func vcpusOver(l *lab.Lab, tell found) {
	for _, h := range service.Of(l).Hosts() {
		n := int64(h.Lanes())
		if n == 0 || h.VCPUs.Known <= manyVCPUs*n {
			continue
		}
		what := "threads"
		if h.Threads.Known == 0 {
			what = "cores"
		}
		tell(Watch, fmt.Sprintf("%s has given %d vCPUs and has %d %s: more than %d to each.", h.Title(), h.VCPUs.Known, n, what, manyVCPUs),
			h.Device)
	}
}

// littleLeft is the part of its memory below which a host has no room.
const littleLeft = 0.1

func toysBeside(l *lab.Lab, tell found) {
	for _, h := range service.Of(l).Hosts() {
		left, ok := h.Left()
		if !ok || float64(left) >= littleLeft*float64(h.Fitted.Known) {
			continue
		}
		var needed, toys []string
		about := []lab.Record{h.Device}
		for _, g := range h.Guests {
			switch {
			case !g.Runs():
			case g.Matters() == lab.Household:
				needed = append(needed, g.Title())
			case g.Matters() == lab.Toy:
				toys, about = append(toys, g.Title()), append(about, g.Device)
			}
		}
		if len(needed) > 0 && len(toys) > 0 {
			tell(Watch, fmt.Sprintf("%s has %s left, and runs toys (%s) beside what the household needs (%s).", h.Title(),
				service.Memory(max(left, 0)), lab.Listed(toys, 3), lab.Listed(needed, 3)), about...)
		}
	}
}

// namesTogether tells of VLANs all of whose name servers, of which there are several, are
// on one host.
func namesTogether(l *lab.Lab, tell found) {
	told := map[string]bool{}
	for v := range lab.Each[lab.VLAN](l) {
		together(l, v.NameServers, "VLAN "+v.Title(), v, told, tell)
	}
	for s := range lab.Each[lab.Subnet](l) {
		together(l, s.NameServers, subnetWords(l, s), s, told, tell)
	}
}

func together(l *lab.Lab, ids []lab.ID, what string, about lab.Record, told map[string]bool, tell found) {
	var hosts []lab.ID
	var names []string
	for _, id := range slices.Compact(slices.Sorted(slices.Values(ids))) {
		d, _ := lab.Find[lab.Device](l, id)
		host, ok := l.HostOf(d)
		if !ok {
			return
		}
		hosts, names = append(hosts, host.ID), append(names, d.Title())
	}
	key := fmt.Sprint(names)
	if len(hosts) < 2 || len(slices.Compact(hosts)) > 1 || told[key] {
		return
	}
	told[key] = true
	host, _ := lab.Find[lab.Device](l, hosts[0])
	tell(Watch, fmt.Sprintf("%s, the name servers of %s, are all on %s: while it is down nothing there has a name.", lab.Listed(names, 3),
		what,
		host.Title()), host, about)
}

func guestVLANs(l *lab.Lab, tell found) {
	s, n := service.Of(l), network.Of(l)
	for g := range s.Each() {
		if g.Host == nil {
			continue
		}
		at, _ := n.Wiring().Number(g.Host.ID)
		for _, leg := range g.Legs() {
			if !s.Lacking(g.Host, leg.VLAN) {
				continue
			}
			f := tell(Act, fmt.Sprintf("%s has a leg in VLAN %d, and no cable carries that to %s.", g.Title(), leg.VLAN, g.Host.Title()), g.Device,
				g.Host.Device)
			if lacks, fix := n.Lacks(at, leg.VLAN); lacks && len(fix) > 0 {
				f.fixedBy(n.Say(fix), n.Changes(fix))
			}
		}
	}
}

func guestDisks(l *lab.Lab, tell found) {
	s, kept := service.Of(l), storage.Of(l)
	for g := range s.Each() {
		if g.Host == nil || !g.Runs() {
			continue
		}
		for _, disk := range g.Disks {
			p, ok := (*storage.Pool)(nil), false
			if disk.On != nil {
				p, ok = kept.Pool(disk.On.Pool)
			}
			if !ok {
				continue
			}
			on, _ := lab.Find[lab.Device](l, p.Device)
			switch {
			case p.Lost:
				tell(Act, fmt.Sprintf("The disk of %s is on %s, of which more drives are gone than it can do without.", g.Title(), p.Name), g.Device,
					p.Pool)
			case on.State != lab.Running:
				tell(Act, fmt.Sprintf("The disk of %s is on %s in %s, which does not run.", g.Title(), p.Name, on.Title()), g.Device, p.Pool)
			case !s.Reaches(g.Host, p.Pool, disk):
				tell(Watch,
					fmt.Sprintf("The disk of %s is on %s in %s, and nothing says that %s reaches it: it mounts no share of it, and shares no such pool.",
						g.Title(), p.Name, on.Title(), g.Host.Title()), g.Device, p.Pool)
			}
			used, _, known := p.Used()
			if full, sized := p.Fillable(); known && sized && full > 0 && float64(used) > storage.Nearly*float64(full) {
				tell(Watch, fmt.Sprintf("The disk of %s is on %s, which is %.0f %% full.", g.Title(), p.Name, 100*float64(used)/float64(full)),
					g.Device, p.Pool)
			}
		}
	}
}

// portTwice tells of two services, or two containers that share an address, on one port.
func portTwice(l *lab.Lab, tell found) {
	type at struct {
		owner lab.ID
		port  lab.Listening
	}
	type taker struct {
		lab.Record
		in lab.ID // the guest that it is, or is in
	}
	taken := map[at]taker{}
	take := func(owner lab.Device, ports []lab.Listening, by taker) {
		for _, p := range ports {
			key := at{owner.ID, p}
			other, is := taken[key]
			switch {
			case !is:
				taken[key] = by
			case other.in != by.in || other.Key().Kind == by.Key().Kind && other.Key() != by.Key():
				tell(Act, fmt.Sprintf("%s and %s are both on %s of %s.", other.Title(), by.Title(), p.Words(), owner.Title()), other.Record, by.Record)
			}
		}
	}
	s := service.Of(l)
	for g := range s.Each() {
		if !g.Runs() {
			continue
		}
		owner := s.AddressedAs(g)
		take(owner, g.Guesting.Listens, taker{g.Device, g.Device.ID})
		for _, v := range g.Services {
			if v.State == lab.Running {
				take(owner, v.Listens, taker{v, g.Device.ID})
			}
		}
	}
	for v := range lab.Each[lab.Service](l) {
		if d, ok := lab.Find[lab.Device](l, v.In); ok && !d.IsGuest() && v.State == lab.Running {
			take(d, v.Listens, taker{v, v.ID})
		}
	}
}

func handedTwice(l *lab.Lab, tell found) {
	s := service.Of(l)
	for _, h := range s.Hosts() {
		has := map[lab.Handed]*service.Guest{}
		h.Each(func(g *service.Guest) {
			for i, one := range g.Handed {
				key := s.HandedAs(h, one)
				if other := has[key]; other != nil && other != g {
					tell(Act, fmt.Sprintf("%s is handed to both %s and %s; only one can have it.", s.ThingWords(g.Handed[i]), other.Title(), g.Title()),
						g.Device, other.Device, h.Device)
				}
				has[key] = g
			}
		})
	}
}

// notShared tells of guests that are to restart elsewhere by themselves, and could not.
func notShared(l *lab.Lab, tell found) {
	s := service.Of(l)
	for _, h := range s.Hosts() {
		for _, g := range h.Guests {
			if g.Elsewhere != lab.ByItself {
				continue
			}
			if h.Cluster == nil {
				tell(Watch, fmt.Sprintf("%s is to restart elsewhere by itself, and %s is in no cluster.", g.Title(), h.Title()), g.Device, h.Device)
				continue
			}
			switch p := s.OwnPool(g); {
			case p != nil:
				tell(Watch, fmt.Sprintf("%s is to restart elsewhere by itself, and its disk is on %s, which is in %s alone.", g.Title(), p.Title(),
					h.Title()), g.Device, *h.Cluster)
			case len(g.Disks) == 0 && len(h.Cluster.Shared) == 0:
				tell(Note, fmt.Sprintf("%s is to restart elsewhere by itself, and nothing says that the hosts of %s share storage.", g.Title(),
					h.Cluster.Title()), g.Device, *h.Cluster)
			}
		}
	}
}

func householdStuck(l *lab.Lab, tell found) {
	s := service.Of(l)
	for _, h := range s.Hosts() {
		for _, g := range h.Guests {
			if !g.Runs() || g.Matters() != lab.Household {
				continue
			}
			if why := s.Stuck(g); why != "" {
				tell(Watch, fmt.Sprintf("The household needs %s, and it can go nowhere when %s is gone: %s.", g.Title(), h.Title(), why), g.Device,
					h.Device)
			}
		}
	}
}

// runsOnResting tells of running guests whose host, whose own guest, or whose network is
// not running: of what is in those only where they run themselves.
func runsOnResting(l *lab.Lab, tell found) {
	for g := range service.Of(l).Each() {
		if g.State != lab.Running {
			continue
		}
		on, _ := l.Get(lab.Key{Kind: lab.KindDevice, ID: hostID(g)}).(lab.Device)
		if on.ID != "" && on.State != lab.Running {
			tell(Act, fmt.Sprintf("%s is said to run on %s, which is %s.", g.Title(), on.Title(), on.State), g.Device, on)
		}
		if net, ok := lab.Find[lab.Device](l, g.NetworkOf); ok && net.State != lab.Running {
			tell(Act, fmt.Sprintf("%s shares the network of %s, which is %s.", g.Title(), net.Title(), net.State), g.Device, net)
		}
	}
}

func hostID(g *service.Guest) lab.ID {
	if g.At == nil {
		return ""
	}
	return g.At.Device
}

// wrongEngines tells of guests straight on a host that is said to run none of their kind.
func wrongEngines(l *lab.Lab, tell found) {
	for _, h := range service.Of(l).Hosts() {
		for _, g := range h.Guests {
			if why := service.WrongEngine(g, h); why != "" {
				tell(Watch, fmt.Sprintf("%s is a %s, and %s.", g.Title(), g.KindWords(), why), g.Device, h.Device)
			}
		}
	}
}

func onNoHost(l *lab.Lab, tell found) {
	for _, g := range service.Of(l).Loose() {
		tell(Note, fmt.Sprintf("Nobody said which host %s runs on.", g.Title()), g.Device)
	}
	for v := range lab.Each[lab.Service](l) {
		if v.In == "" {
			tell(Note, fmt.Sprintf("Nobody said what %s runs in.", v.Title()), v)
		}
	}
}

// pastSupport tells of systems that get no updates any more.
func pastSupport(l *lab.Lab, today lab.Day, tell found) {
	for d := range lab.Each[lab.Device](l) {
		last, ok := d.Supported.Last()
		if !ok || d.State != lab.Running || last.Format(time.DateOnly) >= string(today) {
			continue
		}
		what := cmp.Or(d.System, "its system")
		if d.System != "" && d.Version != "" {
			what += " " + d.Version
		}
		tell(Watch, fmt.Sprintf("%s runs %s, which was supported until %s.", d.Title(), what, d.Supported), d)
	}
}
