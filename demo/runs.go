package demo

import (
	"fmt"

	"levelstaff/core/lab"
)

// What LargeServices has.
const (
	LargeHosts  = 100
	LargeGuests = 2000
)

// LargeServices is a made-up lab of 100 hosts of 256 GB, wired to a switch, in 20
// clusters that share a pool each, with 20 guests on each of them: VMs of 2 to 16 GB of which every third has two
// containers in it, with a leg and a disk each, and a service for every second one.
func LargeServices() (*lab.Lab, error) {
	var changes []lab.Change
	put := func(r lab.Record) { changes = append(changes, lab.Change{After: r}) }
	id := func(kind string, n int) lab.ID { return lab.ID(fmt.Sprintf("%s-%05d", kind, n)) }
	put(lab.Place{ID: "house", Name: "House"})
	at := &lab.Spot{Where: lab.InPlace, Place: "house"}
	gb := func(n int64) *int64 { n <<= 30; return &n }
	cores, threads := 32, 64
	for n := range LargeHosts {
		if n%10 == 0 {
			put(lab.Device{ID: id("switch", n/10), Name: fmt.Sprintf("switch %d", n/10), Kind: lab.Switch, State: lab.Running, At: at,
				Switching: lab.Switching{Untagged: "20"},
				Spec:      lab.Spec{Managed: lab.Managed, Ports: []lab.PortGroup{{Count: 24, Connector: "rj45", SpeedsMb: []int{10000}}}}})
		}
		put(lab.Device{ID: id("host", n), Name: fmt.Sprintf("host %d", n), Kind: lab.Server, State: lab.Running, At: at,
			Hosting: lab.Hosting{Runs: lab.Hypervisor, Keeps: gb(8)},
			Spec:    lab.Spec{Ports: []lab.PortGroup{{Count: 2, Connector: "rj45", SpeedsMb: []int{10000}}}}})
		put(lab.Part{ID: id("memory", n), Kind: lab.Memory, State: lab.Running, Device: id("host", n), SizeBytes: gb(256)})
		put(lab.Part{ID: id("cpu", n), Kind: lab.Processor, State: lab.Running, Device: id("host", n), Cores: &cores, Threads: &threads})
		put(lab.Cable{ID: id("lead", n), Kind: lab.Cat6, State: lab.CableInUse, A: &lab.End{Device: id("switch", n/10), Port: fmt.Sprint(n%10 +
			1)},
			B: &lab.End{Device: id("host", n), Port: "1"}})
	}
	for n := range LargeHosts / 5 {
		put(lab.Device{ID: id("nas", n), Name: fmt.Sprintf("nas %d", n), Kind: lab.NAS, State: lab.Running, At: at})
		put(lab.Pool{ID: id("pool", n), Name: "fast", Device: id("nas", n)})
		c := lab.Cluster{ID: id("cluster", n), Name: fmt.Sprintf("cluster %d", n), Shared: []lab.ID{id("pool", n)}}
		for k := range 5 {
			c.Hosts = append(c.Hosts, id("host", 5*n+k))
		}
		put(c)
	}
	n := 0
	guest := func(kind lab.DeviceKind, on lab.ID, order int) lab.ID {
		vcpus := 1 + n%8
		d := lab.Device{ID: id("guest", n), Name: fmt.Sprintf("guest %d", n), Kind: kind, State: lab.Running,
			At: &lab.Spot{Where: lab.OnDevice, Device: on, Order: order},
			Guesting: lab.Guesting{VCPUs: &vcpus, Given: gb(int64(2 + n%15)), Uses: gb(int64(1 + n%7)), Worth: lab.Worths()[n%3],
				Listens: []lab.Listening{{Over: lab.TCP, Port: 1000 + n}}}}
		if kind == lab.VM {
			d.Marks = []lab.PortMark{{Port: "vlan 20", Untagged: "20"}}
			put(lab.Dataset{ID: id("disk", n), Name: d.Name + " disk", On: &lab.Holder{Pool: id("pool", n*LargeHosts/LargeGuests/5)}, Guest: d.ID})
		}
		put(d)
		if n%2 == 0 {
			put(lab.Service{ID: id("service", n), Name: fmt.Sprintf("service %d", n), In: d.ID, State: lab.Running})
		}
		n++
		return d.ID
	}
	for n < LargeGuests {
		host := id("host", n*LargeHosts/LargeGuests)
		on := guest(lab.VM, host, n)
		for k := 0; k < 2 && n%9 == 1+k && n < LargeGuests; k++ {
			guest(lab.Container, on, n)
		}
	}
	return lab.New().Apply(changes)
}
