package report

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/drill"
	"levelstaff/core/lab"
	"levelstaff/core/rundown"
)

// Gone is what comes of something going.
type Gone struct {
	Say   string   `json:"say" required:"true" description:"In one sentence"`
	Stops []HitRow `json:"stops" required:"true" nullable:"false" description:"What people use first, and of that what matters most"`
	Limps []HitRow `json:"limps" required:"true" nullable:"false" description:"What goes on with less than it had"`
	// CutOff is from the line outside or, where none comes in, from the rest of its network.
	CutOff    []HitRow `json:"cut_off" required:"true" nullable:"false" description:"What runs and has no way out any more"`
	NoticedBy []string `json:"noticed_by" required:"true" nullable:"false" description:"Who is said to use what stops"`
	// Names has only the networks that lose a name server.
	Names []NamesLeft `json:"names" required:"true" nullable:"false" description:"Who still answers for names, where a name server is lost"`
}

// NamesLeft is who answers for names in some networks.
type NamesLeft struct {
	Say   string   `json:"say" required:"true" description:"In one sentence"`
	In    []string `json:"in" required:"true" nullable:"false" description:"The networks, by their VLANs or prefixes"`
	Still []string `json:"still" required:"true" nullable:"false" description:"In the order in which they are asked"`
	Gone  []string `json:"gone" required:"true" nullable:"false" description:"Those that answered before"`
}

// HitRow is something that is hit.
type HitRow struct {
	Kind  string         `json:"kind" required:"true" description:"A kind of record; of devices a VM or a container is a guest"`
	ID    lab.ID         `json:"id" required:"true"`
	Of    lab.RecordKind `json:"record_kind" required:"true"`
	Title string         `json:"title" required:"true"`
	To    string         `json:"to" required:"true" description:"The page that shows it"`
	Worth lab.Worth      `json:"worth,omitempty"`
	Why   []string       `json:"why" required:"true" nullable:"false" description:"From what it needs to what went, step by step"`
}

func hitRows(l *lab.Lab, list []drill.Hit) []HitRow {
	rows := []HitRow{}
	for _, h := range list {
		rows = append(rows, HitRow{h.Kind, h.ID, h.Key.Kind, h.Title, rundown.AboutOf(l, l.Get(h.Key)).To, h.Worth, append([]string{}, h.Why...)})
	}
	return rows
}

// portKind is the kind that if_gone takes for an outlet.
const portKind = "port"

// targetAsked is what a report is asked about by kind and ID, or by a name.
func targetAsked(a Ask) (drill.Target, error) {
	kind, id := a.With["kind"], a.With["id"]
	var t drill.Target
	switch kind {
	case portKind:
		var outlet bool
		id, t.Outlet, outlet = strings.Cut(id, "/")
		d, err := deviceAsked(Ask{Lab: a.Lab, With: map[string]string{"id": id}}, "id")
		if err != nil {
			return t, err
		}
		ports := a.Lab.PortsOf(d)
		if _, ok := ports.Index(t.Outlet); !ok || !outlet {
			return t, &Wrong{"id", fmt.Sprintf("%s has no port %q; write the device's ID and the port, such as %s/out3.", d.Title(), t.Outlet, d.ID)}
		}
		t.Key = d.Key()
		return t, nil
	case "guest", string(lab.KindDevice):
		d, err := deviceAsked(a, "id")
		t.Key = d.Key()
		return t, err
	}
	if !slices.Contains(drill.Kinds(), lab.RecordKind(kind)) {
		return t, &Wrong{"kind", fmt.Sprintf("%q is not what may go; it is %s, guest or port.", kind, lab.Listed(kindsThatGo(), 20))}
	}
	t.Key = lab.Key{Kind: lab.RecordKind(kind), ID: lab.ID(id)}
	if a.Lab.Get(t.Key) != nil {
		return t, nil
	}
	if named, ok := a.Lab.Named(t.Kind, id); ok {
		t.ID = named
		return t, nil
	}
	return t, &Wrong{"id", fmt.Sprintf("There is no %s %q, by name or ID.", t.Kind.Words(), id)}
}

func kindsThatGo() []string {
	var list []string
	for _, k := range drill.Kinds() {
		list = append(list, string(k))
	}
	return list
}

func goneOf(a Ask) (Gone, error) {
	out := Gone{Stops: []HitRow{}, Limps: []HitRow{}, CutOff: []HitRow{}, NoticedBy: []string{}, Names: []NamesLeft{}}
	if a.With["kind"] == "" && a.With["id"] == "" {
		return out, nil
	}
	t, err := targetAsked(a)
	if err != nil {
		return out, err
	}
	w := drill.Of(a.Lab)
	o := w.IfGone(t)
	for _, n := range o.Names {
		out.Names = append(out.Names, NamesLeft{n.Say(), n.In, append([]string{}, n.Still...), n.Gone})
	}
	out.Say, out.Stops, out.Limps, out.CutOff = w.Say(t, o), hitRows(a.Lab, o.Stops), hitRows(a.Lab, o.Limps), hitRows(a.Lab, o.CutOff)
	out.NoticedBy = append(out.NoticedBy, o.NoticedBy...)
	return out, nil
}

