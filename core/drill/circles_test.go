package drill_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"levelstaff/core/drill"
	"levelstaff/core/labtest"
)

// stuck is two hosts and a NAS: the name server of the lab has its disk on the NAS, which
// its host mounts by the name that only it knows.
const stuck = `lab "House": 230V
vlan 10 house
subnet 10.10.0.0/24 vlan 10: gateway .1
rack "R": 24U
8 nas "silo": 4 bays 3.5in, 4x 8TB hdd, 1 port 1G, 10.10.0.12
10 server "anvil": 2 ports 1G, 10.10.0.14, runs hypervisor, 64GB
12 server "thrush": 1 port 1G, 10.10.0.15, runs hypervisor, 64GB
pool "hold" on silo: raid 5
on anvil: vm "names": 1GB, 8GB on hold, 10.10.0.53
share "disks" of "names disk": by nfs, to anvil, by name
`

func TestCirclesOfADarkLab(t *testing.T) {
	for name, c := range map[string]struct {
		more string
		want []drill.Circle
	}{
		"the name server is on what is mounted by name": {"name servers of vlan 10: names\n", []drill.Circle{{Titles: []string{"names", "disks"},
			Says: []string{"names gets at its disk by the share disks", "disks is found by the names of names"},
			Cut:  "mount disks by its address, not by name"}}},
		"another name server opens it": {`on thrush: vm "names 2": 1GB, 10.10.0.54
name servers of vlan 10: names, names 2
`, nil},
		"and does not where it is in the same circle": {`on anvil: vm "names 2": 1GB, 8GB on hold, 10.10.0.54
name servers of vlan 10: names, names 2
`, []drill.Circle{{Titles: []string{"names", "disks"},
			Says: []string{"names gets at its disk by the share disks", "disks is found by the names of names"},
			Cut:  "mount disks by its address, not by name"}}},
		"two that need each other, as they were told to": {`on thrush: vm "a": 1GB
on thrush: vm "b": 1GB
"a" needs "b"
"b" needs "a"
name servers of vlan 10: thrush
`, []drill.Circle{{Titles: []string{"a", "b"}, Says: []string{"a needs b", "b needs a"},
			Cut: "let a start without b: it wants it, or needs another one too"}}},
		"what one only wants closes none": {`on thrush: vm "a": 1GB
on thrush: vm "b": 1GB
"a" needs "b"
"b" wants "a"
name servers of vlan 10: thrush
`, nil},
		"of three in a row the shortest is said": {`on thrush: vm "a": 1GB
on thrush: vm "b": 1GB
on thrush: vm "c": 1GB
"a" needs "b"
"b" needs "c"
"c" needs "a"
"c" needs "b"
name servers of vlan 10: thrush
`, []drill.Circle{{Titles: []string{"b", "c"}, Says: []string{"b needs c", "c needs b"},
			Cut: "let b start without c: it wants it, or needs another one too"}}},
	} {
		got := drill.Of(labtest.From(t, stuck+c.more)).Circles()
		for i := range got {
			got[i] = drill.Circle{Titles: got[i].Titles, Says: got[i].Says, Cut: got[i].Cut}
		}
		assert.Equal(t, c.want, got, name)
	}
}
