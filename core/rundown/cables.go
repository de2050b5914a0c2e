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

// A cable's line names its two ends and says what it is:
//
//	core/3 - PP1/3 0.25m yellow cat6
//	core/1-24 - PP1/1-24 0.25m yellow
//	PP1/3 = "Loft plate"/1 18m cat6 via "stairs run"
//	spare 5x lead 0.25m yellow cat6
//
// - goes between fronts, = between the rears of ports that go through.

// strand is what a cable's line says beside its facts.
type strand struct {
	a      []endSaid      // before the join
	right  [][]text.Token // the phrases behind it: ends, then facts
	behind bool           // the join goes between rears
	noted  int            // how much of what is said does not stand in those phrases
	count  int            // of leads in the spares bin; 0 for one that is plugged in
	spare  bool
}

// endSaid is an end as it was written. Without a port it is one that the line
// leaves open, or where port is ? one that nobody knows.
type endSaid struct {
	open     bool
	device   string
	port     string
	rear     bool
	said     bool // front or rear was said
	col, end int
}

// nobodyKnows is a port that a line says is not known.
const nobodyKnows = "?"

// joins are what may stand between the ends; all but = mean the same.
var joins = map[string]bool{"-": true, "–": true, "—": true, "--": true, "->": true, "→": true, "<->": true, "↔": true, "=": true}

// readStrand reads what a cable's line says of its ends and tells how many
// tokens that took; 0 where the line is about something else. What is behind the
// join waits until the devices are known: an end may be no more than a name.
func readStrand(tokens []text.Token) (*strand, int, error) {
	if s, n := readSpares(tokens); n > 0 {
		if s.count < 1 || s.count > 512 {
			return s, n, errors.New("write 1 to 512 leads in a line")
		}
		return s, n, nil
	}
	join := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Word && joins[t.Text] })
	if join < 1 || isPlaced(tokens[:join]) {
		return nil, 0, nil
	}
	s := &strand{behind: tokens[join].Text == "="}
	rest := tokens[join+1:]
	for piece := range text.Cut(tokens[:join]) {
		e, ok, err := wholeEnd(piece)
		if err != nil || !ok || kindAndName(piece) && !isEnd(rest) {
			return nil, 0, nil
		}
		s.a = append(s.a, e)
	}
	if len(s.a) == 0 || slices.ContainsFunc(tokens[:join], func(t text.Token) bool { return t.Kind == text.Separator && t.Text != "," }) {
		return nil, 0, nil
	}
	for piece := range text.Cut(slices.Clone(rest)) { // the line's room is used again for the next
		s.right = append(s.right, piece)
	}
	if len(s.right) == 0 || rest[0].Kind == text.Separator {
		return s, join + 1, errNoEnd
	}
	if _, _, err := readEnd(s.right[0]); err != nil {
		return s, join + 1, err
	}
	return s, len(tokens), nil
}

// isPlaced reports whether words say where a device is and what it is, or what
// it is and the name in quotes that it has.
func isPlaced(tokens []text.Token) bool {
	_, n, err := readWhere(tokens)
	if err != nil || n == 0 || n == len(tokens) {
		return false
	}
	if q, size := text.ReadQuantity(tokens[n:]); size > 0 && q.Unit == "u" {
		n += size
	}
	_, _, used := deviceIn(tokens[n:])
	return used > 0
}

// kindAndName reports whether words are a kind of device and a name in quotes.
func kindAndName(tokens []text.Token) bool {
	_, _, used := deviceIn(tokens)
	return used > 0 && used == len(tokens)-1 && tokens[used].Kind == text.Quoted
}

// isEnd reports whether what is behind a join is surely an end.
func isEnd(tokens []text.Token) bool {
	return len(tokens) > 0 && (tokens[0].Kind == text.Unknown ||
		slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind == text.Quoted || strings.Contains(t.Text, "/") }))
}

// wholeEnd reads an end that is all of the words: with its port, or a name.
func wholeEnd(tokens []text.Token) (endSaid, bool, error) {
	e, n, err := readEnd(tokens)
	if err != nil || n == len(tokens) {
		return e, true, err
	}
	if n > 0 || slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind == text.Unknown }) {
		return endSaid{}, false, nil
	}
	return bareEnd(tokens), true, nil
}

