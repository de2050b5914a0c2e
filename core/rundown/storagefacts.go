package rundown

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"levelstaff/core/lab"
	"levelstaff/core/text"
)

var (
	ofPool    = scope(lab.KindPool)
	ofDataset = scope(lab.KindDataset)
	ofShare   = scope(lab.KindShare)
	ofCopy    = scope(lab.KindCopy)
)

// storageFacts are what can be said of pools, of what is on them, and of copies.
func storageFacts() []fact {
	return slices.Concat(poolFacts(), datasetFacts(), shareFacts(), copyFacts(), []fact{
		flag(scope(lab.KindPlace), "outside the house", "outside", "outside the house", outsideWords,
			func(p *lab.Place) *bool { return &p.Outside }),
	})
}

var outsideWords = []string{"out of the house", "off site", "offsite", "elsewhere", "not in the house", "outside", "away"}

func poolFacts() []fact {
	drives := func(name, field string, words []string, example string, at func(*lab.Pool) *[]lab.PoolDrive) fact {
		show := func(l *lab.Lab, b box) string {
			if p := b.(*lab.Pool); len(*at(p)) > 0 {
				return drivesText(l, *p, *at(p))
			}
			return ""
		}
		return fact{of: ofPool, name: name, field: field, words: words, example: example, pattern: words[0] + " %s", maybe: true, show: show,
			read: func(tokens []text.Token, _ bool) (any, error) {
				if text.IsUnknown(tokens) || len(tokens) == 1 && tokens[0].Is("none") {
					return nil, nil
				}
				list, err := readDrives(tokens)
				return setSaid{drives: list}, err
			},
			set: func(b box, v any) {
				is, _ := v.(setIs)
				*at(b.(*lab.Pool)) = is.drives
			}}
	}
	used := measuredOn(ofPool, "used", "used_bytes", text.Capacity, []string{"used", "uses", "in use", "holds"}, "17.3TB used 2026-11-20",
		func(p *lab.Pool) (**int64, *lab.When) { return &p.UsedBytes, &p.UsedOn })
	used.file = "used"
	used.write = func(l *lab.Lab, b box) string {
		p := b.(*lab.Pool)
		if p.UsedBytes == nil {
			return ""
		}
		return strings.TrimSpace(sizeText(*p.UsedBytes) + " used " + string(p.UsedOn))
	}
	boots := flag(ofPool, "the device boots from it", "for_boot", "for boot", []string{"boots from it", "for booting", "system pool",
		"boot pool"},
		func(p *lab.Pool) *bool { return &p.Boot })
	boots.matches = func(tokens []text.Token) bool { return plainWords(tokens) == "boot" }
	isBoot := boots.read
	boots.read = func(tokens []text.Token, lax bool) (any, error) {
		if boots.matches(tokens) {
			return true, nil
		}
		return isBoot(tokens, lax)
	}
	return []fact{
		onHosts(),
		setsFact(),
		drives("hot spares", "spares", []string{"hot spare", "hot spares", "spare", "spares"}, "hot spare bay 7",
			func(p *lab.Pool) *[]lab.PoolDrive { return &p.Spares }),
		drives("cache", "cache", []string{"cache", "read cache"}, "cache bay 12", func(p *lab.Pool) *[]lab.PoolDrive { return &p.Cache }),
		drives("log", "log", []string{"log", "write log", "journal"}, "log bay 11", func(p *lab.Pool) *[]lab.PoolDrive { return &p.Log }),
		drives("boot drives", "boot", []string{"boot", "boots from"}, "boot bay 8", func(p *lab.Pool) *[]lab.PoolDrive { return &p.Boots }),
		boots,
		written(ofPool, "file system", "file_system", []string{"file system", "filesystem", "formatted"}, "file system xfs",
			func(p *lab.Pool) *string { return &p.FileSystem }, text.Quote).optional(),
		keepsBack(),
		used,
		growth(ofPool, func(p *lab.Pool) **int64 { return &p.Grows }),
		written(ofPool, "what it is for", "purpose", []string{"for"}, `for "the big disks"`, func(p *lab.Pool) *string { return &p.Purpose },
			text.Quote),
		remarks(ofPool, func(p *lab.Pool) *[]string { return &p.Remarks }),
		note(ofPool, func(p *lab.Pool) *string { return &p.Notes }),
	}
}

