package rundown

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// portMark is what sets a port apart, as it is read.
type portMark struct {
	lab.PortMark
	ranged bool // it was said of several ports at once
}

// portMarks are what sets single ports apart: port 3 "uplink" reserved "dome",
// port 1-12 untagged 20.
func portMarks() fact {
	const example = `port 3 "uplink" untagged 20`
	at := func(b box) *[]lab.PortMark { return &b.(*lab.Device).Marks }
	show := func(ranges bool) func(*lab.Lab, box) string {
		return func(_ *lab.Lab, b box) string { return marksText(*at(b), ranges) }
	}
	return fact{of: scope(lab.KindDevice), name: "single ports", field: "port_marks", group: Ports, example: example, many: true, adds: true,
		show:  show(false),
		write: show(true),
		matches: func(tokens []text.Token) bool {
			return len(tokens) > 2 && (tokens[0].Is("port") || tokens[0].Is("ports") && saysVLANs(tokens))
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list []portMark
			for phrase := range pieces(tokens) {
				marks, err := readMarks(phrase)
				if err != nil {
					return nil, fmt.Errorf("%w; write it such as %s", err, example)
				}
				list = append(list, marks...)
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]portMark)
			if list == nil {
				*at(b) = nil
				return
			}
			d := b.(*lab.Device)
			for _, m := range list {
				d.Marks = marked(d.Marks, m.PortMark)
			}
		}}
}

// marked is a list of marks with one more, which is put to what the port has.
func marked(marks []lab.PortMark, m lab.PortMark) []lab.PortMark {
	marks = slices.Clone(marks)
	i := slices.IndexFunc(marks, func(o lab.PortMark) bool { return o.Port == m.Port })
	if i < 0 {
		i, marks = len(marks), append(marks, lab.PortMark{Port: m.Port})
	}
	is := marks[i].With(m)
	for _, v := range []*lab.VLANs{&is.Untagged, &is.Tagged} {
		if *v == forgotten {
			*v = ""
		}
	}
	if marks[i] = is; is == (lab.PortMark{Port: m.Port}) {
		marks = slices.Delete(marks, i, i+1)
	}
	return lab.ByPort(marks)
}

// forgotten stands for VLANs that are said to be unknown.
const forgotten lab.VLANs = "?"

// markWords are what may be said of a port.
var markWords = append([]string{"reserved", "takes", "note", "tcp", "broken", "faulty"}, vlanWords...)

// vlanWords are what may be said of the VLANs of a port.
var vlanWords = []string{"untagged", "native", "tagged", "vlan", "routed"}

func saysVLANs(tokens []text.Token) bool {
	return slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind == text.Word && slices.Contains(vlanWords, t.Plain) })
}

// readMarks reads what sets a port apart, or each of a range of them: port
// serial1-16 tcp 2001-2016.
func readMarks(tokens []text.Token) ([]portMark, error) {
	if len(tokens) < 3 || !tokens[0].Is("port") && !tokens[0].Is("ports") {
		return nil, errors.New("say which port and what is with it")
	}
	m := lab.PortMark{}
	ports := tokens[1]
	tokens = tokens[2:]
	if tokens[0].Kind == text.Quoted {
		m.Name, tokens = tokens[0].Text, tokens[1:]
	}
	tcp := []int{0}
	into := map[string]*string{"reserved": &m.Reserved, "takes": &m.Insert, "note": &m.Note}
	for len(tokens) > 0 {
		if carried, rest := wordLast(tokens); carried != nil {
			if _, err := carriedIn(&m, carried); err != nil {
				return nil, err
			}
			tokens = rest
			continue
		}
		said := tokens[0].Plain
		switch said {
		case "broken", "faulty":
			m.Broken, tokens = true, tokens[1:]
			continue
		case "routed":
			m.Routed, tokens = true, tokens[1:]
			continue
		}
		if len(tokens) < 2 {
			return nil, notOfPort(tokens[0])
		}
		if said == "reserved" && tokens[1].Is("for") && len(tokens) > 2 { // reserved for the dome
			m.Reserved = text.Joined(tokens[2:])
			break
		}
		if slices.Contains(vlanWords, said) {
			var err error
			if tokens, err = carriedIn(&m, tokens); err != nil {
				return nil, err
			}
			continue
		}
		value := tokens[1].Text
		switch {
		case said == "tcp":
			if tcp = numbersIn(value); tcp == nil {
				return nil, fmt.Errorf("“%s” is not the number of a TCP port", text.Short(value))
			}
		case into[said] != nil:
			*into[said] = value
		default:
			return nil, notOfPort(tokens[0])
		}
		tokens = tokens[2:]
	}
	if m.Routed && (m.Untagged != "" || m.Tagged != "") {
		return nil, errors.New("a routed port carries no VLAN; say the one or the other")
	}
	return marksOf(m, keysIn(ports), tcp)
}

// wordLast reads VLANs that stand before the word for how they are carried, 20 tagged
// or vlan 7 tagged, with the word first, and tells what is behind; nil where none do.
func wordLast(tokens []text.Token) (carried, rest []text.Token) {
	from := 0
	if tokens[0].Is("vlan") {
		from = 1
	}
	n := from + listedAt(tokens[from:])
	if n == from || n == len(tokens) || !tokens[n].Is("tagged") && !tokens[n].Is("untagged") {
		return nil, nil
	}
	if after := n + 1 + listedAt(tokens[n+1:]); after > n+1 && (after == len(tokens) || !slices.Contains(vlanWords, tokens[after].Plain)) {
		return nil, nil // they are the word's own: vlan 10 tagged 20
	}
	return append([]text.Token{tokens[n]}, tokens[from:n]...), tokens[n+1:]
}

