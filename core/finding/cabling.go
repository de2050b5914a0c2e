package finding

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// cablingChecks are those about ports, cables and runs.
var cablingChecks = []check{
	{"does-not-go-together", "a cable that does not fit", doesNotGoIn},
	{"mixed-fibre", "multimode and single-mode fibre in one trail", mixedFibre},
	{"too-long", "a cable too long for its speed", tooLong},
	{"held-down", "a fast port slowed down", heldDown},
	{"not-promised", "a speed that is not guaranteed", notPromised},
	{"open-end", "an open end", openEnds},
	{"loop", "a loop in the wiring", loops},
	{"run-full", "an overfilled run", fullRuns},
	{"label-twice", "a label used twice", labelsTwice},
	{"colour", "a colour against the legend", colours},
	{"faulty-lead", "a faulty lead in use", faultyLeads},
	{"too-short", "a lead that is short", tooShort},
	{"broken-port", "something in a broken port", brokenPorts},
}

// OfCabling runs the checks about cabling alone.
func OfCabling(l *lab.Lab) []Finding { return run(l, cablingChecks, "") }

func doesNotGoIn(l *lab.Lab, tell found) {
	for c := range cabling.Of(l).Plugged {
		if say, d := c.Trouble(); say != "" {
			tell(Act, say+".", *c.Cable, d)
		}
	}
}

func mixedFibre(l *lab.Lab, tell found) {
	for c := range cabling.Of(l).Plugged {
		other, at, meets := c.Meets()
		if !meets || c.ID > other.ID {
			continue // the other one tells
		}
		k, _ := cabling.KindOf(c.Kind)
		on, _ := cabling.KindOf(other.Kind)
		at.Rear = false
		tell(Act, fmt.Sprintf("%s, %s, goes on into %s, %s, at %s: single-mode and multimode fibre cannot be mixed.", l.CableWords(*c.Cable),
			k.Name, l.CableWords(other), on.Name, l.EndWords(at)), *c.Cable, other)
	}
}

// tooLong looks at whole channels: a channel's length counts every piece.
func tooLong(l *lab.Lab, tell found) {
	for r := range cabling.Of(l).Routes {
		if r.CableMb < 0 || r.CableMb > 0 && r.CableMb >= r.PortMb {
			continue
		}
		t := r.Trail()
		for _, p := range t.Pieces {
			k, known := cabling.KindOf(p.Kind)
			if !known || len(k.Carries) == 0 {
				continue
			}
			level, say := Watch, slowedBy(t, k)
			if most := k.Carries[len(k.Carries)-1].M; t.LengthM > most {
				level, say = Act, fmt.Sprintf(" is part of %s m; %s carries nothing beyond %s m", metres(t.LengthM), k.Name, metres(most))
			}
			if say != "" {
				c, _ := lab.Find[lab.Cable](l, p.Cable)
				tell(level, l.CableWords(c)+say+".", c)
				break
			}
		}
	}
}

// slowedBy says what a kind of cable would carry if its way were shorter,
// where the ports could do with it.
func slowedBy(t cabling.Trail, k cabling.Kind) string {
	s, most := t.Speed, k.Most(t.LengthM, t.Speed.RestMb)
	if s.Mb == nil || most >= s.RestMb {
		return ""
	}
	for _, r := range k.Carries {
		if r.SpeedMb > most && r.SpeedMb <= s.RestMb && r.M < t.LengthM {
			return fmt.Sprintf(": over %s m %s carries %s; %s goes %s m", metres(t.LengthM), k.Name, cabling.SpeedWords(most),
				cabling.SpeedWords(r.SpeedMb), metres(r.M))
		}
	}
	return ""
}

// metres writes a length to the centimetre.
func metres(m float64) string { return strconv.FormatFloat(math.Round(m*100)/100, 'f', -1, 64) }

// fastMb is the speed from which it is a pity to be held down.
const fastMb = 2500

