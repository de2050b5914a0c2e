package drill

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/need"
	"levelstaff/core/power"
	"levelstaff/core/reach"
	"levelstaff/core/storage"
)

// Target is what may go: a record, or an outlet of a device.
type Target struct {
	lab.Key
	Outlet string // the key of its port, "" for the record itself
}

// Kinds are the kinds of record that may go.
func Kinds() []lab.RecordKind {
	return []lab.RecordKind{lab.KindDevice, lab.KindPart, lab.KindCable, lab.KindService, lab.KindPool, lab.KindDataset, lab.KindShare,
		lab.KindCircuit, lab.KindLine, lab.KindTunnel}
}

// Outage is what comes of something going.
type Outage struct {
	Stops  []Hit // what matters most first
	Limps  []Hit // it goes on, with less than it had
	CutOff []Hit // it runs, and has no way any more to the line outside or the rest of its network
	// NoticedBy are those who use a service that stops.
	NoticedBy []string
	Names     []Answers // of the networks that lose a name server
}

// Hit is something that is hit, and why: one sentence after another, from what it needs to
// what went.
type Hit struct {
	lab.Key
	Kind  string
	Title string
	Worth lab.Worth
	Why   []string
}

// IfGone is what comes of some things going at once.
func (w *Whole) IfGone(targets ...Target) Outage {
	var gone []int32
	for _, t := range targets {
		gone = append(gone, w.numbers(t)...)
	}
	now := w.graph.Without(slices.Concat(w.off, gone), nil)
	r := reasons{w, now, gone, w.orderOf(now), "is gone"}
	var out Outage
	for _, n := range now.Down() {
		if !w.before.Up(n) || slices.Contains(gone, n) || !w.counts(n) {
			continue
		}
		hit := w.hit(n, r.why(n))
		out.Stops = append(out.Stops, hit)
		if v, ok := w.lab.Get(hit.Key).(lab.Service); ok {
			out.NoticedBy = append(out.NoticedBy, v.UsedBy...)
		}
	}
	for _, lack := range now.Hurt(w.before) {
		if w.counts(lack.Of) {
			out.Limps = append(out.Limps, w.hit(lack.Of, []string{r.lost(lack)}))
		}
	}
	out.Limps = append(out.Limps, w.onBattery(now, gone)...)
	for _, i := range w.cutOff(now) {
		d := w.net.Wiring().DeviceAt(i)
		if n, known := w.graph.Number(need.Thing{Key: d.Key()}); (!known || now.Up(n)) && d.State == lab.Running && !slices.Contains(w.cut(), i) {
			out.CutOff = append(out.CutOff, Hit{Key: d.Key(), Kind: w.Kind(d.Key()), Title: d.Title()})
		}
	}
	out.Names = w.answers(now, out.CutOff)
	for _, list := range [][]Hit{out.Stops, out.Limps, out.CutOff} {
		inOrder(list)
	}
	out.Limps = slices.CompactFunc(out.Limps, func(a, b Hit) bool { return a.Key == b.Key })
	slices.Sort(out.NoticedBy)
	out.NoticedBy = slices.Compact(out.NoticedBy)
	return out
}

// cutOff are the devices, by their numbers, that have no way out for what is down.
func (w *Whole) cutOff(o need.Outcome) []int32 {
	var down []lab.Key
	for _, n := range o.Down() {
		if t := w.graph.At(n); t.Side == "" && t.ID != "" {
			down = append(down, t.Key)
		}
	}
	return w.net.CutOff(down...)
}

// inOrder puts what people use before what it runs on, and of that what matters most first.
func inOrder(list []Hit) {
	kinds := []string{"service", "guest", "device"}
	rank := func(h Hit) int {
		if i := slices.Index(kinds, h.Kind); i >= 0 {
			return i
		}
		return len(kinds)
	}
	slices.SortStableFunc(list, func(a, b Hit) int {
		return cmp.Or(rank(a)-rank(b), a.Worth.Rank()-b.Worth.Rank(), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.Title, b.Title),
			cmp.Compare(a.ID, b.ID))
	})
}

