package rack

import (
	"cmp"
	"math/bits"
	"slices"

	"levelstaff/core/lab"
)

// Places is where in one rack a thing that is not there yet would go.
type Places struct {
	RackID  lab.ID    `json:"rack_id" required:"true"`
	Rack    string    `json:"rack" required:"true"`
	Outcome Outcome   `json:"outcome" required:"true" description:"The best of its spots"`
	Checks  []Check   `json:"checks" required:"true" nullable:"false" description:"What is the same everywhere in the rack"`
	Spots   []Opening `json:"spots" required:"true" nullable:"false" description:"Where it goes in, the surest first, then from the foot up"`
	Clear   []Clear   `json:"clear" required:"true" nullable:"false" description:"Spots that could be freed, the easiest first"`
}

// Opening is a run of units in which a thing goes anywhere, or just the units
// that it takes.
type Opening struct {
	Unit    int       `json:"unit" required:"true" description:"The lowest unit it can take, counted from the rack's foot"`
	Highest int       `json:"highest" required:"true" description:"The highest that its own lowest unit can be at"`
	Range   string    `json:"range" required:"true" description:"All the units of the run, as the rail numbers them"`
	Face    lab.Face  `json:"face" required:"true"`
	Share   lab.Share `json:"share" required:"true"`
	Outcome Outcome   `json:"outcome" required:"true"`
	Say     string    `json:"say,omitempty" description:"What is not known at its first spot"`
}

// Clear is a spot and what would have to go from it.
type Clear struct {
	Opening
	Things []lab.ID `json:"things" required:"true" nullable:"false"`
	Titles []string `json:"titles" required:"true" nullable:"false"`
	cost   int
}

// mostClear is how many spots to make room at are listed for a rack.
const mostClear = 3

// Where lists for every rack of the lab where a thing goes in that takes so
// many units of a part of the width, the racks that take it first.
func Where(l *lab.Lab, t Thing, units int, part Portion) []Places {
	list := []Places{}
	for r := range lab.Each[lab.Rack](l) {
		p := Places{RackID: r.ID, Rack: r.Name, Checks: InRack(l, t, r, part.Shares()[0]), Spots: []Opening{}, Clear: []Clear{}, Outcome: NoFit}
		p.search(l, t, r, units, part)
		list = append(list, p)
	}
	slices.SortStableFunc(list, func(a, b Places) int {
		return cmp.Or(rank(a.Outcome)-rank(b.Outcome), len(b.Spots)-len(a.Spots))
	})
	return list
}

func rank(o Outcome) int { return slices.Index([]Outcome{Fits, Unchecked, NoFit}, o) }

// span is what a mounted device takes of a rack, without all that is known of
// it: the search looks at thousands of them.
type span struct {
	id        lab.ID
	title     string
	face      lab.Face
	unit, top int   // from the one, up to and without the other
	sixths    uint8 // of the width, as seen from its own face
	depth     *float64
	panel     bool
	cost      int // see goes
}

func spansOf(l *lab.Lab, r lab.Rack, self lab.ID) []span {
	var spans []span
	for by := range l.UsersOf(r.Key()) {
		d, ok := by.(lab.Device)
		if !ok || d.At.Where != lab.InUnits || d.ID == self {
			continue
		}
		depth := d.DepthMM
		if depth == nil && d.Sheet != "" {
			depth = l.SpecOf(d).DepthMM
		}
		spans = append(spans, span{d.ID, d.Title(), d.At.Face, d.At.Unit, d.At.Unit + d.Units(), mask(d.At.Share), depth,
			d.Kind == lab.BlankingPanel, goes(&d)})
	}
	return spans
}

// mask has a bit for each sixth of the width that a share takes.
func mask(s lab.Share) uint8 {
	from, to := s.Sixths()
	return 1<<to - 1<<from
}

// mirrored is a mask as seen from the other face.
func mirrored(m uint8) uint8 { return bits.Reverse8(m) >> 2 }

