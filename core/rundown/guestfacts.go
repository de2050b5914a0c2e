package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// ofGuest is what can be said of a VM or a container.
var ofGuest = scope(lab.KindDevice) + "/guest"

// sharedFacts are the fields of a device that a VM or a container has too.
var sharedFacts = []string{"device_kind", "also_kinds", "at", "state", "purpose", "why", "remote_address", "web_page", "links", "private",
	"never_known", "remarks", "notes", "switching_domain", "untagged", "tagged", "mac", "addresses", "routing"}

// withGuests adds the facts of VMs and containers to those of everything: some of those
// of devices, and their own.
func withGuests(all []fact) []fact {
	guests := guestFacts()
	for _, f := range all {
		if f.of != scope(lab.KindDevice) || !slices.Contains(sharedFacts, f.field) {
			continue
		}
		f.of = ofGuest
		switch f.field {
		case "addresses":
			f.write = freeAddresses
		case "device_kind":
			f.choices = []string{lab.VM.Words(), lab.Container.Words()}
		case "also_kinds": // vm "edge": firewall
			f.matches = func(tokens []text.Token) bool {
				k, n := readKind(tokens)
				return n > 0 && n == len(tokens) && k != lab.Other && !k.Traits().Guest
			}
		}
		guests = append(guests, f)
	}
	return slices.Concat(all, hostingFacts(scope(lab.KindDevice)), hostingFacts(ofGuest), guests)
}

// hostingFacts are what a device or a guest runs.
func hostingFacts(of scope) []fact {
	word := func(name, field, example string, also []string, at func(*lab.Device) *string, write func(string) string) fact {
		return written(of, name, field, append([]string{name}, also...), example, at, write).optional().under(Within)
	}
	return []fact{
		choice(of, "runs", "runs", func(d *lab.Device) *lab.Engine { return &d.Runs }, []option[lab.Engine]{
			{lab.Hypervisor, "runs hypervisor", []string{"hypervisor", "a hypervisor", "runs a hypervisor", "runs vms", "also runs a hypervisor"}},
			{lab.Containers, "runs containers", []string{"containers", "container engine", "a container engine", "runs a container engine",
				"runs container engine",
				"also runs containers", "also runs a container engine"}},
			{lab.PlainMachine, "runs plain", []string{"plain system", "runs a plain system", "runs plain system", "runs nothing but its system"}},
		}).optional().under(Within),
		word("system", "system", `system "Tarn"`, nil, func(d *lab.Device) *string { return &d.System }, text.Quote),
		word("system version", "system_version", `system version 9.1`, []string{"version", "release"},
			func(d *lab.Device) *string { return &d.Version }, versionText),
		day(of, "supported until", "supported_until", []string{"supported until", "support until", "supported to"}, "supported until 2027-06",
			func(d *lab.Device) *lab.When { return &d.Supported }).optional().under(Within),
		wholeMeasure(of, "memory it keeps", "keeps_bytes", text.Memory, []string{"keeps", "keeps for itself", "keeps back", "reserves"},
			"keeps 6GB", "keeps %s", func(d *lab.Device) **int64 { return &d.Keeps }).optional().under(Within),
	}
}

var versionWord = regexp.MustCompile(`^v?[0-9][0-9A-Za-z.+_-]*$`)

// upper is a word that may be what a system is called: what runs from 8 is no system.
var upper = regexp.MustCompile(`^\p{Lu}\pL+$`)

func versionText(v string) string {
	if versionWord.MatchString(v) {
		return v
	}
	return text.Quote(v)
}

