package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"iter"
	"regexp"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// facts reads the phrases between commas and colons; a mistake costs its own
// phrase. A phrase that begins with a kind of device is a thing that stands on
// this one, and what follows it is said of that thing.
func (t *thing) facts(tokens []text.Token) []text.Mistake {
	var mistakes []text.Mistake
	about := t
	first := true
	for phrase := range pieces(tokens) {
		if t.kind == lab.KindCable || t.kind == lab.KindWireless {
			if m := t.breath(phrase, first); m != nil {
				mistakes = append(mistakes, *m)
			}
			first = false
			continue
		}
		if about.kind == lab.KindDevice {
			phrase = countsApart(phrase)
		}
		if about == t && t.mountedAt(phrase) {
			continue
		}
		if len(phrase) == 1 && phrase[0].Kind == text.Quoted && about.kind == lab.KindDevice && about.name == "" && about.known == nil {
			about.name = strings.TrimSpace(phrase[0].Text)
			continue
		}
		more, err := about.read(phrase)
		if s, on := about.goesOn(phrase); err != nil && on {
			more, err = inLine{said: []said{s}}, nil
		}
		if k, own, used := deviceIn(phrase); err != nil && used > 0 && t.mayHold(phrase[used:], own) {
			about = &thing{kind: lab.KindDevice, device: k, own: own, file: t.file, line: t.line, col: phrase[0].Col, end: phrase[len(phrase)-1].End}
			about.said = otherWords(phrase)
			t.within = append(t.within, about)
			phrase, _ = about.readName(phrase[used:])
			if len(phrase) == 0 {
				continue
			}
			more, err = about.read(phrase)
		}
		if err != nil {
			kept, mistake := about.unread(phrase, err)
			if mistake != nil {
				mistakes = append(mistakes, *mistake)
				continue
			}
			more.said = []said{kept}
		}
		about.within = append(about.within, more.parts...)
		about.said = append(about.said, more.said...)
	}
	t.modules()
	return mistakes
}

// pieces goes through the phrases between separators; what says only the sort of
// a part before a colon goes with what follows: card: 40G network.
func pieces(tokens []text.Token) iter.Seq[[]text.Token] {
	return func(yield func([]text.Token) bool) {
		for len(tokens) > 0 {
			n := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
			if n == 1 && tokens[1].Text == ":" && tokens[0].Kind == text.Word && partWords[tokens[0].Plain] != "" && len(tokens) > 2 {
				tokens = append([]text.Token{tokens[0]}, tokens[2:]...)
				continue
			}
			if n < 0 {
				n = len(tokens)
			}
			n += moreVLANs(tokens, n)
			if n > 0 && !yield(tokens[:n]) {
				return
			}
			tokens = tokens[min(n+1, len(tokens)):]
		}
	}
}

// moreVLANs tells how many tokens behind a phrase go on in the VLANs that it ends
// with: tagged 20, 30 and 40.
func moreVLANs(tokens []text.Token, n int) int {
	if n < 2 || !isVLANs(tokens[n-1]) || !slices.ContainsFunc(tokens[:n], func(t text.Token) bool { return t.Is("tagged") }) {
		return 0
	}
	more := 0
	for at := n; at < len(tokens) && tokens[at].Kind == text.Separator; {
		next := at + 1 + listedAt(tokens[at+1:])
		if next == at+1 || next < len(tokens) && tokens[next].Kind != text.Separator && !slices.Contains(vlanWords, tokens[next].Plain) {
			break
		}
		at, more = next, next-n
	}
	return more
}

// listedAt tells how many words list VLANs that a phrase begins with: 30 and 40.
func listedAt(tokens []text.Token) int {
	n := 0
	for n < len(tokens) && (isVLANs(tokens[n]) || n > 0 && tokens[n].Is("and") && n+1 < len(tokens) && isVLANs(tokens[n+1])) {
		n++
	}
	return n
}

var hyphenCount = regexp.MustCompile(`^([0-9]{1,3})-(bays?|ports?|slots?|outlets?)$`)