func heldDown(l *lab.Lab, tell found) {
	for r := range cabling.Of(l).Routes {
		if r.Speed.Mb == nil || r.FastMb < fastMb || r.FastMb <= *r.Speed.Mb {
			continue
		}
		t := r.Trail()
		first, last := t.Stops[0], t.Stops[len(t.Stops)-1]
		c, _ := lab.Find[lab.Cable](l, t.Pieces[0].Cable)
		say := fmt.Sprintf("%s/%s to %s/%s is limited to %s by %s; one of the two ports could do %s.", first.Title, first.Port, last.Title,
			last.Port,
			t.Speed.Words(), t.Speed.HeldBy, cabling.SpeedWords(r.FastMb))
		if *r.Speed.Mb == 0 {
			say = fmt.Sprintf("%s/%s and %s/%s have no speed in common over this cable.", first.Title, first.Port, last.Title, last.Port)
		}
		tell(Watch, say, c)
	}
}

// notPromised looks at 5 Gb/s over Cat 5e: it usually works over a channel of
// 100 m, and no standard says so.
func notPromised(l *lab.Lab, tell found) {
	for r := range cabling.Of(l).Routes {
		if r.Speed.Mb == nil || *r.Speed.Mb != 5000 {
			continue
		}
		for _, p := range r.Trail().Pieces {
			if p.Kind == lab.Cat5e {
				c, _ := lab.Find[lab.Cable](l, p.Cable)
				tell(Note, fmt.Sprintf("%s is Cat 5e and carries 5 Gb/s: that usually works but is not guaranteed.", l.CableWords(c)), c)
				break
			}
		}
	}
}

func openEnds(l *lab.Lab, tell found) {
	for c := range cabling.Of(l).Plugged {
		if c.A == nil || c.B == nil {
			tell(Note, fmt.Sprintf("%s: its other end is unknown.", l.CableWords(*c.Cable)), *c.Cable)
		}
	}
}

func loops(l *lab.Lab, tell found) {
	for r := range cabling.Of(l).Routes {
		if r.Back() {
			t := r.Trail()
			first, last := t.Stops[0], t.Stops[len(t.Stops)-1]
			c, _ := lab.Find[lab.Cable](l, t.Pieces[0].Cable)
			tell(Watch, fmt.Sprintf("%s/%s leads back to %s/%s, of the same device.", first.Title, first.Port, last.Title, last.Port), c)
		}
	}
	for _, t := range cabling.Of(l).Aimless() {
		if t.End == cabling.EndsInLoop {
			c, _ := lab.Find[lab.Cable](l, t.Pieces[0].Cable)
			tell(Act, fmt.Sprintf("The wiring loops through %s/%s: %d cables that lead to no device.", t.Stops[0].Title, t.Stops[0].Port,
				len(t.Pieces)), c)
		}
	}
}

func fullRuns(l *lab.Lab, tell found) {
	w := cabling.Of(l)
	for r := range lab.Each[lab.Run](l) {
		use := w.UseOf(r)
		switch {
		case use.Over:
			tell(Act, fmt.Sprintf("%s is filled to %.1f %% by %d cables; the limit is %.0f %%.", r.Name, *use.FilledP, use.Cables, *use.MostP), r)
		case use.More != nil && *use.More == 0:
			tell(Watch, fmt.Sprintf("%s has no room for another cable: it is %.1f %% full, and the limit is %.0f %%.", r.Name, *use.FilledP,
				*use.MostP), r)
		}
	}
}

