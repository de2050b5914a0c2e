package rundown

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// groupFact is a fact that is a list of groups of alike things: ports, bays,
// slots, outlets. Each phrase is one group.
func groupFact[R, G any](of scope, name, jsonField, example string, matches func([]token) bool, read func(*groupReader) (G, error), write func(G) string, at func(*R) *[]G, size func(G) int) fact {
	all := func(b box) string {
		var said []string
		for _, g := range *at(b.(*R)) {
			said = append(said, write(g))
		}
		return strings.Join(said, ", ")
	}
	return fact{of: of, name: name, field: jsonField, example: example, many: true, matches: matches,
		number: func(b box) *float64 {
			sum := 0.0
			for _, g := range *at(b.(*R)) {
				sum += float64(size(g))
			}
			if sum == 0 {
				return nil
			}
			return &sum
		},
		read: func(tokens []token, _ bool) (any, error) {
			if isUnknown(tokens) {
				return nil, nil
			}
			var groups []G
			for _, phrase := range cut(tokens) {
				r := &groupReader{tokens: phrase, example: example}
				g, err := read(r)
				if err == nil && len(r.tokens) > 0 {
					err = fmt.Errorf("“%s” says nothing about %s; write one such as %s", short(r.tokens[0].text), name, example)
				}
				if err != nil {
					return nil, err
				}
				groups = append(groups, g)
			}
			return groups, nil
		},
		set: func(b box, v any) {
			groups, _ := v.([]G)
			if groups == nil {
				*at(b.(*R)) = nil
				return
			}
			*at(b.(*R)) = append(slices.Clone(*at(b.(*R))), groups...)
		},
		show:  func(_ *lab.Lab, b box) string { return all(b) },
		write: func(_ *lab.Lab, b box) string { return all(b) }}
}

// cut splits tokens at separators.
func cut(tokens []token) [][]token {
	var list [][]token
	for len(tokens) > 0 {
		n := slices.IndexFunc(tokens, func(t token) bool { return t.kind == separator })
		if n < 0 {
			return append(list, tokens)
		}
		if n > 0 {
			list = append(list, tokens[:n])
		}
		tokens = tokens[n+1:]
	}
	return list
}

// groupReader takes the words of a group in whatever order they come.
type groupReader struct {
	tokens  []token
	example string
}

var countWord = regexp.MustCompile(`^([0-9]{1,5})[x×]?$`)

// count takes the number that a group begins with.
func (r *groupReader) count() (int, error) {
	if len(r.tokens) == 0 {
		return 0, errCount
	}
	m := countWord.FindStringSubmatch(r.tokens[0].plain)
	if m == nil || r.tokens[0].kind != word {
		return 0, fmt.Errorf("%w: %s", errCount, r.example)
	}
	r.tokens = r.tokens[1:]
	if len(r.tokens) > 0 && (r.tokens[0].is("x") || r.tokens[0].is("×")) {
		r.tokens = r.tokens[1:]
	}
	n, _ := strconv.Atoi(m[1])
	if n == 0 {
		return 0, fmt.Errorf("there are 1 or more in a group; leave it out where there is none")
	}
	return n, nil
}

// word takes any of the words if one is there.
func (r *groupReader) word(words ...string) (string, bool) {
	for n := min(3, len(r.tokens)); n > 0; n-- {
		for i := 0; i+n <= len(r.tokens); i++ {
			said := plainly(r.tokens[i : i+n])
			if slices.Contains(words, said) {
				r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+n)
				return said, true
			}
		}
	}
	return "", false
}

// match takes a token that a pattern matches.
func (r *groupReader) match(pattern *regexp.Regexp) []string {
	for i, t := range r.tokens {
		if m := pattern.FindStringSubmatch(t.plain); m != nil && t.kind == word {
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+1)
			return m
		}
	}
	return nil
}

// after takes what follows a word.
func (r *groupReader) after(words ...string) (token, bool) {
	for i := 0; i+1 < len(r.tokens); i++ {
		if slices.Contains(words, r.tokens[i].plain) {
			t := r.tokens[i+1]
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+2)
			return t, true
		}
	}
	return token{}, false
}

func (r *groupReader) face() lab.Face {
	if w, ok := r.word("front", "rear", "back"); ok {
		return faceWords[w]
	}
	return ""
}

