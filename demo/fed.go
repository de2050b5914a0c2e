package demo

import (
	"fmt"

	"levelstaff/core/lab"
)

// LargePower is the large wired lab with its power: a circuit for two racks, in each rack a
// UPS and two PDUs, one of them behind it, one behind that of the next rack, and every
// server with a lead to both.
func LargePower() (*lab.Lab, error) {
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
	w := func(v float64) *float64 { return &v }
	leads := 0
	lead := func(from lab.ID, out int, to lab.ID, in int) {
		leads++
		put(lab.Cable{ID: lab.ID(fmt.Sprintf("w-%05d", leads)), State: lab.CableInUse, A: &lab.End{Device: from, Port: fmt.Sprintf("out%d", out)},
			B: &lab.End{Device: to, Port: fmt.Sprintf("in%d", in)}})
	}
	id := func(kind string, rack int) lab.ID { return lab.ID(fmt.Sprintf("%s-%03d", kind, rack%LargeRacks)) }
	feeder := func(id lab.ID, kind lab.DeviceKind, circuit lab.ID, rating lab.Rating, outlets ...lab.OutletGroup) {
		put(lab.Device{ID: id, Name: string(id), Kind: kind, State: lab.Running, Powered: lab.Powered{Circuit: circuit},
			Spec: lab.Spec{Rating: rating, Outlets: outlets}})
	}
	const supplies = 2
	two := supplies
	for r := range LargeRacks {
		circuit := id("k", r/2)
		if r%2 == 0 {
			put(lab.Circuit{ID: circuit, Name: string(circuit), Amps: w(63), Volts: w(230)})
		}
		feeder(id("wall", r), lab.WallOutlet, circuit, lab.Rating{}, lab.OutletGroup{Count: 2})
		feeder(id("ups", r), lab.UPS, "", lab.Rating{RatedVA: w(6000), RatedW: w(5400), Efficiency: w(0.93)},
			lab.OutletGroup{Count: 4, Battery: true})
		feeder(id("pdua", r), lab.PDU, "", lab.Rating{RatedA: w(16)}, lab.OutletGroup{Count: 32})
		feeder(id("pdub", r), lab.PDU, "", lab.Rating{RatedA: w(16)}, lab.OutletGroup{Count: 32})
		lead(id("wall", r), 1, id("ups", r), 1)
		lead(id("ups", r), 1, id("pdua", r), 1)
		lead(id("ups", r+1), 2, id("pdub", r), 1)
		for n := 4; n < 33; n++ {
			d, _ := lab.Find[lab.Device](l, lab.ID(fmt.Sprintf("d-%03d-%02d", r, n)))
			if n%7 != 0 {
				d.IdleW, d.TypicalW, d.MostW = w(60), w(float64(80+n)), w(float64(180+n))
			}
			if n >= 8 {
				d.SupplyBays = &two
				lead(id("pdub", r), n-3, d.ID, 2)
			}
			put(d)
			lead(id("pdua", r), n-3, d.ID, 1)
		}
	}
	return l.Apply(changes)
}