// bothRatings are the two limits of a UPS with a stroke between, or those of a brick.
var bothRatings = regexp.MustCompile(`(?i)^([0-9.]+(?:k?va|v))/([0-9.]+(?:k?w|a))$`)

// countsApart is a phrase with what people hyphenate in two words: 8-bay, 1500VA/900W.
func countsApart(phrase []text.Token) []text.Token {
	if phrase[0].Kind != text.Word || strings.IndexAny(phrase[0].Text, "-/") < 1 {
		return phrase
	}
	m := hyphenCount.FindStringSubmatch(strings.ToLower(phrase[0].Text))
	if m == nil {
		m = bothRatings.FindStringSubmatch(phrase[0].Text)
	}
	if m == nil {
		return phrase
	}
	n, noun := phrase[0], phrase[0]
	n.Text, n.Plain, noun.Text, noun.Plain = m[1], m[1], m[2], m[2]
	return append([]text.Token{n, noun}, phrase[1:]...)
}

// mountedAt reads a phrase that says at which face of a rack a device is whose
// units stand at the beginning of the line.
func (t *thing) mountedAt(phrase []text.Token) bool {
	face, ok := faceOf(phrase)
	if !ok || t.kind != lab.KindDevice || t.where == nil || t.where.kind != lab.InUnits {
		return false
	}
	t.where.face = face
	return true
}

// faceOf is the face that a phrase names: rear, at the back.
func faceOf(phrase []text.Token) (lab.Face, bool) {
	last := phrase[len(phrase)-1]
	face, ok := faceWords[last.Plain]
	if !ok || last.Kind != text.Word {
		return "", false
	}
	words := text.Plainly(phrase[:len(phrase)-1])
	return face, words == "" || words == "at the" || words == "from the"
}

// deviceIn reads the kind of device that a phrase begins with, or its owner's
// words for one.
func deviceIn(phrase []text.Token) (k lab.DeviceKind, own string, used int) {
	if k, _, used := wordsAround(phrase); used > 0 {
		return k, "", used
	}
	if k, used = readKind(phrase); used > 0 {
		return k, "", used
	}
	if own, used = readOwnKind(phrase); used > 0 {
		return lab.Other, own, used
	}
	return "", "", 0
}

// wordsAround reads a kind of device with other words before it or behind it,
// up to the name in quotes: managed switch "core". It tells how many words the
// kind and those take, and which are the others; 0 where there is no kind.
func wordsAround(tokens []text.Token) (k lab.DeviceKind, others []text.Token, used int) {
	n := 0
	for n < len(tokens) && n <= mostKindWords && tokens[n].Kind == text.Word {
		n++
	}
	if n < 2 || n > mostKindWords || n == len(tokens) || tokens[n].Kind != text.Quoted || !letters.MatchString(text.Joined(tokens[:n])) ||
		slices.Contains(neverKinds, tokens[0].Plain) || partWords[tokens[0].Plain] != "" {
		return "", nil, 0
	}
	if _, words := readKind(tokens); words == n {
		return "", nil, 0
	}
	for from := 0; from < n; from++ {
		if slices.ContainsFunc(tokens[:n], func(t text.Token) bool { return slices.Contains(linking, t.Plain) }) {
			return "", nil, 0
		}
		if k, words := readKind(tokens[from:n]); words > 0 && words < n && (from == 0 || from+words == n) {
			return k, slices.Concat(tokens[:from], tokens[from+words:n]), n
		}
	}
	return "", nil, 0
}

// linking are words that lead on to something else.
var linking = []string{"with", "for", "and", "or", "of", "to", "by", "behind", "beside", "next", "near", "a", "the"}

// otherWords are the words beside the kind of a device, as a remark on it.
func otherWords(phrase []text.Token) []said {
	if _, others, used := wordsAround(phrase); used > 0 {
		if s, err := readFact(scope(lab.KindDevice), others); err == nil && s.fact.field == "management" {
			return []said{s} // a managed switch
		}
		return []said{kept(scope(lab.KindDevice), others)}
	}
	return nil
}

