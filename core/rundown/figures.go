package rundown

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// What a figure is counted in says what it is on a device, where no word goes
// with it.
var (
	powerUnits  = []string{"w", "kw", "watt", "watts"}
	ratingUnits = []string{"va", "kva", "a", "amp", "amps", "min", "mins", "minutes", "h", "hour", "hours", "ah", "wh", "kwh", "v"}
	atMost      = []string{"max", "maximum", "most"}
	memoryUnits = []string{"gb", "mb", "gig", "gigs"} // terabytes are drives
)

// figure reads a figure that stands alone on a device's line by what it means on
// that kind: watts are what it typically draws, memory is what a computer has
// in it, and what a UPS or a strip is rated for is kept as it was said.
func (t *thing) figure(phrase []text.Token) (inLine, bool) {
	q, n := text.ReadQuantity(phrase)
	if n == 0 || phrase[0].Kind == text.Unknown {
		return inLine{}, false
	}
	if q.Unit == "" && n < len(phrase) { // one that measures nothing of ours, such as min
		q.Unit = phrase[n].Plain
	}
	alone, is := n == len(phrase), t.device.Traits()
	switch {
	case is.Feeds && (slices.Contains(powerUnits, q.Unit) || slices.Contains(ratingUnits, q.Unit)) && noFactNamed(t.scope(), phrase):
		return t.rated(phrase), true
	case slices.Contains(memoryUnits, q.Unit) && is.Computes && n == len(phrase)-1 && slices.Contains(atMost, phrase[n].Plain):
		return t.measured(phrase[:n], "memory_most_bytes")
	case !alone:
		return inLine{}, false
	case isSpeed(phrase), slices.Contains(ratingUnits, q.Unit):
		return inLine{said: []said{kept(t.scope(), phrase)}}, true
	case slices.Contains(powerUnits, q.Unit):
		return t.measured(phrase, "typical_w")
	case slices.Contains(memoryUnits, q.Unit) && (is.Computes || t.own != ""):
		size, err := text.ReadMeasure(phrase, text.Memory, false)
		if err != nil || size == nil {
			return inLine{}, false
		}
		return inLine{parts: []*thing{t.memory(*size, phrase)}}, true
	}
	return inLine{}, false
}

// rated reads what a feeder is made for, several figures in one breath: 1500VA 900W,
// 19V 3A. What stands beside them, such as minutes, is kept as it was said.
func (t *thing) rated(phrase []text.Token) inLine {
	var line inLine
	for tokens := phrase; len(tokens) > 0; {
		q, n := text.ReadQuantity(tokens)
		field := ""
		for _, f := range []struct {
			field string
			in    text.Dimension
		}{{"rated_va", text.VoltAmps}, {"rated_w", text.Watts}, {"rated_a", text.Amps}, {"gives_v", text.Volts}} {
			if n > 0 && isIn(f.in)(q) {
				field = f.field
			}
		}
		if t.device == lab.UPS && field == "gives_v" {
			field = "" // the mains
		}
		figure, ok := t.measured(tokens[:n], field)
		if field == "" || !ok {
			return inLine{said: []said{kept(t.scope(), phrase)}}
		}
		line.said = append(line.said, figure.said...)
		if tokens = tokens[n:]; len(tokens) > 0 && (tokens[0].Is("/") || tokens[0].Is("and")) {
			tokens = tokens[1:]
		}
	}
	return line
}

