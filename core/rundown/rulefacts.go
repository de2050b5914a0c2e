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

var ofRule = scope(lab.KindRule)

// ruleFacts are what can be said of who reaches whom.
func ruleFacts() []fact {
	from := side("from", "from whom", func(r *lab.Rule) **lab.Endpoint { return &r.From })
	from.needed = "say from whom to whom, such as from guests to internet: some"
	from.takes = func(tokens []text.Token) int { return upTo(tokens, "to") }
	to := side("to", "to whom", func(r *lab.Rule) **lab.Endpoint { return &r.To })
	to.needed = "say to whom, such as from guests to internet: some"
	to.takes = func(tokens []text.Token) int {
		if len(tokens) < 2 || !tokens[0].Is("to") {
			return 0
		}
		return upTo(tokens, "")
	}
	to.write = func(l *lab.Lab, b box) string { return "to " + endpointText(l, b.(*lab.Rule).To) }
	only := reference(ofRule, lab.KindLine, "only by line", "only_line_id", []string{"by", "only by"}, func(r *lab.Rule) *lab.ID {
		return &r.Only
	}).optional()
	only.example = `by "second" only`
	read := only.read
	only.read = func(tokens []text.Token, lax bool) (any, error) {
		if n := len(tokens); n > 1 && tokens[n-1].Is("only") {
			tokens = tokens[:n-1]
		}
		return read(tokens, lax)
	}
	alone := only.write
	only.write = func(l *lab.Lab, b box) string {
		if s := alone(l, b); s != "" {
			return s + " only"
		}
		return ""
	}
	return []fact{from, to, says(),
		speedFact(ofRule, "most down", "down_mb", "down", func(r *lab.Rule) **int { return &r.DownMb }),
		speedFact(ofRule, "most up", "up_mb", "up", func(r *lab.Rule) **int { return &r.UpMb }),
		only,
		remarks(ofRule, func(r *lab.Rule) *[]string { return &r.Remarks }),
		note(ofRule, func(r *lab.Rule) *string { return &r.Notes }),
	}
}

// side is one of the two sides of a rule.
func side(field, name string, at func(*lab.Rule) **lab.Endpoint) fact {
	show := func(l *lab.Lab, b box) string { return endpointText(l, *at(b.(*lab.Rule))) }
	return fact{of: ofRule, name: name, field: field, head: true, example: "guests", show: show, write: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if len(tokens) > 1 && tokens[0].Is(field) {
				tokens = tokens[1:]
			}
			return readEndpoint(tokens)
		},
		set: func(b box, v any) {
			*at(b.(*lab.Rule)) = nil
			if e, ok := v.(lab.Endpoint); ok {
				*at(b.(*lab.Rule)) = &e
			}
		}}
}

// endpointSaid is a side of a rule as it is written: a name, and of which kind where
// that is said.
type endpointSaid struct {
	kind lab.EndpointKind // "" where any will do
	name string
}

// sideWords are what stands before a name that is to be of one kind.
var sideWords = []struct {
	word string
	kind lab.RecordKind
}{{"remote access", lab.KindRemoteAccess}, {"vlan", lab.KindVLAN}, {"device", lab.KindDevice}, {"subnet", lab.KindSubnet},
	{"tunnel", lab.KindTunnel}}

func readEndpoint(tokens []text.Token) (any, error) {
	switch text.Plainly(tokens) {
	case "internet", "the internet", "outside", "the outside", "world", "the world":
		if !hasQuotes(tokens) {
			return endpointSaid{kind: lab.Internet}, nil
		}
	}
	for _, w := range sideWords {
		if n := strings.Count(w.word, " ") + 1; len(tokens) > n && plainWords(tokens[:n]) == w.word {
			return endpointSaid{lab.EndpointKind(w.kind), text.Joined(tokens[n:])}, nil
		}
	}
	if len(tokens) == 0 || text.IsUnknown(tokens) {
		return nil, errors.New("name a VLAN, a device, a subnet, a remote access, or internet")
	}
	return endpointSaid{name: calledIn(tokens)}, nil
}

func (e endpointSaid) in(s setting) (any, error) {
	if e.kind == lab.Internet {
		return lab.Endpoint{Kind: lab.Internet}, nil
	}
	found := endpointsCalled(s, e)
	switch len(found) {
	case 1:
		return found[0], nil
	case 0:
		kind := e.kind
		if kind == "" {
			return nil,
				fmt.Errorf("there is no VLAN, device, subnet, remote access or tunnel called “%s”; a line such as vlan 30 %s makes it a VLAN",
					text.Short(e.name), text.Quote(text.Short(e.name)))
		}
		return nil, noneCalled(s.lab, lab.RecordKind(kind), e.name)
	}
	var say []string
	for _, one := range found {
		say = append(say, endpointWords(s.lab, one))
	}
	return nil, mayBe(e.name, say)
}

