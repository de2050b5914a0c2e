package network

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
)

// Slow is a link that runs below what one of its ends or its cables could do.
type Slow struct {
	Link      int32
	Mb, Could int    // in Mbit/s, now and with the fix
	Fix       string // the cheapest thing to do, or what it would take
	Lacks     bool   // nothing that is there or can be plugged in makes it faster
}

// Slow lists the links that could be faster, those that win most first. It takes as
// long as the lab has ports. A setting is cheaper than anything one does at the rack.
func (n *Network) Slow() []Slow {
	var list []Slow
	told := map[int32]bool{}
	for _, s := range slices.Concat(n.bySetting(), n.byTag()) {
		if !told[s.Link] {
			told[s.Link] = true
			list = append(list, s)
		}
	}
	up := n.w.Upgrades()
	for i := range n.links {
		l := &n.links[i]
		if told[int32(i)] || l.lost || l.Guest != "" {
			continue
		}
		if f, ok := up.Of(l.Link); ok {
			list = append(list, Slow{Link: int32(i), Mb: l.Mb, Could: f.Mb, Fix: sentence(cmp.Or(strings.Join(f.Do, ", and "), f.Lacks)),
				Lacks: f.Lacks != ""})
		}
	}
	slices.SortStableFunc(list, func(a, b Slow) int {
		lacks := func(s Slow) int { return map[bool]int{true: 1}[s.Lacks] }
		return cmp.Or((b.Could-b.Mb)-(a.Could-a.Mb), lacks(a)-lacks(b))
	})
	return list
}

func sentence(s string) string { return strings.ToUpper(s[:1]) + s[1:] + "." }

// bySetting are links that carry while a faster one rests, where another root of the
// spanning tree would change that.
func (n *Network) bySetting() []Slow {
	var list []Slow
	for _, t := range n.Trees() {
		for _, rest := range t.Resting {
			slow, ok := n.Instead(t, rest)
			if !ok {
				continue
			}
			if say, _ := n.Reroot(t, rest); say != "" {
				list = append(list, Slow{Link: slow, Mb: n.links[slow].Mb, Could: n.links[rest].Mb, Fix: say})
			}
		}
	}
	return list
}

// Reroot is which bridge of a tree has to become its root so that a link that rests
// carries, and the change that makes it so; "" where none of the two at its ends
// does, or where that would let others rest that are faster still.
func (n *Network) Reroot(t Tree, rest int32) (say string, changes []lab.Change) {
	i := slices.IndexFunc(n.spans(), func(s *spanning) bool { return s.bridges[0] == t.Bridges[0] })
	of := n.spans()[i]
	lowest := of.priority(slices.MinFunc(of.bridges, func(a, b int32) int { return of.priority(a) - of.priority(b) }))
	priority := lab.UsualPriority
	for priority >= lowest && priority > 0 {
		priority -= lab.PriorityStep
	}
	if priority >= lowest {
		return "", nil // there is none below
	}
	resting := func(links []int32) (mb int) {
		for _, l := range links {
			mb += n.links[l].Mb
		}
		return mb
	}
	for _, root := range []int32{n.links[rest].A.Device, n.links[rest].B.Device} {
		if !slices.Contains(of.bridges, root) {
			continue
		}
		sure, maybe := of.from(root)
		var idle []int32
		for l := range sure {
			idle = append(idle, l)
		}
		if sure[rest] || len(maybe) > 0 || resting(idle) >= resting(t.Resting) {
			continue
		}
		d := *n.w.DeviceAt(root)
		d.Priority = &priority
		if c, ok := n.lab.Put(d); ok {
			a, b := n.EndWords(rest)
			return fmt.Sprintf("Give %s the bridge priority %d, so that %s - %s carries.", d.Title(), priority, a, b), []lab.Change{c}
		}
	}
	return "", nil
}

// byTag are links that carry a VLAN which a faster link between the same two devices
// does not, where that link only has to be told to.
func (n *Network) byTag() []Slow {
	between := map[[2]int32][]int32{}
	for i := range n.links {
		if l := &n.links[i]; !l.Down && !l.lost && l.Guest == "" && l.Mb > 0 && l.A.Device != l.B.Device {
			pair := [2]int32{min(l.A.Device, l.B.Device), max(l.A.Device, l.B.Device)}
			between[pair] = append(between[pair], int32(i))
		}
	}
	idle := n.crossed().idle
	together := func(a, b int32) bool {
		return slices.ContainsFunc(n.Groups(), func(g Group) bool { return slices.Contains(g.Links, a) && slices.Contains(g.Links, b) })
	}
	var list []Slow
	for i := range n.links {
		l := &n.links[i]
		if l.Mb == 0 || len(l.vlans) == 0 {
			continue
		}
		for _, fast := range between[[2]int32{min(l.A.Device, l.B.Device), max(l.A.Device, l.B.Device)}] {
			f := &n.links[fast]
			if f.Mb <= l.Mb || slices.Contains(idle, fast) || together(int32(i), fast) {
				continue
			}
			if fix := n.overToo(l, fast); fix != nil {
				a, b := n.EndWords(fast)
				say := strings.TrimSuffix(n.Say(fix), ".") + fmt.Sprintf(", so that it goes over %s - %s.", a, b)
				list = append(list, Slow{Link: int32(i), Mb: l.Mb, Could: f.Mb, Fix: say})
			}
		}
	}
	return list
}

// overToo is what a link has to be told to carry a VLAN that another one carries, the
// first that it does not; nil where there is none or its ports cannot.
func (n *Network) overToo(l *Link, fast int32) Fix {
	f := &n.links[fast]
	for _, o := range l.vlans {
		number := n.vlans[o.vlan].Number
		if slices.ContainsFunc(f.vlans, func(p over) bool { return p.vlan == o.vlan }) {
			continue
		}
		a, okA := n.fixAt(f, true, number, true)
		b, okB := n.fixAt(f, false, number, true)
		if okA && okB && len(a)+len(b) > 0 {
			return slices.Concat(a, b)
		}
	}
	return nil
}
