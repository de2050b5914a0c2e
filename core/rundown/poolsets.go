package rundown

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

// layoutWords are what layouts are called.
var layoutWords = []struct {
	is    lab.Layout
	words []string
}{
	{lab.RAID10, []string{"raid 10", "raid10", "raid 1+0", "raid1+0", "striped mirrors", "mirrored pairs"}},
	{lab.RAID5, []string{"raid 5", "raid5"}},
	{lab.RAID6, []string{"raid 6", "raid6"}},
	{lab.RAIDZ1, []string{"raid z1", "raidz1", "raid z", "raidz"}},
	{lab.RAIDZ2, []string{"raid z2", "raidz2"}},
	{lab.RAIDZ3, []string{"raid z3", "raidz3"}},
	{lab.Stripe, []string{"stripe", "striped", "raid 0", "raid0"}},
	{lab.Mirror, []string{"mirror", "mirrored", "raid 1", "raid1"}},
	{lab.DedicatedParity, []string{"dedicated parity", "parity drive", "parity drives"}},
	{lab.Mixed, []string{"mixed", "mixed sizes", "mixed set", "mixed sized set"}},
	{lab.Replicated, []string{"replicated", "replica"}},
	{lab.Single, []string{"single", "single drive", "jbod"}},
}

// readLayout reads the layout that words begin with, by the most of them that are one.
func readLayout(tokens []text.Token) (is lab.Layout, used int) {
	for n := min(3, len(tokens)); n > 0; n-- {
		said := plainWords(tokens[:n])
		for _, l := range layoutWords {
			if slices.Contains(l.words, said) {
				return l.is, n
			}
		}
	}
	return "", 0
}

// setSaid is a set of drives as it is written, or more of the one before it.
type setSaid struct {
	layout         lab.Layout // "" for more of the one before it
	copies, writes int
	drives, parity []drivesSaid
	beside         bool // the sets that there are
}

// moreOfSet is what goes to the sets that there are.
type moreOfSet struct{ setSaid }

func (moreOfSet) amends() {}

// drivesSaid are some of a set's drives as they are written.
type drivesSaid interface {
	in(p *poolSetting) ([]lab.PoolDrive, error)
}

// looksLikeSet reports whether a phrase is about a set by its shape.
func looksLikeSet(tokens []text.Token) bool {
	tokens, _ = inBrackets(tokens)
	tokens, _ = timesSaid(tokens)
	if len(tokens) > 1 && (tokens[0].Is("another") || tokens[0].Is("plus")) {
		tokens = tokens[1:]
	}
	if len(tokens) == 0 {
		return true
	}
	if _, used := readLayout(tokens); used > 0 {
		return true
	}
	if _, _, ok := layoutBehind(tokens); ok {
		return true
	}
	_, writes := readWrites(tokens)
	_, redundant := readRedundancy(tokens)
	return writes || redundant || len(tokens) > 1 && (tokens[0].Is("of") || tokens[0].Is("parity")) || isNumbers(tokens)
}

// timesSaid tells how many alike sets a phrase is of: two raid-z2 of six 12TB.
func timesSaid(tokens []text.Token) (rest []text.Token, times int) {
	const most = 64
	if len(tokens) < 2 {
		return tokens, 1
	}
	n, ok := countIn(tokens[0])
	if tokens[0].Is("a") {
		n, ok = 1, true
	}
	if _, used := readLayout(tokens[1:]); ok && used > 0 && n > 0 && n <= most {
		return tokens[1:], n
	}
	return tokens, 1
}

// layoutBehind is the layout that a phrase ends with, and how many words come before
// it: six 10TB as raid-z2.
func layoutBehind(tokens []text.Token) (is lab.Layout, before int, ok bool) {
	for i := max(1, len(tokens)-3); i < len(tokens); i++ {
		if is, used := readLayout(tokens[i:]); used > 0 && i+used == len(tokens) {
			for i > 1 && slices.Contains([]string{"as", "in", "a", "one"}, tokens[i-1].Plain) {
				i--
			}
			return is, i, true
		}
	}
	return "", 0, false
}

