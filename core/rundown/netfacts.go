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

var (
	ofVLAN     = scope(lab.KindVLAN)
	ofWireless = scope(lab.KindWireless)
)

// netFacts are what can be said of VLANs and wireless networks, and of how
// devices and links carry them.
func netFacts() []fact {
	of := scope(lab.KindDevice)
	return []fact{
		vlanNumber(ofVLAN, "number", "number", func(v *lab.VLAN) *int { return &v.Number }).inHead(),
		switchingDomain(ofVLAN, func(v *lab.VLAN) *string { return &v.Domain }),
		colour(ofVLAN, func(v *lab.VLAN) *lab.Colour { return &v.Colour }),
		written(ofVLAN, "what it is for", "purpose", []string{"for"}, `for "the servers"`, func(v *lab.VLAN) *string {
			return &v.Purpose
		}, text.Quote),
		remarks(ofVLAN, func(v *lab.VLAN) *[]string { return &v.Remarks }),
		note(ofVLAN, func(v *lab.VLAN) *string { return &v.Notes }),

		inVLAN(ofWireless, "vlan", []string{"vlan", "in vlan"}, func(w *lab.WirelessNetwork) **int { return &w.VLAN }),
		sentBy(),
		written(ofWireless, "whom it is for", "purpose", []string{"for"}, `for "guests"`, func(w *lab.WirelessNetwork) *string {
			return &w.Purpose
		}, text.Quote),
		speedFact(ofWireless, "most down", "down_mb", "down", func(w *lab.WirelessNetwork) **int { return &w.DownMb }),
		speedFact(ofWireless, "most up", "up_mb", "up", func(w *lab.WirelessNetwork) **int { return &w.UpMb }),
		remarks(ofWireless, func(w *lab.WirelessNetwork) *[]string { return &w.Remarks }),
		note(ofWireless, func(w *lab.WirelessNetwork) *string { return &w.Notes }),

		switchingDomain(of, func(d *lab.Device) *string { return &d.Domain }).under(Ports),
		carriedFact(of, "untagged", "untagged", []string{"untagged", "native", "native vlan", "untagged vlan"}, "untagged 10",
			func(d *lab.Device) *lab.VLANs { return &d.Untagged }).under(Ports),
		carriedFact(of, "tagged", "tagged", []string{"tagged", "tagged vlan", "tagged vlans"}, "tagged 20,30",
			func(d *lab.Device) *lab.VLANs { return &d.Tagged }).under(Ports),
		bridgePriority().under(Ports),
		aggregates().under(Ports),
		macFact().under(Ports),
		reference(of, lab.KindWireless, "wireless network", "wireless_id", []string{"on wireless", "wireless network", "on wifi"},
			func(d *lab.Device) *lab.ID { return &d.Wireless }).under(Ports).optional(),

		carriedFact(ofCable, "untagged", "untagged", []string{"untagged", "native"}, "untagged 10",
			func(c *lab.Cable) *lab.VLANs { return &c.Untagged }),
		carriedFact(ofCable, "tagged", "tagged", []string{"tagged"}, "tagged 20,30", func(c *lab.Cable) *lab.VLANs { return &c.Tagged }),
	}
}

func (f fact) inHead() fact { f.head = true; return f }

// management is whether a switch can be told what its ports carry.
func management[R any](of scope, at func(*R) *lab.Management) fact {
	return choice(of, "managed", "management", at, []option[lab.Management]{
		{lab.Managed, "managed", []string{"smart managed", "smart"}},
		{lab.Unmanaged, "unmanaged", []string{"not managed", "dumb"}},
	}).optional()
}

// vlanNumber is the number of one VLAN.
func vlanNumber[R any](of scope, name, field string, at func(*R) *int) fact {
	return fact{of: of, name: name, field: field, example: "20", needed: "a VLAN is known by its number: write it, such as 20",
		number: func(b box) *float64 { n := float64(*at(b.(*R))); return &n },
		read: func(tokens []text.Token, _ bool) (any, error) {
			n, err := strconv.Atoi(text.Joined(tokens))
			if err != nil {
				return nil, fmt.Errorf("“%s” is not the number of a VLAN; write it before the name, such as vlan 20 \"servers\"",
					text.Short(text.Joined(tokens)))
			}
			_, err = lab.ReadVLANs(text.Joined(tokens))
			return n, err
		},
		set: func(b box, v any) {
			if n, ok := v.(int); ok {
				*at(b.(*R)) = n
			}
		},
		show: func(_ *lab.Lab, b box) string {
			if n := *at(b.(*R)); n > 0 {
				return strconv.Itoa(n)
			}
			return ""
		}}
}