// systemSaid are the facts in one phrase of what a device runs, what that is called, its
// version and how long it is supported: runs hypervisor "Tarn" 9.1 until 2027-06. nil
// where the phrase says something else.
func (t *thing) systemSaid(phrase []text.Token) []said {
	if t.kind != lab.KindDevice || len(phrase) < 2 || !phrase[0].Is("runs") {
		return nil
	}
	var list []said
	say := func(field string, v any, from, to int) {
		f := indexes[t.scope()].byField[field]
		list = append(list, said{fact: f, value: v, col: phrase[from].Col, end: phrase[to-1].End})
	}
	at := 1
	for n := min(4, len(phrase)); n > 1; n-- {
		if s, err := readFact(t.scope(), phrase[:n]); err == nil && s.fact.field == "runs" {
			list, at = append(list, s), n
			break
		}
	}
	named, versioned := false, false
	for at < len(phrase) {
		is := phrase[at]
		switch {
		case is.Is("until") || is.Is("supported") || is.Is("support"):
			from := at
			for at++; at < len(phrase)-1 && (phrase[at].Is("until") || phrase[at].Is("to")); at++ {
			}
			w, err := readWhen(text.Joined(phrase[at:]))
			if err != nil {
				return nil
			}
			say("supported_until", w, from, len(phrase))
			at = len(phrase)
		case (is.Is("version") || is.Is("release")) && at+1 < len(phrase) && !versioned:
			say("system_version", strings.TrimSpace(phrase[at+1].Text), at, at+2)
			versioned = true
			at += 2
		case versionWord.MatchString(is.Text) && !versioned && len(list) > 0:
			say("system_version", is.Text, at, at+1)
			versioned = true
			at++
		case (is.Kind == text.Quoted || len(list) > 0 || upper.MatchString(is.Text)) && !named && !versioned:
			say("system", strings.TrimSpace(is.Text), at, at+1)
			named = true
			at++
		default:
			return nil
		}
	}
	return list
}

func guestFacts() []fact {
	given := wholeMeasure(ofGuest, "memory", "given_bytes", text.Memory, []string{"memory", "ram", "given", "is given"}, "24GB", "",
		func(d *lab.Device) **int64 { return &d.Given }).barely(isIn(text.Memory)).under(Within)
	given.matches = func(tokens []text.Token) bool { return memoryBefore(tokens) > 0 }
	read := given.read
	given.read = func(tokens []text.Token, lax bool) (any, error) {
		if n := memoryBefore(tokens); n > 0 {
			tokens = tokens[:n]
		}
		return read(tokens, lax)
	}
	uses := measuredOn(ofGuest, "memory used", "uses_bytes", text.Memory, []string{"uses", "use", "using", "used"}, "uses 14GB",
		func(d *lab.Device) (**int64, *lab.When) { return &d.Uses, &d.UsesOn }).under(Within)
	uses.pattern, uses.file = "uses %s", "uses"
	vcpus := tally(ofGuest, "virtual CPUs", "vcpus", []string{"vcpu", "vcpus", "cores", "core", "cpu", "cpus", "threads", "virtual cores"},
		"8 vcpu", "%s vcpu",
		func(d *lab.Device) **int { return &d.VCPUs }).under(Within)
	given.file = "memory"
	legs := legFact()
	legs.file = "legs"
	return []fact{
		vcpus, given, uses, countFact(),
		legs,
		reference(ofGuest, lab.KindTemplate, "template", "template_id", []string{"from", "made from", "from template", "template"},
			func(d *lab.Device) *lab.ID { return &d.Template }).optional().under(Within),
		onDevice(ofGuest, "shares the network of", []string{"network of", "in the network of", "shares the network of",
			"through the network of", "only through", "through"},
			func(d *lab.Device) *lab.ID { return &d.NetworkOf }).in("network_of_id").optional().under(Ports),
		handedFact(),
		stays(),
		elsewhere(),
		starts(), startsLater(),
		startsAfter(),
		worth(ofGuest, func(d *lab.Device) *lab.Worth { return &d.Worth }),
		listens(ofGuest, func(d *lab.Device) *[]lab.Listening { return &d.Listens }).under(Ports),
		diskFact(), mountFact(),
	}
}