// endpointsCalled are those that go by a name, by which others of them may go too.
func endpointsCalled(s setting, e endpointSaid) []lab.Endpoint {
	var found []lab.Endpoint
	may := func(kind lab.RecordKind) bool { return e.kind == "" || e.kind == lab.EndpointKind(kind) }
	if may(lab.KindVLAN) {
		found = append(found, vlansCalled(s.lab, e.name)...)
	}
	if may(lab.KindSubnet) {
		for r := range lab.Each[lab.Subnet](s.lab) {
			if r.CIDR.String() == e.name {
				found = append(found, lab.EndpointOf(r.Key()))
			}
		}
	}
	for _, kind := range []lab.RecordKind{lab.KindRemoteAccess, lab.KindTunnel} {
		if id, ok := s.lab.Named(kind, e.name); ok && may(kind) {
			found = append(found, lab.EndpointOf(lab.Key{Kind: kind, ID: id}))
		}
	}
	if may(lab.KindDevice) {
		if id, err := s.named(lab.KindDevice, e.name); err == nil {
			found = append(found, lab.EndpointOf(lab.Key{Kind: lab.KindDevice, ID: id}))
		}
	}
	if len(found) == 0 && e.kind == "" { // a wireless network, by the VLAN of its guests
		if id, ok := s.lab.Named(lab.KindWireless, e.name); ok {
			if w, _ := lab.Find[lab.WirelessNetwork](s.lab, id); w.VLAN != nil {
				return vlansCalled(s.lab, strconv.Itoa(*w.VLAN))
			}
		}
	}
	return found
}

// vlansCalled are the VLANs of a name or number.
func vlansCalled(l *lab.Lab, name string) []lab.Endpoint {
	var found []lab.Endpoint
	for v := range lab.Each[lab.VLAN](l) {
		if v.Name != "" && lab.FoldName(v.Name) == lab.FoldName(name) || strconv.Itoa(v.Number) == name ||
			lab.FoldName(v.Title()) == lab.FoldName(name) {
			found = append(found, lab.EndpointOf(v.Key()))
		}
	}
	return found
}

// endpointText is a side as a line writes it, so that it is read again.
func endpointText(l *lab.Lab, e *lab.Endpoint) string {
	if e == nil {
		return ""
	}
	if e.Kind == lab.Internet {
		return string(lab.Internet)
	}
	name := l.EndpointWords(*e)
	if e.Kind == lab.EndpointKind(lab.KindDevice) {
		name = refsOf(l).numbered(e.ID)
	}
	found := endpointsCalled(settingOf(l, nil, ""), endpointSaid{name: name})
	if len(found) != 1 || name == string(lab.Internet) || !slices.Contains(found, *e) {
		return endpointWords(l, *e)
	}
	if bareName.MatchString(name) && !strings.Contains(name, " ") && !slices.Contains([]string{"to", "in", "on",
		"outside", "world"}, strings.ToLower(name)) ||
		e.Kind == lab.EndpointKind(lab.KindSubnet) {
		return name
	}
	return text.Quote(name)
}

// endpointWords is a side with its kind before it.
func endpointWords(l *lab.Lab, e lab.Endpoint) string {
	switch r := l.Get(e.Key()).(type) {
	case lab.VLAN:
		return "vlan " + strconv.Itoa(r.Number)
	case lab.Subnet:
		return "subnet " + r.CIDR.String()
	case lab.Device:
		return "device " + text.Quote(refsOf(l).numbered(r.ID))
	case nil:
		return string(e.Kind)
	default:
		return r.Key().Kind.Words() + " " + text.Quote(r.Title())
	}
}

// reached is what a rule says, and of some what.
type reached struct {
	says lab.Reach
	what string
}

var reachWords = map[string]lab.Reach{"all": lab.ReachAll, "everything": lab.ReachAll, "allowed": lab.ReachAll, "yes": lab.ReachAll,
	"some": lab.ReachSome, "only": lab.ReachSome, "partly": lab.ReachSome, "in part": lab.ReachSome,
	"none": lab.ReachNone, "nothing": lab.ReachNone, "no": lab.ReachNone, "never": lab.ReachNone, "blocked": lab.ReachNone}

// saysSome reports whether people say that instead of some of it: from guests to library: web.
func saysSome(word string) bool {
	return lab.IsUsualWord(word) || slices.Contains([]string{"files", "port", "ports", "tcp", "udp"}, word)
}

// says is what of the other side is reached: all, none, some "web and files".
func says() fact {
	at := func(b box) *lab.Rule { return b.(*lab.Rule) }
	show := func(_ *lab.Lab, b box) string {
		if at(b).What != "" {
			return string(at(b).Says) + " " + text.Quote(at(b).What)
		}
		return string(at(b).Says)
	}
	return fact{of: ofRule, name: "what is reached", field: "says", example: `some "web and files"`,
		needed: "say all, some or none, such as from guests to internet: some", show: show,
		matches: func(tokens []text.Token) bool {
			_, ok := reachWords[plainWords(tokens[:1])]
			return saysSome(tokens[0].Plain) || ok && (len(tokens) == 1 || len(tokens) == 2 && tokens[1].Kind == text.Quoted)
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			is, ok := reachWords[strings.ToLower(text.Plainly(tokens[:1]))]
			if saysSome(tokens[0].Plain) {
				return reached{says: lab.ReachSome, what: text.Joined(tokens)}, nil
			}
			if !ok {
				return nil, fmt.Errorf("“%s” is not what may be reached; write all, some “web”, or none", text.Short(text.Joined(tokens)))
			}
			r := reached{says: is}
			if len(tokens) > 1 {
				r.what = strings.TrimSpace(text.Joined(tokens[1:]))
			}
			return r, nil
		},
		set: func(b box, v any) {
			r, _ := v.(reached)
			at(b).Says, at(b).What = r.says, r.what
		}}
}
