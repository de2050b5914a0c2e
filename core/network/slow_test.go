package network_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/labtest"
	"levelstaff/core/network"
)

// slow writes the links that could be faster.
func slow(t *testing.T, text string) []string {
	t.Helper()
	n := network.Of(labtest.From(t, text))
	list := []string{}
	for _, s := range n.Slow() {
		a, b := n.EndWords(s.Link)
		list = append(list, fmt.Sprintf("%s - %s %d to %d: %s", a, b, s.Mb, s.Could, s.Fix))
	}
	return list
}

func TestALinkThatCouldBeFasterSaysWhatItTakes(t *testing.T) {
	assert.Equal(t, []string{"core/1 - anvil/1 1000 to 2500: Move the lead from core/1 to core/9."}, slow(t, `
switch "core": 8 ports rj45 1G, 2 ports rj45 10G
server "anvil": 1 port rj45 2.5G
core/1 - anvil/1 cat6 2m
`), "a free port that is faster")
	assert.Equal(t, []string{"core/1 - anvil/1 5000 to 10000: Use Cat 6 instead of lead 12 (Cat 5e)."}, slow(t, `
switch "core": 2 ports rj45 10G
server "anvil": 1 port rj45 10G
core/1 - anvil/1 cat5e 2m, label "12"
`), "another lead")
	assert.Equal(t, []string{
		"core/s1 - silo/s1 1000 to 10000: Put 10 Gb/s transceivers in core/s1 and silo/s1.",
	}, slow(t, `
switch "core": 2 ports sfp+ 10G
  cage 1 transceiver: 1000 mbit, offers "lc", multimode
NAS "silo": 1 port sfp+ 10G
  cage 1 transceiver: 1000 mbit, offers "lc", multimode
core/s1 - silo/s1 om3 10m
`), "two transceivers")
	assert.Equal(t, []string{"core/1 - anvil/1 1000 to 10000: Move the lead from core/1 to core/s1 with a 10 Gb/s RJ45 transceiver."},
		slow(t, `
switch "core": 2 ports rj45 1G, 1 port sfp+ 10G
server "anvil": 1 port rj45 10G
core/1 - anvil/1 cat6 2m
`), "an empty cage")
	assert.Equal(t, []string{"core/1 - anvil/1 1000 to 10000: This needs a port faster than 1 Gb/s on core, and none is free."}, slow(t, `
switch "core": 2 ports rj45 1G
server "anvil": 1 port rj45 10G
core/1 - anvil/1 cat6 2m
`), "nothing that is there")
	assert.Equal(t, []string{"core/s1 - anvil/s1 10000 to 25000: This needs another kind of cable: this kind carries no more that far."},
		slow(t, `
switch "core": 2 ports sfp28 25G
server "anvil": 1 port sfp28 25G
core/s1 - anvil/s1 dac 6m
`), "a passive DAC carries 25G over 5 m")
	assert.Empty(t, slow(t, `
switch "core": 2 ports rj45 1G
server "anvil": 1 port rj45 1G
core/1 - anvil/1 cat6 2m
`), "the cable could do more, and no port could")
	assert.Empty(t, slow(t, `
switch "core": 2 ports
server "anvil": 1 port
core/1 - anvil/1
`), "what is unknown is not slow")
}

func TestASettingIsTheCheapestFix(t *testing.T) {
	// hall is the root: either of the others gets there for 8000, and over the third link
	// for 2000 and 8000.
	assert.Equal(t, []string{
		"hall/2 - loft/1 2500 to 10000: Give core the bridge priority 4096, so that core/s1 - loft/s1 carries.",
	}, slow(t, `
switch "hall": 2 ports rj45 2.5G, bridge priority 8192
switch "core": 1 port rj45 2.5G, 1 port sfp+ 10G, bridge priority 16384
switch "loft": 1 port rj45 2.5G, 1 port sfp+ 10G, bridge priority 20480
hall/1 - core/1 cat6 10m
hall/2 - loft/1 cat6 10m
core/s1 - loft/s1 dac 3m
`))
	assert.Equal(t, []string{"core/6 - silo/1 1000 to 10000: Tag 30 on core/s1, so that it goes over core/s1 - silo/s1."}, slow(t, `
switch "core": 8 ports rj45 1G, 2 ports sfp+ 10G
NAS "silo": 1 port rj45 1G, 1 port sfp+ 10G
core/s1 - silo/s1 dac 1m
core/6 - silo/1 cat6 1m
core/s1 untagged 20
core/6 untagged 30
`))
}