func (f fact) in(field string) fact { f.field = field; return f }

// memoryBefore tells how many tokens are an amount of memory before a word for it: 24GB
// of ram.
func memoryBefore(tokens []text.Token) int {
	q, n := text.ReadQuantity(tokens)
	if n == 0 || n == len(tokens) || !isIn(text.Memory)(q) {
		return 0
	}
	rest := tokens[n:]
	if rest[0].Is("of") && len(rest) > 1 {
		rest = rest[1:]
	}
	if len(rest) == 1 && slices.Contains([]string{"memory", "ram", "given"}, rest[0].Plain) {
		return n
	}
	return 0
}

// guestsCounted reads guests nobody lists one by one: 14 containers. It tells how many
// words they are; 0 for anything else.
func guestsCounted(tokens []text.Token) (k lab.DeviceKind, many, used int) {
	if len(tokens) > 2 && (tokens[0].Is("about") || tokens[0].Is("some")) {
		if k, many, used = guestsCounted(tokens[1:]); used > 0 {
			return k, many, used + 1
		}
	}
	if len(tokens) < 2 || tokens[1].Kind != text.Word {
		return "", 0, 0
	}
	n, ok := countIn(tokens[0])
	if !ok {
		var err error
		if n, err = strconv.Atoi(tokens[0].Text); err != nil {
			return "", 0, 0
		}
	}
	k, words := readKind([]text.Token{asWord(tokens[1], strings.TrimSuffix(tokens[1].Plain, "s"))})
	if words == 0 || !k.Traits().Guest || len(tokens) > 2 && tokens[2].Kind == text.Quoted {
		return "", 0, 0
	}
	return k, n, 2
}

// countFact is how many guests there are that nobody lists; the head of their line says it.
func countFact() fact {
	f := tally(ofGuest, "how many", "guest_count", []string{"how many"}, "14", "", func(d *lab.Device) **int { return &d.Count })
	f.head = true
	return f.optional()
}

// legSaid is a VLAN a guest has a leg in, with the address it has there.
type legSaid struct {
	vlan int
	addr *addressSaid
}

// legsSaid are several; see addressesSaid.
type legsSaid []legSaid

func (legsSaid) late() {}

type legIs struct {
	vlan int
	addr *lab.Address
}

func (list legsSaid) in(s setting) (any, error) {
	var all []legIs
	for _, said := range list {
		is := legIs{vlan: said.vlan}
		if said.addr != nil {
			a := said.addr.is
			var err error
			if a.Address, err = said.addr.whole(s.lab); err != nil {
				return nil, err
			}
			a.Port = legPort(said.vlan)
			is.addr = &a
		}
		all = append(all, is)
	}
	return all, nil
}

// legPort is the key of the end of a guest's leg in a VLAN.
func legPort(vlan int) string { return "vlan " + strconv.Itoa(vlan) }

func isLeg(port string) bool { return strings.HasPrefix(port, "vlan ") }