// severalFacts are the phrases that people run together in one; nil for any other one.
func (t *thing) severalFacts(phrase []text.Token) [][]text.Token {
	switch t.kind {
	case lab.KindDevice:
		return watchedOver(phrase)
	case lab.KindTunnel:
		return tunnelEnds(phrase)
	case lab.KindShare:
		return shareEnds(phrase)
	case lab.KindLine, lab.KindRule, lab.KindWireless:
		return downAndUp(phrase)
	case lab.KindCircuit: // 32A 400V 3 poles
		return t.oneByOne(phrase)
	case lab.KindSubnet: // router .1 hands out .20 to .199
		out := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("hands") || t.Is("handed") || t.Is("dhcp") })
		if out > 1 && phrase[0].Kind == text.Word && slices.Contains([]string{"gateway", "gw", "router"}, phrase[0].Plain) {
			return [][]text.Token{phrase[:out], phrase[out:]}
		}
	}
	return nil
}

// oneByOne are the facts of a phrase, each as few words as make sense; nil where there
// are not several, or where words are left.
func (t *thing) oneByOne(phrase []text.Token) [][]text.Token {
	var list [][]text.Token
	for len(phrase) > 0 {
		_, n := nextFact(t.scope(), phrase)
		if n == 0 {
			return nil
		}
		list = append(list, phrase[:n])
		phrase = phrase[n:]
	}
	if len(list) < 2 {
		return nil
	}
	return list
}

// inLine is what a phrase says: facts of the line's thing, and parts in it.
type inLine struct {
	parts []*thing
	said  []said
}

// yearAlone is what can only be the year in which something was bought.
var yearAlone = regexp.MustCompile(`^(199|20[0-4])[0-9]$`)