// inVLAN is the VLAN that something is in.
func inVLAN[R any](of scope, field string, words []string, at func(*R) **int) fact {
	f := vlanNumber(of, "VLAN", field, func(*R) *int { return nil })
	f.words, f.example, f.pattern, f.needed = words, words[0]+" 30", words[0]+" %s", ""
	f.number = counted(at)
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if text.IsUnknown(tokens) {
			return nil, nil
		}
		if len(tokens) > 1 && tokens[0].Is("vlan") {
			tokens = tokens[1:]
		}
		if of != ofLine && mayCallVLAN(tokens) {
			return vlanCalled(text.Joined(tokens)), nil
		}
		return read(tokens, lax)
	}
	f.set = func(b box, v any) { *at(b.(*R)) = wholeOf(v) }
	f.show = func(_ *lab.Lab, b box) string {
		if n := *at(b.(*R)); n != nil {
			return strconv.Itoa(*n)
		}
		return ""
	}
	return f
}

// mayCallVLAN reports whether what stands behind the word vlan is a name: one word that is
// none that goes on, such as on.
func mayCallVLAN(tokens []text.Token) bool {
	return len(tokens) == 1 && (tokens[0].Kind == text.Quoted || tokens[0].Kind == text.Word && !startsWithDigit(tokens[0].Text) &&
		!slices.Contains([]string{"on", "from", "for", "in", "is", "by", "vlan", "tagged", "untagged"}, tokens[0].Plain))
}

// vlanCalled is a VLAN by its name.
type vlanCalled string

func (v vlanCalled) in(s setting) (any, error) {
	if n := numberOf(s.lab, string(v)); n > 0 {
		return n, nil
	}
	return nil, fmt.Errorf("there is no VLAN called “%s”, or several; write its number, such as vlan 20", text.Short(string(v)))
}

// vlansMeant puts the numbers of VLANs where lines give their names, with the word for them
// or as a phrase of its own: subnet 10.20.0.0/24 servers.
func (ld *loader) vlansMeant(lines []*thing) {
	for _, t := range lines {
		vlan := indexes[t.scope()].byField["vlan"]
		for i, s := range t.said {
			name, called := s.value.(vlanCalled)
			if list, ok := s.value.([]string); ok && s.kept && len(list) == 1 && numberOf(ld.lab(), list[0]) > 0 {
				name, called = vlanCalled(list[0]), true
				t.said[i].fact, t.said[i].kept = vlan, false
			}
			if !called {
				continue
			}
			n, err := name.in(ld.setting(nil))
			if err != nil {
				ld.wrong(t, s.col, s.end, err)
				t.broken = true
				continue
			}
			t.said[i].value = n
		}
	}
}

func switchingDomain[R any](of scope, at func(*R) *string) fact {
	return written(of, "switching domain", "switching_domain", []string{"in domain", "domain", "switching domain"}, `in domain "exam lab"`, at,
		text.Quote).optional()
}

// readVLANs reads VLANs from words, with the word for them or without.
func readVLANs(tokens []text.Token) (lab.VLANs, error) {
	said := strings.ToLower(text.Joined(tokens))
	for _, w := range []string{"vlans ", "vlan "} {
		said = strings.TrimPrefix(said, w)
	}
	v, err := lab.ReadVLANs(said)
	if err == nil && v == "" {
		err = errors.New("say which VLANs, such as 20 or 20,30-35, or all, or none")
	}
	return v, err
}

// carriedFact is what ports carry of which nothing else is said, or a link
// without a cable.
func carriedFact[R any](of scope, name, field string, words []string, example string, at func(*R) *lab.VLANs) fact {
	return fact{of: of, name: name, field: field, words: words, example: example, pattern: words[0] + " %s", maybe: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			v, err := readVLANs(slices.DeleteFunc(slices.Clone(tokens), func(t text.Token) bool { return t.Kind == text.Separator }))
			if err == nil && name == "untagged" {
				err = oneUntagged(v)
			}
			return v, err
		},
		set:  func(b box, v any) { *at(b.(*R)), _ = v.(lab.VLANs) },
		show: func(_ *lab.Lab, b box) string { return string(*at(b.(*R))) }}
}