func goneText(r Gone) lines {
	t := lines{head: []string{"", "", "WHY"}, none: "Name what goes: kind=device, and its name or ID.", foot: r.Say}
	for _, n := range r.Names {
		t.foot += " " + n.Say
	}
	for _, of := range []struct {
		word string
		list []HitRow
	}{{"stops", r.Stops}, {"limps", r.Limps}, {"is cut off", r.CutOff}} {
		for _, h := range of.list {
			t.rows = append(t.rows, []string{h.Title + ", " + h.Kind, of.word, strings.Join(h.Why, "; ")})
		}
	}
	if len(t.rows) == 0 && r.Say != "" {
		t.none = t.foot
	}
	return t
}

// Circles are things that wait for each other in a dark lab.
type Circles struct {
	// With all of them cut where they say, the lab starts.
	Circles []CircleRow `json:"circles" required:"true" nullable:"false" description:"The shortest first"`
}

// CircleRow is one of them.
type CircleRow struct {
	Titles []string  `json:"titles" required:"true" nullable:"false" description:"Each needs the next, and the last the first"`
	Keys   []lab.Key `json:"keys" required:"true" nullable:"false"`
	Says   []string  `json:"says" required:"true" nullable:"false" description:"How each needs the next"`
	Cut    string    `json:"cut" required:"true" description:"What would open it at the least cost"`
}

func circlesOf(a Ask) (Circles, error) {
	out := Circles{[]CircleRow{}}
	for _, c := range drill.Of(a.Lab).Circles() {
		out.Circles = append(out.Circles, CircleRow{c.Titles, c.Keys, append([]string{}, c.Says...), c.Cut})
	}
	return out, nil
}

func circlesText(r Circles) lines {
	t := lines{head: []string{"CIRCLE", "OPENED AT THE LEAST COST"}, none: "nothing waits for itself: a dark lab starts"}
	for _, c := range r.Circles {
		t.rows = append(t.rows, []string{strings.Join(c.Says, ", "), c.Cut})
	}
	return t
}

// StartOrder is in which order a dark lab comes up.
type StartOrder struct {
	Steps []StartRow `json:"steps" required:"true" nullable:"false"`
	// Unsaid makes the seconds what it takes at least.
	Unsaid int `json:"unsaid" required:"true" description:"How many steps have no wait of their own written down"`
	// Stuck is kept down by a circle.
	Stuck []HitRow `json:"stuck" required:"true" nullable:"false" description:"What runs and would never start again"`
}

// StartRow is one thing that is started.
type StartRow struct {
	Title string  `json:"title" required:"true"`
	ID    lab.ID  `json:"id" required:"true"`
	After float64 `json:"after_s" required:"true" description:"Seconds after the first one, as far as waits are written down"`
}

func startOf(a Ask) (StartOrder, error) {
	s := drill.Of(a.Lab).Start()
	out := StartOrder{[]StartRow{}, s.Unsaid, hitRows(a.Lab, s.Stuck)}
	for _, step := range s.Steps {
		out.Steps = append(out.Steps, StartRow{step.Title, step.ID, step.After})
	}
	return out, nil
}

func startText(r StartOrder) lines {
	t := lines{head: []string{"", "STARTS", "AFTER S, AT LEAST"}, none: "nothing to start"}
	for i, s := range r.Steps {
		t.rows = append(t.rows, []string{strconv.Itoa(i + 1), s.Title, strconv.FormatFloat(s.After, 'f', -1, 64)})
	}
	if len(r.Stuck) > 0 {
		var names []string
		for _, h := range r.Stuck {
			names = append(names, h.Title)
		}
		t.foot = "Never starts: " + lab.Listed(names, 12) + "."
	}
	return t
}

// WorstLosses are all single losses by the harm they do.
type WorstLosses struct {
	Losses []WorstLoss `json:"losses" required:"true" nullable:"false" description:"The most harmful first; none that stops nothing"`
	// OneLeg are those of the household's services that have no stand-by for some one thing.
	OneLeg    []string `json:"on_one_leg" required:"true" nullable:"false" description:"Services that stop when some one thing goes"`
	Household int      `json:"household_services" required:"true" description:"How many services the household has"`
}