var connectors = []string{"rj45", "rj11", "sfp", "sfp+", "sfp28", "qsfp", "qsfp+", "qsfp28", "xfp", "lc", "sc", "st", "f", "bnc", "rs232", "db9", "usb a", "usb b", "usb c", "hdmi", "vga", "dvi", "displayport", "jack", "xlr", "sas", "esata", "c13", "c14", "c19", "c20", "c5", "c6", "c7", "c8", "uk", "schuko", "nema 5 15", "keystone", "console", "kvm"}

var nouns = map[string][]string{"ports": {"ports", "port", "jacks", "sockets rj45"}, "bays": {"bays", "bay"}, "slots": {"slots", "slot"}, "outlets": {"outlets", "outlet", "sockets"}}

func begins(tokens []token) bool {
	return len(tokens) > 1 && tokens[0].kind == word && countWord.MatchString(tokens[0].plain)
}

func hasWord(tokens []token, words ...string) bool {
	return slices.ContainsFunc(tokens, func(t token) bool { return t.kind == word && slices.Contains(words, t.plain) })
}

func isPorts(tokens []token) bool {
	return begins(tokens) && (hasWord(tokens, nouns["ports"]...) || slices.Contains(connectors[:17], tokens[1].plain))
}
func isBays(tokens []token) bool {
	return begins(tokens) && hasWord(tokens, nouns["bays"]...) && !hasWord(tokens, "supply")
}
func isSlots(tokens []token) bool {
	return begins(tokens) && hasWord(tokens, nouns["slots"]...) && !hasWord(tokens, "memory", "dimm", "ram")
}
func isOutlets(tokens []token) bool {
	return begins(tokens) && hasWord(tokens, "outlets", "outlet")
}

var (
	speedWord = regexp.MustCompile(`^([0-9.]+[mg](?:/[0-9.]+[mg])*)(?:bit|bps|be|b)?(?:/s)?$`)
	oneSpeed  = regexp.MustCompile(`^([0-9.]+)([mg])$`)
)

// readSpeeds reads 100M/1G/2.5G in Mbit/s.
func readSpeeds(text string) ([]int, error) {
	var list []int
	for _, s := range strings.Split(text, "/") {
		m := oneSpeed.FindStringSubmatch(s)
		v, err := strconv.ParseFloat(m[1], 64)
		if m[2] == "g" {
			v *= 1000
		}
		if err != nil || v != float64(int(v)) || v < 1 || v > 2e6 {
			return nil, fmt.Errorf("“%s” is not a speed; write one such as 100M, 1G or 2.5G", short(s))
		}
		list = append(list, int(v))
	}
	slices.Sort(list)
	return slices.Compact(list), nil
}

// SpeedText writes a speed: 100M, 2.5G.
func SpeedText(mb int) string {
	if mb >= 1000 {
		return number(float64(mb)/1000) + "G"
	}
	return strconv.Itoa(mb) + "M"
}

var poeTypes = map[string]int{"af": 1, "at": 2, "bt": 3, "poe": 1, "poe+": 2, "poe++": 3}

func readPorts(r *groupReader) (lab.PortGroup, error) {
	n, err := r.count()
	g := lab.PortGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word(nouns["ports"]...)
	if name, ok := r.after("called", "named"); ok {
		g.Name = name.text
	}
	if class, ok := r.after("class"); ok {
		c, err := strconv.Atoi(class.text)
		if err != nil || c < 0 || c > 8 {
			return g, fmt.Errorf("PoE classes are 0 to 8, not “%s”", short(class.text))
		}
		g.PoEIn = &c
		r.word("draws", "poe in")
	}
	if typ, ok := r.after("type"); ok {
		t, err := strconv.Atoi(typ.text)
		if err != nil || t < 1 || t > 4 {
			return g, fmt.Errorf("PoE types are 1 to 4, not “%s”", short(typ.text))
		}
		g.PoEOut = t
		r.word("poe")
	} else if w, ok := r.word("poe af", "poe at", "poe bt", "af", "at", "bt", "poe", "poe+", "poe++"); ok {
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
		f, err := strconv.Atoi(first.text)
		if err != nil || f < 0 || f > 9999 {
			return g, fmt.Errorf("ports are numbered from 0 to 9999, not from “%s”", short(first.text))
		}
		g.First, g.ZeroBased = f, f == 0
		if f == 1 {
			g.First = 0 // what goes without saying
		}
	}
	g.Face = r.face()
	if g.Face == lab.Front {
		g.Face = ""
	}
	if m := r.match(speedWord); m != nil {
		if g.SpeedsMb, err = readSpeeds(m[1]); err != nil {
			return g, err
		}
	}
	if c, ok := r.word(connectors...); ok {
		g.Connector = strings.ReplaceAll(c, " ", "-")
	} else if len(r.tokens) > 0 && r.tokens[0].kind == word {
		g.Connector = strings.ReplaceAll(r.tokens[0].plain, " ", "-")
		r.tokens = r.tokens[1:]
	} else {
		return g, fmt.Errorf("which ports? Write the connector, such as %s", r.example)
	}
	return g, nil
}

