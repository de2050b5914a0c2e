package running

import (
	"cmp"
	"math"
	"slices"

	"levelstaff/core/lab"
	"levelstaff/core/power"
)

const (
	btuPerW  = 3.412
	airPerWK = 2.985
)

// Heat is what a rack or a place gives off, with all that is in it.
type Heat struct {
	Key     lab.Key
	Name    string
	W       float64 // typical
	Lacks   int     // how many draws are not known, or from below only
	Rest    Noise
	Busy    Noise
	Unheard int // how many things that work are of unknown noise
	Shut    bool
	MostDB  *float64 // too loud there
}

// Noise is a sum of noises, in dB(A); Known is false where there is none.
type Noise struct {
	DB    float64
	Known bool
	power float64
}

func (n *Noise) add(db float64) {
	n.Known = true
	if db > 0 { // what is said to make none adds none
		n.power += math.Pow(10, db/10)
	}
	if n.DB = 0; n.power > 0 {
		n.DB = max(0, 10*math.Log10(n.power))
	}
}

// BTU is the heat of a power in W, in BTU/h.
func BTU(w float64) float64 { return w * btuPerW }

// BTU is its heat in BTU/h.
func (h Heat) BTU() float64 { return BTU(h.W) }

// Air is the air in m3/h that keeps the rise to so many kelvin.
func (h Heat) Air(rise float64) float64 { return airPerWK * h.W / rise }

// Warmth lists racks and places with what is in them, the warmest first; what is in a place
// within a place is in both.
func Warmth(l *lab.Lab) []Heat {
	g := power.Of(l)
	at := map[lab.Key]*Heat{}
	for i := range g.Nodes() {
		is := &g.Nodes()[i]
		if is.Device == nil {
			continue
		}
		for _, key := range l.Within(*is.Device) {
			if at[key] == nil {
				at[key] = heatOf(l, key)
			}
			at[key].take(g, int32(i), l.SpecOf(*is.Device))
		}
	}
	var list []Heat
	for _, h := range at {
		if h.W > 0 || h.Lacks > 0 || h.Rest.Known {
			list = append(list, *h)
		}
	}
	slices.SortFunc(list, func(a, b Heat) int {
		return cmp.Or(cmp.Compare(b.W, a.W), cmp.Compare(a.Name, b.Name), cmp.Compare(a.Key.ID, b.Key.ID))
	})
	return list
}

func heatOf(l *lab.Lab, key lab.Key) *Heat {
	h := &Heat{Key: key, Name: l.Get(key).Title()}
	for place := key; place.Kind == lab.KindPlace; {
		p, _ := lab.Find[lab.Place](l, place.ID)
		if place == key {
			h.Shut = p.Shut
		}
		if h.MostDB == nil {
			h.MostDB = p.MostDB
		}
		place = lab.Key{Kind: lab.KindPlace, ID: p.In}
		if p.In == "" {
			break
		}
	}
	return h
}

// take adds a device.
func (h *Heat) take(g *power.Grid, n int32, spec lab.Spec) {
	is := &g.Nodes()[n]
	h.W += g.Flow().Own(n)[power.Typical]
	if by := is.Draw.Basis[power.Typical]; (by == power.Unknown || by == power.WorkedOut) && !g.IsMeasured(n) {
		h.Lacks++
	}
	switch {
	case is.Device.State != lab.Running:
	case spec.NoiseDB != nil:
		h.Rest.add(*spec.NoiseDB)
		h.Busy.add(*cmp.Or(spec.BusyDB, spec.NoiseDB))
	case is.Device.Kind.Traits().Computes || is.Kind == power.UPSNode || is.Device.Kind == lab.Switch:
		h.Unheard++
	}
}
