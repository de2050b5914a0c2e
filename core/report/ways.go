package report

import (
	"fmt"
	"strconv"
	"strings"

	"levelstaff/core/cabling"
	"levelstaff/core/lab"
	"levelstaff/core/network"
	"levelstaff/core/rundown"
)

// WidestWay is the widest way from one device to another.
type WidestWay struct {
	From      string   `json:"from" required:"true"`
	To        string   `json:"to" required:"true"`
	SpeedMb   *int     `json:"speed_mb,omitempty" description:"What all flows get together; absent while unknown, or without a way"`
	OneFlowMb *int     `json:"one_flow_mb,omitempty" description:"What one flow gets: of aggregated links one"`
	AtMost    bool     `json:"at_most,omitempty" description:"It may be less: something on the way is unknown"`
	Hops      []WayHop `json:"hops" required:"true" nullable:"false" description:"The devices on the way; none where there is no way"`
	HeldBy    []string `json:"held_by" required:"true" nullable:"false" description:"What keeps it from being wider"`
	Standby   []string `json:"standby" required:"true" nullable:"false" description:"Links that would take over from one it uses"`
	MayRest   []string `json:"may_rest" required:"true" nullable:"false" description:"Links it uses that may rest: which does cannot be told"`
	LengthM   float64  `json:"length_m" required:"true" description:"Of its cables whose length is known"`
	Lacks     int      `json:"unmeasured,omitempty" description:"How many of its cables have no known length"`
	Why       string   `json:"why,omitempty" description:"Why there is no way"`
}

// WayHop is a device on a way.
type WayHop struct {
	Device string   `json:"device" required:"true"`
	ID     lab.ID   `json:"device_id" required:"true"`
	In     string   `json:"in" required:"true" description:"The port frames come in by, empty at the first; an aggregate is written as a port"`
	Out    string   `json:"out" required:"true" description:"The port by which they go on; empty at the last"`
	Mb     *int     `json:"out_mb,omitempty" description:"What the link that leads on carries; absent while unknown, and at the last"`
	AtMost bool     `json:"at_most,omitempty" description:"It may be less"`
	Cables []lab.ID `json:"cable_ids" required:"true" nullable:"false" description:"The first cable of each link that leads on"`
	Air    bool     `json:"air,omitempty" description:"The link that leads on has no cable"`
}

func waysOf(a Ask) (WidestWay, error) {
	from, err := deviceAsked(a, "from")
	if err != nil {
		return WidestWay{}, err
	}
	to, err := deviceAsked(a, "to")
	if err != nil {
		return WidestWay{}, err
	}
	if from.ID == to.ID {
		return WidestWay{}, &Wrong{"to", "A way leads from one device to another one, and these are the same."}
	}
	n := network.Of(a.Lab)
	x, _ := n.Wiring().Number(from.ID)
	y, _ := n.Wiring().Number(to.ID)
	if a.With["vlan"] == "" {
		w := n.Everywhere().Way(x, y)
		return wayOf(n, from, to, w, "No link leads there."), nil
	}
	number, err := strconv.Atoi(strings.TrimSpace(a.With["vlan"]))
	if err != nil || number < lab.FirstVLAN || number > lab.LastVLAN {
		return WidestWay{}, &Wrong{"vlan", fmt.Sprintf("A VLAN is a number from 1 to 4094, not %q.", a.With["vlan"])}
	}
	var widest network.Way // of those in its pieces
	for _, in := range n.InVLAN(number) {
		if w := in.Way(x, y); len(w.Hops) > 0 && (len(widest.Hops) == 0 || w.Mb > widest.Mb) {
			widest = w
		}
	}
	return wayOf(n, from, to, widest, whyNot(n, number, from, to, x, y)), nil
}

