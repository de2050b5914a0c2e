package rundown

import (
	"errors"
	"fmt"
	"net/netip"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var (
	ofRouter  = scope(lab.KindVirtualRouter)
	ofRoute   = scope(lab.KindRoute)
	ofLine    = scope(lab.KindLine)
	ofOpening = scope(lab.KindOpening)
	ofTunnel  = scope(lab.KindTunnel)
	ofRemote  = scope(lab.KindRemoteAccess)
)

// routingFacts are what can be said of virtual routers, routes and what routes.
func routingFacts() []fact {
	return []fact{
		choice(scope(lab.KindDevice), "routing", "routing", func(d *lab.Device) *lab.Routing { return &d.Routing }, []option[lab.Routing]{
			{lab.RoutesPackets, "routes", []string{"routes packets", "forwards packets", "routes between its networks", "layer 3", "l3"}},
			{lab.RoutesNothing, "does not route", []string{"routes nothing", "no routing"}},
		}).under(Ports).optional(),

		onDevice(ofRouter, "device it runs on", []string{"on"}, func(v *lab.VirtualRouter) *lab.ID { return &v.Device }),
		legs(),
		written(ofRouter, "what it is for", "purpose", []string{"for"}, `for "the exam"`, func(v *lab.VirtualRouter) *string {
			return &v.Purpose
		}, text.Quote).optional(),
		remarks(ofRouter, func(v *lab.VirtualRouter) *[]string { return &v.Remarks }),
		note(ofRouter, func(v *lab.VirtualRouter) *string { return &v.Notes }),

		cidr(ofRoute, func(r *lab.Route) *netip.Prefix { return &r.CIDR }),
		via(),
		behind(reference(ofRoute, lab.KindVirtualRouter, "virtual router", "virtual_router_id", []string{"in"}, func(r *lab.Route) *lab.ID {
			return &r.Router
		})),
		behind(onDevice(ofRoute, "device", []string{"on"}, func(r *lab.Route) *lab.ID { return &r.Device })),
		remarks(ofRoute, func(r *lab.Route) *[]string { return &r.Remarks }),
		note(ofRoute, func(r *lab.Route) *string { return &r.Notes }),
	}
}

// outsideFacts are what can be said of lines to the outside, of what is open on
// them, of tunnels and remote accesses.
func outsideFacts() []fact {
	openedTo := behind(onDevice(ofOpening, "where it leads", []string{"to"}, func(o *lab.Opening) *lab.ID { return &o.Device }))
	openedOn := reference(ofOpening, lab.KindLine, "line", "line_id", []string{"on"}, func(o *lab.Opening) *lab.ID { return &o.Line })
	openedOn.head, openedOn.needed = true, `say on which line, such as open "fibre line" tcp 443 to gate`
	openedOn.takes = func(tokens []text.Token) int { return upTo(tokens, "tcp", "udp", "port", "ports") }
	openedOn.write = func(l *lab.Lab, b box) string {
		w, _ := lab.Find[lab.Line](l, b.(*lab.Opening).Line)
		return text.Quote(w.Name)
	}
	return []fact{
		medium(),
		speedFact(ofLine, "down", "down_mb", "down", func(w *lab.Line) **int { return &w.DownMb }),
		speedFact(ofLine, "up", "up_mb", "up", func(w *lab.Line) **int { return &w.UpMb }),
		choice(ofLine, "address", "line_address", func(w *lab.Line) *lab.LineAddress { return &w.Address }, []option[lab.LineAddress]{
			{lab.FixedLine, "fixed address", []string{"static address", "fixed ip", "static ip", "fixed"}},
			{lab.PublicLine, "public address", []string{"public ip", "public", "own address", "dynamic address", "changing address"}},
			{lab.SharedLine, "shared address", []string{"shared ip", "shared", "address shared by the provider",
				"the provider's address", "no public address",
				"no address of its own", "no address of my own", "cgnat", "carrier grade nat"}},
		}),
		inVLAN(ofLine, "hand_over_vlan", []string{"handed over in", "handed over", "hand over vlan", "in vlan", "vlan"},
			func(w *lab.Line) **int { return &w.HandOver }).as("handed over in vlan %s").optional(),
		into(),
		lineOrder(),
		usedWith(),
		choice(ofLine, "state", "line_state", func(w *lab.Line) *lab.LineState { return &w.Out }, []option[lab.LineState]{
			{"", "", []string{"in use", "running", "works"}},
			{lab.LineOut, "out", []string{"out of order", "cut", "cancelled", "dead", "broken"}},
		}),
		written(ofLine, "where it is", "site", []string{"at"}, `at "Parents' house"`, func(w *lab.Line) *string { return &w.Site },
			text.Quote).optional(),
		monthly(),
		choice(ofLine, "what is open", "opens", func(w *lab.Line) *lab.Closed { return &w.Closed }, []option[lab.Closed]{
			{lab.NothingOpen, "nothing open", []string{"opens nothing", "nothing is open"}},
		}).optional(),
		written(ofLine, "why it is there", "why", []string{"because", "for"}, `because "the fibre was dug up once"`, func(w *lab.Line) *string {
			return &w.Why
		}, text.Quote).optional(),
		remarks(ofLine, func(w *lab.Line) *[]string { return &w.Remarks }),
		note(ofLine, func(w *lab.Line) *string { return &w.Notes }),

		openedOn,
		openedPorts(),
		openedTo,
		remarks(ofOpening, func(o *lab.Opening) *[]string { return &o.Remarks }),
		note(ofOpening, func(o *lab.Opening) *string { return &o.Notes }),

		onDevice(ofTunnel, "its end here", []string{"from", "on", "into"}, func(t *lab.Tunnel) *lab.ID { return &t.Device }),
		written(ofTunnel, "where it leads", "site", []string{"to"}, `to "Parents' house"`, func(t *lab.Tunnel) *string { return &t.Site },
			text.Quote),
		choice(ofTunnel, "sort", "tunnel_sort", func(t *lab.Tunnel) *lab.TunnelSort { return &t.Sort }, []option[lab.TunnelSort]{
			{lab.SiteToSite, "site to site", []string{"between sites"}},
			{lab.Outwards, "outwards", []string{"outward", "from inside"}},
		}),
		joined(),
		written(ofTunnel, "why it is there", "why", []string{"because", "for"}, `because "backups go over it"`, func(t *lab.Tunnel) *string {
			return &t.Why
		}, text.Quote).optional(),
		remarks(ofTunnel, func(t *lab.Tunnel) *[]string { return &t.Remarks }),
		note(ofTunnel, func(t *lab.Tunnel) *string { return &t.Notes }),

		onDevice(ofRemote, "where it comes in", []string{"into", "on", "to"}, func(r *lab.RemoteAccess) *lab.ID { return &r.Device }),
		written(ofRemote, "why it is there", "why", []string{"because", "for"}, `for "the phones"`, func(r *lab.RemoteAccess) *string {
			return &r.Why
		}, text.Quote).optional(),
		remarks(ofRemote, func(r *lab.RemoteAccess) *[]string { return &r.Remarks }),
		note(ofRemote, func(r *lab.RemoteAccess) *string { return &r.Notes }),
	}
}

// onDevice names the device that something is on, or leads to.
func onDevice[R any](of scope, name string, words []string, at func(*R) *lab.ID) fact {
	f := reference(of, lab.KindDevice, name, "device_id", words, at)
	f.example = words[0] + " gate"
	f.write = func(l *lab.Lab, b box) string {
		if id := *at(b.(*R)); id != "" {
			return words[0] + " " + refsOf(l).name(id)
		}
		return ""
	}
	f.read = func(tokens []text.Token, _ bool) (any, error) {
		switch {
		case text.IsUnknown(tokens):
			return nil, nil
		case len(tokens) == 0:
			return nil, fmt.Errorf("name the device, such as %s", f.example)
		}
		return named{lab.KindDevice, calledIn(tokens)}, nil
	}
	return f
}

// behind is a fact that stands in what a line begins with, behind its word and up
// to the next one.
func behind(f fact) fact {
	f.head = true
	words, read := f.words, f.read
	f.takes = func(tokens []text.Token) int {
		if len(tokens) < 2 || !slices.Contains(words, plainWords(tokens[:1])) {
			return 0
		}
		return 1 + upTo(tokens[1:], "in", "on")
	}
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) > 1 && slices.Contains(words, plainWords(tokens[:1])) {
			tokens = tokens[1:]
		}
		return read(tokens, lax)
	}
	return f
}