// legFact is a leg of a guest: vlan 20 10.20.0.31.
func legFact() fact {
	const example = "vlan 20 10.20.0.31"
	show := func(_ *lab.Lab, b box) string {
		d := b.(*lab.Device)
		var said []string
		for _, m := range d.Marks {
			if !isLeg(m.Port) {
				continue
			}
			n := len(said)
			for _, a := range d.Addresses {
				if a.Port == m.Port {
					a.Port = ""
					said = append(said, m.Port+" "+AddressText(a))
				}
			}
			if len(said) == n {
				said = append(said, m.Port)
			}
		}
		return strings.Join(said, ", ")
	}
	return fact{of: ofGuest, name: "legs", field: "port_marks", words: []string{"vlan", "in vlan", "on vlan", "leg in vlan"}, example: example,
		many: true, adds: true, maybe: true, group: Ports, show: show, write: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list legsSaid
			for phrase := range text.Cut(tokens) {
				if phrase[0].Is("vlan") && len(phrase) > 1 {
					phrase = phrase[1:]
				}
				v, err := readVLANs(phrase[:1])
				if err != nil || v.One() == 0 {
					return nil, fmt.Errorf("“%s” is not the number of a VLAN; write the leg such as %s", text.Short(phrase[0].Text), example)
				}
				leg := legSaid{vlan: v.One()}
				if rest := phrase[1:]; len(rest) > 0 {
					if rest[0].Is("at") || rest[0].Is("as") {
						rest = rest[1:]
					}
					a, err := readAddress(rest)
					if err != nil {
						return nil, err
					}
					leg.addr = &a
				}
				list = append(list, leg)
			}
			return list, nil
		},
		set: func(b box, v any) {
			d := b.(*lab.Device)
			list, _ := v.([]legIs)
			if list == nil {
				d.Marks = slices.DeleteFunc(slices.Clone(d.Marks), func(m lab.PortMark) bool { return isLeg(m.Port) })
				d.Addresses = slices.DeleteFunc(slices.Clone(d.Addresses), func(a lab.Address) bool { return isLeg(a.Port) })
			}
			for _, is := range list {
				port := legPort(is.vlan)
				if !slices.ContainsFunc(d.Marks, func(m lab.PortMark) bool { return m.Port == port }) {
					d.Marks = append(slices.Clone(d.Marks), lab.PortMark{Port: port, Untagged: lab.VLANNumber(is.vlan)})
				}
				if is.addr != nil {
					addEach(&d.Addresses, []lab.Address{*is.addr}, func(was, is lab.Address) (lab.Address, bool) {
						return is, was.Address == is.Address && (was.Port == is.Port || was.Port == "")
					})
				}
			}
			if len(d.Addresses) == 0 {
				d.Addresses = nil
			}
			if len(d.Marks) == 0 {
				d.Marks = nil
			}
		}}
}

// freeAddresses writes the addresses that are on no leg.
func freeAddresses(_ *lab.Lab, b box) string {
	var said []string
	for _, a := range b.(*lab.Device).Addresses {
		if !isLeg(a.Port) {
			said = append(said, "address "+AddressText(a))
		}
	}
	return strings.Join(said, ", ")
}

// handedSaid is what of its host a guest has, as it is said.
type handedSaid lab.Handed

func (handedSaid) late() {}

// in finds the card, the radio or whatever else goes by the words: a part of the host,
// or a device.
func (h handedSaid) in(s setting) (any, error) {
	if h.Words == "" {
		return []lab.Handed{lab.Handed(h)}, nil
	}
	d, _ := s.of.(lab.Device)
	host, _ := s.lab.HostOf(d)
	words := lab.FoldName(h.Words)
	var found []lab.Part
	for _, p := range s.lab.PartsOf(host.ID) {
		if p.Kind == lab.Card && strings.Contains(" "+lab.FoldName(p.Title()+" "+p.Model)+" ", " "+words+" ") {
			found = append(found, p)
		}
	}
	switch {
	case len(found) == 1 && found[0].Seat > 0:
		return []lab.Handed{{Slot: found[0].Seat}}, nil
	case len(found) == 1:
		return []lab.Handed{{Part: found[0].ID}}, nil
	}
	if id, err := s.named(lab.KindDevice, h.Words); err == nil {
		return []lab.Handed{{Device: id}}, nil
	}
	return []lab.Handed{lab.Handed(h)}, nil
}

