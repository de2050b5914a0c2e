package cabling

import (
	"math"

	"levelstaff/core/lab"
)

// RunUse is what lies in a run and what still goes in.
type RunUse struct {
	Run     lab.ID   `json:"run_id" required:"true"`
	Name    string   `json:"name" required:"true"`
	Cables  int      `json:"cables" required:"true"`
	Unknown int      `json:"unknown,omitempty" description:"Cables in it of unknown diameter"`
	FilledP *float64 `json:"filled_percent,omitempty" description:"Of its inside, by area; absent where its diameter is unknown"`
	MostP   *float64 `json:"most_percent,omitempty" description:"What it may be filled to with so many cables"`
	More    *int     `json:"more_cat6,omitempty" description:"How many further cables of Cat 6 go in"`
	Over    bool     `json:"over,omitempty"`
	Holds   []InRun  `json:"holds" required:"true" nullable:"false"`
}

// InRun is a cable that lies in a run.
type InRun struct {
	Cable lab.ID `json:"cable_id" required:"true"`
	A     string `json:"a" required:"true" description:"Where its ends are, ? for an unknown one"`
	B     string `json:"b" required:"true"`
	Hex   string `json:"hex,omitempty"`
	// Guessed is whether its kind is unknown.
	WideMM  float64 `json:"wide_mm" required:"true" description:"Its usual outside diameter; that of Cat 6 while its kind is unknown"`
	Guessed bool    `json:"guessed,omitempty" description:"Its kind is unknown"`
}

// mostFill is how much of a conduit's area so many cables may take (NEC
// chapter 9, table 1).
func mostFill(cables int) float64 {
	switch cables {
	case 0, 1:
		return 0.53
	case 2:
		return 0.31
	}
	return 0.40
}

// areaMM2 is the area of a circle of that diameter.
func areaMM2(diameter float64) float64 { return math.Pi * diameter * diameter / 4 }

// UseOf tells how full a run is.
func (w *Wiring) UseOf(r lab.Run) RunUse {
	use := RunUse{Run: r.ID, Name: r.Name, Holds: []InRun{}}
	filled := 0.0
	cat6, _ := KindOf(lab.Cat6)
	for by := range w.lab.UsersOf(r.Key()) {
		c, ok := by.(lab.Cable)
		if !ok {
			continue
		}
		use.Cables++
		in := InRun{Cable: c.ID, A: w.endWords(c.A), B: w.endWords(c.B), Hex: c.Colour.Hex()}
		if k, known := KindOf(c.Kind); known && k.WideMM > 0 {
			in.WideMM = k.WideMM
			filled += areaMM2(k.WideMM)
		} else {
			use.Unknown++
			in.WideMM, in.Guessed = cat6.WideMM, true
		}
		use.Holds = append(use.Holds, in)
	}
	if r.InsideMM == nil {
		return use
	}
	inside := areaMM2(*r.InsideMM)
	percent, most := 100*filled/inside, 100*mostFill(use.Cables)
	use.FilledP, use.MostP = &percent, &most
	use.Over = percent > most
	if use.Unknown > 0 {
		return use // what fits beside them is unknown
	}
	// Two may fill less than three may, so ask from the most down.
	more := max(0, int((inside*mostFill(1)-filled)/areaMM2(cat6.WideMM)))
	for more > 0 && filled+float64(more)*areaMM2(cat6.WideMM) > inside*mostFill(use.Cables+more) {
		more--
	}
	use.More = &more
	return use
}

func (w *Wiring) endWords(e *lab.End) string {
	if e == nil {
		return "?"
	}
	return w.lab.EndWords(*e)
}

// Runs tells of every run how full it is.
func (w *Wiring) Runs() []RunUse {
	list := []RunUse{}
	for r := range lab.Each[lab.Run](w.lab) {
		list = append(list, w.UseOf(r))
	}
	return list
}
