package rundown

import (
	"errors"
	"fmt"
	"net/netip"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// What is said of names: where one leads, and on from there; and of names and services
// alike from where they are to be reached, and what stands before them:
//
//	library.quarry.home.arpa -> "way in" -> library:8080, certificate until 2027-01-26, sign-in by "keys"
//	name library.quarry.example -> tunnel "front door" -> "way in", open to the world, with sign-in

var ofName = scope(lab.KindName)

func nameFacts() []fact {
	return slices.Concat([]fact{leadsTo()}, exposedFacts(ofName, func(n *lab.Name) *lab.Exposed { return &n.Exposed }), []fact{
		remarks(ofName, func(n *lab.Name) *[]string { return &n.Remarks }),
		note(ofName, func(n *lab.Name) *string { return &n.Notes }),
	})
}

// isNameLine reports whether a line is about a name without saying so: its first word has
// a dot, as only names in the domain name system have them.
func isNameLine(tokens []text.Token) bool {
	first := tokens[0]
	if first.Kind != text.Word || len(tokens) < 2 || !strings.Contains(strings.Trim(first.Text, "."), ".") || looksLikeIP(first) ||
		!joins[tokens[1].Text] && tokens[1].Kind != text.Separator {
		return false
	}
	_, bad := lab.DNSName(first.Text)
	last := first.Text[strings.LastIndex(first.Text, ".")+1:]
	return bad == "" && strings.Trim(last, "0123456789") == last && last != ""
}

// dottedName says of a line about a name that it is one, and puts the port behind a hop in
// words: -> library:8080.
func dottedName(tokens []text.Token) [][]text.Token {
	named := isNameLine(tokens)
	if !named && !tokens[0].Is("name") {
		return nil
	}
	var said []text.Token
	if named {
		said = append(said, asWord(tokens[0], "name"))
	}
	changed, led := named, false
	for i, t := range tokens {
		led = led || t.Kind == text.Word && joins[t.Text]
		if led && t.Text == ":" && t.Kind == text.Separator && i+1 < len(tokens) && tokens[i-1].End == t.Col && tokens[i+1].Col == t.End {
			t, changed = asWord(t, "port"), true
		}
		said = append(said, t)
	}
	if !changed {
		return nil
	}
	return [][]text.Token{said}
}

func portOf(s string) int {
	n, err := strconv.Atoi(s)
	if err != nil || n < 1 || n > 65535 {
		return 0
	}
	return n
}

// hopSaid is one hop as it is written.
type hopSaid struct {
	neededSaid
	port int
}

// leads is where a name leads, as it is written.
type leads []hopSaid

func (leads) late() {}

// led is where it leads: hops, or the name that it is the same as.
type led struct {
	hops  []lab.Hop
	alias string
}

func (to leads) in(s setting) (any, error) {
	is := led{}
	for i, h := range to {
		alone := len(to) == 1 && h.port == 0
		id, ok := s.lab.Named(lab.KindName, h.name)
		itself := ok && s.of != nil && id == s.of.Key().ID // then the device of that name is meant, where there is one
		if ok && !itself && alone && (h.kind == "" || h.kind == lab.KindName) {
			return led{alias: h.name}, nil
		}
		hop, err := h.hop(s, i > 0)
		var none *noneError
		switch {
		case err == nil:
			is.hops = append(is.hops, hop)
		case alone && h.kind == "" && errors.As(err, &none):
			if _, bad := lab.DNSName(h.name); bad != "" {
				return nil, fmt.Errorf("there is no device, service or tunnel called “%s”, and as a name %s", text.Short(h.name), bad)
			}
			return led{alias: h.name}, nil
		default:
			return nil, err
		}
	}
	return is, nil
}

// hop is what a hop's words mean: behind the first one another name of one's own, too.
func (h hopSaid) hop(s setting, behind bool) (lab.Hop, error) {
	if a, err := netip.ParseAddr(h.name); err == nil {
		return lab.Hop{Address: a.Unmap(), Port: h.port}, nil
	}
	if looksLikeIP(text.Token{Text: h.name}) {
		_, err := readIP(h.name)
		return lab.Hop{}, err
	}
	found := hopsCalled(s, h.neededSaid, behind)
	if bare := withoutArticle(h.name); len(found) == 0 && bare != h.name {
		found = hopsCalled(s, neededSaid{h.kind, bare}, behind)
	}
	if len(found) == 2 { // a guest and the service in it that gave it its name: one gets to either by the other
		if v, ok := s.lab.Get(found[1]).(lab.Service); ok && v.In == found[0].ID {
			found = found[1:]
		}
	}
	switch len(found) {
	case 1:
		return lab.HopTo(found[0], h.port), nil
	case 0:
		if k, ok := serviceOn(s, h.name); ok {
			return lab.HopTo(k, h.port), nil
		}
		if _, err := s.named(lab.KindDevice, h.name); isSeveral(err) {
			return lab.Hop{}, err
		}
		kind := h.kind
		if kind == "" {
			kind = lab.KindDevice
		}
		return lab.Hop{}, noneCalled(s.lab, kind, h.name)
	}
	var say []string
	for _, k := range found {
		say = append(say, neededWords(s.lab, k))
	}
	return lab.Hop{}, mayBe(h.name, say)
}

// serviceOn is what a hop such as proxy on "names" means: the service of that name there, or
// else the device that it is on.
func serviceOn(s setting, said string) (lab.Key, bool) {
	for _, word := range []string{" on ", " in "} {
		i := strings.LastIndex(said, word)
		if i < 0 {
			continue
		}
		id, err := s.named(lab.KindDevice, strings.Trim(said[i+len(word):], `"'“”‘’`))
		if err != nil {
			continue
		}
		for v := range lab.Each[lab.Service](s.lab) {
			if v.In == id && lab.FoldName(v.Title()) == lab.FoldName(withoutArticle(said[:i])) {
				return v.Key(), true
			}
		}
		return lab.Key{Kind: lab.KindDevice, ID: id}, true
	}
	return lab.Key{}, false
}

// hopsCalled are the devices, services and tunnels that go by a name, and behind the first
// hop, where there are none, the names of one's own.
func hopsCalled(s setting, n neededSaid, behind bool) []lab.Key {
	var found []lab.Key
	for _, kind := range []lab.RecordKind{lab.KindDevice, lab.KindService, lab.KindTunnel, lab.KindName} {
		if n.kind != "" && n.kind != kind || kind == lab.KindName && (!behind || found != nil) {
			continue
		}
		if id, err := s.named(kind, n.name); err == nil {
			found = append(found, lab.Key{Kind: kind, ID: id})
		}
	}
	return found
}

// readHops reads what stands between the arrows.
func readHops(tokens []text.Token) (leads, error) {
	var list leads
	for {
		end := slices.IndexFunc(tokens, func(t text.Token) bool { return joins[t.Text] && t.Kind == text.Word })
		last := end < 0
		if last {
			end = len(tokens)
		}
		h, err := readHop(tokens[:end])
		if err != nil {
			return nil, err
		}
		if list = append(list, h); last {
			return list, nil
		}
		tokens = tokens[end+1:]
	}
}

// hopKinds are the words before a hop's name that say of what kind it is.
var hopKinds = map[string]lab.RecordKind{"service": lab.KindService, "vm": lab.KindDevice, "container": lab.KindDevice,
	"device": lab.KindDevice, "tunnel": lab.KindTunnel, "name": lab.KindName}

func readHop(tokens []text.Token) (hopSaid, error) {
	h := hopSaid{}
	if n := len(tokens); n > 2 && (tokens[n-2].Is("port") || tokens[n-2].Is("tcp") || tokens[n-2].Is("on") && portOf(tokens[n-1].Text) > 0) {
		if h.port = portOf(tokens[n-1].Text); h.port == 0 {
			return h, fmt.Errorf("“%s” is not a port; it is between 1 and 65535", text.Short(tokens[n-1].Text))
		}
		tokens = tokens[:n-2]
		if n = len(tokens); n > 1 && (tokens[n-1].Is("on") || tokens[n-1].Is("at")) {
			tokens = tokens[:n-1]
		}
	}
	if len(tokens) == 0 || text.IsUnknown(tokens) {
		return h, fmt.Errorf(`say where it leads, such as -> library:8080`)
	}
	if kind := hopKinds[tokens[0].Plain]; kind != "" && tokens[0].Kind == text.Word && len(tokens) > 1 {
		h.kind, tokens = kind, tokens[1:]
	}
	h.name = strings.TrimSpace(text.Joined(tokens))
	if len(tokens) > 1 {
		h.name = calledIn(tokens)
	}
	if name, port, ok := strings.Cut(h.name, ":"); ok && portOf(port) > 0 && tokens[len(tokens)-1].Kind == text.Word { // in a field
		h.name, h.port = name, portOf(port)
	}
	return h, nil
}

// leadsTo is where a name leads: -> 10.20.0.31, -> "way in" -> library:8080.
func leadsTo() fact {
	show := func(quote func(string) string) func(*lab.Lab, box) string {
		return func(l *lab.Lab, b box) string {
			n := b.(*lab.Name)
			if n.Alias != "" {
				return quote(n.Alias)
			}
			var said []string
			for i, h := range n.Hops() {
				said = append(said, hopText(l, h, quote, i > 0))
			}
			return strings.Join(said, " -> ")
		}
	}
	written := show(text.Quote)
	return fact{of: ofName, name: "leads to", field: "address", words: []string{"leads to", "is", "is at", "alias of"},
		example: "-> 10.20.0.31",
		show:    show(func(s string) string { return s }), typedWhole: true,
		matches: func(tokens []text.Token) bool { return len(tokens) > 1 && joins[tokens[0].Text] },
		read: func(tokens []text.Token, _ bool) (any, error) {
			if len(tokens) > 1 && joins[tokens[0].Text] {
				tokens = tokens[1:]
			}
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			return readHops(tokens)
		},
		set: func(b box, v any) {
			n := b.(*lab.Name)
			to, _ := v.(led)
			n.Hop, n.Then, n.Alias = lab.Hop{}, nil, to.alias
			if len(to.hops) > 0 {
				n.Hop = to.hops[0]
			}
			if len(to.hops) > 1 {
				n.Then = to.hops[1:]
			}
		},
		write: func(l *lab.Lab, b box) string {
			if s := written(l, b); s != "" {
				return "-> " + s
			}
			return ""
		}}
}

// hopText is a hop as a line writes it, so that it is read again: with its kind where
// several things have its name.
func hopText(l *lab.Lab, h lab.Hop, quote func(string) string, behind bool) string {
	name := ""
	if h.Address.IsValid() {
		name = h.Address.String()
	} else {
		k := h.Key()
		called := nameOfNeeded(l, k)
		name = quote(called)
		if k.Kind == lab.KindDevice && quote(" ") != " " {
			name = refsOf(l).name(k.ID)
		}
		alias := false // alone, a name of one's own would be taken for what it is the same as
		if _, ok := l.Named(lab.KindName, called); ok && !behind {
			alias = true
		}
		if found := hopsCalled(settingOf(l, nil, ""), neededSaid{name: called}, behind); len(found) != 1 || found[0] != k || alias {
			name = neededWords(l, k)
		}
	}
	if h.Port > 0 {
		name += " port " + strconv.Itoa(h.Port)
	}
	return name
}

// exposedFacts are from where something is to be reached, and what stands before it.
func exposedFacts[R any](of scope, at func(*R) *lab.Exposed) []fact {
	is := func(b box) *lab.Exposed { return at(b.(*R)) }
	from := choice(of, "reached from", "exposure", func(r *R) *lab.Exposure { return &at(r).Exposure }, []option[lab.Exposure]{
		{lab.WholeLab, "only the lab", []string{"whole lab", "the whole lab", "lab only", "inside only", "only inside", "only at home",
			"only in the house", "internal only"}},
		{lab.OnHost, "only its host", []string{"this host", "this host only", "only this host", "localhost only", "its host only"}},
		{lab.SomeVLANs, "", []string{"some vlans"}},
		{lab.ByTunnel, "through a tunnel", []string{"by a tunnel", "via a tunnel", "over a tunnel", "only through a tunnel"}},
		{lab.WholeWorld, "open to the world", []string{"open to the internet", "public", "the world", "from anywhere", "open to everyone",
			"on the internet", "reachable from anywhere"}},
	})
	set := from.set
	from.set = func(b box, v any) {
		if set(b, v); is(b).Exposure != lab.SomeVLANs {
			is(b).Within = ""
		}
	}
	within := fact{of: of, name: "reached from VLANs", field: "exposed_vlans", words: []string{"only vlan", "only vlans", "only from vlan",
		"only from vlans", "open to vlan", "open to vlans"}, example: "only vlan 10,30", pattern: "only vlan %s", maybe: true,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			return readVLANs(slices.DeleteFunc(withCommas(tokens), func(t text.Token) bool { return t.Is("vlan") || t.Is("vlans") }))
		},
		set: func(b box, v any) {
			was := is(b).Within
			is(b).Within, _ = v.(lab.VLANs)
			if is(b).Within != "" {
				is(b).Exposure = lab.SomeVLANs
			} else if was != "" {
				is(b).Exposure = ""
			}
		},
		show: func(_ *lab.Lab, b box) string { return string(is(b).Within) }}
	signIn := choice(of, "sign-in", "sign_in", func(r *R) *lab.SignIn { return &at(r).SignIn }, []option[lab.SignIn]{
		{lab.SignInAsked, "with sign-in", []string{"with a password", "with password", "password", "sign-in", "with a login", "with login",
			"needs a password",
			"asks for a password", "behind a login"}},
		{lab.SignInNone, "without sign-in", []string{"no sign-in", "no password", "without a password", "without password", "no login",
			"without a login"}},
	})
	asked, spoken := signIn.set, signIn.write
	signIn.set = func(b box, v any) {
		if asked(b, v); is(b).SignIn != lab.SignInAsked {
			is(b).SignInBy = ""
		}
	}
	signIn.write = func(l *lab.Lab, b box) string {
		if is(b).SignInBy != "" {
			return "" // said with what one signs in with
		}
		return spoken(l, b)
	}
	by := written(of, "sign-in by", "sign_in_by", []string{"sign in by", "sign in with", "login by", "login with", "signs in with",
		"signed in by"}, `sign-in by "keys"`, func(r *R) *string { return &at(r).SignInBy }, text.Quote)
	by.write = func(_ *lab.Lab, b box) string {
		if is(b).SignInBy == "" {
			return ""
		}
		return "sign-in by " + text.Quote(is(b).SignInBy)
	}
	typed := by.set
	by.set = func(b box, v any) {
		was := is(b).SignInBy
		if typed(b, v); is(b).SignInBy != "" {
			is(b).SignIn = lab.SignInAsked
		} else if was != "" {
			is(b).SignIn = ""
		}
	}
	until := day(of, "certificate until", "certificate_until", []string{"certificate until", "certificate", "certificate ends", "cert until",
		"cert", "tls until"}, "certificate until 2027-01-26", func(r *R) *lab.When { return &at(r).Certificate }).under("")
	return []fact{from.optional(), within, signIn.optional(), by.optional(), until.optional()}
}
