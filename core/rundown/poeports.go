package rundown

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// poeOn is what some of the ports give over the network, as it is told after all of them:
// 8 ports 1G, ports 1-4 poe.
type poeOn struct{ first, last, typ int }

// amends: it says something of the ports there are.
func (poeOn) amends() {}

// withPoE lets the fact of the ports read which of them give power.
func withPoE[R any](f fact, at func(*R) *[]lab.PortGroup) fact {
	matches, read, set := f.matches, f.read, f.set
	f.matches = func(tokens []text.Token) bool {
		_, is := readPoEOn(tokens)
		return is || matches(tokens)
	}
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		on, is := readPoEOn(tokens)
		switch {
		case !is:
			return read(tokens, lax)
		case on.first < 1 || on.last < on.first || on.last > maxPorts:
			return nil, fmt.Errorf("ports are numbered from 1 to %d, such as ports 1-4 poe", maxPorts)
		}
		return on, nil
	}
	f.set = func(b box, v any) {
		if on, is := v.(poeOn); is {
			list := at(b.(*R))
			*list = on.put(*list)
			return
		}
		set(b, v)
	}
	return f
}

// maxPorts is the highest number that is looked for.
const maxPorts = 9999

// readPoEOn reads: port 3 poe; ports 1-4 poe+; ports 1 to 4 are poe.
func readPoEOn(tokens []text.Token) (on poeOn, is bool) {
	if len(tokens) < 3 || !tokens[0].Is("port") && !tokens[0].Is("ports") {
		return on, false
	}
	span, what := tokens[1].Text, tokens[2:]
	if len(what) > 2 && what[0].Is("to") {
		span, what = span+"-"+what[1].Text, what[2:]
	}
	if what[0].Is("are") || what[0].Is("is") || what[0].Is("have") || what[0].Is("has") || what[0].Is("with") {
		what = what[1:]
	}
	said := text.Plainly(what)
	typ := strings.TrimPrefix(said, "poe ")
	first, last, ranged := strings.Cut(span, "-")
	var errFirst, errLast error
	on.first, errFirst = strconv.Atoi(first)
	if on.last = on.first; ranged {
		on.last, errLast = strconv.Atoi(last)
	}
	on.typ, is = poeTypes[typ]
	return on, is && strings.HasPrefix(said, "poe") && errFirst == nil && errLast == nil
}

// put is the list of ports with those giving power apart; ports that nobody has told of
// are there then.
func (on poeOn) put(groups []lab.PortGroup) []lab.PortGroup {
	var list []lab.PortGroup
	add := func(g lab.PortGroup, from, to, typ int) {
		if g.Count, g.PoEOut = to-from+1, typ; g.Count > 0 {
			list = append(list, g)
		}
	}
	next, more := 1, lab.PortGroup{}
	for _, g := range groups {
		if g.Name != "" || g.Connector != "" && lab.FamilyOf(g.Connector) != lab.Copper {
			list = append(list, g)
			continue
		}
		from := next
		if g.First > 0 || g.ZeroBased {
			from = g.First
		}
		next, more.Connector = from+g.Count, g.Connector
		low, high := max(from, on.first), min(next-1, on.last)
		if low > high {
			list = append(list, g)
			continue
		}
		add(g, from, low-1, g.PoEOut)
		rest := g
		if low > from {
			rest.First, rest.ZeroBased = 0, false
		}
		add(rest, low, high, on.typ)
		rest.First, rest.ZeroBased = 0, false
		add(rest, high+1, next-1, g.PoEOut)
	}
	add(more, next, on.first-1, 0)
	add(more, max(next, on.first), on.last, on.typ)
	return slices.Clip(list)
}