// read is what a phrase says of the line's thing.
func (t *thing) read(phrase []text.Token) (inLine, error) {
	phrase = t.asSaid(phrase)
	if t.kind == lab.KindDevice && !t.isGuest() {
		if t.device.Traits().Feeds && begins(phrase) {
			phrase = outletsSaid(phrase)
		}
		if _, is := readRuntime(phrase); is && t.device == lab.UPS {
			s, err := readFact(t.scope(), phrase)
			return inLine{said: []said{s}}, err
		}
		for _, meant := range []func([]text.Token) (inLine, bool){t.parts, t.figure, t.powered} {
			if more, ok := meant(phrase); ok {
				return more, nil
			}
		}
		phrase = t.withConnector(phrase)
	}
	if list := t.systemSaid(phrase); list != nil {
		return inLine{said: list}, nil
	}
	if to := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("to") }); t.kind == lab.KindRun && to > 1 && phrase[0].Is("from") {
		from, err := readFact(ofRun, phrase[:to])
		there, err2 := readFact(ofRun, phrase[to:])
		return inLine{said: []said{from, there}}, cmp.Or(err, err2)
	}
	if more := t.severalFacts(phrase); more != nil {
		var line inLine
		for _, phrase := range more {
			s, err := readFact(t.scope(), phrase)
			if err != nil && t.kind == lab.KindShare {
				s, err = kept(t.scope(), phrase), nil // what it is of counts all the same
			}
			if err != nil {
				return line, err
			}
			line.said = append(line.said, s)
		}
		return line, nil
	}
	if t.kind == lab.KindLab && len(phrase) == 1 && lab.IsCurrency(phrase[0].Text) {
		money := indexes[t.scope()].byField["currency"]
		return inLine{said: []said{{fact: money, value: phrase[0].Text, col: phrase[0].Col, end: phrase[0].End}}}, nil
	}
	if t.kind == lab.KindDevice && len(phrase) == 1 && yearAlone.MatchString(phrase[0].Text) && !t.isGuest() { // ups "dry": 1500VA, 2024
		phrase = []text.Token{asWord(phrase[0], "bought"), phrase[0]}
	}
	if last := len(phrase) - 1; t.kind == lab.KindRack && last > 0 && phrase[last].Is("standing") { // 400kg standing is no stance
		if phrase[0].Is("rated") {
			phrase, last = phrase[1:], last-1
		}
		if _, n := text.ReadQuantity(phrase); n == last {
			holds := phrase[last]
			holds.Text, holds.Plain = "holds", "holds"
			phrase = append([]text.Token{holds}, phrase[:last]...)
		}
	}
	s, err := readFact(t.scope(), phrase)
	var besides *besidesError
	if errors.As(err, &besides) && len(besides.rest) > 1 && besides.rest[0].Is("and") { // six ports and two cages
		if more, err := t.read(besides.rest[1:]); err == nil {
			s.value = besides.value
			more.said = append([]said{s}, more.said...)
			return more, nil
		}
	}
	if errors.As(err, &besides) && indexes[t.scope()].byField["remarks"] != nil && !startsWithFigure(besides.rest) &&
		t.slip(besides.rest, false, besides.reads).word == "" {
		s.value = besides.value
		return inLine{said: []said{s, kept(t.scope(), besides.rest)}}, nil
	}
	if err == nil && t.isGuest() {
		if more, off, err := t.spinOff(s); off {
			return more, err
		}
	}
	if and := slices.IndexFunc(phrase, func(t text.Token) bool { return t.Is("and") }); err != nil && t.isGuest() && and > 0 &&
		and+1 < len(phrase) {
		first, err := t.read(phrase[:and]) // 8 cores and 24GB
		rest, err2 := t.read(phrase[and+1:])
		if cmp.Or(err, err2) == nil {
			return inLine{parts: append(first.parts, rest.parts...), said: append(first.said, rest.said...)}, nil
		}
	}
	if err != nil && (t.kind == lab.KindCluster || t.kind == lab.KindStack) { // anvil, thrush
		if s, err := t.members(phrase); err == nil {
			return inLine{said: []said{s}}, nil
		}
	}
	if err != nil && t.kind == lab.KindDevice && !t.isGuest() {
		if more, ok := t.partsAndMore(phrase); ok {
			return more, nil
		}
	}
	if err != nil {
		return inLine{}, err
	}
	return inLine{said: []said{s}}, nil
}

// members is what a phrase without a word names: the hosts of a cluster, or what belongs
// to a stack.
func (t *thing) members(phrase []text.Token) (said, error) {
	f := indexes[t.scope()].byField[map[lab.RecordKind]string{lab.KindCluster: "host_ids", lab.KindStack: "guest_ids"}[t.kind]]
	v, err := f.read(phrase, false)
	return said{fact: f, value: v, col: phrase[0].Col, end: phrase[len(phrase)-1].End}, err
}

// startsWithFigure reports whether words begin with a number: of what, the phrase
// before them does not say, as 8 ports 2 PoE does not.
func startsWithFigure(words []text.Token) bool {
	_, n := text.ReadQuantity(words)
	return n > 0
}

// mayHold reports whether a kind of device in a phrase begins another device,
// which stands on this one: one that is made to hold others, or a place, takes
// any, another one those of a known kind with a name in quotes.
func (t *thing) mayHold(rest []text.Token, own string) bool {
	switch t.kind {
	case lab.KindPlace:
		return true
	case lab.KindDevice:
		return t.device.Traits().Holds || own == "" && len(rest) > 0 && rest[0].Kind == text.Quoted
	}
	return false
}

