package rundown

import (
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// stays is whether a guest is pinned to its host.
func stays() fact {
	f := flag(ofGuest, "pinned to its host", "pinned", "pinned", []string{"stays", "stays here", "does not move", "pinned here"},
		func(d *lab.Device) *bool { return &d.Pinned })
	f.matches = func(tokens []text.Token) bool {
		return tokens[0].Is("pinned") && (len(tokens) == 1 || tokens[1].Is("to") || tokens[1].Is("on"))
	}
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) > 0 && f.matches(tokens) {
			return true, nil
		}
		return read(tokens, lax)
	}
	return f.under(Within)
}

func elsewhere() fact {
	f := choice(ofGuest, "gets elsewhere", "elsewhere", func(d *lab.Device) *lab.Elsewhere { return &d.Elsewhere }, []option[lab.Elsewhere]{
		{lab.ByHand, "moved by hand", []string{"movable", "movable by hand", "can be moved", "by hand", "moves by hand"}},
		{lab.ByItself, "restarts elsewhere", []string{"restarted elsewhere", "restarts elsewhere by itself", "restarts by itself", "by itself",
			"fails over", "moves by itself", "restarts on another host"}},
	})
	return f.optional().under(Within)
}

var ordinals = []string{"first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"}

func starts() fact {
	f := tally(ofGuest, "its turn at boot", "starts", []string{"starts", "start", "boots", "starts as"}, "starts 3", "starts %s",
		func(d *lab.Device) **int { return &d.Starts })
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) == 1 {
			if at := slices.Index(ordinals, tokens[0].Plain); at >= 0 {
				return at + 1, nil
			}
		}
		return read(tokens, lax)
	}
	return f.optional().under(Within)
}

// startsLater is how long after the one before it a guest is started: 60s after the one
// before.
func startsLater() fact {
	f := measure(ofGuest, "started after the one before", "wait_s", text.Seconds, []string{"waits", "wait", "after"}, "waits 60s", "waits %s",
		func(d *lab.Device) **float64 { return &d.WaitS })
	after := func(tokens []text.Token) int {
		q, n := text.ReadQuantity(tokens)
		if n == 0 || n == len(tokens) || !isIn(text.Seconds)(q) || !tokens[n].Is("after") && !tokens[n].Is("later") {
			return 0
		}
		return n
	}
	f.matches = func(tokens []text.Token) bool { return after(tokens) > 0 }
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if n := after(tokens); n > 0 {
			tokens = tokens[:n]
		}
		return read(tokens, lax)
	}
	return f.optional().under(Within)
}

func startsAfter() fact {
	show := func(l *lab.Lab, b box) string {
		var said []string
		for _, id := range b.(*lab.Device).After {
			said = append(said, refsOf(l).name(id))
		}
		return strings.Join(said, ", ")
	}
	f := devicesNamed(ofGuest, "started after", "starts_after_ids", []string{"starts after", "started after", "waits for", "boots after"},
		`starts after "names 1"`, show)
	f.maybe, f.group = true, Within
	f.set = func(b box, v any) {
		d := b.(*lab.Device)
		list, _ := v.([]lab.ID)
		if list == nil {
			d.After = nil
		}
		for _, id := range list {
			if !slices.Contains(d.After, id) {
				d.After = append(slices.Clone(d.After), id)
			}
		}
	}
	return f
}
