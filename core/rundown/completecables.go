package rundown

import (
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// cables offers how a cable's line may go on: devices after what joins the
// ends, the free ports of the device before the slash, then what the last cable
// between the two devices is. It reports whether the line is one of a cable.
func (c *completer) cables(tokens []text.Token) bool {
	partial, from := c.partial, c.from
	all := tokens
	if partial != "" {
		all = append(slices.Clone(tokens), text.Token{Kind: text.Word, Text: partial, Plain: text.Plain(partial), Col: from, End: c.end})
	}
	a, n, err := readEnd(all)
	joined := err == nil && n > 0 && n < len(all) && all[n].Kind == text.Word && joins[all[n].Text]
	rest := all
	if joined {
		rest = all[n+1:]
	}
	if name, typed, ok := beforeSlash(rest); ok && partial != "" {
		return c.freePorts(name, typed, joined && all[n].Text == "=")
	}
	if !joined {
		return false
	}
	b, m, err := readEnd(rest)
	if err == nil && m == 0 {
		c.devices(rest)
	}
	if err != nil || m == 0 || m < len(rest) || partial != "" {
		return true
	}
	for _, e := range []*endSaid{&a, &b} {
		e.rear = e.rear || !e.said && all[n].Text == "="
	}
	c.likeTheLast(a, b)
	return true
}

// devices offers the devices that are called as the words begin, each with the
// slash that its port goes behind.
func (c *completer) devices(words []text.Token) {
	if len(words) == 0 {
		return
	}
	typed := lab.FoldName(text.Joined(words))
	for d := range lab.Things(c.lab) {
		if len(c.list) == mostCompletions {
			return
		}
		if !d.Kind.Traits().Portless && strings.HasPrefix(lab.FoldName(d.Title()), typed) {
			c.add(words[0].Col, refsOf(c.lab).name(d.ID)+"/", KindText(d.Kind))
		}
	}
}

// beforeSlash is the device's name and what of the port's is typed, where the
// last of the tokens is being typed.
func beforeSlash(tokens []text.Token) (name, typed string, ok bool) {
	if len(tokens) == 0 || tokens[len(tokens)-1].Kind != text.Word {
		return "", "", false
	}
	last := tokens[len(tokens)-1].Text
	device, typed, ok := strings.Cut(last, "/")
	if !ok {
		return "", "", false
	}
	words := []string{}
	for _, t := range tokens[:len(tokens)-1] {
		words = append(words, t.Text)
	}
	if device != "" {
		words = append(words, device)
	}
	return strings.Join(words, " "), typed, true
}

func (c *completer) freePorts(name, typed string, rear bool) bool {
	l := c.lab
	id, err := refsOf(l).find(l, name)
	if err != nil {
		return false
	}
	d, _ := lab.Find[lab.Device](l, id)
	ports := l.PortsOf(d)
	for i := range ports.Len() {
		key := ports.Key(i)
		e := lab.End{Device: id, Port: key, Rear: rear && ports.Joined()}
		if _, taken := l.CableAt(e); taken || !strings.HasPrefix(lab.FoldName(key), lab.FoldName(typed)) || key == typed {
			continue
		}
		c.add(c.end-len([]rune(typed)), key+" ", "free, "+ports.At(i).Connector)
	}
	return true
}

// likeTheLast offers the facts of the latest cable between the same devices.
func (c *completer) likeTheLast(a, b endSaid) {
	l := c.lab
	r := refsOf(l)
	one, errA := r.find(l, a.device)
	two, errB := r.find(l, b.device)
	if errA != nil || errB != nil {
		return
	}
	for _, cable := range slices.Backward(l.CablesOf(one)) {
		ends := cable.Ends()
		if len(ends) < 2 || ends[0].Device != two && ends[1].Device != two || ends[0].Rear != a.rear && ends[1].Rear != b.rear {
			continue
		}
		cable.Label, cable.Notes, cable.State = "", "", lab.CableInUse
		if text := strings.TrimSpace(cableFactsText(l, cable)); text != "" {
			c.add(c.end, strings.TrimPrefix(" ", c.typed[len(c.typed)-1:])+text, "as "+l.CableWords(lab.Cable{A: cable.A, B: cable.B}))
			return
		}
	}
}
