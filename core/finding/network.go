package finding

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/network"
)

// networkChecks are those about VLANs, the spanning tree and aggregates.
var networkChecks = []check{
	{"island", "a VLAN in several pieces", islands},
	{"untagged-differs", "a link whose ends put untagged frames into different VLANs", untaggedDiffers},
	{"one-end-only", "a VLAN that one end of a link carries and the other does not", oneEndOnly},
	{"tagged-unmanaged", "tagged VLANs through an unmanaged switch", taggedUnmanaged},
	{"not-declared", "a VLAN used and not declared", notDeclared},
	{"nowhere", "a VLAN declared and carried nowhere", nowhere},
	{"root-at-edge", "the root of the spanning tree is at the edge", rootAtEdge},
	{"fast-rests", "a slow link carries while a faster one rests", fastRests},
	{"uncut-loop", "a loop that no switch cuts", uncutLoops},
	{"aggregate", "an aggregate whose ends do not match", aggregates},
	{"wireless-vlan", "a wireless network whose VLAN does not get to its access point", wirelessVLANs},
}

// ofNetwork are the names of those about the network, ofPower of those about power,
// ofStorage of those about pools and copies, ofService of those about what runs where.
var (
	ofNetwork = namesOf(networkChecks, addressChecks, reachChecks)
	ofPower   = namesOf(powerChecks, on("", batteryChecks))
	ofStorage = namesOf(storageChecks, on("", copyChecks))
	ofService = namesOf(serviceChecks, needChecks, wayChecks, on("", supportChecks), on("", certificateChecks))
)

func namesOf(checks ...[]check) map[string]bool {
	names := map[string]bool{}
	for _, c := range slices.Concat(checks...) {
		names[c.name] = true
	}
	return names
}

// OfNetwork runs the checks about how frames are carried alone.
func OfNetwork(l *lab.Lab) []Finding { return run(l, networkChecks, "") }

// OfAddresses runs those about addresses, names, routers and who reaches whom.
func OfAddresses(l *lab.Lab) []Finding { return run(l, slices.Concat(addressChecks, reachChecks), "") }

// deviceAt is a device of a network as a record.
func deviceAt(n *network.Network, device int32) lab.Device { return *n.Wiring().DeviceAt(device) }

// recordOf is a VLAN's record, or nothing where nobody declared it.
func recordOf(v network.VLAN) []lab.Record {
	if v.Record.ID == "" {
		return nil
	}
	return []lab.Record{v.Record}
}

// fewPieces is how many pieces of a VLAN the findings speak of at the most.
const fewPieces = 5

func islands(l *lab.Lab, tell found) {
	n := network.Of(l)
	for _, s := range n.Spreads() {
		for i := 1; i < min(len(s.Pieces), fewPieces); i++ {
			about := recordOf(s.VLAN)
			var names []string
			for _, d := range s.Pieces[i].Devices() {
				if !s.Pieces[0].Has(d) || n.RoleOf(d) == network.Ends {
					names, about = append(names, deviceAt(n, d).Title()), append(about, deviceAt(n, d))
				}
			}
			fix := n.Join(s, i)
			say := fmt.Sprintf("%s is in %d pieces: %s %s cut off from the rest.", vlanWords(s.VLAN), len(s.Pieces), someOf(names),
				isAre(len(names)))
			if len(fix) > 0 {
				say += " " + strings.TrimSuffix(n.Say(fix), ".") + " to join them."
			}
			tell(Act, say, about...).fixedBy(n.Say(fix), n.Changes(fix))
		}
	}
}

func vlanWords(v network.VLAN) string { return "VLAN " + v.Title() }

func isAre(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}

// someOf lists names, and counts those beyond a few.
func someOf(names []string) string {
	return lab.Listed(slices.Compact(slices.Sorted(slices.Values(names))), 4)
}

func untaggedDiffers(l *lab.Lab, tell found) {
	n := network.Of(l)
	for i := range n.Links() {
		a, b, ok := n.Said(int32(i))
		if !ok || a.Untagged == 0 || b.Untagged == 0 || a.Untagged == b.Untagged {
			continue
		}
		x, y := n.EndWords(int32(i))
		f := tell(Act, fmt.Sprintf("Untagged frames are in VLAN %d at %s and in %d at %s, the two ends of one link.", a.Untagged, x, b.Untagged,
			y),
			n.Wiring().CableOf(n.Links()[i].Link), deviceAt(n, a.Device), deviceAt(n, b.Device))
		fix := network.Fix{{Device: b.Device, Port: n.Wiring().KeyOf(b.Tip), VLAN: a.Untagged}}
		f.fixedBy(n.Say(fix), n.Changes(fix))
	}
}

