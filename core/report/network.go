package report

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/network"
)

// VLANs is where each VLAN reaches, and which links rest.
type VLANs struct {
	VLANs []VLANSpread `json:"vlans" required:"true" nullable:"false"`
	Trees []Tree       `json:"trees" required:"true" nullable:"false" description:"The spanning trees, the largest first"`
	// Root and Resting are those of the largest tree.
	Root       OrNull       `json:"root" required:"true" description:"Of the largest tree; null where it cannot be told"`
	Resting    []Rest       `json:"resting" required:"true" nullable:"false" description:"Of the largest tree"`
	Aggregates []Aggregated `json:"aggregates" required:"true" nullable:"false"`
}

// OrNull is a name, and null in JSON where there is none to tell.
type OrNull string

// MarshalJSON implements json.Marshaler.
func (n OrNull) MarshalJSON() ([]byte, error) {
	if n == "" {
		return []byte("null"), nil
	}
	return json.Marshal(string(n))
}

// JSONSchemaBytes describes it for the published schema.
func (OrNull) JSONSchemaBytes() ([]byte, error) { return []byte(`{"type":["string","null"]}`), nil }

// VLANSpread is one VLAN's spread, piece by piece.
type VLANSpread struct {
	Number int     `json:"number" required:"true"`
	Name   string  `json:"name" required:"true" description:"Empty where nobody declared it"`
	Domain OrNull  `json:"domain" required:"true" description:"Its switching domain; null for the one that goes without saying"`
	Record lab.ID  `json:"id,omitempty" description:"Absent where nobody declared it"`
	Pieces []Piece `json:"pieces" required:"true" nullable:"false" description:"The largest first; none where no cable carries it"`
}

// Piece is a part of a spread that hangs together.
type Piece struct {
	Devices []string    `json:"devices" required:"true" nullable:"false"`
	Ports   []PieceTips `json:"ports" required:"true" nullable:"false"`
}

// PieceTips is a port that a VLAN reaches.
type PieceTips struct {
	Device string `json:"device" required:"true"`
	Port   string `json:"port" required:"true"`
	Tagged bool   `json:"tagged" required:"true"`
}

// Tree is a spanning tree.
type Tree struct {
	Root    OrNull   `json:"root" required:"true" description:"Null where it cannot be told"`
	Between []string `json:"root_between" required:"true" nullable:"false" description:"Those one of which it is, where it cannot be told"`
	Bridges []string `json:"bridges" required:"true" nullable:"false" description:"The devices that take part"`
	Resting []Rest   `json:"resting" required:"true" nullable:"false"`
	Unsure  []Rest   `json:"unsure" required:"true" nullable:"false" description:"Links some of which rest, where it cannot be told which"`
	Spare   int      `json:"spare" required:"true" description:"How many links rest in all"`
	Assumed int      `json:"assumed,omitempty" description:"Links of unknown speed that are taken to carry 1 Gb/s"`
}

// Rest is a link that rests, by its two ports.
type Rest struct {
	A string `json:"a" required:"true"`
	B string `json:"b" required:"true"`
}

// Aggregated is an aggregate and what it carries.
type Aggregated struct {
	Device     string            `json:"device" required:"true"`
	Name       string            `json:"name" required:"true"`
	Mode       lab.AggregateMode `json:"mode" required:"true"`
	Ports      []string          `json:"ports" required:"true" nullable:"false"`
	To         []string          `json:"to" required:"true" nullable:"false" description:"The devices at the other ends"`
	TogetherMb *int              `json:"together_mb,omitempty" description:"What it carries in all; absent while unknown"`
	FlowMb     *int              `json:"flow_mb,omitempty" description:"What one flow gets"`
	AtLeast    bool              `json:"at_least,omitempty" description:"The speed of a member is unknown"`
}

func vlansOf(a Ask) (VLANs, error) {
	n := network.Of(a.Lab)
	out := VLANs{VLANs: []VLANSpread{}, Trees: []Tree{}, Resting: []Rest{}, Aggregates: []Aggregated{}}
	for _, s := range n.Spreads() {
		v := VLANSpread{Number: s.VLAN.Number, Domain: OrNull(s.VLAN.Domain), Name: s.VLAN.Record.Name, Record: s.VLAN.Record.ID,
			Pieces: []Piece{}}
		for _, p := range s.Pieces {
			v.Pieces = append(v.Pieces, pieceOf(n, p))
		}
		slices.SortStableFunc(v.Pieces, func(a, b Piece) int {
			return cmp.Or(cmp.Compare(len(b.Ports), len(a.Ports)), slices.Compare(a.Devices, b.Devices))
		})
		out.VLANs = append(out.VLANs, v)
	}
	slices.SortStableFunc(out.VLANs, func(a, b VLANSpread) int {
		return cmp.Or(cmp.Compare(a.Domain, b.Domain), a.Number-b.Number)
	})
	for _, t := range n.Trees() {
		out.Trees = append(out.Trees, treeOf(n, t))
	}
	if len(out.Trees) > 0 {
		out.Root, out.Resting = out.Trees[0].Root, out.Trees[0].Resting
	}
	for _, g := range n.Groups() {
		out.Aggregates = append(out.Aggregates, aggregateOf(n, g))
	}
	return out, nil
}

