package cabling

import (
	"cmp"
	"slices"

	"levelstaff/core/lab"
)

// Want is a sort of lead that is wanted, what the bin has of it, and what is
// left to buy.
type Want struct {
	Kind    lab.CableKind `json:"cable_kind,omitempty"`
	Colour  lab.Colour    `json:"colour,omitempty"`
	Hex     string        `json:"hex,omitempty"`
	LengthM *float64      `json:"length_m,omitempty" description:"Absent while the length needed is unknown"`
	Wanted  int           `json:"wanted" required:"true"`
	Spare   int           `json:"spare" required:"true" description:"How many of them the spares bin has"`
	Buy     int           `json:"buy" required:"true"`
	Why     []string      `json:"why" required:"true" nullable:"false"`
}

type sort struct {
	kind   lab.CableKind
	colour lab.Colour
	m      float64
}

// ToBuy lists the leads that are wanted: those that a draft adds to the lab as
// built, those that are faulty and in use, and those that cannot reach. The
// spares bin gives what it has: the same kind and length; the same colour
// first, and any other where none of that colour is left.
func ToBuy(built, seen *lab.Lab) []Want {
	w := Of(seen)
	wants := map[sort]*Want{}
	add := func(c lab.Cable, m *float64, why string) {
		s := sort{kind: c.Kind, colour: c.Colour}
		if m != nil {
			s.m = *m
		}
		want := wants[s]
		if want == nil {
			want = &Want{Kind: c.Kind, Colour: c.Colour, Hex: c.Colour.Hex(), LengthM: m, Why: []string{}}
			wants[s] = want
		}
		want.Wanted++
		want.Why = append(want.Why, why)
	}
	spare := map[sort]int{}
	for c := range lab.Each[lab.Cable](seen) {
		if c.State == lab.CableSpare && c.LengthM != nil {
			spare[sort{c.Kind, c.Colour, *c.LengthM}]++
		}
		if c.Kind.Cordless() || c.State == lab.CableSpare {
			continue
		}
		_, was := lab.Find[lab.Cable](built, c.ID)
		lead := w.LeadOf(c)
		length, known := lead.Should()
		_, how := lead.Short()
		m := c.LengthM
		if m == nil && known {
			m = cmp.Or(length.StockM, &length.NeedM)
		}
		switch {
		case !was:
			add(c, m, "planned: "+seen.CableWords(c))
		case c.State == lab.CableFaulty:
			add(c, m, "faulty: "+seen.CableWords(c))
		case how == CannotReach:
			add(c, cmp.Or(length.StockM, &length.NeedM), "too short: "+seen.CableWords(c))
		}
	}
	list := []Want{}
	for s, want := range wants {
		take(want, s, spare)
		list = append(list, *want)
	}
	slices.SortFunc(list, func(a, b Want) int {
		return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(lengthOf(a), lengthOf(b)), cmp.Compare(a.Colour, b.Colour))
	})
	for i := range list { // what is left in the bin in other colours
		want := &list[i]
		if want.LengthM == nil {
			continue
		}
		for _, colour := range append(lab.ColourNames(), "") {
			take(want, sort{want.Kind, colour, *want.LengthM}, spare)
		}
	}
	return list
}

// Spare is a sort of lead in the spares bin.
type Spare struct {
	Kind    lab.CableKind `json:"cable_kind,omitempty"`
	Colour  lab.Colour    `json:"colour,omitempty"`
	LengthM *float64      `json:"length_m,omitempty"`
	Count   int           `json:"count" required:"true"`
}

// Bin lists what the spares bin has, alike ones together, in the order in which
// they came into it.
func Bin(l *lab.Lab) []Spare {
	list := []Spare{}
	at := map[sort]int{}
	for c := range lab.Each[lab.Cable](l) {
		if c.State != lab.CableSpare {
			continue
		}
		s := sort{kind: c.Kind, colour: c.Colour, m: -1} // of unknown length
		if c.LengthM != nil {
			s.m = *c.LengthM
		}
		if _, known := at[s]; !known {
			at[s] = len(list)
			list = append(list, Spare{Kind: c.Kind, Colour: c.Colour, LengthM: c.LengthM})
		}
		list[at[s]].Count++
	}
	return list
}

func lengthOf(w Want) float64 {
	if w.LengthM == nil {
		return 0
	}
	return *w.LengthM
}

// take gives a want what the bin has of a sort.
func take(want *Want, s sort, spare map[sort]int) {
	if want.LengthM != nil {
		n := min(want.Wanted-want.Spare, spare[s])
		spare[s] -= n
		want.Spare += n
	}
	want.Buy = want.Wanted - want.Spare
}
