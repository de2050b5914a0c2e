package cabling_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

func TestAReplacedSwitchKeepsItsCablesByPort(t *testing.T) {
	l := labtest.From(t, house+"? switch \"small\": takes 1U, 8 ports rj45 1G/2.5G, 1 ports sfp+ 10G\ncore/1 - PP1/1\ncore/9 - "+
		"PP1/9\ncore/s1 - anvil/s1\nsmall/2 - ap/1\ncore/2 - silo/2\n")
	old, _ := lab.Find[lab.Device](l, at(t, l, "core", "1").Device)
	by, _ := lab.Find[lab.Device](l, at(t, l, "small", "1").Device)
	changes, carried := cabling.Replace(l, old, by)
	next, err := l.Apply(changes)
	require.NoError(t, err)
	var said []string
	for _, c := range carried {
		said = append(said, c.From+">"+c.To+c.Why)
	}
	assert.Equal(t, []string{"1>1", "9>small has no port 9", "s1>s1", "2>port 2 of small is taken"}, said)
	in, _ := lab.Find[lab.Device](next, by.ID)
	assert.Equal(t, old.At, in.At)
	assert.Equal(t, "small/1 PP1/1", words(trail(t, next, "PP1", "1")))
	back, err := next.Apply(lab.Invert(changes))
	require.NoError(t, err)
	assert.Equal(t, l.All(), back.All())
}

// A transceiver goes along with its cable, into a cage that is free; what is
// faulty is no spare because something better took its place.
func TestAReplacedSwitchHandsItsTransceiversOn(t *testing.T) {
	l := labtest.From(t, strings.Replace(house, "10 server", `	cage 1 transceiver "SR 1": for sfp+, 10000 mbit, offers lc
	cage 2 transceiver "SR 2": for sfp+, 10000 mbit, offers lc
	cage 3 transceiver "SR 3": for sfp+, 10000 mbit, offers lc
10 server`, 1)+`? switch "heir", spare: takes 1U, 24 ports rj45 1G, 2 ports sfp+ 10G
	cage 2 transceiver "LR": for sfp+, 10000 mbit, offers lc
core/s1 - anvil/s1 om4
core/s2 - anvil/s2 om4
core/1 - PP1/1
`)
	old, _ := lab.Find[lab.Device](l, at(t, l, "core", "1").Device)
	by, _ := lab.Find[lab.Device](l, at(t, l, "heir", "1").Device)
	old.State = lab.Faulty
	breaks, _ := l.Put(old)
	faulty, err := l.Apply([]lab.Change{breaks})
	require.NoError(t, err)
	changes, carried := cabling.Replace(faulty, old, by)
	var said []string
	for _, c := range carried {
		said = append(said, c.From+">"+c.To+" "+c.Optic)
	}
	assert.Equal(t, []string{"s1>s1 SR 1", "s2>s2 ", "1>1 "}, said)
	next, err := faulty.Apply(changes)
	require.NoError(t, err)
	var in []string
	for _, p := range next.PartsOf(by.ID) {
		in = append(in, fmt.Sprint(p.Seat, " ", p.Name))
	}
	assert.Equal(t, []string{"1 SR 1", "2 LR"}, in)
	assert.Len(t, next.PartsOf(old.ID), 2, "what has no cable stays where it is")
	out, _ := lab.Find[lab.Device](next, old.ID)
	is, _ := lab.Find[lab.Device](next, by.ID)
	assert.Equal(t, []lab.State{lab.Faulty, lab.Running}, []lab.State{out.State, is.State})
}

func TestSwappedLeads(t *testing.T) {
	l := labtest.From(t, house+"core/1 - PP1/1\ncore/2 - PP1/2\ncore/3 - core/4\n")
	for _, c := range []struct{ a, b, want string }{
		{"1", "2", "core/2 - PP1/1, core/1 - PP1/2, core/3 - core/4"},
		{"1", "9", "core/9 - PP1/1, core/2 - PP1/2, core/3 - core/4"},
		{"3", "4", "core/1 - PP1/1, core/2 - PP1/2, core/4 - core/3"},
	} {
		next, err := l.Apply(cabling.Swap(l, at(t, l, "core", c.a), at(t, l, "core", c.b)))
		require.NoError(t, err)
		var said []string
		for cable := range lab.Each[lab.Cable](next) {
			said = append(said, next.CableWords(cable))
		}
		assert.Equal(t, c.want, strings.Join(said, ", "))
	}
}