// WorstLoss is one of them, counted.
type WorstLoss struct {
	Kind      string `json:"kind" required:"true" description:"As if_gone takes it"`
	ID        string `json:"id" required:"true" description:"As if_gone takes it: of an outlet DEVICEID/PORT"`
	Title     string `json:"title" required:"true"`
	Household int    `json:"household_services" required:"true"`
	Services  int    `json:"services" required:"true"`
	Guests    int    `json:"guests" required:"true"`
	Dark      int    `json:"devices" required:"true"`
}

func worstOf(a Ask) (WorstLosses, error) {
	out := WorstLosses{Losses: []WorstLoss{}, OneLeg: []string{}}
	w := drill.Of(a.Lab)
	legs, of := w.OnOneLeg()
	out.Household = of
	for _, v := range legs {
		out.OneLeg = append(out.OneLeg, v.Title())
	}
	for _, l := range w.Losses() {
		id := string(l.ID)
		if l.Outlet != "" {
			id += "/" + l.Outlet
		}
		out.Losses = append(out.Losses, WorstLoss{l.Kind, id, l.Title, l.Household, l.Services, l.Guests, l.Dark})
	}
	return out, nil
}

func worstText(r WorstLosses) lines {
	t := lines{head: []string{"GONE", "KIND", "HOUSEHOLD SERVICES", "SERVICES", "GUESTS", "DEVICES"},
		none: "nothing stops when any one thing goes"}
	if r.Household > 0 {
		t.foot = fmt.Sprintf("%d of %d of the household's services stop when some one thing goes.", len(r.OneLeg), r.Household)
	}
	for _, l := range r.Losses {
		t.rows = append(t.rows, []string{l.Title, l.Kind, strconv.Itoa(l.Household), strconv.Itoa(l.Services), strconv.Itoa(l.Guests),
			strconv.Itoa(l.Dark)})
	}
	return t
}

// NeedsPicture is what needs what as a picture: who draws it lays it out.
type NeedsPicture struct {
	Nodes  []NeedNode  `json:"nodes" required:"true" nullable:"false" description:"What matters most first"`
	Links  []NeedLink  `json:"links" required:"true" nullable:"false"`
	Stacks []NeedStack `json:"stacks" required:"true" nullable:"false" description:"Those that may be folded"`
}

// NeedNode is a thing in it.
type NeedNode struct {
	ID    lab.ID         `json:"id" required:"true"`
	Of    lab.RecordKind `json:"record_kind" required:"true"`
	Kind  string         `json:"kind" required:"true" description:"A kind of record; of devices a VM or a container is a guest"`
	Title string         `json:"title" required:"true"`
	To    string         `json:"to" required:"true" description:"The page that shows it"`
	Worth lab.Worth      `json:"worth,omitempty"`
	Holds int            `json:"holds,omitempty" description:"Of a folded stack, how many things are in it"`
}

// NeedLink is that one needs another.
type NeedLink struct {
	Of   lab.ID `json:"of" required:"true"`
	To   lab.ID `json:"to" required:"true"`
	How  string `json:"how" required:"true"`
	Soft bool   `json:"soft,omitempty" description:"It goes on without"`
	Or   bool   `json:"or,omitempty" description:"Another one would do too"`
}

// NeedStack is a stack, which is folded unless it is asked for open.
type NeedStack struct {
	ID   lab.ID `json:"id" required:"true"`
	Name string `json:"name" required:"true"`
	Open bool   `json:"open" required:"true"`
}

func needsOf(a Ask) (NeedsPicture, error) {
	out := NeedsPicture{[]NeedNode{}, []NeedLink{}, []NeedStack{}}
	said := strings.Split(a.With["open"], ",")
	open := func(id lab.ID) bool { return slices.Contains(said, string(id)) || slices.Contains(said, "all") }
	for s := range lab.Each[lab.Stack](a.Lab) {
		out.Stacks = append(out.Stacks, NeedStack{s.ID, s.Title(), open(s.ID)})
	}
	nodes, links := drill.Of(a.Lab).Picture(open)
	for _, n := range nodes {
		out.Nodes = append(out.Nodes, NeedNode{n.Of.ID, n.Of.Kind, n.Kind, n.Title, rundown.AboutOf(a.Lab, a.Lab.Get(n.Of)).To, n.Worth, n.Holds})
	}
	for _, l := range links {
		out.Links = append(out.Links, NeedLink{l.Of.ID, l.To.ID, l.How, l.Soft, l.Or})
	}
	return out, nil
}

func needsText(r NeedsPicture) lines {
	t := lines{head: []string{"", "", ""}, none: "nothing is known to need anything"}
	title := map[lab.ID]string{}
	for _, n := range r.Nodes {
		title[n.ID] = n.Title
	}
	for _, l := range r.Links {
		how := l.How
		if l.Or {
			how += ", or another"
		}
		t.rows = append(t.rows, []string{title[l.Of], how, title[l.To]})
	}
	return t
}