// setsFact are the sets of a pool: raid-z1 of bay 1-4.
func setsFact() fact {
	show := func(between string) func(*lab.Lab, box) string {
		return func(l *lab.Lab, b box) string {
			p := b.(*lab.Pool)
			var said []string
			for _, s := range p.Sets {
				said = append(said, setText(l, *p, s))
			}
			return strings.Join(said, between)
		}
	}
	return fact{of: ofPool, name: "sets", field: "sets", words: []string{"layout"}, example: "raid-z1 of bay 1-3 + 5-6", many: true,
		show: show("; "), write: show(", "), matches: looksLikeSet,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list setsSaid
			for piece := range text.Cut(tokens) {
				piece, times := timesSaid(piece)
				s, err := readSet(piece)
				if err != nil {
					return nil, err
				}
				for range times {
					list = append(list, s)
				}
			}
			if len(list) == 1 && (list[0].layout == "" || list[0].beside) {
				return moreOfSet{list[0]}, nil
			}
			return list, nil
		},
		set: func(b box, v any) {
			p := b.(*lab.Pool)
			switch is := v.(type) {
			case setIs:
				is.add(p)
			case []setIs:
				for _, s := range is {
					s.add(p)
				}
			default:
				p.Sets = nil
			}
		}}
}

// onHosts are the devices that a pool is on: on silo; on heron, otter, plover.
func onHosts() fact {
	show := func(l *lab.Lab, b box) string {
		var said []string
		for _, id := range b.(*lab.Pool).Hosts() {
			if id != "" {
				said = append(said, refsOf(l).name(id))
			}
		}
		return strings.Join(said, ", ")
	}
	f := devicesNamed(ofPool, "device", "device_id", []string{"on", "in", "across"}, "on silo", show)
	f.file = "device"
	f.set = func(b box, v any) {
		p := b.(*lab.Pool)
		list, _ := v.([]lab.ID)
		if list == nil {
			p.Device, p.With = "", nil
			return
		}
		for _, id := range list {
			switch {
			case p.Device == "":
				p.Device = id
			case p.Device != id && !slices.Contains(p.With, id):
				p.With = append(slices.Clone(p.With), id)
			}
		}
	}
	return f
}

// devicesNamed is a list of devices; what stands behind it between commas goes on in it.
func devicesNamed(of scope, name, field string, words []string, example string, show func(*lab.Lab, box) string) fact {
	return fact{of: of, name: name, field: field, words: words, example: example, pattern: words[0] + " %s", many: true, goesOn: true,
		names: lab.KindDevice, show: show,
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			var list severalNamed
			for piece := range text.Cut(withCommas(tokens)) {
				list = append(list, named{lab.KindDevice, calledIn(piece)})
			}
			if len(list) == 0 {
				return nil, fmt.Errorf("name the device, such as %s", example)
			}
			return list, nil
		}}
}

