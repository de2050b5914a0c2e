// Package request follows what a reader asks for from where the reader is to what answers:
// who resolves the name, which tunnel, line, proxy, guest or device it goes through, over
// the cables, VLANs, routers and rules that are written down; where it is stopped, and the
// least change that lets it through.
package request

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"sync"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/reach"
)

// Place is where a reader is: in a VLAN, at a device, in a wireless network, in from
// elsewhere by a remote access, or outside.
type Place struct {
	lab.Endpoint
	Title string
	In    lab.Key // the VLAN that a wireless network is in: what is reached is the same
	side  reach.Side
}

// Step is one thing on the way.
type Step struct {
	Kind  StepKind
	Title string
	By    string  // how one gets there, or what it does
	About lab.Key // its record; none for a place outside
	Port  int     // that is asked for there, 0 while unknown
	// From is the device that the packet leaves for this one; its ID and that of To are ""
	// where it is no device, or the same.
	From, To lab.ID
}

// StepKind is what a step is.
type StepKind string

// The kinds there are, in the order in which they usually come.
const (
	FromPlace  StepKind = "place"
	NameServer StepKind = "name_server"
	OverLine   StepKind = "line"
	ByTunnel   StepKind = "tunnel"
	ByProxy    StepKind = "proxy"
	AtDevice   StepKind = "device"
	AtService  StepKind = "service"
)

// Way is how far one gets.
type Way struct {
	Arrives bool
	Steps   []Step // as far as one gets, and the one that is not reached
	Why     string // why one gets no further, as a sentence
	Fix     string // the least change that lets one through, as a sentence; "" where none is known
	Put     lab.Record
	Service lab.Service // that answers in the end; its ID is "" where that is not known
	SignIn  lab.SignIn  // whether one signs in on the way, "" while unknown
	By      lab.Name    // the name that was asked for; its ID is "" for none of its owner's
}

// StopsAt is what is not reached, "" where all is.
func (w Way) StopsAt() string {
	if w.Arrives || len(w.Steps) == 0 {
		return ""
	}
	return w.Steps[len(w.Steps)-1].Title
}

// Requests answers for a lab. It is worked out once and then only read.
type Requests struct {
	lab      *lab.Lab
	reach    *reach.Routing
	plan     *address.Plan
	services map[lab.ID][]lab.Service // by what they run in
	resolved map[lab.ID]address.Resolved
	through  map[lab.ID][]lab.Name // the names that a device passes on
	places   []Place
	table    func() []Row
	named    func() map[lab.ID][]lab.Name
}

// Of is that of a lab.
func Of(l *lab.Lab) *Requests { return lab.Derived(l, newRequests) }

func newRequests(l *lab.Lab) *Requests {
	q := &Requests{lab: l, reach: reach.Of(l), plan: address.Of(l), services: map[lab.ID][]lab.Service{},
		resolved: map[lab.ID]address.Resolved{}, through: map[lab.ID][]lab.Name{}}
	for v := range lab.Each[lab.Service](l) {
		q.services[v.In] = append(q.services[v.In], v)
	}
	for _, r := range q.plan.Resolve() {
		q.resolved[r.Name.ID] = r
	}
	for n := range lab.Each[lab.Name](l) {
		hops := n.Hops()
		for i, h := range hops {
			if d := l.HopDevice(h); i < len(hops)-1 && h.Tunnel == "" && d.ID != "" {
				q.through[d.ID] = append(q.through[d.ID], n)
			}
		}
	}
	q.places = q.findPlaces()
	q.table, q.named = sync.OnceValue(q.findTable), sync.OnceValue(q.findNamed)
	return q
}

// Places are those that a reader may be at: the VLANs, subnets in none, wireless networks
// and remote accesses there are, and the internet last.
func (q *Requests) Places() []Place { return q.places }

func (q *Requests) findPlaces() []Place {
	var list []Place
	for v := range lab.Each[lab.VLAN](q.lab) {
		list = append(list, q.PlaceOf(lab.EndpointOf(v.Key())))
	}
	for _, s := range q.plan.Subnets() {
		if s.VLAN == nil {
			list = append(list, q.PlaceOf(lab.EndpointOf(s.Key())))
		}
	}
	for w := range lab.Each[lab.WirelessNetwork](q.lab) {
		list = append(list, q.Wireless(w))
	}
	for a := range lab.Each[lab.RemoteAccess](q.lab) {
		list = append(list, q.PlaceOf(lab.EndpointOf(a.Key())))
	}
	return append(list, Place{Endpoint: lab.Endpoint{Kind: lab.Internet}, Title: "internet"})
}