// inBrackets takes what stands in brackets at the end of a phrase apart.
func inBrackets(tokens []text.Token) (before, within []text.Token) {
	at := slices.IndexFunc(tokens, func(t text.Token) bool { return t.Kind == text.Word && strings.HasPrefix(t.Text, "(") })
	if at < 0 {
		return tokens, nil
	}
	within = slices.Clone(tokens[at:])
	for i := range within {
		within[i].Text = strings.Trim(within[i].Text, "()")
		within[i].Plain = text.Plain(within[i].Text)
	}
	return tokens[:at], within
}

// readWrites reads how many copies a pool writes with: writes with 2.
func readWrites(tokens []text.Token) (int, bool) {
	if n := len(tokens); n == 3 && (tokens[0].Is("writes") || tokens[0].Is("write")) && tokens[1].Is("with") {
		return countIn(tokens[2])
	}
	return 0, false
}

// readRedundancy reads how many drives may fail: one redundancy, two drives of redundancy.
func readRedundancy(tokens []text.Token) (int, bool) {
	if len(tokens) < 2 || len(tokens) > 6 || !slices.ContainsFunc(tokens[1:], func(t text.Token) bool {
		return slices.Contains([]string{"redundancy", "redundant", "safety", "spare's"}, strings.ReplaceAll(t.Plain, "’", "'"))
	}) {
		return 0, false
	}
	if tokens[0].Is("with") {
		tokens = tokens[1:]
	}
	return countIn(tokens[0])
}

// readSet reads a set of drives: raid-z1 of bay 1-3 + 5-6.
func readSet(tokens []text.Token) (setSaid, error) {
	var s setSaid
	var err error
	tokens, within := inBrackets(tokens)
	if len(within) > 1 && within[0].Is("parity") {
		if s.parity, err = readDrives(within[1:]); err != nil {
			return s, err
		}
	}
	if len(tokens) > 1 && (tokens[0].Is("another") || tokens[0].Is("plus")) {
		s.beside, tokens = true, tokens[1:]
	}
	for i, t := range tokens { // mixed of bay 1-3 with one redundancy
		if n, ok := readRedundancy(tokens[i:]); ok && i > 0 && t.Is("with") {
			s.copies, tokens = n, tokens[:i]
			break
		}
	}
	if n, ok := readWrites(tokens); ok {
		s.writes = n
		return s, nil
	}
	if n, ok := readRedundancy(tokens); ok {
		s.copies = n
		return s, nil
	}
	is, used := readLayout(tokens)
	if used == 0 {
		if behind, before, ok := layoutBehind(tokens); ok {
			s.layout = behind
			s.drives, err = readDrives(tokens[:before])
			return s, err
		}
		if len(tokens) > 1 && tokens[0].Is("parity") {
			s.parity, err = readDrives(tokens[1:])
			return s, err
		}
		if len(tokens) > 0 && tokens[0].Is("of") {
			tokens = tokens[1:]
		}
		if len(tokens) > 0 {
			s.drives, err = readDrives(tokens)
		}
		return s, err
	}
	s.layout, tokens = is, tokens[used:]
	if len(tokens) > 0 {
		if n, ok := countIn(tokens[0]); ok && (len(tokens) == 1 || !isSize(tokens[1:2]) || tokens[1].Is("of")) &&
			slices.Contains([]lab.Layout{lab.DedicatedParity, lab.Mixed, lab.Replicated}, is) {
			s.copies, tokens = n, tokens[1:]
		}
	}
	open := len(tokens)
	for len(tokens) > 0 && slices.Contains([]string{"of", "over", "from", "on", "with", "across", "set", "pool"}, tokens[0].Plain) {
		tokens = tokens[1:]
	}
	if open > 0 {
		s.drives, err = readDrives(tokens)
	}
	return s, err
}