// whyNot says why a VLAN leads from nowhere to nowhere.
func whyNot(n *network.Network, number int, from, to lab.Device, x, y int32) string {
	at := map[int32]bool{}
	for _, s := range n.Spreads() {
		for _, p := range s.Pieces {
			at[x], at[y] = at[x] || s.VLAN.Number == number && p.Has(x), at[y] || s.VLAN.Number == number && p.Has(y)
		}
	}
	switch {
	case !at[x] && !at[y]:
		return fmt.Sprintf("VLAN %d reaches neither %s nor %s.", number, from.Title(), to.Title())
	case !at[x]:
		return fmt.Sprintf("VLAN %d does not reach %s.", number, from.Title())
	case !at[y]:
		return fmt.Sprintf("VLAN %d does not reach %s.", number, to.Title())
	}
	return fmt.Sprintf("%s and %s are in different pieces of VLAN %d.", from.Title(), to.Title(), number)
}

// deviceAsked is the device that a parameter names, by its name or ID.
func deviceAsked(a Ask, param string) (lab.Device, error) {
	said := strings.TrimSpace(a.With[param])
	if said == "" {
		return lab.Device{}, &Wrong{param, fmt.Sprintf("Name the device the way leads %s.", param)}
	}
	if d, ok := lab.Find[lab.Device](a.Lab, lab.ID(said)); ok {
		return d, nil
	}
	if id, ok := rundown.DeviceNamed(a.Lab)(said); ok {
		d, _ := lab.Find[lab.Device](a.Lab, id)
		return d, nil
	}
	return lab.Device{}, &Wrong{param, fmt.Sprintf("There is no device %q, by name or ID.", said)}
}

func wayOf(n *network.Network, from, to lab.Device, w network.Way, why string) WidestWay {
	out := WidestWay{From: from.Title(), To: to.Title(), AtMost: w.AtMost && w.Mb > 0, Hops: []WayHop{},
		HeldBy:  append([]string{}, w.HeldBy...),
		Standby: linksOf(n, w.Standby), MayRest: linksOf(n, w.Unsure), LengthM: w.LengthM, Lacks: w.Lacks}
	if len(w.Hops) == 0 {
		out.Why = why
	}
	if w.Mb > 0 {
		out.SpeedMb, out.OneFlowMb = &w.Mb, &w.FlowMb
	}
	for _, h := range w.Hops {
		d := n.Wiring().DeviceAt(h.Device)
		hop := WayHop{Device: d.Title(), ID: d.ID, In: h.In, Out: h.Out, AtMost: h.AtMost, Cables: []lab.ID{}}
		if h.Mb > 0 {
			hop.Mb = &h.Mb
		}
		for _, l := range h.Over {
			link := n.Links()[l]
			hop.Air = hop.Air || !link.A.Plugged()
			if link.Guest == "" || link.Air != nil {
				hop.Cables = append(hop.Cables, n.Wiring().CableOf(link.Link).ID)
			}
		}
		out.Hops = append(out.Hops, hop)
	}
	return out
}

func linksOf(n *network.Network, links []int32) []string {
	list := []string{}
	for _, l := range links {
		list = append(list, n.LinkWords(l))
	}
	return list
}

func waysText(w WidestWay) lines {
	t := lines{head: []string{"DEVICE", "IN", "OUT", "CARRIES"}, none: w.Why}
	for i, h := range w.Hops {
		carries := ""
		if i < len(w.Hops)-1 {
			carries = "?"
		}
		if h.Mb != nil {
			carries = cabling.Speed{Mb: h.Mb, AtMost: h.AtMost}.Words()
		}
		t.rows = append(t.rows, []string{h.Device, h.In, h.Out, carries})
	}
	say := []string{fmt.Sprintf("%s to %s: width unknown", w.From, w.To)}
	if w.SpeedMb != nil {
		say[0] = fmt.Sprintf("%s to %s: %s", w.From, w.To, cabling.Speed{Mb: w.SpeedMb, AtMost: w.AtMost}.Words())
		if *w.OneFlowMb < *w.SpeedMb {
			say[0] += ", one flow " + cabling.SpeedWords(*w.OneFlowMb)
		}
	}
	if len(w.HeldBy) > 0 {
		say = append(say, "Held down by "+lab.Listed(w.HeldBy, 6))
	}
	if len(w.Standby) > 0 {
		say = append(say, "Standing by: "+lab.Listed(w.Standby, 6))
	}
	if len(w.MayRest) > 0 {
		say = append(say, "May rest: "+lab.Listed(w.MayRest, 6))
	}
	t.foot = strings.Join(say, ".\n") + "."
	return t
}

