package service

import (
	"slices"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// How guests and services need what they need.
const (
	RunsOn      = "runs on"
	RunsIn      = "runs in"
	DiskOn      = "has the disk"
	DiskOver    = "gets at its disk by the share"
	Mounts      = "mounts"
	NetworkFrom = "has the network of"
	Has         = "has"
	FindsBy     = "is found by the names of"
)

// mount is a share as one device mounts it.
func mount(share, device lab.ID) need.Thing {
	return need.Thing{Key: lab.Key{Kind: lab.KindShare, ID: share}, Side: "at " + string(device)}
}

// Needs adds what guests and services need: a guest what it runs on or in, its disks, the
// shares that it mounts, the guest whose network it has and what is handed through to it;
// a service what it runs in. A guest that its cluster restarts needs its host or the one
// where there is room for it. A disk that is in another device is reached by what its host
// mounts. What is mounted by name needs a name server, any one of those that the device
// asks; a device goes on without it.
func (s *Services) Needs(g *need.Graph) {
	thing := func(kind lab.RecordKind, id lab.ID) int32 {
		return g.Thing(need.Thing{Key: lab.Key{Kind: kind, ID: id}})
	}
	elsewhere := s.Elsewhere()
	mounts := s.mounts(g)
	for guest := range s.Each() {
		at := thing(lab.KindDevice, guest.Device.ID)
		switch {
		case guest.Up != nil:
			g.Needs(at, need.Need{Any: []int32{thing(lab.KindDevice, guest.Up.Device.ID)}, How: RunsIn})
		case guest.Host != nil:
			any := []int32{thing(lab.KindDevice, guest.Host.ID)}
			if to := elsewhere[guest.Device.ID]; to != "" {
				any = append(any, thing(lab.KindDevice, to))
			}
			g.Needs(at, need.Need{Any: any, How: RunsOn})
		}
		for _, disk := range guest.Disks {
			g.Needs(at, need.Need{Any: []int32{thing(lab.KindDataset, disk.ID)}, How: DiskOn})
			if guest.Host == nil {
				continue
			}
			if over := mounts[guest.Host.ID][disk.On.Key()]; over != nil {
				g.Needs(at, need.Need{Any: over, How: DiskOver})
			}
		}
		if guest.NetworkOf != "" {
			g.Needs(at, need.Need{Any: []int32{thing(lab.KindDevice, guest.NetworkOf)}, How: NetworkFrom})
		}
		for _, h := range guest.Handed {
			switch {
			case h.Part != "":
				g.Needs(at, need.Need{Any: []int32{thing(lab.KindPart, h.Part)}, How: Has})
			case h.Device != "":
				g.Needs(at, need.Need{Any: []int32{thing(lab.KindDevice, h.Device)}, How: Has})
			}
		}
	}
	for v := range lab.Each[lab.Service](s.lab) {
		if v.In != "" {
			g.Needs(thing(lab.KindService, v.ID), need.Need{Any: []int32{thing(lab.KindDevice, v.In)}, How: RunsIn})
		}
	}
}

// Elsewhere is, by guest, the host that it gets to by itself when its own is gone: its
// cluster restarts it where there is room.
func (s *Services) Elsewhere() map[lab.ID]lab.ID { return s.elsewhere() }

func (s *Services) findElsewhere() map[lab.ID]lab.ID {
	to := map[lab.ID]lab.ID{}
	for _, h := range s.hosts {
		if h.Cluster == nil {
			continue
		}
		for _, m := range s.Without(h, false, Steps).Moves {
			if m.By == lab.ByItself && m.Guest.Host == h {
				to[m.Guest.Device.ID] = m.To.ID
			}
		}
	}
	return to
}

// mounts adds what is mounted, and gives what a device mounts of each thing that data is
// on, but for what is in the device itself.
func (s *Services) mounts(g *need.Graph) map[lab.ID]map[lab.Key][]int32 {
	by := map[lab.ID]map[lab.Key][]int32{}
	for share := range lab.Each[lab.NetworkShare](s.lab) {
		of, _ := lab.Find[lab.Dataset](s.lab, share.Dataset)
		p, _ := lab.Find[lab.Pool](s.lab, of.On.Pool)
		for _, id := range share.To {
			d, ok := lab.Find[lab.Device](s.lab, id)
			if !ok || slices.Contains(p.Hosts(), id) {
				continue
			}
			at := g.Thing(mount(share.ID, id))
			g.Needs(at, need.Need{Any: []int32{g.Thing(need.Thing{Key: share.Key()})}})
			if servers := s.asks(d); share.By == lab.ByName && servers != nil {
				var any []int32
				for _, server := range servers {
					any = append(any, g.Thing(need.Thing{Key: lab.Key{Kind: lab.KindDevice, ID: server}}))
				}
				g.Needs(at, need.Need{Any: any, How: FindsBy})
			}
			g.Needs(g.Thing(need.Thing{Key: d.Key()}), need.Need{Any: []int32{at}, How: Mounts, Soft: !d.IsGuest()})
			if by[id] == nil {
				by[id] = map[lab.Key][]int32{}
			}
			by[id][of.On.Key()] = append(by[id][of.On.Key()], at)
		}
	}
	return by
}

// asks are the name servers that a device asks, those that run.
func (s *Services) asks(d lab.Device) []lab.ID {
	plan := address.Of(s.lab)
	var list []lab.ID
	for _, h := range plan.OfDevice(d.ID) {
		if h.Subnet == address.None {
			continue
		}
		for _, id := range plan.NameServers(h.Subnet) {
			if at, ok := lab.Find[lab.Device](s.lab, id); ok && at.State == lab.Running && !slices.Contains(list, id) {
				list = append(list, id)
			}
		}
	}
	return list
}
