// Package find looks things up by what a person remembers of them: a name, a
// piece of what it is for, a word of a note, where it is, with a slip of the
// finger or two.
package find

import (
	"cmp"
	"math/bits"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/agext/levenshtein"

	"levelstaff/core/lab"
	"levelstaff/core/rundown"
	"levelstaff/core/text"
)

// Hit is one thing that was found.
type Hit struct {
	Record rundown.About `json:"record" required:"true"`
	Kind   string        `json:"kind" required:"true" description:"What sort of thing it is"`
	Said   string        `json:"said,omitempty" description:"What it is for, or the piece of a note that was found"`
	score  int
}

// Index is a lab made ready to be searched. It is never changed.
type Index struct {
	lab     *lab.Lab
	entries []entry
	words   []string         // every word once, sorted
	letters []uint64         // and the letters it has
	in      map[string][]use // where a word stands
}

type entry struct {
	record lab.Record
	about  rundown.About
	notes  string
}

// use is a word's place: an entry, and how much a word there counts.
type use struct {
	entry  int32
	weight int32
}

// How much a word counts by where it stands.
const (
	inName    = 30
	inKind    = 14
	inWhere   = 10
	inPurpose = 12
	inNotes   = 8
)

// New makes the index of a lab. It takes some tens of milliseconds for
// thousands of things; searching it takes one or two.
func New(l *lab.Lab) *Index {
	ix := &Index{lab: l, in: map[string][]use{}}
	for _, k := range lab.Kinds() {
		if k.Name == "" && k.RecordKind != lab.KindSubnet || k.Alone || k.RecordKind == lab.KindFilter {
			continue // what has no name is found with what it is of
		}
		for r := range l.Records(k.RecordKind) {
			ix.record(r)
		}
	}
	ix.words = make([]string, 0, len(ix.in))
	for w := range ix.in {
		ix.words = append(ix.words, w)
	}
	slices.Sort(ix.words)
	ix.letters = make([]uint64, len(ix.words))
	for i, w := range ix.words {
		ix.letters[i] = lettersOf(w)
	}
	return ix
}

// record takes a record in, by what is looked for of its kind besides its name
// and where it is.
func (ix *Index) record(r lab.Record) {
	about := rundown.AboutOf(ix.lab, r)
	where := about.Where
	kind, purpose, notes := r.Key().Kind.Words(), "", rundown.NotesOf(r)
	facts := r
	switch r := r.(type) {
	case lab.Device:
		kind, purpose = r.KindWords()+" "+string(r.State), r.Purpose
		for _, k := range r.Also {
			kind += " " + k.Words()
		}
		where += " " + holderWords(ix.lab, r)
		known := r
		known.Spec = ix.lab.SpecOf(r)
		facts = known
	case lab.Part:
		kind = string(r.Kind) + " " + string(r.Medium)
	case lab.Cable:
		kind += " " + string(r.Kind) + " " + string(r.Colour)
		where = ix.lab.CableWords(lab.Cable{A: r.A, B: r.B})
		about.Where = where
	case lab.Run:
		kind += " conduit"
	case lab.SpecSheet:
		kind += " " + r.Kind.Words()
	}
	if r.Key().Kind == lab.KindCable { // its facts are those of hundreds of others
		notes = written(notes, rundown.RemarksOf(r)...)
	} else {
		notes = written(notes, rundown.FactsOf(ix.lab, facts)...)
	}
	name := lab.OwnName(r)
	if r.Key().Kind == lab.KindSubnet {
		name = r.Title()
	}
	ix.add(r, about, name, kind, where, purpose, notes)
}

// written joins what is known of a thing besides its note: numbers and
// addresses that one reads off it.
func written(notes string, more ...string) string {
	more = slices.DeleteFunc(more, func(s string) bool { return s == "" })
	return strings.TrimSpace(notes + "\n" + strings.Join(more, ", "))
}