// breath reads what is said of a cable in one breath: one fact after another,
// each as few words as make sense. What is left of the first breath is a remark;
// a later one is a remark as a whole, where it is not all facts.
func (t *thing) breath(phrase []text.Token, first bool) *text.Mistake {
	var facts []said
	if s, err := readFact(t.scope(), phrase); err == nil && !first {
		t.said = append(t.said, s)
		return nil
	}
	if n := lengthAhead(phrase); !first && n > 0 && slackIn(phrase) == 0 { // 15m flat cat6
		s, _ := readFact(t.scope(), phrase[:n])
		t.said = append(t.said, s)
		return t.breath(phrase[n:], false)
	}
	for tokens := phrase; len(tokens) > 0; {
		s, taken := nextFact(t.scope(), tokens)
		if n := slackIn(tokens); n > 0 {
			s, taken = kept(t.scope(), tokens[:n]), n
		}
		if taken == 0 {
			rest := tokens
			if !first {
				rest, facts = phrase, t.kindAmong(phrase)
			}
			q, n := text.ReadQuantity(rest)
			if n > 0 && (n == len(rest) || isIn(text.Metres)(q) && startsFact(t.scope(), rest[n:])) {
				return t.notOfCable(rest)
			}
			kept, mistake := t.unread(rest, nil)
			if mistake != nil {
				return mistake
			}
			s, taken = kept, len(tokens)
		}
		facts = append(facts, s)
		tokens = tokens[taken:]
	}
	t.said = append(t.said, facts...)
	return nil
}

// lengthAhead tells how many words are the length that a longer phrase begins with.
func lengthAhead(phrase []text.Token) int {
	q, n := text.ReadQuantity(phrase)
	if n == 0 || n == len(phrase) || !isIn(text.Metres)(q) {
		return 0
	}
	return n
}

// kindAmong is the kind of cable that a phrase of other words names, as flat
// cat6 does.
func (t *thing) kindAmong(phrase []text.Token) []said {
	for i, tok := range phrase {
		if s, err := readFact(t.scope(), phrase[i:i+1]); err == nil && s.fact.field == "cable_kind" && strings.ContainsAny(tok.Plain, "56340") {
			return []said{s}
		}
	}
	return nil
}

// slackIn tells how many words say how much slack a cable has: 3m slack, which
// is not its length.
func slackIn(tokens []text.Token) int {
	if _, n := text.ReadQuantity(tokens); n > 0 && n < len(tokens) && (tokens[n].Is("slack") || tokens[n].Is("spare")) {
		return n + 1
	}
	return 0
}

func startsFact(of scope, tokens []text.Token) bool {
	_, n := nextFact(of, tokens)
	return n > 0
}

// nextFact reads the fact that words begin with, as few of them as make sense,
// and tells how many those are.
func nextFact(of scope, tokens []text.Token) (said, int) {
	const most = 4 // words
	for n := 1; n <= min(most, len(tokens)); n++ {
		if s, err := readFact(of, tokens[:n]); err == nil {
			return s, n
		}
	}
	return said{}, 0
}

// unread is a phrase that says nothing known here: a remark, or the mistake
// that it is.
func (t *thing) unread(phrase []text.Token, err error) (said, *text.Mistake) {
	of := t.scope()
	slip := t.slip(phrase, true, func(p []text.Token) bool {
		loose := func(s said) bool { return s.kept || s.fact.typedWhole && s.fact.matches == nil && !hasQuotes(p) }
		if t.kind == lab.KindCable {
			s, n := nextFact(of, p)
			return n > 0 && !loose(s)
		}
		more, err := t.read(p)
		return err == nil && !slices.ContainsFunc(more.said, loose) &&
			!slices.ContainsFunc(more.parts, func(t *thing) bool { return slices.ContainsFunc(t.said, loose) })
	})
	if slip.word == "" && isRemark(of, phrase) {
		return kept(of, phrase), nil
	}
	if t.kind == lab.KindCable && slip.word == "" {
		return said{}, t.notOfCable(phrase)
	}
	m := t.at(phrase, cmp.Or(err, errors.New("say what that is")))
	if slip.word != "" {
		m = t.at([]text.Token{slip.token}, fmt.Errorf("%s: did you mean %s?", text.Short(slip.token.Text), slip.word))
		m.Nearest = slip.word
	}
	m.Expected = "a fact such as " + strings.Join(examples(of), ", ")
	return said{}, m
}

