package rundown

import (
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
)

// cables writes every cable, by the device of its first end in print order;
// alike leads of the spares bin in one line.
func (p *printer) cables(lineKind) {
	var lines []string
	for c := range lab.Each[lab.Cable](p.lab) {
		if c.State == lab.CableSpare && c.Label == "" {
			continue
		}
		lines = append(lines, CableLine(p.lab, c))
	}
	lines = append(lines, p.bin()...)
	if len(lines) > 0 {
		p.blank()
		p.b.WriteString(strings.Join(lines, "\n") + "\n")
	}
}

// CableLine is a cable as a line of the rundown.
func CableLine(l *lab.Lab, c lab.Cable) string {
	rears, fronts := 0, 0
	for _, e := range c.Ends() {
		d, _ := lab.Find[lab.Device](l, e.Device)
		switch {
		case e.Rear:
			rears++
		case l.PortsOf(d).Joined():
			fronts++
		}
	}
	join := " - "
	if rears > 0 && fronts == 0 {
		join = " = "
	}
	end := func(e *lab.End) string {
		if e != nil && join == " = " {
			return refsOf(l).text(*e)
		}
		return EndText(l, e)
	}
	return end(c.A) + join + end(c.B) + cableFactsText(l, c)
}

func cableFactsText(l *lab.Lab, c lab.Cable) string {
	b := open(c)
	text := ""
	for i, f := range factsOf(ofCable) {
		if s := f.say(l, b); s != "" && !(f.field == "state" && c.State == lab.CableSpare && c.A == nil && c.B == nil && c.Label == "") {
			const close = 3 // length, colour and kind are spoken in one breath
			if i >= close {
				text += ","
			}
			text += " " + s
		}
	}
	if c.Notes != "" && isComment(c.Notes) {
		text += "  # " + c.Notes
	}
	return text
}

func (p *printer) bin() []string {
	count := map[string]int{}
	var alike []string
	for c := range lab.Each[lab.Cable](p.lab) {
		if c.State == lab.CableSpare && c.Label == "" {
			text := cableFactsText(p.lab, c)
			if count[text]++; count[text] == 1 {
				alike = append(alike, text)
			}
		}
	}
	slices.Sort(alike)
	var lines []string
	for _, text := range alike {
		for n := count[text]; n > 0; n -= 512 {
			many := ""
			if n > 1 {
				many = strconv.Itoa(min(n, 512)) + "x "
			}
			lines = append(lines, "spare "+many+"lead"+text)
		}
	}
	return lines
}