func portsText(g lab.PortGroup) string {
	s := fmt.Sprintf("%d ports %s", g.Count, g.Connector)
	for i, mb := range g.SpeedsMb {
		s += map[bool]string{true: " ", false: "/"}[i == 0] + SpeedText(mb)
	}
	switch {
	case g.PoEOut > 0:
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
		s += " called " + quote(g.Name)
	}
	return s
}

var formWords = map[string]lab.Form{"3.5in": "3.5in", `3.5"`: "3.5in", "3.5": "3.5in", "lff": "3.5in", "2.5in": "2.5in", `2.5"`: "2.5in", "2.5": "2.5in", "sff": "2.5in", "m.2": "m.2", "m2": "m.2", "5.25in": "5.25in", `5.25"`: "5.25in", "1.8in": "1.8in"}

func (r *groupReader) form() lab.Form {
	for i, t := range r.tokens {
		if f, ok := formWords[t.plain]; ok {
			r.tokens = slices.Delete(slices.Clone(r.tokens), i, i+1)
			r.word("in", "inch")
			return f
		}
	}
	return ""
}

var interfaceWord = regexp.MustCompile(`^((?:sata|sas|nvme|ide|scsi)(?:/(?:sata|sas|nvme|ide|scsi))*)$`)

func readBays(r *groupReader) (lab.BayGroup, error) {
	n, err := r.count()
	g := lab.BayGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word("bays", "bay", "drive bays", "drive bay")
	if g.Form = r.form(); g.Form == "" {
		return g, fmt.Errorf("how large are the bays? Write %s", r.example)
	}
	if m := r.match(interfaceWord); m != nil {
		g.Interfaces = strings.Split(m[1], "/")
	}
	if w, ok := r.word("front", "rear", "back", "inside"); ok && w != "front" {
		g.Side = lab.Side(cmp.Or(string(faceWords[w]), w))
	}
	return g, nil
}

func baysText(g lab.BayGroup) string {
	s := fmt.Sprintf("%d bays %s", g.Count, g.Form)
	if len(g.Interfaces) > 0 {
		s += " " + strings.Join(g.Interfaces, "/")
	}
	if g.Side != "" {
		s += " " + string(g.Side)
	}
	return s
}

var (
	lanesWord = regexp.MustCompile(`^x(1|2|4|8|16)$`)
	wideWord  = regexp.MustCompile(`^([0-9.]+)(mm|cm|in)$`)
)

func readSlots(r *groupReader) (lab.SlotGroup, error) {
	n, err := r.count()
	g := lab.SlotGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word("slots", "slot", "expansion slots", "pcie slots", "pci slots")
	r.word("pcie", "pci")
	if w, ok := r.after("wired"); ok {
		m := lanesWord.FindStringSubmatch(w.plain)
		if m == nil {
			return g, fmt.Errorf("how many lanes are wired? Write wired x8")
		}
		g.Wired, _ = strconv.Atoi(m[1])
	}
	m := r.match(lanesWord)
	if m == nil {
		return g, fmt.Errorf("how long are the slots, in lanes? Write %s", r.example)
	}
	g.Lanes, _ = strconv.Atoi(m[1])
	if w, ok := r.word("half height", "low profile", "full height", "half", "full"); ok && (w[0] == 'h' || w[0] == 'l') {
		g.Height = lab.HalfHeight
	}
	if w, ok := r.word("2 wide", "3 wide", "4 wide", "1 wide"); ok {
		g.Wide = int(w[0] - '0')
	}
	if w := r.match(wideWord); w != nil {
		v, err := readMeasure([]token{{kind: word, text: w[0], plain: w[0]}}, length, false)
		if err != nil {
			return g, err
		}
		g.LengthMM = v
	}
	return g, nil
}