// measuredOn is an amount of data, and the day on which it was so: 17.3TB used 2026-11-20.
func measuredOn[R any](of scope, name, field string, in text.Dimension, words []string, example string, at func(*R) (**int64,
	*lab.When)) fact {
	fitting := func(tokens []text.Token) (bytes *int64, when lab.When, used bool) {
		q, n := text.ReadQuantity(tokens)
		if n == 0 || !isIn(in)(q) {
			return nil, "", false
		}
		v, err := q.In(in, false)
		if err != nil && !strings.Contains(err.Error(), "zero") {
			return nil, "", false
		}
		b := int64(v)
		rest := tokens[n:]
		for len(rest) > 0 && (slices.Contains(words, plainWords(rest[:1])) || slices.Contains([]string{"on", "as", "of", "in", "use"},
			rest[0].Plain)) {
			used, rest = used || slices.Contains(words, plainWords(rest[:1])) || rest[0].Is("use"), rest[1:]
		}
		if len(rest) > 0 {
			if when, err = readWhen(text.Joined(rest)); err != nil {
				return nil, "", false
			}
		}
		return &b, when, used
	}
	return fact{of: of, name: name, field: field, words: words, example: example, measured: in, maybe: true,
		matches: func(tokens []text.Token) bool {
			bytes, when, used := fitting(tokens)
			return bytes != nil && (used || when != "")
		},
		number: func(b box) *float64 {
			if v, _ := at(b.(*R)); *v != nil {
				n := float64(**v)
				return &n
			}
			return nil
		},
		read: func(tokens []text.Token, lax bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			bytes, when, _ := fitting(tokens)
			if bytes == nil {
				v, err := text.ReadMeasure(tokens, in, lax)
				if err != nil {
					return nil, err
				}
				n := int64(*v)
				bytes = &n
			}
			return sizeOn{bytes, when}, nil
		},
		set: func(b box, v any) {
			is, _ := v.(sizeOn)
			bytes, when := at(b.(*R))
			*bytes, *when = is.bytes, is.when
		},
		show: func(_ *lab.Lab, b box) string {
			bytes, when := at(b.(*R))
			if *bytes == nil {
				return ""
			}
			return strings.TrimSpace(amountText(in, **bytes) + " " + string(*when))
		}}
}

type sizeOn struct {
	bytes *int64
	when  lab.When
}

// sizeText is an amount of data that may be none.
func sizeText(bytes int64) string { return amountText(text.Capacity, bytes) }

func amountText(in text.Dimension, bytes int64) string {
	if bytes == 0 {
		return "0" + in.Base
	}
	return in.Text(float64(bytes))
}

// months has how many there are in a stretch of time; a month is 30.44 days.
var months = map[string]float64{"day": 1 / 30.44, "week": 7 / 30.44, "month": 1, "year": 12}

// growth is how much more there is each month: grows 0.4TB a month.
func growth[R any](of scope, at func(*R) **int64) fact {
	// of tells what a phrase says, without its word, of a month.
	read := func(tokens []text.Token) (bytes *int64, err error) {
		n := len(tokens)
		if n > 0 && (tokens[n-1].Is("monthly") || tokens[n-1].Is("daily") || tokens[n-1].Is("weekly") || tokens[n-1].Is("yearly")) {
			last := tokens[n-1]
			unit := map[string]string{"monthly": "month", "daily": "day", "weekly": "week", "yearly": "year"}[last.Plain]
			tokens = append(slices.Clone(tokens[:n-1]), asWord(last, "a"), asWord(last, unit))
			n++
		}
		if len(tokens) > 1 && tokens[0].Is("about") || len(tokens) > 1 && tokens[0].Is("by") {
			tokens, n = tokens[1:], n-1
		}
		q, used := text.ReadQuantity(tokens)
		if used == 0 || n != used+2 || !slices.Contains([]string{"a", "per", "each", "every"}, tokens[used].Plain) ||
			months[tokens[used+1].Plain] == 0 {
			return nil, errors.New("say how much in a month, such as grows 0.4TB a month")
		}
		if q.Unit == "gigs" {
			q.Unit = "gb"
		}
		v, err := q.In(text.Capacity, false)
		if err != nil {
			return nil, err
		}
		b := int64(math.Round(v / months[tokens[used+1].Plain]))
		return &b, nil
	}
	return fact{of: of, name: "grows", field: "grows_bytes", file: "grows", words: []string{"grows", "growing", "grows by", "growth"},
		example: "grows 0.4TB a month", pattern: "grows %s", measured: text.Capacity, maybe: true,
		matches: func(tokens []text.Token) bool { b, err := read(tokens); return b != nil && err == nil },
		number: func(b box) *float64 {
			if v := *at(b.(*R)); v != nil {
				n := float64(*v)
				return &n
			}
			return nil
		},
		read: func(tokens []text.Token, lax bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			if v, err := text.ReadMeasure(tokens, text.Capacity, false); lax && err == nil {
				n := int64(*v)
				return &n, nil
			}
			if plainWords(tokens) == "not" || plainWords(tokens) == "nothing" {
				return new(int64), nil
			}
			return read(tokens)
		},
		set: func(b box, v any) { *at(b.(*R)), _ = v.(*int64) },
		show: func(_ *lab.Lab, b box) string {
			if v := *at(b.(*R)); v != nil && *v == 0 {
				return "not"
			} else if v != nil {
				return text.CapacityText(*v) + " a month"
			}
			return ""
		}}
}

