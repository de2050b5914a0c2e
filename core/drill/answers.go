package drill

import (
	"cmp"
	"fmt"
	"slices"

	"levelstaff/core/address"
	"levelstaff/core/lab"
	"levelstaff/core/need"
)

// Answers is who answers for names in some networks once something is gone.
type Answers struct {
	In    []string // the networks, by their VLANs or prefixes
	Still []string // in the order in which they are asked
	Gone  []string // those that answered before
}

// answers are those of the networks that lose a name server. Networks with the same name
// servers left are one entry. cutOff lists the devices that run but cannot be reached.
func (w *Whole) answers(now need.Outcome, cutOff []Hit) []Answers {
	plan := address.Of(w.lab)
	up := func(o need.Outcome, d lab.ID) bool {
		n, known := w.graph.Number(need.Thing{Key: lab.Key{Kind: lab.KindDevice, ID: d}})
		return !known || o.Up(n)
	}
	var list []Answers
	for i, s := range plan.Subnets() {
		var a Answers
		for _, id := range plan.NameServers(i) {
			d, _ := lab.Find[lab.Device](w.lab, id)
			away := slices.ContainsFunc(cutOff, func(h Hit) bool { return h.ID == id })
			switch {
			case !up(w.before, id) || d.State != lab.Running:
			case up(now, id) && !away:
				a.Still = append(a.Still, d.Title())
			default:
				a.Gone = append(a.Gone, d.Title())
			}
		}
		if a.Gone == nil {
			continue
		}
		in := cmp.Or(address.NameOf(w.lab, s), s.CIDR.String())
		at := slices.IndexFunc(list, func(o Answers) bool { return slices.Equal(o.Still, a.Still) })
		if at < 0 {
			at, list = len(list), append(list, Answers{Still: a.Still})
		}
		list[at].In, list[at].Gone = with(list[at].In, in), with(list[at].Gone, a.Gone...)
	}
	return list
}

// with is a list with what is not in it yet.
func with(list []string, more ...string) []string {
	for _, s := range more {
		if !slices.Contains(list, s) {
			list = append(list, s)
		}
	}
	return list
}

// Say is that in a sentence.
func (a Answers) Say() string {
	in := lab.Listed(a.In, 4)
	if len(a.Still) == 0 {
		return fmt.Sprintf("Nothing answers for names in %s.", in)
	}
	verb := map[bool]string{true: "answers", false: "answer"}[len(a.Still) == 1]
	return fmt.Sprintf("%s still %s for names in %s.", lab.Listed(a.Still, 3), verb, in)
}
