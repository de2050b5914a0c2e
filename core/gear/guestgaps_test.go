package gear_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/gear"
	"levelstaff/core/lab"
	"levelstaff/core/labtest"
)

// The walk asks what a host runs its guests with, and how much memory those straight on it
// are given: not of what is in a guest, is stopped, or has it from a template.
func TestTheWalkAsksAboutGuests(t *testing.T) {
	l := labtest.From(t, `rack "R": 9U
9 server "anvil"
8 server "bare"
template "small": 2GB
on anvil: vm "known": 2GB
on anvil: vm "uses": uses 1GB
on anvil: vm "unsaid"
on anvil: vm "made" from "small"
on anvil: vm "off", stopped
on unsaid: container "inside"
`)
	asked := map[string]string{}
	for _, g := range gear.WalkOf(l, labtest.Named[lab.Rack](t, l, "R")).Gaps {
		if g.Field == "given_bytes" || g.Field == "runs" {
			d, _ := lab.Find[lab.Device](l, g.Device)
			asked[d.Name] = g.Question
		}
	}
	assert.Equal(t, map[string]string{"anvil": "What does it run its guests with: a hypervisor, or a container engine?",
		"unsaid": "How much memory is it given?"}, asked)
}