// oneEndOnly tells what one end of a link carries and the other does not. What is
// said to carry all cannot miss one.
func oneEndOnly(l *lab.Lab, tell found) {
	n := network.Of(l)
	for i := range n.Links() {
		a, b, ok := n.Said(int32(i))
		if !ok || a.Untagged > 0 && b.Untagged > 0 && a.Untagged != b.Untagged {
			continue // told as such
		}
		for _, ends := range [][2]network.SaidEnd{{a, b}, {b, a}} {
			from, to := ends[0], ends[1]
			var numbers []string
			var fix network.Fix
			for number := range from.Tagged.Numbers() {
				carries, tagged := to.Has(number)
				if carries && tagged {
					continue
				}
				numbers = append(numbers, fmt.Sprint(number))
				fix = append(fix, network.Edit{Device: to.Device, Port: n.Wiring().KeyOf(to.Tip), VLAN: number, Tagged: true})
			}
			if number := from.Untagged; number > 0 && to.Untagged == 0 && !to.Tagged.Has(number) {
				numbers = append(numbers, fmt.Sprintf("%d untagged", number))
				fix = append(fix, network.Edit{Device: to.Device, Port: n.Wiring().KeyOf(to.Tip), VLAN: number})
			}
			if len(numbers) == 0 {
				continue
			}
			f := tell(Watch, fmt.Sprintf("%s carries %s, and %s at the other end does not.", n.TipWords(from.Tip), manyOf(numbers),
				n.TipWords(to.Tip)),
				n.Wiring().CableOf(n.Links()[i].Link), deviceAt(n, from.Device), deviceAt(n, to.Device))
			if say := fmt.Sprintf("Carry %s on %s too.", manyOf(numbers), n.TipWords(to.Tip)); n.Links()[i].Air == nil {
				f.fixedBy(say, n.Changes(fix))
			}
		}
	}
}

// manyOf lists numbers in their order, and counts those beyond a few.
func manyOf(numbers []string) string {
	said := lab.Listed(numbers, 6)
	if len(numbers) > 1 {
		return "VLANs " + said
	}
	return "VLAN " + said
}

func taggedUnmanaged(l *lab.Lab, tell found) {
	n := network.Of(l)
	through := map[int32][]string{}
	for _, s := range n.Spreads() {
		seen := map[int32]bool{}
		for _, p := range s.Pieces {
			for _, t := range p.Tips {
				d := deviceAt(n, t.Device)
				if t.Tagged && !seen[t.Device] && n.RoleOf(t.Device) == network.Passes && (l.SpecOf(d).Managed == lab.Unmanaged || d.Kind == lab.Hub) {
					seen[t.Device] = true
					through[t.Device] = append(through[t.Device], fmt.Sprint(s.VLAN.Number))
				}
			}
		}
	}
	for device := range int32(n.Wiring().DeviceCount()) {
		if numbers := through[device]; len(numbers) > 0 {
			d := deviceAt(n, device)
			tell(Watch, fmt.Sprintf("%s is unmanaged, and %s %s through it tagged: everything plugged in there can see %s.", d.Title(),
				manyOf(numbers), map[bool]string{true: "goes", false: "go"}[len(numbers) == 1],
				map[bool]string{true: "it", false: "them"}[len(numbers) == 1]), d)
		}
	}
}

func notDeclared(l *lab.Lab, tell found) {
	n := network.Of(l)
	for _, s := range n.Spreads() {
		if s.VLAN.Record.ID != "" {
			continue
		}
		var about []lab.Record
		where := "ports are said to carry it"
		if len(s.Pieces) > 0 {
			device := s.Pieces[0].Tips[0].Device
			about = append(about, deviceAt(n, device))
			where = "it is on " + someOf(titlesOf(n, s.Pieces[0].Devices()))
		}
		f := tell(Note, fmt.Sprintf("%s is not declared, and %s.", vlanWords(s.VLAN), where), about...)
		f.Key = fmt.Sprintf("not-declared %d %s", s.VLAN.Number, s.VLAN.Domain)
	}
}

func titlesOf(n *network.Network, devices []int32) []string {
	var names []string
	for _, d := range devices {
		names = append(names, deviceAt(n, d).Title())
	}
	return names
}

func nowhere(l *lab.Lab, tell found) {
	for _, s := range network.Of(l).Spreads() {
		if s.VLAN.Record.ID != "" && len(s.Pieces) == 0 {
			tell(Note, fmt.Sprintf("%s is declared, and no cable carries it.", vlanWords(s.VLAN)), s.VLAN.Record)
		}
	}
}

