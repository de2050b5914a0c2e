package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// What a person says of what needs what:
//
//	"choir library" needs "data base"
//	"choir library" wants "mail out"
//	"books" needs "names 1" or "names 2"
//	service "choir library" needs dataset "choir scores"

var ofNeed = scope(lab.KindNeed)

// needVerbs are what stands between what needs and what it needs, and whether it goes on
// without.
var needVerbs = []struct {
	first, then string // then is "" for one word
	wants       bool
}{{"needs", "", false}, {"wants", "", true}, {"requires", "", false}, {"depends", "on", false}, {"relies", "on", false},
	{"would", "like", true}}

// neededKinds are the words that stand before a name that is to be of one kind.
var neededKinds = map[string]lab.RecordKind{"service": lab.KindService, "vm": lab.KindDevice, "container": lab.KindDevice,
	"guest": lab.KindDevice, "device": lab.KindDevice, "pool": lab.KindPool, "dataset": lab.KindDataset, "share": lab.KindShare,
	"line": lab.KindLine, "circuit": lab.KindCircuit, "breaker": lab.KindCircuit, "tunnel": lab.KindTunnel}

// verbAt finds the verb of a line of needs: where it is, of how many words; at is -1
// where the line has none.
func verbAt(tokens []text.Token) (at, words int, wants bool) {
	for i := 1; i < len(tokens)-1; i++ {
		if tokens[i].Kind == text.Separator {
			break
		}
		for _, v := range needVerbs {
			switch {
			case !tokens[i].Is(v.first):
			case v.then == "":
				return i, 1, v.wants
			case i+2 < len(tokens) && tokens[i+1].Is(v.then):
				return i, 2, v.wants
			}
		}
	}
	return -1, 0, false
}

// saysNeed reports whether a line says what needs what: a name, a verb, and a name. Of
// plain words, what begins like a thing that one would buy is a remark.
func saysNeed(tokens []text.Token) bool {
	at, n, _ := verbAt(tokens)
	if at < 0 {
		return false
	}
	of, what := tokens[:at], tokens[at+n]
	if kind := neededKinds[of[0].Plain]; of[0].Kind == text.Word && kind != "" && at > 1 {
		of = of[1:]
	} else if at > 1 && of[0].Kind == text.Word && slices.ContainsFunc(lineKinds(), func(k lineKind) bool { return k.begins(of) > 0 }) {
		return false
	}
	if hasQuotes(of) && len(of) > 1 {
		return false
	}
	return what.Kind == text.Quoted || what.Kind == text.Word && !slices.Contains(remarkable, what.Plain) && !startsWithDigit(what.Text)
}

// needsAHand is such a line with the colon that it is written with: it says something of
// one thing, as a remark.
func needsAHand(tokens []text.Token) [][]text.Token {
	at, _, _ := verbAt(tokens)
	if at < 0 || saysNeed(tokens) {
		return nil
	}
	colon := text.Token{Kind: text.Separator, Text: ":", Col: tokens[at].Col, End: tokens[at].Col}
	return [][]text.Token{slices.Concat(tokens[:at], []text.Token{colon}, tokens[at:])}
}

// remarkable are words behind needs that no name begins with: needs a new fan, needs to
// be moved.
var remarkable = []string{"a", "an", "new", "more", "another", "some", "any", "to", "no", "less", "better", "its", "at", "replacing",
	"cleaning", "fixing", "repair", "work", "help", "attention", "power"}

func startsWithDigit(s string) bool { return s != "" && s[0] >= '0' && s[0] <= '9' }

func needFacts() []fact {
	needs := func(b box) *lab.Need { return b.(*lab.Need) }
	showOf := func(l *lab.Lab, b box) string {
		if k := needs(b).Of; k != nil {
			return neededText(l, *k)
		}
		return ""
	}
	showAny := func(l *lab.Lab, b box) string {
		var any []string
		for _, k := range needs(b).Any {
			any = append(any, neededText(l, k))
		}
		return strings.Join(any, " or ")
	}
	const example = `"choir library" needs "data base"`
	return []fact{
		{of: ofNeed, name: "what needs it", field: "of", head: true, example: `"choir library"`, needed: "say what needs what, such as " +
			example,
			show: showOf, write: showOf,
			takes: func(tokens []text.Token) int { at, _, _ := verbAt(tokens); return max(at, 0) },
			read:  func(tokens []text.Token, _ bool) (any, error) { return readNeeded(tokens) },
			set: func(b box, v any) {
				needs(b).Of = nil
				if k, ok := v.(lab.Key); ok {
					needs(b).Of = &k
				}
			}},
		{of: ofNeed, name: "what it needs", field: "any_of", head: true, example: `needs "data base"`, needed: "say what it needs, such as " +
			example,
			show:  showAny,
			write: func(l *lab.Lab, b box) string { return needs(b).Verb() + " " + showAny(l, b) },
			takes: func(tokens []text.Token) int { return upTo(tokens, "") },
			read:  func(tokens []text.Token, _ bool) (any, error) { return readAlternatives(tokens) },
			set: func(b box, v any) {
				is, _ := v.(alternativesAre)
				needs(b).Any = is.any
				if is.said {
					needs(b).Wants = is.wants
				}
			}},
		remarks(ofNeed, func(n *lab.Need) *[]string { return &n.Remarks }),
		note(ofNeed, func(n *lab.Need) *string { return &n.Notes }),
	}
}

