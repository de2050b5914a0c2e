package drill_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/drill"
	"levelstaff/core/labtest"
)

const two = `rack "R": 24U
10 server "anvil": runs hypervisor
12 server "thrush": runs hypervisor
on anvil: vm "a": starts 1
on anvil: vm "b": starts 2
on thrush: vm "c": starts 3
on thrush: vm "off": stopped
service "songs" in a
service "data" in b
`

// What is said to run and cannot, with why: only that which itself needs what is off, and
// not all that hangs on it.
func TestWhatLacksSomething(t *testing.T) {
	for more, want := range map[string]string{
		"":                                     "",
		`"songs" needs "off"`:                  "songs: songs needs off; off does not run",
		`"songs" wants "off"`:                  "",
		`"songs" needs "off" or "c"`:           "",
		`"a" needs "off"`:                      "a: a needs off; off does not run",
		"\"a\" needs \"b\"\n\"b\" needs \"a\"": "", // a circle holds while it runs
	} {
		var said []string
		for _, h := range drill.Of(labtest.From(t, two+more+"\n")).Lacking() {
			said = append(said, h.Title+": "+strings.Join(h.Why, "; "))
		}
		assert.Equal(t, want, strings.Join(said, ", "), more)
	}
}

// A turn before that of what is needed is told on one host, where a turn means something.
func TestWhatStartsTooEarly(t *testing.T) {
	for more, want := range map[string]string{
		"":                            "",
		`"a" needs "b"`:               "a before b",
		`"songs" needs "data"`:        "a before b",
		`"songs" needs "data" or "c"`: "",
		`"songs" wants "data"`:        "",
		`"b" needs "a"`:               "",
		`"a" needs "c"`:               "", // on another host
	} {
		var said []string
		for _, e := range drill.Of(labtest.From(t, two+more+"\n")).Early() {
			said = append(said, e.Guest.Title()+" before "+e.Needs.Title())
		}
		assert.Equal(t, want, strings.Join(said, ", "), more)
	}
}