// keepsBack is what a file system keeps for itself.
func keepsBack() fact {
	f := wholeMeasure(ofPool, "kept back by the file system", "keeps_back_bytes", text.Capacity, []string{"keeps back", "keeps", "reserves"},
		"keeps back 1TB", "keeps back %s", func(p *lab.Pool) **int64 { return &p.KeepsBack }).optional()
	f.usual, f.file = "a 32nd in a RAID-Z pool", "keeps_back"
	return f
}

func datasetFacts() []fact {
	size := measuredOn(ofDataset, "size", "size_bytes", text.Capacity, []string{"size", "is"}, "6TB",
		func(d *lab.Dataset) (**int64, *lab.When) { return &d.Bytes, &d.SizeOn })
	size.bare, size.file = isIn(text.Capacity), "size"
	size.pattern = ""
	return []fact{
		liesOn(ofDataset, "location", "on", []string{"on", "in", "at"}, "on vault", func(d *lab.Dataset) **lab.Holder { return &d.On }),
		size,
		onDevice(ofDataset, "disk of", []string{"disk of", "disk for"},
			func(d *lab.Dataset) *lab.ID { return &d.Guest }).in("guest_id").optional(),
		worth(ofDataset, func(d *lab.Dataset) *lab.Worth { return &d.Worth }),
		growth(ofDataset, func(d *lab.Dataset) **int64 { return &d.Grows }),
		films(),
		written(ofDataset, "what it is", "purpose", []string{"for"}, `for "34 singers"`, func(d *lab.Dataset) *string { return &d.Purpose },
			text.Quote).
			optional(),
		remarks(ofDataset, func(d *lab.Dataset) *[]string { return &d.Remarks }),
		note(ofDataset, func(d *lab.Dataset) *string { return &d.Notes }),
	}
}

// worth is how much something matters: household, lab, toy.
func worth[R any](of scope, at func(*R) *lab.Worth) fact {
	f := choice(of, "worth", "worth", at, []option[lab.Worth]{
		{lab.Household, "household", []string{"for the household", "the household's", "matters", "must not be lost"}},
		{lab.ForLab, "lab", []string{"for the lab", "the lab's"}},
		{lab.Toy, "toy", []string{"toys", "a toy", "just a toy", "play", "no loss"}},
	})
	f.example = "household"
	return f.optional()
}

var bitRate = regexp.MustCompile(`^([0-9.,]+) ?m(?:ega)?(?:bits?|bps|b)?(?:/s)?$`)