// lettersOf is a set of the letters of a word, with all that are not Latin
// ones or digits thrown together.
func lettersOf(word string) (set uint64) {
	for _, r := range word {
		switch {
		case 'a' <= r && r <= 'z':
			set |= 1 << (r - 'a')
		case '0' <= r && r <= '9':
			set |= 1 << (26 + r - '0')
		default:
			set |= 1 << 63
		}
	}
	return
}

// holderWords is the rack or place that a thing on another thing is in.
func holderWords(l *lab.Lab, d lab.Device) string {
	if d.At == nil || d.At.Where != lab.OnDevice {
		return ""
	}
	r, _ := l.RackOf(d)
	return r.Name
}

func (ix *Index) add(r lab.Record, about rundown.About, name, kind, where, purpose, notes string) {
	at := int32(len(ix.entries))
	ix.entries = append(ix.entries, entry{r, about, notes})
	for _, part := range []struct {
		text   string
		weight int32
	}{{name, inName}, {kind, inKind}, {where, inWhere}, {purpose, inPurpose}, {notes, inNotes}} {
		for _, w := range append(split(part.text), addresses(part.text)...) {
			uses := ix.in[w]
			if n := len(uses); n > 0 && uses[n-1].entry == at {
				uses[n-1].weight = max(uses[n-1].weight, part.weight)
				continue
			}
			ix.in[w] = append(uses, use{at, part.weight})
		}
	}
}