// rootAtEdge tells where the root has one link to other switches, and another one
// has several.
func rootAtEdge(l *lab.Lab, tell found) {
	n := network.Of(l)
	for _, t := range n.Trees() {
		if t.Root < 0 || len(t.Bridges) < 3 {
			continue
		}
		most := slices.MaxFunc(t.Bridges, func(a, b int32) int { return cmp.Or(n.Degree(a)-n.Degree(b), cmp.Compare(b, a)) })
		if n.Degree(t.Root) > 1 || n.Degree(most) < 2 {
			continue
		}
		root, heart := deviceAt(n, t.Root), deviceAt(n, most)
		f := tell(Watch, fmt.Sprintf("%s is the root of the spanning tree and has one link to other switches; %s has %d.", root.Title(),
			heart.Title(),
			n.Degree(most)), root, heart)
		const lowest, usual = 0, 4096
		priority := usual
		if p := root.Priority; p != nil && *p <= usual {
			priority = lowest
		}
		if p := root.Priority; p != nil && *p == lowest {
			continue
		}
		changed := heart
		changed.Priority = &priority
		if c, ok := l.Put(changed); ok {
			f.fixedBy(fmt.Sprintf("Give %s the bridge priority %d.", heart.Title(), priority), []lab.Change{c})
		}
	}
}

// fastRests tells where a link rests that is faster than one that carries in its
// stead.
func fastRests(l *lab.Lab, tell found) {
	n := network.Of(l)
	for _, t := range n.Trees() {
		for _, rest := range t.Resting {
			slow, ok := n.Instead(t, rest)
			if !ok {
				continue
			}
			a, b := n.EndWords(rest)
			c, d := n.EndWords(slow)
			fast, held := n.Links()[rest].Mb, n.Links()[slow].Mb
			f := tell(Watch, fmt.Sprintf("%s - %s rests at %s, and %s - %s carries in its stead at %s.", a, b, cabling.SpeedWords(fast), c, d,
				cabling.SpeedWords(held)), n.Wiring().CableOf(n.Links()[rest].Link), n.Wiring().CableOf(n.Links()[slow].Link))
			if say, changes := n.Reroot(t, rest); say != "" {
				f.fixedBy(say, changes)
			}
		}
	}
}

func uncutLoops(l *lab.Lab, tell found) {
	n := network.Of(l)
	for _, loop := range n.Loops() {
		var about []lab.Record
		for _, d := range loop.Devices {
			about = append(about, deviceAt(n, d))
		}
		a, b := n.EndWords(loop.Links[0])
		tell(Act, fmt.Sprintf("Frames go round through %s, and none of them cuts a loop: unplug %s - %s.", someOf(titlesOf(n, loop.Devices)), a,
			b),
			about...)
	}
}

func aggregates(l *lab.Lab, tell found) {
	n := network.Of(l)
	groups := n.Groups()
	for i, g := range groups {
		d := deviceAt(n, g.Device)
		name := d.Title() + " " + g.Name
		linked := slices.DeleteFunc(slices.Clone(g.Links), func(l int32) bool { return l < 0 })
		if len(linked) == 0 {
			continue // what it leads to is a gap
		}
		if speeds := n.SpeedsOf(linked); len(speeds) > 1 && g.Mode == lab.ActiveActive {
			tell(Watch, fmt.Sprintf("The links of %s run at different speeds: %s.", name, strings.Join(speeds, " and ")), d)
		}
		if a, b, differ := n.DifferIn(g); differ {
			tell(Watch, fmt.Sprintf("The ports of %s carry different VLANs: %s and %s do not match.", name, a, b), d)
		}
		if g.Mode == lab.ActiveStandby {
			continue // it needs no group at the other end, and may end at two
		}
		switch far := deviceAt(n, g.Far[0]); {
		case len(g.Far) > 1:
			tell(Watch, fmt.Sprintf("%s is active-active and ends at %s: it has to end at one device.", name, someOf(titlesOf(n, g.Far))), d)
		case g.Other < 0:
			tell(Watch, fmt.Sprintf("%s is an aggregate, and %s at its other end has none.", name, far.Title()), d, far)
		case groups[g.Other].Mode == lab.ActiveStandby:
			tell(Watch, fmt.Sprintf("%s is active-active, and %s %s at its other end is active-standby.", name, far.Title(), groups[g.Other].Name),
				d, far)
		case g.Other > i && !n.SameLinks(g, groups[g.Other]):
			tell(Watch, fmt.Sprintf("%s and %s %s do not have the same links: not each port of the one leads to one of the other.", name,
				far.Title(),
				groups[g.Other].Name), d, far)
		}
	}
}

func wirelessVLANs(l *lab.Lab, tell found) {
	n := network.Of(l)
	for net := range lab.Each[lab.WirelessNetwork](l) {
		if net.VLAN == nil {
			continue
		}
		for _, id := range net.Points {
			device, ok := n.Wiring().Number(id)
			if !ok {
				continue
			}
			lacks, fix := n.Lacks(device, *net.VLAN)
			if !lacks {
				continue
			}
			d := deviceAt(n, device)
			f := tell(Act, fmt.Sprintf("%s sends %s in VLAN %d, and none of its links carries that.", d.Title(), net.Name, *net.VLAN), d, net)
			if len(fix) > 0 {
				f.fixedBy(n.Say(fix), n.Changes(fix))
			}
		}
	}
}