// upTo tells how many tokens come before a separator or one of the words.
func upTo(tokens []text.Token, words ...string) int {
	n := slices.IndexFunc(tokens, func(t text.Token) bool {
		return t.Kind == text.Separator || t.Kind == text.Word && slices.Contains(words, t.Plain)
	})
	if n < 0 {
		return len(tokens)
	}
	return n
}

// legs are the VLANs of a virtual router: vlan 50, vlan 60.
func legs() fact {
	show := func(_ *lab.Lab, b box) string { return string(b.(*lab.VirtualRouter).VLANs) }
	return fact{of: ofRouter, name: "VLANs", field: "vlans", words: []string{"vlan", "vlans", "legs in", "legs in vlan"}, example: "vlan 50",
		many: true, adds: true, show: show,
		write: func(_ *lab.Lab, b box) string {
			var said []string
			for n := range b.(*lab.VirtualRouter).VLANs.Numbers() {
				said = append(said, "vlan "+strconv.Itoa(n))
			}
			return strings.Join(said, ", ")
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			return readVLANs(slices.DeleteFunc(slices.Clone(tokens), func(t text.Token) bool {
				return t.Kind == text.Separator || t.Is("vlan") || t.Is("vlans")
			}))
		},
		set: func(b box, v any) {
			router := b.(*lab.VirtualRouter)
			said, _ := v.(lab.VLANs)
			if said == "" {
				router.VLANs = ""
				return
			}
			for n := range said.Numbers() {
				router.VLANs = router.VLANs.With(n)
			}
		}}
}