func (w *Whole) hit(n int32, why []string) Hit {
	k := w.graph.At(n).Key
	return Hit{Key: k, Kind: w.Kind(k), Title: w.Title(k), Worth: w.matters(k), Why: why}
}

// numbers are the things that go with a target: a drive with what is on it.
func (w *Whole) numbers(t Target) []int32 {
	things := []need.Thing{{Key: t.Key}}
	switch {
	case t.Outlet != "":
		things = []need.Thing{power.OutletOf(t.Key, t.Outlet)}
	case t.Kind == lab.KindPart:
		things = append(things, storage.KeptOf(t.Key))
	}
	var list []int32
	for _, is := range things {
		if n, known := w.graph.Number(is); known {
			list = append(list, n)
		}
	}
	return list
}

// onBattery are the devices that go dark once the batteries are empty that hold them now.
func (w *Whole) onBattery(now need.Outcome, gone []int32) []Hit {
	var empty []int32
	for _, n := range now.Down() {
		t := w.graph.At(n)
		if ups, known := w.graph.Number(need.Thing{Key: t.Key}); t.Side == power.Mains && known && now.Up(ups) && w.before.Up(n) {
			empty = append(empty, ups)
		}
	}
	if empty == nil {
		return nil
	}
	later := w.graph.Without(slices.Concat(w.off, gone, empty), nil)
	r := reasons{w, later, empty, w.orderOf(later), "has nothing but its battery"}
	var list []Hit
	for _, n := range later.Down() {
		if now.Up(n) && w.counts(n) && !slices.Contains(empty, n) {
			list = append(list, w.hit(n, r.why(n)))
		}
	}
	return list
}

// orderOf is when each thing went down, so that of several alternatives the one nearest to
// the cause is known.
func (w *Whole) orderOf(o need.Outcome) map[int32]int {
	order := map[int32]int{}
	for i, n := range o.Down() {
		order[n] = i
	}
	return order
}

// reasons say why things are down.
type reasons struct {
	*Whole
	now   need.Outcome
	gone  []int32
	order map[int32]int
	end   string // of what went
}

// longest is how many sentences a reason has at most.
const longest = 12

// why is the chain from a thing to what went.
func (r reasons) why(n int32) []string {
	var said []string
	for range longest {
		lack, ok := r.now.Why(n)
		if !ok {
			break
		}
		how, next, names := r.lacks(lack)
		if len(names) == 0 {
			break
		}
		if how != "" {
			said = append(said, fmt.Sprintf("%s %s %s", r.Title(r.graph.At(n).Key), how, joined(names, lack.Least)))
		}
		n = next
	}
	if name := r.name(n); name != "" && slices.Contains(r.gone, n) {
		said = append(said, name+" "+r.end)
	}
	return said
}

// lacks are the alternatives of a need that are down, by the records that they lead to,
// and the one that went first.
func (r reasons) lacks(lack need.Lack) (how string, next int32, names []string) {
	how, next = lack.How, -1
	for _, by := range lack.Any {
		if r.now.Up(by) {
			continue
		}
		at, over := r.record(by)
		if name := r.name(at); name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
		if next < 0 || r.order[at] < r.order[next] {
			if next = at; over != "" {
				how = over
			}
		}
	}
	return how, next, names
}

// record follows a step, or one side of a record, to the record that took it down. how is
// the way in which that is needed, where it is said on the way.
func (r reasons) record(n int32) (at int32, how string) {
	for range r.graph.Len() {
		t := r.graph.At(n)
		lack, ok := r.now.Why(n)
		if t.ID != "" && (t.Side == "" || t.Kind == lab.KindShare) || !ok { // as one device mounts it
			return n, how
		}
		if lack.How != "" && t.ID == "" {
			how = lack.How
		}
		next := int32(-1)
		for _, by := range lack.Any {
			if !r.now.Up(by) && (next < 0 || r.order[by] < r.order[next]) {
				next = by
			}
		}
		if next < 0 {
			return n, how
		}
		n = next
	}
	return n, how
}

