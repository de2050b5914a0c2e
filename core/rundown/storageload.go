package rundown

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// owned finds the records of a kind whose names are their own within what they are on
// or of: pools of one name may be on two devices. A line that does not say it is about
// the only one there is of that name.
func (ld *loader) owned(lines []*thing) {
	new := map[string]lab.ID{}       // of this text, by what they are told by
	called := map[string][]lab.Key{} // those there are, by name
	of := lineKindOf(ld.kinds, kindOfLines(lines)).of
	says := func(t *thing) int {
		if slices.ContainsFunc(t.said, func(s said) bool { return s.fact.field == of }) {
			return 0
		}
		return 1
	}
	// Those that say what they are on first, so that the order of lines does not matter.
	slices.SortStableFunc(lines, func(a, b *thing) int { return says(a) - says(b) })
	for _, t := range lines {
		if !t.broken && len(called) == 0 {
			for r := range ld.base.Records(t.kind) {
				name := lab.FoldName(lab.OwnName(r))
				called[name] = append(called[name], r.Key())
			}
		}
	}
	for _, t := range lines {
		if t.broken {
			continue
		}
		if t.name == "" && t.kind == lab.KindPool { // it goes by its device's name
			t.name = ld.ownerOf(t)
		}
		if t.name == "" {
			ld.wrong(t, t.col, t.end, fmt.Errorf("say what the %s is called, such as %s %q", t.kind.Words(), t.kind.Words(), "hold"))
			continue
		}
		id, ok := ld.ownedBy(t, new, called)
		if !ok {
			t.broken = true
			continue
		}
		if slices.ContainsFunc(t.said, func(s said) bool { return picksDrives(s.value) }) {
			ld.stale = true // those that lines above took are in a pool
		}
		if ld.used[id] { // it is told by that
			t.said = slices.DeleteFunc(t.said, func(s said) bool { return s.fact.field == of })
		}
		ld.saidOf(t, id, "")
		if p, ok := ld.after[lab.Key{Kind: t.kind, ID: id}].(lab.Pool); ok {
			ld.note(t, ld.withItsDrives(p))
		}
		if r := ld.after[lab.Key{Kind: t.kind, ID: id}]; r != nil && lab.OwnName(r) == "" {
			named, _ := lab.Renamed(r, t.name)
			ld.after[named.Key()] = named
		}
	}
}

func kindOfLines(lines []*thing) lab.RecordKind {
	if len(lines) == 0 {
		return ""
	}
	return lines[0].kind
}

// ownerOf is what a line that gives no name says it is on, "" where it does not.
func (ld *loader) ownerOf(t *thing) string {
	for _, s := range t.said {
		if list, ok := s.value.(severalNamed); ok && s.fact.field == lineKindOf(ld.kinds, t.kind).of {
			return list[0].name
		}
	}
	return ""
}

// withItsDrives is a pool whose only set was said without its drives, with all those of
// its device that are in no pool, where they are of one medium.
func (ld *loader) withItsDrives(p lab.Pool) lab.Pool {
	if len(p.Sets) != 1 || len(p.Sets[0].Drives) > 0 || p.Sets[0].Some != nil {
		return p
	}
	ld.stale = true
	at := &poolSetting{setting: ld.setting(p), pool: p}
	drives, err := pickedSaid{}.in(at)
	media := map[lab.Medium]bool{}
	for _, d := range drives {
		part, _ := ld.lab().DriveOf(d)
		media[part.Medium] = true
	}
	set := p.Sets[0]
	if set.Drives = drives; err != nil || len(media) != 1 || !set.Possible() {
		return p
	}
	p.Sets = []lab.DriveSet{set}
	return p
}