// via is the router that takes on what a route leads to.
func via() fact {
	at := func(b box) *netip.Addr { return &b.(*lab.Route).Via }
	return behind(fact{of: ofRoute, name: "via", field: "via", words: []string{"via"}, example: "via 10.20.0.2", pattern: "via %s",
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			a, err := readIP(text.Joined(tokens))
			if err == nil && a.tail != nil {
				err = errors.New("write the whole address, such as via 10.20.0.2")
			}
			return a.addr, err
		},
		set: func(b box, v any) { *at(b), _ = v.(netip.Addr) },
		show: func(_ *lab.Lab, b box) string {
			if a := *at(b); a.IsValid() {
				return a.String()
			}
			return ""
		}})
}

func medium() fact {
	spoken := map[lab.LineMedium][]string{lab.FibreLine: {"fiber", "optical fibre"}, lab.CableLine: {"coax", "tv cable", "cable tv"},
		lab.DSLLine: {"vdsl", "adsl", "phone line"}, lab.MobileLine: {"lte", "5g", "4g", "mobile data", "cellular"},
		lab.RadioLine: {"fixed wireless",
			"directional radio"}, lab.SatelliteUp: {"sat"}, lab.Borrowed: {"wifi", "somebody else's wifi", "their wifi", "borrowed wifi",
			"wireless from somebody else", "somebody else's wireless"}}
	var options []option[lab.LineMedium]
	for _, m := range lab.Media() {
		options = append(options, option[lab.LineMedium]{m, string(m), spoken[m]})
	}
	f := choice(ofLine, "medium", "medium", func(w *lab.Line) *lab.LineMedium { return &w.Medium }, options)
	f.example = "fibre"
	return f
}

// plugged is where a line goes into, as it is written.
type intoSaid endSaid

// inTo is where it goes into.
type inTo struct {
	device lab.ID
	port   string
}

func (e intoSaid) in(s setting) (any, error) {
	id, err := s.named(lab.KindDevice, e.device)
	if err != nil || e.port == "" {
		return inTo{device: id}, err
	}
	d, _ := lab.Find[lab.Device](s.lab, id)
	ports := s.lab.PortsOf(d)
	key, found := ports.Find(e.port)
	if !found && ports.Known {
		return nil, fmt.Errorf("“%s” has no port “%s”; it has %s", text.Short(d.Title()), text.Short(e.port), ports.Words())
	}
	if !found {
		key = e.port
	}
	return inTo{id, key}, nil
}

