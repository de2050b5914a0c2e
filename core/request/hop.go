package request

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/reach"
)

// private are the endings that mean nothing outside: RFC 8375 and 6762, and those that
// are given to nobody.
var private = []string{"home.arpa", "local", "internal", "lan", "home", "localdomain"}

func (w *walk) isPrivate(name string) bool {
	if !strings.Contains(name, ".") {
		return true
	}
	return slices.ContainsFunc(private, func(end string) bool { return name == end || strings.HasSuffix(name, "."+end) })
}

// ask asks the name servers of the place, in their order, for a name.
func (w *walk) ask() bool {
	if w.outside {
		if w.isPrivate(w.name) {
			w.stop(w.name+" is a name of this house, and means nothing outside", "Ask for it by a name in a domain of your own.")
			return false
		}
		return true
	}
	servers := w.reach.NameServers(w.at)
	if len(servers) == 0 {
		w.step(Step{Kind: NameServer, Title: "a name server", By: "which one is asked is not written down"})
		return true
	}
	const port = 53
	var silent []string
	var first reach.Passage
	asked := func(d lab.Device, by string) Step {
		return Step{Kind: NameServer, Title: d.Title(), About: d.Key(), By: by, Port: port, From: w.at.Device.ID, To: d.ID}
	}
	for _, id := range servers {
		d, _ := lab.Find[lab.Device](w.lab, id)
		p := w.pass(d, port, lab.Service{Speaks: "dns"}, nil)
		if p.OK {
			by := ""
			if silent != nil {
				by = lab.Listed(silent, 3) + " would be asked first, and does not answer"
			}
			w.step(asked(d, by))
			return true
		}
		if silent = append(silent, d.Title()); len(silent) == 1 {
			first = p
		}
	}
	d, _ := lab.Find[lab.Device](w.lab, servers[0])
	w.step(asked(d, ""))
	w.Put = first.Put
	if len(silent) > 1 {
		first.Why = "none of " + lab.Listed(silent, 4) + " answers: " + first.Why
	}
	w.stop(first.Why, first.Fix)
	return false
}

// pass is whether what is at hand gets to a device, which has to run.
func (w *walk) pass(d lab.Device, port int, v lab.Service, name []string) reach.Passage {
	if why, fix := w.down(d); why != "" {
		return reach.Passage{Why: why, Fix: fix}
	}
	words := wanted(w.lab, d, v, port, name)
	what := words[0]
	if v.ID == "" && lab.UsualWords(v.Speaks, port) == nil {
		what = "" // nothing is known of what for
	}
	return w.reach.Pass(w.at, w.reach.SideOfDevice(d), what, func(rule string) bool { return among(rule, words) })
}

// down says why something does not answer, it or what it runs in or on.
func (w *walk) down(d lab.Device) (why, fix string) {
	for at := d; ; {
		if at.State != lab.Running {
			return fmt.Sprintf("%s does not run: it is %s", at.Title(), at.State), "Start " + at.Title() + "."
		}
		if !at.IsGuest() || at.At == nil {
			return "", ""
		}
		next, ok := lab.Find[lab.Device](w.lab, at.At.Device)
		if !ok {
			return "", ""
		}
		at = next
	}
}

// hop goes on to the next thing; false where it is not reached.
func (w *walk) hop(h lab.Hop, last bool) bool {
	switch {
	case h.Tunnel != "":
		return w.tunnel(h)
	case h.Address.IsValid():
		at := slices.DeleteFunc(slices.Clone(w.plan.At(h.Address)), func(is address.Had) bool { return is.Device == "" })
		if len(at) == 0 {
			w.step(Step{Kind: AtDevice, Title: h.Address.String(), Port: h.Port})
			w.stop(fmt.Sprintf("no device is written down that has %s", h.Address), "Give the address to a device, or the name another one.")
			return false
		}
		return w.hop(lab.Hop{Device: at[0].Device, Port: h.Port}, last)
	}
	v, _ := lab.Find[lab.Service](w.lab, h.Service)
	d, _ := lab.Find[lab.Device](w.lab, h.Device)
	if v.ID != "" {
		var ok bool
		if d, ok = lab.Find[lab.Device](w.lab, v.In); !ok {
			w.step(Step{Kind: AtService, Title: v.Title(), About: v.Key()})
			w.stop("it is not said what "+v.Title()+" runs in", fmt.Sprintf("Say it, such as service %q in anvil.", v.Title()))
			return false
		}
	}
	kind := AtDevice
	if !last {
		kind = ByProxy
	}
	s := Step{Kind: kind, Title: d.Title(), About: d.Key(), Port: h.Port, From: w.at.Device.ID, To: d.ID}
	v, wrong := w.listens(d, v, h.Port)
	if v.ID == "" && h.Port == 0 && !last {
		v = w.passesOn(d)
	}
	if s.Port == 0 {
		s.Port = portOf(v)
	}
	p := w.into(d, s.Port, v)
	s.By = p.By
	w.step(s)
	switch {
	case !p.OK:
		w.Put = p.Put
		w.stop(p.Why, p.Fix)
		return false
	case wrong != "":
		w.stop(wrong, w.rightPort(d))
		return false
	}
	if v.ID != "" {
		if w.signsIn(v.Exposed); last {
			w.Service = v
			w.step(Step{Kind: AtService, Title: v.Title(), About: v.Key(), Port: s.Port})
		}
		switch {
		case v.State != lab.Running:
			w.stop(fmt.Sprintf("%s does not run: it is %s", v.Title(), v.State), "Start "+v.Title()+".")
			return false
		case v.Exposure == lab.OnHost && w.lab.AnswersAs(w.at.Device).ID != w.lab.AnswersAs(d).ID:
			w.stop(v.Title()+" listens on its own host only", fmt.Sprintf("Lead a name through something in %s, or let it listen to others.",
				d.Title()))
			return false
		}
	}
	w.at, w.outside = w.reach.SideOfDevice(d), false
	return true
}