func labelsTwice(l *lab.Lab, tell found) {
	w := cabling.Of(l)
	_, n := w.Count()
	first := make(map[string]*lab.Cable, n)
	channels := w.Channels()
	for c := range w.Leads {
		if c.Label == "" {
			continue
		}
		folded := lab.FoldName(c.Label)
		if o, twice := first[folded]; twice {
			if channels.Of(*o) == channels.Of(*c.Cable) {
				continue // one label for all of it
			}
			tell(Watch, fmt.Sprintf("The label %s is on two cables: %s and %s.", c.Label, l.CableWords(lab.Cable{A: o.A, B: o.B}),
				l.CableWords(lab.Cable{A: c.A, B: c.B})), *o, *c.Cable)
			continue
		}
		first[folded] = c.Cable
	}
}

// colours holds cables against the lab's own legend. What cannot be checked is
// said once a colour.
func colours(l *lab.Lab, tell found) {
	legend := l.Settings().Legend
	if len(legend) == 0 {
		return
	}
	type entry struct {
		says   string
		checks func(lab.Cable) bool
		seen   bool
	}
	means := map[lab.Colour]*entry{}
	for _, m := range legend {
		means[m.Colour] = &entry{says: m.Means, checks: cabling.Meant(l, m.Means)}
	}
	for c := range cabling.Of(l).Plugged {
		if c.Colour == "" {
			continue
		}
		m, known := means[c.Colour]
		if !known {
			tell(Note, fmt.Sprintf("%s is %s, which is not in the legend.", l.CableWords(*c.Cable), c.Colour), *c.Cable)
			continue
		}
		if m.seen = true; m.checks != nil && !m.checks(*c.Cable) {
			tell(Watch, fmt.Sprintf("%s is %s, and %s means “%s” here.", l.CableWords(*c.Cable), c.Colour, c.Colour, m.says), *c.Cable)
		}
	}
	var open []string
	for _, m := range legend {
		if e := means[m.Colour]; e.seen && e.checks == nil {
			open = append(open, fmt.Sprintf("%s (“%s”)", m.Colour, m.Means))
		}
	}
	if len(open) > 0 {
		tell(Note, "Cables are not checked for a colour that names no device, place or kind: "+strings.Join(open, ", ")+".", l.Settings())
	}
}

func faultyLeads(l *lab.Lab, tell found) {
	for c := range cabling.Of(l).Plugged {
		if c.State == lab.CableFaulty {
			tell(Act, fmt.Sprintf("%s is faulty and still plugged in.", l.CableWords(*c.Cable)), *c.Cable)
		}
	}
}

func tooShort(l *lab.Lab, tell found) {
	for c := range cabling.Of(l).Plugged {
		should, how := c.Short()
		switch how {
		case cabling.LongEnough:
			continue
		case cabling.ShortOfSlack:
			tell(Note, fmt.Sprintf("%s is %s m long: it reaches, and with the slack asked for here it would be %.2f m.", l.CableWords(*c.Cable),
				metres(*c.LengthM), should.NeedM), *c.Cable)
			continue
		}
		say := fmt.Sprintf("%s is %s m long", l.CableWords(*c.Cable), metres(*c.LengthM))
		switch {
		case should.From == "run":
			r, _ := lab.Find[lab.Run](l, c.Run)
			say += fmt.Sprintf(", and %s, where it lies, is %s m", r.Name, metres(should.NeedM))
		case should.StockM != nil:
			say += fmt.Sprintf(" and needs %.2f m with its bends and slack; the next length sold is %s m", should.NeedM, metres(*should.StockM))
		default:
			say += fmt.Sprintf(" and needs %.2f m with its bends and slack", should.NeedM)
		}
		tell(Watch, say+".", *c.Cable)
	}
}

func brokenPorts(l *lab.Lab, tell found) {
	for d := range lab.Things(l) {
		for _, m := range d.Marks {
			if !m.Broken {
				continue
			}
			for _, rear := range []bool{false, true} {
				if c, in := l.CableAt(lab.End{Device: d.ID, Port: m.Port, Rear: rear}); in {
					tell(Act, fmt.Sprintf("Port %s of %s is broken, and %s is plugged into it.", m.Port, d.Title(), l.CableWords(c)), d, c)
				}
			}
		}
	}
}
