package reach

import (
	"cmp"
	"fmt"
	"slices"

	"levelstaff/core/lab"
)

// notSaid is the order of a line of which nobody said when it is used.
const notSaid = 0

// findLines finds the lines of this house, those first that are used first, and what
// they go into: a router, or one behind a modem.
func (r *Routing) findLines() {
	for w := range lab.Each[lab.Line](r.lab) {
		if w.Site == "" {
			r.lines = append(r.lines, w)
		}
	}
	for _, w := range r.lines {
		for _, i := range r.behind(w) {
			if r.routers[i].Virtual.ID == "" {
				r.into[w.ID] = append(r.into[w.ID], i)
			}
		}
	}
	slices.SortStableFunc(r.lines, func(a, b lab.Line) int {
		x, y := r.Order(a), r.Order(b)
		if (x == notSaid) != (y == notSaid) {
			return y - x // what is not said comes last
		}
		return cmp.Compare(x, y)
	})
}

// behind are the routers that a line leads to.
func (r *Routing) behind(w lab.Line) []int {
	if w.Device == "" {
		return nil
	}
	if list := r.on[w.Device]; len(list) > 0 {
		return list
	}
	var list []int
	d, _ := lab.Find[lab.Device](r.lab, w.Device)
	host, _ := r.lab.HostOf(d)
	for _, i := range r.linksOf(w.Device) {
		l := r.net.Links()[i]
		a, b := r.net.Wiring().DeviceAt(l.A.Device), r.net.Wiring().DeviceAt(l.B.Device)
		if a.ID == host.ID {
			a = b
		}
		list = append(list, r.on[a.ID]...)
	}
	return list
}

// Lines are the lines of this house, in the order in which they are used.
func (r *Routing) Lines() []lab.Line { return r.lines }

// Order is when a line is used: 1 for first, and so on; 0 where that is not said. One
// that is used when the others fail comes after them; the only one there is is first.
func (r *Routing) Order(w lab.Line) int {
	w = r.leading(w)
	if n, numbered := numbers[w.Order]; numbered {
		return n
	}
	house, last := 0, 1
	for o := range lab.Each[lab.Line](r.lab) {
		if o.Site == "" {
			house++
			last = max(last, numbers[r.leading(o).Order])
		}
	}
	switch {
	case w.Order == lab.IfItFails:
		return last + 1
	case house == 1 && w.Site == "":
		return 1
	}
	return notSaid
}

var numbers = map[lab.LineOrder]int{lab.FirstLine: 1, lab.SecondLine: 2, lab.ThirdLine: 3}

// leading is the line whose order a line has: the one that it is used together with.
func (r *Routing) leading(w lab.Line) lab.Line {
	for range mostHops {
		with, ok := lab.Find[lab.Line](r.lab, w.With)
		if !ok {
			break
		}
		w = with
	}
	return w
}

// Left is what there is without a line.
type Left struct {
	Lines  []lab.Line // those that carry then; none where nothing does
	DownMb *int       // together; nil while one of them is unknown, or which of them carry
	UpMb   *int
}

// Without is what is left when a line is out, or when none is for "".
func (r *Routing) Without(gone lab.ID) Left {
	var list []lab.Line
	for _, w := range r.lines {
		if w.ID != gone && w.Out != lab.LineOut {
			list = append(list, w)
		}
	}
	if len(list) == 0 {
		none := 0
		return Left{DownMb: &none, UpMb: &none}
	}
	first := r.Order(list[0])
	if first == notSaid && len(list) > 1 {
		return Left{Lines: list}
	}
	left := Left{}
	down, up, known, knownUp := 0, 0, true, true
	for _, w := range list {
		if r.Order(w) != first {
			continue
		}
		left.Lines = append(left.Lines, w)
		if w.DownMb == nil {
			known = false
		} else {
			down += *w.DownMb
		}
		if w.UpMb == nil {
			knownUp = false
		} else {
			up += *w.UpMb
		}
	}
	if known {
		left.DownMb = &down
	}
	if knownUp {
		left.UpMb = &up
	}
	return left
}

// Instead are the ends that can be reached from outside: lines with an address of
// their own, of this house or elsewhere.
func (r *Routing) Instead() []lab.Line {
	var list []lab.Line
	for w := range lab.Each[lab.Line](r.lab) {
		if (w.Address == lab.FixedLine || w.Address == lab.PublicLine) && w.Out != lab.LineOut {
			list = append(list, w)
		}
	}
	return list
}

// ComesIn is whether something outside can begin to reach this house: over a line
// whose address is its own, or one of which that is not said.
func (r *Routing) ComesIn() (ok bool, why string) {
	is := r.comesIn()
	return is.ok, is.why
}

func (r *Routing) comesIn() outcome {
	shared := ""
	for _, w := range r.lines {
		switch {
		case w.Out == lab.LineOut:
		case w.Address == lab.SharedLine:
			shared = cmp.Or(shared, w.Title())
		default:
			return outcome{ok: true}
		}
	}
	if shared == "" {
		return no("there is no line outside")
	}
	why := "the address of " + shared + " is shared by the provider, so nothing outside can begin"
	for _, w := range r.Instead() {
		if w.Site != "" {
			return no("%s; begin from inside: %s at %s has an address of its own", why, w.Title(), w.Site)
		}
	}
	return no("%s; a tunnel has to begin from inside", why)
}

// WithoutWords says what everybody gets while a line is out, and which caps still hold.
func (r *Routing) WithoutWords(w lab.Line) string {
	left := r.Without(w.ID)
	switch {
	case len(left.Lines) == 0:
		return "Without " + w.Title() + " nothing gets outside."
	case r.Order(left.Lines[0]) == notSaid && len(left.Lines) > 1:
		return "Without " + w.Title() + " it is not said which of the others carries."
	}
	var names []string
	for _, o := range left.Lines {
		names = append(names, o.Title())
	}
	say := "Without " + w.Title() + " everybody shares " + lab.Listed(names, len(names))
	if left.DownMb != nil {
		say += fmt.Sprintf(", %d Mb/s down", *left.DownMb)
	} else {
		say += ", of unknown speed"
	}
	var keep []string
	for _, rule := range r.caps() {
		if left.DownMb != nil && *rule.DownMb < *left.DownMb {
			keep = append(keep, fmt.Sprintf("%s at most %d", r.lab.EndpointWords(*rule.From), *rule.DownMb))
		}
	}
	if len(keep) > 0 {
		say += "; " + lab.Listed(keep, len(keep))
	}
	var lost []string
	for _, rule := range r.bound(w.ID) {
		lost = append(lost, r.lab.EndpointWords(*rule.From))
	}
	if len(lost) > 0 {
		say += "; " + lab.Listed(lost, len(lost)) + " may take " + w.Title() + " only, and gets nothing"
	}
	return say + "."
}

// caps are the rules to the outside that cap what may be received.
func (r *Routing) caps() []lab.Rule {
	return r.toInternet(func(rule lab.Rule) bool { return rule.DownMb != nil })
}

// bound are the rules to the outside that may take one line only.
func (r *Routing) bound(line lab.ID) []lab.Rule {
	return r.toInternet(func(rule lab.Rule) bool { return rule.Only == line })
}

func (r *Routing) toInternet(is func(lab.Rule) bool) []lab.Rule {
	var list []lab.Rule
	for rule := range lab.Each[lab.Rule](r.lab) {
		if rule.From != nil && rule.To != nil && rule.To.Kind == lab.Internet && rule.Says != lab.ReachNone && is(rule) {
			list = append(list, rule)
		}
	}
	return list
}
