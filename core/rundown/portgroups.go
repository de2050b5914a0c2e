package rundown

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var (
	speedWord = regexp.MustCompile(`^([0-9.]+[mg](?:/[0-9.]+[mg])*)(?:bit|bps|be|b)?(?:/s)?$`)
	oneSpeed  = regexp.MustCompile(`^([0-9.]+)([mg])$`)
)

// readSpeeds reads 100M/1G/2.5G in Mbit/s.
func readSpeeds(typed string) ([]int, error) {
	var list []int
	for _, s := range strings.Split(typed, "/") {
		m := oneSpeed.FindStringSubmatch(s)
		v, err := strconv.ParseFloat(m[1], 64)
		if m[2] == "g" {
			v *= 1000
		}
		if err != nil || v != float64(int(v)) || v < 1 || v > 2e6 {
			return nil, fmt.Errorf("“%s” is not a speed; write one such as 100M, 1G or 2.5G", text.Short(s))
		}
		list = append(list, int(v))
	}
	slices.Sort(list)
	return slices.Compact(list), nil
}

// SpeedText writes a speed: 100M, 2.5G.
func SpeedText(mb int) string {
	if mb >= 1000 {
		return text.Number(float64(mb)/1000) + "G"
	}
	return strconv.Itoa(mb) + "M"
}

var poeTypes = map[string]int{"af": 1, "at": 2, "bt": 3, "poe": 1, "poe+": 2, "plus": 2, "poe++": 3}

func readPorts(r *groupReader) (lab.PortGroup, error) {
	n, err := r.count()
	g := lab.PortGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word(nouns["ports"]...)
	if name, ok := r.after("called", "named"); ok {
		g.Name = name.Text
	}
	if class, ok := r.after("class"); ok {
		c, err := strconv.Atoi(class.Text)
		if err != nil || c < 0 || c > 8 {
			return g, fmt.Errorf("PoE classes are 0 to 8, not “%s”", text.Short(class.Text))
		}
		g.PoEIn = &c
		r.word("draws", "poe in")
	}
	if typ, ok := r.after("type"); ok {
		t, err := strconv.Atoi(typ.Text)
		if err != nil || t < 1 || t > 4 {
			return g, fmt.Errorf("PoE types are 1 to 4, not “%s”", text.Short(typ.Text))
		}
		g.PoEOut = t
		r.word("poe")
	} else if w, ok := r.word("poe af", "poe at", "poe bt", "poe plus", "af", "at", "bt", "poe", "poe+", "poe++"); ok {
		g.PoEOut = poeTypes[strings.TrimPrefix(w, "poe ")]
	}
	if w, ok := r.word("1 row", "2 rows", "3 rows", "4 rows", "two rows", "three rows"); ok {
		g.Rows = map[string]int{"two rows": 2, "three rows": 3}[w]
		if g.Rows == 0 {
			g.Rows = int(w[0] - '0')
		}
	}
	if w, ok := r.word("down", "across"); ok {
		g.Numbering = lab.PortNumbering(w)
	}
	if first, ok := r.after("from"); ok {
		f, err := strconv.Atoi(first.Text)
		if err != nil || f < 0 || f > 9999 {
			return g, fmt.Errorf("ports are numbered from 0 to 9999, not from “%s”", text.Short(first.Text))
		}
		g.First, g.ZeroBased = f, f == 0
		if f == 1 {
			g.First = 0 // the default
		}
	}
	g.Face = r.face()
	if mb := r.gigabits(); mb > 0 {
		g.SpeedsMb = []int{mb}
	} else if m := r.match(speedWord); m != nil {
		if g.SpeedsMb, err = readSpeeds(m[1]); err != nil {
			return g, err
		}
	}
	if len(r.tokens) > 0 && r.tokens[len(r.tokens)-1].Kind == text.Unknown {
		r.tokens = r.tokens[:len(r.tokens)-1] // said to be unknown
	} else {
		g.Connector = r.connector()
	}
	return g, nil
}

// gigabits takes a speed in words: gigabit, 10 gig; 0 where none is said.
func (r *groupReader) gigabits() int {
	for i, t := range r.tokens {
		if t.Kind != text.Word || !slices.Contains(gigabits, t.Plain) {
			continue
		}
		n, from := 1, i
		if i > 0 {
			if v, err := strconv.Atoi(r.tokens[i-1].Plain); err == nil && v > 0 && v <= 400 {
				n, from = v, i-1
			}
		}
		r.tokens = slices.Delete(slices.Clone(r.tokens), from, i+1)
		return n * 1000
	}
	return 0
}

func portsText(g lab.PortGroup) string {
	s := fmt.Sprintf("%d ports", g.Count)
	if g.Connector != "" {
		s += " " + connectorText(g.Connector)
	}
	for i, mb := range g.SpeedsMb {
		s += map[bool]string{true: " ", false: "/"}[i == 0] + SpeedText(mb)
	}
	if g.PoEOut > 0 {
		s += fmt.Sprintf(" poe type %d", g.PoEOut)
	}
	if g.PoEIn != nil {
		s += fmt.Sprintf(" draws class %d", *g.PoEIn)
	}
	if g.Rows > 0 {
		s += fmt.Sprintf(" %d row%s", g.Rows, map[bool]string{false: "s"}[g.Rows == 1])
	}
	if g.Numbering != "" {
		s += " " + string(g.Numbering)
	}
	if g.First > 0 || g.ZeroBased {
		s += fmt.Sprintf(" from %d", g.First)
	}
	if g.Face != "" {
		s += " " + string(g.Face)
	}
	if g.Name != "" {
		s += " called " + text.Quote(g.Name)
	}
	if g.Connector == "" {
		s += " ?"
	}
	return s
}
