package demo

import (
	"fmt"
	"math/rand/v2"

	"levelstaff/core/lab"
)

// Size of the large lab.
const (
	LargeRacks   = 200
	LargeDevices = 5000
)

// Large makes up a lab of 200 racks and 5,000 devices, the same for the same
// seed: rows of racks filled from the top, every fifth device on a shelf, some
// facts unknown.
func Large(seed uint64) (*lab.Lab, error) {
	rnd := rand.New(rand.NewPCG(seed, 0))
	var changes []lab.Change
	put := func(r lab.Record) { changes = append(changes, lab.Change{After: r}) }
	maybe := func(v float64) *float64 {
		if rnd.IntN(3) == 0 {
			return nil
		}
		return &v
	}
	put(lab.Place{ID: "p-hall", Name: "Hall"})
	each := LargeDevices / LargeRacks
	for i := range LargeRacks {
		rack := lab.Rack{ID: lab.ID(fmt.Sprintf("r-%04d", i)), Name: fmt.Sprintf("Row %d rack %d", i/20+1, i%20+1), Place: "p-hall",
			HeightU: 48, Form: lab.Rack19, DepthMM: maybe(1000), HoldsKG: maybe(900)}
		put(rack)
		unit, shelf := rack.HeightU, lab.ID("")
		for n := range each {
			d := lab.Device{ID: lab.ID(fmt.Sprintf("d-%04d-%02d", i, n)), Name: fmt.Sprintf("thing-%d-%d", i, n), State: lab.States()[rnd.IntN(6)],
				Kind: lab.ThingKinds()[rnd.IntN(len(lab.ThingKinds()))],
				Spec: lab.Spec{WeightKG: maybe(float64(rnd.IntN(300)+1) / 10), DepthMM: maybe(float64(200 + rnd.IntN(600)))}}
			if n%5 == 4 && shelf != "" {
				d.At = &lab.Spot{Where: lab.OnDevice, Device: shelf, Order: 1}
				shelf = ""
				put(d)
				continue
			}
			if n%5 == 3 {
				d.Kind, shelf = lab.Shelf, d.ID
			}
			takes := min(1+rnd.IntN(3), unit)
			if takes < 1 {
				d.At = &lab.Spot{Where: lab.InPlace, Place: "p-hall", Order: i*each + n}
			} else {
				unit -= takes
				d.TakesU, d.At = &takes, lab.At(rack.ID, unit+1, lab.Front)
				unit -= rnd.IntN(2)
			}
			put(d)
		}
	}
	return lab.New().Apply(changes)
}
