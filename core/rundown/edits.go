package rundown

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// Verb is what happened to a record, in the word for it.
type Verb string

// What can happen to a record.
const (
	Added   Verb = "added"
	Renamed Verb = "renamed"
	Moved   Verb = "moved"
	Changed Verb = "changed"
	Removed Verb = "removed"
)

// Enum lists the verbs for the published schema.
func (Verb) Enum() []any { return []any{Added, Renamed, Moved, Changed, Removed} }

// Edit is one change in words.
type Edit struct {
	Verb   Verb    `json:"verb" required:"true"`
	Record lab.Key `json:"record" required:"true"`
	Title  string  `json:"title" required:"true" description:"What the record is called"`
	Where  string  `json:"where,omitempty" description:"Where it is, where it is still there"`
	To     string  `json:"to,omitempty" description:"The page that shows it, where it is still there"`
	Detail string  `json:"detail,omitempty" description:"From what to what"`
	Says   string  `json:"says" required:"true" description:"What follows the title: ': weight 25 kg (was 24 kg)'"`
}

// String is the edit as the logbook has it: "anvil: weight 25 kg (was 24 kg)".
func (e Edit) String() string { return e.Title + e.Says }

func (v Verb) says(detail string) string {
	switch {
	case v == Changed:
		return ": " + detail
	case detail == "":
		return " " + string(v)
	case detail == nowhere:
		return " " + string(v) + ", " + detail
	}
	return " " + string(v) + " " + detail
}

// Edits says in words what changes did between two labs, a record with a new
// name, spot and facts in one edit for each of the three.
func Edits(before, after *lab.Lab, changes []lab.Change) []Edit {
	list := []Edit{}
	with, follows := followers(before, changes)
	for _, c := range changes {
		if follows[c.Key()] {
			continue
		}
		add := func(v Verb, title, detail string) {
			edit := Edit{Verb: v, Record: c.Key(), Title: title, Detail: detail, Says: v.says(detail)}
			if c.After != nil {
				edit.Where, edit.To = placeWords(after, c.After), pageOf(c.After)
			}
			list = append(list, edit)
		}
		switch {
		case c.Before == nil:
			add(Added, titleWithKind(after, c.After), addedWhere(after, c.After))
		case c.After == nil:
			add(Removed, titleWithKind(before, c.Before), with[c.Key()].words())
		default:
			was, is := c.Before, c.After
			title := titleIn(after, is)
			if lab.OwnName(was) != lab.OwnName(is) && is.Key().Kind != lab.KindCable {
				add(Renamed, titleIn(before, was), "to "+titleIn(after, is))
			}
			if moved(was, is) {
				add(Moved, title, "from "+whereOf(before, was)+" to "+whereOf(after, is))
			}
			if detail := changedFacts(before, after, was, is); detail != "" {
				add(Changed, title, detail)
			}
		}
	}
	return list
}

// titleIn is what a record is called in a lab: a cable goes by its ends.
func titleIn(l *lab.Lab, r lab.Record) string {
	switch r := r.(type) {
	case lab.Cable:
		return cableTitle(l, r)
	case lab.Rule:
		return l.RuleWords(r)
	case lab.Copy:
		return l.CopyWords(r)
	case lab.Opening:
		return l.OpeningWords(r)
	case lab.Need:
		return l.NeedWords(r)
	}
	return r.Title()
}

func cableTitle(l *lab.Lab, c lab.Cable) string {
	if c.Label == "" && c.A == nil && c.B == nil {
		return c.Title()
	}
	return l.CableWords(c)
}

// goes is what follows from a removal: how many records go along, and how many
// cables lose what they had in it.
type goes struct {
	from           lab.RecordKind
	along, cleared int
}

func (g *goes) words() string {
	if g == nil {
		return ""
	}
	var said []string
	if g.along > 0 {
		said = append(said, fmt.Sprintf("with what is in it (%d)", g.along))
	}
	if n := g.cleared; n > 0 {
		lost := map[bool]string{true: "unplugged", false: "no longer in it"}[g.from == lab.KindDevice]
		said = append(said, fmt.Sprintf("and %d %s %s", n, map[bool]string{true: "cable", false: "cables"}[n == 1], lost))
	}
	return strings.Join(said, " ")
}