// bareEnd is an end that is no more than the device's name, and a side of it.
func bareEnd(tokens []text.Token) endSaid {
	e := endSaid{col: tokens[0].Col, end: tokens[len(tokens)-1].End}
	if last := tokens[len(tokens)-1]; len(tokens) > 1 && (last.Is("rear") || last.Is("front")) {
		e.rear, e.said, tokens = last.Is("rear"), true, tokens[:len(tokens)-1]
	}
	e.device = calledIn(tokens)
	return e
}

// calledIn is what words call a device: its name, with or without its kind.
func calledIn(tokens []text.Token) string {
	if len(tokens) == 0 {
		return ""
	}
	if last := tokens[len(tokens)-1]; len(tokens) > 1 && last.Kind == text.Quoted {
		return last.Text
	}
	return text.Joined(tokens)
}

// strandHead reads the ends that a cable's line begins with.
func strandHead(t *thing, tokens []text.Token) (int, *text.Mistake) {
	s, n, err := readStrand(tokens)
	t.wire = s
	if err != nil {
		return n, t.at(tokens[:n], err)
	}
	return n, nil
}

// noJoin says what is missing where a line begins with a port and leads
// nowhere; nil where it does not begin with one.
func noJoin(tokens []text.Token) error {
	a, n, err := readEnd(tokens)
	if err != nil || n == 0 || a.open {
		return nil
	}
	if from, to, ok := strings.Cut(a.port, "-"); ok && strings.Contains(to, "/") {
		return fmt.Errorf("put spaces round the -: %s/%s - %s", a.device, from, to)
	}
	end := text.Short(a.device) + "/" + text.Short(a.port)
	return fmt.Errorf("%s is a port; say where its cable goes, such as %s - PP1/3, or %s = PP1/3 between the rears of two panels", end, end,
		end)
}

func readSpares(tokens []text.Token) (*strand, int) {
	if len(tokens) == 0 || !tokens[0].Is("spare") {
		return nil, 0
	}
	s, n := &strand{spare: true, count: 1}, 1
	if n < len(tokens) {
		if m := countWord.FindStringSubmatch(tokens[n].Plain); m != nil {
			s.count, _ = strconv.Atoi(m[1])
			n++
		}
	}
	if n < len(tokens) && (tokens[n].Is("lead") || tokens[n].Is("leads") || tokens[n].Is("cable") || tokens[n].Is("cables")) {
		return s, n + 1
	}
	return nil, 0
}

// readEnd reads an end: a device's name, a slash, the port's name; or ?.
func readEnd(tokens []text.Token) (endSaid, int, error) {
	if len(tokens) > 0 && tokens[0].Kind == text.Unknown {
		return endSaid{open: true, col: tokens[0].Col, end: tokens[0].End}, 1, nil
	}
	for i, t := range tokens {
		if t.Kind == text.Separator || t.Kind == text.Unknown || t.Kind == text.Word && joins[t.Text] {
			return endSaid{}, 0, nil
		}
		slash := -1
		if t.Kind == text.Word {
			slash = strings.IndexByte(t.Text, '/')
		}
		if slash < 0 {
			continue
		}
		name := slices.Clone(tokens[:i+1])
		name[i].Text, name[i].Plain = t.Text[:slash], text.Plain(t.Text[:slash])
		if slash == 0 {
			name = name[:i]
		}
		e := endSaid{device: calledIn(name), port: t.Text[slash+1:], col: tokens[0].Col, end: t.End}
		n := i + 1
		switch {
		case e.port != "" || n == len(tokens):
		case tokens[n].Kind == text.Quoted:
			e.port, e.end = tokens[n].Text, tokens[n].End
			n++
		case tokens[n].Kind == text.Unknown:
			e.port, e.end = nobodyKnows, tokens[n].End
			n++
		}
		if e.device == "" {
			return e, n, errors.New("name the device before the slash, such as core/3")
		}
		if e.port == "" {
			return e, n, fmt.Errorf("say which port of %s, such as %s/3", text.Short(e.device), text.Short(e.device))
		}
		if n < len(tokens) && (tokens[n].Is("rear") || tokens[n].Is("front")) {
			e.rear, e.said, e.end = tokens[n].Is("rear"), true, tokens[n].End
			n++
		}
		return e, n, nil
	}
	return endSaid{}, 0, nil
}