func notOfPort(t text.Token) error {
	return fmt.Errorf("“%s” is not a fact about a port", text.Short(t.Text))
}

// carriedIn reads which VLANs a port carries, and tells what is behind them:
// tagged 20,30 untagged 10.
func carriedIn(m *lab.PortMark, tokens []text.Token) (rest []text.Token, err error) {
	into, name := &m.Untagged, "untagged"
	if tokens[0].Is("tagged") {
		into, name = &m.Tagged, "tagged"
	}
	rest = tokens[1:]
	if rest[0].Is("vlan") || rest[0].Is("vlans") {
		rest = rest[1:]
	}
	n := max(1, listedAt(rest))
	for n < len(rest) && rest[n].Kind == text.Separator && listedAt(rest[n+1:]) > 0 {
		n += 1 + listedAt(rest[n+1:])
	}
	v, err := lab.VLANs(""), error(nil)
	switch {
	case n == 1 && rest[0].Kind == text.Unknown:
		v = forgotten
	default:
		if v, err = readVLANs(rest[:n]); err == nil && name == "untagged" {
			err = oneUntagged(v)
		}
	}
	if err == nil && *into != "" && *into != v {
		err = fmt.Errorf("the port is said to be %s in %s and in %s; a port carries one VLAN untagged, and all others are tagged in one list",
			name, *into, v)
	}
	*into = v
	return rest[n:], err
}

// isVLANs reports whether a word lists VLANs.
func isVLANs(t text.Token) bool {
	_, err := lab.ReadVLANs(t.Text)
	return t.Kind == text.Word && err == nil && t.Plain != ""
}

// marksOf is a mark for each of the ports, TCP ports counting on where one is
// given for all of them.
func marksOf(m lab.PortMark, keys []string, tcp []int) ([]portMark, error) {
	if len(tcp) > 1 && len(tcp) != len(keys) {
		return nil, fmt.Errorf("%s cannot answer at %d TCP ports; write the same number of both", portsIn(len(keys)), len(tcp))
	}
	var list []portMark
	for i, key := range keys {
		one := m
		one.Port = key
		switch {
		case len(tcp) > 1:
			one.TCP = tcp[i]
		case tcp[0] > 0:
			one.TCP = tcp[0] + i
		}
		list = append(list, portMark{one, len(keys) > 1})
	}
	return list, nil
}

// marksText writes marks, and ports that carry the same and differ in nothing
// else as a range where that reads back.
func marksText(marks []lab.PortMark, ranges bool) string {
	var said []string
	for from := 0; from < len(marks); {
		alike := from + 1
		for ranges && alike < len(marks) && onlyVLANs(marks[from]) && sameBut(marks[from], marks[alike]) {
			alike++
		}
		m, n := marks[from], rangeAt(keysOf(marks[from:alike]))
		if n > 1 {
			m.Port += "-" + marks[from+n-1].Port
		}
		said = append(said, markText(m))
		from += n
	}
	return strings.Join(said, ", ")
}

func onlyVLANs(m lab.PortMark) bool {
	return m == lab.PortMark{Port: m.Port, Untagged: m.Untagged, Tagged: m.Tagged, Routed: m.Routed}
}

func sameBut(a, b lab.PortMark) bool { a.Port = b.Port; return a == b }

func keysOf(marks []lab.PortMark) []string {
	keys := make([]string, len(marks))
	for i, m := range marks {
		keys[i] = m.Port
	}
	return keys
}

// keysIn are the keys of a range of ports, or the one that is written.
func keysIn(t text.Token) []string {
	m := keyRange.FindStringSubmatch(t.Text)
	if m == nil || t.Kind == text.Quoted || m[3] != "" && m[3] != m[1] {
		return []string{t.Text}
	}
	from, _ := strconv.Atoi(m[2])
	to, _ := strconv.Atoi(m[4])
	if to < from || to-from >= mostInRange {
		return []string{t.Text}
	}
	var keys []string
	for n := from; n <= to; n++ {
		keys = append(keys, m[1]+strconv.Itoa(n))
	}
	return keys
}

// numbersIn are the numbers of a range, or the one that is written; nil where it
// is neither.
func numbersIn(s string) []int {
	var list []int
	for _, key := range keysIn(text.Token{Text: s}) {
		n, err := strconv.Atoi(key)
		if err != nil || n < 1 {
			return nil
		}
		list = append(list, n)
	}
	return list
}

var bareKey = regexp.MustCompile(`^[\pL\pN][\pL\pN._+/-]*$`)

func markText(m lab.PortMark) string {
	s := "port " + m.Port
	if !bareKey.MatchString(m.Port) {
		s = "port " + text.Quote(m.Port)
	}
	if m.Name != "" {
		s += " " + text.Quote(m.Name)
	}
	if m.Broken {
		s += " broken"
	}
	for _, x := range [][2]string{{"takes", m.Insert}, {"reserved", m.Reserved}, {"note", m.Note}} {
		if x[1] != "" {
			s += " " + x[0] + " " + text.Quote(x[1])
		}
	}
	if m.TCP != 0 {
		s += " tcp " + strconv.Itoa(m.TCP)
	}
	for _, x := range []struct {
		word string
		v    lab.VLANs
	}{{"tagged", m.Tagged}, {"untagged", m.Untagged}} {
		if x.v != "" {
			s += " " + x.word + " " + string(x.v)
		}
	}
	if m.Routed {
		s += " routed"
	}
	return s
}
