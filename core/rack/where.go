package rack

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// Places is where in one rack a thing that is not there yet would go.
type Places struct {
	RackID  lab.ID  `json:"rack_id" required:"true"`
	Rack    string  `json:"rack" required:"true"`
	Outcome Outcome `json:"outcome" required:"true" description:"The best of its spots"`
	Checks  []Check `json:"checks" required:"true" nullable:"false" description:"What is the same everywhere in the rack"`
	Spots   []Spot  `json:"spots" required:"true" nullable:"false" description:"Every free spot that it goes in, the surest first, then from the foot up"`
	Clear   []Clear `json:"clear" required:"true" nullable:"false" description:"Spots that would be free once something went, the easiest first"`
}

// Spot is one place in a rack's units.
type Spot struct {
	Unit    int       `json:"unit" required:"true" description:"Lowest unit, counted from the rack's foot"`
	Range   string    `json:"range" required:"true" description:"The units as the rail numbers them"`
	Face    lab.Face  `json:"face" required:"true"`
	Share   lab.Share `json:"share" required:"true"`
	Outcome Outcome   `json:"outcome" required:"true"`
	Checks  []Check   `json:"checks,omitempty" description:"What is not so everywhere in the rack"`
}

// Clear is a spot and what would have to go from it.
type Clear struct {
	Spot
	Things []lab.ID `json:"things" required:"true" nullable:"false"`
	Titles []string `json:"titles" required:"true" nullable:"false"`
	cost   int
}

// mostClear is how many spots to make room at are listed for a rack.
const mostClear = 3

// Where lists for every rack of the lab where a thing goes in that takes so
// many units of a part of the width, the racks that take it first.
func Where(l *lab.Lab, t Thing, units int, part Part) []Places {
	list := []Places{}
	for r := range l.Racks() {
		list = append(list, placesIn(l, t, r, units, part))
	}
	slices.SortStableFunc(list, func(a, b Places) int {
		return cmp.Or(rank(a.Outcome)-rank(b.Outcome), len(b.Spots)-len(a.Spots))
	})
	return list
}

func rank(o Outcome) int { return slices.Index([]Outcome{Fits, Unchecked, NoFit}, o) }

func placesIn(l *lab.Lab, t Thing, r lab.Rack, units int, part Part) Places {
	in := l.Held(r.Key())
	share := part.Shares()[0]
	p := Places{RackID: r.ID, Rack: r.Name, Checks: inRack(t, r, share, WeightOf(l, r), l), Spots: []Spot{}, Clear: []Clear{}}
	p.Outcome = NoFit
	rackWide := Worst(p.Checks)
	var taken [2][]uint8 // by face, six bits of the width for each unit
	for i := range taken {
		taken[i] = newFace(r.HeightU)
	}
	for _, d := range in {
		if d.At.Where == lab.InUnits && d.ID != t.Self {
			from, to := d.At.Share.Sixths()
			for u := d.At.Unit; u < d.At.Unit+d.Units(); u++ {
				taken[slices.Index(lab.Faces(), d.At.Face)][u-1] |= 1<<to - 1<<from
			}
		}
	}
	for unit := 1; unit+units-1 <= r.HeightU; unit++ {
		for f, face := range lab.Faces() {
			for _, share := range part.Shares() {
				at := &lab.Spot{Where: lab.InUnits, Rack: r.ID, Unit: unit, Face: face, Share: share}
				spot := Spot{Unit: unit, Face: face, Share: share}
				if !free(taken[f], at, units) {
					if rackWide != NoFit {
						p.clear(l, t, spot, at, units, in)
					}
					continue
				}
				if rackWide == NoFit {
					continue
				}
				if !free(taken[1-f], &lab.Spot{Unit: unit, Share: lab.Whole}, units) {
					spot.Checks = Behind(l, t, r, at, units, in)
				}
				spot.Outcome = Worst(append(slices.Clone(spot.Checks), Check{Outcome: rackWide}))
				if spot.Outcome == NoFit {
					continue
				}
				spot.Range = l.UnitRange(r, unit, units)
				p.Spots = append(p.Spots, spot)
				if rank(spot.Outcome) < rank(p.Outcome) {
					p.Outcome = spot.Outcome
				}
			}
		}
	}
	slices.SortStableFunc(p.Spots, func(a, b Spot) int {
		return cmp.Or(rank(a.Outcome)-rank(b.Outcome), slices.Index(lab.Faces(), a.Face)-slices.Index(lab.Faces(), b.Face))
	})
	p.settle(l, r, units)
	return p
}

func free(face []uint8, at *lab.Spot, units int) bool {
	from, to := at.Share.Sixths()
	for u := at.Unit; u < at.Unit+units; u++ {
		if face[u-1]&(1<<to-1<<from) != 0 {
			return false
		}
	}
	return true
}

// goes is how hard it is to let something go, 0 for what has to stay: things
// that are leaving and blanks first, then what rests, then drawers.
func goes(d lab.Device) int {
	switch {
	case d.State == lab.Leaving, d.Kind == lab.BlankingPanel:
		return 1
	case d.State == lab.Spare, d.State == lab.Resting, d.State == lab.Waiting:
		return 3
	case d.Kind == lab.Drawer, d.State == lab.Faulty:
		return 5
	}
	return 0
}

// clear notes a spot that is free once what is there went, if all of it may.
func (p *Places) clear(l *lab.Lab, t Thing, spot Spot, at *lab.Spot, units int, in []lab.Device) {
	if at.Face == lab.Rear {
		return // one makes room at the front
	}
	c := Clear{Spot: spot, Things: []lab.ID{}, Titles: []string{}}
	is := lab.Device{ID: t.Self, At: at, Spec: lab.Spec{TakesU: &units}}
	for _, d := range in {
		if d.ID == t.Self || !is.Meets(d) {
			continue
		}
		cost := goes(d)
		if cost == 0 {
			return
		}
		c.cost += cost
		c.Things = append(c.Things, d.ID)
		c.Titles = append(c.Titles, d.Title())
	}
	p.Clear = append(p.Clear, c)
}

// settle keeps the few easiest ways to make room, each of other things.
func (p *Places) settle(l *lab.Lab, r lab.Rack, units int) {
	slices.SortStableFunc(p.Clear, func(a, b Clear) int { return cmp.Or(a.cost-b.cost, len(a.Things)-len(b.Things)) })
	kept := []Clear{}
	for _, c := range p.Clear {
		same := slices.ContainsFunc(kept, func(k Clear) bool { return slices.Equal(k.Things, c.Things) })
		if len(kept) < mostClear && !same {
			c.Range, c.Outcome = l.UnitRange(r, c.Unit, units), Unchecked
			kept = append(kept, c)
		}
	}
	p.Clear = kept
}