// films are what cameras write: 6 cameras 5Mbit 24h, 30 days.
func films() fact {
	show := func(_ *lab.Lab, b box) string {
		r := b.(*lab.Dataset).Films
		if r == nil {
			return ""
		}
		var said []string
		if r.Cameras != nil {
			said = append(said, strconv.Itoa(*r.Cameras)+map[bool]string{true: " camera", false: " cameras"}[*r.Cameras == 1])
		} else {
			said = append(said, "cameras")
		}
		if r.Mbit != nil {
			said = append(said, text.Number(*r.Mbit)+"Mbit")
		}
		if r.Hours != nil {
			said = append(said, text.Number(*r.Hours)+"h")
		}
		if r.Days != nil {
			said = append(said, "keeps "+text.Number(*r.Days)+" days")
		}
		return strings.Join(said, " ")
	}
	return fact{of: ofDataset, name: "cameras", field: "films", example: "6 cameras 5Mbit 24h", maybe: true, show: show,
		matches: func(tokens []text.Token) bool { _, ok := readFilms(tokens); return ok },
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			r, ok := readFilms(tokens)
			if !ok {
				return nil, fmt.Errorf("“%s” does not say what cameras write; write it such as 6 cameras 5Mbit 24h", text.Short(text.Joined(tokens)))
			}
			return r, nil
		},
		many: true, adds: true,
		set: func(b box, v any) {
			d := b.(*lab.Dataset)
			is, ok := v.(lab.Recording)
			if !ok {
				d.Films = nil
				return
			}
			if was := d.Films; was != nil { // what is not said again stays
				if is.Cameras == nil {
					is.Cameras = was.Cameras
				}
				if is.Mbit == nil {
					is.Mbit = was.Mbit
				}
				if is.Hours == nil {
					is.Hours = was.Hours
				}
				if is.Days == nil {
					is.Days = was.Days
				}
			}
			d.Films = &is
		}}
}

// readFilms reads what cameras write, in any order, each figure with its word.
func readFilms(tokens []text.Token) (r lab.Recording, ok bool) {
	for i := 0; i < len(tokens); i++ {
		t := tokens[i]
		next := text.Token{}
		if i+1 < len(tokens) {
			next = tokens[i+1]
		}
		n, counted := countIn(t)
		isCamera := func(t text.Token) bool { return t.Is("camera") || t.Is("cameras") }
		q, used := text.ReadQuantity(tokens[i:])
		m := bitRate.FindStringSubmatch(t.Plain)
		if m == nil && next.Kind == text.Word {
			if m = bitRate.FindStringSubmatch(t.Plain + " " + next.Plain); m != nil {
				i++
			}
		}
		switch {
		case counted && isCamera(next):
			r.Cameras, ok = &n, true
			i++
		case isCamera(t):
			if ok = true; t.Is("camera") && r.Cameras == nil {
				one := 1
				r.Cameras = &one
			}
		case m != nil:
			v, err := strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
			if err != nil {
				return r, false
			}
			r.Mbit, ok = &v, true
		case used > 0 && (q.Unit == "days" || q.Unit == "day" || next.Is("days")):
			v, err := q.In(text.Dimension{Base: "days", Units: map[string]float64{"days": 1, "day": 1}}, true)
			if q.Unit != "days" && q.Unit != "day" {
				used = 2
			}
			if err != nil {
				return r, false
			}
			r.Days, ok = &v, true
			i += used - 1
		case used > 0 && (q.Unit == "h" || strings.HasPrefix(q.Unit, "hour")):
			v, err := q.In(text.Hours, false)
			if err != nil {
				return r, false
			}
			r.Hours, ok = &v, true
			i += used - 1
		case !slices.Contains([]string{"keeps", "keep", "kept", "of", "at", "each", "a", "all", "day", "the", "for", "from", "with", "about"},
			t.Plain):
			return r, false
		}
	}
	return r, ok
}

