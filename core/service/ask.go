package service

import (
	"slices"

	"levelstaff/core/lab"
)

// Each goes through the guests of a host and through what runs in them.
func (h *Host) Each(do func(*Guest)) {
	for _, g := range h.Guests {
		g.each(do)
	}
}

// AddressedAs is whose address a guest has: that of the guest whose network it shares, and
// of a container without a leg and an address of its own that of what it runs in or on.
func (s *Services) AddressedAs(g *Guest) lab.Device {
	for range lab.MostNested {
		own := len(g.Legs()) > 0
		shares, of := s.Guest(g.NetworkOf)
		switch {
		case of:
			g = shares
		case own || g.Kind != lab.Container || g.Host == nil:
			return g.Device
		case g.Up == nil:
			return g.Host.Device
		default:
			g = g.Up
		}
	}
	return g.Device
}

// HandedAs is a thing that is handed through as one compares it: a card is what is in its
// slot, and words are those of any case.
func (s *Services) HandedAs(h *Host, one lab.Handed) lab.Handed {
	if p, ok := lab.Find[lab.Part](s.lab, one.Part); ok && p.Kind == lab.Card && p.Seat > 0 && p.Device == h.ID {
		return lab.Handed{Slot: p.Seat}
	}
	one.Words = lab.FoldName(one.Words)
	return one
}

// OwnPool is the pool of one of a guest's disks that is in its host alone, and that its
// cluster does not share; nil where there is none.
func (s *Services) OwnPool(g *Guest) *lab.Pool {
	for _, disk := range g.Disks {
		if p := s.poolGone(disk, g.Host); p != nil {
			return p
		}
	}
	return nil
}

// Reaches reports whether a host gets at a dataset on a pool: the pool is in it, its
// cluster shares the pool, or it mounts a share of the dataset.
func (s *Services) Reaches(h *Host, p lab.Pool, d lab.Dataset) bool {
	if p.Device == h.ID || slices.Contains(p.With, h.ID) || h.Cluster != nil && slices.Contains(h.Cluster.Shared, p.ID) {
		return true
	}
	for by := range s.lab.UsersOf(h.Key()) {
		share, ok := by.(lab.NetworkShare)
		if !ok {
			continue
		}
		of, _ := lab.Find[lab.Dataset](s.lab, share.Dataset)
		if share.Dataset == d.ID || of.On != nil && of.On.Pool == p.ID {
			return true
		}
	}
	return false
}

// Stuck says why a guest can go to no other host even if it went alone, "" where it can.
func (s *Services) Stuck(g *Guest) string {
	hosts := s.takers(g.Host)
	l := g.Host.lots[slices.IndexFunc(g.Host.lots, func(l lot) bool { return slices.Contains(l.guests, g) })]
	free := make([]int64, len(hosts))
	l.allowed = make([]bool, len(hosts))
	for i, to := range hosts {
		free[i], _ = to.Left()
		l.allowed[i] = l.unknown == nil && s.takes(l, to, false)
		if l.allowed[i] && free[i] >= l.need {
			return ""
		}
	}
	if l.unknown != nil || !slices.Contains(l.allowed, true) {
		return s.tied(l, hosts, false)
	}
	return s.full(l, hosts, free)
}