// handedFact is what of its host a guest has for itself: has slot 3, has port 2, has
// "radio stick".
func handedFact() fact {
	at := func(b box) *[]lab.Handed { return &b.(*lab.Device).Handed }
	show := func(word string) func(*lab.Lab, box) string {
		return func(l *lab.Lab, b box) string {
			var said []string
			for _, h := range *at(b) {
				said = append(said, word+HandedText(l, h))
			}
			return strings.Join(said, ", ")
		}
	}
	return fact{of: ofGuest, name: "has of its host", field: "handed_through", words: []string{"has", "has the", "with the", "handed",
		"gets", "given the"},
		example: "has slot 3", many: true, adds: true, maybe: true, group: Within, show: show(""), write: show("has "),
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			if len(tokens) > 1 && (tokens[0].Is("the") || tokens[0].Is("a") || tokens[0].Is("usb")) && tokens[1].Kind == text.Quoted {
				tokens = tokens[1:]
			}
			if len(tokens) > 0 && tokens[0].Is("the") {
				tokens = tokens[1:]
			}
			if len(tokens) > 2 && text.Plainly(tokens[:2]) == "card in" {
				tokens = tokens[2:]
			}
			if len(tokens) == 2 && tokens[0].Is("card") && tokens[1].Kind == text.Quoted {
				tokens = tokens[1:]
			}
			if len(tokens) == 0 {
				return nil, errors.New(`say what of its host it has, such as has slot 3 or has "radio stick"`)
			}
			said := text.Joined(tokens)
			if len(tokens) == 2 && (tokens[0].Is("slot") || tokens[0].Is("port")) {
				if tokens[0].Is("port") {
					_, port, _ := strings.Cut("/"+tokens[1].Text, "/")
					if _, key, of := strings.Cut(port, "/"); of {
						port = key
					}
					return handedSaid{Port: port}, nil
				}
				n, err := strconv.Atoi(tokens[1].Text)
				if err != nil || n < 1 {
					return nil, fmt.Errorf("“%s” is not the number of a slot; write one such as has slot 3", text.Short(tokens[1].Text))
				}
				return handedSaid{Slot: n}, nil
			}
			return handedSaid{Words: strings.TrimSpace(said)}, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.Handed)
			addEach(at(b), v, func(was, is lab.Handed) (lab.Handed, bool) { return is, was == is })
			if list == nil {
				*at(b) = nil
			}
		}}
}

// HandedText is what of its host a guest has as a line says it: slot 3.
func HandedText(l *lab.Lab, h lab.Handed) string {
	switch {
	case h.Slot > 0:
		return "slot " + strconv.Itoa(h.Slot)
	case h.Port != "":
		return "port " + h.Port
	case h.Device != "":
		return text.Quote(refsOf(l).numbered(h.Device))
	case h.Part != "":
		p, _ := lab.Find[lab.Part](l, h.Part)
		return text.Quote(p.Title())
	}
	return text.Quote(h.Words)
}

// stays is whether a guest is pinned to its host.
func stays() fact {
	f := flag(ofGuest, "pinned to its host", "pinned", "pinned", []string{"stays", "stays here", "does not move", "pinned here"},
		func(d *lab.Device) *bool { return &d.Pinned })
	f.matches = func(tokens []text.Token) bool {
		return tokens[0].Is("pinned") && (len(tokens) == 1 || tokens[1].Is("to") || tokens[1].Is("on"))
	}
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) > 0 && f.matches(tokens) {
			return true, nil
		}
		return read(tokens, lax)
	}
	return f.under(Within)
}

func elsewhere() fact {
	f := choice(ofGuest, "gets elsewhere", "elsewhere", func(d *lab.Device) *lab.Elsewhere { return &d.Elsewhere }, []option[lab.Elsewhere]{
		{lab.ByHand, "moved by hand", []string{"movable", "movable by hand", "can be moved", "by hand", "moves by hand"}},
		{lab.ByItself, "restarts elsewhere", []string{"restarted elsewhere", "restarts elsewhere by itself", "restarts by itself", "by itself",
			"fails over", "moves by itself", "restarts on another host"}},
	})
	return f.optional().under(Within)
}

var ordinals = []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"}