func (t *thing) notOfCable(tokens []text.Token) *text.Mistake {
	n := 1
	if q, used := text.ReadQuantity(tokens); used > 0 && used <= len(tokens) {
		n = used
		_, err := q.In(text.Metres, false)
		if err != nil {
			return t.at(tokens[:n], err)
		}
	}
	m := t.at(tokens[:n], fmt.Errorf("“%s” is not a fact about a cable", text.Short(text.Joined(tokens[:n]))))
	m.Expected = `a length, a colour, a kind, or a way, such as 0.25m yellow cat6 via "stairs run"`
	words := append(factWords(ofCable), "")
	for _, c := range lab.ColourNames() {
		words = append(words, string(c))
	}
	if near := text.Nearest(tokens[0].Text, words); near != "" && tokens[0].Kind == text.Word && near != tokens[0].Plain {
		m.Nearest = near
		m.Say = fmt.Sprintf("%s: did you mean %s?", text.Short(tokens[0].Text), near)
	}
	return m
}

// refs finds devices by what a cable's line calls them, and calls them so that
// they are found again: those of one name by their number in print order.
type refs struct {
	byTitle map[string][]lab.ID
	nth     map[lab.ID]int // 0 for the only one of its name
	title   map[lab.ID]string
}

// refsOf works that out once a lab.
func refsOf(l *lab.Lab) *refs { return lab.Derived(l, newRefs) }

func newRefs(l *lab.Lab) *refs {
	r := &refs{byTitle: map[string][]lab.ID{}, nth: map[lab.ID]int{}, title: map[lab.ID]string{}}
	for d := range inPrintOrder(l) {
		folded := lab.FoldName(d.Title())
		r.byTitle[folded] = append(r.byTitle[folded], d.ID)
		r.title[d.ID] = d.Title()
	}
	for _, ids := range r.byTitle {
		if len(ids) < 2 {
			continue
		}
		for _, id := range ids { // those that are written the same are numbered
			if same := exactly(ids, r.title[id], r.titleOf); len(same) > 1 {
				r.nth[id] = slices.Index(same, id) + 1
			}
		}
	}
	return r
}

func (r *refs) titleOf(id lab.ID) string { return r.title[id] }

// inPrintOrder goes through a lab's devices as Print does.
func inPrintOrder(l *lab.Lab) func(func(lab.Device) bool) {
	return func(yield func(lab.Device) bool) {
		var held func(lab.Key) bool
		held = func(k lab.Key) bool {
			for _, d := range onIt(l, k) {
				if !yield(d) || !held(d.Key()) {
					return false
				}
			}
			return true
		}
		for r := range lab.Each[lab.Rack](l) {
			if !held(r.Key()) {
				return
			}
		}
		for p := range lab.Each[lab.Place](l) {
			if !held(p.Key()) {
				return
			}
		}
		for d := range lab.Each[lab.Device](l) {
			if d.At == nil && (!yield(d) || !held(d.Key())) {
				return
			}
		}
	}
}

// onIt is what a text names below a rack, a place or a device: the guests that run on it,
// then what stands on it.
func onIt(l *lab.Lab, k lab.Key) []lab.Device {
	if k.Kind != lab.KindDevice {
		return l.HeldBy(k)
	}
	return slices.Concat(l.GuestsOn(k.ID), l.HeldBy(k))
}

var bareName = regexp.MustCompile(`^\pL[\pL\pN._-]*( [\pL\pN][\pL\pN._-]*)*$`)

// numbered is a device's title, with its number where several have it.
func (r *refs) numbered(id lab.ID) string {
	if n := r.nth[id]; n > 0 {
		return r.title[id] + " (" + strconv.Itoa(n) + ")"
	}
	return r.title[id]
}