func oneUntagged(v lab.VLANs) error {
	if v.One() == 0 && v != lab.NoVLANs {
		return fmt.Errorf("a port carries one VLAN untagged, not %s; tag the others", v)
	}
	return nil
}

func bridgePriority() fact {
	f := tally(scope(lab.KindDevice), "bridge priority", "bridge_priority", []string{"bridge priority", "priority", "spanning tree priority"},
		"bridge priority 4096", "bridge priority %s", func(d *lab.Device) **int { return &d.Priority })
	return f.usually(strconv.Itoa(lab.UsualPriority)).optional()
}

// macFact is a device's own address, in any of the usual ways to write one.
func macFact() fact {
	f := written(scope(lab.KindDevice), "MAC address", "mac", []string{"mac", "mac address"}, `mac 02:00:5e:00:00:01`,
		func(d *lab.Device) *string { return &d.MAC }, bareWord)
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		v, err := read(tokens, lax)
		if s, ok := v.(string); ok && err == nil {
			return AsMAC(s), nil
		}
		return v, err
	}
	return f.optional()
}

// AsMAC writes a MAC address as records keep it; what is none stays as it is,
// to be refused.
func AsMAC(typed string) string {
	digits := strings.Map(func(r rune) rune {
		if strings.ContainsRune(":-. ", r) {
			return -1
		}
		return r
	}, strings.ToLower(typed))
	const pairs = 6
	if len(digits) != 2*pairs {
		return typed
	}
	var said []string
	for i := range pairs {
		said = append(said, digits[2*i:2*i+2])
	}
	return strings.Join(said, ":")
}

// speedFact is what goes down or up: down 30M.
func speedFact[R any](of scope, name, field, word string, at func(*R) **int) fact {
	return fact{of: of, name: name, field: field, words: []string{word, word + "load"}, example: word + " 30M", pattern: word + " %s",
		maybe: true, number: counted(at),
		read: func(tokens []text.Token, lax bool) (any, error) {
			if len(tokens) == 1 && tokens[0].Kind == text.Word && strings.Trim(tokens[0].Text, "0123456789") == "" {
				tokens = []text.Token{asWord(tokens[0], tokens[0].Text+"m")} // in Mbit/s, as lines are sold
			}
			return readOneSpeed(tokens, lax)
		},
		set: func(b box, v any) { *at(b.(*R)), _ = v.(*int) },
		show: func(_ *lab.Lab, b box) string {
			if n := *at(b.(*R)); n != nil {
				return SpeedText(*n)
			}
			return ""
		}}
}

// sentBy are the devices that send a wireless network.
func sentBy() fact {
	at := func(b box) *[]lab.ID { return &b.(*lab.WirelessNetwork).Points }
	show := func(each func(string) string) func(*lab.Lab, box) string {
		return func(l *lab.Lab, b box) string {
			var said []string
			for _, id := range *at(b) {
				said = append(said, each(refsOf(l).name(id)))
			}
			return strings.Join(said, ", ")
		}
	}
	written := show(text.Quote)
	return fact{of: ofWireless, name: "sent by", field: "access_point_ids", words: []string{"on", "sent by", "from"},
		example: `on "loft ap"`, many: true, adds: true, typedWhole: true, names: lab.KindDevice,
		matches: func(tokens []text.Token) bool { return len(tokens) == 1 && tokens[0].Kind == text.Quoted },
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list severalNamed
			for phrase := range text.Cut(tokens) {
				if phrase[0].Is("and") || phrase[0].Is("on") {
					phrase = phrase[1:]
				}
				if len(phrase) > 0 {
					list = append(list, named{lab.KindDevice, strings.TrimSpace(text.Joined(phrase))})
				}
			}
			if len(list) == 0 {
				return nil, errors.New(`name the access points, such as on "loft ap"`)
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.ID)
			for _, id := range list {
				if slices.Contains(*at(b), id) {
					list = slices.DeleteFunc(slices.Clone(list), func(o lab.ID) bool { return o == id })
				}
			}
			if v == nil {
				list = nil
			} else if list == nil {
				return // all of them are there
			}
			*at(b) = more(*at(b), list)
		},
		show: show(func(name string) string { return name }),
		write: func(l *lab.Lab, b box) string {
			if s := written(l, b); s != "" {
				return "on " + s
			}
			return ""
		}}
}