// powered reads what is said of power beside figures: what a switch has to give
// with its ports, what a powered device draws, outlets without the word.
func (t *thing) powered(phrase []text.Token) (inLine, bool) {
	is := t.device.Traits()
	watts := slices.IndexFunc(phrase, func(tok text.Token) bool {
		if tok.Kind != text.Word || tok.Plain == "" || tok.Plain[0] < '0' || tok.Plain[0] > '9' {
			return false
		}
		q, n := text.ReadQuantity([]text.Token{tok})
		return n == 1 && slices.Contains(powerUnits, q.Unit)
	})
	switch {
	case watts > 1 && isPorts(phrase):
		ports, err := t.read(slices.Delete(slices.Clone(phrase), watts, watts+1))
		budget, ok := t.measured(phrase[watts:watts+1], "poe_budget_w")
		ports.said = append(ports.said, budget.said...)
		return ports, err == nil && ok
	case !isPorts(phrase) && t.networked() && begins(phrase) && speedIn(phrase[1:]) && !isBays(phrase):
		ports := phrase[0]
		ports.Text, ports.Plain = "ports", "ports"
		said, err := t.read(slices.Insert(slices.Clone(phrase), 1, ports))
		return said, err == nil
	case t.device == lab.KVMSwitch && len(phrase) == 2 && phrase[1].Is("in"):
		in := slices.Clone(phrase)
		in[1].Text, in[1].Plain = "ports", "ports"
		said, err := t.read(in)
		return said, err == nil
	case watts == 1 && len(phrase) == 2 && phrase[0].Is("poe") && !is.Bridges && !is.Routes && t.own == "":
		return t.measured(phrase[1:], "typical_w")
	case is.Feeds && begins(phrase) && !isOutlets(phrase) && !hasWord(phrase, "processor") && hasWord(phrase[1:], outletWords...):
		outlets := phrase[0]
		outlets.Text, outlets.Plain = "outlets", "outlets"
		said, err := t.read(slices.Insert(slices.DeleteFunc(slices.Clone(phrase), func(tok text.Token) bool {
			return hasWord([]text.Token{tok}, "out", "sockets", "socket", "port", "ports")
		}), 1, outlets))
		return said, err == nil
	}
	if marks := t.tcpFrom(phrase); marks != nil {
		return inLine{said: []said{{fact: indexes[t.scope()].byField["port_marks"], value: marks, col: phrase[0].Col,
			end: phrase[len(phrase)-1].End}}}, true
	}
	if n := len(phrase); n > 1 && n < 4 && phrase[n-2].Is("class") && (n == 2 || phrase[0].Is("poe") || phrase[0].Is("draws")) {
		c, err := strconv.Atoi(phrase[n-1].Text)
		if err != nil || c > 8 {
			return inLine{}, false
		}
		port := []lab.PortGroup{{Count: 1, Connector: "rj45", PoEIn: &c}}
		return inLine{said: []said{{fact: indexes[t.scope()].byField["ports"], value: port, col: phrase[0].Col, end: phrase[n-1].End}}}, true
	}
	return inLine{}, false
}

// heldWords are other words for what outlets are, and the ones for it.
var heldWords = map[string]string{"c13s": "c13", "c19s": "c19", "hold": "battery", "holds": "battery", "filter": "filtered",
	"filters": "filtered"}

// outletsSaid is a phrase about outlets in the words for them: 8 hold, two only filter, 12
// C13s. Any other one is as it was.
func outletsSaid(phrase []text.Token) []text.Token {
	said := slices.Clone(phrase)
	found := false
	for i := range said {
		if word := heldWords[said[i].Plain]; word != "" && said[i].Kind == text.Word {
			said[i].Text, said[i].Plain, found = word, word, true
		}
	}
	if !found {
		return phrase
	}
	if isOutlets(said) {
		return said
	}
	noun := said[0]
	noun.Text, noun.Plain = "outlets", "outlets"
	return slices.Insert(said, 1, noun)
}

// tcpFrom reads from which TCP port on the lines of a console server answer, one
// after another: ports 2001 up.
func (t *thing) tcpFrom(phrase []text.Token) []portMark {
	if t.device != lab.ConsoleServer || len(phrase) < 2 || len(phrase) > 3 || !hasWord(phrase[:1], "ports", "port", "tcp") ||
		len(phrase) == 3 && !hasWord(phrase[2:], "up", "upwards", "on", "onwards") {
		return nil
	}
	first, err := strconv.Atoi(phrase[1].Text)
	if err != nil || first < 1 {
		return nil
	}
	var marks []portMark
	for _, s := range t.said {
		groups, _ := s.value.([]lab.PortGroup)
		for _, g := range groups {
			for range g.Count {
				if lab.FamilyOf(g.Connector) == lab.SerialF && g.Name == "" {
					key := "serial" + strconv.Itoa(len(marks)+1)
					marks = append(marks, portMark{PortMark: lab.PortMark{Port: key, TCP: first + len(marks)}})
				}
			}
		}
	}
	return marks
}

// outletWords say that a count on what feeds others is one of outlets.
var outletWords = []string{"out", "sockets", "socket", "c13", "c19", "c15", "c5", "c7", "uk", "schuko", "nema"}

func noFactNamed(of scope, phrase []text.Token) bool {
	f, _ := factNamed(of, phrase)
	return f == nil
}

// isSpeed reports whether a figure is a speed, as of a port: 10G, which is no
// weight of ten grams.
func isSpeed(phrase []text.Token) bool {
	return len(phrase) == 1 && speedAlone.MatchString(phrase[0].Text)
}

// isTerabytes reports whether a counted phrase is of drives: 10x 14TB.
func isTerabytes(phrase []text.Token) bool {
	for i := range phrase {
		if q, n := text.ReadQuantity(phrase[i:]); n > 0 && q.Unit == "tb" {
			return true
		}
	}
	return false
}

