package storage

import (
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// How storage is needed.
const (
	IsIn = "is in"
	IsOn = "is on"
	IsOf = "is a share of"
	Has  = "has"
)

// Serves adds what storage needs while it is used, beside that its data is kept: a pool
// its device and as many of its drives as it cannot do without, a drive the device that
// it is in, a dataset what it is on, a share its dataset.
func (s *Storage) Serves(g *need.Graph) {
	thing := func(k lab.Key) int32 { return g.Thing(need.Thing{Key: k}) }
	one := func(of int32, how string, k lab.Key) { g.Needs(of, need.Need{Any: []int32{thing(k)}, How: how}) }
	device := func(id lab.ID) lab.Key { return lab.Key{Kind: lab.KindDevice, ID: id} }
	drive := func(d Drive) int32 {
		n, known := g.Number(need.Thing{Key: d.Part.Key()})
		if !known {
			if n = thing(d.Part.Key()); d.Host != "" {
				one(n, IsIn, device(d.Host))
			}
		}
		return n
	}
	for _, p := range s.pools {
		at := thing(p.Key())
		if len(p.With) == 0 {
			one(at, IsIn, device(p.Device))
		}
		for i := range p.Sets {
			s.setNeeds(g, at, &p.Sets[i], drive)
		}
	}
	for _, d := range s.data {
		one(thing(d.Key()), IsOn, d.On.Key())
	}
	for share := range lab.Each[lab.NetworkShare](s.lab) {
		one(thing(share.Key()), IsOf, lab.Key{Kind: lab.KindDataset, ID: share.Dataset})
	}
}