// into is the port that a line goes into.
func into() fact {
	show := func(l *lab.Lab, b box) string {
		w := b.(*lab.Line)
		switch {
		case w.Device == "":
			return ""
		case w.Port == "":
			return refsOf(l).name(w.Device)
		}
		return refsOf(l).text(lab.End{Device: w.Device, Port: w.Port})
	}
	return fact{of: ofLine, name: "port it goes into", field: "device_id", words: []string{"into"}, example: "into gate/1", pattern: "into %s",
		show: show, names: lab.KindDevice,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			if len(tokens) == 0 {
				return nil, errors.New("say what it goes into, such as into gate/1")
			}
			e, ok, err := wholeEnd(tokens)
			if err == nil && !ok {
				err = fmt.Errorf("“%s” is not a port; write one such as gate/1", text.Short(text.Joined(tokens)))
			}
			return intoSaid(e), err
		},
		set: func(b box, v any) {
			is, _ := v.(inTo)
			w := b.(*lab.Line)
			w.Device, w.Port = is.device, is.port
		}}
}

var ifItFails = regexp.MustCompile(`^(only )?(if|when|in case) .*(fails?|down|out|breaks|broken|dies|dead)$`)

// lineOrder is when a line is used: first, second, if it fails.
func lineOrder() fact {
	f := choice(ofLine, "order", "line_order", func(w *lab.Line) *lab.LineOrder { return &w.Order }, []option[lab.LineOrder]{
		{lab.FirstLine, "first", []string{"primary", "main line", "1st"}},
		{lab.SecondLine, "second", []string{"secondary", "2nd"}},
		{lab.ThirdLine, "third", []string{"3rd"}},
		{lab.IfItFails, "if it fails", []string{"stands by", "standby", "fall back", "fallback", "backup", "only if the first one fails"}},
	})
	f.example = "first"
	spoken := func(tokens []text.Token) bool { return ifItFails.MatchString(strings.ToLower(text.Joined(tokens))) }
	f.matches = spoken
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if spoken(tokens) {
			return lab.IfItFails, nil
		}
		return read(tokens, lax)
	}
	set := f.set
	f.set = func(b box, v any) {
		if set(b, v); v != nil {
			b.(*lab.Line).With = ""
		}
	}
	return f
}

// usedWith is the line that one is used together with.
func usedWith() fact {
	f := reference(ofLine, lab.KindLine, "used together with", "with_line_id", []string{"with", "together with"}, func(w *lab.Line) *lab.ID {
		return &w.With
	}).optional()
	f.example = `with "fibre line"`
	set := f.set
	f.set = func(b box, v any) {
		if set(b, v); b.(*lab.Line).With != "" {
			b.(*lab.Line).Order = ""
		}
	}
	return f
}

// monthly is what a line costs: 38 a month.
func monthly() fact {
	at := func(b box) **int64 { return &b.(*lab.Line).Minor }
	isMonth := func(tokens []text.Token) bool {
		n := len(tokens)
		return n > 2 && tokens[n-1].Is("month") && (tokens[n-2].Is("a") || tokens[n-2].Is("per"))
	}
	return fact{of: ofLine, name: "price a month", field: "price_month_minor", example: "38 a month", pattern: "%s a month", matches: isMonth,
		number: func(b box) *float64 {
			if v := *at(b); v != nil {
				n := float64(*v)
				return &n
			}
			return nil
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if isMonth(tokens) {
				tokens = tokens[:len(tokens)-2]
			}
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			return amount{typed: text.Joined(tokens)}, nil
		},
		set: func(b box, v any) {
			*at(b) = nil
			if a, ok := v.(priced); ok {
				*at(b) = &a.minor
			}
		},
		show: func(l *lab.Lab, b box) string {
			if v := *at(b); v != nil {
				return lab.MoneyText(*v, l.Settings().Currency)
			}
			return ""
		}}
}

var openForm = regexp.MustCompile(`^(tcp|udp|port|ports)?[ /]?([0-9]{1,5})(?:-([0-9]{1,5}))?(?:/(tcp|udp))?$`)