func starts() fact {
	f := tally(ofGuest, "its turn at boot", "starts", []string{"starts", "start", "boots", "starts as"}, "starts 3", "starts %s",
		func(d *lab.Device) **int { return &d.Starts })
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) == 1 {
			if at := slices.Index(ordinals, tokens[0].Plain); at >= 0 {
				return at + 1, nil
			}
		}
		return read(tokens, lax)
	}
	return f.optional().under(Within)
}

// startsLater is how long after the one before it a guest is started: 60s after the one
// before.
func startsLater() fact {
	f := measure(ofGuest, "started after the one before", "wait_s", text.Seconds, []string{"waits", "wait", "after"}, "waits 60s", "waits %s",
		func(d *lab.Device) **float64 { return &d.WaitS })
	after := func(tokens []text.Token) int {
		q, n := text.ReadQuantity(tokens)
		if n == 0 || n == len(tokens) || !isIn(text.Seconds)(q) || !tokens[n].Is("after") && !tokens[n].Is("later") {
			return 0
		}
		return n
	}
	f.matches = func(tokens []text.Token) bool { return after(tokens) > 0 }
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if n := after(tokens); n > 0 {
			tokens = tokens[:n]
		}
		return read(tokens, lax)
	}
	return f.optional().under(Within)
}

func startsAfter() fact {
	show := func(l *lab.Lab, b box) string {
		var said []string
		for _, id := range b.(*lab.Device).After {
			said = append(said, refsOf(l).name(id))
		}
		return strings.Join(said, ", ")
	}
	f := devicesNamed(ofGuest, "started after", "starts_after_ids", []string{"starts after", "started after", "waits for", "boots after"},
		`starts after "names 1"`, show)
	f.maybe, f.group = true, Within
	f.set = func(b box, v any) {
		d := b.(*lab.Device)
		list, _ := v.([]lab.ID)
		if list == nil {
			d.After = nil
		}
		for _, id := range list {
			if !slices.Contains(d.After, id) {
				d.After = append(slices.Clone(d.After), id)
			}
		}
	}
	return f
}

// listens are the ports something answers on: tcp 8080, udp 53.
func listens[R any](of scope, at func(*R) *[]lab.Listening) fact {
	show := func(_ *lab.Lab, b box) string {
		var said []string
		for _, p := range *at(b.(*R)) {
			said = append(said, p.Words())
		}
		return strings.Join(said, ", ")
	}
	return fact{of: of, name: "answers on", field: "listens", words: []string{"answers on", "listens on"}, example: "tcp 8080", many: true,
		adds:  true,
		maybe: true, show: show, write: show,
		matches: func(tokens []text.Token) bool {
			return len(tokens) > 1 && tokens[0].Kind == text.Word && slices.Contains([]string{"tcp", "udp", "port", "ports"}, tokens[0].Plain)
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			over := lab.TCP
			var list []lab.Listening
			for _, t := range tokens {
				switch {
				case t.Is("tcp"):
					over = lab.TCP
				case t.Is("udp"):
					over = lab.UDP
				case t.Is("port"), t.Is("ports"), t.Is("and"), t.Kind == text.Separator:
				default:
					n, err := strconv.Atoi(t.Text)
					if err != nil {
						return nil, fmt.Errorf("“%s” is not a port; write one such as tcp 8080", text.Short(t.Text))
					}
					if n < 1 || n > 65535 {
						return nil, fmt.Errorf("a port is between 1 and 65535, not %d", n)
					}
					list = append(list, lab.Listening{Over: over, Port: n})
				}
			}
			if list == nil {
				return nil, errors.New("say which port, such as tcp 8080")
			}
			return list, nil
		},
		set: func(b box, v any) {
			addEach(at(b.(*R)), v, func(was, is lab.Listening) (lab.Listening, bool) { return is, was == is })
		}}
}

// spun is what is said of another record than the line's: the disk of a guest, or a
// share that it mounts by name or address.
type spun struct {
	kind  lab.RecordKind
	share string
	bytes int64
	rest  []text.Token // the pool, or what the mount goes by
}

