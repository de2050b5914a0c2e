package rundown

import (
	"slices"

	"levelstaff/core/text"
)

// restated are the lines that one stands for which says several things, or says
// one the other way round; nil for any other line:
//
//	vlans 10 office, 20 shop
//	name servers of vlan 10: finch, gate
//	finch and gate are the name servers of vlan 10
//	open "fibre line": none
//	remote access "phones": into finch, reaches servers
//	gull 10.7.0.11, tern 10.7.0.12
//	anvil needs a new fan
//	library.quarry.home.arpa -> library:8080
func restated(tokens []text.Token) [][]text.Token {
	for _, say := range []func([]text.Token) [][]text.Token{severalVLANs, nameServersOf, areNameServersOf, nothingOpen, reaching,
		severalAddresses, needsAHand, dottedName} {
		if list := say(tokens); list != nil {
			return list
		}
	}
	return nil
}

// severalVLANs are VLANs on one line.
func severalVLANs(tokens []text.Token) [][]text.Token {
	if !tokens[0].Is("vlans") {
		return nil
	}
	word := tokens[0]
	word.Text, word.Plain = "vlan", "vlan"
	var list [][]text.Token
	for phrase := range text.Cut(tokens[1:]) {
		if !isVLANs(phrase[0]) {
			return nil
		}
		list = append(list, append([]text.Token{word}, phrase...))
	}
	return list
}

// asWord is a word at a token's place.
func asWord(at text.Token, w string) text.Token {
	return text.Token{Kind: text.Word, Text: w, Plain: w, Col: at.Col, End: at.End}
}

// nameServersOf says of a VLAN or a subnet what its name servers are.
func nameServersOf(tokens []text.Token) [][]text.Token {
	const words = 3 // name servers of
	of := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("of") || t.Is("for") })
	end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator && t.Text == ":" })
	and := slices.IndexFunc(tokens[:max(end, 0)], func(t text.Token) bool { return t.Is("and") || t.Kind == text.Separator })
	if of == words-1 && and > words && and < end-1 { // of office, visitors and dome: of each
		return slices.Concat(nameServersOf(slices.Concat(tokens[:and], tokens[end:])),
			nameServersOf(slices.Concat(tokens[:words], tokens[and+1:])))
	}
	if of != words-1 || end <= words || end == len(tokens)-1 || plainWords(tokens[:2]) != "name servers" &&
		plainWords(tokens[:2]) != "name server" {
		return nil
	}
	whose := slices.Clone(tokens[words:end])
	switch {
	case namesPrefix(append([]text.Token{{}}, whose...)):
		whose = append([]text.Token{asWord(whose[0], "subnet")}, whose...)
	case isVLANs(whose[0]):
		whose = append([]text.Token{asWord(whose[0], "vlan")}, whose...)
	}
	said := append(whose, tokens[end], asWord(tokens[0], "name"), asWord(tokens[1], "servers"))
	for i, t := range tokens[end+1:] {
		if t.Kind == text.Separator { // or else what follows would be a fact of its own
			t = asWord(t, "and")
		}
		if i > 0 || !t.Is("and") {
			said = append(said, t)
		}
	}
	return [][]text.Token{said}
}

// areNameServersOf says the same with the name servers first.
func areNameServersOf(tokens []text.Token) [][]text.Token {
	are := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Is("are") || t.Is("is") })
	if are < 1 {
		return nil
	}
	what := tokens[are+1:]
	for len(what) > 0 && (what[0].Is("the") || what[0].Is("a")) {
		what = what[1:]
	}
	const least = 4 // name servers of 10
	if len(what) < least || slices.ContainsFunc(what, func(t text.Token) bool { return t.Kind == text.Separator }) {
		return nil
	}
	colon := text.Token{Kind: text.Separator, Text: ":", Col: tokens[are].Col, End: tokens[are].End}
	return nameServersOf(slices.Concat(what, []text.Token{colon}, tokens[:are]))
}

// opensLine reports whether a line is about what is open on a line to the outside.
func opensLine(tokens []text.Token) bool {
	return len(tokens) > 2 && slices.ContainsFunc(tokens[2:], func(t text.Token) bool {
		return t.Is("tcp") || t.Is("udp") || t.Is("port") || t.Is("ports")
	})
}

// nothingOpen says of a line to the outside that nothing is open on it.
func nothingOpen(tokens []text.Token) [][]text.Token {
	end := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Separator })
	const least = 4 // open, the line, a colon, none
	if len(tokens) < least || !tokens[0].Is("open") || end < 2 || end != len(tokens)-2 || !tokens[end+1].Is("none") &&
		!tokens[end+1].Is("nothing") {
		return nil
	}
	line := asWord(tokens[0], "line")
	said := append([]text.Token{line}, tokens[1:end+1]...)
	return [][]text.Token{append(said, asWord(tokens[end+1], "nothing"), asWord(tokens[end+1], "open"))}
}

// reaching says of a remote access what it reaches, which is a rule of its own.
func reaching(tokens []text.Token) [][]text.Token {
	const words = 2 // remote access
	if len(tokens) <= words || plainWords(tokens[:words]) != "remote access" {
		return nil
	}
	name := tokens[words:]
	if end := slices.IndexFunc(name, func(t text.Token) bool { return t.Kind == text.Separator }); end >= 0 {
		name = name[:end]
	}
	if name[0].Kind == text.Quoted {
		name = name[:1]
	}
	var rules [][]text.Token
	own := slices.Clone(tokens[:words+len(name)])
	rest := tokens[len(own):]
	for i := 0; i < len(rest); {
		end := i + 1
		for end < len(rest) && rest[end].Kind != text.Separator {
			end++
		}
		phrase := rest[i:end]
		if phrase[0].Kind == text.Separator {
			phrase = phrase[1:]
		}
		switch {
		case len(phrase) > 1 && (phrase[0].Is("reaches") || phrase[0].Is("to")):
			for one := range text.Cut(withCommas(phrase[1:])) {
				rule := append([]text.Token{asWord(tokens[0], "from"), asWord(tokens[0], "remote"), asWord(tokens[1], "access")}, name...)
				rule = append(append(rule, asWord(phrase[0], "to")), one...)
				rules = append(rules, append(rule, text.Token{Kind: text.Separator, Text: ":", Col: phrase[0].Col, End: phrase[0].End},
					asWord(phrase[0], "all")))
			}
		default:
			own = append(own, rest[i:end]...)
		}
		i = end
	}
	if rules == nil {
		return nil
	}
	return append([][]text.Token{own}, rules...)
}

// withCommas are words with a comma for each and.
func withCommas(tokens []text.Token) []text.Token {
	tokens = slices.Clone(tokens)
	for i, t := range tokens {
		if t.Is("and") {
			tokens[i] = text.Token{Kind: text.Separator, Text: ",", Col: t.Col, End: t.End}
		}
	}
	return tokens
}

// severalAddresses are devices and their addresses on one line.
func severalAddresses(tokens []text.Token) [][]text.Token {
	var list [][]text.Token
	for piece := range text.Cut(tokens) {
		if at := slices.IndexFunc(piece, looksLikeIP); at < 1 || at != len(piece)-1 || piece[0].Is("address") || piece[0].Is("gateway") ||
			readAddressOf(piece) == nil {
			return nil
		}
		list = append(list, piece)
	}
	if len(list) < 2 {
		return nil
	}
	return list
}