// openedPorts are the ports of an opening: tcp 443, udp 8000-8010.
func openedPorts() fact {
	show := func(_ *lab.Lab, b box) string { return b.(*lab.Opening).Title() }
	return fact{of: ofOpening, name: "what is open", field: "port_from", head: true, example: "tcp 443", show: show,
		needed: `say which port is open, such as open "fibre line" tcp 443 to gate`,
		takes:  func(tokens []text.Token) int { return upTo(tokens, "to") },
		read: func(tokens []text.Token, _ bool) (any, error) {
			m := openForm.FindStringSubmatch(strings.ToLower(text.Joined(tokens)))
			if m == nil {
				return nil, fmt.Errorf("“%s” is not a port; write one such as tcp 443 or udp 8000-8010", text.Short(text.Joined(tokens)))
			}
			o := lab.Opening{Proto: lab.TCP}
			if m[1] == "udp" || m[4] == "udp" {
				o.Proto = lab.UDP
			}
			o.From, _ = strconv.Atoi(m[2])
			o.To, _ = strconv.Atoi(m[3])
			return o, nil
		},
		set: func(b box, v any) {
			o := b.(*lab.Opening)
			is, _ := v.(lab.Opening)
			o.Proto, o.From, o.To = is.Proto, is.From, is.To
		}}
}

// joined are the subnets that a tunnel joins: joins 10.20.0.0/24 and 10.77.0.0/24.
func joined() fact {
	const example = "joins 10.20.0.0/24 and 10.77.0.0/24"
	show := func(_ *lab.Lab, b box) string {
		var said []string
		for _, p := range b.(*lab.Tunnel).Joins {
			said = append(said, p.String())
		}
		return strings.Join(said, " and ")
	}
	return fact{of: ofTunnel, name: "joins", field: "joins", words: []string{"joins", "join", "between"},
		example: example, pattern: "joins %s",
		maybe: true, show: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list []netip.Prefix
			for piece := range text.Cut(withCommas(tokens)) {
				p, err := readPrefix(text.Joined(piece))
				if err != nil {
					return nil, err
				}
				list = append(list, p)
			}
			return list, nil
		},
		set: func(b box, v any) { b.(*lab.Tunnel).Joins, _ = v.([]netip.Prefix) }}
}

// bothSpeeds are what goes down and up with a stroke between: 80/20.
var bothSpeeds = regexp.MustCompile(`^([0-9]+[mMgG]?)/([0-9]+[mMgG]?)$`)

// downAndUp are what goes down and up in one phrase: 60 down 20 up, 80/20, 100 both ways.
// It is nil for any other phrase.
func downAndUp(phrase []text.Token) [][]text.Token {
	n := len(phrase)
	down := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("down") })
	up := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("up") })
	if m := bothSpeeds.FindStringSubmatch(phrase[0].Text); n == 1 && m != nil {
		return [][]text.Token{{asWord(phrase[0], m[1]), asWord(phrase[0], "down")}, {asWord(phrase[0], m[2]), asWord(phrase[0], "up")}}
	}
	switch {
	case n > 1 && (plainWords(phrase[1:]) == "both ways" || plainWords(phrase[1:]) == "both"):
		return [][]text.Token{{phrase[0], asWord(phrase[n-1], "down")}, {phrase[0], asWord(phrase[n-1], "up")}}
	case down < 0 || up < 0 || n != 4:
		return nil
	}
	return [][]text.Token{phrase[:2], phrase[2:]}
}

// tunnelEnds are the two ends of a tunnel in one phrase: gate to "Parents' house", from
// finch outwards. It is nil for any other phrase.
func tunnelEnds(phrase []text.Token) [][]text.Token {
	n := len(phrase)
	if phrase[n-1].Is("outwards") && n > 2 && phrase[0].Is("from") {
		return [][]text.Token{phrase[:n-1], phrase[n-1:]}
	}
	to := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("to") })
	if to < 1 || to == n-1 || phrase[0].Is("site") || phrase[0].Is("joins") {
		return nil
	}
	from := phrase[:to]
	if !from[0].Is("from") && !from[0].Is("on") {
		from = append([]text.Token{asWord(from[0], "from")}, from...)
	}
	return [][]text.Token{from, phrase[to:]}
}