// followers tells for each record that is removed what goes with it, and for
// each change that only follows from such a removal that it does.
func followers(before *lab.Lab, changes []lab.Change) (with map[lab.Key]*goes, follows map[lab.Key]bool) {
	with, follows = map[lab.Key]*goes{}, map[lab.Key]bool{}
	var removed []lab.Key
	is := map[lab.Key]lab.Change{}
	for _, c := range changes {
		is[c.Key()] = c
		if c.After == nil {
			removed = append(removed, c.Key())
		}
	}
	wanted := map[lab.Key]lab.Record{}
	for _, c := range before.Removal(removed...) {
		wanted[c.Key()] = c.After
	}
	for _, key := range removed {
		for by := range before.UsersOf(key) {
			c, changed := is[by.Key()]
			if !changed || follows[by.Key()] || !lab.Same(c.After, wanted[by.Key()]) {
				continue
			}
			for _, ref := range by.Refs() {
				if ref.To != key || ref.Gone == lab.Refuse {
					continue
				}
				if with[key] == nil {
					with[key] = &goes{from: key.Kind}
				}
				follows[by.Key()] = true
				if ref.Gone == lab.GoAlong {
					with[key].along++
				} else {
					with[key].cleared++
				}
				break
			}
		}
	}
	return with, follows
}

// Label is a change's heading in the logbook: a few edits in words, more in
// numbers, such as "12 added, 3 moved".
func Label(edits []Edit) string {
	const few = 2
	var said []string
	if len(edits) <= few {
		for _, e := range edits {
			said = append(said, e.String())
		}
		return strings.Join(said, "; ")
	}
	count := map[Verb]int{}
	for _, e := range edits {
		count[e.Verb]++
	}
	for _, v := range []Verb{Added, Renamed, Moved, Changed, Removed} {
		if count[v] > 0 {
			said = append(said, fmt.Sprintf("%d %s", count[v], v))
		}
	}
	return strings.Join(said, ", ")
}

func titleWithKind(l *lab.Lab, r lab.Record) string {
	if c, ok := r.(lab.Cable); ok {
		return cableTitle(l, c)
	}
	if d, ok := r.(lab.Device); ok {
		return deviceTitle(d)
	}
	if p, ok := r.(lab.Part); ok {
		return sectionHead(string(p.Kind), p.Name)
	}
	if v, ok := r.(lab.VLAN); ok {
		return sectionHead("VLAN "+strconv.Itoa(v.Number), v.Name)
	}
	if _, named := lab.Renamed(r, ""); !named {
		return r.Key().Kind.Words() + " " + titleIn(l, r)
	}
	return sectionHead(r.Key().Kind.Words(), lab.OwnName(r))
}

// moved reports whether a record is somewhere else, not just in another order.
func moved(was, is lab.Record) bool {
	a, ok := was.(lab.Device)
	if b, also := is.(lab.Device); ok && also {
		return (a.At == nil) != (b.At == nil) || hold(a.At) != hold(b.At)
	}
	if p, ok := was.(lab.Part); ok {
		o := is.(lab.Part)
		return p.Device != o.Device || p.Seat != o.Seat || p.Ordered != o.Ordered
	}
	if c, ok := was.(lab.Cable); ok {
		return !sameEnds(c, is.(lab.Cable))
	}
	return isSomewhere(was) && !slices.Equal(was.Refs(), is.Refs())
}

// isSomewhere reports whether a record is of a kind that is in a place.
func isSomewhere(r lab.Record) bool {
	return slices.Contains([]lab.RecordKind{lab.KindPlace, lab.KindRack}, r.Key().Kind)
}

func sameEnds(a, b lab.Cable) bool { return sameEnd(a.A, b.A) && sameEnd(a.B, b.B) }

func sameEnd(a, b *lab.End) bool { return a == b || a != nil && b != nil && *a == *b }

// addedWhere is where a new record is; a section need not be anywhere.
func addedWhere(l *lab.Lab, r lab.Record) string {
	kind := r.Key().Kind
	if kind != lab.KindDevice && kind != lab.KindPart && (!isSomewhere(r) || len(r.Refs()) == 0) {
		return ""
	}
	where := whereOf(l, r)
	switch r.(type) {
	case lab.Device:
		if where != nowhere && !startsWith(where, "on ", "in ", "under ", "left of ", "right of ") {
			return "at " + where
		}
	case lab.Part:
		if !startsWith(where, "on ") {
			return "in " + where
		}
	}
	return where
}

