package lab

import (
	"cmp"
	"slices"
	"strings"
)

// Need is that one thing needs any of some others, as a person wrote it down. What
// follows from other records, such as that a guest needs its host, is nowhere written.
type Need struct {
	ID    ID     `json:"id" required:"true"`
	Of    *Key   `json:"of" required:"true" description:"What needs it"`
	Any   []Key  `json:"any_of" required:"true" nullable:"false" minItems:"1" maxItems:"16" description:"What it needs: one of these will do"`
	Wants bool   `json:"wants,omitempty" description:"It goes on without, with less"`
	Notes string `json:"notes,omitempty" maxLength:"10000"`
	Remarked
}

// mostAlternatives is how many things one need is met by.
const mostAlternatives = 16

// NeedKinds are what may need something and be needed.
func NeedKinds() []RecordKind {
	return []RecordKind{KindService, KindDevice, KindPool, KindDataset, KindShare, KindLine, KindCircuit, KindTunnel}
}

// Key implements Record.
func (n Need) Key() Key { return Key{KindNeed, n.ID} }

// Title implements Record. NeedWords names both sides.
func (n Need) Title() string { return "a need" }

// NeedWords is a need by its two sides: "books needs names 1 or names 2".
func (l *Lab) NeedWords(n Need) string {
	if n.Of == nil {
		return n.Title()
	}
	var any []string
	for _, k := range n.Any {
		any = append(any, l.titleOf(k))
	}
	return l.titleOf(*n.Of) + " " + n.Verb() + " " + strings.Join(any, " or ")
}

// Verb is how it needs it: needs or wants.
func (n Need) Verb() string {
	if n.Wants {
		return "wants"
	}
	return "needs"
}

func (l *Lab) titleOf(k Key) string {
	if r := l.Get(k); r != nil {
		return r.Title()
	}
	return k.Kind.Words()
}

// Refs implements Record.
func (n Need) Refs() []Ref {
	var refs []Ref
	if n.Of != nil {
		refs = append(refs, Ref{"of.id", *n.Of, GoAlong})
	}
	for _, k := range n.Any {
		refs = append(refs, Ref{"any_of", k, Clear})
	}
	return refs
}

// without is the need without one of its alternatives: nothing where none is left.
func (n Need) without(of Key) Record {
	n.Any = slices.DeleteFunc(slices.Clone(n.Any), func(k Key) bool { return k == of })
	if len(n.Any) == 0 {
		return nil
	}
	return n
}

// uniques: one thing is said of what needs what, whether it needs it or wants it.
func (n Need) uniques() []Unique {
	if n.Of == nil || len(n.Any) == 0 {
		return nil
	}
	any := slices.SortedFunc(slices.Values(n.Any), func(a, b Key) int { return cmp.Or(cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.ID, b.ID)) })
	said := string(n.Of.Kind) + " " + string(n.Of.ID)
	for _, k := range any {
		said += "\n" + string(k.Kind) + " " + string(k.ID)
	}
	return []Unique{{"pair", said}}
}

func (n Need) check(f *faults) {
	f.id(n.ID)
	if n.Of == nil {
		f.add("of", "say what needs it")
	} else {
		oneOf(f, "of", n.Of.Kind, NeedKinds())
	}
	if len(n.Any) == 0 || len(n.Any) > mostAlternatives {
		f.add("any_of", "has %d alternatives; 1 to %d are allowed", len(n.Any), mostAlternatives)
	}
	for i, k := range n.Any {
		oneOf(f, "any_of", k.Kind, NeedKinds())
		if n.Of != nil && k == *n.Of {
			f.add("any_of", "a thing cannot need itself; name what else it needs")
		}
		if slices.Contains(n.Any[:i], k) {
			f.add("any_of", "name each alternative once")
		}
	}
	f.text("notes", n.Notes, maxNotes)
	n.Remarked.check(f)
}