func slotsText(g lab.SlotGroup) string {
	s := fmt.Sprintf("%d slots x%d", g.Count, g.Lanes)
	if g.Wired > 0 {
		s += fmt.Sprintf(" wired x%d", g.Wired)
	}
	if g.Height == lab.HalfHeight {
		s += " half height"
	}
	if g.LengthMM != nil {
		s += " " + length.text(*g.LengthMM)
	}
	if g.Wide > 0 {
		s += fmt.Sprintf(" %d wide", g.Wide)
	}
	return s
}

func readOutlets(r *groupReader) (lab.OutletGroup, error) {
	n, err := r.count()
	g := lab.OutletGroup{Count: n}
	if err != nil {
		return g, err
	}
	r.word(nouns["outlets"]...)
	_, g.Battery = r.word("battery", "on battery", "held")
	g.Face = r.face()
	if g.Face == lab.Front {
		g.Face = ""
	}
	if len(r.tokens) == 0 || r.tokens[0].kind != word {
		return g, fmt.Errorf("which outlets? Write the connector, such as %s", r.example)
	}
	g.Connector = strings.ReplaceAll(plainly(r.tokens), " ", "-")
	r.tokens = nil
	return g, nil
}

func outletsText(g lab.OutletGroup) string {
	s := fmt.Sprintf("%d outlets %s", g.Count, g.Connector)
	if g.Battery {
		s += " battery"
	}
	if g.Face != "" {
		s += " " + string(g.Face)
	}
	return s
}

// lines is a fact that is a list of texts, each said in quotes.
func lines[R any](of scope, name, jsonField, word, example string, at func(*R) *[]string) fact {
	return fact{of: of, name: name, field: jsonField, words: []string{word}, example: example, many: true,
		read: func(tokens []token, _ bool) (any, error) {
			if isUnknown(tokens) || len(tokens) == 0 {
				return nil, nil
			}
			var list []string
			for _, t := range tokens {
				if t.kind != separator {
					list = append(list, t.text)
				}
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]string)
			if list == nil {
				*at(b.(*R)) = nil
				return
			}
			*at(b.(*R)) = append(slices.Clone(*at(b.(*R))), list...)
		},
		show: func(_ *lab.Lab, b box) string {
			var said []string
			for _, s := range *at(b.(*R)) {
				said = append(said, quote(s))
			}
			return strings.Join(said, " ")
		},
		pattern: word + " %s"}
}

// entries are facts with names that somebody gave them: private "pin" "1234".
func entries(of scope) fact {
	at := func(b box) *[]lab.Entry { return &b.(*lab.Device).Private }
	return fact{of: of, name: "other private facts", field: "private", words: []string{"private"}, example: `private "asset tag" "Q-17"`, many: true,
		read: func(tokens []token, _ bool) (any, error) {
			if isUnknown(tokens) || len(tokens) == 0 {
				return nil, nil
			}
			tokens = slices.DeleteFunc(slices.Clone(tokens), func(t token) bool { return t.kind == separator })
			if len(tokens)%2 == 1 {
				return nil, fmt.Errorf(`a private fact has a name and a value, each in quotes, such as "asset tag" "Q-17"`)
			}
			var list []lab.Entry
			for i := 0; i < len(tokens); i += 2 {
				list = append(list, lab.Entry{Name: tokens[i].text, Value: tokens[i+1].text})
			}
			return list, nil
		},
		set: func(b box, v any) {
			list, _ := v.([]lab.Entry)
			if list == nil {
				*at(b) = nil
				return
			}
			*at(b) = append(slices.Clone(*at(b)), list...)
		},
		show: func(_ *lab.Lab, b box) string {
			var said []string
			for _, e := range *at(b) {
				said = append(said, quote(e.Name)+" "+quote(e.Value))
			}
			return strings.Join(said, " ")
		},
		pattern: "private %s"}
}