func shareFacts() []fact {
	of := reference(ofShare, lab.KindDataset, "dataset", "dataset_id", []string{"of"}, func(s *lab.NetworkShare) *lab.ID { return &s.Dataset })
	f := datasetNamed(of)
	to := devicesNamed(ofShare, "mounted by", "to_device_ids", []string{"to", "mounted by", "for", "used by"}, "to vesper, linnet",
		func(l *lab.Lab, b box) string {
			var said []string
			for _, id := range b.(*lab.NetworkShare).To {
				said = append(said, refsOf(l).name(id))
			}
			return strings.Join(said, ", ")
		})
	to.set = func(b box, v any) {
		s := b.(*lab.NetworkShare)
		list, _ := v.([]lab.ID)
		if list == nil {
			s.To = nil
		}
		for _, id := range list {
			if !slices.Contains(s.To, id) {
				s.To = append(slices.Clone(s.To), id)
			}
		}
	}
	over := oneWord(ofShare, "protocol", "protocol", "by", func(s *lab.NetworkShare) *lab.ShareProtocol { return &s.Over },
		lab.ShareProtocols())
	over.words = []string{"by", "over", "via"}
	over.phrases = append(over.phrases, "smb", "nfs", "afp", "iscsi", "webdav", "sftp", "s3")
	return []fact{f, over, to,
		choice(ofShare, "mounted by name or address", "mounted_by", func(s *lab.NetworkShare) *lab.Mounting { return &s.By },
			[]option[lab.Mounting]{
				{lab.ByName, "by name", []string{"mounted by name", "by its name"}},
				{lab.ByAddress, "by address", []string{"mounted by address", "by its address", "by ip"}},
			}).optional(),
		remarks(ofShare, func(s *lab.NetworkShare) *[]string { return &s.Remarks }),
		note(ofShare, func(s *lab.NetworkShare) *string { return &s.Notes }),
	}
}

func copyFacts() []fact {
	of := datasetNamed(reference(ofCopy, lab.KindDataset, "dataset", "dataset_id", []string{"of"},
		func(c *lab.Copy) *lab.ID { return &c.Dataset }))
	of.head, of.needed = true, `say of what it is a copy, such as copy of "choir scores" to silo/hold`
	of.takes = func(tokens []text.Token) int { return upTo(tokens, "to", "from") }
	plain := of.write
	of.write = func(l *lab.Lab, b box) string { return strings.TrimPrefix(plain(l, b), "of ") }
	from := behind(liesOn(ofCopy, "source", "from", []string{"from"}, "from silo/hold",
		func(c *lab.Copy) **lab.Holder { return &c.From }))
	to := liesOn(ofCopy, "target", "to", []string{"to"}, "to silo/hold", func(c *lab.Copy) **lab.Holder { return &c.To })
	to.needed = `say where it goes, such as copy of "choir scores" to silo/hold`
	to = behind(to)
	from.takes = func(tokens []text.Token) int {
		if len(tokens) < 2 || !tokens[0].Is("from") {
			return 0
		}
		return upTo(tokens, "to")
	}
	to.takes = func(tokens []text.Token) int {
		if len(tokens) < 2 || !tokens[0].Is("to") {
			return 0
		}
		return upTo(tokens, "")
	}
	tunnel := reference(ofCopy, lab.KindTunnel, "tunnel", "tunnel_id", []string{"via tunnel", "via", "through tunnel", "through"},
		func(c *lab.Copy) *lab.ID { return &c.Via }).optional()
	at := reference(ofCopy, lab.KindPlace, "place it is kept", "place_id", []string{"kept at", "lies at", "lies in", "kept in", "at"},
		func(c *lab.Copy) *lab.ID { return &c.At }).optional()
	tunnel.file, at.file = "tunnel", "kept_at"
	return []fact{of, from.optional(), to,
		every(),
		tally(ofCopy, "older states kept", "kept", []string{"kept", "keeps", "keep"}, "30 kept", "%s kept",
			func(c *lab.Copy) **int { return &c.Kept }).
			optional(),
		whenDone("last run", "last", []string{"last", "last run", "last ran", "ran", "last on", "last done"}, "last 2026-11-26",
			func(c *lab.Copy) *lab.When { return &c.Last }),
		whenDone("last restored", "restored", []string{"restored", "restore tried", "last restored", "restored on"}, "restored 2026-03-01",
			func(c *lab.Copy) *lab.When { return &c.Restored }),
		encryption(),
		flag(ofCopy, "by hand", "by_hand", "by hand", []string{"manual", "manually", "when i remember"},
			func(c *lab.Copy) *bool { return &c.ByHand }),
		flag(ofCopy, "kept outside the house", "outside", "outside the house", outsideWords, func(c *lab.Copy) *bool { return &c.Outside }),
		at, tunnel,
		remarks(ofCopy, func(c *lab.Copy) *[]string { return &c.Remarks }),
		note(ofCopy, func(c *lab.Copy) *string { return &c.Notes }),
	}
}

