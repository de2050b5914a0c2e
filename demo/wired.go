package demo

import (
	"fmt"

	"levelstaff/core/lab"
)

// LargeWired makes up a lab of 200 racks with 100,000 ports and 40,000 cables:
// in each rack four panels, four switches and 25 servers, patched to each other
// and, panel to panel, to the next rack.
func LargeWired() (*lab.Lab, error) {
	var changes []lab.Change
	put := func(r lab.Record) { changes = append(changes, lab.Change{After: r}) }
	one := 1
	thing := func(rack, n, unit int, kind lab.DeviceKind, groups ...lab.PortGroup) {
		put(lab.Device{ID: lab.ID(fmt.Sprintf("d-%03d-%02d", rack, n)), Name: fmt.Sprintf("%s-%d-%d", kind, rack, n), Kind: kind,
			State: lab.Running,
			Spec:  lab.Spec{TakesU: &one, Ports: groups}, At: lab.At(rackID(rack), unit, lab.Front)})
	}
	copper := lab.PortGroup{Count: 48, Connector: "rj45", SpeedsMb: []int{1000}}
	fast := lab.PortGroup{Count: 3, Connector: "sfp+", SpeedsMb: []int{1000, 10000}}
	cables := 0
	cable := func(kind lab.CableKind, m float64, a, b lab.End) {
		cables++
		put(lab.Cable{ID: lab.ID(fmt.Sprintf("c-%06d", cables)), Label: fmt.Sprintf("L%06d", cables), Kind: kind, Colour: "yellow", LengthM: &m,
			State: lab.CableInUse, A: &a, B: &b})
	}
	end := func(rack, n int, port any, rear bool) lab.End {
		return lab.End{Device: lab.ID(fmt.Sprintf("d-%03d-%02d", rack, n)), Port: fmt.Sprint(port), Rear: rear}
	}
	for r := range LargeRacks {
		put(lab.Rack{ID: rackID(r), Name: fmt.Sprintf("Rack %d", r), HeightU: 48})
		for i := range 4 {
			thing(r, i, 48-2*i, lab.PatchPanel, copper)
			thing(r, 4+i, 47-2*i, lab.Switch, copper, fast)
		}
		for i := range 25 {
			thing(r, 8+i, 40-i, lab.Server, lab.PortGroup{Count: 3, Connector: "rj45", SpeedsMb: []int{1000}})
		}
	}
	for r := range LargeRacks {
		for p := 1; p <= 48; p++ {
			cable(lab.Cat6, 0.25, end(r, 4, p, false), end(r, 0, p, false))
			cable(lab.Cat6, 0.25, end(r, 5, p, false), end(r, 1, p, false))
			cable(lab.Cat6, 12, end(r, 0, p, true), end((r+1)%LargeRacks, 1, p, true))
		}
		for i := range 25 {
			cable(lab.Cat6, 1.5, end(r, 6, 1+i, false), end(r, 8+i, 1, false))
			cable(lab.Cat6, 2, end(r, 7, 1+i, false), end(r, 8+i, 2, false))
		}
		for i := range 3 {
			cable(lab.DAC, 1, end(r, 4+i, fmt.Sprintf("s%d", i%2+1), false), end(r, 5+i, "s3", false))
			cable(lab.Cat5e, 5, end(r, 6, 48-i, false), end(r, 2, i+1, false))
		}
	}
	return lab.New().Apply(changes)
}

func rackID(n int) lab.ID { return lab.ID(fmt.Sprintf("r-%03d", n)) }