func isSize(tokens []text.Token) bool {
	q, n := text.ReadQuantity(tokens)
	return n > 0 && isIn(text.Capacity)(q)
}

// isNumbers reports whether a phrase is numbers alone: 5-6.
func isNumbers(tokens []text.Token) bool {
	_, used := bayNumbers(tokens)
	return used == len(tokens)
}

// bayNumbers reads numbers and ranges: 1-3, 1 to 3, 1,3,5.
func bayNumbers(tokens []text.Token) (list []int, used int) {
	for used < len(tokens) && tokens[used].Kind == text.Word {
		if tokens[used].Is("to") && len(list) > 0 && used+1 < len(tokens) {
			if to, err := strconv.Atoi(tokens[used+1].Text); err == nil {
				for n := list[len(list)-1] + 1; n <= min(to, 512); n++ {
					list = append(list, n)
				}
				used += 2
				continue
			}
		}
		for one := range strings.SplitSeq(tokens[used].Text, ",") {
			m := rangeWord.FindStringSubmatch(one)
			if m == nil {
				return list, used
			}
			from, _ := strconv.Atoi(m[1])
			to := from
			if m[2] != "" {
				to, _ = strconv.Atoi(m[2])
			}
			for n := min(from, to); n <= max(from, to); n++ {
				list = append(list, n)
			}
		}
		used++
	}
	return list, used
}

// readDrives reads drives, each piece behind a plus or an and.
func readDrives(tokens []text.Token) ([]drivesSaid, error) {
	var list []drivesSaid
	for len(tokens) > 0 {
		n := slices.IndexFunc(tokens, func(t text.Token) bool {
			return t.Kind == text.Separator || t.Kind == text.Word && slices.Contains([]string{"+", "and", "&"}, t.Text)
		})
		if n < 0 {
			n = len(tokens)
		}
		if n > 0 {
			d, err := readSomeOf(tokens[:n], list)
			if err != nil {
				return nil, err
			}
			list = append(list, d)
		}
		tokens = tokens[min(n+1, len(tokens)):]
	}
	if len(list) == 0 {
		return nil, errors.New("say of which drives, such as bay 1-4")
	}
	return list, nil
}

func readSomeOf(tokens []text.Token, before []drivesSaid) (drivesSaid, error) {
	if nth, used := bayNumbers(tokens); used == len(tokens) && len(before) > 0 {
		if bays, ok := before[len(before)-1].(baysSaid); ok {
			return baysSaid{bays.device, nth}, nil
		}
	}
	if len(tokens) == 1 && tokens[0].Kind == text.Quoted {
		return driveSaid(tokens[0].Text), nil
	}
	if len(tokens) == 2 && tokens[0].Is("drive") && tokens[1].Kind == text.Quoted {
		return driveSaid(tokens[1].Text), nil
	}
	for i, t := range tokens {
		word := strings.TrimSuffix(t.Plain, "s")
		if t.Kind != text.Word || word != "bay" && word != "slot" && word != "loose" {
			continue
		}
		nth, used := bayNumbers(tokens[i+1:])
		if used == 0 || i+1+used < len(tokens) {
			continue
		}
		device := calledIn(tokens[:i])
		if word == "loose" {
			return looseSaid{device, nth}, nil
		}
		return baysSaid{device, nth}, nil
	}
	if last := tokens[len(tokens)-1]; last.Is("missing") {
		n := 1
		if len(tokens) > 1 {
			n, _ = countIn(tokens[0])
		}
		if n > 0 {
			return missingSaid(n), nil
		}
	}
	if some, ok := readSome(tokens); ok {
		return someSaid(some), nil
	}
	if p, ok := readPicked(tokens); ok {
		return p, nil
	}
	return nil, fmt.Errorf("“%s” are not drives; write their bays, such as bay 1-4, or what they are, such as 4x 8TB",
		text.Short(text.Joined(tokens)))
}