// split folds a text and cuts it into words of letters and digits.
func split(text string) []string {
	return strings.FieldsFunc(lab.FoldName(text), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
}

// addressForm is an address, or the beginning of one that is long enough to be no
// other figure.
var addressForm = regexp.MustCompile(`^([0-9]{1,3}(\.[0-9]{1,3}){2,3}(/[0-9]+)?|[0-9a-f:]*::[0-9a-f:]*(/[0-9]+)?)$`)

// addresses are the words of a text that are addresses, which are looked for whole.
func addresses(text string) []string {
	var list []string
	for _, w := range strings.Fields(lab.FoldName(text)) {
		if w = strings.Trim(w, ",;\"()"); addressForm.MatchString(w) {
			list = append(list, w)
		}
	}
	return list
}

// asked is what a query looks for: its words, and figures with their units where
// something has that figure: 8 TB is 8tb.
func (ix *Index) asked(query string) []string {
	words := addresses(query)
	for _, w := range words {
		query = strings.Replace(lab.FoldName(query), w, " ", 1)
	}
	for _, w := range split(query) {
		if n := len(words); n > 0 && text.IsUnit(w) && strings.Trim(words[n-1], "0123456789") == "" && ix.in[words[n-1]+w] != nil {
			words[n-1] += w
			continue
		}
		words = append(words, w)
	}
	return words
}

// How well a word of the text fits a word of the query.
const (
	exact     = 100
	prefix    = 75
	inside    = 45
	oneSlip   = 40
	twoSlips  = 22
	mostFound = 1000
)

// Search returns at most limit things that have every word of the query, the
// best first: whole words before beginnings before pieces before slips, names
// before notes. An empty query finds nothing.
func (ix *Index) Search(query string, limit int) []Hit {
	hits := []Hit{}
	words := ix.asked(query)
	if len(words) == 0 || len(words) > 20 {
		return hits
	}
	score := ix.scores(words[0])
	for _, w := range words[1:] {
		more := ix.scores(w)
		for at := range score {
			if more[at] == 0 || score[at] == 0 {
				score[at] = 0
				continue
			}
			score[at] += more[at]
		}
	}
	whole := lab.FoldName(strings.TrimSpace(query))
	var found []int32
	for at := range score {
		if score[at] == 0 {
			continue
		}
		found = append(found, int32(at))
		if lab.FoldName(ix.entries[at].record.Title()) == whole {
			score[at] += 10_000
		}
	}
	slices.SortFunc(found, func(a, b int32) int { return cmp.Or(int(score[b]-score[a]), int(a-b)) })
	for _, at := range found[:min(len(found), limit, mostFound)] {
		hits = append(hits, ix.hit(at, int(score[at]), words))
	}
	return hits
}

// scores is how well each thing has a word, 0 for not at all.
func (ix *Index) scores(word string) []int32 {
	score := make([]int32, len(ix.entries))
	some := false
	note := func(w string, fit int32) {
		some = true
		for _, u := range ix.in[w] {
			score[u.entry] = max(score[u.entry], fit*u.weight)
		}
	}
	for _, w := range ix.words {
		switch at := strings.Index(w, word); {
		case w == word:
			note(w, exact)
		case at == 0:
			note(w, prefix)
		case at > 0 && len(word) > 1 && !(isDigit(word[0]) && isDigit(w[at-1])):
			note(w, inside)
		}
	}
	if !some {
		ix.slips(word, note)
	}
	return score
}

func isDigit(b byte) bool { return b >= '0' && b <= '9' }

// slips finds words that begin like the given one with a slip or two in it:
// one in words of four letters and more, two from seven.
func (ix *Index) slips(word string, note func(word string, fit int32)) {
	letters := utf8.RuneCountInString(word)
	most := 0
	switch {
	case isDigit(word[0]): // nearly the same figure is another one
	case letters >= 7:
		most = 2
	case letters >= 4:
		most = 1
	}
	if most == 0 {
		return
	}
	typed := []rune(word)
	has := lettersOf(word)
	for i, w := range ix.words {
		// Each letter that is typed and not in the word is a slip at least.
		if bits.OnesCount64(has&^ix.letters[i]) > most {
			continue
		}
		best := most + 1
		runes := []rune(w)
		for n := max(1, letters-most); n <= min(len(runes), letters+most); n++ {
			best = min(best, slip(runes[:n], typed))
		}
		if best > most {
			continue
		}
		if best == 2 {
			note(w, twoSlips)
		} else {
			note(w, oneSlip)
		}
	}
}

// slip counts the slips between two words; two letters that changed places are
// one. (The library's own bound for the count answers too low at times.)
func slip(a, b []rune) int {
	d, same, _ := levenshtein.Calculate(a, b, 0, 1, 1, 1)
	if d == 2 && len(a) == len(b) && same+1 < len(a) && a[same] == b[same+1] && a[same+1] == b[same] && slices.Equal(a[same+2:], b[same+2:]) {
		return 1
	}
	return d
}

func (ix *Index) hit(at int32, score int, words []string) Hit {
	e := ix.entries[at]
	h := Hit{Record: e.about, Kind: e.record.Key().Kind.Words(), score: score}
	switch r := e.record.(type) {
	case lab.Device:
		h.Kind, h.Said = r.KindWords(), r.Purpose
	case lab.Part:
		h.Kind = string(r.Kind)
	}
	if piece := around(e.notes, words); piece != "" && !says(h.Said, words) {
		h.Said = piece
	}
	return h
}

func says(text string, words []string) bool {
	folded := lab.FoldName(text)
	return slices.ContainsFunc(words, func(w string) bool { return strings.Contains(folded, w) })
}

// around is the piece of a note that has one of the words.
func around(notes string, words []string) string {
	const before, most = 30, 90
	folded := lab.FoldName(notes)
	for _, w := range words {
		at := strings.Index(folded, w)
		if at < 0 || len(folded) != len(notes) {
			continue
		}
		start := max(0, at-before)
		for start > 0 && notes[start-1] != ' ' && notes[start-1] != '\n' {
			start--
		}
		piece := []rune(strings.ReplaceAll(notes[start:], "\n", " "))
		text := string(piece[:min(len(piece), most)])
		if start > 0 {
			text = "…" + text
		}
		if len(piece) > most {
			text += "…"
		}
		return text
	}
	return ""
}