// severalNamed are several records that a fact names.
type severalNamed []named

func (n severalNamed) in(s setting) (any, error) {
	var list []lab.ID
	for _, one := range n {
		id, err := s.named(one.kind, one.name)
		if err != nil {
			return nil, err
		}
		list = append(list, id)
	}
	return list, nil
}

var aggregateWords = []string{"aggregate", "bond", "lag", "team"}

// aggregates are ports that are one link: aggregate "up" ports s1-s2 active-active.
func aggregates() fact {
	at := func(b box) *[]lab.Aggregate { return &b.(*lab.Device).Aggregates }
	show := func(_ *lab.Lab, b box) string {
		var said []string
		for _, a := range *at(b) {
			ports := inRanges(a.Ports)
			for i, p := range ports {
				if !bareKey.MatchString(p) {
					ports[i] = text.Quote(p)
				}
			}
			said = append(said, fmt.Sprintf("aggregate %s ports %s %s", text.Quote(a.Name), strings.Join(ports, " "), a.Mode))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: scope(lab.KindDevice), name: "aggregates", field: "aggregates", words: aggregateWords,
		example: `aggregate "up" ports s1-s2 active-active`, many: true, adds: true, maybe: true, show: show, write: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			list, err := readEach(tokens, readAggregate)
			if list == nil {
				return nil, err
			}
			return list, nil
		},
		set: func(b box, v any) {
			addEach(at(b), v, func(was, is lab.Aggregate) (lab.Aggregate, bool) {
				return is, lab.FoldName(was.Name) == lab.FoldName(is.Name)
			})
		}}
}

// readAggregate reads what stands behind the word: its name, its ports, how they
// share the work.
func readAggregate(tokens []text.Token) (lab.Aggregate, error) {
	a := lab.Aggregate{Mode: lab.ActiveActive}
	if slices.Contains(aggregateWords, tokens[0].Plain) && tokens[0].Kind == text.Word {
		tokens = tokens[1:]
	}
	if len(tokens) == 0 || tokens[0].Kind == text.Unknown {
		return a, errors.New(`say what the aggregate is called, such as aggregate "up" ports s1-s2`)
	}
	a.Name = strings.TrimSpace(tokens[0].Text)
	for _, t := range tokens[1:] {
		switch t.Plain {
		case "ports", "port", "of", "and", "mode", "both":
		case "active active", "active/active", "lacp", "balanced":
			a.Mode = lab.ActiveActive
		case "active standby", "active/standby", "standby", "active passive", "active backup":
			a.Mode = lab.ActiveStandby
		case "active":
		default:
			if strings.Contains(t.Text, "/") && t.Kind == text.Word {
				return a, fmt.Errorf("an aggregate is of the ports of one device: name its ports alone, such as ports s1-s2, not “%s”",
					text.Short(t.Text))
			}
			a.Ports = append(a.Ports, keysIn(t)...)
		}
	}
	return a, nil
}

// inRanges writes ports, those that follow on one another as a range: 1, 2, 3 as
// 1-3.
func inRanges(ports []string) []string {
	var said []string
	for from := 0; from < len(ports); {
		n := rangeAt(ports[from:])
		if n > 1 {
			said = append(said, ports[from]+"-"+ports[from+n-1])
		} else {
			said = append(said, ports[from])
		}
		from += n
	}
	return said
}

// rangeAt tells how many ports a list begins with that follow on one another.
func rangeAt(ports []string) int {
	n := 1
	for n < len(ports) && slices.Equal(keysIn(text.Token{Text: ports[0] + "-" + digitsOf(ports[n])}), ports[:n+1]) {
		n++
	}
	return n
}

// digitsOf is the number that a port's key ends with.
func digitsOf(key string) string { return key[len(strings.TrimRight(key, "0123456789")):] }