// PlaceOf is a VLAN, a subnet, a device, a remote access or the internet as a place.
func (q *Requests) PlaceOf(e lab.Endpoint) Place {
	p := Place{Endpoint: e, Title: q.lab.EndpointWords(e)}
	if e.Kind != lab.Internet {
		p.side = q.reach.SideOf(e)
	}
	return p
}

// Wireless is a wireless network as a place: its readers are in its VLAN, and in a lab
// without any in the only subnet.
func (q *Requests) Wireless(w lab.WirelessNetwork) Place {
	p := Place{Endpoint: lab.EndpointOf(w.Key()), Title: w.Title()}
	if w.VLAN == nil {
		if only := q.plan.Subnets(); len(only) == 1 && only[0].VLAN == nil {
			p.In = only[0].Key()
			p.side = q.reach.SideOf(lab.EndpointOf(p.In))
		}
		return p
	}
	var domain string
	for _, id := range w.Points {
		if d, ok := lab.Find[lab.Device](q.lab, id); ok {
			domain = cmp.Or(domain, d.Domain)
		}
	}
	if id, ok := q.lab.Having(lab.KindVLAN, lab.VLANKey(*w.VLAN, domain)); ok {
		p.In = lab.Key{Kind: lab.KindVLAN, ID: id}
		p.side = q.reach.SideOf(lab.EndpointOf(p.In))
	}
	return p
}

// VLANOf is the number of the VLAN that a place is; ok is false where it is none.
func (q *Requests) VLANOf(p Place) (number int, ok bool) {
	key := p.In
	if key.ID == "" {
		key = p.Key()
	}
	v, ok := lab.Find[lab.VLAN](q.lab, key.ID)
	return v.Number, ok && key.Kind == lab.KindVLAN
}

// Nowhere reports whether nothing says where in the network a place is.
func (p Place) Nowhere() bool { return p.side.Bad() != "" }

func (p Place) outside() bool { return p.Kind == lab.Internet }

// Target is what is asked for: a name of its owner's, or a service or a device straight.
type Target struct {
	Name lab.Name // its ID is "" where it is none
	Hop  lab.Hop
	Said string // a device's name in the domain name system, "" where it was not asked for by that
}

// Target finds what goes by a name: one of its owner's, with or without its domain, that
// of a device, or a service or a device by its title.
func (q *Requests) Target(said string) (Target, bool) {
	said = strings.TrimSuffix(strings.TrimSpace(said), ".")
	if n, ok := lab.Find[lab.Name](q.lab, lab.ID(said)); ok {
		return Target{Name: n}, true
	}
	for n := range lab.Each[lab.Name](q.lab) {
		if strings.EqualFold(q.Whole(n), said) || strings.EqualFold(n.Name, said) {
			return Target{Name: n}, true
		}
	}
	for _, e := range q.plan.Hosts() {
		if strings.EqualFold(e.Name, said) {
			return Target{Hop: lab.HopTo(e.From, 0), Said: e.Name}, true
		}
	}
	for _, kind := range []lab.RecordKind{lab.KindService, lab.KindDevice} {
		if k := (lab.Key{Kind: kind, ID: lab.ID(said)}); q.lab.Get(k) != nil {
			return Target{Hop: lab.HopTo(k, 0)}, true
		}
		for r := range q.lab.Records(kind) {
			if lab.FoldName(lab.OwnName(r)) == lab.FoldName(said) && said != "" {
				return Target{Hop: lab.HopTo(r.Key(), 0)}, true
			}
		}
	}
	return Target{}, false
}

// ServiceTarget is a service, asked for straight.
func ServiceTarget(v lab.Service) Target { return Target{Hop: lab.Hop{Service: v.ID}} }

// Way follows a request from a place to a target.
func (q *Requests) Way(from Place, to Target) Way {
	w := &walk{Requests: q, at: from.side, outside: from.outside()}
	w.step(Step{Kind: FromPlace, Title: from.Title, About: keyOf(from.Endpoint)})
	if bad := from.side.Bad(); bad != "" && !w.outside {
		return w.stop(bad, "")
	}
	if from.Kind == lab.EndpointKind(lab.KindWireless) && from.side.Empty() {
		return w.stop("it is not said in which VLAN "+from.Title+" puts its readers", "")
	}
	hops, ok := w.resolve(to)
	if !ok {
		return w.Way
	}
	for i, h := range hops {
		if !w.hop(h, i == len(hops)-1) {
			return w.Way
		}
	}
	w.Arrives = true
	return w.Way
}

