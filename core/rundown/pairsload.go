package rundown

import (
	"fmt"
	"slices"

	"levelstaff/core/lab"
)

// pairs finds the records of a kind without names, by what is unique to them once
// what their lines name is found: a rule by its two sides, a route by where it leads.
func (ld *loader) pairs(lines []*thing) {
	made := map[lab.Unique]lab.ID{} // by lines above
	for _, t := range lines {
		if t.broken {
			continue
		}
		sample, ok := ld.sample(t)
		if !ok {
			continue
		}
		sample.Value = lab.FoldName(sample.Value)
		id, known := made[sample]
		if !known {
			id, known = ld.base.Having(t.kind, sample)
		}
		if !known {
			id = ld.opt.NewID()
			made[sample] = id
		}
		ld.saidOf(t, id, map[lab.RecordKind]string{lab.KindOpening: "device_id", lab.KindCopy: "from", lab.KindNeed: "any_of"}[t.kind])
	}
}

// saidOf puts down what a line says of a record without a name: of a new one, of one
// that the lab has, or that a line above spoke of. What it is known by is there already,
// but for a field that only goes with that.
func (ld *loader) saidOf(t *thing, id lab.ID, but string) {
	key := lab.Key{Kind: t.kind, ID: id}
	was, again := ld.base.Get(key), ld.used[id]
	if was == nil && !again {
		r := lab.Blank(t.kind, id)
		ld.put(t, ld.applyAfter(t, r, ld.givenOf(key), false))
		return
	}
	t.said = slices.DeleteFunc(t.said, func(s said) bool { return s.fact.head && s.fact.field != but })
	if again {
		ld.again(t, key, nil)
		return
	}
	for _, f := range indexes[t.scope()].heads {
		if f.field != but {
			ld.givenOf(key)[f.field] = nil
		}
	}
	ld.put(t, ld.applyAfter(t, was, ld.givenOf(key), ld.opt.Forget))
}

// sample is what is unique to the record that a line is about; ok is false where the
// line is wrong, which is said.
func (ld *loader) sample(t *thing) (lab.Unique, bool) {
	b := open(lab.Blank(t.kind, "new"))
	for _, s := range t.said {
		if !s.fact.head {
			continue
		}
		v, err := ld.setting(closed(b)).out(s.value)
		if err != nil {
			ld.wrong(t, s.col, s.end, err)
			t.broken = true
			return lab.Unique{}, false
		}
		s.fact.set(b, v)
	}
	list := lab.Uniques(closed(b))
	if len(list) == 0 {
		ld.wrong(t, t.col, t.end, fmt.Errorf("say what the %s is between", t.kind.Words()))
		t.broken = true
		return lab.Unique{}, false
	}
	return list[0], true
}

// subnets are found by their prefix, and by their VLAN where several have the same
// one: a line that does not say it is about the only one there is.
func (ld *loader) subnets(lines []*thing) {
	saysVLAN := func(t *thing) bool {
		return slices.ContainsFunc(t.said, func(s said) bool { return s.fact.field == "vlan" || s.fact.field == "switching_domain" })
	}
	prefixOf := func(t *thing) any { return t.said[0].value }
	// Those that say their VLAN first, so that the order of lines does not matter.
	slices.SortStableFunc(lines, func(a, b *thing) int {
		return map[bool]int{true: 0, false: 1}[!a.broken && saysVLAN(a)] - map[bool]int{true: 0, false: 1}[!b.broken && saysVLAN(b)]
	})
	for _, t := range lines {
		if t.broken {
			continue
		}
		b := open(lab.Blank(lab.KindSubnet, "new"))
		for _, s := range t.said {
			if s.fact.head || s.fact.field == "vlan" || s.fact.field == "switching_domain" {
				s.fact.set(b, s.value)
			}
		}
		want := closed(b).(lab.Subnet)
		ld.stale = true
		var found []lab.Subnet
		for o := range lab.Each[lab.Subnet](ld.lab()) {
			if o.CIDR == prefixOf(t) && (!saysVLAN(t) || o.VLAN == nil || want.VLAN == nil || *o.VLAN == *want.VLAN && o.Domain == want.Domain) {
				found = append(found, o)
			}
		}
		switch {
		case len(found) > 1 && !saysVLAN(t):
			ld.wrong(t, t.col, t.end, fmt.Errorf("%s is there in VLAN after VLAN; say which, such as subnet %s vlan %d", want.CIDR, want.CIDR,
				*found[1].VLAN))
			t.broken = true
		case len(found) > 0:
			ld.saidOf(t, found[0].ID, "")
		default:
			ld.saidOf(t, ld.opt.NewID(), "")
		}
	}
}