func (t *thing) measured(phrase []text.Token, field string) (inLine, bool) {
	f := indexes[t.scope()].byField[field]
	if f == nil || len(phrase) == 0 {
		return inLine{}, false
	}
	v, err := f.read(phrase, false)
	if err != nil {
		return inLine{}, false
	}
	return inLine{said: []said{{fact: f, value: v, bare: true, col: phrase[0].Col, end: phrase[len(phrase)-1].End}}}, true
}

// memory is a module, or several, of so many bytes that a line puts in.
func (t *thing) memory(bytes float64, phrase []text.Token) *thing {
	col, end := phrase[0].Col, phrase[len(phrase)-1].End
	size := said{fact: indexes[partScope(lab.Memory)].byField["size_bytes"], value: bytes, col: col, end: end}
	return &thing{kind: lab.KindPart, part: lab.Memory, seats: &seats{count: 1}, said: []said{size}, file: t.file, line: t.line, col: col,
		end: end}
}

// withConnector is a phrase about ports that names no connector, with the one
// that goes without saying on the kind, if there is one.
func (t *thing) withConnector(phrase []text.Token) []text.Token {
	at := slices.IndexFunc(phrase, func(tok text.Token) bool { return tok.Kind == text.Word && slices.Contains(nouns["ports"], tok.Plain) })
	if at < 1 || !isPorts(phrase) || phrase[len(phrase)-1].Kind == text.Unknown ||
		saysConnector(phrase[1:]) || hasWord(phrase[at+1:], "cage") {
		return phrase
	}
	usual := phrase[at]
	if usual.Text = t.usualConnector(phrase, at); usual.Text == "" {
		return phrase
	}
	usual.Plain = usual.Text
	return slices.Insert(slices.Clone(phrase), at+1, usual)
}

// saysConnector reports whether words name a connector: a known one, or one in
// quotes that is no name of the ports.
func saysConnector(words []text.Token) bool {
	for i, t := range words {
		if isConnector(t) || t.Kind == text.Quoted && (i == 0 || !words[i-1].Is("called") && !words[i-1].Is("named")) {
			return true
		}
	}
	return false
}

func isConnector(t text.Token) bool {
	return t.Kind == text.Word && !t.Is("cage") && slices.ContainsFunc(connectors, func(c string) bool {
		first, _, _ := strings.Cut(c, " ")
		return t.Plain == c || t.Plain == first && first != "type" && first != "mini" && first != "micro"
	})
}

// networked reports whether the kind's ports are those of a network, where
// nothing else is said.
func (t *thing) networked() bool {
	is := t.device.Traits()
	return is.Bridges || is.Routes || is.Computes || t.device == lab.AccessPoint || t.device == lab.Modem || t.device == lab.Camera
}

// speedIn reports whether words say a speed and nothing that a drive or a card
// would have.
func speedIn(words []text.Token) bool {
	return slices.ContainsFunc(words, func(t text.Token) bool {
		return t.Kind == text.Word && (isSpeed([]text.Token{t}) || slices.Contains(gigabits, t.Plain))
	}) && !hasWord(words, "nic", "card", "network")
}

var gigabits = []string{"gigabit", "gig", "gbe", "gbit"}

func (t *thing) usualConnector(phrase []text.Token, noun int) string {
	const tenGigabit = 10_000
	fastest := 0
	for _, tok := range phrase {
		if m := speedWord.FindStringSubmatch(tok.Plain); m != nil && tok.Kind == text.Word {
			if list, err := readSpeeds(m[1]); err == nil {
				fastest = list[len(list)-1]
			}
		}
	}
	switch {
	case strings.HasPrefix(phrase[noun].Plain, "cage"):
		for _, c := range []struct {
			most int
			cage string
		}{{0, "cage"}, {1000, "sfp"}, {tenGigabit, "sfp+"}, {25_000, "sfp28"}, {40_000, "qsfp+"}, {100_000, "qsfp28"}} {
			if fastest <= c.most {
				return c.cage
			}
		}
		return "cage"
	case t.device == lab.PatchPanel, t.device == lab.WallPlate, t.device == lab.Coupler,
		phrase[noun].Is("keystones"), phrase[noun].Is("holes"):
		return "keystone"
	case t.device == lab.ConsoleServer:
		return "serial"
	case t.device == lab.KVMSwitch:
		return "kvm"
	case t.device == lab.Hub:
		return "usb"
	case (t.networked() || fastest > 0) && fastest < tenGigabit:
		return "rj45"
	}
	return ""
}

var speedAlone = regexp.MustCompile(`^[0-9]+(\.[0-9]+)?[GM]$`)
