package drill

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
	"levelstaff/core/reach"
	"levelstaff/core/request"
	"levelstaff/core/service"
)

// Node is a thing in the picture of what needs what: a service, a guest, a device, a pool or
// a tunnel; or a stack with all that is in it.
type Node struct {
	Of    lab.Key
	Title string
	Kind  string // as Whole.Kind; stack for one that is folded
	Worth lab.Worth
	Holds int // of a folded stack, how many things it stands for
}

// Link is that one node needs another.
type Link struct {
	Of, To lab.Key
	How    string
	Soft   bool // it goes on without
	Or     bool // another one would do too
}

// Picture is what needs what as one looks at it: what matters most first. Disks, shares and
// names are passed over for what they are on or lead through; what everything needs, its
// feed, its gateway and a name server, is left out, as it would hide all else. Stacks are
// folded but for those that are open.
func (w *Whole) Picture(open func(stack lab.ID) bool) (nodes []Node, links []Link) {
	p := picture{Whole: w, edges: map[lab.Key][]Edge{}, in: map[lab.Key]lab.Key{}, holds: map[lab.Key]int{}}
	for s := range lab.Each[lab.Stack](w.lab) {
		if open(s.ID) {
			continue
		}
		for _, ref := range s.Refs() {
			if p.in[ref.To].ID == "" {
				p.in[ref.To] = s.Key()
				p.holds[s.Key()]++
			}
		}
	}
	all := w.Edges()
	for _, e := range all {
		p.edges[e.Of] = append(p.edges[e.Of], e)
	}
	drawn, there := map[Link]bool{}, map[lab.Key]bool{}
	add := func(k lab.Key) {
		if !there[k] {
			there[k] = true
			nodes = append(nodes, p.node(k))
		}
	}
	for _, e := range all {
		if passedOver(e.Of) || everywhere(e.How) || e.Of.Kind == lab.KindTunnel {
			continue
		}
		var to []lab.Key
		for _, k := range e.Any {
			for _, k := range p.behind(k, 0) {
				if !slices.Contains(to, k) {
					to = append(to, k)
				}
			}
		}
		of := p.folded(e.Of)
		for _, k := range to {
			l := Link{of, p.folded(k), cmp.Or(passing[e.How], e.How), e.Soft, len(e.Any) > 1}
			if l.Of == l.To || drawn[l] {
				continue
			}
			drawn[l] = true
			add(l.Of)
			add(l.To)
			links = append(links, l)
		}
	}
	slices.SortStableFunc(nodes, func(a, b Node) int {
		return cmp.Or(a.Worth.Rank()-b.Worth.Rank(), cmp.Compare(b.Kind, a.Kind), cmp.Compare(a.Title, b.Title), cmp.Compare(a.Of.ID, b.Of.ID))
	})
	return nodes, links
}

type picture struct {
	*Whole
	edges map[lab.Key][]Edge
	in    map[lab.Key]lab.Key // the folded stack of a record
	holds map[lab.Key]int
}

func (p picture) folded(k lab.Key) lab.Key {
	if s, ok := p.in[k]; ok {
		return s
	}
	return k
}

func (p picture) node(k lab.Key) Node {
	n := Node{Of: k, Title: p.Title(k), Kind: p.Kind(k), Worth: p.matters(k), Holds: p.holds[k]}
	for member, stack := range p.in {
		if stack == k && p.matters(member).Rank() < n.Worth.Rank() {
			n.Worth = p.matters(member)
		}
	}
	return n
}

// behind are what a record stands for: itself, or what a disk is on and a name leads through.
func (p picture) behind(k lab.Key, deep int) []lab.Key {
	if !passedOver(k) {
		return []lab.Key{k}
	}
	var list []lab.Key
	for _, e := range p.edges[k] {
		if everywhere(e.How) || deep >= deepest {
			continue
		}
		for _, any := range e.Any {
			list = append(list, p.behind(any, deep+1)...)
		}
	}
	return list
}

// passing is how one needs what is behind what is passed over.
var passing = map[string]string{service.DiskOn: "has its disk on", request.ReachedBy: "is reached through",
	service.DiskOver: "gets at its disk on"}

func passedOver(k lab.Key) bool {
	return k.Kind == lab.KindDataset || k.Kind == lab.KindShare || k.Kind == lab.KindName
}

// everywhere are the ways in which nearly everything needs something.
func everywhere(how string) bool {
	return slices.Contains([]string{reach.Gateway, reach.GatewayOver, power.FedBy, service.FindsBy, request.AnsweredBy}, how)
}
