package network

import (
	"cmp"
	"slices"

	"levelstaff/core/cabling"
)

// Spread is where a VLAN reaches over the cables there are, piece by piece, the
// largest first. Several pieces are several networks: nothing gets from one to
// another without a router.
type Spread struct {
	VLAN   VLAN
	Pieces []Piece
}

// Piece is a part of a spread that hangs together. The tips of its first link are
// its first two, and so on.
type Piece struct {
	Tips  []Reached
	Links []int32 // that carry it
}

// Reached is a port that a VLAN reaches, and how it is carried there.
type Reached struct {
	cabling.Tip
	Tagged bool
}

// Devices are the numbers of the devices of a piece, each once, rising.
func (p Piece) Devices() []int32 {
	list := make([]int32, 0, len(p.Tips))
	for _, t := range p.Tips {
		list = append(list, t.Device)
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// Has reports whether a device is in the piece.
func (p Piece) Has(device int32) bool {
	return slices.ContainsFunc(p.Tips, func(t Reached) bool { return t.Device == device })
}

// Spreads are those of all VLANs, declared or used, in the order of VLANs.
func (n *Network) Spreads() []Spread { return n.spreads() }

// spread works all of them out: for each VLAN the links that carry it, joined
// where a switch or a cloud passes it on. It takes as long as there are VLANs on
// links, whatever else the lab has.
func (n *Network) spread() []Spread {
	links, from := n.byVLANs()
	of := &spreading{Network: n, sets: newSets(n.places()), seen: make([]int32, n.places())}
	list := make([]Spread, len(n.vlans))
	for v := range n.vlans {
		list[v] = Spread{n.vlans[v], of.pieces(int32(v), links[from[v]:from[v+1]])}
	}
	return list
}

// byVLANs lists for each VLAN the links that carry it: those of VLAN v are
// links[from[v]:from[v+1]].
func (n *Network) byVLANs() (links []carriedLink, from []int32) {
	from = make([]int32, len(n.vlans)+1)
	for i := range n.links {
		for _, o := range n.links[i].vlans {
			from[o.vlan+1]++
		}
	}
	for v := 1; v < len(from); v++ {
		from[v] += from[v-1]
	}
	links = make([]carriedLink, from[len(from)-1])
	next := slices.Clone(from)
	for i := range n.links {
		for _, o := range n.links[i].vlans {
			links[next[o.vlan]] = carriedLink{int32(i), o.taggedA, o.taggedB}
			next[o.vlan]++
		}
	}
	return links, from
}

// carriedLink is a link that carries a VLAN.
type carriedLink struct {
	link             int32
	taggedA, taggedB bool
}

// places is how many places a frame of one VLAN may be at: in a switch, or in a
// cloud with a tag or without.
func (n *Network) places() int { return len(n.switches) + 2*len(n.clouds) }

// spreading works out one VLAN after another. sets and seen are as new between
// two of them: what was touched is put back.
type spreading struct {
	*Network
	sets    *sets
	seen    []int32 // 1 and the number of the piece at a set's root
	touched []int32
}

// place is where a frame is behind the end of a link; -1 where it stays, as it does
// at a router's port of which no VLAN is said.
func (s *spreading) place(l *Link, t cabling.Tip, tagged bool) int32 {
	switch is := &s.nodes[t.Device]; is.role {
	case Switches:
		if is.routes && l.Guest == "" && s.at(l, t) == anything {
			return -1
		}
		return int32(2*len(s.clouds)) + is.at
	case Passes:
		if tagged {
			return 2*is.at + 1
		}
		return 2 * is.at
	}
	return -1
}

func (s *spreading) pieces(v int32, links []carriedLink) []Piece {
	for _, c := range links {
		l := &s.links[c.link]
		a, b := s.place(l, l.A, c.taggedA), s.place(l, l.B, c.taggedB)
		for _, p := range [2]int32{a, b} {
			if p >= 0 {
				s.touched = append(s.touched, p)
			}
		}
		if a >= 0 && b >= 0 {
			s.sets.join(a, b)
		}
	}
	for _, at := range s.touched {
		if k := at / 2; int(k) < len(s.clouds) && s.clouds[k].sent[s.vlans[v].Number] {
			s.sets.join(2*k, 2*k+1)
			s.touched = append(s.touched, at^1)
		}
	}
	var list []Piece
	for _, c := range links {
		l := &s.links[c.link]
		at := s.place(l, l.A, c.taggedA)
		if at < 0 {
			at = s.place(l, l.B, c.taggedB)
		}
		piece := int32(len(list))
		if at >= 0 {
			root := s.sets.root(at)
			if s.seen[root] == 0 {
				s.seen[root] = piece + 1
			}
			piece = s.seen[root] - 1
		}
		if int(piece) == len(list) {
			list = append(list, Piece{})
		}
		p := &list[piece]
		p.Links = append(p.Links, c.link)
		p.Tips = append(p.Tips, Reached{l.A, c.taggedA}, Reached{l.B, c.taggedB})
	}
	s.withClouds(list)
	for _, p := range s.touched {
		s.sets.up[p], s.seen[p] = p, 0
	}
	s.touched = s.touched[:0]
	slices.SortStableFunc(list, func(a, b Piece) int { return cmp.Compare(len(b.Tips), len(a.Tips)) })
	return list
}

// withClouds puts to the pieces what the clouds among them pass on to.
func (s *spreading) withClouds(list []Piece) {
	slices.Sort(s.touched)
	s.touched = slices.Compact(s.touched)
	for i, at := range s.touched {
		if int(at) >= 2*len(s.clouds) {
			return // the switches are behind them
		}
		tagged := at%2 == 1
		root := s.sets.root(at)
		if tagged && i > 0 && s.touched[i-1] == at-1 && s.sets.root(at-1) == root {
			continue // it is there without a tag
		}
		p := &list[s.seen[root]-1]
		for _, n := range s.clouds[at/2].links {
			l := &s.links[n]
			p.Links = append(p.Links, n)
			p.Tips = append(p.Tips, Reached{l.A, tagged}, Reached{l.B, tagged})
		}
	}
}
