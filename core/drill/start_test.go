package drill_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// The order and the seconds worked out by hand: silo before what has its disk there, turns
// on one host, a wait for another guest, and a turn that needs overrule.
func TestInWhichOrderADarkLabStarts(t *testing.T) {
	const hosts = `rack "R": 24U
8 nas "silo": 4 bays 3.5in, 4x 8TB hdd
10 server "anvil": runs hypervisor
12 server "thrush": runs hypervisor
pool "hold" on silo: raid 5
`
	for name, c := range map[string]struct{ more, want, stuck string }{
		"turns, and seconds after the one before": {`on anvil: vm "third": starts 3, 60s after the one before
on anvil: vm "first": starts 1, 10s after the one before
on anvil: vm "second": starts 2, 20s after the one before
on anvil: vm "whenever"
`, "silo 0, anvil 0, first 10, second 30, third 90, whenever 0", ""},
		"one waits for a guest of another host": {`on anvil: vm "books": starts after "base", 5s after the one before
on thrush: vm "base": starts 1, 30s after the one before
`, "silo 0, anvil 0, thrush 0, base 30, books 35", ""},
		"a turn waits for what is not ready yet": {`on anvil: vm "first": starts 1
on anvil: vm "second": starts 2, 10s after the one before
on thrush: vm "base": 60s after the one before
"first" needs "base"
`, "silo 0, anvil 0, thrush 0, base 60, first 60, second 70", ""},
		"a need overrules a turn": {`on anvil: vm "eager": starts 1
on anvil: vm "base": starts 2, 30s after the one before
"eager" needs "base"
`, "silo 0, anvil 0, base 30, eager 30", ""},
		"a circle never starts": {`on anvil: vm "a"
on anvil: vm "b"
on anvil: vm "c"
"a" needs "b"
"b" needs "a"
"c" needs "a" or "anvil"
`, "silo 0, anvil 0, c 0", "a, b"},
		"what needs something that is off does not run now": {`on anvil: vm "a"
on anvil: vm "off": stopped
"a" needs "off"
`, "silo 0, anvil 0", ""},
	} {
		start := drill.Of(labtest.From(t, hosts+c.more)).Start()
		var steps, stuck []string
		for _, s := range start.Steps {
			steps = append(steps, fmt.Sprintf("%s %g", s.Title, s.After))
		}
		for _, h := range start.Stuck {
			stuck = append(stuck, h.Title)
		}
		want := strings.Split(c.want, ", ")
		slices.Sort(steps[min(3, len(steps)):])
		slices.Sort(want[min(3, len(want)):])
		assert.Equal(t, want, steps, name)
		assert.Equal(t, c.stuck, strings.Join(stuck, ", "), name)
	}
}

// A machine comes after those that what runs on it needs, whichever of its guests that is,
// and is not held up by what has an alternative. Of two that hold each other up neither does.
func TestTurnsOfMachines(t *testing.T) {
	l := labtest.From(t, `rack "R": 24U
8 nas "silo": 4 bays 3.5in, 4x 8TB hdd
10 server "anvil": runs hypervisor
12 server "thrush": runs hypervisor
14 server "bench": runs hypervisor
16 server "spare": resting
pool "hold" on silo: raid 5
on thrush: vm "base": 8GB on hold
on anvil: vm "books"
on anvil: vm "mail"
service "shelf": in books
"shelf" needs "base"
on bench: vm "films"
on bench: vm "songs"
"films" needs "mail" or "base"
"songs" needs "mail"
"mail" needs "songs"
`)
	turns := map[string]int{}
	for id, turn := range drill.Of(l).Turns() {
		turns[drill.Of(l).Title(lab.Key{Kind: lab.KindDevice, ID: id})] = turn
	}
	assert.Equal(t, map[string]int{"silo": 1, "thrush": 2, "anvil": 3, "bench": 1, "spare": 1}, turns)
}

// Of guests that need each other as chance has it: none starts before what it needs, and
// without the needs that circles are cut at all of them start.
func TestStartsAndCirclesOfAnyNeeds(t *testing.T) {
	r := rand.New(rand.NewPCG(24, 1))
	const guests, tries = 7, 150
	for range tries {
		text := "rack \"R\": 9U\n3 server \"anvil\": runs hypervisor\n"
		for i := range guests {
			text += fmt.Sprintf("on anvil: vm \"g%d\": starts %d\n", i, 1+r.IntN(guests))
		}
		needs := map[string]bool{}
		for range r.IntN(12) {
			if a, b := r.IntN(guests), r.IntN(guests); a != b {
				needs[fmt.Sprintf("\"g%d\" needs \"g%d\"\n", a, b)] = true
			}
		}
		var lines []string
		for line := range needs {
			lines = append(lines, line)
		}
		slices.Sort(lines)
		l := labtest.From(t, text+strings.Join(lines, ""))
		w := drill.Of(l)
		at := map[lab.Key]int{}
		for i, s := range w.Start().Steps {
			at[s.Key] = i + 1
		}
		for n := range lab.Each[lab.Need](l) {
			if at[*n.Of] > 0 {
				assert.Greater(t, at[*n.Of], at[n.Any[0]], "it is started after what it needs")
				assert.NotZero(t, at[n.Any[0]])
			}
		}
		circles := w.Circles()
		assert.Equal(t, len(circles) > 0, len(w.Start().Stuck) > 0, "what never starts is kept down by a circle: %s", lines)
		for _, c := range circles {
			for i, k := range c.Keys {
				next := c.Titles[(i+1)%len(c.Keys)]
				assert.Contains(t, lines, fmt.Sprintf("%q needs %q\n", w.Title(k), next), "each of a circle needs the next")
			}
			lines = slices.DeleteFunc(lines, func(line string) bool {
				of, by, _ := strings.Cut(strings.NewReplacer("\"", "", "\n", "").Replace(line), " needs ")
				return strings.HasPrefix(c.Cut, "let "+of+" start without "+by+":")
			})
		}
		opened := drill.Of(labtest.From(t, text+strings.Join(lines, "")))
		assert.Empty(t, opened.Circles(), "cut where each says, no circle is left")
		assert.Empty(t, opened.Start().Stuck)
	}
}
