package storage

import (
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// kept is a side of what holds data, apart from whether it runs: a device without power
// has lost nothing.
const kept = "data"

// House is what is lost as one: everything that is not outside it.
func House() lab.Key { return lab.Key{Kind: lab.KindLab, ID: lab.SettingsID} }

// KeptOf is a record as something that may be lost with all that is in it.
func KeptOf(k lab.Key) need.Thing { return need.Thing{Key: k, Side: kept} }

// Needs adds what data needs to be kept: a pool each of its sets, a set as many of its
// drives as it cannot do without, a drive its device, a device its place, and that the
// house unless it is outside.
func (s *Storage) Needs(g *need.Graph) {
	house := g.Thing(KeptOf(House()))
	for p := range lab.Each[lab.Place](s.lab) {
		up := house
		if p.In != "" {
			up = g.Thing(KeptOf(lab.Key{Kind: lab.KindPlace, ID: p.In}))
		}
		if !p.Outside {
			g.Needs(g.Thing(KeptOf(p.Key())), need.Need{Any: []int32{up}})
		}
	}
	device := func(id lab.ID) int32 {
		key := lab.Key{Kind: lab.KindDevice, ID: id}
		n, known := g.Number(KeptOf(key))
		if known {
			return n
		}
		n = g.Thing(KeptOf(key))
		up := house
		d, _ := lab.Find[lab.Device](s.lab, id)
		for _, in := range s.lab.Within(d) {
			if in.Kind == lab.KindPlace {
				up = g.Thing(KeptOf(in))
				break
			}
		}
		g.Needs(n, need.Need{Any: []int32{up}})
		return n
	}
	drive := func(d Drive) int32 {
		n := g.Thing(KeptOf(d.Part.Key()))
		if d.Host != "" {
			g.Needs(n, need.Need{Any: []int32{device(d.Host)}})
		}
		return n
	}
	for _, p := range s.pools {
		at := g.Thing(KeptOf(p.Key()))
		for i := range p.Sets {
			s.setNeeds(g, at, &p.Sets[i], drive)
		}
		if len(p.Sets) == 0 || p.Sets[0].Some != nil {
			g.Needs(at, need.Need{Any: []int32{device(p.Device)}})
		}
	}
}

// kept is the place that a copy is said to be at, "" where what it is in says it.
func (h *Held) kept() lab.ID {
	if h.Copy != nil && h.Copy.At != "" {
		return h.Copy.At
	}
	if h.Copy != nil && h.Copy.Outside {
		return ""
	}
	return h.Holder.Place
}

// setNeeds adds what a set needs: all but as many drives as may fail at worst; of pairs
// one of each.
func (s *Storage) setNeeds(g *need.Graph, pool int32, set *Set, drive func(Drive) int32) {
	var all []int32
	for i, d := range set.Drives {
		if d.Part == nil || d.Part.State == lab.Faulty {
			continue
		}
		n := drive(d)
		all = append(all, n)
		if set.Layout == lab.RAID10 && i%2 == 1 && set.Drives[i-1].Part != nil {
			g.Needs(pool, need.Need{Any: []int32{n, drive(set.Drives[i-1])}, How: Has})
		}
	}
	if set.Layout == lab.RAID10 {
		return
	}
	if set.Layout == lab.Replicated { // by device: it takes as many as there are copies to lose all
		by := map[lab.ID][]int32{}
		for _, d := range set.Drives {
			if d.Part != nil && d.Host != "" {
				by[d.Host] = append(by[d.Host], drive(d))
			}
		}
		var hosts []int32
		for _, drives := range by {
			step := g.Step()
			g.Needs(step, need.Need{Any: drives, Least: len(drives)})
			hosts = append(hosts, step)
		}
		g.Needs(pool, need.Need{Any: hosts, Least: max(1, len(hosts)-set.MayFail.Worst), How: Has})
		return
	}
	if least := len(set.Drives) - set.MayFail.Worst; least > 0 && len(all) > 0 {
		g.Needs(pool, need.Need{Any: all, Least: least, How: Has})
	}
}

// LostData is a dataset of which something is lost.
type LostData struct {
	Data *Data
	Loss
}

// LostWith is what is lost on a day when some things go, such as drives, pools, devices,
// places and the House: datasets whose original goes, with what is left of each. What matters most comes first.
func (s *Storage) LostWith(today lab.Day, gone ...lab.Key) []LostData {
	g := need.New()
	s.Needs(g)
	var numbers []int32
	for _, k := range gone {
		numbers = append(numbers, g.Thing(KeptOf(k)))
	}
	before, after := remains{s, g, g.Without(nil, nil)}, remains{s, g, g.Without(numbers, nil)}
	var list []LostData
	for _, d := range s.data {
		if before.has(&d.Original) && !after.has(&d.Original) {
			list = append(list, LostData{d, d.lossOf(after.has, today)})
		}
	}
	return list
}

// remains is what is left of all that holds data.
type remains struct {
	of    *Storage
	graph *need.Graph
	need.Outcome
}

func (r remains) up(k lab.Key) bool {
	n, known := r.graph.Number(KeptOf(k))
	return !known || r.Up(n)
}

// has reports whether what holds the original or a copy is left.
func (r remains) has(h *Held) bool {
	taken := h.Copy != nil && h.Copy.Outside && h.Holder.Part == "" // what it is on may be in the house
	if !r.up(h.Holder.Key()) && !taken {
		return false
	}
	if place := h.kept(); place != "" && !r.up(lab.Key{Kind: lab.KindPlace, ID: place}) {
		return false
	}
	switch {
	case h.Copy != nil && h.Copy.Outside:
		return true
	case h.site.pool != "":
		return r.up(lab.Key{Kind: lab.KindPool, ID: h.site.pool})
	case h.site.device != "":
		return r.up(lab.Key{Kind: lab.KindDevice, ID: h.site.device})
	case h.kept() == "": // a drive on a shelf, nobody said where
		return r.up(House())
	}
	return true
}