// name is what a line calls a device.
func (r *refs) name(id lab.ID) string {
	name := r.title[id]
	if !bareName.MatchString(name) {
		name = text.Quote(name)
	}
	return name + strings.TrimPrefix(r.numbered(id), r.title[id])
}

// text is the end as a line writes it, without its side.
func (r *refs) text(e lab.End) string {
	name := r.name(e.Device)
	if lab.IsUnknownPort(e.Port) {
		return name + "/?"
	}
	if !bareKey.MatchString(e.Port) {
		return name + "/" + text.Quote(e.Port)
	}
	return name + "/" + e.Port
}

var nthName = regexp.MustCompile(`^(.*) \(([0-9]{1,4})\)$`)

// find is the device that goes by a name.
func (r *refs) find(l *lab.Lab, name string) (lab.ID, error) {
	ids := exactly(r.byTitle[lab.FoldName(name)], name, r.titleOf)
	switch {
	case len(ids) == 1:
		return ids[0], nil
	case len(ids) > 1:
		return "", severalCalled(len(ids), name)
	}
	plain, n := cutNth(name)
	if ids := exactly(r.byTitle[lab.FoldName(plain)], plain, r.titleOf); n >= 1 && n <= len(ids) {
		return ids[n-1], nil
	}
	if rest, ok := strings.CutPrefix(lab.FoldName(name), "the "); ok {
		if id, err := r.find(l, rest); err == nil {
			return id, nil
		}
	}
	return "", noneCalled(l, lab.KindDevice, name)
}

// cutNth takes the number off a name that several things go by; 0 where it has
// none.
func cutNth(name string) (plain string, nth int) {
	m := nthName.FindStringSubmatch(name)
	if m == nil {
		return name, 0
	}
	nth, _ = strconv.Atoi(m[2])
	return m[1], nth
}

// keyRange is a range of ports: 1-24, s1-s4.
var keyRange = regexp.MustCompile(`^(.*?)([0-9]{1,4})[-–](.*?)([0-9]{1,4})$`)

const mostInRange = 512

// endFact is one end of a cable, as the head of its line has it.
func endFact(field string, at func(*lab.Cable) **lab.End) fact {
	return fact{of: ofCable, name: map[string]string{"a": "one end", "b": "other end"}[field], field: field, head: true, typedWhole: true,
		read: func(tokens []text.Token, _ bool) (any, error) { return endTyped(text.Joined(tokens)), nil },
		set: func(b box, v any) {
			c := b.(*lab.Cable)
			e, _ := v.(*lab.End)
			*at(c) = e
			if c.State == lab.CableSpare && e != nil {
				c.State = lab.CableInUse
			}
		},
		show: func(l *lab.Lab, b box) string { return EndText(l, *at(b.(*lab.Cable))) }}
}

// endTyped is an end as it was typed.
type endTyped string

func (e endTyped) in(s setting) (any, error) { return ReadEnd(s.lab, string(e)) }

// endsOf are the ends at a device that is found.
func endsOf(l *lab.Lab, id lab.ID, e endSaid) ([]*lab.End, error) {
	d, _ := lab.Find[lab.Device](l, id)
	ports := l.PortsOf(d)
	end := func(said string) *lab.End {
		key, found := ports.Find(said)
		if !found {
			key = said // Apply says what is wrong with it
		}
		return &lab.End{Device: id, Port: key, Rear: e.rear && (e.said || ports.Joined())}
	}
	m := keyRange.FindStringSubmatch(e.port)
	if _, one := ports.Find(e.port); one || m == nil || m[3] != "" && m[3] != m[1] {
		return []*lab.End{end(e.port)}, nil
	}
	from, _ := strconv.Atoi(m[2])
	to, _ := strconv.Atoi(m[4])
	if to < from || to-from >= mostInRange {
		return nil, fmt.Errorf("%s goes from a port to a later one, %d of them at most", text.Short(e.port), mostInRange)
	}
	var list []*lab.End
	for n := from; n <= to; n++ {
		list = append(list, end(m[1]+strconv.Itoa(n)))
	}
	return list, nil
}

