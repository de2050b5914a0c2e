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
	part := Part{VLANs: []PartVLAN{}, Says: []string{}}
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
	return part
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
