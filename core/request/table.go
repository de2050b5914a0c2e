package request

import (
	"slices"

	"levelstaff/core/lab"
)

// Row is a service, and how it is reached from each place.
type Row struct {
	Service lab.Service
	Names   []string // that lead to it, whole
	Cells   []Cell   // by place, in the order of Places
}

// Cell is whether a service is reached from a place.
type Cell struct {
	Way
	// Straight: it has names, and is reached by none of them from there, but at its own
	// address.
	Straight bool
}

// Table is every service by every place: by the first of its names that gets there, or
// else straight.
func (q *Requests) Table() []Row { return q.table() }

func (q *Requests) findTable() []Row {
	names := q.NamesOf()
	var rows []Row
	for v := range lab.Each[lab.Service](q.lab) {
		row := Row{Service: v}
		for _, n := range names[v.ID] {
			row.Names = append(row.Names, q.resolved[n.ID].Whole)
		}
		for _, p := range q.places {
			row.Cells = append(row.Cells, q.cell(p, v, names[v.ID]))
		}
		rows = append(rows, row)
	}
	return rows
}

func (q *Requests) cell(from Place, v lab.Service, names []lab.Name) Cell {
	var first *Way
	for _, n := range names {
		w := q.Way(from, Target{Name: n})
		if w.Arrives {
			return Cell{Way: w}
		}
		if first == nil || len(w.Steps) > len(first.Steps) { // the one that gets furthest says more
			first = &w
		}
	}
	straight := q.Way(from, ServiceTarget(v))
	if first == nil || straight.Arrives {
		return Cell{Way: straight, Straight: first != nil}
	}
	return Cell{Way: *first}
}

// NamesOf are the names that lead to each service in the end, through whatever they are
// passed on by. An alias is not among them.
func (q *Requests) NamesOf() map[lab.ID][]lab.Name { return q.named() }

func (q *Requests) findNamed() map[lab.ID][]lab.Name {
	by := map[lab.ID][]lab.Name{}
	for n := range lab.Each[lab.Name](q.lab) {
		w := &walk{Requests: q}
		hops, ok := w.onward(n)
		if !ok || n.Alias != "" {
			continue
		}
		if v := q.endOf(hops[len(hops)-1]); v.ID != "" {
			by[v.ID] = append(by[v.ID], n)
		}
	}
	return by
}

// endOf is the service that a last hop is, as far as that is known.
func (q *Requests) endOf(h lab.Hop) lab.Service {
	if v, ok := lab.Find[lab.Service](q.lab, h.Service); ok {
		return v
	}
	d := q.lab.HopDevice(h)
	if h.Address.IsValid() {
		for _, at := range q.plan.At(h.Address) {
			d, _ = lab.Find[lab.Device](q.lab, at.Device)
		}
	}
	if given, ok := lab.Find[lab.Device](q.lab, h.Device); ok {
		d = given
	}
	v, _ := (&walk{Requests: q}).listens(d, lab.Service{}, h.Port)
	return v
}

// Exposure is from where a service is reached.
type Exposure struct {
	Service lab.Service
	From    []Place
	// SignIn is whether one signs in, wherever one comes from; "" where that is not known
	// of all ways.
	SignIn lab.SignIn
	// Outside: it is reached from the internet. OutsideSignIn is whether one signs in then.
	Outside       bool
	OutsideSignIn lab.SignIn
	Name          lab.Name // the one by which it is reached from outside
}

// Exposures are those of all services that run.
func (q *Requests) Exposures() []Exposure {
	var list []Exposure
	for _, row := range q.Table() {
		if row.Service.State != lab.Running {
			continue
		}
		e := Exposure{Service: row.Service}
		var asked []lab.SignIn
		for i, c := range row.Cells {
			if !c.Arrives {
				continue
			}
			e.From = append(e.From, q.places[i])
			asked = append(asked, c.SignIn)
			if q.places[i].outside() {
				e.Outside, e.OutsideSignIn, e.Name = true, c.SignIn, c.By
			}
		}
		switch {
		case slices.Contains(asked, lab.SignInNone):
			e.SignIn = lab.SignInNone
		case len(asked) > 0 && !slices.Contains(asked, ""):
			e.SignIn = lab.SignInAsked
		}
		list = append(list, e)
	}
	return list
}

// Names are all that can be asked for by a name, whole: those of their owner's, then those
// of devices.
func (q *Requests) Names() []string {
	list, there := []string{}, map[string]bool{}
	add := func(name string) {
		if !there[name] {
			there[name] = true
			list = append(list, name)
		}
	}
	for n := range lab.Each[lab.Name](q.lab) {
		add(q.Whole(n))
	}
	for _, e := range q.plan.Hosts() {
		add(e.Name)
	}
	return list
}

// Whole is a name with its domain.
func (q *Requests) Whole(n lab.Name) string { return q.resolved[n.ID].Whole }

// Wrong says what is wrong with a name whoever asks for it: that its way comes back to
// itself, or something on it cannot pass it on. fix is "" where none is known, and why
// where nothing is wrong.
func (q *Requests) Wrong(n lab.Name) (why, fix string) {
	if n.Alias != "" || len(n.Hops()) == 0 {
		return "", "" // which is said of what it leads to
	}
	w := &walk{Requests: q}
	hops, ok := w.onward(n)
	for i, h := range hops {
		last := i == len(hops)-1
		if i == 0 { // whether one gets there depends on from where
			w.at = q.reach.SideOfDevice(q.lab.HopDevice(h))
		}
		if ok = ok && (h.Tunnel != "" || w.at.Device.ID == "" && !h.Address.IsValid() || w.hop(h, last)); !ok {
			break
		}
		if h.Tunnel != "" {
			w.at = q.reach.SideOfDevice(q.lab.HopDevice(h))
		}
	}
	return w.Why, w.Fix
}