// name is what a thing is called: an outlet by its device and port.
func (r reasons) name(n int32) string {
	switch t := r.graph.At(n); {
	case t.ID == "":
		return ""
	case t.Side != "" && slices.Contains(r.gone, n):
		return r.Title(t.Key) + "/" + lab.PortWords(t.Side)
	default:
		return r.Title(t.Key)
	}
}

// lost says what of a need went.
func (r reasons) lost(lack need.Lack) string {
	how, next, names := r.lacks(lack)
	var all []string
	for _, by := range lack.Any {
		if t := r.graph.At(by); t.ID != "" && t.Side == "" {
			all = append(all, r.Title(t.Key))
		}
	}
	state := "down"
	if slices.Contains(r.gone, next) {
		state = "gone"
	}
	if len(all) > 1 && len(all) == len(lack.Any) && lack.Least == 1 {
		return fmt.Sprintf("%s %s %s, and %s is %s", r.Title(r.graph.At(lack.Of).Key), how, joined(all, lack.Least), joined(names, 1), state)
	}
	return fmt.Sprintf("%s %s %s, which is %s", r.Title(r.graph.At(lack.Of).Key), cmp.Or(how, Needs), joined(names, 1), state)
}

// joined are names of alternatives, or of what is needed together.
func joined(names []string, least int) string {
	if least > 1 {
		return lab.Listed(names, 4)
	}
	return lab.Either(names, 4)
}

// Say is an outage in a sentence: what stops, and what goes on with less. For a line
// outside, a sentence before it says what everybody has left.
func (w *Whole) Say(t Target, o Outage) string {
	said := w.say(t, o)
	line, ok := lab.Find[lab.Line](w.lab, t.ID)
	switch {
	case !ok || t.Kind != lab.KindLine:
		return said
	case len(o.Stops)+len(o.Limps) == 0:
		return reach.Of(w.lab).WithoutWords(line)
	}
	return reach.Of(w.lab).WithoutWords(line) + " " + said
}

func (w *Whole) say(t Target, o Outage) string {
	count, household := map[string]int{}, 0
	for _, h := range o.Stops {
		count[h.Kind]++
		if h.Kind == "service" && h.Worth == lab.Household {
			household++
		}
	}
	var said []string
	for _, kind := range []string{"service", "guest", "device", "pool"} {
		n := count[kind]
		if n == 0 {
			continue
		}
		words := plural(n, kind)
		if kind == "service" && household > 0 {
			words += fmt.Sprintf(" (%d of the household's)", household)
		}
		said = append(said, words)
	}
	stop := "nothing else stops"
	if said != nil {
		stop = lab.Listed(said, len(said)) + " " + map[bool]string{true: "stops", false: "stop"}[len(said) == 1 && strings.HasPrefix(said[0],
			"1 ")]
	}
	var less []string
	for _, h := range o.Limps {
		less = append(less, h.Title)
	}
	if less != nil {
		stop += "; " + lab.Listed(less, 3) + " " + map[bool]string{true: "goes", false: "go"}[len(less) == 1] + " on with less"
	}
	if n := len(o.CutOff); n > 0 {
		stop += "; " + plural(n, "device") + " " + map[bool]string{true: "is", false: "are"}[n == 1] + " cut off"
	}
	return fmt.Sprintf("Without %s: %s.", w.called(t), stop)
}

// called is what may go by its title, an outlet by its device and port.
func (w *Whole) called(t Target) string {
	if t.Outlet == "" {
		return w.Title(t.Key)
	}
	return w.Title(t.Key) + "/" + lab.PortWords(t.Outlet)
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
