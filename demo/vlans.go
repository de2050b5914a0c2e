package demo

import (
	"fmt"

	"levelstaff/core/lab"
)

// LargeVLANs is how many VLANs the large wired lab has in LargeNetwork.
const LargeVLANs = 200

// LargeNetwork is the large wired lab with 200 VLANs on its switches: trunks that
// carry all of them, and access ports that carry one each, the same at both ends of
// a link.
func LargeNetwork() (*lab.Lab, error) {
	l, err := LargeWired()
	if err != nil {
		return nil, err
	}
	var changes []lab.Change
	put := func(r lab.Record) {
		if c, ok := l.Put(r); ok {
			changes = append(changes, c)
		}
	}
	const first = 100
	for v := range LargeVLANs {
		put(lab.VLAN{ID: lab.ID(fmt.Sprintf("v-%03d", v)), Number: first + v, Name: fmt.Sprintf("net %d", v)})
	}
	for r := range LargeRacks {
		for n := 4; n < 8; n++ {
			d, _ := lab.Find[lab.Device](l, lab.ID(fmt.Sprintf("d-%03d-%02d", r, n)))
			at := r
			if n == 5 { // its ports lead to the rack before
				at = (r + LargeRacks - 1) % LargeRacks
			}
			for p := 1; p <= 48; p++ {
				d.Marks = append(d.Marks, lab.PortMark{Port: fmt.Sprint(p), Untagged: lab.VLANNumber(first + (at+p)%LargeVLANs)})
			}
			for _, p := range []string{"s1", "s2", "s3"} {
				d.Marks = append(d.Marks, lab.PortMark{Port: p, Tagged: lab.AllVLANs})
			}
			put(d)
		}
	}
	return l.Apply(changes)
}