// whenDone is a day on which something was done.
func whenDone(name, field string, words []string, example string, at func(*lab.Copy) *lab.When) fact {
	f := day(ofCopy, name, field, words, example, at).under("").optional()
	f.phrases = []string{"never " + field}
	read := f.read
	f.read = func(tokens []text.Token, lax bool) (any, error) {
		if len(tokens) > 0 && tokens[0].Is("never") {
			return nil, nil // which goes without saying
		}
		return read(tokens, lax)
	}
	return f
}

// everyWords are hours between runs as one says them.
var everyWords = map[string]float64{"at once": 0, "continuously": 0, "continuous": 0, "live": 0, "at night": 24, "hourly": 1,
	"every hour": 1,
	"nightly":    24,
	"daily":      24, "every night": 24, "each night": 24, "every day": 24, "each day": 24, "once a day": 24, "twice a day": 12, "weekly": 168,
	"every week": 168, "once a week": 168, "monthly": perMonth, "every month": perMonth, "once a month": perMonth, "yearly": perYear,
	"every year": perYear, "once a year": perYear, "quarterly": 3 * perMonth}

// A month is 30.44 days, a year 365.25.
const (
	perMonth = 30.44 * 24
	perYear  = 365.25 * 24
)

var everyUnits = map[string]float64{"hour": 1, "day": 24, "night": 24, "week": 168, "month": perMonth, "year": perYear}

var weekdays = []string{"monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"}

// readEvery reads how often something is done: nightly, every 2 months, on Sundays.
func readEvery(tokens []text.Token) (hours float64, ok bool) {
	said := plainWords(tokens)
	if hours, ok := everyWords[said]; ok {
		return hours, true
	}
	n := len(tokens)
	if n == 0 || n > 4 || said == "" {
		return 0, false
	}
	if n == 1 && strings.HasSuffix(said, "s") && slices.Contains(weekdays, strings.TrimSuffix(said, "s")) {
		return 168, true
	}
	if n == 2 && (tokens[0].Is("on") || tokens[0].Is("every")) && slices.Contains(weekdays, strings.TrimSuffix(tokens[1].Plain, "s")) {
		return 168, true
	}
	if n < 2 || !tokens[0].Is("every") && !tokens[0].Is("each") {
		return 0, false
	}
	if q, used := text.ReadQuantity(tokens[1:]); used == n-1 && (q.Unit == "h" || everyUnits[strings.TrimSuffix(q.Unit, "s")] > 0) {
		v, err := q.In(text.Hours, false)
		return v, err == nil
	}
	unit := everyUnits[strings.TrimSuffix(tokens[n-1].Plain, "s")]
	if unit == 0 || n != 3 {
		return 0, false
	}
	if tokens[1].Is("other") || tokens[1].Is("second") {
		return 2 * unit, true
	}
	many, ok := countIn(tokens[1])
	return float64(many) * unit, ok
}