// Threads are what the network hangs by.
type Threads struct {
	Threads []Thread `json:"threads" required:"true" nullable:"false" description:"The worst first"`
	Line    bool     `json:"from_line" required:"true" description:"Cut off is from the line outside; otherwise from the largest piece"`
}

// Thread is a link or a device whose loss cuts something off.
type Thread struct {
	What    string   `json:"what" required:"true" enum:"device,link"`
	Title   string   `json:"title" required:"true" description:"A device's name, or a link by its two ports"`
	Device  lab.ID   `json:"device_id,omitempty"`
	Cable   lab.ID   `json:"cable_id,omitempty" description:"The first cable of a link; absent for a guest of a wireless network"`
	CutsOff []string `json:"cuts_off" required:"true" nullable:"false"`
}

func threadsOf(a Ask) (Threads, error) {
	n := network.Of(a.Lab)
	all := n.Threads()
	out := Threads{Threads: []Thread{}, Line: n.FromALine()}
	for _, th := range all.List {
		is := Thread{What: "device", Title: n.ThreadWords(th), CutsOff: titles(n, all.CutsOff(th))}
		if th.Device >= 0 {
			is.Device = n.Wiring().DeviceAt(th.Device).ID
		} else {
			is.What = "link"
			if l := n.Links()[th.Link]; l.Guest == "" || l.Air != nil {
				is.Cable = n.Wiring().CableOf(l.Link).ID
			}
		}
		out.Threads = append(out.Threads, is)
	}
	return out, nil
}

func threadsText(r Threads) lines {
	t := lines{head: []string{"LOST", "CUTS OFF", ""}, none: "nothing hangs by one thread"}
	for _, th := range r.Threads {
		t.rows = append(t.rows, []string{th.Title, fmt.Sprint(len(th.CutsOff)), lab.Listed(th.CutsOff, 8)})
	}
	t.foot = "From the largest piece that is left: no line outside is documented."
	if r.Line {
		t.foot = "From the line outside."
	}
	return t
}

// SlowLinks are those that could be faster.
type SlowLinks struct {
	Slow []SlowLink `json:"slow" required:"true" nullable:"false" description:"What wins most first"`
}

// SlowLink is a link that runs below what one of its ends or its cables could do.
type SlowLink struct {
	Link    string `json:"link" required:"true" description:"By its two ports"`
	Cable   lab.ID `json:"cable_id" required:"true" description:"Its first cable"`
	NowMb   int    `json:"now_mb" required:"true"`
	CouldMb int    `json:"could_mb" required:"true"`
	Fix     string `json:"fix" required:"true" description:"The cheapest that makes it so"`
	Lacks   bool   `json:"lacks,omitempty" description:"Nothing that is there makes it so: the fix says what it would take"`
}

func slowOf(a Ask) (SlowLinks, error) {
	n := network.Of(a.Lab)
	out := SlowLinks{[]SlowLink{}}
	for _, s := range n.Slow() {
		cable := n.Wiring().CableOf(n.Links()[s.Link].Link)
		out.Slow = append(out.Slow, SlowLink{n.LinkWords(s.Link), cable.ID, s.Mb, s.Could, s.Fix, s.Lacks})
	}
	return out, nil
}

func slowText(r SlowLinks) lines {
	t := lines{head: []string{"LINK", "NOW", "COULD", "FIX"}, none: "no link runs below what its ends and cables could do"}
	for _, s := range r.Slow {
		t.rows = append(t.rows, []string{s.Link, cabling.SpeedWords(s.NowMb), cabling.SpeedWords(s.CouldMb), s.Fix})
	}
	return t
}