// readSome reads drives of which it is not known which they are: 4 or 5 of 8 or 10TB,
// 5 unlisted of 8TB.
func readSome(tokens []text.Token) (lab.SomeDrives, bool) {
	var s lab.SomeDrives
	vague := slices.ContainsFunc(tokens, func(t text.Token) bool { return t.Is("or") || t.Is("unlisted") })
	least, ok := countIn(tokens[0])
	if !vague || !ok {
		return s, false
	}
	s.Least, s.Most = least, least
	tokens = tokens[1:]
	if len(tokens) > 1 && tokens[0].Is("or") {
		if most, ok := countIn(tokens[1]); ok && !isSize(tokens[1:]) {
			s.Most, tokens = most, tokens[2:]
		}
	}
	var sizes []text.Token
	for _, t := range tokens {
		if !slices.Contains([]string{"unlisted", "of", "drives", "disks", "drive"}, t.Plain) {
			sizes = append(sizes, t)
		}
	}
	if len(sizes) == 0 {
		return s, s.Least <= s.Most
	}
	or := slices.IndexFunc(sizes, func(t text.Token) bool { return t.Is("or") })
	last, err := text.ReadMeasure(sizes[or+1:], text.Capacity, false)
	if err != nil || last == nil {
		return s, false
	}
	first := last
	if or >= 0 {
		from := sizes[:or]
		if q, n := text.ReadQuantity(from); n == len(from) && q.Unit == "" { // 8 or 10TB
			unit := strings.TrimLeft(text.Joined(sizes[or+1:]), "0123456789.,")
			from = []text.Token{asWord(from[0], from[0].Text+strings.TrimSpace(unit))}
		}
		if first, err = text.ReadMeasure(from, text.Capacity, false); err != nil || first == nil {
			return s, false
		}
	}
	small, large := int64(min(*first, *last)), int64(max(*first, *last))
	s.LeastBytes, s.MostBytes = &small, &large
	return s, s.Least <= s.Most
}

// readPicked reads drives by what they are: six 10TB hdd, all, the loose ssds.
func readPicked(tokens []text.Token) (pickedSaid, bool) {
	p := pickedSaid{said: text.Joined(tokens)}
	if tokens[0].Is("the") {
		tokens = tokens[1:]
	}
	known := false
	for i := 0; i < len(tokens); i++ {
		t := tokens[i]
		if n, ok := countIn(t); ok && i == 0 && !isSize(tokens[:1]) && !(len(tokens) > 1 && isUnitWord(tokens[1])) {
			p.count = n
			continue
		}
		if q, n := text.ReadQuantity(tokens[i:]); n > 0 {
			if q.Unit = strings.TrimSuffix(q.Unit, "s"); q.Unit == "" && strings.HasSuffix(tokens[i+n-1].Plain, "s") {
				q.Unit = "tb" // the 8s, beside the 8TBs
			}
			v, err := q.In(text.Capacity, false)
			if err != nil {
				return p, false
			}
			bytes := int64(v)
			p.bytes, i, known = &bytes, i+n-1, true
			continue
		}
		switch word := strings.TrimSuffix(t.Plain, "s"); word {
		case "all", "drive", "disk", "bay":
		case "both":
			p.count = 2
		case "ssd", "hdd":
			p.medium = lab.Medium(word)
		case "loose":
			p.loose = true
		default:
			if !slices.Contains(lab.Interfaces(), t.Plain) && t.Plain != "cmr" && t.Plain != "smr" {
				return p, false
			}
			p.by = t.Plain
		}
		known = true
	}
	return p, known || p.count > 0 && len(tokens) == 1
}

func isUnitWord(t text.Token) bool { return t.Kind == text.Word && text.Capacity.Units[t.Plain] > 0 }

// poolSetting is what the drives of a pool are found in.
type poolSetting struct {
	setting
	pool  lab.Pool
	taken map[lab.ID]bool // drives that are in pools already, this one too
	some  *lab.SomeDrives // what is said of drives that are not known
}

