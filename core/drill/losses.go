package drill

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// Loss is what comes of one thing going, counted.
type Loss struct {
	Target
	Title     string
	Kind      string
	Household int // services that the household lives with, and that stop
	Services  int // all that stop
	Guests    int
	Dark      int // devices
}

// causes are the kinds of what may go, what one thinks of first before what only leads
// there.
var causes = []string{"device", "circuit", "pool", "line", "tunnel", "dataset", "share", "guest", "service", "part", "cable", "port"}

// harm is whether one loss is worse than another: by the household's services, then all
// others, then guests and devices.
func harm(a, b Loss) int {
	return cmp.Or(b.Household-a.Household, b.Services-a.Services, b.Guests-a.Guests, b.Dark-a.Dark,
		slices.Index(causes, a.Kind)-slices.Index(causes, b.Kind),
		cmp.Compare(a.Title, b.Title), cmp.Compare(a.ID, b.ID), cmp.Compare(a.Outlet, b.Outlet))
}

// Losses are those of every single thing that something needs, the most harmful first:
// devices, drives, leads and outlets in use, circuits, pools, datasets, shares, guests,
// services, lines outside and tunnels. What would stop nothing is left out.
func (w *Whole) Losses() []Loss { return w.lost().list }

// OnOneLeg lists the household's services that run and stop when some one thing goes, be
// it a device, a pool, a feed or a lead: they have no stand-by for it. of is how many the
// household has. What a service itself runs in does not count.
func (w *Whole) OnOneLeg() (services []lab.Service, of int) {
	for v := range lab.Each[lab.Service](w.lab) {
		if v.Worth != lab.Household || v.State != lab.Running {
			continue
		}
		of++
		if n, known := w.graph.Number(need.Thing{Key: v.Key()}); known && w.lost().oneLeg[n] {
			services = append(services, v)
		}
	}
	return services, of
}

// WorstLeg is the one thing that takes down most of those services; nothing where there are
// none.
func (w *Whole) WorstLeg() Loss {
	i := slices.IndexFunc(w.Losses(), func(l Loss) bool { return l.isLeg() && l.Household > 0 })
	if i < 0 {
		return Loss{}
	}
	return w.Losses()[i]
}

// isLeg reports whether a stand-by elsewhere would help: what a service runs in is its own.
func (l Loss) isLeg() bool { return l.Kind != "guest" && l.Kind != "service" }

// losses are all single ones, and the services that one of them takes down.
type losses struct {
	list   []Loss
	oneLeg map[int32]bool
}

func (w *Whole) loseEach() losses {
	effects := make([]Loss, w.graph.Len())
	for n := range effects {
		if w.counts(int32(n)) {
			effects[n] = w.effect(w.graph.At(int32(n)).Key)
		}
	}
	all, falls := losses{oneLeg: map[int32]bool{}}, w.graph.Falls(w.off)
	for n := range int32(w.graph.Len()) {
		if !w.graph.Serves(n) || !w.before.Up(n) {
			continue
		}
		loss, may := w.target(n)
		if !may {
			continue
		}
		gone := w.numbers(loss.Target)
		for _, down := range falls.Without(gone) {
			if e := &effects[down]; !slices.Contains(gone, down) {
				loss.Household, loss.Services = loss.Household+e.Household, loss.Services+e.Services
				loss.Guests, loss.Dark = loss.Guests+e.Guests, loss.Dark+e.Dark
				if e.Household > 0 && loss.isLeg() {
					all.oneLeg[down] = true
				}
			}
		}
		if loss.Services+loss.Guests+loss.Dark > 0 {
			loss.Title = w.called(loss.Target)
			all.list = append(all.list, loss)
		}
	}
	slices.SortFunc(all.list, harm)
	return all
}

// effect is what one record counts for once it stops.
func (w *Whole) effect(k lab.Key) (e Loss) {
	switch r := w.lab.Get(k).(type) {
	case lab.Service:
		e.Services = 1
		if r.Worth == lab.Household {
			e.Household = 1
		}
	case lab.Device:
		if r.IsGuest() {
			e.Guests = r.Many()
		} else {
			e.Dark = 1
		}
	}
	return e
}

// target is a thing as one that may go by itself, without its title.
func (w *Whole) target(n int32) (Loss, bool) {
	t := w.graph.At(n)
	is := Loss{Target: Target{Key: t.Key}, Kind: w.Kind(t.Key)}
	switch {
	case t.ID == "" || !slices.Contains(Kinds(), t.Kind):
		return is, false
	case t.Side == "":
		return is, true
	case t.Kind == lab.KindDevice && w.isOutlet(t):
		is.Outlet, is.Kind = t.Side, "port"
		return is, true
	}
	return is, false
}

// isOutlet reports whether a side of a device is one of its outlets.
func (w *Whole) isOutlet(t need.Thing) bool {
	d, _ := lab.Find[lab.Device](w.lab, t.ID)
	ports := w.lab.PortsOf(d)
	_, ok := ports.Index(t.Side)
	return ok
}