func hasQuotes(phrase []text.Token) bool {
	return slices.ContainsFunc(phrase, func(t text.Token) bool { return t.Kind == text.Quoted })
}

// factWords are all the words that phrases about a kind of record may have.
func factWords(kind scope) []string {
	var words []string
	for _, f := range factsOf(kind) {
		words = append(append(words, f.words...), f.phrases...)
	}
	return words
}

// examples are a few facts that can be said of a kind of record.
func examples(kind scope) []string {
	const few = 5
	var list []string
	for _, measures := range []bool{true, false} {
		for _, f := range factsOf(kind) {
			if (f.group == Measures) == measures && f.example != "" && len(list) < few {
				list = append(list, f.example)
			}
		}
	}
	return list
}

// readFact reads one phrase about a record of the kind: a whole phrase that
// is a fact, then a fact's word at either end, then a bare quantity.
func readFact(kind scope, phrase []text.Token) (said, error) {
	s := said{col: phrase[0].Col, end: phrase[len(phrase)-1].End}
	var err error
	if f, ok := indexes[kind].byPhrase[text.Plainly(phrase)]; ok {
		s.fact = f
		s.value, err = f.read(phrase, false)
		return s, err
	}
	for _, f := range indexes[kind].shaped {
		if f.matches(phrase) {
			s.fact = f
			s.value, err = f.read(phrase, false)
			return s, err
		}
	}
	if s.fact, phrase = factNamed(kind, phrase); s.fact != nil {
		s.value, err = s.fact.read(phrase, false)
		return s, err
	}
	q, n := text.ReadQuantity(phrase)
	if len(phrase) == 2 && phrase[0].Kind == text.Unknown && phrase[1].Kind == text.Word && text.IsUnit(phrase[1].Text) {
		q, n = text.Quantity{Unit: phrase[1].Plain}, 2 // ?kg
	}
	for _, f := range indexes[kind].bare {
		if n == len(phrase) && f.bare(q) {
			s.fact, s.bare = f, true
			s.value, err = f.read(phrase, false)
			return s, err
		}
	}
	switch {
	case n == 0:
		return s, fmt.Errorf("“%s” is not a fact known here", text.Short(text.Joined(phrase)))
	case q.Unit == "" && len(phrase) == 2:
		return s, fmt.Errorf("“%s” is not a unit; write one such as mm, kg, W, GB or U", text.Short(phrase[1].Text))
	case q.Unit != "" && !text.IsUnit(q.Unit):
		return s, fmt.Errorf("“%s” is not a unit; write one such as mm, kg, W, GB or U", text.Short(q.Unit))
	}
	return s, fmt.Errorf("%s of what? Say it with a word, such as %s", text.Short(text.Joined(phrase)), strings.Join(examples(kind), ", "))
}

// factNamed finds the fact whose word stands at the start or the end of the
// phrase, and the phrase without it.
func factNamed(kind scope, phrase []text.Token) (*fact, []text.Token) {
	words := indexes[kind].word
	for n := min(mostFactWords, len(phrase)); n > 0; n-- {
		if f, ok := words[plainWords(phrase[:n])]; ok {
			return f, phrase[n:]
		}
	}
	// At the end only a quantity goes before the word, so that one's own
	// words, as in "gate in height", are not taken for a fact.
	_, counts := countIn(phrase[0])
	if _, n := text.ReadQuantity(phrase); n == 0 && !counts && phrase[0].Kind != text.Unknown {
		return nil, phrase
	}
	for n := min(mostFactWords, len(phrase)-1); n > 0; n-- {
		if f, ok := words[plainWords(phrase[len(phrase)-n:])]; ok {
			return f, phrase[:len(phrase)-n]
		}
	}
	return nil, phrase
}

// mostFactWords is the number of words in the longest word for a fact.
const mostFactWords = 4

// plainWords joins words that are not in quotes; "" where one is.
func plainWords(tokens []text.Token) string {
	if slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Kind != text.Word }) {
		return ""
	}
	return text.Plainly(tokens)
}