// ownedBy is the record that a line is about, new or known.
func (ld *loader) ownedBy(t *thing, new map[string]lab.ID, called map[string][]lab.Key) (lab.ID, bool) {
	how := lineKindOf(ld.kinds, t.kind)
	blank, _ := lab.Renamed(lab.Blank(t.kind, "new"), t.name)
	name := lab.FoldName(t.name)
	at := slices.IndexFunc(t.said, func(s said) bool { return s.fact.field == how.of && s.value != nil })
	if at < 0 {
		switch known := called[name]; len(known) {
		case 1:
			return known[0].ID, true
		case 0:
			f := indexes[t.scope()].byField[how.of]
			ld.wrong(t, t.col, t.end, fmt.Errorf("say what “%s” is on or of, such as %s %s %s", text.Short(t.name), how.word, text.Quote(t.name),
				f.example))
		default:
			ld.wrong(t, t.col, t.end, fmt.Errorf("there are %d of the name “%s”; say which, such as %s %s %s", len(known), text.Short(t.name),
				how.word,
				text.Quote(t.name), indexes[t.scope()].byField[how.of].example))
		}
		return "", false
	}
	s := t.said[at]
	v, err := ld.setting(blank).out(s.value)
	if err != nil {
		ld.wrong(t, s.col, s.end, err)
		return "", false
	}
	b := open(blank)
	s.fact.set(b, v)
	told := lab.Uniques(closed(b))[0]
	key := lab.FoldName(told.Value)
	if id, ok := new[key]; ok {
		return id, true
	}
	if id, ok := ld.base.Having(t.kind, told); ok {
		return id, true
	}
	id := ld.opt.NewID()
	new[key] = id
	called[name] = append(called[name], lab.Key{Kind: t.kind, ID: id})
	return id, true
}

// picksDrives reports whether a value names drives by what they are, so that it
// matters which are taken already.
func picksDrives(v any) bool {
	picks := func(s setSaid) bool {
		return slices.ContainsFunc(s.drives, func(d drivesSaid) bool { _, is := d.(pickedSaid); return is })
	}
	switch is := v.(type) {
	case setsSaid:
		return slices.ContainsFunc(is, picks)
	case moreOfSet:
		return picks(is.setSaid)
	case setSaid:
		return picks(is)
	}
	return false
}

// holderSaid is what data lies on, as it is written: a name, and of which kind where
// that is said.
type holderSaid struct {
	kind lab.RecordKind
	name string
}

// holderKinds are what stands before a name that is to be of one kind.
var holderKinds = map[string]lab.RecordKind{"pool": lab.KindPool, "device": lab.KindDevice, "drive": lab.KindPart, "disk": lab.KindPart,
	"place": lab.KindPlace}

// liesOn is what data lies on: vault, silo/hold, drive "friday", "Aunt's attic".
func liesOn[R any](of scope, name, field string, words []string, example string, at func(*R) **lab.Holder) fact {
	show := func(l *lab.Lab, b box) string { return holderText(l, *at(b.(*R))) }
	return fact{of: of, name: name, field: field, words: words, example: example, pattern: words[0] + " %s", show: show, names: lab.KindPool,
		read: func(tokens []text.Token, _ bool) (any, error) {
			switch {
			case text.IsUnknown(tokens):
				return nil, nil
			case len(tokens) == 0:
				return nil, fmt.Errorf("name a pool, a device, a drive or a place, such as %s", example)
			}
			if kind := holderKinds[tokens[0].Plain]; kind != "" && len(tokens) > 1 && tokens[0].Kind == text.Word {
				return holderSaid{kind, calledIn(tokens[1:])}, nil
			}
			return holderSaid{"", strings.TrimSpace(text.Joined(tokens))}, nil
		},
		set: func(b box, v any) {
			*at(b.(*R)) = nil
			if h, ok := v.(lab.Holder); ok {
				*at(b.(*R)) = &h
			}
		}}
}

// withoutArticle is a name without the little word that it is spoken with: my sister's.
func withoutArticle(name string) string {
	first, rest, ok := strings.Cut(name, " ")
	if ok && slices.Contains([]string{"the", "my", "our", "his", "her", "their"}, strings.ToLower(first)) {
		return rest
	}
	return name
}