// isTaken reports whether a drive is in a pool.
func (p *poolSetting) isTaken(id lab.ID) bool {
	if p.taken == nil {
		p.taken = map[lab.ID]bool{}
		add := func(o lab.Pool) {
			for _, d := range o.All() {
				if part, ok := p.lab.DriveOf(d); ok {
					p.taken[part.ID] = true
				}
			}
		}
		for o := range lab.Each[lab.Pool](p.lab) {
			if o.ID != p.pool.ID {
				add(o)
			}
		}
		add(p.pool)
	}
	return p.taken[id]
}

// device is the one that is named, or the pool's own.
func (p *poolSetting) device(name string) (lab.ID, error) {
	if name != "" {
		return p.named(lab.KindDevice, name)
	}
	return p.pool.Device, nil
}

type baysSaid struct {
	device string
	bays   []int
}

func (s baysSaid) in(p *poolSetting) ([]lab.PoolDrive, error) {
	id, err := p.device(s.device)
	var list []lab.PoolDrive
	for _, n := range s.bays {
		list = append(list, lab.PoolDrive{Device: id, Bay: n})
	}
	return list, err
}

// looseIn are the drives of a device that are in no bay, in order.
func looseIn(l *lab.Lab, device lab.ID) []lab.Part {
	return slices.DeleteFunc(l.PartsOf(device), func(p lab.Part) bool { return p.Kind != lab.Drive || p.Seat > 0 })
}

type looseSaid struct {
	device string
	nth    []int
}

func (s looseSaid) in(p *poolSetting) ([]lab.PoolDrive, error) {
	id, err := p.device(s.device)
	if err != nil {
		return nil, err
	}
	all := looseIn(p.lab, id)
	var list []lab.PoolDrive
	for _, n := range s.nth {
		if n < 1 || n > len(all) {
			d, _ := lab.Find[lab.Device](p.lab, id)
			return nil, fmt.Errorf("“%s” has %d drives in no bay, and no number %d", text.Short(d.Title()), len(all), n)
		}
		list = append(list, lab.PoolDrive{Part: all[n-1].ID})
	}
	return list, nil
}

type driveSaid string

func (s driveSaid) in(p *poolSetting) ([]lab.PoolDrive, error) {
	part, err := driveCalled(p.lab, string(s))
	if err != nil {
		return nil, err
	}
	return []lab.PoolDrive{asPoolDrive(part)}, nil
}

// asPoolDrive is a drive by its bay, or else by itself.
func asPoolDrive(p lab.Part) lab.PoolDrive {
	if p.Device != "" && p.Seat > 0 {
		return lab.PoolDrive{Device: p.Device, Bay: p.Seat}
	}
	return lab.PoolDrive{Part: p.ID}
}

type missingSaid int

func (n missingSaid) in(*poolSetting) ([]lab.PoolDrive, error) { return make([]lab.PoolDrive, n), nil }

type someSaid lab.SomeDrives

func (s someSaid) in(p *poolSetting) ([]lab.PoolDrive, error) {
	some := lab.SomeDrives(s)
	p.some = &some
	return nil, nil
}

type pickedSaid struct {
	count  int // 0 for all there are
	loose  bool
	bytes  *int64
	medium lab.Medium
	by     string // interface or recording
	said   string
}