func titleAt(n *network.Network, device int32) string { return n.Wiring().DeviceAt(device).Title() }

func pieceOf(n *network.Network, p network.Piece) Piece {
	piece := Piece{Devices: []string{}, Ports: []PieceTips{}}
	for _, d := range p.Devices() {
		piece.Devices = append(piece.Devices, titleAt(n, d))
	}
	slices.Sort(piece.Devices)
	tips := slices.Clone(p.Tips)
	slices.SortFunc(tips, func(a, b network.Reached) int {
		return cmp.Or(cmp.Compare(titleAt(n, a.Device), titleAt(n, b.Device)), cmp.Compare(a.Device, b.Device), cmp.Compare(a.Port, b.Port),
			cmp.Compare(a.Air, b.Air))
	})
	for i, t := range tips {
		if i > 0 && t == tips[i-1] {
			continue // the air has many links at one end
		}
		piece.Ports = append(piece.Ports, PieceTips{titleAt(n, t.Device), lab.PortWords(n.Wiring().KeyOf(t.Tip)), t.Tagged})
	}
	return piece
}

func treeOf(n *network.Network, t network.Tree) Tree {
	out := Tree{Between: titles(n, t.Between), Bridges: titles(n, t.Bridges), Resting: restsOf(n, t.Resting), Unsure: restsOf(n, t.Unsure),
		Spare: t.Spare, Assumed: t.Assumed}
	if t.Root >= 0 {
		out.Root = OrNull(titleAt(n, t.Root))
	}
	return out
}

func titles(n *network.Network, devices []int32) []string {
	list := []string{}
	for _, d := range devices {
		list = append(list, titleAt(n, d))
	}
	slices.Sort(list)
	return list
}

func restsOf(n *network.Network, links []int32) []Rest {
	list := []Rest{}
	for _, i := range links {
		a, b := n.EndWords(i)
		list = append(list, Rest{a, b})
	}
	slices.SortFunc(list, func(a, b Rest) int { return cmp.Or(cmp.Compare(a.A, b.A), cmp.Compare(a.B, b.B)) })
	return list
}

func aggregateOf(n *network.Network, g network.Group) Aggregated {
	out := Aggregated{Device: titleAt(n, g.Device), Name: g.Name, Mode: g.Mode, Ports: g.Ports, To: titles(n, g.Far), AtLeast: g.AtLeast}
	if g.FlowMb > 0 {
		out.TogetherMb, out.FlowMb = &g.TogetherMb, &g.FlowMb
	}
	return out
}

func vlansText(r VLANs) lines {
	t := lines{head: []string{"VLAN", "NAME", "DOMAIN", "PIECE", "DEVICES", "PORTS"}, none: "no VLANs documented"}
	for _, v := range r.VLANs {
		row := []string{fmt.Sprint(v.Number), v.Name, string(v.Domain)}
		if len(v.Pieces) == 0 {
			t.rows = append(t.rows, append(row, "-", "no cable carries it", ""))
		}
		for i, p := range v.Pieces {
			t.rows = append(t.rows, append(slices.Clone(row), fmt.Sprintf("%d of %d", i+1, len(v.Pieces)), strings.Join(p.Devices, ", "),
				fmt.Sprint(len(p.Ports))))
		}
	}
	var foot []string
	for _, tree := range r.Trees {
		if tree.Spare == 0 {
			continue
		}
		root := "unknown, one of " + strings.Join(tree.Between, ", ")
		if tree.Root != "" {
			root = string(tree.Root)
		}
		say := fmt.Sprintf("Root %s; of the links %d rest", root, tree.Spare)
		for _, rest := range tree.Resting {
			say += fmt.Sprintf("; %s - %s rests", rest.A, rest.B)
		}
		foot = append(foot, say+".")
	}
	for _, g := range r.Aggregates {
		speed := "?"
		if g.TogetherMb != nil {
			speed = fmt.Sprintf("%s together, %s for one flow", cabling.SpeedWords(*g.TogetherMb), cabling.SpeedWords(*g.FlowMb))
		}
		foot = append(foot, fmt.Sprintf("%s %s (%s) to %s: %s.", g.Device, g.Name, g.Mode, strings.Join(g.To, ", "), speed))
	}
	t.foot = strings.Join(foot, "\n")
	return t
}
