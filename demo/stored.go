package demo

import (
	"fmt"

	"levelstaff/core/lab"
)

// What LargeStorage has.
const (
	LargePools    = 200
	LargeDatasets = 2000
	poolDrives    = 10
)

// LargeStorage is a made-up lab of 200 devices, each with ten drives in one pool, 2,000
// datasets on them and two copies of each, the second made of the first.
func LargeStorage() (*lab.Lab, error) {
	var changes []lab.Change
	put := func(r lab.Record) { changes = append(changes, lab.Change{After: r}) }
	id := func(kind string, n int) lab.ID { return lab.ID(fmt.Sprintf("%s-%05d", kind, n)) }
	put(lab.Place{ID: "house", Name: "House"})
	put(lab.Place{ID: "away", Name: "Away", Outside: true})
	hour, price := 24.0, int64(14_000)
	bytes, room := int64(400e9), int64(8e12)
	for n := range LargePools {
		place := lab.ID("house")
		if n%10 == 9 {
			place = "away"
		}
		put(lab.Device{ID: id("nas", n), Name: fmt.Sprintf("nas %d", n), Kind: lab.NAS, State: lab.Running,
			At: &lab.Spot{Where: lab.InPlace, Place: place}, Spec: lab.Spec{Bays: []lab.BayGroup{{Count: poolDrives + 2}}}})
		set := lab.DriveSet{Layout: lab.Layouts()[2+n%8]}
		for bay := 1; bay <= poolDrives; bay++ {
			put(lab.Part{ID: id("drive", n*poolDrives+bay), Kind: lab.Drive, State: lab.Running, Device: id("nas", n), Seat: bay, SizeBytes: &room,
				Medium: "hdd", Money: lab.Money{PriceMinor: &price}})
			set.Drives = append(set.Drives, lab.PoolDrive{Device: id("nas", n), Bay: bay})
		}
		put(lab.Pool{ID: id("pool", n), Name: "data", Device: id("nas", n), Sets: []lab.DriveSet{set}})
	}
	for n := range LargeDatasets {
		on := func(k int) *lab.Holder { return &lab.Holder{Pool: id("pool", (n+k)%LargePools)} }
		put(lab.Dataset{ID: id("data", n), Name: fmt.Sprintf("data %d", n), On: on(0), Bytes: &bytes, Worth: lab.Worths()[n%3]})
		put(lab.Copy{ID: id("copya", n), Dataset: id("data", n), To: on(1), EveryH: &hour, Last: "2026-11-25"})
		put(lab.Copy{ID: id("copyb", n), Dataset: id("data", n), From: on(1), To: on(9), EveryH: &hour, Last: "2026-11-26"})
	}
	return lab.New().Apply(changes)
}