func (p *Places) search(l *lab.Lab, t Thing, r lab.Rack, units int, part Portion) {
	rackWide := Worst(p.Checks)
	if rackWide == NoFit {
		return
	}
	in := spansOf(l, r, t.Self)
	for _, face := range lab.Faces() {
		for _, share := range part.Shares() {
			open := -1 // the run of spots that the next unit may carry on
			for unit := 1; unit+units-1 <= r.HeightU; unit++ {
				outcome, say := p.at(t, r, unit, units, face, mask(share), in)
				if outcome == Fits {
					outcome = rackWide
				}
				switch {
				case outcome == NoFit:
					open = -1
				case open >= 0 && p.Spots[open].Outcome == outcome:
					p.Spots[open].Highest = unit
				default:
					open = len(p.Spots)
					p.Spots = append(p.Spots, Opening{Unit: unit, Highest: unit, Face: face, Share: share, Outcome: outcome, Say: say})
				}
				if outcome != NoFit && rank(outcome) < rank(p.Outcome) {
					p.Outcome = outcome
				}
			}
		}
	}
	slices.SortStableFunc(p.Spots, func(a, b Opening) int {
		return cmp.Or(rank(a.Outcome)-rank(b.Outcome), slices.Index(lab.Faces(), a.Face)-slices.Index(lab.Faces(), b.Face))
	})
	for i := range p.Spots {
		s := &p.Spots[i]
		s.Range = l.UnitRange(r, s.Unit, s.Highest-s.Unit+units)
	}
	for i := range p.Clear {
		c := &p.Clear[i]
		c.Range = l.UnitRange(r, c.Unit, units)
	}
}

// at tells whether a thing goes in at one spot: nothing is there, and nothing
// behind it is in its way. What would be free once a few things went is noted.
func (p *Places) at(t Thing, r lab.Rack, unit, units int, face lab.Face, width uint8, in []span) (Outcome, string) {
	outcome, say := Fits, ""
	var room [8]*span
	there := room[:0]
	for i := range in {
		s := &in[i]
		switch {
		case s.top <= unit || unit+units <= s.unit:
		case s.face == face && s.sixths&width != 0:
			there = append(there, s)
		case s.face != face && !s.panel && mirrored(s.sixths)&width != 0:
			switch {
			case t.Spec.DepthMM == nil || s.depth == nil || r.DepthMM == nil:
				if outcome == Fits {
					outcome, say = Unchecked, s.title+" is behind it, and whether they collide is unknown."
				}
			case *t.Spec.DepthMM+*s.depth+CableRoomMM > *r.DepthMM:
				outcome = NoFit
			}
		}
	}
	if len(there) == 0 {
		return outcome, say
	}
	if face == lab.Front && outcome != NoFit {
		p.clear(unit, face, there)
	}
	return NoFit, ""
}

// goes is how hard it is to let something go, 0 for what has to stay: things
// that are leaving and blanks first, then what rests, then drawers.
func goes(d *lab.Device) int {
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

// clear notes a spot that is free once what is there went, if all of it may,
// and keeps the few easiest ones, each of other things.
func (p *Places) clear(unit int, face lab.Face, there []*span) {
	cost := 0
	for _, s := range there {
		if s.cost == 0 {
			return
		}
		cost += s.cost
	}
	at := len(p.Clear)
	for i, c := range p.Clear {
		if len(c.Things) == len(there) && !slices.ContainsFunc(there, func(s *span) bool { return !slices.Contains(c.Things, s.id) }) {
			return
		}
		if at == len(p.Clear) && (cost < c.cost || cost == c.cost && len(there) < len(c.Things)) {
			at = i
		}
	}
	if at >= mostClear {
		return
	}
	c := Clear{Opening: Opening{Unit: unit, Highest: unit, Face: face, Share: lab.Whole, Outcome: Unchecked}, cost: cost}
	for _, s := range there {
		c.Things, c.Titles = append(c.Things, s.id), append(c.Titles, s.title)
	}
	p.Clear = slices.Insert(p.Clear, at, c)
	p.Clear = p.Clear[:min(len(p.Clear), mostClear)]
}