// diskFact is a disk of a guest: 80GB on vault. It is a dataset, which says so itself.
func diskFact() fact {
	return fact{of: ofGuest, name: "disks", field: "disks", words: []string{"disk", "disks"}, example: "80GB on vault",
		many: true, maybe: true, apart: true,
		matches: func(tokens []text.Token) bool { return diskSize(tokens) > 0 },
		read: func(tokens []text.Token, _ bool) (any, error) {
			n := diskSize(tokens)
			if n == 0 {
				return nil, errors.New("say how large the disk is and on which pool, such as 80GB on vault")
			}
			bytes, err := text.ReadMeasure(tokens[:n], text.Capacity, false)
			if err != nil {
				return nil, err
			}
			on := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("on") || t.Is("in") })
			return spun{kind: lab.KindDataset, bytes: int64(*bytes), rest: slices.Clone(tokens[on+1:])}, nil
		},
		set:  func(box, any) {},
		show: func(*lab.Lab, box) string { return "" }}
}

// diskSize tells how many tokens are the size of a disk before the pool it is on.
func diskSize(tokens []text.Token) int {
	q, n := text.ReadQuantity(tokens)
	if n == 0 || !isIn(text.Capacity)(q) {
		return 0
	}
	at := n
	if at < len(tokens) && (tokens[at].Is("disk") || tokens[at].Is("drive")) {
		at++
	}
	if at+1 < len(tokens) && (tokens[at].Is("on") || tokens[at].Is("in")) {
		return n
	}
	return 0
}

// mounting are those that mount a share besides those that do.
type mounting struct{ severalNamed }

func (mounting) amends() {}

// mountFact is a share that a guest mounts: mounts "bulk".
func mountFact() fact {
	return fact{of: ofGuest, name: "mounts", field: "mounts", words: []string{"mounts", "mounting"}, example: `mounts "bulk"`,
		many: true, maybe: true, apart: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if len(tokens) == 0 || text.IsUnknown(tokens) {
				return nil, errors.New(`name the share, such as mounts "bulk"`)
			}
			is := spun{kind: lab.KindShare}
			if by := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("by") }); by > 0 {
				tokens, is.rest = tokens[:by], slices.Clone(tokens[by:])
			}
			is.share = calledIn(tokens)
			return is, nil
		},
		set:  func(box, any) {},
		show: func(*lab.Lab, box) string { return "" }}
}

// spinOff is what a phrase says of another record, as a line of its own would; ok is
// false where it does not.
func (t *thing) spinOff(s said) (more inLine, ok bool, err error) {
	off, ok := s.value.(spun)
	if !ok {
		return more, false, nil
	}
	name := t.name
	if t.known != nil {
		name = t.known.name
	}
	if name == "" {
		return more, true, fmt.Errorf("give the %s a name first, so that this can be said of it", t.device.Words())
	}
	w := &thing{kind: off.kind, name: cmp.Or(off.share, name+" disk"), file: t.file, line: t.line, col: s.col, end: s.end}
	of := indexes[scope(off.kind)].byField
	say := func(field string, v any) {
		w.said = append(w.said, said{fact: of[field], value: v, col: s.col, end: s.end})
	}
	guest := named{lab.KindDevice, name}
	if off.kind == lab.KindDataset {
		on, err := of["on"].read(off.rest, false)
		if err != nil {
			return more, true, err
		}
		say("on", on)
		say("size_bytes", sizeOn{bytes: &off.bytes})
		say("guest_id", guest)
	} else {
		say("to_device_ids", mounting{severalNamed{guest}})
		if off.rest != nil {
			by, err := of["mounted_by"].read(off.rest, false)
			if err != nil {
				return more, true, err
			}
			say("mounted_by", by)
		}
	}
	return inLine{parts: []*thing{w}}, true, nil
}
