package network

import (
	"slices"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
)

// Part is what a device is part of.
type Part struct {
	VLANs []PartVLAN `json:"vlans" required:"true" nullable:"false" description:"Those that reach it, by domain and number"`
	Says  []string   `json:"says" required:"true" nullable:"false" description:"Its place in the spanning tree, and its aggregates"`
	Ways  []PartWay  `json:"ways" required:"true" nullable:"false" description:"To where most goes: out of the house, and to storage"`
	Cuts  int        `json:"cuts_off,omitempty" description:"How many devices are cut off when it is lost"`
}

// PartWay is how wide the way to another device is.
type PartWay struct {
	To     lab.ID `json:"to_id" required:"true"`
	Title  string `json:"title" required:"true"`
	Mb     int    `json:"speed_mb,omitempty" description:"Absent while unknown"`
	AtMost bool   `json:"at_most,omitempty"`
}

// PartVLAN is a VLAN at a device.
type PartVLAN struct {
	GridVLAN
	Untagged []string `json:"untagged" required:"true" nullable:"false" description:"The ports where it is untagged"`
	Tagged   []string `json:"tagged" required:"true" nullable:"false"`
	CutOff   bool     `json:"cut_off,omitempty" description:"It is in another piece than the largest"`
}

// PartOf is what a device is part of.
func (n *Network) PartOf(id lab.ID) Part {
	part := Part{VLANs: []PartVLAN{}, Says: []string{}, Ways: []PartWay{}}
	device, ok := n.w.Number(id)
	if !ok {
		return part
	}
	looks := n.Looks()
	for v, s := range n.Spreads() {
		is := PartVLAN{GridVLAN: looks[v], Untagged: []string{}, Tagged: []string{}}
		found := false
		for i, p := range s.Pieces {
			for _, t := range p.Tips {
				if t.Device != device {
					continue
				}
				is.CutOff = is.CutOff || !found && i > 0
				found = true
				into := &is.Untagged
				if t.Tagged {
					into = &is.Tagged
				}
				if key := lab.PortWords(n.w.KeyOf(t.Tip)); !slices.Contains(*into, key) {
					*into = append(*into, key)
				}
			}
		}
		if found {
			part.VLANs = append(part.VLANs, is)
		}
	}
	slices.SortStableFunc(part.VLANs, func(a, b PartVLAN) int { return byDomainAndNumber(a.GridVLAN, b.GridVLAN) })
	part.Says = append(n.treeWords(device), n.groupWords(device)...)
	part.Ways = n.waysFrom(device)
	for _, th := range n.Threads().List {
		if th.Device == device {
			part.Cuts = th.Cuts
		}
	}
	return part
}

// waysFrom are the ways from a device to the first router and to a few devices that
// others keep things on.
func (n *Network) waysFrom(device int32) []PartWay {
	const few = 3
	ways := []PartWay{}
	router := false
	for i := range n.nodes {
		to := n.w.DeviceAt(int32(i))
		out := n.nodes[i].routes && !router
		if int32(i) == device || to.State != lab.Running || len(ways) == few || !out && to.Kind != lab.NAS {
			continue
		}
		if w := n.Everywhere().Way(device, int32(i)); len(w.Hops) > 0 {
			router = router || out
			ways = append(ways, PartWay{to.ID, to.Title(), w.Mb, w.AtMost && w.Mb > 0})
		}
	}
	return ways
}

// treeWords say what a device is in its spanning tree.
func (n *Network) treeWords(device int32) []string {
	said := []string{}
	for _, t := range n.Trees() {
		if len(t.Bridges) < 2 || !slices.Contains(t.Bridges, device) {
			continue
		}
		switch {
		case t.Root == device:
			said = append(said, "It is the root of the spanning tree.")
		case slices.Contains(t.Between, device):
			said = append(said, "It may be the root of the spanning tree: which switch is cannot be told until one has a lower bridge priority.")
		}
		for _, l := range t.Resting {
			if n.links[l].A.Device == device || n.links[l].B.Device == device {
				a, b := n.EndWords(l)
				said = append(said, "The link "+a+" - "+b+" rests.")
			}
		}
	}
	return said
}

func (n *Network) groupWords(device int32) []string {
	var said []string
	for _, g := range n.Groups() {
		if g.Device != device {
			continue
		}
		say := "Aggregate " + g.Name + ", " + string(g.Mode)
		var far []string
		for _, d := range g.Far {
			far = append(far, n.title(d))
		}
		if len(far) > 0 {
			say += ", to " + lab.Listed(far, len(far))
		}
		if g.FlowMb > 0 {
			say += ": " + cabling.SpeedWords(g.TogetherMb) + " in all, " + cabling.SpeedWords(g.FlowMb) + " for one flow"
		}
		said = append(said, say+".")
	}
	return said
}