// everyIn reads how often something is done from the words that a phrase begins with:
// each night, of each night what's new.
func everyIn(tokens []text.Token) (hours float64, used int) {
	from := 0
	for from < len(tokens) && (tokens[from].Is("say") || tokens[from].Is("about") || tokens[from].Is("roughly")) {
		from++
	}
	for n := len(tokens); n > from; n-- {
		if h, ok := readEvery(tokens[from:n]); ok {
			return h, n
		}
	}
	return 0, 0
}

// EveryText is how often as a line says it.
func EveryText(hours float64) string {
	switch hours {
	case 0:
		return "at once"
	case 1:
		return "hourly"
	case 24:
		return "nightly"
	case 168:
		return "weekly"
	case perMonth:
		return "monthly"
	case perYear:
		return "yearly"
	}
	for _, u := range []struct {
		word  string
		hours float64
	}{{"years", perYear}, {"months", perMonth}, {"weeks", 168}, {"days", 24}} {
		if n := math.Round(hours / u.hours); n >= 2 && n*u.hours == hours {
			return "every " + text.Number(n) + " " + u.word
		}
	}
	return "every " + text.Number(hours) + "h"
}

// every is how often a copy is made.
func every() fact {
	at := func(b box) **float64 { return &b.(*lab.Copy).EveryH }
	return fact{of: ofCopy, name: "schedule", field: "every_h", file: "often", example: "nightly",
		matches: func(tokens []text.Token) bool { _, used := everyIn(tokens); return used > 0 },
		number:  func(b box) *float64 { return *at(b) },
		read: func(tokens []text.Token, _ bool) (any, error) {
			if text.IsUnknown(tokens) {
				return nil, nil
			}
			h, used := everyIn(tokens)
			switch {
			case used > 0 && used < len(tokens):
				return nil, &besidesError{value: &h, rest: tokens[used:], about: "the schedule", example: "nightly",
					reads: func([]text.Token) bool { return false }}
			case used == 0:
				return nil, fmt.Errorf("“%s” does not say how often; write nightly, weekly or every 2 months", text.Short(text.Joined(tokens)))
			}
			return &h, nil
		},
		set: func(b box, v any) { *at(b), _ = v.(*float64) },
		show: func(_ *lab.Lab, b box) string {
			if h := *at(b); h != nil {
				return EveryText(*h)
			}
			return ""
		}}
}

// encryption is whether a copy can be read without a key, and where that is.
func encryption() fact {
	at := func(b box) *lab.Copy { return b.(*lab.Copy) }
	show := func(_ *lab.Lab, b box) string {
		switch c := at(b); {
		case c.KeyAt != "":
			return "encrypted " + text.Quote(c.KeyAt)
		case c.Coded == lab.Plain:
			return "not encrypted"
		default:
			return string(c.Coded)
		}
	}
	return fact{of: ofCopy, name: "encryption", field: "encryption", example: `encrypted "key in the safe"`, maybe: true, show: show,
		matches: func(tokens []text.Token) bool {
			said := text.Plainly(tokens)
			return tokens[0].Is("encrypted") && len(tokens) <= 2 || said == "not encrypted" || said == "unencrypted" || said == "in plain"
		},
		read: func(tokens []text.Token, _ bool) (any, error) {
			switch said := text.Plainly(tokens); {
			case text.IsUnknown(tokens):
				return nil, nil
			case said == "not encrypted", said == "unencrypted", said == "in plain", said == "no":
				return lab.Copy{Coded: lab.Plain}, nil
			case tokens[0].Is("encrypted"), tokens[0].Is("yes"):
				return lab.Copy{Coded: lab.Encrypted, KeyAt: strings.TrimSpace(text.Joined(tokens[1:]))}, nil
			}
			return nil, fmt.Errorf("“%s” is not what can be said of encryption; write encrypted “where the key is”, or not encrypted",
				text.Short(text.Joined(tokens)))
		},
		set: func(b box, v any) {
			is, _ := v.(lab.Copy)
			at(b).Coded, at(b).KeyAt = is.Coded, is.KeyAt
		}}
}