func (h holderSaid) in(s setting) (any, error) {
	found := holdersCalled(s, h)
	if bare := withoutArticle(h.name); len(found) == 0 && bare != h.name {
		found = holdersCalled(s, holderSaid{h.kind, bare})
	}
	switch len(found) {
	case 1:
		return found[0], nil
	case 0:
		if h.kind != "" && h.kind != lab.KindPart {
			return nil, noneCalled(s.lab, h.kind, h.name)
		}
		if h.kind == lab.KindPart {
			_, err := driveCalled(s.lab, h.name)
			return nil, err
		}
		return nil,
			fmt.Errorf("there is no pool, device, drive or place called “%s”; a line such as place %s, outside the house makes it a place",
				text.Short(h.name), text.Quote(text.Short(h.name)))
	}
	var say []string
	for _, one := range found {
		say = append(say, holderOfKind(s.lab, one))
	}
	return nil, mayBe(h.name, say)
}

// holdersCalled are those that go by a name. A device with one pool is that pool.
func holdersCalled(s setting, h holderSaid) []lab.Holder {
	var found []lab.Holder
	may := func(kind lab.RecordKind) bool { return h.kind == "" || h.kind == kind }
	add := func(kind lab.RecordKind, id lab.ID) {
		if one, _ := lab.HolderOf(lab.Key{Kind: kind, ID: id}); !slices.Contains(found, one) {
			found = append(found, one)
		}
	}
	if may(lab.KindPool) {
		for _, p := range poolsCalled(s.lab, h.name) {
			add(lab.KindPool, p.ID)
		}
	}
	if id, err := s.named(lab.KindDevice, h.name); may(lab.KindDevice) && err == nil && !ofPools(s.lab, found, id) {
		if on := poolsOn(s.lab, id); len(on) == 1 && h.kind == "" {
			add(lab.KindPool, on[0].ID)
		} else {
			add(lab.KindDevice, id)
		}
	}
	if part, err := driveCalled(s.lab, h.name); may(lab.KindPart) && err == nil {
		add(lab.KindPart, part.ID)
	}
	if id, ok := s.lab.Named(lab.KindPlace, h.name); may(lab.KindPlace) && ok {
		add(lab.KindPlace, id)
	}
	return found
}

// ofPools reports whether a device is only what some pools are on, or made of.
func ofPools(l *lab.Lab, found []lab.Holder, device lab.ID) bool {
	return slices.ContainsFunc(found, func(h lab.Holder) bool {
		p, ok := lab.Find[lab.Pool](l, h.Pool)
		return ok && (slices.Contains(p.Hosts(), device) || slices.ContainsFunc(p.All(),
			func(d lab.PoolDrive) bool { return d.Device == device }))
	})
}

// holderText is what data lies on as a line writes it, so that it is read again.
func holderText(l *lab.Lab, h *lab.Holder) string {
	if h == nil {
		return ""
	}
	s := settingOf(l, nil, "")
	names := []string{l.HolderWords(h)}
	if p, ok := lab.Find[lab.Pool](l, h.Pool); ok {
		names = []string{p.Name, refsOf(l).numbered(p.Device) + "/" + p.Name}
	}
	if h.Device != "" {
		names[0] = refsOf(l).numbered(h.Device)
	}
	for _, name := range names {
		if found := holdersCalled(s, holderSaid{name: name}); len(found) == 1 && found[0] == *h {
			if bareName.MatchString(strings.Replace(name, "/", " ", 1)) && !strings.Contains(name, " ") &&
				holderKinds[strings.ToLower(name)] == "" &&
				!slices.Contains([]string{"to", "from", "the", "in", "on"}, strings.ToLower(name)) {
				return name
			}
			return text.Quote(name)
		}
	}
	return holderOfKind(l, *h)
}