func (s pickedSaid) in(p *poolSetting) ([]lab.PoolDrive, error) {
	var all, list []lab.PoolDrive
	for _, host := range p.pool.Hosts() {
		for _, part := range p.lab.PartsOf(host) {
			if part.Kind != lab.Drive || part.Medium == "tape" || part.Medium == "optical" {
				continue
			}
			all = append(all, asPoolDrive(part))
			switch {
			case s.loose && part.Seat > 0, s.medium != "" && part.Medium != s.medium, s.by != "" && part.Interface != s.by && part.Recording != s.by,
				s.bytes != nil && (part.SizeBytes == nil || *part.SizeBytes != *s.bytes), p.isTaken(part.ID):
			default:
				list = append(list, asPoolDrive(part))
			}
		}
	}
	d, _ := lab.Find[lab.Device](p.lab, p.pool.Device)
	switch {
	case len(all) == 0 && s.count > 0: // nobody wrote its drives down yet
		p.some = &lab.SomeDrives{Least: s.count, Most: s.count, LeastBytes: s.bytes, MostBytes: s.bytes}
		return nil, nil
	case len(list) == 0 || s.count > len(list):
		return nil, fmt.Errorf("“%s” has %d such drives that are in no pool, and “%s” wants more; write their bays, such as bay 1-4",
			text.Short(d.Title()), len(list), text.Short(s.said))
	case s.count > 0:
		list = list[:s.count]
	}
	for _, one := range list {
		part, _ := p.lab.DriveOf(one)
		p.taken[part.ID] = true
	}
	return list, nil
}

// in finds the drives that a set, or what is said further of one, names.
func (s setSaid) in(at setting) (any, error) {
	pool, _ := at.of.(lab.Pool)
	p := &poolSetting{setting: at, pool: pool}
	is := setIs{setSaid: s}
	for _, list := range []struct {
		from []drivesSaid
		to   *[]lab.PoolDrive
	}{{s.drives, &is.drives}, {s.parity, &is.parity}} {
		for _, said := range list.from {
			found, err := said.in(p)
			if err != nil {
				return nil, err
			}
			*list.to = append(*list.to, found...)
		}
	}
	is.some = p.some
	if p.some != nil && len(is.drives) > 0 {
		return nil, errors.New("write all drives of a set by their bays, or all of them by about how many they are")
	}
	return is, nil
}

// setIs is a set whose drives were found.
type setIs struct {
	setSaid
	drives, parity []lab.PoolDrive
	some           *lab.SomeDrives
}

// setsSaid are several, as a field of its own says them.
type setsSaid []setSaid

func (list setsSaid) in(at setting) (any, error) {
	var all []setIs
	pool, _ := at.of.(lab.Pool)
	for _, s := range list {
		is, err := s.in(at)
		if err != nil {
			return nil, err
		}
		all = append(all, is.(setIs))
		is.(setIs).add(&pool) // its drives are taken
		at.of = pool
	}
	return all, nil
}

// add puts what is said of sets into a pool.
func (s setIs) add(p *lab.Pool) {
	p.Sets = slices.Clone(p.Sets)
	if s.layout != "" || len(p.Sets) == 0 {
		p.Sets = append(p.Sets, lab.DriveSet{Layout: cmp.Or(s.layout, lab.Single)})
	}
	last := &p.Sets[len(p.Sets)-1]
	last.Drives = slices.Concat(last.Drives, s.drives)
	last.Parity = slices.Concat(last.Parity, s.parity)
	last.Copies, last.Writes = cmp.Or(s.copies, last.Copies), cmp.Or(s.writes, last.Writes)
	if s.some != nil {
		last.Some = s.some
	}
	if len(last.Parity) > 0 && last.Copies == len(last.Parity) {
		last.Copies = 0 // the drives say it
	}
}

// setText is a set as a line says it.
func setText(l *lab.Lab, pool lab.Pool, s lab.DriveSet) string {
	said := string(s.Layout)
	if s.Layout != lab.Mixed && s.Copies > 0 {
		said += " " + strconv.Itoa(s.Copies)
	}
	if s.Some != nil {
		said += " of " + someText(*s.Some)
	} else if len(s.Drives) > 0 {
		said += " of " + drivesText(l, pool, s.Drives)
	}
	if s.Layout == lab.Mixed && s.Copies > 0 {
		said += ", " + map[int]string{1: "one", 2: "two"}[s.Copies] + " redundancy"
	}
	if len(s.Parity) > 0 {
		said += ", parity " + drivesText(l, pool, s.Parity)
	}
	if s.Writes > 0 {
		said += ", writes with " + strconv.Itoa(s.Writes)
	}
	return said
}