// ReadEnd finds the end that a person means by core/3 or PP1/3 rear; nil for ?
// and for nothing. The error says what is wrong with it.
func ReadEnd(l *lab.Lab, typed string) (*lab.End, error) {
	line, slip := text.LexField(typed)
	if slip != nil {
		return nil, errors.New(slip.Say)
	}
	if len(line.Tokens) == 0 {
		return nil, nil
	}
	e, n, err := readEnd(line.Tokens)
	if err != nil {
		return nil, err
	}
	if n == 0 {
		if e, ok := spacedEnd(l, line.Tokens); ok {
			return &e, nil
		}
	}
	if n == 0 || n < len(line.Tokens) {
		return nil, fmt.Errorf("“%s” is not a port; write the device, a slash and the port, such as core/3 or PP1/3 rear", text.Short(typed))
	}
	if e.open {
		return nil, nil
	}
	id, err := refsOf(l).find(l, e.device)
	if err != nil {
		return nil, err
	}
	if e.port == nobodyKnows {
		return &lab.End{Device: id, Port: freeUnknown(l, id, nil)}, nil
	}
	ends, err := endsOf(l, id, e)
	if err != nil {
		return nil, err
	}
	if len(ends) != 1 {
		return nil, fmt.Errorf("%s are %d ports; one end of a cable goes into one", text.Short(typed), len(ends))
	}
	return ends[0], nil
}

// spacedEnd is an end that is written without its slash, as people's own lists
// have it: core 23, core port 23, PP1: 3 rear. It has to be there.
func spacedEnd(l *lab.Lab, tokens []text.Token) (lab.End, bool) {
	var words []string
	for _, t := range tokens {
		if t.Kind != text.Separator {
			words = append(words, strings.TrimSuffix(t.Text, ":"))
		}
	}
	rear := false
	if last := len(words) - 1; last > 0 && (strings.EqualFold(words[last], "rear") || strings.EqualFold(words[last], "front")) {
		rear, words = strings.EqualFold(words[last], "rear"), words[:last]
	}
	id, port, ok := portBehind(l, words)
	if !ok {
		return lab.End{}, false
	}
	d, _ := lab.Find[lab.Device](l, id)
	key, one := l.PortsOf(d).Find(port)
	return lab.End{Device: id, Port: key, Rear: rear}, one
}

// portBehind cuts words into a device and a port of it, or a range of ports, that
// are there: core 23, core ports 1-8. All of them as a name go before that.
func portBehind(l *lab.Lab, words []string) (id lab.ID, port string, ok bool) {
	if len(refsOf(l).byTitle[lab.FoldName(strings.Join(words, " "))]) > 0 {
		return "", "", false // a device, and no port of it
	}
	for i := len(words) - 1; i > 0; i-- {
		id, err := refsOf(l).find(l, strings.Join(words[:i], " "))
		if err != nil {
			continue
		}
		d, _ := lab.Find[lab.Device](l, id)
		ports, said := l.PortsOf(d), strings.Join(words[i:], " ")
		if _, found := ports.Find(said); found || !ports.Known && rangeWord.MatchString(said) {
			return id, said, true
		}
		said = words[len(words)-1]
		if m := keyRange.FindStringSubmatch(said); m != nil && len(words)-i <= 2 {
			_, first := ports.Find(m[1] + m[2])
			_, last := ports.Find(m[1] + m[4])
			if first && last {
				return id, said, true
			}
		}
	}
	return "", "", false
}

// JoinEnd is the end, as ReadEnd reads it, of a device and a port that are
// named apart.
func JoinEnd(device, port string) string {
	side := ""
	for _, s := range []string{" rear", " front"} {
		if at := len(port) - len(s); at > 0 && strings.EqualFold(port[at:], s) {
			port, side = strings.TrimSpace(port[:at]), s
		}
	}
	return text.Quote(device) + "/" + text.Quote(port) + side
}

// EndText is an end as ReadEnd reads it, ? for an open one.
func EndText(l *lab.Lab, e *lab.End) string {
	if e == nil {
		return "?"
	}
	if e.Rear {
		return refsOf(l).text(*e) + " rear"
	}
	return refsOf(l).text(*e)
}