// into is whether one gets to a device from where one is.
func (w *walk) into(d lab.Device, port int, v lab.Service) reach.Passage {
	if !w.outside {
		return w.pass(d, port, v, []string{w.name})
	}
	if why, fix := w.down(d); why != "" {
		return reach.Passage{Why: why, Fix: fix}
	}
	p := w.reach.FromOutside(d, port)
	if !p.OK || port > 0 || v.ID == "" || v.Speaks != "" {
		return p
	}
	for _, other := range w.services[d.ID] { // what is open may lead to that
		if other.ID != v.ID {
			return reach.Passage{Why: "it is not written down where " + v.Title() + " listens, and " + other.Title() + " is in " + d.Title() +
				" too",
				Fix: fmt.Sprintf("Write down its port, such as service %q: tcp 8080.", v.Title())}
		}
	}
	return p
}

// tunnel goes outside, unless one is there, and in by a tunnel.
func (w *walk) tunnel(h lab.Hop) bool {
	t, _ := lab.Find[lab.Tunnel](w.lab, h.Tunnel)
	if !w.outside {
		p := w.reach.Outside(w.at)
		w.step(Step{Kind: OverLine, Title: "internet", By: p.By})
		if !p.OK {
			w.stop(p.Why, p.Fix)
			return false
		}
	}
	end, ok := lab.Find[lab.Device](w.lab, t.Device)
	s := Step{Kind: ByTunnel, Title: t.Title(), About: t.Key()}
	if ok {
		s.By = "ends in " + end.Title()
	}
	w.step(s)
	if !ok {
		w.stop("it is not said where "+t.Title()+" ends", fmt.Sprintf("Say it, such as tunnel %q: from gate outwards.", t.Title()))
		return false
	}
	if why, fix := w.down(end); why != "" {
		w.stop(why, fix)
		return false
	}
	w.at, w.outside = w.reach.SideOfDevice(end), false
	if out := w.reach.Outside(w.at); !out.OK {
		w.stop(fmt.Sprintf("%s cannot be opened from %s: %s", t.Title(), end.Title(), out.Why), "")
		return false
	}
	return true
}

// listens finds the service of a device that a port is of; wrong says that nothing there
// listens on it, as far as that is written down.
func (w *walk) listens(d lab.Device, v lab.Service, port int) (service lab.Service, wrong string) {
	if v.ID != "" {
		if port > 0 && len(v.Listens) > 0 && !listensOn(v.Listens, port) {
			wrong = fmt.Sprintf("%s listens on %s, and not on %d", v.Title(), listenWords(v.Listens), port)
		}
		return v, wrong
	}
	known := d.Listens
	list := w.services[d.ID]
	for _, v := range list {
		if port > 0 && listensOn(v.Listens, port) {
			return v, ""
		}
		known = append(known[:len(known):len(known)], v.Listens...)
	}
	switch {
	case port > 0 && len(known) > 0 && !listensOn(known, port):
		return lab.Service{}, fmt.Sprintf("nothing in %s listens on %d", d.Title(), port)
	case len(list) == 1 && (port == 0 || len(list[0].Listens) == 0):
		return list[0], ""
	}
	return lab.Service{}, ""
}

// passesOn is the service of a device that is asked by name for other things: the one that
// listens where those that do usually listen.
func (w *walk) passesOn(d lab.Device) lab.Service {
	for _, port := range []int{443, 80} {
		for _, v := range w.services[d.ID] {
			if listensOn(v.Listens, port) {
				return v
			}
		}
	}
	return lab.Service{}
}

// rightPort says where what a device has listens.
func (w *walk) rightPort(d lab.Device) string {
	var say []string
	for _, v := range w.services[d.ID] {
		if len(v.Listens) > 0 {
			say = append(say, v.Title()+" on "+listenWords(v.Listens))
		}
	}
	if say == nil {
		return ""
	}
	return "Lead there by another port: " + lab.Listed(say, 4) + "."
}

func listensOn(list []lab.Listening, port int) bool {
	return slices.ContainsFunc(list, func(p lab.Listening) bool { return p.Port == port })
}

func listenWords(list []lab.Listening) string {
	var said []string
	for _, p := range list {
		said = append(said, p.Words())
	}
	return lab.Listed(said, 3)
}

// portOf is the first port that a service listens on, 0 while unknown.
func portOf(v lab.Service) int {
	if len(v.Listens) == 0 {
		return 0
	}
	return v.Listens[0].Port
}

// wanted are the words that a rule may have for what is asked for, what one would write
// first.
func wanted(l *lab.Lab, d lab.Device, v lab.Service, port int, names []string) []string {
	words := lab.UsualWords(v.Speaks, port)
	if v.ID != "" {
		words = append(words, v.Title())
	}
	words = append(words, d.Title(), strings.ToLower(d.KindWords()))
	if port > 0 {
		words = append(words, strconv.Itoa(port))
	}
	for _, n := range names {
		if n != "" {
			words = append(words, n, firstLabel(n))
		}
	}
	return words
}

// among reports whether the words of a rule have one of those in them, as a whole word.
func among(rule string, words []string) bool {
	has := " " + plain(rule) + " "
	return slices.ContainsFunc(words, func(w string) bool { return w != "" && strings.Contains(has, " "+plain(w)+" ") })
}

func plain(s string) string {
	return strings.Join(strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return strings.ContainsRune(" ,;/()“”\"", r) }), " ")
}