func startsWith(s string, with ...string) bool {
	return slices.ContainsFunc(with, func(w string) bool { return strings.HasPrefix(s, w) })
}

func whereOf(l *lab.Lab, r lab.Record) string {
	if d, ok := r.(lab.Device); ok {
		return WhereWords(l, d)
	}
	if p, ok := r.(lab.Part); ok {
		return PartWhere(l, p)
	}
	if c, ok := r.(lab.Cable); ok {
		return l.CableWords(lab.Cable{A: c.A, B: c.B})
	}
	if in := inPlace(r, l); in != "" {
		return in
	}
	return "no place"
}

// PartWhere says where a part is: "anvil, bay 3", "the spares bin".
func PartWhere(l *lab.Lab, p lab.Part) string {
	switch {
	case p.Ordered:
		return "on order"
	case p.Device == "":
		return "the spares bin"
	}
	d, _ := lab.Find[lab.Device](l, p.Device)
	if p.Seat == 0 {
		return d.Title() + ", loose"
	}
	return fmt.Sprintf("%s, %s %d", d.Title(), p.Kind.Seat(), p.Seat)
}

// changedFacts names each fact that differs, with what it is now and, in
// brackets, what it was: "weight 25 kg (was 24 kg)".
func changedFacts(before, after *lab.Lab, was, is lab.Record) string {
	var said []string
	if a, ok := was.(lab.Device); ok && a.KindWords() != is.(lab.Device).KindWords() {
		said = append(said, fmt.Sprintf("kind %s (was %s)", kindOf(is.(lab.Device)), kindOf(a)))
	}
	from, to := open(was), open(is)
	for _, f := range factsOf(scopeOf(is)) {
		if f.field == "place_id" || f.field == "other_kind" { // the kind says it
			continue
		}
		was, is := f.logged(before, from), f.logged(after, to)
		if f.field == "port_marks" && was != is {
			said = append(said, marksChanged(from.(*lab.Device).Marks, to.(*lab.Device).Marks)...)
			continue
		}
		if was != is {
			said = append(said, fmt.Sprintf("%s %s (was %s)", f.logName(), is, was))
		}
	}
	if len(said) == 0 && !moved(was, is) && lab.OwnName(was) == lab.OwnName(is) && is.Key().Kind.Built() {
		return "order changed"
	}
	return strings.Join(said, ", ")
}

// marksChanged says of each port what is different: "port 3 tagged 20 (was untagged
// 10)"; what many have in common is said of a range.
func marksChanged(was, is []lab.PortMark) []string {
	const few = 3
	of := func(marks []lab.PortMark, port string) lab.PortMark {
		if i := slices.IndexFunc(marks, func(m lab.PortMark) bool { return m.Port == port }); i >= 0 {
			return marks[i]
		}
		return lab.PortMark{Port: port}
	}
	byWas := map[string][]lab.PortMark{} // by what they had
	var order []string
	for _, m := range lab.ByPort(slices.Concat(is, was)) {
		now, before := of(is, m.Port), of(was, m.Port)
		had := strings.TrimPrefix(markText(before), "port "+before.Port)
		if now == before || slices.Contains(byWas[had], now) {
			continue
		}
		if byWas[had] == nil {
			order = append(order, had)
		}
		byWas[had] = append(byWas[had], now)
	}
	var said []string
	for _, had := range order {
		from := strings.TrimSpace(had)
		if from == "" {
			from = "nothing"
		}
		said = append(said, fmt.Sprintf("%s (was %s)", marksText(byWas[had], true), from))
	}
	if len(said) > few {
		said = append(said[:few-1:few-1], fmt.Sprintf("and %d more ports", len(said)-few+1))
	}
	return said
}

// logName is what the logbook calls a fact.
func (f *fact) logName() string {
	if f.field == "takes_u" {
		return "takes"
	}
	return f.name
}

// logged writes a fact's value for the logbook, words of one's own in quotes.
func (f *fact) logged(l *lab.Lab, b box) string {
	value := ""
	if f.raw != nil {
		value = text.Short(f.raw(b))
	} else {
		value = f.show(l, b)
	}
	switch {
	case value == "" && f.maybe:
		return "none"
	case value == "":
		return "unknown"
	case f.raw != nil || f.typedWhole && !f.many && strings.Contains(value, " "):
		return text.Quote(value)
	}
	return text.Spaced(value)
}