// holderOfKind is what data lies on with its kind before it.
func holderOfKind(l *lab.Lab, h lab.Holder) string {
	switch r := l.Get(h.Key()).(type) {
	case lab.Pool:
		return "pool " + text.Quote(refsOf(l).numbered(r.Device)+"/"+r.Name)
	case lab.Device:
		return "device " + text.Quote(refsOf(l).numbered(r.ID))
	case lab.Part:
		return "drive " + text.Quote(r.Name)
	case lab.Place:
		return "place " + text.Quote(r.Name)
	}
	return ""
}

// stored finds pools and datasets by their names; made once for a lab.
type stored struct {
	pools    map[string][]lab.Pool
	datasets map[string][]lab.Dataset
	on       map[lab.ID][]lab.Pool // by device
}

func storedIn(l *lab.Lab) *stored {
	return lab.Derived(l, func(l *lab.Lab) *stored {
		s := &stored{map[string][]lab.Pool{}, map[string][]lab.Dataset{}, map[lab.ID][]lab.Pool{}}
		for p := range lab.Each[lab.Pool](l) {
			s.pools[lab.FoldName(p.Name)] = append(s.pools[lab.FoldName(p.Name)], p)
			for _, host := range p.Hosts() {
				s.on[host] = append(s.on[host], p)
			}
		}
		for d := range lab.Each[lab.Dataset](l) {
			s.datasets[lab.FoldName(d.Name)] = append(s.datasets[lab.FoldName(d.Name)], d)
		}
		return s
	})
}

func poolsOn(l *lab.Lab, device lab.ID) []lab.Pool { return storedIn(l).on[device] }

// poolsCalled are the pools that go by a name: hold, silo/hold, hold on silo.
func poolsCalled(l *lab.Lab, name string) []lab.Pool {
	if all := storedIn(l).pools[lab.FoldName(name)]; len(all) > 0 {
		return all
	}
	for _, form := range []struct {
		between     string
		deviceFirst bool
	}{{"/", true}, {" on ", false}, {" of ", false}} {
		a, b, ok := strings.Cut(name, form.between)
		if !ok {
			continue
		}
		if !form.deviceFirst {
			a, b = b, a
		}
		id, err := findNamed(l, lab.KindDevice, strings.TrimSpace(a))
		if err != nil {
			continue
		}
		var list []lab.Pool
		for _, p := range poolsOn(l, id) {
			if lab.FoldName(p.Name) == lab.FoldName(strings.TrimSpace(b)) {
				list = append(list, p)
			}
		}
		return list
	}
	return nil
}

// datasetSaid is a dataset as it is written: choir scores; choir scores on vault.
type datasetSaid string

// datasetNamed lets a fact that names a dataset say on what it is where several have
// the name.
func datasetNamed(f fact) fact {
	f.example, f.typedWhole, f.file = f.words[0]+` "choir scores"`, false, "dataset"
	word := f.words[0]
	show := func(l *lab.Lab, b box) string {
		for _, ref := range closed(b).Refs() {
			if d, ok := lab.Find[lab.Dataset](l, ref.To.ID); ok && ref.Field == f.field {
				return datasetText(l, d)
			}
		}
		return ""
	}
	f.show = show
	f.write = func(l *lab.Lab, b box) string {
		if s := show(l, b); s != "" {
			return word + " " + s
		}
		return ""
	}
	f.read = func(tokens []text.Token, _ bool) (any, error) {
		if text.IsUnknown(tokens) {
			return nil, nil
		}
		if len(tokens) == 0 {
			return nil, fmt.Errorf("name the dataset, such as %s", f.example)
		}
		return datasetSaid(strings.TrimSpace(text.Joined(tokens))), nil
	}
	return f
}