func someText(s lab.SomeDrives) string {
	said := strconv.Itoa(s.Least)
	if s.Most > s.Least {
		said += " or " + strconv.Itoa(s.Most)
	}
	said += " unlisted"
	if s.LeastBytes == nil {
		return said
	}
	said += " of " + text.CapacityText(*s.LeastBytes)
	if s.MostBytes != nil && *s.MostBytes > *s.LeastBytes {
		said += " or " + text.CapacityText(*s.MostBytes)
	}
	return said
}

// drivesText are drives as a line names them: bay 1-3 + 5-6 + weasel bay 1.
func drivesText(l *lab.Lab, pool lab.Pool, list []lab.PoolDrive) string {
	var said []string
	last := lab.ID("-")
	for i := 0; i < len(list); {
		d, n := list[i], 1
		switch {
		case d.Missing():
			for i+n < len(list) && list[i+n].Missing() {
				n++
			}
			said = append(said, map[bool]string{true: "missing", false: strconv.Itoa(n) + " missing"}[n == 1])
			last = "-"
		case d.Part != "":
			said = append(said, partText(l, pool, d.Part))
			last = "-"
		default:
			for i+n < len(list) && list[i+n] == (lab.PoolDrive{Device: d.Device, Bay: d.Bay + n}) {
				n++
			}
			which := strconv.Itoa(d.Bay)
			if n > 1 {
				which += "-" + strconv.Itoa(d.Bay+n-1)
			}
			if d.Device != last {
				which = ofDevice(l, pool, d.Device) + "bay " + which
			}
			said = append(said, which)
			last = d.Device
		}
		i += n
	}
	return strings.Join(said, " + ")
}

// ofDevice names a device before its bays, but for the pool's own.
func ofDevice(l *lab.Lab, pool lab.Pool, device lab.ID) string {
	if device == pool.Device {
		return ""
	}
	r := refsOf(l)
	if title := r.titleOf(device); strings.Contains(title, " ") { // it may have an and in it
		return text.Quote(title) + strings.TrimPrefix(r.numbered(device), title) + " "
	}
	return r.name(device) + " "
}

func partText(l *lab.Lab, pool lab.Pool, id lab.ID) string {
	p, _ := lab.Find[lab.Part](l, id)
	if one, err := driveCalled(l, p.Name); err == nil && one.ID == id {
		return text.Quote(p.Name)
	}
	nth := slices.IndexFunc(looseIn(l, p.Device), func(o lab.Part) bool { return o.ID == id })
	return ofDevice(l, pool, p.Device) + "loose " + strconv.Itoa(nth+1)
}

// driveCalled is the only drive of a name.
func driveCalled(l *lab.Lab, name string) (lab.Part, error) {
	found := drivesByName(l)[lab.FoldName(name)]
	switch {
	case len(found) == 0 || name == "":
		return lab.Part{}, &noneError{func() string {
			return fmt.Sprintf("there is no drive called “%s”; a line such as spare drive %s: 8TB makes one", text.Short(name),
				text.Quote(text.Short(name)))
		}}
	case len(found) > 1:
		return lab.Part{}, fmt.Errorf("%d drives are called “%s”; write the bay of the one, or give it another name", len(found),
			text.Short(name))
	}
	return found[0], nil
}

type driveNames map[string][]lab.Part

func drivesByName(l *lab.Lab) driveNames {
	return lab.Derived(l, func(l *lab.Lab) driveNames {
		all := driveNames{}
		for p := range lab.Each[lab.Part](l) {
			if p.Kind == lab.Drive && p.Name != "" {
				all[lab.FoldName(p.Name)] = append(all[lab.FoldName(p.Name)], p)
			}
		}
		return all
	})
}
