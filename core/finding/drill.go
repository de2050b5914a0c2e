package finding

import (
	"fmt"
	"strings"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
)

// needChecks are those about what needs what, over all layers.
var needChecks = []check{
	{"needs-circle", "a circle that keeps a dark lab from starting", needsCircle},
	{"needs-off", "something that needs what does not run", needsOff},
	{"household-one-leg", "a household's service with no stand-by", householdOnOneLeg},
	{"starts-early", "a guest that starts before one that it needs", startsEarly},
}

func needsCircle(l *lab.Lab, tell found) {
	for _, c := range drill.Of(l).Circles() {
		var about []lab.Record
		for _, k := range c.Keys {
			about = append(about, l.Get(k))
		}
		say := fmt.Sprintf("From dark this does not start: %s.", strings.Join(c.Says, ", and "))
		if c.Cut != "" {
			say += " To open the circle, " + c.Cut + "."
		}
		tell(Act, say, about...)
	}
}

func needsOff(l *lab.Lab, tell found) {
	for _, h := range drill.Of(l).Lacking() {
		tell(Watch, fmt.Sprintf("%s is said to run, and cannot: %s.", h.Title, strings.Join(h.Why, "; ")), l.Get(h.Key))
	}
}

// householdOnOneLeg tells once of all services that some one thing takes down, and which one
// takes down most of them.
func householdOnOneLeg(l *lab.Lab, tell found) {
	w := drill.Of(l)
	legs, of := w.OnOneLeg()
	if len(legs) == 0 {
		return
	}
	var names []string
	var about []lab.Record
	for _, v := range legs {
		names, about = append(names, v.Title()), append(about, v)
	}
	worst := w.WorstLeg()
	if len(legs) == 1 {
		tell(Note, fmt.Sprintf("%s, which the household lives with, has no stand-by for some one thing, such as %s.", names[0], worst.Title),
			about...)
		return
	}
	tell(Note, fmt.Sprintf("%d of %d of the household's services have no stand-by for some one thing: %s. Without %s %d of them stop.",
		len(legs), of, lab.Listed(names, 5), worst.Title, worst.Household), about...)
}

func startsEarly(l *lab.Lab, tell found) {
	for _, e := range drill.Of(l).Early() {
		tell(Watch, fmt.Sprintf("%s starts in turn %d, before %s in turn %d, which it needs.", e.Guest.Title(), *e.Guest.Starts, e.Needs.Title(),
			*e.Needs.Starts), e.Guest.Device, e.Needs.Device)
	}
}
