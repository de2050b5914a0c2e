package network

import (
	"cmp"
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// Linked is the side of a device that is up as long as it is linked to the line
// outside or, where none comes in, to the largest piece of its network; and of a
// link's first cable the side that is the whole link.
const Linked = "network"

// needing is what a network adds to what needs what.
type needing struct {
	graph  *need.Graph
	linked []int32 // by device; -1 where it has no link
	links  []int32 // by link; -1 where it is down
}

// Needs adds what a network's devices and links need: a link its cables, the panels
// on its way and both its ends; a device to be linked, by any of its links, to what
// is so itself. That comes from where the line does.
func (n *Network) Needs(g *need.Graph) { n.addTo(g) }

func (n *Network) needing() *needing { return n.addTo(need.New()) }

func (n *Network) addTo(g *need.Graph) *needing {
	m, hung := n.mesh, n.Threads()
	is := &needing{g, make([]int32, len(n.nodes)), make([]int32, len(n.links))}
	has := make([]bool, len(n.nodes)) // who is linked to another one in its piece
	for i := range n.links {
		a, b := n.links[i].A.Device, n.links[i].B.Device
		if l := &n.links[i]; !l.Down && !l.lost && a != b && hung.piece[a] == hung.piece[b] {
			has[a], has[b] = true, true
		}
	}
	for i := range n.nodes {
		if is.linked[i] = -1; hung.piece[i] > 0 && (has[i] || n.nodes[i].modem) {
			is.linked[i] = g.Thing(need.Thing{Key: n.w.DeviceAt(int32(i)).Key(), Side: Linked})
		}
	}
	hops := make([][]int32, len(n.nodes)) // by which each is linked
	for i := range n.links {
		l := &n.links[i]
		if is.links[i] = -1; l.Down || l.lost || l.A.Device == l.B.Device {
			continue
		}
		is.links[i] = n.linkThing(g, l)
		for _, hop := range [][2]int32{{l.A.Device, l.B.Device}, {l.B.Device, l.A.Device}} {
			if from, to := hop[0], hop[1]; m.passes[from] && hung.piece[from] == hung.piece[to] {
				at := g.Step()
				g.Needs(at, need.Need{Any: []int32{is.links[i]}})
				g.Needs(at, need.Need{Any: []int32{is.linked[from]}, Comes: true})
				hops[to] = append(hops[to], at)
			}
		}
	}
	for i, at := range is.linked {
		if at < 0 {
			continue
		}
		d := n.w.DeviceAt(int32(i))
		g.Needs(at, need.Need{Any: []int32{g.Thing(need.Thing{Key: d.Key()})}})
		g.Needs(at, need.Need{Any: hops[i], Comes: true})
		if n.nodes[i].modem {
			g.Source(at)
		}
	}
	return is
}

// linkThing is a link as a thing that needs what it is made of.
func (n *Network) linkThing(g *need.Graph, l *Link) int32 {
	parts := []lab.Key{n.w.DeviceAt(l.A.Device).Key(), n.w.DeviceAt(l.B.Device).Key()}
	at := int32(-1)
	if l.Guest != "" && l.Air == nil {
		at = g.Step() // the air between an access point and a guest is no record
	} else {
		is := need.Thing{Key: n.w.CableOf(l.Link).Key(), Side: Linked}
		if known, ok := g.Number(is); ok {
			return known
		}
		at = g.Thing(is)
		n.w.OnWay(l.Link, func(key lab.Key) bool { parts = append(parts, key); return true })
	}
	for _, key := range parts {
		g.Needs(at, need.Need{Any: []int32{g.Thing(need.Thing{Key: key})}})
	}
	return at
}

// PullSheet is what to do to take a device out, with what is cut off meanwhile.
type PullSheet struct {
	cabling.PullSheet
	CutOff
}

// CutOff is what loses its way out of the network.
type CutOff struct {
	Devices []Cut `json:"cut_off" required:"true" nullable:"false" description:"What is cut off"`
	Line    bool  `json:"from_line" required:"true" description:"From the line outside; otherwise from the largest piece of the network"`
}

// Cut is a device that is cut off.
type Cut struct {
	Device lab.ID `json:"device_id" required:"true"`
	Title  string `json:"title" required:"true"`
}

// PullSheetOf is a device's pull sheet; ok is false where there is no such device.
func (n *Network) PullSheetOf(id lab.ID) (sheet PullSheet, ok bool) {
	d, ok := lab.Find[lab.Device](n.lab, id)
	if !ok {
		return sheet, false
	}
	sheet.PullSheet, _ = n.w.PullSheetOf(id)
	sheet.CutOff = n.CutOffBy(n.lab.TakenOut(d)...)
	return sheet, true
}

// CutOffBy is what is cut off when records are gone, by name.
func (n *Network) CutOffBy(gone ...lab.Key) CutOff {
	cut := CutOff{Devices: []Cut{}, Line: n.FromALine()}
	for _, device := range n.CutOff(gone...) {
		cut.Devices = append(cut.Devices, Cut{n.w.DeviceAt(device).ID, n.title(device)})
	}
	slices.SortFunc(cut.Devices, func(a, b Cut) int { return cmp.Or(cmp.Compare(a.Title, b.Title), cmp.Compare(a.Device, b.Device)) })
	return cut
}

// CutOff lists the devices that lose their way to the line outside when records are
// gone: devices, panels and cables. Where no line comes in, the largest piece that is
// left stays, at least two devices, the one with the best linked device of equal ones.
func (n *Network) CutOff(gone ...lab.Key) []int32 {
	is := n.needed()
	var numbers []int32
	away := make([]bool, len(n.nodes))
	for _, key := range gone {
		if at, known := is.graph.Number(need.Thing{Key: key}); known {
			numbers = append(numbers, at)
		}
		if i, known := n.w.Number(key.ID); known && key.Kind == lab.KindDevice {
			away[i] = true
		}
	}
	left := is.graph.Without(numbers, n.middles(is, is.graph.Without(numbers, nil)))
	var cut []int32
	for i, at := range is.linked {
		if at >= 0 && !away[i] && !left.Up(at) {
			cut = append(cut, int32(i))
		}
	}
	return cut
}

// middles are what stays linked where no line comes in: one device of the largest part
// that is left of each piece, as its side of the network.
func (n *Network) middles(is *needing, left need.Outcome) []int32 {
	m, hung := n.mesh, n.Threads()
	up := func(link int32) bool { return link >= 0 && left.Up(is.links[link]) }
	part := make([]int32, len(n.nodes))          // by device the root it was reached from, and 1
	size, of := map[int32]int{}, map[int32]int{} // by root, and by piece how many of it pass frames on
	for _, root := range m.roots {
		of[hung.piece[root]]++
	}
	whole := map[int32]bool{} // nothing that passes frames on is missing
	var roots []int32
	for _, root := range m.roots {
		if root == m.outside() || is.linked[root] < 0 || m.lines() && hung.piece[root] == 1 || part[root] > 0 || !n.runs(is, left, root) {
			continue
		}
		roots = append(roots, root)
		m.flood(root, func(device int32) bool {
			fresh := part[device] == 0
			if fresh {
				part[device] = root + 1
				size[root]++
			}
			return fresh
		}, up)
		whole[root] = size[root] == of[hung.piece[root]]
	}
	counted := map[[2]int32]bool{}
	for _, h := range m.hooks {
		of := [2]int32{h.device, part[h.at]}
		if part[h.at] > 0 && hung.piece[h.at] == hung.piece[h.device] && !counted[of] && up(h.link) {
			counted[of] = true
			size[part[h.at]-1]++
		}
	}
	best := map[int32]int32{}
	for _, root := range roots {
		piece := hung.piece[root]
		if was, known := best[piece]; (size[root] > 1 || whole[root]) && (!known || size[root] > size[was]) {
			best[piece] = root
		}
	}
	var middles []int32
	for _, root := range best {
		middles = append(middles, is.linked[root])
	}
	slices.Sort(middles)
	return middles
}

// runs reports whether a device itself is there.
func (n *Network) runs(is *needing, left need.Outcome, device int32) bool {
	at, known := is.graph.Number(need.Thing{Key: n.w.DeviceAt(device).Key()})
	return known && left.Up(at)
}
