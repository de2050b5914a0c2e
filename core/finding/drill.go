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

func startsEarly(l *lab.Lab, tell found) {
	for _, e := range drill.Of(l).Early() {
		tell(Watch, fmt.Sprintf("%s starts in turn %d, before %s in turn %d, which it needs.", e.Guest.Title(), *e.Guest.Starts, e.Needs.Title(),
			*e.Needs.Starts), e.Guest.Device, e.Needs.Device)
	}
}