// datasetsCalled are the datasets that go by a name: choir scores, choir scores on vault.
func datasetsCalled(s setting, name string) []lab.Dataset {
	found := storedIn(s.lab).datasets[lab.FoldName(name)]
	if len(found) == 0 {
		found = storedIn(s.lab).datasets[lab.FoldName(withoutArticle(name))]
	}
	if len(found) == 0 {
		if at := strings.LastIndex(name, " on "); at > 0 {
			for _, one := range storedIn(s.lab).datasets[lab.FoldName(name[:at])] {
				if h := holdersCalled(s, holderSaid{name: name[at+len(" on "):]}); len(h) == 1 && h[0] == *one.On {
					found = append(found, one)
				}
			}
		}
	}
	return found
}

func (d datasetSaid) in(s setting) (any, error) {
	name := string(d)
	found := datasetsCalled(s, name)
	switch len(found) {
	case 0:
		return nil, fmt.Errorf("%w; a line such as dataset %s on hold makes it", noneCalled(s.lab, lab.KindDataset, name),
			text.Quote(text.Short(name)))
	case 1:
		return found[0].ID, nil
	}
	var say []string
	for _, one := range found {
		say = append(say, datasetText(s.lab, one))
	}
	return nil, mayBe(name, say)
}

// datasetText is a dataset as a line writes it.
func datasetText(l *lab.Lab, d lab.Dataset) string {
	if len(storedIn(l).datasets[lab.FoldName(d.Name)]) == 1 {
		return text.Quote(d.Name)
	}
	return text.Quote(d.Name) + " on " + holderText(l, d.On)
}

// goingOn is a phrase that may go on in the list before it: linnet, behind to vesper. It
// is a remark where there is no such thing.
type goingOn struct {
	yet
	phrase []text.Token
}

// goesOn reads a phrase that says nothing else as more of the list that is said before it.
func (t *thing) goesOn(phrase []text.Token) (said, bool) {
	const most = 3 // words of a name
	if len(t.said) == 0 || len(phrase) > most || slices.ContainsFunc(phrase, func(t text.Token) bool { return t.Kind == text.Unknown }) {
		return said{}, false
	}
	f := t.said[len(t.said)-1].fact
	meant, _ := factNamed(t.scope(), phrase)
	if !f.goesOn || meant != nil || slices.ContainsFunc(indexes[t.scope()].shaped, func(f *fact) bool { return f.matches(phrase) }) {
		return said{}, false // it is wrong about something else
	}
	v, err := f.read(phrase, false)
	list, open := v.(yet)
	if err != nil || !open && (len(phrase) > 1 || phrase[0].Kind != text.Quoted) {
		return said{}, false
	}
	if !open { // used by "the choir", "Ada"
		return said{fact: f, value: v, col: phrase[0].Col, end: phrase[0].End}, true
	}
	return said{fact: f, value: goingOn{list, slices.Clone(phrase)}, col: phrase[0].Col, end: phrase[len(phrase)-1].End}, true
}

// orRemark keeps as a remark what would have gone on in a list.
func (ld *loader) orRemark(t *thing, s said, b box, err error) bool {
	on, is := s.value.(goingOn)
	if none := (*noneError)(nil); !is || !errors.As(err, &none) {
		return false
	}
	remark := kept(t.scope(), on.phrase)
	ld.keep(t, remark)
	remark.fact.set(b, remark.value)
	return true
}

// shareEnds are what a share is of, how it is reached and who mounts it in one phrase:
// of "photographs" by smb to vesper. It is nil for any other phrase.
func shareEnds(phrase []text.Token) [][]text.Token {
	var list [][]text.Token
	for len(phrase) > 0 {
		n := 1 + slices.IndexFunc(phrase[1:], func(t text.Token) bool {
			return t.Kind == text.Word && slices.Contains([]string{"of", "by", "over", "to"}, t.Plain)
		})
		if n == 0 {
			n = len(phrase)
		}
		list, phrase = append(list, phrase[:n]), phrase[n:]
	}
	if len(list) < 2 {
		return nil
	}
	return list
}
