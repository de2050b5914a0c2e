package rundown

import (
	"errors"
	"fmt"
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