// neededSaid is one side of a need as it is written: a name, and of which kind where that
// is said.
type neededSaid struct {
	kind lab.RecordKind // "" where any will do
	name string
}

func readNeeded(tokens []text.Token) (neededSaid, error) {
	if len(tokens) == 0 || text.IsUnknown(tokens) {
		return neededSaid{}, errors.New("name a service, a guest, a device, a pool or a dataset")
	}
	if kind := neededKinds[tokens[0].Plain]; kind != "" && tokens[0].Kind == text.Word && len(tokens) > 1 {
		return neededSaid{kind, strings.TrimSpace(text.Joined(tokens[1:]))}, nil
	}
	return neededSaid{"", strings.TrimSpace(text.Joined(tokens))}, nil
}

// alternatives are what would meet a need, as they are written.
type alternatives struct {
	any         []neededSaid
	wants, said bool // said: the line has the verb
}

type alternativesAre struct {
	any         []lab.Key
	wants, said bool
}

func readAlternatives(tokens []text.Token) (alternatives, error) {
	var a alternatives
	if at, n, wants := verbAt(append([]text.Token{{}}, tokens...)); at == 1 {
		tokens, a.wants, a.said = tokens[n:], wants, true
	}
	for {
		end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("or") })
		last := end < 0
		if last {
			end = len(tokens)
		}
		one, err := readNeeded(tokens[:end])
		if err != nil {
			return a, err
		}
		if a.any = append(a.any, one); last {
			return a, nil
		}
		tokens = tokens[end+1:]
	}
}

func (a alternatives) in(s setting) (any, error) {
	is := alternativesAre{wants: a.wants, said: a.said}
	for _, one := range a.any {
		k, err := one.in(s)
		if err != nil {
			return nil, err
		}
		is.any = append(is.any, k.(lab.Key))
	}
	return is, nil
}

func (n neededSaid) in(s setting) (any, error) {
	found := neededCalled(s, n)
	if bare := withoutArticle(n.name); len(found) == 0 && bare != n.name {
		found = neededCalled(s, neededSaid{n.kind, bare})
	}
	switch len(found) {
	case 1:
		return found[0], nil
	case 0:
		if n.kind != "" {
			return nil, noneCalled(s.lab, n.kind, n.name)
		}
		return nil, fmt.Errorf("there is no service, guest, device, pool or dataset called “%s”; a line such as service %s makes it a service",
			text.Short(n.name), text.Quote(text.Short(n.name)))
	}
	var say []string
	for _, k := range found {
		say = append(say, neededWords(s.lab, k))
	}
	return nil, mayBe(n.name, say)
}

// neededCalled are those that go by a name. Lines outside, circuits, shares and tunnels
// only do with their kind's word.
func neededCalled(s setting, n neededSaid) []lab.Key {
	var found []lab.Key
	may := func(kind lab.RecordKind) bool { return n.kind == "" || n.kind == kind }
	if id, ok := s.lab.Named(lab.KindService, n.name); ok && may(lab.KindService) {
		found = append(found, lab.Key{Kind: lab.KindService, ID: id})
	}
	if may(lab.KindDevice) {
		if id, err := s.named(lab.KindDevice, n.name); err == nil {
			found = append(found, lab.Key{Kind: lab.KindDevice, ID: id})
		}
	}
	if may(lab.KindPool) {
		for _, p := range poolsCalled(s.lab, n.name) {
			found = append(found, p.Key())
		}
	}
	if may(lab.KindDataset) {
		for _, d := range datasetsCalled(s, n.name) {
			found = append(found, d.Key())
		}
	}
	switch n.kind {
	case lab.KindLine, lab.KindCircuit, lab.KindTunnel:
		if id, ok := s.lab.Named(n.kind, n.name); ok {
			found = append(found, lab.Key{Kind: n.kind, ID: id})
		}
	case lab.KindShare:
		for share := range lab.Each[lab.NetworkShare](s.lab) {
			if lab.FoldName(share.Name) == lab.FoldName(n.name) {
				found = append(found, share.Key())
			}
		}
	}
	return found
}

// neededText is one side of a need as a line writes it, so that it is read again.
func neededText(l *lab.Lab, k lab.Key) string {
	name := nameOfNeeded(l, k)
	if found := neededCalled(settingOf(l, nil, ""), neededSaid{name: name}); len(found) == 1 && found[0] == k {
		return text.Quote(name)
	}
	return neededWords(l, k)
}

// neededWords is one with its kind before it.
func neededWords(l *lab.Lab, k lab.Key) string {
	word := k.Kind.Words()
	switch r := l.Get(k).(type) {
	case nil:
		return word
	case lab.Device:
		if r.IsGuest() {
			word = strings.ToLower(r.KindWords())
		}
	case lab.Dataset:
		return word + " " + datasetText(l, r)
	case lab.Pool:
		return word + " " + text.Quote(refsOf(l).numbered(r.Device)+"/"+r.Name)
	}
	return word + " " + text.Quote(nameOfNeeded(l, k))
}

func nameOfNeeded(l *lab.Lab, k lab.Key) string {
	switch r := l.Get(k).(type) {
	case nil:
		return ""
	case lab.Device:
		return refsOf(l).numbered(r.ID)
	default:
		return r.Title()
	}
}