func keyOf(e lab.Endpoint) lab.Key {
	if e.Kind == lab.Internet {
		return lab.Key{}
	}
	return e.Key()
}

// walk is one request on its way.
type walk struct {
	*Requests
	Way
	at      reach.Side
	outside bool
	name    string // that was asked for, whole
}

func (w *walk) step(s Step) { w.Steps = append(w.Steps, s) }

// stop ends the walk at the last step.
func (w *walk) stop(why, fix string) Way {
	w.Why, w.Fix = why+".", fix
	if first, rest, _ := strings.Cut(why, " "); slices.Contains(beginnings, first) {
		w.Why = strings.ToUpper(first[:1]) + first[1:] + " " + rest + "."
	}
	return w.Way
}

// beginnings are the first words of reasons that are no names, which are written as they
// are.
var beginnings = []string{"a", "nothing", "no", "none", "there", "it", "the"}

// resolve asks the name servers, and gives the hops that the name leads to.
func (w *walk) resolve(to Target) ([]lab.Hop, bool) {
	if to.Name.ID == "" {
		if w.name = to.Said; to.Said != "" && !w.ask() {
			return nil, false
		}
		return []lab.Hop{to.Hop}, true
	}
	r := w.resolved[to.Name.ID]
	w.By, w.name = to.Name, r.Whole
	w.signsIn(to.Name.Exposed)
	last := r.Last
	if !w.ask() {
		return nil, false
	}
	switch {
	case r.End == address.Circle:
		w.stop(r.Whole+" leads back to itself", "Let one of "+lab.Listed(r.Through, 4)+" lead to a device or an address.")
		return nil, false
	case last.ID == "" && len(r.Addresses) == 0:
		w.stop(r.Whole+" leads nowhere", fmt.Sprintf("Say where it leads, such as name %q -> library.", to.Name.Name))
		return nil, false
	case last.ID == "": // an alias of a device's own name
		for _, h := range w.plan.At(r.Addresses[0]) {
			if h.Device != "" {
				return []lab.Hop{{Device: h.Device}}, true
			}
		}
		return []lab.Hop{{Address: r.Addresses[0]}}, true
	}
	if last.ID != to.Name.ID {
		w.signsIn(last.Exposed)
	}
	return w.onward(last)
}

func (w *walk) signsIn(e lab.Exposed) {
	if w.SignIn == "" || e.SignIn == lab.SignInAsked {
		w.SignIn = cmp.Or(e.SignIn, w.SignIn)
	}
}

// onward are the hops of a name, with those of the names that it is asked for again by.
// Where it ends at what passes on other names, it goes on as the one does that begins alike.
func (w *walk) onward(n lab.Name) ([]lab.Hop, bool) {
	seen := map[lab.ID]bool{n.ID: true}
	var list []lab.Hop
	for hops := n.Hops(); len(hops) > 0; {
		h := hops[0]
		hops = hops[1:]
		if h.Of == "" {
			list = append(list, h)
			continue
		}
		next, _ := lab.Find[lab.Name](w.lab, h.Of)
		if seen[h.Of] {
			w.stop(fmt.Sprintf("%s is passed on round in a circle: it comes back to %s", n.Title(), next.Title()),
				"End the way where it is answered.")
			return nil, false
		}
		seen[h.Of] = true
		w.signsIn(next.Exposed)
		if next = w.resolved[next.ID].Last; next.ID == "" {
			w.stop(n.Title()+" is passed on to a name that leads nowhere", "")
			return nil, false
		}
		hops = next.Hops()
	}
	if len(list) == 0 {
		w.stop(n.Title()+" leads nowhere", fmt.Sprintf("Say where it leads, such as name %q -> library.", n.Name))
		return nil, false
	}
	last := w.lab.HopDevice(list[len(list)-1])
	for _, other := range w.through[last.ID] {
		if firstLabel(other.Name) != firstLabel(n.Name) || other.ID == n.ID {
			continue
		}
		hops := other.Hops()
		i := slices.IndexFunc(hops, func(h lab.Hop) bool { return h.Tunnel == "" && w.lab.HopDevice(h).ID == last.ID })
		for _, h := range hops[i+1:] {
			if h.Of == "" {
				list = append(list, h)
			}
		}
		break
	}
	return list, true
}

func firstLabel(name string) string {
	first, _, _ := strings.Cut(lab.FoldName(name), ".")
	return first
}
