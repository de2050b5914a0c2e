package rack

import (
	"math"

	"levelstaff/core/lab"
)

// Piece is a run of units that are free together.
type Piece struct {
	Unit  int    `json:"unit" required:"true" description:"Lowest unit, counted from the rack's foot"`
	Units int    `json:"units" required:"true"`
	Range string `json:"range" required:"true" description:"The units as the rail numbers them"`
	// Left and Right bound the free part of the width from the left, 0 to 1.
	Left  float64 `json:"left" required:"true" description:"Where the free part of the width starts, 0 to 1 from the left"`
	Right float64 `json:"right" required:"true" description:"Where it ends"`
}

// Space is what is free in one rack. A unit counts as free when nothing is
// mounted in it, neither at the front nor at the rear.
type Space struct {
	RackID   lab.ID  `json:"rack_id" required:"true"`
	Rack     string  `json:"rack" required:"true"`
	HeightU  int     `json:"height_u" required:"true"`
	TakenU   int     `json:"taken_u" required:"true" description:"Units with anything at either face"`
	FreeU    int     `json:"free_u" required:"true"`
	BlankedU int     `json:"blanked_u" required:"true" description:"Taken units that hold nothing but blanking panels"`
	LargestU int     `json:"largest_u" required:"true" description:"Units in the largest free piece"`
	Pieces   []Piece `json:"pieces" required:"true" nullable:"false" description:"Units free at both faces, from the top down"`
	Front    []Piece `json:"front" required:"true" nullable:"false" description:"What is free at the front, also parts of the width"`
	Rear     []Piece `json:"rear" required:"true" nullable:"false" description:"What is free at the rear, also parts of the width"`
	Weight   Weight  `json:"weight" required:"true"`
}

// Weight is what a rack carries: everything in it, at its sides and on top,
// with what stands on that. What is under the rack is not carried by it.
type Weight struct {
	KnownKG   float64  `json:"known_kg" required:"true" description:"Sum of the weights that are known: it carries at least this"`
	Things    int      `json:"things" required:"true" description:"How many devices it carries"`
	Unweighed []lab.ID `json:"unweighed" required:"true" nullable:"false" description:"Those whose weight is unknown"`
	HoldsKG   *float64 `json:"holds_kg,omitempty" description:"The load the rack may carry; absent while unknown"`
}

// SpaceReport is what is free in every rack of a lab.
type SpaceReport struct {
	Racks    []Space  `json:"racks" required:"true" nullable:"false"`
	HeightU  int      `json:"height_u" required:"true"`
	FreeU    int      `json:"free_u" required:"true"`
	LargestU int      `json:"largest_u" required:"true"`
	Unplaced []lab.ID `json:"unplaced" required:"true" nullable:"false" description:"Devices that are not placed yet and ask for room"`
}

// Report works out the space of all racks, oldest rack first.
func Report(l *lab.Lab) SpaceReport {
	report := SpaceReport{Racks: []Space{}, Unplaced: []lab.ID{}}
	for r := range lab.Each[lab.Rack](l) {
		s := SpaceOf(l, r)
		report.Racks = append(report.Racks, s)
		report.HeightU += s.HeightU
		report.FreeU += s.FreeU
		report.LargestU = max(report.LargestU, s.LargestU)
	}
	for d := range lab.Things(l) {
		if d.At == nil {
			report.Unplaced = append(report.Unplaced, d.ID)
		}
	}
	return report
}

// SpaceOf works out the space of one rack.
func SpaceOf(l *lab.Lab, r lab.Rack) Space {
	front, rear := newFace(r.HeightU), newFace(r.HeightU)
	blank := make([]bool, r.HeightU)
	for i := range blank {
		blank[i] = true
	}
	for by := range l.UsersOf(r.Key()) {
		d, ok := by.(lab.Device)
		if !ok || d.At.Where != lab.InUnits {
			continue
		}
		face := front
		if d.At.Face == lab.Rear {
			face = rear
		}
		from, to := d.At.Share.Sixths()
		for u := d.At.Unit; u < d.At.Unit+d.Units(); u++ {
			face[u-1] |= 1<<to - 1<<from
			blank[u-1] = blank[u-1] && d.Kind == lab.BlankingPanel
		}
	}
	s := Space{RackID: r.ID, Rack: r.Name, HeightU: r.HeightU, Front: front.pieces(l, r), Rear: rear.pieces(l, r), Weight: WeightOf(l, r)}
	both := newFace(r.HeightU)
	for i := range both {
		if front[i]|rear[i] != 0 {
			both[i] = wholeWidth
			s.TakenU++
			if blank[i] {
				s.BlankedU++
			}
		}
	}
	s.FreeU = r.HeightU - s.TakenU
	s.Pieces = both.pieces(l, r)
	for _, p := range s.Pieces {
		s.LargestU = max(s.LargestU, p.Units)
	}
	return s
}

// face has six bits for each unit from the foot, set where the width is taken.
type face []uint8

const wholeWidth = 1<<6 - 1

func newFace(units int) face { return make(face, units) }

// pieces cuts what is free into runs of units with the same part of their
// width free, from the top down and in a unit from left to right.
func (f face) pieces(l *lab.Lab, r lab.Rack) []Piece {
	list := []Piece{}
	for top := len(f); top > 0; {
		foot := top
		for foot > 1 && f[foot-2] == f[top-1] {
			foot--
		}
		for left := 0; left < 6; left++ {
			right := left
			for right < 6 && f[top-1]&(1<<right) == 0 {
				right++
			}
			if right > left {
				list = append(list, Piece{foot, top - foot + 1, l.UnitRange(r, foot, top-foot+1), sixths(left), sixths(right)})
				left = right
			}
		}
		top = foot - 1
	}
	return list
}

func sixths(n int) float64 { return math.Round(float64(n)/6*1e4) / 1e4 }

// WeightOf sums up what a rack carries.
func WeightOf(l *lab.Lab, r lab.Rack) Weight {
	w := Weight{Unweighed: []lab.ID{}, HoldsKG: r.HoldsKG}
	var add func(holder lab.Key)
	add = func(holder lab.Key) {
		for _, d := range l.Held(holder) {
			if d.At.Where == lab.Underside {
				continue
			}
			w.Things++
			weight := d.WeightKG
			if weight == nil && d.Sheet != "" {
				weight = l.SpecOf(d).WeightKG
			}
			if weight == nil {
				w.Unweighed = append(w.Unweighed, d.ID)
			} else {
				w.KnownKG += *weight
			}
			add(d.Key())
		}
	}
	add(r.Key())
	w.KnownKG = math.Round(w.KnownKG*1000) / 1000
	return w
}
