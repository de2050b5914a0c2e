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

// Campus makes up a lab of 150 linked devices: a router, two core switches, 16
// switches at two links each, access points, servers and what else hangs on them,
// with a few VLANs.
func Campus() (*lab.Lab, error) {
	var changes []lab.Change
	put := func(r lab.Record) { changes = append(changes, lab.Change{After: r}) }
	device := func(id string, kind lab.DeviceKind, place lab.ID, order int, more func(*lab.Device)) {
		d := lab.Device{ID: lab.ID(id), Name: id, Kind: kind, State: lab.Running, At: &lab.Spot{Where: lab.InPlace, Place: place, Order: order}}
		if more != nil {
			more(&d)
		}
		put(d)
	}
	cables := 0
	cable := func(a, ap, b, bp string) {
		cables++
		put(lab.Cable{ID: lab.ID(fmt.Sprintf("c-%03d", cables)), Kind: lab.Cat6, State: lab.CableInUse, A: &lab.End{Device: lab.ID(a), Port: ap},
			B: &lab.End{Device: lab.ID(b), Port: bp}})
	}
	trunk := func(d *lab.Device) { d.Untagged, d.Tagged = "10", "20,30,40" }
	for i, v := range []string{"house", "servers", "guests", "eyes"} {
		put(lab.VLAN{ID: lab.ID(fmt.Sprintf("v-%d", i)), Number: 10 * (i + 1), Name: v})
	}
	const floors, switches, things = 8, 16, 150 - 1 - 2 - 16
	for i := range floors {
		put(lab.Place{ID: lab.ID(fmt.Sprintf("p-%d", i)), Name: fmt.Sprintf("Floor %d", i)})
	}
	device("gate", lab.Router, "p-0", 0, trunk)
	for i := range 2 {
		device(fmt.Sprintf("core-%d", i), lab.Switch, "p-0", i+1, trunk)
		cable("gate", fmt.Sprint(i+1), fmt.Sprintf("core-%d", i), "1")
	}
	cable("core-0", "2", "core-1", "2")
	kinds := []lab.DeviceKind{lab.Server, lab.Desktop, lab.Camera, lab.AccessPoint, lab.Printer, lab.MiniPC}
	for i := range switches {
		name := fmt.Sprintf("sw-%02d", i)
		device(name, lab.Switch, lab.ID(fmt.Sprintf("p-%d", i%floors)), 10+i, trunk)
		cable("core-0", fmt.Sprint(10+i), name, "1")
		cable("core-1", fmt.Sprint(10+i), name, "2")
	}
	for i := range things {
		name, at := fmt.Sprintf("thing-%03d", i), i%switches
		device(name, kinds[i%len(kinds)], lab.ID(fmt.Sprintf("p-%d", at%floors)), 100+i, nil)
		cable(fmt.Sprintf("sw-%02d", at), fmt.Sprint(3+i/switches), name, "1")
	}
	return lab.New().Apply(changes)
}
